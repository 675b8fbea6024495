package app

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"maps"
	"slices"
	"strings"
	"time"

	"dunnock/internal/core/method"
	"dunnock/internal/core/plan"
	"dunnock/internal/core/rulebook"
	"dunnock/internal/core/school"
	plain "dunnock/internal/core/words"
	"dunnock/internal/store"
)

// RuleView is a rule as a practice works by it.
type RuleView struct {
	rulebook.Rule
	Template string             // the sentence with its numbers as {name}
	Numbers  map[string]float64 // as they hold
	Ours     map[string]float64 // as they are shipped
	// Caught is whose newest programme breaks it, by golfer, in words.
	Caught []Caught
}

// Caught is a golfer whose newest programme breaks a rule.
type Caught struct {
	AthleteID, Name, ProgrammeID string
	Where, Text                  string
	More                         int // further places
}

// Rules returns the practice's rules with what each catches in the squad, and the journal of
// their changes.
func (a *App) Rules(ctx context.Context, who *Actor) ([]RuleView, []store.RuleChange, error) {
	m, err := a.methodOf(ctx, who)
	if err != nil {
		return nil, nil, err
	}
	caught, err := a.caught(ctx, who, m)
	if err != nil {
		return nil, nil, err
	}
	journal, err := a.store.For(who.PracticeID).RuleJournal(ctx)
	if err != nil {
		return nil, nil, err
	}
	return a.ruleViews(m, caught), journal, nil
}

func (a *App) ruleViews(m *method.Method, caught map[string][]Caught) []RuleView {
	var out []RuleView
	for _, r := range m.Rules.Rules() {
		out = append(out, RuleView{r, m.Rules.Template(r.ID), m.Rules.Numbers(r.ID), a.method.Rules.Numbers(r.ID), caught[r.ID]})
	}
	return out
}

// caught judges the newest programme of every golfer by a method.
func (a *App) caught(ctx context.Context, who *Actor, m *method.Method) (map[string][]Caught, error) {
	newest, err := a.store.For(who.PracticeID).NewestProgrammes(ctx)
	if err != nil {
		return nil, err
	}
	out := map[string][]Caught{}
	for _, id := range newest {
		o, err := a.open(ctx, who, id)
		if err != nil {
			return nil, err
		}
		basis, err := plan.BasisOf(o.file, m)
		if err != nil {
			continue // planned under a school there is not any more
		}
		seen := map[string]bool{}
		for _, r := range basis.Judge(o.stored.Doc).Rules {
			switch list := out[r.Rule]; {
			case r.Status != rulebook.Broken:
			case seen[r.Rule]:
				list[len(list)-1].More++
			default:
				seen[r.Rule] = true
				out[r.Rule] = append(list, Caught{AthleteID: o.stored.AthleteID, Name: o.file.Athlete.Name, ProgrammeID: id, Where: r.Where, Text: r.Text})
			}
		}
	}
	return out, nil
}

// TryRule says what a rule would catch in the squad with other numbers; nothing changes.
func (a *App) TryRule(ctx context.Context, who *Actor, rule string, numbers map[string]float64) (*RuleView, error) {
	changes, err := a.store.For(who.PracticeID).Method(ctx)
	if err != nil {
		return nil, err
	}
	m, err := a.with(changes, rule, numbers)
	if err != nil {
		return nil, err
	}
	caught, err := a.caught(ctx, who, m)
	if err != nil {
		return nil, err
	}
	for _, v := range a.ruleViews(m, caught) {
		if v.ID == rule {
			return &v, nil
		}
	}
	return nil, &Error{Kind: NotFound, Text: "There is no such rule."}
}

// with is the method with a rule's numbers; no numbers put ours back.
func (a *App) with(changes *store.MethodChanges, rule string, numbers map[string]float64) (*method.Method, error) {
	ours := a.method.Rules.Numbers(rule)
	if a.method.Rules.Template(rule) == "" {
		return nil, &Error{Kind: NotFound, Text: "There is no such rule."}
	}
	rules := store.RuleNumbers{}
	maps.Copy(rules, changes.Rules)
	delete(rules, rule)
	own := map[string]float64{}
	for name, v := range numbers {
		if had, ok := ours[name]; !ok || had != v {
			own[name] = v
		}
	}
	if len(own) > 0 {
		rules[rule] = own
	}
	changes.Rules = rules
	if _, err := a.method.Rules.With(rules); err != nil {
		var no *rulebook.NumberError
		if errors.As(err, &no) {
			return nil, invalid("numbers."+no.Number, "%s.", Sentence(errors.New(no.Text)))
		}
		return nil, err
	}
	return a.method.With(rules, changes.Schools)
}

