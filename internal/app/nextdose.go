package app

import (
	"context"
	"errors"
	"fmt"
	"slices"

	"dunnock/internal/core/athlete"
	"dunnock/internal/core/civil"
	"dunnock/internal/core/load"
	"dunnock/internal/core/measure"
	"dunnock/internal/core/nextdose"
	"dunnock/internal/core/plan"
	"dunnock/internal/core/programme"
	"dunnock/internal/core/rulebook"
	"dunnock/internal/core/strength"
	"dunnock/internal/core/training"
	"dunnock/internal/store"
)

// NextDose is what the rules make of what a golfer did, and what was said to it before.
type NextDose struct {
	Proposals   []nextdose.Proposal
	Answers     []store.DoseAnswer
	Rules       []nextdose.Rule
	ProgrammeID string // the version they are for; "": none is trained by
	Version     int
	SmallSteps  bool
}

// NextDose returns the proposals for a golfer's programme.
func (a *App) NextDose(ctx context.Context, who *Actor, athleteID string) (*NextDose, error) {
	t, err := a.trace(ctx, who, athleteID)
	if err != nil {
		return nil, err
	}
	p := a.store.For(who.PracticeID)
	answers, err := p.DoseAnswers(ctx, athleteID)
	if err != nil {
		return nil, err
	}
	set, err := p.FloorSettings(ctx)
	if err != nil {
		return nil, err
	}
	out := &NextDose{Proposals: []nextdose.Proposal{}, Answers: answers, Rules: nextdose.Rules(), SmallSteps: set.SmallSteps}
	v := t.standing(t.file.AsOf)
	if v == nil {
		return out, nil
	}
	out.ProgrammeID, out.Version = v.ID, v.Number
	basis, err := t.basis(v)
	if err != nil {
		return nil, err
	}
	out.Proposals = append(out.Proposals, nextdose.Propose(basis, v.doc, t.history(v, answers, basis))...)
	return out, nil
}

// basis is what a version is judged and changed by today, with what was done.
func (t *traced) basis(v *issuedVersion) (*plan.Basis, error) {
	f := *t.file
	f.School, f.StartDate = t.m.SchoolOf(v.doc.School).ID, v.doc.StartDate
	b, err := plan.BasisOf(&f, t.m)
	if err != nil {
		return nil, err
	}
	return b.WithDone(t.done(v)), nil
}

// done is what weeks of a version that are over came to, by line: of those something was
// noted of.
func (t *traced) done(v *issuedVersion) map[programme.ID]map[rulebook.Line]int {
	out := map[programme.ID]map[rulebook.Line]int{}
	for bi := range v.doc.Blocks {
		for wi := range v.doc.Blocks[bi].Weeks {
			w := &v.doc.Blocks[bi].Weeks[wi]
			if t.file.AsOf.Before(w.Start.Add(7)) {
				continue
			}
			var items []programme.Item
			noted := false
			for si := range w.Sessions {
				s := &w.Sessions[si]
				l := t.logs[string(s.ID)]
				if l == nil {
					continue
				}
				noted = noted || l.Log.Hard()
				was, _, _ := t.planned(string(s.ID))
				items = append(items, load.Done(was, l.Log)...)
			}
			if noted {
				out[w.ID] = rulebook.DoneLines(items)
			}
		}
	}
	return out
}

// history is what was done of a version, as the rules ask for it.
func (t *traced) history(v *issuedVersion, answers []store.DoseAnswer, basis *plan.Basis) nextdose.History {
	h := nextdose.History{Today: t.file.AsOf, Declined: map[string]bool{}, Best: map[string]float64{}, Play: athlete.DaysOfPlay(t.file.Competitions)}
	for _, x := range answers {
		h.Declined[x.Proposal] = true // accepted ones are done with too
	}
	if test, ok := t.file.Tests().Find("cmj"); ok {
		h.JumpError = test.Error
	}
	inDoc := map[string]bool{}
	for bi := range v.doc.Blocks {
		for wi := range v.doc.Blocks[bi].Weeks {
			w := &v.doc.Blocks[bi].Weeks[wi]
			for si := range w.Sessions {
				s := &w.Sessions[si]
				inDoc[string(s.ID)] = true
				l := t.logs[string(s.ID)]
				if l == nil && s.Date.After(t.file.AsOf) || !v.Stands(s.Date) {
					continue
				}
				past := nextdose.Past{Planned: s, Week: w.ID, Number: w.Number, Kind: w.Kind}
				if l != nil {
					past.Planned, _, _ = t.planned(string(s.ID))
					past.Log = l.Log
				}
				h.Past = append(h.Past, past)
			}
		}
	}
	slices.SortStableFunc(h.Past, func(a, b nextdose.Past) int { return a.Date().Sub(b.Date()) })
	// What was lifted before this block.
	for id, l := range t.logs {
		if inDoc[id] {
			continue
		}
		if s, _, _ := t.planned(id); s != nil {
			bests(h.Best, s, l.Log)
		}
	}
	return h
}

