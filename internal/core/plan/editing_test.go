package plan_test

import (
	"encoding/json"
	"math/rand/v2"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dunnock/internal/core/library"
	"dunnock/internal/core/method"
	"dunnock/internal/core/plan"
	"dunnock/internal/core/programme"
	"dunnock/internal/core/programme/change"
	"dunnock/internal/core/programme/derive"
	"dunnock/internal/core/rulebook"
	"dunnock/internal/core/testkit"
)

// refused is why an edit cannot be done: the field and the words.
func refused(t *testing.T, b *plan.Basis, doc *programme.Programme, e plan.Edit) string {
	t.Helper()
	_, err := b.Apply(doc, e, "e")
	var no *plan.EditError
	require.ErrorAs(t, err, &no)
	return no.Field + ": " + no.Text
}

func week(doc *programme.Programme, n int) *programme.Week { return &doc.Blocks[0].Weeks[n-1] }

func TestItemsMoveWithinAndBetweenSessions(t *testing.T) {
	b, j := draft(t, testkit.Strong())
	from, to := week(j.Doc, 1).Sessions[0], week(j.Doc, 1).Sessions[1]
	first, third := from.Items[0], from.Items[2]

	out := edit(t, b, j.Doc, plan.Edit{Kind: plan.EditMove, At: third.ID, To: from.ID, Before: first.ID})
	s := week(out.Doc, 1).Sessions[0]
	assert.Equal(t, []programme.ID{third.ID, first.ID}, []programme.ID{s.Items[0].ID, s.Items[1].ID}, "an item keeps its id")
	assert.Len(t, s.Items, len(from.Items))

	two := edit(t, b, j.Doc, plan.Edit{Kind: plan.EditMove, At: third.ID, Also: []programme.ID{first.ID}, To: to.ID})
	assert.Len(t, week(two.Doc, 1).Sessions[0].Items, len(from.Items)-2)
	assert.Len(t, week(two.Doc, 1).Sessions[1].Items, len(to.Items)+2)
	for _, id := range []programme.ID{first.ID, third.ID} {
		spot, ok := two.Doc.Find(id)
		require.True(t, ok)
		assert.Equal(t, to.ID, spot.Session.ID)
	}
	assert.Contains(t, refused(t, b, j.Doc, plan.Edit{Kind: plan.EditMove, At: first.ID, To: "gone"}), "not in the programme")
	assert.Contains(t, refused(t, b, j.Doc, plan.Edit{Kind: plan.EditMove, At: first.ID, To: from.ID, Before: first.ID}), "there already")
}

func TestOnlyRangeWorkGoesHome(t *testing.T) {
	b, j := draft(t, testkit.Strong())
	require.NotEmpty(t, week(j.Doc, 1).Home)
	home := week(j.Doc, 1).Home[0]
	lift := find(t, j.View, 1, "lift-trap-bar")
	assert.Contains(t, refused(t, b, j.Doc, plan.Edit{Kind: plan.EditMove, At: lift.ID, To: home.ID}), "only range work")
	j.Doc.EachItem(func(it *programme.Item) {
		if spot, _ := j.Doc.Find(it.ID); it.Slot == library.SlotRange && spot.Session != nil && spot.Week.Number == 1 {
			out := edit(t, b, j.Doc, plan.Edit{Kind: plan.EditMove, At: it.ID, To: home.ID})
			assert.Len(t, week(out.Doc, 1).Home[0].Items, len(home.Items)+1)
		}
	})
}

func TestSessionsMoveBetweenDaysAndChangePlaces(t *testing.T) {
	b, j := draft(t, testkit.Strong())
	w := week(j.Doc, 1)
	a, c := w.Sessions[0], w.Sessions[1]
	out := edit(t, b, j.Doc, plan.Edit{Kind: plan.EditMove, At: a.ID, Date: a.Date.Add(1)})
	moved, _ := out.Doc.Session(a.ID)
	assert.Equal(t, a.Date.Add(1), moved.Date)

	out = edit(t, b, j.Doc, plan.Edit{Kind: plan.EditMove, At: a.ID, Date: c.Date})
	one, _ := out.Doc.Session(a.ID)
	two, _ := out.Doc.Session(c.ID)
	assert.Equal(t, c.Date, one.Date)
	assert.Equal(t, a.Date, two.Date)
	assert.Equal(t, c.ID, week(out.Doc, 1).Sessions[0].ID, "sessions stand in the order of their days")

	other := week(j.Doc, 2).Sessions[0]
	out = edit(t, b, j.Doc, plan.Edit{Kind: plan.EditMove, At: a.ID, Date: other.Date})
	assert.True(t, slices.ContainsFunc(week(out.Doc, 2).Sessions, func(s programme.Session) bool { return s.ID == a.ID }), "into another week")
	assert.Contains(t, refused(t, b, j.Doc, plan.Edit{Kind: plan.EditMove, At: a.ID, Date: a.Date.Add(400)}), "outside the weeks")
}

