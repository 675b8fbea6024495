package civil_test

import (
	"encoding/json"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dunnock/internal/core/civil"
)

func TestDates(t *testing.T) {
	d := civil.MustParse("2028-02-29")
	assert.Equal(t, time.Tuesday, d.Weekday())
	assert.Equal(t, "2028-03-01", d.Add(1).String())
	assert.Equal(t, "2028-02-28", d.Monday().String())
	assert.Equal(t, 366, civil.MustParse("2029-01-01").Sub(civil.MustParse("2028-01-01")))
	assert.Equal(t, d, civil.New(2028, time.February, 29))
	assert.Equal(t, "Tue 29 Feb 2028", d.Words())
	assert.True(t, d.Before(d.Add(1)) && d.Add(1).After(d))
	for _, bad := range []string{"2027-02-29", "29-02-2028", "2028-2-9", "yesterday"} {
		_, err := civil.Parse(bad)
		assert.ErrorContains(t, err, "YYYY-MM-DD", bad)
	}
}

func TestAgeIsCountedOnTheDay(t *testing.T) {
	b := civil.MustParse("2008-02-29")
	assert.Equal(t, 17, b.YearsOn(civil.MustParse("2026-02-28")))
	assert.Equal(t, 18, b.YearsOn(civil.MustParse("2026-03-01")))
	assert.InDelta(t, 14.5, civil.MustParse("2012-05-25").DecimalYearsOn(civil.MustParse("2026-11-24")), 0.01)
}

func TestNoDateIsEmpty(t *testing.T) {
	var d civil.Date
	b, err := json.Marshal(d)
	require.NoError(t, err)
	assert.Equal(t, `""`, string(b))
	require.NoError(t, json.Unmarshal([]byte(`"2026-11-24"`), &d))
	assert.False(t, d.IsZero())
	require.NoError(t, json.Unmarshal([]byte(`""`), &d))
	assert.True(t, d.IsZero())
	assert.Error(t, json.Unmarshal([]byte(`"soon"`), &d))
}
