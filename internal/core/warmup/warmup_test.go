package warmup_test

import (
	"fmt"
	"math/rand/v2"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dunnock/internal/core/athlete"
	"dunnock/internal/core/implement"
	"dunnock/internal/core/measure"
	"dunnock/internal/core/readiness"
	"dunnock/internal/core/rulebook"
	"dunnock/internal/core/speed"
	"dunnock/internal/core/warmup"
)

// adult is a golfer of 1.80 m without limits.
func adult() *warmup.Person {
	return &warmup.Person{HeightM: 1.80, Own: implement.Usual, OtherSide: true}
}

func tee(minutes int) warmup.Request {
	return warmup.Request{Purpose: warmup.Tee, Minutes: minutes, Place: warmup.TeeBox}
}

func build(t *testing.T, p *warmup.Person, r warmup.Request) *warmup.WarmUp {
	t.Helper()
	require.Empty(t, r.Validate())
	w, err := warmup.Build(p, r)
	require.NoError(t, err)
	return w
}

// seconds are those of each phase.
func seconds(w *warmup.WarmUp) map[warmup.Phase]int {
	out := map[warmup.Phase]int{}
	for _, it := range w.Items {
		out[it.Phase] += it.Seconds
	}
	return out
}

func swingsOf(w *warmup.WarmUp, side string, fast bool) (n int) {
	for _, it := range w.Items {
		if it.Side == side && it.Swings > 0 && (!fast || it.Fast()) {
			n += it.Swings
		}
	}
	return n
}

// The rows of the table, worked by hand for an adult to the tee: eight swings, two or
// three of the other side, ten seconds a change (handbook 12).
func TestPhasesMeetTheTable(t *testing.T) {
	for minutes, want := range map[int]map[warmup.Phase]int{
		3:  {warmup.Raise: 60, warmup.Joints: 40, warmup.Ladder: 74},
		4:  {warmup.Raise: 60, warmup.Joints: 40, warmup.Activate: 30, warmup.Separate: 25, warmup.Ladder: 80},
		6:  {warmup.Raise: 70, warmup.Joints: 80, warmup.Activate: 60, warmup.Separate: 50, warmup.Jump: 20, warmup.Ladder: 80},
		10: {warmup.Raise: 110, warmup.Joints: 180, warmup.Activate: 90, warmup.Separate: 75, warmup.Jump: 40, warmup.Ladder: 105},
	} {
		assert.Equal(t, want, seconds(build(t, adult(), tee(minutes))), "%d minutes", minutes)
	}
	five := seconds(build(t, adult(), tee(5)))
	assert.Equal(t, 30, five[warmup.Activate], "between rows the row below")
	assert.Equal(t, 100, five[warmup.Joints], "what is left goes to joints")
	w := build(t, adult(), tee(3))
	for _, it := range w.Items {
		assert.LessOrEqual(t, it.IntentPercent, 85, "under four minutes")
	}
}

// S − f in thirds, the odd ones at three-quarter; the length from the cold start.
func TestTheLadderFollowsTheColdStart(t *testing.T) {
	intents := func(p *warmup.Person, r warmup.Request) (out []string) {
		for _, it := range build(t, p, r).Items {
			if it.Swings > 0 && it.Round == 1 {
				out = append(out, fmt.Sprintf("%d at %d %s", it.Swings, it.IntentPercent, it.Side))
			}
		}
		return out
	}
	assert.Equal(t, []string{"1 at 50 playing", "2 at 50 other", "1 at 70 other"}, []string{intents(adult(), tee(10))[0], intents(adult(), tee(10))[1], intents(adult(), tee(10))[3]})
	p := adult()
	cold := func(mps ...float64) {
		var err error
		p.ColdStart, err = speed.ColdStartOf(mps)
		require.NoError(t, err)
	}
	cold(46, 46.3, 46.6, 46.9, 47.2, 47.5, 47.8, 48.1) // still rising: twelve
	assert.Equal(t, 12, swingsOf(build(t, p, tee(10)), "playing", false))
	cold(48, 48, 48, 48, 48, 48, 48) // flat: six
	assert.Equal(t, 6, swingsOf(build(t, p, tee(4)), "playing", false))
	r := warmup.Request{Purpose: warmup.Training, FastFollows: true, Minutes: 10, Place: warmup.Gym}
	assert.Equal(t, 2, swingsOf(build(t, adult(), r), "playing", true), "training: the session holds the fast ones")
	r.FastFollows = false
	assert.Zero(t, swingsOf(build(t, adult(), r), "playing", false))
	assert.Greater(t, seconds(build(t, adult(), r))[warmup.Activate], 90, "the ladder's seconds go to activation and joints")
	novice := adult()
	novice.Novice = true
	assert.Equal(t, 2, swingsOf(build(t, novice, tee(10)), "playing", true))
}

