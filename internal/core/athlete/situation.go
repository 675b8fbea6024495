package athlete

import (
	"fmt"
	"slices"
	"strings"
	"time"

	"dunnock/internal/core/measure"
	"dunnock/internal/core/season"
	"dunnock/internal/core/words"
)

// Bounds of what may be said of a situation.
const (
	maxOffWeeks = 520
	maxParts    = 30 // of each kind
	maxPlateKg  = 50
	mostRounds  = 7 // a week

	mostEventDays = 10
	mostMinutes   = 600
	mostLockWeeks = 8
)

var bothSides = []string{"", "lead", "trail", "both"}

// validateSituation returns what is wrong with a golfer's situation, and with the
// kit at other places.
func validateSituation(f *File) []Problem {
	var out []Problem
	bad := func(path, format string, args ...any) {
		out = append(out, Problem{path, fmt.Sprintf(format, args...)})
	}
	if f.OffWeeks < 0 || f.OffWeeks > maxOffWeeks {
		bad("offWeeks", "training ended 0 to %d weeks ago", maxOffWeeks)
	}
	if !slices.Contains([]string{"", OffHoliday, OffWork, OffIllness, OffInjury}, f.OffWhy) {
		bad("offWhy", "use holiday, work, illness, injury, or leave it out")
	}
	if len(f.Away) > MaxEvents || len(f.AcceptedJoints) > maxParts || len(f.Pinches) > maxParts || len(f.EndedLimits) > MaxEvents {
		bad("away", "at most %d stretches away and limits ended, and %d joints", MaxEvents, maxParts)
	}
	for i, a := range f.Away {
		path := fmt.Sprintf("away[%d]", i)
		if a.From.IsZero() || a.To.Before(a.From) {
			bad(path, "away from a day to the same or a later one")
		}
		if text := dated(a.From, f.AsOf) + dated(a.To, f.AsOf); text != "" {
			bad(path, "%s", text)
		}
		if text := words.Text(a.Why, MaxNote); text != "" {
			bad(path+".why", "the reason %s", text)
		}
	}
	if len(f.Playing) > maxParts {
		bad("playing", "at most %d stretches with rounds", maxParts)
	}
	for i, p := range f.Playing {
		path := fmt.Sprintf("playing[%d]", i)
		if p.From.IsZero() || p.To.Before(p.From) {
			bad(path, "rounds are played from a day to the same or a later one")
		}
		if text := dated(p.From, f.AsOf) + dated(p.To, f.AsOf); text != "" {
			bad(path, "%s", text)
		}
		if p.Rounds < 1 || p.Rounds > mostRounds {
			bad(path+".rounds", "1 to %d rounds a week", mostRounds)
		}
	}
	if len(f.Marks) > MaxEvents || len(f.Locks) > maxParts {
		bad("marks", "at most %d days are marked, and %d blocks set", MaxEvents, maxParts)
	}
	for i, m := range f.Marks {
		path := fmt.Sprintf("marks[%d]", i)
		if text := dated(m.Date, f.AsOf); text != "" || m.Date.IsZero() {
			bad(path+".date", "a marked day has a date %s", text)
		}
		if !slices.Contains(MarkKinds, m.Kind) {
			bad(path+".kind", "use one of %s", strings.Join(MarkKinds, ", "))
		}
		if text := words.Text(m.Text, MaxName); text != "" {
			bad(path+".text", "the text %s", text)
		}
		if m.Minutes < 0 || m.Minutes > mostMinutes {
			bad(path+".minutes", "0 to %d minutes", mostMinutes)
		}
	}
	for i, l := range f.Locks {
		path := fmt.Sprintf("locks[%d]", i)
		if text := dated(l.Start, f.AsOf); text != "" || l.Start.IsZero() || l.Start != l.Start.Monday() {
			bad(path, "a block begins on a Monday %s", text)
		}
		if l.Weeks < 1 || l.Weeks > mostLockWeeks {
			bad(path, "a block is 1 to %d weeks long", mostLockWeeks)
		}
	}
	if k := f.Kept; k != nil && (len(k.Blocks) > season.MostWeeks || len(k.Notes) > maxParts) {
		bad("kept", "a season has at most %d blocks", season.MostWeeks)
	}
	if text := dated(f.SeasonEnd, f.AsOf); !f.SeasonEnd.IsZero() && text != "" {
		bad("seasonEnd", "%s", text)
	}
	for i, j := range f.AcceptedJoints {
		path := fmt.Sprintf("acceptedJoints[%d]", i)
		if !slices.Contains(Joints(), j.Joint) {
			if t, ok := measure.Shipped().Find(j.Joint); !ok || !t.Range {
				bad(path+".joint", "%q is no joint whose range is tested", j.Joint)
			}
		}
		if !slices.Contains(bothSides, j.Side) {
			bad(path+".side", "use lead, trail, both, or leave it out")
		}
		if text := words.Name(j.Why, MaxNote); text != "" {
			bad(path+".why", "say why it is accepted: the reason %s", text)
		}
	}
	for i, p := range f.Pinches {
		if p.Joint != "hip" || !slices.Contains(bothSides, p.Side) {
			bad(fmt.Sprintf("pinches[%d]", i), "a hip pinches: lead, trail, both, or side left out")
		}
	}
	if !(f.OverheadDegrees == 0 || f.OverheadDegrees >= 20 && f.OverheadDegrees <= 200) {
		bad("overheadDegrees", "an arm goes up 20 to 200 degrees; leave it out where it was not looked at")
	}
	for i, e := range f.EndedLimits {
		path := fmt.Sprintf("endedLimits[%d]", i)
		if !measure.KnownRegion(e.Region) || !slices.Contains(bothSides, e.Side) {
			bad(path, "a limit is ended for a region and a side")
		}
		if e.On.IsZero() || e.On.After(f.AsOf) || e.On.Before(longAgo) {
			bad(path+".on", "say when it was ended, today at the latest")
		}
		if text := words.Name(e.Why, MaxNote); text != "" {
			bad(path+".why", "say why the limit was ended: the reason %s", text)
		}
	}
	if len(f.ForceFindings) > maxParts {
		bad("forceFindings", "at most %d findings of recordings", maxParts)
	}
	for i, r := range f.ForceFindings {
		path := fmt.Sprintf("forceFindings[%d]", i)
		if !slices.Contains(ForceKeys(), r.Key) {
			bad(path+".key", "%q is no number of a force recording; use %s", r.Key, strings.Join(ForceKeys(), ", "))
		}
		if r.On.IsZero() || r.On.After(f.AsOf) || r.On.Before(longAgo) {
			bad(path+".on", "say when it was recorded, today at the latest")
		}
		if text := words.Name(r.Sentence, MaxNote); text != "" {
			bad(path+".sentence", "say what was found: the sentence %s", text)
		}
		if r.Weaker != "" && r.Weaker != string(measure.Lead) && r.Weaker != string(measure.Trail) {
			bad(path+".weaker", "use lead, trail, or leave it out")
		}
	}
	if c := f.ColdStart; c != nil {
		if c.On.IsZero() || c.On.After(f.AsOf) || c.On.Before(longAgo) {
			bad("coldStart.on", "say when it was, today at the latest")
		}
		if len(c.Mps) == 0 || len(c.Mps) > maxColdSwings {
			bad("coldStart.mps", "1 to %d swings", maxColdSwings)
		}
		for i, v := range c.Mps {
			if !(v >= 10 && v <= 75) {
				bad(fmt.Sprintf("coldStart.mps[%d]", i), "a club moves at 10 to 75 m/s, not at %g", v)
			}
		}
		if text := words.Text(c.Before, MaxNote); text != "" {
			bad("coldStart.before", "what came before %s", text)
		}
	}
	if len(f.Implements) > maxParts {
		bad("implements", "at most %d implements", maxParts)
	}
	seen := map[string]bool{}
	for i, x := range f.Implements {
		path := fmt.Sprintf("implements[%d]", i)
		if text := x.Validate(); text != "" {
			bad(path, "%s", text)
		}
		if text := words.Name(x.ID, 40); text != "" || seen[x.ID] {
			bad(path+".id", "an implement has an id of its own")
		}
		seen[x.ID] = true
	}
	return append(out, validatePlaces(f.Training)...)
}

