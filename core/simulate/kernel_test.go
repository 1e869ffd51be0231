package simulate

import (
	"math"
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/require"
)

// queue plays customers at c servers, arriving and served as drawn, and returns the mean wait before service, the mean number in the system
// by time, and the mean time in it. The first tenth is left out: the system is empty then.
func queue(seed uint64, c int64, customers int, arrival, service func(*rand.Rand) float64) (wait, inside, stay float64) {
	rng := rand.New(rand.NewPCG(seed, 1))
	s := &sim{free: map[string]int64{"server": c}}
	takes := []take{{"server", 1}}
	skip := customers / 10
	n, here, area, last, from := 0, 0.0, 0.0, 0.0, 0.0
	changed := func(by float64) {
		area += here * (s.now - last)
		last = s.now
		here += by
	}
	var arrive func(k int)
	arrive = func(k int) {
		if k == skip {
			area, from = 0, s.now
			last = s.now
		}
		changed(1)
		came, long := s.now, service(rng)
		s.seize(takes, s.now, func() {
			if k >= skip {
				wait += s.now - came
			}
			s.at(s.now+long, ends, func() {
				changed(-1)
				if k >= skip {
					stay += s.now - came
					n++
				}
				s.release(takes)
			})
		})
		if k+1 < customers {
			s.at(s.now+arrival(rng), begins, func() { arrive(k + 1) })
		}
	}
	s.at(0, begins, func() { arrive(0) })
	s.run(math.Inf(1))
	return wait / float64(n), area / (last - from), stay / float64(n)
}

func exponential(rate float64) func(*rand.Rand) float64 {
	return func(rng *rand.Rand) float64 { return rng.ExpFloat64() / rate }
}

// mean and its 99 % interval over independent replications.
func mean(xs []float64) (m, half float64) {
	for _, x := range xs {
		m += x / float64(len(xs))
	}
	v := 0.0
	for _, x := range xs {
		v += (x - m) * (x - m) / float64(len(xs)-1)
	}
	return m, 2.75 * math.Sqrt(v/float64(len(xs))) // t for 29 degrees of freedom
}

// erlangC is the chance of having to wait at c servers that are offered a load (Erlang 1917).
func erlangC(c int, load float64) float64 {
	sum, term := 0.0, 1.0
	for k := range c {
		sum += term
		term *= load / float64(k+1)
	}
	last := term * float64(c) / (float64(c) - load)
	return last / (sum + last)
}

// The kernel agrees with the formulas of queues: M/M/1 (wait λ/(μ(μ−λ))), M/M/c by Erlang's C (wait C/(cμ−λ)), M/D/1 by Pollaczek and
// Khinchine (half of M/M/1), and Little's law (L = λW, Little 1961); Kleinrock, Queueing Systems I (1975). Thirty replications, 99 %
// intervals.
func TestQueuesAgreeWithTheirFormulas(t *testing.T) {
	for _, x := range []struct {
		name       string
		c          int64
		lambda, mu float64
		service    func(*rand.Rand) float64
		wait       float64
	}{
		{"M/M/1 at a half", 1, 0.5, 1, exponential(1), 0.5 / (1 * 0.5)},
		{"M/M/1 at eight tenths", 1, 0.8, 1, exponential(1), 0.8 / (1 * 0.2)},
		{"M/M/3", 3, 2.1, 1, exponential(1), erlangC(3, 2.1) / (3 - 2.1)},
		{"M/M/6", 6, 4.2, 1, exponential(1), erlangC(6, 4.2) / (6 - 4.2)},
		{"M/D/1", 1, 0.7, 1, func(*rand.Rand) float64 { return 1 }, 0.7 / (2 * 0.3)},
	} {
		var waits, inside []float64
		for seed := range uint64(30) {
			w, l, stay := queue(seed+1, x.c, 20_000, exponential(x.lambda), x.service)
			waits, inside = append(waits, w), append(inside, l/(x.lambda*stay))
		}
		m, half := mean(waits)
		require.InDelta(t, x.wait, m, half, "%s: %.4f ± %.4f", x.name, m, half)
		require.Less(t, half, x.wait/8, "%s: the interval says something", x.name)
		m, half = mean(inside)
		require.InDelta(t, 1, m, half+0.002, "%s: Little's law", x.name)
	}
}

// What ends at an instant is free for what begins at it, whatever was asked for first; whoever can be served is, the least order first.
func TestWhoIsServedFirst(t *testing.T) {
	s := &sim{free: map[string]int64{"hands": 1, "oven": 2}}
	var said []string
	work := func(name string, at, order, long float64, takes ...take) {
		s.at(at, begins, func() {
			s.seize(takes, order, func() {
				said = append(said, name)
				s.at(s.now+long, ends, func() { s.release(takes) })
			})
		})
	}
	hands, oven := take{"hands", 1}, take{"oven", 2}
	work("first", 0, 5, 10, hands)
	work("late by plan", 1, 9, 5, hands)
	work("early by plan", 2, 1, 5, hands)
	work("at its end", 10, 0, 5, hands)
	work("elsewhere", 3, 7, 40, oven)
	work("both", 4, 0, 5, hands, oven)
	s.run(math.Inf(1))
	require.Equal(t, []string{"first", "elsewhere", "at its end", "early by plan", "late by plan", "both"}, said)
	require.Equal(t, map[string]int64{"hands": 1, "oven": 2}, s.free)
}

// Who needs two pairs of hands at once gets them, though others want one of them all the time.
func TestRoomIsMadeForPlates(t *testing.T) {
	for _, kept := range []bool{true, false} {
		s := &sim{free: map[string]int64{"a": 1, "b": 1}}
		began := 0.0
		for k := range 20 {
			of := []string{"a", "b"}[k%2]
			s.at(float64(k)*5, begins, func() {
				s.seize([]take{{of, 1}}, 10+float64(k), func() { s.at(s.now+9, ends, func() { s.release([]take{{of, 1}}) }) })
			})
		}
		s.at(12, begins, func() {
			s.queue([][]take{{{"a", 1}, {"b", 1}}}, 1, kept, func([]take) {
				began = s.now
				s.at(s.now+5, ends, func() { s.release([]take{{"a", 1}, {"b", 1}}) })
			})
		})
		s.run(math.Inf(1))
		if kept {
			require.InDelta(t, 19, began, 1e-9, "as soon as both are free")
		} else {
			require.Greater(t, began, 19.0)
		}
	}
}
