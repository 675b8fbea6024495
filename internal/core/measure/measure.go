// Package measure knows the tests of a screen: what each one measures, in
// which unit, on which sides, with how many trials, how a result comes out of
// the trials, and which values are unlikely or impossible. It reads what a
// coach typed into one cell and turns it into a Trial, or says why it cannot.
//
// The battery is data: tests.json beside this file. Targets and test errors in
// it are our own defaults unless a test names a published source.
package measure

import (
	_ "embed"
	"encoding/json"
	"fmt"
	"math"
	"slices"

	"dunnock/internal/core/unit"
)

// Limb is a side of the body as it stands at address.
type Limb string

// Direction is the way a throw or a turn goes.
type Direction string

// Swing is the side a swing is made from.
type Swing string

// The three kinds of side. They are never interchangeable: the lead hip, a turn
// toward the target and a swing from the playing side are different facts.
const (
	Lead    Limb      = "lead"
	Trail   Limb      = "trail"
	Toward  Direction = "toward"
	Away    Direction = "away"
	Playing Swing     = "playing"
	Other   Swing     = "other"
)

// SideKind says which kind of side a test has.
type SideKind string

// The kinds of side a test may have.
const (
	Unsided    SideKind = "none"
	Limbs      SideKind = "limb"
	Directions SideKind = "direction"
	Swings     SideKind = "swing"
)

// Side is the label of one column of a test: a Limb, a Direction or a Swing,
// whichever the test's SideKind says, or "" for a test without sides.
type Side string

// Sides returns the labels a kind of side has, in sheet order.
func (k SideKind) Sides() []Side {
	switch k {
	case Limbs:
		return []Side{Side(Lead), Side(Trail)}
	case Directions:
		return []Side{Side(Toward), Side(Away)}
	case Swings:
		return []Side{Side(Playing), Side(Other)}
	default:
		return []Side{""}
	}
}

// Rule names how a result comes out of the valid trials.
type Rule string

// Best takes the largest trial, Mean the arithmetic mean, and OneRM the best
// predicted one-repetition maximum of the sets.
const (
	Best  Rule = "best"
	Mean  Rule = "mean"
	OneRM Rule = "one-rm"
)

// Target is the value a test is compared with for one sex and age band.
type Target struct {
	Sex    string  `json:"sex,omitempty"`  // male, female, or "" for either
	Band   string  `json:"band,omitempty"` // 13-17, 18-39, 40-59, 60+, or "" for any
	Value  float64 `json:"value"`
	Spread float64 `json:"spread"`
}

// Variant is one way of doing a test. Results of different variants are never
// compared, and targets hold for the variant they name only.
type Variant struct {
	ID   string `json:"id"`
	Name string `json:"name"`
	// For says for whom this is the reference variant: "all", "men" (males of 18
	// and over) or "others". Empty: a variant without a target.
	For string `json:"for,omitempty"`
}

// Test is one entry of the battery.
type Test struct {
	ID         string     `json:"id"`
	Name       string     `json:"name"`
	Group      string     `json:"group"` // heading in the sheet
	Unit       unit.Unit  `json:"unit"`
	Decimals   int        `json:"decimals"`
	Kind       SideKind   `json:"sides"`
	Trials     int        `json:"trials"`
	Rule       Rule       `json:"rule"`
	Error      float64    `json:"typicalError"`           // typical error, in Unit; a share of the value when ErrorShare
	ErrorShare bool       `json:"errorIsShare,omitempty"` // Error is a fraction of the value
	Plausible  [2]float64 `json:"plausible"`
	Impossible [2]float64 `json:"impossible"`
	Exertion   bool       `json:"exertion,omitempty"`   // only for golfers cleared to exert themselves
	Flight     bool       `json:"flightTime,omitempty"` // a flight time may be given instead
	Range      bool       `json:"range,omitempty"`      // joint range: more than the target is no merit
	Region     string     `json:"region,omitempty"`     // body region a range test speaks of
	Quality    string     `json:"quality,omitempty"`
	Weight     float64    `json:"weight,omitempty"` // share in the quality
	Variants   []Variant  `json:"variants,omitempty"`
	Targets    []Target   `json:"targets,omitempty"`
	Source     string     `json:"source"` // where target and test error come from
	Setup      string     `json:"setup"`  // the fixed protocol in a line or two
}

