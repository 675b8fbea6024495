package plan_test

import (
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dunnock/internal/core/athlete"
	"dunnock/internal/core/implement"
	"dunnock/internal/core/library"
	"dunnock/internal/core/plan"
	"dunnock/internal/core/programme"
	"dunnock/internal/core/programme/derive"
	"dunnock/internal/core/rulebook"
	"dunnock/internal/core/testkit"
)

// usual is a kind of piece as it is offered.
func usual(t *testing.T, kind plan.PieceKind) plan.Piece {
	t.Helper()
	for _, k := range plan.PieceKits() {
		if k.Kind == kind {
			return k.Usual
		}
	}
	t.Fatalf("there is no piece %q", kind)
	return plan.Piece{}
}

// placed are the items a piece added to a session of the view, in order.
func placed(s *derive.Session, rule string) (out []derive.Item) {
	for _, it := range s.Items {
		if it.Reason.Rule == "coach's choice ("+rule+")" {
			out = append(out, it)
		}
	}
	return out
}

// withBalance is a strong golfer whose driver balances 0.86 m from the butt.
func withBalance() *athlete.File {
	f := testkit.Strong()
	f.Implements = []implement.Implement{{ID: "own", Name: "Own driver", Kind: implement.Driver, MassG: 320, LengthM: 1.15, BalanceM: 0.86}}
	return f
}

// bare is a session of a week without fast swings in it, so that one piece is all there is.
func bare(t *testing.T, doc *programme.Programme) (*programme.Programme, *programme.Session) {
	t.Helper()
	doc = doc.Clone()
	s := &doc.Blocks[0].Weeks[0].Sessions[0]
	s.Items = slices.DeleteFunc(s.Items, func(it programme.Item) bool {
		e, _ := library.Shipped().Find(it.Exercise)
		return it.Slot == library.SlotSwings || it.Slot == library.SlotFinisher || e.OfGrip()
	})
	return doc, s
}

func TestSpeedSwingsGoClubByClub(t *testing.T) {
	b, j := draft(t, testkit.Strong())
	doc, s := bare(t, j.Doc)
	piece := usual(t, plan.SpeedPiece)
	piece.Clubs = []int{-20, 0, 15, -20}
	out := edit(t, b, doc, plan.Edit{Kind: plan.EditPiece, At: s.ID, Piece: &piece})
	got := placed(&out.View.Blocks[0].Weeks[0].Sessions[0], "Speed swings")
	require.Len(t, got, 4)
	for i, want := range []struct {
		exercise string
		percent  int
	}{{"swing-light", -20}, {"swing-driver", 0}, {"swing-weighted", 15}, {"swing-light", -20}} {
		assert.Equal(t, want.exercise, got[i].Exercise)
		assert.Equal(t, want.percent, got[i].Dose.ImplementPercent)
		assert.Equal(t, 10, got[i].FastSwings)
		assert.Contains(t, got[i].LoadText, "5 s between")
	}
	assert.Equal(t, library.SlotSwings, out.View.Blocks[0].Weeks[0].Sessions[0].Items[0].Slot, "before everything slower")
}

// Tens of a drill below full intent count half, at full intent all; a swing that leaves
// the ground is a landing (handbook: speed-swing sessions).
func TestDrillRoundsCountHalfUnlessTheyAreFast(t *testing.T) {
	b, j := draft(t, testkit.Strong())
	doc, s := bare(t, j.Doc)
	piece := usual(t, plan.DrillPiece)
	piece.Exercises = []string{"swing-step-in", "swing-jump-through"}
	out := edit(t, b, doc, plan.Edit{Kind: plan.EditPiece, At: s.ID, Piece: &piece})
	session := &out.View.Blocks[0].Weeks[0].Sessions[0]
	assert.Equal(t, 10, session.FastSwings(), "two rounds of ten")
	got := placed(session, "Drill round")
	assert.Equal(t, 0, got[0].Landings)
	assert.Equal(t, 10, got[1].Landings)
	assert.Contains(t, got[0].LoadText, "balance")
	for _, r := range out.Rules {
		assert.False(t, r.Rule == "SWINGS" && r.Status == rulebook.Broken && r.At == got[0].ID, "a round of ten is no long set: %s", r.Text)
	}
	piece.IntentPercent = 95
	out = edit(t, b, doc, plan.Edit{Kind: plan.EditPiece, At: s.ID, Piece: &piece})
	assert.Equal(t, 20, out.View.Blocks[0].Weeks[0].Sessions[0].FastSwings())
	assert.Contains(t, strings.Join(brokenRules(out.Rules), "\n"), "SWINGS", "ten fast ones in a set")
}

