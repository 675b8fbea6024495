package sheets

import (
	"regexp"
	"slices"
	"strconv"
	"strings"

	"dunnock/internal/core/civil"
	"dunnock/internal/core/label"
	"dunnock/internal/core/measure"
	"dunnock/internal/formats/table"
)

// headerWords are the headings of what is no result. Common practice, no source.
var headerWords = map[string]string{
	"golfer": Golfer, "golfers": Golfer, "name": Golfer, "names": Golfer, "full name": Golfer, "athlete": Golfer, "athlete name": Golfer, "player": Golfer, "players": Golfer, "player name": Golfer,
	"golfer name": Golfer, "client": Golfer, "client name": Golfer, "student": Golfer, "who": Golfer,
	"first name": FirstName, "first": FirstName, "forename": FirstName, "given name": FirstName, "last name": LastName, "last": LastName, "surname": LastName, "family name": LastName,
	"birth date": BirthDate, "birthdate": BirthDate, "date of birth": BirthDate, "born": BirthDate, "dob": BirthDate, "d o b": BirthDate, "birthday": BirthDate,
	"sex": "sex", "gender": "sex", "m f": "sex",
	"playing side": PlayingSide, "playingside": PlayingSide, "plays": PlayingSide, "handed": PlayingSide, "handedness": PlayingSide, "lh rh": PlayingSide, "rh lh": PlayingSide,
	"date": Date, "day": Date, "test date": Date, "date tested": Date, "date of test": Date, "tested": Date, "tested on": Date, "session date": Date, "when": Date, "screen date": Date,
	"test": "test", "tests": "test", "exercise": "test", "measure": "test", "measurement": "test", "what": "test", "metric": "test", "test name": "test",
	"side": "side", "l r": "side", "r l": "side", "left right": "side", "limb": "side", "trial": "trial", "attempt": "trial", "rep": "trial", "try": "trial", "trial no": "trial",
	"value": "value", "result": "value", "results": "value", "score": "value", "reading": "value", "unit": "unit", "units": "unit", "status": "status", "variant": "variant",
	"pain": "pain", "region": "region", "note": "note", "notes": "note", "comment": "note", "comments": "note", "remarks": "note", "tester": "tester", "tested by": "tester", "device": "device",
	"sleep": DaySleep, "hours slept": DaySleep, "sleep hours": DaySleep, "resting heart rate": DayHeartRate, "resting hr": DayHeartRate, "heart rate": DayHeartRate,
	"daily mass": DayMass, "daily weight": DayMass, "morning mass": DayMass, "morning weight": DayMass,
}

var inBrackets = regexp.MustCompile(`[(\[][^)\]]*[)\]]`)

// fieldOf is the field a heading names, or "".
func fieldOf(heading string) string {
	words := func(s string) string {
		return strings.Join(strings.FieldsFunc(strings.ToLower(s), func(r rune) bool { return strings.ContainsRune(" _-./,:\u00a0\n", r) }), " ")
	}
	if f, ok := headerWords[words(heading)]; ok {
		return f
	}
	return headerWords[words(inBrackets.ReplaceAllString(heading, " "))]
}

// Guess proposes a mapping from the header and the rows: what it is not sure of is
// left for the coach to say, what is only near is marked.
func Guess(t *table.Table, x *Labels) Mapping {
	m := Mapping{Decimal: ".", Columns: make([]MappingColumn, len(t.Header))}
	taken := map[string]bool{}
	var before label.Label
	for i, h := range t.Header {
		c, l := column(h, before, x, t)
		if l.Test != nil {
			before = label.Label{Test: l.Test, Near: l.Near, Unit: l.Unit}
		}
		c = settle(c, l, taken)
		key := c.key()
		if key == "" || !taken[key] {
			taken[key] = true
			m.Columns[i] = c
		}
	}
	if m.wide() {
		// The head of the column in which the tests stood is over golfers or days now.
		for i, c := range m.Columns {
			if c.Field == "test" {
				m.Columns[i] = MappingColumn{}
			}
		}
	}
	m.byContent(t, x)
	m.sides(t, x)
	m.blanks(t)
	m.writing(t)
	return m
}

