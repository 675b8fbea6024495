// Package change says what makes one programme document of another: the parts that came,
// went, moved or became different, each with what it was and what it is. A change is what a
// step of undo stores; it can be made and taken back on a document that others have gone on
// with, as long as nobody touched the same parts since, and says where they did.
//
// A part is what has an id, and the head of the document, whose id is empty. What a part
// holds of its own is one value: two changes of one item clash whatever of it they change.
// The order of what lies in a part is merged: two items that come into one session do not
// clash. What a document says it was judged by belongs to no change.
package change

import (
	"bytes"
	"encoding/json"
	"errors"
	"fmt"
	"slices"

	"dunnock/internal/core/programme"
)

// What a part is.
const (
	head    = "head"
	block   = "block"
	week    = "week"
	session = "session"
	homeDay = "home day"
	item    = "item"
)

// Part is a part as it is before or after a change: where it lies, what it is of its own,
// and what lies in it, in order.
type Part struct {
	In    programme.ID    `json:"in,omitempty"`
	Own   json.RawMessage `json:"own"`
	Holds []programme.ID  `json:"holds,omitempty"`
}

// One is what happened to a part. Before is nil where it came, After where it went.
type One struct {
	ID     programme.ID `json:"id"`
	What   string       `json:"what"`
	Before *Part        `json:"before,omitempty"`
	After  *Part        `json:"after,omitempty"`
}

// touched reports whether the part itself came, went, moved or became different: not only
// what lies in it.
func (o *One) touched() bool {
	return o.Before == nil || o.After == nil || o.Before.In != o.After.In || !same(o.Before.Own, o.After.Own)
}

// Change is what happened to each part, in the order of the document.
type Change []One

// Touched returns the ids of the parts that came, went, moved or became different.
func (c Change) Touched() []programme.ID {
	out := []programme.ID{}
	for i := range c {
		if c[i].touched() {
			out = append(out, c[i].ID)
		}
	}
	return out
}

// Inverse returns the change that takes it back.
func (c Change) Inverse() Change {
	out := make(Change, len(c))
	for i, o := range c {
		out[i] = One{ID: o.ID, What: o.What, Before: o.After, After: o.Before}
	}
	return out
}

// A Clash is a part that somebody changed meanwhile.
type Clash struct {
	ID  programme.ID
	Why string
}

func (e *Clash) Error() string { return e.Why }

// node is a part of a document that is taken apart.
type node struct {
	what string
	part Part
}

type parts struct {
	by    map[programme.ID]*node
	order []programme.ID
}

// Between returns what makes the second document of the first. Both have ids throughout
// (programme.Check).
func Between(from, to *programme.Programme) Change {
	a, b := apart(from), apart(to)
	var out Change
	for _, id := range b.order {
		now := b.by[id]
		was, ok := a.by[id]
		switch {
		case !ok:
			out = append(out, One{ID: id, What: now.what, After: &now.part})
		case was.part.In != now.part.In || !bytes.Equal(was.part.Own, now.part.Own) || !slices.Equal(was.part.Holds, now.part.Holds):
			out = append(out, One{ID: id, What: now.what, Before: &was.part, After: &now.part})
		}
	}
	for _, id := range a.order {
		if _, ok := b.by[id]; !ok {
			was := a.by[id]
			out = append(out, One{ID: id, What: was.what, Before: &was.part})
		}
	}
	return out
}

// Apply returns a copy of a document with the change made. The error is a *Clash, or
// several joined, where a part is no longer what it was before the change.
func (c Change) Apply(doc *programme.Programme) (*programme.Programme, error) {
	now := apart(doc)
	var clashes []error
	clash := func(o *One, format string, args ...any) {
		clashes = append(clashes, &Clash{o.ID, fmt.Sprintf(format, args...)})
	}
	left := map[programme.ID]bool{} // what the change takes out of where it lies
	for i := range c {
		if o := &c[i]; o.Before != nil && (o.After == nil || o.After.In != o.Before.In) {
			left[o.ID] = true
		}
	}
	for i := range c {
		o := &c[i]
		have, there := now.by[o.ID]
		switch {
		case o.Before == nil && there:
			clash(o, "the %s is there already", o.What)
		case o.Before == nil:
			now.by[o.ID] = &node{o.What, *o.After}
		case !there:
			clash(o, "the %s is gone", o.What)
		case o.touched() && !same(have.part.Own, o.Before.Own):
			clash(o, "the %s was changed", o.What)
		case o.touched() && have.part.In != o.Before.In:
			clash(o, "the %s was moved", o.What)
		case o.After == nil:
			if slices.ContainsFunc(have.part.Holds, func(id programme.ID) bool { return !left[id] }) {
				clash(o, "something was put into the %s", o.What)
				continue
			}
			delete(now.by, o.ID)
		default:
			holds, ok := merge(o.Before.Holds, o.After.Holds, have.part.Holds)
			if !ok {
				clash(o, "what lies in the %s was put in another order", o.What)
				continue
			}
			next := Part{In: o.After.In, Own: o.After.Own, Holds: holds}
			if !o.touched() {
				next.In, next.Own = have.part.In, have.part.Own
			}
			have.part = next
		}
	}
	if len(clashes) > 0 {
		return nil, errors.Join(clashes...)
	}
	return now.together(doc)
}

