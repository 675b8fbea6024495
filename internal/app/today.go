package app

import (
	"cmp"
	"context"
	"slices"
	"strings"

	"dunnock/internal/core/athlete"
	"dunnock/internal/core/civil"
	"dunnock/internal/core/programme"
	"dunnock/internal/core/programme/derive"
	"dunnock/internal/core/progress"
	"dunnock/internal/store"
)

// outline is a session of an issued version, in short.
type outline struct {
	Session string
	Kind    string
	Title   string
	Letter  string
	Date    civil.Date
	Minutes float64
	Items   []string
}

// keptOutlines bounds how many versions are kept in short: an issued version never changes.
const keptOutlines = 2000

// outlineOf is a version in short.
func (a *App) outlineOf(ctx context.Context, p *store.Practice, id string) ([]outline, error) {
	if got, ok := a.outlines.Get(id); ok {
		return got, nil
	}
	prog, err := p.Programme(ctx, id)
	if err != nil {
		return nil, err
	}
	out := []outline{}
	name := func(items []programme.Item) []string {
		list := []string{}
		for i := range items {
			if e, ok := a.method.Exercises.Find(items[i].Exercise); ok {
				list = append(list, e.Name)
			}
		}
		return list
	}
	for bi := range prog.Doc.Blocks {
		for wi := range prog.Doc.Blocks[bi].Weeks {
			w := &prog.Doc.Blocks[bi].Weeks[wi]
			for si := range w.Sessions {
				s := &w.Sessions[si]
				if len(s.Items) > 0 {
					out = append(out, outline{string(s.ID), store.LogPlanned, s.Title, string(s.Letter), s.Date, derive.Seconds(s, a.method.Exercises) / 60, name(s.Items)})
				}
			}
			for hi := range w.Home {
				if h := &w.Home[hi]; len(h.Items) > 0 {
					out = append(out, outline{string(h.ID), store.LogHome, "Home work", "", h.Date, 0, name(h.Items)})
				}
			}
			if w.Retest != nil {
				out = append(out, outline{Kind: "retest", Title: w.Retest.Text, Date: w.Retest.Date})
			}
		}
	}
	a.outlines.Add(id, out)
	return out, nil
}

// TodayPage returns who trains, screens, retests and plays today and this week, what is due, and
// what came in.
func (a *App) TodayPage(ctx context.Context, who *Actor) (*TodayPage, error) {
	today := a.Today(who.Zone)
	out := &TodayPage{Date: today, Days: []TodayDay{}, Due: []TodayNote{}, In: []TodayNote{}, Classes: []TodayClass{}}
	monday := today.Monday()
	for i := range 7 {
		out.Days = append(out.Days, TodayDay{Date: monday.Add(i), Sessions: []TodayRow{}, Notes: []TodayNote{}})
	}
	err := a.store.For(who.PracticeID).Snapshot(ctx, func(p *store.Practice) error {
		entries, err := p.Squad(ctx, false)
		if err != nil {
			return err
		}
		logs, err := p.LogHeadsBetween(ctx, monday.Add(-7), today)
		if err != nil {
			return err
		}
		byKey := map[string]*store.SessionLog{}
		for i := range logs {
			byKey[logs[i].AthleteID+"|"+logs[i].Session] = &logs[i]
		}
		names := map[string]string{}
		for i := range entries {
			names[entries[i].ID] = entries[i].Facts.Athlete.Name
			if err := a.golferToday(ctx, who, p, &entries[i], byKey, out); err != nil {
				return err
			}
		}
		if err := a.squadToday(ctx, p, out); err != nil {
			return err
		}
		lately, err := p.LogsBetween(ctx, today.Add(-inDays), today)
		if err != nil {
			return err
		}
		a.cameIn(out, lately, names)
		waiting, err := p.DosesWaiting(ctx)
		for _, w := range waiting {
			out.Due = append(out.Due, TodayNote{AthleteID: w.AthleteID, Name: names[w.AthleteID], Date: today, Kind: "dose", Text: w.Text})
		}
		return err
	})
	for i := range out.Days {
		slices.SortStableFunc(out.Days[i].Sessions, func(x, y TodayRow) int {
			return cmp.Or(cmp.Compare(x.StartsAt, y.StartsAt), cmp.Compare(x.Name, y.Name))
		})
	}
	return out, err
}

