package lines

import (
	"strings"

	"jointime/core/kitchen"
	"jointime/core/message"
)

// What a line is: a wait, something never to do, a step; and where its name ends.

// isWait reports whether a line is a wait: it begins with a verb of waiting and neither says hands nor where, that is not a place to wait.
func (r *reader) isWait() bool {
	first := 0
	for r.is(first, "then", "and", "now", "cover", "covered", "loosely") && first < 3 {
		first++
	}
	t := r.at(first)
	if r.waitsBy(first) {
		return true
	}
	if t.kind != word || !waitVerbs[t.text] {
		return false
	}
	if r.saysHands() {
		return false
	}
	if t.text == "dry" && r.is(first+1, "fry", "roast", "toast") {
		return false
	}
	switch t.text {
	case "serve", "straight", "immediately", "best", "as", "within", "up", "good", "no", "not", "use", "at", "may", "can", "will":
		return r.waitish(first)
	case "temper":
		return r.is(first+1, "out", "at", "for", "on") || r.hasLength() && r.at(first+1).kind != word
	case "freeze", "brine", "proof", "cure", "dry", "soak", "set", "prove", "infuse", "marinate", "steep", "macerate", "hang", "chill",
		"cool", "refrigerate":
		// "set the table", "dry the skin, salt": something is done there.
		if r.both(first) {
			return false
		}
	case "keep", "leave", "let", "hold", "stand", "rest", "allow":
	}
	return true
}

// waitsBy reports whether a line says of the thing itself that it waits, with how long: the hollandaise holds an hour.
func (r *reader) waitsBy(first int) bool {
	for i := first; i < min(len(r.tokens), first+5) && r.tokens[i].kind == word; i++ {
		if i > first && (waitsItself[r.tokens[i].text] && !r.is(i-1, "it", "which", "that") || r.pluralWaits(i)) {
			if !r.hasLength() || r.saysHands() {
				return false
			}
			r.take(first, i)
			if r.is(i, "keep", "hold", "last") { // the same as of one thing: that is how long at the most
				r.tokens[i].text += "s"
			}
			return true
		}
		if isVerb(r.tokens[i].text) && !r.nominal(i) && !(i+1 < len(r.tokens) && waitsItself[r.tokens[i+1].text]) {
			return false // something is done first; but the roast rests
		}
	}
	return false
}

// pluralWaits reports whether things in the plural wait at token i: cheeks keep 3 days.
func (r *reader) pluralWaits(i int) bool {
	if !waitsItself[r.tokens[i].text+"s"] || !strings.HasSuffix(r.tokens[i-1].text, "s") || isVerb(r.tokens[i-1].text) {
		return false
	}
	k := i + 1
	for r.is(k, "for", "up", "to", "at", "most", "no", "more", "than", "longer", "well", "another", "a", "about") && !r.timed(k, k+1) {
		k++
	}
	_, n := r.length(k)
	return n > 0
}

// waitish reports whether a line that begins with a word of many meanings is a wait.
func (r *reader) waitish(i int) bool {
	for _, p := range waitBegins {
		if _, ok := r.find(p, i); ok {
			return true
		}
	}
	return false
}

var waitBegins = [][]node{pattern("serve (at once|straight away|immediately|right away|within)"), pattern("straight (away|to the plate)"),
	pattern("immediately"),
	pattern("best [within|for|after] {t}"), pattern("within {t}"), pattern("up to {t}"), pattern("good for {t}"), pattern("as long as"),
	pattern("(no|not) (longer|more) than"),
	pattern("no (limit|waiting)"), pattern("use within"), pattern("at (once|most|least)"),
	pattern("(may|can|will) (wait|stand|rest|hold|keep)")}

// saysHands tells a step that happens to begin with a word of waiting ("rest cold overnight, nobody") from a wait.
func (r *reader) saysHands() bool {
	for i := range throughout {
		if _, ok := r.findAnywhere(throughout[i].pattern); ok {
			return true
		}
	}
	return false
}

// both reports whether the line also does something with the hands: another verb of them stands in it.
func (r *reader) both(first int) bool {
	for i := first + 1; i < len(r.tokens); i++ {
		if r.is(i, "until", "till", "to", "before") {
			return false
		}
		t := &r.tokens[i]
		if d, ok := verbs[t.text]; ok && t.kind == word && d.hands == kitchen.Both && !r.nominal(i) && r.tokens[i-1].kind == separator {
			return true
		}
	}
	return false
}

