package app

import (
	"bytes"
	"compress/gzip"
	"context"
	"encoding/json"
	"fmt"
	"math"
	"strings"

	"github.com/google/uuid"

	"dunnock/internal/core/force"
	"dunnock/internal/core/jump"
	"dunnock/internal/core/reliability"
	"dunnock/internal/core/swing"
	"dunnock/internal/core/unit"
	"dunnock/internal/forcefile"
	"dunnock/internal/store"
)

// ForceSettings are the choices of both analyses; the one of a recording's kind
// counts.
type ForceSettings struct {
	Jump  jump.Settings  `json:"jump"`
	Swing swing.Settings `json:"swing"`
}

// HasGolfer says so when a golfer is not there.
func (a *App) HasGolfer(ctx context.Context, who *Actor, athleteID string) error {
	if _, err := uuid.Parse(athleteID); err != nil {
		return words(store.ErrNotFound, "golfer")
	}
	return words(a.store.For(who.PracticeID).HasAthlete(ctx, athleteID), "golfer")
}

// RecordingView is a recording with what it came to.
type RecordingView struct {
	store.Recording
	Mapping  forcefile.Mapping
	Settings ForceSettings
	Jump     *jump.Result
	Swing    *swing.Result
	Cells    []FilledCell
	Verdict  string // what came of it, in a sentence
	Change   string // a jump's height against the golfer's earlier ones, in a sentence
	Windows  []force.Window
	Baseline *force.Baseline
	Answers  []swing.Answer
	Findings []force.Finding
}

// FilledCell is a trial of the screen that a recording filled.
type FilledCell struct {
	Screen string `json:"screen"`
	Test   string `json:"test"`
	Trial  int    `json:"trial"`
	// Value is what was written, in the test's unit.
	Value float64 `json:"value"`
}

// viewOf reads the parts of a stored recording.
func viewOf(r store.Recording) (*RecordingView, error) {
	v := &RecordingView{Recording: r}
	var result any
	if r.Kind == "swing" {
		v.Swing = &swing.Result{}
		result = v.Swing
	} else {
		v.Jump = &jump.Result{}
		result = v.Jump
	}
	for from, to := range map[*json.RawMessage]any{&r.Mapping: &v.Mapping, &r.Settings: &v.Settings, &r.Result: result, &r.Cells: &v.Cells} {
		if err := json.Unmarshal(*from, to); err != nil {
			return nil, fmt.Errorf("read recording %s: %w", r.ID, err)
		}
	}
	return v, nil
}

func unpack(b []byte) ([]byte, error) {
	r, err := gzip.NewReader(bytes.NewReader(b))
	if err != nil {
		return nil, err
	}
	return forcefile.ReadAll(r)
}

// reread makes the recording of a stored file anew.
func (a *App) reread(ctx context.Context, who *Actor, v *RecordingView) (*force.Recording, error) {
	f := a.held.get(who.PracticeID, v.Hash, a.now())
	if f == nil {
		b, err := a.RecordingFile(ctx, who, v.ID)
		if err != nil {
			return nil, err
		}
		if f, err = a.forceFile(who, "", bytes.NewReader(b)); err != nil {
			return nil, err
		}
	}
	rec, err := v.Mapping.Recording(f.File, force.Side(v.Side))
	return rec, forceWords(err)
}

// RecordingFile returns the file as it was brought in.
func (a *App) RecordingFile(ctx context.Context, who *Actor, id string) ([]byte, error) {
	raw, err := a.store.For(who.PracticeID).RecordingRaw(ctx, id)
	if err != nil {
		return nil, words(err, "recording")
	}
	return unpack(raw)
}

// Recording returns one recording with its answers, baseline and findings.
func (a *App) Recording(ctx context.Context, who *Actor, id string) (*RecordingView, error) {
	r, err := a.store.For(who.PracticeID).Recording(ctx, id)
	if err != nil {
		return nil, words(err, "recording")
	}
	v, err := viewOf(*r)
	if err != nil {
		return nil, err
	}
	return a.dressed(ctx, who, v)
}

