package speed

import (
	"errors"
	"fmt"
	"math"

	"gonum.org/v1/gonum/stat"
	"gonum.org/v1/gonum/stat/distuv"

	"dunnock/internal/core/flight"
)

// Yards of carry a mile an hour of club speed by the rule of thumb; common practice, no
// source, and no limit: quoted figures reach nearly 4.
const (
	RuleLeast = 2.0
	RuleMost  = 2.5
)

// What a flight assumes where the golfer's own is not known.
const (
	UsualLaunch = 12.0   // degrees
	UsualSpin   = 2600.0 // a minute
)

const yardM = 0.9144

// Range is a carry, or a change of it, in m.
type Range struct {
	LowM  float64 `json:"lowM"`
	HighM float64 `json:"highM"`
}

// Yards returns both ends in yards.
func (r Range) Yards() (low, high float64) { return r.LowM / yardM, r.HighM / yardM }

// ByRule is the carry that goes with a club speed, or its change with a change of it,
// by the rule of thumb.
func ByRule(mps float64) Range {
	a, b := mps*mphPerMps*RuleLeast*yardM, mps*mphPerMps*RuleMost*yardM
	return Range{min(a, b), max(a, b)}
}

// Shot is a strike of which carry is known.
type Shot struct {
	ClubMps float64 `json:"clubMps"`
	CarryM  float64 `json:"carryM"`
}

// Slope is a golfer's own carry by club speed.
type Slope struct {
	Shots    int      `json:"shots"`
	AtZero   float64  `json:"-"`        // of the straight line, m
	MPerMps  float64  `json:"mPerMps"`  // metres a m/s
	Interval Interval `json:"interval"` // 95%
}

// An own slope needs so many shots over so wide a range, in m/s, and an interval above
// nothing.
const (
	leastShots = 12
	leastSpan  = 2.0
)

// ErrNoSlope is why shots bear no slope of their own.
var ErrNoSlope = errors.New("speed: no own slope")

// OwnSlope is the golfer's own carry by club speed, by least squares.
func OwnSlope(shots []Shot) (*Slope, error) {
	if len(shots) < leastShots {
		return nil, fmt.Errorf("%w: %d shots with carry, %d at least", ErrNoSlope, len(shots), leastShots)
	}
	xs, ys := make([]float64, len(shots)), make([]float64, len(shots))
	lo, hi := math.Inf(1), math.Inf(-1)
	for i, s := range shots {
		if err := CheckSpeed(s.ClubMps); err != nil {
			return nil, err
		}
		if !(s.CarryM >= 0 && s.CarryM <= 400) {
			return nil, fmt.Errorf("speed: a carry is 0 to 400 m, not %g", s.CarryM)
		}
		xs[i], ys[i] = s.ClubMps, s.CarryM
		lo, hi = min(lo, s.ClubMps), max(hi, s.ClubMps)
	}
	if hi-lo < leastSpan {
		return nil, fmt.Errorf("%w: the shots lie within %.1f m/s, %.0f at least", ErrNoSlope, hi-lo, leastSpan)
	}
	l := leastSquares(xs, ys)
	out := &Slope{Shots: len(shots), AtZero: l.a, MPerMps: l.b, Interval: Interval{l.b - l.t*l.sb, l.b + l.t*l.sb}}
	if !(out.Interval.Low > 0) {
		return nil, fmt.Errorf("%w: carry varies too much for the few speeds there are", ErrNoSlope)
	}
	return out, nil
}

// Ball is what of a golfer's strikes a flight needs; zeros take the usual.
type Ball struct {
	Smash     float64 `json:"smash"` // 0: the most a central strike allows
	LaunchDeg float64 `json:"launchDeg"`
	SpinRpm   float64 `json:"spinRpm"`
}

// BallOf is the median of a golfer's strikes, the usual where none was measured.
func BallOf(swings []Swing) Ball {
	var smash, launch, spin []float64
	for _, s := range swings {
		if s.BallMps > 0 {
			smash = append(smash, s.BallMps/s.ClubMps)
		}
		if s.Launch > 0 {
			launch = append(launch, s.Launch)
		}
		if s.SpinRpm > 0 {
			spin = append(spin, s.SpinRpm)
		}
	}
	mid := func(v []float64) float64 {
		if len(v) == 0 {
			return 0
		}
		return median(v)
	}
	return Ball{mid(smash), mid(launch), mid(spin)}
}

