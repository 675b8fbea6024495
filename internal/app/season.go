package app

import (
	"context"
	"errors"

	"dunnock/internal/core/plan"
	"dunnock/internal/core/season"
)

// Season lays a golfer's season out from their next block on. What was issued last is what
// it goes on from.
func (a *App) Season(ctx context.Context, who *Actor, athleteID string) (*season.Season, []plan.Pencilled, error) {
	f, err := a.file(ctx, who, athleteID)
	if err != nil {
		return nil, nil, err
	}
	m, err := a.methodOf(ctx, who)
	if err != nil {
		return nil, nil, err
	}
	f.School = m.SchoolOf(f.School).ID
	basis, err := plan.BasisOf(f, m)
	if err != nil {
		return nil, nil, err
	}
	if basis, err = a.following(ctx, a.store.For(who.PracticeID), basis, f, m, athleteID); err != nil {
		return nil, nil, err
	}
	s, list, err := basis.Season()
	var no *season.Error
	if errors.As(err, &no) {
		return nil, nil, invalid(no.Field, "%s.", Sentence(no))
	}
	return s, list, err
}
