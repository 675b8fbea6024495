package app

import (
	"cmp"
	"context"
	"fmt"
	"slices"
	"time"

	"dunnock/internal/core/measure"
	"dunnock/internal/core/practice"
	"dunnock/internal/store"
)

// PracticeSetup is what a practice says of itself, with what there is to choose from.
type PracticeSetup struct {
	store.Setup
	Kit  []string      // the library knows
	Sets []measure.Set // shipped ones first
}

// PracticeSetup returns what the practice says of itself.
func (a *App) PracticeSetup(ctx context.Context, who *Actor) (*PracticeSetup, error) {
	b, err := a.battery(ctx, who)
	if err != nil {
		return nil, err
	}
	var s *store.Setup
	err = a.store.For(who.PracticeID).Snapshot(ctx, func(p *store.Practice) (err error) {
		s, err = p.Setup(ctx)
		return err
	})
	if err != nil {
		return nil, words(err, "practice")
	}
	out := &PracticeSetup{Setup: *s, Kit: a.method.Exercises.Kit(), Sets: append(measure.Sets(), b.sets...)}
	if !slices.Contains(out.sets(), out.Set) {
		out.Set = out.Sets[0].ID // it was taken out of the batteries
	}
	return out, nil
}

func (s *PracticeSetup) sets() []string {
	ids := make([]string, len(s.Sets))
	for i, x := range s.Sets {
		ids[i] = x.ID
	}
	return ids
}

// SetUpPractice changes what the practice says of itself, if it still has the given
// revision, and returns who acts, as they now are.
func (a *App) SetUpPractice(ctx context.Context, who *Actor, revision int, s practice.Setup) (*Actor, error) {
	now, err := a.PracticeSetup(ctx, who)
	if err != nil {
		return nil, err
	}
	problems := s.Validate(now.Kit, now.sets())
	if text := wrongZone(s.Zone); text != "" {
		problems = append(problems, practice.Problem{Path: "zone", Text: text})
	}
	if len(problems) > 0 {
		out := &Error{Kind: Invalid, Text: problems[0].Text}
		for _, x := range problems {
			out.Fields = append(out.Fields, Field{Name: x.Path, Text: x.Text})
		}
		return nil, out
	}
	s.Plates = slices.SortedFunc(slices.Values(s.Plates), func(a, b float64) int { return cmp.Compare(b, a) })
	s.Plates = slices.Compact(s.Plates)
	if err := a.store.For(who.PracticeID).SaveSetup(ctx, revision, &s); err != nil {
		return nil, words(err, "practice")
	}
	return a.Actor(ctx, who.UserID)
}

// wrongZone says why a time zone cannot be used, or "".
func wrongZone(zone string) string {
	if _, err := time.LoadLocation(zone); err != nil || zone == "" || zone == "Local" || len(zone) > 60 {
		return fmt.Sprintf("%q is not a time zone: use one such as Europe/London or UTC.", clip(zone, 60))
	}
	return ""
}
