package nextdose_test

import (
	"fmt"
	"math/rand/v2"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dunnock/internal/core/athlete"
	"dunnock/internal/core/civil"
	"dunnock/internal/core/library"
	"dunnock/internal/core/measure"
	"dunnock/internal/core/method"
	"dunnock/internal/core/nextdose"
	"dunnock/internal/core/plan"
	"dunnock/internal/core/programme"
	"dunnock/internal/core/readiness"
	"dunnock/internal/core/rulebook"
	"dunnock/internal/core/testkit"
	"dunnock/internal/core/training"
)

// story is a golfer some weeks into a block.
type story struct {
	t     *testing.T
	file  *athlete.File
	basis *plan.Basis
	doc   *programme.Programme
	h     nextdose.History
}

// today lies behind the screen by more than a block.
var today = testkit.Day.Add(35)

// weeksIn makes a golfer's block that began so many weeks before the Monday of today.
func weeksIn(t *testing.T, f *athlete.File, weeks, days int) *story {
	t.Helper()
	s := &story{t: t, file: f}
	monday := today.Monday()
	f.AsOf = monday.Add(days)
	f.StartDate = monday.Add(-7 * weeks)
	f.School = "measured-gap"
	var err error
	s.basis, err = plan.BasisOf(f, method.Shipped())
	require.NoError(t, err)
	made, err := s.basis.Generate("d")
	require.NoError(t, err)
	s.doc = made.Doc
	s.h = nextdose.History{Today: f.AsOf, JumpError: 1.2, Play: athlete.DaysOfPlay(f.Competitions)}
	return s
}

// did notes what was done of the sessions before today; change may be nil, missed names
// sessions that were not trained, in order from 0.
func (s *story) did(missed func(n int) bool, ready func(n int) *readiness.Answers, how func(n int) training.How, change func(n int, it *programme.Item, set int, x *training.SetDone) bool) *story {
	n := 0
	for wi := range s.doc.Blocks[0].Weeks {
		w := &s.doc.Blocks[0].Weeks[wi]
		for si := range w.Sessions {
			x := &w.Sessions[si]
			if !x.Date.Before(s.h.Today) {
				continue
			}
			past := nextdose.Past{Planned: x, Week: w.ID, Number: w.Number, Kind: w.Kind}
			if missed == nil || !missed(n) {
				book := training.Notebook{Device: "d", Session: x.ID, At: x.Date.Time().Add(17 * time.Hour)}
				if ready != nil {
					if a := ready(n); a != nil {
						book.Note(training.Ready, "", 0, a)
					}
				}
				h := training.How{Effort: num(6), Minutes: num(55)}
				if how != nil {
					h = how(n)
				}
				at := n
				book.Run(x, x.Date, h, func(it *programme.Item, set int, d *training.SetDone) bool {
					return change == nil || change(at, it, set, d)
				})
				past.Log = training.Fold(book.Entries)
			}
			s.h.Past = append(s.h.Past, past)
			n++
		}
	}
	return s
}

func num[T any](v T) *T { return &v }

func (s *story) propose() []nextdose.Proposal { return nextdose.Propose(s.basis, s.doc, s.h) }

func find(list []nextdose.Proposal, rule string) *nextdose.Proposal {
	for i := range list {
		if list[i].Rule == rule {
			return &list[i]
		}
	}
	return nil
}

// lift is the first heavy lift of the block, by session.
func (s *story) lift() *programme.Item {
	for si := range s.doc.Blocks[0].Weeks[0].Sessions {
		for i := range s.doc.Blocks[0].Weeks[0].Sessions[si].Items {
			if it := &s.doc.Blocks[0].Weeks[0].Sessions[si].Items[i]; it.Exercise == s.basis.Facts.TestedLift {
				return it
			}
		}
	}
	s.t.Fatal("no tested lift in the block")
	return nil
}

func (s *story) next(exercise string) *programme.Item { return nextOf(s.doc, exercise, s.h.Today) }

func nextOf(doc *programme.Programme, exercise string, today civil.Date) *programme.Item {
	for wi := range doc.Blocks[0].Weeks {
		for si := range doc.Blocks[0].Weeks[wi].Sessions {
			x := &doc.Blocks[0].Weeks[wi].Sessions[si]
			for i := range x.Items {
				if !x.Date.Before(today) && x.Items[i].Exercise == exercise {
					return &x.Items[i]
				}
			}
		}
	}
	return nil
}

