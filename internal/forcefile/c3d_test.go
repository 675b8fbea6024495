package forcefile_test

import (
	"bytes"
	"encoding/binary"
	"fmt"
	"math"
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dunnock/internal/core/force"
	"dunnock/internal/core/swing"
	"dunnock/internal/core/twoplates"
	"dunnock/internal/forcefile"
)

func c3dOf(t testing.TB, r *force.Recording, side force.Side) []byte {
	t.Helper()
	var b bytes.Buffer
	require.NoError(t, forcefile.WriteC3D(&b, r, side))
	return b.Bytes()
}

// A swing through a C3D file: forces, centre of pressure, free moments and the
// impact event come back in the golfer's frame, for both sides.
func TestC3DSwing(t *testing.T) {
	for _, side := range []force.Side{force.RightSided, force.LeftSided} {
		r, truth := twoplates.UsualSwing().Make(twoplates.Noise{})
		f, err := forcefile.Read(c3dOf(t, r, side))
		require.NoError(t, err)
		assert.Equal(t, "c3d", f.Kind)
		assert.Equal(t, force.Axis("+z"), f.UpAxis)
		got, err := forcefile.Guess(f).Recording(f, side)
		require.NoError(t, err)
		require.Equal(t, r.Len(), got.Len())
		assert.InDelta(t, truth.ImpactS, *got.ImpactS, 1e-6)
		want, have := r.Channels(), got.Channels()
		require.Len(t, have, len(want))
		for i := range want {
			assert.Equal(t, want[i].Foot+want[i].Name, have[i].Foot+have[i].Name)
			assert.InDeltaSlice(t, want[i].Values, have[i].Values, 0.01, "%s %s %s", side, want[i].Foot, want[i].Name)
		}
		a, err := swing.Analyse(r, swing.Settings{TopS: &truth.TopS})
		require.NoError(t, err)
		b, err := swing.Analyse(got, swing.Settings{TopS: &truth.TopS})
		require.NoError(t, err)
		assert.InDelta(t, a.Rotational.Peak, b.Rotational.Peak, 0.01, side)
		assert.Equal(t, a.Order, b.Order)
	}
}

// More frames than the header's 16 bits hold.
func TestLongC3D(t *testing.T) {
	up := make([]float64, 70_000)
	for i := range up {
		up[i] = 400
	}
	r := &force.Recording{RateHz: 2000, Lead: &force.Foot{UpN: up}, Trail: &force.Foot{UpN: up}}
	f, err := forcefile.Read(c3dOf(t, r, force.RightSided))
	require.NoError(t, err)
	assert.Equal(t, 70_000, f.Len())
	assert.InDelta(t, 2000, f.RateHz, 0)
}

// edit finds a parameter by its name in a written file and returns where its
// value begins.
func edit(t *testing.T, b []byte, name string) int {
	t.Helper()
	for i := range b {
		if bytes.HasPrefix(b[i:], []byte(name)) && i > 2 && int(b[i-2]) == len(name) {
			at := i + len(name) + 2 // past the offset
			return at + 2 + int(b[at+1])
		}
	}
	t.Fatalf("no %s", name)
	return 0
}

