package device

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"math"
	"math/rand/v2"
	"net"
	"time"

	"dunnock/internal/core/flight"
	"dunnock/internal/core/speed"
)

// RadarPlan is the hidden golfer in front of a stand-in radar, and its faults. The zero
// value of a field means its default.
type RadarPlan struct {
	CeilingMps float64 // warm, fresh, own driver, playing side
	DeficitMps float64 // of the first swing of a cold golfer; negative: none
	TauSwings  float64 // of its decay
	Fatigue    float64 // share of speed lost a swing after the twentieth
	NoiseCV    float64 // share; negative: none
	// ImplementPercent is how much heavier than the own driver is swung, and OtherSide
	// that it is swung from the other side: a tenth slower.
	ImplementPercent float64
	OtherSide        bool
	PaceS            float64 // between swings
	Swings           int     // then it stays silent; 0: goes on
	NoBall           bool
	// Faults, each a chance a swing: not seen, seen twice, a practice swing in between, a
	// line that is no JSON; and the swing at which the clock jumps back, or it hangs up.
	Silence, Double, Practice, Garbage float64
	ClockJumpAt, HangUpAt              int
	Seed                               uint64
}

func (p RadarPlan) withDefaults() RadarPlan {
	for _, d := range []struct {
		v *float64
		d float64
	}{{&p.CeilingMps, 48}, {&p.DeficitMps, 3.5}, {&p.TauSwings, 2}, {&p.NoiseCV, 0.008}, {&p.PaceS, 20}} {
		switch {
		case *d.v == 0:
			*d.v = d.d
		case *d.v < 0:
			*d.v = 0
		}
	}
	return p
}

// Check says what is impossible about a plan.
func (p RadarPlan) Check() error {
	p = p.withDefaults()
	switch {
	case !(p.CeilingMps >= speed.Least && p.CeilingMps <= speed.Most):
		return errors.New("a ceiling is 10 to 75 m/s")
	case !(p.DeficitMps < p.CeilingMps/2) || !(p.TauSwings > 0 && p.TauSwings <= 50):
		return errors.New("a cold swing lacks less than half the ceiling, and recovers with a constant of up to 50 swings")
	case !(p.NoiseCV >= 0 && p.NoiseCV <= 0.2) || !(p.Fatigue >= 0 && p.Fatigue <= 0.05):
		return errors.New("noise is up to 0.2 and fatigue up to 0.05 a swing, as shares")
	case !(p.ImplementPercent >= -60 && p.ImplementPercent <= 200):
		return errors.New("an implement is -60 to 200 % heavier than the driver")
	case !(p.PaceS >= 0.05 && p.PaceS <= 600):
		return errors.New("a swing comes every 0.05 to 600 s")
	}
	for _, c := range []float64{p.Silence, p.Double, p.Practice, p.Garbage} {
		if !(c >= 0 && c <= 1) {
			return errors.New("a chance is 0 to 1")
		}
	}
	return nil
}

// Truth is a swing without noise, in m/s: n is 1 for the first of a cold golfer.
func (p RadarPlan) Truth(n int) float64 {
	p = p.withDefaults()
	v := p.CeilingMps - p.DeficitMps*math.Exp(-float64(n-1)/p.TauSwings)
	// About 2.7% of speed a tenth of the driver's mass, as in the check values.
	v *= 1 - 0.0027*p.ImplementPercent
	if p.OtherSide {
		v *= 0.9
	}
	return v * (1 - p.Fatigue*float64(max(0, n-20)))
}

// RadarSwings makes so many swings of a cold golfer, without faults.
func RadarSwings(p RadarPlan, n int) []Reading {
	p = p.withDefaults()
	r := rand.New(rand.NewPCG(p.Seed, 17))
	out := make([]Reading, n)
	for i := range out {
		out[i] = p.swing(r, int64(i), float64(i)*p.PaceS, p.Truth(i+1))
	}
	return out
}

