package schedule

import (
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"
)

// drawList draws some intervals within [0, 60), in order and apart.
func drawList(t *rapid.T, name string) (list []interval) {
	for at := int64(rapid.IntRange(0, 9).Draw(t, name)); at < 60; {
		to := min(59, at+int64(rapid.IntRange(0, 12).Draw(t, name)))
		list = append(list, interval{at, to})
		at = to + 2 + int64(rapid.IntRange(0, 15).Draw(t, name))
	}
	return list
}

func holds(list []interval, t int64) bool {
	for _, i := range list {
		if i.from <= t && t <= i.to {
			return true
		}
	}
	return false
}

// What is in both, in either, or in a list without a stretch is told second by second; what comes out is in order and does not touch.
func TestIntervalsAgainstSecondBySecond(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		a, b := drawList(t, "a"), drawList(t, "b")
		after := int64(rapid.IntRange(-5, 65).Draw(t, "after"))
		before := after + int64(rapid.IntRange(-2, 40).Draw(t, "by"))
		together, any := both(nil, a, b), either(nil, a, b)
		rest := without(append([]interval(nil), a...), after, before)
		for s := int64(-6); s < 70; s++ {
			require.Equal(t, holds(a, s) && holds(b, s), holds(together, s), "both at %d", s)
			require.Equal(t, holds(a, s) || holds(b, s), holds(any, s), "either at %d", s)
			require.Equal(t, holds(a, s) && (s <= after || s >= before), holds(rest, s), "without at %d", s)
		}
		for i := 1; i < len(any); i++ {
			require.Greater(t, any[i].from, any[i-1].to+1)
		}
		for _, list := range [][]interval{together, rest} {
			for i := range list {
				require.LessOrEqual(t, list[i].from, list[i].to)
				require.True(t, i == 0 || list[i].from > list[i-1].to)
			}
		}
	})
}

// When a profile has room is what it says of each instant by itself.
func TestStartsOfAProfile(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		capacity := int64(rapid.IntRange(1, 3).Draw(t, "capacity"))
		f := newProfile(&resource{capacity: capacity})
		for range rapid.IntRange(0, 12).Draw(t, "runs") {
			from := int64(rapid.IntRange(0, 90).Draw(t, "from"))
			f.add(from, from+int64(rapid.IntRange(1, 20).Draw(t, "length")), int64(rapid.IntRange(1, int(capacity)).Draw(t, "units")))
		}
		lo := int64(rapid.IntRange(-5, 60).Draw(t, "lo"))
		hi := lo + int64(rapid.IntRange(0, 60).Draw(t, "window"))
		length, units := int64(rapid.IntRange(0, 20).Draw(t, "for")), int64(rapid.IntRange(1, 3).Draw(t, "of"))
		list := f.starts(nil, lo, hi, length, units)
		for s := lo - 3; s <= hi+3; s++ {
			require.Equal(t, s >= lo && s <= hi && f.fits(s, s+length, units), holds(list, s), "at %d", s)
		}
	})
}

// Wherever a body of an evening has room it may begin, and where it takes nothing twice also the other way round: with all the rest
// placed, ovens at their temperatures, and who lays in also takes out.
func TestStartsOfABody(t *testing.T) {
	var f finder
	var list []interval
	many, none := 0, 0
	for seed := range uint64(4) {
		m := searching(t, smallNight().Evening(seed), 1)
		for v := range m.p.tasks {
			if m.p.lead[v] != int32(v) || m.p.fixed[v] || m.p.open[v] || m.p.closes[v] {
				continue
			}
			at, on := m.x[v], append([]int32(nil), m.on[v]...)
			body := m.p.body[v]
			m.savedX[v] = at
			m.out = append(m.out[:0], body...)
			m.save()
			m.remove(body)
			lo, hi := max(m.est[v], at-300), min(m.lst[v], at+300)
			list = f.starts(m.state, v, lo, hi, list)
			require.True(t, holds(list, at), "where %s stood", m.p.id(v))
			for s := lo; s <= hi; s += 7 {
				served := m.serve(v, s, 0)
				if served {
					require.True(t, holds(list, s), "%s at %d", m.p.id(v), s)
				}
				if !m.twice(v) {
					require.Equal(t, served, holds(list, s), "%s at %d", m.p.id(v), s)
				}
				if many++; !served {
					none++
				}
			}
			m.revert()
			require.Equal(t, on, m.on[v])
		}
	}
	require.Greater(t, many, 1000)
	require.Greater(t, none, many/20, "there is not room everywhere")
}

// twice reports whether two segments of a body may want one resource at the same time.
func (m *improver) twice(v int) bool {
	segs := m.p.segs[v]
	for i := range segs {
		for k := range i {
			a, b := &segs[i], &segs[k]
			if a.off < b.off+b.dur && b.off < a.off+a.dur || m.p.needs[a.node][a.need].asks() && m.p.needs[b.node][b.need].asks() {
				for _, r := range m.p.needs[a.node][a.need].anyOf {
					for _, q := range m.p.needs[b.node][b.need].anyOf {
						if r == q {
							return true
						}
					}
				}
			}
		}
	}
	return false
}
