package plan

import (
	"cmp"
	"math"
	"slices"

	"dunnock/internal/core/library"
	"dunnock/internal/core/programme"
)

// afterPlay is how many days behind the event a block ends in it is retested, and from
// how many the legs are loaded again.
const afterPlay = 3

// playedCut is the share of a week's volume left out where an event is played through,
// and near it how far whole sets may miss it.
const playedCut, playedNear = 1.0 / 3, 0.05

// leastReps is the fewest repetitions a set is cut to; of swings the rule SWINGS says it.
const leastReps = 2

// meet fits a block to the events in it: it tapers toward the one it ends in, and takes
// a third out of the weeks that are played through.
func (l *layer) meet(b *programme.Block) {
	for wi := range b.Weeks {
		if w := &b.Weeks[wi]; w.Kind == programme.Played && len(w.Sessions) > 0 {
			l.playThrough(w)
		}
	}
	if l.brief.Peak != nil {
		l.taper(b)
	}
}

// playThrough takes a third of its volume out of a week. A session that play takes is
// volume less already; in season strength is small already and stays.
func (l *layer) playThrough(w *programme.Week) {
	due := float64(len(l.brief.Days))
	lost := (due - float64(len(w.Sessions))) / due
	full, kept := 0, 0
	var sessions []*programme.Session
	for si := range w.Sessions {
		s := &w.Sessions[si]
		sessions = append(sessions, s)
		full += volumeOf(s)
		if l.brief.Phase == programme.InSeason {
			kept += strengthOf(s)
		}
	}
	base := float64(full) / (1 - lost)
	within := func(cut float64) float64 { return math.Max(base*(1-cut), float64(kept)) }
	l.cutTo(sessions, within(playedCut+playedNear), within(playedCut), within(playedCut-playedNear))
}

// taper cuts the two weeks before the event: days 14 to 8 by less, 7 to 1 by more, both
// together as one published source has it (Bosquet et al. 2007; docs/methods.md). Heavy
// work of the legs ends in good time; behind the event comes rest or range, then light
// work.
func (l *layer) taper(b *programme.Block) {
	l.clearDays(b)
	by := l.Facts.By.Taper
	var far, near []*programme.Session
	b.EachSession(func(_ *programme.Week, s *programme.Session) {
		switch d, _ := l.brief.toPeak(s.Date); {
		case d > by.Days:
			return
		case d > by.NearDays:
			far = append(far, s)
		case d > 0:
			near = append(near, s)
		default: // behind it
			full := float64(volumeOf(s))
			l.cutTo([]*programme.Session{s}, full*easyShare*0.8, full*easyShare, full*easyShare)
		}
		if d, _ := l.brief.toPeak(s.Date); d > 0 && d <= l.Facts.By.Reserve.PlayDays {
			for i := range s.Items {
				// A repetition fewer holds the load with one more in reserve.
				if x := &s.Items[i].Dose; x.Reserve != nil {
					x.Reps = max(min(x.Reps, leastReps), x.Reps-1)
				}
			}
		}
	})
	farAim, nearAim := (by.FarLeast+by.FarMost)/2, (by.NearLeast+by.NearMost)/2
	switch {
	case len(near) == 0:
		farAim = (by.LeastPercent + by.FarMost) / 2
	case len(far) == 0:
		nearAim = (by.NearLeast + by.MostPercent) / 2
	}
	base := func(sessions []*programme.Session) float64 {
		n := 0
		for _, s := range sessions {
			n += s.Base
		}
		return float64(n)
	}
	farBase, nearBase := base(far), base(near)
	// Each part within its own bounds, and so that both together come to theirs.
	togetherLeast, togetherMost := 0.0, farBase+nearBase
	if farBase > 0 && nearBase > 0 {
		togetherLeast, togetherMost = (farBase+nearBase)*(1-by.MostPercent/100), (farBase+nearBase)*(1-by.LeastPercent/100)
	}
	nearLeast, nearMost := nearBase*(1-by.NearMost/100), nearBase*(1-by.NearLeast/100)
	part := func(sessions []*programme.Session, least, aim, most float64) {
		l.cutTo(sessions, least, min(max(aim, least), most), most)
	}
	part(far, max(farBase*(1-by.FarMost/100), togetherLeast-nearMost), farBase*(1-farAim/100), min(farBase*(1-by.FarLeast/100), togetherMost-nearLeast))
	given := 0.0
	for _, s := range far {
		given += float64(volumeOf(s))
	}
	part(near, max(nearLeast, togetherLeast-given), nearBase*(1-nearAim/100), min(nearMost, togetherMost-given))
	b.EachSession(func(w *programme.Week, s *programme.Session) {
		if w.Kind == programme.Taper {
			s.Title = title(s.Items, l.by.Exercises)
		}
	})
}

