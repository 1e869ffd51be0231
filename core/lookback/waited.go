package lookback

import (
	"math"
	"slices"
	"time"

	"gonum.org/v1/gonum/stat/distuv"

	"jointime/core/kitchen"
)

// What was ready and waited for hands. A pan that is done while its cook is whisking something else is taken off when that is over: how
// long it took is not known then, but that it lay between when those hands were taken and when they were free.

// justFree is for how long after hands came free something may have been ended that waited for them. Common practice, no source.
const justFree = 30 * time.Second

// eveningSD is how far the times of a step vary beside what its three points say, as a logarithm. Common practice, no source.
const eveningSD = 0.1

// waits finds what was ended just after the hands came free that had something else in both of them until then.
func (n *Night) waits() {
	for i := range n.Steps {
		s := &n.Steps[i]
		end, done := s.EndsAt()
		if !done || s.hands == kitchen.Both {
			continue
		}
		for k := range n.Steps {
			o := &n.Steps[k]
			free, over := o.EndsAt()
			if k == i || !over || o.hands != kitchen.Both || !slices.ContainsFunc(o.People,
				func(who string) bool { return slices.Contains(s.People, who) }) {
				continue
			}
			if from := o.At.Sub(*s.At).Seconds(); from > 0 && !free.After(end) && free.Add(justFree).After(end) {
				s.readyFrom = from
			}
		}
	}
}

// between is what a logarithm may be expected to be of which no more is known than that it lies between two bounds: the mean of a normal
// distribution about nothing, cut off there (Johnson, Kotz & Balakrishnan, Continuous Univariate Distributions 1, 1994, section 10.1).
func between(low, high, sd float64) float64 {
	n := distuv.UnitNormal
	a, b := low/sd, high/sd
	p := n.CDF(b) - n.CDF(a)
	if p < 1e-9 { // far out, where nothing is to be expected: the nearer of the two
		return math.Max(low, math.Min(high, 0))
	}
	return sd * (n.Prob(a) - n.Prob(b)) / p
}
