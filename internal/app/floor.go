package app

import (
	"context"
	"errors"
	"fmt"
	"slices"
	"time"

	"dunnock/internal/core/athlete"
	"dunnock/internal/core/card"
	"dunnock/internal/core/civil"
	"dunnock/internal/core/floor"
	"dunnock/internal/core/floor/page"
	"dunnock/internal/core/method"
	"dunnock/internal/core/plan"
	"dunnock/internal/core/programme"
	"dunnock/internal/core/programme/derive"
	"dunnock/internal/core/readiness"
	"dunnock/internal/core/training"
	"dunnock/internal/core/warmup"
	"dunnock/internal/store"
)

// What the pages of the floor show.
type (
	FloorSession = page.Session
	SessionRow   = page.Row
	FloorRefusal = page.Refusal
	TodayRow     = page.TodayRow
	TodayNote    = page.Note
	TodayDay     = page.Day
	TodayClass   = page.ClassRow
	TodayPage    = page.Today
	FloorWeek    = page.Week
	ClassLine    = page.ClassLine
	ClassStation = page.ClassStation
	ClassGolfer  = page.ClassGolfer
	ClassView    = page.Class
	LoadValue    = page.Value
	LoadPage     = page.Load
)

// traced is what a golfer is trained by: their versions, and what was noted.
type traced struct {
	file   *athlete.File
	issued []issuedVersion // that stand, in order of time
	logs   map[string]*store.SessionLog
	docs   map[string]*programme.Programme // by version
	m      *method.Method
}

// tracedBlocks is how many versions back the floor looks, tracedDays how many days of logs.
const tracedBlocks, tracedDays = 3, 120

// trace reads what a golfer is trained by.
func (a *App) trace(ctx context.Context, who *Actor, athleteID string) (*traced, error) {
	m, err := a.methodOf(ctx, who)
	if err != nil {
		return nil, err
	}
	f, err := a.file(ctx, who, athleteID)
	if err != nil {
		return nil, err
	}
	t := &traced{file: f, m: m, logs: map[string]*store.SessionLog{}, docs: map[string]*programme.Programme{}}
	err = a.store.For(who.PracticeID).Snapshot(ctx, func(p *store.Practice) error {
		if t.issued, err = issuedOf(ctx, p, athleteID, tracedBlocks); err != nil {
			return words(err, "programme")
		}
		logs, err := p.SessionLogs(ctx, athleteID, f.AsOf.Add(-tracedDays), f.AsOf.Add(1))
		if err != nil {
			return err
		}
		for _, v := range t.issued {
			t.docs[v.ID] = v.doc
		}
		for i := range logs {
			l := &logs[i]
			t.logs[l.Session] = l
			if l.ProgrammeID == "" || t.docs[l.ProgrammeID] != nil {
				continue
			}
			if got, err := p.Programme(ctx, l.ProgrammeID); err == nil {
				t.docs[l.ProgrammeID] = got.Doc
			}
		}
		return nil
	})
	return t, err
}

// standing is the version that is trained by on a day; nil where there is none.
func (t *traced) standing(day civil.Date) *issuedVersion {
	for i := range t.issued {
		if t.issued[i].Stands(day) {
			return &t.issued[i]
		}
	}
	return nil
}

// planned is the session with an id: as it is in the version it was done under, else in the
// one that stands on its day. Home days are sessions here too.
func (t *traced) planned(id string) (s *programme.Session, version string, kind string) {
	if l := t.logs[id]; l != nil && l.ProgrammeID != "" {
		if doc := t.docs[l.ProgrammeID]; doc != nil {
			if s, kind := sessionIn(doc, id); s != nil {
				return s, l.ProgrammeID, kind
			}
		}
	}
	for i := range slices.Backward(t.issued) {
		if s, kind := sessionIn(t.issued[i].doc, id); s != nil {
			return s, t.issued[i].ID, kind
		}
	}
	return nil, "", ""
}

