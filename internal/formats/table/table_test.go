package table_test

import (
	"archive/zip"
	"bytes"
	"context"
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"github.com/xuri/excelize/v2"

	"dunnock/internal/formats/table"
)

// bomb is a workbook whose sheet unfolds to n megabytes.
func bomb(t *testing.T, megabytes int) []byte {
	t.Helper()
	var plain bytes.Buffer
	require.NoError(t, excelize.NewFile().Write(&plain))
	zr, err := zip.NewReader(bytes.NewReader(plain.Bytes()), int64(plain.Len()))
	require.NoError(t, err)
	var out bytes.Buffer
	zw := zip.NewWriter(&out)
	chunk := bytes.Repeat([]byte(" "), 1<<20)
	for _, part := range zr.File {
		w, err := zw.Create(part.Name)
		require.NoError(t, err)
		r, err := part.Open()
		require.NoError(t, err)
		var b bytes.Buffer
		_, _ = b.ReadFrom(r)
		before, after, rows := strings.Cut(b.String(), "</sheetData>")
		_, _ = w.Write([]byte(before))
		if rows {
			for range megabytes {
				_, _ = w.Write(chunk)
			}
			_, _ = w.Write([]byte("</sheetData>"))
		}
		_, _ = w.Write([]byte(after))
	}
	require.NoError(t, zw.Close())
	return out.Bytes()
}

func TestFilesThatAreRefused(t *testing.T) {
	small := bomb(t, 300)
	require.Less(t, len(small), 1<<20, "300 MB folded into less than one")
	for name, x := range map[string]struct {
		b    []byte
		says string
	}{
		"zip bomb":      {small, "unfolds to more than"},
		"no workbook":   {[]byte("PK\x03\x04 and nothing"), "could not be read"},
		"old workbook":  {[]byte("\xD0\xCF\x11\xE0\xA1\xB1\x1A\xE1"), "old kind"},
		"picture":       {[]byte("\x89PNG\r\n\x1a\n\x00\x00\x00"), "not a text file"},
		"empty":         {nil, "empty"},
		"header only":   {[]byte("golfer,date,cmj\n"), "no rows"},
		"one column":    {[]byte("hello\nworld\n"), "one column only"},
		"quotes":        {[]byte("golfer,date,cmj\n\"Ada,2026-11-24,30\n"), "quotes do not match"},
		"half a char":   {[]byte{0xFF, 0xFE, 'a'}, "cut off"},
		"far too large": {bytes.Repeat([]byte("a,"), 7<<20), "larger than"},
	} {
		_, err := table.Read(context.Background(), x.b)
		require.Error(t, err, name)
		assert.Contains(t, err.Error(), x.says, name)
	}
}

func BenchmarkReadWideTable(b *testing.B) {
	var s strings.Builder
	s.WriteString("golfer,date")
	for i := range 60 {
		fmt.Fprintf(&s, ",column %d", i)
	}
	for g := range 1000 {
		fmt.Fprintf(&s, "\nGolfer %d,2026-11-24%s", g, strings.Repeat(",31.5", 60))
	}
	b.SetBytes(int64(s.Len()))
	for b.Loop() {
		if _, err := table.ReadGrid(context.Background(), []byte(s.String())); err != nil {
			b.Fatal(err)
		}
	}
}

func FuzzReadGrid(f *testing.F) {
	f.Add([]byte("Name;Date\nA;1\n"))
	f.Add([]byte("PK\x03\x04"))
	f.Add([]byte{0xFF, 0xFE, 'a', 0, ',', 0})
	f.Add([]byte("Jos\xe9,1\n"))
	f.Fuzz(func(t *testing.T, b []byte) {
		g, err := table.ReadGrid(context.Background(), b)
		if err != nil {
			return
		}
		for _, s := range g.Sheets {
			require.NotEmpty(t, s.Rows)
			for i := 1; i < len(s.Rows); i++ {
				require.Greater(t, s.Rows[i].Line, s.Rows[i-1].Line)
			}
		}
	})
}
