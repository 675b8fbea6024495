package forcefile

import (
	"regexp"
	"strconv"
	"strings"
)

var (
	rateLine   = regexp.MustCompile(`(?i)(?:\brate\b|freq\w*|fréquence|frecuencia|abtastrate|\bfs\b)[^0-9]{0,40}?((?:\B-)?[0-9]+(?:[.,][0-9]+)?)\s*(k?hz)?`)
	notRate    = regexp.MustCompile(`(?i)filter|cut-?\s?off|low-?\s?pass|notch|mains|heart`)
	interval   = regexp.MustCompile(`(?i)(?:interval|period|\bdt\b)[^0-9]{0,20}?((?:\B-)?[0-9]+(?:[.,][0-9]+)?)\s*(ms|s)?\b`)
	hertz      = regexp.MustCompile(`(?i)((?:\B-)?[0-9]+(?:[.,][0-9]+)?)\s*(k?)hz\b`)
	impactLine = regexp.MustCompile(`(?i)\b(impact|top)\b[^0-9a-z-]{0,6}(?:time|at)?[^0-9a-z-]{0,6}([0-9]+(?:[.,][0-9]+)?)\s*(ms|s)?\b`)
	unitsLine  = regexp.MustCompile(`(?i)\bunits?\b\W*(.*)`)
	forceLine  = regexp.MustCompile(`(?i)\b(force|time|length|cop|moment|torque)\b[^a-z]*(?:unit)?s?[^a-z]*(kgf|kp|kn|n|lbf|ms|s|mm|cm|m|n\W?m|n\W?mm)\b`)
)

// readPreamble takes sampling rate and units from what stands above the header.
func (f *File) readPreamble() error {
	for _, line := range f.Preamble {
		if rate, ok := rateIn(line); ok && f.RateHz == 0 {
			if !(rate >= 10 && rate <= 100_000) {
				return refuse("the sampling rate of %g Hz above the header (“%.60s”) is none a force plate has: correct it there", rate, line)
			}
			f.RateHz = rate
		}
		if m := impactLine.FindStringSubmatch(line); m != nil {
			v := preambleNumber(m[2])
			if strings.EqualFold(m[3], "ms") {
				v /= 1000
			}
			if strings.EqualFold(m[1], "impact") {
				f.ImpactS = &v
			} else {
				f.TopS = &v
			}
		}
		if m := unitsLine.FindStringSubmatch(line); m != nil || forceLine.MatchString(line) {
			f.preambleUnits(line)
		}
	}
	return nil
}

// rateIn is the sampling rate in Hz a line above the header names, if it does.
func rateIn(line string) (rate float64, ok bool) {
	if notRate.MatchString(line) {
		return 0, false
	}
	if m := hertz.FindStringSubmatch(line); m != nil {
		if m[2] != "" {
			return 1000 * preambleNumber(m[1]), true
		}
		return preambleNumber(m[1]), true
	}
	if m := rateLine.FindStringSubmatch(line); m != nil {
		return preambleNumber(m[1]), true
	}
	if m := interval.FindStringSubmatch(line); m != nil {
		v := preambleNumber(m[1])
		if strings.EqualFold(m[2], "ms") {
			v /= 1000
		}
		return 1 / v, true
	}
	return 0, false
}

func preambleNumber(s string) float64 {
	v, _ := strconv.ParseFloat(strings.Replace(s, ",", ".", 1), 64)
	return v
}

// preambleUnits gives the units a line above the header names to the columns
// that have none.
func (f *File) preambleUnits(line string) {
	for _, word := range strings.FieldsFunc(line, func(r rune) bool { return strings.ContainsRune(" \t,;:|=\"[]()", r) }) {
		u, ok := unitOf(word)
		if !ok {
			continue
		}
		for i := range f.Channels {
			q, _, name := guessName(f.Channels[i].Name)
			if f.Channels[i].Unit == "" && name == "" && q != "" && q.dimension() == u.dimension {
				f.Channels[i].Unit = word
			}
		}
	}
}
