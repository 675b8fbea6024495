package app

import (
	"context"
	"crypto/sha256"
	"encoding/hex"
	"errors"
	"fmt"
	"io"
	"slices"
	"strings"

	"github.com/google/uuid"

	"dunnock/internal/core/athlete"
	"dunnock/internal/core/civil"
	"dunnock/internal/picture"
	"dunnock/internal/store"
)

// This file is what is done with the golfers of a squad as a list: found, put away,
// grouped, made after another one, shown with a photo.

// most is how many golfers are changed at once.
const most = 500

// FindGolfers returns golfers by what is typed of their name, at most n.
func (a *App) FindGolfers(ctx context.Context, who *Actor, text string, n int) ([]store.Head, error) {
	if len(text) > 120 {
		return nil, invalid("q", "A name has at most 120 letters.")
	}
	return a.store.For(who.PracticeID).FindGolfers(ctx, text, n)
}

// Archive puts golfers away, or back into the squad; doing it again is no error. Nothing
// of theirs is lost: they stand in the read's percentiles and under their address.
func (a *App) Archive(ctx context.Context, who *Actor, ids []string, away bool) (int, error) {
	if len(ids) > most {
		return 0, invalid("golfers", "At most %d golfers are put away at once.", most)
	}
	on := civil.Date{}
	if away {
		on = a.Today(who.Zone)
	}
	return a.store.For(who.PracticeID).Archive(ctx, ids, on)
}

// Group puts golfers into a group, or takes them out of it. How many were changed is
// returned: doing it again changes nobody.
func (a *App) Group(ctx context.Context, who *Actor, ids []string, group string, in bool) (n int, err error) {
	group = strings.Join(strings.Fields(group), " ")
	if len(ids) > most {
		return 0, invalid("golfers", "At most %d golfers are put into a group at once.", most)
	}
	ids = slices.DeleteFunc(slices.Clone(ids), func(id string) bool { return uuid.Validate(id) != nil })
	_, err = a.store.For(who.PracticeID).Together(ctx, func(p *store.Practice) error {
		n = 0
		if err := p.LockGolfers(ctx, ids); err != nil {
			return err
		}
		for _, id := range ids {
			g, err := p.Athlete(ctx, id)
			if errors.Is(err, store.ErrNotFound) {
				continue
			} else if err != nil {
				return err
			}
			x := &g.Facts.Athlete
			if slices.Contains(x.Groups, group) == in {
				continue
			}
			if in {
				x.Groups = append(x.Groups, group)
			} else {
				x.Groups = slices.DeleteFunc(x.Groups, func(s string) bool { return s == group })
			}
			if problems := x.Validate(a.Today(who.Zone)); len(problems) > 0 {
				return invalid("group", "%s: %s", x.Name, problems[0].Text)
			}
			if err := p.UpdateAthlete(ctx, id, g.Revision, &g.Facts); err != nil {
				return err
			}
			n++
		}
		return nil
	})
	return n, words(err, "golfer")
}

// After makes a golfer with another one's days, kit, groups, school and competitions.
// What is of the body and the person is not taken: questions, limits, screens, goals.
func (a *App) After(ctx context.Context, who *Actor, id string, profile athlete.Profile) (*Golfer, error) {
	like, err := a.store.For(who.PracticeID).Athlete(ctx, id)
	if err != nil {
		return nil, words(err, "golfer")
	}
	profile.Groups = like.Facts.Athlete.Groups
	f := &athlete.File{Format: athlete.Format, Athlete: profile, Training: like.Facts.Training, School: like.Facts.School, OtherSideShare: like.Facts.OtherSideShare}
	today := a.Today(who.Zone)
	for _, c := range like.Facts.Competitions {
		if !c.Date.Before(today) {
			f.Competitions = append(f.Competitions, c)
		}
	}
	return a.create(ctx, who, f)
}

// mayShow says why no photo of a golfer may be kept, or nil.
func mayShow(f *athlete.File) error {
	if f.Athlete.Junior(f.AsOf) && f.Consent == nil {
		return &Error{Kind: Refused, Text: "Under 18: record the guardian's consent before a photo is kept."}
	}
	return nil
}

// SetPhoto keeps a small portrait made of a photo. Of it nothing else is kept.
func (a *App) SetPhoto(ctx context.Context, who *Actor, id string, r io.Reader) (*Golfer, error) {
	b, err := io.ReadAll(io.LimitReader(r, picture.MaxBytes+1))
	if err != nil {
		return nil, err
	}
	done, err := turn(ctx, reading) // a photo unfolds as a file does
	if err != nil {
		return nil, err
	}
	small, err := picture.Portrait(b)
	done()
	if err != nil {
		if errors.Is(err, picture.ErrNoPhoto) {
			return nil, invalid("photo", "%v. Nothing was kept.", err)
		}
		return nil, err
	}
	_, err = a.store.For(who.PracticeID).Together(ctx, func(p *store.Practice) error {
		g, err := p.Athlete(ctx, id)
		if err != nil {
			return err
		}
		if err := mayShow(a.dress(who, &g.Facts)); err != nil {
			return err
		}
		return p.SetPhoto(ctx, id, small, pictureVersion(small))
	})
	if err != nil {
		return nil, words(err, "golfer")
	}
	return a.Golfer(ctx, who, id)
}

func pictureVersion(b []byte) string {
	h := sha256.Sum256(b)
	return hex.EncodeToString(h[:8])
}

// RemovePhoto removes a golfer's photo; where there is none it is no error.
func (a *App) RemovePhoto(ctx context.Context, who *Actor, id string) (*Golfer, error) {
	if err := a.store.For(who.PracticeID).SetPhoto(ctx, id, nil, ""); err != nil {
		return nil, words(err, "golfer")
	}
	return a.Golfer(ctx, who, id)
}

// Photo returns a golfer's portrait as JPEG.
func (a *App) Photo(ctx context.Context, who *Actor, id string) ([]byte, error) {
	b, err := a.store.For(who.PracticeID).Photo(ctx, id)
	if errors.Is(err, store.ErrNotFound) {
		return nil, words(err, "photo")
	}
	return b, err
}

// bringPhoto keeps the photo of an export, made anew; one that may not be kept, or is
// none, is left out.
func bringPhoto(ctx context.Context, p *store.Practice, id string, f *athlete.File) error {
	if len(f.Photo) == 0 || mayShow(f) != nil {
		return nil
	}
	small, err := picture.Portrait(f.Photo)
	if err != nil {
		return nil
	}
	if err := p.SetPhoto(ctx, id, small, pictureVersion(small)); err != nil {
		return fmt.Errorf("photo: %w", err)
	}
	return nil
}
