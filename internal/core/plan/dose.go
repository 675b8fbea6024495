package plan

import (
	_ "embed"
	"encoding/json"
	"math"
	"slices"
	"strconv"
	"strings"

	"dunnock/internal/core/athlete"
	"dunnock/internal/core/library"
	"dunnock/internal/core/programme"
	"dunnock/internal/core/rulebook"
	"dunnock/internal/core/strength"
	"dunnock/internal/core/unit"
)

//go:embed doses.json
var dosesJSON []byte

// cell is one entry of the dose table: 3x5@4, 2x30s, 3x4 70%.
type cell struct {
	sets, reps, seconds, reserve, intent int
	hasReserve                           bool
}

var doses = func() map[string]map[athlete.Tier][]cell {
	var raw map[string]map[athlete.Tier][]string
	if err := json.Unmarshal(dosesJSON, &raw); err != nil {
		panic("plan: doses.json: " + err.Error())
	}
	out := map[string]map[athlete.Tier][]cell{}
	for slot, tiers := range raw {
		out[slot] = map[athlete.Tier][]cell{}
		for tier, weeks := range tiers {
			for _, w := range weeks {
				out[slot][tier] = append(out[slot][tier], mustCell(w))
			}
		}
	}
	return out
}()

func mustCell(s string) cell {
	var c cell
	dose, intent, found := strings.Cut(s, " ")
	if found {
		c.intent, _ = strconv.Atoi(strings.TrimSuffix(intent, "%"))
	}
	dose, reserve, found := strings.Cut(dose, "@")
	if found {
		c.hasReserve = true
		c.reserve, _ = strconv.Atoi(reserve)
	}
	sets, per, ok := strings.Cut(dose, "x")
	if !ok {
		panic("plan: doses.json: " + s)
	}
	c.sets, _ = strconv.Atoi(sets)
	if strings.HasSuffix(per, "s") {
		c.seconds, _ = strconv.Atoi(strings.TrimSuffix(per, "s"))
	} else {
		c.reps, _ = strconv.Atoi(per)
	}
	if c.sets == 0 || c.reps+c.seconds == 0 {
		panic("plan: doses.json: " + s)
	}
	return c
}

// row is the dose table's row for an exercise in a slot.
func row(slot string, u library.Unit) string {
	hold := ""
	if u == library.Seconds {
		hold = "-hold"
	}
	switch slot {
	case programme.SlotPush, programme.SlotPull:
		return "upper"
	case programme.SlotSecond:
		return programme.SlotMain
	case programme.SlotTrunk, programme.SlotRange:
		return slot + hold
	default:
		return slot
	}
}

// item builds an item with the dose of a week, 0 to 3, clamped by the golfer's
// limits. Loads are set afterwards, over the whole programme.
func (p *planner) item(e *library.Exercise, slot, letter string, week int, why programme.Reason) programme.Item {
	c := doses[row(slot, e.DoseUnit)][p.facts.Tier][min(week, weeksPerBlock-1)]
	d := programme.Dose{Sets: c.sets, Reps: c.reps, Seconds: c.seconds, Unit: e.DoseUnit, Sides: e.Sides, IntentPercent: c.intent, RestSeconds: e.RestSeconds}
	if e.DoseUnit == library.Seconds && d.Seconds == 0 {
		d.Seconds, d.Reps = 20, 0
	}
	if e.DoseUnit != library.Seconds && d.Reps == 0 {
		d.Reps, d.Seconds = 8, 0 // a timed slot filled with counted work
	}
	if c.hasReserve {
		r := max(c.reserve, p.facts.MinReserve())
		d.Reserve = &r
	}
	if limit, ok := e.Cap(p.facts.Limits); ok && (e.LoadBasis == "feel" || e.LoadBasis == "trap-bar-lift") {
		d.MaxKg = limit
	}
	switch slot {
	case programme.SlotSwings:
		d.OtherSideShare = rulebook.NoviceRamp(p.facts, week+1)
		d.ImplementPercent = e.ImplementPercent
		if g := p.f.Athlete.DriverMassG; g > 0 && e.LoadBasis == "implement" {
			d.ImplementG = int(unit.Round(g*(1+float64(e.ImplementPercent)/100), 0))
		}
		p.swingCap(&d)
	case programme.SlotThrow:
		if most := p.facts.MaxThrows(); most > 0 {
			for d.Sets > 1 && d.Volume() > most {
				d.Sets--
			}
		}
		if e.LoadBasis == "ball" {
			d.BallKg = p.ball(e, letter)
		}
	case programme.SlotJump:
		for d.Sets > 1 && d.Volume() > p.facts.MaxContacts() {
			d.Sets--
		}
	case programme.SlotMain, programme.SlotSecond:
		d.WarmUpSets = []programme.WarmSet{{Reps: 6}, {Reps: 3}}
		if len(e.Kit) == 0 {
			d.WarmUpSets = nil // unloaded work is its own warm-up
		}
	}
	return programme.Item{Slot: slot, Exercise: e.ID, Name: e.Name, Zone: e.Zone, Dose: d, Cues: e.Cues, Reason: why}
}

