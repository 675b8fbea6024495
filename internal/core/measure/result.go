package measure

import (
	"math"
	"slices"

	"gonum.org/v1/gonum/stat"

	"dunnock/internal/core/strength"
	"dunnock/internal/core/unit"
)

// Result is what a test's trials on one side come to.
type Result struct {
	Value   float64 // by the test's rule, rounded to its decimals; for a lift the predicted 1RM in kg
	Mean    float64 // mean of the valid trials
	CV      float64 // within-session coefficient of variation in %, 0 below two trials
	Valid   int     // number of trials with a value
	Stopped bool    // a trial was stopped: there is no result, and it is not a zero
	Skipped bool    // every trial there is was skipped
	Variant string  // protocol variant of the trials
	Lift    *Lift   // the set the prediction rests on
	GaveOut string  // what ended that set first
	FallOff float64 // loss from the first trial to the last in %, for tests that keep it
	SD      float64 // standard deviation of the valid trials, 0 below two
	Line    *Line   // speed against implement mass, for a ladder of three masses or more
	Outlier int     // number of the trial farthest from the median when it is more than 3 typical errors away, else 0
}

// Line is a straight line through the swings of a ladder.
type Line struct {
	AtZero float64 // speed extrapolated to no mass, m/s
	Slope  float64 // m/s per kg
	Masses int
}

// ResultOf reduces the trials of one test and side. ok is false when there is
// no trial at all. A stopped trial leaves no result whatever the others say.
func (t *Test) ResultOf(trials []Trial) (r Result, ok bool) {
	var buf [maxTrials]float64
	var at [maxTrials]int
	values, numbers := buf[:0], at[:0]
	for i := range trials {
		tr := &trials[i]
		if tr.Variant != "" {
			r.Variant = tr.Variant
		}
		switch tr.Status {
		case Stopped:
			r.Stopped = true
		case Done:
			v := tr.Value
			if t.Rule == OneRM {
				if tr.Lift == nil {
					continue
				}
				p, err := strength.PredictTable(tr.Lift.LoadKg, float64(tr.Lift.Reps)+tr.Lift.Reserve)
				if err != nil {
					continue
				}
				v = p
				if len(values) == 0 || v > slices.Max(values) {
					r.Lift, r.GaveOut = tr.Lift, tr.GaveOut
				}
			}
			values = append(values, v)
			numbers = append(numbers, tr.Number)
		}
	}
	if len(trials) == 0 {
		return r, false
	}
	r.Valid = len(values)
	if r.Stopped {
		r.Valid, r.Lift, r.GaveOut = 0, nil, ""
		return r, true
	}
	if r.Valid == 0 {
		r.Skipped = true
		return r, true
	}
	r.Mean = values[0]
	if len(values) > 1 {
		r.Mean, r.SD = stat.MeanStdDev(values, nil)
		if r.Mean != 0 && t.Rule != Spread {
			r.CV = unit.Round(100*r.SD/math.Abs(r.Mean), 1)
		}
		r.Outlier = t.outlier(values, numbers)
		if t.FallOff && values[0] > 0 {
			r.FallOff = unit.Round(100*(values[0]-values[len(values)-1])/values[0], 1)
		}
	}
	switch t.Rule {
	case Mean:
		r.Value = unit.Round(r.Mean, t.Decimals)
	case Spread:
		if r.Valid < 2 {
			// One shot has no spread: nothing to give as a result.
			r.Valid = 0
			return r, true
		}
		r.Value = unit.Round(r.SD, t.Decimals+1)
	case Ladder:
		r.Value, r.Line = unit.Round(slices.Max(values), t.Decimals), ladder(trials)
	default:
		best := values[0]
		for _, v := range values[1:] {
			best = t.Better(best, v)
		}
		r.Value = unit.Round(best, t.Decimals)
	}
	r.Mean = unit.Round(r.Mean, t.Decimals+1)
	return r, true
}

// maxTrials is more than the trials any test has.
const maxTrials = 16

// ladder fits speed against implement mass by least squares over every swing;
// nil below three masses.
func ladder(trials []Trial) *Line {
	var kg, speed []float64
	masses := map[float64]bool{}
	for i := range trials {
		if t := &trials[i]; t.Status == Done && t.MassG > 0 {
			kg, speed = append(kg, t.MassG/1000), append(speed, t.Value)
			masses[t.MassG] = true
		}
	}
	if len(masses) < 3 {
		return nil
	}
	a, b := stat.LinearRegression(kg, speed, nil, false)
	return &Line{AtZero: unit.Round(a, 2), Slope: unit.Round(b, 2), Masses: len(masses)}
}

// outlier returns the number of the trial that lies more than three typical
// errors from the median of at least three trials, or 0. It is shown, never
// dropped (our own screen, no source).
func (t *Test) outlier(values []float64, numbers []int) int {
	if len(values) < 3 {
		return 0
	}
	var buf [maxTrials]float64
	s := append(buf[:0], values...)
	slices.Sort(s)
	med := s[len(s)/2]
	if len(s)%2 == 0 {
		med = (s[len(s)/2-1] + s[len(s)/2]) / 2
	}
	if t.Rule == Spread {
		return 0 // shots scatter by nature
	}
	worst, at := 3*t.TypicalError(med), 0
	for i, v := range values {
		if d := math.Abs(v - med); d > worst {
			worst, at = d, numbers[i]
		}
	}
	return at
}
