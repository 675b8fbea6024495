package jump

import (
	"fmt"
	"math"

	"dunnock/internal/core/force"
	"dunnock/internal/core/signal"
)

// takeHum takes mains hum off where the stance is made of little else: it moves
// the moments at which thresholds are passed.
func (a *analysis) takeHum() {
	from, to := a.stance.From, a.stance.To
	for _, hz := range []float64{50, 60} {
		h, ok := signal.FindHum(a.raw, from, to, a.r.RateHz, hz)
		if !ok || h.Amplitude() < max(2, 0.7*a.stance.SD) {
			continue
		}
		if a.r.Whole != nil {
			h.Take(a.raw, a.r.RateHz)
		} else {
			for _, y := range a.feet {
				if f, ok := signal.FindHum(y, from, to, a.r.RateHz, hz); ok {
					f.Take(y, a.r.RateHz)
				}
			}
			a.addFeet()
		}
		a.stance = signal.LevelOf(a.raw, from, to)
		a.flag(force.HumTaken, fmt.Sprintf("Mains hum of %.0f N at %.1f Hz was taken off.", h.Amplitude(), h.Hz))
		return
	}
}

// drift compares the stance before a jump with the one after its landing: the
// same person weighs the same. Where they differ by 0.4% or more the plates' zero
// is taken to have moved in a straight line, which is taken off about the middle
// of the flight, and said. It returns the slope in N a sample.
func (a *analysis) drift(before *signal.Level, u run) float64 {
	if !u.landed {
		return 0
	}
	after, ok := a.still(u.to+a.samples(0.4), a.n)
	d := after.Mean - before.Mean
	weight := before.Mean - u.level.Mean
	if !ok || after.SD > max(0.02*weight, 2*before.SD) || math.Abs(d) < max(0.004*weight, 4*math.Hypot(before.SD, after.SD)/math.Sqrt(float64(a.samples(0.5)))) ||
		math.Abs(d) > 0.2*weight {
		return 0
	}
	middle := func(from, to int) float64 { return float64(from+to) / 2 }
	slope := d / (middle(after.From, after.To) - middle(before.From, before.To))
	about := middle(u.level.From, u.level.To)
	for i := range a.raw {
		a.raw[i] -= slope * (float64(i) - about)
	}
	before.Mean -= slope * (middle(before.From, before.To) - about)
	a.flag(force.Drift, fmt.Sprintf("The plates' zero drifts by %.1f N a second: a straight line was taken off, numbers are less sure.", slope*a.r.RateHz))
	return slope
}
