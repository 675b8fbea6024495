package formats_test

import (
	"bytes"
	"encoding/csv"
	"strconv"
	"strings"
	"testing"

	"github.com/ledongthuc/pdf"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"github.com/xuri/excelize/v2"

	"dunnock/internal/core/implement"
	"dunnock/internal/core/method"
	"dunnock/internal/core/plan"
	"dunnock/internal/core/programme"
	"dunnock/internal/core/programme/derive"
	"dunnock/internal/core/testkit"
	"dunnock/internal/core/warmup"
	"dunnock/internal/formats"
)

func planSheet(t *testing.T) *formats.PlanSheet {
	t.Helper()
	by := method.Shipped()
	r, err := plan.Generate(testkit.Weak(), by, "t")
	require.NoError(t, err)
	w, err := warmup.Build(&warmup.Person{Own: implement.Usual}, warmup.Request{Purpose: warmup.Strength, Minutes: 6, Place: warmup.Gym})
	require.NoError(t, err)
	p := &formats.PlanSheet{
		Golfer: "Ørla 李", On: testkit.Day, Status: "version 1", Limits: []string{"No overhead work, shoulder"},
		Plan: derive.View(r.Doc, by.Exercises, by.Schools), WarmUps: map[programme.ID]*warmup.WarmUp{},
	}
	for _, week := range r.Doc.Blocks[0].Weeks {
		for i := range week.Sessions {
			p.WarmUps[week.Sessions[i].ID] = w
		}
	}
	return p
}

// pagesOf is the text of each page, read by another library, without blanks.
func pagesOf(t *testing.T, b []byte) []string {
	t.Helper()
	r, err := pdf.NewReader(bytes.NewReader(b), int64(len(b)))
	require.NoError(t, err)
	var out []string
	for i := 1; i <= r.NumPage(); i++ {
		text, err := r.Page(i).GetPlainText(nil)
		require.NoError(t, err)
		out = append(out, squeezed(text))
	}
	return out
}

func squeezed(s string) string { return strings.Join(strings.Fields(s), "") }

// Every session stands on a page of its own with all its lines and its warm-up, as text
// that another library reads; small paper holds as much.
func TestABlockOnPaper(t *testing.T) {
	p := planSheet(t)
	for paper := range formats.Papers {
		var b, again bytes.Buffer
		require.NoError(t, formats.WritePlan(&b, p, paper))
		require.NoError(t, formats.WritePlan(&again, p, paper))
		assert.Equal(t, b.Len(), again.Len())
		pages := pagesOf(t, b.Bytes())
		all := strings.Join(pages, "")
		for _, week := range p.Plan.Blocks[0].Weeks {
			for i := range week.Sessions {
				s := &week.Sessions[i]
				at := -1
				for n, page := range pages {
					if strings.HasPrefix(page, "Ørla") && strings.Contains(page, squeezed(s.Date.Words())) && !strings.Contains(page, "Homework") {
						at = n
					}
				}
				require.GreaterOrEqual(t, at, 0, "%s has a page", s.Date)
				card := pages[at]
				if paper == "a5" && at+1 < len(pages) && !strings.HasPrefix(pages[at+1], "Ørla") {
					card += pages[at+1]
				}
				assert.Contains(t, card, "Warm-up,6min:")
				assert.Contains(t, card, squeezed(p.Limits[0]))
				assert.Contains(t, card, "version1")
				for k := range s.Items {
					assert.Contains(t, card, squeezed(s.Items[k].Name), "%s on %s", s.Date, paper)
					assert.Contains(t, card, squeezed(s.Items[k].DoseText), "%s on %s", s.Date, paper)
				}
			}
			for _, h := range week.Home {
				for i := range h.Items {
					assert.Contains(t, all, squeezed(h.Items[i].Name))
				}
			}
		}
		assert.Contains(t, all, "Stopatpain.")
		assert.Contains(t, all, squeezed("Letters this page's font does not have"), "李 is said to be missing")
	}
	assert.ErrorContains(t, formats.WritePlan(&bytes.Buffer{}, p, "papyrus"), "no paper")
}

// The table has a row an item in the order of the sheet, numbers as numbers in the
// workbook, and no text a spreadsheet would run.
func TestABlockAsATable(t *testing.T) {
	p := planSheet(t)
	p.Plan.Blocks[0].Weeks[0].Sessions[0].Items[0].Note = "=HYPERLINK(1)"
	var b, x bytes.Buffer
	require.NoError(t, formats.WritePlanCSV(&b, p))
	require.NoError(t, formats.WritePlanXLSX(&x, p))
	rows, err := csv.NewReader(&b).ReadAll()
	require.NoError(t, err)
	assert.Equal(t, formats.PlanColumns, rows[0])
	items := 0
	for _, week := range p.Plan.Blocks[0].Weeks {
		for _, s := range week.Sessions {
			items += len(s.Items)
		}
		for _, h := range week.Home {
			items += len(h.Items)
		}
	}
	require.Len(t, rows, items+1)
	first := p.Plan.Blocks[0].Weeks[0].Sessions[0].Items[0]
	col := func(row []string, name string) string {
		for i, c := range formats.PlanColumns {
			if c == name {
				return row[i]
			}
		}
		t.Fatal(name)
		return ""
	}
	assert.Equal(t, first.Name, col(rows[1], "name"))
	assert.Equal(t, strconv.Itoa(first.Dose.Sets), col(rows[1], "sets"))
	assert.Equal(t, "'=HYPERLINK(1)", col(rows[1], "note"))

	f, err := excelize.OpenReader(&x)
	require.NoError(t, err)
	sheet, err := f.GetRows("plan")
	require.NoError(t, err)
	assert.Len(t, sheet, items+1)
	formula, err := f.GetCellFormula("plan", "S2")
	require.NoError(t, err)
	assert.Empty(t, formula)
	kind, err := f.GetCellType("plan", "J2")
	require.NoError(t, err)
	assert.NotEqual(t, excelize.CellTypeSharedString, kind, "sets are a number")
}
