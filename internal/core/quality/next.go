package quality

import (
	"cmp"
	"fmt"
	"math"
	"slices"

	"dunnock/internal/core/measure"
	"dunnock/internal/core/norm"
	"dunnock/internal/core/unit"
)

// What we assume of a result nobody has measured: its gap scatters around
// priorMean spreads with priorSD, a golfer somewhat below target (our own, no
// source).
const priorMean, priorSD = 0.5, 1.0

// next lists the missing tests, the ones most likely to change what stands on
// top first.
func (c *computer) next(r *Read) {
	r.Next = make([]NextTest, 0, 24)
	for i := range r.Tests {
		t := &r.Tests[i]
		m := &c.b.Tests()[i]
		if t.Status == Measured || t.Status == WasStopped || m.Rule == measure.Derived {
			continue
		}
		switch {
		case t.Quality != "" && m.Weight > 0 && m.StandsFor == "":
			if _, ok := m.TargetAt(c.f.Athlete.Sex, c.years); !ok && m.ID != "grip" {
				continue // no target would fit: it cannot change the order
			}
			p, with := c.chance(r, m)
			text := t.Name + ": it carries " + percent(m.Weight) + " of " + Name(t.Quality)
			switch {
			case p >= 0.095:
				text += ", and would change what leads in about " + unit.Text(10*p, 0) + " of 10 golfers like this one."
			case p >= 0.005:
				text += ", and would seldom change what leads."
			default:
				text += "."
			}
			if with != "" {
				text += " It counts only together with " + with + "."
			}
			r.Next = append(r.Next, NextTest{t.Test, m.InSentence(), text, unit.Round(p, 2), 0})
		case t.Test == "driver-speed":
			r.Next = append(r.Next, NextTest{t.Test, m.InSentence(), "Driver speed: without it nobody can say whether the work paid.", 0, 0})
		case t.Test == "cruise-speed":
			r.Next = append(r.Next, NextTest{t.Test, m.InSentence(), "Course swing speed: with driver speed it gives the share of ceiling used.", 0, 0})
		case t.Test == "mass" && c.mass == 0:
			r.Next = append(r.Next, NextTest{t.Test, m.InSentence(), "Body mass: the lift is judged by it.", 0, 0})
		case t.Test == "sitting-height" && c.f.Athlete.Junior(c.on):
			r.Next = append(r.Next, NextTest{t.Test, m.InSentence(), "Sitting height: the growth spurt is estimated from it.", 0, 0})
		case t.Test == "sj" && r.usable("cmj") != nil:
			r.Next = append(r.Next, NextTest{t.Test, m.InSentence(), "Squat jump: with the countermovement jump it shows the use of the stretch.", 0, 0})
		}
	}
	for i := range r.Next {
		r.Next[i].order = c.orderOf(r.Next[i])
	}
	slices.SortStableFunc(r.Next, func(a, b NextTest) int { return cmp.Compare(b.order, a.order) })
}

// orderOf orders the missing tests: by chance, with fixed places for those that
// matter for another reason.
func (c *computer) orderOf(n NextTest) float64 {
	switch n.Test {
	case "mass":
		return 2
	case "sitting-height":
		return 0.35
	case "driver-speed":
		return 1.5
	case "cruise-speed":
		return 0.05
	case "sj":
		return 0.04
	}
	m, _ := c.b.Find(n.Test)
	return n.Chance + 0.001*m.Weight*c.school.Relevance[m.Quality]
}

// chance returns how likely test m alone is to change what leads, under the
// prior, and which other tests it needs before its quality may lead.
func (c *computer) chance(r *Read, m *measure.Test) (p float64, with string) {
	var sum, scored, core, square float64
	var missing []*measure.Test
	for _, i := range c.b.Of(m.Quality) {
		t := &r.Tests[i]
		x := &c.b.Tests()[i]
		if t.Status == Measured && t.Gap != nil {
			w := x.Weight + x.Supplement
			sum, scored = sum+w**t.Gap, scored+w
			core += x.Weight
			e := w * t.Sides[0].Error / *t.Sides[0].Spread
			square += e * e
		} else if x.Weight > 0 && x.ID != m.ID && x.StandsFor == "" {
			missing = append(missing, x)
		}
	}
	rel := c.school.Relevance[m.Quality]
	if rel <= 0 {
		return 0, ""
	}
	if target, ok := m.TargetAt(c.f.Athlete.Sex, c.years); ok {
		e := m.Weight * m.TypicalError(target.Value) / target.Spread
		square += e * e
	}
	all := scored + m.Weight
	// A quality leads when its gap is clear and its need the largest of those.
	clear := math.Max(clearGap, c.b.Z()*math.Sqrt(square)/all)
	first, second, top := 0.0, 0.0, ""
	for _, q := range r.Qualities {
		if q.Status != Ranked || q.Verdict != ClearlyShort {
			continue
		}
		if q.Need > first {
			first, second, top = q.Need, first, q.ID
		} else if q.Need > second {
			second = q.Need
		}
	}
	// The gap this test needs so that the quality is clear and its need reaches a
	// limit.
	needed := func(limit float64) float64 { return (math.Max(limit/rel, clear)*all - sum) / m.Weight }
	if top == m.Quality {
		p = norm.Percentile((needed(second)-priorMean)/priorSD) / 100
	} else {
		p = 1 - norm.Percentile((needed(first)-priorMean)/priorSD)/100
		if needed(first) > gapHigh {
			p = 0 // a gap is never taken for more than that
		}
	}
	if core+m.Weight < MinCoverage-1e-9 && len(missing) > 0 {
		p /= float64(1 + len(missing))
		for i, x := range missing {
			if i > 0 {
				with += " and "
			}
			with += x.InSentence()
		}
	}
	return p, with
}

// mobile says when there is more range than strength to hold it: lengthening
// stops, and strength comes first.
func (c *computer) mobile(r *Read) {
	above, ranges := 0, 0
	for i := range r.Tests {
		t := &r.Tests[i]
		if m := &c.b.Tests()[i]; !m.Range || t.Status != Measured || t.Gap == nil {
			continue
		}
		ranges++
		least := math.Inf(1)
		for _, s := range t.Sides {
			least = math.Min(least, *s.Position)
		}
		if least >= 0.75 {
			above++
		}
	}
	if above < 2 || 2*above < ranges {
		return
	}
	note := fmt.Sprintf("Very mobile: %d of %d range tests lie well above target on both sides. More range is no merit, so nothing is lengthened.", above, ranges)
	for _, q := range r.Qualities {
		switch {
		case q.ID != MaximalStrength:
		case q.Status != Ranked:
			note += " Whether there is strength to hold it was not measured: test the lift next."
		case q.Verdict == ClearlyShort:
			note += " Strength lies clearly below target: range without the strength to hold it loses the club."
		default:
			note += " There is the strength to hold it."
		}
	}
	r.Notes = append(r.Notes, note)
}
