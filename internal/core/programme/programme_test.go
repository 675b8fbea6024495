package programme_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"dunnock/internal/core/library"
	"dunnock/internal/core/programme"
)

func num(v int) *int        { return &v }
func kg(v float64) *float64 { return &v }
func item(slot, exercise string, d programme.Dose) programme.Item {
	e, ok := library.Shipped().Find(exercise)
	if !ok {
		panic(exercise)
	}
	d.Unit, d.Sides = e.DoseUnit, e.Sides
	return programme.Item{Slot: slot, Exercise: exercise, Name: e.Name, Zone: e.Zone, Dose: d}
}

func of(items ...programme.Item) *programme.Programme {
	return &programme.Programme{Blocks: []programme.Block{{Weeks: []programme.Week{{Sessions: []programme.Session{{Items: items, Budget: 60}}}}}}}
}

// Worked by hand from our rule: warm-up + Σ sets · reps · seconds ·
// sides + rests (shared within a pair) + 60 s an item + 60 s a warm-up set.
func TestMinutesByHand(t *testing.T) {
	p := of(
		item(programme.SlotMain, "lift-trap-bar", programme.Dose{Sets: 3, Reps: 5, RestSeconds: 150, WarmUpSets: make([]programme.WarmSet, 2)}),
		item(programme.SlotPush, "push-bench-db", programme.Dose{Sets: 3, Reps: 8, RestSeconds: 75}),
		item(programme.SlotPull, "pull-row-db", programme.Dose{Sets: 3, Reps: 8, RestSeconds: 60}),
		item(programme.SlotTrunk, "trunk-side-plank", programme.Dose{Sets: 2, Seconds: 20, RestSeconds: 30}),
	)
	p.Refresh(library.Shipped())
	s := p.Blocks[0].Weeks[0].Sessions[0]
	// lift 3·5·4 = 60, rests 2·150 = 300, 60, warm-up sets 120           = 540
	// press 3·8·3 = 72, rests 150, 60                                    = 282
	// row 3·8·3·2 sides = 144, rests 120, 60                             = 324
	// the pair shares the shorter rests                                  = −120
	// side plank 2·20·2 sides = 80, rest 30, 60                          = 170
	// warm-up                                                            = 360
	assert.Equal(t, 25.9, s.Minutes) // 1556 s
	assert.Equal(t, []float64{9, 4.7, 5.4, 2.8}, []float64{s.Items[0].Minutes, s.Items[1].Minutes, s.Items[2].Minutes, s.Items[3].Minutes})
	assert.Equal(t, 25.9, p.Blocks[0].Weeks[0].Totals.Minutes)
}

// Source: contacts as Potach and Chu count them: each landing once, two feet
// together 1, single-leg jumps each foot.
func TestTotals(t *testing.T) {
	p := of(
		item(programme.SlotSwings, "swing-light", programme.Dose{Sets: 5, Reps: 5, OtherSideShare: 50}),
		item(programme.SlotThrow, "throw-scoop", programme.Dose{Sets: 3, Reps: 3}),
		item(programme.SlotJump, "jump-box", programme.Dose{Sets: 4, Reps: 5}),
		item(programme.SlotJump, "jump-lateral-bound", programme.Dose{Sets: 3, Reps: 6}),
	)
	p.Refresh(library.Shipped())
	w := p.Blocks[0].Weeks[0]
	assert.Equal(t, 25, w.Totals.Swings, "both sides together")
	assert.Equal(t, 18, w.Totals.Throws, "each way")
	assert.Equal(t, 20+36, w.Totals.Contacts)
	assert.Equal(t, map[string]int{"Z1": 8, "Z2": 7}, w.Totals.Sets)
	s := &w.Sessions[0]
	assert.Equal(t, 56, s.Contacts())
	assert.True(t, s.HardLower(), "forty landings and more are a hard day")
	s.Items = s.Items[:2]
	assert.True(t, s.FastDay())
}

func TestDoseWords(t *testing.T) {
	rows := []struct {
		dose        programme.Dose
		words, load string
	}{
		{programme.Dose{Sets: 3, Reps: 5, Unit: library.Reps, Sides: library.TwoSided, LoadKg: kg(82.5), Reserve: num(2)}, "3 × 5", "82.5 kg, leave 2 in reserve"},
		{programme.Dose{Sets: 3, Reps: 5, Unit: library.Reps, Sides: library.OneSided, Reserve: num(4)}, "3 × 5 each side", "leave 4 in reserve"},
		{programme.Dose{Sets: 3, Reps: 3, Unit: library.Reps, Sides: library.Directional, BallKg: 3}, "3 × 3 each way", "3 kg ball"},
		{programme.Dose{Sets: 2, Seconds: 15, Unit: library.Seconds, Sides: library.OneSided, Side: "trail"}, "2 × 15 s, trail side", ""},
		{programme.Dose{Sets: 1, Reps: 8, Unit: library.Reps, Sides: library.Directional, Side: "toward"}, "1 × 8, toward the target", ""},
		{programme.Dose{Sets: 1, Reps: 8, Unit: library.Reps, Sides: library.Directional, Side: "away"}, "1 × 8, away from the target", ""},
		{programme.Dose{Sets: 3, Reps: 4, Unit: library.Swings, Sides: library.SwingSides, OtherSideShare: 30, IntentPercent: 70, ImplementPercent: -20}, "3 × 4 swings, playing 8, other 4", "club -20% of driver, 70% intent"},
		{programme.Dose{Sets: 3, Reps: 4, Unit: library.Swings, ImplementPercent: -20, ImplementG: 248}, "3 × 4 swings", "248 g club"},
	}
	for _, r := range rows {
		assert.Equal(t, r.words, r.dose.Words())
		assert.Equal(t, r.load, r.dose.LoadWords())
	}
}

func TestPlacesFollowPositions(t *testing.T) {
	trunk := item(programme.SlotTrunk, "trunk-plank", programme.Dose{Sets: 1, Seconds: 20})
	p := of(trunk, trunk)
	p.Blocks[0].Weeks[0].Home = []programme.HomeDay{{Items: []programme.Item{trunk}}}
	p.Refresh(library.Shipped())
	it, s, i := p.Find("b1.w1.s1.i2")
	assert.NotNil(t, it)
	assert.Equal(t, "b1.w1.s1", s.Place)
	assert.Equal(t, 1, i)
	it, s, _ = p.Find("b1.w1.h1.i1")
	assert.NotNil(t, it)
	assert.Nil(t, s, "a home day is no session")
	it, _, i = p.Find("b2.w1.s1.i1")
	assert.Nil(t, it)
	assert.Equal(t, -1, i)
	none, _ := p.Session("b1.w9.s1")
	assert.Nil(t, none)
	empty := of()
	empty.Blocks[0].Weeks[0].Sessions = nil
	empty.Refresh(library.Shipped())
	assert.NotNil(t, empty.Blocks[0].Weeks[0].Sessions, "lists are never null")
}
