package forcefile

import (
	"bytes"
	"math"
	"net/http"
	"regexp"
	"strconv"
	"strings"
	"unicode/utf8"

	"golang.org/x/text/encoding/unicode"
	"golang.org/x/text/transform"
)

// readText reads a table of numbers under a header, with whatever stands above
// it.
func readText(b []byte) (*File, error) {
	b, err := plainText(b)
	if err != nil {
		return nil, err
	}
	lay, err := layoutOf(b)
	if err != nil {
		return nil, err
	}
	f := &File{Kind: "csv", FirstRow: lay.first + 1, Preamble: lay.preamble}
	f.Channels = lay.channels()
	rows := bytes.Count(b[lay.offset:], []byte{'\n'}) + 1
	if rows*len(f.Channels) > maxValues {
		return nil, refuse("the file holds more than %d million numbers: cut the recording to a minute or less", maxValues>>20)
	}
	for i := range f.Channels {
		f.Channels[i].Values = make([]float64, 0, rows)
	}
	if err := f.rows(b[lay.offset:], lay); err != nil {
		return nil, err
	}
	if n := f.Len(); n < 3 {
		return nil, refuse("the file holds %d rows of numbers: that is no recording", n)
	}
	return f, f.readPreamble()
}

// plainText decodes UTF-8 and UTF-16, with and without their marks, and refuses
// what is no text.
func plainText(b []byte) ([]byte, error) {
	head := b[:min(len(b), 512)]
	if strings.HasPrefix(http.DetectContentType(head), "image/") {
		return nil, noText(head)
	}
	zeros := [2]int{}
	for i, c := range head {
		if c == 0 {
			zeros[i%2]++
		}
	}
	half := len(head) / 2
	switch {
	case bytes.HasPrefix(b, []byte{0xFF, 0xFE}) || bytes.HasPrefix(b, []byte{0xFE, 0xFF}):
	case zeros[1] > half*7/10 && zeros[0] == 0 && half > 4:
		b = append([]byte{0xFF, 0xFE}, b...)
	case zeros[0] > half*7/10 && zeros[1] == 0 && half > 4:
		b = append([]byte{0xFE, 0xFF}, b...)
	case zeros[0]+zeros[1] > 0:
		return nil, noText(head)
	}
	if b[0] >= 0xFE && len(b)%2 != 0 {
		return nil, refuse("the file says it is UTF-16 but has an odd number of bytes: it is cut off")
	}
	if b[0] >= 0xFE || bytes.HasPrefix(b, []byte{0xEF, 0xBB, 0xBF}) {
		out, _, err := transform.Bytes(unicode.BOMOverride(unicode.UTF8.NewDecoder()), b)
		if err != nil {
			return nil, refuse("the file's text could not be decoded: save it as UTF-8")
		}
		b = out
	}
	if i := bytes.IndexByte(b, 0); i >= 0 {
		return nil, refuse("byte %d is zero: this is no text. Export the recording as CSV or C3D", i+1)
	}
	if !utf8.Valid(head[:max(0, len(head)-4)]) && !strings.HasPrefix(http.DetectContentType(head), "text/") {
		return nil, noText(head)
	}
	return b, nil
}

func noText(head []byte) error {
	kind := http.DetectContentType(head)
	if strings.HasPrefix(kind, "image/") {
		return refuse("this is a picture (%s), whatever it is called: export the recording as CSV or C3D", kind)
	}
	return refuse("this is neither a text nor a C3D file: export the recording as CSV or C3D")
}

// layout is how a text file is laid out.
type layout struct {
	delimiter byte // ' ' for any run of blanks
	comma     bool // decimals are written with one
	first     int  // line of the first numbers, from 0
	offset    int  // and its byte
	width     int
	header    []string
	units     []string
	groups    []string
	preamble  []string
}

var delimiters = []byte{'\t', ';', ',', '|', ' '}

// headLines is how far down the numbers may begin.
const headLines = 300

// layoutOf looks for the first rows of numbers, under every delimiter, and takes
// the reading with most columns.
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
	for _, d := range delimiters {
		for i, line := range lines {
			width, _, ok := numbers(line, d)
			if !ok {
				continue
			}
			if next := nextLine(lines, i); next != nil {
				// One that is damaged is refused later, by its row; a header is not
				// taken for one.
				if w, some, _ := numbers(next, d); w != width || some == 0 {
					continue
				}
			}
			if best == nil || width > best.width {
				best = &layout{delimiter: d, first: i, offset: offsets[i], width: width}
			}
			break
		}
	}
	if best == nil || best.width > maxChans {
		if best != nil {
			return nil, refuse("the file has %d columns: at most %d are read", best.width, maxChans)
		}
		return nil, refuse("no rows of numbers were found in the first %d lines: is this a recording?", headLines)
	}
	best.head(lines)
	for _, line := range lines[best.first:] {
		if best.delimiter != ',' && bytes.IndexByte(line, ',') >= 0 {
			best.comma = true
		}
	}
	return best, nil
}

