package quality

import (
	"fmt"
	"runtime"
	"sync"
	"sync/atomic"

	"dunnock/internal/core/athlete"
	"dunnock/internal/core/civil"
	"dunnock/internal/core/measure"
	"dunnock/internal/core/school"
	"dunnock/internal/core/speed"
	"dunnock/internal/core/unit"
)

// Compute makes the read of a golfer under a school, among a squad, which may
// be nil. It never fails: what cannot be said is said to be so.
func Compute(f *athlete.File, s *school.School, squad *Squad) *Read {
	c := newComputer(f, s)
	c.squad = squad
	return c.read()
}

// Tests reads a golfer's tests alone, in the order of the battery: what a sheet
// shows, for a fraction of a whole read.
func Tests(f *athlete.File, s *school.School) []TestRead {
	c := newComputer(f, s)
	return c.tests(&Read{AsOf: f.AsOf})
}

// All makes the reads of a practice's golfers among each other, each under the
// school of schools, on all processors.
func All(files []*athlete.File, schools []*school.School) []*Read {
	cs := make([]*computer, len(files))
	ns := make([]Results, len(files))
	each(len(files), func(i int) {
		cs[i] = newComputer(files[i], schools[i])
		ns[i] = cs[i].newestResults()
	})
	squad := Gather(ns)
	out := make([]*Read, len(files))
	each(len(files), func(i int) {
		cs[i].squad = squad
		out[i] = cs[i].read()
	})
	return out
}

// each calls do for 0 to n-1 on all processors.
func each(n int, do func(int)) {
	var next atomic.Int64
	var wg sync.WaitGroup
	for range min(n, runtime.GOMAXPROCS(0)) {
		wg.Go(func() {
			for i := int(next.Add(1)) - 1; i < n; i = int(next.Add(1)) - 1 {
				do(i)
			}
		})
	}
	wg.Wait()
}

func (c *computer) read() *Read {
	f, s := c.f, c.school
	r := &Read{
		AsOf: f.AsOf, School: s.ID, SchoolName: s.Name, Clearance: f.ClearanceOn(f.AsOf), Band: c.band,
		Level: f.Athlete.Level(), Tier: f.Athlete.Level().Tier(),
		Leaders: []string{}, Qualities: []Standing{}, Ranges: []RangeFinding{}, Accuracy: []Accuracy{}, Pain: []string{}, Next: []NextTest{}, Notes: []string{},
	}
	if len(c.screens) > 0 {
		r.ScreenDate = c.on
	}
	c.tests(r)
	c.maturity(r)
	c.ranges(r)
	c.qualities(r)
	c.speed(r)
	c.accuracy(r)
	c.mobile(r)
	c.pain(r)
	c.next(r)
	c.retests(r)
	r.Headline = c.headline(r)
	return r
}

// tests reads every test into r, and returns them.
func (c *computer) tests(r *Read) []TestRead {
	c.bodyMass(r)
	r.Tests = make([]TestRead, 0, len(c.b.Tests()))
	for i := range c.b.Tests() {
		r.Tests = append(r.Tests, c.test(r, &c.b.Tests()[i]))
	}
	return r.Tests
}

type computer struct {
	f        *athlete.File
	b        *measure.Battery
	school   *school.School
	squad    *Squad
	screens  []*indexed // newest first
	on       civil.Date // day of the newest screen
	age      int
	years    float64 // age with the part of the year that has passed
	band     string
	man      bool // of 18 and over: for reference variants
	slab     []float64
	sideSlab []SideRead
	words    []byte  // a sentence being written
	mass     float64 // kg, 0 when unknown
	massDate civil.Date
}

func newComputer(f *athlete.File, s *school.School) *computer {
	c := &computer{f: f, b: f.Tests(), school: s, on: f.AsOf}
	for _, x := range f.SortedScreens() {
		c.screens = append(c.screens, index(x, c.b))
	}
	if len(c.screens) > 0 {
		c.on = c.screens[0].Date
	}
	c.age, c.band = f.Athlete.BirthDate.YearsOn(c.on), f.Athlete.Band(c.on)
	c.years, c.man = f.Athlete.BirthDate.AgeOn(c.on), f.Athlete.Man(c.on)
	return c
}

// variant returns the way a result was got; a trial that names none was done
// the golfer's reference way.
func (c *computer) variant(t *measure.Test, v string) string {
	if v == "" {
		return t.ReferenceVariant(c.man)
	}
	return v
}

func (c *computer) bodyMass(r *Read) {
	t, _ := c.b.Find("mass")
	for _, s := range c.screens {
		if res, ok := s.result(t, ""); ok && res.Valid > 0 {
			c.mass, c.massDate = res.Value, s.Date
			if s.Date != c.on {
				r.note("Body mass %s kg is from %s: weigh again.", unit.Text(res.Value, 1), s.Date.Words())
			}
			return
		}
	}
}

// newest returns the newest screen that holds the test at all, and the ones
// before it.
func (c *computer) newest(t *measure.Test) (*indexed, []*indexed) {
	for i, s := range c.screens {
		if s.has(t) {
			return s, c.screens[i+1:]
		}
	}
	return nil, nil
}

// sides returns an empty list with room for n sides, out of a slab.
func (c *computer) sides(n int) []SideRead {
	if len(c.sideSlab) < n {
		c.sideSlab = make([]SideRead, 32)
	}
	out := c.sideSlab[:0:n]
	c.sideSlab = c.sideSlab[n:]
	return out
}

// ptr returns a pointer to v out of a slab: a read holds hundreds of numbers
// that may be missing.
func (c *computer) ptr(v float64) *float64 {
	if len(c.slab) == cap(c.slab) {
		c.slab = make([]float64, 0, 128)
	}
	c.slab = append(c.slab, v)
	return &c.slab[len(c.slab)-1]
}

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

// note adds a remark.
func (r *Read) note(format string, args ...any) {
	r.Notes = append(r.Notes, fmt.Sprintf(format, args...))
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
		used := speed.ShareOf(*sp.Cruise, *sp.Driver)
		sp.ShareOfCeiling, sp.Reserve = c.ptr(share), c.ptr(unit.Round(1-share, 3))
		sp.ShareSentence = fmt.Sprintf(
			"The course swing uses %s%% of the ceiling (%s of %s): %s.",
			unit.Text(100*share, 1),
			c.quantity(t, *sp.Cruise),
			c.quantity(t, *sp.Driver),
			used.Words,
		)
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