func TestCopiesHaveIDsOfTheirOwn(t *testing.T) {
	b, j := draft(t, testkit.Strong())
	w := week(j.Doc, 1)
	day := w.Sessions[0].Date.Add(1)
	out := edit(t, b, j.Doc, plan.Edit{Kind: plan.EditCopy, At: w.Sessions[0].ID, Date: day})
	require.NoError(t, out.Doc.Check())
	require.Len(t, week(out.Doc, 1).Sessions, len(w.Sessions)+1)
	made := week(out.Doc, 1).Sessions[1]
	assert.Equal(t, day, made.Date)
	assert.Equal(t, len(w.Sessions[0].Items), len(made.Items))
	assert.Contains(t, refused(t, b, j.Doc, plan.Edit{Kind: plan.EditCopy, At: w.Sessions[0].ID, Date: w.Sessions[1].Date}), "there is a session on")

	out = edit(t, b, j.Doc, plan.Edit{Kind: plan.EditCopy, At: w.ID, To: week(j.Doc, 3).ID})
	require.NoError(t, out.Doc.Check())
	third := week(out.Doc, 3)
	require.Len(t, third.Sessions, len(w.Sessions))
	assert.Equal(t, w.Sessions[0].Date.Add(14), third.Sessions[0].Date)
	assert.Equal(t, w.Sessions[0].Items[0].Exercise, third.Sessions[0].Items[0].Exercise)

	it, over := w.Sessions[0].Items[0], w.Sessions[1].Items[0]
	out = edit(t, b, j.Doc, plan.Edit{Kind: plan.EditCopy, At: it.ID, To: w.Sessions[1].ID, Before: over.ID, Over: true})
	_, there := out.Doc.Find(over.ID)
	assert.False(t, there)
	assert.Equal(t, it.Exercise, week(out.Doc, 1).Sessions[1].Items[0].Exercise)
	assert.Equal(t, it.Dose.Sets, week(out.Doc, 1).Sessions[1].Items[0].Dose.Sets)
}

func TestAWeekIsRepeatedAndTakenOut(t *testing.T) {
	b, j := draft(t, testkit.Strong())
	n := len(j.Doc.Blocks[0].Weeks)
	out := edit(t, b, j.Doc, plan.Edit{Kind: plan.EditRepeat, At: week(j.Doc, 2).ID})
	require.NoError(t, out.Doc.Check())
	require.Len(t, out.Doc.Blocks[0].Weeks, n+1)
	for i := range out.Doc.Blocks[0].Weeks {
		w := &out.Doc.Blocks[0].Weeks[i]
		assert.Equal(t, i+1, w.Number)
		assert.Equal(t, j.Doc.Blocks[0].Weeks[0].Start.Add(7*i), w.Start)
		for _, s := range w.Sessions {
			assert.False(t, s.Date.Before(w.Start) || !s.Date.Before(w.Start.Add(7)), "%s in the week of %s", s.Date, w.Start)
		}
	}
	last := edit(t, b, j.Doc, plan.Edit{Kind: plan.EditRepeat, At: week(j.Doc, n).ID})
	assert.Nil(t, week(last.Doc, n).Retest)
	require.NotNil(t, week(last.Doc, n+1).Retest, "the retest stays at the end")
	assert.Equal(t, week(j.Doc, n).Retest.Date.Add(7), week(last.Doc, n+1).Retest.Date)

	less := edit(t, b, out.Doc, plan.Edit{Kind: plan.EditRemove, At: week(out.Doc, 3).ID})
	assert.Len(t, less.Doc.Blocks[0].Weeks, n)
	assert.Equal(t, week(j.Doc, n).Start, week(less.Doc, n).Start)
}

