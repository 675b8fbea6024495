package floor

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"dunnock/internal/core/athlete"
	"dunnock/internal/core/library"
	"dunnock/internal/core/programme"
	"dunnock/internal/core/programme/derive"
	"dunnock/internal/core/readiness"
	"dunnock/internal/core/strength"
)

// Change is one thing the easier version of a session does otherwise, and why.
type Change struct {
	Item programme.ID `json:"item"`
	Name string       `json:"name"`
	Was  string       `json:"was"`
	Now  string       `json:"now"` // "left out" where it is
	Why  string       `json:"why"`
}

// Lightened is a session as the day's answers propose it.
type Lightened struct {
	// Stop says why nothing is trained today; "" where something may be.
	Stop    string            `json:"stop,omitempty"`
	Session programme.Session `json:"-"`
	Changes []Change          `json:"changes"`
	// Swings says that they are left for a later day, too sore to swing.
	SwingsMove bool `json:"swingsMove,omitempty"`
	// Refer says that somebody should look at it.
	Refer string `json:"refer,omitempty"`
}

// Bar is what loads are put together from, in kg.
type Bar struct{ BarKg, StepKg float64 }

// How much the answers of a day take off (handbook, readiness): shares of sets, the intent
// swings are held to in %, and repetitions left more.
const (
	coldCut     = 1.0 / 3
	sleepCut    = 1.0 / 3
	soreCut     = 1.0 / 2
	heldIntent  = 85
	moreReserve = 1
	rungsDown   = 4 // looked down a ladder for something that is not maximal
	leastOfTwo  = 2 // of short sleep, some soreness and low eagerness
)

// Lighten proposes the easier version of a session for the answers of its day. The largest
// cut of an item counts; cuts are never multiplied; range work stays. The given session is
// left as it is.
func Lighten(s *programme.Session, exercises *library.Catalogue, a *readiness.Answers, kit []string, bar Bar) *Lightened {
	out := &Lightened{Session: *s, Changes: []Change{}, Stop: a.Stop()}
	out.Session.Items = nil
	if out.Stop != "" {
		return out
	}
	limits := a.Limits()
	if len(limits) > 0 {
		out.Refer = "Pain of 4 or more, pain that rises, or numbness: the region is spared from today on. Offer a referral note."
	}
	for i := range s.Items {
		it := s.Items[i]
		e, ok := exercises.Find(it.Exercise)
		if !ok {
			out.Session.Items = append(out.Session.Items, it)
			continue
		}
		l := lighter{it: it, e: e, a: a, exercises: exercises, kit: kit, limits: limits, bar: bar}
		now, why := l.made()
		out.note(&s.Items[i], e, now, why, exercises)
		if now == nil {
			out.SwingsMove = out.SwingsMove || e.DoseUnit == library.Swings && a.Soreness == readiness.SoreTooFar
			continue
		}
		if len(out.Session.Items) == 0 || i > 0 && !slices.ContainsFunc(out.Session.Items, func(x programme.Item) bool { return x.ID == s.Items[i-1].ID }) {
			now.Paired, now.Superset = false, false // what it was in turns with is left out
		}
		out.Session.Items = append(out.Session.Items, *now)
	}
	return out
}

// note says what became of an item, where something did.
func (l *Lightened) note(was *programme.Item, e *library.Exercise, now *programme.Item, why []string, exercises *library.Catalogue) {
	if len(why) == 0 {
		return
	}
	c := Change{Item: was.ID, Name: e.Name, Was: doseWords(was.Dose), Now: "left out", Why: strings.Join(why, "; ")}
	if now != nil {
		c.Now = doseWords(now.Dose)
		if now.Exercise != was.Exercise {
			if x, ok := exercises.Find(now.Exercise); ok {
				c.Now = x.Name + ", " + c.Now
			}
		}
	}
	if c.Now != c.Was {
		l.Changes = append(l.Changes, c)
	}
}

func doseWords(d programme.Dose) string {
	w, load := derive.DoseWords(d), derive.LoadWords(d)
	if load != "" {
		w += ", " + load
	}
	return w
}

// lighter is an item being made easier.
type lighter struct {
	it        programme.Item
	e         *library.Exercise
	a         *readiness.Answers
	exercises *library.Catalogue
	kit       []string
	limits    []athlete.Limit
	bar       Bar
	why       []string
}

func (l *lighter) because(format string, args ...any) {
	l.why = append(l.why, fmt.Sprintf(format, args...))
}

// made returns the item as it is to be done, nil where it is left out, and why.
func (l *lighter) made() (*programme.Item, []string) {
	swings := l.e.DoseUnit == library.Swings
	if limit, blocked := l.e.Blocked(l.limits); blocked {
		l.because("%s hurts: nothing that works it today", region(limit.Region))
		return nil, l.why
	}
	if swings && l.a.Soreness == readiness.SoreTooFar {
		l.because("too sore to swing: the swings move to another day")
		return nil, l.why
	}
	sound := l.e.SoundSide(l.limits)
	if sound != "" && l.it.Dose.Side == "" {
		l.it.Dose.Side, l.it.Dose.Weaker, l.it.Dose.WeakerSets, l.it.Dose.WeakerMore = sound, "", 0, 0
		l.because("the %s side only", sound)
	}
	if l.it.Slot == library.SlotRange {
		return l.out() // mobility stays
	}
	reserve := 0
	if p := l.mild(); p != "" {
		if l.e.Maximal && !swings && !l.calmer() {
			l.because("%s hurts a little: nothing maximal", region(p))
			return nil, l.why
		}
		reserve = moreReserve
		l.because("%s hurts a little: one more in reserve, nothing maximal", region(p))
		l.hold(swings)
	}
	if l.a.Sleep == readiness.SleepBad {
		reserve = moreReserve
	}
	l.cut(swings)
	if reserve > 0 && l.it.Dose.Reserve != nil {
		if l.a.Sleep == readiness.SleepBad {
			l.because("under five hours of sleep: one more in reserve")
		}
		l.reserve(reserve)
	}
	if l.a.Illness == readiness.Cold {
		l.hold(swings)
	}
	return l.out()
}

