package speed

import (
	"errors"
	"fmt"
	"math"

	"gonum.org/v1/gonum/stat"
	"gonum.org/v1/gonum/stat/distuv"
)

// A trial of two warm-ups: swings a side of a pair, and how far apart the two may be.
const (
	TrialSwings = 5
	PairDays    = 14 // at most between the two of a pair,
	PairHours   = 48 // and at least
	ClockHours  = 2  // same time of day, give or take
	HalfMinutes = 20 // between the halves of one day
)

// Order says for each pair of a trial whether A comes first. The first is decided by a
// seed that was drawn and is kept, the next are reversed in turn.
func Order(seed uint64, pairs int) []bool {
	first := seed%2 == 0
	out := make([]bool, pairs)
	for i := range out {
		out[i] = first == (i%2 == 0)
	}
	return out
}

// Effect is the difference A − B of one measure over the pairs of a trial.
type Effect struct {
	Pairs    int       `json:"pairs"`
	Mean     float64   `json:"mean"`
	Interval *Interval `json:"interval,omitempty"` // 95%; nil for one pair
	Verdict  string    `json:"verdict"`            // A, B, none or open
	Words    string    `json:"words"`
}

// Verdicts of a trial.
const (
	FasterA = "A"
	FasterB = "B"
	NoClear = "none"
	Open    = "open"
)

// EffectOf is the difference over pairs, each the mean of A's swings less the mean of
// B's. From four pairs on it has an interval by t; with two or three, or no spread at
// all, by the measure's typical error, where it is known (0: it is not); with one there
// is no verdict.
func EffectOf(differences []float64, typicalError float64) (*Effect, error) {
	k := len(differences)
	if k == 0 {
		return nil, errors.New("speed: a trial has at least one pair")
	}
	out := &Effect{Pairs: k, Mean: mean(differences), Verdict: Open}
	s := 0.0
	if k > 1 {
		s = stat.StdDev(differences, nil)
	}
	half := 0.0
	switch {
	case k == 1:
		out.Words = "One pair says nothing: another is needed."
		return out, nil
	case k >= 4 && s > 0:
		half = distuv.StudentsT{Mu: 0, Sigma: 1, Nu: float64(k - 1)}.Quantile(0.975) * s / math.Sqrt(float64(k))
	case typicalError > 0:
		half = 1.96 * math.Sqrt2 * typicalError / math.Sqrt(float64(k))
	default:
		out.Words = fmt.Sprintf("%d pairs, and no typical error is known: four are needed.", k)
		return out, nil
	}
	out.Interval = &Interval{out.Mean - half, out.Mean + half}
	switch {
	case out.Interval.Low > 0:
		out.Verdict, out.Words = FasterA, "A is more."
	case out.Interval.High < 0:
		out.Verdict, out.Words = FasterB, "B is more."
	default:
		out.Verdict, out.Words = NoClear, "No clear difference."
	}
	return out, nil
}
