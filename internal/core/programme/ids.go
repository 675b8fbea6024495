package programme

import (
	"fmt"
	"strconv"
)

// ID names a part of a programme, within its document.
type ID string

// ids calls do for the id of every part of the document: a block before its
// weeks, a week before its sessions, a session before its items.
func (p *Programme) ids(do func(id *ID, what string)) {
	for bi := range p.Blocks {
		b := &p.Blocks[bi]
		do(&b.ID, "block")
		for wi := range b.Weeks {
			w := &b.Weeks[wi]
			do(&w.ID, "week")
			for si := range w.Sessions {
				do(&w.Sessions[si].ID, "session")
				for ii := range w.Sessions[si].Items {
					do(&w.Sessions[si].Items[ii].ID, "item")
				}
			}
			for hi := range w.Home {
				do(&w.Home[hi].ID, "home day")
				for ii := range w.Home[hi].Items {
					do(&w.Home[hi].Items[ii].ID, "item")
				}
			}
		}
	}
}

// Name gives every part without an id one: the prefix and a running number. Ids
// that are there stay, and none is given twice. Whoever makes parts at different
// times passes different prefixes, so that an id never comes back for something
// else; the same document and prefix give the same ids.
func (p *Programme) Name(prefix string) {
	taken := map[ID]bool{}
	p.ids(func(id *ID, _ string) { taken[*id] = true })
	n := 0
	p.ids(func(id *ID, _ string) {
		for *id == "" {
			n++
			if next := ID(prefix + "-" + strconv.Itoa(n)); !taken[next] {
				*id, taken[next] = next, true
			}
		}
	})
}

// Check reports a part without an id, or two parts with one.
func (p *Programme) Check() error {
	seen := map[ID]string{}
	var err error
	p.ids(func(id *ID, what string) {
		switch other, twice := seen[*id]; {
		case err != nil:
		case *id == "":
			err = fmt.Errorf("a %s has no id", what)
		case twice:
			err = fmt.Errorf("the id %s stands for two parts, a %s and another %s", *id, other, what)
		}
		seen[*id] = what
	})
	return err
}