func (l *lighter) out() (*programme.Item, []string) { it := l.it; return &it, l.why }

// mild is a region the item works that hurts 1 to 3; "" where none does.
func (l *lighter) mild() string {
	for _, p := range l.a.Pain {
		if l.a.HurtsALittle(p.Region) && l.e.Loads(p.Region) {
			return p.Region
		}
	}
	return ""
}

// calmer puts a rung below that is not maximal in the item's place.
func (l *lighter) calmer() bool {
	at := l.e
	for range rungsDown {
		next, ok := l.exercises.Find(at.Easier)
		if !ok {
			return false
		}
		at = next
		if _, blocked := at.Blocked(l.limits); at.Maximal || blocked || !at.Fits(l.it.Slot) || len(at.MissingKit(l.kit)) > 0 || at.DoseUnit != l.e.DoseUnit {
			continue
		}
		l.e, l.it.Exercise = at, at.ID
		l.it.Dose.LoadKg, l.it.Dose.WarmUpSets = nil, nil
		return true
	}
	return false
}

// hold keeps swings from going beyond the intent of such a day.
func (l *lighter) hold(swings bool) {
	if swings && (l.it.Dose.IntentPercent == 0 || l.it.Dose.IntentPercent > heldIntent) {
		l.it.Dose.IntentPercent = heldIntent
		l.because("held to %d%%", heldIntent)
	}
}

// cut takes the largest of the day's cuts off the item.
func (l *lighter) cut(swings bool) {
	share, why := 0.0, ""
	take := func(s float64, because string) {
		if s > share {
			share, why = s, because
		}
	}
	if l.a.Illness == readiness.Cold {
		take(coldCut, "a cold: a third less")
	}
	if l.a.Sleep == readiness.SleepBad && (swings || l.e.DoseUnit == library.Contacts) {
		take(sleepCut, "under five hours of sleep: a third less of what is fast")
	}
	if l.a.Soreness == readiness.SoreStrong && l.sore() {
		take(soreCut, "strongly sore: half of it")
	}
	d := &l.it.Dose
	sets, reps := cutTo(d.Sets, d.Reps, share)
	if l.oneLess() && d.Sets > 1 && d.Sets-1 < sets {
		sets, reps, why = d.Sets-1, d.Reps, "short sleep, soreness, little eagerness: one set less"
	}
	if sets == d.Sets && reps == d.Reps {
		return
	}
	d.Sets, d.Reps = sets, reps
	d.WeakerSets = min(d.WeakerSets, max(0, sets-1))
	l.because("%s", why)
}

// sore reports whether the item works a region that is strongly sore: any where none is
// named, and only what is hard or lands.
func (l *lighter) sore() bool {
	hard := l.it.Slot.Strength() || l.it.Slot == library.SlotTrunk || l.it.Slot == library.SlotFinisher || l.e.DoseUnit == library.Contacts
	return hard && (len(l.a.SoreAt) == 0 || slices.ContainsFunc(l.a.SoreAt, l.e.Loads))
}

func (l *lighter) oneLess() bool {
	n := 0
	for _, b := range []bool{l.a.Sleep == readiness.SleepShort, l.a.Soreness == readiness.SoreSome, l.a.Eagerness == readiness.EagerLow} {
		if b {
			n++
		}
	}
	return n >= leastOfTwo
}

// cutTo is a dose with a share of it taken off: whole sets, and where there is one set
// alone its repetitions; never nothing.
func cutTo(sets, reps int, share float64) (int, int) {
	if share == 0 {
		return sets, reps
	}
	if sets == 1 {
		return 1, max(min(reps, 1), int(math.Round(float64(reps)*(1-share))))
	}
	return max(1, int(math.Round(float64(sets)*(1-share)))), reps
}

// reserve leaves more in reserve and lightens a load that is known.
func (l *lighter) reserve(more int) {
	d := &l.it.Dose
	r := *d.Reserve + more
	if d.LoadKg != nil && d.Reps > 0 {
		was, err1 := strength.Percent(float64(d.Reps + *d.Reserve))
		now, err2 := strength.Percent(float64(d.Reps + r))
		if err1 == nil && err2 == nil {
			least := 0.0
			if l.e.LoadBasis == "trap-bar-lift" {
				least = l.bar.BarKg
			}
			kg := min(*d.LoadKg, strength.RoundDown(*d.LoadKg*now/was, least, l.bar.StepKg))
			d.LoadKg = &kg
		}
	}
	d.Reserve = &r
}

func region(id string) string {
	s := strings.ReplaceAll(id, "-", " ")
	return strings.ToUpper(s[:1]) + s[1:]
}
