package lines

import (
	"slices"
	"strings"

	"jointime/core/kitchen"
	"jointime/core/message"
)

// A step out of a line. The longer phrases are read before the shorter ones that they contain.

func (r *reader) step(of *kitchen.Component, phase kitchen.Phase) kitchen.Step {
	s := kitchen.Step{Phase: phase, Hands: kitchen.Both, After: []kitchen.Predecessor{}, Checks: []kitchen.DoneCheck{},
		Dangers: []kitchen.Danger{}, Doneness: []kitchen.Doneness{}, PutsIn: []string{}, TakesOut: []string{}}
	read(r, &s, saidChecks)
	said := s.Checks
	s.Checks = []kitchen.DoneCheck{}
	read(r, &s, refs)
	read(r, &s, facts)
	if _, both := r.findAnywhere(bothHands); !both { // then they are throughout
		read(r, &s, handsPhrases)
	}
	if len(s.Touches) > 0 || r.saidEnds {
		s.Hands, r.looseHands = kitchen.Tend, true
	}
	read(r, &s, throughout)
	read(r, &s, hotFirst)
	d, verb := r.verb()
	r.does = verb
	r.piece(of, &s)
	read(r, &s, cores)
	cores := s.Checks
	s.Checks = said
	r.sizes(&s)
	read(r, &s, outcomes)
	read(r, &s, wishes)
	read(r, &s, ready)
	read(r, &s, pans)
	r.place(&s, false)
	r.conditions(&s)
	s.Checks = append(s.Checks, cores...)
	r.judged(&s)
	read(r, &s, things)
	if s.Equipment == nil {
		r.placed(&s, d, verb)
	} else {
		r.late(s.Equipment)
	}
	r.preheat(s.Equipment)
	r.twoSteps(&s, d, verb)
	r.manyTimes()
	before := len(r.understood)
	r.time(&s) // said first: it is what a cook looks for
	r.understood = slices.Concat(r.understood[before:], r.understood[:before])
	if s.Piece != nil {
		s.Piece.Typed = s.Time != kitchen.StepTime{}
	}
	if s.Equipment == nil && !r.noPlace && (verb == "" && r.sides > 0 || s.Same != nil && (d.hands != kitchen.Both || verb == "" ||
		plainVerbs[verb])) {
		r.pan(&s)
	}
	r.guess(&s, d, verb)
	r.idle(&s, d, verb)
	s.Name = strings.TrimSpace(r.name())
	r.leftOver()
	if !r.saidEnds && s.Hands != kitchen.Both {
		s.Ends = s.UsualEnds()
	}
	if s.Hands == kitchen.Both {
		s.Ends, s.Touches = kitchen.Ends{}, nil
	}
	return s
}

func (l *line) findAnywhere(ns []node) (found, bool) {
	for i := l.start; i < len(l.tokens); i++ {
		if !l.used[i] {
			if f, ok := l.find(ns, i); ok {
				return f, true
			}
		}
	}
	return found{}, false
}

