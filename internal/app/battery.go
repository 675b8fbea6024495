package app

import (
	"context"
	"fmt"
	"slices"
	"strings"

	"dunnock/internal/core/athlete"
	"dunnock/internal/core/force"
	"dunnock/internal/core/measure"
	"dunnock/internal/core/retest"
	"dunnock/internal/core/school"
	"dunnock/internal/core/swing"
	"dunnock/internal/store"
)

// BatteryView is the practice's tests with what was changed about them.
type BatteryView struct {
	Revision   int
	Tests      []measure.Test
	Sets       []measure.Set // shipped ones first
	Confidence int
}

// Battery returns the practice's tests.
func (a *App) Battery(ctx context.Context, who *Actor) (*BatteryView, error) {
	b, err := a.battery(ctx, who)
	if err != nil {
		return nil, err
	}
	v := &BatteryView{Revision: b.revision, Tests: b.tests.Tests(), Sets: append(measure.Sets(), b.sets...), Confidence: b.own.Confidence}
	return v, nil
}

// BatteryEdit is one change of the battery; exactly one part is set.
type BatteryEdit struct {
	Test       *measure.Test // an own test, new or changed
	RemoveTest string        // id of an own test
	Targets    *TargetEdit   // of a shipped test
	Set        *measure.Set  // an own battery, new or changed by its id
	RemoveSet  string        // id of an own battery
	Confidence int           // %
}

// TargetEdit replaces the targets of a test; Reset brings back the shipped ones.
type TargetEdit struct {
	Test    string
	Targets []measure.Target
	Reset   bool
}

// EditBattery changes the practice's battery, if it still has the revision.
func (a *App) EditBattery(ctx context.Context, who *Actor, revision int, e BatteryEdit) (*BatteryView, error) {
	_, err := a.store.For(who.PracticeID).Together(ctx, func(p *store.Practice) error {
		// Held alone: no trial of a test is written while the test is removed.
		if err := p.ChangeBattery(ctx); err != nil {
			return err
		}
		c, err := p.Battery(ctx)
		if err != nil {
			return err
		}
		if c.Revision != revision {
			return store.ErrConflict
		}
		if err := a.apply(ctx, p, c, e); err != nil {
			return err
		}
		if problems := c.Validate(); len(problems) > 0 {
			out := &Error{Kind: Invalid, Text: problems[0].Text}
			for _, x := range problems {
				out.Fields = append(out.Fields, Field{Name: x.Path, Text: x.Text})
			}
			return out
		}
		return p.SaveBattery(ctx, revision, c)
	})
	if err != nil {
		return nil, words(err, "battery")
	}
	who, err = a.Actor(ctx, who.UserID)
	if err != nil {
		return nil, err
	}
	return a.Battery(ctx, who)
}

func (a *App) apply(ctx context.Context, p *store.Practice, c *store.BatteryChanges, e BatteryEdit) error {
	switch {
	case e.Test != nil:
		return putTest(c, *e.Test)
	case e.RemoveTest != "":
		used, err := p.UsesTest(ctx, e.RemoveTest)
		if err != nil {
			return err
		}
		if used {
			return &Error{Kind: Refused, Text: "There are results of this test: removing it would lose them. Leave it out of your batteries instead."}
		}
		n := len(c.Own)
		c.Own = slices.DeleteFunc(c.Own, func(t measure.Test) bool { return t.ID == e.RemoveTest })
		if len(c.Own) == n {
			return words(store.ErrNotFound, "test")
		}
	case e.Targets != nil:
		if _, ok := measure.Shipped().Find(e.Targets.Test); !ok {
			return invalid("targets.test", "There is no test %q among those we ship.", e.Targets.Test)
		}
		if c.Targets == nil {
			c.Targets = map[string][]measure.Target{}
		}
		if t, _ := measure.Shipped().Find(e.Targets.Test); t.Window != "" {
			return moveEdge(ctx, p, c, t, e.Targets)
		}
		if e.Targets.Reset {
			delete(c.Targets, e.Targets.Test)
		} else {
			c.Targets[e.Targets.Test] = e.Targets.Targets
		}
	case e.Set != nil:
		return putSet(c, *e.Set)
	case e.RemoveSet != "":
		n := len(c.Sets)
		c.Sets = slices.DeleteFunc(c.Sets, func(s measure.Set) bool { return s.ID == e.RemoveSet })
		if len(c.Sets) == n {
			return words(store.ErrNotFound, "battery")
		}
	case e.Confidence != 0:
		c.Confidence = e.Confidence
	default:
		return invalid("", "Say what to change.")
	}
	return nil
}

