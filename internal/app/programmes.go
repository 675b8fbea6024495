package app

import (
	"context"
	"crypto/rand"
	"errors"
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
	return o.view(o.Judge(o.stored.Doc)), nil
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
	case o.stored.Status != store.Issued:
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
// one that began before a day; the same where there is none.
func (a *App) following(ctx context.Context, p *store.Practice, basis *plan.Basis, athleteID string, start civil.Date) (*plan.Basis, error) {
	all, err := p.Programmes(ctx, athleteID)
	if err != nil {
		return nil, words(err, "programmes")
	}
	var last *store.Programme
	for i := range all {
		if x := &all[i]; x.Status == store.Issued && x.StartDate.Before(start) && (last == nil || x.StartDate.After(last.StartDate) || x.StartDate == last.StartDate && x.Version > last.Version) {
			last = x
		}
	}
	if last == nil {
		return basis, nil
	}
	if last, err = p.Programme(ctx, last.ID); err != nil {
		return nil, words(err, "programme")
	}
	return basis.After(last.Doc), nil
}

// prefix is what the ids of parts made now begin with. No other has been made
// with it: parts of a golfer's programmes are told apart for ever.
func prefix() string { return strings.ToLower(rand.Text()[:10]) }

// Draft makes a programme under a school from a day on ("" and zero: the
// golfer's own), or a draft to change an issued version from.
func (a *App) Draft(ctx context.Context, who *Actor, athleteID, schoolID string, start civil.Date, from string) (*ProgrammeView, error) {
	p := a.store.For(who.PracticeID)
	f, err := a.file(ctx, who, athleteID)
	if err != nil {
		return nil, err
	}
	m, err := a.methodOf(ctx, who)
	if err != nil {
		return nil, err
	}
	if schoolID != "" {
		if _, err := m.Schools.Find(schoolID); err != nil {
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
	var old *store.Programme
	if from != "" {
		if old, err = p.Programme(ctx, from); err != nil {
			return nil, words(err, "programme")
		}
		if old.AthleteID != athleteID || old.Status != store.Issued {
			return nil, invalid("from", "Only an issued version of this golfer can be changed into a new one.")
		}
		f.School, f.StartDate = old.Doc.School, old.Doc.StartDate
	}
	basis, err := plan.BasisOf(f, m)
	if err != nil {
		return nil, err
	}
	var made *plan.Judged
	label := ""
	if old != nil {
		// What is kept of the version keeps its ids: a log of it goes on.
		made, label = basis.Judge(basis.Stamp(old.Doc)), fmt.Sprintf("Started from version %d", old.Version)
	} else {
		if basis, err = a.following(ctx, p, basis, athleteID, f.StartDate); err != nil {
			return nil, err
		}
		if made, err = basis.Generate(prefix()); err != nil {
			return nil, refusal(err)
		}
		label = "Drafted under " + made.View.SchoolName
	}
	id, err := p.CreateDraft(ctx, athleteID, label, who.Name, made.Doc)
	if err != nil {
		return nil, words(err, "draft")
	}
	stored, err := p.Programme(ctx, id)
	if err != nil {
		return nil, words(err, "draft")
	}
	return (&opened{Basis: basis, stored: stored}).view(made), nil
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

// Edit changes a draft if it still has the revision.
func (a *App) Edit(ctx context.Context, who *Actor, id string, revision int, e plan.Edit) (*ProgrammeView, error) {
	o, err := a.open(ctx, who, id)
	if err != nil {
		return nil, err
	}
	if o.stored.Revision != revision {
		// What it is judged against is not what the editor saw: only the difference
		// is told.
		if err := a.store.For(who.PracticeID).Unchanged(ctx, id, revision); err != nil {
			return nil, changedWords(err, who, "programme")
		}
		return nil, words(store.ErrConflict, "programme")
	}
	made, label, err := a.edited(o, e)
	if err != nil {
		return nil, refusal(err)
	}
	if err := a.store.For(who.PracticeID).SaveStep(ctx, id, revision, label, who.Name, made.Doc); err != nil {
		return nil, changedWords(err, who, "programme")
	}
	// It was saved on the very revision it was made from: what is stored is known.
	o.stored.Revision, o.stored.Undo, o.stored.Redo, o.stored.Doc = revision+1, label, "", made.Doc
	return o.view(made), nil
}

// edited makes a change of an opened draft, and says what it did.
func (a *App) edited(o *opened, e plan.Edit) (*plan.Judged, string, error) {
	if e.Kind == plan.EditMend {
		m, err := o.Mend(o.stored.Doc, e.Rule, e.At, prefix())
		if err != nil {
			return nil, "", err
		}
		return m.Judged, m.Words, nil
	}
	made, err := o.Apply(o.stored.Doc, e, prefix())
	return made, a.describe(o.stored.Doc, e), err
}

// changedWords tells a second editor what was done since they looked.
func changedWords(err error, who *Actor, what string) error {
	var changed *store.ChangedError
	if !errors.As(err, &changed) {
		return words(err, what)
	}
	e := &Error{Kind: Conflict, Text: "This programme was changed since you opened it, and your change was not made."}
	for _, d := range changed.Since {
		by := d.By
		if by == who.Name {
			by = "You"
		}
		e.Since = append(e.Since, by+": "+d.Label)
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
	spot, found := doc.Find(e.At)
	switch {
	case e.Kind == plan.EditAdd:
		return "Added " + name(e.Exercise)
	case e.Kind == plan.EditPiece && e.Piece != nil:
		return "Added: " + e.Piece.Name()
	case !found:
		return "Changed"
	case e.Kind == plan.EditSwap:
		return name(spot.Item.Exercise) + " became " + name(e.Exercise)
	case e.Kind == plan.EditRemove:
		return "Removed " + name(spot.Item.Exercise)
	default:
		return "Changed the dose of " + name(spot.Item.Exercise)
	}
}

// Step undoes (−1) or redoes (+1).
func (a *App) Step(ctx context.Context, who *Actor, id string, revision, by int) (*ProgrammeView, error) {
	err := a.store.For(who.PracticeID).Step(ctx, id, revision, by, who.Name)
	if err != nil {
		what := "step to undo"
		if by > 0 {
			what = "step to redo"
		}
		return nil, changedWords(err, who, what)
	}
	return a.Programme(ctx, who, id)
}

// Issue makes a draft the golfer's next version. A blocking rule stops it; a
// warning needs a note.
func (a *App) Issue(ctx context.Context, who *Actor, id string, revision int, note string) (*ProgrammeView, error) {
	o, err := a.open(ctx, who, id)
	if err != nil {
		return nil, err
	}
	if o.stored.Status == store.Issued {
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

// Discard removes a draft.
func (a *App) Discard(ctx context.Context, who *Actor, id string) error {
	return words(a.store.For(who.PracticeID).DeleteDraft(ctx, id), "programme")
}
