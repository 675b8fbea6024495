package plan

import (
	"cmp"
	"fmt"
	"math"
	"slices"
	"strings"

	"dunnock/internal/core/library"
	"dunnock/internal/core/programme"
	"dunnock/internal/core/quality"
	"dunnock/internal/core/rulebook"
	"dunnock/internal/core/strength"
	"dunnock/internal/core/unit"
)

// Remedies that change how much.

// capLoad lowers a load to what a limit, age or level allow.
func (m *mending) capLoad() string {
	s, e, ok := m.spot()
	if !ok || s.Item.Dose.LoadKg == nil {
		return ""
	}
	most := math.Inf(1)
	if limit, ok := e.Cap(m.Facts.Limits); ok {
		most = limit
	}
	if s.Item.Exercise == m.Facts.TestedLift && m.Facts.OneRM > 0 {
		most = math.Min(most, m.Facts.OneRM*m.Facts.MaxLoadShare())
	}
	if math.IsInf(most, 1) || *s.Item.Dose.LoadKg <= most {
		return ""
	}
	bar, step := m.bar()
	if s.Item.Exercise != m.Facts.TestedLift || most < bar {
		bar = 0
	}
	kg := strength.RoundDown(most, bar, step)
	s.Item.Dose.LoadKg = &kg
	return fmt.Sprintf("%s at %s kg", m.changed(s.Item), unit.Compact(kg, 2))
}

// raiseReserve leaves as much as the rule wants, with the load that goes with it.
func (m *mending) raiseReserve() string {
	s, e, ok := m.spot()
	if !ok || s.Item.Dose.Reserve == nil || s.Session == nil {
		return ""
	}
	least := m.Facts.MinReserve()
	if m.result.Rule == "RESERVE" && s.Week.Number == 1 && s.Item.Exercise != m.Facts.TestedLift {
		least = max(least, m.Facts.By.Reserve.New)
	}
	if m.Facts.BeforePlay(s.Session.Date) {
		least++
	}
	if *s.Item.Dose.Reserve < least {
		s.Item.Dose.Reserve = &least
	}
	if d := &s.Item.Dose; d.LoadKg != nil && e.ID == m.Facts.TestedLift && m.Facts.OneRM > 0 {
		if most, err := strength.Load(m.Facts.OneRM, float64(d.Reps), float64(*d.Reserve)); err == nil && *d.LoadKg > most {
			bar, step := m.bar()
			kg := strength.RoundDown(most, bar, step)
			d.LoadKg = &kg
		}
	}
	return fmt.Sprintf("%s leaves %d in reserve", m.changed(s.Item), *s.Item.Dose.Reserve)
}

// fewerReps lowers the repetitions until the load leaves what it must.
func (m *mending) fewerReps() string {
	s, e, ok := m.spot()
	d := &programme.Dose{}
	if ok {
		d = &s.Item.Dose
	}
	if !ok || d.LoadKg == nil || e.ID != m.Facts.TestedLift || m.Facts.OneRM == 0 {
		return ""
	}
	for d.Reps > 1 {
		d.Reps--
		if most, err := strength.Load(m.Facts.OneRM, float64(d.Reps), float64(m.Facts.MinReserve())); err == nil && *d.LoadKg <= most {
			return fmt.Sprintf("%s %d × %d", m.changed(s.Item), d.Sets, d.Reps)
		}
	}
	return ""
}

// leastNeeded orders items by how dear they are: what is kept before what is built and
// leads, slots that go first before those that stay.
func (m *mending) leastNeeded(items []*programme.Item) {
	levels := []string{string(quality.Spare), string(quality.Keep), string(quality.Build), string(quality.Lead)}
	level := func(it *programme.Item) int {
		at := 0
		e, ok := m.by.Exercises.Find(it.Exercise)
		if !ok {
			return at
		}
		for i := range m.doc.Asked {
			if a := &m.doc.Asked[i]; e.Serves[a.Quality] >= 0.5 {
				at = max(at, slices.Index(levels, a.Level))
			}
		}
		return at
	}
	slices.SortStableFunc(items, func(a, b *programme.Item) int {
		return cmp.Or(cmp.Compare(level(a), level(b)), cmp.Compare(slices.Index(dearest, a.Slot), slices.Index(dearest, b.Slot)), cmp.Compare(b.Dose.Sets, a.Dose.Sets))
	})
}

// counts reports whether an item counts toward what the rule caps in a session.
func (m *mending) counts(it *programme.Item) bool {
	e, ok := m.by.Exercises.Find(it.Exercise)
	if !ok {
		return false
	}
	text := m.result.Text
	switch {
	case strings.Contains(text, "landings"):
		return e.Landings(1) > 0
	case strings.Contains(text, "swings"):
		return e.DoseUnit == library.Swings
	case strings.Contains(text, "throws"):
		return it.Slot == library.SlotThrow
	}
	return m.result.Rule == "TIME"
}

