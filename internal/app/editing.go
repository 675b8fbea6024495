package app

import (
	"context"
	"errors"
	"fmt"
	"slices"
	"strings"

	"dunnock/internal/core/plan"
	"dunnock/internal/core/programme"
	"dunnock/internal/core/programme/change"
	"dunnock/internal/core/programme/derive"
	"dunnock/internal/store"
)

// editor is who changes a draft, as the store knows them.
func (a *Actor) editor() store.Editor { return store.Editor{ID: a.UserID, Name: a.Name} }

// saveTries is how often a change is made anew on what others saved just before.
const saveTries = 4

// Edit changes a draft as it is now. What others did since the revision the editor saw is
// kept; where they touched the same places, nothing is changed, unless the editor says over.
func (a *App) Edit(ctx context.Context, who *Actor, id string, revision int, over bool, e plan.Edit) (*ProgrammeView, error) {
	p := a.store.For(who.PracticeID)
	for range saveTries {
		o, err := a.open(ctx, who, id)
		if err != nil {
			return nil, err
		}
		if o.stored.Status != store.Draft {
			return nil, words(store.ErrIssued, "programme")
		}
		stale := o.stored.Revision != revision
		if revision > o.stored.Revision {
			return nil, words(store.ErrConflict, "programme")
		}
		made, err := edited(o, e)
		var no *plan.EditError
		switch {
		case errors.As(err, &no) && no.Gone && stale:
			return nil, a.clash(ctx, p, who, id, revision, nil)
		case err != nil:
			return nil, refusal(err)
		}
		if stale && !over {
			touched := change.Between(o.stored.Doc, made.Doc).Touched()
			if err := a.clash(ctx, p, who, id, revision, touched); err != nil {
				return nil, err
			}
		}
		switch err := p.SaveStep(ctx, id, o.stored.Revision, made.Words, who.editor(), made.Doc); {
		case errors.Is(err, store.ErrConflict):
			continue // somebody was faster by a moment
		case err != nil:
			return nil, words(err, "programme")
		}
		// It was saved on the very revision it was made from: what is stored is known.
		o.stored.Revision, o.stored.Doc = o.stored.Revision+1, made.Doc
		v := o.view(made.Judged)
		v.Undo = made.Words
		return v, nil
	}
	return nil, words(store.ErrConflict, "programme")
}

// edited makes a change of an opened draft.
func edited(o *opened, e plan.Edit) (*plan.Changed, error) {
	if e.Kind == plan.EditMend {
		return o.Mend(o.stored.Doc, e.Rule, e.At, prefix())
	}
	return o.Apply(o.stored.Doc, e, prefix())
}

// clash tells an editor what was done since a revision, where it was done to some of the
// parts (nil: wherever it was done); nil where it was not.
func (a *App) clash(ctx context.Context, p *store.Practice, who *Actor, id string, revision int, parts []programme.ID) error {
	done, all, err := p.Since(ctx, id, revision)
	if err != nil {
		return words(err, "programme")
	}
	var meant []store.Done
	for _, d := range done {
		if parts == nil || d.Touched == nil || slices.ContainsFunc(d.Touched, func(id programme.ID) bool { return slices.Contains(parts, id) }) {
			meant = append(meant, d)
		}
	}
	if all && len(meant) == 0 {
		return nil
	}
	e := &Error{Kind: Conflict, Text: "This place was changed since you saw it, and your change was not made."}
	e.Since = doneWords(meant, who)
	return e
}

// doneWords says who did what.
func doneWords(done []store.Done, who *Actor) []string {
	var out []string
	for _, d := range done {
		by := d.By
		if d.ByID == who.UserID || d.ByID == "" && by == who.Name {
			by = "You"
		}
		out = append(out, by+": "+d.Label)
	}
	return out
}

// changedWords tells a second editor what was done since they looked.
func changedWords(err error, who *Actor, what string) error {
	var changed *store.ChangedError
	if !errors.As(err, &changed) {
		return words(err, what)
	}
	e := &Error{Kind: Conflict, Text: "This programme was changed since you opened it, and your change was not made."}
	e.Since = doneWords(changed.Since, who)
	if len(e.Since) > 0 {
		e.Text += " " + strings.Join(e.Since, ". ") + "."
	}
	return e
}

// Step takes back the actor's own last change (−1), or makes the one they took back last
// again (+1).
func (a *App) Step(ctx context.Context, who *Actor, id string, by int) (*ProgrammeView, error) {
	err := a.store.For(who.PracticeID).Step(ctx, id, by, who.editor())
	var stuck *store.StuckError
	switch {
	case errors.As(err, &stuck):
		verb := "taken back"
		if by > 0 {
			verb = "made again"
		}
		e := &Error{Kind: Conflict, Text: fmt.Sprintf("%q cannot be %s: the same place was changed since.", stuck.Label, verb), Since: doneWords(stuck.Since, who)}
		if len(e.Since) > 0 {
			e.Text += " " + strings.Join(e.Since, ". ") + "."
		}
		return nil, e
	case errors.Is(err, store.ErrNotFound):
		what := "step of yours to undo"
		if by > 0 {
			what = "step of yours to redo"
		}
		return nil, words(err, what)
	case err != nil:
		return nil, words(err, "programme")
	}
	return a.Programme(ctx, who, id)
}

// Differences says in what a programme differs from another of the same golfer.
func (a *App) Differences(ctx context.Context, who *Actor, id, from string) ([]derive.Difference, error) {
	now, err := a.open(ctx, who, id)
	if err != nil {
		return nil, err
	}
	was, err := a.open(ctx, who, from)
	if err != nil {
		return nil, err
	}
	if now.stored.AthleteID != was.stored.AthleteID {
		return nil, invalid("from", "Only versions of one golfer are compared.")
	}
	return derive.Differences(was.Judge(was.stored.Doc).View, now.Judge(now.stored.Doc).View), nil
}

// Revision is the number a programme's last change has, and who made it.
type Revision struct {
	Revision int    `json:"revision"`
	Status   string `json:"status"`
	Label    string `json:"label"`
	By       string `json:"by"`
	Own      bool   `json:"own"`
}

// Revision returns what was done last to a programme.
func (a *App) Revision(ctx context.Context, who *Actor, id string) (*Revision, error) {
	r, err := a.store.For(who.PracticeID).Revision(ctx, id)
	if err != nil {
		return nil, words(err, "programme")
	}
	return &Revision{r.Revision, r.Status, r.Last.Label, r.Last.By, r.Last.ByID == who.UserID}, nil
}
