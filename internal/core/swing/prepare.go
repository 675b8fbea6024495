package swing

import (
	"fmt"
	"math"

	"dunnock/internal/core/force"
	"dunnock/internal/core/signal"
)

// prepare copies the recording, takes the plates' zero off where they were
// empty, and filters. A centre of pressure is filtered as the moment it stands
// for, so that it does not run wild under a foot in the air.
func (a *analysis) prepare(an *Analyser) error {
	feet := a.r.Feet()
	count := 0
	for _, f := range feet {
		for _, c := range [][]float64{f.ToTargetN, f.ToBallN, f.UpN, f.CoPToTargetM, f.CoPToBallM, f.FreeMomentNm} {
			if c != nil {
				count++
			}
		}
	}
	// Behind the channels: the efforts, their places and one to work in.
	if cap(an.slab) < (count+8)*a.n {
		an.slab = make([]float64, (count+8)*a.n)
	}
	slab := an.slab
	take := func() []float64 { p := slab[:a.n:a.n]; slab = slab[a.n:]; return p }
	a.f = &force.Recording{RateHz: a.r.RateHz, StartS: a.r.StartS}
	together := make([][]float64, 0, count+3)
	empty, zeroed := a.unloaded()
	for _, f := range feet {
		to := &force.Foot{}
		load := func(from []float64) []float64 {
			if from == nil {
				return nil
			}
			p := take()
			copy(p, from)
			if zeroed {
				zero := signal.LevelOf(from, empty.From, empty.To).Mean
				for i := range p {
					p[i] -= zero
				}
			}
			together = append(together, p)
			return p
		}
		to.ToTargetN, to.ToBallN, to.UpN, to.FreeMomentNm = load(f.ToTargetN), load(f.ToBallN), load(f.UpN), load(f.FreeMomentNm)
		if f.CoPToTargetM != nil {
			x, y := take(), take()
			fromX, fromY := f.CoPToTargetM[:len(x)], f.CoPToBallM[:len(x)]
			for i, up := range to.UpN[:len(x)] {
				x[i], y[i] = fromX[i]*up, fromY[i]*up
			}
			to.CoPToTargetM, to.CoPToBallM = x, y
			together = append(together, to.CoPToTargetM, to.CoPToBallM)
		}
		switch f.Name {
		case "lead":
			a.f.Lead = to
		case "trail":
			a.f.Trail = to
		default:
			a.f.Whole = to
		}
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
		an.bank.Apply(f, together...)
		a.out.CutoffHz = cutoff
	}
	for _, f := range a.f.Feet() {
		if !finite(f.UpN) {
			return fmt.Errorf("swing: the %s foot's force holds what is no number", f.Name)
		}
		if f.CoPToTargetM != nil {
			pressure(f.CoPToTargetM, f.CoPToBallM, f.UpN)
		}
	}
	a.out.Filtered = a.f
	c := &a.out.Curves
	c.VerticalN = take()
	a.spare = take()
	if a.has(func(f *force.Foot) []float64 { return f.ToTargetN }) {
		c.LateralN = take()
	}
	if a.has(func(f *force.Foot) []float64 { return f.ToBallN }) {
		c.ForeAftN = take()
	}
	if a.f.Whole == nil {
		c.LeadShare = take()
	}
	if a.has(func(f *force.Foot) []float64 { return f.CoPToTargetM }) {
		c.CoPToTargetM, c.CoPToBallM = take(), take()
	}
	c.TurnNm = take()
	return nil
}

// finite reports whether every value is a number.
func finite(y []float64) bool {
	sum := 0.0
	for _, v := range y {
		sum += v - v // NaN of NaN and of the infinities
	}
	return sum == 0
}

// pressure turns moments back into the centre of pressure they stand for. Under a
// foot that carries next to nothing it stays where it was.
func pressure(x, y, up []float64) {
	x, y = x[:len(up)], y[:len(up)]
	lastX, lastY := 0.0, 0.0
	for i, v := range up {
		if v > 10 {
			per := 1 / v
			lastX, lastY = x[i]*per, y[i]*per
		}
		x[i], y[i] = lastX, lastY
	}
}

// has reports whether every foot has a channel.
func (a *analysis) has(of func(*force.Foot) []float64) bool {
	for _, f := range a.f.Feet() {
		if of(f.Foot) == nil {
			return false
		}
	}
	return true
}

// unloaded finds a stretch of at least a fifth of a second with nobody on the
// plates.
func (a *analysis) unloaded() (signal.Level, bool) {
	feet := a.r.Feet()
	high := 0.0
	for i := 0; i < a.n; i += 10 {
		up := 0.0
		for _, f := range feet {
			up += f.UpN[i]
		}
		high = max(high, up)
	}
	need, run := a.samples(0.2), 0
	for i := range a.n {
		up := 0.0
		for _, f := range feet {
			up += f.UpN[i]
		}
		if math.Abs(up) > 0.08*high {
			if run >= need {
				return signal.Level{From: i - run + run/10, To: i - run/4}, true
			}
			run = 0
			continue
		}
		run++
	}
	if run >= need {
		return signal.Level{From: a.n - run + run/4, To: a.n - run/10}, true
	}
	return signal.Level{}, false
}
