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
	"dunnock/internal/core/programme/derive"
	"dunnock/internal/core/quality"
	"dunnock/internal/core/school"
	"dunnock/internal/core/unit"
)

// atHome is the session index of what is done at home.
const atHome = -1

// entry is one line of the block: an exercise in one session of every week, or on
// one home day, for what was asked of a quality.
type entry struct {
	asked   *programme.Asked
	beside  bool // for the second unit that was asked
	session int  // index in the week, or atHome
	homeDay int  // index among the home days
	slot    library.Slot
	ex      *library.Exercise
	dose    programme.Dose // of the first week
	rise    int            // sets more in the last rising week
	longest int            // of swings: repetitions a set in the longest week
	early   bool           // range that leads: right after the warm-up
	why     programme.Reason
}

// layer lays what is asked out over the sessions of a week.
type layer struct {
	*planner
	letters []programme.Letter
	entries []*entry
	asked   []programme.Asked
	table   *budget.Table
	homes   []int             // weekdays of the home days
	missed  map[string]string // by quality: what leaves nothing to place
	capped  map[string]string // by quality: the rule that allows no more in a session
	out     []*entry          // left out for want of minutes
}

// lay lays a week out: floors and doses at their lower ends, cut to the minutes,
// then filled with what is left.
func (p *planner) lay(asked []programme.Asked, letters []programme.Letter) *layer {
	l := &layer{planner: p, letters: letters, asked: asked, table: budget.Doses(), homes: p.homeWeekdays(), missed: map[string]string{}, capped: map[string]string{}}
	even := !slices.ContainsFunc(l.asked, func(a programme.Asked) bool { return a.Level == string(quality.Lead) })
	for i := range l.asked {
		a := &l.asked[i]
		was := *a
		if row, ok := l.table.Row(a.Quality); ok && even && a.Level == string(quality.Keep) && l.inMix(a) {
			// Nothing leads: the school's even mix.
			a.Low, a.Days, a.BesideLow = row.Build.Low, row.Build.Days, row.Build.Beside
		}
		l.give(a)
		a.Low, a.Days, a.BesideLow = was.Low, was.Days, was.BesideLow
	}
	l.fitAll()
	l.fill()
	return l
}

// homeWeekdays are the weekdays without a session, as far apart as they can be,
// as offsets among all seven; session days follow, for more.
func (p *planner) homeWeekdays() []int {
	var free []int
	for d := range 7 {
		if !slices.Contains(p.brief.Days, d) {
			free = append(free, d)
		}
	}
	return append(free, p.brief.Days...)
}

// can returns the sessions that may hold work of a slot, the least full first.
func (l *layer) can(may func(kindOfDay) bool) []int {
	var out []int
	for i, letter := range l.letters {
		if may(kinds[letter]) {
			out = append(out, i)
		}
	}
	slices.SortStableFunc(out, func(a, b int) int { return compareFloat(l.seconds(a), l.seconds(b)) })
	return out
}

func compareFloat(a, b float64) int {
	switch {
	case a < b:
		return -1
	case a > b:
		return 1
	}
	return 0
}

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
		l.spread(a, library.SlotJump, func(k kindOfDay) bool { return k.jumps }, days, a.Low, func(e *library.Exercise) bool { return !e.Rhythmic && e.DoseUnit == library.Contacts })
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
			l.spread(a, library.SlotJump, func(k kindOfDay) bool { return k.jumps }, days, a.Low, func(e *library.Exercise) bool { return e.Serves[quality.GroundForce] >= 0.5 })
		}
	case budget.TrunkSets:
		l.spread(a, library.SlotTrunk, func(kindOfDay) bool { return true }, 1, a.Low, func(e *library.Exercise) bool { return strings.HasPrefix(e.Pattern, "resist") })
		l.spread(a, library.SlotTrunk, func(kindOfDay) bool { return true }, 1, a.Low, func(e *library.Exercise) bool {
			return (e.Pattern == "produce-rotation" || e.Pattern == "lowering-rotation") && !e.LookAlike
		})
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

