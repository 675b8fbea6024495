package plan

import (
	"fmt"
	"slices"
	"strings"

	"dunnock/internal/core/library"
	"dunnock/internal/core/programme"
	"dunnock/internal/core/unit"
)

// Remedies that put something else in a place, move it or leave it out.

// soundSide leaves one-sided work to the side a limit spares.
func (m *mending) soundSide() string {
	s, e, ok := m.spot()
	if !ok {
		return ""
	}
	sound := e.SoundSide(m.Facts.Limits)
	if sound == "" || s.Item.Dose.Side == sound {
		return ""
	}
	s.Item.Dose.Side = sound
	return fmt.Sprintf("%s on the %s side alone", m.changed(s.Item), sound)
}

// replace puts an exercise in the place of an item.
func (m *mending) replace(s programme.Spot, e *library.Exercise) string {
	was := m.name(s.Item.Exercise)
	c := courseOfBlock(s.Block)
	next := m.item(e, placeOf(s), c.step(s.Week.Number-1), c.weeks, m.byHand(e, Edit{}, "instead of "+was))
	next.Reason.Text = fmt.Sprintf("In the place of %s: %s.", was, strings.ToLower(m.result.Rule))
	next.Dose.Sets = min(next.Dose.Sets, max(s.Item.Dose.Sets, 1))
	if s.Item.Slot == library.SlotRange {
		m.asLong(&next, e, s.Item)
	}
	next.Paired = s.Item.Paired
	*s.Item = next
	return fmt.Sprintf("%s instead of %s", e.Name, strings.ToLower(was[:1])+was[1:])
}

// asLong gives range work the time a side of what it takes the place of.
func (m *mending) asLong(next *programme.Item, e *library.Exercise, was *programme.Item) {
	if e.Sides != library.TwoSided {
		next.Dose.Side = was.Dose.Side
	}
	perRep := 1.0
	if old, ok := m.by.Exercises.Find(was.Exercise); ok && was.Dose.Unit != library.Seconds {
		perRep = old.SecondsPerRep
	}
	seconds := float64(was.Dose.Volume()) * perRep / float64(was.Dose.SideFactor())
	x := &entry{ex: e, dose: next.Dose}
	(&layer{planner: m.planner}).perSide(x, seconds)
	next.Dose = x.dose
}

// may reports whether an exercise may stand in the place of an item.
func (m *mending) may(e *library.Exercise, s programme.Spot) bool {
	rule, _ := m.Facts.Forbidden(e)
	in := func(items []programme.Item) bool {
		return slices.ContainsFunc(items, func(it programme.Item) bool { return it.Exercise == e.ID })
	}
	return rule == "" && e.Fits(s.Item.Slot) && !e.ByHand && zoneFits(s.Item.Slot, e.Zone) && (s.Session == nil || !in(s.Session.Items)) &&
		(!e.Unstable || slices.ContainsFunc(m.Facts.Limits, e.Rehabilitates))
}

// easier takes the first easier neighbour that may be done.
func (m *mending) easier() string {
	s, e, ok := m.spot()
	if !ok {
		return ""
	}
	for range 6 {
		if e, ok = m.by.Exercises.Find(e.Easier); !ok {
			return ""
		}
		if m.may(e, s) {
			return m.replace(s, e)
		}
	}
	return ""
}

// neighbour takes the easier or harder neighbour that may be done, else the best of all
// that may stand there.
func (m *mending) neighbour() string {
	if words := m.easier(); words != "" {
		return words
	}
	s, e, ok := m.spot()
	if !ok {
		if s, ok = m.freshest(nil); !ok {
			return ""
		}
		e, _ = m.by.Exercises.Find(s.Item.Exercise)
	}
	if e != nil {
		if x, ok := m.by.Exercises.Find(e.Harder); ok && m.may(x, s) {
			return m.replace(s, x)
		}
	}
	for _, a := range m.alternatives(placeOf(s), s.Item.Exercise) {
		if x, ok := m.by.Exercises.Find(a.Exercise); ok && !a.Current && m.may(x, s) && (m.result.Rule != "SPECIAL" || !x.LookAlike) {
			return m.replace(s, x)
		}
	}
	return ""
}

