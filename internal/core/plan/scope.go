package plan

import (
	"fmt"
	"slices"

	"dunnock/internal/core/quality"
)

// Outside says why the golfer's school is not for them, as far as the file tells; none
// where it is. A plan is made all the same: the coach decides.
func (b *Basis) Outside() []string {
	out := []string{}
	say := func(format string, args ...any) { out = append(out, fmt.Sprintf(format, args...)) }
	s := b.school.Scope
	if b.Facts.Level < s.Level {
		say("It is for level %d and more; the golfer is at %d.", s.Level, b.Facts.Level)
	}
	if s.MostLevel > 0 && b.Facts.Level > s.MostLevel {
		say("It is for level %d and less; the golfer is at %d.", s.MostLevel, b.Facts.Level)
	}
	for _, id := range s.Needs {
		for _, t := range b.Read.Tests {
			if t.Test == id && t.Status != quality.Measured {
				say("It leans on %s, which was not tested.", t.Name)
			}
		}
	}
	if n := max(b.file.Training.Sessions, len(b.file.Training.Days)); n > 0 && n < s.LeastDays {
		say("It wants %d days a week.", s.LeastDays)
	}
	if s.NotNearSpurt && b.Facts.NearSpurt {
		say("It is not for the time around the growth spurt.")
	}
	for _, x := range b.Facts.Limits {
		if slices.Contains(s.NotLimits, x.Kind) {
			say("It is not for a limit such as this: %s.", x.Words())
		}
	}
	if s.NotSpared && slices.ContainsFunc(b.Read.Qualities, func(q quality.Standing) bool { return q.Level == quality.Spare }) {
		say("Range lies past its target: there is nothing to lengthen.")
	}
	return out
}