func (p RadarPlan) swing(r *rand.Rand, seq int64, t, truth float64) Reading {
	v := math.Round(100*truth*(1+p.NoiseCV*r.NormFloat64())) / 100
	out := Reading{Seq: &seq, T: &t, V: &v}
	if p.NoBall {
		return out
	}
	// The colder, the wilder the strike.
	wild := 1 + 2*max(0, p.CeilingMps-truth)/p.CeilingMps*5
	s := &Strike{ToeMm: math.Round(6 * wild * r.NormFloat64()), HighMm: math.Round(5 * wild * r.NormFloat64()), DirectionDeg: math.Round(10*1.5*wild*r.NormFloat64()) / 10}
	s.ToeMm, s.HighMm = min(max(s.ToeMm, -40), 40), min(max(s.HighMm, -30), 30)
	b := &Ball{LaunchDeg: math.Round(10*(12.5+r.NormFloat64())) / 10, SpinRpm: math.Round(2600 + 200*r.NormFloat64()), Strike: s}
	off := math.Hypot(s.ToeMm, s.HighMm)
	b.Mps = math.Round(100*v*(1.47-0.0015*off)) / 100
	c, _ := flight.Set(flight.Default)
	if f, err := flight.Fly(flight.Launch{BallMps: b.Mps, AngleDeg: max(b.LaunchDeg, 1), SpinRpm: b.SpinRpm}, &c); err == nil {
		b.CarryM = math.Round(10*f.CarryM) / 10
	}
	out.Ball = b
	return out
}

// ServeRadar plays a radar to everyone who connects to l until the context ends: each
// sees a golfer who begins cold.
func ServeRadar(ctx context.Context, l net.Listener, p RadarPlan) error {
	return serve(ctx, l, func(conn net.Conn) { _ = playRadar(ctx, conn, p) })
}

// playRadar writes swings at the pace of the plan, with its faults.
func playRadar(ctx context.Context, w io.Writer, p RadarPlan) error {
	p = p.withDefaults()
	enc := json.NewEncoder(w)
	if err := enc.Encode(Hello{Protocol: Protocol, Kind: "radar", Name: "Stand-in radar", Unit: "m/s"}); err != nil {
		return err
	}
	r := rand.New(rand.NewPCG(p.Seed, 17))
	begin, jump := time.Now(), 0.0
	for n := 1; p.Swings == 0 || n <= p.Swings; n++ {
		if p.HangUpAt > 0 && n >= p.HangUpAt {
			return nil
		}
		if err := pause(ctx, time.Until(begin.Add(time.Duration(float64(n)*p.PaceS*float64(time.Second))))); err != nil {
			return err
		}
		t := math.Round(1000*time.Since(begin).Seconds()) / 1000
		if p.ClockJumpAt > 0 && n == p.ClockJumpAt {
			jump = t + 1000 // the clock begins anew
		}
		s := p.swing(r, int64(n), t-jump, p.Truth(n))
		lines := []Reading{s}
		if r.Float64() < p.Silence {
			lines = nil
		}
		if r.Float64() < p.Practice {
			slow := p.swing(r, int64(n), t-jump, 0.6*p.Truth(n))
			lines = append([]Reading{slow}, lines...)
		}
		if r.Float64() < p.Double && len(lines) > 0 {
			lines = append(lines, lines[len(lines)-1])
		}
		if r.Float64() < p.Garbage {
			if _, err := fmt.Fprintln(w, `{"seq":…`); err != nil {
				return err
			}
		}
		for _, x := range lines {
			if err := enc.Encode(x); err != nil {
				return err
			}
		}
	}
	<-ctx.Done()
	return ctx.Err()
}

func pause(ctx context.Context, d time.Duration) error {
	select {
	case <-ctx.Done():
		return ctx.Err()
	case <-time.After(d):
		return nil
	}
}
