// Package school holds the schools of thought a coach can choose between: what may
// lead and what is raised, stage by stage; which kinds of day a week has; which share of
// the sets goes to which zone; what is swung, from which side, and what is preferred.
// What all schools share stands in common.json: the kinds of day, the repetitions,
// reserve and intent of a line from week to week, and what else counts when an exercise
// is chosen. How much there is of a quality is package budget's.
//
// A school is data, one file in data/ named by its id, with whom it is for and the claims
// it rests on; no number of one is written anywhere else. A practice's own ones are read
// by Read like ours. One with a field nobody knows, or without one that is needed, is
// refused by name.
package school

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
	"dunnock/internal/core/library"
	"dunnock/internal/core/programme"
)

// School is one way of ordering the work.
type School struct {
	ID    string `json:"id"`
	Name  string `json:"name"`
	Logic string `json:"logic"`
	// Fits says for whom it is, FitsNot for whom not, and Scope the same as far as a
	// file can tell; Claims are what it rests on.
	Fits    string   `json:"fits"`
	FitsNot string   `json:"fitsNot,omitempty"`
	Claims  []string `json:"claims"`
	Scope   Scope    `json:"scope"`
	// Relevance weighs each quality's gap: need = gap × relevance.
	Relevance map[string]float64 `json:"relevance"`
	// Next is how the stages follow each other: one for good (""), the next with every
	// block, or the next once nothing clear is left in one.
	Next   Next    `json:"next,omitempty"`
	Stages []Stage `json:"stages"`
	// OtherSideShare is the share of swings from the other side, in %.
	OtherSideShare int `json:"otherSideShare"`
	// Implements are the lightest and the heaviest club that is swung, in % of the
	// driver's mass, signed.
	Implements [2]int `json:"implements"`
	// Prefer adds points to exercises, Avoid takes some away, by family, by how the
	// pattern begins, by zone, or as stabilised or drill. A quality that is avoided gets
	// its floor and no more.
	Prefer map[string]float64 `json:"prefer"`
	Avoid  map[string]float64 `json:"avoid"`
	// SpecialPercent is the most look-alikes of a week's working sets, in %.
	SpecialPercent int `json:"specialPercent"`
	// DayPatterns are patterns of its own for some slots of a kind of day.
	DayPatterns map[programme.Letter]map[library.Slot]string `json:"dayPatterns,omitempty"`
	// Doses are rows of its own of the dose table.
	Doses map[Row]map[athlete.Tier][]Cell `json:"doses,omitempty"`
}

// Scope is for whom a school is not, as far as a golfer's file tells.
type Scope struct {
	Level        athlete.Level       `json:"level,omitempty"`     // at least
	MostLevel    athlete.Level       `json:"mostLevel,omitempty"` // at most
	Needs        []string            `json:"needs,omitempty"`     // tests
	LeastDays    int                 `json:"leastDays,omitempty"`
	LeastWeeks   int                 `json:"leastWeeks,omitempty"`
	NotNearSpurt bool                `json:"notNearSpurt,omitempty"`
	NotSpared    bool                `json:"notSpared,omitempty"` // not for range past its target
	NotLimits    []athlete.LimitKind `json:"notLimits,omitempty"`
}

// Next is how stages follow each other.
type Next string

// Ways of going on.
const (
	ByBlock Next = "block"
	WhenMet Next = "met"
)

// Any stands for every quality in Stage.Lead.
const Any = "*"

// Stage is what a school does for a while.
type Stage struct {
	Lead  []string `json:"lead"`  // qualities that may lead, Any for all
	Raise []string `json:"raise"` // that are built without being clear
	Aim   []string `json:"aim"`   // filled toward the upper end first
	// Swing is the level of swing speed in the off-season, the pre-season and the season:
	// keep, build or lead.
	Swing [3]string `json:"swing"`
	// Weeks are the kinds of day of a week of one to four sessions.
	Weeks [4]string `json:"weeks"`
	// Zones are the shares of the sets, Z1 to Z5 and M, in %, for minutes nothing else
	// asks for, by the three phases.
	Zones [3][6]int `json:"zones"`
	Pairs Pairs     `json:"pairs"`
}

