package nextdose

import (
	"fmt"
	"slices"
	"strings"

	"dunnock/internal/core/athlete"
	"dunnock/internal/core/library"
	"dunnock/internal/core/measure"
	"dunnock/internal/core/plan"
	"dunnock/internal/core/programme"
	"dunnock/internal/core/readiness"
	"dunnock/internal/core/training"
)

// pains are the worst pain of each region in a session.
func pains(l *training.Log) map[string]readiness.Pain {
	out := map[string]readiness.Pain{}
	if l == nil {
		return out
	}
	for _, x := range l.Pains() {
		if have, ok := out[x.Region]; !ok || x.Level > have.Level {
			x.Rising, x.Numb = x.Rising || have.Rising, x.Numb || have.Numb
			out[x.Region] = x
		}
	}
	return out
}

func hurts(x readiness.Pain) bool { return x.Level >= measure.PainStop || x.Rising || x.Numb }

// hurt are the rules of pain: what hurts 4 or more is spared at once, what hurts a little
// holds, and twice running steps down.
func (p *proposer) hurt() {
	noted := []*Past{}
	for i := range p.h.Past {
		if p.h.Past[i].Log != nil && p.h.Past[i].Log.Entries > 0 {
			noted = append(noted, &p.h.Past[i])
		}
	}
	if len(noted) == 0 {
		return
	}
	last := noted[len(noted)-1]
	now := pains(last.Log)
	for _, region := range measure.Regions() {
		x, there := now[region]
		quiet := int(ruleOf("PAIN-HOLD").Params["quietDays"])
		if !there || x.Level == 0 && !hurts(x) {
			p.holdOn(region, noted, quiet)
			continue
		}
		switch {
		case hurts(x):
			p.spare(last, x)
		case len(noted) > 1 && littleIn(noted[len(noted)-2], region):
			p.easier(last, region)
		default:
			p.hold(last, region, quiet)
		}
	}
}

func littleIn(s *Past, region string) bool {
	x, ok := pains(s.Log)[region]
	return ok && x.Level > 0
}

// holdOn keeps what works a region from rising until it was quiet for so many days.
func (p *proposer) holdOn(region string, noted []*Past, quiet int) {
	for i := len(noted) - 1; i >= 0; i-- {
		if p.h.Today.Sub(noted[i].Date()) >= quiet {
			return
		}
		if littleIn(noted[i], region) {
			p.takeAll(region)
			return
		}
	}
}

// takeAll keeps other rules from raising what works a region.
func (p *proposer) takeAll(region string) {
	for _, id := range p.exercises() {
		if e, ok := p.lib.Find(id); ok && e.Loads(region) {
			p.taken[id] = true
		}
	}
}

func regionWords(region string) string {
	s := strings.ReplaceAll(region, "-", " ")
	return strings.ToUpper(s[:1]) + s[1:]
}

// spare takes what works a region out, or puts something else in its place.
func (p *proposer) spare(s *Past, x readiness.Pain) {
	limit := athlete.Limit{Region: x.Region, Side: x.Side, Kind: athlete.NoneOfPattern, SetBy: SetBy, Note: fmt.Sprintf("pain %d of 10 on %s", x.Level, s.Date().Words())}
	if x.Numb {
		limit.Note = "numbness on " + s.Date().Words()
	}
	prop := Proposal{Of: x.Region, From: s.Planned.ID, Date: s.Date(), AtOnce: true, Limits: []athlete.Limit{limit}}
	if slices.ContainsFunc(p.basis.Facts.Limits, func(l athlete.Limit) bool {
		return l.Region == x.Region && l.Kind == athlete.NoneOfPattern && (l.Side == "" || l.Side == x.Side)
	}) {
		p.takeAll(x.Region)
		return // it is spared already
	}
	limited := p.basis.Limited(limit)
	p.each(func(at programme.Spot) {
		e, ok := p.lib.Find(at.Item.Exercise)
		if !ok {
			return
		}
		if _, blocked := e.Blocked(limited.Facts.Limits); !blocked {
			return
		}
		p.taken[e.ID] = true
		change := Change{Where: where(at), Was: e.Name, Now: "left out"}
		if instead := limited.Instead(p.doc, at.Item.ID, 1); len(instead) > 0 && at.Session != nil {
			prop.Edits = append(prop.Edits, plan.Edit{Kind: plan.EditSwap, At: at.Item.ID, Scope: plan.ScopeCell, Exercise: instead[0].Exercise, Note: change.Was + " spared: " + limit.Note})
			if to, ok := p.lib.Find(instead[0].Exercise); ok {
				change.Now = to.Name
			}
		} else {
			prop.Edits = append(prop.Edits, plan.Edit{Kind: plan.EditRemove, At: at.Item.ID, Scope: plan.ScopeCell, Note: limit.Note})
		}
		prop.Changes = append(prop.Changes, change)
	})
	p.takeAll(x.Region)
	level := fmt.Sprint(x.Level)
	p.add(prop, "PAIN-LIMIT", map[string]string{"region": regionWords(x.Region), "pain": level, "date": s.Date().Words()})
}

