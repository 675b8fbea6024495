// Package forcefile turns files of ground force into recordings and back: CSV in
// the dialects plates write, and C3D. It knows bytes, names of columns and units;
// what the axes mean is core/force's, what the numbers say jump's and swing's.
//
// A file is read in two steps. Read decodes it into channels under their own
// names. A Mapping, guessed from the names or given by the coach, says what each
// channel is; Mapping.Recording then makes the recording in the golfer's frame.
package forcefile

import (
	"bytes"
	"crypto/sha256"
	"encoding/hex"
	"fmt"
	"io"
	"strings"

	"dunnock/internal/core/force"
)

// Limits of a file. A minute of 16 channels at 2,000 Hz is about 17 MB of text.
const (
	MaxBytes  = 64 << 20
	maxValues = 6 << 20 // samples of all channels together
	maxChans  = 256
)

// File is a decoded file.
type File struct {
	Kind     string // csv or c3d
	RateHz   float64
	Channels []Channel
	// FirstRow is the row of the first sample in a text file, from 1; rows then
	// follow each other but for empty ones.
	FirstRow int
	Preamble []string // what stood above the header
	// Plates are the force plates a C3D file describes, in its laboratory frame.
	Plates []force.Plate
	// UpAxis is the axis that stands up in the laboratory of a C3D file.
	UpAxis force.Axis
	// ImpactS and TopS are events the file names.
	ImpactS, TopS *float64
	Notes         []string
}

// Channel is one column or analog channel.
type Channel struct {
	Name   string
	Unit   string
	Values []float64
	// marks are texts in a marker column, by sample.
	marks map[int]string
}

// Len is the number of samples.
func (f *File) Len() int {
	if len(f.Channels) > 0 {
		return len(f.Channels[0].Values)
	}
	if len(f.Plates) > 0 {
		return len(f.Plates[0].Force[2])
	}
	return 0
}

// Fingerprint names the layout of a file: files with the same channels come from
// the same source.
func (f *File) Fingerprint() string {
	var b strings.Builder
	b.WriteString("force:" + f.Kind)
	for _, c := range f.Channels {
		b.WriteString("\x00" + strings.ToLower(c.Name) + "\x01" + c.Unit)
	}
	h := sha256.Sum256([]byte(b.String()))
	return hex.EncodeToString(h[:16])
}

// Error says why a file is refused: where, and what to do.
type Error struct{ Text string }

func (e *Error) Error() string { return e.Text }

func refuse(format string, args ...any) error { return &Error{fmt.Sprintf(format, args...)} }

// Read decodes a file by what it holds, whatever its name.
func Read(b []byte) (*File, error) {
	switch {
	case len(b) == 0:
		return nil, refuse("the file is empty")
	case len(b) > MaxBytes:
		return nil, tooLarge()
	case len(b) >= 2 && b[0] >= 2 && b[0] < 128 && b[1] == 0x50 && bytes.IndexByte(b[:min(len(b), block)], 0) >= 0: // a text has no zeros
		return readC3D(b)
	}
	return readText(b)
}

func tooLarge() error {
	return refuse("the file is larger than %d MB: cut the recording to a minute or less", MaxBytes>>20)
}

// ReadAll reads a file to its end, or refuses it once it is too large.
func ReadAll(r io.Reader) ([]byte, error) {
	b, err := io.ReadAll(io.LimitReader(r, MaxBytes+1))
	if err == nil && len(b) > MaxBytes {
		err = tooLarge()
	}
	return b, err
}
