package lines

import (
	"slices"

	"jointime/core/kitchen"
	"jointime/core/message"
)

// Lines that say more than one line can hold: they are marked, since the part that is lost would be lost in silence.

// Bare heats are round numbers of an oven or a fryer: common practice, no source.
const (
	coolestBare, hottestOven = 110, 280
	bareStep                 = 5
)

// bareHeat takes a number that can only be a heat: one of an oven, beside a length of time or a verb of the oven. "bake 190 for 9 min".
func (r *reader) bareHeat() {
	for i := r.start; i < len(r.tokens); i++ {
		t := r.at(i)
		if t.kind != numeral || t.glued || t.value < coolestBare || t.value > hottestOven || int(t.value)%bareStep != 0 || r.heard(i) ||
			r.counts(i+1) {
			continue
		}
		if _, n := r.length(i); n > 0 {
			continue
		}
		k := i + 1
		if r.is(k, "for") {
			k++
		}
		_, n := r.plain(k)
		heated := i > r.start && r.is(i-1, "bake", "roast", "fry", "oven", "fryer", "deep-fry", "braise", "flash", "reheat", "confit", "into")
		timed := i > r.start && r.is(i-1, "min", "mins", "minutes", "hour", "hours", "h", "hr", "hrs")
		if n > 0 || heated && r.endsClause(k) || timed && r.endsClause(i+1) {
			w := warmth{low: t.value, high: t.value}
			r.heat, r.heatFrom, r.heatTo = &w, i, i+1
			return
		}
	}
}

// timedClause is a clause with a time of its own; waits that it waits, verb what it does, hot that
// it says how hot or where.
type timedClause struct {
	from, to   int
	since      int // where the clause before it with a time ends
	waits, hot bool
	verb       string
}

func (r *reader) timedClauses() (out []timedClause) {
	since := r.start
	for i := r.start; i < len(r.tokens); {
		to := i
		for to < len(r.tokens) && r.tokens[to].kind != separator && !(to > i && r.tokens[to].text == "then") {
			to++
		}
		if _, bounds := r.find(fromTo, i); !bounds && to > i && r.timed(i, to) {
			c := timedClause{from: i, to: to, since: r.start, hot: r.heatIn(i, to)}
			if len(out) > 0 {
				c.since = since
			}
			for k := c.since; k < to; k++ {
				w := r.tokens[k].text
				if r.tokens[k].kind != word {
					continue
				}
				c.waits = c.waits || waitsItself[w+"s"] || waitsItself[w] || waited[w] || w == "set" || w == "prove" ||
					w == "ice" && k == i && r.is(k+1, "bath", "water")
				if c.verb == "" && isVerb(w) && !r.nominal(k) {
					c.verb = w
				}
				c.waits = c.waits || w == "overnight" && c.verb != ""
			}
			out = append(out, c)
			since = to + 1
			if to < len(r.tokens) && r.tokens[to].kind != separator {
				since = to
			}
		}
		i = max(to, i+1)
		if i < len(r.tokens) && r.tokens[i].kind == separator {
			i++
		}
	}
	return out
}

// heatIn reports whether how hot it is, or where it is done, stands among tokens.
func (r *reader) heatIn(from, to int) bool {
	if r.placeAt >= from && r.placeAt < to && r.placeAt > 0 {
		return true
	}
	return r.heatTo > 0 && r.heatFrom >= from && r.heatFrom < to
}

// byHandOnly reports whether a verb is done by both hands on no equipment, and is not one of what is done inside a step.
func byHandOnly(verb string) bool {
	_, touch := touchWords[verb]
	return !touch && verbs[verb].on == "" && verbs[verb].hands == kitchen.Both
}

// goesOnThere reports whether a later clause with a time goes on with what the first does: another side, so much more, a verb of the same
// place.
func (r *reader) goesOnThere(c, first *timedClause) bool {
	alone := c.since == c.from
	for i := c.since; i < c.to; i++ {
		w := r.tokens[i].text
		if _, touch := touchWords[w]; touch || sameStill[w] {
			return true
		}
		if _, per := r.find(eachOne, i); per && c.verb == "" && !c.hot {
			return true
		}
		if _, n := r.length(i); n > 0 {
			i += n - 1
		} else if r.tokens[i].kind == word && w != "then" && w != "and" {
			alone = false
		}
	}
	if alone {
		return true
	}
	return c.verb != "" && (first.verb == "" && !c.hot && verbs[c.verb].on != "" || general[c.verb] || general[first.verb] ||
		verbs[c.verb].on == verbs[first.verb].on)
}

// moved reports whether the line says among tokens that something goes somewhere else.
func (r *reader) moved(from, to int) bool {
	for i := from; i < to; i++ {
		if w := r.tokens[i].text; w == "into" || w == "then" || w == "back" {
			return true
		}
	}
	return false
}

