// Package library holds the exercises: what each one trains, what it needs,
// what it loads and how it is dosed. The exercises are data, one file per
// family in data/; the package only reads them, checks that they hang together
// and answers whether one may be used.
//
// A Catalogue is a value that does not change: whoever plans, judges or shows is
// given one. Nothing here is looked up behind a caller's back.
package library

import (
	"bytes"
	"embed"
	"encoding/json"
	"fmt"
	"io/fs"
	"maps"
	"path"
	"slices"
	"strings"
	"sync"

	"dunnock/internal/core/athlete"
	"dunnock/internal/core/measure"
)

// version changes whenever an exercise does: it is written into every plan.
const version = "2026.5"

// Zone places an exercise along force and speed, from fastest to slowest; M is
// mobility and control.
type Zone string

// The zones.
const (
	Z1 Zone = "Z1"
	Z2 Zone = "Z2"
	Z3 Zone = "Z3"
	Z4 Zone = "Z4"
	Z5 Zone = "Z5"
	M  Zone = "M"
)

// Unit is what a dose counts.
type Unit string

// The dose units.
const (
	Reps     Unit = "reps"
	Seconds  Unit = "seconds"
	Contacts Unit = "contacts"
	Swings   Unit = "swings"
)

// How an exercise is done on sides.
const (
	TwoSided    = "two"       // both limbs together
	OneSided    = "one"       // lead limb, then trail limb
	Directional = "direction" // toward the target, then away
	SwingSides  = "swing"     // playing side and other side share the swings
)

// Space is the room an exercise needs, in metres.
type Space struct {
	LengthM  float64 `json:"lengthM"`
	CeilingM float64 `json:"ceilingM"`
}

// Exercise is one entry.
type Exercise struct {
	ID       string             `json:"id"`
	Formerly []string           `json:"formerly,omitempty"` // ids of exercises it has taken the place of
	Name     string             `json:"name"`
	Family   string             `json:"family,omitempty"`
	Slots    []Slot             `json:"slots"`
	Zone     Zone               `json:"zone"`
	Plane    string             `json:"plane"`
	Pattern  string             `json:"pattern"`
	Sides    string             `json:"sides"`
	Stance   string             `json:"stance"`
	Kit      []string           `json:"kit"`
	Level    athlete.Level      `json:"level"`
	Serves   map[string]float64 `json:"serves"` // quality → weight

	LookAlike  bool `json:"lookAlike,omitempty"`  // looks like a swing
	Stabilised bool `json:"stabilised,omitempty"` // a machine holds the joints
	Maximal    bool `json:"maximal,omitempty"`    // done at full effort
	Rhythmic   bool `json:"rhythmic,omitempty"`   // pogo, rope: exempt from the explosive-reps rule
	LowImpact  bool `json:"lowImpact,omitempty"`
	DepthDrop  bool `json:"depthDrop,omitempty"`
	Drill      bool `json:"drill,omitempty"`    // swings done in rounds of ten: a round counts half
	ByHand     bool `json:"byHand,omitempty"`   // a coach places it, no plan does by itself: it makes a day one of fast swings
	FeetOff    bool `json:"feetOff,omitempty"`  // swings in which both feet leave the ground: each is a landing
	EndRange   bool `json:"endRange,omitempty"` // loaded end-range flexion with rotation
	Unstable   bool `json:"unstable,omitempty"` // on a surface that gives
	OneArm     bool `json:"oneArm,omitempty"`   // its sides are those of the arms, whatever its pattern
	// Test is the bodyweight test its repetitions follow; LeastReps is how many more
	// than the reserve that must have shown, and NeedsTest says that without the test
	// it is not given.
	Test      string `json:"test,omitempty"`
	LeastReps int    `json:"leastReps,omitempty"`
	NeedsTest bool   `json:"needsTest,omitempty"`
	// Rehab are regions whose way back from an injury an unstable surface serves.
	Rehab []string `json:"rehab,omitempty"`
	Tempo string   `json:"tempo,omitempty"`
	Space Space    `json:"space,omitzero"`
	// Climb is how range work is done as it climbs over a block: long or slow at the end
	// of range, lifting off there, and against something light.
	Climb []string `json:"climb,omitempty"`

	Demands          []string `json:"demands"`           // region/kind it loads
	Targets          []string `json:"targets,omitempty"` // range tests it answers
	DoseUnit         Unit     `json:"doseUnit"`
	SecondsPerRep    float64  `json:"secondsPerRep"`
	RestSeconds      int      `json:"restSeconds"`
	LoadBasis        string   `json:"loadBasis"` // a lift's test id, ball, implement, lever, feel or none
	BallShare        float64  `json:"ballShare,omitempty"`
	ImplementPercent int      `json:"implementPercent,omitempty"` // of driver mass
	Cues             []string `json:"cues"`
	Faults           []string `json:"faults"`
	Easier           string   `json:"easier,omitempty"`
	Harder           string   `json:"harder,omitempty"`
}

