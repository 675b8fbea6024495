package app

import (
	"context"
	"errors"
	"fmt"
	"slices"

	"dunnock/internal/core/implement"
	plain "dunnock/internal/core/words"
	"dunnock/internal/store"
)

// PracticeImplements returns what the practice owns to swing.
func (a *App) PracticeImplements(ctx context.Context, who *Actor) ([]implement.Implement, error) {
	return a.store.For(who.PracticeID).Implements(ctx)
}

// ImplementChanges are what is new or changed and what goes, by id.
type ImplementChanges struct {
	Save   []implement.Implement
	Remove []string
}

// in returns a list with the changes in it, at most so many.
func (c *ImplementChanges) in(list []implement.Implement, most int) ([]implement.Implement, error) {
	out := slices.DeleteFunc(slices.Clone(list), func(i implement.Implement) bool { return slices.Contains(c.Remove, i.ID) })
	for _, x := range c.Save {
		if at := slices.IndexFunc(out, func(i implement.Implement) bool { return i.ID == x.ID }); at >= 0 {
			out[at] = x
		} else {
			out = append(out, x)
		}
	}
	return out, checkImplements(out, most)
}

// How much a practice and a golfer own to swing.
const practiceImplements, golferImplements = 60, 30

// ChangeImplements changes what the practice owns to swing.
func (a *App) ChangeImplements(ctx context.Context, who *Actor, c ImplementChanges) error {
	return a.store.For(who.PracticeID).ChangeImplements(ctx, func(list []implement.Implement) ([]implement.Implement, error) {
		return c.in(list, practiceImplements)
	})
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

// ChangeGolfersImplements changes what a golfer owns to swing beside the driver; of the
// other facts nothing changes.
func (a *App) ChangeGolfersImplements(ctx context.Context, who *Actor, athleteID string, c ImplementChanges) error {
	p := a.store.For(who.PracticeID)
	for range implementTries {
		got, err := p.Athlete(ctx, athleteID)
		if err != nil {
			return words(err, "golfer")
		}
		if got.Facts.Implements, err = c.in(got.Facts.Implements, golferImplements); err != nil {
			return err
		}
		err = p.UpdateAthlete(ctx, athleteID, got.Revision, &got.Facts)
		if !errors.Is(err, store.ErrConflict) {
			return words(err, "golfer")
		}
	}
	return &Error{Kind: Conflict, Text: "The golfer is being changed by others all the time: try again."}
}

// implementTries is how often others may get in between.
const implementTries = 5
