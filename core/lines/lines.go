// Package lines reads and writes a component as plain lines, one step a line, the way
// a cook would say it:
//
//	portion and salt 30 min both hands
//	to order
//	skin down 3 min both hands on the plancha, batches of 4
//	finish 4 min in the oven at 180, until core 54
//	rest 90 s, best 2 min, at most 4 min on the bench
//
// What comes before "to order" is made ahead. A line that begins with rest, wait, hold
// or keep is the wait after the step above it; after the last step it is the wait to
// the plate. What is understood is taken out of the line; the rest is the step's name.
// The words are ours; there are no signs to learn.
package lines

import (
	"fmt"
	"regexp"
	"slices"
	"strings"
	"unicode/utf8"

	"jointime/core/kitchen"
	"jointime/core/message"
)

// Reading is what was understood of one line.
type Reading struct {
	Line       string            `json:"line"`
	Understood []message.Message `json:"understood" nullable:"false" doc:"What was understood"`
	Unsure     *message.Message  `json:"unsure,omitempty" doc:"What was not understood and stayed in the name, or was missing"`
}

// cut is the line between make-ahead and pick-up.
var cut = regexp.MustCompile(`^(?:to order|pick[- ]?up|on the order)$`)

var (
	waitLine  = regexp.MustCompile(`^(?:rest|wait|hold|keep)\b`)
	rangeTime = regexp.MustCompile(`\bfrom (` + length + `) to (` + length + `)`)
	loose     = regexp.MustCompile(`(` + amount + `) ?(?:to|-|–) ?(` + length + `)`)
	heated    = regexp.MustCompile(`\bheat(?:ed)? (` + length + `) before(?:hand)?\b`)
	each      = regexp.MustCompile(`(?:\band |\bplus )?(` + length + `) (?:a portion|per portion|each)\b`)
	eachRange = regexp.MustCompile(`, each from (` + length + `) to (` + length + `)`)
	oneTime   = regexp.MustCompile(`(?:\bfor )?(` + length + `)`)
	atMost    = regexp.MustCompile(`\b(?:at most|no longer than|up to) (` + length + `)`)
	bestTime  = regexp.MustCompile(`\bbest (?:within )?(` + length + `)`)
	both      = regexp.MustCompile(`\bboth hands\b`)
	tend      = regexp.MustCompile(`\b(?:with an eye on it|a look now and then|tend(?:ed)?|stirring now and then)\b`)
	nobody    = regexp.MustCompile(`\b(?:nobody|by itself|on its own)\b`)
	batches   = regexp.MustCompile(`\bbatches of (\d+)( in turn)?`)
	core      = regexp.MustCompile(`\buntil core (` + amount + `) ?°?c?\b`)
	until     = regexp.MustCompile(`\buntil (?:(look|touch|taste|weight) )?([^,]+)`)
	putsIn    = regexp.MustCompile(`\bputs in ([a-z]+)`)
	takesOut  = regexp.MustCompile(`\btakes out ([a-z]+)`)
	danger    = regexp.MustCompile(`\bmind ([a-z-]+)`)
	after     = regexp.MustCompile(`\bafter ([a-z0-9-]+)\b`)
	wish      = regexp.MustCompile(`\b([a-z ]+?) (` + length + `) (more|less)\b`)
	section   = regexp.MustCompile(`\bby ([a-z0-9-]+)$`)
	places    = regexp.MustCompile(`\b(on the bench|hot|chilled|frozen|dry)\b`)
	spaces    = regexp.MustCompile(`\s+`)
)

// equipment words, longest first so that "water bath" is not a bath of something.
var equipmentWord = func() *regexp.Regexp {
	var words []string
	for _, k := range kitchen.EquipmentKinds() {
		words = append(words, strings.ReplaceAll(string(k), "-", "[- ]"))
	}
	return regexp.MustCompile(`(?:\b(?:in|on|into|onto) the |\b(?:in|on) )?\b(` + strings.Join(words,
		"|") + `)s?\b(?: taking (\d+))?(?: at| to)?(?: (gas(?: mark)? \d|\d{2,3}(?:[.,]\d)? ?(?:°|degrees)? ?[cf]?)\b°?)?`)
}()

type reader struct {
	rest       string
	understood []message.Message
}

