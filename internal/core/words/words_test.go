package words_test

import (
	"math/rand/v2"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"

	"dunnock/internal/core/words"
)

func TestWhatCannotBeStoredOrShownIsNamed(t *testing.T) {
	for text, says := range map[string]string{
		"a\x00b": "code 0", "a\xff": "UTF-8", "a\nb": "line break", "a\u2028b": "line break", "\x1b[31m": "code 27", strings.Repeat("é", 21): "21 letters: at most 20",
		"": "can be seen", "   ": "can be seen", "\u200b\u200d": "can be seen", "\u3164": "can be seen", "\u2800": "can be seen", "\u0301": "can be seen",
	} {
		assert.Contains(t, words.Name(text, 20), says, "%q", text)
	}
	for _, fine := range []string{"Ö", "Ngũgĩ", "李", "O'Brien", strings.Repeat("é", 20), "e\u0301"} {
		assert.Empty(t, words.Name(fine, 20), fine)
	}
	assert.Empty(t, words.Text("two\nlines\tand a tab", 40))
	assert.Empty(t, words.Line("", 4))
}

// Within is Slips with a quicker answer for words that have other letters.
func TestWithin(t *testing.T) {
	of := func(r *rand.Rand) string {
		b := make([]byte, r.IntN(9))
		for i := range b {
			b[i] = "abcdé"[r.IntN(6)]
		}
		return string(b)
	}
	near := 0
	for seed := range uint64(20_000) {
		r := rand.New(rand.NewPCG(seed, 0))
		a, b := of(r), of(r)
		for most := range 3 {
			assert.Equal(t, words.Slips(a, b) <= most, words.Within(a, b, most), "%q %q %d", a, b, most)
		}
		if words.Slips(a, b) <= 2 {
			near++
		}
	}
	assert.Greater(t, near, 1000)
}