//go:embed data/*.json
var files embed.FS

// Catalogue is a set of exercises. It does not change once made; the exercises
// it hands out are shared.
type Catalogue struct {
	version string
	all     []Exercise
	byID    map[string]*Exercise
}

var shipped = sync.OnceValue(func() *Catalogue {
	list, err := read(files)
	if err != nil {
		panic("library: " + err.Error())
	}
	c, err := New(version, list)
	if err != nil {
		panic("library: " + err.Error())
	}
	return c
})

// Shipped returns the exercises we ship.
func Shipped() *Catalogue { return shipped() }

// New makes a catalogue of the given exercises, in id order. It fails where two
// have one id or one does not hang together.
func New(version string, exercises []Exercise) (*Catalogue, error) {
	c := &Catalogue{version: version, all: slices.Clone(exercises), byID: make(map[string]*Exercise, len(exercises))}
	slices.SortFunc(c.all, func(a, b Exercise) int { return strings.Compare(a.ID, b.ID) })
	for i := range c.all {
		e := &c.all[i]
		if c.byID[e.ID] != nil {
			return nil, fmt.Errorf("two exercises are named %s", e.ID)
		}
		c.byID[e.ID] = e
	}
	for i := range c.all {
		for _, id := range c.all[i].Formerly {
			if c.byID[id] != nil {
				return nil, fmt.Errorf("%s is named still and was before: %s", id, c.all[i].ID)
			}
			c.byID[id] = &c.all[i]
		}
	}
	for i := range c.all {
		if err := c.check(&c.all[i]); err != nil {
			return nil, err
		}
	}
	return c, nil
}

// families are the families of the exercises in a file, unless they say one.
var families = map[string]string{
	"swings":     "swings",
	"throws":     "throws",
	"jumps":      "jumps",
	"lower":      "strength-lower",
	"trunk":      "trunk",
	"grip":       "grip-forearm",
	"mobility":   "mobility",
	"separation": "separation",
	"control":    "control",
}

func read(files fs.FS) ([]Exercise, error) {
	names, err := fs.Glob(files, "data/*.json")
	if err != nil {
		return nil, err
	}
	var list []Exercise
	for _, name := range names {
		b, err := fs.ReadFile(files, name)
		if err != nil {
			return nil, err
		}
		var part []Exercise
		dec := json.NewDecoder(bytes.NewReader(b))
		dec.DisallowUnknownFields()
		if err := dec.Decode(&part); err != nil {
			return nil, fmt.Errorf("%s: %w", name, err)
		}
		for i := range part {
			if part[i].Family == "" {
				part[i].Family = families[strings.TrimSuffix(path.Base(name), ".json")]
			}
		}
		list = append(list, part...)
	}
	return list, nil
}

// Version names the state of the exercises.
func (c *Catalogue) Version() string { return c.version }

// All returns every exercise in id order. The slice is shared: do not change
// it.
func (c *Catalogue) All() []Exercise { return c.all }

// Find returns the exercise with the given id, or the one that has taken its place.
func (c *Catalogue) Find(id string) (*Exercise, bool) {
	e, ok := c.byID[id]
	return e, ok
}

// Kit returns every piece of kit some exercise needs, in alphabetical order.
func (c *Catalogue) Kit() []string {
	seen := map[string]bool{}
	var out []string
	for i := range c.all {
		for _, k := range c.all[i].Kit {
			if !seen[k] {
				seen[k] = true
				out = append(out, k)
			}
		}
	}
	slices.Sort(out)
	return out
}

// Fits reports whether the exercise can serve the slot.
func (e *Exercise) Fits(slot Slot) bool { return slices.Contains(e.Slots, slot.filed()) }

// MissingKit returns the kit the exercise needs that is not in have.
func (e *Exercise) MissingKit(have []string) []string {
	var out []string
	for _, k := range e.Kit {
		if !slices.Contains(have, k) {
			out = append(out, k)
		}
	}
	return out
}

