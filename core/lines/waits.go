package lines

import (
	"strings"

	"jointime/core/kitchen"
	"jointime/core/message"
)

// A wait out of a line: "rest 90 s, best 2 min, at most 4 min", "leave to cool 1 h", "keeps 2 h", "serve at once".

// careSaid is what something needs while it waits; what is done stands in front of it.
const careSaid = "for {t} every {t:every}"

// care takes it; nil where nothing says what is done.
func (r *reader) care(f *found) *kitchen.Care {
	text, from := r.before(f.from)
	if text == "" {
		return nil
	}
	r.take(from, f.from)
	c := &kitchen.Care{Say: text, Seconds: whole(f.length["t"].likely), EveryS: whole(f.length["every"].likely)}
	r.saw(message.Of("line.care", "what", text, "long", message.Length(c.Seconds), "every", message.Length(c.EveryS)))
	return c
}

// atMost takes the longest of a wait, the first that is said.
func atMost(r *reader, w *kitchen.Wait, f *found) {
	if w.Longest == nil {
		s := whole(f.length["t"].high)
		w.Longest = &s
		r.saw(message.Of("line.at-most", "long", message.Length(s)))
	}
}

var waits = []phrase[*kitchen.Wait]{
	once("for each piece", func(r *reader, w *kitchen.Wait, _ *found) {
		w.Each = true
		r.saw(message.Of("line.each-piece"))
	}),
	once("if it must [,] up to {t} [in the {id}]", func(r *reader, w *kitchen.Wait, f *found) {
		long := whole(f.length["t"].likely)
		w.Stretch = &kitchen.Stretched{LongestS: long}
		if name := f.text["id"]; name != "" {
			i := f.to - 1
			for i > 0 && r.tokens[i].glued {
				i--
			}
			if kind, _, n := r.free(i); n > 0 {
				w.Stretch.In = &kitchen.EquipmentNeed{Kind: kind, Units: 1}
				r.take(i, i+n)
			}
		}
		r.saw(message.Of("line.stretch", "long", message.Length(long)))
	}),
	once(careSaid, func(r *reader, w *kitchen.Wait, f *found) { w.Care = r.care(f) }),
	once("kept {text}", func(r *reader, w *kitchen.Wait, f *found) {
		switch place := strings.ToLower(f.text["text"]); place {
		case "hot", "warm", "chilled", "cold", "frozen", "dry":
			w.Place = placeWords[place]
			r.saw(message.Of("line.place", "place", string(w.Place)))
		default:
			w.Kept = f.text["text"]
			r.saw(message.Of("line.kept", "how", w.Kept))
		}
	}),
	once("(no limit|without limit|as long as you like|as long as it likes|as long as you want|no hurry)",
		func(r *reader, w *kitchen.Wait, _ *found) {
			w.NoLimit = true
			r.saw(message.Of("line.no-limit"))
		}),
	once("(at once|straight (away|to the plate)|immediately|right away|without delay|no waiting|à la minute)", func(r *reader,
		w *kitchen.Wait, _ *found) {
		now := kitchen.AtOnceS
		w.Longest = &now
		r.saw(message.Of("line.at-once"))
	}),
	once("(at most|no longer than|not longer than|no more than|not more than|up to|within|for up to|may wait|can wait|will wait|"+
		"may stand|can stand|will stand|may rest|can rest|may hold|can hold|will hold|holds|holds for|keeps|keeps for|lasts|lasts for|will keep|"+
		"good for|max|maximum|may wait for|will hold for|will keep for|can wait for|may wait up to|keeps up to|holds up to|use within|"+
		"serve within) {t}", atMost),
	once("{t} (at most|max|maximum|tops|at the most)", atMost),
	once("(best|ideally|better) [within|for|after] {t}", func(r *reader, w *kitchen.Wait, f *found) {
		s := whole(f.length["t"].likely)
		w.Best = &s
		r.saw(message.Of("line.best", "long", message.Length(s)))
	}),
}

