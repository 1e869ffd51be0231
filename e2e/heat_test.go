package e2e

import (
	"testing"

	"github.com/stretchr/testify/require"
)

// A size sets a step's time, with its range and how it was computed; a typed time stays until it is let go; a probe corrects it.
func TestASizeSetsTheTime(t *testing.T) {
	p := open(t, true)
	p.goTo("/components/guinea-fowl-breast")
	card := `document.querySelector('[data-item="bath"]')`
	p.waitFor(card + `?.querySelector('.heating')?.innerText.includes('46 mm thick, from 5 °C in a water bath at 64 °C')`)
	before := js[string](p, card+`.querySelector('.heating b').innerText`)
	js[any](p, `[...`+card+`.querySelectorAll('button')].find(b => b.innerText === 'More').click()`)
	p.typeInto(`[name="piece-mm"]`, "60")
	p.waitFor(card + `.querySelector('.heating')?.innerText.includes('60 mm thick')`)
	require.NotEqual(t, before, js[string](p, card+`.querySelector('.heating b').innerText`))
	p.waitFor(`document.querySelector('[name="piece-mm"]').getAttribute('aria-busy') === 'false'`)
	p.typeInto(`[name="piece-mm"]`, "3000")
	p.waitFor(card + `.innerText.includes('60 mm thick') && document.body.innerText.includes('expected 1 to 500')`)
	p.fill(".probe textarea", "2:00 18")
	p.press("When is it there?")
	p.waitFor(card + `.querySelector('[role=status]')?.innerText.includes('at least four readings')`)
}

// How long a plate stays hot stands on the dish, the first to be cold first.
func TestHowLongAPlateStaysHot(t *testing.T) {
	p := open(t, true)
	p.goTo("/dishes/guinea-fowl-barley")
	p.waitFor(`[...document.querySelectorAll('summary')].some(s =>
		/Mushroom jus is below 55° after .* on a cold plate; after .* on a warm one/.test(s.innerText))`)
}
