package quality

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"dunnock/internal/core/athlete"
	"dunnock/internal/core/civil"
	"dunnock/internal/core/maturity"
	"dunnock/internal/core/measure"
	"dunnock/internal/core/norm"
	"dunnock/internal/core/reliability"
	"dunnock/internal/core/school"
	"dunnock/internal/core/strength"
	"dunnock/internal/core/unit"
)

// Compute makes the read of a golfer under a school. It never fails: what
// cannot be said is said to be so.
func Compute(f *athlete.File, s *school.School) *Read {
	c := &computer{f: f, school: s, screens: f.SortedScreens()}
	on := f.AsOf
	if len(c.screens) > 0 {
		on = c.screens[0].Date
	}
	c.on, c.age, c.band = on, f.Athlete.BirthDate.YearsOn(on), f.Athlete.Band(on)
	r := &Read{
		AsOf: f.AsOf, School: s.ID, SchoolName: s.Name, Clearance: f.ClearanceOn(f.AsOf), Band: c.band,
		Level: f.Athlete.Level(), Tier: f.Athlete.Level().Tier(),
		Qualities: []Standing{}, Tests: make([]TestRead, 0, len(measure.Battery())), Ranges: []RangeFinding{}, Pain: []string{}, Next: []NextTest{}, Notes: []string{},
	}
	if len(c.screens) > 0 {
		r.ScreenDate = on
	}
	c.bodyMass(r)
	for i := range measure.Battery() {
		r.Tests = append(r.Tests, c.test(r, &measure.Battery()[i]))
	}
	c.qualities(r)
	c.ranges(r)
	c.speed(r)
	c.maturity(r)
	c.pain(r)
	c.next(r)
	r.Headline = c.headline(r)
	return r
}

type computer struct {
	f        *athlete.File
	school   *school.School
	screens  []*athlete.Screen // newest first
	on       civil.Date        // day of the newest screen
	age      int
	band     string
	mass     float64 // kg, 0 when unknown
	massDate civil.Date
	trials   []measure.Trial // scratch of trialsOf
}

// trialsOf returns the trials of one test and side. The slice is the computer's
// own and holds until the next call.
func (c *computer) trialsOf(s *athlete.Screen, test string, side measure.Side) []measure.Trial {
	c.trials = c.trials[:0]
	for i := range s.Trials {
		if s.Trials[i].Test == test && s.Trials[i].Side == side {
			c.trials = append(c.trials, s.Trials[i])
		}
	}
	return c.trials
}

func (c *computer) bodyMass(r *Read) {
	t, _ := measure.Find("mass")
	for _, s := range c.screens {
		if res, ok := t.ResultOf(c.trialsOf(s, t.ID, "")); ok && res.Valid > 0 {
			c.mass, c.massDate = res.Value, s.Date
			if s.Date != c.on {
				r.Notes = append(r.Notes, fmt.Sprintf("Body mass %s kg is from %s: weigh again.", unit.Text(res.Value, 1), s.Date))
			}
			return
		}
	}
}

// newest returns the newest screen that holds the test at all, and the ones
// before it.
func (c *computer) newest(test string) (*athlete.Screen, []*athlete.Screen) {
	for i, s := range c.screens {
		if slices.ContainsFunc(s.Trials, func(t measure.Trial) bool { return t.Test == test }) {
			return s, c.screens[i+1:]
		}
	}
	return nil, nil
}

func ptr(v float64) *float64 { return &v }

func (c *computer) quantity(t *measure.Test, v float64) string {
	return c.f.Units.Quantity(v, t.Unit, t.Decimals)
}

// sideName returns a side as read in a sentence.
func sideName(s measure.Side) string {
	switch s {
	case measure.Side(measure.Toward):
		return "toward the target"
	case measure.Side(measure.Away):
		return "away from the target"
	case measure.Side(measure.Playing), measure.Side(measure.Other):
		return string(s) + " side"
	}
	return string(s)
}

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
			name = strings.ToUpper(sideName(sr.Side)[:1]) + sideName(sr.Side)[1:] + ": "
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

