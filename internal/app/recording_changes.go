package app

import (
	"context"
	"errors"
	"strings"

	"dunnock/internal/core/jump"
	"dunnock/internal/store"
)

// ChangeRecording says what is to change about a recording; nil stays.
type ChangeRecording struct {
	Settings *ForceSettings
	Club     *string
	Keep     bool // a captured trial is kept, and goes into the screen
	Fill     bool // put it into the screen now
}

// ChangeRecordingTo analyses a recording anew with other settings or events, or
// keeps a captured one.
func (a *App) ChangeRecordingTo(ctx context.Context, who *Actor, id string, c ChangeRecording) (*RecordingView, error) {
	v, err := a.changed(ctx, who, id, func(v *RecordingView) bool {
		if c.Club != nil {
			v.Club = clip(strings.TrimSpace(*c.Club), 60)
		}
		if c.Settings != nil {
			v.Settings = *c.Settings
		}
		if c.Keep {
			v.Pending = false
		}
		return c.Settings != nil
	}, c.Keep || c.Fill)
	if err != nil {
		return nil, err
	}
	return a.dressed(ctx, who, v)
}

// recordingTries is how often a change of a recording that somebody else changed
// meanwhile is made on what is there then.
const recordingTries = 5

// changed makes a change of a recording, and writes it together with the trials
// of the screen that follow from it. change reports whether the file is to be
// read anew; it is made again where somebody else was faster, so that what they
// did stays.
func (a *App) changed(ctx context.Context, who *Actor, id string, change func(*RecordingView) (reread bool), fill bool) (*RecordingView, error) {
	for range recordingTries {
		r, err := a.store.For(who.PracticeID).Recording(ctx, id)
		if err != nil {
			return nil, words(err, "recording")
		}
		v, err := viewOf(*r)
		if err != nil {
			return nil, err
		}
		reread := change(v)
		if reread {
			rec, err := a.reread(ctx, who, v)
			if err != nil {
				return nil, err
			}
			if err := v.analyse(rec); err != nil {
				return nil, invalid("settings", "%s", Sentence(err))
			}
		}
		cells, revision := v.Cells, v.Revision
		_, err = a.write(ctx, who, func(p *store.Practice, b battery) (*saved, error) {
			v.Cells, v.Verdict, v.Revision = cells, "", revision
			if err := p.LockGolfer(ctx, v.AthleteID); err != nil {
				return nil, err
			}
			if reread {
				if err := a.refill(ctx, who, p, b, v); err != nil {
					return nil, err
				}
			}
			if err := v.encode(); err != nil {
				return nil, err
			}
			if err := p.UpdateRecording(ctx, &v.Recording); err != nil {
				return nil, err
			}
			if !fill || len(v.Cells) > 0 {
				return nil, nil
			}
			return nil, a.fill(ctx, who, p, b, v)
		})
		if !errors.Is(err, store.ErrConflict) {
			return v, words(err, "recording")
		}
	}
	return nil, words(store.ErrConflict, "recording")
}

// Recompute analyses all of a golfer's recordings anew with other filters and
// rules. Events placed by hand stay, those placed meanwhile too. It returns how
// many were done and what became of those that could not be.
func (a *App) Recompute(ctx context.Context, who *Actor, athleteID string, s ForceSettings) (done int, problems []string, err error) {
	if err := a.HasGolfer(ctx, who, athleteID); err != nil {
		return 0, nil, err
	}
	rows, err := a.store.For(who.PracticeID).Recordings(ctx, athleteID)
	if err != nil {
		return 0, nil, words(err, "golfer")
	}
	problems = []string{}
	for _, r := range rows {
		_, err := a.changed(ctx, who, r.ID, func(v *RecordingView) bool {
			j, w := &v.Settings.Jump, &v.Settings.Swing
			j.CutoffHz, j.Onset, j.MassKg = s.Jump.CutoffHz, s.Jump.Onset, s.Jump.MassKg
			w.CutoffHz, w.About, w.MassKg, w.RateWindowS = s.Swing.CutoffHz, s.Swing.About, s.Swing.MassKg, s.Swing.RateWindowS
			return true
		}, false)
		var known *Error
		switch {
		case err == nil:
			done++
		case errors.As(err, &known) && known.Kind == NotFound: // removed meanwhile
		case errors.As(err, &known) && known.Kind != Unavailable:
			problems = append(problems, r.Name+": "+known.Text)
		default:
			return done, problems, err
		}
	}
	return done, problems, nil
}

// DeleteRecording removes a recording and the trials it filled, together.
func (a *App) DeleteRecording(ctx context.Context, who *Actor, id string) error {
	_, err := a.write(ctx, who, func(p *store.Practice, b battery) (*saved, error) {
		r, err := p.Recording(ctx, id)
		if err != nil {
			return nil, err
		}
		if err := p.LockGolfer(ctx, r.AthleteID); err != nil {
			return nil, err
		}
		if r, err = p.Recording(ctx, id); err != nil {
			return nil, err
		}
		v, err := viewOf(*r)
		if err != nil {
			return nil, err
		}
		v.Jump, v.Swing = &jump.Result{}, nil // nothing more to say: its trials are cleared
		if err := a.refill(ctx, who, p, b, v); err != nil {
			return nil, err
		}
		return nil, p.DeleteRecording(ctx, id)
	})
	return words(err, "recording")
}
