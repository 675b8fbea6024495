package plan

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"dunnock/internal/core/library"
	"dunnock/internal/core/measure"
	"dunnock/internal/core/programme"
	"dunnock/internal/core/quality"
	"dunnock/internal/core/unit"
)

// Part is one summand of an exercise's score.
type Part struct {
	Label  string  `json:"label"`
	Points float64 `json:"points"`
}

// Alternative is an exercise that could stand in a place.
type Alternative struct {
	Exercise string  `json:"exercise"`
	Name     string  `json:"name"`
	Score    float64 `json:"score"`
	Parts    []Part  `json:"parts"`
	Blocked  string  `json:"blocked,omitempty"` // why the generator would not place it
	Rule     string  `json:"rule,omitempty"`    // the rule that blocks it
	Current  bool    `json:"current"`
}

// score adds up what speaks for an exercise: the need it serves, the school's
// preference, work near the golfer's own level, a load that is known, and, on
// the fast day, lightness. All weights are ours.
func (p *planner) score(e *library.Exercise) (float64, []Part) {
	var parts []Part
	for _, id := range quality.IDs() {
		if w := e.Serves[id]; w > 0 && p.needs[id] > 0 {
			parts = append(parts, Part{"serves " + quality.Name(id), round3(w * p.needs[id])})
		}
	}
	if pts := p.school.Prefer[e.Family]; pts != 0 {
		parts = append(parts, Part{"preferred by " + p.school.Name, pts})
	}
	parts = append(parts, Part{fmt.Sprintf("level %d of %d", e.Level, p.Facts.Level), round3(p.school.Weights.PerLevel * float64(e.Level))})
	if e.ID == testedLift && p.Facts.OneRM > 0 {
		parts = append(parts, Part{"load known from the test", p.school.Weights.KnownLoad})
	}
	sum := 0.0
	for _, x := range parts {
		sum += x.Points
	}
	return round3(sum), parts
}

// usedOnEarlierDay reports whether an exercise stands on another day of the week
// already, in the slots where variety costs nothing.
func (p *planner) usedOnEarlierDay(at place, id string) bool {
	switch at.slot {
	case library.SlotPush, library.SlotPull, library.SlotTrunk, library.SlotFinisher, library.SlotSpecial:
	default:
		return false
	}
	for _, other := range programme.Letters {
		if got := p.chosen[place{other, at.slot}].exercise; other != at.letter && got != nil && got.ID == id {
			return true
		}
	}
	return false
}

// scoreOn is the score of an exercise in a slot of a letter's day.
func (p *planner) scoreOn(e *library.Exercise, at place) (float64, []Part) {
	s, parts := p.score(e)
	w := p.school.Weights
	if at.letter != "" && p.suits(e, at) {
		parts = append(parts, Part{"suits day " + string(at.letter), w.SuitsDay})
		s = round3(s + w.SuitsDay)
	}
	if p.usedOnEarlierDay(at, e.ID) {
		parts = append(parts, Part{"already on another day", -w.AnotherDay})
		s = round3(s - w.AnotherDay)
	}
	return s, parts
}

// suits reports whether an exercise in a slot suits a letter's day.
func (p *planner) suits(e *library.Exercise, at place) bool {
	slot, day := at.slot, p.school.Days[at.letter]
	switch {
	case slot == library.SlotTrunk && e.LookAlike:
		return false // look-alikes have a slot of their own, with a finding
	case day.Fast && slot == library.SlotJump && e.Zone != library.Z2:
		return false // the fast day stays light
	case slot == library.SlotFinisher && (e.Family == "upper-push" || e.Family == "upper-pull"):
		return false // pushes and pulls come in pairs
	}
	return strings.HasPrefix(e.Pattern, day.Patterns[slot])
}

// zoneFits keeps the order of a session fast to slow whatever is chosen.
func zoneFits(slot library.Slot, z library.Zone) bool {
	switch slot {
	case library.SlotSwings:
		return z == library.Z1
	case library.SlotThrow:
		return z == library.Z1 || z == library.Z2
	default:
		return true
	}
}

// allowed returns the exercises the generator may place in a slot.
func (p *planner) allowed(slot library.Slot) []*library.Exercise {
	var out []*library.Exercise
	for i := range p.by.Exercises.All() {
		e := &p.by.Exercises.All()[i]
		if !e.Fits(slot) || !zoneFits(slot, e.Zone) {
			continue
		}
		if rule, _ := p.Facts.Forbidden(e); rule != "" {
			continue
		}
		if slot == library.SlotSpecial && p.finding(e) == "" {
			continue
		}
		out = append(out, e)
	}
	return out
}

// pick is what was chosen for a letter's slot; it holds for the whole block.
type pick struct {
	exercise *library.Exercise
	why      programme.Reason
}

// choose returns the exercise of a letter's slot and why it was chosen. The
// exercise is nil where the limits, the kit and the level leave nothing.
func (p *planner) choose(at place) pick {
	if got, ok := p.chosen[at]; ok {
		return got
	}
	all := p.allowed(at.slot)
	var best *library.Exercise
	bestScore := math.Inf(-1)
	var bestParts []Part
	for _, e := range all {
		// The same exercise twice in one session is never wanted.
		if p.usedOn(at, e.ID) || at.slot == library.SlotTrunk && e.LookAlike {
			continue
		}
		if s, parts := p.scoreOn(e, at); s > bestScore {
			best, bestScore, bestParts = e, s, parts
		}
	}
	got := pick{}
	if best == nil {
		p.noteEmpty(at)
	} else {
		got = pick{best, p.reason(best, at, bestParts, len(all))}
	}
	p.chosen[at] = got
	return got
}

