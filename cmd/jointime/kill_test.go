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
	"strconv"
	"strings"
	"sync"
	"sync/atomic"
	"syscall"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"jointime/core/service"
)

// cluster is a PostgreSQL of the test's own, which may be killed.
type cluster struct {
	t            *testing.T
	folder, port string
	url          string
}

// up starts it, or starts it again at the same port, and waits until it answers.
func (c *cluster) up() {
	c.t.Helper()
	cmd := exec.Command("bash", "-c", `. scripts/lib.sh; pg_up "$1"; echo "$PG_PORT $PG_URL"`, "bash", c.folder)
	cmd.Dir = filepath.Join("..", "..")
	if cmd.Env = os.Environ(); c.port != "" {
		cmd.Env = append(cmd.Env, "PG_FIXED="+c.port)
	}
	out, err := cmd.Output()
	require.NoError(c.t, err, string(out))
	said := strings.Fields(string(out))
	require.Len(c.t, said, 2)
	c.port, c.url = said[0], said[1]
}

// kill ends its first process at once; the others end when they see that.
func (c *cluster) kill() {
	c.t.Helper()
	raw, err := os.ReadFile(filepath.Join(c.folder, "pg", "postmaster.pid"))
	require.NoError(c.t, err)
	pid, err := strconv.Atoi(strings.Fields(string(raw))[0])
	require.NoError(c.t, err)
	require.NoError(c.t, syscall.Kill(pid, syscall.SIGKILL))
}

// kills is how often the server or its database is killed in the middle of a played service: five times, or as JOINTIME_KILLS says.
func kills(t *testing.T) int {
	said := os.Getenv("JOINTIME_KILLS")
	if said == "" {
		return 5
	}
	n, err := strconv.Atoi(said)
	require.NoError(t, err)
	return n
}

// A server that is killed at any moment, or its database, again and again, while two screens tap: what was acknowledged is in the log, each
// once, and what was not acknowledged is sent again and counts once. How soon it answers after its database does is logged.
func TestKilledInTheMiddleOfService(t *testing.T) {
	folder, err := os.MkdirTemp("", "cluster")
	require.NoError(t, err)
	db := &cluster{t: t, folder: folder}
	t.Cleanup(func() {
		if db.port != "" {
			db.kill()
		}
		require.Eventually(t, func() bool { return os.RemoveAll(folder) == nil }, time.Minute, 100*time.Millisecond)
	})
	db.up()
	url := db.url
	program := filepath.Join(t.TempDir(), "jointime")
	out, err := exec.Command("go", "build", "-o", program, ".").CombinedOutput()
	require.NoError(t, err, string(out))
	out, err = exec.Command(program, "demo", "--database", url).CombinedOutput()
	require.NoError(t, err, string(out))

	var said bytes.Buffer // what the servers complain of meanwhile
	t.Cleanup(func() {
		if t.Failed() {
			t.Log(said.String()[max(0, said.Len()-20_000):])
		}
	})
	var mu sync.Mutex
	address := ""
	begin := func() *exec.Cmd {
		cmd := exec.Command(program, "serve", "--port", "0", "--database", url)
		lines, err := cmd.StdoutPipe()
		require.NoError(t, err)
		cmd.Stderr = &said
		require.NoError(t, cmd.Start())
		line, err := bufio.NewReader(lines).ReadString('\n')
		require.NoError(t, err)
		mu.Lock()
		address = strings.TrimSpace(strings.TrimPrefix(line, "Jointime is at "))
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
	var acknowledged atomic.Int64
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
						acknowledged.Add(1)
						break
					}
					time.Sleep(20 * time.Millisecond)
				}
				sent[k] = append(sent[k], id)
			}
		})
	}
	many, slowest := kills(t), time.Duration(0)
	for n := range many {
		time.Sleep(time.Duration(100+rand.IntN(600)) * time.Millisecond)
		if n%2 == 0 {
			require.NoError(t, running.Process.Signal(syscall.SIGKILL))
			_ = running.Wait() // it was killed
			running = begin()
			continue
		}
		db.kill()
		time.Sleep(time.Duration(rand.IntN(300)) * time.Millisecond) // they tap into nothing
		db.up()
		was, up := acknowledged.Load(), time.Now()
		require.Eventually(t, func() bool { return acknowledged.Load() > was }, time.Minute, 5*time.Millisecond, "it answers again")
		slowest = max(slowest, time.Since(up))
	}
	t.Logf("%d kills, %d taps acknowledged, the slowest answer %s after the database's", many, acknowledged.Load(),
		slowest.Round(time.Millisecond))
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
		require.Greater(t, len(sent[k]), many)
		for _, id := range sent[k] {
			require.Equal(t, 1, count[id], id)
		}
	}
	require.NoError(t, running.Process.Signal(os.Interrupt))
	require.NoError(t, running.Wait())
}