// Pairs are what is done in turns, heavy and light, at most so many a session.
type Pairs struct {
	Kinds []PairKind `json:"kinds"`
	Most  int        `json:"most"`
}

// PairKind is what stands beside each other in turns.
type PairKind string

// The kinds of pair: a lift with a light jump of its pattern, a lift with a jump, and a
// push with a throw.
const (
	HeavyLight PairKind = "heavy-light"
	LiftJump   PairKind = "lift-jump"
	PushThrow  PairKind = "push-throw"
)

// StrengthFirst reports whether strength leads until it is met.
func (s *School) StrengthFirst() bool {
	return s.Next == WhenMet && len(s.Stages[0].Lead) == 1 && s.Stages[0].Lead[0] == strength
}

const strength = "maximal-strength"

// May reports whether a quality may lead in a stage.
func (st *Stage) May(q string) bool {
	return slices.Contains(st.Lead, Any) || slices.Contains(st.Lead, q)
}

// StageOf returns the index of the stage a golfer is in: of stages that go on when met the
// first in which something is clearly short.
func (s *School) StageOf(clear func(q string) bool) int {
	if s.Next != WhenMet {
		return 0
	}
	for i := range s.Stages {
		st := &s.Stages[i]
		if slices.Contains(st.Lead, Any) || slices.ContainsFunc(st.Lead, clear) {
			return i
		}
	}
	return len(s.Stages) - 1
}

// At returns the school as it is in a block of the season, from 0: where stages follow
// each other block by block, in that block's stage for good; behind the last the first
// comes again.
func (s *School) At(block int) *School {
	if s.Next != ByBlock {
		return s
	}
	out := *s
	out.Next = ""
	out.Stages = s.Stages[block%len(s.Stages):][:1]
	return &out
}

//go:embed data/*.json
var files embed.FS

//go:embed common.json
var commonJSON []byte

// Common is what all schools share: the kinds of day, the dose of a line from week to
// week where a school has no row of its own, and what counts in choosing an exercise.
type Common struct {
	Days    map[programme.Letter]Day        `json:"days"`
	Doses   map[Row]map[athlete.Tier][]Cell `json:"doses"`
	Weights Weights                         `json:"weights"`
}

var common = sync.OnceValue(func() *Common {
	var c Common
	dec := json.NewDecoder(bytes.NewReader(commonJSON))
	dec.DisallowUnknownFields()
	err := dec.Decode(&c)
	if err == nil {
		err = c.check()
	}
	if err != nil {
		panic("school: common.json: " + err.Error())
	}
	return &c
})

// Weigh returns what else counts in choosing an exercise.
func (s *School) Weigh() Weights { return common().Weights }

// Day returns a kind of day, with the school's own patterns in it.
func (s *School) Day(letter programme.Letter) Day {
	d := common().Days[letter]
	if own := s.DayPatterns[letter]; len(own) > 0 {
		d.Patterns = maps.Clone(d.Patterns)
		maps.Copy(d.Patterns, own)
	}
	return d
}

// Default is the school of a golfer for whom none was chosen.
const Default = "measured-gap"

// Schools are the schools to choose from. They do not change once made; the
// schools they hand out are shared.
type Schools struct{ all []School }

var shipped = sync.OnceValue(func() *Schools {
	s, err := read(files)
	if err != nil {
		panic("school: " + err.Error())
	}
	return s
})

// Shipped returns the schools we ship.
func Shipped() *Schools { return shipped() }

// read reads the schools of data/.
func read(files fs.FS) (*Schools, error) {
	names, err := fs.Glob(files, "data/*.json")
	if err != nil {
		return nil, err
	}
	var all []School
	for _, name := range names {
		b, err := fs.ReadFile(files, name)
		if err != nil {
			return nil, err
		}
		one, err := Read(b)
		if err != nil {
			return nil, fmt.Errorf("%s: %w", name, err)
		}
		if want := strings.TrimSuffix(path.Base(name), ".json"); one.ID != want {
			return nil, fmt.Errorf("%s: the id is %q, not that of the file", name, one.ID)
		}
		all = append(all, *one)
	}
	return New(all)
}

