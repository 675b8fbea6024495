package formats

import (
	"bytes"
	"context"
	"crypto/sha256"
	"encoding/hex"
	"fmt"
	"strconv"
	"strings"
	"unicode/utf8"
)

// Limits of a table that is brought in. They hold while it is read: what is too
// large is refused before it takes the memory.
const (
	MaxTable     = 12 << 20 // bytes of the file
	maxTableRows = 200_000
	maxColumns   = 400
	maxCells     = 1_000_000 // filled or not
	maxCell      = 2_000     // letters
	maxUnzipped  = 64 << 20  // bytes a workbook may unfold to, all parts together
	maxShared    = 200_000   // texts a workbook keeps apart from its cells
)

// Table is a file of rows under one header, as text. It is what every reader of
// trials from a table begins with.
type Table struct {
	Kind      string     `json:"kind"`                // csv or xlsx
	Separator rune       `json:"separator,omitempty"` // of a csv
	Sheet     string     `json:"sheet,omitempty"`     // of a workbook
	From1904  bool       `json:"from1904,omitempty"`  // a workbook that counts its days from 1904
	Header    []string   `json:"header"`
	Rows      []TableRow `json:"rows"`
	cells     int
	width     int // of the header as it is written, empty columns and all
}

// TableRow is one row with the line it stands on in the file or the sheet.
type TableRow struct {
	Line  int      `json:"l"`
	Cells []string `json:"c"`
}

// A TableError says why a file is no table.
type TableError struct {
	Text string
	Row  int // 0: the file as a whole
}

func (e *TableError) Error() string { return e.Text }

func noTable(format string, args ...any) error {
	return &TableError{Text: fmt.Sprintf(format, args...)}
}

func tooWide(row, columns int) error {
	return noTable("row %d has %d columns or more: at most %d are read", row, columns, maxColumns)
}

func tooLong(row, column int) error {
	return noTable("row %d, column %d: the cell has more than %d letters", row, column, maxCell)
}

// ReadTable reads a CSV (commas, semicolons or tabs; UTF-8 or, with its mark,
// UTF-16) or the first sheet with anything in it of an XLSX workbook. It ends
// with ctx. A file that is no table, or too large a one, is a *TableError.
func ReadTable(ctx context.Context, b []byte) (*Table, error) {
	switch {
	case len(b) > MaxTable:
		return nil, noTable("the file is larger than %d MB: split it", MaxTable>>20)
	case bytes.HasPrefix(b, []byte("PK\x03\x04")):
		return readWorkbook(ctx, b)
	case bytes.HasPrefix(b, []byte("\xD0\xCF\x11\xE0")):
		return nil, noTable("this is a workbook of the old kind, or a locked one: save it as .xlsx without a password")
	}
	return readDelimited(ctx, b)
}

// add takes a row; the first one with anything in it is the header.
func (t *Table) add(line int, cells []string) error {
	empty := true
	for i := range cells {
		cells[i] = strings.TrimSpace(cells[i])
		if len(cells[i]) > maxCell && utf8.RuneCountInString(cells[i]) > maxCell {
			return tooLong(line, i+1)
		}
		empty = empty && cells[i] == ""
	}
	t.cells += len(cells)
	switch {
	case empty:
		return nil
	case len(cells) > maxColumns:
		return tooWide(line, len(cells))
	case t.cells > maxCells:
		return noTable("the file has more than %d cells: split it", maxCells)
	case t.Header == nil:
		t.width = len(cells)
		for len(cells) > 0 && cells[len(cells)-1] == "" {
			cells = cells[:len(cells)-1]
		}
		t.Header = cells
	case len(t.Rows) == maxTableRows:
		return noTable("the file has more than %d rows: split it", maxTableRows)
	default:
		t.Rows = append(t.Rows, TableRow{line, cells})
	}
	return nil
}

func (t *Table) whole() (*Table, error) {
	if len(t.Rows) == 0 {
		return nil, noTable("the file has a header and no rows: there is nothing to bring in")
	}
	return t, nil
}

// Fingerprint names the layout of a table: files with the same header come from
// the same source.
func (t *Table) Fingerprint() string {
	h := sha256.Sum256([]byte(strings.ToLower(strings.Join(t.Header, "\x00"))))
	return hex.EncodeToString(h[:16])
}

// maxSample is how many letters of a cell are shown before a file is read.
const maxSample = 200

// Head returns the table with its first n rows only, long cells cut.
func (t *Table) Head(n int) *Table {
	h := *t
	h.Header = cut(t.Header)
	h.Rows = make([]TableRow, min(n, len(t.Rows)))
	for i := range h.Rows {
		h.Rows[i] = TableRow{t.Rows[i].Line, cut(t.Rows[i].Cells)}
	}
	return &h
}

func cut(cells []string) []string {
	out := make([]string, len(cells))
	for i, c := range cells {
		if len(c) > maxSample {
			if r := []rune(c); len(r) > maxSample {
				c = string(r[:maxSample-1]) + "…"
			}
		}
		out[i] = c
	}
	return out
}

// plainNumber shortens what a workbook keeps in full: 42.500000000000007 is 42.5.
func plainNumber(s string) string {
	if len(s) < 12 {
		return s
	}
	v, err := strconv.ParseFloat(s, 64)
	if err != nil {
		return s
	}
	return strconv.FormatFloat(v, 'g', 10, 64)
}
