package nextdose

import (
	"fmt"
	"slices"

	"dunnock/internal/core/civil"
	"dunnock/internal/core/plan"
	"dunnock/internal/core/programme"
	"dunnock/internal/core/rulebook"
)

// gone reports whether a session was missed: let go, or its day went by with nothing noted.
// Of a golfer of whom nothing is ever noted nobody knows what was missed.
func (p *proposer) gone(s *Past) bool {
	if !slices.ContainsFunc(p.h.Past, func(x Past) bool { return x.Log != nil && x.Log.Entries > 0 }) {
		return false
	}
	if s.Log != nil && s.Log.Entries > 0 && s.Log.State != "missed" {
		return false
	}
	return s.Log != nil && s.Log.State == "missed" || s.Planned.Date.Before(p.h.Today)
}

// tally is what became of a week's sessions.
type tally struct {
	week            programme.ID
	number          int
	kind            programme.WeekKind
	planned, missed int
	over            bool // its last session lies behind
	first           *Past
}

// weeks tallies the weeks, oldest first.
func (p *proposer) weeks() []tally {
	var out []tally
	for i := range p.h.Past {
		s := &p.h.Past[i]
		if n := len(out); n == 0 || out[n-1].week != s.Week {
			out = append(out, tally{week: s.Week, number: s.Number, kind: s.Kind, first: s, over: true})
		}
		t := &out[len(out)-1]
		t.planned++
		if p.gone(s) {
			t.missed++
		}
	}
	for i := range out {
		if _, w := p.doc.Week(out[i].week); w != nil {
			out[i].over = !p.h.Today.Before(w.Start.Add(7))
			out[i].planned = max(out[i].planned, len(w.Sessions))
		}
	}
	return out
}

// weekMissed is rule 4: it reports whether it fired.
func (p *proposer) weekMissed() bool {
	r := ruleOf("WEEK-MISSED")
	weeks := slices.DeleteFunc(p.weeks(), func(t tally) bool { return !t.over })
	n := len(weeks)
	lost := func(i int) bool {
		return i >= 0 && weeks[i].planned > 0 && float64(weeks[i].missed) > r.Params["share"]*float64(weeks[i].planned)
	}
	if !lost(n - 1) {
		return false
	}
	last := weeks[n-1]
	if p.h.Today.Sub(last.first.Planned.Date.Monday()) >= 14 {
		return false // it was answered, or lies too far behind
	}
	prop := Proposal{Of: string(last.week), From: last.first.Planned.ID, Date: last.first.Planned.Date}
	values := map[string]string{"missed": fmt.Sprint(last.missed), "planned": fmt.Sprint(last.planned), "week": fmt.Sprint(last.number)}
	switch {
	case lost(n-2) && lost(n-3):
		values["what"] = "the third week running. This is a lay-off: say so in the intake and draft again, so that it comes back in steps."
	case lost(n - 2):
		p.repeat(&prop, last, 2)
		p.less(&prop, r.Params["less"])
		values["what"] = "the second week running. A week back, and the working maximum a twentieth less."
	default:
		p.repeat(&prop, last, 1)
		if !p.risingAhead(last) {
			values["what"] = "the easier week follows; nothing is repeated."
		} else if len(prop.Edits) == 0 {
			values["what"] = "the next week asks for no more than this one did, and stands as it is."
		} else {
			values["what"] = "the next week does what this one was to, and the top week falls out."
		}
	}
	p.add(prop, r.ID, values)
	return true
}

// repeat gives the rising weeks behind a lost one the doses of so many weeks before them:
// the lost week is done again, and the top one falls out. The easier week stays.
func (p *proposer) repeat(prop *Proposal, lost tally, back int) {
	block, _ := p.doc.Week(lost.week)
	if block == nil {
		return
	}
	var rising []*programme.Week
	for wi := range block.Weeks {
		if w := &block.Weeks[wi]; w.Kind == programme.Rising {
			rising = append(rising, w)
		}
	}
	p.each(func(at programme.Spot) {
		if at.Session == nil || at.Block != block || at.Week.Kind != programme.Rising {
			return
		}
		now := slices.Index(rising, at.Week)
		if now-back < 0 {
			return
		}
		if was := sameIn(rising[now-back], at); was != nil {
			p.keep(prop, at, was)
		}
	})
}

// risingAhead reports whether a rising week of the lost one's block is still to come.
func (p *proposer) risingAhead(lost tally) bool {
	block, _ := p.doc.Week(lost.week)
	found := false
	p.each(func(at programme.Spot) { found = found || at.Block == block && at.Week.Kind == programme.Rising })
	return found
}

// sameIn is an item's line in another week.
func sameIn(w *programme.Week, at programme.Spot) *programme.Item {
	for si := range w.Sessions {
		if w.Sessions[si].Letter != at.Session.Letter {
			continue
		}
		for i := range w.Sessions[si].Items {
			if it := &w.Sessions[si].Items[i]; it.Exercise == at.Item.Exercise && it.Slot == at.Item.Slot && it.Dose.ImplementPercent == at.Item.Dose.ImplementPercent {
				return it
			}
		}
	}
	return nil
}

// less takes a share off every working maximum that is known.
func (p *proposer) less(prop *Proposal, factor float64) {
	prop.Working = map[string]Weight{}
	for _, id := range p.loaded() {
		e, ok := p.lib.Find(id)
		if !ok {
			continue
		}
		m := p.doc.Working[id].Kg
		if m == 0 && id == p.basis.Facts.TestedLift {
			m = p.basis.Facts.OneRM
		}
		if m == 0 {
			continue
		}
		now := float64(int(m*factor*10+0.5)) / 10
		prop.Edits = slices.DeleteFunc(prop.Edits, func(x plan.Edit) bool {
			return x.Dose != nil && x.Dose.LoadKg != nil && p.exerciseAt(x.At) == id && *x.Dose == (plan.DosePatch{LoadKg: x.Dose.LoadKg})
		})
		p.reload(prop, e, now)
		prop.Working[id] = Weight{Kg: now, On: p.h.Today, Rule: "WEEK-MISSED", Was: m}
	}
}

