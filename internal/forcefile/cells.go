package forcefile

import (
	"bytes"
	"math"
	"strconv"
	"strings"
)

// cell is one cell of a line, without the blanks and quotes about it.
type cell struct {
	text   []byte
	quoted bool
	open   bool // its quote is not closed before the line ends
}

// cut takes the next cell off a line. A delimiter between quotes belongs to the
// cell.
func cut(line []byte, delimiter byte) (c cell, rest []byte, more bool) {
	if delimiter != ' ' && len(line) > 0 && line[0] > '"' { // by far the most: a bare number
		if i := bytes.IndexByte(line, delimiter); i >= 0 {
			return cell{text: trim(line[:i])}, line[i+1:], true
		}
		return cell{text: trim(line)}, nil, false
	}
	line = bytes.TrimLeft(line, " ")
	if delimiter != '\t' {
		line = bytes.TrimLeft(line, "\t")
	}
	from := 0
	if len(line) > 0 && line[0] == '"' {
		c.quoted = true
		end := closing(line)
		if end < 0 {
			return cell{text: trim(line[1:]), quoted: true, open: true}, nil, false
		}
		c.text = trim(line[1:end])
		from = end + 1
	}
	i := -1
	if delimiter == ' ' {
		i = bytes.IndexAny(line[from:], " \t")
	} else {
		i = bytes.IndexByte(line[from:], delimiter)
	}
	if i < 0 {
		i = len(line) - from
	} else {
		rest, more = line[from+i+1:], true
	}
	if delimiter == ' ' {
		rest = bytes.TrimLeft(rest, " \t\r")
		more = len(rest) > 0
	}
	if !c.quoted {
		c.text = trim(line[:i])
	} else if after := trim(line[from : from+i]); len(after) > 0 {
		c.text = trim(line[:from+i]) // a quote within a text: "Plate" one
	}
	return c, rest, more
}

// closing is where the quote that opens a line's cell closes; two quotes stand
// for one. -1 if it does not.
func closing(line []byte) int {
	for i := 1; i < len(line); i++ {
		if line[i] != '"' {
			continue
		}
		if i+1 < len(line) && line[i+1] == '"' {
			i++
			continue
		}
		return i
	}
	return -1
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

// number reads a cell. Missing values are NaN; infinities are none.
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