// golferToday adds what a golfer's week holds.
func (a *App) golferToday(ctx context.Context, who *Actor, p *store.Practice, e *store.SquadEntry, logs map[string]*store.SessionLog, out *TodayPage) error {
	f := a.dress(who, &e.Facts)
	on := func(day civil.Date) *TodayDay {
		if i := day.Sub(out.Days[0].Date); i >= 0 && i < 7 {
			return &out.Days[i]
		}
		return nil
	}
	note := func(day civil.Date, kind, text string) {
		if d := on(day); d != nil {
			d.Notes = append(d.Notes, TodayNote{AthleteID: e.ID, Name: f.Athlete.Name, Date: day, Kind: kind, Text: text})
		}
	}
	for _, v := range trainedBy(e.Programmes) {
		if v.First.After(out.Days[6].Date) || !v.Until.IsZero() && !v.Until.After(out.Days[0].Date) {
			continue
		}
		rows, err := a.outlineOf(ctx, p, v.ID)
		if err != nil {
			return words(err, "programme")
		}
		for _, r := range rows {
			d := on(r.Date)
			l := logs[e.ID+"|"+r.Session]
			if l != nil && l.Log.Trained() && !l.Log.Date.IsZero() {
				d = on(l.Log.Date) // it was trained on another day
			}
			switch {
			case d == nil || !v.Stands(r.Date):
			case r.Kind == "retest":
				note(r.Date, "retest", "")
			default:
				row := SessionRow{Session: r.Session, Kind: r.Kind, Title: r.Title, Letter: r.Letter, Date: d.Date, Minutes: r.Minutes, Items: r.Items}
				if l != nil {
					row.State, row.Effort, row.Done = string(l.Log.State), l.Log.How.Effort, l.Log.How.Words()
				}
				row.Missed = row.State == "" && d.Date.Before(out.Date) && r.Kind == store.LogPlanned
				d.Sessions = append(d.Sessions, TodayRow{AthleteID: e.ID, Name: f.Athlete.Name, StartsAt: f.Training.StartsAt, Row: row})
			}
		}
	}
	for _, c := range athlete.DaysOfPlay(f.Competitions) {
		note(c.Date, "plays", c.Name)
	}
	for _, m := range f.Marks {
		text := m.Kind
		if m.Text != "" {
			text += ": " + m.Text
		}
		note(m.Date, "mark", text)
	}
	l := Lane{Programmes: e.Programmes}
	for _, s := range e.Screens {
		l.Screens = append(l.Screens, s.Date)
	}
	if due := progress.Due(f, l.done()).Text; due != "" && !strings.HasPrefix(due, "On version") { // that one trains
		out.Due = append(out.Due, TodayNote{AthleteID: e.ID, Name: f.Athlete.Name, Date: out.Date, Kind: "due", Text: due})
	}
	return nil
}

// squadToday adds screen days and classes.
func (a *App) squadToday(ctx context.Context, p *store.Practice, out *TodayPage) error {
	days, err := p.ScreenDays(ctx)
	if err != nil {
		return err
	}
	for _, d := range days {
		if i := d.Date.Sub(out.Days[0].Date); i >= 0 && i < 7 {
			out.Days[i].Notes = append(out.Days[i].Notes, TodayNote{Date: d.Date, Kind: "screen", Text: d.Name + ", " + d.Start})
		}
	}
	classes, err := p.Classes(ctx, out.Days[0].Date, out.Days[6].Date)
	for _, c := range classes {
		out.Classes = append(out.Classes, TodayClass{ID: c.ID, Date: c.Date, Name: c.Name, Start: c.Start, Golfers: len(c.Athletes)})
	}
	return err
}

// inDays is how long what came in is told of.
const inDays = 1

// cameIn adds what was logged lately, newest first.
func (a *App) cameIn(out *TodayPage, logs []store.SessionLog, names map[string]string) {
	for i := range slices.Backward(logs) {
		l := &logs[i]
		if !l.Log.Over() {
			continue
		}
		text := l.Title
		if w := l.Log.How.Words(); w != "" {
			text += ": " + w
		}
		out.In = append(out.In, TodayNote{AthleteID: l.AthleteID, Name: names[l.AthleteID], Date: l.Log.Date, Kind: string(l.Log.State), Text: text})
	}
}

// Weeks of sessions the floor lists, back and ahead.
const weeksBack, weeksAhead = 12, 1

// FloorWeek returns a golfer's sessions, so that one opens in a tap.
func (a *App) FloorWeek(ctx context.Context, who *Actor, athleteID string) (*FloorWeek, error) {
	t, err := a.trace(ctx, who, athleteID)
	if err != nil {
		return nil, err
	}
	today, monday := t.file.AsOf, t.file.AsOf.Monday()
	out := &FloorWeek{Date: today, Sessions: t.rows(monday, monday.Add(6+7*weeksAhead)), Past: t.rows(monday.Add(-7*weeksBack), monday.Add(-1))}
	for id, l := range t.logs {
		if l.Kind != store.LogClass && l.Kind != store.LogOther || l.Log.Date.IsZero() {
			continue
		}
		r := SessionRow{Session: id, Kind: l.Kind, Title: l.Title, Date: l.Log.Date, State: string(l.Log.State), Effort: l.Log.How.Effort, Done: l.Log.How.Words(), Items: []string{}}
		if r.Date.Before(monday) {
			out.Past = append(out.Past, r)
		} else {
			out.Sessions = append(out.Sessions, r)
		}
	}
	byDate := func(a, b SessionRow) int { return cmp.Or(a.Date.Sub(b.Date), cmp.Compare(a.Session, b.Session)) }
	slices.SortStableFunc(out.Sessions, byDate)
	slices.SortStableFunc(out.Past, func(a, b SessionRow) int { return -byDate(a, b) })
	return out, nil
}
