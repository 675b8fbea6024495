// Package practice is what a practice says of itself once, so that nobody says it
// again with every golfer: its name and its clock, the units its people read, the
// kit that stands in the places it trains at, its discs, and the battery a screen
// day begins with. It judges and lays out; it stores nothing.
package practice

import (
	"fmt"
	"slices"

	"dunnock/internal/core/athlete"
	"dunnock/internal/core/unit"
	"dunnock/internal/core/words"
)

// Most places a practice names, and discs it lists.
const (
	MaxPlaces = 12
	maxDiscs  = 20
	maxDiscKg = 50
	maxBarKg  = 60
)

// Place is somewhere people train, with what stands there.
type Place struct {
	Name string   `json:"name"`
	Kit  []string `json:"kit"`
}

// Setup is what a practice says of itself. Its zone is judged by who holds the
// list of zones.
type Setup struct {
	Name  string          `json:"name"`
	Zone  string          `json:"zone"` // IANA
	Units unit.Preference `json:"units"`
	// Places are offered wherever the kit of a golfer is asked for, in this order.
	Places []Place `json:"places"`
	// Begins is the place whose kit a new golfer begins with; "": it is asked.
	Begins string `json:"begins"`
	// BarKg is the empty trap bar, and Plates the discs there are a pair of, both in
	// kg, of a new golfer; 0 and none: it is asked.
	BarKg  float64   `json:"barKg"`
	Plates []float64 `json:"plates"`
	// Set is the battery a screen day begins with.
	Set string `json:"set"`
}

// Problem is what is wrong with a part of a setup.
type Problem struct{ Path, Text string }

// Shipped are the places a practice begins with: common practice, no source.
func Shipped() []Place {
	return []Place{
		{Name: "Full gym", Kit: []string{
			"band", "barbell", "bench", "box", "cable", "club", "dumbbells", "heavy club", "light club", "medicine ball", "plates", "pull-up bar", "rope", "stick", "trap bar",
		}},
		{Name: "Small gym", Kit: []string{"band", "bench", "box", "club", "dumbbells", "light club", "medicine ball", "pull-up bar", "stick"}},
		{Name: "Home or hotel", Kit: []string{"band", "club", "stick"}},
		{Name: "Nothing", Kit: []string{}},
	}
}

// Begin gives a golfer of whom nothing is said what the practice has at hand.
func (s *Setup) Begin(t *athlete.Training) {
	if len(t.Kit) == 0 {
		if i := slices.IndexFunc(s.Places, func(p Place) bool { return p.Name == s.Begins }); i >= 0 {
			t.Kit = slices.Clone(s.Places[i].Kit)
		}
	}
	if t.BarKg == 0 {
		t.BarKg = s.BarKg
	}
	if len(t.Plates) == 0 && t.PlateStepKg == 0 {
		t.Plates = slices.Clone(s.Plates)
	}
}

// Validate says what is wrong, part by part. kit is what the library knows, sets
// the ids of the practice's batteries.
func (s *Setup) Validate(kit, sets []string) []Problem {
	var out []Problem
	bad := func(path, format string, a ...any) { out = append(out, Problem{path, fmt.Sprintf(format, a...)}) }
	if text := words.Name(s.Name, athlete.MaxName); text != "" {
		bad("name", "The practice's name %s.", text)
	}
	for _, of := range []struct {
		path, what string
		u          unit.Unit
		one        []unit.Unit
	}{
		{"units.speed", "Speeds", s.Units.Speed, unit.Speeds},
		{"units.mass", "Masses", s.Units.Mass, unit.Masses},
		{"units.length", "Lengths", s.Units.Length, unit.Lengths},
		{"units.distance", "Distances", s.Units.Distance, unit.Distances},
	} {
		if !slices.Contains(of.one, of.u) {
			bad(of.path, "%s are read in %s or %s, not in %q.", of.what, of.one[0], of.one[1], of.u)
		}
	}
	if n := len(s.Places); n > MaxPlaces {
		bad("places", "%d places: at most %d.", n, MaxPlaces)
		return out
	}
	for i, p := range s.Places {
		at := fmt.Sprintf("places[%d]", i)
		if text := words.Name(p.Name, 40); text != "" {
			bad(at+".name", "The name of a place %s.", text)
			continue
		}
		if slices.ContainsFunc(s.Places[:i], func(q Place) bool { return q.Name == p.Name }) {
			bad(at+".name", "There is a place called %s already.", p.Name)
		}
		for j, k := range p.Kit {
			if !slices.Contains(kit, k) {
				bad(at+".kit", "The library knows no kit called %q.", k)
			} else if slices.Contains(p.Kit[:j], k) {
				bad(at+".kit", "%s has %s twice.", p.Name, k)
			}
		}
	}
	if s.Begins != "" && !slices.ContainsFunc(s.Places, func(p Place) bool { return p.Name == s.Begins }) {
		bad("begins", "There is no place called %s: choose one of yours, or let it be asked.", s.Begins)
	}
	if s.BarKg != 0 && !(s.BarKg >= 5 && s.BarKg <= maxBarKg) {
		bad("barKg", "An empty bar weighs 5 to %d kg.", maxBarKg)
	}
	if n := len(s.Plates); n > maxDiscs {
		bad("plates", "%d kinds of disc: at most %d.", n, maxDiscs)
		return out
	}
	for i, p := range s.Plates {
		if !(p >= 0.1 && p <= maxDiscKg) {
			bad(fmt.Sprintf("plates[%d]", i), "A disc weighs 0.1 to %d kg.", maxDiscKg)
		}
	}
	if !slices.Contains(sets, s.Set) {
		bad("set", "There is no battery %q.", s.Set)
	}
	return out
}
