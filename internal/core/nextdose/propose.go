package nextdose

import (
	"crypto/sha256"
	"encoding/hex"
	"fmt"
	"math"
	"slices"
	"strings"

	"dunnock/internal/core/athlete"
	"dunnock/internal/core/floor"
	"dunnock/internal/core/library"
	"dunnock/internal/core/plan"
	"dunnock/internal/core/programme"
	"dunnock/internal/core/programme/derive"
	"dunnock/internal/core/strength"
	"dunnock/internal/core/training"
	"dunnock/internal/core/unit"
)

// proposer works out what one golfer's programme goes on with.
type proposer struct {
	basis *plan.Basis
	doc   *programme.Programme
	h     *History
	lib   *library.Catalogue
	out   []Proposal
	// taken are the exercises a rule has spoken of.
	taken map[string]bool
}

// Propose returns what the rules make of what was done, in their order. The document is the
// version that is trained by; what is proposed is for its sessions behind today, and today's
// where nothing was noted of it yet.
func Propose(b *plan.Basis, doc *programme.Programme, h History) []Proposal {
	p := &proposer{basis: b, doc: doc, h: &h, lib: b.Method().Exercises, taken: map[string]bool{}}
	if p.stop() {
		return p.out
	}
	p.hurt()
	if !p.weekMissed() {
		for _, id := range p.exercises() {
			if !p.taken[id] {
				p.exercise(id)
			}
		}
	}
	p.missed()
	return slices.DeleteFunc(p.out, func(x Proposal) bool { return h.Declined[x.ID] })
}

// add takes a proposal on; id is made of its rule, what it is about and what brought it.
func (p *proposer) add(x Proposal, rule string, values map[string]string) {
	r := ruleOf(rule)
	sum := sha256.Sum256([]byte(strings.Join([]string{rule, x.Of, string(x.From)}, "|")))
	x.ID, x.Rule, x.Name = hex.EncodeToString(sum[:8]), rule, r.Name
	if x.Changes == nil {
		x.Changes = []Change{}
	}
	values["changes"] = ""
	x.Text = r.fill(values)
	p.out = append(p.out, x)
}

// stop is the first rule: nothing else is looked at.
func (p *proposer) stop() bool {
	for i := len(p.h.Past) - 1; i >= 0; i-- {
		l := p.h.Past[i].Log
		if l == nil || l.Ready == nil {
			continue
		}
		if why := l.Ready.Stop(); why != "" {
			p.add(Proposal{Of: "stop", From: p.h.Past[i].Planned.ID, Date: p.h.Past[i].Date(), AtOnce: true}, "STOP", map[string]string{"why": why})
			return true
		}
		return false // the newest answers count
	}
	return false
}

// done are the sessions something was trained of, oldest first.
func (p *proposer) done() []*Past {
	var out []*Past
	for i := range p.h.Past {
		if p.h.Past[i].Done() {
			out = append(out, &p.h.Past[i])
		}
	}
	return out
}

// patch adds an edit of a dose with what it changes in words.
func (p *proposer) patch(prop *Proposal, at programme.Spot, x plan.DosePatch) {
	prop.Edits = append(prop.Edits, plan.Edit{Kind: plan.EditDose, At: at.Item.ID, Scope: plan.ScopeCell, Dose: &x})
	now := at.Item.Dose
	if x.Sets != nil {
		now.Sets = *x.Sets
	}
	if x.Reps != nil {
		now.Reps = *x.Reps
	}
	if x.Seconds != nil {
		now.Seconds = *x.Seconds
	}
	if x.Reserve != nil {
		now.Reserve = x.Reserve
	}
	if x.LoadKg != nil {
		now.LoadKg = x.LoadKg
	}
	prop.Changes = append(prop.Changes, Change{where(at) + ", " + p.name(at.Item.Exercise), words(at.Item.Dose), words(now)})
}

func words(d programme.Dose) string {
	w := derive.DoseWords(d)
	if load := derive.LoadWords(d); load != "" {
		w += ", " + load
	}
	return w
}

func where(at programme.Spot) string {
	if at.Session != nil {
		return fmt.Sprintf("Week %d, day %s", at.Week.Number, at.Session.Letter)
	}
	return fmt.Sprintf("Week %d, at home", at.Week.Number)
}

