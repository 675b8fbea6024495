package plan

import (
	"fmt"
	"slices"
	"strings"

	"dunnock/internal/core/civil"
	"dunnock/internal/core/library"
	"dunnock/internal/core/programme"
)

// Remedies that run over weeks and days.

// lineIn are the items of a line in a week, with their volume and that of one set.
func lineIn(w *programme.Week, like *programme.Item) (list []*programme.Item, volume, oneSet int) {
	for si := range w.Sessions {
		for i := range w.Sessions[si].Items {
			it := &w.Sessions[si].Items[i]
			if it.Slot == like.Slot && it.Exercise == like.Exercise {
				list = append(list, it)
				volume += it.Dose.Volume()
				oneSet += it.Dose.SetVolume()
			}
		}
	}
	return list, volume, oneSet
}

// waved calls do for every line of the week that stood in the last rising week too.
func (m *mending) waved(do func(list []*programme.Item, volume, before, oneSet int)) {
	w, _ := m.week()
	if w == nil {
		return
	}
	var last *programme.Week
	for bi := range m.doc.Blocks {
		for wi := range m.doc.Blocks[bi].Weeks {
			x := &m.doc.Blocks[bi].Weeks[wi]
			if x.ID == w.ID {
				bi = len(m.doc.Blocks) - 1
				break
			}
			if x.Kind == programme.Rising {
				last = x
			}
		}
	}
	if last == nil {
		return
	}
	seen := map[string]bool{}
	for si := range w.Sessions {
		for i := range w.Sessions[si].Items {
			it := &w.Sessions[si].Items[i]
			key := string(it.Slot) + it.Exercise
			if it.Slot == library.SlotRange || seen[key] {
				continue
			}
			seen[key] = true
			list, volume, oneSet := lineIn(w, it)
			if was, before, _ := lineIn(last, it); len(was) == len(list) && before > 0 {
				do(list, volume, before, oneSet)
			}
		}
	}
}

// wave brings lines to what they may rise, or must fall, by whole sets.
func (m *mending) wave() string {
	w, _ := m.week()
	if w == nil {
		return ""
	}
	var said []string
	m.waved(func(list []*programme.Item, volume, before, oneSet int) {
		low, high := 0.0, m.Facts.By.Wave.Limit(before, oneSet, list[0].Slot.Quick())
		if w.Kind == programme.Easier {
			low, high = float64(before)*(1-m.Facts.By.Wave.FallMostPercent/100), float64(before)*(1-m.Facts.By.Wave.FallLeastPercent/100)
		}
		changed := false
		for range 12 {
			_, volume, oneSet = lineIn(w, list[0])
			slices.SortStableFunc(list, func(a, b *programme.Item) int { return b.Dose.Sets - a.Dose.Sets })
			switch {
			case float64(volume) > high+1e-9 && list[0].Dose.Sets > 1:
				list[0].Dose.Sets--
			case float64(volume) < low-1e-9:
				list[len(list)-1].Dose.Sets++
			default:
				if changed {
					said = append(said, fmt.Sprintf("%s %d sets", m.changed(list[0]), setsOf(list)))
				}
				return
			}
			changed = true
		}
	})
	return strings.Join(said, ", ")
}

// waveReps takes repetitions off where sets are as few as they may be.
func (m *mending) waveReps() string {
	m.wave()
	var said []string
	w, _ := m.week()
	m.waved(func(list []*programme.Item, volume, before, oneSet int) {
		high := m.Facts.By.Wave.Limit(before, oneSet, list[0].Slot.Quick())
		if w.Kind == programme.Easier {
			high = float64(before) * (1 - m.Facts.By.Wave.FallLeastPercent/100)
		}
		changed := false
		for range 30 {
			if _, volume, _ = lineIn(w, list[0]); float64(volume) <= high+1e-9 {
				break
			}
			for _, it := range list {
				d := &it.Dose
				switch {
				case d.Unit == library.Seconds && d.Seconds > 5:
					d.Seconds -= 5
				case d.Reps > 1:
					d.Reps--
				default:
					return
				}
				changed = true
			}
		}
		if changed {
			said = append(said, m.changed(list[0])+" with fewer repetitions")
		}
	})
	return strings.Join(said, ", ")
}

