package rulebook

import (
	"fmt"
	"maps"
	"slices"
	"strings"

	"dunnock/internal/core/civil"
	"dunnock/internal/core/library"
	"dunnock/internal/core/programme/derive"
)

// Thin is a finding that rests on one test, and why that is not enough.
type Thin struct{ Quality, Test, Why string }

// coverage asks for a test where what leads or is built rests on one alone.
func (c *checker) coverage() {
	for _, t := range c.f.Thin {
		leans := false
		for i := range c.p.Asked {
			a := &c.p.Asked[i]
			leans = leans || a.Quality == t.Quality && (a.Level == "lead" || a.Level == "build")
		}
		if leans {
			c.broken("COVERAGE", "", fmt.Sprintf("Test %s in the first session.", strings.ToLower(t.Test)), "%s", t.Why)
		}
	}
}

// novel counts the exercises of each session that are new to the golfer: not done in
// the weeks before, in this programme or the one before it. Range climbs by design and
// is not counted.
func (c *checker) novel() {
	done := map[string]civil.Date{}
	if c.p.Before != nil {
		maps.Copy(done, c.p.Before.Last)
	}
	by := c.f.By.Novel
	for bi := range c.p.Blocks {
		b := &c.p.Blocks[bi]
		judged := c.p.Before != nil || bi > 0
		for wi := range b.Weeks {
			for si := range b.Weeks[wi].Sessions {
				s := &b.Weeks[wi].Sessions[si]
				fresh := []string{}
				for ii := range s.Items {
					it := &s.Items[ii]
					last, seen := done[it.Exercise]
					if it.Slot != library.SlotRange && (!seen || s.Date.Sub(last) > 7*by.Weeks) {
						fresh = append(fresh, it.Name)
					}
				}
				for ii := range s.Items {
					done[s.Items[ii].Exercise] = s.Date
				}
				if judged && len(fresh) > by.Most {
					c.broken("NOVEL", s.Place, "Swap one for what the golfer knows, or bring it in a week later.", "%d exercises are new: %s.", len(fresh), strings.Join(fresh, ", "))
				}
			}
		}
	}
}

// unstable lets nothing wobble without a reason of rehabilitation: a limit on a region
// of the legs or the back, or the coach's note.
func (c *checker) unstable(it *derive.Item, e *library.Exercise) {
	if e.Unstable && it.Note == "" && !slices.ContainsFunc(c.f.Limits, e.Rehabilitates) {
		c.broken("UNSTABLE", it.Place, "Take the firm version, or note the reason of rehabilitation.", "%s is done on an unstable surface.", it.Name)
	}
}
