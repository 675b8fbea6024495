package diary_test

import (
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dunnock/internal/core/athlete"
	"dunnock/internal/core/civil"
	"dunnock/internal/core/implement"
	"dunnock/internal/core/speed"
	"dunnock/internal/core/speed/diary"
	"dunnock/internal/core/testkit"
)

// series of one day, driver at full intent from the playing side.
func series(on civil.Date, kind string, mps ...float64) diary.Series {
	s := diary.Series{ID: on.String() + kind, Date: on, Kind: kind}
	for i, v := range mps {
		s.Swings = append(s.Swings, diary.Swing{ID: string(rune('a' + i)), Swing: speed.Swing{
			Key: speed.Key{Implement: "driver", Side: speed.Playing, Intent: speed.Full}, Set: 1 + i/6, AtS: -1, ClubMps: v,
		}})
	}
	return s
}

var sticks = []implement.Implement{
	{ID: "light", Name: "Light stick", Kind: implement.Speed, MassG: 250, LengthM: 1.1}, {ID: "heavy", Name: "Heavy stick", Kind: implement.Speed, MassG: 365, LengthM: 1.1},
}

// Two series of one day have one stop line: the best three are the day's; the usual is
// the median of the last four days.
func TestTheStopLineIsTheDays(t *testing.T) {
	day := testkit.Day
	all := []diary.Series{
		series(day, diary.TrainingKind, 46, 46),
		series(day, diary.TrainingKind, 50, 50, 50, 49),
		series(day.Add(-7), diary.TrainingKind, 48, 48, 48),
		series(day.Add(-14), diary.TrainingKind, 49, 49, 49),
	}
	p, err := diary.PageOf(testkit.Strong(), all, nil)
	require.NoError(t, err)
	stop := p.Series[0].Stops[0]
	assert.InDelta(t, 50, stop.ReferenceMps, 1e-9)
	assert.InDelta(t, 47.5, stop.LineMps, 1e-9)
	assert.Equal(t, 1, stop.Below, "46 and 46 of another series of the day: only the sixth is judged")
	assert.InDelta(t, 48.5, stop.UsualMps, 1e-9)
}

func TestWhatSeriesSayTogether(t *testing.T) {
	f := testkit.Strong()
	day := testkit.Day
	train := series(day, diary.TrainingKind, 48, 49, 50)
	add := func(implement, side, intent string, mps float64) {
		train.Swings = append(train.Swings, diary.Swing{ID: implement + side + intent, Swing: speed.Swing{Key: speed.Key{Implement: implement, Side: side, Intent: intent}, Set: 1, AtS: -1, ClubMps: mps}})
	}
	add("driver", speed.Other, speed.Full, 45)
	add("driver", speed.Playing, speed.Cruise, 46)
	add("light", speed.Playing, speed.Full, 53)
	add("heavy", speed.Playing, speed.Full, 47)
	cold := series(day.Add(-3), diary.ColdStartKind, 45.1, 46.9, 47.6, 48.3, 48.2, 48.9, 48.6, 49, 48.8, 48.9)
	cold.Before = "desk"
	for i := range cold.Swings {
		off := 12.0
		if i > 5 {
			off = 4
		}
		cold.Swings[i].Strike = &speed.Strike{ToeMm: off, DirectionDeg: off / 4}
	}
	f.ColdStart = cold.ColdStart()
	p, err := diary.PageOf(f, []diary.Series{train, cold}, sticks)
	require.NoError(t, err)
	assert.Len(t, p.Implements, 2)
	assert.True(t, p.Implements[0].Practice && p.Implements[0].Trains)
	assert.Len(t, p.Ladder, 4, "light, own, heavy, light")
	assert.Empty(t, p.Levers, "no balance point is known")
	weighed := slices.Clone(sticks)
	weighed[0].BalanceM = 0.71
	q, err := diary.PageOf(f, nil, weighed)
	require.NoError(t, err)
	require.Len(t, q.Levers, 1)
	assert.InDelta(t, 0.250*9.80665*0.43, q.Levers[0].Steps[0].HingeNm, 1e-9, "by hand: 0.71 − 0.08 − 0.20 m")
	require.NotNil(t, p.Profile)
	assert.Len(t, p.Profile.Points, 3)
	assert.Nil(t, p.OtherLine, "one mass makes no line")
	require.NotNil(t, p.Share)
	assert.InDelta(t, 92, p.Share.Pct, 1e-9)
	require.Len(t, p.Sides, 1)
	assert.InDelta(t, 10, p.Sides[0].GapPct, 1e-9)
	c := p.ColdStart
	require.NotNil(t, c)
	assert.Equal(t, 6, c.Ladder)
	assert.Equal(t, day.Add(-3+56), c.DueOn)
	assert.False(t, c.Due)
	assert.Equal(t, "Strike 12 mm from the middle early, 4 mm late; start 3.0° off line early, 1.0° late.", c.Strike)
	require.NotNil(t, c.Lost)
	assert.InDelta(t, 17, c.Lost.ByRule.LowM/0.9144, 0.5)
	assert.Empty(t, c.Again, "nothing was swung after it that day")
	same := train
	same.Date = cold.Date
	q, err = diary.PageOf(f, []diary.Series{same, cold}, sticks)
	require.NoError(t, err)
	require.NotNil(t, q.ColdStart.WarmMps)
	assert.InDelta(t, 49, *q.ColdStart.WarmMps, 1e-9)
	assert.Contains(t, q.ColdStart.Again, "5.5 mph more than the first cold swings") // by hand: 49 − 46.53 m/s
	f.AsOf = day.Add(60)
	p, err = diary.PageOf(f, []diary.Series{train, cold}, sticks)
	require.NoError(t, err)
	assert.True(t, p.ColdStart.Due, "after eight weeks")
	p, err = diary.PageOf(testkit.Strong(), nil, nil)
	require.NoError(t, err)
	assert.Nil(t, p.ColdStart)
	assert.Contains(t, p.NoProfile, "two masses")
}

// Cleared, no limit of back, hip, shoulder or wrist; juniors and 60 and over raise
// first; nobody under 13 (handbook 12).
func TestWhoMayStartCold(t *testing.T) {
	why, raised := diary.MayStartCold(testkit.Strong())
	assert.Empty(t, why)
	assert.False(t, raised)
	old := testkit.Strong()
	old.Athlete.BirthDate = civil.MustParse("1960-01-01")
	_, raised = diary.MayStartCold(old)
	assert.True(t, raised)
	child := testkit.Strong()
	child.Athlete.BirthDate = civil.MustParse("2015-01-01")
	why, _ = diary.MayStartCold(child)
	assert.Contains(t, why, "Under 13")
	hurt := testkit.Strong()
	hurt.Limits = []athlete.Limit{{Region: "wrist-hand", Kind: athlete.NoMaximalEffort, SetBy: "doctor"}}
	why, _ = diary.MayStartCold(hurt)
	assert.Contains(t, why, "A limit forbids it")
	knee := testkit.Strong()
	knee.Limits = []athlete.Limit{{Region: "knee", Kind: athlete.NoImpact, SetBy: "doctor"}}
	why, _ = diary.MayStartCold(knee)
	assert.Empty(t, why)
	open := testkit.Strong()
	open.Clearance = athlete.Clearance{}
	why, _ = diary.MayStartCold(open)
	assert.Contains(t, why, "Not cleared")
}
