package forcefile

import (
	"encoding/binary"
	"math"
	"strconv"
	"strings"
)

// C3D files are blocks of 512 bytes: a header, a section of parameters in groups,
// then one record per frame with the 3D points and, behind them, the analog
// samples of that frame. Source: the public C3D user guide; layout from memory.
const block = 512

type c3d struct {
	b      []byte
	by     processor
	params map[string]param // GROUP:NAME
	// From the header.
	points, analogPerFrame, firstFrame, lastFrame, dataBlock, perFrame int
	scale                                                              float64
	frameRate                                                          float64
}

type param struct {
	kind byte // c text, b byte, i int16, f float
	dims []int
	data []byte // little-endian, whatever the file's processor
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

func (c *c3d) word(at int) int { return int(c.by.uint16(c.b[at:])) }

func (c *c3d) float(at int) float64 { return c.by.float(c.b[at:]) }

func (c *c3d) header() error {
	b := c.b
	if len(b) < 2*block {
		return refuse("the C3D file ends at byte %d: it has no room for its header and parameters", len(b))
	}
	at := (int(b[0]) - 1) * block
	if at < block || at+4 > len(b) {
		return refuse("the C3D file points to its parameters at byte %d, but has %d bytes", at+1, len(b))
	}
	if c.by = processor(b[at+3]); !c.by.known() {
		return refuse("byte %d of the C3D file names processor %d, which does not exist: the file is damaged", at+4, c.by)
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
	p.data = c.by.intel(c.b[at:at+total*size], size)
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
		return nil, 0, refuse(
			"the header of the C3D file says %d analog values a frame, its parameters %d channels of %d samples: the file is damaged",
			c.analogPerFrame,
			channels,
			c.perFrame,
		)
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
	if rate == 0 {
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
		at := start + frame*record + 4*c.points*size
		b := c.by.intel(c.b[at:at+len(out)*c.perFrame*size], size)
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
