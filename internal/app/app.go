// Package app holds the use cases: one function for each thing a coach does. A
// use case loads facts from the store, calls the core, stores what came out and
// returns it; it knows neither HTTP nor SQL. Errors a coach can do something
// about are *Error; everything else is a fault.
package app

import (
	"context"
	"errors"
	"fmt"
	"log/slog"
	"runtime/debug"
	"sync"
	"time"

	lru "github.com/hashicorp/golang-lru/v2"

	"dunnock/internal/core/athlete"
	"dunnock/internal/core/civil"
	"dunnock/internal/core/method"
	"dunnock/internal/core/plan"
	"dunnock/internal/store"
)

// Kind is what sort of thing went wrong.
type Kind int

// The kinds of error.
const (
	Invalid     Kind = iota // something in the request is wrong; Fields say what
	NotFound                // it is not there, or not this practice's
	Conflict                // somebody else was faster
	Refused                 // the rules of the house do not allow it
	SignedOut               // nobody is signed in, or the sign-in is wrong
	TooMany                 // too many tries
	Unavailable             // the database does not answer, or all hands are full
)

// UnavailableText is said when the database does not answer.
const UnavailableText = "The database does not answer. Dunnock waits for it and comes back by itself; what you typed last may not be saved yet."

// Field names one wrong part of a request.
type Field struct {
	Name     string
	Text     string
	Unlikely bool
	Offers   []string // ways of writing the value that would be understood
	Clash    *Clash
}

// Clash is what somebody else wrote into a cell since it was seen.
type Clash struct {
	Text string // as shown: a value, "stopped", "skipped", or "" when cleared
	Seen int    // revision to save over it with
}

// Error is an error a coach can do something about.
type Error struct {
	Kind   Kind
	Text   string
	Fields []Field
	After  time.Duration // for TooMany and Unavailable: when to try again
	Cause  error         // for Unavailable
	Since  []string      // for Conflict: what was done meanwhile, in words
}

func (e *Error) Error() string { return e.Text }

// Unwrap returns the cause.
func (e *Error) Unwrap() error { return e.Cause }

func invalid(field, format string, args ...any) *Error {
	t := fmt.Sprintf(format, args...)
	return &Error{Kind: Invalid, Text: t, Fields: []Field{{Name: field, Text: t}}}
}

// App is the use cases on one store.
type App struct {
	store  *store.Store
	now    func() time.Time
	today  civil.Date                 // fixed for tests and pictures; zero: the clock's
	known  *lru.Cache[string, *known] // by practice
	method *method.Method             // every practice works by the one we ship
	// Work that goes on beside requests ends with base and is waited for by Close.
	base context.Context
	stop context.CancelFunc
	work sync.WaitGroup
	door *door
	held heldFiles // of force, looked at last
	// outlines are issued versions in short, by id.
	outlines *lru.Cache[string, []outline]
	runs     chan struct{} // checks and saves of files under way
}

// New returns the use cases. now is the clock; a today other than zero stands
// in for the day it shows.
func New(s *store.Store, now func() time.Time, today civil.Date) *App {
	a := &App{store: s, now: now, today: today, method: method.Shipped()}
	a.known, _ = lru.New[string, *known](keptPractices)
	a.outlines, _ = lru.New[string, []outline](keptOutlines)
	a.base, a.stop = context.WithCancel(context.Background())
	a.door = newDoor()
	a.runs = make(chan struct{}, runsAtOnce)
	return a
}

// Method is what the practices work by.
func (a *App) Method() *method.Method { return a.method }

// beside runs work that outlives a request. A fault in it is reported and ends
// nothing else.
func (a *App) beside(what string, do func()) {
	a.work.Add(1)
	go func() {
		defer a.work.Done()
		defer func() {
			if r := recover(); r != nil {
				slog.Error("a fault beside requests", "what", what, "fault", r, "stack", string(debug.Stack()))
			}
		}()
		do()
	}()
}

// Housekeep drops what is kept for a time only, now and every hour until the
// program ends.
func (a *App) Housekeep() {
	a.beside("housekeeping", func() {
		tick := time.NewTicker(time.Hour)
		defer tick.Stop()
		for {
			if _, err := a.store.DropOldRows(a.base, a.now()); err != nil && a.base.Err() == nil {
				slog.Error("housekeeping", "error", err)
			}
			select {
			case <-a.base.Done():
				return
			case <-tick.C:
			}
		}
	})
}

