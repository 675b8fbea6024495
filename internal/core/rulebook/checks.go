package rulebook

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"dunnock/internal/core/athlete"
	"dunnock/internal/core/library"
	"dunnock/internal/core/programme"
	"dunnock/internal/core/programme/derive"
	"dunnock/internal/core/strength"
	"dunnock/internal/core/unit"
)

type checker struct {
	p         *derive.Programme
	f         Facts
	exercises *library.Catalogue
	found     map[string][]Result
}

func (c *checker) broken(rule, place, fix, format string, args ...any) {
	c.found[rule] = append(c.found[rule], Result{Status: Broken, Place: place, Text: fmt.Sprintf(format, args...), Fix: fix})
}

func (c *checker) run() {
	if !c.f.Clearance.MayExert() {
		c.broken("CLEAR", "", "Complete the clearance in Intake.", "%s", c.f.Clearance.Text)
	}
	var previous *derive.Session
	unloaded := false
	for bi := range c.p.Blocks {
		b := &c.p.Blocks[bi]
		c.retest(b)
		firstWeek := map[string]int{}
		for wi := range b.Weeks {
			w := &b.Weeks[wi]
			for si := range w.Sessions {
				s := &w.Sessions[si]
				c.session(s)
				c.spacing(previous, s)
				previous = s
				for ii := range s.Items {
					it := &s.Items[ii]
					if _, ok := firstWeek[it.Exercise]; !ok {
						firstWeek[it.Exercise] = wi
					}
					c.item(it)
					c.reserve(it, s, firstWeek[it.Exercise] == wi)
					unloaded = unloaded || (it.Dose.Reserve != nil && it.Dose.LoadKg == nil)
				}
			}
			for hi := range w.Home {
				for ii := range w.Home[hi].Items {
					c.item(&w.Home[hi].Items[ii])
				}
			}
			c.week(w)
		}
		c.wave(b)
		c.flat(b)
		c.loadStep(b)
	}
	if unloaded && len(c.found["LOAD-STEP"]) == 0 {
		c.found["LOAD-STEP"] = []Result{{Status: NotChecked, Text: "Not checked where no load is known: those lifts say what to leave in reserve. Test or log a load to have it checked."}}
	}
}

