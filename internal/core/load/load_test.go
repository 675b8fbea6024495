package load_test

import (
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dunnock/internal/core/civil"
	"dunnock/internal/core/library"
	"dunnock/internal/core/load"
	"dunnock/internal/core/programme"
	"dunnock/internal/core/training"
)

func week(v ...float64) []*float64 {
	out := make([]*float64, len(v))
	for i := range v {
		out[i] = &v[i]
	}
	return out
}

// Source: check values, section 6 (Foster 1998; divisor n − 1 by the handbook).
func TestMonotonyAndStrain(t *testing.T) {
	for _, c := range []struct {
		name             string
		days             []*float64
		monotony, strain float64
		ok               bool
	}{
		{"A varied", week(300, 315, 0, 300, 90, 560, 0), 1.09301, 1710.561, true},
		{"B even with one rest", week(250, 250, 250, 250, 250, 250, 0), 2.26779, 3401.680, true},
		{"C seven equal days", week(200, 200, 200, 200, 200, 200, 200), 0, 0, false},
		{"D nothing done", week(0, 0, 0, 0, 0, 0, 0), 0, 0, false},
		{"E two on Saturday", week(240, 0, 360, 0, 300, 450, 0), 1.00867, 1361.706, true},
		{"an unknown day", append(week(240, 0, 360, 0, 300, 450), nil), 0, 0, false},
	} {
		m, s, ok := load.Monotony(c.days)
		assert.Equal(t, c.ok, ok, c.name)
		assert.InDelta(t, c.monotony, m, 5e-6, c.name)
		assert.InDelta(t, c.strain, s, 5e-4, c.name)
	}
}

// Source: check values, section 6, smoothed loads of 35 days started from the mean of week 1
// (Williams et al. 2017).
func TestSmoothing(t *testing.T) {
	days := week(300, 315, 0, 300, 90, 560, 0, 330, 346.5, 0, 330, 99, 616, 0, 360, 378, 0, 360, 108, 672, 0, 180, 189, 0, 180, 54, 336, 0, 450, 472.5, 0, 450, 135, 840, 0)
	recent, usual := load.Smooth(days, load.Recent), load.Smooth(days, load.Usual)
	for i := range load.ShownFrom - 1 {
		assert.Nil(t, recent[i], "nothing before day 14")
	}
	for _, c := range []struct {
		day           int
		recent, usual float64
	}{{14, 227.6549, 230.1710}, {21, 247.9879, 243.6257}, {28, 141.9022, 199.7598}, {35, 290.9412, 251.1967}} {
		require.NotNil(t, recent[c.day-1])
		assert.InDelta(t, c.recent, *recent[c.day-1], 5e-5, c.day)
		assert.InDelta(t, c.usual, *usual[c.day-1], 5e-5, c.day)
	}
	// An unknown day carries the one before on.
	days[19] = nil
	gap := load.Smooth(days, load.Recent)
	assert.Equal(t, *gap[18], *gap[19])
	assert.Nil(t, load.Smooth(make([]*float64, 20), 7)[19])
}

// Session load: 6 × 50 = 300; two sessions on a day add up (check values, section 6). A day
// nobody knows of makes its week unknown, a day of rest does not.
func TestWeeks(t *testing.T) {
	monday := civil.MustParse("2026-11-23")
	days := load.Fill([]load.Day{{Date: monday, Load: week(300)[0], Sessions: 1}, {Date: monday.Add(2), Load: week(360)[0], Sessions: 2}}, monday, monday.Add(13))
	require.Len(t, days, 14)
	weeks := load.Weeks(days)
	require.Len(t, weeks, 2)
	assert.Equal(t, 660.0, *weeks[0].Load)
	assert.NotNil(t, weeks[0].Monotony)
	assert.Equal(t, 0.0, *weeks[1].Load)
	assert.Nil(t, weeks[1].Monotony, "nothing was done")
	days[4].Load = nil
	weeks = load.Weeks(days)
	assert.Nil(t, weeks[0].Load)
	assert.Nil(t, weeks[0].Strain)
}

// Planned and done are counted alike: done as planned is as much as planned, a set left out
// is a set less, a swap counts as what it was swapped for.
func TestPlannedAndDoneByOneArithmetic(t *testing.T) {
	reserve := 2
	s := &programme.Session{ID: "s", Items: []programme.Item{
		{ID: "sw", Slot: library.SlotSwings, Exercise: "swing-driver", Dose: programme.Dose{Sets: 4, Reps: 5, Unit: library.Swings, Sides: library.SwingSides, IntentPercent: 100}},
		{ID: "th", Slot: library.SlotThrow, Exercise: "throw-scoop", Dose: programme.Dose{Sets: 3, Reps: 4, Unit: library.Reps, Sides: library.Directional, BallKg: 3}},
		{ID: "ju", Slot: library.SlotJump, Exercise: "jump-countermovement", Dose: programme.Dose{Sets: 3, Reps: 5, Unit: library.Contacts, Sides: library.TwoSided}},
		{ID: "li", Slot: library.SlotMain, Exercise: "lift-goblet-squat", Dose: programme.Dose{Sets: 4, Reps: 6, Unit: library.Reps, Sides: library.TwoSided, Reserve: &reserve}},
	}}
	lib := library.Shipped()
	planned := load.Of(s.Items, lib, 90)
	assert.Equal(t, load.Counts{HardSets: 4, Contacts: 15, Throws: 24, FastSwings: 20}, planned)
	run := func(change func(*programme.Item, int, *training.SetDone) bool) load.Counts {
		n := training.Notebook{Device: "d", Session: "s", At: time.Date(2026, 11, 24, 9, 0, 0, 0, time.UTC)}
		n.Run(s, civil.MustParse("2026-11-24"), training.How{}, change)
		return load.Of(load.Done(s, training.Fold(n.Entries)), lib, 90)
	}
	assert.Equal(t, planned, run(nil))
	less := run(func(it *programme.Item, set int, x *training.SetDone) bool {
		if it.ID == "li" && set == 4 {
			x.State = training.SetSkippedState
		}
		if it.ID == "sw" && set == 1 {
			x.Swings = []training.Swing{{Mps: 43}, {Mps: 44}, {Mps: 41, Void: true}}
		}
		return it.ID != "ju"
	})
	assert.Equal(t, load.Counts{HardSets: 3, Throws: 24, FastSwings: 17}, less)
}
