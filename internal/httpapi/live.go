package httpapi

import (
	"context"
	"errors"
	"fmt"
	"time"

	"github.com/labstack/echo/v5"

	"dunnock/internal/app"
	"dunnock/internal/core/grip"
	"dunnock/internal/device"
	"dunnock/internal/httpapi/gen"
)

// ListDevices answers the instruments the server knows.
func (s *Server) ListDevices(context.Context, gen.ListDevicesRequestObject) (gen.ListDevicesResponseObject, error) {
	out := gen.ListDevices200JSONResponse{}
	if s.grip != "" {
		out = append(out, gen.Device{Kind: gen.DeviceKindGrip, Name: "Dynamometer", Address: s.grip})
	}
	if s.plates != "" {
		out = append(out, gen.Device{Kind: gen.DeviceKindPlates, Name: "Force plates", Address: s.plates})
	}
	if s.radar != "" {
		out = append(out, gen.Device{Kind: gen.DeviceKindRadar, Name: "Radar", Address: s.radar})
	}
	return out, nil
}

const (
	liveTick     = 150 * time.Millisecond  // between events
	livePoints   = 40                      // samples drawn per event, at most
	livePatience = 1500 * time.Millisecond // silence after which the instrument is lost
)

// liveEvent is one event of a live recording. Samples are thinned for drawing,
// their peaks kept; squeezes are measured on everything.
type liveEvent struct {
	State    string         `json:"state"` // live, lost or ended
	Text     string         `json:"text,omitempty"`
	Device   string         `json:"device,omitempty"`
	Samples  [][2]float64   `json:"samples"`
	Squeezes []grip.Squeeze `json:"squeezes"`
	Health   grip.Health    `json:"health"`
	Garbage  int            `json:"garbage"`
	Lost     int            `json:"lost"` // times the instrument was lost
}

// liveGrip streams a recording from the dynamometer as server-sent events until
// the browser hangs up. It belongs to the connection: the server keeps nothing.
func (s *Server) liveGrip(c *echo.Context) error {
	ctx, done := s.streaming(c)
	defer done()
	if s.grip == "" {
		return &app.Error{Kind: app.NotFound, Text: "No dynamometer is set up: give its address in DUNNOCK_GRIP."}
	}
	stream, err := device.Dial(ctx, s.grip, "grip")
	if err != nil {
		return &app.Error{Kind: app.NotFound, Text: "The dynamometer does not answer at " + s.grip + ". Switch it on, or start the stand-in with: dunnock sim grip"}
	}
	l := &live{events: newEvents(c.Response()), name: stream.Hello.Name, segments: []*segment{{}}}
	l.events.begin()
	for {
		err := l.follow(ctx, stream)
		l.garbage += stream.Garbage
		_ = stream.Close()
		if ctx.Err() != nil {
			return l.over(ctx)
		}
		if errors.Is(err, errEnded) {
			return nil
		}
		l.lost++
		if l.full() {
			return nil
		}
		if stream = l.reconnect(ctx, s.grip); stream == nil {
			if ctx.Err() != nil {
				return l.over(ctx)
			}
			return nil
		}
		l.anew()
	}
}

// anew begins a segment behind the last one.
func (l *live) anew() *segment {
	g := &segment{offset: l.segments[len(l.segments)-1].end() + 0.5}
	l.segments = append(l.segments, g)
	return g
}

// full ends the recording when the instrument was lost or began anew too often.
func (l *live) full() bool {
	if len(l.segments) < maxSegments {
		return false
	}
	_ = l.send(
		"ended",
		fmt.Sprintf("The dynamometer was lost or began anew %d times: look at its cable and its battery. What was recorded can be kept.", len(l.segments)),
		0,
	)
	return true
}

// over says why a stream ended that nobody closed.
func (l *live) over(ctx context.Context) error {
	if text := endedText(ctx); text != "" {
		_ = l.send("ended", text, 0)
	}
	return nil
}

// Bounds of one live stream.
const (
	maxSegments = 20          // stretches between losses of the instrument, or restarts of its clock
	maxBad      = 2000        // lines that cannot be read or used, late and impossible ones too
	checkEvery  = time.Second // between looks whether the session still stands
)

var (
	errSignedOut = errors.New("signed out")
	errStopping  = errors.New("the program stops")
)

func endedText(ctx context.Context) string {
	switch context.Cause(ctx) {
	case errSignedOut:
		return "You signed out: the recording ended. What was recorded can be kept after signing in again."
	case errStopping:
		return "Dunnock is being stopped: the recording ended."
	}
	return ""
}

