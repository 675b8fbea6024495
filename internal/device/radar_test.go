package device_test

import (
	"context"
	"errors"
	"io"
	"math"
	"math/rand/v2"
	"net"
	"slices"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dunnock/internal/core/speed"
	"dunnock/internal/device"
)

// speeds of so many swings of a stand-in's golfer.
func speeds(p device.RadarPlan, n int) (out []float64) {
	for _, r := range device.RadarSwings(p, n) {
		out = append(out, *r.V)
	}
	return out
}

// 300 hidden golfers: where their swings bear a curve the ceiling's interval covers the
// truth in 90 to 98 of 100, and the ceiling, by the curve or by the late average, is out
// by at most 0.8% in the middle.
func TestTheStandInsTruthIsRecovered(t *testing.T) {
	curves, covered := 0, 0
	var errs []float64
	for seed := range uint64(300) {
		r := rand.New(rand.NewPCG(seed, 23))
		p := device.RadarPlan{
			CeilingMps: 38 + 18*r.Float64(), DeficitMps: 2 + 4*r.Float64(), TauSwings: 0.8 + 2.2*r.Float64(), NoiseCV: 0.008 + 0.007*r.Float64(), Seed: seed,
		}
		c, err := speed.ColdStartOf(speeds(p, 8+r.IntN(7)))
		require.NoError(t, err)
		ceiling := c.LateMps
		if c.Fit != nil {
			curves++
			ceiling = c.Fit.CeilingMps
			if c.Fit.Ceiling.Low <= p.CeilingMps && p.CeilingMps <= c.Fit.Ceiling.High {
				covered++
			}
		}
		errs = append(errs, math.Abs(ceiling-p.CeilingMps)/p.CeilingMps)
	}
	slices.Sort(errs)
	share := float64(covered) / float64(curves)
	t.Logf("%d of 300 bear a curve, %.1f%% cover the ceiling, median error %.2f%%", curves, 100*share, 100*errs[150])
	assert.GreaterOrEqual(t, curves, 90)
	assert.True(t, share >= 0.90 && share <= 0.98, "%.3f", share)
	assert.LessOrEqual(t, errs[150], 0.008)
}

func TestTheHiddenModel(t *testing.T) {
	p := device.RadarPlan{CeilingMps: 50, DeficitMps: 4, TauSwings: 2}
	assert.InDelta(t, 46, p.Truth(1), 1e-9)
	assert.InDelta(t, 50-4*math.Exp(-1), p.Truth(3), 1e-9)
	warm := device.RadarPlan{CeilingMps: 50, DeficitMps: -1}
	assert.InDelta(t, 50, warm.Truth(1), 1e-9)
	heavy, other, tired := warm, warm, warm
	heavy.ImplementPercent, other.OtherSide, tired.Fatigue = 10, true, 0.01
	assert.InDelta(t, 48.65, heavy.Truth(1), 1e-9)
	assert.InDelta(t, 45, other.Truth(1), 1e-9)
	assert.InDelta(t, 45, tired.Truth(30), 1e-9)
	assert.Equal(t, speeds(p, 5), speeds(p, 5), "same seed, same swings")
	for _, s := range device.RadarSwings(p, 50) {
		require.NotNil(t, s.Ball)
		assert.Less(t, s.Ball.Mps / *s.V, 1.49)
		assert.True(t, s.Ball.CarryM > 100 && s.Ball.CarryM < 320, "%g", s.Ball.CarryM)
	}
	assert.Nil(t, device.RadarSwings(device.RadarPlan{NoBall: true}, 1)[0].Ball)
	for _, bad := range []device.RadarPlan{{CeilingMps: 90}, {DeficitMps: 40}, {NoiseCV: 3}, {Double: 2}, {PaceS: 0.001}, {ImplementPercent: 900}, {TauSwings: -1}} {
		require.Error(t, bad.Check(), "%+v", bad)
	}
	require.NoError(t, device.RadarPlan{}.Check())
}

// A radar with every fault: garbage is passed over, doubles and practice swings come
// through to be told by those who judge, its clock may jump, and it may hang up.
func TestARadarWithFaults(t *testing.T) {
	l, err := net.Listen("tcp", "127.0.0.1:0")
	require.NoError(t, err)
	ctx, cancel := context.WithCancel(t.Context())
	defer cancel()
	go func() {
		_ = device.ServeRadar(ctx, l, device.RadarPlan{PaceS: 0.05, Double: 0.4, Practice: 0.3, Garbage: 0.5, Silence: 0.2, ClockJumpAt: 8, HangUpAt: 30, Seed: 3})
	}()
	s, err := device.Dial(ctx, l.Addr().String(), "radar")
	require.NoError(t, err)
	defer func() { _ = s.Close() }()
	var times []float64
	n, back := 0, false
	for {
		r, err := s.NextSwing(time.Second)
		if errors.Is(err, io.EOF) {
			break
		}
		require.NoError(t, err)
		back = back || len(times) > 0 && *r.T < times[len(times)-1]-10
		times = append(times, *r.T)
		n++
	}
	assert.Greater(t, n, 20)
	assert.Positive(t, s.Garbage)
	assert.True(t, back, "the clock jumped")
	_, err = device.Dial(ctx, l.Addr().String(), "grip")
	require.ErrorIs(t, err, device.ErrProtocol, "a radar is no dynamometer")
}
