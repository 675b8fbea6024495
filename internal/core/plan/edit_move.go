package plan

import (
	"fmt"
	"slices"

	"dunnock/internal/core/civil"
	"dunnock/internal/core/library"
	"dunnock/internal/core/programme"
)

// mostWeeks is how many weeks a block may be repeated to.
const mostWeeks = 16

// remove takes items, sessions or a week out.
func (ed *editor) remove() (string, error) {
	if b, w := ed.doc.Week(ed.edit.At); w != nil && w.ID == ed.edit.At {
		return ed.removeWeek(b, w)
	}
	if _, ok := ed.doc.Session(ed.edit.At); ok {
		return ed.removeSessions()
	}
	gone, words := map[programme.ID]bool{}, ""
	for _, at := range ed.edit.all() {
		spots, err := ed.targets(at)
		if err != nil {
			return "", err
		}
		words = "removed " + ed.name(spots[0].Item.Exercise)
		for _, spot := range spots {
			gone[spot.Item.ID] = true
		}
	}
	ed.eachList(func(_ programme.ID, items *[]programme.Item) {
		*items = slices.DeleteFunc(*items, func(it programme.Item) bool { return gone[it.ID] })
	})
	return several(words, len(ed.edit.all()), "items removed"), nil
}

func (ed *editor) removeSessions() (string, error) {
	words := ""
	for _, at := range ed.edit.all() {
		s, ok := ed.doc.Session(at)
		if !ok {
			return "", missing("at", "session")
		}
		if err := ed.unlocked(s.ID, s.Items); err != nil {
			return "", err
		}
		words = "removed the session on " + s.Date.Words()
		_, w := ed.doc.Week(at)
		w.Sessions = slices.DeleteFunc(w.Sessions, func(x programme.Session) bool { return x.ID == at })
	}
	return several(words, len(ed.edit.all()), "sessions removed"), nil
}

// unlocked refuses a session or home day that is locked or holds what is.
func (ed *editor) unlocked(id programme.ID, items []programme.Item) error {
	if err := ed.free(id); err != nil {
		return err
	}
	for i := range items {
		if err := ed.free(items[i].ID); err != nil {
			return err
		}
	}
	return nil
}

// weekUnlocked refuses a week that is locked or holds what is.
func (ed *editor) weekUnlocked(w *programme.Week) error {
	if err := ed.free(w.ID); err != nil {
		return err
	}
	for i := range w.Sessions {
		if err := ed.unlocked(w.Sessions[i].ID, w.Sessions[i].Items); err != nil {
			return err
		}
	}
	for i := range w.Home {
		if err := ed.unlocked(w.Home[i].ID, w.Home[i].Items); err != nil {
			return err
		}
	}
	return nil
}

// eachList calls do for the items of every session and home day.
func (ed *editor) eachList(do func(programme.ID, *[]programme.Item)) {
	for bi := range ed.doc.Blocks {
		for wi := range ed.doc.Blocks[bi].Weeks {
			w := &ed.doc.Blocks[bi].Weeks[wi]
			for si := range w.Sessions {
				do(w.Sessions[si].ID, &w.Sessions[si].Items)
			}
			for hi := range w.Home {
				do(w.Home[hi].ID, &w.Home[hi].Items)
			}
		}
	}
}

// move puts items into another session or before another item, or a session on another
// day.
func (ed *editor) move() (string, error) {
	if s, ok := ed.doc.Session(ed.edit.At); ok {
		return ed.moveSession(s)
	}
	list, what, err := ed.taken()
	if err != nil {
		return "", err
	}
	to, where, err := ed.into()
	if err != nil {
		return "", err
	}
	ids := ed.edit.all()
	if slices.Contains(ids, ed.edit.Before) {
		return "", refuse("before", "it stands there already")
	}
	if err := ed.fits(list); err != nil {
		return "", err
	}
	ed.eachList(func(_ programme.ID, items *[]programme.Item) {
		*items = slices.DeleteFunc(*items, func(it programme.Item) bool { return slices.Contains(ids, it.ID) })
	})
	if err := ed.insert(to, list); err != nil {
		return "", err
	}
	if ed.edit.Before != "" {
		where = "before " + ed.called(ed.edit.Before) + ", " + where
	} else {
		where = "to " + where
	}
	return "moved " + what + " " + where, nil
}