// refs are what a line says of other things that have names of their own: small ware, people, sections, steps. A name that nobody has is
// no reference, and stays where it is.
var refs = []phrase[*kitchen.Step]{
	every("fills {n} [for {n:for}] of {id:what} [until {id:until}]", func(r *reader, s *kitchen.Step, f *found) bool {
		w := kitchen.Ware{Equipment: f.text["what"], Until: f.text["until"], Each: whole(f.number["n"])}
		if n, many := f.number["for"]; many {
			w.Each, w.For = 0, whole(n)
		}
		s.Wares = append(s.Wares, w)
		r.saw(message.Of("line.fills", "what", w.Equipment))
		return true
	}),
	once("anybody may do it", func(r *reader, s *kitchen.Step, _ *found) {
		s.May = kitchen.MayAnybody
		r.saw(message.Of("line.anybody"))
	}),
	once("its section alone", func(r *reader, s *kitchen.Step, _ *found) {
		s.May = kitchen.MaySection
		r.saw(message.Of("line.section-alone"))
	}),
	every("only by {id}", func(r *reader, s *kitchen.Step, f *found) bool {
		id, ok := r.known.person(f.text["id"])
		if !ok {
			return false
		}
		s.May, s.People = kitchen.MayNamed, append(s.People, id)
		r.saw(message.Of("line.only-by", "who", f.text["id"]))
		return true
	}),
	every("by [the] {id}", func(r *reader, s *kitchen.Step, f *found) bool {
		id, ok := r.known.section(f.text["id"])
		if !ok || !r.endsClause(f.to) {
			return false
		}
		s.Section = id
		r.saw(message.Of("line.section", "section", f.text["id"]))
		return true
	}),
	every("[at least {t:least}] [best {t:best}] [at most {t:most}] [no limit] [kept (on the bench|hot|chilled|frozen|dry)] [taken] after {id:step} of {id:of} "+
		"[in its (pan|pot|tray)]", beside),
	every("(meanwhile|at the same time|in the meantime|alongside)", func(r *reader, _ *kitchen.Step, _ *found) bool {
		r.meanwhile = true
		r.saw(message.Of("line.meanwhile"))
		return true
	}),
	every("(with|beside) the {id}", func(r *reader, s *kitchen.Step, f *found) bool {
		id, ok := r.known.step(f.text["id"])
		if !ok || f.from > r.start && r.tokens[f.from-1].kind != separator || !r.endsClause(f.to) {
			return false
		}
		if r.is(f.from, "beside") {
			r.meanwhile, r.besideStep = true, id
			r.saw(message.Of("line.beside", "step", id))
			return true
		}
		s.After = append(s.After, kitchen.Predecessor{Step: id})
		r.saw(message.Of("line.after", "step", id))
		return true
	}),
	once("from the (start|beginning)", func(r *reader, _ *kitchen.Step, _ *found) {
		r.first = true
		r.saw(message.Of("line.first"))
	}),
	every("after {id}", func(r *reader, s *kitchen.Step, f *found) bool {
		id, ok := r.known.step(f.text["id"])
		if !ok {
			return false
		}
		s.After = append(s.After, kitchen.Predecessor{Step: id})
		r.saw(message.Of("line.after", "step", id))
		return true
	}),
}

// beside reads that a step comes after a step of another component, with the wait between.
func beside(r *reader, s *kitchen.Step, f *found) bool {
	if !r.known.component(f.text["of"]) {
		return false
	}
	clause := " " + strings.ToLower(r.said(f.from, f.to)) + " "
	in := func(w string) bool { return strings.Contains(clause, " "+w+" ") }
	a := kitchen.OtherStep{Component: f.text["of"], Step: f.text["step"], Any: in("taken"),
		Pan: in("in its pan") || in("in its pot") || in("in its tray")}
	a.NoLimit, a.Shortest = in("no limit"), whole(f.length["least"].likely)
	for name, to := range map[string]**int{"best": &a.Best, "most": &a.Longest} {
		if v, ok := f.length[name]; ok {
			n := whole(v.likely)
			*to = &n
		}
	}
	for _, p := range []string{"on the bench", "hot", "chilled", "frozen", "dry"} {
		if in("kept " + p) {
			a.Place = kitchen.Place(strings.TrimPrefix(p, "on the "))
		}
	}
	s.Beside = append(s.Beside, a)
	if a.Pan {
		r.saw(message.Of("line.after-pan", "step", a.Step, "component", a.Component))
	} else {
		r.saw(message.Of("line.after-of", "step", a.Step, "component", a.Component))
	}
	return true
}

