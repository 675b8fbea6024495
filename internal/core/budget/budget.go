// Package budget says how much of each quality a week asks for, and measures how
// much of it a programme gives: asked and given, in the units a coach counts in.
//
// The table of weekly doses is data (doses.json): for every quality and level a
// range of sets, throws, contacts, minutes or doses a week. Ask reads it for one
// golfer; Given counts a judged week by pattern, whatever an exercise weighs. The
// minutes and shares count a quality from a weight of 0.5 only. All numbers are
// ours unless docs/methods.md names a source.
//
// Nothing is decided here: package plan makes programmes that meet what is asked.
package budget

import (
	"bytes"
	_ "embed"
	"encoding/json"
	"fmt"
	"strings"
	"sync"

	"dunnock/internal/core/quality"
)

// Qualities that have no test of their own and are asked for all the same.
const (
	Trunk      = "trunk"
	SwingSpeed = "swing-speed"
)

// Unit is what a dose is counted in.
type Unit string

// The units of the table.
const (
	JointMinutes  Unit = "joint-minutes"   // minutes a week for each restricted joint and side: the least of them
	LiftSets      Unit = "lift-sets"       // working sets of a squat or a hinge
	PushPullSets  Unit = "push-pull-sets"  // sets of a push, and of a pull: the fewer
	Contacts      Unit = "contacts"        // landings of jumps, rebounds left out
	ThrowsEachWay Unit = "throws-each-way" // throws in each direction
	ChestThrows   Unit = "chest-throws"    // chest throws and fast pushes
	Rebounds      Unit = "rebounds"        // landings with short contact
	DrillDoses    Unit = "drill-doses"     // drills × doses, no look-alikes
	StillMinutes  Unit = "still-minutes"   // on one leg or holding still
	GripSets      Unit = "grip-sets"
	PushItems     Unit = "push-items" // items that serve ground force
	TrunkSets     Unit = "trunk-sets" // resisting, and producing rotation: the fewer
	Exposures     Unit = "exposures"  // sessions with enough fast swings
)

var unitWords = map[Unit]string{
	JointMinutes: "min a joint", LiftSets: "sets of lifts", PushPullSets: "sets of push and of pull", Contacts: "landings",
	ThrowsEachWay: "throws each way", ChestThrows: "chest throws", Rebounds: "rebounds", DrillDoses: "doses of drills",
	StillMinutes: "min held or on one leg", GripSets: "sets", PushItems: "exercises", TrunkSets: "sets resisting and turning", Exposures: "sessions with fast swings",
}

// Words is the unit as it is read behind a number.
func (u Unit) Words() string { return unitWords[u] }

// Counted is the unit behind a number: one of it stands in the singular.
func (u Unit) Counted(n float64) string {
	words := unitWords[u]
	if n != 1 || u == JointMinutes || u == StillMinutes {
		return words
	}
	first, rest, _ := strings.Cut(words, " ")
	return strings.TrimSpace(strings.TrimSuffix(first, "s") + " " + rest)
}

// Range is a weekly dose.
type Range struct {
	Low  float64 `json:"low"`
	High float64 `json:"high"`
	Days int     `json:"days"` // on at least so many
	// Beside is asked of the row's second unit; Most is for how many joints the
	// level holds; Drills is how many different ones.
	Beside     float64 `json:"beside,omitempty"`
	BesideHigh float64 `json:"besideHigh,omitempty"`
	Most       int     `json:"most,omitempty"`
	Drills     int     `json:"drills,omitempty"`
}

// Row is a quality's doses.
type Row struct {
	Quality string `json:"quality"`
	Unit    Unit   `json:"unit"`
	Beside  Unit   `json:"beside,omitempty"`
	Keep    Range  `json:"keep"`
	Build   Range  `json:"build"`
	Lead    Range  `json:"lead"`
}

// Of returns the dose of a level; a quality that is spared is kept.
func (r *Row) Of(l quality.Level) Range {
	switch l {
	case quality.Lead:
		return r.Lead
	case quality.Build:
		return r.Build
	}
	return r.Keep
}

// Table is the doses with what else the budget counts by.
type Table struct {
	Rows     []Row `json:"rows"`
	Exposure struct {
		Swings              int `json:"swings"`
		Novice              int `json:"novice"`
		JuniorSenior        int `json:"juniorSenior"`
		IntentPercent       int `json:"intentPercent"`
		NoviceIntentPercent int `json:"noviceIntentPercent"`
	} `json:"exposure"`
	Share struct {
		Leader      float64 `json:"leader"`      // % of minutes given
		SmallLeader float64 `json:"smallLeader"` // of a quality whose doses are small
		Two         float64 `json:"two"`         // each of two leaders
		Serves      float64 `json:"serves"`      // weight from which minutes count
		Joints      int     `json:"joints"`      // from which mobility is no small leader
	} `json:"share"`
	Home struct {
		Minutes float64 `json:"minutes"` // a day
	} `json:"home"`
}

//go:embed doses.json
var dosesJSON []byte

var table = sync.OnceValue(func() *Table {
	var t Table
	dec := json.NewDecoder(bytes.NewReader(dosesJSON))
	dec.DisallowUnknownFields()
	if err := dec.Decode(&t); err != nil {
		panic("budget: doses.json: " + err.Error())
	}
	if err := t.check(); err != nil {
		panic("budget: doses.json: " + err.Error())
	}
	return &t
})

// Doses returns the table we ship. It is shared: do not change it.
func Doses() *Table { return table() }

func (t *Table) check() error {
	for _, r := range t.Rows {
		if unitWords[r.Unit] == "" || r.Beside != "" && unitWords[r.Beside] == "" {
			return fmt.Errorf("%s: there is no unit %q", r.Quality, r.Unit)
		}
		last := 0.0
		for _, x := range []Range{r.Keep, r.Build, r.Lead} {
			if x.Low < last || x.High < x.Low || x.BesideHigh < x.Beside {
				return fmt.Errorf("%s: ranges rise from keep to lead, and from low to high", r.Quality)
			}
			last = x.Low
		}
	}
	return nil
}

// Row returns the row of a quality.
func (t *Table) Row(q string) (*Row, bool) {
	for i := range t.Rows {
		if t.Rows[i].Quality == q {
			return &t.Rows[i], true
		}
	}
	return nil, false
}

// Name is a quality as read in a sentence.
func Name(q string) string {
	switch q {
	case Trunk:
		return "trunk"
	case SwingSpeed:
		return "swing speed"
	}
	return quality.Name(q)
}
