package plan_test

import (
	"encoding/json"
	"fmt"
	"math/rand/v2"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dunnock/internal/core/athlete"
	"dunnock/internal/core/civil"
	"dunnock/internal/core/method"
	"dunnock/internal/core/plan"
	"dunnock/internal/core/programme"
	"dunnock/internal/core/rulebook"
	"dunnock/internal/core/testkit"
)

func generate(t *testing.T, f *athlete.File) *plan.Result {
	t.Helper()
	r, err := plan.Generate(f, method.Shipped())
	require.NoError(t, err)
	return r
}

func brokenRules(results []rulebook.Result) []string {
	var out []string
	for _, r := range results {
		if r.Status == rulebook.Broken {
			out = append(out, fmt.Sprintf("%s %s %s", r.Rule, r.Place, r.Text))
		}
	}
	return out
}

// The generator breaks no blocking rule and no warning, for anybody.
func TestGeneratorKeepsTheRulesForAnybody(t *testing.T) {
	for seed := range uint64(600) {
		f := testkit.Random(rand.New(rand.NewPCG(seed, 7)))
		r := generate(t, f)
		for _, res := range r.Rules {
			if res.Status == rulebook.Broken && res.Severity != rulebook.Advice && res.Rule != "CLEAR" {
				t.Errorf("seed %d (%s, %d min, %v, kit %v): %s at %s: %s", seed, f.School, f.Training.Minutes, f.Training.Days, f.Training.Kit, res.Rule, res.Place, res.Text)
			}
			if res.Status == rulebook.Broken && res.Rule == "TIME" && f.Training.Minutes >= 30 {
				t.Errorf("seed %d: %s at %s: %s", seed, res.Rule, res.Place, res.Text)
			}
		}
		for _, w := range r.Programme.Blocks[0].Weeks {
			assert.LessOrEqual(t, len(w.Sessions), 3)
			for _, s := range w.Sessions {
				for _, it := range s.Items {
					assert.NotEmpty(t, it.Reason.Text, "seed %d: %s has no reason", seed, it.Place)
				}
			}
		}
	}
}

func TestSameFileSameProgramme(t *testing.T) {
	for _, f := range []*athlete.File{testkit.Strong(), testkit.Weak()} {
		a, _ := json.Marshal(generate(t, f))
		b, _ := json.Marshal(generate(t, f))
		assert.Equal(t, string(a), string(b))
	}
}

func find(t *testing.T, p *programme.Programme, week int, exercise string) programme.Item {
	t.Helper()
	for _, s := range p.Blocks[0].Weeks[week-1].Sessions {
		for _, it := range s.Items {
			if it.Exercise == exercise {
				return it
			}
		}
	}
	t.Fatalf("week %d has no %s", week, exercise)
	return programme.Item{}
}

// Worked step by step in docs/methods.md.
func TestWorkedLoads(t *testing.T) {
	strong := generate(t, testkit.Strong()).Programme
	want := []struct {
		load           float64
		sets, reps, in int
	}{{137.5, 3, 5, 4}, {142.5, 3, 5, 3}, {147.5, 3, 5, 2}, {137.5, 2, 5, 4}}
	for i, w := range want {
		d := find(t, strong, i+1, "lift-trap-bar").Dose
		require.NotNil(t, d.LoadKg)
		assert.Equal(t, w.load, *d.LoadKg, "week %d", i+1)
		assert.Equal(t, []int{w.sets, w.reps, w.in}, []int{d.Sets, d.Reps, *d.Reserve}, "week %d", i+1)
	}
	weak := generate(t, testkit.Weak()).Programme
	for i, w := range want2 {
		d := find(t, weak, i+1, "lift-trap-bar").Dose
		require.NotNil(t, d.LoadKg)
		assert.Equal(t, w.load, *d.LoadKg, "week %d", i+1)
		assert.Equal(t, []int{w.sets, w.reps, w.in}, []int{d.Sets, d.Reps, *d.Reserve}, "week %d", i+1)
	}
}

var want2 = []struct {
	load           float64
	sets, reps, in int
}{{37.5, 3, 5, 5}, {37.5, 3, 6, 4}, {37.5, 4, 6, 3}, {37.5, 3, 5, 5}}

