package forcefile

import (
	"bytes"
	"regexp"
	"strconv"
	"strings"
)

// layout is how a text file is laid out.
type layout struct {
	delimiter byte // ' ' for any run of blanks
	comma     bool // decimals are written with one
	first     int  // line of the first numbers, from 0
	offset    int  // and its byte
	width     int
	// paired is true where commas stand both between the columns and within the
	// numbers: two names over 0,001,801,5.
	paired   bool
	header   []string
	units    []string
	groups   []string
	preamble []string
}

var delimiters = []byte{'\t', ';', ',', '|', ' '}

// headLines is how far down the numbers may begin.
const headLines = 300

// layoutOf looks for the first rows of numbers under every delimiter and takes
// the reading that leaves least unread: the largest share of filled cells that
// are numbers, then as many columns as there are names above, then most columns.
func layoutOf(b []byte) (*layout, error) {
	var lines [][]byte
	var offsets []int
	for at := 0; at < len(b) && len(lines) < headLines; {
		end := bytes.IndexByte(b[at:], '\n')
		if end < 0 {
			end = len(b) - at
		}
		lines, offsets = append(lines, bytes.TrimRight(b[at:at+end], "\r")), append(offsets, at)
		at += end + 1
	}
	var best *layout
	share, named := 0.0, false
	for _, d := range delimiters {
		first, width := firstNumbers(lines, d)
		if first < 0 {
			continue
		}
		names, known := namesAbove(lines[:first], d)
		s, fits := readable(lines[first:], d), known && names == width
		better := s > share+0.02
		if like := s > share-0.02; like && fits == named {
			better = better || width > best.width
		} else if like {
			better = fits
		}
		if best == nil || better {
			best, share, named = &layout{delimiter: d, first: first, offset: offsets[first], width: width}, s, fits
			best.paired = d == ',' && known && 2*names == width
		}
	}
	switch {
	case best == nil:
		return nil, refuse("no rows of numbers were found in the first %d lines: is this a recording?", headLines)
	case best.width > maxChans:
		return nil, refuse("the file has %d columns: at most %d are read", best.width, maxChans)
	}
	if best.paired {
		best.width /= 2
	}
	if err := best.head(lines); err != nil {
		return nil, err
	}
	return best, best.decimals(lines)
}

// firstNumbers is the line on which the numbers begin under a delimiter, and
// how many columns they have; -1 for none.
func firstNumbers(lines [][]byte, delimiter byte) (first, width int) {
	for i, line := range lines {
		width, _, ok := numbers(line, delimiter)
		if !ok {
			continue
		}
		if next := nextLine(lines, i); next != nil {
			// One that is damaged is refused later, by its row; a header is not
			// taken for one.
			if w, some, _ := numbers(next, delimiter); w != width || some == 0 {
				continue
			}
		}
		return i, width
	}
	return -1, 0
}

// namesAbove counts the cells of the line above the numbers, and reports whether
// one of them names what a plate measures.
func namesAbove(above [][]byte, delimiter byte) (cells int, known bool) {
	i := len(above) - 1
	for i >= 0 && len(bytes.TrimSpace(above[i])) == 0 {
		i--
	}
	if i < 0 {
		return 0, false
	}
	for rest, more := bytes.TrimRight(above[i], string([]byte{delimiter, ' '})), true; more; cells++ {
		var c cell
		c, rest, more = cut(rest, delimiter)
		q, _, _ := guessName(string(c.text))
		known = known || q != ""
	}
	return cells, known
}

// readable is the share of filled cells that are numbers under a delimiter.
func readable(lines [][]byte, delimiter byte) float64 {
	good, filled := 0, 0
	for _, line := range lines[:min(len(lines), 50)] {
		for rest, more := line, len(bytes.TrimSpace(line)) > 0; more; {
			var c cell
			c, rest, more = cut(rest, delimiter)
			if len(c.text) == 0 {
				continue
			}
			filled++
			if _, ok := number(c.text, delimiter != ',' || c.quoted); ok {
				good++
			}
		}
	}
	return float64(good) / float64(max(filled, 1))
}

func nextLine(lines [][]byte, i int) []byte {
	for _, l := range lines[i+1:] {
		if len(bytes.TrimSpace(l)) > 0 {
			return l
		}
	}
	return nil
}

// numbers counts the cells of a line and those that are numbers, and reports
// whether they are more than half of the filled ones.
func numbers(line []byte, delimiter byte) (width, good int, most bool) {
	filled := 0
	for rest, more := line, len(bytes.TrimSpace(line)) > 0; more; {
		var c cell
		c, rest, more = cut(rest, delimiter)
		width++
		if len(c.text) == 0 {
			continue
		}
		filled++
		if _, ok := number(c.text, delimiter != ',' || c.quoted); ok {
			good++
		}
	}
	return width, good, 2*good > filled && good > 0
}

