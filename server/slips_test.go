package server_test

import (
	"bytes"
	"context"
	"net"
	"strings"
	"sync"
	"testing"
	"time"
	"unicode/utf8"

	"github.com/stretchr/testify/require"

	"jointime/devices"
	"jointime/formats/slip"
	"jointime/server"
	"jointime/store/storetest"
)

// paper is what a printer of a test printed.
type paper struct {
	mu sync.Mutex
	b  bytes.Buffer
}

func (p *paper) Write(b []byte) (int, error) {
	p.mu.Lock()
	defer p.mu.Unlock()
	return p.b.Write(b)
}

func (p *paper) text() string {
	p.mu.Lock()
	defer p.mu.Unlock()
	return p.b.String()
}

// A section's slip is text of 42 columns, and is printed where a printer is; where there is none, or it does not answer, that is said.
func TestSlips(t *testing.T) {
	l, err := net.Listen("tcp", "127.0.0.1:0")
	require.NoError(t, err)
	printed := &paper{}
	ctx, stop := context.WithCancel(t.Context())
	done := make(chan error, 1)
	go func() { done <- devices.NewPrinter(printed).Serve(ctx, l) }()
	s := storetest.Open(t)
	c, _ := serveWith(t, s, server.Options{Printer: l.Addr().String()})
	c.call("POST", "/api/demo", nil, 200)
	c.few("tonight", 3)
	for _, section := range []string{"", "fish"} {
		text := c.text(tonight + "/slip.txt?section=" + section)
		require.NotContains(t, text, "Nothing.")
		for _, line := range strings.Split(text, "\n") {
			require.LessOrEqual(t, utf8.RuneCountInString(line), slip.Width, line)
		}
		c.call("POST", tonight+"/slip", map[string]any{"section": section}, 204)
		require.Eventually(t, func() bool { return strings.Contains(printed.text(), strings.SplitN(text, "\n", 2)[0]) }, 30*time.Second,
			10*time.Millisecond)
	}
	c.call("GET", tonight+"/slip.txt?section=nowhere", nil, 422)
	c.call("POST", tonight+"/slip", map[string]any{"section": "nowhere"}, 422)
	c.call("POST", "/api/services/nowhere/slip", map[string]any{}, 404)
	stop()
	require.NoError(t, <-done)
	require.Contains(t, c.call("POST", tonight+"/slip", map[string]any{"section": "fish"}, 502)["detail"], "does not answer")
	none, _ := serve(t, s)
	require.Contains(t, none.call("POST", tonight+"/slip", map[string]any{"section": "fish"}, 409)["detail"], "--printer")
}
