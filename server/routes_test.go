package server

import (
	"io"
	"log/slog"
	"net/http"
	"net/http/httptest"
	"strings"
	"testing"

	"github.com/danielgtaylor/huma/v2"
	"github.com/go-chi/chi/v5"
	"github.com/stretchr/testify/require"

	"jointime/core/access"
	"jointime/store/storetest"
)

// Whatever the server answers to under /api, in the contract or beside it, it tells nobody who has not signed in, where somebody has to.
// Only what signing in needs is open; and every operation of the contract stands in the table of roles.
func TestNothingIsAnsweredToNobody(t *testing.T) {
	s := storetest.Open(t)
	app := New(s, Options{Clock: storetest.Clock, Log: slog.New(slog.NewTextHandler(io.Discard, nil)), Hosts: []string{"kitchen.example"}})
	t.Cleanup(app.Close)
	require.NoError(t, LoadDemo(t.Context(), s, storetest.Clock()))
	walked := 0
	require.NoError(t, chi.Walk(app.handler.(chi.Router), func(method, route string, _ http.Handler,
		_ ...func(http.Handler) http.Handler) error {
		if !strings.HasPrefix(route, "/api/") || strings.HasPrefix(route, "/api/session") {
			return nil
		}
		walked++
		req := httptest.NewRequest(method, strings.NewReplacer("{", "", "}", "").Replace(route), nil)
		req.Host = "kitchen.example"
		w := httptest.NewRecorder()
		app.ServeHTTP(w, req)
		require.Equal(t, http.StatusUnauthorized, w.Code, "%s %s: %s", method, route, w.Body)
		require.NotContains(t, w.Body.String(), "hake", "%s %s", method, route)
		return nil
	}))
	require.Greater(t, walked, 90)
	for path, item := range app.routes(chi.NewRouter()).OpenAPI().Paths {
		for _, o := range []*huma.Operation{item.Get, item.Post, item.Put, item.Patch, item.Delete} {
			if o != nil {
				require.True(t, access.Known(o.OperationID), "%s (%s) stands in no table of roles", o.OperationID, path)
			}
		}
	}
}
