package plan

import (
	"cmp"
	"fmt"
	"math"
	"slices"
	"strings"

	"dunnock/internal/core/budget"
	"dunnock/internal/core/civil"
	"dunnock/internal/core/library"
	"dunnock/internal/core/programme"
	"dunnock/internal/core/quality"
	"dunnock/internal/core/rulebook"
	"dunnock/internal/core/strength"
	"dunnock/internal/core/unit"
)

// A Mended programme is one with a broken rule mended, and what was done, in words.
type Mended struct {
	*Judged
	Words string
}

// NoMend is why nothing mends a broken rule: what each thing that was tried would break.
type NoMend struct{ Tried []string }

func (e *NoMend) Error() string {
	if len(e.Tried) == 0 {
		return "Nothing can be done about it at one click: change it by hand, or issue it with a reason."
	}
	return "Nothing at hand mends it without breaking something else. " + strings.Join(e.Tried, " ")
}

// Mend returns a changed copy of a document in which a broken rule, at the part with an id
// (empty: the whole programme), is kept: the first of the rule's remedies, tried in order on
// a copy, after which it is and nothing else that blocks or warns, no lock and no floor is
// newly broken (for a blocking rule: nothing that blocks). The error is an *EditError where
// the rule is not broken there, a *NoMend where nothing helps.
func (b *Basis) Mend(doc *programme.Programme, rule string, at programme.ID, prefix string) (*Mended, error) {
	before := b.Judge(doc)
	broken := slices.IndexFunc(before.Rules, func(r rulebook.Result) bool { return r.Rule == rule && r.At == at && r.Status == rulebook.Broken })
	if broken < 0 {
		return nil, refuse("rule", "%s is kept there: it may have been mended meanwhile", rule)
	}
	no := &NoMend{}
	for _, remedy := range remedies[rule] {
		m := &mending{planner: b.planner(Brief{Minutes: minutesOf(doc)}), doc: b.Stamp(doc), result: before.Rules[broken]}
		words := remedy(m)
		if words == "" {
			continue
		}
		for i := range m.doc.Blocks {
			m.reserves(&m.doc.Blocks[i])
			m.loads(&m.doc.Blocks[i])
		}
		m.doc.Name(prefix)
		after := b.Judge(m.doc)
		if why := worse(before, after, before.Rules[broken]); why != "" {
			no.Tried = append(no.Tried, upper(words)+": "+why)
			continue
		}
		return &Mended{after, upper(words)}, nil
	}
	return nil, no
}

// worse says what is not mended, or newly broken; empty where all is well.
func worse(before, after *Judged, r rulebook.Result) string {
	count := func(j *Judged) (n int) {
		for _, x := range j.Rules {
			if x.Rule == r.Rule && x.At == r.At && x.Status == rulebook.Broken {
				n++
			}
		}
		return n
	}
	if count(after) >= count(before) {
		return "it would still be broken."
	}
	had := map[string]int{}
	key := func(x rulebook.Result) string { return x.Rule + " " + string(x.At) }
	for _, x := range before.Rules {
		if x.Status == rulebook.Broken {
			had[key(x)]++
		}
	}
	for _, x := range after.Rules {
		if x.Status != rulebook.Broken || x.Severity == rulebook.Advice || r.Severity == rulebook.Blocking && x.Severity != rulebook.Blocking {
			continue
		}
		if had[key(x)]--; had[key(x)] < 0 {
			return fmt.Sprintf("it would break %s (%s)", x.Rule, strings.TrimSuffix(x.Text, ".")) + "."
		}
	}
	if r.Severity != rulebook.Blocking {
		for i := range after.Answer {
			x := &after.Answer[i]
			was := slices.IndexFunc(before.Answer, func(o budget.Answer) bool { return o.Quality == x.Quality })
			if was >= 0 && belowFloor(x) && !belowFloor(&before.Answer[was]) {
				return fmt.Sprintf("%s would get less than its floor.", x.Name)
			}
		}
	}
	return ""
}

// belowFloor reports whether some week gives a quality less than what keeps it up; of what
// is only kept up, less than is asked.
func belowFloor(x *budget.Answer) bool {
	row, ok := budget.Doses().Row(x.Quality)
	if !ok || len(x.DosePerWeek) == 0 {
		return false
	}
	least := math.Min(row.Keep.Low, x.DoseWanted)
	return slices.Min(x.DosePerWeek) < least-1e-9 && !x.Met || row.Unit != budget.JointMinutes && slices.Max(x.DosePerWeek) < least-1e-9
}

