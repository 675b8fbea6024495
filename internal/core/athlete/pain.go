package athlete

import (
	"cmp"
	"fmt"
	"slices"
	"strings"

	"dunnock/internal/core/civil"
	"dunnock/internal/core/measure"
)

// Days after which something is asked for where a region still hurts (ours): a
// retest, built up from light; a referral note again; and how long no maximal work
// is done once the retest met less pain.
const (
	RetestDays   = 14
	ReferralDays = 28
	MildDays     = 14
)

// Pain is a region that hurt, and what stands because of it.
type Pain struct {
	Region string
	Side   string // lead, trail, or "" where the side is not known: both
	Test   string // id of the test that met it
	Pain   int    // the worst, 0 to 10
	Since  civil.Date
	// Tingling or numbness came with it: only a recorded clearance ends it.
	Tingling bool
	// Eased is the day a retest met pain of 1 to 3; zero while it still stops.
	Eased civil.Date

	load int // of the test on the region
}

// PainOn returns the regions that are limited on a day because of pain on tests:
// each until the same test, or one that loads it as hard, is done with pain below
// the stop and not rising, or the coach ended it with a reason. A screen that does
// not test the region changes nothing. The oldest come first.
func (f *File) PainOn(day civil.Date) []Pain {
	tests := f.Tests()
	var standing []Pain
	screens := f.SortedScreens()
	for _, s := range slices.Backward(screens) {
		met := painIn(s, tests)
		var still []Pain
		for _, p := range standing {
			if hurtAgain := slices.ContainsFunc(met, func(m Pain) bool { return m.Region == p.Region && m.Side == p.Side }); hurtAgain {
				continue // stands anew, below
			}
			tested, worst := p.retest(s, tests)
			switch {
			case !tested || p.Tingling:
				still = append(still, p)
			case worst > 0:
				p.Eased, p.Pain = s.Date, worst
				still = append(still, p)
			}
		}
		standing = append(still, met...)
	}
	return slices.DeleteFunc(standing, func(p Pain) bool { return p.ended(f, day) })
}

// painIn returns the regions a screen met pain of 4 or more in, or tingling, each
// side once, with the worst of it.
func painIn(s *Screen, tests *measure.Battery) []Pain {
	var out []Pain
	for i := range s.Trials {
		tr := &s.Trials[i]
		if tr.Region == "" || tr.Pain < measure.PainStop && !tr.Tingling {
			continue
		}
		p := Pain{Region: tr.Region, Test: tr.Test, Pain: tr.Pain, Since: s.Date, Tingling: tr.Tingling, load: 1}
		if tr.Side == measure.Side(measure.Lead) || tr.Side == measure.Side(measure.Trail) {
			p.Side = string(tr.Side)
		}
		if t, ok := tests.Find(tr.Test); ok {
			p.load = max(1, t.LoadOn(tr.Region))
		}
		at := slices.IndexFunc(out, func(o Pain) bool { return o.Region == p.Region && o.Side == p.Side })
		switch {
		case at < 0:
			out = append(out, p)
		case p.Pain > out[at].Pain:
			p.Tingling = p.Tingling || out[at].Tingling
			out[at] = p
		default:
			out[at].Tingling = out[at].Tingling || p.Tingling
		}
	}
	return out
}

// retest reports whether a screen tested what hurt as hard again, with pain below
// the stop that did not rise, and the worst pain it met in the region.
func (p Pain) retest(s *Screen, tests *measure.Battery) (done bool, worst int) {
	byTest := map[string][]measure.Trial{}
	for _, tr := range s.Trials {
		t, ok := tests.Find(tr.Test)
		if !ok || tr.Test != p.Test && t.LoadOn(p.Region) < p.load {
			continue
		}
		if t.Kind == measure.Limbs && p.Side != "" && string(tr.Side) != p.Side {
			continue
		}
		byTest[tr.Test+string(tr.Side)] = append(byTest[tr.Test+string(tr.Side)], tr)
	}
	for _, trials := range byTest {
		slices.SortFunc(trials, func(a, b measure.Trial) int { return cmp.Compare(a.Number, b.Number) })
		counts, first, last := false, 0, 0
		for i, tr := range trials {
			felt := 0
			if tr.Region == p.Region {
				felt = tr.Pain
			}
			if tr.Status == measure.Stopped || felt >= measure.PainStop {
				return false, 0
			}
			counts = counts || tr.Status == measure.Done
			if i == 0 {
				first = felt
			}
			last = felt
			worst = max(worst, felt)
		}
		done = done || counts && last <= first
	}
	return done, worst
}

// ended reports whether what stood has run out on a day, or was ended.
func (p Pain) ended(f *File, day civil.Date) bool {
	if p.Tingling {
		c := f.Clearance.Cleared
		return c != nil && !c.On.Before(p.Since)
	}
	if !p.Eased.IsZero() && day.Sub(p.Eased) > MildDays {
		return true
	}
	return slices.ContainsFunc(f.EndedLimits, func(e EndedLimit) bool {
		return e.Region == p.Region && (e.Side == p.Side || e.Side == "") && !e.On.Before(p.Since) && !e.On.After(day)
	})
}

// Limit is what must not be done because of it.
func (p Pain) Limit(tests *measure.Battery) Limit {
	name := p.Test
	if t, ok := tests.Find(p.Test); ok {
		name = strings.ToLower(t.Name)
	}
	l := Limit{Region: p.Region, Side: p.Side, Kind: NoneOfPattern, SetBy: SetByPain}
	switch {
	case p.Tingling:
		l.Note = fmt.Sprintf("tingling or numbness in %s on %s", name, p.Since.Words())
	case !p.Eased.IsZero():
		l.Kind, l.Until = NoMaximalEffort, p.Eased.Add(MildDays)
		l.Note = fmt.Sprintf("pain %d of 10 when %s was done again on %s", p.Pain, name, p.Eased.Words())
	default:
		l.Note = fmt.Sprintf("pain %d of 10 in %s on %s", p.Pain, name, p.Since.Words())
	}
	return l
}

// SetByPain is who set a limit that came from pain on a test; SetByPinch one from a
// hip that pinches.
const (
	SetByPain  = "pain on a test"
	SetByPinch = "a hip that pinches"
)

// Mild reports whether a limit is what is left of a pain that a retest met as 1 to 3: no
// maximal work for a while, and one more in reserve.
func (l Limit) Mild() bool {
	return l.SetBy == SetByPain && l.Kind == NoMaximalEffort && !l.Until.IsZero()
}

// LimitsOn returns the limits in force on a day: those recorded, those from pain
// on tests, and those of hips that pinch.
func (f *File) LimitsOn(day civil.Date) []Limit {
	var out []Limit
	for _, l := range f.Limits {
		if l.Until.IsZero() || !l.Until.Before(day) {
			out = append(out, l)
		}
	}
	for _, p := range f.PainOn(day) {
		out = append(out, p.Limit(f.Tests()))
	}
	for _, p := range f.Pinches {
		out = append(out, Limit{Region: p.Joint, Side: p.Side, Kind: NoEndRange, SetBy: SetByPinch})
	}
	return out
}
