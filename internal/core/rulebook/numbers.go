package rulebook

import (
	"crypto/sha256"
	"encoding/hex"
	"encoding/json"
	"fmt"
	"maps"
	"math"
	"slices"
	"strings"
)

// Numbers returns the numbers of a rule by name; nil where it has none or there is no such
// rule.
func (b *Book) Numbers(rule string) map[string]float64 {
	for _, r := range b.parsed() {
		if r.id == rule {
			return maps.Clone(r.numbers)
		}
	}
	return nil
}

// Template returns the sentence of a rule with its numbers as {name}.
func (b *Book) Template(rule string) string {
	for _, r := range b.parsed() {
		if r.id == rule {
			return r.sentence
		}
	}
	return ""
}

// parsed is one rule as it stands in the source.
type parsed struct {
	id, sentence string
	numbers      map[string]float64
}

func (b *Book) parsed() []parsed {
	var doc struct {
		Rules []struct {
			ID       string             `json:"id"`
			Sentence string             `json:"sentence"`
			Params   map[string]float64 `json:"params"`
		} `json:"rules"`
	}
	_ = json.Unmarshal(b.source, &doc) // it was read once
	out := make([]parsed, len(doc.Rules))
	for i, r := range doc.Rules {
		out[i] = parsed{r.ID, r.Sentence, r.Params}
	}
	return out
}

// A NumberError says which number of which rule cannot be, and why.
type NumberError struct{ Rule, Number, Text string }

func (e *NumberError) Error() string {
	return fmt.Sprintf("rule %s, %s: %s", e.Rule, e.Number, e.Text)
}

// mostNumber is the largest number a rule may have.
const mostNumber = 10000

// With returns the book with other numbers, by rule and name; all others stay. Its version
// names the change. The error is a *NumberError.
func (b *Book) With(changes map[string]map[string]float64) (*Book, error) {
	if len(changes) == 0 {
		return b, nil
	}
	var doc map[string]any
	if err := json.Unmarshal(b.source, &doc); err != nil {
		return nil, err
	}
	list, _ := doc["rules"].([]any)
	at := map[string]map[string]any{}
	for _, x := range list {
		if r, ok := x.(map[string]any); ok {
			id, _ := r["id"].(string)
			params, _ := r["params"].(map[string]any)
			at[id] = params
		}
	}
	for _, rule := range slices.Sorted(maps.Keys(changes)) {
		for _, name := range slices.Sorted(maps.Keys(changes[rule])) {
			v := changes[rule][name]
			_, ok := at[rule][name].(float64)
			switch {
			case !ok:
				return nil, &NumberError{rule, name, "there is no such number"}
			case math.IsNaN(v) || v <= 0 || v > mostNumber:
				return nil, &NumberError{rule, name, fmt.Sprintf("a number of a rule is above 0 and at most %d", mostNumber)}
			case v != math.Trunc(v) && wholes(rule, name):
				return nil, &NumberError{rule, name, "it is a whole number"}
			}
			at[rule][name] = v
		}
	}
	doc["version"] = b.version + "+" + digest(changes)
	source, err := json.Marshal(doc)
	if err != nil {
		return nil, err
	}
	out, err := Read(source)
	if err != nil {
		return nil, err
	}
	return out, out.limits.order()
}

// digest is a short name of changed numbers.
func digest(changes map[string]map[string]float64) string {
	b, _ := json.Marshal(changes) // maps are written in the order of their keys
	sum := sha256.Sum256(b)
	return hex.EncodeToString(sum[:3])
}

// order says which numbers that belong together stand the wrong way round.
func (l *Limits) order() error {
	for _, x := range []struct {
		rule, low, high string
		a, b            float64
	}{
		{"SWINGS", "setLeast", "setMost", float64(l.Swings.SetLeast), float64(l.Swings.SetMost)},
		{"SWINGS", "setMost", "roundMost", float64(l.Swings.SetMost), float64(l.Swings.RoundMost)},
		{"PUSH-PULL", "low", "high", l.PushPull.Low, l.PushPull.High},
		{"WAVE", "fallLeastPercent", "fallMostPercent", l.Wave.FallLeastPercent, l.Wave.FallMostPercent},
		{"TAPER", "farLeast", "farMost", l.Taper.FarLeast, l.Taper.FarMost},
		{"TAPER", "nearLeast", "nearMost", l.Taper.NearLeast, l.Taper.NearMost},
		{"TAPER", "leastPercent", "mostPercent", l.Taper.LeastPercent, l.Taper.MostPercent},
		{"TAPER", "nearDays", "days", float64(l.Taper.NearDays), float64(l.Taper.Days)},
		{"IN-SEASON", "leastDays", "mostDays", float64(l.InSeason.LeastDays), float64(l.InSeason.MostDays)},
		{"IN-SEASON", "leastPercent", "mostPercent", l.InSeason.LeastPercent, l.InSeason.MostPercent},
	} {
		if x.a > x.b {
			return &NumberError{x.rule, x.low, fmt.Sprintf("it is more than %s", strings.ToLower(spaced(x.high)))}
		}
	}
	return nil
}

// spaced writes a name in camel case as words.
func spaced(name string) string {
	var b strings.Builder
	for _, r := range name {
		if r >= 'A' && r <= 'Z' {
			b.WriteByte(' ')
		}
		b.WriteRune(r)
	}
	return b.String()
}
