package formats

import (
	"bytes"
	"context"
	"fmt"
	"math"
	"slices"
	"strconv"
	"strings"
	"unicode/utf8"

	"dunnock/internal/core/label"
	"dunnock/internal/core/speed"
	"dunnock/internal/core/unit"
	"dunnock/internal/formats/table"
)

// What a column of a file of swings may hold.
const (
	SwingClub      = "club"
	SwingBall      = "ball"
	SwingCarry     = "carry"
	SwingLaunch    = "launch"
	SwingSpin      = "spin"
	SwingImplement = "implement"
	SwingSide      = "side"
	SwingSet       = "set"
	SwingLeftOut   = ""
)

// SwingColumn is what a column holds and in which unit.
type SwingColumn struct {
	Quantity string `json:"quantity"`
	Unit     string `json:"unit"` // mph, km/h or m/s of speeds; yd or m of carry
}

// FileSwing is a swing as a file says it; what it does not say is left empty.
type FileSwing struct {
	speed.Swing
	Line int `json:"line"`
}

// SwingFile is a file of swings as it was read.
type SwingFile struct {
	Header   []string         `json:"header"`
	Rows     int              `json:"rows"`
	First    [][]string       `json:"first"` // of its rows
	Columns  []SwingColumn    `json:"columns"`
	Swings   []FileSwing      `json:"swings"`
	Errors   []table.RowError `json:"errors"`
	Warnings []string         `json:"warnings"`
}

// mostErrors of a file are told one by one.
const mostSwingErrors = 50

// swingNames are what headers call the quantities, most telling first.
var swingNames = []struct {
	quantity string
	words    []string
}{
	{SwingBall, []string{"ball"}},
	{SwingCarry, []string{"carry", "distance"}},
	{SwingLaunch, []string{"launch"}},
	{SwingSpin, []string{"spin"}},
	{SwingSet, []string{"set"}},
	{SwingSide, []string{"side", "hand"}},
	{SwingImplement, []string{"implement", "stick", "with"}},
	{SwingClub, []string{"club", "head", "speed", "swing"}},
}

// ReadSwingTable is ReadTable for a file of swings, which may be a single column too.
func ReadSwingTable(ctx context.Context, b []byte) (*table.Table, error) {
	first, _, _ := bytes.Cut(b, []byte("\n"))
	if bytes.HasPrefix(b, []byte("PK")) || bytes.ContainsAny(first, ";\t,\x00") || !utf8.Valid(b) {
		return table.Read(ctx, b)
	}
	t := &table.Table{Kind: "csv"}
	n := 0
	for line := range strings.Lines(strings.TrimPrefix(string(b), "\ufeff")) {
		n++
		text := strings.TrimSpace(line)
		switch {
		case text == "":
			continue
		case len(text) > table.MaxCell:
			return nil, table.None("row %d: the cell has more than %d letters", n, table.MaxCell)
		case len(t.Rows) >= table.MaxRows:
			return nil, table.None("a file holds at most %d rows", table.MaxRows)
		case t.Header == nil:
			t.Header = []string{text}
		default:
			t.Rows = append(t.Rows, table.Row{Line: n, Cells: []string{text}})
		}
	}
	if t.Header == nil {
		return nil, table.None("the file is empty")
	}
	return t, nil
}

// GuessSwings guesses what each column holds from its header; without one the first
// column of numbers is club speed. preferred is the unit of speeds that name none.
func GuessSwings(t *table.Table, preferred unit.Unit) []SwingColumn {
	out := make([]SwingColumn, len(t.Header))
	taken := map[string]bool{}
	for i, h := range t.Header {
		low := strings.ToLower(h)
		for _, n := range swingNames {
			if !taken[n.quantity] && slices.ContainsFunc(n.words, func(w string) bool { return strings.Contains(low, w) }) {
				out[i] = SwingColumn{n.quantity, usualUnit(n.quantity, low, preferred)}
				taken[n.quantity] = true
				break
			}
		}
	}
	if !taken[SwingClub] {
		for i, h := range t.Header {
			if _, err := swingNumber(h); out[i].Quantity == SwingLeftOut && (err == nil || len(t.Header) == 1) {
				out[i] = SwingColumn{SwingClub, string(preferred)}
				break
			}
		}
	}
	return out
}

func usualUnit(quantity, header string, preferred unit.Unit) string {
	switch quantity {
	case SwingClub, SwingBall:
		if u := label.UnitOf(header); slices.Contains([]unit.Unit{unit.MilePerHour, unit.KilometrePerH, unit.MetrePerSecond}, u) {
			return string(u)
		}
		return string(preferred)
	case SwingCarry:
		if preferred == unit.MilePerHour && !strings.Contains(header, "(m)") {
			return "yd"
		}
		return "m"
	}
	return ""
}

