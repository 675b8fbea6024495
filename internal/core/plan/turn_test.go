package plan_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dunnock/internal/core/library"
	"dunnock/internal/core/plan"
	"dunnock/internal/core/programme"
	"dunnock/internal/core/quality"
	"dunnock/internal/core/review"
	"dunnock/internal/core/testkit"
)

// following is the basis of a block behind a first one that a quality led, with how many
// blocks it led in a row.
func following(t *testing.T, blocks int) (*plan.Basis, []*programme.Programme, string) {
	t.Helper()
	f := testkit.Strong()
	b, j := draft(t, f)
	lead := b.Read.Leaders[0]
	docs := make([]*programme.Programme, blocks)
	for i := range docs {
		docs[i] = j.Doc
	}
	next := *f
	next.StartDate = j.Doc.StartDate.Add(28)
	nb, err := plan.BasisOf(&next, b.Method())
	require.NoError(t, err)
	return nb.After(j.Doc), docs, lead
}

func decided(lead string, d review.Decision) *review.Retest {
	return &review.Retest{Judged: []review.Judged{{Quality: lead, Was: "lead", Decision: d, Words: "It was decided."}}}
}

func leads(t *testing.T, b *plan.Basis) []string {
	t.Helper()
	j, err := b.Generate("n")
	require.NoError(t, err)
	var out []string
	for _, a := range j.Doc.Asked {
		if a.Level == string(quality.Lead) {
			out = append(out, a.Quality)
		}
	}
	assert.Contains(t, strings.Join(j.Doc.Notes, "\n"), "It was decided.")
	return out
}

func TestTheNextBlockIsDraftedFromTheRetest(t *testing.T) {
	b, docs, lead := following(t, 1)
	assert.Equal(t, []string{lead}, leads(t, b.Turned(decided(lead, review.Keep), docs)))
	assert.Equal(t, []string{lead}, leads(t, b.Turned(decided(lead, review.Progress), docs)))
	assert.NotContains(t, leads(t, b.Turned(decided(lead, review.Switch), docs)), lead)
	built := b.Turned(decided(lead, review.BuildOnce), docs)
	assert.NotContains(t, leads(t, built), lead)
	j, err := built.Generate("n")
	require.NoError(t, err)
	for _, a := range j.Doc.Asked {
		if a.Quality == lead {
			assert.Equal(t, string(quality.Build), a.Level, "built for one block")
		}
	}
	assert.Same(t, b, b.Turned(nil, docs), "without a retest the read decides")
	assert.Equal(t, b.Read.Leaders[0], lead, "the basis it is made from stays")
}

func TestNothingLeadsForTooManyBlocksInARow(t *testing.T) {
	b, docs, lead := following(t, 3)
	out := b.Turned(decided(lead, review.Keep), docs)
	assert.NotContains(t, leads(t, out), lead)
	j, err := out.Generate("n")
	require.NoError(t, err)
	assert.Contains(t, strings.Join(j.Doc.Notes, "\n"), "It has led 3 blocks in a row")
}

func TestTowardTheUpperEndMoreIsAskedAndOneExerciseGivesWay(t *testing.T) {
	b, docs, lead := following(t, 1)
	plain, err := b.Turned(decided(lead, review.Keep), docs).Generate("n")
	require.NoError(t, err)
	upper, err := b.Turned(decided(lead, review.UpperEnd), docs).Generate("n")
	require.NoError(t, err)
	low := func(p *programme.Programme) float64 {
		for _, a := range p.Asked {
			if a.Quality == lead {
				return a.Low
			}
		}
		return 0
	}
	assert.Greater(t, low(upper.Doc), low(plain.Doc))
	used := func(p *programme.Programme) map[string]bool {
		out := map[string]bool{}
		p.EachItem(func(it *programme.Item) {
			if e, ok := library.Shipped().Find(it.Exercise); ok && e.Serves[lead] >= 0.5 {
				out[e.ID] = true
			}
		})
		return out
	}
	assert.NotEqual(t, used(docs[0]), used(upper.Doc), "an exercise of what has not moved gives way")
	for _, r := range upper.Rules {
		assert.False(t, r.Status == "broken" && r.Severity != "advice", "%s: %s", r.Rule, r.Text)
	}
}

// Of two that led level one is tested again and leads on: the other goes on by the read.
func TestWhatLedBesideAndWasNotTestedLeadsOn(t *testing.T) {
	b, docs, lead := following(t, 1)
	require.Len(t, b.Read.Leaders, 2)
	other := b.Read.Leaders[1]
	r := decided(lead, review.Keep)
	assert.Equal(t, []string{lead}, leads(t, b.Turned(r, docs)))
	r.Judged = append(r.Judged, review.Judged{Quality: other, Was: "lead", Decision: review.Untested, Words: "Not tested."})
	assert.ElementsMatch(t, []string{lead, other}, leads(t, b.Turned(r, docs)))
	r.Judged[1].Decision = review.BuildOnce
	assert.Equal(t, []string{lead}, leads(t, b.Turned(r, docs)))
}