func (c *checker) item(it *derive.Item) {
	e, ok := c.exercises.Find(it.Exercise)
	if !ok {
		c.broken("KIT", it.Place, "Swap it for one in the library.", "%s is not in the library.", it.Name)
		return
	}
	if rule, why := c.f.Forbidden(e); rule != "" {
		c.broken(rule, it.Place, "Swap it for the first alternative.", "%s: %s.", it.Name, why)
	}
	// Forbidden names the gravest reason only; kit and level are told apart here.
	if missing := e.MissingKit(c.f.Kit); len(missing) > 0 && !c.has("KIT", it.Place) {
		c.broken("KIT", it.Place, "Swap it, or add the kit in Intake.", "%s needs %s.", it.Name, strings.Join(missing, ", "))
	}
	if e.Level > c.f.Level && !c.has("LEVEL", it.Place) {
		c.broken("LEVEL", it.Place, "Swap it for an easier one.", "%s is level %d, the golfer is at %d.", it.Name, e.Level, c.f.Level)
	}
	d := it.Dose
	if limit, ok := e.Cap(c.f.Limits); ok && d.LoadKg != nil && *d.LoadKg > limit {
		c.broken("CONTRA", it.Place, fmt.Sprintf("Lower it to %s kg.", unit.Compact(limit, 1)), "%s: %s kg is over the load cap of %s kg.", it.Name, unit.Compact(*d.LoadKg, 2), unit.Compact(limit, 1))
	}
	if d.LoadKg != nil && c.f.Junior && c.f.OneRM > 0 && it.Exercise == c.f.TestedLift {
		if share := *d.LoadKg / c.f.OneRM; share > c.f.MaxLoadShare()+floatTolerance {
			rule := "JUNIOR"
			if c.f.NearSpurt {
				rule = "GROWTH"
			}
			c.broken(rule, it.Place, "Lower the load.", "%s: %s kg is %s%% of the predicted single, at most %s%% here.", it.Name, unit.Compact(*d.LoadKg, 2), unit.Text(100*share, 0), unit.Text(100*c.f.MaxLoadShare(), 0))
		}
	}
	if e.Maximal && !e.Rhythmic && (it.Slot == library.SlotThrow || it.Slot == library.SlotJump) && d.Reps > c.f.By.ExplosiveReps.Most {
		c.broken("EXPLOSIVE-REPS", it.Place, fmt.Sprintf("Use more sets of %d or fewer.", c.f.By.ExplosiveReps.Most), "%s: %d a set, at most %d.", it.Name, d.Reps, c.f.By.ExplosiveReps.Most)
	}
	if it.Slot == library.SlotSwings {
		if set := c.f.By.Swings; d.Reps < set.SetLeast || d.Reps > set.SetMost {
			c.broken("SWINGS", it.Place, fmt.Sprintf("Use sets of %d to %d.", set.SetLeast, set.SetMost), "%s: sets of %d.", it.Name, d.Reps)
		}
		if club := c.f.By.Implement; d.ImplementPercent < -club.LighterPercent || d.ImplementPercent > club.HeavierPercent {
			c.broken("IMPLEMENT", it.Place, fmt.Sprintf("Use a club between −%d%% and +%d%% of the driver.", club.LighterPercent, club.HeavierPercent), "%s: %+d%% of the driver's mass.", it.Name, d.ImplementPercent)
		}
	}
	oneSided := d.Sides == library.OneSided || d.Sides == library.Directional
	if oneSided && d.Side != "" && it.Slot != library.SlotRange {
		c.broken("BOTH-SIDES", it.Place, "Do both sides.", "%s is done on the %s side only.", it.Name, d.Side)
	}
	if e.LookAlike && it.Slot != library.SlotSwings && it.Slot != library.SlotThrow && it.Reason.Finding == "" {
		c.broken("SPECIAL", it.Place, "Tie it to a finding, or remove it.", "%s looks like a swing and is tied to no finding.", it.Name)
	}
}

func (c *checker) has(rule, place string) bool {
	return slices.ContainsFunc(c.found[rule], func(r Result) bool { return r.Place == place })
}

func (c *checker) reserve(it *derive.Item, s *derive.Session, firstWeek bool) {
	if it.Dose.Reserve == nil {
		return
	}
	r := *it.Dose.Reserve
	if junior := c.f.By.Junior; c.f.Junior && r < junior.Reserve {
		c.broken("JUNIOR", it.Place, fmt.Sprintf("Leave %d.", junior.Reserve), "%s leaves %d in reserve, at least %d under %d.", it.Name, r, junior.Reserve, junior.Age)
		return
	}
	if d := it.Dose; d.LoadKg != nil && c.f.OneRM > 0 && it.Exercise == c.f.TestedLift {
		// What the test says the load allows, whatever reserve is written beside it.
		most, err := strength.Load(c.f.OneRM, float64(d.Reps), float64(c.f.MinReserve()))
		if err == nil && *d.LoadKg > most+0.01 {
			c.broken("RESERVE", it.Place, fmt.Sprintf("At most %s kg.", unit.Compact(math.Floor(most), 0)), "%s: %s kg for %d leaves less than %d in reserve by the test (predicted single %s kg).", it.Name, unit.Compact(*d.LoadKg, 2), d.Reps, c.f.MinReserve(), unit.Text(c.f.OneRM, 1))
			return
		}
	}
	least, why := c.f.MinReserve(), "for "+string(c.f.Tier)+"s"
	if firstWeek && it.Exercise != c.f.TestedLift && least < c.f.By.Reserve.New {
		least, why = c.f.By.Reserve.New, "in an exercise's first week"
	}
	if c.f.BeforePlay(s.Date) {
		least, why = least+1, why+fmt.Sprintf(", one more within %d days before play", c.f.By.Reserve.PlayDays)
	}
	if r < least {
		c.broken("RESERVE", it.Place, fmt.Sprintf("Leave %d.", least), "%s leaves %d in reserve, at least %d %s.", it.Name, r, least, why)
	}
}

