package e2e

import (
	"bytes"
	"context"
	"image"
	"image/png"
	"io"
	"net/http"
	"strings"
	"testing"
	"time"

	"github.com/chromedp/chromedp"
	"github.com/chromedp/chromedp/kb"
	"github.com/ledongthuc/pdf"
	"github.com/stretchr/testify/require"
)

// choose sets a select by its name and tells the page.
func (p *page) choose(selector, value string) {
	p.t.Helper()
	// What can be chosen may come after the field.
	p.waitFor(`[...(document.querySelector('` + selector + `')?.options ?? [])].some(o => o.value === '` + value + `')`)
	js[any](p, `(() => { const f = document.querySelector('`+selector+`');
		Object.getOwnPropertyDescriptor(HTMLSelectElement.prototype, 'value').set.call(f, '`+value+`');
		f.dispatchEvent(new Event('change', {bubbles: true})); return 1 })()`)
}

func (p *page) fetch(path string) []byte {
	p.t.Helper()
	res, err := http.Get(p.url + path)
	require.NoError(p.t, err)
	defer res.Body.Close()
	require.Equal(p.t, 200, res.StatusCode)
	raw, err := io.ReadAll(res.Body)
	require.NoError(p.t, err)
	return raw
}

// From an empty kitchen to the printed card of a dish: the kitchen begun, a dish named, two
// components said in lines, a last check, a variant, on the menu, on paper.
func TestFromAnEmptyKitchenToAPrintedCard(t *testing.T) {
	p := open(t, false)
	p.goTo("/")
	p.press("Start my own kitchen")
	p.fill(`[name="kitchen-name"]`, "The Blue Door")
	p.fill(`[name="kitchen-zone"]`, "Europe/Copenhagen")
	p.press("Begin")
	p.press("New dish")
	p.fill(`[name="dish-name"]`, "Turnip, brown butter")
	p.press("Create")
	p.waitFor(`document.querySelector('.state.draft')?.innerText === 'being written'`)
	p.press("Add an element")
	p.fill(`[name="component-name"]`, "Glazed turnip")
	p.fill(`[name="component-lines"]`,
		"peel 20 min both hands\nto order\nglaze 6 min with an eye on it on the burner\nrest 1 min, at most 5 min, hot")
	p.press("Make it and put it on")
	p.waitFor(`document.querySelectorAll('.plate-drawing .element').length === 1`)
	p.press("Add an element")
	p.fill(`[name="component-name"]`, "Brown butter")
	p.fill(`[name="component-lines"]`, "brown 4 min both hands on the burner")
	p.press("Make it and put it on")
	p.waitFor(`document.querySelectorAll('.plate-drawing .element').length === 2`)
	p.click(".spec-right .fold summary")
	p.fill(`[name="final-checks"]`, "rim wiped, no stalk")
	p.do(chromedp.KeyEvent(kb.Enter))
	p.waitFor(`document.querySelector('.spec-right .fold summary').innerText.includes('rim wiped · no stalk')`)
	p.press("+ Variant")
	p.fill(`[name="variant-name"]`, "no milk")
	p.do(chromedp.KeyEvent(kb.Enter))
	p.waitFor(`document.querySelector('.chips [aria-pressed="true"]')?.innerText.includes('milk')`)
	p.choose(`[name="variant-does"]`, "leave-out")
	p.waitFor(`document.querySelectorAll('.plate-drawing .element').length === 1`)
	p.press("As written")
	p.waitFor(`document.querySelectorAll('.plate-drawing .element').length === 2`)
	p.press("Put on the menu")
	p.waitFor(`!document.querySelector('.state.draft')`)
	card := js[string](p, `[...document.querySelectorAll('a')].find(a => a.innerText === 'Print card').getAttribute('href')`)
	raw := p.fetch(card)
	r, err := pdf.NewReader(bytes.NewReader(raw), int64(len(raw)))
	require.NoError(t, err)
	text, err := r.GetPlainText()
	require.NoError(t, err)
	b, err := io.ReadAll(text)
	require.NoError(t, err)
	said := strings.Join(strings.Fields(string(b)), "")
	for _, want := range []string{"Turnip,brownbutter", "Glazedturnip", "rimwiped·nostalk", "TheBlueDoor", "current"} {
		require.Contains(t, said, want)
	}
}

