package app

import (
	"context"
	"errors"
	"fmt"
	"regexp"
	"slices"
	"strings"
	"time"

	"github.com/google/uuid"

	"dunnock/internal/core/athlete"
	"dunnock/internal/core/civil"
	"dunnock/internal/core/class"
	"dunnock/internal/core/floor"
	"dunnock/internal/core/library"
	"dunnock/internal/core/plan"
	"dunnock/internal/core/programme"
	"dunnock/internal/core/programme/derive"
	"dunnock/internal/core/training"
	plain "dunnock/internal/core/words"
	"dunnock/internal/store"
)

// classPrefix is what the session ids of classes begin with.
const classPrefix = "class-"

// ClassRequest is what a class is asked for.
type ClassRequest struct {
	Date     civil.Date
	Name     string
	Start    string
	Athletes []string
	Ask      class.Ask
}

var clockTime = regexp.MustCompile(`^([01][0-9]|2[0-3]):[0-5][0-9]$`)

// PlanClass lays out a class and stores it, unless dry.
func (a *App) PlanClass(ctx context.Context, who *Actor, q ClassRequest, dry bool) (*ClassView, error) {
	today := a.Today(who.Zone)
	switch why := plain.Name(q.Name, 120); {
	case why != "":
		return nil, invalid("name", "The name of a class %s.", why)
	case q.Date.Before(today.Add(-logBack)) || q.Date.After(today.Add(366)):
		return nil, invalid("date", "A class is within a year of today, not on %s.", q.Date.Words())
	case q.Start != "" && !clockTime.MatchString(q.Start):
		return nil, invalid("start", "A time of day looks like 17:30.")
	case len(q.Athletes) != len(slices.Compact(slices.Sorted(slices.Values(q.Athletes)))):
		return nil, invalid("athletes", "A golfer stands in the list twice.")
	}
	c := &store.GroupClass{ID: uuid.NewString(), Date: q.Date, Name: strings.TrimSpace(q.Name), Start: q.Start, Athletes: q.Athletes}
	golfers := make([]class.Golfer, len(q.Athletes))
	for i, id := range q.Athletes {
		g, err := a.inClass(ctx, who, id, q.Date)
		if err != nil {
			return nil, err
		}
		golfers[i] = *g
	}
	var err error
	if c.Class, err = class.Of(golfers, q.Ask, prefix()); err != nil {
		var no *class.Refusal
		if errors.As(err, &no) {
			return nil, &Error{Kind: Refused, Text: no.Text}
		}
		return nil, err
	}
	if dry {
		return a.classView(ctx, who, c)
	}
	if err := a.store.For(who.PracticeID).CreateClass(ctx, c); err != nil {
		return nil, words(err, "golfer")
	}
	return a.classView(ctx, who, c)
}

// inClass is a golfer as a class knows them.
func (a *App) inClass(ctx context.Context, who *Actor, id string, on civil.Date) (*class.Golfer, error) {
	f, err := a.file(ctx, who, id)
	if err != nil {
		return nil, err
	}
	m, err := a.methodOf(ctx, who)
	if err != nil {
		return nil, err
	}
	f.StartDate = on
	basis, err := plan.BasisOf(f, m)
	if err != nil {
		return nil, err
	}
	if v, err := issuedOf(ctx, a.store.For(who.PracticeID), id, 1); err == nil && len(v) > 0 {
		basis = basis.After(v[0].doc) // its working maxima go on
	}
	state := f.ClearanceOn(f.AsOf).State
	g := &class.Golfer{
		ID: id, Name: f.Athlete.Name, Child: f.Athlete.Band(on) == athlete.BandChild, Junior: f.Athlete.Junior(on),
		Novice: f.Athlete.Level().Tier() == athlete.Novice, Cleared: state == athlete.Clear || state == athlete.NeedsConsent, Consent: state != athlete.NeedsConsent,
	}
	g.Choose = func(slot library.Slot, patterns []string, prefix string) (programme.Item, string, bool) {
		it, ok := basis.InClass(slot, patterns)
		it.ID = programme.ID(prefix)
		return it, caution(basis, &it), ok
	}
	g.Calm = func(prefix string, n int) (programme.Item, bool) {
		it, ok := basis.Calm(n)
		it.ID = programme.ID(prefix)
		return it, ok
	}
	return g, nil
}

