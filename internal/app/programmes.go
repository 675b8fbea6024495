package app

import (
	"context"
	"errors"
	"fmt"
	"strings"

	"dunnock/internal/core/athlete"
	"dunnock/internal/core/civil"
	"dunnock/internal/core/plan"
	"dunnock/internal/core/programme"
	"dunnock/internal/core/rulebook"
	"dunnock/internal/store"
)

// ProgrammeView is a programme with how the rules judge it today.
type ProgrammeView struct {
	store.Programme
	Rules      []rulebook.Result
	LoadStepKg float64 // the smallest step with the golfer's plates
}

// Programmes returns a golfer's draft and versions.
func (a *App) Programmes(ctx context.Context, u *store.User, athleteID string) ([]store.Programme, error) {
	if err := a.store.For(u.PracticeID).HasAthlete(ctx, athleteID); err != nil {
		return nil, words(err, "golfer")
	}
	return a.store.For(u.PracticeID).Programmes(ctx, athleteID)
}

// Programme returns one programme.
func (a *App) Programme(ctx context.Context, u *store.User, id string) (*ProgrammeView, error) {
	p, f, err := a.load(ctx, u, id)
	if err != nil {
		return nil, err
	}
	return a.view(p, f)
}

func (a *App) view(p *store.Programme, f *athlete.File) (*ProgrammeView, error) {
	rules, err := plan.Check(f, a.method, p.Doc)
	if err != nil {
		return nil, err
	}
	return &ProgrammeView{Programme: *p, Rules: rules, LoadStepKg: plan.LoadStep(f.Training)}, nil
}

// load returns a programme and the golfer's file with the programme's school.
func (a *App) load(ctx context.Context, u *store.User, id string) (*store.Programme, *athlete.File, error) {
	b, err := a.battery(ctx, u)
	if err != nil {
		return nil, nil, err
	}
	var p *store.Programme
	var got *store.Athlete
	err = a.store.For(u.PracticeID).Snapshot(ctx, func(db *store.Practice) error {
		if p, err = db.Programme(ctx, id); err != nil {
			return words(err, "programme")
		}
		got, err = db.File(ctx, p.AthleteID)
		return words(err, "golfer")
	})
	if err != nil {
		return nil, nil, err
	}
	f := a.dress(u, &got.Facts)
	f.Battery = b.changes
	f.School, f.StartDate = p.Doc.School, p.Doc.StartDate
	return p, f, nil
}

// Draft makes a programme under a school from a day on ("" and zero: the
// golfer's own), or a draft to change an issued version from.
func (a *App) Draft(ctx context.Context, u *store.User, athleteID, schoolID string, start civil.Date, from string) (*ProgrammeView, error) {
	p := a.store.For(u.PracticeID)
	f, err := a.file(ctx, u, athleteID)
	if err != nil {
		return nil, err
	}
	if schoolID != "" {
		if _, err := a.method.Schools.Find(schoolID); err != nil {
			return nil, invalid("school", "%v", err)
		}
		f.School = schoolID
	}
	if !start.IsZero() {
		if start.Before(f.AsOf.Add(-28)) || start.After(f.AsOf.Add(366)) {
			return nil, invalid("startDate", "A programme starts within the last four weeks or the next year, not on %s.", start.Short())
		}
		f.StartDate = start
	}
	var doc *programme.Programme
	label := ""
	if from != "" {
		old, err := p.Programme(ctx, from)
		if err != nil {
			return nil, words(err, "programme")
		}
		if old.AthleteID != athleteID || old.Status != store.Issued {
			return nil, invalid("from", "Only an issued version of this golfer can be changed into a new one.")
		}
		doc, label = old.Doc, fmt.Sprintf("Started from version %d", old.Version)
	} else {
		r, err := plan.Generate(f, a.method)
		if err != nil {
			return nil, refusal(err)
		}
		doc, label = r.Programme, "Drafted under "+r.Programme.SchoolName
	}
	id, err := p.CreateDraft(ctx, athleteID, label, u.Name, doc)
	if err != nil {
		return nil, words(err, "draft")
	}
	return a.Programme(ctx, u, id)
}

// Alternatives ranks what could stand at a place.
func (a *App) Alternatives(ctx context.Context, u *store.User, id, place, slot string) ([]plan.Alternative, error) {
	p, f, err := a.load(ctx, u, id)
	if err != nil {
		return nil, err
	}
	out, err := plan.Alternatives(f, a.method, p.Doc, place, slot)
	return out, refusal(err)
}

