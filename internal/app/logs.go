package app

import (
	"context"
	"crypto/sha256"
	"encoding/hex"
	"slices"
	"strings"
	"time"

	"dunnock/internal/core/programme"
	"dunnock/internal/core/training"
	"dunnock/internal/formats"
	"dunnock/internal/formats/table"
	"dunnock/internal/store"
)

// fileDevice is the device of entries that a file brought.
const fileDevice = "file"

// Logs returns a golfer's logs as a file holds them, oldest first, and the golfer's name.
func (a *App) Logs(ctx context.Context, who *Actor, athleteID string) ([]formats.LogSession, string, error) {
	t, err := a.trace(ctx, who, athleteID)
	if err != nil {
		return nil, "", err
	}
	p := a.store.For(who.PracticeID)
	classes, err := a.classesOf(ctx, p, athleteID)
	if err != nil {
		return nil, "", err
	}
	list, err := p.SessionLogs(ctx, athleteID, t.file.AsOf.Add(-3*mostLoadDays), t.file.AsOf)
	if err != nil {
		return nil, "", err
	}
	out := []formats.LogSession{}
	for i := range list {
		whole, err := p.SessionLog(ctx, athleteID, list[i].Session)
		if err != nil {
			return nil, "", err
		}
		s := formats.LogSession{Session: whole.Session, Kind: whole.Kind, Title: whole.Title, Date: whole.Log.Date, Entries: whole.Entries, Log: whole.Log, Names: map[string]formats.LogItem{}}
		items := classes[whole.Session]
		if planned, _, _ := t.planned(whole.Session); planned != nil {
			items = planned.Items
		}
		for _, it := range items {
			s.Names[string(it.ID)] = t.named(it.Exercise)
		}
		for _, did := range whole.Log.Items {
			if did.Exercise != "" {
				s.Names[string(did.Item)] = t.named(did.Exercise)
			}
		}
		out = append(out, s)
	}
	return out, t.file.Athlete.Name, nil
}

func (t *traced) named(exercise string) formats.LogItem {
	x := formats.LogItem{Exercise: exercise, Name: exercise}
	if e, ok := t.m.Exercises.Find(exercise); ok {
		x.Name = e.Name
	}
	return x
}

// ImportLogs reads a file of logs into a golfer's. Nothing is saved where a row of it is wrong,
// or unless commit is set; read twice it is there once. A session that is in none of the
// golfer's programmes becomes one of its own.
func (a *App) ImportLogs(ctx context.Context, who *Actor, athleteID string, b []byte, commit bool) (*formats.LogsRead, error) {
	list, wrong, err := formats.ReadLogs(ctx, b)
	if err != nil {
		return nil, tableWords(err)
	}
	t, err := a.trace(ctx, who, athleteID)
	if err != nil {
		return nil, err
	}
	out := &formats.LogsRead{Sessions: []string{}, Errors: append([]table.RowError{}, wrong...), Notes: []string{}}
	today := a.Today(who.Zone)
	var logs []store.SessionLog
	for i := range list {
		s := &list[i]
		if s.Date.After(today) || s.Date.Before(today.Add(-3*mostLoadDays)) {
			out.Errors = append(out.Errors, table.RowError{Row: lineOf(s), Column: "date", Text: s.Date.Words() + " is not a day sessions can be logged on"})
			continue
		}
		l := a.logFrom(t, athleteID, s)
		for k := range l.Entries {
			if bad := training.Check(&l.Entries[k]); bad != nil && !bad.Ask {
				out.Errors = append(out.Errors, table.RowError{Row: lineOf(s), Column: bad.Field, Text: bad.Text})
			}
			if l.Entries[k].What == training.Set {
				out.Sets++
			}
		}
		out.Sessions = append(out.Sessions, l.Session)
		logs = append(logs, *l)
	}
	if !commit || len(out.Errors) > 0 {
		return out, nil
	}
	_, err = a.store.For(who.PracticeID).Together(ctx, func(p *store.Practice) error {
		for _, l := range logs {
			entries := l.Entries
			l.Entries = nil
			if _, err := p.SaveEntries(ctx, l, entries, who.editor()); err != nil {
				return err
			}
		}
		return nil
	})
	if err != nil {
		return nil, words(err, "golfer")
	}
	out.Saved = true
	_, err = a.waiting(ctx, who, athleteID)
	return out, err
}

