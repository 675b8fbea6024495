// Package load is how much a golfer did and was to do: effort-minutes, hard sets, contacts,
// throws and fast swings, by day and week, and how they run through time (recent and usual,
// monotony, strain). Planned and done go through one arithmetic: Of counts the items of a
// session, whether as they were planned or as they were done (Done). It judges nothing, and
// promises nothing about injury.
package load

import (
	"math"

	"dunnock/internal/core/civil"
	"dunnock/internal/core/library"
	"dunnock/internal/core/programme"
	"dunnock/internal/core/training"
)

// Counts are what a session comes to.
type Counts struct {
	Minutes    float64 `json:"minutes"`    // of the session
	HardSets   int     `json:"hardSets"`   // of lifts, pushes and pulls
	Contacts   int     `json:"contacts"`   // landings
	Throws     int     `json:"throws"`     // of balls
	FastSwings int     `json:"fastSwings"` // as SWINGS counts them
}

// Add returns the sum of two.
func (c Counts) Add(o Counts) Counts {
	return Counts{c.Minutes + o.Minutes, c.HardSets + o.HardSets, c.Contacts + o.Contacts, c.Throws + o.Throws, c.FastSwings + o.FastSwings}
}

// Of counts items; fast is the intent in % from which a swing is fast. Minutes are not of
// the items.
func Of(items []programme.Item, exercises *library.Catalogue, fast int) Counts {
	var c Counts
	for i := range items {
		it := &items[i]
		e, ok := exercises.Find(it.Exercise)
		if !ok {
			continue
		}
		volume := it.Dose.Volume()
		if it.Slot.Strength() {
			c.HardSets += it.Dose.Sets + it.Dose.WeakerSets
		}
		if it.Slot == library.SlotThrow {
			c.Throws += volume
		}
		c.Contacts += e.Landings(volume)
		c.FastSwings += e.FastSwings(volume, it.Dose.Reps, it.Dose.IntentPercent, fast)
	}
	return c
}

// Done are the items of a session as they were done: every item once for each of its sets
// that was, with what that was done with. Warm-up sets and what was skipped are left out; a
// swap is what it was swapped for. Items nothing was noted of are left out too.
func Done(s *programme.Session, l *training.Log) []programme.Item {
	var out []programme.Item
	for i := range s.Items {
		did := l.Item(s.Items[i].ID)
		if did == nil {
			continue
		}
		for _, x := range did.Sets {
			if x.Number < 0 || x.State == training.SetSkippedState {
				continue
			}
			out = append(out, oneSet(&s.Items[i], did, &x))
		}
	}
	return out
}

// oneSet is an item with the dose of one set as it was done.
func oneSet(planned *programme.Item, did *training.ItemDone, x *training.Numbered) programme.Item {
	it := *planned
	if did.Exercise != "" {
		it.Exercise = did.Exercise
	}
	d := &it.Dose
	d.Sets, d.WeakerSets, d.WeakerMore, d.WarmUpSets = 1, 0, 0, nil
	if x.Number > planned.Dose.Sets && planned.Dose.Weaker != "" {
		d.Side = planned.Dose.Weaker // the set only the weaker side gets
	}
	if x.Reps != nil {
		d.Reps = *x.Reps
	}
	if x.Seconds != nil {
		d.Seconds, d.Times = *x.Seconds, 1
	}
	if x.LoadKg != nil && d.BallKg > 0 {
		d.BallKg = *x.LoadKg
	} else if x.LoadKg != nil {
		d.LoadKg = x.LoadKg
	}
	if x.Reserve != nil {
		d.Reserve = x.Reserve
	}
	if n := swings(x); d.Unit == library.Swings && n > 0 {
		d.Reps = n
	}
	return it
}

// swings is how many swings of a set count.
func swings(x *training.Numbered) int {
	n := 0
	for _, s := range x.Swings {
		if !s.Void {
			n++
		}
	}
	return n
}

// Day is a day's load. Load is effort × minutes; nil where something was trained and it is
// not known how hard or how long; 0 on a day of rest.
type Day struct {
	Date    civil.Date `json:"date"`
	Load    *float64   `json:"load"`
	Done    Counts     `json:"done"`
	Planned Counts     `json:"planned"`
	// Sessions are how many were trained, Missed how many were planned and not.
	Sessions int `json:"sessions"`
	Missed   int `json:"missed"`
}