var (
	withComma = regexp.MustCompile(`^[+-]?[0-9]*,[0-9]+(?:[eE][+-]?[0-9]+)?$`)
	withPoint = regexp.MustCompile(`^[+-]?[0-9]*\.[0-9]+(?:[eE][+-]?[0-9]+)?$`)
)

// decimals finds how decimals are written. A file with both a comma and a point
// is refused: one of them stands for thousands.
func (l *layout) decimals(lines [][]byte) error {
	if l.paired {
		return nil
	}
	point := ""
	for i, line := range lines[l.first:] {
		for rest, more := line, len(bytes.TrimSpace(line)) > 0; more; {
			var c cell
			c, rest, more = cut(rest, l.delimiter)
			switch {
			case c.open:
			case (l.delimiter != ',' || c.quoted) && withComma.Match(c.text):
				if l.comma = true; point != "" {
					return refuse(
						"row %d writes %s with a comma, another %s with a point: which one marks the decimals? Write all in one way",
						l.first+i+1,
						c.text,
						point,
					)
				}
			case withPoint.Match(c.text):
				if point = string(c.text); l.comma {
					return refuse("row %d writes %s with a point, others have a comma: which one marks the decimals? Write all in one way", l.first+i+1, c.text)
				}
			}
		}
	}
	return nil
}

// head finds header, units and what stands above.
func (l *layout) head(lines [][]byte) error {
	open := 0
	fields := func(i int) []string {
		var out []string
		for rest, more := lines[i], true; more; {
			var c cell
			if c, rest, more = cut(rest, l.delimiter); c.open {
				open = i + 1
			}
			out = append(out, strings.ReplaceAll(string(c.text), `""`, `"`))
		}
		return out
	}
	at := l.first - 1
	above := func() []string {
		for at >= 0 && len(bytes.TrimSpace(lines[at])) == 0 {
			at--
		}
		if at < 0 {
			return nil
		}
		row := fields(at)
		for len(row) > l.width && row[len(row)-1] == "" {
			row = row[:len(row)-1]
		}
		if len(row) > l.width || 2*len(row) < l.width {
			return nil
		}
		return append(row, make([]string, l.width-len(row))...)
	}
	row := above()
	if open > 0 {
		return refuse("row %d opens a quote and does not close it", open)
	}
	if row != nil && mostUnits(row) {
		l.units = row
		at--
		row = above()
	}
	if row != nil {
		l.header = row
		at--
		if repeats(row) {
			// Names come twice: the row above says for which plate.
			if g := above(); g != nil && strings.Join(g, "") != "" {
				l.groups = g
				at--
			}
		}
	}
	for i := 0; i <= at; i++ {
		if s := strings.TrimSpace(string(lines[i])); s != "" && len(s) < 500 {
			l.preamble = append(l.preamble, s)
		}
	}
	return nil
}

func repeats(row []string) bool {
	seen := map[string]bool{}
	for _, s := range row {
		s = strings.ToLower(s)
		if s != "" && seen[s] {
			return true
		}
		seen[s] = true
	}
	return false
}

// mostUnits reports whether a row under the names holds their units: a cell may
// have one nobody knows, none may be a name.
func mostUnits(row []string) bool {
	known, other := 0, 0
	for _, s := range row {
		s = strings.Trim(s, "[](){} ")
		if s == "" || s == "-" || s == "#" {
			continue
		}
		if _, ok := unitOf(s); ok {
			known++
		} else if q, _, _ := guessName(s); q != "" || len(s) > 12 {
			return false
		} else {
			other++
		}
	}
	return known > 0 && known >= other
}

var bracket = regexp.MustCompile(`^(.*?)\s*[\[(]\s*([^\])]*?)\s*[\])]\s*$`)

// channels names the columns and splits units off their names.
func (l *layout) channels() []Channel {
	out := make([]Channel, l.width)
	group := ""
	for i := range out {
		name := ""
		if l.header != nil {
			name = l.header[i]
		}
		if m := bracket.FindStringSubmatch(name); m != nil {
			if _, ok := unitOf(m[2]); ok {
				name, out[i].Unit = m[1], m[2]
			}
		}
		if l.units != nil && out[i].Unit == "" {
			out[i].Unit = strings.Trim(l.units[i], "[](){}-# ")
		}
		if l.groups != nil {
			if l.groups[i] != "" {
				group = l.groups[i]
			}
			if group != "" && !strings.Contains(strings.ToLower(name), "time") {
				name = group + " " + name
			}
		}
		if name == "" {
			name = "column " + strconv.Itoa(i+1)
		}
		out[i].Name = name
	}
	return out
}
