package demo_test

import (
	"context"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dunnock/internal/app"
	"dunnock/internal/core/athlete"
	"dunnock/internal/core/civil"
	"dunnock/internal/core/quality"
	"dunnock/internal/demo"
	"dunnock/internal/postgres/pgtest"
)

func TestMain(m *testing.M) { pgtest.Main(m) }

func load(t *testing.T, today string) (*app.App, *app.Actor, map[string]string) {
	t.Helper()
	ctx := context.Background()
	a := app.New(pgtest.Store(t), time.Now, civil.MustParse(today))
	require.NoError(t, demo.LoadSquad(ctx, a, false))
	u, _, err := a.SignIn(ctx, demo.Email, demo.Password, app.Visitor{Remote: "test"})
	require.NoError(t, err)
	rows, err := a.Squad(ctx, u, false)
	require.NoError(t, err)
	ids := map[string]string{}
	for _, r := range rows {
		ids[strings.Fields(r.Name)[0]] = r.ID
	}
	return a, u, ids
}

// Each golfer of the demo tells the story they are there for, on whatever day
// it is loaded.
func TestTheSquadTellsItsStories(t *testing.T) {
	for _, today := range []string{"2026-11-24", "2028-02-29"} {
		a, u, ids := load(t, today)
		require.Len(t, ids, 6)
		read := func(name string) *quality.Read {
			r, err := a.Read(context.Background(), u, ids[name], "")
			require.NoError(t, err)
			return r
		}
		leads := func(name, quality string) {
			t.Helper()
			assert.True(t, strings.HasPrefix(read(name).Headline, quality), "%s: %s", name, read(name).Headline)
		}
		leads("Marit", "Vertical power")
		leads("Torquil", "Mobility")
		leads("Eilidh", "Maximal strength")
		assert.True(t, read("Finn").Maturity.NearSpurt)
		assert.Equal(t, "hip-ir", read("Magnus").Ranges[0].Test)
		assert.Equal(t, athlete.BandSenior, read("Magnus").Band)
		assert.Equal(t, athlete.NotAsked, read("Jonas").Clearance.State)
		changed := 0
		for _, x := range read("Marit").Tests {
			for _, s := range x.Sides {
				if s.Change != nil {
					changed++
				}
			}
		}
		assert.Positive(t, changed, "two screens make a history")
	}
}

func TestLoadingAgainKeepsAndResetStartsAfresh(t *testing.T) {
	ctx := context.Background()
	a, u, ids := load(t, "2026-11-24")
	require.NoError(t, a.EraseGolfer(ctx, u, ids["Jonas"]))
	require.NoError(t, demo.LoadSquad(ctx, a, false))
	rows, err := a.Squad(ctx, u, false)
	require.NoError(t, err)
	assert.Len(t, rows, 5, "what was done is kept")
	require.NoError(t, demo.LoadSquad(ctx, a, true))
	rows, err = a.Squad(ctx, u, false)
	require.NoError(t, err)
	assert.Len(t, rows, 6)
}

// A demo killed while it was loaded is whole after the next start, whatever was
// there by then; and what is done to it later is kept.
func TestALoadThatWasBrokenOffIsDoneAgain(t *testing.T) {
	ctx := context.Background()
	for _, after := range []int{1, 4, 25, 60, 140} {
		broken, stop := context.WithCancel(ctx)
		b := app.New(pgtest.Store(t), func() time.Time {
			if after--; after == 0 {
				stop()
			}
			return time.Now()
		}, civil.MustParse("2026-11-24"))
		err := demo.LoadSquad(broken, b, false)
		if err == nil {
			t.Logf("loaded before it was broken off")
		}
		stop()
		require.NoError(t, demo.LoadSquad(ctx, b, false))
		a := b
		u, _, err := a.SignIn(ctx, demo.Email, demo.Password, app.Visitor{Remote: "test"})
		require.NoError(t, err)
		rows, err := a.Squad(ctx, u, false)
		require.NoError(t, err)
		require.Len(t, rows, 6)
		for _, r := range rows {
			if !strings.HasPrefix(r.Name, "Jonas") {
				assert.NotEmpty(t, r.Lane.Screens, r.Name)
			}
		}
		days, err := a.Days(ctx, u)
		require.NoError(t, err)
		assert.Len(t, days, 1)
	}
}

// The demo's recordings come once, and leave the story as it is: mobility leads,
// and force has something to say.
func TestTheDemoHasRecordings(t *testing.T) {
	a, u, ids := load(t, "2026-11-24")
	ctx := context.Background()
	require.NoError(t, demo.Load(ctx, a, true))
	require.NoError(t, demo.Load(ctx, a, false))
	rows, err := a.Squad(ctx, u, false)
	require.NoError(t, err)
	for _, r := range rows {
		ids[strings.Fields(r.Name)[0]] = r.ID
	}
	page, err := a.Force(ctx, u, ids["Torquil"])
	require.NoError(t, err)
	assert.Len(t, page.Recordings, 14)
	assert.Equal(t, 5, page.SwingMean.Trials)
	require.NotNil(t, page.Compared)
	found := map[string]bool{}
	for _, f := range page.Findings {
		found[f.Key] = true
	}
	assert.True(t, found["lateral"] && found["side-difference"], "%v", found)
	r, err := a.Read(ctx, u, ids["Torquil"], "")
	require.NoError(t, err)
	assert.True(t, strings.HasPrefix(r.Headline, "Mobility"), r.Headline)
	var force quality.Standing
	for _, q := range r.Qualities {
		if q.ID == quality.GroundForce {
			force = q
		}
	}
	assert.Equal(t, quality.Ranked, force.Status)
	assert.NotZero(t, force.Error)

	// One golfer has swings of two days, with implements and from both sides, and a cold
	// start that costs something.
	for name, id := range ids {
		p, err := a.Speed(ctx, u, id)
		require.NoError(t, err)
		if name != "Marit" {
			assert.Empty(t, p.Series, name)
			continue
		}
		assert.Len(t, p.Series, 3)
		require.NotNil(t, p.Profile)
		assert.Len(t, p.Profile.Points, 3)
		assert.Negative(t, p.Profile.MpsPerKg)
		assert.Len(t, p.Sides, 2)
		require.NotNil(t, p.ColdStart)
		assert.Greater(t, p.ColdStart.Result.LostMps(), 2.0)
	}
}