func TestAnExtraSession(t *testing.T) {
	b, j := draft(t, testkit.Strong())
	like := week(j.Doc, 1).Sessions[0]
	day := like.Date.Add(1)
	full := edit(t, b, j.Doc, plan.Edit{Kind: plan.EditExtra, At: like.ID, Date: day})
	empty := edit(t, b, j.Doc, plan.Edit{Kind: plan.EditExtra, At: like.ID, Date: day, Empty: true})
	assert.Len(t, week(full.Doc, 1).Sessions[1].Items, len(like.Items))
	assert.Empty(t, week(empty.Doc, 1).Sessions[1].Items)
	assert.Equal(t, like.Budget, week(empty.Doc, 1).Sessions[1].Budget)
}

func TestItemsAreDoneInTurns(t *testing.T) {
	b, j := draft(t, testkit.Strong())
	s := week(j.Doc, 1).Sessions[0]
	second := s.Items[1]
	require.Greater(t, min(s.Items[0].Dose.Sets, second.Dose.Sets), 1)
	out := edit(t, b, j.Doc, plan.Edit{Kind: plan.EditTurns, At: second.ID, With: plan.Superset})
	it, session := out.View.Find(second.ID)
	assert.True(t, it.Superset)
	_, before := j.View.Find(second.ID)
	assert.Less(t, session.Minutes, before.Minutes, "the shorter rest is not waited for")

	at := slices.IndexFunc(s.Items, func(it programme.Item) bool { return it.Slot == library.SlotMain })
	require.GreaterOrEqual(t, at, 0)
	light := s.Items[at+1]
	pair := edit(t, b, j.Doc, plan.Edit{Kind: plan.EditTurns, At: light.ID, With: plan.HeavyLight})
	it, _ = pair.View.Find(light.ID)
	assert.True(t, it.Paired)
	assert.Contains(t, refused(t, b, j.Doc, plan.Edit{Kind: plan.EditTurns, At: s.Items[0].ID, With: plan.Superset}), "stands first")

	moved := edit(t, b, out.Doc, plan.Edit{Kind: plan.EditMove, At: second.ID, To: s.ID, Before: s.Items[0].ID})
	it, _ = moved.View.Find(second.ID)
	assert.False(t, it.Superset, "behind another item, or none, it is done alone")
}

// The minutes of a superset by hand: 3 sets each, rests 120 and 90 s. One after the other
// 2 × 120 + 2 × 90 = 420 s are rested; in turns 2 × 120 = 240 s.
func TestTheMinutesOfASuperset(t *testing.T) {
	dose := func(rest int) programme.Dose {
		return programme.Dose{Sets: 3, Reps: 8, Unit: library.Reps, RestSeconds: rest}
	}
	s := &programme.Session{Items: []programme.Item{{Exercise: "x", Dose: dose(120)}, {Exercise: "y", Dose: dose(90)}}}
	alone := derive.Seconds(s, library.Shipped())
	s.Items[1].Superset = true
	assert.InDelta(t, 180, alone-derive.Seconds(s, library.Shipped()), 1e-9)
}

func TestAnExerciseIsReplacedOverTheBlock(t *testing.T) {
	b, j := draft(t, testkit.Strong())
	count := func(doc *programme.Programme, exercise string) (n int) {
		doc.EachItem(func(it *programme.Item) {
			if it.Exercise == exercise {
				n++
			}
		})
		return n
	}
	n := count(j.Doc, "lift-trap-bar")
	require.Greater(t, n, 2)
	lift := find(t, j.View, 2, "lift-trap-bar")
	locked := edit(t, b, j.Doc, plan.Edit{Kind: plan.EditLock, At: lift.ID, On: true})
	out, err := b.Apply(locked.Doc, plan.Edit{Kind: plan.EditReplace, At: j.Doc.Blocks[0].ID, Instead: "lift-trap-bar", Exercise: "lift-goblet-squat"}, "r")
	require.NoError(t, err)
	assert.Equal(t, 1, count(out.Doc, "lift-trap-bar"), "what is locked stays")
	assert.Contains(t, out.Words, "1 locked stayed")
	assert.Contains(t, refused(t, b, j.Doc, plan.Edit{Kind: plan.EditReplace, Instead: "no-such", Exercise: "lift-goblet-squat"}), "does not stand")
}

