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
	"dunnock/internal/core/library"
	"dunnock/internal/core/method"
	"dunnock/internal/core/plan"
	"dunnock/internal/core/programme"
	"dunnock/internal/core/programme/derive"
	"dunnock/internal/core/rulebook"
	"dunnock/internal/core/testkit"
)

func generate(t *testing.T, f *athlete.File) *plan.Result {
	t.Helper()
	r, err := plan.Generate(f, method.Shipped(), "t")
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
				t.Errorf(
					"seed %d (%s, %d min, %v, kit %v): %s at %s: %s",
					seed,
					f.School,
					f.Training.Minutes,
					f.Training.Days,
					f.Training.Kit,
					res.Rule,
					res.Place,
					res.Text,
				)
			}
			if res.Status == rulebook.Broken && res.Rule == "TIME" && f.Training.Minutes >= 30 {
				t.Errorf("seed %d: %s at %s: %s", seed, res.Rule, res.Place, res.Text)
			}
		}
		for _, w := range r.Programme.Blocks[0].Weeks {
			assert.LessOrEqual(t, len(w.Sessions), 4)
			for _, s := range w.Sessions {
				for _, it := range s.Items {
					assert.NotEmpty(t, it.Reason.Text, "seed %d: %s has no reason", seed, it.Place)
					assert.Positive(t, it.Dose.Volume(), "seed %d: %s is a dose of nothing", seed, it.Place)
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

func find(t *testing.T, p *derive.Programme, week int, exercise string) derive.Item {
	t.Helper()
	for _, s := range p.Blocks[0].Weeks[week-1].Sessions {
		for _, it := range s.Items {
			if it.Exercise == exercise {
				return it
			}
		}
	}
	t.Fatalf("week %d has no %s", week, exercise)
	return derive.Item{}
}

// Worked step by step in docs/methods.md.
func TestWorkedLoads(t *testing.T) {
	strong := generate(t, testkit.Strong()).Programme
	want := []struct {
		load           float64
		sets, reps, in int
	}{{137.5, 4, 5, 4}, {142.5, 4, 5, 3}, {147.5, 4, 5, 2}, {137.5, 2, 5, 4}}
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
}{{37.5, 3, 5, 5}, {37.5, 3, 6, 4}, {37.5, 3, 7, 3}, {37.5, 2, 5, 5}}

func TestRefusals(t *testing.T) {
	f := testkit.Weak()
	f.Clearance.Yes = []string{"flag-chest-pain"}
	_, err := plan.Generate(f, method.Shipped(), "t")
	var refusal *plan.Refusal
	require.ErrorAs(t, err, &refusal)
	assert.Contains(t, refusal.Text, "doctor")

	f = testkit.Weak()
	f.Athlete.BirthDate = civil.MustParse("2016-01-01")
	_, err = plan.Generate(f, method.Shipped(), "t")
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
	assert.NotContains(t, notes, "No months of strength training")
	assert.Equal(t, []plan.Assumption{{plan.FactDays, "Monday and Thursday"}, {plan.FactMinutes, "45"}, {plan.FactKit, "none"}}, plan.Assumptions(f))
	f.Athlete.TrainingMonths = 0
	assert.Contains(t, strings.Join(generate(t, f).Programme.Notes, "\n"), "No months of strength training")
	assert.Contains(t, plan.Assumptions(f), plan.Assumption{plan.FactMonths, "new to it"})
	assert.Empty(t, plan.Assumptions(testkit.Strong()))
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

// Two hundred drawn golfers read and planned, one after the other.
func BenchmarkPlan200(b *testing.B) {
	var files []*athlete.File
	for seed := range uint64(200) {
		files = append(files, testkit.Random(rand.New(rand.NewPCG(seed, 71))))
	}
	for b.Loop() {
		for _, f := range files {
			_, _ = plan.Generate(f, method.Shipped(), "t")
		}
	}
}

func BenchmarkGenerate(b *testing.B) {
	f := testkit.Strong()
	b.ReportAllocs()
	for b.Loop() {
		if _, err := plan.Generate(f, method.Shipped(), "t"); err != nil {
			b.Fatal(err)
		}
	}
}

func TestConsecutiveDaysAreFastThenHeavy(t *testing.T) {
	f := testkit.Strong()
	f.Training.Days, f.Training.Sessions = []string{"mon", "tue", "wed"}, 3
	p := generate(t, f).Programme
	w := p.Blocks[0].Weeks[0]
	require.Len(t, w.Sessions, 3, "the sessions asked for are used")
	assert.Equal(t, []programme.Letter{"A", "D", "C"}, []programme.Letter{w.Sessions[0].Letter, w.Sessions[1].Letter, w.Sessions[2].Letter})
	assert.Contains(t, strings.Join(p.Notes, " "), "too closely for another heavy day")
	f.Training.Days, f.Training.Sessions = []string{"tue", "wed"}, 2
	w = generate(t, f).Programme.Blocks[0].Weeks[0]
	assert.Equal(t, []programme.Letter{"C", "A"}, []programme.Letter{w.Sessions[0].Letter, w.Sessions[1].Letter})
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
		for _, s := range w.Sessions {
			for _, it := range s.Items {
				if it.Slot == library.SlotSwings {
					shares, intents = append(shares, it.Dose.OtherSideShare), append(intents, it.Dose.IntentPercent)
				}
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
	f.Limits = []athlete.Limit{
		{Region: "hip", Kind: athlete.NoImpact, SetBy: "doctor"},
		{Region: "lumbar-spine", Kind: athlete.LoadCap, CapKg: 70, SetBy: "doctor"},
	}
	p := generate(t, f).Programme
	capped := 0
	for _, w := range p.Blocks[0].Weeks {
		for _, s := range w.Sessions {
			for _, it := range s.Items {
				e, ok := library.Shipped().Find(it.Exercise)
				require.True(t, ok)
				assert.NotContains(t, e.Demands, "hip/impact", "%s lands", it.Name)
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
