package floor_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dunnock/internal/core/athlete"
	"dunnock/internal/core/floor"
	"dunnock/internal/core/library"
	"dunnock/internal/core/programme"
	"dunnock/internal/core/readiness"
)

func num[T any](v T) *T { return &v }

// session is one of everything: swings, a throw, jumps, a lift with a light jump in turns, a
// push that meets a pull, trunk and range.
func session() *programme.Session {
	return &programme.Session{ID: "s", Budget: 60, Items: []programme.Item{
		{ID: "sw", Slot: library.SlotSwings, Exercise: "swing-driver", Dose: programme.Dose{Sets: 6, Reps: 5, Unit: library.Swings, Sides: library.SwingSides, OtherSideShare: 50, RestSeconds: 90}},
		{ID: "th", Slot: library.SlotThrow, Exercise: "throw-scoop", Dose: programme.Dose{Sets: 3, Reps: 4, Unit: library.Reps, Sides: library.Directional, BallKg: 3, RestSeconds: 60}},
		{ID: "ju", Slot: library.SlotJump, Exercise: "jump-countermovement", Dose: programme.Dose{Sets: 6, Reps: 3, Unit: library.Contacts, Sides: library.TwoSided, RestSeconds: 60}},
		{ID: "li", Slot: library.SlotMain, Exercise: "lift-trap-bar", Dose: programme.Dose{Sets: 3, Reps: 5, Unit: library.Reps, Sides: library.TwoSided, Reserve: num(2), LoadKg: num(100.0), RestSeconds: 180, WarmUpSets: []programme.WarmSet{{LoadKg: 50, Reps: 6}, {LoadKg: 75, Reps: 3}}}},
		{ID: "pu", Slot: library.SlotPush, Exercise: "push-bench-db", Dose: programme.Dose{Sets: 3, Reps: 8, Unit: library.Reps, Sides: library.TwoSided, Reserve: num(2), AboutKg: 12, AHand: true, RestSeconds: 90}},
		{ID: "pl", Slot: library.SlotPull, Exercise: "pull-row-db", Dose: programme.Dose{Sets: 3, Reps: 8, Unit: library.Reps, Sides: library.OneSided, Reserve: num(2), RestSeconds: 60}},
		{ID: "tr", Slot: library.SlotTrunk, Exercise: "trunk-side-plank", Dose: programme.Dose{Sets: 2, Seconds: 20, Unit: library.Seconds, Sides: library.OneSided, RestSeconds: 45}},
		{ID: "ra", Slot: library.SlotRange, Exercise: "range-hip-9090", Dose: programme.Dose{Sets: 2, Reps: 8, Unit: library.Reps, Sides: library.OneSided, RestSeconds: 15}},
	}}
}

var bar = floor.Bar{BarKg: 25, StepKg: 2.5}

func lighten(a readiness.Answers) (*floor.Lightened, map[programme.ID]programme.Item) {
	l := floor.Lighten(session(), library.Shipped(), &a, library.Shipped().Kit(), bar)
	items := map[programme.ID]programme.Item{}
	for _, it := range l.Session.Items {
		items[it.ID] = it
	}
	return l, items
}

