// Package referral writes the note a coach gives a golfer for a physiotherapist
// or doctor: what was found on the screen, what was stopped, which limits the
// coach keeps to. It never names a diagnosis and never asks for one.
package referral

import (
	"fmt"
	"slices"
	"strings"

	"dunnock/internal/core/athlete"
	"dunnock/internal/core/civil"
	"dunnock/internal/core/measure"
	"dunnock/internal/core/quality"
)

// The people a note may go to.
const (
	Doctor          = "doctor"
	Physiotherapist = "physiotherapist"
)

// Note is a referral.
type Note struct {
	To       string     `json:"to"` // doctor or physiotherapist
	On       civil.Date `json:"on"`
	Golfer   string     `json:"golfer"`
	Born     civil.Date `json:"born"`
	Practice string     `json:"practice"`
	Coach    string     `json:"coach"`
	Urgent   string     `json:"urgent,omitempty"` // a red flag, in words
	Parts    []Part     `json:"parts"`
	Remark   string     `json:"remark,omitempty"` // the coach's own words
	Footer   string     `json:"footer"`
}

// Part is one heading with its lines.
type Part struct {
	Title string   `json:"title"`
	Lines []string `json:"lines"`
}

// Footer stands on every note.
const Footer = "This note comes from a strength and conditioning coach. It reports what was seen and measured, makes no diagnosis, and does not replace medical advice. Local rules on health data and on the safeguarding of minors apply."

// Of writes the note of a golfer from the file and the read of its day.
func Of(f *athlete.File, r *quality.Read, to, practice, coach, remark string) Note {
	n := Note{To: to, On: f.AsOf, Golfer: f.Athlete.Name, Born: f.Athlete.BirthDate, Practice: practice, Coach: coach, Remark: strings.TrimSpace(remark), Footer: Footer}
	if s := f.ClearanceOn(f.AsOf); s.State == athlete.RedFlag {
		n.Urgent = "Reported today: " + strings.TrimSuffix(
			strings.TrimPrefix(strings.TrimSuffix(s.Text, " No testing with effort and no programme: refer to a doctor now."), "Red flag: "),
			" ",
		) + " All testing with effort and training is stopped until a doctor has seen it."
	}
	pain, stopped, regions := painOf(f)
	n.add("What was reported and found", append(answers(f), pain...))
	n.add("What was stopped", stopped)
	n.add("Measured where it hurts, and on the other side", around(r, regions))
	var limits []string
	for _, l := range f.LimitsOn(f.AsOf) {
		limits = append(limits, strings.ToUpper(l.Words()[:1])+l.Words()[1:]+".")
	}
	n.add("What we leave out until we hear from you", limits)
	n.add(
		"What would help us",
		[]string{"What may be trained and tested, and what may not, by region and side.", "Until when these limits hold, and when the golfer should be seen again."},
	)
	return n
}

func (n *Note) add(title string, lines []string) {
	if len(lines) > 0 {
		n.Parts = append(n.Parts, Part{title, lines})
	}
}

func answers(f *athlete.File) []string {
	var out []string
	for _, q := range athlete.Questions() {
		if slices.Contains(f.Clearance.Yes, q.ID) {
			out = append(out, fmt.Sprintf("Answered yes on %s: %s", f.Clearance.AnsweredOn.Words(), q.Text))
		}
	}
	return out
}

// painOf lists pain and stopped tests of the newest screen, and the regions they
// speak of.
func painOf(f *athlete.File) (pain, stopped []string, regions []string) {
	screens := f.SortedScreens()
	if len(screens) == 0 {
		return nil, nil, nil
	}
	tests := f.Tests()
	done := map[string]bool{}
	for _, t := range screens[0].Trials {
		test, ok := tests.Find(t.Test)
		if !ok || t.Pain == 0 && t.Status != measure.Stopped {
			continue
		}
		name := test.Name
		if t.Side != "" {
			name += ", " + string(t.Side) + side(f, test, t.Side)
		}
		if t.Pain > 0 {
			line := fmt.Sprintf("Pain %d of 10 (%s) on %s in: %s.", t.Pain, strings.ReplaceAll(t.Region, "-", " "), screens[0].Date.Words(), name)
			if t.Note != "" {
				line += " In the golfer's words: " + t.Note + "."
			}
			pain = append(pain, line)
			if t.Region != "" && !slices.Contains(regions, t.Region) {
				regions = append(regions, t.Region)
			}
		}
		if t.Status == measure.Stopped && !done[name] {
			done[name] = true
			stopped = append(stopped, name+": stopped, no result.")
		}
	}
	return pain, stopped, regions
}

// side gives the clinician's left or right for a limb.
func side(f *athlete.File, t *measure.Test, s measure.Side) string {
	if t.Kind != measure.Limbs {
		return ""
	}
	if f.Athlete.RightHanded(s) {
		return " (right)"
	}
	return " (left)"
}

// around lists the measured tests of the regions that hurt.
func around(r *quality.Read, regions []string) []string {
	var out []string
	b := measure.Shipped()
	for _, t := range r.Tests {
		test, ok := b.Find(t.Test)
		if ok && slices.Contains(regions, test.Region) && (t.Status == quality.Measured || t.Status == quality.OneSide) {
			out = append(out, t.Sentence)
			if t.Difference != nil {
				out = append(out, t.Difference.Sentence)
			}
		}
	}
	return out
}
