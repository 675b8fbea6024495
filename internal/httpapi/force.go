package httpapi

import (
	"bytes"
	"context"
	"encoding/binary"
	"encoding/json"
	"math"
	"net/http"
	"path/filepath"
	"strings"
	"time"

	"dunnock/internal/app"
	"dunnock/internal/core/civil"
	"dunnock/internal/core/force"
	"dunnock/internal/core/swing"
	"dunnock/internal/forcefile"
	"dunnock/internal/formats"
	"dunnock/internal/httpapi/gen"

	openapi "github.com/oapi-codegen/runtime/types"
)

// LookAtForceFile says what a file of ground force holds.
func (s *Server) LookAtForceFile(ctx context.Context, r gen.LookAtForceFileRequestObject) (gen.LookAtForceFileResponseObject, error) {
	var m *forcefile.Mapping
	if text := orZero(r.Params.Mapping); text != "" {
		m = &forcefile.Mapping{}
		if err := json.Unmarshal([]byte(text), m); err != nil {
			return nil, &app.Error{Kind: app.Invalid, Text: "The mapping is no JSON: " + err.Error()}
		}
	}
	l, err := s.app.LookAtForce(ctx, actor(ctx), force.Side(r.Params.Side), m, orZero(r.Params.Hash), r.Body)
	if err != nil {
		return nil, err
	}
	return gen.LookAtForceFile200JSONResponse(*l), nil
}

// RememberForceMapping keeps how files of one source are read.
func (s *Server) RememberForceMapping(ctx context.Context, r gen.RememberForceMappingRequestObject) (gen.RememberForceMappingResponseObject, error) {
	return gen.RememberForceMapping204Response{}, s.app.RememberForceMapping(ctx, actor(ctx), r.Fingerprint, *r.Body)
}

// SaveForceWindows sets the practice's own limits.
func (s *Server) SaveForceWindows(ctx context.Context, r gen.SaveForceWindowsRequestObject) (gen.SaveForceWindowsResponseObject, error) {
	return gen.SaveForceWindows204Response{}, s.app.SaveForceWindows(ctx, actor(ctx), r.Body.Limits)
}

func recording(v *app.RecordingView) gen.Recording {
	out := gen.Recording{
		Id: v.ID, AthleteId: v.AthleteID, Date: v.Date, Kind: gen.RecordingKind(v.Kind), Name: v.Name, Side: gen.RecordingSide(v.Side), Club: v.Club, Pending: v.Pending,
		Source: v.Source, RawBytes: v.RawBytes, Version: v.Version, CreatedAt: v.CreatedAt.UTC().Format(time.RFC3339), CreatedBy: v.CreatedBy, Verdict: v.Verdict, Change: v.Change,
		Settings: gen.ForceSettings(v.Settings), Mapping: v.Mapping, Jump: v.Jump, Swing: v.Swing, Cells: []gen.FilledCell{}, Windows: v.Windows, Baseline: v.Baseline, Answers: v.Answers, Findings: v.Findings,
	}
	for _, c := range v.Cells {
		out.Cells = append(out.Cells, gen.FilledCell(c))
	}
	if out.Windows == nil {
		out.Windows = []force.Window{}
	}
	if out.Answers == nil {
		out.Answers = []swing.Answer{}
	}
	if out.Findings == nil {
		out.Findings = []force.Finding{}
	}
	return out
}

// AddRecording analyses a file and stores it.
func (s *Server) AddRecording(ctx context.Context, r gen.AddRecordingRequestObject) (gen.AddRecordingResponseObject, error) {
	n := app.NewRecording{Hash: orZero(r.Params.Hash), Name: r.Params.Name, Kind: string(r.Params.Kind), Club: orZero(r.Params.Club), Fill: r.Params.Fill == nil || *r.Params.Fill}
	if r.Params.Side != nil {
		n.Side = force.Side(*r.Params.Side)
	}
	if d := orZero(r.Params.Date); d != "" {
		var err error
		if n.Date, err = civil.Parse(d); err != nil {
			return nil, &app.Error{Kind: app.Invalid, Text: "The day is written YYYY-MM-DD."}
		}
	}
	n.Settings.Swing.ImpactS, n.Settings.Swing.TopS = r.Params.ImpactS, r.Params.TopS
	v, err := s.app.AddRecording(ctx, actor(ctx), r.AthleteId.String(), n, r.Body)
	if err != nil {
		return nil, err
	}
	return gen.AddRecording201JSONResponse(recording(v)), nil
}

