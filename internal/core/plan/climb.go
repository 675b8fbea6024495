package plan

import (
	"slices"

	"dunnock/internal/core/athlete"
	"dunnock/internal/core/library"
)

// The forms of range work, in the order it climbs through them.
const (
	atTheEnd = iota // long, or slow at the end of range
	liftOff
	lightLoad
)

// form is how range work is done in a week of the course, from 0: it climbs week by week
// and goes back to the first form in the easier one. From 60 on, and under a limit of
// the spine, it stays without load.
func (p *planner) form(e *library.Exercise, week, weeks int) string {
	if len(e.Climb) == 0 {
		return ""
	}
	highest := lightLoad
	spine := []string{"neck", "thoracic-spine", "lumbar-spine"}
	if p.Facts.Senior || slices.ContainsFunc(p.Facts.Limits, func(l athlete.Limit) bool { return slices.Contains(spine, l.Region) }) {
		highest = liftOff
	}
	if week == weeks-1 {
		return e.Climb[atTheEnd]
	}
	return e.Climb[min(week, highest, len(e.Climb)-1)]
}