// Close stops what still goes on beside requests and waits for it.
func (a *App) Close() {
	a.stop()
	a.work.Wait()
}

// keptPractices bounds how many practices' worked-out facts are kept: some 10 kB
// a golfer.
const keptPractices = 64

// Today is the day in a practice's zone.
func (a *App) Today(zone string) civil.Date {
	if !a.today.IsZero() {
		return a.today
	}
	return civil.Of(a.Now(zone))
}

// Now is the time on the clock of a practice.
func (a *App) Now(zone string) time.Time {
	loc, err := time.LoadLocation(zone)
	if err != nil {
		loc = time.UTC
	}
	return a.now().In(loc)
}

// Healthy reports whether the database answers.
func (a *App) Healthy(ctx context.Context) error { return a.store.Ping(ctx) }

// words turns a store error into one a coach can act on; what names the thing.
func words(err error, what string) error {
	var known *Error
	var value *store.ValueError
	switch {
	case err == nil:
		return nil
	case errors.As(err, &known):
		return known
	case errors.As(err, &value):
		return invalid(value.Part, "A value of this %s is out of its range and was not saved (%s).", what, value.Part)
	case errors.Is(err, store.ErrNotFound):
		return &Error{Kind: NotFound, Text: "This " + what + " is not there: it may have been removed."}
	case store.Unavailable(err):
		return &Error{Kind: Unavailable, Text: UnavailableText, Cause: err}
	case errors.Is(err, store.ErrConflict):
		return &Error{
			Kind: Conflict,
			Text: "This " + what + " was changed by somebody else since you opened it. Load it again to see the change; what you typed last is not saved.",
		}
	case errors.Is(err, store.ErrExists):
		return &Error{Kind: Conflict, Text: "There is such a " + what + " already."}
	case errors.Is(err, store.ErrIssued):
		return &Error{Kind: Refused, Text: "An issued programme does not change. Make a new version of it."}
	}
	return err
}

// dress completes facts from the store with what the practice decides: the day,
// the units, and the versions of library and rulebook.
func (a *App) dress(who *Actor, f *athlete.File) *athlete.File {
	f.AsOf, f.Units = a.Today(who.Zone), who.Units
	if f.StartDate.IsZero() || f.StartDate.Before(f.AsOf) {
		f.StartDate = nextMonday(f.AsOf)
	}
	f.LibraryVersion, f.RulebookVersion = a.method.Exercises.Version(), a.method.Rules.Version()
	return f
}

func nextMonday(d civil.Date) civil.Date {
	if m := d.Monday(); m == d {
		return d
	}
	return d.Monday().Add(7)
}

// file loads one golfer with all screens, ready to compute with.
func (a *App) file(ctx context.Context, who *Actor, athleteID string) (*athlete.File, error) {
	p := a.store.For(who.PracticeID)
	got, err := p.File(ctx, athleteID)
	if err != nil {
		return nil, words(err, "golfer")
	}
	f := a.dress(who, &got.Facts)
	if err := a.addForce(ctx, p, athleteID, f); err != nil {
		return nil, err
	}
	return f, a.equip(ctx, who, f)
}

// equip gives facts the practice's own battery.
func (a *App) equip(ctx context.Context, who *Actor, f *athlete.File) error {
	b, err := a.battery(ctx, who)
	f.Battery = b.changes
	return err
}

// Export returns one golfer's file: everything the read and the plan depend on.
func (a *App) Export(ctx context.Context, who *Actor, athleteID string) (*athlete.File, error) {
	f, err := a.file(ctx, who, athleteID)
	if err != nil {
		return nil, err
	}
	f.Photo, err = a.store.For(who.PracticeID).Photo(ctx, athleteID)
	if errors.Is(err, store.ErrNotFound) {
		err = nil
	}
	return f, err
}

// refusal turns a core refusal into an *Error.
func refusal(err error) error {
	var r *plan.Refusal
	if errors.As(err, &r) {
		return &Error{Kind: Refused, Text: r.Text}
	}
	var no *plan.NoMend
	if errors.As(err, &no) {
		return &Error{Kind: Refused, Text: no.Error()}
	}
	var e *plan.EditError
	if errors.As(err, &e) {
		return invalid("edit."+e.Field, "%s", e.Text)
	}
	return err
}
