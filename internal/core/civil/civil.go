// Package civil holds dates without a clock or a zone: the days of a training
// calendar. A Date is a plain day of the proleptic Gregorian calendar; which
// day "today" is, is always an argument, never read here.
package civil

import (
	"fmt"
	"math"
	"time"
)

const layout = "2006-01-02"

// Date is a civil day from the year 1 on. The zero Date means "no date" and
// marshals to "".
type Date struct {
	days int // days since the last day before the year 1, so that no day is the zero value
}

// epoch is 1970-01-01 as a Date counts it.
const epoch = 719163

// New returns the day for a year, month and day; out-of-range values are
// normalised as time.Date does.
func New(year int, month time.Month, day int) Date {
	return Of(time.Date(year, month, day, 0, 0, 0, 0, time.UTC))
}

// Of returns the day on which t falls in t's own location.
func Of(t time.Time) Date {
	y, m, d := t.Date()
	return Date{int(time.Date(y, m, d, 0, 0, 0, 0, time.UTC).Unix()/86400) + epoch}
}

// Parse reads a day written as YYYY-MM-DD.
func Parse(s string) (Date, error) {
	t, err := time.Parse(layout, s)
	if err != nil {
		return Date{}, fmt.Errorf("%q is not a date: write it as YYYY-MM-DD", s)
	}
	return Of(t), nil
}

// MustParse is Parse for dates written in the program; it panics on others.
func MustParse(s string) Date {
	d, err := Parse(s)
	if err != nil {
		panic(err)
	}
	return d
}

// IsZero reports whether d is no date at all.
func (d Date) IsZero() bool { return d.days == 0 }

// Time returns midnight UTC of d.
func (d Date) Time() time.Time { return time.Unix(int64(d.days-epoch)*86400, 0).UTC() }

// Add returns the day n days after d.
func (d Date) Add(n int) Date { return Date{d.days + n} }

// Sub returns the number of days from o to d.
func (d Date) Sub(o Date) int { return d.days - o.days }

// Before reports whether d comes before o.
func (d Date) Before(o Date) bool { return d.days < o.days }

// After reports whether d comes after o.
func (d Date) After(o Date) bool { return d.days > o.days }

// Weekday returns the day of the week of d.
func (d Date) Weekday() time.Weekday { return d.Time().Weekday() }

// Monday returns the Monday on or before d: the start of its training week.
func (d Date) Monday() Date { return d.Add(-((int(d.Weekday()) + 6) % 7)) }

// String returns d as YYYY-MM-DD, or "" for no date.
func (d Date) String() string {
	if d.IsZero() {
		return ""
	}
	y, m, day := d.Time().Date()
	b := [10]byte{
		byte('0' + y/1000%10),
		byte('0' + y/100%10),
		byte('0' + y/10%10),
		byte('0' + y%10),
		'-',
		byte('0' + int(m)/10),
		byte('0' + int(m)%10),
		'-',
		byte('0' + day/10),
		byte('0' + day%10),
	}
	return string(b[:])
}

// Words is a day as coaches read it, the same everywhere: Tue 24 Nov 2026; "" for no
// date. They never read the form of String, which is that of files.
func (d Date) Words() string { return string(d.AppendWords(nil)) }

// AppendWords is Words into b.
func (d Date) AppendWords(b []byte) []byte {
	if d.IsZero() {
		return b
	}
	return d.Time().AppendFormat(b, "Mon 2 Jan 2006")
}

// MarshalText writes d as String does.
func (d Date) MarshalText() ([]byte, error) { return []byte(d.String()), nil }

// UnmarshalText reads YYYY-MM-DD or "".
func (d *Date) UnmarshalText(b []byte) error {
	if len(b) == 0 {
		*d = Date{}
		return nil
	}
	v, err := Parse(string(b))
	if err == nil {
		*d = v
	}
	return err
}

// YearsOn returns the completed years from birth to the day on: the age in
// whole years.
func (d Date) YearsOn(on Date) int {
	b, t := d.Time(), on.Time()
	years := t.Year() - b.Year()
	if t.Month() < b.Month() || (t.Month() == b.Month() && t.Day() < b.Day()) {
		years--
	}
	return years
}

// AgeOn returns the age in years on a day: whole years at birthdays, and between
// them the share of the year that has passed.
func (d Date) AgeOn(on Date) float64 {
	years := d.YearsOn(on)
	last := Of(d.Time().AddDate(years, 0, 0))
	return float64(years) + math.Min(math.Max(float64(on.Sub(last)), 0)/366, 0.999)
}

// DecimalYearsOn returns the age in years with fractions, counting 365.25 days
// to the year.
func (d Date) DecimalYearsOn(on Date) float64 { return float64(on.Sub(d)) / 365.25 }
