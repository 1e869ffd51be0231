package main

import (
	"bytes"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"jointime/core/workload"
)

var binary string

func TestMain(m *testing.M) {
	dir, err := os.MkdirTemp("", "jointime")
	if err != nil {
		panic(err)
	}
	binary = filepath.Join(dir, "jointime")
	if out, err := exec.Command("go", "build", "-o", binary, ".").CombinedOutput(); err != nil {
		panic(string(out))
	}
	code := m.Run()
	_ = os.RemoveAll(dir)
	os.Exit(code)
}

// jointime runs the program and returns its exit code and what it wrote.
func jointime(t *testing.T, stdin string, args ...string) (code int, stdout, stderr string) {
	t.Helper()
	c := exec.Command(binary, args...)
	c.Stdin = strings.NewReader(stdin)
	var out, errs bytes.Buffer
	c.Stdout, c.Stderr = &out, &errs
	err := c.Run()
	if err != nil {
		var exit *exec.ExitError
		require.ErrorAs(t, err, &exit)
	}
	return c.ProcessState.ExitCode(), out.String(), errs.String()
}

// The example of the format's description, with the oven that it names.
const example = `{
  "format": "jointime-workload", "version": 1, "objective": "joins",
  "origin": "2026-05-15T12:00:00+02:00", "horizon": 36000,
  "resources": [
    {"id": "cook-fish", "name": "Fish section", "capacity": 4, "windows": [{"from": 7200, "to": 36000, "capacity": 4}]},
    {"id": "oven-1", "capacity": 6, "thermostat": {"start_c": 20, "heat_c_per_min": 12, "cool_c_per_min": 4, "tolerance_c": 5}}
  ],
  "tasks": [
    {"id": "hake-sear", "seconds": 180, "needs": [{"any_of": ["cook-fish"], "units": 4}]},
    {"id": "hake-roast", "seconds": 240, "needs": [{"any_of": ["oven-1"], "units": 1, "setpoint_c": 180}]}
  ],
  "links": [
    {"from": "hake-sear", "to": "hake-roast", "min": 0, "max": 60},
    {"from": "hake-roast", "to": "table-7-main", "min": 60, "best": 120, "max": 240, "weight": 2}
  ],
  "joins": [{"id": "table-7-main", "at": 28800, "weight": 4, "early_weight": 4}],
  "fixed": []
}`

func TestScheduleThenVerify(t *testing.T) {
	dir := t.TempDir()
	in, out := filepath.Join(dir, "w.json"), filepath.Join(dir, "s.json")
	require.NoError(t, os.WriteFile(in, []byte(example), 0o600))
	code, _, stderr := jointime(t, "", "schedule", "--in", in, "--out", out)
	require.Equal(t, 0, code, stderr)
	f, err := os.Open(out)
	require.NoError(t, err)
	s, err := workload.ReadSchedule(f)
	require.NoError(t, err)
	require.Equal(t, workload.Optimal, s.Status)
	require.Equal(t, int64(0), *s.Cost)
	code, stdout, stderr := jointime(t, "", "verify", "--workload", in, "--schedule", out)
	require.Equal(t, 0, code, stdout+stderr)

	// The same schedule with one start moved is refused, a line for each rule.
	raw, err := os.ReadFile(out)
	require.NoError(t, err)
	moved := strings.Replace(string(raw), `"at": 28800`, `"at": 28000`, 1)
	require.NotEqual(t, string(raw), moved)
	require.NoError(t, os.WriteFile(out, []byte(moved), 0o600))
	code, stdout, _ = jointime(t, "", "verify", "--workload", in, "--schedule", out)
	require.Equal(t, 3, code)
	require.Contains(t, stdout, "min: hake-roast → table-7-main")
}

func TestTheSameFileGivesTheSameBytes(t *testing.T) {
	clean := func() string {
		code, stdout, stderr := jointime(t, example, "schedule", "--in", "-", "--out", "-", "--seed", "7")
		require.Equal(t, 0, code, stderr)
		var kept []string
		for _, l := range strings.Split(stdout, "\n") {
			if !strings.Contains(l, `"seconds"`) {
				kept = append(kept, l)
			}
		}
		return strings.Join(kept, "\n")
	}
	require.Equal(t, clean(), clean())
}

