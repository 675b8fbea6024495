package plan

import (
	"fmt"
	"slices"
	"strings"

	"dunnock/internal/core/library"
	"dunnock/internal/core/programme"
)

// placeable returns the exercise an edit places, or why it must not be placed: a
// blocking rule lets it in only with a reason.
func (p *planner) placeable(e Edit, exercise string, slot library.Slot) (*library.Exercise, error) {
	x, ok := p.by.Exercises.Find(exercise)
	if !ok {
		return nil, refuse("exercise", "there is no exercise %q", exercise)
	}
	if !x.Fits(slot) {
		return nil, refuse("exercise", "%s does not belong in the %s slot", x.Name, slot.Words())
	}
	rule, why := p.Facts.Forbidden(x)
	if rule != "" && rule != "KIT" && rule != "LEVEL" && strings.TrimSpace(e.Note) == "" {
		return nil, refuse("note", "%s is held back by %s (%s): give a reason to place it all the same", x.Name, rule, why)
	}
	return x, nil
}

// byHand is the reason of an exercise a coach placed.
func (p *planner) byHand(x *library.Exercise, e Edit, verb string) programme.Reason {
	text := "Placed by the coach"
	if e.Note != "" {
		text += ": " + e.Note
	}
	return programme.Reason{Finding: p.finding(x), Rule: "coach's choice (" + verb + ")", Text: strings.TrimSuffix(text, ".") + ".", Source: "coach"}
}

func (ed *editor) swap() (string, error) {
	words := ""
	for _, at := range ed.edit.all() {
		spots, err := ed.targets(at)
		if err != nil {
			return "", err
		}
		was := ed.name(spots[0].Item.Exercise)
		x, err := ed.placeable(ed.edit, ed.edit.Exercise, spots[0].Item.Slot)
		if err != nil {
			return "", err
		}
		for _, spot := range spots {
			ed.become(spot, x)
		}
		words = was + " became " + x.Name
	}
	return several(words, len(ed.edit.all()), "places became "+ed.name(ed.edit.Exercise)), nil
}

// become puts another exercise in an item's place.
func (ed *editor) become(spot programme.Spot, x *library.Exercise) {
	// Another exercise is another item: it gets an id of its own.
	c := courseOfBlock(spot.Block)
	next := ed.item(x, placeOf(spot), c.step(spot.Week.Number-1), c.weeks, ed.byHand(x, ed.edit, "instead of "+ed.name(spot.Item.Exercise)))
	lighten(&next, spot.Week.Kind, spot.Item.Dose.Sets)
	next.Note, next.Paired, next.Superset = ed.edit.Note, spot.Item.Paired, spot.Item.Superset
	if spot.Item.Slot == library.SlotRange && slices.Contains([]string{library.OneSided, library.Directional}, x.Sides) {
		next.Dose.Side = spot.Item.Dose.Side
	}
	*spot.Item = next
}

// replace puts an exercise in the place of another wherever that stands in the block of
// At, or in the whole programme where At is empty.
func (ed *editor) replace() (string, error) {
	e := ed.edit
	if e.Exercise == e.Instead {
		return "", refuse("exercise", "choose another exercise to put in its place")
	}
	in := ed.doc.Blocks
	if e.At != "" {
		at := slices.IndexFunc(in, func(b programme.Block) bool { return b.ID == e.At })
		if at < 0 {
			return "", missing("at", "block")
		}
		in = in[at : at+1]
	}
	found, held := 0, 0
	for bi := range in {
		for wi := range in[bi].Weeks {
			w := &in[bi].Weeks[wi]
			each := func(s *programme.Session, items []programme.Item) error {
				for i := range items {
					it := &items[i]
					if it.Exercise != e.Instead {
						continue
					}
					if ed.locked[it.ID] {
						held++
						continue
					}
					x, err := ed.placeable(e, e.Exercise, it.Slot)
					if err != nil {
						return err
					}
					found++
					ed.become(programme.Spot{Block: &in[bi], Week: w, Session: s, Item: it}, x)
				}
				return nil
			}
			for si := range w.Sessions {
				if err := each(&w.Sessions[si], w.Sessions[si].Items); err != nil {
					return "", err
				}
			}
			for hi := range w.Home {
				if err := each(nil, w.Home[hi].Items); err != nil {
					return "", err
				}
			}
		}
	}
	switch {
	case found == 0 && held > 0:
		return "", refuse("instead", "%s stands only where it is locked", ed.name(e.Instead))
	case found == 0:
		return "", refuse("instead", "%s does not stand in this block", ed.name(e.Instead))
	}
	words := fmt.Sprintf("%s became %s, %s", ed.name(e.Instead), ed.name(e.Exercise), several("once", found, "times"))
	if held > 0 {
		words += fmt.Sprintf(" (%d locked stayed)", held)
	}
	return words, nil
}

// lighten keeps what a coach places in a taper to so many sets.
func lighten(it *programme.Item, kind programme.WeekKind, sets int) {
	if kind == programme.Taper {
		it.Dose.Sets = min(it.Dose.Sets, sets)
	}
}

// name is what an exercise is called; its id where the library does not have it.
func (p *planner) name(id string) string {
	if x, ok := p.by.Exercises.Find(id); ok {
		return x.Name
	}
	return id
}

func (ed *editor) add() (string, error) {
	e := ed.edit
	asked, ok := ed.doc.Session(e.At)
	if !ok {
		return "", missing("at", "session")
	}
	x, ok := ed.by.Exercises.Find(e.Exercise)
	if !ok {
		return "", refuse("exercise", "there is no exercise %q", e.Exercise)
	}
	slot := x.Slots[0]
	if _, err := ed.placeable(e, e.Exercise, slot); err != nil {
		return "", err
	}
	if err := ed.free(asked.ID); err != nil {
		return "", err
	}
	added := false
	ed.eachFrom(asked, func(c course, w *programme.Week, s *programme.Session) {
		if slices.ContainsFunc(s.Items, func(it programme.Item) bool { return it.Exercise == x.ID }) {
			return
		}
		it := ed.item(x, place{s.Letter, slot}, c.step(w.Number-1), c.weeks, ed.byHand(x, e, "added"))
		lighten(&it, w.Kind, max(1, it.Dose.Sets/2))
		it.Note = e.Note
		s.Items = slices.Insert(s.Items, positionOf(slot, s.Items), it)
		added = true
	})
	if !added {
		return "", refuse("exercise", "%s already stands in this session: change its dose instead", x.Name)
	}
	return "added " + x.Name, nil
}

// eachFrom calls do for the session asked for, and in the scope of a line for those of
// its kind of day after it that are not locked, to the end of the block.
func (ed *editor) eachFrom(asked *programme.Session, do func(course, *programme.Week, *programme.Session)) {
	for bi := range ed.doc.Blocks {
		b := &ed.doc.Blocks[bi]
		reached, c := false, courseOfBlock(b)
		b.EachSession(func(w *programme.Week, s *programme.Session) {
			reached = reached || s.ID == asked.ID
			if reached && s.Letter == asked.Letter && (ed.edit.Scope == ScopeLine || s.ID == asked.ID) && !ed.locked[s.ID] {
				do(c, w, s)
			}
		})
	}
}

// positionOf is where a slot's item belongs among others: behind those of its
// own and of earlier slots.
func positionOf(slot library.Slot, items []programme.Item) int {
	for i := range items {
		if slices.Index(library.SlotOrder, items[i].Slot) > slices.Index(library.SlotOrder, slot) {
			return i
		}
	}
	return len(items)
}
