package athlete

import (
	"fmt"
	"slices"

	"dunnock/internal/core/civil"
	"dunnock/internal/core/measure"
	"dunnock/internal/core/unit"
	"dunnock/internal/core/words"
)

// Limits of a file: the same whether it is typed or brought in.
const (
	MaxName        = 120 // letters
	MaxAlsoWritten = 20
	MaxGroups      = 12
	MaxGroup       = 40   // letters
	MaxNotes       = 4000 // letters
	MaxNote        = 500
	MaxLimits      = 30
	MaxEvents      = 60
	MaxScreens     = 2000
	maxYears       = 30 // how far ahead a date may lie
)

// longAgo is before anything a coach dates.
var longAgo = civil.MustParse("1900-01-01")

// dated says what is wrong with a date that may be left out, or "".
func dated(d, asOf civil.Date) string {
	switch {
	case d.IsZero():
		return ""
	case d.Before(longAgo):
		return d.Words() + " is before 1900"
	case !asOf.IsZero() && d.After(asOf.Add(maxYears*366)):
		return fmt.Sprintf("%s is more than %d years ahead", d.Words(), maxYears)
	}
	return ""
}

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
	if f.Format != Format && f.Format != FormatBefore {
		bad("format", "%q is neither %q nor %q", f.Format, Format, FormatBefore)
	}
	if f.AsOf.IsZero() || f.AsOf.Before(longAgo) {
		bad("asOf", "the day the file speaks of is missing")
	}
	if !slices.Contains(unit.Speeds, f.Units.Speed) {
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
	if len(f.Screens) > MaxScreens {
		bad("screens", "%d screens: at most %d", len(f.Screens), MaxScreens)
	}
	for i, s := range f.Screens {
		path := fmt.Sprintf("screens[%d]", i)
		if s.Date.IsZero() || seen[s.Date] {
			bad(path+".date", "each screen needs a date of its own")
		} else if s.Date.After(f.AsOf) || s.Date.Before(f.Athlete.BirthDate.Add(5*365)) {
			bad(path+".date", "%s is after the day of the file, or before the golfer's fifth birthday", s.Date.Words())
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
	if text := words.Name(p.Name, MaxName); text != "" {
		bad("name", "the name "+text)
	}
	if age := p.BirthDate.YearsOn(asOf); p.BirthDate.IsZero() || p.BirthDate.After(asOf) || age > 110 || !p.BirthDate.After(longAgo) {
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
	if !slices.Contains([]string{"", RightSided, LeftSided}, p.WritingHand) {
		bad("writingHand", "use right or left, or leave it out")
	}
	if len(p.AlsoWritten) > MaxAlsoWritten {
		bad("alsoWritten", fmt.Sprintf("at most %d other names are kept", MaxAlsoWritten))
	}
	for _, n := range p.AlsoWritten {
		if text := words.Name(n, MaxName); text != "" {
			bad("alsoWritten", "a name in files "+text)
		}
	}
	if len(p.Groups) > MaxGroups {
		bad("groups", fmt.Sprintf("at most %d groups", MaxGroups))
	}
	for i, g := range p.Groups {
		if text := words.Name(g, MaxGroup); text != "" {
			bad("groups", "a group's name "+text)
		} else if slices.Contains(p.Groups[:i], g) {
			bad("groups", fmt.Sprintf("the group %q is there twice", g))
		}
	}
	if text := words.Text(p.Notes, MaxNotes); text != "" {
		bad("notes", "the notes "+text)
	}
	if text := words.Text(p.GoalText, 300); text != "" {
		bad("goalText", "the goal "+text)
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
	if len(f.Clearance.Yes) > len(questions) {
		bad("clearance.yes", "more answers than questions")
	}
	for path, d := range map[string]civil.Date{"clearance.answeredOn": f.Clearance.AnsweredOn, "clearance.injuredOn": f.Clearance.InjuredOn, "startDate": f.StartDate} {
		if text := dated(d, f.AsOf); text != "" {
			bad(path, "%s", text)
		}
	}
	for i, id := range f.Clearance.No {
		if slices.Contains(f.Clearance.Yes, id) || !slices.ContainsFunc(questions, func(q Question) bool { return q.ID == id }) || slices.Index(f.Clearance.No, id) != i {
			bad(fmt.Sprintf("clearance.no[%d]", i), "there is no question %q, or it is answered twice", id)
		}
	}
	if len(f.Clearance.Yes) > 0 && f.Clearance.AnsweredOn.IsZero() {
		bad("clearance.answeredOn", "say when the questions were answered")
	}
	if f.Clearance.AnsweredOn.After(f.AsOf) {
		bad("clearance.answeredOn", "%s is in the future", f.Clearance.AnsweredOn.Words())
	}
	if f.Clearance.InjuredOn.After(f.AsOf) {
		bad("clearance.injuredOn", "%s is in the future", f.Clearance.InjuredOn.Words())
	}
	if c := f.Clearance.Cleared; c != nil {
		if c.On.IsZero() || c.On.After(f.AsOf) || c.On.Before(longAgo) {
			bad("clearance.cleared.on", "say when it was cleared, today at the latest")
		}
		if c.Role != "doctor" && c.Role != "physiotherapist" {
			bad("clearance.cleared.role", "a doctor or a physiotherapist clears")
		}
		if text := words.Text(c.Note, MaxNote); text != "" {
			bad("clearance.cleared.note", "the note %s", text)
		}
	}
	if c := f.Consent; c != nil {
		if c.On.IsZero() || c.On.After(f.AsOf) || c.On.Before(longAgo) {
			bad("consent.on", "say when consent was given, today at the latest")
		}
		if text := words.Name(c.Guardian, MaxName); text != "" {
			bad("consent.guardian", "the guardian's name %s", text)
		}
	}
	if len(f.Limits) > MaxLimits || len(f.Competitions) > MaxEvents {
		bad("limits", "at most %d limits and %d competitions", MaxLimits, MaxEvents)
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
		if !(l.CapKg >= 0 && l.CapKg <= 400) {
			bad(path+".capKg", "a load cap lies between 0 and 400 kg")
		}
		if !slices.Contains([]string{"", "lead", "trail", "both"}, l.Side) {
			bad(path+".side", "use lead, trail, both, or leave it out")
		}
		if text := words.Name(l.SetBy, 60); text != "" {
			bad(path+".setBy", "say who set the limit")
		}
		if text := words.Text(l.Note, 300); text != "" {
			bad(path+".note", "the note %s", text)
		}
		if text := dated(l.Until, f.AsOf); text != "" {
			bad(path+".until", "%s", text)
		}
	}
	for i, d := range f.Training.Days {
		if _, ok := Weekday(d); !ok || slices.Index(f.Training.Days, d) != i {
			bad(fmt.Sprintf("training.days[%d]", i), "use each of mon, tue, wed, thu, fri, sat, sun once at most")
		}
	}
	tr := f.Training
	if tr.Sessions < 0 || tr.Sessions > 4 {
		bad("training.sessions", "1 to 4 sessions a week, or 0 where it is not said")
	}
	for _, x := range []struct {
		path string
		v    float64
		most float64
	}{{"barKg", tr.BarKg, 40}, {"plateStepKg", tr.PlateStepKg, 20}, {"dumbbellStep", tr.DumbbellStep, 10}} {
		if !(x.v >= 0 && x.v <= x.most) {
			bad("training."+x.path, "lies between 0 and %g kg", x.most)
		}
	}
	if len(tr.Kit) > 40 {
		bad("training.kit", "at most 40 pieces of kit")
	}
	for i, k := range tr.Kit {
		if text := words.Name(k, 40); text != "" {
			bad(fmt.Sprintf("training.kit[%d]", i), "%s", text)
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
		path := fmt.Sprintf("competitions[%d]", i)
		if c.Date.IsZero() || seen[key] {
			bad(path, "each competition needs a date and a name, once")
		}
		if text := words.Name(c.Name, MaxName); text != "" {
			bad(path+".name", "the name %s", text)
		}
		if text := dated(c.Date, f.AsOf); text != "" {
			bad(path+".date", "%s", text)
		}
		if !c.Last.IsZero() && (c.Last.Before(c.Date) || c.Last.Sub(c.Date) >= mostEventDays) {
			bad(path+".last", "it ends on its first day or up to %d days later", mostEventDays-1)
		}
		seen[key] = true
	}
	return append(out, validateSituation(f)...)
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
	case words.Text(c.Set, 60) != "":
		return "the battery " + words.Text(c.Set, 60)
	case !c.LastLesson.IsZero() && c.LastLesson.Before(longAgo):
		return c.LastLesson.Words() + " is before 1900"
	}
	for _, s := range []string{c.Before, c.ClubChange, c.Tester, c.Place, c.Floor} {
		if text := words.Text(s, MaxNote); text != "" {
			return "what came before, club, tester, place and floor: one of them " + text
		}
	}
	return ""
}