// sessionIn is a session of a document, or a home day as one; nil where it is in neither.
func sessionIn(doc *programme.Programme, id string) (*programme.Session, string) {
	if s, ok := doc.Session(programme.ID(id)); ok {
		return s, store.LogPlanned
	}
	_, w := doc.Week(programme.ID(id))
	if w == nil {
		return nil, ""
	}
	for i := range w.Home {
		if h := &w.Home[i]; string(h.ID) == id {
			return &programme.Session{ID: h.ID, Date: h.Date, Title: "Home work", Items: h.Items}, store.LogHome
		}
	}
	return nil, ""
}

// FloorSession returns a session as it is run.
func (a *App) FloorSession(ctx context.Context, who *Actor, athleteID, session string) (*FloorSession, error) {
	t, err := a.trace(ctx, who, athleteID)
	if err != nil {
		return nil, err
	}
	s, version, kind := t.planned(session)
	if s == nil {
		return a.classSession(ctx, who, t, athleteID, session)
	}
	p := a.store.For(who.PracticeID)
	stored, err := p.Programme(ctx, version)
	if err != nil {
		return nil, words(err, "programme")
	}
	out := &FloorSession{
		AthleteID: athleteID, Name: t.file.Athlete.Name, Session: session, Kind: kind, ProgrammeID: version, Version: stored.Version,
		Title: s.Title, Letter: string(s.Letter), Date: s.Date, Today: t.file.AsOf, Budget: s.Budget, Note: s.Note, Junior: t.file.Athlete.Junior(t.file.AsOf),
	}
	if stored.Status == store.Withdrawn {
		out.Stop = fmt.Sprintf("Version %d was withdrawn on %s: %s What was done of it is kept, and can still be noted.", stored.Version, stored.WithdrawnOn.Words(), sentenceEnd(stored.WithdrawnWhy))
	}
	by := t.m
	if stored.Frozen != nil {
		if by, err = method.Thaw(stored.Frozen); err != nil {
			return nil, fmt.Errorf("programme %s: %w", version, err)
		}
	}
	return out, a.runnable(ctx, who, t, out, stored.Doc, s, by)
}

// runnable completes a session: its sheet, its warm-up and what was noted.
func (a *App) runnable(ctx context.Context, who *Actor, t *traced, out *FloorSession, doc *programme.Programme, s *programme.Session, by *method.Method) error {
	f := *t.file
	f.School = by.SchoolOf(doc.School).ID
	basis, err := plan.BasisOf(&f, by)
	if err != nil {
		return err
	}
	out.Limits = []string{}
	for _, l := range basis.Facts.Limits {
		out.Limits = append(out.Limits, l.Words())
	}
	if c := basis.Facts.Clearance; out.Stop == "" && c.State != athlete.Clear {
		out.Stop = c.Text
	}
	out.Log = training.Fold(nil)
	if l := t.logs[out.Session]; l != nil {
		out.Log = l.Log
	}
	run := s
	out.Easier = []floor.Change{}
	if out.Log.Easier && out.Log.Ready != nil {
		light := lightened(s, basis, &f, out.Log.Ready)
		run, out.Easier = &light.Session, light.Changes
	}
	out.Sheet = floor.SheetOf(run, by.Exercises, gymOf(&f, basis, doc))
	if out.Kind != store.LogHome {
		a.warmUpOf(ctx, who, out, run, &f)
	}
	return nil
}

// lightened is a session as the answers of a day propose it.
func lightened(s *programme.Session, basis *plan.Basis, f *athlete.File, answers *readiness.Answers) *floor.Lightened {
	return floor.Lighten(s, basis.Method().Exercises, answers, f.Training.Kit, barOf(f))
}

func barOf(f *athlete.File) floor.Bar {
	bar := floor.Bar{BarKg: f.Training.BarKg, StepKg: f.Training.StepKg(2.5)}
	if bar.BarKg == 0 {
		bar.BarKg = 20
	}
	return bar
}

// mostInstead is how many exercises are offered in an item's place.
const mostInstead = 5

func gymOf(f *athlete.File, basis *plan.Basis, doc *programme.Programme) floor.Gym {
	return floor.Gym{
		Bar: barOf(f), Dumbbell: f.Training.DumbbellStep, Limits: basis.Facts.Limits,
		Instead: func(id programme.ID) []programme.Item { return basis.Instead(doc, id, mostInstead) },
	}
}

