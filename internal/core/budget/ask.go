package budget

import (
	"math"
	"slices"

	"dunnock/internal/core/measure"
	"dunnock/internal/core/programme"
	"dunnock/internal/core/quality"
	"dunnock/internal/core/school"
	"dunnock/internal/core/unit"
)

// Person is what the doses depend on beside the read.
type Person struct {
	Novice, Junior, Senior bool
	Weeks                  int // rising ones
}

// Low reports whether a golfer gets the lower ends of the ranges.
func (p Person) Low() bool { return p.Novice || p.Junior || p.Senior }

// Swings is how many fast swings make an exposure, and from which intent.
func (t *Table) Swings(p Person) (n, intentPercent int) {
	x := t.Exposure
	switch {
	case p.Novice:
		return x.Novice, x.NoviceIntentPercent
	case p.Junior, p.Senior:
		return x.JuniorSenior, x.IntentPercent
	}
	return x.Swings, x.IntentPercent
}

// Time is the part of the golfer's year, as a school tells them apart.
type Time int

// The parts of the year.
const (
	OffSeason Time = iota
	PreSeason
	InSeason
)

// Ask says what a week asks for under a stage of a school in a part of the year: every
// quality with its level and dose, those that lead first, then by need.
func (t *Table) Ask(r *quality.Read, p Person, stage *school.Stage, at Time) []programme.Asked {
	var out []programme.Asked
	sum := 0.0
	for _, q := range r.Qualities {
		if q.Level == quality.Lead || q.Level == quality.Build && !q.Raised {
			sum += max(0, q.Need)
		}
	}
	raised := map[string]bool{}
	for _, q := range r.Qualities {
		raised[q.ID] = q.Raised
	}
	add := func(id string, l quality.Level, need float64) {
		row, ok := t.Row(id)
		if !ok {
			return
		}
		dose := row.Of(l)
		a := programme.Asked{
			Quality: id, Level: string(l), Unit: string(row.Unit), Low: dose.Low, High: dose.High, Days: dose.Days,
			Beside: string(row.Beside), BesideLow: dose.Beside, BesideHigh: dose.BesideHigh, Drills: dose.Drills, Raised: raised[id],
		}
		if sum > 0 && (l == quality.Lead || l == quality.Build) && !raised[id] {
			a.NeedShare = unit.Round(max(0, need)/sum, 2)
		}
		if id == quality.Mobility {
			a.Joints = t.joints(r, l)
			if raised[id] && len(a.Joints) == 0 {
				a.Joints = t.nearJoints(r)
			}
			if len(a.Joints) == 0 {
				a.Low, a.High, a.Days = 0, 0, 0
			}
		}
		if l == quality.Lead && id != SwingSpeed && stage.Swing[at] != string(quality.Lead) {
			a.SharePercent = t.share(&a, len(r.Leaders)) // swings that lead stand instead
		}
		if id == quality.MaximalStrength && l == quality.Keep && p.Senior {
			a.Days = 2 // strength is kept in two sessions from 60 on
		}
		out = append(out, a)
	}
	for _, q := range r.Qualities {
		add(q.ID, q.Level, q.Need)
	}
	add(Trunk, quality.Keep, 0)
	swings := quality.Level(stage.Swing[at])
	add(SwingSpeed, swings, 0)
	slices.SortStableFunc(out, func(a, b programme.Asked) int { return slices.Index(levels, a.Level) - slices.Index(levels, b.Level) })
	return out
}

