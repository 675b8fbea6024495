package season_test

import (
	"fmt"
	"math/rand/v2"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dunnock/internal/core/civil"
	"dunnock/internal/core/season"
)

// monday is the first day of the seasons here.
var monday = civil.MustParse("2026-11-30")

var days = []int{0, 2, 4}

// peakIn is an event to peak for on the Saturday of a week, from 0.
func peakIn(week int) season.Event {
	d := monday.Add(7*week + 5)
	return season.Event{Name: fmt.Sprintf("Cup %d", week), First: d, Last: d.Add(1), Peak: true}
}

// words writes a season as its blocks: length, p for one that holds a taper, or its kind.
func words(s *season.Season) string {
	var out []string
	for i := range s.Blocks {
		b := &s.Blocks[i]
		switch {
		case b.Kind == season.Training && b.Peak != nil:
			out = append(out, fmt.Sprintf("%dp", b.Weeks()))
		case b.Kind == season.Training:
			out = append(out, fmt.Sprint(b.Weeks()))
		default:
			out = append(out, fmt.Sprintf("%s %d", b.Kind, b.Weeks()))
		}
	}
	return strings.Join(out, ", ")
}

func made(t *testing.T, f season.Facts) *season.Season {
	t.Helper()
	if f.Days == nil {
		f.Days = days
	}
	if f.Start.IsZero() {
		f.Start = monday
	}
	s, err := season.Plan(f)
	require.NoError(t, err)
	return s
}

func to(weeks int) civil.Date { return monday.Add(7*weeks - 1) }

// Stretches of L weeks, to a break, lock or end, and to a peak (handbook: season, blocks).
func TestStretchesAreCutByTheTable(t *testing.T) {
	for weeks, want := range map[int]string{
		1: "1", 2: "2", 3: "3", 4: "4", 5: "3, 2", 6: "3, 3", 7: "4, 3", 8: "4, 4", 9: "4, 3, 2", 10: "4, 3, 3", 11: "4, 4, 3", 12: "4, 4, 4", 13: "4, 4, 3, 2",
	} {
		assert.Equal(t, want, words(made(t, season.Facts{End: to(weeks)})), "%d weeks", weeks)
	}
	for weeks, want := range map[int]string{
		1: "event 1", 2: "2p", 3: "3p", 4: "4p", 5: "5p", 6: "3, 3p", 7: "3, 4p", 8: "4, 4p", 9: "4, 5p", 10: "4, 3, 3p", 11: "4, 3, 4p", 12: "4, 4, 4p", 16: "4, 4, 4, 4p",
	} {
		s := made(t, season.Facts{Events: []season.Event{peakIn(weeks - 1)}})
		assert.Equal(t, want+", transition 2", words(s), "%d weeks to a peak", weeks)
	}
}

// Two peaks, g weeks from close to close (handbook: 2 and 4 a bridge; 6: 1, 5p; 8: 1, 3, 4p;
// 12: 1, 4, 3, 4p).
func TestTwoPeaks(t *testing.T) {
	for g, want := range map[int]string{
		1: "hold 1", 2: "bridge 2", 4: "bridge 4", 5: "bridge 5", 6: "after 1, 5p", 8: "after 1, 3, 4p", 12: "after 1, 4, 3, 4p",
	} {
		s := made(t, season.Facts{Events: []season.Event{peakIn(3), peakIn(3 + g)}})
		assert.Equal(t, "4p, "+want+", transition 2", words(s), "%d weeks apart", g)
	}
	// In the same week they are one peak, and that is said.
	s := made(t, season.Facts{Events: []season.Event{peakIn(3), {Name: "Match", First: monday.Add(7*4 + 1), Last: monday.Add(7*4 + 1), Peak: true}}})
	assert.Equal(t, "4p, transition 2", words(s))
	assert.Contains(t, strings.Join(s.Notes, " "), "one peak")
	s = made(t, season.Facts{Events: []season.Event{peakIn(3), peakIn(6), peakIn(9)}})
	assert.Contains(t, strings.Join(s.Notes, " "), "play one of Cup 6 and Cup 9 through")
}

