package plan

import (
	"math"
	"slices"
	"strings"

	"dunnock/internal/core/athlete"
	"dunnock/internal/core/civil"
	"dunnock/internal/core/library"
	"dunnock/internal/core/programme"
	"dunnock/internal/core/programme/derive"
	"dunnock/internal/core/quality"
	"dunnock/internal/core/rulebook"
	"dunnock/internal/core/unit"
)

// mostTrims is how often a block is made again because a load held for a
// repetition more made a session too long.
const mostTrims = 12

// trim takes a rise, or a step of shorter, out of every session that is too long.
func (l *layer) trim(b *programme.Block) bool {
	long := map[int]bool{}
	for wi := range b.Weeks {
		for si := range b.Weeks[wi].Sessions {
			s := &b.Weeks[wi].Sessions[si]
			if unit.Round(derive.Seconds(s, l.by.Exercises)/60, 1) > float64(l.brief.Minutes) {
				long[slices.Index(l.brief.Days, (int(s.Date.Weekday())+6)%7)] = true
			}
		}
	}
	changed := false
	for session := range l.letters {
		if !long[session] {
			continue
		}
		changed = true
		rising := slices.IndexFunc(l.entries, func(e *entry) bool { return e.session == session && e.rise > 0 })
		if rising >= 0 {
			l.entries[rising].rise = 0
		} else {
			changed = l.shorter(session)
		}
	}
	return changed
}

// block makes the weeks of what was laid out.
func (l *layer) block() programme.Block {
	p := l.planner
	steps := p.brief.steps()
	var last []civil.Date // the session days of the last week that has any
	block := programme.Block{Phase: p.brief.Phase, Emphasis: p.brief.Emphasis, StrengthBase: l.strengthBase}
	for w := range p.brief.Weeks {
		week := programme.Week{Number: w + 1, Kind: l.kinds[w], Step: steps[w], Start: p.brief.Start.Add(7 * w), Sessions: []programme.Session{}, Home: []programme.HomeDay{}}
		dates := datesIn(week.Start, p.brief.Days)
		for i, date := range dates {
			if l.trains(date) {
				week.Sessions = append(week.Sessions, l.session(i, date, w))
			}
		}
		l.saveSwings(&week, dates)
		week.Home = l.homeDays(week.Start, w)
		if len(week.Sessions) > 0 || w == 0 {
			last = dates
		}
		if w == p.brief.Weeks-1 {
			week.Retest = p.retest(week.Start, last)
		}
		block.Weeks = append(block.Weeks, week)
	}
	l.weakSides(&block)
	l.meet(&block)
	p.reserves(&block)
	p.loads(&block)
	p.ease(&block)
	return block
}

// mildly reports whether an exercise loads what still hurts a little on a day.
func (b *Basis) mildly(e *library.Exercise, day civil.Date) bool {
	return slices.ContainsFunc(b.Facts.Limits, func(x athlete.Limit) bool {
		return x.Mild() && !day.After(x.Until) && e.Loads(x.Region)
	})
}

// trains reports whether a day of the week's days holds a session, and notes why where
// it does not.
func (l *layer) trains(day civil.Date) bool {
	if name, plays := l.brief.playsOn(day); plays {
		l.note("%s: no session, %s is played.", day.Words(), name)
		return false
	}
	if l.away(day) {
		l.note("%s: no session, away.", day.Words())
		return false
	}
	if d, ok := l.brief.toPeak(day); ok && d == 1 {
		l.note("%s: no session, it is the eve of %s.", day.Words(), l.brief.Peak.Name)
		return false
	}
	return true
}

// away reports whether nothing is trained on a day.
func (b *Basis) away(day civil.Date) bool {
	return slices.ContainsFunc(b.file.Away, func(a athlete.Away) bool { return a.Lost(day) })
}

