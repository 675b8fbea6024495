// Package nextdose says how a programme goes on from what was done: each rule that fires is a
// Proposal with its sentence, which is the reason on what it changes. The rules are data
// (rules.json); their order is the handbook's, and of what is about one exercise only the
// first that fires counts. A proposal changes nothing by itself: it holds the edits a coach
// could make by hand (package plan), and Apply makes them.
//
// What may come in: what was planned beside what was done, the golfer's basis, and the rules.
// Logs are package training's, loads package load's.
package nextdose

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
	"dunnock/internal/core/plan"
	"dunnock/internal/core/programme"
	"dunnock/internal/core/training"
)

// Rule is one rule as it is shown.
type Rule struct {
	ID       string             `json:"id"`
	Order    int                `json:"order"`
	Name     string             `json:"name"`
	Sentence string             `json:"sentence"`
	Params   map[string]float64 `json:"params"`
	Source   string             `json:"source"`
}

//go:embed rules.json
var source []byte

// Rules returns the rules in their order. The slice is shared: do not change it.
var Rules = sync.OnceValue(func() []Rule {
	var doc struct {
		Version string `json:"version"`
		Rules   []Rule `json:"rules"`
	}
	dec := json.NewDecoder(bytes.NewReader(source))
	dec.DisallowUnknownFields()
	if err := dec.Decode(&doc); err != nil {
		panic("nextdose: rules.json: " + err.Error())
	}
	return doc.Rules
})

func ruleOf(id string) *Rule {
	i := slices.IndexFunc(Rules(), func(r Rule) bool { return r.ID == id })
	return &Rules()[i]
}

// Proposal is what one rule makes of what was done.
type Proposal struct {
	// ID is the same for the same rule on the same things: what was declined stays declined.
	ID   string `json:"id"`
	Rule string `json:"rule"`
	Name string `json:"name"`
	Text string `json:"text"` // the rule's sentence
	// Of is the exercise or region it is about, From the session that brought it.
	Of   string       `json:"of,omitempty"`
	From programme.ID `json:"from"`
	Date civil.Date   `json:"date"`
	// AtOnce says that it is pain's and acts at once; Small that it may pass by itself where
	// the coach has said so; Rise that it asks for more.
	AtOnce bool `json:"atOnce,omitempty"`
	Small  bool `json:"small,omitempty"`
	Rise   bool `json:"rise,omitempty"`
	// Edits are what it changes; none where there is nothing to change. Changes says them in
	// words, a place at a time.
	Edits   []plan.Edit `json:"-"`
	Changes []Change    `json:"changes"`
	// Limits are put on the golfer with it, Working is the working maximum it sets.
	Limits  []athlete.Limit   `json:"-"`
	Working map[string]Weight `json:"-"`
}

// Change is what a proposal changes at one place.
type Change struct {
	Where string `json:"where"`
	Was   string `json:"was"`
	Now   string `json:"now"`
}

// Weight is a working maximum.
type Weight = programme.Weight

// Past is a session of the programme that lies behind, or is under way.
type Past struct {
	Planned *programme.Session // as it was under the version it was done by
	Week    programme.ID
	Number  int // of the week
	Kind    programme.WeekKind
	Log     *training.Log // nil: nothing was noted
}

// Done reports whether something of it was trained.
func (p *Past) Done() bool { return p.Log != nil && p.Log.Trained() && p.Log.Hard() }

// Date is the day it was trained on, or was to be.
func (p *Past) Date() civil.Date {
	if p.Log != nil && !p.Log.Date.IsZero() {
		return p.Log.Date
	}
	return p.Planned.Date
}

// History is what was done of a programme, and before it.
type History struct {
	Today civil.Date
	Past  []Past // in order of time
	// Best is the best estimate ever of an exercise's single, in kg, before these sessions.
	Best map[string]float64
	// JumpError is the typical error of a jump's height, cm; 0: not known.
	JumpError float64
	// Play are the days of play.
	Play []athlete.Competition
	// Declined are the ids of proposals that were.
	Declined map[string]bool
}

// fill writes values into a rule's sentence.
func (r *Rule) fill(values map[string]string) string {
	out := r.Sentence
	for k, v := range values {
		out = strings.ReplaceAll(out, "{"+k+"}", v)
	}
	for k, v := range r.Params {
		out = strings.ReplaceAll(out, "{"+k+"}", fmt.Sprintf("%g", v))
	}
	return strings.TrimSpace(strings.ReplaceAll(out, "  ", " "))
}

// kg writes a load.
func kg(v float64) string { return strings.TrimSuffix(fmt.Sprintf("%.1f", v), ".0") }

func plural(n int, one, many string) string {
	if n == 1 {
		return one
	}
	return fmt.Sprintf(many, n)
}