func (p *proposer) name(id string) string {
	if e, ok := p.lib.Find(id); ok {
		return e.Name
	}
	return id
}

// open reports whether a session of the document is still to be trained.
func (p *proposer) open(s *programme.Session) bool {
	if s.Date.Before(p.h.Today) {
		return false
	}
	return !slices.ContainsFunc(p.h.Past, func(x Past) bool {
		return x.Planned.ID == s.ID && x.Log != nil && (x.Log.Hard() || x.Log.Over())
	})
}

// each calls do for every item that is still to be trained, those at home too.
func (p *proposer) each(do func(programme.Spot)) {
	p.every(func(at programme.Spot, open bool) {
		if open {
			do(at)
		}
	})
}

// every calls do for every item in the order of time, sessions before home days, and says
// whether it is still to be trained and not locked.
func (p *proposer) every(do func(at programme.Spot, open bool)) {
	locked := p.doc.Locked()
	for bi := range p.doc.Blocks {
		b := &p.doc.Blocks[bi]
		for wi := range b.Weeks {
			w := &b.Weeks[wi]
			for si := range w.Sessions {
				s := &w.Sessions[si]
				open := p.open(s)
				for ii := range s.Items {
					do(programme.Spot{Block: b, Week: w, Session: s, Item: &s.Items[ii]}, open && !locked[s.Items[ii].ID])
				}
			}
			for hi := range w.Home {
				open := !w.Home[hi].Date.Before(p.h.Today)
				for ii := range w.Home[hi].Items {
					do(programme.Spot{Block: b, Week: w, Item: &w.Home[hi].Items[ii]}, open && !locked[w.Home[hi].Items[ii].ID])
				}
			}
		}
	}
}

// next calls do for every line that is still to be trained where it comes next: the first of
// an exercise in a kind of day.
func (p *proposer) next(do func(programme.Spot)) {
	seen := map[string]bool{}
	p.each(func(at programme.Spot) {
		if at.Session == nil {
			return
		}
		key := string(at.Session.Letter) + string(at.Item.Slot) + at.Item.Exercise
		if !seen[key] {
			seen[key] = true
			do(at)
		}
	})
}

// exercises are those of the sessions done, in the order they were first done in.
func (p *proposer) exercises() []string {
	var out []string
	for _, s := range p.done() {
		for i := range s.Planned.Items {
			if id := p.doneAs(s, &s.Planned.Items[i]); !slices.Contains(out, id) {
				out = append(out, id)
			}
		}
	}
	return out
}

// doneAs is the exercise an item was done as.
func (p *proposer) doneAs(s *Past, it *programme.Item) string {
	if did := s.Log.Item(it.ID); did != nil && did.Exercise != "" {
		return did.Exercise
	}
	return it.Exercise
}

// showing is one session's work on an exercise.
type showing struct {
	past *Past
	item *programme.Item
	sets []training.Numbered // working sets that were done or broken off
}

// showings are the sessions an exercise was done in since its working maximum was last set,
// oldest first.
func (p *proposer) showings(id string) []showing {
	since := p.doc.Working[id].On
	var out []showing
	for _, s := range p.done() {
		if !since.IsZero() && !s.Date().After(since) {
			continue
		}
		for i := range s.Planned.Items {
			it := &s.Planned.Items[i]
			did := s.Log.Item(it.ID)
			if did == nil || did.LeftOut || p.doneAs(s, it) != id {
				continue
			}
			x := showing{s, it, nil}
			for _, set := range did.Sets {
				if set.Number > 0 && set.State != training.SetSkippedState {
					x.sets = append(x.sets, set)
				}
			}
			if len(x.sets) > 0 {
				out = append(out, x)
			}
		}
	}
	return out
}

// exercise looks at one exercise: the first rule that fires counts.
func (p *proposer) exercise(id string) {
	shown := p.showings(id)
	if len(shown) == 0 {
		return
	}
	e, ok := p.lib.Find(id)
	if !ok {
		return
	}
	for _, rule := range []func(*library.Exercise, []showing) bool{p.tooMuch, p.slow, p.lower, p.level, p.best, p.easy} {
		if rule(e, shown) {
			return
		}
	}
}

