package diary

import (
	"fmt"
	"math"
	"time"

	"dunnock/internal/core/civil"
	"dunnock/internal/core/speed"
)

// InTrial is a series' place in a warm-up trial.
type InTrial struct {
	Trial string `json:"trial"`
	Arm   string `json:"arm"`  // A or B: the warm-up that came before
	Pair  int    `json:"pair"` // 1 and up
	Felt  int    `json:"felt"` // how fast it felt, 0 to 10, said before a number was seen
}

// Ways of a trial.
const (
	OnDays   = "days"   // the two of a pair on days of their own
	InHalves = "halves" // one day, 20 minutes between
)

// Trial compares two warm-ups on one golfer.
type Trial struct {
	ID        string
	AthleteID string
	A, B      string // what they are
	Way       string
	Seed      uint64 // drawn once
	CreatedAt time.Time
}

// Half is one series of a pair.
type Half struct {
	Series  string     `json:"series"`
	On      civil.Date `json:"on"`
	Felt    int        `json:"felt"`
	Swings  int        `json:"swings"` // that count, five of them are used
	Mps     float64    `json:"mps"`    // mean; 0 before there are five
	OffMm   *float64   `json:"offMm,omitempty"`
	CarryM  *float64   `json:"carryM,omitempty"`
	started time.Time
}

// Pair is one of each.
type Pair struct {
	Number  int    `json:"number"`
	First   string `json:"first"` // A or B
	A       *Half  `json:"a,omitempty"`
	B       *Half  `json:"b,omitempty"`
	Problem string `json:"problem,omitempty"` // why it does not count
}

// Next is what comes next in a trial.
type Next struct {
	Pair int    `json:"pair"`
	Arm  string `json:"arm"`
	Name string `json:"name"`
	Wait string `json:"wait,omitempty"` // why it is too early; empty where it may be done now
}

// TrialView is a trial with what it says so far.
type TrialView struct {
	ID     string        `json:"id"`
	A      string        `json:"a"`
	B      string        `json:"b"`
	Way    string        `json:"way"`
	Pairs  []Pair        `json:"pairs"`
	Next   Next          `json:"next"`
	Speed  *speed.Effect `json:"speed,omitempty"`
	Strike *speed.Effect `json:"strike,omitempty"`
	Carry  *speed.Effect `json:"carry,omitempty"`
	Felt   *speed.Effect `json:"felt,omitempty"`
	Words  string        `json:"words"`
}

// ViewTrial says where a trial stands at a time; typicalError is that of driver speed in
// m/s.
func ViewTrial(t *Trial, all []Series, ownDriver string, typicalError float64, now time.Time) *TrialView {
	v := &TrialView{ID: t.ID, A: t.A, B: t.B, Way: t.Way, Pairs: []Pair{}}
	last := 0
	for i := range all {
		if p := all[i].InTrial; p != nil && p.Trial == t.ID {
			last = max(last, p.Pair)
		}
	}
	order := speed.Order(t.Seed, last+2)
	v.Pairs = make([]Pair, last)
	for i := range v.Pairs {
		v.Pairs[i] = Pair{Number: i + 1, First: arm(order[i])}
	}
	for i := range all {
		s := &all[i]
		if s.InTrial == nil || s.InTrial.Trial != t.ID || s.InTrial.Pair < 1 {
			continue
		}
		p := &v.Pairs[s.InTrial.Pair-1]
		if h := halfOf(s, ownDriver); s.InTrial.Arm == "A" {
			p.A = h
		} else {
			p.B = h
		}
	}
	for i := range v.Pairs {
		v.Pairs[i].Problem = v.Pairs[i].problem(t.Way)
	}
	v.Next = v.next(t, order, now)
	v.effects(typicalError)
	return v
}

func arm(first bool) string {
	if first {
		return "A"
	}
	return "B"
}

func halfOf(s *Series, ownDriver string) *Half {
	h := &Half{Series: s.ID, On: s.Date, Felt: s.InTrial.Felt, started: s.CreatedAt}
	swings := speed.Of(s.Speeds(), DriverKey(ownDriver), false)
	if h.Swings = len(swings); h.Swings < speed.TrialSwings {
		return h
	}
	var off, carry []float64
	for _, x := range swings[:speed.TrialSwings] {
		h.Mps += x.ClubMps / speed.TrialSwings
		if x.Strike != nil {
			off = append(off, math.Hypot(x.Strike.ToeMm, x.Strike.HighMm))
		}
		if x.CarryM > 0 {
			carry = append(carry, x.CarryM)
		}
	}
	h.OffMm, h.CarryM = whole(off), whole(carry)
	return h
}