// ChangeRule changes numbers of a rule, with a reason; no numbers put ours back.
func (a *App) ChangeRule(ctx context.Context, who *Actor, rule string, numbers map[string]float64, reason string) error {
	reason = strings.TrimSpace(reason)
	if reason == "" || len(reason) > 500 {
		return invalid("reason", "Say why, in at most 500 characters: it is kept with the change.")
	}
	return a.store.For(who.PracticeID).ChangeMethod(ctx, func(c *store.MethodChanges) ([]store.RuleChange, error) {
		before, err := a.method.With(c.Rules, nil)
		if err != nil {
			return nil, err
		}
		was := before.Rules.Numbers(rule)
		now, err := a.with(c, rule, numbers)
		if err != nil {
			return nil, err
		}
		is := now.Rules.Numbers(rule)
		if maps.Equal(was, is) {
			return nil, invalid("numbers", "These are the numbers it has.")
		}
		entry := store.RuleChange{At: time.Now(), By: who.Name, Rule: rule, Before: map[string]float64{}, After: map[string]float64{}, Reason: reason}
		for name, v := range is {
			if was[name] != v {
				entry.Before[name] = was[name]
				entry.After[name] = v
			}
		}
		return []store.RuleChange{entry}, nil
	})
}

// SchoolView is a school a practice may choose.
type SchoolView struct {
	school.School
	Own   bool
	Users []string // golfers who train under it, by name
}

// Schools returns the schools to choose from.
func (a *App) Schools(ctx context.Context, who *Actor) ([]SchoolView, error) {
	m, err := a.methodOf(ctx, who)
	if err != nil {
		return nil, err
	}
	users, err := a.store.For(who.PracticeID).SchoolUsers(ctx)
	if err != nil {
		return nil, err
	}
	var out []SchoolView
	for _, s := range m.Schools.All() {
		_, err := a.method.Schools.Find(s.ID)
		out = append(out, SchoolView{s, err != nil, users[s.ID]})
	}
	return out, nil
}

// mostSchools is how many schools of its own a practice may have.
const mostSchools = 30

// SaveSchool makes a school of the practice's own, or changes one, from its JSON. The error
// says what is missing or cannot be.
func (a *App) SaveSchool(ctx context.Context, who *Actor, raw json.RawMessage) (string, error) {
	s, err := school.Read(raw)
	if err != nil {
		return "", invalid("school", "%s.", Sentence(errors.New(strings.TrimPrefix(err.Error(), "json: "))))
	}
	if why := plain.Name(s.Name, 60); why != "" {
		return "", invalid("name", "The name %s.", why)
	}
	if _, err := a.method.Schools.Find(s.ID); err == nil && s.ID != "" {
		return "", invalid("id", "%s is one of ours: copy it under another name.", s.Name)
	}
	err = a.store.For(who.PracticeID).ChangeMethod(ctx, func(c *store.MethodChanges) ([]store.RuleChange, error) {
		if s.ID == "" || len(s.ID) > 60 {
			s.ID = "own-" + prefix()
		}
		b, err := json.Marshal(s)
		if err != nil {
			return nil, err
		}
		at := slices.IndexFunc(c.Schools, func(x json.RawMessage) bool { return idOf(x) == s.ID })
		for _, x := range c.Schools {
			if nameOf(x) == s.Name && idOf(x) != s.ID {
				return nil, invalid("name", "There is a school of that name already.")
			}
		}
		switch {
		case at >= 0:
			c.Schools[at] = b
		case len(c.Schools) >= mostSchools:
			return nil, invalid("school", "At most %d schools of your own.", mostSchools)
		default:
			c.Schools = append(c.Schools, b)
		}
		_, err = a.method.With(nil, c.Schools)
		return nil, err
	})
	return s.ID, err
}

func idOf(raw json.RawMessage) string {
	var x struct{ ID string }
	_ = json.Unmarshal(raw, &x)
	return x.ID
}

func nameOf(raw json.RawMessage) string {
	var x struct{ Name string }
	_ = json.Unmarshal(raw, &x)
	return x.Name
}

// RemoveSchool removes a school of the practice's own that nobody trains under.
func (a *App) RemoveSchool(ctx context.Context, who *Actor, id string) error {
	p := a.store.For(who.PracticeID)
	users, err := p.SchoolUsers(ctx)
	if err != nil {
		return err
	}
	if names := users[id]; len(names) > 0 {
		return &Error{Kind: Refused, Text: fmt.Sprintf("%s: choose another school for them first.", strings.Join(names, ", "))}
	}
	return p.ChangeMethod(ctx, func(c *store.MethodChanges) ([]store.RuleChange, error) {
		at := slices.IndexFunc(c.Schools, func(x json.RawMessage) bool { return idOf(x) == id })
		if at < 0 {
			return nil, &Error{Kind: NotFound, Text: "There is no such school of your own."}
		}
		c.Schools = slices.Delete(c.Schools, at, at+1)
		return nil, nil
	})
}

// Compare plans a golfer under two schools, side by side.
func (a *App) Compare(ctx context.Context, who *Actor, athleteID, one, other string) (*plan.Compared, error) {
	f, err := a.file(ctx, who, athleteID)
	if err != nil {
		return nil, err
	}
	m, err := a.methodOf(ctx, who)
	if err != nil {
		return nil, err
	}
	for _, id := range []string{one, other} {
		if _, err := m.Schools.Find(id); err != nil {
			return nil, invalid("school", "%v", err)
		}
	}
	c, err := plan.Compare(f, m, one, other)
	return c, refusal(err)
}
