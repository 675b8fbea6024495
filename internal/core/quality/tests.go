package quality

import (
	"fmt"
	"math"
	"slices"

	"dunnock/internal/core/measure"
	"dunnock/internal/core/norm"
	"dunnock/internal/core/reliability"
	"dunnock/internal/core/strength"
	"dunnock/internal/core/unit"
)

func (c *computer) test(r *Read, t *measure.Test) TestRead {
	tr := TestRead{
		Test:      t.ID,
		Name:      t.Name,
		Group:     t.Group,
		Unit:      t.Unit,
		Decimals:  t.Decimals,
		Quality:   t.Quality,
		Status:    Untested,
		Sides:     []SideRead{},
		Source:    t.Source,
		ErrorFrom: t.ErrorFrom,
	}
	if tr.ErrorFrom == "" {
		tr.ErrorFrom = "our default"
	}
	if t.Rule == measure.Derived {
		return c.stretchUse(r, t, tr)
	}
	screen, earlier := c.newest(t)
	if screen == nil {
		tr.Sentence = t.Name + " was not measured."
		return tr
	}
	tr.Date = screen.Date
	stopped, skipped, have := false, false, 0
	tr.Sides = c.sides(len(t.Kind.Sides()))
	var results [2]measure.Result
	for _, side := range t.Kind.Sides() {
		res, ok := screen.result(t, side)
		n := len(tr.Sides)
		tr.Sides = append(tr.Sides, SideRead{Side: side})
		if ok {
			stopped = stopped || res.Stopped
			skipped = skipped || res.Skipped
			res.Variant = c.variant(t, res.Variant)
			tr.Variant = res.Variant
			if res.Valid > 0 {
				have++
				c.fill(r, t, &tr.Sides[n], res, screen, earlier)
			}
		}
		if res.Valid == 0 {
			tr.Sides[n].History = c.pastOf(t, side, earlier)
		}
		results[n] = res
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
		if t.ID == loadLift {
			r.Strength = nil // a lift not done for months sets no loads
		}
	}
	if have > 0 {
		size := 0.0
		for _, s := range tr.Sides {
			if s.Result != nil {
				size = math.Max(size, math.Abs(*s.Result))
			}
		}
		tr.Detectable = c.ptr(unit.Round(reliability.MDC(t.TypicalError(size), c.b.Z()), max(t.Decimals, 1)))
	}
	c.shortfalls(t, &tr)
	if tr.Status == Measured {
		c.worse(&tr)
		if len(tr.Sides) == 2 {
			tr.Difference = c.difference(t, results[0].Value, results[1].Value)
		}
	}
	tr.Sentence = c.testSentence(t, &tr)
	return tr
}

// worse takes the gap of the worse side as the test's.
func (c *computer) worse(tr *TestRead) {
	for i := range tr.Sides {
		if g := tr.Sides[i].Gap; g != nil && (tr.Gap == nil || *g > *tr.Gap) {
			tr.Gap = g
		}
	}
	if slices.ContainsFunc(tr.Sides, func(s SideRead) bool { return s.Gap == nil }) {
		tr.Gap = nil
	}
}

// loadLift is the lift whose prediction sets loads; only its reference variant
// does.
const loadLift = "trap-bar-lift"

// fill sets everything one side's result is compared with.
func (c *computer) fill(r *Read, t *measure.Test, sr *SideRead, res measure.Result, screen *indexed, earlier []*indexed) {
	sr.Result, sr.Valid, sr.CV, sr.Outlier = c.ptr(res.Value), res.Valid, res.CV, res.Outlier
	if t.FallOff && res.Valid > 1 {
		sr.FallOff = c.ptr(res.FallOff)
	}
	compared, te, target, ok := c.against(r, t, sr, res)
	sr.Compared = c.ptr(compared)
	sr.Error = unit.Round(te, 3)
	if ok {
		c.place(t, sr, compared, te, target, c.younger(t, target))
	}
	best := res.Value
	if t.Rule == measure.Mean {
		best = res.Mean
	}
	sr.References = norm.Stand(t.ID, norm.Person{Age: c.age, Sex: c.f.Athlete.Sex, Variant: res.Variant, MassKg: c.mass}, res.Value, best)
	if c.squad != nil && c.age >= 18 {
		if p, ok := norm.InSquad(res.Value, c.squad.values[squadKey{t.ID, res.Variant, sr.Side}], t.Less); ok {
			sr.Squad = c.ptr(unit.Round(p, 0))
		}
	}
	if len(earlier) == 0 {
		return
	}
	sr.History = make([]Point, 0, len(earlier)+1)
	for _, s := range slices.Backward(earlier) {
		if before, ok := s.result(t, sr.Side); ok && before.Valid > 0 && c.like(t, screen, s, res, before) {
			sr.History = append(sr.History, Point{s.Date, before.Value})
		}
	}
	sr.History = append(sr.History, Point{screen.Date, res.Value})
	if n := len(sr.History); n > 1 {
		before := sr.History[n-2]
		by := unit.Round(res.Value-before.Value, max(t.Decimals, 1))
		v := reliability.Judge(by, t.TypicalError(math.Max(res.Value, before.Value)), c.b.Z())
		b := c.words[:0]
		if sr.Side != "" {
			b = append(append(b, upper(sideName(sr.Side))...), ": "...)
		}
		b = append(c.f.Units.Append(b, res.Value, t.Unit, t.Decimals), ", was "...)
		b = append(c.f.Units.Append(b, before.Value, t.Unit, t.Decimals), " on "...)
		b = append(append(append(before.Date.AppendWords(b), ": "...), verdictWords(v)...), '.')
		c.words = b
		sr.Change = &Change{From: before.Date, Before: before.Value, By: by, Verdict: v, Sentence: string(b)}
		if screen.ClubChange != "" && t.Unit == unit.MetrePerSecond {
			sr.Change.Sentence += fmt.Sprintf(" The club changed (%s): training alone does not get the credit.", screen.ClubChange)
		}
	} else {
		sr.History = nil
	}
}

