// Package norm holds published reference tables and the percentile arithmetic
// on them. Where no table fits the golfer's age, sex or method, it says so.
package norm

import (
	_ "embed"
	"encoding/json"
	"math"

	"gonum.org/v1/gonum/stat/distuv"
)

const kgPerPound = 0.45359237

// Reference is a mean and a spread for people like this one, in kg.
type Reference struct {
	Mean, SD float64
	Source   string
}

// Percentile returns 100·Φ(z), the share of a normal population below z.
func Percentile(z float64) float64 { return 100 * distuv.UnitNormal.CDF(z) }

// Z returns the standard score of v.
func (r Reference) Z(v float64) float64 { return (v - r.Mean) / r.SD }

//go:embed grip.json
var gripJSON []byte

type gripTable struct {
	Source string `json:"source"`
	Mark   string `json:"mark"`
	Rows   []struct {
		From   int        `json:"from"`
		To     int        `json:"to"`
		Male   [4]float64 `json:"male"`   // right mean, SD, left mean, SD in pounds
		Female [4]float64 `json:"female"` // the same
	} `json:"rows"`
}

var grip = func() (g gripTable) {
	if err := json.Unmarshal(gripJSON, &g); err != nil {
		panic("norm: grip.json: " + err.Error())
	}
	return g
}()

// Grip returns the reference for the mean of three squeezes of one hand, in
// kg. It is false under 20, and when the sex is left out: the table gives
// values by age, sex and hand only.
func Grip(age int, sex string, rightHand bool) (Reference, bool) {
	for _, row := range grip.Rows {
		if age < row.From || age > row.To {
			continue
		}
		var v [4]float64
		switch sex {
		case "male":
			v = row.Male
		case "female":
			v = row.Female
		default:
			return Reference{}, false
		}
		i := 2
		if rightHand {
			i = 0
		}
		return Reference{Mean: v[i] * kgPerPound, SD: v[i+1] * kgPerPound, Source: grip.Source + " (" + grip.Mark + ")"}, true
	}
	return Reference{}, false
}

// Clamp limits v to [lo, hi].
func Clamp(v, lo, hi float64) float64 { return math.Max(lo, math.Min(hi, v)) }
