package plan_test

import (
	"math/rand/v2"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dunnock/internal/core/athlete"
	"dunnock/internal/core/library"
	"dunnock/internal/core/method"
	"dunnock/internal/core/plan"
	"dunnock/internal/core/programme"
	"dunnock/internal/core/programme/derive"
	"dunnock/internal/core/testkit"
)

// draft is a golfer's basis and their programme as it was generated.
func draft(t *testing.T, f *athlete.File) (*plan.Basis, *plan.Judged) {
	t.Helper()
	b, err := plan.BasisOf(f, method.Shipped())
	require.NoError(t, err)
	j, err := b.Generate("t")
	require.NoError(t, err)
	return b, j
}

func edit(t *testing.T, b *plan.Basis, doc *programme.Programme, e plan.Edit) *plan.Judged {
	t.Helper()
	j, err := b.Apply(doc, e, "e")
	require.NoError(t, err)
	return j.Judged
}

func TestADoseIsChangedInACopy(t *testing.T) {
	b, j := draft(t, testkit.Strong())
	lift := find(t, j.View, 2, "lift-trap-bar")
	load := 190.0
	out := edit(t, b, j.Doc, plan.Edit{Kind: plan.EditDose, At: lift.ID, Dose: &plan.DosePatch{LoadKg: &load}})
	assert.Equal(t, 190.0, *find(t, out.View, 2, "lift-trap-bar").Dose.LoadKg)
	assert.Equal(t, lift.ID, find(t, out.View, 2, "lift-trap-bar").ID, "it is the item it was")
	assert.Contains(t, strings.Join(brokenRules(out.Rules), "\n"), "LOAD-STEP")
	assert.Equal(t, j.View, b.Judge(j.Doc).View, "the given programme stays as it was")
}

func TestASwapAlongALinePutsNewItemsThere(t *testing.T) {
	b, j := draft(t, testkit.Strong())
	lift := find(t, j.View, 2, "lift-trap-bar")
	out := edit(t, b, j.Doc, plan.Edit{Kind: plan.EditSwap, At: lift.ID, Scope: plan.ScopeLine, Exercise: "lift-goblet-squat"})
	find(t, out.View, 1, "lift-trap-bar")
	for w := 2; w <= 4; w++ {
		it := find(t, out.View, w, "lift-goblet-squat")
		assert.Nil(t, it.Dose.LoadKg, "no kilograms without a test")
		assert.Contains(t, it.LoadText, "in reserve")
		assert.True(t, strings.HasPrefix(string(it.ID), "e-"), "another exercise is another item: %s", it.ID)
	}
}

func TestAnItemIsTakenOut(t *testing.T) {
	b, j := draft(t, testkit.Strong())
	lift := find(t, j.View, 2, "lift-trap-bar")
	out := edit(t, b, j.Doc, plan.Edit{Kind: plan.EditRemove, At: lift.ID, Scope: plan.ScopeCell})
	assert.Len(t, out.View.Blocks[0].Weeks[1].Sessions[0].Items, len(j.View.Blocks[0].Weeks[1].Sessions[0].Items)-1)
	_, found := out.Doc.Find(lift.ID)
	assert.False(t, found)
}

func TestWhatIsAddedStandsInItsSlotsOrder(t *testing.T) {
	b, j := draft(t, testkit.Strong())
	session := j.Doc.Blocks[0].Weeks[0].Sessions[0].ID
	out := edit(t, b, j.Doc, plan.Edit{Kind: plan.EditAdd, At: session, Exercise: "lift-hip-thrust"})
	find(t, out.View, 1, "lift-hip-thrust")
	assert.NotContains(t, strings.Join(brokenRules(out.Rules), "\n"), "ORDER")
	out = edit(t, b, out.Doc, plan.Edit{Kind: plan.EditAdd, At: session, Exercise: "lift-box-squat"})
	out = edit(t, b, out.Doc, plan.Edit{Kind: plan.EditAdd, At: session, Exercise: "lift-front-squat"})
	out = edit(t, b, out.Doc, plan.Edit{Kind: plan.EditAdd, At: session, Exercise: "lift-romanian"})
	assert.Contains(t, strings.Join(brokenRules(out.Rules), "\n"), "TIME")
}