// Edit changes a draft if it still has the revision.
func (a *App) Edit(ctx context.Context, u *store.User, id string, revision int, e plan.Edit) (*ProgrammeView, error) {
	p, f, err := a.load(ctx, u, id)
	if err != nil {
		return nil, err
	}
	if p.Revision != revision {
		// What it is judged against is not what the editor saw: only the difference
		// is told.
		if err := a.store.For(u.PracticeID).Unchanged(ctx, id, revision); err != nil {
			return nil, changedWords(err, u, "programme")
		}
		return nil, words(store.ErrConflict, "programme")
	}
	doc, rules, err := plan.Apply(f, a.method, p.Doc, e)
	if err != nil {
		return nil, refusal(err)
	}
	if err := a.store.For(u.PracticeID).SaveStep(ctx, id, revision, a.describe(p.Doc, e), u.Name, doc); err != nil {
		return nil, changedWords(err, u, "programme")
	}
	saved, err := a.store.For(u.PracticeID).Programme(ctx, id)
	if err != nil {
		return nil, words(err, "programme")
	}
	if saved.Revision != revision+1 {
		return a.Programme(ctx, u, id) // somebody was quicker still: theirs is judged anew
	}
	return &ProgrammeView{Programme: *saved, Rules: rules, LoadStepKg: plan.LoadStep(f.Training)}, nil
}

// changedWords tells a second editor what was done since they looked.
func changedWords(err error, u *store.User, what string) error {
	var changed *store.ChangedError
	if !errors.As(err, &changed) {
		return words(err, what)
	}
	e := &Error{Kind: Conflict, Text: "This programme was changed since you opened it, and your change was not made."}
	for _, d := range changed.Since {
		who := d.By
		if who == u.Name {
			who = "You"
		}
		e.Since = append(e.Since, who+": "+d.Label)
	}
	if len(e.Since) > 0 {
		e.Text += " " + strings.Join(e.Since, ". ") + "."
	}
	return e
}

// describe says what an edit did, for undo.
func (a *App) describe(doc *programme.Programme, e plan.Edit) string {
	name := func(id string) string {
		if x, ok := a.method.Exercises.Find(id); ok {
			return x.Name
		}
		return id
	}
	it, _, _ := doc.Find(e.Place)
	switch {
	case e.Kind == plan.EditAdd:
		return "Added " + name(e.Exercise)
	case it == nil:
		return "Changed"
	case e.Kind == plan.EditSwap:
		return it.Name + " became " + name(e.Exercise)
	case e.Kind == plan.EditRemove:
		return "Removed " + it.Name
	default:
		return "Changed the dose of " + it.Name
	}
}

// Step undoes (−1) or redoes (+1).
func (a *App) Step(ctx context.Context, u *store.User, id string, revision, by int) (*ProgrammeView, error) {
	err := a.store.For(u.PracticeID).Step(ctx, id, revision, by, u.Name)
	if err != nil {
		what := "step to undo"
		if by > 0 {
			what = "step to redo"
		}
		return nil, changedWords(err, u, what)
	}
	return a.Programme(ctx, u, id)
}

// Issue makes a draft the golfer's next version. A blocking rule stops it; a
// warning needs a note.
func (a *App) Issue(ctx context.Context, u *store.User, id string, revision int, note string) (*ProgrammeView, error) {
	p, f, err := a.load(ctx, u, id)
	if err != nil {
		return nil, err
	}
	v, err := a.view(p, f)
	if err != nil {
		return nil, err
	}
	var blocking, warnings []string
	for _, r := range v.Rules {
		if r.Status != rulebook.Broken {
			continue
		}
		line := r.Rule + ": " + r.Text
		if r.Place != "" {
			line = r.Rule + " at " + r.Place + ": " + r.Text
		}
		switch r.Severity {
		case rulebook.Blocking:
			blocking = append(blocking, line)
		case rulebook.Warning:
			warnings = append(warnings, line)
		}
	}
	switch {
	case p.Status == store.Issued:
		return nil, words(store.ErrIssued, "programme")
	case len(blocking) > 0:
		return nil, &Error{Kind: Refused, Text: "It cannot be issued. " + strings.Join(blocking, " ")}
	case len(warnings) > 0 && strings.TrimSpace(note) == "":
		return nil, &Error{Kind: Invalid, Text: "Say why it is issued with these warnings. " + strings.Join(warnings, " "), Fields: []Field{{Name: "note", Text: "a reason is needed"}}}
	}
	if err := a.store.For(u.PracticeID).Issue(ctx, id, revision, f.AsOf, u.ID, strings.TrimSpace(note)); err != nil {
		return nil, changedWords(err, u, "programme")
	}
	return a.Programme(ctx, u, id)
}

// Discard removes a draft.
func (a *App) Discard(ctx context.Context, u *store.User, id string) error {
	return words(a.store.For(u.PracticeID).DeleteDraft(ctx, id), "programme")
}
