package plan

import (
	"cmp"
	"slices"
	"strings"

	"dunnock/internal/core/budget"
	"dunnock/internal/core/library"
	"dunnock/internal/core/programme"
	"dunnock/internal/core/programme/derive"
	"dunnock/internal/core/quality"
	"dunnock/internal/core/school"
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
	lift    *entry         // the lift it is done in turns with
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
	cut     bool              // the minutes do not hold something that is asked for
	seed    []byte            // of the order of exercises that score alike
	// strengthBase is, in season, the repetitions of strength a week outside it holds.
	strengthBase int
	// weakest are the sides that are really weaker, and weakerSides, by test, those the
	// block gives more.
	weakest     []weakerSide
	weakerSides map[string]string
	// named are the findings of force recordings that are answered by name; of several
	// lifts the first stays on two legs, the pattern that is tested.
	named        []namedFinding
	twoLegsFirst bool
}

// lay lays a week out: floors and doses at their lower ends, cut to the minutes,
// then filled with what is left. In season strengthBase is the repetitions of strength
// of a week outside it, else 0.
func (p *planner) lay(asked []programme.Asked, letters []programme.Letter, strengthBase int) *layer {
	l := &layer{strengthBase: strengthBase, weakest: p.weaker(), named: p.namedFindings(), seed: []byte(p.file.Athlete.Name + p.file.Athlete.BirthDate.String() + p.brief.Start.String()), planner: p, letters: letters, asked: asked, table: budget.Doses(), homes: p.homeWeekdays(), missed: map[string]string{}, capped: map[string]string{}}
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
	l.fewerLookAlikes()
	if strengthBase > 0 {
		l.thin()
	}
	l.pairUp()
	l.sayNamed()
	return l
}

// fewerLookAlikes takes look-alikes of the swing out until they are no more of the week's
// sets than the school wants.
func (l *layer) fewerLookAlikes() {
	for {
		sets, easier, alike := 0, 0, 0 // easier: as the easier week leaves them
		var last *entry
		for _, e := range l.entries {
			if e.session == atHome {
				continue
			}
			sets += e.dose.Sets
			if e.ex.LookAlike && e.slot != library.SlotSwings && e.slot != library.SlotThrow {
				alike, easier, last = alike+e.dose.Sets, easier+e.dose.Sets, e
			} else {
				easier += max(1, int(easyShare*float64(e.dose.Sets)))
			}
		}
		if last == nil || 100*float64(alike) <= l.Facts.MostSpecial()*float64(min(sets, easier)) {
			return
		}
		if last.dose.Sets > 1 {
			last.dose.Sets--
			continue
		}
		l.drop(last)
		l.miss(last.asked, "SPECIAL: the school wants fewer look-alikes of the swing")
	}
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
	slices.SortStableFunc(out, func(a, b int) int { return cmp.Compare(l.seconds(a), l.seconds(b)) })
	return out
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
	case library.SlotJump, library.SlotSwings:
		most := l.roomToLand(e)
		for d.Sets > 1 && e.landings() > most {
			d.Sets--
		}
		for e.slot == library.SlotJump && d.Reps > 1 && e.landings() > most {
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

// landings are those of the last rising week: the most.
func (e *entry) landings() int { return e.ex.Landings(e.peak().Volume()) }

// roomToLand is how many landings an entry's session leaves it beside the others.
func (l *layer) roomToLand(e *entry) int {
	most := l.Facts.RoomForContacts()
	if !heavy(l.letters[e.session]) {
		most = min(most, l.Facts.By.Spacing.Landings-1) // a light day stays light
	}
	for _, x := range l.entries {
		if x != e && x.session == e.session {
			most -= x.landings()
		}
	}
	return most
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
	for _, e := range l.entries {
		if e.session == session && e.lift != nil {
			a, b := e.lift.peak(), e.peak()
			sum += derive.TurnsSeconds(&a, &b)
		}
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
	for i := 0; i < len(out); i++ {
		if e := out[i]; e.lift != nil {
			out = slices.Delete(out, i, i+1)
			at := slices.Index(out, e.lift)
			if out = slices.Insert(out, at+1, e); at >= i {
				i--
			}
		}
	}
	return out
}