// WithoutLeader returns what is asked where nobody leads, as in a taper and in season:
// what would lead is built.
func (t *Table) WithoutLeader(asked []programme.Asked) []programme.Asked {
	out := slices.Clone(asked)
	for i := range out {
		a := &out[i]
		row, ok := t.Row(a.Quality)
		if !ok || a.Level != string(quality.Lead) {
			continue
		}
		b := row.Build
		a.Level, a.SharePercent = string(quality.Build), 0
		a.Low, a.High, a.Days, a.BesideLow, a.BesideHigh, a.Drills = b.Low, b.High, b.Days, b.Beside, b.BesideHigh, b.Drills
		a.Joints = slices.Clone(a.Joints)
		for j := range a.Joints {
			a.Joints[j].Low, a.Joints[j].High, a.Joints[j].Days = b.Low, b.High, b.Days
		}
	}
	return out
}

// Unraised returns what is asked with the quality at an index kept instead of raised.
func (t *Table) Unraised(asked []programme.Asked, at int) []programme.Asked {
	out := slices.Clone(asked)
	a := &out[at]
	row, ok := t.Row(a.Quality)
	if !ok {
		return out
	}
	k := row.Keep
	a.Level, a.Raised, a.Joints = string(quality.Keep), false, nil
	a.Low, a.High, a.Days, a.BesideLow, a.BesideHigh, a.Drills = k.Low, k.High, k.Days, k.Beside, k.BesideHigh, k.Drills
	if a.Quality == quality.Mobility {
		a.Low, a.High, a.Days = 0, 0, 0
	}
	slices.SortStableFunc(out, func(a, b programme.Asked) int { return slices.Index(levels, a.Level) - slices.Index(levels, b.Level) })
	return out
}

var levels = []string{string(quality.Lead), string(quality.Build), string(quality.Keep), string(quality.Spare)}

// share is the least share of the minutes a leader gets, in %.
func (t *Table) share(a *programme.Asked, leaders int) float64 {
	s := t.Share
	big := false
	switch a.Quality {
	case quality.Mobility:
		big = len(a.Joints) >= s.Joints
	case quality.MaximalStrength, quality.VerticalPower, quality.HorizontalPower, quality.RotationalPower:
		big = true
	}
	switch {
	case !big:
		return s.SmallLeader
	case leaders > 1:
		return s.Two
	}
	return s.Leader
}

// joints are the restricted sides, the largest gaps first: under a leader the two
// largest get its dose, the others that of a quality that is built.
func (t *Table) joints(r *quality.Read, l quality.Level) []programme.AskedJoint {
	row, _ := t.Row(quality.Mobility)
	var tests []string
	var out []programme.AskedJoint
	for _, f := range r.Ranges {
		if !slices.Contains(tests, f.Test) {
			tests = append(tests, f.Test)
		}
		low := row.Build
		if l == quality.Lead && slices.Index(tests, f.Test) < row.Lead.Most {
			low = row.Lead
		}
		out = append(out, programme.AskedJoint{Test: f.Test, Side: string(f.Side), Low: low.Low, High: low.High, Days: low.Days, For: f.For})
	}
	return out
}

// mostNear is for how many joints range is built that is not clearly short.
const mostNear = 2

// nearJoints are the joints nearest to short, for a school that lengthens whoever is not.
func (t *Table) nearJoints(r *quality.Read) []programme.AskedJoint {
	row, _ := t.Row(quality.Mobility)
	var tests []string
	var out []programme.AskedJoint
	for _, f := range r.Near {
		if !slices.Contains(tests, f.Test) {
			if len(tests) == mostNear {
				continue
			}
			tests = append(tests, f.Test)
		}
		out = append(out, programme.AskedJoint{Test: f.Test, Side: string(f.Side), Low: row.Build.Low, High: row.Build.High, Days: row.Build.Days, For: f.For})
	}
	return out
}

// least is the smallest of some numbers, 0 of none.
func least(v []float64) float64 {
	if len(v) == 0 {
		return 0
	}
	m := math.Inf(1)
	for _, x := range v {
		m = math.Min(m, x)
	}
	return m
}

// sideOf reports whether a dose on a side (or on both, "") works a side.
func sideOf(dose string, side string) bool {
	return dose == "" || dose == side || side == "" || measure.Side(side) == measure.Side(dose)
}
