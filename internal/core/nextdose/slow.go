package nextdose

import (
	"math"
	"slices"

	"dunnock/internal/core/library"
	"dunnock/internal/core/plan"
	"dunnock/internal/core/programme"
	"dunnock/internal/core/unit"
)

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
