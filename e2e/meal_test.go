package e2e

import (
	"testing"

	"github.com/stretchr/testify/require"
)

// One meal from zero: its deadlines with their slack, its strands, a sheet for each pair of hands; changed, it is planned again,
// and what cannot be made is said.
func TestOneMealFromZero(t *testing.T) {
	p := open(t, true)
	p.goTo("/prep/services")
	p.press("One meal")
	p.waitFor(`document.querySelector('h1')?.innerText === 'Dinner for six'`)
	p.waitFor(`document.querySelectorAll('.meal-deadlines li').length === 3`)
	p.waitFor(`document.querySelector('.meal-deadlines').innerText.includes('slack at least')`)
	require.Contains(t, js[string](p, `document.querySelector('.meal-must').innerText`), "nobody said which component it is")
	require.Greater(t, js[int](p, `document.querySelectorAll('.meal-strands [data-strand]').length`), 10)
	require.Equal(t, []string{"Marguerite", "Oluwa"},
		js[[]string](p, `[...document.querySelectorAll('.meal-sheets section')].map(e => e.dataset.person)`))
	clocks := js[[]int](p, `[...document.querySelectorAll('[data-person="Oluwa"] .figure')].map(e => {
		const [h, m, s] = e.innerText.split(':').map(Number); return h * 3600 + m * 60 + (s || 0) })`)
	require.NotEmpty(t, clocks)
	for i := 1; i < len(clocks); i++ {
		require.LessOrEqual(t, clocks[i-1], clocks[i], "by the clock")
	}

	// Without an oven it cannot be, and the page says so; what was set up stays.
	js[any](p, `(() => { [...document.querySelectorAll('.meal-editor summary')].forEach(s => s.click()); return 1 })()`)
	for _, name := range []string{"Combi oven", "Deck oven"} {
		box := `[...document.querySelectorAll('.meal-editor label')].find(l => l.innerText.trim() === '` + name + `').querySelector('input')`
		js[any](p, `(() => { `+box+`.click(); return 1 })()`)
		p.waitFor(box + `.checked`)
	}
	p.waitFor(`document.querySelector('[role="alert"]')?.innerText.includes('no oven')`)
	p.press("New meal")
	p.waitFor(`document.querySelector('.meal header select')?.options.length === 2`)
}

// A step is said to come after a step of another component of its plate, in its pan; that stays, and the kitchen lines say it.
func TestAfterAStepOfAnotherComponent(t *testing.T) {
	p := open(t, true)
	p.goTo("/components/cider-butter-sauce")
	card := `document.querySelector('[data-item="mount"]')`
	p.waitFor(card)
	js[any](p, `(() => { [...`+card+`.querySelectorAll('button')].find(b => b.innerText.trim() === 'More').click(); return 1 })()`)
	field := `[...` + card + `.querySelectorAll('.field')].find(f => f.innerText.startsWith("Another component's step"))`
	p.waitFor(field)
	js[any](p, `(() => { `+field+`.querySelector('select').id = 'beside'; return 1 })()`)
	p.choose("#beside", "hake/pan")
	p.waitFor(card + `.innerText.includes('of Hake, roasted')`)
	js[any](p, `(() => { [...`+card+`.querySelectorAll('label')].find(l => l.innerText.trim() === 'in its pan').querySelector('input').click(); return 1 })()`)
	p.waitFor(card + `.innerText.includes('in the pan of Hake, roasted')`)
	p.press("Kitchen lines")
	p.waitFor(`document.querySelector('.lines-editor textarea')?.value.includes('after pan of hake in its pan')`)
	p.goTo("/components/cider-butter-sauce")
	p.waitFor(card + `?.innerText.includes('in the pan of Hake, roasted')`)
}

// The recipes of a section are read through and signed in one go, by somebody with a name; the dish knows it then.
func TestReadingRecipesThrough(t *testing.T) {
	p := open(t, true)
	p.goTo("/dishes/mussel-custard")
	p.waitFor(`document.body.innerText.includes('allergens not known (Rye crisp)')`)
	p.goTo("/components/rye-crisp")
	p.waitFor(`document.querySelector('.recipe-standing')?.innerText.includes('nobody has said that it is complete')`)
	p.press("Read recipes through")
	pastry := `document.querySelector('[data-section="pastry"]')`
	p.waitFor(pastry + `?.innerText.includes('nobody has said that it is complete')`)
	require.Contains(t, js[string](p, `document.querySelector('[data-recipe="fennel-broth"]').innerText`), "“mussel” suggests molluscs")
	button := pastry + `.querySelector('button')`
	require.True(t, js[bool](p, button+`.disabled`), "nobody signs without a name")
	js[any](p, `(() => { document.querySelector('.reading header select').id = 'who-read'; return 1 })()`)
	p.choose("#who-read", "hanne")
	p.waitFor(`!` + button + `.disabled`)
	js[any](p, `(() => { `+button+`.click(); return 1 })()`)
	p.waitFor(pastry + `.innerText.includes('All of it is read and signed.')`)
	require.Contains(t, js[string](p, `document.querySelector('[data-recipe="rye-crisp"]').innerText`), "complete, said Hanne")
	p.goTo("/dishes/mussel-custard")
	p.waitFor(`document.querySelector('h1')?.innerText.includes('Mussel') && !document.body.innerText.includes('allergens not known')`)
}