func (c *computer) qualities(r *Read) {
	worstJoint := 0.0
	for _, t := range r.Tests {
		for _, s := range t.Sides {
			if m, _ := measure.Find(t.Test); m.Range && s.Gap != nil && t.Status != Stale {
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
	var total, measured, scored, sum float64
	var missing, worst []string
	worstGap := math.Inf(-1)
	for i := range r.Tests {
		t := &r.Tests[i]
		if t.Quality != id {
			continue
		}
		m, _ := measure.Find(t.Test)
		total += m.Weight
		if t.Status != Measured {
			missing = append(missing, strings.ToLower(t.Name)+" ("+string(t.Status)+")")
			continue
		}
		measured += m.Weight
		if t.Gap == nil {
			continue
		}
		scored += m.Weight
		sum += m.Weight * *t.Gap
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
	case scored/total < MinCoverage-1e-9:
		s.Status = NoTarget
		s.Sentence = fmt.Sprintf("%s is not ranked: it was measured, but no target fits.", upper(s.Name))
		for i := range r.Tests {
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
		s.Sentence = fmt.Sprintf("Mobility is left out of the order: under %s it counts from a joint %s spreads short, and the worst here is %s. %s.", strings.ToLower(c.school.Name), unit.Compact(c.school.MobilityFromJointGap, 1), unit.Text(worstJoint, 2), worst[0])
		return s
	}
	s.Status = Ranked
	switch {
	case s.Gap > 0:
		s.Sentence = fmt.Sprintf("%s is %s spreads below target.", upper(s.Name), unit.Text(s.Gap, 2))
	case s.Gap == 0:
		s.Sentence = upper(s.Name) + " is at target."
	default:
		s.Sentence = fmt.Sprintf("%s is %s spreads above target: it holds nothing back.", upper(s.Name), unit.Text(-s.Gap, 2))
	}
	s.Sentence += " " + worst[0] + "."
	if len(missing) > 0 {
		s.Sentence += fmt.Sprintf(" %s; missing: %s.", upper(covered), strings.Join(missing, ", "))
	}
	return s
}

func percent(v float64) string { return unit.Text(100*v, 0) + "%" }

// ranges lists the joints that earn a range line: any side short by RangeGap,
// and, where the school ranks mobility first, every side outside its target
// band of half a spread.
func (c *computer) ranges(r *Read) {
	from, why := RangeGap, "any joint this far short earns a range line"
	if len(r.Qualities) > 0 && r.Qualities[0].ID == Mobility && r.Qualities[0].Status == Ranked && r.Qualities[0].Need > 0 {
		from, why = 0.5, "mobility leads the order, so every joint outside its target band earns a range line"
	}
	for i := range r.Tests {
		t := &r.Tests[i]
		m, _ := measure.Find(t.Test)
		if !m.Range || t.Status == Stale || t.Status == WasStopped {
			continue
		}
		for _, s := range t.Sides {
			if s.Gap == nil || *s.Gap < from {
				continue
			}
			r.Ranges = append(r.Ranges, RangeFinding{Test: t.Test, Side: s.Side, Region: m.Region, Gap: *s.Gap,
				Sentence: fmt.Sprintf("%s, %s: %s against %s, %s; %s.", t.Name, sideName(s.Side), c.quantity(m, *s.Result), c.quantity(m, *s.Target), gapWords(*s.Gap), why)})
		}
	}
	slices.SortStableFunc(r.Ranges, func(a, b RangeFinding) int {
		switch {
		case a.Gap > b.Gap:
			return -1
		case a.Gap < b.Gap:
			return 1
		}
		return 0
	})
}

func (r *Read) find(test string) *TestRead {
	for i := range r.Tests {
		if r.Tests[i].Test == test {
			return &r.Tests[i]
		}
	}
	return nil
}

// usable returns the single result of an unsided test that counts.
func (r *Read) usable(test string) *float64 {
	if t := r.find(test); t != nil && t.Status == Measured && len(t.Sides) == 1 {
		return t.Sides[0].Result
	}
	return nil
}

func (c *computer) speed(r *Read) {
	t, _ := measure.Find("driver-speed")
	sp := Speed{Driver: r.usable("driver-speed"), Cruise: r.usable("cruise-speed")}
	goal := c.f.Athlete.GoalSpeed
	switch {
	case sp.Driver == nil:
		sp.GoalSentence = "Driver speed was not measured: what holds it back is read from the gym numbers alone."
	case goal == 0:
		sp.GoalSentence = fmt.Sprintf("Driver speed %s, fully warm. No goal speed is set.", c.quantity(t, *sp.Driver))
	case *sp.Driver >= goal:
		sp.GoalSentence = fmt.Sprintf("Driver speed %s: the goal of %s is reached.", c.quantity(t, *sp.Driver), c.quantity(t, goal))
	default:
		sp.GoalSentence = fmt.Sprintf("Driver speed %s, goal %s: %s to go.", c.quantity(t, *sp.Driver), c.quantity(t, goal), c.quantity(t, goal-*sp.Driver))
	}
	if sp.Driver != nil && sp.Cruise != nil && *sp.Driver > 0 {
		share := unit.Round(*sp.Cruise / *sp.Driver, 3)
		sp.ShareOfCeiling, sp.Reserve = ptr(share), ptr(unit.Round(1-share, 3))
		sp.ShareSentence = fmt.Sprintf("The course swing uses %s%% of the ceiling (%s of %s): %s.", unit.Text(100*share, 1), c.quantity(t, *sp.Cruise), c.quantity(t, *sp.Driver), shareWords(share))
	} else {
		sp.ShareSentence = "Share of ceiling used: not measured, it needs driver speed and course swing speed."
	}
	if o := r.find("other-side-speed"); o != nil {
		sp.OtherSide = o.Difference
	}
	r.Speed = sp
}

// shareWords are the handbook's wording bands of the share of ceiling used.
func shareWords(share float64) string {
	switch {
	case share > 0.96:
		return "little in reserve, so more ceiling is the only way to more speed"
	case share > 0.92:
		return "some in reserve"
	case share > 0.88:
		return "comfortable"
	default:
		return "a large reserve that is not being used"
	}
}

func (c *computer) maturity(r *Read) {
	if !c.f.Athlete.Junior(c.on) {
		return
	}
	h, sit := r.usable("height"), r.usable("sitting-height")
	if h == nil || sit == nil || c.mass == 0 || c.f.Athlete.Sex == "" {
		r.Notes = append(r.Notes, "Growth spurt not estimated: it needs sex, height, sitting height and mass. The limits near the spurt are applied to be safe.")
		return
	}
	o, err := maturity.Estimate(c.f.Athlete.Sex, c.f.Athlete.BirthDate.DecimalYearsOn(c.on), *h, *sit, c.mass)
	if err != nil {
		r.Notes = append(r.Notes, "Growth spurt not estimated: the measures lie outside what the equations were made for.")
		return
	}
	m := &Maturity{Mirwald: unit.Round(o.Mirwald, 2), Moore: unit.Round(o.Moore, 2), NearSpurt: o.NearSpurt()}
	when := func(v float64) string {
		if v < 0 {
			return unit.Text(-v, 1) + " years before"
		}
		return unit.Text(v, 1) + " years after"
	}
	m.Sentence = fmt.Sprintf("Estimated %s (Mirwald) and %s (Moore) the fastest growth; an estimate, off by about half a year and more at the extremes.", when(o.Mirwald), when(o.Moore))
	if m.NearSpurt {
		m.Sentence += " Within a year of it: jumps, loads and landings are held down."
	}
	r.Maturity = m
}

func (c *computer) pain(r *Read) {
	if len(c.screens) == 0 {
		return
	}
	for _, tr := range c.screens[0].Trials {
		if tr.Pain == 0 {
			continue
		}
		t, _ := measure.Find(tr.Test)
		where := strings.ReplaceAll(tr.Region, "-", " ")
		if where == "" {
			where = "no region given"
		}
		side := ""
		if tr.Side != "" {
			side = ", " + sideName(tr.Side)
		}
		s := fmt.Sprintf("Pain %d of 10 (%s) in %s%s", tr.Pain, where, strings.ToLower(t.Name), side)
		if tr.Pain >= measure.PainStop {
			s += ": test stopped, work that loads the region is kept out, offer a referral."
		} else {
			s += ": noted; stop if it rises."
		}
		r.Pain = append(r.Pain, s)
	}
}

// next lists the missing tests by the weight they would add to the ranking.
func (c *computer) next(r *Read) {
	type candidate struct {
		NextTest
		worth float64
	}
	var list []candidate
	for i := range r.Tests {
		t := &r.Tests[i]
		m, _ := measure.Find(t.Test)
		if t.Status == Measured || t.Status == WasStopped {
			continue
		}
		switch {
		case t.Quality != "":
			w := m.Weight * c.school.Relevance[t.Quality]
			list = append(list, candidate{NextTest{t.Test, fmt.Sprintf("%s: it carries %s of %s.", t.Name, percent(m.Weight), Name(t.Quality))}, w})
		case t.Test == "driver-speed":
			list = append(list, candidate{NextTest{t.Test, "Driver speed: without it nobody can say whether the work paid."}, 0.95})
		case t.Test == "cruise-speed":
			list = append(list, candidate{NextTest{t.Test, "Course swing speed: with driver speed it gives the share of ceiling used."}, 0.3})
		case t.Test == "mass" && c.mass == 0:
			list = append(list, candidate{NextTest{t.Test, "Body mass: the lift is judged by it."}, 0.99})
		case t.Test == "sitting-height" && c.f.Athlete.Junior(c.on):
			list = append(list, candidate{NextTest{t.Test, "Sitting height: the growth spurt is estimated from it."}, 0.6})
		}
	}
	slices.SortStableFunc(list, func(a, b candidate) int {
		switch {
		case a.worth > b.worth:
			return -1
		case a.worth < b.worth:
			return 1
		}
		return 0
	})
	for _, l := range list {
		r.Next = append(r.Next, l.NextTest)
	}
}

func (c *computer) headline(r *Read) string {
	if r.Clearance.State == athlete.RedFlag {
		return r.Clearance.Text
	}
	if len(c.screens) == 0 {
		return "No screen yet: nothing is known about what holds speed back. Start a screen, or bring in a file."
	}
	top := r.Qualities[0]
	switch {
	case top.Status != Ranked:
		return "Too little was measured to name what holds speed back. " + r.nextWords()
	case top.Need <= 0 && !c.school.StrengthLeads, top.Need <= 0 && r.topNeed() <= 0:
		return "Nothing measured lies below its target: keep what there is, and look at skill, or at what was not measured."
	}
	return fmt.Sprintf("%s holds club speed back most. %s %s", upper(top.Name), top.Sentence, top.Why)
}

func (r *Read) topNeed() float64 {
	m := math.Inf(-1)
	for _, q := range r.Qualities {
		if q.Status == Ranked {
			m = math.Max(m, q.Need)
		}
	}
	return m
}

func (r *Read) nextWords() string {
	if len(r.Next) == 0 {
		return ""
	}
	return "Test next: " + r.Next[0].Sentence
}
