package formats

import (
	_ "embed"
	"fmt"
	"io"
	"strings"
	"sync"
	"unicode"

	"github.com/johnfercher/maroto/v2/pkg/consts/pagesize"
	"golang.org/x/image/font/sfnt"

	"dunnock/internal/core/referral"
)

//go:embed fonts/regular.ttf
var regularTTF []byte

//go:embed fonts/bold.ttf
var boldTTF []byte

const pdfFont = "atkinson"

// standIn is drawn in place of a letter the shipped font does not have.
const standIn = '□'

// shippedFont tells which letters it has.
var shippedFont = sync.OnceValue(func() *sfnt.Font {
	f, err := sfnt.Parse(regularTTF)
	if err != nil {
		panic("formats: the shipped font cannot be read: " + err.Error())
	}
	return f
})

// printable puts standIn in place of what the shipped font does not have, one for
// a letter with its marks and joiners, and reports whether it had to.
func printable(s string) (out string, lacks bool) {
	var b strings.Builder
	var buf sfnt.Buffer
	joined := false
	for _, r := range s {
		i, err := shippedFont().GlyphIndex(&buf, r)
		switch {
		case r == '\n' || r == '\t':
			b.WriteByte(' ')
			joined = false
		case err == nil && i != 0 && r <= 0xFFFF:
			b.WriteRune(r)
			joined = false
		case unicode.IsControl(r), unicode.Is(unicode.Cf, r), unicode.Is(unicode.Mn, r), unicode.Is(unicode.Sk, r), r >= 0xFE00 && r <= 0xFE0F:
			joined = joined || r == '\u200d' // belongs to the letter before
		default:
			if !joined {
				b.WriteRune(standIn)
			}
			joined, lacks = false, true
		}
	}
	return b.String(), lacks
}

// WriteReferral writes a referral note as a PDF of real text on A4. The same
// note gives the same pages; only the file's own date of change differs.
func WriteReferral(w io.Writer, n *referral.Note) error {
	pg, err := newPage(pagesize.A4, 22, n.On, "Referral note")
	if err != nil {
		return fmt.Errorf("referral: %w", err)
	}
	pg.put("Referral note to the "+n.To, bold(18), 0)
	pg.put(fmt.Sprintf("%s · %s · %s", n.Practice, n.Coach, n.On.Words()), plainText, 2)
	pg.put(fmt.Sprintf("Golfer: %s, born %s", n.Golfer, n.Born.Words()), bold(12), 4)
	pg.rule(4)
	if n.Urgent != "" {
		pg.put("Urgent. "+n.Urgent, bold(11.5), 2)
	}
	for _, p := range n.Parts {
		pg.put(p.Title, bold(11.5), 4)
		for _, l := range p.Lines {
			pg.put("– "+l, plainText, 1)
		}
	}
	if n.Remark != "" {
		pg.put("From the coach", bold(11.5), 4)
		pg.put(n.Remark, plainText, 1)
	}
	pg.rule(6)
	return pg.write(w, n.Footer)
}
