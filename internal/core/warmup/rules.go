package warmup

import (
	"fmt"
	"slices"

	"dunnock/internal/core/athlete"
	"dunnock/internal/core/implement"
	"dunnock/internal/core/rulebook"
)

// A rule judges a warm-up. It returns what is broken, at the first item it is broken at.
type rule struct {
	id, name string
	severity rulebook.Severity
	check    func(*judge) (text, item string)
	// fix says what applying does, and does it; nil where nothing can be applied.
	fix func(*judge) string
}

// judge is a warm-up and a golfer being judged.
type judge struct {
	p      *Person
	w      *WarmUp
	r      *Request
	limits []athlete.Limit
	open   string // why a rule could not be checked
}

func newJudge(p *Person, w *WarmUp) *judge {
	return &judge{p: p, w: w, r: &w.Request, limits: append(slices.Clone(p.Limits), w.Request.Readiness.Limits()...)}
}

// rules in the order they are shown.
var rules = []rule{
	{"W-SPACE", "Room to swing", rulebook.Blocking, (*judge).space, (*judge).fixSpace},
	{"W-COLD", "Nothing fast while cold", rulebook.Blocking, (*judge).cold, (*judge).fixCold},
	{"W-JUMPS", "No jumps under a limit", rulebook.Blocking, (*judge).jumps, (*judge).fixJumps},
	{"CONTRA", "Limits are kept", rulebook.Blocking, (*judge).contra, (*judge).fixContra},
	{"W-RAMP", "Intent rises in steps", rulebook.Warning, (*judge).ramp, (*judge).fixRamp},
	{"W-LAST-LIGHT", "Heavy early, the last ones light", rulebook.Warning, (*judge).lastLight, (*judge).fixLastLight},
	{"W-FATIGUE", "Fresh for play", rulebook.Warning, (*judge).fatigue, (*judge).fixFatigue},
	{"W-HOLD", "No long holds before fast work", rulebook.Warning, (*judge).hold, (*judge).fixHold},
	{"W-TIME", "Fits its minutes", rulebook.Warning, (*judge).time, (*judge).fixTime},
	{"W-BOTH", "Both sides swing", rulebook.Advice, (*judge).both, (*judge).fixBoth},
}

// Judge says of every rule whether a warm-up keeps it, whoever put its items there.
func Judge(p *Person, w *WarmUp) []Result {
	out := make([]Result, len(rules))
	for i, r := range rules {
		j := newJudge(p, w)
		text, item := r.check(j)
		out[i] = Result{Rule: r.id, Name: r.name, Severity: r.severity, Status: rulebook.Met, Item: item, Text: text}
		switch {
		case text != "":
			out[i].Status = rulebook.Broken
			if r.fix != nil {
				out[i].Fix = r.fix(newJudge(p, w.clone()))
			}
		case j.open != "":
			out[i].Status, out[i].Text = rulebook.NotChecked, j.open
		}
	}
	return out
}

// Broken returns the broken results of a severity.
func (w *WarmUp) Broken(s rulebook.Severity) (out []Result) {
	for _, r := range w.Rules {
		if r.Severity == s && r.Status == rulebook.Broken {
			out = append(out, r)
		}
	}
	return out
}

func (w *WarmUp) clone() *WarmUp {
	c := *w
	c.Items = slices.Clone(w.Items)
	return &c
}

// Mend applies a rule's fix and judges anew. The error names a rule there is not or that
// has nothing to apply.
func Mend(p *Person, w *WarmUp, ruleID string) (*WarmUp, error) {
	for _, r := range rules {
		if r.id != ruleID {
			continue
		}
		j := newJudge(p, w.clone())
		if text, _ := r.check(j); text == "" || r.fix == nil || r.fix(j) == "" {
			return nil, fmt.Errorf("warmup: there is nothing to mend for %s", r.name)
		}
		return finish(p, j.w), nil
	}
	return nil, fmt.Errorf("warmup: there is no rule %q", ruleID)
}

// finish times and judges a changed warm-up.
func finish(p *Person, w *WarmUp) *WarmUp {
	timeSwings(w.Items)
	w.name()
	w.TotalSeconds = total(w.Items)
	w.FreeSeconds = 60*w.Request.Minutes - w.TotalSeconds
	w.Rules = Judge(p, w)
	return w
}

// each calls do for every item that is swung, in order.
func (j *judge) each(do func(*Item) bool) {
	for i := range j.w.Items {
		if it := &j.w.Items[i]; it.Swings > 0 && !do(it) {
			return
		}
	}
}

