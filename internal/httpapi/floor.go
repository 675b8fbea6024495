package httpapi

import (
	"bytes"
	"context"
	"io"
	"net/http"
	"time"

	"dunnock/internal/app"
	"dunnock/internal/core/training"
	"dunnock/internal/formats"
	"dunnock/internal/httpapi/gen"
	"dunnock/internal/store"
)

// GetToday answers the day and its week.
func (s *Server) GetToday(ctx context.Context, _ gen.GetTodayRequestObject) (gen.GetTodayResponseObject, error) {
	page, err := s.app.TodayPage(ctx, actor(ctx))
	if err != nil {
		return nil, err
	}
	return gen.GetToday200JSONResponse(*page), nil
}

// GetFloor answers a golfer's sessions.
func (s *Server) GetFloor(ctx context.Context, r gen.GetFloorRequestObject) (gen.GetFloorResponseObject, error) {
	week, err := s.app.FloorWeek(ctx, actor(ctx), r.AthleteId.String())
	if err != nil {
		return nil, err
	}
	return gen.GetFloor200JSONResponse(*week), nil
}

// GetFloorSession answers a session as it is run.
func (s *Server) GetFloorSession(ctx context.Context, r gen.GetFloorSessionRequestObject) (gen.GetFloorSessionResponseObject, error) {
	x, err := s.app.FloorSession(ctx, actor(ctx), r.AthleteId.String(), r.SessionId)
	if err != nil {
		return nil, err
	}
	return gen.GetFloorSession200JSONResponse(*x), nil
}

// EaseSession answers the easier version the day's answers propose.
func (s *Server) EaseSession(ctx context.Context, r gen.EaseSessionRequestObject) (gen.EaseSessionResponseObject, error) {
	x, err := s.app.Ease(ctx, actor(ctx), r.AthleteId.String(), r.SessionId, r.Body)
	if err != nil {
		return nil, err
	}
	return gen.EaseSession200JSONResponse(*x), nil
}

// GetLogHistory answers everything that was noted of a session.
func (s *Server) GetLogHistory(ctx context.Context, r gen.GetLogHistoryRequestObject) (gen.GetLogHistoryResponseObject, error) {
	l, err := s.app.LogHistory(ctx, actor(ctx), r.AthleteId.String(), r.SessionId)
	if err != nil {
		return nil, err
	}
	out := gen.GetLogHistory200JSONResponse{}
	for i := range l.Entries {
		e := &l.Entries[i]
		told := gen.LogTold{Id: e.ID, At: e.At, By: e.By, Device: e.Device, What: string(e.What), Words: training.Words(e)}
		if e.Item != "" {
			item := string(e.Item)
			told.Item, told.Number = &item, optional(e.Number)
		}
		out = append(out, told)
	}
	return out, nil
}

// SaveFloor takes what was noted.
func (s *Server) SaveFloor(ctx context.Context, r gen.SaveFloorRequestObject) (gen.SaveFloorResponseObject, error) {
	sent, _ := time.Parse(time.RFC3339, r.Body.SentAt) // not said: the times are taken as they are
	batch := make([]app.FloorEntries, len(r.Body.Sessions))
	for i, x := range r.Body.Sessions {
		batch[i] = app.FloorEntries{AthleteID: x.AthleteId.String(), Session: x.Session, Entries: x.Entries}
	}
	saved, err := s.app.SaveFloor(ctx, actor(ctx), sent, batch)
	if err != nil {
		return nil, err
	}
	out := gen.SaveFloor200JSONResponse{Refused: saved.Refused, Notes: saved.Notes}
	out.Logs = make([]struct {
		AthleteId string          `json:"athleteId"`
		Log       gen.TrainingLog `json:"log"`
		Session   string          `json:"session"`
	}, len(saved.Logs))
	for i := range saved.Logs {
		out.Logs[i].AthleteId, out.Logs[i].Session, out.Logs[i].Log = saved.Logs[i].AthleteID, saved.Logs[i].Session, *saved.Logs[i].Log
	}
	return out, nil
}

