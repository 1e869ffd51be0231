package server_test

import (
	"encoding/json"
	"fmt"
	"net/http"
	"os"
	"runtime"
	"slices"
	"strconv"
	"sync"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	core "jointime/core/service"
	"jointime/store/storetest"
)

// twoServers are two servers on one database, with the demo's evening opened twenty minutes before its first course.
func twoServers(b *testing.B) (c, other client, clock *clockOf) {
	clock = &clockOf{at: storetest.Clock()}
	url := storetest.URL(b)
	c, _ = serveAt(b, storetest.OpenURL(b, url, clock.now), clock.now)
	other, _ = serveAt(b, storetest.OpenURL(b, url, clock.now), clock.now)
	c.call("POST", "/api/demo", nil, 200)
	c.settled("tonight")
	clock.set(c.dueNow().Joins[0].At.Add(-20 * time.Minute))
	require.Equal(b, []string{"taken"}, c.said(map[string]any{"kind": "opened"}))
	return c, other, clock
}

func (c client) dueNow() (d core.DueView) {
	c.t.Helper()
	require.NoError(c.t, json.Unmarshal([]byte(c.text(tonight+"/due")), &d))
	return d
}

// quantiles are the median and what nineteen of twenty stay within.
func quantiles(list []time.Duration) (half, most time.Duration) {
	slices.Sort(list)
	return list[len(list)/2], list[len(list)*95/100]
}

// BenchmarkToldElsewhere is how long it takes from a tap at one server until another on the same database tells its screens the plan that
// follows, where one has to; the goal is 300 ms for four hundred open runs.
func BenchmarkToldElsewhere(b *testing.B) {
	c, other, clock := twoServers(b)
	got := make(chan string, 100_000)
	go other.frames(b.Context(), tonight+"/live", "1000000", got)
	var took []time.Duration
	var open int
	tapped := map[string]bool{}
	for n := 0; b.Loop(); n++ {
		b.StopTimer()
		var run *core.DueLine
		var section string
		for run == nil {
			clock.set(clock.now().Add(20 * time.Second))
			d := c.dueNow()
			open = 0
			for _, s := range d.Sections {
				open += len(s.Now) + len(s.On) + len(s.Next) + s.Later
				for i := range s.On {
					if l := &s.On[i]; !tapped[l.Task] && len(l.Joins) > 0 {
						run, section = l, s.Section
					}
				}
			}
		}
		tapped[run.Task] = true
		time.Sleep(500 * time.Millisecond) // what the clock moves is told
		for len(got) > 0 {
			<-got
		}
		joins := []map[string]any{}
		for _, j := range run.Joins {
			joins = append(joins, map[string]any{"table": j.Table, "course": string(j.Course)})
		}
		b.StartTimer()
		began := time.Now()
		c.said(map[string]any{"id": fmt.Sprintf("more-%06d", n), "kind": "more", "minutes": 8, "task": run.Task, "component": run.Component,
			"step": run.Step, "section": section, "portions": run.Portions, "joins": joins})
		for waits := time.After(3 * time.Second); ; {
			select {
			case f := <-got:
				if f != "plan" {
					continue
				}
				took = append(took, time.Since(began))
			case <-waits: // nothing had to move
			}
			break
		}
	}
	if len(took) > 0 {
		half, most := quantiles(took)
		b.ReportMetric(float64(half.Milliseconds()), "ms-half")
		b.ReportMetric(float64(most.Milliseconds()), "ms-95%")
		b.ReportMetric(float64(len(took)), "told")
		b.ReportMetric(float64(open), "open")
	}
}

// BenchmarkManyStreams is a thousand screens at two servers that hear an event a second, for twenty seconds or as many minutes as
// JOINTIME_MINUTES says: how long each waits for it (goal: 95 % within 150 ms), and how the memory that is in use grows (goal: not).
func BenchmarkManyStreams(b *testing.B) {
	const screens = 1000
	lasts := 20 * time.Second
	if said := os.Getenv("JOINTIME_MINUTES"); said != "" {
		n, err := strconv.Atoi(said)
		require.NoError(b, err)
		lasts = time.Duration(n) * time.Minute
	}
	for b.Loop() {
		c, other, clock := twoServers(b)
		many := &http.Client{Transport: &http.Transport{MaxConnsPerHost: 0}}
		c.browser, other.browser = many, many
		var mu sync.Mutex
		var took []time.Duration
		sent := map[string]time.Time{}
		for n := range screens {
			got := make(chan string, 1000)
			from := []client{c, other}[n%2]
			go from.frames(b.Context(), tonight+"/live", "1000000", got)
			go func() {
				for f := range got {
					if len(f) > 5 && f[:5] == "event" {
						mu.Lock()
						if at, there := sent[f[5:]]; there {
							took = append(took, time.Since(at))
						}
						mu.Unlock()
					}
				}
			}()
		}
		time.Sleep(5 * time.Second)
		inUse := func() float64 {
			runtime.GC()
			var m runtime.MemStats
			runtime.ReadMemStats(&m)
			return float64(m.HeapInuse+m.StackInuse) / (1 << 20)
		}
		var before float64
		began := time.Now()
		for n := 0; time.Since(began) < lasts; n++ {
			if n == 10 {
				before = inUse()
			}
			at := time.Now()
			clock.set(clock.now().Add(time.Second))
			body := c.call("POST", tonight+"/events", map[string]any{"events": []map[string]any{{"id": fmt.Sprintf("word-%06d", n),
				"kind": "trouble", "why": "a word"}}}, 200)
			seq := strconv.Itoa(int(body["seq"].(float64)))
			mu.Lock()
			sent[seq] = at
			mu.Unlock()
			time.Sleep(time.Until(at.Add(time.Second)))
		}
		mu.Lock()
		half, most := quantiles(took)
		b.ReportMetric(float64(half.Milliseconds()), "ms-half")
		b.ReportMetric(float64(most.Milliseconds()), "ms-95%")
		b.ReportMetric(float64(len(took)), "heard")
		mu.Unlock()
		b.ReportMetric(before, "MiB-first")
		b.ReportMetric(inUse(), "MiB-last")
	}
}
