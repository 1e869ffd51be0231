package lines

import (
	"slices"
	"strings"

	"jointime/core/heat"
	"jointime/core/kitchen"
	"jointime/core/message"
)

// Where something is done, and how hot that is.

// longestName is of how many words a name of equipment is at the most.
const longestName = 3

// namedAt is the equipment whose name begins at token i, the longest that fits.
func (l *line) namedAt(i int) (kind kitchen.EquipmentKind, name string, n int) {
	for n = longestName; n > 0; n-- {
		name = ""
		for k := i; k < i+n; k++ {
			t := l.at(k)
			if t.kind != word {
				name = "-"
				break
			}
			text := t.text
			if name != "" {
				name += " "
			}
			name += text
		}
		for _, form := range []string{name, strings.TrimSuffix(name, "s")} {
			if kind, ok := equipmentWords[form]; ok {
				return kind, form, n
			}
		}
	}
	return "", "", 0
}

// endingAt is the equipment whose name ends right before token i.
func (l *line) endingAt(i int) (kind kitchen.EquipmentKind, name string, n int) {
	for back := longestName; back > 0; back-- {
		if i-back < l.start {
			continue
		}
		if kind, name, n := l.namedAt(i - back); n == back {
			return kind, name, n
		}
	}
	return "", "", 0
}

// place looks for where a step is done: behind in, on, into, under; then by its name alone. What it comes out of, or goes through, is not
// where it is done.
func (r *reader) place(s *kitchen.Step, bare bool) bool {
	for i := len(r.tokens) - 1; i >= r.start; i-- {
		kind, name, n := r.namedAt(i)
		if n == 0 {
			continue
		}
		// The longest name that ends here, read from its own beginning.
		for back := 1; back < longestName && i-back >= r.start; back++ {
			if k2, name2, n2 := r.namedAt(i - back); n2 == n+back {
				kind, name, n, i = k2, name2, n2, i-back
				break
			}
		}
		from := i
		var between []string
		for from > r.start && !r.used[from-1] && r.tokens[from-1].kind == word && besides[r.tokens[from-1].text] {
			from--
			between = append(between, r.tokens[from].text)
		}
		before := ""
		if from > r.start {
			before = r.tokens[from-1].text
		}
		in := from > r.start && !r.used[from-1] && inside[before]
		heatFrom := -1
		if !in { // a 220 degree oven: the heat stands between
			if w, k, at := r.heatBefore(from); k > 0 {
				prev := at - 1
				for prev >= r.start && !r.used[prev] && besides[r.tokens[prev].text] {
					prev--
				}
				if prev >= r.start && inside[r.tokens[prev].text] {
					in, from = true, prev+1
					r.heat, heatFrom = &w, at
				} else if !onlyWithIn[name] {
					from = at
					r.heat, heatFrom = &w, at
				}
			}
		}
		if !in && (!bare || outOf[before] || onlyWithIn[name] && !r.alone(i,
			n)) || in && before == "with" && (kind == kitchen.Bench || name == "ring") {
			continue
		}
		if !in && kind == kitchen.Pass {
			continue // strain and pass
		}
		if in && kind == "" {
			return false // a torch, a stick blender: nobody waits for it, and it stays in the name
		}
		if kind == "" {
			continue
		}
		if in && heatFrom < 0 {
			from--
		}
		if in && heatFrom >= 0 && from > r.start && inside[r.tokens[from-1].text] {
			from--
		}
		if name == "bars" && r.hasWord("baked", "bake", "roast", "roasted", "oven") {
			kind = kitchen.Oven // the bars of its shelf
		}
		r.book(s, kind, name, from, i+n, between, heatFrom)
		return true
	}
	return false
}

// alone reports whether a name of equipment stands alone in its clause, or heads it with only a heat or a time behind: "pan 3 min", ",
// plancha,".
func (r *reader) alone(i, n int) bool {
	first := i == r.start || r.tokens[i-1].kind == separator || r.used[i-1]
	end := i + n
	if !first {
		return false
	}
	if r.endsClause(end) || r.used[end] {
		return true
	}
	t := r.at(end)
	return t.kind == numeral || t.kind == clockLength || t.text == "at" || t.text == "for" || t.text == "taking"
}

// heatBefore is a temperature that ends right before token i: "220 degree oven", "180 oven", "gas 4 oven".
func (r *reader) heatBefore(i int) (w warmth, n, at int) {
	for back := 6; back > 0; back-- {
		if i-back < r.start {
			continue
		}
		if w, n := r.degrees(i-back, false); n == back {
			return w, n, i - back
		}
	}
	if i-1 >= r.start {
		if t := r.at(i - 1); t.kind == numeral && t.value >= 30 && t.value <= hottestBare {
			return warmth{low: t.value, high: t.value}, 1, i - 1
		}
	}
	return warmth{}, 0, i
}

var (
	taking   = pattern("taking {n}")
	heatNext = pattern("[at|to|set to|set at|preheated to|heated to|on|,] {deg}")
)

