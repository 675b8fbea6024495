package forcefile

import (
	"fmt"
	"math"

	"dunnock/internal/core/force"
)

// plates turns the channels of FORCE_PLATFORM into forces, centre of pressure
// and free moment in the laboratory frame.
func (c *c3d) plates(f *File) error {
	used := c.count("FORCE_PLATFORM:USED", 0)
	if used == 0 {
		return refuse("the C3D file describes no force plates (FORCE_PLATFORM:USED): export it with them")
	}
	if used > 8 {
		return refuse("the C3D file says it has %d force plates", used)
	}
	if used > 2 {
		f.Notes = append(f.Notes, fmt.Sprintf("The file has %d plates; the first two are taken unless the mapping says otherwise.", used))
	}
	width := 6
	if d := c.params["FORCE_PLATFORM:CHANNEL"].dims; len(d) > 0 {
		width = d[0]
	}
	names := []force.Place{force.First, force.Second}
	if used == 1 {
		names[0] = force.Total
	}
	up := map[force.Axis]int{}
	for k := range used {
		p := plate{kind: int(c.number("FORCE_PLATFORM:TYPE", k, 0))}
		if p.kind != 2 && p.kind != 3 && p.kind != 4 {
			return refuse("plate %d of the C3D file is of type %d: types 2, 3 and 4 are read", k+1, p.kind)
		}
		need := 6
		if p.kind == 3 {
			need = 8
		}
		for j := range need {
			ch := 0
			if j < width {
				ch = int(c.number("FORCE_PLATFORM:CHANNEL", k*width+j, 0))
			}
			if ch < 1 || ch > len(f.Channels) {
				return refuse("plate %d of the C3D file names analog channel %d of %d", k+1, ch, len(f.Channels))
			}
			p.in = append(p.in, f.Channels[ch-1])
		}
		if err := c.geometry(k, &p); err != nil {
			return err
		}
		out := p.laboratory()
		if out.Place = "-"; k < len(names) {
			out.Place = names[k]
		}
		up[p.up]++
		f.UpAxis = p.up
		f.Plates = append(f.Plates, out)
	}
	if len(up) > 1 {
		return refuse("the plates of the C3D file do not lie in one plane: their corners are wrong")
	}
	turnUp(f)
	return nil
}

// plate is one FORCE_PLATFORM.
type plate struct {
	kind       int
	in         []Channel
	matrix     []float64 // of type 4, by columns
	centre     [3]float64
	ex, ey, ez [3]float64 // its own axes in the laboratory; ez points down
	origin     [3]float64 // m
	up         force.Axis
}

// length is the factor of the file's lengths to m.
func (c *c3d) length() float64 {
	if u, ok := unitOf(c.text("POINT:UNITS")); ok && u.dimension == "length" {
		return u.factor
	}
	return 1e-3
}

func (c *c3d) geometry(k int, p *plate) error {
	m := c.length()
	var corner [4][3]float64
	for i := range 4 {
		for j := range 3 {
			v, ok := c.params["FORCE_PLATFORM:CORNERS"].number(k*12 + i*3 + j)
			if !ok || math.IsNaN(v) || math.IsInf(v, 0) {
				return refuse("the C3D file does not say where the corners of plate %d are", k+1)
			}
			corner[i][j] = v * m
			p.centre[j] += corner[i][j] / 4
		}
	}
	for j := range 3 {
		p.origin[j] = c.number("FORCE_PLATFORM:ORIGIN", k*3+j, 0) * m
		p.ex[j] = corner[0][j] + corner[3][j] - corner[1][j] - corner[2][j]
		p.ey[j] = corner[0][j] + corner[1][j] - corner[2][j] - corner[3][j]
	}
	if !unit3(&p.ex) || !unit3(&p.ey) {
		return refuse("the corners of plate %d in the C3D file are no plate's", k+1)
	}
	p.ez = cross(p.ex, p.ey)
	if !unit3(&p.ez) {
		return refuse("the corners of plate %d in the C3D file are no plate's", k+1)
	}
	for j, v := range p.ez {
		if math.Abs(v) > 0.9 {
			p.up = force.Axis([]string{"-", "+"}[b2i(v < 0)] + string(rune('x'+j)))
		}
	}
	if p.up == "" {
		return refuse("plate %d of the C3D file does not lie level: its corners are wrong", k+1)
	}
	if p.kind == 4 {
		for i := range 36 {
			v, ok := c.params["FORCE_PLATFORM:CAL_MATRIX"].number(k*36 + i)
			if !ok {
				return refuse("plate %d of the C3D file is of type 4 but has no calibration matrix", k+1)
			}
			p.matrix = append(p.matrix, v)
		}
	}
	return nil
}

