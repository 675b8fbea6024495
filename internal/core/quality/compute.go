package quality

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"dunnock/internal/core/athlete"
	"dunnock/internal/core/civil"
	"dunnock/internal/core/measure"
	"dunnock/internal/core/school"
	"dunnock/internal/core/unit"
)

// Compute makes the read of a golfer under a school, among a squad, which may
// be nil. It never fails: what cannot be said is said to be so.
func Compute(f *athlete.File, s *school.School, squad *Squad) *Read {
	c := newComputer(f, s)
	c.squad = squad
	r := &Read{
		AsOf: f.AsOf, School: s.ID, SchoolName: s.Name, Clearance: f.ClearanceOn(f.AsOf), Band: c.band,
		Level: f.Athlete.Level(), Tier: f.Athlete.Level().Tier(),
		Qualities: []Standing{}, Tests: make([]TestRead, 0, len(c.b.Tests())), Ranges: []RangeFinding{}, Accuracy: []Accuracy{}, Pain: []string{}, Next: []NextTest{}, Notes: []string{},
	}
	if len(c.screens) > 0 {
		r.ScreenDate = c.on
	}
	c.bodyMass(r)
	for i := range c.b.Tests() {
		r.Tests = append(r.Tests, c.test(r, &c.b.Tests()[i]))
	}
	c.qualities(r)
	c.ranges(r)
	c.speed(r)
	c.accuracy(r)
	c.maturity(r)
	c.mobile(r)
	c.pain(r)
	c.next(r)
	r.Headline = c.headline(r)
	return r
}

type computer struct {
	f        *athlete.File
	b        *measure.Battery
	school   *school.School
	squad    *Squad
	screens  []*indexed // newest first
	on       civil.Date // day of the newest screen
	age      int
	band     string
	mass     float64 // kg, 0 when unknown
	massDate civil.Date
}

func newComputer(f *athlete.File, s *school.School) *computer {
	c := &computer{f: f, b: f.Tests(), school: s, on: f.AsOf}
	for _, x := range f.SortedScreens() {
		c.screens = append(c.screens, index(x))
	}
	if len(c.screens) > 0 {
		c.on = c.screens[0].Date
	}
	c.age, c.band = f.Athlete.BirthDate.YearsOn(c.on), f.Athlete.Band(c.on)
	return c
}

// indexed is a screen whose trials are found by test and side.
type indexed struct {
	*athlete.Screen
	trials map[string]map[measure.Side][]measure.Trial
}

func index(s *athlete.Screen) *indexed {
	x := &indexed{s, make(map[string]map[measure.Side][]measure.Trial)}
	for i := range s.Trials {
		t := &s.Trials[i]
		sides := x.trials[t.Test]
		if sides == nil {
			sides = make(map[measure.Side][]measure.Trial, 2)
			x.trials[t.Test] = sides
		}
		if sides[t.Side] == nil {
			sides[t.Side] = make([]measure.Trial, 0, 3)
		}
		sides[t.Side] = append(sides[t.Side], *t)
	}
	return x
}

// of returns the trials of one test and side in the order of their numbers.
func (x *indexed) of(test string, side measure.Side) []measure.Trial {
	t := x.trials[test][side]
	byNumber := func(a, b measure.Trial) int { return a.Number - b.Number }
	if !slices.IsSortedFunc(t, byNumber) {
		slices.SortFunc(t, byNumber)
	}
	return t
}

// variant returns the way a result was got; a trial that names none was done
// the golfer's reference way.
func (c *computer) variant(t *measure.Test, v string) string {
	if v == "" {
		return c.f.Athlete.ReferenceVariant(c.on)(t)
	}
	return v
}

func (c *computer) bodyMass(r *Read) {
	t, _ := c.b.Find("mass")
	for _, s := range c.screens {
		if res, ok := t.ResultOf(s.of(t.ID, "")); ok && res.Valid > 0 {
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
func (c *computer) newest(test string) (*indexed, []*indexed) {
	for i, s := range c.screens {
		if len(s.trials[test]) > 0 {
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
		m, _ := c.b.Find(t.Test)
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
	t, _ := c.b.Find("driver-speed")
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
	c.pull(r)
	c.ladder(r)
	c.stretchInSwing(r)
	c.coldStart(r)
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

func (c *computer) pain(r *Read) {
	if len(c.screens) == 0 {
		return
	}
	for _, tr := range c.screens[0].Trials {
		if tr.Pain == 0 {
			continue
		}
		t, _ := c.b.Find(tr.Test)
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
