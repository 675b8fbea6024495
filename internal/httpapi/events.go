package httpapi

import (
	"context"
	"encoding/json"
	"fmt"
	"net/http"
	"time"

	"dunnock/internal/device"
)

// events is a stream of server-sent events that nobody on the way keeps back.
type events struct {
	w  http.ResponseWriter
	rc *http.ResponseController
}

func newEvents(w http.ResponseWriter) events { return events{w, http.NewResponseController(w)} }

// begin answers the request: from here on errors travel as events.
func (e events) begin() {
	h := e.w.Header()
	h.Set("Content-Type", "text/event-stream")
	h.Set("Cache-Control", "no-store")
	h.Set("X-Accel-Buffering", "no")
	e.w.WriteHeader(http.StatusOK)
}

// write sends one event as JSON; it fails when the browser has gone or does not read.
func (e events) write(event any) error {
	b, err := json.Marshal(event)
	if err != nil {
		return err
	}
	_ = e.rc.SetWriteDeadline(time.Now().Add(10 * time.Second))
	if _, err := fmt.Fprintf(e.w, "data: %s\n\n", b); err != nil {
		return err
	}
	return e.rc.Flush()
}

const liveRetries = 40 // tries to find an instrument again, half a second apart

// findAgain dials a lost instrument until it answers; nil when it did not, when the
// context ended, or when sayLost failed, which is called before each try.
func findAgain(ctx context.Context, address, kind string, sayLost func() error) *device.Stream {
	for range liveRetries {
		if sayLost() != nil {
			return nil
		}
		if s, err := device.Dial(ctx, address, kind); err == nil {
			return s
		}
		select {
		case <-ctx.Done():
			return nil
		case <-time.After(500 * time.Millisecond):
		}
	}
	return nil
}
