package quality

import (
	"cmp"
	"fmt"
	"math"
	"slices"
	"strings"

	"dunnock/internal/core/measure"
	"dunnock/internal/core/school"
	"dunnock/internal/core/unit"
)

// clearGap is the gap, in spreads, below which no quality is clearly short however
// small its error is.
const clearGap = 0.25

// levelWith is the share of the leader's need from which a second quality stands
// level with it.
const levelWith = 0.85

// mostBuilt is how many qualities beside those that lead are built.
const mostBuilt = 3

// spareFrom is by how many spreads every measured joint lies past its target, on
// both sides, where range is spared.
const spareFrom = 1

// metBoost is what the need of a clearly short power quality is worth more once
// the lift is there, where the school puts strength first.
const metBoost = 1.25

// qualities reads every quality and puts them in order.
func (c *computer) qualities(r *Read) {
	list := make([]Standing, 0, len(IDs()))
	for _, id := range IDs() {
		list = append(list, c.standing(r, id))
	}
	c.boost(list)
	c.levels(r, list)
	slices.SortStableFunc(list, func(a, b Standing) int {
		if d := a.group() - b.group(); d != 0 {
			return d
		}
		if a.Status == Ranked {
			if d := cmp.Compare(b.Need, a.Need); d != 0 {
				return d
			}
		}
		return strings.Compare(a.ID, b.ID)
	})
	for i := range list {
		if list[i].Status == Ranked {
			list[i].Rank = i + 1
		}
		if list[i].Level == Lead {
			list[i].Worth = c.worthOf(&list[i])
		}
	}
	r.Qualities = list
}

// group orders what leads before what is ranked before what is not.
func (s *Standing) group() int {
	switch {
	case s.Status == Ranked && s.Level == Lead:
		return 0
	case s.Status == Ranked:
		return 1
	}
	return 2
}

// find returns the standing of a quality.
func find(list []Standing, id string) *Standing {
	for i := range list {
		if list[i].ID == id {
			return &list[i]
		}
	}
	return nil
}

// strengthMet reports whether the lift is tested and not clearly below its
// target: what the school that puts strength first waits for.
func strengthMet(list []Standing) bool {
	s := find(list, MaximalStrength)
	return s.Status == Ranked && s.Verdict != ClearlyShort
}

// boost raises the needs of clearly short power qualities once the lift is there.
func (c *computer) boost(list []Standing) {
	if !c.school.StrengthFirst() || !strengthMet(list) {
		return
	}
	for _, id := range []string{VerticalPower, HorizontalPower, RotationalPower} {
		if s := find(list, id); s.Status == Ranked && s.Verdict == ClearlyShort {
			s.Need = unit.Round(s.Need*metBoost, 2)
			s.Why += fmt.Sprintf(" The lift is there, so power counts × %s: need %s.", unit.Compact(metBoost, 2), unit.Text(s.Need, 2))
		}
	}
}

// mayLead reports whether a quality may lead: it is covered and clear, and, near
// the growth spurt, clear for an age one year younger too.
func (c *computer) mayLead(r *Read, s *Standing) bool {
	if s.Status != Ranked || s.Verdict != ClearlyShort || s.Need <= 0 {
		return false
	}
	if c.nearSpurt(r) && (s.ID == StretchUse || !c.counts(s.younger, s.Error)) {
		return false
	}
	return true
}

// nearSpurt reports whether the golfer is, or may be, within a year of the growth
// spurt: a spurt that cannot be estimated is taken for near.
func (c *computer) nearSpurt(r *Read) bool {
	return c.f.Athlete.Junior(c.on) && (r.Maturity == nil || r.Maturity.NearSpurt)
}

// counts reports whether a gap with an error is clear.
func (c *computer) counts(gap, e float64) bool {
	return gap >= c.b.Z()*e-tolerance && gap >= clearGap-tolerance
}

