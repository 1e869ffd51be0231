package lines

import (
	"strings"

	"jointime/core/kitchen"
	"jointime/core/message"
)

// Guests' wishes and sizes: "well done 2 min more", "5 more for well done", "small 4, medium 5, large 6 to 7 min".

var wishes = []phrase[*kitchen.Step]{
	every("{t} (more|less|longer) (for {text} but for {n} at the ends|for {text})", func(r *reader, s *kitchen.Step, f *found) bool {
		return r.wish(s, f.text["text"], whole(f.length["t"].likely), r.tokensSay(f, "less"), whole(f.number["n"]))
	}),
	every("(add|another) {t} for {text}", func(r *reader, s *kitchen.Step, f *found) bool {
		return wishName(f.text["text"]) && r.wish(s, f.text["text"], whole(f.length["t"].likely), false, 0)
	}),
	every("{n} (more|less) for {text}", func(r *reader, s *kitchen.Step, f *found) bool {
		return wishName(f.text["text"]) && r.wish(s, f.text["text"], whole(f.number["n"]*60), r.tokensSay(f, "less"), 0)
	}),
	every("{t} (more|less|longer) [but for {n} at the ends]", func(r *reader, s *kitchen.Step, f *found) bool {
		from := f.from
		clause := from == r.start || r.tokens[from-1].kind == separator
		for from > r.start && !r.used[from-1] && r.tokens[from-1].kind == word &&
			(wishWords[r.tokens[from-1].text] || clauseWord(r.line, from-1)) {
			from--
		}
		if clause || from == f.from || allLoose(r.tokens[from:f.from]) {
			return false
		}
		for i := from; i < f.from; i++ {
			if r.is(i, "for") || isVerb(r.tokens[i].text) && !wishWords[r.tokens[i].text] {
				return false // so much longer is something done
			}
		}
		ok := r.wish(s, r.said(from, f.from), whole(f.length["t"].likely), r.tokensSay(f, "less"), whole(f.number["n"]))
		if ok {
			r.take(from, f.from)
		}
		return ok
	}),
}

func allLoose(list []token) bool {
	for i := range list {
		if !loose[list[i].text] && list[i].text != "if" && list[i].text != "needed" {
			return false
		}
	}
	return true
}

// clauseWord reports whether a token is one of at most three words that have a clause to themselves up to it.
func clauseWord(l *line, i int) bool {
	for back := 1; back <= 3; back++ {
		if i-back < 0 || l.tokens[i-back].kind == separator {
			return i-back >= 0
		}
		if l.tokens[i-back].kind != word || l.used[i-back] {
			return false
		}
	}
	return false
}

func (r *reader) tokensSay(f *found, w string) bool {
	for i := f.from; i < f.to; i++ {
		if r.tokens[i].text == w {
			return true
		}
	}
	return false
}

func wishName(s string) bool {
	for _, w := range strings.Fields(strings.ToLower(s)) {
		if !wishWords[w] && w != "ones" && w != "portions" && w != "a" {
			return false
		}
	}
	return s != ""
}

func (r *reader) wish(s *kitchen.Step, name string, seconds int, less bool, ends int) bool {
	name = strings.ToLower(strings.TrimSpace(name))
	said := message.Of("line.longer", "wish", name, "long", message.Length(seconds))
	if less {
		said = message.Of("line.less-long", "wish", name, "long", message.Length(seconds))
		seconds = -seconds
	}
	s.Doneness = append(s.Doneness, kitchen.Doneness{Name: name, Seconds: seconds, Ends: ends})
	r.saw(said)
	return true
}

// oneSize is a size or a doneness with its own time.
type oneSize struct {
	name     string
	time     span
	unit     bool
	from, to int
}

// sizes reads a list of sizes, each with its time, whose unit may stand at the last: the medium one is the step's time, the others are so
// much more or less.
func (r *reader) sizes(s *kitchen.Step) {
	var list []oneSize
	for i := r.start; i < len(r.tokens); {
		one, ok := r.oneSize(i)
		if !ok {
			i++
			continue
		}
		list = append(list, one)
		i = one.to
	}
	if len(list) < 2 {
		return
	}
	unit := 1.0
	for _, one := range list {
		if one.unit {
			unit = 0
		}
	}
	if unit != 0 {
		return // no unit anywhere: not times
	}
	base := 0
	for i, one := range list {
		if one.name == "medium" || one.name == "medium rare" && list[base].name != "medium" {
			base = i
		}
	}
	s.Time.Fixed = list[base].time.estimate()
	r.saw(message.Of("line.time-for", "what", list[base].name, "long", message.Length(s.Time.Fixed.Likely)))
	for i, one := range list {
		r.take(one.from, one.to)
		if i != base {
			d := whole(one.time.likely) - s.Time.Fixed.Likely
			r.wish(s, one.name, max(d, -d), d < 0, 0)
		}
	}
	r.sized = true
}

func (r *reader) oneSize(i int) (one oneSize, ok bool) {
	if !r.is(i, "small", "medium", "large", "thin", "thick", "rare", "blue", "well", "big", "little", "pink") {
		return one, false
	}
	to := i + 1
	if r.are(i, "medium", "rare") || r.are(i, "medium", "well") || r.are(i, "well", "done") {
		to++
	}
	if r.is(i, "well") && to == i+1 {
		return one, false
	}
	one = oneSize{name: strings.ToLower(r.said(i, to)), from: i}
	if r.is(to, "ones", ":") {
		to++
	}
	if t, n := r.length(to); n > 0 {
		if r.is(to+n, "more", "less", "longer") {
			return one, false
		}
		one.time, one.unit, one.to = t, true, to+n
		return one, true
	}
	// A bare number: its unit stands at the last of the list, and is minutes.
	t := r.at(to)
	if t.kind != numeral {
		return one, false
	}
	one.time, one.to = exactly(t.value*60), to+1
	if b := r.at(to + 2); r.is(to+1, "to", "-", "or") && b.kind == numeral {
		one.time, one.to = span{t.value * 60, (t.value + b.value) * 30, b.value * 60, true}, to+3
	}
	if r.endsClause(one.to) || r.is(one.to, "and") {
		return one, true
	}
	return one, false
}