var placeWords = map[string]kitchen.Place{"hot": kitchen.Hot, "warm": kitchen.Hot, "chilled": kitchen.Chilled, "cold": kitchen.Chilled,
	"frozen": kitchen.Frozen,
	"dry":    kitchen.Dry, "bench": kitchen.OnBench}

var placePhrases = []phrase[*kitchen.Wait]{
	once("(out of the fridge|out of the cold|on the bench|on the side|at room temperature|at kitchen temperature|on a rack|on the rack)",
		placed(kitchen.OnBench)),
	once("(in the warm|keep warm|somewhere warm|in a warm place|on the pass|under the lamps)", placed(kitchen.Hot)),
	every("(hot|warm)", alone(kitchen.Hot)),
	every("(chilled|cold|in the cold)", alone(kitchen.Chilled)),
	every("frozen", alone(kitchen.Frozen)),
	every("dry", alone(kitchen.Dry)),
}

// alone is placed for a word that must not belong to another: in cold water is no cold place.
func alone(p kitchen.Place) func(*reader, *kitchen.Wait, *found) bool {
	return func(r *reader, w *kitchen.Wait, f *found) bool {
		if !r.endsClause(f.to) && !r.used[f.to] && !loose[r.tokens[f.to].text] && r.tokens[f.to].kind == word && !r.is(f.to, "no", "best") {
			return false
		}
		placed(p)(r, w, f)
		return true
	}
}

func placed(p kitchen.Place) func(*reader, *kitchen.Wait, *found) {
	return func(r *reader, w *kitchen.Wait, f *found) {
		if w.Place != "" {
			return
		}
		w.Place = p
		said := r.said(f.from, f.to)
		if strings.HasSuffix(said, "rack") && w.Kept == "" {
			w.Kept = strings.ToLower(said)
		}
		r.saw(message.Of("line.place", "place", strings.ToLower(said)))
	}
}

// free is the equipment whose name begins at token i, whoever took it.
func (r *reader) free(i int) (kitchen.EquipmentKind, string, int) {
	all := &line{raw: r.raw, tokens: r.tokens, used: make([]bool, len(r.tokens))}
	return all.namedAt(i)
}

var afterStep = pattern("after {id}")

// wait reads a line that is one.
func (r *reader) wait() (w kitchen.Wait, after string) {
	if f, ok := r.last(afterStep); ok {
		if id, known := r.known.step(f.text["id"]); known {
			after = id
			r.saw(message.Of("line.after", "step", id))
		}
	}
	r.waiting = true
	read(r, &w, waits)
	s := kitchen.Step{}
	if r.place(&s, true) {
		r.late(s.Equipment)
		r.waitsIn(&w, s.Equipment)
	}
	if f, ok := r.untilOf(); ok {
		w.Until = f
		r.saw(message.Of("line.until", "what", w.Until))
	}
	r.dryVerb()
	read(r, &w, placePhrases)
	for i := range r.tokens {
		x, n := r.length(i)
		if n == 0 {
			continue
		}
		w.Shortest += whole(x.low)
		if x == overnight || !x.ranged {
			r.saw(message.Of("line.at-least", "long", message.Length(whole(x.low))))
		} else {
			if w.Longest == nil {
				most := whole(x.high)
				w.Longest = &most
			}
			r.saw(message.Of("line.between", "low", message.Length(whole(x.low)), "high", message.Length(whole(x.high))))
		}
		r.takeWith(i, i+n)
	}
	r.heldAt(&w)
	if w.In != nil && w.Longest == nil && !w.NoLimit {
		r.needsEnd(&w)
	}
	if w.Shortest > 0 && w.Longest != nil && *w.Longest < w.Shortest {
		w.Longest = nil
	}
	return w, after
}

