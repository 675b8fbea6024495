package app

import (
	"context"
	"fmt"

	"dunnock/internal/core/programme"
	"dunnock/internal/core/warmup"
	"dunnock/internal/formats"
	"dunnock/internal/store"
)

// PlanSheet is a programme as it goes on paper or into a table, each session with its own
// warm-up as the golfer is today; with the id of a week or a session, that alone.
func (a *App) PlanSheet(ctx context.Context, who *Actor, programmeID string, at programme.ID) (*formats.PlanSheet, error) {
	o, err := a.open(ctx, who, programmeID)
	if err != nil {
		return nil, err
	}
	v := o.view(o.Judge(o.stored.Doc))
	out := &formats.PlanSheet{
		Golfer: o.file.Athlete.Name, Side: o.file.Athlete.PlayingSide, On: a.Today(who.Zone), Status: "DRAFT, not issued", Limits: v.Limits, Plan: v.View,
		WarmUps: map[programme.ID]*warmup.WarmUp{},
	}
	switch o.stored.Status {
	case store.Issued:
		out.Status = fmt.Sprintf("version %d", o.stored.Version)
	case store.Withdrawn:
		out.Status = fmt.Sprintf("version %d, WITHDRAWN", o.stored.Version)
	}
	if at != "" && !out.Plan.Narrow(at) {
		return nil, &Error{Kind: NotFound, Text: "There is no such week or session in this programme: it may have changed."}
	}
	p, err := a.personOf(ctx, who, o.file)
	if err != nil {
		return nil, err
	}
	for _, b := range out.Plan.Blocks {
		for i := range b.Weeks {
			for k := range b.Weeks[i].Sessions {
				session, err := o.session(string(b.Weeks[i].Sessions[k].ID))
				if err != nil {
					return nil, err
				}
				w, err := warmup.Build(p, sessionRequest(session, o.file))
				if err != nil {
					out.NoWarmUp = Sentence(warmUpWords(err)) + "."
					continue
				}
				out.WarmUps[session.ID] = w
			}
		}
	}
	return out, nil
}

// mostPrinted is how many golfers' plans are written at once.
const mostPrinted = 60

// PlanSheets are the programmes golfers train by: of each what was issued last, or the
// draft where nothing was. Who has neither is left out; nobody left is an error.
func (a *App) PlanSheets(ctx context.Context, who *Actor, golfers []string) ([]*formats.PlanSheet, error) {
	if len(golfers) > mostPrinted {
		return nil, invalid("golfers", "At most %d golfers are printed at once.", mostPrinted)
	}
	var out []*formats.PlanSheet
	for _, id := range golfers {
		list, err := a.store.For(who.PracticeID).Programmes(ctx, id)
		if err != nil {
			return nil, words(err, "golfer")
		}
		last := ""
		for _, status := range []string{store.Draft, store.Issued} {
			for _, p := range list {
				if p.Status == status {
					last = p.ID
				}
			}
		}
		if last == "" {
			continue
		}
		sheet, err := a.PlanSheet(ctx, who, last, "")
		if err != nil {
			return nil, err
		}
		out = append(out, sheet)
	}
	if out == nil {
		return nil, &Error{Kind: Refused, Text: "None of these golfers has a programme: draft one first."}
	}
	return out, nil
}
