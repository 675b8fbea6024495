package plan

import (
	"fmt"
	"reflect"
	"slices"

	"dunnock/internal/core/civil"
	"dunnock/internal/core/programme"
	"dunnock/internal/core/rulebook"
)

// Redraft makes the golfer's programme anew and keeps what is locked in a draft of before: a
// week in the week of its first day, a session on its day, an item in the session of its
// day. What that breaks is mended around it as far as it can be; what cannot is said to be
// held by the lock. The old document is left as it is; what is kept keeps its ids.
func (b *Basis) Redraft(old *programme.Programme, prefix string) (*Judged, error) {
	made, err := b.Generate(prefix)
	if err != nil || len(old.Locked()) == 0 {
		return made, err
	}
	doc := made.Doc.Clone()
	k := &keeper{doc: doc, kept: old.Clone()}
	k.keep()
	p := b.planner(Brief{Minutes: minutesOf(doc)})
	for i := range doc.Blocks {
		p.reserves(&doc.Blocks[i])
		p.loads(&doc.Blocks[i])
	}
	doc.Notes = append(doc.Notes, k.lost...)
	doc.Name(prefix)
	return b.settle(b.Judge(doc), prefix), nil
}

// mostMends is how many rules are mended around locks.
const mostMends = 24

// settle mends what blocks or warns, one after the other, as far as it can be mended.
func (b *Basis) settle(j *Judged, prefix string) *Judged {
	hopeless := map[string]bool{}
	for n := range mostMends {
		at := slices.IndexFunc(j.Rules, func(r rulebook.Result) bool {
			return r.Status == rulebook.Broken && r.Severity != rulebook.Advice && !hopeless[r.Rule+string(r.At)]
		})
		if at < 0 {
			break
		}
		r := j.Rules[at]
		m, err := b.Mend(j.Doc, r.Rule, r.At, fmt.Sprintf("%s-m%d", prefix, n))
		if err != nil {
			hopeless[r.Rule+string(r.At)] = true
			continue
		}
		j = m.Judged
	}
	return j
}

// keeper puts what is locked into a new document.
type keeper struct {
	doc, kept *programme.Programme
	lost      []string
}

func (k *keeper) keep() {
	for bi := range k.kept.Blocks {
		for wi := range k.kept.Blocks[bi].Weeks {
			w := &k.kept.Blocks[bi].Weeks[wi]
			_, to := k.doc.WeekOn(w.Start)
			if to == nil || to.Locked {
				k.outside(w)
				continue
			}
			if w.Locked && to.Start == w.Start {
				number, retest := to.Number, to.Retest
				*to = *w
				to.Number = number
				if to.Retest == nil {
					to.Retest = retest
				}
				continue
			}
			k.week(w)
		}
	}
}

// outside says that what is locked in a week has no place.
func (k *keeper) outside(w *programme.Week) {
	one := programme.Programme{Blocks: []programme.Block{{Weeks: []programme.Week{*w}}}}
	if len(one.Locked()) > 0 {
		k.lost = append(k.lost, fmt.Sprintf("What is locked in the week of %s has no place: the new draft has no such week.", w.Start.Words()))
	}
}

func (k *keeper) week(w *programme.Week) {
	for si := range w.Sessions {
		s := &w.Sessions[si]
		if s.Locked || w.Locked {
			s.Locked = true
			k.session(s)
			continue
		}
		for ii := range s.Items {
			if s.Items[ii].Locked {
				k.item(s, s.Items[ii])
			}
		}
	}
	for hi := range w.Home {
		for ii := range w.Home[hi].Items {
			if it := w.Home[hi].Items[ii]; it.Locked || w.Locked {
				it.Locked = true
				k.home(w.Home[hi].Date, it)
			}
		}
	}
}

