package app

import (
	"context"
	"crypto/rand"
	"fmt"
	"strings"

	"dunnock/internal/core/athlete"
	"dunnock/internal/core/budget"
	"dunnock/internal/core/civil"
	"dunnock/internal/core/library"
	"dunnock/internal/core/method"
	"dunnock/internal/core/plan"
	"dunnock/internal/core/programme"
	"dunnock/internal/core/programme/derive"
	"dunnock/internal/core/rulebook"
	"dunnock/internal/store"
)

// ProgrammeView is a programme with what it comes to and how the rules judge it
// for the golfer as they are today.
type ProgrammeView struct {
	store.Programme
	View       *derive.Programme
	Rules      []rulebook.Result
	LoadStepKg float64  // the smallest step with the golfer's plates
	Limits     []string // in force for the golfer, in words
	Answer     []budget.Answer
	Unanswered []programme.Unanswered
	MadeBy     string // of an issued version: which exercises and rules it is shown with
	Undo       string // what an undo of the actor takes back
	Redo       string // what a redo brings back
}

// Programmes returns a golfer's draft and versions.
func (a *App) Programmes(ctx context.Context, who *Actor, athleteID string) ([]store.Programme, error) {
	if err := a.store.For(who.PracticeID).HasAthlete(ctx, athleteID); err != nil {
		return nil, words(err, "golfer")
	}
	return a.store.For(who.PracticeID).Programmes(ctx, athleteID)
}

// Programme returns one programme.
func (a *App) Programme(ctx context.Context, who *Actor, id string) (*ProgrammeView, error) {
	o, err := a.open(ctx, who, id)
	if err != nil {
		return nil, err
	}
	v := o.view(o.Judge(o.stored.Doc))
	if o.stored.Status == store.Draft {
		v.Undo, v.Redo, err = a.store.For(who.PracticeID).Steps(ctx, id, who.editor())
	}
	return v, words(err, "programme")
}

// opened is a programme with the golfer's basis by the method it is judged by.
type opened struct {
	*plan.Basis
	stored *store.Programme
	by     *method.Method
	file   *athlete.File
	madeBy string
}

func (o *opened) view(j *plan.Judged) *ProgrammeView {
	limits := make([]string, len(o.Facts.Limits))
	for i, l := range o.Facts.Limits {
		limits[i] = l.Words()
	}
	return &ProgrammeView{
		Limits: limits, Programme: *o.stored, View: j.View, Rules: j.Rules, LoadStepKg: o.LoadStepKg(), MadeBy: o.madeBy,
		Answer: j.Answer, Unanswered: append([]programme.Unanswered{}, j.Doc.Unanswered...),
	}
}

// open reads a programme and the golfer's file with the programme's school, once.
func (a *App) open(ctx context.Context, who *Actor, id string) (*opened, error) {
	b, err := a.battery(ctx, who)
	if err != nil {
		return nil, err
	}
	m, err := a.methodOf(ctx, who)
	if err != nil {
		return nil, err
	}
	o := &opened{by: m}
	var got *store.Athlete
	err = a.store.For(who.PracticeID).Snapshot(ctx, func(db *store.Practice) error {
		if o.stored, err = db.Programme(ctx, id); err != nil {
			return words(err, "programme")
		}
		if got, err = db.File(ctx, o.stored.AthleteID); err != nil {
			return words(err, "golfer")
		}
		return a.addForce(ctx, db, o.stored.AthleteID, &got.Facts)
	})
	if err != nil {
		return nil, err
	}
	switch {
	case o.stored.Status == store.Draft:
	case o.stored.Frozen != nil:
		if o.by, err = method.Thaw(o.stored.Frozen); err != nil {
			return nil, fmt.Errorf("programme %s: %w", id, err)
		}
		o.madeBy = fmt.Sprintf("As it was issued: exercises %s, rules %s.", o.by.Exercises.Version(), o.by.Rules.Version())
	default:
		o.by = method.BeforeFreezing()
		o.madeBy = fmt.Sprintf(
			"Issued before exercises and rules were kept with a version: shown with the last ones of that time, exercises %s, rules %s.",
			o.by.Exercises.Version(),
			o.by.Rules.Version(),
		)
	}
	o.file = a.dress(who, &got.Facts)
	o.file.Battery = b.changes
	o.file.School, o.file.StartDate = o.by.SchoolOf(o.stored.Doc.School).ID, o.stored.Doc.StartDate
	o.Basis, err = plan.BasisOf(o.file, o.by)
	return o, err
}

