package kitchen

import (
	"fmt"
	"strings"
)

// Fault is one thing wrong with the data: where it stands, as a path such as
// `steps[2].time.fixed.low`, and what is wrong with it.
type Fault struct {
	Path    string `json:"path" doc:"Where the fault is, as a path into the thing sent"`
	Message string `json:"message" doc:"What is wrong, and what was expected"`
}

// Faults are all faults of one thing; a non-empty list is an error.
type Faults []Fault

func (f Faults) Error() string {
	var b strings.Builder
	for i, x := range f {
		if i > 0 {
			b.WriteString("; ")
		}
		b.WriteString(x.Path + ": " + x.Message)
	}
	return b.String()
}

// Or returns the faults as an error, nil when there are none.
func (f Faults) Or() error {
	if len(f) == 0 {
		return nil
	}
	return f
}

// finder collects faults and knows where it stands.
type finder struct {
	path   string
	faults *Faults
}

func newFinder() finder { return finder{faults: &Faults{}} }

func (f finder) at(format string, args ...any) finder {
	seg := fmt.Sprintf(format, args...)
	if f.path != "" && !strings.HasPrefix(seg, "[") {
		seg = "." + seg
	}
	return finder{f.path + seg, f.faults}
}

func (f finder) say(format string, args ...any) {
	*f.faults = append(*f.faults, Fault{f.path, fmt.Sprintf(format, args...)})
}

// within reports a number outside [lo, hi].
func within[N int | float64](f finder, v, lo, hi N) {
	if !(v >= lo && v <= hi) {
		f.say("expected %v to %v, got %v", lo, hi, v)
	}
}

// oneOf reports a word that is not in the list.
func oneOf[S ~string](f finder, v S, list []S) {
	for _, w := range list {
		if v == w {
			return
		}
	}
	words := make([]string, len(list))
	for i, w := range list {
		words[i] = string(w)
	}
	f.say("expected one of %s, got %q", strings.Join(words, ", "), string(v))
}

const maxName = 120

// name reports a name that is empty, too long, or holds characters that no name
// has (control characters); every script of the world is welcome.
func (f finder) name(s string) {
	switch {
	case strings.TrimSpace(s) == "":
		f.say("a name is needed")
	case len([]rune(s)) > maxName:
		f.say("expected at most %d characters, got %d", maxName, len([]rune(s)))
	}
	for _, r := range s {
		if r < 0x20 || r == 0x7f || r == 0xfffd {
			f.say("holds a character that cannot be shown (%U)", r)
			return
		}
	}
}

// id reports an id that is not a slug: lower-case letters, digits and hyphens.
func (f finder) id(s string) {
	ok := s != "" && len(s) <= 80
	for _, r := range s {
		ok = ok && (r >= 'a' && r <= 'z' || r >= '0' && r <= '9' || r == '-')
	}
	if !ok {
		f.say("expected an id of lower-case letters, digits and hyphens (at most 80), got %q", short(s))
	}
}

func short(s string) string {
	if r := []rune(s); len(r) > 40 {
		return string(r[:40]) + "…"
	}
	return s
}