// session makes one session of a week, from 0.
func (l *layer) session(i int, date civil.Date, week int) programme.Session {
	s := programme.Session{Date: date, Letter: l.letters[i], Budget: l.brief.Minutes, Items: []programme.Item{}}
	for _, e := range l.order(i) {
		if !l.sparesHands(e, date) {
			it := l.itemIn(e, place{l.letters[i], e.slot}, week)
			it.Paired = e.lift != nil
			if it.Dose.Reserve != nil && l.mildly(e.ex, date) {
				more := *it.Dose.Reserve + 1
				it.Dose.Reserve = &more
			}
			s.Items = append(s.Items, it)
		}
	}
	s.Title = title(s.Items, l.by.Exercises)
	return s
}

// saveSwings moves the fast swings of a day that is lost to play, to its eve or to days
// away into another session of the week that holds them.
func (l *layer) saveSwings(w *programme.Week, dates []civil.Date) {
	swings := func(s *programme.Session) bool {
		return slices.ContainsFunc(s.Items, func(it programme.Item) bool { return it.Slot == library.SlotSwings })
	}
	for _, e := range l.entries {
		if e.slot != library.SlotSwings || slices.ContainsFunc(w.Sessions, func(s programme.Session) bool { return s.Date == dates[e.session] }) {
			continue
		}
		for si := range w.Sessions {
			s := &w.Sessions[si]
			near := slices.ContainsFunc(w.Sessions, func(o programme.Session) bool { d := o.Date.Sub(s.Date); return swings(&o) && d >= -1 && d <= 1 })
			if near || !kinds[s.Letter].swings {
				continue
			}
			at := slices.IndexFunc(s.Items, func(it programme.Item) bool { return it.Slot != library.SlotRange })
			if at < 0 {
				at = len(s.Items)
			}
			with := *s
			with.Items = slices.Insert(slices.Clone(s.Items), at, l.itemIn(e, place{s.Letter, e.slot}, w.Number-1))
			if derive.Seconds(&with, l.by.Exercises)/60 <= float64(s.Budget) {
				with.Title = title(with.Items, l.by.Exercises)
				*s = with
				break
			}
		}
	}
}

// sparesHands reports whether an entry is left out on the eve of play.
func (l *layer) sparesHands(e *entry, day civil.Date) bool {
	play, eve := l.Facts.EveOfPlay(day)
	if !eve || !e.ex.OfGrip() {
		return false
	}
	l.note("%s: no grip, %s is played the day after.", day.Words(), play.Name)
	return true
}

// homeDays makes the home days of a week: those that hold something, on days that
// are neither away nor played on.
func (l *layer) homeDays(start civil.Date, week int) []programme.HomeDay {
	out := []programme.HomeDay{}
	for d := range 7 {
		date := start.Add(d)
		day := slices.Index(l.homes, (int(date.Weekday())+6)%7)
		_, plays := l.brief.playsOn(date)
		if plays || l.away(date) {
			continue
		}
		home := programme.HomeDay{Date: date, Items: []programme.Item{}}
		for _, e := range l.order(atHome) {
			if e.homeDay == day && !l.sparesHands(e, date) {
				home.Items = append(home.Items, l.itemIn(e, place{slot: e.slot}, week))
			}
		}
		if len(home.Items) > 0 {
			out = append(out, home)
		}
	}
	return out
}

// easyShare is what the easier week keeps of a line's sets: within the fall that
// WAVE asks for.
const easyShare = 0.6

// itemIn is the item of an entry in a week of the block, from 0.
func (l *layer) itemIn(e *entry, at place, week int) programme.Item {
	step := l.course.step(week)
	it := l.inCourse(e, at, step)
	if e.slot == library.SlotSwings {
		it.Dose.OtherSideShare = rulebook.NoviceRamp(l.Facts, week+1)
	}
	if e.slot != library.SlotRange && e.slot != library.SlotSpecial {
		l.comeBack(&it.Dose, step)
	}
	return it
}

