package plan

import (
	"errors"
	"fmt"
	"slices"
	"strings"

	"dunnock/internal/core/library"
	"dunnock/internal/core/programme"
	"dunnock/internal/core/unit"
)

// EditKind says what an edit does.
type EditKind string

// Kinds of edit.
const (
	EditDose   EditKind = "dose"
	EditSwap   EditKind = "swap"
	EditAdd    EditKind = "add"
	EditRemove EditKind = "remove"
	EditPiece  EditKind = "piece"
	EditMend   EditKind = "mend" // see Basis.Mend
)

// Scope is how far an edit reaches.
type Scope string

// Scopes of an edit: the one place, or the same line in every week from there. A
// dose changed along a line moves as far in every week.
const (
	ScopeCell Scope = "cell"
	ScopeLine Scope = "line"
)

// Edit is one change a coach makes.
type Edit struct {
	Kind     EditKind     `json:"kind"`
	At       programme.ID `json:"at"` // the id of an item; for add and piece, of a session
	Scope    Scope        `json:"scope"`
	Exercise string       `json:"exercise,omitempty"` // for swap and add
	Dose     *DosePatch   `json:"dose,omitempty"`
	Piece    *Piece       `json:"piece,omitempty"` // for piece
	Rule     string       `json:"rule,omitempty"`  // for mend
	Note     string       `json:"note,omitempty"`  // the coach's reason; needed where a blocking rule forbids it
}

// DosePatch changes the given parts of a dose and leaves the rest.
type DosePatch struct {
	Sets             *int     `json:"sets,omitempty"`
	Reps             *int     `json:"reps,omitempty"`
	Seconds          *int     `json:"seconds,omitempty"`
	Reserve          *int     `json:"reserve,omitempty"`
	LoadKg           *float64 `json:"loadKg,omitempty"` // 0 takes the load away
	BallKg           *float64 `json:"ballKg,omitempty"`
	IntentPercent    *int     `json:"intentPercent,omitempty"`
	OtherSideShare   *int     `json:"otherSideShare,omitempty"`
	ImplementPercent *int     `json:"implementPercent,omitempty"`
	RestSeconds      *int     `json:"restSeconds,omitempty"`
	Times            *int     `json:"times,omitempty"`
	BetweenSeconds   *int     `json:"betweenSeconds,omitempty"`
	BalanceSeconds   *int     `json:"balanceSeconds,omitempty"`
	ChokeCm          *int     `json:"chokeCm,omitempty"`
	Clubs            *int     `json:"clubs,omitempty"`
	InTurn           *bool    `json:"inTurn,omitempty"`
}

// An EditError says which part of an edit cannot be done, and why.
type EditError struct{ Field, Text string }

func (e *EditError) Error() string { return e.Text }

func refuse(field, format string, args ...any) error {
	return &EditError{field, fmt.Sprintf(format, args...)}
}

