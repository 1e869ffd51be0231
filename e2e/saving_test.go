package e2e

import (
	"context"
	"testing"
	"time"

	"github.com/chromedp/chromedp"
	"github.com/chromedp/chromedp/kb"
	"github.com/stretchr/testify/require"

	"jointime/core/kitchen"
)

// version is that of a record now.
func (p *page) version(kind kitchen.Kind, id string) int64 {
	p.t.Helper()
	snap, err := p.db.Snapshot(context.Background())
	require.NoError(p.t, err)
	return snap.Versions[kitchen.Key{Kind: kind, ID: id}]
}

// Enter goes on to the next field and saves once; leaving that one, with nothing changed in
// it, saves nothing more. Nobody is told of their own change.
func TestEnterSavesOnce(t *testing.T) {
	p := open(t, true)
	p.goTo(dishPath)
	p.fires("hake")
	p.waitFor(`document.querySelector('[data-task="table/hake/oven"]')`)
	js[any](p, `(() => { document.querySelector('[data-task="table/hake/oven"]').dispatchEvent(new MouseEvent('click', {bubbles: true})); return 1 })()`)
	p.typeInto("#step-likely", "6")
	p.waitFor(firing("hake") + ` === "19:30:16"`)
	p.do(chromedp.KeyEvent(kb.Enter), chromedp.KeyEvent(kb.Enter), chromedp.KeyEvent(kb.Tab))
	p.typeInto("#step-shortest", "80 s")
	p.waitFor(firing("hake") + ` !== "19:30:16"`)
	require.Equal(t, int64(3), p.version(kitchen.ComponentRecord, "hake"), "two changes, two versions")
	require.NotContains(t, js[string](p, `document.body.innerText`), "Somebody changed this meanwhile")
}

// Two edits made before the first has answered are both kept, in their order.
func TestTwoQuickEditsAreBothKept(t *testing.T) {
	p := open(t, true)
	p.goTo("/kitchen")
	p.click(`[data-part="hanne"] .opens`)
	p.waitFor(`document.querySelector('[data-part="hanne"] input')`)
	js[any](p, `(() => { const i = document.querySelectorAll('[data-part="hanne"] input.form-control'); i[0].id = 'first'; i[1].id = 'second'; return 1 })()`)
	p.trouble.Store(&trouble{method: "PUT", late: 400 * time.Millisecond})
	p.fill("#first", "Hanne Oak")
	p.do(chromedp.KeyEvent(kb.Enter))
	p.fill("#second", "sweet things")
	p.do(chromedp.KeyEvent(kb.Enter))
	p.waitFor(`document.querySelector('[data-part="hanne"]').innerText.includes('Hanne Oak')`)
	p.waitFor(`document.querySelector('[data-part="hanne"]').innerText.includes('sweet things')`)
	p.trouble.Store(nil)
	require.Eventually(t, func() bool { return p.version(kitchen.PersonRecord, "hanne") == 3 }, 20*time.Second, 20*time.Millisecond)
	snap, err := p.db.Snapshot(context.Background())
	require.NoError(t, err)
	who, _ := snap.Book.Person("hanne")
	require.Equal(t, "Hanne Oak", who.Name)
	require.Equal(t, "sweet things", who.Role)
}

// What was typed stays when the save fails, with why beside it; pressed again it is saved.
// Whether the server answers wrongly or not at all.
func TestWhatWasTypedStays(t *testing.T) {
	for name, x := range map[string]struct {
		trouble trouble
		says    string
	}{
		"wrongly":    {trouble{method: "PUT", status: 500}, "Something went wrong on the server"},
		"not at all": {trouble{method: "PUT", dead: true}, "The server does not answer"},
	} {
		t.Run(name, func(t *testing.T) {
			p := open(t, true)
			p.goTo("/components/hake")
			p.waitFor(`document.querySelector('input[aria-invalid]')`)
			js[any](p, `(() => { document.querySelector('.component-page input, main input.form-control').id = 'name'; return 1 })()`)
			p.trouble.Store(&x.trouble)
			p.fill("#name", "Hake on the bone")
			p.do(chromedp.KeyEvent(kb.Enter))
			p.waitFor(`document.querySelector('.not-saved')?.innerText.includes("` + x.says + `")`)
			require.Equal(t, "Hake on the bone", js[string](p, `document.querySelector('#name').value`))
			// Leaving the field, and the page asking anew, take nothing away.
			p.do(chromedp.KeyEvent(kb.Tab))
			require.Equal(t, "Hake on the bone", js[string](p, `document.querySelector('#name').value`))
			require.Equal(t, int64(1), p.version(kitchen.ComponentRecord, "hake"))
			p.trouble.Store(nil)
			js[any](p, `(() => { document.querySelector('.not-saved button').click(); return 1 })()`)
			p.waitFor(`!document.querySelector('.not-saved')`)
			p.waitFor(`document.querySelector('h1')?.innerText.includes('Hake on the bone')`)
			require.Equal(t, int64(2), p.version(kitchen.ComponentRecord, "hake"))
		})
	}
}

