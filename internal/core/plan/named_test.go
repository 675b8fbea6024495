package plan_test

import (
	"math/rand/v2"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dunnock/internal/core/athlete"
	"dunnock/internal/core/force"
	"dunnock/internal/core/jump"
	"dunnock/internal/core/library"
	"dunnock/internal/core/method"
	"dunnock/internal/core/plan"
	"dunnock/internal/core/programme"
	"dunnock/internal/core/rulebook"
	"dunnock/internal/core/swing"
	"dunnock/internal/core/testkit"
)

// windows are the shipped ones by key, of swings first.
func windows() []force.Window { return append(swing.Windows(), jump.Windows()...) }

// found is a golfer whose recordings found one thing.
func found(key string, low bool, weaker string) *athlete.File {
	f := testkit.Sound()
	f.ForceFindings = []athlete.ForceFinding{{Key: key, On: f.AsOf.Add(-7), Sentence: "Found: " + key + ".", Low: low, Weaker: weaker}}
	return f
}

// answering are the exercises of a plan whose reasons say that they answer a finding.
func answering(r *plan.Result, key string) (ids []string) {
	r.Doc.EachItem(func(it *programme.Item) {
		if strings.Contains(it.Reason.Text, "Found: "+key+".") && !slices.Contains(ids, it.Exercise) {
			ids = append(ids, it.Exercise)
		}
	})
	return ids
}

func TestFileAndWindowsNameTheSameNumbers(t *testing.T) {
	var keys []string
	for _, w := range windows() {
		keys = append(keys, w.Key)
	}
	assert.Equal(t, athlete.ForceKeys(), keys)
}

// Whatever a recording finds that can be trained is answered by an exercise of the
// plan, and its reason says so (handbook 11, force findings).
func TestFindingsOfRecordingsAreAnsweredByName(t *testing.T) {
	for _, w := range windows() {
		for _, low := range []bool{true, false} {
			if low && w.Below == "" && !w.Instructor || !low && w.Above == "" && !w.Instructor {
				continue // more of it is no finding
			}
			r := generate(t, found(w.Key, low, ""))
			assert.NotEmpty(t, answering(r, w.Key), "%s, low %v", w.Key, low)
			assert.Empty(t, r.Unanswered, "%s, low %v", w.Key, low)
		}
	}
}

func TestWhatAnswersAFindingIsWhatTheTradeSays(t *testing.T) {
	is := func(pattern string) func(*library.Exercise) bool {
		return func(e *library.Exercise) bool { return e.Pattern == pattern }
	}
	for key, want := range map[string]func(*library.Exercise) bool{
		"lateral": is("jump-lateral"), "vertical": is("jump-vertical"), "unweighting": is("jump-vertical"),
		"rotational": func(e *library.Exercise) bool { return e.Sides == library.Directional },
	} {
		for _, id := range answering(generate(t, found(key, true, "")), key) {
			e, _ := library.Shipped().Find(id)
			assert.True(t, want(e), "%s: %s", key, id)
		}
	}
}

// Feet that push unlike get a lift and a landing on one leg, the weaker side first and
// more of it, for two blocks; a side that hurts gets no more.
func TestFeetThatPushUnlike(t *testing.T) {
	f := found("side-difference", false, "trail")
	r := generate(t, f)
	var patterns []string
	r.Doc.EachItem(func(it *programme.Item) {
		if it.Dose.Weaker == "" {
			return
		}
		e, _ := library.Shipped().Find(it.Exercise)
		assert.Equal(t, "trail", it.Dose.Weaker)
		assert.Contains(t, it.Reason.Text, "The trail side goes first and gets more")
		if e.Pattern == "one-leg-lift" {
			patterns = append(patterns, "lift")
		} else if e.DoseUnit == library.Contacts {
			patterns = append(patterns, "landing")
		}
	})
	assert.Contains(t, patterns, "lift")
	assert.Contains(t, patterns, "landing")
	assert.Equal(t, "trail", r.Doc.Weaker["side-difference"])

	second := next(t, f, r)
	assert.Equal(t, "trail", second.Doc.Weaker["side-difference"])
	f.StartDate = f.StartDate.Add(28)
	third := next(t, f, &plan.Result{Doc: second.Doc}).Doc
	assert.Empty(t, third.Weaker, "after two blocks it is taken as it is")
	assert.Contains(t, strings.Join(third.Notes, " "), "taken as it is")

	f.Screens[0].Trials[0].Pain, f.Screens[0].Trials[0].Region, f.Screens[0].Trials[0].Side = 2, "knee", "trail"
	assert.Empty(t, generate(t, f).Doc.Weaker, "a side that has hurt gets no more")
}

func TestWhatTheSwingDecidesGoesToTheInstructor(t *testing.T) {
	f := found("rotational-time", true, "")
	f.ForceFindings[0].Instructor = true
	assert.Contains(t, strings.Join(generate(t, f).Doc.Notes, " "), "instructor's page")
	f.ForceFindings[0].On = f.AsOf.Add(-85)
	r := generate(t, f)
	assert.Contains(t, strings.Join(r.Doc.Notes, " "), "Record anew")
	assert.Empty(t, answering(r, "rotational-time"), "older than twelve weeks")
}

func TestAFindingThatMayNotBeAnsweredSaysWhy(t *testing.T) {
	f := found("vertical", true, "")
	f.Limits = []athlete.Limit{{Region: "knee", Kind: athlete.NoImpact, SetBy: "doctor"}}
	r := generate(t, f)
	require.NotEmpty(t, r.Unanswered)
	last := r.Unanswered[len(r.Unanswered)-1]
	assert.Equal(t, "Found: vertical.", last.Finding)
	assert.Contains(t, last.Why, "CONTRA")
}

// No finding makes a plan that breaks a rule, and each is answered or said not to be.
func TestFindingsBreakNoRule(t *testing.T) {
	n := 300
	if testing.Short() {
		n = 60
	}
	r := rand.New(rand.NewPCG(12, 1))
	for i := range n {
		f := testkit.Random(r)
		for _, w := range windows() {
			if r.IntN(4) == 0 {
				f.ForceFindings = append(f.ForceFindings, athlete.ForceFinding{
					Key: w.Key, On: f.AsOf, Sentence: "Found: " + w.Key + ".", Low: r.IntN(2) == 0,
					Weaker: []string{"", "lead", "trail"}[r.IntN(3)], Instructor: w.Instructor,
				})
			}
		}
		got, err := plan.Generate(f, method.Shipped(), "t")
		if err != nil {
			continue // refused: a red flag, or under 13
		}
		for _, res := range got.Rules {
			if res.Status == rulebook.Broken && res.Severity != rulebook.Advice {
				t.Errorf("golfer %d: %s at %s: %s", i, res.Rule, res.Where, res.Text)
			}
		}
	}
}