// sticks are a light and a heavy implement.
var sticks = []implement.Implement{
	{ID: "light", Name: "Light stick", Kind: implement.Speed, MassG: 250, LengthM: 1.1}, {ID: "heavy", Name: "Heavy stick", Kind: implement.Speed, MassG: 420, LengthM: 1.1},
}

func TestImplementsInAWarmUp(t *testing.T) {
	p := adult()
	p.Implements = sticks
	w := build(t, p, tee(15))
	var with []string
	for _, it := range w.Items {
		if it.Swings > 0 {
			with = append(with, it.ImplementID)
		}
	}
	assert.Equal(t, "heavy", with[0], "early")
	assert.Equal(t, "driver", with[len(with)-1], "the own driver last")
	assert.InDelta(t, 35.5, *w.Items[slices.IndexFunc(w.Items, func(it warmup.Item) bool { return it.ImplementID == "heavy" })].ImplementPercent, 0.05)
	train := build(t, p, warmup.Request{Purpose: warmup.Training, FastFollows: true, Minutes: 15, Place: warmup.Gym})
	assert.Equal(t, "light", train.Items[len(train.Items)-1].ImplementID, "training ends light and fast")
	for _, change := range []func(*warmup.Person, *warmup.Request){
		func(p *warmup.Person, _ *warmup.Request) { p.Junior = true },
		func(p *warmup.Person, _ *warmup.Request) { p.Senior = true }, // +35% is over +20%
		func(p *warmup.Person, _ *warmup.Request) {
			p.Limits = []athlete.Limit{{Region: "elbow", Kind: athlete.NoOverhead}}
		},
		func(_ *warmup.Person, r *warmup.Request) { r.WithoutHeavy = true },
	} {
		q, r := *p, tee(15)
		change(&q, &r)
		for _, it := range build(t, &q, r).Items {
			assert.NotEqual(t, "heavy", it.ImplementID)
		}
	}
	irons := tee(10)
	irons.Clubs = warmup.IronsOnly
	w = build(t, p, irons)
	assert.Equal(t, "Mid iron", w.Items[len(w.Items)-1].Implement)
	assert.Empty(t, w.Broken(rulebook.Warning))
	none := tee(10)
	none.Clubs = warmup.NoClub
	w = build(t, p, none)
	assert.Empty(t, w.Items[len(w.Items)-1].Implement)
	assert.Contains(t, w.Items[len(w.Items)-1].Name, "Empty hands")
}

// A tee time of 9:00, a walk of four minutes and ten minutes of warm-up: 8:41 (handbook
// 12).
func TestTeeTime(t *testing.T) {
	r := tee(10)
	r.Tee, r.Walk = "9:00", 4
	w := build(t, adult(), r)
	assert.Equal(t, "08:41", w.StartAt)
	assert.Equal(t, "08:55", w.OnTeeAt)
	require.NotNil(t, w.IfLate)
	assert.Contains(t, w.IfLate.Drops, "all 2 jumps")
	r.Tee = "00:05"
	assert.Equal(t, "23:46", build(t, adult(), r).StartAt, "the day before")
	left, err := warmup.Left("8:50", "9:00", 0)
	require.NoError(t, err)
	assert.Equal(t, 5, left)
	left, _ = warmup.Left("9:01", "9:00", 0)
	assert.Negative(t, left)
	_, err = warmup.Left("nine", "9:00", 0)
	assert.Error(t, err)

	r.Wait = 15
	w = build(t, adult(), r)
	waiting := slices.DeleteFunc(slices.Clone(w.Items), func(it warmup.Item) bool { return !it.Wait })
	assert.Len(t, waiting, 3)
	assert.LessOrEqual(t, w.TotalSeconds, 600, "a wait is beyond the minutes")
	r.Wait = 25
	w = build(t, adult(), r)
	assert.True(t, slices.ContainsFunc(w.Items, func(it warmup.Item) bool { return it.Wait && it.Phase == warmup.Raise }))
	assert.Empty(t, w.Broken(rulebook.Warning))
}

