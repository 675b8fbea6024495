package rulebook

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func TestABookIsReadWholeOrNotAtAll(t *testing.T) {
	const one = `{"id": "KIT", "severity": "blocking", "sentence": "Only what is there.", "source": "house rule"}`
	b, err := read([]byte(`{"version": "own.1", "rules": [` + one + `]}`))
	require.NoError(t, err)
	assert.Equal(t, "own.1", b.Version())
	assert.Len(t, b.Rules(), 1)
	for want, text := range map[string]string{
		"stands in the book twice":             `{"rules": [` + one + `,` + one + `]}`,
		`unknown field "limit"`:                `{"rules": [{"id": "KIT", "limit": 3}]}`,
		"needs an id, a sentence and a source": `{"rules": [{"id": "KIT", "severity": "advice"}]}`,
		`rule KIT: severity "grave"`:           `{"rules": [{"id": "KIT", "severity": "grave", "sentence": "s", "source": "s"}]}`,
	} {
		_, err := read([]byte(text))
		assert.ErrorContains(t, err, want)
	}
}
