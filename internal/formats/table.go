package formats

import (
	"bytes"
	"crypto/sha256"
	"encoding/csv"
	"encoding/hex"
	"errors"
	"fmt"
	"io"
	"strconv"
	"strings"
	"unicode/utf16"

	"github.com/xuri/excelize/v2"
)

// Limits of a table that is brought in.
const (
	MaxTable     = 12 << 20 // bytes of the file
	maxTableRows = 200_000
	maxColumns   = 400
	maxUnzipped  = 96 << 20 // bytes a workbook may unfold to, all parts together
)

// Table is a file of rows under one header, as text.
type Table struct {
	Kind   string // csv or xlsx
	Sheet  string // of a workbook
	Header []string
	Rows   []TableRow
}

// TableRow is one row with the line it stands on in the file or the sheet.
type TableRow struct {
	Line  int
	Cells []string
}

// A TableError says why a file is no table.
type TableError struct{ Text string }

func (e *TableError) Error() string { return e.Text }

func noTable(format string, args ...any) error { return &TableError{fmt.Sprintf(format, args...)} }

// ReadTable reads a CSV (commas, semicolons or tabs; UTF-8 or, with its mark,
// UTF-16) or the first sheet with anything in it of an XLSX workbook.
func ReadTable(b []byte) (*Table, error) {
	switch {
	case len(b) > MaxTable:
		return nil, noTable("the file is larger than %d MB: split it", MaxTable>>20)
	case bytes.HasPrefix(b, []byte("PK\x03\x04")):
		return readWorkbook(b)
	case bytes.HasPrefix(b, []byte("\xD0\xCF\x11\xE0")):
		return nil, noTable("this is a workbook of the old kind, or a locked one: save it as .xlsx without a password")
	}
	return readDelimited(b)
}

func readDelimited(b []byte) (*Table, error) {
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
	cr := csv.NewReader(strings.NewReader(text))
	cr.FieldsPerRecord = -1
	cr.ReuseRecord = false
	switch {
	case strings.Contains(header, "\t"):
		cr.Comma = '\t'
	case strings.Contains(header, ";"):
		cr.Comma = ';'
	case strings.Contains(header, ","):
		cr.Comma = ','
	default:
		return nil, noTable("the first row has one column only: it needs a header with columns separated by commas, semicolons or tabs")
	}
	t := &Table{Kind: "csv"}
	for {
		record, err := cr.Read()
		if errors.Is(err, io.EOF) {
			break
		}
		if err != nil {
			var pe *csv.ParseError
			if errors.As(err, &pe) {
				return nil, noTable("row %d: the quotes do not match: %v", pe.Line, pe.Err)
			}
			return nil, noTable("the file could not be read: %v", err)
		}
		line, _ := cr.FieldPos(0)
		if err := t.add(line, record); err != nil {
			return nil, err
		}
	}
	return t.whole()
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

func readWorkbook(b []byte) (*Table, error) {
	f, err := excelize.OpenReader(bytes.NewReader(b), excelize.Options{RawCellValue: true, UnzipSizeLimit: maxUnzipped, UnzipXMLSizeLimit: maxUnzipped})
	if err != nil {
		if strings.Contains(err.Error(), "unzip size") {
			return nil, noTable("the workbook unfolds to more than %d MB: it is refused. Save the one sheet as CSV", maxUnzipped>>20)
		}
		return nil, noTable("the workbook could not be read (%v): save the sheet as CSV", err)
	}
	defer func() { _ = f.Close() }()
	for _, sheet := range f.GetSheetList() {
		t := &Table{Kind: "xlsx", Sheet: sheet}
		rows, err := f.Rows(sheet)
		if err != nil {
			return nil, noTable("sheet %q could not be read: %v", sheet, err)
		}
		for line := 1; rows.Next(); line++ {
			cells, err := rows.Columns()
			if err == nil {
				err = t.add(line, cells)
			}
			if err != nil {
				_ = rows.Close()
				return nil, noTable("sheet %q, row %d: %v", sheet, line, err)
			}
		}
		err = rows.Error()
		_ = rows.Close()
		if err != nil {
			return nil, noTable("sheet %q could not be read: %v", sheet, err)
		}
		if len(t.Header) > 0 {
			return t.whole()
		}
	}
	return nil, noTable("the workbook has no rows")
}

// add takes a row; the first one with anything in it is the header.
func (t *Table) add(line int, cells []string) error {
	empty := true
	for i := range cells {
		cells[i] = strings.TrimSpace(cells[i])
		empty = empty && cells[i] == ""
	}
	switch {
	case empty:
		return nil
	case len(cells) > maxColumns:
		return noTable("row %d has %d columns: at most %d are read", line, len(cells), maxColumns)
	case t.Header == nil:
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
