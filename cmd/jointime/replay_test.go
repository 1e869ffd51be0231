package main

import (
	"bytes"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"
)

// A log is replayed line by line; a line that is none is named.
func TestReplay(t *testing.T) {
	log := `{"seq":1,"id":"event-001","kind":"opened","at":"2026-05-15T18:00:00Z","received_at":"2026-05-15T18:00:00Z"}

{"seq":2,"id":"event-002","kind":"seated","at":"2026-05-15T18:10:00Z","received_at":"2026-05-15T18:10:00Z","table":"t7","covers":2}
`
	var out bytes.Buffer
	require.NoError(t, replay(strings.NewReader(log), &out))
	require.Contains(t, out.String(), `"phase":"open"`)
	require.Contains(t, out.String(), `"id":"t7"`)
	require.ErrorContains(t, replay(strings.NewReader(log+"{"), &out), "line 4")
	require.ErrorContains(t, replay(strings.NewReader(strings.Replace(log, `"table":"t7",`, "", 1)), &out), "line 3: table")
	require.NoError(t, replay(strings.NewReader(""), &out))
}