// levels says which qualities lead, are built, kept and spared.
func (c *computer) levels(r *Read, list []Standing) {
	r.Leaders = []string{}
	clear := func(keep func(*Standing) bool) []*Standing {
		var out []*Standing
		for i := range list {
			if keep(&list[i]) {
				out = append(out, &list[i])
			}
		}
		slices.SortStableFunc(out, func(a, b *Standing) int { return cmp.Compare(b.Need, a.Need) })
		return out
	}
	for i := range list {
		list[i].Level = Keep
	}
	r.Stage = c.school.StageOf(func(id string) bool { s := find(list, id); return s.Status == Ranked && s.Verdict == ClearlyShort })
	stage := &c.school.Stages[r.Stage]
	able := clear(func(s *Standing) bool { return c.mayLead(r, s) })
	lead := clear(func(s *Standing) bool { return stage.May(s.ID) && c.mayLead(r, s) })
	if len(lead) > 0 {
		lead[0].Level = Lead
		r.Leaders = append(r.Leaders, lead[0].ID)
	}
	if len(lead) > 1 && c.standLevel(lead[0], lead[1]) {
		lead[1].Level = Lead
		r.Leaders = append(r.Leaders, lead[1].ID)
	}
	build := clear(func(s *Standing) bool { return s.Level == Keep && s.Verdict == ClearlyShort })
	if len(r.Ranges) > 0 {
		// A clear joint is built whoever leads: an average hides one bad joint.
		if m := find(list, Mobility); m.Level == Keep {
			build = slices.DeleteFunc(build, func(s *Standing) bool { return s == m })
			build = slices.Insert(build, 0, m)
		}
	}
	for _, s := range build[:min(len(build), mostBuilt)] {
		s.Level = Build
	}
	if len(able) > 0 && !stage.May(able[0].ID) && able[0].Level == Build {
		able[0].Outsider = true
		able[0].Why += fmt.Sprintf(" %s lets something else lead: it is built meanwhile.", c.school.Name)
	}
	if s := find(list, MaximalStrength); c.school.StrengthFirst() && strengthMet(list) && s.Level == Keep {
		s.Level = Build
		s.Why += " The lift is there: strength is built at its lower end for one block, then kept."
	}
	c.raise(list, stage)
	if m := find(list, Mobility); (m.Level == Keep || m.Raised) && c.pastTarget(r) {
		m.Level, m.Raised = Spare, false
	}
}

// mostRaised is how many qualities a school builds without their being clearly short.
const mostRaised = 2

// raise builds what the school wants raised and is not clearly short: no cause of
// anything, and the first to go where minutes are short.
func (c *computer) raise(list []Standing, stage *school.Stage) {
	n := 0
	for _, id := range stage.Raise {
		if s := find(list, id); s.Level == Keep && n < mostRaised && !(id == StretchUse && c.f.Athlete.Junior(c.on)) {
			s.Level, s.Raised = Build, true
			s.Why += fmt.Sprintf(" %s raises it, short or not.", c.school.Name)
			n++
		}
	}
}

// standLevel reports whether a second quality stands level with the first: it has
// most of its need, and their difference is within the errors.
func (c *computer) standLevel(a, b *Standing) bool {
	e := math.Hypot(a.Relevance*a.Error, b.Relevance*b.Error)
	return b.Need >= levelWith*a.Need-tolerance && a.Need-b.Need < c.b.Z()*e
}

// pastTarget reports whether every measured joint lies a spread past its target on
// both sides.
func (c *computer) pastTarget(r *Read) bool {
	joints := 0
	for i := range r.Tests {
		t := &r.Tests[i]
		if m := &c.b.Tests()[i]; !m.Range || m.Quality != Mobility || t.Status != Measured || t.Gap == nil {
			continue
		}
		joints++
		for _, s := range t.Sides {
			if *s.Position < spareFrom-tolerance {
				return false
			}
		}
	}
	return joints > 0
}

// part is one test's share in a quality.
type part struct {
	test                        *TestRead
	def                         *measure.Test
	weight, gap, younger, error float64
}

// gathered is what a quality's tests come to.
type gathered struct {
	// total and measured weights speak of coverage; the parts also hold the
	// supplementary tests, which refine a gap and never complete it.
	total, measured, core float64
	parts                 []part
	missing               []string
}

// gather collects the tests of a quality: those in the place of another only where
// that one is not there, the first one measured.
func (c *computer) gather(r *Read, id string) gathered {
	var g gathered
	stood := false
	for _, i := range c.b.Of(id) {
		t := &r.Tests[i]
		m := &c.b.Tests()[i]
		w := m.Weight
		if m.StandsFor != "" {
			if lead := r.find(m.StandsFor); stood || lead == nil || lead.Status == Measured {
				continue
			}
			if t.Status != Measured || t.Gap == nil {
				continue
			}
			stood = true
			g.total -= w
		}
		g.total += w
		if t.Status != Measured {
			if w > 0 {
				g.missing = append(g.missing, m.InSentence()+" ("+t.Status.words()+")")
			}
			continue
		}
		g.measured += w
		if t.Gap == nil {
			continue
		}
		g.core += w
		if s := c.countedSide(m, t); s != nil {
			g.parts = append(g.parts, part{t, m, w + m.Supplement, *s.Gap, s.younger, s.Error / *s.Spread})
		}
	}
	return g
}

// countedSide is the side of a test that its gap is taken from: the worse one, of
// those that are not accepted as they are; nil where all are.
func (c *computer) countedSide(m *measure.Test, t *TestRead) *SideRead {
	var worse *SideRead
	for i := range t.Sides {
		s := &t.Sides[i]
		if _, ok := c.accepted(m, s.Side); ok {
			continue
		}
		if worse == nil || *s.Gap > *worse.Gap {
			worse = s
		}
	}
	return worse
}

