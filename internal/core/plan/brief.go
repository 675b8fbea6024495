package plan

import (
	"slices"
	"strings"

	"dunnock/internal/core/athlete"
	"dunnock/internal/core/civil"
	"dunnock/internal/core/programme"
	"dunnock/internal/core/quality"
)

// Brief is what one block is asked for: when, for what, and within what. A block
// knows nothing of the season around it but this.
type Brief struct {
	Start    civil.Date
	Weeks    int // rising ones and, last, an easier one: 2 to 6
	Phase    programme.Phase
	Emphasis string // the quality, by name, that leads
	Minutes  int    // a session
	Days     []int  // weekdays of the sessions, 0 Monday to 6
	Played   []athlete.Competition
	Assumed  []string // what the golfer's file left open
}

// blockWeeks is the length of a block nobody asked another length for: three
// rising weeks and an easier one (common practice).
const blockWeeks = 4

// assumedMinutes is how long a session is taken to be when nobody said.
const assumedMinutes = 45

// Brief is the brief of a golfer for whom no season is planned: what the file
// asks for, from its start date on.
func (b *Basis) Brief() Brief {
	br := Brief{
		Start: b.start(), Weeks: blockWeeks, Phase: programme.Preparation, Emphasis: emphasis(b.Read),
		Minutes: b.file.Training.Minutes, Played: b.file.Competitions,
	}
	if br.Minutes == 0 {
		br.Minutes = assumedMinutes
		br.assume("Minutes a session are not given: %d are assumed. Say how long in Intake.", assumedMinutes)
	}
	br.chooseDays(b.file.Training)
	return br
}

func emphasis(r *quality.Read) string {
	names := make([]string, len(r.Leaders))
	for i, id := range r.Leaders {
		names[i] = quality.Name(id)
	}
	if len(names) == 0 {
		return "even mix"
	}
	return strings.Join(names, " and ")
}

func (br *Brief) assume(format string, args ...any) { note(&br.Assumed, format, args...) }

func (br *Brief) playsOn(d civil.Date) (string, bool) {
	for _, c := range br.Played {
		if c.Date == d {
			return c.Name, true
		}
	}
	return "", false
}

// widest returns the n of the days whose smallest cyclic gap is largest.
func widest(days []int, n int) (best []int, gap int) {
	gap = -1
	var pick func(from int, chosen []int)
	pick = func(from int, chosen []int) {
		if len(chosen) == n {
			if g := cyclicGap(chosen); g > gap {
				best, gap = slices.Clone(chosen), g
			}
			return
		}
		for i := from; i < len(days); i++ {
			pick(i+1, append(chosen, days[i]))
		}
	}
	pick(0, nil)
	return best, gap
}

func cyclicGap(days []int) int {
	if len(days) < 2 {
		return 7
	}
	g := 7 - days[len(days)-1] + days[0]
	for i := 1; i < len(days); i++ {
		g = min(g, days[i]-days[i-1])
	}
	return g
}

// datesIn returns the dates of the given weekdays in the seven days from start.
func datesIn(start civil.Date, days []int) []civil.Date {
	var out []civil.Date
	for d := range 7 {
		date := start.Add(d)
		if slices.Contains(days, (int(date.Weekday())+6)%7) {
			out = append(out, date)
		}
	}
	return out
}