// bests takes the best single each exercise's sets speak of, in kg.
func bests(out map[string]float64, s *programme.Session, l *training.Log) {
	for _, it := range load.Done(s, l) {
		d := it.Dose
		if d.LoadKg == nil || d.Reserve == nil || d.Reps < 1 || *d.Reserve > 4 || d.Reps+*d.Reserve > strength.MaxPredictReps {
			continue
		}
		if one, err := strength.PredictTable(*d.LoadKg, float64(d.Reps+*d.Reserve)); err == nil {
			out[it.Exercise] = max(out[it.Exercise], one)
		}
	}
}

// DosePreview is what accepting proposals would make.
type DosePreview struct {
	Judged *plan.Judged
	Left   int // places that are gone or locked
}

// AnswerNextDose accepts and declines proposals, by their ids. What is accepted makes one new
// issued version; its note is the rules' sentences. A draft there is stays as it is.
func (a *App) AnswerNextDose(ctx context.Context, who *Actor, athleteID string, accept, decline []string) (*NextDose, error) {
	now, err := a.NextDose(ctx, who, athleteID)
	if err != nil {
		return nil, err
	}
	find := func(ids []string) ([]nextdose.Proposal, error) {
		var out []nextdose.Proposal
		for _, id := range ids {
			i := slices.IndexFunc(now.Proposals, func(p nextdose.Proposal) bool { return p.ID == id })
			if i < 0 {
				return nil, &Error{Kind: Conflict, Text: "This proposal is not there any more: something was noted or answered since. Look at the list again."}
			}
			out = append(out, now.Proposals[i])
		}
		return out, nil
	}
	yes, err := find(accept)
	if err != nil {
		return nil, err
	}
	no, err := find(decline)
	if err != nil {
		return nil, err
	}
	for _, p := range no {
		if p.AtOnce {
			return nil, &Error{Kind: Refused, Text: "What pain takes out acts at once. End the limit in the intake, with a reason, when it is over."}
		}
	}
	if err := a.takeOn(ctx, who, athleteID, now.ProgrammeID, yes, false); err != nil {
		return nil, err
	}
	var answers []store.DoseAnswer
	for _, p := range no {
		answers = append(answers, store.DoseAnswer{Proposal: p.ID, Rule: p.Rule, Text: p.Text, At: a.now(), By: who.Name})
	}
	if err := a.store.For(who.PracticeID).AnswerDose(ctx, athleteID, answers); err != nil {
		return nil, words(err, "golfer")
	}
	return a.waiting(ctx, who, athleteID)
}

// AskAgain forgets what was said to a proposal that was declined.
func (a *App) AskAgain(ctx context.Context, who *Actor, athleteID, proposal string) (*NextDose, error) {
	answers, err := a.store.For(who.PracticeID).DoseAnswers(ctx, athleteID)
	if err != nil {
		return nil, err
	}
	for _, x := range answers {
		if x.Proposal == proposal && x.Accepted {
			return nil, &Error{Kind: Refused, Text: "What was taken on stands in a version: change the programme to take it back."}
		}
	}
	if err := a.store.For(who.PracticeID).TakeBackAnswer(ctx, athleteID, proposal); err != nil {
		return nil, words(err, "answer")
	}
	return a.waiting(ctx, who, athleteID)
}

