package lines

import (
	"jointime/core/kitchen"
	"jointime/core/message"
)

// How long a step takes: every length that nothing else has taken, added up.

var (
	eachOne = pattern("(each [one|piece|portion]|apiece|a (piece|portion|plate|head|time)|per (piece|portion|plate|person|head|one)|" +
		"for each [one|piece|portion|plate]|/ (portion|piece|plate))")
	eachSide = pattern("([on] (a|each|per|either|both) [cut|flat|skin|large|broad] (side|sides|face|faces)|/ side)")
	oneSide  = pattern("[on] (one|first|flesh|skin|presentation|the first|the skin|the flesh|the fat|fat) (side|side down|down)")
	theOther = pattern("[on] (the other [side]|the other side|the second side|second side|the second|flesh side|the flesh side|other side)")
	fromTo   = pattern("[each] from {one:low} to {one:high}")
	everyOne = pattern("(each|every) (portion|piece|one|plate|fillet|egg|slice|leaf|bird|fish|steak|bun|mould)")
	forSome  = pattern("for {n}")
	manyOf   = pattern("{n} times [,]")
	inAll    = pattern("(in all|in total|altogether|total)")
)

func (r *reader) time(s *kitchen.Step) {
	var each *span
	for i := r.start; i < len(r.tokens); i++ { // bounds around the likely time
		if f, ok := r.find(fromTo, i); ok && !r.used[i] && (r.is(i, "each") || r.otherLength(f.from, f.to)) {
			b := span{f.length["low"].likely, 0, f.length["high"].likely, true}
			if r.is(i, "each") {
				each = &b
			} else {
				r.bounds = &b
			}
			r.take(f.from, f.to)
		}
	}
	var sum span
	parts, portion, total, sides := 0, span{}, false, 0
	defer func() { r.sides = sides }()
	for i := r.start; i < len(r.tokens); i++ {
		if r.used[i] {
			continue
		}
		from := i
		if r.is(i, "from") {
			i++
		}
		x, n := r.length(i)
		if n == 0 {
			i = from
			continue
		}
		to := i + n
		if r.is(to, "before") || r.is(to, "to") && r.is(to+1, "lay", "put", "set", "take", "lift") { // nothing says before what, or of what
			i = to
			continue
		}
		_, side := r.find(eachSide, to)
		switch f, per := r.find(eachOne, to); {
		case !side && !per && r.perThing(to):
			portion = plus(portion, x)
			r.takeWith(from, to+2)
			i = to + 1
			continue
		case per && !side && r.timesBefore(from) > 0: // three times, 5 min each
			n := r.timesBefore(from)
			sum, parts, total = plus(sum, x.times(n)), parts+1, true
			r.takeWith(from, f.to)
			i = f.to - 1
			continue
		case per && !side:
			portion = plus(portion, x)
			r.takeWith(from, f.to)
			i = f.to - 1
			continue
		case r.is(to, "more", "longer"):
			to++
		}
		if f, ok := r.find(eachSide, to); ok {
			x, to = x.times(2), f.to
			sides += 2
		} else if f, ok := r.find(theOther, to); ok {
			to = f.to
			if parts > 0 {
				sides++
				r.turnAt = whole(sum.likely)
			}
		} else if f, ok := r.find(oneSide, to); ok {
			sides++
			if parts > 0 && sides > 1 {
				r.turnAt = whole(sum.likely)
			}
			to = f.to
		} else if k, other := r.sideBefore(from); k < from {
			sides++
			if parts > 0 {
				r.turnAt = whole(sum.likely)
			}
			if other {
				from = k
			}
		} else if r.is(to, "off") {
			to++
		} else if r.is(to, "ahead") { // that is how long it keeps
			r.doubt(message.Of("line.left-wait", "text", r.said(from, to+1)))
			to++
		}
		if r.is(to, "for") && r.endsClause(to+2) && s.Batch == nil { // twelve minutes for two
			if f, ok := r.find(forSome, to); ok && f.number["n"] >= 2 {
				s.Batch = &kitchen.BatchLimit{Portions: whole(f.number["n"]), Run: kitchen.SideBySide}
				r.saw(message.Of("line.batches", "portions", s.Batch.Portions))
				to = f.to
			}
		}
		if f, ok := r.find(inAll, to); ok {
			sum, total, to = x, true, f.to
		} else if !total {
			sum = plus(sum, x)
		}
		parts++
		r.takeWith(from, to)
		i = to - 1
	}
	if _, one := r.findAnywhere(everyOne); one && parts == 1 && portion.likely == 0 { // torch each portion for 15 s
		portion, sum, parts = sum, span{}, 0
	}
	if portion.likely > 0 {
		s.Time.PerPortion = portion.estimate()
		if each != nil {
			s.Time.PerPortion = around(portion, each)
		}
		r.saw(message.Of("line.each", "long", message.Length(whole(portion.likely))))
	}
	if parts == 0 || r.sized {
		return
	}
	s.Time.Fixed = sum.estimate()
	switch {
	case r.bounds != nil:
		s.Time.Fixed = around(sum, r.bounds)
		fallthrough
	case !sum.ranged:
		r.saw(message.Of("line.time", "long", message.Length(s.Time.Fixed.Likely)))
	default:
		r.saw(message.Of("line.between", "low", message.Length(s.Time.Fixed.Low), "high", message.Length(s.Time.Fixed.High)))
	}
	if parts > 1 && !total {
		r.saw(message.Of("line.sum", "number", parts))
	}
	if sides > 1 && len(s.Touches) == 0 && s.Hands != kitchen.Both || sides > 1 && len(s.Touches) == 0 && !r.saidHands {
		r.turn(s)
	}
}

