package device_test

import (
	"context"
	"errors"
	"io"
	"math"
	"math/rand/v2"
	"net"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dunnock/internal/core/grip"
	"dunnock/internal/device"
)

// Traces with known truth, over random instruments and hands: every squeeze is
// found, and each figure comes back within the tolerance docs/methods.md names.
func TestGripMetricsAgainstKnownTruth(t *testing.T) {
	for seed := range uint64(200) {
		r := rand.New(rand.NewPCG(seed, 5))
		p := device.GripPlan{Pattern: []string{"hold", "pulses"}[r.IntN(2)], PeakKg: 15 + 50*r.Float64(), RateHz: []float64{100, 200, 500}[r.IntN(3)],
			Fade: 0.25 * r.Float64(), Tire: 0.06 * r.Float64(), NoiseKg: 0.15 * r.Float64(), Repeats: 1 + r.IntN(5), Seed: seed}
		if p.Pattern == "hold" {
			p.HoldS, p.RiseS = 4+2*r.Float64(), 0.25+0.4*r.Float64()
		} else {
			p.RiseS = 0.12 + 0.1*r.Float64()
		}
		samples, truth := device.GripTrace(p)
		got := grip.Squeezes(samples)
		require.Len(t, got, len(truth), "%+v", p)
		for i, q := range truth {
			g := got[i]
			assert.InEpsilon(t, q.PeakKg, g.Peak, 0.02, "peak %+v", p)
			assert.InEpsilon(t, q.HoldKg, g.Hold, 0.025, "hold %+v", p)
			assert.InDelta(t, q.FallOff, g.FallOff, 4, "fall-off %+v", p)
			assert.InDelta(t, q.Onset, g.Onset, 0.15*p.RiseS+0.03, "onset %+v", p)
			if p.Pattern == "pulses" {
				assert.InEpsilon(t, q.Rate, g.Rate, 0.12, "rate %+v", p)
				assert.InDelta(t, q.TimeToPeakMs, g.TimeToPeak, 60, "time to peak %+v", p)
			}
		}
	}
}

func serve(t *testing.T, p device.GripPlan) string {
	t.Helper()
	l, err := net.Listen("tcp", "127.0.0.1:0")
	require.NoError(t, err)
	ctx, cancel := context.WithCancel(t.Context())
	done := make(chan error, 1)
	go func() { done <- device.ServeGrip(ctx, l, p) }()
	t.Cleanup(func() {
		cancel()
		assert.NoError(t, <-done)
	})
	return l.Addr().String()
}

// record reads n readings through a recorder.
func record(t *testing.T, address string, n int) (*device.Stream, *grip.Recorder, error) {
	t.Helper()
	s, err := device.Dial(t.Context(), address, "grip")
	require.NoError(t, err)
	t.Cleanup(func() { _ = s.Close() })
	var rec grip.Recorder
	for range n {
		seq, at, v, err := s.Next(2 * time.Second)
		if err != nil {
			return s, &rec, err
		}
		rec.Add(seq, at, v)
	}
	return s, &rec, nil
}

func TestADisturbedStreamIsSurvivedAndReported(t *testing.T) {
	address := serve(t, device.GripPlan{RateHz: 1000, Duplicate: 0.05, Late: 0.05, Garbage: 0.05, Seed: 3})
	s, rec, err := record(t, address, 1500)
	require.NoError(t, err)
	h := rec.Health()
	assert.Positive(t, h.Duplicates)
	assert.Positive(t, h.Late)
	assert.Positive(t, s.Garbage)
	assert.Greater(t, h.Kept, 1200)
	for i, x := range rec.Samples()[1:] {
		require.Greater(t, x.T, rec.Samples()[i].T, "what is kept is in order")
	}
}

func TestHangingUpIsTold(t *testing.T) {
	address := serve(t, device.GripPlan{RateHz: 1000, HangUpAt: 200})
	_, rec, err := record(t, address, 1000)
	require.True(t, errors.Is(err, io.EOF), "%v", err)
	assert.Equal(t, 200, rec.Health().Kept)
}

// A stream of 10 kHz is thinned to what is of use, and no peak is lost.
func TestAFloodIsThinned(t *testing.T) {
	address := serve(t, device.GripPlan{RateHz: 1000, Flood: 10, Pattern: "pulses", Repeats: 1, PeakKg: 50})
	_, rec, err := record(t, address, 16000)
	require.NoError(t, err)
	h := rec.Health()
	assert.Greater(t, h.Thinned, 12000)
	assert.Less(t, len(rec.Samples()), 2000)
	q := grip.Squeezes(rec.Samples())
	require.NotEmpty(t, q)
	assert.InEpsilon(t, 50, q[0].Peak, 0.02)
}