func TestRefusals(t *testing.T) {
	f := testkit.Weak()
	f.Clearance.Yes = []string{"flag-chest-pain"}
	_, err := plan.Generate(f, method.Shipped())
	var refusal *plan.Refusal
	require.ErrorAs(t, err, &refusal)
	assert.Contains(t, refusal.Text, "doctor")

	f = testkit.Weak()
	f.Athlete.BirthDate = civil.MustParse("2016-01-01")
	_, err = plan.Generate(f, method.Shipped())
	require.ErrorAs(t, err, &refusal)
	assert.Contains(t, refusal.Text, "Under 13")
}

func TestNothingKnownStillGetsAnHonestPlan(t *testing.T) {
	f := testkit.Weak()
	f.Screens, f.Training, f.Clearance = nil, athlete.Training{}, athlete.Clearance{}
	r := generate(t, f)
	assert.Contains(t, r.Read.Headline, "No screen yet")
	assert.Len(t, r.Programme.Blocks[0].Weeks, 4)
	for _, w := range r.Programme.Blocks[0].Weeks {
		require.Len(t, w.Sessions, 2)
		assert.NotEmpty(t, w.Sessions[0].Items)
	}
	notes := strings.Join(r.Programme.Notes, "\n")
	assert.Contains(t, notes, "No training days")
	assert.Contains(t, notes, "45 are assumed")
	assert.Contains(t, strings.Join(brokenRules(r.Rules), "\n"), "CLEAR")
}

func TestCompetitionsMoveTheWeek(t *testing.T) {
	f := testkit.Strong()
	play := civil.MustParse("2026-12-11") // the Friday of week 2
	f.Competitions = []athlete.Competition{{Date: play, Name: "Match", Peak: true}}
	p := generate(t, f).Programme
	w := p.Blocks[0].Weeks[1]
	require.Len(t, w.Sessions, 2, "no session on the day of play")
	for _, s := range w.Sessions {
		for _, it := range s.Items {
			if it.Dose.Reserve != nil {
				assert.GreaterOrEqual(t, *it.Dose.Reserve, 3, "%s keeps one more within five days before play", it.Place)
			}
		}
	}
}

func TestEdits(t *testing.T) {
	f := testkit.Strong()
	p := generate(t, f).Programme
	lift := find(t, p, 2, "lift-trap-bar")

	load := 190.0
	out, rules, err := plan.Apply(f, method.Shipped(), p, plan.Edit{Kind: plan.EditDose, Place: lift.Place, Dose: &plan.DosePatch{LoadKg: &load}})
	require.NoError(t, err)
	assert.Equal(t, 190.0, *find(t, out, 2, "lift-trap-bar").Dose.LoadKg)
	assert.Contains(t, strings.Join(brokenRules(rules), "\n"), "LOAD-STEP")
	assert.NotEqual(t, 190.0, *find(t, p, 2, "lift-trap-bar").Dose.LoadKg, "the given programme stays as it was")

	out, _, err = plan.Apply(f, method.Shipped(), p, plan.Edit{Kind: plan.EditSwap, Place: lift.Place, Scope: plan.ScopeLine, Exercise: "lift-goblet-squat"})
	require.NoError(t, err)
	find(t, out, 1, "lift-trap-bar")
	for w := 2; w <= 4; w++ {
		it := find(t, out, w, "lift-goblet-squat")
		assert.Nil(t, it.Dose.LoadKg, "no kilograms without a test")
		assert.Contains(t, it.LoadText, "in reserve")
	}

	out, _, err = plan.Apply(f, method.Shipped(), p, plan.Edit{Kind: plan.EditRemove, Place: lift.Place, Scope: plan.ScopeCell})
	require.NoError(t, err)
	assert.Len(t, out.Blocks[0].Weeks[1].Sessions[0].Items, len(p.Blocks[0].Weeks[1].Sessions[0].Items)-1)

	session := p.Blocks[0].Weeks[0].Sessions[0].Place
	out, _, err = plan.Apply(f, method.Shipped(), p, plan.Edit{Kind: plan.EditAdd, Place: session, Exercise: "lift-hip-thrust"})
	require.NoError(t, err)
	find(t, out, 1, "lift-hip-thrust")
	out, rules, err = plan.Apply(f, method.Shipped(), out, plan.Edit{Kind: plan.EditAdd, Place: session, Exercise: "lift-box-squat"})
	require.NoError(t, err)
	assert.Contains(t, strings.Join(brokenRules(rules), "\n"), "TIME")
}

