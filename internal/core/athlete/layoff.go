package athlete

import (
	"fmt"

	"dunnock/internal/core/civil"
)

// Ramp returns by what share of its usual volume each of the first weeks after a
// lay-off is cut, the first week first (after Caterisano et al. 2019, from memory;
// the weeks are ours).
func (s Situation) Ramp() []float64 {
	switch w := s.OffWeeks; {
	case w < 3:
		return nil
	case w <= 8:
		return []float64{0.3, 0.15}
	case w <= longOff:
		return []float64{0.5, 0.3, 0.15}
	}
	return []float64{0.5, 0.3, 0.2, 0.1}
}

// longOff is from how many weeks off the first weeks are those of a novice, and from
// 40 years on the clearance is asked anew.
const longOff = 26

// LongOff reports whether regular training ended so long ago.
func (s Situation) LongOff() bool { return s.OffWeeks > longOff }

// StaleLoad reports whether a lift of a day sets no loads any more: training has
// ended for three weeks or more, and it is from before the last three.
func (f *File) StaleLoad(lifted civil.Date) bool {
	return f.OffWeeks >= 3 && f.AsOf.Sub(lifted) > 21
}

// askedAnew says why a lay-off asks for a clearance of its own, or "": training
// ended by illness or injury, or for more than half a year at 40 and over.
func (f *File) askedAnew(day civil.Date) string {
	ended := f.AsOf.Add(-7 * f.OffWeeks)
	if c := f.Clearance.Cleared; f.OffWeeks == 0 || c != nil && !c.On.Before(ended) {
		return ""
	}
	switch {
	case f.OffWhy == OffIllness || f.OffWhy == OffInjury:
		return fmt.Sprintf("Training ended %d weeks ago by %s: record who cleared the return, and when, before effort or issuing.", f.OffWeeks, f.OffWhy)
	case f.LongOff() && f.Athlete.BirthDate.YearsOn(day) >= 40:
		return fmt.Sprintf("No regular training for %d weeks at 40 or over: ask for a clearance anew before effort or issuing.", f.OffWeeks)
	}
	return ""
}
