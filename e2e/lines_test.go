package e2e

import (
	"testing"

	"github.com/stretchr/testify/require"
)

// What a line does not say stands apart as taken for granted; a press says otherwise in the line itself. What is not understood says what
// to write instead.
func TestWhatIsTakenForGrantedIsChangedByAPress(t *testing.T) {
	p := open(t, true)
	p.goTo("/components/sea-beet")
	p.typeLines("to order\nsear 2 min each side\ncut into 4")
	row := `document.querySelectorAll('.lines-editor li')[1]`
	p.waitFor(row + `?.querySelector('.assumed')?.innerText.includes('burner, by “sear”')`)
	p.waitFor(row + `.querySelector('.mark-good').innerText.includes('turned once')`)
	p.waitFor(`document.querySelectorAll('.lines-editor li')[2]?.querySelector('.mark-wait')?.innerText.includes('a time has its unit')`)
	js[any](p, `[...`+row+`.querySelectorAll('button')].find(b => b.textContent === 'without equipment').click()`)
	p.waitFor(`document.querySelector('.lines-editor textarea').value.split(String.fromCharCode(10))[1] === 'sear 2 min each side, without equipment'`)
	p.waitFor(row + `.querySelector('.mark-good').innerText.includes('without equipment')`)
	require.False(t, js[bool](p, row+`.innerText.includes('burner')`))
}

// The form of a new component shows how its lines are read, as they are typed.
func TestLinesOfANewComponentAreReadAsTheyAreTyped(t *testing.T) {
	p := open(t, true)
	p.goTo("/dishes/hake-cider-butter")
	p.press("Add an element")
	p.fill(`[name="component-name"]`, "Turnip")
	p.fill(`[name="component-lines"]`, "glaze 6 min in a pan until tender")
	p.waitFor(`document.querySelector('.new-readings')?.innerText.includes('done by touch: tender')`)
	require.True(t, js[bool](p, `document.querySelector('.new-readings .assumed').innerText.includes('a look now and then')`))
}