func (c *checker) session(s *derive.Session) {
	if s.Minutes > float64(s.Budget)+floatTolerance {
		c.broken("TIME", s.Place, "Take a set or an exercise out.", "%s min planned, %d min there are.", unit.Text(s.Minutes, 0), s.Budget)
	}
	worst := ""
	for _, it := range s.Items {
		z := string(it.Zone)
		if z > string(library.Z4) || z == string(library.M) {
			continue
		}
		if z < worst {
			c.broken("ORDER", it.Place, "Move it before the slower work.", "%s (%s) comes after %s work.", it.Name, z, worst)
		}
		worst = max(worst, z)
	}
	contacts, throws, swings := s.Contacts(), s.Count(library.SlotThrow), s.Count(library.SlotSwings)
	switch most := c.f.MaxContacts(); {
	case contacts <= most:
	case c.f.Senior:
		c.broken("SENIOR", s.Place, "Take a set of jumps out.", "%d landings, at most %d.", contacts, most)
	case c.f.NearSpurt:
		c.broken("GROWTH", s.Place, "Take a set of jumps out.", "%d landings, at most %d.", contacts, most)
	case c.f.Junior:
		c.broken("JUNIOR", s.Place, "Take a set of jumps out.", "%d landings, at most %d.", contacts, most)
	default:
		c.broken("CONTACTS", s.Place, "Take a set of jumps out.", "%d landings, at most %d.", contacts, most)
	}
	if most := c.f.MaxThrows(); most > 0 && throws > most {
		c.broken("JUNIOR", s.Place, "Take a set of throws out.", "%d throws, at most %d.", throws, most)
	}
	if most := c.f.MaxSwings(); swings > most {
		rule := "SWINGS"
		switch {
		case c.f.Senior:
			rule = "SENIOR"
		case c.f.Junior:
			rule = "JUNIOR"
		}
		c.broken(rule, s.Place, "Take a set of swings out.", "%d fast swings, at most %d.", swings, most)
	}
}

func (c *checker) spacing(before, s *derive.Session) {
	if before == nil {
		return
	}
	days := s.Date.Sub(before.Date)
	if days*hoursPerDay >= c.f.By.Spacing.Hours {
		return
	}
	landings := c.f.By.Spacing.Landings
	switch {
	case before.HardLower(landings) && s.HardLower(landings):
		c.broken("SPACING", s.Place, "Move a session or make one of them fast and light.", "Hard lower-body work on %s and %s: %d hours between them.", before.Date.Words(), s.Date.Words(), c.f.By.Spacing.Hours)
	case before.HardLower(landings) && s.FastDay(landings):
		c.broken("SPACING", s.Place, "Put the fast day before the heavy one.", "A fast day on %s, the day after heavy lower-body work.", s.Date.Words())
	}
	if before.Count(library.SlotSwings) > 0 && s.Count(library.SlotSwings) > 0 {
		c.broken("SWINGS", s.Place, "Leave the swings out on one of the days.", "Fast swings on %s and %s: never on consecutive days.", before.Date.Words(), s.Date.Words())
	}
}

