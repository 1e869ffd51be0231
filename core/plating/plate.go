package plating

import (
	"math"

	"jointime/core/kitchen"
)

// Plate is a specification drawn to scale, with what was found out about it.
type Plate struct {
	Outer    []Point   `json:"outer" nullable:"false" doc:"Outline of the vessel, mm"`
	Well     []Point   `json:"well" nullable:"false" doc:"Outline of what food may cover"`
	WidthMm  float64   `json:"width_mm"`
	DepthMm  float64   `json:"depth_mm"`
	Section  []Point   `json:"section" nullable:"false" doc:"The vessel cut through the middle, seen from the guest: x and height"`
	Elements []Drawn   `json:"elements" nullable:"false"`
	Findings []Finding `json:"findings" nullable:"false"`
	Served   []Served  `json:"served" nullable:"false" doc:"How long each hot element stays hot, the first to be cold first"`
	WeightG  float64   `json:"weight_g"`
	HighMm   float64   `json:"high_mm" doc:"Highest point over the well's floor"`
	Covered  float64   `json:"covered" doc:"Share of the well that is covered, 0 to 1"`
	Centre   Point     `json:"centre" doc:"Centre of weight"`
	Seconds  int       `json:"seconds" doc:"One plate, one pair of hands"`
}

// Drawn is one element as it lies on the plate.
type Drawn struct {
	Number    int               `json:"number"`
	Component string            `json:"component"`
	Name      string            `json:"name"`
	Colour    string            `json:"colour"`
	Form      string            `json:"form"`
	Pieces    []Drawing         `json:"pieces" nullable:"false"`
	At        Point             `json:"at" doc:"Where its middle lies"`
	GramsG    float64           `json:"grams_g"`
	VolumeMl  float64           `json:"volume_ml"`
	BaseMm    float64           `json:"base_mm" doc:"What it stands on lies so high"`
	TopMm     float64           `json:"top_mm"`
	Side      []Point           `json:"side" nullable:"false" doc:"Its outline seen from the guest: x and height"`
	Temp      kitchen.TempClass `json:"temp"`
}

// Drawing is the outline of one piece, and the lines on it.
type Drawing struct {
	Outline []Point   `json:"outline" nullable:"false"`
	Lines   [][]Point `json:"lines" nullable:"false"`
}

// laid is an element in place, with its solids.
type laid struct {
	element *kitchen.Element
	comp    *kitchen.Component
	pieces  []Piece
	base    float64
	at      Point
	box     box
}

// Place is where an element's middle lies: by the clock face or by millimetres.
func Place(a kitchen.At) Point {
	if a.Hour > 0 {
		return polar(a.Hour*30, a.FromCentreMm)
	}
	return Point{a.XMm, a.YMm}
}

// Draw computes the plate of a list of elements (a dish as written, or a variant that is
// to be without some allergens).
func Draw(b *kitchen.Book, spec *kitchen.Specification, elements []kitchen.Element, promised kitchen.Needs) *Plate {
	v, _ := b.Vessel(spec.Vessel)
	p := &Plate{WidthMm: v.WidthMm, DepthMm: depthOf(v), Elements: []Drawn{}, Findings: []Finding{}, Served: []Served{}}
	p.Outer, p.Well = outlines(v)
	p.Section = section(v)
	var ls []laid
	for i := range elements {
		ls = append(ls, lay(b, v, &elements[i], ls))
	}
	for i := range ls {
		p.Elements = append(p.Elements, ls[i].drawn(i+1))
		p.WeightG += p.Elements[i].GramsG
		p.HighMm = math.Max(p.HighMm, p.Elements[i].TopMm)
		p.Seconds += elements[i].Seconds
	}
	p.examine(b, v, spec, ls, promised)
	return p
}

func depthOf(v *kitchen.Vessel) float64 {
	if v.DepthMm > 0 {
		return v.DepthMm
	}
	return v.WidthMm
}

func outlines(v *kitchen.Vessel) (outer, well []Point) {
	w, d := v.WidthMm, depthOf(v)
	if v.Kind == "slate" {
		return rectangle(w, d), rectangle(w-2*v.RimMm, d-2*v.RimMm)
	}
	return ellipse(w/2, d/2, 96), ellipse(w/2-v.RimMm, d/2-v.RimMm, 96)
}