// column reads the parts of one heading. What a heading does not name is the test
// of the column before it: "Grip L", "R".
func column(heading string, before label.Label, x *Labels, t *table.Table) (MappingColumn, label.Label) {
	var l label.Label
	var on civil.Date
	for text := range strings.SplitSeq(heading, joint) {
		switch r := x.read(text); r.kind {
		case field:
			unit := ""
			if r.field == DayMass {
				unit = string(label.UnitOf(heading))
			}
			return MappingColumn{Field: r.field, Unit: unit}, l
		case day:
			on, _ = dateIn(t, text, DayFirst)
		case test, part:
			l = r.label.With(l)
		case number:
			if trialNumber(text) {
				l.Trial, _ = strconv.Atoi(text)
			}
		case words:
			if l.Unit == "" {
				l.Unit = r.label.Unit
			}
		}
	}
	if l.Test == nil && (l.Side != "" || l.Hand != "" || l.Trial > 0) {
		l = l.With(before)
	}
	c := MappingColumn{Unit: string(l.Unit), Date: on}
	if l.Summary && (l.Test != nil || l.Side != "" || l.Hand != "" || before.Test != nil) {
		c.Field = Summary
		return c, l
	}
	if l.Test == nil {
		if l.Side != "" || l.Hand != "" || l.Trial > 0 {
			c.Field, c.Side, c.Trial = Measure, sideWords(l), l.Trial // of the test each row names
		} else if !on.IsZero() {
			c.Field = Measure
		}
		return c, l
	}
	c.Field, c.Test, c.Near, c.Trial = Measure, l.Test.ID, l.Near, l.Trial
	if l.Test.Kind != measure.Unsided {
		c.Side = sideWords(l)
	}
	return c, l
}

// sideWords is how a mapping writes the side of a label.
func sideWords(l label.Label) string {
	switch {
	case l.Both && l.Hand != "":
		return string(l.Hand) + "/" + string(other(l.Hand))
	case l.Hand != "":
		return string(l.Hand)
	case l.Both:
		return string(l.Side) + "/"
	}
	return string(l.Side)
}

func other(h label.Hand) label.Hand {
	if h == label.Left {
		return label.Right
	}
	return label.Left
}

// settle gives a column without a trial the next one that is free, and says the
// second of two sides.
func settle(c MappingColumn, l label.Label, taken map[string]bool) MappingColumn {
	if c.Field != Measure || l.Test == nil {
		return c
	}
	if first, ok := strings.CutSuffix(c.Side, "/"); ok {
		s := l.Test.Kind.Sides()
		if i := slices.Index(s, measure.Side(first)); i >= 0 {
			c.Side += string(s[1-i])
		} else {
			c.Side = ""
		}
	}
	if c.Trial > l.Test.Trials {
		return MappingColumn{Unit: c.Unit}
	}
	if c.Trial == 0 {
		for c.Trial = 1; c.Trial < l.Test.Trials && taken[c.key()]; {
			c.Trial++
		}
	}
	return c
}

// contentRows is how many rows are looked at for what a column holds.
const contentRows = 200

// byContent finds golfers, dates and tests in columns whose heading does not say
// so, where no other column holds them.
func (m *Mapping) byContent(t *table.Table, x *Labels) {
	rows := t.Rows[:min(len(t.Rows), contentRows)]
	has := m.has
	for i := range m.Columns {
		if m.Columns[i].Field != "" && !(m.Columns[i].Field == Measure && m.Columns[i].Test == "" && m.Columns[i].Date.IsZero()) {
			continue
		}
		counts := map[kind]int{}
		all, numbers := 0, 0
		for _, r := range rows {
			if i < len(r.Cells) && r.Cells[i] != "" {
				k := x.read(r.Cells[i]).kind
				counts[k]++
				all++
				if strings.ContainsAny(r.Cells[i], "0123456789") {
					numbers++
				}
			}
		}
		switch {
		case all == 0:
		case !has("test") && 10*counts[test] >= 6*all && m.Columns[i].Field == "" && !m.wide():
			m.Columns[i] = MappingColumn{Field: "test"}
		case !has(Date) && 10*counts[day] >= 8*all:
			m.Columns[i] = MappingColumn{Field: Date}
		case !has(Golfer, LastName) && m.Columns[i].Field == "" && (i == 0 || i < 4 && t.Header[i] == "") && 10*counts[words] >= 7*all && 5*numbers < all:
			m.Columns[i] = MappingColumn{Field: Golfer}
		}
	}
	if !has("test") || has("value") || m.wide() {
		return
	}
	// Tests go down and their trials across: columns of numbers without a heading.
	trial := 0
	for i := range m.Columns {
		if m.Columns[i].Field == "" && (t.Header[i] == "" || strings.HasPrefix(t.Header[i], "column ")) && holdsNumbers(rows, i) {
			trial++
			m.Columns[i] = MappingColumn{Field: Measure, Trial: trial}
		}
	}
}

