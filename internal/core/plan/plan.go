// Package plan makes programmes from a golfer's file and changes them by a coach's
// edits. It places nothing without a reason, keeps to the numbers the rulebook
// judges by, and depends on nothing but its input: same file, same programme, byte
// for byte. Ties go to the lower exercise id.
//
// A Basis is what is known of the golfer, worked out once. A Brief is what one
// block is asked for; Block makes the block it asks for. How much there is of each
// slot, what a kind of day holds and in which order a session is cut is the
// school's.
package plan

import (
	"fmt"
	"slices"

	"dunnock/internal/core/athlete"
	"dunnock/internal/core/civil"
	"dunnock/internal/core/library"
	"dunnock/internal/core/method"
	"dunnock/internal/core/programme"
	"dunnock/internal/core/programme/derive"
	"dunnock/internal/core/quality"
	"dunnock/internal/core/rulebook"
	"dunnock/internal/core/school"
)

// A Refusal is why no programme may be drafted at all.
type Refusal struct{ Text string }

func (r *Refusal) Error() string { return r.Text }

// Result is a programme with what it was read from and how it is judged.
type Result struct {
	Read      *quality.Read        `json:"read"`
	Programme *derive.Programme    `json:"programme"`
	Rules     []rulebook.Result    `json:"rules"`
	Doc       *programme.Programme `json:"-"` // what is stored
}

// testedLift is the exercise the trap-bar test speaks of.
const testedLift = "lift-trap-bar"

// Generate makes the programme of a file by a method; the ids of its parts begin
// with the prefix. It returns a *Refusal when none may be drafted: a red flag, or
// a golfer under 13.
func Generate(f *athlete.File, by *method.Method, prefix string) (*Result, error) {
	b, err := BasisOf(f, by)
	if err != nil {
		return nil, err
	}
	j, err := b.Generate(prefix)
	if err != nil {
		return nil, err
	}
	return &Result{Read: b.Read, Programme: j.View, Rules: j.Rules, Doc: j.Doc}, nil
}

// Generate makes the golfer's programme; see the function of the same name.
func (b *Basis) Generate(prefix string) (*Judged, error) {
	f := b.file
	if b.Facts.Clearance.State == athlete.RedFlag {
		return nil, &Refusal{b.Facts.Clearance.Text}
	}
	if f.Athlete.Band(b.start()) == athlete.BandChild {
		return nil, &Refusal{"Under 13 no loading programme is made: group play, running, throwing and catching, twice a week."}
	}
	block, notes := b.Block(b.Brief())
	head := programme.Head{
		Format: programme.Format, Athlete: f.Athlete.Name, AsOf: f.AsOf, StartDate: b.start(),
		School: b.school.ID, LibraryVersion: b.by.Exercises.Version(), RulebookVersion: b.by.Rules.Version(),
		Level: b.Facts.Level, Tier: b.Facts.Tier, Band: f.Athlete.Band(b.start()), Summary: b.Read.Headline, WarmUp: programme.SafeWarmUp(),
		Notes: notes,
	}
	doc := &programme.Programme{Head: head, Blocks: []programme.Block{block}}
	doc.Name(prefix)
	return b.Judge(doc), nil
}

// planner makes or changes one block.
type planner struct {
	*Basis
	brief  Brief
	notes  []string
	chosen map[place]pick
}

// place is a slot on a kind of day.
type place struct {
	letter programme.Letter
	slot   library.Slot
}

func (b *Basis) planner(brief Brief) *planner {
	return &planner{Basis: b, brief: brief, notes: slices.Clone(brief.Assumed), chosen: map[place]pick{}}
}

