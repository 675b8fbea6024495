package forcefile

import (
	"bufio"
	"bytes"
	"encoding/binary"
	"io"
	"math"
	"strconv"

	"dunnock/internal/core/force"
)

// csvNames are the columns of a foot in the order of force.ChannelNames.
var csvNames = map[string]string{"toTarget": "Fx", "toBall": "Fy", "up": "Fz", "copToTarget": "CoPx", "copToBall": "CoPy", "freeMoment": "Tz"}

// WriteCSV writes a recording as a tidy table: a header, a row of units, one row
// per sample. x points toward the target, y toward the ball; Read with no mapping
// gives the recording back. extra columns come last.
func WriteCSV(w io.Writer, r *force.Recording, extra ...force.Channel) error {
	bw := bufio.NewWriterSize(w, 1<<16)
	channels := r.Channels()
	head, units := "time", "s"
	for _, c := range channels {
		head += "," + csvNames[c.Name] + "_" + c.Foot
		units += "," + c.Unit
	}
	for _, c := range extra {
		head += "," + c.Name
		units += "," + c.Unit
	}
	if r.ImpactS != nil {
		head, units = head+",impact", units+","
	}
	_, _ = bw.WriteString(head + "\n" + units + "\n")
	impact := -1
	if r.ImpactS != nil {
		impact = int(math.Round(r.Sample(*r.ImpactS)))
	}
	var line []byte
	channels = append(channels, extra...)
	for i := range r.Len() {
		line = strconv.AppendFloat(line[:0], r.Time(float64(i)), 'f', 5, 64)
		for _, c := range channels {
			line = append(line, ',')
			decimals := 3
			if c.Unit == "m" {
				decimals = 5
			}
			if v := c.Values[i]; !math.IsNaN(v) {
				line = strconv.AppendFloat(line, v, 'f', decimals, 64)
			}
		}
		if impact >= 0 {
			line = append(line, ',', "01"[b2i(i == impact)])
		}
		if _, err := bw.Write(append(line, '\n')); err != nil {
			return err
		}
	}
	return bw.Flush()
}

// WriteSamples writes channels under their own names, in N, m and N·m, as a table
// with a time column that begins at 0; NaN is an empty cell.
func WriteSamples(w io.Writer, rateHz float64, names []string, channels [][]float64) error {
	bw := bufio.NewWriterSize(w, 1<<16)
	_, _ = bw.WriteString("time")
	for _, n := range names {
		_, _ = bw.WriteString("," + n)
	}
	_ = bw.WriteByte('\n')
	var line []byte
	for i := range channels[0] {
		line = strconv.AppendFloat(line[:0], float64(i)/rateHz, 'f', 6, 64)
		for _, x := range channels {
			line = append(line, ',')
			if !math.IsNaN(x[i]) {
				line = strconv.AppendFloat(line, x[i], 'g', 8, 64)
			}
		}
		if _, err := bw.Write(append(line, '\n')); err != nil {
			return err
		}
	}
	return bw.Flush()
}

// WriteC3D writes a recording of two feet, or of vertical forces alone, as a C3D
// file of floating-point numbers with two plates of type 2: x of the laboratory
// points toward the target, z up. It serves the stand-in plates and the tests.
func WriteC3D(w io.Writer, r *force.Recording, side force.Side) error {
	n := r.Len()
	names := []string{"Fx", "Fy", "Fz", "Mx", "My", "Mz"}
	var p params
	p.group(1, "POINT")
	p.ints(1, "USED", 0)
	p.texts(1, "UNITS", "mm")
	p.floats(1, "RATE", nil, r.RateHz)
	p.ints(1, "FRAMES", min(n, 65535))
	p.floats(1, "LONG_FRAMES", nil, float64(n))
	p.group(2, "ANALOG")
	p.ints(2, "USED", 12)
	p.floats(2, "RATE", nil, r.RateHz)
	p.floats(2, "GEN_SCALE", nil, 1)
	ones, zeros := make([]float64, 12), make([]int, 12)
	labels, units := make([]string, 12), make([]string, 12)
	channel := make([]int, 12)
	for k := range 12 {
		ones[k], channel[k] = 1, k+1
		labels[k] = names[k%6] + strconv.Itoa(k/6+1)
		if units[k] = "N"; k%6 > 2 {
			units[k] = "Nmm"
		}
	}
	p.floats(2, "SCALE", []int{12}, ones...)
	p.ints(2, "OFFSET", zeros...)
	p.texts(2, "LABELS", labels...)
	p.texts(2, "UNITS", units...)
	p.group(3, "FORCE_PLATFORM")
	p.ints(3, "USED", 2)
	p.ints(3, "TYPE", 2, 2)
	p.floats(3, "ORIGIN", []int{3, 2}, 0, 0, -40, 0, 0, -40)
	var corners []float64
	for _, x := range []float64{250, -250} {
		// Local x runs with the laboratory's, y against it, z down.
		corners = append(corners, x+200, -300, 0, x-200, -300, 0, x-200, 300, 0, x+200, 300, 0)
	}
	p.floats(3, "CORNERS", []int{3, 4, 2}, corners...)
	p.matrix(3, "CHANNEL", []int{6, 2}, channel)
	if r.ImpactS != nil {
		p.group(4, "EVENT")
		p.ints(4, "USED", 1)
		p.texts(4, "LABELS", "Impact")
		p.floats(4, "TIMES", []int{2, 1}, 0, *r.ImpactS)
	}
	body := p.bytes()
	head := make([]byte, block)
	head[0], head[1] = 2, 0x50
	le := binary.LittleEndian
	le.PutUint16(head[4:], 12)
	le.PutUint16(head[6:], 1)
	le.PutUint16(head[8:], uint16(min(n, 65535)))
	le.PutUint32(head[12:], math.Float32bits(-1))
	le.PutUint16(head[16:], uint16(2+len(body)/block))
	le.PutUint16(head[18:], 1)
	le.PutUint32(head[20:], math.Float32bits(float32(r.RateHz)))
	bw := bufio.NewWriterSize(w, 1<<16)
	_, _ = bw.Write(head)
	_, _ = bw.Write(body)
	toBall := -1.0 // the ball lies against y for golfers who play from the right
	if side == force.LeftSided {
		toBall = 1
	}
	var row [48]byte
	for i := range n {
		for k, f := range r.Feet() {
			for j, v := range typeTwo(f.Foot, i, 0.25-0.5*float64(k), toBall) {
				le.PutUint32(row[4*(6*k+j):], math.Float32bits(float32(v)))
			}
		}
		if _, err := bw.Write(row[:]); err != nil {
			return err
		}
	}
	return bw.Flush()
}