func floorSettings(f store.FloorSettings) gen.FloorSettings {
	return gen.FloorSettings{SmallSteps: f.SmallSteps, RecentDays: f.RecentDays, UsualDays: f.UsualDays}
}

// GetFloorSettings answers how the practice works on the floor.
func (s *Server) GetFloorSettings(ctx context.Context, _ gen.GetFloorSettingsRequestObject) (gen.GetFloorSettingsResponseObject, error) {
	f, err := s.app.FloorSettings(ctx, actor(ctx))
	return gen.GetFloorSettings200JSONResponse(floorSettings(f)), err
}

// SaveFloorSettings keeps how the practice works on the floor.
func (s *Server) SaveFloorSettings(ctx context.Context, r gen.SaveFloorSettingsRequestObject) (gen.SaveFloorSettingsResponseObject, error) {
	f, err := s.app.SaveFloorSettings(ctx, actor(ctx), store.FloorSettings{SmallSteps: r.Body.SmallSteps, RecentDays: r.Body.RecentDays, UsualDays: r.Body.UsualDays})
	return gen.SaveFloorSettings200JSONResponse(floorSettings(f)), err
}

func nextDose(n *app.NextDose) gen.NextDose {
	out := gen.NextDose{Proposals: n.Proposals, Rules: n.Rules, ProgrammeId: n.ProgrammeID, Version: n.Version, SmallSteps: n.SmallSteps}
	out.Answers = make([]struct {
		Accepted bool   `json:"accepted"`
		At       string `json:"at"`
		By       string `json:"by"`
		ByItself bool   `json:"byItself"`
		Proposal string `json:"proposal"`
		Rule     string `json:"rule"`
		Text     string `json:"text"`
	}, len(n.Answers))
	for i, a := range n.Answers {
		x := &out.Answers[i]
		x.Proposal, x.Rule, x.Text, x.Accepted, x.ByItself, x.At, x.By = a.Proposal, a.Rule, a.Text, a.Accepted, a.ByItself, a.At.UTC().Format(time.RFC3339), a.By
	}
	return out
}

// GetNextDose answers what the rules make of what was done.
func (s *Server) GetNextDose(ctx context.Context, r gen.GetNextDoseRequestObject) (gen.GetNextDoseResponseObject, error) {
	n, err := s.app.NextDose(ctx, actor(ctx), r.AthleteId.String())
	if err != nil {
		return nil, err
	}
	return gen.GetNextDose200JSONResponse(nextDose(n)), nil
}

// AnswerNextDose accepts and declines proposals.
func (s *Server) AnswerNextDose(ctx context.Context, r gen.AnswerNextDoseRequestObject) (gen.AnswerNextDoseResponseObject, error) {
	n, err := s.app.AnswerNextDose(ctx, actor(ctx), r.AthleteId.String(), orZero(r.Body.Accept), orZero(r.Body.Decline))
	if err != nil {
		return nil, err
	}
	return gen.AnswerNextDose200JSONResponse(nextDose(n)), nil
}

// AskAgain forgets that a proposal was declined.
func (s *Server) AskAgain(ctx context.Context, r gen.AskAgainRequestObject) (gen.AskAgainResponseObject, error) {
	n, err := s.app.AskAgain(ctx, actor(ctx), r.AthleteId.String(), r.Proposal)
	if err != nil {
		return nil, err
	}
	return gen.AskAgain200JSONResponse(nextDose(n)), nil
}

// GetLoad answers a golfer's load.
func (s *Server) GetLoad(ctx context.Context, r gen.GetLoadRequestObject) (gen.GetLoadResponseObject, error) {
	page, err := s.app.Load(ctx, actor(ctx), r.AthleteId.String())
	if err != nil {
		return nil, err
	}
	return gen.GetLoad200JSONResponse(*page), nil
}

