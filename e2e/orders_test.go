package e2e

import (
	"slices"
	"testing"
	"time"

	"github.com/chromedp/chromedp"
	"github.com/stretchr/testify/require"

	"jointime/core/kitchen"
	"jointime/core/service"
)

// orders are those of a table, by course: the last word of each.
func (p *page) orders(table string) map[kitchen.Course][]service.PlateOrder {
	out := map[kitchen.Course][]service.PlateOrder{}
	state := service.Fold(p.events())
	if t := state.Table(table); t != nil {
		for _, c := range t.Courses {
			out[c.Course] = c.Plates
		}
	}
	return out
}

// A table orders in one line at the pass, and the plan has it; a party walks in and orders on the floor by presses, twelve at the most for
// four guests with a need and a wish; two tables sit together; something is off, and a stand-in is ordered for all who were to have it; a
// wrong order is taken back.
func TestOrdersInService(t *testing.T) {
	p := inService(t)
	p.goTo("/pass")
	p.press("Open the service")
	p.waitFor(`document.querySelector('.nearest .ring') !== null`)
	p.key("o")
	p.waitFor(`document.querySelector('[name="order"]') === document.activeElement`)
	p.do(chromedp.KeyEvent("12: 2 swan"))
	p.waitFor(`document.querySelector('.understood').innerText.includes('Nothing on the menu is called')`)
	require.True(t, js[bool](p, `document.querySelector('.order .btn-primary').disabled`))
	p.fill(`[name="order"]`, "12: 1 hake 1 no milk")
	p.waitFor(`document.querySelector('.understood').innerText.includes('Hake, no milk')`)
	p.shot("order-typed")
	p.do(chromedp.KeyEvent("\r"))
	require.Equal(t, "table-12", p.waitForEvent(service.Ordered).Table)
	require.Equal(t, []service.PlateOrder{{Dish: "hake-cider-butter", Count: 1},
		{Dish: "hake-cider-butter", Variant: "no milk", Count: 1, Without: []kitchen.Allergen{"milk"}}}, p.orders("table-12")[kitchen.Main])
	p.press("Undo")
	p.waitForEvent(service.Undone)
	require.Empty(t, p.orders("table-12"))

	b := p.beside()
	b.do(chromedp.EmulateViewport(390, 844))
	b.goTo("/floor")
	b.press("Walk-in")
	b.fill(`[name="walk-in-name"]`, "Bar 3")
	b.fill(`[name="walk-in-covers"]`, "4")
	b.click(`.panel button[type="submit"]`)
	p.waitForEvent(service.Seated)
	row := `[...document.querySelectorAll('.tables li')].find(l => l.innerText.includes('Bar 3'))`
	b.waitFor(row + `?.innerText.includes('no order yet')`)
	presses := 0
	press := func(selector, words string) {
		presses++
		b.waitFor(`[...document.querySelectorAll(` + quoted(selector) + `)].some(x => x.innerText.trim().startsWith(` + quoted(words) + `))`)
		js[any](b, `[...document.querySelectorAll(`+quoted(selector)+`)].find(x => x.innerText.trim().startsWith(`+quoted(words)+`)).click()`)
	}
	press(".tables li > button", "Bar 3")
	press(".inside button", "Order")
	press(".chosen button", "Main")
	for _, d := range []string{"Hake", "Hake", "Guinea fowl", "Salt-baked celeriac"} {
		press(".servable button", d)
	}
	press(".needs-of button", "vegan")
	press(".servable button", "Hake")
	press(".needs-of button", "well done")
	presses++
	b.waitFor(`document.querySelector('.understood').innerText.includes('celeriac, vegan') && !document.querySelector('.order .btn-primary').disabled`)
	b.shot("order-pressed")
	b.click(".order .btn-primary")
	require.LessOrEqual(t, presses, 12)
	require.Equal(t, "walk-in-bar-3", p.waitForEvent(service.Ordered).Table)
	plates := 0
	for _, o := range p.orders("walk-in-bar-3")[kitchen.Main] {
		plates += o.Count
	}
	require.Equal(t, 5, plates)
	b.waitFor(row + `?.innerText.includes('Main')`)

	b.click(".tables li:nth-child(2) > button")
	b.press("Sits with")
	b.click(".inside .numbers .btn:last-child")
	joined := p.waitForEvent(service.Joined)
	require.NotEqual(t, joined.Table, joined.With)

	// The hake is off: who was to have it has something else by one press.
	p.press("Off, away")
	p.post("/api/services/tonight/events", `{"events": [{"id": "off-hake-0001", "kind": "off", "component": "hake"}]}`)
	p.waitFor(`document.querySelectorAll('.stand-ins li').length > 1`)
	p.shot("order-stand-ins")
	p.waitFor(`document.querySelector('.stand-ins').innerText.includes('Brings')`)
	p.click(".stand-ins li:first-child .btn-primary")
	p.waitForEvent(service.Ordered)
	require.Eventually(t, func() bool {
		for _, o := range p.orders("walk-in-bar-3")[kitchen.Main] {
			if o.Dish == "hake-cider-butter" {
				return false
			}
		}
		return len(p.orders("walk-in-bar-3")[kitchen.Main]) > 0
	}, 30*time.Second, 50*time.Millisecond, "the bar has no hake any more")

	// Who else is away than the head has room for is a tap away.
	p.post("/api/services/tonight/events", `{"events": [{"id": "out-away-0001", "kind": "out", "who": "pim"},
		{"id": "out-away-0002", "kind": "out", "who": "tobias"}, {"id": "out-away-0003", "kind": "out", "equipment": "blender"}]}`)
	words, more := `document.querySelector('.live-head .words').innerText`, `document.querySelector('.live-head .more')`
	p.waitFor(`/^[1-9] more$/.test(` + more + `?.innerText)`)
	require.Equal(t, 2, js[int](p, `document.querySelectorAll('.live-head .words p').length`))
	p.click(".live-head .more")
	for _, who := range []string{"Pim", "Tobias", "lender"} {
		p.waitFor(words + `.includes('` + who + `') && ` + more + `.innerText === 'Fewer'`)
	}
	p.shot("pass-away")
	p.click(".live-head .more")
	p.waitFor(`document.querySelectorAll('.live-head .words p').length === 2`)

	// What is in a piece of equipment when it goes is named.
	var due service.DueView
	p.get("/api/services/tonight/due", &due)
	var house struct {
		Equipment []struct{ ID, Name string } `json:"equipment"`
	}
	p.get("/api/kitchen", &house)
	on, piece := service.DueLine{}, ""
	for _, s := range due.Sections {
		for _, l := range slices.Concat(s.Now, s.Next) {
			for _, e := range house.Equipment {
				if piece == "" && e.ID != "blender" && slices.Contains(l.How.On, e.Name) {
					on, piece = l, e.ID
				}
			}
		}
	}
	require.NotEmpty(t, piece)
	p.post("/api/services/tonight/events", `{"events": [{"id": "fired-in-0001", "kind": "fired", "task": "`+on.Task+`", "component": "`+on.Component+`",
		"step": "`+on.Step+`"}, {"id": "out-piece-0001", "kind": "out", "equipment": "`+piece+`"}]}`)
	p.click(".live-head .more")
	p.waitFor(words + `.includes('still in it by the plan: ') && ` + words + `.includes(` + quoted(on.What) + `)`)
}