// Plates of other types: 4 is 2 with a calibration matrix, 3 has eight channels.
// Worked by hand: 800 N down at the point 0.05 m along x and 0.02 m along y of a
// plate whose transducers lie 0.12 and 0.2 m from the centre.
func TestOtherPlateTypes(t *testing.T) {
	r, _ := twoplates.UsualSwing().Make(twoplates.Noise{})
	two := c3dOf(t, r, force.RightSided)
	at := edit(t, two, "TYPE")
	one := bytes.Clone(two)
	binary.LittleEndian.PutUint16(one[at:], 1)
	_, err := forcefile.Read(one)
	assert.ErrorContains(t, err, "plate 1 of the C3D file is of type 1: types 2, 3 and 4 are read")
	four := bytes.Clone(two)
	binary.LittleEndian.PutUint16(four[at:], 4)
	_, err = forcefile.Read(four)
	assert.ErrorContains(t, err, "no calibration matrix")
	three := bytes.Clone(two)
	binary.LittleEndian.PutUint16(three[at:], 3)
	_, err = forcefile.Read(three)
	assert.ErrorContains(t, err, "names analog channel 0", "eight channels, six given")

	b := builder{plates: 1, kind: 3, channels: 8, origin: []float64{120, 200, -40}}
	// Fz1 … Fz4 sum up to 800; y from front to back, x from side to side:
	// b(Fz1+Fz2−Fz3−Fz4) = y·Fz, a(−Fz1+Fz2+Fz3−Fz4) = −x·Fz.
	const y, x = 0.02, 0.05
	front, side := y*800/0.2, x*800/0.12
	fz := [4]float64{200 + front/4 + side/4, 200 + front/4 - side/4, 200 - front/4 - side/4, 200 - front/4 + side/4}
	b.sample = []float64{0, 0, 0, 0, fz[0], fz[1], fz[2], fz[3]}
	f, err := forcefile.Read(b.bytes())
	require.NoError(t, err)
	require.Len(t, f.Plates, 1)
	p := f.Plates[0]
	assert.InDelta(t, 800, p.Force[2][5], 0.01)
	assert.InDelta(t, x, p.CoP[0][5], 1e-5)
	assert.InDelta(t, -y, p.CoP[1][5], 1e-5, "local y runs against the laboratory's")
	assert.InDelta(t, 0, p.Free[5], 1e-5)
	assert.Equal(t, force.Total, p.Place)

	// Type 4: the matrix doubles every channel.
	b = builder{plates: 1, kind: 4, channels: 6, origin: []float64{0, 0, -40}, sample: []float64{0, 0, 400, 0, 0, 0}, matrix: 2}
	f, err = forcefile.Read(b.bytes())
	require.NoError(t, err)
	assert.InDelta(t, 800, f.Plates[0].Force[2][3], 1e-6)

	// Integers: (raw − offset)·scale.
	b = builder{plates: 1, kind: 2, channels: 6, origin: []float64{0, 0, -40}, sample: []float64{0, 0, 800, 0, 0, 0}, integers: true}
	f, err = forcefile.Read(b.bytes())
	require.NoError(t, err)
	assert.InDelta(t, 800, f.Plates[0].Force[2][3], 0.3)
	assert.InDelta(t, 0, f.Plates[0].Force[0][3], 0.3)
}

// builder writes C3D files the writer does not: other plates, integers, points
// between the samples.
type builder struct {
	plates, kind, channels int
	origin, sample         []float64
	matrix                 float64
	integers               bool
	by                     byte    // processor: 84 when not said
	rate                   float64 // Hz: 1000 when not said
}

// order writes numbers as a processor does. The older float is that of IEEE of
// four times the number, with its two words changed round.
type order byte

func (o order) uint16(b []byte, v uint16) []byte {
	if o == 86 {
		return binary.BigEndian.AppendUint16(b, v)
	}
	return binary.LittleEndian.AppendUint16(b, v)
}

func (o order) float(b []byte, v float32) []byte {
	switch o {
	case 86:
		return binary.BigEndian.AppendUint32(b, math.Float32bits(v))
	case 85:
		bits := math.Float32bits(4 * v)
		return binary.LittleEndian.AppendUint16(binary.LittleEndian.AppendUint16(b, uint16(bits>>16)), uint16(bits))
	}
	return binary.LittleEndian.AppendUint32(b, math.Float32bits(v))
}

