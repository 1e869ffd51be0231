package lines

import (
	"slices"
	"strings"

	"jointime/core/kitchen"
	"jointime/core/message"
)

// What a line says of the hands: at both ends, inside, between; and who does it.

func handsEnds(r *reader, s *kitchen.Step, f *found) {
	r.saidEnds = true
	s.Ends = kitchen.Ends{InS: whole(f.length["in"].likely), InEachS: whole(f.length["in-each"].likely), OutS: whole(f.length["out"].likely),
		OutEachS: whole(f.length["out-each"].likely)}
	r.saw(message.Of("line.ends", "in", message.Length(s.Ends.InS), "out", message.Length(s.Ends.OutS)))
}

// machines do it by themselves while somebody stands by: an eye on it.
var machines = []kitchen.EquipmentKind{kitchen.Mixer, kitchen.Churn}

// byItself is where something goes by itself.
var byItself = []kitchen.EquipmentKind{kitchen.Oven, kitchen.WaterBath, kitchen.Steamer, kitchen.Holding, kitchen.Fridge, kitchen.Freezer,
	kitchen.BlastChiller, kitchen.Dehydrator}

// watchedOver is where something wants an eye, whatever is done.
var watchedOver = []kitchen.EquipmentKind{kitchen.Burner, kitchen.Plancha, kitchen.Grill, kitchen.Fryer, kitchen.Salamander}

// usualTouch is how long something done inside a step takes the hands, where nobody said: common practice, no source.
const usualTouch = 10

// touched takes what is done inside a step: the words in front of when it is. In a clause of its own that is all of it; else it begins with
// a word for what is done inside.
func (r *reader) touched(s *kitchen.Step, f *found, when kitchen.TouchWhen, at, takes int) bool {
	text, from := r.before(f.from)
	alone := from > r.start || r.start > 0
	begins := -1
	for i := f.from - 1; i >= from; i-- {
		if _, ok := touchWords[r.tokens[i].text]; ok {
			begins = i
			break
		}
	}
	if text != "" && (!alone || r.timed(from, f.from)) {
		if begins < 0 {
			return false
		}
		text = r.said(begins, f.from)
		from = begins
	}
	if text == "" {
		return false
	}
	if plain := touchWords[r.tokens[from].text]; plain != "" {
		text = strings.TrimSpace(plain + " " + strings.TrimSpace(r.raw[r.tokens[from].to:r.tokens[f.from-1].to]))
	}
	t := kitchen.Touch{Say: strings.ToLower(text), When: when, AtS: at, Seconds: takes}
	if takes == 0 {
		t.Seconds = usualTouch
		r.assume(message.Of("line.touch-takes", "what", t.Say, "long", message.Length(t.Seconds)))
	}
	s.Touches = append(s.Touches, t)
	r.take(from, f.from)
	said := map[kitchen.TouchWhen]message.Message{kitchen.HalfWay: message.Of("line.when-half"),
		kitchen.Every:     message.Of("line.when-every", "long", message.Length(at)),
		kitchen.After:     message.Of("line.when-after", "long", message.Length(at)),
		kitchen.BeforeEnd: message.Of("line.when-before", "long", message.Length(at))}[when]
	r.saw(message.Of("line.touch", "what", t.Say, "when", said, "long", message.Length(t.Seconds)))
	return true
}

// timed reports whether a length of time stands among tokens.
func (r *reader) timed(from, to int) bool {
	for i := from; i < to; i++ {
		if _, n := r.plain(i); n > 0 {
			return true
		}
	}
	return false
}

func turnedOnce(r *reader, s *kitchen.Step, _ *found) bool {
	s.Touches = append(s.Touches, kitchen.Touch{Say: "turn", When: kitchen.HalfWay, Seconds: usualTouch})
	r.saw(message.Of("line.touch", "what", "turn", "when", message.Of("line.when-half"), "long", message.Length(usualTouch)))
	return true
}

