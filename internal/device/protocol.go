// Package device speaks with measuring instruments over the loopback protocol of
// docs/formats.md: TCP, one JSON object a line. It holds the reader the server
// uses and the stand-ins that play an instrument with known truth. Nothing
// outside of this machine is ever dialled.
package device

import (
	"bufio"
	"bytes"
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"net"
	"net/netip"
	"time"
)

// Protocol names the version of the stream; Line bounds one line of it.
const (
	Protocol = "dunnock-stream/1"
	maxLine  = 4096
)

// Hello is the first line an instrument sends.
type Hello struct {
	Protocol string  `json:"protocol"`
	Kind     string  `json:"kind"` // grip, plates or radar
	Name     string  `json:"name"`
	Unit     string  `json:"unit"` // kg of a dynamometer, N of plates, m/s of a radar
	RateHz   float64 `json:"rateHz"`
	// Channels names what the values of a line are, for instruments that send
	// several: Fx_lead and so on, as in a file.
	Channels []string `json:"channels,omitempty"`
}

// Reading is every further line: a sequence number that rises by one, the
// instrument's own clock in seconds, and the value in the unit of the hello, or
// the values of its channels. A radar sends a line for each swing, its value the club
// speed, and what it saw of the ball beside it.
type Reading struct {
	Seq  *int64    `json:"seq"`
	T    *float64  `json:"t"`
	V    *float64  `json:"v,omitempty"`
	C    []float64 `json:"c,omitempty"`
	Ball *Ball     `json:"ball,omitempty"`
}

// Ball is what a radar saw of the ball; what it did not see is left out.
type Ball struct {
	Mps       float64 `json:"mps,omitempty"`
	CarryM    float64 `json:"carryM,omitempty"`
	LaunchDeg float64 `json:"launchDeg,omitempty"`
	SpinRpm   float64 `json:"spinRpm,omitempty"`
	// Where it met the face, in mm from the middle toward the toe and up, and where it
	// started, in degrees away from the golfer's side.
	Strike *Strike `json:"strike,omitempty"`
}

// Strike is where a ball met the face and started.
type Strike struct {
	ToeMm        float64 `json:"toeMm"`
	HighMm       float64 `json:"highMm"`
	DirectionDeg float64 `json:"directionDeg"`
}

// units of the kinds of instruments.
var units = map[string]string{"grip": "kg", "plates": "N", "radar": "m/s"}

// Problems an instrument's stream can have.
var (
	ErrNotLoopback = errors.New("device: only an instrument on this machine is dialled: give 127.0.0.1:port")
	ErrProtocol    = errors.New("device: what answers there does not speak " + Protocol)
)

// Stream is a connection to an instrument.
type Stream struct {
	Hello   Hello
	Garbage int // lines that could not be read
	conn    net.Conn
	lines   *bufio.Reader
}

// Dial connects to an instrument of a kind at a loopback address and reads its
// hello.
func Dial(ctx context.Context, address, kind string) (*Stream, error) {
	ap, err := netip.ParseAddrPort(address)
	if err != nil || !ap.Addr().IsLoopback() {
		return nil, fmt.Errorf("%w, not %q", ErrNotLoopback, address)
	}
	d := net.Dialer{Timeout: 2 * time.Second}
	conn, err := d.DialContext(ctx, "tcp", address)
	if err != nil {
		return nil, fmt.Errorf("device: nothing answers at %s: start the instrument or the stand-in: %w", address, err)
	}
	s := &Stream{conn: conn, lines: bufio.NewReaderSize(conn, maxLine)}
	_ = conn.SetReadDeadline(time.Now().Add(3 * time.Second))
	line, err := s.line()
	if err == nil {
		err = json.Unmarshal(line, &s.Hello)
	}
	if err != nil || s.Hello.Protocol != Protocol || s.Hello.Kind != kind || s.Hello.Unit != units[kind] {
		_ = conn.Close()
		return nil, fmt.Errorf("%w as %s in %s", ErrProtocol, kind, units[kind])
	}
	return s, nil
}

// Next returns the next reading that can be understood; lines that cannot are
// counted and passed over. It waits no longer than patience for a line, and
// returns io.EOF when the instrument hangs up.
func (s *Stream) Next(patience time.Duration) (seq int64, t, v float64, err error) {
	for {
		r, err := s.reading(patience)
		if err != nil {
			return 0, 0, 0, err
		}
		if r.V == nil {
			s.Garbage++
			continue
		}
		return *r.Seq, *r.T, *r.V, nil
	}
}

// NextChannels is Next for an instrument of several channels. The values are its
// own until the next call.
func (s *Stream) NextChannels(patience time.Duration) (seq int64, t float64, c []float64, err error) {
	for {
		r, err := s.reading(patience)
		if err != nil {
			return 0, 0, nil, err
		}
		if len(r.C) != len(s.Hello.Channels) {
			s.Garbage++
			continue
		}
		return *r.Seq, *r.T, r.C, nil
	}
}

// NextSwing is Next for a radar: a swing, with what was seen of the ball.
func (s *Stream) NextSwing(patience time.Duration) (Reading, error) {
	for {
		r, err := s.reading(patience)
		if err != nil {
			return Reading{}, err
		}
		if r.V == nil {
			s.Garbage++
			continue
		}
		return r, nil
	}
}

func (s *Stream) reading(patience time.Duration) (Reading, error) {
	for {
		_ = s.conn.SetReadDeadline(time.Now().Add(patience))
		line, err := s.line()
		if err != nil {
			return Reading{}, err
		}
		var r Reading
		if json.Unmarshal(line, &r) != nil || r.Seq == nil || r.T == nil {
			s.Garbage++
			continue
		}
		return r, nil
	}
}

// line reads one line; of one longer than maxLine the rest is thrown away and
// what is left is no JSON, so that it counts as garbage.
func (s *Stream) line() ([]byte, error) {
	line, err := s.lines.ReadSlice('\n')
	if errors.Is(err, bufio.ErrBufferFull) {
		for errors.Is(err, bufio.ErrBufferFull) {
			_, err = s.lines.ReadSlice('\n')
		}
		if err != nil {
			return nil, err
		}
		return []byte("too long"), nil
	}
	if err != nil {
		if len(line) > 0 && errors.Is(err, io.EOF) {
			s.Garbage++ // cut off in the middle
		}
		return nil, err
	}
	return bytes.TrimSpace(line), nil
}

// Close hangs up.
func (s *Stream) Close() error { return s.conn.Close() }

// serve lets a stand-in play to everyone who connects to l until the context
// ends.
func serve(ctx context.Context, l net.Listener, play func(net.Conn)) error {
	go func() {
		<-ctx.Done()
		_ = l.Close()
	}()
	for {
		conn, err := l.Accept()
		if err != nil {
			if ctx.Err() != nil {
				return nil
			}
			return fmt.Errorf("stand-in: %w", err)
		}
		go func() {
			defer func() { _ = conn.Close() }()
			play(conn)
		}()
	}
}
