package e2e

import (
	"context"
	"fmt"
	"testing"

	"github.com/chromedp/chromedp"
	"github.com/chromedp/chromedp/kb"
	"github.com/stretchr/testify/require"

	"jointime/core/kitchen"
)

const dishPath = "/dishes/hake-cider-butter?n=4&at=19:42"

func firing(component string) string {
	return fmt.Sprintf(`document.querySelector('tr[data-component="%s"] .time')?.innerText.replace(/\s/g, '')`, component)
}

func (p *page) fires(component string) string {
	p.t.Helper()
	p.waitFor(firing(component))
	return js[string](p, firing(component))
}

func (p *page) goTo(path string) {
	p.t.Helper()
	p.do(chromedp.Navigate(p.url + path))
}

// typeInto replaces what stands in a field, by key events, and goes on with Enter.
func (p *page) typeInto(selector, value string) {
	p.t.Helper()
	p.waitFor(fmt.Sprintf("document.querySelector(%q)", selector))
	js[any](p, fmt.Sprintf("(() => { const f = document.querySelector(%q); f.focus(); f.select(); return 1 })()", selector))
	p.do(chromedp.KeyEvent(value), chromedp.KeyEvent(kb.Enter))
}

// The main road: open the page, read a firing time, change a step by typing, see
// the time move and the sentence say so, reload, see it kept, take it back.
func TestChangeAStepByTyping(t *testing.T) {
	p := open(t, true)
	p.goTo(dishPath)
	require.Equal(t, "19:32:16", p.fires("hake"))
	js[any](p, `(() => { document.querySelector('[data-task="table/hake/oven"]').dispatchEvent(new MouseEvent('click', {bubbles: true})); return 1 })()`)
	p.typeInto("#step-likely", "6")
	p.waitFor(firing("hake") + ` === "19:30:16"`)
	p.waitFor(`document.querySelector('.said').innerText.includes('Join unchanged. Hake, roasted fires 2 min earlier.')`)
	p.do(chromedp.Reload())
	require.Equal(t, "19:30:16", p.fires("hake"))
}

func TestUndoByKey(t *testing.T) {
	p := open(t, true)
	p.goTo(dishPath)
	was := p.fires("sea-beet")
	p.waitFor(`document.querySelector('[data-task="table/sea-beet/butter"]')`)
	js[any](p, `(() => { document.querySelector('[data-task="table/sea-beet/butter"]').focus(); return 1 })()`)
	p.do(chromedp.KeyEvent(kb.ArrowLeft, chromedp.KeyModifiers(chromedp.ModifierShift)))
	p.waitFor(firing("sea-beet") + fmt.Sprintf(" !== %q", was))
	// The pan is heated 45 s before, and is what is fired.
	require.Equal(t, "19:37:51", p.fires("sea-beet"))
	p.do(chromedp.KeyEvent("z", chromedp.KeyModifiers(chromedp.ModifierCtrl)))
	p.waitFor(firing("sea-beet") + fmt.Sprintf(" === %q", was))
}

func TestDragTheEndOfAStep(t *testing.T) {
	p := open(t, true)
	p.goTo(dishPath)
	was := p.fires("hake")
	js[any](p, `(() => { document.querySelector('.strands').scrollIntoView({block: 'end'}); return 1 })()`)
	x, y, w, h := p.still(`document.querySelector('[data-task="table/hake/pan"] [data-grip="start"]')`)
	x, y = x+w/2, y+h/2
	p.do(chromedp.MouseEvent(chromedp.MousePressed, x, y, chromedp.ButtonLeft),
		chromedp.MouseEvent(chromedp.MouseMoved, x-20, y, chromedp.ButtonLeft))
	p.waitFor(`document.querySelector('.strands .faded')`) // it is being dragged
	p.do(chromedp.MouseEvent(chromedp.MouseMoved, x-40, y, chromedp.ButtonLeft),
		chromedp.MouseEvent(chromedp.MouseReleased, x-40, y, chromedp.ButtonLeft))
	p.waitFor(firing("hake") + fmt.Sprintf(" !== %q", was))
	require.Less(t, p.fires("hake"), was, "a longer step is fired earlier")
}

