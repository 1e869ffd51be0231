package lines

import (
	"strconv"
	"strings"

	"jointime/core/kitchen"
	"jointime/core/message"
)

// When something is done: a core, a look, a touch, a taste, a weight, a sound, a smell; what then, when it is not yet, and when it is too
// far.

var kindsOfCheck = []string{"look", "touch", "taste", "weight", "sound", "smell"}

func senseOf(say string) kitchen.CheckKind {
	l := newLine(say)
	for _, k := range []kitchen.CheckKind{"sound", "smell", "taste", "weight", "touch"} {
		if l.hasWord(senseWords[k]...) {
			return k
		}
	}
	return "look"
}

func coreOf(r *reader, s *kitchen.Step, f *found) bool {
	w := f.heat["deg"]
	c := w.low
	k := kitchen.DoneCheck{Kind: "core", TargetC: &c}
	if w.ranged() {
		k.Say = "to " + strconv.FormatFloat(w.high, 'f', -1, 64)
	}
	s.Checks = append(s.Checks, k)
	r.saw(message.Of("line.core", "celsius", c))
	return true
}

// Bare numbers behind "cook to" are the temperature that it reaches, °C, between these: common practice, no source.
const coolestTarget, hottestTarget = 25, 120

// cores are the ways to say the temperature of a core. They come before all else that has degrees.
var cores = []phrase[*kitchen.Step]{
	every("(until|till|to) [a|the] core [temperature] [is|of|reads|reaches|at|hits] {deg}", coreOf),
	every("core [temperature] [is|of|at|to] {deg}", coreOf),
	every("{deg} (core|in the core|at the core|in the middle|in the centre|in the thickest part|on the probe|at the bone)", coreOf),
	every("(until|till) [it|the probe|a probe|the inside] [is|reads|reaches|says|hits|shows|at] {deg}", func(r *reader, s *kitchen.Step,
		f *found) bool {
		return f.heat["deg"].low >= -30 && coreOf(r, s, f)
	}),
	every("probe [to|until|at|for] {deg}", coreOf),
	every("(cook|heat|warm|bring|poach|blend|cool|chill) [it|them|the mix|the base|the milk|the cream] to {n}",
		func(r *reader, s *kitchen.Step, f *found) bool {
			if f.number["n"] < coolestTarget || f.number["n"] > hottestTarget || !r.endsClause(f.to) && !r.is(f.to, "for", "then", "and") {
				return false
			}
			f.heat = with(f.heat, "deg", warmth{low: f.number["n"], high: f.number["n"]})
			r.kept = append(r.kept, [2]int{f.from, f.to})
			coreOf(r, s, f)
			r.take(f.to-2, f.to)
			return false // the verb stays in the name
		}),
	every("to {deg}", func(r *reader, s *kitchen.Step, f *found) bool { // with its unit, and of nothing that is heated to it
		if !r.unitBefore(f.to) {
			return false
		}
		if kind, _, n := r.endingAt(f.from); n > 0 && kind != kitchen.Burner || f.from > r.start && r.is(f.from-1, "heated", "preheated",
			"set", "heat", "preheat") {
			return false
		}
		return coreOf(r, s, f)
	}),
}

func checked(kind kitchen.CheckKind) func(*reader, *kitchen.Step, *found) bool {
	return func(r *reader, s *kitchen.Step, f *found) bool {
		s.Checks = append(s.Checks, kitchen.DoneCheck{Kind: kind, Say: f.text["text"]})
		r.saw(message.Of("line.done-by", "kind", string(kind), "until", f.text["text"]))
		return true
	}
}

// saidChecks name their sense: all of the clause is the condition.
var saidChecks = func() (out []phrase[*kitchen.Step]) {
	for _, k := range kindsOfCheck {
		out = append(out, every("(until|till) "+k+" {text}", checked(kitchen.CheckKind(k))))
	}
	return out
}()

// hotFirst is what is brought to a heat before the step begins: heat the oil to 180.
var hotFirst = []phrase[*kitchen.Step]{
	every("(heat|bring) [the] {id} to {deg} [and|then|,]", func(r *reader, s *kitchen.Step, f *found) bool {
		if f.to >= len(r.tokens) { // that is all the step is
			return false
		}
		say := f.text["id"] + " at " + strconv.FormatFloat(f.heat["deg"].low, 'f', -1, 64) + " °C"
		s.Ready = append(s.Ready, say)
		r.saw(message.Of("line.ready", "text", say))
		return true
	}),
}

// outcomes say what is done when a check says not yet, or too far; they belong to the last check of the line.
var outcomes = []phrase[*kitchen.Step]{
	every("(if not yet|not yet|if not|if not done|otherwise) [,] "+
		"[give it|another|look again after|look again in|check again in|check again after|wait another] {t} [more]",
		func(r *reader, _ *kitchen.Step, f *found) bool {
			r.notYetS = whole(f.length["t"].likely)
			r.saw(message.Of("line.not-yet", "long", message.Length(r.notYetS)))
			return true
		}),
	every("(another {t}|{t} (more|longer)) if {text}", func(r *reader, s *kitchen.Step, f *found) bool {
		if whole(f.length["t"].likely) == 0 {
			return false
		}
		r.notYetS = whole(f.length["t"].likely)
		r.saw(message.Of("line.not-yet", "long", message.Length(r.notYetS)))
		return true
	}),
	every("(if too far|too far|if it goes too far|if gone too far|if it is too far|if overdone) [,|:|then] {text}", func(r *reader,
		_ *kitchen.Step, f *found) bool {
		r.tooFar = f.text["text"]
		r.saw(message.Of("line.too-far", "text", f.text["text"]))
		return true
	}),
	every("[maybe|perhaps] (a few minutes|a minute|a minute or two) more [if needed|if need be|if necessary|if it wants it]",
		func(r *reader, _ *kitchen.Step, f *found) bool {
			r.notYetS = 180
			if !r.tokensSay(f, "few") {
				r.notYetS = 60
			}
			r.saw(message.Of("line.not-yet", "long", message.Length(r.notYetS)))
			return true
		}),
}

