package e2e

import (
	"testing"

	"github.com/stretchr/testify/require"
)

const dietPress = `[...document.querySelectorAll('.dish header .allergens')].at(-1)`

// Which diets a plate suits stands on the dish; the house says what kosher means, and from then on it is judged; an ingredient that is
// said to be pork is no longer suitable, and its recipe has to be read again.
func TestDietsOfADish(t *testing.T) {
	p := open(t, true)
	p.goTo("/dishes/salt-baked-celeriac")
	p.waitFor(dietPress + `?.innerText === 'vegetarian, no pork, no alcohol, nothing raw, halal by its recipes'`)
	js[any](p, `(() => { `+dietPress+`.click(); return 1 })()`)
	line := func(d string) string { return `document.querySelector('[data-diet="` + d + `"]')?.innerText` }
	p.waitFor(line("kosher") + `?.includes('The house has not said what kosher means here.')`)
	require.Contains(t, js[string](p, line("vegan")), "milk in")

	p.goTo("/kitchen")
	p.press("Say what kosher means here")
	p.waitFor(line("kosher") + `?.includes('Kept out')`)
	js[any](p, `(() => { [...document.querySelectorAll('[data-diet="kosher"] .chips button')].find(b => b.innerText === 'pork').click(); return 1 })()`)
	p.waitFor(line("kosher") + `?.includes('✓ pork')`)
	p.goTo("/dishes/salt-baked-celeriac")
	p.waitFor(dietPress + `?.innerText.includes('kosher by its recipes')`)

	p.goTo("/components/lentils")
	p.waitFor(`document.querySelector('.ingredient .chips')`)
	js[any](p, `(() => { [...document.querySelectorAll('.ingredient .chips button')].find(b => b.textContent === 'pork').click(); return 1 })()`)
	p.waitFor(`document.querySelector('.recipe-standing')?.innerText.includes('changed since Ada Brandt read it')`)
	p.goTo("/dishes/salt-baked-celeriac")
	p.waitFor(dietPress + `?.innerText === 'no alcohol, nothing raw by its recipes' || ` + dietPress + `?.innerText === 'diets not known'`)
	js[any](p, `(() => { `+dietPress+`.click(); return 1 })()`)
	p.waitFor(line("vegetarian") + `?.includes('pork in Lentils (Lentils)')`)
	require.Contains(t, js[string](p, line("no alcohol")), "nobody has said that these recipes are complete: Lentils")
}

// At the pass it is said once for a guest's plate whether it suits, how it is worked, and what could get to it; the section's sheet says
// only whose portion it is, and what could get to it there.
func TestAGuestsPlate(t *testing.T) {
	p := open(t, true)
	p.goTo("/fire?service=tonight&join=table-2/second")
	plate := `document.querySelector('.guest-plate[data-state="suits"]')?.innerText`
	p.waitFor(plate + `?.includes('1 × no milk: Beetroot dumplings')`)
	require.Contains(t, js[string](p, plate), "First, in a pan of its own")
	require.Equal(t, 1, js[int](p, `document.querySelectorAll('.guest-plate').length`))
	p.goTo("/fire/sheet?service=tonight&section=garnish")
	p.waitFor(`[...document.querySelectorAll('.sheet-line.is-fire .mark-late')].some(m => m.innerText.includes('▲ no milk'))`)
	// Only what can get to it at the stove: its board was used hours ago, and stands on the prep sheet.
	require.NotContains(t, js[string](p, `document.querySelector('.sheet').innerText`), "Beetroot dumpling: Pressed potato")
	p.goTo("/prep/sheet/garnish")
	p.waitFor(`document.body.innerText.includes('Beetroot dumpling: Pressed potato (milk) is cut at Garnish too. A clean board and knife, before the others.')`)
}

// The limits of the code and the dangers of the work stand on the component, with what usually is done and where it is written.
func TestLimitsOfAComponent(t *testing.T) {
	p := open(t, true)
	p.goTo("/components/baked-celeriac")
	line := `document.querySelector('[data-subject="unchilled"].mark-late')`
	p.waitFor(line)
	require.Contains(t, js[string](p, line+`.innerText`), "it may wait 8 h here. Small amounts out at a time")
	require.Contains(t, js[string](p, line+`.innerText`), "SI 2013/2996, Schedule 4")
	require.Contains(t, js[string](p, line+`.closest('details').innerText`), "one goes past a limit")
}

// The log of temperatures: what is missing stands first; nobody writes without a name; the keypad, one press, and it is no longer missing;
// a wrong line is corrected by another and stays.
func TestTemperaturesWithWetHands(t *testing.T) {
	p := open(t, true)
	p.goTo("/prep")
	p.press("Temperatures")
	due := func(what string) string {
		return `[...document.querySelectorAll('.dues button')].find(b => b.innerText.includes('` + what + `'))`
	}
	p.waitFor(due("Fridge: its temperature"))
	js[any](p, `(() => { `+due("Fridge: its temperature")+`.click(); return 1 })()`)
	p.waitFor(`document.querySelector('.reading-panel')?.innerText.includes('Say who you are at the top')`)
	p.choose(`[name="who"]`, "ada")
	p.waitFor(`!document.querySelector('.reading-panel').innerText.includes('Say who you are at the top')`)
	for _, key := range []string{"4", "0"} {
		p.press(key)
	}
	p.press("Write it down")
	line := func(n string) string { return `document.querySelector('[data-line="` + n + `"]')` }
	p.waitFor(line("1") + `?.innerText.includes('Past the limit: 8 °C or below')`)
	p.waitFor(`!` + due("Fridge: its temperature"))
	p.press("Correct")
	p.waitFor(`document.querySelector('.reading-panel')?.innerText.includes('corrects line 1')`)
	p.press("4")
	p.press("Write it down")
	p.waitFor(line("2") + `?.innerText.includes('Within the limit')`)
	require.Contains(t, js[string](p, line("1")+`.innerText`), "corrected by line 2")
	require.Contains(t, string(p.fetch("/api/safety/log.csv?day="+js[string](p, `document.querySelector('.files a').href.split('day=')[1]`))),
		"Ada Brandt")
}
