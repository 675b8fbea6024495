package quality

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"dunnock/internal/core/athlete"
	"dunnock/internal/core/civil"
	"dunnock/internal/core/maturity"
	"dunnock/internal/core/measure"
	"dunnock/internal/core/school"
	"dunnock/internal/core/unit"
)

// Compute makes the read of a golfer under a school. It never fails: what
// cannot be said is said to be so.
func Compute(f *athlete.File, s *school.School) *Read {
	c := &computer{f: f, school: s, screens: f.SortedScreens()}
	on := f.AsOf
	if len(c.screens) > 0 {
		on = c.screens[0].Date
	}
	c.on, c.age, c.band = on, f.Athlete.BirthDate.YearsOn(on), f.Athlete.Band(on)
	r := &Read{
		AsOf: f.AsOf, School: s.ID, SchoolName: s.Name, Clearance: f.ClearanceOn(f.AsOf), Band: c.band,
		Level: f.Athlete.Level(), Tier: f.Athlete.Level().Tier(),
		Qualities: []Standing{}, Tests: make([]TestRead, 0, len(measure.Battery())), Ranges: []RangeFinding{}, Pain: []string{}, Next: []NextTest{}, Notes: []string{},
	}
	if len(c.screens) > 0 {
		r.ScreenDate = on
	}
	c.bodyMass(r)
	for i := range measure.Battery() {
		r.Tests = append(r.Tests, c.test(r, &measure.Battery()[i]))
	}
	c.qualities(r)
	c.ranges(r)
	c.speed(r)
	c.maturity(r)
	c.pain(r)
	c.next(r)
	r.Headline = c.headline(r)
	return r
}

type computer struct {
	f        *athlete.File
	school   *school.School
	screens  []*athlete.Screen // newest first
	on       civil.Date        // day of the newest screen
	age      int
	band     string
	mass     float64 // kg, 0 when unknown
	massDate civil.Date
	trials   []measure.Trial // scratch of trialsOf
}

// trialsOf returns the trials of one test and side. The slice is the computer's
// own and holds until the next call.
func (c *computer) trialsOf(s *athlete.Screen, test string, side measure.Side) []measure.Trial {
	c.trials = c.trials[:0]
	for i := range s.Trials {
		if s.Trials[i].Test == test && s.Trials[i].Side == side {
			c.trials = append(c.trials, s.Trials[i])
		}
	}
	return c.trials
}

func (c *computer) bodyMass(r *Read) {
	t, _ := measure.Find("mass")
	for _, s := range c.screens {
		if res, ok := t.ResultOf(c.trialsOf(s, t.ID, "")); ok && res.Valid > 0 {
			c.mass, c.massDate = res.Value, s.Date
			if s.Date != c.on {
				r.Notes = append(r.Notes, fmt.Sprintf("Body mass %s kg is from %s: weigh again.", unit.Text(res.Value, 1), s.Date))
			}
			return
		}
	}
}

// newest returns the newest screen that holds the test at all, and the ones
// before it.
func (c *computer) newest(test string) (*athlete.Screen, []*athlete.Screen) {
	for i, s := range c.screens {
		if slices.ContainsFunc(s.Trials, func(t measure.Trial) bool { return t.Test == test }) {
			return s, c.screens[i+1:]
		}
	}
	return nil, nil
}

func ptr(v float64) *float64 { return &v }

func (c *computer) quantity(t *measure.Test, v float64) string {
	return c.f.Units.Quantity(v, t.Unit, t.Decimals)
}

// sideName returns a side as read in a sentence.
func sideName(s measure.Side) string {
	switch s {
	case measure.Side(measure.Toward):
		return "toward the target"
	case measure.Side(measure.Away):
		return "away from the target"
	case measure.Side(measure.Playing), measure.Side(measure.Other):
		return string(s) + " side"
	}
	return string(s)
}

