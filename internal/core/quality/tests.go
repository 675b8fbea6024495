package quality

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"dunnock/internal/core/athlete"
	"dunnock/internal/core/measure"
	"dunnock/internal/core/norm"
	"dunnock/internal/core/reliability"
	"dunnock/internal/core/strength"
	"dunnock/internal/core/unit"
)

func (c *computer) test(r *Read, t *measure.Test) TestRead {
	tr := TestRead{Test: t.ID, Name: t.Name, Group: t.Group, Unit: t.Unit, Decimals: t.Decimals, Quality: t.Quality, Status: Untested, Sides: make([]SideRead, 0, 2), Source: t.Source}
	screen, earlier := c.newest(t.ID)
	if screen == nil {
		tr.Sentence = t.Name + " was not measured."
		return tr
	}
	tr.Date = screen.Date
	stopped, skipped, have := false, false, 0
	results := make([]measure.Result, 0, 2)
	for _, side := range t.Kind.Sides() {
		res, ok := t.ResultOf(c.trialsOf(screen, t.ID, side))
		sr := SideRead{Side: side}
		if ok {
			stopped = stopped || res.Stopped
			skipped = skipped || res.Skipped
			if res.Variant != "" {
				tr.Variant = res.Variant
			}
			if res.Valid > 0 {
				have++
				c.fill(r, t, &sr, res, earlier)
			}
		}
		tr.Sides = append(tr.Sides, sr)
		results = append(results, res)
	}
	switch {
	case stopped:
		tr.Status = WasStopped
	case have == len(tr.Sides):
		tr.Status = Measured
	case have > 0:
		tr.Status = OneSide
	case skipped:
		tr.Status = WasSkipped
	}
	if tr.Status == Measured && c.on.Sub(screen.Date) > StaleDays {
		tr.Status = Stale
		if t.Rule == measure.OneRM {
			r.Strength = nil // a lift not done for months sets no loads
		}
	}
	if tr.Status == Measured {
		for i := range tr.Sides {
			if g := tr.Sides[i].Gap; g != nil && (tr.Gap == nil || *g > *tr.Gap) {
				tr.Gap = g
			}
		}
		if slices.ContainsFunc(tr.Sides, func(s SideRead) bool { return s.Gap == nil }) {
			tr.Gap = nil
		}
		if len(results) == 2 {
			tr.Difference = c.difference(t, results[0].Value, results[1].Value)
		}
	}
	tr.Sentence = c.testSentence(t, &tr)
	return tr
}