func rowsOf(b *season.Block) string {
	var out []string
	for _, r := range b.Rows {
		out = append(out, string(r))
	}
	return strings.Join(out, " ")
}

// Rows of blocks, and of blocks with a lost week: its dates stay (handbook: interruptions).
func TestALostWeekIsTheEasierOneOrRepeats(t *testing.T) {
	for lost, want := range map[int]string{-1: "1 2 3 easier", 0: "lost 1 2 easier", 1: "1 lost 2 easier", 2: "1 2 lost 2", 3: "1 2 2 lost"} {
		f := season.Facts{End: to(4)}
		if lost >= 0 {
			f.Off = []season.Span{{From: monday.Add(7 * lost), To: monday.Add(7*lost + 6)}}
			if lost == 0 {
				f.Off[0].From = monday.Add(-1)
			}
		}
		s := made(t, f)
		require.Len(t, s.Blocks, 1, "%d", lost)
		assert.Equal(t, want, rowsOf(&s.Blocks[0]), "week %d lost", lost)
	}
	s := made(t, season.Facts{Events: []season.Event{peakIn(4)}, Off: []season.Span{{From: monday.Add(7), To: monday.Add(13)}}})
	assert.Equal(t, "1 lost 2 taper taper", rowsOf(&s.Blocks[0]))
	// Half the sessions have a day: the week is not lost; a peak's last two weeks never are.
	s = made(t, season.Facts{End: to(4), Off: []season.Span{{From: monday.Add(7), To: monday.Add(8)}}})
	assert.Equal(t, "1 2 3 easier", rowsOf(&s.Blocks[0]))
	s = made(t, season.Facts{Events: []season.Event{peakIn(3)}, Off: []season.Span{{From: monday.Add(14), To: monday.Add(20)}}})
	assert.Equal(t, "1 2 taper taper", rowsOf(&s.Blocks[0]))
}

// Two lost weeks are a break: the stretch before is cut anew, tested before leaving; from
// three weeks the way back has a block of its own.
func TestBreaks(t *testing.T) {
	off := func(from, weeks int) []season.Span {
		return []season.Span{{From: monday.Add(7 * from), To: monday.Add(7*(from+weeks) - 1)}}
	}
	assert.Equal(t, "3, 3, break 2, 4", words(made(t, season.Facts{End: to(12), Off: off(6, 2)})))
	assert.Equal(t, "4, break 3, return 2, 3", words(made(t, season.Facts{End: to(12), Off: off(4, 3)})))
	s := made(t, season.Facts{End: to(26), Off: off(4, 9)})
	assert.Equal(t, "4, break 9, return 3, 4, 3, 3", words(s))
	assert.Equal(t, monday.Add(7*4-3), s.Blocks[0].Retest, "on the Friday before leaving")
}

func TestLeadInAndPhases(t *testing.T) {
	s := made(t, season.Facts{Start: monday.Add(-3), Events: []season.Event{peakIn(15)}})
	assert.Equal(t, "lead-in 1, 4, 4, 4, 4p, transition 2", words(s))
	var phases []string
	for _, b := range s.Blocks {
		phases = append(phases, string(b.Phase))
	}
	assert.Equal(t, []string{"off-season", "off-season", "off-season", "pre-season", "pre-season", "transition"}, phases, "a block that begins at most 63 days before a taper: the second is 68")
	f := season.Facts{Start: monday, Days: days, Events: []season.Event{peakIn(15)}}
	assert.Equal(t, season.Taper, s.PhaseOf(peakIn(15).First.Add(-14), &f))
	assert.Equal(t, season.PreSeason, s.PhaseOf(peakIn(15).First.Add(-15), &f))
	// Between competitions that follow each other it is the season; a taper never runs over an
	// earlier event or its morrow.
	played := season.Event{Name: "Medal", First: monday.Add(7*13 + 5), Last: monday.Add(7*13 + 5)}
	f.Events = append(f.Events, played)
	s = made(t, f)
	assert.Equal(t, season.InSeason, s.PhaseOf(played.First.Add(1), &f))
	assert.Equal(t, season.Taper, s.PhaseOf(played.First.Add(2), &f))
}

