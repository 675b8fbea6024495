package season

import (
	"slices"

	"dunnock/internal/core/civil"
)

// Days of the year's parts (ours).
const (
	taperDays  = 14
	bridgeDays = 7
	preDays    = 63 // before a taper or the season
)

// In season (ours): competitions that follow each other within so many days, or so many
// rounds a week.
const (
	CloseDays = 28
	RoundsIn  = 2
)

// PhaseOf returns the part of the year a day lies in: the first of taper, transition,
// in-season, pre-season that fits, else off-season. Whether a day is pre-season is its
// block's matter.
func (s *Season) PhaseOf(day civil.Date, f *Facts) Phase {
	for i := range s.Blocks {
		b := &s.Blocks[i]
		if day.Before(b.Start) || day.After(b.End()) {
			continue
		}
		if p := s.fixedPhase(b, day, f); p != "" {
			return p
		}
		return s.phaseOf(b, i, f)
	}
	return OffSeason
}

// fixedPhase is taper, transition or in-season where a day is one of them.
func (s *Season) fixedPhase(b *Block, day civil.Date, f *Facts) Phase {
	for i := range s.Blocks {
		x := &s.Blocks[i]
		if x.Peak == nil {
			continue
		}
		days := taperDays
		if x.Kind == Bridge {
			days = bridgeDays
		}
		if d := x.Peak.First.Sub(day); d <= days && !day.After(x.Peak.Last) && !s.playedSince(day, x.Peak, f) {
			return Taper
		}
	}
	switch {
	case b.Kind == After || b.Kind == Transition:
		return TransitionPhase
	case b.Kind == Bridge || b.Kind == Hold || f.Between(day) || f.Plays(day):
		return InSeason
	}
	return ""
}

// playedSince reports whether an earlier event, or its morrow, lies on a day or behind it
// and before a peak: the taper never runs over it.
func (s *Season) playedSince(day civil.Date, peak *Event, f *Facts) bool {
	for _, e := range f.Events {
		if e.First.Before(peak.First) && !e.Last.Add(1).Before(day) {
			return true
		}
	}
	return false
}

// Between reports whether a day lies between competitions at most CloseDays apart.
func (f *Facts) Between(day civil.Date) bool {
	for _, a := range f.Events {
		for _, b := range f.Events {
			if b.First.After(a.Last) && b.First.Sub(a.Last) <= CloseDays && !day.Before(a.First) && !day.After(b.Last) {
				return true
			}
		}
	}
	return false
}

// Plays reports whether a day lies in weeks with RoundsIn rounds and more.
func (f *Facts) Plays(day civil.Date) bool {
	return slices.ContainsFunc(f.Playing, func(p Playing) bool { return p.Has(day) && p.Rounds >= RoundsIn })
}

// phaseOf is the part of the year a block begins in.
func (s *Season) phaseOf(b *Block, at int, f *Facts) Phase {
	switch b.Kind {
	case EventWeek:
		return Taper
	case After, Transition: // the event itself may lie on its first day
		return TransitionPhase
	}
	if p := s.fixedPhase(b, b.Start, f); p != "" && (p != Taper || b.Rising() == 0) {
		return p
	}
	for day := b.Start; day.Sub(b.Start) <= preDays; day = day.Add(1) {
		for i := at; i < len(s.Blocks); i++ {
			if x := &s.Blocks[i]; !day.Before(x.Start) && !day.After(x.End()) {
				if p := s.fixedPhase(x, day, f); p == Taper || p == InSeason {
					return PreSeason
				}
			}
		}
	}
	return OffSeason
}
