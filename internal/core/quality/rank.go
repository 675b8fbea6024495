package quality

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"dunnock/internal/core/unit"
)

func (c *computer) qualities(r *Read) {
	worstJoint := 0.0
	for i := range r.Tests {
		t := &r.Tests[i]
		for j := range t.Sides {
			if m, s := &c.b.Tests()[i], &t.Sides[j]; m.Range && s.Gap != nil && t.Status != Stale {
				worstJoint = math.Max(worstJoint, *s.Gap)
			}
		}
	}
	var list []Standing
	for _, id := range IDs() {
		list = append(list, c.standing(r, id, worstJoint))
	}
	slices.SortStableFunc(list, func(a, b Standing) int {
		if ra, rb := a.Status == Ranked, b.Status == Ranked; ra != rb {
			if ra {
				return -1
			}
			return 1
		}
		if a.Status != Ranked {
			return strings.Compare(a.ID, b.ID)
		}
		if ta, tb := c.priority(a), c.priority(b); ta != tb {
			return ta - tb
		}
		switch {
		case a.Need > b.Need:
			return -1
		case a.Need < b.Need:
			return 1
		}
		return strings.Compare(a.ID, b.ID)
	})
	for i := range list {
		if list[i].Status == Ranked {
			list[i].Rank = i + 1
			list[i].Why = c.why(list[i])
		}
	}
	r.Qualities = list
}

// priority puts qualities in the school's own order before need is looked at.
func (c *computer) priority(s Standing) int {
	if !c.school.StrengthLeads {
		return 0
	}
	switch s.ID {
	case MaximalStrength:
		if s.Gap > 0 {
			return 0
		}
		return 2
	case VerticalPower, HorizontalPower, RotationalPower:
		return 1
	default:
		return 2
	}
}

func (c *computer) why(s Standing) string {
	if c.school.StrengthLeads {
		switch c.priority(s) {
		case 0:
			return c.school.Name + ": while the lift is below its target, strength leads whatever the other needs are."
		case 1:
			return fmt.Sprintf("%s: power comes after strength, by need (%s).", c.school.Name, unit.Text(s.Need, 2))
		}
	}
	return fmt.Sprintf("%s: need %s = gap %s × relevance %s.", c.school.Name, unit.Text(s.Need, 2), unit.Text(s.Gap, 2), unit.Text(s.Relevance, 1))
}

func (c *computer) standing(r *Read, id string, worstJoint float64) Standing {
	s := Standing{ID: id, Name: Name(id), Relevance: c.school.Relevance[id]}
	// Measured and core weights speak of coverage; scored and sum also hold the
	// supplementary tests, which refine a score and never complete it.
	var total, measured, core, scored, sum float64
	stood := false
	var missing, worst []string
	worstGap := math.Inf(-1)
	for i := range r.Tests {
		t := &r.Tests[i]
		if t.Quality != id {
			continue
		}
		m := &c.b.Tests()[i]
		w := m.Weight
		if m.StandsFor != "" {
			// Another test in the place of the one that counts, when that one is not
			// there: the first one measured.
			if lead := r.find(m.StandsFor); stood || lead == nil || lead.Status == Measured {
				continue
			}
			if t.Status != Measured || t.Gap == nil {
				continue
			}
			stood, w, total = true, m.Weight, total-m.Weight
		}
		total += w
		if t.Status != Measured {
			if w > 0 {
				missing = append(missing, strings.ToLower(t.Name)+" ("+string(t.Status)+")")
			}
			continue
		}
		measured += w
		if t.Gap == nil {
			continue
		}
		core += w
		w += m.Supplement
		scored += w
		sum += w * *t.Gap
		if *t.Gap > worstGap {
			worstGap = *t.Gap
			worst = worst[:0]
			worst = append(worst, strings.TrimSuffix(t.Sentence, "."))
		}
	}
	s.Coverage = unit.Round(measured/total, 2)
	covered := fmt.Sprintf("%s of it was measured", percent(s.Coverage))
	switch {
	case measured == 0:
		s.Status = NotMeasured
		s.Sentence = upper(s.Name) + " was not measured: " + strings.Join(missing, ", ") + "."
		return s
	case s.Coverage < MinCoverage:
		s.Status = UnderTested
		s.Sentence = fmt.Sprintf("%s is not ranked: %s, and %s is needed. Missing: %s.", upper(s.Name), covered, percent(MinCoverage), strings.Join(missing, ", "))
		return s
	case core/total < MinCoverage-1e-9:
		s.Status = NoTarget
		s.Sentence = fmt.Sprintf("%s is not ranked: it was measured, but no target fits.", upper(s.Name))
		for i := range r.Tests {
			if m := &c.b.Tests()[i]; m.Weight == 0 || m.StandsFor != "" {
				continue
			}
			if t := &r.Tests[i]; t.Quality == id && t.Status == Measured && t.Gap == nil {
				s.Sentence += " " + t.Sentence
			}
		}
		return s
	}
	s.Gap = unit.Round(sum/scored, 2)
	s.Need = unit.Round(s.Gap*s.Relevance, 2)
	if id == Mobility && c.school.MobilityFromJointGap > 0 && worstJoint < c.school.MobilityFromJointGap {
		s.Status = NoTarget
		s.Sentence = fmt.Sprintf(
			"Mobility is left out of the order: under %s it counts from a joint %s spreads short, and the worst here is %s. %s.",
			strings.ToLower(c.school.Name),
			unit.Compact(c.school.MobilityFromJointGap, 1),
			unit.Text(worstJoint, 2),
			worst[0],
		)
		return s
	}
	s.Status = Ranked
	switch {
	case s.Gap > 0:
		s.Against = unit.Text(s.Gap, 2) + " spreads below target"
	case s.Gap == 0:
		s.Against = "at target"
	default:
		s.Against = unit.Text(-s.Gap, 2) + " spreads above target"
	}
	s.Sentence = upper(s.Name) + " is " + s.Against
	if s.Gap < 0 {
		s.Sentence += ": it holds nothing back"
	}
	s.Sentence += ". " + worst[0] + "."
	if len(missing) > 0 {
		s.Sentence += fmt.Sprintf(" %s; missing: %s.", upper(covered), strings.Join(missing, ", "))
	}
	return s
}

func percent(v float64) string { return unit.Text(100*v, 0) + "%" }
