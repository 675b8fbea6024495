// Package plan makes programmes from a golfer's file and changes them by a coach's
// edits. It places nothing without a reason, keeps to the numbers the rulebook
// judges by, and depends on nothing but its input: same file, same programme, byte
// for byte. Among exercises that score alike the golfer and the day choose (pick.go).
//
// A Basis is what is known of the golfer, worked out once, with the programme before
// (variety.go). A Brief is what one block is asked for, fitted to the events in it
// (brief.go); Block makes the block it asks for: package budget says what a week asks of
// every quality, the layer lays that out over the sessions (lay.go, give.go, pick.go), cuts
// it to the minutes and fills what is left (fit.go, fill.go), thins it in season
// (season.go), pairs heavy with light (pairs.go), and the block is made of it (block.go): with
// range that climbs (climb.go), more on a weaker side (weaker.go), cuts before play
// (meet.go), loads and reserves (load.go, start.go).
package plan

import (
	"fmt"
	"slices"
	"strings"

	"dunnock/internal/core/athlete"
	"dunnock/internal/core/budget"
	"dunnock/internal/core/library"
	"dunnock/internal/core/method"
	"dunnock/internal/core/programme"
	"dunnock/internal/core/programme/derive"
	"dunnock/internal/core/quality"
	"dunnock/internal/core/rulebook"
)

// A Refusal is why no programme may be drafted at all.
type Refusal struct{ Text string }

func (r *Refusal) Error() string { return r.Text }

// Result is a programme with what it was read from and how it is judged.
type Result struct {
	Read      *quality.Read     `json:"read"`
	Programme *derive.Programme `json:"programme"`
	// Answer is what is given of every quality beside what was asked for, and
	// Unanswered what of the read nothing answers.
	Answer     []budget.Answer        `json:"answer"`
	Unanswered []programme.Unanswered `json:"unanswered"`
	Rules      []rulebook.Result      `json:"rules"`
	Doc        *programme.Programme   `json:"-"` // what is stored
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
	return &Result{Read: b.Read, Programme: j.View, Answer: j.Answer, Unanswered: append([]programme.Unanswered{}, j.Doc.Unanswered...), Rules: j.Rules, Doc: j.Doc}, nil
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
	made := b.Block(b.Brief())
	head := programme.Head{
		Format: programme.Format, Athlete: f.Athlete.Name, AsOf: f.AsOf, StartDate: b.start(),
		School: b.school.ID, LibraryVersion: b.by.Exercises.Version(), RulebookVersion: b.by.Rules.Version(),
		Level: b.Facts.Level, Tier: b.Facts.Tier, Band: f.Athlete.Band(b.start()), Summary: b.Read.Headline,
		Notes: made.Notes, Asked: made.Asked, Unanswered: made.Unanswered,
		Before: b.before, Weaker: made.Weaker, Working: b.working,
	}
	if out := b.Outside(); len(out) > 0 {
		head.Notes = append([]string{b.school.Name + " is not meant for this golfer as they are. " + strings.Join(out, " ")}, head.Notes...)
	}
	if b.turned != nil {
		head.Notes = append(append([]string{}, b.turned.notes...), head.Notes...)
	}
	doc := &programme.Programme{Head: head, Blocks: []programme.Block{made.Block}}
	doc.Name(prefix)
	return b.checked(b.Judge(doc), prefix), nil
}

// checked mends what a made plan still breaks: cuts before play and lost days can leave what
// no single step of making it sees. What is mended here was changed by nobody's hand.
func (b *Basis) checked(j *Judged, prefix string) *Judged {
	broken := func(r rulebook.Result) bool {
		return r.Status == rulebook.Broken && r.Severity != rulebook.Advice && r.Rule != "CLEAR"
	}
	if !slices.ContainsFunc(j.Rules, broken) {
		return j
	}
	j = b.settle(j, prefix)
	doc := j.Doc.Clone()
	doc.EachItem(func(it *programme.Item) { it.Edited = false })
	return b.Judge(doc)
}

// planner makes or changes one block.
type planner struct {
	*Basis
	brief  Brief
	kinds  []programme.WeekKind // of the brief's weeks
	course course
	notes  []string
}

// place is a slot on a kind of day.
type place struct {
	letter programme.Letter
	slot   library.Slot
}

func (b *Basis) planner(brief Brief) *planner {
	// The days in the order they come: the week begins on the block's first day.
	first := (int(brief.Start.Weekday()) + 6) % 7
	brief.Days = slices.Clone(brief.Days)
	slices.SortFunc(brief.Days, func(a, b int) int { return (a-first+7)%7 - (b-first+7)%7 })
	weeks := brief.kinds()
	return &planner{Basis: b, brief: brief, kinds: weeks, course: courseOf(weeks, brief.steps()), notes: slices.Clone(brief.Assumed)}
}

// A Made block is a block without ids, with what was asked of it, what of the read
// it leaves unanswered, and what was assumed and left out.
type Made struct {
	Block      programme.Block
	Asked      []programme.Asked
	Unanswered []programme.Unanswered
	Notes      []string
	Weaker     map[string]string // by test, the side that gets more
}

// person is what the doses depend on beside the read.
func (b *Basis) person() budget.Person {
	return budget.Person{Novice: b.Facts.Tier == athlete.Novice, Junior: b.Facts.Junior, Senior: b.Facts.Senior}
}

// Block makes the block a brief asks for.
func (b *Basis) Block(brief Brief) *Made {
	asked := b.towardUpper(budget.Doses().Ask(b.Read, b.person(), b.stage(), brief.time()))
	made, cut := b.blockOf(brief, asked)
	for cut {
		// What the school raises without its being short is the first to go.
		at := raised(asked)
		if at < 0 {
			break
		}
		asked = budget.Doses().Unraised(asked, at)
		made, cut = b.blockOf(brief, asked)
	}
	return made
}

// raised is the index of the last quality that is raised, −1 where there is none.
func raised(asked []programme.Asked) int {
	for i := len(asked) - 1; i >= 0; i-- {
		if asked[i].Raised {
			return i
		}
	}
	return -1
}

// blockOf makes a block of what is asked; it reports whether the minutes cut anything.
func (b *Basis) blockOf(brief Brief, asked []programme.Asked) (*Made, bool) {
	asked = slices.Clone(asked)
	p := b.planner(brief)
	letters := p.letters()
	base := 0
	if brief.Phase == programme.InSeason {
		outside := b.planner(brief)
		base = outside.lay(asked, letters, 0).strength()
	}
	if brief.Phase != programme.Preparation {
		asked = budget.Doses().WithoutLeader(asked)
	}
	if brief.Phase == programme.Tapering {
		for i := range asked {
			asked[i].Low, asked[i].BesideLow = 0, 0
		}
	}
	l := p.lay(asked, letters, base)
	block := l.block()
	for range mostTrims {
		if !l.trim(&block) {
			break
		}
		block = l.block()
	}
	made := &Made{Block: block, Unanswered: l.hold(&block), Asked: l.asked, Notes: p.notes, Weaker: l.weakerSides}
	if made.Notes == nil {
		made.Notes = []string{}
	}
	return made, l.cut || len(l.out) > 0
}

func (p *planner) note(format string, args ...any) { note(&p.notes, format, args...) }

// note says something once.
func note(notes *[]string, format string, args ...any) {
	if n := fmt.Sprintf(format, args...); !slices.Contains(*notes, n) {
		*notes = append(*notes, n)
	}
}