// wide reports whether the columns hold the values of tests they name.
func (m *Mapping) wide() bool {
	return slices.ContainsFunc(m.Columns, func(c MappingColumn) bool { return c.Field == Measure && c.Test != "" })
}

func holdsNumbers(rows []table.Row, i int) bool {
	all, numbers := 0, 0
	for _, r := range rows {
		if i < len(r.Cells) && r.Cells[i] != "" && !label.NotMeasured(r.Cells[i]) {
			all++
			if strings.ContainsAny(r.Cells[i], "0123456789") {
				numbers++
			}
		}
	}
	return all > 0 && 10*numbers >= 8*all
}

// pair is two numbers in one cell.
var pair = regexp.MustCompile(`^\s*[0-9]+([.,][0-9]+)?\s*[/|]\s*[0-9]+([.,][0-9]+)?\s*[°%]?\s*$`)

// sides proposes left and right for a test with sides whose cells hold two numbers
// and whose heading names none: to be looked at.
func (m *Mapping) sides(t *table.Table, x *Labels) {
	for i, c := range m.Columns {
		if c.Field != Measure || c.Test == "" || c.Side != "" {
			continue
		}
		pairs, all := 0, 0
		for _, r := range t.Rows[:min(len(t.Rows), contentRows)] {
			if i < len(r.Cells) && r.Cells[i] != "" {
				all++
				if pair.MatchString(r.Cells[i]) {
					pairs++
				}
			}
		}
		if b, ok := x.reader.Test(c.Test); ok && b.Kind != measure.Unsided && 2*pairs > all {
			m.Columns[i].Side, m.Columns[i].Near = "left/right", true
		}
	}
}

// blanks proposes that an empty name, date or test is that of the row above, where a
// good part of those of rows with results are empty and the first is not.
func (m *Mapping) blanks(t *table.Table) {
	for i, c := range m.Columns {
		if !slices.Contains(down, c.Field) {
			continue
		}
		empty, all := 0, 0
		for _, r := range t.Rows[:min(len(t.Rows), contentRows)] {
			if !m.results(r.Cells) || m.sumsUp(r.Cells) {
				continue
			}
			if all++; i >= len(r.Cells) || r.Cells[i] == "" {
				empty++
				if all == 1 {
					break
				}
			}
		}
		if all > 1 && 4*empty >= all {
			m.FillDown = true
		}
	}
}

var commaNumber = regexp.MustCompile(`^-?[0-9]+,[0-9]+$`)

// writing looks at commas in numbers and at the order of day and month. Where every
// date can be read in two ways the order is left for the coach to say.
func (m *Mapping) writing(t *table.Table) {
	twice, dayFirst, monthFirst := false, false, false
	look := func(s string) {
		p := dateNumbers.FindStringSubmatch(strings.TrimSpace(dateTime.ReplaceAllString(s, "")))
		if p == nil || p[2] == "." {
			return
		}
		a, _ := strconv.Atoi(p[1])
		b, _ := strconv.Atoi(p[3])
		dayFirst, monthFirst, twice = dayFirst || a > 12, monthFirst || b > 12, twice || a <= 12 && b <= 12 && a != b
	}
	for _, h := range t.Header {
		for part := range strings.SplitSeq(h, joint) {
			look(part)
		}
	}
	for _, row := range t.Rows {
		for i, c := range m.Columns {
			if i >= len(row.Cells) {
				break
			}
			switch {
			case (c.Field == "value" || c.Field == Measure) && commaNumber.MatchString(row.Cells[i]):
				m.Decimal = ","
			case c.Field == Date || c.Field == BirthDate:
				look(row.Cells[i])
			}
		}
	}
	switch {
	case monthFirst && !dayFirst:
		m.Dates = MonthFirst
	case twice && !dayFirst:
		m.Dates = ""
	default:
		m.Dates = DayFirst
	}
	m.Redate(t)
}