// facts are what a line says of a step in words that mean only that.
var facts = []phrase[*kitchen.Step]{
	once("(away from the stove|in the walk in)", func(r *reader, s *kitchen.Step, _ *found) {
		s.Away = true
		r.saw(message.Of("line.away"))
	}),
	once("may begin before the call", func(r *reader, s *kitchen.Step, _ *found) {
		s.Call = kitchen.CallAny
		r.saw(message.Of("line.any-time"))
	}),
	once("not before the call", func(r *reader, s *kitchen.Step, _ *found) {
		s.Call = kitchen.CallOnly
		r.saw(message.Of("line.on-call"))
	}),
	once("(without|no) equipment", func(r *reader, _ *kitchen.Step, _ *found) {
		r.noPlace = true
		r.saw(message.Of("line.no-equipment"))
	}),
	every("mind [the] {id}", func(r *reader, s *kitchen.Step, f *found) bool {
		danger := kitchen.Danger(f.text["id"])
		if two := danger + "-" + kitchen.Danger(r.at(f.to).text); slices.Contains(kitchen.Dangers(), two) {
			danger, f.to = two, f.to+1
		}
		if !slices.Contains(kitchen.Dangers(), danger) {
			return false
		}
		s.Dangers = append(s.Dangers, danger)
		r.saw(message.Of("line.mind", "danger", strings.ReplaceAll(string(danger), "-", " ")))
		return true
	}),
	once("batches of {n} [in turn]", func(r *reader, s *kitchen.Step, f *found) {
		s.Batch = &kitchen.BatchLimit{Portions: whole(f.number["n"]), Run: kitchen.SideBySide}
		if r.tokens[f.to-1].text == "turn" {
			s.Batch.Run = kitchen.InTurn
			r.saw(message.Of("line.batches-in-turn", "portions", s.Batch.Portions))
		} else {
			r.saw(message.Of("line.batches", "portions", s.Batch.Portions))
		}
	}),
	every("{n} at a time", func(r *reader, s *kitchen.Step, f *found) bool {
		if f.number["n"] < 2 {
			return false // eggs one at a time are no batches
		}
		s.Batch = &kitchen.BatchLimit{Portions: whole(f.number["n"]), Run: kitchen.InTurn}
		r.saw(message.Of("line.batches-in-turn", "portions", s.Batch.Portions))
		return true
	}),
	every("{n} [portions|pieces|pcs] (to|in|per|a) [a|the|each|one] (pan|tray|basket|pot|load|batch)",
		func(r *reader, s *kitchen.Step, f *found) bool {
			if f.number["n"] < 2 || s.Batch != nil || r.is(f.from-1, "about", "for") {
				return false
			}
			s.Batch = &kitchen.BatchLimit{Portions: whole(f.number["n"]), Run: kitchen.SideBySide}
			r.saw(message.Of("line.batches", "portions", s.Batch.Portions))
			return true
		}),
	every("{n} at once", func(r *reader, s *kitchen.Step, f *found) bool {
		if f.number["n"] < 2 {
			return false
		}
		s.Batch = &kitchen.BatchLimit{Portions: whole(f.number["n"]), Run: kitchen.InTurn}
		r.saw(message.Of("line.batches-in-turn", "portions", s.Batch.Portions))
		return true
	}),
	once("(heat|heated|preheat|preheated) [the] [pan|oven|oil|grill|plancha|fat|tray] {t} (before|beforehand|ahead)", func(r *reader,
		_ *kitchen.Step, f *found) {
		r.preheatS = whole(f.length["t"].likely)
		r.saw(message.Of("line.heated", "long", message.Length(r.preheatS)))
	}),
}

var pans = []phrase[*kitchen.Step]{
	once("in the same (pan|pot|tray)", func(r *reader, s *kitchen.Step, _ *found) {
		yes := true
		s.Same = &yes
		r.saw(message.Of("line.same-pan"))
	}),
	once("in another (pan|pot|tray)", func(r *reader, s *kitchen.Step, _ *found) {
		no := false
		s.Same = &no
		r.saw(message.Of("line.other-pan"))
	}),
}

// things are what goes in and must come out before the plate.
var things = []phrase[*kitchen.Step]{
	every("puts in {id}", func(r *reader, s *kitchen.Step, f *found) bool {
		s.PutsIn = append(s.PutsIn, f.text["id"])
		r.saw(message.Of("line.puts-in", "thing", f.text["id"]))
		return true
	}),
	every("takes out {id}", func(r *reader, s *kitchen.Step, f *found) bool {
		s.TakesOut = append(s.TakesOut, f.text["id"])
		r.saw(message.Of("line.takes-out", "thing", f.text["id"]))
		return true
	}),
	every("(take|lift|pick|fish|pull) [the] {id} (out|off)", takesOut),
	every("(remove|discard|lose) [the] {id}", takesOut),
	every("(take|lift|pick|fish|pull) out [the] {id}", takesOut),
	every("{id} (off|out)", func(r *reader, s *kitchen.Step, f *found) bool {
		return (r.endsClause(f.to) || r.is(f.to, "and", "then")) && takesOut(r, s, f)
	}),
	every("(stud|tie|wrap|truss|pin|skewer|cover|weigh) [it|them|the onion] (with|in|down with) [the] {id} [and {id:and}]", func(r *reader,
		s *kitchen.Step, f *found) bool {
		if !thingWords[f.text["id"]] {
			return false
		}
		for _, name := range []string{"id", "and"} {
			if w := f.text[name]; w != "" && thingWords[w] {
				s.PutsIn = append(s.PutsIn, w)
				r.saw(message.Of("line.puts-in", "thing", w))
			}
		}
		r.kept = append(r.kept, [2]int{f.from, f.to})
		return false // heard, and it stays in the name
	}),
}

func takesOut(r *reader, s *kitchen.Step, f *found) bool {
	if !thingWords[f.text["id"]] || slices.Contains(s.TakesOut, f.text["id"]) {
		return false
	}
	s.TakesOut = append(s.TakesOut, f.text["id"])
	r.saw(message.Of("line.takes-out", "thing", f.text["id"]))
	r.kept = append(r.kept, [2]int{f.from, f.to})
	return false
}