func TestSeveralCellsAtOnce(t *testing.T) {
	b, j := draft(t, testkit.Strong())
	s := week(j.Doc, 1).Sessions[0]
	out := edit(t, b, j.Doc, plan.Edit{Kind: plan.EditDose, At: s.Items[0].ID, Also: []programme.ID{s.Items[1].ID, s.Items[2].ID}, Text: "1x3"})
	for i := range 3 {
		assert.Equal(t, 1, week(out.Doc, 1).Sessions[0].Items[i].Dose.Sets)
	}
	gone := edit(t, b, j.Doc, plan.Edit{Kind: plan.EditRemove, At: s.Items[0].ID, Also: []programme.ID{s.Items[1].ID}})
	assert.Len(t, week(gone.Doc, 1).Sessions[0].Items, len(s.Items)-2)
}

func TestWhatIsLockedIsNotChangedByHand(t *testing.T) {
	b, j := draft(t, testkit.Strong())
	s := week(j.Doc, 1).Sessions[0]
	locked := edit(t, b, j.Doc, plan.Edit{Kind: plan.EditLock, At: s.ID, On: true})
	one := 1
	for _, e := range []plan.Edit{
		{Kind: plan.EditDose, At: s.Items[0].ID, Dose: &plan.DosePatch{Sets: &one}},
		{Kind: plan.EditRemove, At: s.Items[0].ID},
		{Kind: plan.EditRemove, At: s.ID},
		{Kind: plan.EditMove, At: s.ID, Date: s.Date.Add(1)},
		{Kind: plan.EditMove, At: week(j.Doc, 1).Sessions[1].Items[0].ID, To: s.ID},
		{Kind: plan.EditRemove, At: week(j.Doc, 1).ID},
		{Kind: plan.EditRepeat, At: week(j.Doc, 1).ID},
	} {
		if e.Kind == plan.EditRepeat {
			edit(t, b, locked.Doc, e) // what is locked before it stays
			continue
		}
		assert.Contains(t, refused(t, b, locked.Doc, e), "locked", "%+v", e)
	}
	free := edit(t, b, locked.Doc, plan.Edit{Kind: plan.EditLock, At: s.ID})
	edit(t, b, free.Doc, plan.Edit{Kind: plan.EditRemove, At: s.ID})
	noted := edit(t, b, locked.Doc, plan.Edit{Kind: plan.EditNote, At: week(j.Doc, 1).ID, Note: " with the club's coach "})
	assert.Equal(t, "with the club's coach", noted.View.Blocks[0].Weeks[0].Note)
}

// Locks survive a new draft, and nothing else that blocks or warns is broken by them that
// the plan could keep.
func TestADraftAgainKeepsLocks(t *testing.T) {
	r := rand.New(rand.NewPCG(5, 6))
	for range 25 {
		f := testkit.Random(r)
		b, err := plan.BasisOf(f, method.Shipped())
		require.NoError(t, err)
		j, err := b.Generate("a")
		if err != nil {
			continue
		}
		var all []programme.ID
		j.Doc.EachItem(func(it *programme.Item) { all = append(all, it.ID) })
		if len(all) == 0 {
			continue
		}
		at := all[r.IntN(len(all))]
		doc := edit(t, b, j.Doc, plan.Edit{Kind: plan.EditLock, At: at, On: true}).Doc
		session := week(doc, 2).Sessions
		if len(session) > 0 {
			doc = edit(t, b, doc, plan.Edit{Kind: plan.EditLock, At: session[0].ID, On: true}).Doc
		}
		own := *f
		own.School = "strength-first"
		other, err := plan.BasisOf(&own, method.Shipped())
		require.NoError(t, err)
		made, err := other.Redraft(doc, "b")
		require.NoError(t, err)
		require.NoError(t, made.Doc.Check())
		spot, ok := made.Doc.Find(at)
		require.True(t, ok, "what is locked is there")
		was, _ := doc.Find(at)
		assert.Equal(t, was.Item, spot.Item, "as it was")
		if len(session) > 0 {
			kept, ok := made.Doc.Session(session[0].ID)
			require.True(t, ok)
			asStored, _ := doc.Session(session[0].ID)
			assert.Equal(t, asStored.Items, kept.Items)
		}
		for _, x := range made.Rules {
			if x.Status == rulebook.Broken && x.Severity == rulebook.Blocking && !strings.Contains(x.Text, "Held by your lock") {
				assert.Contains(t, brokenRules(j.Rules), x.Rule, "%s at %s: %s", x.Rule, x.Where, x.Text)
			}
		}
	}
}

