// Package speed is about swings whose club speed was measured one after the other: which
// of them count, what a series says of itself, when it should stop, what a cold start
// costs, which of two warm-ups was faster, and how speed falls with the mass swung. It
// takes numbers in m/s and gives back numbers and sentences; where they come from, a
// keyboard, a file or a radar, it does not know, nor what a warm-up holds (core/warmup)
// or how a ball flies (core/flight).
//
// Arithmetic after the handbook's page of exact arithmetic; sources stand beside each
// function.
package speed

import (
	"fmt"
	"math"
	"slices"
)

// Bounds of a club speed, in m/s: what lies outside was no swing of a club.
const (
	Least = 10.0
	Most  = 75.0
)

// The sides a golfer swings from. Lead and trail flip with them.
const (
	Playing = "playing"
	Other   = "other"
)

// The intents of a swing.
const (
	Easy   = "easy"
	Cruise = "cruise"
	Full   = "full"
)

// Intents returns the intents in rising order.
func Intents() []string { return []string{Easy, Cruise, Full} }

// Key is what swings are compared within: like with like.
type Key struct {
	Implement string `json:"implement"`
	Side      string `json:"side"`
	Drill     string `json:"drill,omitempty"`
	Intent    string `json:"intent"`
}

// Swing is one swing of a series, in the order they were made.
type Swing struct {
	Key
	Set     int     `json:"set"`       // 1 and up
	AtS     float64 `json:"atS"`       // since the series began, s; negative: not known
	ClubMps float64 `json:"clubMps"`   // 10 to 75
	BallMps float64 `json:"ballMps"`   // 0: not measured, here and below
	CarryM  float64 `json:"carryM"`    //
	Launch  float64 `json:"launchDeg"` // above level
	SpinRpm float64 `json:"spinRpm"`   //
	Strike  *Strike `json:"strike"`    // nil: not seen
	Void    string  `json:"void"`      // slip, stumble or what else the coach says; empty: it counts
	Kept    bool    `json:"kept"`      // the coach says it counts although it looks odd
	Note    string  `json:"note"`      //
}

// Strike is where the ball met the face, and where it went.
type Strike struct {
	ToeMm        float64 `json:"toeMm"`        // from the middle of the face, toward the toe
	HighMm       float64 `json:"highMm"`       // upward
	DirectionDeg float64 `json:"directionDeg"` // of the start, positive away from the golfer's side
}

// Mark is what is the matter with a swing; empty where it counts.
type Mark string

// The marks.
const (
	Counts   Mark = ""
	Voided   Mark = "void"
	Double   Mark = "double"
	Practice Mark = "practice"
	Odd      Mark = "odd"
)

// Words says a mark in a sentence.
func (m Mark) Words() string {
	switch m {
	case Voided:
		return "void"
	case Double:
		return "a double: less than two seconds after the last"
	case Practice:
		return "looks like a practice swing"
	case Odd:
		return "looks odd beside the last ones"
	}
	return ""
}

// How a swing is told from others; ours.
const (
	doubleS      = 2.0  // sooner after the last it is the same swing read twice
	practiceOf   = 0.70 // of R
	oddBelow     = 0.85 // of R
	oddAbove     = 1.10 // of R
	coldOddBelow = 0.75 // of the others' median, in a cold start
	recent       = 5    // R is the median of so many valid swings,
	leastRecent  = 3    // of at least so many
	mixedUnits   = 1.8  // fastest over slowest above this: two units
)

// CheckSpeed says what is wrong with a club speed in m/s.
func CheckSpeed(mps float64) error {
	if !(mps >= Least && mps <= Most) {
		return fmt.Errorf("speed: a club moves at %g to %g m/s (%.0f to %.0f mph), not at %g", Least, Most, Least*mphPerMps, Most*mphPerMps, mps)
	}
	return nil
}

const mphPerMps = 1 / 0.44704

// MixedUnits reports whether speeds of one key span more than any golfer's do: some are
// then likely in another unit.
func MixedUnits(mps []float64) bool {
	return len(mps) > 1 && slices.Max(mps)/slices.Min(mps) > mixedUnits
}

// Marks says of each swing whether it counts. In a cold start the first swings are slow
// because they are first: only what is far below the others is odd.
func Marks(swings []Swing, coldStart bool) []Mark {
	out := make([]Mark, len(swings))
	valid := map[Key][]float64{}
	lastAt := math.Inf(-1)
	for i, s := range swings {
		m := Counts
		r, known := usual(valid[s.Key])
		if coldStart {
			r, known = others(swings, i)
		}
		switch {
		case s.Void != "":
			m = Voided
		case s.Kept:
		case s.AtS >= 0 && s.AtS-lastAt < doubleS:
			m = Double
		case coldStart:
			if known && s.ClubMps < coldOddBelow*r {
				m = Odd
			}
		case known && s.ClubMps < practiceOf*r:
			m = Practice
		case known && (s.ClubMps < oddBelow*r || s.ClubMps > oddAbove*r):
			m = Odd
		}
		if s.AtS >= 0 && m != Double {
			lastAt = s.AtS
		}
		if m == Counts {
			valid[s.Key] = append(valid[s.Key], s.ClubMps)
		}
		out[i] = m
	}
	return out
}

// usual is R, the median of the last five valid swings, of three at least.
func usual(valid []float64) (float64, bool) {
	if len(valid) < leastRecent {
		return 0, false
	}
	return median(valid[max(0, len(valid)-recent):]), true
}

// others is the median of the other swings of a cold start that are not void.
func others(swings []Swing, but int) (float64, bool) {
	var all []float64
	for i, s := range swings {
		if i != but && s.Void == "" {
			all = append(all, s.ClubMps)
		}
	}
	if len(all) < leastRecent {
		return 0, false
	}
	return median(all), true
}

func median(v []float64) float64 {
	s := slices.Clone(v)
	slices.Sort(s)
	n := len(s)
	return (s[(n-1)/2] + s[n/2]) / 2
}

func mean(v []float64) float64 {
	sum := 0.0
	for _, x := range v {
		sum += x
	}
	return sum / float64(len(v))
}