func nextLine(lines [][]byte, i int) []byte {
	for _, l := range lines[i+1:] {
		if len(bytes.TrimSpace(l)) > 0 {
			return l
		}
	}
	return nil
}

// numbers counts the fields of a line and those that are numbers, and reports
// whether they are more than half of the filled ones.
func numbers(line []byte, delimiter byte) (width, good int, most bool) {
	filled := 0
	for rest, more := line, len(bytes.TrimSpace(line)) > 0; more; {
		var field []byte
		field, rest, more = cut(rest, delimiter)
		width++
		if len(field) == 0 {
			continue
		}
		filled++
		if _, ok := number(field, delimiter != ','); ok {
			good++
		}
	}
	return width, good, 2*good > filled && good > 0
}

// cut takes the next field off a line, without blanks and quotes about it.
func cut(line []byte, delimiter byte) (field, rest []byte, more bool) {
	if delimiter == ' ' {
		line = bytes.TrimLeft(line, " \t")
		i := bytes.IndexAny(line, " \t")
		if i < 0 {
			return trim(line), nil, false
		}
		rest = bytes.TrimLeft(line[i:], " \t\r")
		return trim(line[:i]), rest, len(rest) > 0
	}
	i := bytes.IndexByte(line, delimiter)
	if i < 0 {
		return trim(line), nil, false
	}
	return trim(line[:i]), line[i+1:], true
}

func trim(b []byte) []byte {
	for len(b) > 0 && (b[0] == ' ' || b[0] == '\t' || b[0] == '"') {
		b = b[1:]
	}
	for len(b) > 0 {
		if c := b[len(b)-1]; c != ' ' && c != '\t' && c != '"' && c != '\r' {
			break
		}
		b = b[:len(b)-1]
	}
	return b
}

// number reads a field. Missing values are NaN; infinities are none.
func number(b []byte, comma bool) (float64, bool) {
	if len(b) == 0 {
		return math.NaN(), true
	}
	if len(b) > 40 {
		return 0, false
	}
	if c := b[0]; c > '9' || c == '-' && len(b) == 1 {
		switch strings.ToLower(string(b)) {
		case "nan", "na", "n/a", "null", "none", "-", "—", "–":
			return math.NaN(), true
		}
		return 0, false
	}
	var buf [40]byte
	if comma {
		if i := bytes.IndexByte(b, ','); i >= 0 {
			copy(buf[:], b)
			buf[i] = '.'
			b = buf[:len(b)]
		}
	}
	v, err := strconv.ParseFloat(string(b), 64)
	return v, err == nil && !math.IsInf(v, 0) && b[0] != 'i' && b[0] != 'I'
}

