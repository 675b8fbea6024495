package app

import (
	"context"
	"errors"
	"fmt"
	"math"
	"slices"
	"strings"

	"github.com/google/uuid"

	"dunnock/internal/core/athlete"
	"dunnock/internal/core/civil"
	"dunnock/internal/core/speed"
	"dunnock/internal/core/speed/diary"
	plain "dunnock/internal/core/words"
	"dunnock/internal/store"
)

// NewSeries is what a series begins with.
type NewSeries struct {
	ID     string
	Date   civil.Date
	Kind   string
	Before string
	Raised bool
	Note   string
	Swings []diary.Swing
	// Of a warm-up trial: which one, and how fast it felt, 0 to 10, said before the first
	// number; InTrial brings a removed one back to its place.
	Trial   string
	Felt    int
	InTrial *diary.InTrial
}

// StartSeries begins a series; with swings, it brings one back that was removed or in
// one that was read from a file.
func (a *App) StartSeries(ctx context.Context, who *Actor, athleteID string, n NewSeries) (*diary.View, error) {
	f, err := a.file(ctx, who, athleteID)
	if err != nil {
		return nil, err
	}
	if n.Date.IsZero() {
		n.Date = f.AsOf
	}
	if n.Date.After(f.AsOf) || n.Date.Before(f.AsOf.Add(-3660)) {
		return nil, invalid("date", "A series is of today or before, not of %s.", n.Date.Words())
	}
	if n.ID != "" && uuid.Validate(n.ID) != nil {
		return nil, invalid("id", "An id is a UUID.")
	}
	if text := plain.Text(n.Before, athlete.MaxNote); text != "" {
		return nil, invalid("before", "What came before %s.", text)
	}
	if text := plain.Text(n.Note, athlete.MaxNote); text != "" {
		return nil, invalid("note", "The note %s.", text)
	}
	if n.Kind == diary.ColdStartKind {
		why, raised := diary.MayStartCold(f)
		if why != "" && n.Date == f.AsOf {
			return nil, &Error{Kind: Refused, Text: why + " A cold start is not made."}
		}
		if raised && !n.Raised {
			return nil, &Error{Kind: Refused, Text: "Juniors and golfers of 60 and over raise and move their joints first: say that it was done."}
		}
	}
	if err := checkSwings(n.Swings); err != nil {
		return nil, err
	}
	p := a.store.For(who.PracticeID)
	in := n.InTrial
	if n.Kind == diary.TrialKind && in == nil && !a.hasSeries(ctx, p, n.ID) {
		if in, err = a.placeInTrial(ctx, who, athleteID, n.Trial, n.Felt); err != nil {
			return nil, err
		}
	}
	id, err := p.CreateSeries(ctx, store.Series{InTrial: in, ID: n.ID, AthleteID: athleteID, Date: n.Date, Kind: n.Kind, Before: n.Before, Raised: n.Raised, Note: n.Note, Swings: n.Swings, CreatedAt: a.now(), CreatedBy: who.Name})
	if err != nil {
		return nil, seriesWords(err)
	}
	return a.series(ctx, p, id)
}

// hasSeries reports whether a series was begun already: sent twice, it keeps its place.
func (a *App) hasSeries(ctx context.Context, p *store.Practice, id string) bool {
	if id == "" {
		return false
	}
	_, err := p.Series(ctx, id)
	return err == nil
}

func seriesWords(err error) error {
	if errors.Is(err, store.ErrFull) {
		return invalid("swings", "A series holds %d swings: begin another.", store.MaxSwings)
	}
	return words(err, "series")
}

// series returns one with its view.
func (a *App) series(ctx context.Context, p *store.Practice, id string) (*diary.View, error) {
	s, err := p.Series(ctx, id)
	if err != nil {
		return nil, seriesWords(err)
	}
	all, err := p.AllSeries(ctx, s.AthleteID)
	if err != nil {
		return nil, err
	}
	var earlier []store.Series
	for i := range all {
		if all[i].ID == id {
			earlier = all[i+1:]
		}
	}
	return diary.ViewOf(s, earlier), nil
}

