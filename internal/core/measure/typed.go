package measure

import (
	"errors"
	"fmt"
	"regexp"
	"strconv"
	"strings"

	"dunnock/internal/core/unit"
)

// This file reads what people write into a cell: a number with or without its
// unit, with a point or a comma, feet and inches, a set of a lift, a swing of a
// ladder. What can be read in two ways is not guessed: the error offers both.

var (
	errEmpty = errors.New("the value is empty: type a number, or mark the trial stopped or skipped")
	plain    = regexp.MustCompile(`^[+-]?([0-9]+(\.[0-9]*)?|\.[0-9]+)$`)
	// thousands is a comma that may be a decimal one or set thousands apart.
	thousands = regexp.MustCompile(`^([1-9][0-9]{0,2}),([0-9]{3})$`)
	// withUnit is a number and what stands behind it.
	withUnit = regexp.MustCompile(`^([+-]?[0-9.,]*[0-9.,])\s*([^0-9.,+\-\s].*)$`)
	// feet is a length in feet and, where they are written, inches.
	feet = regexp.MustCompile(`(?i)^([0-9]+)\s*(?:'|ft\.?|feet|foot)\s*(?:([0-9]+(?:[.,][0-9]+)?)\s*(?:"|''|in\.?|inch|inches)?)?$`)
	// lift is load x repetitions, with or without what was left in reserve.
	lift = regexp.MustCompile(`(?i)^(.+?)\s*[x×*]\s*([0-9]+)\s*(?:reps?\b)?\s*[,;]?\s*(?:(?:@|rir|r)\s*=?\s*([0-9]+(?:[.,][0-9]+)?)|([0-9]+(?:[.,][0-9]+)?)\s*(?:in reserve|left|rir))?$`)
	rung = regexp.MustCompile(`(?i)^(.+?)\s*@\s*([0-9]+(?:[.,][0-9]+)?)\s*(?:g|gr|grams?)?$`)
	// primes are the signs typewriters and phones set for feet, inches and degrees.
	primes = strings.NewReplacer("−", "-", "′", "'", "’", "'", "‘", "'", "″", `"`, "”", `"`, "“", `"`, "º", "°", "˚", "°", "\u00a0", " ", "\u202f", " ")
)

// errTwice is a number that may be read in two ways.
type errTwice struct {
	text  string
	reads [2]string
}

func (e *errTwice) Error() string {
	return fmt.Sprintf("%q may be %s or %s: choose one", e.text, e.reads[0], e.reads[1])
}

// typed is a value as it was written: a number and its unit, which is the cell's
// own where none was written. Of two ways of reading it the one the test allows is
// taken; where it allows both, the error offers them.
func (c Cell) typed(t *Test, text string) (v float64, u unit.Unit, e *CellError) {
	text = strings.TrimSpace(primes.Replace(text))
	u, err := unit.Parse(c.Unit)
	if err != nil {
		return 0, "", bad("unit", "%v", err)
	}
	if m := feet.FindStringSubmatch(text); m != nil {
		ft, _ := strconv.ParseFloat(m[1], 64)
		in := 0.0
		if m[2] != "" {
			in, _ = strconv.ParseFloat(strings.Replace(m[2], ",", ".", 1), 64)
		}
		if in >= 12 {
			return 0, "", bad("value", "%q has %s inches: a foot has 12", clip(text, 30), m[2])
		}
		return 12*ft + in, unit.Inch, nil
	}
	if m := withUnit.FindStringSubmatch(text); m != nil {
		written := m[2]
		if written == `"` || written == "''" {
			written = "in"
		}
		if own, err := unit.Parse(written); err == nil && own != "" {
			text, u = m[1], own
		}
	}
	v, err = number(text, c.DecimalComma)
	var twice *errTwice
	switch {
	case errors.As(err, &twice):
		var possible []float64
		for _, read := range twice.reads {
			v, _ := strconv.ParseFloat(read, 64)
			if stored, err := unit.Convert(v, u, t.Unit); err == nil && within(stored, t.Impossible) {
				possible = append(possible, v)
			}
		}
		if len(possible) == 1 {
			return possible[0], u, nil
		}
		e := bad("value", "%v", err)
		e.Offers = twice.reads[:]
		return 0, "", e
	case err != nil:
		return 0, "", bad("value", "%v", err)
	}
	return v, u, nil
}

// number reads a plain decimal number. A comma is a decimal one unless it may set
// thousands apart (*errTwice); decimalComma says it is not. Exponents and
// everything else that could be read in two ways are refused.
func number(s string, decimalComma bool) (float64, error) {
	s = strings.TrimSpace(strings.ReplaceAll(s, "−", "-"))
	if s == "" {
		return 0, errEmpty
	}
	if strings.Contains(s, ",") {
		if strings.Contains(s, ".") || strings.Count(s, ",") > 1 {
			return 0, fmt.Errorf("%q has commas and points: write it without marks between the thousands", clip(s, 30))
		}
		if m := thousands.FindStringSubmatch(s); m != nil && !decimalComma {
			return 0, &errTwice{s, [2]string{m[1] + "." + m[2], m[1] + m[2]}}
		}
		s = strings.Replace(s, ",", ".", 1)
	}
	if len(s) > 20 || !plain.MatchString(s) {
		return 0, fmt.Errorf("%q is not a number", clip(s, 30))
	}
	v, err := strconv.ParseFloat(s, 64)
	if err != nil {
		return 0, fmt.Errorf("%q is not a number", s)
	}
	return v, nil
}

// other are the units a value may have been meant in where it is not possible in
// its own.
var other = map[unit.Unit][]unit.Unit{
	unit.Kilogram:       {unit.Pound},
	unit.Centimetre:     {unit.Inch, unit.Metre},
	unit.Metre:          {unit.Yard, unit.Centimetre},
	unit.MetrePerSecond: {unit.MilePerHour, unit.KilometrePerH},
}

// meant are ways of writing v that would be usual for the test: the same number
// in another unit. u is the unit it was read in.
func (t *Test) meant(v float64, u unit.Unit) []string {
	var out []string
	for _, o := range append([]unit.Unit{t.Unit}, other[t.Unit]...) {
		if o == u {
			continue
		}
		if stored, err := unit.Convert(v, o, t.Unit); err == nil && within(stored, t.Plausible) {
			out = append(out, unit.Compact(v, 2)+" "+string(o))
		}
	}
	return out
}

// Place names a cell before a coach's eyes: test, side and trial.
func (c Cell) Place(t *Test) string {
	parts := []string{t.Name}
	if t.Kind != Unsided {
		parts = append(parts, strings.ToLower(strings.TrimSpace(c.Side)))
	}
	if t.Trials > 1 {
		parts = append(parts, "trial "+strconv.Itoa(c.Trial))
	}
	return strings.Join(parts, ", ")
}