// streaming returns the context of a live stream: it ends with the browser, with
// the session, and with the program.
func (s *Server) streaming(c *echo.Context) (context.Context, func()) {
	ctx, end := context.WithCancelCause(c.Request().Context())
	token := s.sessions.Token(c.Request().Context())
	stop := context.AfterFunc(s.ending, func() { end(errStopping) })
	go func() {
		defer func() { _ = recover() }()
		tick := time.NewTicker(checkEvery)
		defer tick.Stop()
		for {
			select {
			case <-ctx.Done():
				return
			case <-tick.C:
			}
			if _, there, err := s.sessions.Store.Find(token); err == nil && !there {
				end(errSignedOut)
				return
			}
		}
	}()
	return ctx, func() { stop(); end(nil) }
}

var errEnded = errors.New("ended")

// clockBack is how far back a clock must jump to have begun anew, s: late samples
// are less far behind.
const clockBack = 2.0

// segment is what came between two losses of the instrument. offset puts its own
// clock behind the one before it.
type segment struct {
	rec    grip.Recorder
	offset float64
	first  float64
	last   float64 // latest time of the instrument's clock
	begun  bool
	drawn  int // samples already sent
	done   []grip.Squeeze
}

// at puts a time of the instrument's clock on the recording's.
func (g *segment) at(t float64) float64 { return t - g.first + g.offset }

func (g *segment) end() float64 {
	s := g.rec.Samples()
	if len(s) == 0 {
		return g.offset
	}
	return g.at(s[len(s)-1].T)
}

type live struct {
	events   events
	name     string
	segments []*segment
	garbage  int
	lost     int
}

// follow reads the instrument and sends an event every tick.
func (l *live) follow(ctx context.Context, stream *device.Stream) error {
	g := l.segments[len(l.segments)-1]
	next := time.Now()
	for ctx.Err() == nil {
		seq, t, v, err := stream.Next(livePatience)
		if err != nil {
			return err
		}
		if !g.begun {
			g.begun, g.first = true, t
		} else if t < g.last-clockBack {
			// The clock began anew: what follows is a trial of its own.
			if l.full() {
				return errEnded
			}
			g = l.anew()
			g.begun, g.first = true, t
		}
		g.last = max(g.last, t)
		g.rec.Add(seq, t, v)
		if h := g.rec.Health(); stream.Garbage+h.Late+h.Impossible+h.Duplicates > maxBad {
			_ = l.send(
				"ended",
				fmt.Sprintf(
					"More than %d readings of the dynamometer were late, twice or no readings at all: what it sends cannot be relied on. What was recorded can be kept.",
					maxBad,
				),
				stream.Garbage,
			)
			return errEnded
		}
		if now := time.Now(); now.After(next) {
			next = now.Add(liveTick)
			state, text := "live", ""
			if g.rec.Health().Full {
				state, text = "ended", fmt.Sprintf("A recording holds %d seconds: keep it, or begin again.", int(grip.MaxSeconds))
			}
			if err := l.send(state, text, stream.Garbage); err != nil {
				return errEnded
			}
			if state == "ended" {
				return errEnded
			}
		}
	}
	return ctx.Err()
}

// reconnect looks for the instrument until it is there again.
func (l *live) reconnect(ctx context.Context, address string) *device.Stream {
	s := findAgain(ctx, address, "grip", func() error {
		return l.send("lost", "The dynamometer is gone: what was recorded is kept. Looking for it …", 0)
	})
	if s == nil && ctx.Err() == nil {
		_ = l.send("ended", "The dynamometer did not come back. What was recorded can be kept.", 0)
	}
	return s
}

func (l *live) send(state, text string, garbage int) error {
	e := liveEvent{State: state, Text: text, Device: l.name, Samples: [][2]float64{}, Squeezes: []grip.Squeeze{}, Garbage: l.garbage + garbage, Lost: l.lost}
	for i, g := range l.segments {
		h := g.rec.Health()
		e.Health.Kept += h.Kept
		e.Health.Duplicates += h.Duplicates
		e.Health.Late += h.Late
		e.Health.Missing += h.Missing
		e.Health.Impossible += h.Impossible
		e.Health.Thinned += h.Thinned
		e.Health.Gaps += h.Gaps
		e.Health.Full = e.Health.Full || h.Full
		if i == len(l.segments)-1 || g.done == nil {
			g.done = grip.Squeezes(g.rec.Samples())
		}
		for _, q := range g.done {
			q.Onset, q.End = g.at(q.Onset), g.at(q.End)
			e.Squeezes = append(e.Squeezes, q)
		}
		e.Samples = append(e.Samples, g.draw()...)
	}
	return l.events.write(e)
}

// draw returns what is new to draw: of each stretch the largest sample.
func (g *segment) draw() [][2]float64 {
	s := g.rec.Samples()
	fresh := s[g.drawn:]
	g.drawn = len(s)
	step := max(1, (len(fresh)+livePoints-1)/livePoints)
	var out [][2]float64
	for i := 0; i < len(fresh); i += step {
		top := fresh[i]
		for _, x := range fresh[i:min(i+step, len(fresh))] {
			if x.Kg > top.Kg {
				top = x
			}
		}
		out = append(out, [2]float64{g.at(top.T), top.Kg})
	}
	return out
}
