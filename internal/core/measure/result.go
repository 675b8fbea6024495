package measure

import (
	"math"

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
	Outlier int     // number of the trial farthest from the median when it is more than 3 typical errors away, else 0
}

// ResultOf reduces the trials of one test and side. ok is false when there is
// no trial at all. A stopped trial leaves no result whatever the others say.
func (t *Test) ResultOf(trials []Trial) (r Result, ok bool) {
	var values []float64
	var numbers []int
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
				if len(values) == 0 || v > maxOf(values) {
					r.Lift = tr.Lift
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
		r.Valid, r.Lift = 0, nil
		return r, true
	}
	if r.Valid == 0 {
		r.Skipped = true
		return r, true
	}
	var sd float64
	r.Mean = values[0]
	if len(values) > 1 {
		r.Mean, sd = stat.MeanStdDev(values, nil)
		if r.Mean != 0 {
			r.CV = unit.Round(100*sd/math.Abs(r.Mean), 1)
		}
		r.Outlier = t.outlier(values, numbers)
	}
	r.Mean = unit.Round(r.Mean, t.Decimals+1)
	switch t.Rule {
	case Mean:
		r.Value = unit.Round(r.Mean, t.Decimals)
	default:
		r.Value = unit.Round(maxOf(values), t.Decimals)
	}
	return r, true
}

func maxOf(v []float64) float64 {
	m := v[0]
	for _, x := range v[1:] {
		m = math.Max(m, x)
	}
	return m
}

// outlier returns the number of the trial that lies more than three typical
// errors from the median of at least three trials, or 0. It is shown, never
// dropped (our own screen, no source).
func (t *Test) outlier(values []float64, numbers []int) int {
	if len(values) < 3 {
		return 0
	}
	s := append([]float64(nil), values...)
	for i := 1; i < len(s); i++ {
		for j := i; j > 0 && s[j] < s[j-1]; j-- {
			s[j], s[j-1] = s[j-1], s[j]
		}
	}
	med := s[len(s)/2]
	if len(s)%2 == 0 {
		med = (s[len(s)/2-1] + s[len(s)/2]) / 2
	}
	worst, at := 3*t.TypicalError(med), 0
	for i, v := range values {
		if d := math.Abs(v - med); d > worst {
			worst, at = d, numbers[i]
		}
	}
	return at
}
