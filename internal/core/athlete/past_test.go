package athlete_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dunnock/internal/core/athlete"
	"dunnock/internal/core/civil"
	"dunnock/internal/core/measure"
)

// A value is asked about where it lies six typical errors and a tenth of itself
// from what the golfer did the same way the last time (common practice, no
// source).
func TestFarFromTheGolfersOwnPast(t *testing.T) {
	day := civil.MustParse("2026-11-24")
	before, older := day.Add(-30), day.Add(-60)
	done := func(test string, side measure.Side, v float64) measure.Trial {
		return measure.Trial{Test: test, Side: side, Number: 1, Status: measure.Done, Value: v}
	}
	f := &athlete.File{
		Athlete: athlete.Profile{Sex: athlete.Male, PlayingSide: athlete.RightSided, BirthDate: civil.MustParse("1985-03-02")},
		Screens: []athlete.Screen{
			{Date: older, Trials: []measure.Trial{done("hip-ir", "lead", 50), done("cmj", "", 30)}},
			{Date: before, Trials: []measure.Trial{done("hip-ir", "lead", 20), done("height", "", 184)}},
			{Date: day, Trials: []measure.Trial{done("hip-ir", "lead", 90)}},
		},
	}
	find := func(id string) *measure.Test {
		x, ok := measure.Shipped().Find(id)
		require.True(t, ok, id)
		return x
	}
	for _, c := range []struct {
		trial measure.Trial
		far   bool
		from  float64
	}{
		{done("hip-ir", "lead", 50), true, 20}, // the newest before the day counts, not the older one
		{done("hip-ir", "lead", 22), false, 20},
		{done("hip-ir", "trail", 50), false, 0}, // never done
		{done("cmj", "", 42), true, 30},
		{done("cmj", "", 33), false, 30},
		{done("height", "", 190), false, 184}, // many errors, but not a tenth of it
		{measure.Trial{Test: "cmj", Number: 1, Status: measure.Stopped}, false, 0},
		{done("offline", "", 30), false, 0}, // a spread is not compared trial by trial
	} {
		last, far := f.Far(day, find(c.trial.Test), c.trial)
		assert.Equal(t, c.far, far, "%+v", c.trial)
		assert.Equal(t, c.from, last.Value, "%+v", c.trial)
	}
	last, ok := f.LastBefore(day, find("hip-ir"), "lead", "")
	assert.True(t, ok)
	assert.Equal(t, athlete.Past{Value: 20, On: before}, last)
	_, ok = f.LastBefore(older, find("hip-ir"), "lead", "")
	assert.False(t, ok, "nothing was done before the first screen")
}
