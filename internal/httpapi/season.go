package httpapi

import (
	"context"

	"dunnock/internal/httpapi/gen"
)

// GetSeason answers a golfer's season.
func (s *Server) GetSeason(ctx context.Context, r gen.GetSeasonRequestObject) (gen.GetSeasonResponseObject, error) {
	got, list, err := s.app.Season(ctx, actor(ctx), r.AthleteId.String())
	if err != nil {
		return nil, err
	}
	out := gen.GetSeason200JSONResponse{Start: got.Start, End: got.End, Notes: got.Notes, Blocks: []gen.SeasonBlock{}}
	for i := range list {
		p := &list[i]
		b := gen.SeasonBlock{
			Kind: gen.SeasonBlockKind(p.Kind), Start: p.Start, End: p.End, Rows: []string{}, Phase: gen.SeasonBlockPhase(p.Phase),
			School: p.School, Leads: p.Leads, Builds: p.Builds, Wanted: p.Wanted, Why: p.Why,
		}
		for _, row := range p.Rows {
			b.Rows = append(b.Rows, string(row))
		}
		if p.Peak != nil {
			b.Peak = &p.Peak.Name
		}
		if !p.Retest.IsZero() {
			b.Retest = &p.Retest
		}
		out.Blocks = append(out.Blocks, b)
	}
	return out, nil
}
