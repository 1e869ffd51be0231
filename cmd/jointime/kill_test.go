package main

import (
	"bufio"
	"bytes"
	"encoding/json"
	"fmt"
	"math/rand/v2"
	"net/http"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"sync"
	"syscall"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"jointime/core/service"
	"jointime/store/storetest"
)

// kills is how often the server is killed in the middle of a played service.
const kills = 5

// A server that is killed at any moment, again and again, while two screens tap: what it acknowledged is in the log, each once, and what was not
// acknowledged is sent again and counts once.
func TestKilledInTheMiddleOfService(t *testing.T) {
	url := storetest.URL(t)
	program := filepath.Join(t.TempDir(), "jointime")
	out, err := exec.Command("go", "build", "-o", program, ".").CombinedOutput()
	require.NoError(t, err, string(out))
	out, err = exec.Command(program, "demo", "--database", url).CombinedOutput()
	require.NoError(t, err, string(out))

	var mu sync.Mutex
	address := ""
	begin := func() *exec.Cmd {
		cmd := exec.Command(program, "serve", "--port", "0", "--database", url)
		lines, err := cmd.StdoutPipe()
		require.NoError(t, err)
		cmd.Stderr = os.Stderr
		require.NoError(t, cmd.Start())
		said, err := bufio.NewReader(lines).ReadString('\n')
		require.NoError(t, err)
		mu.Lock()
		address = strings.TrimSpace(strings.TrimPrefix(said, "Jointime is at "))
		mu.Unlock()
		return cmd
	}
	post := func(e map[string]any) (as string, ok bool) {
		body, err := json.Marshal(map[string]any{"events": []any{e}})
		if err != nil {
			return "", false
		}
		mu.Lock()
		to := address
		mu.Unlock()
		client := http.Client{Timeout: 20 * time.Second}
		res, err := client.Post(to+"/api/services/tonight/events", "application/json", bytes.NewReader(body))
		if err != nil {
			return "", false
		}
		defer res.Body.Close()
		var answer struct{ Taken []struct{ As string } }
		if res.StatusCode != http.StatusOK || json.NewDecoder(res.Body).Decode(&answer) != nil || len(answer.Taken) != 1 {
			return "", false
		}
		return answer.Taken[0].As, true
	}

	running := begin()
	as, ok := post(map[string]any{"id": "opened-now", "kind": "opened"})
	require.True(t, ok)
	require.Equal(t, "taken", as)
	stop := make(chan struct{})
	var screens sync.WaitGroup
	sent := [2][]string{}
	for k := range sent {
		screens.Go(func() {
			for n := 0; ; n++ {
				select {
				case <-stop:
					return
				default:
				}
				id := fmt.Sprintf("screen-%d-%d", k, n)
				for { // until it is acknowledged
					as, ok := post(map[string]any{"id": id, "kind": "trouble", "why": id, "device": fmt.Sprint("screen", k), "count": n})
					if ok && (as == "taken" || as == "repeated") {
						break
					}
					time.Sleep(20 * time.Millisecond)
				}
				sent[k] = append(sent[k], id)
			}
		})
	}
	for range kills {
		time.Sleep(time.Duration(100+rand.IntN(600)) * time.Millisecond)
		require.NoError(t, running.Process.Signal(syscall.SIGKILL))
		_ = running.Wait() // it was killed
		running = begin()
	}
	time.Sleep(300 * time.Millisecond)
	close(stop)
	screens.Wait()

	mu.Lock()
	res, err := http.Get(address + "/api/services/tonight/log.jsonl")
	mu.Unlock()
	require.NoError(t, err)
	defer res.Body.Close()
	count := map[string]int{}
	lines := bufio.NewScanner(res.Body)
	for n := int64(1); lines.Scan(); n++ {
		var e service.Event
		require.NoError(t, json.Unmarshal(lines.Bytes(), &e))
		require.Equal(t, n, e.Seq)
		count[e.ID]++
	}
	require.Equal(t, 1, count["opened-now"])
	for k := range sent {
		require.Greater(t, len(sent[k]), kills)
		for _, id := range sent[k] {
			require.Equal(t, 1, count[id], id)
		}
	}
	require.NoError(t, running.Process.Signal(os.Interrupt))
	require.NoError(t, running.Wait())
}
