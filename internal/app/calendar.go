package app

import (
	"context"
	"crypto/rand"
	"crypto/sha256"
	"fmt"
	"slices"
	"strings"
	"time"

	"dunnock/internal/core/athlete"
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
		issued, err := issuedOf(ctx, p, athleteID, inCalendar)
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

// issuedVersion is an issued version with its document.
type issuedVersion struct {
	programme.Version
	doc    *programme.Programme
	frozen []byte
}

// issuedOf returns the versions a golfer trains by, in order of time, so many of the newest.
func issuedOf(ctx context.Context, p *store.Practice, athleteID string, most int) ([]issuedVersion, error) {
	all, err := p.Programmes(ctx, athleteID)
	if err != nil {
		return nil, err
	}
	stand := trainedBy(all)
	out := make([]issuedVersion, 0, most)
	for _, v := range stand[max(len(stand)-most, 0):] {
		got, err := p.Programme(ctx, v.ID)
		if err != nil {
			return nil, err
		}
		out = append(out, issuedVersion{v, got.Doc, got.Frozen})
	}
	return out, nil
}

// calendarEvents are the days of a golfer, in order of time.
func calendarEvents(f *athlete.File, issued []issuedVersion) []formats.CalendarEvent {
	out := []formats.CalendarEvent{}
	for _, v := range issued {
		for _, b := range v.doc.Blocks {
			for _, w := range b.Weeks {
				for k := range w.Sessions {
					s := &w.Sessions[k]
					if v.Stands(s.Date) && len(s.Items) > 0 {
						out = append(out, formats.CalendarEvent{
							ID: string(s.ID), Day: s.Date, At: f.Training.StartsAt, Minutes: s.Budget,
							Title: "Session " + string(s.Letter) + ": " + s.Title, Place: f.Training.Where,
						})
					}
				}
				for _, h := range w.Home {
					if v.Stands(h.Date) && len(h.Items) > 0 {
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
