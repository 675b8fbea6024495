package table_test

import (
	"archive/zip"
	"bytes"
	"context"
	"fmt"
	"runtime"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dunnock/internal/formats/table"
)

// workbook writes the parts of a workbook with the texts and the sheet given.
func workbook(t testing.TB, shared, sheet func(w *bytes.Buffer)) []byte {
	t.Helper()
	var out, part bytes.Buffer
	z := zip.NewWriter(&out)
	put := func(name string, write func(w *bytes.Buffer)) {
		part.Reset()
		write(&part)
		w, err := z.Create(name)
		require.NoError(t, err)
		_, err = w.Write(part.Bytes())
		require.NoError(t, err)
	}
	text := func(s string) func(*bytes.Buffer) { return func(w *bytes.Buffer) { w.WriteString(s) } }
	put("xl/workbook.xml", text(`<workbook xmlns:r="x"><workbookPr date1904="1"/><sheets><sheet name="Tests" r:id="r1"/></sheets></workbook>`))
	put("xl/_rels/workbook.xml.rels", text(`<Relationships><Relationship Id="r1" Target="worksheets/sheet1.xml"/></Relationships>`))
	put("xl/sharedStrings.xml", shared)
	put("xl/worksheets/sheet1.xml", sheet)
	require.NoError(t, z.Close())
	return out.Bytes()
}

func rows(cells string) func(*bytes.Buffer) {
	return func(w *bytes.Buffer) { fmt.Fprintf(w, `<worksheet><sheetData>%s</sheetData></worksheet>`, cells) }
}

func noTexts(w *bytes.Buffer) { w.WriteString(`<sst><si><t>a</t></si></sst>`) }

// A workbook as other programs write them: prefixes, texts in pieces, entities,
// phonetic readings, gaps, comments, CDATA, truth values.
func TestAWorkbookAsOthersWriteIt(t *testing.T) {
	b := workbook(
		t,
		func(w *bytes.Buffer) {
			w.WriteString(
				`<?xml version="1.0"?><x:sst xmlns:x="y"><x:si><x:t>golfer</x:t></x:si><x:si><x:r><x:t xml:space="preserve">A &amp; </x:t></x:r><x:r><x:t>B&#x20AC;</x:t></x:r><x:rPh><x:t>no</x:t></x:rPh></x:si><x:si/></x:sst>`,
			)
		},
		rows(
			`<!-- <row> --><x:row r="3"><x:c r="B3" t="s"><x:v>0</x:v></x:c><x:c r="C3" t="inlineStr"><x:is><x:t>date</x:t></x:is></x:c><c r="E3" t="str"><v>note&gt;</v></c></x:row><row/>`+
				`<row r="7"><c r="B7" t="s" s="1>2"><v>1</v></c><c r="C7"><f>TODAY()</f><v>43000</v></c><c r="D7"/><c r="E7" t="b"><v>1</v></c></row><row r="8"><c t="s"><v>2</v></c><c><v><![CDATA[ 7 ]]></v></c></row>`,
		),
	)
	got, err := table.Read(context.Background(), b)
	require.NoError(t, err)
	assert.Equal(t, []string{"", "golfer", "date", "", "note>"}, got.Header)
	assert.True(t, got.From1904)
	assert.Equal(t, []table.Row{{Line: 7, Cells: []string{"", "A & B€", "43000", "", "TRUE"}}, {Line: 8, Cells: []string{"", "7"}}}, got.Rows)
}

