package lines

import (
	"math"
	"strings"
)

// Lengths of time as they are spoken.

// span is a length of time in seconds, with what it may be.
type span struct {
	low, likely, high float64
	ranged            bool
}

func exactly(s float64) span { return span{s, s, s, false} }

// overnight is how long something stands overnight: common practice, no source.
var overnight = span{8 * 3600, 10 * 3600, 14 * 3600, true}

// few and couple are what is meant by them, the low and the high: common practice, no source.
var few, several = [2]float64{2, 4}, [2]float64{4, 7}

type quantity struct {
	low, high float64
	n         int  // tokens
	article   bool // "an hour"
}

func (l *line) at(i int) *token {
	if i < 0 || i >= len(l.tokens) || l.used[i] {
		return &token{kind: separator}
	}
	return &l.tokens[i]
}

func (l *line) is(i int, list ...string) bool {
	t := l.at(i)
	if t.kind == separator {
		return false
	}
	for _, w := range list {
		if t.text == w {
			return true
		}
	}
	return false
}

// are reports whether words stand from i on.
func (l *line) are(i int, list ...string) bool {
	for k, w := range list {
		if !l.is(i+k, w) {
			return false
		}
	}
	return true
}

// amount reads a number in front of a unit: 4, 1½, two, a couple of, half an, a.
func (l *line) amount(i int) (q quantity, ok bool) {
	t := l.at(i)
	one := func(v float64, n int) (quantity, bool) { return quantity{v, v, n, false}, true }
	switch {
	case t.kind == numeral && !t.glued:
		if l.are(i+1, "and", "a", "half") {
			return one(t.value+0.5, 4)
		}
		return one(t.value, 1)
	case t.kind != word:
		return q, false
	case l.are(i, "three", "quarters", "of", "an"), l.are(i, "three", "quarters", "of", "a"):
		return one(0.75, 4)
	case l.are(i, "a", "quarter", "of", "an"), l.are(i, "a", "quarter", "of", "a"):
		return one(0.25, 4)
	case l.are(i, "quarter", "of", "an"), l.are(i, "quarter", "of", "a"):
		return one(0.25, 3)
	case l.are(i, "a", "couple", "of"):
		return one(2, 3)
	case l.are(i, "a", "couple"), l.are(i, "couple", "of"):
		return one(2, 2)
	case l.are(i, "a", "good", "few"):
		return quantity{several[0], several[1], 3, false}, true
	case l.are(i, "a", "few"):
		return quantity{few[0], few[1], 2, false}, true
	case l.is(i, "several"):
		return quantity{several[0], several[1], 1, false}, true
	case l.are(i, "half", "an"), l.are(i, "half", "a"), l.are(i, "a", "half"):
		return one(0.5, 2)
	case l.is(i, "half"):
		return one(0.5, 1)
	case l.are(i, "a", "good"), l.are(i, "a", "full"), l.are(i, "a", "short"):
		return quantity{1, 1, 2, true}, true
	case l.is(i, "a", "an"):
		return quantity{1, 1, 1, true}, true
	}
	if l.at(i+1).glued && l.at(i+1).kind == word {
		if v, ok := numberWords[t.text+"-"+l.at(i+1).text]; ok {
			return one(v, 2)
		}
	}
	if v, ok := numberWords[t.text]; ok {
		if l.are(i+1, "and", "a", "half") {
			return one(v+0.5, 4)
		}
		return one(v, 1)
	}
	return q, false
}

func (l *line) unit(i int) (seconds float64, ok bool) {
	t := l.at(i)
	if t.kind != word && t.kind != sign || t.glued && i > 0 && l.tokens[i-1].kind == word {
		return 0, false
	}
	seconds, ok = units[t.text]
	return seconds, ok
}

var (
	aboutWords = []string{"about", "around", "roughly", "approx", "approximately", "some", "nearly", "almost", "~", "another", "further",
		"exactly", "only", "just"}
	toWords = []string{"to", "-", "or"}
)