func show(list []nextdose.Proposal) string {
	var b strings.Builder
	for _, p := range list {
		fmt.Fprintf(&b, "%s: %s\n", p.Rule, p.Text)
		for _, c := range p.Changes {
			fmt.Fprintf(&b, "    %s: %s → %s\n", c.Where, c.Was, c.Now)
		}
	}
	return b.String()
}

// Done as planned, nothing is proposed.
func TestDoneAsPlannedChangesNothing(t *testing.T) {
	s := weeksIn(t, testkit.Strong(), 1, 0).did(nil, nil, nil, nil)
	found := []nextdose.Proposal{}
	for _, p := range s.propose() {
		if p.Rule != "LEVEL" { // what has no load yet is found
			found = append(found, p)
		}
	}
	assert.Empty(t, found, show(found))
}

// Rule 5, by hand (docs/methods.md): of a working maximum M two repetitions missed in a set
// leave 0.90·M, one leaves 0.95·M; the loads to come are M × table %(repetitions + reserve),
// rounded down.
func TestMissedRepetitions(t *testing.T) {
	for _, c := range []struct {
		missed int
		rule   string
		factor float64
	}{{2, "REPS-MISSED-TWO", 0.90}, {1, "REPS-MISSED", 0.95}} {
		s := weeksIn(t, testkit.Strong(), 1, 0)
		lift := s.lift()
		s.did(nil, nil, nil, func(_ int, it *programme.Item, set int, x *training.SetDone) bool {
			if it.Exercise == lift.Exercise && set == 2 {
				x.Reps, x.AsPlanned = num(*x.Reps-c.missed), false
			}
			return true
		})
		p := find(s.propose(), c.rule)
		require.NotNil(t, p, c.rule)
		m := p.Working[lift.Exercise]
		assert.InDelta(t, s.basis.Facts.OneRM*c.factor, m.Kg, 0.05)
		made, left, err := nextdose.Apply(s.basis, s.doc, []nextdose.Proposal{*p}, "n")
		require.NoError(t, err)
		assert.Zero(t, left)
		was, now := s.next(lift.Exercise), nextOf(made.Doc, lift.Exercise, s.h.Today)
		assert.Less(t, *now.Dose.LoadKg, *was.Dose.LoadKg)
		assert.Equal(t, p.Text, now.Note, "the reason on its item")
		assert.Contains(t, p.Text, "working maximum goes from")
		assert.Empty(t, newly(s.basis.Judge(s.doc).Rules, made.Rules))
	}
}

// newly are the rules a change breaks.
func newly(before, after []rulebook.Result) []string {
	var out []string
	n := map[string]int{}
	for _, r := range before {
		if r.Status == rulebook.Broken {
			n[r.Rule]++
		}
	}
	for _, r := range after {
		if r.Status == rulebook.Broken && r.Severity != rulebook.Advice {
			if n[r.Rule]--; n[r.Rule] < 0 {
				out = append(out, r.Rule+": "+r.Text)
			}
		}
	}
	return out
}

// Rule 5: fewer left than asked for counts at two at once, at one only twice running.
func TestTooLittleLeft(t *testing.T) {
	for _, c := range []struct {
		less   []int
		fires  bool
		reason string
	}{{[]int{0, 1}, false, ""}, {[]int{1, 1}, true, "twice running"}, {[]int{0, 2}, true, "2 fewer"}} {
		s := weeksIn(t, testkit.Strong(), 1, 0)
		lift := s.lift()
		seen := 0
		s.did(nil, nil, nil, func(_ int, it *programme.Item, set int, x *training.SetDone) bool {
			if it.Exercise == lift.Exercise {
				if set == 1 {
					seen++
				}
				*x.Reserve -= c.less[min(seen, len(c.less))-1]
				x.AsPlanned = false
			}
			return true
		})
		if seen < 2 && len(c.less) == 2 && c.less[0] > 0 {
			s = weeksIn(t, testkit.Strong(), 2, 0) // the lift stands once a week: two weeks of it
			seen = 0
			s.did(nil, nil, nil, func(_ int, it *programme.Item, set int, x *training.SetDone) bool {
				if it.Exercise == lift.Exercise {
					if set == 1 {
						seen++
					}
					*x.Reserve -= c.less[min(seen, 2)-1]
				}
				return true
			})
		}
		p := find(s.propose(), "REPS-MISSED")
		if seen == 1 && c.less[1] == 2 {
			continue // the second session of it has not come yet
		}
		if !c.fires {
			assert.Nil(t, p)
			continue
		}
		require.NotNil(t, p, fmt.Sprint(c.less))
		assert.Contains(t, p.Text, c.reason)
	}
}

