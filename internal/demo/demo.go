// Package demo loads the demo's squad: Skerravoe Links, an invented island club
// getting six golfers ready for an inter-island match. People, numbers and
// stories are made up; dates are laid relative to the day it is loaded. It goes
// through the same use cases a coach does.
package demo

import (
	"context"
	"fmt"

	"dunnock/internal/app"
	"dunnock/internal/core/athlete"
	"dunnock/internal/core/civil"
	"dunnock/internal/core/library"
	"dunnock/internal/core/measure"
)

// The demo's sign-in.
const (
	Email    = "coach@skerravoe.example"
	Password = "links-and-lifts"
	practice = "Skerravoe Links"
	zone     = "Europe/London"
)

// Load makes the demo's practice, golfers and recordings if they are not there.
// With reset it removes what there is first; so it does where an earlier load was
// broken off in the middle.
func Load(ctx context.Context, a *app.App, reset bool) error {
	return load(ctx, a, reset, func(ctx context.Context, a *app.App, who *app.Actor) error {
		if err := loadForce(ctx, a, who); err != nil {
			return err
		}
		if err := loadSwings(ctx, a, who); err != nil {
			return err
		}
		return loadFloor(ctx, a, who)
	})
}

// LoadSquad is Load without recordings and swings, for tests that need none.
func LoadSquad(ctx context.Context, a *app.App, reset bool) error {
	return load(ctx, a, reset, func(context.Context, *app.App, *app.Actor) error { return nil })
}

func load(ctx context.Context, a *app.App, reset bool, measured func(context.Context, *app.App, *app.Actor) error) error {
	who, err := a.DemoUser(ctx, app.Setup{Practice: practice, Zone: zone, Name: "Ansgar Vale", Email: Email, Password: Password, Loading: true})
	if err != nil {
		return fmt.Errorf("make the demo's coach: %w", err)
	}
	if who.Ready && !reset {
		return nil
	}
	if err := a.Loading(ctx, who, false); err != nil {
		return err
	}
	if err := clear(ctx, a, who); err != nil {
		return err
	}
	for _, g := range squad(a.Today(zone)) {
		if err := g.load(ctx, a, who); err != nil {
			return fmt.Errorf("load %s: %w", g.facts.Athlete.Name, err)
		}
	}
	if err := screenDay(ctx, a, who); err != nil {
		return err
	}
	if err := measured(ctx, a, who); err != nil {
		return err
	}
	return a.Loading(ctx, who, true)
}

// clear removes the golfers, the screen days and the classes there are.
func clear(ctx context.Context, a *app.App, who *app.Actor) error {
	rows, err := a.Squad(ctx, who, false)
	if err != nil {
		return err
	}
	for _, r := range rows {
		if err := a.EraseGolfer(ctx, who, r.ID); err != nil {
			return fmt.Errorf("remove %s: %w", r.Name, err)
		}
	}
	if err := a.ClearClasses(ctx, who); err != nil {
		return err
	}
	days, err := a.Days(ctx, who)
	if err != nil {
		return err
	}
	for _, d := range days {
		if err := a.DeleteDay(ctx, who, d.ID); err != nil {
			return fmt.Errorf("remove %s: %w", d.Name, err)
		}
	}
	return nil
}

// screenDay plans the squad's next day at the stations.
func screenDay(ctx context.Context, a *app.App, who *app.Actor) error {
	rows, err := a.Squad(ctx, who, false)
	if err != nil {
		return err
	}
	r := app.DayRequest{Date: a.Today(zone), Name: "Winter screen", Start: "09:30", Set: "usual"}
	for _, g := range rows {
		r.Athletes = append(r.Athletes, g.ID)
	}
	if _, err := a.PlanDay(ctx, who, r, false); err != nil {
		return fmt.Errorf("plan the screen day: %w", err)
	}
	return nil
}

// golfer is one golfer's facts and screens, and how far their programme is.
type golfer struct {
	facts   athlete.File
	screens []screen
	draft   string // school to draft under, or ""
	issue   bool
	past    bool // a block was issued between the last screen and the one before
}

type screen struct {
	daysAgo int
	before  string
	cells   []measure.Cell
}

func (g golfer) load(ctx context.Context, a *app.App, who *app.Actor) error {
	made, err := a.AddGolfer(ctx, who, g.facts.Athlete)
	if err != nil {
		return err
	}
	if _, err := a.SaveGolfer(ctx, who, made.ID, made.Revision, &g.facts); err != nil {
		return err
	}
	today := a.Today(zone)
	for i, s := range g.screens {
		if g.past && i == len(g.screens)-1 {
			if err := earlier(ctx, a, who, made.ID, g.draft); err != nil {
				return err
			}
		}
		sheet, err := a.NewScreen(ctx, who, made.ID, today.Add(-s.daysAgo), nil)
		if err != nil {
			return err
		}
		changes := make([]app.Change, len(s.cells))
		for i, c := range s.cells {
			changes[i] = app.Change{Cell: c}
		}
		if _, err := a.SaveCells(ctx, who, sheet.ID, func(c *athlete.Circumstances) { c.Before = s.before }, changes, 0); err != nil {
			return err
		}
	}
	if g.draft == "" {
		return nil
	}
	v, err := a.Draft(ctx, who, made.ID, app.Wanted{School: g.draft})
	if err != nil || !g.issue {
		return err
	}
	_, err = a.Issue(ctx, who, v.ID, v.Revision, "First block before the match")
	return err
}

// earlier issues a block that began in the last weeks, made from what was screened before.
func earlier(ctx context.Context, a *app.App, who *app.Actor, id, school string) error {
	start := a.Today(zone).Add(-22).Monday()
	v, err := a.Draft(ctx, who, id, app.Wanted{School: school, Start: start})
	if err != nil {
		return err
	}
	_, err = a.Issue(ctx, who, v.ID, v.Revision, "Autumn block")
	return err
}

// born returns the birth date of someone who is the given years and days old.
func born(today civil.Date, years, days int) civil.Date {
	return civil.Of(today.Time().AddDate(-years, 0, -days))
}

// row makes the cells of one test and side from texts as a coach types them.
func row(test, side, unit string, texts ...string) []measure.Cell {
	var out []measure.Cell
	for i, t := range texts {
		out = append(out, measure.Cell{Test: test, Side: side, Trial: i + 1, Text: t, Unit: unit})
	}
	return out
}

func cells(rows ...[]measure.Cell) []measure.Cell {
	var out []measure.Cell
	for _, r := range rows {
		out = append(out, r...)
	}
	return out
}

func base(today civil.Date, p athlete.Profile) athlete.File {
	return athlete.File{
		Athlete: p, School: "measured-gap",
		Clearance: athlete.Clearance{AnsweredOn: today.Add(-12), Yes: []string{}},
		Limits:    []athlete.Limit{},
		Training: athlete.Training{
			Days:         []string{"mon", "wed", "fri"},
			Sessions:     3,
			Minutes:      60,
			Kit:          library.Shipped().Kit(),
			BarKg:        25,
			PlateStepKg:  2.5,
			DumbbellStep: 2,
		},
		Competitions: []athlete.Competition{{Date: today.Add(74), Name: "Inter-island match", Peak: true}},
	}
}
