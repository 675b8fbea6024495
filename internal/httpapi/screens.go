package httpapi

import (
	"context"

	"dunnock/internal/app"
	"dunnock/internal/core/athlete"
	"dunnock/internal/core/measure"
	"dunnock/internal/httpapi/gen"
	"dunnock/internal/store"
)

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
		cleared = new(append(orZero(cleared), gen.CellPlace{Test: t.Test, Side: optional(string(t.Side)), Trial: t.Number}))
	}
	return gen.Screen{Since: optional(x.Since), Cleared: cleared,
		Id: x.ID, AthleteId: x.AthleteID, Revision: x.Revision, Date: x.Date, Trials: trials(who, x.Battery, &x.Screen), Set: x.Set,
		Circumstances: gen.Circumstances{
			Before:     &c.Before,
			LastLesson: &c.LastLesson,
			ClubChange: &c.ClubChange,
			Intent:     (*gen.CircumstancesIntent)(&c.Intent),
			Tester:     &c.Tester,
			Place:      &c.Place,
			Floor:      &c.Floor,
			Set:        &c.Set,
		},
		Tests: x.Tests, MayExert: x.Clearance.MayExert(), Clearance: x.Clearance.Text, Variants: x.Variants}
}

func trials(who *app.Actor, tests *measure.Battery, s *store.Screen) []gen.Trial {
	out := make([]gen.Trial, len(s.Trials))
	for i, t := range s.Trials {
		out[i] = gen.Trial{Test: t.Test, Side: optional(string(t.Side)), Trial: t.Number, Status: t.Status, Value: t.Value,
			Variant: optional(t.Variant), Pain: optional(t.Pain), Region: optional(t.Region), Tingling: optional(t.Tingling), Note: optional(t.Note), Confirmed: optional(t.Confirmed),
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

// LayPaste answers where what was pasted would go.
func (s *Server) LayPaste(ctx context.Context, r gen.LayPasteRequestObject) (gen.LayPasteResponseObject, error) {
	laid, ok, err := s.app.LayPaste(ctx, actor(ctx), r.ScreenId.String(), r.Body.Text)
	if err != nil {
		return nil, err
	}
	out := gen.LayPaste200JSONResponse{Labelled: ok, Lines: make([]gen.LaidLine, len(laid.Lines)), LeftOut: make([]gen.PasteLeftOut, len(laid.LeftOut))}
	for i, l := range laid.Lines {
		out.Lines[i] = gen.LaidLine{Test: l.Test.ID, Name: l.Test.Name, Side: string(l.Side), Label: l.Label, Near: l.Near}
		for _, c := range l.Cells {
			out.Lines[i].Cells = append(out.Lines[i].Cells, gen.LaidCell{Trial: c.Trial, Text: c.Text})
		}
	}
	for i, l := range laid.LeftOut {
		out.LeftOut[i] = gen.PasteLeftOut{Text: l.Text, Why: l.Why}
	}
	return out, nil
}

// changes reads the cells of a request.
func changes(cells []gen.CellChange) []app.Change {
	var out []app.Change
	for _, c := range cells {
		cell := measure.Cell{
			Test: c.Test, Side: orZero(c.Side), Trial: c.Trial, Text: orZero(c.Text), Unit: orZero(c.Unit),
			Status: string(orZero(c.Status)), Variant: orZero(c.Variant), Pain: orZero(c.Pain), Region: orZero(c.Region), Tingling: orZero(c.Tingling),
			Note: orZero(c.Note), Confirmed: orZero(c.Confirmed), GaveOut: string(orZero(c.GaveOut)), Device: orZero(c.Device),
		}
		x := app.Change{Cell: cell, Seen: c.Seen}
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
		replace(&into.Before, c.Before)
		replace(&into.LastLesson, c.LastLesson)
		replace(&into.ClubChange, c.ClubChange)
		replace(&into.Intent, (*string)(c.Intent))
		replace(&into.Tester, c.Tester)
		replace(&into.Place, c.Place)
		replace(&into.Floor, c.Floor)
		replace(&into.Set, c.Set)
	}
}

func replace[T any](into, from *T) {
	if from != nil {
		*into = *from
	}
}

// PatchScreen saves cells.
func (s *Server) PatchScreen(ctx context.Context, r gen.PatchScreenRequestObject) (gen.PatchScreenResponseObject, error) {
	x, err := s.app.SaveCells(ctx, actor(ctx), r.ScreenId.String(), circumstances(r.Body.Circumstances), changes(orZero(r.Body.Cells)), orZero(r.Body.Held))
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
	got, saved, err := s.app.ImportTrials(ctx, actor(ctx), r.AthleteId.String(), r.Body, orZero(r.Params.Commit), orZero(r.Params.Confirm))
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
