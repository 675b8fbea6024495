package plan_test

import (
	"encoding/json"
	"fmt"
	"math/rand/v2"
	"os"
	"strconv"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dunnock/internal/core/athlete"
	"dunnock/internal/core/library"
	"dunnock/internal/core/measure"
	"dunnock/internal/core/method"
	"dunnock/internal/core/plan"
	"dunnock/internal/core/programme"
	"dunnock/internal/core/rulebook"
	"dunnock/internal/core/season"
	"dunnock/internal/core/testkit"
)

// seasons is how many random seasons the property test takes: make property asks for more.
func seasons() int {
	if n, err := strconv.Atoi(os.Getenv("DUNNOCK_SEASONS")); err == nil {
		return n
	}
	return 100
}

// season gives a golfer events, days away, rounds and a school, all by chance.
func randomSeason(r *rand.Rand, f *athlete.File) {
	all := method.Shipped().Schools.All()
	f.School = all[r.IntN(len(all))].ID
	f.StartDate = f.StartDate.Monday()
	for n := r.IntN(4); n > 0; n-- {
		day := f.StartDate.Add(r.IntN(140))
		c := athlete.Competition{Date: day, Name: fmt.Sprintf("Event %d", n), Peak: r.IntN(2) == 0}
		if r.IntN(3) == 0 {
			c.Last = day.Add(1 + r.IntN(3))
		}
		f.Competitions = append(f.Competitions, c)
	}
	if r.IntN(3) == 0 {
		from := f.StartDate.Add(r.IntN(60))
		f.Away = append(f.Away, athlete.Away{From: from, To: from.Add(r.IntN(20)), Trains: r.IntN(4) == 0})
	}
	if r.IntN(4) == 0 {
		from := f.StartDate.Add(r.IntN(60))
		f.Playing = append(f.Playing, athlete.Playing{From: from, To: from.Add(30), Rounds: 1 + r.IntN(3)})
	}
	if r.IntN(5) == 0 {
		f.Locks = append(f.Locks, athlete.BlockLock{Start: f.StartDate.Add(7 * r.IntN(10)).Monday(), Weeks: 2 + r.IntN(4)})
	}
}

// Over random seasons and all schools: no rule that blocks or warns is broken, locks survive
// a new draft, the same input gives the same season, and each block is laid where the season
// has it.
func TestSeasonsForAnybody(t *testing.T) {
	for seed := range seasons() {
		r := rand.New(rand.NewPCG(uint64(seed), 131))
		f := testkit.Random(r)
		randomSeason(r, f)
		b, err := plan.BasisOf(f, method.Shipped())
		require.NoError(t, err)
		j, err := b.Generate("a")
		if err != nil {
			var no *plan.Refusal
			require.ErrorAs(t, err, &no, "seed %d", seed)
			continue
		}
		for _, x := range j.Rules {
			if x.Status == rulebook.Broken && x.Severity != rulebook.Advice && x.Rule != "CLEAR" {
				t.Errorf("seed %d (%s): %s at %s: %s", seed, f.School, x.Rule, x.Place, x.Text)
			}
		}
		for _, a := range j.Answer {
			if !a.Met {
				assert.NotEmpty(t, a.Held, "seed %d: %s is not met, and nothing is said to hold it", seed, a.Quality)
			}
		}
		s, _, err := b.Season()
		require.NoError(t, err, "seed %d", seed)
		again, _, err := b.Season()
		require.NoError(t, err)
		one, _ := json.Marshal(s)
		two, _ := json.Marshal(again)
		require.Equal(t, string(one), string(two), "seed %d: the same facts, the same season", seed)
		day := s.Blocks[0].Start.Monday()
		for i := range s.Blocks {
			x := &s.Blocks[i]
			if x.Kind != season.LeadIn {
				require.Equal(t, day, x.Start, "seed %d: blocks follow each other", seed)
				day = x.End().Add(1)
			} else {
				day = x.Start.Monday().Add(7)
			}
		}
		for _, l := range f.Locks {
			for i := range s.Blocks {
				if x := &s.Blocks[i]; x.Start == l.Start && x.Locked {
					assert.LessOrEqual(t, x.Weeks(), l.Weeks, "seed %d", seed)
				}
			}
		}
		keepsALock(t, r, b, j, seed)
	}
}