// The usual time does not cut short what is counted: on a slow machine the page's plan would not be found again.
func TestWhatEndsASearch(t *testing.T) {
	ends := func(asked bool, rounds ...int) bool {
		ctx, cancel := bounded(t.Context(), 2, asked, rounds)
		defer cancel()
		_, ends := ctx.Deadline()
		return ends
	}
	require.True(t, ends(false))
	require.True(t, ends(true))
	require.True(t, ends(true, 2000, 16_000))
	require.False(t, ends(false, 2000, 16_000))
}

func TestWrongInput(t *testing.T) {
	replace := func(old, with string) string {
		require.Contains(t, example, old)
		return strings.Replace(example, old, with, 1)
	}
	for name, x := range map[string]struct{ in, says string }{
		"empty":             {"", "$: the file ends too early"},
		"nonsense":          {strings.Repeat("nonsense ", 120_000), "$: not JSON"},
		"deep":              {strings.Repeat("[", 100_000), "$: expected an object"},
		"unknown key":       {replace(`"horizon"`, `"horizont"`), "$.horizont: unknown key"},
		"key twice":         {replace(`"version": 1,`, `"version": 1, "version": 1,`), "$.version: this key stands here twice"},
		"version":           {replace(`"version": 1`, `"version": 2`), "$.version: expected version 1"},
		"negative seconds":  {replace(`"seconds": 180`, `"seconds": -180`), "$.tasks[0].seconds: expected a whole number from 0"},
		"huge":              {replace(`"seconds": 180`, `"seconds": 1e300`), "$.tasks[0].seconds: expected a whole number"},
		"fraction":          {replace(`"seconds": 180`, `"seconds": 1.5`), "$.tasks[0].seconds: expected a whole number"},
		"unknown resource":  {replace(`["oven-1"]`, `["oven-9"]`), "$.tasks[1].needs[0].any_of[0]: no resource has the id"},
		"unknown task":      {replace(`"from": "hake-sear"`, `"from": "sear"`), "$.links[0].from: no task or join has the id"},
		"id taken":          {replace(`"id": "table-7-main"`, `"id": "hake-sear"`), "$.joins[0].id: the id"},
		"units missing":     {replace(`, "units": 4`, ``), "$.tasks[0].needs[0].units: is required"},
		"window backwards":  {replace(`"to": 36000`, `"to": 7000`), "$.resources[0].windows[0]: expected a window that ends"},
		"null":              {replace(`"fixed": []`, `"fixed": null`), "$.fixed: expected a list, got null"},
		"after the end":     {example + "{}", "$: something follows"},
		"fixed without":     {replace(`"fixed": []`, `"fixed": [{"task": "hake-sear", "start": 1}]`), "$.fixed[0].resources: is required"},
		"every script, ids": {replace(`"id": "hake-sear"`, `"id": "魚 סלמון рыба 🐟"`), "no task or join has the id"},
	} {
		t.Run(name, func(t *testing.T) {
			out := filepath.Join(t.TempDir(), "s.json")
			code, _, stderr := jointime(t, x.in, "schedule", "--in", "-", "--out", out)
			require.Equal(t, 2, code, stderr)
			require.Contains(t, stderr, x.says)
			require.Len(t, strings.Split(strings.TrimSpace(stderr), "\n"), 1, "one line")
			require.NoFileExists(t, out, "nothing is written")
		})
	}
}

func TestImpossibleIsProvedAndWritten(t *testing.T) {
	in := strings.Replace(example, `"min": 60, "best": 120, "max": 240`, `"min": 300, "max": 240`, 1)
	code, stdout, _ := jointime(t, in, "schedule")
	require.Equal(t, 3, code)
	s, err := workload.ReadSchedule(strings.NewReader(stdout))
	require.NoError(t, err)
	require.Equal(t, workload.Impossible, s.Status)
	require.Nil(t, s.Cost)
	require.Empty(t, s.Tasks)
	require.NotEmpty(t, s.Broken)
	require.Equal(t, []string{"hake-roast", "table-7-main"}, s.Broken[0].IDs)
}
