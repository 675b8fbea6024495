package table

import (
	"context"
	"encoding/csv"
	"errors"
	"fmt"
	"io"
	"slices"
	"strings"
)

// separators are what may stand between columns, the likeliest first.
var separators = []rune{'\t', ';', ',', '|'}

// separatorLines is how many lines are looked at for what separates the columns.
const separatorLines = 40

// separatorOf is what stands in most of the first lines, outside quotes: titles
// above a header, and a comma in a number, stand in fewer.
func separatorOf(text string) rune {
	lines := make([]int, len(separators))
	quoted := false
	n := 0
	for line := range strings.Lines(text) {
		if n++; n > separatorLines {
			break
		}
		var has [4]bool
		for _, c := range line {
			if c == '"' {
				quoted = !quoted
			}
			if i := slices.Index(separators, c); i >= 0 && !quoted {
				has[i] = true
			}
		}
		for i := range has {
			if has[i] {
				lines[i]++
			}
		}
	}
	if most := slices.Max(lines); most > 0 {
		return separators[slices.Index(lines, most)]
	}
	return 0
}

// readDelimited reads separated text.
func readDelimited(ctx context.Context, b []byte) (*Grid, error) {
	text, encoding, err := Decode(b)
	if err != nil {
		return nil, err
	}
	g := &Grid{Kind: "csv", Encoding: encoding, Sheets: make([]Sheet, 1)}
	lines := 0
	if said, rest, ok := strings.Cut(text, "\n"); ok && len(said) < 8 && strings.HasPrefix(strings.ToLower(said), "sep=") {
		text, lines = rest, 1 // some programs say it in a line of its own
		if c := []rune(strings.TrimRight(said[4:], "\r")); len(c) == 1 && slices.Contains(separators, c[0]) {
			g.Separator = c[0]
		}
	}
	if g.Separator == 0 {
		g.Separator = separatorOf(text)
	}
	if g.Separator == 0 {
		return nil, None("the first rows have one column only: columns are separated by commas, semicolons or tabs")
	}
	cr := csv.NewReader(&guard{r: strings.NewReader(text), separator: byte(g.Separator), row: 1, column: 1})
	cr.Comma = g.Separator
	cr.FieldsPerRecord = -1
	for n := 0; ; n++ {
		if n%1024 == 0 && ctx.Err() != nil {
			return nil, ctx.Err()
		}
		record, err := cr.Read()
		if errors.Is(err, io.EOF) {
			break
		}
		if err != nil {
			var pe *csv.ParseError
			var te *Error
			switch {
			case errors.As(err, &te):
				return nil, te
			case errors.As(err, &pe):
				row := lines + pe.Line
				return nil, &Error{Row: row, Text: fmt.Sprintf("row %d: the quotes do not match: %v", row, pe.Err)}
			}
			return nil, None("the file could not be read: %v", err)
		}
		line, _ := cr.FieldPos(0)
		if err := g.add(&g.Sheets[0], lines+line, record); err != nil {
			return nil, err
		}
	}
	if len(g.Sheets[0].Rows) == 0 {
		return nil, None("the file has no rows")
	}
	return g, nil
}

// guard stops a text whose rows or cells are too large while it is read: a
// parser that sees a whole row first has already spent the memory.
type guard struct {
	r         io.Reader
	separator byte
	quoted    bool
	row       int
	column    int
	cell      int // bytes of the cell so far
}

func (g *guard) Read(p []byte) (int, error) {
	n, err := g.r.Read(p[:min(len(p), 4096)])
	for _, c := range p[:n] {
		switch {
		case c == '"':
			g.quoted = !g.quoted
			g.cell++
		case c == '\n' && !g.quoted:
			g.row, g.column, g.cell = g.row+1, 1, 0
		case c == g.separator && !g.quoted:
			if g.column++; g.column > MaxColumns {
				return 0, tooWide(g.row, g.column)
			}
			g.cell = 0
		default:
			g.cell++
		}
		if g.cell > 4*MaxCell+64 {
			return 0, tooLong(g.row, g.column)
		}
	}
	return n, err
}