// session puts a locked session on its day: instead of what stands there, or of the week's
// session of its kind.
func (k *keeper) session(s *programme.Session) {
	_, w := k.doc.WeekOn(s.Date)
	if w == nil {
		k.lost = append(k.lost, fmt.Sprintf("The locked session of %s has no place: the new draft has no such week.", s.Date.Words()))
		return
	}
	at := slices.IndexFunc(w.Sessions, func(x programme.Session) bool { return x.Date == s.Date })
	if at < 0 {
		at = slices.IndexFunc(w.Sessions, func(x programme.Session) bool { return x.Letter == s.Letter && !x.Locked })
	}
	if at >= 0 {
		w.Sessions[at] = *s
	} else {
		w.Sessions = append(w.Sessions, *s)
	}
	byDate(w)
}

// item puts a locked item into the session of its day, or into that of its kind: in the
// place of the same exercise, of one in its slot, or where its slot belongs.
func (k *keeper) item(from *programme.Session, it programme.Item) {
	_, w := k.doc.WeekOn(from.Date)
	if w == nil || len(w.Sessions) == 0 {
		k.lost = append(k.lost, fmt.Sprintf("What is locked on %s has no place: the new draft has no session that week.", from.Date.Words()))
		return
	}
	at := slices.IndexFunc(w.Sessions, func(x programme.Session) bool { return x.Date == from.Date })
	if at < 0 {
		at = max(0, slices.IndexFunc(w.Sessions, func(x programme.Session) bool { return x.Letter == from.Letter }))
	}
	put(&w.Sessions[at].Items, it)
}

func (k *keeper) home(day civil.Date, it programme.Item) {
	for bi := range k.doc.Blocks {
		for wi := range k.doc.Blocks[bi].Weeks {
			for hi := range k.doc.Blocks[bi].Weeks[wi].Home {
				if h := &k.doc.Blocks[bi].Weeks[wi].Home[hi]; h.Date == day {
					put(&h.Items, it)
					return
				}
			}
		}
	}
	k.lost = append(k.lost, fmt.Sprintf("What is locked at home on %s has no place: nothing is done at home that day.", day.Words()))
}

func put(items *[]programme.Item, it programme.Item) {
	at := slices.IndexFunc(*items, func(x programme.Item) bool { return x.Exercise == it.Exercise && !x.Locked })
	if at < 0 {
		at = slices.IndexFunc(*items, func(x programme.Item) bool { return x.Slot == it.Slot && !x.Locked })
	}
	if at >= 0 {
		it.Paired = it.Paired && (*items)[at].Paired
		(*items)[at] = it
		return
	}
	it.Paired, it.Superset = false, false
	*items = slices.Insert(*items, positionOf(it.Slot, *items), it)
}

// lostLock is what of the locked parts of a document another has not, or has otherwise;
// empty where all are there.
func lostLock(was, now *programme.Programme) programme.ID {
	for id := range was.Locked() {
		if a, ok := was.Find(id); ok {
			b, there := now.Find(id)
			if !there || !reflect.DeepEqual(a.Item, b.Item) || a.Session != nil && (b.Session == nil || a.Session.Date != b.Session.Date) {
				return id
			}
			continue
		}
		if a, ok := was.Session(id); ok {
			b, there := now.Session(id)
			if !there || a.Date != b.Date || len(a.Items) != len(b.Items) {
				return id
			}
		}
	}
	return ""
}

// heldByLocks says of what is broken at something locked, or at what holds it, that the lock
// holds it.
func heldByLocks(doc *programme.Programme, rules []rulebook.Result) {
	locked := doc.Locked()
	if len(locked) == 0 {
		return
	}
	for i := range rules {
		if r := &rules[i]; r.Status == rulebook.Broken && r.At != "" && holds(doc, r.At, locked) {
			r.Text += " Held by your lock."
		}
	}
}

// holds reports whether a part is locked or, of a session, holds what is.
func holds(doc *programme.Programme, at programme.ID, locked map[programme.ID]bool) bool {
	if locked[at] {
		return true
	}
	s, ok := doc.Session(at)
	return ok && slices.ContainsFunc(s.Items, func(it programme.Item) bool { return locked[it.ID] })
}
