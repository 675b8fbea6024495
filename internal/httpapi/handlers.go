package httpapi

import (
	"dunnock/internal/formats"
	"dunnock/internal/formats/table"
	"dunnock/internal/httpapi/gen"
)

// The largest bodies that files come in.
const (
	maxImport = formats.MaxCSV + 1024
	maxUpload = table.MaxBytes + 1024
)

var _ gen.StrictServerInterface = (*Server)(nil)

// orZero returns what p points to, or the zero value.
func orZero[T any](p *T) T {
	if p == nil {
		var zero T
		return zero
	}
	return *p
}

// optional returns a pointer to v, or nil for the zero value.
func optional[T comparable](v T) *T {
	var zero T
	if v == zero {
		return nil
	}
	return &v
}

// knownCookie is what a browser keeps that signed in before.
const knownCookie = "dunnock_known"

type (
	cookieKey  struct{}
	browserKey struct{}
)