// warmUpOf adds the session's warm-up as the golfer is today.
func (a *App) warmUpOf(ctx context.Context, who *Actor, out *FloorSession, s *programme.Session, f *athlete.File) {
	out.WarmUp = []warmup.Item{}
	p, err := a.personOf(ctx, who, f)
	if err != nil {
		out.WarmUpWhy = "The warm-up could not be made."
		return
	}
	r := sessionRequest(s, f)
	if out.Log.Ready != nil {
		r.Readiness = *out.Log.Ready
	}
	w, err := warmup.Build(p, r)
	if err != nil {
		out.WarmUpWhy = Sentence(err)
		return
	}
	out.WarmUp = append(out.WarmUp, card.Of(f.Athlete.PlayingSide).WarmUp(w.Items)...)
}

func sentenceEnd(s string) string {
	if s == "" || s[len(s)-1] == '.' || s[len(s)-1] == '!' {
		return s
	}
	return s + "."
}

// Ease proposes the easier version of a session for the answers of the day; nothing is
// stored.
func (a *App) Ease(ctx context.Context, who *Actor, athleteID, session string, answers *readiness.Answers) (*floor.Lightened, error) {
	for _, p := range answers.Validate() {
		return nil, invalid("answers."+p.Path, "%s.", Sentence(errors.New(p.Text)))
	}
	t, err := a.trace(ctx, who, athleteID)
	if err != nil {
		return nil, err
	}
	s, version, _ := t.planned(session)
	if s == nil {
		if s, err = a.classItems(ctx, who, t, athleteID, session); err != nil {
			return nil, err
		}
		return floor.Lighten(s, t.m.Exercises, answers, t.file.Training.Kit, barOf(t.file)), nil
	}
	f := *t.file
	f.School = t.m.SchoolOf(t.docs[version].School).ID
	basis, err := plan.BasisOf(&f, t.m)
	if err != nil {
		return nil, err
	}
	return lightened(s, basis, &f, answers), nil
}

// FloorEntries are entries of one golfer's session as a device sends them.
type FloorEntries struct {
	AthleteID string
	Session   string
	Entries   []training.Entry
}

// FloorSaved is what became of a batch.
type FloorSaved struct {
	Logs    []store.SessionLog
	Refused []FloorRefusal
	Notes   []string // what the coach should know: a clock put right, a version withdrawn
}

const (
	// clockOff is how far a device's clock may be from ours before it is put right.
	clockOff = 10 * time.Minute
	// mostEntries is how many entries a batch holds.
	mostEntries = 1000
	// logBack is how many days back a session may be logged.
	logBack = 400
)

// SaveFloor takes entries of several sessions. Each golfer's are taken together or not at
// all; those that cannot be are said, the others stay. sentAt is the device's clock as it
// sent them.
func (a *App) SaveFloor(ctx context.Context, who *Actor, sentAt time.Time, batch []FloorEntries) (*FloorSaved, error) {
	n := 0
	for _, b := range batch {
		n += len(b.Entries)
	}
	if n > mostEntries {
		return nil, invalid("entries", "At most %d entries are sent at once, not %d.", mostEntries, n)
	}
	out := &FloorSaved{Logs: []store.SessionLog{}, Refused: []FloorRefusal{}, Notes: []string{}}
	now := a.now()
	skew := time.Duration(0)
	if d := sentAt.Sub(now); !sentAt.IsZero() && d.Abs() > clockOff {
		skew = d
		out.Notes = append(out.Notes, fmt.Sprintf("This device's clock is off by %s: the times were put right. Set its clock.", roughly(d)))
	}
	for _, b := range batch {
		if err := a.saveLog(ctx, who, b, skew, out); err != nil {
			return nil, err
		}
	}
	return out, nil
}

// roughly is how far a clock is off, in words.
func roughly(d time.Duration) string {
	way := "ahead"
	if d < 0 {
		way = "behind"
	}
	switch d = d.Abs(); {
	case d >= 36*time.Hour:
		return fmt.Sprintf("%d days %s", int(d.Hours()/24+0.5), way)
	case d >= 20*time.Hour:
		return "a day " + way
	case d >= 90*time.Minute:
		return fmt.Sprintf("%d hours %s", int(d.Hours()+0.5), way)
	}
	return fmt.Sprintf("%d minutes %s", int(d.Minutes()+0.5), way)
}