// Week is a week's load.
type Week struct {
	Start   civil.Date `json:"start"`
	Load    *float64   `json:"load"` // nil: a day of it is not known
	Done    Counts     `json:"done"`
	Planned Counts     `json:"planned"`
	// Monotony is the mean of the seven days over their spread, Strain the week's load times
	// it; nil where a day is not known, nothing was trained, or every day was the same.
	Monotony *float64 `json:"monotony"`
	Strain   *float64 `json:"strain"`
	Sessions int      `json:"sessions"`
	Missed   int      `json:"missed"`
}

// Weeks adds days up by week, Monday to Sunday. Days are given in order of time, one each.
func Weeks(days []Day) []Week {
	out := []Week{}
	for i := 0; i < len(days); {
		start := days[i].Date.Monday()
		n := i
		for n < len(days) && days[n].Date.Monday() == start {
			n++
		}
		out = append(out, week(start, days[i:n]))
		i = n
	}
	return out
}

func week(start civil.Date, days []Day) Week {
	w := Week{Start: start}
	sum, known := 0.0, true
	loads := make([]*float64, 0, len(days))
	for i := range days {
		d := &days[i]
		w.Done, w.Planned = w.Done.Add(d.Done), w.Planned.Add(d.Planned)
		w.Sessions, w.Missed = w.Sessions+d.Sessions, w.Missed+d.Missed
		loads = append(loads, d.Load)
		if d.Load == nil {
			known = false
		} else {
			sum += *d.Load
		}
	}
	if known {
		w.Load = &sum
	}
	if m, s, ok := Monotony(loads); ok && len(days) == 7 {
		w.Monotony, w.Strain = &m, &s
	}
	return w
}

// Monotony returns the mean of days' loads over their standard deviation (n − 1), and the
// strain: their sum times that. It is none where a day is unknown (nil), nothing was done or
// all days are alike. Source: Foster 1998, Med Sci Sports Exerc 30(7), from memory; the
// divisor n − 1 is the handbook's.
func Monotony(days []*float64) (monotony, strain float64, ok bool) {
	if len(days) < 2 {
		return 0, 0, false
	}
	sum := 0.0
	for _, d := range days {
		if d == nil {
			return 0, 0, false
		}
		sum += *d
	}
	mean, squares := sum/float64(len(days)), 0.0
	for _, d := range days {
		squares += (*d - mean) * (*d - mean)
	}
	sd := math.Sqrt(squares / float64(len(days)-1))
	if sum == 0 || sd < 1e-9*mean {
		return 0, 0, false
	}
	return mean / sd, sum * mean / sd, true
}

// Spans of smoothing in days: of what is recent and what is usual, and what they may be set
// to; and from which day on the two are shown.
const (
	Recent, RecentLeast, RecentMost = 7, 3, 14
	Usual, UsualLeast, UsualMost    = 28, 14, 56
	ShownFrom                       = 14
	startDays                       = 7
)

// Smooth returns days' loads smoothed over a span of n days: each is λ of the day's and the
// rest of the day before, λ = 2 ÷ (n + 1). It starts from the mean of the known ones of the
// first seven days. An unknown day (nil) carries the one before on. It is nil for the days
// before day 14, where it says nothing yet. Source: exponentially weighted average, Hunter
// 1986, J Quality Technology 18(4), from memory.
func Smooth(days []*float64, n int) []*float64 {
	out := make([]*float64, len(days))
	first, known := 0.0, 0
	for _, d := range days[:min(startDays, len(days))] {
		if d != nil {
			first += *d
			known++
		}
	}
	if known == 0 {
		return out
	}
	at, lambda := first/float64(known), 2/float64(n+1)
	for i, d := range days {
		if d != nil {
			at = lambda**d + (1-lambda)*at
		}
		if i >= ShownFrom-1 {
			v := at
			out[i] = &v
		}
	}
	return out
}

// Fill returns days for every day of a stretch, given what is known of some; the others are
// of rest.
func Fill(days []Day, from, to civil.Date) []Day {
	known := map[civil.Date]Day{}
	for _, d := range days {
		known[d.Date] = d
	}
	out := []Day{}
	for day := from; !day.After(to); day = day.Add(1) {
		d, ok := known[day]
		if !ok {
			zero := 0.0
			d = Day{Date: day, Load: &zero}
		}
		out = append(out, d)
	}
	return out
}
