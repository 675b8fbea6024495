package plan

import (
	"slices"

	"dunnock/internal/core/athlete"
	"dunnock/internal/core/library"
	"dunnock/internal/core/programme"
)

// mostSessions is how many sessions a week are planned at most.
const mostSessions = 4

// chooseDays chooses the training weekdays: of the allowed ones, those that make
// the smallest gap between sessions largest, ties to the earlier weekday.
func (br *Brief) chooseDays(t athlete.Training) {
	var allowed []int
	for i, d := range athlete.Weekdays {
		if slices.Contains(t.Days, d) {
			allowed = append(allowed, i)
		}
	}
	want := t.Sessions
	if len(allowed) == 0 {
		br.assume("No training days are given: %s are assumed. Set the days in Intake.", dayNames(assumedDays))
		allowed = assumedDays
	}
	if want == 0 {
		want = min(len(allowed), mostSessions)
	}
	if len(allowed) < want {
		br.assume("Only %d training day a week is given: %d wanted.", len(allowed), want)
		want = len(allowed)
	}
	br.Days, _ = widest(allowed, min(want, mostSessions))
}

// kindOfDay says what may be done on a kind of day.
type kindOfDay struct{ lift, jumps, throws, swings, upper bool }

// holds reports whether a slot's work may be done on it.
func (k kindOfDay) holds(slot library.Slot) bool {
	switch slot {
	case library.SlotSwings:
		return k.swings
	case library.SlotJump:
		return k.jumps
	case library.SlotThrow:
		return k.throws
	case library.SlotMain:
		return k.lift
	case library.SlotPush, library.SlotPull:
		return k.upper
	}
	return true
}

var kinds = map[programme.Letter]kindOfDay{
	programme.DayA: {lift: true, jumps: true, throws: true, swings: true, upper: true},
	programme.DayB: {lift: true, jumps: true, throws: true, swings: true, upper: true},
	programme.DayC: {jumps: true, throws: true, swings: true, upper: true},
	programme.DayD: {upper: true},
	programme.DayL: {lift: true, jumps: true, throws: true, swings: true, upper: true},
	programme.DayS: {lift: true, jumps: true, throws: true, swings: true, upper: true},
}

// letters gives each session of a week, in the order of its dates, its kind of
// day: the first order of the school's kinds that puts no two heavy days, nor a
// fast day behind a heavy one, on days that follow each other. Where there is none,
// heavy days become light ones.
func (p *planner) letters() []programme.Letter {
	dates := datesIn(p.brief.Start, p.brief.Days)
	n := len(dates)
	if n == 0 {
		return nil
	}
	gaps := make([]int, n) // days to the session before, around the week
	for i := range dates {
		if i == 0 {
			gaps[i] = 7 - dates[n-1].Sub(dates[0])
		} else {
			gaps[i] = dates[i].Sub(dates[i-1])
		}
	}
	kinds := []programme.Letter{}
	for _, l := range p.stage().Weeks[n-1] {
		kinds = append(kinds, programme.Letter(l))
	}
	for {
		if order, ok := firstOrder(kinds, gaps); ok {
			return order
		}
		// The last heavy day becomes a light one.
		at := -1
		for i, l := range kinds {
			if heavy(l) {
				at = i
			}
		}
		lighter := programme.DayC
		if slices.Contains(kinds, programme.DayC) {
			lighter = programme.DayD
		}
		if heavies(kinds) <= 1 {
			// A fast day behind the one heavy day.
			at, lighter = slices.Index(kinds, programme.DayC), programme.DayD
		}
		kinds[at] = lighter
		p.note("The days follow each other too closely for another heavy day: day %s is planned light.", lighter)
	}
}

func heavy(l programme.Letter) bool { return kinds[l].lift }

func heavies(list []programme.Letter) int {
	n := 0
	for _, l := range list {
		if heavy(l) {
			n++
		}
	}
	return n
}

// firstOrder returns the first order of kinds, in the order of the list, that the
// gaps allow.
func firstOrder(list []programme.Letter, gaps []int) ([]programme.Letter, bool) {
	n := len(list)
	used := make([]bool, n)
	out := make([]programme.Letter, 0, n)
	fits := func(before, now programme.Letter, gap int) bool {
		return gap > 1 || !heavy(before) || !heavy(now) && now != programme.DayC
	}
	var try func() bool
	try = func() bool {
		if len(out) == n {
			return n == 1 || fits(out[n-1], out[0], gaps[0])
		}
		for i := range list {
			if used[i] || len(out) > 0 && !fits(out[len(out)-1], list[i], gaps[len(out)]) {
				continue
			}
			used[i], out = true, append(out, list[i])
			if try() {
				return true
			}
			used[i], out = false, out[:len(out)-1]
		}
		return false
	}
	return out, try()
}
