// Package school holds the schools of thought a coach can choose between: what
// comes first, how much of the swinging is done from the other side, which kinds of
// day a week has and what they hold, the repetitions, reserve and intent of a line
// from week to week, and what counts when an exercise is chosen. How much there is of
// a quality is package budget's. A school is
// data, one file in data/ named by its id; no number of one is written anywhere
// else. A file with a field nobody knows, or without one that is needed, is
// refused.
package school

import (
	"bytes"
	"embed"
	"encoding/json"
	"fmt"
	"io/fs"
	"path"
	"slices"
	"strings"
	"sync"

	"dunnock/internal/core/athlete"
	"dunnock/internal/core/programme"
)

// School is one way of ordering the work.
type School struct {
	ID    string `json:"id"`
	Name  string `json:"name"`
	Logic string `json:"logic"`
	// Relevance weighs each quality's gap: need = gap × relevance.
	Relevance map[string]float64 `json:"relevance"`
	// StrengthLeads puts maximal strength first while lift over body mass is
	// below target, then the power qualities by need.
	StrengthLeads bool `json:"strengthLeads"`
	// OtherSideShare is the share of swings from the other side, in %.
	OtherSideShare int `json:"otherSideShare"`
	// Weeks are the kinds of day of a week of one to four sessions.
	Weeks []string `json:"weeks"`
	// Days are the kinds of day of a week.
	Days map[programme.Letter]Day `json:"days"`
	// Doses give each row of the dose table, for each tier, its weeks: the rising
	// ones and, last, the easier one.
	Doses map[Row]map[athlete.Tier][]Cell `json:"doses"`
	// Prefer adds points to exercises of a family when choosing.
	Prefer map[string]float64 `json:"prefer"`
	// Weights are what else counts in choosing an exercise.
	Weights Weights `json:"weights"`
}

//go:embed data/*.json
var files embed.FS

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
		var one School
		dec := json.NewDecoder(bytes.NewReader(b))
		dec.DisallowUnknownFields()
		if err := dec.Decode(&one); err != nil {
			return nil, fmt.Errorf("%s: %w", name, err)
		}
		if want := strings.TrimSuffix(path.Base(name), ".json"); one.ID != want {
			return nil, fmt.Errorf("%s: the id is %q, not that of the file", name, one.ID)
		}
		if err := one.check(); err != nil {
			return nil, fmt.Errorf("%s: %w", name, err)
		}
		all = append(all, one)
	}
	return New(all)
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

// check says what a school lacks, or has that cannot be.
func (s *School) check() error {
	switch {
	case s.Name == "" || s.Logic == "":
		return fmt.Errorf("a school needs a name and its logic")
	case s.OtherSideShare < 0 || s.OtherSideShare > 100:
		return fmt.Errorf("otherSideShare is 0 to 100%%, not %d", s.OtherSideShare)
	case len(s.Relevance) == 0:
		return fmt.Errorf("relevance names no quality")
	case len(s.Weeks) != 0 && len(s.Weeks) != 4:
		return fmt.Errorf("weeks are the kinds of day of one to four sessions")
	}
	for q, v := range s.Relevance {
		if v < 0 || v > 1 {
			return fmt.Errorf("relevance of %s is 0 to 1, not %g", q, v)
		}
	}
	for i, week := range s.Weeks {
		if len(week) != i+1 || strings.Trim(week, "ABCD") != "" {
			return fmt.Errorf("weeks: %q is not %d kinds of day", week, i+1)
		}
	}
	if err := s.checkParts(); err != nil {
		return err
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
