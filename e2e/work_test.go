package e2e

import (
	"testing"

	"github.com/chromedp/chromedp"
	"github.com/chromedp/chromedp/kb"
	"github.com/stretchr/testify/require"
)

// The hands at the ends of a step are nudged by key, dragged, and typed; a step that takes both hands throughout has none.
func TestHandsAtTheEndsOfAStep(t *testing.T) {
	p := open(t, true)
	p.goTo("/components/guinea-fowl-breast")
	end := func(edge string) string {
		return `document.querySelector('[data-item="skin"] .hands-end[data-edge="` + edge + `"]')`
	}
	p.waitFor(end("in") + `?.getAttribute('aria-valuetext') === '25 s'`)
	js[any](p, `(() => { `+end("in")+`.focus(); return 1 })()`)
	p.do(chromedp.KeyEvent(kb.ArrowRight))
	p.waitFor(end("in") + `.getAttribute('aria-valuetext') === '30 s'`)
	x, y, w, h := p.still(end("out"))
	x, y = x+w/2, y+h/2
	p.do(chromedp.MouseEvent(chromedp.MousePressed, x, y, chromedp.ButtonLeft),
		chromedp.MouseEvent(chromedp.MouseMoved, x-20, y, chromedp.ButtonLeft),
		chromedp.MouseEvent(chromedp.MouseMoved, x-40, y, chromedp.ButtonLeft),
		chromedp.MouseEvent(chromedp.MouseReleased, x-40, y, chromedp.ButtonLeft))
	p.waitFor(`Number(` + end("out") + `.getAttribute('aria-valuenow')) > 90`)
	out := js[string](p, end("out")+`.getAttribute('aria-valuetext')`)
	p.do(chromedp.Reload())
	p.waitFor(end("in") + `?.getAttribute('aria-valuetext') === '30 s'`)
	require.Equal(t, out, js[string](p, end("out")+`.getAttribute('aria-valuetext')`), "it was saved")

	hands := `[...document.querySelectorAll('[data-item="skin"] .field')].find(f => f.innerText.startsWith('Hands')).querySelector('select')`
	js[any](p, `(() => { const s = `+hands+`; s.id = 'hands-of'; return 1 })()`)
	p.choose("#hands-of", "both")
	p.waitFor(`!document.querySelector('[data-item="skin"] .hands-bar')`)
	p.choose("#hands-of", "tend")
	p.waitFor(end("in") + `?.getAttribute('aria-valuetext') === '0 s'`)
}

// A wait that nobody limited shows what is assumed; that is taken by a press, or said to be without limit.
func TestAnAssumedWait(t *testing.T) {
	p := open(t, true)
	p.goTo("/components/hake")
	p.typeLines("to order\nsear 3 min in the burner, hands 25 s to lay in and 15 s to take out")
	p.waitFor(`document.querySelector('.lines-editor ul').innerText.includes('25 s to lay in')`)
	p.press("Save")
	p.waitFor(`[...document.querySelectorAll('button')].find(b => b.innerText === 'Save')?.disabled`)
	p.press("Steps")
	wait := `document.querySelector('[aria-label="Wait to the plate"]')`
	p.waitFor(wait + `?.innerText.includes('usual for seared fish portion')`)
	p.press("Take it")
	p.waitFor(wait + `.querySelector('[data-mark="longest"]')?.getAttribute('aria-valuetext') === '4:00'`)
	require.False(t, js[bool](p, wait+`.innerText.includes('assumed')`))
	longest := `[...` + wait + `.querySelectorAll('.field')].find(f => f.innerText.startsWith('longest')).querySelector('input')`
	js[any](p, `(() => { const f = `+longest+`; f.focus(); f.select(); return 1 })()`)
	p.do(chromedp.KeyEvent(kb.Backspace), chromedp.KeyEvent(kb.Enter))
	p.press("No limit")
	p.waitFor(wait + `.innerText.includes('somebody said so')`)
	p.press("Give it a limit")
	p.waitFor(wait + `.innerText.includes('usual for seared fish portion')`)
}

// The firing sheet says what is begun, what goes on and what comes off, by section and by person.
func TestTheFiringSheet(t *testing.T) {
	p := open(t, true)
	p.goTo("/fire/sheet") // the next service, when none is named
	p.waitFor(`document.querySelector('.sheet h1')?.innerText.includes('Larder, Tonight')`)
	p.goTo("/fire/sheet?service=tonight&section=roast")
	p.waitFor(`document.querySelectorAll('.sheet-line.is-fire').length > 5`)
	p.waitFor(`document.querySelector('.sheet-line.is-out')?.innerText.includes('off:')`)
	p.waitFor(`document.querySelector('.sheet-line.is-next') !== null`)
	require.Contains(t, js[string](p, `document.querySelector('.sheet h1').innerText`), "Roast, sauce, Tonight")
	clocks := js[[]string](p, `[...document.querySelectorAll('.sheet-line .when')].map(e => e.innerText)`)
	for i := 1; i < len(clocks); i++ {
		require.LessOrEqual(t, clocks[i-1], clocks[i], "by the clock")
	}
	js[any](p, `(() => { document.querySelector('.sheet header select').id = 'sheet-of'; return 1 })()`)
	p.choose("#sheet-of", "Hanne")
	p.waitFor(`document.querySelector('.sheet h1').innerText.includes('Hanne, Tonight')`)
	p.waitFor(`[...document.querySelectorAll('.sheet-line .hands')].every(e => e.innerText.includes('Pastry'))`)
}
