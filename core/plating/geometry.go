package plating

import "math"

// Point is a place on the plate in millimetres from the centre: X to the right, Y
// towards the guest.
type Point struct {
	X float64 `json:"x"`
	Y float64 `json:"y"`
}

func (p Point) add(q Point) Point        { return Point{p.X + q.X, p.Y + q.Y} }
func (p Point) times(f float64) Point    { return Point{p.X * f, p.Y * f} }
func (p Point) distance(q Point) float64 { return math.Hypot(p.X-q.X, p.Y-q.Y) }

// turned rotates p clockwise (as seen from above, Y downwards) about the origin.
func (p Point) turned(deg float64) Point {
	s, c := math.Sincos(deg * math.Pi / 180)
	return Point{p.X*c - p.Y*s, p.X*s + p.Y*c}
}

// polar is the point at an angle (clockwise from twelve) and a distance.
func polar(deg, r float64) Point {
	s, c := math.Sincos(deg * math.Pi / 180)
	return Point{r * s, -r * c}
}

// area of a polygon without holes (shoelace formula).
func area(ps []Point) float64 {
	sum := 0.0
	for i, p := range ps {
		q := ps[(i+1)%len(ps)]
		sum += p.X*q.Y - q.X*p.Y
	}
	return math.Abs(sum) / 2
}

// inside reports whether p lies in a polygon (even–odd rule).
func inside(p Point, ps []Point) bool {
	in := false
	for i, j := 0, len(ps)-1; i < len(ps); j, i = i, i+1 {
		a, b := ps[i], ps[j]
		if (a.Y > p.Y) != (b.Y > p.Y) && p.X < (b.X-a.X)*(p.Y-a.Y)/(b.Y-a.Y)+a.X {
			in = !in
		}
	}
	return in
}

// closed samples a closed curve r(θ) at n points.
func closed(n int, r func(angle float64) Point) []Point {
	out := make([]Point, n)
	for i := range out {
		out[i] = r(2 * math.Pi * float64(i) / float64(n))
	}
	return out
}

// ellipse is an ellipse of area exactly π·a·b: the polygon is drawn a little larger
// than the curve so that sizes are not lost by sampling.
func ellipse(a, b float64, n int) []Point {
	k := math.Sqrt(2 * math.Pi / float64(n) / math.Sin(2*math.Pi/float64(n)))
	return closed(n, func(t float64) Point { return Point{a * k * math.Cos(t), b * k * math.Sin(t)} })
}

func rectangle(l, w float64) []Point {
	return []Point{{-l / 2, -w / 2}, {l / 2, -w / 2}, {l / 2, w / 2}, {-l / 2, w / 2}}
}

// scaledTo scales an outline so that it has an area.
func scaledTo(ps []Point, want float64) []Point {
	f := math.Sqrt(want / area(ps))
	out := make([]Point, len(ps))
	for i, p := range ps {
		out[i] = p.times(f)
	}
	return out
}

// noise is a steady number in [0, 1) for a pair of counters: drawings look alive and
// are the same every time.
func noise(i, k int) float64 {
	x := math.Sin(float64(i)*12.9898+float64(k)*78.233) * 43758.5453
	return x - math.Floor(x)
}