// take removes the last match of re and returns its groups; nil when there is none.
// The last, since names stand in front: what a name says by the way stays in it when
// the line says it again behind.
func (r *reader) take(re *regexp.Regexp) []string {
	low := asciiLower(r.rest)
	all := re.FindAllStringSubmatchIndex(low, -1)
	if all == nil {
		return nil
	}
	m := all[len(all)-1]
	var groups []string
	for i := 0; i < len(m); i += 2 {
		if m[i] < 0 {
			groups = append(groups, "")
		} else {
			groups = append(groups, strings.ToLower(r.rest[m[i]:m[i+1]]))
		}
	}
	r.rest = r.rest[:m[0]] + " , " + r.rest[m[1]:]
	return groups
}

// asciiLower keeps the length of a text, which strings.ToLower does not: some letters
// have longer small forms.
func asciiLower(s string) string {
	return strings.Map(func(c rune) rune {
		if c >= 'A' && c <= 'Z' {
			return c + 'a' - 'A'
		}
		return c
	}, s)
}

// takeAll removes all matches of re in one pass, and returns their groups in the order of the
// line. A line is read in time that grows with its length, however often a phrase stands in
// it.
func (r *reader) takeAll(re *regexp.Regexp) [][]string {
	all := re.FindAllStringSubmatchIndex(asciiLower(r.rest), -1)
	if all == nil {
		return nil
	}
	var out [][]string
	var left strings.Builder
	end := 0
	for _, m := range all {
		var groups []string
		for i := 0; i < len(m); i += 2 {
			if m[i] < 0 {
				groups = append(groups, "")
			} else {
				groups = append(groups, strings.ToLower(r.rest[m[i]:m[i+1]]))
			}
		}
		out = append(out, groups)
		left.WriteString(r.rest[end:m[0]] + " , ")
		end = m[1]
	}
	r.rest = left.String() + r.rest[end:]
	return out
}

func (r *reader) saw(m message.Message) { r.understood = append(r.understood, m) }

// name is what is left when everything understood is taken out.
func (r *reader) name() string {
	var parts []string
	for _, p := range strings.Split(r.rest, ",") {
		if p = strings.Trim(spaces.ReplaceAllString(p, " "), " .;"); p != "" {
			parts = append(parts, p)
		}
	}
	return strings.Join(parts, ", ")
}

// Bounds of what is read.
const (
	// MaxLine is the most characters of a line.
	MaxLine = 500
	// MaxLines is the most lines of a component.
	MaxLines = 400
)

// Check says what is too long to be read: kitchen.Faults, whose path names the line.
func Check(text string) error {
	var faults kitchen.Faults
	all := strings.Split(text, "\n")
	if len(all) > MaxLines {
		faults = append(faults, kitchen.FaultAt("text", "fault.lines", "most", MaxLines, "got", len(all)))
	}
	for i, l := range all[:min(len(all), MaxLines)] {
		if n := utf8.RuneCountInString(l); n > MaxLine {
			faults = append(faults, kitchen.FaultAt(fmt.Sprintf("text, line %d", i+1), "fault.characters", "most", MaxLine, "got", n))
		}
	}
	return faults.Or()
}

// Parse reads lines into the steps and the hold of c, which keeps everything else. It
// never fails: what is not understood stays in the names, and is said.
func Parse(c kitchen.Component, text string) (kitchen.Component, []Reading) {
	readings := []Reading{}
	phase := kitchen.Ahead
	c.Steps, c.Hold = []kitchen.Step{}, kitchen.Wait{}
	var pending *kitchen.Wait
	ids := map[string]int{}
	for _, raw := range strings.Split(strings.ToValidUTF8(text, ""), "\n") {
		line := strings.TrimSpace(spaces.ReplaceAllString(raw, " "))
		reading := Reading{Line: raw, Understood: []message.Message{}}
		low := strings.ToLower(line)
		switch {
		case line == "":
		case cut.MatchString(low):
			phase = kitchen.PickUp
			reading.Understood = append(reading.Understood, message.Of("line.to-order"))
		case low == "ahead" || low == "made ahead":
			phase = kitchen.Ahead
			reading.Understood = append(reading.Understood, message.Of("line.ahead"))
		case waitLine.MatchString(low) && len(c.Steps) > 0 && !saysHands(low):
			r := &reader{rest: line}
			w := readWait(r)
			pending = &w
			reading.Understood = append(reading.Understood, r.understood...)
			reading.Unsure = r.unsureWait()
		default:
			r := &reader{rest: line}
			s := readStep(r, phase)
			s.ID = unique(slug(s.Name), ids)
			if len(s.After) == 0 && len(c.Steps) > 0 {
				s.After = append(s.After, kitchen.Predecessor{Step: c.Steps[len(c.Steps)-1].ID})
			}
			if pending != nil && len(s.After) > 0 {
				s.After[0].Wait, pending = *pending, nil
			}
			c.Steps = append(c.Steps, s)
			reading.Understood = append(reading.Understood, r.understood...)
			if s.Time.Fixed.Likely == 0 && s.Time.PerPortion.Likely == 0 {
				reading.Unsure = unsure(message.Of("line.no-time"))
			}
		}
		readings = append(readings, reading)
	}
	if pending != nil {
		c.Hold = *pending
	}
	return c, readings
}

