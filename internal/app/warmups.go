package app

import (
	"context"
	"errors"
	"slices"
	"strings"
	"time"

	"dunnock/internal/core/athlete"
	"dunnock/internal/core/card"
	"dunnock/internal/core/library"
	"dunnock/internal/core/programme"
	"dunnock/internal/core/programme/derive"
	"dunnock/internal/core/quality"
	"dunnock/internal/core/speed/diary"
	"dunnock/internal/core/warmup"
	plain "dunnock/internal/core/words"
	"dunnock/internal/store"
)

// swung completes what the work path says of series and warm-ups.
func (a *App) swung(ctx context.Context, p *store.Practice, g *Golfer) error {
	series, warmUps, cold, err := p.Swung(ctx, g.ID)
	if err != nil {
		return err
	}
	if series > 0 {
		g.Path.Speed = plural(series, "series")
		if series > 1 {
			g.Path.Speed = g.Path.Speed[:len(g.Path.Speed)-1] // series is its own plural
		}
	}
	if !cold.IsZero() && !g.Facts.AsOf.Before(cold.Add(diary.DueDays)) {
		g.Path.Speed = "cold start due"
	}
	if warmUps > 0 {
		g.Path.WarmUp = plural(warmUps, "kept warm-up")
	}
	logged, last, err := p.CountLogs(ctx, g.ID)
	if logged > 0 {
		g.Path.Floor = "last " + last.Words()
	}
	return err
}

// person is what a warm-up depends on of a golfer.
func (a *App) person(ctx context.Context, who *Actor, athleteID string) (*warmup.Person, *athlete.File, error) {
	f, err := a.file(ctx, who, athleteID)
	if err != nil {
		return nil, nil, err
	}
	p, err := a.personOf(ctx, who, f)
	return p, f, err
}

func (a *App) personOf(ctx context.Context, who *Actor, f *athlete.File) (*warmup.Person, error) {
	m, err := a.methodOf(ctx, who)
	if err != nil {
		return nil, err
	}
	s := m.SchoolOf(f.School)
	share := s.OtherSideShare
	if f.OtherSideShare != nil {
		share = *f.OtherSideShare
	}
	owned, err := a.store.For(who.PracticeID).Implements(ctx)
	if err != nil {
		return nil, err
	}
	p := warmup.PersonOf(f, quality.Compute(f, s, nil), share)
	p.Implements = append(p.Implements, owned...)
	return p, nil
}

// checkWarmUp says what is wrong with a request.
func checkWarmUp(r *warmup.Request) error {
	for _, p := range r.Validate() {
		return invalid("request."+p.Path, "%s.", Sentence(errors.New(p.Text)))
	}
	return nil
}

func warmUpWords(err error) error {
	var no *warmup.Refusal
	switch {
	case errors.As(err, &no):
		return &Error{Kind: Refused, Text: no.Text}
	case err != nil:
		return invalid("items", "%s", Sentence(errors.New(trimmed(err))))
	}
	return nil
}

func trimmed(err error) string {
	const prefix = "warmup: "
	if s := err.Error(); len(s) > len(prefix) && s[:len(prefix)] == prefix {
		return s[len(prefix):]
	}
	return err.Error()
}

// BuildWarmUp makes the warm-up a request asks for.
func (a *App) BuildWarmUp(ctx context.Context, who *Actor, athleteID string, r warmup.Request) (*warmup.WarmUp, error) {
	if err := checkWarmUp(&r); err != nil {
		return nil, err
	}
	p, _, err := a.person(ctx, who, athleteID)
	if err != nil {
		return nil, err
	}
	w, err := warmup.Build(p, r)
	return w, warmUpWords(err)
}

// BuildLate makes the warm-up there is still time for at a time of day, HH:MM, before the
// request's tee time.
func (a *App) BuildLate(ctx context.Context, who *Actor, athleteID string, r warmup.Request, now string) (*warmup.WarmUp, error) {
	if err := checkWarmUp(&r); err != nil {
		return nil, err
	}
	var err error
	if r.Minutes, err = minutesLeft(r, now); err != nil {
		return nil, err
	}
	return a.BuildWarmUp(ctx, who, athleteID, r)
}

// minutesLeft is for how many of a request's minutes there is still time.
func minutesLeft(r warmup.Request, now string) (int, error) {
	left, err := warmup.Left(now, r.Tee, r.Walk)
	switch {
	case err != nil:
		return 0, invalid("now", "%s", Sentence(err))
	case left < 1:
		return 0, &Error{Kind: Refused, Text: "No time is left: walk briskly to the tee and hold the first swing back to 85%."}
	}
	return min(r.Minutes, left), nil
}