// caution says what a coach watches of a golfer at an item: the limits that touch it.
func caution(b *plan.Basis, it *programme.Item) string {
	e, ok := b.Method().Exercises.Find(it.Exercise)
	if !ok {
		return ""
	}
	var out []string
	for _, l := range b.Facts.Limits {
		if e.Loads(l.Region) {
			out = append(out, l.Words())
		}
	}
	return strings.Join(out, "; ")
}

func (a *App) classView(ctx context.Context, who *Actor, c *store.GroupClass) (*ClassView, error) {
	m, err := a.methodOf(ctx, who)
	if err != nil {
		return nil, err
	}
	out := &ClassView{
		ID: c.ID, Date: c.Date, Name: c.Name, Start: c.Start, Minutes: c.Class.Minutes, Each: c.Class.Each, Games: c.Class.Games,
		Stations: []ClassStation{}, Rounds: c.Class.Rounds, Notes: append([]string{}, c.Class.Notes...), Golfers: []ClassGolfer{},
		Now: a.now().UTC().Format(time.RFC3339Nano),
	}
	if !c.BeganAt.IsZero() {
		out.BeganAt = c.BeganAt.UTC().Format(time.RFC3339Nano)
	}
	for _, s := range c.Class.Stations {
		st := ClassStation{ID: s.ID, Name: s.Name, Half: s.Half, Text: s.Text, Asks: s.Asks, Lines: []ClassLine{}}
		for _, l := range s.Lines {
			line := ClassLine{Golfer: l.Golfer, Item: string(l.Item.ID), Exercise: l.Item.Exercise, Name: l.Item.Exercise, DoseText: derive.DoseWords(l.Item.Dose), LoadText: derive.LoadWords(l.Item.Dose), Caution: l.Caution, Cues: []string{}, Sets: l.Item.Dose.Sets}
			if e, ok := m.Exercises.Find(l.Item.Exercise); ok {
				line.Name, line.Cues = e.Name, e.Cues
			}
			st.Lines = append(st.Lines, line)
		}
		out.Stations = append(out.Stations, st)
	}
	p := a.store.For(who.PracticeID)
	names, err := namesOf(ctx, p)
	if err != nil {
		return nil, err
	}
	logs, err := p.ClassLogs(ctx, c.ID)
	if err != nil {
		return nil, err
	}
	for _, id := range c.Athletes {
		g := ClassGolfer{ID: id, Name: names[id], Session: classPrefix + c.ID, Log: training.Fold(nil)}
		for i := range logs {
			if logs[i].AthleteID == id {
				g.Log = logs[i].Log
			}
		}
		out.Golfers = append(out.Golfers, g)
	}
	return out, nil
}

// namesOf are the golfers' names by id.
func namesOf(ctx context.Context, p *store.Practice) (map[string]string, error) {
	heads, err := p.Names(ctx)
	if err != nil {
		return nil, err
	}
	out := map[string]string{}
	for i := range heads {
		out[heads[i].ID] = heads[i].Facts.Athlete.Name
	}
	return out, nil
}

// Class returns a class with how far everybody is.
func (a *App) Class(ctx context.Context, who *Actor, id string) (*ClassView, error) {
	c, err := a.store.For(who.PracticeID).Class(ctx, id)
	if err != nil {
		return nil, words(err, "class")
	}
	return a.classView(ctx, who, c)
}

// RunClass starts a class's clock, or stops it.
func (a *App) RunClass(ctx context.Context, who *Actor, id string, on bool) (*ClassView, error) {
	at := time.Time{}
	if on {
		at = a.now()
	}
	if err := a.store.For(who.PracticeID).SetClassClock(ctx, id, at); err != nil {
		return nil, words(err, "class")
	}
	return a.Class(ctx, who, id)
}

// DeleteClass removes a class nothing was logged of.
func (a *App) DeleteClass(ctx context.Context, who *Actor, id string) error {
	err := a.store.For(who.PracticeID).DeleteClass(ctx, id)
	if errors.Is(err, store.ErrConflict) {
		return &Error{Kind: Refused, Text: "Something was logged of this class: it stays."}
	}
	return words(err, "class")
}

// classItems is a class as a session of one golfer.
func (a *App) classItems(ctx context.Context, who *Actor, t *traced, athleteID, session string) (*programme.Session, error) {
	c, err := a.classBy(ctx, a.store.For(who.PracticeID), athleteID, session)
	if err != nil {
		return nil, err
	}
	return &programme.Session{ID: programme.ID(session), Date: c.Date, Title: c.Name, Budget: c.Class.Minutes, Items: c.Class.Items(athleteID)}, nil
}

