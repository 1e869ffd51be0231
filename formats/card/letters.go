package card

import (
	"os"
	"strings"
	"sync"
	"unicode"

	"github.com/go-fonts/dejavu/dejavusans"
	"golang.org/x/image/font"
	"golang.org/x/image/font/gofont/gobold"
	"golang.org/x/image/font/gofont/goregular"
	"golang.org/x/image/font/sfnt"
	"golang.org/x/image/math/fixed"
	"golang.org/x/text/unicode/bidi"
)

// A card is set in the Go fonts, which know Latin, Greek and Cyrillic. What they do not know
// is drawn from the outlines of fonts that do: DejaVu Sans, which is built in, and GNU
// Unifont (Debian's fonts-unifont, which ./start installs), which knows nearly every script
// and sign. What none of them knows, or where Unifont is missing, is an empty box.
//
// Letters that change their form with their neighbours (Arabic, and the clusters of India's
// scripts) stand in their simple forms.

// unifont is where the Debian package keeps it.
var unifont = []string{"/usr/share/fonts/opentype/unifont/unifont.otf", "/usr/share/fonts/opentype/unifont/unifont_upper.otf"}

// letter is how one character is set: in the Go font as text, or by its outline.
type letter struct {
	char    rune
	advance float64        // in ems
	outline *sfnt.Segments // nil for text, for blanks, and for what nothing knows
	text    bool
	unknown bool
}

// type of a face: an outline font with the buffer that reading it needs.
type outlines struct {
	font *sfnt.Font
	em   fixed.Int26_6
}

var (
	regularFace = sync.OnceValue(func() *outlines { return parse(goregular.TTF) })
	boldFace    = sync.OnceValue(func() *outlines { return parse(gobold.TTF) })
	// others are asked in this order for what the Go fonts do not have.
	others = sync.OnceValue(func() []*outlines {
		list := []*outlines{parse(dejavusans.TTF)}
		for _, path := range unifont {
			raw, err := os.ReadFile(path)
			if err != nil {
				continue // not installed: boxes stand for what only it knows
			}
			if f := parse(raw); f != nil {
				list = append(list, f)
			}
		}
		return list
	})
)

func parse(raw []byte) *outlines {
	f, err := sfnt.Parse(raw)
	if err != nil {
		return nil
	}
	return &outlines{f, fixed.I(int(f.UnitsPerEm()))}
}

// has reports the glyph of a character, and its advance in ems.
func (o *outlines) has(b *sfnt.Buffer, r rune) (g sfnt.GlyphIndex, advance float64, ok bool) {
	if o == nil {
		return 0, 0, false
	}
	g, err := o.font.GlyphIndex(b, r)
	if err != nil || g == 0 {
		return 0, 0, false
	}
	a, err := o.font.GlyphAdvance(b, g, o.em, font.HintingNone)
	if err != nil {
		return 0, 0, false
	}
	return g, float64(a) / float64(o.em), true
}

// letters says how a text is set, from left to right: what is written from right to left is
// turned round first.
func letters(text string, bold bool) []letter {
	main := regularFace()
	if bold {
		main = boldFace()
	}
	var buffer sfnt.Buffer
	var out []letter
	for _, r := range visual(text) {
		if unicode.IsControl(r) || unicode.Is(unicode.Cf, r) || unicode.Is(unicode.Variation_Selector, r) {
			continue // it joins or chooses, and has no form of its own
		}
		if _, a, ok := main.has(&buffer, r); ok && r <= 0xffff {
			out = append(out, letter{char: r, advance: a, text: true})
			continue
		}
		out = append(out, drawn(&buffer, r))
	}
	return out
}

// drawn is a character by its outline.
func drawn(b *sfnt.Buffer, r rune) letter {
	for _, o := range others() {
		g, a, ok := o.has(b, r)
		if !ok {
			continue
		}
		segments, err := o.font.LoadGlyph(b, g, o.em, nil)
		if err != nil {
			continue
		}
		// The buffer is used again for the next; the outline is kept, in ems.
		kept := make(sfnt.Segments, len(segments))
		for i, s := range segments {
			for k := range s.Args {
				s.Args[k].X, s.Args[k].Y = s.Args[k].X*1024/o.em, s.Args[k].Y*1024/o.em
			}
			kept[i] = s
		}
		return letter{char: r, advance: a, outline: &kept}
	}
	return letter{char: r, advance: 0.7, unknown: true}
}

// perEm is how many units of a kept outline make an em.
const perEm = 1024

// visual is a text in the order in which it stands on paper.
func visual(text string) string {
	if !strings.ContainsFunc(text, fromTheRight) {
		return text
	}
	var p bidi.Paragraph
	if _, err := p.SetString(text); err != nil {
		return text
	}
	order, err := p.Order()
	if err != nil {
		return text
	}
	out := ""
	for i := range order.NumRuns() {
		run := order.Run(i)
		if run.Direction() == bidi.RightToLeft {
			out += bidi.ReverseString(run.String())
		} else {
			out += run.String()
		}
	}
	return out
}

// fromTheRight reports whether a letter is written from right to left.
func fromTheRight(r rune) bool {
	p, _ := bidi.LookupRune(r)
	return p.Class() == bidi.R || p.Class() == bidi.AL
}