func TestUnderThreeMinutes(t *testing.T) {
	for _, minutes := range []int{1, 2} {
		w := build(t, adult(), tee(minutes))
		assert.LessOrEqual(t, w.TotalSeconds, 60*minutes)
		assert.Contains(t, w.Notes, "Under three minutes: the first swing on the tee at 85%.")
	}
	r := tee(0)
	require.NotEmpty(t, r.Validate())
	assert.Contains(t, r.Validate()[0].Text, "nothing can be warmed up in 0 minutes")
}

func TestCold60AndHeat(t *testing.T) {
	at := func(c float64, minutes int, senior bool) map[warmup.Phase]int {
		p, r := adult(), tee(minutes)
		p.Senior, r.Celsius = senior, &c
		return seconds(build(t, p, r))
	}
	assert.GreaterOrEqual(t, at(5, 8, false)[warmup.Raise], 120)
	assert.Equal(t, 80, at(5, 4, false)[warmup.Raise])
	assert.Equal(t, 60, at(5, 3, false)[warmup.Raise])
	assert.GreaterOrEqual(t, at(5, 8, true)[warmup.Raise], 150)
	assert.Zero(t, at(5, 8, true)[warmup.Jump], "the jumps go first")
	assert.Equal(t, 60, at(29, 10, false)[warmup.Raise])
	p, r, hot := adult(), tee(20), 33.0
	r.Celsius = &hot
	w := build(t, p, r)
	assert.LessOrEqual(t, w.TotalSeconds, 600)
	assert.GreaterOrEqual(t, w.FreeSeconds, 600)
}

// A ceiling of 2.2 m leaves hip-to-hip swings; lower leaves empty hands to the shoulder;
// a club wants golfer, club and 10 cm.
func TestCeilings(t *testing.T) {
	names := func(ceiling float64) (out []string) {
		w := build(t, adult(), warmup.Request{Purpose: warmup.Training, FastFollows: true, Minutes: 10, Place: warmup.Gym, CeilingM: ceiling})
		assert.Empty(t, w.Broken(rulebook.Blocking), "%g m", ceiling)
		for _, it := range w.Items {
			if it.Swings > 0 && !slices.Contains(out, it.Name) {
				out = append(out, it.Name)
			}
		}
		return out
	}
	assert.Equal(t, []string{"Hip-to-hip swings"}, names(2.2))
	assert.Equal(t, []string{"Empty hands, shoulder high"}, names(2.1))
	assert.Contains(t, names(2.26)[0], "Empty hands: half swings")
	assert.Contains(t, names(3.06), "Full swings, fast")
	assert.NotContains(t, names(3.04), "Full swings, fast")
}

func TestReadinessIsKept(t *testing.T) {
	r := tee(10)
	r.Readiness = readiness.Answers{Illness: readiness.Fever}
	_, err := warmup.Build(adult(), r)
	var no *warmup.Refusal
	require.ErrorAs(t, err, &no)
	flagged := adult()
	flagged.RedFlag = "Red flag."
	_, err = warmup.Build(flagged, tee(10))
	require.ErrorAs(t, err, &no)
	for name, a := range map[string]readiness.Answers{
		"a cold": {Illness: readiness.Cold}, "short sleep": {Sleep: readiness.SleepBad}, "a sore hip": {Pain: []readiness.Pain{{Region: "hip", Level: 2}}},
	} {
		r.Readiness = a
		for _, it := range build(t, adult(), r).Items {
			assert.LessOrEqual(t, it.IntentPercent, 85, name)
		}
	}
	r.Readiness = readiness.Answers{Soreness: readiness.SoreStrong}
	for _, it := range build(t, adult(), r).Items {
		assert.Zero(t, it.Contacts, "marching instead")
	}
	r.Readiness = readiness.Answers{Soreness: readiness.SoreTooFar}
	assert.Zero(t, swingsOf(build(t, adult(), r), "playing", false))
	r.Readiness = readiness.Answers{Pain: []readiness.Pain{{Region: "hip", Level: 5}}}
	for _, it := range build(t, adult(), r).Items {
		l, ok := warmup.FindLine(it.Line)
		assert.False(t, ok && slices.ContainsFunc(l.Demands, func(d string) bool { return d == "hip/work" }), it.Name)
	}
}

