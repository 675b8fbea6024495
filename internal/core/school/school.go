// Package school holds the schools of thought a coach can choose between: what
// comes first, how much of the swinging is done from the other side, which
// slots a session has, which exercise families are preferred. A school is data
// (schools.json); nothing about one is written anywhere else.
package school

import (
	_ "embed"
	"encoding/json"
	"fmt"
	"slices"
	"strings"
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

//go:embed schools.json
var schoolsJSON []byte

var schools = func() (s []School) {
	if err := json.Unmarshal(schoolsJSON, &s); err != nil {
		panic("school: schools.json: " + err.Error())
	}
	return s
}()

// Default is the school of a golfer for whom none was chosen.
const Default = "measured-gap"

// All returns the schools. The slice is shared: do not change it.
func All() []School { return schools }

// Find returns the school with the given id; "" is the default one.
func Find(id string) (*School, error) {
	if id == "" {
		id = Default
	}
	ids := make([]string, len(schools))
	for i := range schools {
		if schools[i].ID == id {
			return &schools[i], nil
		}
		ids[i] = schools[i].ID
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
