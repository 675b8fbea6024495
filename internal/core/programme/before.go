package programme

import (
	"slices"

	"dunnock/internal/core/civil"
)

// Before is what a programme knows of the one the golfer did before it.
type Before struct {
	// Last is the day each exercise was last planned for, and Lines what each kind of
	// day held last, in order.
	Last  map[string]civil.Date `json:"last"`
	Lines map[Letter][]string   `json:"lines"`
	// School is what it was planned under, and Blocks for how many blocks in a row.
	School string `json:"school,omitempty"`
	Blocks int    `json:"blocks,omitempty"`
	// Weaker is, by test, for how many blocks in a row its weaker side had more work.
	Weaker map[string]int `json:"weaker,omitempty"`
}

// Following returns what is known of a programme on the first day of the next: its
// sessions before that day. It is nil where there are none.
func (p *Programme) Following(start civil.Date) *Before {
	out := &Before{Last: map[string]civil.Date{}, Lines: map[Letter][]string{}, Weaker: map[string]int{}, School: p.School, Blocks: len(p.Blocks)}
	if p.Before != nil && p.Before.School == p.School {
		out.Blocks += p.Before.Blocks
	}
	for test := range p.Weaker {
		out.Weaker[test]++
	}
	if p.Before != nil {
		for id, day := range p.Before.Last {
			out.Last[id] = day
		}
		for test := range out.Weaker {
			out.Weaker[test] += p.Before.Weaker[test]
		}
	}
	for bi := range p.Blocks {
		for wi := range p.Blocks[bi].Weeks {
			out.take(&p.Blocks[bi].Weeks[wi], start)
		}
	}
	if len(out.Lines) == 0 {
		return nil
	}
	return out
}

// take adds what a week held before a day. Days of one kind hold what any of them held.
func (b *Before) take(w *Week, start civil.Date) {
	held := map[Letter][]string{}
	for si := range w.Sessions {
		s := &w.Sessions[si]
		if !s.Date.Before(start) {
			continue
		}
		for i := range s.Items {
			id := s.Items[i].Exercise
			if !slices.Contains(held[s.Letter], id) {
				held[s.Letter] = append(held[s.Letter], id)
			}
			if b.Last[id].Before(s.Date) {
				b.Last[id] = s.Date
			}
		}
	}
	for letter, ids := range held {
		if len(ids) >= len(b.Lines[letter]) {
			b.Lines[letter] = ids // a taper's last session holds less
		}
	}
}

// Held reports whether a kind of day held an exercise.
func (b *Before) Held(letter Letter, exercise string) bool {
	return b != nil && slices.Contains(b.Lines[letter], exercise)
}

// Knows reports whether an exercise was done within so many weeks before a day.
func (b *Before) Knows(exercise string, on civil.Date, weeks int) bool {
	if b == nil {
		return false
	}
	day, ok := b.Last[exercise]
	return ok && on.Sub(day) <= 7*weeks
}
