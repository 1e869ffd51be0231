package plating

import (
	"math"

	"jointime/core/kitchen"
)

// Piece is one solid lying on the plate: a footprint, and how high it is where.
// Before it is placed its coordinates are its own, with the origin in its middle.
type Piece struct {
	Outline []Point
	// Lines are drawn on it; they belong to the form (slices, ripples, leaves).
	Lines [][]Point
	// High is its greatest height in mm.
	High float64
	// profile gives the share of High at a point of the footprint, 0 to 1.
	profile func(Point) float64
	// mean is the mean of profile over the footprint; the volume is area·High·mean.
	mean float64
	box  box
}

// box holds an outline: most points lie outside it and need no closer look.
type box struct{ x0, y0, x1, y1 float64 }

func boxOf(ps []Point) box {
	b := box{math.Inf(1), math.Inf(1), math.Inf(-1), math.Inf(-1)}
	for _, q := range ps {
		b = b.with(box{q.X, q.Y, q.X, q.Y})
	}
	return b
}

func (b box) with(c box) box {
	return box{math.Min(b.x0, c.x0), math.Min(b.y0, c.y0), math.Max(b.x1, c.x1), math.Max(b.y1, c.y1)}
}

func (b box) holds(q Point) bool { return q.X >= b.x0 && q.X <= b.x1 && q.Y >= b.y0 && q.Y <= b.y1 }

// gap is how far two boxes lie apart, 0 when they meet.
func (b box) gap(c box) float64 {
	return math.Hypot(math.Max(0, math.Max(b.x0-c.x1, c.x0-b.x1)), math.Max(0, math.Max(b.y0-c.y1, c.y0-b.y1)))
}

// holds reports whether a point lies over the piece.
func (p *Piece) holds(q Point) bool { return p.box.holds(q) && inside(q, p.Outline) }

// Volume of a piece, mm³.
func (p *Piece) Volume() float64 { return area(p.Outline) * p.High * p.mean }

func flat(Point) float64 { return 1 }

// Ratios of the forms whose size follows from the amount alone.
const (
	poolDepth      = 3.0  // mm, a sauce that holds
	foamRise       = 0.45 // height to radius
	heapRise       = 0.62
	quenelleLength = 1.9  // half length to half width
	quenelleHigh   = 0.85 // height of the upper half to half width
	slabDepth      = 6.0  // mm: petals of onion, as they curl
)

