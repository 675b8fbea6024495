package plan_test

import (
	"math/rand/v2"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dunnock/internal/core/athlete"
	"dunnock/internal/core/library"
	"dunnock/internal/core/method"
	"dunnock/internal/core/plan"
	"dunnock/internal/core/rulebook"
	"dunnock/internal/core/testkit"
)

// next makes the programme that follows one of the same file, from the day behind it on.
func next(t *testing.T, f *athlete.File, first *plan.Result) *plan.Judged {
	t.Helper()
	g := *f
	weeks := first.Doc.Blocks[0].Weeks
	g.StartDate = weeks[len(weeks)-1].Start.Add(7)
	b, err := plan.BasisOf(&g, method.Shipped())
	require.NoError(t, err)
	j, err := b.After(first.Doc).Generate("n")
	require.NoError(t, err)
	return j
}

// A second block breaks no rule either: at most two exercises of a session are new, and
// what leads, the tested lift and most of the rest stay.
func TestTheNextBlockGoesOnFromTheLast(t *testing.T) {
	stayed, changed := 0, 0
	for seed := range golfers() {
		f := testkit.Random(rand.New(rand.NewPCG(seed, 31)))
		first := generate(t, f)
		j := next(t, f, first)
		for _, res := range j.Rules {
			if res.Status == rulebook.Broken && res.Severity != rulebook.Advice && res.Rule != "CLEAR" {
				t.Errorf("seed %d: %s at %s: %s", seed, res.Rule, res.Place, res.Text)
			}
		}
		if f.School == "layer-on-layer" {
			continue // its second block is another layer
		}
		for si := range j.View.Blocks[0].Weeks[0].Sessions {
			s := &j.View.Blocks[0].Weeks[0].Sessions[si]
			for _, it := range s.Items {
				if it.Slot == library.SlotRange {
					continue
				}
				if j.Doc.Before.Held(s.Letter, it.Exercise) {
					stayed++
				} else {
					changed++
				}
			}
		}
	}
	t.Logf("%d lines stayed, %d changed", stayed, changed)
	assert.Greater(t, stayed, 2*changed)
	assert.Positive(t, changed)
}

func TestThePairOfBlocksClimbsTheLadder(t *testing.T) {
	f := testkit.Sound()
	first := generate(t, f)
	j := next(t, f, first)
	require.NotNil(t, j.Doc.Before)
	steps := 0
	for _, s := range j.Doc.Blocks[0].Weeks[0].Sessions {
		for _, it := range s.Items {
			e, ok := library.Shipped().Find(it.Exercise)
			require.True(t, ok)
			if slices.Contains(j.Doc.Before.Lines[s.Letter], e.Easier) {
				steps++
			}
		}
	}
	assert.Positive(t, steps, "something is a step up from what was done")
}
