package httpapi

import (
	"context"
	"errors"
	"fmt"
	"os"
	"time"

	"github.com/labstack/echo/v5"

	"dunnock/internal/app"
	"dunnock/internal/core/speed"
	"dunnock/internal/device"
)

// radarEvent is one event of a radar's stream: a swing as it is heard, or a change of
// the state. Swings are numbered as the server heard them, so that none is missed
// unseen; their time is that of this stream, whatever the radar's own clock does.
type radarEvent struct {
	State  string       `json:"state"` // live, lost or ended
	Text   string       `json:"text,omitempty"`
	Device string       `json:"device,omitempty"`
	Swing  *radarSwing  `json:"swing,omitempty"`
	Odd    []radarSwing `json:"odd,omitempty"` // heard and impossible: no club moves so
	// What every live stream says of its line.
	Garbage int      `json:"garbage"`
	Lost    int      `json:"lost"`
	Health  struct{} `json:"health"`
}

type radarSwing struct {
	Number  int          `json:"number"`
	AtS     float64      `json:"atS"`
	ClubMps float64      `json:"clubMps"`
	Ball    *device.Ball `json:"ball,omitempty"`
}

// radarSilence is how long a radar may say nothing before its line is looked at: golfers
// rest for minutes.
const (
	radarSilence = 10 * time.Minute
	radarBeat    = 15 * time.Second // an empty event, so that nobody closes a quiet line
	mostSwings   = 2000
)

// liveRadar streams the swings a radar hears as server-sent events until the browser
// hangs up. The server keeps nothing: the browser writes what it was told.
func (s *Server) liveRadar(c *echo.Context) error {
	ctx, done := s.streaming(c)
	defer done()
	if s.radar == "" {
		return &app.Error{Kind: app.NotFound, Text: "No radar is set up: give its address in DUNNOCK_RADAR."}
	}
	stream, err := device.Dial(ctx, s.radar, "radar")
	if err != nil {
		return &app.Error{Kind: app.NotFound, Text: "The radar does not answer at " + s.radar + ". Switch it on, or start the stand-in with: dunnock sim radar"}
	}
	l := &radarLine{events: newEvents(c.Response()), name: stream.Hello.Name, begin: time.Now()}
	l.events.begin()
	for {
		err := l.follow(ctx, stream)
		l.garbage, l.here = l.garbage+l.here, 0
		_ = stream.Close()
		switch {
		case ctx.Err() != nil:
			if text := endedText(ctx); text != "" {
				_ = l.send(radarEvent{State: "ended", Text: text})
			}
			return nil
		case errors.Is(err, errEnded):
			return nil
		case l.lost >= maxSegments:
			return l.send(radarEvent{State: "ended", Text: fmt.Sprintf("The radar was lost %d times: look at its cable and its battery. Every swing so far is kept.", l.lost)})
		}
		l.lost++
		if stream = l.reconnect(ctx, s.radar); stream == nil {
			return nil
		}
	}
}

type radarLine struct {
	events events
	name   string
	begin  time.Time
	heard  int
	// Lines that could not be read, of the connections before and of this one.
	garbage, here int
	lost          int
}

// follow reads swings and sends each as it comes.
func (l *radarLine) follow(ctx context.Context, stream *device.Stream) error {
	if err := l.send(radarEvent{State: "live"}); err != nil {
		return errEnded
	}
	type heard struct {
		r       device.Reading
		err     error
		garbage int
	}
	next := make(chan heard)
	go func() {
		defer func() { _ = recover() }()
		for {
			r, err := stream.NextSwing(radarSilence)
			if errors.Is(err, os.ErrDeadlineExceeded) {
				continue // nobody swings
			}
			select {
			case next <- heard{r, err, stream.Garbage}:
			case <-ctx.Done():
				return
			}
			if err != nil {
				return
			}
		}
	}()
	beat := time.NewTicker(radarBeat)
	defer beat.Stop()
	for {
		select {
		case <-ctx.Done():
			return ctx.Err()
		case <-beat.C:
			if l.send(radarEvent{State: "live"}) != nil {
				return errEnded
			}
		case h := <-next:
			l.here = h.garbage
			if h.err != nil {
				return h.err
			}
			if h.garbage > maxBad || l.heard >= mostSwings {
				_ = l.send(radarEvent{State: "ended", Text: "The radar sends too much that cannot be read. Every swing so far is kept."})
				return errEnded
			}
			if err := l.swing(h.r); err != nil {
				return errEnded
			}
		}
	}
}

// swing sends one swing. A line with the sequence number of the last is the same swing
// read twice: it goes on as it is, and is told to be a double by its time.
func (l *radarLine) swing(r device.Reading) error {
	l.heard++
	x := radarSwing{Number: l.heard, AtS: time.Since(l.begin).Seconds(), ClubMps: *r.V, Ball: r.Ball}
	if speed.CheckSpeed(x.ClubMps) != nil {
		return l.send(radarEvent{State: "live", Odd: []radarSwing{x}})
	}
	return l.send(radarEvent{State: "live", Swing: &x})
}

func (l *radarLine) reconnect(ctx context.Context, address string) *device.Stream {
	s := findAgain(ctx, address, "radar", func() error {
		return l.send(radarEvent{State: "lost", Text: "The radar is gone: every swing so far is kept. Looking for it …"})
	})
	if s == nil && ctx.Err() == nil {
		_ = l.send(radarEvent{State: "ended", Text: "The radar did not come back. Every swing so far is kept; type on by hand."})
	}
	return s
}

func (l *radarLine) send(e radarEvent) error {
	e.Device, e.Garbage, e.Lost = l.name, l.garbage+l.here, l.lost
	return l.events.write(e)
}
