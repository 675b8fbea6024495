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
	if out.Rules == nil {
		out.Rules = []rulebook.Result{}
	}
	return out
}

// DraftProgramme drafts a programme.
func (s *Server) DraftProgramme(ctx context.Context, r gen.DraftProgrammeRequestObject) (gen.DraftProgrammeResponseObject, error) {
	base := ""
	if r.Body.From != nil {
		base = r.Body.From.String()
	}
	v, err := s.app.Draft(ctx, actor(ctx), r.AthleteId.String(), orZero(r.Body.School), orZero(r.Body.StartDate), base)
	if err != nil {
		return nil, err
	}
	return gen.DraftProgramme201JSONResponse(programmeView(v)), nil
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
	v, err := s.app.Edit(ctx, actor(ctx), r.ProgrammeId.String(), r.Body.Revision, r.Body.Edit)
	if err != nil {
		return nil, err
	}
	return gen.EditProgramme200JSONResponse(programmeView(v)), nil
}

// StepProgramme undoes or redoes.
func (s *Server) StepProgramme(ctx context.Context, r gen.StepProgrammeRequestObject) (gen.StepProgrammeResponseObject, error) {
	v, err := s.app.Step(ctx, actor(ctx), r.ProgrammeId.String(), r.Body.Revision, int(r.Body.By))
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
