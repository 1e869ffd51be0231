package card

import (
	"strings"
	"unicode"

	"golang.org/x/image/font/sfnt"
)

// pointMM is a point in millimetres.
const pointMM = 25.4 / 72

// width is how wide a text stands in the present style, in millimetres.
func (s *sheet) width(text string) (mm float64) {
	for _, l := range letters(text, s.bold) {
		mm += l.advance * s.points * pointMM
	}
	return mm
}

// put sets a text with its base line at y.
func (s *sheet) put(x, y float64, text string) {
	em := s.points * pointMM
	s.SetFillColor(s.colour[0], s.colour[1], s.colour[2])
	var run strings.Builder
	at := x
	flush := func() {
		if run.Len() > 0 {
			s.Text(at, y, run.String())
			run.Reset()
		}
	}
	for _, l := range letters(text, s.bold) {
		if l.text {
			if run.Len() == 0 {
				at = x
			}
			run.WriteRune(l.char)
			x += l.advance * em
			continue
		}
		flush()
		switch {
		case l.outline != nil:
			s.draw(x, y, em, *l.outline)
		case l.unknown:
			s.SetDrawColor(s.colour[0], s.colour[1], s.colour[2])
			s.SetLineWidth(0.12)
			s.Rect(x+0.1*em, y-0.7*em, 0.5*em, 0.7*em, "D")
		}
		x += l.advance * em
	}
	flush()
}

// draw fills an outline.
func (s *sheet) draw(x, y, em float64, outline sfnt.Segments) {
	px := func(seg *sfnt.Segment, k int) (float64, float64) {
		return x + float64(seg.Args[k].X)/perEm*em, y + float64(seg.Args[k].Y)/perEm*em
	}
	open := false
	for i := range outline {
		seg := &outline[i]
		switch seg.Op {
		case sfnt.SegmentOpMoveTo:
			if open {
				s.ClosePath()
			}
			s.MoveTo(px(seg, 0))
			open = true
		case sfnt.SegmentOpLineTo:
			s.LineTo(px(seg, 0))
		case sfnt.SegmentOpQuadTo:
			cx, cy := px(seg, 0)
			tx, ty := px(seg, 1)
			s.CurveTo(cx, cy, tx, ty)
		case sfnt.SegmentOpCubeTo:
			ax, ay := px(seg, 0)
			bx, by := px(seg, 1)
			tx, ty := px(seg, 2)
			s.CurveBezierCubicTo(ax, ay, bx, by, tx, ty)
		}
	}
	if open {
		s.ClosePath()
		s.DrawPath("F")
	}
}

// lines breaks a text into lines of a width: between words, and inside a word that is wider
// or in a script that has no blanks.
func (s *sheet) lines(text string, w float64) []string {
	var out []string
	for _, paragraph := range strings.Split(text, "\n") {
		line := ""
		for _, word := range strings.Fields(paragraph) {
			next := word
			if line != "" {
				next = line + " " + word
			}
			if s.width(next) <= w {
				line = next
				continue
			}
			if line != "" {
				out = append(out, line)
			}
			line = word
			for s.width(line) > w {
				head, rest := s.breakAt(line, w)
				out = append(out, head)
				line = rest
			}
		}
		out = append(out, line)
	}
	return out
}

// breakAt is as much of a word as fits, one letter at least, and the rest. What joins letters
// stays with them.
func (s *sheet) breakAt(word string, w float64) (head, rest string) {
	rs := []rune(word)
	n := 1
	for n < len(rs) && (s.width(string(rs[:n+1])) <= w || unicode.In(rs[n], unicode.Mn, unicode.Cf, unicode.Variation_Selector)) {
		n++
	}
	return string(rs[:n]), string(rs[n:])
}
