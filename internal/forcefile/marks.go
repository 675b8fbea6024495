package forcefile

import (
	"math"
	"strings"

	"dunnock/internal/core/force"
)

// marks finds impact, and top where a text names it, in a marker channel: the
// first sample above half of its largest value.
func (m Mapping) marks(f *File, r *force.Recording, clock force.Clock) {
	for _, col := range m.Columns {
		if col.Quantity != Impact {
			continue
		}
		for _, c := range f.Channels {
			if !strings.EqualFold(c.Name, col.Name) {
				continue
			}
			place := func(i int) *float64 {
				t := clock.StartS + float64(i)/r.RateHz
				return &t
			}
			for i := range c.Values {
				word := strings.ToLower(c.marks[i])
				switch {
				case word == "":
				case strings.Contains(word, "impact"):
					r.ImpactS = place(clock.Place(i))
				case strings.Contains(word, "top"):
					r.TopS = place(clock.Place(i))
				}
			}
			if i, ok := edge(c.Values); ok && c.marks == nil {
				r.ImpactS = place(clock.Place(i))
			}
		}
	}
}

// edge is where a pulse begins: the first sample above half of what it reaches.
func edge(y []float64) (int, bool) {
	if len(y) == 0 {
		return 0, false
	}
	rest, top := y[0], y[0]
	for _, v := range y {
		if math.Abs(v-rest) > math.Abs(top-rest) {
			top = v
		}
	}
	if top == rest || math.IsNaN(top) || math.IsNaN(rest) {
		return 0, false
	}
	for i, v := range y {
		if math.Abs(v-rest) > math.Abs(top-rest)/2 {
			return i, true
		}
	}
	return 0, false
}
