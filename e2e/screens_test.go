package e2e

import (
	"encoding/json"
	"net/http"
	"strings"
	"sync/atomic"
	"testing"
	"time"

	"github.com/chromedp/chromedp"
	"github.com/stretchr/testify/require"

	"jointime/core/service"
	"jointime/store/storetest"
)

// events are what was said of tonight, without which plans were told.
func (p *page) events() (out []service.Event) {
	list, err := p.db.Events(p.t.Context(), "tonight", 0)
	require.NoError(p.t, err)
	for _, e := range list {
		if e.Kind != service.Told {
			out = append(out, e)
		}
	}
	return out
}

// waitForEvent waits until the last thing that was said is of a kind.
func (p *page) waitForEvent(kind service.Kind) service.Event {
	p.t.Helper()
	var last service.Event
	for until := time.Now().Add(30 * time.Second); time.Now().Before(until); time.Sleep(50 * time.Millisecond) {
		if list := p.events(); len(list) > 0 {
			last = list[len(list)-1]
		}
		if last.Kind == kind {
			return last
		}
	}
	p.t.Fatalf("the last was %s, and never %s\nthe page shows:\n%s", last.Kind, kind, js[string](p, "document.body.innerText"))
	return last
}

// inService is the demo's evening a moment before the fish section has something to fire, by a clock that goes on from there.
func inService(t *testing.T) *page {
	p, _ := inServicePut(t, 0)
	return p
}

// inServicePut is inService with what puts its clock forward, and the beat of its streams.
func inServicePut(t *testing.T, beat time.Duration) (*page, func(time.Duration)) {
	var ahead atomic.Int64
	begun := time.Now()
	p := openBeating(t, true, func() time.Time { return storetest.Clock().Add(time.Since(begun) + time.Duration(ahead.Load())) }, beat)
	put := func(by time.Duration) { ahead.Add(int64(by)) }
	ask := func(path string, to any) {
		res, err := http.Get(p.url + path)
		require.NoError(t, err)
		defer res.Body.Close()
		require.NoError(t, json.NewDecoder(res.Body).Decode(to))
	}
	require.Eventually(t, func() bool {
		var plan struct{ Better bool }
		ask("/api/fire/tonight", &plan)
		return !plan.Better
	}, time.Minute, 200*time.Millisecond)
	var fire struct {
		Lines []struct {
			At      time.Time
			Section string
			Kind    string
		} `json:"fires"`
		Joins []struct{ At time.Time }
	}
	ask("/api/fire/tonight", &fire)
	for _, l := range fire.Lines {
		if l.Section == "fish" && l.At.After(fire.Joins[2].At) {
			ahead.Store(int64(l.At.Add(-25 * time.Second).Sub(storetest.Clock().Add(time.Since(begun)))))
			return p, put
		}
	}
	t.Fatal("the fish section has nothing to fire")
	return nil, nil
}

// key presses a key of the page.
func (p *page) key(k string) { p.do(chromedp.KeyEvent(k)) }

