// Package words judges texts people typed or files brought: whether they can be
// stored and shown as they are. It holds no wording of its own but the sentence
// that says what is wrong.
package words

import (
	"fmt"
	"strings"
	"unicode"
	"unicode/utf8"
)

// Line says what is wrong with a text of one line of at most most letters, or "".
// An empty text is fine.
func Line(s string, most int) string {
	if strings.ContainsAny(s, "\n\r\u2028\u2029\v\f") {
		return "has a line break: write it on one line"
	}
	return Text(s, most)
}

// Text is Line for a text that may have several lines.
func Text(s string, most int) string {
	if !utf8.ValidString(s) {
		return "holds bytes that are no text (not UTF-8)"
	}
	for _, r := range s {
		if unicode.IsControl(r) && r != '\n' && r != '\r' && r != '\t' {
			return fmt.Sprintf("holds a character that cannot be shown (code %d): type it anew", r)
		}
	}
	if n := utf8.RuneCountInString(s); n > most {
		return fmt.Sprintf("has %d letters: at most %d", n, most)
	}
	return ""
}

// Name is Line for what must be there and be seen: a name of blanks or of
// characters without a shape is none.
func Name(s string, most int) string {
	if problem := Line(s, most); problem != "" {
		return problem
	}
	if !Visible(s) {
		return fmt.Sprintf("needs 1 to %d letters that can be seen", most)
	}
	return ""
}

// Visible reports whether a text shows anything at all.
func Visible(s string) bool {
	for _, r := range s {
		if unicode.IsGraphic(r) && !unicode.IsSpace(r) && !unicode.Is(unicode.Mn, r) && !blank[r] {
			return true
		}
	}
	return false
}

// blank are letters by their class that have no shape.
var blank = map[rune]bool{'\u115F': true, '\u1160': true, '\u3164': true, '\uFFA0': true, '\u2800': true, '\u034F': true}
