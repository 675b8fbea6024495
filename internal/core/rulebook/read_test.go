package rulebook

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dunnock/internal/core/athlete"
)

func TestABookIsReadWholeOrNotAtAll(t *testing.T) {
	const one = `{"id": "KIT", "severity": "blocking", "sentence": "Only what is there.", "source": "house rule"}`
	b, err := Read([]byte(`{"version": "own.1", "rules": [` + one + `]}`))
	require.NoError(t, err)
	assert.Equal(t, "own.1", b.Version())
	assert.Len(t, b.Rules(), 1)
	for want, text := range map[string]string{
		"stands in the book twice":             `{"rules": [` + one + `,` + one + `]}`,
		`unknown field "limit"`:                `{"rules": [{"id": "KIT", "limit": 3}]}`,
		"needs an id, a sentence and a source": `{"rules": [{"id": "KIT", "severity": "advice"}]}`,
		`rule KIT: severity "grave"`:           `{"rules": [{"id": "KIT", "severity": "grave", "sentence": "s", "source": "s"}]}`,
	} {
		_, err := Read([]byte(text))
		assert.ErrorContains(t, err, want)
	}
}

func TestNumbersOfARuleAndItsSentenceBelongTogether(t *testing.T) {
	rule := func(id, params, sentence string) string {
		if params != "" {
			params = `"params": ` + params + `, `
		}
		return `{"rules": [{"id": "` + id + `", "severity": "warning", ` + params + `"sentence": "` + sentence + `", "source": "s"}]}`
	}
	b, err := Read([]byte(rule("EXPLOSIVE-REPS", `{"most": 4}`, "1 to {most} a set.")))
	require.NoError(t, err)
	assert.Equal(t, "1 to 4 a set.", b.Rules()[0].Sentence)
	assert.Equal(t, 4, b.Limits().ExplosiveReps.Most)

	for want, text := range map[string]string{
		"needs its numbers in params":           rule("EXPLOSIVE-REPS", "", "Few a set."),
		"most is missing or not above 0":        rule("EXPLOSIVE-REPS", `{}`, "Few a set."),
		`unknown field "least"`:                 rule("EXPLOSIVE-REPS", `{"most": 4, "least": 1}`, "1 to {most} a set."),
		"the sentence does not say most":        rule("EXPLOSIVE-REPS", `{"most": 4}`, "Few a set."),
		"speaks of least, which is not among":   rule("EXPLOSIVE-REPS", `{"most": 4}`, "{least} to {most} a set."),
		"rule KIT has numbers nothing reads":    rule("KIT", `{"most": 4}`, "At most {most}."),
		"cannot unmarshal string into Go value": rule("EXPLOSIVE-REPS", `"four"`, "1 to {most} a set."),
	} {
		_, err := Read([]byte(text))
		assert.ErrorContains(t, err, want)
	}
}

// A limit is read from the book's numbers, so a changed book changes it.
func TestALimitIsTheBooksOwn(t *testing.T) {
	f := Facts{By: Shipped().Limits(), Tier: athlete.AdvancedTier, Senior: true}
	assert.Equal(t, 20, f.MaxSwings(), "SENIOR says 20, of every session")
	assert.Equal(t, 30, f.MaxContacts())
	f.By.Senior.Swings, f.By.Senior.Contacts = 12, 9
	assert.Equal(t, 12, f.MaxSwings())
	assert.Equal(t, 9, f.MaxContacts())
	f = Facts{By: f.By, Tier: athlete.Novice, OtherShare: 50}
	assert.Equal(t, []int{30, 40, 50, 50}, []int{NoviceRamp(f, 1), NoviceRamp(f, 2), NoviceRamp(f, 3), NoviceRamp(f, 4)})
	f.By.BothSides.NoviceFirst = 10
	assert.Equal(t, 10, NoviceRamp(f, 1))
}
