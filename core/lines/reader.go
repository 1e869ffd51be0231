package lines

import (
	"math"
	"slices"
	"strings"

	"jointime/core/kitchen"
	"jointime/core/message"
)

// line is one line in tokens, and which of them something has taken.
type line struct {
	raw    string
	tokens []token
	used   []bool
	start  int // the first token that is read: after a name with a colon
}

func newLine(s string) *line {
	t := withMinutes(lex(s))
	return &line{raw: s, tokens: t, used: make([]bool, len(t))}
}

// reader reads one line.
type reader struct {
	*line
	known      *Known
	understood []message.Message
	assumed    []Assumption
	unsure     *message.Message
	saidEnds   bool // the line says how long the hands are at the ends
	saidHands  bool
	looseHands bool    // it says the hands at the ends or inside, not what is between: that goes by where it is done
	noPlace    bool    // it says that it takes no equipment
	bounds     *span   // from 3 min to 5 min, around the likely time
	heat       *warmth // said apart from what it is the heat of
	heatFrom   int
	heatTo     int
	turnAt     int
	placeAt    int    // where in the line its equipment stands, 0 where it was not said
	does       string // the verb that says what is done, "" for none
	lateVerb   bool   // that verb stands in a clause behind the first time: the time may be of something else
	waiting    bool   // the line is a wait
	notYetS    int
	tooFar     string
	sides      int
	sized      bool // its time is that of a size
	preheatS   int
	meanwhile  bool // it goes on beside the step above, or beside one that it names
	besideStep string
	first      bool     // nothing comes before it
	kept       [][2]int // tokens that were heard, and stay in the name
}

func (r *reader) saw(m message.Message) { r.understood = append(r.understood, m) }

func (r *reader) doubt(m message.Message) {
	if r.unsure == nil {
		r.unsure = &m
	}
}

func (r *reader) assume(said message.Message, instead ...string) {
	r.assumed = append(r.assumed, Assumption{said, instead})
}

// phrase is a pattern and what it means. once takes the last place where it stands, otherwise every one. do says whether it was meant.
type phrase[T any] struct {
	pattern []node
	once    bool
	do      func(r *reader, x T, f *found) bool
}

func every[T any](p string, do func(r *reader, x T, f *found) bool) phrase[T] {
	return phrase[T]{pattern(p), false, do}
}

func once[T any](p string, do func(r *reader, x T, f *found)) phrase[T] {
	return phrase[T]{pattern(p), true, func(r *reader, x T, f *found) bool { do(r, x, f); return true }}
}

func read[T any](r *reader, x T, list []phrase[T]) {
	for i := range list {
		p := &list[i]
		if !p.once {
			r.all(p.pattern, func(f *found) bool { return p.do(r, x, f) })
			continue
		}
		if f, ok := r.last(p.pattern); ok {
			p.do(r, x, &f)
		}
	}
}

func whole(s float64) int { return int(math.Round(s)) }

func (s span) estimate() kitchen.Estimate {
	return kitchen.Estimate{Low: whole(s.low), Likely: whole(s.likely), High: whole(s.high)}
}

func plus(a, b span) span {
	return span{a.low + b.low, a.likely + b.likely, a.high + b.high, a.ranged || b.ranged}
}

func (s span) times(n float64) span { return span{s.low * n, s.likely * n, s.high * n, s.ranged} }

// endsClause reports whether a clause ends before token i.
func (l *line) endsClause(i int) bool { return i >= len(l.tokens) || l.tokens[i].kind == separator }

// name is what nothing has taken: runs of words, with what only tied them to something taken left away.
func (r *reader) name() string {
	if r.start > 0 {
		head := strings.TrimSpace(r.raw[:r.tokens[r.start-1].from])
		if rest := r.left(r.start); rest != "" {
			return head + ", " + rest
		}
		return head
	}
	if left := r.left(0); left != "" {
		return left
	}
	if r.sized {
		return "by size"
	}
	// All of it was understood: it is called after what is done, or what it is done on.
	for i := range r.tokens {
		if isVerb(r.tokens[i].text) {
			return r.said(i, i+1)
		}
	}
	for i := range r.tokens {
		if _, _, n := r.free(i); n > 0 {
			return r.said(i, i+n)
		}
	}
	for i := range r.tokens {
		if r.tokens[i].kind == word && !loose[r.tokens[i].text] {
			return r.said(i, i+1)
		}
	}
	return strings.TrimSpace(r.raw)
}

