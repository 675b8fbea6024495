package formats

import (
	"fmt"
	"io"

	"github.com/johnfercher/maroto/v2"
	"github.com/johnfercher/maroto/v2/pkg/components/col"
	"github.com/johnfercher/maroto/v2/pkg/components/line"
	paper "github.com/johnfercher/maroto/v2/pkg/components/page"
	"github.com/johnfercher/maroto/v2/pkg/components/row"
	"github.com/johnfercher/maroto/v2/pkg/components/text"
	"github.com/johnfercher/maroto/v2/pkg/config"
	"github.com/johnfercher/maroto/v2/pkg/consts/align"
	"github.com/johnfercher/maroto/v2/pkg/consts/fontstyle"
	"github.com/johnfercher/maroto/v2/pkg/consts/pagesize"
	"github.com/johnfercher/maroto/v2/pkg/core"
	"github.com/johnfercher/maroto/v2/pkg/props"
	"github.com/johnfercher/maroto/v2/pkg/repository"

	"dunnock/internal/core/civil"
)

// page is a PDF of text being written: the same input, the same bytes. Letters the
// shipped font lacks are drawn as boxes, and the page says so.
type page struct {
	m       core.Maroto
	rows    []core.Row // of the sheet that is being written
	missing bool
	scale   float64 // of every text
}

var plainText = props.Text{Size: 10.5, VerticalPadding: 1}

func bold(size float64) props.Text { return props.Text{Style: fontstyle.Bold, Size: size} }

// newPage begins a page of a size with a margin in mm; on is the day it is dated.
func newPage(size pagesize.Type, margin float64, on civil.Date, title string) (*page, error) {
	fonts, err := repository.New().AddUTF8FontFromBytes(pdfFont, fontstyle.Normal, regularTTF).AddUTF8FontFromBytes(pdfFont, fontstyle.Bold, boldTTF).Load()
	if err != nil {
		return nil, fmt.Errorf("fonts: %w", err)
	}
	return &page{scale: 1, m: maroto.New(config.NewBuilder().WithPageSize(size).WithLeftMargin(margin).WithRightMargin(margin).WithTopMargin(20).WithBottomMargin(16).
		WithCustomFonts(fonts).WithDefaultFont(&props.Font{Family: pdfFont, Size: 10.5}).
		WithCreationDate(on.Time()).WithTitle(title, true).WithAuthor("Dunnock", true).Build())}, nil
}

func (p *page) shown(s string) string {
	shown, lacks := printable(s)
	p.missing = p.missing || lacks
	return shown
}

// put writes a paragraph with some mm above it.
func (p *page) put(s string, t props.Text, above float64) {
	t.Top = above
	t.Size *= p.scale
	p.add(row.New().Add(col.New(12).Add(text.New(p.shown(s), t))))
}

// row writes three columns: a wide one, a narrower one, and a number at the right.
func (p *page) row(wide, narrow, number string, t props.Text) {
	t.Top = max(t.Top, 1)
	t.Size *= p.scale
	t.Right = 2
	right := t
	right.Right = 0
	right.Align = align.Right
	p.add(row.New().Add(col.New(6).Add(text.New(p.shown(wide), t)), col.New(5).Add(text.New(p.shown(narrow), t)), col.New(1).Add(text.New(p.shown(number), right))))
}

// rule draws a line across with a height in mm.
func (p *page) rule(height float64) {
	p.add(row.New(height).Add(line.NewCol(12, props.Line{OffsetPercent: 75, SizePercent: 100})))
}

func (p *page) add(r core.Row) { p.rows = append(p.rows, r) }

// turn ends a sheet: what follows begins on a new one.
func (p *page) turn() {
	p.m.AddPages(paper.New().Add(p.rows...))
	p.rows = nil
}

// write ends the page with its footer.
func (p *page) write(w io.Writer, footer string) error {
	small := props.Text{Size: 9, VerticalPadding: 1}
	if p.missing {
		p.put("Letters this page's font does not have are drawn as "+string(standIn)+".", small, 2)
	}
	p.put(footer, small, 2)
	p.turn()
	doc, err := p.m.Generate()
	if err != nil {
		return err
	}
	_, err = w.Write(doc.GetBytes())
	return err
}