// dryVerb keeps the verb that begins a line from being a place: "dry 2 h" is no dry store.
func (r *reader) dryVerb() {
	if len(r.tokens) > 0 && !r.used[0] && (waitVerbs[r.tokens[0].text] || r.tokens[0].text == "cover") {
		r.used[0] = true
	}
}

// untilOf is a wait's condition: what stands behind until, or behind to in "leave to cool".
func (r *reader) untilOf() (string, bool) {
	for i := range r.tokens {
		if !r.is(i, "until", "till") && !(r.is(i,
			"to") && i > 0 && i <= 8 && waitVerbs[r.tokens[0].text] && (r.at(i+1).kind == word || r.warmthAt(i+1))) {
			continue
		}
		to := i + 1
		for to < len(r.tokens) && !r.used[to] && r.tokens[to].kind != separator && (to == i+1 || !r.stops(to)) {
			to++
		}
		for to > i+1 && loose[r.tokens[to-1].text] && r.tokens[to-1].text != "over" && r.tokens[to-1].text != "set" {
			to--
		}
		if to > i+1 {
			text := r.said(i+1, to)
			r.take(i, to)
			if r.tokens[i].text == "to" && to == i+2 && waitVerbs[r.tokens[i+1].text] && !endsWait[r.tokens[i+1].text] {
				return "", false // leave to prove: that is what it does, not when it is done
			}
			return text, true
		}
	}
	return "", false
}

// warmthAt reports whether a temperature with its unit stands at token i.
func (r *reader) warmthAt(i int) bool {
	_, n := r.degrees(i, false)
	if n == 0 && r.is(i-2, "cool", "chill", "come") && r.endsClause(i+1) { // cool to 32
		_, n = r.degrees(i, true)
	}
	return n > 0
}

// waitsIn says where something waits: the fridge and the freezer are places that nobody has to find room in, unless so much room is said or
// how hot; all else is taken all the while.
func (r *reader) waitsIn(w *kitchen.Wait, e *kitchen.EquipmentNeed) {
	switch {
	case e.Kind == kitchen.Fridge && e.SetpointC == nil && !r.hasWord("taking"):
		w.Place = kitchen.Chilled
	case e.Kind == kitchen.Freezer && e.SetpointC == nil && !r.hasWord("taking"):
		w.Place = kitchen.Frozen
	case e.Kind == kitchen.Bench:
		w.Place = kitchen.OnBench
	case e.Kind == kitchen.Burner && e.SetpointC == nil:
		w.Kept = strings.TrimSpace(w.Kept + " in the pan")
	default:
		w.In = e
	}
}

// heldAt takes a heat that a wait is kept at, where nothing says in what: hot enough, it is held hot; cold enough, it is chilled.
func (r *reader) heldAt(w *kitchen.Wait) {
	first := r.tokens[0].text
	if w.Place == "" && w.In == nil {
		w.Place = map[string]kitchen.Place{"freeze": kitchen.Frozen, "chill": kitchen.Chilled, "refrigerate": kitchen.Chilled}[first]
		if w.Place != "" {
			r.assume(message.Of("line.place", "place", string(w.Place)))
		}
	}
	if w.In != nil {
		return
	}
	if r.looseHeat(); r.heat == nil {
		return
	}
	h := *r.heat
	r.heat = nil
	kind := kitchen.Holding
	switch {
	case h.low >= 45 && r.known.equipment(&kind):
		w.In = &kitchen.EquipmentNeed{Kind: kind, Units: 1, SetpointC: &h.low}
		r.assume(message.Of("line.on-at", "equipment", string(kind), "celsius", h.low))
	case h.high <= 8:
		w.Place = kitchen.Chilled
	case h.low >= 15 && h.high <= 30:
		w.Place = kitchen.OnBench
	default:
		return
	}
	r.takeHeat()
}

// needsEnd gives a wait that takes equipment all the while an end where none was said: as assumed, since nobody else could have the place.
func (r *reader) needsEnd(w *kitchen.Wait) {
	most := max(2*w.Shortest, 3600)
	w.Longest = &most
	r.assume(message.Of("line.at-most", "long", message.Length(most)))
}