func TestATypedDoseReadAgainChangesNothing(t *testing.T) {
	r := rand.New(rand.NewPCG(7, 8))
	for range 6 {
		b, err := plan.BasisOf(testkit.Random(r), method.Shipped())
		require.NoError(t, err)
		j, err := b.Generate("a")
		if err != nil {
			continue
		}
		j.Doc.EachItem(func(it *programme.Item) {
			typed, err := plan.ParseDose(derive.TypedWords(it.Dose))
			require.NoError(t, err, derive.TypedWords(it.Dose))
			patch, err := typed.For(it.Dose)
			require.NoError(t, err, derive.TypedWords(it.Dose))
			out := edit(t, b, j.Doc, plan.Edit{Kind: plan.EditDose, At: it.ID, Dose: patch})
			now, _ := out.Doc.Find(it.ID)
			require.Equal(t, derive.TypedWords(it.Dose), derive.TypedWords(now.Item.Dose))
		})
	}
}

func TestDosesAsTheyAreTyped(t *testing.T) {
	two := 2
	lift := programme.Dose{Sets: 3, Reps: 5, Unit: library.Reps, Sides: "both", Reserve: &two}
	one := programme.Dose{Sets: 3, Reps: 5, Unit: library.Reps, Sides: library.OneSided, Reserve: &two}
	hold := programme.Dose{Sets: 2, Seconds: 30, Unit: library.Seconds, Sides: "both"}
	swings := programme.Dose{Sets: 5, Reps: 3, Unit: library.Swings, Sides: "both", IntentPercent: 100}
	ball := programme.Dose{Sets: 3, Reps: 5, Unit: library.Reps, Sides: "both", BallKg: 3}
	for text, x := range map[string]struct {
		of   programme.Dose
		want string // the patch as JSON
	}{
		"4x6 @2":            {lift, `{"sets":4,"reps":6,"reserve":2}`},
		" 4 × 6  @ 3 ":      {lift, `{"sets":4,"reps":6,"reserve":3}`},
		"3x8/side 22.5kg":   {one, `{"sets":3,"reps":8,"loadKg":22.5}`},
		"3x8 each side":     {one, `{"sets":3,"reps":8}`},
		"22,5 kg":           {lift, `{"loadKg":22.5}`},
		"100lb":             {lift, `{"loadKg":45.36}`}, // 100 × 0.45359237 kg
		"3x30s rest 2min":   {hold, `{"sets":3,"seconds":30,"restSeconds":120}`},
		"5x3 90%":           {swings, `{"sets":5,"reps":3,"intentPercent":90}`},
		"4x5 4kg":           {ball, `{"sets":4,"reps":5,"ballKg":4}`},
		"6":                 {lift, `{"sets":6}`},
		"@1":                {lift, `{"reserve":1}`},
		"REST 90S 3X5 60KG": {lift, `{"sets":3,"reps":5,"loadKg":60,"restSeconds":90}`},
	} {
		typed, err := plan.ParseDose(text)
		require.NoError(t, err, text)
		patch, err := typed.For(x.of)
		require.NoError(t, err, text)
		got, err := json.Marshal(patch)
		require.NoError(t, err)
		assert.JSONEq(t, x.want, string(got), text)
	}
	for text, why := range map[string]string{
		"": "type a dose", "4y6": `"4y6" is not understood`, "4x6 4x7": "the number of sets is given twice", "4x6 @x": "no number left in reserve",
		"3x2x10": "end it with s", "30s": "no sets before it", "60kg 70kg": "the load is given twice", "rest soon": "is no rest",
		strings.Repeat("9", 100): "at most",
	} {
		_, err := plan.ParseDose(text)
		require.Error(t, err, text)
		assert.Contains(t, err.Error(), why, text)
	}
	for text, why := range map[string]string{"3x8/side": "both sides at once", "3x30s": "counted, not held", "90%": "only swings", "2x3x10s": "counted"} {
		typed, err := plan.ParseDose(text)
		require.NoError(t, err, text)
		_, err = typed.For(lift)
		assert.ErrorContains(t, err, why, text)
	}
}

func FuzzParseDose(f *testing.F) {
	for _, s := range []string{"4x6 @2", "3x8/side 22.5kg", "3x5x10s", "5x3 90% rest 2min", "x", "@@", "9999999999x1"} {
		f.Add(s)
	}
	f.Fuzz(func(t *testing.T, s string) {
		typed, err := plan.ParseDose(s)
		if err == nil && typed.Sets != nil {
			assert.GreaterOrEqual(t, *typed.Sets, 0)
		}
	})
}

