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
	"dunnock/internal/core/measure"
	"dunnock/internal/core/plan"
	"dunnock/internal/core/programme"
	"dunnock/internal/core/programme/derive"
	"dunnock/internal/core/readiness"
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
	limit := athlete.Limit{Region: x.Region, Side: x.Side, Kind: athlete.NoneOfPattern, SetBy: SetBy, Note: fmt.Sprintf("pain %d of 10 on %s", x.Level, s.Date().Short())}
	if x.Numb {
		limit.Note = "numbness on " + s.Date().Short()
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

// reference is the mean of the three fastest swings of a showing that count, m/s; 0 where
// there are not three.
func (x *showing) reference() float64 {
	var all []float64
	for _, s := range x.sets {
		for _, w := range s.Swings {
			if !w.Void && !w.Other {
				all = append(all, w.Mps)
			}
		}
	}
	if len(all) < 3 {
		return 0
	}
	slices.Sort(all)
	sum := 0.0
	for _, v := range all[len(all)-3:] {
		sum += v
	}
	return sum / 3
}

// usual is the median of the four values before the last one that counts; 0 where there is
// none.
func usual(values []float64, sessions int) float64 {
	from := max(0, len(values)-sessions)
	v := slices.Clone(values[from:])
	if len(v) == 0 {
		return 0
	}
	slices.Sort(v)
	if n := len(v); n%2 == 0 {
		return (v[n/2-1] + v[n/2]) / 2
	}
	return v[len(v)/2]
}

// downTwice says whether the last two of values lie below a share of what was usual before
// them.
func downTwice(values []float64, sessions int, low func(usual float64) float64) (usualBefore float64, twice, thrice bool) {
	n := len(values)
	if n < 3 {
		return 0, false, false
	}
	u := usual(values[:n-2], sessions)
	twice = values[n-1] < low(u) && values[n-2] < low(u)
	if n >= 4 {
		before := usual(values[:n-3], sessions)
		thrice = twice && values[n-3] < low(before)
	}
	return u, twice, thrice
}

// slow is rule 6 for swings.
func (p *proposer) slow(e *library.Exercise, shown []showing) bool {
	r := ruleOf("SPEED-DOWN")
	var refs []float64
	for i := range shown {
		if v := shown[i].reference(); v > 0 && e.DoseUnit == library.Swings {
			refs = append(refs, v)
		}
	}
	u, twice, thrice := downTwice(refs, int(r.Params["sessions"]), func(u float64) float64 { return u * r.Params["share"] })
	if !twice {
		return false
	}
	last := &shown[len(shown)-1]
	prop := Proposal{Of: e.ID, From: last.past.Planned.ID, Date: last.past.Date()}
	if !thrice {
		p.fewer(&prop, e, r.Params["factor"])
	}
	p.add(prop, r.ID, map[string]string{
		"exercise": e.Name, "percent": unit.Text(100*refs[len(refs)-1]/u, 0), "again": unit.Text(100*r.Params["again"], 0),
	})
	if thrice {
		x := &p.out[len(p.out)-1]
		x.Text = e.Name + " is slow for the third time running: ask how sleep, work and soreness are before anything is cut."
	}
	return true
}

// lower is rule 6 for jumps.
func (p *proposer) lower(e *library.Exercise, shown []showing) bool {
	r := ruleOf("JUMP-DOWN")
	if p.h.JumpError == 0 || e.DoseUnit != library.Contacts {
		return false
	}
	var heights []float64
	for i := range shown {
		best := 0.0
		for _, s := range shown[i].sets {
			if s.JumpCm != nil {
				best = max(best, *s.JumpCm)
			}
		}
		if best > 0 {
			heights = append(heights, best)
		}
	}
	u, twice, _ := downTwice(heights, int(r.Params["sessions"]), func(u float64) float64 { return u - 1.96*math.Sqrt2*p.h.JumpError })
	if !twice {
		return false
	}
	last := &shown[len(shown)-1]
	prop := Proposal{Of: e.ID, From: last.past.Planned.ID, Date: last.past.Date()}
	p.fewer(&prop, e, r.Params["factor"])
	p.add(prop, r.ID, map[string]string{"exercise": e.Name, "height": unit.Text(heights[len(heights)-1], 1), "usual": unit.Text(u, 1)})
	return true
}

// fewer takes sets off what comes next of an exercise, whole ones, at least one stays.
func (p *proposer) fewer(prop *Proposal, e *library.Exercise, factor float64) {
	p.next(func(at programme.Spot) {
		if at.Item.Exercise != e.ID {
			return
		}
		if sets := max(1, int(math.Round(float64(at.Item.Dose.Sets)*factor))); sets < at.Item.Dose.Sets {
			p.patch(prop, at, plan.DosePatch{Sets: &sets})
		}
	})
}