// following returns the basis of a programme that goes on from the golfer's last issued
// one that began before a day, and from its retest; the same where there is none.
func (a *App) following(ctx context.Context, p *store.Practice, basis *plan.Basis, f *athlete.File, m *method.Method, athleteID string) (*plan.Basis, error) {
	all, err := p.Programmes(ctx, athleteID)
	if err != nil {
		return nil, words(err, "programmes")
	}
	var last *store.Programme
	for i := range all {
		if x := &all[i]; x.Status == store.Issued && x.StartDate.Before(f.StartDate) && (last == nil || x.StartDate.After(last.StartDate) || x.StartDate == last.StartDate && x.Version > last.Version) {
			last = x
		}
	}
	if last == nil {
		return basis, nil
	}
	if last, err = p.Programme(ctx, last.ID); err != nil {
		return nil, words(err, "programme")
	}
	return a.turned(ctx, p, basis.After(last.Doc), f, m, athleteID)
}

// prefix is what the ids of parts made now begin with. No other has been made
// with it: parts of a golfer's programmes are told apart for ever.
func prefix() string { return strings.ToLower(rand.Text()[:10]) }

// Wanted is what a draft is made from: a school and a day it starts on (empty: the
// golfer's own), or an issued version to change.
type Wanted struct {
	School string
	Start  civil.Date
	From   string
}

// drafted is a draft that is not stored yet.
type drafted struct {
	*plan.Judged
	*plan.Basis
	label string
	open  *store.Programme // the draft it would take the place of; nil: there is none
}

// Draft makes a programme, or a draft to change an issued version from. What is locked in
// the draft there is stays in the one that takes its place.
func (a *App) Draft(ctx context.Context, who *Actor, athleteID string, w Wanted) (*ProgrammeView, error) {
	d, err := a.draft(ctx, who, athleteID, w)
	if err != nil {
		return nil, err
	}
	p := a.store.For(who.PracticeID)
	id, err := p.CreateDraft(ctx, athleteID, d.label, who.editor(), d.Doc)
	if err != nil {
		return nil, words(err, "draft")
	}
	stored, err := p.Programme(ctx, id)
	if err != nil {
		return nil, words(err, "draft")
	}
	v := (&opened{Basis: d.Basis, stored: stored}).view(d.Judged)
	v.Undo, v.Redo, err = p.Steps(ctx, id, who.editor())
	return v, words(err, "draft")
}

// DraftDifferences says what a draft would change of the one there is, and stores nothing.
func (a *App) DraftDifferences(ctx context.Context, who *Actor, athleteID string, w Wanted) ([]derive.Difference, error) {
	d, err := a.draft(ctx, who, athleteID, w)
	if err != nil {
		return nil, err
	}
	if d.open == nil {
		return []derive.Difference{}, nil
	}
	return derive.Differences(d.Judge(d.open.Doc).View, d.View), nil
}

func (a *App) draft(ctx context.Context, who *Actor, athleteID string, w Wanted) (*drafted, error) {
	p := a.store.For(who.PracticeID)
	f, err := a.file(ctx, who, athleteID)
	if err != nil {
		return nil, err
	}
	m, err := a.methodOf(ctx, who)
	if err != nil {
		return nil, err
	}
	if w.School != "" {
		if _, err := m.Schools.Find(w.School); err != nil {
			return nil, invalid("school", "%v", err)
		}
		f.School = w.School
	}
	if !w.Start.IsZero() {
		if w.Start.Before(f.AsOf.Add(-28)) || w.Start.After(f.AsOf.Add(366)) {
			return nil, invalid("startDate", "A programme starts within the last four weeks or the next year, not on %s.", w.Start.Words())
		}
		f.StartDate = w.Start
	}
	var old *store.Programme
	if w.From != "" {
		if old, err = p.Programme(ctx, w.From); err != nil {
			return nil, words(err, "programme")
		}
		if old.AthleteID != athleteID || old.Status == store.Draft {
			return nil, invalid("from", "Only an issued version of this golfer can be changed into a new one.")
		}
		f.School, f.StartDate = old.Doc.School, old.Doc.StartDate
	}
	out := &drafted{}
	if out.Basis, err = plan.BasisOf(f, m); err != nil {
		return nil, err
	}
	if out.open, err = draftOf(ctx, p, athleteID); err != nil {
		return nil, err
	}
	if old != nil {
		// What is kept of the version keeps its ids: a log of it goes on.
		out.Judged, out.label = out.Judge(out.Stamp(old.Doc)), fmt.Sprintf("Started from version %d", old.Version)
		return out, nil
	}
	if out.Basis, err = a.following(ctx, p, out.Basis, f, m, athleteID); err != nil {
		return nil, err
	}
	if out.open != nil {
		out.Judged, err = out.Redraft(out.open.Doc, prefix())
	} else {
		out.Judged, err = out.Generate(prefix())
	}
	if err != nil {
		return nil, refusal(err)
	}
	out.label = "Drafted under " + out.View.SchoolName
	return out, nil
}

