package swing

import (
	"fmt"
	"math"
	"slices"

	"dunnock/internal/core/force"
)

// The phases swings are laid over each other by: takeaway to top, top to impact,
// each in 100 steps, and a fifth of a second after impact in 50.
const (
	stepsBack  = 100
	stepsDown  = 100
	stepsAfter = 50
	afterS     = 0.2
	// Points of a curve that was time-normalised.
	Points = stepsBack + stepsDown + stepsAfter + 1
)

// Normalised puts the efforts on a common time: point 0 is takeaway, 100 top, 200
// impact, the rest a fifth of a second after it. Efforts the recording does not
// hold are nil. Values beyond its end repeat the last one.
type Normalised struct{ Lateral, Rotational, Vertical []float64 }

// Normalise lays the curves of a fresh result over the common time. Vertical is
// in body weights, lateral too, rotational in N·m/kg, so that golfers and days
// compare.
func (r *Result) Normalise() Normalised {
	mass := r.BodyWeightN
	return Normalised{
		Lateral: r.laid(r.Curves.LateralN, mass), Rotational: r.laid(r.Curves.TurnNm, r.BodyMassKg), Vertical: r.laid(r.Curves.VerticalN, mass),
	}
}

func (r *Result) laid(y []float64, by float64) []float64 {
	if y == nil {
		return nil
	}
	out := make([]float64, Points)
	at := func(t float64) float64 {
		p := min(max(r.Filtered.Sample(t), 0), float64(len(y)-1))
		i := min(int(p), len(y)-2)
		return (y[i] + (y[i+1]-y[i])*(p-float64(i))) / by
	}
	for i := range out {
		switch {
		case i <= stepsBack:
			out[i] = at(r.TakeawayS + (r.TopS-r.TakeawayS)*float64(i)/stepsBack)
		case i <= stepsBack+stepsDown:
			out[i] = at(r.TopS + (r.ImpactS-r.TopS)*float64(i-stepsBack)/stepsDown)
		default:
			out[i] = at(r.ImpactS + afterS*float64(i-stepsBack-stepsDown)/stepsAfter)
		}
	}
	return out
}

// Band is several swings of one effort: mean and standard deviation of each
// point, and its coefficient of variation in percent.
type Band struct {
	Swings int       `json:"swings"`
	Mean   []float64 `json:"mean"`
	SD     []float64 `json:"sd"`
	CVPct  []float64 `json:"cvPct"` // of the mean at that point; 0 where that is near zero
	// Of the downswing.
	LargestCVPct float64 `json:"largestCvPct"`
	MeanCVPct    float64 `json:"meanCvPct"`
}

// BandOf sums curves up; nil ones are left out. It is nil when none is left.
func BandOf(curves [][]float64) *Band {
	var have [][]float64
	for _, c := range curves {
		if c != nil {
			have = append(have, c)
		}
	}
	if len(have) == 0 {
		return nil
	}
	b := &Band{Swings: len(have), Mean: make([]float64, Points), SD: make([]float64, Points), CVPct: make([]float64, Points)}
	v := make([]float64, len(have))
	largest := 0.0
	for i := range Points {
		for k, c := range have {
			v[k] = c[i]
		}
		b.Mean[i], b.SD[i] = force.MeanSD(v)
		largest = max(largest, math.Abs(b.Mean[i]))
	}
	for i := range Points {
		if m := math.Abs(b.Mean[i]); m > 0.05*largest {
			b.CVPct[i] = 100 * b.SD[i] / m
		}
	}
	downswing := b.CVPct[stepsBack : stepsBack+stepsDown+1]
	b.MeanCVPct, _ = force.MeanSD(downswing)
	b.LargestCVPct = slices.Max(downswing)
	return b
}

// Overlay is the difference of two sets of swings and where it leaves the first
// set's band of one standard deviation.
type Overlay struct {
	Difference []float64 `json:"difference"` // second less first
	Leaves     []Stretch `json:"leaves"`
}

// Stretch is a part of the common time, in points, and in words.
type Stretch struct {
	From int    `json:"from"`
	To   int    `json:"to"`
	Text string `json:"text"`
}

// Lay compares two bands; nil when one is. With one swing in the first set there
// is no band to leave.
func Lay(first, second *Band) *Overlay {
	if first == nil || second == nil {
		return nil
	}
	o := &Overlay{Difference: make([]float64, Points), Leaves: []Stretch{}}
	from := -1
	for i := range Points {
		o.Difference[i] = second.Mean[i] - first.Mean[i]
		out := first.Swings > 1 && math.Abs(o.Difference[i]) > first.SD[i] && first.SD[i] > 0
		if out && from < 0 {
			from = i
		}
		if from >= 0 && (!out || i == Points-1) {
			if i-from >= 5 { // shorter is a crossing
				o.Leaves = append(o.Leaves, Stretch{from, i, placeWords(from) + " to " + placeWords(i)})
			}
			from = -1
		}
	}
	return o
}

func placeWords(i int) string {
	switch {
	case i <= stepsBack:
		return fmt.Sprintf("%d%% of the backswing", i)
	case i <= stepsBack+stepsDown:
		return fmt.Sprintf("%d%% of the downswing", i-stepsBack)
	}
	return fmt.Sprintf("%.0f ms after impact", 1000*afterS*float64(i-stepsBack-stepsDown)/stepsAfter)
}
