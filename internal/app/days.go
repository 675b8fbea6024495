package app

import (
	"context"
	"fmt"
	"math"
	"slices"
	"strings"

	"dunnock/internal/core/athlete"
	"dunnock/internal/core/civil"
	"dunnock/internal/core/measure"
	"dunnock/internal/core/quality"
	"dunnock/internal/core/rotation"
	"dunnock/internal/store"
)

// DayRequest is a screen day to be planned.
type DayRequest struct {
	Date     civil.Date
	Name     string
	Start    string // 15:04
	Athletes []string
	Set      string // battery whose tests make the stations, when Stations is empty
	Stations []rotation.TestStation
}

// Day is a screen day with its golfers.
type Day struct {
	store.ScreenDay
	Golfers []DayGolfer
}

// DayGolfer is one golfer of a day.
type DayGolfer struct {
	ID        string
	Name      string
	Junior    bool
	MayExert  bool
	Clearance string
	Plays     string // the side the golfer plays from
	gone      bool
}

// StationsOf gathers the tests of a battery into stations: one for each heading,
// with the minutes of its tests and the tiring of the most tiring one.
func (a *App) StationsOf(ctx context.Context, who *Actor, set string) ([]rotation.TestStation, error) {
	b, err := a.battery(ctx, who)
	if err != nil {
		return nil, err
	}
	return stations(b.tests, b.setOf(set)), nil
}

func stations(tests *measure.Battery, ids []string) []rotation.TestStation {
	var out []rotation.TestStation
	minutes := map[string]float64{}
	for i := range tests.Tests() {
		t := &tests.Tests()[i]
		if !slices.Contains(ids, t.ID) {
			continue
		}
		k := slices.IndexFunc(out, func(s rotation.TestStation) bool { return s.Name == t.Group })
		if k < 0 {
			k = len(out)
			out = append(out, rotation.TestStation{Station: rotation.Station{Name: t.Group, Places: 1}})
		}
		out[k].Tests = append(out[k].Tests, t.ID)
		out[k].Tiring = max(out[k].Tiring, t.Tiring)
		minutes[t.Group] += max(t.Minutes, 0.5)
	}
	for i := range out {
		out[i].Minutes = max(1, int(math.Ceil(minutes[out[i].Name])))
	}
	return out
}

// PlanDay plans a screen day, and stores it unless dry.
func (a *App) PlanDay(ctx context.Context, who *Actor, r DayRequest, dry bool) (*Day, error) {
	p := a.store.For(who.PracticeID)
	b, err := a.battery(ctx, who)
	if err != nil {
		return nil, err
	}
	if len(r.Stations) == 0 {
		r.Stations = stations(b.tests, b.setOf(r.Set))
	}
	if text := badRequest(r, b.tests, a.Today(who.Zone)); text != "" {
		return nil, invalid("day", "%s", text)
	}
	d := &Day{ScreenDay: store.ScreenDay{Date: r.Date, Name: strings.TrimSpace(r.Name), Start: r.Start, Stations: r.Stations, Athletes: r.Athletes}}
	if err := a.golfersOf(ctx, who, p, d); err != nil {
		return nil, err
	}
	for i, g := range d.Golfers {
		if g.gone {
			return nil, &Error{
				Kind:   NotFound,
				Text:   fmt.Sprintf("Golfer %d of the list is not there: they may have been removed.", i+1),
				Fields: []Field{{Name: fmt.Sprintf("athletes[%d]", i), Text: "this golfer is not there"}},
			}
		}
	}
	skips := map[int][]int{}
	plain := make([]rotation.Station, len(r.Stations))
	for s := range r.Stations {
		plain[s] = r.Stations[s].Station
		// Who is not cleared leaves out the stations where every test costs effort.
		if slices.ContainsFunc(r.Stations[s].Tests, func(id string) bool { t, ok := b.tests.Find(id); return ok && !t.Exertion }) {
			continue
		}
		for g := range d.Golfers {
			if !d.Golfers[g].MayExert {
				skips[g] = append(skips[g], s)
			}
		}
	}
	if d.Plan, err = rotation.Make(len(r.Athletes), plain, skips); err != nil {
		return nil, invalid("day", "%s", strings.TrimPrefix(err.Error(), "rotation: cannot be planned: "))
	}
	if dry {
		return d, nil
	}
	d.ID, err = p.CreateScreenDay(ctx, &d.ScreenDay)
	return d, words(err, "golfer of the list")
}