//go:embed tests.json
var testsJSON []byte

var battery, byID = load()

func load() ([]Test, map[string]*Test) {
	var tests []Test
	if err := json.Unmarshal(testsJSON, &tests); err != nil {
		panic("measure: tests.json: " + err.Error())
	}
	m := make(map[string]*Test, len(tests))
	for i := range tests {
		m[tests[i].ID] = &tests[i]
	}
	return tests, m
}

// Battery returns the tests in the order of the day. The slice is shared: do
// not change it.
func Battery() []Test { return battery }

// Find returns the test with the given id.
func Find(id string) (*Test, bool) {
	t, ok := byID[id]
	return t, ok
}

// HasSide reports whether s is a side of the test.
func (t *Test) HasSide(s Side) bool { return slices.Contains(t.Kind.Sides(), s) }

// Target returns the target for a sex and an age band. A target that depends on
// a sex that was left out is not found.
func (t *Test) Target(sex, band string) (Target, bool) {
	for _, g := range t.Targets {
		if (g.Sex == "" || g.Sex == sex) && (g.Band == "" || g.Band == band) {
			return g, true
		}
	}
	return Target{}, false
}

// ReferenceVariant returns the variant whose results may be compared with the
// target, for a man of 18 or over or for anyone else; "" when the test has no
// variants.
func (t *Test) ReferenceVariant(man bool) string {
	who := "others"
	if man {
		who = "men"
	}
	for _, v := range t.Variants {
		if v.For == "all" || v.For == who {
			return v.ID
		}
	}
	return ""
}

// HasVariant reports whether id names one of the test's variants.
func (t *Test) HasVariant(id string) bool {
	if len(t.Variants) == 0 {
		return id == ""
	}
	return slices.ContainsFunc(t.Variants, func(v Variant) bool { return v.ID == id })
}

// TypicalError returns the test's typical error at the value v, in the test's
// unit.
func (t *Test) TypicalError(v float64) float64 {
	if t.ErrorShare {
		return math.Abs(v) * t.Error
	}
	return t.Error
}

// Status says what became of a trial. A trial that was never tried has no
// Trial at all.
type Status string

// A trial was done (it has a value), stopped (it has none, and it is not a
// zero), or skipped with a reason.
const (
	Done    Status = "done"
	Stopped Status = "stopped"
	Skipped Status = "skipped"
)

// Lift is one set of a lift: load in kilograms, repetitions done, and how many
// more there would have been.
type Lift struct {
	LoadKg  float64 `json:"loadKg"`
	Reps    int     `json:"reps"`
	Reserve float64 `json:"reserve"`
}

// Trial is one cell of a screen.
type Trial struct {
	Test    string  `json:"test"`
	Side    Side    `json:"side,omitempty"`
	Number  int     `json:"trial"`
	Status  Status  `json:"status"`
	Value   float64 `json:"value"`          // in the test's unit when Done; for a lift, the load in kg
	Lift    *Lift   `json:"lift,omitempty"` // for lifts
	Variant string  `json:"variant,omitempty"`
	Pain    int     `json:"pain,omitempty"` // 0 to 10
	Region  string  `json:"region,omitempty"`
	Note    string  `json:"note,omitempty"`
	// Confirmed marks an unlikely value the coach looked at and kept.
	Confirmed bool `json:"confirmed,omitempty"`
}

// Key names the cell a trial stands in.
func (t Trial) Key() string { return fmt.Sprintf("%s|%s|%d", t.Test, t.Side, t.Number) }
