package plan

import (
	"encoding/json"
	"errors"
	"fmt"
	"slices"
	"strings"

	"dunnock/internal/core/athlete"
	"dunnock/internal/core/library"
	"dunnock/internal/core/method"
	"dunnock/internal/core/programme"
	"dunnock/internal/core/rulebook"
	"dunnock/internal/core/unit"
)

// Kinds of edit.
const (
	EditDose   = "dose"
	EditSwap   = "swap"
	EditAdd    = "add"
	EditRemove = "remove"
)

// Scopes of an edit: the one place, or the same line in every week from there. A
// dose changed along a line moves as far in every week.
const (
	ScopeCell = "cell"
	ScopeLine = "line"
)

// Edit is one change a coach makes.
type Edit struct {
	Kind     string     `json:"kind"`
	Place    string     `json:"place"` // an item; for add, a session
	Scope    string     `json:"scope"`
	Exercise string     `json:"exercise,omitempty"` // for swap and add
	Dose     *DosePatch `json:"dose,omitempty"`
	Note     string     `json:"note,omitempty"` // the coach's reason; needed where a blocking rule forbids it
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
}

// An EditError says which part of an edit cannot be done, and why.
type EditError struct{ Field, Text string }

func (e *EditError) Error() string { return e.Text }

func refuse(field, format string, args ...any) error {
	return &EditError{field, fmt.Sprintf(format, args...)}
}

// Apply returns a changed copy of a programme and how the rules judge it. The
// given programme is left as it is. The error is an *EditError when the edit
// cannot be done.
func Apply(f *athlete.File, by *method.Method, prog *programme.Programme, e Edit) (*programme.Programme, []rulebook.Result, error) {
	p, err := newPlanner(f, by)
	if err != nil {
		return nil, nil, err
	}
	out, err := clone(prog)
	if err != nil {
		return nil, nil, err
	}
	p.mins = budget(out)
	switch e.Kind {
	case EditDose:
		err = p.editDose(out, e)
	case EditSwap:
		err = p.swap(out, e)
	case EditAdd:
		err = p.add(out, e)
	case EditRemove:
		err = p.remove(out, e)
	default:
		err = refuse("kind", "there is no edit %q: use dose, swap, add or remove", e.Kind)
	}
	if err != nil {
		return nil, nil, err
	}
	p.reserves(out)
	p.loads(out)
	out.Refresh(by.Exercises)
	return out, by.Rules.Check(out, p.facts, by.Exercises), nil
}

// Check judges a stored programme by the golfer's file as it is now.
func Check(f *athlete.File, by *method.Method, prog *programme.Programme) ([]rulebook.Result, error) {
	facts, err := Facts(f, by)
	if err != nil {
		return nil, err
	}
	return by.Rules.Check(prog, facts, by.Exercises), nil
}

// Alternatives ranks what could stand at a place: for an item, its slot's
// exercises; for a session, those of the given slot.
func Alternatives(f *athlete.File, by *method.Method, prog *programme.Programme, place, slot string) ([]Alternative, error) {
	p, err := newPlanner(f, by)
	if err != nil {
		return nil, err
	}
	if it, s, _ := prog.Find(place); it != nil {
		letter := ""
		if s != nil {
			letter = s.Letter
		}
		return p.alternatives(it.Slot, letter, it.Exercise), nil
	}
	s, _ := prog.Session(place)
	if s == nil {
		return nil, refuse("place", "there is nothing at %q", place)
	}
	if !slices.Contains(programme.SlotOrder, slot) {
		return nil, refuse("slot", "there is no slot %q: use one of %s", slot, strings.Join(programme.SlotOrder, ", "))
	}
	return p.alternatives(slot, s.Letter, ""), nil
}

func clone(prog *programme.Programme) (*programme.Programme, error) {
	b, err := json.Marshal(prog)
	if err != nil {
		return nil, err
	}
	var out programme.Programme
	return &out, json.Unmarshal(b, &out)
}

func budget(prog *programme.Programme) int {
	m := 45
	eachSession(prog, func(_ *programme.Week, s *programme.Session) { m = s.Budget })
	return m
}

// targets returns the places an edit of an item touches: the item, or the same
// exercise in the same slot and kind of day from its week on.
func targets(prog *programme.Programme, e Edit) ([]string, *programme.Item, error) {
	it, s, _ := prog.Find(e.Place)
	if it == nil {
		return nil, nil, refuse("place", "there is no item at %q: the programme may have changed since", e.Place)
	}
	if e.Scope != ScopeLine || s == nil {
		return []string{e.Place}, it, nil
	}
	var places []string
	reached := false
	eachSession(prog, func(_ *programme.Week, other *programme.Session) {
		reached = reached || other.Place == s.Place
		if !reached || other.Letter != s.Letter {
			return
		}
		for i := range other.Items {
			if other.Items[i].Slot == it.Slot && other.Items[i].Exercise == it.Exercise {
				places = append(places, other.Items[i].Place)
			}
		}
	})
	return places, it, nil
}

