package progress_test

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"

	"dunnock/internal/core/athlete"
	"dunnock/internal/core/civil"
	"dunnock/internal/core/progress"
	"dunnock/internal/core/testkit"
)

// What is due, from the gravest on, and the step of the work it belongs to.
func TestDueAndPath(t *testing.T) {
	day := testkit.Day
	issued := func(version int, start civil.Date) progress.Programme {
		return progress.Programme{Version: version, Start: start, Weeks: 4}
	}
	for name, c := range map[string]struct {
		facts func(*athlete.File)
		done  progress.Done
		due   string
		path  progress.Path
	}{
		"a red flag": {
			func(f *athlete.File) { f.Clearance.Yes = []string{"flag-leg"} }, progress.Done{},
			"Red flag: refer now, no training", progress.Path{"red flag", "none yet", "none yet", "none yet", "needs a screen", "no peak set", "none yet", "none kept", "nothing logged", "no block yet"},
		},
		"questions open": {
			func(f *athlete.File) { f.Clearance = athlete.Clearance{} }, progress.Done{},
			"Intake: questions open", progress.Path{"questions open", "none yet", "none yet", "none yet", "needs a screen", "no peak set", "none yet", "none kept", "nothing logged", "no block yet"},
		},
		"no screen": {nil, progress.Done{}, "Screen: none yet", progress.Path{"cleared", "none yet", "none yet", "none yet", "needs a screen", "no peak set", "none yet", "none kept", "nothing logged", "no block yet"}},
		"a screen of today": {
			nil, progress.Done{Screens: []civil.Date{day}},
			"Programme: none yet", progress.Path{"cleared", "done Tue 24 Nov 2026", "none yet", "none yet", "ready", "no peak set", "none yet", "none kept", "nothing logged", "no block yet"},
		},
		"a screen of eight weeks ago": {
			nil, progress.Done{Screens: []civil.Date{day.Add(-56)}},
			"Programme: none yet", progress.Path{"cleared", "done Tue 29 Sep 2026", "none yet", "none yet", "ready", "no peak set", "none yet", "none kept", "nothing logged", "no block yet"},
		},
		"a day longer ago": {
			nil, progress.Done{Screens: []civil.Date{day.Add(-57)}},
			"Screen: retest due, last on Mon 28 Sep 2026", progress.Path{"cleared", "retest due", "none yet", "none yet", "ready", "no peak set", "none yet", "none kept", "nothing logged", "no block yet"},
		},
		"a draft beside an issued version": {
			nil, progress.Done{Screens: []civil.Date{day}, Programmes: []progress.Programme{issued(1, day), {Draft: true}}},
			"Programme: draft to issue", progress.Path{"cleared", "done Tue 24 Nov 2026", "none yet", "none yet", "ready", "no peak set", "draft open", "none kept", "nothing logged", "block running"},
		},
		"the last day of a block": {
			nil, progress.Done{Screens: []civil.Date{day}, Programmes: []progress.Programme{issued(1, day.Add(-100)), issued(2, day.Add(-27))}},
			"On version 2", progress.Path{"cleared", "done Tue 24 Nov 2026", "none yet", "none yet", "ready", "no peak set", "version 2 issued", "none kept", "nothing logged", "retested Tue 24 Nov 2026"},
		},
		"the day after a block": {
			nil, progress.Done{Screens: []civil.Date{day}, Programmes: []progress.Programme{issued(1, day.Add(-28))}},
			"Programme: block ended, retest", progress.Path{"cleared", "done Tue 24 Nov 2026", "none yet", "none yet", "ready", "no peak set", "version 1 issued", "none kept", "nothing logged", "retested Tue 24 Nov 2026"},
		},
	} {
		t.Run(name, func(t *testing.T) {
			f := testkit.Strong()
			if c.facts != nil {
				c.facts(f)
			}
			assert.Equal(t, c.due, progress.Due(f, c.done).Text)
			assert.Equal(t, c.path, progress.PathOf(f, c.done))
		})
	}
}

func ExampleDue() {
	f := testkit.Strong()
	fmt.Println(progress.Due(f, progress.Done{Screens: []civil.Date{f.AsOf.Add(-60)}}).Text)
	// Output: Screen: retest due, last on Fri 25 Sep 2026
}

func TestHowFarThePeakIs(t *testing.T) {
	f := testkit.Strong()
	f.Competitions = []athlete.Competition{{Name: "Played", Date: f.AsOf.Add(3)}, {Name: "Cup", Date: f.AsOf.Add(75), Peak: true}}
	assert.Equal(t, "peak in 10 weeks", progress.PathOf(f, progress.Done{}).Season)
	f.Competitions[1].Date = f.AsOf.Add(13)
	assert.Equal(t, "peak in 13 days", progress.PathOf(f, progress.Done{}).Season)
}

// What is due has a day: today for what is late, the end of a block that runs, the day before a
// draft begins.
func TestTheDayAThingIsDue(t *testing.T) {
	day := testkit.Day
	f := testkit.Strong()
	screened := []civil.Date{day}
	assert.Equal(t, progress.Next{Text: "Screen: none yet", Step: "screen", On: day}, progress.Due(f, progress.Done{}))
	running := progress.Done{Screens: screened, Programmes: []progress.Programme{{Version: 1, Start: day.Add(-7), Weeks: 4}}}
	assert.Equal(t, day.Add(21), progress.Due(f, running).On)
	ahead := progress.Done{Screens: screened, Programmes: []progress.Programme{{Draft: true, Start: day.Add(5), Weeks: 4}}}
	assert.Equal(t, day.Add(4), progress.Due(f, ahead).On, "the day before it begins")
	late := progress.Done{Screens: screened, Programmes: []progress.Programme{{Draft: true, Start: day.Add(-5), Weeks: 4}}}
	assert.Equal(t, day, progress.Due(f, late).On)
}
