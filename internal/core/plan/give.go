package plan

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"dunnock/internal/core/budget"
	"dunnock/internal/core/library"
	"dunnock/internal/core/measure"
	"dunnock/internal/core/programme"
	"dunnock/internal/core/quality"
)

// mostLeadDays is on how many days a week a leader is trained where they allow it.
const mostLeadDays = 3

// give lays one quality out at the lower end of its dose.
func (l *layer) give(a *programme.Asked) {
	build := a.Level != string(quality.Keep) && a.Level != string(quality.Spare)
	days := a.Days
	if a.Level == string(quality.Lead) {
		days = max(days, mostLeadDays)
	}
	switch budget.Unit(a.Unit) {
	case budget.JointMinutes:
		l.giveJoints(a)
	case budget.LiftSets:
		l.giveLifts(a)
	case budget.Contacts:
		l.spread(a, library.SlotJump, func(k kindOfDay) bool { return k.jumps }, days, a.Low, budget.IsJump)
		if build && len(l.of(a)) == 0 {
			// Who cannot land throws for it.
			l.spread(a, library.SlotThrow, func(k kindOfDay) bool { return k.throws }, days, mostQuick, func(e *library.Exercise) bool { return e.Serves[a.Quality] >= 0.5 })
		}
	case budget.Rebounds:
		l.spread(a, library.SlotJump, func(k kindOfDay) bool { return k.jumps }, days, a.Low, func(e *library.Exercise) bool {
			return e.Rhythmic && e.Serves[quality.StretchUse] >= 0.5
		})
	case budget.ThrowsEachWay:
		l.spread(a, library.SlotThrow, func(k kindOfDay) bool { return k.throws }, days, a.Low, func(e *library.Exercise) bool {
			return e.Sides == library.Directional && e.Serves[quality.RotationalPower] >= 0.5
		})
	case budget.ChestThrows:
		l.spread(a, library.SlotThrow, func(k kindOfDay) bool { return k.throws }, days, a.Low, budget.IsChestThrow)
	case budget.DrillDoses:
		l.giveDrills(a)
	case budget.StillMinutes:
		l.giveStill(a)
	case budget.GripSets:
		l.spread(a, library.SlotFinisher, func(kindOfDay) bool { return true }, max(days, 1), a.Low, budget.IsGrip)
	case budget.PushItems:
		if build {
			l.givePushes(a)
		}
	case budget.TrunkSets:
		l.spread(a, library.SlotTrunk, func(kindOfDay) bool { return true }, 1, a.Low, func(e *library.Exercise) bool { return strings.HasPrefix(e.Pattern, "resist") })
		before := len(l.entries)
		if l.wanted(quality.RotationalPower) {
			// Where turning is short it may look like a swing.
			l.spread(a, library.SlotSpecial, func(kindOfDay) bool { return true }, 1, a.Low, budget.IsTurning)
		}
		if len(l.entries) == before {
			l.spread(a, library.SlotTrunk, func(kindOfDay) bool { return true }, 1, a.Low, func(e *library.Exercise) bool { return budget.IsTurning(e) && !e.LookAlike })
		}
	case budget.Exposures:
		l.giveSwings(a)
	}
}

// spread lays a dose over so many days, each with an exercise of its own kind.
func (l *layer) spread(a *programme.Asked, slot library.Slot, may func(kindOfDay) bool, days int, dose float64, fits func(*library.Exercise) bool) {
	sessions := l.can(may)
	if dose <= 0 {
		return
	}
	if len(sessions) == 0 {
		l.miss(a, "the kinds of day leave no session for it")
		return
	}
	sessions = sessions[:min(max(days, 1), len(sessions))]
	slices.Sort(sessions)
	given := 0.0
	for i, s := range sessions {
		want := (dose - given) / float64(len(sessions)-i)
		e := l.best(a, slot, s, fits)
		if e == nil {
			continue
		}
		l.dose(e, want)
		if quick := slot == library.SlotThrow || slot == library.SlotJump; quick && e.dose.Volume() < fewest*e.dose.SideFactor() {
			l.drop(e) // what the session may hold is not worth getting ready for
			l.miss(a, "CONTACTS: what a session may hold is used up")
			continue
		}
		given += budget.Count(budget.Unit(a.Unit), e.ex, &e.dose)
		if budget.Unit(a.Unit) == budget.TrunkSets {
			given += float64(e.dose.Sets)
		}
	}
}

// mostQuick is how many throws stand for landings where none can be made.
const mostQuick = 12

