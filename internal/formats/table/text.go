package table

import (
	"bytes"
	"strconv"
	"strings"
	"unicode"
	"unicode/utf16"
	"unicode/utf8"

	"golang.org/x/text/encoding/charmap"
)

// Decode is the text of a file and how it was written where that is not UTF-8 or
// UTF-16; a file that is no text is an *Error.
func Decode(b []byte) (text, encoding string, err error) {
	if len(b) >= 2 && (b[0] == 0xFF && b[1] == 0xFE || b[0] == 0xFE && b[1] == 0xFF) {
		if b, err = fromUTF16(b); err != nil {
			return "", "", err
		}
	}
	switch {
	case len(bytes.TrimSpace(b)) == 0:
		return "", "", None("the file is empty: it needs a header row and rows under it")
	case bytes.IndexByte(b, 0) >= 0:
		return "", "", None("this is not a text file: save the sheet as \"CSV UTF-8\"")
	}
	b = bytes.TrimPrefix(b, []byte{0xEF, 0xBB, 0xBF})
	if utf8.Valid(b) {
		return string(b), "", nil
	}
	// What older programs on Windows write; in it nearly every byte is a letter, so
	// the signs no text has are looked for.
	if bytes.ContainsFunc(b, func(r rune) bool { return r < ' ' && !strings.ContainsRune("\t\n\r\f", r) }) || bytes.ContainsAny(b, "\x7f") || hasUnused1252(b) {
		return "", "", None("this is not a text file: save the sheet as \"CSV UTF-8\"")
	}
	b, err = charmap.Windows1252.NewDecoder().Bytes(b)
	return string(b), "Windows-1252", err
}

// hasUnused1252 reports a byte that stands for nothing in Windows-1252.
func hasUnused1252(b []byte) bool {
	for _, c := range b {
		switch c {
		case 0x81, 0x8D, 0x8F, 0x90, 0x9D:
			return true
		}
	}
	return false
}

// fromUTF16 decodes a text that begins with its byte order mark.
func fromUTF16(b []byte) ([]byte, error) {
	if len(b)%2 != 0 {
		return nil, None("the file says it is UTF-16 but has an odd number of bytes: it is cut off")
	}
	big := b[0] == 0xFE
	units := make([]uint16, 0, len(b)/2)
	for i := 2; i+1 < len(b); i += 2 {
		u := uint16(b[i]) | uint16(b[i+1])<<8
		if big {
			u = uint16(b[i])<<8 | uint16(b[i+1])
		}
		units = append(units, u)
	}
	return []byte(string(utf16.Decode(units))), nil
}

// formulaStarts are what a spreadsheet takes for the start of a formula or of a
// quoted text, wide forms included.
const formulaStarts = "=+-@'＝＋－＠|%"

// startsFormula reports whether a text's first letter that is seen makes a
// spreadsheet run it, or swallow it.
func startsFormula(s string) bool {
	if s == "" {
		return false
	}
	if s[0] == '\t' || s[0] == '\r' || s[0] == '\n' {
		return true
	}
	first, _ := utf8.DecodeRuneInString(strings.TrimLeftFunc(s, func(r rune) bool { return !unicode.IsGraphic(r) || unicode.IsSpace(r) }))
	return strings.ContainsRune(formulaStarts, first)
}

// Quote puts an apostrophe before a text a spreadsheet would run. Every cell that
// is written into a CSV goes through it.
func Quote(s string) string {
	if !startsFormula(s) {
		return s
	}
	if _, err := strconv.ParseFloat(s, 64); err == nil {
		return s
	}
	return "'" + s
}

// Unquote takes that apostrophe away again.
func Unquote(s string) string {
	if len(s) > 1 && s[0] == '\'' && startsFormula(s[1:]) {
		return s[1:]
	}
	return s
}
