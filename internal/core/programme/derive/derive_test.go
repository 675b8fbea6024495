package derive_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"dunnock/internal/core/civil"
	"dunnock/internal/core/library"
	"dunnock/internal/core/programme"
	"dunnock/internal/core/programme/derive"
	"dunnock/internal/core/school"
)

func num(v int) *int        { return &v }
func kg(v float64) *float64 { return &v }
func item(slot library.Slot, exercise string, d programme.Dose) programme.Item {
	e, ok := library.Shipped().Find(exercise)
	if !ok {
		panic(exercise)
	}
	d.Unit, d.Sides = e.DoseUnit, e.Sides
	return programme.Item{Slot: slot, Exercise: exercise, Dose: d}
}

// view is the only week of a programme of one session, and of a home day.
func view(home []programme.Item, items ...programme.Item) derive.Week {
	w := programme.Week{Sessions: []programme.Session{{Items: items, Budget: 60}}}
	if home != nil {
		w.Home = []programme.HomeDay{{Items: home}}
	}
	p := &programme.Programme{Head: programme.Head{School: "strength-first"}, Blocks: []programme.Block{{Weeks: []programme.Week{w}}}}
	p.Name("k")
	return derive.View(p, library.Shipped(), school.Shipped()).Blocks[0].Weeks[0]
}

// Worked by hand from our rule: warm-up + Σ sets · reps · seconds ·
// sides + rests (shared within a pair) + 60 s an item + 60 s a warm-up set.
func TestMinutesByHand(t *testing.T) {
	w := view(nil,
		item(library.SlotMain, "lift-trap-bar", programme.Dose{Sets: 3, Reps: 5, RestSeconds: 150, WarmUpSets: make([]programme.WarmSet, 2)}),
		item(library.SlotPush, "push-bench-db", programme.Dose{Sets: 3, Reps: 8, RestSeconds: 75}),
		item(library.SlotPull, "pull-row-db", programme.Dose{Sets: 3, Reps: 8, RestSeconds: 60}),
		item(library.SlotTrunk, "trunk-side-plank", programme.Dose{Sets: 2, Seconds: 20, RestSeconds: 30}),
	)
	s := w.Sessions[0]
	// lift 3·5·4 = 60, rests 2·150 = 300, 60, warm-up sets 120           = 540
	// press 3·8·3 = 72, rests 150, 60                                    = 282
	// row 3·8·3·2 sides = 144, rests 120, 60                             = 324
	// the pair shares the shorter rests                                  = −120
	// side plank 2·20·2 sides = 80, rest 30, 60                          = 170
	// warm-up                                                            = 360
	assert.Equal(t, 25.9, s.Minutes) // 1556 s
	assert.Equal(t, []float64{9, 4.7, 5.4, 2.8}, []float64{s.Items[0].Minutes, s.Items[1].Minutes, s.Items[2].Minutes, s.Items[3].Minutes})
	assert.Equal(t, 25.9, w.Totals.Minutes)
}

// Source: contacts as Potach and Chu count them: each landing once, two feet
// together 1, single-leg jumps each foot.
func TestTotals(t *testing.T) {
	w := view(nil,
		item(library.SlotSwings, "swing-light", programme.Dose{Sets: 5, Reps: 5, OtherSideShare: 50}),
		item(library.SlotThrow, "throw-scoop", programme.Dose{Sets: 3, Reps: 3}),
		item(library.SlotJump, "jump-box", programme.Dose{Sets: 4, Reps: 5}),
		item(library.SlotJump, "jump-lateral-bound", programme.Dose{Sets: 3, Reps: 6}),
	)
	assert.Equal(t, 25, w.Totals.Swings, "both sides together")
	assert.Equal(t, 18, w.Totals.Throws, "each way")
	assert.Equal(t, 20+36, w.Totals.Contacts)
	assert.Equal(t, map[string]int{"Z1": 8, "Z2": 7}, w.Totals.Sets)
	s := &w.Sessions[0]
	assert.Equal(t, 56, s.Contacts())
	assert.True(t, s.HardLower(40), "forty landings and more are a hard day")
	assert.False(t, s.HardLower(57))
	s.Items = s.Items[:2]
	assert.True(t, s.FastDay(40))
}

