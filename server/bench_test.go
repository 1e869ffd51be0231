package server_test

import (
	"bytes"
	"encoding/json"
	"fmt"
	"net/http"
	"sync/atomic"
	"testing"

	"github.com/stretchr/testify/require"
)

// BenchmarkTicks is eight people who tick at once; the goal is 400 ticks a second, 2.5 ms
// for each.
func BenchmarkTicks(b *testing.B) {
	c := start(b, true).as("ines")
	v := c.call("GET", "/api/prep", nil, 200)
	var tasks []string
	for _, j := range v["jobs"].([]any) {
		for _, s := range j.(map[string]any)["steps"].([]any) {
			tasks = append(tasks, s.(map[string]any)["task"].(string))
		}
	}
	client := &http.Client{Transport: &http.Transport{MaxIdleConnsPerHost: 16}, Jar: c.browser.Jar}
	var n atomic.Int64
	b.SetParallelism(4) // on two cores: eight
	b.ResetTimer()
	b.RunParallel(func(p *testing.PB) {
		for p.Next() {
			i := n.Add(1)
			raw, _ := json.Marshal(map[string]any{"task": tasks[int(i)%len(tasks)], "done": i%2 == 0, "note": "n"})
			req, _ := http.NewRequest("POST", c.url+"/api/prep/ticks", bytes.NewReader(raw))
			req.Header.Set("Content-Type", "application/json")
			res, err := client.Do(req)
			if err != nil || res.StatusCode != 204 {
				b.Errorf("%v %v", res, err)
				return
			}
			_ = res.Body.Close()
		}
	})
}

// BenchmarkSaveInALargeBook saves one component of 500; the goal is under 30 ms.
func BenchmarkSaveInALargeBook(b *testing.B) {
	c := start(b, true)
	hake := c.call("GET", "/api/components/hake", nil, 200)["component"].(map[string]any)
	for i := range 460 {
		c.call("POST", "/api/components/hake/copy", map[string]any{"name": fmt.Sprintf("Hake %d", i)}, 200)
	}
	version := int64(1)
	b.ResetTimer()
	for b.Loop() {
		hake["colour"] = fmt.Sprintf("#%06x", version)
		v := c.call("PUT", "/api/components/hake", map[string]any{"version": version, "component": hake}, 200)
		version = int64(v["version"].(float64))
	}
	require.Greater(b, version, int64(1))
}
