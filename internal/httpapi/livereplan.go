package httpapi

import (
	"github.com/labstack/echo/v5"

	"dunnock/internal/app"
)

// replanEvent is one event of drafting a squad again: a golfer who is done, or the end.
type replanEvent struct {
	Done   int            `json:"done"`
	Of     int            `json:"of"`
	Golfer *app.Replanned `json:"golfer,omitempty"`
	Ended  bool           `json:"ended,omitempty"`
	Text   string         `json:"text,omitempty"` // why it ended early
}

// liveReplan streams what drafting again would change for every golfer who has a draft, as
// server-sent events; the browser cancels it by hanging up.
func (s *Server) liveReplan(c *echo.Context) error {
	ctx, done := s.streaming(c)
	defer done()
	out := newEvents(c.Response())
	out.begin()
	last := replanEvent{Ended: true}
	err := s.app.Replan(ctx, actor(ctx), func(done, of int, r *app.Replanned) error {
		last.Done, last.Of = done, of
		return out.write(replanEvent{Done: done, Of: of, Golfer: r})
	})
	if err != nil {
		if last.Text = endedText(ctx); last.Text == "" {
			last.Text = "It could not be planned to the end."
		}
	}
	_ = out.write(last)
	return nil
}