func TestWords(t *testing.T) {
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
		{
			programme.Dose{Sets: 3, Reps: 4, Unit: library.Swings, Sides: library.SwingSides, OtherSideShare: 30, IntentPercent: 70, ImplementPercent: -20},
			"3 × 4 swings, playing 8, other 4",
			"club -20% of driver, 70% intent",
		},
		{programme.Dose{Sets: 3, Reps: 4, Unit: library.Swings, ImplementPercent: -20, ImplementG: 248}, "3 × 4 swings", "248 g club"},
	}
	for _, r := range rows {
		assert.Equal(t, r.words, derive.DoseWords(r.dose))
		assert.Equal(t, r.load, derive.LoadWords(r.dose))
	}
}

func TestPlacesFollowPositionsAndNamesTheCatalogue(t *testing.T) {
	plank := item(library.SlotTrunk, "trunk-plank", programme.Dose{Sets: 1, Seconds: 20})
	gone := plank
	gone.Exercise = "no-longer-there"
	w := view([]programme.Item{plank}, plank, gone)
	assert.Equal(t, "b1.w1", w.Place)
	assert.Equal(t, "b1.w1.s1.i2", w.Sessions[0].Items[1].Place)
	assert.Equal(t, "b1.w1.h1.i1", w.Home[0].Items[0].Place)
	e, _ := library.Shipped().Find("trunk-plank")
	assert.Equal(t, e.Name, w.Sessions[0].Items[0].Name)
	assert.Equal(t, e.Cues, w.Sessions[0].Items[0].Cues)
	assert.Equal(t, "no-longer-there", w.Sessions[0].Items[1].Name, "what the catalogue does not know goes by its id")
}

func TestListsAreNeverNull(t *testing.T) {
	p := &programme.Programme{Head: programme.Head{School: "a school there is not"}, Blocks: []programme.Block{{Weeks: []programme.Week{{}}}}}
	v := derive.View(p, library.Shipped(), school.Shipped())
	assert.Equal(t, "a school there is not", v.SchoolName)
	assert.NotNil(t, v.Notes)
	assert.NotNil(t, v.Blocks[0].Weeks[0].Sessions)
	assert.NotNil(t, v.Blocks[0].Weeks[0].Home)
}

func TestAPlaceIsSaidAsACoachSaysIt(t *testing.T) {
	plank := item(library.SlotTrunk, "trunk-plank", programme.Dose{Sets: 1, Seconds: 20})
	p := &programme.Programme{Blocks: []programme.Block{{Weeks: []programme.Week{{
		Number: 1, Sessions: []programme.Session{{Letter: programme.DayB, Items: []programme.Item{plank}}},
		Home: []programme.HomeDay{{Date: civil.MustParse("2026-12-01"), Items: []programme.Item{plank}}},
	}}}}}
	p.Name("k")
	view := derive.View(p, library.Shipped(), school.Shipped())
	places := view.Places()
	words := map[string]string{}
	for place, part := range places {
		words[place] = part.Words
	}
	assert.Equal(t, map[string]string{
		"b1": "The whole block", "b1.w1": "Week 1", "b1.w1.s1": "Week 1, day B", "b1.w1.s1.i1": "Week 1, day B, Front plank",
		"b1.w1.h1": "Week 1, at home on Tue 1 Dec 2026", "b1.w1.h1.i1": "Week 1, at home, Front plank",
	}, words)
	it, s := view.Find(places["b1.w1.s1.i1"].ID)
	assert.Equal(t, "b1.w1.s1.i1", it.Place)
	assert.Equal(t, "b1.w1.s1", s.Place)
	it, s = view.Find(places["b1.w1.h1.i1"].ID)
	assert.Equal(t, "b1.w1.h1.i1", it.Place)
	assert.Nil(t, s)

	two := *view
	two.Blocks = append(append([]derive.Block{}, two.Blocks...), two.Blocks...)
	assert.Equal(t, "Block 2, week 1", two.Places()["b1.w1"].Words)
}
