package quality

import (
	"cmp"
	"slices"

	"dunnock/internal/core/athlete"
	"dunnock/internal/core/measure"
)

// indexed is a screen whose trials are found by test and side. The trials stand
// in the order of the battery, sides and numbers.
type indexed struct {
	*athlete.Screen
	b      *measure.Battery
	trials []measure.Trial
	spans  []span // two for each test of the battery

	rows    int // spans that hold something
	results []measure.Result
}

// span is where the trials of a test and side stand, and what they come to once
// somebody asked.
type span struct {
	from, to int
	known    bool
	ok       bool
	result   int // place in results
}

// index finds the trials of a screen. It copies them only when they are not in
// order, which an export and the store see to.
func index(s *athlete.Screen, b *measure.Battery) *indexed {
	x := &indexed{Screen: s, b: b, trials: s.Trials, spans: make([]span, 2*len(b.Tests()))}
	if !x.fill() {
		rank := func(t *measure.Trial) int { return 2*b.Index(t.Test) + second(t.Side) }
		x.trials = slices.Clone(s.Trials)
		slices.SortStableFunc(x.trials, func(m, n measure.Trial) int {
			return cmp.Or(rank(&m)-rank(&n), m.Number-n.Number)
		})
		clear(x.spans)
		x.rows = 0
		x.fill()
	}
	return x
}

// fill sets the spans; false when the trials of a cell row do not stand
// together in the order of their numbers.
func (x *indexed) fill() bool {
	k, of := -1, ""
	for i := range x.trials {
		t := &x.trials[i]
		if t.Test != of {
			k, of = x.b.Index(t.Test), t.Test
		}
		if k < 0 {
			continue
		}
		p := &x.spans[2*k+second(t.Side)]
		switch {
		case p.to == 0:
			*p = span{from: i, to: i + 1}
			x.rows++
		case p.to != i || x.trials[i-1].Number > t.Number:
			return false
		default:
			p.to++
		}
	}
	return true
}

// second is 1 for the second side of a kind.
func second(s measure.Side) int {
	switch s {
	case measure.Side(measure.Trail), measure.Side(measure.Away), measure.Side(measure.Other):
		return 1
	}
	return 0
}

// of returns the trials of one test and side in the order of their numbers. They
// are the screen's own.
func (x *indexed) of(test string, side measure.Side) []measure.Trial {
	k := x.b.Index(test)
	if k < 0 {
		return nil
	}
	p := x.spans[2*k+second(side)]
	return x.trials[p.from:p.to]
}

// result is what the trials of a test and side come to.
func (x *indexed) result(t *measure.Test, side measure.Side) (measure.Result, bool) {
	p := &x.spans[2*t.Place()+second(side)]
	if p.to == 0 {
		return measure.Result{}, false
	}
	if !p.known {
		r, ok := t.ResultOf(x.trials[p.from:p.to])
		if x.results == nil {
			x.results = make([]measure.Result, 0, x.rows)
		}
		p.known, p.ok, p.result = true, ok, len(x.results)
		x.results = append(x.results, r)
	}
	return x.results[p.result], p.ok
}

// has reports whether the screen holds anything of a test of its battery.
func (x *indexed) has(t *measure.Test) bool {
	k := t.Place()
	return x.spans[2*k].to+x.spans[2*k+1].to > 0
}
