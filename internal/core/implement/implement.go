// Package implement is about what is swung and held: clubs, lighter and heavier
// swinging implements and sticks, with mass, length and balance point where they are
// known; what share of the own driver they weigh, what they are fit for, a ladder of
// them, and the moments they put on a wrist and a forearm that hold them out. Who owns
// them and when they are swung is not its business: core/warmup and core/speed ask it.
package implement

import (
	"cmp"
	"fmt"
	"slices"

	"dunnock/internal/core/words"
)

// Kind is what an implement is.
type Kind string

// The kinds of implement.
const (
	Driver Kind = "driver"
	Wood   Kind = "wood"
	Iron   Kind = "iron"
	Wedge  Kind = "wedge"
	Speed  Kind = "speed" // made for fast swings: a stick or a club of its own mass
	Stick  Kind = "stick"
)

// Kinds returns every kind in the order they are offered.
func Kinds() []Kind { return []Kind{Driver, Wood, Iron, Wedge, Speed, Stick} }

// Implement is one thing to swing.
type Implement struct {
	ID       string  `json:"id"`
	Name     string  `json:"name"`
	Kind     Kind    `json:"kind"`
	MassG    float64 `json:"massG"`              // 50 to 3,000; two clubs together are one implement
	LengthM  float64 `json:"lengthM"`            // 0.2 to 2
	BalanceM float64 `json:"balanceM,omitempty"` // balance point from the butt; 0: not known
}

// Club lengths of the equipment rules (R&A and USGA): a club other than a putter.
const (
	LongestM  = 1.2192 // 48 in
	ShortestM = 0.4572 // 18 in
)

// Validate says what is impossible about an implement; empty for a sound one.
func (i Implement) Validate() string {
	switch {
	case words.Name(i.Name, 60) != "":
		return "the name " + words.Name(i.Name, 60)
	case !slices.Contains(Kinds(), i.Kind):
		return fmt.Sprintf("%q is no kind of implement", i.Kind)
	case !(i.MassG >= 50 && i.MassG <= 3000):
		return "it weighs 50 to 3,000 g"
	case !(i.LengthM >= 0.2 && i.LengthM <= 2):
		return "it is 0.2 to 2 m long"
	case i.Club() && !(i.LengthM >= ShortestM && i.LengthM <= LongestM):
		return fmt.Sprintf("a club is %g to %g m long by the rules of the game", ShortestM, LongestM)
	case !(i.BalanceM >= 0 && i.BalanceM <= i.LengthM):
		return "its balance point lies on it, measured from the butt"
	}
	return ""
}

// Club reports whether it is a golf club, which the rules of the game measure.
func (i Implement) Club() bool {
	return i.Kind == Driver || i.Kind == Wood || i.Kind == Iron || i.Kind == Wedge
}

// Usual is the driver that is taken where none was weighed; common practice, no source.
var Usual = Implement{ID: "driver", Name: "Driver", Kind: Driver, MassG: 310, LengthM: 1.15}

// Percent is how much heavier than the own driver, in %: −20 is a fifth lighter. The
// driver's mass is positive.
func (i Implement) Percent(driverG float64) float64 { return 100 * (i.MassG - driverG) / driverG }

// Use is what an implement's mass makes it fit for.
type Use string

// What a mass is for, by its share of the own driver's (handbook 04 and 12; ours).
const (
	Light    Use = "light"    // below the own driver: any time
	Own      Use = "own"      // as heavy as the own driver
	Heavy    Use = "heavy"    // to +20%: trained with, and in warm-ups early
	WarmUp   Use = "warm-up"  // to +60%: in warm-ups only, early and slow; otherwise strength work
	TwoClubs Use = "two"      // over +100%: half swings at half intent, early
	Strength Use = "strength" // anything else that is heavier
	TooLight Use = "too light"
)

// Shares of the own driver's mass, in %.
const (
	LeastTraining = -20.0
	MostTraining  = 20.0
	LeastLight    = -35.0
	MostWarmUp    = 60.0
	TwoTogether   = 100.0
	same          = 2.0 // as heavy as: balances and grips differ by as much
)

// UseOf says what a share of the own driver's mass is for.
func UseOf(percent float64) Use {
	switch {
	case percent < LeastLight:
		return TooLight
	case percent < -same:
		return Light
	case percent <= same:
		return Own
	case percent <= MostTraining:
		return Heavy
	case percent <= MostWarmUp:
		return WarmUp
	case percent > TwoTogether:
		return TwoClubs
	}
	return Strength
}

// Trains reports whether a share of the driver's mass lies in the range for fast swings
// of training; heavier is strength work.
func Trains(percent float64) bool { return percent >= LeastTraining && percent <= MostTraining }

// A Rung is a place in a ladder of implements.
type Rung struct {
	Implement Implement `json:"implement"`
	Percent   float64   `json:"percent"` // of the own driver's mass
	Use       Use       `json:"use"`
	Why       string    `json:"why"`
}

// Ladder suggests an order for fast swings of training from what there is: light, own,
// heavy, and back to light. Of each it takes what lies farthest within the training
// range; nothing that is missing is made up, and without a light one the own driver ends
// it.
func Ladder(own Implement, all []Implement) []Rung {
	pick := func(use Use, order func(a, b Implement) int) (Implement, bool) {
		var fit []Implement
		for _, i := range all {
			if p := i.Percent(own.MassG); UseOf(p) == use && Trains(p) {
				fit = append(fit, i)
			}
		}
		if len(fit) == 0 {
			return Implement{}, false
		}
		return slices.MinFunc(fit, order), true
	}
	light, hasLight := pick(Light, func(a, b Implement) int { return cmp.Compare(a.MassG, b.MassG) })
	heavy, hasHeavy := pick(Heavy, func(a, b Implement) int { return cmp.Compare(b.MassG, a.MassG) })
	rung := func(i Implement, why string) Rung {
		p := i.Percent(own.MassG)
		return Rung{i, p, UseOf(p), why}
	}
	var out []Rung
	if hasLight {
		out = append(out, rung(light, "faster than your own: the body finds the speed"))
	}
	out = append(out, rung(own, "the speed taken to the club you play"))
	if hasHeavy {
		out = append(out, rung(heavy, "as fast as it will go: force at speed"))
	}
	switch {
	case hasLight:
		out = append(out, rung(light, "end light and fast"))
	case hasHeavy:
		out = append(out, rung(own, "end with the club you play"))
	}
	return out
}

// Radius is how much room a swing takes around the golfer, in m: the implement and the
// arms; step drills take more.
func Radius(lengthM float64, stepping bool) float64 {
	r := lengthM + armsM
	if stepping {
		r += stepM
	}
	return r
}

const (
	armsM = 1.9
	stepM = 1.5
)