var demandOf = map[athlete.LimitKind]string{
	athlete.NoImpact: "impact", athlete.NoLoadedFlexion: "loaded-flexion", athlete.NoLoadedRotation: "loaded-rotation",
	athlete.NoOverhead: "overhead", athlete.NoMaximalEffort: "maximal-effort", athlete.NoEndRange: "end-range",
}

// Blocked returns the first limit that forbids the exercise, if one does. A load
// cap never forbids an exercise: it caps its load. A limit on the heart forbids
// maximal effort wherever it is made. A limit on one side leaves one-sided work of
// the other: see SoundSide.
func (e *Exercise) Blocked(limits []athlete.Limit) (athlete.Limit, bool) {
	only := ""
	for _, l := range limits {
		if !e.touches(l) {
			continue
		}
		sound, ok := e.sound(l)
		if !ok || only != "" && only != sound {
			return l, true
		}
		only = sound
	}
	return athlete.Limit{}, false
}

// SoundSide returns the side a one-sided exercise may be done on where limits of
// the other leave only that: lead, trail, or "" for both.
func (e *Exercise) SoundSide(limits []athlete.Limit) string {
	for _, l := range limits {
		if !e.touches(l) {
			continue
		}
		if side, ok := e.sound(l); ok {
			return side
		}
	}
	return ""
}

// touches reports whether the exercise does what a limit forbids, on some side.
func (e *Exercise) touches(l athlete.Limit) bool {
	switch {
	case l.Kind == athlete.LoadCap:
		return false
	case l.Region == "heart":
		return e.Maximal
	case l.Kind == athlete.NoMaximalEffort && e.Maximal && e.loads(l.Region, ""):
		return true
	}
	return e.loads(l.Region, demandOf[l.Kind])
}

// Rehabilitates reports whether a limit is on a region the exercise brings back: one
// that spares it from full effort, not one that only forbids landings.
func (e *Exercise) Rehabilitates(l athlete.Limit) bool {
	return slices.Contains(e.Rehab, l.Region) && l.Kind == athlete.NoMaximalEffort
}

// OfGrip reports whether it works the grip above all.
func (e *Exercise) OfGrip() bool {
	return strings.HasPrefix(e.Pattern, "grip") || e.Pattern == "lever" || e.Pattern == "carry"
}

// roundFrom is how many swings of a drill in a row are a round, not a set.
const roundFrom = 7

// FastSwings is how many swings of a dose count as fast: of sets of reps swings, swings in
// all, at an intent in %. Slow ones with a heavy club count none; rounds of a drill half,
// rounded up, unless they are made at the intent that is fast; all others every one.
func (e *Exercise) FastSwings(swings, reps, intent, fast int) int {
	switch {
	case e.DoseUnit != Swings || e.Zone == Z3 && intent < fast:
		return 0
	case e.Drill && reps >= roundFrom && intent < fast:
		return (swings + 1) / 2
	}
	return swings
}

// Landings is how many of the repetitions of a dose are landings.
func (e *Exercise) Landings(repetitions int) int {
	if e.DoseUnit == Contacts || e.FeetOff {
		return repetitions
	}
	return 0
}

// IsSprint reports whether it is run: its steps are landings, and no rebounds.
func (e *Exercise) IsSprint() bool { return e.Rhythmic && e.Pattern == "jump-horizontal" }

// ServesFrom adds up the weights of what it serves from a weight on, always in the
// same order: the same exercise gives the same sum to the last bit.
func (e *Exercise) ServesFrom(least float64) float64 {
	sum := 0.0
	for _, q := range slices.Sorted(maps.Keys(e.Serves)) {
		if w := e.Serves[q]; w >= least {
			sum += w
		}
	}
	return sum
}

// Lands reports whether the feet come down from a jump.
func (e *Exercise) Lands() bool { return e.loads("knee", "impact") || e.loads("ankle-foot", "impact") }

// Loaded reports whether it is done with a weight that is chosen.
func (e *Exercise) Loaded() bool { return e.LoadBasis == "feel" || e.LoadBasis == "trap-bar-lift" }

// Overhead reports whether it is done with the arms overhead.
func (e *Exercise) Overhead() bool { return e.loads("shoulder", "overhead") }

// limbs are the regions there are two of; a leg exercise holds what it holds with
// both hands.
var legs, arms = []string{"hip", "knee", "ankle-foot"}, []string{"shoulder", "elbow", "wrist-hand"}