// From this week on, a dose moves as far in every week: the wave keeps its shape,
// and a line that no longer rises gets advice.
func TestAnEditOfALineShiftsItsWave(t *testing.T) {
	b, j := draft(t, testkit.Strong())
	loads := func(p *derive.Programme) (out []float64) {
		for w := 1; w <= 4; w++ {
			out = append(out, *find(t, p, w, "lift-trap-bar").Dose.LoadKg)
		}
		return out
	}
	before := loads(j.View)
	require.NotEqual(t, before[0], before[2], "a wave to begin with")
	first := find(t, j.View, 1, "lift-trap-bar")
	along := func(x plan.DosePatch) *plan.Judged {
		return edit(t, b, j.Doc, plan.Edit{Kind: plan.EditDose, At: first.ID, Scope: plan.ScopeLine, Dose: &x})
	}
	up := before[0] + 2.5
	out := along(plan.DosePatch{LoadKg: &up})
	after := loads(out.View)
	for i := range before {
		assert.InDelta(t, before[i]+2.5, after[i], 1e-9, "week %d", i+1)
	}
	assert.NotContains(t, strings.Join(brokenRules(out.Rules), "\n"), "FLAT")

	sets := first.Dose.Sets + 1
	out = along(plan.DosePatch{Sets: &sets})
	for w := 1; w <= 4; w++ {
		assert.Equal(t, find(t, j.View, w, "lift-trap-bar").Dose.Sets+1, find(t, out.View, w, "lift-trap-bar").Dose.Sets)
	}
	most := 12
	assert.Equal(t, 12, find(t, along(plan.DosePatch{Sets: &most}).View, 3, "lift-trap-bar").Dose.Sets, "nothing leaves what a dose may be")
	none := 0.0
	assert.Nil(t, find(t, along(plan.DosePatch{LoadKg: &none}).View, 3, "lift-trap-bar").Dose.LoadKg)
}

func TestEditsThatCannotBeDone(t *testing.T) {
	f := testkit.Strong()
	f.Limits = []athlete.Limit{{Region: "knee", Kind: athlete.NoImpact, SetBy: "doctor"}}
	b, j := draft(t, f)
	session := j.Doc.Blocks[0].Weeks[0].Sessions[0]
	first := session.Items[0].ID
	thousand := 1000
	rows := []struct {
		edit  plan.Edit
		field string
	}{
		{plan.Edit{Kind: "shuffle"}, "kind"},
		{plan.Edit{Kind: plan.EditRemove, At: "gone"}, "at"},
		{plan.Edit{Kind: plan.EditAdd, At: "gone"}, "at"},
		{plan.Edit{Kind: plan.EditAdd, At: session.ID, Exercise: "no-such"}, "exercise"},
		{plan.Edit{Kind: plan.EditSwap, At: first, Exercise: "lift-trap-bar"}, "exercise"},
		{plan.Edit{Kind: plan.EditAdd, At: session.ID, Exercise: "jump-countermovement"}, "note"},
		{plan.Edit{Kind: plan.EditDose, At: first, Dose: &plan.DosePatch{Sets: &thousand}}, "dose.sets"},
		{plan.Edit{Kind: plan.EditDose, At: first}, "dose"},
	}
	for _, r := range rows {
		_, err := b.Apply(j.Doc, r.edit, "e")
		var e *plan.EditError
		if assert.ErrorAs(t, err, &e, "%+v", r.edit) {
			assert.Equal(t, r.field, e.Field)
		}
	}
	out := edit(t, b, j.Doc, plan.Edit{Kind: plan.EditAdd, At: session.ID, Exercise: "jump-countermovement", Note: "Doctor on the phone today"})
	assert.Contains(t, strings.Join(brokenRules(out.Rules), "\n"), "CONTRA")
}

func TestAlternativesPutForbiddenOnesLast(t *testing.T) {
	f := testkit.Strong()
	f.Training.Kit = []string{"dumbbells"}
	b, j := draft(t, f)
	var at programme.ID
	for _, it := range j.Doc.Blocks[0].Weeks[0].Sessions[0].Items {
		if it.Slot == library.SlotMain {
			at = it.ID
		}
	}
	alts, err := b.Alternatives(j.Doc, at, "")
	require.NoError(t, err)
	blocked := false
	for _, a := range alts {
		assert.False(t, blocked && a.Blocked == "", "an allowed exercise stands behind a forbidden one")
		blocked = blocked || a.Blocked != ""
	}
	assert.True(t, blocked)
	assert.True(t, slices.ContainsFunc(alts, func(a plan.Alternative) bool { return a.Current && a.Blocked == "" }))
	var e *plan.EditError
	_, err = b.Alternatives(j.Doc, "gone", "")
	require.ErrorAs(t, err, &e)
	assert.Equal(t, "at", e.Field)
	_, err = b.Alternatives(j.Doc, j.Doc.Blocks[0].Weeks[0].Sessions[0].ID, "dance")
	require.ErrorAs(t, err, &e)
	assert.Equal(t, "slot", e.Field)
}

