package rulebook

import (
	"fmt"
	"maps"
	"math"
	"slices"

	"dunnock/internal/core/athlete"
	"dunnock/internal/core/civil"
	"dunnock/internal/core/library"
	"dunnock/internal/core/programme"
	"dunnock/internal/core/programme/derive"
	"dunnock/internal/core/strength"
	"dunnock/internal/core/unit"
)

func (c *checker) week(w *derive.Week) {
	c.always(w)
	swings, other, days, push, pull, sets, alike := 0, 0, 0, 0, 0, 0, 0
	share := 0
	for si := range w.Sessions {
		if w.Sessions[si].FastSwings() > 0 {
			days++
		}
		for _, it := range w.Sessions[si].Items {
			e, ok := c.exercises.Find(it.Exercise)
			if !ok {
				continue
			}
			sets += it.Dose.Sets
			switch {
			case it.Slot == library.SlotSwings:
				swings += it.Dose.Volume()
				other += it.Dose.OtherSwings()
				share = c.wantedShare(w.Number)
			case e.LookAlike && it.Slot != library.SlotThrow:
				alike += it.Dose.Sets
			}
			switch e.Family {
			case "upper-push":
				push += it.Dose.Sets
			case "upper-pull":
				pull += it.Dose.Sets
			}
		}
	}
	if most := c.f.By.Swings.Days; days > most {
		c.broken("SWINGS", w.Place, "Leave the swings out on one day.", "Fast swings on %d days, at most %d.", days, most)
	}
	if swings > 0 {
		points := c.f.By.BothSides.Points
		if got := 100 * float64(other) / float64(swings); math.Abs(got-float64(share)) > float64(points) {
			c.broken(
				"BOTH-SIDES",
				w.Place,
				fmt.Sprintf("Set the other side to about %d%%.", share),
				"%d of %d swings are from the other side (%s%%), wanted %d%% ± %d.",
				other,
				swings,
				unit.Text(got, 0),
				share,
				points,
			)
		}
	}
	if most := c.f.MostSpecial(); sets > 0 && 100*float64(alike) > most*float64(sets)+floatTolerance {
		c.broken("SPECIAL", w.Place, "Take a look-alike out.", "%d of %d working sets look like a swing, at most %s%%.", alike, sets, unit.Text(most, 0))
	}
	switch {
	case push+pull == 0:
	case pull == 0 || push == 0:
		c.broken("PUSH-PULL", w.Place, "Pair each push with a pull.", "%d push sets and %d pull sets.", push, pull)
	default:
		if r := float64(push) / float64(pull); r < c.f.By.PushPull.Low-floatTolerance || r > c.f.By.PushPull.High+floatTolerance {
			c.broken("PUSH-PULL", w.Place, "Even out the pair.", "%d push sets to %d pull sets: %s to one.", push, pull, unit.Text(r, 2))
		}
	}
}

// always judges what every week has whatever it is for: range for joints that are
// short, some fast work, and hands that are spared before play.
func (c *checker) always(w *derive.Week) {
	doses := map[Joint]int{}
	fast := 0
	items := func(list []derive.Item, eve string) {
		for i := range list {
			it := &list[i]
			e, ok := c.exercises.Find(it.Exercise)
			if !ok {
				continue
			}
			for _, j := range c.f.Restricted {
				if slices.Contains(e.Targets, j.Test) && (it.Dose.Side == "" || it.Dose.Side == j.Side) {
					doses[j]++
				}
			}
			if it.Slot.Quick() {
				fast++
			}
			if eve != "" && e.OfGrip() {
				c.broken("GRIP-EVE", it.Place, "Do it earlier in the week, or leave it out.", "%s on the eve of %s.", it.Name, eve)
			}
		}
	}
	eveOf := func(day civil.Date) string {
		play, _ := c.f.EveOfPlay(day)
		return play.Name
	}
	for si := range w.Sessions {
		items(w.Sessions[si].Items, eveOf(w.Sessions[si].Date))
	}
	for hi := range w.Home {
		items(w.Home[hi].Items, eveOf(w.Home[hi].Date))
	}
	if least := c.f.By.SpeedAlways.Items; fast < least && !c.f.NoFast && len(w.Sessions) > 0 {
		c.broken("SPEED-ALWAYS", w.Place, "Put swings, throws or jumps into the first session.", "%d pieces of fast work, at least %d.", fast, least)
	}
	for _, j := range c.f.Restricted {
		if least := c.f.By.Range.Doses; doses[j] < least && len(w.Sessions) > 0 {
			c.broken("RANGE", w.Place, "Add a range line to a session, or a dose at home.", "%s: %d doses, at least %d.", j.Name, doses[j], least)
		}
	}
}

// wantedShare is the share of swings from the other side wanted in a week:
// novices ramp up to it over three weeks.
func (c *checker) wantedShare(week int) int { return NoviceRamp(c.f, week) }

