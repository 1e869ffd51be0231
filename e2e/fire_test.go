package e2e

import (
	"bytes"
	"context"
	"slices"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"jointime/core/kitchen"
	"jointime/core/schedule"
	"jointime/core/verify"
	"jointime/core/workload"
	"jointime/store"
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
	_, err = p.db.Save(ctx, store.Key{Kind: store.ServiceKind, ID: "tonight"}, 1, busy, "Three at once.")
	require.NoError(t, err)
	p.goTo("/fire")
	p.waitFor(`document.querySelectorAll('.join').length === 3`)
	p.click(`[data-join="table-1/main"]`)
	p.waitFor(`document.querySelector('.strands h2')?.innerText.startsWith('Table 1, Main')`)
	p.waitFor(`document.querySelectorAll('.strands .step').length > 2`)
	p.waitFor(`document.querySelectorAll('[data-mend]').length > 0`)
	late := `document.querySelector('.fire-side ul').innerText`
	was := js[string](p, late)
	js[any](p, `(() => { [...document.querySelectorAll('[data-mend] button')].find(b => b.innerText === 'Try').click(); return 1 })()`)
	p.waitFor(`location.search.includes('mend=')`)
	p.waitFor(late + ` !== ` + quoted(was))
	js[any](p, `(() => { [...document.querySelectorAll('[data-mend] button')].find(b => b.innerText === 'Keep').click(); return 1 })()`)
	p.waitFor(`!location.search.includes('mend=')`)
	snap, err := p.db.Snapshot(ctx)
	require.NoError(t, err)
	require.Equal(t, int64(3), snap.Versions[store.Key{Kind: store.ServiceKind, ID: "tonight"}])
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

// A table is moved: its joins move with it. The margin changes the chance. The files that
// can be downloaded are what the scheduler saw: solved again, the judge accepts the answer.
func TestMoveATableAndDownload(t *testing.T) {
	p := open(t, true)
	p.goTo("/fire")
	at := `document.querySelector('[data-join="table-1/first"]')?.getAttribute('aria-label')`
	p.waitFor(at + `?.includes('18:50')`)
	p.goTo("/prep/services")
	p.click(`[data-service="tonight"] .opens`)
	p.waitFor(`document.querySelector('[data-table="table-1"]')`)
	js[any](p, `(() => { document.querySelectorAll('[data-table="table-1"] input')[2].id = 'seated'; return 1 })()`)
	p.typeInto("#seated", "18:10")
	p.waitFor(`document.querySelectorAll('[data-table="table-1"] input')[2].value === '18:10'`)
	p.goTo("/fire")
	p.waitFor(at + `?.includes('18:30')`)
	chances := `document.querySelector('.chances').innerText`
	p.waitFor(`document.querySelector('.chances')`)
	was := js[string](p, chances)
	js[any](p, `(() => { const m = document.querySelector('[name="margin"]');
		Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, 'value').set.call(m, '60');
		m.dispatchEvent(new PointerEvent('pointerup', {bubbles: true})); return 1 })()`)
	p.waitFor(`document.querySelector('[name="margin"]').defaultValue === '60'`)
	p.waitFor(chances + ` !== ` + quoted(was))

	w, err := workload.Read(bytes.NewReader(p.fetch("/api/fire/tonight/files/workload.json")))
	require.NoError(t, err)
	ctx, cancel := context.WithTimeout(context.Background(), time.Second)
	defer cancel()
	s := schedule.Solve(ctx, w, schedule.Options{Seed: 1, Anyway: true})
	broken, err := verify.Check(w, s)
	require.NoError(t, err)
	if s.Status == workload.Feasible {
		require.Empty(t, broken)
	}
	shown, err := workload.ReadSchedule(bytes.NewReader(p.fetch("/api/fire/tonight/files/schedule.json")))
	require.NoError(t, err)
	broken, err = verify.Check(w, shown)
	require.NoError(t, err)
	require.Empty(t, broken, "the cost is stated right")
}
