package programme

import "dunnock/internal/core/civil"

// Week returns the week with an id, or the one the session or home day with it lies in,
// and its block; nil where there is none.
func (p *Programme) Week(id ID) (*Block, *Week) {
	for bi := range p.Blocks {
		b := &p.Blocks[bi]
		for wi := range b.Weeks {
			w := &b.Weeks[wi]
			if w.ID == id {
				return b, w
			}
			for si := range w.Sessions {
				if w.Sessions[si].ID == id {
					return b, w
				}
			}
			for hi := range w.Home {
				if w.Home[hi].ID == id {
					return b, w
				}
			}
		}
	}
	return nil, nil
}

// WeekOn returns the week a day lies in, and its block; nil where there is none.
func (p *Programme) WeekOn(day civil.Date) (*Block, *Week) {
	for bi := range p.Blocks {
		for wi := range p.Blocks[bi].Weeks {
			w := &p.Blocks[bi].Weeks[wi]
			if !day.Before(w.Start) && day.Before(w.Start.Add(7)) {
				return &p.Blocks[bi], w
			}
		}
	}
	return nil, nil
}

// Items returns the list of items of the session or home day with an id; nil where there
// is none.
func (p *Programme) Items(id ID) *[]Item {
	_, w := p.Week(id)
	if w == nil {
		return nil
	}
	for si := range w.Sessions {
		if w.Sessions[si].ID == id {
			return &w.Sessions[si].Items
		}
	}
	for hi := range w.Home {
		if w.Home[hi].ID == id {
			return &w.Home[hi].Items
		}
	}
	return nil
}

// Locked returns the ids of the parts that are locked, or lie in one that is.
func (p *Programme) Locked() map[ID]bool {
	out := map[ID]bool{}
	put := func(id ID, locked bool) bool {
		if locked {
			out[id] = true
		}
		return locked
	}
	for bi := range p.Blocks {
		for wi := range p.Blocks[bi].Weeks {
			w := &p.Blocks[bi].Weeks[wi]
			all := put(w.ID, w.Locked)
			for si := range w.Sessions {
				s := &w.Sessions[si]
				whole := put(s.ID, all || s.Locked)
				for ii := range s.Items {
					put(s.Items[ii].ID, whole || s.Items[ii].Locked)
				}
			}
			for hi := range w.Home {
				h := &w.Home[hi]
				put(h.ID, all)
				for ii := range h.Items {
					put(h.Items[ii].ID, all || h.Items[ii].Locked)
				}
			}
		}
	}
	return out
}
