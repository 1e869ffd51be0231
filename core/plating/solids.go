package plating

import (
	"math"
)

// The solids that are more than a cap or a line of them.

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