// freshest is, for NOVEL, the last exercise of the session that is new to the golfer.
func (m *mending) freshest(but map[programme.ID]bool) (programme.Spot, bool) {
	s, _ := m.session()
	if s == nil || m.doc.Before == nil {
		return programme.Spot{}, false
	}
	for i := len(s.Items) - 1; i >= 0; i-- {
		it := &s.Items[i]
		if it.Slot != library.SlotRange && !but[it.ID] && !m.doc.Before.Knows(it.Exercise, s.Date, m.Facts.By.Novel.Weeks) {
			return m.doc.Find(it.ID)
		}
	}
	return programme.Spot{}, false
}

// known puts what the golfer did before in the place of something new, until few enough of
// a session are.
func (m *mending) known() string {
	var did []string
	tried := map[programme.ID]bool{}
	for m.stillBroken() {
		s, ok := m.freshest(tried)
		if !ok {
			break
		}
		tried[s.Item.ID] = true
		for _, a := range m.alternatives(placeOf(s), s.Item.Exercise) {
			if x, ok := m.by.Exercises.Find(a.Exercise); ok && !a.Current && m.may(x, s) && m.doc.Before.Knows(x.ID, s.Session.Date, m.Facts.By.Novel.Weeks) {
				did = append(did, m.replace(s, x))
				break
			}
		}
	}
	return strings.Join(did, "; ")
}

// out takes the item out.
func (m *mending) out() string {
	s, _, ok := m.spot()
	if !ok {
		return ""
	}
	name := m.name(s.Item.Exercise)
	m.take(s.Item.ID)
	return "without " + strings.ToLower(name[:1]) + name[1:]
}

func (m *mending) take(id programme.ID) {
	drop := func(items []programme.Item) []programme.Item {
		return slices.DeleteFunc(items, func(it programme.Item) bool { return it.ID == id })
	}
	for bi := range m.doc.Blocks {
		for wi := range m.doc.Blocks[bi].Weeks {
			w := &m.doc.Blocks[bi].Weeks[wi]
			for si := range w.Sessions {
				w.Sessions[si].Items = drop(w.Sessions[si].Items)
			}
			for hi := range w.Home {
				w.Home[hi].Items = drop(w.Home[hi].Items)
			}
		}
	}
}

// leastOut takes the least needed items of a session out until it fits.
func (m *mending) leastOut() string {
	s, _ := m.session()
	if s == nil {
		return ""
	}
	var gone []string
	for len(s.Items) > 1 && m.stillBroken() {
		var list []*programme.Item
		for i := range s.Items {
			list = append(list, &s.Items[i])
		}
		m.leastNeeded(list)
		gone = append(gone, strings.ToLower(m.name(list[0].Exercise)))
		m.take(list[0].ID)
	}
	if len(gone) == 0 {
		return ""
	}
	return "without " + strings.Join(gone, ", ")
}

// countedOut takes what the rule counts out of a session, the least needed first, and then
// sets, until it is kept.
func (m *mending) countedOut() string {
	s, _ := m.session()
	if s == nil {
		return ""
	}
	var gone []string
	for m.stillBroken() {
		var list []*programme.Item
		for i := range s.Items {
			if m.counts(&s.Items[i]) {
				list = append(list, &s.Items[i])
			}
		}
		if len(list) < 2 {
			break
		}
		m.leastNeeded(list)
		gone = append(gone, strings.ToLower(m.name(list[0].Exercise)))
		m.take(list[0].ID)
	}
	words := ""
	if m.stillBroken() {
		words = m.fewerSets()
	}
	if len(gone) > 0 {
		s.Title = title(s.Items, m.by.Exercises)
		words = strings.Trim("without "+strings.Join(gone, ", ")+"; "+words, "; ")
	}
	return words
}

