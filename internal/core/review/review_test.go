package review_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dunnock/internal/core/athlete"
	"dunnock/internal/core/measure"
	"dunnock/internal/core/programme"
	"dunnock/internal/core/quality"
	"dunnock/internal/core/reliability"
	"dunnock/internal/core/review"
	"dunnock/internal/core/school"
	"dunnock/internal/core/testkit"
)

func schoolOf(id string) *school.School {
	s, err := school.Shipped().Find(id)
	if err != nil {
		s, _ = school.Shipped().Find(school.Default)
	}
	return s.At(0)
}

// jumper is a golfer whose jump was so high before a block of so many weeks, and is after it;
// the block led vertical power.
func jumper(weeks int, before, after float64) (*athlete.File, []review.Block) {
	f := testkit.Strong()
	first := testkit.Day.Add(-7 * weeks)
	jump := func(cm float64) []measure.Trial { return testkit.Trials(f.Athlete, "cmj", "", cm, cm, cm) }
	mass := testkit.Trials(f.Athlete, "mass", "", 82)
	f.Screens = []athlete.Screen{
		{Date: first.Add(-2), Trials: append(jump(before), mass...)},
		{Date: testkit.Day, Trials: append(jump(after), mass...)},
	}
	doc := &programme.Programme{Head: programme.Head{School: school.Default, Asked: []programme.Asked{{Quality: quality.VerticalPower, Level: "lead"}}}}
	doc.Blocks = []programme.Block{{Weeks: make([]programme.Week, weeks)}}
	return f, []review.Block{{Version: 1, First: first, Last: testkit.Day, Doc: doc}}
}

// The jump's typical error is 1.5 cm and its target 40 ± 7 cm for this man (measure: tests):
// better by 1.96·√2·1.5 = 4.2 cm is real, under √2·1.5 = 2.1 cm within the error.
func TestWhatBecomesOfAQuality(t *testing.T) {
	for name, x := range map[string]struct {
		weeks         int
		before, after float64
		verdict       reliability.Verdict
		decision      review.Decision
	}{
		"really better, still short": {4, 26, 31, reliability.Real, review.Progress},
		"perhaps better":             {4, 26, 29, reliability.Unclear, review.Keep},
		"not moved":                  {4, 26, 26.5, reliability.WithinError, review.UpperEnd},
		"really worse":               {4, 32, 26, reliability.Real, review.Again},
		"met":                        {4, 30, 50, reliability.Real, review.Switch},
		"too short a block":          {2, 26, 31, reliability.Real, review.Wait},
	} {
		t.Run(name, func(t *testing.T) {
			f, blocks := jumper(x.weeks, x.before, x.after)
			list := review.Of(f, blocks, schoolOf)
			require.Len(t, list, 1)
			j := list[0].Find(quality.VerticalPower)
			require.NotNil(t, j)
			assert.Equal(t, []any{x.verdict, x.decision}, []any{j.Verdict, j.Decision}, "%+v", j)
			assert.NotEmpty(t, j.Words)
			assert.NotEmpty(t, j.Tests)
			assert.Equal(t, list[0].Judged[0].Quality, quality.VerticalPower, "what led stands first")
		})
	}
}

// A second block that does not move it switches the emphasis; a second fall asks for the
// cause.
func TestTheSecondTimeCounts(t *testing.T) {
	f, blocks := jumper(4, 26, 26.4)
	more := func(cm float64) (*athlete.File, []review.Block) {
		later := *f
		later.Screens = append(append([]athlete.Screen{}, f.Screens...), athlete.Screen{Date: testkit.Day.Add(28), Trials: append(testkit.Trials(f.Athlete, "cmj", "", cm, cm, cm), testkit.Trials(f.Athlete, "mass", "", 82)...)})
		later.AsOf = testkit.Day.Add(28)
		second := blocks[0]
		second.Version, second.First, second.Last = 2, testkit.Day.Add(1), testkit.Day.Add(28)
		return &later, []review.Block{blocks[0], second}
	}
	g, two := more(26.2)
	list := review.Of(g, two, schoolOf)
	require.Len(t, list, 2)
	assert.Equal(t, []review.Decision{review.UpperEnd, review.Switch}, []review.Decision{list[0].Find(quality.VerticalPower).Decision, list[1].Find(quality.VerticalPower).Decision})
	assert.Contains(t, list[1].Find(quality.VerticalPower).Words, "second time")

	f, blocks = jumper(4, 36, 31)
	g, two = more(26)
	list = review.Of(g, two, schoolOf)
	require.Len(t, list, 2)
	assert.Equal(t, review.AskCause, list[1].Find(quality.VerticalPower).Decision)
}

func TestWhatWasNotTestedTwiceIsNotJudged(t *testing.T) {
	f, blocks := jumper(4, 26, 31)
	list := review.Of(f, blocks, schoolOf)
	assert.Equal(t, review.Untested, list[0].Find(quality.Mobility).Decision)
	f.Screens = f.Screens[1:]
	assert.Empty(t, review.Of(f, blocks, schoolOf), "without a screen before it nothing is judged")
	assert.Nil(t, (*review.Retest)(nil).Find(quality.Grip))
}

// Under three quarters of the leader's dose done (handbook, season and emphasis): not judged,
// and repeated once.
func TestTooLittleDoneIsNotJudged(t *testing.T) {
	f, blocks := jumper(4, 26, 26.4)
	blocks[0].Done = map[string]float64{quality.VerticalPower: 0.6}
	list := review.Of(f, blocks, schoolOf)
	j := list[0].Find(quality.VerticalPower)
	assert.Equal(t, review.TooLittle, j.Decision)
	assert.Contains(t, j.Words, "60%")
	assert.Empty(t, list[0].Notes, "it is logged")
	blocks[0].Done[quality.VerticalPower] = 0.8
	assert.Equal(t, review.UpperEnd, review.Of(f, blocks, schoolOf)[0].Find(quality.VerticalPower).Decision)
}