func badRequest(r DayRequest, tests *measure.Battery, today civil.Date) string {
	switch {
	case r.Date.IsZero():
		return "Say on which day."
	case today.Sub(r.Date) > 366:
		return "The day lies more than a year back."
	case strings.TrimSpace(r.Name) == "":
		return "Give the day a name."
	case len(r.Athletes) == 0:
		return "Choose at least one golfer."
	}
	seen := map[string]bool{}
	for _, s := range r.Stations {
		if strings.TrimSpace(s.Name) == "" || len(s.Tests) == 0 {
			return "Each station needs a name and at least one test."
		}
		for _, id := range s.Tests {
			if t, ok := tests.Find(id); !ok || t.Rule == measure.Derived || seen[id] {
				return fmt.Sprintf("Test %q is not there, or stands at two stations.", id)
			}
			seen[id] = true
		}
	}
	for i, id := range r.Athletes {
		if slices.Index(r.Athletes, id) != i {
			return "A golfer stands twice in the list."
		}
	}
	return ""
}

func (a *App) golfersOf(ctx context.Context, who *Actor, p *store.Practice, d *Day) error {
	there, err := p.Heads(ctx, d.Athletes)
	if err != nil {
		return err
	}
	d.Golfers = make([]DayGolfer, len(d.Athletes))
	for i, id := range d.Athletes {
		got, ok := there[id]
		if !ok {
			// Erased since: the place in the plan stays, without a name.
			d.Golfers[i] = DayGolfer{ID: id, Name: "(erased)", gone: true}
			continue
		}
		f := a.dress(who, &got.Facts)
		c := f.ClearanceOn(f.AsOf)
		d.Golfers[i] = DayGolfer{ID: id, Name: f.Athlete.Name, Junior: f.Athlete.Junior(d.Date), Plays: f.Athlete.PlayingSide, MayExert: c.MayExert(), Clearance: c.Text}
	}
	return nil
}

// Days returns the practice's screen days, newest first.
func (a *App) Days(ctx context.Context, who *Actor) ([]store.ScreenDay, error) {
	return a.store.For(who.PracticeID).ScreenDays(ctx)
}

// Day returns one screen day.
func (a *App) Day(ctx context.Context, who *Actor, id string) (d *Day, err error) {
	err = a.store.For(who.PracticeID).Snapshot(ctx, func(p *store.Practice) error {
		d, err = a.day(ctx, who, p, id)
		return err
	})
	return d, err
}

func (a *App) day(ctx context.Context, who *Actor, p *store.Practice, id string) (*Day, error) {
	got, err := p.ScreenDay(ctx, id)
	if err != nil {
		return nil, words(err, "screen day")
	}
	d := &Day{ScreenDay: *got}
	return d, a.golfersOf(ctx, who, p, d)
}

// DeleteDay removes a screen day; its screens stay.
func (a *App) DeleteDay(ctx context.Context, who *Actor, id string) error {
	return words(a.store.For(who.PracticeID).DeleteScreenDay(ctx, id), "screen day")
}

// StationRow is one golfer at a station: the screen of the day, which may not be
// there yet, and the results of the station's tests.
type StationRow struct {
	Golfer   DayGolfer
	Start    int // minutes from the start of the day; -1 when the golfer is not planned here
	Screen   *store.Screen
	Tests    []quality.TestRead
	Variants map[string]string
}

