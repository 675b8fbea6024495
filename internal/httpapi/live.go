package httpapi

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"net/http"
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
	return out, nil
}

const (
	liveTick     = 150 * time.Millisecond  // between events
	livePoints   = 40                      // samples drawn per event, at most
	livePatience = 1500 * time.Millisecond // silence after which the instrument is lost
	liveRetries  = 40                      // tries to find it again, half a second apart
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
	ctx := c.Request().Context()
	if s.grip == "" {
		return &app.Error{Kind: app.NotFound, Text: "No dynamometer is set up: give its address in DUNNOCK_GRIP."}
	}
	stream, err := device.Dial(ctx, s.grip, "grip")
	if err != nil {
		return &app.Error{Kind: app.NotFound, Text: "The dynamometer does not answer at " + s.grip + ". Switch it on, or start the stand-in with: dunnock sim grip"}
	}
	l := &live{w: c.Response(), rc: http.NewResponseController(c.Response()), name: stream.Hello.Name, segments: []*segment{{}}}
	h := l.w.Header()
	h.Set("Content-Type", "text/event-stream")
	h.Set("Cache-Control", "no-store")
	h.Set("X-Accel-Buffering", "no")
	l.w.WriteHeader(http.StatusOK)
	for {
		err := l.follow(ctx, stream)
		l.garbage += stream.Garbage
		_ = stream.Close()
		if ctx.Err() != nil || errors.Is(err, errEnded) {
			return nil
		}
		l.lost++
		if stream = l.again(ctx, s.grip); stream == nil {
			return nil
		}
		// The instrument may begin its clock and its numbers anew.
		last := l.segments[len(l.segments)-1]
		l.segments = append(l.segments, &segment{offset: last.end() + 0.5})
	}
}

var errEnded = errors.New("ended")

// segment is what came between two losses of the instrument. offset puts its own
// clock behind the one before it.
type segment struct {
	rec    grip.Recorder
	offset float64
	first  float64
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
	w        http.ResponseWriter
	rc       *http.ResponseController
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
		}
		g.rec.Add(seq, t, v)
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

// again looks for the instrument until it is there again.
func (l *live) again(ctx context.Context, address string) *device.Stream {
	for range liveRetries {
		if l.send("lost", "The dynamometer is gone: what was recorded is kept. Looking for it …", 0) != nil {
			return nil
		}
		select {
		case <-ctx.Done():
			return nil
		case <-time.After(500 * time.Millisecond):
		}
		if s, err := device.Dial(ctx, address, "grip"); err == nil {
			return s
		}
	}
	_ = l.send("ended", "The dynamometer did not come back. What was recorded can be kept.", 0)
	return nil
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
	b, err := json.Marshal(e)
	if err != nil {
		return err
	}
	_ = l.rc.SetWriteDeadline(time.Now().Add(10 * time.Second))
	if _, err := fmt.Fprintf(l.w, "data: %s\n\n", b); err != nil {
		return err
	}
	return l.rc.Flush()
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