// saysHands tells a step that happens to begin with a word of waiting ("rest cold
// overnight, nobody") from a wait.
func saysHands(low string) bool {
	return both.MatchString(low) || tend.MatchString(low) || nobody.MatchString(low)
}

func unsure(m message.Message) *message.Message { return &m }

func (r *reader) unsureWait() *message.Message {
	if left := r.name(); left != "" && !waitLine.MatchString(strings.ToLower(left)) {
		return unsure(message.Of("line.not-understood", "text", left))
	}
	return nil
}

func readWait(r *reader) (w kitchen.Wait) {
	if m := r.take(atMost); m != nil {
		s, _ := Seconds(m[1])
		w.Longest = &s
		r.saw(message.Of("line.at-most", "long", message.Length(s)))
	}
	if m := r.take(bestTime); m != nil {
		s, _ := Seconds(m[1])
		w.Best = &s
		r.saw(message.Of("line.best", "long", message.Length(s)))
	}
	if m := r.take(oneTime); m != nil {
		w.Shortest, _ = Seconds(m[1])
		r.saw(message.Of("line.at-least", "long", message.Length(w.Shortest)))
	}
	if m := r.take(places); m != nil {
		w.Place = kitchen.Place(strings.TrimPrefix(m[1], "on the "))
		r.saw(message.Of("line.place", "place", m[1]))
	}
	r.rest = waitLine.ReplaceAllString(strings.ToLower(r.rest), "")
	return w
}

// readStep takes out what it knows, the longer phrases before the shorter ones that
// they contain.
func readStep(r *reader, phase kitchen.Phase) kitchen.Step {
	s := kitchen.Step{Phase: phase, Hands: kitchen.Both, After: []kitchen.Predecessor{}, Checks: []kitchen.DoneCheck{},
		Dangers: []kitchen.Danger{}, Doneness: []kitchen.Doneness{}, PutsIn: []string{}, TakesOut: []string{}}
	if m := r.take(section); m != nil {
		s.Section = m[1]
		r.saw(message.Of("line.section", "section", m[1]))
	}
	r.words(&s)
	if m := r.take(core); m != nil {
		c := number(m[1])
		s.Checks = append(s.Checks, kitchen.DoneCheck{Kind: "core", TargetC: &c})
		r.saw(message.Of("line.core", "celsius", c))
	}
	checks := []kitchen.DoneCheck{}
	for _, m := range r.takeAll(until) {
		kind := kitchen.CheckKind(m[1])
		if kind == "" {
			kind = "look"
		}
		checks = append(checks, kitchen.DoneCheck{Kind: kind, Say: strings.TrimSpace(m[2])})
		r.saw(message.Of("line.done-by", "kind", kind, "until", strings.TrimSpace(m[2])))
	}
	s.Checks = append(checks, s.Checks...)
	for _, m := range r.takeAll(wish) {
		d, _ := Seconds(m[2])
		said := message.Of("line.longer", "wish", strings.TrimSpace(m[1]), "long", message.Length(d))
		if m[3] == "less" {
			said = message.Of("line.less-long", "wish", strings.TrimSpace(m[1]), "long", message.Length(d))
			d = -d
		}
		s.Doneness = append(s.Doneness, kitchen.Doneness{Name: strings.TrimSpace(m[1]), Seconds: d})
		r.saw(said)
	}
	r.equipment(&s)
	if m := r.take(batches); m != nil {
		s.Batch = &kitchen.BatchLimit{Portions: int(number(m[1])), Run: kitchen.SideBySide}
		if m[2] != "" {
			s.Batch.Run = kitchen.InTurn
			r.saw(message.Of("line.batches-in-turn", "portions", s.Batch.Portions))
		} else {
			r.saw(message.Of("line.batches", "portions", s.Batch.Portions))
		}
	}
	r.time(&s)
	s.Name = r.name()
	return s
}

