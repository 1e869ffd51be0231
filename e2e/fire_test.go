package e2e

import (
	"bytes"
	"context"
	"encoding/json"
	"fmt"
	"os"
	"os/exec"
	"reflect"
	"slices"
	"strings"
	"testing"
	"time"

	"github.com/chromedp/chromedp"
	"github.com/chromedp/chromedp/kb"
	"github.com/stretchr/testify/require"

	"jointime/core/kitchen"
	"jointime/core/verify"
	"jointime/core/workload"
)

// The evening: choose a join, see its strands; try a mend, see the plan with it; keep it,
// and the service is changed.
func TestTryAndKeepAMend(t *testing.T) {
	p := open(t, true)
	// Three large tables want guinea fowl at once, and one cook browns it.
	ctx := context.Background()
	was0, err := p.db.Snapshot(ctx)
	require.NoError(t, err)
	tonight, _ := was0.Book.Service("tonight")
	busy := *tonight
	busy.Menu = []kitchen.MenuLine{{Dish: "guinea-fowl-barley", Share: 100}}
	busy.Tables = slices.Clone(tonight.Tables[:3])
	for i := range busy.Tables {
		busy.Tables[i].Covers, busy.Tables[i].SeatedAt, busy.Tables[i].Needs = 8, 19*60, []kitchen.GuestNeed{}
	}
	_, err = p.db.Save(ctx, kitchen.Key{Kind: kitchen.ServiceRecord, ID: "tonight"}, 1, busy, "Three at once.")
	require.NoError(t, err)
	p.goTo("/fire")
	p.waitFor(`document.querySelectorAll('.join').length === 3`)
	p.click(`[data-join="table-1/main"]`)
	p.waitFor(`document.querySelector('.chosen-join')?.innerText.includes('Table 1, Main')`)
	p.press("Strands")
	p.waitFor(`document.querySelector('.strands h2')?.innerText.startsWith('Table 1, Main')`)
	p.waitFor(`document.querySelectorAll('.strands .step').length > 2`)
	p.press("Forty minutes")
	p.waitFor(`document.querySelectorAll('[data-lane="roast"] .run').length > 3`)
	p.waitFor(`document.querySelectorAll('[data-mend]').length > 0`)
	late := `document.querySelector('.doesnt').innerText`
	was := js[string](p, late)
	chances := `[...document.querySelectorAll('.join')].map(j => j.getAttribute('aria-label')).join()`
	sure := js[string](p, chances)
	js[any](p, `(() => { [...document.querySelectorAll('[data-mend] button')].find(b => b.innerText === 'Try').click(); return 1 })()`)
	p.waitFor(`location.search.includes('mend=')`)
	p.waitFor(late + ` !== ` + quoted(was))
	p.waitFor(chances + ` !== ` + quoted(sure))
	js[any](p, `(() => { [...document.querySelectorAll('[data-mend] button')].find(b => b.innerText === 'Keep').click(); return 1 })()`)
	p.waitFor(`!location.search.includes('mend=')`)
	snap, err := p.db.Snapshot(ctx)
	require.NoError(t, err)
	require.Equal(t, int64(3), snap.Versions[kitchen.Key{Kind: kitchen.ServiceRecord, ID: "tonight"}])
}

func quoted(s string) string {
	var b bytes.Buffer
	for _, r := range s {
		switch r {
		case '\n':
			b.WriteString(`\n`)
		case '"', '\\':
			b.WriteRune('\\')
			b.WriteRune(r)
		default:
			b.WriteRune(r)
		}
	}
	return `"` + b.String() + `"`
}

