package app

import (
	"cmp"
	"context"
	"crypto/rand"
	"crypto/sha256"
	"fmt"
	"slices"
	"strings"
	"time"

	"dunnock/internal/core/athlete"
	"dunnock/internal/core/civil"
	"dunnock/internal/core/programme"
	"dunnock/internal/formats"
	"dunnock/internal/store"
)

// Calendar is a golfer's calendar as an iCalendar file, and their name: sessions of what is
// issued, home work, competitions; titles, times and places, nothing about health.
func (a *App) Calendar(ctx context.Context, who *Actor, athleteID string) (file, name string, err error) {
	return a.calendar(ctx, who.PracticeID, athleteID, who.Zone)
}

// CalendarAt is the calendar a secret was made for.
func (a *App) CalendarAt(ctx context.Context, secret string) (string, error) {
	practice, athleteID, zone, err := a.store.CalendarOf(ctx, sha256.Sum256([]byte(secret)))
	if err != nil {
		return "", words(err, "calendar")
	}
	file, _, err := a.calendar(ctx, practice, athleteID, zone)
	return file, err
}

// CalendarAddress says when a golfer's private address was made; nil where there is none.
func (a *App) CalendarAddress(ctx context.Context, who *Actor, athleteID string) (*store.CalendarAddress, error) {
	p := a.store.For(who.PracticeID)
	if err := p.HasAthlete(ctx, athleteID); err != nil {
		return nil, words(err, "golfer")
	}
	at, err := p.CalendarAddress(ctx, athleteID)
	return at, words(err, "calendar")
}

// MakeCalendarAddress makes a golfer's calendar reachable for whoever has the secret it
// returns, and no longer by the one before. The secret is not kept: it cannot be shown again.
func (a *App) MakeCalendarAddress(ctx context.Context, who *Actor, athleteID string) (string, error) {
	secret := strings.ToLower(rand.Text())
	p := a.store.For(who.PracticeID)
	if err := p.HasAthlete(ctx, athleteID); err != nil {
		return "", words(err, "golfer")
	}
	return secret, words(p.PutCalendarAddress(ctx, athleteID, sha256.Sum256([]byte(secret)), who.Name), "golfer")
}

// RevokeCalendarAddress ends a golfer's private address.
func (a *App) RevokeCalendarAddress(ctx context.Context, who *Actor, athleteID string) error {
	p := a.store.For(who.PracticeID)
	if err := p.HasAthlete(ctx, athleteID); err != nil {
		return words(err, "golfer")
	}
	return words(p.RevokeCalendarAddress(ctx, athleteID), "calendar")
}

func (a *App) calendar(ctx context.Context, practiceID, athleteID, zone string) (file, name string, err error) {
	at, err := time.LoadLocation(zone)
	if err != nil {
		at = time.UTC
	}
	err = a.store.For(practiceID).Snapshot(ctx, func(p *store.Practice) error {
		got, err := p.Athlete(ctx, athleteID)
		if err != nil {
			return words(err, "golfer")
		}
		issued, err := issuedOf(ctx, p, athleteID)
		if err != nil {
			return words(err, "programme")
		}
		name = got.Facts.Athlete.Name
		file = formats.Calendar(name+", training", at, a.now(), calendarEvents(&got.Facts, issued))
		return nil
	})
	return file, name, err
}

// inCalendar is how many issued programmes a calendar holds, the newest: a year and more.
const inCalendar = 16

// issuedOf returns what a golfer was issued, by first day: of versions with the same first
// day the last, of what was there from a later one's first day on nothing.
func issuedOf(ctx context.Context, p *store.Practice, athleteID string) ([]*programme.Programme, error) {
	all, err := p.Programmes(ctx, athleteID)
	if err != nil {
		return nil, err
	}
	all = slices.DeleteFunc(all, func(x store.Programme) bool { return x.Status != store.Issued })
	slices.SortFunc(all, func(x, y store.Programme) int { return cmp.Or(x.StartDate.Sub(y.StartDate), y.Version-x.Version) })
	all = slices.CompactFunc(all, func(x, y store.Programme) bool { return x.StartDate == y.StartDate })
	// A version that was issued later for an earlier first day stands instead of those behind it.
	for i := 1; i < len(all); i++ {
		if all[i].Version < all[i-1].Version {
			all = slices.Delete(all, i, i+1)
			i--
		}
	}
	all = all[max(len(all)-inCalendar, 0):]
	out := make([]*programme.Programme, len(all))
	for i := range all {
		got, err := p.Programme(ctx, all[i].ID)
		if err != nil {
			return nil, err
		}
		out[i] = got.Doc
	}
	return out, nil
}

// calendarEvents are the days of a golfer, in order of time.
func calendarEvents(f *athlete.File, issued []*programme.Programme) []formats.CalendarEvent {
	out := []formats.CalendarEvent{}
	for i, doc := range issued {
		var until civil.Date
		if i+1 < len(issued) {
			until = issued[i+1].StartDate
		}
		counts := func(day civil.Date) bool { return until.IsZero() || day.Before(until) }
		for _, b := range doc.Blocks {
			for _, w := range b.Weeks {
				for k := range w.Sessions {
					s := &w.Sessions[k]
					if counts(s.Date) {
						out = append(out, formats.CalendarEvent{
							ID: string(s.ID), Day: s.Date, At: f.Training.StartsAt, Minutes: s.Budget,
							Title: "Session " + string(s.Letter) + ": " + s.Title, Place: f.Training.Where,
						})
					}
				}
				for _, h := range w.Home {
					if counts(h.Date) && len(h.Items) > 0 {
						out = append(out, formats.CalendarEvent{ID: string(h.ID), Day: h.Date, Title: "Home work"})
					}
				}
			}
		}
	}
	for _, c := range f.Competitions {
		key := sha256.Sum256([]byte(c.Date.String() + c.Name))
		out = append(out, formats.CalendarEvent{ID: fmt.Sprintf("%x", key[:12]), Day: c.Date, Title: c.Name})
	}
	slices.SortStableFunc(out, func(x, y formats.CalendarEvent) int { return x.Day.Sub(y.Day) })
	return out
}
