// Package plan makes a four-week programme from a golfer's file and changes one
// by a coach's edits. It places nothing without a reason, keeps to the numbers
// the rulebook judges by, and depends on nothing but its input: same file, same
// programme, byte for byte. Ties go to the lower exercise id.
//
// How many sets and repetitions a slot gets each week is data: doses.json.
package plan

import (
	"fmt"
	"slices"
	"strings"

	"dunnock/internal/core/athlete"
	"dunnock/internal/core/civil"
	"dunnock/internal/core/method"
	"dunnock/internal/core/programme"
	"dunnock/internal/core/quality"
	"dunnock/internal/core/rulebook"
	"dunnock/internal/core/school"
	"dunnock/internal/core/unit"
)

// A Refusal is why no programme may be drafted at all.
type Refusal struct{ Text string }

func (r *Refusal) Error() string { return r.Text }

// Result is a programme with what it was read from and how it is judged.
type Result struct {
	Read      *quality.Read        `json:"read"`
	Programme *programme.Programme `json:"programme"`
	Rules     []rulebook.Result    `json:"rules"`
}

// weeksPerBlock is the length of a block: three rising weeks and an easier one.
const weeksPerBlock = 4

// testedLift is the exercise the trap-bar test speaks of.
const testedLift = "lift-trap-bar"

// planner is everything one plan is made from.
type planner struct {
	f      *athlete.File
	by     *method.Method
	school *school.School
	read   *quality.Read
	facts  rulebook.Facts
	needs  map[string]float64
	mass   float64
	notes  []string
	mins   int
	chosen map[string]pick // letter|slot
}

func newPlanner(f *athlete.File, by *method.Method) (*planner, error) {
	s, err := by.Schools.Find(f.School)
	if err != nil {
		return nil, err
	}
	p := &planner{f: f, by: by, school: s, read: quality.Compute(f, s, nil), needs: map[string]float64{}, chosen: map[string]pick{}}
	start := p.start()
	age := f.Athlete.BirthDate.YearsOn(start)
	limits := by.Rules.Limits()
	p.facts = rulebook.Facts{
		By: limits, Level: f.Athlete.Level(), Tier: f.Athlete.Level().Tier(),
		Junior: age < limits.Junior.Age, Senior: age >= limits.Senior.Age,
		Clearance: f.ClearanceOn(f.AsOf), Limits: f.LimitsOn(start), Kit: f.Training.Kit, Competitions: f.Competitions,
		TestedLift: testedLift, OtherShare: s.OtherSideShare,
	}
	if f.OtherSideShare != nil {
		p.facts.OtherShare = *f.OtherSideShare
	}
	p.facts.NearSpurt = p.facts.Junior && (p.read.Maturity == nil || p.read.Maturity.NearSpurt)
	if p.read.Strength != nil {
		p.facts.OneRM = p.read.Strength.OneRM
	}
	for _, t := range p.read.Tests {
		if t.Test == "mass" && len(t.Sides) == 1 && t.Sides[0].Result != nil {
			p.mass = *t.Sides[0].Result
		}
	}
	for _, q := range p.read.Qualities {
		p.needs[q.ID] = 0.5 * q.Relevance
		if q.Status == quality.Ranked {
			p.needs[q.ID] += max(0, q.Need)
		}
	}
	p.mins = f.Training.Minutes
	if p.mins == 0 {
		p.mins = 45
		p.notes = append(p.notes, "Minutes a session are not given: 45 are assumed. Say how long in Intake.")
	}
	return p, nil
}

func (p *planner) start() civil.Date {
	if p.f.StartDate.IsZero() {
		return p.f.AsOf
	}
	return p.f.StartDate
}

// Facts returns what the rules need to know of the golfer in a file.
func Facts(f *athlete.File, by *method.Method) (rulebook.Facts, error) {
	p, err := newPlanner(f, by)
	if err != nil {
		return rulebook.Facts{}, err
	}
	return p.facts, nil
}