// GetRecording answers one recording.
func (s *Server) GetRecording(ctx context.Context, r gen.GetRecordingRequestObject) (gen.GetRecordingResponseObject, error) {
	v, err := s.app.Recording(ctx, actor(ctx), r.RecordingId.String())
	if err != nil {
		return nil, err
	}
	return gen.GetRecording200JSONResponse(recording(v)), nil
}

// ChangeRecording analyses a recording anew, or keeps a captured one.
func (s *Server) ChangeRecording(ctx context.Context, r gen.ChangeRecordingRequestObject) (gen.ChangeRecordingResponseObject, error) {
	v, err := s.app.ChangeRecordingTo(
		ctx,
		actor(ctx),
		r.RecordingId.String(),
		app.ChangeRecording{Settings: (*app.ForceSettings)(r.Body.Settings), Club: r.Body.Club, Keep: orZero(r.Body.Keep), Fill: orZero(r.Body.Fill)},
	)
	if err != nil {
		return nil, err
	}
	return gen.ChangeRecording200JSONResponse(recording(v)), nil
}

// DeleteRecording removes a recording.
func (s *Server) DeleteRecording(ctx context.Context, r gen.DeleteRecordingRequestObject) (gen.DeleteRecordingResponseObject, error) {
	return gen.DeleteRecording204Response{}, s.app.DeleteRecording(ctx, actor(ctx), r.RecordingId.String())
}

// RecomputeRecordings analyses all of a golfer's recordings anew.
func (s *Server) RecomputeRecordings(ctx context.Context, r gen.RecomputeRecordingsRequestObject) (gen.RecomputeRecordingsResponseObject, error) {
	done, problems, err := s.app.Recompute(ctx, actor(ctx), r.AthleteId.String(), app.ForceSettings(*r.Body))
	if err != nil {
		return nil, err
	}
	return gen.RecomputeRecordings200JSONResponse{Done: done, Problems: problems}, nil
}

// GetForce answers a golfer's force page.
func (s *Server) GetForce(ctx context.Context, r gen.GetForceRequestObject) (gen.GetForceResponseObject, error) {
	f, err := s.app.Force(ctx, actor(ctx), r.AthleteId.String())
	if err != nil {
		return nil, err
	}
	out := gen.GetForce200JSONResponse{
		Recordings: make([]gen.Recording, len(f.Recordings)), Windows: f.Windows, Limits: f.Limits, Findings: f.Findings, FindingsFrom: f.FindingsFrom,
		Compared: f.Compared, ComparedOn: f.ComparedOn, SwingMean: f.SwingMean, SwingBefore: f.SwingBefore, SwingOn: f.SwingOn,
	}
	for i, v := range f.Recordings {
		out.Recordings[i] = recording(v)
	}
	return out, nil
}

// OverlaySwings lays sets of swings over each other.
func (s *Server) OverlaySwings(ctx context.Context, r gen.OverlaySwingsRequestObject) (gen.OverlaySwingsResponseObject, error) {
	ids := func(list []openapi.UUID) []string {
		out := make([]string, len(list))
		for i, x := range list {
			out[i] = x.String()
		}
		return out
	}
	o, err := s.app.CompareSwings(ctx, actor(ctx), r.AthleteId.String(), ids(r.Body.First), ids(r.Body.Second))
	if err != nil {
		return nil, err
	}
	return gen.OverlaySwings200JSONResponse(*o), nil
}

// traceHead is the head of a trace; the numbers follow channel by channel.
type traceHead struct {
	RateHz   float64        `json:"rateHz"`
	StartS   float64        `json:"startS"`
	Samples  int            `json:"samples"`
	Channels []traceChannel `json:"channels"`
}

