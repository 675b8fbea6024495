package quality

import (
	"fmt"
	"strings"

	"dunnock/internal/core/athlete"
)

// headline says in plain words what holds the golfer back, or that nothing clear
// does.
func (c *computer) headline(r *Read) string {
	switch {
	case r.Clearance.State == athlete.RedFlag:
		return r.Clearance.Text
	case len(c.screens) == 0:
		return "No screen yet: nothing is known about what holds speed back. Start a screen, or bring in a file."
	}
	first := strings.Fields(c.f.Athlete.Name + " ")
	who := "the golfer"
	if len(first) > 0 {
		who = first[0]
	}
	asks := ""
	if c.school.StrengthFirst() && find(r.Qualities, MaximalStrength).Status != Ranked {
		asks = " " + c.school.Name + " asks for the lift: until it is tested, need alone sets the order."
	}
	switch len(r.Leaders) {
	case 2:
		a, b := find(r.Qualities, r.Leaders[0]), find(r.Qualities, r.Leaders[1])
		return fmt.Sprintf("%s and %s hold %s back most, and alike: %s%s%s", upper(a.Name), b.Name, who, lowerFirst(a.reason())+" ", b.reason(), asks)
	case 1:
		a := find(r.Qualities, r.Leaders[0])
		if first := r.byNeed(); first != a.ID {
			return fmt.Sprintf("%s comes first under %s: %s%s", upper(a.Name), c.school.Name, lowerFirst(a.reason()), asks)
		}
		return fmt.Sprintf("%s holds %s back most: %s%s", upper(a.Name), who, lowerFirst(a.reason()), asks)
	}
	if r.Qualities[0].Status != Ranked {
		return "Too little was measured to name what holds speed back." + r.nextWords("Test next: ")
	}
	return "Nothing measured lies clearly below target." + r.nextWords("Most likely to change that: ") + asks
}

// inHeadline is how many results the headline names of a quality.
const inHeadline = 2

// reason names the results that lie farthest below target, or says that only
// taken together they do.
func (s *Standing) reason() string {
	if len(s.short) == 0 {
		return "Taken together its tests lie clearly below target."
	}
	return sentence(s.short[:min(inHeadline, len(s.short))])
}

// byNeed is the quality of the largest need among those that are ranked.
func (r *Read) byNeed() string {
	id, need := "", 0.0
	for _, q := range r.Qualities {
		if q.Status == Ranked && q.Need > need {
			id, need = q.ID, q.Need
		}
	}
	return id
}

func lowerFirst(s string) string {
	if s == "" {
		return s
	}
	return strings.ToLower(s[:1]) + s[1:]
}

func (r *Read) nextWords(before string) string {
	if len(r.Next) == 0 {
		return ""
	}
	names := []string{}
	for _, n := range r.Next[:min(2, len(r.Next))] {
		names = append(names, n.Name)
	}
	return " " + before + strings.Join(names, " and ") + "."
}