// keepsALock locks an item and drafts again under another school.
func keepsALock(t *testing.T, r *rand.Rand, b *plan.Basis, j *plan.Judged, seed int) {
	t.Helper()
	var ids []programme.ID
	for _, w := range j.Doc.Blocks[0].Weeks {
		for _, s := range w.Sessions {
			for _, it := range s.Items {
				ids = append(ids, it.ID)
			}
		}
	}
	if len(ids) == 0 {
		return
	}
	at := ids[r.IntN(len(ids))]
	doc := edit(t, b, j.Doc, plan.Edit{Kind: plan.EditLock, At: at, On: true}).Doc
	made, err := b.Redraft(doc, "b")
	require.NoError(t, err)
	was, _ := doc.Find(at)
	now, ok := made.Doc.Find(at)
	require.True(t, ok, "seed %d: what is locked is there", seed)
	assert.Equal(t, was.Item, now.Item, "seed %d", seed)
}

// The worst that can be entered: the best possible answer or a clear reason, never a fault.
func TestTheWorstThatCanBeEntered(t *testing.T) {
	regions := measure.Regions()
	for name, spoil := range map[string]func(f *athlete.File){
		"a kit of nothing": func(f *athlete.File) { f.Training.Kit, f.Training.KitAt = []string{}, nil },
		"every exercise forbidden": func(f *athlete.File) {
			for _, region := range regions {
				f.Limits = append(f.Limits, athlete.Limit{Region: region, Kind: athlete.NoneOfPattern, SetBy: "doctor"})
			}
		},
		"three minutes a session": func(f *athlete.File) { f.Training.Minutes = 3 },
		"no days":                 func(f *athlete.File) { f.Training.Days = nil },
		"a competition yesterday": func(f *athlete.File) {
			f.Competitions = []athlete.Competition{{Date: f.AsOf.Add(-1), Name: "Gone", Peak: true}}
		},
		"two peaks four days apart": func(f *athlete.File) {
			f.Competitions = []athlete.Competition{{Date: f.StartDate.Add(40), Name: "One", Peak: true}, {Date: f.StartDate.Add(44), Name: "Two", Peak: true}}
		},
		"away for good": func(f *athlete.File) { f.Away = []athlete.Away{{From: f.StartDate, To: f.StartDate.Add(400)}} },
		"a competition a day": func(f *athlete.File) {
			for d := range 30 {
				f.Competitions = append(f.Competitions, athlete.Competition{Date: f.StartDate.Add(d), Name: "Daily", Peak: true})
			}
		},
	} {
		t.Run(name, func(t *testing.T) {
			f := testkit.Strong()
			spoil(f)
			b, err := plan.BasisOf(f, method.Shipped())
			require.NoError(t, err)
			s, list, err := b.Season()
			if err != nil {
				var no *season.Error
				require.ErrorAs(t, err, &no)
				assert.NotEmpty(t, no.Text)
			} else {
				assert.Len(t, list, len(s.Blocks))
			}
			j, err := b.Generate("w")
			if err != nil {
				var no *plan.Refusal
				require.ErrorAs(t, err, &no)
				assert.NotEmpty(t, no.Text)
				return
			}
			said := len(j.Doc.Notes) + len(j.Doc.Unanswered)
			for _, a := range j.Answer {
				if !a.Met {
					said++
					assert.NotEmpty(t, a.Held, "%s is not met: it is said why", a.Name)
				}
			}
			if strings.HasPrefix(name, "a kit") || strings.HasPrefix(name, "every") || strings.HasPrefix(name, "three") {
				assert.Positive(t, said, "what cannot be given is said")
			}
			for _, x := range j.Rules {
				assert.False(t, x.Status == rulebook.Broken && x.Severity == rulebook.Blocking, "%s: %s", x.Rule, x.Text)
			}
			j.Doc.EachItem(func(it *programme.Item) {
				e, ok := library.Shipped().Find(it.Exercise)
				require.True(t, ok)
				_, blocked := e.Blocked(b.Facts.Limits)
				assert.False(t, blocked)
			})
		})
	}
}

// Numbers of rules that no plan can keep: one is made all the same, and says which rule it
// breaks or what it could not give.
func TestRulesNobodyCanKeep(t *testing.T) {
	book := method.Shipped().Rules
	for _, r := range book.Rules() {
		rule, numbers := r.ID, book.Numbers(r.ID)
		if len(numbers) == 0 {
			continue
		}
		for name := range numbers {
			numbers[name] = 0.001
		}
		m, err := method.Shipped().With(map[string]map[string]float64{rule: numbers}, nil)
		if err != nil {
			assert.Contains(t, err.Error(), rule, "or it is refused by name")
			continue
		}
		f := testkit.Strong()
		b, err := plan.BasisOf(f, m)
		require.NoError(t, err)
		j, err := b.Generate("r")
		require.NoError(t, err, rule)
		require.NoError(t, j.Doc.Check(), rule)
		require.NotEmpty(t, j.Doc.Blocks[0].Weeks, rule)
	}
}
