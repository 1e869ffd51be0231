package e2e

import (
	"cmp"
	"context"
	"encoding/json"
	"fmt"
	"io"
	"log"
	"log/slog"
	"net/http"
	"net/http/httptest"
	"os"
	"strings"
	"sync/atomic"
	"testing"
	"time"

	"github.com/chromedp/chromedp"
	"github.com/stretchr/testify/require"

	"jointime/server"
	"jointime/store"
	"jointime/store/storetest"
	"jointime/web"
)

var browser context.Context

// TestMain starts one browser for the package.
func TestMain(m *testing.M) {
	os.Exit(run(m))
}

func run(m *testing.M) int {
	path := os.Getenv("CHROMIUM")
	if path == "" {
		path = "/usr/bin/chromium"
	}
	if _, err := os.Stat(path); err != nil {
		fmt.Fprintln(os.Stderr, "no browser: apt-get install -y chromium, or set CHROMIUM")
		return 1
	}
	options := append(chromedp.DefaultExecAllocatorOptions[:],
		chromedp.ExecPath(path), chromedp.NoSandbox, chromedp.WindowSize(1280, 800), chromedp.DisableGPU,
		chromedp.Flag("disable-component-update", true), chromedp.Flag("disable-domain-reliability", true), chromedp.Flag("no-pings", true),
		// What the browser shows around a page, as pages of its own, costs each window another process.
		chromedp.Flag("disable-features", "Translate,BlinkGenPropertyTrees,WebUIOmniboxPopup,WebUIOmniboxFullPopup,WebUIOmniboxAimPopup,"+
			"TabstripComboButton,PreloadTopChromeWebUI,InitialWebUI,WebUIToolbar,WebUIReloadButton"),
		chromedp.Flag("font-render-hinting", "none"), chromedp.Flag("host-resolver-rules", "MAP * ~NOTFOUND , EXCLUDE 127.0.0.1"))
	alloc, cancel := chromedp.NewExecAllocator(context.Background(), options...)
	defer cancel()
	ctx, stop := chromedp.NewContext(alloc)
	defer stop()
	if err := chromedp.Do(ctx); err != nil {
		fmt.Fprintln(os.Stderr, "the browser does not start:", err)
		return 1
	}
	browser = ctx
	return m.Run()
}

// quick is how long a better plan is looked for behind one here, a small part of what the application does: what is
// asked is what becomes of it.
const quick = 600

// page is one tab in a profile of its own, on a server with a database of its own.
type page struct {
	t   *testing.T
	ctx context.Context
	url string
	db  *store.Store
	// trouble is what happens to requests for a while: nil when nothing does.
	trouble *atomic.Pointer[trouble]
}

// trouble makes the server answer late, wrongly or not at all to what matches.
type trouble struct {
	method string // "" for all
	late   time.Duration
	status int  // answered instead, where not 0
	dead   bool // the line is cut
	all    bool // to the pages too, and not only to what they ask
}

func (x *trouble) handle(next http.Handler, w http.ResponseWriter, r *http.Request) {
	if x == nil || x.method != "" && x.method != r.Method || !x.all && !strings.HasPrefix(r.URL.Path, "/api/") {
		next.ServeHTTP(w, r)
		return
	}
	time.Sleep(x.late)
	switch {
	case x.dead:
		panic(http.ErrAbortHandler)
	case x.status != 0:
		w.Header().Set("Content-Type", "application/problem+json")
		w.WriteHeader(x.status)
		_, _ = w.Write([]byte(`{"status": 500, "detail": "Something went wrong on the server. Nothing was changed."}`))
	default:
		next.ServeHTTP(w, r)
	}
}

func open(t *testing.T, demo bool) *page { return openAt(t, demo, storetest.Clock) }

// openAt is open with another clock.
func openAt(t *testing.T, demo bool, clock func() time.Time) *page {
	return openBeating(t, demo, clock, 0)
}

// openBeating is openAt with streams that say so often what is due, though nothing happened; 0 for as usual.
func openBeating(t *testing.T, demo bool, clock func() time.Time, beat time.Duration) *page {
	t.Helper()
	return openWith(t, demo, clock, server.Options{Beat: beat})
}

