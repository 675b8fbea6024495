package plan

import (
	"math"
	"slices"

	"dunnock/internal/core/library"
	"dunnock/internal/core/programme"
	"dunnock/internal/core/programme/derive"
	"dunnock/internal/core/school"
	"dunnock/internal/core/unit"
)

// ease brings every line of the easier week as far below the week before as WAVE asks,
// by sets where that can be, else by repetitions: clamps and cuts may have
// taken the table's own fall away.
func (p *planner) ease(b *programme.Block) {
	weeks := b.Weeks
	if len(weeks) < 2 {
		return
	}
	before, easy := &weeks[len(weeks)-2], &weeks[len(weeks)-1]
	for si := range easy.Sessions {
		for ii := range easy.Sessions[si].Items {
			it := &easy.Sessions[si].Items[ii]
			if it.Slot == library.SlotRange || it.Edited {
				continue
			}
			if was := sameLine(before, easy.Sessions[si].Letter, it); was != nil {
				p.easeDose(&it.Dose, was.Dose)
			}
		}
	}
}

func sameLine(w *programme.Week, letter programme.Letter, it *programme.Item) *programme.Item {
	for si := range w.Sessions {
		if w.Sessions[si].Letter != letter {
			continue
		}
		for ii := range w.Sessions[si].Items {
			if o := &w.Sessions[si].Items[ii]; o.Slot == it.Slot && o.Exercise == it.Exercise {
				return o
			}
		}
	}
	return nil
}

func (p *planner) easeDose(d *programme.Dose, was programme.Dose) {
	least, most := p.Facts.By.Wave.FallLeastPercent, p.Facts.By.Wave.FallMostPercent
	inBand := func(x programme.Dose) (off float64, ok bool) {
		down := 100 * (1 - float64(x.Volume())/float64(was.Volume()))
		return math.Abs(down - (least+most)/2), down >= least-1e-7 && down <= most+1e-7
	}
	if _, ok := inBand(*d); ok {
		return
	}
	best, bestOff := *d, math.Inf(1)
	try := func(x programme.Dose) {
		if off, ok := inBand(x); ok && off < bestOff {
			best, bestOff = x, off
		}
	}
	for sets := 1; sets <= was.Sets; sets++ {
		x := *d
		x.Sets = sets
		try(x)
	}
	for sets := was.Sets; sets >= 1 && math.IsInf(bestOff, 1); sets-- {
		for n := 1; n <= max(was.Reps, was.Seconds); n++ {
			x := *d
			x.Sets = sets
			if x.Unit == library.Seconds {
				x.Seconds = n
			} else {
				x.Reps = n
			}
			if x.Unit != library.Swings || n >= p.Facts.By.Swings.SetLeast {
				try(x)
			}
		}
	}
	*d = best
}

// fit makes every session fit its minutes, the same way in all weeks, so that
// the wave stays whole. What is taken out is noted.
func (p *planner) fit(b *programme.Block) {
	for _, letter := range programme.Letters {
		for _, cut := range p.school.Cut {
			longest := 0.0
			b.EachSession(func(_ *programme.Week, s *programme.Session) {
				if s.Letter == letter {
					longest = math.Max(longest, unit.Round(derive.Seconds(s, p.by.Exercises)/60, 1))
				}
			})
			if longest <= float64(p.brief.Minutes) {
				break
			}
			for _, slot := range cut.Slots {
				p.shorten(b, place{letter, slot}, cut)
			}
		}
	}
}

func (p *planner) shorten(b *programme.Block, at place, cut school.Cut) {
	b.EachSession(func(w *programme.Week, s *programme.Session) {
		if s.Letter != at.letter || !slices.ContainsFunc(s.Items, func(it programme.Item) bool { return it.Slot == at.slot }) {
			return
		}
		kept := s.Items[:0:0]
		seen := 0
		for _, it := range s.Items {
			if it.Slot != at.slot {
				kept = append(kept, it)
				continue
			}
			seen++
			switch {
			case cut.Out:
				p.note("Day %s leaves out %s: %d minutes do not hold it.", at.letter, at.slot.Words(), p.brief.Minutes)
				continue
			case cut.Lines > 0 && seen > cut.Lines:
				p.note("Day %s keeps the worst joint's range line; the others are done on the home days.", at.letter)
				continue
			case cut.Sets > 0:
				most := cut.Sets
				if w.Kind == programme.Easier {
					most = max(1, cut.Sets*7/10) // three sets become two, two become one
				}
				it.Dose.Sets = min(it.Dose.Sets, most)
			}
			kept = append(kept, it)
		}
		s.Items = kept
	})
}
