package plan

import (
	"slices"
	"strconv"
	"strings"

	"dunnock/internal/core/athlete"
	"dunnock/internal/core/budget"
	"dunnock/internal/core/civil"
	"dunnock/internal/core/programme"
	"dunnock/internal/core/quality"
	"dunnock/internal/core/season"
)

// Brief is what one block is asked for: when, for what, and within what. A block
// knows nothing of the season around it but this.
type Brief struct {
	Start    civil.Date
	Weeks    int // rising ones and, last, an easier one, or a taper: 1 to 6
	Phase    programme.Phase
	Emphasis string // the quality, by name, that leads
	Minutes  int    // a session
	Days     []int  // weekdays of the sessions, 0 Monday to 6
	Played   []athlete.Competition
	Peak     *athlete.Competition // the event the block ends in; nil: none
	Assumed  []string             // what the golfer's file left open

	// rows are what each week holds, where a week is lost; nil: as the kinds say.
	rows      []season.Row
	taperDays int  // of the rule TAPER
	pre       bool // before the season, as the school counts it
}

// blockWeeks is the length of a block nobody asked another length for: three
// rising weeks and an easier one (common practice).
const blockWeeks = 4

// Brief is the brief of a golfer for whom no season is planned: what the file
// asks for, from its start date on.
func (b *Basis) Brief() Brief {
	br := Brief{
		Start: b.start(), Weeks: blockWeeks, Phase: programme.Preparation, Emphasis: emphasis(b.Read),
		Minutes: b.file.Training.Minutes, Played: athlete.DaysOfPlay(b.file.Competitions), taperDays: b.Facts.By.Taper.Days,
	}
	if br.Minutes == 0 {
		br.Minutes = assumedMinutes
		br.assume("Minutes a session are not given: %d are assumed. Say how long in Intake.", assumedMinutes)
	}
	if b.file.Athlete.TrainingMonths == 0 {
		br.assume("No months of strength training are given: planned as for somebody new to it. Say how many in Intake.")
	}
	br.chooseDays(b.file.Training)
	f := b.seasonFacts(br.Start, br.Days)
	br.meet(b.file.Competitions, &f)
	br.backwards(f, b.file.Kept)
	return br
}

// backwards gives a block that ends in no event the length the season leaves it: worked
// backwards from what is peaked for behind it, or as long as there are weeks.
func (br *Brief) backwards(f season.Facts, kept *season.Season) {
	if br.Phase != programme.Preparation || br.Start.Monday() != br.Start {
		return
	}
	s, err := season.Replan(f, kept, civil.Date{})
	if err != nil || len(s.Blocks) == 0 {
		return
	}
	first := &s.Blocks[0]
	br.pre = first.Phase == season.PreSeason
	if br.Peak == nil && first.Kind == season.Training && first.Peak == nil && first.Weeks() >= leastWeeks && slices.Contains(first.Rows, season.LostRow) {
		br.rows = first.Rows
		br.assume("A week is lost: the weeks behind it hold what it was to hold, and its easier week is the lost one where that lies among the last two.")
	}
	if br.Peak != nil || first.Kind != season.Training || first.Peak != nil || first.Weeks() < leastWeeks || first.Weeks() == br.Weeks {
		return
	}
	br.Weeks = first.Weeks()
	switch peak := s.NextPeak(); {
	case len(s.Blocks) > 1 && s.Blocks[1].Kind == season.Break:
		br.assume("The block is %d weeks long: nothing can be trained from %s on.", br.Weeks, s.Blocks[1].Start.Words())
	case peak != nil:
		br.assume("The block is %d weeks long: the season is worked backwards from %s on %s.", br.Weeks, peak.Name, peak.First.Words())
	default:
		br.assume("The block is %d weeks long: the season is planned to %s.", br.Weeks, s.End.Words())
	}
}

// leastWeeks is the shortest block that ends in no event: one week rises, one is easier.
const leastWeeks = 2

// seasonFacts are what the golfer's season is made from, from a day on.
func (b *Basis) seasonFacts(start civil.Date, days []int) season.Facts {
	f := season.Facts{Start: start, Days: days}
	for _, c := range b.file.Competitions {
		f.Events = append(f.Events, season.Event{Name: c.Name, First: c.Date, Last: c.End(), Peak: c.Peak, Main: c.Main})
	}
	for _, a := range b.file.Away {
		if !a.Trains {
			f.Off = append(f.Off, season.Span{From: a.From, To: a.To})
		}
	}
	for _, l := range b.file.Locks {
		f.Locked = append(f.Locked, season.LockedBlock(l.Start, l.Weeks))
	}
	for _, p := range b.file.Playing {
		f.Playing = append(f.Playing, season.Playing{Span: season.Span{From: p.From, To: p.To}, Rounds: p.Rounds})
	}
	if !b.file.SeasonEnd.Before(start) {
		f.End = b.file.SeasonEnd
	}
	return f
}

// mostToPeak is the longest block that ends in an event, in weeks: three rising ones
// and the two of the taper.
const mostToPeak = 5