func TestWhoIsDialled(t *testing.T) {
	for _, a := range []string{"192.0.2.1:80", "example.org:80", "nonsense", ""} {
		_, err := device.Dial(t.Context(), a, "grip")
		assert.ErrorIs(t, err, device.ErrNotLoopback, a)
	}
	_, err := device.Dial(t.Context(), "127.0.0.1:1", "grip")
	assert.ErrorContains(t, err, "nothing answers")

	l, err := net.Listen("tcp", "127.0.0.1:0")
	require.NoError(t, err)
	defer func() { _ = l.Close() }()
	go func() {
		conn, err := l.Accept()
		if err == nil {
			_, _ = conn.Write([]byte("HTTP/1.1 400 Bad Request\n"))
			_ = conn.Close()
		}
	}()
	_, err = device.Dial(t.Context(), l.Addr().String(), "grip")
	assert.ErrorIs(t, err, device.ErrProtocol)
}

func TestARecorderTakesNoNonsense(t *testing.T) {
	var r grip.Recorder
	r.Add(1, 0, 10)
	r.Add(2, math.NaN(), 10)
	r.Add(3, 0.01, math.Inf(1))
	r.Add(4, 0.02, 9000)
	r.Add(5, 0.03, 11)
	r.Add(9, 0.02, 11) // clock runs backwards
	r.Add(10, 400, 11) // longer than a recording
	h := r.Health()
	assert.Equal(t, grip.Health{Kept: 2, Impossible: 3, Missing: 6, Late: 1, Full: true}, h)
	assert.Nil(t, grip.Squeezes(r.Samples()), "two samples are no squeeze")
	flat := make([]grip.Sample, 500)
	for i := range flat {
		flat[i] = grip.Sample{T: float64(i) / 100, Kg: 0.4}
	}
	assert.Empty(t, grip.Squeezes(flat))
}

// Whatever an instrument sends, reading it ends and never fails in a way of its
// own.
func FuzzStream(f *testing.F) {
	hello := `{"protocol":"dunnock-stream/1","kind":"grip","name":"x","unit":"kg","rateHz":100}` + "\n"
	f.Add([]byte(hello + `{"seq":0,"t":0,"v":1}` + "\n" + `{"seq":1,"t":1e999,"v":-1}` + "\n"))
	f.Add([]byte(hello + "{}\n[]\nnull\n{\"seq\":9223372036854775807,\"t\":1,\"v\":2}\n"))
	f.Add([]byte("\x00\xff"))
	f.Fuzz(func(t *testing.T, b []byte) {
		l, err := net.Listen("tcp", "127.0.0.1:0")
		require.NoError(t, err)
		defer func() { _ = l.Close() }()
		go func() {
			if conn, err := l.Accept(); err == nil {
				_, _ = conn.Write(b)
				_ = conn.Close()
			}
		}()
		s, err := device.Dial(t.Context(), l.Addr().String(), "grip")
		if err != nil {
			return
		}
		defer func() { _ = s.Close() }()
		var rec grip.Recorder
		for {
			seq, at, v, err := s.Next(time.Second)
			if err != nil {
				break
			}
			rec.Add(seq, at, v)
		}
		for i, x := range rec.Samples() {
			if i > 0 && x.T <= rec.Samples()[i-1].T {
				t.Fatal("samples out of order")
			}
		}
		_ = grip.Squeezes(rec.Samples())
	})
}

// The stand-in plates stream what their forward model makes, over the protocol.
func TestPlatesStream(t *testing.T) {
	for _, bad := range []device.PlatesPlan{{Kind: "walk"}, {MassKg: 5}, {HeightM: 2}, {VerticalBW: 9}, {TurnS: 2}, {NoiseN: 900}} {
		assert.Error(t, bad.Check(), "%+v", bad)
	}
	plan := device.PlatesPlan{Kind: "swing", NoiseN: 1, RateHz: 1000, PauseS: 0.1}
	require.NoError(t, plan.Check())
	ctx, cancel := context.WithCancel(t.Context())
	defer cancel()
	l, err := net.Listen("tcp", "127.0.0.1:0")
	require.NoError(t, err)
	go func() { _ = device.ServePlates(ctx, l, plan) }()
	s, err := device.Dial(ctx, l.Addr().String(), "plates")
	require.NoError(t, err)
	defer func() { _ = s.Close() }()
	assert.Len(t, s.Hello.Channels, 13)
	assert.InDelta(t, 1000, s.Hello.RateHz, 0)
	for i := range int64(400) {
		seq, at, c, err := s.NextChannels(2 * time.Second)
		require.NoError(t, err)
		assert.Equal(t, i, seq)
		assert.InDelta(t, float64(i)/1000, at, 1e-9)
		require.Len(t, c, 13)
		assert.InDelta(t, 78*9.80665, c[2]+c[8], 10, "somebody of 78 kg stands there")
	}
	_, err = device.Dial(ctx, l.Addr().String(), "grip")
	assert.ErrorIs(t, err, device.ErrProtocol, "plates are no dynamometer")
}