// build makes the pieces of a form from a volume in mm³. Sizes that the form does not
// give follow from the volume, so that 30 g of a purée are as large as they are.
func build(f kitchen.Form, volume float64) []Piece {
	n := max(1, f.Count)
	each := volume / float64(n)
	switch f.Kind {
	case "dots":
		// Spherical caps half as high as their radius: V = πh(3r²+h²)/6 with h = r/2.
		r := math.Cbrt(each * 48 / (13 * math.Pi))
		return around(n, f.RadiusMm, false, func(int) Piece { return capOf(r, r/2) })
	case "dome":
		r := math.Cbrt(3 * each / (2 * math.Pi))
		return around(n, f.RadiusMm, false, func(int) Piece { return capOf(r, r) })
	case "foam":
		// V = πh(3r²+h²)/6 with h = c·r.
		r := math.Cbrt(6 * each / (math.Pi * foamRise * (3 + foamRise*foamRise)))
		return around(n, f.RadiusMm, false, func(int) Piece { return capOf(r, foamRise*r) })
	case "quenelle":
		// An ellipsoid on its belly: V = 4/3·π·a·b·c.
		b := math.Cbrt(3 * each / (4 * math.Pi * quenelleLength * quenelleHigh))
		return around(n, f.RadiusMm, true, func(int) Piece { return quenelle(quenelleLength*b, b, 2*quenelleHigh*b) })
	case "cylinder":
		r, h := f.RadiusMm, f.HeightMm
		switch {
		case r > 0:
			h = volume / (math.Pi * r * r)
		case h > 0:
			r = math.Sqrt(volume / (math.Pi * h))
		default:
			r = math.Cbrt(2 * volume / math.Pi) // half as high as its radius
			h = r / 2
		}
		p := Piece{Outline: ellipse(r, r, 64), High: h, profile: flat, mean: 1}
		for i := range 3 {
			p.Lines = append(p.Lines, ellipse(r*(0.3+0.22*float64(i)), r*(0.3+0.22*float64(i)), 40))
		}
		return []Piece{p}
	case "ring":
		return []Piece{ringOf(orDefault(f.RadiusMm, 50), volume)}
	case "drizzle":
		return []Piece{drizzle(orDefault(f.LengthMm, 120), volume)}
	case "swipe":
		return []Piece{swipe(orDefault(f.LengthMm, 110), volume)}
	case "block":
		l, w := f.LengthMm, f.WidthMm
		if l == 0 || w == 0 {
			h := math.Cbrt(volume / 6) // 3 : 2 : 1
			l, w = 3*h, 2*h
		}
		p := Piece{Outline: rectangle(l, w), High: volume / (l * w), profile: flat, mean: 1}
		for i := 1; i < 6; i++ { // its layers
			y := -w/2 + w*float64(i)/6
			p.Lines = append(p.Lines, []Point{{-l/2 + 2, y}, {l/2 - 2, y}})
		}
		return []Piece{p}
	case "fillet":
		return []Piece{fillet(orDefault(f.LengthMm, 100), orDefault(f.WidthMm, 48), volume)}
	case "fan":
		return fan(n, orDefault(f.LengthMm, 80), orDefault(f.WidthMm, 36), each)
	case "batons":
		return batons(n, orDefault(f.LengthMm, 70), f.WidthMm, each)
	case "wedges":
		l := orDefault(f.LengthMm, 60)
		// A prism with a triangle for its end: V = w·h·l/2 with w = 1.15·h; its foot is
		// drawn as a lens of the same area.
		h := math.Sqrt(2 * each / (1.15 * l))
		return around(n, orDefault(f.RadiusMm, 22), true, func(i int) Piece { return lens(l, 1.15*h, h, 0.5) })
	case "petals":
		// Curved shells: area from a steady thickness, twice as long as wide.
		a := each / slabDepth
		w := math.Sqrt(a / (2 * lensShare))
		return around(n, orDefault(f.RadiusMm, 30), true, func(int) Piece { return lens(2*w, w, slabDepth, 1) })
	case "crescents":
		return around(n, orDefault(f.RadiusMm, 34), true, func(int) Piece { return crescent(orDefault(f.LengthMm, 50), each) })
	case "shard":
		return []Piece{shard(orDefault(f.LengthMm, 60), orDefault(f.WidthMm, 24), volume)}
	case "scatter":
		return scatter(orDefault(f.RadiusMm, 28), volume)
	case "heap":
		return []Piece{heap(volume, false)}
	case "leaf-heap":
		return []Piece{heap(volume, true)}
	default: // pool
		return []Piece{pool(volume, orDefault(f.HeightMm, poolDepth))}
	}
}

func orDefault(v, d float64) float64 {
	if v > 0 {
		return v
	}
	return d
}

// around sets n pieces in a circle, or one in the middle; along turns each with the
// circle.
func around(n int, radius float64, along bool, make func(i int) Piece) []Piece {
	var out []Piece
	for i := range n {
		p := make(i)
		if n > 1 {
			deg := 360 * (float64(i) + 0.5*noise(i, 3)*boolFloat(!along)) / float64(n)
			turn := 0.0
			if along {
				turn = deg
			}
			p = p.moved(turn, polar(deg, radius*(1-0.14*noise(i, 5)*boolFloat(!along))))
		}
		out = append(out, p)
	}
	return out
}

func boolFloat(b bool) float64 {
	if b {
		return 1
	}
	return 0
}

// moved turns a piece about its middle and puts it at a place.
func (p Piece) moved(turn float64, to Point) Piece {
	move := func(ps []Point) []Point {
		out := make([]Point, len(ps))
		for i, q := range ps {
			out[i] = q.turned(turn).add(to)
		}
		return out
	}
	q := Piece{Outline: move(p.Outline), High: p.High, mean: p.mean}
	for _, l := range p.Lines {
		q.Lines = append(q.Lines, move(l))
	}
	q.box = boxOf(q.Outline)
	inner := p.profile
	q.profile = func(x Point) float64 { return inner(Point{x.X - to.X, x.Y - to.Y}.turned(-turn)) }
	return q
}

// capOf is a spherical cap of foot radius r and height h ≤ r: V = πh(3r²+h²)/6.
func capOf(r, h float64) Piece {
	sphere := (r*r + h*h) / (2 * h)
	return Piece{Outline: ellipse(r, r, 36), High: h, mean: (3*r*r + h*h) / (6 * r * r), profile: func(p Point) float64 {
		d := p.X*p.X + p.Y*p.Y
		return math.Max(0, (math.Sqrt(math.Max(0, sphere*sphere-d))-(sphere-h))/h)
	}, Lines: [][]Point{arcLine(r*0.55, 200, 320)}}
}

