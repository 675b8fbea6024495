package plan

import (
	"math"

	"dunnock/internal/core/athlete"
	"dunnock/internal/core/library"
	"dunnock/internal/core/programme"
	"dunnock/internal/core/rulebook"
	"dunnock/internal/core/school"
	"dunnock/internal/core/unit"
)

// item builds an item with the dose of a week, from 0, of a block of so many
// weeks, clamped by the golfer's limits. Loads are set afterwards, over the whole
// block.
func (p *planner) item(e *library.Exercise, at place, week, weeks int, why programme.Reason) programme.Item {
	c := p.school.Dose(school.RowOf(at.slot, e.DoseUnit), p.Facts.Tier, week, weeks)
	d := programme.Dose{Sets: c.Sets, Reps: c.Reps, Seconds: c.Seconds, Unit: e.DoseUnit, Sides: e.Sides, IntentPercent: c.IntentPercent, RestSeconds: e.RestSeconds}
	if e.DoseUnit == library.Seconds && d.Seconds == 0 {
		d.Seconds, d.Reps = 20, 0
	}
	if e.DoseUnit != library.Seconds && d.Reps == 0 {
		d.Reps, d.Seconds = 8, 0 // a timed slot filled with counted work
	}
	if c.Reserve != nil && e.DoseUnit != library.Seconds {
		r := max(*c.Reserve, p.Facts.MinReserve())
		d.Reserve = &r
	}
	if limit, ok := e.Cap(p.Facts.Limits); ok && (e.LoadBasis == "feel" || e.LoadBasis == "trap-bar-lift") {
		d.MaxKg = limit
	}
	d.Side = e.SoundSide(p.Facts.Limits)
	p.about(e, &d)
	switch at.slot {
	case library.SlotSpecial:
		if d.Unit == library.Swings { // strength with a heavy club, from both sides
			d.OtherSideShare, d.ImplementPercent = 50, e.ImplementPercent
		}
	case library.SlotRange:
		d.Form = p.form(e, week, weeks)
	case library.SlotSwings:
		d.OtherSideShare = rulebook.NoviceRamp(p.Facts, week+1)
		d.ImplementPercent = e.ImplementPercent
		if g := p.file.Athlete.DriverMassG; g > 0 && e.LoadBasis == "implement" {
			d.ImplementG = int(unit.Round(g*(1+float64(e.ImplementPercent)/100), 0))
		}
		p.swingCap(&d)
	case library.SlotThrow:
		if most := p.Facts.MaxThrows(); most > 0 {
			for d.Sets > 1 && d.Volume() > most {
				d.Sets--
			}
		}
		if e.LoadBasis == "ball" {
			d.BallKg = p.ball(e, at.letter)
		}
	case library.SlotJump:
		most := p.Facts.MaxContacts()
		if day, ok := p.school.Days[at.letter]; ok && day.Fast {
			most = min(most, p.Facts.By.Spacing.Landings-1) // a fast day stays light
		}
		for d.Sets > 1 && d.Volume() > most {
			d.Sets--
		}
	case library.SlotMain, library.SlotSecond:
		d.WarmUpSets = []programme.WarmSet{{Reps: 6}, {Reps: 3}}
		if len(e.Kit) == 0 {
			d.WarmUpSets = nil // unloaded work is its own warm-up
		}
	}
	return programme.Item{Slot: at.slot, Exercise: e.ID, Dose: d, Reason: why}
}

// The heaviest balls there are, in kg: of men, of women, of novices and from 60 on, and
// of juniors (ours, common practice).
const heaviestBall, womansBall, lighterBall, juniorBall = 5.0, 4.0, 3.0, 2.0

// ball returns the ball in whole kg: a share of body mass, lighter on the fast
// day, 2 kg for juniors (common practice: 6 to 8 lb for an average adult).
func (p *planner) ball(e *library.Exercise, letter programme.Letter) float64 {
	mass := p.mass()
	share := e.BallShare
	if day, ok := p.school.Days[letter]; ok {
		share *= day.BallShare
	}
	most := heaviestBall
	switch {
	case p.Facts.Junior:
		most = juniorBall
	case p.Facts.Tier == athlete.Novice, p.Facts.Senior:
		most = lighterBall
	case p.file.Athlete.Sex != athlete.Male:
		most = womansBall
	}
	return unit.Round(math.Max(1, math.Min(most, mass*share)), 0)
}

// mass is the golfer's, kg; an assumed light one where it was not weighed.
func (p *planner) mass() float64 {
	switch {
	case p.massKg > 0:
		return p.massKg
	case p.file.Athlete.Sex == athlete.Male:
		return 75
	}
	return 60
}

func (p *planner) swingCap(d *programme.Dose) {
	for d.Sets > 1 && d.Sets*d.Reps > p.Facts.MaxSwings() {
		d.Sets--
	}
}
