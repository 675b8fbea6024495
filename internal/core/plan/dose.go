package plan

import (
	"math"

	"dunnock/internal/core/athlete"
	"dunnock/internal/core/implement"
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
	if e.LoadBasis == "lever" {
		p.lever(e, &d, week, weeks)
	}
	if d.Unit == library.Swings && at.slot != library.SlotSwings { // a heavy club, or for the grip: from both sides
		d.OtherSideShare, d.ImplementPercent = 50, e.ImplementPercent
	}
	switch at.slot {
	case library.SlotRange:
		d.Form = p.form(e, week, weeks)
	case library.SlotSwings:
		d.OtherSideShare = rulebook.NoviceRamp(p.Facts, week+1)
		d.ImplementPercent = min(max(e.ImplementPercent, p.school.Implements[0]), p.school.Implements[1])
		if g := p.file.Athlete.DriverMassG; g > 0 && e.LoadBasis == "implement" {
			d.ImplementG = int(unit.Round(g*(1+float64(d.ImplementPercent)/100), 0))
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
		most := p.Facts.RoomForContacts()
		if p.school.Day(at.letter).Fast {
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

// lever says how a club is held out in a week of the course, from 0: choked down, and
// every rising week a step nearer its full length; the easier week keeps the last.
// Nothing is said where no club's balance point is known.
func (p *planner) lever(e *library.Exercise, d *programme.Dose, week, weeks int) {
	choke := implement.HingeChokeM
	if e.ID == "lever-roll" {
		choke = implement.RollChokeM
	}
	club, ok := p.heldOut(choke)
	if !ok {
		return
	}
	steps, err := implement.LeverSteps(club, implement.PivotM, choke, implement.LeanDeg, 1)
	if err != nil {
		return
	}
	at := steps[min(week, max(weeks-2, 0), len(steps)-1)]
	d.ChokeCm, d.Clubs = int(unit.Round(100*at.ChokeM, 0)), 0
	p.moment(d)
}

// moment sets what a club held out as a dose says puts on the wrist; 0 where no club's
// balance point is known or it cannot be held so.
func (p *planner) moment(d *programme.Dose) {
	d.LeverNm = 0
	if club, ok := p.heldOut(0); ok {
		m, err := implement.MomentsOf(club, implement.Held{PivotM: implement.PivotM, ChokeM: float64(d.ChokeCm) / 100, Clubs: max(1, d.Clubs)}, 0)
		if err == nil {
			d.LeverNm = unit.Round(m.HingeNm, 2)
		}
	}
}

// heldOut is the club the golfer holds out: the own driver, else the first whose balance
// point is known and that can be choked down so far.
func (p *planner) heldOut(chokeM float64) (implement.Implement, bool) {
	best := -1
	for i, x := range p.file.Implements {
		if x.BalanceM > implement.PivotM+chokeM && (best < 0 || x.Kind == implement.Driver) {
			best = i
		}
	}
	if best < 0 {
		return implement.Implement{}, false
	}
	return p.file.Implements[best], true
}

// The heaviest balls there are, in kg: of men, of women, of novices and from 60 on, and
// of juniors (ours, common practice).
const heaviestBall, womansBall, lighterBall, juniorBall = 5.0, 4.0, 3.0, 2.0

// ball returns the ball in whole kg: a share of body mass, lighter on the fast
// day, 2 kg for juniors (common practice: 6 to 8 lb for an average adult).
func (p *planner) ball(e *library.Exercise, letter programme.Letter) float64 {
	mass := p.mass()
	share := e.BallShare
	if day := p.school.Day(letter); day.BallShare > 0 {
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
	for d.Sets > 1 && d.Sets*d.Reps > p.Facts.RoomForSwings() {
		d.Sets--
	}
}