// standing reads one quality: gap G = Σ wᵢ·gᵢ and error E = √Σ(wᵢ·eᵢ)², the
// weights renormalised over what was measured.
func (c *computer) standing(r *Read, id string) Standing {
	s := Standing{ID: id, Name: Name(id), Relevance: c.school.Relevance[id]}
	g := c.gather(r, id)
	s.Coverage = unit.Round(g.measured/g.total, 2)
	sum, gap, younger, square := 0.0, 0.0, 0.0, 0.0
	for _, p := range g.parts {
		sum += p.weight
	}
	for _, p := range g.parts {
		w := p.weight / sum
		gap, younger = gap+w*p.gap, younger+w*p.younger
		square += w * w * p.error * p.error
	}
	if sum > 0 {
		s.Gap, s.Error, s.younger = unit.Round(gap, 2), unit.Round(math.Sqrt(square), 2), unit.Round(younger, 2)
		s.Need = unit.Round(s.Gap*s.Relevance, 2)
		s.Verdict = verdictOf(s.Gap, s.Error, c.b.Z())
		if s.Verdict == ClearlyShort && !c.counts(s.Gap, s.Error) {
			s.Verdict = Unclear
		}
		s.Against = againstWords[s.Verdict]
		s.Why = c.arithmetic(&s, g.parts, sum)
	}
	covered := func() string { return percent(s.Coverage) + " of it was measured" }
	s.short = c.shortWords(g.parts)
	for i := range g.parts {
		if p := &g.parts[i]; p.gap > 0 && (s.most == nil || p.weight*p.gap > s.most.weight*s.most.gap) {
			s.most = p
		}
	}
	short := sentence(s.short)
	switch {
	case g.measured == 0:
		s.Status = NotMeasured
		s.Sentence = "Not measured: " + strings.Join(g.missing, ", ") + "."
		return s
	case s.Coverage < MinCoverage:
		s.Status = UnderTested
		s.Sentence = join(short, "It cannot lead: "+covered()+", and "+percent(MinCoverage)+" is needed. Missing: "+strings.Join(g.missing, ", ")+".")
		return s
	case g.core/g.total < MinCoverage-tolerance || sum == 0:
		s.Status = NoTarget
		s.Sentence = join(short, "It was measured, but no target fits.")
		for _, i := range c.b.Of(id) {
			if m := &c.b.Tests()[i]; m.Weight == 0 || m.StandsFor != "" {
				continue
			}
			if t := &r.Tests[i]; t.Status == Measured && t.Gap == nil {
				s.Sentence += " " + t.Sentence
			}
		}
		return s
	}
	s.Status = Ranked
	s.Sentence = short
	if short == "" {
		s.Sentence = "No test of it lies clearly below its target."
	}
	if len(g.missing) > 0 {
		s.Sentence += " " + upper(covered()) + "; missing: " + strings.Join(g.missing, ", ") + "."
	}
	return s
}

var againstWords = map[Verdict]string{
	ClearlyShort: "clearly below target", Unclear: "perhaps below target", WithinError: "at target, within the tests' error", TargetMet: "at or above target",
}

// shortWords names the worse sides that lie clearly below their targets, the
// largest share of the gap first.
func (c *computer) shortWords(parts []part) []string {
	sorted := parts
	if len(parts) > 1 {
		sorted = slices.Clone(parts)
		slices.SortStableFunc(sorted, func(a, b part) int { return cmp.Compare(b.weight*b.gap, a.weight*a.gap) })
	}
	var said []string
	for _, p := range sorted {
		if s := c.countedSide(p.def, p.test); s.Verdict == ClearlyShort {
			said = append(said, c.plain(p.def, s))
		}
	}
	return said
}

// sentence makes one of statements without capital or stop.
func sentence(said []string) string {
	if len(said) == 0 {
		return ""
	}
	return upper(strings.Join(said, "; ")) + "."
}

// arithmetic says how gap, error and need came about.
func (c *computer) arithmetic(s *Standing, parts []part, sum float64) string {
	b := append(c.words[:0], "Gap "...)
	b = append(unit.AppendText(b, s.Gap, 2), " spreads = "...)
	for i, p := range parts {
		if i > 0 {
			b = append(b, " + "...)
		}
		b = append(unit.AppendText(b, p.weight/sum, 2), " × "...)
		b = append(unit.AppendText(b, p.gap, 2), " ("...)
		b = append(append(b, p.def.InSentence()...), ')')
	}
	b = unit.AppendText(append(b, "; error "...), s.Error, 2)
	b = unit.AppendText(append(b, ", so clear from "...), math.Max(c.b.Z()*s.Error, clearGap), 2)
	b = unit.AppendText(append(b, ". Need "...), s.Need, 2)
	b = append(append(b, " = gap × relevance "...), unit.Compact(s.Relevance, 2)...)
	b = append(append(append(b, " ("...), c.school.Name...), ")."...)
	c.words = b
	return string(b)
}

func join(a, b string) string {
	if a == "" {
		return b
	}
	return a + " " + b
}

func percent(v float64) string { return unit.Text(100*v, 0) + "%" }
