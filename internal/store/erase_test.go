package store_test

import (
	"bytes"
	"compress/gzip"
	"context"
	"fmt"
	"io"
	"strings"
	"testing"

	"github.com/google/uuid"
	"github.com/jackc/pgx/v5"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dunnock/internal/core/athlete"
	"dunnock/internal/core/rotation"
	"dunnock/internal/core/testkit"
	"dunnock/internal/postgres/pgtest"
	"dunnock/internal/store"
)

// Erased means erased: neither id nor name is left in any column of any table,
// tables of later versions included.
func TestErasingLeavesNothingAnywhere(t *testing.T) {
	ctx := context.Background()
	s := pgtest.Store(t)
	p, u := practice(t, s, "a@example.org")
	f := testkit.Strong()
	f.Athlete.Name = "Zebedee Quillfeather"
	f.Limits = []athlete.Limit{{Region: "hip", Kind: athlete.NoImpact, SetBy: "doctor"}}
	f.Competitions = []athlete.Competition{{Date: testkit.Day, Name: "Match"}}
	id, err := p.CreateAthlete(ctx, f)
	require.NoError(t, err)
	keep, err := p.CreateAthlete(ctx, testkit.Weak())
	require.NoError(t, err)
	require.NoError(t, p.ImportScreens(ctx, id, f.Screens))
	require.NoError(t, p.PutCalendarAddress(ctx, id, [32]byte{1}, u.Name))
	_, prog, doc := draftOf(t, p, id, f)
	require.NoError(t, p.SaveStep(ctx, prog, 1, "x", store.Editor{Name: u.Name}, doc))
	require.NoError(t, p.Issue(ctx, prog, 2, testkit.Day, u.ID, "n", doc, []byte(`{"by": "Zebedee"}`)))
	_, _, _ = draftOf(t, p, id, f)
	_, err = p.CreateRecording(
		ctx,
		store.Recording{
			AthleteID: id,
			Date:      testkit.Day,
			Kind:      "jump",
			Name:      "zebedee.csv",
			Side:      "right",
			RawBytes:  1,
			Hash:      "h",
			Mapping:   []byte("{}"),
			Settings:  []byte("{}"),
			Result:    []byte("{}"),
			Version:   "1",
		},
		[]byte("x"),
	)
	require.NoError(t, err)
	day, err := p.CreateScreenDay(
		ctx,
		&store.ScreenDay{Date: testkit.Day, Name: "D", Start: "09:00", Stations: []rotation.TestStation{}, Plan: &rotation.Plan{}, Athletes: []string{keep, id}},
	)
	require.NoError(t, err)
	upload := func(name, text string) string {
		imp, err := p.CreateImport(ctx, name, "Coach", fmt.Sprintf(`{"row":%q}`, text), []byte(text))
		require.NoError(t, err)
		return imp
	}
	upload("zebedee quillfeather.csv", "nothing")
	upload("a.csv", "Quillfeather, ZEBEDEE,1980-01-01")
	checked := upload("b.csv", "nothing of them")
	other := upload("c.csv", "somebody else")
	run := uuid.NewString()
	require.NoError(t, p.BeginImport(ctx, checked, run, []string{store.Uploaded}, store.Checking, fmt.Sprintf(`{"golfer":%q}`, id), 1))
	require.NoError(t, p.EndImport(ctx, checked, run, store.Checked, `{"newGolfers":["Zebedee Quillfeather"]}`, ""))

	require.NoError(t, p.Erase(ctx, id))
	for _, needle := range []string{id, "zebedee", "quillfeather"} {
		assert.Empty(t, search(t, s, needle), needle)
	}
	d, err := p.ScreenDay(ctx, day)
	require.NoError(t, err)
	assert.Equal(t, []string{keep, ""}, d.Athletes, "the others keep their place")
	rows, _, err := p.ImportRows(ctx, other)
	require.NoError(t, err)
	assert.NotNil(t, rows, "files that do not name them stay")
	require.ErrorIs(t, p.Erase(ctx, id), store.ErrNotFound)
}

// search looks for a text in every column of every table, unfolding what is
// compressed.
func search(t *testing.T, s *store.Store, needle string) (found []string) {
	t.Helper()
	ctx := context.Background()
	var columns [][3]string
	rows, err := s.Pool().Query(ctx, "SELECT table_name, column_name, data_type FROM information_schema.columns WHERE table_schema = 'public'")
	require.NoError(t, err)
	for rows.Next() {
		var c [3]string
		require.NoError(t, rows.Scan(&c[0], &c[1], &c[2]))
		columns = append(columns, c)
	}
	require.NoError(t, rows.Err())
	require.Greater(t, len(columns), 100)
	for _, c := range columns {
		name := pgx.Identifier{c[1]}.Sanitize()
		table := pgx.Identifier{c[0]}.Sanitize()
		if c[2] != "bytea" {
			var n int
			require.NoError(t, s.Pool().QueryRow(ctx, "SELECT count(*) FROM "+table+" WHERE "+name+"::text ILIKE '%' || $1 || '%'", needle).Scan(&n))
			if n > 0 {
				found = append(found, c[0]+"."+c[1])
			}
			continue
		}
		rows, err := s.Pool().Query(ctx, "SELECT "+name+" FROM "+table+" WHERE "+name+" IS NOT NULL")
		require.NoError(t, err)
		for rows.Next() {
			var b []byte
			require.NoError(t, rows.Scan(&b))
			if z, err := gzip.NewReader(bytes.NewReader(b)); err == nil {
				plain, err := io.ReadAll(z)
				require.NoError(t, err)
				b = plain
			}
			if strings.Contains(strings.ToLower(string(b)), strings.ToLower(needle)) {
				found = append(found, c[0]+"."+c[1])
			}
		}
		require.NoError(t, rows.Err())
	}
	return found
}
