package app

import (
	"context"
	"errors"
	"fmt"
	"slices"
	"strings"

	"dunnock/internal/core/force"
	"dunnock/internal/core/jump"
	"dunnock/internal/core/measure"
	"dunnock/internal/core/unit"
	"dunnock/internal/store"
)

// standsInTheWay are doubts a result does not go into a screen with.
var standsInTheWay = []force.Flag{jump.NoFlight, jump.HiddenCountermovement, jump.HeightsDisagree, force.NoisyQuiet}

// results are what a recording has to say in a screen, by test.
func (v *RecordingView) results(playing string) (map[string]float64, string) {
	flags := []force.Flag{}
	switch {
	case v.Jump != nil:
		flags = v.Jump.Flags
	case v.Swing != nil:
		flags = v.Swing.Flags
	}
	for _, f := range standsInTheWay {
		if slices.Contains(flags, f) {
			return nil, "Not put in the screen: " + flagWords[f] + "."
		}
	}
	if v.Jump != nil {
		if v.Jump.JumpHeightM == nil {
			return nil, "Not put in the screen: there is no height."
		}
		return map[string]float64{testOf(v.Jump): 100 * *v.Jump.JumpHeightM}, ""
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

var flagWords = map[force.Flag]string{
	jump.NoFlight: "no flight was found", jump.HiddenCountermovement: "a squat jump with a hidden countermovement",
	jump.HeightsDisagree: "height by flight time and by take-off speed disagree", force.NoisyQuiet: "the stance was not quiet",
}

// fill writes a recording's results into the screen of its day, which is made
// where there is none. What does not go in is said, and is no error.
func (a *App) fill(ctx context.Context, u *store.User, v *RecordingView) error {
	p := a.store.For(u.PracticeID)
	f, err := a.file(ctx, u, v.AthleteID)
	if err != nil {
		return err
	}
	values, why := v.results(string(f.Athlete.PlayingSide))
	if why != "" {
		v.Verdict = why
		return nil
	}
	id, trials, err := a.screenOn(ctx, u, v)
	if err != nil {
		return err
	}
	b, err := a.battery(ctx, u)
	if err != nil {
		return err
	}
	var changes []Change
	var cells []FilledCell
	for _, test := range []string{"cmj", "sj", "swing-lateral", "swing-rotational", "swing-vertical"} {
		value, ok := values[test]
		if !ok {
			continue
		}
		t, _ := b.tests.Find(test)
		n := freeTrial(t, trials)
		if n == 0 {
			v.Verdict = fmt.Sprintf("All %d trials of %s are taken: clear one to put this in.", t.Trials, strings.ToLower(t.Name))
			continue
		}
		changes = append(changes, Change{Cell: measure.Cell{Test: test, Trial: n, Text: unit.Text(value, max(t.Decimals, 2)), Confirmed: true, Device: "force plates"}})
		cells = append(cells, FilledCell{Screen: id, Test: test, Trial: n})
	}
	if len(changes) == 0 {
		return nil
	}
	if _, err := a.SaveCells(ctx, u, id, nil, changes, 0); err != nil {
		var e *Error
		if errors.As(err, &e) && e.Kind == Invalid {
			v.Verdict = "Not put in the screen: " + e.Text
			return nil
		}
		return err
	}
	v.Cells = cells
	if err := v.encode(); err != nil {
		return err
	}
	return p.UpdateRecording(ctx, &v.Recording)
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

// refill writes a changed result over the trials it filled before.
func (a *App) refill(ctx context.Context, u *store.User, v *RecordingView, playing string) error {
	if len(v.Cells) == 0 {
		return nil
	}
	values, why := v.results(playing)
	var changes []Change
	for _, c := range v.Cells {
		ch := Change{Cell: measure.Cell{Test: c.Test, Trial: c.Trial, Confirmed: true, Device: "force plates"}}
		if value, ok := values[c.Test]; ok && why == "" {
			ch.Text = unit.Text(value, 2)
		} else {
			ch.Clear = true
		}
		changes = append(changes, ch)
	}
	_, err := a.SaveCells(ctx, u, v.Cells[0].Screen, nil, changes, 0)
	if e := new(Error); errors.As(err, &e) && e.Kind == NotFound {
		return nil // the screen is gone
	}
	return err
}