// Generate makes the programme of a file by a method. It returns a *Refusal when none may
// be drafted: a red flag, or a golfer under 13.
func Generate(f *athlete.File, by *method.Method) (*Result, error) {
	p, err := newPlanner(f, by)
	if err != nil {
		return nil, err
	}
	if p.facts.Clearance.State == athlete.RedFlag {
		return nil, &Refusal{p.facts.Clearance.Text}
	}
	if f.Athlete.Band(p.start()) == athlete.BandChild {
		return nil, &Refusal{"Under 13 no loading programme is made: group play, running, throwing and catching, twice a week."}
	}
	prog := p.build()
	prog.Refresh(by.Exercises)
	return &Result{Read: p.read, Programme: prog, Rules: by.Rules.Check(prog, p.facts, by.Exercises)}, nil
}

func (p *planner) build() *programme.Programme {
	prog := &programme.Programme{
		Format: programme.Format, Athlete: p.f.Athlete.Name, AsOf: p.f.AsOf, StartDate: p.start(),
		School: p.school.ID, SchoolName: p.school.Name, LibraryVersion: p.by.Exercises.Version(), RulebookVersion: p.by.Rules.Version(),
		Level: p.facts.Level, Tier: p.facts.Tier, Band: p.f.Athlete.Band(p.start()), Summary: p.read.Headline, WarmUp: programme.SafeWarmUp(),
	}
	days := p.days()
	block := programme.Block{Emphasis: p.emphasis()}
	letters := p.letters(days)
	lines := p.rangeItems(0)
	home := p.homeDays(days)
	for w := range weeksPerBlock {
		week := programme.Week{Number: w + 1, Kind: programme.Rising, Start: p.start().Add(7 * w)}
		if w == weeksPerBlock-1 {
			week.Kind = programme.Easier
		}
		dates := datesIn(week.Start, days)
		for i, date := range dates {
			if name, plays := p.playsOn(date); plays {
				p.note("%s: no session, %s is played.", date.Words(), name)
				continue
			}
			week.Sessions = append(week.Sessions, p.session(letters[i], date, w))
		}
		if len(lines) > 0 {
			for _, date := range datesIn(week.Start, home) {
				week.Home = append(week.Home, programme.HomeDay{Date: date, Items: slices.Clone(lines)})
			}
		}
		if w == weeksPerBlock-1 {
			week.Retest = p.retest(week.Start, dates)
		}
		block.Weeks = append(block.Weeks, week)
	}
	prog.Blocks = []programme.Block{block}
	// Cutting to the minutes changes sets, and with them how far a load may be
	// held and repetitions added; the second pass settles both.
	for range 2 {
		p.reserves(prog)
		p.loads(prog)
		p.fit(prog)
		p.ease(prog)
	}
	prog.Notes = p.notes
	if prog.Notes == nil {
		prog.Notes = []string{}
	}
	return prog
}

func (p *planner) note(format string, args ...any) {
	if n := fmt.Sprintf(format, args...); !slices.Contains(p.notes, n) {
		p.notes = append(p.notes, n)
	}
}

func (p *planner) emphasis() string {
	if q := p.read.Qualities[0]; q.Status == quality.Ranked && q.Need > 0 {
		return q.Name
	}
	return "general base"
}