// taken returns copies of the items the edit is made at, in the order of the document.
func (ed *editor) taken() ([]programme.Item, string, error) {
	ids := ed.edit.all()
	for _, id := range ids {
		if _, ok := ed.doc.Find(id); !ok {
			return nil, "", missing("at", "item")
		}
		if err := ed.free(id); err != nil && ed.edit.Kind == EditMove {
			return nil, "", err
		}
	}
	var out []programme.Item
	copied := ed.doc.Clone() // what is copied shares nothing with what it is copied from
	copied.EachItem(func(it *programme.Item) {
		if slices.Contains(ids, it.ID) {
			out = append(out, *it)
		}
	})
	return out, several(ed.name(out[0].Exercise), len(out), "items"), nil
}

// into is the list of the session or home day the edit leads to, and its name.
func (ed *editor) into() (*[]programme.Item, string, error) {
	to := ed.doc.Items(ed.edit.To)
	if to == nil {
		return nil, "", missing("to", "session")
	}
	if err := ed.free(ed.edit.To); err != nil {
		return nil, "", err
	}
	if s, ok := ed.doc.Session(ed.edit.To); ok {
		return to, s.Date.Words(), nil
	}
	return to, "a home day", nil
}

// fits refuses what is no range work on a home day.
func (ed *editor) fits(list []programme.Item) error {
	if _, ok := ed.doc.Session(ed.edit.To); ok {
		return nil
	}
	for i := range list {
		if list[i].Slot != library.SlotRange {
			return refuse("to", "%s is not for home: only range work is done there", ed.name(list[i].Exercise))
		}
	}
	return nil
}

// insert puts items before the one the edit says, or each where its slot belongs.
func (ed *editor) insert(to *[]programme.Item, list []programme.Item) error {
	if ed.edit.Before != "" {
		at := slices.IndexFunc(*to, func(it programme.Item) bool { return it.ID == ed.edit.Before })
		if at < 0 {
			return missing("before", "item")
		}
		*to = slices.Insert(*to, at, list...)
		return nil
	}
	for _, it := range list {
		*to = slices.Insert(*to, positionOf(it.Slot, *to), it)
	}
	return nil
}

// moveSession puts a session on another day; where there is one that day, the two change
// places.
func (ed *editor) moveSession(s *programme.Session) (string, error) {
	e := ed.edit
	if len(e.Also) > 0 {
		return "", refuse("also", "sessions are moved one at a time")
	}
	to, err := ed.weekOn(e.Date)
	if err != nil {
		return "", err
	}
	if s.Date == e.Date {
		return "", refuse("date", "it stands on that day already")
	}
	if err := ed.unlocked(s.ID, s.Items); err != nil {
		return "", err
	}
	from := s.Date
	_, week := ed.doc.Week(s.ID)
	words := fmt.Sprintf("moved the session of %s to %s", from.Words(), e.Date.Words())
	if at := slices.IndexFunc(to.Sessions, func(x programme.Session) bool { return x.Date == e.Date }); at >= 0 {
		other := &to.Sessions[at]
		if err := ed.unlocked(other.ID, other.Items); err != nil {
			return "", err
		}
		other.Date, s.Date = from, e.Date
		*other, *s = *s, *other
		words = fmt.Sprintf("the sessions of %s and %s changed places", from.Words(), e.Date.Words())
	} else {
		moved := *s
		moved.Date = e.Date
		week.Sessions = slices.DeleteFunc(week.Sessions, func(x programme.Session) bool { return x.ID == moved.ID })
		to.Sessions = append(to.Sessions, moved)
	}
	byDate(to)
	byDate(week)
	return words, nil
}

func byDate(w *programme.Week) {
	slices.SortStableFunc(w.Sessions, func(a, b programme.Session) int { return a.Date.Sub(b.Date) })
}

