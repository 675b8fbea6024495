package httpapi

import (
	"context"

	"dunnock/internal/app"
	"dunnock/internal/core/athlete"
	"dunnock/internal/core/plan"
	"dunnock/internal/httpapi/gen"
)

func lane(l app.Lane) gen.Lane {
	out := gen.Lane{Screens: l.Screens, Competitions: l.Competitions, Blocks: []gen.LaneBlock{}}
	if out.Screens == nil {
		out.Screens = []gen.Date{}
	}
	for _, p := range l.Blocks() {
		out.Blocks = append(
			out.Blocks,
			gen.LaneBlock{
				Start:       p.StartDate,
				Weeks:       p.Weeks,
				Emphasis:    p.Emphasis,
				Status:      gen.LaneBlockStatus(p.Status),
				Version:     optional(p.Version),
				ProgrammeId: &p.ID,
			},
		)
	}
	for i := range l.Pencilled {
		b := &l.Pencilled[i]
		what := b.For
		if what == "" {
			what = "even mix"
		}
		out.Blocks = append(out.Blocks, gen.LaneBlock{Start: b.Start, Weeks: b.Weeks(), Emphasis: what, Status: gen.LaneBlockStatusPencilled})
	}
	return out
}

// ListAthletes answers the squad board.
func (s *Server) ListAthletes(ctx context.Context, r gen.ListAthletesRequestObject) (gen.ListAthletesResponseObject, error) {
	who := actor(ctx)
	rows, err := s.app.Squad(ctx, who, orZero(r.Params.Archived))
	if err != nil {
		return nil, err
	}
	out := gen.ListAthletes200JSONResponse{Today: s.app.Today(who.Zone), Athletes: make([]gen.SquadRow, len(rows))}
	for i, r := range rows {
		out.Athletes[i] = gen.SquadRow{
			Id:          r.ID,
			Name:        r.Name,
			Age:         r.Age,
			PlayingSide: r.Side,
			Clearance:   gen.SquadRowClearance(r.Clearance),
			Lane:        lane(r.Lane),
			Note:        r.Due.Text,
			Step:        r.Due.Step,
			DueOn:       r.Due.On,
			Groups:      listed(r.Groups),
			Notes:       r.Notes,
			Photo:       optional(r.Photo),
		}
	}
	return out, nil
}

// listed is a list that is there, empty or not.
func listed(v []string) []string {
	if v == nil {
		return []string{}
	}
	return v
}

func golfer(g *app.Golfer) gen.Athlete {
	f := g.Facts
	return gen.Athlete{
		Id: g.ID, Revision: g.Revision, Profile: f.Athlete, Clearance: f.Clearance, Consent: f.Consent, Limits: f.Limits, Training: f.Training,
		Competitions: f.Competitions, School: f.School, OtherSideShare: f.OtherSideShare, StartDate: f.StartDate,
		Situation: f.Situation, Standing: standing(g),
		Age: f.Athlete.BirthDate.YearsOn(f.AsOf), Band: f.Athlete.Band(f.AsOf), Level: int(f.Athlete.Level()), Tier: f.Athlete.Level().Tier(),
		Photo: optional(g.Photo), ArchivedOn: optional(f.ArchivedOn),
		ClearanceStatus: f.ClearanceOn(f.AsOf), Lane: lane(g.Lane), Assumed: plan.Assumptions(&f),
		Path: gen.PathState{Intake: g.Path.Intake, Screen: g.Path.Screen, Force: g.Path.Force, Speed: g.Path.Speed, Read: g.Path.Read, Season: g.Path.Season, Programme: g.Path.Programme, Warmup: g.Path.WarmUp, Floor: g.Path.Floor, Progress: g.Path.Progress},
	}
}

// standing are the limits that pain on tests left in force.
func standing(g *app.Golfer) []gen.StandingLimit {
	out := []gen.StandingLimit{}
	for _, p := range g.Standing {
		l := p.Limit(g.Facts.Tests())
		out = append(out, gen.StandingLimit{Region: p.Region, Side: p.Side, Since: p.Since, MayEnd: !p.Tingling, Text: l.Words() + ": " + l.Note})
	}
	return out
}

// CreateAthlete adds a golfer.
func (s *Server) CreateAthlete(ctx context.Context, r gen.CreateAthleteRequestObject) (gen.CreateAthleteResponseObject, error) {
	g, err := s.app.AddGolfer(ctx, actor(ctx), r.Body.Profile)
	if err != nil {
		return nil, err
	}
	return gen.CreateAthlete201JSONResponse(golfer(g)), nil
}

// GetAthlete answers one golfer.
func (s *Server) GetAthlete(ctx context.Context, r gen.GetAthleteRequestObject) (gen.GetAthleteResponseObject, error) {
	g, err := s.app.Golfer(ctx, actor(ctx), r.AthleteId.String())
	if err != nil {
		return nil, err
	}
	return gen.GetAthlete200JSONResponse(golfer(g)), nil
}

// PutAthlete replaces a golfer's facts.
func (s *Server) PutAthlete(ctx context.Context, r gen.PutAthleteRequestObject) (gen.PutAthleteResponseObject, error) {
	b := r.Body
	f := &athlete.File{Format: athlete.Format, StartDate: b.StartDate, Athlete: b.Profile, Clearance: b.Clearance, Consent: b.Consent,
		Limits: b.Limits, Training: b.Training, Competitions: b.Competitions, School: b.School, OtherSideShare: b.OtherSideShare}
	if b.Situation != nil {
		f.Situation = *b.Situation
	}
	g, err := s.app.SaveGolfer(ctx, actor(ctx), r.AthleteId.String(), b.Revision, f)
	if err != nil {
		return nil, err
	}
	return gen.PutAthlete200JSONResponse(golfer(g)), nil
}

// DeleteAthlete erases a golfer.
func (s *Server) DeleteAthlete(ctx context.Context, r gen.DeleteAthleteRequestObject) (gen.DeleteAthleteResponseObject, error) {
	return gen.DeleteAthlete204Response{}, s.app.EraseGolfer(ctx, actor(ctx), r.AthleteId.String())
}

// ExportAthlete answers one golfer's file.
func (s *Server) ExportAthlete(ctx context.Context, r gen.ExportAthleteRequestObject) (gen.ExportAthleteResponseObject, error) {
	f, err := s.app.Export(ctx, actor(ctx), r.AthleteId.String())
	if err != nil {
		return nil, err
	}
	return gen.ExportAthlete200JSONResponse(*f), nil
}

// GetRead answers what holds club speed back.
func (s *Server) GetRead(ctx context.Context, r gen.GetReadRequestObject) (gen.GetReadResponseObject, error) {
	read, err := s.app.Read(ctx, actor(ctx), r.AthleteId.String(), orZero(r.Params.School))
	if err != nil {
		return nil, err
	}
	return gen.GetRead200JSONResponse(*read), nil
}