// From this week on, a dose moves as far in every week: the wave keeps its shape,
// and a line that no longer rises gets advice.
func TestAnEditOfALineShiftsItsWave(t *testing.T) {
	f := testkit.Strong()
	p := generate(t, f).Programme
	loads := func(p *programme.Programme) (out []float64) {
		for w := 1; w <= 4; w++ {
			out = append(out, *find(t, p, w, "lift-trap-bar").Dose.LoadKg)
		}
		return out
	}
	before := loads(p)
	require.NotEqual(t, before[0], before[2], "a wave to begin with")
	first := find(t, p, 1, "lift-trap-bar")
	up := before[0] + 2.5
	out, rules, err := plan.Apply(f, method.Shipped(), p, plan.Edit{Kind: plan.EditDose, Place: first.Place, Scope: plan.ScopeLine, Dose: &plan.DosePatch{LoadKg: &up}})
	require.NoError(t, err)
	after := loads(out)
	for i := range before {
		assert.InDelta(t, before[i]+2.5, after[i], 1e-9, "week %d", i+1)
	}
	assert.NotContains(t, strings.Join(brokenRules(rules), "\n"), "FLAT")

	sets := first.Dose.Sets + 1
	out, _, err = plan.Apply(f, method.Shipped(), p, plan.Edit{Kind: plan.EditDose, Place: first.Place, Scope: plan.ScopeLine, Dose: &plan.DosePatch{Sets: &sets}})
	require.NoError(t, err)
	for w := 1; w <= 4; w++ {
		assert.Equal(t, find(t, p, w, "lift-trap-bar").Dose.Sets+1, find(t, out, w, "lift-trap-bar").Dose.Sets)
	}
	most := 12 // nothing leaves what a dose may be
	out, _, err = plan.Apply(f, method.Shipped(), p, plan.Edit{Kind: plan.EditDose, Place: first.Place, Scope: plan.ScopeLine, Dose: &plan.DosePatch{Sets: &most}})
	require.NoError(t, err)
	assert.Equal(t, 12, find(t, out, 3, "lift-trap-bar").Dose.Sets)
	none := 0.0
	out, _, err = plan.Apply(f, method.Shipped(), p, plan.Edit{Kind: plan.EditDose, Place: first.Place, Scope: plan.ScopeLine, Dose: &plan.DosePatch{LoadKg: &none}})
	require.NoError(t, err)
	assert.Nil(t, find(t, out, 3, "lift-trap-bar").Dose.LoadKg)
}

func TestEditsThatCannotBeDone(t *testing.T) {
	f := testkit.Strong()
	f.Limits = []athlete.Limit{{Region: "knee", Kind: athlete.NoImpact, SetBy: "doctor"}}
	p := generate(t, f).Programme
	place := p.Blocks[0].Weeks[0].Sessions[0].Place
	thousand := 1000
	rows := []struct {
		edit  plan.Edit
		field string
	}{
		{plan.Edit{Kind: "shuffle"}, "kind"},
		{plan.Edit{Kind: plan.EditRemove, Place: "b9.w1.s1.i1"}, "place"},
		{plan.Edit{Kind: plan.EditAdd, Place: place, Exercise: "no-such"}, "exercise"},
		{plan.Edit{Kind: plan.EditSwap, Place: place + ".i1", Exercise: "lift-trap-bar"}, "exercise"},
		{plan.Edit{Kind: plan.EditAdd, Place: place, Exercise: "jump-countermovement"}, "note"},
		{plan.Edit{Kind: plan.EditDose, Place: place + ".i1", Dose: &plan.DosePatch{Sets: &thousand}}, "dose.sets"},
		{plan.Edit{Kind: plan.EditDose, Place: place + ".i1"}, "dose"},
	}
	for _, r := range rows {
		_, _, err := plan.Apply(f, method.Shipped(), p, r.edit)
		var e *plan.EditError
		if assert.ErrorAs(t, err, &e, "%+v", r.edit) {
			assert.Equal(t, r.field, e.Field)
		}
	}
	_, rules, err := plan.Apply(f, method.Shipped(), p, plan.Edit{Kind: plan.EditAdd, Place: place, Exercise: "jump-countermovement", Note: "Doctor on the phone today"})
	require.NoError(t, err)
	assert.Contains(t, strings.Join(brokenRules(rules), "\n"), "CONTRA")
}

