package formats

import (
	"context"
	"encoding/csv"
	"errors"
	"fmt"
	"io"
	"strings"
	"unicode/utf16"
)

// readDelimited reads separated text: commas, semicolons or tabs.
func readDelimited(ctx context.Context, b []byte) (*Table, error) {
	if len(b) >= 2 && (b[0] == 0xFF && b[1] == 0xFE || b[0] == 0xFE && b[1] == 0xFF) {
		var err error
		if b, err = fromUTF16(b); err != nil {
			return nil, err
		}
	}
	text, problem := decode(b)
	if problem != "" {
		return nil, noTable("%s", problem)
	}
	header, _, _ := strings.Cut(text, "\n")
	t := &Table{Kind: "csv"}
	switch {
	case strings.Contains(header, "\t"):
		t.Separator = '\t'
	case strings.Contains(header, ";"):
		t.Separator = ';'
	case strings.Contains(header, ","):
		t.Separator = ','
	default:
		return nil, noTable("the first row has one column only: it needs a header with columns separated by commas, semicolons or tabs")
	}
	cr := csv.NewReader(&guard{r: strings.NewReader(text), separator: byte(t.Separator), row: 1, column: 1})
	cr.Comma = t.Separator
	cr.FieldsPerRecord = -1
	for n := 0; ; n++ {
		if n%1024 == 0 && ctx.Err() != nil {
			return nil, ctx.Err()
		}
		record, err := cr.Read()
		if errors.Is(err, io.EOF) {
			return t.whole()
		}
		if err != nil {
			var pe *csv.ParseError
			var te *TableError
			switch {
			case errors.As(err, &te):
				return nil, te
			case errors.As(err, &pe):
				return nil, &TableError{Row: pe.Line, Text: fmt.Sprintf("row %d: the quotes do not match: %v", pe.Line, pe.Err)}
			}
			return nil, noTable("the file could not be read: %v", err)
		}
		line, _ := cr.FieldPos(0)
		if err := t.add(line, record); err != nil {
			return nil, err
		}
	}
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
			if g.column++; g.column > maxColumns {
				return 0, tooWide(g.row, g.column)
			}
			g.cell = 0
		default:
			g.cell++
		}
		if g.cell > 4*maxCell+64 {
			return 0, tooLong(g.row, g.column)
		}
	}
	return n, err
}

// fromUTF16 decodes a text that begins with its byte order mark.
func fromUTF16(b []byte) ([]byte, error) {
	if len(b)%2 != 0 {
		return nil, noTable("the file says it is UTF-16 but has an odd number of bytes: it is cut off")
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