// Two screens run the beginning of an evening: the pass opens it; the section fires what is due by one press, asks for more time, says that
// it is ready, takes a wrong press back; what one does the other shows. Then the pass holds, sends, and puts something off and on again.
func TestPassAndSectionInService(t *testing.T) {
	p := inService(t)
	p.goTo("/pass")
	p.waitFor(`document.querySelector('.pass-screen .gate') !== null`)
	p.press("Open the service")
	p.waitFor(`document.querySelector('.nearest .ring') !== null`)
	p.waitFor(`/^\d\d:\d\d:\d\d$/.test(document.querySelector('.live-head .clock').innerText)`)

	s := p.beside()
	s.goTo("/section/fish")
	s.waitFor(`document.querySelector('.section-screen .act') !== null`)
	s.shot("screens-section")
	row := func(standing string) string { return `document.querySelector('li[data-standing="` + standing + `"]')` }
	s.waitFor(row("due"))
	task := js[string](s, row("due")+`.dataset.task`)
	s.key("f")
	require.Equal(t, task, p.waitForEvent(service.Fired).Task)
	own := `document.querySelector('li[data-task="` + task + `"]')`
	s.waitFor(own + `.dataset.standing === 'on' && document.querySelector('.live-head .words').innerText.includes('fired')`)
	s.click(`li[data-task="` + task + `"] .what`)
	s.press("+2")
	require.Equal(t, 2, p.waitForEvent(service.More).Minutes)
	s.press("Undo")
	p.waitForEvent(service.Undone)
	s.waitFor(own + `.querySelector('.ready') !== null`)
	s.click(`li[data-task="` + task + `"] .ready`)
	require.Equal(t, task, p.waitForEvent(service.Ready).Task)
	s.waitFor(own + ` === null`)
	s.press("Trouble")
	s.press("Need a hand")
	p.waitForEvent(service.Trouble)
	p.waitFor(`document.querySelector('.live-head .words').innerText.includes('Need a hand')`)

	name := js[string](p, `document.querySelector('.nearest h1').innerText`)
	p.key("h")
	p.waitForEvent(service.Held)
	p.waitFor(`document.querySelector('.nearest').innerText.includes('held')`)
	p.key("s")
	sent := p.waitForEvent(service.Sent)
	p.waitFor(`document.querySelector('.nearest h1').innerText !== ` + quoted(name))
	require.Contains(t, name, strings.TrimPrefix(sent.Table, "table-"))
	p.key("u")
	p.waitForEvent(service.Undone)
	p.waitFor(`document.querySelector('.nearest h1').innerText === ` + quoted(name))
	p.press("Off, away")
	p.click(`.off-panel > .what-off button:last-child`)
	p.press("None")
	off := p.waitForEvent(service.Off)
	require.NotEmpty(t, off.Component)
	p.waitFor(`document.querySelector('.stand-ins .btn-outline-primary') !== null`)
	p.click(`.stand-ins > .presses .btn`)
	p.waitForEvent(service.On)
	p.press("Hanne")
	p.press("10 min")
	require.Equal(t, "hanne", p.waitForEvent(service.Out).Who)
	p.waitFor(`document.querySelector('.live-head .words').innerText.includes('Hanne: not there until')`)
	fire := p.beside()
	fire.goTo("/fire?service=tonight")
	away := `document.querySelector('.running')?.innerText.includes('Hanne: not there until')`
	fire.waitFor(away)
	p.click(`.are-away .btn`)
	require.Equal(t, "hanne", p.waitForEvent(service.In).Who)
	p.waitFor(`document.querySelector('.are-away') === null`)
	fire.waitFor(away + ` === false`)
	p.press("Hanne")
	p.press("not there, nobody knows until when")
	p.waitForEvent(service.Out)
	fire.waitFor(`/Hanne: not there, nobody knows until when; (counted on again from [0-9:]+|planned without)\./` +
		`.test(document.querySelector('.running')?.innerText)`)
	p.click(`.are-away .btn`)
	p.waitForEvent(service.In)
	fire.waitFor(`!document.querySelector('.running')?.innerText.includes('Hanne: not there')`)
	p.press("Plate")
	p.waitFor(`document.querySelector('.plates img')?.complete && document.querySelector('.plates img').naturalWidth > 0`)
	p.shot("screens-pass")

	b := p.beside()
	b.do(chromedp.EmulateViewport(390, 844))
	b.goTo("/floor")
	b.waitFor(`document.querySelectorAll('.tables li').length > 5`)
	b.click(".tables li:nth-child(2) > button")
	b.press("Ready for the next")
	p.waitForEvent(service.Next)
	b.press("Walk-in")
	b.fill(`[name="walk-in-name"]`, "Bar 3")
	b.click(`.panel button[type="submit"]`)
	require.Equal(t, "walk-in-bar-3", p.waitForEvent(service.Seated).Table)
	b.shot("screens-floor")
	b.goTo("/board")
	b.waitFor(`document.querySelectorAll('.board .at').length > 2`)
}

// The line to the server is cut while a section works: it goes on, says so, and what was tapped is kept through a reload, and sent with its
// time when the line is back.
func TestASectionGoesOnAlone(t *testing.T) {
	p := inService(t)
	p.goTo("/pass")
	p.press("Open the service")
	p.waitFor(`document.querySelector('.nearest .ring') !== null`)
	s := p.beside()
	s.goTo("/section/fish")
	s.waitFor(`document.querySelector('li[data-standing="due"]') !== null`)
	task := js[string](s, `document.querySelector('li[data-standing="due"]').dataset.task`)
	p.trouble.Store(&trouble{method: "POST", dead: true})
	s.key("f")
	s.waitFor(`document.querySelector('.live-head .words').innerText.includes('1 kept, to be sent')`)
	s.waitFor(`document.querySelector('li[data-task="` + task + `"]').dataset.standing === 'on'`)
	s.key("r")
	s.waitFor(`document.querySelector('.live-head .words').innerText.includes('2 kept, to be sent')`)
	require.Equal(t, service.Opened, p.events()[len(p.events())-1].Kind, "nothing has come through")
	s.goTo("/section/fish")
	s.waitFor(`document.querySelector('.live-head .words')?.innerText.includes('2 kept, to be sent')`)
	p.trouble.Store(nil)
	last := p.waitForEvent(service.Ready)
	list := p.events()
	fired := list[len(list)-2]
	require.Equal(t, []any{service.Fired, task, true, true}, []any{fired.Kind, fired.Task, fired.Kept, last.Kept})
	require.False(t, fired.At.After(last.At))
	s.waitFor(`!document.querySelector('.live-head .words').innerText.includes('kept')`)
}