// ReadSwings reads the swings of a table by what its columns hold. Rows that cannot be
// read are told and left out; a header that is a row of numbers is a swing too.
func ReadSwings(t *table.Table, columns []SwingColumn) (*SwingFile, error) {
	if len(columns) != len(t.Header) {
		return nil, table.None("the file has %d columns, %d are described", len(t.Header), len(columns))
	}
	f := &SwingFile{Header: t.Header, Rows: len(t.Rows), First: [][]string{}, Columns: columns, Swings: []FileSwing{}, Errors: []table.RowError{}, Warnings: []string{}}
	club := slices.IndexFunc(columns, func(c SwingColumn) bool { return c.Quantity == SwingClub })
	if club < 0 {
		return f, nil // nothing is read until somebody says which column it is
	}
	rows := t.Rows
	if _, err := swingNumber(t.Header[club]); err == nil {
		rows = append([]table.Row{{Line: 1, Cells: t.Header}}, rows...)
	}
	for i := range rows {
		if i < 5 {
			f.First = append(f.First, rows[i].Cells)
		}
		s, err := readSwing(columns, rows[i].Cells)
		if err != nil {
			if len(f.Errors) < mostSwingErrors {
				f.Errors = append(f.Errors, table.RowError{Row: rows[i].Line, Text: err.Error()})
			}
			continue
		}
		f.Swings = append(f.Swings, FileSwing{*s, rows[i].Line})
	}
	by := map[speed.Key][]float64{}
	for _, s := range f.Swings {
		by[s.Key] = append(by[s.Key], s.ClubMps)
	}
	for _, v := range by {
		if speed.MixedUnits(v) {
			f.Warnings = append(f.Warnings, "The fastest is over 1.8 times the slowest: are some in another unit?")
			break
		}
	}
	return f, nil
}

// swingNumber reads a number with a point or a comma before its decimals.
func swingNumber(s string) (float64, error) {
	s = strings.TrimSpace(s)
	if strings.Count(s, ",") == 1 && !strings.Contains(s, ".") {
		s = strings.Replace(s, ",", ".", 1)
	}
	v, err := strconv.ParseFloat(s, 64)
	if err == nil && (math.IsNaN(v) || math.IsInf(v, 0)) {
		return 0, strconv.ErrRange
	}
	return v, err
}

var toMps = map[string]unit.Unit{"mph": unit.MilePerHour, "km/h": unit.KilometrePerH, "m/s": unit.MetrePerSecond, "": unit.MetrePerSecond}

func readSwing(columns []SwingColumn, cells []string) (*speed.Swing, error) {
	s := &speed.Swing{Key: speed.Key{Side: speed.Playing, Intent: speed.Full}, Set: 1, AtS: -1}
	for i, c := range columns {
		text := ""
		if i < len(cells) {
			text = strings.TrimSpace(cells[i])
		}
		if text == "" || c.Quantity == SwingLeftOut {
			continue
		}
		switch c.Quantity {
		case SwingImplement:
			s.Implement = text
			continue
		case SwingSide:
			if low := strings.ToLower(text); strings.HasPrefix(low, "other") || strings.HasPrefix(low, "off") {
				s.Side = speed.Other
			}
			continue
		}
		v, err := swingNumber(text)
		if err != nil {
			return nil, fmt.Errorf("%q is no number", text)
		}
		switch c.Quantity {
		case SwingClub, SwingBall:
			u, ok := toMps[c.Unit]
			if !ok {
				return nil, fmt.Errorf("%q is no unit of speed", c.Unit)
			}
			mps, err := unit.Convert(v, u, unit.MetrePerSecond)
			if err != nil {
				return nil, err
			}
			if c.Quantity == SwingBall {
				s.BallMps = mps
			} else {
				s.ClubMps = mps
			}
		case SwingCarry:
			if s.CarryM = v; c.Unit == "yd" {
				s.CarryM = v * 0.9144
			}
		case SwingLaunch:
			s.Launch = v
		case SwingSpin:
			s.SpinRpm = v
		case SwingSet:
			s.Set = int(v)
		}
	}
	switch err := speed.CheckSpeed(s.ClubMps); {
	case s.ClubMps == 0:
		return nil, fmt.Errorf("there is no club speed")
	case err != nil:
		return nil, fmt.Errorf("%s", strings.TrimPrefix(err.Error(), "speed: "))
	case s.Set < 1 || s.Set > 100:
		return nil, fmt.Errorf("set %d: sets are 1 to 100", s.Set)
	}
	for _, n := range []struct {
		what     string
		v        float64
		low, top float64
	}{{"ball speed in m/s", s.BallMps, 5, 120}, {"carry in m", s.CarryM, 1, 420}, {"launch", s.Launch, 0.1, 60}, {"spin", s.SpinRpm, 1, 12000}} {
		if n.v != 0 && !(n.v >= n.low && n.v <= n.top) {
			return nil, fmt.Errorf("%s: %.4g is outside of %g to %g", n.what, n.v, n.low, n.top)
		}
	}
	return s, nil
}