var doseLimits = map[string][2]float64{
	"sets": {1, 12}, "reps": {1, 30}, "seconds": {5, 180}, "reserve": {0, 10}, "loadKg": {0, 400}, "ballKg": {0, 12},
	"intentPercent": {30, 100}, "otherSideShare": {0, 100}, "implementPercent": {-60, 100}, "restSeconds": {0, 600},
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
	if x.ImplementPercent != nil && d.ImplementG > 0 {
		d.ImplementG = int(unit.Round(driverG*(1+float64(d.ImplementPercent)/100), 0))
	}
}

func (d *DosePatch) check() error {
	return errors.Join(
		checkRange("sets", d.Sets), checkRange("reps", d.Reps), checkRange("seconds", d.Seconds), checkRange("reserve", d.Reserve),
		checkRange("loadKg", d.LoadKg), checkRange("ballKg", d.BallKg), checkRange("intentPercent", d.IntentPercent),
		checkRange("otherSideShare", d.OtherSideShare), checkRange("implementPercent", d.ImplementPercent), checkRange("restSeconds", d.RestSeconds))
}

func (p *planner) editDose(prog *programme.Programme, e Edit) error {
	if e.Dose == nil {
		return refuse("dose", "say what to change of the dose")
	}
	if err := e.Dose.check(); err != nil {
		return err
	}
	places, edited, err := targets(prog, e)
	if err != nil {
		return err
	}
	was := edited.Dose
	for _, place := range places {
		it, _, _ := prog.Find(place)
		changeDose(&it.Dose, *e.Dose, was, p.f.Athlete.DriverMassG)
		it.Edited = true
		if e.Note != "" {
			it.Note = e.Note
		}
	}
	return nil
}

// placeable returns the exercise an edit names, or why it must not be placed: a
// blocking rule lets it in only with a reason.
func (p *planner) placeable(e Edit, slot string) (*library.Exercise, error) {
	x, ok := p.by.Exercises.Find(e.Exercise)
	if !ok {
		return nil, refuse("exercise", "there is no exercise %q", e.Exercise)
	}
	if !x.Fits(librarySlot(slot)) {
		return nil, refuse("exercise", "%s does not belong in the %s slot", x.Name, slotNames[slot])
	}
	rule, why := p.facts.Forbidden(x)
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
	places, it, err := targets(prog, e)
	if err != nil {
		return err
	}
	x, err := p.placeable(e, it.Slot)
	if err != nil {
		return err
	}
	old := it.Name
	for _, place := range places {
		target, s, _ := prog.Find(place)
		week := weekOf(place)
		letter := ""
		if s != nil {
			letter = s.Letter
		}
		next := p.item(x, target.Slot, letter, week, p.byHand(x, e, "instead of "+old))
		next.Note = e.Note
		if target.Slot == programme.SlotRange && slices.Contains([]string{library.OneSided, library.Directional}, x.Sides) {
			next.Dose.Side = target.Dose.Side
		}
		*target = next
	}
	return nil
}

// weekOf returns the week, from 0, a place lies in.
func weekOf(place string) int {
	parts := strings.Split(place, ".")
	w := 0
	if len(parts) > 1 {
		_, _ = fmt.Sscanf(parts[1], "w%d", &w)
	}
	return max(0, w-1)
}

func (p *planner) add(prog *programme.Programme, e Edit) error {
	s, _ := prog.Session(e.Place)
	if s == nil {
		return refuse("place", "there is no session at %q: the programme may have changed since", e.Place)
	}
	x, ok := p.by.Exercises.Find(e.Exercise)
	if !ok {
		return refuse("exercise", "there is no exercise %q", e.Exercise)
	}
	slot := x.Slots[0]
	if _, err := p.placeable(e, slot); err != nil {
		return err
	}
	letter, place := s.Letter, s.Place
	reached, added := false, 0
	eachSession(prog, func(w *programme.Week, s *programme.Session) {
		reached = reached || s.Place == place
		if !reached || s.Letter != letter || (e.Scope != ScopeLine && s.Place != place) {
			return
		}
		if slices.ContainsFunc(s.Items, func(it programme.Item) bool { return it.Exercise == x.ID }) {
			return
		}
		it := p.item(x, slot, letter, w.Number-1, p.byHand(x, e, "added"))
		it.Note = e.Note
		at := len(s.Items)
		for i := range s.Items {
			if slices.Index(programme.SlotOrder, s.Items[i].Slot) > slices.Index(programme.SlotOrder, slot) {
				at = i
				break
			}
		}
		s.Items = slices.Insert(s.Items, at, it)
		added++
	})
	if added == 0 {
		return refuse("exercise", "%s already stands in this session: change its dose instead", x.Name)
	}
	return nil
}

func (p *planner) remove(prog *programme.Programme, e Edit) error {
	places, _, err := targets(prog, e)
	if err != nil {
		return err
	}
	drop := func(items []programme.Item) []programme.Item {
		return slices.DeleteFunc(items, func(it programme.Item) bool { return slices.Contains(places, it.Place) })
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