// SetBy is who set a limit that came from the floor.
const SetBy = "pain on the floor"

// easier puts the easier neighbour of what works a region in its place.
func (p *proposer) easier(s *Past, region string) {
	prop := Proposal{Of: region, From: s.Planned.ID, Date: s.Date()}
	p.next(func(at programme.Spot) {
		e, ok := p.lib.Find(at.Item.Exercise)
		if !ok || !e.Loads(region) || at.Item.Slot == library.SlotRange {
			return
		}
		p.taken[e.ID] = true
		p.stepDown(&prop, at, e)
	})
	p.takeAll(region)
	if len(prop.Edits) > 0 {
		p.add(prop, "PAIN-EASIER", map[string]string{"region": regionWords(region)})
	}
}

// stepDown swaps an item for its easier neighbour where it has one that may be done; else it
// leaves one more in reserve, or a set less where nothing is left in reserve.
func (p *proposer) stepDown(prop *Proposal, at programme.Spot, e *library.Exercise) string {
	if to, ok := p.lib.Find(e.Easier); ok && to.Fits(at.Item.Slot) {
		if rule, _ := p.basis.Facts.Forbidden(to); rule == "" {
			prop.Edits = append(prop.Edits, plan.Edit{Kind: plan.EditSwap, At: at.Item.ID, Scope: plan.ScopeLine, Exercise: to.ID})
			prop.Changes = append(prop.Changes, Change{where(at), e.Name, to.Name})
			return "the easier neighbour"
		}
	}
	if r := at.Item.Dose.Reserve; r != nil {
		more := *r + 1
		p.patch(prop, at, plan.DosePatch{Reserve: &more})
		return "one more in reserve"
	}
	if at.Item.Dose.Sets > 1 {
		less := at.Item.Dose.Sets - 1
		p.patch(prop, at, plan.DosePatch{Sets: &less})
		return "a set less"
	}
	return ""
}

// hold keeps what works a region as it was done for the next time.
func (p *proposer) hold(s *Past, region string, quiet int) {
	prop := Proposal{Of: region, From: s.Planned.ID, Date: s.Date()}
	p.next(func(at programme.Spot) {
		e, ok := p.lib.Find(at.Item.Exercise)
		if !ok || !e.Loads(region) {
			return
		}
		for i := range s.Planned.Items {
			was := &s.Planned.Items[i]
			if was.Exercise == at.Item.Exercise && was.Slot == at.Item.Slot {
				p.keep(&prop, at, was)
			}
		}
	})
	p.takeAll(region)
	p.add(prop, "PAIN-HOLD", map[string]string{"region": regionWords(region), "date": s.Date().Words()})
}

// keep holds an item's dose at that of another where it is more.
func (p *proposer) keep(prop *Proposal, at programme.Spot, was *programme.Item) {
	d, patch := at.Item.Dose, plan.DosePatch{}
	if d.Sets > was.Dose.Sets {
		patch.Sets = &was.Dose.Sets
	}
	if d.Reps > was.Dose.Reps && was.Dose.Reps > 0 {
		patch.Reps = &was.Dose.Reps
	}
	if d.Seconds > was.Dose.Seconds && was.Dose.Seconds > 0 {
		patch.Seconds = &was.Dose.Seconds
	}
	if d.LoadKg != nil && was.Dose.LoadKg != nil && *d.LoadKg > *was.Dose.LoadKg {
		patch.LoadKg = was.Dose.LoadKg
	}
	if patch != (plan.DosePatch{}) {
		p.patch(prop, at, patch)
	}
}