// manyTimes marks a line of two times where the one is a wait, as in "infuse 30 min, cook 10 min", or where only one is said to be hot or
// somewhere, and the other does something else: they cannot both be in one place.
func (r *reader) manyTimes() {
	timed := r.timedClauses()
	if len(timed) < 2 {
		return
	}
	for i, c := range timed {
		elsewhere := false
		for k, other := range timed {
			elsewhere = elsewhere || k != i && other.hot && !c.hot && c.verb != "" && c.verb != other.verb &&
				(other.verb != "" || r.moved(c.to, other.to) || byHandOnly(c.verb) && !r.hasWord("slow", "fast", "speed"))
		}
		if c.waits || elsewhere || i > 0 && !r.goesOnThere(&c, &timed[0]) {
			r.doubt(message.Of("line.own-line", "text", r.said(c.from, c.to)))
			return
		}
	}
}

// idle marks a step that nobody does and that has no place, when its verb of waiting is not what the line begins with: something else is
// done there that was not understood.
func (r *reader) idle(s *kitchen.Step, d doing, verb string) {
	if verb == "" || d.on != "" || d.hands != kitchen.None || s.Equipment != nil || r.saidHands || r.looseHands || r.noPlace {
		return
	}
	if r.hasWord(overHeat...) {
		r.doubt(message.Of("line.where"))
		return
	}
	at, from := -1, 0
	for i := range r.tokens {
		if r.tokens[i].kind == separator {
			if at >= 0 {
				break
			}
			from = i + 1
		}
		if r.tokens[i].text == verb {
			at = i
		}
	}
	to := at
	for to >= 0 && to < len(r.tokens) && r.tokens[to].kind != separator {
		to++
	}
	if at < r.start || from <= r.start || r.everTimed(from, to) {
		return
	}
	r.doubt(message.Of("line.where"))
}

// everTimed reports whether a length stands among tokens, whoever took it.
func (r *reader) everTimed(from, to int) bool {
	all := &reader{line: &line{raw: r.raw, tokens: r.tokens, used: make([]bool, len(r.tokens))}}
	return all.timed(from, to)
}

// neverBehind cuts off what is never done from the end of a line: "8 min, never stir, because it seizes".
func (r *reader) neverBehind() *kitchen.Never {
	for i := max(r.start, 1); i+1 < len(r.tokens); i++ {
		if r.tokens[i].kind != separator || r.tokens[i+1].text != "never" || r.is(i+2, "leave") {
			continue
		}
		tail := &reader{line: newLine(r.raw[r.tokens[i+1].from:]), known: r.known}
		if !tail.never() {
			return nil
		}
		n := tail.neverSaid()
		r.cut(i)
		r.understood = append(r.understood, tail.understood...)
		if tail.unsure != nil {
			r.doubt(*tail.unsure)
		}
		return &n
	}
	return nil
}

// lasting marks how long something keeps where that is said by no length: keeps till the end of service.
func (r *reader) lasting() {
	for i := r.start; i+1 < len(r.tokens); i++ {
		if r.is(i, "keeps", "holds", "lasts") && (i == r.start || r.tokens[i-1].kind == separator || r.is(i-1, "it")) &&
			r.is(i+1, "till", "until", "for", "all", "through", "the") {
			to := i
			for to < len(r.tokens) && r.tokens[to].kind != separator {
				to++
			}
			if !r.timed(i, to) {
				r.doubt(message.Of("line.left-wait", "text", r.said(i, to)))
				r.cut(max(i-1, 1))
			}
			return
		}
	}
}

// withMinutes puts minutes behind the bare numbers that cooks say for them: simmer 10, rest 6 to 8. They stand at the end of a clause,
// right behind a verb that takes a time.
func withMinutes(tokens []token) []token {
	hours := slices.ContainsFunc(tokens, func(t token) bool { return t.kind == word && units[t.text] >= 3600 })
	for i := 1; i < len(tokens); i++ {
		from := i
		t := &tokens[i]
		if t.kind != numeral || t.glued || t.value < 1 || t.value > mostBareMinutes || tokens[i-1].kind != word ||
			!minuteVerbs[tokens[i-1].text] && (hours || tokens[i-1].text != "every") {
			continue
		}
		if i+2 < len(tokens) && (tokens[i+1].text == "to" || tokens[i+1].text == "-") && tokens[i+2].kind == numeral {
			i += 2
		}
		if i+1 < len(tokens) && tokens[i+1].kind != separator && tokens[i+1].text != "then" && tokens[i+1].text != "each" {
			i = from
			continue
		}
		unit := token{kind: word, text: "min", from: tokens[i].to, to: tokens[i].to}
		tokens = append(tokens[:i+1], append([]token{unit}, tokens[i+1:]...)...)
	}
	return tokens
}

// mostBareMinutes is up to where a bare number behind a verb is minutes: above, it may be a heat.
const mostBareMinutes = 60

// tellMinutes says where a bare number was taken for minutes.
func (r *reader) tellMinutes() {
	for i := range r.tokens {
		if t := &r.tokens[i]; t.from == t.to {
			r.assume(message.Of("line.minutes"))
			return
		}
	}
}