func (c *checker) week(w *derive.Week) {
	swings, other, days, push, pull, sets, alike := 0, 0, 0, 0, 0, 0, 0
	share := 0
	for si := range w.Sessions {
		if w.Sessions[si].Count(library.SlotSwings) > 0 {
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
			c.broken("BOTH-SIDES", w.Place, fmt.Sprintf("Set the other side to about %d%%.", share), "%d of %d swings are from the other side (%s%%), wanted %d%% ± %d.", other, swings, unit.Text(got, 0), share, points)
		}
	}
	if most := c.f.By.Special.SharePercent; sets > 0 && 100*float64(alike) > most*float64(sets)+floatTolerance {
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

const (
	hoursPerDay = 24
	rampWeeks   = 3 // the rising weeks of a block
)

// lineKey names the work that goes on from week to week.
type lineKey struct {
	slot     library.Slot
	exercise string
}

type line struct{ volume, oneSet, sessions int }

// lines adds up a week by slot and exercise, home days and range work left out.
func lines(w *derive.Week) (map[lineKey]line, []lineKey) {
	m := map[lineKey]line{}
	var order []lineKey
	for si := range w.Sessions {
		for _, it := range w.Sessions[si].Items {
			if it.Slot == library.SlotRange {
				continue
			}
			key := lineKey{it.Slot, it.Exercise}
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
	var last map[lineKey]line
	for wi := range b.Weeks {
		w := &b.Weeks[wi]
		now, order := lines(w)
		for _, key := range order {
			before, ok := last[key]
			n := now[key]
			if !ok || before.sessions != n.sessions {
				continue // a line that came, went or changed its number of sessions is not a wave
			}
			name := key.exercise
			if e, ok := c.exercises.Find(key.exercise); ok {
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
			if limit := c.f.By.Wave.Limit(before.volume, max(before.oneSet, n.oneSet), key.slot.Quick()); float64(n.volume) > limit+floatTolerance {
				c.broken("WAVE", w.Place, fmt.Sprintf("Keep it to %d.", int(limit)), "%s rises from %d to %d (%s%%) in a week.", name, before.volume, n.volume, unit.Text(100*(float64(n.volume)/float64(before.volume)-1), 0))
			}
		}
		if w.Kind == programme.Rising {
			last = now
		} else {
			last = nil
		}
	}
}

// flat finds lines a coach changed that stand still over the rising weeks. Range
// work is meant to.
func (c *checker) flat(b *derive.Block) {
	type week struct {
		volume  int
		load    float64
		reserve int
	}
	type course struct {
		name, place string
		weeks       []week
		edited      bool
	}
	type courseKey struct {
		letter programme.Letter
		lineKey
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
				key := courseKey{w.Sessions[si].Letter, lineKey{it.Slot, it.Exercise}}
				l := lines[key]
				if l == nil {
					l = &course{name: it.Name, place: it.Place}
					lines[key], order = l, append(order, key)
				}
				l.edited = l.edited || it.Edited
				x := week{volume: it.Dose.Volume()}
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
	last := map[string]float64{}
	for wi := range b.Weeks {
		w := &b.Weeks[wi]
		heaviest := map[string]float64{}
		for si := range w.Sessions {
			for _, it := range w.Sessions[si].Items {
				if it.Dose.LoadKg == nil {
					continue
				}
				load := *it.Dose.LoadKg
				before, ok := last[it.Exercise]
				if most := c.f.By.LoadStep.Most(before); ok && load > most+floatTolerance {
					c.broken("LOAD-STEP", it.Place, fmt.Sprintf("At most %s kg.", unit.Compact(most, 1)), "%s goes from %s to %s kg (%+.1f%%) in a week.", it.Name, unit.Compact(before, 2), unit.Compact(load, 2), 100*(load/before-1))
				}
				heaviest[it.Exercise] = max(heaviest[it.Exercise], load)
			}
		}
		if w.Kind == programme.Rising {
			for id, v := range heaviest {
				last[id] = v
			}
		}
	}
}

func (c *checker) retest(b *derive.Block) {
	if len(b.Weeks) == 0 || b.Weeks[len(b.Weeks)-1].Retest == nil {
		c.broken("RETEST", b.Place, "Put a retest at the end of the block.", "No retest closes this block.")
	}
}
