package httpapi

import (
	"bytes"
	"context"

	"dunnock/internal/formats"
	"dunnock/internal/httpapi/gen"
)

// GetSeason answers a golfer's season.
func (s *Server) GetSeason(ctx context.Context, r gen.GetSeasonRequestObject) (gen.GetSeasonResponseObject, error) {
	got, err := s.app.Season(ctx, actor(ctx), r.AthleteId.String())
	if err != nil {
		return nil, err
	}
	out := gen.GetSeason200JSONResponse{
		Start: got.Start, End: got.End, Notes: got.Notes, Blocks: []gen.SeasonBlock{}, Kept: got.Kept, Changes: got.Changes, Laid: *got.Season,
	}
	for i := range got.Blocks {
		p := &got.Blocks[i]
		b := gen.SeasonBlock{
			Kind: gen.SeasonBlockKind(p.Kind), Start: p.Start, End: p.End, Rows: []string{}, Phase: gen.SeasonBlockPhase(p.Phase),
			School: p.School, Leads: p.Leads, Builds: p.Builds, Wanted: p.Wanted, Sessions: p.Sessions, Why: p.Why,
		}
		for _, row := range p.Rows {
			b.Rows = append(b.Rows, string(row))
		}
		if p.Peak != nil {
			b.Peak = &p.Peak.Name
		}
		if p.Locked {
			b.Locked = &p.Locked
		}
		if p.Begun {
			b.Begun = &p.Begun
		}
		if !p.Retest.IsZero() {
			b.Retest = &p.Retest
		}
		out.Blocks = append(out.Blocks, b)
	}
	return out, nil
}

// ExportSeason answers a golfer's season on paper.
func (s *Server) ExportSeason(ctx context.Context, r gen.ExportSeasonRequestObject) (gen.ExportSeasonResponseObject, error) {
	got, err := s.app.Season(ctx, actor(ctx), r.AthleteId.String())
	if err != nil {
		return nil, err
	}
	paper := "a4"
	if p := r.Params.Paper; p != nil {
		paper = string(*p)
	}
	var b bytes.Buffer
	err = formats.WriteSeason(&b, &formats.SeasonSheet{
		Golfer: got.Golfer, On: got.On, Season: got.Season, Blocks: got.Blocks, Events: got.Events, Away: got.Away, Marks: got.Marks,
	}, paper)
	h := gen.ExportSeason200ResponseHeaders{ContentDisposition: attachment(got.Golfer, "season", "pdf")}
	return gen.ExportSeason200ApplicationpdfResponse{Body: &b, Headers: h, ContentLength: int64(b.Len())}, err
}

// GetProgress answers what a golfer trained and what became of it.
func (s *Server) GetProgress(ctx context.Context, r gen.GetProgressRequestObject) (gen.GetProgressResponseObject, error) {
	got, err := s.app.Progress(ctx, actor(ctx), r.AthleteId.String())
	if err != nil {
		return nil, err
	}
	out := gen.GetProgress200JSONResponse{Blocks: got.Blocks, Retests: got.Retests}
	out.Speeds = make([]struct {
		Date   gen.Date `json:"date"`
		Mps    float64  `json:"mps"`
		Swings int      `json:"swings"`
	}, len(got.Speeds))
	for i, d := range got.Speeds {
		out.Speeds[i].Date, out.Speeds[i].Mps, out.Speeds[i].Swings = d.Date, d.Mps, d.Swings
	}
	return out, nil
}
