package diary_test

import (
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dunnock/internal/core/civil"
	"dunnock/internal/core/speed"
	"dunnock/internal/core/speed/diary"
)

var begin = time.Date(2026, 11, 2, 9, 0, 0, 0, time.UTC)

// half is a series of five swings of a trial, so long after it began.
func half(pair int, arm string, after time.Duration, mps float64, felt int) diary.Series {
	at := begin.Add(after)
	s := series(civil.MustParse(at.Format("2006-01-02")), diary.TrialKind, mps, mps, mps, mps, mps)
	s.ID, s.CreatedAt = arm+at.String(), at
	s.InTrial = &diary.InTrial{Trial: "t", Arm: arm, Pair: pair, Felt: felt}
	return s
}

const day = 24 * time.Hour

func TestATrialOnDays(t *testing.T) {
	trial := &diary.Trial{ID: "t", A: "with", B: "without", Way: diary.OnDays, Seed: 1}
	view := func(at time.Duration, all ...diary.Series) *diary.TrialView {
		return diary.ViewTrial(trial, all, "driver", 0.6, begin.Add(at))
	}
	v := view(0)
	assert.Equal(t, diary.Next{Pair: 1, Arm: "B", Name: "without"}, v.Next, "an odd seed begins with B")
	assert.Equal(t, "No pair is complete yet.", v.Words)
	b1 := half(1, "B", 0, 47, 7)
	v = view(day, b1)
	assert.Equal(t, "A", v.Next.Arm)
	assert.Equal(t, "too early by 24 hours", v.Next.Wait)
	a1 := half(1, "A", 3*day, 47.4, 6)
	v = view(6*day, b1, a1)
	assert.Equal(t, diary.Next{Pair: 2, Arm: "A", Name: "with"}, v.Next, "the next pair the other way round")
	require.NotNil(t, v.Speed)
	assert.Equal(t, speed.Open, v.Speed.Verdict, "one pair says nothing")

	// 0.4, 0.9, 0.2, 0.7 → 0.055 to 1.045 (handbook 12).
	all := []diary.Series{
		b1, a1, half(2, "A", 6*day, 47.9, 5), half(2, "B", 9*day, 47, 8), half(3, "B", 12*day, 47, 8), half(3, "A", 15*day, 47.2, 6),
		half(4, "A", 18*day, 47.7, 6), half(4, "B", 21*day, 47, 7),
	}
	v = view(30*day, all...)
	require.NotNil(t, v.Speed.Interval)
	assert.InDelta(t, 0.055, v.Speed.Interval.Low, 5e-4)
	assert.Equal(t, "with was faster. without felt faster.", v.Words, "feels faster is said beside is faster")
	assert.Nil(t, v.Carry, "no carry was seen")

	late := half(5, "A", 24*day+5*time.Hour, 48, 5)
	v = view(40*day, append(all, half(5, "B", 27*day, 47, 5), late)...)
	assert.Contains(t, v.Pairs[4].Problem, "same time of day")
	assert.Equal(t, 4, v.Speed.Pairs, "a pair with a problem does not count")
	v = view(60*day, half(1, "B", 0, 47, 5), half(1, "A", 20*day, 48, 5))
	assert.Contains(t, v.Pairs[0].Problem, "More than 14 days")
	v = view(60*day, half(1, "B", 0, 47, 5), half(1, "A", day, 48, 5))
	assert.Contains(t, v.Pairs[0].Problem, "Less than 48 hours")
}

func TestATrialInHalves(t *testing.T) {
	trial := &diary.Trial{ID: "t", A: "with", B: "without", Way: diary.InHalves, Seed: 2}
	v := diary.ViewTrial(trial, []diary.Series{half(1, "A", 0, 47, 5)}, "driver", 0.6, begin.Add(5*time.Minute))
	assert.Equal(t, diary.Next{Pair: 1, Arm: "B", Name: "without", Wait: "too early by 15 minutes"}, v.Next)
	soon := []diary.Series{half(1, "A", 0, 47, 5), half(1, "B", 10*time.Minute, 47, 5)}
	v = diary.ViewTrial(trial, soon, "driver", 0.6, begin.Add(3*day))
	assert.Contains(t, v.Pairs[0].Problem, "20 minutes")
	few := half(1, "B", 30*time.Minute, 47, 5)
	few.Swings = few.Swings[:4]
	v = diary.ViewTrial(trial, []diary.Series{half(1, "A", 0, 47, 5), few}, "driver", 0.6, begin.Add(3*day))
	assert.Zero(t, v.Pairs[0].B.Mps, "five swings are needed")
	assert.Nil(t, v.Speed)
}
