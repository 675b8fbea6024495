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

// fillTries is how often a place in the screen is looked for: recordings that
// arrive together take each other's.
const fillTries = 10

// fill writes a recording's results into the screen of its day, which is made
// where there is none. What does not go in is said, and is no error.
func (a *App) fill(ctx context.Context, u *store.User, v *RecordingView) error {
	f, err := a.file(ctx, u, v.AthleteID)
	if err != nil {
		return err
	}
	values, why := v.results(string(f.Athlete.PlayingSide))
	if why != "" {
		v.Verdict = why
		return nil
	}
	b, err := a.battery(ctx, u)
	if err != nil {
		return err
	}
	for range fillTries {
		var e *Error
		if err = a.fillOnce(ctx, u, v, b.tests, values); !errors.As(err, &e) || e.Kind != Conflict {
			break
		}
	}
	var e *Error
	if errors.As(err, &e) && e.Kind == Invalid {
		v.Verdict = "Not put in the screen: " + e.Text
		return nil
	}
	if err != nil || len(v.Cells) == 0 {
		return err
	}
	if err := v.encode(); err != nil {
		return err
	}
	return a.store.For(u.PracticeID).UpdateRecording(ctx, &v.Recording)
}

// fillOnce writes the results into free trials. It is a Conflict when somebody
// else was faster with the screen or a trial.
func (a *App) fillOnce(ctx context.Context, u *store.User, v *RecordingView, tests *measure.Battery, values map[string]float64) error {
	id, trials, err := a.screenOn(ctx, u, v)
	if err != nil {
		return err
	}
	var changes []Change
	var cells []FilledCell
	untouched := 0
	for _, test := range slices.Sorted(maps.Keys(values)) {
		t, _ := tests.Find(test)
		n := freeTrial(t, trials)
		if n == 0 {
			v.Verdict = fmt.Sprintf("All %d trials of %s are taken: clear one to put this in.", t.Trials, strings.ToLower(t.Name))
			continue
		}
		c := FilledCell{Screen: id, Test: test, Trial: n, Value: unit.Round(values[test], 2)}
		cells = append(cells, c)
		changes = append(changes, Change{Cell: c.cell(), Seen: &untouched})
	}
	if len(changes) == 0 {
		return nil
	}
	if _, err := a.SaveCells(ctx, u, id, nil, changes, 0); err != nil {
		return err
	}
	v.Cells = cells
	return nil
}

// cell is what a filled trial holds.
func (c FilledCell) cell() measure.Cell {
	return measure.Cell{Test: c.Test, Trial: c.Trial, Text: unit.Text(c.Value, 2), Confirmed: true, Device: byPlates}
}

// screenOn returns the golfer's screen of the recording's day and its trials.
func (a *App) screenOn(ctx context.Context, u *store.User, v *RecordingView) (string, []measure.Trial, error) {
	screens, err := a.store.For(u.PracticeID).Screens(ctx, v.AthleteID)
	if err != nil {
		return "", nil, err
	}
	for _, s := range screens {
		if s.Date == v.Date {
			return s.ID, s.Trials, nil
		}
	}
	s, err := a.NewScreen(ctx, u, v.AthleteID, v.Date, nil)
	if err != nil {
		return "", nil, err
	}
	return s.ID, nil, nil
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
func (a *App) refill(ctx context.Context, u *store.User, v *RecordingView, playing string) error {
	if len(v.Cells) == 0 {
		return nil
	}
	s, err := a.store.For(u.PracticeID).Screen(ctx, v.Cells[0].Screen)
	if errors.Is(err, store.ErrNotFound) {
		v.Cells = nil // the screen is gone
		return nil
	}
	if err != nil {
		return err
	}
	values, _ := v.results(playing)
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
	_, err = a.SaveCells(ctx, u, s.ID, nil, changes, 0)
	return err
}
