package rulebook

import (
	"fmt"

	"dunnock/internal/core/athlete"
	"dunnock/internal/core/civil"
	"dunnock/internal/core/library"
	"dunnock/internal/core/programme"
	"dunnock/internal/core/programme/derive"
	"dunnock/internal/core/unit"
)

// volume is what a session counts: repetitions, swings, throws and contacts.
func volume(s *derive.Session, of func(library.Slot) bool) int {
	n := 0
	for i := range s.Items {
		if it := &s.Items[i]; of == nil || of(it.Slot) {
			n += it.Dose.Load(it.Slot)
		}
	}
	return n
}

// PeakAfter returns the first event to peak for on a day or after it.
func (f Facts) PeakAfter(day civil.Date) (athlete.Competition, bool) {
	var first athlete.Competition
	for _, c := range f.Competitions {
		if c.Peak && !c.Date.Before(day) && (first.Date.IsZero() || c.Date.Before(first.Date)) {
			first = c
		}
	}
	return first, !first.Date.IsZero()
}

// taperPart adds up a part of a taper: what it holds, and would have held in rising
// weeks.
type taperPart struct{ volume, base int }

// cut is by how much it falls, in whole %: repetitions are whole too.
func (p taperPart) cut() float64 {
	return unit.Round(100*(1-float64(p.volume)/float64(max(p.base, 1))), 0)
}

// taper judges the days before the event a block ends in.
func (c *checker) taper(b *derive.Block) {
	var first civil.Date
	for wi := range b.Weeks {
		for si := range b.Weeks[wi].Sessions {
			if s := &b.Weeks[wi].Sessions[si]; s.Base > 0 && first.IsZero() {
				first = s.Date
			}
		}
	}
	event, ok := c.f.PeakAfter(first)
	if first.IsZero() || !ok {
		return
	}
	by := c.f.By.Taper
	var far, near taperPart
	due, held := 0, 0
	for wi := range b.Weeks {
		w := &b.Weeks[wi]
		due += w.Due
		for si := range w.Sessions {
			s := &w.Sessions[si]
			days := event.Date.Sub(s.Date)
			if w.Kind == programme.Taper && days > 0 && len(s.Items) > 0 {
				held++
			}
			if days <= 0 || days > by.Days {
				continue
			}
			if days*hoursPerDay < by.LegHours && s.HardLower(c.f.By.Spacing.Landings) {
				c.broken("TAPER", s.Place, "Take the heavy work of the legs out.", "Legs are loaded hard %d hours before %s, %d at the latest.", days*hoursPerDay, event.Name, by.LegHours)
			}
			part := &far
			if days <= by.NearDays {
				part = &near
			}
			part.volume += volume(s, nil)
			part.base += s.Base
		}
	}
	c.cut(b, "in the first days of the taper", far, by.FarLeast, by.FarMost, event.Name)
	c.cut(b, fmt.Sprintf("in the last %d days", by.NearDays), near, by.NearLeast, by.NearMost, event.Name)
	if far.base > 0 && near.base > 0 {
		c.cut(b, "over the whole taper", taperPart{far.volume + near.volume, far.base + near.base}, by.LeastPercent, by.MostPercent, event.Name)
	}
	if float64(100*held) < by.SessionsPercent*float64(due)-floatTolerance {
		c.broken("TAPER", b.Place, "Keep the sessions and shorten them.", "%d of %d sessions are left before %s, at least %s%%.", held, due, event.Name, unit.Text(by.SessionsPercent, 0))
	}
}

func (c *checker) cut(b *derive.Block, when string, p taperPart, least, most float64, event string) {
	if p.base == 0 || p.cut() >= least && p.cut() <= most {
		return
	}
	fix := "Take a set out of the longest lines."
	if p.cut() > most {
		fix = "Give the fast lines a set back."
	}
	c.broken("TAPER", b.Place, fix, "Before %s volume falls by %s%% %s, %s to %s%% is wanted.", event, unit.Text(p.cut(), 0), when, unit.Text(least, 0), unit.Text(most, 0))
}

// inSeason judges the strength of the weeks of a block in season. Where whole sets come
// no nearer, what they give is taken.
func (c *checker) inSeason(b *derive.Block) {
	if b.Phase != programme.InSeason || b.StrengthBase == 0 {
		return
	}
	by := c.f.By.InSeason
	for wi := range b.Weeks {
		w := &b.Weeks[wi]
		if w.Kind != programme.Rising {
			continue
		}
		days, reps, smallest, largest := 0, 0, 0, 0
		for si := range w.Sessions {
			n := volume(&w.Sessions[si], library.Slot.Strength)
			reps += n
			days += min(n, 1)
			for _, it := range w.Sessions[si].Items {
				one := it.Dose.SetVolume()
				if it.Slot == library.SlotPush || it.Slot == library.SlotPull {
					one *= 2 // a push goes with its pull
				}
				if !it.Slot.Strength() || it.Dose.Load(it.Slot) == 0 {
					continue
				}
				if smallest == 0 || one < smallest {
					smallest = one
				}
				largest = max(largest, one)
			}
		}
		if len(w.Sessions) > 0 && (days < by.LeastDays || days > by.MostDays) {
			c.broken("IN-SEASON", w.Place, fmt.Sprintf("Put the strength on %d or %d days.", by.LeastDays, by.MostDays), "Strength is trained on %d days.", days)
		}
		least, most := float64(b.StrengthBase)*by.LeastPercent/100, float64(b.StrengthBase)*by.MostPercent/100
		share := unit.Text(100*float64(reps)/float64(b.StrengthBase), 0)
		switch n := float64(reps); {
		case n > most+floatTolerance && n-float64(smallest) >= least:
			c.broken("IN-SEASON", w.Place, "Take a set of strength out.", "%d repetitions of strength are %s%% of those outside the season, at most %s%%.", reps, share, unit.Text(by.MostPercent, 0))
		case n < least-floatTolerance && n+float64(largest) <= most && days > 0:
			c.broken("IN-SEASON", w.Place, "Give a lift a set more.", "%d repetitions of strength are %s%% of those outside the season, at least %s%%.", reps, share, unit.Text(by.LeastPercent, 0))
		}
	}
}
