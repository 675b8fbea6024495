package plan

import (
	"slices"

	"dunnock/internal/core/athlete"
	"dunnock/internal/core/library"
	"dunnock/internal/core/programme"
	"dunnock/internal/core/quality"
)

// pairLevel is the level from which a lift and a jump are done in turns.
const pairLevel athlete.Level = 3

// pairUp lets the main lift of a session be done in turns with a jump of the same
// pattern, heavy and light, where the session still holds it. A jump of what leads is
// left where it is fresh. Nothing is claimed for it: with the rests it is given it takes
// a little longer than one after the other (docs/methods.md).
func (l *layer) pairUp() {
	if !l.mayPair() {
		return
	}
	for session := range l.letters {
		var lift, light *entry
		for _, e := range l.order(session) {
			switch {
			case e.slot == library.SlotMain && e.ex.Pattern == "two-leg-lift" && len(e.ex.Kit) > 0:
				lift = e
			case e.slot == library.SlotJump && e.ex.Pattern == "jump-vertical" && !e.ex.Rhythmic && e.asked.Level != string(quality.Lead):
				light = e
			}
		}
		if lift == nil || light == nil {
			continue
		}
		if light.lift = lift; l.over(session) {
			light.lift = nil
		}
	}
}

// mayPair reports whether the golfer is far enough for heavy and light pairs: from
// level 3, or once the lift is there; never a junior near the growth spurt, nor in a
// first block from 60 on.
func (l *layer) mayPair() bool {
	if l.Facts.NearSpurt || l.Facts.Senior && l.before == nil || l.brief.Phase != programme.Preparation || len(l.file.Ramp()) > 0 {
		return false
	}
	return l.Facts.Level >= pairLevel || slices.ContainsFunc(l.Read.Qualities, func(q quality.Standing) bool {
		return q.ID == quality.MaximalStrength && q.Status == quality.Ranked && q.Verdict != quality.ClearlyShort
	})
}