// head finds header, units and what stands above.
func (l *layout) head(lines [][]byte) {
	fields := func(i int) []string {
		var out []string
		for rest, more := lines[i], true; more; {
			var f []byte
			f, rest, more = cut(rest, l.delimiter)
			out = append(out, string(f))
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
	if row != nil && allUnits(row) {
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

func allUnits(row []string) bool {
	some := false
	for _, s := range row {
		s = strings.Trim(s, "[]() ")
		if s == "" || s == "-" || s == "#" {
			continue
		}
		if _, ok := unitOf(s); !ok {
			return false
		}
		some = true
	}
	return some
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
			out[i].Unit = strings.Trim(l.units[i], "[]()-# ")
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

// rows reads the numbers.
func (f *File) rows(b []byte, l *layout) error {
	marker := make([]bool, l.width)
	for i, c := range f.Channels {
		q, _, _ := guessName(c.Name)
		marker[i] = q == Impact
	}
	for row := l.first + 1; len(b) > 0; row++ {
		line := b
		if i := bytes.IndexByte(b, '\n'); i >= 0 {
			line, b = b[:i], b[i+1:]
		} else {
			b = nil
		}
		if len(line) == 0 || len(bytes.TrimSpace(line)) == 0 {
			continue
		}
		more := true
		k := 0
		for rest := line; more; k++ {
			var field []byte
			field, rest, more = cut(rest, l.delimiter)
			if k >= l.width {
				if len(field) == 0 && !more {
					k--
					break
				}
				return refuse("row %d has more than the %d columns of the first one", row, l.width)
			}
			c := &f.Channels[k]
			v, ok := number(field, l.comma)
			switch {
			case ok && marker[k] && math.IsNaN(v):
				v = 0
			case ok:
			case marker[k]:
				if c.marks == nil {
					c.marks = map[int]string{}
				}
				c.marks[len(c.Values)] = string(field)
			default:
				return refuse("row %d, column %s: “%.40s” is no number", row, c.Name, field)
			}
			c.Values = append(c.Values, v)
		}
		if k < l.width {
			return refuse("row %d has %d of %d columns: the file is cut off there, or a delimiter is missing", row, k, l.width)
		}
	}
	return nil
}

var (
	rateLine   = regexp.MustCompile(`(?i)(?:\brate\b|freq\w*|abtastrate|\bfs\b)[^0-9]{0,40}?([0-9]+(?:[.,][0-9]+)?)\s*(k?hz)?`)
	notRate    = regexp.MustCompile(`(?i)filter|cut-?\s?off|low-?\s?pass|notch|mains|heart`)
	interval   = regexp.MustCompile(`(?i)(?:interval|period|\bdt\b)[^0-9]{0,20}?([0-9]+(?:[.,][0-9]+)?)\s*(ms|s)?\b`)
	hertz      = regexp.MustCompile(`(?i)([0-9]+(?:[.,][0-9]+)?)\s*(k?)hz\b`)
	impactLine = regexp.MustCompile(`(?i)\b(impact|top)\b[^0-9a-z-]{0,6}(?:time|at)?[^0-9a-z-]{0,6}([0-9]+(?:[.,][0-9]+)?)\s*(ms|s)?\b`)
	unitsLine  = regexp.MustCompile(`(?i)\bunits?\b\W*(.*)`)
	forceLine  = regexp.MustCompile(`(?i)\b(force|time|length|cop|moment|torque)\b[^a-z]*(?:unit)?s?[^a-z]*(kgf|kp|kn|n|lbf|ms|s|mm|cm|m|n\W?m|n\W?mm)\b`)
)

// readPreamble takes sampling rate and units from what stands above the header.
func (f *File) readPreamble() error {
	for _, line := range f.Preamble {
		if f.RateHz == 0 {
			f.RateHz = rateIn(line)
		}
		if m := impactLine.FindStringSubmatch(line); m != nil {
			v := preambleNumber(m[2])
			if strings.EqualFold(m[3], "ms") {
				v /= 1000
			}
			if strings.EqualFold(m[1], "impact") {
				f.ImpactS = &v
			} else {
				f.TopS = &v
			}
		}
		if m := unitsLine.FindStringSubmatch(line); m != nil || forceLine.MatchString(line) {
			f.preambleUnits(line)
		}
	}
	if f.RateHz != 0 && !(f.RateHz >= 10 && f.RateHz <= 100_000) {
		return refuse("the sampling rate of %g Hz above the header is none a force plate has: correct it there", f.RateHz)
	}
	return nil
}

// rateIn is the sampling rate a line above the header names, 0 for none.
func rateIn(line string) float64 {
	if notRate.MatchString(line) {
		return 0
	}
	if m := hertz.FindStringSubmatch(line); m != nil {
		if m[2] != "" {
			return 1000 * preambleNumber(m[1])
		}
		return preambleNumber(m[1])
	}
	if m := rateLine.FindStringSubmatch(line); m != nil {
		return preambleNumber(m[1])
	}
	if m := interval.FindStringSubmatch(line); m != nil {
		if v := preambleNumber(m[1]); v > 0 && strings.EqualFold(m[2], "ms") {
			return 1000 / v
		} else if v > 0 {
			return 1 / v
		}
	}
	return 0
}

func preambleNumber(s string) float64 {
	v, _ := strconv.ParseFloat(strings.Replace(s, ",", ".", 1), 64)
	return v
}

// preambleUnits gives the units a line above the header names to the columns
// that have none.
func (f *File) preambleUnits(line string) {
	for _, word := range strings.FieldsFunc(line, func(r rune) bool { return strings.ContainsRune(" \t,;:|=\"[]()", r) }) {
		u, ok := unitOf(word)
		if !ok {
			continue
		}
		for i := range f.Channels {
			q, _, name := guessName(f.Channels[i].Name)
			if f.Channels[i].Unit == "" && name == "" && q != "" && q.dimension() == u.dimension {
				f.Channels[i].Unit = word
			}
		}
	}
}