// clearDays takes out of the days near the event what does not belong there, and keeps
// with every session of the taper what it held before.
func (l *layer) clearDays(b *programme.Block) {
	by := l.Facts.By.Taper
	for wi := range b.Weeks {
		w := &b.Weeks[wi]
		if w.Kind == programme.Taper {
			w.Due = l.due(w)
		}
		kept := w.Sessions[:0]
		for si := range w.Sessions {
			s := w.Sessions[si]
			d, _ := l.brief.toPeak(s.Date)
			switch {
			case d > 0 && d <= by.Days:
				s.Base = volumeOf(&s)
				if 24*d < by.LegHours {
					l.without(&s, l.heavyLegs)
				}
			case d == -1:
				l.without(&s, func(it *programme.Item) bool { return it.Slot != library.SlotRange })
			case d < 0 && d > -afterPlay:
				l.without(&s, l.heavyLegs)
			}
			switch {
			case len(s.Items) > 0:
				kept = append(kept, s)
			case d > 0:
				l.note("%s: no session, it held the legs alone and %s is near.", s.Date.Words(), l.brief.Peak.Name)
			default:
				l.note("%s: no session, the first days behind %s are for rest or range.", s.Date.Words(), l.brief.Peak.Name)
			}
		}
		w.Sessions = kept
		l.quietHome(w)
	}
}

// due is on how many days of a week before the event a session could be.
func (l *layer) due(w *programme.Week) int {
	n := 0
	for _, day := range datesIn(w.Start, l.brief.Days) {
		_, plays := l.brief.playsOn(day)
		if d, _ := l.brief.toPeak(day); d > 1 && !plays && !l.away(day) {
			n++
		}
	}
	return n
}

// heavyLegs reports whether an item loads the legs hard.
func (l *layer) heavyLegs(it *programme.Item) bool {
	return it.Slot == library.SlotMain || it.Slot == library.SlotSecond
}

// without takes the items out of a session that drop says.
func (l *layer) without(s *programme.Session, drop func(*programme.Item) bool) {
	s.Items = slices.DeleteFunc(s.Items, func(it programme.Item) bool { return drop(&it) })
}

// quietHome leaves range and drills alone at home in the last days before the event,
// and range the day after.
func (l *layer) quietHome(w *programme.Week) {
	kept := w.Home[:0]
	for _, h := range w.Home {
		d, _ := l.brief.toPeak(h.Date)
		if d <= l.Facts.By.Taper.NearDays {
			h.Items = slices.DeleteFunc(h.Items, func(it programme.Item) bool {
				return it.Slot != library.SlotRange && (it.Slot != library.SlotSpecial || d == -1)
			})
		}
		if len(h.Items) > 0 {
			kept = append(kept, h)
		}
	}
	w.Home = kept
}

func volumeOf(s *programme.Session) int {
	n := 0
	for i := range s.Items {
		n += s.Items[i].Dose.Load(s.Items[i].Slot)
	}
	return n
}

func strengthOf(s *programme.Session) int {
	n := 0
	for i := range s.Items {
		if s.Items[i].Slot.Strength() {
			n += s.Items[i].Dose.Load(s.Items[i].Slot)
		}
	}
	return n
}

// A cutLine is an item that is cut, a push with its pull, and what they were.
type cutLine struct {
	items []*programme.Item
	was   []programme.Dose
}

func (c cutLine) slot() library.Slot { return c.items[0].Slot }
func (c cutLine) sets() int          { return c.items[0].Dose.Sets }
func (c cutLine) reps() int          { return c.items[0].Dose.Reps }

// give sets sets and repetitions, none of them more than it was. Where one of the two is
// held and has none, the other keeps its own.
func (c cutLine) give(sets, reps int) {
	for i, it := range c.items {
		it.Dose.Sets = min(sets, c.was[i].Sets)
		if it.Dose.Reps = c.was[i].Reps; reps > 0 {
			it.Dose.Reps = min(reps, c.was[i].Reps)
		}
	}
}

// volume is what it counts.
func (c cutLine) volume() int {
	n := 0
	for _, it := range c.items {
		n += it.Dose.Load(it.Slot)
	}
	return n
}

// left is the share of its volume it still has.
func (c cutLine) left() float64 {
	now, was := 0, 0
	for i, it := range c.items {
		now += it.Dose.Volume()
		was += c.was[i].Volume()
	}
	return float64(now) / float64(max(was, 1))
}

// cutLines are the lines of a session, its range left out.
func cutLines(s *programme.Session) []cutLine {
	var out []cutLine
	pair := -1
	for i := range s.Items {
		it := &s.Items[i]
		if it.Slot == library.SlotRange {
			continue
		}
		if it.Slot == library.SlotPush || it.Slot == library.SlotPull {
			if pair >= 0 {
				out[pair].items, out[pair].was = append(out[pair].items, it), append(out[pair].was, it.Dose)
				continue
			}
			pair = len(out)
		}
		out = append(out, cutLine{[]*programme.Item{it}, []programme.Dose{it.Dose}})
	}
	return out
}

