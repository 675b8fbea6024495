package forcefile

import (
	"errors"
	"fmt"
	"math"
	"slices"
	"strings"

	"dunnock/internal/core/force"
	si "dunnock/internal/core/unit"
)

// Quantity is what a channel measures.
type Quantity string

// The quantities. Fx, Fy and Fz stand for the file's own axes x, y and z.
const (
	Time   Quantity = "time"
	Impact Quantity = "impact" // a marker or trigger
	Fx     Quantity = "Fx"
	Fy     Quantity = "Fy"
	Fz     Quantity = "Fz"
	CoPx   Quantity = "CoPx"
	CoPy   Quantity = "CoPy"
	Tz     Quantity = "Tz"
)

// Quantities lists them.
var Quantities = []Quantity{Time, Impact, Fx, Fy, Fz, CoPx, CoPy, Tz}

func (q Quantity) dimension() string {
	switch q {
	case Time:
		return "time"
	case Fx, Fy, Fz:
		return "force"
	case CoPx, CoPy:
		return "length"
	case Tz:
		return "moment"
	}
	return ""
}

type unit struct {
	dimension string
	factor    float64 // to s, N, m, N·m
}

// dimensions are what plates measure, by the base unit.
var dimensions = map[si.Unit]string{si.Second: "time", si.Newton: "force", si.Metre: "length", si.NewtonMetre: "moment", si.Volt: "volt", si.Flag: "flag"}

// unitOf reads a unit as plates write it: to them a kilogram or a pound is a
// force.
func unitOf(s string) (unit, bool) {
	if strings.TrimSpace(s) == "" {
		return unit{}, false
	}
	u, err := si.Parse(s)
	if err != nil {
		return unit{}, false
	}
	switch u {
	case si.Kilogram:
		u = si.KilogramForce
	case si.Pound:
		u = si.PoundForce
	}
	base, k, _ := si.Base(u)
	d, ok := dimensions[base]
	return unit{d, k}, ok
}

// Column says what one channel of a file is.
type Column struct {
	Name     string      `json:"name"`
	Quantity Quantity    `json:"quantity"`
	Place    force.Place `json:"place,omitempty"`
	Unit     string      `json:"unit,omitempty"`
	Negate   bool        `json:"negate,omitempty"`
}

// Mapping says how the files of one source are read.
type Mapping struct {
	Source  string   `json:"source,omitempty"`
	Columns []Column `json:"columns,omitempty"`
	// Plates names the plates of a C3D file in its own order: lead, trail, left,
	// right, 1, 2, total, or - to leave one out.
	Plates []force.Place `json:"plates,omitempty"`
	RateHz float64       `json:"rateHz,omitempty"` // where the file has no time column, or a wrong one
	Frame  force.Frame   `json:"frame"`
}

// Guess proposes a mapping from the names of the channels.
func Guess(f *File) Mapping {
	var m Mapping
	if f.Kind == "c3d" {
		m.Frame = force.Frame{Laboratory: true, Target: "+x", Up: f.UpAxis}
		if strings.HasSuffix(string(f.UpAxis), "x") {
			m.Frame.Target = "+y"
		}
		for _, p := range f.Plates {
			m.Plates = append(m.Plates, p.Place)
		}
	}
	for _, c := range f.Channels {
		q, p, u := guessColumn(c)
		if q == "" || f.Kind == "c3d" && q != Impact {
			continue
		}
		m.Columns = append(m.Columns, Column{Name: c.Name, Quantity: q, Place: p, Unit: u})
	}
	m.Frame.OnPlate = m.pointsDown(f)
	return m
}