// Read reads one school, JSON. It is the inverse of encoding one. The error says what is
// missing or cannot be.
func Read(b []byte) (*School, error) {
	var one School
	dec := json.NewDecoder(bytes.NewReader(b))
	dec.DisallowUnknownFields()
	if err := dec.Decode(&one); err != nil {
		return nil, err
	}
	return &one, one.check()
}

// Thaw reads schools that were frozen with a programme. Those of an older layout are read
// as far as they go: name, logic, relevances and the other side's share are theirs, the
// rest is that of our school of the same id.
func Thaw(list []json.RawMessage) (*Schools, error) {
	s := &Schools{}
	for _, raw := range list {
		one, err := Read(raw)
		if err != nil {
			if one, err = older(raw); err != nil {
				return nil, err
			}
		}
		s.all = append(s.all, *one)
	}
	return s, nil
}

// older reads a school of a layout of before.
func older(raw json.RawMessage) (*School, error) {
	var x struct {
		ID             string             `json:"id"`
		Name           string             `json:"name"`
		Logic          string             `json:"logic"`
		Relevance      map[string]float64 `json:"relevance"`
		OtherSideShare int                `json:"otherSideShare"`
	}
	if err := json.Unmarshal(raw, &x); err != nil {
		return nil, err
	}
	if x.Name == "" || x.Logic == "" {
		return nil, fmt.Errorf("school %s: a school needs a name and its logic", x.ID)
	}
	today, err := Shipped().Find(x.ID)
	if err != nil {
		if today, err = Shipped().Find(Default); err != nil {
			return nil, err
		}
	}
	out := *today
	out.ID, out.Name, out.Logic, out.OtherSideShare = x.ID, x.Name, x.Logic, x.OtherSideShare
	out.Relevance = maps.Clone(today.Relevance)
	maps.Copy(out.Relevance, x.Relevance)
	return &out, nil
}

// New makes a set of schools, the default one first, then by name. It fails where
// one is not whole or two have one id.
func New(schools []School) (*Schools, error) {
	s := &Schools{all: slices.Clone(schools)}
	seen := map[string]bool{}
	for i := range s.all {
		one := &s.all[i]
		if err := one.check(); err != nil {
			return nil, fmt.Errorf("school %s: %w", one.ID, err)
		}
		if seen[one.ID] {
			return nil, fmt.Errorf("two schools are named %s", one.ID)
		}
		seen[one.ID] = true
	}
	slices.SortStableFunc(s.all, func(a, b School) int {
		if a.ID == Default || b.ID == Default {
			return b2i(b.ID == Default) - b2i(a.ID == Default)
		}
		return strings.Compare(a.Name, b.Name)
	})
	return s, nil
}

func b2i(b bool) int {
	if b {
		return 1
	}
	return 0
}

// qualities are those a school weighs, in the order of its relevances.
var qualities = []string{
	strength, "vertical-power", "horizontal-power", "rotational-power", "ground-force", "mobility", "separation", "stretch-use", "control", "grip",
}

// Qualities returns the qualities a school weighs.
func Qualities() []string { return slices.Clone(qualities) }