// ranges lists the joints that earn a range line: any side short by RangeGap,
// and, where the school ranks mobility first, every side outside its target
// band of half a spread.
func (c *computer) ranges(r *Read) {
	from, why := RangeGap, "any joint this far short earns a range line"
	if len(r.Qualities) > 0 && r.Qualities[0].ID == Mobility && r.Qualities[0].Status == Ranked && r.Qualities[0].Need > 0 {
		from, why = 0.5, "mobility leads the order, so every joint outside its target band earns a range line"
	}
	for i := range r.Tests {
		t := &r.Tests[i]
		m, _ := measure.Find(t.Test)
		if !m.Range || t.Status == Stale || t.Status == WasStopped {
			continue
		}
		for _, s := range t.Sides {
			if s.Gap == nil || *s.Gap < from {
				continue
			}
			r.Ranges = append(r.Ranges, RangeFinding{Test: t.Test, Side: s.Side, Region: m.Region, Gap: *s.Gap,
				Sentence: fmt.Sprintf("%s, %s: %s against %s, %s; %s.", t.Name, sideName(s.Side), c.quantity(m, *s.Result), c.quantity(m, *s.Target), gapWords(*s.Gap), why)})
		}
	}
	slices.SortStableFunc(r.Ranges, func(a, b RangeFinding) int {
		switch {
		case a.Gap > b.Gap:
			return -1
		case a.Gap < b.Gap:
			return 1
		}
		return 0
	})
}

func (r *Read) find(test string) *TestRead {
	for i := range r.Tests {
		if r.Tests[i].Test == test {
			return &r.Tests[i]
		}
	}
	return nil
}

// usable returns the single result of an unsided test that counts.
func (r *Read) usable(test string) *float64 {
	if t := r.find(test); t != nil && t.Status == Measured && len(t.Sides) == 1 {
		return t.Sides[0].Result
	}
	return nil
}

func (c *computer) speed(r *Read) {
	t, _ := measure.Find("driver-speed")
	sp := Speed{Driver: r.usable("driver-speed"), Cruise: r.usable("cruise-speed")}
	goal := c.f.Athlete.GoalSpeed
	switch {
	case sp.Driver == nil:
		sp.GoalSentence = "Driver speed was not measured: what holds it back is read from the gym numbers alone."
	case goal == 0:
		sp.GoalSentence = fmt.Sprintf("Driver speed %s, fully warm. No goal speed is set.", c.quantity(t, *sp.Driver))
	case *sp.Driver >= goal:
		sp.GoalSentence = fmt.Sprintf("Driver speed %s: the goal of %s is reached.", c.quantity(t, *sp.Driver), c.quantity(t, goal))
	default:
		sp.GoalSentence = fmt.Sprintf("Driver speed %s, goal %s: %s to go.", c.quantity(t, *sp.Driver), c.quantity(t, goal), c.quantity(t, goal-*sp.Driver))
	}
	if sp.Driver != nil && sp.Cruise != nil && *sp.Driver > 0 {
		share := unit.Round(*sp.Cruise / *sp.Driver, 3)
		sp.ShareOfCeiling, sp.Reserve = ptr(share), ptr(unit.Round(1-share, 3))
		sp.ShareSentence = fmt.Sprintf("The course swing uses %s%% of the ceiling (%s of %s): %s.", unit.Text(100*share, 1), c.quantity(t, *sp.Cruise), c.quantity(t, *sp.Driver), shareWords(share))
	} else {
		sp.ShareSentence = "Share of ceiling used: not measured, it needs driver speed and course swing speed."
	}
	if o := r.find("other-side-speed"); o != nil {
		sp.OtherSide = o.Difference
	}
	r.Speed = sp
}

// shareWords are our wording bands of the share of ceiling used.
func shareWords(share float64) string {
	switch {
	case share > 0.96:
		return "little in reserve, so more ceiling is the only way to more speed"
	case share > 0.92:
		return "some in reserve"
	case share > 0.88:
		return "comfortable"
	default:
		return "a large reserve that is not being used"
	}
}

func (c *computer) maturity(r *Read) {
	if !c.f.Athlete.Junior(c.on) {
		return
	}
	h, sit := r.usable("height"), r.usable("sitting-height")
	if h == nil || sit == nil || c.mass == 0 || c.f.Athlete.Sex == "" {
		r.Notes = append(r.Notes, "Growth spurt not estimated: it needs sex, height, sitting height and mass. The limits near the spurt are applied to be safe.")
		return
	}
	o, err := maturity.Estimate(c.f.Athlete.Sex, c.f.Athlete.BirthDate.DecimalYearsOn(c.on), *h, *sit, c.mass)
	if err != nil {
		r.Notes = append(r.Notes, "Growth spurt not estimated: the measures lie outside what the equations were made for.")
		return
	}
	m := &Maturity{Mirwald: unit.Round(o.Mirwald, 2), Moore: unit.Round(o.Moore, 2), NearSpurt: o.NearSpurt()}
	when := func(v float64) string {
		if v < 0 {
			return unit.Text(-v, 1) + " years before"
		}
		return unit.Text(v, 1) + " years after"
	}
	m.Sentence = fmt.Sprintf("Estimated %s (Mirwald) and %s (Moore) the fastest growth; an estimate, off by about half a year and more at the extremes.", when(o.Mirwald), when(o.Moore))
	if m.NearSpurt {
		m.Sentence += " Within a year of it: jumps, loads and landings are held down."
	}
	r.Maturity = m
}

