package schedule

import (
	"math"
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/require"
)

// drawnConvex is some function of waits and instants.
func drawnConvex(r *rand.Rand) (c convex) {
	for range r.IntN(5) {
		h := hinge{at: r.Int64N(81) - 40}
		if r.IntN(3) > 0 {
			h.after = r.Int64N(9)
		}
		if r.IntN(3) == 0 {
			h.before = r.Int64N(9)
		}
		c = append(c, h)
	}
	return c
}

// A range is narrowed to all that costs no more, and to nothing else; where all costs more the least is left.
func TestWithin(t *testing.T) {
	require.Equal(t, int64(3*4+5), convex{{10, 4, 0}, {6, 0, 0}, {6, 0, 5}}.cost(7))
	r := rand.New(rand.NewPCG(1, 1))
	for range 3000 {
		c, most := drawnConvex(r), r.Int64N(300)
		lo := r.Int64N(200) - 100
		hi := lo + r.Int64N(100)
		from, to := c.within(lo, hi, most)
		require.True(t, lo <= from && from <= to && to <= hi)
		cheap := false
		for x := lo; x <= hi; x++ {
			if c.cost(x) <= most {
				cheap = true
				require.True(t, from <= x && x <= to)
			}
		}
		if cheap {
			require.LessOrEqual(t, c.cost(from), most)
			require.LessOrEqual(t, c.cost(to), most)
		}
	}
	from, to := convex{{0, 1, 1}}.within(-far, far, 1000)
	require.Equal(t, [2]int64{-1000, 1000}, [2]int64{from, to}, "of all times")
}

// The pieces on a grid are the function at its steps, within its range, and turned they are that of −x.
func TestPieces(t *testing.T) {
	r := rand.New(rand.NewPCG(2, 2))
	value := func(pieces []piece, k int64) float64 {
		for _, p := range pieces {
			if p.from <= k && k <= p.to {
				return p.value + p.slope*float64(k-p.from)
			}
		}
		return math.NaN()
	}
	for range 2000 {
		c, step := drawnConvex(r), 1+r.Int64N(8)
		from := r.Int64N(20) - 10
		to := from + r.Int64N(20)
		least, most := from*step+r.Int64N(step), to*step-r.Int64N(step)
		if most < least {
			continue
		}
		turned := r.IntN(2) == 0
		if turned {
			least, most = -most, -least
		}
		pieces := c.pieces(step, from, to, least, most, turned)
		for k := from; k <= to; k++ {
			x := k * step
			if turned {
				x = -x
			}
			require.InDelta(t, float64(c.cost(min(max(x, least), most))), value(pieces, k), 1e-6)
			require.InDelta(t, value(pieces, k), value(mirrored(pieces), -k), 1e-6)
		}
	}
}

// The sum of two functions is what trying every pair gives.
func TestSpread(t *testing.T) {
	r := rand.New(rand.NewPCG(3, 3))
	var s spreader
	for range 6000 {
		f := drawnConvex(r)
		from := r.Int64N(60) - 30
		pieces := f.pieces(1, from, from+r.Int64N(40), -far, far, false)
		to := pieces[len(pieces)-1].to
		src, best := make([]float64, 1+r.IntN(50)), make([]float64, 1+r.IntN(50))
		for i := range src {
			src[i] = float64(r.IntN(200) - 60)
		}
		arg := make([]int32, len(best))
		lo, srcLo := r.Int64N(100)-50, r.Int64N(100)-50
		s.spread(best, arg, lo, src, srcLo, pieces)
		for i := range best {
			want := impossibly
			for y := range src {
				if d := lo + int64(i) - srcLo - int64(y); d >= from && d <= to {
					want = min(want, src[y]+float64(f.cost(d)))
				}
			}
			require.InDelta(t, want, best[i], 1e-6)
			if want < impossibly {
				y := int64(arg[i])
				require.InDelta(t, want, src[y]+float64(f.cost(lo+int64(i)-srcLo-y)), 1e-6, "where it says")
			} else {
				require.Equal(t, int32(-1), arg[i])
			}
		}
	}
}
