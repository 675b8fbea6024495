package app_test

import (
	"context"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dunnock/internal/app"
	"dunnock/internal/core/athlete"
	"dunnock/internal/core/measure"
	"dunnock/internal/core/review"
	"dunnock/internal/core/testkit"
)

// A block is issued from one screen; a second one behind it judges it, and the next draft
// says what it was made from.
func TestTheRetestTurnsTheBlock(t *testing.T) {
	ctx := context.Background()
	a, u, _ := practice(t, testkit.Day)
	f := testkit.Strong()
	screens := f.Screens
	f.Screens = nil
	id := golfer(t, a, u, f)
	enter := func(daysAgo int) {
		t.Helper()
		sheet, err := a.NewScreen(ctx, u, id, testkit.Day.Add(-daysAgo), nil)
		require.NoError(t, err)
		var changes []app.Change
		for _, tr := range screens[0].Trials {
			if tr.Status != measure.Done || tr.Lift != nil || tr.Number > 3 {
				continue
			}
			test, _ := measure.Shipped().Find(tr.Test)
			changes = append(changes, app.Change{Cell: measure.Cell{Test: tr.Test, Side: string(tr.Side), Trial: tr.Number, Text: tr.Text(test, test.Unit)}})
		}
		_, err = a.SaveCells(ctx, u, sheet.ID, func(*athlete.Circumstances) {}, changes, 0)
		require.NoError(t, err)
	}
	enter(30)
	got, err := a.Progress(ctx, u, id)
	require.NoError(t, err)
	assert.Empty(t, got.Blocks)
	assert.Empty(t, got.Retests)

	first, err := a.Draft(ctx, u, id, app.Wanted{Start: testkit.Day.Add(-27)})
	require.NoError(t, err)
	_, err = a.Issue(ctx, u, first.ID, first.Revision, "for the test")
	require.NoError(t, err)
	enter(1)
	got, err = a.Progress(ctx, u, id)
	require.NoError(t, err)
	require.Len(t, got.Blocks, 1)
	assert.Len(t, got.Blocks[0].Weeks, len(first.View.Blocks[0].Weeks))
	require.Len(t, got.Retests, 1)
	led := first.Doc.Asked[0].Quality
	j := got.Retests[0].Find(led)
	require.NotNil(t, j)
	assert.Equal(t, review.UpperEnd, j.Decision, "the same results twice: nothing moved")

	next, err := a.Draft(ctx, u, id, app.Wanted{})
	require.NoError(t, err)
	assert.Contains(t, strings.Join(next.Doc.Notes, "\n"), j.Words, "the next block says what it was drafted from")
	assert.Equal(t, led, next.Doc.Asked[0].Quality, "and the same leads on")

	withdrawn, err := a.Programmes(ctx, u, id)
	require.NoError(t, err)
	for _, p := range withdrawn {
		if p.Version == 1 {
			_, err = a.Withdraw(ctx, u, p.ID, "hurt")
			require.NoError(t, err)
		}
	}
	got, err = a.Progress(ctx, u, id)
	require.NoError(t, err)
	assert.Empty(t, got.Blocks, "nothing is trained by what was withdrawn")
}
