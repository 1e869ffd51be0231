// Package card prints a dish on paper: one card with the plate drawn from the computed
// outlines, the sequence, amounts, tools, the last check, allergens and the version, as
// a PDF in A5 (landscape) or A4 (portrait).
package card

import (
	"bytes"
	"fmt"
	"math"
	"strconv"
	"strings"
	"time"

	"github.com/go-pdf/fpdf"
	"golang.org/x/image/font/gofont/gobold"
	"golang.org/x/image/font/gofont/goregular"

	"jointime/core/kitchen"
	"jointime/core/plating"
)

// Size of the paper.
type Size string

// The two sizes.
const (
	A5 Size = "A5"
	A4 Size = "A4"
)

// Card is everything that stands on one.
type Card struct {
	House     string
	Dish      *kitchen.Dish // its specification is the one to print
	Variant   string        // "" for the plate as written
	Version   int64
	State     string
	Changed   time.Time
	Vessel    *kitchen.Vessel
	Elements  []kitchen.Element // as the variant has them
	Units     []kitchen.Unit    // one for each element
	Plate     *plating.Plate
	Allergens []kitchen.AllergenLine
	Unknown   []string // components whose recipe was not entered
	Diets     []string // diets that it suits by its recipes
}

const (
	margin = 9.0
	face   = "go"
)

type sheet struct {
	*fpdf.Fpdf
	w, h, y float64
	bold    bool // the present style of text
	points  float64
	colour  [3]int
}

// PDF makes the card. The same card gives the same bytes.
func PDF(c *Card, size Size) ([]byte, error) {
	orientation := "P"
	if size == A5 {
		orientation = "L"
	}
	f := fpdf.New(orientation, "mm", string(size), "")
	f.AddUTF8FontFromBytes(face, "", goregular.TTF)
	f.AddUTF8FontFromBytes(face, "B", gobold.TTF)
	f.SetTitle(inPlane(c.Dish.Name), true)
	f.SetCreator("Jointime", true)
	f.SetCreationDate(c.Changed)
	f.SetModificationDate(c.Changed)
	f.SetCatalogSort(true)
	f.SetMargins(margin, margin, margin)
	f.SetAutoPageBreak(false, 0)
	f.AddPage()
	s := &sheet{Fpdf: f}
	s.w, s.h = f.GetPageSize()
	s.y = margin
	s.head(c)
	if size == A5 {
		top := s.y
		side := math.Min(74, s.h-top-margin-8)
		s.plate(c, margin, top, side)
		left := margin + side + 5
		below := top + side*c.Plate.DepthMm/math.Max(c.Plate.WidthMm, 1) + 2
		s.sequence(c, left, s.w-margin-left)
		// The notes go where there is more room: beside the plate or under it.
		if s.PageCount() > 1 || s.y <= below {
			s.notes(c, left, s.w-margin-left)
		} else {
			s.y = below
			s.notes(c, margin, side)
		}
	} else {
		side := math.Min(120, s.w-2*margin)
		s.plate(c, (s.w-side)/2, s.y, side)
		s.y += side*c.Plate.DepthMm/math.Max(c.Plate.WidthMm, 1) + 6
		s.sequence(c, margin, s.w-2*margin)
		s.notes(c, margin, s.w-2*margin)
	}
	s.foot(c)
	var out bytes.Buffer
	if err := f.Output(&out); err != nil {
		return nil, fmt.Errorf("making the card: %w", err)
	}
	return out.Bytes(), nil
}

// inPlane leaves out what a document's properties cannot hold.
func inPlane(s string) string {
	return strings.Map(func(r rune) rune {
		if r > 0xffff {
			return -1
		}
		return r
	}, s)
}

func (s *sheet) font(style string, points float64) {
	s.bold, s.points = style == "B", points
	s.SetFont(face, style, points)
}

func (s *sheet) ink(r, g, b int) {
	s.colour = [3]int{r, g, b}
	s.SetTextColor(r, g, b)
}