// takeOn makes what proposals change the golfer's next version, and puts their limits on the
// golfer, together or not at all.
func (a *App) takeOn(ctx context.Context, who *Actor, athleteID, version string, list []nextdose.Proposal, byItself bool) error {
	if len(list) == 0 {
		return nil
	}
	if err := a.putLimits(ctx, who, athleteID, list); err != nil {
		return err
	}
	made, err := a.issueDose(ctx, who, athleteID, version, list)
	if err != nil {
		return err
	}
	answers := make([]store.DoseAnswer, len(list))
	for i, p := range list {
		answers[i] = store.DoseAnswer{Proposal: p.ID, Rule: p.Rule, Text: p.Text, Accepted: true, ByItself: byItself, ProgrammeID: made, At: a.now(), By: who.Name}
	}
	return words(a.store.For(who.PracticeID).AnswerDose(ctx, athleteID, answers), "golfer")
}

// putLimits puts the limits of proposals on the golfer.
func (a *App) putLimits(ctx context.Context, who *Actor, athleteID string, list []nextdose.Proposal) error {
	var limits []athlete.Limit
	for _, p := range list {
		limits = append(limits, p.Limits...)
	}
	if len(limits) == 0 {
		return nil
	}
	for range saveTries {
		got, err := a.store.For(who.PracticeID).Athlete(ctx, athleteID)
		if err != nil {
			return words(err, "golfer")
		}
		f := got.Facts
		for _, l := range limits {
			if !slices.Contains(f.Limits, l) {
				f.Limits = append(f.Limits, l)
			}
		}
		err = a.store.For(who.PracticeID).UpdateAthlete(ctx, athleteID, got.Revision, &f)
		if !errors.Is(err, store.ErrConflict) {
			return words(err, "golfer")
		}
	}
	return words(store.ErrConflict, "golfer")
}

// issueDose makes a version of what proposals change; "" where they change nothing of it.
func (a *App) issueDose(ctx context.Context, who *Actor, athleteID, version string, list []nextdose.Proposal) (string, error) {
	changes := slices.ContainsFunc(list, func(p nextdose.Proposal) bool { return len(p.Edits) > 0 || len(p.Working) > 0 })
	if !changes || version == "" {
		return "", nil
	}
	t, err := a.trace(ctx, who, athleteID)
	if err != nil {
		return "", err
	}
	v := t.standing(t.file.AsOf)
	if v == nil || v.ID != version {
		return "", &Error{Kind: Conflict, Text: "Another version was issued meanwhile. Look at the list again."}
	}
	basis, err := t.basis(v)
	if err != nil {
		return "", err
	}
	made, _, err := nextdose.Apply(basis, v.doc, list, prefix())
	if err != nil {
		return "", refusal(err)
	}
	before := basis.Judge(v.doc)
	if text := newlyBlocked(before.Rules, made.Rules); text != "" {
		return "", &Error{Kind: Refused, Text: "It cannot be issued. " + text + " Change the programme by hand."}
	}
	frozen, err := t.m.Freeze(made.Doc)
	if err != nil {
		return "", fmt.Errorf("issue over programme %s: %w", v.ID, err)
	}
	note := clip(nextdose.Note(list), athlete.MaxNote)
	id, err := a.store.For(who.PracticeID).IssueOver(ctx, v.ID, t.file.AsOf, who.UserID, note, made.Doc, frozen)
	return id, changedWords(err, who, "programme")
}

// newlyBlocked says what a change breaks that blocks and was not broken before.
func newlyBlocked(before, after []rulebook.Result) string {
	key := func(r rulebook.Result) string { return r.Rule + "|" + string(r.At) }
	was := map[string]bool{}
	for _, r := range before {
		if r.Status == rulebook.Broken {
			was[key(r)] = true
		}
	}
	for _, r := range after {
		if r.Status == rulebook.Broken && r.Severity == rulebook.Blocking && !was[key(r)] {
			return r.Where + ": " + r.Text
		}
	}
	return ""
}

