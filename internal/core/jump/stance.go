package jump

import (
	"errors"
	"fmt"
	"math"

	"dunnock/internal/core/force"
	"dunnock/internal/core/signal"
)

// weigh finds the stillest stance of the whole recording, for a first idea of
// body weight.
func (a *analysis) weigh() error {
	half, short := a.samples(0.5), max(1, a.samples(0.06))
	sum, little := 0.0, 0.0
	a.high, a.low = math.Inf(-1), math.Inf(1)
	for i, v := range a.raw {
		sum += v
		little += v
		if i >= half {
			sum -= a.raw[i-half]
		}
		if i >= half-1 {
			a.high = max(a.high, sum/float64(half))
		}
		if i >= short {
			little -= a.raw[i-short]
		}
		if i >= short-1 {
			a.low = min(a.low, little/float64(short))
		}
	}
	if a.high < 0 {
		return errors.New("jump: the vertical force is negative: the file holds the force on the plate. Say so where the file is mapped")
	}
	if a.high < 150 {
		return ErrNoStance
	}
	var ok bool
	if a.stance, ok = a.still(0, a.n); !ok {
		return ErrNoStance
	}
	return nil
}

// maxUnrest is the share of its mean a stance may vary by and still be one.
const maxUnrest = 0.06

// still finds the quietest second of stance between two samples, half a second
// where there is no more.
func (a *analysis) still(from, to int) (signal.Level, bool) {
	for _, s := range []float64{1, 0.75, 0.5} {
		if l, ok := signal.Quietest(a.raw, from, to, a.samples(s), a.low+0.4*(a.high-a.low), 1.2*a.high); ok && l.SD < maxUnrest*l.Mean {
			return l, true
		}
	}
	return signal.Level{}, false
}

// settle fixes body weight and the plates' zero.
func (a *analysis) settle(best int) error {
	q, ok, zero := a.stance, true, 0.0
	if best >= 0 {
		u := a.runs[best]
		q, ok, zero = u.stance, u.still, u.level.Mean
		a.out.ZeroOffsetN, a.out.UnloadedSDN, a.out.FlightThresholdN = ptr(zero), ptr(u.level.SD), ptr(u.threshold)
	} else if len(a.runs) > 0 {
		zero = a.runs[0].level.Mean
	}
	if !ok {
		a.flag(force.ShortQuiet, "Less than half a second of quiet stance before the jump: body weight is from elsewhere in the recording.")
		q = a.stance
	}
	slope := 0.0 // N a sample
	if best >= 0 && ok {
		slope = a.drift(&q, a.runs[best])
	}
	a.stance = q
	a.bw = q.Mean - zero
	if a.s.MassKg > 0 {
		known := a.s.MassKg * G
		switch {
		case !ok:
			a.bw = known
		case math.Abs(known-a.bw) > 0.02*known:
			a.flag(MassDiffers, fmt.Sprintf("The stance weighs %.1f kg, %.1f kg was given; the stance is used.", a.bw/G, a.s.MassKg))
		}
	}
	if a.bw < 150 || a.bw > 2500 {
		return fmt.Errorf("jump: a body weight of %.0f N is no golfer's. Is the force in N and not in kgf?", a.bw)
	}
	a.mass = a.bw / G
	if q.SD > 0.02*a.bw {
		a.flag(force.NoisyQuiet, fmt.Sprintf("The quiet stance is not quiet: it varies by %.0f N.", q.SD))
	}
	o := a.out
	o.BodyWeightN, o.BodyMassKg, o.QuietSDN = a.bw, a.mass, q.SD
	o.QuietFromS, o.QuietToS = a.r.Time(float64(q.From)), a.r.Time(float64(q.To))
	return a.prepare(best, zero, slope)
}

// prepare takes the zero, and a drift about the flight, off the total and the
// feet, and filters them.
func (a *analysis) prepare(best int, zero, slope float64) error {
	for i := range a.raw {
		a.up[i] = a.raw[i] - zero
	}
	together := [][]float64{a.up}
	for _, y := range a.feet {
		if y == nil {
			continue
		}
		z, middle := zero/2, 0.0
		if best >= 0 {
			l := a.runs[best].level
			z, middle = signal.LevelOf(y, l.From, l.To).Mean, float64(l.From+l.To)/2
		}
		for k := range y {
			y[k] -= z + slope/2*(float64(k)-middle)
		}
		together = append(together, y)
	}
	cutoff := a.s.CutoffHz
	if cutoff == 0 {
		cutoff = min(DefaultCutoffHz, 0.35*a.r.RateHz)
	}
	if cutoff > 0 {
		f, err := signal.NewLowPass(cutoff, a.r.RateHz)
		if err != nil {
			return err
		}
		a.an.bank.Apply(f, together...)
		a.out.CutoffHz = cutoff
	}
	return nil
}

// band is how far force may stray from body weight in a still stance.
func (a *analysis) band() float64 { return max(5*a.stance.SD, 5) }

// begin finds the onset: the end of the last still quarter of a second before
// take-off, and from where force has left the band, back to its last crossing of
// body weight.
func (a *analysis) begin(off int) int {
	band := a.band()
	need, held := a.samples(0.25), 0
	start := min(a.stance.To, off) // the stance itself is still
	if a.stance.From >= off {
		start = 0
	}
	leave := -1
	for i := off - 1; i >= start; i-- {
		if math.Abs(a.up[i]-a.bw) > band {
			held = 0
			continue
		}
		if held++; held == need {
			leave = i + need
			break
		}
	}
	if leave < 0 {
		leave = start
	}
	first := leave
	for leave < off && math.Abs(a.up[leave]-a.bw) <= band {
		leave++
	}
	for i := a.stance.To; i < first && a.stance.From < off; i++ {
		if math.Abs(a.up[i]-a.bw) > max(band, 0.1*a.bw) {
			a.flag(FalseStart, "A first start was broken off: the jump is read from the second one.")
			break
		}
	}
	if a.s.Onset == OnsetBack30 {
		return max(0, leave-a.samples(0.03))
	}
	if leave >= off {
		return leave
	}
	// The crossing is sought in the force as recorded: filtered, noise strays to
	// one side for longer than it does.
	level := a.stance.Mean
	below := a.up[leave] < a.bw
	i := leave
	for i > 0 && leave-i < a.samples(0.2) && a.raw[i-1] < level == below {
		i--
	}
	// i is the first sample beyond the crossing; the one nearer to it is taken.
	if i > 0 && math.Abs(a.raw[i-1]-level) < math.Abs(a.raw[i]-level) {
		i--
	}
	return i
}
