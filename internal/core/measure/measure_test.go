package measure_test

import (
	"math"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dunnock/internal/core/measure"
)

func reference(t *measure.Test) string { return t.ReferenceVariant(true) }

func TestBatteryHangsTogether(t *testing.T) {
	weights := map[string]float64{}
	for i := range measure.Shipped().Tests() {
		x := &measure.Shipped().Tests()[i]
		assert.Less(t, x.Impossible[0], x.Impossible[1], x.ID)
		assert.LessOrEqual(t, x.Impossible[0], x.Plausible[0], x.ID)
		assert.GreaterOrEqual(t, x.Impossible[1], x.Plausible[1], x.ID)
		assert.NotEmpty(t, x.Setup, x.ID)
		assert.NotEmpty(t, x.Source, x.ID)
		assert.NotEmpty(t, x.Group, x.ID)
		if x.Rule == measure.Derived {
			continue
		}
		assert.Positive(t, x.Error, x.ID)
		assert.Positive(t, x.Minutes, x.ID)
		assert.NotEmpty(t, x.Say, "%s: what the golfer is told", x.ID)
		assert.NotEmpty(t, x.Voids, "%s: what makes a trial not count", x.ID)
		if x.Weight > 0 && x.StandsFor == "" {
			weights[x.Quality] += x.Weight
		}
	}
	for q, w := range weights {
		assert.InDelta(t, 1, w, 1e-9, q)
	}
}

// Targets of our first battery, a sample of each row.
func TestTargets(t *testing.T) {
	rows := []struct {
		test, sex, band string
		value, spread   float64
	}{
		{"thoracic-rotation", "male", "18-39", 50, 10}, {"thoracic-rotation", "", "60+", 45, 10},
		{"hip-ir", "female", "13-17", 40, 8}, {"hip-ir", "male", "60+", 30, 8}, {"hip-ir", "", "40-59", 35, 8},
		{"ankle-lunge", "", "60+", 10, 3}, {"cmj", "male", "40-59", 33, 7}, {"cmj", "female", "60+", 18, 5}, {"cmj", "male", "13-17", 35, 7},
		{
			"chest-throw",
			"female",
			"18-39",
			4.2,
			0.7,
		}, {"chest-throw", "male", "60+", 3.6, 0.7}, {"rotary-throw", "male", "18-39", 9, 1.5}, {"rotary-throw", "female", "13-17", 6.5, 1.5},
		{
			"trap-bar-lift",
			"male",
			"18-39",
			1.8,
			0.3,
		}, {"trap-bar-lift", "female", "60+", 0.9, 0.3}, {"push-up", "male", "60+", 12, 8}, {"push-up", "female", "18-39", 12, 5},
	}
	for _, r := range rows {
		x, ok := measure.Shipped().Find(r.test)
		require.True(t, ok)
		got, ok := x.Target(r.sex, r.band)
		require.True(t, ok, "%+v", r)
		assert.Equal(t, []float64{r.value, r.spread}, []float64{got.Value, got.Spread}, "%+v", r)
	}
	cmj, _ := measure.Shipped().Find("cmj")
	_, ok := cmj.Target("", "18-39")
	assert.False(t, ok, "no target when the sex it depends on is left out")
	chest, _ := measure.Shipped().Find("chest-throw")
	assert.Equal(t, "ball-3kg", chest.ReferenceVariant(true))
	assert.Equal(t, "ball-2kg", chest.ReferenceVariant(false))
}