func setsOf(list []*programme.Item) int {
	n := 0
	for _, it := range list {
		n += it.Dose.Sets
	}
	return n
}

// swapDays exchanges a session with another of its week: the first that keeps all rules.
func (m *mending) swapDays() string {
	s, w := m.session()
	if s == nil {
		return ""
	}
	was := m.Judge(m.doc)
	for si := range w.Sessions {
		o := &w.Sessions[si]
		if o == s {
			continue
		}
		s.Date, o.Date = o.Date, s.Date
		slices.SortStableFunc(w.Sessions, func(a, b programme.Session) int { return a.Date.Sub(b.Date) })
		if worse(was, m.Judge(m.doc), m.result) == "" {
			return fmt.Sprintf("%s and %s change places", s.Date.Words(), o.Date.Words())
		}
		x, y := &w.Sessions[0], &w.Sessions[0]
		for i := range w.Sessions {
			switch w.Sessions[i].ID {
			case m.result.At:
				x = &w.Sessions[i]
			case o.ID:
				y = &w.Sessions[i]
			}
		}
		x.Date, y.Date = y.Date, x.Date
		slices.SortStableFunc(w.Sessions, func(a, b programme.Session) int { return a.Date.Sub(b.Date) })
		if s, w = m.session(); s == nil {
			return ""
		}
	}
	return ""
}

// legsOut takes what loads the legs hard out of the session.
func (m *mending) legsOut() string {
	s, _ := m.session()
	if s == nil {
		return ""
	}
	heavy := func(it programme.Item) bool { return it.Slot == library.SlotMain || it.Slot == library.SlotSecond }
	if !slices.ContainsFunc(s.Items, heavy) {
		return ""
	}
	s.Items = slices.DeleteFunc(s.Items, heavy)
	s.Title = title(s.Items, m.by.Exercises)
	return "no leg lift on " + s.Date.Words()
}

// taperLegs takes the leg lift out of a session too near the event.
func (m *mending) taperLegs() string { return m.legsOut() }

// taperDose takes sets off the longest lines of the part of the taper that holds too much,
// and gives the shortest one back where it holds too little.
func (m *mending) taperDose() string {
	b := m.block()
	if b == nil {
		return ""
	}
	var first civil.Date
	b.EachSession(func(_ *programme.Week, s *programme.Session) {
		if s.Base > 0 && first.IsZero() {
			first = s.Date
		}
	})
	event, ok := m.Facts.PeakAfter(first)
	if first.IsZero() || !ok {
		return ""
	}
	by := m.Facts.By.Taper
	parts := [2]taperPart{{least: by.FarLeast, most: by.FarMost}, {least: by.NearLeast, most: by.NearMost}}
	b.EachSession(func(_ *programme.Week, s *programme.Session) {
		switch days := event.Date.Sub(s.Date); {
		case days <= 0 || days > by.Days:
		case days <= by.NearDays:
			parts[1].sessions = append(parts[1].sessions, s)
		default:
			parts[0].sessions = append(parts[0].sessions, s)
		}
	})
	less, more := 0, 0
	for range 80 {
		if !m.stillBroken() {
			break
		}
		it, sets := parts[0].step()
		if it == nil {
			it, sets = parts[1].step()
		}
		if it == nil {
			// Each part is within its bounds: the whole is not. The part with more room gives.
			both := taperPart{sessions: slices.Concat(parts[0].sessions, parts[1].sessions), least: by.LeastPercent, most: by.MostPercent}
			roomy := &parts[0]
			if roomy.most-roomy.cut() < parts[1].most-parts[1].cut() {
				roomy = &parts[1]
			}
			if it, sets = both.step(); sets < 0 {
				it = roomy.take()
			}
		}
		if it == nil {
			break
		}
		it.Dose.Sets += sets
		less, more = less+max(-sets, 0), more+max(sets, 0)
		m.changed(it)
	}
	switch {
	case less > 0 && more > 0:
		return fmt.Sprintf("%d sets less and %d more before the event", less, more)
	case more > 0:
		return fmt.Sprintf("%d sets more before the event", more)
	case less > 0:
		return fmt.Sprintf("%d sets less before the event", less)
	}
	return ""
}

