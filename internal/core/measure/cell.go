package measure

import (
	"fmt"
	"math"
	"slices"
	"strconv"
	"strings"

	"dunnock/internal/core/unit"
	"dunnock/internal/core/words"
)

// Letters a note of a trial and the names beside it may have.
const (
	maxNote = 300
	maxName = 120
)

// Cell is what a coach typed, pasted or imported for one trial, before it is
// understood.
type Cell struct {
	Test      string
	Side      string
	Trial     int
	Text      string // the value as typed: "42.5", or "100x5@2" for a lift
	Unit      string // empty: the test's own unit
	Status    string // empty: done
	Variant   string // empty: the golfer's reference variant
	Pain      int
	Region    string
	Tingling  bool // tingling or numbness of arm or hand
	Note      string
	GaveOut   string
	Tester    string
	Device    string
	At        string
	Confirmed bool
	// DecimalComma says that a comma is a decimal one even where it may set
	// thousands apart: "42,500" is 42.5.
	DecimalComma bool
}

// A CellError says what is wrong with a cell, which part of it, and what to do.
type CellError struct {
	Field string // test, side, trial, value, unit, status, variant, pain, region
	Text  string
	// Unlikely is set when the value is outside plausible limits and only needs
	// to be confirmed.
	Unlikely bool
	// Offers are ways of writing the value that would be understood.
	Offers []string
}

func (e *CellError) Error() string { return e.Text }

func bad(field, format string, args ...any) *CellError {
	return &CellError{Field: field, Text: fmt.Sprintf(format, args...)}
}

// Parse turns a cell into a trial of a battery. referenceVariant is the variant
// to assume when the cell names none. The error, when there is one, is a
// *CellError.
func (c Cell) Parse(b *Battery, referenceVariant func(*Test) string) (Trial, error) {
	t, ok := b.Find(strings.TrimSpace(c.Test))
	if !ok {
		return Trial{}, bad("test", "there is no test %q: use one of %s", clip(c.Test, 60), b.idList())
	}
	if t.Rule == Derived {
		return Trial{}, bad("test", "%s is computed from other tests: there is nothing to enter", t.Name)
	}
	side := Side(strings.ToLower(strings.TrimSpace(c.Side)))
	if !t.HasSide(side) {
		if t.Kind == Unsided {
			return Trial{}, bad("side", "%s has no sides: leave the side empty", t.Name)
		}
		s := t.Kind.Sides()
		return Trial{}, bad("side", "side %q does not fit %s: use %s or %s", c.Side, t.Name, s[0], s[1])
	}
	if c.Trial < 1 || c.Trial > t.Trials {
		return Trial{}, bad("trial", "trial %d does not exist: %s has trials 1 to %d", c.Trial, t.Name, t.Trials)
	}
	tr := Trial{Test: t.ID, Side: side, Number: c.Trial, Pain: c.Pain, Region: c.Region, Tingling: c.Tingling, Note: c.Note, Variant: c.Variant, Tester: c.Tester, Device: c.Device, At: c.At}
	if tr.Variant == "" {
		tr.Variant = referenceVariant(t)
	}
	if !t.HasVariant(tr.Variant) {
		return Trial{}, bad("variant", "%q is not a way of doing %s", tr.Variant, t.Name)
	}
	if c.Pain < 0 || c.Pain > 10 {
		return Trial{}, bad("pain", "pain is a number from 0 to 10, not %d", c.Pain)
	}
	if c.Region != "" && !KnownRegion(c.Region) {
		return Trial{}, bad("region", "%q is not a body region: use one of %s", c.Region, strings.Join(Regions(), ", "))
	}
	if c.Tingling && c.Region == "" {
		return Trial{}, bad("region", "tingling or numbness needs a body region")
	}
	if c.Pain >= PainStop && c.Region == "" {
		return Trial{}, bad("region", "pain of %d needs a body region", c.Pain)
	}
	for field, text := range map[string]string{"note": words.Text(c.Note, maxNote), "tester": words.Line(c.Tester, maxName), "device": words.Line(c.Device, maxName)} {
		if text != "" {
			return Trial{}, bad(field, "the %s %s", field, text)
		}
	}
	switch Status(strings.ToLower(strings.TrimSpace(c.Status))) {
	case "", Done:
		tr.Status = Done
	case Stopped:
		tr.Status = Stopped
	case Skipped:
		tr.Status = Skipped
	default:
		return Trial{}, bad("status", "status %q is not known: use done, stopped or skipped", c.Status)
	}
	if tr.Status != Done {
		if strings.TrimSpace(c.Text) != "" {
			return Trial{}, bad("value", "a %s trial has no value: clear %q or mark it done", tr.Status, c.Text)
		}
		return tr, nil
	}
	if c.Pain >= PainStop {
		return Trial{}, bad("status", "pain of %d stops the test: mark the trial stopped, it keeps no value", c.Pain)
	}
	if c.Tingling {
		return Trial{}, bad("status", "tingling or numbness stops the test: mark the trial stopped, it keeps no value")
	}
	if e := c.parseValue(t, &tr); e != nil {
		e.Text = c.Place(t) + ": " + e.Text
		return Trial{}, e
	}
	return tr, nil
}

