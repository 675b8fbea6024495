package warmup

import (
	"cmp"
	"fmt"
	"slices"
	"strings"
)

// Member is a golfer of a group.
type Member struct {
	Name string
	*Person
}

// shareOfGroup of a group must be short in a joint for the group to work it more.
const shareOfGroup = 3

// Together is the person a group's warm-up is built for: as young, as old and as new to
// it as any of them, the tallest with the longest driver, what a third of them are short
// of. Limits stay with those who have them; see Instead.
func Together(members []Member) *Person {
	out := &Person{Child: true}
	type joint struct {
		r Restricted
		n int
	}
	short := map[string]*joint{}
	for i, m := range members {
		out.Child = out.Child && m.Child
		out.Junior, out.Senior, out.Novice = out.Junior || m.Junior, out.Senior || m.Senior, out.Novice || m.Novice
		out.OtherSide = out.OtherSide || m.OtherSide
		out.HeightM = max(out.HeightM, m.height())
		if i == 0 || m.Own.LengthM > out.Own.LengthM {
			out.Own = m.Own
		}
		for _, r := range m.Restricted {
			k := r.Test + string(r.Side)
			if short[k] == nil {
				short[k] = &joint{r: Restricted{Test: r.Test, Side: r.Side}}
			}
			short[k].n++
		}
	}
	all := []*joint{}
	for _, j := range short {
		if shareOfGroup*j.n >= len(members) {
			j.r.For = fmt.Sprintf("%d of %d who are short here", j.n, len(members))
			all = append(all, j)
		}
	}
	slices.SortFunc(all, func(a, b *joint) int {
		return cmp.Or(cmp.Compare(b.n, a.n), cmp.Compare(a.r.Test, b.r.Test), cmp.Compare(a.r.Side, b.r.Side))
	})
	for _, j := range all {
		out.Restricted = append(out.Restricted, j.r)
	}
	return out
}

// Instead says for each golfer of a group what of the group's warm-up is left out or
// done otherwise because of a limit, by name; one under a red flag takes no part.
func Instead(members []Member, w *WarmUp) []string {
	var out []string
	for _, m := range members {
		if m.RedFlag != "" {
			out = append(out, m.Name+": takes no part. "+m.RedFlag)
			continue
		}
		j := newJudge(m.Person, w)
		var march, leave []string
		for i := range w.Items {
			it := &w.Items[i]
			if j.forbidden(it) == nil {
				continue
			}
			list := &leave
			if it.Contacts > 0 {
				list = &march
			}
			if name := lower(it.Name); !slices.Contains(*list, name) {
				*list = append(*list, name)
			}
		}
		var parts []string
		if len(march) > 0 {
			parts = append(parts, "march instead of "+join(march))
		}
		if len(leave) > 0 {
			parts = append(parts, "leave out "+join(leave))
		}
		if len(parts) > 0 {
			out = append(out, m.Name+": "+strings.Join(parts, "; ")+".")
		}
	}
	return out
}

// Group are golfers who warm up together in one line, and the person they are together.
type Group struct {
	members []Member
	person  *Person
}

// GroupOf puts golfers in line. It returns a *Refusal where nobody of them may train.
func GroupOf(members []Member) (*Group, error) {
	able := slices.DeleteFunc(slices.Clone(members), func(m Member) bool { return m.RedFlag != "" })
	if len(able) == 0 {
		return nil, &Refusal{"Nobody of this group may train: see their red flags."}
	}
	return &Group{members, Together(able)}, nil
}

// Build makes one warm-up for the group, and says who does what otherwise.
func (g *Group) Build(r Request) (*WarmUp, error) {
	r.Group = len(g.members)
	return g.instead(Build(g.person, r))
}

// Edited judges items a coach has put together for the group; see the function of the
// same name.
func (g *Group) Edited(r Request, items []Item) (*WarmUp, error) {
	r.Group = len(g.members)
	return g.instead(Edited(g.person, r, items))
}

// Mend applies a rule's fix to the group's warm-up.
func (g *Group) Mend(w *WarmUp, ruleID string) (*WarmUp, error) {
	w.Notes = []string{}
	return g.instead(Mend(g.person, w, ruleID))
}

// Alternatives are what may stand in a phase of the group's warm-up.
func (g *Group) Alternatives(w *WarmUp, phase Phase) []Item { return Alternatives(g.person, w, phase) }

func (g *Group) instead(w *WarmUp, err error) (*WarmUp, error) {
	if err != nil {
		return nil, err
	}
	w.Notes = append(w.Notes, Instead(g.members, w)...)
	return w, nil
}