// meet fits the block to the competitions: it ends in the first event to peak for
// that is near enough, and is in season where most of its days lie between events
// that follow each other closely, or in weeks with rounds enough.
func (br *Brief) meet(events []athlete.Competition, f *season.Facts) {
	sorted := slices.SortedFunc(slices.Values(events), func(a, b athlete.Competition) int { return a.Date.Sub(b.Date) })
	for i := range sorted {
		if d := sorted[i].Date.Sub(br.Start); sorted[i].Peak && d >= 0 && d < 7*mostToPeak {
			br.Peak, br.Weeks = &sorted[i], d/7+1
			break
		}
	}
	between, played := 0, 0
	for d := range 7 * br.Weeks {
		switch day := br.Start.Add(d); {
		case f.Between(day):
			between++
		case f.Plays(day):
			played++
		}
	}
	switch {
	case br.Peak != nil && br.kind(0) == programme.Taper:
		br.Phase, br.Emphasis = programme.Tapering, "freshness"
		br.assume("%s is %d days away: the taper starts at once and nothing leads. What the read asks for is taken up behind it.", br.Peak.Name, br.Peak.Date.Sub(br.Start))
		br.assume("Nothing here is tried for the first time shortly before play: leave out what the golfer does not know.")
	case 2*(between+played) >= 7*br.Weeks && played > between:
		br.Phase, br.Emphasis = programme.InSeason, "even mix"
		br.assume("In season: %d rounds a week and more are played, so nothing leads and strength is kept by a third to a half of its work.", season.RoundsIn)
	case 2*(between+played) >= 7*br.Weeks:
		br.Phase, br.Emphasis = programme.InSeason, "even mix"
		br.assume("In season: events follow each other within %d days, so nothing leads and strength is kept by a third to a half of its work.", season.CloseDays)
	case br.Peak != nil && rising(br.kinds()) < blockWeeks-2:
		br.assume("%s is %d days away: %d rising weeks and its taper are all there is before it.", br.Peak.Name, br.Peak.Date.Sub(br.Start), rising(br.kinds()))
	}
}

// time is the part of the year the block lies in.
func (br *Brief) time() budget.Time {
	switch {
	case br.Phase == programme.InSeason:
		return budget.InSeason
	case br.pre:
		return budget.PreSeason
	}
	return budget.OffSeason
}

// toPeak is how many days a day lies before the event the block ends in: below 0 behind
// it. It reports false where there is none.
func (br *Brief) toPeak(day civil.Date) (int, bool) {
	if br.Peak == nil {
		return 0, false
	}
	return br.Peak.Date.Sub(day), true
}

// kinds is what each week of the block is for.
func (br *Brief) kinds() []programme.WeekKind {
	out := make([]programme.WeekKind, br.Weeks)
	for w := range out {
		out[w] = br.kind(w)
	}
	return out
}

// kind is what a week, from 0, is for.
func (br *Brief) kind(week int) programme.WeekKind {
	start := br.Start.Add(7 * week)
	if week < len(br.rows) {
		switch row := br.rows[week]; {
		case row == season.EasierRow, row == season.LostRow && week >= len(br.rows)-2:
			return programme.Easier
		}
	}
	for _, day := range datesIn(start, br.Days) {
		if d, ok := br.toPeak(day); ok && d <= br.taperDays {
			return programme.Taper
		}
	}
	switch {
	case br.Peak != nil && week == br.Weeks-1:
		return programme.Taper
	case br.Peak == nil && week == br.Weeks-1 && br.rows == nil:
		return programme.Easier
	case slices.ContainsFunc(br.Played, func(c athlete.Competition) bool { d := c.Date.Sub(start); return d >= 0 && d < 7 }):
		return programme.Played
	}
	return programme.Rising
}

// steps says of each week which rising week of the course it holds, from 1; 0 where its kind
// says.
func (br *Brief) steps() []int {
	out := make([]int, br.Weeks)
	for w, row := range br.rows {
		if n, err := strconv.Atoi(string(row)); err == nil && w < br.Weeks {
			out[w] = n
		}
	}
	return out
}

// rising is how many weeks rise.
func rising(kinds []programme.WeekKind) int {
	n := 0
	for _, k := range kinds {
		n += b2i(k == programme.Rising)
	}
	return n
}

// A course is the weeks that doses are read for: the rising ones and one that is
// easier. steps says which of them each week of the block holds.
type course struct {
	steps []int
	weeks int
}

// courseOf returns the course of weeks of these kinds: one that is played through, and
// a taper, is cut from the dose of the rising week before it, which the next goes on
// from.
//
// Where steps say which rising week a week holds, they do: a lost one moves the others.
func courseOf(kinds []programme.WeekKind, steps []int) course {
	if top := slices.Max(append([]int{0}, steps...)); top > 0 {
		c := course{steps: make([]int, len(kinds)), weeks: top + 1}
		last := 0
		for w := range kinds {
			switch {
			case kinds[w] == programme.Played:
				c.steps[w] = last // cut from the one before it
			case steps[w] > 0:
				last = steps[w] - 1
				c.steps[w] = last
			case kinds[w] == programme.Easier:
				c.steps[w] = top
			default:
				c.steps[w] = last
			}
		}
		return c
	}
	c := course{steps: make([]int, len(kinds)), weeks: max(rising(kinds), 1) + 1}
	risen := 0
	for w, k := range kinds {
		switch k {
		case programme.Rising:
			c.steps[w] = risen
			risen++
		case programme.Easier:
			c.steps[w] = c.weeks - 1
		case programme.Taper:
			c.steps[w] = c.weeks - 2
		default:
			c.steps[w] = max(risen-1, 0)
		}
	}
	return c
}

// courseOfBlock is the course of a block that stands.
func courseOfBlock(b *programme.Block) course {
	kinds, steps := make([]programme.WeekKind, len(b.Weeks)), make([]int, len(b.Weeks))
	for i := range b.Weeks {
		kinds[i], steps[i] = b.Weeks[i].Kind, b.Weeks[i].Step
	}
	return courseOf(kinds, steps)
}

// step is the week of the course, from 0, that a week of the block holds.
func (c course) step(week int) int { return c.steps[week] }

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
