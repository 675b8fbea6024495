package plan

import (
	"cmp"
	"math"
	"slices"

	"dunnock/internal/core/athlete"
	"dunnock/internal/core/budget"
	"dunnock/internal/core/library"
	"dunnock/internal/core/programme"
	"dunnock/internal/core/programme/derive"
	"dunnock/internal/core/quality"
	"dunnock/internal/core/school"
	"dunnock/internal/core/unit"
)

// fill gives the minutes that are left: to what leads, up to its upper end, then
// to what is built, then to the school's mix; then a set more in the last rising
// week where the range has room.
func (l *layer) fill() {
	for l.bumpLeader() {
	}
	l.takeBack()
	defer l.nameFree()
	l.fillBuilt()
	for l.bumpMix() {
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
				for ; e.rise > 0 && (l.over(e.session) || e.peak().Volume() > l.Facts.RoomForSwings() || e.landings() > l.roomToLand(e)); e.rise-- {
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
			if l.count(a, e.beside, true) > high+1e-9 || l.over(e.session) || e.dose.Volume() != before.Volume() || l.dilutes(a) || !l.withinWave(e) {
				e.rise, e.dose = 0, before
			}
		}
	}
}

// withinWave reports whether an exercise rises no more into the last rising week than WAVE
// allows, over all the sessions it stands in: a set more may come with a repetition more.
func (l *layer) withinWave(e *entry) bool {
	last := l.course.weeks - 2
	if e.dose.Reserve == nil || last < 1 {
		return true
	}
	was, now, set := 0, 0, 0
	for _, x := range l.entries {
		if x.ex != e.ex || x.session == atHome {
			continue
		}
		at := place{l.letters[x.session], x.slot}
		before, after := l.inCourse(x, at, last-1).Dose, l.inCourse(x, at, last).Dose
		was, now, set = was+before.Volume(), now+after.Volume(), max(set, before.SetVolume(), after.SetVolume())
	}
	return float64(now) <= l.Facts.By.Wave.Limit(was, set, false)+1e-9
}

// fillBuilt gives what is built what is left, up to its upper end: first what the school
// aims at.
func (l *layer) fillBuilt() {
	built := func(aimed bool) bool {
		progress := false
		for i := range l.asked {
			a := &l.asked[i]
			if a.Level == string(quality.Build) && l.aims(a) == aimed && l.given(a, false) < a.High-1e-9 && l.bump(a, a.High) {
				progress = true
			}
		}
		return progress
	}
	for built(true) {
	}
	for built(false) {
	}
}

// aims reports whether the school fills a quality toward its upper end first; never for
// novices, juniors, from 60 on and in a first block.
func (l *layer) aims(a *programme.Asked) bool {
	if l.turned != nil && l.turned.upper[a.Quality] {
		return !l.person().Low()
	}
	return slices.Contains(l.stage().Aim, a.Quality) && l.before != nil && !l.person().Low()
}

// bumpMix gives the school's mix one set more: of what is kept, in the zone that lies
// farthest below the school's share of the sets. It reports whether one could.
func (l *layer) bumpMix() bool {
	deficit := l.zoneDeficit()
	list := make([]*programme.Asked, 0, len(l.asked))
	for i := range l.asked {
		if l.asked[i].Level == string(quality.Keep) {
			list = append(list, &l.asked[i])
		}
	}
	most := func(a *programme.Asked) float64 {
		m := math.Inf(-1)
		for _, e := range l.of(a) {
			m = math.Max(m, deficit[e.ex.Zone])
		}
		return m
	}
	slices.SortStableFunc(list, func(a, b *programme.Asked) int { return cmp.Compare(most(b), most(a)) })
	for _, a := range list {
		high := a.High
		// What is kept is a floor: left-over minutes are the school's mix.
		if row, ok := l.table.Row(a.Quality); ok && (l.inMix(a) || !l.avoids(a.Quality) && most(a) > 0) {
			high = row.Build.High
		}
		if l.given(a, false) < high-1e-9 && l.bump(a, high) {
			return true
		}
	}
	return false
}

// zoneDeficit is how far each zone lies below the school's share of the week's sets, in %.
func (l *layer) zoneDeficit() map[library.Zone]float64 {
	sets, all := map[library.Zone]float64{}, 0.0
	for _, e := range l.entries {
		if e.session != atHome {
			sets[e.ex.Zone] += float64(e.dose.Sets)
			all += float64(e.dose.Sets)
		}
	}
	out := map[library.Zone]float64{}
	for i, z := range []library.Zone{library.Z1, library.Z2, library.Z3, library.Z4, library.Z5, library.M} {
		out[z] = float64(l.stage().Zones[l.brief.time()][i]) - 100*sets[z]/math.Max(all, 1)
	}
	return out
}

// nameFree says how many minutes stay free once everything has its fill.
func (l *layer) nameFree() {
	free := 0.0
	for s := range l.letters {
		free += float64(l.brief.Minutes) - l.seconds(s)/60
	}
	if l.brief.Phase == programme.Preparation && free >= freeWorthNaming*float64(len(l.letters)) {
		l.note("About %s minutes a week stay free: what was asked for is given, and more would only fill the time.", unit.Compact(math.Round(free/5)*5, 0))
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
		return cmp.Compare(minutes[a.Quality]/(a.SharePercent*all), minutes[b.Quality]/(b.SharePercent*all))
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
	slices.SortStableFunc(l.out, func(a, b *entry) int { return cmp.Compare(l.weight(b), l.weight(a)) })
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
		may := true
		for _, e := range group {
			may = may && kinds[letter].holds(e.slot)
			if e.slot == library.SlotSwings {
				may = may && !slices.ContainsFunc(l.entries, func(x *entry) bool {
					return x.slot == library.SlotSwings && (x.session == s || l.adjacent(x.session, s))
				})
			}
			may = may && !l.stands(s, e.ex.ID) && l.roomForNew(s, e.ex)
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

// mixOf is how many qualities are a school's mix.
const mixOf = 4

// inMix reports whether a quality gets left-over minutes beyond its floor: the four that
// weigh most under the school, what it avoids left out.
func (l *layer) inMix(a *programme.Asked) bool {
	all := slices.DeleteFunc(school.Qualities(), func(q string) bool { return l.avoids(q) || q == quality.GroundForce })
	slices.SortStableFunc(all, func(x, y string) int { return cmp.Compare(l.school.Relevance[y], l.school.Relevance[x]) })
	return slices.Contains(all[:min(mixOf, len(all))], a.Quality)
}

// avoids reports whether the school gives a quality its floor and no more.
func (l *layer) avoids(q string) bool { _, ok := l.school.Avoid[q]; return ok }

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
		return cmp.Compare(l.roomless(x), l.roomless(y))
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
			most := 120.0
			if e.early && e.dose.Unit == library.Seconds {
				most = mostHold
			}
			if workSeconds(e)/float64(e.dose.SideFactor()) > most {
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
		sum := e.ex.ServesFrom(from)
		for q, w := range e.ex.Serves {
			if w >= from {
				by[q] += m * w / sum
			}
		}
	}
	return by, all
}
