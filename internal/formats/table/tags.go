package table

import (
	"bufio"
	"bytes"
	"errors"
	"io"
	"strconv"
	"unicode/utf8"
)

// tags reads the little of XML a sheet needs: tags with attributes and the text
// before them, one at a time, within limits. encoding/xml is ten times slower,
// and a workbook of some 60 MB must be read or refused in a second.
type tags struct {
	r      *bufio.Reader
	name   string // of the tag, without a prefix
	opens  bool
	closes bool
	text   []byte // before the tag, where it was asked for
	tag    []byte
}

const maxTag = 16 << 10 // bytes of one tag

var errXML = errors.New("it is no XML")

func newTags(r io.Reader) *tags { return &tags{r: bufio.NewReaderSize(r, 64<<10)} }

// next moves to the next tag. With keep the text before it is kept, its entities
// resolved. io.EOF ends the part.
func (x *tags) next(keep bool) error {
	x.text = x.text[:0]
	for {
		if err := x.toTag(keep); err != nil {
			return err
		}
		if err := x.readTag(); err != nil {
			return err
		}
		switch {
		case len(x.tag) == 0:
			return errXML
		case x.tag[0] == '?':
			continue
		case x.tag[0] == '!':
			if bytes.HasPrefix(x.tag, []byte("![CDATA[")) {
				if keep {
					x.text = append(x.text, bytes.TrimSuffix(x.tag[8:], []byte("]]"))...)
				}
				continue
			}
			if bytes.HasPrefix(x.tag, []byte("!--")) {
				continue
			}
			return errors.New("it declares a document type, which a sheet has not")
		}
		x.opens, x.closes = x.tag[0] != '/', x.tag[0] == '/' || x.tag[len(x.tag)-1] == '/'
		name := bytes.TrimPrefix(x.tag, []byte("/"))
		if i := bytes.IndexAny(name, " \t\r\n/"); i >= 0 {
			name = name[:i]
		}
		if i := bytes.IndexByte(name, ':'); i >= 0 {
			name = name[i+1:]
		}
		x.name = known[string(name)]
		return nil
	}
}

// known are the tags a sheet is read by; others have no name here.
var known = map[string]string{"si": "si", "rPh": "rPh", "t": "t", "row": "row", "c": "c", "v": "v", "sheetData": "sheetData"}

// toTag reads to the next '<'.
func (x *tags) toTag(keep bool) error {
	start := len(x.text)
	for {
		b, err := x.r.ReadSlice('<')
		if keep {
			x.text = append(x.text, bytes.TrimSuffix(b, []byte("<"))...)
			if len(x.text) > 8*MaxCell {
				return None("a cell has more than %d letters", MaxCell)
			}
		}
		if errors.Is(err, bufio.ErrBufferFull) {
			continue
		}
		if err != nil {
			return err
		}
		if keep && bytes.IndexByte(x.text[start:], '&') >= 0 {
			resolved, err := entities(x.text[start:])
			if err != nil {
				return err
			}
			x.text = append(x.text[:start], resolved...)
		}
		return nil
	}
}

// readTag reads to the '>' that ends the tag, the comment or the CDATA.
func (x *tags) readTag() error {
	x.tag = x.tag[:0]
	for {
		b, err := x.r.ReadSlice('>')
		if len(x.tag)+len(b) > maxTag {
			return errXML
		}
		x.tag = append(x.tag, b...)
		switch {
		case errors.Is(err, bufio.ErrBufferFull):
			continue
		case errors.Is(err, io.EOF):
			return io.ErrUnexpectedEOF
		case err != nil:
			return err
		case bytes.HasPrefix(x.tag, []byte("!--")) && (!bytes.HasSuffix(x.tag, []byte("-->")) || len(x.tag) < 6):
			continue
		case bytes.HasPrefix(x.tag, []byte("![CDATA[")) && !bytes.HasSuffix(x.tag, []byte("]]>")):
			continue
		case x.tag[0] != '!' && x.tag[0] != '?' && bytes.Count(x.tag, []byte{'"'})%2 == 1:
			continue // a '>' inside of an attribute
		}
		x.tag = x.tag[:len(x.tag)-1]
		return nil
	}
}

// attr returns an attribute of the tag, or "".
func (x *tags) attr(name string) string {
	for rest := x.tag; ; {
		i := bytes.Index(rest, []byte(name))
		if i < 0 {
			return ""
		}
		after := rest[i+len(name):]
		if i > 0 && (rest[i-1] == ' ' || rest[i-1] == '\t' || rest[i-1] == '\n' || rest[i-1] == '\r') && len(after) > 2 && after[0] == '=' &&
			(after[1] == '"' || after[1] == '\'') {
			if end := bytes.IndexByte(after[2:], after[1]); end >= 0 {
				return string(after[2 : 2+end])
			}
			return ""
		}
		rest = after
	}
}

var named = map[string]string{"lt": "<", "gt": ">", "amp": "&", "quot": `"`, "apos": "'"}

// entities resolves the references in a text.
func entities(b []byte) ([]byte, error) {
	out := make([]byte, 0, len(b))
	for {
		i := bytes.IndexByte(b, '&')
		if i < 0 {
			return append(out, b...), nil
		}
		out, b = append(out, b[:i]...), b[i+1:]
		end := bytes.IndexByte(b[:min(len(b), 12)], ';')
		if end < 1 {
			return nil, errXML
		}
		ref := string(b[:end])
		b = b[end+1:]
		if s, ok := named[ref]; ok {
			out = append(out, s...)
			continue
		}
		if ref[0] != '#' || len(ref) < 2 {
			return nil, errXML
		}
		base, digits := 10, ref[1:]
		if digits[0] == 'x' || digits[0] == 'X' {
			base, digits = 16, digits[1:]
		}
		n, err := strconv.ParseUint(digits, base, 32)
		if err != nil || n == 0 || !utf8.ValidRune(rune(n)) {
			return nil, errXML
		}
		out = utf8.AppendRune(out, rune(n))
	}
}