func arcLine(r, from, to float64) []Point {
	var out []Point
	for d := from; d <= to; d += 10 {
		out = append(out, polar(d, r))
	}
	return out
}

// quenelle is an ellipsoid: half axes a and b, height over all h = 2c, V = 4/3·π·a·b·c.
func quenelle(a, b, h float64) Piece {
	p := Piece{Outline: ellipse(a, b, 48), High: h, mean: 2.0 / 3, profile: func(p Point) float64 {
		return math.Sqrt(math.Max(0, 1-p.X*p.X/(a*a)-p.Y*p.Y/(b*b)))
	}}
	// The ridges that two spoons leave.
	for _, y := range []float64{-0.32, 0.28} {
		var l []Point
		for x := -0.84; x <= 0.841; x += 0.12 {
			l = append(l, Point{a * x, b * y * math.Sqrt(1-x*x)})
		}
		p.Lines = append(p.Lines, l)
	}
	return p
}

// ringOf is a rope of half-elliptic section laid in a circle (Pappus): V = 2πR·πwh/4
// with h = w/2.
func ringOf(radius, volume float64) Piece {
	w := math.Sqrt(volume * 4 / (math.Pi * math.Pi * radius))
	w = math.Min(w, 1.8*radius)
	h := volume / (2 * math.Pi * radius * math.Pi * w / 4)
	// A ring is drawn as a band with a hair's gap, so that its outline stays simple.
	var out []Point
	const n = 72
	for i := 0; i <= n; i++ {
		out = append(out, polar(359.6*float64(i)/n, radius+w/2))
	}
	for i := n; i >= 0; i-- {
		out = append(out, polar(359.6*float64(i)/n, radius-w/2))
	}
	return Piece{Outline: scaledAbout(out, 2*math.Pi*radius*w), High: h, mean: math.Pi / 4, profile: func(p Point) float64 {
		d := (math.Hypot(p.X, p.Y) - radius) / (w / 2)
		return math.Sqrt(math.Max(0, 1-d*d))
	}}
}

// scaledAbout corrects the small loss of area by sampling.
func scaledAbout(ps []Point, want float64) []Point {
	if f := area(ps) / want; f < 0.9 || f > 1.1 {
		return ps
	}
	return scaledTo(ps, want)
}

// ribbon is a band of a width along a line, as a simple outline.
func ribbon(line []Point, width func(share float64) float64) []Point {
	var left, right []Point
	for i, p := range line {
		a, b := line[max(0, i-1)], line[min(len(line)-1, i+1)]
		d := a.distance(b)
		w := width(float64(i)/float64(len(line)-1)) / 2
		nx, ny := -(b.Y-a.Y)/d*w, (b.X-a.X)/d*w
		left = append(left, Point{p.X + nx, p.Y + ny})
		right = append([]Point{{p.X - nx, p.Y - ny}}, right...)
	}
	return append(left, right...)
}

// drizzle is a thin wave of half-elliptic section: V = length·πwh/4 with h = w/3. Where
// that would be thicker than its bends allow, it grows in height.
func drizzle(length, volume float64) Piece {
	// A wave is longer than it reaches; the run along it decides.
	var line []Point
	const n = 96
	for i := 0; i <= n; i++ {
		t := float64(i) / n
		line = append(line, Point{(t - 0.5) * length * 0.62, length * 0.12 * math.Sin(t*2*math.Pi*1.5)})
	}
	run := 0.0
	for i := 1; i < len(line); i++ {
		run += line[i].distance(line[i-1])
	}
	w := math.Min(math.Sqrt(volume*12/(math.Pi*run)), length*0.055)
	out := ribbon(line, func(s float64) float64 { return w * (0.6 + 0.4*math.Sin(math.Pi*s)) })
	a := area(out)
	h := volume / (a * math.Pi / 4)
	return Piece{Outline: out, High: h, mean: math.Pi / 4, profile: func(Point) float64 { return math.Pi / 4 }}
}

// swipe is a stroke of a spoon: broad where it starts, thin where it ends.
func swipe(length, volume float64) Piece {
	var line []Point
	const n = 40
	for i := 0; i <= n; i++ {
		t := float64(i) / n
		line = append(line, Point{(t - 0.5) * length, -length * 0.10 * math.Sin(math.Pi*t)})
	}
	shape := func(s float64) float64 { return math.Sqrt(math.Min(1, s*9+0.02)) * (1 - 0.72*s) }
	depth := 4.0
	unit := area(ribbon(line, shape))
	w := volume / (depth * unit)
	if w > length*0.7 { // too much for a stroke: it grows in height
		w = length * 0.7
	}
	out := ribbon(line, func(s float64) float64 { return w * shape(s) })
	p := Piece{Outline: out, High: volume / area(out), mean: 1, profile: flat}
	for k := -1; k <= 1; k++ {
		var l []Point
		for i := 4; i < n-3; i++ {
			q := line[i]
			l = append(l, Point{q.X, q.Y + float64(k)*0.26*w*shape(float64(i)/n)})
		}
		p.Lines = append(p.Lines, l)
	}
	return p
}

