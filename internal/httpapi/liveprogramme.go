package httpapi

import (
	"time"

	"github.com/google/uuid"
	"github.com/labstack/echo/v5"

	"dunnock/internal/app"
)

const (
	// lookEvery is the time between two looks at a programme that others may be changing:
	// one sees the other's change well within two seconds.
	lookEvery = 700 * time.Millisecond
	// aliveEvery is the time between two signs of life on a quiet stream.
	aliveEvery = 15 * time.Second
)

// liveProgramme streams what is done to a programme as server-sent events, its state first,
// until the browser hangs up.
func (s *Server) liveProgramme(c *echo.Context) error {
	ctx, done := s.streaming(c)
	defer done()
	id, err := uuid.Parse(c.Param("programmeId"))
	if err != nil {
		return &app.Error{Kind: app.NotFound, Text: "There is no such programme."}
	}
	who := actor(ctx)
	last, err := s.app.Revision(ctx, who, id.String())
	if err != nil {
		return err
	}
	out := newEvents(c.Response())
	out.begin()
	if out.write(last) != nil {
		return nil
	}
	tick := time.NewTicker(lookEvery)
	defer tick.Stop()
	said := time.Now()
	for {
		select {
		case <-ctx.Done():
			return nil
		case <-tick.C:
		}
		now, err := s.app.Revision(ctx, who, id.String())
		if err != nil {
			return nil // the browser connects again, and is told then
		}
		if now.Revision == last.Revision && time.Since(said) < aliveEvery {
			continue
		}
		if out.write(now) != nil {
			return nil
		}
		last, said = now, time.Now()
	}
}
