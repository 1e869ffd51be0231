package e2e

import (
	"os"
	"testing"

	"github.com/chromedp/chromedp"
	"github.com/stretchr/testify/require"
)

// shot keeps a picture of the page, where somebody asks for it.
func (p *page) shot(name string) {
	if folder := os.Getenv("SHOTS"); folder != "" {
		b, err := chromedp.Run(p.ctx, chromedp.CaptureScreenshot())
		require.NoError(p.t, err)
		require.NoError(p.t, os.WriteFile(folder+"/"+name+".png", b, 0o600))
	}
}

// beside is another browser at the same server.
func (p *page) beside() *page {
	ctx, cancel := chromedp.NewContext(browser, chromedp.WithNewBrowserContext())
	p.t.Cleanup(cancel)
	q := &page{p.t, ctx, p.url, p.db, p.trouble}
	q.do(chromedp.EmulateViewport(768, 1024))
	return q
}

// The chef sets a passphrase and a PIN, pairs a tablet by the code; a cook at the tablet sees what a section may, signs in as who they are,
// and the tablet is unpaired.
func TestWhoMayDoWhat(t *testing.T) {
	p := open(t, true)
	p.goTo("/kitchen")
	p.waitFor(`document.querySelector('.access')?.innerText.includes('nobody has to sign in')`)
	p.choose(`[name="role-ada"]`, "chef")
	p.fill(`[name="secret-ada"]`, "too short")
	p.click(`[data-person="ada"] button[type="submit"]`)
	p.waitFor(`document.querySelector('[data-person="ada"] [role="alert"]')?.innerText.includes('12 to 200')`)
	require.Equal(t, "too short", js[string](p, `document.querySelector('[name="secret-ada"]').value`), "what was typed stays")
	p.fill(`[name="secret-ada"]`, "kale before cabbage")
	p.click(`[data-person="ada"] button[type="submit"]`)
	p.waitFor(`document.querySelector('.head .named')?.innerText === 'Ada Brandt'`)
	p.choose(`[name="role-ines"]`, "pass")
	p.fill(`[name="secret-ines"]`, "2718")
	p.click(`[data-person="ines"] button[type="submit"]`)
	p.waitFor(`document.querySelector('[data-person="ines"]').innerText.includes('since')`)
	p.fill(`[name="screen-name"]`, "Tablet by the plancha")
	p.choose(`[name="screen-place"]`, "section/fish")
	p.press("Make a code")
	p.waitFor(`document.querySelector('.code-shown img')?.complete`)
	js[any](p, `document.querySelector('.code-shown').scrollIntoView({block: 'end'})`)
	p.shot("access-chef")

	tablet := p.beside()
	tablet.goTo("/")
	tablet.waitFor(`document.querySelector('.entrance') !== null`)
	tablet.shot("access-sign-in")
	require.False(t, js[bool](tablet, `document.body.innerText.includes('Ines')`), "nobody learns who works here")
	tablet.goTo("/pair#AAAAAAAA")
	tablet.waitFor(`document.querySelector('.entrance [role="alert"]')?.innerText.includes('This code is not right')`)
	require.Equal(t, "", js[string](tablet, `location.hash`))
	tablet.fill(`[name="code"]`, js[string](p, `document.querySelector('.code-shown .code').innerText`))
	tablet.press("Pair it")
	tablet.waitFor(`document.querySelector('.entrance')?.innerText.includes('This is Tablet by the plancha now')`)
	tablet.shot("access-paired")
	tablet.press("Begin")
	tablet.waitFor(`document.querySelectorAll('[name="who"] option').length > 1`)
	require.Equal(t, []string{"", "Tobias"}, js[[]string](tablet,
		`[...document.querySelectorAll('[name="who"] option')].map((o) => o.value ? o.text : '').filter((x) => x === '' || x === 'Tobias' || x === 'Hanne')`))
	tablet.choose(`[name="who"]`, "tobias")
	tablet.waitFor(`document.querySelector('[name="who"]').value === 'tobias'`)
	tablet.goTo("/kitchen")
	tablet.waitFor(`document.querySelector('.kitchen-page') !== null`)
	require.False(t, js[bool](tablet, `document.querySelector('.access') !== null`))

	// A wrong PIN is told so; the right one lets in who they are, until they sign out.
	tablet.press("Sign in")
	tablet.waitFor(`document.querySelector('.entrance') !== null`)
	tablet.fill(`[name="name"]`, "Ines")
	for _, d := range []string{"2", "7", "1", "9"} {
		tablet.press(d)
	}
	tablet.click(`.entrance button[type="submit"]`)
	tablet.waitFor(`document.querySelector('.entrance [role="alert"]')?.innerText.includes('not right')`)
	tablet.fill(`[name="secret"]`, "2718")
	tablet.click(`.entrance button[type="submit"]`)
	tablet.waitFor(`document.querySelector('.head .named')?.innerText === 'Ines'`)
	tablet.press("Sign out")
	tablet.waitFor(`document.querySelector('[name="who"]') !== null`)

	// Unpaired at the chef's screen, the tablet asks to be signed in as soon as it asks for anything.
	p.goTo("/kitchen")
	p.waitFor(`document.querySelector('[data-screen]') !== null`)
	p.press("Unpair")
	p.waitFor(`document.querySelector('[data-screen]') === null`)
	tablet.goTo("/dishes")
	tablet.waitFor(`document.querySelector('.entrance') !== null`)
	tablet.goTo("/trust")
	tablet.waitFor(`document.querySelector('.trust') !== null`)
	tablet.shot("access-trust")
}
