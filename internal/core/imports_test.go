// Package core_test guards the core's border.
package core_test

import (
	"go/ast"
	"go/parser"
	"go/token"
	"io/fs"
	"path/filepath"
	"strconv"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"
)

// The core imports the standard library, gonum, what the standard library keeps apart
// to take accents from letters, and itself: nothing else. And of
// the standard library nothing that reads a clock, a random source, the
// environment, a file or a network; those are arguments.
func TestTheCoreStandsAlone(t *testing.T) {
	forbidden := map[string]bool{
		"os":           true,
		"os/exec":      true,
		"net":          true,
		"net/http":     true,
		"database/sql": true,
		"math/rand":    true,
		"math/rand/v2": true,
		"crypto/rand":  true,
		"io/ioutil":    true,
		"log":          true,
		"log/slog":     true,
	}
	files := 0
	err := filepath.WalkDir(".", func(path string, d fs.DirEntry, err error) error {
		if err != nil || d.IsDir() || !strings.HasSuffix(path, ".go") || strings.HasSuffix(path, "_test.go") || strings.HasPrefix(path, "testkit") {
			return err
		}
		files++
		src, err := parser.ParseFile(token.NewFileSet(), path, nil, parser.SkipObjectResolution)
		if err != nil {
			return err
		}
		for _, im := range src.Imports {
			name, _ := strconv.Unquote(im.Path.Value)
			ours := strings.HasPrefix(name, "dunnock/internal/core/")
			standard := !strings.Contains(strings.Split(name, "/")[0], ".") && !strings.HasPrefix(name, "dunnock/")
			if forbidden[name] || !ours && !standard && !strings.HasPrefix(name, "gonum.org/v1/gonum/") && name != "golang.org/x/text/unicode/norm" {
				t.Errorf("%s imports %s", path, name)
			}
		}
		ast.Inspect(src, func(n ast.Node) bool {
			if sel, ok := n.(*ast.SelectorExpr); ok {
				if pkg, ok := sel.X.(*ast.Ident); ok && pkg.Name == "time" && (sel.Sel.Name == "Now" || sel.Sel.Name == "Since") {
					t.Errorf("%s reads the clock", path)
				}
			}
			return true
		})
		return nil
	})
	require.NoError(t, err)
	require.Greater(t, files, 15)
}