func (p *proposer) exerciseAt(id programme.ID) string {
	if spot, ok := p.doc.Find(id); ok {
		return spot.Item.Exercise
	}
	return ""
}

// loaded are the exercises with a load that are still to be done.
func (p *proposer) loaded() []string {
	var out []string
	p.each(func(at programme.Spot) {
		if at.Item.Dose.LoadKg != nil && !slices.Contains(out, at.Item.Exercise) {
			out = append(out, at.Item.Exercise)
		}
	})
	return out
}

// missed is what becomes of this week's missed sessions: moved to a free day, merged into the
// next one, or let go.
func (p *proposer) missed() {
	monday := p.h.Today.Monday()
	for i := range p.h.Past {
		s := &p.h.Past[i]
		if !p.gone(s) || s.Planned.Date.Before(monday) || s.Log != nil && s.Log.State == "missed" {
			continue
		}
		at, ok := p.doc.Session(s.Planned.ID)
		if !ok || !at.Date.Before(p.h.Today) {
			continue // it was moved already
		}
		p.moveOrMerge(s, at)
	}
}

func (p *proposer) moveOrMerge(s *Past, at *programme.Session) {
	prop := Proposal{Of: "session", From: at.ID, Date: at.Date}
	values := map[string]string{"session": "Session " + string(at.Letter), "date": at.Date.Words()}
	before := p.broken(p.basis.Judge(p.doc).Rules)
	for day := p.h.Today; !day.After(p.h.Today.Monday().Add(6)); day = day.Add(1) {
		if !p.free(day, s.Week) {
			continue
		}
		e := plan.Edit{Kind: plan.EditMove, At: at.ID, Date: day}
		if p.fits(e, before) {
			prop.Edits = []plan.Edit{e}
			prop.Changes = []Change{{Where: "Session " + string(at.Letter), Was: at.Date.Words(), Now: day.Words()}}
			values["what"] = "it moves to " + day.Words() + "."
			p.add(prop, "MISSED", values)
			return
		}
	}
	if next := p.nextSession(s.Week); next != nil {
		var leaders []programme.ID
		for i := range at.Items {
			if e, ok := p.lib.Find(at.Items[i].Exercise); ok && p.leads(e.Serves) && !slices.ContainsFunc(next.Items, func(x programme.Item) bool { return x.Exercise == e.ID }) {
				leaders = append(leaders, at.Items[i].ID)
			}
		}
		for n := len(leaders); n > 0; n-- {
			e := plan.Edit{Kind: plan.EditCopy, At: leaders[0], Also: leaders[1:n], To: next.ID}
			if p.fits(e, before) {
				prop.Edits = []plan.Edit{e}
				for _, id := range leaders[:n] {
					prop.Changes = append(prop.Changes, Change{Where: "Session " + string(next.Letter) + ", " + next.Date.Words(), Was: "", Now: p.name(p.exerciseAt(id))})
				}
				values["what"] = "no day is free: what serves the leader goes into " + next.Date.Words() + ", the rest is let go."
				p.add(prop, "MISSED", values)
				return
			}
		}
	}
	values["what"] = "no day is free and nothing of it fits into the next session: it is let go, never doubled."
	p.add(prop, "MISSED", values)
}

// leads reports whether the qualities served hold one that leads.
func (p *proposer) leads(serves map[string]float64) bool {
	for i := range p.doc.Asked {
		if p.doc.Asked[i].Level == "lead" && serves[p.doc.Asked[i].Quality] >= 0.5 {
			return true
		}
	}
	return false
}

// free reports whether nothing stands on a day: no session, no play, not away.
func (p *proposer) free(day civil.Date, week programme.ID) bool {
	_, w := p.doc.Week(week)
	if w == nil || slices.ContainsFunc(w.Sessions, func(s programme.Session) bool { return s.Date == day }) {
		return false
	}
	return p.basis.Free(day)
}

// nextSession is the week's next session that is still to be trained.
func (p *proposer) nextSession(week programme.ID) *programme.Session {
	_, w := p.doc.Week(week)
	if w == nil {
		return nil
	}
	var out *programme.Session
	for si := range w.Sessions {
		if s := &w.Sessions[si]; p.open(s) && (out == nil || s.Date.Before(out.Date)) {
			out = s
		}
	}
	return out
}

// broken are the broken rules that stop or warn, with how often each is.
func (p *proposer) broken(rules []rulebook.Result) map[string]int {
	out := map[string]int{}
	for _, r := range rules {
		if r.Status == rulebook.Broken && r.Severity != rulebook.Advice {
			out[r.Rule]++
		}
	}
	return out
}

// fits reports whether an edit can be made and breaks nothing that is not broken before.
func (p *proposer) fits(e plan.Edit, before map[string]int) bool {
	return p.keepsOver([]plan.Edit{e}, before)
}

// keeps reports whether edits can be made and break nothing that is not broken now.
func (p *proposer) keeps(edits []plan.Edit) bool {
	return p.keepsOver(edits, p.broken(p.basis.Judge(p.doc).Rules))
}

func (p *proposer) keepsOver(edits []plan.Edit, before map[string]int) bool {
	made, left, err := Apply(p.basis, p.doc, []Proposal{{Edits: edits, Text: "tried"}}, "try")
	if err != nil || left > 0 {
		return false
	}
	for rule, n := range p.broken(made.Rules) {
		if n > before[rule] {
			return false
		}
	}
	return true
}
