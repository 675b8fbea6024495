package referral_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dunnock/internal/core/measure"
	"dunnock/internal/core/method"
	"dunnock/internal/core/quality"
	"dunnock/internal/core/referral"
	"dunnock/internal/core/testkit"
)

func text(n referral.Note) string {
	var b strings.Builder
	for _, p := range n.Parts {
		b.WriteString("## " + p.Title + "\n" + strings.Join(p.Lines, "\n") + "\n")
	}
	return b.String()
}

func TestANoteSaysWhatWasSeenAndNothingMore(t *testing.T) {
	f := testkit.Weak() // left-sided: the lead hip is the right one
	for i := range f.Screens[0].Trials {
		if tr := &f.Screens[0].Trials[i]; tr.Test == "cmj" && tr.Number == 2 {
			*tr = measure.Trial{Test: "cmj", Number: 2, Status: measure.Stopped, Pain: 6, Region: "hip", Note: "sharp on landing"}
		}
		if tr := &f.Screens[0].Trials[i]; tr.Test == "hip-ir" && tr.Side == "lead" {
			tr.Pain, tr.Region = 2, "hip"
		}
	}
	sch, _ := method.Shipped().Schools.Find("")
	n := referral.Of(f, quality.Compute(f, sch, nil), referral.Physiotherapist, "Practice", "Coach", " Please see before Friday. ")
	got := text(n)
	assert.Contains(t, got, "Pain 6 of 10 (hip) on Tue 24 Nov 2026 in: Countermovement jump. In the golfer's words: sharp on landing.")
	assert.Contains(t, got, "Hip internal rotation, prone, lead (right)")
	assert.Contains(t, got, "Countermovement jump: stopped, no result.")
	assert.Contains(t, got, "lead 45.0° against 35.0°", "what was measured in the region")
	assert.Contains(t, got, "Hip: none of this pattern")
	assert.Equal(t, "Please see before Friday.", n.Remark)
	assert.Empty(t, n.Urgent)
	for _, word := range []string{"diagnos", "tear", "impingement", "you have"} {
		assert.NotContains(t, strings.ToLower(got), word)
	}
	assert.Contains(t, n.Footer, "makes no diagnosis")
}

func TestARedFlagIsUrgent(t *testing.T) {
	f := testkit.Strong()
	f.Clearance.Yes = []string{"flag-chest-pain"}
	sch, _ := method.Shipped().Schools.Find("")
	n := referral.Of(f, quality.Compute(f, sch, nil), referral.Doctor, "P", "C", "")
	require.NotEmpty(t, n.Urgent)
	assert.Contains(t, n.Urgent, "is stopped until a doctor has seen it")
	assert.Contains(t, text(n), "Answered yes on Tue 24 Nov 2026")
}
