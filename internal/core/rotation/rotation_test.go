package rotation_test

import (
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dunnock/internal/core/rotation"
)

// hold checks what every plan must keep.
func hold(t *testing.T, golfers int, stations []rotation.Station, skips map[int][]int, p *rotation.Plan) {
	t.Helper()
	want := golfers * len(stations)
	for _, s := range skips {
		want -= len(s)
	}
	require.Len(t, p.Slots, want, "every golfer is at every station once")
	for i, a := range p.Slots {
		require.Equal(t, stations[a.Station].Minutes, a.End-a.Start)
		require.NotContains(t, skips[a.Golfer], a.Station)
		for _, b := range p.Slots[:i] {
			if a.Golfer == b.Golfer {
				require.True(t, a.Start >= b.End || b.Start >= a.End, "nobody is at two places: %+v %+v", a, b)
				if stations[a.Station].Tiring > stations[b.Station].Tiring {
					require.GreaterOrEqual(t, a.Start, b.End, "what tires comes last")
				}
				if stations[a.Station].Tiring < stations[b.Station].Tiring {
					require.GreaterOrEqual(t, b.Start, a.End, "what tires comes last")
				}
				require.NotEqual(t, a.Station, b.Station)
			}
			if a.Station == b.Station && a.Place == b.Place {
				require.True(t, a.Start >= b.End || b.Start >= a.End, "a place takes one golfer: %+v %+v", a, b)
			}
		}
		require.Less(t, a.Place, stations[a.Station].Places)
		require.LessOrEqual(t, a.End, p.Minutes)
	}
	require.GreaterOrEqual(t, p.Minutes, p.LowerBound)
	require.NotEmpty(t, p.Why)
}

func TestEveryPlanHolds(t *testing.T) {
	worst := 0.0
	for seed := range uint64(40) {
		r := rand.New(rand.NewPCG(seed, 7))
		n := 1 + r.IntN(14)
		var stations []rotation.Station
		for range 1 + r.IntN(8) {
			stations = append(stations, rotation.Station{Name: "s", Minutes: 2 + r.IntN(12), Tiring: r.IntN(4), Places: 1 + r.IntN(2)})
		}
		skips := map[int][]int{}
		if n > 2 && len(stations) > 1 {
			skips[1] = []int{0}
		}
		p, err := rotation.Make(n, stations, skips)
		require.NoError(t, err)
		hold(t, n, stations, skips, p)
		again, _ := rotation.Make(n, stations, skips)
		require.Equal(t, p, again, "the same squad gives the same plan")
		worst = max(worst, float64(p.Minutes)/float64(p.LowerBound))
	}
	assert.Less(t, worst, 1.35, "no plan is far above what is possible at best")
}

// Worked by hand. Two golfers and two fresh stations of 5 minutes: swap once,
// 10 minutes, nobody waits. One station for three golfers: 15 minutes. A
// tiring station of 6 after a fresh one of 4 for two golfers: the tiring place
// is free at 4 and again at 10, so the second golfer comes at 6: 16 minutes, nobody
// waits, and no plan is shorter (4 + 2·6).
func TestSmallDaysByHand(t *testing.T) {
	fresh := func(m int) rotation.Station { return rotation.Station{Name: "fresh", Minutes: m, Places: 1} }
	p, err := rotation.Make(2, []rotation.Station{fresh(5), fresh(5)}, nil)
	require.NoError(t, err)
	assert.Equal(t, []int{10, 10, 0, 2}, []int{p.Minutes, p.LowerBound, p.Waiting, p.Walks})

	p, _ = rotation.Make(3, []rotation.Station{fresh(5)}, nil)
	assert.Equal(t, []int{15, 15}, []int{p.Minutes, p.LowerBound})

	p, _ = rotation.Make(2, []rotation.Station{fresh(4), {Name: "lifts", Minutes: 6, Places: 1, Tiring: 2}}, nil)
	assert.Equal(t, []int{16, 16, 0}, []int{p.Minutes, p.LowerBound, p.Waiting})
	assert.Contains(t, p.Why, "lifts: 2 golfers on one place")

	p, _ = rotation.Make(1, []rotation.Station{fresh(4), fresh(3)}, nil)
	assert.Equal(t, 7, p.Minutes)
	assert.Contains(t, p.Why, "one golfer's own tests")
}

// A squad as the demo has it: seven stations, one golfer who does only two of
// them. The shortest day there can be is found, and nobody waits.
func TestASquadOfSix(t *testing.T) {
	stations := []rotation.Station{
		{Name: "Size", Minutes: 2, Places: 1},
		{Name: "Range", Minutes: 5, Places: 1},
		{Name: "Grip", Minutes: 4, Places: 1},
		{Name: "Jumps", Minutes: 4, Places: 1},
		{Name: "Throws", Minutes: 7, Places: 1},
		{Name: "Speed", Minutes: 14, Places: 1, Tiring: 1},
		{Name: "Strength", Minutes: 12, Places: 1, Tiring: 2},
	}
	skips := map[int][]int{2: {2, 3, 4, 5, 6}}
	p, err := rotation.Make(6, stations, skips)
	require.NoError(t, err)
	hold(t, 6, stations, skips, p)
	assert.Equal(t, p.LowerBound, p.Minutes)
	assert.Zero(t, p.Waiting)
}

func TestNobodyHasAnythingToDo(t *testing.T) {
	p, err := rotation.Make(1, []rotation.Station{{Name: "Jumps", Minutes: 4, Places: 1}}, map[int][]int{0: {0}})
	require.NoError(t, err)
	assert.Empty(t, p.Slots)
	assert.Zero(t, p.Minutes)
}

func TestWhatCannotBePlannedIsRefused(t *testing.T) {
	ok := []rotation.Station{{Name: "a", Minutes: 5, Places: 1}}
	for name, try := range map[string]func() error{
		"nobody":          func() error { _, err := rotation.Make(0, ok, nil); return err },
		"too many":        func() error { _, err := rotation.Make(61, ok, nil); return err },
		"no station":      func() error { _, err := rotation.Make(2, nil, nil); return err },
		"no minutes":      func() error { _, err := rotation.Make(2, []rotation.Station{{Places: 1}}, nil); return err },
		"no place":        func() error { _, err := rotation.Make(2, []rotation.Station{{Minutes: 4}}, nil); return err },
		"unknown station": func() error { _, err := rotation.Make(2, ok, map[int][]int{0: {3}}); return err },
	} {
		assert.ErrorIs(t, try(), rotation.ErrInput, name)
	}
}

func BenchmarkSquadOfTwelve(b *testing.B) {
	stations := []rotation.Station{
		{Name: "Range", Minutes: 10, Places: 2},
		{Name: "Grip", Minutes: 6, Places: 1},
		{Name: "Jumps", Minutes: 6, Places: 1},
		{Name: "Throws", Minutes: 8, Places: 1},
		{Name: "Speed", Minutes: 10, Places: 1},
		{Name: "Lifts", Minutes: 10, Places: 2, Tiring: 2},
	}
	for b.Loop() {
		_, _ = rotation.Make(12, stations, nil)
	}
}