// putTest adds an own test, or changes the one with its id. What was typed in it
// decides what may still change.
func putTest(c *store.BatteryChanges, t measure.Test) error {
	t.Own = true
	if t.Source == "" {
		t.Source = "own test of this practice"
	}
	if i := slices.IndexFunc(c.Own, func(x measure.Test) bool { return x.ID == t.ID && t.ID != "" }); i >= 0 {
		old := c.Own[i]
		if old.Unit != t.Unit || old.Kind != t.Kind || old.Trials > t.Trials {
			return &Error{
				Kind: Refused,
				Text: "Unit and sides of a test stay as they are, and it keeps at least its trials: results would lose their meaning. Make a new test.",
			}
		}
		c.Own[i] = t
		return nil
	}
	t.ID = measure.OwnID(t.Name)
	for n := 2; slices.ContainsFunc(c.Own, func(x measure.Test) bool { return x.ID == t.ID }); n++ {
		t.ID = fmt.Sprintf("%.32s-%d", measure.OwnID(t.Name), n)
	}
	c.Own = append(c.Own, t)
	return nil
}

func putSet(c *store.BatteryChanges, s measure.Set) error {
	s.Own, s.Name = true, strings.TrimSpace(s.Name)
	tests := c.Apply()
	switch {
	case s.Name == "" || len(s.Name) > 60:
		return invalid("set.name", "A battery needs a name of 1 to 60 letters.")
	case len(s.Tests) == 0:
		return invalid("set.tests", "Choose at least one test.")
	}
	for i, id := range s.Tests {
		if t, ok := tests.Find(id); !ok || t.Rule == measure.Derived || slices.Index(s.Tests, id) != i {
			return invalid("set.tests", "%q is no test, or stands twice.", id)
		}
	}
	if i := slices.IndexFunc(c.Sets, func(x measure.Set) bool { return x.ID == s.ID && s.ID != "" }); i >= 0 {
		c.Sets[i] = s
		return nil
	}
	s.ID = measure.OwnID(s.Name)
	if slices.ContainsFunc(c.Sets, func(x measure.Set) bool { return x.ID == s.ID }) {
		return &Error{Kind: Conflict, Text: "There is a battery of this name already."}
	}
	c.Sets = append(c.Sets, s)
	return nil
}

// setOf returns the tests of a battery by its id, in order; "" is the usual one,
// and one that is gone falls back to it.
func (b battery) setOf(id string) []string {
	for _, s := range append(measure.Sets(), b.sets...) {
		if s.ID != id && !(id == "" && s.ID == measure.Sets()[0].ID) {
			continue
		}
		if len(s.Tests) > 0 {
			return s.Tests
		}
		var all []string
		for _, t := range b.tests.Tests() {
			if t.Rule != measure.Derived {
				all = append(all, t.ID)
			}
		}
		return all
	}
	return measure.Sets()[0].Tests
}

// moveEdge sets the inner edge of the window that a force test's target is.
func moveEdge(ctx context.Context, p *store.Practice, c *store.BatteryChanges, t *measure.Test, e *TargetEdit) error {
	windows, err := p.ForceWindows(ctx)
	if err != nil {
		return err
	}
	all := swing.Windows()
	shipped := all[slices.IndexFunc(all, func(w force.Window) bool { return w.Key == t.Window })]
	delete(c.Targets, t.ID)
	if e.Reset {
		delete(windows, t.Window)
	} else {
		if len(e.Targets) != 1 {
			return invalid("targets.targets", "%s has one target for everyone: the inner edge of its window.", t.Name)
		}
		limits, own := windows[t.Window]
		if !own {
			limits = [2]float64{shipped.Low, shipped.High}
		}
		limits[0] = e.Targets[0].Value
		if limits[0] >= limits[1] {
			return invalid("targets.targets", "%s: the target is the inner edge of its window, below its upper limit of %g.", t.Name, limits[1])
		}
		windows[t.Window] = limits
		c.Changes.Edges(windows)
	}
	return p.SaveForceWindows(ctx, windows)
}

// Repeats returns what the practice's test-retest pairs say of each test.
func (a *App) Repeats(ctx context.Context, who *Actor) ([]retest.Test, error) {
	b, err := a.battery(ctx, who)
	return b.repeats, err
}

// schoolOf finds a school by id, "" for the golfer's own.
func (a *App) schoolOf(ctx context.Context, who *Actor, f *athlete.File, id string) (*school.School, error) {
	m, err := a.methodOf(ctx, who)
	if err != nil {
		return nil, err
	}
	if id == "" {
		return m.SchoolOf(f.School), nil
	}
	s, err := m.Schools.Find(id)
	if err != nil {
		return nil, invalid("school", "%v", err)
	}
	return s, nil
}
