// Package training is what was done: the log of a session on the floor.
//
// A log is nothing but its entries. Each is one thing somebody noted about one place of a
// session (a set, a swap, how it felt), with the id its device gave it, so that what is sent
// twice is kept once, and with what that device knew of the place when it was noted. Fold
// makes the log of entries: whatever the order they arrive in and however often, the same
// entries make the same log, and nothing that was noted is ever lost (Log.Told, History).
//
// What may come in: entries and how they are checked and folded, what was done beside what
// was planned (Done), and the log as one session of work (AsSession). What the next dose
// makes of it is package nextdose's; what it adds up to package load's.
package training

import (
	"cmp"
	"encoding/json"
	"fmt"
	"maps"
	"slices"

	"dunnock/internal/core/civil"
	"dunnock/internal/core/programme"
	"dunnock/internal/core/readiness"
)

// What says what an entry is about.
type What string

// The kinds of entry. Set, Swap and LeftOut are of an item.
const (
	Begun   What = "begun"    // Begin: the session is under way
	Ready   What = "ready"    // readiness.Answers
	Version What = "version"  // Taken: as planned, or the easier one
	Space   What = "space"    // Checked: the circle is clear
	Set     What = "set"      // SetDone, of an item and a set's number
	Swap    What = "swap"     // Swapped, of an item
	LeftOut What = "left-out" // Why, of an item
	After   What = "after"    // How: how it was
	Ended   What = "ended"    // End: it is over, broken off, or was missed
)

// Entry is one thing somebody noted.
type Entry struct {
	ID   string       `json:"id"`
	What What         `json:"what"`
	Item programme.ID `json:"item,omitempty"`
	// Number is which set of the item, from 1; warm-up sets count down from −1.
	Number int `json:"number,omitempty"`
	// Value is what was noted; null takes back what stood there.
	Value json.RawMessage `json:"value"`
	// Clock is one more than the highest the device had seen in the log, Seen the entry that
	// stood at the place; "" where it saw none.
	Clock int64  `json:"clock"`
	Seen  string `json:"seen,omitempty"`
	// At is when it was noted by the device's clock, RFC 3339 in UTC, Device which one it was
	// and By who noted it, by name.
	At     string `json:"at"`
	Device string `json:"device"`
	By     string `json:"by,omitempty"`
}

// Begin is where a session is begun: the day it is trained on.
type Begin struct {
	Date civil.Date `json:"date"`
}

// Taken is which version of a session is trained.
type Taken struct {
	Easier bool `json:"easier"`
}

// Checked says that the space was looked at.
type Checked struct {
	Clear bool `json:"clear"`
}

// Swapped is what is done instead of the item's exercise; "" brings its own back.
type Swapped struct {
	Exercise string `json:"exercise"`
	Why      string `json:"why,omitempty"`
}

// Why is why an item was left out.
type Why struct {
	Text string `json:"text,omitempty"`
}

// How is how a session was: effort 0 to 10 for all of it, and for how long.
type How struct {
	Effort  *int   `json:"effort,omitempty"`
	Minutes *int   `json:"minutes,omitempty"`
	Note    string `json:"note,omitempty"`
}

// State is where a session stands.
type State string

// The states. A session nothing was noted of has none.
const (
	Running State = "running"
	Done    State = "done"
	Stopped State = "stopped" // broken off
	Missed  State = "missed"  // not trained, and let go
)

// End is how a session ended.
type End struct {
	State State  `json:"state"`
	Why   string `json:"why,omitempty"`
}

// SetState is what became of a set.
type SetState string

// The states of a set.
const (
	SetDoneState    SetState = "done"
	SetStoppedState SetState = "stopped" // broken off: what was done counts
	SetSkippedState SetState = "skipped"
)