// afterLog is what acts by itself after something was noted: what pain takes out at once, and
// small rises where the practice says so and the session is over. What waits for an answer is
// kept, for the list of today.
func (a *App) afterLog(ctx context.Context, who *Actor, l *store.SessionLog) error {
	pains := slices.ContainsFunc(l.Log.Pains(), func(p training.Hurt) bool { return p.Level >= measure.PainStop || p.Rising || p.Numb })
	old := !l.Log.Date.IsZero() && a.Today(who.Zone).Sub(l.Log.Date) > freshDays // without its day it is of now
	if !l.Log.Over() && !pains || old {
		return nil
	}
	set, err := a.store.For(who.PracticeID).FloorSettings(ctx)
	if err != nil {
		return err
	}
	now, err := a.NextDose(ctx, who, l.AthleteID)
	if err != nil {
		return err
	}
	var list []nextdose.Proposal
	for _, p := range now.Proposals {
		if p.AtOnce && len(p.Limits) > 0 || p.Small && set.SmallSteps && l.Log.Over() {
			list = append(list, p)
		}
	}
	err = a.takeOn(ctx, who, l.AthleteID, now.ProgrammeID, list, true)
	var no *Error
	if err != nil && !errors.As(err, &no) {
		return err // one of ours stands as a proposal, and says why when it is taken on by hand
	}
	if len(list) == 0 {
		return a.keepWaiting(ctx, who, l.AthleteID, now)
	}
	_, err = a.waiting(ctx, who, l.AthleteID)
	return err
}

// freshDays is how old a log may be that something follows from.
const freshDays = 21

// waiting keeps how many proposals of a golfer wait for an answer.
func (a *App) waiting(ctx context.Context, who *Actor, athleteID string) (*NextDose, error) {
	now, err := a.NextDose(ctx, who, athleteID)
	if err != nil {
		return nil, err
	}
	return now, a.keepWaiting(ctx, who, athleteID, now)
}

func (a *App) keepWaiting(ctx context.Context, who *Actor, athleteID string, now *NextDose) error {
	w := store.DoseWaiting{AthleteID: athleteID, Count: len(now.Proposals)}
	if w.Count > 0 {
		w.Text = now.Proposals[0].Text
	}
	return words(a.store.For(who.PracticeID).SaveDoseWaiting(ctx, w), "golfer")
}

// mostLoadDays is how far back load is shown: a year.
const mostLoadDays = 371

// Load returns a golfer's load by day and week, planned against done.
func (a *App) Load(ctx context.Context, who *Actor, athleteID string) (*LoadPage, error) {
	m, err := a.methodOf(ctx, who)
	if err != nil {
		return nil, err
	}
	p := a.store.For(who.PracticeID)
	got, err := p.Athlete(ctx, athleteID)
	if err != nil {
		return nil, words(err, "golfer")
	}
	f := a.dress(who, &got.Facts)
	set, err := p.FloorSettings(ctx)
	if err != nil {
		return nil, err
	}
	t := &traced{file: f, m: m, logs: map[string]*store.SessionLog{}, docs: map[string]*programme.Programme{}}
	if t.issued, err = issuedOf(ctx, p, athleteID, inCalendar); err != nil {
		return nil, words(err, "programme")
	}
	logs, err := p.SessionLogs(ctx, athleteID, f.AsOf.Add(-mostLoadDays), f.AsOf)
	if err != nil {
		return nil, err
	}
	for i := range logs {
		t.logs[logs[i].Session] = &logs[i]
	}
	for _, v := range t.issued {
		t.docs[v.ID] = v.doc
	}
	out := &LoadPage{Days: []load.Day{}, Weeks: []load.Week{}, ToCome: []load.Week{}, Recent: []*float64{}, Usual: []*float64{}, RecentDays: set.RecentDays, UsualDays: set.UsualDays}
	values, err := p.DayValues(ctx, []string{athleteID})
	if err != nil {
		return nil, err
	}
	out.Values = []LoadValue{}
	for _, v := range values[athleteID] {
		out.Values = append(out.Values, LoadValue(v))
	}
	classes, err := a.classesOf(ctx, p, athleteID)
	if err != nil {
		return nil, err
	}
	fast := fastIntent(f)
	days := t.loadDays(classes, fast)
	out.ToCome = t.plannedWeeks(fast)
	if len(days) == 0 {
		return out, nil
	}
	out.From = days[0].Date
	out.Days = load.Fill(days, out.From, f.AsOf)
	out.Weeks = load.Weeks(out.Days)
	loads := make([]*float64, len(out.Days))
	for i := range out.Days {
		loads[i] = out.Days[i].Load
	}
	out.Recent, out.Usual = load.Smooth(loads, set.RecentDays), load.Smooth(loads, set.UsualDays)
	return out, nil
}