// Somebody else's change is not written over: the field says so, the page shows theirs, and
// pressed again mine is put on top.
func TestSomebodyElsesChangeIsNotWrittenOver(t *testing.T) {
	p := open(t, true)
	p.goTo("/fire?service=tonight")
	p.waitFor(`document.querySelectorAll('.join').length === 60`)
	p.few("tonight", 14) // somebody takes a table off meanwhile
	js[any](p, `(() => { document.querySelector('[data-name="table-4"]').focus(); return 1 })()`)
	p.do(chromedp.KeyEvent(kb.ArrowLeft))
	p.waitFor(`document.querySelector('.trouble')?.innerText.includes('changed meanwhile')`)
	snap, err := p.db.Snapshot(context.Background())
	require.NoError(t, err)
	s, _ := snap.Book.Service("tonight")
	require.Len(t, s.Tables, 14, "their change stands")
	p.waitFor(`document.querySelectorAll('.join').length === 56`)
	js[any](p, `(() => { document.querySelector('[data-name="table-4"]').focus(); return 1 })()`)
	p.do(chromedp.KeyEvent(kb.ArrowLeft))
	require.Eventually(t, func() bool { return p.version(kitchen.ServiceRecord, "tonight") == 3 }, 20*time.Second, 20*time.Millisecond)
}

// A server that is gone is said to be gone, since when; what was shown stays, and what was
// typed. When it is back, that is seen.
func TestAServerThatIsGone(t *testing.T) {
	p := open(t, true)
	p.goTo("/prep")
	p.waitFor(gridReady)
	p.trouble.Store(&trouble{dead: true})
	p.waitFor(`document.querySelector('.not-reached')?.innerText.match(/has not been reached since \d\d:\d\d/)`)
	require.True(t, js[bool](p, gridReady), "the plan is still there")
	p.trouble.Store(nil)
	p.waitFor(`!document.querySelector('.not-reached')`)
}

// Lines that were not saved yet are still there when the page was left; put back, they are
// what is saved; saved, they are nothing more to keep. What is too long is said.
func TestUnsavedLinesStay(t *testing.T) {
	p := open(t, true)
	lines := func() {
		p.goTo("/components/hake")
		p.press("Kitchen lines")
		p.waitFor(`document.querySelector('.lines-editor textarea')`)
	}
	area := `document.querySelector('.lines-editor textarea').value`
	lines()
	saved := js[string](p, area)
	p.fill(".lines-editor textarea", "sear 3 min both hands")
	p.waitFor(`document.querySelector('.lines-editor ul').innerText.includes('3 min')`)
	p.goTo("/kitchen")
	lines()
	p.waitFor(area + ` === "sear 3 min both hands"`)
	p.waitFor(`document.querySelector('.lines-editor ul').innerText.includes('3 min')`)
	p.press("Back to what is saved")
	p.waitFor(area + ` === ` + quoted(saved))
	lines()
	p.waitFor(area + ` === ` + quoted(saved))
	long := ""
	for len(long) < 502 {
		long += "salt and "
	}
	p.fill(".lines-editor textarea", long)
	p.waitFor(`document.querySelector('[role="alert"]')?.innerText.includes('expected at most 500 characters')`)
}

// While the times for other covers are worked out, the old ones are not seen: they keep their place, and a word says
// what is going on. A server that does not answer leaves no old times either.
func TestOldTimesNeverStandBesideNewCovers(t *testing.T) {
	p := open(t, true)
	p.goTo(dishPath)
	p.fires("hake")
	seen := `(() => { const f = document.querySelector('.strands .chart'); return !!f && getComputedStyle(f).visibility === 'visible' })()`
	require.True(t, js[bool](p, seen))
	p.trouble.Store(&trouble{method: "POST", late: 1500 * time.Millisecond})
	p.typeInto(`input[name="n"]`, "9")
	p.do(chromedp.KeyEvent(kb.Enter))
	p.waitFor(`document.querySelector('.strands .busy')?.innerText === 'Working it out …'`)
	require.False(t, js[bool](p, seen), "the times are those of four plates")
	require.NotContains(t, js[string](p, `document.querySelector('.strands').innerText`), "Plating")
	p.waitFor(`!document.querySelector('.strands .busy') && ` + seen)
	p.trouble.Store(&trouble{method: "POST", dead: true})
	p.typeInto(`input[name="n"]`, "3")
	p.do(chromedp.KeyEvent(kb.Enter))
	p.waitFor(`document.querySelector('.strands .trouble')?.innerText.includes('does not answer')`)
	require.False(t, js[bool](p, seen))
	p.trouble.Store(nil)
}

