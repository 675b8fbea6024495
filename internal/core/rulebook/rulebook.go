// Package rulebook judges a programme. Each rule has an id, a plain sentence, a
// severity and a source (rules.json); its check here names the place it is
// broken at and offers a fix. The limits the rules speak of are exported, so
// that the generator keeps to the very numbers it is judged by.
package rulebook

import (
	"bytes"
	_ "embed"
	"encoding/json"
	"fmt"
	"slices"
	"strings"
	"sync"

	"dunnock/internal/core/athlete"
	"dunnock/internal/core/civil"
	"dunnock/internal/core/library"
	"dunnock/internal/core/programme"
	"dunnock/internal/core/programme/derive"
)

// Severity says what a broken rule means.
type Severity string

// Blocking rules stop a programme from being issued, warnings need a reason,
// advice is advice.
const (
	Blocking Severity = "blocking"
	Warning  Severity = "warning"
	Advice   Severity = "advice"
)

// Rule is one entry of the rulebook.
type Rule struct {
	ID       string   `json:"id"`
	Severity Severity `json:"severity"`
	Sentence string   `json:"sentence"`
	Source   string   `json:"source"`
}

//go:embed rules.json
var rulesJSON []byte

// Book is a set of rules. It does not change once made.
type Book struct {
	version string
	rules   []Rule
	limits  Limits
	source  json.RawMessage
}

var shipped = sync.OnceValue(func() *Book {
	b, err := Read(rulesJSON)
	if err != nil {
		panic("rulebook: rules.json: " + err.Error())
	}
	return b
})

// Shipped returns the rules we ship.
func Shipped() *Book { return shipped() }

// Read reads a rulebook: JSON with a version and rules, no rule twice. It is the
// inverse of Source.
func Read(b []byte) (*Book, error) {
	var doc struct {
		Version string `json:"version"`
		Rules   []struct {
			Rule
			Params json.RawMessage `json:"params"`
		} `json:"rules"`
	}
	dec := json.NewDecoder(bytes.NewReader(b))
	dec.DisallowUnknownFields()
	if err := dec.Decode(&doc); err != nil {
		return nil, err
	}
	book := &Book{version: doc.Version, source: slices.Clone(b)}
	seen := map[string]bool{}
	for _, r := range doc.Rules {
		if err := book.limits.take(doc.Version, r.ID, r.Params); err != nil {
			return nil, err
		}
		sentence, err := fill(r.Sentence, r.Params)
		if err != nil {
			return nil, fmt.Errorf("rule %s: %w", r.ID, err)
		}
		r.Sentence = sentence
		switch {
		case r.ID == "" || r.Sentence == "" || r.Source == "":
			return nil, fmt.Errorf("rule %q needs an id, a sentence and a source", r.ID)
		case r.Severity != Blocking && r.Severity != Warning && r.Severity != Advice:
			return nil, fmt.Errorf("rule %s: severity %q", r.ID, r.Severity)
		case seen[r.ID]:
			return nil, fmt.Errorf("rule %s stands in the book twice", r.ID)
		}
		seen[r.ID] = true
		book.rules = append(book.rules, r.Rule)
	}
	return book, nil
}

// Version changes whenever a rule does: it is written into every plan.
func (b *Book) Version() string { return b.version }

// Source is what the book was read from.
func (b *Book) Source() json.RawMessage { return slices.Clone(b.source) }

// Limits returns the numbers of the rules.
func (b *Book) Limits() Limits { return b.limits }

// Rules returns the rules, blocking ones first. The slice is shared: do not
// change it.
func (b *Book) Rules() []Rule { return b.rules }

// Status of a rule at a place.
type Status string

// A rule is met, broken, or could not be checked.
const (
	Met        Status = "met"
	Broken     Status = "broken"
	NotChecked Status = "not-checked"
)

// Result is what a rule says of a programme. A rule that is met everywhere
// gives one Result without a place.
type Result struct {
	Rule     string       `json:"rule"`
	Severity Severity     `json:"severity"`
	Status   Status       `json:"status"`
	Place    string       `json:"place,omitempty"`
	At       programme.ID `json:"at,omitempty"`    // what stands at the place
	Where    string       `json:"where,omitempty"` // the place in words
	Text     string       `json:"text"`
	Fix      string       `json:"fix,omitempty"`
	Sentence string       `json:"sentence"`
	Source   string       `json:"source"`
}

