package quality

import (
	"fmt"
	"strings"

	"dunnock/internal/core/measure"
	"dunnock/internal/core/reliability"
	"dunnock/internal/core/unit"
)

func (c *computer) testSentence(t *measure.Test, tr *TestRead) string {
	switch tr.Status {
	case WasStopped:
		return t.Name + " was stopped: it has no result, and it is not a zero."
	case WasSkipped:
		return t.Name + " was skipped."
	case Untested:
		return t.Name + " was not measured."
	}
	buf := append(append(c.words[:0], t.Name...), ": "...)
	first := true
	for i := range tr.Sides {
		if tr.Sides[i].Result == nil {
			continue
		}
		if !first {
			buf = append(buf, "; "...)
		}
		first = false
		buf = c.sidePart(buf, t, &tr.Sides[i])
	}
	buf = append(buf, '.')
	switch {
	case tr.Status == OneSide:
		buf = append(buf, " Only one side was measured, so the test does not count."...)
	case tr.Status == Stale:
		buf = fmt.Appendf(buf, " Measured on %s, more than %d days before the newest screen: too old to count.", tr.Date.Words(), StaleDays)
	case t.Weight > 0 && tr.Gap == nil:
		buf = append(append(buf, ' '), c.noTarget(t, tr)...)
	}
	c.words = buf
	return string(buf)
}

// sidePart writes one side's result and what it meets.
func (c *computer) sidePart(b []byte, t *measure.Test, s *SideRead) []byte {
	quantity := func(v float64) { b = c.f.Units.Append(b, v, t.Unit, t.Decimals) }
	put := func(text string) { b = append(b, text...) }
	if s.Side != "" {
		put(sideName(s.Side))
		put(" ")
	}
	switch {
	case t.ID == "grip":
		put("best ")
		quantity(*s.Result)
		if *s.Compared != *s.Result {
			b = fmt.Appendf(b, ", mean of %d ", s.Valid)
			quantity(*s.Compared)
		}
	case t.Rule == measure.OneRM:
		put("predicted single ")
		quantity(*s.Result)
		if r := *s.Compared; r != *s.Result {
			put(", " + unit.Text(r, 2) + " × body mass")
		}
	case t.Rule == measure.Spread:
		put("spread ")
		b = c.f.Units.Append(b, *s.Result, t.Unit, t.Decimals+1)
		b = fmt.Appendf(b, " over %d", s.Valid)
	default:
		quantity(*s.Result)
	}
	if s.FallOff != nil {
		put(", falling off " + unit.Text(*s.FallOff, 1) + "%")
	}
	if s.Target == nil {
		return b
	}
	put(" against ")
	if t.Rule == measure.OneRM {
		put(unit.Text(*s.Target, 2))
	} else {
		quantity(*s.Target)
	}
	put(": ")
	put(c.shortBy(t, s))
	return b
}

// shortBy says how a result stands against its target.
func (c *computer) shortBy(t *measure.Test, s *SideRead) string {
	by := func() string { return c.compared(t, unit.Round(*s.Shortfall, max(t.Decimals, 1))) }
	switch s.Verdict {
	case ClearlyShort:
		return by() + " short, clearly"
	case Unclear:
		return by() + " short, perhaps"
	case WithinError:
		return "short within the test's error"
	}
	return "target met"
}

func (c *computer) noTarget(t *measure.Test, tr *TestRead) string {
	switch {
	case t.Rule == measure.OneRM && c.mass == 0:
		return "Body mass is missing, so it meets no target."
	case tr.Variant != "" && tr.Variant != t.ReferenceVariant(c.man):
		return "Done in a way the target does not hold for: not ranked."
	case c.f.Athlete.Sex == "":
		return "Sex was left out and the target depends on it: not ranked."
	default:
		return "No target fits this age: not ranked."
	}
}

// words is a status as it is read in a sentence.
func (s TestStatus) words() string {
	switch s {
	case Untested:
		return "not measured"
	case OneSide:
		return "one side only"
	case Stale:
		return "too old"
	}
	return string(s)
}

func upper(s string) string {
	if s == "" {
		return s
	}
	return strings.ToUpper(s[:1]) + s[1:]
}

func verdictWords(v reliability.Verdict) string {
	switch v {
	case reliability.Real:
		return "a real change"
	case reliability.Unclear:
		return "unclear, less than the test can be sure of"
	default:
		return "within the test's own error"
	}
}
