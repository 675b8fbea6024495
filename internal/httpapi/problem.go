package httpapi

import (
	"context"
	"database/sql"
	"encoding/json"
	"errors"
	"fmt"
	"log/slog"
	"net/http"
	"strconv"
	"strings"

	"github.com/getkin/kin-openapi/openapi3"
	"github.com/getkin/kin-openapi/openapi3filter"
	"github.com/labstack/echo/v5"

	"dunnock/internal/app"
	"dunnock/internal/httpapi/gen"
	"dunnock/internal/store"
)

func problem(status int, detail string, fields []app.Field) gen.Problem {
	p := gen.Problem{Type: "about:blank", Title: http.StatusText(status), Status: status}
	if detail != "" {
		p.Detail = &detail
	}
	if len(fields) > 0 {
		errs := make([]gen.FieldError, len(fields))
		for i, f := range fields {
			errs[i] = gen.FieldError{Field: f.Name, Detail: f.Text}
			if len(f.Offers) > 0 {
				errs[i].Offers = &f.Offers
			}
			if f.Unlikely {
				errs[i].Unlikely = &f.Unlikely
			}
			if f.Clash != nil {
				errs[i].Clash = &struct {
					Seen int    `json:"seen"`
					Text string `json:"text"`
				}{f.Clash.Seen, f.Clash.Text}
			}
		}
		p.Errors = &errs
	}
	return p
}

// statusGone is answered to a browser that hung up.
const statusGone = 499

func writeProblem(w http.ResponseWriter, p gen.Problem) {
	w.Header().Set("Content-Type", "application/problem+json")
	w.Header().Set("Cache-Control", "no-store")
	w.WriteHeader(p.Status)
	_ = json.NewEncoder(w).Encode(p)
}

var statuses = map[app.Kind]int{
	app.Invalid: http.StatusUnprocessableEntity, app.NotFound: http.StatusNotFound, app.Conflict: http.StatusConflict,
	app.Refused: http.StatusForbidden, app.SignedOut: http.StatusUnauthorized, app.TooMany: http.StatusTooManyRequests, app.Unavailable: http.StatusServiceUnavailable,
}

// errorHandler answers every error as problem+json. What a coach can do nothing
// about is logged and answered without its inside.
func errorHandler(log *slog.Logger) echo.HTTPErrorHandler {
	return func(c *echo.Context, err error) {
		if r, _ := echo.UnwrapResponse(c.Response()); r != nil && r.Committed {
			return
		}
		var known *app.Error
		var body *http.MaxBytesError
		var coded echo.HTTPStatusCoder
		switch {
		case errors.Is(err, errSilent):
			writeProblem(c.Response(), errSilent.problem)
		case errors.As(err, &known):
			if known.After > 0 {
				c.Response().Header().Set("Retry-After", strconv.Itoa(int(known.After.Seconds())))
			}
			p := problem(statuses[known.Kind], known.Text, known.Fields)
			if len(known.Since) > 0 {
				p.Since = &known.Since
			}
			writeProblem(c.Response(), p)
		case store.Unavailable(err):
			c.Response().Header().Set("Retry-After", "2")
			writeProblem(c.Response(), problem(http.StatusServiceUnavailable, app.UnavailableText, nil))
		case (errors.Is(err, context.Canceled) || errors.Is(err, sql.ErrTxDone)) && c.Request().Context().Err() != nil:
			// The browser is gone: nobody reads an answer. A transaction ends with its request.
			writeProblem(c.Response(), problem(statusGone, "", nil))
		case errors.As(err, &body):
			writeProblem(c.Response(), tooLarge(body.Limit).problem)
		case asProblem(err) != nil:
			writeProblem(c.Response(), asProblem(err).problem)
		case errors.As(err, &coded):
			detail := ""
			if coded.StatusCode() == http.StatusBadRequest {
				detail = "The request is not understood: an id or a value in it has the wrong form."
			}
			writeProblem(c.Response(), problem(coded.StatusCode(), detail, nil))
		default:
			log.Error("request failed", "method", c.Request().Method, "path", logged(c), "err", err)
			writeProblem(c.Response(), problem(http.StatusInternalServerError, "Something went wrong inside Dunnock. What you typed may not be saved; try again.", nil))
		}
	}
}

// logged is the address of a request as it may stand in a log: without the secret of a
// private one.
func logged(c *echo.Context) string {
	if strings.HasPrefix(c.Path(), calendars) {
		return c.Path()
	}
	return c.Request().URL.Path
}

// problemError carries a finished problem.
type problemError struct{ problem gen.Problem }

func (e *problemError) Error() string { return e.problem.Title }

func asProblem(err error) *problemError {
	var p *problemError
	if errors.As(err, &p) {
		return p
	}
	return nil
}

func tooLarge(limit int64) *problemError {
	size := fmt.Sprintf("%d kB", limit>>10)
	if limit >= 1<<20 {
		size = fmt.Sprintf("%d MB", limit>>20)
	}
	return &problemError{
		problem(http.StatusRequestEntityTooLarge, "This is larger than "+size+", the most that is taken at once. Nothing was saved; split it and try again.", nil),
	}
}

// invalidRequest turns the contract's findings into a problem that names each
// field.
func invalidRequest(err error) error {
	var body *http.MaxBytesError
	if errors.As(err, &body) {
		return tooLarge(body.Limit)
	}
	var fields []app.Field
	collect(err, "", &fields)
	detail := "The request does not fit."
	if len(fields) > 0 {
		detail = fields[0].Text
		if fields[0].Name != "" {
			detail = fields[0].Name + ": " + detail
		}
	}
	return &problemError{problem(http.StatusUnprocessableEntity, detail, fields)}
}

func collect(err error, name string, out *[]app.Field) {
	switch e := err.(type) { //nolint:errorlint // the tree is walked by hand
	case openapi3.MultiError:
		for _, x := range e {
			collect(x, name, out)
		}
	case *openapi3filter.RequestError:
		if e.Parameter != nil {
			name = e.Parameter.Name
		}
		if e.Err == nil {
			*out = append(*out, app.Field{Name: name, Text: e.Reason})
			return
		}
		collect(e.Err, name, out)
	case *openapi3.SchemaError:
		at := name
		for _, p := range e.JSONPointer() {
			if _, err := strconv.Atoi(p); err == nil {
				at += "[" + p + "]"
				continue
			}
			if at != "" {
				at += "."
			}
			at += p
		}
		*out = append(*out, app.Field{Name: at, Text: e.Reason})
	default:
		text := err.Error()
		if i := strings.IndexByte(text, '\n'); i > 0 {
			text = text[:i]
		}
		*out = append(*out, app.Field{Name: name, Text: text})
	}
}
