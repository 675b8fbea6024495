package app

import (
	"bytes"
	"compress/gzip"
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"strings"

	"dunnock/internal/core/civil"
	"dunnock/internal/core/force"
	"dunnock/internal/core/jump"
	"dunnock/internal/core/swing"
	"dunnock/internal/store"
)

// NewRecording says what a file is that is brought in.
type NewRecording struct {
	Hash     string // of a file that was looked at a moment ago, instead of the file
	Name     string
	Kind     string // jump, squat or swing
	Date     civil.Date
	Side     force.Side // "" takes the golfer's
	Club     string
	Settings ForceSettings
	Fill     bool // write the result into the screen of the day
	Pending  bool // captured live: kept for a day unless it is kept
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
	f, err := a.forceFile(who, n.Hash, r)
	if err != nil {
		return nil, err
	}
	m, source, err := a.forceMapping(ctx, who, f.File)
	if err != nil {
		return nil, err
	}
	rec, err := m.Recording(f.File, n.Side)
	if err != nil {
		return nil, forceWords(err)
	}
	v := &RecordingView{Mapping: m, Settings: n.Settings}
	v.AthleteID, v.Date, v.Side, v.Pending, v.Source = athleteID, n.Date, string(n.Side), n.Pending, source
	v.Name, v.Club = fmt.Sprintf("%.200s", strings.TrimSpace(n.Name)), fmt.Sprintf("%.60s", strings.TrimSpace(n.Club))
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
	v.Hash, v.RawBytes, v.CreatedBy, v.CreatedAt = f.hash, len(f.raw), who.Name, a.now()
	raw, err := pack(f.raw)
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

// testOf is the test of the battery a jump is a trial of.
func testOf(j *jump.Result) string {
	if j.Kind == jump.Squat {
		return "sj"
	}
	return "cmj"
}
