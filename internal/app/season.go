package app

import (
	"context"
	"errors"

	"dunnock/internal/core/athlete"
	"dunnock/internal/core/civil"
	"dunnock/internal/core/plan"
	"dunnock/internal/core/season"
	"dunnock/internal/store"
)

// Season is a golfer's season as the facts lay it out.
type Season struct {
	*season.Season
	Blocks []plan.Pencilled
	// Kept says that the coach took a season on, and Changes in what this one differs from
	// it.
	Kept    bool
	Changes []string
	// Golfer and On are whose it is and of which day, Marks what is shown beside it.
	Golfer string
	On     civil.Date
	Events []athlete.Competition
	Away   []athlete.Away
	Marks  []athlete.Mark
}

// Season lays a golfer's season out from the block that is running, or from their next one
// on. What was issued last is what it goes on from.
func (a *App) Season(ctx context.Context, who *Actor, athleteID string) (*Season, error) {
	f, err := a.file(ctx, who, athleteID)
	if err != nil {
		return nil, err
	}
	m, err := a.methodOf(ctx, who)
	if err != nil {
		return nil, err
	}
	f.School = m.SchoolOf(f.School).ID
	basis, err := plan.BasisOf(f, m)
	if err != nil {
		return nil, err
	}
	p := a.store.For(who.PracticeID)
	if basis, err = a.following(ctx, p, basis, f, m, athleteID); err != nil {
		return nil, err
	}
	issued, err := stillIssued(ctx, p, athleteID, f.AsOf)
	if err != nil {
		return nil, err
	}
	s, list, err := basis.Season(issued...)
	var no *season.Error
	if errors.As(err, &no) {
		return nil, invalid(no.Field, "%s.", Sentence(no))
	}
	if err != nil {
		return nil, err
	}
	return &Season{
		Season: s, Blocks: list, Kept: f.Kept != nil, Changes: s.Changes(f.Kept, f.AsOf),
		Golfer: f.Athlete.Name, On: f.AsOf, Events: f.Competitions, Away: f.Away, Marks: f.Marks,
	}, nil
}

// stillIssued are the issued blocks a golfer trains by on a day, or will.
func stillIssued(ctx context.Context, p *store.Practice, athleteID string, on civil.Date) ([]plan.IssuedBlock, error) {
	issued, err := issuedOf(ctx, p, athleteID, lookedBack)
	if err != nil {
		return nil, words(err, "programmes")
	}
	var out []plan.IssuedBlock
	for _, v := range issued {
		if last := lastDay(v.doc); !last.Before(on) && (v.Until.IsZero() || v.Until.After(on)) {
			out = append(out, plan.IssuedBlock{Doc: v.doc, Until: v.Until})
		}
	}
	return out, nil
}
