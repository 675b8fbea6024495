package quality

import (
	"cmp"
	"math"
	"slices"
	"strings"

	"dunnock/internal/core/measure"
	"dunnock/internal/core/norm"
	"dunnock/internal/core/unit"
)

// worseByChance is by how many typical errors the worse of two sides is expected
// to read low though both are alike: the mean of the larger of two standard
// normal errors, 1/√π.
const worseByChance = 0.56

// gapLow and gapHigh bound a gap, in spreads.
const gapLow, gapHigh = -2, 3

// place sets target and position of a result that meets a target, and keeps how
// far it falls short.
func (c *computer) place(t *measure.Test, sr *SideRead, compared, te float64, target, younger measure.Target) {
	sr.Target, sr.Spread = c.ptr(unit.Round(target.Value, 2)), c.ptr(unit.Round(target.Spread, 2))
	toward := 1.0
	if t.Less {
		toward = -1
	}
	sr.short = toward * (target.Value - compared)
	sr.younger = toward * (younger.Value - compared)
	sr.Position = c.ptr(unit.Round(-sr.short/target.Spread, 2))
	sr.ErrorShare = c.ptr(unit.Round(te/target.Spread, 2))
}

// shortfalls says of every side of a test that met a target how far it falls
// short, and whether that counts.
func (c *computer) shortfalls(t *measure.Test, tr *TestRead) {
	both := len(tr.Sides) == 2 && tr.Sides[0].Target != nil && tr.Sides[1].Target != nil
	for i := range tr.Sides {
		s := &tr.Sides[i]
		if s.Target == nil {
			continue
		}
		if both {
			s.short -= worseByChance * s.Error
			s.younger -= worseByChance * s.Error
		}
		s.Shortfall = c.ptr(unit.Round(s.short, 2))
		s.Verdict = verdictOf(s.short, s.Error, c.b.Z())
		s.Gap = c.ptr(gapOf(t, s.short, *s.Spread))
		s.younger = gapOf(t, s.younger, *s.Spread)
	}
}

func gapOf(t *measure.Test, short, spread float64) float64 {
	gap := norm.Clamp(unit.Round(short/spread, 2), gapLow, gapHigh)
	if t.Range {
		gap = math.Max(0, gap) // more range than the target is no merit
	}
	return gap
}

// tolerance is what a difference of decimals may be off.
const tolerance = 1e-9

// verdictOf says whether a shortfall counts, given its error and the quantile of
// the confidence.
func verdictOf(short, te, z float64) Verdict {
	switch {
	case short <= tolerance:
		return TargetMet
	case short < te-tolerance:
		return WithinError
	case short < z*te-tolerance:
		return Unclear
	}
	return ClearlyShort
}

// accepted reports whether a side of a joint is taken as it is.
func (c *computer) accepted(t *measure.Test, side measure.Side) (why string, ok bool) {
	if !t.Range {
		return "", false
	}
	for _, a := range c.f.AcceptedJoints {
		if a.Covers(t, side) {
			return a.Why, true
		}
	}
	return "", false
}

// plain says what a side's result is against what is wanted, as a coach would,
// without a capital or a stop.
func (c *computer) plain(t *measure.Test, s *SideRead) string {
	text := t.Plain
	if text == "" {
		text = strings.ToLower(t.Name) + " {side}: {value}, {target} is wanted"
		if s.Side == "" {
			text = strings.Replace(text, " {side}", "", 1)
		}
	}
	b := c.words[:0]
	for len(text) > 0 {
		i := strings.IndexByte(text, '{')
		if i < 0 {
			b = append(b, text...)
			break
		}
		b, text = append(b, text[:i]...), text[i+1:]
		name, rest, _ := strings.Cut(text, "}")
		switch name {
		case "side":
			b = append(b, sideName(s.Side)...)
		case "value":
			b = append(b, c.compared(t, *s.Compared)...)
		case "target":
			b = append(b, c.compared(t, *s.Target)...)
		}
		text = rest
	}
	c.words = b
	return string(b)
}

// compared is a number that is held against a target, without needless decimals.
func (c *computer) compared(t *measure.Test, v float64) string {
	if t.Rule == measure.OneRM {
		return unit.Compact(v, 2)
	}
	decimals := t.Decimals
	for decimals > 0 && unit.Round(v, decimals) == unit.Round(v, decimals-1) {
		decimals--
	}
	return c.f.Units.Quantity(v, t.Unit, decimals)
}

// clearSides are the sides of a test that count as short, the worse first.
func clearSides(tr *TestRead) []*SideRead {
	var out []*SideRead
	for i := range tr.Sides {
		if tr.Sides[i].Verdict == ClearlyShort {
			out = append(out, &tr.Sides[i])
		}
	}
	slices.SortStableFunc(out, func(a, b *SideRead) int { return cmp.Compare(*b.Gap, *a.Gap) })
	return out
}

// ranges lists the sides of joints that are clearly short and not accepted as they
// are, the largest gaps first.
func (c *computer) ranges(r *Read) {
	for i := range r.Tests {
		t := &r.Tests[i]
		m := &c.b.Tests()[i]
		if !m.Range || m.Quality != Mobility || t.Status != Measured {
			continue
		}
		c.near(r, m, t)
		for _, s := range clearSides(t) {
			if why, ok := c.accepted(m, s.Side); ok {
				r.note("%s: accepted as it is (%s); kept, not chased.", upper(c.plain(m, s)), why)
				continue
			}
			r.Ranges = append(r.Ranges, RangeFinding{
				Test: t.Test, Side: s.Side, Region: m.Region, Gap: *s.Gap,
				Sentence: upper(c.plain(m, s)) + ".",
				For:      c.goal(m, s),
			})
		}
	}
	slices.SortStableFunc(r.Ranges, func(a, b RangeFinding) int { return cmp.Compare(b.Gap, a.Gap) })
	slices.SortStableFunc(r.Near, func(a, b RangeFinding) int { return cmp.Compare(b.Gap, a.Gap) })
}

// near keeps the sides of a joint that are not clearly short and not past their target by
// a spread either: what a school that lengthens works on where nothing is clear.
func (c *computer) near(r *Read, m *measure.Test, t *TestRead) {
	for i := range t.Sides {
		s := &t.Sides[i]
		if _, ok := c.accepted(m, s.Side); ok || s.Position == nil || *s.Position >= spareFrom || s.Verdict == ClearlyShort || s.Compared == nil || s.Target == nil {
			continue
		}
		r.Near = append(r.Near, RangeFinding{Test: t.Test, Side: s.Side, Region: m.Region, Gap: -*s.Position, For: c.goal(m, s)})
	}
}

// goal is what work on a result is for.
func (c *computer) goal(t *measure.Test, s *SideRead) string {
	name := strings.ToLower(t.Name)
	if s.Side != "" {
		name += ", " + sideName(s.Side)
	}
	return name + ": " + c.compared(t, *s.Compared) + " to " + c.compared(t, *s.Target)
}