// days chooses the training weekdays, as offsets 0 (Monday) to 6: of the
// allowed ones, those that make the smallest gap between sessions largest, ties
// to the earlier weekday.
func (p *planner) days() []int {
	want := p.f.Training.Sessions
	if want < 2 {
		want = 2
	}
	want = min(want, 3)
	var allowed []int
	for i, d := range athlete.Weekdays {
		if slices.Contains(p.f.Training.Days, d) {
			allowed = append(allowed, i)
		}
	}
	if len(allowed) == 0 {
		p.note("No training days are given: Monday and Thursday are assumed. Set the days in Intake.")
		allowed, want = []int{0, 3}, 2
	}
	if len(allowed) < want {
		p.note("Only %d training day a week is given: %d wanted.", len(allowed), want)
		want = len(allowed)
	}
	best, gap := widest(allowed, want)
	if want > 2 && gap < 2 {
		p.note("%d sessions on these days leave no day between them: two are planned. Give more days to have three.", want)
		best, _ = widest(allowed, 2)
	}
	return best
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

// letters gives each session of a week, in the order of its dates, its kind of
// day. Two sessions on days that follow each other become fast, then heavy.
func (p *planner) letters(days []int) []string {
	dates := datesIn(p.start(), days)
	switch len(dates) {
	case 1:
		return []string{"A"}
	case 3:
		return []string{"A", "B", "C"}
	}
	switch gap := dates[1].Sub(dates[0]); {
	case gap == 1:
		p.note("The two days follow each other: the first is fast and light, the second heavy.")
		return []string{"C", "A"}
	case gap == 6:
		p.note("The two days follow each other across the week: the later one in the week is fast and light, the next heavy.")
		return []string{"A", "C"}
	}
	return []string{"A", "B"}
}

// homeDays picks two days without a session, as far apart as they can be.
func (p *planner) homeDays(days []int) []int {
	var free []int
	for d := range 7 {
		if !slices.Contains(days, d) {
			free = append(free, d)
		}
	}
	best, _ := widest(free, 2)
	return best
}

func (p *planner) playsOn(d civil.Date) (string, bool) {
	for _, c := range p.f.Competitions {
		if c.Date == d {
			return c.Name, true
		}
	}
	return "", false
}

func (p *planner) retest(start civil.Date, dates []civil.Date) *programme.Retest {
	day := start.Add(6)
	if len(dates) > 0 {
		if d := dates[len(dates)-1].Add(2); d.Before(day) {
			day = d
		}
	}
	tests := []string{}
	for _, t := range p.read.Tests {
		if t.Status != quality.Untested && t.Status != quality.WasSkipped {
			tests = append(tests, t.Test)
		}
	}
	for _, n := range p.read.Next {
		if !slices.Contains(tests, n.Test) && len(tests) < 20 {
			tests = append(tests, n.Test)
		}
	}
	return &programme.Retest{Date: day, Tests: tests, Text: "Same tests, same way, same time of day: then see which changes are real."}
}

var titles = map[string]string{"A": "Side-on throws, vertical jumps, two-leg lift", "B": "Slam throws, sideways jumps, one-leg lift", "C": "Fast and light"}

func (p *planner) session(letter string, date civil.Date, week int) programme.Session {
	s := programme.Session{Date: date, Letter: letter, Title: titles[letter], Budget: p.mins, Items: []programme.Item{}}
	slots := p.school.SlotsFor(p.mins)
	if letter == "C" && p.school.LiftOnFastDay && len(p.chosen) > 0 && p.hasSlotOn("B") {
		s.Title = "Fast throws and jumps, then the lift again"
	}
	for _, slot := range programme.SlotOrder {
		want := slot
		if slot == programme.SlotPush || slot == programme.SlotPull {
			want = "upper-pair"
		}
		if !slices.Contains(slots, want) {
			continue
		}
		if slot == programme.SlotRange {
			s.Items = append(s.Items, p.rangeItems(week)...)
			continue
		}
		if letter == "C" {
			// The third day stays fast and light, unless the school lifts on it and
			// a heavy day does not follow at once.
			if slot == programme.SlotSecond || slot == programme.SlotMain && !(p.school.LiftOnFastDay && p.hasSlotOn("B")) {
				continue
			}
		}
		if slot == programme.SlotSwings && p.swingsElsewhere(letter) {
			continue
		}
		if got := p.choose(letter, slot); got.exercise != nil {
			s.Items = append(s.Items, p.item(got.exercise, slot, letter, week, got.why))
		}
	}
	return s
}

// hasSlotOn reports whether the week has a day of the letter: with A, B and C
// there is a day between any two sessions.
func (p *planner) hasSlotOn(letter string) bool {
	for k := range p.chosen {
		if strings.HasPrefix(k, letter+"|") {
			return true
		}
	}
	return false
}

// swingsElsewhere reports whether a neighbouring day already has the swings:
// only when two sessions follow each other, and then the fast day swings.
func (p *planner) swingsElsewhere(letter string) bool {
	if letter != "A" {
		return false
	}
	days := p.days()
	return len(days) == 2 && cyclicGap(days) == 1
}

func (p *planner) swingCap(d *programme.Dose) {
	for d.Sets > 1 && d.Sets*d.Reps > p.facts.MaxSwings() {
		d.Sets--
	}
}

func round3(v float64) float64 { return unit.Round(v, 3) }
