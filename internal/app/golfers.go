package app

import (
	"context"
	"fmt"
	"io"
	"slices"

	"dunnock/internal/core/athlete"
	"dunnock/internal/core/civil"
	"dunnock/internal/core/measure"
	"dunnock/internal/core/naming"
	"dunnock/internal/core/programme"
	"dunnock/internal/core/progress"
	"dunnock/internal/core/quality"
	"dunnock/internal/core/referral"
	"dunnock/internal/core/school"
	"dunnock/internal/core/season"
	"dunnock/internal/formats"
	"dunnock/internal/store"
)

// Golfer is one golfer's facts with the season lane and the state of the work.
type Golfer struct {
	store.Athlete
	Lane     Lane
	Path     Path
	Standing []athlete.Pain // limits from pain on tests
	Photo    string         // names what is in the picture; "" for none
}

// Lane is what the season lane shows.
type Lane struct {
	Screens      []civil.Date
	Competitions []athlete.Competition
	Programmes   []store.Programme
	Pencilled    []season.Block // of the season the coach took on, behind what was issued
}

// Blocks are the programmes as they are trained: drafts, and of what was issued what stands, each
// for the weeks it does.
func (l Lane) Blocks() []store.Programme {
	var out []store.Programme
	byID := map[string]store.Programme{}
	for _, p := range l.Programmes {
		byID[p.ID] = p
		if p.Status != store.Issued {
			out = append(out, p)
		}
	}
	for _, v := range trainedBy(l.Programmes) {
		p := byID[v.ID]
		if !v.Until.IsZero() {
			p.Weeks = min(p.Weeks, (v.Until.Sub(p.StartDate)+6)/7)
		}
		out = append(out, p)
	}
	slices.SortStableFunc(out, func(a, b store.Programme) int { return a.StartDate.Sub(b.StartDate) })
	return out
}

// trainedBy are the issued versions a golfer trains by, in order of time.
func trainedBy(progs []store.Programme) []programme.Version {
	var issued []programme.Version
	for _, p := range progs {
		if p.Status == store.Issued {
			issued = append(issued, programme.Version{ID: p.ID, Number: p.Version, First: p.StartDate, Weeks: p.Weeks})
		}
	}
	return programme.Standing(issued)
}

// pencilled are the blocks of a kept season that nothing was drafted for yet.
func pencilled(f *athlete.File, progs []store.Programme) []season.Block {
	if f.Kept == nil {
		return nil
	}
	behind := f.AsOf
	for _, p := range progs {
		if end := p.StartDate.Add(7*p.Weeks - 1); end.After(behind) {
			behind = end
		}
	}
	var out []season.Block
	for _, b := range f.Kept.Blocks {
		if b.Start.After(behind) && (b.Kind == season.Training || b.Kind == season.Bridge || b.Kind == season.EventWeek) {
			out = append(out, b)
		}
	}
	return out
}

// Path is the state of each step of the work, in words.
type Path = progress.Path

// done is what the lane holds, as the core asks for it.
func (l Lane) done() progress.Done {
	d := progress.Done{Screens: l.Screens}
	for _, p := range l.Programmes {
		d.Programmes = append(d.Programmes, progress.Programme{Draft: p.Status == store.Draft, Version: p.Version, Start: p.StartDate, Weeks: p.Weeks})
	}
	return d
}

// SquadRow is one golfer on the squad board.
type SquadRow struct {
	ID        string
	Name      string
	Age       int
	Side      string
	Clearance athlete.ClearanceState
	Lane      Lane
	Due       progress.Next
	Groups    []string
	Notes     string
	Photo     string // names what is in the picture; "" for none
}

// Squad returns the practice's golfers with what each is due: those in the squad, or
// those put away.
func (a *App) Squad(ctx context.Context, who *Actor, archived bool) ([]SquadRow, error) {
	entries, err := a.store.For(who.PracticeID).Squad(ctx, archived)
	if err != nil {
		return nil, err
	}
	out := make([]SquadRow, len(entries))
	for i := range entries {
		e := &entries[i]
		f := a.dress(who, &e.Facts)
		l := Lane{Competitions: f.Competitions, Programmes: e.Programmes, Pencilled: pencilled(f, e.Programmes)}
		for _, s := range e.Screens {
			l.Screens = append(l.Screens, s.Date)
		}
		out[i] = SquadRow{ID: e.ID, Name: f.Athlete.Name, Age: f.Athlete.BirthDate.YearsOn(f.AsOf), Side: f.Athlete.PlayingSide,
			Clearance: f.ClearanceOn(f.AsOf).State, Lane: l, Due: progress.Due(f, l.done()), Groups: f.Athlete.Groups, Notes: f.Athlete.Notes, Photo: e.Photo}
	}
	return out, nil
}

// Golfer returns one golfer.
func (a *App) Golfer(ctx context.Context, who *Actor, id string) (*Golfer, error) {
	var g *Golfer
	err := a.store.For(who.PracticeID).Snapshot(ctx, func(p *store.Practice) (err error) {
		g, err = a.golfer(ctx, who, p, id)
		return err
	})
	return g, err
}

