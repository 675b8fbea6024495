package app

import (
	"context"
	"crypto/rand"
	"encoding/binary"

	"dunnock/internal/core/athlete"
	"dunnock/internal/core/speed/diary"
	plain "dunnock/internal/core/words"
	"dunnock/internal/store"
)

// Speed returns what a golfer's swings say.
func (a *App) Speed(ctx context.Context, who *Actor, athleteID string) (*diary.Page, error) {
	f, err := a.file(ctx, who, athleteID)
	if err != nil {
		return nil, err
	}
	p := a.store.For(who.PracticeID)
	page, all, err := diaryOf(ctx, p, f, athleteID)
	if err != nil {
		return nil, err
	}
	trials, err := p.Trials(ctx, athleteID)
	if err != nil {
		return nil, err
	}
	te := 0.0
	if t, ok := f.Tests().Find("driver-speed"); ok {
		te = t.Error
	}
	for i := range trials {
		page.Trials = append(page.Trials, diary.ViewTrial(&trials[i], all, page.Own.ID, te, a.now()))
	}
	return page, nil
}

// diaryOf is the golfer's swings as the speed page shows them, with the series they come from.
func diaryOf(ctx context.Context, p *store.Practice, f *athlete.File, athleteID string) (*diary.Page, []diary.Series, error) {
	all, err := p.AllSeries(ctx, athleteID)
	if err != nil {
		return nil, nil, err
	}
	owned, err := p.Implements(ctx)
	if err != nil {
		return nil, nil, err
	}
	page, err := diary.PageOf(f, all, owned)
	return page, all, err
}

// StartTrial begins a comparison of two warm-ups on a golfer. Halves of one day are for
// with against without the heavy implement alone: the coach says so by choosing them.
func (a *App) StartTrial(ctx context.Context, who *Actor, athleteID, first, second, way string) (*diary.Page, error) {
	for field, name := range map[string]string{"a": first, "b": second} {
		if why := plain.Name(name, 120); why != "" {
			return nil, invalid(field, "What a warm-up is called %s.", why)
		}
	}
	if first == second {
		return nil, invalid("b", "Two different warm-ups are compared.")
	}
	var seed [8]byte
	if _, err := rand.Read(seed[:]); err != nil {
		return nil, err
	}
	t := diary.Trial{AthleteID: athleteID, A: first, B: second, Way: way, Seed: binary.BigEndian.Uint64(seed[:]), CreatedAt: a.now()}
	if _, err := a.store.For(who.PracticeID).CreateTrial(ctx, t); err != nil {
		return nil, words(err, "golfer")
	}
	return a.Speed(ctx, who, athleteID)
}

// RemoveTrial removes a trial with its series.
func (a *App) RemoveTrial(ctx context.Context, who *Actor, id string) error {
	return words(a.store.For(who.PracticeID).DeleteTrial(ctx, id), "warm-up trial")
}

// placeInTrial is the place a series of a trial takes now.
func (a *App) placeInTrial(ctx context.Context, who *Actor, athleteID, trial string, felt int) (*diary.InTrial, error) {
	page, err := a.Speed(ctx, who, athleteID)
	if err != nil {
		return nil, err
	}
	for _, t := range page.Trials {
		if t.ID == trial {
			if t.Next.Wait != "" {
				return nil, &Error{Kind: Refused, Text: "The next series of this trial is " + t.Next.Wait + "."}
			}
			return &diary.InTrial{Trial: trial, Arm: t.Next.Arm, Pair: t.Next.Pair, Felt: felt}, nil
		}
	}
	return nil, &Error{Kind: NotFound, Text: "There is no such warm-up trial of this golfer."}
}
