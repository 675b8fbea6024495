package speed

import (
	"errors"
	"fmt"
	"math"

	"gonum.org/v1/gonum/mat"
	"gonum.org/v1/gonum/stat/distuv"
)

// The reasons a series of first swings bears no curve, and Curve where it does.
const (
	Curve        = "curve"
	TooShort     = "too short"
	Flat         = "flat"
	Falling      = "falling"
	Noise        = "noise larger than trend"
	FirstOnly    = "first swing only"
	StillRising  = "still rising"
	leastToFit   = 6
	flatRange    = 0.05 // m/s
	significance = 0.05
	quickTau     = 0.5
	leastTau     = 0.25
	mostTauTimes = 4
)

// Interval is a two-sided 95% interval.
type Interval struct {
	Low  float64 `json:"low"`
	High float64 `json:"high"`
}

// ColdStart is what the first swings with no warm-up say: two averages always, and a
// curve speed(n) = A − B·e^(−(n−1)/τ) where the series bears one.
type ColdStart struct {
	Swings   int     `json:"swings"`
	EarlyMps float64 `json:"earlyMps"` // mean of the first max(1, min(3, ⌊n/2⌋))
	LateMps  float64 `json:"lateMps"`  // and of the last so many
	Class    string  `json:"class"`    // Curve or why there is none
	Fit      *Fit    `json:"fit,omitempty"`
}

// Fit is the curve with 95% intervals.
type Fit struct {
	CeilingMps      float64  `json:"ceilingMps"` // A
	Ceiling         Interval `json:"ceiling"`
	FirstDeficitMps float64  `json:"firstDeficitMps"` // B
	FirstDeficit    Interval `json:"firstDeficit"`
	TauSwings       float64  `json:"tauSwings"` // τ
	Tau             Interval `json:"tau"`       // by profile
	SwingsTo99      float64  `json:"swingsTo99"`
	SSE             float64  `json:"sse"`
	P               float64  `json:"p"` // of F against flat
}

// LostMps is what the first swing lacks: the curve's deficit, or late less early.
func (c *ColdStart) LostMps() float64 {
	if c.Fit != nil {
		return c.Fit.FirstDeficitMps
	}
	return c.LateMps - c.EarlyMps
}

// Lost is its interval where there is a curve.
func (c *ColdStart) Lost() *Interval {
	if c.Fit == nil {
		return nil
	}
	return &c.Fit.FirstDeficit
}

// Reason says why there is a curve or none, in a sentence.
func (c *ColdStart) Reason() string {
	switch c.Class {
	case Curve:
		return "Speed rises toward a ceiling and reaches it."
	case TooShort:
		return fmt.Sprintf("%d swings are too few for a curve: six at least.", c.Swings)
	case Flat:
		return "Flat: every swing is as fast as the first."
	case Falling:
		return "Falling: no warm-up effect, but fatigue or a rushed start."
	case Noise:
		return "Swings vary by more than they rise: no curve."
	case FirstOnly:
		return "Only the first swing was slow: the ceiling is known, how fast it is reached is not."
	}
	return "Still rising at the last swing: the ceiling was not reached."
}

// ColdStartOf reads the speeds in m/s of the first swings of a day, in order. The errors
// name what is impossible: no swing, or one outside of 10 to 75 m/s.
//
// Least squares with a search over ln τ and an exact straight line within; intervals of
// A and B by the scaled covariance and t(n − 3), of τ by profile; F of the curve against
// flat on 2 and n − 3 degrees of freedom (textbook methods, a rough screen since τ is
// not linear; the classes are ours).
func ColdStartOf(mps []float64) (*ColdStart, error) {
	n := len(mps)
	if n == 0 {
		return nil, errors.New("speed: no swing")
	}
	for i, v := range mps {
		if err := CheckSpeed(v); err != nil {
			return nil, fmt.Errorf("swing %d: %w", i+1, err)
		}
	}
	ends := max(1, min(3, n/2))
	out := &ColdStart{Swings: n, EarlyMps: mean(mps[:ends]), LateMps: mean(mps[n-ends:])}
	lo, hi := mps[0], mps[0]
	for _, v := range mps {
		lo, hi = min(lo, v), max(hi, v)
	}
	switch {
	case n < leastToFit:
		out.Class = TooShort
		return out, nil
	case hi-lo < flatRange:
		out.Class = Flat
		return out, nil
	}
	f := fitting{mps}
	tau := f.best()
	a, b, sse := f.at(tau)
	p := f.against(sse)
	df := float64(n - 3)
	limit := sse * (1 + distuv.F{D1: 1, D2: df}.Quantile(0.95)/df)
	switch {
	case b < 0 && p < significance:
		out.Class = Falling
	case p >= significance:
		out.Class = Noise
	case tau < quickTau:
		out.Class = FirstOnly
	case tau > float64(n-1)/2 || f.sse(float64(n-1)) <= limit:
		out.Class = StillRising
	default:
		out.Class = Curve
		out.Fit = f.whole(a, b, tau, sse, limit)
		out.Fit.P = p
	}
	return out, nil
}

// fitting fits the curve to speeds of swings 1, 2, …
type fitting struct{ y []float64 }

