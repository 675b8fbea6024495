package plan_test

import (
	"slices"
	"strconv"
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
	"dunnock/internal/core/rulebook"
	"dunnock/internal/core/testkit"
)

// inSlot is an item of a slot in a week of the block.
func inSlot(t *testing.T, doc *programme.Programme, week int, slot library.Slot) *programme.Item {
	t.Helper()
	for si := range doc.Blocks[0].Weeks[week-1].Sessions {
		s := &doc.Blocks[0].Weeks[week-1].Sessions[si]
		for i := range s.Items {
			if s.Items[i].Slot == slot {
				return &s.Items[i]
			}
		}
	}
	t.Fatalf("week %d holds no %s", week, slot)
	return nil
}

// Every rule that a coach can break is mended by one click, or says what each remedy would
// break; what is mended breaks nothing else, and the programme it was given stays.
func TestABrokenRuleIsMended(t *testing.T) {
	week := func(doc *programme.Programme, n int) *programme.Week { return &doc.Blocks[0].Weeks[n-1] }
	type spoil struct {
		rule  string
		doc   func(*programme.Programme)
		file  func(*athlete.File)
		setup func(*athlete.File) // before it is drafted
	}
	for _, x := range []spoil{
		{rule: "CONTRA", file: func(f *athlete.File) {
			f.Limits = []athlete.Limit{{Region: "knee", Kind: athlete.NoImpact, SetBy: "physio"}}
		}},
		{rule: "KIT", file: func(f *athlete.File) {
			f.Training.Kit = []string{"dumbbells", "bench", "band", "medicine ball", "club"}
		}},
		{rule: "LEVEL", file: func(f *athlete.File) { f.Athlete.TrainingMonths, f.Athlete.Advanced = 8, false }},
		{rule: "ORDER", doc: func(p *programme.Programme) {
			s := &week(p, 1).Sessions[0]
			s.Items[0], s.Items[len(s.Items)-2] = s.Items[len(s.Items)-2], s.Items[0]
			for i := range s.Items {
				s.Items[i].Paired = false
			}
		}},
		{rule: "BOTH-SIDES", doc: func(p *programme.Programme) { inSlot(t, p, 2, library.SlotSwings).Dose.OtherSideShare = 0 }},
		{rule: "PUSH-PULL", doc: func(p *programme.Programme) { inSlot(t, p, 1, library.SlotPush).Dose.Sets += 6 }},
		{rule: "WAVE", doc: func(p *programme.Programme) { inSlot(t, p, 2, library.SlotThrow).Dose.Sets += 5 }},
		{rule: "LOAD-STEP", doc: func(p *programme.Programme) {
			it := inSlot(t, p, 2, library.SlotMain)
			if it.Dose.LoadKg != nil {
				*it.Dose.LoadKg += 15
				it.Edited = true
			}
		}},
		{rule: "RESERVE", doc: func(p *programme.Programme) {
			none := 0
			it := inSlot(t, p, 2, library.SlotPull)
			it.Dose.Reserve, it.Edited = &none, true
		}},
		{rule: "EXPLOSIVE-REPS", doc: func(p *programme.Programme) { inSlot(t, p, 1, library.SlotThrow).Dose.Reps = 8 }},
		{rule: "CONTACTS", doc: func(p *programme.Programme) { inSlot(t, p, 3, library.SlotJump).Dose.Sets = 40 }},
		{rule: "SWINGS", doc: func(p *programme.Programme) {
			d := &inSlot(t, p, 1, library.SlotSwings).Dose
			d.Reps = 12
		}},
		{rule: "IMPLEMENT", doc: func(p *programme.Programme) { inSlot(t, p, 1, library.SlotSwings).Dose.ImplementPercent = 45 }},
		{rule: "SPEED-ALWAYS", doc: func(p *programme.Programme) {
			for si := range week(p, 2).Sessions {
				s := &week(p, 2).Sessions[si]
				kept := s.Items[:0]
				for _, it := range s.Items {
					if !it.Slot.Quick() {
						it.Paired = false
						kept = append(kept, it)
					}
				}
				s.Items = kept
			}
		}},
		{rule: "GRIP-EVE", file: func(f *athlete.File) {
			f.Competitions = []athlete.Competition{{Name: "Cup", Date: testkit.Day.Monday().Add(7 + 7 + 5)}}
		}},
		{rule: "SENIOR", file: func(f *athlete.File) { f.Athlete.BirthDate = testkit.Day.Add(-66 * 366) }},
		{rule: "JUNIOR", file: func(f *athlete.File) {
			f.Athlete.BirthDate = testkit.Day.Add(-17*365 - 320)
			f.Consent = &athlete.Consent{Guardian: "G", On: testkit.Day}
		}},
		{rule: "GROWTH", file: func(f *athlete.File) {
			f.Athlete.BirthDate = testkit.Day.Add(-17*365 - 320)
			f.Consent = &athlete.Consent{Guardian: "G", On: testkit.Day}
		}},
		{rule: "SPACING", doc: func(p *programme.Programme) {
			s := week(p, 1).Sessions
			s[1].Date = s[0].Date.Add(1)
			lift := *inSlot(t, p, 1, library.SlotMain)
			lift.ID = "twice"
			s[1].Items = append(s[1].Items, lift)
		}},
		{rule: "UNSTABLE", doc: func(p *programme.Programme) {
			inSlot(t, p, 1, library.SlotTrunk).Exercise = "ctl-balance-cushion"
		}},
		{rule: "SPECIAL", doc: func(p *programme.Programme) {
			it := *inSlot(t, p, 1, library.SlotTrunk)
			it.ID, it.Slot, it.Exercise, it.Reason.Finding = "alike", library.SlotSpecial, "trunk-cable-rotation", ""
			week(p, 1).Sessions[0].Items = append(week(p, 1).Sessions[0].Items, it)
		}},
		{rule: "NOVEL", doc: func(p *programme.Programme) {
			p.Before = &programme.Before{Last: map[string]civil.Date{}, Lines: map[programme.Letter][]string{}}
			for _, e := range library.Shipped().All() {
				p.Before.Last[e.ID] = p.StartDate.Add(-7)
			}
			for _, it := range week(p, 1).Sessions[1].Items[:4] {
				delete(p.Before.Last, it.Exercise)
			}
		}},
		{rule: "RANGE", doc: func(p *programme.Programme) {
			w := week(p, 2)
			w.Home = nil
			for si := range w.Sessions {
				w.Sessions[si].Items = slices.DeleteFunc(w.Sessions[si].Items, func(it programme.Item) bool { return it.Slot == library.SlotRange })
			}
		}},
		{rule: "TAPER", setup: func(f *athlete.File) {
			f.Competitions = []athlete.Competition{{Name: "Cup", Date: f.StartDate.Add(7*3 + 5), Peak: true}}
		}, doc: func(p *programme.Programme) {
			last := week(p, len(p.Blocks[0].Weeks))
			for si := range last.Sessions {
				for ii := range last.Sessions[si].Items {
					last.Sessions[si].Items[ii].Dose.Sets += 2
				}
			}
		}},
		{rule: "IN-SEASON", setup: func(f *athlete.File) {
			for n := range 4 {
				f.Competitions = append(f.Competitions, athlete.Competition{Name: "Round " + strconv.Itoa(n), Date: f.StartDate.Add(14*n - 2)})
			}
		}, doc: func(p *programme.Programme) { inSlot(t, p, 1, library.SlotMain).Dose.Sets += 6 }},
		{rule: "TIME", doc: func(p *programme.Programme) { week(p, 1).Sessions[0].Budget = 25 }},
		{rule: "RETEST", doc: func(p *programme.Programme) { week(p, 4).Retest = nil }},
		{rule: "FLAT", doc: func(p *programme.Programme) {
			for w := 1; w <= 3; w++ {
				d := &inSlot(t, p, w, library.SlotThrow).Dose
				d.Sets, d.Reps = 3, 3
				inSlot(t, p, w, library.SlotThrow).Edited = true
			}
		}},
	} {
		t.Run(x.rule, func(t *testing.T) {
			f := testkit.Strong()
			f.Training.Days, f.Training.Sessions = []string{"mon", "wed", "fri"}, 3
			if x.setup != nil {
				x.setup(f)
			}
			_, j := draft(t, f)
			doc := j.Doc.Clone()
			if x.file != nil {
				x.file(f)
			}
			if x.doc != nil {
				x.doc(doc)
			}
			b, err := plan.BasisOf(f, method.Shipped())
			require.NoError(t, err)
			was := map[string]bool{}
			for _, r := range b.Judge(doc).Rules {
				was[r.Rule] = was[r.Rule] || r.Status == rulebook.Broken
			}
			mended := 0
			for range 40 {
				at, found := programme.ID(""), false
				for _, r := range b.Judge(doc).Rules {
					if r.Rule == x.rule && r.Status == rulebook.Broken {
						at, found = r.At, true
						break
					}
				}
				if !found {
					break
				}
				before, _ := doc.Find(at)
				out, err := b.Mend(doc, x.rule, at, "m")
				if !assert.NoError(t, err, "%s at %s %v", x.rule, at, before.Item) {
					return
				}
				assert.NotEmpty(t, out.Words)
				doc = out.Doc
				mended++
			}
			assert.Positive(t, mended, "the rule was broken in the first place")
			for _, r := range b.Judge(doc).Rules {
				if r.Status == rulebook.Broken && r.Severity == rulebook.Blocking && (r.Rule == x.rule || !was[r.Rule]) {
					t.Errorf("%s at %s: %s", r.Rule, r.Where, r.Text)
				}
			}
		})
	}
}