func TestRetests(t *testing.T) {
	s := made(t, season.Facts{Events: []season.Event{peakIn(7)}})
	assert.Equal(t, monday.Add(7*4-3), s.Blocks[0].Retest, "the last session day of the easier week")
	assert.Equal(t, peakIn(7).Last.Add(3), s.Blocks[1].Retest, "from the third day behind the event, a Wednesday")
	assert.True(t, s.Blocks[2].Retest.IsZero())
}

// A moved date changes as little as it can: what has begun stays, and blocks far enough from
// the peak do.
func TestAMovedPeakLeavesTheFirstBlocks(t *testing.T) {
	f := season.Facts{Start: monday, Days: days, Events: []season.Event{peakIn(15)}}
	s := made(t, f)
	assert.Equal(t, "4, 4, 4, 4p, transition 2", words(s))
	f.Events = []season.Event{peakIn(16)}
	moved, err := season.Replan(f, s, monday.Add(10))
	require.NoError(t, err)
	assert.Equal(t, "4, 4, 4, 5p, transition 2", words(moved))
	assert.True(t, moved.Blocks[0].Begun)
	for i := range 3 {
		assert.Equal(t, s.Blocks[i].Rows, moved.Blocks[i].Rows)
		assert.Equal(t, s.Blocks[i].Start, moved.Blocks[i].Start)
	}
	f.Events = []season.Event{peakIn(13)}
	moved, err = season.Replan(f, s, monday.Add(10))
	require.NoError(t, err)
	assert.Equal(t, "4, 4, 3, 3p, transition 2", words(moved), "two blocks are far enough before it")
}

func TestLockedBlocksStay(t *testing.T) {
	lock := season.Block{Kind: season.Training, Start: monday.Add(7 * 5), Rows: []season.Row{"1", "2", season.EasierRow}}
	s := made(t, season.Facts{End: to(12), Locked: []season.Block{lock}})
	assert.Equal(t, "3, 2, 3, 4", words(s))
	assert.True(t, s.Blocks[2].Locked)
}

func TestWhatCannotBeIsSaid(t *testing.T) {
	for field, f := range map[string]season.Facts{
		"days":   {Start: monday},
		"start":  {Days: days},
		"end":    {Start: monday, Days: days, End: monday.Add(-1)},
		"events": {Start: monday, Days: days, Events: []season.Event{{Name: "x", First: monday, Last: monday.Add(-1)}}},
	} {
		_, err := season.Plan(f)
		var no *season.Error
		require.ErrorAs(t, err, &no)
		assert.Equal(t, field, no.Field)
	}
	s := made(t, season.Facts{Events: []season.Event{{Name: "Yesterday", First: monday.Add(-1), Last: monday.Add(-1), Peak: true}}})
	assert.Contains(t, s.Notes[0], "before the season begins")
	assert.Equal(t, "4, 4, 4", words(s))
	long := made(t, season.Facts{End: monday.Add(7 * 80)})
	assert.Equal(t, to(season.MostWeeks), long.End)
}

