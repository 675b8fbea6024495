package app

import (
	"context"
	"io"

	"dunnock/internal/core/unit"
	"dunnock/internal/formats"
	"dunnock/internal/formats/table"
)

// ReadSwingFile reads a file of swings: by what its columns are said to hold, or by a
// guess. Nothing is kept: whoever asked writes what is wanted of it into a series.
func (a *App) ReadSwingFile(ctx context.Context, who *Actor, body io.Reader, columns []formats.SwingColumn) (*formats.SwingFile, error) {
	b, err := io.ReadAll(io.LimitReader(body, table.MaxBytes+1))
	if err != nil {
		return nil, invalid("file", "The file did not arrive whole: send it again.")
	}
	if len(b) > table.MaxBytes {
		return nil, invalid("file", "A file is at most %d MB.", table.MaxBytes>>20)
	}
	done, err := turn(ctx, reading)
	if err != nil {
		return nil, err
	}
	defer done()
	t, err := formats.ReadSwingTable(ctx, b)
	if err != nil {
		return nil, tableWords(err)
	}
	if columns == nil {
		columns = formats.GuessSwings(t, unit.Unit(who.Units.Speed))
	}
	f, err := formats.ReadSwings(t, columns)
	if err != nil {
		return nil, tableWords(err)
	}
	return f, nil
}