// SetDone is one set as it was done. What was not noted is nil.
type SetDone struct {
	State SetState `json:"state"`
	// AsPlanned says that it was ticked and not typed.
	AsPlanned bool     `json:"asPlanned,omitempty"`
	LoadKg    *float64 `json:"loadKg,omitempty"`  // a ball's too; of one hand where the dose says so
	Reps      *int     `json:"reps,omitempty"`    // of each side, contacts and swings too
	Seconds   *int     `json:"seconds,omitempty"` // held, of each side
	Reserve   *int     `json:"reserve,omitempty"` // left
	Swings    []Swing  `json:"swings,omitempty"`
	GripKg    *float64 `json:"gripKg,omitempty"` // the best of the set
	JumpCm    *float64 `json:"jumpCm,omitempty"` // the highest of the set
	Pain      *Hurt    `json:"pain,omitempty"`
	Note      string   `json:"note,omitempty"`
	// Sure says that an unlikely number was looked at.
	Sure bool `json:"sure,omitempty"`
}

// Hurt is pain in a set.
type Hurt = readiness.Pain

// Swing is one swing of a set, heard by a radar or typed.
type Swing struct {
	Mps   float64 `json:"mps"`
	Other bool    `json:"other,omitempty"` // from the other side
	Void  bool    `json:"void,omitempty"`  // does not count: a slip, lost balance
}

// A Place is what entries are about.
type place struct {
	what   What
	item   programme.ID
	number int
}

func (e *Entry) place() place { return place{e.What, e.Item, e.Number} }

// Log is a session as it was done.
type Log struct {
	State State      `json:"state,omitempty"`
	Why   string     `json:"why,omitempty"` // it was stopped or missed
	Date  civil.Date `json:"date,omitzero"`
	// BegunAt and EndedAt are the times of the first and of the ending entry, RFC 3339.
	BegunAt string             `json:"begunAt,omitempty"`
	EndedAt string             `json:"endedAt,omitempty"`
	Ready   *readiness.Answers `json:"ready,omitempty"`
	Easier  bool               `json:"easier,omitempty"`
	Space   bool               `json:"space,omitempty"`
	How     How                `json:"how"`
	Items   []ItemDone         `json:"items"`
	// Twice are places two devices noted differently without knowing of each other.
	Twice []Twice `json:"twice"`
	// Clock is the highest of its entries, Entries how many there are, and Heads the entry
	// that stands at each place.
	Clock   int64  `json:"clock"`
	Entries int    `json:"entries"`
	Heads   []Head `json:"heads"`
}

// Head is the entry that stands at a place.
type Head struct {
	What   What         `json:"what"`
	Item   programme.ID `json:"item,omitempty"`
	Number int          `json:"number,omitempty"`
	ID     string       `json:"id"`
}

// ItemDone is what was done of an item.
type ItemDone struct {
	Item     programme.ID `json:"item"`
	Exercise string       `json:"exercise,omitempty"` // swapped in
	Why      string       `json:"why,omitempty"`      // it was swapped or left out
	LeftOut  bool         `json:"leftOut,omitempty"`
	Sets     []Numbered   `json:"sets"` // in order; warm-up sets first
}

// Numbered is a set and which one it is.
type Numbered struct {
	Number int `json:"number"`
	SetDone
	By string `json:"by,omitempty"`
}

// Twice is a place that was noted twice: what stands, and what was noted beside it.
type Twice struct {
	Item   programme.ID `json:"item,omitempty"`
	Number int          `json:"number,omitempty"`
	What   What         `json:"what"`
	Stands string       `json:"stands"` // in words, with who noted it
	Beside string       `json:"beside"`
	Entry  string       `json:"entry"` // the id of what was noted beside it
}

// before reports whether an entry gives way to another at the same place.
func before(a, b *Entry) bool {
	return cmp.Or(cmp.Compare(a.Clock, b.Clock), cmp.Compare(a.At, b.At), cmp.Compare(a.ID, b.ID)) < 0
}

// taken reports whether an entry takes back what stood.
func (e *Entry) taken() bool { return len(e.Value) == 0 || string(e.Value) == "null" }

