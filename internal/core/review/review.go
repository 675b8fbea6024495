// Package review says what a block of training did: for every quality that was retested, the
// change of its gap with whether it is real, and what that means for the next block — keep
// it, progress it, or switch the emphasis. Plans act on it (package plan, Turned); views
// show it under the golfer's results.
//
// A quality's gap before and after is taken over the tests and sides done both times, in
// spreads from target (package quality); its error is that of two results. Decisions are
// the handbook's table (season, emphasis). Without a log a block is judged as planned, and
// that is said; with one, a leader of whose dose too little was done is not judged.
package review

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"dunnock/internal/core/athlete"
	"dunnock/internal/core/civil"
	"dunnock/internal/core/measure"
	"dunnock/internal/core/programme"
	"dunnock/internal/core/quality"
	"dunnock/internal/core/reliability"
	"dunnock/internal/core/school"
	"dunnock/internal/core/unit"
)

// A Block is an issued version and the days it stood for.
type Block struct {
	Version int
	First   civil.Date
	Last    civil.Date
	Doc     *programme.Programme
	// Done is the share of its dose that was done of each quality, by minutes, over the weeks
	// that are over; nil where nothing was logged.
	Done map[string]float64
}

// Decision is what becomes of a quality in the next block.
type Decision string

// The decisions.
const (
	Progress  Decision = "progress"   // it leads on, its exercises a rung up
	Keep      Decision = "keep"       // as it is
	UpperEnd  Decision = "upper-end"  // it leads on toward its upper end, one exercise swapped
	BuildOnce Decision = "build"      // built for one block
	Switch    Decision = "switch"     // the next need leads
	Again     Decision = "again"      // tested again within a week
	AskCause  Decision = "ask"        // built, and the cause asked
	Wait      Decision = "wait"       // too short a block to judge
	Untested  Decision = "not-tested" // nothing of it was tested both times
	KeptUp    Decision = "kept-up"    // it was only kept up, and is
	LookedFor Decision = "look"       // it was only kept up, and fell
	TooLittle Decision = "too-little" // too little of its dose was done: it is repeated once
)

const (
	shortWeeks = 2 // blocks of so many weeks wait
	before     = 3 // days into a block a screen still counts as before it
	againDays  = 7 // within which a fall is tested again
	// judgedFrom is the share of a leader's dose that has to have been done for the block to be
	// judged by it.
	judgedFrom = 0.75
)

// Judged is what became of one quality.
type Judged struct {
	Quality string `json:"quality"`
	Name    string `json:"name"`
	Was     string `json:"was"` // lead, build or keep in the block
	// Before and After are its gaps, in spreads below target; Change is how much better it
	// is, and Error the typical error of one of the two.
	Before  float64             `json:"before"`
	After   float64             `json:"after"`
	Change  float64             `json:"change"`
	Error   float64             `json:"error"`
	Verdict reliability.Verdict `json:"verdict,omitempty"`
	// Now is how it stands against its target after.
	Now      quality.Verdict `json:"now,omitempty"`
	Decision Decision        `json:"decision"`
	Words    string          `json:"words"`
	Tests    []string        `json:"tests"` // done both times, by name
}

// Retest is what became of a block's qualities.
type Retest struct {
	Version int        `json:"version"`
	Before  civil.Date `json:"before"` // of the newest screen before it
	After   civil.Date `json:"after"`
	Judged  []Judged   `json:"judged"` // what led and was built first
	Notes   []string   `json:"notes"`
}

// Of returns the retests of a golfer's blocks, oldest first: of each that has a screen
// before it and one behind its first week. Blocks are given in order of time, under the
// school each was made by.
func Of(f *athlete.File, blocks []Block, schools func(id string) *school.School) []Retest {
	out := []Retest{}
	for i := range blocks {
		b := &blocks[i]
		end := f.AsOf
		if i+1 < len(blocks) {
			end = blocks[i+1].First.Add(before)
		}
		var last *Retest
		if len(out) > 0 {
			last = &out[len(out)-1]
		}
		if r := retest(f, b, end, schools(b.Doc.School), last); r != nil {
			out = append(out, *r)
		}
	}
	return out
}