func (r *reader) left(from int) string {
	var clauses []string
	var clause []string
	flush := func() {
		if len(clause) > 0 {
			clauses = append(clauses, strings.Join(clause, " "))
		}
		clause = nil
	}
	for i := from; i < len(r.tokens); {
		if r.tokens[i].kind == separator {
			flush()
			i++
			continue
		}
		if r.used[i] {
			i++
			continue
		}
		to := i
		for to < len(r.tokens) && !r.used[to] && r.tokens[to].kind != separator {
			to++
		}
		a, b := i, to
		// A preposition before something taken, or after it, tied the two.
		if b < len(r.tokens) && r.used[b] {
			for b > a && loose[r.tokens[b-1].text] {
				b--
			}
		}
		joined := false
		if a > from && r.used[a-1] {
			joined = r.tokens[a].text == "then" || r.tokens[a].text == "and"
			for a < b && (tying[r.tokens[a].text] || r.tokens[a].kind == sign) {
				a++
			}
		}
		if b == to { // at the very end of a clause nothing is tied any more
			for b > a && (r.tokens[b-1].text == "and" || r.tokens[b-1].text == "then" || r.tokens[b-1].text == "for") {
				b--
			}
		}
		if a < b && (a > 0 || i == 0) && (r.tokens[a].text == "then" || r.tokens[a].text == "and") && b-a > 1 && len(clause)+len(clauses) > 0 {
			a++
		}
		if joined && a < b {
			flush()
		}
		if a < b {
			clause = append(clause, r.said(a, b))
		}
		i = to
	}
	flush()
	return strings.Join(clauses, ", ")
}

// leftOver marks what looks like a time, a heat, a number or a wait and was left in the name, and says what to write instead.
func (r *reader) leftOver() {
	for i := r.start; i < len(r.tokens); i++ {
		t := &r.tokens[i]
		if r.used[i] || t.kind == separator || t.glued || r.heard(i) {
			continue
		}
		if next := r.at(i + 1); next.glued && (next.text == "st" || next.text == "nd" || next.text == "rd" || next.text == "th") {
			continue // the 1st fry
		}
		switch {
		case t.kind == numeral && i+1 < len(r.tokens) && amountUnits[r.tokens[i+1].text]:
			r.doubt(message.Of("line.left-amount", "text", r.around(i)))
		case r.beforeWhat(i):
			r.doubt(message.Of("line.left-wait", "text", r.around(i)))
		case t.kind == clockLength, t.kind == numeral:
			r.doubt(message.Of("line.left-number", "text", r.around(i)))
		case heatUnits[t.text] && len(t.text) > 2 || t.text == "°":
			r.doubt(message.Of("line.left-heat", "text", r.around(i)))
		case waitWords[t.text]:
			r.doubt(message.Of("line.left-wait", "text", r.around(i)))
		case timeWords[t.text]:
			r.doubt(message.Of("line.left-time", "text", r.around(i)))
		}
	}
}

// beforeWhat reports whether a length stands at i with nothing but "before" behind it.
func (r *reader) beforeWhat(i int) bool {
	_, n := r.plain(i)
	return n > 0 && r.is(i+n, "before", "ahead", "beforehand")
}

// around is a token with its neighbours, as it was typed.
func (r *reader) around(i int) string {
	from, to := i, i+1
	if from > 0 && r.tokens[from-1].kind != separator {
		from--
	}
	if to < len(r.tokens) && r.tokens[to].kind != separator {
		to++
	}
	return r.said(from, to)
}

// hasWord reports whether one of some words stands in the line, whoever took it.
func (l *line) hasWord(list ...string) bool {
	return slices.ContainsFunc(l.tokens, func(t token) bool { return t.kind == word && slices.Contains(list, t.text) })
}

// heard reports whether a token stays in the name and was understood all the same.
func (r *reader) heard(i int) bool {
	return slices.ContainsFunc(r.kept, func(k [2]int) bool { return i >= k[0] && i < k[1] })
}
