package httpapi

import (
	"bytes"
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"time"

	"github.com/labstack/echo/v5"

	"dunnock/internal/app"
	"dunnock/internal/core/capture"
	"dunnock/internal/device"
	"dunnock/internal/forcefile"
)

// plateEvent is one event of a live capture.
type plateEvent struct {
	// State is what is waited for: empty, waiting, armed, recording; captured with
	// a Recording that waits to be kept or discarded; refused with the reason; lost
	// or ended.
	State   string         `json:"state"`
	Text    string         `json:"text,omitempty"`
	Device  string         `json:"device,omitempty"`
	ForceN  float64        `json:"forceN"`
	Trace   []float64      `json:"trace"` // vertical force of the last seconds, thinned
	Health  capture.Health `json:"health"`
	Garbage int            `json:"garbage"`
	Capture any            `json:"recording,omitempty"`
}

const (
	platePoints = 240
	plateWindow = 4.0 // s drawn
	// plateWait is how long a capture may be left on.
	plateWait = 30 * time.Minute
)

// livePlates captures trials from the force plates and sends server-sent events
// until the browser hangs up. A complete trial is stored as pending: the browser
// keeps or discards it. It is asked for with a POST, since it stores.
func (s *Server) livePlates(c *echo.Context) error {
	whole, done := s.streaming(c)
	defer done()
	ctx, cancel := context.WithTimeout(whole, plateWait)
	defer cancel()
	var q struct{ Kind, Athlete string }
	if err := json.NewDecoder(io.LimitReader(c.Request().Body, 4096)).Decode(&q); err != nil {
		return &app.Error{Kind: app.Invalid, Text: "Say what is captured and of whom."}
	}
	kind, athlete := q.Kind, q.Athlete
	if kind != "jump" && kind != "squat" && kind != "swing" {
		return &app.Error{Kind: app.Invalid, Text: "Say what is captured: jump, squat or swing."}
	}
	if s.plates == "" {
		return &app.Error{Kind: app.NotFound, Text: "No force plates are set up: give their address in DUNNOCK_PLATES."}
	}
	who := actor(ctx)
	if err := s.app.HasGolfer(ctx, who, athlete); err != nil {
		return err
	}
	stream, err := device.Dial(ctx, s.plates, "plates")
	if err != nil {
		return &app.Error{Kind: app.NotFound, Text: "The force plates do not answer at " + s.plates + ". Switch them on, or start the stand-in with: dunnock sim plates"}
	}
	defer func() { _ = stream.Close() }()
	p := &plates{s: s, who: who, athlete: athlete, kind: kind, stream: stream, events: newEvents(c.Response())}
	if p.capture, err = capture.New(stream.Hello.RateHz, stream.Hello.Channels, kind == "swing"); err != nil {
		return &app.Error{Kind: app.Refused, Text: app.Sentence(err)}
	}
	p.events.begin()
	err = p.follow(ctx)
	switch {
	case errors.Is(err, errEnded):
	case err != nil && ctx.Err() == nil:
		_ = p.send(plateEvent{State: "lost", Text: "The force plates are gone. What was captured is kept; switch them on and arm again."})
	case whole.Err() != nil:
		if text := endedText(whole); text != "" {
			_ = p.send(plateEvent{State: "ended", Text: text})
		}
	case ctx.Err() != nil:
		_ = p.send(plateEvent{State: "ended", Text: "The capture was on for half an hour and was switched off: arm it again."})
	}
	return nil
}

// plates is one live capture. It belongs to the connection.
type plates struct {
	s             *Server
	who           *app.Actor
	athlete, kind string
	stream        *device.Stream
	capture       *capture.Capture
	events        events
	count         int
}

func (p *plates) follow(ctx context.Context) error {
	next := time.Now()
	for ctx.Err() == nil {
		seq, _, values, err := p.stream.NextChannels(livePatience)
		if err != nil {
			return err
		}
		state := p.capture.Add(seq, values)
		if trial, ok := p.capture.Take(); ok {
			if err := p.complete(ctx, trial); err != nil {
				return nil // the browser is gone
			}
			continue
		}
		if h := p.capture.Health(); p.stream.Garbage+h.Late+h.Duplicates+h.Impossible > maxBad {
			_ = p.send(
				plateEvent{
					State: "ended",
					Text: fmt.Sprintf(
						"More than %d readings of the force plates were late, twice or no readings at all: what they send cannot be relied on. What was captured is kept.",
						maxBad,
					),
				},
			)
			return errEnded
		}
		if now := time.Now(); now.After(next) {
			next = now.Add(liveTick)
			if err := p.send(plateEvent{State: string(state), Trace: p.recent()}); err != nil {
				return nil
			}
		}
	}
	return ctx.Err()
}

// complete stores a trial as pending and tells.
func (p *plates) complete(ctx context.Context, t capture.Trial) error {
	p.count++
	var b bytes.Buffer
	if err := forcefile.WriteSamples(&b, t.RateHz, t.Names, t.Channels); err != nil {
		return err
	}
	name := fmt.Sprintf("%s %s.csv", p.kind, p.s.app.Now(p.who.Zone).Format("2006-01-02 15-04-05.000"))
	v, err := p.s.app.AddRecording(ctx, p.who, p.athlete, app.NewRecording{Name: name, Kind: p.kind, Pending: true, Fill: true}, &b)
	if err != nil {
		return p.send(plateEvent{State: "refused", Text: err.Error()})
	}
	return p.send(plateEvent{State: "captured", Capture: recording(v)})
}

// recent thins the last seconds for drawing: of each stretch the sample furthest
// from the one before.
func (p *plates) recent() []float64 {
	y := p.capture.Recent(plateWindow)
	step := max(1, len(y)/platePoints)
	out := make([]float64, 0, platePoints+1)
	for i := 0; i < len(y); i += step {
		best := y[i]
		for _, v := range y[i:min(i+step, len(y))] {
			if len(out) > 0 && (v-out[len(out)-1])*(v-out[len(out)-1]) > (best-out[len(out)-1])*(best-out[len(out)-1]) {
				best = v
			}
		}
		out = append(out, float64(int(best*10))/10)
	}
	return out
}

func (p *plates) send(e plateEvent) error {
	e.Device, e.ForceN, e.Health, e.Garbage = p.stream.Hello.Name, float64(int(p.capture.Force())), p.capture.Health(), p.stream.Garbage
	if e.Trace == nil {
		e.Trace = []float64{}
	}
	return p.events.write(e)
}
