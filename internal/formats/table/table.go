// Package table turns the bytes of separated text and of workbooks into rows of
// text: all the sheets of a file as they stand (Grid), or the rows under one
// header (Table). What a row means is not known here: package sheets says it for
// the spreadsheets people keep, package formats for the files of known columns.
// What is larger than the limits is refused while it is read, before it has taken
// the memory.
package table

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

// Limits of a file that is read.
const (
	MaxBytes    = 12 << 20 // of the file
	MaxRows     = 200_000
	MaxColumns  = 400
	MaxCell     = 2_000     // letters of one cell
	maxCells    = 1_000_000 // of all sheets, filled or not
	maxSheets   = 60
	maxUnzipped = 64 << 20 // bytes a workbook may unfold to, all parts together
	maxShared   = 200_000  // texts a workbook keeps apart from its cells
)

// Grid is a file as it is: its sheets, visible ones first; of separated text one
// without a name.
type Grid struct {
	Kind      string  `json:"kind"`                // csv or xlsx
	Separator rune    `json:"separator,omitempty"` // of a csv
	Encoding  string  `json:"encoding,omitempty"`  // where it is not UTF-8 or UTF-16: Windows-1252
	From1904  bool    `json:"from1904,omitempty"`  // a workbook that counts its days from 1904
	Sheets    []Sheet `json:"sheets"`
	cells     int
}

// Sheet is the rows of a sheet that have anything in them.
type Sheet struct {
	Name   string `json:"name,omitempty"`
	Hidden bool   `json:"hidden,omitempty"`
	Rows   []Row  `json:"rows"`
	width  int    // of the first row as it is written, empty columns and all
}

// Row is one row with the line it stands on in the file or the sheet, from 1.
type Row struct {
	Line  int      `json:"l"`
	Cells []string `json:"c"`
}

// Empty reports whether nothing stands in any of the cells.
func Empty(cells []string) bool {
	for _, c := range cells {
		if c != "" {
			return false
		}
	}
	return true
}

// Table is rows under one header, as text.
type Table struct {
	Kind      string   `json:"kind"`                // csv or xlsx
	Separator rune     `json:"separator,omitempty"` // of a csv
	Sheet     string   `json:"sheet,omitempty"`     // of a workbook
	From1904  bool     `json:"from1904,omitempty"`  // a workbook that counts its days from 1904
	Header    []string `json:"header"`
	Rows      []Row    `json:"rows"`
	Width     int      `json:"-"` // of the header as it is written, empty columns and all
}

// An Error says why a file is no table.
type Error struct {
	Text string
	Row  int // 0: the file as a whole
}

func (e *Error) Error() string { return e.Text }

// None is the error of a file that cannot be read as what it should be.
func None(format string, args ...any) error {
	return &Error{Text: fmt.Sprintf(format, args...)}
}

func tooWide(row, columns int) error {
	return None("row %d has %d columns or more: at most %d are read", row, columns, MaxColumns)
}

func tooLong(row, column int) error {
	return None("row %d, column %d: the cell has more than %d letters", row, column, MaxCell)
}

// A RowError is what is wrong with one cell of a table. Row counts lines of the
// file, the header being 1; 0 means the file as a whole.
type RowError struct {
	Row      int    `json:"row"`
	Column   string `json:"column"`
	Text     string `json:"detail"`
	Unlikely bool   `json:"unlikely,omitempty"` // the value only needs to be confirmed
}

func (e RowError) Error() string {
	if e.Row == 0 {
		return e.Text
	}
	return fmt.Sprintf("row %d, %s: %s", e.Row, e.Column, e.Text)
}

// ReadGrid reads a CSV (commas, semicolons, tabs or bars; UTF-8, Windows-1252 or,
// with its mark, UTF-16) or an XLSX workbook. It ends with ctx. A file that holds
// no rows, or too much, is an *Error.
func ReadGrid(ctx context.Context, b []byte) (*Grid, error) {
	switch {
	case len(b) > MaxBytes:
		return nil, None("the file is larger than %d MB: split it", MaxBytes>>20)
	case bytes.HasPrefix(b, []byte("PK\x03\x04")):
		return readWorkbook(ctx, b)
	case bytes.HasPrefix(b, []byte("\xD0\xCF\x11\xE0")):
		return nil, None("this is a workbook of the old kind, or a locked one: save it as .xlsx without a password")
	}
	return readDelimited(ctx, b)
}

// Read is ReadGrid for a file of known columns: the first row of the first sheet
// with anything in it is the header. Without rows under it it is an *Error.
func Read(ctx context.Context, b []byte) (*Table, error) {
	g, err := ReadGrid(ctx, b)
	if err != nil {
		return nil, err
	}
	s := g.Sheets[0]
	t := &Table{Kind: g.Kind, Separator: g.Separator, Sheet: s.Name, From1904: g.From1904, Header: s.Rows[0].Cells, Rows: s.Rows[1:], Width: s.width}
	for n := len(t.Header); n > 0 && t.Header[n-1] == ""; n = len(t.Header) {
		t.Header = t.Header[:n-1]
	}
	if len(t.Rows) == 0 {
		return nil, None("the file has a header and no rows: there is nothing to bring in")
	}
	return t, nil
}

// add takes a row into a sheet of the grid; an empty one is passed over.
func (g *Grid) add(s *Sheet, line int, cells []string) error {
	for i := range cells {
		cells[i] = strings.TrimSpace(cells[i])
		if len(cells[i]) > MaxCell && utf8.RuneCountInString(cells[i]) > MaxCell {
			return tooLong(line, i+1)
		}
	}
	g.cells += len(cells)
	switch {
	case Empty(cells):
		return nil
	case len(cells) > MaxColumns:
		return tooWide(line, len(cells))
	case g.cells > maxCells:
		return None("the file has more than %d cells: split it", maxCells)
	case len(s.Rows) > MaxRows:
		return None("the file has more than %d rows: split it", MaxRows)
	}
	if s.Rows == nil {
		s.width = len(cells)
	}
	s.Rows = append(s.Rows, Row{line, cells})
	return nil
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
	h.Rows = Head(t.Rows, n)
	return &h
}

// Head is the first n rows, long cells cut.
func Head(rows []Row, n int) []Row {
	out := make([]Row, min(n, len(rows)))
	for i := range out {
		out[i] = Row{rows[i].Line, cut(rows[i].Cells)}
	}
	return out
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

// PlainNumber shortens what a workbook keeps in full: 42.500000000000007 is 42.5.
func PlainNumber(s string) string {
	if len(s) < 12 {
		return s
	}
	v, err := strconv.ParseFloat(s, 64)
	if err != nil {
		return s
	}
	return strconv.FormatFloat(v, 'g', 10, 64)
}
