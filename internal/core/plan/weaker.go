package plan

import (
	"slices"
	"strings"

	"dunnock/internal/core/athlete"
	"dunnock/internal/core/budget"
	"dunnock/internal/core/library"
	"dunnock/internal/core/measure"
	"dunnock/internal/core/programme"
	"dunnock/internal/core/programme/derive"
	"dunnock/internal/core/quality"
	"dunnock/internal/core/reliability"
	"dunnock/internal/core/unit"
)

// weakerBlocks is for how many blocks in a row a weaker side gets more work before it
// is taken as it is.
const weakerBlocks = 2

// A weakerSide is a side that a test finds really weaker, and what is done more of for
// it.
type weakerSide struct {
	test     string
	of       string // the quality whose work answers it
	side     string
	sentence string
	fits     func(*library.Exercise) bool
}

// oneSidedWork says by its quality what one-sided work answers a difference between the
// sides of a test, and where pain would forbid it.
var oneSidedWork = map[string]struct {
	fits    func(*library.Exercise) bool
	regions []string
}{
	quality.Grip:            {func(e *library.Exercise) bool { return budget.IsGrip(e) }, []string{"wrist-hand", "elbow", "shoulder"}},
	quality.Control:         {func(e *library.Exercise) bool { return e.Pattern == "balance" }, []string{"hip", "knee", "ankle-foot"}},
	quality.VerticalPower:   {oneLegged, []string{"hip", "knee", "ankle-foot"}},
	quality.StretchUse:      {oneLegged, []string{"hip", "knee", "ankle-foot"}},
	quality.RotationalPower: {func(e *library.Exercise) bool { return e.Sides == library.Directional && e.Maximal }, []string{"lumbar-spine", "thoracic-spine", "shoulder", "hip"}},
}

func oneLegged(e *library.Exercise) bool {
	return e.Pattern == "one-leg-lift" || e.DoseUnit == library.Contacts && e.Sides == library.OneSided
}

// weaker returns the sides that are really weaker, and notes those that are taken as
// they are by now. A side that has hurt gets no more.
func (p *planner) weaker() []weakerSide {
	var out []weakerSide
	add := func(w weakerSide) {
		if p.before != nil && p.before.Weaker[w.test] >= weakerBlocks {
			p.note("%s It had more work for %d blocks and is taken as it is.", w.sentence, weakerBlocks)
			return
		}
		out = append(out, w)
	}
	for i := range p.Read.Tests {
		t := &p.Read.Tests[i]
		d := t.Difference
		def, ok := p.file.Tests().Find(t.Test)
		if !ok || def.Range || d == nil || d.Verdict != reliability.Real || t.Status != quality.Measured {
			continue
		}
		of := t.Quality
		if t.Test == "lateral-bound" {
			of = quality.VerticalPower // it is scored under none
		}
		work, ok := oneSidedWork[of]
		if !ok || p.hasHurt(t.Test, d.Weaker, work.regions) {
			continue
		}
		if !answeredBy(out, of, string(d.Weaker)) {
			add(weakerSide{t.Test, of, string(d.Weaker), d.Sentence, work.fits})
		}
	}
	tested := slices.Clone(out)
	for _, w := range p.unlikeFeet() {
		if !answeredBy(tested, w.of, w.side) {
			add(w)
		}
	}
	return out
}

// answeredBy reports whether a weaker side of a quality is answered already: one answer
// does for two tests.
func answeredBy(sides []weakerSide, of, side string) bool {
	return slices.ContainsFunc(sides, func(w weakerSide) bool { return w.of == of && w.side == side })
}

// hasHurt reports whether a side has hurt on any test, or stands under a limit.
func (p *planner) hasHurt(test string, side measure.Side, regions []string) bool {
	of := func(s string) bool { return s == "" || s == "both" || s == string(side) }
	for _, s := range p.file.Screens {
		for _, tr := range s.Trials {
			if tr.Pain > 0 && of(string(tr.Side)) && (tr.Test == test || slices.Contains(regions, tr.Region)) {
				return true
			}
		}
	}
	return slices.ContainsFunc(p.Facts.Limits, func(l athlete.Limit) bool {
		return slices.Contains(regions, l.Region) && (of(l.Side) || side == measure.Side("toward") || side == measure.Side("away"))
	})
}

// weakSides gives the weaker sides more in every week but an easier one and a taper: a
// set where a line has two or more, else half the repetitions again.
func (l *layer) weakSides(b *programme.Block) {
	l.weakerSides = map[string]string{}
	if l.brief.Phase != programme.Preparation {
		return // more waits until the season is over
	}
	for _, w := range l.weakest {
		for wi := range b.Weeks {
			week := &b.Weeks[wi]
			if week.Kind == programme.Taper || week.Kind == programme.Easier {
				continue
			}
			for si := range week.Sessions {
				s := &week.Sessions[si]
				for ii := range s.Items {
					if l.moreOn(w, b, s, &s.Items[ii]) {
						l.weakerSides[w.test] = w.side
					}
				}
			}
		}
	}
}

// moreOn gives an item more on a weaker side, if it works one side at a time and the
// session may hold it.
func (l *layer) moreOn(w weakerSide, b *programme.Block, s *programme.Session, it *programme.Item) bool {
	e, ok := l.by.Exercises.Find(it.Exercise)
	d := &it.Dose
	limb := w.side == string(measure.Lead) || w.side == string(measure.Trail)
	if !ok || d.SideFactor() != 2 || d.Weaker != "" || limb != (d.Sides == library.OneSided) || !w.fits(e) {
		return false
	}
	was := *d
	d.Weaker = w.side
	switch half := max(1, (max(d.Reps, d.Seconds)+1)/2); {
	case firstSets(b, s.Letter, it) >= 2:
		d.WeakerSets = 1
	case e.Maximal && d.Reps+half > l.Facts.By.ExplosiveReps.Most:
		*d = was
		return false
	default:
		d.WeakerMore = half
	}
	landings, throws := 0, 0
	for i := range s.Items {
		x := &s.Items[i]
		if e, ok := l.by.Exercises.Find(x.Exercise); ok {
			landings += e.Landings(x.Dose.Volume())
		}
		if x.Slot == library.SlotThrow {
			throws += x.Dose.Volume()
		}
	}
	long := unit.Round(derive.Seconds(s, l.by.Exercises)/60, 1) > float64(s.Budget)
	light := !heavy(s.Letter) && landings >= l.Facts.By.Spacing.Landings
	if long || d.Unit == library.Contacts && (landings > l.Facts.RoomForContacts() || light) || it.Slot == library.SlotThrow && l.Facts.MaxThrows() > 0 && throws > l.Facts.MaxThrows() {
		*d = was
		return false
	}
	if !strings.Contains(it.Reason.Text, w.sentence) {
		it.Reason.Text += " " + w.sentence
	}
	first := map[string]string{"toward": "The turn toward the target", "away": "The turn away from the target"}[w.side]
	if first == "" {
		first = "The " + w.side + " side"
	}
	it.Reason.Text += " " + first + " goes first and gets more, until it is tested again."
	return true
}

// firstSets is how many sets an item's line has in the first week that holds it: a line
// gets more in one way all through.
func firstSets(b *programme.Block, letter programme.Letter, of *programme.Item) int {
	n := 0
	b.EachSession(func(_ *programme.Week, s *programme.Session) {
		for i := range s.Items {
			if it := &s.Items[i]; n == 0 && s.Letter == letter && it.Slot == of.Slot && it.Exercise == of.Exercise {
				n = it.Dose.Sets
			}
		}
	})
	return n
}