// NoviceRamp returns the share of swings from the other side for a week of the
// block, from 1: novices rise to the wanted share over the rising weeks.
func NoviceRamp(f Facts, week int) int {
	if f.Tier != athlete.Novice {
		return f.OtherShare
	}
	ramp := f.By.BothSides
	return min(f.OtherShare, ramp.NoviceFirst+ramp.NoviceStep*(min(week, rampWeeks)-1))
}

// Line names the work that goes on from week to week.
type Line struct {
	Slot     library.Slot
	Exercise string
}

// DoneLines are what a week's work came to by line, as lines counts what is planned: items as
// they were done, range work left out.
func DoneLines(items []programme.Item) map[Line]int {
	out := map[Line]int{}
	for i := range items {
		if items[i].Slot != library.SlotRange {
			out[Line{items[i].Slot, items[i].Exercise}] += items[i].Dose.Volume()
		}
	}
	return out
}

// baseDays is how old a rising week may be that the next is measured against, by its start.
const baseDays = 21

// base is a rising week that lies before another: its lines as planned, and each at most its
// plan where it is known what was done.
type base struct {
	start         civil.Date
	planned, done map[Line]line
	known         bool
}

func (c *checker) baseOf(w *derive.Week, planned map[Line]line) base {
	done, known := c.f.Done[w.ID]
	if !known {
		return base{w.Start, planned, planned, false}
	}
	out := map[Line]line{}
	for key, l := range planned {
		l.volume = min(l.volume, done[key])
		out[key] = l
	}
	return base{w.Start, planned, out, true}
}

// against is what a line of a week is measured against, where it stood as often: the last
// rising week as it was planned, and where a week is known by what was done of it, the larger
// of the last two as they were done, neither older than baseDays.
func against(bases []base, w *derive.Week, key Line, sessions int) (line, bool) {
	var out line
	found := false
	if len(bases) == 0 {
		return out, false
	}
	last := bases[len(bases)-1]
	two := bases[max(0, len(bases)-2):]
	if w.Kind == programme.Easier || !slices.ContainsFunc(two, func(b base) bool { return b.known }) {
		l, ok := last.planned[key]
		return l, ok && l.sessions == sessions
	}
	for _, b := range two {
		l, ok := b.done[key]
		if !ok || l.sessions != sessions || w.Start.Sub(b.start) > baseDays || l.volume == 0 {
			continue
		}
		if !found || l.volume > out.volume {
			out, found = l, true
		}
	}
	return out, found
}

type line struct{ volume, oneSet, sessions int }

// lines adds up a week by slot and exercise, home days and range work left out.
func lines(w *derive.Week) (map[Line]line, []Line) {
	m := map[Line]line{}
	var order []Line
	for si := range w.Sessions {
		for _, it := range w.Sessions[si].Items {
			if it.Slot == library.SlotRange {
				continue
			}
			key := Line{it.Slot, it.Exercise}
			l, seen := m[key]
			if !seen {
				order = append(order, key)
			}
			l.volume += it.Dose.Volume()
			l.oneSet += it.Dose.SetVolume()
			l.sessions++
			m[key] = l
		}
	}
	return m, order
}

func (c *checker) wave(b *derive.Block) {
	var rising []base
	for wi := range b.Weeks {
		w := &b.Weeks[wi]
		now, order := lines(w)
		for _, key := range order {
			n := now[key]
			before, ok := against(rising, w, key, n.sessions)
			if !ok || w.Number <= c.f.Ramp+1 {
				continue // a line that came, went or changed its number of sessions is not a wave
			}
			name := key.Exercise
			if e, ok := c.exercises.Find(key.Exercise); ok {
				name = e.Name
			}
			if w.Kind == programme.Easier {
				wave := c.f.By.Wave
				down := 100 * (1 - float64(n.volume)/float64(before.volume))
				less := before.volume - n.volume
				tooLittle := down < wave.FallLeastPercent-floatTolerance && less < before.oneSet
				tooMuch := down > wave.FallMostPercent+floatTolerance && less > before.oneSet
				if tooLittle || tooMuch {
					fix := fmt.Sprintf("Take %s to %s%% off.", unit.Compact(wave.FallLeastPercent, 1), unit.Compact(wave.FallMostPercent, 1))
					c.broken("WAVE", w.Place, fix, "%s falls from %d to %d (%s%%) in the easier week.", name, before.volume, n.volume, unit.Text(down, 0))
				}
				continue
			}
			if limit := c.f.By.Wave.Limit(before.volume, max(before.oneSet, n.oneSet), key.Slot.Quick()); float64(n.volume) > limit+floatTolerance {
				c.broken(
					"WAVE",
					w.Place,
					fmt.Sprintf("Keep it to %d.", int(limit)),
					"%s rises from %d to %d (%s%%) in a week.",
					name,
					before.volume,
					n.volume,
					unit.Text(100*(float64(n.volume)/float64(before.volume)-1), 0),
				)
			}
		}
		switch w.Kind {
		case programme.Rising:
			rising = append(rising, c.baseOf(w, now))
		case programme.Easier:
			rising = nil
		}
	}
}

