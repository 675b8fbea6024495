package derive

import (
	"fmt"
	"math"

	"dunnock/internal/core/library"
	"dunnock/internal/core/programme"
)

// TimedStep is a part of an item that a clock runs: work of one hand or side, or a rest.
type TimedStep struct {
	ID      string `json:"id"`
	Name    string `json:"name"`
	Seconds int    `json:"seconds"`
	Dose    string `json:"dose,omitempty"`
	Cue     string `json:"cue,omitempty"`
	Side    string `json:"side,omitempty"`
	Count   string `json:"count,omitempty"` // "set 2 of 5"
	Rest    bool   `json:"rest,omitempty"`
}

// readySeconds are for picking up what an item is done with.
const readySeconds = 10

// Timed is an item as a clock runs it: every set, hands or sides in turn and the weaker
// first, with its rests between. A step takes as long as its dose or its repetitions.
func Timed(it *programme.Item, e *library.Exercise) []TimedStep {
	d := it.Dose
	cue := ""
	if len(e.Cues) > 0 {
		cue = e.Cues[0]
	}
	out := []TimedStep{{ID: string(it.ID) + "-ready", Name: "Get ready: " + e.Name, Seconds: readySeconds, Rest: true}}
	sets := d.Sets + d.WeakerSets
	for k := range sets {
		sides := timedSides(d, e)
		if k >= d.Sets {
			sides = []string{sideName(d.Weaker, e)}
		}
		count := ""
		if sets > 1 {
			count = fmt.Sprintf("set %d of %d", k+1, sets)
		}
		for n, side := range sides {
			amount := max(d.Reps, d.Seconds)
			if side != "" && side == sideName(d.Weaker, e) {
				amount += d.WeakerMore
			}
			step := TimedStep{ID: fmt.Sprintf("%s-%d-%d", it.ID, k+1, n+1), Name: e.Name, Side: side, Count: count, Cue: cue}
			if d.Unit == library.Seconds {
				step.Seconds, step.Dose = amount, fmt.Sprintf("%d s", amount)
			} else {
				step.Seconds, step.Dose = int(math.Ceil(float64(amount)*e.SecondsPerRep)), fmt.Sprintf("%d times", amount)
			}
			out = append(out, step)
		}
		if k+1 < sets && d.RestSeconds > 0 {
			out = append(out, TimedStep{ID: fmt.Sprintf("%s-%d-rest", it.ID, k+1), Name: "Rest", Seconds: d.RestSeconds, Count: count, Rest: true})
		}
	}
	return out
}

// timedSides are the sides of a set in their order.
func timedSides(d programme.Dose, e *library.Exercise) []string {
	if d.SideFactor() == 1 {
		return []string{sideName(d.Side, e)}
	}
	first, second := "lead", "trail"
	if d.Sides == library.Directional {
		first, second = "toward", "away"
	}
	if d.Weaker == second {
		first, second = second, first
	}
	return []string{sideName(first, e), sideName(second, e)}
}

// sideName is what is called out.
func sideName(side string, e *library.Exercise) string {
	switch side {
	case "toward":
		return "toward the target"
	case "away":
		return "away from the target"
	case "lead", "trail":
		if e.OfGrip() || e.OneArm {
			return side + " hand"
		}
		return side + " side"
	}
	return ""
}
