package message

import (
	"go/ast"
	"go/parser"
	"go/token"
	"io/fs"
	"path/filepath"
	"regexp"
	"slices"
	"strconv"
	"strings"
	"testing"

	"github.com/BurntSushi/toml"
	"github.com/stretchr/testify/require"
)

// use is a place in the program at which a message is made.
type use struct {
	at    string
	facts []string
}

var isKey = regexp.MustCompile(`^[a-z]+\.[a-z-]+$`)

// said are the names of the functions that take a key and its facts.
var said = []string{"Of", "Fail", "FaultAt", "say"}

// uses finds every message that the program makes, by key.
func uses(t *testing.T) map[string][]use {
	t.Helper()
	out := map[string][]use{}
	set := token.NewFileSet()
	for _, root := range []string{"..", "../../planner", "../../server", "../../store", "../../live", "../../formats"} {
		require.NoError(t, filepath.WalkDir(root, func(path string, d fs.DirEntry, err error) error {
			if err != nil || d.IsDir() || !strings.HasSuffix(path, ".go") || strings.HasSuffix(path, "_test.go") {
				return err
			}
			file, err := parser.ParseFile(set, path, nil, 0)
			if err != nil {
				return err
			}
			ast.Inspect(file, func(n ast.Node) bool {
				call, ok := n.(*ast.CallExpr)
				if !ok || !slices.Contains(said, calledName(call)) {
					return true
				}
				for i, a := range call.Args {
					if key, ok := literal(a); ok && isKey.MatchString(key) {
						u := use{at: set.Position(call.Pos()).String()}
						for k := i + 1; k < len(call.Args); k += 2 {
							name, ok := literal(call.Args[k])
							require.True(t, ok && k+1 < len(call.Args), "%s: facts are pairs of a name and a value", u.at)
							u.facts = append(u.facts, name)
						}
						slices.Sort(u.facts)
						out[key] = append(out[key], u)
						break
					}
				}
				return true
			})
			return nil
		}))
	}
	return out
}

func calledName(call *ast.CallExpr) string {
	switch f := call.Fun.(type) {
	case *ast.SelectorExpr:
		return f.Sel.Name
	case *ast.Ident:
		return f.Name
	}
	return ""
}

func literal(e ast.Expr) (string, bool) {
	l, ok := e.(*ast.BasicLit)
	if !ok || l.Kind != token.STRING {
		return "", false
	}
	s, err := strconv.Unquote(l.Value)
	return s, err == nil
}

// sentences are those of the catalogue by key, each with its forms.
func sentences(t *testing.T) map[string][]string {
	t.Helper()
	var file map[string]map[string]any
	require.NoError(t, toml.Unmarshal(enTOML, &file))
	out := map[string][]string{}
	for group, list := range file {
		for name, v := range list {
			switch x := v.(type) {
			case string:
				out[group+"."+name] = []string{x}
			case map[string]any:
				for _, form := range x {
					out[group+"."+name] = append(out[group+"."+name], form.(string))
				}
			}
		}
	}
	return out
}

var fact = regexp.MustCompile(`\{\{\.([a-z]+)\}\}`)

// Every message has a sentence and every sentence a message; what a sentence speaks of is what every place that says
// it tells.
func TestEveryMessageHasASentence(t *testing.T) {
	made, written := uses(t), sentences(t)
	require.Greater(t, len(made), 150, "the program was read")
	for key, list := range made {
		forms, ok := written[key]
		if !ok {
			t.Errorf("%s: %s has no sentence", list[0].at, key)
			continue
		}
		var wanted []string
		for _, form := range forms {
			for _, m := range fact.FindAllStringSubmatch(form, -1) {
				if !slices.Contains(wanted, m[1]) {
					wanted = append(wanted, m[1])
				}
			}
		}
		if len(forms) > 1 && !slices.Contains(wanted, count) {
			wanted = append(wanted, count)
		}
		slices.Sort(wanted)
		for _, u := range list {
			if !slices.Equal(wanted, u.facts) {
				t.Errorf("%s: %s tells %v, and its sentence speaks of %v", u.at, key, u.facts, wanted)
			}
		}
	}
	for key := range written {
		if made[key] == nil {
			t.Errorf("nothing says %s", key)
		}
	}
}

// The core makes no sentences by itself: no format in it ends like one.
func TestTheCoreMakesNoSentences(t *testing.T) {
	set, found := token.NewFileSet(), 0
	sentence := regexp.MustCompile(`^[A-Z%].* .*[.;:]$`)
	require.NoError(t, filepath.WalkDir("..", func(path string, d fs.DirEntry, err error) error {
		if err != nil || d.IsDir() || !strings.HasSuffix(path, ".go") || strings.HasSuffix(path, "_test.go") {
			return err
		}
		if dir := filepath.Base(filepath.Dir(path)); dir == "verify" || dir == "instances" || dir == "workloadtest" {
			return nil // the judge speaks to programmers
		}
		file, err := parser.ParseFile(set, path, nil, 0)
		if err != nil {
			return err
		}
		ast.Inspect(file, func(n ast.Node) bool {
			if e, ok := n.(ast.Expr); ok {
				if s, ok := literal(e); ok {
					found++
					if sentence.MatchString(s) && !strings.HasPrefix(s, "json:") {
						t.Errorf("%s: %q", set.Position(n.Pos()), s)
					}
				}
			}
			return true
		})
		return nil
	}))
	require.Greater(t, found, 500)
}