// A table is dragged along the clock: it is seated at another time, its joins move with it
// and the page says what that did.
func TestDragATable(t *testing.T) {
	p := open(t, true)
	p.goTo("/fire")
	at := `document.querySelector('[data-join="table-4/first"]')?.getAttribute('aria-label')`
	p.waitFor(at + `?.includes('19:11')`)
	p.waitFor(`!document.body.innerText.includes('still looking')`)
	x, y, w, h := p.still(`document.querySelector('[data-join="table-4/first"]')`)
	box := []float64{x + w/2, y + h/2}
	minute := js[float64](p, `(() => {
		const x = s => document.querySelector('[data-join="table-4/' + s + '"]').getBoundingClientRect().x;
		return (x('dessert') - x('first')) / 90 })()`)
	p.do(chromedp.MouseEvent(chromedp.MousePressed, box[0], box[1], chromedp.ButtonLeft))
	for i := range 60 {
		p.do(chromedp.MouseEvent(chromedp.MouseMoved, box[0]+minute*10*float64(i+1)/60, box[1], chromedp.ButtonLeft))
	}
	p.waitFor(`document.querySelector('.moved')?.textContent === '+10 min'`)
	p.do(chromedp.MouseEvent(chromedp.MouseReleased, box[0]+minute*10, box[1], chromedp.ButtonLeft))
	p.waitFor(at + `?.includes('19:21')`)
	p.waitFor(`document.querySelector('.said-line')?.innerText.includes('Table 4 goes')`)
	// The same by keys, on its name.
	js[any](p, `(() => { document.querySelector('[data-name="table-4"]').focus(); return 1 })()`)
	p.do(chromedp.KeyEvent(kb.ArrowLeft))
	p.waitFor(at + `?.includes('19:16')`)
	snap, err := p.db.Snapshot(context.Background())
	require.NoError(t, err)
	tonight, _ := snap.Book.Service("tonight")
	require.Equal(t, 18*60+56, tonight.Tables[3].SeatedAt)
}

// The margin changes the chance.
func TestTheMarginChangesTheChance(t *testing.T) {
	p := open(t, true)
	p.goTo("/fire")
	chances := `[...document.querySelectorAll('.table-name b')].map(b => b.innerText).join()`
	p.waitFor(`document.querySelectorAll('.table-name').length === 15`)
	was := js[string](p, chances)
	js[any](p, `(() => { const m = document.querySelector('[name="margin"]');
		Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, 'value').set.call(m, '60');
		m.dispatchEvent(new PointerEvent('pointerup', {bubbles: true})); return 1 })()`)
	p.waitFor(`document.querySelector('[name="margin"]').defaultValue === '60'`)
	p.waitFor(chances + ` !== ` + quoted(was))
}

// The workload that is downloaded, solved by the command with the rounds that the plan
// names, comes to the cost of the plan; the judge accepts both.
func TestTheCommandFindsTheSamePlan(t *testing.T) {
	p := open(t, true)
	p.few("tonight", 8)
	p.goTo("/fire?service=tonight")
	p.waitFor(`document.querySelectorAll('.join').length === 32`)
	p.waitFor(`!document.body.innerText.includes('still looking')`)
	type plan struct {
		Cost   int64
		Rounds []int
	}
	var view, after plan
	var asked, told []byte
	for { // all of one plan: another may be told in between
		require.NoError(t, json.Unmarshal(p.fetch("/api/fire/tonight"), &view))
		asked, told = p.fetch("/api/fire/tonight/files/workload.json"), p.fetch("/api/fire/tonight/files/schedule.json")
		require.NoError(t, json.Unmarshal(p.fetch("/api/fire/tonight"), &after))
		if reflect.DeepEqual(view, after) {
			break
		}
	}
	dir := t.TempDir()
	require.NoError(t, os.WriteFile(dir+"/workload.json", asked, 0o600))
	rounds := strings.Trim(strings.ReplaceAll(fmt.Sprint(view.Rounds), " ", ","), "[]")
	require.NotEmpty(t, rounds)
	run := func(args ...string) {
		out, err := exec.Command("go", append([]string{"run", "jointime/cmd/jointime"}, args...)...).CombinedOutput()
		require.NoError(t, err, string(out))
	}
	run("schedule", "--in", dir+"/workload.json", "--out", dir+"/schedule.json", "--anyway", "--rounds", rounds, "--seconds", "120")
	run("verify", "--workload", dir+"/workload.json", "--schedule", dir+"/schedule.json")
	raw, err := os.ReadFile(dir + "/schedule.json")
	require.NoError(t, err)
	s, err := workload.ReadSchedule(bytes.NewReader(raw))
	require.NoError(t, err)
	require.Equal(t, view.Cost, *s.Cost)

	w, err := workload.Read(bytes.NewReader(asked))
	require.NoError(t, err)
	shown, err := workload.ReadSchedule(bytes.NewReader(told))
	require.NoError(t, err)
	broken, err := verify.Check(w, shown)
	require.NoError(t, err)
	require.Empty(t, broken, "the cost is stated right")
}

