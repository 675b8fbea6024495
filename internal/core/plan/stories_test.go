package plan_test

import (
	"fmt"
	"os"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dunnock/internal/core/athlete"
	"dunnock/internal/core/civil"
	"dunnock/internal/core/library"
	"dunnock/internal/core/measure"
	"dunnock/internal/core/plan"
	"dunnock/internal/core/rulebook"
	"dunnock/internal/core/testkit"
)

type story struct {
	name string
	file func() *athlete.File
}

// stories are golfers with one story each; docs/methods.md says what each gets.
var stories = []story{
	{"stiff hip and chest", func() *athlete.File {
		f := testkit.Sound()
		testkit.Set(f, "hip-ir", "lead", 18)
		testkit.Set(f, "thoracic-rotation", "toward", 36)
		return f
	}},
	{"weak hands", func() *athlete.File {
		f := testkit.Sound()
		testkit.Set(f, "grip", "", 36)
		return f
	}},
	{"must not land", func() *athlete.File {
		f := testkit.Sound()
		testkit.Set(f, "cmj", "", 28)
		f.Limits = []athlete.Limit{{Region: "knee", Kind: athlete.NoImpact, SetBy: "doctor"}, {Region: "hip", Kind: athlete.NoImpact, SetBy: "doctor"}, {Region: "ankle-foot", Kind: athlete.NoImpact, SetBy: "doctor"}}
		return f
	}},
	{"lead wrist hurts", func() *athlete.File {
		f := testkit.Sound()
		testkit.Set(f, "rotary-throw", "", 7)
		f.Screens[0].Trials = append(f.Screens[0].Trials, measure.Trial{Test: "lever-hinge", Side: "lead", Number: 1, Status: measure.Stopped, Pain: 6, Region: "wrist-hand"})
		return f
	}},
	{"seventy-two and advanced", func() *athlete.File {
		f := testkit.Sound()
		f.Athlete.BirthDate = civil.MustParse("1954-05-01")
		f.Athlete.TrainingMonths, f.Athlete.Advanced = 120, true
		testkit.Set(f, "cmj", "", 16)
		return f
	}},
	{"weak, new to the gym", testkit.Weak},
	{"a girl of fourteen", func() *athlete.File {
		f := testkit.Weak()
		f.Athlete.BirthDate = civil.MustParse("2012-03-01")
		f.Consent = &athlete.Consent{Guardian: "Una", On: testkit.Day}
		testkit.Set(f, "rotary-throw", "", 3.4)
		return f
	}},
	{"half an hour twice, at home with a band", func() *athlete.File {
		f := testkit.Sound()
		testkit.Set(f, "cmj", "", 30)
		f.Training.Days, f.Training.Sessions, f.Training.Minutes, f.Training.Kit = []string{"tue", "fri"}, 2, 30, []string{"band"}
		return f
	}},
	{"nothing clearly short", testkit.Sound},
	{"back after five months", func() *athlete.File {
		f := testkit.Sound()
		testkit.Set(f, "cmj", "", 30)
		f.OffWeeks, f.OffWhy = 20, athlete.OffWork
		f.Screens[0].Date = f.AsOf.Add(-60)
		return f
	}},
	{"strong school, weak lift, four days", func() *athlete.File {
		f := testkit.Weak()
		f.School = "strength-first"
		f.Athlete.TrainingMonths = 30
		f.Training = athlete.Training{Days: []string{"mon", "tue", "thu", "sat"}, Minutes: 60, Kit: testkit.FullKit(), BarKg: 20, PlateStepKg: 2.5}
		return f
	}},
}

