package athlete

import (
	"math"

	"dunnock/internal/core/civil"
	"dunnock/internal/core/measure"
)

// Past is what a golfer's test came to on an earlier day.
type Past struct {
	Value float64 // in the test's unit; of a lift the predicted 1RM in kg
	On    civil.Date
}

// LastBefore is what a test on one side came to the last time before a day, done
// in the given way; an empty variant is the golfer's reference one.
func (f *File) LastBefore(day civil.Date, t *measure.Test, side measure.Side, variant string) (last Past, ok bool) {
	way := func(v string, on civil.Date) string {
		if v == "" {
			return f.Athlete.ReferenceVariant(on)(t)
		}
		return v
	}
	for i := range f.Screens {
		s := &f.Screens[i]
		if !s.Date.Before(day) || ok && s.Date.Before(last.On) {
			continue
		}
		var trials []measure.Trial
		for _, tr := range s.Trials {
			if tr.Test == t.ID && tr.Side == side && way(tr.Variant, s.Date) == way(variant, day) {
				trials = append(trials, tr)
			}
		}
		if r, measured := t.ResultOf(trials); measured && r.Valid > 0 {
			last, ok = Past{r.Value, s.Date}, true
		}
	}
	return last, ok
}

// Far reports whether a trial of a day lies so far from the last result before it
// that a slip of the pen is likelier than the change: by six typical errors and a
// tenth of it. Common practice, no source. Spreads and ladders are not compared.
func (f *File) Far(day civil.Date, t *measure.Test, tr measure.Trial) (last Past, far bool) {
	if tr.Status != measure.Done || t.Rule == measure.Spread || t.Rule == measure.Ladder {
		return Past{}, false
	}
	now, _ := t.ResultOf([]measure.Trial{tr})
	last, ok := f.LastBefore(day, t, tr.Side, tr.Variant)
	if !ok || now.Valid == 0 {
		return Past{}, false
	}
	by := math.Abs(now.Value - last.Value)
	size := math.Max(math.Abs(now.Value), math.Abs(last.Value))
	te := t.TypicalError(size)
	// A squad's own error may be small by luck: ours is the least that is asked for.
	if ours, ok := measure.Shipped().Find(t.ID); ok {
		te = math.Max(te, ours.TypicalError(size))
	}
	return last, by > 6*te && by > math.Abs(last.Value)/10
}
