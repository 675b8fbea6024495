// Package unit holds the units of the job: exact conversion factors, the units
// a result may be typed in, and the rounding used before numbers are compared
// or written. Everything inside the program is stored in the unit of its test
// (kg, cm, m, deg, m/s, reps); other units exist only at the edges.
package unit

import (
	"fmt"
	"math"
	"slices"
	"strconv"
	"strings"
)

// Unit is a unit of measurement as it is written beside a number.
type Unit string

// The units results are stored in, and those a coach may type instead.
const (
	Kilogram       Unit = "kg"
	Pound          Unit = "lb"
	Centimetre     Unit = "cm"
	Inch           Unit = "in"
	Metre          Unit = "m"
	Yard           Unit = "yd"
	Foot           Unit = "ft"
	Degree         Unit = "deg"
	MetrePerSecond Unit = "m/s"
	MilePerHour    Unit = "mph"
	KilometrePerH  Unit = "km/h"
	Repetition     Unit = "reps"
	Second         Unit = "s"
	Millisecond    Unit = "ms"
	Millimetre     Unit = "mm"
	KilogramPerSec Unit = "kg/s"
	Newton         Unit = "N"
	Watt           Unit = "W"
	Percent        Unit = "%"
	Ratio          Unit = "ratio"
	BodyWeight     Unit = "BW"     // force over body weight
	NewtonMetreKg  Unit = "N·m/kg" // moment over body mass
)

// Units only files are written in.
const (
	Microsecond    Unit = "µs"
	Minute         Unit = "min"
	Kilonewton     Unit = "kN"
	KilogramForce  Unit = "kgf"
	PoundForce     Unit = "lbf"
	NewtonMetre    Unit = "N·m"
	NewtonMillim   Unit = "N·mm"
	NewtonCentim   Unit = "N·cm"
	KilonewtonMet  Unit = "kN·m"
	KilogramForceM Unit = "kgf·m"
	Volt           Unit = "V"
	Flag           Unit = "bool"
)

// Exact by definition (international yard and pound, 1959).
const (
	kilogramsPerPound = 0.45359237
	metresPerYard     = 0.9144
	metresPerMile     = 1609.344
	// Newtons: standard gravity times a kilogram, and times a pound.
	newtonsPerKilogram = 9.80665
	newtonsPerPound    = 4.4482216152605
)

// factors maps a unit to its base unit and how many base units it holds.
var factors = map[Unit]struct {
	base Unit
	k    float64
}{
	Kilogram: {Kilogram, 1}, Pound: {Kilogram, kilogramsPerPound},
	Metre: {Metre, 1}, Centimetre: {Metre, 0.01}, Inch: {Metre, 0.0254}, Yard: {Metre, metresPerYard}, Foot: {Metre, metresPerYard / 3},
	MetrePerSecond: {MetrePerSecond, 1}, MilePerHour: {MetrePerSecond, metresPerMile / 3600}, KilometrePerH: {MetrePerSecond, 1 / 3.6},
	Degree: {Degree, 1}, Repetition: {Repetition, 1}, Millimetre: {Metre, 0.001}, Second: {Second, 1}, Millisecond: {Second, 0.001},
	KilogramPerSec: {KilogramPerSec, 1}, Newton: {Newton, 1}, Watt: {Watt, 1}, Percent: {Percent, 1}, Ratio: {Ratio, 1},
	BodyWeight: {BodyWeight, 1}, NewtonMetreKg: {NewtonMetreKg, 1},
	Microsecond: {Second, 1e-6}, Minute: {Second, 60},
	Kilonewton: {Newton, 1e3}, KilogramForce: {Newton, newtonsPerKilogram}, PoundForce: {Newton, newtonsPerPound},
	NewtonMetre: {
		NewtonMetre,
		1,
	}, NewtonMillim: {NewtonMetre, 1e-3}, NewtonCentim: {NewtonMetre, 1e-2}, KilonewtonMet: {NewtonMetre, 1e3}, KilogramForceM: {NewtonMetre, newtonsPerKilogram},
	Volt: {Volt, 1}, Flag: {Flag, 1},
}

// stored are the units a test may keep its results in.
var stored = []Unit{
	Kilogram,
	Pound,
	Centimetre,
	Inch,
	Metre,
	Yard,
	Degree,
	MetrePerSecond,
	MilePerHour,
	KilometrePerH,
	Repetition,
	Second,
	Millisecond,
	Millimetre,
	KilogramPerSec,
	Newton,
	Watt,
	Percent,
	Ratio,
	BodyWeight,
	NewtonMetreKg,
}

// spellings are how units are written, without blanks, points, dots and hyphens.
var spellings = map[string]Unit{
	"": "", "kg": Kilogram, "kgs": Kilogram, "kilogram": Kilogram, "kilograms": Kilogram, "lb": Pound, "lbs": Pound, "pound": Pound, "pounds": Pound,
	"cm": Centimetre, "in": Inch, "inch": Inch, "inches": Inch, "m": Metre, "yd": Yard, "yds": Yard, "yard": Yard, "yards": Yard, "ft": Foot, "foot": Foot, "feet": Foot, "mm": Millimetre,
	"deg": Degree, "°": Degree, "degree": Degree, "degrees": Degree, "m/s": MetrePerSecond, "mps": MetrePerSecond, "mph": MilePerHour, "km/h": KilometrePerH, "kmh": KilometrePerH, "kph": KilometrePerH,
	"reps": Repetition, "rep": Repetition, "repetitions": Repetition,
	"s": Second, "sec": Second, "secs": Second, "second": Second, "seconds": Second, "ms": Millisecond, "msec": Millisecond, "us": Microsecond, "min": Minute,
	"kg/s": KilogramPerSec, "n": Newton, "newton": Newton, "newtons": Newton, "kn": Kilonewton, "kgf": KilogramForce, "kp": KilogramForce, "lbf": PoundForce,
	"nm": NewtonMetre, "nmm": NewtonMillim, "ncm": NewtonCentim, "knm": KilonewtonMet, "kgfm": KilogramForceM,
	"w": Watt, "%": Percent, "ratio": Ratio, "bw": BodyWeight, "nm/kg": NewtonMetreKg, "v": Volt, "bool": Flag,
}

