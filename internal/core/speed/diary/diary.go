// Package diary is a golfer's series of swings over the days: what each one comes to, and
// what they say together: the cold start and its cost, load against speed, both sides
// through time, the implements there are. It is pure: whoever keeps the series hands them
// in, newest first. The arithmetic of one series is core/speed's.
package diary

import (
	"dunnock/internal/core/athlete"
	"dunnock/internal/core/civil"
	"dunnock/internal/core/flight"
	"dunnock/internal/core/implement"
	"dunnock/internal/core/quality"
	"dunnock/internal/core/speed"
	"dunnock/internal/core/unit"
	"dunnock/internal/core/warmup"
	"fmt"
	"math"
	"slices"
	"strings"
	"time"
)

// Series is swings of one golfer measured one after the other.
type Series struct {
	ID        string
	AthleteID string
	Revision  int
	Date      civil.Date
	Kind      string // one of the series kinds
	Before    string // what came before it that day
	Raised    bool   // raise and joints came first
	Note      string
	Swings    []Swing
	InTrial   *InTrial // of a warm-up trial
	CreatedAt time.Time
	CreatedBy string
}

// The kinds of series.
const (
	TrainingKind  = "training"
	ColdStartKind = "cold-start"
	TrialKind     = "trial"
)

// Swing is a swing with the id that whoever wrote it gave it.
type Swing struct {
	ID string `json:"id"`
	speed.Swing
}

// Speeds are the swings without their ids.
func (s *Series) Speeds() []speed.Swing {
	out := make([]speed.Swing, len(s.Swings))
	for i := range s.Swings {
		out[i] = s.Swings[i].Swing
	}
	return out
}

// ColdStart is what of a series a golfer's file holds; nil where no swing counts.
func (s *Series) ColdStart() *athlete.ColdStart {
	out := &athlete.ColdStart{On: s.Date, Before: s.Before, Raised: s.Raised}
	swings := s.Speeds()
	for i, m := range speed.Marks(swings, true) {
		if m == speed.Counts {
			out.Mps = append(out.Mps, swings[i].ClubMps)
		}
	}
	if len(out.Mps) == 0 {
		return nil
	}
	return out
}

// DueDays is after how many days a cold start is due again: eight weeks.
const DueDays = 56

// Page is everything a golfer's swings say.
type Page struct {
	Series    []*View    `json:"series"` // newest first
	ColdStart *ColdStart `json:"coldStart,omitempty"`
	// NoColdStart says why a cold start may not be done today; empty where it may. Raised
	// says that raise and joints come first for this golfer.
	NoColdStart string           `json:"noColdStart,omitempty"`
	Raised      bool             `json:"raised"`
	Profile     *speed.Profile   `json:"profile,omitempty"`
	OtherLine   *speed.Profile   `json:"otherProfile,omitempty"`
	NoProfile   string           `json:"noProfile,omitempty"`
	Share       *speed.Share     `json:"share,omitempty"`
	Sides       []SidePoint      `json:"sides"` // through time, oldest first
	Own         OwnedImplement   `json:"own"`
	Implements  []OwnedImplement `json:"implements"` // by mass
	Ladder      []implement.Rung `json:"ladder"`
	Trials      []*TrialView     `json:"trials"` // of warm-ups, oldest first
	Levers      []Lever          `json:"levers"` // of clubs whose balance point is known
	SmashLimit  float64          `json:"smashLimit"`
}

// View is a series with what it comes to.
type View struct {
	ID        string           `json:"id"`
	AthleteID string           `json:"athleteId"`
	Revision  int              `json:"revision"`
	Date      civil.Date       `json:"date"`
	Kind      string           `json:"kind"`
	Before    string           `json:"before"`
	Raised    bool             `json:"raised"`
	Note      string           `json:"note"`
	CreatedAt time.Time        `json:"createdAt"`
	CreatedBy string           `json:"createdBy"`
	Swings    []Swing          `json:"swings"`
	Marks     []speed.Mark     `json:"marks"` // of each swing
	Summaries []speed.Summary  `json:"summaries"`
	Stops     []KeyStop        `json:"stops"`
	Cold      *speed.ColdStart `json:"cold,omitempty"` // of a cold start
	Reason    string           `json:"reason,omitempty"`
	Warnings  []string         `json:"warnings"`
	InTrial   *InTrial         `json:"inTrial,omitempty"`
}

