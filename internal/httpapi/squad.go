package httpapi

import (
	"bytes"
	"context"
	"strings"

	"dunnock/internal/core/civil"
	"dunnock/internal/formats"
	"dunnock/internal/httpapi/gen"
)

// foundMost is how many golfers a search answers unless fewer are asked for.
const foundMost = 20

// FindGolfers answers golfers by what is typed of their name.
func (s *Server) FindGolfers(ctx context.Context, r gen.FindGolfersRequestObject) (gen.FindGolfersResponseObject, error) {
	who := actor(ctx)
	n := foundMost
	if r.Params.Most != nil {
		n = *r.Params.Most
	}
	found, err := s.app.FindGolfers(ctx, who, orZero(r.Params.Q), n)
	if err != nil {
		return nil, err
	}
	today := s.app.Today(who.Zone)
	out := make(gen.FindGolfers200JSONResponse, len(found))
	for i, h := range found {
		out[i] = gen.GolferHead{Id: h.ID, Name: h.Name, Age: age(h.Birth, today), PlayingSide: h.Side, Archived: optional(h.Archived)}
	}
	return out, nil
}

func age(birth, today civil.Date) int { return birth.YearsOn(today) }

// ArchiveGolfers puts golfers away or back.
func (s *Server) ArchiveGolfers(ctx context.Context, r gen.ArchiveGolfersRequestObject) (gen.ArchiveGolfersResponseObject, error) {
	n, err := s.app.Archive(ctx, actor(ctx), r.Body.Golfers, r.Body.Away)
	if err != nil {
		return nil, err
	}
	return gen.ArchiveGolfers200JSONResponse{Golfers: n}, nil
}

// PrintSquad answers what golfers train by, on paper.
func (s *Server) PrintSquad(ctx context.Context, r gen.PrintSquadRequestObject) (gen.PrintSquadResponseObject, error) {
	who := actor(ctx)
	plans, err := s.app.PlanSheets(ctx, who, r.Params.Golfers)
	if err != nil {
		return nil, err
	}
	paper := "a4"
	if r.Params.Paper != nil {
		paper = string(*r.Params.Paper)
	}
	var b bytes.Buffer
	if err := formats.WritePlans(&b, plans, paper); err != nil {
		return nil, err
	}
	name := "inline" + strings.TrimPrefix(*attachment(who.Practice, "programmes", s.app.Today(who.Zone).String(), "pdf"), "attachment")
	return gen.PrintSquad200ApplicationpdfResponse{Body: &b, ContentLength: int64(b.Len()), Headers: gen.PrintSquad200ResponseHeaders{ContentDisposition: &name}}, nil
}

// GroupGolfers puts golfers into a group or takes them out.
func (s *Server) GroupGolfers(ctx context.Context, r gen.GroupGolfersRequestObject) (gen.GroupGolfersResponseObject, error) {
	n, err := s.app.Group(ctx, actor(ctx), r.Body.Golfers, r.Body.Group, r.Body.In)
	if err != nil {
		return nil, err
	}
	return gen.GroupGolfers200JSONResponse{Golfers: n}, nil
}

// AddAfter makes a golfer with another one's days, kit and competitions.
func (s *Server) AddAfter(ctx context.Context, r gen.AddAfterRequestObject) (gen.AddAfterResponseObject, error) {
	g, err := s.app.After(ctx, actor(ctx), r.AthleteId.String(), r.Body.Profile)
	if err != nil {
		return nil, err
	}
	return gen.AddAfter201JSONResponse(golfer(g)), nil
}

// GetPhoto answers a golfer's portrait. It is asked for by what is in it, so that a
// browser may keep it, for whoever is signed in.
func (s *Server) GetPhoto(ctx context.Context, r gen.GetPhotoRequestObject) (gen.GetPhotoResponseObject, error) {
	b, err := s.app.Photo(ctx, actor(ctx), r.AthleteId.String())
	if err != nil {
		return nil, err
	}
	const kept = "private, max-age=3600"
	return gen.GetPhoto200ImagejpegResponse{Body: bytes.NewReader(b), ContentLength: int64(len(b)), Headers: gen.GetPhoto200ResponseHeaders{CacheControl: ptr(kept), Vary: ptr("Cookie")}}, nil
}

func ptr[T any](v T) *T { return &v }

// SetPhoto keeps a small portrait of a photo.
func (s *Server) SetPhoto(ctx context.Context, r gen.SetPhotoRequestObject) (gen.SetPhotoResponseObject, error) {
	g, err := s.app.SetPhoto(ctx, actor(ctx), r.AthleteId.String(), r.Body)
	if err != nil {
		return nil, err
	}
	return gen.SetPhoto200JSONResponse(golfer(g)), nil
}

// RemovePhoto removes a golfer's photo.
func (s *Server) RemovePhoto(ctx context.Context, r gen.RemovePhotoRequestObject) (gen.RemovePhotoResponseObject, error) {
	g, err := s.app.RemovePhoto(ctx, actor(ctx), r.AthleteId.String())
	if err != nil {
		return nil, err
	}
	return gen.RemovePhoto200JSONResponse(golfer(g)), nil
}
