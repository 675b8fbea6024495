// Package floor is what becomes of a planned session on the day it is trained: the easier
// version its answers propose (Lighten), what is done one after the other with its rests
// (SheetOf), and one session for a class (package class). It makes no plan and keeps no log:
// package plan and package training do. Pure: the same session and answers give the same
// sheet.
package floor

import (
	"fmt"
	"slices"
	"strings"

	"dunnock/internal/core/athlete"
	"dunnock/internal/core/implement"
	"dunnock/internal/core/library"
	"dunnock/internal/core/programme"
	"dunnock/internal/core/programme/derive"
	"dunnock/internal/core/unit"
)

// Kind is what is noted of a set.
type Kind string

// The kinds of set.
const (
	Lift   Kind = "lift"   // a load, repetitions, what was left
	Counts Kind = "counts" // repetitions alone: throws, trunk, range, other jumps
	Jumps  Kind = "jumps"  // repetitions, and the height plates measure
	Swings Kind = "swings" // swings, with speeds where they are heard
	Hold   Kind = "hold"   // seconds
	Grip   Kind = "grip"   // squeezes, and the force a dynamometer measures
)

// Instead is what may stand in an item's place today, with its own dose.
type Instead struct {
	Exercise string         `json:"exercise"`
	Name     string         `json:"name"`
	Why      string         `json:"why,omitempty"` // it is the easier or the harder one
	Dose     programme.Dose `json:"-"`
	DoseText string         `json:"doseText"`
	LoadText string         `json:"loadText"`
	Cues     []string       `json:"cues"`
}

// Piece is one item of the session as it is shown on the floor.
type Piece struct {
	Item     programme.ID `json:"item"`
	Exercise string       `json:"exercise"`
	Name     string       `json:"name"`
	Slot     library.Slot `json:"slot"`
	Zone     library.Zone `json:"zone"`
	Kind     Kind         `json:"kind"`
	DoseText string       `json:"doseText"`
	LoadText string       `json:"loadText"`
	Cues     []string     `json:"cues"`
	Faults   []string     `json:"faults"`
	Reason   string       `json:"reason"`
	Note     string       `json:"note,omitempty"`
	// What each set asks for; nil: nothing.
	Sets    int      `json:"sets"`
	Reps    *int     `json:"reps,omitempty"`
	Seconds *int     `json:"seconds,omitempty"`
	LoadKg  *float64 `json:"loadKg,omitempty"` // a ball's mass too
	StepKg  float64  `json:"stepKg"`           // the smallest step of it
	Reserve *int     `json:"reserve,omitempty"`
	// Finds says that the first session finds its level: begin at about LoadKg, go up until
	// what is asked for is left.
	Finds bool `json:"finds,omitempty"`
	// Fast says that the space is looked at before it; Series names what its swings are
	// measured as: club, side, drill and intent.
	Fast   bool    `json:"fast,omitempty"`
	Series *Series `json:"series,omitempty"`
	// Forbidden is the limit in force, in words, that was not known when the version was
	// issued and forbids the item or its load; "" where none does.
	Forbidden string    `json:"forbidden,omitempty"`
	Instead   []Instead `json:"instead"`
}

// Series is what the swings of an item are measured as.
type Series struct {
	ImplementPercent int `json:"implementPercent"`
	ImplementG       int `json:"implementG,omitempty"`
	IntentPercent    int `json:"intentPercent"`
}

// Step is one thing to do.
type Step struct {
	Item   programme.ID `json:"item"`
	Number int          `json:"number"` // of the set; warm-up sets from −1 down
	Count  string       `json:"count"`  // "set 2 of 4"
	Big    string       `json:"big"`    // the number that is read across the room
	Unit   string       `json:"unit"`   // what it counts
	Load   string       `json:"load,omitempty"`
	LoadKg *float64     `json:"loadKg,omitempty"`
	Reps   *int         `json:"reps,omitempty"`
	WarmUp bool         `json:"warmUp,omitempty"`
	// RestSeconds follow it; 0: the next is done at once. Turn says that the other of two
	// done in turns is next.
	RestSeconds int  `json:"restSeconds"`
	Turn        bool `json:"turn,omitempty"`
	// Playing and Other are how many swings of the set are made from each side.
	Playing int `json:"playing,omitempty"`
	Other   int `json:"other,omitempty"`
	// Timed is the set as a clock runs it; none where it is counted by hand.
	Timed []derive.TimedStep `json:"timed,omitempty"`
}

