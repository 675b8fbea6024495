// Package warmup builds what a golfer does before anything is swung fast, lifted or
// played, and after the round: items in phases, a ladder of swings, rules that judge any
// list of items whoever put them there, and the clock of a tee time. It is given the
// golfer as a Person and a Request, and reads nothing else; the lines it chooses from and
// the minutes of its phases are data beside it (lines.json, table.go). Programmes only
// reserve minutes: a session's warm-up is built when the session is shown.
//
// Arithmetic after the handbook's page of exact arithmetic; what is not said there is
// ours, common practice, no source.
package warmup

import (
	"dunnock/internal/core/athlete"
	"dunnock/internal/core/implement"
	"dunnock/internal/core/measure"
	"dunnock/internal/core/readiness"
	"dunnock/internal/core/rulebook"
	"dunnock/internal/core/speed"
)

// Purpose is what the warm-up is for.
type Purpose string

// The purposes.
const (
	Training Purpose = "training" // a session of the programme
	Range    Purpose = "range"
	Tee      Purpose = "tee"
	Strength Purpose = "strength" // a session without fast swings
	After    Purpose = "after"    // after the round
)

// Purposes returns the purposes in the order they are offered.
func Purposes() []Purpose { return []Purpose{Training, Range, Tee, Strength, After} }

// Place is where it is done.
type Place string

// The places.
const (
	Gym     Place = "gym"
	OnRange Place = "range"
	TeeBox  Place = "tee"
	CarPark Place = "car-park"
)

// Places returns the places in the order they are offered.
func Places() []Place { return []Place{Gym, OnRange, TeeBox, CarPark} }

// Phase is a part of a warm-up.
type Phase string

// The phases in their order.
const (
	Raise    Phase = "raise"
	Joints   Phase = "joints"
	Activate Phase = "activate"
	Separate Phase = "separate"
	Jump     Phase = "jump"
	Ladder   Phase = "ladder"
	Cool     Phase = "after"
)

// Phases returns the phases in their order.
func Phases() []Phase { return []Phase{Raise, Joints, Activate, Separate, Jump, Ladder, Cool} }

// What clubs there are to swing.
const (
	OwnDriver = ""      // the own driver, and on a range the bag
	IronsOnly = "irons" // the longest iron ends it
	NoClub    = "none"  // empty hands
)

// Request is what a warm-up is wanted for. Lengths in m, 0 where nothing was said.
type Request struct {
	Purpose      Purpose           `json:"purpose"`
	Minutes      int               `json:"minutes"` // 3 to 40; 1 and 2 give what can be done
	Place        Place             `json:"place"`
	Floor        bool              `json:"floor,omitempty"`    // one may lie down
	CeilingM     float64           `json:"ceilingM,omitempty"` // 0: open air, or not said
	ClearM       float64           `json:"clearM,omitempty"`   // free all round
	Kit          []string          `json:"kit,omitempty"`
	Clubs        string            `json:"clubs,omitempty"`
	Balls        bool              `json:"balls,omitempty"`        // of a range
	Celsius      *float64          `json:"celsius,omitempty"`      // nil: not said
	FastFollows  bool              `json:"fastFollows,omitempty"`  // fast swings stand in the session
	WithoutHeavy bool              `json:"withoutHeavy,omitempty"` // a heavy implement stays in the bag
	Seated       bool              `json:"seated,omitempty"`       // starts seated: a back with a history
	Drills       bool              `json:"drills,omitempty"`       // rounds of ten drill swings, balance at the end
	Group        int               `json:"group,omitempty"`        // how many stand in line; 0 and 1: alone
	Readiness    readiness.Answers `json:"readiness,omitzero"`
	Tee          string            `json:"tee,omitempty"`  // HH:MM
	Walk         int               `json:"walk,omitempty"` // minutes to the tee
	Wait         int               `json:"wait,omitempty"` // minutes of waiting on it
}