func (b builder) bytes() []byte {
	const frames, points = 10, 2
	o, rate := order(b.by), b.rate
	if rate == 0 {
		rate = 1000
	}
	var sec bytes.Buffer
	entry := func(id int, name string, rest []byte) {
		sec.WriteByte(byte(len(name)))
		sec.WriteByte(byte(int8(id)))
		sec.WriteString(name)
		sec.Write(o.uint16(nil, uint16(2+len(rest))))
		sec.Write(rest)
	}
	value := func(id int, name string, kind int8, dims []int, data ...float64) {
		rest := []byte{byte(kind), byte(len(dims))}
		for _, d := range dims {
			rest = append(rest, byte(d))
		}
		for _, v := range data {
			if kind == 2 {
				rest = o.uint16(rest, uint16(int16(v)))
			} else {
				rest = o.float(rest, float32(v))
			}
		}
		entry(id, name, append(rest, 0))
	}
	each := func(from, step float64) []float64 {
		out := make([]float64, b.channels)
		for i := range out {
			out[i] = from + step*float64(i)
		}
		return out
	}
	scale, offset := 1.0, 0.0
	if b.integers {
		scale, offset = 0.25, 2048
	}
	entry(-1, "ANALOG", []byte{0})
	value(1, "USED", 2, nil, float64(b.channels))
	value(1, "RATE", 4, nil, rate)
	value(1, "GEN_SCALE", 4, nil, 1)
	value(1, "SCALE", 4, []int{b.channels}, each(scale, 0)...)
	value(1, "OFFSET", 2, []int{b.channels}, each(offset, 0)...)
	entry(-2, "FORCE_PLATFORM", []byte{0})
	value(2, "USED", 2, nil, float64(b.plates))
	value(2, "TYPE", 2, []int{1}, float64(b.kind))
	value(2, "ORIGIN", 4, []int{3, 1}, b.origin...)
	value(2, "CORNERS", 4, []int{3, 4, 1}, 200, -300, 0, -200, -300, 0, -200, 300, 0, 200, 300, 0)
	value(2, "CHANNEL", 2, []int{b.channels, 1}, each(1, 1)...)
	if b.matrix != 0 {
		m := make([]float64, 36)
		for i := range 6 {
			m[7*i] = b.matrix
		}
		value(2, "CAL_MATRIX", 4, []int{6, 6, 1}, m...)
	}
	blocks := (sec.Len() + 6 + 511) / 512
	head := []byte{2, 0x50}
	for _, v := range []uint16{points, uint16(b.channels), 1, frames, 0} {
		head = o.uint16(head, v)
	}
	pointScale := float32(-1)
	if b.integers {
		pointScale = 0.1
	}
	head = o.float(head, pointScale)
	head = o.uint16(o.uint16(head, uint16(2+blocks)), 1)
	head = o.float(head, float32(rate))
	out := make([]byte, 512*(1+blocks))
	copy(out, head)
	copy(out[512:], []byte{1, 0x50, byte(blocks), max(b.by, 84)})
	copy(out[516:], sec.Bytes())
	put := func(v float64) {
		if b.integers {
			out = o.uint16(out, uint16(int16(v)))
		} else {
			out = o.float(out, float32(v))
		}
	}
	for range frames {
		for range 4 * points {
			put(7)
		}
		for _, v := range b.sample {
			if b.integers {
				v = math.Round(v/scale) + offset
			}
			put(v)
		}
	}
	return out
}

