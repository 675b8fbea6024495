// Package measure knows the tests of a screen: what each one measures, in
// which unit, on which sides, with how many trials, how a result comes out of
// the trials, and which values are unlikely or impossible. It reads what a
// coach typed into one cell and turns it into a Trial, or says why it cannot.
//
// The tests we ship are data: tests.json beside this file. Targets and test
// errors in it are our own defaults unless a test names a published source. A
// practice may add tests of its own and change targets: see Changes and
// Battery.
package measure

import (
	"fmt"
	"math"
	"slices"
	"strings"

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
// The slice is shared: do not change it.
func (k SideKind) Sides() []Side {
	if s, ok := sides[k]; ok {
		return s
	}
	return sides[Unsided]
}

var sides = map[SideKind][]Side{
	Unsided: {""}, Limbs: {Side(Lead), Side(Trail)}, Directions: {Side(Toward), Side(Away)}, Swings: {Side(Playing), Side(Other)},
}

// Rule names how a result comes out of the valid trials.
type Rule string

// Best takes the best trial (the smallest where less is better), Mean the
// arithmetic mean, OneRM the best predicted one-repetition maximum of the sets,
// Spread the standard deviation of a set of shots, and Ladder the fastest swing
// of implements of several masses. Derived results come from other tests: they
// have no trials.
const (
	Best    Rule = "best"
	Mean    Rule = "mean"
	OneRM   Rule = "one-rm"
	Spread  Rule = "spread"
	Ladder  Rule = "ladder"
	Derived Rule = "derived"
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
	inSentence string // the name as it stands in a sentence

	ID         string     `json:"id"`
	Name       string     `json:"name"`
	Group      string     `json:"group"` // heading in the sheet, and the station it is done at
	Unit       unit.Unit  `json:"unit"`
	Decimals   int        `json:"decimals"`
	Kind       SideKind   `json:"sides"`
	Trials     int        `json:"trials"`
	Rule       Rule       `json:"rule"`
	Error      float64    `json:"typicalError"`           // typical error, in Unit; a share of the value when ErrorShare
	ErrorShare bool       `json:"errorIsShare,omitempty"` // Error is a fraction of the value
	Plausible  [2]float64 `json:"plausible"`
	Impossible [2]float64 `json:"impossible"`
	Exertion   bool       `json:"exertion,omitempty"`     // only for golfers cleared to exert themselves
	Flight     bool       `json:"flightTime,omitempty"`   // a flight time may be given instead
	Range      bool       `json:"range,omitempty"`        // joint range: more than the target is no merit
	Less       bool       `json:"lessIsBetter,omitempty"` // a smaller result is the better one
	FallOff    bool       `json:"fallOff,omitempty"`      // the loss from the first trial to the last is kept
	Region     string     `json:"region,omitempty"`       // body region the test loads or speaks of
	Quality    string     `json:"quality,omitempty"`
	Weight     float64    `json:"weight,omitempty"`     // share in the quality: counts for coverage
	Supplement float64    `json:"supplement,omitempty"` // share when measured; says nothing about coverage
	StandsFor  string     `json:"standsFor,omitempty"`  // the test this one may stand in for, at its weight
	Variants   []Variant  `json:"variants,omitempty"`
	Targets    []Target   `json:"targets,omitempty"`
	Source     string     `json:"source"`            // where target and test error come from
	Setup      string     `json:"setup"`             // the fixed protocol in a line or two
	Say        string     `json:"say,omitempty"`     // what the golfer is told
	RestS      int        `json:"restS,omitempty"`   // rest between trials, s
	Voids      []string   `json:"voids,omitempty"`   // what makes a trial not count
	Minutes    float64    `json:"minutes,omitempty"` // one golfer takes, all trials and sides
	Tiring     int        `json:"tiring,omitempty"`  // 0 tires nobody … 3 belongs at the end
	// Plain says a result below its target as a coach would, with {side}, {value}
	// and {target} filled in.
	Plain string `json:"plain,omitempty"`
	// Loads is how hard the test loads regions of the body, 1 (light) to 3 (as hard
	// as it gets), beside Region, which it loads lightly at least.
	Loads map[string]int `json:"loads,omitempty"`
	// At13 is the target at 13 years, by sex: see TargetAt.
	At13 map[string]float64 `json:"at13,omitempty"`
	// DeclinePercent is what the target loses a year from 65 to 85, in % of its
	// value at 65.
	DeclinePercent float64 `json:"declinePercent,omitempty"`
	// Window is the key of the window of force whose inner edge is the target.
	Window string `json:"window,omitempty"`
	// Own marks a practice's own test, OwnTarget a shipped one with targets of
	// the practice; ErrorFrom says where Error comes from when it is not the
	// default.
	Own       bool   `json:"own,omitempty"`
	OwnTarget bool   `json:"ownTarget,omitempty"`
	ErrorFrom string `json:"errorFrom,omitempty"`

	place int // in its battery
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

// Ages in years at which a target is fixed; between them it follows straight
// lines (ours).
const (
	youngest   = 13.0 // At13
	youth      = 17.0 // the value of the band 13-17
	adult      = 18.0 // of 18-39
	leavesFrom = 50.0 // of 40-59, which holds from 40
	senior     = 65.0 // of 60+
	oldest     = 85.0 // the decline ends
)

// TargetAt returns the target for a sex and an age in years: that of the band at
// 17, from 18 to 39, from 40 to 50 and at 65, and straight lines between these
// and, for juniors, from At13 on; from 65 to 85 it falls by DeclinePercent of its
// value at 65 a year, not compounded. A test that is done another way by men
// (another ball) keeps the value of 17 up to 18. A target that depends on a sex
// that was left out is not found.
func (t *Test) TargetAt(sex string, age float64) (Target, bool) {
	switch {
	case age < youngest:
		return t.Target(sex, "under-13")
	case age < adult:
		return t.juniorTarget(sex, age)
	case age < 40:
		return t.Target(sex, "18-39")
	case age < leavesFrom:
		return t.Target(sex, "40-59")
	}
	g, ok := t.Target(sex, "60+")
	if !ok || age >= senior {
		g.Value -= (math.Min(age, oldest) - senior) * t.DeclinePercent / 100 * math.Abs(g.Value)
		return g, ok
	}
	from, ok := t.Target(sex, "40-59")
	return between(from, g, (age-leavesFrom)/(senior-leavesFrom)), ok
}

func (t *Test) juniorTarget(sex string, age float64) (Target, bool) {
	at17, ok := t.Target(sex, "13-17")
	if !ok {
		return at17, false
	}
	if age < youth {
		at13 := at17
		if v, ok := t.At13[sex]; ok {
			at13.Value = v
		}
		return between(at13, at17, (age-youngest)/(youth-youngest)), true
	}
	grown, ok := t.Target(sex, "18-39")
	if !ok || t.ReferenceVariant(true) != t.ReferenceVariant(false) {
		return at17, true
	}
	return between(at17, grown, (age-youth)/(adult-youth)), true
}

// between returns the target a share of the way from a to b.
func between(a, b Target, share float64) Target {
	a.Value += share * (b.Value - a.Value)
	a.Spread += share * (b.Spread - a.Spread)
	return a
}

// LoadOn returns how hard the test loads a region, 0 (not at all) to 3.
func (t *Test) LoadOn(region string) int {
	if n := t.Loads[region]; n > 0 {
		return n
	}
	if t.Region == region && region != "" {
		return 1
	}
	return 0
}

// Better returns the better of two results of the test.
func (t *Test) Better(a, b float64) float64 {
	if t.Less {
		return math.Min(a, b)
	}
	return math.Max(a, b)
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
	Value   float64 `json:"value"`           // in the test's unit when Done; for a lift, the load in kg
	Lift    *Lift   `json:"lift,omitempty"`  // for lifts
	MassG   float64 `json:"massG,omitempty"` // mass of the implement in a ladder, g
	Variant string  `json:"variant,omitempty"`
	// GaveOut says what ended a lift first: legs, back or grip.
	GaveOut string `json:"gaveOut,omitempty"`
	Pain    int    `json:"pain,omitempty"` // 0 to 10
	Region  string `json:"region,omitempty"`
	// Tingling or numbness of an arm or a hand came with it.
	Tingling bool   `json:"tingling,omitempty"`
	Note     string `json:"note,omitempty"`
	// Confirmed marks an unlikely value the coach looked at and kept.
	Confirmed bool   `json:"confirmed,omitempty"`
	Tester    string `json:"tester,omitempty"` // who took it
	Device    string `json:"device,omitempty"` // with what
	At        string `json:"at,omitempty"`     // when it was written down, RFC 3339
}

// GaveOutFirst are the things that may end a lift.
var GaveOutFirst = []string{"legs", "back", "grip"}

// Key names the cell a trial stands in.
func (t Trial) Key() string { return fmt.Sprintf("%s|%s|%d", t.Test, t.Side, t.Number) }

// SameAs reports whether two trials say the same about the same cell, whoever
// wrote them and when.
func (t Trial) SameAs(o Trial) bool {
	lifts := t.Lift == o.Lift || t.Lift != nil && o.Lift != nil && *t.Lift == *o.Lift
	return t.Key() == o.Key() && t.Status == o.Status && t.Value == o.Value && lifts && t.MassG == o.MassG &&
		t.Variant == o.Variant && t.GaveOut == o.GaveOut && t.Pain == o.Pain && t.Region == o.Region && t.Tingling == o.Tingling && t.Note == o.Note
}

// InSentence is the test's name as it stands in a sentence.
func (t *Test) InSentence() string {
	if t.inSentence == "" {
		return strings.ToLower(t.Name) // no battery holds it
	}
	return t.inSentence
}
