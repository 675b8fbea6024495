// Package season lays a golfer's year out in blocks, worked backwards from what is peaked
// for: which weeks rise, which are easier, which lead up to an event, follow it or are lost,
// and what part of the year each day lies in. It knows dates and events and nothing of what
// is trained: package plan fills a block when its turn comes.
//
// The same facts and the same season before give the same season. Replan keeps what is done
// or begun and as many blocks after it as the moved dates allow. Weeks run from Monday to
// Sunday. Arithmetic after the handbook's page of exact arithmetic of the season; what is
// not said there is ours, common practice, no source.
package season

import (
	"fmt"

	"dunnock/internal/core/civil"
)

// Event is a competition of one or several days.
type Event struct {
	Name  string     `json:"name"`
	First civil.Date `json:"first"`
	Last  civil.Date `json:"last"`
	Peak  bool       `json:"peak"` // peaked for; otherwise played through
	Main  bool       `json:"main,omitempty"`
}

// Span is a stretch of days, both ends included.
type Span struct {
	From civil.Date `json:"from"`
	To   civil.Date `json:"to"`
}

// Has reports whether a day lies in it.
func (s Span) Has(day civil.Date) bool { return !day.Before(s.From) && !day.After(s.To) }

// Playing is a stretch with so many rounds a week.
type Playing struct {
	Span
	Rounds int `json:"rounds"`
}

// Facts are what a season is made from.
type Facts struct {
	Start   civil.Date
	End     civil.Date // zero: two weeks behind the last peak, twelve weeks without one
	Events  []Event
	Playing []Playing
	Off     []Span // days nothing is trained on: away, holiday, ill or hurt
	Days    []int  // weekdays of the sessions, 0 Monday to 6
	Locked  []Block
}

// Limits of a season, in weeks.
const (
	withoutPeak = 12
	afterPeak   = 2
	MostWeeks   = 52
)

// Kind is what a block is.
type Kind string

// The kinds of block.
const (
	Training   Kind = "block"
	LeadIn     Kind = "lead-in"    // the days before the first Monday: finding the level
	EventWeek  Kind = "event"      // one week, that of the event
	After      Kind = "after"      // the week behind an event that another follows
	Bridge     Kind = "bridge"     // between two close peaks, with its after-week and a taper of seven days
	Hold       Kind = "hold"       // between two peaks a week apart: rest, range, short and fast
	Transition Kind = "transition" // behind the last peak
	Break      Kind = "break"      // two lost weeks or more
	Return     Kind = "return"     // the way back from a break
)

// Phase is a part of the year.
type Phase string

// The phases.
const (
	OffSeason       Phase = "off-season"
	PreSeason       Phase = "pre-season"
	InSeason        Phase = "in-season"
	Taper           Phase = "taper"
	TransitionPhase Phase = "transition"
)

// Row is what a week of a block holds: a rising week by its number, the easier one, a week
// of the taper, or nothing.
type Row string

// The rows that are no rising week.
const (
	EasierRow Row = "easier"
	TaperRow  Row = "taper"
	LostRow   Row = "lost"
	QuietRow  Row = "quiet" // after, hold, transition
)

// RisingRow is the nth rising week, from 1.
func RisingRow(n int) Row { return Row(fmt.Sprint(n)) }

// Rises reports whether the week rises.
func (r Row) Rises() bool { return r >= "1" && r <= "9" }

// Block is some weeks that belong together.
type Block struct {
	Kind   Kind       `json:"kind"`
	Start  civil.Date `json:"start"` // a Monday, but of a lead-in
	Rows   []Row      `json:"rows"`  // a week each
	Phase  Phase      `json:"phase"` // of its first day
	Peak   *Event     `json:"peak,omitempty"`
	Retest civil.Date `json:"retest"` // zero: none
	Locked bool       `json:"locked,omitempty"`
	// Begun says that a block has started or is done: it stays as it is.
	Begun bool `json:"begun,omitempty"`
	// For is what it is expected to be for, by name; a season kept says it.
	For string `json:"for,omitempty"`
}

// LockedBlock is a block of so many weeks from a Monday that the coach set.
func LockedBlock(start civil.Date, weeks int) Block {
	return Block{Kind: Training, Start: start, Rows: rows(max(weeks, 1), false), Locked: true}
}

// Weeks is how long it is.
func (b *Block) Weeks() int { return len(b.Rows) }

// End is its last day.
func (b *Block) End() civil.Date { return b.Start.Monday().Add(7*len(b.Rows) - 1) }

// Rising is how many weeks of it rise.
func (b *Block) Rising() int {
	n := 0
	for _, r := range b.Rows {
		if r.Rises() {
			n++
		}
	}
	return n
}

// Season is blocks without gaps between them.
type Season struct {
	Start  civil.Date `json:"start"`
	End    civil.Date `json:"end"`
	Blocks []Block    `json:"blocks"`
	Notes  []string   `json:"notes"` // what was assumed, and what is proposed
}

// NextPeak is the first event that is peaked for; nil where there is none.
func (s *Season) NextPeak() *Event {
	for i := range s.Blocks {
		if s.Blocks[i].Peak != nil {
			return s.Blocks[i].Peak
		}
	}
	return nil
}

// An Error says which fact cannot be.
type Error struct{ Field, Text string }

func (e *Error) Error() string { return e.Text }

// Check says what cannot be about the facts.
func (f *Facts) Check() error {
	switch {
	case f.Start.IsZero():
		return &Error{"start", "a season has a first day"}
	case len(f.Days) == 0:
		return &Error{"days", "a season needs days to train on: set them in Intake"}
	case !f.End.IsZero() && f.End.Before(f.Start):
		return &Error{"end", "a season ends behind its first day"}
	}
	for _, e := range f.Events {
		if e.Last.Before(e.First) {
			return &Error{"events", e.Name + " ends before it begins"}
		}
	}
	return nil
}

// Plan lays a season out.
func Plan(f Facts) (*Season, error) { return Replan(f, nil, civil.Date{}) }

// Replan lays a season out anew where dates have moved: what has begun by today stays, and
// of the blocks behind it as many as leave the way to the moved date long enough.
func Replan(f Facts, old *Season, today civil.Date) (*Season, error) {
	if err := f.Check(); err != nil {
		return nil, err
	}
	l := newLayout(f, old, today)
	l.lay()
	return l.season(), nil
}