// JudgeWarmUp judges the items a coach has put together, and with a rule mends what it
// finds broken.
func (a *App) JudgeWarmUp(ctx context.Context, who *Actor, athleteID string, r warmup.Request, items []warmup.Item, mend string) (*warmup.WarmUp, error) {
	if err := checkWarmUp(&r); err != nil {
		return nil, err
	}
	p, _, err := a.person(ctx, who, athleteID)
	if err != nil {
		return nil, err
	}
	w, err := warmup.Edited(p, r, items)
	if err == nil && mend != "" {
		w, err = warmup.Mend(p, w, mend)
	}
	return w, warmUpWords(err)
}

// WarmUpCard judges items as they stand for a card, and returns the golfer's name with
// them.
func (a *App) WarmUpCard(ctx context.Context, who *Actor, athleteID string, r warmup.Request, items []warmup.Item) (*warmup.WarmUp, string, error) {
	w, err := a.JudgeWarmUp(ctx, who, athleteID, r, items, "")
	if err != nil {
		return nil, "", err
	}
	got, err := a.store.For(who.PracticeID).Athlete(ctx, athleteID)
	if err != nil {
		return nil, "", words(err, "golfer")
	}
	return w, got.Facts.Athlete.Name, nil
}

// WarmUpAlternatives are what may stand in a phase beside what is there.
func (a *App) WarmUpAlternatives(ctx context.Context, who *Actor, athleteID string, r warmup.Request, items []warmup.Item, phase warmup.Phase) ([]warmup.Item, error) {
	if err := checkWarmUp(&r); err != nil {
		return nil, err
	}
	p, _, err := a.person(ctx, who, athleteID)
	if err != nil {
		return nil, err
	}
	return append([]warmup.Item{}, warmup.Alternatives(p, &warmup.WarmUp{Request: r, Items: items}, phase)...), nil
}

// GroupAsk is what a group's warm-up is asked for: built, or with items as they stand
// judged, and with a rule mended.
type GroupAsk struct {
	Athletes []string
	Request  warmup.Request
	Items    []warmup.Item // nil: built
	Mend     string
	Now      string // HH:MM, late for the tee time; empty: in time
}

// group are the golfers asked for, in one line.
func (a *App) group(ctx context.Context, who *Actor, g *GroupAsk) (*warmup.Group, []warmup.Member, error) {
	if len(g.Athletes) == 0 || len(g.Athletes) > 60 {
		return nil, nil, invalid("athletes", "A group is 1 to 60 golfers.")
	}
	if err := checkWarmUp(&g.Request); err != nil {
		return nil, nil, err
	}
	members := make([]warmup.Member, len(g.Athletes))
	for i, id := range g.Athletes {
		p, f, err := a.person(ctx, who, id)
		if err != nil {
			return nil, nil, err
		}
		members[i] = warmup.Member{Name: f.Athlete.Name, Person: p}
	}
	line, err := warmup.GroupOf(members)
	return line, members, warmUpWords(err)
}

// GroupWarmUp makes or judges one warm-up for golfers who stand in line, and says who does
// what otherwise.
func (a *App) GroupWarmUp(ctx context.Context, who *Actor, ask GroupAsk) (*warmup.WarmUp, error) {
	line, _, err := a.group(ctx, who, &ask)
	if err != nil {
		return nil, err
	}
	if ask.Items == nil {
		if ask.Now != "" {
			if ask.Request.Minutes, err = minutesLeft(ask.Request, ask.Now); err != nil {
				return nil, err
			}
		}
		w, err := line.Build(ask.Request)
		return w, warmUpWords(err)
	}
	w, err := line.Edited(ask.Request, ask.Items)
	if err == nil && ask.Mend != "" {
		w, err = line.Mend(w, ask.Mend)
	}
	return w, warmUpWords(err)
}

// GroupAlternatives are what may stand in a phase of a group's warm-up beside what is
// there.
func (a *App) GroupAlternatives(ctx context.Context, who *Actor, ask GroupAsk, phase warmup.Phase) ([]warmup.Item, error) {
	line, _, err := a.group(ctx, who, &ask)
	if err != nil {
		return nil, err
	}
	return append([]warmup.Item{}, line.Alternatives(&warmup.WarmUp{Request: ask.Request, Items: ask.Items}, phase)...), nil
}