// parseValue reads the cell's text into the trial.
func (c Cell) parseValue(t *Test, tr *Trial) *CellError {
	switch t.Rule {
	case OneRM:
		return c.parseLift(t, tr)
	case Ladder:
		return c.parseRung(t, tr)
	}
	if t.Flight {
		c = c.withoutFlight()
	}
	stored, e := c.amount(t, c.Text)
	if e != nil {
		return e
	}
	if t.Unit == unit.Repetition && stored != math.Trunc(stored) {
		return bad("value", "whole repetitions are counted, not %s", c.Text)
	}
	tr.Value = stored
	tr.Confirmed = c.Confirmed && !within(stored, t.Plausible)
	return nil
}

// amount reads a number in the cell's unit, holds it against the test's limits
// and returns it in the test's unit.
func (c Cell) amount(t *Test, text string) (float64, *CellError) {
	v, u, e := c.typed(t, text)
	if e != nil {
		return 0, e
	}
	typed := u
	if typed == "" {
		typed = t.Unit
	}
	stored, err := unit.Convert(v, u, t.Unit)
	if err != nil {
		field := "value" // where the unit was written
		if own, _ := unit.Parse(c.Unit); own == u {
			field = "unit"
		}
		return 0, bad(field, "it is measured in %s: %v", t.Unit, err)
	}
	// Four decimals keep a value typed in another unit exact to what was typed.
	stored = unit.Round(stored, 4)
	return stored, t.limits(stored, v, typed, c.Confirmed)
}

// withoutFlight turns a flight time, such as 0.53s or 530 ms, into the jump
// height it stands for; other cells stay as they are.
func (c Cell) withoutFlight() Cell {
	text, per := strings.TrimSpace(c.Text), 0.0
	for _, x := range []struct {
		suffix string
		per    float64
	}{{"ms", 1000}, {"s", 1}} {
		if t, ok := strings.CutSuffix(text, x.suffix); ok {
			text, per = t, x.per
			break
		}
		if strings.TrimSpace(c.Unit) == x.suffix {
			per = x.per
			break
		}
	}
	if per == 0 {
		return c
	}
	v, err := number(text, c.DecimalComma)
	if err != nil {
		return c
	}
	cm, err := HeightFromFlight(v / per)
	if err != nil {
		return c
	}
	c.Text, c.Unit = unit.Compact(cm, 2), string(unit.Centimetre)
	return c
}

// parseRung reads one swing of an implement ladder, speed @ grams.
func (c Cell) parseRung(t *Test, tr *Trial) *CellError {
	m := rung.FindStringSubmatch(strings.TrimSpace(primes.Replace(c.Text)))
	if m == nil {
		return bad("value", "write speed @ mass in grams, such as 118@310, not %q", clip(c.Text, 30))
	}
	v, e := c.amount(t, m[1])
	if e != nil {
		return e
	}
	g, err := number(m[2], true)
	if err != nil {
		return bad("value", "%v", err)
	}
	if g < 50 || g > 1500 {
		return bad("value", "an implement of %s g is not possible: give 50 to 1500 g", m[2])
	}
	tr.Value, tr.MassG = v, unit.Round(g, 1)
	tr.Confirmed = c.Confirmed && !within(v, t.Plausible)
	return nil
}

// parseLift reads a set: load x repetitions @ repetitions left in reserve.
func (c Cell) parseLift(t *Test, tr *Trial) *CellError {
	m := lift.FindStringSubmatch(strings.TrimSpace(primes.Replace(c.Text)))
	if m == nil {
		return bad("value", "write load x repetitions @ repetitions in reserve, such as 100x5@2, not %q", clip(c.Text, 30))
	}
	load, e := c.amount(t, m[1])
	if e != nil {
		return e
	}
	reps, _ := strconv.Atoi(m[2])
	if reps < 1 || reps > 10 {
		return bad("value", "%s repetitions: the prediction holds for 1 to 10, choose a heavier or lighter set", m[2])
	}
	left := m[3] + m[4]
	if left == "" {
		set := strings.TrimSpace(m[1]) + "x" + m[2]
		e := bad("value", "how many repetitions were left in reserve after %s?", set)
		for _, n := range []string{"0", "1", "2", "3", "4"} {
			e.Offers = append(e.Offers, set+"@"+n)
		}
		return e
	}
	reserve, err := number(left, true)
	if err != nil {
		return bad("value", "%v", err)
	}
	if reserve < 0 || reserve > 6 {
		return bad("value", "%s in reserve: give 0 to 6", left)
	}
	tr.Value = load
	tr.Lift = &Lift{LoadKg: load, Reps: reps, Reserve: unit.Round(reserve, 1)}
	if c.GaveOut != "" && !slices.Contains(GaveOutFirst, c.GaveOut) {
		return bad("gaveOut", "say what gave out first: legs, back or grip, not %q", clip(c.GaveOut, 30))
	}
	tr.GaveOut = c.GaveOut
	tr.Confirmed = c.Confirmed && !within(tr.Value, t.Plausible)
	return nil
}