// saveLog takes the entries of one golfer's session.
func (a *App) saveLog(ctx context.Context, who *Actor, b FloorEntries, skew time.Duration, out *FloorSaved) error {
	p := a.store.For(who.PracticeID)
	refuse := func(id, field, text string, ask bool) {
		out.Refused = append(out.Refused, FloorRefusal{ID: id, Field: field, Text: text, Ask: ask})
	}
	of, note, err := a.logOf(ctx, p, b)
	var no *Error
	if errors.As(err, &no) && (no.Kind == NotFound || no.Kind == Invalid) {
		for _, e := range b.Entries {
			refuse(e.ID, "session", no.Text, false)
		}
		return nil
	}
	if err != nil {
		return err
	}
	if note != "" {
		out.Notes = append(out.Notes, note)
	}
	today := a.Today(who.Zone)
	var take []training.Entry
	for _, e := range b.Entries {
		if at, err := time.Parse(time.RFC3339, e.At); err == nil && skew != 0 {
			e.At = at.Add(-skew).UTC().Format(time.RFC3339Nano)
		}
		if bad := training.Check(&e); bad != nil {
			refuse(e.ID, bad.Field, bad.Text, bad.Ask)
			continue
		}
		if e.What == training.Begun {
			day, moved := begunOn(&e, skew)
			switch {
			case day.After(today) && !moved:
				refuse(e.ID, "value.date", day.Words()+" has not come yet: a session is logged on its day or after.", false)
				continue
			case day.Before(today.Add(-logBack)):
				refuse(e.ID, "value.date", day.Words()+" lies too far back to be logged.", false)
				continue
			}
		}
		take = append(take, e)
	}
	if len(take) == 0 && len(b.Entries) > 0 {
		return nil
	}
	saved, err := p.SaveEntries(ctx, *of, take, who.editor())
	if err != nil {
		return words(err, "session")
	}
	out.Logs = append(out.Logs, *saved)
	return a.afterLog(ctx, who, saved)
}

// logOf is the log entries belong to, and what the coach should know of it.
func (a *App) logOf(ctx context.Context, p *store.Practice, b FloorEntries) (*store.SessionLog, string, error) {
	got, err := p.SessionLog(ctx, b.AthleteID, b.Session)
	note := ""
	withdrawn := func(id string) error {
		prog, err := p.Programme(ctx, id)
		if err != nil {
			return words(err, "programme")
		}
		if prog.Status == store.Withdrawn {
			note = fmt.Sprintf("Version %d was withdrawn on %s. What was done is kept and counts as load; no next dose comes of it.", prog.Version, prog.WithdrawnOn.Words())
		}
		return nil
	}
	switch {
	case err == nil:
		if got.ProgrammeID != "" {
			err = withdrawn(got.ProgrammeID)
		}
		return got, note, err
	case !errors.Is(err, store.ErrNotFound):
		return nil, "", err
	}
	if err := p.HasAthlete(ctx, b.AthleteID); err != nil {
		return nil, "", words(err, "golfer")
	}
	all, err := p.Programmes(ctx, b.AthleteID)
	if err != nil {
		return nil, "", err
	}
	issued, err := issuedOf(ctx, p, b.AthleteID, inCalendar)
	if err != nil {
		return nil, "", words(err, "programme")
	}
	for i := range slices.Backward(issued) {
		if s, kind := sessionIn(issued[i].doc, b.Session); s != nil {
			return &store.SessionLog{AthleteID: b.AthleteID, Session: b.Session, Kind: kind, ProgrammeID: issued[i].ID, Title: s.Title}, "", nil
		}
	}
	for i := range all { // versions that are trained by no more
		if all[i].Status == store.Draft {
			continue
		}
		prog, err := p.Programme(ctx, all[i].ID)
		if err != nil {
			return nil, "", words(err, "programme")
		}
		if s, kind := sessionIn(prog.Doc, b.Session); s != nil {
			err := withdrawn(prog.ID)
			return &store.SessionLog{AthleteID: b.AthleteID, Session: b.Session, Kind: kind, ProgrammeID: prog.ID, Title: s.Title}, note, err
		}
	}
	return a.classLogOf(ctx, p, b)
}