// length of what an item is swung with, in m.
func (j *judge) length(it *Item) float64 {
	switch {
	case it.ImplementID == "" && it.Implement == "":
		return 0
	case it.ImplementID == j.p.Own.ID:
		return j.p.Own.LengthM
	}
	for _, i := range j.p.Implements {
		if i.ID == it.ImplementID {
			return i.LengthM
		}
	}
	if l := bagClub(0, it.ImplementID).LengthM; l > 0 {
		return l
	}
	return j.p.Own.LengthM
}

// tooHigh says what an item needs of the ceiling, in m.
func (j *judge) ceiling(it *Item) float64 {
	switch {
	case it.Name == "Empty hands, shoulder high":
		return 0
	case it.Name == "Hip-to-hip swings":
		return hipCeiling
	case it.Implement == "" && it.ImplementID == "":
		return j.p.height() + aboveHands
	case it.IntentPercent > 0 && it.IntentPercent <= firstIntent && it.Step == stepNames[firstIntent]:
		return hipCeiling
	}
	return j.p.height() + j.length(it) + aboveHead
}

func (j *judge) space() (text, item string) {
	need, any := 0.0, false
	j.each(func(it *Item) bool {
		any = true
		r := implement.Radius(j.length(it), it.Stepping)
		need = max(need, r)
		switch {
		case j.r.CeilingM > 0 && j.ceiling(it) > j.r.CeilingM+1e-9:
			text, item = fmt.Sprintf("%s needs a ceiling of %.2f m, here it is %.2f m.", it.Name, j.ceiling(it), j.r.CeilingM), it.ID
		case j.r.ClearM > 0 && r > j.r.ClearM+1e-9:
			text, item = fmt.Sprintf("%s needs %.2f m free all round, here are %.2f m.", it.Name, r, j.r.ClearM), it.ID
		}
		return text == ""
	})
	if text == "" && any && j.r.ClearM == 0 {
		j.open = fmt.Sprintf("Look round before the first swing: %.2f m free on all sides.", need)
	}
	return text, item
}

func (j *judge) fixSpace() string {
	reach := reachOf(j.r, j.p.height(), 2)
	if j.r.CeilingM == 0 {
		reach = empty
	}
	for i := range j.w.Items {
		it := &j.w.Items[i]
		if it.Swings == 0 {
			continue
		}
		low := j.r.CeilingM > 0 && j.ceiling(it) > j.r.CeilingM+1e-9
		near := j.r.ClearM > 0 && implement.Radius(j.length(it), it.Stepping) > j.r.ClearM+1e-9
		if !low && !near {
			continue
		}
		l := ladder{reach: reach}
		it.Name, it.Implement, it.ImplementID, it.ImplementPercent, it.Stepping, it.Ball = l.name(it.IntentPercent), "", "", nil, false, false
		if reach == hip {
			it.Implement, it.ImplementID = j.p.Own.Name, j.p.Own.ID
		}
		if reach == hip || reach == shoulder {
			it.IntentPercent = min(it.IntentPercent, 85)
		}
	}
	if j.r.ClearM > 0 && j.r.ClearM < implement.Radius(0, false) {
		j.w.Items = slices.DeleteFunc(j.w.Items, func(it Item) bool { return it.Swings > 0 })
		return "Take the swings out: there is no room for any."
	}
	return "Swing empty hands, or hip to hip, where a club has no room."
}

func (j *judge) cold() (text, item string) {
	raised, joints := 0, 0
	for i := range j.w.Items {
		it := &j.w.Items[i]
		switch {
		case it.Phase == Raise:
			raised += it.Seconds
		case it.Phase == Joints:
			joints++
		case it.Fast() && (raised < leastRaise || joints < leastJoints):
			return fmt.Sprintf("%s come after %d s of raise and %d joint lines: %d s and %d are the least.", it.Name, raised, joints, leastRaise, leastJoints), it.ID
		}
	}
	return "", ""
}

func (j *judge) fixCold() string {
	var first, rest []Item
	for _, it := range j.w.Items {
		if it.Phase == Raise || it.Phase == Joints {
			first = append(first, it)
		} else {
			rest = append(rest, it)
		}
	}
	j.w.Items = append(first, rest...)
	if text, _ := j.cold(); text == "" {
		return "Put raise and joints first."
	}
	if j.warmFirst(); j.isWarm() {
		return fmt.Sprintf("Raise for %d s and loosen two joints first.", leastRaise)
	}
	for i := range j.w.Items {
		if it := &j.w.Items[i]; it.Fast() {
			it.IntentPercent, it.Name = 85, stepNames[85]
		}
	}
	return "Hold the fast swings back to 85%."
}

func (j *judge) isWarm() bool {
	text, _ := j.cold()
	return text == ""
}