var marks = strings.NewReplacer("·", "", "*", "", ".", "", " ", "", "-", "", "⋅", "", "µ", "u", "μ", "u")

// Known reports whether u is a unit results may be stored in.
func Known(u Unit) bool {
	return slices.Contains(stored, u)
}

// Base returns the unit a unit is a multiple of, and how many of those it holds.
func Base(u Unit) (base Unit, k float64, ok bool) {
	f, ok := factors[u]
	return f.base, f.k, ok
}

// Parse reads a unit in one of its usual spellings. An empty text is the empty
// Unit, which means the test's own.
func Parse(s string) (Unit, error) {
	u, ok := spellings[marks.Replace(strings.ToLower(strings.TrimSpace(s)))]
	if !ok {
		return "", fmt.Errorf("unit %q is not known: use kg, lb, mm, cm, in, m, yd, deg, m/s, mph, km/h, s, ms, kg/s, N, W, %% or reps", s)
	}
	return u, nil
}

// Convert returns v, given in from, in the unit to.
func Convert(v float64, from, to Unit) (float64, error) {
	if from == to || from == "" {
		return v, nil
	}
	f, okF := factors[from]
	t, okT := factors[to]
	if !okF || !okT || f.base != t.base {
		return 0, fmt.Errorf("%s cannot be read as %s", from, to)
	}
	return v * f.k / t.k, nil
}

// Round returns v rounded half away from zero to the given decimals. Numbers
// are rounded this way before they are compared or written.
func Round(v float64, decimals int) float64 {
	p := math.Pow10(decimals)
	r := math.Round(v*p+math.Copysign(1e-9, v)) / p
	if r == 0 {
		return 0 // never -0
	}
	return r
}

// Text writes v with exactly the given decimals: 80.0.
func Text(v float64, decimals int) string {
	var buf [24]byte
	return string(AppendText(buf[:0], v, decimals))
}

// AppendText is Text into b.
func AppendText(b []byte, v float64, decimals int) []byte {
	n := math.Round(v*math.Pow10(decimals) + math.Copysign(1e-9, v))
	if decimals < 0 || !(math.Abs(n) < 1e15) {
		return strconv.AppendFloat(b, Round(v, decimals), 'f', decimals, 64)
	}
	if n < 0 {
		b = append(b, '-')
	}
	start := len(b)
	b = strconv.AppendInt(b, int64(math.Abs(n)), 10)
	if decimals == 0 {
		return b
	}
	for len(b)-start <= decimals {
		b = slices.Insert(b, start, '0')
	}
	return slices.Insert(b, len(b)-decimals, '.')
}

// Compact writes v with at most the given decimals, dropping trailing zeros:
// 82.5, 80.
func Compact(v float64, decimals int) string {
	return strconv.FormatFloat(Round(v, decimals), 'f', -1, 64)
}

// Words writes v with its unit, at most two decimals: 184.5 cm, 38°.
func Words(v float64, u Unit) string {
	if u == Degree {
		return Compact(v, 2) + "°"
	}
	return strings.TrimRight(Compact(v, 2)+" "+string(u), " ")
}

// Preference is how the coach likes quantities shown. What is left out is shown as
// it is stored.
type Preference struct {
	Speed    Unit `json:"speed"`              // of Speeds
	Mass     Unit `json:"mass,omitempty"`     // of Masses: bodies, grips and lifts
	Length   Unit `json:"length,omitempty"`   // of Lengths: what is kept in cm, such as the height of a jump
	Distance Unit `json:"distance,omitempty"` // of Distances: what is kept in m, such as a throw
}

// The units a coach may choose between, the stored one first but for speed.
var (
	Speeds    = []Unit{MilePerHour, MetrePerSecond}
	Masses    = []Unit{Kilogram, Pound}
	Lengths   = []Unit{Centimetre, Inch}
	Distances = []Unit{Metre, Foot}
)

// Default is the preference of a new practice.
var Default = Preference{Speed: MilePerHour, Mass: Kilogram, Length: Centimetre, Distance: Metre}

// Shown returns the unit in which results stored in u are shown.
func (p Preference) Shown(u Unit) Unit {
	shown := u
	switch u {
	case MetrePerSecond:
		shown = p.Speed
	case Kilogram:
		shown = p.Mass
	case Centimetre:
		shown = p.Length
	case Metre:
		shown = p.Distance
	}
	if shown == "" {
		return u
	}
	return shown
}

// Quantity writes v, stored in u, in the shown unit with its symbol.
func (p Preference) Quantity(v float64, u Unit, decimals int) string {
	var buf [32]byte
	return string(p.Append(buf[:0], v, u, decimals))
}

// Append is Quantity into b.
func (p Preference) Append(b []byte, v float64, u Unit, decimals int) []byte {
	shown := p.Shown(u)
	if shown != u {
		if c, err := Convert(v, u, shown); err == nil {
			v = c
		}
	}
	if u == MetrePerSecond || shown != u {
		decimals = 1 // kept finer than it is shown, so that it comes back as typed
	}
	b = AppendText(b, v, decimals)
	switch shown {
	case Degree:
		return append(b, "°"...)
	case Percent:
		return append(b, '%')
	case Ratio:
		return b
	}
	return append(append(b, ' '), shown...)
}
