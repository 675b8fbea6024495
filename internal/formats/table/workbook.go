package table

import (
	"archive/zip"
	"bytes"
	"context"
	"encoding/xml"
	"errors"
	"io"
	"path"
	"slices"
	"strconv"
	"strings"
)

// errUnfolds is returned by a part of a workbook that unfolds past the limit.
var errUnfolds = None("the workbook unfolds to more than %d MB: it is refused. Save the one sheet as CSV", maxUnzipped>>20)

// workbook is an open XLSX file. Its parts are read as streams: packages that
// read workbooks hold every part and every shared text in memory before a limit
// can be asked.
type workbook struct {
	parts map[string]*zip.File
	left  int64 // bytes that may still be unfolded
}

func readWorkbook(ctx context.Context, b []byte) (*Grid, error) {
	z, err := zip.NewReader(bytes.NewReader(b), int64(len(b)))
	if err != nil {
		return nil, None("the workbook could not be read (%v): save the sheet as CSV", err)
	}
	w := &workbook{parts: make(map[string]*zip.File, len(z.File)), left: maxUnzipped}
	for _, f := range z.File {
		w.parts[strings.ToLower(strings.TrimPrefix(f.Name, "/"))] = f
	}
	g := &Grid{Kind: "xlsx"}
	var sheets []sheetPart
	if sheets, g.From1904, err = w.sheets(); err != nil {
		return nil, w.words(err)
	}
	if len(sheets) > maxSheets {
		return nil, None("the workbook has %d sheets: at most %d are read", len(sheets), maxSheets)
	}
	shared, err := w.shared(ctx)
	if err != nil {
		return nil, w.words(err)
	}
	for _, s := range sheets {
		sheet := Sheet{Name: s.name, Hidden: s.hidden}
		if err := w.sheet(ctx, s.part, shared, g, &sheet); err != nil {
			var te *Error
			if errors.As(err, &te) && !errors.Is(err, errUnfolds) {
				return nil, None("sheet %q: %s", s.name, te.Text)
			}
			return nil, w.words(err)
		}
		if len(sheet.Rows) > 0 {
			g.Sheets = append(g.Sheets, sheet)
		}
	}
	if len(g.Sheets) == 0 {
		return nil, None("the workbook has no rows")
	}
	slices.SortStableFunc(g.Sheets, func(a, b Sheet) int {
		switch {
		case a.Hidden == b.Hidden:
			return 0
		case b.Hidden:
			return -1
		}
		return 1
	})
	return g, nil
}

func (w *workbook) words(err error) error {
	var te *Error
	if errors.As(err, &te) || errors.Is(err, context.Canceled) || errors.Is(err, context.DeadlineExceeded) {
		return err
	}
	return None("the workbook could not be read (%v): save the sheet as CSV", err)
}

// open returns a part as a stream that ends with errUnfolds at the limit.
func (w *workbook) open(name string) (io.ReadCloser, error) {
	f := w.parts[strings.ToLower(name)]
	if f == nil {
		return nil, None("the workbook has no part %s: it is damaged. Save it again", name)
	}
	r, err := f.Open()
	if err != nil {
		return nil, err
	}
	return &unfolding{r, w}, nil
}

type unfolding struct {
	io.ReadCloser
	w *workbook
}

func (u *unfolding) Read(p []byte) (int, error) {
	if u.w.left <= 0 {
		return 0, errUnfolds
	}
	n, err := u.ReadCloser.Read(p[:min(int64(len(p)), u.w.left)])
	u.w.left -= int64(n)
	return n, err
}

type sheetPart struct {
	name, part string
	hidden     bool
}

// maxIndex bounds the parts that only say where things are.
const maxIndex = 1 << 20

func (w *workbook) decode(name string, into any) error {
	r, err := w.open(name)
	if err != nil {
		return err
	}
	defer func() { _ = r.Close() }()
	return xml.NewDecoder(io.LimitReader(r, maxIndex)).Decode(into)
}

