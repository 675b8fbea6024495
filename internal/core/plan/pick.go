package plan

import (
	"fmt"
	"hash/fnv"
	"math"
	"slices"
	"strings"

	"dunnock/internal/core/budget"
	"dunnock/internal/core/library"
	"dunnock/internal/core/programme"
	"dunnock/internal/core/quality"
	"dunnock/internal/core/unit"
)

// best chooses the exercise of a quality in a session and adds its entry; nil where
// the limits, the kit and the level leave nothing.
func (l *layer) best(a *programme.Asked, slot library.Slot, session int, fits func(*library.Exercise) bool) *entry {
	at := place{slot: slot}
	if session != atHome {
		at.letter = l.letters[session]
	}
	var all []candidate
	blocked := ""
	for i := range l.by.Exercises.All() {
		e := &l.by.Exercises.All()[i]
		if !e.Fits(slot) || !zoneFits(slot, e.Zone) || !fits(e) || e.ByHand || e.LookAlike && !l.mayLookAlike(e, slot) {
			continue
		}
		if session == atHome && len(e.MissingKit(l.homeKit())) > 0 {
			continue
		}
		if session != atHome && !l.roomForNew(session, e) {
			if blocked == "" {
				blocked = fmt.Sprintf("NOVEL: %d new exercises a session are the most", l.Facts.By.Novel.Most)
			}
			continue
		}
		if rule, why := l.Facts.Forbidden(e); rule != "" && !(session == atHome && rule == "KIT") {
			if blocked == "" || rule == "CONTRA" {
				blocked = rule + ": " + why
			}
			continue
		}
		if e.Unstable && !slices.ContainsFunc(l.Facts.Limits, e.Rehabilitates) {
			continue
		}
		if l.tooHard(e) || l.tooHeavy(e) || session != atHome && l.stands(session, e.ID) {
			continue
		}
		s, _ := l.scoreFor(e, a, at)
		all = append(all, candidate{e, s})
	}
	best, top := l.choose(all, l.marginOf(slot))
	if best.ex == nil {
		if blocked == "" {
			blocked = "the kit and the library leave nothing"
		}
		l.miss(a, blocked)
		return nil
	}
	e := &entry{asked: a, session: session, slot: slot, ex: best.ex}
	e.why = l.reasonFor(e, len(all), best.score, top)
	e.dose = l.item(best.ex, at, 0, l.course.weeks, e.why).Dose
	l.entries = append(l.entries, e)
	return e
}

// mayLookAlike reports whether an exercise that looks like a swing may stand in a slot:
// swings do, and what turns or pushes like one where the read finds that short.
func (l *layer) mayLookAlike(e *library.Exercise, slot library.Slot) bool {
	switch {
	case slot == library.SlotSwings, slot == library.SlotThrow:
		return true
	case slot != library.SlotSpecial:
		return false
	}
	return l.wanted(quality.RotationalPower) && e.Serves[quality.RotationalPower] >= 0.5 || l.wanted(quality.GroundForce) && e.Serves[quality.GroundForce] >= 0.5
}

// A candidate is an exercise that may stand in a place, with its score there.
type candidate struct {
	ex    *library.Exercise
	score float64
}

// margin is how many points below the best an exercise may lie and be chosen all the
// same: scores are not so exact that the same few should stand in every plan (ours).
const margin, plainMargin = 0.5, 0.1

// marginOf is the margin in a slot: fast swings that nothing was found short for are
// plain ones.
func (l *layer) marginOf(slot library.Slot) float64 {
	if slot == library.SlotSwings && !l.wanted(quality.RotationalPower) && !l.wanted(quality.GroundForce) {
		return plainMargin
	}
	return margin
}

// choose returns one of the candidates within the margin of the best score, and that
// score. Which one depends on the golfer and the first day of the block alone, so that
// the same file gets the same plan, and another golfer, or another block, something
// else.
func (l *layer) choose(all []candidate, margin float64) (candidate, float64) {
	top := math.Inf(-1)
	for _, c := range all {
		top = math.Max(top, c.score)
	}
	var chosen candidate
	var least uint64
	for _, c := range all {
		if c.score < top-margin-1e-9 {
			continue
		}
		if turn := l.turn(c.ex.ID); chosen.ex == nil || turn < least {
			chosen, least = c, turn
		}
	}
	return chosen, top
}

// turn orders exercises for a golfer and a block.
func (l *layer) turn(exercise string) uint64 {
	h := fnv.New64a()
	_, _ = h.Write(l.seed)
	_, _ = h.Write([]byte(exercise))
	// The last step of splitmix64: FNV alone leaves names that differ in their ends in
	// much the same order.
	x := h.Sum64()
	x = (x ^ x>>30) * 0xbf58476d1ce4e5b9
	x = (x ^ x>>27) * 0x94d049bb133111eb
	return x ^ x>>31
}

