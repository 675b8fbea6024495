package derive

import (
	"fmt"
	"math"

	"dunnock/internal/core/library"
	"dunnock/internal/core/programme"
)

// TimedStep is a part of an item that a clock runs: work of one hand or side, or a rest.
type TimedStep struct {
	ID      string `json:"id"`
	Name    string `json:"name"`
	Seconds int    `json:"seconds"`
	Dose    string `json:"dose,omitempty"`
	Cue     string `json:"cue,omitempty"`
	Side    string `json:"side,omitempty"`
	Count   string `json:"count,omitempty"` // "set 2 of 5"
	Rest    bool   `json:"rest,omitempty"`
}

// TimedPart is what a clock runs of a session in one go.
type TimedPart struct {
	Name  string      `json:"name"`
	Steps []TimedStep `json:"steps"`
}

// TimedParts are the swings of a session and its grip and forearm work, each where it
// has some.
func TimedParts(s *programme.Session, exercises *library.Catalogue) []TimedPart {
	swings, grip := TimedPart{Name: "swings"}, TimedPart{Name: "grip work"}
	for i := range s.Items {
		e, ok := exercises.Find(s.Items[i].Exercise)
		switch {
		case !ok:
		case e.OfGrip():
			grip.Steps = append(grip.Steps, Timed(&s.Items[i], e)...)
		case e.DoseUnit == library.Swings:
			swings.Steps = append(swings.Steps, Timed(&s.Items[i], e)...)
		}
	}
	out := []TimedPart{}
	for _, p := range []TimedPart{swings, grip} {
		if len(p.Steps) > 0 {
			out = append(out, p)
		}
	}
	return out
}

// readySeconds are for picking up what an item is done with.
const readySeconds = 10

// Timed is an item as a clock runs it: every set, hands or sides in turn and the weaker
// first, with its rests between. A step takes as long as its dose or its repetitions.
func Timed(it *programme.Item, e *library.Exercise) []TimedStep {
	t := timing{it: it, e: e}
	if len(e.Cues) > 0 {
		t.cue = e.Cues[0]
	}
	t.ready()
	d := it.Dose
	sets := d.Sets + d.WeakerSets
	for k := range sets {
		t.one(k, sets)
		if k+1 < sets {
			t.rest("rest", "Rest", d.RestSeconds)
		}
	}
	return t.out
}

// TimedSet is set k of an item, from 0, as a clock runs it: getting ready, then the work with
// the rests within the set.
func TimedSet(it *programme.Item, e *library.Exercise, k int) []TimedStep {
	t := timing{it: it, e: e}
	if len(e.Cues) > 0 {
		t.cue = e.Cues[0]
	}
	t.ready()
	t.one(k, it.Dose.Sets+it.Dose.WeakerSets)
	return t.out
}

func (t *timing) ready() {
	t.out = append(t.out, TimedStep{ID: string(t.it.ID) + "-ready", Name: "Get ready: " + t.e.Name, Seconds: readySeconds, Cue: t.cue, Rest: true})
}

// one is set k of sets.
func (t *timing) one(k, sets int) {
	d := t.it.Dose
	t.count = ""
	if sets > 1 {
		t.count = fmt.Sprintf("set %d of %d", k+1, sets)
	}
	t.set, t.part = k+1, 0
	switch {
	case d.Unit == library.Swings:
		t.swings(k)
	case d.InTurn:
		t.inTurn()
	default:
		sides := timedSides(d, t.e)
		if k >= d.Sets {
			sides = []string{sideName(d.Weaker, t.e)}
		}
		for _, side := range sides {
			t.side(side)
		}
	}
}

// timing is an item being taken apart.
type timing struct {
	it    *programme.Item
	e     *library.Exercise
	cue   string
	count string
	set   int
	part  int // of the set
	out   []TimedStep
}

func (t *timing) work(side string, seconds int, dose string) {
	t.part++
	t.out = append(t.out, TimedStep{
		ID: fmt.Sprintf("%s-%d-%d", t.it.ID, t.set, t.part), Name: t.e.Name, Side: side, Count: t.count, Cue: t.cue, Seconds: seconds, Dose: dose,
	})
}

