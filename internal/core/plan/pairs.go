package plan

import (
	"slices"

	"dunnock/internal/core/athlete"
	"dunnock/internal/core/budget"
	"dunnock/internal/core/library"
	"dunnock/internal/core/programme"
	"dunnock/internal/core/quality"
	"dunnock/internal/core/school"
)

// pairLevel is the level from which a lift and a jump are done in turns.
const pairLevel athlete.Level = 3

// pairUp lets a session's lift be done in turns with a jump of the same pattern, heavy and
// light, and where the school pairs twice its push with a chest throw, as far as the
// session still holds it. What leads is left where it is fresh. Nothing is claimed for it:
// with the rests it is given it takes a little longer than one after the other
// (docs/methods.md).
func (l *layer) pairUp() {
	pairs := l.stage().Pairs
	if !l.mayPair() {
		return
	}
	for session := range l.letters {
		made := 0
		for _, kind := range pairs.Kinds {
			if made < pairs.Most && l.pair(session, kind) {
				made++
			}
		}
	}
}

// pair makes a session's pair of a kind; it reports whether it could.
func (l *layer) pair(session int, kind school.PairKind) bool {
	var lift, light *entry
	for _, e := range l.order(session) {
		switch {
		case kind == school.PushThrow && e.slot == library.SlotPush && len(e.ex.Kit) > 0,
			kind != school.PushThrow && e.slot == library.SlotMain && e.ex.Pattern == "two-leg-lift" && len(e.ex.Kit) > 0:
			lift = e
		case e.asked.Level == string(quality.Lead) && kind != school.LiftJump:
		case kind == school.PushThrow && e.slot == library.SlotThrow && budget.IsChestThrow(e.ex),
			kind != school.PushThrow && e.slot == library.SlotJump && e.ex.Pattern == "jump-vertical" && !e.ex.Rhythmic:
			light = e
		}
	}
	if lift == nil || light == nil {
		return false
	}
	if light.lift = lift; l.over(session) {
		light.lift = nil
	}
	return light.lift != nil
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