// pushes are the components of ground force: the test that finds one short, and the
// work that answers it by name.
var pushes = []struct {
	test string
	slot library.Slot
	fits func(*library.Exercise) bool
}{
	{"swing-lateral", library.SlotJump, func(e *library.Exercise) bool { return e.Pattern == "jump-lateral" }},
	{"swing-rotational", library.SlotThrow, func(e *library.Exercise) bool { return e.Sides == library.Directional }},
	{"swing-vertical", library.SlotJump, func(e *library.Exercise) bool { return e.Pattern == "jump-vertical" }},
}

// givePushes lays out work for the components of ground force that are clearly short,
// in turn; where none is, or nothing may be done for one, any that serves it.
func (l *layer) givePushes(a *programme.Asked) {
	serves := func(e *library.Exercise) bool { return e.Serves[quality.GroundForce] >= 0.5 }
	short := map[string]bool{}
	for _, t := range l.Read.Tests {
		for _, s := range t.Sides {
			short[t.Test] = short[t.Test] || s.Verdict == quality.ClearlyShort
		}
	}
	n := 0
	for _, p := range pushes {
		n += b2i(short[p.test])
	}
	for _, p := range pushes {
		if !short[p.test] {
			continue
		}
		may := func(k kindOfDay) bool {
			return k.jumps && p.slot == library.SlotJump || k.throws && p.slot == library.SlotThrow
		}
		l.spread(a, p.slot, may, a.Days, math.Ceil(a.Low/float64(n)), func(e *library.Exercise) bool { return serves(e) && p.fits(e) })
	}
	for _, slot := range []library.Slot{library.SlotJump, library.SlotSpecial} {
		if given := l.given(a, false); given < a.Low {
			l.spread(a, slot, func(k kindOfDay) bool { return k.jumps }, a.Days, a.Low-given, serves)
		}
	}
}

// fewest is the fewest throws or landings worth placing.
const fewest = 3

// dose sets sets and repetitions so that an entry counts at least so much.
func (l *layer) dose(e *entry, want float64) {
	d := &e.dose
	one := *d
	one.Sets = 1
	count := func(x programme.Dose) float64 {
		if u := budget.Unit(e.asked.Unit); u == budget.TrunkSets || e.beside {
			return float64(x.Sets)
		}
		return budget.Count(budget.Unit(e.asked.Unit), e.ex, &x)
	}
	if e.ex.Maximal && !e.ex.Rhythmic && (e.slot == library.SlotThrow || e.slot == library.SlotJump) {
		one.Reps = min(max(one.Reps, 3), l.Facts.By.ExplosiveReps.Most)
		// Sets of three to five: the fewest sets that hold it without a long one.
		for one.Reps < l.Facts.By.ExplosiveReps.Most && count(one) > 0 && want/count(one) > 5 {
			one.Reps++
		}
		d.Reps = one.Reps
	}
	if e.ex.Rhythmic && e.slot == library.SlotJump {
		one.Reps = 10
		d.Reps = one.Reps
	}
	per := count(one)
	if per <= 0 {
		return
	}
	d.Sets = max(1, int(math.Ceil(want/per-1e-9)))
	l.clamp(e)
}

// giveLifts lays out squats and hinges, and a push and a pull beside them.
func (l *layer) giveLifts(a *programme.Asked) {
	days := l.can(func(k kindOfDay) bool { return k.lift })
	// Two legs first: the pattern that is tested.
	slices.SortStableFunc(days, func(a, b int) int { return strings.Compare(string(l.letters[a]), string(l.letters[b])) })
	if len(days) == 0 {
		l.miss(a, "no day may be heavy")
	}
	n := min(max(a.Days, 1), len(days))
	if a.Level == string(quality.Lead) {
		n = len(days)
	}
	sessions := slices.Clone(days[:n])
	slices.Sort(sessions)
	given := 0.0
	for i, s := range sessions {
		want := (a.Low - given) / float64(len(sessions)-i)
		if a.Level == string(quality.Keep) {
			want = a.Low // kept in one session; from 60 on in each of two
		}
		l.twoLegsFirst = i == 0 && len(sessions) > 1
		e := l.best(a, library.SlotMain, s, func(e *library.Exercise) bool { return budget.IsLift(e) && e.DoseUnit != library.Seconds })
		if e != nil {
			e.dose.Sets = max(1, int(math.Ceil(want-1e-9)))
			given += float64(e.dose.Sets)
		}
	}
	upper := l.can(func(k kindOfDay) bool { return k.upper })
	n = 1
	if a.Level != string(quality.Keep) || l.Facts.Senior {
		n = min(2, len(upper))
	}
	upper = slices.Clone(upper[:min(n, len(upper))])
	slices.Sort(upper)
	sets := int(math.Ceil(a.BesideLow/float64(max(len(upper), 1)) - 1e-9))
	if a.Level == string(quality.Keep) {
		sets = int(a.BesideLow)
	}
	for _, s := range upper {
		push := l.best(a, library.SlotPush, s, budget.IsPush)
		pull := l.best(a, library.SlotPull, s, budget.IsPull)
		for _, e := range []*entry{push, pull} {
			if e != nil {
				e.beside, e.dose.Sets = true, max(1, sets)
			}
		}
	}
}