// Block makes the block a brief asks for, without ids, and says what was assumed
// and left out.
func (b *Basis) Block(brief Brief) (programme.Block, []string) {
	p := b.planner(brief)
	block := programme.Block{Phase: brief.Phase, Emphasis: brief.Emphasis}
	letters := p.letters()
	lines := p.rangeItems(0)
	home := brief.homeDays()
	for w := range brief.Weeks {
		week := programme.Week{Number: w + 1, Kind: programme.Rising, Start: brief.Start.Add(7 * w), Sessions: []programme.Session{}, Home: []programme.HomeDay{}}
		last := w == brief.Weeks-1
		if last {
			week.Kind = programme.Easier
		}
		dates := datesIn(week.Start, brief.Days)
		for i, date := range dates {
			if name, plays := brief.playsOn(date); plays {
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
		if last {
			week.Retest = p.retest(week.Start, dates)
		}
		block.Weeks = append(block.Weeks, week)
	}
	// Cutting to the minutes changes sets, and with them how far a load may be
	// held and repetitions added; the second pass settles both.
	for range 2 {
		p.reserves(&block)
		p.loads(&block)
		p.fit(&block)
		p.ease(&block)
	}
	if p.notes == nil {
		p.notes = []string{}
	}
	return block, p.notes
}

func (p *planner) note(format string, args ...any) { note(&p.notes, format, args...) }

// note says something once.
func note(notes *[]string, format string, args ...any) {
	if n := fmt.Sprintf(format, args...); !slices.Contains(*notes, n) {
		*notes = append(*notes, n)
	}
}

// letters gives each session of a week, in the order of its dates, its kind of
// day. Two sessions on days that follow each other become fast, then heavy.
func (p *planner) letters() []programme.Letter {
	dates := datesIn(p.brief.Start, p.brief.Days)
	switch len(dates) {
	case 1:
		return []programme.Letter{programme.DayA}
	case 3:
		return []programme.Letter{programme.DayA, programme.DayB, programme.DayC}
	}
	switch gap := dates[1].Sub(dates[0]); {
	case gap == 1:
		p.note("The two days follow each other: the first is fast and light, the second heavy.")
		return []programme.Letter{programme.DayC, programme.DayA}
	case gap == 6:
		p.note("The two days follow each other across the week: the later one in the week is fast and light, the next heavy.")
		return []programme.Letter{programme.DayA, programme.DayC}
	}
	return []programme.Letter{programme.DayA, programme.DayB}
}

func (p *planner) retest(start civil.Date, dates []civil.Date) *programme.Retest {
	day := start.Add(6)
	if len(dates) > 0 {
		if d := dates[len(dates)-1].Add(2); d.Before(day) {
			day = d
		}
	}
	tests := []string{}
	for _, t := range p.Read.Tests {
		if t.Status != quality.Untested && t.Status != quality.WasSkipped {
			tests = append(tests, t.Test)
		}
	}
	for _, n := range p.Read.Next {
		if !slices.Contains(tests, n.Test) && len(tests) < 20 {
			tests = append(tests, n.Test)
		}
	}
	return &programme.Retest{Date: day, Tests: tests, Text: "Same tests, same way, same time of day: then see which changes are real."}
}

// session makes the session of a kind of day in a week, from 0.
func (p *planner) session(letter programme.Letter, date civil.Date, week int) programme.Session {
	day := p.school.Days[letter]
	s := programme.Session{Date: date, Letter: letter, Title: day.Title, Budget: p.brief.Minutes, Items: []programme.Item{}}
	// A fast day stays fast and light, unless the school lifts on it and a heavy
	// day does not follow at once.
	lifts := !day.Fast || p.school.LiftOnFastDay && p.hasDay(programme.DayB)
	if day.Fast && lifts {
		s.Title = day.LiftTitle
	}
	slots := p.school.SlotsFor(p.brief.Minutes)
	for _, slot := range library.SlotOrder {
		want := slot
		if slot == library.SlotPush || slot == library.SlotPull {
			want = school.UpperPair
		}
		switch {
		case !slices.Contains(slots, want):
			continue
		case slot == library.SlotRange:
			s.Items = append(s.Items, p.rangeItems(week)...)
			continue
		case slot == library.SlotMain && !lifts, slot == library.SlotSecond && day.Fast:
			continue
		case slot == library.SlotSwings && p.swingsElsewhere(letter):
			continue
		}
		if got := p.choose(place{letter, slot}); got.exercise != nil {
			s.Items = append(s.Items, p.item(got.exercise, place{letter, slot}, week, p.brief.Weeks, got.why))
		}
	}
	return s
}

// hasDay reports whether the week has a day of the letter before this one: with A,
// B and C there is a day between any two sessions.
func (p *planner) hasDay(letter programme.Letter) bool {
	for at := range p.chosen {
		if at.letter == letter {
			return true
		}
	}
	return false
}

// swingsElsewhere reports whether a neighbouring day already has the swings:
// only when two sessions follow each other, and then the fast day swings.
func (p *planner) swingsElsewhere(letter programme.Letter) bool {
	return letter == programme.DayA && p.brief.neighbours()
}