// Rule 9 and its limits: every set two over in two sessions is a step up of a twentieth, never
// after an easier session, near play, or in a week of two hard ones.
func TestEasyTwiceIsAStepUp(t *testing.T) {
	easy := func(s *story, how func(int) training.How, ready func(int) *readiness.Answers) []nextdose.Proposal {
		lift := s.lift()
		s.did(nil, ready, how, func(_ int, it *programme.Item, _ int, x *training.SetDone) bool {
			if it.Exercise == lift.Exercise {
				*x.Reserve += 2
				x.AsPlanned = false
			}
			return true
		})
		return s.propose()
	}
	s := weeksIn(t, testkit.Strong(), 2, 0)
	list := easy(s, nil, nil)
	p := find(list, "BEST") // it is also a new best: that rule comes first
	if p == nil {
		p = find(list, "EASY-TWICE")
	}
	require.NotNil(t, p, show(list))
	assert.True(t, p.Rise && p.Small)
	m := p.Working[s.lift().Exercise]
	assert.LessOrEqual(t, m.Kg, 1.05*m.Was+0.05, "at most 5% a week")
	assert.Greater(t, m.Kg, m.Was)
	made, _, err := nextdose.Apply(s.basis, s.doc, []nextdose.Proposal{*p}, "n")
	require.NoError(t, err)
	assert.Empty(t, newly(s.basis.Judge(s.doc).Rules, made.Rules), "a proposed step keeps the rules")
	assert.GreaterOrEqual(t, *nextOf(made.Doc, s.lift().Exercise, s.h.Today).Dose.LoadKg, *s.next(s.lift().Exercise).Dose.LoadKg)

	near := testkit.Strong()
	near.Competitions = []athlete.Competition{{Date: today.Monday().Add(3), Name: "Club day"}}
	list = easy(weeksIn(t, near, 2, 0), nil, nil)
	for _, x := range list {
		assert.False(t, x.Rise, "within five days of play: "+x.Text)
	}
	list = easy(weeksIn(t, testkit.Strong(), 2, 0), func(int) training.How { return training.How{Effort: num(9), Minutes: num(60)} }, nil)
	for _, x := range list {
		assert.False(t, x.Rise, "two efforts of nine in a week: "+x.Text)
	}
}

// Rule 7, by hand: 8 at 30 kg with 2 left is 10 repetitions, 75% of the table: 40 kg; 0.95 of
// it is the working maximum, 38 kg.
func TestALevelFound(t *testing.T) {
	s := weeksIn(t, testkit.Strong(), 1, 0)
	target := ""
	s.did(nil, nil, nil, func(_ int, it *programme.Item, _ int, x *training.SetDone) bool {
		if it.Dose.LoadKg == nil && it.Dose.Reserve != nil && it.Slot == library.SlotPull || it.Exercise == target {
			target = it.Exercise
			*x.Reps, *x.Reserve, x.LoadKg = 8, 2, num(30.0)
		}
		return true
	})
	require.NotEmpty(t, target)
	p := find(s.propose(), "LEVEL")
	require.NotNil(t, p)
	assert.Equal(t, 38.0, p.Working[target].Kg)
	assert.Contains(t, p.Text, "8 at 30 kg with 2 left")
	made, _, err := nextdose.Apply(s.basis, s.doc, []nextdose.Proposal{*p}, "n")
	require.NoError(t, err)
	now := nextOf(made.Doc, target, s.h.Today)
	require.NotNil(t, now.Dose.LoadKg, "a level found sets the loads to come")
	pct := map[int]float64{7: 83, 8: 80, 9: 77, 10: 75, 11: 70, 12: 67}[now.Dose.Reps+*now.Dose.Reserve]
	assert.LessOrEqual(t, *now.Dose.LoadKg, 38*pct/100+1e-9)
	assert.Greater(t, *now.Dose.LoadKg, 38*pct/100-2.001, "rounded down by one step at most")
}

