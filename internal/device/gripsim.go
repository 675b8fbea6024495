package device

import (
	"context"
	"encoding/json"
	"fmt"
	"io"
	"math"
	"math/rand/v2"
	"net"
	"time"

	"dunnock/internal/core/grip"
)

// GripPlan is what the stand-in dynamometer does. The zero value of a field
// means its default.
type GripPlan struct {
	Pattern string  // hold: long squeezes that fade; pulses: short hard ones
	PeakKg  float64 // of the first squeeze
	Repeats int
	RiseS   float64 // from onset to peak
	HoldS   float64 // from onset to letting go
	RestS   float64 // between squeezes
	Fade    float64 // share of force lost over one hold
	Tire    float64 // share of force lost from one squeeze to the next
	NoiseKg float64 // standard deviation
	RateHz  float64
	Seed    uint64
	// Faults on the line, each a chance per sample: a line twice, one held back
	// behind the next, one that is no JSON, and hanging up at a sample.
	Duplicate, Late, Garbage float64
	HangUpAt                 int // samples; 0: never
	Flood                    int // send every sample this many times finer: 10 at 1,000 Hz floods with 10 kHz
}

func (p GripPlan) withDefaults() GripPlan {
	or := func(v *float64, d float64) {
		if *v == 0 {
			*v = d
		}
	}
	if p.Pattern == "" {
		p.Pattern = "hold"
	}
	hold := p.Pattern == "hold"
	or(&p.PeakKg, 45)
	or(&p.RateHz, 100)
	if p.Repeats == 0 {
		p.Repeats = 1
		if !hold {
			p.Repeats = 5
		}
	}
	if hold {
		or(&p.RiseS, 0.4)
		or(&p.HoldS, 5)
		or(&p.RestS, 2)
	} else {
		or(&p.RiseS, 0.18)
		or(&p.HoldS, 0.45)
		or(&p.RestS, 1.2)
	}
	return p
}

// GripTruth is what a trace was made from.
type GripTruth struct {
	Onset, PeakKg, TimeToPeakMs, HoldKg, FallOff, Rate float64
}

// GripTrace makes the samples a plan stands for, and the truth of every squeeze
// without noise. A squeeze rises as a half cosine to its peak, fades in a
// straight line and lets go as a half cosine over a tenth of a second.
func GripTrace(p GripPlan) ([]grip.Sample, []GripTruth) {
	p = p.withDefaults()
	r := rand.New(rand.NewPCG(p.Seed, 11))
	const before, letGo = 1.0, 0.1
	step := p.HoldS + letGo + p.RestS
	total := before + float64(p.Repeats)*step
	var truth []GripTruth
	for i := range p.Repeats {
		peak := p.PeakKg * math.Pow(1-p.Tire, float64(i))
		// From 90% of the peak on the way up, a half cosine passes there after
		// acos(−0.8)/π of the rise, to the half on the way down.
		t90 := p.RiseS * math.Acos(-0.8) / math.Pi
		var sum float64
		var n int
		var values []float64
		for t := t90; ; t += 0.001 {
			v := p.shape(t, letGo) * peak
			if t > p.HoldS && v < 0.5*peak {
				break
			}
			sum += v
			n++
			values = append(values, v)
		}
		k := len(values) / 5
		first, last := meanOf(values[:k]), meanOf(values[len(values)-k:])
		// The steepest 50 ms of a half cosine lie around its middle.
		half := math.Min(0.05, p.RiseS) / 2
		rate := peak * math.Sin(math.Pi*half/p.RiseS) / (2 * half)
		truth = append(
			truth,
			GripTruth{
				Onset:        before + float64(i)*step,
				PeakKg:       peak,
				TimeToPeakMs: 1000 * p.RiseS,
				HoldKg:       sum / float64(n),
				FallOff:      100 * (first - last) / first,
				Rate:         rate,
			},
		)
	}
	var out []grip.Sample
	for k := 0; float64(k)/p.RateHz < total; k++ {
		t := float64(k) / p.RateHz
		v := 0.0
		for i, q := range truth {
			if u := t - (before + float64(i)*step); u >= 0 && u <= p.HoldS+letGo {
				v = q.PeakKg * p.shape(u, letGo)
			}
		}
		out = append(out, grip.Sample{T: t, Kg: v + p.NoiseKg*r.NormFloat64()})
	}
	return out, truth
}

func meanOf(v []float64) float64 {
	s := 0.0
	for _, x := range v {
		s += x
	}
	return s / float64(len(v))
}

// shape is a squeeze of height 1 at u seconds after its onset.
func (p GripPlan) shape(u, letGo float64) float64 {
	switch {
	case u < p.RiseS:
		return (1 - math.Cos(math.Pi*u/p.RiseS)) / 2
	case u < p.HoldS:
		return 1 - p.Fade*(u-p.RiseS)/(p.HoldS-p.RiseS)
	default:
		return (1 - p.Fade) * (1 + math.Cos(math.Pi*(u-p.HoldS)/letGo)) / 2
	}
}

// ServeGrip plays a dynamometer to everyone who connects to l, over and over,
// until the context ends.
func ServeGrip(ctx context.Context, l net.Listener, p GripPlan) error {
	return serve(ctx, l, func(conn net.Conn) { _ = playGrip(ctx, conn, p) })
}

// playGrip writes one recording after the other at the speed of the clock.
func playGrip(ctx context.Context, w io.Writer, p GripPlan) error {
	p = p.withDefaults()
	enc := json.NewEncoder(w)
	fine := max(1, p.Flood)
	rate := p.RateHz * float64(fine)
	if err := enc.Encode(Hello{Protocol: Protocol, Kind: "grip", Name: "Stand-in dynamometer", Unit: "kg", RateHz: rate}); err != nil {
		return err
	}
	r := rand.New(rand.NewPCG(p.Seed, 13))
	q := p
	q.RateHz = rate
	samples, _ := GripTrace(q)
	begin, seq := time.Now(), int64(0)
	var held *Reading
	for round := 0; ; round++ {
		shift := float64(round) * (samples[len(samples)-1].T + 1/rate)
		for i := range samples {
			if p.HangUpAt > 0 && int(seq) >= p.HangUpAt {
				return nil
			}
			t, v := samples[i].T+shift, math.Round(samples[i].Kg*1000)/1000
			if wait := time.Until(begin.Add(time.Duration(t * float64(time.Second)))); wait > 2*time.Millisecond {
				select {
				case <-ctx.Done():
					return ctx.Err()
				case <-time.After(wait):
				}
			}
			n := seq
			seq++
			line := Reading{Seq: &n, T: &t, V: &v}
			if held == nil && r.Float64() < p.Late {
				held = &line
				continue
			}
			if r.Float64() < p.Garbage {
				if _, err := fmt.Fprintln(w, `{"seq":…`); err != nil {
					return err
				}
			}
			if err := enc.Encode(line); err != nil {
				return err
			}
			if r.Float64() < p.Duplicate {
				if err := enc.Encode(line); err != nil {
					return err
				}
			}
			if held != nil {
				if err := enc.Encode(*held); err != nil {
					return err
				}
				held = nil
			}
		}
	}
}