func lineOf(s *formats.LogSession) int {
	if len(s.Rows) > 0 {
		return s.Rows[0].Line
	}
	return 0
}

// logFrom is a session of a file as a log of ours.
func (a *App) logFrom(t *traced, athleteID string, s *formats.LogSession) *store.SessionLog {
	l := &store.SessionLog{AthleteID: athleteID, Session: s.Session, Kind: store.LogOther, Title: clip(s.Title, 200), Entries: s.Entries}
	var planned *programme.Session
	if p, version, kind := t.planned(s.Session); p != nil {
		planned, l.ProgrammeID, l.Kind, l.Title = p, version, kind, p.Title
	} else if have := t.logs[s.Session]; have != nil {
		l.Kind, l.ClassID, l.Title = have.Kind, have.ClassID, have.Title
	}
	if l.Session == "" {
		sum := sha256.Sum256([]byte(s.Date.String() + "|" + s.Title))
		l.Session = "file-" + hex.EncodeToString(sum[:8])
	}
	if len(s.Rows) == 0 {
		return l
	}
	book := training.Notebook{Device: fileDevice, Session: programme.ID(l.Session), At: s.Date.Time().Add(12 * time.Hour)}
	book.Note(training.Begun, "", 0, training.Begin{Date: s.Date})
	named := map[string]bool{}
	how, state := training.How{}, training.Done
	for _, r := range s.Rows {
		item := r.Item
		if item == "" && r.Exercise+r.Name != "" {
			item = "file-" + strings.ToLower(strings.ReplaceAll(clip(r.Exercise+r.Name, 40), " ", "-"))
		}
		if r.How != (training.How{}) {
			how = r.How
		}
		if r.State != "" && r.State != training.Running {
			state = r.State
		}
		if item == "" {
			continue
		}
		if !named[item] {
			named[item] = true
			was := ""
			if planned != nil {
				if k := slices.IndexFunc(planned.Items, func(x programme.Item) bool { return string(x.ID) == item }); k >= 0 {
					was = planned.Items[k].Exercise
				}
			}
			if e := r.Exercise; e != "" && e != was {
				book.Note(training.Swap, programme.ID(item), 0, training.Swapped{Exercise: clip(e, 80)})
			}
		}
		switch {
		case r.LeftOut != "":
			book.Note(training.LeftOut, programme.ID(item), 0, training.Why{Text: r.LeftOut})
		case r.Done != nil:
			book.Note(training.Set, programme.ID(item), r.Set, r.Done)
		}
	}
	if how != (training.How{}) {
		book.Note(training.After, "", 0, how)
	}
	book.Note(training.Ended, "", 0, training.End{State: state})
	l.Entries = book.Entries
	return l
}

// TakeBackLogs takes back what a file brought into sessions: what it noted and nobody noted
// over since. The history keeps it.
func (a *App) TakeBackLogs(ctx context.Context, who *Actor, athleteID string, sessions []string) error {
	if len(sessions) > mostEntries {
		return invalid("sessions", "At most %d sessions at once.", mostEntries)
	}
	p := a.store.For(who.PracticeID)
	_, err := p.Together(ctx, func(p *store.Practice) error {
		for _, id := range sessions {
			l, err := p.SessionLog(ctx, athleteID, id)
			if err != nil {
				return err
			}
			book := training.Notebook{Device: fileDevice + " taken back", Session: programme.ID(id), At: a.now().UTC()}
			var entries []training.Entry
			for _, h := range l.Log.Heads {
				i := slices.IndexFunc(l.Entries, func(e training.Entry) bool { return e.ID == h.ID })
				if i < 0 || l.Entries[i].Device != fileDevice {
					continue
				}
				book.Note(h.What, h.Item, h.Number, nil)
				e := book.Entries[len(book.Entries)-1]
				e.Clock, e.Seen = l.Log.Clock+1, h.ID
				entries = append(entries, e)
			}
			if _, err := p.SaveEntries(ctx, *l, entries, who.editor()); err != nil {
				return err
			}
		}
		return nil
	})
	if err != nil {
		return words(err, "log")
	}
	_, err = a.waiting(ctx, who, athleteID)
	return err
}