func TestWhatIsShortGetsMore(t *testing.T) {
	p := adult()
	for _, test := range []string{"hip-ir", "thoracic-rotation", "ankle-lunge", "leg-raise", "hip-er"} {
		side := measure.Side(measure.Lead)
		if test == "thoracic-rotation" {
			side = measure.Side("toward")
		}
		p.Restricted = append(p.Restricted, warmup.Restricted{Test: test, Side: side, For: test})
	}
	count := func(minutes int) (n int) {
		for _, it := range build(t, p, tee(minutes)).Items {
			if it.For != "" {
				assert.NotEqual(t, "each", it.Side)
				n++
			}
		}
		return n
	}
	assert.Equal(t, 2, count(6))
	assert.Equal(t, 4, count(10))
	assert.Contains(t, build(t, p, tee(4)).Dropped, "one more for hip-ir", "no room is said")
}

func TestAfterTheRound(t *testing.T) {
	w := build(t, adult(), warmup.Request{Purpose: warmup.After, Minutes: 8, Place: warmup.CarPark})
	assert.Equal(t, 480, w.TotalSeconds)
	holds := 0
	for _, it := range w.Items {
		if it.HoldSeconds > 0 {
			assert.True(t, it.HoldSeconds >= 10 && it.HoldSeconds <= 15)
			holds++
		}
	}
	assert.Equal(t, 6, holds, "hip front, trunk, side, hip turn, shoulder, calf")
	short := build(t, adult(), warmup.Request{Purpose: warmup.After, Minutes: 3, Place: warmup.CarPark})
	assert.Equal(t, 180, short.TotalSeconds)
	assert.Contains(t, short.Dropped, "calf at a wall or the cart")
}

func TestARangeSessionWithBalls(t *testing.T) {
	w := build(t, adult(), warmup.Request{Purpose: warmup.Range, Minutes: 30, Place: warmup.OnRange, Balls: true})
	balls := 0
	for _, it := range w.Items {
		if it.Ball {
			balls += it.Swings
		}
	}
	assert.LessOrEqual(t, balls, 60)
	assert.GreaterOrEqual(t, balls, 40, "most of the time is balls")
	last := w.Items[len(w.Items)-1]
	assert.Equal(t, "Driver, fast", last.Name)
	assert.LessOrEqual(t, swingsOf(w, "playing", true), 15)

	drills := build(t, adult(), warmup.Request{Purpose: warmup.Range, Minutes: 30, Place: warmup.OnRange, Drills: true})
	tens := 0
	for _, it := range drills.Items {
		tens += map[bool]int{true: 1}[it.Step == "drill" && it.Swings == 10]
	}
	assert.Equal(t, 4, tens)
	assert.Equal(t, warmup.Cool, drills.Items[len(drills.Items)-1].Phase, "balance ends it")
}

func TestAGroupOfJuniors(t *testing.T) {
	var members []warmup.Member
	for i := range 6 {
		p := adult()
		p.Junior, p.HeightM = true, 1.5
		if i < 3 {
			p.Restricted = []warmup.Restricted{{Test: "hip-ir", Side: measure.Side(measure.Lead), For: "x"}}
		}
		members = append(members, warmup.Member{Name: fmt.Sprintf("Junior %d", i+1), Person: p})
	}
	members[5].Limits = []athlete.Limit{{Region: "knee", Kind: athlete.NoImpact, SetBy: "doctor"}}
	members[4].RedFlag = "Fainted."
	w, err := buildGroup(members, warmup.Request{Purpose: warmup.Range, Minutes: 15, Place: warmup.OnRange})
	require.NoError(t, err)
	notes := fmt.Sprint(w.Notes)
	assert.Contains(t, notes, "9.1 m from one to the next", "two radii, with step swings")
	assert.Contains(t, notes, "Junior 5: takes no part. Fainted.")
	assert.Contains(t, notes, "Junior 6: march instead of low bounces")
	assert.True(t, slices.ContainsFunc(w.Items, func(it warmup.Item) bool { return it.Stepping && it.Swings > 0 }))
	assert.True(t, slices.ContainsFunc(w.Items, func(it warmup.Item) bool { return it.For != "" }), "more for tight areas")
	for _, it := range w.Items {
		assert.NotEqual(t, "heavy", it.ImplementID)
	}
	for i := range members {
		members[i].Child = true
	}
	w, err = buildGroup(members, warmup.Request{Purpose: warmup.Range, Minutes: 15, Place: warmup.OnRange})
	require.NoError(t, err)
	for _, it := range w.Items {
		assert.Zero(t, it.IntentPercent, "under 13: games and step swings, no intents")
	}
	_, err = buildGroup([]warmup.Member{members[4]}, warmup.Request{Purpose: warmup.Range, Minutes: 15, Place: warmup.OnRange})
	assert.Error(t, err)
}