// taperPart is some days of a taper, by how much their volume is to fall, in %.
type taperPart struct {
	sessions    []*programme.Session
	least, most float64
}

// cut is by how much the volume falls, in %.
func (p *taperPart) cut() float64 {
	volume, base := 0, 0
	for _, s := range p.sessions {
		volume, base = volume+volumeOf(s), base+s.Base
	}
	if base == 0 {
		return p.least
	}
	return 100 * (1 - float64(volume)/float64(base))
}

// step is the item of which a set is taken (-1) or given (+1) next; nil where the part is
// within its bounds, or nothing helps.
func (p *taperPart) step() (*programme.Item, int) {
	switch cut := p.cut(); {
	case cut < p.least:
		return p.take(), -1
	case cut > p.most:
		return p.shortest(), 1
	}
	return nil, 0
}

// take is the longest line that can lose a set.
func (p *taperPart) take() (longest *programme.Item) {
	p.each(func(it *programme.Item) {
		if it.Dose.Sets > 1 && (longest == nil || it.Dose.Load(it.Slot) > longest.Dose.Load(longest.Slot)) {
			longest = it
		}
	})
	return longest
}

// shortest is the line a set of which gives least back.
func (p *taperPart) shortest() (least *programme.Item) {
	p.each(func(it *programme.Item) {
		if least == nil || it.Dose.SetVolume() < least.Dose.SetVolume() {
			least = it
		}
	})
	return least
}

// each goes over the items that count.
func (p *taperPart) each(do func(*programme.Item)) {
	for _, s := range p.sessions {
		for i := range s.Items {
			if it := &s.Items[i]; it.Dose.Load(it.Slot) > 0 {
				do(it)
			}
		}
	}
}

// seasonDose takes sets off strength in a week in season, or gives some back.
func (m *mending) seasonDose() string {
	w, _ := m.week()
	if w == nil {
		return ""
	}
	n := 0
	for range 30 {
		if !m.stillBroken() {
			break
		}
		var longest *programme.Item
		for si := range w.Sessions {
			for i := range w.Sessions[si].Items {
				it := &w.Sessions[si].Items[i]
				if it.Slot.Strength() && it.Dose.Sets > 1 && (longest == nil || it.Dose.Load(it.Slot) > longest.Dose.Load(longest.Slot)) {
					longest = it
				}
			}
		}
		if longest == nil {
			break
		}
		longest.Dose.Sets--
		m.changed(longest)
		n++
	}
	if n == 0 {
		return ""
	}
	return fmt.Sprintf("%d sets of strength less that week", n)
}

// retestLast puts a retest on the last session day of the block.
func (m *mending) retestLast() string {
	b := m.block()
	if b == nil || len(b.Weeks) == 0 {
		return ""
	}
	w := &b.Weeks[len(b.Weeks)-1]
	if len(w.Sessions) == 0 {
		return ""
	}
	dates := make([]civil.Date, 0, len(w.Sessions))
	for i := range w.Sessions {
		dates = append(dates, w.Sessions[i].Date)
	}
	w.Retest = m.retest(w.Start, dates)
	if w.Retest == nil {
		return ""
	}
	return "a retest on " + w.Retest.Date.Words()
}

// rise lets a line that stands still have a set more in the last rising week.
func (m *mending) rise() string {
	s, _, ok := m.spot()
	if !ok || s.Session == nil {
		return ""
	}
	var last *programme.Item
	for wi := range s.Block.Weeks {
		if s.Block.Weeks[wi].Kind != programme.Rising {
			continue
		}
		for si := range s.Block.Weeks[wi].Sessions {
			o := &s.Block.Weeks[wi].Sessions[si]
			for i := range o.Items {
				if o.Letter == s.Session.Letter && sameLine(&o.Items[i], s.Item) {
					last = &o.Items[i]
				}
			}
		}
	}
	if last == nil || last == s.Item {
		return ""
	}
	last.Dose.Sets++
	return "a set more of " + strings.ToLower(m.changed(last)) + " in the last rising week"
}