// The page says which plan it shows. Printed, it stays when a dish is changed: the page of
// that dish says what following would do, and the plan follows when that is pressed.
func TestAPrintedPlanIsKept(t *testing.T) {
	p := open(t, true)
	p.few("tonight", 3)
	p.goTo("/fire?service=tonight")
	p.waitFor(`document.querySelectorAll('.join').length === 12`)
	p.waitFor(`!document.body.innerText.includes('still looking')`)
	line := `document.querySelector('.plan-line')?.innerText`
	p.waitFor(line + `?.match(/Plan \d+\s+since \d\d:\d\d/)`)
	require.NotContains(t, js[string](p, line), "printed")
	p.goTo("/fire/sheet?service=tonight")
	p.waitFor(`document.querySelector('.sheet h1')?.innerText.includes('Plan ')`)
	// Whose sheet it is, the act, and until when.
	p.waitFor(`document.querySelector('.sheet h1').innerText.includes('Larder')`)
	p.waitFor(`/^\S.*: \d+ × /.test(document.querySelector('.sheet-line .what b')?.innerText)`)
	p.waitFor(`/until \d\d:\d\d/.test(document.querySelector('.sheet-line .what')?.innerText)`)
	js[any](p, `(() => { window.dispatchEvent(new Event('beforeprint')); return 1 })()`)
	p.goTo("/fire?service=tonight")
	p.waitFor(line + `?.includes('printed')`)
	at := `document.querySelector('[data-join="table-1/main"]')?.getAttribute('aria-label')`
	p.waitFor(at)
	was := js[string](p, at)

	ctx := context.Background()
	snap, err := p.db.Snapshot(ctx)
	require.NoError(t, err)
	hake, _ := snap.Book.Component("hake")
	slow := hake.Clone()
	for i := range slow.Steps {
		slow.Steps[i].Time.Fixed.Likely += 60
		slow.Steps[i].Time.Fixed.High += 60
	}
	_, err = p.db.Save(ctx, kitchen.Key{Kind: kitchen.ComponentRecord, ID: "hake"}, 1, slow, "Slower.")
	require.NoError(t, err)
	p.goTo("/components/hake")
	p.waitFor(`document.querySelector('.offer')?.innerText.match(/Hake, roasted changed since plan \d+\.\s+With it: .+/)`)
	p.press("Look at the plan")
	p.waitFor(`document.querySelector('.fire .offer button:not([disabled])')`)
	p.waitFor(at + ` === ` + quoted(was))
	p.press("Use it in this plan")
	p.waitFor(`!document.querySelector('.offer')`)
	p.waitFor(line + `?.includes('with the change that was offered')`)
	p.waitFor(line + `?.match(/Plan \d+ printed/)`)

	// Made again it asks first: somebody works by it.
	p.press("Make the plan again")
	p.waitFor(line + `?.includes('every time may move')`)
	p.press("Leave it")
	p.waitFor(`!` + line + `.includes('every time may move')`)
	p.press("Make the plan again")
	p.press("Make the plan again")
	p.waitFor(line + `?.match(/made again|a better one was found/)`)
}

// few leaves a service its first tables, so that its plans are made quickly.
func (p *page) few(id string, tables int) {
	p.t.Helper()
	ctx := context.Background()
	snap, err := p.db.Snapshot(ctx)
	require.NoError(p.t, err)
	s, _ := snap.Book.Service(id)
	changed := *s
	changed.Tables = slices.Clone(s.Tables[:tables])
	key := kitchen.Key{Kind: kitchen.ServiceRecord, ID: id}
	_, err = p.db.Save(ctx, key, snap.Versions[key], changed, "Fewer tables.")
	require.NoError(p.t, err)
}

// An evening is played before it happens: what is played is told as it goes on, along the clock, with what breaks first; it can be stopped.
func TestAnEveningIsRehearsed(t *testing.T) {
	p := open(t, true)
	p.few("tonight", 3)
	p.goTo("/fire?service=tonight")
	p.waitFor(`[...document.querySelectorAll('a')].some(a => a.innerText === 'Rehearse')`)
	js[any](p, `[...document.querySelectorAll('a')].find(a => a.innerText === 'Rehearse').click()`)
	p.waitFor(`document.querySelector('.rehearse') !== null`)
	p.press("Play 200 nights")
	p.waitFor(`document.querySelectorAll('.rehearse svg circle').length >= 9`)
	p.waitFor(`document.querySelectorAll('.rehearse tbody tr').length >= 3`)
	require.Eventually(t, func() bool { // so many take a while where much else goes on
		return strings.Contains(js[string](p, `document.querySelector('.rehearse .lead-line').innerText`), "of 200 nights")
	}, 2*time.Minute, 200*time.Millisecond)
	p.press("Stop")
	p.waitFor(`document.querySelector('.rehearse progress') === null`)
	p.waitFor(`[...document.querySelectorAll('button')].some(b => b.innerText === 'Play 200 nights again')`)
	p.shot("rehearsed")
}
