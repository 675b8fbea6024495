package sheets_test

import (
	"bytes"
	"encoding/csv"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dunnock/internal/core/athlete"
	"dunnock/internal/core/measure"
	"dunnock/internal/core/testkit"
	"dunnock/internal/formats"
)

// What is exported comes back as it was, formulas are no formulas any more, and
// a workbook says the same as the CSV.
// What is exported comes back as it was, formulas are no formulas any more, and
// a workbook says the same as the CSV.
func TestTheTidyExportGoesRound(t *testing.T) {
	f := testkit.Strong()
	f.Athlete.Name = "=HYPERLINK(\"x\")"
	f.Screens[0].Trials[0].Note = "@SUM(1)"
	f.Screens[0].Trials[1].Note = "'quoted"
	f.Screens[0].Trials = append(
		f.Screens[0].Trials,
		measure.Trial{Test: "side-hold", Side: "lead", Number: 1, Status: measure.Stopped, Pain: 6, Region: "lumbar-spine", Note: "-1+2"},
		measure.Trial{Test: "start-direction", Number: 1, Status: measure.Done, Value: -2.5},
	)
	var b, book bytes.Buffer
	require.NoError(t, formats.WriteTidyCSV(&b, []*athlete.File{f}))
	rows, err := csv.NewReader(bytes.NewReader(b.Bytes())).ReadAll()
	require.NoError(t, err)
	for _, r := range rows {
		for _, c := range r {
			if c != "" && strings.ContainsRune("=@\t\r", rune(c[0])) {
				t.Errorf("a spreadsheet would run %q", c)
			}
		}
	}
	assert.Contains(t, b.String(), "-2.5", "a negative number stays a number")
	assert.Contains(t, b.String(), "'-1+2")
	require.NoError(t, formats.WriteTidyXLSX(&book, []*athlete.File{f}, f.Tests()))
	for _, x := range [][]byte{b.Bytes(), book.Bytes()} {
		records, bad, _ := lay(t, x).read(t)
		require.Empty(t, bad)
		require.Len(t, records, len(f.Screens[0].Trials))
		for i, r := range records {
			assert.Equal(t, f.Athlete.Name, r.Golfer)
			got, err := r.Cell.Parse(measure.Shipped(), f.Athlete.ReferenceVariant(testkit.Day))
			require.NoError(t, err)
			want := f.Screens[0].Trials[i]
			if want.Variant == "" {
				want.Variant = got.Variant
			}
			assert.True(t, want.SameAs(got), "%+v %+v", want, got)
		}
	}
}