// GroupCard judges items as they stand for a card, and returns the names of the line.
func (a *App) GroupCard(ctx context.Context, who *Actor, ask GroupAsk) (*warmup.WarmUp, string, error) {
	line, members, err := a.group(ctx, who, &ask)
	if err != nil {
		return nil, "", err
	}
	w, err := line.Edited(ask.Request, ask.Items)
	if err != nil {
		return nil, "", warmUpWords(err)
	}
	names := make([]string, len(members))
	for i, m := range members {
		names[i] = m.Name
	}
	return w, strings.Join(names, ", "), nil
}

// SessionWarmUp makes the warm-up of a programme's session: of its minutes and for what
// it holds, as the golfer is today and in the golfer's own words.
func (a *App) SessionWarmUp(ctx context.Context, who *Actor, programmeID, sessionID string) (*warmup.WarmUp, error) {
	o, err := a.open(ctx, who, programmeID)
	if err != nil {
		return nil, err
	}
	session, err := o.session(sessionID)
	if err != nil {
		return nil, err
	}
	p, err := a.personOf(ctx, who, o.file)
	if err != nil {
		return nil, err
	}
	w, err := warmup.Build(p, sessionRequest(session, o.file))
	if err != nil {
		return nil, warmUpWords(err)
	}
	w.Items = card.Of(o.file.Athlete.PlayingSide).WarmUp(w.Items)
	return w, nil
}

// session is one of an opened programme.
func (o *opened) session(id string) (session *programme.Session, err error) {
	for i := range o.stored.Doc.Blocks {
		o.stored.Doc.Blocks[i].EachSession(func(_ *programme.Week, s *programme.Session) {
			if string(s.ID) == id {
				session = s
			}
		})
	}
	if session == nil {
		return nil, &Error{Kind: NotFound, Text: "There is no such session in this programme."}
	}
	return session, nil
}

// SessionCard says a programme's session in the golfer's own words.
func (a *App) SessionCard(ctx context.Context, who *Actor, programmeID, sessionID string) ([]card.Item, error) {
	o, err := a.open(ctx, who, programmeID)
	if err != nil {
		return nil, err
	}
	if _, err := o.session(sessionID); err != nil {
		return nil, err
	}
	own := card.Of(o.file.Athlete.PlayingSide)
	var out []card.Item
	for _, b := range o.view(o.Judge(o.stored.Doc)).View.Blocks {
		for _, week := range b.Weeks {
			for _, s := range week.Sessions {
				for i := range s.Items {
					if string(s.ID) == sessionID {
						out = append(out, own.Item(&s.Items[i]))
					}
				}
			}
		}
	}
	return out, nil
}

// Timed is what a clock runs of a session: its swings and its grip work.
func (a *App) Timed(ctx context.Context, who *Actor, programmeID, sessionID string) ([]derive.TimedPart, error) {
	o, err := a.open(ctx, who, programmeID)
	if err != nil {
		return nil, err
	}
	session, err := o.session(sessionID)
	if err != nil {
		return nil, err
	}
	return derive.TimedParts(session, o.by.Exercises), nil
}

// sessionRequest is what a session asks of its warm-up.
func sessionRequest(s *programme.Session, f *athlete.File) warmup.Request {
	has := func(slot library.Slot) bool {
		return slices.ContainsFunc(s.Items, func(it programme.Item) bool { return it.Slot == slot })
	}
	fast := has(library.SlotSwings)
	return warmup.SessionRequest(fast, has(library.SlotThrow) || has(library.SlotJump), f.Training.Kit)
}

// WarmUps returns the warm-ups kept for a golfer and for the practice.
func (a *App) WarmUps(ctx context.Context, who *Actor, athleteID string) ([]store.WarmUp, error) {
	p := a.store.For(who.PracticeID)
	if err := p.HasAthlete(ctx, athleteID); err != nil {
		return nil, words(err, "golfer")
	}
	return p.WarmUps(ctx, athleteID)
}

// KeepWarmUp stores a warm-up, new or over the one with its id.
func (a *App) KeepWarmUp(ctx context.Context, who *Actor, w store.WarmUp) (*store.WarmUp, error) {
	if why := plain.Name(w.Name, 120); why != "" {
		return nil, invalid("name", "The name %s.", why)
	}
	if _, err := a.JudgeWarmUp(ctx, who, w.AthleteID, w.Request, w.Items, ""); err != nil {
		return nil, err
	}
	w.CreatedAt = time.Now()
	saved, err := a.store.For(who.PracticeID).SaveWarmUp(ctx, w)
	return saved, words(err, "warm-up")
}

// RemoveWarmUp removes a kept warm-up.
func (a *App) RemoveWarmUp(ctx context.Context, who *Actor, id string) error {
	return words(a.store.For(who.PracticeID).DeleteWarmUp(ctx, id), "warm-up")
}
