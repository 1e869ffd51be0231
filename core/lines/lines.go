// Package lines reads and writes a component as plain lines, one step a line, the way
// a cook would say it:
//
//	portion and salt 30 min
//	to order
//	skin down 3 min on the plancha, batches of 4
//	finish 4 min in the oven at 180, until core 54
//	rest 90 s, best 2 min, at most 4 min on the bench
//
// What comes before "to order" is made ahead. A line that begins with rest, wait, hold, leave, chill and the like is the wait after the
// step above it; after the last step it is the wait to the plate. What is understood is taken out of the line; the rest is the step's
// name, and what stands in front of a colon is the name as it is. What looks like a time, a heat, a number or a wait and was not
// understood is marked. The words are ours; there are no signs to learn.
//
// A line is cut into tokens (token.go), lengths and temperatures are read from them (times.go, heats.go), and phrases are patterns over
// them (match.go), each with what it means, in tables: step.go, hands.go, checks.go, equipment.go, wishes.go, waits.go. The words of a
// language stand in english.go.
package lines

import (
	"fmt"
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
	Assumed    []Assumption      `json:"assumed" nullable:"false" doc:"What was taken for granted, since the line does not say"`
	Unsure     *message.Message  `json:"unsure,omitempty" doc:"What was not understood and stayed in the name, or was missing"`
}

