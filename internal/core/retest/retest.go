// Package retest finds the test-retest pairs in a squad's screens and says what
// they tell about each test: its typical error, and whether there are enough
// pairs for it to take the place of the default.
package retest

import (
	"dunnock/internal/core/athlete"
	"dunnock/internal/core/civil"
	"dunnock/internal/core/measure"
	"dunnock/internal/core/reliability"
	"dunnock/internal/core/unit"
)

// MaxDays is how far apart two screens of one golfer may lie and still count as
// a test and its repeat: too short for training to show (our default).
const MaxDays = 10

// Pair is two results of one golfer, side and test, done the same way.
type Pair struct {
	Golfer     string       `json:"golfer"`
	Side       measure.Side `json:"side,omitempty"`
	FirstDate  civil.Date   `json:"firstDate"`
	SecondDate civil.Date   `json:"secondDate"`
	First      float64      `json:"first"`
	Second     float64      `json:"second"`
}

// Test is what the pairs of one test say.
type Test struct {
	Test     string    `json:"test"`
	Name     string    `json:"name"`
	Unit     unit.Unit `json:"unit"`
	Decimals int       `json:"decimals"`
	Pairs    []Pair    `json:"pairs"`
	Golfers  int       `json:"golfers"`
	// Repeats is nil below three pairs.
	Repeats *reliability.Repeats `json:"repeats,omitempty"`
	// Used is the typical error that judges differences of this test now, at its
	// grand mean; Default the one we ship, with its Source. FromSquad says that
	// Used comes from these pairs.
	Used       float64 `json:"used"`
	Default    float64 `json:"default"`
	Source     string  `json:"source"`
	FromSquad  bool    `json:"fromSquad"`
	Detectable float64 `json:"detectable"` // minimal detectable change with Used at the chosen confidence
}

// DaysApart reports whether two days are a test and its repeat.
func DaysApart(first, second civil.Date) bool {
	d := second.Sub(first)
	return d > 0 && d <= MaxDays
}

// Pairs are the newest pair of each test and side of one golfer, by test.
type Pairs map[string][]Pair

// PairsOf finds one golfer's pairs.
func PairsOf(f *athlete.File, b *measure.Battery) Pairs {
	out := Pairs{}
	for i := range b.Tests() {
		t := &b.Tests()[i]
		if t.Rule == measure.Derived {
			continue
		}
		for _, side := range t.Kind.Sides() {
			if p, ok := pair(f, t, side); ok {
				out[t.ID] = append(out[t.ID], p)
			}
		}
	}
	return out
}

// Of gathers, for every test, the newest pair of each golfer and side.
func Of(files []*athlete.File, b *measure.Battery) []Test {
	golfers := make([]Pairs, len(files))
	for i, f := range files {
		golfers[i] = PairsOf(f, b)
	}
	return Gather(golfers, b)
}

// Gather says what the pairs of golfers tell about each test.
func Gather(golfers []Pairs, b *measure.Battery) []Test {
	var out []Test
	for i := range b.Tests() {
		t := &b.Tests()[i]
		x := Test{Test: t.ID, Name: t.Name, Unit: t.Unit, Decimals: t.Decimals, Pairs: []Pair{}, Source: t.Source}
		var first, second []float64
		for _, g := range golfers {
			for _, p := range g[t.ID] {
				x.Pairs = append(x.Pairs, p)
				first, second = append(first, p.First), append(second, p.Second)
			}
			if len(g[t.ID]) > 0 {
				x.Golfers++
			}
		}
		if len(x.Pairs) == 0 {
			continue
		}
		mean := first[0]
		if r, err := reliability.FromPairs(first, second); err == nil {
			x.Repeats, mean = r, r.Mean
		}
		shipped := t
		if s, ok := measure.Shipped().Find(t.ID); ok {
			shipped = s
		}
		x.Default, x.Used = shipped.TypicalError(mean), shipped.TypicalError(mean)
		if x.Repeats != nil && len(x.Pairs) >= measure.MinPairs {
			x.Used, x.FromSquad = x.Repeats.TypicalError, true
		}
		x.Detectable = reliability.MDC(x.Used, b.Z())
		out = append(out, x)
	}
	return out
}

// Errors returns the typical errors that take the place of defaults.
func Errors(tests []Test, b *measure.Battery) map[string]measure.TestError {
	out := map[string]measure.TestError{}
	for _, x := range tests {
		if !x.FromSquad {
			continue
		}
		te := x.Repeats.TypicalError
		if t, ok := b.Find(x.Test); ok && t.ErrorShare {
			te = x.Repeats.CV / 100
		}
		out[x.Test] = measure.TestError{Value: unit.Round(te, 4), Pairs: len(x.Pairs)}
	}
	return out
}

func pair(f *athlete.File, t *measure.Test, side measure.Side) (Pair, bool) {
	var later *measure.Result
	var day civil.Date
	var intent string
	ref := f.Athlete.ReferenceVariant(f.AsOf)(t)
	for _, s := range f.SortedScreens() {
		var trials []measure.Trial
		for _, tr := range s.Trials {
			if tr.Test == t.ID && tr.Side == side {
				trials = append(trials, tr)
			}
		}
		res, ok := t.ResultOf(trials)
		if !ok || res.Valid == 0 {
			continue
		}
		if res.Variant == "" {
			res.Variant = ref
		}
		if later != nil && DaysApart(s.Date, day) && later.Variant == res.Variant && (t.Unit != unit.MetrePerSecond || intent == s.Intent) {
			return Pair{Golfer: f.Athlete.Name, Side: side, FirstDate: s.Date, SecondDate: day, First: res.Value, Second: later.Value}, true
		}
		later, day, intent = &res, s.Date, s.Intent
	}
	return Pair{}, false
}