// Facts is what the rules need to know of the golfer.
type Facts struct {
	By           Limits // the numbers to keep to; Check takes the book's own
	Level        athlete.Level
	Tier         athlete.Tier
	Junior       bool
	NearSpurt    bool // within a year of peak height velocity, or under 18 and not estimated
	Senior       bool
	Clearance    athlete.ClearanceStatus
	Limits       []athlete.Limit
	Kit          []string // in the gym
	HomeKit      []string
	Competitions []athlete.Competition
	OneRM        float64 // of the tested lift in kg, 0 when unknown
	// OneRMSince is the day what was lifted set it; loads up to it were worked out from
	// another. Zero: a test set it.
	OneRMSince civil.Date
	TestedLift string  // exercise that lift was tested with
	OtherShare int     // wanted share of swings from the other side, %
	Restricted []Joint // sides of joints clearly short that something may be done for
	Ramp       int     // first weeks after a lay-off, judged by themselves
	NoFast     bool    // the limits leave no fast work
	Thin       []Thin  // findings that rest on one test alone
	Overhead   float64 // degrees an arm goes up without pain, 0 when unknown
	WarmUp     WarmUp  // before each session
	Special    int     // the school's most look-alikes of the sets, %; 0: the rule's own
	// Done is what weeks that lie behind came to by line, by the week's id; a week that is
	// not there counts as planned.
	Done map[programme.ID]map[Line]int
}

// WarmUp is what the golfer's warm-up before a session holds that counts in it: landings,
// and fast swings where the session has some.
type WarmUp struct{ Landings, FastSwings int }

// Joint is a side of a joint, by its range test.
type Joint struct{ Test, Side, Name string }

// EveOfPlay returns the competition a day lies so shortly before that the hands are
// spared.
func (f Facts) EveOfPlay(day civil.Date) (athlete.Competition, bool) {
	for _, c := range f.Competitions {
		if d := c.Date.Sub(day); d > 0 && d <= f.By.GripEve.Days {
			return c, true
		}
	}
	return athlete.Competition{}, false
}

// MinReserve is the smallest reserve for the golfer.
func (f Facts) MinReserve() int {
	switch {
	case f.Junior:
		return f.By.Junior.Reserve
	case f.Tier == athlete.Novice:
		return f.By.Reserve.Novice
	case f.Tier == athlete.Intermediate:
		return f.By.Reserve.Intermediate
	case f.Senior:
		return max(f.By.Senior.Reserve, f.By.Reserve.Advanced)
	default:
		return f.By.Reserve.Advanced
	}
}

// floatTolerance is what sums of decimals may be off.
const floatTolerance = 1e-9

// MaxSwings is the most fast swings in a session.
func (f Facts) MaxSwings() int {
	n := f.By.Swings.Others
	if f.Tier == athlete.Novice {
		n = f.By.Swings.Novice
	}
	if f.Junior {
		n = min(n, f.By.Junior.Swings)
	}
	if f.Senior {
		n = min(n, f.By.Senior.Swings)
	}
	return n
}

// MaxContacts is the most landings in a session.
func (f Facts) MaxContacts() int {
	n := f.By.Contacts.Advanced
	switch f.Tier {
	case athlete.Novice:
		n = f.By.Contacts.Novice
	case athlete.Intermediate:
		n = f.By.Contacts.Intermediate
	}
	if f.Junior {
		n = min(n, f.By.Junior.Contacts)
	}
	if f.NearSpurt {
		n = min(n, f.By.Growth.Contacts)
	}
	if f.Senior {
		n = min(n, f.By.Senior.Contacts)
	}
	return n
}

// MostSpecial is the most look-alikes of a week's working sets, in %: the rule's, or less
// where the school wants fewer.
func (f Facts) MostSpecial() float64 {
	if f.Special > 0 {
		return min(f.By.Special.SharePercent, float64(f.Special))
	}
	return f.By.Special.SharePercent
}