// draftOf returns the draft a golfer has; nil where there is none.
func draftOf(ctx context.Context, p *store.Practice, athleteID string) (*store.Programme, error) {
	all, err := p.Programmes(ctx, athleteID)
	if err != nil {
		return nil, words(err, "programmes")
	}
	for i := range all {
		if all[i].Status == store.Draft {
			got, err := p.Programme(ctx, all[i].ID)
			return got, words(err, "programme")
		}
	}
	return nil, nil
}

// Alternatives ranks what could stand at a place.
func (a *App) Alternatives(ctx context.Context, who *Actor, id string, at programme.ID, slot library.Slot) ([]plan.Alternative, error) {
	o, err := a.open(ctx, who, id)
	if err != nil {
		return nil, err
	}
	out, err := o.Alternatives(o.stored.Doc, at, slot)
	return out, refusal(err)
}

// Issue makes a draft the golfer's next version. A blocking rule stops it; a
// warning needs a note.
func (a *App) Issue(ctx context.Context, who *Actor, id string, revision int, note string) (*ProgrammeView, error) {
	o, err := a.open(ctx, who, id)
	if err != nil {
		return nil, err
	}
	if o.stored.Status != store.Draft {
		return nil, words(store.ErrIssued, "programme")
	}
	made := o.Judge(o.Stamp(o.stored.Doc))
	var blocking, warnings []string
	for _, r := range made.Rules {
		if r.Status != rulebook.Broken {
			continue
		}
		line := r.Rule + ": " + r.Text
		if r.Place != "" {
			line = r.Rule + ", " + r.Where + ": " + r.Text
		}
		switch r.Severity {
		case rulebook.Blocking:
			blocking = append(blocking, line)
		case rulebook.Warning:
			warnings = append(warnings, line)
		}
	}
	switch {
	case len(blocking) > 0:
		return nil, &Error{Kind: Refused, Text: "It cannot be issued. " + strings.Join(blocking, " ")}
	case len(warnings) > 0 && strings.TrimSpace(note) == "":
		return nil, &Error{
			Kind:   Invalid,
			Text:   "Say why it is issued with these warnings. " + strings.Join(warnings, " "),
			Fields: []Field{{Name: "note", Text: "a reason is needed"}},
		}
	}
	frozen, err := o.by.Freeze(made.Doc)
	if err != nil {
		return nil, fmt.Errorf("issue programme %s: %w", id, err)
	}
	err = a.store.For(who.PracticeID).Issue(ctx, id, revision, o.file.AsOf, who.UserID, strings.TrimSpace(note), made.Doc, frozen)
	if err != nil {
		return nil, changedWords(err, who, "programme")
	}
	return a.Programme(ctx, who, id)
}

// Withdraw takes an issued version back, with a reason: it stays to be looked at.
func (a *App) Withdraw(ctx context.Context, who *Actor, id, why string) (*ProgrammeView, error) {
	if why = strings.TrimSpace(why); why == "" {
		return nil, invalid("why", "Say why it is withdrawn.")
	}
	p := a.store.For(who.PracticeID)
	got, err := p.Programme(ctx, id)
	if err != nil {
		return nil, words(err, "programme")
	}
	if got.Status != store.Issued {
		return nil, &Error{Kind: Refused, Text: "Only an issued version is withdrawn: a draft is discarded."}
	}
	if err := p.Withdraw(ctx, id, a.Today(who.Zone), why); err != nil {
		return nil, words(err, "programme")
	}
	return a.Programme(ctx, who, id)
}

// Discard removes a draft.
func (a *App) Discard(ctx context.Context, who *Actor, id string) error {
	return words(a.store.For(who.PracticeID).DeleteDraft(ctx, id), "programme")
}
