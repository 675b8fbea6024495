package forcefile

import (
	"encoding/binary"
	"fmt"
	"math"
	"strconv"
	"strings"

	"dunnock/internal/core/force"
)

// C3D files are blocks of 512 bytes: a header, a section of parameters in groups,
// then one record per frame with the 3D points and, behind them, the analog
// samples of that frame. Source: the public C3D user guide; layout from memory.
const block = 512

type c3d struct {
	b      []byte
	params map[string]param // GROUP:NAME
	// From the header.
	points, analogPerFrame, firstFrame, lastFrame, dataBlock, perFrame int
	scale                                                              float64
	frameRate                                                          float64
}

type param struct {
	kind byte // c text, b byte, i int16, f float
	dims []int
	data []byte
}

func readC3D(b []byte) (*File, error) {
	c := &c3d{b: b, params: map[string]param{}}
	if err := c.header(); err != nil {
		return nil, err
	}
	if err := c.parameters(); err != nil {
		return nil, err
	}
	channels, rate, err := c.analog()
	if err != nil {
		return nil, err
	}
	f := &File{Kind: "c3d", RateHz: rate, Channels: channels, UpAxis: "+z"}
	if err := c.plates(f); err != nil {
		return nil, err
	}
	c.events(f)
	return f, nil
}

func (c *c3d) word(at int) int { return int(binary.LittleEndian.Uint16(c.b[at:])) }

func (c *c3d) float(at int) float64 {
	return float64(math.Float32frombits(binary.LittleEndian.Uint32(c.b[at:])))
}

func (c *c3d) header() error {
	b := c.b
	if len(b) < 2*block {
		return refuse("the C3D file ends at byte %d: it has no room for its header and parameters", len(b))
	}
	at := (int(b[0]) - 1) * block
	if at < block || at+4 > len(b) {
		return refuse("the C3D file points to its parameters at byte %d, but has %d bytes", at+1, len(b))
	}
	switch processor := b[at+3]; processor {
	case 84:
	case 85:
		return refuse("the C3D file is written for DEC processors: only Intel byte order is read. Convert it")
	case 86:
		return refuse("the C3D file is written for MIPS processors: only Intel byte order is read. Convert it")
	default:
		return refuse("byte %d of the C3D file names processor %d, which does not exist: the file is damaged", at+4, processor)
	}
	c.points, c.analogPerFrame = c.word(2), c.word(4)
	c.firstFrame, c.lastFrame = c.word(6), c.word(8)
	c.scale = c.float(12)
	c.dataBlock, c.perFrame = c.word(16), c.word(18)
	c.frameRate = c.float(20)
	return nil
}

// parameters reads the groups. Every offset is checked against the file's end.
func (c *c3d) parameters() error {
	at := (int(c.b[0]) - 1) * block
	end := min(len(c.b), at+max(1, int(c.b[at+2]))*block)
	at += 4
	groups := map[int]string{}
	type loose struct {
		group int
		name  string
		p     param
	}
	var found []loose
	for at+2 <= end {
		size, id := int(int8(c.b[at])), int(int8(c.b[at+1]))
		if size < 0 {
			size = -size // the name is locked
		}
		if size == 0 || id == 0 {
			break
		}
		next := at + 2 + size
		if next+2 > end {
			return refuse("a parameter's name at byte %d of the C3D file goes past the end of the section", at+1)
		}
		name := strings.ToUpper(strings.TrimSpace(string(c.b[at+2 : next])))
		jump := c.word(next)
		switch {
		case jump != 0 && (jump < 2 || next+jump > end):
			return refuse("byte %d of the C3D file points past the end of the parameters", next+1)
		case id < 0:
			groups[-id] = name
		default:
			p, err := c.param(next+2, end, name)
			if err != nil {
				return err
			}
			found = append(found, loose{id, name, p})
		}
		if jump == 0 {
			break
		}
		at = next + jump
	}
	for _, l := range found {
		c.params[groups[l.group]+":"+l.name] = l.p
	}
	return nil
}

