package app

import (
	"context"
	"encoding/json"
	"io"

	"dunnock/internal/core/plan"
	"dunnock/internal/core/programme/upgrade"
)

// longestPlan is how many bytes a plan from outside may have.
const longestPlan = 8 << 20

// PlanFile returns a programme as it is written to be read back.
func (a *App) PlanFile(ctx context.Context, who *Actor, id string) (file []byte, golfer string, err error) {
	o, err := a.open(ctx, who, id)
	if err != nil {
		return nil, "", err
	}
	file, err = json.MarshalIndent(o.stored.Doc, "", "  ")
	return append(file, '\n'), o.file.Athlete.Name, err
}

// ImportPlan makes a draft of a plan that was written or changed outside, or the next step
// of the draft there is. The rules judge it as it stands.
func (a *App) ImportPlan(ctx context.Context, who *Actor, athleteID string, body io.Reader) (*ProgrammeView, error) {
	b, err := io.ReadAll(io.LimitReader(body, longestPlan+1))
	if err != nil {
		return nil, err
	}
	if len(b) > longestPlan {
		return nil, invalid("file", "A plan of more than 8 MB is not read.")
	}
	doc, err := upgrade.Read(b)
	if err != nil {
		return nil, invalid("file", "This is no plan that can be read: %v. Nothing was changed.", err)
	}
	f, err := a.file(ctx, who, athleteID)
	if err != nil {
		return nil, err
	}
	m, err := a.methodOf(ctx, who)
	if err != nil {
		return nil, err
	}
	f.School, f.StartDate = m.SchoolOf(doc.School).ID, doc.StartDate
	basis, err := plan.BasisOf(f, m)
	if err != nil {
		return nil, err
	}
	if err := basis.Admit(doc); err != nil {
		return nil, invalid("file", "This plan cannot be taken: %v. Nothing was changed.", err)
	}
	doc.Athlete, doc.School = f.Athlete.Name, f.School
	doc = basis.Stamp(doc)
	p := a.store.For(who.PracticeID)
	id, err := p.CreateDraft(ctx, athleteID, "Brought in from a file", who.editor(), doc)
	if err != nil {
		return nil, words(err, "draft")
	}
	return a.Programme(ctx, who, id)
}
