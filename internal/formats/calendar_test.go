package formats_test

import (
	"strings"
	"testing"
	"time"

	"github.com/emersion/go-ical"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dunnock/internal/core/civil"
	"dunnock/internal/formats"
)

// Read by another iCalendar library, whatever stands in the titles: lines folded at 75
// octets, commas and breaks escaped, clock times in UTC on both sides of the change of clocks.
func TestACalendarIsReadByOthers(t *testing.T) {
	zone, err := time.LoadLocation("Europe/London")
	require.NoError(t, err)
	long := "Session A: throws; jumps, and a lift on one leg\nBEGIN:VEVENT " + strings.Repeat("ünï", 40)
	changed := time.Date(2026, 11, 30, 9, 0, 0, 0, time.UTC)
	file := formats.Calendar("Torquil, training", zone, changed, []formats.CalendarEvent{
		{ID: "a1", Day: civil.MustParse("2027-03-26"), At: "17:30", Minutes: 60, Title: long, Place: "The barn, Skerravoe"},
		{ID: "a2", Day: civil.MustParse("2027-03-29"), At: "17:30", Minutes: 45, Title: "Session B"},
		{ID: "a3", Day: civil.MustParse("2027-02-28"), Title: "Spring salver"},
	})
	for line := range strings.SplitSeq(strings.TrimSuffix(file, "\r\n"), "\r\n") {
		assert.LessOrEqual(t, len(line), 75, line)
		assert.NotContains(t, line, "\n")
	}
	cal, err := ical.NewDecoder(strings.NewReader(file)).Decode()
	require.NoError(t, err)
	events := cal.Events()
	require.Len(t, events, 3)
	text := func(e ical.Event, name string) string {
		s, err := e.Props.Text(name)
		require.NoError(t, err)
		return s
	}
	assert.Equal(t, long, text(events[0], ical.PropSummary))
	assert.Equal(t, "The barn, Skerravoe", text(events[0], ical.PropLocation))
	assert.Equal(t, "a1@dunnock", text(events[0], ical.PropUID))
	at := func(i int) (string, string) {
		from, err := events[i].DateTimeStart(time.UTC)
		require.NoError(t, err)
		to, err := events[i].DateTimeEnd(time.UTC)
		require.NoError(t, err)
		return from.UTC().Format("2006-01-02 15:04"), to.UTC().Format("2006-01-02 15:04")
	}
	from, to := at(0)
	assert.Equal(t, [2]string{"2027-03-26 17:30", "2027-03-26 18:30"}, [2]string{from, to}, "winter: London is UTC")
	from, to = at(1)
	assert.Equal(t, [2]string{"2027-03-29 16:30", "2027-03-29 17:15"}, [2]string{from, to}, "from 28 March on it is an hour ahead")
	assert.Equal(t, "20270228", events[2].Props.Get(ical.PropDateTimeStart).Value, "a day")
	assert.Equal(t, "20270301", events[2].Props.Get(ical.PropDateTimeEnd).Value, "up to, not with, the next")
	assert.Equal(t, file, formats.Calendar("Torquil, training", zone, changed, []formats.CalendarEvent{
		{ID: "a1", Day: civil.MustParse("2027-03-26"), At: "17:30", Minutes: 60, Title: long, Place: "The barn, Skerravoe"},
		{ID: "a2", Day: civil.MustParse("2027-03-29"), At: "17:30", Minutes: 45, Title: "Session B"},
		{ID: "a3", Day: civil.MustParse("2027-02-28"), Title: "Spring salver"},
	}))
}