// KeyStop is where a key stands against its stop line.
type KeyStop struct {
	speed.Key
	speed.Stop
	UsualMps float64 `json:"usualMps"` // median reference of the last four days with the key; 0: none
}

// ColdStart is the newest cold start and what it costs.
type ColdStart struct {
	On       civil.Date       `json:"on"`
	Before   string           `json:"before"`
	Raised   bool             `json:"raised"`
	Result   *speed.ColdStart `json:"result"`
	Mps      []float64        `json:"mps"`
	Lost     *speed.Lost      `json:"lost,omitempty"` // nil where nothing is lost
	Sentence string           `json:"sentence"`
	WarmMps  *float64         `json:"warmMps,omitempty"` // best three after the warm-up that day
	Again    string           `json:"again,omitempty"`   // what the warm-up gave back, in words
	Strike   string           `json:"strike,omitempty"`  // early against late
	Ladder   int              `json:"ladderSwings"`
	DueOn    civil.Date       `json:"dueOn"`
	Due      bool             `json:"due"`
}

// SidePoint is a day's best of both sides with the same implement.
type SidePoint struct {
	Date       civil.Date `json:"date"`
	Implement  string     `json:"implement"`
	PlayingMps float64    `json:"playingMps"`
	OtherMps   float64    `json:"otherMps"`
	GapPct     float64    `json:"gapPct"` // other below playing, in %
}

// OwnedImplement is an implement with its share of the own driver.
type OwnedImplement struct {
	implement.Implement
	Percent  float64       `json:"percent"`
	Use      implement.Use `json:"use"`
	Trains   bool          `json:"trains"`   // lies in the range for fast swings of training
	Practice bool          `json:"practice"` // the practice's; otherwise the golfer's
}

// Lever is the way of a club held out by one hand, from choked down to full length and on
// to a second club.
type Lever struct {
	Name  string                `json:"name"`
	Steps []implement.LeverStep `json:"steps"`
}

// leverClubs is how many clubs a lever climbs to.
const leverClubs = 2

func (s *Page) levers() {
	for _, i := range append([]OwnedImplement{s.Own}, s.Implements...) {
		if i.BalanceM <= implement.PivotM+implement.HingeChokeM {
			continue // not known, or too short to choke down on
		}
		if steps, err := implement.LeverSteps(i.Implement, implement.PivotM, implement.HingeChokeM, implement.LeanDeg, leverClubs); err == nil {
			s.Levers = append(s.Levers, Lever{i.Name, steps})
		}
	}
}

// PageOf says what a golfer's series, newest first, say together; practice is what the
// practice owns to swing.
func PageOf(f *athlete.File, all []Series, practice []implement.Implement) (*Page, error) {
	out := &Page{Series: make([]*View, len(all)), Sides: []SidePoint{}, Implements: []OwnedImplement{}, Ladder: []implement.Rung{}, Levers: []Lever{}, Trials: []*TrialView{}}
	for i := range all {
		out.Series[i] = ViewOf(&all[i], all[i+1:])
	}
	out.implements(f, practice)
	out.NoColdStart, out.Raised = MayStartCold(f)
	if err := out.coldStart(f, all); err != nil {
		return nil, err
	}
	out.lines(all)
	out.levers()
	var err error
	out.SmashLimit, err = flight.SmashLimit(flight.HeadKg, flight.Restitution)
	return out, err
}

// sentence makes an error's text a sentence.
func sentence(s string) string { return strings.ToUpper(s[:1]) + s[1:] + "." }

