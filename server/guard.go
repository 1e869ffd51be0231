package server

import (
	"bytes"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"mime"
	"net"
	"net/http"
	"slices"
	"strings"

	"github.com/danielgtaylor/huma/v2"

	"jointime/core/kitchen"
)

// loopbackHosts are the names under which this machine reaches itself.
var loopbackHosts = []string{"127.0.0.1", "localhost", "::1"}

// guard keeps out what does not come from the pages of this server. The kitchen has no
// passwords on its own machine, so another page in the cook's browser must not be able to
// speak for them: a foreign name that leads to this machine is refused, a request that
// another site's page made is, and a body has to be what the pages send.
func (s *Server) guard(next http.Handler) http.Handler {
	cross := http.NewCrossOriginProtection()
	cross.SetDenyHandler(http.HandlerFunc(func(w http.ResponseWriter, _ *http.Request) {
		problem(w, http.StatusForbidden, "This was asked by a page of another site, which may change nothing here.")
	}))
	next = cross.Handler(bodies(next))
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		if !slices.Contains(s.hosts, hostOf(r.Host)) {
			problem(w, http.StatusMisdirectedRequest,
				"This server is not called "+printable(r.Host)+": open it by the address that it said when it was started.")
			return
		}
		if c, bad := kitchen.Unprintable(r.URL.Path + r.URL.RawQuery); bad {
			problem(w, http.StatusBadRequest, fmt.Sprintf("The address holds a character that no name here has (%U).", c))
			return
		}
		for key, values := range r.URL.Query() {
			for _, v := range values {
				if c, bad := kitchen.Unprintable(v); bad {
					problem(w, http.StatusBadRequest, fmt.Sprintf("%s holds a character that cannot be shown (%U).", printable(key), c))
					return
				}
			}
		}
		next.ServeHTTP(w, r)
	})
}

// hostOf is the name in a Host header, without its port.
func hostOf(host string) string {
	if name, _, err := net.SplitHostPort(host); err == nil {
		host = name
	}
	return strings.ToLower(strings.Trim(host, "[]"))
}

// printable is a text that may be shown in an error: nothing unprintable, and not long.
func printable(s string) string {
	s = strings.Map(func(r rune) rune {
		if _, bad := kitchen.Unprintable(string(r)); bad {
			return -1
		}
		return r
	}, s)
	if r := []rune(s); len(r) > 80 {
		s = string(r[:80]) + "…"
	}
	return s
}

// bodies lets through JSON whose texts can be kept, and pictures where a picture is meant.
func bodies(next http.Handler) http.Handler {
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		if r.ContentLength == 0 || r.Method == http.MethodGet || r.Method == http.MethodHead {
			next.ServeHTTP(w, r)
			return
		}
		kind, _, err := mime.ParseMediaType(r.Header.Get("Content-Type"))
		if strings.HasSuffix(r.URL.Path, "/photograph") {
			if err != nil || kind != "image/png" && kind != "image/jpeg" {
				problem(w, http.StatusUnsupportedMediaType, "A picture is sent as image/png or image/jpeg.")
				return
			}
			next.ServeHTTP(w, r)
			return
		}
		if err != nil || kind != "application/json" {
			problem(w, http.StatusUnsupportedMediaType, "What is sent here is application/json.")
			return
		}
		raw, err := io.ReadAll(http.MaxBytesReader(w, r.Body, maxBody))
		var large *http.MaxBytesError
		switch {
		case errors.As(err, &large):
			problem(w, http.StatusRequestEntityTooLarge, fmt.Sprintf("What was sent is larger than %d kB.", maxBody>>10))
			return
		case err != nil:
			problem(w, http.StatusBadRequest, "What was sent did not arrive whole.")
			return
		}
		var v any
		if json.Unmarshal(raw, &v) == nil {
			if path, c, bad := badText(v, ""); bad {
				faulty(w, path, fmt.Sprintf("holds a character that cannot be shown (%U)", c))
				return
			}
		}
		r.Body = io.NopCloser(bytes.NewReader(raw))
		next.ServeHTTP(w, r)
	})
}

// badText finds the first text in decoded JSON that holds what cannot be kept or shown.
func badText(v any, path string) (at string, r rune, bad bool) {
	switch x := v.(type) {
	case string:
		r, bad = kitchen.Unprintable(x)
		return path, r, bad
	case []any:
		for i, y := range x {
			if at, r, bad = badText(y, fmt.Sprintf("%s[%d]", path, i)); bad {
				return at, r, bad
			}
		}
	case map[string]any:
		for k, y := range x {
			if r, bad = kitchen.Unprintable(k); bad {
				return strings.TrimPrefix(path+"."+printable(k), "."), r, true
			}
			if at, r, bad = badText(y, strings.TrimPrefix(path+"."+k, ".")); bad {
				return at, r, bad
			}
		}
	}
	return "", 0, false
}

// faulty answers that one field of what was sent is wrong.
func faulty(w http.ResponseWriter, path, message string) {
	w.Header().Set("Content-Type", "application/problem+json")
	w.WriteHeader(http.StatusUnprocessableEntity)
	b, _ := json.Marshal(huma.ErrorModel{Status: http.StatusUnprocessableEntity, Title: http.StatusText(http.StatusUnprocessableEntity),
		Detail: path + ": " + message,
		Errors: []*huma.ErrorDetail{{Location: path, Message: message}}})
	write(w, b)
}