// PlanClass lays out a class.
func (s *Server) PlanClass(ctx context.Context, r gen.PlanClassRequestObject) (gen.PlanClassResponseObject, error) {
	b := r.Body
	q := app.ClassRequest{Date: b.Date, Name: b.Name, Start: orZero(b.Start)}
	q.Ask.Minutes, q.Ask.Coaches, q.Ask.Room = b.Minutes, max(orZero(b.Coaches), 1), orZero(b.Room)
	for _, id := range b.Athletes {
		q.Athletes = append(q.Athletes, id.String())
	}
	c, err := s.app.PlanClass(ctx, actor(ctx), q, orZero(b.Dry))
	if err != nil {
		return nil, err
	}
	return gen.PlanClass200JSONResponse(*c), nil
}

// GetClass answers a class.
func (s *Server) GetClass(ctx context.Context, r gen.GetClassRequestObject) (gen.GetClassResponseObject, error) {
	c, err := s.app.Class(ctx, actor(ctx), r.ClassId.String())
	if err != nil {
		return nil, err
	}
	return gen.GetClass200JSONResponse(*c), nil
}

// RunClass starts or stops a class's clock.
func (s *Server) RunClass(ctx context.Context, r gen.RunClassRequestObject) (gen.RunClassResponseObject, error) {
	c, err := s.app.RunClass(ctx, actor(ctx), r.ClassId.String(), r.Body.Running)
	if err != nil {
		return nil, err
	}
	return gen.RunClass200JSONResponse(*c), nil
}

// DeleteClass removes a class.
func (s *Server) DeleteClass(ctx context.Context, r gen.DeleteClassRequestObject) (gen.DeleteClassResponseObject, error) {
	return gen.DeleteClass204Response{}, s.app.DeleteClass(ctx, actor(ctx), r.ClassId.String())
}

// ImportLogs reads a file of logs.
func (s *Server) ImportLogs(ctx context.Context, r gen.ImportLogsRequestObject) (gen.ImportLogsResponseObject, error) {
	b, err := io.ReadAll(r.Body)
	if err != nil {
		return nil, err
	}
	got, err := s.app.ImportLogs(ctx, actor(ctx), r.AthleteId.String(), b, orZero(r.Params.Commit))
	if err != nil {
		return nil, err
	}
	return gen.ImportLogs200JSONResponse(*got), nil
}

// TakeBackLogs takes back what a file brought.
func (s *Server) TakeBackLogs(ctx context.Context, r gen.TakeBackLogsRequestObject) (gen.TakeBackLogsResponseObject, error) {
	return gen.TakeBackLogs204Response{}, s.app.TakeBackLogs(ctx, actor(ctx), r.AthleteId.String(), r.Body.Sessions)
}

// logsJSON writes the file as it is: the generated answer would read it first.
type logsJSON struct {
	body *bytes.Buffer
	name *string
}

// VisitExportLogsResponse writes the answer.
func (e logsJSON) VisitExportLogsResponse(w http.ResponseWriter) error {
	w.Header().Set("Content-Type", "application/json")
	w.Header().Set("Content-Disposition", *e.name)
	_, err := e.body.WriteTo(w)
	return err
}

// ExportLogs answers one golfer's logs.
func (s *Server) ExportLogs(ctx context.Context, r gen.ExportLogsRequestObject) (gen.ExportLogsResponseObject, error) {
	list, name, err := s.app.Logs(ctx, actor(ctx), r.AthleteId.String())
	if err != nil {
		return nil, err
	}
	var b bytes.Buffer
	on := s.app.Today(actor(ctx).Zone)
	file := attachment("logs", name, on.String(), string(r.Format))
	h := gen.ExportLogs200ResponseHeaders{ContentDisposition: file}
	switch r.Format {
	case "csv":
		err = formats.WriteLogsCSV(&b, list)
		return gen.ExportLogs200TextcsvResponse{Body: &b, Headers: h, ContentLength: int64(b.Len())}, err
	case "xlsx":
		err = formats.WriteLogsXLSX(&b, list)
		return gen.ExportLogs200ApplicationvndOpenxmlformatsOfficedocumentSpreadsheetmlSheetResponse{Body: &b, Headers: h, ContentLength: int64(b.Len())}, err
	}
	err = formats.WriteJSON(&b, formats.LogFile{Format: formats.LogFormat, Golfer: name, Sessions: list})
	return logsJSON{&b, file}, err
}
