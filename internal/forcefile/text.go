package forcefile

import (
	"bytes"
	"math"
	"net/http"
	"strings"
	"unicode/utf8"

	"golang.org/x/text/encoding/charmap"
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
	b = withoutEmptyEnd(b)
	f := &File{Kind: "csv", FirstRow: lay.first + 1, Preamble: lay.preamble}
	f.Channels = lay.channels()
	rows := bytes.Count(b[lay.offset:], []byte{'\n'}) + 1
	if rows*len(f.Channels) > maxValues {
		return nil, refuse("the file holds more than %d million numbers: cut the recording to a minute or less", maxValues>>20)
	}
	for i := range f.Channels {
		f.Channels[i].Values = make([]float64, 0, rows)
	}
	body := b[lay.offset:]
	if lay.paired {
		if body, err = pointed(body, lay); err != nil {
			return nil, err
		}
	}
	if err := f.rows(body, lay); err != nil {
		return nil, err
	}
	if n := f.Len(); n < 3 {
		return nil, refuse("the file holds %d rows of numbers: that is no recording", n)
	}
	return f, f.readPreamble()
}

// plainText decodes UTF-8 and UTF-16, with and without their marks, and Latin-1,
// and refuses what is no text.
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
	if !utf8.Valid(b) {
		// Not UTF-8 and a text all the same: older programs write Latin-1, or its
		// Windows form, which has a letter for nearly every byte.
		out, err := charmap.Windows1252.NewDecoder().Bytes(b)
		if err != nil {
			return nil, refuse("the file's text could not be decoded: save it as UTF-8")
		}
		b = out
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

// pointed writes every other comma of each row as a point. A row with another
// number of commas could be read in two ways and is refused.
func pointed(b []byte, l *layout) ([]byte, error) {
	out := bytes.Clone(b)
	row, commas := l.first+1, 0
	for i, c := range out {
		if c == ',' {
			if commas++; commas%2 == 1 {
				out[i] = '.'
			}
		}
		if c == '\n' || i == len(out)-1 {
			if commas != 0 && commas != 2*l.width-1 {
				return nil, refuse(
					"row %d: commas stand between the columns and mark the decimals, and here it cannot be told which is which. Export with semicolons between the columns",
					row,
				)
			}
			row, commas = row+1, 0
		}
	}
	return out, nil
}

// withoutEmptyEnd leaves out rows of separators at the end of a file.
func withoutEmptyEnd(b []byte) []byte {
	for len(b) > 0 {
		from := bytes.LastIndexByte(b[:len(b)-1], '\n') + 1
		if len(bytes.Trim(b[from:], emptyCells)) > 0 {
			break
		}
		b = b[:from]
	}
	return b
}

// emptyCells is what a row without anything in it is made of.
const emptyCells = " \t\r\n;,|\""

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
			var at cell
			at, rest, more = cut(rest, l.delimiter)
			field := at.text
			if at.open {
				return refuse("row %d, column %s opens a quote and does not close it", row, f.Channels[min(k, l.width-1)].Name)
			}
			if k >= l.width {
				if len(field) == 0 && len(bytes.Trim(rest, emptyCells)) == 0 {
					break // empty cells behind the last column
				}
				return refuse("row %d has more than the %d columns of the first one", row, l.width)
			}
			c := &f.Channels[k]
			v, ok := number(field, l.comma)
			if l.comma && ok && bytes.IndexByte(field, '.') >= 0 {
				return refuse("row %d, column %s writes %.40s with a point, others have a comma: which one marks the decimals? Write all in one way", row, c.Name, field)
			}
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