// pointsDown reports whether a text file plainly holds the force of the golfer
// on the plate: who stands on it presses down, so nearly all of the vertical
// force is below zero. (C3D files are turned as their plates are read.)
func (m Mapping) pointsDown(f *File) bool {
	sum, size, n := 0.0, 0.0, 0
	for _, col := range m.Columns {
		if col.Quantity != Fz {
			continue
		}
		i := slices.IndexFunc(f.Channels, func(c Channel) bool { return c.Name == col.Name })
		u, ok := unitOf(col.Unit)
		if !ok {
			u.factor = 1
		}
		for _, v := range f.Channels[i].Values {
			if !math.IsNaN(v) {
				sum, size, n = sum+v*u.factor, size+math.Abs(v*u.factor), n+1
			}
		}
	}
	const stoodOnN = 50 // on average, a plate somebody stands on
	return f.Kind != "c3d" && n > 0 && size/float64(n) > stoodOnN && sum < -0.8*size
}

// Recording makes the recording a file holds, read by the mapping, of a golfer
// who plays from a side. The file's channels are left as they are.
func (m Mapping) Recording(f *File, side force.Side) (*force.Recording, error) {
	plates, clock, err := m.plates(f)
	if err != nil {
		return nil, err
	}
	r, err := force.Gather(plates, m.Frame, side, clock.RateHz)
	if err != nil {
		return nil, m.whereErr(f, err)
	}
	r.StartS = clock.StartS
	if clock.Uneven {
		r.Note(force.Resampled, "Times were uneven: the recording was put on an even grid.")
	}
	if m.Frame.OnPlate {
		r.Note(force.OnPlate, "The file holds the force on the plate: it was turned round.")
	}
	r.Notes = append(r.Notes, f.Notes...)
	r.ImpactS, r.TopS = f.ImpactS, f.TopS
	m.marks(f, r, clock)
	return r, nil
}

// whereErr gives a gap its row.
func (m Mapping) whereErr(f *File, err error) error {
	var gap *force.GapError
	if errors.As(err, &gap) && f.FirstRow > 0 {
		return refuse("from row %d on, %d samples of a vertical force are missing in a row; at most %d are filled in", f.FirstRow+gap.Sample, gap.Samples, force.MaxGap)
	}
	return &Error{err.Error()}
}

// plates gathers the channels by plate, in SI units.
func (m Mapping) plates(f *File) ([]force.Plate, force.Clock, error) {
	clock := force.Clock{RateHz: f.RateHz}
	if f.Kind == "c3d" {
		if m.RateHz > 0 {
			clock.RateHz = m.RateHz
		}
		var out []force.Plate
		for i, p := range f.Plates {
			if i < len(m.Plates) {
				p.Place = m.Plates[i]
			}
			if p.Place == "-" {
				continue
			}
			// The channels are changed in place later on: they are copied.
			for k := range p.Force {
				p.Force[k], p.CoP[k] = slices.Clone(p.Force[k]), slices.Clone(p.CoP[k])
			}
			p.Free = slices.Clone(p.Free)
			out = append(out, p)
		}
		return out, clock, nil
	}
	var times []float64
	plates := map[force.Place]*force.Plate{}
	var order []force.Place
	type target struct {
		to  *[]float64
		at  Column
		val []float64
	}
	var targets []target
	for _, col := range m.Columns {
		i := slices.IndexFunc(f.Channels, func(c Channel) bool { return strings.EqualFold(c.Name, col.Name) })
		if i < 0 {
			return nil, clock, refuse("the file has no column %q, which the mapping names", col.Name)
		}
		values, err := inSI(f, col, f.Channels[i])
		if err != nil {
			return nil, clock, err
		}
		switch col.Quantity {
		case Time:
			if times != nil {
				return nil, clock, refuse("two columns are said to be the time")
			}
			times = values
			continue
		case Impact, "":
			continue
		}
		if !slices.Contains(Quantities, col.Quantity) {
			return nil, clock, refuse("column %q: %q is nothing a plate measures", col.Name, col.Quantity)
		}
		p := plates[col.Place]
		if p == nil {
			p = &force.Plate{Place: col.Place}
			plates[col.Place], order = p, append(order, col.Place)
		}
		to := map[Quantity]*[]float64{Fx: &p.Force[0], Fy: &p.Force[1], Fz: &p.Force[2], CoPx: &p.CoP[0], CoPy: &p.CoP[1], Tz: &p.Free}[col.Quantity]
		if *to != nil {
			return nil, clock, refuse("two columns are said to be %s of plate %s", col.Quantity, col.Place)
		}
		*to = values
		targets = append(targets, target{to, col, values})
	}
	if len(plates) == 0 {
		return nil, clock, refuse(
			"no column of a force plate was found. Columns are found by names like Fz_lead, Fz_trail or Fz; map them by hand otherwise. The file has: %s",
			f.names(),
		)
	}
	if times != nil {
		var err error
		if clock, err = force.CheckTime(times); err != nil {
			var te *force.TimeError
			if errors.As(err, &te) {
				return nil, clock, refuse("row %d: %s", f.FirstRow+te.Sample, te.Text)
			}
			return nil, clock, err
		}
		stated := m.RateHz
		if stated == 0 {
			stated = f.RateHz
		}
		if stated > 0 && math.Abs(clock.RateHz-stated) > 0.02*stated {
			return nil, clock, refuse("the time column runs at %.6g Hz, but %.6g Hz are stated: which is right? A time column in ms needs its unit", clock.RateHz, stated)
		}
	} else if m.RateHz > 0 {
		clock.RateHz = m.RateHz
	}
	if !(clock.RateHz >= 50 && clock.RateHz <= 20_000) {
		if clock.RateHz == 0 {
			return nil, clock, refuse("the sampling rate is not known: there is no time column and no rate above the header. Name the rate")
		}
		return nil, clock, refuse("a sampling rate of %.6g Hz is none a force plate has (50 to 20,000): is the unit of the time right?", clock.RateHz)
	}
	for _, t := range targets {
		if times != nil {
			*t.to = clock.Spread(times, t.val)
		}
	}
	out := make([]force.Plate, 0, len(order))
	for _, p := range order {
		out = append(out, *plates[p])
	}
	return out, clock, nil
}