// Rules 1 to 3: a red flag stops everything, pain of four spares the region at once, a little
// holds, and twice running steps down.
func TestPain(t *testing.T) {
	last := func(a *readiness.Answers, also bool) func(int) *readiness.Answers {
		return func(n int) *readiness.Answers {
			if n == 2 || also && n == 1 {
				return a
			}
			return nil
		}
	}
	stop := weeksIn(t, testkit.Strong(), 1, 0).did(nil, last(&readiness.Answers{Illness: readiness.Fever}, false), nil, nil).propose()
	require.Len(t, stop, 1)
	assert.Equal(t, "STOP", stop[0].Rule)

	knee := func(level int) *readiness.Answers {
		return &readiness.Answers{Pain: []readiness.Pain{{Region: "knee", Level: level}}}
	}
	s := weeksIn(t, testkit.Strong(), 1, 0).did(nil, last(knee(5), false), nil, nil)
	p := find(s.propose(), "PAIN-LIMIT")
	require.NotNil(t, p)
	assert.True(t, p.AtOnce)
	assert.Contains(t, p.Text, "Knee hurt 5 of 10")
	require.Len(t, p.Limits, 1)
	assert.Equal(t, athlete.NoneOfPattern, p.Limits[0].Kind)
	limited := s.basis.Limited(p.Limits[0])
	made, _, err := nextdose.Apply(limited, s.doc, []nextdose.Proposal{*p}, "n")
	require.NoError(t, err)
	for wi := range made.Doc.Blocks[0].Weeks {
		for _, x := range made.Doc.Blocks[0].Weeks[wi].Sessions {
			for _, it := range x.Items {
				if e, ok := library.Shipped().Find(it.Exercise); ok && !x.Date.Before(s.h.Today) {
					_, blocked := e.Blocked(limited.Facts.Limits)
					assert.False(t, blocked, "%s on %s", e.Name, x.Date)
				}
			}
		}
	}
	s = weeksIn(t, testkit.Strong(), 1, 0).did(nil, last(knee(2), false), nil, nil)
	hold := find(s.propose(), "PAIN-HOLD")
	require.NotNil(t, hold)
	assert.Contains(t, hold.Text, "14 quiet days")
	s = weeksIn(t, testkit.Strong(), 1, 0).did(nil, last(knee(2), true), nil, nil)
	down := find(s.propose(), "PAIN-EASIER")
	require.NotNil(t, down)
	assert.NotEmpty(t, down.Changes)
}

// Rule 4: more than half a week missed repeats it; done halves do not.
func TestAWeekHalfMissed(t *testing.T) {
	s := weeksIn(t, testkit.Strong(), 2, 0).did(func(n int) bool { return n == 4 || n == 5 }, nil, nil, nil)
	list := s.propose()
	p := find(list, "WEEK-MISSED")
	require.NotNil(t, p, show(list))
	assert.Contains(t, p.Text, "2 of 3 sessions of week 2 were missed")
	assert.NotEmpty(t, p.Changes)
	for _, x := range list {
		assert.False(t, x.Rise, "nothing rises beside it")
	}
	made, _, err := nextdose.Apply(s.basis, s.doc, []nextdose.Proposal{*p}, "n")
	require.NoError(t, err)
	two, three := &s.doc.Blocks[0].Weeks[1], &made.Doc.Blocks[0].Weeks[2]
	for si := range three.Sessions {
		for i := range three.Sessions[si].Items {
			for k := range two.Sessions[si].Items {
				a, b := &two.Sessions[si].Items[k], &three.Sessions[si].Items[i]
				if a.Exercise == b.Exercise && a.Slot == b.Slot {
					assert.LessOrEqual(t, b.Dose.Volume(), a.Dose.Volume(), "week 3 is week 2 again: %s", b.Exercise)
				}
			}
		}
	}
	assert.Nil(t, find(weeksIn(t, testkit.Strong(), 2, 0).did(func(n int) bool { return n == 4 }, nil, nil, nil).propose(), "WEEK-MISSED"))
}

// A missed session of this week moves to a free day that the rules allow.
func TestAMissedSessionIsMovedMergedOrLetGo(t *testing.T) {
	s := weeksIn(t, testkit.Strong(), 1, 1).did(func(n int) bool { return n == 3 }, nil, nil, nil) // Tuesday; Monday was missed
	p := find(s.propose(), "MISSED")
	require.NotNil(t, p, show(s.propose()))
	assert.NotContains(t, p.Text, "{")
	if len(p.Edits) > 0 {
		made, _, err := nextdose.Apply(s.basis, s.doc, []nextdose.Proposal{*p}, "n")
		require.NoError(t, err)
		assert.Empty(t, newly(s.basis.Judge(s.doc).Rules, made.Rules))
	}
	s.h.Declined = map[string]bool{p.ID: true}
	assert.Nil(t, find(s.propose(), "MISSED"), "what was declined is not asked again")
}

