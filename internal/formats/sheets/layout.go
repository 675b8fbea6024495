package sheets

import (
	"fmt"
	"math"
	"slices"
	"strconv"
	"strings"

	"dunnock/internal/core/civil"
	"dunnock/internal/core/label"
	"dunnock/internal/core/unit"
	"dunnock/internal/formats/table"
)

// Layout says where in a file the results are and which way they lie.
type Layout struct {
	Sheet int `json:"sheet"` // from 0, in the order of the grid
	Top   int `json:"top"`   // line of the first row that counts: the header, or without one the first results
	Heads int `json:"heads"` // header rows, 0 to MaxHeads; of a turned sheet: columns
	// Turned is set where golfers or dates stand across and tests go down.
	Turned bool `json:"turned,omitempty"`
}

// MaxHeads is how many rows a header may have.
const MaxHeads = 4

// joint stands between the parts of a header of several rows.
const joint = " · "

// looked is how many rows of a sheet are looked at for its header.
const looked = 60

// Labels reads headers for a battery, each text once.
type Labels struct {
	reader   *label.Reader
	known    map[string]reading
	left     int  // how many texts are still looked at closely
	workbook bool // numbers may be days
}

// closely is how many different texts of a file are looked at closely: for dates,
// units, names near to ours. A file with more has no more headers, and a test that is
// written as we write it is understood all the same. A file of a million texts took
// minutes without it.
const closely = 3_000

// NewLabels returns the labels of a battery's tests, for one file.
func NewLabels(r *label.Reader, g *table.Grid) *Labels {
	return &Labels{reader: r, known: map[string]reading{}, left: closely, workbook: g.Kind == "xlsx"}
}

// reading is what one cell says where it stands over a column or beside a row.
type reading struct {
	kind  kind
	field string
	label label.Label
}

// kind is what sort of thing a cell says.
type kind int

const (
	blank kind = iota
	words      // not understood
	number
	field // a field's name: "Date of birth"
	test  // names a test
	part  // a side, a trial, a unit, "average"
	day   // a date
)

// maxLabel is how many letters a label may have; what is longer is a remark.
const maxLabel = 80

func (x *Labels) read(cell string) reading {
	cell = strings.TrimSpace(cell)
	if cell == "" {
		return reading{}
	}
	if len(cell) > maxLabel {
		return reading{kind: words}
	}
	r, ok := x.known[cell]
	if !ok {
		r = x.readAnew(cell)
		x.known[cell] = r
	}
	return r
}

// The numbers by which a workbook keeps the days of 2000 to 2064; no test gives
// such ones.
const earliest, latest = 36_526, 60_000

func (x *Labels) readAnew(cell string) reading {
	if v, err := strconv.ParseFloat(strings.Replace(cell, ",", ".", 1), 64); err == nil {
		if x.workbook && v >= earliest && v < latest && v == math.Trunc(v) {
			return reading{kind: day}
		}
		return reading{kind: number}
	}
	if x.left--; x.left < 0 {
		if t, ok := x.reader.Exactly(cell); ok {
			return reading{kind: test, label: label.Label{Test: t}}
		}
		return reading{kind: words}
	}
	if f := fieldOf(cell); f != "" {
		return reading{kind: field, field: f}
	}
	if _, how := readDate(cell, DayFirst); how != noDate {
		return reading{kind: day}
	}
	if u, err := unit.Parse(cell); err == nil && u != "" {
		return reading{kind: part, label: label.Label{Unit: u}}
	}
	l, ok := x.reader.Read(cell)
	switch {
	case !ok || label.NotMeasured(cell):
		return reading{kind: words, label: l}
	case l.Test != nil:
		return reading{kind: test, label: l}
	}
	return reading{kind: part, label: l}
}

// GuessLayout proposes the sheet, the header and which way the results lie: of the
// sheets that are seen the one whose header is understood best.
func GuessLayout(g *table.Grid, x *Labels) Layout {
	best, most := Layout{}, -1.0
	for i := range g.Sheets {
		s := &g.Sheets[i]
		l, score := guessSheet(s, x)
		if s.Hidden {
			score /= 100
		}
		if l.Sheet = i; score > most {
			best, most = l, score
		}
		if x.left < 0 {
			break // what follows is not understood any better
		}
	}
	return best
}

// LayoutOf proposes the header of one sheet.
func LayoutOf(g *table.Grid, sheet int, x *Labels) Layout {
	l, _ := guessSheet(&g.Sheets[sheet], x)
	l.Sheet = sheet
	return l
}

func guessSheet(s *table.Sheet, x *Labels) (Layout, float64) {
	rows := s.Rows[:min(len(s.Rows), looked)]
	at, score := 0, 0.0
	for i := range rows {
		if n := headScore(rows[i].Cells, x); n > score {
			at, score = i, n
		}
	}
	if l, n, ok := guessDown(s, rows, x, score); ok {
		return l, n
	}
	first, last := at, at
	for last+1 < len(rows) && last-first+1 < MaxHeads && extendsDown(rows[at].Cells, rows[last+1].Cells, x) {
		last++
	}
	for first > 0 && last-first+1 < MaxHeads && rows[first-1].Line == rows[first].Line-1 && extendsUp(rows[first-1].Cells, x) {
		first--
	}
	return Layout{Top: rows[first].Line, Heads: last - first + 1}, score
}