// ball returns the ball in whole kg: a share of body mass, lighter on the fast
// day, 2 kg for juniors (common practice: 6 to 8 lb for an average adult).
func (p *planner) ball(e *library.Exercise, letter string) float64 {
	mass := p.mass
	if mass == 0 {
		mass = 60
		if p.f.Athlete.Sex == athlete.Male {
			mass = 75
		}
	}
	share := e.BallShare
	if letter == "C" {
		share *= 0.75
	}
	kg := unit.Round(math.Max(1, math.Min(5, mass*share)), 0)
	if p.facts.Junior {
		kg = math.Min(kg, 2)
	}
	return kg
}

// reserves raises what is left in reserve for an exercise in its first week and
// on the days before play. Doses edited by hand stay.
func (p *planner) reserves(prog *programme.Programme) {
	first := map[string]int{}
	eachSession(prog, func(w *programme.Week, s *programme.Session) {
		for i := range s.Items {
			it := &s.Items[i]
			if _, seen := first[it.Exercise]; !seen {
				first[it.Exercise] = w.Number
			}
			if it.Edited || it.Dose.Reserve == nil {
				continue
			}
			least := p.facts.MinReserve()
			if first[it.Exercise] == w.Number && it.Exercise != testedLift {
				least = max(least, p.facts.By.Reserve.New)
			}
			if p.facts.BeforePlay(s.Date) {
				least++
			}
			if *it.Dose.Reserve < least {
				it.Dose.Reserve = &least
			}
		}
	})
}

func eachSession(prog *programme.Programme, do func(*programme.Week, *programme.Session)) {
	for bi := range prog.Blocks {
		for wi := range prog.Blocks[bi].Weeks {
			w := &prog.Blocks[bi].Weeks[wi]
			for si := range w.Sessions {
				do(w, &w.Sessions[si])
			}
		}
	}
}

// loads sets kilograms where the pattern has a test of its own; everywhere else
// the load stays blank and the reserve says it. Loads edited by hand stay.
func (p *planner) loads(prog *programme.Programme) {
	last := map[string]float64{} // heaviest load of the last rising week
	now := map[string]float64{}
	week := -1
	lastVolume, nowVolume := map[string]int{}, map[string]int{}
	eachSession(prog, func(w *programme.Week, s *programme.Session) {
		if w.Number != week {
			for k, v := range now {
				last[k] = v
			}
			for k, v := range nowVolume {
				lastVolume[k] = v
			}
			now, nowVolume, week = map[string]float64{}, map[string]int{}, w.Number
		}
		for i := range s.Items {
			it := &s.Items[i]
			e, ok := p.by.Exercises.Find(it.Exercise)
			if !ok || it.Dose.Reserve == nil {
				continue
			}
			if !it.Edited && e.LoadBasis == "trap-bar-lift" && p.facts.OneRM > 0 {
				it.Dose.Reps = doses[row(it.Slot, e.DoseUnit)][p.facts.Tier][min(w.Number, weeksPerBlock)-1].reps
				p.load(e, &it.Dose, last[it.Exercise], lastVolume[it.Exercise], w.Kind)
			}
			if it.Dose.LoadKg == nil {
				continue
			}
			p.warmSets(&it.Dose)
			if w.Kind == programme.Rising {
				now[it.Exercise] = max(now[it.Exercise], *it.Dose.LoadKg)
				nowVolume[it.Exercise] = max(nowVolume[it.Exercise], it.Dose.Volume())
			}
		}
	})
}

