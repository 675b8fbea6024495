package readiness_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"dunnock/internal/core/athlete"
	"dunnock/internal/core/readiness"
)

func TestAnswersAreChecked(t *testing.T) {
	assert.Empty(t, readiness.Answers{}.Validate())
	bad := readiness.Answers{
		Pain:    []readiness.Pain{{Region: "aura", Level: 11, Side: "left"}},
		Illness: "x", Sleep: "x", Soreness: "x", Eagerness: "x", SoreAt: []string{"aura"},
	}
	var paths []string
	for _, p := range bad.Validate() {
		paths = append(paths, p.Path)
	}
	assert.ElementsMatch(t, []string{"pain[0].region", "pain[0].level", "pain[0].side", "illness", "sleep", "soreness", "eagerness", "soreAt[0]"}, paths)
}

func TestRedFlagsAndFeverStopTheDay(t *testing.T) {
	for _, a := range []readiness.Answers{{NightPain: true}, {LegsWeak: true}, {Illness: readiness.Fever}, {RedFlagged: "Fainted."}} {
		assert.NotEmpty(t, a.Stop())
	}
	assert.Empty(t, readiness.Answers{Illness: readiness.Cold, Sleep: readiness.SleepBad, Soreness: readiness.SoreTooFar}.Stop())
}

// Pain of 4 and more, rising or numb takes the region out; 1 to 3 does not (handbook 11
// and 12).
func TestPainLimitsTheDay(t *testing.T) {
	a := readiness.Answers{Pain: []readiness.Pain{{Region: "hip", Side: "lead", Level: 4}, {Region: "knee", Level: 2}, {Region: "elbow", Level: 1, Rising: true}, {Region: "neck", Numb: true}}}
	got := a.Limits()
	assert.Len(t, got, 3)
	assert.Equal(t, athlete.Limit{Region: "hip", Side: "lead", Kind: athlete.NoneOfPattern, SetBy: readiness.SetBy}, got[0])
	assert.True(t, a.HurtsALittle("knee"))
	assert.False(t, a.HurtsALittle("hip", "elbow"))
}
