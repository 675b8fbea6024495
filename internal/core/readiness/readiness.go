// Package readiness is what a golfer says of the day before anything is swung or lifted:
// pain, illness, sleep, soreness and eagerness. It checks the answers and says what they
// rule out; how a warm-up or a session is cut by that is theirs to do. It holds no log.
package readiness

import (
	"fmt"
	"slices"

	"dunnock/internal/core/athlete"
	"dunnock/internal/core/measure"
)

// The answers.
const (
	WellIll = ""      // no illness
	Cold    = "cold"  //
	Fever   = "fever" // fever, chest or gut

	SleepWell  = ""      // seven hours or more
	SleepShort = "short" // five to seven
	SleepBad   = "bad"   // under five

	SoreNone   = ""
	SoreSome   = "some"
	SoreStrong = "strong"
	SoreTooFar = "too-sore" // too sore to swing

	EagerUsual = ""
	EagerLow   = "low"
	EagerHigh  = "high"
)

// Answers are the five answers of a day; the zero value is a usual day.
type Answers struct {
	Pain       []Pain   `json:"pain,omitempty"`
	Illness    string   `json:"illness,omitempty"`
	Sleep      string   `json:"sleep,omitempty"`
	Soreness   string   `json:"soreness,omitempty"`
	SoreAt     []string `json:"soreAt,omitempty"` // regions
	Eagerness  string   `json:"eagerness,omitempty"`
	NightPain  bool     `json:"nightPain,omitempty"`
	LegsWeak   bool     `json:"legsWeak,omitempty"` // leg weakness or numbness
	RedFlagged string   `json:"redFlag,omitempty"`  // another red flag, in words
}

// Pain is how much a region hurts.
type Pain struct {
	Region string `json:"region"`
	Side   string `json:"side,omitempty"` // lead, trail, both or "" for both
	Level  int    `json:"level"`          // 0 to 10
	Rising bool   `json:"rising,omitempty"`
	Numb   bool   `json:"numb,omitempty"`
}

// Problem is what is wrong with an answer and where.
type Problem struct{ Path, Text string }

// Validate says what is wrong with the answers.
func (a Answers) Validate() []Problem {
	var out []Problem
	bad := func(path, format string, args ...any) { out = append(out, Problem{path, fmt.Sprintf(format, args...)}) }
	if len(a.Pain) > 20 {
		bad("pain", "at most 20 places")
	}
	for i, p := range a.Pain {
		if !measure.KnownRegion(p.Region) {
			bad(fmt.Sprintf("pain[%d].region", i), "%q is no region", p.Region)
		}
		if p.Level < 0 || p.Level > 10 {
			bad(fmt.Sprintf("pain[%d].level", i), "pain is 0 to 10")
		}
		if !slices.Contains([]string{"", "lead", "trail", "both"}, p.Side) {
			bad(fmt.Sprintf("pain[%d].side", i), "use lead, trail, both, or leave it out")
		}
	}
	for _, x := range []struct {
		path, v string
		of      []string
	}{
		{"illness", a.Illness, []string{WellIll, Cold, Fever}}, {"sleep", a.Sleep, []string{SleepWell, SleepShort, SleepBad}},
		{"soreness", a.Soreness, []string{SoreNone, SoreSome, SoreStrong, SoreTooFar}}, {"eagerness", a.Eagerness, []string{EagerUsual, EagerLow, EagerHigh}},
	} {
		if !slices.Contains(x.of, x.v) {
			bad(x.path, "%q is no answer", x.v)
		}
	}
	if len(a.SoreAt) > 20 {
		bad("soreAt", "at most 20 regions")
	}
	for i, r := range a.SoreAt {
		if !measure.KnownRegion(r) {
			bad(fmt.Sprintf("soreAt[%d]", i), "%q is no region", r)
		}
	}
	return out
}

// Stop says why nothing is done today; empty where something may be.
func (a Answers) Stop() string {
	switch {
	case a.RedFlagged != "":
		return "Red flag: " + a.RedFlagged + " Nothing today: refer to a doctor now."
	case a.NightPain:
		return "Red flag: pain at night. Nothing today: refer to a doctor now."
	case a.LegsWeak:
		return "Red flag: weak or numb legs. Nothing today: refer to a doctor now."
	case a.Illness == Fever:
		return "Fever, chest or gut: nothing today. Come back when it is over, and ask a doctor if it stays."
	}
	return ""
}

// Limits are what pain of 4 or more, rising pain or numbness rules out today: all that
// works the region.
func (a Answers) Limits() (out []athlete.Limit) {
	for _, p := range a.Pain {
		if p.Level >= measure.PainStop || p.Rising || p.Numb {
			out = append(out, athlete.Limit{Region: p.Region, Side: p.Side, Kind: athlete.NoneOfPattern, SetBy: SetBy})
		}
	}
	return out
}

// SetBy is who set the limits of a day.
const SetBy = "today's answers"

// HurtsALittle reports whether a region hurts 1 to 3 without ruling anything out.
func (a Answers) HurtsALittle(regions ...string) bool {
	return slices.ContainsFunc(a.Pain, func(p Pain) bool {
		return p.Level > 0 && p.Level < measure.PainStop && !p.Rising && !p.Numb && slices.Contains(regions, p.Region)
	})
}
