package class_test

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dunnock/internal/core/class"
	"dunnock/internal/core/library"
	"dunnock/internal/core/programme"
)

// golfer may do everything but a slot.
func golfer(n int, not library.Slot) class.Golfer {
	return class.Golfer{
		ID: fmt.Sprint("g", n), Name: fmt.Sprint("Golfer ", n), Cleared: true, Consent: true,
		Choose: func(slot library.Slot, patterns []string, id string) (programme.Item, string, bool) {
			reserve := 2
			it := programme.Item{ID: programme.ID(id), Slot: slot, Exercise: patterns[0], Dose: programme.Dose{Sets: 9, Reps: 5, Unit: library.Reps, RestSeconds: 120}}
			if slot.Strength() {
				it.Dose.Reserve = &reserve
			}
			return it, "", slot != not
		},
		Calm: func(id string, _ int) (programme.Item, bool) {
			return programme.Item{ID: programme.ID(id), Slot: library.SlotRange, Exercise: "range-hip-9090", Dose: programme.Dose{Sets: 2, Reps: 8, Unit: library.Reps}}, true
		},
	}
}

func golfers(n int) []class.Golfer {
	out := make([]class.Golfer, n)
	for i := range out {
		out[i] = golfer(i+1, "")
	}
	return out
}

// Source: the handbook's class: stations clamp(⌈n ÷ 3⌉, 2, 6), minutes ⌊(slot − 12 − k) ÷ k⌋ of
// at least 5; more stations where one would last over twelve minutes is ours.
func TestStationsAndMinutes(t *testing.T) {
	for _, c := range []struct{ n, minutes, k, each int }{
		{2, 40, 3, 8}, {6, 60, 4, 11}, {12, 60, 4, 11}, {18, 60, 6, 7}, {20, 90, 6, 12}, {20, 45, 5, 5}, {9, 30, 3, 5},
	} {
		v, err := class.Of(golfers(c.n), class.Ask{Minutes: c.minutes, Coaches: 4, Room: true}, "x")
		require.NoError(t, err)
		assert.Len(t, v.Stations, c.k, "%d golfers, %d minutes", c.n, c.minutes)
		assert.Equal(t, c.each, v.Each)
		last := v.Rounds[len(v.Rounds)-1]
		assert.LessOrEqual(t, last.To+class.CloseMinutes, c.minutes, "it ends in its slot")
	}
	_, err := class.Of(golfers(6), class.Ask{Minutes: 20}, "x")
	var no *class.Refusal
	require.ErrorAs(t, err, &no)
	assert.Contains(t, no.Text, "24")
	_, err = class.Of(golfers(21), class.Ask{Minutes: 60}, "x")
	assert.ErrorAs(t, err, &no)
}

// Everybody comes to every station once, the fast half first, and is at one place at a time.
func TestTheRotation(t *testing.T) {
	for n := class.Least; n <= class.Most; n++ {
		v, err := class.Of(golfers(n), class.Ask{Minutes: 75, Coaches: 4, Room: true}, "x")
		require.NoError(t, err)
		visits := map[string]map[string]int{}
		strong := false
		for _, r := range v.Rounds {
			if strong {
				assert.Equal(t, class.Strong, r.Half, "fast first")
			}
			strong = strong || r.Half == class.Strong
			seen := map[string]bool{}
			for station, ids := range r.At {
				for _, id := range ids {
					assert.False(t, seen[id], "in two places at once")
					seen[id] = true
					if visits[id] == nil {
						visits[id] = map[string]int{}
					}
					visits[id][station]++
				}
			}
			assert.Len(t, seen, n)
		}
		for i := range n {
			id := fmt.Sprint("g", i+1)
			assert.Len(t, visits[id], len(v.Stations))
			assert.Len(t, v.Items(id), len(v.Stations))
			for station, times := range visits[id] {
				assert.Equal(t, 1, times, station)
			}
		}
	}
}

func TestLimitsFirst(t *testing.T) {
	list := golfers(4)
	list[1].Cleared = false
	list[2] = golfer(3, library.SlotJump)
	v, err := class.Of(list, class.Ask{Minutes: 60, Coaches: 1}, "x")
	require.NoError(t, err)
	for _, s := range v.Stations {
		assert.NotEqual(t, "swing", s.ID, "no room to swing was said")
		for _, l := range s.Lines {
			switch {
			case l.Golfer == "g2":
				assert.Equal(t, library.SlotRange, l.Item.Slot, "not cleared: range and control")
				assert.Contains(t, l.Caution, "Not cleared")
			case l.Golfer == "g3" && s.ID == "jump-up":
				assert.Equal(t, library.SlotRange, l.Item.Slot, "nothing fits: a range line")
			default:
				assert.LessOrEqual(t, l.Item.Dose.Sets, 9)
				assert.GreaterOrEqual(t, l.Item.Dose.Sets, 1)
			}
		}
	}
	list[0].Novice = true
	list = append(list, golfers(3)...)
	v, err = class.Of(list, class.Ask{Minutes: 60, Coaches: 1}, "x")
	require.NoError(t, err)
	assert.Contains(t, v.Notes[0], "7 golfers need 2 coaches here: one to 6.")
	v.Leave("g1")
	assert.Empty(t, v.Items("g1"))
}

func TestUnderThirteenPlay(t *testing.T) {
	list := golfers(10)
	for i := range list {
		list[i].Child = true
	}
	list[3].Consent = false
	v, err := class.Of(list, class.Ask{Minutes: 60, Coaches: 1}, "x")
	require.NoError(t, err)
	assert.True(t, v.Games)
	assert.Equal(t, 45, v.Minutes)
	assert.Len(t, v.Stations, 5)
	for _, s := range v.Stations {
		assert.Empty(t, s.Lines, "no loads, no scores")
	}
	assert.Equal(t, 38, v.Rounds[4].To, "and seven minutes to close")
	assert.Contains(t, fmt.Sprint(v.Notes), "2 adults")
	assert.Contains(t, fmt.Sprint(v.Notes), "Golfer 4")
	list[0].Child = false
	_, err = class.Of(list, class.Ask{Minutes: 60}, "x")
	var no *class.Refusal
	assert.ErrorAs(t, err, &no, "they do not mix")
}