// headScore is how much of a row reads like a header; numbers speak against it.
func headScore(cells []string, x *Labels) float64 {
	n := 0.0
	for _, c := range cells {
		switch x.read(c).kind {
		case field, test:
			n++
		case part, day:
			n += 0.5
		case number:
			n--
		}
	}
	return n
}

// extendsDown reports whether the row under a header belongs to it: it says sides,
// trials and units, or tests under their dates, and nothing else.
func extendsDown(head, under []string, x *Labels) bool {
	understood := 0
	for j, c := range under {
		r := x.read(c)
		switch {
		case r.kind == blank:
			continue
		case j < len(head) && x.read(head[j]).kind == field && r.kind != field:
			return false // somebody's name, a date
		case r.kind == part, r.kind == test, r.kind == field:
			understood++
		case r.kind == number && trialNumber(c):
			understood++
		default:
			return false
		}
	}
	return understood > 0
}

func trialNumber(c string) bool {
	n, err := strconv.Atoi(c)
	return err == nil && n >= 1 && n <= 10
}

// extendsUp reports whether the row above a header belongs to it: most of it names
// tests or dates.
func extendsUp(above []string, x *Labels) bool {
	understood, all := 0, 0
	for _, c := range above {
		switch r := x.read(c); r.kind {
		case blank:
		case test, day, part, field:
			understood++
			all++
		default:
			all++
		}
	}
	return all > 0 && 5*understood >= 3*all && (understood > 1 || len(above) > 1 && above[0] == "")
}

// guessDown looks for tests that go down the sheet. ok is false where the header
// above is understood better, and where what stands beside them is one trial a row.
func guessDown(s *table.Sheet, rows []table.Row, x *Labels, score float64) (l Layout, most float64, ok bool) {
	column, tests := -1, 0
	for j := range 4 {
		seen := map[string]bool{}
		for _, r := range rows {
			if j < len(r.Cells) {
				if c := x.read(r.Cells[j]); c.kind == test {
					seen[r.Cells[j]] = true
				}
			}
		}
		if len(seen) > tests {
			column, tests = j, len(seen)
		}
	}
	if tests < 2 || float64(tests) < score {
		return Layout{}, 0, false
	}
	first := slices.IndexFunc(rows, func(r table.Row) bool { return column < len(r.Cells) && x.read(r.Cells[column]).kind == test })
	// What stands over the columns beside the tests: their sides and trials, or golfers
	// and dates.
	left, heads := leftOf(rows[first:]), column+1
	head := -1
	for i := first - 1; i >= 0 && head < 0; i-- {
		if n := len(rows[i].Cells); n > column+1 && !table.Empty(rows[i].Cells[column+1:]) {
			head = i
		}
	}
	if head < 0 && resultsBeside(rows[first:], heads) {
		return Layout{Top: rows[first].Line, Heads: 0}, float64(tests), true
	} else if head < 0 {
		return Layout{}, 0, false
	}
	top := rows[head].Cells
	for heads < len(top) && heads-left < MaxHeads && besideTests(top[heads], rows[first:], heads, x) {
		heads++
	}
	if !resultsBeside(rows[first:], heads) {
		return Layout{}, 0, false
	}
	parts, others := 0, 0
	for _, c := range top[heads:] {
		switch r := x.read(c); r.kind {
		case blank:
		case part, field:
			parts++
		case number:
			if trialNumber(c) {
				parts++
			} else {
				others++
			}
		default:
			others++
		}
	}
	if parts >= others || slices.ContainsFunc(top[:heads], func(c string) bool { f := x.read(c).field; return f == "golfer" || f == "lastName" }) {
		return Layout{Top: rows[head].Line, Heads: 1}, float64(tests), true
	}
	return Layout{Top: rows[head].Line, Heads: heads - left, Turned: true}, float64(tests), true
}

// besideTests reports whether a column beside the tests still says what is measured:
// side, trial, unit.
func besideTests(head string, rows []table.Row, j int, x *Labels) bool {
	if h := x.read(head); h.kind == field && slices.Contains([]string{"side", "trial", "unit", "variant"}, h.field) {
		return true
	} else if h.kind == day || h.kind == part {
		return false
	}
	says, all := 0, 0
	for _, r := range rows {
		if j >= len(r.Cells) || r.Cells[j] == "" {
			continue
		}
		all++
		if k := x.read(r.Cells[j]).kind; k == part {
			says++
		}
	}
	return all > 0 && 2*says > all
}

// resultsBeside reports whether most of what stands from a column on are numbers.
func resultsBeside(rows []table.Row, from int) bool {
	numbers, all := 0, 0
	for _, r := range rows {
		for _, c := range r.Cells[min(from, len(r.Cells)):] {
			if c == "" || label.NotMeasured(c) {
				continue
			}
			if all++; strings.ContainsAny(c[:1], "0123456789-+.") {
				numbers++
			}
		}
	}
	return 2*numbers > all
}