// retest judges one block by the newest screens before and behind it, up to a day; nil where
// one of them is missing.
func retest(f *athlete.File, b *Block, end civil.Date, s *school.School, last *Retest) *Retest {
	first, again := newest(f, civil.Date{}, b.First.Add(before)), newest(f, b.First.Add(before+1), end)
	if first.IsZero() || again.IsZero() {
		return nil
	}
	r := &Retest{Version: b.Version, Before: first, After: again, Judged: []Judged{}, Notes: []string{}}
	short := len(b.Doc.Blocks) > 0 && len(b.Doc.Blocks[0].Weeks) <= shortWeeks
	both := common(f, b.First, end)
	was := quality.Compute(cut(f, both, civil.Date{}, b.First.Add(before)), s, nil)
	now := quality.Compute(cut(f, both, b.First.Add(before+1), end), s, nil)
	full := quality.Compute(until(f, end), s, nil)
	for _, q := range full.Qualities {
		j := judge(standing(was, q.ID), standing(now, q.ID), &q, askedLevel(b.Doc, q.ID), f.Tests().Z())
		j.Tests = namesOf(f.Tests(), both, q.ID)
		j.decide(short, last)
		if done, logged := b.Done[q.ID]; logged && done < judgedFrom && j.Was == string(quality.Lead) && j.Verdict != "" {
			j.tooLittle(done, last)
		}
		r.Judged = append(r.Judged, j)
	}
	slices.SortStableFunc(r.Judged, func(a, b Judged) int { return rank(a.Was) - rank(b.Was) })
	if b.Done == nil {
		r.Notes = append(r.Notes, "What was really done is not logged: the block is judged as planned.")
	}
	if short {
		r.Notes = append(r.Notes, fmt.Sprintf("A block of %d weeks is too short to show what it did: it waits for the next retest.", shortWeeks))
	}
	return r
}

func rank(was string) int { return slices.Index([]string{"lead", "build", "keep", "spare"}, was) }

// newest is the day of the newest screen with trials in a stretch of days; zero where there
// is none.
func newest(f *athlete.File, from, to civil.Date) civil.Date {
	var day civil.Date
	for _, s := range f.Screens {
		if len(s.Trials) > 0 && !s.Date.Before(from) && !s.Date.After(to) && s.Date.After(day) {
			day = s.Date
		}
	}
	return day
}

// key is a test on a side.
type key struct {
	test string
	side measure.Side
}

// common are the tests and sides done both before a block and behind its first days.
func common(f *athlete.File, first, end civil.Date) map[key]bool {
	a, b := map[key]bool{}, map[key]bool{}
	for _, s := range f.Screens {
		for _, t := range s.Trials {
			switch {
			case t.Status != measure.Done || s.Date.After(end):
			case s.Date.After(first.Add(before)):
				b[key{t.Test, t.Side}] = true
			default:
				a[key{t.Test, t.Side}] = true
			}
		}
	}
	for k := range a {
		if !b[k] {
			delete(a, k)
		}
	}
	return a
}

// cut is a file with the screens of a stretch of days, and of those what was done both
// times; what belongs to no quality, as body mass, stays from any day.
func cut(f *athlete.File, both map[key]bool, from, to civil.Date) *athlete.File {
	out := until(f, to)
	tests := f.Tests()
	for i := range out.Screens {
		s := &out.Screens[i]
		s.Trials = slices.DeleteFunc(slices.Clone(s.Trials), func(t measure.Trial) bool {
			x, ok := tests.Find(t.Test)
			if ok && x.Quality == "" {
				return false
			}
			return s.Date.Before(from) || !both[key{t.Test, t.Side}]
		})
	}
	return out
}

// until is a file as it was on a day, as far as screens go.
func until(f *athlete.File, day civil.Date) *athlete.File {
	out := *f
	out.Screens = slices.DeleteFunc(slices.Clone(f.Screens), func(s athlete.Screen) bool { return s.Date.After(day) })
	if day.Before(out.AsOf) {
		out.AsOf = day
	}
	return &out
}

func standing(r *quality.Read, id string) *quality.Standing {
	at := slices.IndexFunc(r.Qualities, func(s quality.Standing) bool { return s.ID == id })
	if at < 0 {
		return &quality.Standing{ID: id, Status: quality.NotMeasured}
	}
	return &r.Qualities[at]
}

func askedLevel(doc *programme.Programme, id string) string {
	for i := range doc.Asked {
		if doc.Asked[i].Quality == id {
			return doc.Asked[i].Level
		}
	}
	return string(quality.Keep)
}

func namesOf(b *measure.Battery, both map[key]bool, id string) []string {
	out := []string{}
	for i := range b.Tests() {
		t := &b.Tests()[i]
		if t.Quality == id && slices.ContainsFunc(t.Kind.Sides(), func(s measure.Side) bool { return both[key{t.ID, s}] }) {
			out = append(out, t.Name)
		}
	}
	return out
}