// RoomForSwings is the most fast swings a session's items may hold: what the warm-up
// before it has made counts.
func (f Facts) RoomForSwings() int { return f.MaxSwings() - f.WarmUp.FastSwings }

// RoomForContacts is the most landings a session's items may hold.
func (f Facts) RoomForContacts() int { return f.MaxContacts() - f.WarmUp.Landings }

// MaxThrows is the most throws in a session, or 0 for no limit.
func (f Facts) MaxThrows() int {
	if f.Junior {
		return f.By.Junior.Throws
	}
	return 0
}

// MaxLoadShare is the largest share of the predicted single that may be lifted.
func (f Facts) MaxLoadShare() float64 {
	switch {
	case f.NearSpurt:
		return f.By.Growth.LoadPercent / 100
	case f.Junior:
		return f.By.Junior.LoadPercent / 100
	default:
		return 1
	}
}

// BeforePlay reports whether a day lies so shortly before a competition that one
// more is left in reserve.
func (f Facts) BeforePlay(day civil.Date) bool {
	return slices.ContainsFunc(f.Competitions, func(c athlete.Competition) bool {
		d, most := c.Date.Sub(day), f.By.Reserve.ThroughDays
		if c.Peak {
			most = f.By.Reserve.PlayDays
		}
		return d > 0 && d <= most
	})
}

// Forbidden says why an exercise must not be placed by the generator for this
// golfer, with the rule it would break, or "" when it may.
func (f Facts) Forbidden(e *library.Exercise) (rule, why string) { return f.forbidden(e, f.Kit) }

func (f Facts) forbidden(e *library.Exercise, kit []string) (rule, why string) {
	if l, blocked := e.Blocked(f.Limits); blocked {
		return "CONTRA", "limit on " + l.Words()
	}
	switch {
	case f.NearSpurt && e.DepthDrop:
		return "GROWTH", "a depth drop near the growth spurt"
	case f.Senior && e.DepthDrop:
		return "SENIOR", fmt.Sprintf("a depth drop from %d", f.By.Senior.Age)
	case f.Senior && strings.HasPrefix(e.Pattern, "throw") && e.Overhead() && f.Overhead < float64(f.By.Senior.OverheadDegrees):
		return "SENIOR", fmt.Sprintf("an overhead throw from %d needs %d° of arm raise without pain", f.By.Senior.Age, f.By.Senior.OverheadDegrees)
	case f.Senior && e.EndRange:
		return "SENIOR", fmt.Sprintf("loaded end-range flexion with rotation from %d", f.By.Senior.Age)
	case f.Senior && !e.LowImpact && (e.DoseUnit == library.Contacts || e.Lands()):
		return "SENIOR", fmt.Sprintf("a high landing from %d", f.By.Senior.Age)
	}
	if e.Level > f.Level {
		return "LEVEL", fmt.Sprintf("level %d, the golfer is at %d", e.Level, f.Level)
	}
	if missing := e.MissingKit(kit); len(missing) > 0 {
		return "KIT", "needs " + strings.Join(missing, ", ")
	}
	return "", ""
}

// Check judges the view of a programme of exercises from a catalogue by every
// rule. The order is that of the book, then of places.
func (b *Book) Check(p *derive.Programme, f Facts, exercises *library.Catalogue) []Result {
	f.By = b.limits
	c := &checker{p: p, f: f, exercises: exercises, found: map[string][]Result{}}
	c.run()
	spots := p.Places()
	var out []Result
	for _, r := range b.rules {
		results := c.found[r.ID]
		if len(results) == 0 {
			results = []Result{{Status: Met, Text: "Met."}}
		}
		for _, res := range results {
			res.Rule, res.Severity, res.Sentence, res.Source = r.ID, r.Severity, r.Sentence, r.Source
			res.At, res.Where = spots[res.Place].ID, spots[res.Place].Words
			out = append(out, res)
		}
	}
	return out
}

// Worst counts the broken rules of a severity.
func Worst(results []Result, s Severity) int {
	n := 0
	for _, r := range results {
		if r.Severity == s && r.Status == Broken {
			n++
		}
	}
	return n
}