// pastOf is what a side that has nothing on the newest screen came to before it:
// its newest result, after those done like it, oldest first.
func (c *computer) pastOf(t *measure.Test, side measure.Side, earlier []*indexed) []Point {
	var out []Point
	var newest measure.Result
	var on *indexed
	for _, s := range earlier {
		res, ok := s.result(t, side)
		if !ok || res.Valid == 0 {
			continue
		}
		if on == nil {
			newest, on = res, s
		}
		if c.like(t, on, s, newest, res) {
			out = append(out, Point{s.Date, res.Value})
		}
	}
	slices.Reverse(out)
	return out
}

// like reports whether two results may be compared: the same way of doing the
// test and, for swing speeds, the same intent.
func (c *computer) like(t *measure.Test, now, then *indexed, a, b measure.Result) bool {
	if c.variant(t, a.Variant) != c.variant(t, b.Variant) {
		return false
	}
	return t.Unit != unit.MetrePerSecond || now.Intent == then.Intent
}

// younger returns a junior's target a year younger; the target itself for others,
// and where the test follows no age.
func (c *computer) younger(t *measure.Test, target measure.Target) measure.Target {
	if t.ID == "grip" && c.f.Athlete.Junior(c.on) {
		if y, ok := norm.YoungGrip(c.years-1, c.f.Athlete.Sex); ok {
			return measure.Target{Value: y.Mean, Spread: y.SD}
		}
	}
	if len(t.Targets) > 0 && c.f.Athlete.Junior(c.on) {
		if y, ok := t.TargetAt(c.f.Athlete.Sex, c.years-1); ok {
			return y
		}
	}
	return target
}

// stretchUse is the countermovement jump over the jump from a still squat, of
// one screen and done the same way. Its error follows from the two jumps' own.
func (c *computer) stretchUse(r *Read, t *measure.Test, tr TestRead) TestRead {
	tr.ErrorFrom = "from the two jumps' errors"
	cm, sj := r.find("cmj"), r.find("sj")
	switch {
	case cm == nil || sj == nil || cm.Status != Measured || sj.Status != Measured:
		tr.Sentence = "Stretch use was not measured: it needs both jumps."
		return tr
	case cm.Date != sj.Date || cm.Variant != sj.Variant:
		tr.Sentence = "Stretch use was not computed: the two jumps were not done on one day and the same way."
		return tr
	case *sj.Sides[0].Result <= 0:
		tr.Sentence = "Stretch use was not computed: the still jump is zero."
		return tr
	}
	a, b := *cm.Sides[0].Result, *sj.Sides[0].Result
	ratio := unit.Round(a/b, t.Decimals)
	te := a / b * math.Hypot(cm.Sides[0].Error/math.Max(a, 1), sj.Sides[0].Error/b)
	sr := SideRead{Result: c.ptr(ratio), Compared: c.ptr(ratio), Valid: 1, Error: unit.Round(te, 3)}
	target, ok := t.TargetAt(c.f.Athlete.Sex, c.years)
	if !ok {
		tr.Sentence = "Stretch use has no target at this age."
		return tr
	}
	c.place(t, &sr, ratio, te, target, c.younger(t, target))
	tr.Date, tr.Status, tr.Sides, tr.Variant = cm.Date, cm.Status, []SideRead{sr}, ""
	tr.Detectable = c.ptr(unit.Round(reliability.MDC(te, c.b.Z()), 2))
	c.shortfalls(t, &tr)
	c.worse(&tr)
	tr.Sentence = fmt.Sprintf(
		"Stretch use: the countermovement jump is %s times the still one (%s%% more), against %s: %s.",
		unit.Text(ratio, 2),
		unit.Text(100*(ratio-1), 0),
		unit.Text(target.Value, 2),
		c.shortBy(t, &tr.Sides[0]),
	)
	if te/target.Spread > 1 {
		tr.Sentence += " Two jumps' errors add up here: read it over several days."
	}
	return tr
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
			if ref, found = norm.YoungGrip(c.years, sex); !found {
				return compared, te, target, false
			}
			compared = res.Value // that table is of the best squeeze
		}
		sr.Percentile = c.ptr(unit.Round(norm.Percentile(ref.Z(compared)), 0))
		sr.Reference = ref.Source
		return compared, te, measure.Target{Value: ref.Mean, Spread: ref.SD}, true
	}
	if t.Rule == measure.OneRM {
		return c.lift(r, t, res)
	}
	compared, te = res.Value, t.TypicalError(res.Value)
	if res.Variant != t.ReferenceVariant(c.man) {
		return compared, te, target, false
	}
	target, ok = t.TargetAt(sex, c.years)
	return compared, te, target, ok
}

