package formats

import (
	"bytes"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"strings"

	"dunnock/internal/core/athlete"
)

// MaxJSON is the largest export that is read, in bytes.
const MaxJSON = 8 << 20

// WriteJSON writes v the one way Dunnock writes JSON: two spaces, a newline at
// the end, < and > as they are.
func WriteJSON(w io.Writer, v any) error {
	enc := json.NewEncoder(w)
	enc.SetEscapeHTML(false)
	enc.SetIndent("", "  ")
	return enc.Encode(v)
}

// ReadAthlete reads one golfer's export and checks it. The error names the line
// or the path of what is wrong, and there may be several joined.
func ReadAthlete(r io.Reader) (*athlete.File, error) {
	b, err := io.ReadAll(io.LimitReader(r, MaxJSON+1))
	if err != nil {
		return nil, err
	}
	if len(b) > MaxJSON {
		return nil, fmt.Errorf("the file is larger than %d MB", MaxJSON>>20)
	}
	dec := json.NewDecoder(bytes.NewReader(b))
	dec.DisallowUnknownFields()
	var f athlete.File
	if err := dec.Decode(&f); err != nil {
		return nil, where(b, dec.InputOffset(), err)
	}
	if _, err := dec.Token(); !errors.Is(err, io.EOF) {
		return nil, errors.New("the file goes on after the golfer's export ends")
	}
	if problems := f.Validate(); len(problems) > 0 {
		errs := make([]error, len(problems))
		for i, p := range problems {
			errs[i] = p
		}
		return nil, errors.Join(errs...)
	}
	f.Format = athlete.Format
	return &f, nil
}

// where puts the line into a decoding error.
func where(b []byte, offset int64, err error) error {
	var syntax *json.SyntaxError
	var kind *json.UnmarshalTypeError
	switch {
	case errors.As(err, &syntax):
		offset = syntax.Offset
	case errors.As(err, &kind):
		return fmt.Errorf("line %d, %s: a %s where a %s belongs", lineAt(b, kind.Offset), kind.Field, kind.Value, kind.Type)
	case errors.Is(err, io.ErrUnexpectedEOF), errors.Is(err, io.EOF):
		return errors.New("the file ends in the middle, or is empty")
	}
	return fmt.Errorf("line %d: %s", lineAt(b, offset), strings.TrimPrefix(err.Error(), "json: "))
}

func lineAt(b []byte, offset int64) int {
	offset = min(max(offset, 0), int64(len(b)))
	return 1 + bytes.Count(b[:offset], []byte("\n"))
}