// ViewOf says what a series comes to; earlier are those before it, newest first.
func ViewOf(s *Series, earlier []Series) *View {
	cold := s.Kind == ColdStartKind
	swings := s.Speeds()
	v := &View{
		ID: s.ID, AthleteID: s.AthleteID, Revision: s.Revision, Date: s.Date, Kind: s.Kind, Before: s.Before, Raised: s.Raised, Note: s.Note, CreatedAt: s.CreatedAt.UTC(), CreatedBy: s.CreatedBy,
		Swings: s.Swings, Marks: speed.Marks(swings, cold), Summaries: speed.Summarise(swings, cold), InTrial: s.InTrial, Stops: []KeyStop{}, Warnings: []string{},
	}
	today := swings
	for _, e := range earlier {
		if e.Date == s.Date && e.Kind == s.Kind {
			today = append(e.Speeds(), today...) // the stop line is the day's
		}
	}
	for _, sum := range v.Summaries {
		if cold {
			break
		}
		before, usual := earlierOf(sum.Key, s.Date, earlier)
		v.Stops = append(v.Stops, KeyStop{sum.Key, speed.StopOf(speed.Of(today, sum.Key, false), speed.StopShare(before)), usual})
		var all []float64
		for i, x := range swings {
			if x.Key == sum.Key && x.Void == "" && v.Marks[i] != speed.Double {
				all = append(all, x.ClubMps)
			}
		}
		if speed.MixedUnits(all) {
			v.Warnings = append(v.Warnings, "The fastest is over 1.8 times the slowest: are some in another unit?")
		}
		if sum.OverLimit > 0 {
			v.Warnings = append(v.Warnings, fmt.Sprintf("%d strikes leave faster than mass and restitution allow: a misread ball or club speed.", sum.OverLimit))
		}
	}
	if cold {
		if c := s.ColdStart(); c != nil {
			v.Cold, _ = speed.ColdStartOf(c.Mps) // speeds were checked when they came in
			v.Reason = v.Cold.Reason()
		}
	}
	return v
}

// usualDays is of how many days with a key the usual reference is the median.
const usualDays = 4

// earlierOf are a key's swings of earlier days, and the median reference of the last
// four of them.
func earlierOf(k speed.Key, on civil.Date, earlier []Series) (mps []float64, usual float64) {
	byDay := map[civil.Date][]speed.Swing{}
	var days []civil.Date
	for _, e := range earlier {
		if !e.Date.Before(on) || e.Kind == ColdStartKind {
			continue
		}
		for _, x := range speed.Of(e.Speeds(), k, false) {
			if byDay[e.Date] == nil {
				days = append(days, e.Date)
			}
			byDay[e.Date] = append(byDay[e.Date], x)
			mps = append(mps, x.ClubMps)
		}
	}
	var refs []float64
	for _, d := range days[:min(usualDays, len(days))] {
		if r := speed.StopOf(byDay[d], 1).ReferenceMps; r > 0 {
			refs = append(refs, r)
		}
	}
	if len(refs) > 0 {
		slices.Sort(refs)
		usual = (refs[(len(refs)-1)/2] + refs[len(refs)/2]) / 2
	}
	return mps, usual
}

// coldRegions are those whose limits forbid a cold start.
var coldRegions = []string{"lumbar-spine", "thoracic-spine", "hip", "shoulder", "wrist-hand", "heart"}

// MayStartCold says why fast swings without a warm-up may not be made; raised says
// that raise and joints come first.
func MayStartCold(f *athlete.File) (why string, raised bool) {
	band := f.Athlete.Band(f.AsOf)
	raised = f.Athlete.Junior(f.AsOf) || band == athlete.BandSenior
	if band == athlete.BandChild {
		return "Under 13 there are no maximal tests.", raised
	}
	if c := f.ClearanceOn(f.AsOf); c.State != athlete.Clear {
		return "Not cleared: " + c.Text, raised
	}
	for _, l := range f.LimitsOn(f.AsOf) {
		if slices.Contains(coldRegions, l.Region) {
			return "A limit forbids it: " + l.Words() + ".", raised
		}
	}
	return "", raised
}