// mending is a document that is being changed to keep a rule.
type mending struct {
	*planner
	doc    *programme.Programme
	result rulebook.Result
}

// remedies are what is tried for each rule, in order (handbook: fixes). Each changes the
// document and says what it did; empty where it has nothing to do.
var remedies = map[string][]func(*mending) string{
	"CONTRA":         {(*mending).capLoad, (*mending).soundSide, (*mending).neighbour, (*mending).out},
	"JUNIOR":         {(*mending).capLoad, (*mending).raiseReserve, (*mending).fewerSets, (*mending).fewerAlong, (*mending).countedOut, (*mending).neighbour, (*mending).out},
	"GROWTH":         {(*mending).capLoad, (*mending).fewerSets, (*mending).fewerAlong, (*mending).neighbour, (*mending).out},
	"SENIOR":         {(*mending).raiseReserve, (*mending).fewerSets, (*mending).fewerAlong, (*mending).neighbour, (*mending).out},
	"KIT":            {(*mending).easier, (*mending).neighbour, (*mending).out},
	"LEVEL":          {(*mending).easier, (*mending).neighbour, (*mending).out},
	"NOVEL":          {(*mending).known, (*mending).neighbour},
	"ORDER":          {(*mending).inOrder},
	"BOTH-SIDES":     {(*mending).bothSides, (*mending).evenSwings},
	"PUSH-PULL":      {(*mending).lessOfMore, (*mending).moreOfLess},
	"SPECIAL":        {(*mending).tie, (*mending).neighbour, (*mending).fewerAlike, (*mending).out},
	"WAVE":           {(*mending).wave, (*mending).waveReps},
	"LOAD-STEP":      {(*mending).stepLoad},
	"RESERVE":        {(*mending).raiseReserve, (*mending).fewerReps},
	"EXPLOSIVE-REPS": {(*mending).shortSets},
	"CONTACTS":       {(*mending).fewerSets, (*mending).fewerAlong, (*mending).countedOut},
	"SWINGS":         {(*mending).setLength, (*mending).fewerSets, (*mending).fewerAlong, (*mending).swingsOut},
	"IMPLEMENT":      {(*mending).club},
	"SPACING":        {(*mending).swapDays, (*mending).legsOut},
	"UNSTABLE":       {(*mending).neighbour, (*mending).out},
	"SPEED-ALWAYS":   {(*mending).fastIn},
	"RANGE":          {(*mending).rangeIn},
	"TAPER":          {(*mending).taperLegs, (*mending).taperDose},
	"IN-SEASON":      {(*mending).seasonDose},
	"GRIP-EVE":       {(*mending).earlier, (*mending).out},
	"TIME":           {(*mending).fewerSets, (*mending).leastOut, (*mending).longer},
	"RETEST":         {(*mending).retestLast},
	"FLAT":           {(*mending).rise},
}

// spot is the item the rule is broken at.
func (m *mending) spot() (programme.Spot, *library.Exercise, bool) {
	s, ok := m.doc.Find(m.result.At)
	if !ok {
		return s, nil, false
	}
	e, ok := m.by.Exercises.Find(s.Item.Exercise)
	return s, e, ok
}

// session is the one the rule is broken at, or that of the item.
func (m *mending) session() (*programme.Session, *programme.Week) {
	for bi := range m.doc.Blocks {
		for wi := range m.doc.Blocks[bi].Weeks {
			w := &m.doc.Blocks[bi].Weeks[wi]
			for si := range w.Sessions {
				s := &w.Sessions[si]
				if s.ID == m.result.At || slices.ContainsFunc(s.Items, func(it programme.Item) bool { return it.ID == m.result.At }) {
					return s, w
				}
			}
		}
	}
	return nil, nil
}

// week is the one the rule is broken at, with the one before it.
func (m *mending) week() (w, before *programme.Week) {
	for bi := range m.doc.Blocks {
		for wi := range m.doc.Blocks[bi].Weeks {
			if m.doc.Blocks[bi].Weeks[wi].ID != m.result.At {
				continue
			}
			if wi > 0 {
				before = &m.doc.Blocks[bi].Weeks[wi-1]
			}
			return &m.doc.Blocks[bi].Weeks[wi], before
		}
	}
	return nil, nil
}

func (m *mending) block() *programme.Block {
	for bi := range m.doc.Blocks {
		if m.doc.Blocks[bi].ID == m.result.At {
			return &m.doc.Blocks[bi]
		}
	}
	return nil
}

// changed marks an item as changed by hand and names it.
func (m *mending) changed(it *programme.Item) string {
	it.Edited = true
	return m.name(it.Exercise)
}

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

