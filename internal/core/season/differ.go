package season

import (
	"fmt"
	"slices"

	"dunnock/internal/core/civil"
)

// Changes says what of a season is other than one that was kept before, from a day on, in
// order of time: blocks that are new, longer, shorter or gone, and for what they lead up to.
func (s *Season) Changes(kept *Season, from civil.Date) []string {
	if kept == nil {
		return []string{}
	}
	was := func(start civil.Date) *Block {
		at := slices.IndexFunc(kept.Blocks, func(b Block) bool { return b.Start == start })
		if at < 0 {
			return nil
		}
		return &kept.Blocks[at]
	}
	type line struct {
		at   civil.Date
		text string
	}
	var lines []line
	say := func(at civil.Date, format string, args ...any) {
		lines = append(lines, line{at, fmt.Sprintf(format, args...)})
	}
	for i := range s.Blocks {
		b := &s.Blocks[i]
		if b.End().Before(from) {
			continue
		}
		switch old := was(b.Start); {
		case old == nil:
			say(b.Start, "%s begins on %s.", upper(b.Words()), b.Start.Words())
		case old.Words() != b.Words():
			say(b.Start, "From %s: %s, it was %s.", b.Start.Words(), b.Words(), old.Words())
		case !old.Retest.IsZero() && !b.Retest.IsZero() && old.Retest != b.Retest:
			say(b.Start, "The retest of the block from %s moves to %s.", b.Start.Words(), b.Retest.Words())
		}
	}
	for i := range kept.Blocks {
		b := &kept.Blocks[i]
		// Blocks behind which nothing begins any more are gone; those before the season's first
		// day are done.
		if b.Start.Before(from) || b.Start.Before(s.Start) || slices.ContainsFunc(s.Blocks, func(x Block) bool { return x.Start == b.Start }) {
			continue
		}
		say(b.Start, "No block begins on %s any more.", b.Start.Words())
	}
	slices.SortStableFunc(lines, func(a, b line) int { return a.at.Sub(b.at) })
	out := []string{}
	for _, l := range lines {
		out = append(out, l.text)
	}
	return out
}

var kindWords = map[Kind]string{
	LeadIn: "lead-in days", EventWeek: "the week of an event", After: "the week after an event", Bridge: "a bridge", Hold: "a hold",
	Transition: "transition", Break: "days away", Return: "the way back",
}

// Words is what a block is: "4 weeks to Winter plate", "a bridge of 3 weeks".
func (b *Block) Words() string {
	weeks := fmt.Sprintf("%d weeks", b.Weeks())
	if b.Weeks() == 1 {
		weeks = "1 week"
	}
	to := ""
	if b.Peak != nil {
		to = " to " + b.Peak.Name
	}
	if word := kindWords[b.Kind]; word != "" {
		return word + ", " + weeks + to
	}
	return "a block of " + weeks + to
}

// upper begins a sentence with a word in small letters.
func upper(s string) string {
	if s == "" {
		return s
	}
	return string(s[0]-'a'+'A') + s[1:]
}