// A section's screen that was there once is there without a server: it is loaded anew, goes on from what was told last, keeps what is
// tapped, and sends it when the server is back.
func TestAScreenWithoutAServer(t *testing.T) {
	p := inService(t)
	p.goTo("/pass")
	p.press("Open the service")
	p.waitFor(`document.querySelector('.nearest .ring') !== null`)
	s := p.beside()
	s.goTo("/section/fish")
	s.waitFor(`navigator.serviceWorker.controller !== null && document.querySelector('li[data-standing="due"]') !== null`)
	s.waitFor(`(() => { const open = indexedDB.open('keyval-store'); open.onsuccess = () => {
		const all = open.result.transaction('keyval').objectStore('keyval').getAllKeys();
		all.onsuccess = () => { window.kept = all.result.includes('due/tonight') && all.result.includes('remembered') } };
		return window.kept })()`)
	task := js[string](s, `document.querySelector('li[data-standing="due"]').dataset.task`)
	p.trouble.Store(&trouble{dead: true, all: true})
	s.goTo("/section/fish")
	s.waitFor(`document.querySelector('.section-screen h1, .section-screen .place') !== null && document.querySelector('li[data-task="` +
		task + `"]') !== null`)
	s.waitFor(`document.querySelector('.live-head .words').innerText.includes('No line to the server')`)
	s.waitFor(`/^\d\d:\d\d:\d\d$/.test(document.querySelector('.live-head .clock').innerText)`)
	s.shot("without-server")
	require.Less(t, js[int](s, `document.querySelectorAll('.act.fire').length`), 3, "it goes by the server's clock, and not by its own")
	s.click(`li[data-task="` + task + `"] .fire`)
	s.waitFor(`document.querySelector('.live-head .words').innerText.includes('1 kept, to be sent')`)
	// It is said so before it has been tried; a server that is back by then would not hear that it waited.
	s.waitFor(`(() => { const open = indexedDB.open('keyval-store'); open.onsuccess = () => {
		const all = open.result.transaction('keyval').objectStore('keyval').get('taps');
		all.onsuccess = () => { window.tried = (all.result ?? []).some((e) => e.kept) } };
		return window.tried === true })()`)
	p.trouble.Store(nil)
	fired := p.waitForEvent(service.Fired)
	require.Equal(t, []any{task, true}, []any{fired.Task, fired.Kept})
}

// An hour of the demo's evening at speed: the section fires what is due and says what is ready, the pass calls and sends what is complete,
// and the line of the section is cut for a while in between. Nothing is left to be settled, and what was tapped is what stands.
func TestAnHourOfTheEvening(t *testing.T) {
	p, put := inServicePut(t, 300*time.Millisecond)
	p.goTo("/pass")
	p.press("Open the service")
	p.waitFor(`document.querySelector('.nearest .ring') !== null`)
	p.key("c")
	called := p.waitForEvent(service.Called)
	p.waitFor(`document.querySelector('.nearest').innerText.includes('called')`)
	s := p.beside()
	s.goTo("/section/fish")
	s.waitFor(`document.querySelector('.section-screen .act') !== null`)
	clock := func(q *page) string { return js[string](q, `document.querySelector('.live-head .clock').innerText`) }
	for step := range 15 {
		was := clock(s)
		put(4 * time.Minute)
		for _, q := range []*page{s, p} {
			if q == s && step == 7 {
				continue // its line is cut
			}
			q.waitFor(`document.querySelector('.live-head .clock').innerText > ` + quoted(was))
		}
		for range 4 {
			s.key("f")
			s.key("r")
		}
		if step < 6 || step > 8 { // what leaves while a section is cut off, and is fired there too, is for somebody to settle
			p.key("s")
		}
		switch step {
		case 6:
			p.trouble.Store(&trouble{method: "POST", dead: true})
		case 8:
			p.trouble.Store(nil)
			s.waitFor(`!document.querySelector('.live-head .words').innerText.includes('kept')`)
			p.waitFor(`!document.querySelector('.live-head .words').innerText.includes('kept')`)
		}
	}
	s.waitFor(`!document.querySelector('.live-head .words').innerText.includes('kept')`)
	p.waitFor(`!document.querySelector('.live-head .words').innerText.includes('kept')`)
	s.shot("hour-section")
	p.shot("hour-pass")
	count := map[service.Kind]int{}
	for _, e := range p.events() {
		count[e.Kind]++
	}
	state := service.Fold(p.events())
	require.Empty(t, state.Settle)
	require.NotNil(t, state.Course(service.TableCourse{Table: called.Table, Course: called.Course}).Called)
	require.Greater(t, count[service.Fired], 5)
	require.Greater(t, count[service.Ready], 5)
	require.Greater(t, count[service.Sent], 5)
}