// named finds a name that ends with a colon: it is taken as it stands.
func (r *reader) named() {
	for i := 1; i < len(r.tokens); i++ {
		if r.tokens[i].kind == sign && r.tokens[i].text == ":" && (i+1 == len(r.tokens) || r.tokens[i+1].from > r.tokens[i].to) {
			r.start = i + 1
			return
		}
	}
}

// waitBehind cuts off a wait that stands behind a step in its line: "roast 20 min at 200, rest 10 min".
func (r *reader) waitBehind() *reader {
	for i := max(r.start, 1); i+1 < len(r.tokens); i++ {
		if r.tokens[i].kind != separator && r.tokens[i].text != "then" && r.tokens[i].text != "and" {
			continue
		}
		k := i + 1
		for r.is(k, "then", "and") {
			k++
		}
		if r.afterWhose(k) {
			continue
		}
		if _, n := r.plain(k); n > 0 && r.are(k+n, "off", "the", "heat") { // 14 min, then 10 min off the heat
			tail := &reader{line: newLine("rest " + r.raw[r.tokens[k].from:]), known: r.known}
			r.cut(i)
			return tail
		}
		if f, ok := r.find(intoCold, k); ok && !r.timed(k, f.to) { // then the freezer for 2 h
			tail := &reader{line: newLine("rest in the " + r.raw[r.tokens[f.to-1].from:]), known: r.known}
			if tail.hasLength() && !tail.saysHands() {
				r.cut(i)
				return tail
			}
		}
		limits := r.are(k, "at", "most") || r.are(k, "no", "longer") || r.are(k, "no", "more") || r.are(k, "may", "wait")
		if !limits && !r.is(k, "rest", "stand", "leave", "let", "hold", "cool", "keep", "serve", "keeps", "holds", "may", "can", "best",
			"will", "wait", "freeze", "chill", "set", "prove", "proof", "soak", "marinate", "infuse", "cure", "sit") {
			continue
		}
		if r.tokens[i].kind != separator && (limits || !r.is(k, "rest", "leave", "let", "stand", "serve", "hold",
			"cool") && r.tokens[i].text != "then") {
			continue
		}
		from := r.tokens[k].from
		tail := &reader{line: newLine(r.raw[from:]), known: r.known}
		if !tail.isWait() || !tail.hasLength() && !tail.is(0, "serve", "rest", "leave", "let", "stand", "cool") && !tail.keptWhere() ||
			r.saysHandsFrom(k) {
			continue
		}
		r.cut(i)
		return tail
	}
	return nil
}

var intoCold = pattern("[in|into] [the] (freezer|fridge|walk in)")

// keptWhere reports whether a wait without a length says where: hold it warm, keep in the fridge.
func (r *reader) keptWhere() bool {
	_, ok := r.find(keptPlace, 0)
	return ok
}

var keptPlace = pattern("(keep|hold) [it|them] (warm|hot|cold|chilled|in the fridge|in the warm|on the pass|in the holding)")

// cut ends the line before token i.
func (r *reader) cut(i int) {
	r.raw = strings.TrimRight(r.raw[:r.tokens[i].from], " ")
	r.tokens, r.used = r.tokens[:i], r.used[:i]
}

// afterWhose reports whether the clause from token i on says what it comes after: its lengths are of the wait before the step.
func (r *reader) afterWhose(i int) bool {
	for ; i < len(r.tokens) && r.tokens[i].kind != separator; i++ {
		if r.is(i, "after") && r.is(i+1, "the") || r.is(i, "of") {
			return true
		}
	}
	return false
}

func (r *reader) hasLength() bool {
	for i := range r.tokens {
		if _, n := r.length(i); n > 0 {
			return true
		}
	}
	return false
}

// saysHandsFrom reports whether hands are said behind a token: then it is all one step.
func (r *reader) saysHandsFrom(i int) bool {
	rest := &reader{line: newLine(r.raw[r.tokens[i].from:]), known: r.known}
	return rest.saysHands()
}

