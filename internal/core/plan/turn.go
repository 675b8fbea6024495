package plan

import (
	"fmt"
	"slices"

	"dunnock/internal/core/programme"
	"dunnock/internal/core/quality"
	"dunnock/internal/core/review"
)

// turn is what a retest means for the next block, by quality.
type turn struct {
	rung  map[string]bool   // its exercises go a rung up though it leads
	upper map[string]bool   // filled toward its upper end
	swap  map[string]string // the exercise that gives way
	notes []string
}

// mostLeads is how many qualities lead together.
const mostLeads = 2

// swapped is what an exercise loses that gives way after a retest.
const swapped = -3

// Turned returns the basis of a programme after a retest of the block before it: what leads
// on, is built or gives way is what the retest decided, where the read of today bears it out
// and nothing has led for too many blocks in a row (led: by quality, how many). docs are the
// golfer's blocks before, the last one last.
func (b *Basis) Turned(r *review.Retest, docs []*programme.Programme) *Basis {
	if r == nil || len(docs) == 0 {
		return b
	}
	out := *b
	read := *b.Read
	read.Qualities = slices.Clone(b.Read.Qualities)
	out.Read = &read
	out.turned = &turn{rung: map[string]bool{}, upper: map[string]bool{}, swap: map[string]string{}}
	find := func(id string) *quality.Standing {
		at := slices.IndexFunc(read.Qualities, func(s quality.Standing) bool { return s.ID == id })
		return &read.Qualities[at]
	}
	last := docs[len(docs)-1]
	var leads []string
	mayNot := map[string]bool{}
	for i := range r.Judged {
		j := &r.Judged[i]
		if j.Was != string(quality.Lead) && j.Was != string(quality.Build) {
			continue
		}
		say := j.Words
		s := find(j.Quality)
		switch j.Decision {
		case review.Progress:
			out.turned.rung[j.Quality] = true
		case review.UpperEnd:
			out.turned.upper[j.Quality] = true
			out.turned.swap[j.Quality] = out.mostOf(last, j.Quality)
		case review.BuildOnce, review.AskCause:
			if s.Level == quality.Keep || s.Level == quality.Lead {
				s.Level, s.Raised = quality.Build, false
			}
			mayNot[j.Quality] = true
		case review.Switch:
			mayNot[j.Quality] = true
		}
		on := slices.Contains([]review.Decision{review.Progress, review.Keep, review.UpperEnd, review.Again, review.TooLittle}, j.Decision)
		if j.Was == string(quality.Lead) && on && s.Verdict == quality.ClearlyShort && b.stage().May(j.Quality) {
			if n := ledInARow(docs, j.Quality); n >= b.inARow(j.Quality) {
				mayNot[j.Quality] = true
				say += fmt.Sprintf(" It has led %d blocks in a row: it is built now, and the next need leads.", n)
			} else {
				leads = append(leads, j.Quality)
			}
		}
		out.turned.notes = append(out.turned.notes, say)
	}
	// What led level with it and was not tested again goes on by the read of today.
	for _, id := range read.Leaders {
		if j := r.Find(id); len(leads) > 0 && len(leads) < mostLeads && !slices.Contains(leads, id) && j != nil && j.Was == string(quality.Lead) && j.Decision == review.Untested {
			leads = append(leads, id)
		}
	}
	if len(leads) == 0 {
		leads = nextLeads(&read, mayNot, b.stage().May)
	}
	for i := range read.Qualities {
		s := &read.Qualities[i]
		switch {
		case slices.Contains(leads, s.ID):
			s.Level, s.Raised, s.Outsider = quality.Lead, false, false
		case s.Level == quality.Lead && s.Verdict == quality.ClearlyShort:
			s.Level = quality.Build
		case s.Level == quality.Lead:
			s.Level = quality.Keep
		}
	}
	read.Leaders = leads
	slices.SortStableFunc(read.Qualities, func(a, b quality.Standing) int { return leading(b) - leading(a) })
	return &out
}

func leading(s quality.Standing) int {
	if s.Level == quality.Lead {
		return 1
	}
	return 0
}

// nextLeads are what leads where some may not: those that lead by the read, else the next
// need that is clearly short.
func nextLeads(r *quality.Read, mayNot map[string]bool, may func(string) bool) []string {
	out := []string{}
	for _, id := range r.Leaders {
		if !mayNot[id] {
			out = append(out, id)
		}
	}
	if len(out) > 0 || len(mayNot) == 0 {
		return out
	}
	var best *quality.Standing
	for i := range r.Qualities {
		s := &r.Qualities[i]
		if s.Status == quality.Ranked && s.Verdict == quality.ClearlyShort && !mayNot[s.ID] && may(s.ID) && s.Need > 0 && (best == nil || s.Need > best.Need) {
			best = s
		}
	}
	if best != nil {
		out = append(out, best.ID)
	}
	return out
}

// ledInARow is in how many of the last blocks in a row a quality led.
func ledInARow(docs []*programme.Programme, id string) int {
	n := 0
	for _, doc := range slices.Backward(docs) {
		if !slices.ContainsFunc(doc.Asked, func(a programme.Asked) bool { return a.Quality == id && a.Level == string(quality.Lead) }) {
			break
		}
		n++
	}
	return n
}

// mostOf is the exercise a block worked a quality with most, by sets; not the lift that is
// tested.
func (b *Basis) mostOf(doc *programme.Programme, id string) string {
	sets := map[string]int{}
	doc.EachItem(func(it *programme.Item) {
		if e, ok := b.by.Exercises.Find(it.Exercise); ok && e.Serves[id] >= 0.5 && e.ID != testedLift {
			sets[e.ID] += it.Dose.Sets
		}
	})
	best := ""
	for ex, n := range sets {
		if best == "" || n > sets[best] || n == sets[best] && ex < best {
			best = ex
		}
	}
	return best
}

// towardUpper asks the upper quarter of the range of what a retest fills toward its upper
// end; never of novices, juniors and from 60 on.
func (b *Basis) towardUpper(asked []programme.Asked) []programme.Asked {
	if b.turned == nil || b.person().Low() {
		return asked
	}
	quarter := func(low, high float64) float64 { return high - (high-low)/4 }
	for i := range asked {
		a := &asked[i]
		if !b.turned.upper[a.Quality] || a.Level != string(quality.Lead) && a.Level != string(quality.Build) {
			continue
		}
		a.Low, a.BesideLow = quarter(a.Low, a.High), quarter(a.BesideLow, a.BesideHigh)
		for k := range a.Joints {
			a.Joints[k].Low = quarter(a.Joints[k].Low, a.Joints[k].High)
		}
	}
	return asked
}