// Templates are requests that can be built.
func TestTemplates(t *testing.T) {
	assert.Len(t, warmup.Templates(), 8)
	for _, x := range warmup.Templates() {
		w := build(t, adult(), x.Request)
		assert.Empty(t, append(w.Broken(rulebook.Blocking), w.Broken(rulebook.Warning)...), x.Name)
		assert.LessOrEqual(t, w.TotalSeconds, 60*x.Request.Minutes, x.Name)
	}
}

// random draws a golfer and a request.
func random(r *rand.Rand) (*warmup.Person, warmup.Request) {
	p := adult()
	p.HeightM = 1.4 + 0.6*r.Float64()
	switch r.IntN(5) {
	case 0:
		p.Junior = true
		p.Child = r.IntN(4) == 0
	case 1:
		p.Senior = true
	case 2:
		p.Novice = true
	}
	p.OtherSide = r.IntN(5) > 0
	if r.IntN(2) == 0 {
		p.Implements = sticks
	}
	if r.IntN(2) == 0 {
		var v []float64
		for n := range 6 + r.IntN(10) {
			v = append(v, 48-float64(6-min(n, 6))*r.Float64()+0.4*r.NormFloat64())
		}
		p.ColdStart, _ = speed.ColdStartOf(v)
	}
	regions := []string{"neck", "shoulder", "elbow", "wrist-hand", "thoracic-spine", "lumbar-spine", "hip", "knee", "ankle-foot", "heart"}
	for range r.IntN(3) {
		kinds := athlete.LimitKinds()
		p.Limits = append(p.Limits, athlete.Limit{Region: regions[r.IntN(len(regions))], Kind: kinds[r.IntN(len(kinds))], CapKg: 20, Side: []string{"", "lead", "trail"}[r.IntN(3)], SetBy: "doctor"})
	}
	for range r.IntN(6) {
		tests := []string{"hip-ir", "hip-er", "thoracic-rotation", "ankle-lunge", "shoulder-er", "side-bend"}
		p.Restricted = append(p.Restricted, warmup.Restricted{Test: tests[r.IntN(len(tests))], Side: measure.Side(measure.Lead), For: "x"})
	}
	req := warmup.Request{
		Purpose: warmup.Purposes()[r.IntN(5)], Place: warmup.Places()[r.IntN(4)], Minutes: 1 + r.IntN(40), Floor: r.IntN(2) == 0, Balls: r.IntN(2) == 0,
		FastFollows: r.IntN(3) > 0, Seated: r.IntN(6) == 0, Drills: r.IntN(5) == 0, WithoutHeavy: r.IntN(4) == 0, Group: r.IntN(3) * r.IntN(8), Wait: r.IntN(2) * r.IntN(40),
		Clubs: []string{"", "", "", warmup.IronsOnly, warmup.NoClub}[r.IntN(5)],
	}
	if r.IntN(3) == 0 {
		req.CeilingM = 2 + 2*r.Float64()
	}
	if r.IntN(4) == 0 {
		req.ClearM = 1 + 5*r.Float64()
	}
	if r.IntN(2) == 0 {
		c := -5 + 40*r.Float64()
		req.Celsius = &c
	}
	if r.IntN(2) == 0 {
		req.Kit = []string{"band", "rope"}
	}
	switch r.IntN(6) {
	case 0:
		req.Readiness.Illness = readiness.Cold
	case 1:
		req.Readiness.Soreness = []string{readiness.SoreSome, readiness.SoreStrong, readiness.SoreTooFar}[r.IntN(3)]
	case 2:
		req.Readiness.Pain = []readiness.Pain{{Region: regions[r.IntN(9)], Level: r.IntN(8)}}
	}
	return p, req
}