// scoreFor is the score of an exercise for what is asked: what it serves of that
// quality first, then all it scores else, and variety over the week.
func (l *layer) scoreFor(e *library.Exercise, a *programme.Asked, at place) (float64, []Part) {
	s, parts := l.scoreOn(e, at)
	w := l.school.Weigh()
	times := 2.0
	if a.Level == string(quality.Lead) {
		times = 5 // minutes of what serves it half count half
	}
	if own := times * e.Serves[a.Quality]; own > 0 {
		parts = append(parts, Part{"asked for " + budget.Name(a.Quality), own})
		s += own
	}
	used := 0
	for _, x := range l.entries {
		if x.ex.ID == e.ID && x.session != atHome {
			used++
		}
	}
	if st := l.Read.Strength; st != nil && st.Ratio >= strongRatio && budget.IsLift(e) && e.LoadBasis == "none" && e.Sides == library.TwoSided {
		parts = append(parts, Part{"too easy for what was tested", -w.KnownLoad})
		s -= w.KnownLoad
	}
	simple := plainer * float64(e.Level-1)
	if e.DoseUnit == library.Swings {
		simple *= 2 // a drill of the swing wants a reason
		if l.wanted(quality.RotationalPower) || l.wanted(quality.GroundForce) {
			simple = 0
		}
	}
	if simple > 0 && at.slot != library.SlotSpecial && !budget.IsLift(e) && !budget.IsPush(e) && !budget.IsPull(e) && (a.Level == string(quality.Keep) || a.Quality == budget.SwingSpeed) {
		parts = append(parts, Part{"what is kept up is kept simple", -simple})
		s -= simple
	}
	if e.SoundSide(l.Facts.Limits) != "" {
		parts = append(parts, Part{"one side only", -w.KnownLoad})
		s -= w.KnownLoad
	}
	if at.letter != "" && !(l.twoLegsFirst && budget.IsLift(e)) && len(l.openFor(e)) > 0 {
		parts = append(parts, Part{"answers a force recording", namedPoints})
		s += namedPoints
	}
	if points := l.goesOn(e, a, at); points > 0 {
		parts = append(parts, Part{"goes on from the last block", points})
		s += points
	}
	if used > 0 {
		parts = append(parts, Part{"already this week", -w.AnotherDay * float64(used)})
		s -= w.AnotherDay * float64(used)
	}
	return round3(s), parts
}

// strongRatio is the lift over body mass from which both legs without a load are no
// strength work.
const strongRatio = 1.2

// plainer is what an exercise loses for each level above the first where a quality
// is only kept up.
const plainer = 0.5

// wanted reports whether a quality leads or is built.
func (l *layer) wanted(q string) bool {
	return slices.ContainsFunc(l.asked, func(a programme.Asked) bool {
		return a.Quality == q && (a.Level == string(quality.Lead) || a.Level == string(quality.Build))
	})
}

// stands reports whether an exercise stands in a session already.
func (l *layer) stands(session int, id string) bool {
	return slices.ContainsFunc(l.entries, func(x *entry) bool { return x.session == session && x.ex.ID == id })
}

// homeKit is the kit there is at home.
func (l *layer) homeKit() []string { return l.Facts.HomeKit }

// tooHard reports whether a test says the golfer has too few repetitions of it, or
// it asks for a test nobody did.
func (l *layer) tooHard(e *library.Exercise) bool {
	if e.Test == "" {
		return false
	}
	best, ok := l.tested(e.Test)
	if !ok {
		return e.NeedsTest
	}
	return best-l.Facts.MinReserve() < e.LeastReps
}

// tested is the best number of repetitions of a test of bodyweight.
func (p *planner) tested(test string) (int, bool) {
	for _, t := range p.Read.Tests {
		if t.Test == test && t.Status == quality.Measured && len(t.Sides) == 1 && t.Sides[0].Result != nil {
			return int(*t.Sides[0].Result), true
		}
	}
	return 0, false
}

func (l *layer) miss(a *programme.Asked, why string) {
	if _, ok := l.missed[a.Quality]; !ok {
		l.missed[a.Quality] = why
	}
}

// reasonFor says why an entry stands where it stands.
func (l *layer) reasonFor(e *entry, from int, score, top float64) programme.Reason {
	a := e.asked
	r := programme.Reason{Rule: l.school.Name + ": " + budget.Name(a.Quality) + " " + levelWords(quality.Level(a.Level)), Source: "our default, common practice"}
	wanted := fmt.Sprintf("%s %s a week", unit.Compact(a.Low, 1), budget.Unit(a.Unit).Words())
	if a.Low == 0 { // a taper asks for no dose
		wanted = "a little, before the event"
	}
	switch quality.Level(a.Level) {
	case quality.Lead, quality.Build:
		r.Finding = l.sentenceOf(a.Quality)
		if a.Raised {
			r.Finding = ""
			r.Text = fmt.Sprintf("%s raises %s, short or not: %s → %s.", l.school.Name, budget.Name(a.Quality), wanted, e.ex.Name)
			break
		}
		r.Text = fmt.Sprintf("%s → %s %s: %s → %s.", strings.TrimSuffix(r.Finding, "."), budget.Name(a.Quality), levelWords(quality.Level(a.Level)), wanted, e.ex.Name)
	default:
		if e.ex.LookAlike && e.slot == library.SlotSpecial {
			of := quality.RotationalPower
			if e.ex.Serves[of] < 0.5 {
				of = quality.GroundForce
			}
			r.Finding = l.sentenceOf(of)
		}
		r.Text = fmt.Sprintf("%s is kept up → %s → %s.", upper(budget.Name(a.Quality)), wanted, e.ex.Name)
	}
	among := "best"
	if score < top {
		among = fmt.Sprintf("one of those within %s points of the best", unit.Compact(l.marginOf(e.slot), 1))
	}
	r.Text = strings.TrimSuffix(r.Text, ".") + fmt.Sprintf(" (%s of %d).", among, from)
	return r
}

func levelWords(l quality.Level) string {
	switch l {
	case quality.Lead:
		return "leads"
	case quality.Build:
		return "is built"
	case quality.Spare:
		return "is spared"
	}
	return "is kept up"
}

func (p *planner) sentenceOf(q string) string {
	for _, s := range p.Read.Qualities {
		if s.ID == q {
			return s.Sentence
		}
	}
	return ""
}