// merge returns a list somebody may have gone on with, changed as one list became another;
// false where both put what they share in another order.
func merge(from, to, now []programme.ID) ([]programme.ID, bool) {
	if slices.Equal(from, now) {
		return slices.Clone(to), true
	}
	both := func(list, other []programme.ID) []programme.ID {
		return slices.DeleteFunc(slices.Clone(list), func(id programme.ID) bool { return !slices.Contains(other, id) })
	}
	out := slices.DeleteFunc(slices.Clone(now), func(id programme.ID) bool {
		return slices.Contains(from, id) && !slices.Contains(to, id)
	})
	// What all three share takes the places it has, in the order it is meant to have.
	was, want := both(both(from, to), now), both(both(to, from), now)
	if !slices.Equal(was, want) {
		if !slices.Equal(was, both(both(now, from), to)) {
			return nil, false
		}
		n := 0
		for i, id := range out {
			if slices.Contains(want, id) {
				out[i] = want[n]
				n++
			}
		}
	}
	for i, id := range to {
		if slices.Contains(from, id) || slices.Contains(out, id) {
			continue
		}
		at := 0
		for k := i - 1; k >= 0; k-- {
			if p := slices.Index(out, to[k]); p >= 0 {
				at = p + 1
				break
			}
		}
		out = slices.Insert(out, at, id)
	}
	return out, true
}

// same reports whether two values are alike, however they were written.
func same(a, b json.RawMessage) bool {
	if bytes.Equal(a, b) {
		return true
	}
	var x, y bytes.Buffer
	if json.Compact(&x, a) != nil || json.Compact(&y, b) != nil {
		return false
	}
	return bytes.Equal(x.Bytes(), y.Bytes())
}

func raw(v any) json.RawMessage {
	b, err := json.Marshal(v)
	if err != nil {
		panic("change: a part of a programme is not JSON: " + err.Error()) // no part holds what is not
	}
	return b
}

// apart takes a document apart.
func apart(p *programme.Programme) *parts {
	out := &parts{by: map[programme.ID]*node{}}
	put := func(id programme.ID, what string, in programme.ID, own any) *node {
		n := &node{what, Part{In: in, Own: raw(own)}}
		out.by[id] = n
		out.order = append(out.order, id)
		return n
	}
	h := p.Head
	h.LibraryVersion, h.RulebookVersion = "", ""
	top := put("", head, "", h)
	items := func(in *node, id programme.ID, list []programme.Item) {
		for _, it := range list {
			in.part.Holds = append(in.part.Holds, it.ID)
			put(it.ID, item, id, it)
		}
	}
	for _, b := range p.Blocks {
		top.part.Holds = append(top.part.Holds, b.ID)
		own := b
		own.Weeks = nil
		bn := put(b.ID, block, "", own)
		for _, w := range b.Weeks {
			bn.part.Holds = append(bn.part.Holds, w.ID)
			own := w
			own.Sessions, own.Home = nil, nil
			wn := put(w.ID, week, b.ID, own)
			for _, s := range w.Sessions {
				wn.part.Holds = append(wn.part.Holds, s.ID)
				own := s
				own.Items = nil
				items(put(s.ID, session, w.ID, own), s.ID, s.Items)
			}
			for _, d := range w.Home {
				wn.part.Holds = append(wn.part.Holds, d.ID)
				own := d
				own.Items = nil
				items(put(d.ID, homeDay, w.ID, own), d.ID, d.Items)
			}
		}
	}
	return out
}

// together makes a document of its parts again; what it says it was judged by is the given
// one's.
func (p *parts) together(from *programme.Programme) (*programme.Programme, error) {
	out := &programme.Programme{}
	read := func(id programme.ID, what string, into any) (*node, error) {
		n, ok := p.by[id]
		if !ok || n.what != what {
			return nil, &Clash{id, "the " + what + " is gone"}
		}
		delete(p.by, id)
		return n, json.Unmarshal(n.part.Own, into)
	}
	top, err := read("", head, &out.Head)
	if err != nil {
		return nil, err
	}
	out.LibraryVersion, out.RulebookVersion = from.LibraryVersion, from.RulebookVersion
	items := func(ids []programme.ID) ([]programme.Item, error) {
		list := make([]programme.Item, len(ids))
		for i, id := range ids {
			if _, err := read(id, item, &list[i]); err != nil {
				return nil, err
			}
		}
		return list, nil
	}
	for _, id := range top.part.Holds {
		var b programme.Block
		bn, err := read(id, block, &b)
		if err != nil {
			return nil, err
		}
		for _, id := range bn.part.Holds {
			var w programme.Week
			wn, err := read(id, week, &w)
			if err != nil {
				return nil, err
			}
			w.Sessions, w.Home = []programme.Session{}, []programme.HomeDay{}
			for _, id := range wn.part.Holds {
				if n := p.by[id]; n != nil && n.what == homeDay {
					var d programme.HomeDay
					if _, err := read(id, homeDay, &d); err != nil {
						return nil, err
					}
					if d.Items, err = items(n.part.Holds); err != nil {
						return nil, err
					}
					w.Home = append(w.Home, d)
					continue
				}
				var s programme.Session
				sn, err := read(id, session, &s)
				if err != nil {
					return nil, err
				}
				if s.Items, err = items(sn.part.Holds); err != nil {
					return nil, err
				}
				w.Sessions = append(w.Sessions, s)
			}
			b.Weeks = append(b.Weeks, w)
		}
		out.Blocks = append(out.Blocks, b)
	}
	for id, n := range p.by {
		return nil, &Clash{id, "what held the " + n.what + " is gone"}
	}
	return out, nil
}
