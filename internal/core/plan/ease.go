package plan

import (
	"dunnock/internal/core/library"
	"dunnock/internal/core/programme"
)

// ease brings every line of the easier week as far below the week before as WAVE
// asks: by sets where that can be, else by repetitions. Range and doses changed by
// hand stay.
func (p *planner) ease(b *programme.Block) {
	last := len(b.Weeks) - 1
	before := last - 1
	for before >= 0 && b.Weeks[before].Kind != programme.Rising {
		before-- // a week with play is no measure
	}
	if before < 0 || b.Weeks[last].Kind != programme.Easier {
		return
	}
	type key struct {
		slot     library.Slot
		exercise string
	}
	lines := func(w *programme.Week) map[key][]*programme.Item {
		out := map[key][]*programme.Item{}
		for si := range w.Sessions {
			for ii := range w.Sessions[si].Items {
				it := &w.Sessions[si].Items[ii]
				if it.Slot != library.SlotRange && !it.Edited {
					out[key{it.Slot, it.Exercise}] = append(out[key{it.Slot, it.Exercise}], it)
				}
			}
		}
		return out
	}
	full, now := lines(&b.Weeks[before]), lines(&b.Weeks[last])
	for k, items := range now {
		if was := full[k]; len(was) == len(items) {
			p.easeLine(items, was)
		}
	}
}

func volume(items []*programme.Item) int {
	n := 0
	for _, it := range items {
		n += it.Dose.Volume()
	}
	return n
}

func (p *planner) easeLine(items, was []*programme.Item) {
	wave := p.Facts.By.Wave
	full := float64(volume(was))
	least, most := full*(1-wave.FallMostPercent/100), full*(1-wave.FallLeastPercent/100)
	for i, it := range items {
		it.Dose.Sets = was[i].Dose.Sets
		if it.Dose.Reserve == nil {
			it.Dose.Reps, it.Dose.Seconds = was[i].Dose.Reps, was[i].Dose.Seconds
		}
	}
	// A set off the longest, then shorter sets.
	for float64(volume(items)) > most+1e-9 {
		longest := items[0]
		for _, it := range items {
			if it.Dose.Sets > longest.Dose.Sets {
				longest = it
			}
		}
		d := &longest.Dose
		switch {
		case d.Sets > 1 && float64(volume(items)-d.SetVolume()) >= least-1e-9:
			d.Sets--
		case !p.shorterSets(items):
			return
		}
	}
}

// shorterSets takes one repetition, or a second, off every set; false where they
// are as short as they may be.
func (p *planner) shorterSets(items []*programme.Item) bool {
	for _, it := range items {
		d := &it.Dose
		switch {
		case d.Unit == library.Seconds && d.Seconds > 5:
			d.Seconds--
		case d.Unit == library.Swings && d.Reps > p.Facts.By.Swings.SetLeast, d.Unit != library.Seconds && d.Unit != library.Swings && d.Reps > 1:
			d.Reps--
		case d.Sets > 1:
			d.Sets--
		default:
			return false
		}
	}
	return true
}