// load sets the load of one dose: from the table, never above the golfer's
// share or cap, and never more than a load step above the last rising week.
// When the smallest plate is a larger step than that, the load is held and a
// repetition added, as far as the wave allows.
func (p *planner) load(e *library.Exercise, d *programme.Dose, last float64, lastVolume int, kind string) {
	bar, step := p.bar()
	raw, err := strength.Load(p.facts.OneRM, float64(d.Reps), float64(*d.Reserve))
	if err != nil {
		return
	}
	raw = math.Min(raw, p.facts.OneRM*p.facts.MaxLoadShare())
	if limit, ok := e.Cap(p.facts.Limits); ok {
		raw = math.Min(raw, limit)
	}
	if raw < bar {
		p.note("%s: the empty bar of %s kg is more than the %s kg the test allows; leave the reserve instead, with a lighter tool.", e.Name, unit.Compact(bar, 1), unit.Compact(raw, 1))
		return
	}
	kg := strength.RoundDown(raw, bar, step)
	if last > 0 && kind == programme.Rising {
		kg = math.Min(kg, strength.RoundDown(p.facts.By.LoadStep.Most(last), bar, step))
		if kg <= last {
			// No step up fits: one repetition more, if neither the wave nor the
			// reserve breaks.
			more := *d
			more.Reps++
			can, err := strength.Load(p.facts.OneRM, float64(more.Reps), float64(*d.Reserve))
			if err == nil && can >= kg && float64(more.Volume()) <= p.facts.By.Wave.Limit(lastVolume, more.SetVolume(), false) {
				*d = more
			}
		}
	} else if last > 0 {
		kg = math.Min(kg, last)
	}
	d.LoadKg = &kg
}

// ease brings every line of the easier week as far below the week before as WAVE asks,
// by sets where that can be, else by repetitions: clamps and cuts may have
// taken the table's own fall away.
func (p *planner) ease(prog *programme.Programme) {
	for bi := range prog.Blocks {
		weeks := prog.Blocks[bi].Weeks
		if len(weeks) < 2 {
			continue
		}
		before, easy := &weeks[len(weeks)-2], &weeks[len(weeks)-1]
		for si := range easy.Sessions {
			for ii := range easy.Sessions[si].Items {
				it := &easy.Sessions[si].Items[ii]
				if it.Slot == programme.SlotRange || it.Edited {
					continue
				}
				if was := sameLine(before, easy.Sessions[si].Letter, it); was != nil {
					p.easeDose(&it.Dose, was.Dose)
				}
			}
		}
	}
}

func sameLine(w *programme.Week, letter string, it *programme.Item) *programme.Item {
	for si := range w.Sessions {
		if w.Sessions[si].Letter != letter {
			continue
		}
		for ii := range w.Sessions[si].Items {
			if o := &w.Sessions[si].Items[ii]; o.Slot == it.Slot && o.Exercise == it.Exercise {
				return o
			}
		}
	}
	return nil
}

func (p *planner) easeDose(d *programme.Dose, was programme.Dose) {
	least, most := p.facts.By.Wave.FallLeastPercent, p.facts.By.Wave.FallMostPercent
	inBand := func(x programme.Dose) (off float64, ok bool) {
		down := 100 * (1 - float64(x.Volume())/float64(was.Volume()))
		return math.Abs(down - (least+most)/2), down >= least-1e-7 && down <= most+1e-7
	}
	if _, ok := inBand(*d); ok {
		return
	}
	best, bestOff := *d, math.Inf(1)
	try := func(x programme.Dose) {
		if off, ok := inBand(x); ok && off < bestOff {
			best, bestOff = x, off
		}
	}
	for sets := 1; sets <= was.Sets; sets++ {
		x := *d
		x.Sets = sets
		try(x)
	}
	for sets := was.Sets; sets >= 1 && math.IsInf(bestOff, 1); sets-- {
		for n := 1; n <= max(was.Reps, was.Seconds); n++ {
			x := *d
			x.Sets = sets
			if x.Unit == library.Seconds {
				x.Seconds = n
			} else {
				x.Reps = n
			}
			if x.Unit != library.Swings || n >= p.facts.By.Swings.SetLeast {
				try(x)
			}
		}
	}
	*d = best
}