// weekOn is the week of a day; a refusal where the day lies outside the programme.
func (ed *editor) weekOn(day civil.Date) (*programme.Week, error) {
	if day.IsZero() {
		return nil, refuse("date", "say on which day")
	}
	_, w := ed.doc.WeekOn(day)
	if w == nil {
		return nil, refuse("date", "%s lies outside the weeks of this programme", day.Words())
	}
	if ed.locked[w.ID] {
		return nil, refuse("date", "week %d is locked: unlock it first", w.Number)
	}
	return w, nil
}

// copy puts copies of items into a session, of a session on a day, of a week's sessions
// into another week.
func (ed *editor) copy() (string, error) {
	if _, w := ed.doc.Week(ed.edit.At); w != nil && w.ID == ed.edit.At {
		return ed.copyWeek(w)
	}
	if s, ok := ed.doc.Session(ed.edit.At); ok {
		return ed.another(s, ed.edit.Date, "copied the session of "+s.Date.Words()+" to ")
	}
	list, what, err := ed.taken()
	if err != nil {
		return "", err
	}
	to, where, err := ed.into()
	if err != nil {
		return "", err
	}
	if err := ed.fits(list); err != nil {
		return "", err
	}
	for i := range list {
		list[i].ID, list[i].Locked, list[i].Edited = "", false, true
		same := slices.IndexFunc(*to, func(it programme.Item) bool { return it.Exercise == list[i].Exercise })
		if same >= 0 && !(ed.edit.Over && (*to)[same].ID == ed.edit.Before) {
			return "", refuse("to", "%s already stands in that session: copy it over what stands there, or change its dose", ed.name(list[i].Exercise))
		}
	}
	if ed.edit.Over {
		if err := ed.free(ed.edit.Before); err != nil {
			return "", err
		}
	}
	if err := ed.insert(to, list); err != nil {
		return "", err
	}
	if ed.edit.Over {
		*to = slices.DeleteFunc(*to, func(it programme.Item) bool { return it.ID == ed.edit.Before })
	}
	return "copied " + what + " to " + where, nil
}

// another puts a copy of a session on a day on which there is none.
func (ed *editor) another(s *programme.Session, day civil.Date, words string) (string, error) {
	to, err := ed.weekOn(day)
	if err != nil {
		return "", err
	}
	if slices.ContainsFunc(to.Sessions, func(x programme.Session) bool { return x.Date == day }) {
		return "", refuse("date", "there is a session on %s: move it or take it out first", day.Words())
	}
	made := anew(s, day)
	to.Sessions = append(to.Sessions, made)
	byDate(to)
	return words + day.Words(), nil
}

// anew is a copy of a session on a day, with ids of its own to come.
func anew(s *programme.Session, day civil.Date) programme.Session {
	one := programme.Programme{Blocks: []programme.Block{{Weeks: []programme.Week{{Sessions: []programme.Session{*s}}}}}}
	out := one.Clone().Blocks[0].Weeks[0].Sessions[0]
	out.ID, out.Date, out.Locked = "", day, false
	for i := range out.Items {
		out.Items[i].ID, out.Items[i].Locked, out.Items[i].Edited = "", false, true
	}
	return out
}

// copyWeek puts copies of a week's sessions and home days in the place of another's.
func (ed *editor) copyWeek(from *programme.Week) (string, error) {
	_, to := ed.doc.Week(ed.edit.To)
	if to == nil || to.ID != ed.edit.To {
		return "", missing("to", "week")
	}
	if to == from {
		return "", refuse("to", "choose another week to copy it to")
	}
	if err := ed.weekUnlocked(to); err != nil {
		return "", err
	}
	to.Sessions, to.Home = weekAnew(from, to.Start.Sub(from.Start))
	return fmt.Sprintf("copied week %d to week %d", from.Number, to.Number), nil
}

// weekAnew is copies of a week's sessions and home days, so many days later.
func weekAnew(w *programme.Week, later int) ([]programme.Session, []programme.HomeDay) {
	sessions, home := []programme.Session{}, []programme.HomeDay{}
	for i := range w.Sessions {
		sessions = append(sessions, anew(&w.Sessions[i], w.Sessions[i].Date.Add(later)))
	}
	for i := range w.Home {
		h := anew(&programme.Session{Items: w.Home[i].Items}, w.Home[i].Date.Add(later))
		home = append(home, programme.HomeDay{Date: h.Date, Items: h.Items})
	}
	return sessions, home
}