// fewerSets takes sets off, the least needed first, until the rule is kept.
func (m *mending) fewerSets() string {
	s, _ := m.session()
	if s == nil {
		return ""
	}
	took := map[string]int{}
	var order []string
	for range 40 {
		var list []*programme.Item
		for i := range s.Items {
			if it := &s.Items[i]; it.Dose.Sets > 1 && m.counts(it) {
				list = append(list, it)
			}
		}
		if len(list) == 0 {
			break
		}
		m.leastNeeded(list)
		it := list[0]
		it.Dose.Sets--
		name := m.changed(it)
		if took[name] == 0 {
			order = append(order, name)
		}
		took[name]++
		if !m.stillBroken() {
			break
		}
	}
	var parts []string
	for _, name := range order {
		parts = append(parts, fmt.Sprintf("%d off %s", took[name], strings.ToLower(name[:1])+name[1:]))
	}
	if len(parts) == 0 {
		return ""
	}
	return "fewer sets: " + strings.Join(parts, ", ")
}

// fewerAlong takes sets off in the session and in those of its kind of day in every week,
// so that the lines still rise and fall as they should.
func (m *mending) fewerAlong() string {
	s, _ := m.session()
	if s == nil {
		return ""
	}
	// The week that holds most sets the measure for the others.
	letter := s.Letter
	for bi := range m.doc.Blocks {
		m.doc.Blocks[bi].EachSession(func(w *programme.Week, o *programme.Session) {
			if o.Letter == letter && w.Kind == programme.Rising && volumeOf(o) >= volumeOf(s) {
				s = o
			}
		})
	}
	m.result.At = s.ID
	words := m.fewerSets()
	if words == "" {
		return ""
	}
	for bi := range m.doc.Blocks {
		m.doc.Blocks[bi].EachSession(func(w *programme.Week, o *programme.Session) {
			if o.ID == s.ID || o.Letter != s.Letter {
				return
			}
			for i := range s.Items {
				for k := range o.Items {
					if !s.Items[i].Edited || !m.counts(&s.Items[i]) || !sameLine(&o.Items[k], &s.Items[i]) {
						continue
					}
					d := s.Items[i].Dose
					if w.Kind != programme.Rising {
						ease(&d)
					}
					o.Items[k].Dose.Sets, o.Items[k].Dose.Reps = min(o.Items[k].Dose.Sets, d.Sets), min(o.Items[k].Dose.Reps, d.Reps)
					m.changed(&o.Items[k])
				}
			}
		})
	}
	return words + " in every week"
}

// longer gives a session the minutes it takes.
func (m *mending) longer() string {
	s, _ := m.session()
	if s == nil {
		return ""
	}
	for s.Budget < 180 && m.stillBroken() {
		s.Budget += 5
	}
	return fmt.Sprintf("a slot of %d minutes that day", s.Budget)
}

// bothSides lets one-sided work go both ways.
func (m *mending) bothSides() string {
	s, _, ok := m.spot()
	if !ok || s.Item.Dose.Side == "" {
		return ""
	}
	s.Item.Dose.Side = ""
	return m.changed(s.Item) + " on both sides"
}

// evenSwings gives every swing of the week the other side's share that is wanted.
func (m *mending) evenSwings() string {
	w, _ := m.week()
	if w == nil {
		return ""
	}
	share := rulebook.NoviceRamp(m.Facts, w.Number)
	for si := range w.Sessions {
		for i := range w.Sessions[si].Items {
			if it := &w.Sessions[si].Items[i]; it.Slot == library.SlotSwings {
				it.Dose.OtherSideShare = share
				m.changed(it)
			}
		}
	}
	return fmt.Sprintf("%d%% of the swings from the other side", share)
}

// evenCount shares odd counts of swings in turns: of two sets of three, two swings and then
// one are from the other side.
func (m *mending) evenCount() string {
	w, _ := m.week()
	if w == nil || m.evenSwings() == "" {
		return ""
	}
	fewer, done := false, ""
	for si := range w.Sessions {
		for i := range w.Sessions[si].Items {
			it := &w.Sessions[si].Items[i]
			n := it.Dose.Sets * it.Dose.Reps
			if it.Slot != library.SlotSwings || n%2 == 0 || it.Dose.OtherSideShare != evenShare {
				continue
			}
			if fewer {
				it.Dose.OtherSideShare = 100 * (n / 2) / n
				done = "the odd swing from either side in turns: " + strings.ToLower(m.changed(it))
			}
			fewer = !fewer
		}
	}
	return done
}

// evenShare is half the swings, in %.
const evenShare = 50