// Apply returns a changed copy of a document with how it is judged; the given one
// is left as it is. Ids of new parts begin with the prefix. The error is an
// *EditError when the edit cannot be done.
func (b *Basis) Apply(doc *programme.Programme, e Edit, prefix string) (*Judged, error) {
	p := b.planner(Brief{Minutes: minutesOf(doc)})
	out := b.Stamp(doc)
	var err error
	switch e.Kind {
	case EditDose:
		err = p.editDose(out, e)
	case EditSwap:
		err = p.swap(out, e)
	case EditAdd:
		err = p.add(out, e)
	case EditRemove:
		err = p.remove(out, e)
	case EditPiece:
		err = p.addPiece(out, e)
	default:
		err = refuse("kind", "there is no edit %q: use dose, swap, add, piece or remove", e.Kind)
	}
	if err != nil {
		return nil, err
	}
	for i := range out.Blocks {
		p.reserves(&out.Blocks[i])
		p.loads(&out.Blocks[i])
	}
	out.Name(prefix)
	return b.Judge(out), nil
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

// targets returns what an edit of an item touches, the item itself first: only
// it, or the same exercise in the same slot and kind of day from its session on,
// to the end of its block.
func targets(doc *programme.Programme, e Edit) ([]programme.Spot, error) {
	spot, ok := doc.Find(e.At)
	if !ok {
		return nil, refuse("at", "that item is not in the programme: it may have changed since")
	}
	out := []programme.Spot{spot}
	if e.Scope != ScopeLine || spot.Session == nil {
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
			if it != spot.Item && sameLine(it, spot.Item) {
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

var doseLimits = map[string][2]float64{
	"sets": {1, 12}, "reps": {1, 30}, "seconds": {5, 180}, "reserve": {0, 10}, "loadKg": {0, 400}, "ballKg": {0, 12},
	"intentPercent": {30, 100}, "otherSideShare": {0, 100}, "implementPercent": {-60, 100}, "restSeconds": {0, 600},
	"times": {1, 30}, "betweenSeconds": {0, 120}, "balanceSeconds": {0, 10}, "chokeCm": {0, 45}, "clubs": {1, 3},
}

func checkRange[T int | float64](field string, v *T) error {
	if v == nil {
		return nil
	}
	l := doseLimits[field]
	if x := float64(*v); x < l[0] || x > l[1] {
		return refuse("dose."+field, "%s of %s is outside %s to %s", field, unit.Compact(x, 2), unit.Compact(l[0], 1), unit.Compact(l[1], 1))
	}
	return nil
}

// shift moves a part of a dose as far as the edited one moves from what it was:
// the wave of a line keeps its shape. The edited one itself gets the value given.
func shift[T int | float64](field string, dst *T, v *T, was T) {
	if v == nil {
		return
	}
	l := doseLimits[field]
	*dst = T(min(max(float64(*dst)+float64(*v)-float64(was), l[0]), l[1]))
}

// changeDose moves a dose as a patch moves the dose was.
func changeDose(d *programme.Dose, x DosePatch, was programme.Dose, driverG float64) {
	shift("sets", &d.Sets, x.Sets, was.Sets)
	if d.Unit == library.Seconds {
		shift("seconds", &d.Seconds, x.Seconds, was.Seconds)
	} else {
		shift("reps", &d.Reps, x.Reps, was.Reps)
	}
	if x.Reserve != nil {
		v := *x.Reserve
		if d.Reserve != nil && was.Reserve != nil {
			v = *d.Reserve
			shift("reserve", &v, x.Reserve, *was.Reserve)
		}
		d.Reserve = &v
	}
	if x.LoadKg != nil {
		v := *x.LoadKg
		switch {
		case v == 0:
			d.LoadKg = nil // taken away everywhere
		case d.LoadKg != nil && was.LoadKg != nil:
			v = *d.LoadKg
			shift("loadKg", &v, x.LoadKg, *was.LoadKg)
			fallthrough
		default:
			v = unit.Round(v, 2)
			d.LoadKg = &v
		}
	}
	shift("ballKg", &d.BallKg, x.BallKg, was.BallKg)
	shift("intentPercent", &d.IntentPercent, x.IntentPercent, was.IntentPercent)
	shift("otherSideShare", &d.OtherSideShare, x.OtherSideShare, was.OtherSideShare)
	shift("restSeconds", &d.RestSeconds, x.RestSeconds, was.RestSeconds)
	shift("implementPercent", &d.ImplementPercent, x.ImplementPercent, was.ImplementPercent)
	shift("times", &d.Times, x.Times, was.Times)
	shift("betweenSeconds", &d.BetweenSeconds, x.BetweenSeconds, was.BetweenSeconds)
	shift("balanceSeconds", &d.BalanceSeconds, x.BalanceSeconds, was.BalanceSeconds)
	shift("chokeCm", &d.ChokeCm, x.ChokeCm, was.ChokeCm)
	shift("clubs", &d.Clubs, x.Clubs, was.Clubs)
	if x.InTurn != nil {
		d.InTurn = *x.InTurn
	}
	if x.ImplementPercent != nil && d.ImplementG > 0 {
		d.ImplementG = int(unit.Round(driverG*(1+float64(d.ImplementPercent)/100), 0))
	}
}

func (d *DosePatch) check() error {
	return errors.Join(
		checkRange("sets", d.Sets), checkRange("reps", d.Reps), checkRange("seconds", d.Seconds), checkRange("reserve", d.Reserve),
		checkRange("loadKg", d.LoadKg), checkRange("ballKg", d.BallKg), checkRange("intentPercent", d.IntentPercent),
		checkRange("otherSideShare", d.OtherSideShare), checkRange("implementPercent", d.ImplementPercent), checkRange("restSeconds", d.RestSeconds),
		checkRange("times", d.Times), checkRange("betweenSeconds", d.BetweenSeconds), checkRange("balanceSeconds", d.BalanceSeconds),
		checkRange("chokeCm", d.ChokeCm), checkRange("clubs", d.Clubs))
}

func (p *planner) editDose(prog *programme.Programme, e Edit) error {
	if e.Dose == nil {
		return refuse("dose", "say what to change of the dose")
	}
	if err := e.Dose.check(); err != nil {
		return err
	}
	spots, err := targets(prog, e)
	if err != nil {
		return err
	}
	was := spots[0].Item.Dose
	for _, spot := range spots {
		it := spot.Item
		changeDose(&it.Dose, *e.Dose, was, p.file.Athlete.DriverMassG)
		if e.Dose.ChokeCm != nil || e.Dose.Clubs != nil {
			p.moment(&it.Dose)
		}
		it.Edited = true
		if e.Note != "" {
			it.Note = e.Note
		}
	}
	return nil
}

// placeable returns the exercise an edit places, or why it must not be placed: a
// blocking rule lets it in only with a reason.
func (p *planner) placeable(e Edit, exercise string, slot library.Slot) (*library.Exercise, error) {
	x, ok := p.by.Exercises.Find(exercise)
	if !ok {
		return nil, refuse("exercise", "there is no exercise %q", exercise)
	}
	if !x.Fits(slot) {
		return nil, refuse("exercise", "%s does not belong in the %s slot", x.Name, slot.Words())
	}
	rule, why := p.Facts.Forbidden(x)
	if rule != "" && rule != "KIT" && rule != "LEVEL" && strings.TrimSpace(e.Note) == "" {
		return nil, refuse("note", "%s is held back by %s (%s): give a reason to place it all the same", x.Name, rule, why)
	}
	return x, nil
}

// byHand is the reason of an exercise a coach placed.
func (p *planner) byHand(x *library.Exercise, e Edit, verb string) programme.Reason {
	text := "Placed by the coach"
	if e.Note != "" {
		text += ": " + e.Note
	}
	return programme.Reason{Finding: p.finding(x), Rule: "coach's choice (" + verb + ")", Text: strings.TrimSuffix(text, ".") + ".", Source: "coach"}
}

func (p *planner) swap(prog *programme.Programme, e Edit) error {
	spots, err := targets(prog, e)
	if err != nil {
		return err
	}
	x, err := p.placeable(e, e.Exercise, spots[0].Item.Slot)
	if err != nil {
		return err
	}
	old := p.name(spots[0].Item.Exercise)
	for _, spot := range spots {
		// Another exercise is another item: it gets an id of its own.
		c := courseOfBlock(spot.Block)
		next := p.item(x, placeOf(spot), c.step(spot.Week.Number-1), c.weeks, p.byHand(x, e, "instead of "+old))
		lighten(&next, spot.Week.Kind, spot.Item.Dose.Sets)
		next.Note, next.Paired = e.Note, spot.Item.Paired
		if spot.Item.Slot == library.SlotRange && slices.Contains([]string{library.OneSided, library.Directional}, x.Sides) {
			next.Dose.Side = spot.Item.Dose.Side
		}
		*spot.Item = next
	}
	return nil
}

// lighten keeps what a coach places in a taper to so many sets.
func lighten(it *programme.Item, kind programme.WeekKind, sets int) {
	if kind == programme.Taper {
		it.Dose.Sets = min(it.Dose.Sets, sets)
	}
}

// name is what an exercise is called; its id where the library does not have it.
func (p *planner) name(id string) string {
	if x, ok := p.by.Exercises.Find(id); ok {
		return x.Name
	}
	return id
}

func (p *planner) add(prog *programme.Programme, e Edit) error {
	asked, ok := prog.Session(e.At)
	if !ok {
		return refuse("at", "that session is not in the programme: it may have changed since")
	}
	x, ok := p.by.Exercises.Find(e.Exercise)
	if !ok {
		return refuse("exercise", "there is no exercise %q", e.Exercise)
	}
	slot := x.Slots[0]
	if _, err := p.placeable(e, e.Exercise, slot); err != nil {
		return err
	}
	added := false
	p.eachFrom(prog, asked, e.Scope, func(c course, w *programme.Week, s *programme.Session) {
		if slices.ContainsFunc(s.Items, func(it programme.Item) bool { return it.Exercise == x.ID }) {
			return
		}
		it := p.item(x, place{s.Letter, slot}, c.step(w.Number-1), c.weeks, p.byHand(x, e, "added"))
		lighten(&it, w.Kind, max(1, it.Dose.Sets/2))
		it.Note = e.Note
		s.Items = slices.Insert(s.Items, positionOf(slot, s.Items), it)
		added = true
	})
	if !added {
		return refuse("exercise", "%s already stands in this session: change its dose instead", x.Name)
	}
	return nil
}

// eachFrom calls do for the session asked for, and in the scope of a line for those of
// its kind of day after it, to the end of the block.
func (p *planner) eachFrom(prog *programme.Programme, asked *programme.Session, scope Scope, do func(course, *programme.Week, *programme.Session)) {
	for bi := range prog.Blocks {
		b := &prog.Blocks[bi]
		reached, c := false, courseOfBlock(b)
		b.EachSession(func(w *programme.Week, s *programme.Session) {
			reached = reached || s.ID == asked.ID
			if reached && s.Letter == asked.Letter && (scope == ScopeLine || s.ID == asked.ID) {
				do(c, w, s)
			}
		})
	}
}

// positionOf is where a slot's item belongs among others: behind those of its
// own and of earlier slots.
func positionOf(slot library.Slot, items []programme.Item) int {
	for i := range items {
		if slices.Index(library.SlotOrder, items[i].Slot) > slices.Index(library.SlotOrder, slot) {
			return i
		}
	}
	return len(items)
}

func (p *planner) remove(prog *programme.Programme, e Edit) error {
	spots, err := targets(prog, e)
	if err != nil {
		return err
	}
	gone := map[programme.ID]bool{}
	for _, spot := range spots {
		gone[spot.Item.ID] = true
	}
	drop := func(items []programme.Item) []programme.Item {
		return slices.DeleteFunc(items, func(it programme.Item) bool { return gone[it.ID] })
	}
	for bi := range prog.Blocks {
		for wi := range prog.Blocks[bi].Weeks {
			w := &prog.Blocks[bi].Weeks[wi]
			for si := range w.Sessions {
				w.Sessions[si].Items = drop(w.Sessions[si].Items)
			}
			for hi := range w.Home {
				w.Home[hi].Items = drop(w.Home[hi].Items)
			}
		}
	}
	return nil
}