func TestWhatIsKeptIsNotMended(t *testing.T) {
	b, j := draft(t, testkit.Strong())
	_, err := b.Mend(j.Doc, "WAVE", j.Doc.Blocks[0].Weeks[1].ID, "m")
	require.ErrorContains(t, err, "is kept there")
	// Nothing at one click clears a golfer.
	f := testkit.Strong()
	f.Clearance = athlete.Clearance{}
	b, err = plan.BasisOf(f, method.Shipped())
	require.NoError(t, err)
	_, err = b.Mend(j.Doc, "CLEAR", "", "m")
	var no *plan.NoMend
	require.ErrorAs(t, err, &no)
}

// Where one week alone would break the wave, every week gets less.
func TestAMendRunsAlongTheWeeks(t *testing.T) {
	f := testkit.Sound()
	testkit.Set(f, "cmj", "", 30)
	f.Training.Days, f.Training.Sessions = []string{"mon", "wed", "fri"}, 3
	_, j := draft(t, f)
	strict, err := method.Shipped().With(map[string]map[string]float64{"CONTACTS": {"advanced": 20, "intermediate": 20}}, nil)
	require.NoError(t, err)
	b, err := plan.BasisOf(f, strict)
	require.NoError(t, err)
	doc, along := j.Doc, false
	for range 20 {
		at, found := programme.ID(""), false
		for _, r := range b.Judge(doc).Rules {
			if r.Rule == "CONTACTS" && r.Status == rulebook.Broken {
				at, found = r.At, true
			}
		}
		if !found {
			break
		}
		out, err := b.Mend(doc, "CONTACTS", at, "m")
		require.NoError(t, err)
		along = along || strings.Contains(out.Words, "in every week")
		doc = out.Doc
	}
	assert.True(t, along)
	for _, r := range b.Judge(doc).Rules {
		if r.Status == rulebook.Broken && r.Severity != rulebook.Advice && r.Rule != "CLEAR" {
			t.Errorf("%s at %s: %s", r.Rule, r.Where, r.Text)
		}
	}
}