// warmFirst makes the raise as long as it must be and adds joint lines until there are
// two, of what place and limits allow.
func (j *judge) warmFirst() {
	add := func(it Item) { j.w.Items = slices.Insert(j.w.Items, 0, it) }
	count := func(p Phase) (n, secs int) {
		for i := range j.w.Items {
			if j.w.Items[i].Phase == p {
				n++
				secs += j.w.Items[i].Seconds
			}
		}
		return n, secs
	}
	for n, _ := count(Joints); n < leastJoints; n++ {
		others := Alternatives(j.p, j.w, Joints)
		if len(others) == 0 {
			return
		}
		others[0].ID = ""
		add(others[0])
	}
	n, secs := count(Raise)
	switch {
	case secs >= leastRaise:
	case n > 0:
		for i := range j.w.Items {
			if it := &j.w.Items[i]; it.Phase == Raise {
				it.Seconds += leastRaise - secs
				break
			}
		}
	default:
		if others := Alternatives(j.p, j.w, Raise); len(others) > 0 {
			others[0].ID, others[0].Seconds = "", leastRaise
			add(others[0])
		}
	}
}

// forbidden returns the limit that an item breaks.
func (j *judge) forbidden(it *Item) *athlete.Limit {
	if it.Swings > 0 {
		demands := swingDemands
		if it.Implement == "" && it.ImplementID == "" {
			demands = emptyDemands
		}
		if it.Fast() {
			demands = append(slices.Clone(demands), fastDemands[len(swingDemands):]...)
		}
		return mayNot(demands, it.Fast(), j.limits)
	}
	l, ok := FindLine(it.Line)
	if !ok {
		return nil
	}
	sound, by := l.blocked(j.limits)
	if by == nil && sound != "" && it.Side != sound {
		for i := range j.limits {
			if l.exercise().Loads(j.limits[i].Region) {
				return &j.limits[i]
			}
		}
	}
	return by
}

func (j *judge) broken(jumps bool) (text, item string) {
	for i := range j.w.Items {
		it := &j.w.Items[i]
		if (it.Contacts > 0) != jumps {
			continue
		}
		if by := j.forbidden(it); by != nil {
			return fmt.Sprintf("%s: %s.", it.Name, by.Words()), it.ID
		}
	}
	return "", ""
}

func (j *judge) jumps() (text, item string)  { return j.broken(true) }
func (j *judge) contra() (text, item string) { return j.broken(false) }

func (j *judge) fixJumps() string {
	march, _ := FindLine("jump-march")
	for i := range j.w.Items {
		it := &j.w.Items[i]
		if it.Contacts > 0 && j.forbidden(it) != nil {
			it.Line, it.Name, it.Cue, it.Contacts, it.Side = march.ID, march.Name, march.Cue, 0, ""
		}
	}
	j.w.Items = slices.DeleteFunc(j.w.Items, func(it Item) bool { return it.Phase == Jump && j.forbidden(&it) != nil })
	return "March instead."
}

func (j *judge) fixContra() string {
	for i := range j.w.Items {
		it := &j.w.Items[i]
		if by := j.forbidden(it); by == nil {
			continue
		}
		if it.Fast() {
			slow := *it
			slow.IntentPercent = 85
			if j.forbidden(&slow) == nil {
				it.IntentPercent, it.Name = 85, stepNames[85]
				continue
			}
		}
		if l, ok := FindLine(it.Line); ok {
			if sound, by := l.blocked(j.limits); by == nil && sound != "" {
				it.Side = sound
			}
		}
	}
	j.w.Items = slices.DeleteFunc(j.w.Items, func(it Item) bool { return it.Contacts == 0 && j.forbidden(&it) != nil })
	return "Take out what a limit forbids; a sound side stays."
}

func (j *judge) hold() (text, item string) {
	fast := -1
	for i := range j.w.Items {
		if j.w.Items[i].Fast() {
			fast = i
		}
	}
	held := map[string]int{}
	for i := range j.w.Items[:max(fast, 0)] {
		it := &j.w.Items[i]
		if it.HoldSeconds == 0 {
			continue
		}
		region := it.Name
		if l, ok := FindLine(it.Line); ok && l.Region != "" {
			region = l.Region
		}
		held[region] += it.HoldSeconds * max(it.Repetitions, 1)
		switch {
		case it.HoldSeconds > holdOne:
			return fmt.Sprintf("%s is held %d s before fast swings: %d s at most.", it.Name, it.HoldSeconds, holdOne), it.ID
		case held[region] > holdJoint:
			return fmt.Sprintf("%s: %d s of holds a side before fast swings, %d s at most.", it.Name, held[region], holdJoint), it.ID
		}
	}
	return "", ""
}

