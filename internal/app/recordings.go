package app

import (
	"bytes"
	"compress/gzip"
	"context"
	"crypto/sha256"
	"encoding/hex"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"math"
	"strings"

	"github.com/google/uuid"

	"dunnock/internal/core/civil"
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

// NewRecording says what a file is that is brought in.
type NewRecording struct {
	Name     string
	Kind     string // jump, squat or swing
	Date     civil.Date
	Side     force.Side // "" takes the golfer's
	Club     string
	Settings ForceSettings
	Fill     bool // write the result into the screen of the day
	Pending  bool // captured live: kept for a day unless it is kept
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

// AddRecording analyses a file and stores it, or refuses it and stores nothing.
func (a *App) AddRecording(ctx context.Context, who *Actor, athleteID string, n NewRecording, r io.Reader) (*RecordingView, error) {
	p := a.store.For(who.PracticeID)
	got, err := p.Athlete(ctx, athleteID)
	if err != nil {
		return nil, words(err, "golfer")
	}
	if n.Date.IsZero() {
		n.Date = a.Today(who.Zone)
	}
	if text := badDay(n.Date, a.Today(who.Zone), got.Facts.Athlete); text != "" {
		return nil, invalid("date", "%s", strings.ReplaceAll(text, "screen", "recording"))
	}
	if n.Side == "" {
		n.Side = force.Side(got.Facts.Athlete.PlayingSide)
	}
	f, b, err := readForce(r)
	if err != nil {
		return nil, err
	}
	m, source, err := a.forceMapping(ctx, who, f)
	if err != nil {
		return nil, err
	}
	rec, err := m.Recording(f, n.Side)
	if err != nil {
		return nil, forceWords(err)
	}
	v := &RecordingView{Mapping: m, Settings: n.Settings}
	v.AthleteID, v.Date, v.Name, v.Side, v.Club, v.Pending, v.Source = athleteID, n.Date, fmt.Sprintf("%.200s", strings.TrimSpace(n.Name)), string(n.Side), fmt.Sprintf("%.60s", strings.TrimSpace(n.Club)), n.Pending, source
	if v.Name == "" {
		v.Name = "recording"
	}
	if v.Kind = "jump"; n.Kind == "swing" {
		v.Kind = "swing"
	} else if n.Kind == "squat" {
		v.Settings.Jump.Kind = jump.Squat
	}
	if err := v.analyse(rec); err != nil {
		return nil, forceWords(err)
	}
	sum := sha256.Sum256(b)
	v.Hash, v.RawBytes, v.CreatedBy, v.CreatedAt = hex.EncodeToString(sum[:]), len(b), who.Name, a.now()
	raw, err := pack(b)
	if err != nil {
		return nil, err
	}
	if err := v.encode(); err != nil {
		return nil, err
	}
	// The recording and the trials it fills come together or not at all.
	_, err = a.write(ctx, who, func(p *store.Practice, b battery) (*saved, error) {
		v.Cells, v.Verdict, v.Revision = nil, "", 1
		if v.ID, err = p.CreateRecording(ctx, v.Recording, raw); err != nil {
			return nil, err
		}
		if !n.Fill || n.Pending {
			return nil, nil
		}
		return nil, a.fill(ctx, who, p, b, v)
	})
	if errors.Is(err, store.ErrExists) {
		return nil, &Error{Kind: Conflict, Text: "This very file is there already: " + v.Name + " was not brought in twice."}
	}
	if err != nil {
		return nil, words(err, "golfer")
	}
	return a.dressed(ctx, who, v)
}

// analyse reads the recording by the view's settings.
func (v *RecordingView) analyse(rec *force.Recording) (err error) {
	if v.Kind == "swing" {
		v.Swing, err = swing.Analyse(rec, v.Settings.Swing)
		v.Version = swing.Version
		return err
	}
	v.Jump, err = jump.Analyse(rec, v.Settings.Jump)
	v.Version = jump.Version
	return err
}

// encode writes the view's parts into the row.
func (v *RecordingView) encode() error {
	var result any = v.Jump
	if v.Swing != nil {
		result = v.Swing
	}
	if v.Cells == nil {
		v.Cells = []FilledCell{}
	}
	for to, from := range map[*json.RawMessage]any{&v.Recording.Mapping: v.Mapping, &v.Recording.Settings: v.Settings, &v.Result: result, &v.Recording.Cells: v.Cells} {
		b, err := json.Marshal(from)
		if err != nil {
			return fmt.Errorf("write the result of %s: %w", v.Name, err)
		}
		*to = b
	}
	return nil
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

func pack(b []byte) ([]byte, error) {
	var out bytes.Buffer
	w, err := gzip.NewWriterLevel(&out, gzip.BestSpeed)
	if err == nil {
		if _, err = w.Write(b); err == nil {
			err = w.Close()
		}
	}
	return out.Bytes(), err
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
	b, err := a.RecordingFile(ctx, who, v.ID)
	if err != nil {
		return nil, err
	}
	f, err := forcefile.Read(b)
	if err != nil {
		return nil, forceWords(err)
	}
	rec, err := v.Mapping.Recording(f, force.Side(v.Side))
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
	verdict := map[reliability.Verdict]string{reliability.Real: "a real difference", reliability.Unclear: "unclear", reliability.WithinError: "within error"}[reliability.Judge(d, te, b.tests.Z())]
	return fmt.Sprintf("%s cm %s the mean of %s: %s (typical error %s cm).", unit.Text(math.Abs(d), 1), direction, plural(v.Baseline.Trials, "earlier jump"), verdict, unit.Text(te, 1)), nil
}

// testOf is the test of the battery a jump is a trial of.
func testOf(j *jump.Result) string {
	if j.Kind == jump.Squat {
		return "sj"
	}
	return "cmj"
}

// say puts what came of a recording into a sentence.
func (v *RecordingView) say() {
	filled := ""
	if len(v.Cells) > 0 {
		filled = " In the screen of " + v.Date.Short() + "."
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
	out := make([]*RecordingView, len(rows))
	for i := range rows {
		if out[i], err = viewOf(rows[i]); err != nil {
			return nil, err
		}
	}
	return out, nil
}

// ChangeRecording says what is to change about a recording; nil stays.
type ChangeRecording struct {
	Settings *ForceSettings
	Club     *string
	Keep     bool // a captured trial is kept, and goes into the screen
	Fill     bool // put it into the screen now
}

// ChangeRecordingTo analyses a recording anew with other settings or events, or
// keeps a captured one.
func (a *App) ChangeRecordingTo(ctx context.Context, who *Actor, id string, c ChangeRecording) (*RecordingView, error) {
	v, err := a.changed(ctx, who, id, func(v *RecordingView) bool {
		if c.Club != nil {
			v.Club = clip(strings.TrimSpace(*c.Club), 60)
		}
		if c.Settings != nil {
			v.Settings = *c.Settings
		}
		if c.Keep {
			v.Pending = false
		}
		return c.Settings != nil
	}, c.Keep || c.Fill)
	if err != nil {
		return nil, err
	}
	return a.dressed(ctx, who, v)
}

// recordingTries is how often a change of a recording that somebody else changed
// meanwhile is made on what is there then.
const recordingTries = 5

// changed makes a change of a recording, and writes it together with the trials
// of the screen that follow from it. change reports whether the file is to be
// read anew; it is made again where somebody else was faster, so that what they
// did stays.
func (a *App) changed(ctx context.Context, who *Actor, id string, change func(*RecordingView) (reread bool), fill bool) (*RecordingView, error) {
	for range recordingTries {
		r, err := a.store.For(who.PracticeID).Recording(ctx, id)
		if err != nil {
			return nil, words(err, "recording")
		}
		v, err := viewOf(*r)
		if err != nil {
			return nil, err
		}
		reread := change(v)
		if reread {
			rec, err := a.reread(ctx, who, v)
			if err != nil {
				return nil, err
			}
			if err := v.analyse(rec); err != nil {
				return nil, invalid("settings", "%s", Sentence(err))
			}
		}
		cells, revision := v.Cells, v.Revision
		_, err = a.write(ctx, who, func(p *store.Practice, b battery) (*saved, error) {
			v.Cells, v.Verdict, v.Revision = cells, "", revision
			if err := p.LockGolfer(ctx, v.AthleteID); err != nil {
				return nil, err
			}
			if reread {
				if err := a.refill(ctx, who, p, b, v); err != nil {
					return nil, err
				}
			}
			if err := v.encode(); err != nil {
				return nil, err
			}
			if err := p.UpdateRecording(ctx, &v.Recording); err != nil {
				return nil, err
			}
			if !fill || len(v.Cells) > 0 {
				return nil, nil
			}
			return nil, a.fill(ctx, who, p, b, v)
		})
		if !errors.Is(err, store.ErrConflict) {
			return v, words(err, "recording")
		}
	}
	return nil, words(store.ErrConflict, "recording")
}

// Recompute analyses all of a golfer's recordings anew with other filters and
// rules. Events placed by hand stay, those placed meanwhile too. It returns how
// many were done and what became of those that could not be.
func (a *App) Recompute(ctx context.Context, who *Actor, athleteID string, s ForceSettings) (done int, problems []string, err error) {
	if err := a.HasGolfer(ctx, who, athleteID); err != nil {
		return 0, nil, err
	}
	rows, err := a.store.For(who.PracticeID).Recordings(ctx, athleteID)
	if err != nil {
		return 0, nil, words(err, "golfer")
	}
	problems = []string{}
	for _, r := range rows {
		_, err := a.changed(ctx, who, r.ID, func(v *RecordingView) bool {
			j, w := &v.Settings.Jump, &v.Settings.Swing
			j.CutoffHz, j.Onset, j.MassKg = s.Jump.CutoffHz, s.Jump.Onset, s.Jump.MassKg
			w.CutoffHz, w.About, w.MassKg, w.RateWindowS = s.Swing.CutoffHz, s.Swing.About, s.Swing.MassKg, s.Swing.RateWindowS
			return true
		}, false)
		var known *Error
		switch {
		case err == nil:
			done++
		case errors.As(err, &known) && known.Kind == NotFound: // removed meanwhile
		case errors.As(err, &known) && known.Kind != Unavailable:
			problems = append(problems, r.Name+": "+known.Text)
		default:
			return done, problems, err
		}
	}
	return done, problems, nil
}

// DeleteRecording removes a recording and the trials it filled, together.
func (a *App) DeleteRecording(ctx context.Context, who *Actor, id string) error {
	_, err := a.write(ctx, who, func(p *store.Practice, b battery) (*saved, error) {
		r, err := p.Recording(ctx, id)
		if err != nil {
			return nil, err
		}
		if err := p.LockGolfer(ctx, r.AthleteID); err != nil {
			return nil, err
		}
		if r, err = p.Recording(ctx, id); err != nil {
			return nil, err
		}
		v, err := viewOf(*r)
		if err != nil {
			return nil, err
		}
		v.Jump, v.Swing = &jump.Result{}, nil // nothing more to say: its trials are cleared
		if err := a.refill(ctx, who, p, b, v); err != nil {
			return nil, err
		}
		return nil, p.DeleteRecording(ctx, id)
	})
	return words(err, "recording")
}
