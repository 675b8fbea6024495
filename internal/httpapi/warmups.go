package httpapi

import (
	"bytes"
	"context"

	"dunnock/internal/app"
	"dunnock/internal/core/warmup"
	"dunnock/internal/formats"
	"dunnock/internal/httpapi/gen"
	"dunnock/internal/store"
)

// BuildWarmUp makes a warm-up.
func (s *Server) BuildWarmUp(ctx context.Context, r gen.BuildWarmUpRequestObject) (gen.BuildWarmUpResponseObject, error) {
	build := func() (*warmup.WarmUp, error) {
		return s.app.BuildWarmUp(ctx, actor(ctx), r.AthleteId.String(), *r.Body)
	}
	if now := orZero(r.Params.Now); now != "" {
		build = func() (*warmup.WarmUp, error) {
			return s.app.BuildLate(ctx, actor(ctx), r.AthleteId.String(), *r.Body, now)
		}
	}
	w, err := build()
	if err != nil {
		return nil, err
	}
	return gen.BuildWarmUp200JSONResponse(*w), nil
}

// JudgeWarmUp judges items as they stand.
func (s *Server) JudgeWarmUp(ctx context.Context, r gen.JudgeWarmUpRequestObject) (gen.JudgeWarmUpResponseObject, error) {
	w, err := s.app.JudgeWarmUp(ctx, actor(ctx), r.AthleteId.String(), r.Body.Request, r.Body.Items, orZero(r.Body.Mend))
	if err != nil {
		return nil, err
	}
	return gen.JudgeWarmUp200JSONResponse(*w), nil
}

// WarmUpAlternatives answers what may stand in a phase.
func (s *Server) WarmUpAlternatives(ctx context.Context, r gen.WarmUpAlternativesRequestObject) (gen.WarmUpAlternativesResponseObject, error) {
	list, err := s.app.WarmUpAlternatives(ctx, actor(ctx), r.AthleteId.String(), r.Body.Request, r.Body.Items, warmup.Phase(r.Body.Phase))
	if err != nil {
		return nil, err
	}
	return gen.WarmUpAlternatives200JSONResponse(list), nil
}

func groupAsk(b *gen.GroupWarmUpAsk) app.GroupAsk {
	out := app.GroupAsk{Request: b.Request, Items: orZero(b.Items), Mend: orZero(b.Mend), Now: orZero(b.Now)}
	for _, id := range b.Athletes {
		out.Athletes = append(out.Athletes, id.String())
	}
	return out
}

// GroupWarmUp makes or judges one for golfers in line.
func (s *Server) GroupWarmUp(ctx context.Context, r gen.GroupWarmUpRequestObject) (gen.GroupWarmUpResponseObject, error) {
	w, err := s.app.GroupWarmUp(ctx, actor(ctx), groupAsk(r.Body))
	if err != nil {
		return nil, err
	}
	return gen.GroupWarmUp200JSONResponse(*w), nil
}

// GroupWarmUpAlternatives answers what may stand in a phase of a group's warm-up.
func (s *Server) GroupWarmUpAlternatives(ctx context.Context, r gen.GroupWarmUpAlternativesRequestObject) (gen.GroupWarmUpAlternativesResponseObject, error) {
	list, err := s.app.GroupAlternatives(ctx, actor(ctx), groupAsk(r.Body), warmup.Phase(r.Params.Phase))
	if err != nil {
		return nil, err
	}
	return gen.GroupWarmUpAlternatives200JSONResponse(list), nil
}

// GroupWarmUpCard answers a group's warm-up as a card.
func (s *Server) GroupWarmUpCard(ctx context.Context, r gen.GroupWarmUpCardRequestObject) (gen.GroupWarmUpCardResponseObject, error) {
	w, names, err := s.app.GroupCard(ctx, actor(ctx), groupAsk(r.Body))
	if err != nil {
		return nil, err
	}
	var b bytes.Buffer
	on := s.app.Today(actor(ctx).Zone)
	if err := formats.WriteWarmUp(&b, names, on, w); err != nil {
		return nil, err
	}
	return gen.GroupWarmUpCard200ApplicationpdfResponse{
		Body: &b, ContentLength: int64(b.Len()), Headers: gen.GroupWarmUpCard200ResponseHeaders{ContentDisposition: attachment("warm-up", "group", on.String(), "pdf")},
	}, nil
}