func (c *c3d) param(at, end int, name string) (param, error) {
	if at+2 > end {
		return param{}, refuse("parameter %s at byte %d of the C3D file is cut off", name, at+1)
	}
	kind, size := byte(0), 1
	switch int8(c.b[at]) {
	case -1:
		kind = 'c'
	case 1:
		kind = 'b'
	case 2:
		kind, size = 'i', 2
	case 4:
		kind, size = 'f', 4
	default:
		return param{}, refuse("parameter %s at byte %d of the C3D file has a type that does not exist", name, at+1)
	}
	n := int(c.b[at+1])
	at += 2
	if n > 7 || at+n > end {
		return param{}, refuse("parameter %s at byte %d of the C3D file has %d dimensions", name, at, n)
	}
	p := param{kind: kind}
	total := 1
	for _, d := range c.b[at : at+n] {
		p.dims = append(p.dims, int(d))
		total *= int(d)
		if total > maxValues {
			return param{}, refuse("parameter %s at byte %d of the C3D file is impossibly large", name, at+1)
		}
	}
	at += n
	if at+total*size > end {
		return param{}, refuse("parameter %s at byte %d of the C3D file goes past the end of the section", name, at+1)
	}
	p.data = c.b[at : at+total*size]
	return p, nil
}

// number returns element i of a numeric parameter. Integers are unsigned where
// a count is meant.
func (p param) number(i int) (float64, bool) {
	switch p.kind {
	case 'b':
		if i < len(p.data) {
			return float64(p.data[i]), true
		}
	case 'i':
		if 2*i+2 <= len(p.data) {
			return float64(int16(binary.LittleEndian.Uint16(p.data[2*i:]))), true
		}
	case 'f':
		if 4*i+4 <= len(p.data) {
			return float64(math.Float32frombits(binary.LittleEndian.Uint32(p.data[4*i:]))), true
		}
	}
	return 0, false
}

func (c *c3d) number(name string, i int, otherwise float64) float64 {
	if v, ok := c.params[name].number(i); ok {
		return v
	}
	return otherwise
}

// count is number for what cannot be negative.
func (c *c3d) count(name string, otherwise int) int {
	p := c.params[name]
	if p.kind == 'i' && len(p.data) >= 2 {
		return int(binary.LittleEndian.Uint16(p.data))
	}
	return int(c.number(name, 0, float64(otherwise)))
}

func (c *c3d) texts(name string) []string {
	p := c.params[name]
	if p.kind != 'c' || len(p.dims) == 0 || p.dims[0] == 0 {
		return nil
	}
	var out []string
	for at := 0; at+p.dims[0] <= len(p.data); at += p.dims[0] {
		out = append(out, strings.TrimSpace(string(p.data[at:at+p.dims[0]])))
	}
	return out
}

func (c *c3d) text(name string) string {
	if t := c.texts(name); len(t) > 0 {
		return t[0]
	}
	return ""
}

// analog reads the analog channels in their own units.
func (c *c3d) analog() ([]Channel, float64, error) {
	channels := c.count("ANALOG:USED", 0)
	switch {
	case channels == 0 || c.analogPerFrame == 0:
		return nil, 0, refuse("the C3D file holds no analog channels, so no force: export it with the plates' channels")
	case channels > maxChans:
		return nil, 0, refuse("the C3D file says it has %d analog channels: at most %d are read", channels, maxChans)
	case c.perFrame < 1 || channels*c.perFrame != c.analogPerFrame:
		return nil, 0, refuse("the header of the C3D file says %d analog values a frame, its parameters %d channels of %d samples: the file is damaged", c.analogPerFrame, channels, c.perFrame)
	case c.lastFrame < c.firstFrame:
		return nil, 0, refuse("the C3D file goes from frame %d to frame %d", c.firstFrame, c.lastFrame)
	}
	frames := c.frames()
	size := 2
	if c.scale < 0 {
		size = 4
	}
	if frames*c.analogPerFrame > maxValues {
		return nil, 0, refuse("the C3D file promises %d frames of %d values: cut the recording to a minute or less", frames, c.analogPerFrame)
	}
	record := (4*c.points + c.analogPerFrame) * size
	start := (c.dataBlock - 1) * block
	if c.dataBlock < 2 || start > len(c.b) {
		return nil, 0, refuse("the C3D file points to its data at byte %d, but has %d bytes", start+1, len(c.b))
	}
	if need := start + frames*record; need > len(c.b) {
		return nil, 0, refuse("the C3D file ends at byte %d, but its %d frames need %d bytes: it is cut off", len(c.b), frames, need)
	}
	rate := c.number("ANALOG:RATE", 0, 0)
	if rate <= 0 {
		rate = c.number("POINT:RATE", 0, c.frameRate) * float64(c.perFrame)
	}
	if !(rate >= 50 && rate <= 20_000) {
		return nil, 0, refuse("the C3D file names an analog rate of %g Hz, which is none a force plate has", rate)
	}
	out := c.label(channels, frames*c.perFrame)
	c.samples(out, frames, size, record, start)
	for k := range out {
		for i, v := range out[k].Values {
			if math.IsNaN(v) || math.IsInf(v, 0) {
				return nil, 0, refuse("sample %d of channel %s in the C3D file is no number", i+1, out[k].Name)
			}
		}
	}
	return out, rate, nil
}