// judged gives the outcomes to the last check; where the line names none, it is looked at.
func (r *reader) judged(s *kitchen.Step) {
	if r.notYetS == 0 && r.tooFar == "" {
		return
	}
	if len(s.Checks) == 0 {
		s.Checks = append(s.Checks, kitchen.DoneCheck{Kind: "look", Say: "done"})
	}
	k := &s.Checks[len(s.Checks)-1]
	k.NotYetS, k.TooFar = r.notYetS, r.tooFar
}

// ready are what must be before a step begins.
var ready = []phrase[*kitchen.Step]{
	every("(ready when|begin when|start when|only when|as soon as) {text}", func(r *reader, s *kitchen.Step, f *found) bool {
		s.Ready = append(s.Ready, f.text["text"])
		r.saw(message.Of("line.ready", "text", f.text["text"]))
		return true
	}),
}

// conditions are what ends a step, as cooks say it: until golden, when the skewer goes in, to a syrup. They end where something else
// begins.
func (r *reader) conditions(s *kitchen.Step) {
	for i := r.start; i < len(r.tokens); i++ {
		if !r.is(i, "until", "till") && !(r.is(i, "when", "should", "must", "once") && (i > 0 || r.is(i, "when"))) {
			continue
		}
		to := i + 1
		for to < len(r.tokens) && !r.used[to] && r.tokens[to].kind != separator {
			if to > i+1 && r.stops(to) {
				break
			}
			to++
		}
		for to > i+1 && loose[r.tokens[to-1].text] && r.tokens[to-1].text != "over" && r.tokens[to-1].text != "set" &&
			!(to > i+3 && r.endsClause(to) && r.is(to-1, "in", "on", "into", "under")) { // until it slides in
			to--
		}
		if to == i+1 {
			continue
		}
		say := r.said(i+1, to)
		if r.is(i, "once") && !r.begins(i+1, to) {
			continue
		}
		if r.is(i, "when", "once") && r.begins(i+1, to) {
			s.Ready = append(s.Ready, say)
			r.saw(message.Of("line.ready", "text", say))
			r.take(i, to)
			continue
		}
		s.Checks = append(s.Checks, kitchen.DoneCheck{Kind: senseOf(say), Say: say})
		r.saw(message.Of("line.done-by", "kind", string(senseOf(say)), "until", say))
		r.take(i, to)
		// "4 min or until golden": what tied the two.
		if i > r.start && r.is(i-1, "or", "and") {
			r.take(i-1, i)
		}
	}
	r.amounts(s)
}

// begins reports whether a condition is one of what it is done in, not of what is done: when the pan is hot.
func (r *reader) begins(from, to int) bool {
	if r.is(from, "the") {
		from++
	}
	return from < to && r.is(from, "pan", "oil", "fat", "oven", "grill", "fryer", "plancha", "griddle", "butter", "water", "wok", "pot",
		"coals", "iron") &&
		to > from+1
}

// stops reports whether a length, a heat or a phrase of the hands begins at token i: a condition ends there.
func (r *reader) stops(i int) bool {
	if _, n := r.length(i); n > 0 {
		return true
	}
	if r.is(i, "about", "around", "roughly", "for", "at") {
		if _, n := r.length(i + 1); n > 0 {
			return true
		}
	}
	if r.is(i, "at") {
		if _, n := r.degrees(i+1, true); n > 0 {
			return true
		}
	}
	return r.is(i, "then") || r.are(i, "both", "hands")
}

func (r *reader) amounts(s *kitchen.Step) {
	if !r.hasWord("reduce", "reduced", "boil", "cook") {
		return
	}
	for i := r.start; i+1 < len(r.tokens); i++ {
		var to int
		switch {
		case r.is(i, "by") && r.is(i+1, "half", "two-thirds", "three-quarters"):
			to = i + 2
		case r.is(i, "by") && r.is(i+1, "a", "one", "two", "three") && r.is(i+2, "third", "thirds", "quarter", "quarters", "half"):
			to = i + 3
		case r.is(i, "by") && r.at(i+1).kind == numeral && r.is(i+2, "%", "percent"):
			to = i + 3
		case r.is(i, "to") && r.is(i+1, "a", "an", "one") && r.is(i+2, append(append([]string{}, reductions...), "third", "quarter", "half")...):
			to = i + 3
		case r.is(i, "to") && (r.is(i+1, "half") || r.is(i+1, reductions...)):
			to = i + 2
		default:
			continue
		}
		if to-i == 3 && r.is(to, "glaze") {
			to++
		}
		say := "reduced " + r.said(i, to)
		s.Checks = append(s.Checks, kitchen.DoneCheck{Kind: senseOf(strings.Replace(say, "reduced to", "", 1)), Say: say})
		r.saw(message.Of("line.done-by", "kind", string(s.Checks[len(s.Checks)-1].Kind), "until", say))
		r.kept = append(r.kept, [2]int{i, to})
		i = to
	}
}