// sheets lists the sheets in their order.
func (w *workbook) sheets() ([]sheetPart, bool, error) {
	var book struct {
		Pr struct {
			Date1904 string `xml:"date1904,attr"`
		} `xml:"workbookPr"`
		Sheets []struct {
			Name  string     `xml:"name,attr"`
			State string     `xml:"state,attr"`
			Attrs []xml.Attr `xml:",any,attr"`
		} `xml:"sheets>sheet"`
	}
	if err := w.decode("xl/workbook.xml", &book); err != nil {
		return nil, false, err
	}
	var rels struct {
		Rels []struct {
			ID     string `xml:"Id,attr"`
			Target string `xml:"Target,attr"`
		} `xml:"Relationship"`
	}
	if err := w.decode("xl/_rels/workbook.xml.rels", &rels); err != nil {
		return nil, false, err
	}
	target := map[string]string{}
	for _, r := range rels.Rels {
		t := strings.TrimPrefix(r.Target, "/")
		if !strings.HasPrefix(t, "xl/") {
			t = path.Join("xl", t)
		}
		target[r.ID] = t
	}
	var out []sheetPart
	for _, s := range book.Sheets {
		for _, a := range s.Attrs {
			if a.Name.Local == "id" && target[a.Value] != "" {
				out = append(out, sheetPart{s.Name, target[a.Value], s.State == "hidden" || s.State == "veryHidden"})
			}
		}
	}
	return out, book.Pr.Date1904 == "1" || book.Pr.Date1904 == "true", nil
}

// shared reads the texts that cells name by number.
func (w *workbook) shared(ctx context.Context) ([]string, error) {
	if w.parts["xl/sharedstrings.xml"] == nil {
		return nil, nil
	}
	r, err := w.open("xl/sharedStrings.xml")
	if err != nil {
		return nil, err
	}
	defer func() { _ = r.Close() }()
	x := newTags(r)
	var out []string
	var text []byte
	phonetic, take := false, false
	for n := 0; ; n++ {
		if n%4096 == 0 && ctx.Err() != nil {
			return nil, ctx.Err()
		}
		if err := x.next(take); errors.Is(err, io.EOF) {
			return out, nil
		} else if err != nil {
			return nil, err
		}
		if take {
			if text = append(text, x.text...); len(text) > 4*MaxCell {
				return nil, None("text %d of the workbook has more than %d letters", len(out)+1, MaxCell)
			}
		}
		take = false
		switch x.name {
		case "si":
			if x.opens {
				text = text[:0]
			}
			if x.closes {
				if len(out) == maxShared {
					return nil, None("the workbook has more than %d different texts: split it, or save the sheet as CSV", maxShared)
				}
				out = append(out, string(text))
			}
		case "rPh":
			phonetic = x.opens && !x.closes
		case "t":
			take = x.opens && !x.closes && !phonetic
		}
	}
}

// sheet reads the rows of a sheet.
func (w *workbook) sheet(ctx context.Context, part string, shared []string, g *Grid, s *Sheet) error {
	r, err := w.open(part)
	if err != nil {
		return err
	}
	defer func() { _ = r.Close() }()
	x := newTags(r)
	line, column, kind := 0, 0, ""
	var cells []string
	var text []byte
	take := false
	for n := 0; ; n++ {
		if n%4096 == 0 && ctx.Err() != nil {
			return ctx.Err()
		}
		if err := x.next(take); errors.Is(err, io.EOF) {
			return nil
		} else if err != nil {
			return err
		}
		if take {
			if text = append(text, x.text...); len(text) > 4*MaxCell {
				return tooLong(line, column)
			}
		}
		take = false
		switch x.name {
		case "row":
			if x.opens {
				cells, column = nil, 0
				line++
				if at, err := strconv.Atoi(x.attr("r")); err == nil && at >= line && at <= 1<<20 {
					line = at
				}
			}
			if x.closes {
				if err := g.add(s, line, cells); err != nil {
					return err
				}
			}
		case "c":
			if x.opens {
				column++
				if at := columnOf(x.attr("r")); at >= column {
					column = at
				}
				if column > MaxColumns {
					return tooWide(line, column)
				}
				kind, text = x.attr("t"), text[:0]
			}
			if x.closes && len(text) > 0 {
				value, err := cellValue(kind, string(text), shared)
				if err != nil {
					return None("row %d, column %d: %v", line, column, err)
				}
				for len(cells) < column {
					cells = append(cells, "")
				}
				cells[column-1] = value
			}
		case "v", "t":
			take = x.opens && !x.closes
		case "sheetData":
			if x.closes {
				return nil
			}
		}
	}
}

func cellValue(kind, text string, shared []string) (string, error) {
	switch kind {
	case "s":
		i, err := strconv.Atoi(strings.TrimSpace(text))
		if err != nil || i < 0 || i >= len(shared) {
			return "", errors.New("it names a text the workbook does not have: save it again")
		}
		return shared[i], nil
	case "b":
		if text == "1" {
			return "TRUE", nil
		}
		return "FALSE", nil
	}
	return text, nil
}

// columnOf reads the column of a cell's name, 1 for A; 0 for none.
func columnOf(name string) int {
	n := 0
	for i := 0; i < len(name) && i < 4; i++ {
		c := name[i] &^ 0x20
		if c < 'A' || c > 'Z' {
			break
		}
		n = 26*n + int(c-'A') + 1
	}
	return n
}