// later are stories of play, of a weaker side, and of a second block.
var later = []story{
	{"a cup on the fourth Saturday", func() *athlete.File {
		f := testkit.Sound()
		testkit.Set(f, "hip-ir", "lead", 18)
		testkit.Set(f, "thoracic-rotation", "toward", 36)
		f.Competitions = []athlete.Competition{{Date: civil.MustParse("2026-12-26"), Name: "Harbour Cup", Peak: true}}
		return f
	}},
	{"a cup in ten days", func() *athlete.File {
		f := testkit.Sound()
		testkit.Set(f, "cmj", "", 30)
		f.Competitions = []athlete.Competition{{Date: civil.MustParse("2026-12-09"), Name: "Harbour Cup", Peak: true}}
		return f
	}},
	{"plays a Saturday through", func() *athlete.File {
		f := testkit.Sound()
		testkit.Set(f, "cmj", "", 30)
		f.Competitions = []athlete.Competition{{Date: civil.MustParse("2026-12-12"), Name: "Medal"}}
		return f
	}},
	{"plays every second Saturday", func() *athlete.File {
		f := testkit.Weak()
		f.Athlete.TrainingMonths = 18
		for _, d := range []string{"2026-11-21", "2026-12-05", "2026-12-19", "2027-01-02"} {
			f.Competitions = append(f.Competitions, athlete.Competition{Date: civil.MustParse(d), Name: "Medal"})
		}
		return f
	}},
	{"a weaker lead hand", func() *athlete.File {
		f := testkit.Sound()
		testkit.Set(f, "grip", "lead", 40)
		testkit.Set(f, "grip", "trail", 52)
		return f
	}},
}

func page(r *plan.Result) string {
	var b strings.Builder
	fmt.Fprintln(&b, r.Read.Headline)
	for _, a := range r.Answer {
		met := "met"
		if !a.Met {
			met = "NOT MET: " + a.Held
		}
		fmt.Fprintf(&b, "  %-17s %-5s wanted %g to %g %s, given %v, %v%% of the minutes, %s\n", a.Name, a.Level, a.DoseWanted, a.DoseHigh, a.UnitWords, a.DosePerWeek, a.SharePerWeek, met)
	}
	for _, u := range r.Unanswered {
		fmt.Fprintf(&b, "  unanswered: %s %s\n", u.Finding, u.Why)
	}
	for _, w := range r.Programme.Blocks[0].Weeks {
		fmt.Fprintf(&b, "Week %d (%s)\n", w.Number, w.Kind)
		for _, s := range w.Sessions {
			fmt.Fprintf(&b, "  %s %s, %.0f of %d min: %s\n", s.Date.Words(), s.Letter, s.Minutes, s.Budget, s.Title)
			for _, it := range s.Items {
				fmt.Fprintf(&b, "    %s: %s %s\n", it.Name, it.DoseText, it.LoadText)
			}
		}
		for _, h := range w.Home {
			var x []string
			for _, it := range h.Items {
				x = append(x, it.Name+" "+it.DoseText)
			}
			fmt.Fprintf(&b, "  home %s: %s\n", h.Date.Words(), strings.Join(x, "; "))
		}
	}
	for _, n := range r.Programme.Notes {
		fmt.Fprintln(&b, "note:", n)
	}
	return b.String()
}

// Each story's plan is a golden page, read line by line as their coach; UPDATE=1
// writes them anew.
func TestStories(t *testing.T) {
	told := slices.Concat(stories, later)
	for _, s := range told {
		r := generate(t, s.file())
		got := page(r)
		path := "testdata/" + strings.NewReplacer(" ", "-", ",", "").Replace(s.name) + ".txt"
		if os.Getenv("UPDATE") != "" {
			require.NoError(t, os.MkdirAll("testdata", 0o755))
			require.NoError(t, os.WriteFile(path, []byte(got), 0o600))
		}
		want, err := os.ReadFile(path)
		require.NoError(t, err)
		assert.Equal(t, string(want), got, s.name)
		for _, res := range r.Rules {
			if res.Status == rulebook.Broken && res.Severity != rulebook.Advice && res.Rule != "CLEAR" {
				t.Errorf("%s: %s at %s: %s", s.name, res.Rule, res.Where, res.Text)
			}
		}
	}
}

var _ = library.Shipped
