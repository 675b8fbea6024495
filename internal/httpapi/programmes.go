package httpapi

import (
	"context"

	"dunnock/internal/app"
	"dunnock/internal/core/plan"
	"dunnock/internal/core/rulebook"
	"dunnock/internal/httpapi/gen"
)

// ListProgrammes answers a golfer's draft and versions.
func (s *Server) ListProgrammes(ctx context.Context, r gen.ListProgrammesRequestObject) (gen.ListProgrammesResponseObject, error) {
	list, err := s.app.Programmes(ctx, actor(ctx), r.AthleteId.String())
	if err != nil {
		return nil, err
	}
	out := make(gen.ListProgrammes200JSONResponse, len(list))
	for i, p := range list {
		out[i] = gen.ProgrammeRow{
			Id:        p.ID,
			Status:    gen.ProgrammeRowStatus(p.Status),
			Version:   p.Version,
			School:    p.School,
			StartDate: p.StartDate,
			Emphasis:  p.Emphasis,
			Note:      optional(p.Note),
		}
		if !p.IssuedOn.IsZero() {
			out[i].IssuedOn = &p.IssuedOn
		}
		if !p.WithdrawnOn.IsZero() {
			out[i].WithdrawnOn = &p.WithdrawnOn
		}
	}
	return out, nil
}

func programmeView(v *app.ProgrammeView) gen.ProgrammeView {
	out := gen.ProgrammeView{
		Id:         v.ID,
		AthleteId:  v.AthleteID,
		Status:     gen.ProgrammeViewStatus(v.Status),
		Version:    v.Version,
		Revision:   v.Revision,
		LoadStepKg: v.LoadStepKg, Limits: v.Limits, Answer: v.Answer, Unanswered: v.Unanswered,
		Programme: *v.View,
		Rules:     v.Rules,
		Undo:      v.Undo,
		Redo:      v.Redo,
		Note:      optional(v.Note),
		MadeBy:    optional(v.MadeBy),
	}
	if !v.IssuedOn.IsZero() {
		out.IssuedOn = &v.IssuedOn
	}
	if !v.WithdrawnOn.IsZero() {
		out.WithdrawnOn, out.WithdrawnWhy = &v.WithdrawnOn, &v.WithdrawnWhy
	}
	if out.Rules == nil {
		out.Rules = []rulebook.Result{}
	}
	return out
}

func wanted(r *gen.DraftRequest) app.Wanted {
	w := app.Wanted{School: orZero(r.School), Start: orZero(r.StartDate)}
	if r.From != nil {
		w.From = r.From.String()
	}
	return w
}

// DraftProgramme drafts a programme.
func (s *Server) DraftProgramme(ctx context.Context, r gen.DraftProgrammeRequestObject) (gen.DraftProgrammeResponseObject, error) {
	v, err := s.app.Draft(ctx, actor(ctx), r.AthleteId.String(), wanted(r.Body))
	if err != nil {
		return nil, err
	}
	return gen.DraftProgramme201JSONResponse(programmeView(v)), nil
}

// PreviewDraft says what a draft would change.
func (s *Server) PreviewDraft(ctx context.Context, r gen.PreviewDraftRequestObject) (gen.PreviewDraftResponseObject, error) {
	list, err := s.app.DraftDifferences(ctx, actor(ctx), r.AthleteId.String(), wanted(r.Body))
	if err != nil {
		return nil, err
	}
	return gen.PreviewDraft200JSONResponse(list), nil
}

// ImportProgramme makes a draft of a plan written as JSON.
func (s *Server) ImportProgramme(ctx context.Context, r gen.ImportProgrammeRequestObject) (gen.ImportProgrammeResponseObject, error) {
	v, err := s.app.ImportPlan(ctx, actor(ctx), r.AthleteId.String(), r.Body)
	if err != nil {
		return nil, err
	}
	return gen.ImportProgramme201JSONResponse(programmeView(v)), nil
}

// ListDifferences says in what a programme differs from another.
func (s *Server) ListDifferences(ctx context.Context, r gen.ListDifferencesRequestObject) (gen.ListDifferencesResponseObject, error) {
	list, err := s.app.Differences(ctx, actor(ctx), r.ProgrammeId.String(), r.Params.From.String())
	if err != nil {
		return nil, err
	}
	return gen.ListDifferences200JSONResponse(list), nil
}

// WithdrawProgramme takes an issued version back.
func (s *Server) WithdrawProgramme(ctx context.Context, r gen.WithdrawProgrammeRequestObject) (gen.WithdrawProgrammeResponseObject, error) {
	v, err := s.app.Withdraw(ctx, actor(ctx), r.ProgrammeId.String(), r.Body.Why)
	if err != nil {
		return nil, err
	}
	return gen.WithdrawProgramme200JSONResponse(programmeView(v)), nil
}

// GetProgramme answers a programme with its rule checks.
func (s *Server) GetProgramme(ctx context.Context, r gen.GetProgrammeRequestObject) (gen.GetProgrammeResponseObject, error) {
	v, err := s.app.Programme(ctx, actor(ctx), r.ProgrammeId.String())
	if err != nil {
		return nil, err
	}
	return gen.GetProgramme200JSONResponse(programmeView(v)), nil
}

// DeleteProgramme discards a draft.
func (s *Server) DeleteProgramme(ctx context.Context, r gen.DeleteProgrammeRequestObject) (gen.DeleteProgrammeResponseObject, error) {
	return gen.DeleteProgramme204Response{}, s.app.Discard(ctx, actor(ctx), r.ProgrammeId.String())
}

// ListAlternatives ranks what could stand at a place.
func (s *Server) ListAlternatives(ctx context.Context, r gen.ListAlternativesRequestObject) (gen.ListAlternativesResponseObject, error) {
	list, err := s.app.Alternatives(ctx, actor(ctx), r.ProgrammeId.String(), r.Params.At, orZero(r.Params.Slot))
	if err != nil {
		return nil, err
	}
	if list == nil {
		list = []plan.Alternative{}
	}
	return gen.ListAlternatives200JSONResponse(list), nil
}

// EditProgramme changes a draft.
func (s *Server) EditProgramme(ctx context.Context, r gen.EditProgrammeRequestObject) (gen.EditProgrammeResponseObject, error) {
	v, err := s.app.Edit(ctx, actor(ctx), r.ProgrammeId.String(), r.Body.Revision, orZero(r.Body.Over), r.Body.Edit)
	if err != nil {
		return nil, err
	}
	return gen.EditProgramme200JSONResponse(programmeView(v)), nil
}

// StepProgramme undoes or redoes.
func (s *Server) StepProgramme(ctx context.Context, r gen.StepProgrammeRequestObject) (gen.StepProgrammeResponseObject, error) {
	v, err := s.app.Step(ctx, actor(ctx), r.ProgrammeId.String(), int(r.Body.By))
	if err != nil {
		return nil, err
	}
	return gen.StepProgramme200JSONResponse(programmeView(v)), nil
}

// IssueProgramme makes a draft the next version.
func (s *Server) IssueProgramme(ctx context.Context, r gen.IssueProgrammeRequestObject) (gen.IssueProgrammeResponseObject, error) {
	v, err := s.app.Issue(ctx, actor(ctx), r.ProgrammeId.String(), r.Body.Revision, orZero(r.Body.Note))
	if err != nil {
		return nil, err
	}
	return gen.IssueProgramme200JSONResponse(programmeView(v)), nil
}