// section is half the vessel's profile, mirrored: floor, wall or slope, rim.
func section(v *kitchen.Vessel) []Point {
	out, well, h := v.WidthMm/2, v.WidthMm/2-v.RimMm, v.HeightMm
	var right []Point
	switch v.Kind {
	case "slate":
		return []Point{{-out, 0}, {-out, -h}, {out, -h}, {out, 0}}
	case "bowl", "cup", "coupe":
		foot := well * 0.55
		if v.Kind == "cup" {
			foot = well * 0.9
		}
		if v.Kind == "coupe" {
			foot = well * 0.8
		}
		rise := h
		if v.RimMm > 20 {
			rise = h * 0.86
		}
		for i := 0; i <= 8; i++ {
			t := float64(i) / 8
			right = append(right, Point{foot + (well-foot)*math.Sin(t*math.Pi/2), rise * (1 - math.Cos(t*math.Pi/2))})
		}
		right = append(right, Point{out, h})
	default:
		right = []Point{{well * 0.94, 0}, {well, h * 0.3}, {out, h}}
	}
	var all []Point
	for i := len(right) - 1; i >= 0; i-- {
		all = append(all, Point{-right[i].X, right[i].Y})
	}
	return append(all, right...)
}

// lay builds the solids of an element and puts them down on what is there.
func lay(b *kitchen.Book, v *kitchen.Vessel, e *kitchen.Element, below []laid) laid {
	c, _ := b.Component(e.Component)
	grams := e.Amount * c.GramsPerUnit
	l := laid{element: e, comp: c, at: Place(e.At)}
	for _, p := range build(held(e.Form, v, grams/c.DensityGPerMl*1000), grams/c.DensityGPerMl*1000) {
		l.pieces = append(l.pieces, p.moved(e.TurnDeg, l.at))
	}
	l.box = boxOf(nil)
	for i := range l.pieces {
		l.box = l.box.with(l.pieces[i].box)
	}
	if e.On > 0 && e.On <= len(below) {
		s := &below[e.On-1]
		// It rests on the highest point under it; beside its support, on the support's
		// mean height, as something that leans.
		top := 0.0
		for _, p := range l.pieces {
			for _, q := range append(p.Outline, l.at) {
				top = math.Max(top, s.heightAt(q))
			}
		}
		l.base = s.base + top
	}
	return l
}

// held deepens a pool that would be wider than the well of a vessel with walls: there
// it stands as deep as it must.
func held(f kitchen.Form, v *kitchen.Vessel, volume float64) kitchen.Form {
	if f.Kind != "pool" || v.Kind != "bowl" && v.Kind != "cup" && v.Kind != "coupe" {
		return f
	}
	r := 0.9 * (math.Min(v.WidthMm, depthOf(v))/2 - v.RimMm)
	f.HeightMm = math.Max(orDefault(f.HeightMm, poolDepth), volume/(math.Pi*r*r))
	return f
}

// heightAt is how high the element is over its base at a point, 0 beside it.
func (l *laid) heightAt(q Point) float64 {
	if !l.box.holds(q) {
		return 0
	}
	h := 0.0
	for i := range l.pieces {
		if l.pieces[i].holds(q) {
			h = math.Max(h, l.pieces[i].High*l.pieces[i].profile(q))
		}
	}
	return h
}

func (l *laid) high() float64 {
	h := 0.0
	for i := range l.pieces {
		h = math.Max(h, l.pieces[i].High)
	}
	return h
}

func (l *laid) drawn(number int) Drawn {
	grams := l.element.Amount * l.comp.GramsPerUnit
	d := Drawn{Number: number, Component: l.comp.ID, Name: l.comp.Name, Colour: l.comp.Colour, Form: l.element.Form.Kind, At: l.at,
		GramsG: grams, VolumeMl: grams / l.comp.DensityGPerMl, BaseMm: l.base, TopMm: l.base + l.high(), Temp: l.element.Temp,
		Pieces: []Drawing{}}
	for _, p := range l.pieces {
		lines := p.Lines
		if lines == nil {
			lines = [][]Point{}
		}
		d.Pieces = append(d.Pieces, Drawing{p.Outline, lines})
	}
	d.Side = l.side()
	return d
}

// side is the silhouette seen from the guest: the greatest height over each x.
func (l *laid) side() []Point {
	const columns, rows = 28, 14
	w, d := l.box.x1-l.box.x0, l.box.y1-l.box.y0
	out := []Point{{l.box.x0, l.base}}
	for i := 0; i <= columns; i++ {
		x := l.box.x0 + w*(float64(i)+0.002)/(columns+0.004)
		h := 0.0
		for k := 0; k <= rows; k++ {
			h = math.Max(h, l.heightAt(Point{x, l.box.y0 + d*(float64(k)+0.5)/(rows+1)}))
		}
		out = append(out, Point{x, l.base + h})
	}
	return append(out, Point{l.box.x1, l.base})
}
