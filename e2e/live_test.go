package e2e

import (
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"jointime/core/service"
)

// The service as it goes on: opened, a course sent by one press, taken back, sent again; its ring fills, and what was pressed stands in the
// log.
func TestAServiceIsRun(t *testing.T) {
	p := open(t, true)
	p.goTo("/fire")
	p.waitFor(`document.querySelector('.running[data-phase="not-open"]') !== null`)
	p.waitFor(`document.querySelector('.running .gate')?.innerText.includes('not made')`)
	p.press("Which ones")
	p.waitFor(`document.querySelector('.running .gate')?.innerText.includes('is not made; by the plan it is ready')`)
	p.press("Open the service")
	p.waitFor(`document.querySelector('.running[data-phase="open"]') !== null`)
	count := `document.querySelector('.running').innerText`
	p.waitFor(count + `.includes('0 of 60 courses sent')`)
	filled := `document.querySelectorAll('.join circle[fill="var(--leaf)"]').length`
	require.Equal(t, 0, js[int](p, filled))
	p.click(".coming button")
	p.waitFor(`document.querySelector('.coming button[aria-pressed="true"]') !== null`)
	p.press("Send")
	p.waitFor(count + `.includes('1 of 60 courses sent')`)
	p.waitFor(filled + ` === 1`)
	p.waitFor(`document.querySelector('.running .said-line')?.innerText.includes('sent')`)
	p.press("Take back")
	p.waitFor(count + `.includes('0 of 60 courses sent')`)
	p.waitFor(filled + ` === 0`)
	p.press("Hold")
	p.waitFor(`document.querySelector('.coming').innerText.includes('held')`)
	require.Eventually(t, func() bool { // pressed twice within a moment it is one press
		p.press("Hold")
		return js[bool](p, `Boolean(document.querySelector('.running [role="alert"]')?.innerText.includes('is held already'))`)
	}, 30*time.Second, 400*time.Millisecond)
	list, err := p.db.Events(t.Context(), "tonight", 0)
	require.NoError(t, err)
	kinds := []service.Kind{}
	for _, e := range list {
		if e.Kind != service.Told {
			kinds = append(kinds, e.Kind)
		}
	}
	require.Contains(t, list[0].Why, "were not ready", "that it was opened in spite of it is said")
	require.Equal(t, []service.Kind{service.Opened, service.Sent, service.Undone, service.Held}, kinds)
}