// SessionWarmUp answers a session's warm-up.
func (s *Server) SessionWarmUp(ctx context.Context, r gen.SessionWarmUpRequestObject) (gen.SessionWarmUpResponseObject, error) {
	w, err := s.app.SessionWarmUp(ctx, actor(ctx), r.ProgrammeId.String(), r.SessionId)
	if err != nil {
		return nil, err
	}
	return gen.SessionWarmUp200JSONResponse(*w), nil
}

// SessionCard answers a session in the golfer's own words.
func (s *Server) SessionCard(ctx context.Context, r gen.SessionCardRequestObject) (gen.SessionCardResponseObject, error) {
	items, err := s.app.SessionCard(ctx, actor(ctx), r.ProgrammeId.String(), r.SessionId)
	if err != nil {
		return nil, err
	}
	return gen.SessionCard200JSONResponse(items), nil
}

func keptWarmUp(w *store.WarmUp) gen.KeptWarmUp {
	return gen.KeptWarmUp{Id: w.ID, Revision: w.Revision, Name: w.Name, Practice: w.AthleteID == "", Request: w.Request, Items: w.Items}
}

// ListWarmUps answers what is kept, and the templates.
func (s *Server) ListWarmUps(ctx context.Context, r gen.ListWarmUpsRequestObject) (gen.ListWarmUpsResponseObject, error) {
	list, err := s.app.WarmUps(ctx, actor(ctx), r.AthleteId.String())
	if err != nil {
		return nil, err
	}
	out := gen.ListWarmUps200JSONResponse{Kept: []gen.KeptWarmUp{}, Templates: warmup.Templates()}
	for i := range list {
		out.Kept = append(out.Kept, keptWarmUp(&list[i]))
	}
	return out, nil
}

// KeepWarmUp stores a warm-up.
func (s *Server) KeepWarmUp(ctx context.Context, r gen.KeepWarmUpRequestObject) (gen.KeepWarmUpResponseObject, error) {
	w := store.WarmUp{AthleteID: r.AthleteId.String(), Name: r.Body.Name, Request: r.Body.Request, Items: r.Body.Items, Revision: orZero(r.Body.Revision)}
	if r.Body.Id != nil {
		w.ID = r.Body.Id.String()
	}
	saved, err := s.app.KeepWarmUp(ctx, actor(ctx), w)
	if err != nil {
		return nil, err
	}
	return gen.KeepWarmUp200JSONResponse(keptWarmUp(saved)), nil
}

// RemoveWarmUp removes a kept warm-up.
func (s *Server) RemoveWarmUp(ctx context.Context, r gen.RemoveWarmUpRequestObject) (gen.RemoveWarmUpResponseObject, error) {
	return gen.RemoveWarmUp204Response{}, s.app.RemoveWarmUp(ctx, actor(ctx), r.WarmupId.String())
}

// WarmUpCard answers a warm-up as a card for the bag.
func (s *Server) WarmUpCard(ctx context.Context, r gen.WarmUpCardRequestObject) (gen.WarmUpCardResponseObject, error) {
	w, name, err := s.app.WarmUpCard(ctx, actor(ctx), r.AthleteId.String(), r.Body.Request, r.Body.Items)
	if err != nil {
		return nil, err
	}
	var b bytes.Buffer
	on := s.app.Today(actor(ctx).Zone)
	if err := formats.WriteWarmUp(&b, name, on, w); err != nil {
		return nil, err
	}
	return gen.WarmUpCard200ApplicationpdfResponse{
		Body: &b, ContentLength: int64(b.Len()), Headers: gen.WarmUpCard200ResponseHeaders{ContentDisposition: attachment("warm-up", name, on.String(), "pdf")},
	}, nil
}

// SessionTimed answers what a clock runs of a session.
func (s *Server) SessionTimed(ctx context.Context, r gen.SessionTimedRequestObject) (gen.SessionTimedResponseObject, error) {
	parts, err := s.app.Timed(ctx, actor(ctx), r.ProgrammeId.String(), r.SessionId)
	if err != nil {
		return nil, err
	}
	return gen.SessionTimed200JSONResponse(parts), nil
}
