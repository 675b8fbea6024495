package practice_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"

	"dunnock/internal/core/athlete"
	"dunnock/internal/core/library"
	"dunnock/internal/core/practice"
	"dunnock/internal/core/unit"
)

func usual() practice.Setup {
	return practice.Setup{Name: "Links hall", Zone: "Europe/London", Units: unit.Default, Places: practice.Shipped(), Set: "usual"}
}

var sets = []string{"usual", "quick"}

func TestWhatIsWrongWithASetupIsSaidWhereItIs(t *testing.T) {
	kit := library.Shipped().Kit()
	s := usual()
	assert.Empty(t, s.Validate(kit, sets), "what we ship is all known to the library")
	for path, change := range map[string]func(*practice.Setup){
		"name":           func(s *practice.Setup) { s.Name = "  " },
		"units.speed":    func(s *practice.Setup) { s.Units.Speed = "knots" },
		"units.mass":     func(s *practice.Setup) { s.Units.Mass = "st" },
		"units.length":   func(s *practice.Setup) { s.Units.Length = "" },
		"units.distance": func(s *practice.Setup) { s.Units.Distance = "yd" },
		"places":         func(s *practice.Setup) { s.Places = make([]practice.Place, 13) },
		"places[4].name": func(s *practice.Setup) { s.Places = append(s.Places, practice.Place{Name: "Full gym"}) },
		"places[0].name": func(s *practice.Setup) { s.Places[0].Name = strings.Repeat("x", 41) },
		"places[1].kit":  func(s *practice.Setup) { s.Places[1].Kit = append(s.Places[1].Kit, "cannon") },
		"places[2].kit":  func(s *practice.Setup) { s.Places[2].Kit = append(s.Places[2].Kit, "band") },
		"begins":         func(s *practice.Setup) { s.Begins = "The shed" },
		"barKg":          func(s *practice.Setup) { s.BarKg = 2 },
		"plates":         func(s *practice.Setup) { s.Plates = make([]float64, 21) },
		"plates[1]":      func(s *practice.Setup) { s.Plates = []float64{20, -1} },
		"set":            func(s *practice.Setup) { s.Set = "gone" },
	} {
		s := usual()
		change(&s)
		problems := s.Validate(kit, sets)
		if assert.Len(t, problems, 1, path) {
			assert.Equal(t, path, problems[0].Path)
			assert.NotEmpty(t, problems[0].Text)
		}
	}
}

// A new golfer begins with what the practice has; what is said of a golfer stands.
func TestANewGolferBeginsWithWhatIsAtHand(t *testing.T) {
	s := usual()
	var asked athlete.Training
	s.Begin(&asked)
	assert.Zero(t, asked, "nothing was said: it is asked")

	s.Begins, s.BarKg, s.Plates = "Home or hotel", 25, []float64{10, 1.25}
	var fresh athlete.Training
	s.Begin(&fresh)
	assert.Equal(t, athlete.Training{Kit: []string{"band", "club", "stick"}, BarKg: 25, Plates: []float64{10, 1.25}}, fresh)
	fresh.Kit[0], fresh.Plates[0] = "rope", 5
	assert.Equal(t, "band", s.Places[2].Kit[0], "the golfer's own from then on")
	assert.InDelta(t, 10, s.Plates[0], 0)

	own := athlete.Training{Kit: []string{"rope"}, BarKg: 20, PlateStepKg: 5}
	s.Begin(&own)
	assert.Equal(t, athlete.Training{Kit: []string{"rope"}, BarKg: 20, PlateStepKg: 5}, own)
}