// What is typed into a second field while the first is on its way is not lost, and each is saved once.
func TestAStepIsTypedFasterThanItIsSaved(t *testing.T) {
	p := open(t, true)
	p.goTo(dishPath)
	p.fires("hake")
	p.waitFor(`document.querySelector('[data-task="table/hake/oven"]')`)
	js[any](p, `(() => { document.querySelector('[data-task="table/hake/oven"]').dispatchEvent(new MouseEvent('click', {bubbles: true})); return 1 })()`)
	p.waitFor(`document.querySelector('#step-likely')`)
	p.trouble.Store(&trouble{method: "PATCH", late: 700 * time.Millisecond})
	p.typeInto("#step-likely", "6")
	p.do(chromedp.KeyEvent(kb.Enter)) // on its way; the next field has the focus
	p.typeInto("#step-shortest", "80 s")
	require.Eventually(t, func() bool { return p.version(kitchen.ComponentRecord, "hake") == 2 }, 20*time.Second, 20*time.Millisecond)
	p.waitFor(`document.querySelector('#step-likely').value === "6:00"`)
	require.Equal(t, "80 s", js[string](p, `document.querySelector('#step-shortest').value`), "the answer took nothing away")
	p.do(chromedp.KeyEvent(kb.Tab))
	require.Eventually(t, func() bool { return p.version(kitchen.ComponentRecord, "hake") == 3 }, 20*time.Second, 20*time.Millisecond)
	snap, err := p.db.Snapshot(context.Background())
	require.NoError(t, err)
	c, _ := snap.Book.Component("hake")
	require.Equal(t, 80, c.Hold.Shortest)
	require.Equal(t, 360, c.Steps[c.StepIndex("oven")].Time.For(2).Likely)
	p.trouble.Store(nil)
	p.typeInto("#step-likely", "soon")
	p.do(chromedp.KeyEvent(kb.Tab))
	p.waitFor(`document.querySelector('.step-editor .fault')?.innerText.length > 0`)
	require.Equal(t, "soon", js[string](p, `document.querySelector('#step-likely').value`), "what is not understood stays")
	require.Equal(t, int64(3), p.version(kitchen.ComponentRecord, "hake"))
}

// Hours and clocks are understood by the server; what means nothing is said and stays as it was typed.
func TestHoursAreTyped(t *testing.T) {
	p := open(t, true)
	p.goTo("/kitchen")
	p.click(`[data-part="hanne"] .opens`)
	p.waitFor(`document.querySelector('[data-part="hanne"] .hours input')`)
	js[any](p, `(() => { const i = document.querySelectorAll('[data-part="hanne"] .hours input'); i[0].id = 'monday'; i[1].id = 'tuesday'; return 1 })()`)
	p.fill("#monday", "10-15, 17 to 23.30")
	p.do(chromedp.KeyEvent(kb.Enter))
	p.waitFor(`document.querySelector('#monday').value === "10:00–15:00, 17:00–23:30"`)
	p.fill("#tuesday", "all day")
	p.do(chromedp.KeyEvent(kb.Enter))
	p.waitFor(`document.querySelector('[data-part="hanne"] .hours .mark-late')`)
	require.Equal(t, "all day", js[string](p, `document.querySelector('#tuesday').value`))
	p.fill("#tuesday", "x")
	p.do(chromedp.KeyEvent(kb.Backspace), chromedp.KeyEvent(kb.Enter))
	p.waitFor(`document.querySelector('#tuesday').value === "" && !document.querySelector('[data-part="hanne"] .hours .mark-late')`)
	require.Eventually(t, func() bool { return p.version(kitchen.PersonRecord, "hanne") == 3 }, 20*time.Second, 20*time.Millisecond)
	snap, err := p.db.Snapshot(context.Background())
	require.NoError(t, err)
	who, _ := snap.Book.Person("hanne")
	for _, h := range who.Hours {
		require.NotEqual(t, 2, h.Day, "Tuesday is off")
	}
}