// arms are the pushes or pulls of the week.
func (m *mending) arms(w *programme.Week, family string) (list []*programme.Item, sets int) {
	for si := range w.Sessions {
		for i := range w.Sessions[si].Items {
			it := &w.Sessions[si].Items[i]
			if e, ok := m.by.Exercises.Find(it.Exercise); ok && e.Family == family {
				list = append(list, it)
				sets += it.Dose.Sets
			}
		}
	}
	slices.SortStableFunc(list, func(a, b *programme.Item) int { return b.Dose.Sets - a.Dose.Sets })
	return list, sets
}

func (m *mending) moreAndLess() (more, less []*programme.Item) {
	w, _ := m.week()
	if w == nil {
		return nil, nil
	}
	push, a := m.arms(w, "upper-push")
	pull, b := m.arms(w, "upper-pull")
	if a > b {
		return push, pull
	}
	return pull, push
}

// lessOfMore takes sets off the larger of push and pull.
func (m *mending) lessOfMore() string {
	more, _ := m.moreAndLess()
	name := ""
	for range 12 {
		if len(more) == 0 || more[0].Dose.Sets < 2 || !m.stillBroken() {
			break
		}
		more[0].Dose.Sets--
		name = m.changed(more[0])
		slices.SortStableFunc(more, func(a, b *programme.Item) int { return b.Dose.Sets - a.Dose.Sets })
	}
	if name == "" {
		return ""
	}
	return "a set less of " + strings.ToLower(name[:1]) + name[1:]
}

// moreOfLess gives the smaller of push and pull sets.
func (m *mending) moreOfLess() string {
	_, less := m.moreAndLess()
	name := ""
	for range 12 {
		if len(less) == 0 || !m.stillBroken() {
			break
		}
		it := less[len(less)-1]
		it.Dose.Sets++
		name = m.changed(it)
		slices.SortStableFunc(less, func(a, b *programme.Item) int { return b.Dose.Sets - a.Dose.Sets })
	}
	if name == "" {
		return ""
	}
	return "a set more of " + strings.ToLower(name[:1]) + name[1:]
}

// stepLoad lowers a load to the largest step from the last rising week; a repetition more
// where the reserve allows it.
func (m *mending) stepLoad() string {
	s, e, ok := m.spot()
	if !ok {
		return ""
	}
	d := &s.Item.Dose
	last, lever := 0.0, 0.0
	for wi := range s.Block.Weeks {
		w := &s.Block.Weeks[wi]
		if w == s.Week {
			break
		}
		if w.Kind != programme.Rising && w.Kind != programme.Played {
			continue
		}
		now, lev := 0.0, 0.0
		for si := range w.Sessions {
			for i := range w.Sessions[si].Items {
				if x := &w.Sessions[si].Items[i]; x.Exercise == e.ID {
					if x.Dose.LoadKg != nil {
						now = math.Max(now, *x.Dose.LoadKg)
					}
					lev = math.Max(lev, x.Dose.LeverNm)
				}
			}
		}
		if now > 0 {
			last = now
		}
		if lev > 0 {
			lever = lev
		}
	}
	switch {
	case d.LoadKg != nil && last > 0:
		bar, step := m.bar()
		if e.ID != m.Facts.TestedLift {
			bar = 0
		}
		kg := strength.RoundDown(m.Facts.By.LoadStep.Most(last), bar, step)
		if kg < last {
			kg = last // held: no smaller step
		}
		d.LoadKg = &kg
		return fmt.Sprintf("%s at %s kg", m.changed(s.Item), unit.Compact(kg, 2))
	case d.LeverNm > 0 && lever > 0:
		for d.ChokeCm < 45 && d.LeverNm > m.Facts.By.LoadStep.MostLever(lever) {
			d.ChokeCm++
			m.moment(d)
		}
		return fmt.Sprintf("%s choked down %d cm", m.changed(s.Item), d.ChokeCm)
	}
	return ""
}

// shortSets makes sets short enough with the same total.
func (m *mending) shortSets() string {
	s, _, ok := m.spot()
	if !ok {
		return ""
	}
	d, most := &s.Item.Dose, m.Facts.By.ExplosiveReps.Most
	if d.Reps <= most {
		return ""
	}
	total := d.Sets * d.Reps
	d.Sets = (total + most - 1) / most
	d.Reps = total / d.Sets
	return fmt.Sprintf("%s %d × %d", m.changed(s.Item), d.Sets, d.Reps)
}

// setLength brings a set of swings to a length that may be.
func (m *mending) setLength() string {
	s, e, ok := m.spot()
	if !ok || e.DoseUnit != library.Swings {
		return ""
	}
	d, by := &s.Item.Dose, m.Facts.By.Swings
	total := d.Sets * d.Reps
	reps := min(max(d.Reps, by.SetLeast), by.SetMost)
	if reps == d.Reps {
		return ""
	}
	d.Reps, d.Sets = reps, max(1, total/reps)
	return fmt.Sprintf("%s %d × %d", m.changed(s.Item), d.Sets, d.Reps)
}