// Person is what a warm-up depends on of a golfer.
type Person struct {
	Child      bool `json:"child"` // under 13
	Junior     bool `json:"junior"`
	Senior     bool `json:"senior"` // 60 and over
	Novice     bool `json:"novice"`
	HeightM    float64
	Limits     []athlete.Limit
	Restricted []Restricted // joints clearly short, the largest gap first
	ColdStart  *speed.ColdStart
	Own        implement.Implement   // driver
	Implements []implement.Implement // beside it
	OtherSide  bool                  // swings from the other side are asked for
	RedFlag    string                // nothing is done
}

// Restricted is a side of a joint that is clearly short.
type Restricted struct {
	Test string
	Side measure.Side
	For  string // "lead hip turns in, 21.5° to 35°"
}

// usualHeight is taken for a golfer whose height was not measured, in m.
const usualHeight = 1.80

func (p *Person) height() float64 {
	if p.HeightM > 0 {
		return p.HeightM
	}
	return usualHeight
}

// careful reports whether fast swings are fewer: novices, juniors, 60 and over.
func (p *Person) careful() bool { return p.Novice || p.Junior || p.Senior }

// Item is one thing to do. Its seconds hold the change to it.
type Item struct {
	ID          string `json:"id"`
	Phase       Phase  `json:"phase"`
	Line        string `json:"line,omitempty"` // of the catalogue; swings have none
	Name        string `json:"name"`
	Cue         string `json:"cue,omitempty"`
	Seconds     int    `json:"seconds"`
	Side        string `json:"side"`        // playing, other, lead, trail, toward, away, each, or "" for both at once
	Repetitions int    `json:"repetitions"` // a side
	HoldSeconds int    `json:"holdSeconds"` // of each hold
	Contacts    int    `json:"contacts,omitempty"`
	For         string `json:"for,omitempty"` // the finding it answers

	Swings           int      `json:"swings"`
	IntentPercent    int      `json:"intentPercent"`
	Step             string   `json:"step,omitempty"`
	Implement        string   `json:"implement,omitempty"` // by name
	ImplementID      string   `json:"implementId,omitempty"`
	ImplementPercent *float64 `json:"implementPercent,omitempty"` // heavier than the own driver, %
	Ball             bool     `json:"ball,omitempty"`
	Round            int      `json:"round,omitempty"` // of the ladder, 1 and up
	Stepping         bool     `json:"stepping,omitempty"`
	Wait             bool     `json:"wait,omitempty"` // during a wait on the tee, beyond the minutes

	DoseText string `json:"dose,omitempty"` // what is done, in words; written, never read
}

// Fast reports whether an item is swings at 90% intent or more.
func (it *Item) Fast() bool { return it.Swings > 0 && it.IntentPercent >= fastFrom }

const fastFrom = 90

// WarmUp is a list of items with what the rules say of it.
type WarmUp struct {
	Title        string   `json:"title"`
	Request      Request  `json:"request"`
	Items        []Item   `json:"items"`
	TotalSeconds int      `json:"totalSeconds"` // without what is done in a wait
	FreeSeconds  int      `json:"freeSeconds"`  // of the minutes
	StartAt      string   `json:"startAt,omitempty"`
	OnTeeAt      string   `json:"onTeeAt,omitempty"`
	Dropped      []string `json:"dropped"` // what found no room, in words
	Notes        []string `json:"notes"`
	Rules        []Result `json:"rules"`
	IfLate       *Late    `json:"ifLate,omitempty"`
}

// Late is what goes when some minutes are lost.
type Late struct {
	Minutes int      `json:"minutes"`
	Drops   []string `json:"drops"`
}

// Result is what a rule says of a warm-up.
type Result struct {
	Rule     string            `json:"rule"`
	Name     string            `json:"name"`
	Severity rulebook.Severity `json:"severity"`
	Status   rulebook.Status   `json:"status"`
	Item     string            `json:"item,omitempty"` // id of the first item it is about
	Text     string            `json:"text"`
	Fix      string            `json:"fix,omitempty"` // what applying it does; empty: nothing can be applied
}

// Refusal is a reason to make no warm-up at all.
type Refusal struct{ Text string }

func (r *Refusal) Error() string { return r.Text }
