package plan_test

import (
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dunnock/internal/core/athlete"
	"dunnock/internal/core/civil"
	"dunnock/internal/core/plan"
	"dunnock/internal/core/programme"
	"dunnock/internal/core/rulebook"
	"dunnock/internal/core/season"
	"dunnock/internal/core/testkit"
)

// seasonOf lays out a golfer's season while a block is running that began on the Monday of
// the given week.
func seasonOf(t *testing.T, change func(*athlete.File)) *season.Season {
	t.Helper()
	f := testkit.Strong()
	f.Competitions = []athlete.Competition{{Date: civil.MustParse("2027-03-20"), Name: "Spring salver", Peak: true, Main: true}}
	_, j := draft(t, f)
	change(f)
	b, _ := draft(t, f)
	s, list, err := b.Season(plan.IssuedBlock{Doc: j.Doc})
	require.NoError(t, err)
	require.Len(t, list, len(s.Blocks))
	assert.True(t, s.Blocks[0].Begun)
	assert.NotEmpty(t, list[0].Leads, "what is running is for what it was made for")
	return s
}

func TestTheBlockThatIsRunningStays(t *testing.T) {
	s := seasonOf(t, func(*athlete.File) {})
	assert.Equal(t, civil.MustParse("2026-11-30"), s.Blocks[0].Start)
	moved := seasonOf(t, func(f *athlete.File) { f.Competitions[0].Date = civil.MustParse("2027-03-06") })
	assert.Equal(t, s.Blocks[0], moved.Blocks[0])
	assert.NotEqual(t, s.Blocks, moved.Blocks)
}

func TestAnInjuryInTheMiddleReplansFromThere(t *testing.T) {
	s := seasonOf(t, func(f *athlete.File) {
		f.Away = []athlete.Away{{From: civil.MustParse("2026-12-14"), To: civil.MustParse("2026-12-27"), Why: "hurt"}}
	})
	assert.Equal(t, 2, s.Blocks[0].Weeks(), "what was trained before it stays")
	assert.Equal(t, season.Break, s.Blocks[1].Kind)
	assert.Equal(t, civil.MustParse("2026-12-28"), s.Blocks[2].Start)
	assert.Equal(t, season.RisingRow(1), s.Blocks[2].Rows[0], "two weeks off: the next block starts at week 1")
	trains := seasonOf(t, func(f *athlete.File) {
		f.Away = []athlete.Away{{From: civil.MustParse("2026-12-14"), To: civil.MustParse("2026-12-27"), Trains: true}}
	})
	assert.Equal(t, 4, trains.Blocks[0].Weeks(), "who trains there loses nothing")
}

func TestWhatTheCoachSetStays(t *testing.T) {
	s := seasonOf(t, func(f *athlete.File) {
		f.Locks = []athlete.BlockLock{{Start: civil.MustParse("2026-12-28"), Weeks: 5}}
	})
	assert.True(t, s.Blocks[1].Locked)
	assert.Equal(t, 5, s.Blocks[1].Weeks())
	in := seasonOf(t, func(f *athlete.File) {
		f.Locks = []athlete.BlockLock{{Start: civil.MustParse("2027-03-08"), Weeks: 4}}
	})
	assert.Contains(t, strings.Join(in.Notes, "\n"), "held by your lock")
	to := seasonOf(t, func(f *athlete.File) {
		f.Locks = []athlete.BlockLock{{Start: civil.MustParse("2027-03-01"), Weeks: 3}}
	})
	last := to.Blocks[len(to.Blocks)-2]
	assert.Equal(t, "Spring salver", last.Peak.Name, "a block that is set leads up to the event it ends in")
}

// A season that was taken on is kept as far as dates allow, and what they change is said.
func TestWhatChangesOfASeasonThatIsKept(t *testing.T) {
	kept := seasonOf(t, func(*athlete.File) {})
	same := seasonOf(t, func(f *athlete.File) { f.Kept = kept })
	assert.Equal(t, kept.Blocks, same.Blocks)
	assert.Empty(t, same.Changes(kept, testkit.Day))
	assert.Empty(t, same.Changes(nil, testkit.Day))
	moved := seasonOf(t, func(f *athlete.File) {
		f.Kept = kept
		f.Competitions[0].Date = civil.MustParse("2027-04-03")
	})
	changes := moved.Changes(kept, testkit.Day)
	require.NotEmpty(t, changes)
	for _, c := range changes {
		assert.NotRegexp(t, `\d{4}-\d{2}`, c)
	}
	assert.Equal(t, kept.Blocks[1], moved.Blocks[1], "the smallest change: what is far from it stays")
}

