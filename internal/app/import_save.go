package app

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"log/slog"
	"runtime/debug"
	"sync/atomic"
	"time"

	"github.com/google/uuid"

	"dunnock/internal/formats/sheets"
	"dunnock/internal/formats/table"
	"dunnock/internal/store"
)

// CommitImport saves everything a checked file holds, or nothing. With
// keepUnlikely, unlikely values are kept as confirmed. Asking again while it is
// saved, or after, is no error.
func (a *App) CommitImport(ctx context.Context, who *Actor, id string, keepUnlikely bool) (*ImportView, error) {
	p := a.store.For(who.PracticeID)
	got, err := a.Import(ctx, who, id)
	if err != nil {
		return nil, err
	}
	switch got.State {
	case store.Saving, store.Saved:
		return got, nil
	case store.Checked:
	default:
		return nil, &Error{Kind: Refused, Text: "Check the file first: only a file that was looked at is saved."}
	}
	var m sheets.Mapping
	if err := json.Unmarshal([]byte(got.Mapping), &m); err != nil {
		return nil, err
	}
	m.KeepUnlikely = keepUnlikely
	run := uuid.NewString()
	err = p.BeginImport(ctx, id, run, []string{store.Checked}, store.Saving, "", got.Rows)
	if errors.Is(err, store.ErrConflict) {
		return a.Import(ctx, who, id) // somebody else began: it is theirs to finish
	}
	if err != nil {
		return nil, words(err, "import")
	}
	a.behind(who, id, run, got.Rows, func(ctx context.Context, progress func(int)) error {
		g, err := a.grid(ctx, p, id)
		if err != nil {
			return err
		}
		r, err := a.saveImport(ctx, who, id, run, g, m, progress)
		if err == nil && r.ErrorRows > 0 {
			return p.EndImport(ctx, id, run, store.Checked, r.json(), "Nothing was saved: rows need a look.")
		}
		return err
	})
	return a.Import(ctx, who, id)
}

// saveImport matches, checks and saves a file in one unit of work, with its
// state: against what is there now, under locks. With rows that need a look
// nothing is saved.
func (a *App) saveImport(ctx context.Context, who *Actor, id, run string, g *table.Grid, m sheets.Mapping, progress func(int)) (r *importRead, err error) {
	_, err = a.write(ctx, who, func(p *store.Practice, b battery) (*saved, error) {
		if err := p.HoldGolfers(ctx); err != nil {
			return nil, err
		}
		if r, err = a.readImport(ctx, who, p, g, m, b, progress); err != nil {
			return nil, err
		}
		if r.ErrorRows > 0 {
			return nil, errLooked
		}
		n, err := p.WriteImport(ctx, id, r.golfers, func(int) {})
		if err != nil {
			return nil, err
		}
		note := fmt.Sprintf("%s saved; %d were there already.", plural(n, "trial"), r.Trials-n)
		return nil, p.EndImport(ctx, id, run, store.Saved, r.json(), note)
	})
	if errors.Is(err, errLooked) {
		err = nil
	}
	return r, err
}

// CancelImport asks a running import to stop; nothing of it is kept.
func (a *App) CancelImport(ctx context.Context, who *Actor, id string) error {
	return words(a.store.For(who.PracticeID).CancelImport(ctx, id), "import")
}

// UndoImport takes back what an import saved and nobody changed since. Undoing
// again is no error.
func (a *App) UndoImport(ctx context.Context, who *Actor, id string) (*ImportView, error) {
	_, err := a.store.For(who.PracticeID).UndoImport(ctx, id, "%d trials taken back. What was changed by hand since stays.")
	if errors.Is(err, store.ErrConflict) {
		return nil, &Error{Kind: Refused, Text: "Only an import that was saved can be taken back."}
	}
	if err != nil {
		return nil, words(err, "import")
	}
	return a.Import(ctx, who, id)
}

const (
	runsAtOnce = 2                      // checks and saves; others wait their turn
	lifeSign   = 500 * time.Millisecond // between signs of life of a run
)

// behind runs a step of an import beside the request. Signs of life and progress
// are given by a second goroutine: the step itself, which may hold a connection,
// never waits for another one. Its context ends with the program, when the coach
// cancels, and when nobody waits for a check any more.
func (a *App) behind(who *Actor, id, run string, total int, step func(ctx context.Context, progress func(int)) error) {
	p := a.store.For(who.PracticeID)
	ctx, stop := context.WithCancel(a.base)
	var done atomic.Int64
	a.beside("import "+id, func() {
		defer stop()
		tick := time.NewTicker(lifeSign)
		defer tick.Stop()
		for {
			select {
			case <-ctx.Done():
				return
			case <-tick.C:
			}
			if over, err := p.ImportProgress(ctx, id, run, int(done.Load()), total); err == nil && over {
				return
			}
		}
	})
	a.beside("import "+id, func() {
		defer stop()
		err := func() (err error) {
			defer func() {
				if r := recover(); r != nil {
					err = fmt.Errorf("panic: %v\n%s", r, debug.Stack())
				}
			}()
			over, err := turn(ctx, a.runs)
			if err != nil {
				return err
			}
			defer over()
			return step(ctx, func(n int) { done.Store(int64(n)) })
		}()
		if err == nil {
			return
		}
		state, note := store.Failed, "It went wrong on our side; nothing was saved. Check the file again."
		var known *Error
		switch {
		case errors.As(err, &known):
			note = known.Text
		case errors.Is(err, store.ErrStopped), ctx.Err() != nil:
			state, note = store.Cancelled, "Stopped: nothing was saved. Check the file again to go on."
		default:
			slog.Error("import", "id", id, "error", err)
		}
		// The end is written even when the program is stopping; where it cannot be,
		// the import is given back once its run shows no life.
		end, cancel := context.WithTimeout(context.WithoutCancel(ctx), 5*time.Second)
		defer cancel()
		if err := p.EndImport(end, id, run, state, "", note); err != nil && !errors.Is(err, store.ErrStopped) {
			slog.Error("import", "id", id, "error", err)
		}
	})
}