// typeTwo gives what a plate of type 2 measures of a foot: forces of the golfer
// on it in N and moments about its origin, 40 mm below the surface, in N·mm.
func typeTwo(f *force.Foot, i int, centre, toBall float64) [6]float64 {
	get := func(x []float64) float64 {
		if x == nil {
			return 0
		}
		return x[i]
	}
	// Local axes: x with the target, y against the laboratory's y, z down. The
	// plate feels what the golfer does to it.
	fx, fy, fz := -get(f.ToTargetN), get(f.ToBallN)*toBall, f.UpN[i]
	x, y := get(f.CoPToTargetM)-centre, -get(f.CoPToBallM)*toBall
	if f.CoPToTargetM == nil {
		x = 0
	}
	free := get(f.FreeMomentNm)
	if toBall > 0 {
		free = -free
	} // about the laboratory's z, of the ground on the golfer: about local z, of the golfer on the plate, twice turned
	const h = 0.04
	return [6]float64{fx, fy, fz, 1000 * (y*fz + h*fy), 1000 * (-h*fx - x*fz), 1000 * (free + x*fy - y*fx)}
}

// params builds the parameter section.
type params struct{ b bytes.Buffer }

func (p *params) entry(id int, name string, rest []byte) {
	p.b.WriteByte(byte(len(name)))
	p.b.WriteByte(byte(int8(id)))
	p.b.WriteString(name)
	_ = binary.Write(&p.b, binary.LittleEndian, uint16(2+len(rest)))
	p.b.Write(rest)
}

func (p *params) group(id int, name string) { p.entry(-id, name, []byte{0}) }

func (p *params) value(id int, name string, kind int8, dims []int, data []byte) {
	rest := []byte{byte(kind), byte(len(dims))}
	for _, d := range dims {
		rest = append(rest, byte(d))
	}
	p.entry(id, name, append(append(rest, data...), 0))
}

func (p *params) ints(id int, name string, v ...int) {
	dims := []int{len(v)}
	if len(v) == 1 {
		dims = nil
	}
	p.matrix(id, name, dims, v)
}

func (p *params) matrix(id int, name string, dims, v []int) {
	var data []byte
	for _, x := range v {
		data = binary.LittleEndian.AppendUint16(data, uint16(x))
	}
	p.value(id, name, 2, dims, data)
}

func (p *params) floats(id int, name string, dims []int, v ...float64) {
	var data []byte
	for _, x := range v {
		data = binary.LittleEndian.AppendUint32(data, math.Float32bits(float32(x)))
	}
	p.value(id, name, 4, dims, data)
}

func (p *params) texts(id int, name string, v ...string) {
	const width = 8
	var data []byte
	for _, s := range v {
		data = append(data, (s + "        ")[:width]...)
	}
	p.value(id, name, -1, []int{width, len(v)}, data)
}

// bytes closes the section: its own head, the entries, and zeros to a whole
// block.
func (p *params) bytes() []byte {
	blocks := (4 + p.b.Len() + 2 + block - 1) / block
	out := make([]byte, blocks*block)
	copy(out, []byte{1, 0x50, byte(blocks), 84})
	copy(out[4:], p.b.Bytes())
	return out
}
