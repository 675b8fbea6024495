package measure

import (
	_ "embed"
	"encoding/json"
	"fmt"
	"regexp"
	"slices"
	"strings"

	"dunnock/internal/core/unit"
)

// Battery is a set of tests in the order of the day. It does not change once
// made; the tests it hands out are shared.
type Battery struct {
	tests []Test
	byID  map[string]*Test
	of    map[string][]int // by quality, the places of its tests
	z     float64          // of the confidence a difference is called real at
}

//go:embed tests.json
var testsJSON []byte

//go:embed batteries.json
var batteriesJSON []byte

var shipped, sets = func() (*Battery, []Set) {
	var tests []Test
	if err := json.Unmarshal(testsJSON, &tests); err != nil {
		panic("measure: tests.json: " + err.Error())
	}
	var sets []Set
	if err := json.Unmarshal(batteriesJSON, &sets); err != nil {
		panic("measure: batteries.json: " + err.Error())
	}
	return newBattery(tests), sets
}()

func newBattery(tests []Test) *Battery {
	b := &Battery{tests: tests, byID: make(map[string]*Test, len(tests)), of: map[string][]int{}, z: confidences[95]}
	for i := range tests {
		tests[i].place = i
		b.byID[tests[i].ID] = &tests[i]
		tests[i].inSentence = strings.ToLower(tests[i].Name)
		if q := tests[i].Quality; q != "" {
			b.of[q] = append(b.of[q], i)
		}
	}
	return b
}

// Shipped returns the battery we ship, without a practice's changes.
func Shipped() *Battery { return shipped }

// Tests returns the tests in the order of the day. The slice is shared: do not
// change it.
func (b *Battery) Tests() []Test { return b.tests }

// Of returns the places in Tests of the tests a quality is read from. The slice is
// shared: do not change it.
func (b *Battery) Of(quality string) []int { return b.of[quality] }

// Find returns the test with the given id.
func (b *Battery) Find(id string) (*Test, bool) {
	t, ok := b.byID[id]
	return t, ok
}

// Index returns the place of a test in Tests, or -1.
func (b *Battery) Index(id string) int {
	if t, ok := b.byID[id]; ok {
		return t.place
	}
	return -1
}

// Place is where a test of a battery stands in its Tests.
func (t *Test) Place() int { return t.place }

// Z returns the standard normal quantile of the confidence at which a
// difference is called real; 1.96 for 95%.
func (b *Battery) Z() float64 { return b.z }

// confidences a coach may choose, in percent, with their two-sided quantiles.
var confidences = map[int]float64{80: 1.2815515655446004, 90: 1.6448536269514722, 95: 1.959963984540054, 99: 2.5758293035489004}

// Set is a named choice of tests in the order they are done.
type Set struct {
	ID    string   `json:"id"`
	Name  string   `json:"name"`
	Note  string   `json:"note,omitempty"`
	Tests []string `json:"tests"` // empty: every test
	Own   bool     `json:"own,omitempty"`
}

// Sets returns the batteries we ship by name; the first is the usual one.
func Sets() []Set { return slices.Clone(sets) }

// TestError is a typical error measured from a squad's own repeats, in the
// test's unit (a share where the test's error is a share).
type TestError struct {
	Value float64 `json:"value"`
	Pairs int     `json:"pairs"`
}

// Changes are what a practice does to the shipped battery.
type Changes struct {
	Own        []Test               `json:"own,omitempty"`
	Targets    map[string][]Target  `json:"targets,omitempty"`    // by test, in place of the shipped ones
	Errors     map[string]TestError `json:"errors,omitempty"`     // by test, from the squad's repeats
	Confidence int                  `json:"confidence,omitempty"` // %, of "real"; 0: 95
}

// MinPairs is how many test-retest pairs a squad needs before its own typical
// error takes the place of the default.
const MinPairs = 10

// Apply returns the shipped battery with the changes made. Own tests come
// before the first shipped group that tires more, at the end of their group
// where there is one. What is not valid is left out: see Validate.
func (c Changes) Apply() *Battery {
	if len(c.Own) == 0 && len(c.Targets) == 0 && len(c.Errors) == 0 && (c.Confidence == 0 || c.Confidence == 95) {
		return shipped
	}
	tests := slices.Clone(shipped.tests)
	for _, own := range c.Own {
		if own.problem() != "" {
			continue
		}
		own.Own = true
		at := len(tests)
		for i := range tests {
			if tests[i].Group == own.Group {
				at = i + 1
			}
		}
		tests = slices.Insert(tests, at, own)
	}
	for i := range tests {
		t := &tests[i]
		if g, ok := c.Targets[t.ID]; ok {
			t.Targets, t.OwnTarget, t.At13 = g, true, nil
		}
		if e, ok := c.Errors[t.ID]; ok && e.Pairs >= MinPairs {
			t.Error, t.ErrorFrom = e.Value, fmt.Sprintf("this squad's %d test-retest pairs", e.Pairs)
		}
	}
	b := newBattery(tests)
	if z, ok := confidences[c.Confidence]; ok {
		b.z = z
	}
	return b
}

