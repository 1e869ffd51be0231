package lookback

import (
	"math"

	"jointime/core/kitchen"
)

// How much a section had on when something was begun. Hands that have much to watch are slower; that is the evening's, and no step's own
// time: it is taken out before anything is learnt of steps and people.

// watchedFree is how many things a section has on without its hands being slower. Common practice, no source.
const watchedFree = 2

// watch counts for each step what its section had on.
func (n *Night) watch() {
	for i := range n.Steps {
		s := &n.Steps[i]
		if s.At == nil {
			continue
		}
		for k := range n.Steps {
			o := &n.Steps[k]
			if k == i || o.Section != s.Section || o.At == nil || o.At.After(*s.At) || o.At.Equal(*s.At) && k > i {
				continue
			}
			if end, done := o.EndsAt(); done && end.After(*s.At) {
				s.Watched++
			}
		}
	}
}

// over is how many things beyond what is free its section had on, where it takes hands.
func (s *RealStep) over() float64 {
	if s.hands == kitchen.None {
		return 0
	}
	return float64(max(0, s.Watched-watchedFree))
}

// Watching is by how much hands are slower for each thing beyond two that their section has on, as a logarithm: the slope within steps
// (least squares about each step's own mean), what is far off cut. It is 0 where the record says too little.
func Watching(nights []Night, now Written) float64 {
	type sums struct{ n, x, y, xx, xy float64 }
	by := map[stepKey]*sums{}
	for i := range nights {
		for k := range nights[i].Steps {
			s := &nights[i].Steps[k]
			y, ok := s.ratio(now)
			if !ok || s.hands == kitchen.None {
				continue
			}
			key := stepKey{s.Component, s.Step}
			if by[key] == nil {
				by[key] = &sums{}
			}
			t, x, y := by[key], s.over(), math.Max(-farOff, math.Min(farOff, y))
			t.n, t.x, t.y, t.xx, t.xy = t.n+1, t.x+x, t.y+y, t.xx+x*x, t.xy+x*y
		}
	}
	varies, goes := 0.0, 0.0
	for _, t := range by {
		varies += t.xx - t.x*t.x/t.n
		goes += t.xy - t.x*t.y/t.n
	}
	if varies < leastVaries {
		return 0
	}
	return math.Max(0, goes/varies) // nobody is quicker for having more to watch
}

// farOff is from which ratio a run says more of itself than of how much there was to watch, as a logarithm; leastVaries is how much that
// has to vary for anything to be said of it. Common practice, no source.
const farOff, leastVaries = 0.4, 40