func within(v float64, lim [2]float64) bool { return v >= lim[0] && v <= lim[1] }

// limits judges a stored value; v and u are the value as typed, so that the
// message speaks of what is on the screen.
func (t *Test) limits(stored, v float64, u unit.Unit, confirmed bool) *CellError {
	show := func(lim float64) string {
		c, err := unit.Convert(lim, t.Unit, u)
		if err != nil {
			c = lim
		}
		return unit.Compact(c, 1)
	}
	if !within(stored, t.Impossible) {
		e := bad("value", "%s is not possible: it lies between %s and %s", unit.Words(v, u), show(t.Impossible[0]), show(t.Impossible[1]))
		e.Offers = t.meant(v, u)
		return e
	}
	if !confirmed && !within(stored, t.Plausible) {
		e := bad("value", "%s is unlikely (usually %s to %s): check it, then confirm", unit.Words(v, u), show(t.Plausible[0]), show(t.Plausible[1]))
		e.Unlikely, e.Offers = true, t.meant(v, u)
		return e
	}
	return nil
}

// Text writes a trial's value the way a coach would type it, in the unit u; in
// the test's own when u is empty.
func (t Trial) Text(test *Test, u unit.Unit) string {
	if t.Status != Done {
		return ""
	}
	if t.Lift != nil {
		load := t.Lift.LoadKg
		if c, err := unit.Convert(load, unit.Kilogram, u); err == nil && u != "" {
			load = c
		}
		return unit.Compact(load, 2) + "x" + strconv.Itoa(t.Lift.Reps) + "@" + unit.Compact(t.Lift.Reserve, 1)
	}
	v := t.Value
	if c, err := unit.Convert(v, test.Unit, u); err == nil && u != "" {
		v = c
	}
	if t.MassG > 0 {
		return unit.Compact(v, 2) + "@" + unit.Compact(t.MassG, 1)
	}
	return unit.Compact(v, 2)
}

func clip(s string, n int) string {
	r := []rune(s)
	if len(r) <= n {
		return s
	}
	return string(r[:n]) + "…"
}

func (b *Battery) idList() string {
	var ids []string
	for i := range b.tests {
		if b.tests[i].Rule != Derived {
			ids = append(ids, b.tests[i].ID)
		}
	}
	return strings.Join(ids, ", ")
}

// Check returns what is wrong with a stored trial of a battery, or "".
func (t Trial) Check(b *Battery) string {
	test, ok := b.Find(t.Test)
	switch {
	case !ok:
		return fmt.Sprintf("there is no test %q", t.Test)
	case !test.HasSide(t.Side):
		return fmt.Sprintf("side %q does not fit %s", t.Side, test.Name)
	case t.Number < 1 || t.Number > test.Trials:
		return fmt.Sprintf("trial %d does not exist in %s", t.Number, test.Name)
	case t.Status != Done && t.Status != Stopped && t.Status != Skipped:
		return fmt.Sprintf("status %q is not known", t.Status)
	case t.Status != Done && (t.Value != 0 || t.Lift != nil):
		return fmt.Sprintf("a %s trial has no value", t.Status)
	case t.Status == Done && !within(t.Value, test.Impossible):
		return fmt.Sprintf("%s: %g %s is not possible", test.Name, t.Value, test.Unit)
	case t.Status == Done && (t.Lift != nil) != (test.Rule == OneRM):
		return fmt.Sprintf("%s: a lift, and only a lift, has load, repetitions and reserve", test.Name)
	case t.Lift != nil && (t.Lift.LoadKg != t.Value || t.Lift.Reps < 1 || t.Lift.Reps > 10 || t.Lift.Reserve < 0 || t.Lift.Reserve > 6):
		return fmt.Sprintf("%s: the set is not possible", test.Name)
	case (t.MassG != 0) != (t.Status == Done && test.Rule == Ladder) || t.MassG < 0 || t.MassG > 1500:
		return fmt.Sprintf("%s: a swing of a ladder, and only that, names the mass of its implement", test.Name)
	case t.GaveOut != "" && (t.Lift == nil || !slices.Contains(GaveOutFirst, t.GaveOut)):
		return fmt.Sprintf("%s: only a lift says what gave out first: legs, back or grip", test.Name)
	case t.Variant != "" && !test.HasVariant(t.Variant):
		return fmt.Sprintf("%q is not a way of doing %s", t.Variant, test.Name)
	case t.Pain < 0 || t.Pain > 10 || t.Region != "" && !KnownRegion(t.Region):
		return "pain is 0 to 10 in a known region"
	case t.Tingling && (t.Region == "" || t.Status == Done):
		return "tingling or numbness names a region, and stops the test"
	case words.Text(t.Note, maxNote) != "":
		return "the note " + words.Text(t.Note, maxNote)
	case words.Line(t.Tester, maxName) != "":
		return "the tester " + words.Line(t.Tester, maxName)
	case words.Line(t.Device, maxName) != "":
		return "the device " + words.Line(t.Device, maxName)
	}
	return ""
}