// fewest is the fewest throws or landings worth placing.
const fewest = 3

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
		if rule, why := l.Facts.Forbidden(e); rule != "" && !(session == atHome && rule == "KIT") {
			if blocked == "" || rule == "CONTRA" {
				blocked = rule + ": " + why
			}
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
	e.dose = l.item(best, at, 0, l.brief.Weeks, e.why).Dose
	if side := best.SoundSide(l.Facts.Limits); side != "" {
		e.dose.Side = side
	}
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
func (l *layer) homeKit() []string { return l.file.Training.KitAt["home"] }

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

// clamp keeps a dose within what a session may hold, and writes down the rule that
// took some away.
func (l *layer) clamp(e *entry) {
	d := &e.dose
	before := d.Volume()
	defer func() {
		if d.Volume() < before {
			l.capped[e.asked.Quality] = l.capOf(e)
		}
	}()
	if e.session == atHome {
		return
	}
	others := func(slot library.Slot, of func(*entry) int) int {
		n := 0
		for _, x := range l.entries {
			if x != e && x.session == e.session && x.slot == slot {
				n += of(x)
			}
		}
		return n
	}
	switch e.slot {
	case library.SlotJump:
		most := l.Facts.MaxContacts()
		if !heavy(l.letters[e.session]) {
			most = min(most, l.Facts.By.Spacing.Landings-1) // a light day stays light
		}
		most -= others(library.SlotJump, func(x *entry) int { return x.peak().Volume() })
		for d.Sets > 1 && e.peak().Volume() > most {
			d.Sets--
		}
		for d.Reps > 1 && e.peak().Volume() > most {
			d.Reps--
		}
	case library.SlotThrow:
		if most := l.Facts.MaxThrows(); most > 0 {
			most -= others(library.SlotThrow, func(x *entry) int { return x.peak().Volume() })
			for d.Sets > 1 && e.peak().Volume() > most {
				d.Sets--
			}
			for d.Reps > 1 && e.peak().Volume() > most {
				d.Reps--
			}
		}
	}
}

// capOf is the rule that caps a session's throws or landings.
func (l *layer) capOf(e *entry) string {
	switch {
	case l.Facts.Senior:
		return "SENIOR: what a session may hold is used up"
	case l.Facts.NearSpurt:
		return "GROWTH: what a session may hold is used up"
	case l.Facts.Junior:
		return "JUNIOR: what a session may hold is used up"
	case e.slot == library.SlotJump && !heavy(l.letters[e.session]):
		return "SPACING: the day stays light beside a heavy one"
	}
	return "CONTACTS: what a session may hold is used up"
}

// peak is the dose of the last rising week: the longest.
func (e *entry) peak() programme.Dose {
	d := e.dose
	if e.slot == library.SlotSwings {
		d.Reps = max(d.Reps, e.longest)
	}
	d.Sets += e.rise
	return d
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
		if e := l.best(a, library.SlotMain, s, func(e *library.Exercise) bool { return budget.IsLift(e) && e.DoseUnit != library.Seconds }); e != nil {
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
			if e := l.best(a, library.SlotSwings, s, func(e *library.Exercise) bool { return e.DoseUnit == library.Swings }); e != nil {
				for w := range l.brief.Weeks {
					e.longest = max(e.longest, l.school.Dose(e.row(), l.Facts.Tier, w, l.brief.Weeks).Reps)
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
		e := l.best(a, library.SlotSpecial, atHome, func(x *library.Exercise) bool { return budget.IsDrill(x) && !slices.Contains(chosen, x) })
		if e == nil {
			break
		}
		chosen = append(chosen, e.ex)
		l.entries = l.entries[:len(l.entries)-1] // chosen; placed below
		for k := range doses {
			one := *e
			one.dose.Sets, one.dose.Reps = 1, 6
			if k < len(l.letters) {
				one.session = k
			} else {
				one.session, one.homeDay = atHome, k-len(l.letters)
			}
			l.entries = append(l.entries, &one)
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
			e.homeDay = k - len(l.letters)
			l.timed(e, 60*a.Low/float64(n))
		}
	}
}

// timed sets a dose that lasts so many seconds, both sides.
func (l *layer) timed(e *entry, seconds float64) {
	d := &e.dose
	perSide := seconds / float64(d.SideFactor())
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
			home := k - len(l.letters)
			if shared := l.serving(session, home, x.joint.Test); shared != nil {
				if x.side == "" || shared.dose.Side != x.side {
					shared.dose.Side = "" // one exercise for both
				}
				continue
			}
			e := l.best(a, library.SlotRange, session, func(e *library.Exercise) bool { return slices.Contains(e.Targets, x.joint.Test) })
			if e == nil {
				break
			}
			e.homeDay = home
			l.forJoint(e, x.joint)
			e.early = a.Level == string(quality.Lead) && session != atHome
			if x.side != "" && e.ex.Sides != library.TwoSided && e.ex.SoundSide(l.Facts.Limits) == "" && e.sidesMatch(measure.Side(x.side)) {
				e.dose.Side = x.side
			}
			l.perSide(e, seconds)
		}
	}
}

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

// serving is the entry of a session or home day that works a joint already.
func (l *layer) serving(session, home int, test string) *entry {
	for _, e := range l.entries {
		if e.session == session && (session != atHome || e.homeDay == home) && slices.Contains(e.ex.Targets, test) && e.slot == library.SlotRange {
			return e
		}
	}
	return nil
}

// sidesMatch reports whether a side is one of the exercise's kind.
func (e *entry) sidesMatch(s measure.Side) bool {
	limb := s == measure.Side(measure.Lead) || s == measure.Side(measure.Trail)
	return limb == (e.ex.Sides == library.OneSided)
}

// perSide sets a dose that works each side for so many seconds.
func (l *layer) perSide(e *entry, seconds float64) {
	d := &e.dose
	if d.Unit == library.Seconds {
		d.Sets = max(1, int(math.Ceil(seconds/45-1e-9)))
		d.Seconds = int(math.Ceil(seconds/float64(d.Sets)/5-1e-9)) * 5
		d.Reps = 0
		return
	}
	d.Sets = max(1, int(math.Ceil(seconds/(e.ex.SecondsPerRep*12)-1e-9)))
	d.Reps = int(math.Ceil(seconds/(e.ex.SecondsPerRep*float64(d.Sets)) - 1e-9))
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

// row is the row of the school's dose table of an entry.
func (e *entry) row() school.Row { return school.RowOf(e.slot, e.ex.DoseUnit) }

// seconds is how long an entry takes in its longest week.
func (e *entry) seconds() float64 {
	d := e.peak()
	return derive.DoseSeconds(&d, e.ex.SecondsPerRep)
}

// seconds is how long a session is in its longest week: what derive.Seconds says
// of it.
func (l *layer) seconds(session int) float64 {
	sum := derive.WarmUpMinutes * 60.0
	var push, pull *entry
	for _, e := range l.entries {
		if e.session != session {
			continue
		}
		sum += e.seconds()
		switch e.slot {
		case library.SlotPush:
			push = e
		case library.SlotPull:
			pull = e
		}
	}
	if push != nil && pull != nil {
		a, b := push.peak(), pull.peak()
		sum -= derive.SharedSeconds(&a, &b)
	}
	return sum
}

// order returns the entries of a session in the order they are done: range that
// leads first, then by slot and zone.
func (l *layer) order(session int) []*entry {
	var out []*entry
	for _, e := range l.entries {
		if e.session == session {
			out = append(out, e)
		}
	}
	slices.SortStableFunc(out, func(a, b *entry) int {
		if a.early != b.early {
			return b2i(b.early) - b2i(a.early)
		}
		if d := slices.Index(library.SlotOrder, a.slot) - slices.Index(library.SlotOrder, b.slot); d != 0 {
			return d
		}
		return strings.Compare(string(a.ex.Zone), string(b.ex.Zone))
	})
	return out
}