// sound returns the side that a limit of one side leaves to a one-sided exercise.
func (e *Exercise) sound(l athlete.Limit) (string, bool) {
	oneLeg := slices.Contains(legs, l.Region) && !e.ofArms()
	oneArm := slices.Contains(arms, l.Region) && e.ofArms()
	if e.Sides != OneSided || !oneLeg && !oneArm {
		return "", false
	}
	switch l.Side {
	case "lead":
		return "trail", true
	case "trail":
		return "lead", true
	}
	return "", false
}

// ofArms reports whether a one-sided exercise is done with one arm rather than one
// leg.
func (e *Exercise) ofArms() bool {
	if e.OneArm {
		return true
	}
	if e.Zone == M && !slices.ContainsFunc(legs, func(r string) bool { return e.loads(r, "") }) {
		return true
	}
	for _, p := range []string{"push", "pull", "grip", "lever"} {
		if strings.HasPrefix(e.Pattern, p) {
			return true
		}
	}
	return false
}

// Loads reports whether the exercise loads a region in any way.
func (e *Exercise) Loads(region string) bool { return e.loads(region, "") }

// loads reports whether the exercise loads a region in the given way, or at all
// when kind is empty.
func (e *Exercise) loads(region, kind string) bool {
	for _, d := range e.Demands {
		r, k, _ := strings.Cut(d, "/")
		if r == region && (kind == "" || k == kind) {
			return true
		}
	}
	return false
}

// Cap returns the smallest load cap, in kg, that applies to the exercise.
func (e *Exercise) Cap(limits []athlete.Limit) (float64, bool) {
	limit, found := 0.0, false
	for _, l := range limits {
		if l.Kind == athlete.LoadCap && (l.Region == "heart" || e.loads(l.Region, "")) && (!found || l.CapKg < limit) {
			limit, found = l.CapKg, true
		}
	}
	return limit, found
}

// check reports what is wrong with an entry.
func (c *Catalogue) check(e *Exercise) error {
	switch {
	case e.ID == "" || e.Name == "" || e.Family == "":
		return fmt.Errorf("%q needs an id, a name and a family", e.ID)
	case !slices.Contains([]Zone{Z1, Z2, Z3, Z4, Z5, M}, e.Zone):
		return fmt.Errorf("%s: zone %q", e.ID, e.Zone)
	case !slices.Contains([]string{TwoSided, OneSided, Directional, SwingSides}, e.Sides):
		return fmt.Errorf("%s: sides %q", e.ID, e.Sides)
	case e.SecondsPerRep <= 0 || e.RestSeconds <= 0:
		return fmt.Errorf("%s: needs seconds per repetition and rest", e.ID)
	case len(e.Cues) == 0 || len(e.Faults) == 0 || len(e.Demands) == 0 || len(e.Slots) == 0:
		return fmt.Errorf("%s: needs cues, faults, demands and slots", e.ID)
	case e.Level < 1 || e.Level > 4:
		return fmt.Errorf("%s: level %d", e.ID, e.Level)
	case e.LoadBasis == "ball" && e.BallShare == 0:
		return fmt.Errorf("%s: needs a ball share", e.ID)
	}
	for _, d := range e.Demands {
		r, k, ok := strings.Cut(d, "/")
		if !ok || !measure.KnownRegion(r) || !slices.Contains([]string{"work", "load", "impact", "loaded-flexion", "loaded-rotation", "overhead", "maximal-effort", "end-range"}, k) {
			return fmt.Errorf("%s: demand %q", e.ID, d)
		}
	}
	for _, n := range []string{e.Easier, e.Harder} {
		if _, ok := c.byID[n]; n != "" && !ok {
			return fmt.Errorf("%s: neighbour %q does not exist", e.ID, n)
		}
	}
	for at, steps := e, 0; at.Harder != "" && steps <= len(c.byID); steps++ {
		next, ok := c.byID[at.Harder]
		if !ok {
			break // named where that one is looked at
		}
		if at = next; at.ID == e.ID {
			return fmt.Errorf("%s: its ladder comes back to it: a harder neighbour leads round in a circle", e.ID)
		}
	}
	for _, t := range e.Targets {
		if _, ok := measure.Shipped().Find(t); !ok {
			return fmt.Errorf("%s: target test %q does not exist", e.ID, t)
		}
	}
	return nil
}
