package change_test

import (
	"encoding/json"
	"math/rand/v2"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dunnock/internal/core/civil"
	"dunnock/internal/core/programme"
	"dunnock/internal/core/programme/change"
)

// doc is a document of two weeks of two sessions of three items and a home day each.
func doc() *programme.Programme {
	p := &programme.Programme{Head: programme.Head{Format: programme.Format, Summary: "s", LibraryVersion: "1"}}
	b := programme.Block{Emphasis: "strength"}
	for n := range 2 {
		start := civil.MustParse("2026-11-30").Add(7 * n)
		w := programme.Week{Number: n + 1, Start: start}
		for d := range 2 {
			s := programme.Session{Date: start.Add(2 * d), Letter: programme.DayA}
			for i := range 3 {
				s.Items = append(s.Items, programme.Item{Exercise: string(rune('a' + i)), Dose: programme.Dose{Sets: 2 + i}})
			}
			w.Sessions = append(w.Sessions, s)
		}
		w.Home = []programme.HomeDay{{Date: start.Add(1), Items: []programme.Item{{Exercise: "h"}}}}
		b.Weeks = append(b.Weeks, w)
	}
	p.Blocks = []programme.Block{b}
	p.Name("p")
	return p
}

// text is a document as it is stored, no list and an empty one alike: what undo must bring back.
func text(t *testing.T, p *programme.Programme) string {
	t.Helper()
	b, err := json.Marshal(p)
	require.NoError(t, err)
	return strings.NewReplacer(`"sessions":null`, `"sessions":[]`, `"home":null`, `"home":[]`).Replace(string(b))
}

// scramble changes a document in some ways.
func scramble(r *rand.Rand, p *programme.Programme, prefix string) *programme.Programme {
	out := p.Clone()
	for range 1 + r.IntN(4) {
		b := &out.Blocks[0]
		w := &b.Weeks[r.IntN(len(b.Weeks))]
		if len(w.Sessions) == 0 {
			continue
		}
		s := &w.Sessions[r.IntN(len(w.Sessions))]
		switch r.IntN(8) {
		case 0:
			s.Items = append(s.Items, programme.Item{Exercise: "new"})
		case 1:
			r.Shuffle(len(s.Items), func(i, k int) { s.Items[i], s.Items[k] = s.Items[k], s.Items[i] })
		case 2:
			if len(s.Items) > 0 {
				s.Items[r.IntN(len(s.Items))].Dose.Sets = 9
			}
		case 3:
			if len(s.Items) > 0 {
				i := r.IntN(len(s.Items))
				it := s.Items[i]
				s.Items = slices.Delete(s.Items, i, i+1)
				to := &b.Weeks[r.IntN(len(b.Weeks))].Home
				(*to)[0].Items = append((*to)[0].Items, it)
			}
		case 4:
			s.Date = s.Date.Add(1)
		case 5:
			w.Sessions = w.Sessions[1:]
		case 6:
			out.Summary += "!"
		case 7:
			if len(b.Weeks) > 1 {
				b.Weeks = b.Weeks[1:]
			}
		}
	}
	out.Name(prefix)
	return out
}

func TestAChangeMakesOneOfTheOtherAndIsTakenBack(t *testing.T) {
	r := rand.New(rand.NewPCG(1, 2))
	for range 2000 {
		from := doc()
		to := scramble(r, from, "n")
		c := change.Between(from, to)
		stored, err := json.Marshal(c)
		require.NoError(t, err)
		var read change.Change
		require.NoError(t, json.Unmarshal(stored, &read))

		made, err := read.Apply(from)
		require.NoError(t, err)
		require.JSONEq(t, text(t, to), text(t, made))
		back, err := read.Inverse().Apply(made)
		require.NoError(t, err)
		require.JSONEq(t, text(t, from), text(t, back))
	}
}

