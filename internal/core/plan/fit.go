package plan

import (
	"cmp"
	"math"
	"slices"

	"dunnock/internal/core/budget"
	"dunnock/internal/core/library"
	"dunnock/internal/core/quality"
)

// homely are the qualities whose work can go home.
var homely = []string{quality.Mobility, quality.Separation, quality.Control, quality.Grip}

// fitAll cuts every session to its minutes.
func (l *layer) fitAll() {
	for s := range l.letters {
		for l.over(s) && l.shorter(s) {
		}
	}
}

func (l *layer) over(session int) bool {
	return math.Round(l.seconds(session)/6)/10 > float64(l.brief.Minutes)
}

// shorter takes one step toward a session that fits, in the order of handbook 11:
// what is spared goes, what can go home goes home, work moves to a session with
// room, floors go, the least relevant first, then what is built gets less, and
// last of all what leads. It reports whether there was a step left.
func (l *layer) shorter(session int) bool {
	in := l.order(session)
	slices.SortStableFunc(in, func(a, b *entry) int { return cmp.Compare(l.weight(a), l.weight(b)) })
	for _, e := range in {
		if e.asked.Level == string(quality.Spare) {
			l.drop(e)
			return true
		}
	}
	for _, e := range in {
		if slices.Contains(homely, e.asked.Quality) && l.goHome(e) {
			return true
		}
	}
	for _, e := range in {
		if e.asked.Level == string(quality.Keep) && l.moves(e) {
			return true
		}
	}
	for _, e := range in {
		if e.asked.Level == string(quality.Keep) && !l.lastFloor(e) {
			l.leaveOut(e)
			return true
		}
	}
	for _, e := range in {
		if e.asked.Level == string(quality.Build) {
			if e.dose.Sets > 1 {
				e.dose.Sets--
			} else {
				l.leaveOut(e)
			}
			return true
		}
	}
	for _, e := range in {
		if e.asked.Level == string(quality.Keep) {
			l.leaveOut(e)
			return true
		}
	}
	for _, e := range in {
		if e.dose.Sets > 1 {
			e.dose.Sets--
			return true
		}
	}
	if len(in) > 1 {
		l.leaveOut(in[0])
		return true
	}
	return false
}

// weight orders entries by how dear they are: the least relevant quality first,
// swings and lifts last.
func (l *layer) weight(e *entry) float64 {
	w := l.school.Relevance[e.asked.Quality]
	switch {
	case e.asked.Quality == budget.Trunk:
		w = 0.45
	case e.slot == library.SlotSwings:
		w = 2
	case e.slot == library.SlotMain:
		w = 3
	}
	switch e.asked.Level {
	case string(quality.Build):
		w += 10
	case string(quality.Lead):
		w += 20
	}
	return w
}

// lastFloor reports whether an entry is the swings, or the one lower-body lift.
func (l *layer) lastFloor(e *entry) bool {
	return e.slot == library.SlotSwings || e.slot == library.SlotMain
}

func (l *layer) drop(e *entry) {
	l.entries = slices.DeleteFunc(l.entries, func(x *entry) bool { return x == e })
}

// leaveOut takes an entry out, a push with its pull.
func (l *layer) leaveOut(e *entry) {
	partner := library.Slot("")
	switch e.slot {
	case library.SlotPush:
		partner = library.SlotPull
	case library.SlotPull:
		partner = library.SlotPush
	}
	session := e.session
	l.out = append(l.out, e)
	l.drop(e)
	if at := slices.IndexFunc(l.entries, func(x *entry) bool { return x.session == session && partner != "" && x.slot == partner }); at >= 0 {
		l.out = append(l.out, l.entries[at])
		l.entries = slices.Delete(l.entries, at, at+1)
	}
}

// homeSeconds is what a home day holds.
func (l *layer) homeSeconds(day int) float64 {
	sum := 0.0
	for _, e := range l.entries {
		if e.session == atHome && e.homeDay == day {
			sum += e.seconds()
		}
	}
	return sum
}

// goHome moves an entry to the home day with the most room.
func (l *layer) goHome(e *entry) bool {
	if len(e.ex.MissingKit(l.homeKit())) > 0 {
		return false
	}
	own := e.seconds()
	best, least := -1, math.Inf(1)
	for day := range l.homes {
		same := slices.ContainsFunc(l.entries, func(x *entry) bool { return x.session == atHome && x.homeDay == day && x.ex.ID == e.ex.ID })
		if has := l.homeSeconds(day); !same && has+own <= 60*l.table.Home.Minutes && has < least-1e-9 {
			best, least = day, has
		}
	}
	if best < 0 {
		return false
	}
	e.session, e.homeDay, e.early = atHome, best, false
	return true
}

// moves moves an entry to another session that may hold it and has room.
func (l *layer) moves(e *entry) bool {
	if e.slot == library.SlotSwings || e.slot == library.SlotPush || e.slot == library.SlotPull {
		return false
	}
	from := e.session
	for s, letter := range l.letters {
		if s == from || l.stands(s, e.ex.ID) || !l.roomForNew(s, e.ex) || !kinds[letter].holds(e.slot) {
			continue
		}
		e.session = s
		before := e.dose
		l.clamp(e)
		if !l.over(s) && e.dose.Volume() == before.Volume() {
			return true
		}
		e.session, e.dose = from, before
	}
	return false
}