// stepBehind cuts off what is done after a wait in the same line, with a time of its own: it wants a line of its own, and is marked.
func (r *reader) stepBehind() {
	for i := 1; i+1 < len(r.tokens); i++ {
		if r.tokens[i].text != "then" && r.tokens[i].kind != separator {
			continue
		}
		k := i + 1
		for r.is(k, "then", "and") {
			k++
		}
		if k >= len(r.tokens) || !isVerb(r.tokens[k].text) || waitVerbs[r.tokens[k].text] {
			continue
		}
		tail := &reader{line: newLine(r.raw[r.tokens[k].from:]), known: r.known}
		if !tail.hasLength() || tail.hasWord("every") {
			continue
		}
		r.doubt(message.Of("line.own-line", "text", tail.raw))
		r.cut(i)
		return
	}
}

// general are verbs that say neither where nor how.
var general = set("cook finish turn add put heat warm bring")

// twoSteps marks a line in which something else is done for a time of its own, elsewhere or by other hands: it wants a line of its own,
// since one step is in one place.
func (r *reader) twoSteps(s *kitchen.Step, d doing, verb string) {
	timed := false
	if r.placeAt > 0 && s.Equipment != nil && d.on != "" && d.on != s.Equipment.Kind && !general[verb] && r.goesOn(r.placeAt) {
		r.doubt(message.Of("line.own-line", "text", r.said(r.placeAt, len(r.tokens))))
		return
	}
	for i := r.start; i < len(r.tokens); i++ {
		if _, n := r.plain(i); n > 0 {
			timed = true
			i += n - 1
			continue
		}
		other, ok := verbs[r.at(i).text]
		if !timed || !ok || r.at(i).kind != word || r.nominal(i) || general[r.at(i).text] || general[verb] || r.tokens[i-1].kind != separator &&
			!r.used[i-1] && !r.is(i-1, "then", "and") {
			continue
		}
		to := i
		for to < len(r.tokens) && r.tokens[to].kind != separator {
			to++
		}
		elsewhere := other.on != d.on || other.hands != d.hands
		for k := i; k < to; k++ {
			elsewhere = elsewhere || r.tokens[k].text == "covered" || r.tokens[k].text == "bowl"
		}
		if verb != "" && elsewhere && r.timed(i, to) {
			r.doubt(message.Of("line.own-line", "text", r.said(i, to)))
			return
		}
	}
}

// goesOn reports whether what stands at token i comes after something that has had its time: 3 min a side, then 5 min in the oven.
func (r *reader) goesOn(i int) bool {
	from := i
	for from > r.start && r.tokens[from-1].kind != separator && r.tokens[from-1].text != "then" {
		from--
	}
	if from == r.start || !r.timed(r.start, from) {
		return false
	}
	to := i
	for to < len(r.tokens) && r.tokens[to].kind != separator {
		to++
	}
	return r.timed(from, to) || r.tokens[i].text == "into" || r.is(from, "straight", "back")
}

// whereNot marks a line that says neither what is done nor where, or does something that is done in many places: the hands and the bench
// are only a guess there.
func (r *reader) whereNot(s *kitchen.Step) {
	if s.Equipment != nil || r.noPlace || r.saidHands || r.looseHands || r.saidEnds || r.tool() ||
		len(s.TakesOut)+len(s.PutsIn) > 0 && r.longest() <= 120 {
		return
	}
	switch r.does {
	default:
		if r.lateVerb && !r.hasWord(byHand...) {
			r.doubt(message.Of("line.where"))
		}
	case "":
		if !r.hasWord(byHand...) {
			r.doubt(message.Of("line.where"))
		}
	case "finish", "smoke":
		r.doubt(message.Of("line.where"))
	case "bring":
		if s.Hands != kitchen.None {
			r.doubt(message.Of("line.where"))
		}
	}
}

// never reports whether a line says what is never done.
func (r *reader) never() bool {
	_, ok := r.find(neverLine, 0)
	return ok
}

var neverLine = pattern("never {text}")

// neverSaid is what is never done, and why.
func (r *reader) neverSaid() kitchen.Never {
	text := strings.TrimSpace(r.raw[r.tokens[0].to:])
	what, why, _ := cutAny(text, ", because ", " because ", ": ", ", since ", " since ")
	r.take(0, len(r.tokens))
	r.saw(message.Of("line.never", "what", what))
	if why == "" {
		r.doubt(message.Of("line.why-never"))
	}
	return kitchen.Never{What: strings.TrimSpace(what), Because: strings.TrimSpace(why)}
}

func cutAny(s string, list ...string) (before, after string, ok bool) {
	for _, sep := range list {
		if before, after, ok = strings.Cut(s, sep); ok {
			return before, after, true
		}
	}
	return s, "", false
}