func (r *reader) words(s *kitchen.Step) {
	switch {
	case r.take(both) != nil:
		r.saw(message.Of("line.both-hands"))
	case r.take(tend) != nil:
		s.Hands = kitchen.Tend
		r.saw(message.Of("line.tend"))
	case r.take(nobody) != nil:
		s.Hands = kitchen.None
		r.saw(message.Of("line.nobody"))
	}
	for _, m := range r.takeAll(putsIn) {
		s.PutsIn = append(s.PutsIn, m[1])
		r.saw(message.Of("line.puts-in", "thing", m[1]))
	}
	for _, m := range r.takeAll(takesOut) {
		s.TakesOut = append(s.TakesOut, m[1])
		r.saw(message.Of("line.takes-out", "thing", m[1]))
	}
	for _, m := range r.takeAll(danger) {
		s.Dangers = append(s.Dangers, kitchen.Danger(m[1]))
		r.saw(message.Of("line.mind", "danger", m[1]))
	}
	for _, m := range r.takeAll(after) {
		s.After = append(s.After, kitchen.Predecessor{Step: m[1]})
		r.saw(message.Of("line.after", "step", m[1]))
	}
}

func (r *reader) equipment(s *kitchen.Step) {
	before := r.take(heated)
	m := r.take(equipmentWord)
	if m == nil {
		if before != nil {
			r.rest += ", " + before[0] // there is nothing to heat
		}
		return
	}
	e := &kitchen.EquipmentNeed{Kind: kitchen.EquipmentKind(strings.ReplaceAll(m[1], " ", "-")), Units: 1}
	if m[2] != "" {
		e.Units = int(number(m[2]))
	}
	said := message.Of("line.on", "equipment", m[1])
	if c, ok := Degrees(m[3]); ok {
		e.SetpointC = &c
		said = message.Of("line.on-at", "equipment", m[1], "celsius", c)
	}
	s.Equipment = e
	r.saw(said)
	if before != nil {
		e.PreheatS, _ = Seconds(before[1])
		r.saw(message.Of("line.heated", "long", message.Length(e.PreheatS)))
	}
}

func (r *reader) time(s *kitchen.Step) {
	three := func(likely int, lo, hi string) kitchen.Estimate {
		a, _ := Seconds(lo)
		b, _ := Seconds(hi)
		return kitchen.Estimate{Low: min(a, likely), Likely: likely, High: max(b, likely)}
	}
	eachBounds := r.take(eachRange)
	if m := r.take(each); m != nil {
		v, _ := Seconds(m[1])
		s.Time.PerPortion = kitchen.Exactly(v)
		if eachBounds != nil {
			s.Time.PerPortion = three(v, eachBounds[1], eachBounds[2])
		}
		r.saw(message.Of("line.each", "long", message.Length(v)))
	}
	bounds := r.take(rangeTime)
	if m := r.take(loose); m != nil {
		// "3 to 5 min": the unit stands once, behind.
		hi, _ := Seconds(m[2])
		unit := part.FindStringSubmatch(m[2])
		lo := hi
		if unit != nil {
			lo, _ = Seconds(m[1] + " " + unit[2])
		}
		s.Time.Fixed = kitchen.Estimate{Low: min(lo, hi), Likely: (lo + hi) / 2, High: max(lo, hi)}
		r.saw(message.Of("line.between", "low", message.Length(s.Time.Fixed.Low), "high", message.Length(s.Time.Fixed.High)))
		return
	}
	if m := r.take(oneTime); m != nil {
		v, _ := Seconds(m[1])
		s.Time.Fixed = kitchen.Exactly(v)
		if bounds != nil {
			s.Time.Fixed = three(v, bounds[1], bounds[2])
		}
		r.saw(message.Of("line.time", "long", message.Length(v)))
	}
}

var notSlug = regexp.MustCompile(`[^a-z0-9]+`)

func slug(name string) string {
	s := strings.Trim(notSlug.ReplaceAllString(strings.ToLower(name), "-"), "-")
	if len(s) > 40 {
		s = strings.Trim(s[:40], "-")
	}
	if s == "" {
		s = "step"
	}
	return s
}

