package app

import (
	"context"
	"errors"
	"runtime"
	"sync"

	"dunnock/internal/core/programme/derive"
	"dunnock/internal/store"
)

// Replanned is what drafting again would change for one golfer who has a draft.
type Replanned struct {
	AthleteID string `json:"athleteId"`
	Name      string `json:"name"`
	Changes   int    `json:"changes"`       // lines of the difference
	First     string `json:"first"`         // the first of them
	School    string `json:"school"`        // the draft's
	Start     string `json:"start"`         // its first day
	Why       string `json:"why,omitempty"` // why it cannot be drafted again
}

// Replan says for every golfer who has a draft what drafting it again would change; nothing
// is stored. each is called as golfers are done, one at a time, with how many of how many
// are; its error ends it, as the context does.
func (a *App) Replan(ctx context.Context, who *Actor, each func(done, of int, r *Replanned) error) error {
	entries, err := a.store.For(who.PracticeID).Squad(ctx, false)
	if err != nil {
		return err
	}
	type todo struct {
		entry *store.SquadEntry
		draft store.Programme
	}
	var list []todo
	for i := range entries {
		for _, p := range entries[i].Programmes {
			if p.Status == store.Draft {
				list = append(list, todo{&entries[i], p})
			}
		}
	}
	if len(list) == 0 {
		return each(0, 0, nil)
	}
	ctx, stop := context.WithCancel(ctx)
	defer stop()
	next, done := make(chan todo), make(chan *Replanned)
	var wg sync.WaitGroup
	for range min(len(list), runtime.GOMAXPROCS(0)+1) {
		wg.Go(func() {
			for t := range next {
				r := a.replanned(ctx, who, t.entry.ID, t.entry.Facts.Athlete.Name, &t.draft)
				select {
				case done <- r:
				case <-ctx.Done():
					return
				}
			}
		})
	}
	go func() {
		defer close(next)
		for _, t := range list {
			select {
			case next <- t:
			case <-ctx.Done():
				return
			}
		}
	}()
	defer wg.Wait()
	defer stop()
	for n := range list {
		select {
		case r := <-done:
			if err := each(n+1, len(list), r); err != nil {
				return err
			}
		case <-ctx.Done():
			return ctx.Err()
		}
	}
	return nil
}

func (a *App) replanned(ctx context.Context, who *Actor, id, name string, draft *store.Programme) *Replanned {
	r := &Replanned{AthleteID: id, Name: name, School: draft.School, Start: draft.StartDate.String()}
	w := Wanted{School: draft.School, Start: draft.StartDate}
	if draft.StartDate.Before(a.Today(who.Zone).Add(-28)) {
		r.Why = "The draft began more than four weeks ago: discard it or issue it."
		return r
	}
	list, err := a.DraftDifferences(ctx, who, id, w)
	var known *Error
	switch {
	case errors.As(err, &known):
		r.Why = known.Text
	case err != nil:
		r.Why = "It could not be planned: try it on its own page."
	default:
		r.Changes = len(list)
		r.First = firstOf(list)
	}
	return r
}

func firstOf(list []derive.Difference) string {
	if len(list) == 0 {
		return ""
	}
	return list[0].Where + ": " + list[0].Words
}
