package plan

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"dunnock/internal/core/budget"
	"dunnock/internal/core/library"
	"dunnock/internal/core/programme"
	"dunnock/internal/core/rulebook"
)

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
func (b *Basis) Mend(doc *programme.Programme, rule string, at programme.ID, prefix string) (*Changed, error) {
	b = b.workingOf(doc)
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
		if held := lostLock(doc, m.doc); held != "" {
			no.Tried = append(no.Tried, upper(words)+": it would change what is locked.")
			continue
		}
		after := b.Judge(m.doc)
		if why := worse(before, after, before.Rules[broken]); why != "" {
			no.Tried = append(no.Tried, upper(words)+": "+why)
			continue
		}
		return &Changed{after, upper(words)}, nil
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
	"BOTH-SIDES":     {(*mending).bothSides, (*mending).evenSwings, (*mending).evenCount},
	"PUSH-PULL":      {(*mending).lessOfMore, (*mending).moreOfLess},
	"SPECIAL":        {(*mending).tie, (*mending).neighbour, (*mending).fewerAlike, (*mending).out, (*mending).alikeOut},
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

// stillBroken reports whether the rule is broken at the same part of the document as it
// stands.
func (m *mending) stillBroken() bool {
	return slices.ContainsFunc(m.Judge(m.doc).Rules, func(r rulebook.Result) bool {
		return r.Rule == m.result.Rule && r.At == m.result.At && r.Status == rulebook.Broken
	})
}