func TestTableOfAnotherSizeAndTime(t *testing.T) {
	p := open(t, true)
	p.goTo(dishPath)
	p.fires("hake")
	p.typeInto(`input[name="at"]`, "20:42")
	p.waitFor(firing("hake") + ` === "20:32:16"`)
	p.typeInto(`input[name="n"]`, "1")
	p.waitFor(firing("hake") + ` !== "20:32:16"`)
	require.Contains(t, js[string](p, "location.search"), "n=1")
}

func TestTwoPeopleChangeTheSameStep(t *testing.T) {
	p := open(t, true)
	p.goTo(dishPath)
	p.fires("hake")
	js[any](p, `(() => { document.querySelector('[data-task="table/hake/oven"]').dispatchEvent(new MouseEvent('click', {bubbles: true})); return 1 })()`)
	p.waitFor(`document.querySelector('#step-likely')`)
	ctx := context.Background()
	snap, err := p.db.Snapshot(ctx)
	require.NoError(t, err)
	c, _ := snap.Book.Component("hake")
	theirs := c.Clone()
	theirs.Steps[2].Time.Fixed = kitchen.Exactly(300)
	_, err = p.db.Save(ctx, kitchen.Key{Kind: kitchen.ComponentRecord, ID: "hake"}, 1, theirs, "theirs")
	require.NoError(t, err)
	p.typeInto("#step-likely", "7")
	p.waitFor(`document.querySelector('.modal')?.innerText.includes('Theirs now says: Finish in the oven: 5:00')`)
	require.Contains(t, js[string](p, `document.querySelector('.modal').innerText`), "Yours says: Finish in the oven: 7")
	js[any](p, `(() => { [...document.querySelectorAll('.modal button')].find(b => b.innerText === 'Put mine on top').click(); return 1 })()`)
	p.waitFor(firing("hake") + ` === "19:29:16"`)
}

func TestEmptyKitchenOffersTheDemo(t *testing.T) {
	p := open(t, false)
	for _, screen := range []string{"/prep", "/prep/services", "/prep/temperatures", "/components", "/components/read", "/meal", "/fire",
		"/kitchen", "/"} {
		p.goTo(screen)
		p.waitFor(`document.querySelector('h1')?.innerText === 'No dishes yet'`)
	}
	js[any](p, `(() => { [...document.querySelectorAll('button')].find(b => b.innerText.includes('demo')).click(); return 1 })()`)
	p.fires("hake")
}

func TestWhatCannotBeUnderstoodStaysAndIsSaid(t *testing.T) {
	p := open(t, true)
	p.goTo(dishPath)
	was := p.fires("hake")
	js[any](p, `(() => { document.querySelector('[data-task="table/hake/oven"]').dispatchEvent(new MouseEvent('click', {bubbles: true})); return 1 })()`)
	p.typeInto("#step-likely", "soon")
	p.waitFor(`document.querySelector('.step-editor .fault')?.innerText.includes('Write a time like')`)
	require.Equal(t, "soon", js[string](p, `document.querySelector('#step-likely').value`))
	require.Equal(t, was, p.fires("hake"))
}

// A table that cannot keep its waits says so at its head and lists them: never that every rule is kept.
func TestATableThatCannotKeepItsWaits(t *testing.T) {
	p := open(t, true)
	p.goTo("/dishes/guinea-fowl-barley")
	p.waitFor(`[...document.querySelectorAll('.mark-good')].some(x => x.innerText.includes('No firing plan can be better'))`)
	p.typeInto(`[name="n"]`, "24")
	p.waitFor(`document.querySelector('.trouble')?.innerText.includes('These rules could not be kept')`)
	p.waitFor(`[...document.querySelectorAll('.mark-late')].some(x => x.innerText.includes('not every rule can be kept'))`)
	require.False(t, js[bool](p, `document.body.innerText.includes('Every rule is kept')`))
}