func TestCellsThatAreUnderstood(t *testing.T) {
	rows := []struct {
		cell  measure.Cell
		value float64
	}{
		{measure.Cell{Test: "grip", Side: "lead", Trial: 1, Text: "42.5"}, 42.5},
		{measure.Cell{Test: "grip", Side: " Trail ", Trial: 3, Text: " 93.7 ", Unit: "lb"}, 42.5016},
		{measure.Cell{Test: "grip", Side: "lead", Trial: 1, Text: "42,5", DecimalComma: true}, 42.5},
		{measure.Cell{Test: "driver-speed", Trial: 5, Text: "100", Unit: "mph"}, 44.704},
		{measure.Cell{Test: "height", Trial: 1, Text: "70", Unit: "in"}, 177.8},
		{measure.Cell{Test: "push-up", Trial: 1, Text: "0"}, 0},
		{measure.Cell{Test: "cmj", Trial: 1, Text: "0.55s"}, 37.08},
		{measure.Cell{Test: "cmj", Trial: 1, Text: "500", Unit: "ms"}, 30.65},
		{measure.Cell{Test: "ankle-lunge", Side: "lead", Trial: 2, Text: "10", Unit: "cm"}, 10},
	}
	for _, r := range rows {
		got, err := r.cell.Parse(measure.Shipped(), reference)
		require.NoError(t, err, "%+v", r.cell)
		assert.InDelta(t, r.value, got.Value, 1e-9, "%+v", r.cell)
		assert.Equal(t, measure.Done, got.Status)
	}
	lift, err := measure.Cell{Test: "trap-bar-lift", Trial: 1, Text: "102.5 x 5 @ 2"}.Parse(measure.Shipped(), reference)
	require.NoError(t, err)
	assert.Equal(t, &measure.Lift{LoadKg: 102.5, Reps: 5, Reserve: 2}, lift.Lift)
	trapBar, _ := measure.Shipped().Find("trap-bar-lift")
	assert.Equal(t, "102.5x5@2", lift.Text(trapBar, ""))

	rung, err := measure.Cell{Test: "implement-ladder", Side: "playing", Trial: 4, Text: "118.5@310 g", Unit: "mph"}.Parse(measure.Shipped(), reference)
	require.NoError(t, err)
	assert.InDelta(t, 52.9742, rung.Value, 1e-9)
	assert.Equal(t, 310.0, rung.MassG)
	ladder, _ := measure.Shipped().Find("implement-ladder")
	assert.Equal(t, "118.5@310", rung.Text(ladder, "mph"))
	assert.Empty(t, rung.Check(measure.Shipped()))
}

