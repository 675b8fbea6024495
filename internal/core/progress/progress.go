// Package progress says how far a golfer's work has come and what is due next.
package progress

import (
	"fmt"

	"dunnock/internal/core/athlete"
	"dunnock/internal/core/civil"
)

// RetestDays is how long after a screen the next one is due: eight weeks, two
// blocks of four. House rule.
const RetestDays = 56

// Done is what has been done with a golfer: the days of screens with something in
// them, newest first, and the programmes, oldest first.
type Done struct {
	Screens    []civil.Date
	Programmes []Programme
}

// Programme is a draft, or an issued version of so many weeks.
type Programme struct {
	Draft   bool
	Version int
	Start   civil.Date
	Weeks   int
}

// Path is the state of each step of the work, in words short enough for a tab.
type Path struct{ Intake, Screen, Force, Speed, Read, Season, Programme, WarmUp, Floor, Progress string }

var clearanceWords = map[athlete.ClearanceState]string{
	athlete.RedFlag: "red flag", athlete.NotAsked: "questions open", athlete.NeedsClearance: "needs clearance",
	athlete.Expired: "clearance expired", athlete.NeedsConsent: "consent missing", athlete.Clear: "cleared",
}

// retest reports whether the last screen is too long ago.
func (d Done) retest(on civil.Date) bool { return on.Sub(d.Screens[0]) > RetestDays }

// PathOf returns the state of each step on the day of the file. Force, speed and
// warm-ups are left for whoever knows the recordings, series and warm-ups.
func PathOf(f *athlete.File, d Done) Path {
	p := Path{Intake: clearanceWords[f.ClearanceOn(f.AsOf).State], Screen: "none yet", Force: "none yet", Speed: "none yet", WarmUp: "none kept", Floor: "nothing logged", Read: "needs a screen", Programme: "none yet"}
	p.Season, p.Progress = seasonWords(f), d.retestWords(f.AsOf)
	if len(d.Screens) > 0 {
		p.Screen, p.Read = "done "+d.Screens[0].Words(), "ready"
		if d.retest(f.AsOf) {
			p.Screen = "retest due"
		}
	}
	newest := 0
	for _, g := range d.Programmes {
		if g.Draft {
			p.Programme = "draft open"
			return p
		}
		if g.Version > newest {
			newest = g.Version
			p.Programme = fmt.Sprintf("version %d issued", g.Version)
		}
	}
	return p
}

// retestWords says whether the last block that began was retested: by a screen behind its
// first days.
func (d Done) retestWords(on civil.Date) string {
	var last *Programme
	for i := range d.Programmes {
		if p := &d.Programmes[i]; !p.Draft && !p.Start.After(on) && (last == nil || !p.Start.Before(last.Start)) {
			last = p
		}
	}
	switch {
	case last == nil:
		return "no block yet"
	case len(d.Screens) > 0 && d.Screens[0].Sub(last.Start) > firstDays:
		return "retested " + d.Screens[0].Words()
	case on.Sub(last.Start) >= 7*last.Weeks:
		return "retest due"
	}
	return "block running"
}

// firstDays are the days of a block in which a screen still counts as before it.
const firstDays = 3

// seasonWords is how far the next event to peak for is.
func seasonWords(f *athlete.File) string {
	var next athlete.Competition
	for _, c := range f.Competitions {
		if c.Peak && !c.Date.Before(f.AsOf) && (next.Date.IsZero() || c.Date.Before(next.Date)) {
			next = c
		}
	}
	switch days := next.Date.Sub(f.AsOf); {
	case next.Date.IsZero():
		return "no peak set"
	case days < 14:
		return fmt.Sprintf("peak in %d days", days)
	default:
		return fmt.Sprintf("peak in %d weeks", days/7)
	}
}

// Next is what comes next for a golfer.
type Next struct {
	Text string // in words
	Step string // of the work, where it is done: intake, screen or programme
	// On is the day it is due: that of the file where it is due already.
	On civil.Date
}

// Due says what comes next for a golfer on the day of the file: the gravest thing
// first.
func Due(f *athlete.File, d Done) Next {
	state := f.ClearanceOn(f.AsOf).State
	switch {
	case state == athlete.RedFlag:
		return Next{"Red flag: refer now, no training", "intake", f.AsOf}
	case state != athlete.Clear:
		return Next{"Intake: " + clearanceWords[state], "intake", f.AsOf}
	case len(d.Screens) == 0:
		return Next{"Screen: none yet", "screen", f.AsOf}
	case d.retest(f.AsOf):
		return Next{"Screen: retest due, last on " + d.Screens[0].Words(), "screen", f.AsOf}
	case len(d.Programmes) == 0:
		return Next{"Programme: none yet", "programme", f.AsOf}
	}
	for _, p := range d.Programmes {
		if p.Draft {
			return Next{"Programme: draft to issue", "programme", later(f.AsOf, p.Start.Add(-1))}
		}
	}
	last := d.Programmes[len(d.Programmes)-1]
	end := last.Start.Add(7 * last.Weeks)
	if !end.After(f.AsOf) {
		return Next{"Programme: block ended, retest", "programme", f.AsOf}
	}
	return Next{fmt.Sprintf("On version %d", last.Version), "programme", end}
}

func later(a, b civil.Date) civil.Date {
	if b.After(a) {
		return b
	}
	return a
}