// Whatever the dates, every week stands in one block, blocks are one to five weeks, a peak's
// block closes its week, and the same facts give the same season; moving a date changes
// nothing that has begun.
func TestSeasonsOfAnybody(t *testing.T) {
	for seed := range uint64(3000) {
		r := rand.New(rand.NewPCG(seed, 91))
		f := season.Facts{Start: monday.Add(r.IntN(7)), Days: [][]int{{0, 3}, {0, 2, 4}, {1, 3, 5, 6}, {2}}[r.IntN(4)]}
		for n := range r.IntN(5) {
			d := monday.Add(r.IntN(7 * 40))
			f.Events = append(f.Events, season.Event{Name: fmt.Sprint(n), First: d, Last: d.Add(r.IntN(3)), Peak: r.IntN(3) > 0})
		}
		for range r.IntN(3) {
			d := monday.Add(r.IntN(7 * 40))
			f.Off = append(f.Off, season.Span{From: d, To: d.Add(r.IntN(40))})
		}
		if r.IntN(2) == 0 {
			f.End = monday.Add(7 * (2 + r.IntN(50)))
		}
		s := made(t, f)
		again := made(t, f)
		require.Equal(t, s, again, "seed %d", seed)
		covered(t, s, seed)
		if len(f.Events) == 0 {
			continue
		}
		moved := f
		moved.Events = append([]season.Event{}, f.Events...)
		k, by := r.IntN(len(moved.Events)), r.IntN(29)-14
		moved.Events[k].First, moved.Events[k].Last = moved.Events[k].First.Add(by), moved.Events[k].Last.Add(by)
		today := f.Start.Add(r.IntN(60))
		m, err := season.Replan(moved, s, today)
		require.NoError(t, err)
		covered(t, m, seed)
		for i := range s.Blocks {
			b := &s.Blocks[i]
			if b.Start.After(today) || b.Kind == season.Break || i >= len(m.Blocks) {
				break
			}
			if b.Start == m.Blocks[i].Start && m.Blocks[i].Begun {
				assert.LessOrEqual(t, m.Blocks[i].Weeks(), b.Weeks(), "seed %d: begun blocks stay", seed)
			}
		}
	}
}

func covered(t *testing.T, s *season.Season, seed uint64) {
	t.Helper()
	next := civil.Date{}
	for i := range s.Blocks {
		b := &s.Blocks[i]
		require.NotEmpty(t, b.Rows, "seed %d", seed)
		if b.Kind == season.Training || b.Kind == season.Bridge {
			assert.LessOrEqual(t, b.Weeks(), 5, "seed %d", seed)
		}
		if !next.IsZero() {
			assert.Equal(t, next, b.Start, "seed %d: no gap and no overlap before %s", seed, b.Start)
		}
		next = b.End().Add(1)
		assert.NotEmpty(t, b.Phase, "seed %d", seed)
		if b.Kind == season.Training && b.Peak != nil && !b.Begun {
			assert.Equal(t, season.TaperRow, b.Rows[b.Weeks()-1], "seed %d", seed)
			d := b.Peak.First.Sub(b.End())
			assert.True(t, d >= -2 && d <= 4 || b.Peak.First.Before(s.Start.Add(7)), "seed %d: %s closes in the week of %s", seed, b.Peak.First, b.End())
		}
	}
	assert.False(t, next.Before(s.End), "seed %d", seed)
}

// Two peaks four days apart are one, on whatever weekday, held between, and said.
func TestPeaksFourDaysApartAreOne(t *testing.T) {
	for d := range 7 {
		first := monday.Add(7*8 + d)
		s := made(t, season.Facts{Events: []season.Event{
			{Name: "Foursomes", First: first, Last: first, Peak: true},
			{Name: "Plate", First: first.Add(4), Last: first.Add(4), Peak: true},
		}})
		assert.Contains(t, strings.Join(s.Notes, " "), "one peak", first.Weekday())
		tapers := 0
		for i := range s.Blocks {
			for _, r := range s.Blocks[i].Rows {
				if r == season.TaperRow {
					tapers++
				}
			}
		}
		assert.Equal(t, 2, tapers, "one taper of two weeks, %s", first.Weekday())
	}
}

// A competition that is over is no peak, and says so.
func TestACompetitionYesterdayIsNoPeak(t *testing.T) {
	e := season.Event{Name: "Cup", First: monday.Add(-1), Last: monday.Add(-1), Peak: true}
	s := made(t, season.Facts{Events: []season.Event{e}})
	assert.Nil(t, s.NextPeak())
	assert.Len(t, s.Notes, 1)
	assert.Equal(t, to(12), s.End)
}

// An event on a Monday closes the week before: what follows is the transition, though it
// begins on the day of the event.
func TestATransitionIsOneFromItsFirstDay(t *testing.T) {
	day := monday.Add(7 * 8)
	s := made(t, season.Facts{Events: []season.Event{{Name: "Cup", First: day, Last: day, Peak: true}}})
	last := s.Blocks[len(s.Blocks)-1]
	assert.Equal(t, season.Transition, last.Kind)
	assert.Equal(t, day, last.Start)
	assert.Equal(t, season.TransitionPhase, last.Phase)
}