func TestACompetitionOfSeveralDays(t *testing.T) {
	cup := athlete.Competition{Date: civil.MustParse("2026-12-12"), Last: civil.MustParse("2026-12-14"), Name: "Cup", Peak: true}
	days := athlete.DaysOfPlay([]athlete.Competition{cup})
	require.Len(t, days, 3)
	assert.Equal(t, []bool{true, false, false}, []bool{days[0].Peak, days[1].Peak, days[2].Peak})
	assert.Equal(t, "Cup, day 3", days[2].Name)
	f := testkit.Strong()
	f.Competitions = []athlete.Competition{cup}
	_, j := draft(t, f)
	for _, w := range j.View.Blocks[0].Weeks {
		for _, s := range w.Sessions {
			assert.False(t, !s.Date.Before(cup.Date) && !s.Date.After(cup.Last), "no session on a day of play: %s", s.Date)
		}
	}
}

// What is issued ahead stays too: the season goes on behind it.
func TestWhatIsIssuedAheadStays(t *testing.T) {
	f := testkit.Strong()
	b, first := draft(t, f)
	later := *f
	later.StartDate = f.StartDate.Add(28)
	nb, err := plan.BasisOf(&later, b.Method())
	require.NoError(t, err)
	second, err := nb.After(first.Doc).Generate("n")
	require.NoError(t, err)
	s, list, err := b.Season(plan.IssuedBlock{Doc: first.Doc, Until: second.Doc.StartDate}, plan.IssuedBlock{Doc: second.Doc})
	require.NoError(t, err)
	assert.Equal(t, []bool{true, true, false}, []bool{s.Blocks[0].Begun, s.Blocks[1].Begun, s.Blocks[2].Begun})
	assert.Equal(t, second.Doc.StartDate, s.Blocks[1].Start)
	assert.Equal(t, "It is issued: it stays as it is.", list[1].Why)
	// One that stands instead from its third week on cuts the one before it short.
	cut, _, err := b.Season(plan.IssuedBlock{Doc: first.Doc, Until: first.Doc.StartDate.Add(14)})
	require.NoError(t, err)
	assert.Equal(t, 2, cut.Blocks[0].Weeks())
}

// One lost week: among the last two it is the easier week, and the other repeats the last
// that rose; else what it was to hold is done the week behind it. Exactly as the season has
// it.
func TestALostWeekInTheDraft(t *testing.T) {
	for lost, want := range map[int][]string{
		1: {"1", "lost", "2", "easier"}, 2: {"1", "2", "lost", "2"}, 3: {"1", "2", "2", "lost"},
	} {
		f := testkit.Strong()
		f.Competitions = nil
		from := f.StartDate.Add(7 * lost)
		f.Away = []athlete.Away{{From: from, To: from.Add(6)}}
		b, j := draft(t, f)
		s, _, err := b.Season()
		require.NoError(t, err)
		rows := []string{}
		for _, r := range s.Blocks[0].Rows {
			rows = append(rows, string(r))
		}
		require.Equal(t, want, rows)
		weeks := j.Doc.Blocks[0].Weeks
		require.Len(t, weeks, 4)
		for i, r := range want {
			switch r {
			case "lost":
				assert.Empty(t, weeks[i].Sessions)
			case "easier":
				assert.Equal(t, programme.Easier, weeks[i].Kind)
			default:
				assert.Equal(t, programme.Rising, weeks[i].Kind)
				assert.Equal(t, r, fmt.Sprint(weeks[i].Step))
			}
		}
		sets := func(w int) (n int) {
			for _, x := range weeks[w].Sessions {
				for _, it := range x.Items {
					n += it.Dose.Sets
				}
			}
			return n
		}
		if lost >= 2 {
			other := 5 - lost
			assert.Equal(t, sets(1), sets(other), "the other repeats the last that rose")
			sessions := weeks[other].Sessions
			assert.Equal(t, sessions[len(sessions)-1].Date, weeks[3].Retest.Date, "the retest stands at its end")
		}
		for _, x := range j.Rules {
			assert.False(t, x.Status == rulebook.Broken && x.Severity != rulebook.Advice, "lost %d: %s at %s: %s", lost, x.Rule, x.Place, x.Text)
		}
	}
}