func (a *App) golfer(ctx context.Context, who *Actor, p *store.Practice, id string) (*Golfer, error) {
	got, err := p.Athlete(ctx, id)
	if err != nil {
		return nil, words(err, "golfer")
	}
	start := got.Facts.StartDate
	a.dress(who, &got.Facts)
	got.Facts.StartDate = start // what was entered, not what an empty one comes to
	dates, err := p.ScreenDates(ctx, id)
	if err != nil {
		return nil, err
	}
	progs, err := p.Programmes(ctx, id)
	if err != nil {
		return nil, err
	}
	recordings, err := p.RecordingCount(ctx, id)
	if err != nil {
		return nil, err
	}
	progs = slices.DeleteFunc(progs, func(p store.Programme) bool { return p.Status == store.Withdrawn })
	l := Lane{Screens: dates, Competitions: got.Facts.Competitions, Programmes: progs, Pencilled: pencilled(&got.Facts, progs)}
	g := &Golfer{Athlete: *got, Lane: l, Path: progress.PathOf(&got.Facts, l.done())}
	if recordings > 0 {
		g.Path.Force = plural(recordings, "recording")
	}
	if err := a.swung(ctx, p, g); err != nil {
		return nil, err
	}
	if g.Photo, err = p.PhotoVersion(ctx, id); err != nil {
		return nil, err
	}
	g.Standing, err = a.standing(ctx, who, p, id)
	return g, err
}

// standing returns the limits that pain on tests left in force. Screens are loaded
// only for a golfer who ever hurt.
func (a *App) standing(ctx context.Context, who *Actor, p *store.Practice, id string) ([]athlete.Pain, error) {
	hurt, err := p.EverHurt(ctx, id, measure.PainStop)
	if err != nil || !hurt {
		return nil, err
	}
	whole, err := p.File(ctx, id)
	if err != nil {
		return nil, words(err, "golfer")
	}
	f := a.dress(who, &whole.Facts)
	return f.PainOn(f.AsOf), nil
}

// AddGolfer makes a golfer from a profile and what the practice has at hand; everything else is
// still open.
func (a *App) AddGolfer(ctx context.Context, who *Actor, p athlete.Profile) (*Golfer, error) {
	f := &athlete.File{Format: athlete.Format, Athlete: p, School: school.Default}
	s, err := a.PracticeSetup(ctx, who)
	if err != nil {
		return nil, err
	}
	s.Begin(&f.Training)
	return a.create(ctx, who, f)
}

// create stores a new golfer.
func (a *App) create(ctx context.Context, who *Actor, f *athlete.File) (*Golfer, error) {
	a.dress(who, f)
	if err := a.check(ctx, who, f); err != nil {
		return nil, err
	}
	f.StartDate = civil.Date{}
	id := ""
	_, err := a.store.For(who.PracticeID).Together(ctx, func(p *store.Practice) (err error) {
		if err := p.HoldGolfers(ctx); err != nil {
			return err
		}
		id, err = p.CreateAthlete(ctx, f)
		return err
	})
	if err != nil {
		return nil, words(err, "golfer")
	}
	return a.Golfer(ctx, who, id)
}

// SaveGolfer replaces a golfer's facts if they still have the revision.
func (a *App) SaveGolfer(ctx context.Context, who *Actor, id string, revision int, f *athlete.File) (*Golfer, error) {
	start := f.StartDate
	a.dress(who, f)
	if err := a.check(ctx, who, f); err != nil {
		return nil, err
	}
	f.StartDate = start
	_, err := a.store.For(who.PracticeID).Together(ctx, func(p *store.Practice) error {
		if err := p.UpdateAthlete(ctx, id, revision, f); err != nil || mayShow(f) == nil {
			return err
		}
		return p.SetPhoto(ctx, id, nil, "") // the consent was taken back
	})
	if err != nil {
		return nil, words(err, "golfer")
	}
	return a.Golfer(ctx, who, id)
}

func (a *App) check(ctx context.Context, who *Actor, f *athlete.File) error {
	m, err := a.methodOf(ctx, who)
	if err != nil {
		return err
	}
	if _, err := m.Schools.Find(f.School); err != nil {
		return invalid("school", "%v", err)
	}
	problems := f.ValidateFacts()
	if len(problems) == 0 {
		return nil
	}
	e := &Error{Kind: Invalid, Text: problems[0].Text}
	for _, p := range problems {
		e.Fields = append(e.Fields, Field{Name: p.Path, Text: p.Text})
	}
	return e
}

// EraseGolfer removes a golfer and everything about them.
func (a *App) EraseGolfer(ctx context.Context, who *Actor, id string) error {
	err := a.store.For(who.PracticeID).Erase(ctx, id)
	if err == nil {
		a.forget(who.PracticeID)
		a.held.drop(who.PracticeID)
	}
	return words(err, "golfer")
}

