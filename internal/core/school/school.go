// Package school holds the schools of thought a coach can choose between: what
// comes first, how much of the swinging is done from the other side, which
// slots a session has, which exercise families are preferred. A school is data,
// one file in data/ named by its id; nothing about one is written anywhere else.
// A file with a field nobody knows, or without one that is needed, is refused.
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
	// MobilityFromJointGap ranks mobility only when one joint's gap reaches it;
	// 0 ranks it like any quality.
	MobilityFromJointGap float64 `json:"mobilityFromJointGap"`
	// OtherSideShare is the share of swings from the other side, in %.
	OtherSideShare int `json:"otherSideShare"`
	// LiftOnFastDay keeps the main lift on the third session of the week.
	LiftOnFastDay bool `json:"liftOnFastDay"`
	// Slots lists what is added to a session from so many minutes up.
	Slots []SlotStep `json:"slots"`
	// Prefer adds points to exercises of a family when choosing.
	Prefer map[string]float64 `json:"prefer"`
}

// SlotStep is the slots a session gains from Minutes up.
type SlotStep struct {
	Minutes int      `json:"minutes"`
	Add     []string `json:"add"`
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

// read reads the schools of data/, the default one first, then by name.
func read(files fs.FS) (*Schools, error) {
	names, err := fs.Glob(files, "data/*.json")
	if err != nil {
		return nil, err
	}
	s := &Schools{}
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
		s.all = append(s.all, one)
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
	case s.MobilityFromJointGap < 0:
		return fmt.Errorf("mobilityFromJointGap is %g, below 0", s.MobilityFromJointGap)
	case len(s.Relevance) == 0:
		return fmt.Errorf("relevance names no quality")
	case len(s.Slots) == 0 || s.Slots[0].Minutes != 0:
		return fmt.Errorf("slots begin with those a session has from 0 minutes up")
	}
	for q, v := range s.Relevance {
		if v < 0 || v > 1 {
			return fmt.Errorf("relevance of %s is 0 to 1, not %g", q, v)
		}
	}
	for i, step := range s.Slots[1:] {
		if step.Minutes <= s.Slots[i].Minutes {
			return fmt.Errorf("slots rise in minutes: %d stands behind %d", step.Minutes, s.Slots[i].Minutes)
		}
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

// SlotsFor returns the slots of a session of so many minutes.
func (s *School) SlotsFor(minutes int) []string {
	var out []string
	for _, step := range s.Slots {
		if minutes >= step.Minutes {
			out = append(out, step.Add...)
		}
	}
	return out
}

// Has reports whether a session of so many minutes has the slot.
func (s *School) Has(minutes int, slot string) bool {
	return slices.Contains(s.SlotsFor(minutes), slot)
}
