package heat

import "math"

// most terms of a series; with 60 the first second of a thick piece is right to a thousandth.
const most = 60

// roots are the first n roots of the equation of a shape at a Biot number above 0: ζ tan ζ = Bi for a slab, ζ J1(ζ)/J0(ζ) = Bi for a
// cylinder, 1 − ζ cot ζ = Bi for a sphere (Incropera & DeWitt). ok is false for a shape without a series.
func roots(s Shape, bi float64, n int) (out []float64, ok bool) {
	var f func(z float64) float64
	var bracket func(k int) (lo, hi float64)
	switch s {
	case Slab:
		f = func(z float64) float64 { return z*math.Sin(z) - bi*math.Cos(z) }
		bracket = func(k int) (float64, float64) { return float64(k) * math.Pi, (float64(k) + 0.5) * math.Pi }
	case Cylinder:
		f = func(z float64) float64 { return z*math.J1(z) - bi*math.J0(z) }
		bracket = func(k int) (float64, float64) { return zeroOfJ1(k), zeroOfJ0(k) }
	case Sphere:
		f = func(z float64) float64 { return (1-bi)*math.Sin(z) - z*math.Cos(z) }
		bracket = func(k int) (float64, float64) { return float64(k) * math.Pi, float64(k+1) * math.Pi }
	default:
		return nil, false
	}
	for k := range n {
		lo, hi := bracket(k)
		out = append(out, bisect(f, max(lo, 1e-9), hi))
	}
	return out, true
}

// bisect finds where a function that changes its sign between two places is nothing.
func bisect(f func(float64) float64, lo, hi float64) float64 {
	up := f(hi) > 0
	for range 100 {
		mid := (lo + hi) / 2
		if (f(mid) > 0) == up {
			hi = mid
		} else {
			lo = mid
		}
	}
	return (lo + hi) / 2
}

// zeroOfJ0 and zeroOfJ1 are the zeros of the Bessel functions, k from 0; J1's first is 0. McMahon's expansion, sharpened by bisection.
func zeroOfJ0(k int) float64 {
	about := (float64(k) + 0.75) * math.Pi
	return bisect(math.J0, about-0.5, about+0.5)
}

func zeroOfJ1(k int) float64 {
	if k == 0 {
		return 0
	}
	about := (float64(k) + 0.25) * math.Pi
	return bisect(math.J1, about-0.5, about+0.5)
}

// coefficient is that of a root in the series of a shape (Incropera & DeWitt).
func coefficient(s Shape, z float64) float64 {
	switch s {
	case Cylinder:
		j0, j1 := math.J0(z), math.J1(z)
		return 2 / z * j1 / (j0*j0 + j1*j1)
	case Sphere:
		return 4 * (math.Sin(z) - z*math.Cos(z)) / (2*z - math.Sin(2*z))
	default:
		return 4 * math.Sin(z) / (2*z + math.Sin(2*z))
	}
}

// series is the solution of one shape at one Biot number.
type series struct{ zeta, c []float64 }

func newSeries(s Shape, bi float64) (*series, bool) {
	z, ok := roots(s, bi, most)
	if !ok {
		return nil, false
	}
	out := &series{zeta: z}
	for _, x := range z {
		out.c = append(out.c, coefficient(s, x))
	}
	return out, true
}

// core is how much of the difference to the medium is left in the middle at a Fourier number: 1 at the start, 0 in the end.
func (s *series) core(fo float64) float64 {
	if fo <= 0 {
		return 1
	}
	sum := 0.0
	for i, z := range s.zeta {
		e := math.Exp(-z * z * fo)
		sum += s.c[i] * e
		if e < 1e-9 {
			break
		}
	}
	return min(1, sum)
}

// fourier is the Fourier number at which so much of the difference is left in the middle.
func (s *series) fourier(left float64) float64 {
	hi := 0.01
	for s.core(hi) > left {
		hi *= 2
	}
	return bisect(func(fo float64) float64 { return left - s.core(fo) }, 0, hi)
}
