package device

import (
	"bufio"
	"context"
	"encoding/json"
	"fmt"
	"math"
	"math/rand/v2"
	"net"
	"time"

	"dunnock/internal/core/force"
	"dunnock/internal/core/twoplates"
)

// PlatesPlan is what the stand-in plates do. The zero value of a field means its
// default.
type PlatesPlan struct {
	Kind    string // jump, squat or swing
	MassKg  float64
	HeightM float64
	// Of swings: peaks in body weights (rotational in N·m a kg) and in s before
	// impact.
	LateralBW, TurnNmPerKg, VerticalBW float64
	LateralS, TurnS, VerticalS         float64
	LeadShare                          float64 // of a jump's forces
	NoiseN, DriftNps, HumN, OffsetN    float64
	FalseStart, StepOff                bool
	RateHz                             float64
	PauseS                             float64 // stood still between trials when live
	Seed                               uint64
}

func (p PlatesPlan) withDefaults() PlatesPlan {
	for _, d := range []struct {
		v *float64
		d float64
	}{{&p.MassKg, 78}, {&p.HeightM, 0.34}, {&p.LateralBW, 0.19}, {&p.TurnNmPerKg, 0.68}, {&p.VerticalBW, 1.65}, {&p.LateralS, 0.14}, {&p.TurnS, 0.105}, {&p.VerticalS, 0.07}, {&p.LeadShare, 0.5}, {&p.RateHz, 1000}, {&p.PauseS, 1.5}} {
		if *d.v == 0 {
			*d.v = d.d
		}
	}
	if p.Kind == "" {
		p.Kind = "jump"
	}
	return p
}

// Check says what no golfer on plates does.
func (p PlatesPlan) Check() error {
	p = p.withDefaults()
	in := func(v, low, high float64) bool { return v >= low && v <= high }
	switch {
	case p.Kind != "jump" && p.Kind != "squat" && p.Kind != "swing":
		return fmt.Errorf("the plates play a jump, a squat jump (squat) or a swing, not %q", p.Kind)
	case !in(p.MassKg, 25, 180) || !in(p.HeightM, 0.05, 0.8) || !in(p.LeadShare, 0.2, 0.8):
		return fmt.Errorf("give a mass of 25 to 180 kg, a height of 0.05 to 0.8 m and a lead share of 0.2 to 0.8")
	case !in(p.LateralBW, 0.02, 0.6) || !in(p.TurnNmPerKg, 0.05, 2) || !in(p.VerticalBW, 1.05, 3):
		return fmt.Errorf("give a lateral peak of 0.02 to 0.6 and a vertical one of 1.05 to 3 body weights, and 0.05 to 2 N·m a kg of turn")
	case !in(p.LateralS, 0.02, 0.25) || !in(p.TurnS, 0.02, 0.25) || !in(p.VerticalS, 0.02, 0.25):
		return fmt.Errorf("peaks stand 0.02 to 0.25 s before impact")
	case !in(p.NoiseN, 0, 100) || !in(p.HumN, 0, 100) || !in(p.DriftNps, -50, 50) || !in(p.OffsetN, -300, 300) || !in(p.RateHz, 200, 2000):
		return fmt.Errorf("noise and hum go to 100 N, drift to 50 N a second, offset to 300 N, the rate from 200 to 2000 Hz")
	}
	return nil
}