// Assumption is something that a line does not say, and what it could say instead.
type Assumption struct {
	Said    message.Message `json:"said"`
	Instead []string        `json:"instead,omitempty" nullable:"false" doc:"Words that, added to the line, say otherwise"`
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

// Parse reads lines into the steps, the hold and the standing pot of c, which keeps everything else. It never fails: what is not understood
// stays in the names, and is said. Names of sections, people and components are taken as they come; Known.Parse takes only those that are.
func Parse(c kitchen.Component, text string) (kitchen.Component, []Reading) {
	return (&Known{}).Parse(c, text)
}

// Parse is Parse with what the house has: what nobody has is no reference.
func (k *Known) Parse(c kitchen.Component, text string) (kitchen.Component, []Reading) {
	text = strings.ToValidUTF8(text, "")
	// What comes after what is only known when every step has its name, and a name ends where it says what it comes after: the first time
	// every word behind after may be a step, then those that are, and last those that are still.
	typed := strings.Split(text, "\n")
	for i := range typed {
		typed[i] = strings.Join(strings.Fields(typed[i]), " ")
	}
	before := linesOf(&c, typed)
	p := &parser{known: k.withSteps(nil), was: before}
	p.all(text)
	for range 2 {
		p = &parser{known: k.withSteps(p.out.Steps), was: before}
		p.all(text)
	}
	out := c
	out.Steps, out.Hold, out.Pot = p.out.Steps, p.out.Hold, p.out.Pot
	return out, p.readings
}

// parser reads the lines of one component.
type parser struct {
	known    *Known
	was      *formerly
	out      kitchen.Component
	readings []Reading
	phase    kitchen.Phase
	pending  []pendingWait
	ids      map[string]int
	n        int // the line that is read, from 0
}

// pendingWait is a wait until the step that it leads to is known; after is the step that it follows, where the line says so.
type pendingWait struct {
	after string
	wait  kitchen.Wait
}

func (p *parser) all(text string) {
	p.phase, p.ids = kitchen.Ahead, map[string]int{}
	p.out.Steps, p.readings = []kitchen.Step{}, []Reading{}
	for n, raw := range strings.Split(text, "\n") {
		p.n = n
		p.readings = append(p.readings, p.line(raw))
	}
	for _, w := range p.pending {
		p.out.Hold = w.wait
	}
}

func (p *parser) line(raw string) Reading {
	said := strings.Join(strings.Fields(raw), " ")
	r := &reader{line: newLine(said), known: p.known}
	low := strings.Trim(strings.ToLower(said), " .:")
	switch {
	case said == "":
	case low == "to order" || low == "pick up" || low == "pickup" || low == "pick-up" || low == "on the order" || low == "on order":
		p.phase = kitchen.PickUp
		r.saw(message.Of("line.to-order"))
	case low == "ahead" || low == "made ahead" || low == "mise en place" || low == "make ahead":
		p.phase = kitchen.Ahead
		r.saw(message.Of("line.ahead"))
	case strings.HasPrefix(low, "standing pot"):
		p.out.Pot = r.pot()
	case r.never() && len(p.out.Steps) > 0:
		last := &p.out.Steps[len(p.out.Steps)-1]
		last.Never = append(last.Never, r.neverSaid())
	case len(p.out.Steps) > 0 && r.isWait():
		r.stepBehind()
		r.tellMinutes()
		w, after := r.wait()
		r.restOfWait(&w)
		if before, ok := p.was.waits[said]; ok {
			w = before
		}
		p.pending = append(p.pending, pendingWait{after, w})
	default:
		p.step(r, said)
	}
	if r.understood == nil {
		r.understood = []message.Message{}
	}
	if r.assumed == nil {
		r.assumed = []Assumption{}
	}
	return Reading{Line: raw, Understood: r.understood, Assumed: r.assumed, Unsure: r.unsure}
}

func (p *parser) step(r *reader, said string) {
	r.named()
	never := r.neverBehind()
	r.lasting()
	tail := r.waitBehind()
	r.tellMinutes()
	s := r.step(p.was.Component, p.phase)
	before := p.was.steps[p.n]
	untouched := p.was.untouched(p.n, said)
	if untouched {
		after := s.After
		s = (&kitchen.Component{Steps: p.was.Steps[before : before+1]}).Clone().Steps[0]
		s.Phase, s.After, s.Never = p.phase, after, nil // lines of their own say those
	}
	if never != nil {
		s.Never = append(s.Never, *never)
	}
	s.ID = p.id(s.Name, before)
	p.after(r, &s)
	p.out.Steps = append(p.out.Steps, s)
	if s.Time.Fixed.Likely == 0 && s.Time.PerPortion.Likely == 0 && !setsTime(&s) && !untouched {
		r.doubt(message.Of("line.no-time"))
	}
	if !untouched {
		r.whereNot(&s)
	}
	if tail != nil {
		tail.stepBehind()
		tail.tellMinutes()
		w, after := tail.wait()
		tail.restOfWait(&w)
		p.pending = append(p.pending, pendingWait{after, w})
		r.understood = append(r.understood, message.Of("line.then-waits"))
		r.understood = append(r.understood, tail.understood...)
		r.assumed = append(r.assumed, tail.assumed...)
		if r.unsure == nil {
			r.unsure = tail.unsure
		}
	}
}

// id keeps the id of a step that was there before under the same name, and that no other line is.
func (p *parser) id(name string, before int) string {
	if before < 0 {
		for i := range p.was.Steps {
			if p.was.Steps[i].Name == name && p.ids[p.was.Steps[i].ID] == 0 && !slices.Contains(p.was.steps, i) {
				before = i
				break
			}
		}
	}
	if before >= 0 && p.ids[p.was.Steps[before].ID] == 0 {
		p.ids[p.was.Steps[before].ID]++
		return p.was.Steps[before].ID
	}
	return unique(slug(name), p.ids)
}

// after says what a step comes after: what the line says, else the step above; and gives the waits between.
func (p *parser) after(r *reader, s *kitchen.Step) {
	n := len(p.out.Steps)
	switch {
	case r.first:
	case len(s.After) > 0 || n == 0:
	case r.meanwhile:
		other := n - 1
		for i := range p.out.Steps {
			if p.out.Steps[i].ID == r.besideStep {
				other = i
			}
		}
		for _, a := range p.out.Steps[other].After {
			s.After = append(s.After, kitchen.Predecessor{Step: a.Step})
		}
	default:
		s.After = append(s.After, kitchen.Predecessor{Step: p.out.Steps[n-1].ID})
	}
	for _, w := range p.pending {
		for i := range s.After {
			if w.after == "" && i == 0 || w.after != "" && s.After[i].Step == w.after {
				s.After[i].Wait = w.wait
			}
		}
	}
	p.pending = nil
}