// Source: the handbook's table of readiness (exact arithmetic, warm-up), row by row.
func TestTheEasierVersion(t *testing.T) {
	l, items := lighten(readiness.Answers{})
	assert.Empty(t, l.Changes, "a usual day changes nothing")
	assert.Len(t, items, 8)

	l, _ = lighten(readiness.Answers{Illness: readiness.Fever})
	assert.NotEmpty(t, l.Stop)
	assert.Empty(t, l.Session.Items)

	_, items = lighten(readiness.Answers{Illness: readiness.Cold})
	assert.Equal(t, 4, items["sw"].Dose.Sets, "a third less")
	assert.Equal(t, 85, items["sw"].Dose.IntentPercent, "top intent 85%")
	assert.Equal(t, 2, items["li"].Dose.Sets)
	assert.Equal(t, 2, items["ra"].Dose.Sets, "mobility stays")

	l, items = lighten(readiness.Answers{Sleep: readiness.SleepBad})
	assert.Equal(t, 4, items["sw"].Dose.Sets)
	assert.Equal(t, 4, items["ju"].Dose.Sets)
	assert.Equal(t, 3, items["li"].Dose.Sets, "only what is fast")
	assert.Equal(t, 3, *items["li"].Dose.Reserve)
	assert.Equal(t, 95.0, *items["li"].Dose.LoadKg, "100 × 80 ÷ 83 = 96.4, rounded down")
	assert.NotEmpty(t, l.Changes)

	_, items = lighten(readiness.Answers{Soreness: readiness.SoreStrong, SoreAt: []string{"knee"}})
	assert.Equal(t, 3, items["ju"].Dose.Sets, "the region's contacts halved")
	assert.Equal(t, 2, items["li"].Dose.Sets)
	assert.Equal(t, 3, items["pu"].Dose.Sets, "another region stays")
	assert.Equal(t, 6, items["sw"].Dose.Sets)

	l, items = lighten(readiness.Answers{Soreness: readiness.SoreTooFar})
	assert.NotContains(t, items, programme.ID("sw"))
	assert.True(t, l.SwingsMove)

	_, items = lighten(readiness.Answers{Sleep: readiness.SleepShort, Eagerness: readiness.EagerLow})
	assert.Equal(t, 5, items["sw"].Dose.Sets, "one set less")
	assert.Equal(t, 2, items["li"].Dose.Sets)
	_, items = lighten(readiness.Answers{Sleep: readiness.SleepShort})
	assert.Equal(t, 6, items["sw"].Dose.Sets, "one of three is none")

	// The largest cut counts, never the product.
	_, items = lighten(readiness.Answers{Illness: readiness.Cold, Soreness: readiness.SoreStrong, Sleep: readiness.SleepBad})
	assert.Equal(t, 3, items["ju"].Dose.Sets)
}

func TestPainOnTheDay(t *testing.T) {
	l, items := lighten(readiness.Answers{Pain: []readiness.Pain{{Region: "knee", Level: 5}}})
	assert.NotContains(t, items, programme.ID("ju"))
	assert.NotContains(t, items, programme.ID("li"))
	assert.Contains(t, items, programme.ID("pl"))
	assert.NotEmpty(t, l.Refer)
	for _, c := range l.Changes {
		assert.NotEmpty(t, c.Why)
	}

	_, items = lighten(readiness.Answers{Pain: []readiness.Pain{{Region: "knee", Level: 2}}})
	assert.Equal(t, 3, *items["li"].Dose.Reserve, "one more in reserve")
	if it, ok := items["ju"]; ok {
		e, _ := library.Shipped().Find(it.Exercise)
		assert.False(t, e.Maximal, "nothing maximal")
	}
	assert.Equal(t, 2, *items["pu"].Dose.Reserve)
}

// Heavy and light, supersets and a push that meets a pull are done in turns, with the rests
// of the programme's arithmetic.
func TestTheOrderOfSets(t *testing.T) {
	s := session()
	s.Items = s.Items[3:6]
	s.Items = append(s.Items[:1:1], programme.Item{ID: "lj", Slot: library.SlotJump, Exercise: "jump-countermovement", Paired: true, Dose: programme.Dose{Sets: 2, Reps: 3, Unit: library.Contacts, RestSeconds: 60}}, s.Items[1], s.Items[2])
	sheet := floor.SheetOf(s, library.Shipped(), floor.Gym{Bar: bar})
	type at struct {
		item   programme.ID
		number int
		rest   int
	}
	var got []at
	for _, x := range sheet.Steps {
		got = append(got, at{x.Item, x.Number, x.RestSeconds})
	}
	assert.Equal(t, []at{
		{"li", -1, 60}, {"li", -2, 60},
		{"li", 1, 180}, {"lj", 1, 90}, {"li", 2, 180}, {"lj", 2, 90}, {"li", 3, 60},
		{"pu", 1, 45}, {"pl", 1, 45}, {"pu", 2, 45}, {"pl", 2, 45}, {"pu", 3, 45}, {"pl", 3, 60},
	}, got)
}