// SaveSwings adds swings to a series or changes those it has, by their ids: what is sent
// twice is kept once. The order they are sent in is the order they were made in.
func (a *App) SaveSwings(ctx context.Context, who *Actor, seriesID string, swings []diary.Swing) (*diary.View, error) {
	if err := checkSwings(swings); err != nil {
		return nil, err
	}
	return a.changeSeries(ctx, who, seriesID, func(s *store.Series) {
		for _, x := range swings {
			if i := slices.IndexFunc(s.Swings, func(y diary.Swing) bool { return y.ID == x.ID }); i >= 0 {
				s.Swings[i] = x
				continue
			}
			s.Swings = append(s.Swings, x)
		}
	})
}

// RemoveSwings takes swings out of a series, by their ids: the undo of adding them.
func (a *App) RemoveSwings(ctx context.Context, who *Actor, seriesID string, ids []string) (*diary.View, error) {
	return a.changeSeries(ctx, who, seriesID, func(s *store.Series) {
		s.Swings = slices.DeleteFunc(s.Swings, func(x diary.Swing) bool { return slices.Contains(ids, x.ID) })
	})
}

// NoteSeries changes what is written beside a series.
func (a *App) NoteSeries(ctx context.Context, who *Actor, seriesID, before, note string) (*diary.View, error) {
	for field, text := range map[string]string{"before": before, "note": note} {
		if why := plain.Text(text, athlete.MaxNote); why != "" {
			return nil, invalid(field, "The text %s.", why)
		}
	}
	return a.changeSeries(ctx, who, seriesID, func(s *store.Series) { s.Before, s.Note = before, note })
}

func (a *App) changeSeries(ctx context.Context, who *Actor, id string, change func(*store.Series)) (*diary.View, error) {
	p := a.store.For(who.PracticeID)
	if _, err := p.ChangeSeries(ctx, id, func(s *store.Series) error { change(s); return nil }); err != nil {
		return nil, seriesWords(err)
	}
	return a.series(ctx, p, id)
}

// RemoveSeries removes a series and returns it, to bring it back.
func (a *App) RemoveSeries(ctx context.Context, who *Actor, id string) (*diary.View, error) {
	p := a.store.For(who.PracticeID)
	v, err := a.series(ctx, p, id)
	if err != nil {
		return nil, err
	}
	return v, seriesWords(p.DeleteSeries(ctx, id))
}

// checkSwings says what is impossible about swings, and which one it is.
func checkSwings(swings []diary.Swing) error {
	if len(swings) > store.MaxSwings {
		return invalid("swings", "A series holds %d swings: begin another.", store.MaxSwings)
	}
	for i := range swings {
		x := &swings[i]
		bad := func(field, format string, args ...any) error {
			return invalid(fmt.Sprintf("swings[%d].%s", i, field), "Swing %d: %s", i+1, fmt.Sprintf(format, args...))
		}
		if err := speed.CheckSpeed(x.ClubMps); err != nil {
			return bad("clubMps", "%s.", strings.TrimPrefix(err.Error(), "speed: "))
		}
		if plain.Name(x.ID, 40) != "" || plain.Name(x.Implement, 60) != "" || plain.Text(x.Drill, 60) != "" {
			return bad("implement", "it names an implement, and has an id.")
		}
		if x.Side != speed.Playing && x.Side != speed.Other {
			return bad("side", "use playing or other.")
		}
		if !slices.Contains(speed.Intents(), x.Intent) {
			return bad("intent", "use %s.", strings.Join(speed.Intents(), ", "))
		}
		if x.Set < 1 || x.Set > 100 || !(x.AtS >= -1 && x.AtS <= 1e6) {
			return bad("set", "sets are 1 to 100, and it was made within days.")
		}
		if why := plain.Text(x.Void, 60) + plain.Text(x.Note, athlete.MaxNote); why != "" {
			return bad("note", "the text %s.", why)
		}
		for _, n := range []struct {
			field    string
			v        float64
			low, top float64
		}{{"ballMps", x.BallMps, 5, 120}, {"carryM", x.CarryM, 1, 420}, {"launchDeg", x.Launch, 0.1, 60}, {"spinRpm", x.SpinRpm, 1, 12000}} {
			if n.v != 0 && !(n.v >= n.low && n.v <= n.top) {
				return bad(n.field, "%g is outside of %g to %g; 0 where it was not measured.", n.v, n.low, n.top)
			}
		}
		if k := x.Strike; k != nil && !(math.Abs(k.ToeMm) <= 80 && math.Abs(k.HighMm) <= 60 && math.Abs(k.DirectionDeg) <= 90) {
			return bad("strike", "a strike lies on the face, and the start within 90 degrees.")
		}
	}
	return nil
}
