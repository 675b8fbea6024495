package formats_test

import (
	"bytes"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dunnock/internal/core/athlete"
	"dunnock/internal/core/civil"
	"dunnock/internal/core/method"
	"dunnock/internal/core/plan"
	"dunnock/internal/core/testkit"
	"dunnock/internal/formats"
)

func TestASeasonOnPaper(t *testing.T) {
	f := testkit.Strong()
	f.Competitions = []athlete.Competition{{Date: civil.MustParse("2027-03-19"), Last: civil.MustParse("2027-03-20"), Name: "Spring salver", Peak: true, Main: true}}
	f.Away = []athlete.Away{{From: civil.MustParse("2027-01-04"), To: civil.MustParse("2027-01-10"), Trains: true}}
	f.Marks = []athlete.Mark{{Date: civil.MustParse("2026-12-05"), Kind: "class", Minutes: 45}}
	b, err := plan.BasisOf(f, method.Shipped())
	require.NoError(t, err)
	s, blocks, err := b.Season()
	require.NoError(t, err)
	sheet := &formats.SeasonSheet{Golfer: "Ørla Vane", On: testkit.Day, Season: s, Blocks: blocks, Events: f.Competitions, Away: f.Away, Marks: f.Marks}
	for paper := range formats.Papers {
		var out bytes.Buffer
		require.NoError(t, formats.WriteSeason(&out, sheet, paper))
		text := strings.Join(pagesOf(t, out.Bytes()), "")
		for i := range blocks {
			assert.Contains(t, text, squeezed(blocks[i].Start.Words()), paper)
		}
		for _, want := range []string{
			"Spring salver, peaked for, the main one", "Fri 19 Mar 2027 to Sat 20 Mar 2027", "trains there", "class, 45 min", "to Spring salver", "Leads:",
		} {
			assert.Contains(t, text, squeezed(want), paper)
		}
	}
	assert.ErrorContains(t, formats.WriteSeason(&bytes.Buffer{}, sheet, "papyrus"), "no paper")
}