// dressed adds what a recording is compared with.
func (a *App) dressed(ctx context.Context, who *Actor, v *RecordingView) (*RecordingView, error) {
	limits, err := a.store.For(who.PracticeID).ForceWindows(ctx)
	if err != nil {
		return nil, err
	}
	others, err := a.views(ctx, who, v.AthleteID)
	if err != nil {
		return nil, err
	}
	var swings []*swing.Result
	var jumps []*jump.Result
	for _, o := range others {
		if o.ID == v.ID || o.Kind != v.Kind || o.Date.After(v.Date) || o.Date == v.Date && !o.CreatedAt.Before(v.CreatedAt) {
			continue // only what came before
		}
		switch {
		case v.Swing != nil && o.Side == v.Side && o.Club == v.Club:
			swings = append(swings, o.Swing)
		case v.Jump != nil && o.Jump.Kind == v.Jump.Kind && o.Jump.KeptOut() == "":
			jumps = append(jumps, o.Jump)
		}
	}
	v.Answers = []swing.Answer{}
	if v.Swing != nil {
		v.Windows = force.Own(swing.Windows(), limits)
		v.Baseline = swing.Baseline(swings)
		v.Answers = v.Swing.Answers(v.Windows, v.Baseline)
		v.Findings = force.Find(v.Windows, v.Swing.Values())
	} else {
		v.Windows = force.Own(jump.Windows(), limits)
		v.Baseline = jump.Baseline(jumps)
		v.Findings = force.Find(v.Windows, v.Jump.Values())
		if v.Change, err = a.heightChange(ctx, who, v); err != nil {
			return nil, err
		}
	}
	v.say()
	return v, nil
}

// heightChange sets a jump's height against the mean of the earlier ones of its
// kind, by the test's own error; empty without any.
func (a *App) heightChange(ctx context.Context, who *Actor, v *RecordingView) (string, error) {
	if v.Baseline == nil || v.Jump.JumpHeightM == nil {
		return "", nil
	}
	b, err := a.battery(ctx, who)
	if err != nil {
		return "", err
	}
	t, ok := b.tests.Find(testOf(v.Jump))
	if !ok {
		return "", nil
	}
	mean := 100 * v.Baseline.Mean["jumpHeightM"]
	d, te := 100**v.Jump.JumpHeightM-mean, t.TypicalError(mean)
	direction := "above"
	if d < 0 {
		direction = "below"
	}
	verdict := map[reliability.Verdict]string{
		reliability.Real: "a real difference", reliability.Unclear: "unclear", reliability.WithinError: "within error",
	}[reliability.Judge(d, te, b.tests.Z())]
	return fmt.Sprintf(
		"%s cm %s the mean of %s: %s (typical error %s cm).",
		unit.Text(math.Abs(d), 1),
		direction,
		plural(v.Baseline.Trials, "earlier jump"),
		verdict,
		unit.Text(te, 1),
	), nil
}

// say puts what came of a recording into a sentence.
func (v *RecordingView) say() {
	filled := ""
	if len(v.Cells) > 0 {
		filled = " In the screen of " + v.Date.Words() + "."
	} else if v.Verdict != "" {
		filled = " " + v.Verdict
	}
	switch {
	case v.Swing != nil:
		v.Verdict = fmt.Sprintf("Swing, vertical %.2f BW, %s.%s", v.Swing.Vertical.PeakPerBodyWeight, strings.Join(v.Swing.Order, " → "), filled)
	case v.Jump.JumpHeightM == nil:
		v.Verdict = "No flight was found: no height." + filled
	default:
		v.Verdict = fmt.Sprintf("%s jump, %.1f cm.%s", strings.ToUpper(string(v.Jump.Kind[:1]))+string(v.Jump.Kind[1:]), 100**v.Jump.JumpHeightM, filled)
	}
}

func (a *App) views(ctx context.Context, who *Actor, athleteID string) ([]*RecordingView, error) {
	rows, err := a.store.For(who.PracticeID).Recordings(ctx, athleteID)
	if err != nil {
		return nil, err
	}
	return viewsOf(rows)
}

func viewsOf(rows []store.Recording) (out []*RecordingView, err error) {
	out = make([]*RecordingView, len(rows))
	for i := range rows {
		if out[i], err = viewOf(rows[i]); err != nil {
			return nil, err
		}
	}
	return out, nil
}