func (s *Page) implements(f *athlete.File, practice []implement.Implement) {
	p := warmup.PersonOf(f, &quality.Read{}, 0)
	owned := func(i implement.Implement, ofPractice bool) OwnedImplement {
		pct := i.Percent(p.Own.MassG)
		return OwnedImplement{i, unit.Round(pct, 1), implement.UseOf(pct), implement.Trains(pct), ofPractice}
	}
	s.Own = owned(p.Own, false)
	all := slices.Clone(p.Implements)
	for _, i := range p.Implements {
		s.Implements = append(s.Implements, owned(i, false))
	}
	for _, i := range practice {
		s.Implements = append(s.Implements, owned(i, true))
		all = append(all, i)
	}
	slices.SortStableFunc(s.Implements, func(a, b OwnedImplement) int { return int(math.Copysign(1, a.MassG-b.MassG)) })
	s.Ladder = implement.Ladder(p.Own, all)
}

// mass is that of an implement by its id, in g; false where it is not known.
func (s *Page) mass(id string) (float64, bool) {
	if id == s.Own.ID || id == implement.Usual.ID {
		return s.Own.MassG, true
	}
	for _, i := range s.Implements {
		if i.ID == id {
			return i.MassG, true
		}
	}
	return 0, false
}

func (s *Page) coldStart(f *athlete.File, all []Series) error {
	c := f.NewestColdStart()
	if c == nil {
		return nil
	}
	r, err := speed.ColdStartOf(c.Mps)
	if err != nil {
		return err
	}
	v := &ColdStart{On: c.On, Before: c.Before, Raised: c.Raised, Result: r, Mps: c.Mps, Ladder: r.LadderSwings(), DueOn: c.On.Add(DueDays)}
	v.Due = !f.AsOf.Before(v.DueOn)
	var shots []speed.Shot
	var struck []speed.Swing
	for i := range all {
		swings := all[i].Speeds()
		for k, m := range speed.Marks(swings, all[i].Kind == ColdStartKind) {
			if x := swings[k]; m == speed.Counts && x.Implement == s.Own.ID && x.Side == speed.Playing {
				if x.CarryM > 0 {
					shots = append(shots, speed.Shot{ClubMps: x.ClubMps, CarryM: x.CarryM})
				}
				if x.Intent == speed.Full {
					struck = append(struck, x)
				}
			}
		}
		if all[i].Kind == ColdStartKind && all[i].Date == c.On && v.Strike == "" {
			v.Strike = strikeWords(speed.Of(swings, DriverKey(s.Own.ID), true))
		}
	}
	v.warmAgain(f, all, s.Own.ID)
	if lost := r.LostMps(); lost > 0.05 {
		late := r.LateMps
		if r.Fit != nil {
			late = r.Fit.CeilingMps
		}
		if v.Lost, err = speed.CarryLost(late, lost, shots, speed.BallOf(struck)); err != nil {
			v.Lost = nil // too slow for a flight: the speeds say it
		}
	}
	v.Sentence = quality.ColdStartSentence(c, r, f.Units)
	s.ColdStart = v
	return nil
}

// warmAgain sets the swings after the warm-up of that day against the cold ones.
func (v *ColdStart) warmAgain(f *athlete.File, all []Series, own string) {
	var warm []speed.Swing
	for i := range all {
		if all[i].Date == v.On && all[i].Kind == TrainingKind {
			warm = append(warm, speed.Of(all[i].Speeds(), DriverKey(own), false)...)
		}
	}
	if len(warm) < 3 {
		return
	}
	best := speed.StopOf(warm, 1).ReferenceMps
	v.WarmMps = &best
	say := func(mps float64) string { return f.Units.Quantity(mps, unit.MetrePerSecond, 1) }
	v.Again = fmt.Sprintf("Warm again the same day: best three %s, %s more than the first cold swings.", say(best), say(best-v.Result.EarlyMps))
	if best < v.Result.EarlyMps {
		v.Again = fmt.Sprintf("Warm again the same day: best three %s, no more than the first cold swings.", say(best))
	}
}

