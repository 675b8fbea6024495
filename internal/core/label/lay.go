package label

import (
	"fmt"
	"slices"
	"strconv"
	"strings"

	"dunnock/internal/core/measure"
)

// Laid is a block of text laid against the tests of a battery by what is written
// beside and above it.
type Laid struct {
	Lines []Line
	// LeftOut says of everything that was not laid what it was and why.
	LeftOut []LeftOut
}

// Line is a test on one side with the values it gets, in the order of its trials.
type Line struct {
	Test  *measure.Test
	Side  measure.Side
	Label string // as it was written
	Near  bool   // the name is only near: to be looked at
	Cells []Cell
}

// Cell is one value with the trial it is for.
type Cell struct {
	Trial int
	Text  string // with the unit that was written over it, where there was one
}

// LeftOut is something that was not laid.
type LeftOut struct{ Text, Why string }

// notMeasured are the ways of writing that nothing was measured.
var notMeasured = []string{"", "-", "–", "—", "n/a", "na", "n.a.", "dnt", "dnf", "dns", "nt", "n/t", "x", "none", "nil", ".", "/", "?", "tbc", "not tested"}

// NotMeasured reports whether a cell says that nothing was measured.
func NotMeasured(cell string) bool {
	return slices.Contains(notMeasured, strings.ToLower(strings.TrimSpace(cell)))
}

// Lay lays a block with labels for one golfer: tests down with their trials
// across, or tests across with their trials down, headers or none. ok is false
// where neither edge of the block names a test: then it is numbers alone.
func (r *Reader) Lay(grid [][]string, playsRight bool) (out Laid, ok bool) {
	grid = trimmed(grid)
	down, across := r.named(column(grid)), 0
	for _, row := range grid[:min(len(grid), 3)] {
		across = max(across, r.named(row))
	}
	switch {
	case down == 0 && across == 0:
		return Laid{}, false
	case across > down:
		grid = turned(grid)
	}
	r.lay(grid, playsRight, &out)
	return out, true
}

// lay reads tests down.
func (r *Reader) lay(grid [][]string, playsRight bool, out *Laid) {
	labels, heads := labelColumns(grid), []Label(nil)
	taken := map[string]int{} // trials there are, by test and side
	var last Label
	for i, row := range grid {
		text := strings.Join(strings.Fields(strings.Join(row[:labels], " ")), " ")
		l, known := r.Read(text)
		if l.Test == nil && heads == nil && i == 0 {
			// The first row names trials and sides, or nothing that is understood.
			heads = make([]Label, len(row))
			for j := labels; j < len(row); j++ {
				heads[j], _ = r.Read(row[j])
			}
			continue
		}
		if l.Test == nil && known {
			l = l.With(last) // "right", under "Grip left"
		}
		values := row[labels:]
		switch {
		case l.Test == nil && text == "" && empty(values):
			continue
		case l.Test == nil:
			out.leave(strings.TrimSpace(text+" "+strings.Join(values, " ")), "no test is called like this")
			continue
		}
		last = Label{Test: l.Test, Near: l.Near, Unit: l.Unit}
		for j, v := range values {
			at := l
			if heads != nil {
				at = l.With(heads[labels+j])
			}
			r.put(out, at, text, v, playsRight, taken)
		}
	}
}

// put lays one value.
func (r *Reader) put(out *Laid, l Label, text, value string, playsRight bool, taken map[string]int) {
	side := l.SideFor(l.Test, playsRight)
	name := strings.TrimSpace(l.Test.Name + " " + string(side))
	switch {
	case strings.TrimSpace(value) == "":
		return
	case NotMeasured(value):
		out.leave(text+" "+value, "not measured")
		return
	case l.Summary:
		out.leave(text+" "+value, "worked out from others: the trials count")
		return
	case l.Test.Kind != measure.Unsided && !l.Test.HasSide(side):
		s := l.Test.Kind.Sides()
		out.leave(text+" "+value, fmt.Sprintf("%s needs a side: %s or %s, left or right", l.Test.Name, s[0], s[1]))
		return
	}
	if l.Test.Kind == measure.Unsided {
		side = ""
	}
	key := l.Test.ID + "|" + string(side)
	trial := l.Trial
	if trial == 0 {
		trial = taken[key] + 1
	}
	if trial > l.Test.Trials {
		out.leave(text+" "+value, fmt.Sprintf("%s has %d trials", name, l.Test.Trials))
		return
	}
	taken[key] = max(taken[key], trial)
	if l.Unit != "" {
		value += " " + string(l.Unit)
	}
	i := slices.IndexFunc(out.Lines, func(x Line) bool { return x.Test == l.Test && x.Side == side })
	if i < 0 {
		out.Lines = append(out.Lines, Line{Test: l.Test, Side: side, Label: text, Near: l.Near})
		i = len(out.Lines) - 1
	}
	if slices.ContainsFunc(out.Lines[i].Cells, func(c Cell) bool { return c.Trial == trial }) {
		out.leave(text+" "+value, fmt.Sprintf("%s, trial %d is there already", name, trial))
		return
	}
	out.Lines[i].Cells = append(out.Lines[i].Cells, Cell{trial, value})
}

func (l *Laid) leave(text, why string) {
	l.LeftOut = append(l.LeftOut, LeftOut{strings.TrimSpace(text), why})
}

// labelColumns is how many columns at the left hold words, of at most three.
func labelColumns(grid [][]string) int {
	n := 1
	for ; n < min(3, len(grid[0])-1); n++ {
		words, numbers := 0, 0
		for _, row := range grid[min(1, len(grid)-1):] {
			switch c := strings.TrimSpace(row[n]); {
			case NotMeasured(c):
			case strings.ContainsAny(c, "0123456789"):
				numbers++
			default:
				words++
			}
		}
		if words <= numbers {
			break
		}
	}
	return n
}

// named counts the cells that name a test.
func (r *Reader) named(cells []string) int {
	n := 0
	for _, c := range cells {
		if _, err := strconv.ParseFloat(strings.TrimSpace(c), 64); err == nil {
			continue
		}
		if l, ok := r.Read(c); ok && l.Test != nil {
			n++
		}
	}
	return n
}

func column(grid [][]string) []string {
	out := make([]string, len(grid))
	for i, row := range grid {
		out[i] = row[0]
	}
	return out
}

// trimmed is the grid with rows of one length and none that is empty; it has one
// row and one column at least.
func trimmed(grid [][]string) [][]string {
	width := 1
	var out [][]string
	for _, row := range grid {
		if !empty(row) {
			out = append(out, row)
			width = max(width, len(row))
		}
	}
	if out == nil {
		out = [][]string{{""}}
	}
	for i, row := range out {
		out[i] = append(slices.Clone(row), make([]string, width-len(row))...)
	}
	return out
}

func empty(cells []string) bool {
	return !slices.ContainsFunc(cells, func(c string) bool { return strings.TrimSpace(c) != "" })
}

func turned(grid [][]string) [][]string {
	out := make([][]string, len(grid[0]))
	for j := range out {
		out[j] = make([]string, len(grid))
		for i := range grid {
			out[j][i] = grid[i][j]
		}
	}
	return out
}
