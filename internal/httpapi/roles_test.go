package httpapi

import (
	"go/parser"
	"go/token"
	"net/http"
	"net/http/httptest"
	"os"
	"strings"
	"testing"
	"time"

	"github.com/getkin/kin-openapi/openapi3"
	"github.com/labstack/echo/v5"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dunnock/internal/app"
	"dunnock/internal/core/civil"
	"dunnock/internal/core/testkit"
	"dunnock/internal/core/unit"
	"dunnock/internal/httpapi/gen"
	"dunnock/internal/postgres/pgtest"
)

func TestEveryRouteStatesItsLeastRole(t *testing.T) {
	contract, err := gen.GetSpec()
	require.NoError(t, err)
	least, err := leastRoles(contract)
	require.NoError(t, err)
	db := pgtest.Store(t)
	handler, end, err := New(Options{App: app.New(db, time.Now, testkit.Day), Store: db})
	require.NoError(t, err)
	t.Cleanup(end)
	served := 0
	for _, r := range handler.(*echo.Echo).Router().Routes() {
		if r.Path == Base+"/*" || !strings.HasPrefix(r.Path, Base+"/") {
			continue
		}
		served++
		assert.Contains(t, least, r.Method+" "+r.Path)
	}
	assert.Equal(t, len(least), served)
	assert.Equal(t, app.Anybody, least["POST "+Base+"/session"])
	assert.Equal(t, app.Coach, least["GET "+Base+"/athletes/:athleteId"])
	assert.Equal(t, app.Coach, least["POST "+Base+"/devices/plates/live"])
}

func TestARouteWithoutARoleStopsTheServer(t *testing.T) {
	for _, role := range []any{nil, "", "owner", 3} {
		op := &openapi3.Operation{Extensions: map[string]any{"x-least-role": role}}
		contract := &openapi3.T{Paths: openapi3.NewPaths(openapi3.WithPath("/golfers", &openapi3.PathItem{Get: op}))}
		_, err := leastRoles(contract)
		assert.ErrorContains(t, err, "no known x-least-role for GET /golfers")
	}
}

// The wire may name the core's judged types and those of the files, never the
// store's or the use cases'.
func TestTheWireNamesNeitherStoreNorUseCases(t *testing.T) {
	b, err := os.ReadFile("gen/api.gen.go")
	require.NoError(t, err)
	f, err := parser.ParseFile(token.NewFileSet(), "api.gen.go", b, parser.ImportsOnly)
	require.NoError(t, err)
	for _, i := range f.Imports {
		assert.NotRegexp(t, `dunnock/internal/(app|store)"`, i.Path.Value)
	}
}

// An answer made for one role is not given to another, nor in other units, nor on
// another day.
func TestKeptAnswersAreKeyedByWhatTheyDependOn(t *testing.T) {
	r := httptest.NewRequest(http.MethodGet, "/api/v1/athletes", nil)
	day := civil.MustParse("2026-11-02")
	coach := app.Actor{Role: app.Coach, Units: unit.Preference{Speed: "mph"}}
	key := answerKey(&coach, day, r)
	again := coach
	assert.Equal(t, key, answerKey(&again, day, r), "the same answer for the same")
	nobody, metric := coach, coach
	nobody.Role, metric.Units.Speed = app.Anybody, "m/s"
	zipped := r.Clone(t.Context())
	zipped.Header.Set("Accept-Encoding", "gzip")
	for what, other := range map[string]string{
		"role":     answerKey(&nobody, day, r),
		"units":    answerKey(&metric, day, r),
		"day":      answerKey(&coach, day.Add(1), r),
		"encoding": answerKey(&coach, day, zipped),
		"address":  answerKey(&coach, day, httptest.NewRequest(http.MethodGet, "/api/v1/days", nil)),
	} {
		assert.NotEqual(t, key, other, "another %s is another answer", what)
	}
}
