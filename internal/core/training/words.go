package training

import (
	"fmt"
	"strings"

	"dunnock/internal/core/unit"
)

// Words is a set as it was done, in a few words: "6 at 60 kg, 2 left".
func (s SetDone) Words() string {
	if s.State == SetSkippedState {
		return withWhy("skipped", s.Note)
	}
	var parts []string
	first := ""
	switch {
	case s.Seconds != nil:
		first = fmt.Sprintf("%d s", *s.Seconds)
	case len(s.Swings) > 0:
		n, best := 0, 0.0
		for _, x := range s.Swings {
			if !x.Void {
				n++
				best = max(best, x.Mps)
			}
		}
		first = fmt.Sprintf("%d swings", n)
		if best > 0 {
			first += ", best " + unit.Text(best, 1) + " m/s"
		}
	case s.Reps != nil:
		first = fmt.Sprintf("%d", *s.Reps)
	}
	if s.LoadKg != nil {
		kg := unit.Compact(*s.LoadKg, 2) + " kg"
		if first == "" {
			first = kg
		} else {
			first += " at " + kg
		}
	}
	if first != "" {
		parts = append(parts, first)
	}
	if s.Reserve != nil {
		parts = append(parts, fmt.Sprintf("%d left", *s.Reserve))
	}
	if s.GripKg != nil {
		parts = append(parts, unit.Text(*s.GripKg, 1)+" kg squeezed")
	}
	if s.JumpCm != nil {
		parts = append(parts, unit.Text(*s.JumpCm, 1)+" cm")
	}
	if s.Pain != nil && s.Pain.Level > 0 {
		parts = append(parts, fmt.Sprintf("%s hurt %d", strings.ReplaceAll(s.Pain.Region, "-", " "), s.Pain.Level))
	}
	if s.State == SetStoppedState {
		parts = append(parts, "stopped")
	}
	if s.Note != "" {
		parts = append(parts, s.Note)
	}
	if len(parts) == 0 {
		return "done"
	}
	return strings.Join(parts, ", ")
}

// Words is how a session was, in a few words.
func (h How) Words() string {
	var parts []string
	if h.Effort != nil {
		parts = append(parts, fmt.Sprintf("effort %d", *h.Effort))
	}
	if h.Minutes != nil {
		parts = append(parts, fmt.Sprintf("%d min", *h.Minutes))
	}
	if h.Note != "" {
		parts = append(parts, h.Note)
	}
	return strings.Join(parts, ", ")
}