// frames is how many there are. The header's 16 bits are short for long
// recordings; the parameters say it then, in one of three ways.
func (c *c3d) frames() int {
	frames := max(c.lastFrame-c.firstFrame+1, c.count("POINT:FRAMES", 0), int(c.number("POINT:LONG_FRAMES", 0, 0)))
	start, end := c.params["TRIAL:ACTUAL_START_FIELD"], c.params["TRIAL:ACTUAL_END_FIELD"]
	if len(start.data) >= 4 && len(end.data) >= 4 && start.kind == 'i' && end.kind == 'i' {
		first, last := binary.LittleEndian.Uint32(start.data), binary.LittleEndian.Uint32(end.data)
		if last >= first && last-first < maxValues {
			frames = max(frames, int(last-first)+1)
		}
	}
	return frames
}

func (c *c3d) label(channels, samples int) []Channel {
	labels, units := c.texts("ANALOG:LABELS"), c.texts("ANALOG:UNITS")
	slab := make([]float64, channels*samples)
	out := make([]Channel, channels)
	for k := range out {
		out[k] = Channel{Name: "channel " + strconv.Itoa(k+1), Values: slab[k*samples : (k+1)*samples : (k+1)*samples]}
		if k < len(labels) && labels[k] != "" {
			out[k].Name = labels[k]
		}
		if k < len(units) {
			out[k].Unit = units[k]
		}
	}
	return out
}

// samples turns the records into channels: (raw − offset) · scale · general
// scale.
func (c *c3d) samples(out []Channel, frames, size, record, start int) {
	general := c.number("ANALOG:GEN_SCALE", 0, 1)
	unsigned := strings.EqualFold(c.text("ANALOG:FORMAT"), "UNSIGNED")
	scale, offset := make([]float64, len(out)), make([]float64, len(out))
	for k := range out {
		scale[k] = c.number("ANALOG:SCALE", k, 1) * general
		offset[k] = c.number("ANALOG:OFFSET", k, 0)
		if unsigned && offset[k] < 0 {
			offset[k] += 65536
		}
	}
	le := binary.LittleEndian
	for frame := range frames {
		b := c.b[start+frame*record+4*c.points*size:]
		for s := range c.perFrame {
			i := frame*c.perFrame + s
			row := b[s*len(out)*size : (s+1)*len(out)*size]
			switch {
			case size == 4:
				for k := range out {
					v := float64(math.Float32frombits(le.Uint32(row[4*k:])))
					out[k].Values[i] = (v - offset[k]) * scale[k]
				}
			case unsigned:
				for k := range out {
					out[k].Values[i] = (float64(le.Uint16(row[2*k:])) - offset[k]) * scale[k]
				}
			default:
				for k := range out {
					out[k].Values[i] = (float64(int16(le.Uint16(row[2*k:]))) - offset[k]) * scale[k]
				}
			}
		}
	}
}

// events takes impact and top from the file's own events.
func (c *c3d) events(f *File) {
	labels, times := c.texts("EVENT:LABELS"), c.params["EVENT:TIMES"]
	for i, l := range labels {
		minutes, ok1 := times.number(2 * i)
		seconds, ok2 := times.number(2*i + 1)
		if !ok1 || !ok2 {
			continue
		}
		// Event times count from frame 1 of the trial.
		t := 60*minutes + seconds - float64(c.firstFrame-1)/max(c.number("POINT:RATE", 0, c.frameRate), 1)
		switch l = strings.ToLower(l); {
		case strings.Contains(l, "impact"):
			f.ImpactS = &t
		case l == "top" || strings.Contains(l, "top of"):
			f.TopS = &t
		}
	}
}

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