// length reads a length of time from token i on: 4 min, 1:30, 1 h 20, 3 to 5 min, half an hour, an hour and a half, a minute or so, 45',
// overnight. n is how many tokens it takes, 0 where there is none.
func (l *line) length(i int) (s span, n int) {
	start := i
	between := l.is(i, "between")
	if between || l.is(i, aboutWords...) {
		i++
		if l.is(i, "about", "a") && l.is(i+1, "further") {
			i += 2
		}
	}
	s, n = l.plain(i)
	if n == 0 {
		return s, 0
	}
	i += n
	if l.is(i, toWords...) || between && l.is(i, "and") {
		if b, k := l.plain(i + 1); k > 0 && b.likely >= s.likely {
			s = span{s.low, (s.low + b.high) / 2, b.high, true}
			i += 1 + k
		}
	}
	switch {
	case l.are(i, "or", "so"), l.are(i, "or", "thereabouts"), l.are(i, "at", "least") && !l.is(start, "at"):
		i += 2
	case l.is(i, "approx", "approximately"):
		i++
	}
	return s, i - start
}

// plain is a length without what may stand around it.
func (l *line) plain(i int) (s span, n int) {
	t := l.at(i)
	switch {
	case t.kind == clockLength:
		if b := l.at(i + 2); l.is(i+1, "to", "-") && b.kind == clockLength {
			return span{t.value, (t.value + b.value) / 2, b.value, true}, 3
		}
		return exactly(t.value), 1
	case t.kind == word && t.text == "overnight":
		if i > 0 && strings.HasSuffix(l.tokens[i-1].text, "ed") {
			return s, 0 // the pulses soaked overnight: that was before
		}
		return overnight, 1
	}
	q, ok := l.amount(i)
	if !ok {
		return s, 0
	}
	start := i
	i += q.n
	if l.is(i, "more", "further", "full", "good") {
		if _, ok := l.unit(i + 1); ok { // 2 more minutes
			i++
		}
	}
	if u, ok := l.unit(i); ok {
		return l.more(start, i+1, u, span{q.low * u, (q.low + q.high) / 2 * u, q.high * u, q.low != q.high})
	}
	and := i > 1 && start > 0 && l.is(start-1, "between") && l.is(i, "and")
	if q.article || !l.is(i, toWords...) && !and {
		return s, 0
	}
	b, ok := l.amount(i + 1)
	if !ok || b.article {
		return s, 0
	}
	i += 1 + b.n
	u, ok := l.unit(i)
	if !ok || b.high < q.low {
		return s, 0
	}
	return span{q.low * u, (q.low + b.high) / 2 * u, b.high * u, true}, i + 1 - start
}

// more reads what may come after a number with its unit: 20 min after 1 h, a half after an hour, 30 after 1 h.
func (l *line) more(start, i int, unit float64, s span) (span, int) {
	plus := func(v float64) span { return span{s.low + v, s.likely + v, s.high + v, s.ranged} }
	switch {
	case l.are(i, "and", "a", "half"):
		return plus(unit / 2), i + 3 - start
	case l.are(i, "and", "a", "quarter"):
		return plus(unit / 4), i + 3 - start
	case l.are(i, "and", "three", "quarters"):
		return plus(unit * 3 / 4), i + 3 - start
	}
	k := i
	if l.is(k, "and") {
		k++
	}
	b := l.at(k)
	if b.kind == numeral && !b.glued {
		if u, ok := l.unit(k + 1); ok && u < unit && (u > 1 || unit == 60) && !(k > i && l.each(k+2)) {
			return plus(b.value * u), k + 2 - start
		}
		if (unit == 3600 || unit == 60) && k == i && b.value < 60 && b.value == math.Trunc(b.value) && l.endsBare(k+1) {
			return plus(b.value * unit / 60), k + 1 - start
		}
	}
	return s, i - start
}

// each reports whether words for each portion stand at i.
func (l *line) each(i int) bool {
	_, ok := l.find(eachOne, i)
	return ok
}

// endsBare reports whether a bare number that ends before i is minutes after an hour: nothing that counts or heats follows.
func (l *line) endsBare(i int) bool {
	t := l.at(i)
	return t.kind == separator || t.kind == word && !t.glued && !heatUnits[t.text] && !amountUnits[t.text]
}