type traceChannel struct {
	Foot string `json:"foot"` // lead, trail, total or both
	Name string `json:"name"`
	Unit string `json:"unit"`
}

// GetTrace answers the signals of a recording in full.
func (s *Server) GetTrace(ctx context.Context, r gen.GetTraceRequestObject) (gen.GetTraceResponseObject, error) {
	t, err := s.app.Traces(ctx, actor(ctx), r.RecordingId.String())
	if err != nil {
		return nil, err
	}
	head := traceHead{RateHz: t.RateHz, StartS: t.StartS, Samples: len(t.Channels[0].Values)}
	for _, c := range t.Channels {
		head.Channels = append(head.Channels, traceChannel{c.Foot, c.Name, c.Unit})
	}
	b, err := json.Marshal(head)
	if err != nil {
		return nil, err
	}
	for (len(b)+4)%8 != 0 {
		b = append(b, ' ')
	}
	out := make([]byte, 4+len(b)+4*len(t.Channels)*head.Samples)
	binary.LittleEndian.PutUint32(out, uint32(len(b)))
	at := 4 + copy(out[4:], b)
	for _, c := range t.Channels {
		for _, v := range c.Values {
			binary.LittleEndian.PutUint32(out[at:], math.Float32bits(float32(v)))
			at += 4
		}
	}
	return gen.GetTrace200ApplicationoctetStreamResponse{Body: bytes.NewReader(out), ContentLength: int64(len(out))}, nil
}

// ExportRecording answers the signals, the result, or the file as it came.
func (s *Server) ExportRecording(ctx context.Context, r gen.ExportRecordingRequestObject) (gen.ExportRecordingResponseObject, error) {
	who, id := actor(ctx), r.RecordingId.String()
	if r.Format == "csv" {
		t, err := s.app.Traces(ctx, who, id)
		if err != nil {
			return nil, err
		}
		var b bytes.Buffer
		if err := t.WriteCSV(&b); err != nil {
			return nil, err
		}
		return gen.ExportRecording200TextcsvResponse{
			Body:          &b,
			ContentLength: int64(b.Len()),
			Headers:       gen.ExportRecording200ResponseHeaders{ContentDisposition: attachment(stem(t.View.Name), "signals", "csv")},
		}, nil
	}
	v, err := s.app.Recording(ctx, who, id)
	if err != nil {
		return nil, err
	}
	if r.Format == "raw" {
		b, err := s.app.RecordingFile(ctx, who, id)
		if err != nil {
			return nil, err
		}
		ext := strings.TrimPrefix(filepath.Ext(v.Name), ".")
		if ext == "" {
			ext = "csv"
		}
		return gen.ExportRecording200ApplicationoctetStreamResponse{
			Body:          bytes.NewReader(b),
			ContentLength: int64(len(b)),
			Headers:       gen.ExportRecording200ResponseHeaders{ContentDisposition: attachment(stem(v.Name), ext)},
		}, nil
	}
	return recordingExport{
		gen.RecordingExport{
			Name:     v.Name,
			Date:     v.Date.String(),
			Kind:     v.Kind,
			Side:     v.Side,
			Club:     &v.Club,
			Version:  v.Version,
			Settings: gen.ForceSettings(v.Settings),
			Mapping:  v.Mapping,
			Jump:     v.Jump,
			Swing:    v.Swing,
		},
		attachment(stem(v.Name), "result", "json"),
	}, nil
}

func stem(name string) string { return strings.TrimSuffix(name, filepath.Ext(name)) }

// recordingExport is a result as an indented file.
type recordingExport struct {
	body gen.RecordingExport
	name *string
}

// VisitExportRecordingResponse writes the answer.
func (e recordingExport) VisitExportRecordingResponse(w http.ResponseWriter) error {
	w.Header().Set("Content-Type", "application/json")
	w.Header().Set("Content-Disposition", *e.name)
	return formats.WriteJSON(w, e.body)
}