// whole is the mean where every swing has the number.
func whole(v []float64) *float64 {
	if len(v) < speed.TrialSwings {
		return nil
	}
	sum := 0.0
	for _, x := range v {
		sum += x / float64(len(v))
	}
	return &sum
}

func (p *Pair) complete() bool { return p.A != nil && p.B != nil && p.A.Mps > 0 && p.B.Mps > 0 }

// problem says why a pair does not count.
func (p *Pair) problem(way string) string {
	if !p.complete() {
		return ""
	}
	apart := p.A.started.Sub(p.B.started).Abs()
	clock := func(t time.Time) time.Duration {
		return time.Duration(t.Hour())*time.Hour + time.Duration(t.Minute())*time.Minute
	}
	switch {
	case way == InHalves && p.A.On != p.B.On:
		return "The halves are of two days."
	case way == InHalves && apart < speed.HalfMinutes*time.Minute:
		return fmt.Sprintf("Less than %d minutes lie between the halves.", speed.HalfMinutes)
	case way == OnDays && apart < speed.PairHours*time.Hour:
		return fmt.Sprintf("Less than %d hours lie between the two.", speed.PairHours)
	case way == OnDays && apart > speed.PairDays*24*time.Hour:
		return fmt.Sprintf("More than %d days lie between the two.", speed.PairDays)
	case way == OnDays:
		d := (clock(p.A.started.UTC()) - clock(p.B.started.UTC())).Abs()
		if min(d, 24*time.Hour-d) > speed.ClockHours*time.Hour {
			return fmt.Sprintf("They were not made at the same time of day, give or take %d hours.", speed.ClockHours)
		}
	}
	return ""
}

func (v *TrialView) next(t *Trial, order []bool, now time.Time) Next {
	n := Next{Pair: len(v.Pairs) + 1}
	n.Arm = arm(order[n.Pair-1])
	var before *Half
	if k := len(v.Pairs); k > 0 {
		p := &v.Pairs[k-1]
		switch {
		case p.A != nil && p.B != nil:
			before = p.A
			if p.B.started.After(p.A.started) {
				before = p.B
			}
		case p.A != nil:
			n.Pair, n.Arm, before = p.Number, "B", p.A
		case p.B != nil:
			n.Pair, n.Arm, before = p.Number, "A", p.B
		}
	}
	n.Name = t.A
	if n.Arm == "B" {
		n.Name = t.B
	}
	if before == nil {
		return n
	}
	wait := speed.PairHours * time.Hour
	if t.Way == InHalves && n.Pair == len(v.Pairs) {
		wait = speed.HalfMinutes * time.Minute
	}
	if left := wait - now.Sub(before.started); left > 0 {
		n.Wait = "too early by " + spanWords(left)
	}
	return n
}

func spanWords(d time.Duration) string {
	if d > 2*time.Hour {
		return fmt.Sprintf("%d hours", int(math.Ceil(d.Hours())))
	}
	return fmt.Sprintf("%d minutes", int(math.Ceil(d.Minutes())))
}

// effects are the differences A − B over the pairs that count.
func (v *TrialView) effects(typicalError float64) {
	var mps, off, carry, felt []float64
	for i := range v.Pairs {
		p := &v.Pairs[i]
		if !p.complete() || p.Problem != "" {
			continue
		}
		mps = append(mps, p.A.Mps-p.B.Mps)
		felt = append(felt, float64(p.A.Felt-p.B.Felt))
		if p.A.OffMm != nil && p.B.OffMm != nil {
			off = append(off, *p.A.OffMm-*p.B.OffMm)
		}
		if p.A.CarryM != nil && p.B.CarryM != nil {
			carry = append(carry, *p.A.CarryM-*p.B.CarryM)
		}
	}
	effect := func(d []float64, te float64) *speed.Effect {
		e, err := speed.EffectOf(d, te)
		if err != nil {
			return nil
		}
		return e
	}
	v.Speed, v.Strike, v.Carry, v.Felt = effect(mps, typicalError), effect(off, 0), effect(carry, 0), effect(felt, 0)
	v.Words = v.words()
}

func (v *TrialView) words() string {
	if v.Speed == nil {
		return "No pair is complete yet."
	}
	if v.Speed.Verdict == speed.Open {
		return v.Speed.Words
	}
	is := map[string]string{speed.FasterA: v.A + " was faster.", speed.FasterB: v.B + " was faster.", speed.NoClear: "No clear difference in speed."}[v.Speed.Verdict]
	switch {
	case v.Felt == nil:
	case v.Felt.Mean > 0.5:
		is += " " + v.A + " felt faster."
	case v.Felt.Mean < -0.5:
		is += " " + v.B + " felt faster."
	default:
		is += " They felt alike."
	}
	return is
}
