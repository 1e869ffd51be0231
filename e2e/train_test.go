package e2e

import (
	"regexp"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"jointime/store/storetest"
)

// A commis trains: from Fire to the exercise of the day, at the screen that they know from service, above which it says that it is
// training; what is due is fired, what is not theirs to take back says so; the end leads to how it went, and from there to the list. A
// night is watched at the pass, with nothing to press.
func TestSomebodyTrainsAndWatches(t *testing.T) {
	began := time.Now()
	p := openAt(t, true, func() time.Time { return storetest.Clock().Add(time.Since(began)) })
	p.goTo("/fire/rehearse?service=tonight")
	p.press("Train")
	p.waitFor(`document.querySelector('.exercises')`)
	p.choose(".choosers select", "Tobias")
	p.waitFor(`document.querySelector('.train[data-for^="Tobias/"]')`)
	p.choose(".choosers label:nth-of-type(2) select", "garnish")
	// The address is there before the page.
	p.waitFor(`document.querySelector('.train[data-for="Tobias/garnish"] .today')?.innerText.includes('One table, one course')`)
	p.waitFor(`(() => {
		const begin = document.querySelector('.today .btn');
		if (location.pathname.startsWith('/fire/train') && begin?.disabled === false) begin.click();
		return location.pathname === '/section/garnish';
	})()`)
	p.waitFor(`document.querySelector('.played-bar')?.innerText.includes('Training')`)
	p.waitFor(`document.querySelector('.live-head .place')?.innerText.includes('Tobias')`)
	p.press("×60")
	p.waitFor(`document.querySelector('.played-bar [aria-pressed=true]')?.innerText === '×60'`)
	p.waitFor(`document.querySelector('.act.fire')`)
	// It is shown a minute before, when its water may not boil yet: that is said, and it is tapped again until it is on.
	id := js[string](p, `new URLSearchParams(location.search).get('service')`)
	// What was tapped can be taken back for a minute, by a clock that goes sixty times as fast.
	js[any](p, `setInterval(() => {
		const undo = [...document.querySelectorAll('footer.presses button')].find(b => b.innerText === 'Undo');
		window.undoable = window.undoable || undo?.disabled === false;
	}, 10)`)
	tapped := regexp.MustCompile(`"kind":"fired"[^}]*"device":"screen-`)
	require.Eventually(t, func() bool {
		if tapped.Match(p.fetch("/api/services/" + id + "/log.jsonl")) {
			return true
		}
		js[any](p, `document.querySelector('.act.fire')?.click()`)
		return false
	}, 30*time.Second, 300*time.Millisecond)
	p.waitFor(`window.undoable`)
	p.press("End")
	p.waitFor(`location.pathname.startsWith('/fire/train/practice-')`)
	p.waitFor(`document.querySelector('.marked')?.innerText.includes('of 100')`)
	require.Contains(t, js[string](p, `document.querySelector('.trained').innerText`), "ended before the last plate")
	p.waitFor(`document.querySelectorAll('.cooked .due').length > 0`)
	p.press("Train")
	p.waitFor(`document.querySelector('.train .table')?.innerText.includes('Tobias')`)

	p.press("Rehearse")
	p.waitFor(`[...document.querySelectorAll('button')].some(b => b.innerText === 'Watch one night')`)
	p.press("Watch one night")
	p.waitFor(`location.pathname === '/pass' && document.querySelector('.played-bar')?.innerText.includes('Played')`)
	p.waitFor(`document.querySelector('.pass-grid')`)
	require.Equal(t, "none", js[string](p, `getComputedStyle(document.querySelector('footer.presses')).display`))
	p.press("Roast, sauce")
	p.waitFor(`location.pathname === '/section/roast' && document.querySelector('.played-bar')`)
	p.press("End")
	p.waitFor(`location.pathname === '/fire/rehearse'`)
}