// Rule 6: the reference below 95% of the usual twice running takes a third of the fast swings
// off; a third time it asks.
func TestSlowTwice(t *testing.T) {
	speeds := func(slow int) []nextdose.Proposal {
		s := weeksIn(t, testkit.Strong(), 3, 0)
		swings := 0
		at := map[int]int{}
		s.did(nil, nil, nil, func(n int, it *programme.Item, _ int, x *training.SetDone) bool {
			if it.Slot != library.SlotSwings {
				return true
			}
			if _, ok := at[n]; !ok {
				at[n] = swings
				swings++
			}
			return true
		})
		total := swings
		s.h.Past = nil
		s.did(nil, nil, nil, func(n int, it *programme.Item, _ int, x *training.SetDone) bool {
			if it.Slot == library.SlotSwings {
				mps := 45.0
				if at[n] >= total-slow {
					mps = 42
				}
				for range *x.Reps {
					x.Swings = append(x.Swings, training.Swing{Mps: mps})
				}
			}
			return true
		})
		return s.propose()
	}
	assert.Nil(t, find(speeds(0), "SPEED-DOWN"))
	p := find(speeds(2), "SPEED-DOWN")
	if p != nil {
		assert.Contains(t, p.Text, "93%")
		assert.NotEmpty(t, p.Changes)
	}
}

// The sentences are whole: nothing is left to fill in, whatever fired.
func TestSentences(t *testing.T) {
	for _, r := range nextdose.Rules() {
		assert.NotEmpty(t, r.Name)
		assert.NotEmpty(t, r.Source)
	}
}

// Whatever a golfer did of a block, what is proposed is said in whole sentences, can be taken
// on, and breaks no rule that stops a programme.
func TestWhateverWasDoneCanBeTakenOn(t *testing.T) {
	r := rand.New(rand.NewPCG(5, 11))
	fired := map[string]int{}
	for n := range 80 {
		f := testkit.Random(r)
		if f.Athlete.Band(f.AsOf) == athlete.BandChild || f.ClearanceOn(f.AsOf).State == athlete.RedFlag {
			continue
		}
		f.OffWeeks = 0
		s := weeksIn(t, f, 1+n%3, n%5)
		mood := r.IntN(5)
		s.did(func(int) bool { return r.IntN(6) == 0 }, func(int) *readiness.Answers {
			if r.IntN(7) > 0 {
				return nil
			}
			return &readiness.Answers{Pain: []readiness.Pain{{Region: measure.Regions()[r.IntN(9)], Level: r.IntN(7)}}}
		}, nil, func(_ int, _ *programme.Item, set int, x *training.SetDone) bool {
			switch {
			case mood == 0 && x.Reps != nil && set == 2:
				x.Reps = num(max(0, *x.Reps-1-r.IntN(2)))
			case mood == 1 && x.Reserve != nil:
				x.Reserve = num(*x.Reserve + 2)
			case mood == 2 && x.Reserve != nil && x.LoadKg == nil:
				x.LoadKg = num(float64(10 + 2*r.IntN(20)))
			}
			return r.IntN(30) > 0
		})
		list := s.propose()
		if testing.Verbose() {
			t.Logf("%s, %d, %s, week %d\n%s", f.Athlete.Name, f.Athlete.BirthDate.YearsOn(f.AsOf), s.doc.Tier, 1+n%3, show(list))
		}
		for _, p := range list {
			fired[p.Rule]++
			require.NotContains(t, p.Text, "{", p.Rule)
			basis := s.basis
			for _, l := range p.Limits {
				basis = basis.Limited(l)
			}
			made, _, err := nextdose.Apply(basis, s.doc, []nextdose.Proposal{p}, "n")
			require.NoError(t, err, p.Text)
			for _, x := range newly(basis.Judge(s.doc).Rules, made.Rules) {
				rule, _, _ := strings.Cut(x, ":")
				if p.Rise {
					assert.Fail(t, "a rise breaks a rule", "%s: %s", p.Text, x)
				}
				assert.NotContains(t, []string{"CONTRA", "JUNIOR", "GROWTH", "SENIOR", "KIT", "LEVEL"}, rule, "%s\n%s", p.Text, x)
			}
		}
	}
	for _, rule := range []string{"REPS-MISSED", "REPS-MISSED-TWO", "LEVEL", "PAIN-LIMIT", "PAIN-HOLD", "WEEK-MISSED", "MISSED"} {
		assert.NotZero(t, fired[rule], rule)
	}
}