// inOrder puts the items of a session from fast to slow; a light partner stays behind its
// lift.
func (m *mending) inOrder() string {
	s, _ := m.session()
	if s == nil {
		return ""
	}
	type group struct {
		zone  library.Zone
		items []programme.Item
	}
	var groups []group
	for i := range s.Items {
		e, ok := m.by.Exercises.Find(s.Items[i].Exercise)
		zone := library.M
		if ok {
			zone = e.Zone
		}
		if (s.Items[i].Paired || s.Items[i].Superset) && len(groups) > 0 {
			groups[len(groups)-1].items = append(groups[len(groups)-1].items, s.Items[i])
			continue
		}
		groups = append(groups, group{zone, []programme.Item{s.Items[i]}})
	}
	fast := func(z library.Zone) library.Zone {
		if z > library.Z4 || z == library.M {
			return "Z9" // behind, in the order they had
		}
		return z
	}
	slices.SortStableFunc(groups, func(a, b group) int { return strings.Compare(string(fast(a.zone)), string(fast(b.zone))) })
	s.Items = s.Items[:0:0]
	for _, g := range groups {
		s.Items = append(s.Items, g.items...)
	}
	return "from fast to slow"
}

// tie gives a look-alike the finding it answers, where there is one.
func (m *mending) tie() string {
	s, e, ok := m.spot()
	if !ok || s.Item.Reason.Finding != "" {
		return ""
	}
	finding := m.finding(e)
	if finding == "" {
		return ""
	}
	s.Item.Reason.Finding = finding
	return m.changed(s.Item) + " tied to a finding"
}

// alikeOut takes the last thing that looks like a swing and is none out of every week: a set
// less of it would break the wave.
func (m *mending) alikeOut() string {
	w, _ := m.week()
	if w == nil {
		return ""
	}
	id := ""
	for si := range w.Sessions {
		for i := range w.Sessions[si].Items {
			it := &w.Sessions[si].Items[i]
			if e, ok := m.by.Exercises.Find(it.Exercise); ok && e.LookAlike && it.Slot != library.SlotSwings && it.Slot != library.SlotThrow {
				id = e.ID
			}
		}
	}
	if id == "" {
		return ""
	}
	for bi := range m.doc.Blocks {
		m.doc.Blocks[bi].EachSession(func(_ *programme.Week, s *programme.Session) {
			s.Items = slices.DeleteFunc(s.Items, func(it programme.Item) bool { return it.Exercise == id })
		})
	}
	return "without " + strings.ToLower(m.name(id))
}

// fewerAlike takes sets off the look-alikes of a week.
func (m *mending) fewerAlike() string {
	w, _ := m.week()
	if w == nil {
		return ""
	}
	done := ""
	for range 20 {
		var last *programme.Item
		for si := range w.Sessions {
			for i := range w.Sessions[si].Items {
				it := &w.Sessions[si].Items[i]
				if e, ok := m.by.Exercises.Find(it.Exercise); ok && e.LookAlike && it.Slot != library.SlotSwings && it.Slot != library.SlotThrow {
					last = it
				}
			}
		}
		if last == nil || !m.stillBroken() {
			break
		}
		name := m.changed(last)
		if last.Dose.Sets > 1 {
			last.Dose.Sets--
			done = "a set less of " + strings.ToLower(name)
		} else {
			m.take(last.ID)
			done = "without " + strings.ToLower(name)
		}
	}
	return done
}

// swingsOut takes the swings out of a day, for a week the last one that has some.
func (m *mending) swingsOut() string {
	s, _ := m.session()
	if w, _ := m.week(); s == nil && w != nil {
		for si := range w.Sessions {
			if slices.ContainsFunc(w.Sessions[si].Items, m.fastSwing) {
				s = &w.Sessions[si]
			}
		}
	}
	if s == nil || !slices.ContainsFunc(s.Items, m.fastSwing) {
		return ""
	}
	s.Items = slices.DeleteFunc(s.Items, m.fastSwing)
	return "no swings on " + s.Date.Words()
}