// BringGolfer makes a golfer out of an export, with every screen. Tests of another
// practice's own that the screens need come with it. Nothing is made when
// somebody of that name and birth date is here already.
func (a *App) BringGolfer(ctx context.Context, who *Actor, r io.Reader) (*Golfer, error) {
	f, err := formats.ReadAthlete(r)
	if err != nil {
		return nil, invalid("file", "This is not the export of a golfer: %v", err)
	}
	m, err := a.methodOf(ctx, who)
	if err != nil {
		return nil, err
	}
	f.School = m.SchoolOf(f.School).ID
	facts := *f
	facts.Screens, facts.AsOf = nil, a.Today(who.Zone)
	if problems := facts.ValidateFacts(); len(problems) > 0 {
		return nil, invalid(problems[0].Path, "%s: %s", problems[0].Path, problems[0].Text)
	}
	for i, s := range f.Screens {
		if text := badDay(s.Date, facts.AsOf, f.Athlete); text != "" {
			return nil, invalid(fmt.Sprintf("screens[%d].date", i), "%s", text)
		}
	}
	id := ""
	_, err = a.store.For(who.PracticeID).Together(ctx, func(p *store.Practice) error {
		if err := p.HoldGolfers(ctx); err != nil {
			return err
		}
		rows, err := p.Names(ctx)
		if err != nil {
			return err
		}
		for _, e := range rows {
			if naming.Same(e.Facts.Athlete.Name, f.Athlete.Name) && e.Facts.Athlete.BirthDate == f.Athlete.BirthDate {
				return &Error{
					Kind: Conflict,
					Text: fmt.Sprintf("%s, born %s, is here already: erase them first, or bring in the trials as a CSV.", f.Athlete.Name, f.Athlete.BirthDate.Words()),
				}
			}
		}
		if f.Battery != nil {
			if err := a.bringTests(ctx, p, f); err != nil {
				return err
			}
		}
		if id, err = p.CreateAthlete(ctx, &facts); err != nil {
			return err
		}
		if err := p.ImportScreens(ctx, id, f.Screens); err != nil {
			return err
		}
		facts.Photo = f.Photo
		return bringPhoto(ctx, p, id, &facts)
	})
	if err != nil {
		return nil, words(err, "golfer")
	}
	return a.Golfer(ctx, who, id)
}

// bringTests adds the own tests of a file that the practice does not have.
func (a *App) bringTests(ctx context.Context, p *store.Practice, f *athlete.File) error {
	if err := p.ChangeBattery(ctx); err != nil {
		return err
	}
	c, err := p.Battery(ctx)
	if err != nil {
		return err
	}
	added := false
	for _, t := range f.Battery.Own {
		i := slices.IndexFunc(c.Own, func(x measure.Test) bool { return x.ID == t.ID })
		switch {
		case i < 0:
			c.Own, added = append(c.Own, t), true
		case c.Own[i].Unit != t.Unit || c.Own[i].Kind != t.Kind || c.Own[i].Trials < t.Trials:
			return &Error{Kind: Conflict, Text: fmt.Sprintf("The file's own test %q is another one than yours of that name: rename yours first.", t.Name)}
		}
	}
	if !added {
		return nil
	}
	return words(p.SaveBattery(ctx, c.Revision, c), "battery")
}

// Read makes the read of a golfer under a school, "" for their own, among the
// practice's golfers.
func (a *App) Read(ctx context.Context, who *Actor, id, schoolID string) (*quality.Read, error) {
	f, err := a.file(ctx, who, id)
	if err != nil {
		return nil, err
	}
	s, err := a.schoolOf(ctx, who, f, schoolID)
	if err != nil {
		return nil, err
	}
	squad, err := a.squad(ctx, who)
	if err != nil {
		return nil, err
	}
	if s.Next == school.ByBlock {
		if s, err = a.atBlock(ctx, who, id, f, s); err != nil {
			return nil, err
		}
	}
	return quality.Compute(f, s, squad), nil
}

// atBlock is a school whose stages follow each other block by block, as it is in the
// golfer's next one.
func (a *App) atBlock(ctx context.Context, who *Actor, id string, f *athlete.File, s *school.School) (*school.School, error) {
	issued, err := issuedOf(ctx, a.store.For(who.PracticeID), id, 1)
	if err != nil {
		return nil, words(err, "programmes")
	}
	if len(issued) == 0 {
		return s.At(0), nil
	}
	if before := issued[0].doc.Following(f.StartDate); before != nil && before.School == s.ID {
		return s.At(before.Blocks), nil
	}
	return s.At(0), nil
}

// Referral writes the note to a doctor or physiotherapist.
func (a *App) Referral(ctx context.Context, who *Actor, id, to, remark string) (*referral.Note, error) {
	f, err := a.file(ctx, who, id)
	if err != nil {
		return nil, err
	}
	s, err := a.schoolOf(ctx, who, f, "")
	if err != nil {
		return nil, err
	}
	n := referral.Of(f, quality.Compute(f, s, nil), to, who.Practice, who.Name, remark)
	return &n, nil
}
