package formats

import (
	"time"

	ics "github.com/arran4/golang-ical"

	"dunnock/internal/core/civil"
)

// CalendarEvent is a day, or some minutes of one, in a calendar.
type CalendarEvent struct {
	ID      string // the same as long as it is the same event, whatever day it moves to
	Day     civil.Date
	At      string // HH:MM on the clock of the zone; "" takes the day
	Minutes int    // with At
	Title   string
	Place   string
}

// Calendar is an iCalendar file (RFC 5545). Times are given in UTC, so that no zone need be
// described; changed is when what it shows was last changed, and stamps every event, so
// that the same events give the same file.
func Calendar(name string, zone *time.Location, changed time.Time, events []CalendarEvent) string {
	c := ics.NewCalendarFor("dunnock")
	c.SetProductId("-//Dunnock//Training calendar//EN")
	c.SetMethod(ics.MethodPublish)
	c.SetName(name)
	c.SetXWRCalName(name)
	c.SetXPublishedTTL("PT6H")
	c.SetRefreshInterval("PT6H", ics.WithValue(string(ics.ValueDataTypeDuration)))
	for i := range events {
		e := &events[i]
		v := c.AddEvent(e.ID + "@dunnock")
		v.SetDtStampTime(changed)
		v.SetSummary(e.Title)
		if e.Place != "" {
			v.SetLocation(e.Place)
		}
		day := e.Day.Time()
		if clock, err := time.Parse("15:04", e.At); err == nil {
			at := time.Date(day.Year(), day.Month(), day.Day(), clock.Hour(), clock.Minute(), 0, 0, zone)
			v.SetStartAt(at)
			v.SetEndAt(at.Add(time.Duration(e.Minutes) * time.Minute))
			continue
		}
		v.SetAllDayStartAt(day)
		v.SetAllDayEndAt(day.AddDate(0, 0, 1))
		v.SetTimeTransparency(ics.TransparencyTransparent)
	}
	return c.Serialize(ics.WithNewLineWindows)
}