// flat finds lines a coach changed that stand still over the rising weeks. Range
// work is meant to.
func (c *checker) flat(b *derive.Block) {
	type week struct {
		volume  int
		load    float64
		lever   float64
		reserve int
	}
	type course struct {
		name, place string
		weeks       []week
		edited      bool
	}
	type courseKey struct {
		letter programme.Letter
		Line
	}
	lines := map[courseKey]*course{}
	var order []courseKey
	rising := 0
	for wi := range b.Weeks {
		w := &b.Weeks[wi]
		if w.Kind != programme.Rising {
			continue
		}
		rising++
		for si := range w.Sessions {
			for _, it := range w.Sessions[si].Items {
				if it.Slot == library.SlotRange {
					continue
				}
				key := courseKey{w.Sessions[si].Letter, Line{it.Slot, it.Exercise}}
				l := lines[key]
				if l == nil {
					l = &course{name: it.Name, place: it.Place}
					lines[key], order = l, append(order, key)
				}
				l.edited = l.edited || it.Edited
				x := week{volume: it.Dose.Volume(), lever: it.Dose.LeverNm}
				if it.Dose.LoadKg != nil {
					x.load = *it.Dose.LoadKg
				}
				if it.Dose.Reserve != nil {
					x.reserve = *it.Dose.Reserve
				}
				l.weeks = append(l.weeks, x)
			}
		}
	}
	for _, key := range order {
		l := lines[key]
		if !l.edited || rising < 2 || len(l.weeks) < rising || slices.ContainsFunc(l.weeks, func(x week) bool { return x != l.weeks[0] }) {
			continue
		}
		c.broken("FLAT", l.place, "Let it rise from week to week.", "%s is the same in all %d rising weeks: it was changed by hand, and no longer rises.", l.name, rising)
	}
}

func (c *checker) loadStep(b *derive.Block) {
	loads := stepper{c: c, most: c.f.By.LoadStep.Most, unit: "kg", last: map[string]stepped{}}
	levers := stepper{c: c, most: c.f.By.LoadStep.MostLever, unit: "N·m", last: map[string]stepped{}}
	for wi := range b.Weeks {
		w := &b.Weeks[wi]
		loads.now, levers.now = map[string]stepped{}, map[string]stepped{}
		for si := range w.Sessions {
			for ii := range w.Sessions[si].Items {
				it := &w.Sessions[si].Items[ii]
				if it.Dose.LoadKg != nil {
					loads.step(it, *it.Dose.LoadKg, workingMaximum(it.Dose))
				}
				if it.Dose.LeverNm > 0 {
					levers.step(it, it.Dose.LeverNm, it.Dose.LeverNm)
				}
			}
		}
		if w.Kind == programme.Rising || w.Kind == programme.Played {
			maps.Copy(loads.last, loads.now)
			maps.Copy(levers.last, levers.now)
		}
	}
}

// workingMaximum is the single a load stands for at its repetitions and reserve, in kg; the
// load itself where that is not known.
func workingMaximum(d programme.Dose) float64 {
	if d.Reserve == nil {
		return *d.LoadKg
	}
	one, err := strength.PredictTable(*d.LoadKg, float64(d.Reps+*d.Reserve))
	if err != nil {
		return *d.LoadKg
	}
	return one
}

// stepped is a load and the working maximum behind it.
type stepped struct{ load, behind float64 }

// stepper follows what is lifted or held of each exercise from week to week.
type stepper struct {
	c         *checker
	most      func(before float64) float64
	unit      string
	last, now map[string]stepped // the heaviest by exercise, of the last rising week and of this
}

// step judges a load against that of the last rising week. It is a step where the working
// maximum behind it rises too far: a planned fall in reserve lifts the load and is none.
func (s *stepper) step(it *derive.Item, load, behind float64) {
	before, ok := s.last[it.Exercise]
	if ok && load > s.most(before.load)+floatTolerance && behind > s.most(before.behind)+floatTolerance {
		s.c.broken(
			"LOAD-STEP",
			it.Place,
			fmt.Sprintf("At most %s %s.", unit.Compact(s.most(before.load), 1), s.unit),
			"%s goes from %s to %s %s (%+.1f%%) in a week.",
			it.Name,
			unit.Compact(before.load, 2),
			unit.Compact(load, 2),
			s.unit,
			100*(load/before.load-1),
		)
	}
	if load >= s.now[it.Exercise].load {
		s.now[it.Exercise] = stepped{load, behind}
	}
}

func (c *checker) retest(b *derive.Block) {
	if len(b.Weeks) == 0 || b.Weeks[len(b.Weeks)-1].Retest == nil {
		c.broken("RETEST", b.Place, "Put a retest at the end of the block.", "No retest closes this block.")
	}
}
