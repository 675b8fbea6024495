package formats

import (
	"regexp"
	"strconv"
	"strings"

	"dunnock/internal/core/measure"
	"dunnock/internal/core/unit"
)

var headerWords = map[string]string{
	"golfer": "golfer", "name": "golfer", "athlete": "golfer", "player": "golfer",
	"birth date": "birthDate", "birthdate": "birthDate", "date of birth": "birthDate", "born": "birthDate",
	"sex": "sex", "playing side": "playingSide", "playingside": "playingSide", "plays": "playingSide", "date": "date", "day": "date",
	"test": "test", "side": "side", "trial": "trial", "value": "value", "result": "value", "unit": "unit", "status": "status", "variant": "variant",
	"pain": "pain", "region": "region", "note": "note", "tester": "tester", "device": "device",
	"sleep": DaySleep, "hours slept": DaySleep, "sleep hours": DaySleep, "resting heart rate": DayHeartRate, "resting hr": DayHeartRate, "heart rate": DayHeartRate,
	"daily mass": DayMass, "daily weight": DayMass, "morning mass": DayMass, "morning weight": DayMass,
}

var unitInHeader = regexp.MustCompile(`[(\[]([^)\]]+)[)\]]`)

// unitOfHeader is the unit a column is headed with, in brackets or as its last
// word, or "".
func unitOfHeader(h string) unit.Unit {
	text := strings.ToLower(h)
	if x := unitInHeader.FindStringSubmatch(text); x != nil {
		if u, err := unit.Parse(x[1]); err == nil {
			return u
		}
	}
	words := headerParts(text)
	if len(words) < 2 {
		return ""
	}
	switch last := words[len(words)-1]; last {
	case "m", "s", "n", "v", "w", "in", "min", "rep", "reps": // words and sides too
		return ""
	default:
		u, err := unit.Parse(last)
		if err != nil {
			return ""
		}
		return u
	}
}

func headerParts(text string) []string {
	return strings.FieldsFunc(text, func(r rune) bool { return strings.ContainsRune(" _-.,", r) })
}

// Guess proposes a mapping from the header and the first rows: what it is not
// sure of is left out for the coach to say.
func Guess(t *Table, b *measure.Battery) Mapping {
	m := Mapping{Source: "", Decimal: ".", Dates: DateFormats[0], Columns: make([]MappingColumn, len(t.Header))}
	taken := map[MappingColumn]bool{}
	for i, h := range t.Header {
		c := guessColumn(h, b)
		if c.Field == "" {
			m.Columns[i] = c
			continue
		}
		if taken[MappingColumn{Field: c.Field, Test: c.Test, Side: c.Side, Trial: c.Trial}] {
			continue
		}
		taken[MappingColumn{Field: c.Field, Test: c.Test, Side: c.Side, Trial: c.Trial}] = true
		m.Columns[i] = c
	}
	m.Decimal, m.Dates = guessWriting(t, m.Columns)
	return m
}

func guessColumn(h string, b *measure.Battery) MappingColumn {
	text := strings.ToLower(h)
	u := string(unitOfHeader(h))
	text = strings.TrimSpace(unitInHeader.ReplaceAllString(text, " "))
	words := strings.Join(strings.FieldsFunc(text, func(r rune) bool { return r == ' ' || r == '_' || r == '-' || r == '.' || r == '/' || r == ',' }), " ")
	if f, ok := headerWords[words]; ok {
		if f == DayMass {
			return MappingColumn{Field: f, Unit: u}
		}
		return MappingColumn{Field: f}
	}
	var best *measure.Test
	rest := ""
	for i := range b.Tests() {
		t := &b.Tests()[i]
		if t.Rule == measure.Derived {
			continue
		}
		for _, name := range []string{strings.ReplaceAll(t.ID, "-", " "), strings.ToLower(strings.NewReplacer(",", "", "-", " ", ":", "").Replace(t.Name))} {
			after, ok := strings.CutPrefix(words+" ", name+" ")
			if ok && (best == nil || len(after) < len(rest)) {
				best, rest = t, after
			}
		}
	}
	// What the header says of the unit is kept for when the test is said by hand.
	unknown := MappingColumn{Unit: u}
	if best == nil {
		return unknown
	}
	c := MappingColumn{Field: Measure, Test: best.ID, Trial: 1, Unit: u}
	for _, w := range strings.Fields(rest) {
		if n, err := strconv.Atoi(w); err == nil {
			c.Trial = n
		} else if best.HasSide(measure.Side(w)) && w != "" {
			c.Side = w
		}
	}
	if best.Kind != measure.Unsided && c.Side == "" || c.Trial < 1 || c.Trial > best.Trials {
		return unknown
	}
	return c
}

// guessWriting looks at the first rows: a comma in a number and the shape of
// the dates. Dates with slashes that may be read two ways are left for the coach to
// say.
func guessWriting(t *Table, columns []MappingColumn) (decimal, dates string) {
	decimal, dates = ".", DateFormats[0]
	number := regexp.MustCompile(`^-?[0-9]+,[0-9]+$`)
	slashes, dayFirst, monthFirst := false, false, false
	for _, row := range t.Rows[:min(len(t.Rows), 50)] {
		for i, c := range columns {
			if i >= len(row.Cells) {
				break
			}
			switch s := row.Cells[i]; {
			case c.Field == "value" || c.Field == Measure:
				if number.MatchString(s) {
					decimal = ","
				}
			case c.Field == "date" || c.Field == "birthDate":
				if strings.Contains(s, ".") && !serial.MatchString(s) {
					dates = "DD.MM.YYYY"
				}
				if p := strings.Split(s, "/"); len(p) == 3 {
					slashes = true
					first, _ := strconv.Atoi(p[0])
					second, _ := strconv.Atoi(p[1])
					dayFirst, monthFirst = dayFirst || first > 12, monthFirst || second > 12
				}
			}
		}
	}
	switch {
	case slashes && dayFirst && !monthFirst:
		dates = "DD/MM/YYYY"
	case slashes && monthFirst && !dayFirst:
		dates = "MM/DD/YYYY"
	case slashes:
		dates = ""
	}
	return decimal, dates
}