func (t *timing) rest(id, name string, seconds int) {
	if seconds > 0 {
		t.out = append(t.out, TimedStep{ID: fmt.Sprintf("%s-%d-%s", t.it.ID, t.set, id), Name: name, Seconds: seconds, Count: t.count, Rest: true})
	}
}

// more is what a side gets beyond its dose.
func (t *timing) more(side string) int {
	if side != "" && side == sideName(t.it.Dose.Weaker, t.e) {
		return t.it.Dose.WeakerMore
	}
	return 0
}

// side is one side of a set: a hold, holds with rests between, or repetitions.
func (t *timing) side(side string) {
	d := t.it.Dose
	if d.Unit != library.Seconds {
		n := d.Reps + t.more(side)
		t.work(side, int(math.Ceil(float64(n)*t.e.SecondsPerRep))+max(n-1, 0)*d.BetweenSeconds, fmt.Sprintf("%d times", n))
		return
	}
	times := max(1, d.Times)
	for i := range times {
		seconds := d.Seconds
		if i == times-1 {
			seconds += t.more(side)
		}
		dose := fmt.Sprintf("%d s", seconds)
		if times > 1 {
			dose = fmt.Sprintf("%d s, %d of %d", seconds, i+1, times)
		}
		t.work(side, seconds, dose)
		if i+1 < times {
			t.rest(fmt.Sprintf("%d-between", t.part), "Let go", d.BetweenSeconds)
		}
	}
}

// inTurn changes hands after every hold or repetition; each hand keeps its own count.
func (t *timing) inTurn() {
	d := t.it.Dose
	times := max(1, d.Times)
	if d.Unit != library.Seconds {
		times = d.Reps
	}
	sides := timedSides(d, t.e)
	for i := range times {
		for k, side := range sides {
			seconds, dose := d.Seconds, fmt.Sprintf("%d s, %d of %d", d.Seconds, i+1, times)
			if d.Unit != library.Seconds {
				seconds, dose = int(math.Ceil(t.e.SecondsPerRep)), fmt.Sprintf("%d of %d", i+1, times)
			}
			t.work(side, seconds, dose)
			if i+1 < times || k+1 < len(sides) {
				t.rest(fmt.Sprintf("%d-between", t.part), "Let go, change hands", d.BetweenSeconds)
			}
		}
	}
}

// swings is a set of swings: from one side, or where the shares do not come out in whole
// sets, from one and then the other.
func (t *timing) swings(k int) {
	d := t.it.Dose
	playing, other := SwingSet(&d, k)
	for _, x := range []struct {
		side string
		n    int
	}{{"playing side", playing}, {"other side", other}} {
		if x.n > 0 {
			t.work(x.side, int(math.Ceil(float64(x.n)*SwingSeconds(&d, t.e.SecondsPerRep))), fmt.Sprintf("%d swings", x.n))
		}
	}
}

// SwingSet is how many swings of set k, from 0, are made from the playing and from the
// other side: whole sets in turn, playing side first, until each has its share.
func SwingSet(d *programme.Dose, k int) (playing, other int) {
	otherLeft := d.OtherSwings()
	playingLeft := d.Sets*d.Reps - otherLeft
	for i := 0; i <= k; i++ {
		first := i%2 == 0
		playing, other = 0, 0
		if first {
			playing = min(d.Reps, playingLeft)
			other = d.Reps - playing
		} else {
			other = min(d.Reps, otherLeft)
			playing = d.Reps - other
		}
		playingLeft -= playing
		otherLeft -= other
	}
	return playing, other
}

// timedSides are the sides of a set in their order.
func timedSides(d programme.Dose, e *library.Exercise) []string {
	if d.SideFactor() == 1 {
		return []string{sideName(d.Side, e)}
	}
	first, second := "lead", "trail"
	if d.Sides == library.Directional {
		first, second = "toward", "away"
	}
	if d.Weaker == second {
		first, second = second, first
	}
	return []string{sideName(first, e), sideName(second, e)}
}

// sideName is what is called out.
func sideName(side string, e *library.Exercise) string {
	switch side {
	case "toward":
		return "toward the target"
	case "away":
		return "away from the target"
	case "lead", "trail":
		if e.OfGrip() || e.OneArm {
			return side + " hand"
		}
		return side + " side"
	}
	return ""
}
