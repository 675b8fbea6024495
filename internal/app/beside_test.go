package app

import (
	"testing"
	"time"

	"dunnock/internal/core/civil"
)

// A fault in work beside requests is reported and takes nothing else with it.
func TestAFaultBesideRequestsEndsNothingElse(t *testing.T) {
	a := New(nil, time.Now, civil.Date{})
	done := make(chan struct{})
	a.beside("test", func() { panic("a fault") })
	a.beside("test", func() { close(done) })
	<-done
	a.Close()
}
