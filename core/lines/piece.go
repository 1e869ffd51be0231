package lines

import (
	"fmt"
	"strings"

	"jointime/core/heat"
	"jointime/core/kitchen"
	"jointime/core/message"
)

// The size of what is heated: "25 mm thick, to 54", "a 1.2 kg cylinder of meat, core from 8 to 58". A shape, a food and a temperature that
// are not said are the usual ones of the component.

var (
	shapes  = words(heat.Shapes())
	foods   = words(heat.Foods())
	thick   = pattern("[a|an] {n} (mm|cm) thick [" + shapes + "] [of (" + foods + ")] [(for {text} but for {n:ends} at the ends|for {text})]")
	weighs  = pattern("[a|an] {n} (g|kg) (" + shapes + ") [of (" + foods + ")]")
	coreFro = pattern("core from {c:from} to {c:to}")
	coreTo  = pattern("[core] to {deg} [(for {text} but for {n:ends} at the ends|for {text})]")
	medium  = pattern("medium {deg}")
	took    = pattern("{n} times as long by {n:probes} probes")
)

func words[S ~string](list []S) string {
	var out []string
	for _, w := range list {
		out = append(out, string(w))
	}
	return strings.Join(out, "|")
}

// among is the first of some words that stands among the tokens of a phrase.
func among[S ~string](r *reader, f *found, list []S) (out S) {
	for i := f.from; i < f.to; i++ {
		for _, w := range list {
			if r.tokens[i].text == string(w) {
				return w
			}
		}
	}
	return out
}

func (r *reader) mm(f *found) float64 {
	if r.tokensSay(f, "cm") {
		return f.number["n"] * 10
	}
	return f.number["n"]
}

// piece takes what a line says of the size that is heated. The temperatures are looked for only beside a size: "from 3 to 5 min" is a time.
func (r *reader) piece(c *kitchen.Component, s *kitchen.Step) {
	var p *kitchen.Piece
	r.all(thick, func(f *found) bool {
		if wish := f.text["text"]; wish != "" {
			s.Doneness = append(s.Doneness, kitchen.Doneness{Name: strings.ToLower(wish), Mm: r.mm(f), Ends: whole(f.number["ends"])})
			r.saw(message.Of("line.wish-size", "wish", wish, "mm", r.mm(f)))
			return true
		}
		p = r.usualPiece(c, s, f)
		p.Mm = r.mm(f)
		return true
	})
	if p == nil {
		f, ok := r.last(weighs)
		if !ok {
			return
		}
		p = r.usualPiece(c, s, &f)
		p.Mm, p.Grams = 0, f.number["n"]
		if r.tokensSay(&f, "kg") {
			p.Grams *= 1000
		}
	}
	if f, ok := r.last(coreFro); ok {
		p.StartC, p.TargetC = f.heat["from"].low, f.heat["to"].low
	}
	r.all(coreTo, func(f *found) bool {
		to := f.heat["deg"].low
		if f.from > r.start && (r.is(f.from-1, "at", "set") || r.tokens[f.from-1].kind == numeral) {
			return false
		}
		if wish := f.text["text"]; wish != "" {
			s.Doneness = append(s.Doneness, kitchen.Doneness{Name: strings.ToLower(wish), TargetC: &to, Ends: whole(f.number["ends"])})
			r.saw(message.Of("line.wish-core", "wish", wish, "target", to))
		} else {
			p.TargetC = to
		}
		return true
	})
	if f, ok := r.last(medium); ok {
		c := f.heat["deg"].low
		p.MediumC = &c
	}
	if f, ok := r.last(took); ok {
		p.Factor, p.Observed = f.number["n"], whole(f.number["probes"])
	}
	s.Piece = p
	said := message.Of("line.piece", "what", string(p.Shape), "food", string(p.Food), "mm", p.Mm, "start", p.StartC, "target", p.TargetC)
	if p.Mm == 0 {
		said = message.Of("line.piece-weight", "what", string(p.Shape), "food", string(p.Food), "grams", p.Grams, "start", p.StartC,
			"target", p.TargetC)
	}
	r.saw(said)
}

func (r *reader) usualPiece(c *kitchen.Component, s *kitchen.Step, f *found) *kitchen.Piece {
	named := *s
	named.Name = r.raw
	p := c.UsualPiece(&named)
	if shape := among(r, f, heat.Shapes()); shape != "" {
		p.Shape = shape
	}
	if food := among(r, f, heat.Foods()); food != "" {
		p.Food = food
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