const maxColdSwings = 60

// ForceKeys are the numbers of force recordings that have a window, of swings first.
func ForceKeys() []string {
	return []string{
		"lateral", "rotational", "vertical", "rate", "unweighting", "vertical-time", "rotational-time", "lateral-time",
		"lead-share-impact", "lead-share-top", "braking",
		"side-difference", "landing-difference", "landing", "braking-rate", "time-to-takeoff",
	}
}

func validatePlaces(t Training) []Problem {
	var out []Problem
	bad := func(path, format string, args ...any) {
		out = append(out, Problem{path, fmt.Sprintf(format, args...)})
	}
	for place, kit := range t.KitAt {
		path := "training.kitAt." + place
		if place != AtHome && place != AtRange {
			bad("training.kitAt", "kit is at home or at the range, not at %q", place)
		}
		if len(kit) > 40 {
			bad(path, "at most 40 pieces of kit")
		}
		for _, k := range kit {
			if text := words.Name(k, 40); text != "" {
				bad(path, "%s", text)
			}
		}
	}
	if t.StartsAt != "" {
		if _, err := time.Parse("15:04", t.StartsAt); err != nil {
			bad("training.startsAt", "use a time such as 17:30")
		}
	}
	if t.Where != "" {
		if text := words.Name(t.Where, 120); text != "" {
			bad("training.where", "%s", text)
		}
	}
	if len(t.Plates) > 20 {
		bad("training.plates", "at most 20 kinds of disc")
	}
	for i, p := range t.Plates {
		if !(p >= 0.1 && p <= maxPlateKg) {
			bad(fmt.Sprintf("training.plates[%d]", i), "a disc weighs 0.1 to %d kg", maxPlateKg)
		}
	}
	return out
}

// Joints returns the regions whose range is tested, in the order of Regions.
func Joints() []string {
	var out []string
	for _, r := range measure.Regions() {
		tests := measure.Shipped().Tests()
		if slices.ContainsFunc(tests, func(t measure.Test) bool { return t.Range && t.Region == r }) {
			out = append(out, r)
		}
	}
	return out
}
