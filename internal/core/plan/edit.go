package plan

import (
	"fmt"
	"slices"
	"strings"

	"dunnock/internal/core/civil"
	"dunnock/internal/core/library"
	"dunnock/internal/core/programme"
)

// EditKind says what an edit does.
type EditKind string

// Kinds of edit. What a kind takes stands at Edit.
const (
	EditDose    EditKind = "dose"
	EditSwap    EditKind = "swap"
	EditReplace EditKind = "replace"
	EditAdd     EditKind = "add"
	EditPiece   EditKind = "piece"
	EditRemove  EditKind = "remove"
	EditMove    EditKind = "move"
	EditCopy    EditKind = "copy"
	EditRepeat  EditKind = "repeat"
	EditExtra   EditKind = "extra"
	EditTurns   EditKind = "turns"
	EditLock    EditKind = "lock"
	EditNote    EditKind = "note"
	EditMend    EditKind = "mend" // see Basis.Mend
)

// Scope is how far an edit reaches.
type Scope string

// Scopes of an edit: the one place, or the same line in every week from there. A
// dose changed along a line moves as far in every week.
const (
	ScopeCell Scope = "cell"
	ScopeLine Scope = "line"
)

// Turns is how an item is done with the one before it.
type Turns string

// The ways there are.
const (
	Alone      Turns = "alone"
	Superset   Turns = "superset"    // set by set, no rest between the two
	HeavyLight Turns = "heavy-light" // behind a lift: its rest, then the light set
)

// Edit is one change a coach makes. At is what it is made at, an item where nothing else
// is said; Also are further ones, at which the same is done.
//
//   - dose: Dose, or Text as it is typed (ParseDose); with Also every one gets what is given
//   - swap: another Exercise · replace: Exercise instead of Instead wherever that stands
//   - add: Exercise, piece: Piece, into the session At
//   - remove: items, sessions or a week; those behind a week come a week earlier
//   - move, copy: items into the session or home day To, before the item Before (empty: where
//     their slot belongs; copied over Before where Over is set), or a session to Date, or
//     copied: a week's sessions into the week To
//   - repeat: the week At once more behind it; those after it come a week later
//   - extra: a session on Date, with what stands in the session At, or empty where Empty is set
//   - turns: With, the way it is done with the item before it
//   - lock: items, sessions or weeks, On or off · note: Note at any of them
type Edit struct {
	Kind     EditKind       `json:"kind"`
	At       programme.ID   `json:"at"`
	Also     []programme.ID `json:"also,omitempty"`
	Scope    Scope          `json:"scope"`
	Exercise string         `json:"exercise,omitempty"`
	Instead  string         `json:"instead,omitempty"`
	Dose     *DosePatch     `json:"dose,omitempty"`
	Text     string         `json:"text,omitempty"`
	Piece    *Piece         `json:"piece,omitempty"`
	To       programme.ID   `json:"to,omitempty"`
	Before   programme.ID   `json:"before,omitempty"`
	Over     bool           `json:"over,omitempty"`
	Date     civil.Date     `json:"date,omitzero"`
	Empty    bool           `json:"empty,omitempty"`
	With     Turns          `json:"with,omitempty"`
	On       bool           `json:"on,omitempty"`
	Rule     string         `json:"rule,omitempty"` // for mend
	Note     string         `json:"note,omitempty"` // the coach's reason; needed where a blocking rule forbids it
}

// all is everything the edit is made at.
func (e *Edit) all() []programme.ID { return append([]programme.ID{e.At}, e.Also...) }

// MostAtOnce is how many places one edit may be made at.
const MostAtOnce = 400

// An EditError says which part of an edit cannot be done, and why.
type EditError struct {
	Field, Text string
	// Gone says that a part is not there: somebody may have taken it away meanwhile.
	Gone bool
}

func (e *EditError) Error() string { return e.Text }

func refuse(field, format string, args ...any) error {
	return &EditError{Field: field, Text: fmt.Sprintf(format, args...)}
}

// A Changed programme is one with an edit made, and what was done, in words.
type Changed struct {
	*Judged
	Words string
}

// editor makes an edit on a copy of a document.
type editor struct {
	*planner
	doc    *programme.Programme
	edit   Edit
	locked map[programme.ID]bool
}

var edits = map[EditKind]func(*editor) (string, error){
	EditDose:    (*editor).dose,
	EditSwap:    (*editor).swap,
	EditReplace: (*editor).replace,
	EditAdd:     (*editor).add,
	EditPiece:   (*editor).addPiece,
	EditRemove:  (*editor).remove,
	EditMove:    (*editor).move,
	EditCopy:    (*editor).copy,
	EditRepeat:  (*editor).repeat,
	EditExtra:   (*editor).extra,
	EditTurns:   (*editor).turns,
	EditLock:    (*editor).lock,
	EditNote:    (*editor).note,
}

