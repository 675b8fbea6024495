package plan

import (
	"fmt"
	"math"
	"regexp"
	"strconv"
	"strings"

	"dunnock/internal/core/library"
	"dunnock/internal/core/programme"
	"dunnock/internal/core/unit"
)

// Typed is a dose as a coach types it. What was not typed is nil.
type Typed struct {
	Sets, Times *int
	Amount      *int  // of a set: repetitions, or seconds where Held is set
	Held        *bool // whether the amount was typed as seconds
	EachSide    bool
	Reserve     *int
	Kg          *float64
	Intent      *int
	Rest        *int // seconds
}

var (
	typedSets  = regexp.MustCompile(`^(\d{1,3})(?:x(\d{1,3}))?(?:x(\d{1,3}))?(s|sec)?(/side)?$`)
	typedKg    = regexp.MustCompile(`^(\d{1,4}(?:\.\d{1,3})?)(kg|lb|lbs)$`)
	typedShare = regexp.MustCompile(`^(\d{1,3})%$`)
	typedRest  = regexp.MustCompile(`^(\d{1,4})(s|sec|min)?$`)
	typedJoins = regexp.MustCompile(`\s*([x×*])\s*|\s+(kg|lbs?|%|s|sec|min|/\s*side|each side|a side)\b|@\s+`)
)

// longestTyped is how long a typed dose may be, in bytes.
const longestTyped = 80

// ParseDose reads a dose as it is typed into a cell: sets and repetitions, then whatever
// else there is to say, in any order.
//
//	4x6 @2            four sets of six, two left in reserve
//	3x8/side 22.5kg   each side, with a load
//	3x30s  3x5x10s    holds of thirty seconds; five holds of ten a set
//	5x3 90%           swings at ninety percent of full
//	4x6 rest 120      or rest 2min
//	@3   60kg         only the reserve; only the load
//
// The error is an *EditError that says what of it is not understood.
func ParseDose(text string) (*Typed, error) {
	wrong := func(format string, args ...any) error { return refuse("text", format, args...) }
	if len(text) > longestTyped {
		return nil, wrong("a dose is at most %d characters long", longestTyped)
	}
	plain := strings.ToLower(strings.TrimSpace(strings.ReplaceAll(text, ",", ".")))
	plain = typedJoins.ReplaceAllStringFunc(plain, func(m string) string {
		m = strings.ReplaceAll(strings.TrimSpace(m), " ", "")
		switch m {
		case "×", "*":
			return "x"
		case "eachside", "aside":
			return "/side"
		}
		return m
	})
	t := &Typed{}
	words := strings.Fields(plain)
	if len(words) == 0 {
		return nil, wrong("type a dose: 4x6 @2, or 3x8/side 22.5kg")
	}
	for i := 0; i < len(words); i++ {
		w := words[i]
		var err error
		switch {
		case w == "rest" && i+1 < len(words):
			i++
			err = t.rest(words[i])
		case strings.HasPrefix(w, "@"):
			err = t.reserve(w[1:])
		case typedKg.MatchString(w):
			m := typedKg.FindStringSubmatch(w)
			kg, _ := strconv.ParseFloat(m[1], 64)
			if m[2] != "kg" {
				kg, _ = unit.Convert(kg, unit.Pound, unit.Kilogram)
			}
			kg = unit.Round(kg, 2)
			err = once(&t.Kg, kg, "the load")
		case typedShare.MatchString(w):
			err = once(&t.Intent, number(typedShare.FindStringSubmatch(w)[1]), "the intent")
		case typedSets.MatchString(w):
			err = t.sets(typedSets.FindStringSubmatch(w), w)
		default:
			err = fmt.Errorf("%q is not understood", w)
		}
		if err != nil {
			return nil, wrong("%v: type it like 4x6 @2, 3x8/side 22.5kg, 3x30s, 5x3 90%% or rest 120", err)
		}
	}
	return t, nil
}

func number(s string) int {
	n, err := strconv.Atoi(s)
	if err != nil {
		return math.MaxInt32
	}
	return n
}

// once sets what is not set yet.
func once[T any](at **T, v T, what string) error {
	if *at != nil {
		return fmt.Errorf("%s is given twice", what)
	}
	*at = &v
	return nil
}

func (t *Typed) reserve(s string) error {
	n, err := strconv.Atoi(s)
	if err != nil {
		return fmt.Errorf("%q behind @ is no number left in reserve", s)
	}
	return once(&t.Reserve, n, "the reserve")
}

func (t *Typed) rest(s string) error {
	m := typedRest.FindStringSubmatch(s)
	if m == nil {
		return fmt.Errorf("%q is no rest", s)
	}
	n := number(m[1])
	if m[2] == "min" {
		n *= 60
	}
	return once(&t.Rest, n, "the rest")
}

func (t *Typed) sets(m []string, w string) error {
	held := m[4] != ""
	switch {
	case m[2] == "" && (held || m[5] != ""):
		return fmt.Errorf("%q has no sets before it", w)
	case m[3] != "" && !held:
		return fmt.Errorf("%q: three numbers are sets, holds a set and seconds: end it with s", w)
	}
	if err := once(&t.Sets, number(m[1]), "the number of sets"); err != nil {
		return err
	}
	t.EachSide = m[5] != ""
	switch {
	case m[3] != "":
		times, amount := number(m[2]), number(m[3])
		t.Times, t.Amount, t.Held = &times, &amount, &held
	case m[2] != "":
		amount := number(m[2])
		t.Amount, t.Held = &amount, &held
	}
	return nil
}

// For is what was typed as a change of a dose; the error says what of it the dose has not.
func (t *Typed) For(d programme.Dose) (*DosePatch, error) {
	out := &DosePatch{Sets: t.Sets, RestSeconds: t.Rest}
	two := d.Sides == library.OneSided || d.Sides == library.Directional
	held := d.Unit == library.Seconds
	switch {
	case t.EachSide && !two:
		return nil, fmt.Errorf("it is done with both sides at once: leave /side out")
	case t.Amount != nil && held && !*t.Held:
		return nil, fmt.Errorf("it is held: type seconds, like 3x30s")
	case t.Amount != nil && !held && *t.Held:
		return nil, fmt.Errorf("it is counted, not held: leave the s out")
	case t.Times != nil && d.Times == 0:
		return nil, fmt.Errorf("a set of it is one hold: type sets and seconds, like 3x30s")
	case t.Reserve != nil && d.Reserve == nil:
		return nil, fmt.Errorf("nothing is left in reserve here: leave the @ out")
	case t.Intent != nil && d.Unit != library.Swings:
		return nil, fmt.Errorf("only swings have an intent: leave the %% out")
	case t.Kg != nil && d.BallKg == 0 && d.Reserve == nil:
		return nil, fmt.Errorf("it has no load: leave the kg out")
	}
	if held {
		out.Seconds, out.Times = t.Amount, t.Times
	} else {
		out.Reps = t.Amount
	}
	out.Reserve, out.IntentPercent = t.Reserve, t.Intent
	if d.BallKg > 0 {
		out.BallKg = t.Kg
	} else {
		out.LoadKg = t.Kg
	}
	return out, nil
}
