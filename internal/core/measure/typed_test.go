package measure_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dunnock/internal/core/measure"
	"dunnock/internal/core/unit"
)

// What people write into a cell. An inch is 2.54 cm, a foot 12 of them, a pound
// 0.45359237 kg, all exactly (international yard and pound, 1959).
func TestWaysOfWriting(t *testing.T) {
	for _, r := range []struct {
		test, side, text string
		unit             string
		value            float64
	}{
		{"height", "", "72 in", "", 182.88},
		{"height", "", `72"`, "", 182.88},
		{"height", "", `6'0"`, "", 182.88},
		{"height", "", "6'", "", 182.88},
		{"height", "", "6′ 2½″", "", -1},
		{"height", "", "6 ft 2", "", 187.96},
		{"height", "", "5ft10.5in", "", 179.07},
		{"height", "", "5’ 11”", "", 180.34},
		{"height", "", "184,5", "", 184.5},
		{"height", "", "184.5cm", "in", 184.5}, // what is written goes before what is usual
		{"height", "", "1.845 m", "", 184.5},
		{"mass", "", "140 lb", "", 63.5029},
		{"mass", "", "140lbs.", "", 63.5029},
		{"mass", "", "81,65 kg", "", 81.65},
		{"hip-ir", "lead", "38°", "", 38},
		{"hip-ir", "lead", "38 º", "", 38},
		{"hip-ir", "lead", "38 deg", "", 38},
		{"swing-vertical", "", "1,812", "", 1.812}, // no other reading is possible
		{"mass", "", "81,647", "", 81.647},
		{"driver-speed", "", "100 mph", "m/s", 44.704},
		{"driver-speed", "", "161 km/h", "mph", 44.7222},
		{"cmj", "", "530 ms", "", 34.43},
		{"push-up", "", "12 reps", "", 12},
	} {
		got, err := measure.Cell{Test: r.test, Side: r.side, Trial: 1, Text: r.text, Unit: r.unit}.Parse(measure.Shipped(), reference)
		if r.value < 0 {
			assert.Error(t, err, r.text)
			continue
		}
		require.NoError(t, err, r.text)
		assert.InDelta(t, r.value, got.Value, 1e-9, r.text)
	}
}

func TestWaysOfWritingALift(t *testing.T) {
	for text, want := range map[string]measure.Lift{
		"150x5@2":                {LoadKg: 150, Reps: 5, Reserve: 2},
		"150×5 r2":               {LoadKg: 150, Reps: 5, Reserve: 2},
		"150 x 5 @ 2":            {LoadKg: 150, Reps: 5, Reserve: 2},
		"150kg x 5 reps, RIR 2":  {LoadKg: 150, Reps: 5, Reserve: 2},
		"150*5 rir=2":            {LoadKg: 150, Reps: 5, Reserve: 2},
		"150x5, 2 in reserve":    {LoadKg: 150, Reps: 5, Reserve: 2},
		"152,5x3@1,5":            {LoadKg: 152.5, Reps: 3, Reserve: 1.5},
		"330 lb x 5 @ 0":         {LoadKg: 149.6855, Reps: 5},
		"150 x 5, nothing in it": {LoadKg: -1},
	} {
		got, err := measure.Cell{Test: "trap-bar-lift", Trial: 1, Text: text}.Parse(measure.Shipped(), reference)
		if want.LoadKg < 0 {
			assert.Error(t, err, text)
			continue
		}
		require.NoError(t, err, text)
		assert.Equal(t, want, *got.Lift, text)
	}
}

func TestWhatIsNotGuessedIsOffered(t *testing.T) {
	for _, r := range []struct {
		test, side, text, unit string
		says                   string
		offers                 []string
	}{
		{"trap-bar-lift", "", "150x5", "", "left in reserve after 150x5", []string{"150x5@0", "150x5@1", "150x5@2", "150x5@3", "150x5@4"}},
		{"grip-burst-rate", "lead", "1,250", "", "may be 1.250 or 1250", []string{"1.250", "1250"}},
		{"height", "", "72", "", "72 cm is not possible", []string{"72 in"}},
		{"height", "", "1.8", "", "not possible", []string{"1.8 m"}},
		{"mass", "", "198", "", "198 kg is unlikely", []string{"198 lb"}},
		{"driver-speed", "", "108", "m/s", "108 m/s is not possible", []string{"108 mph", "108 km/h"}},
		{"hip-ir", "trail", "138", "", "Hip internal rotation, prone, trail, trial 2: 138° is not possible", nil},
		{"mass", "", "38 °", "", "deg cannot be read as kg", nil},
		{"height", "", `5'14"`, "", "a foot has 12", nil},
	} {
		trial := 1
		if r.side == "trail" {
			trial = 2
		}
		b := measure.Shipped()
		if _, ok := b.Find(r.test); !ok {
			t.Fatalf("no test %s", r.test)
		}
		_, err := measure.Cell{Test: r.test, Side: r.side, Trial: trial, Text: r.text, Unit: r.unit}.Parse(b, reference)
		var e *measure.CellError
		if assert.ErrorAs(t, err, &e, r.text) {
			assert.Contains(t, e.Text, r.says, r.text)
			assert.Equal(t, r.offers, e.Offers, r.text)
		}
		for _, o := range r.offers {
			got, err := measure.Cell{Test: r.test, Side: r.side, Trial: trial, Text: o, Confirmed: true}.Parse(b, reference)
			if assert.NoError(t, err, o) {
				assert.NotZero(t, got.Value, "what is offered is understood: %s", o)
			}
		}
	}
	assert.Equal(t, "38°", unit.Words(38, unit.Degree))
}