var handsPhrases = []phrase[*kitchen.Step]{
	once("hands {t:in} [(plus|and) {t:in-each} (each|a portion)] to (lay|put|set) [it|them] in [[,] [and] {t:out} [(plus|and) {t:out-each} (each|a portion)] "+
		"to (take|lift) [it|them] out]", handsEnds),
	once("hands {t:out} [(plus|and) {t:out-each} (each|a portion)] to (take|lift) [it|them] out", handsEnds),
	once("no hands to (lay|put|set) in or take out", func(r *reader, s *kitchen.Step, _ *found) {
		r.saidEnds = true
		r.saw(message.Of("line.ends", "in", message.Length(0), "out", message.Length(0)))
	}),
	every("(half way|halfway|half way through|halfway through) [for {t}]", func(r *reader, s *kitchen.Step, f *found) bool {
		return r.touched(s, f, kitchen.HalfWay, 0, whole(f.length["t"].likely))
	}),
	every("every {t:at} for {t}", func(r *reader, s *kitchen.Step, f *found) bool {
		return r.touched(s, f, kitchen.Every, whole(f.length["at"].likely), whole(f.length["t"].likely))
	}),
	every("every {t:at}", func(r *reader, s *kitchen.Step, f *found) bool {
		return r.touched(s, f, kitchen.Every, whole(f.length["at"].likely), 0)
	}),
	every("{t:at} (before the end|from the end) [for {t}]", func(r *reader, s *kitchen.Step, f *found) bool {
		return r.touched(s, f, kitchen.BeforeEnd, whole(f.length["at"].likely), whole(f.length["t"].likely))
	}),
	every("{t:at} (after the start|in) for {t}", func(r *reader, s *kitchen.Step, f *found) bool {
		return r.touched(s, f, kitchen.After, whole(f.length["at"].likely), whole(f.length["t"].likely))
	}),
	every("(turn|flip|stir|baste|toss|shake|skim) [it|them] (at|after) {t:at}", func(r *reader, s *kitchen.Step, f *found) bool {
		t := kitchen.Touch{Say: r.tokens[f.from].text, When: kitchen.After, AtS: whole(f.length["at"].likely), Seconds: usualTouch}
		if f.from > r.start && r.tokens[f.from-1].kind != separator && !r.used[f.from-1] || !r.otherLength(f.from, f.to) {
			return false
		}
		t.Say = touchWords[t.Say]
		s.Touches = append(s.Touches, t)
		r.saw(message.Of("line.touch", "what", t.Say, "when", message.Of("line.when-after", "long", message.Length(t.AtS)), "long",
			message.Length(t.Seconds)))
		return true
	}),
	every("(for|in|during) the last {t:at} [of cooking]", func(r *reader, s *kitchen.Step, f *found) bool {
		at := whole(f.length["at"].likely)
		return r.touched(s, f, kitchen.BeforeEnd, at, min(at, 60))
	}),
	every("(turn|turning|turned|flip|flipping) (once|over once|it once|them once|them over|it over)", turnedOnce),
}

var bothHands = pattern("(both hands|hands on throughout|two hands)")

// throughout are words for how the hands go on between the ends.
var throughout = []phrase[*kitchen.Step]{
	once("(both hands|hands on throughout|two hands)", says(kitchen.Both)),
	once("(stirring|whisking|stir|whisk|tossing|shaking|basting|turning) "+
		"(constantly|continuously|all the time|throughout|without stopping|non stop)", says(kitchen.Both)),
	once("(keep|keep on|while|always) (stirring|whisking|tossing|shaking|basting|beating|moving)", says(kitchen.Both)),
	once("(never leave it|do not leave it|don't leave it|stay with it)", says(kitchen.Tend)),
	once("(with an eye on it|an eye on it|keep an eye on it|keeping an eye on it|a look now and then|"+
		"look now and then|a look now and again|watch it|watching it|watched|tended|tend)",
		says(kitchen.Tend)),
	once("(keep|keeping|with) an eye on", says(kitchen.Tend)),
	once("(stirring|stir|tossing|turning|shaking|basting|skimming) (now and then|now and again|once in a while|every so often|at times|"+
		"occasionally|from time to time|often|frequently|regularly)", says(kitchen.Tend)),
	once("(nobody|by itself|on its own|unattended|hands free|hands off|walk away|leave it alone|no hands|forget it)", says(kitchen.None)),
}

func says(h kitchen.Hands) func(*reader, *kitchen.Step, *found) {
	return func(r *reader, s *kitchen.Step, _ *found) {
		if r.saidHands {
			return
		}
		s.Hands, r.saidHands, r.looseHands = h, true, false
		switch h {
		case kitchen.Both:
			r.saw(message.Of("line.both-hands"))
		case kitchen.Tend:
			r.saw(message.Of("line.tend"))
		default:
			r.saw(message.Of("line.nobody"))
		}
	}
}