// 2,000 random warm-ups fit their minutes, break no rule, respect limits and end light
// and fast or with the driver.
func TestRandomWarmUpsKeepTheRules(t *testing.T) {
	for seed := range uint64(2000) {
		p, req := random(rand.New(rand.NewPCG(seed, 12)))
		w := build(t, p, req)
		at := fmt.Sprintf("seed %d: %+v", seed, req)
		if w.TotalSeconds > 60*req.Minutes {
			t.Fatalf("%s: %d s in %d minutes", at, w.TotalSeconds, req.Minutes)
		}
		for _, r := range w.Rules {
			if r.Status == rulebook.Broken && (r.Severity != rulebook.Advice || req.ClearM == 0 && req.CeilingM == 0) {
				t.Fatalf("%s: %s: %s", at, r.Rule, r.Text)
			}
		}
		for _, l := range p.Limits {
			for _, it := range w.Items {
				line, ok := warmup.FindLine(it.Line)
				if ok && l.Kind == athlete.NoneOfPattern && l.Side == "" {
					for _, d := range line.Demands {
						require.NotContains(t, d, l.Region+"/", "%s: %s", at, it.Name)
					}
				}
				require.False(t, l.Kind == athlete.NoImpact && l.Region == "knee" && it.Contacts > 0, at)
			}
		}
		var last *warmup.Item
		for i := range w.Items {
			if it := &w.Items[i]; it.Swings > 0 && !it.Wait {
				last = it
			}
		}
		if last != nil && !p.Child {
			own := last.ImplementID == p.Own.ID || last.ImplementPercent == nil || *last.ImplementPercent < 0
			require.True(t, own || req.Clubs == warmup.IronsOnly, "%s ends with %s", at, last.Implement)
			require.Equal(t, "playing", last.Side, at)
			for _, it := range w.Items {
				require.LessOrEqual(t, it.IntentPercent, last.IntentPercent+5, "%s: the last ones are the fastest", at)
			}
		}
		again := build(t, p, req)
		require.Equal(t, w, again, "same input, same warm-up")
	}
}

// Every rule is broken by a change and mended by its fix.
func TestEveryRuleFiresAndIsMended(t *testing.T) {
	p := adult()
	p.Implements = sticks
	base := build(t, p, tee(10))
	first := func(w *warmup.WarmUp, which func(*warmup.Item) bool) *warmup.Item {
		return &w.Items[slices.IndexFunc(w.Items, func(it warmup.Item) bool { return which(&it) })]
	}
	swing := func(it *warmup.Item) bool { return it.Swings > 0 }
	for rule, change := range map[string]func(*warmup.Person, *warmup.WarmUp){
		"W-SPACE": func(_ *warmup.Person, w *warmup.WarmUp) { w.Request.CeilingM = 2.3 },
		"W-COLD": func(_ *warmup.Person, w *warmup.WarmUp) {
			w.Items = slices.DeleteFunc(w.Items, func(it warmup.Item) bool { return it.Phase == warmup.Joints })
		},
		"W-JUMPS": func(p *warmup.Person, _ *warmup.WarmUp) {
			p.Limits = []athlete.Limit{{Region: "knee", Kind: athlete.NoImpact}}
		},
		"CONTRA": func(p *warmup.Person, _ *warmup.WarmUp) {
			p.Limits = []athlete.Limit{{Region: "shoulder", Kind: athlete.NoneOfPattern}}
		},
		"W-RAMP":       func(_ *warmup.Person, w *warmup.WarmUp) { first(w, swing).IntentPercent = 100 },
		"W-LAST-LIGHT": func(_ *warmup.Person, w *warmup.WarmUp) { w.Items = append(w.Items, heavyAtTheEnd()) },
		"W-FATIGUE":    func(_ *warmup.Person, w *warmup.WarmUp) { first(w, (*warmup.Item).Fast).Swings = 16 },
		"W-HOLD": func(_ *warmup.Person, w *warmup.WarmUp) {
			it := first(w, func(it *warmup.Item) bool { return it.Phase == warmup.Joints })
			it.HoldSeconds = 45
		},
		"W-TIME": func(_ *warmup.Person, w *warmup.WarmUp) { w.Request.Minutes = 5 },
		"W-BOTH": func(_ *warmup.Person, w *warmup.WarmUp) {
			w.Items = slices.DeleteFunc(w.Items, func(it warmup.Item) bool { return it.Side == "other" })
		},
	} {
		q, w := *p, *base
		w.Items = slices.Clone(base.Items)
		change(&q, &w)
		bad, err := warmup.Edited(&q, w.Request, w.Items)
		require.NoError(t, err)
		find := func(w *warmup.WarmUp) warmup.Result {
			return w.Rules[slices.IndexFunc(w.Rules, func(r warmup.Result) bool { return r.Rule == rule })]
		}
		got := find(bad)
		require.Equal(t, rulebook.Broken, got.Status, rule)
		require.NotEmpty(t, got.Fix, rule)
		mended, err := warmup.Mend(&q, bad, rule)
		require.NoError(t, err, rule)
		require.NotEqual(t, rulebook.Broken, find(mended).Status, "%s: %s", rule, find(mended).Text)
	}
	_, err := warmup.Mend(p, base, "W-TIME")
	assert.Error(t, err, "nothing to mend")
	_, err = warmup.Mend(p, base, "W-ZERO")
	assert.Error(t, err)
}