func (m *mending) fastSwing(it programme.Item) bool {
	e, ok := m.by.Exercises.Find(it.Exercise)
	return ok && e.FastSwings(it.Dose.Volume(), it.Dose.Reps, it.Dose.IntentPercent, 90) > 0
}

// club takes the nearest club that may be trained with.
func (m *mending) club() string {
	s, _, ok := m.spot()
	if !ok {
		return ""
	}
	d, by := &s.Item.Dose, m.Facts.By.Implement
	was := d.ImplementPercent
	d.ImplementPercent = min(max(was, -by.LighterPercent), by.HeavierPercent)
	if was == d.ImplementPercent {
		return ""
	}
	if g := m.file.Athlete.DriverMassG; g > 0 && d.ImplementG > 0 {
		d.ImplementG = int(unit.Round(g*(1+float64(d.ImplementPercent)/100), 0))
	}
	return fmt.Sprintf("%s with a club of %+d%%", m.changed(s.Item), d.ImplementPercent)
}

// put adds the best exercise of a slot to a session.
func (m *mending) put(s *programme.Session, w *programme.Week, slot library.Slot, fits func(*library.Exercise) bool) string {
	for _, a := range m.alternatives(place{s.Letter, slot}, "") {
		e, ok := m.by.Exercises.Find(a.Exercise)
		if !ok || a.Blocked != "" || e.ByHand || !fits(e) || slices.ContainsFunc(s.Items, func(it programme.Item) bool { return it.Exercise == e.ID }) {
			continue
		}
		it := m.item(e, place{s.Letter, slot}, 0, 4, m.byHand(e, Edit{}, "added"))
		it.Reason.Text = fmt.Sprintf("Put in so that %s is kept.", m.result.Rule)
		if w.Kind != programme.Rising {
			it.Dose.Sets = max(1, it.Dose.Sets/2)
		}
		s.Items = slices.Insert(s.Items, positionOf(slot, s.Items), it)
		s.Title = title(s.Items, m.by.Exercises)
		return fmt.Sprintf("%s on %s", e.Name, s.Date.Words())
	}
	return ""
}

// fastIn puts fast work into the first session of a week.
func (m *mending) fastIn() string {
	w, _ := m.week()
	if w == nil || len(w.Sessions) == 0 {
		return ""
	}
	for _, slot := range []library.Slot{library.SlotSwings, library.SlotThrow, library.SlotJump} {
		if words := m.put(&w.Sessions[0], w, slot, func(*library.Exercise) bool { return true }); words != "" {
			return words
		}
	}
	return ""
}

// rangeIn adds range lines for a joint that is short until it has its doses.
func (m *mending) rangeIn() string {
	w, _ := m.week()
	if w == nil {
		return ""
	}
	test := ""
	for _, j := range m.Facts.Restricted {
		if strings.HasPrefix(m.result.Text, j.Name) {
			test = j.Test
		}
	}
	var said []string
	for si := range w.Sessions {
		if !m.stillBroken() {
			break
		}
		if words := m.put(&w.Sessions[si], w, library.SlotRange, func(e *library.Exercise) bool { return slices.Contains(e.Targets, test) }); words != "" {
			said = append(said, words)
		}
	}
	return strings.Join(said, ", ")
}

// earlier moves an item to an earlier session of the week.
func (m *mending) earlier() string {
	s, _, ok := m.spot()
	if !ok {
		return ""
	}
	it := *s.Item
	for si := range s.Week.Sessions {
		o := &s.Week.Sessions[si]
		if s.Session != nil && !o.Date.Before(s.Session.Date) {
			break
		}
		if _, eve := m.Facts.EveOfPlay(o.Date); eve || slices.ContainsFunc(o.Items, func(x programme.Item) bool { return x.Exercise == it.Exercise }) {
			continue
		}
		m.take(it.ID)
		it.Edited = true
		o.Items = slices.Insert(o.Items, positionOf(it.Slot, o.Items), it)
		return fmt.Sprintf("%s on %s", m.name(it.Exercise), o.Date.Words())
	}
	return ""
}
