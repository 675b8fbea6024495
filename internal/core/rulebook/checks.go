package rulebook

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"dunnock/internal/core/civil"
	"dunnock/internal/core/library"
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
					c.item(it, s.Date, c.f.Kit)
					c.reserve(it, s, firstWeek[it.Exercise] == wi)
					unloaded = unloaded || (it.Dose.Reserve != nil && it.Dose.LoadKg == nil)
				}
			}
			for hi := range w.Home {
				for ii := range w.Home[hi].Items {
					c.item(&w.Home[hi].Items[ii], w.Start, c.f.HomeKit)
				}
			}
			c.week(w)
		}
		c.wave(b)
		c.flat(b)
		c.loadStep(b)
		c.taper(b)
		c.inSeason(b)
	}
	c.novel()
	c.coverage()
	if unloaded && len(c.found["LOAD-STEP"]) == 0 {
		c.found["LOAD-STEP"] = []Result{
			{Status: NotChecked, Text: "Not checked where no load is known: those lifts say what to leave in reserve. Test or log a load to have it checked."},
		}
	}
}

// item judges one item of a day by the kit of the place it is done in.
func (c *checker) item(it *derive.Item, day civil.Date, kit []string) {
	e, ok := c.exercises.Find(it.Exercise)
	if !ok {
		c.broken("KIT", it.Place, "Swap it for one in the library.", "%s is not in the library.", it.Name)
		return
	}
	if rule, why := c.f.forbidden(e, kit); rule != "" {
		c.broken(rule, it.Place, "Swap it for the first alternative.", "%s: %s.", it.Name, why)
	}
	// Forbidden names the gravest reason only; kit and level are told apart here.
	if missing := e.MissingKit(kit); len(missing) > 0 && !c.has("KIT", it.Place) {
		c.broken("KIT", it.Place, "Swap it, or add the kit in Intake.", "%s needs %s.", it.Name, strings.Join(missing, ", "))
	}
	if e.Level > c.f.Level && !c.has("LEVEL", it.Place) {
		c.broken("LEVEL", it.Place, "Swap it for an easier one.", "%s is level %d, the golfer is at %d.", it.Name, e.Level, c.f.Level)
	}
	c.unstable(it, e)
	d := it.Dose
	if limit, ok := e.Cap(c.f.Limits); ok && d.LoadKg != nil && *d.LoadKg > limit {
		c.broken(
			"CONTRA",
			it.Place,
			fmt.Sprintf("Lower it to %s kg.", unit.Compact(limit, 1)),
			"%s: %s kg is over the load cap of %s kg.",
			it.Name,
			unit.Compact(*d.LoadKg, 2),
			unit.Compact(limit, 1),
		)
	}
	if d.LoadKg != nil && c.f.Junior && c.f.OneRM > 0 && it.Exercise == c.f.TestedLift && day.After(c.f.OneRMSince) {
		if share := *d.LoadKg / c.f.OneRM; share > c.f.MaxLoadShare()+floatTolerance {
			rule := "JUNIOR"
			if c.f.NearSpurt {
				rule = "GROWTH"
			}
			c.broken(
				rule,
				it.Place,
				"Lower the load.",
				"%s: %s kg is %s%% of the predicted single, at most %s%% here.",
				it.Name,
				unit.Compact(*d.LoadKg, 2),
				unit.Text(100*share, 0),
				unit.Text(100*c.f.MaxLoadShare(), 0),
			)
		}
	}
	if e.Maximal && !e.Rhythmic && (it.Slot == library.SlotThrow || it.Slot == library.SlotJump) && d.Reps > c.f.By.ExplosiveReps.Most {
		c.broken(
			"EXPLOSIVE-REPS",
			it.Place,
			fmt.Sprintf("Use more sets of %d or fewer.", c.f.By.ExplosiveReps.Most),
			"%s: %d a set, at most %d.",
			it.Name,
			d.Reps,
			c.f.By.ExplosiveReps.Most,
		)
	}
	if it.Slot == library.SlotSwings {
		set := c.f.By.Swings
		most := set.SetMost
		if it.FastSwings < d.Volume() {
			most = set.RoundMost // a round of a drill
		}
		if d.Reps < set.SetLeast || d.Reps > most {
			c.broken("SWINGS", it.Place, fmt.Sprintf("Use sets of %d to %d.", set.SetLeast, most), "%s: sets of %d.", it.Name, d.Reps)
		}
		if club := c.f.By.Implement; d.ImplementPercent < -club.LighterPercent || d.ImplementPercent > club.HeavierPercent {
			c.broken(
				"IMPLEMENT",
				it.Place,
				fmt.Sprintf("Use a club between −%d%% and +%d%% of the driver.", club.LighterPercent, club.HeavierPercent),
				"%s: %+d%% of the driver's mass.",
				it.Name,
				d.ImplementPercent,
			)
		}
	}
	oneSided := d.Sides == library.OneSided || d.Sides == library.Directional
	sound := e.SoundSide(c.f.Limits)
	if sound != "" && d.Side != sound {
		c.broken("CONTRA", it.Place, "Do it on the "+sound+" side only.", "%s is done on the side a limit spares.", it.Name)
	}
	if oneSided && d.Side != "" && d.Side != sound && it.Slot != library.SlotRange {
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
	if d := it.Dose; d.LoadKg != nil && c.f.OneRM > 0 && it.Exercise == c.f.TestedLift && s.Date.After(c.f.OneRMSince) {
		// What the test says the load allows, whatever reserve is written beside it.
		most, err := strength.Load(c.f.OneRM, float64(d.Reps), float64(c.f.MinReserve()))
		if err == nil && *d.LoadKg > most+0.01 {
			c.broken(
				"RESERVE",
				it.Place,
				fmt.Sprintf("At most %s kg.", unit.Compact(math.Floor(most), 0)),
				"%s: %s kg for %d leaves less than %d in reserve by the test (predicted single %s kg).",
				it.Name,
				unit.Compact(*d.LoadKg, 2),
				d.Reps,
				c.f.MinReserve(),
				unit.Text(c.f.OneRM, 1),
			)
			return
		}
	}
	least, why := c.f.MinReserve(), "for "+string(c.f.Tier)+"s"
	if firstWeek && it.Exercise != c.f.TestedLift && least < c.f.By.Reserve.New {
		least, why = c.f.By.Reserve.New, "in an exercise's first week"
	}
	if c.f.BeforePlay(s.Date) {
		least, why = least+1, why+", one more shortly before play"
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
		if z > string(library.Z4) || z == string(library.M) || it.Paired {
			continue // a light partner comes behind its lift
		}
		if z < worst {
			c.broken("ORDER", it.Place, "Move it before the slower work.", "%s (%s) comes after %s work.", it.Name, z, worst)
		}
		worst = max(worst, z)
	}
	contacts, throws, swings := s.Contacts(), s.Count(library.SlotThrow), s.FastSwings()
	// What the warm-up before it holds counts too; alone it makes no day of jumps or swings.
	jumped, swung := "", ""
	if n := c.f.WarmUp.Landings; n > 0 && contacts > 0 {
		contacts, jumped = contacts+n, fmt.Sprintf(", %d of them in the warm-up", n)
	}
	if n := c.f.WarmUp.FastSwings; n > 0 && swings > 0 {
		swings, swung = swings+n, fmt.Sprintf(", %d of them in the warm-up", n)
	}
	switch most := c.f.MaxContacts(); {
	case contacts <= most:
	case c.f.Senior:
		c.broken("SENIOR", s.Place, "Take a set of jumps out.", "%d landings%s, at most %d.", contacts, jumped, most)
	case c.f.NearSpurt:
		c.broken("GROWTH", s.Place, "Take a set of jumps out.", "%d landings%s, at most %d.", contacts, jumped, most)
	case c.f.Junior:
		c.broken("JUNIOR", s.Place, "Take a set of jumps out.", "%d landings%s, at most %d.", contacts, jumped, most)
	default:
		c.broken("CONTACTS", s.Place, "Take a set of jumps out.", "%d landings%s, at most %d.", contacts, jumped, most)
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
		c.broken(rule, s.Place, "Take a set of swings out.", "%d fast swings%s, at most %d.", swings, swung, most)
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
		c.broken(
			"SPACING",
			s.Place,
			"Move a session or make one of them fast and light.",
			"Hard lower-body work on %s and %s: %d hours between them.",
			before.Date.Words(),
			s.Date.Words(),
			c.f.By.Spacing.Hours,
		)
	case before.HardLower(landings) && s.FastDay(landings):
		c.broken("SPACING", s.Place, "Put the fast day before the heavy one.", "A fast day on %s, the day after heavy lower-body work.", s.Date.Words())
	}
	if before.FastSwings() > 0 && s.FastSwings() > 0 {
		c.broken(
			"SWINGS",
			s.Place,
			"Leave the swings out on one of the days.",
			"Fast swings on %s and %s: never on consecutive days.",
			before.Date.Words(),
			s.Date.Words(),
		)
	}
}

const (
	hoursPerDay = 24
	rampWeeks   = 3 // the rising weeks of a block
)