// verb is what a line does: the last verb up to its first length of time, else the first. Only the plain form is one: "turning" and
// "sliced" say how something is, not what is done.
func (r *reader) verb() (doing, string) {
	var best doing
	name, plain := "", ""
	bound := len(r.tokens)
	for i := range r.tokens {
		if _, n := r.plain(i); n > 0 && i > 0 {
			bound = i
			break
		}
	}
	for i := 0; i < len(r.tokens); i++ {
		t := &r.tokens[i]
		if t.kind != word || r.used[i] {
			continue
		}
		if t.text == "until" || t.text == "till" || t.text == "if" {
			break
		}
		what, at, compound := t.text, i, false
		if i+1 < len(r.tokens) && r.tokens[i+1].kind == word {
			next := r.tokens[i+1].text
			switch two := t.text + "-" + next; {
			case t.text == "deep" && (next == "fry" || next == "fried"), t.text == "stir" && next == "fry",
				t.text == "pan" && (next == "fry" || next == "roast"), t.text == "shallow" && next == "fry", t.text == "slow" && next == "roast",
				(t.text == "soft" || t.text == "hard") && next == "boil", t.text == "dry" && next == "fry", t.text == "blind" && next == "bake":
				what, compound = two, true
				i++
			case r.tokens[i+1].glued && !isVerb(two) && isVerb(next) && t.text != "off":
				what, compound = next, true // pot-roast, salt-bake
				i++
			}
		}
		if plain == "" && (plainVerbs[t.text] || t.text == "turn" && r.is(i+1, "out")) && !r.nominal(at) {
			plain = t.text
		}
		d, ok := verbs[what]
		if !ok || !compound && r.nominal(at) {
			continue
		}
		if name != "" && i >= bound {
			break
		}
		best, name = d, what
		r.lateVerb = i >= bound && r.apart(bound, i)
	}
	if name == "" && plain == "" {
		if best, name = r.nounVerb(); name == "" {
			best, name = r.participle()
		}
	}
	if name == "" && plain != "" {
		return doing{hands: kitchen.Both}, plain
	}
	return best, name
}

// leftSalted is from what length on salting is standing in salt, and draining is dripping, seconds: common practice, no source.
const leftSalted = 600

// longest is the longest time of the line, seconds.
func (r *reader) longest() int {
	all := &line{raw: r.raw, tokens: r.tokens, used: make([]bool, len(r.tokens))}
	most := 0
	for i := range r.tokens {
		if s, n := all.length(i); n > 0 {
			most = max(most, whole(s.likely))
		}
	}
	return most
}

// lengths is how many times a line says, whoever took them.
func (r *reader) lengths() (count int) {
	all := &line{raw: r.raw, tokens: r.tokens, used: make([]bool, len(r.tokens))}
	for i := r.start; i < len(r.tokens); i++ {
		if _, n := all.length(i); n > 0 {
			count++
			i += n - 1
		}
	}
	return count
}

// apart reports whether a clause ends between two tokens.
func (r *reader) apart(from, to int) bool {
	return slices.ContainsFunc(r.tokens[from:to], func(t token) bool { return t.kind == separator })
}

// nounVerb is a verb that is a thing as well and stands right before its time, where the line has no other: bone marrow roast 12 min.
func (r *reader) nounVerb() (doing, string) {
	for i := max(r.start, 1); i < len(r.tokens); i++ {
		if d, ok := verbs[r.tokens[i].text]; ok && r.tokens[i].kind == word && thingsToo[r.tokens[i].text] && !r.used[i] && (d.on != "" ||
			d.hands == kitchen.None && !r.is(i, "hold", "rest", "press", "set")) &&
			!slices.Contains(negations, r.tokens[i-1].text) {
			if _, n := r.length(i + 1); n > 0 {
				return d, r.tokens[i].text
			}
		}
	}
	return doing{}, ""
}

// participle is a verb in the form of what has been done, before its time or its heat, where the line has no other: salt baked 1 h.
func (r *reader) participle() (doing, string) {
	if r.lengths() > 1 { // nobody knows which of them is of what
		return doing{}, ""
	}
	for i := r.start; i < len(r.tokens); i++ {
		plain, ok := participles[r.tokens[i].text]
		if !ok || r.used[i] {
			continue
		}
		begins := i == r.start || r.tokens[i-1].kind == separator // then it is only how the thing is: roasted garlic
		for k := i + 1; k < len(r.tokens) && r.tokens[k].kind != separator && k <= i+5; k++ {
			_, n := r.length(k)
			if _, at := r.find(atHeat, k); n > 0 || at {
				return verbs[plain], plain
			}
			if begins {
				break
			}
		}
	}
	return doing{}, ""
}

func isVerb(w string) bool { _, ok := verbs[w]; return ok }

