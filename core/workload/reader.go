package workload

import (
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"math"
	"strconv"
	"strings"
	"unicode/utf8"
)

// PathError is bad input: where it is, as a JSON path from the root `$`, and
// what was expected there.
type PathError struct{ Path, Expected string }

func (e *PathError) Error() string { return e.Path + ": " + e.Expected }

// reader walks a JSON document token by token and remembers where it is. It
// stops at the first fault by panicking with a *PathError, which is caught at
// the exported functions; a file of a million tasks is never held as a tree.
type reader struct {
	dec  *json.Decoder
	path []string
}

func newReader(r io.Reader) *reader {
	d := json.NewDecoder(r)
	d.UseNumber()
	return &reader{dec: d}
}

func (r *reader) fail(format string, args ...any) {
	panic(&PathError{Path: "$" + strings.Join(r.path, ""), Expected: oneLine(fmt.Sprintf(format, args...))})
}

// oneLine keeps a message on one line and short, whatever the input held.
func oneLine(s string) string {
	s = strings.Map(func(c rune) rune {
		if c < 0x20 || c == 0x7f || c == 0x2028 || c == 0x2029 || c == utf8.RuneError {
			return ' '
		}
		return c
	}, s)
	const limit = 300
	if len(s) > limit {
		cut := limit
		for !utf8.RuneStart(s[cut]) {
			cut--
		}
		s = s[:cut] + "…"
	}
	return s
}

func recoverPath(err *error) {
	if p := recover(); p != nil {
		pe, ok := p.(*PathError)
		if !ok {
			panic(p)
		}
		pe.Path = oneLine(pe.Path)
		*err = pe
	}
}

func (r *reader) token() json.Token {
	t, err := r.dec.Token()
	if err == nil {
		return t
	}
	var syn *json.SyntaxError
	switch {
	case errors.Is(err, io.EOF), errors.Is(err, io.ErrUnexpectedEOF):
		r.fail("the file ends too early (byte %d)", r.dec.InputOffset())
	case errors.As(err, &syn):
		r.fail("not JSON: %v (byte %d)", syn, syn.Offset)
	default:
		r.fail("cannot be read: %v", err)
	}
	return nil
}

func (r *reader) in(seg string, f func()) {
	r.path = append(r.path, seg)
	f()
	r.path = r.path[:len(r.path)-1]
}

func shown(t json.Token) string {
	switch v := t.(type) {
	case json.Delim:
		if v == '{' {
			return "an object"
		}
		return "a list"
	case nil:
		return "null"
	case string:
		return strconv.Quote(v)
	default:
		return fmt.Sprint(v)
	}
}

// object calls field for each key; a key twice is a fault, and so is a key that
// is not in fields. Every key of required must be there.
func (r *reader) object(fields map[string]func(), required ...string) {
	if t := r.token(); t != json.Delim('{') {
		r.fail("expected an object, got %s", shown(t))
	}
	seen := map[string]bool{}
	for r.dec.More() {
		key, ok := r.token().(string)
		if !ok {
			r.fail("expected a key")
		}
		f, known := fields[key]
		r.path = append(r.path, "."+key)
		if !known {
			r.fail("unknown key")
		}
		if seen[key] {
			r.fail("this key stands here twice")
		}
		seen[key] = true
		f()
		r.path = r.path[:len(r.path)-1]
	}
	r.token()
	for _, k := range required {
		if !seen[k] {
			r.in("."+k, func() { r.fail("is required") })
		}
	}
}

func (r *reader) list(item func(i int)) {
	if t := r.token(); t != json.Delim('[') {
		r.fail("expected a list, got %s", shown(t))
	}
	for i := 0; r.dec.More(); i++ {
		r.path = append(r.path, "["+strconv.Itoa(i)+"]")
		item(i)
		r.path = r.path[:len(r.path)-1]
	}
	r.token()
}

func (r *reader) text() string {
	t := r.token()
	s, ok := t.(string)
	if !ok {
		r.fail("expected a text, got %s", shown(t))
	}
	return s
}

func (r *reader) id() string {
	s := r.text()
	if s == "" {
		r.fail("expected an id, got an empty text")
	}
	if len(s) > 200 {
		r.fail("expected an id of at most 200 bytes, got %d", len(s))
	}
	return s
}

func (r *reader) number() float64 {
	t := r.token()
	n, ok := t.(json.Number)
	if !ok {
		r.fail("expected a number, got %s", shown(t))
	}
	f, err := n.Float64()
	if err != nil || math.IsInf(f, 0) || math.IsNaN(f) {
		r.fail("expected a number, got %s", n)
	}
	return f
}

func (r *reader) whole(lo, hi int64) int64 {
	t := r.token()
	n, ok := t.(json.Number)
	if !ok {
		r.fail("expected a whole number from %d to %d, got %s", lo, hi, shown(t))
	}
	v, err := n.Int64()
	if err != nil {
		// 1e3 and 5.0 are whole numbers too.
		f, ferr := n.Float64()
		if ferr != nil || f != math.Trunc(f) || math.Abs(f) > 1<<53 {
			r.fail("expected a whole number from %d to %d, got %s", lo, hi, n)
		}
		v = int64(f)
	}
	if v < lo || v > hi {
		r.fail("expected a whole number from %d to %d, got %d", lo, hi, v)
	}
	return v
}

func (r *reader) end() {
	if _, err := r.dec.Token(); !errors.Is(err, io.EOF) {
		r.fail("something follows after the end of the document (byte %d)", r.dec.InputOffset())
	}
}

func (r *reader) exactly(want string) {
	if s := r.text(); s != want {
		r.fail("expected %q, got %q", want, s)
	}
}

func (r *reader) version() {
	if v := r.whole(-MaxSeconds, MaxSeconds); v != Version {
		r.fail("expected version %d, got %d", Version, v)
	}
}