func TestCellsThatAreRefused(t *testing.T) {
	rows := []struct {
		cell     measure.Cell
		field    string
		says     string
		unlikely bool
	}{
		{measure.Cell{Test: "gripp", Trial: 1, Text: "40"}, "test", "there is no test", false},
		{measure.Cell{Test: "grip", Side: "left", Trial: 1, Text: "40"}, "side", "use lead or trail", false},
		{measure.Cell{Test: "rotary-throw", Side: "lead", Trial: 1, Text: "8"}, "side", "use toward or away", false},
		{measure.Cell{Test: "cmj", Side: "lead", Trial: 1, Text: "30"}, "side", "has no sides", false},
		{measure.Cell{Test: "cmj", Trial: 4, Text: "30"}, "trial", "trials 1 to 3", false},
		{measure.Cell{Test: "grip", Side: "lead", Trial: 1, Text: "-5"}, "value", "not possible", false},
		{measure.Cell{Test: "driver-speed", Trial: 1, Text: "400", Unit: "mph"}, "value", "400 mph is not possible", false},
		{measure.Cell{Test: "ankle-lunge", Side: "lead", Trial: 1, Text: "200"}, "value", "not possible", false},
		{measure.Cell{Test: "cmj", Trial: 1, Text: "70"}, "value", "unlikely", true},
		{measure.Cell{Test: "cmj", Trial: 1, Text: "9s"}, "value", "s cannot be read as cm", false},
		{measure.Cell{Test: "cmj", Trial: 1, Text: "thirty"}, "value", "not a number", false},
		{measure.Cell{Test: "cmj", Trial: 1, Text: "1e1"}, "value", "not a number", false},
		{measure.Cell{Test: "cmj", Trial: 1, Text: "NaN"}, "value", "not a number", false},
		{measure.Cell{Test: "cmj", Trial: 1, Text: "3,05,1"}, "value", "commas and points", false},
		{measure.Cell{Test: "cmj", Trial: 1, Text: "1.030,5", DecimalComma: true}, "value", "commas and points", false},
		{measure.Cell{Test: "cmj", Trial: 1, Text: ""}, "value", "empty", false},
		{measure.Cell{Test: "cmj", Trial: 1, Text: "30", Unit: "kg"}, "unit", "measured in cm", false},
		{measure.Cell{Test: "cmj", Trial: 1, Text: "30", Unit: "furlong"}, "unit", "not known", false},
		{measure.Cell{Test: "push-up", Trial: 1, Text: "12.5"}, "value", "whole repetitions", false},
		{measure.Cell{Test: "trap-bar-lift", Trial: 1, Text: "100"}, "value", "100x5@2", false},
		{measure.Cell{Test: "trap-bar-lift", Trial: 1, Text: "100x12@2"}, "value", "1 to 10", false},
		{measure.Cell{Test: "trap-bar-lift", Trial: 1, Text: "100x5@7"}, "value", "0 to 6", false},
		{measure.Cell{Test: "cmj", Trial: 1, Text: "30", Pain: 11}, "pain", "0 to 10", false},
		{measure.Cell{Test: "cmj", Trial: 1, Text: "30", Pain: 5}, "region", "needs a body region", false},
		{measure.Cell{Test: "cmj", Trial: 1, Text: "30", Pain: 5, Region: "knee"}, "status", "stops the test", false},
		{measure.Cell{Test: "cmj", Trial: 1, Text: "30", Region: "toe"}, "region", "not a body region", false},
		{measure.Cell{Test: "cmj", Trial: 1, Text: "30", Status: "stopped"}, "value", "has no value", false},
		{measure.Cell{Test: "cmj", Trial: 1, Text: "30", Status: "maybe"}, "status", "done, stopped or skipped", false},
		{measure.Cell{Test: "cmj", Trial: 1, Text: "30", Variant: "moon"}, "variant", "not a way", false},
	}
	for _, r := range rows {
		_, err := r.cell.Parse(measure.Shipped(), reference)
		var e *measure.CellError
		if assert.ErrorAs(t, err, &e, "%+v", r.cell) {
			assert.Equal(t, r.field, e.Field, "%+v", r.cell)
			assert.Contains(t, e.Text, r.says)
			assert.Equal(t, r.unlikely, e.Unlikely)
		}
	}
	kept, err := measure.Cell{Test: "cmj", Trial: 1, Text: "70", Confirmed: true}.Parse(measure.Shipped(), reference)
	require.NoError(t, err)
	assert.True(t, kept.Confirmed)
	_, err = measure.Cell{Test: "cmj", Trial: 1, Text: "170", Confirmed: true}.Parse(measure.Shipped(), reference)
	assert.Error(t, err, "the impossible cannot be confirmed")
}

func TestResults(t *testing.T) {
	find := func(id string) *measure.Test { x, _ := measure.Shipped().Find(id); return x }
	trials := func(id string, v ...float64) []measure.Trial {
		var out []measure.Trial
		for i, x := range v {
			out = append(out, measure.Trial{Test: id, Number: i + 1, Status: measure.Done, Value: x})
		}
		return out
	}
	best, _ := find("cmj").ResultOf(trials("cmj", 33.1, 34, 33.5))
	assert.Equal(t, 34.0, best.Value)
	assert.Equal(t, 1.3, best.CV) // SD 0.4509 over mean 33.533
	mean, _ := find("hip-ir").ResultOf(trials("hip-ir", 20, 23))
	assert.Equal(t, 21.5, mean.Value)

	_, any := find("cmj").ResultOf(nil)
	assert.False(t, any)
	stopped := append(trials("cmj", 33), measure.Trial{Test: "cmj", Number: 2, Status: measure.Stopped})
	r, _ := find("cmj").ResultOf(stopped)
	assert.True(t, r.Stopped)
	assert.Zero(t, r.Valid, "a stopped test has no result")
	skipped, _ := find("cmj").ResultOf([]measure.Trial{{Test: "cmj", Number: 1, Status: measure.Skipped}})
	assert.True(t, skipped.Skipped)
	zero, _ := find("push-up").ResultOf(trials("push-up", 0))
	assert.Equal(t, 1, zero.Valid, "a zero that was done is a result")
	out, _ := find("cmj").ResultOf(trials("cmj", 33, 33.5, 25))
	assert.Equal(t, 3, out.Outlier)
	assert.Equal(t, 33.5, out.Value, "an outlier is shown, not dropped")
}

