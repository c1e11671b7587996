package server

import (
	"bytes"
	"embed"
	"errors"
	"io/fs"
	"mime"
	"net/http"
	"path"
	"strings"

	"github.com/gin-gonic/gin"

	"draxel/server/desk"
)

//go:embed all:dist
var dist embed.FS

// Licences gives the notices of everything that is linked into the program and its page; false where it was built
// without them.
func Licences() (string, bool) {
	text, err := fs.ReadFile(dist, "dist/licences.txt")
	return string(text), err == nil
}

// pages serve the front end.
type pages struct {
	first map[string]string // by the word of a page: what it asks for beside the job
}

func pagesOf(stages []stage) *pages {
	p := &pages{map[string]string{}}
	for _, x := range stages {
		if a, is := x.(asker); is {
			page, ask := a.First()
			p.first[page] = ask
		}
	}
	return p
}

// serve serves the built front end. Addresses of views are the page's own affair and get the page; a missing file
// or API address is missing.
func (p *pages) serve(c *gin.Context) {
	name := strings.TrimPrefix(path.Clean(c.Request.URL.Path), "/")
	if strings.HasPrefix(name, "api/") || c.Request.Method != http.MethodGet && c.Request.Method != http.MethodHead {
		desk.Fail(c, desk.Refusal(http.StatusNotFound, "no-such-address", "There is nothing at this address.", ""))
		return
	}
	files, err := fs.Sub(dist, "dist")
	if err != nil {
		desk.Fail(c, err)
		return
	}
	if info, err := fs.Stat(files, name); err == nil && !info.IsDir() {
		if strings.HasPrefix(name, "assets/") {
			c.Header("Cache-Control", "public, max-age=31536000, immutable")
		}
		c.Status(http.StatusOK)
		name = packedAs(c, files, name)
		http.ServeFileFS(c.Writer, c.Request, files, name)
		return
	}
	if path.Ext(name) != "" {
		desk.Fail(c, desk.Refusal(http.StatusNotFound, "no-such-file", "There is no such file.", ""))
		return
	}
	page, err := fs.ReadFile(files, "index.html")
	if errors.Is(err, fs.ErrNotExist) { // built without Node
		page, err = fs.ReadFile(files, "placeholder.html")
	}
	if err != nil {
		desk.Fail(c, err)
		return
	}
	c.Header("Cache-Control", "no-cache")
	page = bytes.Replace(page, []byte("</head>"), []byte(p.ahead(c.Request.URL.Path)+"</head>"), 1)
	c.Data(http.StatusOK, "text/html; charset=utf-8", page)
}

// packedBeside lists the packings of a file that the build made beside it, the smallest first.
var packedBeside = []struct{ encoding, ending string }{{"br", ".br"}, {"gzip", ".gz"}}

// packedAs gives the name of the smallest packing of a file that the browser can unpack, or the file's own.
func packedAs(c *gin.Context, files fs.FS, name string) string {
	for _, p := range packedBeside {
		if _, err := fs.Stat(files, name+p.ending); err != nil {
			continue
		}
		c.Header("Vary", "Accept-Encoding")
		if strings.Contains(c.GetHeader("Accept-Encoding"), p.encoding) {
			c.Header("Content-Encoding", p.encoding)
			c.Header("Content-Type", mime.TypeByExtension(path.Ext(name)))
			return name + p.ending
		}
	}
	return name
}