// giveSwings lays out sessions of fast swings, never on days that follow each
// other.
func (l *layer) giveSwings(a *programme.Asked) {
	var chosen []int
	sessions := l.can(func(k kindOfDay) bool { return k.swings })
	slices.SortStableFunc(sessions, func(x, y int) int { // fast days first
		return b2i(heavy(l.letters[x])) - b2i(heavy(l.letters[y]))
	})
	for _, s := range sessions {
		if len(chosen) < int(a.Low) && !slices.ContainsFunc(chosen, func(o int) bool { return l.adjacent(o, s) }) {
			// Where more landings are asked of jumps, swings leave them.
			grounded := l.wanted(quality.VerticalPower) || l.wanted(quality.StretchUse)
			may := func(e *library.Exercise) bool { return e.DoseUnit == library.Swings && (!e.FeetOff || !grounded) }
			if e := l.best(a, library.SlotSwings, s, may); e != nil {
				for w := range l.course.weeks {
					e.longest = max(e.longest, l.school.Dose(e.row(), l.Facts.Tier, w, l.course.weeks).Reps)
				}
				chosen = append(chosen, s)
			}
		}
	}
}

func b2i(b bool) int {
	if b {
		return 1
	}
	return 0
}

func (l *layer) adjacent(a, b int) bool {
	d := l.brief.Days[a] - l.brief.Days[b]
	return d == 1 || d == -1 || d == 6 || d == -6
}

// giveDrills lays out drills of separation: different ones, each so many times,
// the sessions first, then at home.
func (l *layer) giveDrills(a *programme.Asked) {
	drills := max(a.Drills, 1)
	doses := int(math.Ceil(a.Low / float64(drills)))
	var chosen []*library.Exercise
	for range drills {
		e := l.best(a, library.SlotSpecial, atHome, func(x *library.Exercise) bool {
			return budget.IsDrill(x) && !slices.Contains(chosen, x) && len(x.MissingKit(l.Facts.Kit)) == 0
		})
		if e == nil {
			break
		}
		chosen = append(chosen, e.ex)
		l.entries = l.entries[:len(l.entries)-1] // chosen; placed below
		for k := range doses {
			one := *e
			one.dose.Sets, one.dose.Reps = 1, 6
			if k < len(l.letters) && l.roomForNew(k, e.ex) {
				one.session = k
			}
			l.entries = append(l.entries, &one)
			l.settle(&one)
		}
	}
}

// giveStill lays out minutes on one leg or holding still, less what the trunk's
// holds give.
func (l *layer) giveStill(a *programme.Asked) {
	if a.Level == string(quality.Keep) || a.Level == string(quality.Spare) {
		if e := l.best(a, library.SlotTrunk, l.can(func(kindOfDay) bool { return true })[0], func(e *library.Exercise) bool { return e.Serves[quality.Control] >= 0.5 }); e != nil {
			l.timed(e, 60*a.Low)
		}
		return
	}
	n := max(a.Days, 2)
	for k := range n {
		session := atHome
		if k < len(l.letters) {
			session = k
		}
		if e := l.best(a, library.SlotTrunk, session, func(e *library.Exercise) bool { return e.Serves[quality.Control] >= 0.5 }); e != nil {
			l.timed(e, 60*a.Low/float64(n))
			l.settle(e)
		}
	}
}

// leastSideSeconds is the least that is held or worked on a side: where nothing is asked, as
// before an event, something is kept up all the same. Common practice, no source.
const leastSideSeconds = 15

