package plan

import (
	"dunnock/internal/core/library"
	"dunnock/internal/core/programme"
	"dunnock/internal/core/quality"
)

// What an exercise gains in a block that follows another: for having stood on that
// kind of day, and for being a step up the ladder from one that did. The step is worth
// more, so that a block brings something; at most mostChanges in a session.
const (
	stays       = 1.5
	stepUp      = 1.8
	mostChanges = 2
)

// goesOn is what an exercise gains by what the block before held. What leads stays what it
// was, unless a retest takes it a rung up; the lift that is tested stays.
func (l *layer) goesOn(e *library.Exercise, a *programme.Asked, at place) float64 {
	if l.before == nil || at.letter == "" || at.slot == library.SlotRange {
		return 0
	}
	t := l.turned
	if t != nil && t.swap[a.Quality] == e.ID {
		return swapped
	}
	if l.before.Held(at.letter, e.ID) {
		return stays
	}
	easier, ok := l.by.Exercises.Find(e.Easier)
	if !ok || a.Level == string(quality.Lead) && (t == nil || !t.rung[a.Quality]) || easier.ID == testedLift || !easier.Fits(at.slot) || !l.before.Held(at.letter, easier.ID) {
		return 0
	}
	changes := 0
	for _, x := range l.entries {
		if x.session != atHome && l.letters[x.session] == at.letter && x.slot != library.SlotRange && !l.before.Held(at.letter, x.ex.ID) {
			changes++
		}
	}
	if changes >= mostChanges {
		return 0
	}
	return stepUp
}

// isNew reports whether an exercise is new to the golfer as NOVEL counts it. In a first
// block nothing is known, and nothing is new.
func (l *layer) isNew(e *library.Exercise, slot library.Slot) bool {
	return l.before != nil && slot != library.SlotRange && !l.before.Knows(e.ID, l.brief.Start.Add(6), l.Facts.By.Novel.Weeks)
}

// roomForNew reports whether an exercise may stand in a session beside what is new there
// already. One that stands in an earlier session of the week is known by then.
func (l *layer) roomForNew(session int, e *library.Exercise) bool {
	if l.before == nil || !l.isNew(e, e.Slots[0]) {
		return true
	}
	earlier := func(id string, session int) bool {
		for _, x := range l.entries {
			if x.ex.ID == id && x.session != atHome && x.session < session {
				return true
			}
		}
		return false
	}
	if earlier(e.ID, session) {
		return true
	}
	n := 0
	for _, x := range l.entries {
		if x.session == session && x.ex.ID != e.ID && l.isNew(x.ex, x.slot) && !earlier(x.ex.ID, session) {
			n++
		}
	}
	return n < l.Facts.By.Novel.Most
}
