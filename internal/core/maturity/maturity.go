// Package maturity estimates how far a junior is from peak height velocity, the
// fastest point of the growth spurt. Both published equations are estimates: off
// by about half a year, more at the extremes, and pulled toward the mean
// (Kozieł & Malina 2018). One reading is never a gate on its own.
package maturity

import "errors"

// ErrInputs is returned when an input is outside what the equations were made
// for.
var ErrInputs = errors.New("maturity: needs a boy or girl of 8 to 18 with height, sitting height and mass")

// Offset is years from peak height velocity, negative before it.
type Offset struct {
	Mirwald float64 // Mirwald et al. 2002, Med Sci Sports Exerc 34(4):689-694
	Moore   float64 // Moore et al. 2015, Med Sci Sports Exerc 47(8):1755-1764
	// HeightOnly says that sitting height was missing: then there is no Mirwald
	// estimate, and Moore's is the one that goes by standing height.
	HeightOnly bool
}

// ErrorYears is the standard error of the estimate stated with the equations
// (0.57 to 0.59 years), rounded up.
const ErrorYears = 0.6

// Estimate returns the offset from age in years, standing and sitting height in
// cm and body mass in kg. Sex is "male" or "female". Without a sitting height
// (0) the result is Moore's equation by standing height alone.
func Estimate(sex string, age, height, sitting, mass float64) (Offset, error) {
	if sitting == 0 && age >= 8 && age <= 18 && height > 0 {
		switch sex {
		case "male":
			return Offset{Moore: -7.999994 + 0.0036124*age*height, HeightOnly: true}, nil
		case "female":
			return Offset{Moore: -7.709133 + 0.0042232*age*height, HeightOnly: true}, nil
		}
	}
	if age < 8 || age > 18 || height <= 0 || sitting <= 0 || sitting >= height || mass <= 0 {
		return Offset{}, ErrInputs
	}
	leg := height - sitting
	ratio := 100 * mass / height // kg per m: forgetting the 100 shifts the result by years
	switch sex {
	case "male":
		return Offset{
			Mirwald: -9.236 + 0.0002708*leg*sitting - 0.001663*age*leg + 0.007216*age*sitting + 0.02292*ratio,
			Moore:   -8.128741 + 0.0070346*age*sitting,
		}, nil
	case "female":
		return Offset{
			Mirwald: -9.376 + 0.0001882*leg*sitting + 0.0022*age*leg + 0.005841*age*sitting - 0.002658*age*mass + 0.07693*ratio,
			Moore:   -7.709133 + 0.0042232*age*height,
		}, nil
	}
	return Offset{}, ErrInputs
}

// NearSpurt reports whether either equation puts the golfer within a year of
// peak height velocity.
func (o Offset) NearSpurt() bool {
	near := func(v float64) bool { return v >= -1 && v <= 1 }
	return !o.HeightOnly && near(o.Mirwald) || near(o.Moore)
}