// missedReps is the most repetitions a set of a showing fell short by; 0 for what is not done
// to a reserve: a throw or a turn less is no failed lift.
func (x *showing) missedReps() int {
	most := 0
	for _, s := range x.sets {
		if s.Reps != nil && x.item.Dose.Reserve != nil && x.item.Dose.Unit == library.Reps {
			most = max(most, x.item.Dose.Reps-*s.Reps)
		}
	}
	return most
}

// over is by how many repetitions every set left more than asked (least), and how far below
// what was asked the worst set stayed (below); ok where every set said what was left.
func (x *showing) reserve() (over, below int, ok bool) {
	if x.item.Dose.Reserve == nil {
		return 0, 0, false
	}
	over = math.MaxInt
	for _, s := range x.sets {
		if s.Reserve == nil {
			if s.AsPlanned {
				over = min(over, 0)
				continue
			}
			return 0, 0, false
		}
		d := *s.Reserve - *x.item.Dose.Reserve
		over, below = min(over, d), max(below, -d)
	}
	return over, below, true
}

// tooMuch is rule 5.
func (p *proposer) tooMuch(e *library.Exercise, shown []showing) bool {
	last := &shown[len(shown)-1]
	two, one := ruleOf("REPS-MISSED-TWO"), ruleOf("REPS-MISSED")
	missed := last.missedReps()
	_, below, _ := last.reserve()
	belowBefore := 0
	if len(shown) > 1 {
		_, belowBefore, _ = shown[len(shown)-2].reserve()
	}
	rule, short := one, ""
	switch {
	case missed >= int(two.Params["repetitions"]):
		rule = two
	case missed > 0:
		short = "one repetition was missed in a set"
	case below >= int(one.Params["reserve"]):
		short = fmt.Sprintf("%d fewer were left than asked for", below)
	case below > 0 && belowBefore > 0:
		short = "fewer were left than asked for, twice running"
	default:
		return false
	}
	prop := Proposal{Of: e.ID, From: last.past.Planned.ID, Date: last.past.Date()}
	values := map[string]string{"exercise": e.Name, "missed": fmt.Sprint(missed), "planned": fmt.Sprint(last.item.Dose.Reps), "date": last.past.Date().Words(), "short": short}
	if len(shown) > 1 && shown[len(shown)-2].missedReps() > 0 {
		how := ""
		p.next(func(at programme.Spot) {
			if at.Item.Exercise == e.ID {
				how = p.stepDown(&prop, at, e)
			}
		})
		values["outcome"] = "and the time before too: " + how + "."
	} else if m := p.maximum(e, last); m > 0 {
		now := unit.Round(m*rule.Params["factor"], 1)
		p.reload(&prop, e, now)
		prop.Working = map[string]Weight{e.ID: {Kg: now, On: last.past.Date(), Rule: rule.ID, Was: m}}
		values["outcome"] = fmt.Sprintf("the working maximum goes from %s to %s kg.", kg(m), kg(now))
	} else {
		p.next(func(at programme.Spot) {
			if at.Item.Exercise == e.ID && at.Item.Dose.Sets > 1 {
				less := at.Item.Dose.Sets - 1
				p.patch(&prop, at, plan.DosePatch{Sets: &less})
			}
		})
		values["outcome"] = "a set less next time."
	}
	p.taken[e.ID] = true
	if len(prop.Edits) > 0 || len(prop.Working) > 0 {
		p.add(prop, rule.ID, values)
	}
	return true
}

// maximum is the working maximum of an exercise, in kg: what was set, or what the load of a
// showing was worked out from; 0 where nothing says it.
func (p *proposer) maximum(e *library.Exercise, x *showing) float64 {
	if m, ok := p.doc.Working[e.ID]; ok {
		return m.Kg
	}
	if e.ID == p.basis.Facts.TestedLift && p.basis.Facts.OneRM > 0 {
		return p.basis.Facts.OneRM
	}
	d := x.item.Dose
	if d.LoadKg == nil || d.Reserve == nil {
		return 0
	}
	m, err := strength.PredictTable(*d.LoadKg, float64(d.Reps+*d.Reserve))
	if err != nil {
		return 0
	}
	return unit.Round(m, 1)
}

