package plan

import (
	"fmt"
	"math"
	"slices"

	"dunnock/internal/core/athlete"
	"dunnock/internal/core/budget"
	"dunnock/internal/core/library"
	"dunnock/internal/core/programme"
	"dunnock/internal/core/programme/derive"
	"dunnock/internal/core/quality"
	"dunnock/internal/core/unit"
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
	slices.SortStableFunc(in, func(a, b *entry) int { return compareFloat(l.weight(a), l.weight(b)) })
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
		k := kinds[letter]
		may := s != from && !l.stands(s, e.ex.ID)
		switch e.slot {
		case library.SlotJump:
			may = may && k.jumps
		case library.SlotThrow:
			may = may && k.throws
		case library.SlotMain:
			may = may && k.lift
		}
		if !may {
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

// fill gives the minutes that are left: to what leads, up to its upper end, then
// to what is built, then to the school's mix; then a set more in the last rising
// week where the range has room.
func (l *layer) fill() {
	for l.bumpLeader() {
	}
	l.takeBack()
	defer l.nameFree()
	for _, level := range []quality.Level{quality.Build, quality.Keep} {
		for progress := true; progress; {
			progress = false
			for i := range l.asked {
				a := &l.asked[i]
				high := a.High
				// What is kept is a floor: left-over minutes are the school's mix.
				if row, ok := l.table.Row(a.Quality); ok && level == quality.Keep && l.inMix(a) {
					high = row.Build.High
				}
				if a.Level == string(level) && l.given(a, false) < high-1e-9 && l.bump(a, high) {
					progress = true
				}
			}
		}
	}
	for i := range l.asked {
		a := &l.asked[i]
		for _, e := range l.entries {
			if e.asked != a || e.slot == library.SlotRange || e.slot == library.SlotSpecial || e.session == atHome {
				continue
			}
			if e.slot == library.SlotSwings {
				e.rise = 2
				if l.Facts.Tier == athlete.Novice {
					e.rise = 1
				}
				for ; e.rise > 0 && (l.over(e.session) || e.peak().Volume() > l.Facts.MaxSwings()); e.rise-- {
				}
				continue
			}
			e.rise = 1
			before := e.dose
			l.clamp(e)
			high := a.High
			if e.beside {
				high = a.BesideHigh
			}
			if l.count(a, e.beside, true) > high+1e-9 || l.over(e.session) || e.dose.Volume() != before.Volume() || l.dilutes(a) {
				e.rise, e.dose = 0, before
			}
		}
	}
}

// nameFree says how many minutes stay free because what leads has its fill.
func (l *layer) nameFree() {
	free := 0.0
	for s := range l.letters {
		free += float64(l.brief.Minutes) - l.seconds(s)/60
	}
	if free >= freeWorthNaming*float64(len(l.letters)) {
		l.note("About %s minutes a week stay free: what leads stands at its upper end, and more of the rest would crowd it.", unit.Compact(math.Round(free/5)*5, 0))
	}
}

// freeWorthNaming is from how many free minutes a session they are named.
const freeWorthNaming = 10

// bumpLeader gives one set more to the leader that is farthest from its share and
// can take it. It reports whether one could.
func (l *layer) bumpLeader() bool {
	minutes, all := l.minutesBy()
	var leaders []*programme.Asked
	for i := range l.asked {
		if l.asked[i].Level == string(quality.Lead) {
			leaders = append(leaders, &l.asked[i])
		}
	}
	slices.SortStableFunc(leaders, func(a, b *programme.Asked) int {
		return compareFloat(minutes[a.Quality]/(a.SharePercent*all), minutes[b.Quality]/(b.SharePercent*all))
	})
	for _, a := range leaders {
		if l.given(a, false) < a.High-1e-9 && l.bump(a, a.High) {
			return true
		}
	}
	return false
}

// takeBack puts back what was left out where there is room after all, the most
// relevant first: swings may then stand still over the weeks.
func (l *layer) takeBack() {
	slices.SortStableFunc(l.out, func(a, b *entry) int { return compareFloat(l.weight(b), l.weight(a)) })
	still := l.out[:0:0]
	for i := 0; i < len(l.out); i++ {
		e := l.out[i]
		group := []*entry{e}
		if i+1 < len(l.out) && e.session == l.out[i+1].session && (e.slot == library.SlotPush && l.out[i+1].slot == library.SlotPull || e.slot == library.SlotPull && l.out[i+1].slot == library.SlotPush) {
			group = append(group, l.out[i+1])
			i++
		}
		if !l.fitsSomewhere(group) {
			still = append(still, group...)
		}
	}
	l.out = still
	for _, e := range still {
		l.note("%s: %d minutes do not hold %s.", l.daysWords(), l.brief.Minutes, e.slot.Words())
	}
}

func (l *layer) daysWords() string {
	if len(l.letters) == 1 {
		return "The session"
	}
	return "The sessions"
}

// fitsSomewhere puts entries that belong together into a session that may hold them
// and has room.
func (l *layer) fitsSomewhere(group []*entry) bool {
	for s, letter := range l.letters {
		k, may := kinds[letter], true
		for _, e := range group {
			switch e.slot {
			case library.SlotSwings:
				may = may && k.swings && !slices.ContainsFunc(l.entries, func(x *entry) bool {
					return x.slot == library.SlotSwings && (x.session == s || l.adjacent(x.session, s))
				})
			case library.SlotJump:
				may = may && k.jumps
			case library.SlotThrow:
				may = may && k.throws
			case library.SlotMain:
				may = may && k.lift
			case library.SlotPush, library.SlotPull:
				may = may && k.upper
			}
			may = may && !l.stands(s, e.ex.ID)
		}
		if !may {
			continue
		}
		was := make([]entry, len(group))
		for i, e := range group {
			was[i] = *e
			e.session = s
			l.entries = append(l.entries, e)
			l.clamp(e)
		}
		changed := slices.ContainsFunc(group, func(e *entry) bool { return e.dose.Volume() == 0 })
		if !changed && !l.over(s) && !l.dilutes(group[0].asked) {
			return true
		}
		l.entries = l.entries[:len(l.entries)-len(group)]
		for i, e := range group {
			*e = was[i]
		}
	}
	return false
}

// inMix reports whether a quality gets left-over minutes beyond its floor.
func (l *layer) inMix(a *programme.Asked) bool {
	switch a.Quality {
	case quality.MaximalStrength, quality.VerticalPower, quality.HorizontalPower, quality.RotationalPower:
		return true
	}
	return false
}

// given is what the first rising week, or the last, gives of what is asked.
func (l *layer) given(a *programme.Asked, last bool) float64 { return l.count(a, false, last) }

func (l *layer) count(a *programme.Asked, beside, last bool) float64 {
	switch budget.Unit(a.Unit) {
	case budget.JointMinutes:
		return l.jointMinutes(a)
	case budget.DrillDoses:
		return float64(len(l.of(a)))
	}
	n, push, pull := 0.0, 0.0, 0.0
	for _, e := range l.of(a) {
		d := e.dose
		if last {
			d = e.peak()
		}
		switch {
		case e.slot == library.SlotPush:
			push += float64(d.Sets)
		case e.slot == library.SlotPull:
			pull += float64(d.Sets)
		case budget.Unit(a.Unit) == budget.TrunkSets:
			n += float64(d.Sets) / 2
		case budget.Unit(a.Unit) == budget.Exposures:
			n++
		case budget.Unit(a.Unit) == budget.Contacts || budget.Unit(a.Unit) == budget.StillMinutes || budget.Unit(a.Unit) == budget.GripSets:
			n += budget.Count(budget.Unit(a.Unit), e.ex, &d)
		default:
			n += budget.Count(budget.Unit(a.Unit), e.ex, &d)
		}
	}
	if beside {
		return math.Max(push, pull)
	}
	return n
}

func (l *layer) of(a *programme.Asked) []*entry {
	var out []*entry
	for _, e := range l.entries {
		if e.asked == a {
			out = append(out, e)
		}
	}
	return out
}

// jointMinutes is the least any joint gets, in the leader's measure.
func (l *layer) jointMinutes(a *programme.Asked) float64 {
	least := math.Inf(1)
	for i := range a.Joints {
		j := &a.Joints[i]
		seconds := 0.0
		for _, e := range l.entries {
			if slices.Contains(e.ex.Targets, j.Test) && (e.dose.Side == "" || e.dose.Side == j.Side) {
				seconds += workSeconds(e) / float64(e.dose.SideFactor())
			}
		}
		least = math.Min(least, seconds/60*a.Low/j.Low)
	}
	if math.IsInf(least, 1) {
		return 0
	}
	return least
}

func workSeconds(e *entry) float64 {
	if e.dose.Unit == library.Seconds {
		return float64(e.dose.Volume())
	}
	return float64(e.dose.Volume()) * e.ex.SecondsPerRep
}

// mostSets is how many sets one line has at most; mostKept of what is kept.
const mostSets, mostKept = 6, 4

// bump gives a quality one set more where there is room: on the day with the most
// of it. It reports whether it could.
func (l *layer) bump(a *programme.Asked, high float64) bool {
	list := l.of(a)
	slices.SortStableFunc(list, func(x, y *entry) int {
		if x.dose.Sets != y.dose.Sets {
			return x.dose.Sets - y.dose.Sets
		}
		return compareFloat(l.roomless(x), l.roomless(y))
	})
	for _, e := range list {
		if e.slot == library.SlotSwings || e.slot == library.SlotSpecial {
			continue
		}
		before := e.dose
		if e.slot == library.SlotRange {
			if e.dose.Unit == library.Seconds && e.dose.Seconds*e.dose.Sets < 60 {
				e.dose.Seconds = int(math.Ceil(float64(e.dose.Seconds)*1.25/5)) * 5
			} else {
				e.dose.Sets++
			}
			if workSeconds(e)/float64(e.dose.SideFactor()) > 120 {
				e.dose = before
				continue
			}
		} else if quick := e.slot == library.SlotThrow || e.slot == library.SlotJump; quick && e.dose.Sets >= mostSets && a.Level != string(quality.Keep) && !e.ex.Rhythmic && e.dose.Reps < l.Facts.By.ExplosiveReps.Most {
			e.dose.Reps++
		} else {
			e.dose.Sets++
		}
		bumped := e.dose
		l.clamp(e)
		over := e.session != atHome && l.over(e.session) || e.session == atHome && l.homeSeconds(e.homeDay) > 60*l.table.Home.Minutes
		limit, now := high, l.count(a, false, false)
		if e.beside {
			limit, now = a.BesideHigh, l.count(a, true, false)
		}
		most := mostSets
		if a.Level == string(quality.Keep) {
			most = mostKept
		}
		if e.dose.Sets > most || e.dose.Volume() != bumped.Volume() || over || now > limit+1e-9 || a.Level != string(quality.Lead) && l.dilutes(a) {
			e.dose = before
			continue
		}
		return true
	}
	return false
}

func (l *layer) roomless(e *entry) float64 {
	if e.session == atHome {
		return l.homeSeconds(e.homeDay)
	}
	return l.seconds(e.session)
}

// dilutes reports whether a leader's least share would break, or a quality that is
// kept would have more minutes than the leader: strength's floor and swings aside.
func (l *layer) dilutes(more *programme.Asked) bool {
	if more.Level == string(quality.Lead) {
		return false
	}
	minutes, all := l.minutesBy()
	for i := range l.asked {
		a := &l.asked[i]
		if a.Level != string(quality.Lead) {
			continue
		}
		if 100*minutes[a.Quality] < a.SharePercent*all-1e-9 {
			return true
		}
		if more.Level == string(quality.Keep) && minutes[more.Quality] > minutes[a.Quality] {
			return true
		}
	}
	return false
}

// minutesBy is the minutes that serve each quality in a first week, by weight as
// they are counted, and all of them.
func (l *layer) minutesBy() (by map[string]float64, all float64) {
	by = map[string]float64{}
	from := l.table.Share.Serves
	for _, e := range l.entries {
		m := derive.DoseSeconds(&e.dose, e.ex.SecondsPerRep) / 60
		all += m
		if e.slot == library.SlotSwings {
			continue
		}
		sum := 0.0
		for _, w := range e.ex.Serves {
			if w >= from {
				sum += w
			}
		}
		for q, w := range e.ex.Serves {
			if w >= from {
				by[q] += m * w / sum
			}
		}
	}
	return by, all
}

// hold writes down what keeps a quality from being given, should it not be, and
// what of the read is left unanswered.
func (l *layer) hold(b *programme.Block) (unanswered []programme.Unanswered) {
	lost := l.lostSession(b)
	for i := range l.asked {
		a := &l.asked[i]
		short := math.Round(l.given(a, false)*10)/10 < a.Low-1e-9 || a.Beside != "" && l.besideShort(a)
		switch {
		case l.missed[a.Quality] != "":
			a.Held = l.missed[a.Quality]
		case !short && len(l.file.Ramp()) > 0:
			a.Held = fmt.Sprintf("LAY-OFF: the first weeks after %d without training come back slowly", l.file.OffWeeks)
		case l.capped[a.Quality] != "":
			a.Held = l.capped[a.Quality]
		case !short && lost != "":
			a.Held = lost
		default:
			a.Held = fmt.Sprintf("TIME: %d x %d minutes a week do not hold it; a longer slot or another day would", len(l.letters), l.brief.Minutes)
		}
		if short && (a.Level == string(quality.Lead) || a.Level == string(quality.Build)) {
			unanswered = append(unanswered, programme.Unanswered{Finding: l.sentenceOf(a.Quality), Why: a.Held + "."})
		}
	}
	return unanswered
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
