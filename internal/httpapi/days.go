package httpapi

import (
	"context"

	"dunnock/internal/app"
	"dunnock/internal/core/quality"
	"dunnock/internal/httpapi/gen"
)

// GetStations answers the stations of a battery.
func (s *Server) GetStations(ctx context.Context, r gen.GetStationsRequestObject) (gen.GetStationsResponseObject, error) {
	list, err := s.app.StationsOf(ctx, actor(ctx), orZero(r.Params.Set))
	return gen.GetStations200JSONResponse(list), err
}

// ListDays answers the practice's screen days.
func (s *Server) ListDays(ctx context.Context, _ gen.ListDaysRequestObject) (gen.ListDaysResponseObject, error) {
	days, err := s.app.Days(ctx, actor(ctx))
	if err != nil {
		return nil, err
	}
	out := make(gen.ListDays200JSONResponse, len(days))
	for i, d := range days {
		out[i] = gen.DayRow{Id: d.ID, Date: d.Date, Name: d.Name, Golfers: len(d.Athletes), Stations: len(d.Stations)}
	}
	return out, nil
}

func dayView(d *app.Day) gen.Day {
	out := gen.Day{Id: d.ID, Date: d.Date, Name: d.Name, Start: d.Start, Stations: d.Stations, Plan: *d.Plan, Golfers: make([]gen.DayGolfer, len(d.Golfers))}
	for i, g := range d.Golfers {
		out.Golfers[i] = dayGolfer(g)
	}
	return out
}

func dayGolfer(g app.DayGolfer) gen.DayGolfer {
	return gen.DayGolfer{Id: g.ID, Name: g.Name, Plays: optional(gen.DayGolferPlays(g.Plays)), Junior: g.Junior, MayExert: g.MayExert, Clearance: g.Clearance}
}

// PlanDay plans a screen day.
func (s *Server) PlanDay(ctx context.Context, r gen.PlanDayRequestObject) (gen.PlanDayResponseObject, error) {
	b := r.Body
	q := app.DayRequest{Date: b.Date, Name: b.Name, Start: b.Start, Set: orZero(b.Set), Stations: orZero(b.Stations)}
	for _, id := range b.Athletes {
		q.Athletes = append(q.Athletes, id.String())
	}
	d, err := s.app.PlanDay(ctx, actor(ctx), q, orZero(b.Dry))
	if err != nil {
		return nil, err
	}
	return gen.PlanDay200JSONResponse(dayView(d)), nil
}

// GetDay answers one screen day.
func (s *Server) GetDay(ctx context.Context, r gen.GetDayRequestObject) (gen.GetDayResponseObject, error) {
	d, err := s.app.Day(ctx, actor(ctx), r.DayId.String())
	if err != nil {
		return nil, err
	}
	return gen.GetDay200JSONResponse(dayView(d)), nil
}

// DeleteDay removes a screen day.
func (s *Server) DeleteDay(ctx context.Context, r gen.DeleteDayRequestObject) (gen.DeleteDayResponseObject, error) {
	return gen.DeleteDay204Response{}, s.app.DeleteDay(ctx, actor(ctx), r.DayId.String())
}

// GetStation answers the golfers at one station.
func (s *Server) GetStation(ctx context.Context, r gen.GetStationRequestObject) (gen.GetStationResponseObject, error) {
	who := actor(ctx)
	d, rows, tests, err := s.app.Station(ctx, who, r.DayId.String(), r.Station)
	if err != nil {
		return nil, err
	}
	out := gen.GetStation200JSONResponse{Day: dayView(d), Station: r.Station, Rows: make([]gen.StationRow, len(rows))}
	for i, x := range rows {
		row := gen.StationRow{Golfer: dayGolfer(x.Golfer), Start: x.Start, Trials: []gen.Trial{}, Tests: x.Tests, Variants: x.Variants}
		if row.Tests == nil {
			row.Tests = []quality.TestRead{}
		}
		if x.Screen != nil {
			row.Trials = trials(who, tests, x.Screen)
		}
		out.Rows[i] = row
	}
	return out, nil
}

// PatchDayGolfer saves cells of one golfer at a station.
func (s *Server) PatchDayGolfer(ctx context.Context, r gen.PatchDayGolferRequestObject) (gen.PatchDayGolferResponseObject, error) {
	x, err := s.app.SaveAtStation(ctx, actor(ctx), r.DayId.String(), r.AthleteId.String(), changes(orZero(r.Body.Cells)))
	if err != nil {
		return nil, err
	}
	return gen.PatchDayGolfer200JSONResponse(sheet(actor(ctx), x)), nil
}