// The three kinds of processor, with integers and with floats, hold the same
// recording.
func TestC3DProcessors(t *testing.T) {
	for by, name := range map[byte]string{84: "little-endian", 85: "older float", 86: "big-endian"} {
		for _, integers := range []bool{false, true} {
			for _, kind := range []int{2, 4} {
				t.Run(fmt.Sprintf("%s, integers %t, type %d", name, integers, kind), func(t *testing.T) {
					b := builder{
						plates:   1,
						kind:     kind,
						channels: 6,
						origin:   []float64{0, 0, -40},
						sample:   []float64{-31.5, 12.25, 800, 0, 0, 0},
						matrix:   1,
						integers: integers,
						by:       by,
						rate:     1200,
					}
					f, err := forcefile.Read(b.bytes())
					require.NoError(t, err)
					assert.InDelta(t, 1200, f.RateHz, 0)
					require.Len(t, f.Plates, 1)
					p := f.Plates[0]
					assert.Len(t, p.Force[2], 10)
					assert.InDelta(t, 800, p.Force[2][9], 0)
					assert.InDelta(t, -31.5, f.Channels[0].Values[3], 0)
					assert.InDelta(t, 12.25, f.Channels[1].Values[3], 0)
				})
			}
		}
	}
	for _, rate := range []float64{-1200, 3} {
		_, err := forcefile.Read(builder{plates: 1, kind: 2, channels: 6, origin: []float64{0, 0, -40}, sample: make([]float64, 6), rate: rate}.bytes())
		assert.ErrorContains(t, err, fmt.Sprintf("analog rate of %g Hz", rate))
	}
}

// Pointers past the end and impossible counts are refused, by byte.
func TestHostileC3D(t *testing.T) {
	r, _ := twoplates.Usual().Make(twoplates.Noise{})
	good := c3dOf(t, r, force.RightSided)
	le := binary.LittleEndian
	with := func(change func(b []byte)) []byte {
		b := bytes.Clone(good)
		change(b)
		return b
	}
	for name, c := range map[string]struct {
		b    []byte
		want string
	}{
		"head only":           {good[:600], "no room"},
		"parameters past end": {with(func(b []byte) { b[0] = 60 })[:5000], "points to its parameters"},
		"no processor":        {with(func(b []byte) { b[512+3] = 7 }), "names processor 7"},
		"data past end":       {with(func(b []byte) { le.PutUint16(b[16:], 60000) }), "points to its data"},
		"cut off":             {good[:len(good)-4000], "is cut off"},
		"too many frames":     {with(func(b []byte) { le.PutUint16(b[8:], 65535); le.PutUint16(b[2:], 65535) }), "is cut off"},
		"no frames":           {with(func(b []byte) { le.PutUint16(b[6:], 9); le.PutUint16(b[8:], 2) }), "from frame 9 to frame 2"},
		"no analog":           {with(func(b []byte) { le.PutUint16(b[4:], 0) }), "no analog channels"},
		"counts disagree":     {with(func(b []byte) { le.PutUint16(b[4:], 13) }), "the file is damaged"},
		"a wild offset":       {with(func(b []byte) { le.PutUint16(b[512+4+2+5:], 40000) }), "points past the end of the parameters"},
	} {
		_, err := forcefile.Read(c.b)
		assert.ErrorContains(t, err, c.want, name)
	}
	for _, p := range []struct {
		name, want string
		value      uint16
	}{{"USED", "is damaged", 5000}, {"CHANNEL", "names analog channel", 900}} {
		b := bytes.Clone(good)
		at := edit(t, b, p.name)
		if p.name == "USED" { // of ANALOG: the second one
			at = edit(t, b[at:], p.name) + at
		}
		le.PutUint16(b[at:], p.value)
		_, err := forcefile.Read(b)
		assert.Error(t, err, p.name)
	}
	// Whatever is done to the file, it is answered.
	rng := rand.New(rand.NewPCG(5, 5))
	small := bytes.Clone(good[:20000])
	for range 3000 {
		b := bytes.Clone(small)
		for range 1 + rng.IntN(4) {
			b[rng.IntN(1600)] = byte(rng.IntN(256))
		}
		_, _ = forcefile.Read(b)
	}
}

func BenchmarkC3D(b *testing.B) {
	r, _ := twoplates.UsualSwing().Make(twoplates.Noise{})
	file := c3dOf(b, r, force.RightSided)
	b.SetBytes(int64(len(file)))
	b.ReportAllocs()
	for b.Loop() {
		if _, err := forcefile.Read(file); err != nil {
			b.Fatal(err)
		}
	}
}