// DriverKey is a swing of the own driver at full intent, from the playing side.
func DriverKey(own string) speed.Key {
	return speed.Key{Implement: own, Side: speed.Playing, Intent: speed.Full}
}

// strikeWords sets strike and direction of the first three against the last three.
func strikeWords(swings []speed.Swing) string {
	var seen []speed.Swing
	for _, x := range swings {
		if x.Strike != nil {
			seen = append(seen, x)
		}
	}
	n := min(3, len(seen)/2)
	if n < 2 {
		return ""
	}
	of := func(part []speed.Swing) (off, dir float64) {
		for _, x := range part {
			off += math.Hypot(x.Strike.ToeMm, x.Strike.HighMm) / float64(n)
			dir += math.Abs(x.Strike.DirectionDeg) / float64(n)
		}
		return off, dir
	}
	off1, dir1 := of(seen[:n])
	off2, dir2 := of(seen[len(seen)-n:])
	return fmt.Sprintf("Strike %.0f mm from the middle early, %.0f mm late; start %.1f° off line early, %.1f° late.", off1, off2, dir1, dir2)
}

// lines are the load–speed lines of both sides, the share of the ceiling, and both sides
// through time.
func (s *Page) lines(all []Series) {
	best := map[string]map[string]float64{speed.Playing: {}, speed.Other: {}}
	cruise, full := 0.0, 0.0
	type dayKey struct {
		on   civil.Date
		with string
	}
	days := map[dayKey]*SidePoint{}
	for i := range slices.Backward(all) {
		cold := all[i].Kind == ColdStartKind
		for _, sum := range speed.Summarise(all[i].Speeds(), cold) {
			if cold || sum.Drill != "" {
				continue
			}
			if sum.Intent == speed.Full {
				best[sum.Side][sum.Implement] = max(best[sum.Side][sum.Implement], sum.BestMps)
				k := dayKey{all[i].Date, sum.Implement}
				if days[k] == nil {
					days[k] = &SidePoint{Date: all[i].Date, Implement: s.nameOf(sum.Implement)}
				}
				if sum.Side == speed.Other {
					days[k].OtherMps = max(days[k].OtherMps, sum.BestMps)
				} else {
					days[k].PlayingMps = max(days[k].PlayingMps, sum.BestMps)
				}
			}
			if sum.Implement == s.Own.ID && sum.Side == speed.Playing {
				switch sum.Intent {
				case speed.Full:
					full = max(full, sum.BestMps)
				case speed.Cruise:
					cruise = sum.MeanMps // of the newest series
				}
			}
		}
	}
	for _, d := range days {
		if d.OtherMps > 0 && d.PlayingMps > 0 {
			d.GapPct = unit.Round(100*(1-d.OtherMps/d.PlayingMps), 1)
			s.Sides = append(s.Sides, *d)
		}
	}
	slices.SortFunc(s.Sides, func(a, b SidePoint) int {
		if a.Date != b.Date {
			return a.Date.Sub(b.Date)
		}
		return strings.Compare(a.Implement, b.Implement)
	})
	line := func(side string) (*speed.Profile, string) {
		var points []speed.Point
		masses := map[float64]bool{}
		for id, v := range best[side] {
			if m, ok := s.mass(id); ok && !masses[m] {
				masses[m] = true
				points = append(points, speed.Point{MassG: m, BestMps: v})
			}
		}
		p, err := speed.ProfileOf(points, s.Own.MassG)
		if err != nil {
			return nil, sentence(strings.TrimPrefix(err.Error(), "speed: "))
		}
		return p, ""
	}
	s.Profile, s.NoProfile = line(speed.Playing)
	s.OtherLine, _ = line(speed.Other)
	if cruise > 0 && full > 0 {
		share := speed.ShareOf(cruise, full)
		s.Share = &share
	}
}

func (s *Page) nameOf(id string) string {
	if id == s.Own.ID {
		return s.Own.Name
	}
	for _, i := range s.Implements {
		if i.ID == id {
			return i.Name
		}
	}
	return id
}
