package httpapi

import (
	"context"
	"encoding/json"

	"dunnock/internal/app"
	"dunnock/internal/formats"
	"dunnock/internal/httpapi/gen"
)

// GetSpeed answers what a golfer's swings say.
func (s *Server) GetSpeed(ctx context.Context, r gen.GetSpeedRequestObject) (gen.GetSpeedResponseObject, error) {
	p, err := s.app.Speed(ctx, actor(ctx), r.AthleteId.String())
	if err != nil {
		return nil, err
	}
	return gen.GetSpeed200JSONResponse(*p), nil
}

// StartSeries begins a series of swings.
func (s *Server) StartSeries(ctx context.Context, r gen.StartSeriesRequestObject) (gen.StartSeriesResponseObject, error) {
	n := app.NewSeries{
		Kind: string(r.Body.Kind), Date: orZero(r.Body.Date), Before: orZero(r.Body.Before), Raised: orZero(r.Body.Raised), Note: orZero(r.Body.Note), Swings: orZero(r.Body.Swings),
	}
	if r.Body.Id != nil {
		n.ID = r.Body.Id.String()
	}
	if r.Body.Trial != nil {
		n.Trial = r.Body.Trial.String()
	}
	n.Felt, n.InTrial = orZero(r.Body.Felt), r.Body.InTrial
	v, err := s.app.StartSeries(ctx, actor(ctx), r.AthleteId.String(), n)
	if err != nil {
		return nil, err
	}
	return gen.StartSeries200JSONResponse(*v), nil
}

// StartTrial begins a comparison of two warm-ups.
func (s *Server) StartTrial(ctx context.Context, r gen.StartTrialRequestObject) (gen.StartTrialResponseObject, error) {
	p, err := s.app.StartTrial(ctx, actor(ctx), r.AthleteId.String(), r.Body.A, r.Body.B, string(r.Body.Way))
	if err != nil {
		return nil, err
	}
	return gen.StartTrial200JSONResponse(*p), nil
}

// RemoveTrial removes a comparison with its series.
func (s *Server) RemoveTrial(ctx context.Context, r gen.RemoveTrialRequestObject) (gen.RemoveTrialResponseObject, error) {
	return gen.RemoveTrial204Response{}, s.app.RemoveTrial(ctx, actor(ctx), r.TrialId.String())
}

// ReadSwingFile reads a file of swings.
func (s *Server) ReadSwingFile(ctx context.Context, r gen.ReadSwingFileRequestObject) (gen.ReadSwingFileResponseObject, error) {
	var columns []formats.SwingColumn
	if text := orZero(r.Params.Columns); text != "" {
		if err := json.Unmarshal([]byte(text), &columns); err != nil {
			return nil, &app.Error{Kind: app.Invalid, Text: "What the columns hold is no JSON: " + err.Error()}
		}
	}
	f, err := s.app.ReadSwingFile(ctx, actor(ctx), r.Body, columns)
	if err != nil {
		return nil, err
	}
	return gen.ReadSwingFile200JSONResponse(*f), nil
}

// NoteSeries changes what is written beside a series.
func (s *Server) NoteSeries(ctx context.Context, r gen.NoteSeriesRequestObject) (gen.NoteSeriesResponseObject, error) {
	v, err := s.app.NoteSeries(ctx, actor(ctx), r.SeriesId.String(), r.Body.Before, r.Body.Note)
	if err != nil {
		return nil, err
	}
	return gen.NoteSeries200JSONResponse(*v), nil
}

// RemoveSeries removes a series and answers it.
func (s *Server) RemoveSeries(ctx context.Context, r gen.RemoveSeriesRequestObject) (gen.RemoveSeriesResponseObject, error) {
	v, err := s.app.RemoveSeries(ctx, actor(ctx), r.SeriesId.String())
	if err != nil {
		return nil, err
	}
	return gen.RemoveSeries200JSONResponse(*v), nil
}

// SaveSwings adds or changes swings.
func (s *Server) SaveSwings(ctx context.Context, r gen.SaveSwingsRequestObject) (gen.SaveSwingsResponseObject, error) {
	v, err := s.app.SaveSwings(ctx, actor(ctx), r.SeriesId.String(), r.Body.Swings)
	if err != nil {
		return nil, err
	}
	return gen.SaveSwings200JSONResponse(*v), nil
}

// SeriesToScreen puts a series into the screen of its day.
func (s *Server) SeriesToScreen(ctx context.Context, r gen.SeriesToScreenRequestObject) (gen.SeriesToScreenResponseObject, error) {
	filled, left, err := s.app.SeriesToScreen(ctx, actor(ctx), r.SeriesId.String())
	if err != nil {
		return nil, err
	}
	return gen.SeriesToScreen200JSONResponse{Filled: filled, Left: left}, nil
}

// GetImplements answers what the practice owns to swing.
func (s *Server) GetImplements(ctx context.Context, _ gen.GetImplementsRequestObject) (gen.GetImplementsResponseObject, error) {
	list, err := s.app.PracticeImplements(ctx, actor(ctx))
	if err != nil {
		return nil, err
	}
	return gen.GetImplements200JSONResponse(list), nil
}

// GetGolfersImplements answers what a golfer owns to swing.
func (s *Server) GetGolfersImplements(ctx context.Context, r gen.GetGolfersImplementsRequestObject) (gen.GetGolfersImplementsResponseObject, error) {
	list, err := s.app.GolfersImplements(ctx, actor(ctx), r.AthleteId.String())
	if err != nil {
		return nil, err
	}
	return gen.GetGolfersImplements200JSONResponse(list), nil
}

// ChangeGolfersImplements changes what a golfer owns to swing.
func (s *Server) ChangeGolfersImplements(ctx context.Context, r gen.ChangeGolfersImplementsRequestObject) (gen.ChangeGolfersImplementsResponseObject, error) {
	return gen.ChangeGolfersImplements204Response{}, s.app.ChangeGolfersImplements(ctx, actor(ctx), r.AthleteId.String(), implementChanges(r.Body))
}

// ChangeImplements changes what the practice owns to swing.
func (s *Server) ChangeImplements(ctx context.Context, r gen.ChangeImplementsRequestObject) (gen.ChangeImplementsResponseObject, error) {
	return gen.ChangeImplements204Response{}, s.app.ChangeImplements(ctx, actor(ctx), implementChanges(r.Body))
}

func implementChanges(c *gen.ImplementChanges) app.ImplementChanges {
	return app.ImplementChanges{Save: orZero(c.Save), Remove: orZero(c.Remove)}
}
