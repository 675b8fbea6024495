package httpapi

import (
	"time"

	"github.com/google/uuid"
	"github.com/labstack/echo/v5"

	"dunnock/internal/app"
)

// boardEvery is the time between two looks at a class: a board follows within a second.
const boardEvery = 400 * time.Millisecond

// liveClass streams a class as server-sent events, as it stands first and then whenever
// something was noted of it, until the browser hangs up.
func (s *Server) liveClass(c *echo.Context) error {
	ctx, done := s.streaming(c)
	defer done()
	id, err := uuid.Parse(c.Param("classId"))
	if err != nil {
		return &app.Error{Kind: app.NotFound, Text: "There is no such class."}
	}
	who := actor(ctx)
	view, err := s.app.Class(ctx, who, id.String())
	if err != nil {
		return err
	}
	out := newEvents(c.Response())
	out.begin()
	if out.write(view) != nil {
		return nil
	}
	last, err := s.app.ClassMark(ctx, who, id.String())
	if err != nil {
		return nil // the browser connects again, and is told then
	}
	tick := time.NewTicker(boardEvery)
	defer tick.Stop()
	said := time.Now()
	for {
		select {
		case <-ctx.Done():
			return nil
		case <-tick.C:
		}
		now, err := s.app.ClassMark(ctx, who, id.String())
		if err != nil {
			return nil
		}
		if now == last && time.Since(said) < aliveEvery {
			continue
		}
		if view, err = s.app.Class(ctx, who, id.String()); err != nil || out.write(view) != nil {
			return nil
		}
		last, said = now, time.Now()
	}
}
