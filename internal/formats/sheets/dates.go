package sheets

import (
	"fmt"
	"regexp"
	"strconv"
	"strings"
	"time"

	"github.com/xuri/excelize/v2"

	"dunnock/internal/core/civil"
	"dunnock/internal/formats/table"
)

// The orders of day and month in a date written in numbers alone, 04/07/2026.
const (
	DayFirst   = "day first"
	MonthFirst = "month first"
)

// orders are what a mapping's dates may be: the two, and what earlier mappings were
// remembered with.
var orders = map[string]string{
	DayFirst: DayFirst, MonthFirst: MonthFirst, "DD.MM.YYYY": DayFirst, "DD/MM/YYYY": DayFirst, "MM/DD/YYYY": MonthFirst, "YYYY-MM-DD": "",
}

// how a text was read as a date.
type how int

const (
	noDate how = iota
	plainDate
	twoWays // day and month could be changed about
	noYear
	shortYear // plain, but for a year of two digits
)

var (
	dateISO     = regexp.MustCompile(`^([12][0-9]{3})[-/. ]([0-9]{1,2})[-/. ]([0-9]{1,2})$`)
	dateCompact = regexp.MustCompile(`^((?:19|20)[0-9]{2})([0-9]{2})([0-9]{2})$`)
	dateNumbers = regexp.MustCompile(`^([0-9]{1,2})([-/. ])\s*([0-9]{1,2})[-/. ]\s*([0-9]{4}|[0-9]{2})$`)
	dateTime    = regexp.MustCompile(`(?i)[t ,]+[0-9]{1,2}:[0-9]{2}(:[0-9]{2}(\.[0-9]+)?)?\s*(am|pm|z|[+-][0-9:]{4,6})?$`)
	weekday     = regexp.MustCompile(`(?i)^(mon|tues?|wed(nes)?|thu(rs)?|fri|sat(ur)?|sun)(day)?\.?,?\s+`)
	dayOrdinal  = regexp.MustCompile(`(?i)^([0-9]{1,2})(st|nd|rd|th)$`)
	serial      = regexp.MustCompile(`^[1-9][0-9]{4}(\.[0-9]+)?$`) // from 1927 on: four figures are a year
	monthNames  = []string{"january", "february", "march", "april", "may", "june", "july", "august", "september", "october", "november", "december"}
	otherMonths = map[string]int{"sept": 9, "mär": 3, "märz": 3, "mrz": 3, "mai": 5, "okt": 10, "oktober": 10, "dez": 12, "dezember": 12, "januar": 1, "februar": 2, "juni": 6, "juli": 7}
)

// readDate reads a date as people write it; order says which of day and month comes
// first where both are numbers. Points between them always mean the day first.
func readDate(s, order string) (civil.Date, how) {
	s = strings.TrimSpace(s)
	if len(s) > 40 || len(s) < 5 {
		return civil.Date{}, noDate
	}
	s = strings.TrimSpace(dateTime.ReplaceAllString(weekday.ReplaceAllString(s, ""), ""))
	for _, x := range []*regexp.Regexp{dateISO, dateCompact} {
		if m := x.FindStringSubmatch(s); m != nil {
			return dated(m[1], m[2], m[3], plainDate)
		}
	}
	if m := dateNumbers.FindStringSubmatch(s); m != nil {
		day, month, year := m[1], m[3], m[4]
		a, _ := strconv.Atoi(day)
		b, _ := strconv.Atoi(month)
		got := plainDate
		if m[2] != "." {
			if a <= 12 && b <= 12 && a != b {
				got = twoWays
			}
			if orders[order] == MonthFirst {
				day, month = month, day
			}
		}
		if len(year) == 2 {
			year = "20" + year
			if got == plainDate {
				got = shortYear
			}
		}
		return dated(year, month, day, got)
	}
	return namedDate(s)
}

// namedDate reads a date with the month by name.
func namedDate(s string) (civil.Date, how) {
	day, month, year, got := "", 0, "", plainDate
	for _, w := range strings.FieldsFunc(s, func(r rune) bool { return strings.ContainsRune(" -/.,’'", r) }) {
		low := strings.ToLower(w)
		switch m := monthOf(low); {
		case m > 0 && month == 0:
			month = m
			continue
		case m > 0, low == "of":
			continue
		}
		if o := dayOrdinal.FindStringSubmatch(low); o != nil {
			low = o[1]
		}
		n, err := strconv.Atoi(low)
		switch {
		case err != nil:
			return civil.Date{}, noDate
		case len(low) == 4 && year == "":
			year = low
		case len(low) <= 2 && day == "" && n >= 1 && n <= 31:
			day = low
		case len(low) == 2 && year == "":
			year, got = "20"+low, shortYear
		default:
			return civil.Date{}, noDate
		}
	}
	switch {
	case month == 0 || day == "":
		return civil.Date{}, noDate
	case year == "":
		return civil.Date{}, noYear
	}
	return dated(year, strconv.Itoa(month), day, got)
}

func monthOf(word string) int {
	if m := otherMonths[word]; m > 0 {
		return m
	}
	for i, name := range monthNames {
		if len(word) >= 3 && strings.HasPrefix(name, word) {
			return i + 1
		}
	}
	return 0
}

func dated(year, month, day string, got how) (civil.Date, how) {
	t, err := time.Parse("2006-1-2", strings.Join([]string{year, month, day}, "-"))
	if err != nil {
		return civil.Date{}, noDate
	}
	return civil.Of(t), got
}

// dateIn reads a date of a table. A workbook keeps its own as numbers of days.
func dateIn(t *table.Table, s, order string) (civil.Date, bool) {
	if t.Kind == "xlsx" && serial.MatchString(s) {
		v, _ := strconv.ParseFloat(s, 64)
		if day, err := excelize.ExcelDateToTime(v, t.From1904); err == nil {
			return civil.Of(day), true
		}
	}
	d, got := readDate(s, order)
	return d, got != noDate && got != noYear
}

// date reads a date of a row.
func (r *Reader) date(s string) (civil.Date, error) {
	if r.t.Kind == "xlsx" && serial.MatchString(s) {
		if d, ok := dateIn(r.t, s, ""); ok {
			return d, nil
		}
	}
	d, got := readDate(s, r.m.Dates)
	switch {
	case got == noYear:
		return d, fmt.Errorf("%q has no year: write it, or say the day for the whole file", s)
	case got == twoWays && orders[r.m.Dates] == "":
		other, _ := readDate(s, MonthFirst)
		return d, fmt.Errorf("%q may be %s or %s: say whether the day or the month comes first", s, d.Words(), other.Words())
	case got == noDate && orders[r.m.Dates] != "" && dateNumbers.MatchString(s):
		return d, fmt.Errorf("%q is no date with the %s", s, orders[r.m.Dates])
	case got == noDate:
		return d, fmt.Errorf("%q is no date: 24 Nov 2026, 24/11/2026 and 2026-11-24 are", s)
	}
	return d, nil
}

// birth is date for a birth date, whose century has to be written.
func (r *Reader) birth(s string) (civil.Date, error) {
	d, err := r.date(s)
	if _, got := readDate(s, r.m.Dates); err == nil && (got == shortYear || got == twoWays && !regexp.MustCompile(`[0-9]{4}`).MatchString(s)) {
		return d, fmt.Errorf("%q: write the year of birth in full", s)
	}
	return d, err
}
