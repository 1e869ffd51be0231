package kitchen

import (
	"errors"
	"fmt"
	"strings"

	"jointime/core/message"
)

// Fault is one thing wrong with the data: where it stands, as a path such as
// `steps[2].time.fixed.low`, and what is wrong with it.
type Fault struct {
	Path    string          `json:"path" doc:"Where the fault is, as a path into the thing sent"`
	Message message.Message `json:"message" doc:"What is wrong, and what was expected"`
}

// Faults are all faults of one thing; a non-empty list is an error.
type Faults []Fault

func (f Faults) Error() string {
	var b strings.Builder
	for i, x := range f {
		if i > 0 {
			b.WriteString("; ")
		}
		b.WriteString(x.Path + ": " + x.Message.Text)
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

// say adds a message of the catalogue with its facts, as message.Of takes them.
func (f finder) say(key string, facts ...any) {
	*f.faults = append(*f.faults, Fault{f.path, message.Of(key, facts...)})
}

// tell adds what an error says.
func (f finder) tell(err error) { *f.faults = append(*f.faults, FaultOf(f.path, err)) }

// FaultOf is what an error says of a place.
func FaultOf(path string, err error) Fault {
	var m *message.Error
	if errors.As(err, &m) {
		return Fault{path, m.Message}
	}
	return Fault{path, message.Of("fault.text", "text", err.Error())}
}

// FaultAt is a message of the catalogue about a place, as message.Of takes it.
func FaultAt(path, key string, facts ...any) Fault { return Fault{path, message.Of(key, facts...)} }

// within reports a number outside [lo, hi].
func within[N int | float64](f finder, v, lo, hi N) {
	if !(v >= lo && v <= hi) {
		f.say("fault.range", "low", lo, "high", hi, "got", v)
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
	f.say("fault.one-of", "words", words, "got", short(string(v)))
}

const maxName = 120

// name reports a name that is empty, too long, or holds characters that no name
// has (control characters); every script of the world is welcome.
func (f finder) name(s string) {
	switch {
	case strings.TrimSpace(s) == "":
		f.say("fault.name-needed")
	case len([]rune(s)) > maxName:
		f.say("fault.characters", "most", maxName, "got", len([]rune(s)))
	}
	for _, r := range s {
		if r < 0x20 || r == 0x7f || r == 0xfffd {
			f.say("fault.character", "code", fmt.Sprintf("%U", r))
			return
		}
	}
}

// id reports an id that is not a slug: lower-case letters, digits and hyphens.
func (f finder) id(s string) {
	if !ValidID(s) {
		f.say("fault.bad-id", "most", 80, "got", short(s))
	}
}

// ValidID reports whether a text may be an id: small letters without accents, digits and hyphens, at most 80 of them.
func ValidID(s string) bool {
	ok := s != "" && len(s) <= 80
	for _, r := range s {
		ok = ok && (r >= 'a' && r <= 'z' || r >= '0' && r <= '9' || r == '-')
	}
	return ok
}

func short(s string) string {
	if r := []rune(s); len(r) > 40 {
		return string(r[:40]) + "…"
	}
	return s
}
