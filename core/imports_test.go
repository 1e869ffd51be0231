package core_test

import (
	"os/exec"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"
)

// core is plain computation: the standard library, gonum, and itself. It has no
// HTTP, no SQL, no interface code, no operating system and no clock of its own.
func TestCoreImportsNothingItMustNot(t *testing.T) {
	out, err := exec.Command("go", "list", "-deps", "-f", `{{if not .Standard}}{{.ImportPath}}{{end}}`, "jointime/core/...").Output()
	require.NoError(t, err)
	for _, p := range strings.Fields(string(out)) {
		if strings.HasSuffix(p, "test") || strings.HasPrefix(p, "pgregory.net/rapid") {
			continue // helpers for tests
		}
		ok := p == "jointime/core" || strings.HasPrefix(p, "jointime/core/") || strings.HasPrefix(p, "gonum.org/v1/gonum")
		require.True(t, ok, "core imports %s", p)
	}
	out, err = exec.Command("go", "list", "-f", `{{.ImportPath}} {{join .Imports " "}}`, "jointime/core/...").Output()
	require.NoError(t, err)
	for _, line := range strings.Split(strings.TrimSpace(string(out)), "\n") {
		fields := strings.Fields(line)
		for _, p := range fields[1:] {
			for _, no := range []string{"net/http", "database/sql", "os", "os/exec", "math/rand", "net", "syscall"} {
				require.NotEqual(t, no, p, "%s imports %s", fields[0], no)
			}
		}
	}
}

// The planner keeps plans and knows nothing of how they are asked for or kept.
func TestThePlannerHasNoHTTPAndNoSQL(t *testing.T) {
	out, err := exec.Command("go", "list", "-deps", "jointime/planner").Output()
	require.NoError(t, err)
	deps := strings.Fields(string(out))
	require.Contains(t, deps, "jointime/core/expand")
	for _, no := range []string{"net/http", "database/sql", "jointime/store", "jointime/server"} {
		require.NotContains(t, deps, no)
	}
}

// Nothing in core reads the clock: times come in as arguments.
func TestCoreHasNoClock(t *testing.T) {
	out, _ := exec.Command("grep", "-rnE", "--include=*.go", "--exclude=*_test.go", `time\.(Now|Since|Until|After|Tick|Sleep)\(`, ".").Output()
	require.Empty(t, string(out))
}