// LoadStep is the smallest step of a loaded bar, in kg: 2.5 where the plates are
// not known.
func LoadStep(t athlete.Training) float64 {
	if t.PlateStepKg == 0 {
		return 2.5
	}
	return t.PlateStepKg
}

func (p *planner) bar() (bar, step float64) {
	bar = p.f.Training.BarKg
	if bar == 0 {
		bar = 20
	}
	return bar, LoadStep(p.f.Training)
}

// warmSets lists two lighter sets, at about half and three quarters of the load.
func (p *planner) warmSets(d *programme.Dose) {
	if d.LoadKg == nil || len(d.WarmUpSets) == 0 {
		return
	}
	bar, step := p.bar()
	d.WarmUpSets = []programme.WarmSet{
		{LoadKg: strength.RoundDown(*d.LoadKg*0.5, bar, step), Reps: 6},
		{LoadKg: strength.RoundDown(*d.LoadKg*0.75, bar, step), Reps: 3},
	}
}

// fitSteps are the ways a session is made shorter, tried in this order until
// its longest week fits the minutes.
var fitSteps = []struct {
	slots []string
	cap   int // sets; 0 takes the slot out, −1 keeps the first range line only
}{
	{[]string{programme.SlotPush, programme.SlotPull}, 3},
	{[]string{programme.SlotSwings}, 5},
	{[]string{programme.SlotRange}, -1},
	{[]string{programme.SlotSpecial}, 0},
	{[]string{programme.SlotFinisher}, 2},
	{[]string{programme.SlotMain, programme.SlotSecond}, 3},
	{[]string{programme.SlotFinisher}, 0},
	{[]string{programme.SlotTrunk}, 2},
	{[]string{programme.SlotSwings}, 4},
	{[]string{programme.SlotSecond}, 0},
	{[]string{programme.SlotThrow, programme.SlotJump}, 4},
	{[]string{programme.SlotTrunk}, 0},
	{[]string{programme.SlotThrow, programme.SlotJump}, 3},
	{[]string{programme.SlotPush, programme.SlotPull}, 2},
	{[]string{programme.SlotJump}, 0},
	{[]string{programme.SlotSwings}, 0},
	{[]string{programme.SlotMain}, 2},
	{[]string{programme.SlotRange}, 0},
	{[]string{programme.SlotThrow}, 2},
	{[]string{programme.SlotPush, programme.SlotPull}, 0},
	{[]string{programme.SlotThrow}, 0},
}

// fit makes every session fit its minutes, the same way in all weeks, so that
// the wave stays whole. What is taken out is noted.
func (p *planner) fit(prog *programme.Programme) {
	for _, letter := range []string{"A", "B", "C"} {
		for _, step := range fitSteps {
			longest := 0.0
			eachSession(prog, func(_ *programme.Week, s *programme.Session) {
				if s.Letter == letter {
					longest = math.Max(longest, unit.Round(s.Seconds(p.by.Exercises)/60, 1))
				}
			})
			if longest <= float64(p.mins) {
				break
			}
			for _, slot := range step.slots {
				p.shorten(prog, letter, slot, step.cap)
			}
		}
	}
}

func (p *planner) shorten(prog *programme.Programme, letter, slot string, limit int) {
	eachSession(prog, func(w *programme.Week, s *programme.Session) {
		if s.Letter != letter || !slices.ContainsFunc(s.Items, func(it programme.Item) bool { return it.Slot == slot }) {
			return
		}
		kept := s.Items[:0:0]
		seen := 0
		for _, it := range s.Items {
			if it.Slot != slot {
				kept = append(kept, it)
				continue
			}
			seen++
			switch {
			case limit == 0:
				p.note("Day %s leaves out %s: %d minutes do not hold it.", letter, slotNames[slot], p.mins)
				continue
			case limit < 0 && seen > 1:
				p.note("Day %s keeps the worst joint's range line; the others are done on the home days.", letter)
				continue
			case limit > 0:
				most := limit
				if w.Kind == programme.Easier {
					most = max(1, limit*7/10) // three sets become two, two become one
				}
				it.Dose.Sets = min(it.Dose.Sets, most)
			}
			kept = append(kept, it)
		}
		s.Items = kept
	})
}
