// Package web embeds the built pages.
package web

import (
	"embed"
	"io/fs"
	"net/http"
	"path"
	"strings"
)

// dist is made by `npm run build`; a fresh clone has only a placeholder in it.
//
//go:embed all:dist
var dist embed.FS

const unbuilt = `<!doctype html><title>Jointime</title><p>The pages are not built yet. ` +
	`Run <code>./start</code>, or <code>npm ci &amp;&amp; npm run build</code> in <code>web/</code>, then build the program again.`

// Handler serves the pages. Files under assets carry a hash in their name and
// may be kept for ever; every other path is a page of the application.
func Handler() http.Handler {
	root, err := fs.Sub(dist, "dist")
	if err != nil {
		panic(err) // the folder is embedded above
	}
	index, err := fs.ReadFile(root, "index.html")
	if err != nil {
		index = []byte(unbuilt)
	}
	files := http.FileServerFS(root)
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		name := strings.TrimPrefix(path.Clean(r.URL.Path), "/")
		if info, err := fs.Stat(root, name); err == nil && !info.IsDir() && name != "index.html" {
			if strings.HasPrefix(name, "assets/") {
				w.Header().Set("Cache-Control", "public, max-age=31536000, immutable")
			} else {
				w.Header().Set("Cache-Control", "no-cache") // the service worker above all: an old one must not outlive its build
			}
			files.ServeHTTP(w, r)
			return
		}
		if strings.HasPrefix(name, "assets/") {
			http.NotFound(w, r)
			return
		}
		w.Header().Set("Content-Type", "text/html; charset=utf-8")
		w.Header().Set("Cache-Control", "no-cache")
		_, _ = w.Write(index)
	})
}
