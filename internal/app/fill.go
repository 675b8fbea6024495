package app

import (
	"context"
	"errors"
	"fmt"
	"maps"
	"math"
	"slices"
	"strings"

	"dunnock/internal/core/measure"
	"dunnock/internal/core/unit"
	"dunnock/internal/store"
)

// results are what a recording has to say in a screen, by test, or why it has
// nothing to say.
func (v *RecordingView) results(playing string) (map[string]float64, string) {
	if v.Jump != nil {
		if why := v.Jump.KeptOut(); why != "" {
			return nil, "Not put in the screen: " + why + "."
		}
		return map[string]float64{testOf(v.Jump): 100 * *v.Jump.JumpHeightM}, ""
	}
	if why := v.Swing.KeptOut(); why != "" {
		return nil, "Not put in the screen: " + why + "."
	}
	if v.Side != playing {
		return nil, "Swung from the other side: the screen's ground force is of the playing side."
	}
	out := map[string]float64{"swing-vertical": v.Swing.Vertical.PeakPerBodyWeight}
	if v.Swing.Lateral != nil {
		out["swing-lateral"] = v.Swing.Lateral.PeakPerBodyWeight
	}
	if v.Swing.Rotational != nil {
		out["swing-rotational"] = v.Swing.Rotational.PeakPerKg
	}
	return out, ""
}

// byPlates marks the trials that recordings filled.
const byPlates = "force plates"

// fill writes a recording's results into free trials of the screen of its day,
// which is made where there is none, within the unit of work that stores the
// recording. What does not go in is said, and is no error.
func (a *App) fill(ctx context.Context, who *Actor, p *store.Practice, b battery, v *RecordingView) error {
	if err := p.LockGolfer(ctx, v.AthleteID); err != nil {
		return words(err, "golfer")
	}
	got, err := p.Athlete(ctx, v.AthleteID)
	if err != nil {
		return words(err, "golfer")
	}
	values, why := v.results(got.Facts.Athlete.PlayingSide)
	if why != "" {
		v.Verdict = why
		return nil
	}
	// A part of its own: a screen made for what is then refused goes again.
	_, err = p.Together(ctx, func(p *store.Practice) error { return a.fillScreen(ctx, who, p, b, v, values) })
	var e *Error
	if errors.As(err, &e) && e.Kind == Invalid {
		v.Cells, v.Verdict = nil, "Not put in the screen: "+e.Text
		return nil
	}
	if err != nil || len(v.Cells) == 0 {
		return err
	}
	if err := v.encode(); err != nil {
		return err
	}
	return p.UpdateRecording(ctx, &v.Recording)
}

func (a *App) fillScreen(ctx context.Context, who *Actor, p *store.Practice, b battery, v *RecordingView, values map[string]float64) error {
	screens, err := p.ScreensOn(ctx, v.Date, []string{v.AthleteID})
	if err != nil {
		return err
	}
	s := screens[v.AthleteID]
	if s.ID == "" {
		if s.ID, err = a.newScreen(ctx, who, p, v.AthleteID, v.Date, nil); err != nil {
			return err
		}
	}
	var changes []Change
	var cells []FilledCell
	untouched := 0
	for _, test := range slices.Sorted(maps.Keys(values)) {
		t, ok := b.tests.Find(test)
		if !ok {
			continue
		}
		n := freeTrial(t, s.Trials)
		if n == 0 {
			v.Verdict = fmt.Sprintf("All %d trials of %s are taken: clear one to put this in.", t.Trials, strings.ToLower(t.Name))
			continue
		}
		c := FilledCell{Screen: s.ID, Test: test, Trial: n, Value: unit.Round(values[test], 2)}
		cells = append(cells, c)
		changes = append(changes, Change{Cell: c.cell(), Seen: &untouched})
	}
	if len(changes) == 0 {
		return nil
	}
	if _, err := a.saveCells(ctx, who, p, b, s.ID, nil, changes); err != nil {
		return err
	}
	v.Cells = cells
	return nil
}

// cell is what a filled trial holds.
func (c FilledCell) cell() measure.Cell {
	return measure.Cell{Test: c.Test, Trial: c.Trial, Text: unit.Text(c.Value, 2), Confirmed: true, Device: byPlates}
}

func freeTrial(t *measure.Test, trials []measure.Trial) int {
	for n := 1; n <= t.Trials; n++ {
		if !slices.ContainsFunc(trials, func(x measure.Trial) bool { return x.Test == t.ID && x.Number == n }) {
			return n
		}
	}
	return 0
}

// refill writes a changed result over the trials it filled before, or clears
// them. A trial somebody has changed since is theirs: it is left alone, and is no
// longer the recording's.
func (a *App) refill(ctx context.Context, who *Actor, p *store.Practice, b battery, v *RecordingView) error {
	if len(v.Cells) == 0 {
		return nil
	}
	got, err := p.Athlete(ctx, v.AthleteID)
	if err != nil {
		return words(err, "golfer")
	}
	s, err := p.Screen(ctx, v.Cells[0].Screen)
	if errors.Is(err, store.ErrNotFound) {
		v.Cells = nil // the screen is gone
		return nil
	}
	if err != nil {
		return err
	}
	values, _ := v.results(got.Facts.Athlete.PlayingSide)
	var changes []Change
	var kept []FilledCell
	for _, c := range v.Cells {
		i := slices.IndexFunc(s.Trials, func(t measure.Trial) bool { return t.Test == c.Test && t.Number == c.Trial })
		if i < 0 || s.Trials[i].Device != byPlates || math.Abs(s.Trials[i].Value-c.Value) > 0.005 {
			continue
		}
		seen := s.Revs[s.Trials[i].Key()]
		value, ok := values[c.Test]
		if ok {
			c.Value = unit.Round(value, 2)
			kept = append(kept, c)
		}
		changes = append(changes, Change{Cell: c.cell(), Clear: !ok, Seen: &seen})
	}
	v.Cells = kept
	if len(changes) == 0 {
		return nil
	}
	_, err = a.saveCells(ctx, who, p, b, s.ID, nil, changes)
	return err
}