// Whatever a coach does to a programme, it stays whole: every part has an id of
// its own, what was not touched keeps its id, nothing panics.
func TestRandomEditsKeepAProgrammeWhole(t *testing.T) {
	kinds := []plan.EditKind{plan.EditDose, plan.EditSwap, plan.EditAdd, plan.EditRemove}
	for seed := range uint64(40) {
		r := rand.New(rand.NewPCG(seed, 11))
		b, j := draft(t, testkit.Random(r))
		doc := j.Doc
		for step := range 12 {
			items, sessions := parts(doc)
			if len(items) == 0 {
				break
			}
			n := r.IntN(20)
			kind := kinds[r.IntN(len(kinds))]
			at := items[r.IntN(len(items))]
			if kind == plan.EditAdd {
				at = sessions[r.IntN(len(sessions))]
			}
			e := plan.Edit{
				Kind: kind, At: at, Scope: []plan.Scope{plan.ScopeCell, plan.ScopeLine}[r.IntN(2)],
				Dose: &plan.DosePatch{Sets: &n, Reps: &n, Seconds: &n, Reserve: &n}, Note: "a reason",
			}
			if alts, err := b.Alternatives(doc, at, library.SlotTrunk); err == nil && len(alts) > 0 {
				e.Exercise = alts[r.IntN(len(alts))].Exercise
			}
			out, err := b.Apply(doc, e, "e"+string(rune('a'+step)))
			if err != nil {
				var refused *plan.EditError
				require.ErrorAs(t, err, &refused, "seed %d: %+v", seed, e)
				continue
			}
			require.NoError(t, out.Doc.Check())
			kept, _ := parts(out.Doc)
			for _, id := range items {
				before, _ := doc.Find(id)
				after, found := out.Doc.Find(id)
				require.True(t, found || kind == plan.EditRemove || kind == plan.EditSwap, "seed %d: %s lost %s", seed, kind, id)
				if found {
					require.Equal(t, before.Item.Exercise, after.Item.Exercise, "an id stands for one exercise")
				}
			}
			require.GreaterOrEqual(t, len(kept), len(items)-4*3*2)
			doc = out.Doc
		}
	}
}

// parts are the ids of the items of a document, and of its sessions.
func parts(doc *programme.Programme) (items, sessions []programme.ID) {
	for _, w := range doc.Blocks[0].Weeks {
		for _, s := range w.Sessions {
			sessions = append(sessions, s.ID)
			for _, it := range s.Items {
				items = append(items, it.ID)
			}
		}
		for _, h := range w.Home {
			for _, it := range h.Items {
				items = append(items, it.ID)
			}
		}
	}
	return items, sessions
}

// An edit elsewhere changes neither the loads nor the repetitions that were set.
func TestLoadsAreSteadyUnderOtherEdits(t *testing.T) {
	b, j := draft(t, testkit.Weak())
	last := j.Doc.Blocks[0].Weeks[3].Sessions[0].Items
	out := edit(t, b, j.Doc, plan.Edit{Kind: plan.EditRemove, At: last[len(last)-1].ID})
	for w := 1; w <= 3; w++ {
		assert.Equal(t, find(t, j.View, w, "lift-trap-bar").Dose, find(t, out.View, w, "lift-trap-bar").Dose, "week %d", w)
	}
}

// A brief of another length makes a block that keeps the rules: it rises to its
// last week but one, and falls in the last.
func TestABlockIsAsLongAsItsBriefAsks(t *testing.T) {
	b, j := draft(t, testkit.Strong())
	for weeks := 2; weeks <= 6; weeks++ {
		brief := b.Brief()
		brief.Weeks, brief.Emphasis = weeks, "what the season asks"
		made := b.Block(brief)
		block, notes := made.Block, made.Notes
		doc := *j.Doc
		doc.Blocks, doc.Notes = []programme.Block{block}, notes
		doc.Name("b")
		require.NoError(t, doc.Check())
		got := b.Judge(&doc)
		assert.Equal(t, "what the season asks", got.View.Blocks[0].Emphasis)
		require.Len(t, got.View.Blocks[0].Weeks, weeks)
		for i, w := range got.View.Blocks[0].Weeks {
			assert.Equal(t, i == weeks-1, w.Kind == programme.Easier)
			assert.Equal(t, i == weeks-1, w.Retest != nil)
		}
		assert.Empty(t, brokenRules(got.Rules), "%d weeks", weeks)
	}
}
