package quality

import (
	"fmt"
	"strings"

	"dunnock/internal/core/athlete"
	"dunnock/internal/core/measure"
)

// pain says what hurts: the regions that are limited because of it, with what is
// to be done, then what the newest screen only noted.
func (c *computer) pain(r *Read) {
	for _, p := range c.f.PainOn(c.f.AsOf) {
		r.Pain = append(r.Pain, c.standingPain(&p))
	}
	if len(c.screens) == 0 {
		return
	}
	for _, tr := range c.screens[0].Trials {
		if tr.Pain == 0 || tr.Pain >= measure.PainStop || tr.Tingling {
			continue
		}
		where := tr.Region
		if where == "" {
			where = "no region given"
		}
		r.Pain = append(r.Pain, fmt.Sprintf("Pain %d of 10 (%s) in %s: noted; stop if it rises.", tr.Pain, region(where, string(tr.Side)), c.testName(tr.Test)))
	}
}

func (c *computer) standingPain(p *athlete.Pain) string {
	where, test, days := region(p.Region, p.Side), c.testName(p.Test), c.f.AsOf.Sub(p.Since)
	switch {
	case p.Tingling:
		return fmt.Sprintf("Tingling or numbness (%s) in %s on %s: work that loads it is kept out, and only a recorded clearance ends that. Offer a referral note.",
			where, test, p.Since.Words())
	case !p.Eased.IsZero():
		return fmt.Sprintf("Pain %d of 10 (%s) when %s was done again: nothing maximal on it until %s, and one more in reserve.",
			p.Pain, where, test, p.Eased.Add(athlete.MildDays).Words())
	}
	s := fmt.Sprintf("Pain %d of 10 (%s) in %s on %s: work that loads it is kept out until the same test, or one as hard, is below %d and does not rise.",
		p.Pain, where, test, p.Since.Words(), measure.PainStop)
	switch {
	case days >= athlete.ReferralDays:
		return s + fmt.Sprintf(" It has stood for %d days: offer a referral note again.", days)
	case days >= athlete.RetestDays:
		return s + " Test it again now: built up from light, never with daily pain of 4 or more."
	}
	return s + " Offer a referral note."
}

// retests puts what pain stopped first among the tests to do, once it is due.
func (c *computer) retests(r *Read) {
	for _, p := range c.f.PainOn(c.f.AsOf) {
		if p.Tingling || !p.Eased.IsZero() || c.f.AsOf.Sub(p.Since) < athlete.RetestDays {
			continue
		}
		name := c.testName(p.Test)
		r.Next = append([]NextTest{{p.Test, name, fmt.Sprintf("%s again, built up from light: it stands between the plan and the %s.", upper(name), region(p.Region, p.Side)), 0, 0}}, r.Next...)
	}
}

func (c *computer) testName(id string) string {
	if t, ok := c.b.Find(id); ok {
		return strings.ToLower(t.Name)
	}
	return "a test that was removed"
}

// region is a region and a side as read in a sentence.
func region(id, side string) string {
	name := strings.ReplaceAll(id, "-", " ")
	if id == "wrist-hand" || id == "ankle-foot" {
		name = strings.Replace(id, "-", " or ", 1)
	}
	switch side {
	case "lead", "trail":
		name += ", " + side + " side"
	}
	return name
}