// leftOf is the first column with anything in it.
func leftOf(rows []table.Row) int {
	left := table.MaxColumns
	for _, r := range rows {
		if i := slices.IndexFunc(r.Cells, func(c string) bool { return c != "" }); i >= 0 {
			left = min(left, i)
		}
	}
	return left
}

// Table lays a grid out as rows under one header. A layout that does not fit the
// grid, or leaves no rows, is a *table.Error.
func (l Layout) Table(g *table.Grid, x *Labels) (*table.Table, error) {
	if l.Sheet < 0 || l.Sheet >= len(g.Sheets) {
		return nil, table.None("there is no such sheet in the file")
	}
	if l.Heads < 0 || l.Heads > MaxHeads {
		return nil, table.None("a header has up to %d rows", MaxHeads)
	}
	s := &g.Sheets[l.Sheet]
	from := slices.IndexFunc(s.Rows, func(r table.Row) bool { return r.Line >= l.Top })
	if from < 0 {
		return nil, table.None("row %d lies under everything that is written", l.Top)
	}
	rows := s.Rows[from:]
	if l.Turned {
		var err error
		if rows, err = turned(rows); err != nil {
			return nil, err
		}
	}
	if len(rows) <= l.Heads {
		return nil, table.None("under this header there are no rows: choose another one, or another sheet")
	}
	t := &table.Table{Kind: g.Kind, Separator: g.Separator, Sheet: s.Name, From1904: g.From1904, Rows: rows[l.Heads:], Header: headers(rows[:l.Heads], x)}
	if l.Heads == 0 {
		width := 0
		for _, r := range rows {
			width = max(width, len(r.Cells))
		}
		for j := range width {
			t.Header = append(t.Header, fmt.Sprintf("column %d", j+1))
		}
	}
	return t, nil
}

// headers joins the rows of a header, each column's parts in one text. What stands
// once over several columns is said of each of them.
func headers(heads []table.Row, x *Labels) []string {
	if len(heads) == 0 {
		return nil
	}
	width := 0
	for _, h := range heads {
		width = max(width, len(h.Cells))
	}
	at := make([][]string, len(heads))
	for i, h := range heads {
		at[i] = append(slices.Clone(h.Cells), make([]string, width-len(h.Cells))...)
	}
	bottom := at[len(at)-1]
	for i := range at[:len(at)-1] {
		for j := 1; j < width; j++ {
			if at[i][j] != "" || at[i][j-1] == "" {
				continue
			}
			over, under := x.read(at[i][j-1]).kind, x.read(bottom[j]).kind
			if under == part || under == number || over == day && under == test {
				at[i][j] = at[i][j-1]
			}
		}
	}
	out := make([]string, width)
	for j := range out {
		var parts []string
		for i := range at {
			if c := at[i][j]; c != "" && !slices.Contains(parts, c) {
				parts = append(parts, c)
			}
		}
		out[j] = strings.Join(parts, joint)
	}
	for len(out) > 0 && out[len(out)-1] == "" {
		out = out[:len(out)-1]
	}
	return out
}

// turned makes columns of rows; a row's line is then the column it was. Empty
// columns are left out.
func turned(rows []table.Row) ([]table.Row, error) {
	if len(rows) > table.MaxColumns {
		return nil, table.None("turned, the sheet has %d columns: at most %d are read", len(rows), table.MaxColumns)
	}
	width := 0
	for _, r := range rows {
		width = max(width, len(r.Cells))
	}
	var out []table.Row
	for j := range width {
		cells := make([]string, len(rows))
		for i, r := range rows {
			if j < len(r.Cells) {
				cells[i] = r.Cells[j]
			}
		}
		if !table.Empty(cells) {
			out = append(out, table.Row{Line: j + 1, Cells: cells})
		}
	}
	return out, nil
}

// Above is what is written above the header of a layout: titles, a date, a name.
func (l Layout) Above(g *table.Grid) []string {
	if l.Sheet < 0 || l.Sheet >= len(g.Sheets) {
		return nil
	}
	s := &g.Sheets[l.Sheet]
	out := []string{}
	if s.Name != "" {
		out = append(out, s.Name)
	}
	for _, r := range s.Rows {
		if r.Line >= l.Top {
			break
		}
		for _, c := range r.Cells {
			if c != "" && len(c) <= maxLabel {
				out = append(out, c)
			}
		}
	}
	return out
}

// TitleDate is the day that stands above the header, where no column holds one.
func TitleDate(t *table.Table, above []string, m *Mapping) civil.Date {
	if m.has(Date) || !slices.ContainsFunc(m.Columns, func(c MappingColumn) bool { return c.Date.IsZero() && (c.Field == Measure || c.Field == "value") }) {
		return civil.Date{}
	}
	for _, text := range above {
		if before, after, ok := strings.Cut(text, ":"); ok && !strings.ContainsAny(before, "0123456789") {
			text = strings.TrimSpace(after)
		}
		if _, how := readDate(text, m.Dates); how == twoWays && m.Dates == "" {
			continue
		}
		if d, ok := dateIn(t, text, m.Dates); ok {
			return d
		}
	}
	return civil.Date{}
}