func unique(s string, seen map[string]int) string {
	seen[s]++
	for n := seen[s]; n > 1; n++ {
		if next := fmt.Sprintf("%s-%d", s, n); seen[next] == 0 {
			seen[next]++
			return next
		}
	}
	return s
}

// Format writes the steps and the hold of a component as lines that Parse reads back.
func Format(c *kitchen.Component) string {
	var b strings.Builder
	phase := kitchen.Ahead
	for i := range c.Steps {
		s := &c.Steps[i]
		if i > 0 && len(s.After) > 0 && said(s.After[0].Wait) {
			b.WriteString(wait(s.After[0].Wait) + "\n")
		}
		if s.Phase != phase {
			phase = s.Phase
			b.WriteString(map[kitchen.Phase]string{kitchen.PickUp: "to order\n", kitchen.Ahead: "ahead\n"}[phase])
		}
		b.WriteString(step(c, i) + "\n")
	}
	if said(c.Hold) {
		b.WriteString(wait(c.Hold) + "\n")
	}
	return b.String()
}

func said(w kitchen.Wait) bool {
	return w.Shortest > 0 || w.Best != nil || w.Longest != nil || w.Place != ""
}

func wait(w kitchen.Wait) string {
	out := "wait"
	if w.Shortest > 0 {
		out = "rest " + Say(w.Shortest)
	}
	if w.Best != nil {
		out += ", best " + Say(*w.Best)
	}
	if w.Longest != nil {
		out += ", at most " + Say(*w.Longest)
	}
	if w.Place != "" {
		out += ", " + map[bool]string{true: "on the "}[w.Place == kitchen.OnBench] + string(w.Place)
	}
	return out
}

func step(c *kitchen.Component, i int) string {
	s := &c.Steps[i]
	out := s.Name + ", " + Say(s.Time.Fixed.Likely)
	if f := s.Time.Fixed; f.Low != f.Likely || f.High != f.Likely {
		out += fmt.Sprintf(", from %s to %s", Say(f.Low), Say(f.High))
	}
	if p := s.Time.PerPortion; p.Likely > 0 {
		out += ", and " + Say(p.Likely) + " a portion"
		if p.Low != p.Likely || p.High != p.Likely {
			out += fmt.Sprintf(", each from %s to %s", Say(p.Low), Say(p.High))
		}
	}
	out += map[kitchen.Hands]string{kitchen.Both: ", both hands", kitchen.Tend: ", a look now and then", kitchen.None: ", nobody"}[s.Hands]
	if e := s.Equipment; e != nil {
		out += ", in the " + string(e.Kind)
		if e.Units > 1 {
			out += fmt.Sprintf(" taking %d", e.Units)
		}
		if e.SetpointC != nil {
			out += fmt.Sprintf(" at %g", *e.SetpointC)
		}
		if e.PreheatS > 0 {
			out += ", heated " + Say(e.PreheatS) + " before"
		}
	}
	if s.Batch != nil {
		out += fmt.Sprintf(", batches of %d", s.Batch.Portions)
		if s.Batch.Run == kitchen.InTurn {
			out += " in turn"
		}
	}
	for _, d := range s.Doneness {
		way, n := "more", d.Seconds
		if n < 0 {
			way, n = "less", -n
		}
		out += fmt.Sprintf(", %s %s %s", d.Name, Say(n), way)
	}
	for _, k := range s.Checks {
		if k.TargetC != nil {
			out += fmt.Sprintf(", until core %g", *k.TargetC)
		}
	}
	for _, k := range s.Checks {
		if k.TargetC == nil {
			// A comma would end the phrase.
			out += fmt.Sprintf(", until %s %s", k.Kind, strings.ReplaceAll(k.Say, ",", " and"))
		}
	}
	for _, x := range s.PutsIn {
		out += ", puts in " + x
	}
	for _, x := range s.TakesOut {
		out += ", takes out " + x
	}
	for _, x := range s.Dangers {
		out += ", mind " + string(x)
	}
	chain := len(s.After) == 1 && i > 0 && s.After[0].Step == c.Steps[i-1].ID || len(s.After) == 0 && i == 0
	if !chain {
		var names []string
		for _, a := range s.After {
			names = append(names, a.Step)
		}
		slices.Sort(names)
		for _, n := range names {
			out += ", after " + n
		}
	}
	if s.Section != "" {
		out += ", by " + s.Section
	}
	return out
}