// timesBefore is how many times something is done, where that stands right before token i; 0 where it does not.
func (r *reader) timesBefore(i int) float64 {
	for back := 2; back <= 3; back++ {
		if f, ok := r.find(manyOf, i-back); ok && f.to == i && i-back >= r.start {
			return f.number["n"]
		}
	}
	return 0
}

// sideBefore is where the words for a side begin that end right before token i; other is that they say the second one.
func (r *reader) sideBefore(i int) (from int, other bool) {
	for back := 5; back > 0; back-- {
		if i-back < r.start {
			continue
		}
		if f, ok := r.find(theOther, i-back); ok && f.to == i && back > 1 {
			return i - back, true
		}
		if f, ok := r.find(oneSide, i-back); ok && f.to == i {
			return i - back, false
		}
	}
	return i, false
}

// perThing reports whether a thing stands at i for each of which it is, at the end of a clause: two minutes a fish.
func (r *reader) perThing(i int) bool {
	return r.is(i, "a", "an", "per") && r.at(i+1).kind == word && !r.at(i+1).glued && r.endsClause(i+2) &&
		!r.is(i+1, "little", "bit", "time", "go", "while", "more", "side", "few")
}

// turn is the turn between two sides: half-way where both take as long.
func (r *reader) turn(s *kitchen.Step) {
	t := kitchen.Touch{Say: "turn", When: kitchen.HalfWay, Seconds: usualTouch}
	if r.turnAt > 0 {
		t.When, t.AtS = kitchen.After, r.turnAt
	}
	s.Touches = append(s.Touches, t)
	if !r.saidHands {
		s.Hands, r.looseHands = kitchen.Tend, true
	}
	r.saw(message.Of("line.turned-once"))
}

func around(s span, b *span) kitchen.Estimate {
	likely := whole(s.likely)
	return kitchen.Estimate{Low: min(whole(b.low), likely), Likely: likely, High: max(whole(b.high), likely)}
}

// otherLength reports whether a length stands outside of some tokens: then those are its bounds.
func (r *reader) otherLength(from, to int) bool {
	for i := r.start; i < len(r.tokens); i++ {
		if i >= from && i < to {
			continue
		}
		if !r.used[i] {
			if _, n := r.length(i); n > 0 {
				return true
			}
		}
	}
	return false
}

// takeWith takes tokens with the words that only tie a length to what stands in front: for, and, plus, then, about, at least.
func (r *reader) takeWith(from, to int) {
	for from > r.start && !r.used[from-1] {
		switch r.tokens[from-1].text {
		case "to":
			if from-2 >= r.start && r.is(from-2, "up") {
				from -= 2
				continue
			}
		case "for", "plus", "then", "takes", "take", "least", "lasting", "within":
			from--
			if from > r.start && r.tokens[from].text == "least" && r.is(from-1, "at") {
				from--
			}
			continue
		case "and":
			if from-1 > r.start && r.used[from-2] || to < len(r.tokens) {
				from--
				continue
			}
		}
		break
	}
	r.take(from, to)
}