// timed sets a dose that lasts so many seconds, both sides.
func (l *layer) timed(e *entry, seconds float64) {
	d := &e.dose
	perSide := max(seconds/float64(d.SideFactor()), leastSideSeconds)
	if d.Unit == library.Seconds {
		d.Sets = max(1, int(math.Ceil(perSide/45-1e-9)))
		d.Seconds = int(math.Ceil(perSide/float64(d.Sets)/5-1e-9)) * 5
		return
	}
	d.Sets = max(1, int(math.Ceil(perSide/(e.ex.SecondsPerRep*10)-1e-9)))
	d.Reps = int(math.Ceil(perSide/(e.ex.SecondsPerRep*float64(d.Sets)) - 1e-9))
}

// giveJoints lays out the minutes of every restricted joint, both sides together
// where both are.
func (l *layer) giveJoints(a *programme.Asked) {
	type line struct {
		joint *programme.AskedJoint
		side  string
	}
	var lines []line
	for i := range a.Joints {
		j := &a.Joints[i]
		if at := slices.IndexFunc(lines, func(x line) bool { return x.joint.Test == j.Test }); at >= 0 {
			lines[at].side = "" // the other side is short too
			continue
		}
		lines = append(lines, line{j, j.Side})
	}
	for _, x := range lines {
		doses := max(x.joint.Days, len(l.letters))
		seconds := 60 * x.joint.Low / float64(doses)
		for k := range doses {
			session := atHome
			if k < len(l.letters) {
				session = k
			}
			if shared := l.serving(session, k-len(l.letters), x.joint.Test); shared != nil {
				if x.side == "" || shared.dose.Side != x.side {
					shared.dose.Side = shared.ex.SoundSide(l.Facts.Limits) // one exercise for both
				}
				continue
			}
			e := l.best(a, library.SlotRange, session, func(e *library.Exercise) bool { return slices.Contains(e.Targets, x.joint.Test) })
			if e == nil {
				break
			}
			l.forJoint(e, x.joint)
			e.early = a.Level == string(quality.Lead) && session != atHome
			if x.side != "" && e.ex.Sides != library.TwoSided && e.ex.SoundSide(l.Facts.Limits) == "" && e.sidesMatch(measure.Side(x.side)) {
				e.dose.Side = x.side
			}
			if e.early && e.dose.Unit == library.Seconds {
				l.perSide(e, min(seconds, mostHold))
			} else {
				l.perSide(e, seconds)
			}
			l.settle(e)
		}
	}
}

// mostHold is how long a joint and side is held still at most before fast work, in
// seconds (Behm et al. 2016, from memory).
const mostHold = 60

// forJoint makes the reason of a range line speak of its joint.
func (l *layer) forJoint(e *entry, j *programme.AskedJoint) {
	for _, r := range l.Read.Ranges {
		if r.Test == j.Test && string(r.Side) == j.Side {
			e.why.Text = strings.Replace(e.why.Text, strings.TrimSuffix(e.why.Finding, "."), strings.TrimSuffix(r.Sentence, "."), 1)
			e.why.Finding = r.Sentence
			return
		}
	}
}

// serving is the entry of a session, or the nth at home, that works a joint already.
func (l *layer) serving(session, nth int, test string) *entry {
	for _, e := range l.entries {
		if e.session != session || !slices.Contains(e.ex.Targets, test) || e.slot != library.SlotRange {
			continue
		}
		if session != atHome || nth == 0 {
			return e
		}
		nth--
	}
	return nil
}

// settle finds an entry that is done at home the day with the most room; where none
// has any it is left out.
func (l *layer) settle(e *entry) {
	if e.session != atHome {
		return
	}
	e.homeDay = -1
	if !l.goHome(e) {
		l.drop(e)
		l.miss(e.asked, fmt.Sprintf("HOME: %g minutes a day at home are used up", l.table.Home.Minutes))
	}
}

// sidesMatch reports whether a side is one of the exercise's kind.
func (e *entry) sidesMatch(s measure.Side) bool {
	limb := s == measure.Side(measure.Lead) || s == measure.Side(measure.Trail)
	return limb == (e.ex.Sides == library.OneSided)
}

// perSide sets a dose that works each side for so many seconds.
func (l *layer) perSide(e *entry, seconds float64) {
	d := &e.dose
	seconds = max(seconds, leastSideSeconds)
	if d.Unit == library.Seconds {
		d.Sets = max(1, int(math.Ceil(seconds/45-1e-9)))
		d.Seconds = int(math.Ceil(seconds/float64(d.Sets)/5-1e-9)) * 5
		d.Reps = 0
		return
	}
	d.Sets = max(1, int(math.Ceil(seconds/(e.ex.SecondsPerRep*12)-1e-9)))
	d.Reps = int(math.Ceil(seconds/(e.ex.SecondsPerRep*float64(d.Sets)) - 1e-9))
}
