package lines

import (
	"strings"
	"unicode"
)

// Phrases over tokens. A pattern is words with
//
//	(a|b c)   one of these
//	[a]       there or not
//	{t} {n} {deg} {id} {text}   a length, a number, a temperature, a name as it stands, all until the clause ends
//	{one} {c}   a length and a temperature that are no ranges
//	,         what separates clauses
//
// A slot that stands several times has a name of its own behind a colon: {t:low}.

type node struct {
	alternatives [][]node
	optional     bool
	text         string
	slot, name   string
}

// found is where a pattern stands, with what is in its slots.
type found struct {
	from, to int // tokens
	length   map[string]span
	heat     map[string]warmth
	number   map[string]float64
	text     map[string]string
}

// with is a copy of a map with one more entry: what a try puts in is gone when the try fails.
func with[V any](m map[string]V, name string, v V) map[string]V {
	out := make(map[string]V, len(m)+1)
	for k, v := range m {
		out[k] = v
	}
	out[name] = v
	return out
}

// pattern compiles a pattern; a wrong one is a mistake in this package.
func pattern(s string) []node {
	p := &patternReader{s: s}
	out := p.sequence("")
	if p.i < len(s) {
		panic("lines: pattern " + s)
	}
	return out
}

type patternReader struct {
	s string
	i int
}

func (p *patternReader) sequence(ends string) (out []node) {
	for p.i < len(p.s) {
		c := p.s[p.i]
		switch {
		case strings.IndexByte(ends, c) >= 0:
			return out
		case c == ' ':
			p.i++
		case c == '(' || c == '[':
			closing := map[byte]string{'(': ")", '[': "]"}[c]
			n := node{optional: c == '['}
			for {
				p.i++
				n.alternatives = append(n.alternatives, p.sequence("|"+closing))
				if p.i >= len(p.s) {
					panic("lines: pattern " + p.s)
				}
				if p.s[p.i] != '|' {
					break
				}
			}
			p.i++
			out = append(out, n)
		case c == '{':
			end := p.i + strings.IndexByte(p.s[p.i:], '}')
			slot, name, named := strings.Cut(p.s[p.i+1:end], ":")
			if !named {
				name = slot
			}
			out = append(out, node{slot: slot, name: name})
			p.i = end + 1
		default:
			end := p.i
			for end < len(p.s) && strings.IndexByte(" ()[]{}|", p.s[end]) < 0 {
				end++
			}
			out = append(out, node{text: p.s[p.i:end]})
			p.i = end
		}
	}
	return out
}

// find looks for a pattern that begins at token i.
func (l *line) find(ns []node, i int) (found, bool) {
	f := found{from: i}
	ok := l.walk(ns, i, &f)
	return f, ok
}

func (l *line) walk(ns []node, i int, f *found) bool {
	if len(ns) == 0 {
		f.to = i
		return true
	}
	n, rest := &ns[0], ns[1:]
	try := func(to int, note func(*found)) bool {
		c := *f
		if note != nil {
			note(&c)
		}
		if l.walk(rest, to, &c) {
			*f = c
			return true
		}
		return false
	}
	switch {
	case n.alternatives != nil:
		for _, a := range n.alternatives {
			if w := a[0].text; w != "" && w != "," && !l.is(i, w) {
				continue // as most of them
			}
			c := *f
			if l.walk(append(append([]node{}, a...), rest...), i, &c) {
				*f = c
				return true
			}
		}
		return n.optional && l.walk(rest, i, f)
	case n.text == ",":
		return i < len(l.tokens) && l.tokens[i].kind == separator && l.walk(rest, i+1, f)
	case n.text != "":
		return l.is(i, n.text) && l.walk(rest, i+1, f)
	}
	switch n.slot {
	case "t":
		s, k := l.length(i)
		return k > 0 && try(i+k, func(c *found) { c.length = with(c.length, n.name, s) })
	case "one": // a single length
		s, k := l.plain(i)
		if t := l.at(i); t.kind == clockLength { // from 4:15 to 6:15: the first of the two
			s, k = exactly(t.value), 1
		}
		return k > 0 && !s.ranged && try(i+k, func(c *found) { c.length = with(c.length, n.name, s) })
	case "c": // a single temperature
		w, k := l.degrees(i, true)
		for k > 1 && w.ranged() {
			k--
			w.high = w.low
			for k > 1 && !heatUnits[l.tokens[i+k-1].text] && l.tokens[i+k-1].kind != numeral {
				k--
			}
		}
		return k > 0 && try(i+k, func(c *found) { c.heat = with(c.heat, n.name, w) })
	case "deg":
		w, k := l.degrees(i, true)
		return k > 0 && try(i+k, func(c *found) { c.heat = with(c.heat, n.name, w) })
	case "n":
		t := l.at(i)
		v, spoken := numberWords[t.text]
		if t.kind == numeral {
			v = t.value
		} else if !spoken {
			return false
		}
		return try(i+1, func(c *found) { c.number = with(c.number, n.name, v) })
	case "id":
		if t := l.at(i); t.kind != word {
			return false
		}
		to := i + 1
		for to < len(l.tokens) && l.tokens[to].glued && !l.used[to] {
			to++
		}
		return try(to, func(c *found) {
			c.text = with(c.text, n.name, strings.ToLower(l.raw[l.tokens[i].from:l.tokens[to-1].to]))
		})
	case "text":
		to := i
		for to < len(l.tokens) && !l.used[to] && l.tokens[to].kind != separator {
			to++
		}
		// The longest that lets the rest of the pattern follow; a pattern's last slot takes all.
		for ; to > i; to-- {
			if try(to, func(c *found) { c.text = with(c.text, n.name, l.said(i, to)) }) {
				return true
			}
			if len(rest) == 0 || to-i > mostText {
				return false
			}
		}
	}
	return false
}

// mostText is how many words a text in the middle of a phrase has at the most: so a line is read in time that grows with its length.
const mostText = 12

// said is the text of tokens, as it stands.
func (l *line) said(from, to int) string {
	return strings.TrimFunc(l.raw[l.tokens[from].from:l.tokens[to-1].to], unicode.IsSpace)
}

// before is the text in front of token i in its clause that nothing has taken, and where it begins.
func (l *line) before(i int) (text string, from int) {
	from = i
	for from > 0 && !l.used[from-1] && l.tokens[from-1].kind != separator {
		from--
	}
	if from == i {
		return "", i
	}
	return l.said(from, i), from
}

// take marks tokens as understood.
func (l *line) take(from, to int) {
	for i := from; i < to; i++ {
		l.used[i] = true
	}
}

// all finds every place where a pattern stands, from the left, and calls do, which says whether it was meant.
func (l *line) all(ns []node, do func(f *found) bool) {
	for i := l.start; i < len(l.tokens); i++ {
		if l.used[i] || l.tokens[i].kind == separator {
			continue
		}
		if f, ok := l.find(ns, i); ok && do(&f) {
			l.take(f.from, f.to)
			i = f.to - 1
		}
	}
}

// last finds the last place where a pattern stands: names stand in front, and what a name says by the way stays in it when the line says
// it again behind.
func (l *line) last(ns []node) (found, bool) {
	for i := len(l.tokens) - 1; i >= l.start; i-- {
		if l.used[i] || l.tokens[i].kind == separator {
			continue
		}
		if f, ok := l.find(ns, i); ok {
			l.take(f.from, f.to)
			return f, true
		}
	}
	return found{}, false
}
