package server

import (
	"embed"
	"errors"
	"io/fs"
	"mime"
	"net/http"
	"path"
	"strings"

	"github.com/gin-gonic/gin"
)

//go:embed all:dist
var dist embed.FS

// servePage serves the built front end. Addresses of views are the page's own affair and get the page; a missing file
// or API address is missing.
func servePage(c *gin.Context) {
	name := strings.TrimPrefix(path.Clean(c.Request.URL.Path), "/")
	if strings.HasPrefix(name, "api/") || c.Request.Method != http.MethodGet && c.Request.Method != http.MethodHead {
		fail(c, problem(http.StatusNotFound, "no-such-address", "There is nothing at this address.", ""))
		return
	}
	files, err := fs.Sub(dist, "dist")
	if err != nil {
		fail(c, err)
		return
	}
	if info, err := fs.Stat(files, name); err == nil && !info.IsDir() {
		if strings.HasPrefix(name, "assets/") {
			c.Header("Cache-Control", "public, max-age=31536000, immutable")
		}
		if packed, err := fs.Stat(files, name+".gz"); err == nil && !packed.IsDir() {
			c.Header("Vary", "Accept-Encoding")
			if strings.Contains(c.GetHeader("Accept-Encoding"), "gzip") {
				c.Header("Content-Encoding", "gzip")
				c.Header("Content-Type", mime.TypeByExtension(path.Ext(name)))
				name += ".gz"
			}
		}
		c.Status(http.StatusOK)
		http.ServeFileFS(c.Writer, c.Request, files, name)
		return
	}
	if path.Ext(name) != "" {
		fail(c, problem(http.StatusNotFound, "no-such-file", "There is no such file.", ""))
		return
	}
	page, err := fs.ReadFile(files, "index.html")
	if errors.Is(err, fs.ErrNotExist) { // built without Node
		page, err = fs.ReadFile(files, "placeholder.html")
	}
	if err != nil {
		fail(c, err)
		return
	}
	c.Header("Cache-Control", "no-cache")
	c.Data(http.StatusOK, "text/html; charset=utf-8", page)
}
