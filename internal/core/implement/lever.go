package implement

import (
	"fmt"
	"math"
)

const gravity = 9.80665 // m/s²

// Held is how a club is held out by one hand, the arm level.
type Held struct {
	// PivotM is how far from the butt the wrist is at full length, 0 to 0.3 m; ChokeM
	// how far down the hand has gone from there.
	PivotM float64 `json:"pivotM"`
	ChokeM float64 `json:"chokeM"`
	Clubs  int     `json:"clubs"` // held together, 1 to 3
	// LeanDeg is how far the club leans from upright, 0 to 90: rolling works against
	// that; hinging is said for the club level.
	LeanDeg float64 `json:"leanDeg"`
}

// Moments are what a held club puts on the wrist and the forearm.
type Moments struct {
	ArmM    float64 `json:"armM"`    // of the lever
	HingeNm float64 `json:"hingeNm"` // about the wrist, club level: m·g·(d − p − c)
	RollNm  float64 `json:"rollNm"`  // about the forearm's long axis: that × sin(lean), 0 upright
	// InertiaKgM2 is the moment of inertia about the wrist, where the club's own about
	// its balance point is known; else 0.
	InertiaKgM2 float64 `json:"inertiaKgM2,omitempty"`
}

// MomentsOf returns the moments of a held club. ownInertia is its moment of inertia
// about the balance point in kg·m², 0 where it is not known.
func MomentsOf(i Implement, h Held, ownInertia float64) (Moments, error) {
	switch {
	case i.BalanceM <= 0:
		return Moments{}, fmt.Errorf("implement: the balance point of %s is not known: lay it over a finger and measure from the butt", i.Name)
	case !(h.PivotM >= 0 && h.PivotM <= 0.3) || !(h.ChokeM >= 0) || h.PivotM+h.ChokeM >= i.BalanceM:
		return Moments{}, fmt.Errorf("implement: the hand is between the butt and the balance point, not %g m down", h.PivotM+h.ChokeM)
	case h.Clubs < 1 || h.Clubs > 3:
		return Moments{}, fmt.Errorf("implement: one to three clubs are held together, not %d", h.Clubs)
	case !(h.LeanDeg >= 0 && h.LeanDeg <= 90):
		return Moments{}, fmt.Errorf("implement: a club leans 0 to 90 degrees from upright, not %g", h.LeanDeg)
	case !(ownInertia >= 0 && ownInertia < 10):
		return Moments{}, fmt.Errorf("implement: a moment of inertia of %g kg·m² is no club's", ownInertia)
	}
	m := i.MassG / 1000 * float64(h.Clubs)
	out := Moments{ArmM: i.BalanceM - h.PivotM - h.ChokeM}
	out.HingeNm = m * gravity * out.ArmM
	out.RollNm = out.HingeNm * math.Sin(h.LeanDeg*math.Pi/180)
	if ownInertia > 0 {
		out.InertiaKgM2 = float64(h.Clubs)*ownInertia + m*out.ArmM*out.ArmM
	}
	return out, nil
}

// MostStep is how much harder a step of the forearm lever may be than the last: 20%;
// UsualStep is what is aimed for (handbook 04; common practice, no source).
const (
	MostStep  = 0.20
	UsualStep = 0.15
)

// A LeverStep is one place on the way from choked down to full length, and on to a
// second and third club.
type LeverStep struct {
	Held
	Moments
	Rise float64 `json:"rise"` // over the step before, as a share; 0 for the first
}

// LeverSteps climbs from a choke-down, in m, to full length and on to so many clubs,
// each step at most UsualStep harder: adding a club chokes down again, for it alone
// doubles the moment. Where choking down cannot make up for the added club the steps
// end.
func LeverSteps(i Implement, pivotM, chokeM, leanDeg float64, clubs int) ([]LeverStep, error) {
	at := Held{PivotM: pivotM, ChokeM: chokeM, Clubs: 1, LeanDeg: leanDeg}
	m, err := MomentsOf(i, at, 0)
	if err != nil {
		return nil, err
	}
	if clubs < 1 || clubs > 3 {
		return nil, fmt.Errorf("implement: one to three clubs are held together, not %d", clubs)
	}
	out := []LeverStep{{at, m, 0}}
	for len(out) < 60 {
		last := out[len(out)-1]
		next := last.Held
		arm := last.ArmM * (1 + UsualStep)
		if next.ChokeM == 0 {
			if next.Clubs == clubs {
				break
			}
			next.Clubs++
			arm = arm * float64(last.Clubs) / float64(next.Clubs)
		}
		next.ChokeM = max(0, i.BalanceM-pivotM-arm)
		if next.ChokeM > mostChokeM {
			break // the hand would be off the grip
		}
		if m, err = MomentsOf(i, next, 0); err != nil {
			return nil, err
		}
		out = append(out, LeverStep{next, m, m.HingeNm/last.HingeNm - 1})
	}
	return out, nil
}

// How a club held out begins (ours, common practice, no source): the wrist so far from
// the butt, the hand choked down so far for hinging, and further for rolling, which is
// harder; and how far the club leans from upright there.
const (
	PivotM      = 0.08
	HingeChokeM = 0.20
	RollChokeM  = 0.30
	LeanDeg     = 45.0
)

// mostChokeM is how far down a club can be held: a little past the grip.
const mostChokeM = 0.45
