package lines

import (
	"strconv"
	"strings"
	"unicode"
	"unicode/utf8"
)

// A line in tokens: words, numbers, lengths as a clock shows them, signs, and what separates clauses.

type tokenKind uint8

const (
	word tokenKind = iota
	numeral
	clockLength // 1:30
	sign
	separator
)

type token struct {
	kind  tokenKind
	text  string // in small letters
	value float64
	from  int // bytes of the line
	to    int
	glued bool // by a hyphen to the one before
}

// vulgar are the fractions that have a sign of their own.
var vulgar = map[rune]float64{'½': 0.5, '¼': 0.25, '¾': 0.75, '⅓': 1.0 / 3, '⅔': 2.0 / 3, '⅛': 0.125}

// lex cuts a line into tokens, each once: its time grows with the length of the line.
func lex(s string) []token {
	var out []token
	glued := false
	add := func(t token) {
		t.text = strings.ToLower(s[t.from:t.to])
		t.glued, glued = glued, false
		out = append(out, t)
	}
	touching := func(at int) bool { return len(out) > 0 && out[len(out)-1].to == at }
	for i := 0; i < len(s); {
		r, n := utf8.DecodeRuneInString(s[i:])
		switch {
		case unicode.IsSpace(r):
			i += n
		case r >= '0' && r <= '9' || vulgar[r] != 0:
			t := lexNumber(s, i)
			add(t)
			i = t.to
		case unicode.IsLetter(r):
			afterNumber := touching(i) && out[len(out)-1].kind == numeral
			end := i
			for end < len(s) {
				r, n := utf8.DecodeRuneInString(s[end:])
				apostrophe := (r == '\'' || r == '’') && end+n < len(s) && isLetterAt(s, end+n)
				if !unicode.IsLetter(r) && !unicode.IsMark(r) && !apostrophe && (afterNumber || r < '0' || r > '9') {
					break
				}
				end += n
			}
			add(token{kind: word, from: i, to: end})
			i = end
		case r == '-' && touching(i) && i+1 < len(s) && !isSpaceAt(s, i+1) && (out[len(out)-1].kind == word || isLetterAt(s, i+1)):
			glued = true
			i++
		case r == '@':
			add(token{kind: word, from: i, to: i + n})
			out[len(out)-1].text = "at"
			i += n
		case r == '&':
			add(token{kind: word, from: i, to: i + n})
			out[len(out)-1].text = "and"
			i += n
		case (r == '-' || r == '−') && !touching(i) && i+n < len(s) && s[i+n] >= '0' && s[i+n] <= '9' && !betweenNumbers(out, s, i+n):
			add(token{kind: sign, from: i, to: i + n}) // below zero
			i += n
		case strings.ContainsRune(",;()!?…", r), r == '.', (r == '-' || r == '–' || r == '—') && !betweenNumbers(out, s, i+n):
			add(token{kind: separator, from: i, to: i + n})
			i += n
		default:
			add(token{kind: sign, from: i, to: i + n})
			if r == '–' || r == '—' {
				out[len(out)-1].text = "-"
			}
			i += n
		}
	}
	return out
}

func isLetterAt(s string, i int) bool {
	r, _ := utf8.DecodeRuneInString(s[i:])
	return unicode.IsLetter(r)
}

func isSpaceAt(s string, i int) bool {
	r, _ := utf8.DecodeRuneInString(s[i:])
	return unicode.IsSpace(r)
}

// betweenNumbers reports whether a dash stands between two numbers, or a length and a number: 5-10, 2 min – 3 min.
func betweenNumbers(before []token, s string, next int) bool {
	if len(before) == 0 || before[len(before)-1].kind == separator {
		return false
	}
	for next < len(s) && isSpaceAt(s, next) {
		_, n := utf8.DecodeRuneInString(s[next:])
		next += n
	}
	if next >= len(s) {
		return false
	}
	r, _ := utf8.DecodeRuneInString(s[next:])
	last := before[len(before)-1]
	_, unit := units[last.text]
	return (r >= '0' && r <= '9' || vulgar[r] != 0) && (last.kind != word || unit || last.text == "°" || last.text == "c" || last.text == "f")
}

// lexNumber reads 12, 1.5, 1,5, 1/2, 1 1/2, 1½, ½, and lengths as a clock shows them: 1:30.
func lexNumber(s string, from int) token {
	digits := func(i int) int {
		for i < len(s) && s[i] >= '0' && s[i] <= '9' {
			i++
		}
		return i
	}
	i := digits(from)
	t := token{kind: numeral, from: from}
	if i+2 < len(s) && s[i] == ':' && i > from && i-from <= 3 && s[i+1] >= '0' && s[i+1] <= '5' && digits(i+1) == i+3 {
		minutes, _ := strconv.Atoi(s[from:i])
		seconds, _ := strconv.Atoi(s[i+1 : i+3])
		t.kind, t.value, t.to = clockLength, float64(60*minutes+seconds), i+3
		return t
	}
	if i > from {
		whole, _ := strconv.ParseFloat(s[from:i], 64)
		t.value, t.to = whole, i
		switch {
		case i+1 < len(s) && (s[i] == '.' || s[i] == ',') && digits(i+1) > i+1 && !(s[i] == ',' && digits(i+1)-i-1 == 3):
			t.to = digits(i + 1)
			t.value, _ = strconv.ParseFloat(strings.Replace(s[from:t.to], ",", ".", 1), 64)
			return t
		case i < len(s) && s[i] == '/' && digits(i+1) > i+1:
			if low, _ := strconv.ParseFloat(s[i+1:digits(i+1)], 64); low > whole { // 58/2 h is no fraction
				t.value, t.to = whole/low, digits(i+1)
			}
			return t
		}
		// One and a half may stand in two: 1 1/2, 1 ½.
		j := i
		for j < len(s) && s[j] == ' ' {
			j++
		}
		if k := digits(j); j > i && k > j && k < len(s) && s[k] == '/' && digits(k+1) > k+1 {
			up, _ := strconv.ParseFloat(s[j:k], 64)
			if low, _ := strconv.ParseFloat(s[k+1:digits(k+1)], 64); low > up {
				t.value, t.to = whole+up/low, digits(k+1)
			}
			return t
		}
		i = j
	}
	if i < len(s) {
		if r, n := utf8.DecodeRuneInString(s[i:]); vulgar[r] != 0 {
			t.value, t.to = t.value+vulgar[r], i+n
		}
	}
	return t
}
