package httpapi

import (
	"bytes"
	"context"
	"net/http"
	"strings"

	"dunnock/internal/core/programme"
	"dunnock/internal/formats"
	"dunnock/internal/httpapi/gen"
)

// ExportProgramme answers a programme, or a part of it, on paper or as a table.
func (s *Server) ExportProgramme(ctx context.Context, r gen.ExportProgrammeRequestObject) (gen.ExportProgrammeResponseObject, error) {
	if r.Format == "json" {
		file, golfer, err := s.app.PlanFile(ctx, actor(ctx), r.ProgrammeId.String())
		if err != nil {
			return nil, err
		}
		return planFile{file, *attachment(golfer, "programme", "json")}, nil
	}
	sheet, err := s.app.PlanSheet(ctx, actor(ctx), r.ProgrammeId.String(), programme.ID(orZero(r.Params.At)))
	if err != nil {
		return nil, err
	}
	var b bytes.Buffer
	h := gen.ExportProgramme200ResponseHeaders{ContentDisposition: attachment(sheet.Golfer, "programme", sheet.Plan.StartDate.String(), string(r.Format))}
	switch r.Format {
	case "csv":
		err = formats.WritePlanCSV(&b, sheet)
		return gen.ExportProgramme200TextcsvResponse{Body: &b, Headers: h, ContentLength: int64(b.Len())}, err
	case "xlsx":
		err = formats.WritePlanXLSX(&b, sheet)
		return gen.ExportProgramme200ApplicationvndOpenxmlformatsOfficedocumentSpreadsheetmlSheetResponse{Body: &b, Headers: h, ContentLength: int64(b.Len())}, err
	}
	paper := "a4"
	if p := r.Params.Paper; p != nil {
		paper = string(*p)
	}
	if orZero(r.Params.Show) {
		inline := "inline" + strings.TrimPrefix(*h.ContentDisposition, "attachment")
		h.ContentDisposition = &inline
	}
	err = formats.WritePlan(&b, sheet, paper)
	return gen.ExportProgramme200ApplicationpdfResponse{Body: &b, Headers: h, ContentLength: int64(b.Len())}, err
}

// planFile answers a plan as it is written to be read back, byte for byte.
type planFile struct {
	body       []byte
	attachment string
}

// VisitExportProgrammeResponse writes it.
func (f planFile) VisitExportProgrammeResponse(w http.ResponseWriter) error {
	w.Header().Set("Content-Type", "application/json")
	w.Header().Set("Content-Disposition", f.attachment)
	_, err := w.Write(f.body)
	return err
}