// reload sets the loads of an exercise that are still to come from a working maximum. None
// rises further above the last rising week's than LOAD-STEP allows: what is rounded down
// there would else make a step larger than the maximum's.
func (p *proposer) reload(prop *Proposal, e *library.Exercise, m float64) {
	bar, step := p.basis.StepOf(e)
	most := p.basis.Facts.By.LoadStep.Most
	week := programme.ID("")
	var last, now heaviest
	rising := false
	p.every(func(at programme.Spot, open bool) {
		if at.Week.ID != week {
			if rising && now.kg > 0 {
				last = now
			}
			week, now = at.Week.ID, heaviest{}
			rising = at.Week.Kind == programme.Rising || at.Week.Kind == programme.Played
		}
		d := at.Item.Dose
		if at.Item.Exercise != e.ID || d.Reserve == nil {
			return
		}
		load := 0.0
		if d.LoadKg != nil {
			load = *d.LoadKg
		}
		share, err := strength.Percent(float64(d.Reps + *d.Reserve))
		if raw := m * share / 100; open && err == nil && raw >= bar {
			if last.kg > 0 {
				raw = min(raw, max(most(last.kg), most(last.behind)*share/100))
			}
			to := strength.RoundDown(raw, bar, step)
			if limit, ok := e.Cap(p.basis.Facts.Limits); ok {
				to = min(to, limit)
			}
			if to > 0 && to != load {
				p.patch(prop, at, plan.DosePatch{LoadKg: &to})
				load = to
			}
		}
		if err == nil && load > now.kg {
			now = heaviest{load, load / (share / 100)}
		}
	})
}

// heaviest is the heaviest load of a week and the single it stands for, in kg.
type heaviest struct{ kg, behind float64 }

// estimate is the best single a showing's sets speak of, in kg, with the set in words.
func (p *proposer) estimate(x *showing, mostReserve, mostSum int) (best float64, set string) {
	for _, s := range x.sets {
		if s.LoadKg == nil || s.Reps == nil || s.Reserve == nil || *s.Reps < 1 || *s.Reserve > mostReserve || *s.Reps+*s.Reserve > mostSum {
			continue
		}
		one, err := strength.PredictTable(*s.LoadKg, float64(*s.Reps+*s.Reserve))
		if err == nil && one > best {
			best, set = one, fmt.Sprintf("%d at %s kg with %d left", *s.Reps, kg(*s.LoadKg), *s.Reserve)
		}
	}
	return unit.Round(best, 1), set
}

// level is rule 7.
func (p *proposer) level(e *library.Exercise, shown []showing) bool {
	if _, known := p.doc.Working[e.ID]; known || e.ID == p.basis.Facts.TestedLift && p.basis.Facts.OneRM > 0 {
		return false
	}
	last := &shown[len(shown)-1]
	if last.item.Dose.LoadKg != nil || !e.Loaded() || !floor.Finds(last.item) {
		return false
	}
	r := ruleOf("LEVEL")
	one, set := p.estimate(last, int(r.Params["reserve"]), int(r.Params["repetitions"]))
	if one == 0 {
		return false
	}
	now := unit.Round(one*r.Params["factor"], 1)
	prop := Proposal{Of: e.ID, From: last.past.Planned.ID, Date: last.past.Date(), Small: !p.basis.Facts.Junior, Working: map[string]Weight{e.ID: {Kg: now, On: last.past.Date(), Rule: r.ID}}}
	p.reload(&prop, e, now)
	p.add(prop, r.ID, map[string]string{"exercise": e.Name, "date": last.past.Date().Words(), "set": set, "to": kg(now)})
	return true
}

// mayRise reports whether anything is raised after a session: not after an easier one, within
// five days of play, or in a week of two efforts of 9 and over.
func (p *proposer) mayRise(x *showing) bool {
	if x.past.Log.Easier || x.past.Kind != programme.Rising && x.past.Kind != programme.Played {
		return false
	}
	for _, c := range p.h.Play {
		if d := c.Date.Sub(p.h.Today); d >= 0 && d <= playDays {
			return false
		}
	}
	hard := 0
	for _, s := range p.done() {
		if e := s.Log.How.Effort; e != nil && *e >= hardEffort && p.h.Today.Sub(s.Date()) < 7 {
			hard++
		}
	}
	return hard < 2
}

const playDays, hardEffort = 5, 9

