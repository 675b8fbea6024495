package plan

import (
	"fmt"
	"strings"

	"dunnock/internal/core/library"
	"dunnock/internal/core/programme"
)

// turns says how an item is done with the one before it.
func (ed *editor) turns() (string, error) {
	e := ed.edit
	spots, err := ed.targets(e.At)
	if err != nil {
		return "", err
	}
	words := ""
	for i, spot := range spots {
		before := beforeIn(spot)
		text, err := inTurns(before, spot.Item, e.With)
		if err != nil && i == 0 {
			return "", refuse("with", err.Error(), ed.name(spot.Item.Exercise))
		}
		if err != nil {
			continue // in a later week something else stands before it
		}
		spot.Item.Paired, spot.Item.Superset, spot.Item.Edited = e.With == HeavyLight, e.With == Superset, true
		if i == 0 {
			words = ed.name(spot.Item.Exercise) + text
			if before != nil {
				words = fmt.Sprintf(words, ed.name(before.Exercise))
			}
		}
	}
	return words, nil
}

// inTurns words how an item is done with the one before it, whose name is to come, or says
// why it cannot be.
func inTurns(before, it *programme.Item, with Turns) (string, error) {
	switch {
	case with == Alone:
		return " is done alone", nil
	case with != Superset && with != HeavyLight:
		return "", fmt.Errorf("%%s is done alone, as a superset or heavy and light: choose one")
	case before == nil:
		return "", fmt.Errorf("%%s stands first: there is nothing before it to do it in turns with")
	case with == HeavyLight && before.Slot != library.SlotMain && before.Slot != library.SlotPush:
		return "", fmt.Errorf("%%s does not follow a lift or a push: only behind one there is a heavy and light pair")
	case it.Dose.Unit == library.Swings || before.Dose.Unit == library.Swings:
		return "", fmt.Errorf("%%s: swings are made rested, not in turns with something else")
	case with == HeavyLight:
		return " is done in turns with %s, heavy and light", nil
	}
	return " and %s are a superset", nil
}

// beforeIn is the item before an item in its session; nil where it is the first.
func beforeIn(spot programme.Spot) *programme.Item {
	if spot.Session == nil {
		return nil
	}
	for i := 1; i < len(spot.Session.Items); i++ {
		if spot.Session.Items[i].ID == spot.Item.ID {
			return &spot.Session.Items[i-1]
		}
	}
	return nil
}

// alone lets what is done in turns with the item before it be done alone where another item
// stands before it after a change.
func alone(was, now *programme.Programme) {
	each := func(doc *programme.Programme, do func(it *programme.Item, before programme.ID)) {
		for bi := range doc.Blocks {
			doc.Blocks[bi].EachSession(func(_ *programme.Week, s *programme.Session) {
				for i := range s.Items {
					before := programme.ID("")
					if i > 0 {
						before = s.Items[i-1].ID
					}
					do(&s.Items[i], before)
				}
			})
		}
	}
	had := map[programme.ID]programme.ID{}
	each(was, func(it *programme.Item, before programme.ID) { had[it.ID] = before })
	each(now, func(it *programme.Item, before programme.ID) {
		if b, ok := had[it.ID]; ok && it.ID != "" && b != before {
			it.Paired, it.Superset = false, false
		}
	})
	// What is copied alone stands behind nothing it was paired with.
	for bi := range now.Blocks {
		now.Blocks[bi].EachSession(func(_ *programme.Week, s *programme.Session) {
			for i := range s.Items {
				if s.Items[i].ID == "" && (i == 0 || s.Items[i-1].ID != "") {
					s.Items[i].Paired, s.Items[i].Superset = false, false
				}
			}
		})
	}
}

// mark calls do for the item, session or week with an id.
func (ed *editor) mark(id programme.ID, item func(*programme.Item), session func(*programme.Session), week func(*programme.Week)) error {
	if spot, ok := ed.doc.Find(id); ok {
		item(spot.Item)
		return nil
	}
	if s, ok := ed.doc.Session(id); ok {
		session(s)
		return nil
	}
	if _, w := ed.doc.Week(id); w != nil && w.ID == id {
		week(w)
		return nil
	}
	return missing("at", "place")
}

// lock keeps items, sessions or weeks as they are, or lets them go.
func (ed *editor) lock() (string, error) {
	on := ed.edit.On
	for _, id := range ed.edit.all() {
		err := ed.mark(id,
			func(it *programme.Item) { it.Locked = on },
			func(s *programme.Session) { s.Locked = on },
			func(w *programme.Week) { w.Locked = on })
		if err != nil {
			return "", err
		}
	}
	verb := "locked "
	if !on {
		verb = "unlocked "
	}
	return verb + several(ed.called(ed.edit.At), len(ed.edit.all()), "places"), nil
}

// note writes what the coach says of items, sessions or weeks.
func (ed *editor) note() (string, error) {
	text := strings.TrimSpace(ed.edit.Note)
	for _, id := range ed.edit.all() {
		err := ed.mark(id,
			func(it *programme.Item) { it.Note = text },
			func(s *programme.Session) { s.Note = text },
			func(w *programme.Week) { w.Note = text })
		if err != nil {
			return "", err
		}
	}
	verb := "a note on "
	if text == "" {
		verb = "no note on "
	}
	return verb + several(ed.called(ed.edit.At), len(ed.edit.all()), "places"), nil
}