// openWith is open with some settings of the server.
func openWith(t *testing.T, demo bool, clock func() time.Time, o server.Options) *page {
	t.Helper()
	s := storetest.OpenAt(t, clock)
	if demo {
		require.NoError(t, server.LoadDemo(context.Background(), s, storetest.Clock()))
	}
	o.Clock, o.Log, o.Web, o.Patience = clock, slog.New(slog.NewTextHandler(io.Discard, nil)), web.Handler(), 20
	o.Rounds = cmp.Or(o.Rounds, quick)
	app := server.New(s, o)
	t.Cleanup(app.Close)
	var state atomic.Pointer[trouble]
	srv := httptest.NewServer(http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) { state.Load().handle(app, w, r) }))
	srv.Config.ErrorLog = log.New(io.Discard, "", 0)
	t.Cleanup(srv.Close)
	ctx, cancel := chromedp.NewContext(browser, chromedp.WithNewBrowserContext())
	t.Cleanup(cancel)
	ctx, cancelTime := context.WithTimeout(ctx, 90*time.Second)
	t.Cleanup(cancelTime)
	p := &page{t, ctx, srv.URL, s, &state}
	p.do(chromedp.EmulateViewport(1280, 800))
	return p
}

func (p *page) do(steps ...chromedp.Action[chromedp.Void]) {
	p.t.Helper()
	require.NoError(p.t, chromedp.Do(p.ctx, steps...))
}

// js evaluates an expression in the page.
func js[T any](p *page, expression string) T {
	p.t.Helper()
	v, err := chromedp.Run(p.ctx, chromedp.Evaluate[T](expression))
	require.NoError(p.t, err, expression)
	return v
}

// waitFor waits until an expression is true, and says what the page showed if it
// never is.
func (p *page) waitFor(expression string) {
	p.t.Helper()
	until := time.Now().Add(time.Minute)
	for time.Now().Before(until) {
		if js[bool](p, "Boolean("+expression+")") {
			return
		}
		time.Sleep(40 * time.Millisecond)
	}
	p.t.Fatalf("never true: %s\nthe page shows:\n%s", expression, js[string](p, "document.body.innerText"))
}

// still waits until an element has stood in its place for a while and can be pressed there,
// and returns its box: x, y, width, height. What is pressed before the page has settled is
// something else by then.
func (p *page) still(element string) (x, y, w, h float64) {
	p.t.Helper()
	p.waitFor(`(() => {
		const e = ` + element + `;
		if (!e) return false;
		const r = e.getBoundingClientRect(), now = [r.x, r.y, r.width, r.height].join();
		const t = performance.now(), was = window.stood;
		if (!was || was.at !== now || was.e !== e) { window.stood = {e, at: now, t}; return false }
		if (r.bottom < 0 || r.top > innerHeight) { e.scrollIntoView({block: 'center'}); return false } // pushed away by what came later
		const under = document.elementFromPoint(r.x + r.width / 2, r.y + r.height / 2);
		return t - was.t > 400 && under !== null && (e.contains(under) || under.contains(e));
	})()`)
	b := js[[]float64](p, `(() => { const r = `+element+`.getBoundingClientRect(); return [r.x, r.y, r.width, r.height] })()`)
	return b[0], b[1], b[2], b[3]
}

// get reads what the server answers.
func (p *page) get(path string, v any) {
	p.t.Helper()
	res, err := http.Get(p.url + path)
	require.NoError(p.t, err)
	defer func() { require.NoError(p.t, res.Body.Close()) }()
	require.Equal(p.t, 200, res.StatusCode, path)
	require.NoError(p.t, json.NewDecoder(res.Body).Decode(v))
}

// post says something to the server.
func (p *page) post(path, body string) {
	p.t.Helper()
	res, err := http.Post(p.url+path, "application/json", strings.NewReader(body))
	require.NoError(p.t, err)
	require.Equal(p.t, 200, res.StatusCode, path)
	require.NoError(p.t, res.Body.Close())
}
