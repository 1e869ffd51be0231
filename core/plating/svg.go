package plating

import (
	"encoding/xml"
	"fmt"
	"slices"
	"strings"
)

// SVG writes the plate from above as an SVG 1.1 file whose user unit is one
// millimetre, so that it prints at its real size. title and each element's number and
// name stand in it as text.
func (p *Plate) SVG(title string) string {
	var b strings.Builder
	const margin = 12.0
	w, h := p.WidthMm+2*margin, p.DepthMm+2*margin
	fmt.Fprintf(&b, `<svg xmlns="http://www.w3.org/2000/svg" version="1.1" width="%.2fmm" height="%.2fmm" `+
		`viewBox="%.2f %.2f %.2f %.2f">`+"\n", w, h, -w/2, -h/2, w, h)
	fmt.Fprintf(&b, "<title>%s</title>\n", escaped(title))
	fmt.Fprintf(&b, `<path d="%s" fill="#ffffff" stroke="#1f4e79" stroke-width="1.6"/>`+"\n", pathOf(p.Outer, true))
	fmt.Fprintf(&b, `<path d="%s" fill="none" stroke="#d9d3c3" stroke-width="0.5"/>`+"\n", pathOf(p.Well, true))
	for _, e := range p.FromBelow() {
		fmt.Fprintf(&b, `<g id="element-%d"><desc>%s</desc>`+"\n", e.Number, escaped(e.Name))
		for _, piece := range e.Pieces {
			fmt.Fprintf(&b, `<path d="%s" fill="%s" stroke="#3a3128" stroke-width="0.4"/>`+"\n", pathOf(piece.Outline, true), colourOr(e.Colour))
			for _, l := range piece.Lines {
				fmt.Fprintf(&b, `<path d="%s" fill="none" stroke="#3a3128" stroke-opacity="0.5" stroke-width="0.3"/>`+"\n", pathOf(l, false))
			}
		}
		b.WriteString("</g>\n")
	}
	for _, e := range p.Elements {
		fmt.Fprintf(&b, `<circle cx="%.2f" cy="%.2f" r="3.4" fill="#ffffff" stroke="#1f4e79" stroke-width="0.4"/>`+
			`<text x="%.2f" y="%.2f" font-family="sans-serif" font-size="4.4" text-anchor="middle">%d</text>`+"\n",
			e.At.X, e.At.Y, e.At.X, e.At.Y+1.6, e.Number)
	}
	b.WriteString("</svg>\n")
	return b.String()
}

// FromBelow is the order in which elements are seen: what is poured on the floor first.
func (p *Plate) FromBelow() []Drawn {
	out := slices.Clone(p.Elements)
	floor := func(e Drawn) int { return boolInt(e.Form != "pool" || e.BaseMm >= 1) }
	slices.SortStableFunc(out, func(a, b Drawn) int { return floor(a) - floor(b) })
	return out
}

func colourOr(c string) string {
	if c == "" {
		return "#c9c2b2"
	}
	return c
}

func pathOf(ps []Point, closed bool) string {
	var b strings.Builder
	for i, q := range ps {
		c := 'L'
		if i == 0 {
			c = 'M'
		}
		fmt.Fprintf(&b, "%c%.2f %.2f", c, q.X, q.Y)
	}
	if closed {
		b.WriteByte('Z')
	}
	return b.String()
}

func escaped(s string) string {
	var b strings.Builder
	// Writing to a Builder cannot fail.
	_ = xml.EscapeText(&b, []byte(s))
	return b.String()
}