// nominal reports whether the verb at i is a thing there: the roast, a bake, in stock, pan skin side.
func (r *reader) nominal(i int) bool {
	begins := i == r.start || i == 0 || r.tokens[i-1].kind == separator || r.used[i-1] || r.tokens[i-1].text == "and" ||
		r.tokens[i-1].text == "then"
	if _, n := r.length(i + 1); r.tokens[i].text == "rice" && n > 0 { // as long as rice takes
		return true
	}
	if begins && r.listed(i) || r.tokens[i].text == "brown" && r.next(i, "crab", "rice", "sugar", "bread", "flour", "meat", "shrimp") {
		return true
	}
	if begins && !r.is(i+1, "side", "down", "up") {
		return false
	}
	if thingsToo[r.tokens[i].text] {
		return true
	}
	before := r.at(i - 1)
	if i > 0 {
		before = &r.tokens[i-1]
	}
	if slices.Contains(negations, before.text) {
		return true
	}
	if before.kind == word && slices.Contains([]string{"the", "a", "an", "its", "of", "with", "on", "in", "from", "for", "skin", "cold",
		"no", "by", "all", "per"}, before.text) {
		return true
	}
	return i+1 < len(r.tokens) && r.tokens[i+1].kind == word && slices.Contains([]string{"side", "bones", "juices", "tray", "flakes"},
		r.tokens[i+1].text)
}

// next reports whether one of some words stands behind token i, whoever took it.
func (r *reader) next(i int, list ...string) bool {
	return i+1 < len(r.tokens) && slices.Contains(list, r.tokens[i+1].text)
}

// listed reports whether token i is one of a list of things, each a clause of one word: butter, sugar, water.
func (r *reader) listed(i int) bool {
	single := func(k int) bool {
		return k >= r.start && k < len(r.tokens) && r.tokens[k].kind == word && (k == r.start || r.tokens[k-1].kind == separator) &&
			(k+1 >= len(r.tokens) || r.tokens[k+1].kind == separator)
	}
	if !thingsToo[r.tokens[i].text] || !single(i) {
		return false
	}
	return single(i+2) && !isVerb(r.tokens[i+2].text) || single(i-2) && !isVerb(r.tokens[i-2].text)
}

// guess takes the hands from the verb and from where it is done, where the line does not say: as assumed.
func (r *reader) guess(s *kitchen.Step, d doing, verb string) {
	if r.looseHands { // it says the hands at the ends or inside: between is an eye, or nobody where it goes by itself
		s.Hands = kitchen.Tend
		if s.Equipment != nil && slices.Contains(byItself, s.Equipment.Kind) {
			s.Hands = kitchen.None
		}
		return
	}
	if r.saidHands {
		return
	}
	by := verb
	switch {
	case verb == "bring" && r.hasWord("room", "temperature"):
		s.Hands = kitchen.None
	case r.hasWord(whisked...) && s.Equipment != nil && s.Equipment.Kind == kitchen.Burner:
		s.Hands = kitchen.Both
	case r.hasWord(watched...) && (!handsOver[verb] || plainVerbs[verb]) && s.Equipment != nil &&
		slices.Contains(watchedOver, s.Equipment.Kind):
		s.Hands = kitchen.Tend
	case s.Equipment != nil && slices.Contains(byItself, s.Equipment.Kind):
		s.Hands, by = kitchen.None, string(s.Equipment.Kind)
	case s.Equipment != nil && slices.Contains(machines, s.Equipment.Kind):
		s.Hands, by = kitchen.Tend, string(s.Equipment.Kind)
	case verb != "" && (!handsOver[verb] || verb == "blanch" && s.Equipment != nil && s.Equipment.Kind == kitchen.Fryer) &&
		s.Equipment != nil && slices.Contains(watchedOver, s.Equipment.Kind):
		s.Hands = kitchen.Tend
	case (verb == "salt" && r.tokens[r.start].text == verb || verb == "drain") && r.longest() >= leftSalted:
		s.Hands = kitchen.None
	case verb != "":
		s.Hands = d.hands
	case s.Equipment != nil && slices.Contains(watchedOver, s.Equipment.Kind):
		s.Hands, by = kitchen.Tend, string(s.Equipment.Kind)
	default:
		s.Hands = kitchen.Both
	}
	words := map[kitchen.Hands]string{kitchen.Both: "both hands", kitchen.Tend: "a look now and then", kitchen.None: "nobody"}
	var instead []string
	for _, h := range []kitchen.Hands{kitchen.Both, kitchen.Tend, kitchen.None} {
		if h != s.Hands {
			instead = append(instead, words[h])
		}
	}
	said := map[kitchen.Hands]message.Message{kitchen.Both: message.Of("line.both-hands"), kitchen.Tend: message.Of("line.tend"),
		kitchen.None: message.Of("line.nobody")}[s.Hands]
	if by == "" {
		r.assume(message.Of("line.assumed-hands", "what", said), instead...)
		return
	}
	r.assume(message.Of("line.assumed-by", "what", said, "by", strings.ReplaceAll(by, "-", " ")), instead...)
}
