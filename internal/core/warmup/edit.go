package warmup

import (
	"cmp"
	"fmt"
	"slices"

	"dunnock/internal/core/words"
)

// Edited judges items a coach has put together: each is made whole from the catalogue
// where it names a line, timed, and judged. The error says which item is impossible.
func Edited(p *Person, r Request, items []Item) (*WarmUp, error) {
	if len(items) > mostItems {
		return nil, fmt.Errorf("warmup: a warm-up holds at most %d items", mostItems)
	}
	w := &WarmUp{Title: title(p, &r), Request: r, Items: slices.Clone(items), Dropped: []string{}, Notes: []string{}}
	seen := map[string]bool{}
	for i := range w.Items {
		it := &w.Items[i]
		if text := it.problem(); text != "" {
			return nil, fmt.Errorf("warmup: item %d, %s", i+1, text)
		}
		if it.ID == "" || seen[it.ID] {
			it.ID = fmt.Sprintf("e%d", i+1)
			for n := i; seen[it.ID]; n++ {
				it.ID = fmt.Sprintf("e%d-%d", i+1, n)
			}
		}
		seen[it.ID] = true
	}
	b := &builder{p: p, r: r, out: w, used: map[string]bool{}}
	w = finish(p, w)
	b.out = w
	b.clockOnly()
	b.together()
	return w, nil
}

// clockOnly sets the times of a tee time and adds nothing.
func (b *builder) clockOnly() {
	wait := b.r.Wait
	b.r.Wait = 0
	b.tee()
	b.r.Wait = wait
}

const mostItems = 120

// problem says what is impossible about an item.
func (it *Item) problem() string {
	if text := words.Name(it.Name, 120); text != "" {
		return "the name " + text
	}
	if !slices.Contains(Phases(), it.Phase) {
		return fmt.Sprintf("%q is no phase", it.Phase)
	}
	if _, ok := FindLine(it.Line); it.Line != "" && !ok {
		return fmt.Sprintf("%q is no line of a warm-up", it.Line)
	}
	if _, ok := sideWords[it.Side]; !ok && it.Side != "" {
		return fmt.Sprintf("%q is no side", it.Side)
	}
	for _, x := range []struct {
		name       string
		v, at, top int
	}{
		{"seconds", it.Seconds, 0, 1800}, {"repetitions", it.Repetitions, 0, 100}, {"a hold's seconds", it.HoldSeconds, 0, 300},
		{"swings", it.Swings, 0, 100}, {"intent", it.IntentPercent, 0, 100}, {"contacts", it.Contacts, 0, 100}, {"round", it.Round, 0, 10},
	} {
		if x.v < x.at || x.v > x.top {
			return fmt.Sprintf("%s: %s are %d to %d, not %d", it.Name, x.name, x.at, x.top, x.v)
		}
	}
	if p := it.ImplementPercent; p != nil && !(*p >= -90 && *p <= 900) {
		return fmt.Sprintf("%s: an implement is not %g%% heavier than a driver", it.Name, *p)
	}
	return ""
}

// Alternatives are the lines of an item's phase that may stand in its place: that the
// place, the kit and the limits allow and that are not there yet, the nearest first.
func Alternatives(p *Person, w *WarmUp, phase Phase) []Item {
	b := &builder{p: &Person{}, r: w.Request, out: &WarmUp{}, used: map[string]bool{}}
	*b.p = *p
	b.p.Limits = append(slices.Clone(p.Limits), w.Request.Readiness.Limits()...)
	for i := range w.Items {
		b.used[w.Items[i].Line] = true
	}
	each := map[Phase]int{Raise: leastRaise, Joints: jointS, Activate: activateS, Separate: separateS, Jump: jumpS, Cool: coolS}[phase]
	var out []Item
	all := b.pick(phase)
	if phase == Joints {
		slices.SortStableFunc(all, func(x, y pick) int { return cmp.Compare(x.Rank, y.Rank) })
	}
	for _, x := range all {
		it := b.item(x, each)
		it.ID, it.DoseText = x.ID, it.Dose()
		out = append(out, it)
	}
	return out
}
