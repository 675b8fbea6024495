package main

import (
	"bytes"
	"os"
	"path/filepath"
	"testing"

	"github.com/getkin/kin-openapi/openapi3"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func files(t *testing.T, contents map[string]string) string {
	t.Helper()
	dir := t.TempDir()
	for name, text := range contents {
		require.NoError(t, os.WriteFile(filepath.Join(dir, name), []byte(text), 0o644))
	}
	return dir
}

const head = "openapi: 3.0.3\ninfo: {title: T, version: '1'}\ncomponents:\n  parameters: {}\n"

func TestAreasAreBundledUnderTheHead(t *testing.T) {
	dir := files(t, map[string]string{
		"openapi.yaml": head,
		"a.yaml":       "paths:\n  /a: {get: {responses: {'200': {description: A}}}}\ncomponents:\n  schemas:\n    A: {type: string}\n",
		"b.yaml":       "components:\n  schemas:\n    B: {type: integer}\n",
	})
	var out bytes.Buffer
	require.NoError(t, bundle(&out, dir))
	doc, err := openapi3.NewLoader().LoadFromData(out.Bytes())
	require.NoError(t, err)
	assert.NotNil(t, doc.Paths.Find("/a"))
	assert.Contains(t, doc.Components.Schemas, "A")
	assert.Contains(t, doc.Components.Schemas, "B")
}

func TestWhatDoesNotFitTogetherIsNamed(t *testing.T) {
	const a = "components:\n  schemas:\n    A: {type: string}\n"
	for want, contents := range map[string]map[string]string{
		"schema A stands in a.yaml and in b.yaml": {"openapi.yaml": head, "a.yaml": a, "b.yaml": a},
		"a.yaml: yaml: unmarshal errors":          {"openapi.yaml": head, "a.yaml": "servers: []\n"},
		"no such file":                            {"a.yaml": a},
	} {
		assert.ErrorContains(t, bundle(&bytes.Buffer{}, files(t, contents)), want)
	}
}

func TestTheContractIsWhole(t *testing.T) {
	var out bytes.Buffer
	require.NoError(t, bundle(&out, "../contract"))
	loader := openapi3.NewLoader()
	doc, err := loader.LoadFromData(out.Bytes())
	require.NoError(t, err)
	require.NoError(t, doc.Validate(loader.Context))
}