func (c *computer) pain(r *Read) {
	if len(c.screens) == 0 {
		return
	}
	for _, tr := range c.screens[0].Trials {
		if tr.Pain == 0 {
			continue
		}
		t, _ := measure.Find(tr.Test)
		where := strings.ReplaceAll(tr.Region, "-", " ")
		if where == "" {
			where = "no region given"
		}
		side := ""
		if tr.Side != "" {
			side = ", " + sideName(tr.Side)
		}
		s := fmt.Sprintf("Pain %d of 10 (%s) in %s%s", tr.Pain, where, strings.ToLower(t.Name), side)
		if tr.Pain >= measure.PainStop {
			s += ": test stopped, work that loads the region is kept out, offer a referral."
		} else {
			s += ": noted; stop if it rises."
		}
		r.Pain = append(r.Pain, s)
	}
}

// next lists the missing tests by the weight they would add to the ranking.
func (c *computer) next(r *Read) {
	type candidate struct {
		NextTest
		worth float64
	}
	var list []candidate
	for i := range r.Tests {
		t := &r.Tests[i]
		m, _ := measure.Find(t.Test)
		if t.Status == Measured || t.Status == WasStopped {
			continue
		}
		switch {
		case t.Quality != "":
			w := m.Weight * c.school.Relevance[t.Quality]
			list = append(list, candidate{NextTest{t.Test, fmt.Sprintf("%s: it carries %s of %s.", t.Name, percent(m.Weight), Name(t.Quality))}, w})
		case t.Test == "driver-speed":
			list = append(list, candidate{NextTest{t.Test, "Driver speed: without it nobody can say whether the work paid."}, 0.95})
		case t.Test == "cruise-speed":
			list = append(list, candidate{NextTest{t.Test, "Course swing speed: with driver speed it gives the share of ceiling used."}, 0.3})
		case t.Test == "mass" && c.mass == 0:
			list = append(list, candidate{NextTest{t.Test, "Body mass: the lift is judged by it."}, 0.99})
		case t.Test == "sitting-height" && c.f.Athlete.Junior(c.on):
			list = append(list, candidate{NextTest{t.Test, "Sitting height: the growth spurt is estimated from it."}, 0.6})
		}
	}
	slices.SortStableFunc(list, func(a, b candidate) int {
		switch {
		case a.worth > b.worth:
			return -1
		case a.worth < b.worth:
			return 1
		}
		return 0
	})
	for _, l := range list {
		r.Next = append(r.Next, l.NextTest)
	}
}

func (c *computer) headline(r *Read) string {
	if r.Clearance.State == athlete.RedFlag {
		return r.Clearance.Text
	}
	if len(c.screens) == 0 {
		return "No screen yet: nothing is known about what holds speed back. Start a screen, or bring in a file."
	}
	top := r.Qualities[0]
	switch {
	case top.Status != Ranked:
		return "Too little was measured to name what holds speed back. " + r.nextWords()
	case top.Need <= 0 && !c.school.StrengthLeads, top.Need <= 0 && r.topNeed() <= 0:
		return "Nothing measured lies below its target: keep what there is, and look at skill, or at what was not measured."
	}
	return fmt.Sprintf("%s holds club speed back most. %s %s", upper(top.Name), top.Sentence, top.Why)
}

func (r *Read) topNeed() float64 {
	m := math.Inf(-1)
	for _, q := range r.Qualities {
		if q.Status == Ranked {
			m = math.Max(m, q.Need)
		}
	}
	return m
}

func (r *Read) nextWords() string {
	if len(r.Next) == 0 {
		return ""
	}
	return "Test next: " + r.Next[0].Sentence
}