// Space is the room fast work needs.
type Space struct {
	RadiusM float64  `json:"radiusM"`
	Asks    []string `json:"asks"`
}

// Sheet is a session as it is run.
type Sheet struct {
	Pieces []Piece `json:"pieces"`
	Steps  []Step  `json:"steps"`
	Space  *Space  `json:"space,omitempty"` // nothing in it is fast: none
}

// Gym is what a sheet depends on beside the session.
type Gym struct {
	Bar      Bar
	Dumbbell float64 // smallest step, kg
	DriverM  float64 // length of the longest club that is swung, m; 0: a usual driver
	// Instead are the items that may stand in the place of one, best first.
	Instead func(programme.ID) []programme.Item
	Fast    int             // intent in % from which a swing is fast
	Limits  []athlete.Limit // in force
}

// forbidden names the limit a piece would be done against, "" where there is none.
func forbidden(p *Piece, e *library.Exercise, limits []athlete.Limit) string {
	if l, ok := e.Blocked(limits); ok {
		return l.Words()
	}
	if most, ok := e.Cap(limits); ok && p.LoadKg != nil && *p.LoadKg > most {
		return fmt.Sprintf("at most %s kg", unit.Compact(most, 1))
	}
	return ""
}

// usualDriverM is the length of a usual driver.
const usualDriverM = 1.15

// SheetOf lays a session out as it is run. Heavy and light pairs, supersets and a push that
// meets a pull are done in turns.
func SheetOf(s *programme.Session, exercises *library.Catalogue, g Gym) *Sheet {
	out := &Sheet{Pieces: []Piece{}, Steps: []Step{}}
	stepping, fast, throws, jumps := false, false, false, false
	for i := range s.Items {
		it := &s.Items[i]
		e, ok := exercises.Find(it.Exercise)
		if !ok {
			e = &library.Exercise{ID: it.Exercise, Name: it.Exercise, Zone: library.M, Cues: []string{}, Faults: []string{}}
		}
		p := piece(it, e, g)
		p.Forbidden = forbidden(&p, e, g.Limits)
		if g.Instead != nil {
			for _, x := range g.Instead(it.ID) {
				p.Instead = append(p.Instead, insteadOf(&x, e, exercises))
			}
		}
		out.Pieces = append(out.Pieces, p)
		fast = fast || p.Kind == Swings
		stepping = stepping || p.Kind == Swings && strings.Contains(e.ID, "step")
		throws = throws || it.Slot == library.SlotThrow
		jumps = jumps || e.Lands()
	}
	out.Steps = steps(s, exercises)
	if fast || throws || jumps {
		out.Space = space(fast, stepping, throws, jumps, g.DriverM)
	}
	return out
}

// space is what is looked at before the first fast piece (handbook, safety).
func space(swings, stepping, throws, jumps bool, driverM float64) *Space {
	sp := &Space{}
	if driverM == 0 {
		driverM = usualDriverM
	}
	if swings {
		sp.RadiusM = unit.Round(implement.Radius(driverM, stepping), 2)
		sp.Asks = append(sp.Asks, fmt.Sprintf("Nobody within %s m, nobody behind", unit.Text(sp.RadiusM, 1)))
	}
	if throws {
		sp.Asks = append(sp.Asks, "The wall is made for balls, the way back is free")
	}
	if jumps {
		sp.Asks = append(sp.Asks, "A firm, even floor to land on")
	}
	sp.Asks = append(sp.Asks, "Floor dry, shoes grip")
	return sp
}

func piece(it *programme.Item, e *library.Exercise, g Gym) Piece {
	d := it.Dose
	p := Piece{
		Item: it.ID, Exercise: it.Exercise, Name: e.Name, Slot: it.Slot, Zone: e.Zone, Kind: kindOf(it, e),
		DoseText: derive.DoseWords(d), LoadText: derive.LoadWords(d), Cues: slices.Clone(e.Cues), Faults: slices.Clone(e.Faults), Reason: it.Reason.Text, Note: it.Note,
		Sets: d.Sets + d.WeakerSets, Reserve: d.Reserve, Instead: []Instead{}, StepKg: stepOf(e, g),
	}
	if d.Unit == library.Seconds {
		n := d.Seconds
		p.Seconds = &n
	} else {
		n := d.Reps
		p.Reps = &n
	}
	switch {
	case d.LoadKg != nil:
		p.LoadKg = d.LoadKg
	case d.BallKg > 0:
		kg := d.BallKg
		p.LoadKg = &kg
	case d.AboutKg > 0:
		kg := d.AboutKg
		p.LoadKg = &kg
	}
	p.Finds = Finds(it) && e.Loaded()
	if p.Kind == Swings {
		p.Fast = true
		p.Series = &Series{d.ImplementPercent, d.ImplementG, d.IntentPercent}
		if p.Series.IntentPercent == 0 {
			p.Series.IntentPercent = 100
		}
	}
	p.Fast = p.Fast || it.Slot.Quick()
	return p
}