// fill sets everything one side's result is compared with.
func (c *computer) fill(r *Read, t *measure.Test, sr *SideRead, res measure.Result, earlier []*athlete.Screen) {
	sr.Result, sr.Valid, sr.CV, sr.Outlier = ptr(res.Value), res.Valid, res.CV, res.Outlier
	compared, te, target, ok := c.against(r, t, sr, res)
	sr.Compared = ptr(compared)
	sr.Error = unit.Round(te, 3)
	if ok {
		sr.Target, sr.Spread = ptr(unit.Round(target.Value, 2)), ptr(unit.Round(target.Spread, 2))
		gap := norm.Clamp(unit.Round((target.Value-compared)/target.Spread, 2), -2, 3)
		if t.Range {
			gap = math.Max(0, gap)
		}
		sr.Gap = ptr(gap)
		sr.Position = ptr(unit.Round((compared-target.Value)/target.Spread, 2))
		sr.ErrorShare = ptr(unit.Round(te/target.Spread, 2))
	}
	for _, s := range earlier {
		before, ok := t.ResultOf(c.trialsOf(s, t.ID, sr.Side))
		if !ok || before.Valid == 0 || before.Variant != res.Variant {
			continue
		}
		by := unit.Round(res.Value-before.Value, t.Decimals)
		v := reliability.Judge(by, t.TypicalError(math.Max(res.Value, before.Value)))
		name := ""
		if sr.Side != "" {
			name = upper(sideName(sr.Side)) + ": "
		}
		sr.Change = &Change{From: s.Date, Before: before.Value, By: by, Verdict: v,
			Sentence: fmt.Sprintf("%s%s, was %s on %s: %s.", name, c.quantity(t, res.Value), c.quantity(t, before.Value), s.Date, verdictWords(v))}
		return
	}
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

// against returns the number that meets the target, its typical error, and the
// target, which may not be there.
func (c *computer) against(r *Read, t *measure.Test, sr *SideRead, res measure.Result) (compared, te float64, target measure.Target, ok bool) {
	sex := c.f.Athlete.Sex
	switch t.ID {
	case "grip":
		compared, te = unit.Round(res.Mean, 1), t.Error
		ref, found := norm.Grip(c.age, sex, c.f.Athlete.RightHanded(sr.Side))
		if !found {
			return compared, te, target, false
		}
		sr.Percentile = ptr(unit.Round(norm.Percentile(ref.Z(compared)), 0))
		sr.Reference = ref.Source
		return compared, te, measure.Target{Value: ref.Mean, Spread: ref.SD}, true
	case "trap-bar-lift":
		lo, hi, err := strength.Range(res.Lift.LoadKg, float64(res.Lift.Reps)+res.Lift.Reserve)
		one, _ := strength.PredictTable(res.Lift.LoadKg, float64(res.Lift.Reps)+res.Lift.Reserve)
		st := &Strength{OneRM: unit.Round(one, 2), Lowest: unit.Round(lo, 1), Highest: unit.Round(hi, 1)}
		if err == nil {
			r.Strength = st
		}
		set := fmt.Sprintf("%s kg x %d with %s left", unit.Compact(res.Lift.LoadKg, 2), res.Lift.Reps, unit.Compact(res.Lift.Reserve, 1))
		if c.mass == 0 {
			st.Sentence = fmt.Sprintf("%s predicts a single of %s kg by the table (equations: %s to %s kg). Body mass is not measured, so it meets no target.", set, unit.Text(res.Value, 1), unit.Text(lo, 1), unit.Text(hi, 1))
			return res.Value, t.TypicalError(res.Value), target, false
		}
		st.Ratio = unit.Round(res.Value/c.mass, 2)
		st.Sentence = fmt.Sprintf("%s predicts a single of %s kg by the table (equations: %s to %s kg), %s times body mass of %s kg.", set, unit.Text(res.Value, 1), unit.Text(lo, 1), unit.Text(hi, 1), unit.Text(st.Ratio, 2), unit.Text(c.mass, 1))
		target, ok = t.Target(sex, c.band)
		return st.Ratio, t.TypicalError(st.Ratio), target, ok
	}
	compared, te = res.Value, t.TypicalError(res.Value)
	if res.Variant != c.f.Athlete.ReferenceVariant(c.on)(t) {
		return compared, te, target, false
	}
	target, ok = t.Target(sex, c.band)
	return compared, te, target, ok
}

func (c *computer) difference(t *measure.Test, first, second float64) *Difference {
	d := &Difference{Absolute: unit.Round(first-second, t.Decimals)}
	te := t.TypicalError(math.Max(first, second))
	d.Verdict = reliability.Judge(d.Absolute, te)
	sides := t.Kind.Sides()
	p, secondWeaker, ok := reliability.SideDifference(first, second)
	if !ok {
		d.Sentence = "Both sides are zero: there is no difference to speak of."
		return d
	}
	d.Percent = ptr(unit.Round(p, 1))
	weak, strong := sides[0], sides[1]
	if secondWeaker {
		weak, strong = strong, weak
	}
	values := fmt.Sprintf("%s against %s", c.quantity(t, math.Min(first, second)), c.quantity(t, math.Max(first, second)))
	if d.Verdict == reliability.WithinError {
		d.Sentence = fmt.Sprintf("No clear difference between sides: %s is within the test's own error.", values)
		return d
	}
	d.Weaker = weak
	d.Sentence = fmt.Sprintf("%s is %s%% below %s (%s): %s, sure from %s.", upper(sideName(weak)), unit.Text(*d.Percent, 1), sideName(strong), values, d.Verdict, c.quantity(t, reliability.MDC95(te)))
	return d
}

func upper(s string) string {
	if s == "" {
		return s
	}
	return strings.ToUpper(s[:1]) + s[1:]
}

func (c *computer) testSentence(t *measure.Test, tr *TestRead) string {
	switch tr.Status {
	case WasStopped:
		return t.Name + " was stopped: it has no result, and it is not a zero."
	case WasSkipped:
		return t.Name + " was skipped."
	case Untested:
		return t.Name + " was not measured."
	}
	var parts []string
	for _, s := range tr.Sides {
		if s.Result == nil {
			continue
		}
		v := c.quantity(t, *s.Result)
		if t.ID == "grip" {
			v = fmt.Sprintf("best %s, mean of %d %s", v, s.Valid, c.quantity(t, *s.Compared))
		}
		if t.Rule == measure.OneRM {
			v = "predicted single " + v
			if r := *s.Compared; r != *s.Result {
				v += ", " + unit.Text(r, 2) + " × body mass"
			}
		}
		if s.Side != "" {
			v = sideName(s.Side) + " " + v
		}
		switch {
		case s.Target == nil:
		case t.Rule == measure.OneRM:
			v += " against " + unit.Text(*s.Target, 2) + ": " + gapWords(*s.Gap)
		default:
			v += " against " + c.quantity(t, *s.Target) + ": " + gapWords(*s.Gap)
		}
		parts = append(parts, v)
	}
	out := t.Name + ": " + strings.Join(parts, "; ") + "."
	switch {
	case tr.Status == OneSide:
		out += " Only one side was measured, so the test does not count."
	case tr.Status == Stale:
		out += fmt.Sprintf(" Measured on %s, more than %d days before the newest screen: too old to count.", tr.Date, StaleDays)
	case t.Quality != "" && tr.Gap == nil:
		out += " " + c.noTarget(t, tr)
	}
	return out
}

func (c *computer) noTarget(t *measure.Test, tr *TestRead) string {
	switch {
	case t.Rule == measure.OneRM && c.mass == 0:
		return "Body mass is missing, so it meets no target."
	case tr.Variant != "" && tr.Variant != c.f.Athlete.ReferenceVariant(c.on)(t):
		return "Done in a way the target does not hold for: not ranked."
	case t.ID == "grip" && c.age < 20:
		return "The table starts at 20 years: no reference fits, not ranked."
	case c.f.Athlete.Sex == "":
		return "Sex was left out and the target depends on it: not ranked."
	default:
		return "No target fits this age: not ranked."
	}
}

// gapWords says a gap in words.
func gapWords(g float64) string {
	switch {
	case g > 0:
		return unit.Text(g, 2) + " spreads short"
	case g == 0:
		return "at target"
	default:
		return unit.Text(-g, 2) + " spreads above"
	}
}
