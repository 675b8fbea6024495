package plan

import (
	"fmt"
	"strings"
	"time"

	"dunnock/internal/core/athlete"
)

// Fact is something of a golfer's training a draft needs to know.
type Fact string

// The facts a draft takes for granted where nobody gave them.
const (
	FactDays    Fact = "days"    // weekdays that can be trained on
	FactMinutes Fact = "minutes" // a session
	FactMonths  Fact = "months"  // of regular strength training
	FactKit     Fact = "kit"
)

// Assumption is a fact that is not given, and what a draft takes it to be, in words.
type Assumption struct {
	Fact  Fact   `json:"fact"`
	Taken string `json:"taken"`
}

// assumedMinutes is how long a session is taken to be when nobody said.
const assumedMinutes = 45

// assumedDays are the weekdays, 0 Monday, that are trained on when nobody said.
var assumedDays = []int{0, 3}

// Assumptions returns what a draft for the golfer would assume, in the order it is asked for.
func Assumptions(f *athlete.File) []Assumption {
	out := []Assumption{}
	add := func(lacks bool, fact Fact, taken string) {
		if lacks {
			out = append(out, Assumption{fact, taken})
		}
	}
	t := &f.Training
	add(len(t.Days) == 0, FactDays, dayNames(assumedDays))
	add(t.Minutes == 0, FactMinutes, fmt.Sprint(assumedMinutes))
	add(f.Athlete.TrainingMonths == 0, FactMonths, "new to it")
	add(len(t.Kit) == 0, FactKit, "none")
	return out
}

// dayNames are weekdays, 0 Monday, as they are said.
func dayNames(days []int) string {
	names := make([]string, len(days))
	for i, d := range days {
		names[i] = time.Weekday((d + 1) % 7).String()
	}
	return strings.Join(names, " and ")
}