// book gives a step equipment, with the heat that stands behind it or in front of it.
func (r *reader) book(s *kitchen.Step, kind kitchen.EquipmentKind, name string, from, to int, between []string, heatFrom int) {
	if r.waiting && name == "bain marie" {
		kind = kitchen.Holding
	}
	e := &kitchen.EquipmentNeed{Kind: kind, Units: 1}
	r.placeAt = from
	r.take(from, to)
	if heatFrom >= 0 {
		r.take(heatFrom, to)
	}
	if f, ok := r.find(taking, to); ok {
		e.Units = whole(f.number["n"])
		r.take(f.from, f.to)
		to = f.to
	}
	if f, ok := r.find(heatNext, to); r.heat == nil && ok && !r.isCore(f.to) {
		w := f.heat["deg"]
		r.heat = &w
		r.take(f.from, f.to)
		to = f.to
	}
	if t := r.at(from - 1); r.heat == nil && t.kind == numeral && from > r.start && t.value >= 45 && t.value <= hottestOven &&
		(kind == kitchen.WaterBath && t.value < ovenFrom || kind == kitchen.Oven && t.value >= coolestBare) { // 62 in the bath
		r.heat = &warmth{low: t.value, high: t.value}
		r.take(from-1, from)
	}
	if r.is(to, "fan") {
		r.take(to, to+1)
	}
	s.Equipment = e
	if kind == kitchen.Oven && r.heat == nil {
		r.ovenByName(e, between)
	}
	r.heatOf(e)
}

// isCore reports whether a heat that ends at token i is one of a core.
func (r *reader) isCore(i int) bool { return r.is(i, "core") || r.are(i, "in", "the", "middle") }

// ovenByName gives an oven the range of its name: a hot oven, a low one.
func (r *reader) ovenByName(e *kitchen.EquipmentNeed, between []string) {
	slices.Reverse(between)
	for i := range between {
		name := between[i]
		if name == "very" && i+1 < len(between) {
			name += " " + between[i+1]
		}
		if known, ok := ovenWords[name]; ok {
			h := heat.Named[known]
			low, high := h.Low, h.High
			e.SetpointC, e.SetpointToC = &low, &high
			e.Said = name
			r.assume(message.Of("line.oven-by-name", "name", name, "low", low, "high", high))
			return
		}
	}
}

// heatOf gives equipment the heat that was said, and says both back.
func (r *reader) heatOf(e *kitchen.EquipmentNeed) {
	name := strings.ReplaceAll(string(e.Kind), "-", " ")
	if r.heat == nil {
		r.saw(message.Of("line.on", "equipment", name))
		return
	}
	w := *r.heat
	r.heat = nil
	low := w.low
	e.SetpointC, e.Said = &low, w.said
	if w.ranged() {
		high := w.high
		e.SetpointToC = &high
		r.saw(message.Of("line.on-between", "equipment", name, "low", low, "high", high))
		return
	}
	r.saw(message.Of("line.on-at", "equipment", name, "celsius", low))
}

var atHeat = pattern("(at|set to|set at) {deg}")

// looseHeat takes a heat that stands apart from what it is the heat of: "roast at 180 for 20 min", "45 min, 180 °C".
func (r *reader) looseHeat() {
	for i := len(r.tokens) - 1; i >= r.start; i-- {
		if r.used[i] {
			continue
		}
		// At a bare number is a heat where it is hot enough for one; any other wants its unit.
		f, ok := r.find(atHeat, i)
		if !ok || f.heat["deg"].said == "" && f.heat["deg"].low < 30 && !r.unitBefore(f.to) {
			if w, n := r.degrees(i, false); n > 0 {
				f, ok = found{from: i, to: i + n, heat: map[string]warmth{"deg": w}}, true
			} else {
				ok = false
			}
		}
		if ok && !r.isCore(f.to) && !(f.from > r.start && r.tokens[f.from-1].text == "core") {
			w := f.heat["deg"]
			r.heat, r.heatFrom, r.heatTo = &w, f.from, f.to
			return
		}
	}
	r.bareHeat()
}

func (r *reader) unitBefore(i int) bool { return i > 0 && heatUnits[r.tokens[i-1].text] }

// takeHeat takes the tokens of the heat that was found apart, with the fan that it is said for.
func (r *reader) takeHeat() {
	r.take(r.heatFrom, r.heatTo)
	if r.is(r.heatTo, "fan") {
		r.take(r.heatTo, r.heatTo+1)
	}
}

// preheat gives equipment the time in which it is heated empty.
func (r *reader) preheat(e *kitchen.EquipmentNeed) {
	if e != nil && r.preheatS > 0 {
		e.PreheatS = r.preheatS
	}
}

// pan is where something is done that has two sides, or goes on in the same pan: as assumed.
func (r *reader) pan(s *kitchen.Step) {
	on := kitchen.Burner
	if r.known.equipment(&on) {
		s.Equipment = &kitchen.EquipmentNeed{Kind: on, Units: 1}
		r.assume(message.Of("line.on", "equipment", string(on)), "without equipment")
	}
}

// late gives equipment the heat that stands elsewhere in the line.
func (r *reader) late(e *kitchen.EquipmentNeed) {
	if e == nil || e.SetpointC != nil && e.SetpointToC == nil || e.Kind == kitchen.Bench {
		return
	}
	if r.looseHeat(); r.heat != nil {
		r.takeHeat()
		e.SetpointToC = nil
		r.heatOf(e)
	}
}

// tool reports whether something that nobody waits for is what it is done with: a torch, a stick blender.
func (r *reader) tool() bool {
	for i := range r.tokens {
		if r.used[i] {
			continue
		}
		if kind, name, n := r.namedAt(i); n > 0 && kind == "" && !strings.HasPrefix(name, "ice") {
			return true
		}
	}
	return false
}
