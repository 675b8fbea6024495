package plan

import (
	"fmt"
	"math"
	"slices"

	"dunnock/internal/core/library"
	"dunnock/internal/core/programme"
	"dunnock/internal/core/quality"
)

// hold writes down what keeps a quality from being given, should it not be, and
// what of the read is left unanswered.
func (l *layer) hold(b *programme.Block) (unanswered []programme.Unanswered) {
	lost := l.lostSession(b)
	for i := range l.asked {
		a := &l.asked[i]
		short := math.Round(l.given(a, false)*10)/10 < a.Low-1e-9 || a.Beside != "" && l.besideShort(a)
		switch {
		case l.brief.Phase == programme.Tapering:
			a.Held = fmt.Sprintf("TAPER: %s is on %s; it is taken up behind it", l.brief.Peak.Name, l.brief.Peak.Date.Words())
			short = short || l.leads(a.Quality)
		case l.missed[a.Quality] != "":
			a.Held = l.missed[a.Quality]
		case !short && len(l.file.Ramp()) > 0:
			a.Held = fmt.Sprintf("LAY-OFF: the first weeks after %d without training come back slowly", l.file.OffWeeks)
		case l.capped[a.Quality] != "":
			a.Held = l.capped[a.Quality]
		case !short && lost != "":
			a.Held = lost
		default:
			a.Held = fmt.Sprintf("TIME: %d × %d minutes a week do not hold it; a longer slot or another day would", len(l.letters), l.brief.Minutes)
			l.cut = l.cut || short
		}
		if short && l.clearlyShort(a.Quality) && (a.Level == string(quality.Lead) || a.Level == string(quality.Build)) {
			unanswered = append(unanswered, programme.Unanswered{Finding: l.sentenceOf(a.Quality), Why: a.Held + "."})
		}
	}
	if l.brief.Phase == programme.InSeason {
		for _, q := range l.Read.Leaders {
			unanswered = append(unanswered, programme.Unanswered{Finding: l.sentenceOf(q), Why: "IN-SEASON: nothing leads while events follow each other; it gets what there is room for, and leads when the season is over."})
		}
	}
	return append(unanswered, l.unnamed()...)
}

// leads reports whether the read lets a quality lead.
func (l *layer) leads(q string) bool { return slices.Contains(l.Read.Leaders, q) }

// clearlyShort reports whether the read finds a quality clearly below its target.
func (l *layer) clearlyShort(q string) bool {
	return slices.ContainsFunc(l.Read.Qualities, func(s quality.Standing) bool {
		return s.ID == q && (s.Verdict == quality.ClearlyShort || q == quality.Mobility && len(l.Read.Ranges) > 0)
	})
}

// lostSession says which day of the block's rising weeks holds no session.
func (l *layer) lostSession(b *programme.Block) string {
	for wi := range b.Weeks {
		w := &b.Weeks[wi]
		if w.Kind != programme.Rising || len(w.Sessions) == len(l.letters) {
			continue
		}
		for _, d := range datesIn(w.Start, l.brief.Days) {
			if name, plays := l.brief.playsOn(d); plays {
				return fmt.Sprintf("COMPETITION: %s is played on %s", name, d.Words())
			}
			if l.away(d) {
				return "AWAY: nothing is trained on " + d.Words()
			}
		}
	}
	return ""
}

func (l *layer) besideShort(a *programme.Asked) bool {
	push, pull := 0, 0
	for _, e := range l.of(a) {
		switch e.slot {
		case library.SlotPush:
			push += e.dose.Sets
		case library.SlotPull:
			pull += e.dose.Sets
		}
	}
	return float64(min(push, pull)) < a.BesideLow
}