// at is the best A and B at a τ with the sum of squares left.
func (f fitting) at(tau float64) (a, b, sse float64) {
	// y = A + (−B)·x, x = e^(−(n−1)/τ): an exact straight line.
	n := float64(len(f.y))
	var sx, sy, sxx, sxy float64
	for i, y := range f.y {
		x := math.Exp(-float64(i) / tau)
		sx, sy, sxx, sxy = sx+x, sy+y, sxx+x*x, sxy+x*y
	}
	mx, my := sx/n, sy/n
	slope := (sxy - n*mx*my) / (sxx - n*mx*mx)
	a, b = my-slope*mx, -slope
	for i, y := range f.y {
		d := y - a + b*math.Exp(-float64(i)/tau)
		sse += d * d
	}
	return a, b, sse
}

func (f fitting) sse(tau float64) float64 { _, _, s := f.at(tau); return s }

// best is the τ with the least squares, between a quarter of a swing and four times the
// series: a grid in ln τ, then golden sections around the best of it.
func (f fitting) best() float64 {
	lo, hi := math.Log(leastTau), math.Log(mostTauTimes*float64(len(f.y)))
	const steps = 60
	at := func(k int) float64 { return lo + (hi-lo)*float64(k)/steps }
	best := 0
	for k := 1; k <= steps; k++ {
		if f.sse(math.Exp(at(k))) < f.sse(math.Exp(at(best))) {
			best = k
		}
	}
	l, h := at(max(best-1, 0)), at(min(best+1, steps))
	ratio := (math.Sqrt(5) - 1) / 2
	x, y := h-ratio*(h-l), l+ratio*(h-l)
	sx, sy := f.sse(math.Exp(x)), f.sse(math.Exp(y))
	for h-l > 1e-9 {
		if sx < sy {
			h, y, sy = y, x, sx
			x = h - ratio*(h-l)
			sx = f.sse(math.Exp(x))
		} else {
			l, x, sx = x, y, sy
			y = l + ratio*(h-l)
			sy = f.sse(math.Exp(y))
		}
	}
	return math.Exp((l + h) / 2)
}

// against is the p of the curve against flat.
func (f fitting) against(sse float64) float64 {
	m, sst := mean(f.y), 0.0
	for _, y := range f.y {
		sst += (y - m) * (y - m)
	}
	df := float64(len(f.y) - 3)
	if sse <= 0 {
		return 0
	}
	return 1 - distuv.F{D1: 2, D2: df}.CDF(max(0, (sst-sse)/2/(sse/df)))
}

// whole is the fit with its intervals.
func (f fitting) whole(a, b, tau, sse, limit float64) *Fit {
	n := len(f.y)
	jtj := mat.NewSymDense(3, nil)
	for i := range f.y {
		x := math.Exp(-float64(i) / tau)
		g := []float64{1, -x, -b * x * float64(i) / (tau * tau)}
		for r := range 3 {
			for c := r; c < 3; c++ {
				jtj.SetSym(r, c, jtj.At(r, c)+g[r]*g[c])
			}
		}
	}
	df := float64(n - 3)
	half := [2]float64{math.Inf(1), math.Inf(1)}
	var inv mat.Dense
	if err := inv.Inverse(jtj); err == nil {
		t := distuv.StudentsT{Mu: 0, Sigma: 1, Nu: df}.Quantile(0.975)
		for k := range half {
			half[k] = t * math.Sqrt(max(0, inv.At(k, k)*sse/df))
		}
	}
	out := &Fit{
		CeilingMps: a, Ceiling: Interval{a - half[0], a + half[0]},
		FirstDeficitMps: b, FirstDeficit: Interval{b - half[1], b + half[1]},
		TauSwings: tau, Tau: Interval{f.edge(tau, leastTau/5, limit), f.edge(tau, 100*float64(n), limit)},
		SwingsTo99: 1, SSE: sse,
	}
	if b > 0.01*a {
		out.SwingsTo99 = 1 + tau*math.Log(b/(0.01*a))
	}
	return out
}

// edge is where the sum of squares reaches a limit on the way from the best τ to a far
// one; the far one where it does not.
func (f fitting) edge(tau, far, limit float64) float64 {
	in, out := math.Log(tau), math.Log(far)
	if f.sse(far) <= limit {
		return far
	}
	for range 60 {
		if m := (in + out) / 2; f.sse(math.Exp(m)) <= limit {
			in = m
		} else {
			out = m
		}
	}
	return math.Exp(in)
}

// The lengths of a ladder, in swings of the playing side.
const (
	LadderLeast  = 6
	LadderMost   = 20
	LadderUsual  = 8 // no cold start known, or no curve in it
	LadderRising = 12
	LadderFlat   = 6
)

// LadderSwings is how many swings of the playing side a warm-up's ladder takes after
// this cold start; a nil one is not known.
func (c *ColdStart) LadderSwings() int {
	switch {
	case c == nil:
		return LadderUsual
	case c.Fit != nil:
		return min(max(int(math.Ceil(c.Fit.SwingsTo99-1e-9)), LadderLeast), LadderMost)
	case c.Class == StillRising:
		return LadderRising
	case c.Class == Flat || c.Class == FirstOnly:
		return LadderFlat
	}
	return LadderUsual
}