// room begins a new page when h millimetres are not left.
func (s *sheet) room(h float64) {
	if s.y+h > s.h-margin-6 {
		s.AddPage()
		s.y = margin
	}
}

// block writes text of one style within a width and moves down.
func (s *sheet) block(x, w, line float64, text string) {
	for _, l := range s.lines(text, w) {
		s.room(line)
		s.put(x, s.y+line*0.76, l)
		s.y += line
	}
}

func (s *sheet) head(c *Card) {
	s.ink(32, 48, 58)
	s.font("B", 15)
	s.block(margin, s.w-2*margin, 6.4, c.Dish.Name)
	s.font("", 9)
	s.ink(92, 107, 115)
	line := []string{}
	if c.Variant != "" {
		line = append(line, "Variant: "+c.Variant)
	}
	line = append(line, fmt.Sprintf("%s, %s", c.Vessel.Name, c.Dish.Specification.VesselTemp),
		fmt.Sprintf("%.0f g on the plate", c.Plate.WeightG))
	if c.Dish.Specification.Facing != "" {
		line = append(line, "towards the guest: "+c.Dish.Specification.Facing)
	}
	s.block(margin, s.w-2*margin, 4.4, strings.Join(line, "  ·  "))
	s.SetDrawColor(31, 78, 121)
	s.SetLineWidth(0.5)
	s.Line(margin, s.y+1, s.w-margin, s.y+1)
	s.y += 4
}

// plate draws the computed outlines into a square, to one scale.
func (s *sheet) plate(c *Card, x, y, side float64) {
	p := c.Plate
	scale := side / math.Max(p.WidthMm, p.DepthMm)
	cx, cy := x+side/2, y+p.DepthMm*scale/2
	at := func(q plating.Point) fpdf.PointType { return fpdf.PointType{X: cx + q.X*scale, Y: cy + q.Y*scale} }
	poly := func(ps []plating.Point, style string) {
		out := make([]fpdf.PointType, len(ps))
		for i, q := range ps {
			out[i] = at(q)
		}
		s.Polygon(out, style)
	}
	s.SetLineWidth(0.5)
	s.SetDrawColor(31, 78, 121)
	s.SetFillColor(255, 255, 255)
	poly(p.Outer, "FD")
	s.SetLineWidth(0.15)
	s.SetDrawColor(200, 194, 180)
	poly(p.Well, "D")
	for _, e := range p.FromBelow() {
		r, g, b := colour(e.Colour)
		for _, piece := range e.Pieces {
			s.SetFillColor(r, g, b)
			s.SetDrawColor(r*6/10, g*6/10, b*6/10)
			s.SetLineWidth(0.2)
			poly(piece.Outline, "FD")
			s.SetLineWidth(0.1)
			for _, l := range piece.Lines {
				for i := 1; i < len(l); i++ {
					a, b := at(l[i-1]), at(l[i])
					s.Line(a.X, a.Y, b.X, b.Y)
				}
			}
		}
	}
	s.font("B", 7)
	s.ink(32, 48, 58)
	var beads []fpdf.PointType
	for _, e := range p.Elements {
		q := at(e.At)
		for _, b := range beads { // two numbers on one spot stand beside each other
			if math.Hypot(q.X-b.X, q.Y-b.Y) < 4.1 {
				q.X = b.X + 4.2
			}
		}
		beads = append(beads, q)
		s.SetFillColor(255, 255, 255)
		s.SetDrawColor(31, 78, 121)
		s.SetLineWidth(0.25)
		s.Circle(q.X, q.Y, 2, "FD")
		n := strconv.Itoa(e.Number)
		s.put(q.X-s.width(n)/2, q.Y+0.9, n)
	}
}

func colour(hex string) (r, g, b int) {
	v, err := strconv.ParseUint(strings.TrimPrefix(hex, "#"), 16, 32)
	if err != nil || len(hex) != 7 {
		return 201, 194, 178
	}
	return int(v >> 16), int(v >> 8 & 255), int(v & 255)
}