// Trial makes one recording, with the truth it was made from.
func (p PlatesPlan) Trial(rng *rand.Rand) (*force.Recording, twoplates.JumpTruth, twoplates.SwingTruth) {
	p = p.withDefaults()
	n := twoplates.Noise{SDN: p.NoiseN, DriftNps: p.DriftNps, HumN: p.HumN, OffsetN: p.OffsetN, Normal: rng.NormFloat64}
	if p.Kind == "swing" {
		w := p.MassKg * force.G
		s := twoplates.SwingOf(p.MassKg, p.LateralBW*w, p.TurnNmPerKg*p.MassKg, (p.VerticalBW-1)*w, p.LateralS, p.TurnS, p.VerticalS, 0.035)
		s.RateHz = p.RateHz
		r, truth := s.Make(n)
		return r, twoplates.JumpTruth{}, truth
	}
	j := twoplates.Usual()
	j.MassKg, j.HeightM, j.RateHz, j.LeadShare = p.MassKg, p.HeightM, p.RateHz, p.LeadShare
	j.DipN = 0.55 * p.MassKg * force.G
	j.FalseStart, j.StepOff = p.FalseStart, p.StepOff
	if p.Kind == "squat" {
		j.DipN = 0
	}
	r, truth := j.Make(n)
	return r, truth, twoplates.SwingTruth{}
}

// plateChannels are what the stand-in sends, and how much of each it rounds to.
var plateChannels = []string{
	"Fx_lead",
	"Fy_lead",
	"Fz_lead",
	"CoPx_lead",
	"CoPy_lead",
	"Tz_lead",
	"Fx_trail",
	"Fy_trail",
	"Fz_trail",
	"CoPx_trail",
	"CoPy_trail",
	"Tz_trail",
	"impact",
}

// ServePlates plays two plates to everyone who connects to l, over and over,
// until the context ends.
func ServePlates(ctx context.Context, l net.Listener, p PlatesPlan) error {
	return serve(ctx, l, func(conn net.Conn) { _ = playPlates(ctx, conn, p.withDefaults()) })
}

// playPlates writes trial after trial at the speed of the clock. A line goes out
// with every sample, flushed every few milliseconds.
func playPlates(ctx context.Context, conn net.Conn, p PlatesPlan) error {
	w := bufio.NewWriterSize(conn, 1<<15)
	enc := json.NewEncoder(w)
	if err := enc.Encode(Hello{Protocol: Protocol, Kind: "plates", Name: "Stand-in plates", Unit: "N", RateHz: p.RateHz, Channels: plateChannels}); err != nil {
		return err
	}
	rng := rand.New(rand.NewPCG(p.Seed, 17))
	begin, seq := time.Now(), int64(0)
	values := make([]float64, len(plateChannels))
	round := func(v, unit float64) float64 { return math.Round(v/unit) * unit }
	for {
		r, _, _ := p.Trial(rng)
		channels := make([][]float64, 12)
		for _, c := range r.Channels() {
			k := 0
			if c.Foot == "trail" {
				k = 6
			}
			for i, name := range force.ChannelNames {
				if name == c.Name {
					channels[k+i] = c.Values
				}
			}
		}
		impact := -1
		if r.ImpactS != nil {
			impact = int(math.Round(r.Sample(*r.ImpactS)))
		}
		stand := int(p.PauseS * p.RateHz)
		for i := range r.Len() + stand {
			k := max(0, i-stand) // before the trial the first sample is stood
			for c, x := range channels {
				v := 0.0
				if x != nil {
					if v = x[k]; i < stand {
						v += p.NoiseN * rng.NormFloat64() * b2f(c%6 < 3)
					}
				}
				if values[c] = round(v, 0.01); c%6 > 2 {
					values[c] = round(v, 1e-5)
				}
			}
			values[12] = b2f(i >= stand && k >= impact && k < impact+5 && impact >= 0)
			t, n := float64(seq)/p.RateHz, seq
			if err := enc.Encode(Reading{Seq: &n, T: &t, C: values}); err != nil {
				return err
			}
			seq++
			if wait := time.Until(begin.Add(time.Duration(t * float64(time.Second)))); wait > 5*time.Millisecond {
				if err := w.Flush(); err != nil {
					return err
				}
				select {
				case <-ctx.Done():
					return ctx.Err()
				case <-time.After(wait):
				}
			}
		}
	}
}

func b2f(b bool) float64 {
	if b {
		return 1
	}
	return 0
}
