package measure_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dunnock/internal/core/measure"
	"dunnock/internal/core/unit"
)

func own(id string) measure.Test {
	return measure.Test{
		ID:         id,
		Name:       "Own",
		Group:      "Jumps",
		Unit:       "cm",
		Kind:       measure.Unsided,
		Trials:     3,
		Rule:       measure.Best,
		Error:      1,
		Plausible:  [2]float64{0, 10},
		Impossible: [2]float64{-1, 20},
	}
}

func TestOwnTestsJoinTheBattery(t *testing.T) {
	c := measure.Changes{Own: []measure.Test{own("own-hop")}}
	require.Empty(t, c.Validate())
	b := c.Apply()
	x, ok := b.Find("own-hop")
	require.True(t, ok)
	assert.True(t, x.Own)
	assert.Len(t, b.Tests(), len(measure.Shipped().Tests())+1)
	before, after := b.Tests()[b.Index("own-hop")-1], b.Tests()[b.Index("own-hop")+1]
	assert.Equal(t, "Jumps", before.Group, "it stands at the end of its heading")
	assert.NotEqual(t, "Jumps", after.Group)
	_, ok = measure.Shipped().Find("own-hop")
	assert.False(t, ok, "what we ship does not change")
	got, err := measure.Cell{Test: "own-hop", Trial: 2, Text: "7.5"}.Parse(b, reference)
	require.NoError(t, err)
	assert.Equal(t, 7.5, got.Value)
	_, err = measure.Cell{Test: "own-hop", Trial: 2, Text: "25"}.Parse(b, reference)
	assert.ErrorContains(t, err, "not possible")
}

func TestChangesThatAreRefused(t *testing.T) {
	change := func(do func(*measure.Test)) measure.Changes {
		x := own("own-x")
		do(&x)
		return measure.Changes{Own: []measure.Test{x}}
	}
	for name, x := range map[string]struct {
		c    measure.Changes
		says string
	}{
		"id of ours":     {change(func(t *measure.Test) { t.ID = "cmj" }), "begins with own-"},
		"no name":        {change(func(t *measure.Test) { t.Name = " " }), "needs a name"},
		"no heading":     {change(func(t *measure.Test) { t.Group = "" }), "heading"},
		"unit":           {change(func(t *measure.Test) { t.Unit = "ell" }), "ell"},
		"sides":          {change(func(t *measure.Test) { t.Kind = "both" }), "sides are"},
		"trials":         {change(func(t *measure.Test) { t.Trials = 13 }), "1 to 12"},
		"rule":           {change(func(t *measure.Test) { t.Rule = measure.OneRM }), "best, the mean or the spread"},
		"decimals":       {change(func(t *measure.Test) { t.Decimals = 9 }), "decimals"},
		"error":          {change(func(t *measure.Test) { t.Error = -1 }), "not negative"},
		"limits":         {change(func(t *measure.Test) { t.Plausible = [2]float64{5, 2} }), "limits"},
		"limits outside": {change(func(t *measure.Test) { t.Plausible = [2]float64{-5, 2} }), "limits"},
		"share":          {change(func(t *measure.Test) { t.Supplement = 2 }), "share"},
		"target":         {change(func(t *measure.Test) { t.Targets = []measure.Target{{Value: 1}} }), "spread above 0"},
		"twice":          {measure.Changes{Own: []measure.Test{own("own-a"), own("own-a")}}, "stands twice"},
		"unknown test":   {measure.Changes{Targets: map[string][]measure.Target{"nope": {{Value: 1, Spread: 1}}}}, "no such test"},
		"mad target":     {measure.Changes{Targets: map[string][]measure.Target{"cmj": {{Value: 900, Spread: 1}}}}, "not possible"},
		"mad error":      {measure.Changes{Errors: map[string]measure.TestError{"cmj": {Value: -1, Pairs: 12}}}, "not negative"},
		"confidence":     {measure.Changes{Confidence: 50}, "80, 90, 95 or 99"},
	} {
		got := x.c.Validate()
		require.NotEmpty(t, got, name)
		assert.Contains(t, got[0].Text, x.says, name)
		_ = x.c.Apply() // never fails, whatever it is given
	}
}

func TestIdsOfOwnTests(t *testing.T) {
	for name, want := range map[string]string{"Rope climb": "own-rope-climb", "  5 m – sprint! ": "own-5-m-sprint", "***": "own-test", "Ünder": "own-nder"} {
		assert.Equal(t, want, measure.OwnID(name))
	}
	long := measure.OwnID("a name that goes on and on and on and on for ever")
	assert.LessOrEqual(t, len(long), 38)
	assert.Empty(t, measure.Changes{Own: []measure.Test{own(long)}}.Validate())
}

func TestErrorsTakeTenPairs(t *testing.T) {
	c := measure.Changes{Errors: map[string]measure.TestError{"cmj": {Value: 0.7, Pairs: 9}}}
	x, _ := c.Apply().Find("cmj")
	assert.Equal(t, 1.5, x.Error)
	c.Errors["cmj"] = measure.TestError{Value: 0.7, Pairs: 10}
	x, _ = c.Apply().Find("cmj")
	assert.Equal(t, 0.7, x.Error)
	assert.InDelta(t, 1.6449, measure.Changes{Confidence: 90}.Apply().Z(), 1e-4)
	assert.Same(t, measure.Shipped(), measure.Changes{Confidence: 95}.Apply(), "nothing changed is what we ship")
}