// fillet is a portion of fish: a slab that narrows towards the tail.
func fillet(l, w, volume float64) Piece {
	out := closed(56, func(t float64) Point {
		c, s := math.Cos(t), math.Sin(t)
		x := math.Copysign(math.Pow(math.Abs(c), 0.55), c) * l / 2
		narrow := 1 - 0.24*(x/l+0.5)
		return Point{x, math.Copysign(math.Pow(math.Abs(s), 0.62), s) * w / 2 * narrow}
	})
	p := Piece{Outline: out, mean: 0.86}
	p.profile = func(q Point) float64 { // rounded towards its edges
		return 0.86
	}
	p.High = volume / (area(out) * p.mean)
	for i := -3; i <= 3; i++ { // the flakes
		x := float64(i) * l / 9
		var line []Point
		for y := -0.36; y <= 0.361; y += 0.12 {
			line = append(line, Point{x - 0.09*l*(1-math.Pow(y/0.4, 2)) + 0.05*l, y * w})
		}
		p.Lines = append(p.Lines, line)
	}
	return p
}

// fan is overlapping slices; a slice is an elliptic cylinder cut from the roast.
func fan(n int, l, w, each float64) []Piece {
	var out []Piece
	footprint := math.Pi / 4 * l * w * 0.62
	for i := range n {
		p := Piece{Outline: scaledTo(ellipse(l*0.31, w/2, 40), footprint), High: each / footprint, mean: 1, profile: flat}
		p.Lines = [][]Point{scaledTo(ellipse(l*0.31, w/2, 40), footprint*0.82)}
		k := float64(i) - float64(n-1)/2
		out = append(out, p.moved(9*k+8, Point{k * w * 0.5, 2.2 * k * k}))
	}
	return out
}

// batons lie side by side, not quite straight.
func batons(n int, l, w, each float64) []Piece {
	if w == 0 {
		w = math.Sqrt(each / l)
	}
	var out []Piece
	for i := range n {
		p := Piece{Outline: rectangle(l, w), High: each / (l * w), mean: 1, profile: flat}
		p.Lines = [][]Point{{{-l/2 + 3, -w * 0.12}, {l/2 - 3, -w * 0.12}}, {{-l/2 + 5, w * 0.24}, {l/2 - 7, w * 0.24}}}
		k := float64(i) - float64(n-1)/2
		out = append(out, p.moved(5*(noise(i, 1)-0.5), Point{7 * (noise(i, 2) - 0.5), k * (w + 1.2)}))
	}
	return out
}

// lensShare is the area of a lens of length 1 and width 1: a parabola on either side.
const lensShare = 2.0 / 3

// lens is pointed at both ends; mean is the share of its height that it has on average.
func lens(l, w, h, mean float64) Piece {
	const n = 18
	var out []Point
	for i := 0; i < n; i++ {
		x := -1 + 2*float64(i)/n
		out = append(out, Point{x * l / 2, -w / 2 * (1 - x*x)})
	}
	for i := 0; i < n; i++ {
		x := 1 - 2*float64(i)/n
		out = append(out, Point{x * l / 2, w / 2 * (1 - x*x)})
	}
	// Scaled so that the foot has the area of the solid that it stands for.
	want := l * w
	if mean == 1 {
		want = l * w * lensShare
	}
	p := Piece{Outline: scaledTo(out, want), High: h, mean: mean, profile: func(Point) float64 { return mean }}
	var rib []Point
	for x := -0.8; x <= 0.81; x += 0.1 {
		rib = append(rib, Point{x * l / 2, -w * 0.14 * (1 - x*x)})
	}
	p.Lines = [][]Point{rib}
	return p
}