func (j *judge) fixHold() string {
	for i := range j.w.Items {
		if it := &j.w.Items[i]; it.HoldSeconds > 0 {
			it.HoldSeconds = min(it.HoldSeconds, holdOne/2)
			it.Repetitions = min(it.Repetitions, 2)
			it.Seconds = min(it.Seconds, coolS)
		}
	}
	for range j.w.Items {
		text, item := j.hold()
		if text == "" {
			break
		}
		j.w.Items = slices.DeleteFunc(j.w.Items, func(it Item) bool { return it.ID == item })
	}
	return "Shorten the holds."
}

func (j *judge) time() (text, item string) {
	if n := total(j.w.Items); n > 60*j.r.Minutes {
		return fmt.Sprintf("%s do not fit %d minutes.", inMinutes(n), j.r.Minutes), ""
	}
	return "", ""
}

// fixTime takes out what goes first: rounds, extra joint lines, jumps, activation,
// separation; then swings of the other side beyond two.
func (j *judge) fixTime() string {
	var gone []string
	out := func(which func(*Item) bool) {
		for i := len(j.w.Items) - 1; i >= 0 && total(j.w.Items) > 60*j.r.Minutes; i-- {
			if it := &j.w.Items[i]; !it.Wait && which(it) {
				if name := lower(it.Name); !slices.Contains(gone, name) {
					gone = append(gone, name)
				}
				j.w.Items = slices.Delete(j.w.Items, i, i+1)
				timeSwings(j.w.Items)
			}
		}
	}
	joints := func() (n int) {
		for i := range j.w.Items {
			n += b2i(j.w.Items[i].Phase == Joints)
		}
		return n
	}
	for round := mostRounds; round > 1; round-- {
		out(func(it *Item) bool { return it.Phase == Ladder && it.Round == round })
	}
	out(func(it *Item) bool { return it.Phase == Joints && joints() > leastJoints && extraJoint(it) })
	for _, phase := range []Phase{Jump, Activate, Separate, Cool} {
		out(func(it *Item) bool { return it.Phase == phase && j.r.Purpose != After })
	}
	out(func(it *Item) bool { return it.Phase == Joints && joints() > leastJoints })
	out(func(it *Item) bool { return it.Step == "drill" })
	out(func(it *Item) bool { return it.Side == "other" })
	if j.r.Purpose == After {
		out(func(it *Item) bool { return it.HoldSeconds > 0 })
	}
	for i := range j.w.Items {
		if it := &j.w.Items[i]; it.Phase == Raise && total(j.w.Items) > 60*j.r.Minutes {
			it.Seconds = max(leastRaise, it.Seconds-(total(j.w.Items)-60*j.r.Minutes))
		}
	}
	j.each(func(it *Item) bool {
		for it.Swings > 1 && total(j.w.Items) > 60*j.r.Minutes {
			it.Swings--
			timeSwings(j.w.Items)
		}
		return true
	})
	if len(gone) == 0 {
		return "Shorten what is there."
	}
	return "Take out: " + join(gone) + "."
}

// extraJoint reports whether a joint line goes before hip turn, chest turn and shoulder do.
func extraJoint(it *Item) bool {
	l, ok := FindLine(it.Line)
	return !ok || it.For != "" || l.Rank > 3
}

func join(names []string) string {
	if len(names) > 4 {
		return fmt.Sprintf("%s, %s, %s and %d more", names[0], names[1], names[2], len(names)-3)
	}
	out := ""
	for i, n := range names {
		switch {
		case i == 0:
		case i == len(names)-1:
			out += " and "
		default:
			out += ", "
		}
		out += n
	}
	return out
}

func (j *judge) both() (text, item string) {
	if !j.p.OtherSide || slices.ContainsFunc(j.limits, func(l athlete.Limit) bool { return l.Side == "lead" || l.Side == "trail" }) {
		return "", ""
	}
	playing, other := 0, 0
	j.each(func(it *Item) bool {
		if it.Side == "other" {
			other += it.Swings
		} else {
			playing += it.Swings
		}
		return true
	})
	if playing == 0 || j.r.Minutes < leastMinutes || other >= leastOther {
		return "", ""
	}
	return fmt.Sprintf("%d swings from the other side: %d at least.", other, leastOther), ""
}

func (j *judge) fixBoth() string {
	for i := range j.w.Items {
		if it := j.w.Items[i]; it.Swings > 0 && it.Side == "playing" {
			it.ID, it.Side, it.Swings = "", "other", leastOther
			it.IntentPercent = min(max(it.IntentPercent, 0), firstIntent)
			j.w.Items = slices.Insert(j.w.Items, i+1, it)
			break
		}
	}
	return "Two half swings from the other side, after the first ones."
}