func (b Ball) withUsual() Ball {
	limit, _ := flight.SmashLimit(flight.HeadKg, flight.Restitution)
	if b.Smash == 0 {
		b.Smash = limit
	}
	if b.LaunchDeg == 0 {
		b.LaunchDeg = UsualLaunch
	}
	if b.SpinRpm == 0 {
		b.SpinRpm = UsualSpin
	}
	return b
}

// Fly is the flight of a strike at a club speed.
func Fly(clubMps float64, b Ball, c *flight.Coefficients) (flight.Flight, error) {
	b = b.withUsual()
	return flight.Fly(flight.Launch{BallMps: clubMps * b.Smash, AngleDeg: b.LaunchDeg, SpinRpm: b.SpinRpm}, c)
}

// Assumes says what a flight takes for granted, in words.
func (b Ball) Assumes(c *flight.Coefficients) string {
	full := b.withUsual()
	how := func(own bool) string {
		if own {
			return "own"
		}
		return "assumed"
	}
	return fmt.Sprintf(
		"smash %.2f (%s), launch %.0f° (%s), spin %.0f a minute (%s), still air at sea level, drag and lift set %s, %s",
		full.Smash, how(b.Smash > 0), full.LaunchDeg, how(b.LaunchDeg > 0), full.SpinRpm, how(b.SpinRpm > 0), c.ID, c.Name,
	)
}

// Lost is the carry that a loss of club speed costs, three ways side by side.
type Lost struct {
	ByRule   Range    `json:"byRule"`
	OwnM     *float64 `json:"ownM,omitempty"`
	Own      *Slope   `json:"own,omitempty"`
	NoOwn    string   `json:"noOwn,omitempty"` // why there is no own slope
	ByFlight float64  `json:"byFlightM"`
	Assumes  string   `json:"assumes"`
}

// CarryLost is what it costs in carry that a swing is slower by lost than late, both in
// m/s: by the rule of thumb, by the golfer's own slope, and by a flight.
func CarryLost(lateMps, lostMps float64, shots []Shot, b Ball) (*Lost, error) {
	c, _ := flight.Set(flight.Default)
	out := &Lost{ByRule: ByRule(lostMps), Assumes: b.Assumes(&c)}
	slope, err := OwnSlope(shots)
	switch {
	case errors.Is(err, ErrNoSlope):
		out.NoOwn = err.Error()[len("speed: "):]
	case err != nil:
		return nil, err
	default:
		m := slope.MPerMps * lostMps
		out.Own, out.OwnM = slope, &m
	}
	late, err := Fly(lateMps, b, &c)
	if err != nil {
		return nil, err
	}
	first, err := Fly(lateMps-lostMps, b, &c)
	if err != nil {
		return nil, err
	}
	out.ByFlight = late.CarryM - first.CarryM
	return out, nil
}

// line is a straight line by least squares with what its errors need.
type line struct {
	a, b, s    float64 // v = a + b·x, residual SD s
	sa, sb     float64 // standard errors
	mx, sxx, t float64 // mean and spread of x, t(0.975; n − 2)
	n, r2      float64
}

func leastSquares(xs, ys []float64) line {
	l := line{n: float64(len(xs)), mx: mean(xs)}
	l.a, l.b = stat.LinearRegression(xs, ys, nil, false)
	l.r2 = stat.RSquared(xs, ys, nil, l.a, l.b)
	var sse float64
	for i, x := range xs {
		d := ys[i] - l.a - l.b*x
		sse += d * d
		l.sxx += (x - l.mx) * (x - l.mx)
	}
	if l.n > 2 {
		l.s = math.Sqrt(sse / (l.n - 2))
		l.sb = l.s / math.Sqrt(l.sxx)
		l.sa = l.s * math.Sqrt(1/l.n+l.mx*l.mx/l.sxx)
		l.t = distuv.StudentsT{Mu: 0, Sigma: 1, Nu: l.n - 2}.Quantile(0.975)
	}
	return l
}

// at is the line at x with half its 95% band of the mean.
func (l line) at(x float64) (v, half float64) {
	return l.a + l.b*x, l.t * l.s * math.Sqrt(1/l.n+(x-l.mx)*(x-l.mx)/l.sxx)
}