// classBy is the class a session's id names, where the golfer takes part.
func (a *App) classBy(ctx context.Context, p *store.Practice, athleteID, session string) (*store.GroupClass, error) {
	gone := &Error{Kind: NotFound, Text: "There is no such session of this golfer: it may have been taken out of the programme. What was noted stays on this device."}
	id, ok := strings.CutPrefix(session, classPrefix)
	if !ok || uuid.Validate(id) != nil {
		return nil, gone
	}
	c, err := p.Class(ctx, id)
	if errors.Is(err, store.ErrNotFound) || err == nil && !slices.Contains(c.Athletes, athleteID) {
		return nil, gone
	}
	return c, words(err, "class")
}

func (a *App) classLogOf(ctx context.Context, p *store.Practice, b FloorEntries) (*store.SessionLog, string, error) {
	c, err := a.classBy(ctx, p, b.AthleteID, b.Session)
	if err != nil {
		return nil, "", err
	}
	return &store.SessionLog{AthleteID: b.AthleteID, Session: b.Session, Kind: store.LogClass, ClassID: c.ID, Title: c.Name}, "", nil
}

// classSession is a golfer's part of a class as it is run.
func (a *App) classSession(ctx context.Context, who *Actor, t *traced, athleteID, session string) (*FloorSession, error) {
	s, err := a.classItems(ctx, who, t, athleteID, session)
	if err != nil {
		return nil, err
	}
	out := &FloorSession{AthleteID: athleteID, Name: t.file.Athlete.Name, Session: session, Kind: store.LogClass, Title: s.Title, Date: s.Date, Today: t.file.AsOf, Budget: s.Budget, Junior: t.file.Athlete.Junior(t.file.AsOf), Easier: []floor.Change{}, Limits: []string{}, WarmUp: nil}
	out.Log = training.Fold(nil)
	if l := t.logs[session]; l != nil {
		out.Log = l.Log
	}
	for _, l := range t.file.LimitsOn(t.file.AsOf) {
		out.Limits = append(out.Limits, l.Words())
	}
	if out.Log.Easier && out.Log.Ready != nil {
		light := floor.Lighten(s, t.m.Exercises, out.Log.Ready, t.file.Training.Kit, barOf(t.file))
		s, out.Easier = &light.Session, light.Changes
	}
	out.Sheet = floor.SheetOf(s, t.m.Exercises, floor.Gym{Bar: barOf(t.file), Dumbbell: t.file.Training.DumbbellStep})
	out.WarmUpWhy = fmt.Sprintf("The class warms up together, %d minutes.", class.WarmUpMinutes)
	a.warmUpOf(ctx, who, out, s, t.file)
	return out, nil
}

// classesOf are what a golfer was to do in classes, by the session's id.
func (a *App) classesOf(ctx context.Context, p *store.Practice, athleteID string) (map[string][]programme.Item, error) {
	list, err := p.ClassesOf(ctx, athleteID)
	if err != nil {
		return nil, err
	}
	out := map[string][]programme.Item{}
	for i := range list {
		out[classPrefix+list[i].ID] = list[i].Class.Items(athleteID)
	}
	return out, nil
}

// ClassMark changes whenever something was noted of a class.
func (a *App) ClassMark(ctx context.Context, who *Actor, id string) (string, error) {
	p := a.store.For(who.PracticeID)
	c, err := p.Class(ctx, id)
	if err != nil {
		return "", words(err, "class")
	}
	n, at, err := p.ClassMark(ctx, id)
	return fmt.Sprintf("%d %d %d", n, at.UnixNano(), c.BeganAt.UnixNano()), words(err, "class")
}

// ClassItems are what a golfer does in a class, in the order they come to it.
func (a *App) ClassItems(ctx context.Context, who *Actor, id, athleteID string) ([]programme.Item, error) {
	c, err := a.store.For(who.PracticeID).Class(ctx, id)
	if err != nil {
		return nil, words(err, "class")
	}
	return c.Class.Items(athleteID), nil
}

// ClearClasses removes every class nothing is logged of, which is all of them when nobody is
// left.
func (a *App) ClearClasses(ctx context.Context, who *Actor) error {
	today := a.Today(who.Zone)
	list, err := a.store.For(who.PracticeID).Classes(ctx, today.Add(-2*logBack), today.Add(logBack))
	if err != nil {
		return err
	}
	for _, c := range list {
		if err := a.DeleteClass(ctx, who, c.ID); err != nil {
			return err
		}
	}
	return nil
}
