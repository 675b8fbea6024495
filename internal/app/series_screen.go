package app

import (
	"cmp"
	"context"
	"fmt"
	"slices"
	"strings"

	"dunnock/internal/core/implement"
	"dunnock/internal/core/measure"
	"dunnock/internal/core/speed"
	"dunnock/internal/core/speed/diary"
	"dunnock/internal/core/unit"
	"dunnock/internal/store"
)

// bySeries marks the trials that a series filled.
const bySeries = "speed series"

// fromSeries is a value a series puts into a trial of a test.
type fromSeries struct {
	test, side string
	mps, massG float64
}

// SeriesToScreen puts a series into free trials of the screen of its day, which is made
// where there is none: full driver swings as driver speed, cruising ones as course swing
// speed, full swings of one implement from both sides, and of three implements or more
// as the ladder. It says which tests were filled, and what was left and why.
func (a *App) SeriesToScreen(ctx context.Context, who *Actor, seriesID string) (filled, left []string, err error) {
	filled, left = []string{}, []string{}
	p := a.store.For(who.PracticeID)
	s, err := p.Series(ctx, seriesID)
	if err != nil {
		return nil, nil, seriesWords(err)
	}
	page, err := a.Speed(ctx, who, s.AthleteID)
	if err != nil {
		return nil, nil, err
	}
	values := valuesOf(s, page)
	if len(values) == 0 {
		return filled, append(left, "No swing of this series is a test: full or cruising swings without a drill are."), nil
	}
	_, err = a.write(ctx, who, func(p *store.Practice, b battery) (*saved, error) {
		if err := p.LockGolfer(ctx, s.AthleteID); err != nil {
			return nil, words(err, "golfer")
		}
		screens, err := p.ScreensOn(ctx, s.Date, []string{s.AthleteID})
		if err != nil {
			return nil, err
		}
		screen := screens[s.AthleteID]
		if screen.ID == "" {
			if screen.ID, err = a.newScreen(ctx, who, p, s.AthleteID, s.Date, nil); err != nil {
				return nil, err
			}
		}
		var changes []Change
		changes, filled, left = place(b.tests, screen.Trials, values)
		if len(changes) == 0 {
			return nil, nil
		}
		return a.saveCells(ctx, who, p, b, screen.ID, nil, changes)
	})
	return filled, left, err
}

// valuesOf are the values of a series that are tests of a screen.
func valuesOf(s *store.Series, page *diary.Page) (out []fromSeries) {
	cold := s.Kind == diary.ColdStartKind
	swings := s.Speeds()
	of := func(k speed.Key) []float64 {
		var v []float64
		for _, x := range speed.Of(swings, k, cold) {
			v = append(v, x.ClubMps)
		}
		return v
	}
	best := func(v []float64, n int) []float64 {
		v = slices.Clone(v)
		slices.SortFunc(v, func(a, b float64) int { return cmp.Compare(b, a) })
		return v[:min(n, len(v))]
	}
	add := func(test, side string, massG float64, v []float64) {
		for _, x := range v {
			out = append(out, fromSeries{test, side, x, massG})
		}
	}
	if cold {
		add("cold-start", "", 0, of(diary.DriverKey(page.Own.ID))[:min(12, len(of(diary.DriverKey(page.Own.ID))))])
		return out
	}
	add("driver-speed", "", 0, best(of(diary.DriverKey(page.Own.ID)), 5))
	add("cruise-speed", "", 0, best(of(speed.Key{Implement: page.Own.ID, Side: speed.Playing, Intent: speed.Cruise}), 5))
	type ladderStep struct {
		mass float64
		mps  []float64
	}
	ladder := map[string][]ladderStep{}
	both := false
	for _, i := range append([]diary.OwnedImplement{page.Own}, page.Implements...) {
		sides := map[string][]float64{}
		for _, side := range []string{speed.Playing, speed.Other} {
			v := of(speed.Key{Implement: i.ID, Side: side, Intent: speed.Full})
			if sides[side] = v; len(v) > 0 {
				ladder[side] = append(ladder[side], ladderStep{i.MassG, best(v, 3)})
			}
		}
		if !both && len(sides[speed.Playing]) > 0 && len(sides[speed.Other]) > 0 && (i.ID != page.Own.ID || i.ID == implement.Usual.ID || i.Kind == implement.Driver) {
			both = true
			add("other-side-speed", speed.Playing, 0, best(sides[speed.Playing], 5))
			add("other-side-speed", speed.Other, 0, best(sides[speed.Other], 5))
		}
	}
	for _, side := range []string{speed.Playing, speed.Other} {
		if len(ladder[side]) >= 3 {
			for _, step := range ladder[side][:min(3, len(ladder[side]))] {
				add("implement-ladder", side, step.mass, step.mps)
			}
		}
	}
	return out
}

// place finds a free trial for each value and says which tests got some and which had
// none left.
func place(tests *measure.Battery, there []measure.Trial, values []fromSeries) (changes []Change, filled, left []string) {
	filled, left = []string{}, []string{}
	untouched := 0
	there = slices.Clone(there)
	for _, v := range values {
		t, ok := tests.Find(v.test)
		if !ok {
			continue
		}
		name := t.Name
		if v.side != "" {
			name += ", " + v.side + " side"
		}
		n := 0
		for k := 1; k <= t.Trials && n == 0; k++ {
			if !slices.ContainsFunc(there, func(x measure.Trial) bool { return x.Test == v.test && string(x.Side) == v.side && x.Number == k }) {
				n = k
			}
		}
		if n == 0 {
			if text := fmt.Sprintf("All trials of %s are taken: clear one to put this in.", strings.ToLower(name[:1])+name[1:]); !slices.Contains(left, text) {
				left = append(left, text)
			}
			continue
		}
		there = append(there, measure.Trial{Test: v.test, Side: measure.Side(v.side), Number: n})
		text := unit.Text(v.mps, 2)
		if v.massG > 0 {
			text = fmt.Sprintf("%s@%s", text, unit.Text(v.massG, 0))
		}
		changes = append(changes, Change{Cell: measure.Cell{Test: v.test, Side: v.side, Trial: n, Text: text, Confirmed: true, Device: bySeries}, Seen: &untouched})
		if !slices.Contains(filled, name) {
			filled = append(filled, name)
		}
	}
	return changes, filled, left
}