// Every kind of edit is a change that is taken back to the byte.
func TestEveryEditIsTakenBack(t *testing.T) {
	b, j := draft(t, testkit.Strong())
	w := week(j.Doc, 2)
	it, two := w.Sessions[0].Items[0], w.Sessions[0].Items[2]
	for _, e := range []plan.Edit{
		{Kind: plan.EditDose, At: it.ID, Scope: plan.ScopeLine, Text: "2x2"},
		{Kind: plan.EditMove, At: two.ID, To: w.Sessions[1].ID},
		{Kind: plan.EditMove, At: w.Sessions[0].ID, Date: w.Sessions[0].Date.Add(1)},
		{Kind: plan.EditCopy, At: w.Sessions[0].ID, Date: w.Sessions[0].Date.Add(1)},
		{Kind: plan.EditCopy, At: w.ID, To: week(j.Doc, 3).ID},
		{Kind: plan.EditRepeat, At: w.ID},
		{Kind: plan.EditRemove, At: w.ID},
		{Kind: plan.EditRemove, At: w.Sessions[0].ID},
		{Kind: plan.EditExtra, At: w.Sessions[0].ID, Date: w.Sessions[0].Date.Add(1), Empty: true},
		{Kind: plan.EditLock, At: w.ID, On: true},
		{Kind: plan.EditNote, At: it.ID, Note: "slow down"},
	} {
		out := edit(t, b, j.Doc, e)
		back, err := change.Between(j.Doc, out.Doc).Inverse().Apply(out.Doc)
		require.NoError(t, err, e.Kind)
		was, err := json.Marshal(j.Doc)
		require.NoError(t, err)
		now, err := json.Marshal(back)
		require.NoError(t, err)
		assert.JSONEq(t, string(was), string(now), e.Kind)
	}
}

func TestDifferencesInWords(t *testing.T) {
	b, j := draft(t, testkit.Strong())
	lift := find(t, j.View, 2, "lift-trap-bar")
	out := edit(t, b, j.Doc, plan.Edit{Kind: plan.EditDose, At: lift.ID, Text: "2x3"})
	list := derive.Differences(j.View, out.View)
	require.Len(t, list, 1)
	assert.Equal(t, "Week 2, day A", list[0].Where)
	assert.Contains(t, list[0].Words, "2 × 3")
	assert.Contains(t, list[0].Words, "it was "+lift.DoseText)

	swapped := edit(t, b, j.Doc, plan.Edit{Kind: plan.EditSwap, At: find(t, j.View, 1, "lift-trap-bar").ID, Scope: plan.ScopeLine, Exercise: "lift-goblet-squat"})
	var words []string
	for _, d := range derive.Differences(j.View, swapped.View) {
		words = append(words, d.Where+": "+d.Words)
	}
	assert.Contains(t, strings.Join(words, "\n"), " instead of ")

	assert.Empty(t, derive.Differences(j.View, j.View))
	other := testkit.Strong()
	other.School = "swing-led-speed"
	b2, err := plan.BasisOf(other, method.Shipped())
	require.NoError(t, err)
	again, err := b2.Generate("z")
	require.NoError(t, err)
	list = derive.Differences(j.View, again.View)
	require.NotEmpty(t, list)
	assert.Contains(t, list[0].Words, "The school is")
	for _, d := range list {
		assert.NotRegexp(t, `\d{4}-\d{2}-\d{2}`, d.Words, "no ISO dates")
	}
}

// Two blocks that share no week are laid beside each other week by week.
func TestDifferencesOfBlocksThatFollowEachOther(t *testing.T) {
	f := testkit.Strong()
	b, j := draft(t, f)
	later := *f
	later.StartDate = f.StartDate.Add(28)
	nb, err := plan.BasisOf(&later, method.Shipped())
	require.NoError(t, err)
	next, err := nb.After(j.Doc).Generate("n")
	require.NoError(t, err)
	list := derive.Differences(b.Judge(j.Doc).View, next.View)
	require.NotEmpty(t, list)
	assert.Contains(t, list[0].Words, "It starts on")
	for _, d := range list[1:] {
		assert.NotContains(t, d.Words, "a week that", "%+v", d)
		assert.NotContains(t, d.Words, "it was on", "%+v", d)
	}
}