// cutTo brings the volume of sessions to about aim, between least and most: every line
// by the same share in whole sets, then a set or a repetition here and there, and
// where lines are as short as they may be, without the least dear of them. Range
// stays; holds and drills lose sets as the rest does.
func (l *layer) cutTo(sessions []*programme.Session, least, aim, most float64) {
	var lines []cutLine
	for _, s := range sessions {
		lines = append(lines, cutLines(s)...)
	}
	volume := func() float64 {
		n := 0
		for _, c := range lines {
			n += c.volume()
		}
		return float64(n)
	}
	now := volume()
	if now == 0 {
		return
	}
	share := math.Min(1, aim/now)
	for _, c := range lines {
		c.give(max(1, int(math.Round(share*float64(c.sets())))), c.reps())
	}
	for volume() > most+1e-9 && (l.shorten(lines, volume()-least) || dropLine(lines)) {
	}
	for volume() < least-1e-9 && lengthen(lines, most-volume()) {
	}
	off := func(v float64) float64 { return 1000*math.Max(0, math.Max(v-most, least-v)) + math.Abs(v-aim) }
	for v := volume(); (v > most+1e-9 || v < least-1e-9) && l.settleOn(lines, v, off); v = volume() {
	}
	for _, s := range sessions {
		l.without(s, func(it *programme.Item) bool { return it.Dose.Sets == 0 })
	}
}

// settleOn gives one line the sets and repetitions, within what it was, that bring the
// volume least far off. It reports whether that is nearer than it was.
func (l *layer) settleOn(lines []cutLine, now float64, off func(float64) float64) bool {
	best, at, sets, reps := off(now), -1, 0, 0
	for i, c := range lines {
		if c.volume() == 0 {
			continue
		}
		without, s0, r0 := now-float64(c.volume()), c.sets(), c.reps()
		for s := 1; s <= c.was[0].Sets; s++ {
			for r := min(l.fewest(c), c.was[0].Reps); r <= c.was[0].Reps; r++ {
				c.give(s, r)
				if x := off(without + float64(c.volume())); x < best-1e-9 {
					best, at, sets, reps = x, i, s, r
				}
			}
		}
		c.give(s0, r0)
	}
	if at >= 0 {
		lines[at].give(sets, reps)
	}
	return at >= 0
}

// fewest is the fewest repetitions a set is cut to.
func (l *layer) fewest(c cutLine) int {
	if c.items[0].Dose.Unit == library.Swings {
		return l.Facts.By.Swings.SetLeast
	}
	return leastReps
}

// shorten takes a set, or else a repetition a set, off the line that has kept most of
// its volume, by no more than spare. It reports whether it could.
func (l *layer) shorten(lines []cutLine, spare float64) bool {
	slices.SortStableFunc(lines, func(a, b cutLine) int { return cmp.Compare(b.left(), a.left()) })
	for _, c := range lines {
		if n := c.volume(); n > 0 && c.sets() > 1 && float64(n/c.sets()) <= spare {
			c.give(c.sets()-1, c.reps())
			return true
		}
	}
	for _, c := range lines {
		if c.volume() > 0 && c.reps() > l.fewest(c) {
			c.give(c.sets(), c.reps()-1)
			return true
		}
	}
	return false
}

// dearest is what is kept to the last where lines go, the least dear first.
var dearest = []library.Slot{
	library.SlotTrunk, library.SlotFinisher, library.SlotPull, library.SlotPush, library.SlotSecond, library.SlotMain,
	library.SlotJump, library.SlotThrow, library.SlotSwings,
}

// dropLine takes the least dear line out by leaving it no set; never the last one. It
// reports whether there was one.
func dropLine(lines []cutLine) bool {
	left := 0
	for _, c := range lines {
		left += b2i(c.volume() > 0)
	}
	for _, slot := range dearest {
		for _, c := range lines {
			if left > 1 && c.slot() == slot && c.volume() > 0 {
				c.give(0, c.reps())
				return true
			}
		}
	}
	return false
}

// lengthen gives a set, or else a repetition a set, back to the line that has lost
// most, by no more than room. It reports whether it could.
func lengthen(lines []cutLine, room float64) bool {
	slices.SortStableFunc(lines, func(a, b cutLine) int { return cmp.Compare(a.left(), b.left()) })
	more := func(c cutLine, sets, reps int) bool {
		s0, r0, before := c.sets(), c.reps(), c.volume()
		c.give(sets, reps)
		if grown := c.volume() - before; before > 0 && grown > 0 && float64(grown) <= room+1e-9 {
			return true
		}
		c.give(s0, r0)
		return false
	}
	for _, c := range lines {
		if more(c, c.sets()+1, c.reps()) {
			return true
		}
	}
	for _, c := range lines {
		if more(c, c.sets(), c.reps()+1) {
			return true
		}
	}
	return false
}
