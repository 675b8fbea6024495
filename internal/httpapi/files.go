package httpapi

import (
	"bytes"
	"context"
	"fmt"
	"mime"
	"net/http"
	"strings"
	"time"

	"dunnock/internal/app"
	"dunnock/internal/formats"
	"dunnock/internal/httpapi/gen"
)

// ListUploads answers the files that were brought in.
func (s *Server) ListUploads(ctx context.Context, _ gen.ListUploadsRequestObject) (gen.ListUploadsResponseObject, error) {
	list, err := s.app.Imports(ctx, actor(ctx))
	if err != nil {
		return nil, err
	}
	out := make(gen.ListUploads200JSONResponse, len(list))
	for i, x := range list {
		out[i] = gen.UploadRow{
			Id:        x.ID,
			FileName:  x.FileName,
			State:     gen.UploadState(x.State),
			Note:      x.Note,
			CreatedAt: x.CreatedAt.UTC().Format(time.RFC3339),
			CreatedBy: x.CreatedBy,
		}
	}
	return out, nil
}

func upload(v *app.ImportView) gen.Upload {
	out := gen.Upload{
		Id:        v.ID,
		FileName:  v.FileName,
		State:     gen.UploadState(v.State),
		Done:      v.Done,
		Total:     v.Total,
		Note:      v.Note,
		CreatedAt: v.CreatedAt.UTC().Format(time.RFC3339),
		CreatedBy: v.CreatedBy,
		Report:    v.Report,
	}
	if v.Header == nil {
		return out // it is being worked on, or its rows were dropped
	}
	out.Kind, out.Encoding, out.Known, out.Rows = &v.Kind, optional(v.Encoding), optional(v.Known), &v.Rows
	out.Header, out.Sample, out.Mapping = &v.Header, &v.Sample, &v.Proposed
	pages, first := make([]gen.UploadPage, len(v.Sheets)), make([]gen.UploadLine, len(v.First))
	for i, s := range v.Sheets {
		pages[i] = gen.UploadPage{Name: s.Name, Hidden: optional(s.Hidden), Rows: s.Rows}
	}
	for i, r := range v.First {
		first[i] = gen.UploadLine{Line: r.Line, Cells: r.Cells}
	}
	out.Pages, out.First = &pages, &first
	return out
}

// CreateUpload keeps a file.
func (s *Server) CreateUpload(ctx context.Context, r gen.CreateUploadRequestObject) (gen.CreateUploadResponseObject, error) {
	v, err := s.app.Upload(ctx, actor(ctx), r.Params.Name, r.Body)
	if err != nil {
		return nil, err
	}
	return gen.CreateUpload201JSONResponse(upload(v)), nil
}

// GetUpload answers one file.
func (s *Server) GetUpload(ctx context.Context, r gen.GetUploadRequestObject) (gen.GetUploadResponseObject, error) {
	v, err := s.app.Import(ctx, actor(ctx), r.UploadId.String())
	if err != nil {
		return nil, err
	}
	return gen.GetUpload200JSONResponse(upload(v)), nil
}

// CheckUpload reads a file without saving.
func (s *Server) CheckUpload(ctx context.Context, r gen.CheckUploadRequestObject) (gen.CheckUploadResponseObject, error) {
	v, err := s.app.CheckImport(ctx, actor(ctx), r.UploadId.String(), *r.Body)
	if err != nil {
		return nil, err
	}
	return gen.CheckUpload200JSONResponse(upload(v)), nil
}

// LayUpload reads a file by another layout.
func (s *Server) LayUpload(ctx context.Context, r gen.LayUploadRequestObject) (gen.LayUploadResponseObject, error) {
	v, err := s.app.LayImport(ctx, actor(ctx), r.UploadId.String(), *r.Body)
	if err != nil {
		return nil, err
	}
	return gen.LayUpload200JSONResponse(upload(v)), nil
}

// CommitUpload saves a checked file.
func (s *Server) CommitUpload(ctx context.Context, r gen.CommitUploadRequestObject) (gen.CommitUploadResponseObject, error) {
	v, err := s.app.CommitImport(ctx, actor(ctx), r.UploadId.String(), orZero(r.Body.KeepUnlikely))
	if err != nil {
		return nil, err
	}
	return gen.CommitUpload200JSONResponse(upload(v)), nil
}

// CancelUpload asks a running import to stop.
func (s *Server) CancelUpload(ctx context.Context, r gen.CancelUploadRequestObject) (gen.CancelUploadResponseObject, error) {
	return gen.CancelUpload204Response{}, s.app.CancelImport(ctx, actor(ctx), r.UploadId.String())
}

// UndoUpload takes an import back.
func (s *Server) UndoUpload(ctx context.Context, r gen.UndoUploadRequestObject) (gen.UndoUploadResponseObject, error) {
	v, err := s.app.UndoImport(ctx, actor(ctx), r.UploadId.String())
	if err != nil {
		return nil, err
	}
	return gen.UndoUpload200JSONResponse(upload(v)), nil
}

