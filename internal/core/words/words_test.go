package words_test

import (
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
