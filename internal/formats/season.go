package formats

import (
	"fmt"
	"io"
	"strings"

	"github.com/johnfercher/maroto/v2/pkg/props"

	"dunnock/internal/core/athlete"
	"dunnock/internal/core/civil"
	"dunnock/internal/core/plan"
	"dunnock/internal/core/season"
)

// SeasonSheet is a season as it goes on paper.
type SeasonSheet struct {
	Golfer string
	On     civil.Date // the day it is dated
	Season *season.Season
	Blocks []plan.Pencilled
	Events []athlete.Competition
	Away   []athlete.Away
	Marks  []athlete.Mark
}

// WriteSeason writes a season as a table of its blocks, with what it leads up to and what
// lies between: PDF, real text.
func WriteSeason(w io.Writer, s *SeasonSheet, paper string) error {
	size, ok := Papers[paper]
	if !ok {
		return fmt.Errorf("no paper %q", paper)
	}
	pg, err := newPage(size, 12, s.On, s.Golfer+", season")
	if err != nil {
		return fmt.Errorf("season: %w", err)
	}
	pg.scale = scaleOn(size)
	pg.put(s.Golfer, bold(14), 0)
	pg.put(fmt.Sprintf("Season, %s to %s", s.Season.Start.Words(), s.Season.End.Words()), bold(11), 1)
	pg.rule(3)
	for i := range s.Blocks {
		b := &s.Blocks[i]
		state := ""
		switch {
		case b.Begun:
			state = ", running"
		case b.Locked:
			state = ", set by the coach"
		}
		pg.put(fmt.Sprintf("%s to %s: %s%s", b.Start.Words(), b.End.Words(), b.Words(), state), bold(10), 2.5)
		pg.put(phaseWords(b.Phase)+". "+emphasisWords(b), plainText, 0.5)
		if !b.Begun && len(b.Sessions) > 0 {
			var days []string
			for _, s := range b.Sessions {
				days = append(days, string(s.Letter)+" "+strings.ToLower(s.Title))
			}
			pg.put("A week: "+strings.Join(days, "; ")+".", small, 0.5)
		}
		if !b.Retest.IsZero() {
			pg.put("Retest: "+b.Retest.Words()+".", small, 0.5)
		}
	}
	s.list(pg, "Competitions", len(s.Events), func(i int) string {
		c := &s.Events[i]
		how := "played through"
		if c.Peak {
			how = "peaked for"
		}
		if c.Main {
			how += ", the main one"
		}
		return dayOrSpan(c.Date, c.End()) + ": " + c.Name + ", " + how
	})
	s.list(pg, "Away", len(s.Away), func(i int) string {
		a := &s.Away[i]
		words := dayOrSpan(a.From, a.To)
		if a.Trains {
			words += ", trains there"
		}
		return words
	})
	s.list(pg, "Also", len(s.Marks), func(i int) string {
		m := &s.Marks[i]
		words := m.Date.Words() + ": " + m.Kind
		if m.Minutes > 0 {
			words += fmt.Sprintf(", %d min", m.Minutes)
		}
		return strings.TrimSuffix(words+", "+m.Text, ", ")
	})
	s.list(pg, "Assumed", len(s.Season.Notes), func(i int) string { return s.Season.Notes[i] })
	return pg.write(w, "Blocks behind the next one are pencilled: they are exact after their retest.")
}

func (s *SeasonSheet) list(pg *page, title string, n int, line func(int) string) {
	if n == 0 {
		return
	}
	pg.rule(3)
	pg.put(title, bold(10), 1)
	for i := range n {
		pg.put(line(i), props.Text{Size: 9, VerticalPadding: 0.4}, 0.5)
	}
}

func emphasisWords(b *plan.Pencilled) string {
	var parts []string
	if len(b.Leads) > 0 {
		parts = append(parts, "Leads: "+strings.Join(b.Leads, " and "))
	}
	if len(b.Builds) > 0 {
		parts = append(parts, "built: "+strings.Join(b.Builds, ", "))
	}
	if len(parts) == 0 {
		return b.Why
	}
	return strings.Join(parts, "; ") + "."
}

func dayOrSpan(from, to civil.Date) string {
	if from == to {
		return from.Words()
	}
	return from.Words() + " to " + to.Words()
}

// phaseWords begins a sentence with a part of the year.
func phaseWords(p season.Phase) string {
	words := strings.ReplaceAll(string(p), "-", " ")
	return strings.ToUpper(words[:min(1, len(words))]) + words[min(1, len(words)):]
}