// check says what a school lacks, or has that cannot be.
func (s *School) check() error {
	switch {
	case s.Name == "" || s.Logic == "":
		return fmt.Errorf("a school needs a name and its logic")
	case s.Fits == "" || len(s.Claims) == 0:
		return fmt.Errorf("a school says for whom it is (fits) and what it rests on (claims)")
	case s.OtherSideShare < 0 || s.OtherSideShare > 100:
		return fmt.Errorf("otherSideShare is 0 to 100%%, not %d", s.OtherSideShare)
	case s.Implements[0] < -60 || s.Implements[1] > 100 || s.Implements[0] > s.Implements[1]:
		return fmt.Errorf("implements rise from -60%% or more to 100%% or less of the driver, not %d to %d", s.Implements[0], s.Implements[1])
	case s.SpecialPercent < 0 || s.SpecialPercent > 100:
		return fmt.Errorf("specialPercent is 0 to 100, not %d", s.SpecialPercent)
	case s.Next != "" && s.Next != ByBlock && s.Next != WhenMet:
		return fmt.Errorf("next is %q, %q or left out, not %q", ByBlock, WhenMet, s.Next)
	case len(s.Stages) == 0 || s.Next == "" && len(s.Stages) > 1:
		return fmt.Errorf("stages: one, or several with next")
	case s.Prefer == nil || s.Avoid == nil:
		return fmt.Errorf("prefer and avoid are given, empty where there is nothing")
	}
	for _, q := range qualities {
		if v, ok := s.Relevance[q]; !ok || v < 0 || v > 1 {
			return fmt.Errorf("relevance of %s is missing, or not 0 to 1", q)
		}
	}
	if len(s.Relevance) > len(qualities) {
		return fmt.Errorf("relevance is of %s and no others", strings.Join(qualities, ", "))
	}
	for i := range s.Stages {
		if err := s.Stages[i].check(); err != nil {
			return fmt.Errorf("stage %d: %w", i+1, err)
		}
	}
	for letter, patterns := range s.DayPatterns {
		if _, ok := common().Days[letter]; !ok {
			return fmt.Errorf("dayPatterns: there is no day %q", letter)
		}
		for slot := range patterns {
			if !slices.Contains(library.SlotOrder, slot) {
				return fmt.Errorf("dayPatterns: there is no slot %q", slot)
			}
		}
	}
	return checkDoses(s.Doses, false)
}

func (st *Stage) check() error {
	for name, list := range map[string][]string{"lead": st.Lead, "raise": st.Raise, "aim": st.Aim} {
		if list == nil {
			return fmt.Errorf("%s is missing", name)
		}
		for _, q := range list {
			if !slices.Contains(qualities, q) && (q != Any || name != "lead") {
				return fmt.Errorf("%s: there is no quality %q", name, q)
			}
		}
	}
	for _, l := range st.Swing {
		if l != "keep" && l != "build" && l != "lead" {
			return fmt.Errorf("swing is keep, build or lead in each of three phases, not %q", l)
		}
	}
	for i, week := range st.Weeks {
		if len(week) != i+1 || strings.Trim(week, "ABCDLS") != "" {
			return fmt.Errorf("weeks: %q is not %d kinds of day of A, B, C, D, L and S", week, i+1)
		}
	}
	for _, zones := range st.Zones {
		sum := 0
		for _, z := range zones {
			sum += z
			if z < 0 {
				return fmt.Errorf("zones: no share is below 0")
			}
		}
		if sum != 100 {
			return fmt.Errorf("zones: the shares of %v add up to %d, not 100", zones, sum)
		}
	}
	for _, k := range st.Pairs.Kinds {
		if k != HeavyLight && k != LiftJump && k != PushThrow {
			return fmt.Errorf("pairs: there is no kind %q", k)
		}
	}
	if st.Pairs.Most < 0 || st.Pairs.Most > 2 || len(st.Pairs.Kinds) == 0 && st.Pairs.Most > 0 {
		return fmt.Errorf("pairs: at most two a session, of a kind that is named")
	}
	return nil
}

// All returns the schools. The slice is shared: do not change it.
func (s *Schools) All() []School { return s.all }

// Find returns the school with the given id; "" is the default one.
func (s *Schools) Find(id string) (*School, error) {
	if id == "" {
		id = Default
	}
	ids := make([]string, len(s.all))
	for i := range s.all {
		if s.all[i].ID == id {
			return &s.all[i], nil
		}
		ids[i] = s.all[i].ID
	}
	return nil, fmt.Errorf("there is no school %q: use %s", id, strings.Join(ids, " or "))
}