// lift meets the target with the predicted single over body mass. The load lift,
// done the reference way, also becomes the golfer's predicted strength.
func (c *computer) lift(r *Read, t *measure.Test, res measure.Result) (compared, te float64, target measure.Target, ok bool) {
	full := res.Variant == t.ReferenceVariant(c.man)
	effective := float64(res.Lift.Reps) + res.Lift.Reserve
	lo, hi, err := strength.Range(res.Lift.LoadKg, effective)
	ratio := 0.0
	if c.mass > 0 {
		ratio = unit.Round(res.Value/c.mass, 2)
	}
	if t.ID == loadLift && full {
		one, _ := strength.PredictTable(res.Lift.LoadKg, effective)
		st := &Strength{
			OneRM:   unit.Round(one, 2),
			Lowest:  unit.Round(lo, 1),
			Highest: unit.Round(hi, 1),
			Ratio:   ratio,
			Valid:   effective <= strength.MaxPredictReps,
			GaveOut: res.GaveOut,
		}
		st.Equations, _ = strength.Compare(res.Lift.LoadKg, effective)
		for i := range st.Equations {
			st.Equations[i].OneRM = unit.Round(st.Equations[i].OneRM, 1)
		}
		set := fmt.Sprintf("%s kg x %d with %s left", unit.Compact(res.Lift.LoadKg, 2), res.Lift.Reps, unit.Compact(res.Lift.Reserve, 1))
		st.Sentence = fmt.Sprintf("%s predicts a single of %s kg by the table (equations: %s to %s kg)", set, unit.Text(res.Value, 1), unit.Text(lo, 1), unit.Text(hi, 1))
		if c.mass == 0 {
			st.Sentence += ". Body mass is not measured, so it meets no target."
		} else {
			st.Sentence += fmt.Sprintf(", %s times body mass of %s kg.", unit.Text(ratio, 2), unit.Text(c.mass, 1))
		}
		if !st.Valid {
			st.Sentence += fmt.Sprintf(
				" %s effective repetitions are more than the %d the equations are advised for: test a heavier set.",
				unit.Compact(effective, 1),
				strength.MaxPredictReps,
			)
		}
		if res.GaveOut == "grip" || res.GaveOut == "back" {
			st.Sentence += fmt.Sprintf(" The %s gave out first: the legs have more than this shows.", res.GaveOut)
		}
		if err == nil {
			r.Strength = st
		}
	}
	if c.mass == 0 || !full {
		return res.Value, t.TypicalError(res.Value), target, false
	}
	target, ok = t.TargetAt(c.f.Athlete.Sex, c.years)
	if len(t.Targets) == 0 {
		return res.Value, t.TypicalError(res.Value), target, false
	}
	return ratio, t.TypicalError(ratio), target, ok
}

func (c *computer) difference(t *measure.Test, first, second float64) *Difference {
	d := &Difference{Absolute: unit.Round(first-second, t.Decimals)}
	te := t.TypicalError(math.Max(first, second))
	d.Verdict = reliability.Judge(d.Absolute, te, c.b.Z())
	sides := t.Kind.Sides()
	p, secondWeaker, ok := reliability.SideDifference(first, second)
	if !ok {
		d.Sentence = "Both sides are zero: there is no difference to speak of."
		return d
	}
	d.Percent = c.ptr(unit.Round(p, 1))
	weak, strong := sides[0], sides[1]
	if secondWeaker != t.Less {
		weak, strong = strong, weak
	}
	quantity := func(b []byte, v float64) []byte { return c.f.Units.Append(b, v, t.Unit, t.Decimals) }
	values := func(b []byte) []byte {
		return quantity(append(quantity(b, math.Min(first, second)), " against "...), math.Max(first, second))
	}
	b := c.words[:0]
	if d.Verdict == reliability.WithinError {
		b = values(append(b, "No clear difference between sides: "...))
		b = append(b, " is within the test's own error."...)
	} else {
		d.Weaker = weak
		b = append(append(b, upper(sideName(weak))...), " is "...)
		b = append(unit.AppendText(b, *d.Percent, 1), "% below "...)
		b = values(append(append(b, sideName(strong)...), " ("...))
		b = append(append(append(b, "): "...), d.Verdict...), ", sure from "...)
		b = append(quantity(b, reliability.MDC(te, c.b.Z())), '.')
	}
	c.words, d.Sentence = b, string(b)
	return d
}
