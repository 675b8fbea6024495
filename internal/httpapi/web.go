package httpapi

import (
	"bytes"
	"crypto/rand"
	"fmt"
	"io/fs"
	"net/http"
	"path"
	"strings"

	"github.com/labstack/echo/v5"
	"github.com/labstack/echo/v5/middleware"
)

// nonceMark stands in index.html where each answer puts its own nonce.
const nonceMark = "__NONCE__"

// secure sets the headers every answer carries.
func secure(next echo.HandlerFunc) echo.HandlerFunc {
	return func(c *echo.Context) error {
		h := c.Response().Header()
		h.Set("X-Content-Type-Options", "nosniff")
		h.Set("X-Frame-Options", "DENY")
		h.Set("Referrer-Policy", "no-referrer")
		h.Set("Permissions-Policy", "camera=(), microphone=(), geolocation=()")
		h.Set("Cross-Origin-Opener-Policy", "same-origin")
		h.Set("Content-Security-Policy", "default-src 'none'; frame-ancestors 'none'")
		if strings.HasPrefix(c.Request().URL.Path, Base) {
			h.Set("Cache-Control", "no-store")
		}
		return next(c)
	}
}

// frontEnd serves the built front end: files by their name, and index.html for
// every other address, so that a reload stays where it is.
func frontEnd(e *echo.Echo, web fs.FS) error {
	index, err := fs.ReadFile(web, "index.html")
	if err != nil {
		return fmt.Errorf("the front end is not built into this binary: run make build")
	}
	files := http.FileServerFS(web)
	page := func(c *echo.Context) error {
		name := strings.TrimPrefix(path.Clean(c.Request().URL.Path), "/")
		if name != "" && name != "index.html" {
			if st, err := fs.Stat(web, name); err == nil && !st.IsDir() {
				switch name {
				case "worker.js": // it fetches the shell
					c.Response().Header().Set("Content-Security-Policy", "default-src 'none'; connect-src 'self'")
					c.Response().Header().Set("Cache-Control", "no-cache")
				case "manifest.webmanifest":
					c.Response().Header().Set("Content-Type", "application/manifest+json")
				}
				if strings.HasPrefix(name, "assets/") {
					c.Response().Header().Set("Cache-Control", "public, max-age=31536000, immutable")
				}
				files.ServeHTTP(c.Response(), c.Request())
				return nil
			}
			if strings.HasPrefix(name, "assets/") {
				return echo.ErrNotFound
			}
		}
		nonce := rand.Text()
		h := c.Response().Header()
		h.Set("Cache-Control", "no-store")
		h.Set(
			"Content-Security-Policy",
			"default-src 'self'; script-src 'self' 'nonce-"+nonce+"'; style-src 'self' 'nonce-"+nonce+"'; style-src-attr 'unsafe-inline'; img-src 'self' data:; font-src 'self'; connect-src 'self'; object-src 'none'; base-uri 'none'; form-action 'self'; frame-ancestors 'none'",
		)
		return c.HTMLBlob(http.StatusOK, bytes.ReplaceAll(index, []byte(nonceMark), []byte(nonce)))
	}
	e.GET("/*", page, middleware.GzipWithConfig(middleware.GzipConfig{Level: 6, MinLength: 1400}))
	return nil
}