// Apply returns a changed copy of a document with how it is judged; the given one
// is left as it is. Ids of new parts begin with the prefix. The error is an
// *EditError when the edit cannot be done.
func (b *Basis) Apply(doc *programme.Programme, e Edit, prefix string) (*Changed, error) {
	make, ok := edits[e.Kind]
	if !ok {
		kinds := []string{}
		for k := range edits {
			kinds = append(kinds, string(k))
		}
		slices.Sort(kinds)
		return nil, refuse("kind", "there is no edit %q: use one of %s", e.Kind, strings.Join(kinds, ", "))
	}
	if len(e.Also) > MostAtOnce {
		return nil, refuse("also", "%d places at once are too many: %d are the most", len(e.Also)+1, MostAtOnce)
	}
	ed := &editor{b.workingOf(doc).planner(Brief{Minutes: minutesOf(doc)}), b.Stamp(doc), e, doc.Locked()}
	words, err := make(ed)
	if err != nil {
		return nil, err
	}
	if e.Kind != EditSwap && e.Kind != EditReplace {
		alone(doc, ed.doc)
	}
	for i := range ed.doc.Blocks {
		ed.reserves(&ed.doc.Blocks[i])
		ed.loads(&ed.doc.Blocks[i])
	}
	ed.doc.Name(prefix)
	return &Changed{b.Judge(ed.doc), upper(words)}, nil
}

// free refuses what is locked, or what lies in it.
func (ed *editor) free(id programme.ID) error {
	if ed.locked[id] {
		return refuse("at", "%s is locked: unlock it first", ed.called(id))
	}
	return nil
}

// called is how a part is named in a message.
func (ed *editor) called(id programme.ID) string {
	if spot, ok := ed.doc.Find(id); ok {
		return ed.name(spot.Item.Exercise)
	}
	if s, ok := ed.doc.Session(id); ok {
		return "the session on " + s.Date.Words()
	}
	if _, w := ed.doc.Week(id); w != nil && w.ID == id {
		return fmt.Sprintf("week %d", w.Number)
	}
	return "this"
}

// missing refuses what is not there.
func missing(field, what string) error {
	return &EditError{Field: field, Text: "that " + what + " is not in the programme: it may have changed since", Gone: true}
}

// several words one thing, or how many.
func several(one string, n int, many string) string {
	if n == 1 {
		return one
	}
	return fmt.Sprintf("%d %s", n, many)
}

// Alternatives ranks what could stand at a place: for the id of an item, its
// slot's exercises; for that of a session, those of the given slot.
func (b *Basis) Alternatives(doc *programme.Programme, at programme.ID, slot library.Slot) ([]Alternative, error) {
	p := b.planner(Brief{Minutes: minutesOf(doc)})
	if spot, ok := doc.Find(at); ok {
		return p.alternatives(placeOf(spot), spot.Item.Exercise), nil
	}
	s, ok := doc.Session(at)
	if !ok {
		return nil, refuse("at", "there is nothing at %q", at)
	}
	if !slices.Contains(library.SlotOrder, slot) {
		return nil, refuse("slot", "there is no slot %q: use one of %v", slot, library.SlotOrder)
	}
	return p.alternatives(place{s.Letter, slot}, ""), nil
}

// minutesOf is the minutes of the document's last session.
func minutesOf(doc *programme.Programme) int {
	m := assumedMinutes
	for i := range doc.Blocks {
		doc.Blocks[i].EachSession(func(_ *programme.Week, s *programme.Session) { m = s.Budget })
	}
	return m
}

// placeOf is the kind of place an item stands in.
func placeOf(spot programme.Spot) place {
	at := place{slot: spot.Item.Slot}
	if spot.Session != nil {
		at.letter = spot.Session.Letter
	}
	return at
}

// targets returns what an edit at an item touches, the item itself first: only it, or the
// same exercise in the same slot and kind of day from its session on, to the end of its
// block. What is locked is left out, and refused where it is the item itself.
func (ed *editor) targets(at programme.ID) ([]programme.Spot, error) {
	spot, ok := ed.doc.Find(at)
	if !ok {
		return nil, missing("at", "item")
	}
	if err := ed.free(at); err != nil {
		return nil, err
	}
	out := []programme.Spot{spot}
	if ed.edit.Scope != ScopeLine || len(ed.edit.Also) > 0 || spot.Session == nil {
		return out, nil
	}
	reached := false
	spot.Block.EachSession(func(w *programme.Week, s *programme.Session) {
		reached = reached || s.ID == spot.Session.ID
		if !reached || s.Letter != spot.Session.Letter {
			return
		}
		for i := range s.Items {
			it := &s.Items[i]
			if it != spot.Item && sameLine(it, spot.Item) && !ed.locked[it.ID] {
				out = append(out, programme.Spot{Block: spot.Block, Week: w, Session: s, Item: it})
			}
		}
	})
	return out, nil
}

// sameLine reports whether two items are one line of a kind of day: the same exercise in
// the same slot, of swings with the same club and of holds as often.
func sameLine(a, b *programme.Item) bool {
	return a.Slot == b.Slot && a.Exercise == b.Exercise && (a.Dose.Unit != library.Swings || a.Dose.ImplementPercent == b.Dose.ImplementPercent)
}
