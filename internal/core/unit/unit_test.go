package unit_test

import (
	"math"
	"math/rand/v2"
	"strconv"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dunnock/internal/core/unit"
)

// Source: the international yard and pound agreement of 1959; exact.
func TestExactFactors(t *testing.T) {
	rows := []struct {
		v        float64
		from, to unit.Unit
		want     float64
	}{
		{1, unit.MilePerHour, unit.MetrePerSecond, 0.44704}, {1, unit.Yard, unit.Metre, 0.9144}, {1, unit.Inch, unit.Centimetre, 2.54},
		{1, unit.Pound, unit.Kilogram, 0.45359237}, {36, unit.KilometrePerH, unit.MetrePerSecond, 10}, {3, unit.Metre, unit.Centimetre, 300},
	}
	for _, r := range rows {
		got, err := unit.Convert(r.v, r.from, r.to)
		require.NoError(t, err)
		assert.InDelta(t, r.want, got, 1e-12, "%v", r)
	}
	_, err := unit.Convert(1, unit.Kilogram, unit.Metre)
	assert.Error(t, err)
}

func TestRoundingAndWords(t *testing.T) {
	assert.Equal(t, 0.13, unit.Round(0.125, 2))
	assert.Equal(t, -0.13, unit.Round(-0.125, 2))
	assert.Equal(t, 1.01, unit.Round(1.005, 2), "what was meant, not what binary made of it")
	assert.Equal(t, "0.0", unit.Text(-0.01, 1))
	assert.Equal(t, "82.5", unit.Compact(82.50, 2))
	p := unit.Preference{Speed: unit.MilePerHour}
	assert.Equal(t, "100.0 mph", p.Quantity(44.704, unit.MetrePerSecond, 2))
	assert.Equal(t, "44.7 m/s", unit.Preference{Speed: unit.MetrePerSecond}.Quantity(44.704, unit.MetrePerSecond, 1))
	assert.Equal(t, "35°", p.Quantity(35, unit.Degree, 0))
	assert.Equal(t, "34 cm", p.Quantity(34.04, unit.Centimetre, 0), "what is not said is shown as it is kept")
	p = unit.Preference{Speed: "mph", Mass: "lb", Length: "in", Distance: "ft"}
	assert.Equal(t, "110.2 lb", p.Quantity(50, unit.Kilogram, 1))
	assert.Equal(t, "13.4 in", p.Quantity(34.04, unit.Centimetre, 0))
	assert.Equal(t, "30.0 ft", p.Quantity(9.144, unit.Metre, 2))
	for decimals, want := range map[int]string{0: "0", 1: "0.1", 2: "0.05", 3: "0.050"} {
		assert.Equal(t, want, unit.Text(0.0500001, decimals))
	}
	r := rand.New(rand.NewPCG(1, 2))
	for range 2000 {
		v, decimals := (r.Float64()-0.5)*math.Pow(10, 20*r.Float64()-3), r.IntN(5)
		assert.Equal(t, strconv.FormatFloat(unit.Round(v, decimals), 'f', decimals, 64), unit.Text(v, decimals), "%g", v)
	}
	assert.Equal(t, "NaN", unit.Text(math.NaN(), 1))
	for _, s := range []string{"", "MPH", " kg ", "°", "reps"} {
		_, err := unit.Parse(s)
		assert.NoError(t, err, s)
	}
}