// Sorted are entries in the order they are told in, each id once.
func Sorted(entries []Entry) []Entry {
	byID := map[string]Entry{}
	for _, e := range entries {
		if have, ok := byID[e.ID]; !ok || before(&have, &e) {
			byID[e.ID] = e
		}
	}
	return slices.SortedFunc(maps.Values(byID), func(a, b Entry) int {
		if before(&a, &b) {
			return -1
		}
		return 1
	})
}

// Fold makes the log of entries. Entries that cannot be read are passed over: Check keeps
// them from being stored.
func Fold(entries []Entry) *Log {
	l := &Log{Items: []ItemDone{}, Twice: []Twice{}, Heads: []Head{}}
	sorted := Sorted(entries)
	l.Entries = len(sorted)
	heads := map[place]*Entry{}
	seen := map[string]bool{} // entries another one was noted over
	var order []place
	for i := range sorted {
		e := &sorted[i]
		l.Clock = max(l.Clock, e.Clock)
		if _, there := heads[e.place()]; !there {
			order = append(order, e.place())
		}
		heads[e.place()] = e // they come in the order in which one gives way to the next
		if e.Seen != "" {
			seen[e.Seen] = true
		}
	}
	for _, p := range order {
		l.put(heads[p])
		l.Heads = append(l.Heads, Head{p.what, p.item, p.number, heads[p].ID})
	}
	l.twice(sorted, heads, seen)
	l.arrange()
	return l
}

// put takes the entry that stands at a place into the log.
func (l *Log) put(e *Entry) {
	if e.taken() {
		return
	}
	switch e.What {
	case Begun:
		if v, ok := read[Begin](e); ok {
			l.Date, l.BegunAt = v.Date, e.At
			if l.State == "" {
				l.State = Running
			}
		}
	case Ready:
		if v, ok := read[readiness.Answers](e); ok {
			l.Ready = &v
		}
	case Version:
		v, _ := read[Taken](e)
		l.Easier = v.Easier
	case Space:
		v, _ := read[Checked](e)
		l.Space = v.Clear
	case After:
		l.How, _ = read[How](e)
	case Ended:
		if v, ok := read[End](e); ok {
			l.State, l.Why, l.EndedAt = v.State, v.Why, e.At
		}
	case Set:
		if v, ok := read[SetDone](e); ok {
			it := l.item(e.Item)
			it.Sets = append(it.Sets, Numbered{e.Number, v, e.By})
		}
	case Swap:
		v, _ := read[Swapped](e)
		it := l.item(e.Item)
		it.Exercise, it.Why = v.Exercise, v.Why
	case LeftOut:
		v, _ := read[Why](e)
		it := l.item(e.Item)
		it.LeftOut, it.Why = true, v.Text
	}
}

func read[T any](e *Entry) (T, bool) {
	var v T
	err := json.Unmarshal(e.Value, &v)
	return v, err == nil
}

func (l *Log) item(id programme.ID) *ItemDone {
	i := slices.IndexFunc(l.Items, func(x ItemDone) bool { return x.Item == id })
	if i < 0 {
		i = len(l.Items)
		l.Items = append(l.Items, ItemDone{Item: id, Sets: []Numbered{}})
	}
	return &l.Items[i]
}

// Item returns what was done of an item; nil where nothing was noted.
func (l *Log) Item(id programme.ID) *ItemDone {
	i := slices.IndexFunc(l.Items, func(x ItemDone) bool { return x.Item == id })
	if i < 0 {
		return nil
	}
	return &l.Items[i]
}

// arrange brings what was folded into an order that does not hang on when it was noted.
func (l *Log) arrange() {
	for i := range l.Items {
		slices.SortFunc(l.Items[i].Sets, func(a, b Numbered) int { return cmp.Compare(setOrder(a.Number), setOrder(b.Number)) })
	}
	slices.SortFunc(l.Items, func(a, b ItemDone) int { return cmp.Compare(a.Item, b.Item) })
	slices.SortFunc(l.Heads, func(a, b Head) int {
		return cmp.Or(cmp.Compare(a.What, b.What), cmp.Compare(a.Item, b.Item), cmp.Compare(a.Number, b.Number))
	})
	if l.State == "" && len(l.Items) > 0 {
		l.State = Running
	}
}

