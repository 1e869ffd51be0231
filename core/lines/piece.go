package lines

import (
	"fmt"
	"regexp"
	"strings"

	"jointime/core/heat"
	"jointime/core/kitchen"
	"jointime/core/message"
)

// The size of what is heated: "25 mm thick, to 54", "a 1.2 kg cylinder of meat, core from 8 to 58". A shape, a food and a temperature that
// are not said are the usual ones of the component.

var (
	shapeWords = words(heat.Shapes())
	foodWords  = words(heat.Foods())
	thick      = regexp.MustCompile(`(?:\ban? )?(` + amount + `) ?(mm|cm) thick(?: (` + shapeWords + `))?(?: of (` + foodWords + `))?` + forWish)
	weighs     = regexp.MustCompile(`(?:\ban? )?(` + amount + `) ?(g|kg) (` + shapeWords + `)(?: of (` + foodWords + `))?`)
	coreFrom   = regexp.MustCompile(`\bcore from (-?` + amount + `) ?°?c? to (` + amount + `) ?°?c?`)
	coreTo     = regexp.MustCompile(`\b(?:core )?to (` + amount + `) ?(?:°c?|degrees|c\b)?(?:` + wishName + `)?(?:$| ?,)`)
	coreThen   = regexp.MustCompile(`(?i)\b(to ` + amount + ` ?(?:°c?|degrees|c\b)?) ((?:in|on) )`)
	inHeat     = regexp.MustCompile(`\bmedium (` + amount + `)`)
	observed   = regexp.MustCompile(`\b(` + amount + `) times as long by (\d+) probes\b`)
)

// forWish is whose wish a size or a core is.
const (
	wishName = ` for ([a-z][a-z ]*?)(?: but for (\d+) at the ends)?`
	forWish  = `(?:` + wishName + `(?:$| ?,))?`
)

func words[S ~string](list []S) string {
	var out []string
	for _, w := range list {
		out = append(out, string(w))
	}
	return strings.Join(out, "|")
}

func mmOf(value, unit string) float64 {
	mm := number(value)
	if unit == "cm" {
		mm *= 10
	}
	return mm
}

// piece takes what a line says of the size that is heated. The temperatures are looked for only beside a size: "from 3 to 5 min" is a time.
func (r *reader) piece(c *kitchen.Component, s *kitchen.Step) {
	var p *kitchen.Piece
	for _, m := range r.takeAll(thick) {
		if m[5] != "" {
			s.Doneness = append(s.Doneness, kitchen.Doneness{Name: strings.TrimSpace(m[5]), Mm: mmOf(m[1], m[2]), Ends: int(number(m[6]))})
			r.saw(message.Of("line.wish-size", "wish", strings.TrimSpace(m[5]), "mm", mmOf(m[1], m[2])))
			continue
		}
		p = r.usualPiece(c, s, m[3], m[4])
		p.Mm = mmOf(m[1], m[2])
	}
	if p == nil {
		m := r.take(weighs)
		if m == nil {
			return
		}
		p = r.usualPiece(c, s, m[3], m[4])
		p.Mm, p.Grams = 0, number(m[1])
		if m[2] == "kg" {
			p.Grams *= 1000
		}
	}
	if m := r.take(coreFrom); m != nil {
		p.StartC, p.TargetC = number(strings.TrimPrefix(m[1], "-")), number(m[2])
		if strings.HasPrefix(m[1], "-") {
			p.StartC = -p.StartC
		}
	}
	r.rest = coreThen.ReplaceAllString(r.rest, "$1, $2")
	for _, m := range r.takeAll(coreTo) {
		c := number(m[1])
		if wish := strings.TrimSpace(m[2]); wish != "" {
			s.Doneness = append(s.Doneness, kitchen.Doneness{Name: wish, TargetC: &c, Ends: int(number(m[3]))})
			r.saw(message.Of("line.wish-core", "wish", wish, "target", c))
		} else {
			p.TargetC = c
		}
	}
	if m := r.take(inHeat); m != nil {
		c := number(m[1])
		p.MediumC = &c
	}
	if m := r.take(observed); m != nil {
		p.Factor, p.Observed = number(m[1]), int(number(m[2]))
	}
	s.Piece = p
	said := message.Of("line.piece", "what", string(p.Shape), "food", string(p.Food), "mm", p.Mm, "start", p.StartC, "target", p.TargetC)
	if p.Mm == 0 {
		said = message.Of("line.piece-weight", "what", string(p.Shape), "food", string(p.Food), "grams", p.Grams, "start", p.StartC, "target", p.TargetC)
	}
	r.saw(said)
}

func (r *reader) usualPiece(c *kitchen.Component, s *kitchen.Step, shape, food string) *kitchen.Piece {
	named := *s
	named.Name = r.rest
	p := c.UsualPiece(&named)
	if shape != "" {
		p.Shape = heat.Shape(shape)
	}
	if food != "" {
		p.Food = heat.Food(food)
	}
	return &p
}

// sized says a piece so that it is read back.
func sized(s *kitchen.Step) string {
	p := s.Piece
	if p == nil {
		return ""
	}
	out := fmt.Sprintf(", %g mm thick %s of %s", p.Mm, p.Shape, p.Food)
	if p.Mm == 0 {
		out = fmt.Sprintf(", %g g %s of %s", p.Grams, p.Shape, p.Food)
	}
	out += fmt.Sprintf(", core from %g to %g", p.StartC, p.TargetC)
	if p.MediumC != nil {
		out += fmt.Sprintf(", medium %g", *p.MediumC)
	}
	if p.Observed > 0 {
		out += fmt.Sprintf(", %g times as long by %d probes", p.Factor, p.Observed)
	}
	for _, d := range s.Doneness {
		switch {
		case d.TargetC != nil:
			out += fmt.Sprintf(", to %g for %s", *d.TargetC, d.Name)
		case d.Mm > 0:
			out += fmt.Sprintf(", %g mm thick for %s", d.Mm, d.Name)
		default:
			continue
		}
		if d.Ends > 0 {
			out += fmt.Sprintf(" but for %d at the ends", d.Ends)
		}
	}
	return out
}

// setsTime reports whether a step's time follows from its size.
func setsTime(s *kitchen.Step) bool { return s.Piece != nil && !s.Piece.Typed }

// computed reports whether a wish's seconds follow from a core or a size of its own.
func computed(d kitchen.Doneness) bool { return d.TargetC != nil || d.Mm > 0 }
