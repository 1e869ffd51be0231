package plating

import (
	"math"
)

// A piece of food as a solid: its outline, its height, where it lies.

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