// setOrder puts warm-up sets, −1 first, before working sets.
func setOrder(n int) int {
	if n < 0 {
		return -1000 - n
	}
	return n
}

// twice finds the places at which an entry stands that does not know of another one.
func (l *Log) twice(sorted []Entry, heads map[place]*Entry, seen map[string]bool) {
	for i := range sorted {
		e := &sorted[i]
		head := heads[e.place()]
		if e == head || seen[e.ID] || e.Device == head.Device || e.taken() || head.taken() || string(e.Value) == string(head.Value) {
			continue
		}
		if e.What != Set && e.What != After {
			continue
		}
		l.Twice = append(l.Twice, Twice{e.Item, e.Number, e.What, told(head), told(e), e.ID})
	}
}

// told is an entry in words, with who noted it.
func told(e *Entry) string {
	w := Words(e)
	if e.By != "" {
		w += ", " + e.By
	}
	return w
}

// Hard reports whether any set was noted as done in part at least.
func (l *Log) Hard() bool {
	return slices.ContainsFunc(l.Items, func(it ItemDone) bool {
		return slices.ContainsFunc(it.Sets, func(s Numbered) bool { return s.Number > 0 && s.State != SetSkippedState })
	})
}

// Over reports whether nothing more is to be trained of it.
func (l *Log) Over() bool { return l.State == Done || l.State == Stopped || l.State == Missed }

// Trained reports whether something of it was done.
func (l *Log) Trained() bool { return l.State != Missed && l.State != "" }

// Load is effort × minutes; false where either is not known.
func (l *Log) Load() (float64, bool) {
	if l.How.Effort == nil || l.How.Minutes == nil {
		return 0, false
	}
	return float64(*l.How.Effort * *l.How.Minutes), true
}

// Pains are the places that hurt: those of the day's answers and those of sets.
func (l *Log) Pains() []readiness.Pain {
	var out []readiness.Pain
	if l.Ready != nil {
		out = append(out, l.Ready.Pain...)
	}
	for _, it := range l.Items {
		for _, s := range it.Sets {
			if s.Pain != nil {
				out = append(out, *s.Pain)
			}
		}
	}
	return out
}

// Words is what an entry says, in a few words.
func Words(e *Entry) string {
	if e.taken() {
		return "taken back"
	}
	switch e.What {
	case Set:
		v, _ := read[SetDone](e)
		return v.Words()
	case Swap:
		v, _ := read[Swapped](e)
		if v.Exercise == "" {
			return "its own exercise again"
		}
		return "swapped for " + v.Exercise
	case LeftOut:
		v, _ := read[Why](e)
		return withWhy("left out", v.Text)
	case After:
		v, _ := read[How](e)
		return v.Words()
	case Ended:
		v, _ := read[End](e)
		return withWhy(string(v.State), v.Why)
	case Begun:
		v, _ := read[Begin](e)
		return "begun, for " + v.Date.Words()
	case Ready:
		return "readiness answered"
	case Version:
		if v, _ := read[Taken](e); v.Easier {
			return "the easier version taken"
		}
		return "as planned"
	case Space:
		return "space checked"
	}
	return string(e.What)
}

func withWhy(what, why string) string {
	if why == "" {
		return what
	}
	return fmt.Sprintf("%s: %s", what, why)
}

// BeginOf reads what an entry of Begun says.
func BeginOf(e *Entry) (Begin, error) {
	var v Begin
	return v, json.Unmarshal(e.Value, &v)
}

// Value writes what an entry says.
func Value(v any) json.RawMessage {
	b, err := json.Marshal(v)
	if err != nil {
		panic("training: " + err.Error()) // values are plain
	}
	return b
}
