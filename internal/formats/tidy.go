package formats

import (
	"encoding/csv"
	"io"
	"strconv"

	"github.com/xuri/excelize/v2"

	"dunnock/internal/core/athlete"
	"dunnock/internal/core/measure"
	"dunnock/internal/core/unit"
	"dunnock/internal/formats/table"
)

// TidyColumns are the columns of the tidy export: one row a trial. The reader
// with a mapping takes it back as it is.
var TidyColumns = []string{
	"golfer",
	"birthDate",
	"sex",
	"playingSide",
	"date",
	"test",
	"side",
	"trial",
	"value",
	"unit",
	"status",
	"variant",
	"pain",
	"region",
	"note",
	"tester",
	"device",
	"time",
}

// tidyRows gives the rows of the export to yield, text as it is.
func tidyRows(files []*athlete.File, yield func(cells []string) error) error {
	for _, f := range files {
		tests := f.Tests()
		for i := range f.Screens {
			s := &f.Screens[i]
			for _, t := range s.Trials {
				test, ok := tests.Find(t.Test)
				u := ""
				if ok && t.Status == measure.Done {
					u = string(test.Unit)
				}
				value := ""
				if ok {
					value = t.Text(test, "")
				}
				pain := ""
				if t.Pain > 0 {
					pain = strconv.Itoa(t.Pain)
				}
				err := yield(
					[]string{
						f.Athlete.Name,
						f.Athlete.BirthDate.String(),
						f.Athlete.Sex,
						f.Athlete.PlayingSide,
						s.Date.String(),
						t.Test,
						string(t.Side),
						strconv.Itoa(t.Number),
						value,
						u,
						string(t.Status),
						t.Variant,
						pain,
						t.Region,
						t.Note,
						t.Tester,
						t.Device,
						t.At,
					},
				)
				if err != nil {
					return err
				}
			}
		}
	}
	return nil
}

// WriteTidyCSV writes every trial as a row of UTF-8 CSV with decimal points. A
// text that a spreadsheet would take for a formula gets an apostrophe in front;
// numbers are numbers.
func WriteTidyCSV(w io.Writer, files []*athlete.File) error {
	cw := csv.NewWriter(w)
	if err := cw.Write(TidyColumns); err != nil {
		return err
	}
	err := tidyRows(files, func(cells []string) error {
		for i := range cells {
			cells[i] = table.Quote(cells[i])
		}
		return cw.Write(cells)
	})
	if err != nil {
		return err
	}
	cw.Flush()
	return cw.Error()
}

// WriteTidyXLSX writes the same as a workbook with a second sheet that says what
// the tests are. Its cells are values, never formulas.
func WriteTidyXLSX(w io.Writer, files []*athlete.File, tests *measure.Battery) error {
	f := excelize.NewFile()
	defer func() { _ = f.Close() }()
	if err := f.SetSheetName("Sheet1", "trials"); err != nil {
		return err
	}
	sw, err := f.NewStreamWriter("trials")
	if err != nil {
		return err
	}
	row := 1
	if err := writeRow(sw, row, TidyColumns); err != nil {
		return err
	}
	err = tidyRows(files, func(cells []string) error {
		row++
		return writeRow(sw, row, cells, 7, 8, 12)
	})
	if err != nil {
		return err
	}
	if err := sw.Flush(); err != nil {
		return err
	}
	if _, err := f.NewSheet("tests"); err != nil {
		return err
	}
	sw, err = f.NewStreamWriter("tests")
	if err != nil {
		return err
	}
	if err := writeRow(sw, 1, []string{"test", "name", "unit", "sides", "trials", "result", "typical error", "source"}); err != nil {
		return err
	}
	for i := range tests.Tests() {
		t := &tests.Tests()[i]
		te := unit.Compact(t.Error, 4)
		if t.ErrorShare {
			te = unit.Compact(100*t.Error, 2) + "%"
		}
		if err := writeRow(sw, i+2, []string{t.ID, t.Name, string(t.Unit), string(t.Kind), strconv.Itoa(t.Trials), string(t.Rule), te, t.Source}, 4, 6); err != nil {
			return err
		}
	}
	if err := sw.Flush(); err != nil {
		return err
	}
	return f.Write(w)
}

// writeRow writes a row of a workbook, with the cells of some columns as numbers.
func writeRow(sw *excelize.StreamWriter, row int, cells []string, numbers ...int) error {
	out := make([]any, len(cells))
	for i, c := range cells {
		out[i] = c
		for _, n := range numbers {
			if v, err := strconv.ParseFloat(c, 64); n == i && err == nil {
				out[i] = v
			}
		}
	}
	at, err := excelize.CoordinatesToCellName(1, row)
	if err != nil {
		return err
	}
	return sw.SetRow(at, out)
}
