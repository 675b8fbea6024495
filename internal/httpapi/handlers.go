package httpapi

import (
	"context"
	"net/http"
	"time"

	"dunnock/internal/app"
	"dunnock/internal/core/athlete"
	"dunnock/internal/core/library"
	"dunnock/internal/core/measure"
	"dunnock/internal/core/plan"
	"dunnock/internal/core/rulebook"
	"dunnock/internal/formats"
	"dunnock/internal/httpapi/gen"
	"dunnock/internal/store"
)

// The largest bodies that files come in.
const (
	maxImport = formats.MaxCSV + 1024
	maxUpload = formats.MaxTable + 1024
)

var _ gen.StrictServerInterface = (*Server)(nil)

// value returns what p points to, or the zero value.
func value[T any](p *T) T {
	if p == nil {
		var zero T
		return zero
	}
	return *p
}

// optional returns a pointer to v, or nil for the zero value.
func optional[T comparable](v T) *T {
	var zero T
	if v == zero {
		return nil
	}
	return &v
}

// GetHealth answers whether the database does.
func (s *Server) GetHealth(ctx context.Context, _ gen.GetHealthRequestObject) (gen.GetHealthResponseObject, error) {
	if err := s.app.Healthy(ctx); err != nil {
		return gen.GetHealthdefaultApplicationProblemPlusJSONResponse{StatusCode: 503, Body: problem(503, "The database does not answer.", nil)}, nil
	}
	return gen.GetHealth200JSONResponse{Status: "ok", Version: s.version}, nil
}

// GetSetup answers whether the first run is still to be done.
func (s *Server) GetSetup(ctx context.Context, _ gen.GetSetupRequestObject) (gen.GetSetupResponseObject, error) {
	needed, err := s.app.SetupNeeded(ctx)
	return gen.GetSetup200JSONResponse{Needed: needed, Demo: optional(s.demo)}, err
}

func (s *Server) session(who *app.Actor) gen.Session {
	return gen.Session{Id: who.UserID, Zone: who.Zone, Name: who.Name, Email: who.Email, Practice: who.Practice, Units: who.Units, Today: s.app.Today(who.Zone)}
}

// signIn ties the browser to a user with a new session token, and leaves it what
// makes it known the next time.
func (s *Server) signIn(ctx context.Context, who *app.Actor, browser string) error {
	if err := s.sessions.RenewToken(ctx); err != nil {
		return err
	}
	s.sessions.Put(ctx, "user", who.UserID)
	if set, ok := ctx.Value(cookieKey{}).(func(*http.Cookie)); ok {
		set(&http.Cookie{Name: knownCookie, Value: browser, Path: Base + "/session", MaxAge: int((180 * 24 * time.Hour).Seconds()), HttpOnly: true, Secure: s.secure, SameSite: http.SameSiteLaxMode})
	}
	return nil
}

// knownCookie is what a browser keeps that signed in before.
const knownCookie = "dunnock_known"

type (
	cookieKey  struct{}
	browserKey struct{}
)

func visitor(ctx context.Context) app.Visitor {
	b, _ := ctx.Value(browserKey{}).(string)
	return app.Visitor{Remote: from(ctx), Browser: b}
}

func from(ctx context.Context) string {
	r, _ := ctx.Value(remoteKey{}).(string)
	return r
}

// PostSetup makes the first practice and coach, and signs the coach in.
func (s *Server) PostSetup(ctx context.Context, r gen.PostSetupRequestObject) (gen.PostSetupResponseObject, error) {
	b := r.Body
	who, browser, err := s.app.FirstRun(ctx, app.Setup{Code: b.Code, Practice: b.Practice, Zone: b.Zone, Name: b.Name, Email: b.Email, Password: b.Password}, visitor(ctx))
	if err != nil {
		return nil, err
	}
	return gen.PostSetup200JSONResponse(s.session(who)), s.signIn(ctx, who, browser)
}

// PostSession signs in.
func (s *Server) PostSession(ctx context.Context, r gen.PostSessionRequestObject) (gen.PostSessionResponseObject, error) {
	who, browser, err := s.app.SignIn(ctx, r.Body.Email, r.Body.Password, visitor(ctx))
	if err != nil {
		return nil, err
	}
	return gen.PostSession200JSONResponse(s.session(who)), s.signIn(ctx, who, browser)
}

