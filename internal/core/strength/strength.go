// Package strength predicts a one-repetition maximum from a set that left
// something in reserve, and prescribes loads back from it. Both ways run
// through the same printed percentage table, so a tested set comes back
// unchanged; the published prediction equations are shown beside it as a range.
package strength

import (
	"errors"
	"fmt"
	"math"
)

// ErrReps is returned for repetition numbers no prediction holds for.
var ErrReps = errors.New("strength: repetitions outside the range of the table")

// tablePercent is the printed "percent of the 1RM and repetitions allowed"
// table (Essentials of Strength Training and Conditioning, Baechle & Earle;
// Haff & Triplett). Index is repetitions; 0 is a gap in print, read by straight
// line.
var tablePercent = [...]float64{0, 100, 95, 93, 90, 87, 85, 83, 80, 77, 75, 70, 67, 0, 0, 65}

// MaxReps is the last row of the table; more repetitions are refused.
const MaxReps = 15

// Percent returns the share of the 1RM, in percent, that allows effective
// repetitions r (repetitions done plus repetitions in reserve). Between rows it
// reads a straight line (our convention); below 1 it is 100. It returns
// ErrReps above 15 or for a NaN.
func Percent(r float64) (float64, error) {
	switch {
	case math.IsNaN(r) || r > MaxReps:
		return 0, fmt.Errorf("%w: %g", ErrReps, r)
	case r <= 1:
		return 100, nil
	}
	lo := int(math.Floor(r))
	for tablePercent[lo] == 0 {
		lo--
	}
	hi := int(math.Ceil(r))
	if hi <= lo {
		return tablePercent[lo], nil
	}
	for tablePercent[hi] == 0 {
		hi++
	}
	f := (r - float64(lo)) / float64(hi-lo)
	return tablePercent[lo] + f*(tablePercent[hi]-tablePercent[lo]), nil
}

// PredictTable returns the 1RM in kg, unrounded, from a load in kg and the
// effective repetitions, by the printed table.
func PredictTable(loadKg, effectiveReps float64) (float64, error) {
	p, err := Percent(effectiveReps)
	if err != nil {
		return 0, err
	}
	return loadKg / (p / 100), nil
}

// Load returns the load in kg, unrounded, that a 1RM of oneRM kg allows for
// the given repetitions and reserve.
func Load(oneRM float64, reps, reserve float64) (float64, error) {
	p, err := Percent(reps + reserve)
	if err != nil {
		return 0, err
	}
	return oneRM * p / 100, nil
}

// Equation is a published prediction equation: 1RM = load · Factor(reps).
type Equation struct {
	Name   string
	Source string
	Factor func(r float64) float64
}

// Equations are the six equations compared in LeSuer et al. (1997), J Strength
// Cond Res 11(4):211-213 (citation from memory).
var Equations = []Equation{
	{"Epley", "Epley 1985", func(r float64) float64 { return 1 + r/30 }},
	{"Brzycki", "Brzycki 1993", func(r float64) float64 { return 36 / (37 - r) }},
	{"Lander", "Lander 1985", func(r float64) float64 { return 100 / (101.3 - 2.67123*r) }},
	{"Wathan", "Wathan 1994", func(r float64) float64 { return 100 / (48.8 + 53.8*math.Exp(-0.075*r)) }},
	{"Mayhew", "Mayhew et al. 1992", func(r float64) float64 { return 100 / (52.2 + 41.9*math.Exp(-0.055*r)) }},
	{"O'Conner", "O'Conner et al. 1989", func(r float64) float64 { return 1 + 0.025*r }},
}

// Predict returns the 1RM in kg by one equation. It returns ErrReps at 37
// repetitions and over, where two of the equations divide by zero. A true
// single is the 1RM itself (our own rule).
func (e Equation) Predict(loadKg, r float64) (float64, error) {
	if math.IsNaN(r) || r >= 37 {
		return 0, fmt.Errorf("%w: %g", ErrReps, r)
	}
	if r <= 1 {
		return loadKg, nil
	}
	return loadKg * e.Factor(r), nil
}

// Range returns the lowest and the highest 1RM in kg the six equations give.
func Range(loadKg, r float64) (lowest, highest float64, err error) {
	lowest = math.Inf(1)
	for _, e := range Equations {
		v, err := e.Predict(loadKg, r)
		if err != nil {
			return 0, 0, err
		}
		lowest, highest = math.Min(lowest, v), math.Max(highest, v)
	}
	return lowest, highest, nil
}

// Prediction is the 1RM of one equation.
type Prediction struct {
	Name   string  `json:"name"`
	Source string  `json:"source"`
	OneRM  float64 `json:"oneRM"` // kg
}

// MaxPredictReps is the most effective repetitions (done plus in reserve) a
// prediction is advised for: beyond it the equations part.
const MaxPredictReps = 10

// Compare returns the 1RM in kg by each of the six equations.
func Compare(loadKg, r float64) ([]Prediction, error) {
	out := make([]Prediction, len(Equations))
	for i, e := range Equations {
		v, err := e.Predict(loadKg, r)
		if err != nil {
			return nil, err
		}
		out[i] = Prediction{e.Name, e.Source, v}
	}
	return out, nil
}

// OutwardPull returns the force in N with which a club head of mass kg pulls
// outward at a speed in m/s on a path of radius m: m·v²/R.
func OutwardPull(headKg, speed, radius float64) float64 { return headKg * speed * speed / radius }

// RoundDown returns the largest load that can be put together from a bar and
// whole steps (both plates of a pair together), not above load and never below
// the bar. All in kg. A step of 0 or less rounds to 0.5 kg. A load within 10 g of
// the next step counts as that step, so that a 1RM kept to two decimals gives a
// tested load back.
func RoundDown(load, bar, step float64) float64 {
	if step <= 0 {
		step = 0.5
	}
	if load <= bar {
		return bar
	}
	n := math.Floor((load - bar + 0.01) / step)
	return math.Round((bar+n*step)*1000) / 1000
}