// soundSide leaves one-sided work to the side a limit spares.
func (m *mending) soundSide() string {
	s, e, ok := m.spot()
	if !ok {
		return ""
	}
	sound := e.SoundSide(m.Facts.Limits)
	if sound == "" || s.Item.Dose.Side == sound {
		return ""
	}
	s.Item.Dose.Side = sound
	return fmt.Sprintf("%s on the %s side alone", m.changed(s.Item), sound)
}

// replace puts an exercise in the place of an item.
func (m *mending) replace(s programme.Spot, e *library.Exercise) string {
	was := m.name(s.Item.Exercise)
	c := courseOfBlock(s.Block)
	next := m.item(e, placeOf(s), c.step(s.Week.Number-1), c.weeks, m.byHand(e, Edit{}, "instead of "+was))
	next.Reason.Text = fmt.Sprintf("In the place of %s: %s.", was, strings.ToLower(m.result.Rule))
	next.Dose.Sets = min(next.Dose.Sets, max(s.Item.Dose.Sets, 1))
	if s.Item.Slot == library.SlotRange {
		m.asLong(&next, e, s.Item)
	}
	next.Paired = s.Item.Paired
	*s.Item = next
	return fmt.Sprintf("%s instead of %s", e.Name, strings.ToLower(was[:1])+was[1:])
}

// asLong gives range work the time a side of what it takes the place of.
func (m *mending) asLong(next *programme.Item, e *library.Exercise, was *programme.Item) {
	if e.Sides != library.TwoSided {
		next.Dose.Side = was.Dose.Side
	}
	perRep := 1.0
	if old, ok := m.by.Exercises.Find(was.Exercise); ok && was.Dose.Unit != library.Seconds {
		perRep = old.SecondsPerRep
	}
	seconds := float64(was.Dose.Volume()) * perRep / float64(was.Dose.SideFactor())
	x := &entry{ex: e, dose: next.Dose}
	(&layer{planner: m.planner}).perSide(x, seconds)
	next.Dose = x.dose
}

// may reports whether an exercise may stand in the place of an item.
func (m *mending) may(e *library.Exercise, s programme.Spot) bool {
	rule, _ := m.Facts.Forbidden(e)
	in := func(items []programme.Item) bool {
		return slices.ContainsFunc(items, func(it programme.Item) bool { return it.Exercise == e.ID })
	}
	return rule == "" && e.Fits(s.Item.Slot) && !e.ByHand && zoneFits(s.Item.Slot, e.Zone) && (s.Session == nil || !in(s.Session.Items)) &&
		(!e.Unstable || slices.ContainsFunc(m.Facts.Limits, e.Rehabilitates))
}

// easier takes the first easier neighbour that may be done.
func (m *mending) easier() string {
	s, e, ok := m.spot()
	if !ok {
		return ""
	}
	for range 6 {
		if e, ok = m.by.Exercises.Find(e.Easier); !ok {
			return ""
		}
		if m.may(e, s) {
			return m.replace(s, e)
		}
	}
	return ""
}

// neighbour takes the easier or harder neighbour that may be done, else the best of all
// that may stand there.
func (m *mending) neighbour() string {
	if words := m.easier(); words != "" {
		return words
	}
	s, e, ok := m.spot()
	if !ok {
		if s, ok = m.freshest(nil); !ok {
			return ""
		}
		e, _ = m.by.Exercises.Find(s.Item.Exercise)
	}
	if e != nil {
		if x, ok := m.by.Exercises.Find(e.Harder); ok && m.may(x, s) {
			return m.replace(s, x)
		}
	}
	for _, a := range m.alternatives(placeOf(s), s.Item.Exercise) {
		if x, ok := m.by.Exercises.Find(a.Exercise); ok && !a.Current && m.may(x, s) && (m.result.Rule != "SPECIAL" || !x.LookAlike) {
			return m.replace(s, x)
		}
	}
	return ""
}

// freshest is, for NOVEL, the last exercise of the session that is new to the golfer.
func (m *mending) freshest(but map[programme.ID]bool) (programme.Spot, bool) {
	s, _ := m.session()
	if s == nil || m.doc.Before == nil {
		return programme.Spot{}, false
	}
	for i := len(s.Items) - 1; i >= 0; i-- {
		it := &s.Items[i]
		if it.Slot != library.SlotRange && !but[it.ID] && !m.doc.Before.Knows(it.Exercise, s.Date, m.Facts.By.Novel.Weeks) {
			return m.doc.Find(it.ID)
		}
	}
	return programme.Spot{}, false
}