// inCourse is the item of an entry in a week of the course, from 0, whatever came
// before the block.
func (l *layer) inCourse(e *entry, at place, week int) programme.Item {
	it := l.item(e.ex, at, week, l.course.weeks, e.why)
	d := &it.Dose
	d.Side = e.dose.Side
	lastRising, easy := week == l.course.weeks-2, week == l.course.weeks-1
	switch {
	case e.slot == library.SlotSwings:
		// A set more a week, as far as it may rise.
		d.Sets = e.dose.Sets + min(e.rise, week)
		if l.Facts.Tier == athlete.Novice && !lastRising {
			d.Sets = e.dose.Sets // a novice's sets grow longer first
		}
		if easy {
			d.Sets = max(1, int(math.Round(easyShare*float64(e.dose.Sets+e.rise))))
		}
		l.swingCap(d)
		if week > 0 && !easy {
			before := l.inCourse(e, at, week-1).Dose
			limit := l.Facts.By.Wave.Limit(before.Volume(), max(before.SetVolume(), d.SetVolume()), true)
			for ; d.Sets > 1 && float64(d.Volume()) > limit; d.Sets-- {
			}
		}
		return it
	case e.slot == library.SlotRange, e.slot == library.SlotSpecial:
		form := d.Form
		*d = e.dose
		d.Form = form
		return it
	case d.Reserve == nil:
		d.Reps, d.Seconds = e.dose.Reps, e.dose.Seconds
	}
	d.Sets = e.dose.Sets
	if lastRising || easy {
		d.Sets += e.rise
	}
	if easy {
		d.Sets = max(1, int(math.Round(easyShare*float64(d.Sets))))
	}
	return it
}

// comeBack cuts a dose in the first weeks after a lay-off. Landings and fast swings
// start at half whatever the ramp says; one more is left in reserve throughout.
func (l *layer) comeBack(d *programme.Dose, week int) {
	ramp := l.file.Ramp()
	if len(ramp) == 0 {
		return
	}
	if d.Reserve != nil {
		more := *d.Reserve + 1
		d.Reserve = &more
	}
	if week >= len(ramp) {
		return
	}
	cut := ramp[week]
	if week == 0 && (d.Unit == library.Contacts || d.Unit == library.Swings) {
		cut = max(cut, 0.5)
	}
	d.Sets = max(1, int(math.Round(float64(d.Sets)*(1-cut))))
}

// title says what a session holds.
func title(items []programme.Item, exercises *library.Catalogue) string {
	var parts []string
	for i := range items {
		e, ok := exercises.Find(items[i].Exercise)
		if !ok {
			continue
		}
		if w := kindWords(items[i].Slot, e); !slices.Contains(parts, w) {
			parts = append(parts, w)
		}
	}
	if len(parts) == 0 {
		return "Rest"
	}
	if len(parts) > 5 {
		parts = append(parts[:4], "more")
	}
	return upper(strings.Join(parts, ", "))
}

func kindWords(slot library.Slot, e *library.Exercise) string {
	switch slot {
	case library.SlotSwings:
		return "fast swings"
	case library.SlotThrow:
		if e.Sides == library.Directional {
			return "turning throws"
		}
		return "chest throws"
	case library.SlotJump:
		if e.Rhythmic {
			return "rebounds"
		}
		return "jumps"
	case library.SlotMain, library.SlotSecond:
		if e.Pattern == "one-leg-lift" {
			return "one-leg lift"
		}
		return "two-leg lift"
	case library.SlotPush, library.SlotPull:
		return "push and pull"
	case library.SlotSpecial:
		return "separation"
	case library.SlotFinisher:
		return "grip"
	case library.SlotTrunk:
		if e.Pattern == "balance" {
			return "balance"
		}
		return "trunk"
	}
	return "range"
}

// retest closes a block on the last session day of its last week, or days behind the event
// it ends in.
func (p *planner) retest(start civil.Date, dates []civil.Date) *programme.Retest {
	day := start.Add(6)
	if p.brief.Peak != nil {
		day = p.brief.Peak.End().Add(afterPlay)
	} else if len(dates) > 0 {
		day = dates[len(dates)-1]
	}
	tests := []string{}
	for _, t := range p.Read.Tests {
		if t.Status != quality.Untested && t.Status != quality.WasSkipped {
			tests = append(tests, t.Test)
		}
	}
	for _, n := range p.Read.Next {
		if !slices.Contains(tests, n.Test) && len(tests) < 20 {
			tests = append(tests, n.Test)
		}
	}
	return &programme.Retest{Date: day, Tests: tests, Text: "Same tests, same way, same time of day: then see which changes are real."}
}