func TestAChangeHoldsWhatChangedAlone(t *testing.T) {
	from := doc()
	to := from.Clone()
	to.Blocks[0].Weeks[1].Sessions[0].Items[2].Dose.Sets = 7
	to.LibraryVersion = "2"
	c := change.Between(from, to)
	require.Len(t, c, 1, "what it was judged by belongs to no change")
	assert.Equal(t, []programme.ID{to.Blocks[0].Weeks[1].Sessions[0].Items[2].ID}, c.Touched())

	to = from.Clone()
	to.Blocks[0].Weeks[0].Sessions[0].Items = append(to.Blocks[0].Weeks[0].Sessions[0].Items, programme.Item{ID: "n", Exercise: "n"})
	assert.Equal(t, []programme.ID{"n"}, change.Between(from, to).Touched(), "a session something is put into is not changed itself")
}

// Two coaches change different places: each can take back their own, in any order.
func TestChangesOfDifferentPlacesAreTakenBackApart(t *testing.T) {
	zero := doc()
	one := zero.Clone()
	s := &one.Blocks[0].Weeks[0].Sessions[0]
	s.Items = slices.Insert(s.Items, 1, programme.Item{ID: "mine", Exercise: "m"})
	mine := change.Between(zero, one)

	two := one.Clone()
	s = &two.Blocks[0].Weeks[0].Sessions[0]
	s.Items = slices.Insert(s.Items, 2, programme.Item{ID: "theirs", Exercise: "t"})
	s.Items[0].Dose.Sets = 8
	theirs := change.Between(one, two)

	without, err := mine.Inverse().Apply(two)
	require.NoError(t, err)
	ids := func(p *programme.Programme) (out []programme.ID) {
		for _, it := range p.Blocks[0].Weeks[0].Sessions[0].Items {
			out = append(out, it.ID)
		}
		return out
	}
	assert.Equal(t, []programme.ID{"p-4", "theirs", "p-5", "p-6"}, ids(without))
	assert.Equal(t, 8, without.Blocks[0].Weeks[0].Sessions[0].Items[0].Dose.Sets)
	back, err := theirs.Inverse().Apply(without)
	require.NoError(t, err)
	assert.JSONEq(t, text(t, zero), text(t, back))
	again, err := mine.Apply(without)
	require.NoError(t, err)
	assert.JSONEq(t, text(t, two), text(t, again))
}

func TestAClashSaysWhere(t *testing.T) {
	zero := doc()
	at := func(p *programme.Programme) *programme.Session { return &p.Blocks[0].Weeks[0].Sessions[0] }
	for name, x := range map[string]struct {
		mine, theirs func(p *programme.Programme)
		why          string
	}{
		"the same dose": {
			func(p *programme.Programme) { at(p).Items[0].Dose.Sets = 5 },
			func(p *programme.Programme) { at(p).Items[0].Dose.Sets = 6 },
			"the item was changed",
		},
		"moved on": {
			func(p *programme.Programme) { at(p).Items[0].Dose.Sets = 5 },
			func(p *programme.Programme) {
				w := &p.Blocks[0].Weeks[0]
				w.Sessions[1].Items = append(w.Sessions[1].Items, w.Sessions[0].Items[0])
				w.Sessions[0].Items = w.Sessions[0].Items[1:]
			},
			"the item was moved",
		},
		"taken out": {
			func(p *programme.Programme) { at(p).Items[0].Dose.Sets = 5 },
			func(p *programme.Programme) { at(p).Items = at(p).Items[1:] },
			"the item is gone",
		},
		"put into what came": {
			func(p *programme.Programme) {
				w := &p.Blocks[0].Weeks[0]
				w.Sessions = append(w.Sessions, programme.Session{ID: "new", Items: []programme.Item{}})
			},
			func(p *programme.Programme) {
				w := &p.Blocks[0].Weeks[0]
				w.Sessions[2].Items = []programme.Item{{ID: "x", Exercise: "x"}}
			},
			"something was put into the session",
		},
		"put in another order": {
			func(p *programme.Programme) { slices.Reverse(at(p).Items) },
			func(p *programme.Programme) {
				s := at(p)
				s.Items[0], s.Items[1] = s.Items[1], s.Items[0]
			},
			"what lies in the session was put in another order",
		},
	} {
		t.Run(name, func(t *testing.T) {
			one := zero.Clone()
			x.mine(one)
			two := one.Clone()
			x.theirs(two)
			_, err := change.Between(zero, one).Inverse().Apply(two)
			var clash *change.Clash
			require.ErrorAs(t, err, &clash)
			assert.Equal(t, x.why, clash.Why)
		})
	}
}
