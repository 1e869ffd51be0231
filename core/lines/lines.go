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
	waitLine  = regexp.MustCompile(`^(?:rest|wait|hold|keep|at once)\b`)
	half      = `(` + length + `)(?: (?:plus|and) (` + length + `) (?:each|a portion))?`
	handsIn   = regexp.MustCompile(`\bhands ` + half + ` to (?:lay|put|set) (?:it |them )?in(?:,? and ` + half + ` to (?:take|lift) (?:it |them )?out)?`)
	handsOut  = regexp.MustCompile(`\bhands ` + half + ` to (?:take|lift) (?:it |them )?out`)
	noEnds    = regexp.MustCompile(`\bno hands to (?:lay|put|set) in or take out\b`)
	touch     = regexp.MustCompile(`([^,]+?) (half-?way|every ` + length + `|` + length + ` before the end|` + length + ` after the start) for (` + length + `)`)
	away      = regexp.MustCompile(`\b(?:away from the stove|in the walk-in)\b`)
	samePan   = regexp.MustCompile(`\bin the same (?:pan|pot|tray)\b`)
	otherPan  = regexp.MustCompile(`\bin another (?:pan|pot|tray)\b`)
	anyTime   = regexp.MustCompile(`\bmay begin before the call\b`)
	onCall    = regexp.MustCompile(`\bnot before the call\b`)
	atOnce    = regexp.MustCompile(`^at once\b`)
	noLimit   = regexp.MustCompile(`\b(?:no limit|without limit|as long as (?:you|it) likes?)\b`)
	keptHow   = regexp.MustCompile(`\bkept ([^,]+)`)
	care      = regexp.MustCompile(`([^,]+?) for (` + length + `) every (` + length + `)`)
	potLine   = regexp.MustCompile(`^standing pot\b`)
	goodFor   = regexp.MustCompile(`\bgood for (` + length + `)`)
	untilWhat = regexp.MustCompile(`\buntil ([^,]+)`)
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
	afterOf   = regexp.MustCompile(`(?:at least (` + length + `) )?(?:best (` + length + `) )?(?:at most (` + length + `) )?` +
		`(?:(no limit) )?(?:kept (on the bench|hot|chilled|frozen|dry) )?(?:taken )?\bafter ([a-z0-9-]+) of ([a-z0-9-]+)\b( in its (?:pan|pot|tray)\b)?`)
	ifItMust  = regexp.MustCompile(`\bif it must,? up to (` + length + `)(?: in the ([a-z-]+(?: bath| chiller)?))?`)
	eachPiece = regexp.MustCompile(`\bfor each piece\b`)
	fills     = regexp.MustCompile(`\bfills (\d+)(?: for (\d+))? of ([a-z0-9-]+)(?: until ([a-z0-9-]+))?`)
	anybody   = regexp.MustCompile(`\banybody may do it\b`)
	ownPeople = regexp.MustCompile(`\bits section alone\b`)
	onlyBy    = regexp.MustCompile(`\bonly by ([a-z0-9-]+)`)
	wish      = regexp.MustCompile(`\b([a-z ]+?) (` + length + `) (more|less)\b(?: but for (\d+) at the ends)?`)
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
	const heat = `\d{2,3}(?:[.,]\d)? ?(?:°|degrees)? ?[cf]?`
	return regexp.MustCompile(`(?:\b(?:in|on|into|onto) the |\b(?:in|on) )?\b(` + strings.Join(words, "|") + `)s?\b(?: taking (\d+))?` +
		`(?: at| to)?(?: (gas(?: mark)? \d|` + heat + `)\b°?(?: ?(?:to|-|–) ?(` + heat + `\b)°?)?)?`)
}()

type reader struct {
	rest       string
	understood []message.Message
	saidEnds   bool // the line says how long the hands are at the ends
	looseHands bool // … and not what is between: that goes by where it is done
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

// Parse reads lines into the steps, the hold and the standing pot of c, which keeps everything else. It
// never fails: what is not understood stays in the names, and is said.
func Parse(c kitchen.Component, text string) (kitchen.Component, []Reading) {
	readings := []Reading{}
	phase := kitchen.Ahead
	c.Steps, c.Hold, c.Pot = []kitchen.Step{}, kitchen.Wait{}, nil
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
		case potLine.MatchString(low):
			r := &reader{rest: line}
			c.Pot = readPot(r)
			reading.Understood = append(reading.Understood, r.understood...)
			reading.Unsure = r.unsureWait()
		case waitLine.MatchString(low) && len(c.Steps) > 0 && !saysHands(low):
			r := &reader{rest: line}
			w := readWait(r)
			pending = &w
			reading.Understood = append(reading.Understood, r.understood...)
			reading.Unsure = r.unsureWait()
		default:
			r := &reader{rest: line}
			s := readStep(r, &c, phase)
			s.ID = unique(slug(s.Name), ids)
			if len(s.After) == 0 && len(c.Steps) > 0 {
				s.After = append(s.After, kitchen.Predecessor{Step: c.Steps[len(c.Steps)-1].ID})
			}
			if pending != nil && len(s.After) > 0 {
				s.After[0].Wait, pending = *pending, nil
			}
			c.Steps = append(c.Steps, s)
			reading.Understood = append(reading.Understood, r.understood...)
			if s.Time.Fixed.Likely == 0 && s.Time.PerPortion.Likely == 0 && !setsTime(&s) {
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