func heavyAtTheEnd() warmup.Item {
	percent := 35.5
	return warmup.Item{Phase: warmup.Ladder, Name: "Half swings", Side: "playing", Swings: 3, IntentPercent: 50, Step: "Half swings", Implement: "Heavy stick", ImplementID: "heavy", ImplementPercent: &percent, Round: 1}
}

func TestACoachsItemsAreChecked(t *testing.T) {
	ok := warmup.Item{Phase: warmup.Joints, Line: "joint-neck", Name: "Head turns", Seconds: 20, Side: "each", Repetitions: 5}
	w, err := warmup.Edited(adult(), tee(10), []warmup.Item{ok, ok})
	require.NoError(t, err)
	assert.NotEqual(t, w.Items[0].ID, w.Items[1].ID)
	assert.Equal(t, 40, w.TotalSeconds)
	for name, change := range map[string]func(*warmup.Item){
		"name": func(it *warmup.Item) { it.Name = "" }, "phase": func(it *warmup.Item) { it.Phase = "x" }, "line": func(it *warmup.Item) { it.Line = "x" },
		"side": func(it *warmup.Item) { it.Side = "left" }, "seconds": func(it *warmup.Item) { it.Seconds = -1 }, "intent": func(it *warmup.Item) { it.IntentPercent = 300 },
	} {
		bad := ok
		change(&bad)
		_, err := warmup.Edited(adult(), tee(10), []warmup.Item{ok, bad})
		assert.ErrorContains(t, err, "item 2", name)
	}
	_, err = warmup.Edited(adult(), tee(10), make([]warmup.Item, 121))
	assert.Error(t, err)
	p := adult()
	p.Limits = []athlete.Limit{{Region: "neck", Kind: athlete.NoneOfPattern}}
	for _, it := range warmup.Alternatives(p, w, warmup.Joints) {
		assert.NotEqual(t, "joint-neck", it.Line, "neither what stands there nor what a limit forbids")
		assert.False(t, it.Line == "joint-book", "no floor")
	}
}

func TestARequestIsChecked(t *testing.T) {
	far := 90.0
	bad := warmup.Request{Purpose: "x", Place: "x", Minutes: 41, CeilingM: -1, ClearM: -1, Celsius: &far, Clubs: "x", Group: 99, Walk: -1, Tee: "25:00", Kit: make([]string, 61), Readiness: readiness.Answers{Sleep: "x"}}
	var paths []string
	for _, p := range bad.Validate() {
		paths = append(paths, p.Path)
	}
	assert.ElementsMatch(t, []string{"purpose", "place", "minutes", "ceilingM", "clearM", "celsius", "clubs", "group", "walk", "tee", "kit", "readiness.sleep"}, paths)
}