// Plates measure how high somebody jumps who leaves and meets them: not a jump forward, onto a box
// or on the spot again and again; a dynamometer what is squeezed, not what is hung from or pinched.
func TestWhatInstrumentsMeasure(t *testing.T) {
	for id, want := range map[string]floor.Kind{
		"jump-countermovement": floor.Jumps, "jump-squat": floor.Jumps, "jump-loaded": floor.Jumps,
		"jump-broad": floor.Counts, "jump-box": floor.Counts, "jump-pogo": floor.Counts, "sprint-10": floor.Counts,
		"grip-burst": floor.Grip, "grip-ball-hold": floor.Grip, "grip-hang": floor.Hold, "grip-plate-pinch": floor.Hold, "grip-finger-spread": floor.Counts,
	} {
		e, _ := library.Shipped().Find(id)
		s := &programme.Session{Items: []programme.Item{{ID: "x", Slot: e.Slots[0], Exercise: id, Dose: programme.Dose{Sets: 3, Reps: 3, Unit: e.DoseUnit, RestSeconds: 60}}}}
		sheet := floor.SheetOf(s, library.Shipped(), floor.Gym{Bar: bar, Instead: func(programme.ID) []programme.Item { return nil }})
		assert.Equal(t, want, sheet.Pieces[0].Kind, id)
	}
}

func TestTheSheet(t *testing.T) {
	sheet := floor.SheetOf(session(), library.Shipped(), floor.Gym{Bar: bar, Dumbbell: 2, Instead: func(id programme.ID) []programme.Item {
		if id != "li" {
			return nil
		}
		return []programme.Item{{Exercise: "lift-goblet-squat", Dose: programme.Dose{Sets: 3, Reps: 6, Unit: library.Reps}}}
	}})
	piece := func(id programme.ID) *floor.Piece {
		for i := range sheet.Pieces {
			if sheet.Pieces[i].Item == id {
				return &sheet.Pieces[i]
			}
		}
		return nil
	}
	require.NotNil(t, sheet.Space)
	assert.InDelta(t, 3.05, sheet.Space.RadiusM, 0.001, "a driver and 1.9 m")
	assert.Equal(t, floor.Swings, piece("sw").Kind)
	assert.Equal(t, floor.Lift, piece("li").Kind)
	assert.Equal(t, floor.Hold, piece("tr").Kind)
	assert.Equal(t, floor.Jumps, piece("ju").Kind)
	assert.Equal(t, 2.5, piece("li").StepKg)
	assert.False(t, piece("li").Finds)
	assert.True(t, piece("pl").Finds, "no load and a reserve: the first session finds it")
	assert.Len(t, piece("li").Instead, 1)
	for _, x := range sheet.Steps {
		switch x.Item {
		case "tr":
			assert.NotEmpty(t, x.Timed, "a hold runs by the clock")
		case "sw":
			assert.Equal(t, 5, x.Playing+x.Other)
		}
		assert.NotEmpty(t, x.Big)
	}
	quiet := session()
	quiet.Items = quiet.Items[6:]
	assert.Nil(t, floor.SheetOf(quiet, library.Shipped(), floor.Gym{}).Space, "nothing fast: nothing to look at")
}

// A limit that came after the version was issued is said where it is trained: a knee
// that takes no impact forbids the jumps, a cap on the back what is heavier than it.
func TestALimitSinceTheVersionWasIssued(t *testing.T) {
	against := func(limits ...athlete.Limit) map[programme.ID]string {
		out := map[programme.ID]string{}
		for _, p := range floor.SheetOf(session(), library.Shipped(), floor.Gym{Bar: bar, Limits: limits}).Pieces {
			if p.Forbidden != "" {
				out[p.Item] = p.Forbidden
			}
		}
		return out
	}
	assert.Empty(t, against())
	knee := against(athlete.Limit{Region: "knee", Kind: athlete.NoImpact})
	assert.Contains(t, knee["ju"], "no impact")
	assert.Len(t, knee, 1)
	assert.Equal(t, map[programme.ID]string{"li": "at most 70 kg"}, against(athlete.Limit{Region: "lumbar-spine", Kind: athlete.LoadCap, CapKg: 70}))
}