// Station returns the golfers of a day at one station, in running order, and the
// battery their trials are of.
func (a *App) Station(ctx context.Context, who *Actor, id string, station int) (*Day, []StationRow, *measure.Battery, error) {
	b, err := a.battery(ctx, who)
	if err != nil {
		return nil, nil, nil, err
	}
	var d *Day
	var screens map[string]store.Screen
	files := map[string]*athlete.File{}
	// The station as it is at one moment, however many golfers: what cannot be read
	// is an error, and only who is not there is gone.
	err = a.store.For(who.PracticeID).Snapshot(ctx, func(p *store.Practice) error {
		if d, err = a.day(ctx, who, p, id); err != nil {
			return err
		}
		if station < 0 || station >= len(d.Stations) {
			return words(store.ErrNotFound, "station")
		}
		if screens, err = p.ScreensOn(ctx, d.Date, d.Athletes); err != nil {
			return err
		}
		ids := []string{}
		for _, g := range d.Golfers {
			if !g.gone {
				ids = append(ids, g.ID)
			}
		}
		got, err := p.FilesOf(ctx, ids, d.Stations[station].Tests)
		for i := range got {
			files[got[i].ID] = &got[i].Facts
		}
		return err
	})
	if err != nil {
		return nil, nil, nil, words(err, "screen day")
	}
	var rows []StationRow
	for g, golfer := range d.Golfers {
		f := files[golfer.ID]
		if f == nil {
			continue
		}
		r, err := a.stationRow(who, d, b, station, g, f, screens)
		if err != nil {
			return nil, nil, nil, err
		}
		rows = append(rows, r)
	}
	slices.SortStableFunc(rows, func(x, y StationRow) int {
		if (x.Start < 0) != (y.Start < 0) {
			return y.Start - x.Start // who is not planned here comes last
		}
		return x.Start - y.Start
	})
	return d, rows, b.tests, nil
}

func (a *App) stationRow(who *Actor, d *Day, b battery, station, g int, f *athlete.File, screens map[string]store.Screen) (StationRow, error) {
	r := StationRow{Golfer: d.Golfers[g], Start: -1, Variants: map[string]string{}}
	for _, s := range d.Plan.Slots {
		if s.Golfer == g && s.Station == station {
			r.Start = s.Start
		}
	}
	f = a.dress(who, f)
	f.Battery = b.changes
	for _, t := range d.Stations[station].Tests {
		test, ok := b.tests.Find(t)
		if !ok {
			continue
		}
		if v := f.Athlete.ReferenceVariant(d.Date)(test); v != "" {
			r.Variants[t] = v
		}
	}
	if s, ok := screens[r.Golfer.ID]; ok {
		r.Screen = &s
	}
	f.AsOf = d.Date
	for _, t := range quality.Tests(f, b.method.SchoolOf(f.School)) {
		switch {
		case t.Date.IsZero() || !slices.Contains(d.Stations[station].Tests, t.Test):
		case t.Date == d.Date:
			r.Tests = append(r.Tests, t)
		default:
			r.Tests = append(r.Tests, history(t)) // what it was last time
		}
	}
	return r, nil
}

// SaveAtStation saves cells of one golfer on the day of a screen day, making the
// golfer's screen of that day when there is none.
func (a *App) SaveAtStation(ctx context.Context, who *Actor, dayID, athleteID string, changes []Change) (*Sheet, error) {
	done, err := a.write(ctx, who, func(p *store.Practice, b battery) (*saved, error) {
		d, err := p.ScreenDay(ctx, dayID)
		if err != nil {
			return nil, words(err, "screen day")
		}
		if !slices.Contains(d.Athletes, athleteID) {
			return nil, words(store.ErrNotFound, "golfer on this day")
		}
		if d.Date.After(a.Today(who.Zone)) {
			return nil, &Error{Kind: Refused, Text: fmt.Sprintf("This day is planned for %s: results are written down on the day.", d.Date.Words())}
		}
		// Two testers may begin at once: the second waits here, and finds the screen.
		if err := p.LockGolfer(ctx, athleteID); err != nil {
			return nil, words(err, "golfer")
		}
		screens, err := p.ScreensOn(ctx, d.Date, []string{athleteID})
		if err != nil {
			return nil, err
		}
		id := screens[athleteID].ID
		if id == "" {
			if id, err = p.CreateScreen(ctx, athleteID, d.Date, athlete.Circumstances{Tester: who.Name, Place: d.Name}); err != nil {
				return nil, words(err, "screen on that day")
			}
		}
		return a.saveCells(ctx, who, p, b, id, nil, changes)
	})
	if err != nil {
		return nil, words(err, "screen")
	}
	return done.sheet(0, changes)
}