func (p *planner) usedOn(at place, id string) bool {
	for _, other := range library.SlotOrder {
		if got := p.chosen[place{at.letter, other}].exercise; other != at.slot && got != nil && got.ID == id {
			return true
		}
	}
	return false
}

func (p *planner) noteEmpty(at place) {
	if at.slot == library.SlotSpecial {
		p.note("No special exercise: nothing measured calls for a look-alike of the swing.")
		return
	}
	p.note("Day %s has no %s: the limits, the kit and the level leave nothing to place.", at.letter, at.slot.Words())
}

// finding returns the sentence of the quality in need that the exercise serves
// most (weight × need), or "" when it serves none by at least 0.3.
func (p *planner) finding(e *library.Exercise) string {
	sentence, most := "", 0.0
	for _, q := range p.Read.Qualities {
		w := e.Serves[q.ID]
		if q.Status == quality.Ranked && q.Need > 0 && w >= 0.3 && w*q.Need > most {
			sentence, most = q.Sentence, w*q.Need
		}
	}
	return sentence
}

// reason says why an exercise stands where it does: finding → school and slot →
// exercise.
func (p *planner) reason(e *library.Exercise, at place, parts []Part, from int) programme.Reason {
	r := programme.Reason{Finding: p.finding(e), Rule: p.school.Name + ", " + at.slot.Words(), Source: "our default, common practice"}
	top := ""
	best := 0.0
	for _, x := range parts {
		if x.Points > best && strings.HasPrefix(x.Label, "serves ") {
			best, top = x.Points, strings.TrimPrefix(x.Label, "serves ")
		}
	}
	total := 0.0
	for _, x := range parts {
		total += x.Points
	}
	why := "it holds the base while other work leads"
	if top != "" {
		why = "it serves " + top + " most"
	}
	finding := r.Finding
	if finding == "" {
		finding = "No measured shortage asks for it"
		switch {
		case p.Read.ScreenDate.IsZero():
			finding = "Nothing is measured yet"
		case top != "" && !p.ranked(top):
			finding = upper(top) + " is not ranked yet"
		case top != "":
			finding = upper(top) + " is at or above target: kept up"
		}
	}
	r.Text = fmt.Sprintf(
		"%s → %s on day %s → %s: %s (%s points, highest of %d).",
		strings.TrimSuffix(finding, "."),
		at.slot.Words(),
		at.letter,
		e.Name,
		why,
		unit.Text(total, 2),
		from,
	)
	return r
}

func (p *planner) ranked(name string) bool {
	return slices.ContainsFunc(p.Read.Qualities, func(q quality.Standing) bool { return q.Name == name && q.Status == quality.Ranked })
}

func upper(s string) string {
	if s == "" {
		return s
	}
	return strings.ToUpper(s[:1]) + s[1:]
}

// rangeItems returns one line for each restricted joint, the worst three.
func (p *planner) rangeItems(week int) []programme.Item {
	var items []programme.Item
	var order []string
	sides := map[string][]measure.Side{}
	first := map[string]quality.RangeFinding{}
	for _, r := range p.Read.Ranges {
		if _, ok := first[r.Test]; !ok {
			first[r.Test] = r
			order = append(order, r.Test)
		}
		sides[r.Test] = append(sides[r.Test], r.Side)
	}
	for _, test := range order {
		var best *library.Exercise
		bestScore := math.Inf(-1)
		for _, e := range p.allowed(library.SlotRange) {
			if !slices.Contains(e.Targets, test) || len(e.Kit) > 0 {
				continue // range work is done at home too: no kit
			}
			if s, _ := p.score(e); s > bestScore {
				best, bestScore = e, s
			}
		}
		if best == nil {
			p.note("No range line for %s: the limits and the library leave nothing to place.", test)
			continue
		}
		r := first[test]
		it := p.item(best, place{slot: library.SlotRange}, week, p.brief.Weeks, programme.Reason{
			Finding: r.Sentence, Rule: "Range line from a joint gap",
			Text:   fmt.Sprintf("%s → range line every session and two home days → %s.", strings.TrimSuffix(r.Sentence, "."), best.Name),
			Source: "our default, common practice",
		})
		if s := sides[test]; len(s) == 1 {
			it.Dose.Side = string(s[0])
		}
		items = append(items, it)
		if len(items) == 3 {
			break
		}
	}
	return items
}

// alternatives ranks every exercise that could stand at a place, those the
// generator may place first, the others behind with what forbids them.
func (p *planner) alternatives(at place, current string) []Alternative {
	var out []Alternative
	for i := range p.by.Exercises.All() {
		e := &p.by.Exercises.All()[i]
		if !e.Fits(at.slot) {
			continue
		}
		a := Alternative{Exercise: e.ID, Name: e.Name, Current: e.ID == current}
		a.Score, a.Parts = p.scoreOn(e, at)
		a.Rule, a.Blocked = p.Facts.Forbidden(e)
		if a.Rule == "" && !zoneFits(at.slot, e.Zone) {
			a.Rule, a.Blocked = "ORDER", string(e.Zone)+" work does not belong before faster work"
		}
		out = append(out, a)
	}
	slices.SortStableFunc(out, func(a, b Alternative) int {
		if x, y := a.Blocked == "", b.Blocked == ""; x != y {
			if x {
				return -1
			}
			return 1
		}
		switch {
		case a.Score > b.Score:
			return -1
		case a.Score < b.Score:
			return 1
		}
		return strings.Compare(a.Exercise, b.Exercise)
	})
	return out
}

func round3(v float64) float64 { return unit.Round(v, 3) }