func BenchmarkBuild(b *testing.B) {
	p := adult()
	p.Implements = sticks
	r := tee(20)
	r.Tee = "9:00"
	for b.Loop() {
		if _, err := warmup.Build(p, r); err != nil {
			b.Fatal(err)
		}
	}
}

func ExampleBuild() {
	w, _ := warmup.Build(&warmup.Person{Own: implement.Usual}, warmup.Request{Purpose: warmup.Tee, Minutes: 4, Place: warmup.CarPark})
	for _, it := range w.Items {
		fmt.Printf("%-9s %3d s  %s\n", it.Phase, it.Seconds, it.Name)
	}
	// Output:
	// raise      60 s  Brisk walk, arms swinging
	// joints     20 s  Shoulder circles, arms long
	// joints     20 s  Chest turns, arms crossed, belt still
	// joints     20 s  Hip turns on one leg, hand on a club
	// activate   30 s  Half squat with a reach
	// separate   25 s  Chest turns over a still pelvis, golf posture
	// ladder      5 s  Half swings
	// ladder     15 s  Three-quarter swings
	// ladder      6 s  Full swings, held back
	// ladder     24 s  Full swings, fast
}

func buildGroup(members []warmup.Member, r warmup.Request) (*warmup.WarmUp, error) {
	g, err := warmup.GroupOf(members)
	if err != nil {
		return nil, err
	}
	return g.Build(r)
}

// A knee that must be spared is not pushed over the toes, stood on or turned either.
func TestASparedKneeIsSparedInTheJointsToo(t *testing.T) {
	p := adult()
	p.Limits = []athlete.Limit{{Region: "knee", Kind: athlete.NoneOfPattern}}
	for _, it := range build(t, p, warmup.Request{Purpose: warmup.Training, Minutes: 20, Place: warmup.Gym, Floor: true}).Items {
		assert.NotContains(t, []string{"joint-ankle", "joint-leg-swing", "joint-hip-switch", "joint-knee"}, it.Line, it.Name)
	}
}

// Nobody has a bag for the other side: balls are struck from the playing side alone.
func TestBallsAreStruckFromThePlayingSide(t *testing.T) {
	p := adult()
	p.OtherSide = true
	w := build(t, p, warmup.Request{Purpose: warmup.Range, Minutes: 30, Place: warmup.OnRange, Balls: true})
	other := 0
	for _, it := range w.Items {
		if it.Side == "other" && it.Swings > 0 {
			other++
			assert.False(t, it.Ball)
			assert.Contains(t, it.Cue, "no ball")
		}
		assert.True(t, it.Phase != warmup.Raise || it.Seconds%5 == 0, "%s %d s", it.Name, it.Seconds)
	}
	assert.Positive(t, other)
}

// What a coach took out of a group's warm-up is judged, and mended by the rule's fix; who
// has a limit is still told what to do instead.
func TestAGroupsWarmUpIsChangedAndMended(t *testing.T) {
	hurt := adult()
	hurt.Limits = []athlete.Limit{{Region: "knee", Kind: athlete.NoImpact}}
	g, err := warmup.GroupOf([]warmup.Member{{Name: "Ann", Person: adult()}, {Name: "Bo", Person: hurt}})
	require.NoError(t, err)
	w, err := g.Build(warmup.Request{Purpose: warmup.Range, Minutes: 10, Place: warmup.OnRange})
	require.NoError(t, err)
	cold := slices.DeleteFunc(slices.Clone(w.Items), func(it warmup.Item) bool { return it.Phase == warmup.Raise })
	w, err = g.Edited(w.Request, cold)
	require.NoError(t, err)
	require.NotEmpty(t, w.Broken(rulebook.Blocking))
	w, err = g.Mend(w, "W-COLD")
	require.NoError(t, err)
	assert.Empty(t, w.Broken(rulebook.Blocking))
	assert.Contains(t, strings.Join(w.Notes, "\n"), "Bo: march instead of")
	_, err = g.Mend(w, "W-COLD")
	require.Error(t, err, "nothing to mend")
	assert.NotEmpty(t, g.Alternatives(w, warmup.Joints))
}
