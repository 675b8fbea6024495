package plan

import (
	"fmt"
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
	var best *library.Exercise
	bestScore, from := math.Inf(-1), 0
	blocked := ""
	for i := range l.by.Exercises.All() {
		e := &l.by.Exercises.All()[i]
		if !e.Fits(slot) || !zoneFits(slot, e.Zone) || !fits(e) || e.LookAlike && slot != library.SlotSwings {
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
		from++
		if s, _ := l.scoreFor(e, a, at); s > bestScore {
			best, bestScore = e, s
		}
	}
	if best == nil {
		if blocked == "" {
			blocked = "the kit and the library leave nothing"
		}
		l.miss(a, blocked)
		return nil
	}
	e := &entry{asked: a, session: session, slot: slot, ex: best}
	e.why = l.reasonFor(e, from, bestScore)
	e.dose = l.item(best, at, 0, l.course.weeks, e.why).Dose
	l.entries = append(l.entries, e)
	return e
}

// scoreFor is the score of an exercise for what is asked: what it serves of that
// quality first, then all it scores else, and variety over the week.
func (l *layer) scoreFor(e *library.Exercise, a *programme.Asked, at place) (float64, []Part) {
	s, parts := l.scoreOn(e, at)
	w := l.school.Weights
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
	}
	if simple > 0 && !budget.IsLift(e) && !budget.IsPush(e) && !budget.IsPull(e) && (a.Level == string(quality.Keep) || a.Quality == budget.SwingSpeed && !l.wanted(quality.GroundForce)) {
		parts = append(parts, Part{"what is kept up is kept simple", -simple})
		s -= simple
	}
	if e.SoundSide(l.Facts.Limits) != "" {
		parts = append(parts, Part{"one side only", -w.KnownLoad})
		s -= w.KnownLoad
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
func (l *layer) reasonFor(e *entry, from int, score float64) programme.Reason {
	a := e.asked
	r := programme.Reason{Rule: l.school.Name + ": " + budget.Name(a.Quality) + " " + levelWords(quality.Level(a.Level)), Source: "our default, common practice"}
	wanted := fmt.Sprintf("%s %s a week", unit.Compact(a.Low, 1), budget.Unit(a.Unit).Words())
	switch quality.Level(a.Level) {
	case quality.Lead, quality.Build:
		r.Finding = l.sentenceOf(a.Quality)
		r.Text = fmt.Sprintf("%s → %s %s: %s → %s.", strings.TrimSuffix(r.Finding, "."), budget.Name(a.Quality), levelWords(quality.Level(a.Level)), wanted, e.ex.Name)
	default:
		r.Text = fmt.Sprintf("%s is kept up → %s → %s.", upper(budget.Name(a.Quality)), wanted, e.ex.Name)
	}
	r.Text = strings.TrimSuffix(r.Text, ".") + fmt.Sprintf(" (%s points, best of %d).", unit.Text(score, 2), from)
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