// Finds reports whether the first session finds an item's level: it is done to a reserve and
// nothing says with what.
func Finds(it *programme.Item) bool {
	return it.Dose.Reserve != nil && it.Dose.LoadKg == nil && it.Slot.Strength()
}

func stepOf(e *library.Exercise, g Gym) float64 {
	switch {
	case e.LoadBasis == "trap-bar-lift" || slices.ContainsFunc(e.Kit, func(k string) bool { return strings.Contains(k, "bar") }):
		if g.Bar.StepKg > 0 {
			return g.Bar.StepKg
		}
		return 2.5
	case e.LoadBasis == "ball":
		return 0.5
	case g.Dumbbell > 0:
		return g.Dumbbell
	}
	return 1
}

func kindOf(it *programme.Item, e *library.Exercise) Kind {
	switch {
	case it.Dose.Unit == library.Swings:
		return Swings
	case strings.HasPrefix(e.Pattern, "grip") && len(e.Kit) == 0:
		return Grip // what is squeezed may as well be a dynamometer
	case it.Dose.Unit == library.Seconds:
		return Hold
	case it.Dose.Unit == library.Contacts && e.Pattern == "jump-vertical" && e.Maximal && !slices.Contains(e.Kit, "box"):
		return Jumps // up from the plates and down on them again
	case it.Dose.Reserve != nil || it.Dose.LoadKg != nil || it.Dose.BallKg > 0:
		return Lift
	}
	return Counts
}

func insteadOf(x *programme.Item, was *library.Exercise, exercises *library.Catalogue) Instead {
	out := Instead{Exercise: x.Exercise, Name: x.Exercise, Dose: x.Dose, DoseText: derive.DoseWords(x.Dose), LoadText: derive.LoadWords(x.Dose), Cues: []string{}}
	if e, ok := exercises.Find(x.Exercise); ok {
		out.Name, out.Cues = e.Name, slices.Clone(e.Cues)
	}
	switch x.Exercise {
	case was.Easier:
		out.Why = "the easier one"
	case was.Harder:
		out.Why = "the harder one"
	}
	return out
}

// Rests of a push that meets a pull: half of the longer rest after each, so that the two
// together wait for it once (derive.SharedSeconds).
const shareOfRest = 2

// steps are the sets of a session in the order they are done.
func steps(s *programme.Session, exercises *library.Catalogue) []Step {
	var out []Step
	for i := 0; i < len(s.Items); {
		n := 1 // items done in turns
		for i+n < len(s.Items) && together(s.Items, i+n) {
			n++
		}
		if n == 1 && i+1 < len(s.Items) && s.Items[i].Slot == library.SlotPush && s.Items[i+1].Slot == library.SlotPull {
			n = 2
		}
		out = append(out, inTurns(s.Items[i:i+n], exercises)...)
		i += n
	}
	return out
}

func together(items []programme.Item, i int) bool {
	return derive.InTurns(items, i) || derive.InSuperset(items, i)
}

// inTurns are the sets of items that are done in turns, set by set; of one alone, its sets.
func inTurns(items []programme.Item, exercises *library.Catalogue) []Step {
	lists := make([][]Step, len(items))
	longest := 0
	for k := range items {
		lists[k] = setsOf(&items[k], exercises)
		longest = max(longest, len(lists[k])-warmSets(lists[k]))
	}
	var out []Step
	for k := range lists { // warm-up sets come before the turns
		n := warmSets(lists[k])
		out = append(out, lists[k][:n]...)
		lists[k] = lists[k][n:]
	}
	for set := range longest {
		for k := range lists {
			if set >= len(lists[k]) {
				continue
			}
			x := lists[k][set]
			if next := k + 1; len(lists) > 1 && next < len(lists) && set < len(lists[next]) {
				x.Turn = true
				x.RestSeconds = restInTurn(items, next)
			} else if len(lists) > 1 && set+1 < longest {
				x.RestSeconds = restAfterTurn(items)
			}
			out = append(out, x)
		}
	}
	return out
}