// judge compares a quality's gaps; full is how it stands with all that was tested.
func judge(was, now, full *quality.Standing, level string, z float64) Judged {
	j := Judged{Quality: full.ID, Name: quality.Name(full.ID), Was: level, Now: full.Verdict}
	if was.Verdict == "" || now.Verdict == "" {
		return j
	}
	j.Before, j.After = was.Gap, now.Gap
	j.Change = unit.Round(was.Gap-now.Gap, 2)
	// Judge takes the error of one of two alike; the two may differ a little.
	j.Error = unit.Round(math.Sqrt((was.Error*was.Error+now.Error*now.Error)/2), 2)
	j.Verdict = reliability.Judge(j.Change, j.Error, z)
	return j
}

// decide says what becomes of the quality, by the handbook's table.
func (j *Judged) decide(short bool, last *Retest) {
	name := upper(j.Name)
	led, worked := j.Was == string(quality.Lead), j.Was == string(quality.Lead) || j.Was == string(quality.Build)
	worse := j.Verdict == reliability.Real && j.Change < 0
	better := j.Verdict == reliability.Real && j.Change > 0
	set := func(d Decision, format string, args ...any) {
		j.Decision, j.Words = d, fmt.Sprintf(format, args...)
	}
	switch {
	case j.Verdict == "":
		set(Untested, "%s was not tested both times: the read of today decides.", name)
	case short:
		set(Wait, "%s waits for the next retest.", name)
	case !worked && worse:
		set(LookedFor, "%s was kept up and is really worse: look for why, and test it again.", name)
	case !worked:
		set(KeptUp, "%s was kept up: %s.", name, j.changeWords())
	case worse && again(last, j.Quality):
		set(AskCause, "%s is really worse again: it is built, and the cause is asked: sleep, pain, another load?", name)
	case worse:
		set(Again, "%s is really worse: test it again within %d days before anything is changed.", name, againDays)
	case j.Now == quality.TargetMet:
		set(Switch, "%s has met its target: it is kept up, and the next need leads.", name)
	case j.Now != quality.ClearlyShort:
		set(BuildOnce, "%s is no longer clearly short (%s): it is built for one block, then kept.", name, j.changeWords())
	case better:
		set(Progress, "%s is really better and still clearly short: it goes on, its exercises a rung up.", name)
	case j.Verdict == reliability.Unclear:
		set(Keep, "%s changed, perhaps: it goes on as it is.", name)
	case within(last, j.Quality):
		set(Switch, "%s has not moved for the second time: something else leads.", name)
	default:
		set(UpperEnd, "%s has not moved beyond the tests' error: toward its upper end, and one exercise is swapped.", name)
	}
	if led || !worked {
		return
	}
	// What was only built does not lead by its retest; the read decides what does.
	switch j.Decision {
	case Progress:
		j.Words = fmt.Sprintf("%s is really better and still clearly short: it goes on being built, its exercises a rung up.", name)
	case Switch:
		if j.Now == quality.TargetMet {
			j.Words = fmt.Sprintf("%s has met its target: it is kept up.", name)
		}
	}
}

// tooLittle leaves a leader unjudged of whose dose too little was done: it is repeated, once.
func (j *Judged) tooLittle(done float64, last *Retest) {
	if before := last.Find(j.Quality); before != nil && before.Decision == TooLittle {
		return
	}
	j.Decision = TooLittle
	j.Words = fmt.Sprintf("Only %.0f%% of the dose for %s was done: it is not judged by that, and the block is repeated.", 100*done, j.Name)
}

// changeWords says the change in words.
func (j *Judged) changeWords() string {
	switch {
	case j.Verdict == reliability.WithinError:
		return "no change beyond the tests' error"
	case j.Verdict == reliability.Unclear && j.Change > 0:
		return "perhaps better"
	case j.Verdict == reliability.Unclear:
		return "perhaps worse"
	case j.Change > 0:
		return "really better"
	}
	return "really worse"
}

// again reports whether a quality was really worse at the retest before too.
func again(last *Retest, id string) bool {
	j := last.Find(id)
	return j != nil && j.Verdict == reliability.Real && j.Change < 0
}

// within reports whether a quality that was worked on did not move at the retest before.
func within(last *Retest, id string) bool {
	j := last.Find(id)
	return j != nil && j.Decision == UpperEnd
}

// Find returns what became of a quality; nil where it is not among them, or there is no
// retest.
func (r *Retest) Find(id string) *Judged {
	if r == nil {
		return nil
	}
	for i := range r.Judged {
		if r.Judged[i].Quality == id {
			return &r.Judged[i]
		}
	}
	return nil
}

func upper(s string) string { return strings.ToUpper(s[:1]) + s[1:] }