func TestNamedBatteriesAreOfTestsThereAre(t *testing.T) {
	seen := map[string]bool{}
	for _, s := range measure.Sets() {
		assert.False(t, seen[s.ID], s.ID)
		seen[s.ID] = true
		assert.NotEmpty(t, s.Name)
		for i, id := range s.Tests {
			x, ok := measure.Shipped().Find(id)
			require.True(t, ok, "%s %s", s.ID, id)
			assert.NotEqual(t, measure.Derived, x.Rule)
			if i > 0 {
				assert.Less(t, measure.Shipped().Index(s.Tests[i-1]), measure.Shipped().Index(id), "%s: %s is out of the order of the day", s.ID, id)
			}
		}
	}
	quick := 0.0
	for _, s := range measure.Sets() {
		for _, id := range s.Tests {
			if x, _ := measure.Shipped().Find(id); s.ID == "quick" {
				quick += x.Minutes
			}
		}
	}
	assert.LessOrEqual(t, quick, 20.5, "twenty minutes are twenty minutes")
}

// Results by each rule, worked by hand.
func TestResultsByRule(t *testing.T) {
	trials := func(test string, values ...float64) []measure.Trial {
		var out []measure.Trial
		for i, v := range values {
			out = append(out, measure.Trial{Test: test, Number: i + 1, Status: measure.Done, Value: v})
		}
		return out
	}
	result := func(test string, list []measure.Trial) measure.Result {
		x, _ := measure.Shipped().Find(test)
		r, ok := x.ResultOf(list)
		require.True(t, ok)
		return r
	}
	r := result("offline", trials("offline", -3, 1, 5, 1))
	assert.Equal(t, 3.27, r.Value, "SD of −3, 1, 5, 1 is √(32/3)")
	assert.Equal(t, 1.0, r.Mean)
	assert.Zero(t, r.CV, "a spread around nothing has no CV")
	assert.Zero(t, result("offline", trials("offline", 4)).Valid, "one shot has no spread")

	ladder := trials("implement-ladder", 50, 48, 46)
	for i := range ladder {
		ladder[i].MassG = 250 + 60*float64(i)
	}
	r = result("implement-ladder", ladder)
	assert.Equal(t, 50.0, r.Value)
	require.NotNil(t, r.Line)
	assert.InDelta(t, -33.33, r.Line.Slope, 0.005)
	assert.InDelta(t, 58.33, r.Line.AtZero, 0.005)
	assert.Nil(t, result("implement-ladder", ladder[:2]).Line)

	r = result("grip-sustain", trials("grip-sustain", 40, 38, 37, 36, 34))
	assert.Equal(t, 37.0, r.Value)
	assert.Equal(t, 15.0, r.FallOff)
	assert.Equal(t, 250.0, result("grip-burst-time", trials("grip-burst-time", 200, 300)).Value)
}

func TestWhatMakesTwoTrialsTheSame(t *testing.T) {
	a := measure.Trial{Test: "cmj", Number: 1, Status: measure.Done, Value: 30, Tester: "A", At: "2026-11-24T09:00:00Z"}
	b := a
	b.Tester, b.At, b.Device = "B", "", "mat"
	assert.True(t, a.SameAs(b), "who wrote it and when does not matter")
	for name, do := range map[string]func(*measure.Trial){
		"value": func(t *measure.Trial) { t.Value = 31 }, "status": func(t *measure.Trial) { t.Status = measure.Stopped }, "pain": func(t *measure.Trial) { t.Pain = 2 },
		"variant": func(t *measure.Trial) { t.Variant = "arm-swing" }, "note": func(t *measure.Trial) { t.Note = "x" }, "lift": func(t *measure.Trial) { t.Lift = &measure.Lift{} }, "mass": func(t *measure.Trial) { t.MassG = 1 },
	} {
		c := a
		do(&c)
		assert.False(t, a.SameAs(c), name)
	}
}

func TestRungsAndGaveOutThatAreRefused(t *testing.T) {
	for text, says := range map[string]string{"50": "speed @ mass in grams", "50@2": "50 to 1500 g", "500@300": "not possible", "x@300": "not a number", "50@3,0,0": "speed @ mass"} {
		_, err := measure.Cell{Test: "implement-ladder", Side: "playing", Trial: 1, Text: text}.Parse(measure.Shipped(), reference)
		require.Error(t, err, text)
		assert.Contains(t, err.Error(), says, text)
	}
	_, err := measure.Cell{Test: "trap-bar-lift", Trial: 1, Text: "100x5@2", GaveOut: "patience"}.Parse(measure.Shipped(), reference)
	assert.ErrorContains(t, err, "legs, back or grip")
	_, err = measure.Cell{Test: "stretch-use", Trial: 1, Text: "1.1"}.Parse(measure.Shipped(), reference)
	assert.ErrorContains(t, err, "computed from other tests")
}

// What is typed in pounds comes back in pounds as it was typed, a lift with it.
func TestPoundsComeBackAsTyped(t *testing.T) {
	b := measure.Shipped()
	for _, x := range []struct{ test, side, text, back string }{
		{"grip", "lead", "110", "110"},
		{"trap-bar-lift", "", "330x5@2", "330x5@2"},
		{"trap-bar-lift", "", "150 kg x5@2", "330.69x5@2"},
	} {
		test, ok := b.Find(x.test)
		require.True(t, ok, x.test)
		trial, err := measure.Cell{Test: x.test, Side: x.side, Trial: 1, Text: x.text, Unit: "lb"}.Parse(b, reference)
		require.NoError(t, err, x.text)
		assert.Equal(t, x.back, trial.Text(test, unit.Pound))
	}
}