// attachment names a download; the name is safe on every system.
func attachment(parts ...string) *string {
	name := strings.Map(func(r rune) rune {
		switch {
		case r == ' ':
			return '-'
		case strings.ContainsRune(`/\:*?"<>|`, r), r < ' ':
			return -1
		}
		return r
	}, strings.ToLower(strings.Join(parts, "-")))
	i := strings.LastIndex(name, "-")
	name = name[:i] + "." + name[i+1:]
	d := mime.FormatMediaType("attachment", map[string]string{"filename": name})
	return &d
}

// export writes trials in a format into a buffer, so that an error is answered
// as one.
func (s *Server) export(ctx context.Context, format string, golfers ...string) (*bytes.Buffer, *string, error) {
	files, tests, err := s.app.ExportFiles(ctx, actor(ctx), golfers...)
	if err != nil {
		return nil, nil, err
	}
	who := actor(ctx).Practice
	if len(golfers) == 1 {
		who = files[0].Athlete.Name
	}
	var b bytes.Buffer
	ext := format
	switch format {
	case "csv":
		err = formats.WriteTidyCSV(&b, files)
	case "xlsx":
		err = formats.WriteTidyXLSX(&b, files, tests)
	case "fhir":
		ext = "json"
		err = formats.WriteFHIR(&b, files[0])
	default:
		err = fmt.Errorf("no format %q", format)
	}
	return &b, attachment(who, "trials", s.app.Today(actor(ctx).Zone).String(), ext), err
}

// ExportScreens answers one golfer's trials.
func (s *Server) ExportScreens(ctx context.Context, r gen.ExportScreensRequestObject) (gen.ExportScreensResponseObject, error) {
	b, name, err := s.export(ctx, string(r.Format), r.AthleteId.String())
	if err != nil {
		return nil, err
	}
	h := gen.ExportScreens200ResponseHeaders{ContentDisposition: name}
	switch r.Format {
	case "csv":
		return gen.ExportScreens200TextcsvResponse{Body: b, Headers: h, ContentLength: int64(b.Len())}, nil
	case "xlsx":
		return gen.ExportScreens200ApplicationvndOpenxmlformatsOfficedocumentSpreadsheetmlSheetResponse{Body: b, Headers: h, ContentLength: int64(b.Len())}, nil
	}
	return fhirExport{b, name}, nil
}

// fhirExport writes the bundle as it is, under the media type of the standard.
type fhirExport struct {
	body *bytes.Buffer
	name *string
}

// VisitExportScreensResponse writes the answer.
func (e fhirExport) VisitExportScreensResponse(w http.ResponseWriter) error {
	w.Header().Set("Content-Type", "application/fhir+json")
	w.Header().Set("Content-Disposition", *e.name)
	_, err := e.body.WriteTo(w)
	return err
}

// ExportSquad answers every golfer's trials.
func (s *Server) ExportSquad(ctx context.Context, r gen.ExportSquadRequestObject) (gen.ExportSquadResponseObject, error) {
	b, name, err := s.export(ctx, string(r.Format), orZero(r.Params.Golfers)...)
	if err != nil {
		return nil, err
	}
	h := gen.ExportSquad200ResponseHeaders{ContentDisposition: name}
	if r.Format == "csv" {
		return gen.ExportSquad200TextcsvResponse{Body: b, Headers: h, ContentLength: int64(b.Len())}, nil
	}
	return gen.ExportSquad200ApplicationvndOpenxmlformatsOfficedocumentSpreadsheetmlSheetResponse{Body: b, Headers: h, ContentLength: int64(b.Len())}, nil
}

// WriteReferral answers the referral note.
func (s *Server) WriteReferral(ctx context.Context, r gen.WriteReferralRequestObject) (gen.WriteReferralResponseObject, error) {
	n, err := s.app.Referral(ctx, actor(ctx), r.AthleteId.String(), string(r.Body.To), orZero(r.Body.Remark))
	if err != nil {
		return nil, err
	}
	return gen.WriteReferral200JSONResponse(*n), nil
}

// WriteReferralPdf answers the referral note on A4.
func (s *Server) WriteReferralPdf(ctx context.Context, r gen.WriteReferralPdfRequestObject) (gen.WriteReferralPdfResponseObject, error) {
	n, err := s.app.Referral(ctx, actor(ctx), r.AthleteId.String(), string(r.Body.To), orZero(r.Body.Remark))
	if err != nil {
		return nil, err
	}
	var b bytes.Buffer
	if err := formats.WriteReferral(&b, n); err != nil {
		return nil, err
	}
	return gen.WriteReferralPdf200ApplicationpdfResponse{
		Body:          &b,
		ContentLength: int64(b.Len()),
		Headers:       gen.WriteReferralPdf200ResponseHeaders{ContentDisposition: attachment("referral", n.Golfer, n.On.String(), "pdf")},
	}, nil
}

// CreateFromFile makes a golfer out of an export.
func (s *Server) CreateFromFile(ctx context.Context, r gen.CreateFromFileRequestObject) (gen.CreateFromFileResponseObject, error) {
	g, err := s.app.BringGolfer(ctx, actor(ctx), r.Body)
	if err != nil {
		return nil, err
	}
	return gen.CreateFromFile201JSONResponse(golfer(g)), nil
}
