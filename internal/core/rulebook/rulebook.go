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
	"math"
	"slices"
	"strings"
	"sync"

	"dunnock/internal/core/athlete"
	"dunnock/internal/core/civil"
	"dunnock/internal/core/library"
	"dunnock/internal/core/programme"
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
}

var shipped = sync.OnceValue(func() *Book {
	b, err := read(rulesJSON)
	if err != nil {
		panic("rulebook: rules.json: " + err.Error())
	}
	return b
})

// Shipped returns the rules we ship.
func Shipped() *Book { return shipped() }

// read reads a rulebook. Every rule a check speaks of must stand in it once.
func read(b []byte) (*Book, error) {
	var doc struct {
		Version string `json:"version"`
		Rules   []Rule `json:"rules"`
	}
	dec := json.NewDecoder(bytes.NewReader(b))
	dec.DisallowUnknownFields()
	if err := dec.Decode(&doc); err != nil {
		return nil, err
	}
	seen := map[string]bool{}
	for _, r := range doc.Rules {
		switch {
		case r.ID == "" || r.Sentence == "" || r.Source == "":
			return nil, fmt.Errorf("rule %q needs an id, a sentence and a source", r.ID)
		case r.Severity != Blocking && r.Severity != Warning && r.Severity != Advice:
			return nil, fmt.Errorf("rule %s: severity %q", r.ID, r.Severity)
		case seen[r.ID]:
			return nil, fmt.Errorf("rule %s stands in the book twice", r.ID)
		}
		seen[r.ID] = true
	}
	return &Book{version: doc.Version, rules: doc.Rules}, nil
}

// Version changes whenever a rule does: it is written into every plan.
func (b *Book) Version() string { return b.version }

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
	Rule     string   `json:"rule"`
	Severity Severity `json:"severity"`
	Status   Status   `json:"status"`
	Place    string   `json:"place,omitempty"`
	Text     string   `json:"text"`
	Fix      string   `json:"fix,omitempty"`
	Sentence string   `json:"sentence"`
	Source   string   `json:"source"`
}

// Facts is what the rules need to know of the golfer.
type Facts struct {
	Level        athlete.Level
	Tier         athlete.Tier
	Junior       bool
	NearSpurt    bool // within a year of peak height velocity, or under 18 and not estimated
	Senior       bool
	Clearance    athlete.ClearanceStatus
	Limits       []athlete.Limit
	Kit          []string
	Competitions []athlete.Competition
	OneRM        float64 // of the tested lift in kg, 0 when unknown
	TestedLift   string  // exercise that lift was tested with
	OtherShare   int     // wanted share of swings from the other side, %
}

// MinReserve is the smallest reserve for the golfer: 3 for novices and juniors,
// 2 for intermediates, 1 for advanced; 4 under 18.
func (f Facts) MinReserve() int {
	switch {
	case f.Junior:
		return JuniorReserve
	case f.Tier == athlete.Novice:
		return 3
	case f.Tier == athlete.Intermediate:
		return 2
	default:
		return 1
	}
}

// Limits of the rules, by golfer.
const (
	NewReserve      = 3 // for an exercise in its first week
	JuniorReserve   = 4
	PlayDays        = 5 // before play, reserve rises by one
	JuniorLoad      = 0.80
	GrowthLoad      = 0.70
	JuniorThrows    = 40
	SeniorSwings    = 20
	MaxLoadStep     = 0.05
	MaxSetReps      = 5
	MinImplement    = -35
	MaxImplement    = 20
	LookAlikeShare  = 0.20
	waveShare       = 0.20
	waveShareQuick  = 0.35
	EasierLeast     = 0.30
	EasierMost      = 0.50
	shareTolerance  = 10
	pushPullLow     = 0.75
	pushPullHigh    = 1.33
	swingDaysMost   = 3
	hoursHardApart  = 48
	swingSetLeast   = 3
	swingSetMost    = 6
	floatTolerance  = 1e-9
	daysPerHardRest = hoursHardApart / 24
)