// Edges sets the targets of force tests to the inner edges of a practice's own
// windows, by the window's key: one standard for a number.
func (c *Changes) Edges(windows map[string][2]float64) {
	for i := range shipped.tests {
		t := &shipped.tests[i]
		w, ok := windows[t.Window]
		if t.Window == "" || !ok {
			continue
		}
		if c.Targets == nil {
			c.Targets = map[string][]Target{}
		}
		c.Targets[t.ID] = []Target{{Value: w[0], Spread: t.Targets[0].Spread}}
	}
}

var ownID = regexp.MustCompile(`^own-[a-z0-9][a-z0-9-]{0,34}$`)

// OwnID makes an id for a practice's own test from its name.
func OwnID(name string) string {
	var b strings.Builder
	for _, r := range strings.ToLower(name) {
		switch {
		case r >= 'a' && r <= 'z', r >= '0' && r <= '9':
			b.WriteRune(r)
		case b.Len() > 0 && !strings.HasSuffix(b.String(), "-"):
			b.WriteByte('-')
		}
	}
	s := strings.Trim(b.String(), "-")
	if len(s) > 34 {
		s = strings.Trim(s[:34], "-")
	}
	if s == "" {
		s = "test"
	}
	return "own-" + s
}

// problem says what is wrong with an own test, or "".
func (t *Test) problem() string {
	_, taken := shipped.byID[t.ID]
	switch {
	case !ownID.MatchString(t.ID) || taken:
		return "the id of an own test begins with own- and is not used yet"
	case strings.TrimSpace(t.Name) == "" || len(t.Name) > 80:
		return "an own test needs a name of 1 to 80 letters"
	case strings.TrimSpace(t.Group) == "" || len(t.Group) > 40:
		return "say under which heading the test stands"
	case !unit.Known(t.Unit):
		return fmt.Sprintf("unit %q is not known", t.Unit)
	case !slices.Contains([]SideKind{Unsided, Limbs, Directions, Swings}, t.Kind):
		return "sides are none, limb, direction or swing"
	case t.Trials < 1 || t.Trials > 12:
		return "a test has 1 to 12 trials"
	case !slices.Contains([]Rule{Best, Mean, Spread}, t.Rule):
		return "an own test takes the best, the mean or the spread of its trials"
	case t.Decimals < 0 || t.Decimals > 3:
		return "0 to 3 decimals"
	case t.Error < 0 || t.ErrorShare && t.Error > 1:
		return "the test error is not negative"
	case t.Impossible[0] >= t.Impossible[1] || t.Plausible[0] >= t.Plausible[1] || t.Plausible[0] < t.Impossible[0] || t.Plausible[1] > t.Impossible[1]:
		return "limits: impossible below < plausible from < plausible to < impossible above"
	case t.Weight < 0 || t.Weight > 1 || t.Supplement < 0 || t.Supplement > 1:
		return "a share in a quality lies between 0 and 1"
	}
	for _, g := range t.Targets {
		if g.Spread <= 0 {
			return "a target needs a spread above 0"
		}
	}
	return ""
}

// A Problem is what is wrong with one part of Changes.
type Problem struct{ Path, Text string }

// Validate returns everything that is wrong with the changes.
func (c Changes) Validate() []Problem {
	var out []Problem
	seen := map[string]bool{}
	for i := range c.Own {
		path := fmt.Sprintf("own[%d]", i)
		if text := c.Own[i].problem(); text != "" {
			out = append(out, Problem{path, text})
		} else if seen[c.Own[i].ID] {
			out = append(out, Problem{path, "the same test stands twice"})
		}
		seen[c.Own[i].ID] = true
	}
	for id, list := range c.Targets {
		path := "targets." + id
		t, ok := shipped.byID[id]
		if !ok && !seen[id] {
			out = append(out, Problem{path, "there is no such test"})
		}
		for _, g := range list {
			if g.Spread <= 0 {
				out = append(out, Problem{path, "a target needs a spread above 0"})
			}
			if ok && (g.Value < t.Impossible[0] || t.Rule != OneRM && g.Value > t.Impossible[1]) {
				out = append(out, Problem{path, fmt.Sprintf("a target of %g %s is not possible", g.Value, t.Unit)})
			}
		}
	}
	for id, e := range c.Errors {
		if e.Value < 0 || e.Pairs < 2 {
			out = append(out, Problem{"errors." + id, "a test error is not negative and rests on pairs"})
		}
	}
	if _, ok := confidences[c.Confidence]; c.Confidence != 0 && !ok {
		out = append(out, Problem{"confidence", "choose 80, 90, 95 or 99%"})
	}
	slices.SortFunc(out, func(a, b Problem) int { return strings.Compare(a.Path, b.Path) })
	return out
}