// repeat puts a week once more behind itself. What is locked behind it does not move, so it
// is refused there. The retest stays at the end: the copy of a week with one takes it.
func (ed *editor) repeat() (string, error) {
	b, w := ed.doc.Week(ed.edit.At)
	if w == nil || w.ID != ed.edit.At {
		return "", missing("at", "week")
	}
	if len(b.Weeks) >= mostWeeks {
		return "", refuse("at", "a block has %d weeks at most", mostWeeks)
	}
	at := slices.IndexFunc(b.Weeks, func(x programme.Week) bool { return x.ID == w.ID })
	if err := ed.shift(b, at+1, 7); err != nil {
		return "", err
	}
	w = &b.Weeks[at]
	made := programme.Week{Number: w.Number + 1, Kind: w.Kind, Start: w.Start.Add(7), Due: w.Due, Note: w.Note}
	made.Sessions, made.Home = weekAnew(w, 7)
	if w.Retest != nil {
		r := *w.Retest
		r.Date = r.Date.Add(7)
		made.Retest, w.Retest = &r, nil
	}
	words := fmt.Sprintf("repeated week %d", w.Number)
	b.Weeks = slices.Insert(b.Weeks, at+1, made)
	renumber(b)
	return words, nil
}

func (ed *editor) removeWeek(b *programme.Block, w *programme.Week) (string, error) {
	if len(ed.edit.Also) > 0 {
		return "", refuse("also", "weeks are removed one at a time")
	}
	if len(b.Weeks) == 1 {
		return "", refuse("at", "it is the only week of its block")
	}
	if err := ed.weekUnlocked(w); err != nil {
		return "", err
	}
	at := slices.IndexFunc(b.Weeks, func(x programme.Week) bool { return x.ID == w.ID })
	words, retest := fmt.Sprintf("removed week %d", w.Number), w.Retest
	if err := ed.shift(b, at+1, -7); err != nil {
		return "", err
	}
	b.Weeks = slices.Delete(b.Weeks, at, at+1)
	if last := &b.Weeks[len(b.Weeks)-1]; retest != nil && last.Retest == nil && len(last.Sessions) > 0 {
		r := *retest
		r.Date = last.Sessions[len(last.Sessions)-1].Date
		last.Retest = &r
	}
	renumber(b)
	return words, nil
}

func renumber(b *programme.Block) {
	for i := range b.Weeks {
		b.Weeks[i].Number = i + 1
	}
}

// shift moves the weeks of a block from an index on, and the blocks behind it.
func (ed *editor) shift(b *programme.Block, from, days int) error {
	reached := false
	for bi := range ed.doc.Blocks {
		x := &ed.doc.Blocks[bi]
		first := 0
		if x == b {
			reached, first = true, from
		}
		if !reached {
			continue
		}
		for wi := first; wi < len(x.Weeks); wi++ {
			w := &x.Weeks[wi]
			if err := ed.weekUnlocked(w); err != nil {
				return err
			}
			w.Start = w.Start.Add(days)
			for i := range w.Sessions {
				w.Sessions[i].Date = w.Sessions[i].Date.Add(days)
			}
			for i := range w.Home {
				w.Home[i].Date = w.Home[i].Date.Add(days)
			}
			if w.Retest != nil {
				w.Retest.Date = w.Retest.Date.Add(days)
			}
		}
	}
	return nil
}

// extra puts a further session on a day.
func (ed *editor) extra() (string, error) {
	like, ok := ed.doc.Session(ed.edit.At)
	if !ok {
		return "", missing("at", "session")
	}
	made := *like
	if ed.edit.Empty {
		made.Items, made.Title, made.Base, made.Note = []programme.Item{}, "Extra session", 0, ""
	}
	return ed.another(&made, ed.edit.Date, "an extra session on ")
}
