package speed

import (
	"cmp"
	"errors"
	"fmt"
	"slices"
)

// Point is the best speed with an implement.
type Point struct {
	MassG   float64 `json:"massG"`
	BestMps float64 `json:"bestMps"`
}

// At is the load–speed line at a mass, with its 95% band of the mean where there is one.
type At struct {
	MassG float64   `json:"massG"`
	Mps   float64   `json:"mps"`
	Band  *Interval `json:"band,omitempty"`
}

// Profile is how a golfer's best speed falls with the mass swung.
type Profile struct {
	Points     []Point   `json:"points"`     // by mass
	MpsPerKg   float64   `json:"mpsPerKg"`   // slope
	AtZeroMps  float64   `json:"-"`          // of the line; an extrapolation that means nothing
	Slope      *Interval `json:"slope"`      // 95%, from three implements on
	ResidualSD float64   `json:"residualSd"` // m/s
	R2         float64   `json:"r2"`
	Line       []At      `json:"line"`
	Emphasis   string    `json:"emphasis"` // what it asks for, or why it says nothing
	l          line
}

// Steeper than this share of the own driver's speed a tenth of its mass, and force is
// what is short; flatter than the other, and speed; ours.
const (
	steep = 0.035
	flat  = 0.015
)

// ProfileOf is the load–speed line by least squares through the best speeds with at
// least two masses; from three on it has a band. Equal masses are refused. driverG is the
// own driver's mass.
func ProfileOf(points []Point, driverG float64) (*Profile, error) {
	points = slices.Clone(points)
	slices.SortFunc(points, func(a, b Point) int { return cmp.Compare(a.MassG, b.MassG) })
	if len(points) < 2 {
		return nil, errors.New("speed: a load–speed line wants best speeds with two masses at least")
	}
	xs, ys := make([]float64, len(points)), make([]float64, len(points))
	for i, p := range points {
		if !(p.MassG >= 50 && p.MassG <= 3000) {
			return nil, fmt.Errorf("speed: an implement weighs 50 to 3,000 g, not %g", p.MassG)
		}
		if err := CheckSpeed(p.BestMps); err != nil {
			return nil, err
		}
		if i > 0 && p.MassG == points[i-1].MassG {
			return nil, fmt.Errorf("speed: two implements of %g g: a line wants different masses", p.MassG)
		}
		xs[i], ys[i] = p.MassG/1000, p.BestMps
	}
	l := leastSquares(xs, ys)
	out := &Profile{Points: points, MpsPerKg: l.b, AtZeroMps: l.a, ResidualSD: l.s, R2: l.r2, l: l}
	if len(points) > 2 {
		out.Slope = &Interval{l.b - l.t*l.sb, l.b + l.t*l.sb}
	}
	lo, hi := points[0].MassG, points[len(points)-1].MassG
	for k := range 9 {
		out.Line = append(out.Line, out.At(lo+(hi-lo)*float64(k)/8))
	}
	out.Emphasis = out.emphasis(driverG)
	return out, nil
}

// At is the line at a mass in g.
func (p *Profile) At(massG float64) At {
	v, half := p.l.at(massG / 1000)
	out := At{MassG: massG, Mps: v}
	if len(p.Points) > 2 {
		out.Band = &Interval{v - half, v + half}
	}
	return out
}

func (p *Profile) emphasis(driverG float64) string {
	switch {
	case p.MpsPerKg > 0:
		return "The heavier was swung faster: that is unlikely. Test both again."
	case len(p.Points) == 2:
		return "Two implements make a line, but say nothing of its error: a third would."
	}
	fall := -p.MpsPerKg * driverG / 1000 / 10 / p.At(driverG).Mps
	words := fmt.Sprintf("A tenth more mass costs %.1f%% of speed", 100*fall)
	switch {
	case p.Slope.High > 0:
		return words + ", give or take more than that: the line is too unsure to say what to train."
	case fall > steep:
		return words + ": speed falls fast with load, so force is what to train."
	case fall < flat:
		return words + ": load hardly slows it, so speed is what to train."
	}
	return words + ": speed and force are in proportion."
}

// Share of ceiling: what of the fastest swing a cruising one uses.
type Share struct {
	Pct   float64 `json:"pct"`
	Words string  `json:"words"`
}

// ShareOf says what share of the ceiling, which is above 0, a cruising swing uses; bands
// are ours.
func ShareOf(cruiseMps, ceilingMps float64) Share {
	s := Share{Pct: 100 * cruiseMps / ceilingMps}
	switch {
	case s.Pct > 100:
		s.Words = "the cruising swing was the faster, so no full swing was made"
	case s.Pct > 96:
		s.Words = "little in reserve, so more ceiling is the only way to more speed"
	case s.Pct > 92:
		s.Words = "some in reserve"
	case s.Pct >= 88:
		s.Words = "comfortable"
	default:
		s.Words = "a large reserve that is not being used"
	}
	return s
}
