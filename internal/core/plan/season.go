package plan

import (
	"slices"

	"dunnock/internal/core/library"
)

// strength is the repetitions of strength of a week.
func (l *layer) strength() int {
	n := 0
	for _, e := range l.entries {
		if e.session != atHome && e.slot.Strength() {
			n += e.dose.Load(e.slot)
		}
	}
	return n
}

// thin keeps the strength of a week in season to a third to a half of its work outside
// it, on the one or two days that hold most of it.
func (l *layer) thin() {
	by := l.Facts.By.InSeason
	least, most := float64(l.strengthBase)*by.LeastPercent/100, float64(l.strengthBase)*by.MostPercent/100
	perDay := make([]int, len(l.letters))
	for _, e := range l.strengthEntries() {
		e.rise = 0
		perDay[e.session] += e.dose.Load(e.slot)
	}
	days := make([]int, len(perDay))
	for i := range days {
		days[i] = i
	}
	slices.SortStableFunc(days, func(a, b int) int { return perDay[b] - perDay[a] })
	for _, e := range l.strengthEntries() {
		if slices.Index(days, e.session) >= by.MostDays {
			l.drop(e)
		}
	}
	// From the longest line a set at a time, a push with its pull.
	for float64(l.strength()) > most {
		list := l.strengthEntries()
		slices.SortStableFunc(list, func(a, b *entry) int {
			if a.dose.Sets != b.dose.Sets {
				return b.dose.Sets - a.dose.Sets
			}
			return slices.Index(dearest, a.slot) - slices.Index(dearest, b.slot)
		})
		e := list[0]
		if len(list) == 1 && e.dose.Sets == 1 {
			break
		}
		for _, x := range l.withPartner(e) {
			if x.dose.Sets--; x.dose.Sets == 0 {
				l.drop(x)
			}
		}
	}
	for _, e := range l.strengthEntries() {
		with := l.withPartner(e)
		one := 0
		for _, x := range with {
			one += x.dose.SetVolume()
		}
		for float64(l.strength()) < least && float64(l.strength()+one) <= most {
			for _, x := range with {
				x.dose.Sets++
			}
		}
	}
	for i := range l.asked {
		if a := &l.asked[i]; a.Beside != "" {
			a.Low = l.given(a, false)
			a.High = a.Low
			a.BesideLow, a.BesideHigh, a.Days = 0, 0, 1
		}
	}
}

func (l *layer) strengthEntries() []*entry {
	var out []*entry
	for _, e := range l.entries {
		if e.session != atHome && e.slot.Strength() {
			out = append(out, e)
		}
	}
	return out
}

// withPartner is an entry and, of a push or a pull, the other of its pair.
func (l *layer) withPartner(e *entry) []*entry {
	out := []*entry{e}
	for _, x := range l.entries {
		pair := x.slot == library.SlotPush && e.slot == library.SlotPull || x.slot == library.SlotPull && e.slot == library.SlotPush
		if x.session == e.session && pair {
			out = append(out, x)
		}
	}
	return out
}