// fastIntent is the intent in % from which a golfer's swing is fast.
func fastIntent(f *athlete.File) int {
	if f.Athlete.Level().Tier() == athlete.Novice {
		return 70
	}
	return 90
}

// loadDays are the days something was planned for or done on, from the first log on, oldest
// first.
func (t *traced) loadDays(classes map[string][]programme.Item, fast int) []load.Day {
	byDay := map[civil.Date]*load.Day{}
	at := func(d civil.Date) *load.Day {
		if byDay[d] == nil {
			zero := 0.0
			byDay[d] = &load.Day{Date: d, Load: &zero}
		}
		return byDay[d]
	}
	var first civil.Date
	for _, l := range t.logs {
		if !l.Log.Trained() || l.Log.Date.IsZero() {
			continue
		}
		if first.IsZero() || l.Log.Date.Before(first) {
			first = l.Log.Date
		}
		day := at(l.Log.Date)
		s, _, _ := t.planned(l.Session)
		if s == nil {
			s = &programme.Session{Items: classes[l.Session]}
		}
		c := load.Of(load.Done(s, l.Log), t.m.Exercises, fast)
		if l.Log.How.Minutes != nil {
			c.Minutes = float64(*l.Log.How.Minutes)
		}
		day.Done = day.Done.Add(c)
		day.Sessions++
		if v, known := l.Log.Load(); known && day.Load != nil {
			sum := *day.Load + v
			day.Load = &sum
		} else if l.Kind != store.LogHome || l.Log.How.Effort != nil {
			day.Load = nil
		}
	}
	if first.IsZero() {
		return nil
	}
	for _, d := range t.between(first.Monday(), t.file.AsOf) {
		if d.kind != store.LogPlanned {
			continue
		}
		day := at(d.session.Date)
		c := load.Of(d.session.Items, t.m.Exercises, fast)
		c.Minutes = float64(d.session.Budget)
		day.Planned = day.Planned.Add(c)
		switch l := t.logs[string(d.session.ID)]; {
		case l == nil && d.session.Date.Before(t.file.AsOf):
			day.Load = nil // nobody knows whether it was trained
			day.Missed++
		case l != nil && l.Log.State == training.Missed:
			day.Missed++
		}
	}
	out := []load.Day{}
	for d := first.Monday(); !d.After(t.file.AsOf); d = d.Add(1) {
		if x := byDay[d]; x != nil {
			out = append(out, *x)
		}
	}
	return out
}

// plannedWeeks are the weeks to come.
func (t *traced) plannedWeeks(fast int) []load.Week {
	out := []load.Week{}
	for _, d := range t.between(t.file.AsOf.Monday(), t.file.AsOf.Add(70)) {
		if d.kind != store.LogPlanned {
			continue
		}
		start := d.session.Date.Monday()
		if n := len(out); n == 0 || out[n-1].Start != start {
			out = append(out, load.Week{Start: start})
		}
		w := &out[len(out)-1]
		c := load.Of(d.session.Items, t.m.Exercises, fast)
		c.Minutes = float64(d.session.Budget)
		w.Planned, w.Sessions = w.Planned.Add(c), w.Sessions+1
	}
	return out
}

// FloorSettings is how the practice works on the floor.
func (a *App) FloorSettings(ctx context.Context, who *Actor) (store.FloorSettings, error) {
	return a.store.For(who.PracticeID).FloorSettings(ctx)
}

// SaveFloorSettings keeps how the practice works on the floor.
func (a *App) SaveFloorSettings(ctx context.Context, who *Actor, s store.FloorSettings) (store.FloorSettings, error) {
	switch {
	case s.RecentDays < load.RecentLeast || s.RecentDays > load.RecentMost:
		return s, invalid("recentDays", "Recent is %d to %d days.", load.RecentLeast, load.RecentMost)
	case s.UsualDays < load.UsualLeast || s.UsualDays > load.UsualMost:
		return s, invalid("usualDays", "Usual is %d to %d days.", load.UsualLeast, load.UsualMost)
	}
	return s, words(a.store.For(who.PracticeID).SaveFloorSettings(ctx, s), "settings")
}