// A draft is written while the kitchen works from the old specification; then both are
// compared, and the draft is used.
func TestDraftAndComparison(t *testing.T) {
	p := open(t, true)
	p.goTo(dishPath)
	p.choose(`[name="who"]`, "ada")
	p.press("More")
	p.press("Draft a change")
	p.waitFor(`document.body.innerText.includes('Use the draft')`)
	p.typeInto(`[aria-label="Amount 2"]`, "120")
	p.waitFor(`document.querySelector('.dish header').innerText.includes('370 g')`)
	p.press("In use")
	p.waitFor(`document.querySelector('.dish header').innerText.includes('340 g')`)
	p.press("More")
	p.press("Compare the draft")
	p.waitFor(`document.querySelector('.words')?.innerText === 'Pressed potato: amount 120, was 90.'`)
	require.Equal(t, 2, js[int](p, `document.querySelectorAll('.side .plate-drawing').length`))
	require.Contains(t, js[string](p, `document.querySelector('.version-list').innerText`), "Ada Brandt. A draft was begun.")
	p.press("To the dish")
	p.press("Draft")
	p.press("Use the draft")
	p.waitFor(`document.querySelector('.dish header').innerText.includes('370 g') && !location.search.includes('draft')`)
}

// The chain: one key and a line add a step; a mark of a wait is moved by key; the cut is
// moved by key; undo takes back.
func TestChainEditor(t *testing.T) {
	p := open(t, true)
	p.goTo("/components/hake")
	p.waitFor(`document.querySelectorAll('.chain .link').length === 3`)
	p.do(chromedp.KeyEvent("n"))
	p.waitFor(`document.activeElement?.name === 'new-step'`)
	p.fill(`[name="new-step"]`, "salt 30 s both hands")
	p.do(chromedp.KeyEvent(kb.Enter))
	p.waitFor(`document.querySelectorAll('.chain .link').length === 4`)
	require.Equal(t, "salt", js[string](p, `[...document.querySelectorAll('.chain .link')][3].querySelector('input').value`))
	p.press("Undo")
	p.waitFor(`document.querySelectorAll('.chain .link').length === 3`)

	hold := `document.querySelector('[aria-label="Wait to the plate"] [data-mark="longest"]')`
	require.Equal(t, "3:00", js[string](p, hold+`.getAttribute('aria-valuetext')`))
	js[any](p, `(() => { `+hold+`.focus(); return 1 })()`)
	p.do(chromedp.KeyEvent(kb.ArrowRight))
	p.waitFor(hold + `.getAttribute('aria-valuetext') === '3:30'`)

	js[any](p, `(() => { document.querySelector('[data-item="the-cut"] .grip').focus(); return 1 })()`)
	p.do(chromedp.KeyEvent(kb.ArrowDown, chromedp.KeyModifiers(chromedp.ModifierAlt)))
	p.waitFor(`[...document.querySelectorAll('.chain > li')].findIndex(x => x.dataset.item === 'the-cut') === 2`)
	p.do(chromedp.Reload())
	p.waitFor(`[...document.querySelectorAll('.chain > li')].findIndex(x => x.dataset.item === 'the-cut') === 2`)

	p.waitFor(`document.querySelectorAll('.chain .link').length === 3`)
	degrees := `[...document.querySelectorAll('.chain .field')].find(f => f.innerText.startsWith('Set to') &&
		f.querySelector('input').value === '180 °C').querySelector('input')`
	js[any](p, `(() => { const f = `+degrees+`; f.id = 'degrees'; f.focus(); f.select(); return 1 })()`)
	p.do(chromedp.KeyEvent("gas 6"), chromedp.KeyEvent(kb.Enter))
	p.waitFor(`document.querySelector('#degrees')?.value === '200 °C'`)
}

