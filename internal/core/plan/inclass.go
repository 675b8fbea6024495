package plan

import (
	"slices"

	"dunnock/internal/core/library"
	"dunnock/internal/core/programme"
)

// InClass returns the best item of a slot among some patterns for the golfer, as a first week
// has it; false where nothing of them may be done. No id is given.
func (b *Basis) InClass(slot library.Slot, patterns []string) (programme.Item, bool) {
	p := b.planner(Brief{})
	at := place{programme.DayA, slot}
	for _, a := range p.alternatives(at, "") {
		e, ok := p.by.Exercises.Find(a.Exercise)
		if !ok || a.Blocked != "" || e.ByHand || !slices.Contains(patterns, e.Pattern) {
			continue
		}
		it := p.item(e, at, 0, courseWeeks, programme.Reason{Rule: "class", Text: "In a class: " + slot.Words() + "."})
		if m := p.maximum(e); m > 0 && it.Dose.Reserve != nil {
			p.load(e, &it.Dose, m, 0, programme.Dose{}, programme.Rising)
		}
		return it, true
	}
	return programme.Item{}, false
}

// courseWeeks is how many rising weeks a class counts itself into: it is its first.
const courseWeeks = 3

// Calm returns the n-th line of range or control for the golfer, from 0: what is done where
// nothing else may be. False where not even that may.
func (b *Basis) Calm(n int) (programme.Item, bool) {
	p := b.planner(Brief{})
	at := place{programme.DayA, library.SlotRange}
	var fit []*library.Exercise
	for _, a := range p.alternatives(at, "") {
		e, ok := p.by.Exercises.Find(a.Exercise)
		if !ok || a.Rule != "" && a.Rule != "CLEAR" || e.Zone != library.M {
			continue
		}
		if _, blocked := e.Blocked(b.Facts.Limits); !blocked {
			fit = append(fit, e)
		}
	}
	if len(fit) == 0 {
		return programme.Item{}, false
	}
	return p.item(fit[n%len(fit)], at, 0, courseWeeks, programme.Reason{Rule: "class", Text: "In a class: range instead."}), true
}