// object takes what is said to wait, right behind the verb: rest the meat, cool the stock. It is the component itself.
func (r *reader) object() {
	i := 0
	for i < len(r.tokens) && (r.used[i] || fillers[r.tokens[i].text]) && r.tokens[i].kind == word && !r.is(i, "the", "a", "in", "on", "to",
		"all", "of") {
		i++
	}
	if i == 0 {
		return
	}
	to := i
	if r.is(to, "the", "a", "all", "your") {
		to++
	}
	for to < len(r.tokens) && to-i < 4 && r.at(to).kind == word && !fillers[r.tokens[to].text] && !loose[r.tokens[to].text] &&
		!keptWords[r.tokens[to].text] {
		to++
	}
	if to > i && (r.endsClause(to) || r.used[to] || loose[r.tokens[to].text] || fillers[r.tokens[to].text]) {
		r.take(i, to)
	}
}

// howKept reports whether what is left says how something is kept: in salt, off the heat, with a lid on.
func (r *reader) howKept(from, to int) bool {
	if !r.is(from, "in", "on", "under", "with", "off", "between", "over", "without", "away") || to-from < 2 {
		return false
	}
	for i := from; i < to; i++ {
		if r.tokens[i].kind != word || timeWords[r.tokens[i].text] || waitWords[r.tokens[i].text] {
			return false
		}
	}
	return true
}

// keptToo adds tokens to how something is kept.
func (r *reader) keptToo(w *kitchen.Wait, from, to int) {
	if w.Kept != "" {
		w.Kept += " and "
	}
	w.Kept += strings.ToLower(r.said(from, to))
	r.saw(message.Of("line.kept", "how", w.Kept))
}

// restOfWait takes how something is kept out of what is left, and marks what is not understood.
func (r *reader) restOfWait(w *kitchen.Wait) {
	r.object()
	for i := 0; i < len(r.tokens); {
		if r.used[i] || r.tokens[i].kind == separator {
			i++
			continue
		}
		to := i
		kept, all := false, true
		for to < len(r.tokens) && !r.used[to] && r.tokens[to].kind != separator {
			t := r.tokens[to].text
			kept = kept || keptWords[t] && !fillers[t] && !loose[t]
			all = all && (keptWords[t] || fillers[t])
			to++
		}
		switch {
		case kept && all:
			from := i
			for from < to && fillers[r.tokens[from].text] && !inside[r.tokens[from].text] {
				from++
			}
			end := to
			for end > from && loose[r.tokens[end-1].text] {
				end--
			}
			r.keptToo(w, from, end)
		case r.howKept(i, to):
			r.keptToo(w, i, to)
		case !all:
			r.doubt(message.Of("line.not-understood", "text", r.said(i, to)))
		}
		i = to
	}
}

// usualPot is how long a pot is good when nobody says. Common practice, no source.
const usualPot = 7200

var pots = []phrase[*kitchen.Pot]{
	once("standing pot", func(*reader, *kitchen.Pot, *found) {}),
	once(careSaid, func(r *reader, p *kitchen.Pot, f *found) { p.TopUp = r.care(f) }),
	once("good for {t}", func(_ *reader, p *kitchen.Pot, f *found) { p.HoldsS = whole(f.length["t"].likely) }),
}

// pot reads what stands on the stove: how long it is good, where it stands, what it wants now and then.
func (r *reader) pot() *kitchen.Pot {
	p := &kitchen.Pot{HoldsS: usualPot}
	read(r, p, pots)
	r.saw(message.Of("line.pot", "long", message.Length(p.HoldsS)))
	s := kitchen.Step{}
	if r.place(&s, true) {
		p.In = s.Equipment
	}
	if left := r.left(0); left != "" {
		r.doubt(message.Of("line.not-understood", "text", left))
	}
	return p
}