// GetSession answers who is signed in.
func (s *Server) GetSession(ctx context.Context, _ gen.GetSessionRequestObject) (gen.GetSessionResponseObject, error) {
	return gen.GetSession200JSONResponse(s.session(actor(ctx))), nil
}

// DeleteSession signs out.
func (s *Server) DeleteSession(ctx context.Context, _ gen.DeleteSessionRequestObject) (gen.DeleteSessionResponseObject, error) {
	return gen.DeleteSession204Response{}, s.sessions.Destroy(ctx)
}

// PutUnits changes the units the practice sees.
func (s *Server) PutUnits(ctx context.Context, r gen.PutUnitsRequestObject) (gen.PutUnitsResponseObject, error) {
	who, err := s.app.SetUnits(ctx, actor(ctx), *r.Body)
	if err != nil {
		return nil, err
	}
	return gen.PutUnits200JSONResponse(s.session(who)), nil
}

// GetMeta answers what the forms are built from.
func (s *Server) GetMeta(ctx context.Context, _ gen.GetMetaRequestObject) (gen.GetMetaResponseObject, error) {
	b, err := s.app.Battery(ctx, actor(ctx))
	if err != nil {
		return nil, err
	}
	m := gen.GetMeta200JSONResponse{
		Tests: b.Tests, Sets: b.Sets, Questions: athlete.Questions(), Regions: measure.Regions(), LimitKinds: athlete.LimitKinds(),
		Kit: s.app.Method().Exercises.Kit(), Exercises: len(s.app.Method().Exercises.All()), PainStops: measure.PainStop,
	}
	for _, x := range library.SlotOrder {
		m.Slots = append(m.Slots, gen.SlotInfo{Id: x, Name: x.Words()})
	}
	for _, x := range s.app.Method().Schools.All() {
		m.Schools = append(m.Schools, gen.SchoolInfo{Id: x.ID, Name: x.Name, Logic: x.Logic})
	}
	return m, nil
}

func lane(l app.Lane) gen.Lane {
	out := gen.Lane{Screens: l.Screens, Competitions: l.Competitions, Blocks: []gen.LaneBlock{}}
	if out.Screens == nil {
		out.Screens = []gen.Date{}
	}
	for _, p := range l.Programmes {
		out.Blocks = append(out.Blocks, gen.LaneBlock{Start: p.StartDate, Weeks: p.Weeks, Emphasis: p.Emphasis, Status: gen.LaneBlockStatus(p.Status), Version: optional(p.Version), ProgrammeId: &p.ID})
	}
	return out
}

// ListAthletes answers the squad board.
func (s *Server) ListAthletes(ctx context.Context, _ gen.ListAthletesRequestObject) (gen.ListAthletesResponseObject, error) {
	who := actor(ctx)
	rows, err := s.app.Squad(ctx, who)
	if err != nil {
		return nil, err
	}
	out := gen.ListAthletes200JSONResponse{Today: s.app.Today(who.Zone), Athletes: make([]gen.SquadRow, len(rows))}
	for i, r := range rows {
		out.Athletes[i] = gen.SquadRow{Id: r.ID, Name: r.Name, Age: r.Age, PlayingSide: r.Side, Clearance: gen.SquadRowClearance(r.Clearance), Lane: lane(r.Lane), Note: r.Note}
	}
	return out, nil
}

func golfer(g *app.Golfer) gen.Athlete {
	f := g.Facts
	return gen.Athlete{
		Id: g.ID, Revision: g.Revision, Profile: f.Athlete, Clearance: f.Clearance, Consent: f.Consent, Limits: f.Limits, Training: f.Training,
		Competitions: f.Competitions, School: f.School, OtherSideShare: f.OtherSideShare, StartDate: f.StartDate,
		Age: f.Athlete.BirthDate.YearsOn(f.AsOf), Band: f.Athlete.Band(f.AsOf), Level: int(f.Athlete.Level()), Tier: f.Athlete.Level().Tier(),
		ClearanceStatus: f.ClearanceOn(f.AsOf), Lane: lane(g.Lane),
		Path: gen.PathState{Intake: g.Path.Intake, Screen: g.Path.Screen, Force: g.Path.Force, Read: g.Path.Read, Programme: g.Path.Programme},
	}
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
	read, err := s.app.Read(ctx, actor(ctx), r.AthleteId.String(), value(r.Params.School))
	if err != nil {
		return nil, err
	}
	return gen.GetRead200JSONResponse(*read), nil
}

