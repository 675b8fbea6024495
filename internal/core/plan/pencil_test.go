package plan_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dunnock/internal/core/athlete"
	"dunnock/internal/core/method"
	"dunnock/internal/core/plan"
	"dunnock/internal/core/programme"
	"dunnock/internal/core/season"
	"dunnock/internal/core/testkit"
)

// weakLegs is a golfer whose jump and turning throw lie clearly below target, with a cup on
// the Saturday of a week, from 0.
func weakLegs(week int) *athlete.File {
	f := testkit.Sound()
	testkit.Set(f, "cmj", "", 26)
	testkit.Set(f, "rotary-throw", "toward", 5.5)
	testkit.Set(f, "rotary-throw", "away", 5.5)
	f.Training.Days, f.Training.Sessions = []string{"mon", "wed", "fri"}, 3
	f.StartDate = testkit.Day.Monday().Add(7)
	f.Competitions = []athlete.Competition{{Name: "Cup", Date: f.StartDate.Add(7*week + 5), Peak: true}}
	return f
}

func pencilled(t *testing.T, f *athlete.File) (*season.Season, []plan.Pencilled) {
	t.Helper()
	b, err := plan.BasisOf(f, method.Shipped())
	require.NoError(t, err)
	s, list, err := b.Season()
	require.NoError(t, err)
	require.Len(t, list, len(s.Blocks))
	return s, list
}

// The first block is the read's; a leader has at most two blocks in a row and then makes room,
// nobody leads in a transition, and every block says why.
func TestLaterBlocksArePencilled(t *testing.T) {
	_, list := pencilled(t, weakLegs(15))
	require.Len(t, list, 5)
	b, err := plan.BasisOf(weakLegs(15), method.Shipped())
	require.NoError(t, err)
	require.NotEmpty(t, b.Read.Leaders)
	assert.NotEmpty(t, list[0].Leads)
	assert.NotEqual(t, list[0].Leads, list[2].Leads, "not three blocks in a row")
	assert.Empty(t, list[4].Leads)
	assert.Contains(t, list[4].Why, "Rest from planning")
	for _, p := range list {
		assert.NotEmpty(t, p.Why)
		assert.Equal(t, "Measured gap", p.School)
	}
	assert.Contains(t, strings.Join(list[0].Wanted, " "), "a week")
}

// The draft is as long as the season leaves its block: six weeks before a cup are 3 and 3.
func TestTheFirstBlockIsWorkedBackwards(t *testing.T) {
	for week, want := range map[int]int{5: 3, 7: 4, 9: 4} {
		f := weakLegs(week)
		r := generate(t, f)
		assert.Len(t, r.Programme.Blocks[0].Weeks, want, "a cup in week %d", week+1)
		s, _ := pencilled(t, f)
		assert.Equal(t, s.Blocks[0].Weeks(), want)
		last := r.Programme.Blocks[0].Weeks[want-1]
		assert.Equal(t, programme.Easier, last.Kind)
		require.NotNil(t, last.Retest)
	}
	assert.Contains(t, strings.Join(generate(t, weakLegs(5)).Programme.Notes, " "), "worked backwards from Cup")
}

// Layers follow each other in the pencilled season too.
func TestLayersArePencilled(t *testing.T) {
	f := weakLegs(20)
	f.School = "layer-on-layer"
	testkit.Set(f, "trap-bar-lift", "", 60)
	_, list := pencilled(t, f)
	for i, p := range list[:3] {
		for _, q := range p.Leads {
			switch i {
			case 0:
				assert.NotContains(t, []string{"vertical power", "rotational power"}, q, "control comes first")
			case 2:
				assert.Contains(t, []string{"vertical power", "horizontal power", "rotational power", "stretch use", "ground force"}, q)
			}
		}
	}
}

// Two rounds a week put a block in season as close events do, in the season and in what is
// drafted; one round does not. The last day that is planned for ends the season.
func TestRoundsMakeASeason(t *testing.T) {
	for rounds, want := range map[int]season.Phase{1: season.OffSeason, 2: season.InSeason} {
		f := weakLegs(11)
		f.Competitions = nil
		f.Playing = []athlete.Playing{{From: f.StartDate, To: f.StartDate.Add(34), Rounds: rounds}}
		f.SeasonEnd = f.StartDate.Add(7*9 - 1)
		s, list := pencilled(t, f)
		assert.Equal(t, f.SeasonEnd, s.End)
		assert.Equal(t, want, list[0].Phase, "%d rounds", rounds)
		assert.Equal(t, season.OffSeason, list[len(list)-1].Phase, "behind the rounds")
		r, err := plan.Generate(f, method.Shipped(), "t")
		require.NoError(t, err)
		in := r.Doc.Blocks[0].Phase == programme.InSeason
		assert.Equal(t, want == season.InSeason, in, "%d rounds", rounds)
		assert.Equal(t, in, strings.Contains(strings.Join(r.Doc.Notes, " "), "2 rounds a week and more are played"))
		assert.Equal(t, in, len(list[0].Leads) == 0)
	}
	f := weakLegs(11)
	f.SeasonEnd = f.StartDate.Add(-1)
	s, _ := pencilled(t, f)
	assert.Equal(t, f.StartDate.Add(7*14-1), s.End, "one that is over says nothing")
}

func BenchmarkSeason(b *testing.B) {
	for name, weeks := range map[string]int{"12 weeks": 9, "52 weeks": 49} {
		b.Run(name, func(b *testing.B) {
			f := weakLegs(weeks)
			for b.Loop() {
				basis, err := plan.BasisOf(f, method.Shipped())
				if err != nil {
					b.Fatal(err)
				}
				if _, _, err = basis.Season(); err != nil {
					b.Fatal(err)
				}
				if _, err = basis.Generate("t"); err != nil {
					b.Fatal(err)
				}
			}
		})
	}
}

// What is drafted is as long as the first block of the season, whatever cuts it: an event,
// the last day that is planned for, days away.
func TestADraftIsAsLongAsTheSeasonLeaves(t *testing.T) {
	for name, change := range map[string]func(*athlete.File){
		"is worked backwards from Cup": func(f *athlete.File) { f.Competitions = weakLegs(5).Competitions },
		"is planned to":                func(f *athlete.File) { f.SeasonEnd = f.StartDate.Add(13) },
		"nothing can be trained from": func(f *athlete.File) {
			f.Away = []athlete.Away{{From: f.StartDate.Add(14), To: f.StartDate.Add(34)}}
		},
	} {
		f := weakLegs(11)
		f.Competitions = nil
		change(f)
		_, list := pencilled(t, f)
		r, err := plan.Generate(f, method.Shipped(), "t")
		require.NoError(t, err)
		require.NotEqual(t, 4, list[0].Weeks(), name)
		assert.Len(t, r.Doc.Blocks[0].Weeks, list[0].Weeks(), name)
		assert.Contains(t, strings.Join(r.Doc.Notes, " "), name)
		assert.Equal(t, programme.Easier, r.Doc.Blocks[0].Weeks[list[0].Weeks()-1].Kind, name)
	}
}
