package app

import (
	"context"
	"slices"
	"sync"

	"dunnock/internal/core/athlete"
	"dunnock/internal/core/civil"
	"dunnock/internal/core/measure"
	"dunnock/internal/core/method"
	"dunnock/internal/core/quality"
	"dunnock/internal/core/retest"
	"dunnock/internal/store"
)

// battery is what a practice reads screens with.
type battery struct {
	revision int
	changes  *measure.Changes // nil when nothing differs from what we ship
	tests    *measure.Battery
	sets     []measure.Set
	repeats  []retest.Test
	own      measure.Changes // as the practice made it, without measured errors
	method   *method.Method  // what it works by
}

// known is what a practice's golfers come to, golfer by golfer: another golfer's
// change is worked in without reading the rest anew. One is kept for each
// practice; mu is held while it is brought up to date, never with a connection
// in hand.
type known struct {
	mu       sync.Mutex
	version  int64      // of the data it is up to date with
	day      civil.Date // results age
	battery  battery
	order    []string // golfers by name
	golfers  map[string]*standing
	squad    *quality.Squad // nil until it is asked for
	method   *method.Method // what it works by, with methodAt its revision
	methodAt int
	measured bool // battery holds the repeats as they are now
}

// standing is what one golfer adds.
type standing struct {
	version int64
	pairs   retest.Pairs
	results quality.Results
}

// practice returns what is known of a practice, locked: the caller unlocks it.
func (a *App) practice(ctx context.Context, who *Actor) (*known, error) {
	k, _ := a.known.Get(who.PracticeID)
	if k == nil {
		k = &known{}
		if before, there, _ := a.known.PeekOrAdd(who.PracticeID, k); there {
			k = before
		}
	}
	k.mu.Lock()
	today := a.Today(who.Zone)
	if k.version >= who.DataVersion && k.version > 0 && k.day == today {
		return k, nil
	}
	if err := a.refresh(ctx, who, k, today); err != nil {
		k.mu.Unlock()
		return nil, err
	}
	return k, nil
}

// forget makes the next question look at the practice's data anew.
func (a *App) forget(practiceID string) { a.known.Remove(practiceID) }

// refresh reads what changed since k.version, at one moment.
func (a *App) refresh(ctx context.Context, who *Actor, k *known, today civil.Date) error {
	return a.store.For(who.PracticeID).Snapshot(ctx, func(p *store.Practice) error {
		version, err := p.DataVersion(ctx)
		if err != nil {
			return err
		}
		changes, err := p.Battery(ctx)
		if err != nil {
			return err
		}
		if err := a.remethod(ctx, p, k); err != nil {
			return err
		}
		ids, versions, err := p.FactsVersions(ctx)
		if err != nil {
			return err
		}
		if k.golfers == nil || changes.Revision != k.battery.revision || k.day != today {
			k.golfers = map[string]*standing{}
		}
		var stale []string
		for i, id := range ids {
			if s := k.golfers[id]; s == nil || s.version != versions[i] {
				stale = append(stale, id)
			}
		}
		before := changes.Apply()
		if err := a.restand(ctx, who, p, k, changes, before, stale); err != nil {
			return err
		}
		if len(stale) > 0 || !slices.Equal(ids, k.order) {
			k.squad, k.measured = nil, false
			there := make(map[string]*standing, len(ids))
			for _, id := range ids {
				there[id] = k.golfers[id]
			}
			k.golfers, k.order = there, ids
		}
		if !k.measured || changes.Revision != k.battery.revision || k.battery.tests == nil {
			k.battery = k.measure(changes, before)
			k.measured = true
		}
		k.version, k.day = version, today
		return nil
	})
}

// restandBatch is how many golfers' screens are read at once.
const restandBatch = 200

func (a *App) restand(ctx context.Context, who *Actor, p *store.Practice, k *known, changes *store.BatteryChanges, before *measure.Battery, stale []string) error {
	var own *measure.Changes
	if before != measure.Shipped() {
		own = &changes.Changes
	}
	for some := range slices.Chunk(stale, restandBatch) {
		files, err := p.Files(ctx, some)
		if err != nil {
			return err
		}
		for i := range files {
			f := a.dress(who, &files[i].Facts)
			f.Battery = own
			k.golfers[files[i].ID] = &standing{version: files[i].FactsVersion, pairs: retest.PairsOf(f, before), results: quality.ResultsOf(f)}
		}
	}
	return nil
}

// measure makes the battery: what the practice changed, and the test errors of
// its own repeats where there are enough pairs.
func (k *known) measure(got *store.BatteryChanges, before *measure.Battery) battery {
	b := battery{revision: got.Revision, own: got.Changes, sets: got.Sets}
	pairs := make([]retest.Pairs, 0, len(k.order))
	for _, id := range k.order {
		pairs = append(pairs, k.golfers[id].pairs)
	}
	b.repeats = retest.Gather(pairs, before)
	c := got.Changes
	c.Errors = retest.Errors(b.repeats, before)
	b.tests = c.Apply()
	if b.tests != measure.Shipped() {
		b.changes = &c
	}
	return b
}

// remethod brings what the practice works by up to date.
func (a *App) remethod(ctx context.Context, p *store.Practice, k *known) error {
	changes, err := p.Method(ctx)
	if err != nil {
		return err
	}
	if k.method != nil && k.methodAt == changes.Revision {
		return nil
	}
	m, err := a.method.With(changes.Rules, changes.Schools)
	if err != nil {
		return err
	}
	k.method, k.methodAt = m, changes.Revision
	return nil
}

// methodOf returns what the practice works by: what we ship, with its own schools and
// numbers.
func (a *App) methodOf(ctx context.Context, who *Actor) (*method.Method, error) {
	k, err := a.practice(ctx, who)
	if err != nil {
		return nil, err
	}
	defer k.mu.Unlock()
	return k.method, nil
}

// battery returns the practice's tests.
func (a *App) battery(ctx context.Context, who *Actor) (battery, error) {
	k, err := a.practice(ctx, who)
	if err != nil {
		return battery{}, err
	}
	defer k.mu.Unlock()
	b := k.battery
	b.method = k.method
	return b, nil
}

// squad gathers what a result is placed in among the practice's golfers.
func (a *App) squad(ctx context.Context, who *Actor) (*quality.Squad, error) {
	k, err := a.practice(ctx, who)
	if err != nil {
		return nil, err
	}
	defer k.mu.Unlock()
	if k.squad == nil {
		results := make([]quality.Results, 0, len(k.order))
		for _, id := range k.order {
			results = append(results, k.golfers[id].results)
		}
		k.squad = quality.Gather(results)
	}
	return k.squad, nil
}

// files loads the practice's golfers with their screens, dressed.
func (a *App) files(ctx context.Context, who *Actor) ([]*athlete.File, error) {
	list, err := a.store.For(who.PracticeID).Files(ctx, nil)
	if err != nil {
		return nil, err
	}
	out := make([]*athlete.File, len(list))
	for i := range list {
		out[i] = a.dress(who, &list[i].Facts)
	}
	return out, nil
}