func FuzzCell(f *testing.F) {
	f.Add("cmj", "", 1, "30.5", "cm", false)
	f.Add("trap-bar-lift", "", 1, "100x5@2", "lb", true)
	f.Add("grip", "lead", 3, "−4,2", "", true)
	f.Fuzz(func(t *testing.T, test, side string, trial int, text, u string, comma bool) {
		got, err := measure.Cell{Test: test, Side: side, Trial: trial, Text: text, Unit: u, DecimalComma: comma}.Parse(measure.Shipped(), reference)
		if err != nil {
			if strings.TrimSpace(err.Error()) == "" {
				t.Fatal("an error without words")
			}
			return
		}
		if msg := got.Check(measure.Shipped()); msg != "" {
			t.Fatalf("parsed into something impossible: %s", msg)
		}
	})
}

// The target follows the age in straight lines: no step at a birthday between 50
// and 85, a lower one for younger juniors (handbook 11, "Juniors by year" and
// "Seniors by year"; our defaults).
func TestTargetsFollowTheAge(t *testing.T) {
	b := measure.Shipped()
	at := func(test, sex string, age float64) float64 {
		x, ok := b.Find(test)
		require.True(t, ok)
		g, ok := x.TargetAt(sex, age)
		require.True(t, ok, "%s at %g", test, age)
		return g.Value
	}
	for _, c := range []struct {
		test, sex string
		age, want float64
	}{
		{"cmj", "male", 13, 26},
		{"cmj", "female", 13, 23},
		{"cmj", "male", 15, 30.5},   // half way from 26 to 35
		{"cmj", "male", 17.5, 37.5}, // half way from 35 to 40
		{"cmj", "male", 18, 40},
		{"chest-throw", "male", 13, 3.3},
		{"chest-throw", "male", 17.9, 4.5}, // the ball changes at 18: the value of 17 stays
		{"chest-throw", "male", 18, 5.0},
		{"rotary-throw", "female", 15, 5.75},
		{"trap-bar-lift", "male", 13, 0.9},
		{"push-up", "female", 13, 6},
		{"hip-ir", "male", 14, 40},
		{"cmj", "male", 50, 33},
		{"cmj", "male", 57.5, 28.5}, // half way from 33 to 24
		{"cmj", "male", 60, 27},
		{"cmj", "male", 65, 24},
		{"cmj", "male", 75, 24 - 10*0.015*24},
		{"cmj", "male", 85, 24 - 20*0.015*24},
		{"cmj", "male", 90, 24 - 20*0.015*24},
		{"trap-bar-lift", "female", 75, 0.9 - 10*0.01*0.9},
		{"hip-ir", "female", 75, 30 - 10*0.005*30},
		{"ankle-lunge", "male", 75, 10 - 10*0.005*10},
	} {
		assert.InDelta(t, c.want, at(c.test, c.sex, c.age), 1e-9, "%s of a %s of %g", c.test, c.sex, c.age)
	}
	for i := range b.Tests() {
		x := &b.Tests()[i]
		for age := 50.0; age < 85; age += 0.25 {
			a, ok := x.TargetAt("male", age)
			z, _ := x.TargetAt("male", age+0.25)
			if ok {
				assert.LessOrEqual(t, math.Abs(a.Value-z.Value), 0.1*a.Spread, "%s steps at %g", x.ID, age)
			}
		}
	}
}
