package school

import (
	"fmt"
	"regexp"
	"slices"
	"strconv"

	"dunnock/internal/core/athlete"
	"dunnock/internal/core/library"
	"dunnock/internal/core/programme"
)

// Day is a kind of day.
type Day struct {
	Title string `json:"title"`
	// Fast days have no lift, unless the school has the main lift on them, and no
	// jump but the light ones.
	Fast bool `json:"fast,omitempty"`
	// BallShare is what the ball of the day weighs, as a share of the throw's own.
	BallShare float64 `json:"ballShare"`
	// Patterns are how the pattern of an exercise in a slot begins.
	Patterns map[library.Slot]string `json:"patterns"`
}

// Row names a row of the dose table: a slot, or a few that share one.
type Row string

// rows are the rows a dose table has.
var rows = []Row{"swings", "throw", "jump", "main-lift", "upper", "finisher", "special", "trunk", "trunk-hold", "range", "range-hold"}

// RowOf is the row for an exercise in a slot that is dosed in a unit.
func RowOf(slot library.Slot, u library.Unit) Row {
	switch slot {
	case library.SlotPush, library.SlotPull:
		return "upper"
	case library.SlotSecond:
		return Row(library.SlotMain)
	case library.SlotTrunk, library.SlotRange:
		if u == library.Seconds {
			return Row(slot) + "-hold"
		}
	}
	return Row(slot)
}

// Weeks is how many weeks a row has: the rising ones and, last, the easier one.
const Weeks = 4

// Dose is the cell of a row for a tier in a week of a block, from 0, of so many
// weeks: the last week is the easier one; a block longer than the table stays at
// the last rising cell.
func (s *School) Dose(row Row, tier athlete.Tier, week, weeks int) Cell {
	cells := s.Doses[row][tier]
	if cells == nil {
		cells = common().Doses[row][tier]
	}
	if week >= weeks-1 {
		return cells[len(cells)-1]
	}
	return cells[min(week, len(cells)-2)]
}

// Cell is one entry of the dose table. As text it is 3x5@4 (sets × repetitions at
// a reserve), 2x30s (seconds) or 3x4 70% (intent).
type Cell struct {
	Sets, Reps, Seconds int
	Reserve             *int
	IntentPercent       int
}

var cellText = regexp.MustCompile(`^([1-9]\d?)x([1-9]\d{0,2})(s?)(?:@(\d{1,2}))?(?: ([1-9]\d{1,2})%)?$`)

// UnmarshalText reads a cell.
func (c *Cell) UnmarshalText(b []byte) error {
	m := cellText.FindSubmatch(b)
	if m == nil {
		return fmt.Errorf("a dose is written 3x5@4, 2x30s or 3x4 70%%, not %q", b)
	}
	number := func(i int) int {
		n, _ := strconv.Atoi(string(m[i])) // the pattern lets digits through only
		return n
	}
	*c = Cell{Sets: number(1), IntentPercent: number(5)}
	if len(m[3]) > 0 {
		c.Seconds = number(2)
	} else {
		c.Reps = number(2)
	}
	if len(m[4]) > 0 {
		r := number(4)
		c.Reserve = &r
	}
	return nil
}

// MarshalText writes a cell as it is read.
func (c Cell) MarshalText() ([]byte, error) {
	text := fmt.Sprintf("%dx%d", c.Sets, c.Reps)
	if c.Seconds > 0 {
		text = fmt.Sprintf("%dx%ds", c.Sets, c.Seconds)
	}
	if c.Reserve != nil {
		text += fmt.Sprintf("@%d", *c.Reserve)
	}
	if c.IntentPercent > 0 {
		text += fmt.Sprintf(" %d%%", c.IntentPercent)
	}
	return []byte(text), nil
}

// Weights are points in choosing an exercise.
type Weights struct {
	Relevance  float64 `json:"relevance"`  // of a quality's relevance, where nothing is known of it
	SuitsDay   float64 `json:"suitsDay"`   // the pattern of the day: above any other preference
	PerLevel   float64 `json:"perLevel"`   // for each level of the exercise
	KnownLoad  float64 `json:"knownLoad"`  // a load that follows from a test
	AnotherDay float64 `json:"anotherDay"` // lost where variety costs nothing
}

// check says what the common part lacks.
func (c *Common) check() error {
	for _, letter := range programme.Letters {
		day, ok := c.Days[letter]
		switch {
		case !ok || day.Title == "":
			return fmt.Errorf("day %s needs a title", letter)
		case !(day.BallShare > 0 && day.BallShare <= 1):
			return fmt.Errorf("day %s: ballShare is above 0 and at most 1, not %g", letter, day.BallShare)
		}
		for slot := range day.Patterns {
			if !slices.Contains(library.SlotOrder, slot) {
				return fmt.Errorf("day %s: there is no slot %q", letter, slot)
			}
		}
	}
	if len(c.Days) > len(programme.Letters) {
		return fmt.Errorf("days are %v and no others", programme.Letters)
	}
	if w := c.Weights; !(w.Relevance > 0 && w.SuitsDay > 0 && w.PerLevel > 0 && w.KnownLoad > 0 && w.AnotherDay > 0) {
		return fmt.Errorf("weights are five, each above 0")
	}
	return checkDoses(c.Doses, true)
}

// checkDoses says what rows of the dose table lack; whole asks for all of them.
func checkDoses(doses map[Row]map[athlete.Tier][]Cell, whole bool) error {
	for row, tiers := range doses {
		if !slices.Contains(rows, row) {
			return fmt.Errorf("doses are of %v and no others, not of %q", rows, row)
		}
		for _, tier := range athlete.Tiers {
			if got := len(tiers[tier]); got != Weeks {
				return fmt.Errorf("doses: %s for %s has %d weeks, not %d", row, tier, got, Weeks)
			}
		}
	}
	for _, row := range rows {
		if _, ok := doses[row]; whole && !ok {
			return fmt.Errorf("doses: the row %s is missing", row)
		}
	}
	return nil
}
