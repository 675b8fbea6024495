package speed

import (
	"cmp"
	"math"
	"slices"

	"gonum.org/v1/gonum/stat"

	"dunnock/internal/core/flight"
)

// Summary is what the swings of one key come to that count.
type Summary struct {
	Key
	Swings   int     `json:"swings"`
	BestMps  float64 `json:"bestMps"` // the fastest one
	Best3Mps float64 `json:"best3Mps"`
	MeanMps  float64 `json:"meanMps"`
	// CVPct is the spread of speed, of three swings at least; TrendMps the change a
	// swing of a straight line through them.
	CVPct    *float64 `json:"cvPct,omitempty"`
	TrendMps *float64 `json:"trendMps,omitempty"`
	// DropOffPct is how far the last set's mean lies below today's best three.
	DropOffPct *float64 `json:"dropOffPct,omitempty"`
	SmashMean  *float64 `json:"smash,omitempty"` // ball over club speed
	// OverLimit counts strikes above what mass and restitution allow: a misread.
	OverLimit  int      `json:"overLimit,omitempty"`
	CarryM     *float64 `json:"carryM,omitempty"`
	StrikeMm   *float64 `json:"strikeMm,omitempty"`   // mean distance from the middle of the face
	SpreadMm   *float64 `json:"spreadMm,omitempty"`   // standard distance of strikes from their own middle
	StartDeg   *float64 `json:"startDeg,omitempty"`   // mean start direction
	StartSDDeg *float64 `json:"startSdDeg,omitempty"` // and its spread
}

// Summarise sums up the swings of every key that has any that count, in the order the
// keys first appear.
func Summarise(swings []Swing, coldStart bool) []Summary {
	marks := Marks(swings, coldStart)
	var keys []Key
	by := map[Key][]Swing{}
	for i, s := range swings {
		if marks[i] != Counts {
			continue
		}
		if by[s.Key] == nil {
			keys = append(keys, s.Key)
		}
		by[s.Key] = append(by[s.Key], s)
	}
	out := make([]Summary, 0, len(keys))
	for _, k := range keys {
		out = append(out, summary(k, by[k]))
	}
	return out
}

func summary(k Key, swings []Swing) Summary {
	speeds := make([]float64, len(swings))
	xs := make([]float64, len(swings))
	for i, s := range swings {
		speeds[i], xs[i] = s.ClubMps, float64(i+1)
	}
	out := Summary{Key: k, Swings: len(swings), BestMps: slices.Max(speeds), Best3Mps: bestThree(speeds), MeanMps: mean(speeds)}
	if len(speeds) >= 3 {
		cv := 100 * stat.StdDev(speeds, nil) / out.MeanMps
		_, slope := stat.LinearRegression(xs, speeds, nil, false)
		out.CVPct, out.TrendMps = &cv, &slope
	}
	if last := lastSet(swings); len(last) > 0 && len(speeds) > len(last) {
		drop := 100 * (1 - mean(last)/out.Best3Mps)
		out.DropOffPct = &drop
	}
	limit, _ := flight.SmashLimit(flight.HeadKg, flight.Restitution)
	var smash, carry, off, toe, high, start []float64
	for _, s := range swings {
		if s.BallMps > 0 {
			smash = append(smash, s.BallMps/s.ClubMps)
			if s.BallMps/s.ClubMps > limit {
				out.OverLimit++
			}
		}
		if s.CarryM > 0 {
			carry = append(carry, s.CarryM)
		}
		if s.Strike != nil {
			off = append(off, math.Hypot(s.Strike.ToeMm, s.Strike.HighMm))
			toe, high, start = append(toe, s.Strike.ToeMm), append(high, s.Strike.HighMm), append(start, s.Strike.DirectionDeg)
		}
	}
	out.SmashMean, out.CarryM, out.StrikeMm, out.StartDeg = meanOf(smash), meanOf(carry), meanOf(off), meanOf(start)
	if len(toe) >= 3 {
		spread := math.Hypot(stat.StdDev(toe, nil), stat.StdDev(high, nil))
		sd := stat.StdDev(start, nil)
		out.SpreadMm, out.StartSDDeg = &spread, &sd
	}
	return out
}

func meanOf(v []float64) *float64 {
	if len(v) == 0 {
		return nil
	}
	m := mean(v)
	return &m
}

// lastSet are the speeds of the newest set.
func lastSet(swings []Swing) (out []float64) {
	if len(swings) == 0 {
		return nil
	}
	last := slices.MaxFunc(swings, func(a, b Swing) int { return cmp.Compare(a.Set, b.Set) }).Set
	for _, s := range swings {
		if s.Set == last {
			out = append(out, s.ClubMps)
		}
	}
	return out
}

// bestThree is the mean of the three fastest, or of all where there are fewer.
func bestThree(v []float64) float64 {
	s := slices.Clone(v)
	slices.SortFunc(s, func(a, b float64) int { return cmp.Compare(b, a) })
	return mean(s[:min(3, len(s))])
}

// When a set should end; ours: modelled on swings that do not tire, at most 4 of 100
// sets are stopped for nothing.
const (
	stopShare   = 0.95 // of the mean of today's best three
	fromSwing   = 6    // the sixth valid swing is the first that is judged
	steadyCV    = 0.015
	cvTimes     = 3.5
	leastStop   = 0.92
	ownCVSwings = 15
	runBelow    = 2 // running below the line end the set,
	setsBelow   = 2 // and so many such sets the key for the day
)

// StopShare is the share of the reference at which a golfer's swings should stop. Those
// of earlier days say how steady they are; one who varies more gets a lower line.
func StopShare(earlier []float64) float64 {
	if len(earlier) < ownCVSwings {
		return stopShare
	}
	cv := stat.StdDev(earlier, nil) / mean(earlier)
	if cv <= steadyCV {
		return stopShare
	}
	return max(leastStop, 1-cvTimes*cv)
}

// Stop is where a key stands today against its stop line.
type Stop struct {
	Share        float64 `json:"share"`
	ReferenceMps float64 `json:"referenceMps"` // mean of today's best three; 0 before there are three
	LineMps      float64 `json:"lineMps"`      // 0 until the sixth valid swing
	Below        int     `json:"below"`        // running below it now
	SetEnded     bool    `json:"setEnded"`     // the newest set is over
	DayEnded     bool    `json:"dayEnded"`     // the key is over for today
}

// StopOf walks today's swings of a key that count, set by set.
func StopOf(swings []Swing, share float64) Stop {
	out := Stop{Share: share}
	var so []float64
	set, ended := 0, 0
	for _, s := range swings {
		if s.Set != set {
			set, out.Below, out.SetEnded = s.Set, 0, false
		}
		so = append(so, s.ClubMps)
		if len(so) < 3 {
			continue
		}
		out.ReferenceMps = bestThree(so)
		if len(so) < fromSwing {
			continue
		}
		out.LineMps = share * out.ReferenceMps
		if s.ClubMps >= out.LineMps {
			out.Below = 0
			continue
		}
		out.Below++
		if out.Below == runBelow {
			out.SetEnded = true
			ended++
			out.DayEnded = ended >= setsBelow
		}
	}
	return out
}

// Of returns the swings of a key that count.
func Of(swings []Swing, k Key, coldStart bool) (out []Swing) {
	for i, m := range Marks(swings, coldStart) {
		if m == Counts && swings[i].Key == k {
			out = append(out, swings[i])
		}
	}
	return out
}
