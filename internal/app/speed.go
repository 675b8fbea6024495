package app

import (
	"context"

	"dunnock/internal/core/speed/diary"
)

// Speed returns what a golfer's swings say.
func (a *App) Speed(ctx context.Context, who *Actor, athleteID string) (*diary.Page, error) {
	f, err := a.file(ctx, who, athleteID)
	if err != nil {
		return nil, err
	}
	p := a.store.For(who.PracticeID)
	all, err := p.AllSeries(ctx, athleteID)
	if err != nil {
		return nil, err
	}
	owned, err := p.Implements(ctx)
	if err != nil {
		return nil, err
	}
	return diary.PageOf(f, all, owned)
}
