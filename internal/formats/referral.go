package formats

import (
	_ "embed"
	"fmt"
	"io"
	"strings"
	"sync"
	"unicode"

	"github.com/johnfercher/maroto/v2"
	"github.com/johnfercher/maroto/v2/pkg/components/col"
	"github.com/johnfercher/maroto/v2/pkg/components/line"
	"github.com/johnfercher/maroto/v2/pkg/components/text"
	"github.com/johnfercher/maroto/v2/pkg/config"
	"github.com/johnfercher/maroto/v2/pkg/consts/fontstyle"
	"github.com/johnfercher/maroto/v2/pkg/consts/pagesize"
	"github.com/johnfercher/maroto/v2/pkg/core"
	"github.com/johnfercher/maroto/v2/pkg/props"
	"github.com/johnfercher/maroto/v2/pkg/repository"
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
	fonts, err := repository.New().AddUTF8FontFromBytes(pdfFont, fontstyle.Normal, regularTTF).AddUTF8FontFromBytes(pdfFont, fontstyle.Bold, boldTTF).Load()
	if err != nil {
		return fmt.Errorf("referral: fonts: %w", err)
	}
	m := maroto.New(config.NewBuilder().WithPageSize(pagesize.A4).WithLeftMargin(22).WithRightMargin(22).WithTopMargin(20).WithBottomMargin(16).
		WithCustomFonts(fonts).WithDefaultFont(&props.Font{Family: pdfFont, Size: 10.5}).
		WithCreationDate(n.On.Time()).WithTitle("Referral note", true).WithAuthor("Dunnock", true).Build())
	missing := false
	put := func(s string, p props.Text, above float64) {
		p.Top = above
		shown, lacks := printable(s)
		s, missing = shown, missing || lacks
		m.AddAutoRow(col.New(12).Add(text.New(s, p)))
	}
	bold := func(size float64) props.Text { return props.Text{Style: fontstyle.Bold, Size: size} }
	plain := props.Text{Size: 10.5, VerticalPadding: 1}
	put("Referral note to the "+n.To, bold(18), 0)
	put(fmt.Sprintf("%s · %s · %s", n.Practice, n.Coach, n.On.Words()), plain, 2)
	put(fmt.Sprintf("Golfer: %s, born %s", n.Golfer, n.Born.Words()), bold(12), 4)
	m.AddRow(4, line.NewCol(12))
	if n.Urgent != "" {
		put("Urgent. "+n.Urgent, bold(11.5), 2)
	}
	for _, p := range n.Parts {
		put(p.Title, bold(11.5), 4)
		for _, l := range p.Lines {
			put("– "+l, plain, 1)
		}
	}
	if n.Remark != "" {
		put("From the coach", bold(11.5), 4)
		put(n.Remark, plain, 1)
	}
	m.AddRow(6, line.NewCol(12))
	if missing {
		put("Letters this page's font does not have are drawn as "+string(standIn)+".", props.Text{Size: 9, VerticalPadding: 1}, 2)
	}
	put(n.Footer, props.Text{Size: 9, VerticalPadding: 1}, 2)
	var doc core.Document
	if doc, err = m.Generate(); err != nil {
		return fmt.Errorf("referral: %w", err)
	}
	_, err = w.Write(doc.GetBytes())
	return err
}
