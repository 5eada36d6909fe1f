package server

import (
	"crypto/sha256"
	"encoding/base64"
	"errors"
	"io/fs"
	"net/http"
	"path"
	"strings"

	"github.com/labstack/echo/v5"
)

// serveUI serves the built files, and a page at every address that is no file.
func (s *Server) serveUI(files fs.FS, page string) {
	h := func(c *echo.Context) error {
		name := strings.TrimPrefix(path.Clean(c.Request().URL.Path), "/")
		if path.Ext(name) == "" {
			name = page
		}
		data, err := fs.ReadFile(files, name)
		if errors.Is(err, fs.ErrNotExist) && name == page {
			return c.String(http.StatusServiceUnavailable, "The interface has not been built. Run: make build")
		}
		if errors.Is(err, fs.ErrNotExist) {
			return echo.ErrNotFound
		}
		if err != nil {
			return err
		}
		sum := sha256.Sum256(data)
		head := c.Response().Header()
		// Embedded files carry no times; the content's own hash tells whether a copy is fresh.
		head.Set("ETag", `"`+base64.RawURLEncoding.EncodeToString(sum[:12])+`"`)
		head.Set("Cache-Control", "no-cache")
		if strings.HasPrefix(name, "assets/") {
			head.Set("Cache-Control", "public, max-age=31536000, immutable")
		}
		if c.Request().Header.Get("If-None-Match") == head.Get("ETag") {
			return c.NoContent(http.StatusNotModified)
		}
		return c.Blob(http.StatusOK, contentType(name), data)
	}
	s.echo.GET("/*", h)
	s.echo.HEAD("/*", h)
}

// contentType does not ask the machine's own tables, which differ.
func contentType(name string) string {
	switch path.Ext(name) {
	case ".html":
		return "text/html; charset=utf-8"
	case ".js":
		return "text/javascript; charset=utf-8"
	case ".css":
		return "text/css; charset=utf-8"
	case ".svg":
		return "image/svg+xml"
	case ".woff2":
		return "font/woff2"
	case ".woff":
		return "font/woff"
	case ".json", ".webmanifest":
		return "application/json"
	}
	return "application/octet-stream"
}