// MaxSwings is the most fast swings in a session.
func (f Facts) MaxSwings() int {
	n := 60
	if f.Tier == athlete.Novice || f.Junior {
		n = 30
	}
	if f.Senior {
		n = min(n, SeniorSwings)
	}
	return n
}

// MaxContacts is the most landings in a session.
func (f Facts) MaxContacts() int {
	n := map[athlete.Tier]int{athlete.Novice: 60, athlete.Intermediate: 80, athlete.AdvancedTier: 120}[f.Tier]
	if f.Junior {
		n = min(n, 60)
	}
	if f.NearSpurt {
		n = min(n, 40)
	}
	if f.Senior {
		n = min(n, 30)
	}
	return n
}

// MaxThrows is the most throws in a session, or 0 for no limit.
func (f Facts) MaxThrows() int {
	if f.Junior {
		return JuniorThrows
	}
	return 0
}

// MaxLoadShare is the largest share of the predicted single that may be lifted.
func (f Facts) MaxLoadShare() float64 {
	switch {
	case f.NearSpurt:
		return GrowthLoad
	case f.Junior:
		return JuniorLoad
	default:
		return 1
	}
}

// BeforePlay reports whether a day lies within PlayDays before a competition.
func (f Facts) BeforePlay(day civil.Date) bool {
	return slices.ContainsFunc(f.Competitions, func(c athlete.Competition) bool {
		d := c.Date.Sub(day)
		return d > 0 && d <= PlayDays
	})
}

// Forbidden says why an exercise must not be placed by the generator for this
// golfer, with the rule it would break, or "" when it may.
func (f Facts) Forbidden(e *library.Exercise) (rule, why string) {
	if l, blocked := e.Blocked(f.Limits); blocked {
		return "CONTRA", "limit on " + l.Words()
	}
	switch {
	case f.NearSpurt && e.DepthDrop:
		return "GROWTH", "a depth drop near the growth spurt"
	case f.Senior && e.DepthDrop:
		return "SENIOR", "a depth drop from 60"
	case f.Senior && e.EndRange:
		return "SENIOR", "loaded end-range flexion with rotation from 60"
	case f.Senior && e.DoseUnit == library.Contacts && !e.LowImpact:
		return "SENIOR", "a high landing from 60"
	}
	if e.Level > f.Level {
		return "LEVEL", fmt.Sprintf("level %d, the golfer is at %d", e.Level, f.Level)
	}
	if missing := e.MissingKit(f.Kit); len(missing) > 0 {
		return "KIT", "needs " + strings.Join(missing, ", ")
	}
	return "", ""
}

// WaveLimit returns the most a line's weekly volume may be after last, given
// the volume of one set (both sides) summed over the sessions it stands in.
func WaveLimit(last, oneSet int, quick bool) float64 {
	share := waveShare
	if quick {
		share = waveShareQuick
	}
	return math.Max(float64(last)*(1+share), float64(last+oneSet))
}

// Quick reports whether a slot's volume may rise by the larger share.
func Quick(slot string) bool {
	return slot == programme.SlotSwings || slot == programme.SlotThrow || slot == programme.SlotJump
}

// Check judges a programme of exercises from a catalogue by every rule. The
// order is that of the book, then of places.
func (b *Book) Check(p *programme.Programme, f Facts, exercises *library.Catalogue) []Result {
	c := &checker{p: p, f: f, exercises: exercises, found: map[string][]Result{}}
	c.run()
	var out []Result
	for _, r := range b.rules {
		results := c.found[r.ID]
		if len(results) == 0 {
			results = []Result{{Status: Met, Text: "Met."}}
		}
		for _, res := range results {
			res.Rule, res.Severity, res.Sentence, res.Source = r.ID, r.Severity, r.Sentence, r.Source
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
