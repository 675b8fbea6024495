package quality

import (
	"fmt"

	"dunnock/internal/core/maturity"
	"dunnock/internal/core/unit"
)

// maturity estimates the growth spurt of a junior. Where it can be told by
// standing height only, or not at all, the limits near the spurt apply to be
// safe.
func (c *computer) maturity(r *Read) {
	if !c.f.Athlete.Junior(c.on) {
		return
	}
	h, sit := r.usable("height"), r.usable("sitting-height")
	if h == nil || c.f.Athlete.Sex == "" {
		r.Notes = append(r.Notes, "Growth spurt not estimated: it needs sex, height, sitting height and mass. The limits near the spurt are applied to be safe.")
		return
	}
	sitting := 0.0
	if sit != nil && c.mass > 0 {
		sitting = *sit
	}
	o, err := maturity.Estimate(c.f.Athlete.Sex, c.f.Athlete.BirthDate.DecimalYearsOn(c.on), *h, sitting, c.mass)
	if err != nil {
		r.Notes = append(r.Notes, "Growth spurt not estimated: the measures lie outside what the equations were made for.")
		return
	}
	m := &Maturity{Mirwald: unit.Round(o.Mirwald, 2), Moore: unit.Round(o.Moore, 2), NearSpurt: o.NearSpurt() || o.HeightOnly, HeightOnly: o.HeightOnly}
	when := func(v float64) string {
		if v < 0 {
			return unit.Text(-v, 1) + " years before"
		}
		return unit.Text(v, 1) + " years after"
	}
	if o.HeightOnly {
		m.Sentence = fmt.Sprintf(
			"Estimated %s the fastest growth by Moore's equation from standing height alone; without sitting height and mass it is the rougher one, so the limits near the spurt apply.",
			when(o.Moore),
		)
	} else {
		m.Sentence = fmt.Sprintf("Estimated %s (Mirwald) and %s (Moore) the fastest growth; an estimate, off by about half a year and more at the extremes.", when(o.Mirwald), when(o.Moore))
		if m.NearSpurt {
			m.Sentence += " Within a year of it: jumps, loads and landings are held down."
		}
	}
	m.Changes = []string{
		"Reserve of 4 and more, at most 80% of a predicted single, 30 fast swings, 40 throws and 60 contacts a session, a guardian's consent: as for every junior.",
	}
	if m.NearSpurt {
		m.Changes = append(m.Changes, "Near the spurt: at most 40 contacts, no depth drops, at most 70% of a predicted single.")
	}
	m.Changes = append(m.Changes, "Measure again in three to four months: one reading is never a gate, and measured growth says more than an equation.")
	r.Maturity = m
}