// Amount writes an amount with its unit.
func Amount(v float64, u kitchen.Unit) string {
	word := string(u)
	if (u == kitchen.Pieces || u == kitchen.Spoons) && v != 1 {
		word += "s"
	}
	return strconv.FormatFloat(v, 'f', -1, 64) + " " + word
}

func (s *sheet) sequence(c *Card, x, w float64) {
	const line = 3.9
	cols := []float64{6, 0, 19, 0, 0, 12}
	rest := w - cols[0] - cols[2] - cols[5]
	cols[1], cols[3], cols[4] = rest*0.36, rest*0.41, rest*0.23
	s.font("", 8.5)
	for i := range c.Elements {
		e := &c.Elements[i]
		cells := []string{strconv.Itoa(i + 1), c.Plate.Elements[i].Name, Amount(e.Amount, c.Units[i]),
			kitchen.FormName(e) + ", " + kitchen.PlaceWords(e), e.Tool, fmt.Sprintf("%d s", e.Seconds)}
		if e.Look != "" {
			cells[3] += ": " + e.Look
		}
		if e.LastMoment {
			cells[1] += " (last moment)"
		}
		high := 1
		split := make([][]string, len(cells))
		for k, text := range cells {
			if k == 1 {
				s.font("B", 8.5)
			} else {
				s.font("", 8.5)
			}
			split[k] = s.lines(text, cols[k]-1.5)
			high = max(high, len(split[k]))
		}
		s.room(float64(high)*line + 1.4)
		left := x
		for k, lines := range split {
			s.ink(32, 48, 58)
			if k == 1 {
				s.font("B", 8.5)
			} else {
				s.font("", 8.5)
			}
			for n, l := range lines {
				s.put(left, s.y+line*(float64(n)+0.8), l)
			}
			left += cols[k]
		}
		s.y += float64(high)*line + 0.7
		s.SetDrawColor(220, 214, 200)
		s.SetLineWidth(0.1)
		s.Line(x, s.y, x+w, s.y)
		s.y += 0.7
	}
}

func (s *sheet) notes(c *Card, x, w float64) {
	spec := &c.Dish.Specification
	say := func(title, text string) {
		if text == "" {
			return
		}
		s.font("B", 8)
		s.ink(31, 78, 121)
		s.room(2 * 3.8)
		s.put(x, s.y+2.9, title)
		s.y += 3.8
		s.font("", 8.5)
		s.ink(32, 48, 58)
		s.block(x, w, 3.8, text)
		s.y += 0.9
	}
	say("Before it leaves", strings.Join(spec.FinalChecks, " · "))
	say("At the table", spec.TableSide)
	if spec.StandLimitS > 0 {
		say("May stand", fmt.Sprintf("%d:%02d min", spec.StandLimitS/60, spec.StandLimitS%60))
	}
	var names []string
	for _, a := range c.Allergens {
		names = append(names, a.Name)
	}
	text := "none in the recipes"
	if len(names) > 0 {
		text = strings.Join(names, ", ")
	}
	if len(c.Unknown) > 0 {
		// What nobody entered is not known: it is never printed as none.
		text = "not known (" + strings.Join(c.Unknown, "; ") + ")"
		if len(names) > 0 {
			text = strings.Join(names, ", ") + "; and " + text
		}
	}
	say("Allergens from the recipes", text+". Ask the kitchen about traces.")
	say("Diets, by its recipes", strings.Join(c.Diets, ", "))
}

func (s *sheet) foot(c *Card) {
	for n := 1; n <= s.PageCount(); n++ {
		s.SetPage(n)
		s.font("", 7.5)
		s.ink(92, 107, 115)
		s.put(margin, s.h-margin+2, fmt.Sprintf("%s  ·  Version %d, %s, %s", c.House, c.Version, c.State,
			c.Changed.Format("2 January 2006, 15:04")))
	}
}
