package core_test

import (
	"fmt"
	"io/fs"
	"os"
	"os/exec"
	"path/filepath"
	"regexp"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"
)

// core is plain computation: the standard library, gonum, the libraries of its catalogue of messages, and itself. It
// has no HTTP, no SQL, no interface code, no operating system and no clock of its own.
func TestCoreImportsNothingItMustNot(t *testing.T) {
	out, err := exec.Command("go", "list", "-deps", "-f", `{{if not .Standard}}{{.ImportPath}}{{end}}`, "jointime/core/...").Output()
	require.NoError(t, err)
	for _, p := range strings.Fields(string(out)) {
		if strings.HasSuffix(p, "test") || strings.HasPrefix(p, "pgregory.net/rapid") {
			continue // helpers for tests
		}
		ok := slices.ContainsFunc([]string{"jointime/core", "gonum.org/v1/gonum", "github.com/nicksnyder/go-i18n/v2",
			"github.com/BurntSushi/toml", "golang.org/x/text"},
			func(root string) bool { return p == root || strings.HasPrefix(p, root+"/") })
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
	require.Empty(t, found(t, `time\.(Now|Since|Until|After|Tick|Sleep)\(`))
}

// Nothing in core draws by chance without a source that came in with its seed: what stands
// in math/rand/v2 itself is seeded by nobody knows what.
func TestCoreDrawsFromASourceOnly(t *testing.T) {
	require.Empty(t, found(t, `\brand\.(Int|IntN|Int32|Int32N|Int64|Int64N|Uint32|Uint32N|Uint64|Uint64N|UintN|N|`+
		`Float32|Float64|NormFloat64|ExpFloat64|Perm|Shuffle)\(`))
}

// found lists the lines of core, tests apart, that match an expression.
func found(t *testing.T, expression string) []string {
	t.Helper()
	re := regexp.MustCompile(expression)
	var out []string
	files := 0
	require.NoError(t, filepath.WalkDir(".", func(path string, d fs.DirEntry, err error) error {
		if err != nil || d.IsDir() || !strings.HasSuffix(path, ".go") || strings.HasSuffix(path, "_test.go") {
			return err
		}
		files++
		raw, err := os.ReadFile(path)
		for i, line := range strings.Split(string(raw), "\n") {
			if re.MatchString(line) && !strings.HasPrefix(strings.TrimSpace(line), "//") {
				out = append(out, fmt.Sprintf("%s:%d: %s", path, i+1, line))
			}
		}
		return err
	}))
	require.Greater(t, files, 50, "the files of core were read")
	return out
}

// What these tests look for they find.
func TestTheLooksFindSomething(t *testing.T) {
	require.NotEmpty(t, found(t, `\brand\.New\(`))
	require.NotEmpty(t, found(t, `time\.Duration\(`))
}
