package e2e

import (
	"testing"

	"github.com/chromedp/chromedp"
	"github.com/chromedp/chromedp/kb"
	"github.com/stretchr/testify/require"
)

func (p *page) press(button string) {
	p.t.Helper()
	find := `[...document.querySelectorAll('button, a')].find(b => b.innerText.trim() === '` + button + `')`
	p.waitFor(find)
	js[any](p, `(() => { `+find+`.click(); return 1 })()`)
}

// fill types into a field without Enter.
func (p *page) fill(selector, value string) {
	p.t.Helper()
	p.waitFor(`document.querySelector('` + selector + `')`)
	js[any](p, `(() => { const f = document.querySelector('`+selector+`'); f.focus(); f.select(); return 1 })()`)
	for i, line := range splitLines(value) {
		if i > 0 {
			p.do(chromedp.KeyEvent(kb.Enter))
		}
		p.do(chromedp.KeyEvent(line))
	}
}

func splitLines(s string) []string {
	var out []string
	from := 0
	for i := range s {
		if s[i] == '\n' {
			out = append(out, s[from:i])
			from = i + 1
		}
	}
	return append(out, s[from:])
}

// A new dish from nothing: its name, a component said in lines, its firing time.
func TestWriteANewDish(t *testing.T) {
	p := open(t, true)
	p.goTo(dishPath)
	p.press("New dish")
	p.fill(`[name="dish-name"]`, "Turnip <b>of the day</b>")
	p.press("Create")
	p.waitFor(`document.querySelector('h1')?.innerText === 'Turnip <b>of the day</b>'`)
	p.waitFor(`document.body.innerText.includes('has nothing on its plate yet')`)
	p.press("Add an element")
	p.fill(`[name="component-name"]`, "Glazed turnip")
	p.fill(`[name="component-lines"]`,
		"peel 20 min both hands\nto order\nglaze 6 min with an eye on it on the burner\nrest 1 min, at most 5 min, hot")
	p.press("Make it and put it on")
	p.waitFor(`document.querySelectorAll('.plate-drawing .element').length === 1`)
	// Needed 4 plates × 6 s by two hands before the join: 12 s; rest 60 s, glaze 360 s:
	// fired 7:12 before 19:42.
	require.Equal(t, "19:34:48", p.fires("glazed-turnip"))
}

// typeLines opens a component's kitchen lines and types others.
func (p *page) typeLines(lines string) {
	p.press("Kitchen lines")
	p.waitFor(`document.querySelector('.lines-editor textarea')?.value.includes('to order')`)
	p.fill(".lines-editor textarea", lines)
}

// Kitchen lines: what is understood appears as it is typed, what cannot be saved is
// said, and saving changes the firing.
func TestKitchenLines(t *testing.T) {
	p := open(t, true)
	p.goTo("/components/sea-beet")
	p.typeLines("wilt 2 min both hands on the burner\ncoax the leaves")
	p.waitFor(`document.querySelector('.lines-editor ul').innerText.includes('both hands')`)
	p.waitFor(`document.querySelector('.lines-editor ul').innerText.includes('no time was found')`)
	p.press("Save")
	p.waitFor(`[...document.querySelectorAll('button')].find(b => b.innerText === 'Save')?.disabled`)
	p.do(chromedp.Reload())
	p.waitFor(`document.querySelectorAll('.chain .link').length === 2`)
	p.press("Kitchen lines")
	p.waitFor(`document.querySelector('.lines-editor textarea')?.value.startsWith('wilt: 2 min')`)
}