// One practitioner's dose: about five seconds, five times, hands in turn.
func TestAGripSessionIsBuiltOfItsParts(t *testing.T) {
	b, j := draft(t, testkit.Strong())
	doc, s := bare(t, j.Doc)
	piece := usual(t, plan.GripPiece)
	out := edit(t, b, doc, plan.Edit{Kind: plan.EditPiece, At: s.ID, Scope: plan.ScopeLine, Piece: &piece})
	got := placed(&out.View.Blocks[0].Weeks[0].Sessions[0], "Grip session")
	require.Len(t, got, 4)
	assert.Equal(t, "1 × 5 of 5 s each side, in turn", got[0].DoseText)
	assert.Equal(t, 50, got[0].Dose.Volume(), "seconds under tension, both hands")
	assert.Equal(t, "1 × 5 of 5 s", got[1].DoseText)
	assert.Equal(t, "1 × 10 each side, in turn", got[2].DoseText)
	easier := out.View.Blocks[0].Weeks[3]
	require.Equal(t, programme.Easier, easier.Kind)
	for i := range easier.Sessions {
		if easier.Sessions[i].Letter == s.Letter {
			assert.Equal(t, 3, placed(&easier.Sessions[i], "Grip session")[0].Dose.Times, "the easier week holds less often")
		}
	}
}

// The lever climbs: choked down 20 cm the driver puts 320 g · g · 0.58 m on the wrist;
// every rising week at most 20% more; the roll starts lower.
func TestALeverClimbsWeekByWeek(t *testing.T) {
	b, j := draft(t, withBalance())
	doc, s := bare(t, j.Doc)
	piece := usual(t, plan.LeverPiece)
	out := edit(t, b, doc, plan.Edit{Kind: plan.EditPiece, At: s.ID, Scope: plan.ScopeLine, Piece: &piece})
	var hinge, roll []float64
	for wi := range out.View.Blocks[0].Weeks {
		for si := range out.View.Blocks[0].Weeks[wi].Sessions {
			for _, it := range placed(&out.View.Blocks[0].Weeks[wi].Sessions[si], "Forearm lever") {
				if it.Exercise == "lever-hinge" {
					hinge = append(hinge, it.Dose.LeverNm)
				} else {
					roll = append(roll, it.Dose.LeverNm)
				}
			}
		}
	}
	require.Len(t, hinge, 4)
	assert.InDelta(t, 0.320*9.80665*0.58, hinge[0], 0.005)
	assert.InDelta(t, 0.320*9.80665*0.48, roll[0], 0.005)
	for i := 1; i < 3; i++ {
		assert.Greater(t, hinge[i], hinge[i-1])
		assert.LessOrEqual(t, hinge[i]/hinge[i-1], 1.20)
	}
	assert.Equal(t, hinge[2], hinge[3], "the easier week keeps it")

	id := placed(&out.View.Blocks[0].Weeks[1].Sessions[0], "Forearm lever")[0].ID
	full := 0
	out = edit(t, b, out.Doc, plan.Edit{Kind: plan.EditDose, At: id, Dose: &plan.DosePatch{ChokeCm: &full}})
	it, _ := out.View.Find(id)
	assert.InDelta(t, 0.320*9.80665*0.78, it.Dose.LeverNm, 0.005)
	assert.Contains(t, strings.Join(brokenRules(out.Rules), "\n"), "LOAD-STEP", "from choked down to full length in a week")
}

func TestWhatAPieceCannotBeIsSaidByName(t *testing.T) {
	b, j := draft(t, testkit.Strong())
	s := j.Doc.Blocks[0].Weeks[0].Sessions[0]
	for name, change := range map[string]func(*plan.Edit){
		"at":                    func(e *plan.Edit) { e.At = "nothing" },
		"piece":                 func(e *plan.Edit) { e.Piece = nil },
		"piece.kind":            func(e *plan.Edit) { e.Piece.Kind = "juggling" },
		"piece.exercises":       func(e *plan.Edit) { e.Piece.Exercises = nil },
		"piece.clubs":           func(e *plan.Edit) { e.Piece.Clubs = nil },
		"dose.sets":             func(e *plan.Edit) { e.Piece.Sets = 0 },
		"dose.implementPercent": func(e *plan.Edit) { e.Piece.Clubs = []int{300} },
		"dose.betweenSeconds":   func(e *plan.Edit) { e.Piece.BetweenSeconds = -1 },
	} {
		piece := usual(t, plan.SpeedPiece)
		e := plan.Edit{Kind: plan.EditPiece, At: s.ID, Piece: &piece}
		change(&e)
		_, err := b.Apply(j.Doc, e, "e")
		var no *plan.EditError
		require.ErrorAs(t, err, &no, name)
		assert.Equal(t, name, no.Field)
	}
	f := testkit.Strong()
	f.Limits = []athlete.Limit{{Region: "wrist-hand", Side: "lead", Kind: athlete.NoneOfPattern, SetBy: "physio"}}
	b, j = draft(t, f)
	piece := usual(t, plan.SpeedPiece)
	_, err := b.Apply(j.Doc, plan.Edit{Kind: plan.EditPiece, At: j.Doc.Blocks[0].Weeks[0].Sessions[0].ID, Piece: &piece}, "e")
	require.ErrorContains(t, err, "give a reason")
}