func b2i(b bool) int {
	if b {
		return 1
	}
	return 0
}

func cross(a, b [3]float64) [3]float64 {
	return [3]float64{a[1]*b[2] - a[2]*b[1], a[2]*b[0] - a[0]*b[2], a[0]*b[1] - a[1]*b[0]}
}

func unit3(v *[3]float64) bool {
	n := math.Sqrt(v[0]*v[0] + v[1]*v[1] + v[2]*v[2])
	if !(n > 1e-6) {
		return false
	}
	for i := range v {
		v[i] /= n
	}
	return true
}

// si is the factor of a channel to N or N·m. Moments without a unit go by the
// file's lengths: N·mm where those are mm.
func (p *plate) si(j int) float64 {
	u, ok := unitOf(p.in[j].Unit)
	if ok && (u.dimension == "force" || u.dimension == "moment") {
		return u.factor
	}
	if j >= 3 && p.kind != 3 {
		return 1e-3
	}
	return 1
}

// laboratory turns the plate's channels into the laboratory frame. Local axes: x
// and y in the surface, z down. The moments are about the transducer's origin,
// which lies |origin z| below the surface.
func (p *plate) laboratory() force.Plate {
	n := len(p.in[0].Values)
	slab := make([]float64, 7*n)
	take := func() []float64 { s := slab[:n:n]; slab = slab[n:]; return s }
	out := force.Plate{Free: take()}
	for k := range 3 {
		out.Force[k] = take()
	}
	for k := range 3 {
		if k != int(p.up[1]-'x') {
			out.CoP[k] = take()
		}
	}
	factor := make([]float64, len(p.in))
	for j := range p.in {
		factor[j] = p.si(j)
	}
	h := math.Abs(p.origin[2])
	var raw [8]float64
	for i := range n {
		for j := range p.in {
			raw[j] = p.in[j].Values[i] * factor[j]
		}
		fx, fy, fz, mx, my, mz := p.local(raw)
		for k := range 3 {
			out.Force[k][i] = fx*p.ex[k] + fy*p.ey[k] + fz*p.ez[k]
		}
		if math.Abs(fz) < 10 {
			continue // nobody there: no point of pressure
		}
		x, y := -(my+h*fx)/fz, (mx-h*fy)/fz
		free := mz - x*fy + y*fx
		if p.kind != 3 {
			x, y = x-p.origin[0], y-p.origin[1]
		}
		for k := range 3 {
			if out.CoP[k] != nil {
				out.CoP[k][i] = p.centre[k] + x*p.ex[k] + y*p.ey[k]
			}
		}
		// The free moment stands about the plate's own z; kept about the axis of
		// the laboratory that runs along it.
		axis := int(p.up[1] - 'x')
		out.Free[i] = free * math.Copysign(1, p.ez[axis])
	}
	return out
}

// local gives the six components a plate measures.
func (p *plate) local(raw [8]float64) (fx, fy, fz, mx, my, mz float64) {
	switch p.kind {
	case 3: // Fx12 Fx34 Fy14 Fy23 Fz1 Fz2 Fz3 Fz4; origin holds the transducers' distances
		a, b := math.Abs(p.origin[0]), math.Abs(p.origin[1])
		fx, fy, fz = raw[0]+raw[1], raw[2]+raw[3], raw[4]+raw[5]+raw[6]+raw[7]
		mx = b * (raw[4] + raw[5] - raw[6] - raw[7])
		my = a * (-raw[4] + raw[5] + raw[6] - raw[7])
		mz = b*(-raw[0]+raw[1]) + a*(raw[2]-raw[3])
		return fx, fy, fz, mx, my, mz
	case 4:
		var v [6]float64
		for row := range 6 {
			for col := range 6 {
				v[row] += p.matrix[col*6+row] * raw[col]
			}
		}
		return v[0], v[1], v[2], v[3], v[4], v[5]
	}
	return raw[0], raw[1], raw[2], raw[3], raw[4], raw[5]
}

// turnUp makes the forces those of the ground on the golfer. Files differ in
// which they hold; a golfer stands on the plate, so their sum must point up.
func turnUp(f *File) {
	axis := int(f.UpAxis[1] - 'x')
	sum := 0.0
	for _, p := range f.Plates {
		for _, v := range p.Force[axis] {
			sum += v
		}
	}
	if f.UpAxis[0] == '-' {
		sum = -sum
	}
	if sum >= 0 {
		return
	}
	for _, p := range f.Plates {
		for _, x := range [][]float64{p.Force[0], p.Force[1], p.Force[2], p.Free} {
			for i := range x {
				x[i] = -x[i]
			}
		}
	}
	f.Notes = append(f.Notes, "The C3D file holds the force on the plates: it was turned round.")
}
