package e2e

import (
	"fmt"
	"testing"

	"github.com/chromedp/chromedp"
	"github.com/chromedp/chromedp/kb"
	"github.com/stretchr/testify/require"
)

func (p *page) click(selector string) {
	p.t.Helper()
	p.waitFor(fmt.Sprintf("document.querySelector(%q)", selector))
	js[any](p, fmt.Sprintf("(() => { document.querySelector(%q).dispatchEvent(new MouseEvent('click', {bubbles: true})); return 1 })()",
		selector))
}

func (p *page) outline(element int) string {
	return fmt.Sprintf(`document.querySelector('.plate-drawing [data-element="%d"] path').getAttribute('d')`, element)
}

// Choose an element on the plate, nudge it by key, see it move, reload, see it kept,
// take it back.
func TestNudgeAnElementOnThePlate(t *testing.T) {
	p := open(t, true)
	p.goTo(dishPath)
	p.waitFor(`document.querySelector('.plate-drawing [data-element="4"] path')`)
	was := js[string](p, p.outline(4))
	p.click(`.plate-drawing [data-element="4"]`)
	js[any](p, `(() => { document.querySelector('.plate-drawing [data-element="4"]').focus(); return 1 })()`)
	p.do(chromedp.KeyEvent(kb.ArrowRight, chromedp.KeyModifiers(chromedp.ModifierShift)))
	p.waitFor(p.outline(4) + fmt.Sprintf(" !== %q", was))
	moved := js[string](p, p.outline(4))
	p.do(chromedp.Reload())
	p.waitFor(`document.querySelector('.plate-drawing [data-element="4"] path')`)
	require.Equal(t, moved, js[string](p, p.outline(4)))
}

// Adding an element is three presses; its amount is typed; the plate and the firing
// plan follow; undo takes it away.
func TestAddAnElementInThreePresses(t *testing.T) {
	p := open(t, true)
	p.goTo(dishPath)
	p.waitFor(`document.querySelectorAll('.plate-drawing .element').length === 6`)
	p.click(".sequence .link")
	p.waitFor(`[...document.querySelectorAll('.adder button')].some(b => b.innerText.includes('Watercress'))`)
	js[any](p, `(() => { [...document.querySelectorAll('.adder button')].find(b => b.innerText.includes('Watercress')).click(); return 1 })()`)
	p.waitFor(`document.querySelectorAll('.plate-drawing .element').length === 7`)
	p.waitFor(`document.querySelector('tr[data-component="watercress"]')`)
	small := js[float64](p, `document.querySelector('.plate-drawing [data-element="7"]').getBBox().width`)
	p.typeInto(`[aria-label="Amount 7"]`, "40")
	p.waitFor(fmt.Sprintf(`document.querySelector('.plate-drawing [data-element="7"]').getBBox().width > %g * 1.2`, small))
	js[any](p, `(() => { [...document.querySelectorAll('header button')].find(b => b.innerText === 'Undo').click(); return 1 })()`)
	p.waitFor(fmt.Sprintf(`document.querySelector('.plate-drawing [data-element="7"]').getBBox().width < %g * 1.1`, small))
}

// A variant draws what is left, and cannot be edited by mistake.
func TestVariantShowsWhatIsLeft(t *testing.T) {
	p := open(t, true)
	p.goTo(dishPath)
	p.waitFor(`document.querySelectorAll('.plate-drawing .element').length === 6`)
	js[any](p, `(() => { [...document.querySelectorAll('button')].find(b => b.innerText === 'no milk').click(); return 1 })()`)
	p.waitFor(`document.querySelectorAll('.plate-drawing .element').length === 4`)
	p.waitFor(`!document.querySelector('.dish header').innerText.includes('milk,')`)
	require.Equal(t, float64(0), js[float64](p, `document.querySelectorAll('.sequence .cell').length`))
}
