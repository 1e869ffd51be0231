package plating

import (
	"math"

	"jointime/core/kitchen"
)

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