// crescent is a folded dumpling: half an ellipsoid, V = π·l·w·h/6·… with h = 0.7·w.
func crescent(l, each float64) Piece {
	// A half-moon foot of length l and width w has the area π·l·w/4; the body over it
	// has 2/3 of its height on average: V = π·l·w/4 · 0.7w · 2/3.
	w := math.Sqrt(each * 12 / (1.4 * math.Pi * l))
	var out []Point
	const n = 20
	for i := 0; i <= n; i++ {
		t := math.Pi * float64(i) / n
		out = append(out, Point{-math.Cos(t) * l / 2, -math.Sin(t)*w*0.78 + w*0.3})
	}
	for i := 1; i < n; i++ {
		t := math.Pi * float64(i) / n
		out = append(out, Point{math.Cos(t) * l / 2, math.Sin(t)*w*0.16 + w*0.3})
	}
	p := Piece{Outline: scaledTo(out, math.Pi*l*w/4), High: 0.7 * w, mean: 2.0 / 3, profile: func(Point) float64 { return 2.0 / 3 }}
	for i := 2; i < 9; i++ { // the pleats of the fold
		t := math.Pi * float64(i) / 10
		a := Point{-math.Cos(t) * l / 2, -math.Sin(t)*w*0.78 + w*0.3}
		p.Lines = append(p.Lines, []Point{a.times(0.97), {a.X * 0.8, a.Y*0.62 + w*0.1}})
	}
	return p
}

// shard is a broken piece of something thin.
func shard(l, w, volume float64) Piece {
	out := []Point{{-l / 2, w * 0.1}, {-l * 0.28, -w * 0.42}, {l * 0.1, -w * 0.5}, {l / 2, -w * 0.12}, {l * 0.3, w * 0.34},
		{-l * 0.16, w * 0.5}}
	return Piece{Outline: out, High: volume / area(out), mean: 1, profile: flat,
		Lines: [][]Point{{{-l * 0.3, 0}, {l * 0.1, -w * 0.2}}, {{-l * 0.05, w * 0.2}, {l * 0.28, w * 0.02}}}}
}

// scatter strews crumbs over a circle: together they have the volume.
func scatter(radius, volume float64) []Piece {
	n := int(math.Min(46, math.Max(9, radius)))
	each := volume / float64(n)
	side := math.Cbrt(each) * 1.1
	var out []Piece
	for i := range n {
		// The sunflower's spiral spreads them evenly.
		d := radius * math.Sqrt((float64(i)+0.5)/float64(n))
		shape := closed(5, func(t float64) Point {
			return Point{math.Cos(t + noise(i, 7)), math.Sin(t + noise(i, 7))}.times(0.8 + 0.4*noise(i, int(t*3)))
		})
		p := Piece{Outline: scaledTo(shape, side*side), High: each / (side * side), mean: 1, profile: flat}
		out = append(out, p.moved(0, polar(float64(i)*137.508, d*(0.9+0.1*noise(i, 9)))))
	}
	return out
}

// heap is a paraboloid: V = π·r²·h/2 with h = heapRise·r.
func heap(volume float64, leaves bool) Piece {
	r := math.Cbrt(2 * volume / (math.Pi * heapRise))
	rough := 0.16
	// r(θ)² has the mean r², so the foot has the area π·r² whatever the waves.
	out := closed(60, func(t float64) Point {
		x := r * math.Sqrt(1+rough*math.Cos(5*t+0.6)+0.5*rough*math.Cos(9*t+2))
		return Point{x * math.Cos(t), x * math.Sin(t)}
	})
	p := Piece{Outline: scaledTo(out, math.Pi*r*r), High: heapRise * r, mean: 0.5, profile: func(q Point) float64 {
		return math.Max(0, 1-(q.X*q.X+q.Y*q.Y)/(r*r))
	}}
	if !leaves {
		for i := range 9 {
			c := polar(float64(i)*137.508, r*0.75*math.Sqrt(float64(i)/9))
			p.Lines = append(p.Lines, []Point{c.add(Point{-r * 0.12, 0}), c.add(Point{0, -r * 0.1}), c.add(Point{r * 0.12, 0.02 * r})})
		}
		return p
	}
	for i := range 8 {
		l := lens(r*0.95, r*0.42, 1, 1).moved(float64(i)*137.508, polar(float64(i)*137.508-90, r*0.5*math.Sqrt(float64(i)/8)+r*0.06))
		p.Lines = append(p.Lines, append(l.Outline, l.Outline[0]))
	}
	return p
}

// pool is a liquid that holds its edge: V = π·r²·depth, with a foot of that area.
func pool(volume, depth float64) Piece {
	r := math.Sqrt(volume / (math.Pi * depth))
	out := closed(72, func(t float64) Point {
		x := r * math.Sqrt(1+0.10*math.Cos(2*t+0.4)+0.07*math.Cos(3*t+1.9))
		return Point{x * math.Cos(t), x * math.Sin(t)}
	})
	return Piece{Outline: scaledTo(out, math.Pi*r*r), High: depth, mean: 1, profile: flat}
}