// ListScreens answers a golfer's screens.
func (s *Server) ListScreens(ctx context.Context, r gen.ListScreensRequestObject) (gen.ListScreensResponseObject, error) {
	screens, err := s.app.Screens(ctx, actor(ctx), r.AthleteId.String())
	if err != nil {
		return nil, err
	}
	out := make(gen.ListScreens200JSONResponse, len(screens))
	for i, x := range screens {
		out[i] = gen.ScreenRow{Id: x.ID, Date: x.Date, Trials: len(x.Trials)}
	}
	return out, nil
}

func sheet(who *app.Actor, x *app.Sheet) gen.Screen {
	c := x.Circumstances
	var cleared *[]gen.CellPlace
	for _, t := range x.Cleared {
		cleared = new(append(value(cleared), gen.CellPlace{Test: t.Test, Side: optional(string(t.Side)), Trial: t.Number}))
	}
	return gen.Screen{Since: optional(x.Since), Cleared: cleared,
		Id: x.ID, AthleteId: x.AthleteID, Revision: x.Revision, Date: x.Date, Trials: trials(who, x.Battery, &x.Screen), Set: x.Set,
		Circumstances: gen.Circumstances{Before: &c.Before, LastLesson: &c.LastLesson, ClubChange: &c.ClubChange, Intent: (*gen.CircumstancesIntent)(&c.Intent), Tester: &c.Tester, Place: &c.Place, Floor: &c.Floor, Set: &c.Set},
		Tests:         x.Tests, MayExert: x.Clearance.MayExert(), Clearance: x.Clearance.Text, Variants: x.Variants}
}

func trials(who *app.Actor, tests *measure.Battery, s *store.Screen) []gen.Trial {
	out := make([]gen.Trial, len(s.Trials))
	for i, t := range s.Trials {
		out[i] = gen.Trial{Test: t.Test, Side: optional(string(t.Side)), Trial: t.Number, Status: t.Status, Value: t.Value,
			Variant: optional(t.Variant), Pain: optional(t.Pain), Region: optional(t.Region), Note: optional(t.Note), Confirmed: optional(t.Confirmed),
			MassG: optional(t.MassG), GaveOut: optional(t.GaveOut), Tester: optional(t.Tester), Device: optional(t.Device), At: optional(t.At), Rev: optional(s.Revs[t.Key()])}
		if test, ok := tests.Find(t.Test); ok {
			out[i].Text = t.Text(test, who.Units.Shown(test.Unit))
		}
	}
	return out
}

// CreateScreen makes an empty screen.
func (s *Server) CreateScreen(ctx context.Context, r gen.CreateScreenRequestObject) (gen.CreateScreenResponseObject, error) {
	x, err := s.app.NewScreen(ctx, actor(ctx), r.AthleteId.String(), r.Body.Date, r.Body.Set)
	if err != nil {
		return nil, err
	}
	return gen.CreateScreen201JSONResponse(sheet(actor(ctx), x)), nil
}

// GetScreen answers a screen with its results.
func (s *Server) GetScreen(ctx context.Context, r gen.GetScreenRequestObject) (gen.GetScreenResponseObject, error) {
	x, err := s.app.Sheet(ctx, actor(ctx), r.ScreenId.String())
	if err != nil {
		return nil, err
	}
	return gen.GetScreen200JSONResponse(sheet(actor(ctx), x)), nil
}

// changes reads the cells of a request.
func changes(cells []gen.CellChange) []app.Change {
	var out []app.Change
	for _, c := range cells {
		x := app.Change{Cell: measure.Cell{Test: c.Test, Side: value(c.Side), Trial: c.Trial, Text: value(c.Text), Unit: value(c.Unit), Status: string(value(c.Status)),
			Variant: value(c.Variant), Pain: value(c.Pain), Region: value(c.Region), Note: value(c.Note), Confirmed: value(c.Confirmed), GaveOut: string(value(c.GaveOut)), Device: value(c.Device), DecimalComma: true},
			Seen: c.Seen}
		x.Clear = x.Text == "" && x.Status == ""
		out = append(out, x)
	}
	return out
}