// inSI returns a channel's values in s, N, m or N·m.
func inSI(f *File, col Column, c Channel) ([]float64, error) {
	name := col.Unit
	if name == "" {
		name = c.Unit
	}
	factor := 1.0
	want := col.Quantity.dimension()
	if name != "" && want != "" {
		u, ok := unitOf(name)
		if !ok || u.dimension != want {
			return nil, refuse("column %s: %q is no unit of %s", c.Name, name, want)
		}
		factor = u.factor
	} else if col.Quantity == Time && len(c.Values) > 2 && c.Values[1]-c.Values[0] >= 0.2 {
		factor = 1e-3 // no plate samples five times a second: these are ms
	}
	if col.Negate {
		factor = -factor
	}
	out := make([]float64, len(c.Values))
	for i, v := range c.Values {
		out[i] = v * factor
	}
	if factor == 1e-3 && col.Quantity == Time { // 0.001·3 is not 0.003; 3/1000 is
		for i, v := range c.Values {
			out[i] = v / 1000
		}
	}
	return out, nil
}

func (f *File) names() string {
	var b strings.Builder
	for i, c := range f.Channels {
		if i > 0 {
			b.WriteString(", ")
		}
		if b.Len() > 200 {
			b.WriteString("…")
			break
		}
		b.WriteString(c.Name)
	}
	return b.String()
}

// Check says what is wrong with a mapping before a file is read by it.
func (m Mapping) Check() error {
	if err := m.Frame.Check(); err != nil {
		return &Error{err.Error()}
	}
	if m.RateHz < 0 || m.RateHz > 20_000 {
		return refuse("a sampling rate of %g Hz is none a force plate has", m.RateHz)
	}
	seen := map[string]string{}
	for _, c := range m.Columns {
		if c.Quantity == "" || c.Quantity == Impact {
			continue
		}
		key := fmt.Sprintf("%s of %s", c.Quantity, c.Place)
		if c.Quantity == Time {
			key = "the time"
		}
		if other, ok := seen[key]; ok {
			return refuse("columns %q and %q are both said to be %s", other, c.Name, key)
		}
		seen[key] = c.Name
	}
	return nil
}
