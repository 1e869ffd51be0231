package e2e

import (
	"fmt"
	"testing"

	"github.com/chromedp/chromedp"
	"github.com/chromedp/chromedp/kb"
	"github.com/stretchr/testify/require"
)

const gridReady = `document.querySelectorAll('.prep-grid .entry').length > 20`

// Raising the covers of a table shows in the batches, and the page says which.
func TestRaiseTheCovers(t *testing.T) {
	p := open(t, true)
	p.goTo("/prep")
	p.waitFor(gridReady)
	require.Contains(t, js[string](p, `document.querySelector('.prep-trouble').innerText`), "Forgotten. Cured egg yolk should have been begun")
	leeks := `document.querySelectorAll('.entry[data-job^="charred-leek/tonight"]').length`
	was := js[int](p, leeks)
	p.goTo("/prep/services")
	p.click(`[data-service="tonight"] .opens`)
	p.waitFor(`document.querySelector('[data-table="table-1"]')`)
	js[any](p, `(() => { document.querySelectorAll('[data-table="table-1"] input')[1].id = 'covers'; return 1 })()`)
	p.fill("#covers", "60")
	p.do(chromedp.KeyEvent(kb.Enter))
	p.waitFor(`document.querySelector('[data-service="tonight"]').innerText.includes('104 covers')`)
	p.waitFor(`document.querySelector('.said-line')?.innerText.match(/batches?, was/)`)
	p.goTo("/prep")
	p.waitFor(gridReady)
	require.Greater(t, js[int](p, leeks), was)
}

// A person who is away has no work; the plan moves.
func TestMakeAPersonAbsent(t *testing.T) {
	p := open(t, true)
	p.goTo("/prep")
	p.waitFor(gridReady)
	p.waitFor(`[...document.querySelectorAll('.load')].some(l => l.innerText.startsWith('Hanne'))`)
	p.goTo("/kitchen")
	p.click(`[data-part="hanne"] .opens`)
	p.fill(`[name="absent"]`, "2026-05-14, 2026-05-15, 2026-05-16")
	p.do(chromedp.KeyEvent(kb.Enter))
	p.waitFor(`document.querySelector('[name="absent"]').value.includes('2026-05-16')`)
	p.goTo("/prep")
	p.waitFor(`document.querySelector('.prep-trouble')?.innerText.match(/Too tight|Forgotten/g).length > 1`)
}

// A section's sheet is ticked, with what was made and a note, and is the same after a
// reload; the label and the exports are there.
func TestTickASheet(t *testing.T) {
	p := open(t, true)
	p.goTo("/prep/sheet/larder")
	p.choose(`[name="who"]`, "ines")
	line := `[...document.querySelectorAll('.sheet-line')].find(l => l.innerText.includes('Watercress') && l.querySelector('.field.note'))`
	p.waitFor(line)
	js[any](p, `(() => { const l = `+line+`; l.id = 'line'; l.querySelector('.note input').id = 'note'; return 1 })()`)
	p.fill("#note", "two crates")
	js[any](p, `(() => { document.querySelector('#line .tick').click(); return 1 })()`)
	p.waitFor(`document.querySelector('#line.done')?.innerText.includes('ticked by Ines')`)
	p.do(chromedp.Reload())
	p.waitFor(line + `?.classList.contains('done')`)
	require.Equal(t, "two crates", js[string](p, line+`.querySelector('.note input').value`))
	p.goTo("/prep/labels?section=larder")
	p.waitFor(`[...document.querySelectorAll('.labels li')].some(l => l.innerText.includes('Watercress') && l.innerText.includes('Use by'))`)
	p.goTo("/prep/ingredients")
	p.waitFor(`document.querySelectorAll('.plain.wide tr').length > 30`)
	require.Contains(t, string(p.fetch("/api/prep/ingredients.csv")), "Watercress")
}

// What is on hand is put there, changed and dropped; the plan uses it. Bad days are said.
func TestPutOnHand(t *testing.T) {
	p := open(t, true)
	p.goTo("/prep/ingredients")
	p.waitFor(`document.querySelectorAll('.on-hand [data-stock]').length > 0`)
	was := js[int](p, `document.querySelectorAll('.on-hand [data-stock]').length`)
	js[any](p, `(() => { [...document.querySelectorAll('.on-hand select')].at(-1).id = 'put'; return 1 })()`)
	p.choose("#put", "hazelnut-crumb")
	row := `document.querySelector('[data-stock="hazelnut-crumb"]')`
	p.waitFor(row)
	js[any](p, `(() => { const i = `+row+`.querySelectorAll('input'); i[0].id = 'amount'; i[1].id = 'useby'; return 1 })()`)
	p.fill("#amount", "5000")
	p.do(chromedp.KeyEvent(kb.Enter))
	p.fill("#useby", "tomorrow")
	p.do(chromedp.KeyEvent(kb.Enter))
	p.waitFor(`document.querySelector('.on-hand').innerText.includes('Write it like 2026-05-16 18:00')`)
	p.fill("#useby", "2026-05-20 18:00")
	p.do(chromedp.KeyEvent(kb.Enter))
	p.waitFor(row + `.innerText.match(/used [1-9]/)`)
	p.goTo("/prep")
	p.waitFor(gridReady)
	require.Zero(t, js[int](p, `document.querySelectorAll('.entry[data-job^="hazelnut-crumb"]').length`), "there is enough of it")
	p.goTo("/prep/ingredients")
	p.waitFor(row)
	js[any](p, `(() => { `+row+`.querySelector('button').click(); return 1 })()`)
	p.waitFor(`document.querySelectorAll('.on-hand [data-stock]').length === ` + fmt.Sprint(was))
}

// What is not ready comes with what can still be done about it, planned again.
func TestWhatHelpsInPrep(t *testing.T) {
	p := open(t, true)
	p.goTo("/prep")
	p.waitFor(`document.querySelector('[data-prep-mend^="Buy in"]')?.innerText.includes('late in all')`)
}

// The sums by the scales.
func TestWorkOutAnAmount(t *testing.T) {
	p := open(t, true)
	p.goTo("/components/brown-butter-dressing")
	p.waitFor(`document.querySelector('.work-out')`)
	js[any](p, `(() => { const w = document.querySelector('.work-out'); w.closest('details').open = true;
		w.querySelectorAll('select')[0].id = 'kind'; return 1 })()`)
	p.choose("#kind", "reduce")
	p.fill(`[name="work-amount"]`, "5")
	p.do(chromedp.KeyEvent(kb.Enter))
	p.fill(`[name="work-percent"]`, "80")
	p.do(chromedp.KeyEvent(kb.Enter))
	p.waitFor(`document.querySelector('.work-out .answer').innerText === '5 l reduced by 80 % leave 1 l.'`)
	p.fill(`[name="work-percent"]`, "180")
	p.do(chromedp.KeyEvent(kb.Enter))
	p.waitFor(`document.querySelector('.work-out .trouble')?.innerText.includes('expected 0 to 100')`)
}