func warmSets(list []Step) int {
	n := 0
	for n < len(list) && list[n].WarmUp {
		n++
	}
	return n
}

// restInTurn is the rest before the next one of a turn.
func restInTurn(items []programme.Item, next int) int {
	switch {
	case derive.InTurns(items, next):
		return derive.HeavyRestSeconds
	case derive.InSuperset(items, next):
		return 0
	}
	return max(items[0].Dose.RestSeconds, items[1].Dose.RestSeconds) / shareOfRest
}

// restAfterTurn is the rest before the turn begins again.
func restAfterTurn(items []programme.Item) int {
	longest := 0
	for k := range items {
		longest = max(longest, items[k].Dose.RestSeconds)
	}
	switch {
	case derive.InTurns(items, 1):
		return derive.LightRestSeconds
	case derive.InSuperset(items, 1):
		return longest
	}
	return longest / shareOfRest
}

// warmRestSeconds are rested after a warm-up set (common practice, no source).
const warmRestSeconds = 60

// setsOf are the sets of one item, warm-up sets first.
func setsOf(it *programme.Item, exercises *library.Catalogue) []Step {
	d := it.Dose
	e, known := exercises.Find(it.Exercise)
	var out []Step
	for i, w := range d.WarmUpSets {
		n := w.Reps
		x := Step{Item: it.ID, Number: -1 - i, Count: fmt.Sprintf("warm-up set %d of %d", i+1, len(d.WarmUpSets)), Big: fmt.Sprint(n), Unit: "repetitions", Reps: &n, WarmUp: true, RestSeconds: warmRestSeconds}
		if w.LoadKg > 0 {
			kg := w.LoadKg
			x.LoadKg, x.Load = &kg, unit.Compact(kg, 2)+" kg"
		}
		out = append(out, x)
	}
	sets := d.Sets + d.WeakerSets
	for k := range sets {
		x := Step{Item: it.ID, Number: k + 1, Count: fmt.Sprintf("set %d of %d", k+1, sets), RestSeconds: d.RestSeconds, Load: derive.LoadWords(d)}
		x.Big, x.Unit = bigOf(&d, k)
		switch {
		case d.LoadKg != nil:
			x.LoadKg = d.LoadKg
		case d.BallKg > 0:
			kg := d.BallKg
			x.LoadKg = &kg
		}
		if d.Unit != library.Seconds {
			n := d.Reps
			x.Reps = &n
		}
		if d.Unit == library.Swings {
			x.Playing, x.Other = derive.SwingSet(&d, k)
		}
		if known && (d.Unit == library.Seconds || e.OfGrip()) {
			x.Timed = derive.TimedSet(it, e, k)
		}
		if k+1 == sets {
			x.RestSeconds = max(min(d.RestSeconds, restToNext), 0)
		}
		out = append(out, x)
	}
	return out
}

// restToNext is the most that is rested before the next item: it has to be set up anyway.
const restToNext = 60

// bigOf is what set k is, as a number and what it counts.
func bigOf(d *programme.Dose, k int) (big, of string) {
	side := ""
	switch {
	case k >= d.Sets && d.Weaker != "":
		side = ", " + sideWords(d.Weaker) + " only"
	case d.Side != "":
		side = ", " + sideWords(d.Side)
	case d.Sides == library.OneSided:
		side = " each side"
	case d.Sides == library.Directional:
		side = " each way"
	}
	switch d.Unit {
	case library.Seconds:
		if d.Times > 1 {
			return fmt.Sprintf("%d × %d", d.Times, d.Seconds), "seconds" + side
		}
		return fmt.Sprint(d.Seconds), "seconds" + side
	case library.Swings:
		playing, other := derive.SwingSet(d, k)
		switch {
		case playing == 0:
			return fmt.Sprint(other), "swings, other side"
		case other == 0:
			return fmt.Sprint(playing), "swings, playing side"
		}
		return fmt.Sprintf("%d + %d", playing, other), "swings, playing and other side"
	case library.Contacts:
		return fmt.Sprint(d.Reps), "jumps" + side
	}
	return fmt.Sprint(d.Reps), "repetitions" + side
}

func sideWords(side string) string {
	switch side {
	case "toward":
		return "toward the target"
	case "away":
		return "away from the target"
	}
	return side + " side"
}