func TestAlternativesPutForbiddenOnesLast(t *testing.T) {
	f := testkit.Strong()
	f.Training.Kit = []string{"dumbbells"}
	p := generate(t, f).Programme
	var place string
	for _, it := range p.Blocks[0].Weeks[0].Sessions[0].Items {
		if it.Slot == programme.SlotMain {
			place = it.Place
		}
	}
	alts, err := plan.Alternatives(f, method.Shipped(), p, place, "")
	require.NoError(t, err)
	blocked := false
	for _, a := range alts {
		assert.False(t, blocked && a.Blocked == "", "an allowed exercise stands behind a forbidden one")
		blocked = blocked || a.Blocked != ""
	}
	assert.True(t, blocked)
	assert.True(t, alts[0].Current, "the generator took the first")
}

func BenchmarkGenerate(b *testing.B) {
	f := testkit.Strong()
	b.ReportAllocs()
	for b.Loop() {
		if _, err := plan.Generate(f, method.Shipped()); err != nil {
			b.Fatal(err)
		}
	}
}

// Whatever a coach does to a programme, it stays whole: places are unique and
// found, nothing panics, and drafting it from what came out of JSON is the same.
func TestRandomEditsKeepAProgrammeWhole(t *testing.T) {
	for seed := range uint64(40) {
		r := rand.New(rand.NewPCG(seed, 11))
		f := testkit.Random(r)
		p := generate(t, f).Programme
		for range 12 {
			var places []string
			for _, w := range p.Blocks[0].Weeks {
				for _, s := range w.Sessions {
					places = append(places, s.Place)
					for _, it := range s.Items {
						places = append(places, it.Place)
					}
				}
				for _, h := range w.Home {
					for _, it := range h.Items {
						places = append(places, it.Place)
					}
				}
			}
			if len(places) == 0 {
				break
			}
			n := r.IntN(20)
			e := plan.Edit{
				Kind: []string{plan.EditDose, plan.EditSwap, plan.EditAdd, plan.EditRemove}[r.IntN(4)], Place: places[r.IntN(len(places))],
				Scope: []string{plan.ScopeCell, plan.ScopeLine}[r.IntN(2)], Dose: &plan.DosePatch{Sets: &n, Reps: &n, Seconds: &n, Reserve: &n}, Note: "a reason",
			}
			if alts, err := plan.Alternatives(f, method.Shipped(), p, e.Place, programme.SlotTrunk); err == nil && len(alts) > 0 {
				e.Exercise = alts[r.IntN(len(alts))].Exercise
			}
			out, _, err := plan.Apply(f, method.Shipped(), p, e)
			if err != nil {
				var refused *plan.EditError
				require.ErrorAs(t, err, &refused, "seed %d: %+v", seed, e)
				continue
			}
			p = out
		}
		seen := map[string]bool{}
		for _, w := range p.Blocks[0].Weeks {
			for _, s := range w.Sessions {
				for _, it := range s.Items {
					require.False(t, seen[it.Place], it.Place)
					seen[it.Place] = true
					got, _, _ := p.Find(it.Place)
					require.Equal(t, it.Exercise, got.Exercise)
					require.NotEmpty(t, it.Reason.Text, it.Place)
				}
			}
		}
	}
}

// An edit elsewhere changes neither the loads nor the repetitions that were set.
func TestLoadsAreSteadyUnderOtherEdits(t *testing.T) {
	f := testkit.Weak()
	p := generate(t, f).Programme
	last := p.Blocks[0].Weeks[3].Sessions[0].Items
	out, _, err := plan.Apply(f, method.Shipped(), p, plan.Edit{Kind: plan.EditRemove, Place: last[len(last)-1].Place})
	require.NoError(t, err)
	for w := 1; w <= 3; w++ {
		assert.Equal(t, find(t, p, w, "lift-trap-bar").Dose, find(t, out, w, "lift-trap-bar").Dose, "week %d", w)
	}
}

