package plan

import (
	"fmt"
	"maps"
	"slices"
	"strings"

	"dunnock/internal/core/library"
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
	if pts := taste(p.school.Prefer, e); pts != 0 {
		parts = append(parts, Part{"preferred by " + p.school.Name, pts})
	}
	if pts := taste(p.school.Avoid, e); pts != 0 {
		parts = append(parts, Part{"avoided by " + p.school.Name, -pts})
	}
	parts = append(parts, Part{fmt.Sprintf("level %d of %d", e.Level, p.Facts.Level), round3(p.school.Weigh().PerLevel * float64(e.Level))})
	if e.ID == testedLift && p.Facts.OneRM > 0 {
		parts = append(parts, Part{"load known from the test", p.school.Weigh().KnownLoad})
	}
	sum := 0.0
	for _, x := range parts {
		sum += x.Points
	}
	return round3(sum), parts
}

// taste adds up what a school's list says of an exercise: by family, by how its pattern
// begins, by zone, as stabilised or a drill of the swing.
func taste(list map[string]float64, e *library.Exercise) float64 {
	sum := 0.0
	for _, key := range slices.Sorted(maps.Keys(list)) {
		switch {
		case key == e.Family, key == string(e.Zone), strings.HasPrefix(e.Pattern, key), key == "stabilised" && e.Stabilised, key == "drill" && e.Drill:
			sum += list[key]
		}
	}
	return sum
}

// scoreOn is the score of an exercise in a slot of a letter's day.
func (p *planner) scoreOn(e *library.Exercise, at place) (float64, []Part) {
	s, parts := p.score(e)
	w := p.school.Weigh()
	if at.letter != "" && p.suits(e, at) {
		parts = append(parts, Part{"suits day " + string(at.letter), w.SuitsDay})
		s = round3(s + w.SuitsDay)
	}
	return s, parts
}

// suits reports whether an exercise in a slot suits a letter's day.
func (p *planner) suits(e *library.Exercise, at place) bool {
	slot, day := at.slot, p.school.Day(at.letter)
	switch {
	case slot == library.SlotTrunk && e.LookAlike:
		return false // look-alikes have a slot of their own, with a finding
	case day.Fast && slot == library.SlotJump && e.Zone != library.Z2:
		return false // the fast day stays light
	case slot == library.SlotFinisher && (e.Family == "upper-push" || e.Family == "upper-pull"):
		return false // pushes and pulls come in pairs
	}
	pattern := e.Pattern
	if pattern == "jump-horizontal" {
		pattern = "jump-vertical" // off both legs, whichever way
	}
	return strings.HasPrefix(pattern, day.Patterns[slot])
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

func upper(s string) string {
	if s == "" {
		return s
	}
	return strings.ToUpper(s[:1]) + s[1:]
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
