package plan

import (
	"math"

	"dunnock/internal/core/athlete"
	"dunnock/internal/core/library"
	"dunnock/internal/core/programme"
	"dunnock/internal/core/school"
	"dunnock/internal/core/strength"
	"dunnock/internal/core/unit"
)

// reserves raises what is left in reserve for an exercise in its first week and
// on the days before play. Doses edited by hand stay.
func (p *planner) reserves(b *programme.Block) {
	first := map[string]int{}
	b.EachSession(func(w *programme.Week, s *programme.Session) {
		for i := range s.Items {
			it := &s.Items[i]
			if _, seen := first[it.Exercise]; !seen {
				first[it.Exercise] = w.Number
			}
			if it.Edited || it.Locked || it.Dose.Reserve == nil {
				continue
			}
			least := p.Facts.MinReserve()
			if first[it.Exercise] == w.Number && it.Exercise != testedLift {
				least = max(least, p.Facts.By.Reserve.New)
			}
			if p.Facts.BeforePlay(s.Date) {
				least++
			}
			if e, ok := p.by.Exercises.Find(it.Exercise); ok && p.mildly(e, s.Date) {
				least++
			}
			if *it.Dose.Reserve < least {
				it.Dose.Reserve = &least
			}
		}
	})
}

// loads sets kilograms where the pattern has a test of its own; everywhere else
// the load stays blank and the reserve says it. Loads edited by hand stay.
func (p *planner) loads(b *programme.Block) {
	last := map[string]float64{} // heaviest load of the last rising week
	now := map[string]float64{}
	week, c := -1, courseOfBlock(b)
	lastDose, nowDose := map[string]programme.Dose{}, map[string]programme.Dose{}
	b.EachSession(func(w *programme.Week, s *programme.Session) {
		if w.Number != week {
			for k, v := range now {
				last[k] = v
			}
			for k, v := range nowDose {
				lastDose[k] = v
			}
			now, nowDose, week = map[string]float64{}, map[string]programme.Dose{}, w.Number
		}
		for i := range s.Items {
			it := &s.Items[i]
			e, ok := p.by.Exercises.Find(it.Exercise)
			if !ok || it.Dose.Reserve == nil {
				continue
			}
			if m := p.maximum(e); !it.Edited && !it.Locked && m > 0 {
				if w.Kind == programme.Rising || w.Kind == programme.Played { // those of others were cut
					it.Dose.Reps = p.school.Dose(school.RowOf(it.Slot, e.DoseUnit), p.Facts.Tier, c.step(w.Number-1), c.weeks).Reps
				}
				p.load(e, &it.Dose, m, last[it.Exercise], lastDose[it.Exercise], w.Kind)
			}
			if it.Dose.LoadKg == nil {
				continue
			}
			p.warmSets(&it.Dose)
			if w.Kind == programme.Rising || w.Kind == programme.Played {
				now[it.Exercise] = max(now[it.Exercise], *it.Dose.LoadKg)
			}
			if w.Kind == programme.Rising {
				if it.Dose.Volume() > nowDose[it.Exercise].Volume() {
					nowDose[it.Exercise] = it.Dose
				}
			}
		}
	})
}

// mostHeldReps is how many repetitions a set grows to while its load is held.
const mostHeldReps = 8

// maximum is the single an exercise's loads are worked out from, in kg: that of the tested
// lift, or one that what was done has set; 0 where neither is known.
func (p *planner) maximum(e *library.Exercise) float64 {
	if e.LoadBasis == "trap-bar-lift" {
		return p.Facts.OneRM
	}
	if m, ok := p.working[e.ID]; ok && !p.file.StaleLoad(m.On) {
		return m.Kg
	}
	return 0
}

// load sets the load of one dose: from the table, never above the golfer's
// share or cap, and never more than a load step above the last rising week.
// When the smallest plate is a larger step than that, the load is held and a
// repetition added to those of the week before, as far as the reserve and the wave
// allow, up to mostHeldReps.
func (p *planner) load(e *library.Exercise, d *programme.Dose, m, last float64, before programme.Dose, kind programme.WeekKind) {
	bar, step := p.StepOf(e)
	raw, err := strength.Load(m, float64(d.Reps), float64(*d.Reserve))
	if err != nil {
		return
	}
	raw = math.Min(raw, m*p.Facts.MaxLoadShare())
	if limit, ok := e.Cap(p.Facts.Limits); ok {
		raw = math.Min(raw, limit)
	}
	if raw < bar {
		p.note(
			"%s: the empty bar of %s kg is more than the %s kg the test allows; leave the reserve instead, with a lighter tool.",
			e.Name,
			unit.Compact(bar, 1),
			unit.Compact(raw, 1),
		)
		return
	}
	kg := strength.RoundDown(raw, bar, step)
	if last > 0 && kind == programme.Rising {
		kg = math.Min(kg, strength.RoundDown(p.Facts.By.LoadStep.Most(last), bar, step))
		if kg <= last {
			// No step up fits: repetitions more, if neither the wave nor the reserve
			// breaks.
			for more := *d; more.Reps < min(max(before.Reps, d.Reps)+1, mostHeldReps); {
				more.Reps++
				can, err := strength.Load(m, float64(more.Reps), float64(*d.Reserve))
				if err == nil && can >= kg && float64(more.Volume()) <= p.Facts.By.Wave.Limit(before.Volume(), more.SetVolume(), false) {
					*d = more
				}
			}
		}
	} else if last > 0 {
		kg = math.Min(kg, last)
	}
	d.LoadKg = &kg
}

// loadStep is the smallest step of a loaded bar, in kg: 2.5 where the plates are
// not known.
func loadStep(t athlete.Training) float64 { return t.StepKg(2.5) }

func (p *planner) bar() (bar, step float64) {
	bar = p.file.Training.BarKg
	if bar == 0 {
		bar = 20
	}
	return bar, loadStep(p.file.Training)
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