// LogHistory is a log with all its entries, oldest first.
func (a *App) LogHistory(ctx context.Context, who *Actor, athleteID, session string) (*store.SessionLog, error) {
	l, err := a.store.For(who.PracticeID).SessionLog(ctx, athleteID, session)
	return l, words(err, "log")
}

// begunOn is the day a session was begun on. Where the device's clock is off by half a day or
// more, the day is put right with it.
func begunOn(e *training.Entry, skew time.Duration) (civil.Date, bool) {
	v, err := training.BeginOf(e)
	if err != nil {
		return civil.Date{}, false
	}
	days := int(skew.Round(24*time.Hour).Hours() / 24)
	if days == 0 {
		return v.Date, false
	}
	v.Date = v.Date.Add(-days)
	e.Value = training.Value(v)
	return v.Date, true
}

// dayView is a session of the floor's week, in short.
type dayView struct {
	doc     *programme.Programme
	week    *programme.Week
	session *programme.Session
	kind    string
	version *issuedVersion
}

// between are the sessions and home days of the versions that stand, from a day to a day.
func (t *traced) between(from, to civil.Date) []dayView {
	var out []dayView
	for i := range t.issued {
		v := &t.issued[i]
		for bi := range v.doc.Blocks {
			for wi := range v.doc.Blocks[bi].Weeks {
				w := &v.doc.Blocks[bi].Weeks[wi]
				for si := range w.Sessions {
					s := &w.Sessions[si]
					if !s.Date.Before(from) && !s.Date.After(to) && v.Stands(s.Date) && len(s.Items) > 0 {
						out = append(out, dayView{v.doc, w, s, store.LogPlanned, v})
					}
				}
				for hi := range w.Home {
					h := &w.Home[hi]
					if !h.Date.Before(from) && !h.Date.After(to) && v.Stands(h.Date) && len(h.Items) > 0 {
						s := &programme.Session{ID: h.ID, Date: h.Date, Title: "Home work", Items: h.Items}
						out = append(out, dayView{v.doc, w, s, store.LogHome, v})
					}
				}
			}
		}
	}
	slices.SortStableFunc(out, func(a, b dayView) int { return a.session.Date.Sub(b.session.Date) })
	return out
}

func (t *traced) rows(from, to civil.Date) []SessionRow {
	out := []SessionRow{}
	today := t.file.AsOf
	for _, d := range t.between(from, to) {
		r := SessionRow{Session: string(d.session.ID), Kind: d.kind, Title: d.session.Title, Letter: string(d.session.Letter), Date: d.session.Date, Items: []string{}}
		r.Minutes = float64(d.session.Budget)
		if d.kind == store.LogPlanned {
			r.Minutes = derive.Seconds(d.session, t.m.Exercises) / 60
		}
		for i := range d.session.Items {
			if e, ok := t.m.Exercises.Find(d.session.Items[i].Exercise); ok {
				r.Items = append(r.Items, e.Name)
			}
		}
		if l := t.logs[r.Session]; l != nil {
			r.State, r.Effort, r.Done = string(l.Log.State), l.Log.How.Effort, l.Log.How.Words()
			if !l.Log.Date.IsZero() && l.Log.Trained() {
				r.Date = l.Log.Date
			}
		}
		r.Missed = r.State == "" && r.Date.Before(today) && d.kind == store.LogPlanned
		out = append(out, r)
	}
	return out
}

// PlannedSession is a session of a golfer's programme as it is planned.
func (a *App) PlannedSession(ctx context.Context, who *Actor, athleteID, session string) (*programme.Session, error) {
	t, err := a.trace(ctx, who, athleteID)
	if err != nil {
		return nil, err
	}
	s, _, _ := t.planned(session)
	if s == nil {
		return nil, &Error{Kind: NotFound, Text: "There is no such session of this golfer."}
	}
	return s, nil
}