// known puts what the golfer did before in the place of something new, until few enough of
// a session are.
func (m *mending) known() string {
	var did []string
	tried := map[programme.ID]bool{}
	for m.stillBroken() {
		s, ok := m.freshest(tried)
		if !ok {
			break
		}
		tried[s.Item.ID] = true
		for _, a := range m.alternatives(placeOf(s), s.Item.Exercise) {
			if x, ok := m.by.Exercises.Find(a.Exercise); ok && !a.Current && m.may(x, s) && m.doc.Before.Knows(x.ID, s.Session.Date, m.Facts.By.Novel.Weeks) {
				did = append(did, m.replace(s, x))
				break
			}
		}
	}
	return strings.Join(did, "; ")
}

// out takes the item out.
func (m *mending) out() string {
	s, _, ok := m.spot()
	if !ok {
		return ""
	}
	name := m.name(s.Item.Exercise)
	m.take(s.Item.ID)
	return "without " + strings.ToLower(name[:1]) + name[1:]
}

func (m *mending) take(id programme.ID) {
	drop := func(items []programme.Item) []programme.Item {
		return slices.DeleteFunc(items, func(it programme.Item) bool { return it.ID == id })
	}
	for bi := range m.doc.Blocks {
		for wi := range m.doc.Blocks[bi].Weeks {
			w := &m.doc.Blocks[bi].Weeks[wi]
			for si := range w.Sessions {
				w.Sessions[si].Items = drop(w.Sessions[si].Items)
			}
			for hi := range w.Home {
				w.Home[hi].Items = drop(w.Home[hi].Items)
			}
		}
	}
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

// stillBroken reports whether the rule is broken at the same part of the document as it
// stands.
func (m *mending) stillBroken() bool {
	return slices.ContainsFunc(m.Judge(m.doc).Rules, func(r rulebook.Result) bool {
		return r.Rule == m.result.Rule && r.At == m.result.At && r.Status == rulebook.Broken
	})
}

// leastOut takes the least needed items of a session out until it fits.
func (m *mending) leastOut() string {
	s, _ := m.session()
	if s == nil {
		return ""
	}
	var gone []string
	for len(s.Items) > 1 && m.stillBroken() {
		var list []*programme.Item
		for i := range s.Items {
			list = append(list, &s.Items[i])
		}
		m.leastNeeded(list)
		gone = append(gone, strings.ToLower(m.name(list[0].Exercise)))
		m.take(list[0].ID)
	}
	if len(gone) == 0 {
		return ""
	}
	return "without " + strings.Join(gone, ", ")
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

// countedOut takes what the rule counts out of a session, the least needed first, and then
// sets, until it is kept.
func (m *mending) countedOut() string {
	s, _ := m.session()
	if s == nil {
		return ""
	}
	var gone []string
	for m.stillBroken() {
		var list []*programme.Item
		for i := range s.Items {
			if m.counts(&s.Items[i]) {
				list = append(list, &s.Items[i])
			}
		}
		if len(list) < 2 {
			break
		}
		m.leastNeeded(list)
		gone = append(gone, strings.ToLower(m.name(list[0].Exercise)))
		m.take(list[0].ID)
	}
	words := ""
	if m.stillBroken() {
		words = m.fewerSets()
	}
	if len(gone) > 0 {
		s.Title = title(s.Items, m.by.Exercises)
		words = strings.Trim("without "+strings.Join(gone, ", ")+"; "+words, "; ")
	}
	return words
}

// inOrder puts the items of a session from fast to slow; a light partner stays behind its
// lift.
func (m *mending) inOrder() string {
	s, _ := m.session()
	if s == nil {
		return ""
	}
	type group struct {
		zone  library.Zone
		items []programme.Item
	}
	var groups []group
	for i := range s.Items {
		e, ok := m.by.Exercises.Find(s.Items[i].Exercise)
		zone := library.M
		if ok {
			zone = e.Zone
		}
		if s.Items[i].Paired && len(groups) > 0 {
			groups[len(groups)-1].items = append(groups[len(groups)-1].items, s.Items[i])
			continue
		}
		groups = append(groups, group{zone, []programme.Item{s.Items[i]}})
	}
	fast := func(z library.Zone) library.Zone {
		if z > library.Z4 || z == library.M {
			return "Z9" // behind, in the order they had
		}
		return z
	}
	slices.SortStableFunc(groups, func(a, b group) int { return strings.Compare(string(fast(a.zone)), string(fast(b.zone))) })
	s.Items = s.Items[:0:0]
	for _, g := range groups {
		s.Items = append(s.Items, g.items...)
	}
	return "from fast to slow"
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

// tie gives a look-alike the finding it answers, where there is one.
func (m *mending) tie() string {
	s, e, ok := m.spot()
	if !ok || s.Item.Reason.Finding != "" {
		return ""
	}
	finding := m.finding(e)
	if finding == "" {
		return ""
	}
	s.Item.Reason.Finding = finding
	return m.changed(s.Item) + " tied to a finding"
}

// fewerAlike takes sets off the look-alikes of a week.
func (m *mending) fewerAlike() string {
	w, _ := m.week()
	if w == nil {
		return ""
	}
	done := ""
	for range 20 {
		var last *programme.Item
		for si := range w.Sessions {
			for i := range w.Sessions[si].Items {
				it := &w.Sessions[si].Items[i]
				if e, ok := m.by.Exercises.Find(it.Exercise); ok && e.LookAlike && it.Slot != library.SlotSwings && it.Slot != library.SlotThrow {
					last = it
				}
			}
		}
		if last == nil || !m.stillBroken() {
			break
		}
		name := m.changed(last)
		if last.Dose.Sets > 1 {
			last.Dose.Sets--
			done = "a set less of " + strings.ToLower(name)
		} else {
			m.take(last.ID)
			done = "without " + strings.ToLower(name)
		}
	}
	return done
}

// lineIn are the items of a line in a week, with their volume and that of one set.
func lineIn(w *programme.Week, like *programme.Item) (list []*programme.Item, volume, oneSet int) {
	for si := range w.Sessions {
		for i := range w.Sessions[si].Items {
			it := &w.Sessions[si].Items[i]
			if it.Slot == like.Slot && it.Exercise == like.Exercise {
				list = append(list, it)
				volume += it.Dose.Volume()
				oneSet += it.Dose.SetVolume()
			}
		}
	}
	return list, volume, oneSet
}

// waved calls do for every line of the week that stood in the last rising week too.
func (m *mending) waved(do func(list []*programme.Item, volume, before, oneSet int)) {
	w, _ := m.week()
	if w == nil {
		return
	}
	var last *programme.Week
	for bi := range m.doc.Blocks {
		for wi := range m.doc.Blocks[bi].Weeks {
			x := &m.doc.Blocks[bi].Weeks[wi]
			if x.ID == w.ID {
				bi = len(m.doc.Blocks) - 1
				break
			}
			if x.Kind == programme.Rising {
				last = x
			}
		}
	}
	if last == nil {
		return
	}
	seen := map[string]bool{}
	for si := range w.Sessions {
		for i := range w.Sessions[si].Items {
			it := &w.Sessions[si].Items[i]
			key := string(it.Slot) + it.Exercise
			if it.Slot == library.SlotRange || seen[key] {
				continue
			}
			seen[key] = true
			list, volume, oneSet := lineIn(w, it)
			if was, before, _ := lineIn(last, it); len(was) == len(list) && before > 0 {
				do(list, volume, before, oneSet)
			}
		}
	}
}

// wave brings lines to what they may rise, or must fall, by whole sets.
func (m *mending) wave() string {
	w, _ := m.week()
	if w == nil {
		return ""
	}
	var said []string
	m.waved(func(list []*programme.Item, volume, before, oneSet int) {
		low, high := 0.0, m.Facts.By.Wave.Limit(before, oneSet, list[0].Slot.Quick())
		if w.Kind == programme.Easier {
			low, high = float64(before)*(1-m.Facts.By.Wave.FallMostPercent/100), float64(before)*(1-m.Facts.By.Wave.FallLeastPercent/100)
		}
		changed := false
		for range 12 {
			_, volume, oneSet = lineIn(w, list[0])
			slices.SortStableFunc(list, func(a, b *programme.Item) int { return b.Dose.Sets - a.Dose.Sets })
			switch {
			case float64(volume) > high+1e-9 && list[0].Dose.Sets > 1:
				list[0].Dose.Sets--
			case float64(volume) < low-1e-9:
				list[len(list)-1].Dose.Sets++
			default:
				if changed {
					said = append(said, fmt.Sprintf("%s %d sets", m.changed(list[0]), setsOf(list)))
				}
				return
			}
			changed = true
		}
	})
	return strings.Join(said, ", ")
}

// waveReps takes repetitions off where sets are as few as they may be.
func (m *mending) waveReps() string {
	m.wave()
	var said []string
	w, _ := m.week()
	m.waved(func(list []*programme.Item, volume, before, oneSet int) {
		high := m.Facts.By.Wave.Limit(before, oneSet, list[0].Slot.Quick())
		if w.Kind == programme.Easier {
			high = float64(before) * (1 - m.Facts.By.Wave.FallLeastPercent/100)
		}
		changed := false
		for range 30 {
			if _, volume, _ = lineIn(w, list[0]); float64(volume) <= high+1e-9 {
				break
			}
			for _, it := range list {
				d := &it.Dose
				switch {
				case d.Unit == library.Seconds && d.Seconds > 5:
					d.Seconds -= 5
				case d.Reps > 1:
					d.Reps--
				default:
					return
				}
				changed = true
			}
		}
		if changed {
			said = append(said, m.changed(list[0])+" with fewer repetitions")
		}
	})
	return strings.Join(said, ", ")
}

func setsOf(list []*programme.Item) int {
	n := 0
	for _, it := range list {
		n += it.Dose.Sets
	}
	return n
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

// swingsOut takes the swings out of a day, for a week the last one that has some.
func (m *mending) swingsOut() string {
	s, _ := m.session()
	if w, _ := m.week(); s == nil && w != nil {
		for si := range w.Sessions {
			if slices.ContainsFunc(w.Sessions[si].Items, m.fastSwing) {
				s = &w.Sessions[si]
			}
		}
	}
	if s == nil || !slices.ContainsFunc(s.Items, m.fastSwing) {
		return ""
	}
	s.Items = slices.DeleteFunc(s.Items, m.fastSwing)
	return "no swings on " + s.Date.Words()
}

func (m *mending) fastSwing(it programme.Item) bool {
	e, ok := m.by.Exercises.Find(it.Exercise)
	return ok && e.FastSwings(it.Dose.Volume(), it.Dose.Reps, it.Dose.IntentPercent, 90) > 0
}

// club takes the nearest club that may be trained with.
func (m *mending) club() string {
	s, _, ok := m.spot()
	if !ok {
		return ""
	}
	d, by := &s.Item.Dose, m.Facts.By.Implement
	was := d.ImplementPercent
	d.ImplementPercent = min(max(was, -by.LighterPercent), by.HeavierPercent)
	if was == d.ImplementPercent {
		return ""
	}
	if g := m.file.Athlete.DriverMassG; g > 0 && d.ImplementG > 0 {
		d.ImplementG = int(unit.Round(g*(1+float64(d.ImplementPercent)/100), 0))
	}
	return fmt.Sprintf("%s with a club of %+d%%", m.changed(s.Item), d.ImplementPercent)
}

// swapDays exchanges a session with another of its week: the first that keeps all rules.
func (m *mending) swapDays() string {
	s, w := m.session()
	if s == nil {
		return ""
	}
	was := m.Judge(m.doc)
	for si := range w.Sessions {
		o := &w.Sessions[si]
		if o == s {
			continue
		}
		s.Date, o.Date = o.Date, s.Date
		slices.SortStableFunc(w.Sessions, func(a, b programme.Session) int { return a.Date.Sub(b.Date) })
		if worse(was, m.Judge(m.doc), m.result) == "" {
			return fmt.Sprintf("%s and %s change places", s.Date.Words(), o.Date.Words())
		}
		x, y := &w.Sessions[0], &w.Sessions[0]
		for i := range w.Sessions {
			switch w.Sessions[i].ID {
			case m.result.At:
				x = &w.Sessions[i]
			case o.ID:
				y = &w.Sessions[i]
			}
		}
		x.Date, y.Date = y.Date, x.Date
		slices.SortStableFunc(w.Sessions, func(a, b programme.Session) int { return a.Date.Sub(b.Date) })
		if s, w = m.session(); s == nil {
			return ""
		}
	}
	return ""
}

// legsOut takes what loads the legs hard out of the session.
func (m *mending) legsOut() string {
	s, _ := m.session()
	if s == nil {
		return ""
	}
	heavy := func(it programme.Item) bool { return it.Slot == library.SlotMain || it.Slot == library.SlotSecond }
	if !slices.ContainsFunc(s.Items, heavy) {
		return ""
	}
	s.Items = slices.DeleteFunc(s.Items, heavy)
	s.Title = title(s.Items, m.by.Exercises)
	return "no leg lift on " + s.Date.Words()
}

// put adds the best exercise of a slot to a session.
func (m *mending) put(s *programme.Session, w *programme.Week, slot library.Slot, fits func(*library.Exercise) bool) string {
	for _, a := range m.alternatives(place{s.Letter, slot}, "") {
		e, ok := m.by.Exercises.Find(a.Exercise)
		if !ok || a.Blocked != "" || e.ByHand || !fits(e) || slices.ContainsFunc(s.Items, func(it programme.Item) bool { return it.Exercise == e.ID }) {
			continue
		}
		it := m.item(e, place{s.Letter, slot}, 0, 4, m.byHand(e, Edit{}, "added"))
		it.Reason.Text = fmt.Sprintf("Put in so that %s is kept.", m.result.Rule)
		if w.Kind != programme.Rising {
			it.Dose.Sets = max(1, it.Dose.Sets/2)
		}
		s.Items = slices.Insert(s.Items, positionOf(slot, s.Items), it)
		s.Title = title(s.Items, m.by.Exercises)
		return fmt.Sprintf("%s on %s", e.Name, s.Date.Words())
	}
	return ""
}

// fastIn puts fast work into the first session of a week.
func (m *mending) fastIn() string {
	w, _ := m.week()
	if w == nil || len(w.Sessions) == 0 {
		return ""
	}
	for _, slot := range []library.Slot{library.SlotSwings, library.SlotThrow, library.SlotJump} {
		if words := m.put(&w.Sessions[0], w, slot, func(*library.Exercise) bool { return true }); words != "" {
			return words
		}
	}
	return ""
}

// rangeIn adds range lines for a joint that is short until it has its doses.
func (m *mending) rangeIn() string {
	w, _ := m.week()
	if w == nil {
		return ""
	}
	test := ""
	for _, j := range m.Facts.Restricted {
		if strings.HasPrefix(m.result.Text, j.Name) {
			test = j.Test
		}
	}
	var said []string
	for si := range w.Sessions {
		if !m.stillBroken() {
			break
		}
		if words := m.put(&w.Sessions[si], w, library.SlotRange, func(e *library.Exercise) bool { return slices.Contains(e.Targets, test) }); words != "" {
			said = append(said, words)
		}
	}
	return strings.Join(said, ", ")
}

// taperLegs takes the leg lift out of a session too near the event.
func (m *mending) taperLegs() string { return m.legsOut() }

// taperDose takes sets off the longest lines of the part of the taper that holds too much,
// and gives the shortest one back where it holds too little.
func (m *mending) taperDose() string {
	b := m.block()
	if b == nil {
		return ""
	}
	var first civil.Date
	b.EachSession(func(_ *programme.Week, s *programme.Session) {
		if s.Base > 0 && first.IsZero() {
			first = s.Date
		}
	})
	event, ok := m.Facts.PeakAfter(first)
	if first.IsZero() || !ok {
		return ""
	}
	by := m.Facts.By.Taper
	parts := [2]taperPart{{least: by.FarLeast, most: by.FarMost}, {least: by.NearLeast, most: by.NearMost}}
	b.EachSession(func(_ *programme.Week, s *programme.Session) {
		switch days := event.Date.Sub(s.Date); {
		case days <= 0 || days > by.Days:
		case days <= by.NearDays:
			parts[1].sessions = append(parts[1].sessions, s)
		default:
			parts[0].sessions = append(parts[0].sessions, s)
		}
	})
	less, more := 0, 0
	for range 80 {
		if !m.stillBroken() {
			break
		}
		it, sets := parts[0].step()
		if it == nil {
			it, sets = parts[1].step()
		}
		if it == nil {
			// Each part is within its bounds: the whole is not. The part with more room gives.
			both := taperPart{sessions: slices.Concat(parts[0].sessions, parts[1].sessions), least: by.LeastPercent, most: by.MostPercent}
			roomy := &parts[0]
			if roomy.most-roomy.cut() < parts[1].most-parts[1].cut() {
				roomy = &parts[1]
			}
			if it, sets = both.step(); sets < 0 {
				it = roomy.take()
			}
		}
		if it == nil {
			break
		}
		it.Dose.Sets += sets
		less, more = less+max(-sets, 0), more+max(sets, 0)
		m.changed(it)
	}
	switch {
	case less > 0 && more > 0:
		return fmt.Sprintf("%d sets less and %d more before the event", less, more)
	case more > 0:
		return fmt.Sprintf("%d sets more before the event", more)
	case less > 0:
		return fmt.Sprintf("%d sets less before the event", less)
	}
	return ""
}

// taperPart is some days of a taper, by how much their volume is to fall, in %.
type taperPart struct {
	sessions    []*programme.Session
	least, most float64
}

// cut is by how much the volume falls, in %.
func (p *taperPart) cut() float64 {
	volume, base := 0, 0
	for _, s := range p.sessions {
		volume, base = volume+volumeOf(s), base+s.Base
	}
	if base == 0 {
		return p.least
	}
	return 100 * (1 - float64(volume)/float64(base))
}

// step is the item of which a set is taken (-1) or given (+1) next; nil where the part is
// within its bounds, or nothing helps.
func (p *taperPart) step() (*programme.Item, int) {
	switch cut := p.cut(); {
	case cut < p.least:
		return p.take(), -1
	case cut > p.most:
		return p.shortest(), 1
	}
	return nil, 0
}

// take is the longest line that can lose a set.
func (p *taperPart) take() (longest *programme.Item) {
	p.each(func(it *programme.Item) {
		if it.Dose.Sets > 1 && (longest == nil || it.Dose.Load(it.Slot) > longest.Dose.Load(longest.Slot)) {
			longest = it
		}
	})
	return longest
}

// shortest is the line a set of which gives least back.
func (p *taperPart) shortest() (least *programme.Item) {
	p.each(func(it *programme.Item) {
		if least == nil || it.Dose.SetVolume() < least.Dose.SetVolume() {
			least = it
		}
	})
	return least
}

// each goes over the items that count.
func (p *taperPart) each(do func(*programme.Item)) {
	for _, s := range p.sessions {
		for i := range s.Items {
			if it := &s.Items[i]; it.Dose.Load(it.Slot) > 0 {
				do(it)
			}
		}
	}
}

// seasonDose takes sets off strength in a week in season, or gives some back.
func (m *mending) seasonDose() string {
	w, _ := m.week()
	if w == nil {
		return ""
	}
	n := 0
	for range 30 {
		if !m.stillBroken() {
			break
		}
		var longest *programme.Item
		for si := range w.Sessions {
			for i := range w.Sessions[si].Items {
				it := &w.Sessions[si].Items[i]
				if it.Slot.Strength() && it.Dose.Sets > 1 && (longest == nil || it.Dose.Load(it.Slot) > longest.Dose.Load(longest.Slot)) {
					longest = it
				}
			}
		}
		if longest == nil {
			break
		}
		longest.Dose.Sets--
		m.changed(longest)
		n++
	}
	if n == 0 {
		return ""
	}
	return fmt.Sprintf("%d sets of strength less that week", n)
}

// earlier moves an item to an earlier session of the week.
func (m *mending) earlier() string {
	s, _, ok := m.spot()
	if !ok {
		return ""
	}
	it := *s.Item
	for si := range s.Week.Sessions {
		o := &s.Week.Sessions[si]
		if s.Session != nil && !o.Date.Before(s.Session.Date) {
			break
		}
		if _, eve := m.Facts.EveOfPlay(o.Date); eve || slices.ContainsFunc(o.Items, func(x programme.Item) bool { return x.Exercise == it.Exercise }) {
			continue
		}
		m.take(it.ID)
		it.Edited = true
		o.Items = slices.Insert(o.Items, positionOf(it.Slot, o.Items), it)
		return fmt.Sprintf("%s on %s", m.name(it.Exercise), o.Date.Words())
	}
	return ""
}

// retestLast puts a retest on the last session day of the block.
func (m *mending) retestLast() string {
	b := m.block()
	if b == nil || len(b.Weeks) == 0 {
		return ""
	}
	w := &b.Weeks[len(b.Weeks)-1]
	if len(w.Sessions) == 0 {
		return ""
	}
	dates := make([]civil.Date, 0, len(w.Sessions))
	for i := range w.Sessions {
		dates = append(dates, w.Sessions[i].Date)
	}
	w.Retest = m.retest(w.Start, dates)
	if w.Retest == nil {
		return ""
	}
	return "a retest on " + w.Retest.Date.Words()
}

// rise lets a line that stands still have a set more in the last rising week.
func (m *mending) rise() string {
	s, _, ok := m.spot()
	if !ok || s.Session == nil {
		return ""
	}
	var last *programme.Item
	for wi := range s.Block.Weeks {
		if s.Block.Weeks[wi].Kind != programme.Rising {
			continue
		}
		for si := range s.Block.Weeks[wi].Sessions {
			o := &s.Block.Weeks[wi].Sessions[si]
			for i := range o.Items {
				if o.Letter == s.Session.Letter && sameLine(&o.Items[i], s.Item) {
					last = &o.Items[i]
				}
			}
		}
	}
	if last == nil || last == s.Item {
		return ""
	}
	last.Dose.Sets++
	return "a set more of " + strings.ToLower(m.changed(last)) + " in the last rising week"
}
