package app_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"dunnock/internal/app"
	"dunnock/internal/core/civil"
	"dunnock/internal/store"
)

// A lane shows what is trained: not a version another one stands instead of, nor the weeks of one
// behind the day the next begins.
func TestTheLaneShowsWhatIsTrained(t *testing.T) {
	nov := func(day int) civil.Date { return civil.MustParse("2026-11-01").Add(day - 1) }
	issued := func(id string, version int, start civil.Date) store.Programme {
		return store.Programme{ID: id, Status: store.Issued, Version: version, StartDate: start, Weeks: 4}
	}
	shown := func(list ...store.Programme) map[string]int {
		weeks := map[string]int{}
		for _, p := range (app.Lane{Programmes: list}).Blocks() {
			weeks[p.ID] = p.Weeks
		}
		return weeks
	}
	first, ahead, again := issued("first", 1, nov(2)), issued("ahead", 2, nov(30)), issued("again", 3, nov(2))
	draft := store.Programme{ID: "draft", Status: store.Draft, StartDate: nov(30), Weeks: 4}
	assert.Equal(t, map[string]int{"first": 4, "ahead": 4}, shown(first, ahead))
	assert.Equal(t, map[string]int{"again": 4, "ahead": 4, "draft": 4}, shown(first, again, ahead, draft))
	assert.Equal(t, map[string]int{"again": 1, "late": 4}, shown(first, again, ahead, issued("late", 4, nov(9))))
}
