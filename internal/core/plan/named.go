package plan

import (
	"fmt"
	"slices"
	"strings"

	"dunnock/internal/core/athlete"
	"dunnock/internal/core/budget"
	"dunnock/internal/core/library"
	"dunnock/internal/core/measure"
	"dunnock/internal/core/programme"
	"dunnock/internal/core/quality"
)

// namedPoints is what an exercise gains that is the first of the week to answer a
// finding of a force recording: enough to be chosen among those that do the same for
// what is asked.
const namedPoints = 6

// A namedAnswer is work that answers findings of force recordings.
type namedAnswer struct {
	what string
	fits func(*library.Exercise) bool
}

var (
	oneLegLift   = namedAnswer{"a lift on one leg", func(e *library.Exercise) bool { return e.Pattern == "one-leg-lift" }}
	oneLegLands  = namedAnswer{"a landing on one leg", landsOnOneLeg}
	stuckLanding = namedAnswer{"landings that are stuck", func(e *library.Exercise) bool {
		return budget.IsJump(e) && !e.Rhythmic && (e.Level == 1 && !e.Maximal || e.Pattern == "jump-lateral")
	}}
	fastDrop = namedAnswer{"jumps with a dip or a load", func(e *library.Exercise) bool {
		return e.Pattern == "jump-vertical" && e.Maximal && !slices.Contains(fromStill, e.ID)
	}}
	sideways = namedAnswer{"lateral bounds", func(e *library.Exercise) bool { return e.Pattern == "jump-lateral" && e.Sides == library.OneSided }}
	turning  = namedAnswer{"throws to both sides", func(e *library.Exercise) bool {
		return e.Fits(library.SlotThrow) && e.Sides == library.Directional
	}}
	drills = namedAnswer{"a drill of the swing: feet together, step in, foot lift or held finish", func(e *library.Exercise) bool {
		return slices.Contains(timingDrills, e.ID)
	}}
)

// fromStill are the jumps that begin without a dip, timingDrills the swings that teach
// when to push; common practice, no source.
var (
	fromStill    = []string{"jump-squat", "jump-seated"}
	timingDrills = []string{"swing-feet-together", "swing-half", "swing-step-in", "swing-two-step", "swing-foot-lift", "swing-overturned"}
)

// landsOnOneLeg holds for landings from a short way: low ones first.
func landsOnOneLeg(e *library.Exercise) bool {
	return budget.IsJump(e) && !e.Rhythmic && e.Sides == library.OneSided && e.Level <= 2
}

// namedAnswers says by a window's key what work answers a number outside of it, on
// either side of the window; common practice, no source.
var namedAnswers = map[string]struct{ low, high []namedAnswer }{
	"lateral":            {low: []namedAnswer{sideways}},
	"rotational":         {low: []namedAnswer{turning}},
	"vertical":           {low: []namedAnswer{fastDrop}},
	"rate":               {low: []namedAnswer{fastDrop}},
	"unweighting":        {low: []namedAnswer{fastDrop}},
	"vertical-time":      {low: []namedAnswer{fastDrop}, high: []namedAnswer{drills}},
	"rotational-time":    {[]namedAnswer{drills}, []namedAnswer{drills}},
	"lateral-time":       {[]namedAnswer{drills}, []namedAnswer{drills}},
	"lead-share-impact":  {[]namedAnswer{drills}, []namedAnswer{drills}},
	"lead-share-top":     {[]namedAnswer{drills}, []namedAnswer{drills}},
	"braking":            {[]namedAnswer{stuckLanding}, []namedAnswer{oneLegLift, stuckLanding}},
	"side-difference":    {high: []namedAnswer{oneLegLift, oneLegLands}},
	"landing-difference": {high: []namedAnswer{oneLegLands}},
	"landing":            {high: []namedAnswer{stuckLanding}},
	"braking-rate":       {low: []namedAnswer{fastDrop}},
	"time-to-takeoff":    {high: []namedAnswer{fastDrop}},
}

// A namedFinding is a finding of a recording with one piece of work that answers it.
type namedFinding struct {
	athlete.ForceFinding
	namedAnswer
}

// namedFindings returns the findings of recordings this block answers by name, and
// notes what is the swing instructor's and what is too old to count.
func (p *planner) namedFindings() []namedFinding {
	if p.brief.Phase == programme.Tapering {
		return nil
	}
	var out []namedFinding
	for _, f := range p.file.ForceFindings {
		if p.file.AsOf.Sub(f.On) > quality.StaleDays {
			p.note("%s Recorded on %s, more than %d days ago: too old to answer. Record anew.", f.Sentence, f.On.Words(), quality.StaleDays)
			continue
		}
		answers := namedAnswers[f.Key].high
		if f.Low {
			answers = namedAnswers[f.Key].low
		}
		for _, a := range answers {
			out = append(out, namedFinding{f, a})
		}
		if f.Instructor {
			p.note("%s Drills make room for it; the rest is the swing instructor's: take the instructor's page along.", f.Sentence)
		}
	}
	return out
}

// openFor returns the findings that an exercise would be the first to answer.
func (l *layer) openFor(e *library.Exercise) (open []namedFinding) {
	for _, f := range l.named {
		if f.fits(e) && !l.answered(f) {
			open = append(open, f)
		}
	}
	return open
}

// answered reports whether an exercise of the week answers a finding.
func (l *layer) answered(f namedFinding) bool {
	return slices.ContainsFunc(l.entries, func(x *entry) bool { return x.session != atHome && f.fits(x.ex) })
}

// sayNamed adds to the reasons of the week what of the recordings they answer, each
// finding at the first exercise that does.
func (l *layer) sayNamed() {
	for _, f := range l.named {
		for _, e := range l.entries {
			if e.session == atHome || !f.fits(e.ex) {
				continue
			}
			if !strings.Contains(e.why.Text, f.Sentence) {
				e.why.Text += " " + f.Sentence + " This answers it."
			}
			break
		}
	}
}

// unnamed are the findings of recordings that nothing in the week answers, and why.
func (l *layer) unnamed() (out []programme.Unanswered) {
	for _, f := range l.named {
		if l.answered(f) {
			continue
		}
		why := fmt.Sprintf("TIME: %d × %d minutes a week hold no %s.", len(l.letters), l.brief.Minutes, strings.TrimPrefix(f.what, "a "))
		for i := range l.by.Exercises.All() {
			e := &l.by.Exercises.All()[i]
			if !f.fits(e) {
				continue
			}
			rule, text := l.Facts.Forbidden(e)
			if rule == "" {
				break // one could be done: it is the minutes
			}
			why = rule + ": " + strings.TrimSuffix(text, ".") + "."
		}
		out = append(out, programme.Unanswered{Finding: f.Sentence, Why: why})
	}
	return out
}

// unlikeFeet are the sides that push or land less in a jump.
func (p *planner) unlikeFeet() (out []weakerSide) {
	for _, f := range p.namedFindings() {
		if f.Weaker == "" || p.hasHurt("cmj", measure.Side(f.Weaker), oneSidedWork[quality.VerticalPower].regions) {
			continue
		}
		out = append(out, weakerSide{f.Key, quality.VerticalPower, f.Weaker, f.Sentence, f.fits})
	}
	return out
}