// limited reports whether the exercise is done under a limit of some kind.
func (p *proposer) limited(e *library.Exercise) bool {
	return e.SoundSide(p.basis.Facts.Limits) != "" || slices.ContainsFunc(p.basis.Facts.Limits, func(l athlete.Limit) bool { return e.Loads(l.Region) })
}

// best is rule 8.
func (p *proposer) best(e *library.Exercise, shown []showing) bool {
	r := ruleOf("BEST")
	last := &shown[len(shown)-1]
	m := p.maximum(e, last)
	if m == 0 || p.limited(e) || !p.mayRise(last) {
		return false
	}
	one, set := p.estimate(last, int(r.Params["reserve"]), int(r.Params["repetitions"]))
	ever := p.h.Best[e.ID]
	for i := range shown[:len(shown)-1] {
		before, _ := p.estimate(&shown[i], int(r.Params["reserve"]), int(r.Params["repetitions"]))
		ever = max(ever, before)
	}
	if one <= ever || one < r.Params["over"]*m {
		return false
	}
	now := unit.Round(min(m+(one-m)*r.Params["share"], m*ruleOf("EASY-TWICE").Params["week"]), 1)
	prop := Proposal{Of: e.ID, From: last.past.Planned.ID, Date: last.past.Date(), Rise: true, Small: !p.basis.Facts.Junior, Working: map[string]Weight{e.ID: {Kg: now, On: last.past.Date(), Rule: r.ID, Was: m}}}
	p.reload(&prop, e, now)
	p.add(prop, r.ID, map[string]string{"exercise": e.Name, "date": last.past.Date().Words(), "set": set, "from": kg(m), "to": kg(now)})
	return true
}

// easy is rule 9.
func (p *proposer) easy(e *library.Exercise, shown []showing) bool {
	if len(shown) < 2 {
		return false
	}
	r := ruleOf("EASY-TWICE")
	last, earlier := &shown[len(shown)-1], &shown[len(shown)-2]
	a, _, ok1 := last.reserve()
	b, _, ok2 := earlier.reserve()
	if !ok1 || !ok2 || min(a, b) < int(r.Params["reserve"]) || !p.mayRise(last) || !p.mayRise(earlier) || last.missedReps()+earlier.missedReps() > 0 {
		return false
	}
	prop := Proposal{Of: e.ID, From: last.past.Planned.ID, Date: last.past.Date(), Rise: true, Small: !p.basis.Facts.Junior}
	values := map[string]string{"exercise": e.Name, "left": fmt.Sprint(min(a, b))}
	factor := r.Params["upper"]
	lower := last.item.Slot == library.SlotMain || last.item.Slot == library.SlotSecond
	if lower {
		factor = r.Params["lower"]
	}
	m := p.maximum(e, last)
	if m > 0 {
		now := unit.Round(m*factor, 1)
		p.reload(&prop, e, now)
		if len(prop.Edits) == 0 && !lower { // a plate needs it
			now = unit.Round(m*r.Params["lower"], 1)
			p.reload(&prop, e, now)
		}
		if len(prop.Edits) > 0 {
			prop.Working = map[string]Weight{e.ID: {Kg: now, On: last.past.Date(), Rule: r.ID, Was: m}}
			values["outcome"] = fmt.Sprintf("the working maximum goes from %s to %s kg.", kg(m), kg(now))
		}
	}
	if len(prop.Edits) == 0 {
		rises := false // what is easier or before an event does not begin a rise
		p.each(func(at programme.Spot) {
			if at.Item.Exercise != e.ID {
				return
			}
			rises = rises || at.Week.Kind == programme.Rising
			if at.Item.Dose.Unit == library.Seconds {
				more := at.Item.Dose.Seconds + int(r.Params["seconds"])
				p.patch(&prop, at, plan.DosePatch{Seconds: &more})
				values["outcome"] = unit.Text(r.Params["seconds"], 0) + " s more."
				return
			}
			more := at.Item.Dose.Reps + 1
			p.patch(&prop, at, plan.DosePatch{Reps: &more})
			values["outcome"] = "a repetition more."
		})
		if !rises || len(prop.Edits) == 0 || !p.keeps(prop.Edits) {
			return false
		}
	}
	p.add(prop, r.ID, values)
	return true
}