func TestConsecutiveDaysAreFastThenHeavy(t *testing.T) {
	f := testkit.Strong()
	f.Training.Days, f.Training.Sessions = []string{"mon", "tue", "wed"}, 3
	p := generate(t, f).Programme
	w := p.Blocks[0].Weeks[0]
	require.Len(t, w.Sessions, 2, "three days in a row hold two sessions")
	assert.Contains(t, strings.Join(p.Notes, " "), "no day between them")
	f.Training.Days, f.Training.Sessions = []string{"tue", "wed"}, 2
	w = generate(t, f).Programme.Blocks[0].Weeks[0]
	assert.Equal(t, []string{"C", "A"}, []string{w.Sessions[0].Letter, w.Sessions[1].Letter})
	f.Training.Days = []string{"mon", "tue", "thu", "sat"}
	f.Training.Sessions = 3
	w = generate(t, f).Programme.Blocks[0].Weeks[0]
	var days []string
	for _, s := range w.Sessions {
		days = append(days, s.Date.Weekday().String()[:3])
	}
	assert.Equal(t, []string{"Mon", "Thu", "Sat"}, days, "the widest smallest gap, ties to the earlier day")
}

func TestSwingsOfNovicesRampUp(t *testing.T) {
	f := testkit.Weak()
	f.Training.Minutes = 75
	p := generate(t, f).Programme
	var shares, intents []int
	for _, w := range p.Blocks[0].Weeks {
		for _, it := range w.Sessions[0].Items {
			if it.Slot == programme.SlotSwings {
				shares, intents = append(shares, it.Dose.OtherSideShare), append(intents, it.Dose.IntentPercent)
			}
		}
	}
	assert.Equal(t, []int{30, 40, 50, 50}, shares)
	assert.Equal(t, []int{70, 80, 90, 70}, intents)
	share := 0
	f.OtherSideShare = &share
	r := generate(t, f)
	assert.Zero(t, rulebook.Worst(r.Rules, rulebook.Warning), "a golfer's own share is what the rule asks for")
}

// A doctor's limits reach the plan: no landing for a hip that must not be
// jarred, and the load cap stands beside every load that is not set.
func TestLimitsReachThePlan(t *testing.T) {
	f := testkit.Strong()
	f.Limits = []athlete.Limit{{Region: "hip", Side: "trail", Kind: athlete.NoImpact, SetBy: "doctor"}, {Region: "lumbar-spine", Kind: athlete.LoadCap, CapKg: 70, SetBy: "doctor"}}
	p := generate(t, f).Programme
	capped := 0
	for _, w := range p.Blocks[0].Weeks {
		assert.Zero(t, w.Totals.Contacts, "no landings at all")
		for _, s := range w.Sessions {
			for _, it := range s.Items {
				if it.Dose.LoadKg != nil {
					assert.LessOrEqual(t, *it.Dose.LoadKg, 70.0)
				}
				if it.Dose.MaxKg > 0 && it.Dose.LoadKg == nil {
					capped++
					assert.Contains(t, it.LoadText, "at most 70 kg")
				}
			}
		}
	}
	assert.Positive(t, capped)
	assert.Contains(t, strings.Join(p.Notes, " "), "has no jumps: the limits")
}

// A lift not done for months sets no loads: the reserve says it instead.
func TestAnOldLiftSetsNoLoads(t *testing.T) {
	f := testkit.Strong()
	f.Screens = append(f.Screens, athlete.Screen{Date: testkit.Day, Trials: testkit.Trials(f.Athlete, "mass", "", 90)})
	f.Screens[0].Date = testkit.Day.Add(-100)
	r := generate(t, f)
	assert.Nil(t, r.Read.Strength)
	for _, w := range r.Programme.Blocks[0].Weeks {
		for _, s := range w.Sessions {
			for _, it := range s.Items {
				assert.Nil(t, it.Dose.LoadKg, it.Place)
			}
		}
	}
}
