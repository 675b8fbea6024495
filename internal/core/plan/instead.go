package plan

import (
	"slices"

	"dunnock/internal/core/programme"
)

// Instead returns what may stand in an item's place on the floor, at most so many: its easier
// and its harder neighbour first, then what is ranked best, each with the dose it has there
// and nothing that a limit, the kit or the level forbids. The items have no ids.
func (b *Basis) Instead(doc *programme.Programme, at programme.ID, most int) []programme.Item {
	p := b.planner(Brief{Minutes: minutesOf(doc)})
	spot, ok := doc.Find(at)
	if !ok {
		return nil
	}
	ranked := p.alternatives(placeOf(spot), spot.Item.Exercise)
	var neighbours []string
	if e, ok := p.by.Exercises.Find(spot.Item.Exercise); ok {
		neighbours = []string{e.Easier, e.Harder}
	}
	near := func(a Alternative) int {
		if i := slices.Index(neighbours, a.Exercise); i >= 0 {
			return i
		}
		return len(neighbours)
	}
	slices.SortStableFunc(ranked, func(x, y Alternative) int { return near(x) - near(y) })
	c := courseOfBlock(spot.Block)
	var out []programme.Item
	for _, a := range ranked {
		e, ok := p.by.Exercises.Find(a.Exercise)
		if len(out) == most {
			break
		}
		if !ok || a.Current || a.Blocked != "" || e.ByHand {
			continue
		}
		it := p.item(e, placeOf(spot), c.step(spot.Week.Number-1), c.weeks, programme.Reason{Rule: "floor", Text: "Instead of " + p.name(spot.Item.Exercise) + ", on the floor."})
		it.Dose.Sets = min(max(it.Dose.Sets, 1), max(spot.Item.Dose.Sets, 1)) // never more than was planned
		it.Dose.WarmUpSets = nil
		out = append(out, it)
	}
	return out
}
