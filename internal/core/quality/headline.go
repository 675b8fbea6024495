package quality

import (
	"fmt"
	"math"

	"dunnock/internal/core/athlete"
)

func (c *computer) headline(r *Read) string {
	if r.Clearance.State == athlete.RedFlag {
		return r.Clearance.Text
	}
	if len(c.screens) == 0 {
		return "No screen yet: nothing is known about what holds speed back. Start a screen, or bring in a file."
	}
	top := r.Qualities[0]
	switch {
	case top.Status != Ranked:
		return "Too little was measured to name what holds speed back. " + r.nextWords()
	case top.Need <= 0 && !c.school.StrengthLeads, top.Need <= 0 && r.topNeed() <= 0:
		return "Nothing measured lies below its target: keep what there is, and look at skill, or at what was not measured."
	}
	return fmt.Sprintf("%s holds club speed back most. %s %s", upper(top.Name), top.Sentence, top.Why)
}

func (r *Read) topNeed() float64 {
	m := math.Inf(-1)
	for _, q := range r.Qualities {
		if q.Status == Ranked {
			m = math.Max(m, q.Need)
		}
	}
	return m
}

func (r *Read) nextWords() string {
	if len(r.Next) == 0 {
		return ""
	}
	return "Test next: " + r.Next[0].Sentence
}
