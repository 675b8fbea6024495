package retest_test

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dunnock/internal/core/athlete"
	"dunnock/internal/core/measure"
	"dunnock/internal/core/method"
	"dunnock/internal/core/quality"
	"dunnock/internal/core/retest"
	"dunnock/internal/core/testkit"
)

// The ten pairs of jump heights whose reliability is checked against R in
// package reliability, as a squad of ten.
func squad(n int) []*athlete.File {
	a := []float64{34.2, 38.9, 29.7, 41.3, 36, 32.5, 45.1, 27.8, 39.4, 35.6}
	b := []float64{35, 38.1, 30.9, 42.6, 35.2, 33.9, 45.9, 28.1, 38.2, 36.7}
	var out []*athlete.File
	for i := range n {
		f := testkit.Strong()
		f.Athlete.Name = fmt.Sprintf("Golfer %d", i)
		f.Screens = []athlete.Screen{
			{Date: testkit.Day.Add(-7), Trials: testkit.Trials(f.Athlete, "cmj", "", a[i])},
			{Date: testkit.Day, Trials: testkit.Trials(f.Athlete, "cmj", "", b[i])},
		}
		out = append(out, f)
	}
	return out
}

func find(t *testing.T, list []retest.Test, id string) retest.Test {
	t.Helper()
	for _, x := range list {
		if x.Test == id {
			return x
		}
	}
	t.Fatalf("no pairs of %s", id)
	return retest.Test{}
}

func TestTenPairsTakeThePlaceOfTheDefault(t *testing.T) {
	list := retest.Of(squad(10), measure.Shipped())
	x := find(t, list, "cmj")
	assert.True(t, x.FromSquad)
	assert.Equal(t, 10, x.Golfers)
	assert.InDelta(t, 0.695581, x.Used, 1e-6)
	assert.InDelta(t, 1.92802, x.Detectable, 1e-5)
	errors := retest.Errors(list, measure.Shipped())
	assert.Equal(t, map[string]measure.TestError{"cmj": {Value: 0.6956, Pairs: 10}}, errors)

	nine := find(t, retest.Of(squad(9), measure.Shipped()), "cmj")
	assert.False(t, nine.FromSquad, "nine are not enough")
	assert.Equal(t, 1.5, nine.Used)
	assert.NotNil(t, nine.Repeats, "they are shown all the same")
	assert.Empty(t, retest.Errors([]retest.Test{nine}, measure.Shipped()))
}

// What was measured from repeats judges the next change: 2 cm is unclear with
// the default error and real with the squad's own.
func TestTheReadUsesTheSquadsError(t *testing.T) {
	f := squad(1)[0]
	f.Screens[0].Trials[0].Value, f.Screens[1].Trials[0].Value = 34, 36.2
	sch, _ := method.Shipped().Schools.Find("")
	change := func() *quality.Change {
		for _, x := range quality.Compute(f, sch, nil).Tests {
			if x.Test == "cmj" {
				return x.Sides[0].Change
			}
		}
		return nil
	}
	require.NotNil(t, change())
	assert.EqualValues(t, "unclear", change().Verdict)
	f.Battery = &measure.Changes{Errors: map[string]measure.TestError{"cmj": {Value: 0.6956, Pairs: 10}}}
	assert.EqualValues(t, "real", change().Verdict)
	f.Battery.Confidence = 99
	assert.EqualValues(t, "unclear", change().Verdict, "at 99% it takes 2.53 cm")
}

func TestOnlyLikePairsCount(t *testing.T) {
	f := squad(1)
	f[0].Screens[0].Trials[0].Variant = "arm-swing"
	assert.Empty(t, retest.Of(f, measure.Shipped()), "another way of jumping is no repeat")
	f = squad(1)
	f[0].Screens[0].Date = testkit.Day.Add(-retest.MaxDays - 1)
	assert.Empty(t, retest.Of(f, measure.Shipped()), "eleven days are training")
	f = squad(1)
	f[0].Screens[0].Trials[0] = measure.Trial{Test: "cmj", Number: 1, Status: measure.Stopped}
	assert.Empty(t, retest.Of(f, measure.Shipped()), "a stopped test is no result")
}
