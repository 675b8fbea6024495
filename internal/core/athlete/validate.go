package athlete

import (
	"fmt"
	"slices"
	"strings"

	"dunnock/internal/core/civil"
	"dunnock/internal/core/measure"
)

// A Problem is what is wrong with one part of a File.
type Problem struct{ Path, Text string }

func (p Problem) Error() string { return p.Path + ": " + p.Text }

// Validate returns everything that is wrong with a file; nothing when it may be
// computed with.
func (f *File) Validate() []Problem {
	var out []Problem
	bad := func(path, format string, args ...any) {
		out = append(out, Problem{path, fmt.Sprintf(format, args...)})
	}
	if f.Format != Format {
		bad("format", "%q is not %q", f.Format, Format)
	}
	if f.AsOf.IsZero() {
		bad("asOf", "the day the file speaks of is missing")
	}
	if f.Units.Speed != "mph" && f.Units.Speed != "m/s" {
		bad("units.speed", "use mph or m/s")
	}
	out = append(out, f.Athlete.Validate(f.AsOf)...)
	out = append(out, validateFacts(f)...)
	if f.Battery != nil {
		for _, p := range f.Battery.Validate() {
			bad("battery."+p.Path, "%s", p.Text)
		}
	}
	tests := f.Tests()
	seen := map[civil.Date]bool{}
	for i, s := range f.Screens {
		path := fmt.Sprintf("screens[%d]", i)
		if s.Date.IsZero() || seen[s.Date] {
			bad(path+".date", "each screen needs a date of its own")
		}
		seen[s.Date] = true
		if err := s.Check(); err != "" {
			bad(path, "%s", err)
		}
		cells := map[string]bool{}
		for j, t := range s.Trials {
			if err := t.Check(tests); err != "" {
				bad(fmt.Sprintf("%s.trials[%d]", path, j), "%s", err)
			} else if cells[t.Key()] {
				bad(fmt.Sprintf("%s.trials[%d]", path, j), "the same trial stands twice")
			}
			cells[t.Key()] = true
		}
	}
	return out
}

// Validate returns what is wrong with a profile, as of a day.
func (p Profile) Validate(asOf civil.Date) []Problem {
	var out []Problem
	bad := func(path, text string) { out = append(out, Problem{"athlete." + path, text}) }
	if strings.TrimSpace(p.Name) == "" || len(p.Name) > 120 {
		bad("name", "a name of 1 to 120 letters is needed")
	}
	if age := p.BirthDate.YearsOn(asOf); p.BirthDate.IsZero() || p.BirthDate.After(asOf) || age > 110 {
		bad("birthDate", "a birth date in the last 110 years is needed")
	} else if age < 5 {
		bad("birthDate", "a golfer is at least 5 years old")
	}
	if !slices.Contains([]string{"", Male, Female}, p.Sex) {
		bad("sex", "use male, female, or leave it out")
	}
	if p.PlayingSide != RightSided && p.PlayingSide != LeftSided {
		bad("playingSide", "use right or left")
	}
	if p.TrainingMonths < 0 || p.TrainingMonths > 900 {
		bad("trainingMonths", "use 0 to 900 months")
	}
	if p.GoalSpeed != 0 && (p.GoalSpeed < 10 || p.GoalSpeed > 75) {
		bad("goalSpeed", "a club speed lies between 10 and 75 m/s (22 and 168 mph)")
	}
	if p.DriverMassG != 0 && (p.DriverMassG < 150 || p.DriverMassG > 600) {
		bad("driverMassG", "a driver weighs between 150 and 600 g")
	}
	return out
}

func validateFacts(f *File) []Problem {
	var out []Problem
	bad := func(path, format string, args ...any) {
		out = append(out, Problem{path, fmt.Sprintf(format, args...)})
	}
	for i, id := range f.Clearance.Yes {
		if !slices.ContainsFunc(questions, func(q Question) bool { return q.ID == id }) {
			bad(fmt.Sprintf("clearance.yes[%d]", i), "there is no question %q", id)
		}
	}
	if len(f.Clearance.Yes) > 0 && f.Clearance.AnsweredOn.IsZero() {
		bad("clearance.answeredOn", "say when the questions were answered")
	}
	if f.Clearance.AnsweredOn.After(f.AsOf) {
		bad("clearance.answeredOn", "%s is in the future", f.Clearance.AnsweredOn)
	}
	if f.Clearance.InjuredOn.After(f.AsOf) {
		bad("clearance.injuredOn", "%s is in the future", f.Clearance.InjuredOn)
	}
	if c := f.Clearance.Cleared; c != nil && (c.On.IsZero() || c.On.After(f.AsOf)) {
		bad("clearance.cleared.on", "say when it was cleared, today at the latest")
	}
	if f.Consent != nil && (f.Consent.On.IsZero() || f.Consent.On.After(f.AsOf)) {
		bad("consent.on", "say when consent was given, today at the latest")
	}
	for i, l := range f.Limits {
		path := fmt.Sprintf("limits[%d]", i)
		if !measure.KnownRegion(l.Region) {
			bad(path+".region", "%q is not a region", l.Region)
		}
		if !slices.Contains(LimitKinds(), l.Kind) {
			bad(path+".kind", "%q is not a kind of limit", l.Kind)
		}
		if l.Kind == LoadCap && l.CapKg <= 0 {
			bad(path+".capKg", "a load cap needs kilograms")
		}
		if strings.TrimSpace(l.SetBy) == "" {
			bad(path+".setBy", "say who set the limit")
		}
	}
	for i, d := range f.Training.Days {
		if _, ok := Weekday(d); !ok || slices.Index(f.Training.Days, d) != i {
			bad(fmt.Sprintf("training.days[%d]", i), "use each of mon, tue, wed, thu, fri, sat, sun once at most")
		}
	}
	if m := f.Training.Minutes; m != 0 && (m < 15 || m > 150) {
		bad("training.minutes", "a session has 15 to 150 minutes")
	}
	if s := f.OtherSideShare; s != nil && (*s < 0 || *s > 100) {
		bad("otherSideShare", "a share lies between 0 and 100")
	}
	seen := map[string]bool{}
	for i, c := range f.Competitions {
		key := c.Date.String() + c.Name
		if c.Date.IsZero() || strings.TrimSpace(c.Name) == "" || seen[key] {
			bad(fmt.Sprintf("competitions[%d]", i), "each competition needs a date and a name, once")
		}
		seen[key] = true
	}
	return out
}

// ValidateFacts returns what is wrong with everything but the screens.
func (f *File) ValidateFacts() []Problem {
	return append(f.Athlete.Validate(f.AsOf), validateFacts(f)...)
}

// Check returns what is wrong with the circumstances of a screen, or "".
func (c Circumstances) Check() string {
	switch {
	case c.Intent != "" && c.Intent != FullIntent && c.Intent != HeldBack:
		return fmt.Sprintf("intent %q is not known: use full, held-back, or leave it out", c.Intent)
	case max(len(c.Before), len(c.ClubChange), len(c.Tester), len(c.Place), len(c.Floor)) > 500:
		return "what came before, club, tester, place and floor have at most 500 letters each"
	}
	return ""
}
