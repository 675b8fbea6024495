package norm_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dunnock/internal/core/measure"
	"dunnock/internal/core/norm"
)

func TestTablesAreWhole(t *testing.T) {
	seen := map[string]bool{}
	for _, x := range norm.Tables() {
		assert.False(t, seen[x.ID], x.ID)
		seen[x.ID] = true
		_, ok := measure.Shipped().Find(x.Test)
		assert.True(t, ok, x.ID)
		assert.NotEmpty(t, x.Source, x.ID)
		assert.NotEmpty(t, x.Mark, x.ID)
		for _, r := range x.Rows {
			want := map[norm.Kind]int{norm.MeanSD: 2, norm.Skewed: 2, norm.Percentiles: len(x.Percents), norm.Bands: len(x.Bands) - 1, norm.Value: 1}[x.Kind]
			assert.Len(t, r.Values, want, x.ID)
		}
	}
}

// Percentiles from mean and SD computed with SciPy 1.10.1; bands and printed
// medians read off the tables (Dodds et al. 2014: 51 kg men and 31 kg women at
// the peak).
func TestStanding(t *testing.T) {
	rows := []struct {
		name, test   string
		p            norm.Person
		result, best float64
		percentile   float64 // 0: none
		text         string
	}{
		{"hip rotation of a man", "hip-ir", norm.Person{Age: 35, Sex: "male"}, 35, 36, 2, "mean 47.3"},
		{"shoulder rotation of a man", "shoulder-er", norm.Person{Age: 35, Sex: "male"}, 112, 112, 84, "mean 103.7"},
		{"wrist of a man", "wrist-radial", norm.Person{Age: 35, Sex: "male"}, 18, 18, 19, "SD 4"},
		{"median man at the peak", "grip", norm.Person{Age: 30, Sex: "male"}, 0, 51, 50, "the middle is 51"},
		{"between ages and percentiles", "grip", norm.Person{Age: 32, Sex: "female"}, 0, 29, 38, "the middle is 31"},
		{"above the table", "grip", norm.Person{Age: 30, Sex: "female"}, 0, 45, 0, "above the 90th"},
		{"balance has no percentile", "stance-closed", norm.Person{Age: 45, Sex: "male"}, 9, 12, 0, "no percentile"},
		{"push-ups of a man", "push-up", norm.Person{Age: 44, Sex: "male", Variant: "strict"}, 17, 17, 0, "very good"},
		{"one fewer", "push-up", norm.Person{Age: 44, Sex: "male", Variant: "strict"}, 16, 16, 0, ": good"},
		{"reach jump", "cmj", norm.Person{Age: 24, Sex: "male", Variant: "arm-swing", MassKg: 80}, 52, 52, 0, "above average"},
	}
	for _, r := range rows {
		var got *norm.Standing
		for _, s := range norm.Stand(r.test, r.p, r.result, r.best) {
			if s.Fits && strings.Contains(s.Text, r.text) {
				got = &s
				break
			}
		}
		require.NotNil(t, got, "%s: %+v", r.name, norm.Stand(r.test, r.p, r.result, r.best))
		if r.percentile == 0 {
			assert.Nil(t, got.Percentile, r.name)
		} else if assert.NotNil(t, got.Percentile, r.name) {
			assert.Equal(t, r.percentile, *got.Percentile, r.name)
		}
	}
}

// Leg power bands: worked rows computed from Sayers' squat-jump equation.
func TestLegPower(t *testing.T) {
	for _, r := range []struct {
		p      norm.Person
		height float64
		want   string
	}{
		{norm.Person{Age: 24, Sex: "male", Variant: "arm-swing", MassKg: 80}, 52, "about 4725 W: very good"},
		{norm.Person{Age: 45, Sex: "male", Variant: "arm-swing", MassKg: 86}, 38, "about 4147 W: very good"},
		{norm.Person{Age: 33, Sex: "female", Variant: "arm-swing", MassKg: 62}, 30, "about 2575 W: very good"},
		{norm.Person{Age: 19, Sex: "female", Variant: "arm-swing", MassKg: 58}, 34, "about 2636 W: good"},
	} {
		var texts []string
		for _, s := range norm.Stand("cmj", r.p, r.height, r.height) {
			texts = append(texts, s.Text)
		}
		assert.Contains(t, texts, r.want)
	}
}

func TestWhereNoTableFitsItIsSaid(t *testing.T) {
	why := func(test string, p norm.Person) string {
		s := norm.Stand(test, p, 10, 10)
		require.NotEmpty(t, s)
		for _, x := range s {
			assert.False(t, x.Fits && x.Percentile != nil, "%s %+v", test, x)
		}
		return s[len(s)-1].Text
	}
	assert.Contains(t, why("push-up", norm.Person{Age: 30, Sex: "female", Variant: "strict"}), "another way of doing it")
	assert.Contains(t, why("push-up", norm.Person{Age: 75, Sex: "male", Variant: "strict"}), "no table for this age")
	assert.Contains(t, why("push-up", norm.Person{Age: 30, Variant: "strict"}), "left out")
	assert.Contains(t, why("hip-ir", norm.Person{Age: 30, Sex: "female"}), "109 males")
	assert.Contains(t, why("grip", norm.Person{Age: 90, Sex: "male"}), "no table for this age")
	assert.Empty(t, norm.Stand("chest-throw", norm.Person{Age: 30, Sex: "male"}, 5, 5), "no adult table is known to us")
}

// Own choice, worked by hand: 100·(below + half the equal ones)/n.
func TestInSquad(t *testing.T) {
	squad := []float64{36.7, 38.5, 38.5, 41.2, 42.9, 44.0, 50.1}
	for v, want := range map[float64]float64{36.7: 7.1429, 38.5: 28.5714, 42.9: 64.2857, 50.1: 92.8571, 45.0: 85.7143} {
		got, ok := norm.InSquad(v, squad, false)
		require.True(t, ok)
		assert.InDelta(t, want, got, 1e-4)
		turned, _ := norm.InSquad(v, squad, true)
		assert.InDelta(t, 100-want, turned, 1e-4)
	}
	_, ok := norm.InSquad(40, squad[:4], false)
	assert.False(t, ok, "four golfers are no squad to stand in")
}