// circumstances changes what is given and leaves the rest.
func circumstances(c *gen.Circumstances) func(*athlete.Circumstances) {
	if c == nil {
		return nil
	}
	return func(into *athlete.Circumstances) {
		set(&into.Before, c.Before)
		set(&into.LastLesson, c.LastLesson)
		set(&into.ClubChange, c.ClubChange)
		set(&into.Intent, (*string)(c.Intent))
		set(&into.Tester, c.Tester)
		set(&into.Place, c.Place)
		set(&into.Floor, c.Floor)
		set(&into.Set, c.Set)
	}
}

func set[T any](into, from *T) {
	if from != nil {
		*into = *from
	}
}

// PatchScreen saves cells.
func (s *Server) PatchScreen(ctx context.Context, r gen.PatchScreenRequestObject) (gen.PatchScreenResponseObject, error) {
	x, err := s.app.SaveCells(ctx, actor(ctx), r.ScreenId.String(), circumstances(r.Body.Circumstances), changes(value(r.Body.Cells)), value(r.Body.Held))
	if err != nil {
		return nil, err
	}
	return gen.PatchScreen200JSONResponse(sheet(actor(ctx), x)), nil
}

// DeleteScreen removes a screen.
func (s *Server) DeleteScreen(ctx context.Context, r gen.DeleteScreenRequestObject) (gen.DeleteScreenResponseObject, error) {
	return gen.DeleteScreen204Response{}, s.app.DeleteScreen(ctx, actor(ctx), r.ScreenId.String())
}

// ImportScreens reads, and with commit saves, a CSV.
func (s *Server) ImportScreens(ctx context.Context, r gen.ImportScreensRequestObject) (gen.ImportScreensResponseObject, error) {
	got, saved, err := s.app.ImportTrials(ctx, actor(ctx), r.AthleteId.String(), r.Body, value(r.Params.Commit), value(r.Params.Confirm))
	if err != nil {
		return nil, err
	}
	out := gen.ImportScreens200JSONResponse{Rows: got.Rows, Saved: saved, Errors: []gen.ImportError{}}
	for _, e := range got.Errors {
		out.Errors = append(out.Errors, gen.ImportError{Row: e.Row, Column: e.Column, Detail: e.Text, Unlikely: optional(e.Unlikely)})
	}
	out.Screens = make([]gen.ImportedScreen, len(got.Screens))
	for i, x := range got.Screens {
		out.Screens[i] = gen.ImportedScreen{Date: x.Date, Trials: len(x.Trials)}
	}
	return out, nil
}

// ListProgrammes answers a golfer's draft and versions.
func (s *Server) ListProgrammes(ctx context.Context, r gen.ListProgrammesRequestObject) (gen.ListProgrammesResponseObject, error) {
	list, err := s.app.Programmes(ctx, actor(ctx), r.AthleteId.String())
	if err != nil {
		return nil, err
	}
	out := make(gen.ListProgrammes200JSONResponse, len(list))
	for i, p := range list {
		out[i] = gen.ProgrammeRow{Id: p.ID, Status: gen.ProgrammeRowStatus(p.Status), Version: p.Version, School: p.School, StartDate: p.StartDate, Emphasis: p.Emphasis, Note: optional(p.Note)}
		if !p.IssuedOn.IsZero() {
			out[i].IssuedOn = &p.IssuedOn
		}
	}
	return out, nil
}

func programmeView(v *app.ProgrammeView) gen.ProgrammeView {
	out := gen.ProgrammeView{Id: v.ID, AthleteId: v.AthleteID, Status: gen.ProgrammeViewStatus(v.Status), Version: v.Version, Revision: v.Revision, LoadStepKg: v.LoadStepKg,
		Programme: *v.View, Rules: v.Rules, Undo: v.Undo, Redo: v.Redo, Note: optional(v.Note), MadeBy: optional(v.MadeBy)}
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
	v, err := s.app.Draft(ctx, actor(ctx), r.AthleteId.String(), value(r.Body.School), value(r.Body.StartDate), base)
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
	list, err := s.app.Alternatives(ctx, actor(ctx), r.ProgrammeId.String(), r.Params.At, value(r.Params.Slot))
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
	v, err := s.app.Issue(ctx, actor(ctx), r.ProgrammeId.String(), r.Body.Revision, value(r.Body.Note))
	if err != nil {
		return nil, err
	}
	return gen.IssueProgramme200JSONResponse(programmeView(v)), nil
}
