// Package method is what a coach works by: the exercises, the rules and the
// schools, as one value that does not change. It is passed to whoever plans,
// judges or shows; there is no other way to any of the three.
//
// What an issued programme was made by is frozen with it (Freeze) and thawed when
// the programme is shown, so that it reads the same for ever.
package method

import (
	"encoding/json"
	"slices"

	"dunnock/internal/core/library"
	"dunnock/internal/core/programme"
	"dunnock/internal/core/programme/derive"
	"dunnock/internal/core/rulebook"
	"dunnock/internal/core/school"
)

// Method is a set of catalogues that belong together. Its parts do not change.
type Method struct {
	Exercises *library.Catalogue
	Rules     *rulebook.Book
	Schools   *school.Schools
}

var shipped = &Method{library.Shipped(), rulebook.Shipped(), school.Shipped()}

// Shipped returns the method we ship.
func Shipped() *Method { return shipped }

// With returns the method with other numbers of rules, by rule and name, and more schools.
// A school that cannot be read any more is left out: its golfers fall back on the default.
func (m *Method) With(rules map[string]map[string]float64, schools []json.RawMessage) (*Method, error) {
	if len(rules) == 0 && len(schools) == 0 {
		return m, nil
	}
	out := *m
	book, err := m.Rules.With(rules)
	if err != nil {
		// A number of a rule there is not any more, or cannot be any more, is ours again.
		book = m.Rules
		for rule, numbers := range rules {
			if with, err := book.With(map[string]map[string]float64{rule: numbers}); err == nil {
				book = with
			}
		}
	}
	out.Rules = book
	all := slices.Clone(m.Schools.All())
	for _, raw := range schools {
		if s, err := school.Read(raw); err == nil {
			all = append(all, *s)
		}
	}
	out.Schools, err = school.New(all)
	return &out, err
}

// SchoolOf returns the school with an id, the default one where there is none any more.
func (m *Method) SchoolOf(id string) *school.School {
	if s, err := m.Schools.Find(id); err == nil {
		return s
	}
	s, _ := m.Schools.Find("")
	return s
}

// Judge works out the view of a programme, and how the rules judge it for a
// golfer of whom the facts hold.
func (m *Method) Judge(p *programme.Programme, f rulebook.Facts) (*derive.Programme, []rulebook.Result) {
	v := derive.View(p, m.Exercises, m.Schools)
	return v, m.Rules.Check(v, f, m.Exercises)
}
