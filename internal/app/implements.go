package app

import (
	"context"
	"errors"
	"fmt"

	"dunnock/internal/core/implement"
	plain "dunnock/internal/core/words"
	"dunnock/internal/store"
)

// PracticeImplements returns what the practice owns to swing.
func (a *App) PracticeImplements(ctx context.Context, who *Actor) ([]implement.Implement, error) {
	return a.store.For(who.PracticeID).Implements(ctx)
}

// SavePracticeImplements replaces what the practice owns to swing.
func (a *App) SavePracticeImplements(ctx context.Context, who *Actor, list []implement.Implement) error {
	if err := checkImplements(list, 60); err != nil {
		return err
	}
	return a.store.For(who.PracticeID).SaveImplements(ctx, list)
}

// checkImplements says what is wrong with a list of implements.
func checkImplements(list []implement.Implement, most int) error {
	seen := map[string]bool{}
	if len(list) > most {
		return invalid("implements", "At most %d implements.", most)
	}
	for i, x := range list {
		if text := x.Validate(); text != "" {
			return invalid(fmt.Sprintf("implements[%d]", i), "%s: %s.", x.Name, text)
		}
		if plain.Name(x.ID, 40) != "" || seen[x.ID] {
			return invalid(fmt.Sprintf("implements[%d].id", i), "%s: it has an id of its own.", x.Name)
		}
		seen[x.ID] = true
	}
	return nil
}

// GolfersImplements returns what a golfer owns to swing beside the driver.
func (a *App) GolfersImplements(ctx context.Context, who *Actor, athleteID string) ([]implement.Implement, error) {
	got, err := a.store.For(who.PracticeID).Athlete(ctx, athleteID)
	if err != nil {
		return nil, words(err, "golfer")
	}
	return append([]implement.Implement{}, got.Facts.Implements...), nil
}

// SaveGolfersImplements replaces what a golfer owns to swing beside the driver; of the
// other facts nothing changes.
func (a *App) SaveGolfersImplements(ctx context.Context, who *Actor, athleteID string, list []implement.Implement) error {
	if err := checkImplements(list, 30); err != nil {
		return err
	}
	p := a.store.For(who.PracticeID)
	for range implementTries {
		got, err := p.Athlete(ctx, athleteID)
		if err != nil {
			return words(err, "golfer")
		}
		got.Facts.Implements = list
		err = p.UpdateAthlete(ctx, athleteID, got.Revision, &got.Facts)
		if !errors.Is(err, store.ErrConflict) {
			return words(err, "golfer")
		}
	}
	return &Error{Kind: Conflict, Text: "The golfer is being changed by others all the time: try again."}
}

// implementTries is how often others may get in between.
const implementTries = 5