// What is too large is refused while it is read, by its place, and costs little.
func TestLimitsHoldWhileATableIsRead(t *testing.T) {
	long := strings.Repeat("x", 9000)
	for says, b := range map[string][]byte{
		"row 2 has 401 columns":              []byte("a,b\n" + strings.Repeat(",", 11<<20)),
		"row 1 has 401 columns":              []byte(strings.Repeat(",", 11<<20)),
		"row 2, column 2: the cell has more": []byte("a,b\n1," + strings.Repeat("y", 11<<20)),
		"row 3, column 1: the cell has more": []byte("a,b\n1,2\n\"" + strings.Repeat("y\n", 5<<20)),
		"more than 1000000 cells":            []byte("a,b\n" + strings.Repeat(strings.Repeat(",", 399)+"1\n", 3000)),
		"more than 200000 rows":              []byte("a,b\n" + strings.Repeat("1,2\n", 200_001)),
		"more than 200000 different texts": workbook(t, func(w *bytes.Buffer) {
			w.WriteString("<sst>" + strings.Repeat("<si><t>a</t></si>", 3_000_000) + "</sst>")
		}, rows(`<row><c t="s"><v>0</v></c></row>`)),
		"unfolds to more than 64 MB":   workbook(t, noTexts, func(w *bytes.Buffer) { w.WriteString("<worksheet><sheetData>" + strings.Repeat(" ", 90<<20)) }),
		"letters":                      workbook(t, noTexts, rows(`<row><c t="inlineStr"><is><t>`+strings.Repeat("z", 60<<20)+`</t></is></c></row>`)),
		"has more than 2000 letters":   workbook(t, func(w *bytes.Buffer) { w.WriteString("<sst><si><t>" + long + "</t></si></sst>") }, rows(`<row><c t="s"><v>0</v></c></row>`)),
		"401 columns":                  workbook(t, noTexts, rows(`<row><c r="OK1"><v>1</v></c></row>`)),
		"a text the workbook does not": workbook(t, noTexts, rows(`<row><c t="s"><v>77</v></c></row>`)),
		"a document type":              workbook(t, noTexts, func(w *bytes.Buffer) { w.WriteString(`<!DOCTYPE x [<!ENTITY a "b">]><worksheet/>`) }),
		"no XML":                       workbook(t, noTexts, rows(`<row><c t="str"><v>&bomb;</v></c></row>`)),
	} {
		var before, after runtime.MemStats
		runtime.GC()
		runtime.ReadMemStats(&before)
		_, err := table.Read(context.Background(), b)
		runtime.ReadMemStats(&after)
		var refused *table.Error
		require.ErrorAs(t, err, &refused, says)
		assert.ErrorContains(t, err, says)
		assert.Less(t, after.TotalAlloc-before.TotalAlloc, uint64(200<<20), "%s: bytes taken from first to last", says)
	}
}

// A reader nobody waits for any more stops.
func TestReadingEndsWithItsContext(t *testing.T) {
	ctx, cancel := context.WithCancel(context.Background())
	cancel()
	for _, b := range [][]byte{[]byte("a,b\n" + strings.Repeat("1,2\n", 50_000)), workbook(t, noTexts, rows(strings.Repeat(`<row><c><v>1</v></c></row>`, 50_000)))} {
		_, err := table.Read(ctx, b)
		assert.ErrorIs(t, err, context.Canceled)
	}
}

// Long cells are cut where they are only shown.
func TestSampleCellsAreCut(t *testing.T) {
	got, err := table.Read(context.Background(), []byte("a,b\n1,"+strings.Repeat("é", 1999)+"\n2,3\n"))
	require.NoError(t, err)
	head := got.Head(1)
	require.Len(t, head.Rows, 1)
	assert.Len(t, []rune(head.Rows[0].Cells[1]), 200)
	assert.Len(t, []rune(got.Rows[0].Cells[1]), 1999, "what is read is whole")
}

// Texts are harmless in a spreadsheet whatever they begin with, and come back.
func TestFormulasAreQuoted(t *testing.T) {
	for _, s := range []string{"=1+1", "+cmd|' /C calc'!A0", "-2+3", "@SUM(1)", "\t=1", "\r=1", "\n=1", " =1", "\u00a0=1", "\u200b=1", "＝1", "＋1", "－x", "＠x", "'=1", "''", "%0A", "|x"} {
		q := table.Quote(s)
		assert.True(t, strings.HasPrefix(q, "'"), "%q", s)
		assert.Equal(t, s, table.Unquote(q))
	}
	for _, s := range []string{"", "plain", "-2.5", "+3", "1=1", "é"} {
		assert.Equal(t, s, table.Quote(s))
	}
}