// The cut and the steps can also be dragged.
func TestDragTheCut(t *testing.T) {
	p := open(t, true)
	p.goTo("/components/hake")
	at := func(item string) (x, y float64) {
		x, y, _, h := p.still(`document.querySelector('[data-item="` + item + `"] .grip')`)
		return x + 20, y + h/2
	}
	x, from := at("the-cut")
	_, to := at("pan")
	p.do(chromedp.MouseEvent(chromedp.MousePressed, x, from, chromedp.ButtonLeft))
	for _, y := range []float64{from + 20, (from + to) / 2, to, to + 10} {
		p.do(chromedp.MouseEvent(chromedp.MouseMoved, x, y, chromedp.ButtonLeft))
		time.Sleep(60 * time.Millisecond) // a hand is slower than a machine, and the list is measured meanwhile
	}
	p.do(chromedp.MouseEvent(chromedp.MouseReleased, x, to+10, chromedp.ButtonLeft))
	p.waitFor(`[...document.querySelectorAll('.chain > li')].findIndex(x => x.dataset.item === 'the-cut') === 2`)
}

// A component still on a dish cannot be archived, and the page says where it is.
func TestArchiveAndSearch(t *testing.T) {
	p := open(t, true)
	p.goTo("/components/hake")
	p.press("Archive")
	p.waitFor(`document.querySelector('.trouble')?.innerText.includes('still needs Hake, roasted')`)
	p.goTo("/components")
	p.fill(`[type="search"]`, "treacle")
	p.waitFor(`document.querySelectorAll('.by-section a').length > 1 && [...document.querySelectorAll('.by-section a')].every(a => !a.innerText.includes('Hake'))`)
	p.goTo("/dishes")
	p.waitFor(`document.querySelector('h1')`)
	p.do(chromedp.KeyEvent("/"))
	p.waitFor(`document.querySelector('.finder input') === document.activeElement`)
	p.fill(".finder input", "barley wi")
	p.waitFor(`document.querySelectorAll('.finder button').length === 1`)
	p.do(chromedp.KeyEvent(kb.Enter))
	p.waitFor(`document.querySelector('h1')?.innerText.trim() === 'Barley with herbs'`)
}

func TestPhotographOnThePage(t *testing.T) {
	p := open(t, true)
	var raw bytes.Buffer
	require.NoError(t, png.Encode(&raw, image.NewGray(image.Rect(0, 0, 40, 30))))
	req, err := http.NewRequestWithContext(context.Background(), "PUT", p.url+"/api/dishes/hake-cider-butter/photograph", &raw)
	require.NoError(t, err)
	req.Header.Set("Content-Type", "image/png")
	res, err := http.DefaultClient.Do(req)
	require.NoError(t, err)
	require.NoError(t, res.Body.Close())
	require.Equal(t, http.StatusNoContent, res.StatusCode)
	p.goTo(dishPath)
	p.waitFor(`document.querySelector('.photograph img')?.naturalWidth === 40`)
	p.press("Take the picture off")
	p.waitFor(`!document.querySelector('.photograph')`)
}

func TestPlatingLineOnThePage(t *testing.T) {
	p := open(t, true)
	p.goTo(dishPath)
	p.waitFor(`[...document.querySelectorAll('.fold summary')].some(s => s.innerText === 'Plating line for a banquet')`)
	js[any](p, `(() => { [...document.querySelectorAll('.fold summary')].find(s => s.innerText === 'Plating line for a banquet').click(); return 1 })()`)
	p.fill(`[name="line-people"]`, "4")
	p.do(chromedp.KeyEvent(kb.Enter))
	p.waitFor(`document.querySelectorAll('.line-parts tbody tr').length === 8`)
	p.fill(`[name="line-plates"]`, "16")
	p.do(chromedp.KeyEvent(kb.Enter))
	p.waitFor(`document.querySelectorAll('.line-parts tbody tr').length === 2`)
}

// The kitchen's own people and equipment are edited in place.
func TestKitchenIsSetUp(t *testing.T) {
	p := open(t, true)
	p.goTo("/kitchen")
	p.press("Add equipment")
	p.waitFor(`document.querySelector('[data-part="new-equipment"]')`)
	p.click(`[data-part="new-equipment"] .opens`)
	js[any](p, `(() => { document.querySelector('[data-part="new-equipment"] .field input').id = 'equipment-name'; return 1 })()`)
	p.fill("#equipment-name", "Small oven")
	p.do(chromedp.KeyEvent(kb.Enter))
	p.waitFor(`document.querySelector('[data-part="new-equipment"]').innerText.includes('Small oven')`)
	p.click(`[data-part="combi"] .opens`)
	p.waitFor(`document.querySelector('[data-part="combi"] .inside')`)
}
