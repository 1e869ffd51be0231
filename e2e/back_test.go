package e2e

import (
	"testing"

	"github.com/stretchr/testify/require"

	"jointime/demo"
	"jointime/server"
	"jointime/store/storetest"
)

// Before anything is over the screen says so; then what the record says stands first, one press writes a time and says where the old one
// is; an evening opens, a course of it, and the step that took longer.
func TestLookingBack(t *testing.T) {
	p := open(t, true)
	p.goTo("/back")
	p.waitFor(`document.querySelector('.empty')?.innerText.includes('No service is over yet')`)

	clock := demo.NewClock(storetest.Clock)
	p = openWith(t, false, clock.Now, server.Options{Demo: clock, Past: true})
	p.goTo("/")
	p.press("Load the demo kitchen")
	p.waitFor(`document.querySelector('.sequence')`)
	p.goTo("/back")
	p.waitFor(`document.querySelectorAll('.nights li').length === 8 && document.querySelectorAll('.learnt li').length === 4`)
	require.Contains(t, js[string](p, `document.querySelector('.learnt').innerText`), "Salt-baked celeriac, Heat through: takes")
	p.press("Week by week")
	p.waitFor(`document.querySelectorAll('.weeks li').length === 2 && document.querySelectorAll('.weeks .bar').length === 8`)
	p.press("Evening by evening")
	p.waitFor(`document.querySelectorAll('.nights li').length === 8`)
	js[any](p, `document.querySelector('.learnt [data-kind=step] .use button').click()`)
	p.waitFor(`document.querySelector('.learnt [data-kind=step] [role=status]')?.innerText.includes('stays in the history')`)
	p.press("Write 67 %")
	p.waitFor(`document.querySelector('.learnt [data-kind=share] [role=status]')?.innerText.includes('Tonight')`)
	js[any](p, `[...document.querySelectorAll('.nights a')].find(a => !a.innerText.includes('none late')).click()`)
	p.waitFor(`document.querySelector('.said')?.innerText.includes('% of the lateness')`)
	late := `document.querySelector('.join.late')`
	p.waitFor(late + `?.getAttribute('aria-label').includes('late')`)
	js[any](p, `(`+late+`.dispatchEvent(new MouseEvent('click', {bubbles: true})), 1)`)
	p.waitFor(late + `.getAttribute('aria-pressed') === 'true'`)
	p.waitFor(`document.querySelector('.made h3')?.innerText.includes('late')`)
	require.Greater(t, js[int](p, `document.querySelectorAll('.made .stove').length`), 3)
	require.Contains(t, string(p.fetch(js[string](p,
		`[...document.querySelectorAll('header a')].find(a => a.innerText === 'Steps, CSV').getAttribute('href')`))),
		"Taken, s")
	p.waitFor(`document.querySelectorAll('.probes .measured').length > 0`)
	p.choose(`.thrown select`, "component/sorrel")
	p.fill(`.thrown input`, "3")
	p.choose(`.thrown select:last-of-type`, "spoilt")
	p.press("Add")
	p.waitFor(`document.querySelector('.thrown li')?.innerText.includes('3 Sorrel leaves: spoilt')`)
	js[any](p, `document.querySelector('.thrown li button').click()`)
	p.waitFor(`document.querySelector('.thrown li')?.innerText.includes('taken back')`)
	p.choose(`.notes select`, "step/hake/oven")
	p.fill(`.notes input`, "Turn the tray once")
	p.press("Write it down")
	p.waitFor(`document.querySelector('.notes li')?.innerText.includes('Turn the tray once')`)
	p.choose(`.notes select`, "component/baked-celeriac")
	p.fill(`.notes input`, "Cut it thinner")
	p.press("Write it down")
	p.waitFor(`document.querySelector('.notes li')?.innerText.includes('Cut it thinner')`)
	p.press("All evenings")
	p.press("Amounts")
	p.waitFor(`document.querySelectorAll('.amount-lines li').length === 8 && document.querySelectorAll('.amount-lines .bar').length === 64`)
	require.Contains(t, js[string](p, `document.querySelector('.amounts').innerText`), "thrown away")
	p.press("All evenings")
	p.waitFor(`document.querySelector('.nights')`)
	js[any](p, `document.querySelector('.nights li:nth-child(1) button').click()`)
	p.waitFor(`document.querySelector('.nights li:nth-child(1) button').getAttribute('aria-pressed') === 'true'`)
	js[any](p, `document.querySelector('.nights li:nth-child(3) button').click()`)
	p.waitFor(`location.pathname === '/back/beside' && document.querySelectorAll('.card-enamel h2 a').length === 2`)
	require.Equal(t, 2, js[int](p, `document.querySelectorAll('svg[role=group]').length`))
	p.goTo("/fire?service=tonight")
	p.waitFor(`document.querySelector('.notes')?.innerText.includes('Cut it thinner')`)
	p.goTo("/components/hake")
	p.waitFor(`document.querySelector('.link .notes')?.innerText.includes('Turn the tray once')`)
	p.goTo("/components/baked-celeriac")
	p.waitFor(`document.querySelector('.notes')?.innerText.includes('Cut it thinner')`)
	p.press("Put away")
	p.waitFor(`!document.querySelector('.notes')`)
}
