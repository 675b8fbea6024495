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
	// Weaker is, by test, for how many blocks in a row its weaker side had more work.
	Weaker map[string]int `json:"weaker,omitempty"`
}

// Following returns what is known of a programme on the first day of the next: its
// sessions before that day. It is nil where there are none.
func (p *Programme) Following(start civil.Date) *Before {
	out := &Before{Last: map[string]civil.Date{}, Lines: map[Letter][]string{}, Weaker: map[string]int{}}
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
		p.Blocks[bi].EachSession(func(_ *Week, s *Session) {
			if !s.Date.Before(start) {
				return
			}
			var held []string
			for i := range s.Items {
				held = append(held, s.Items[i].Exercise)
				if out.Last[s.Items[i].Exercise].Before(s.Date) {
					out.Last[s.Items[i].Exercise] = s.Date
				}
			}
			if len(held) >= len(out.Lines[s.Letter]) {
				out.Lines[s.Letter] = held // a taper's last session holds less
			}
		})
	}
	if len(out.Lines) == 0 {
		return nil
	}
	return out
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
