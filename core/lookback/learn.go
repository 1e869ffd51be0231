package lookback

import (
	"cmp"
	"math"
	"slices"

	"gonum.org/v1/gonum/stat/distuv"
)

// Times that learn. A step's real times are compared with the mean of its three written ones, as logarithms of their ratio, so that twice as
// long and half as long weigh the same. Of each service the median counts, so that a pan that had to wait once says nothing; services are
// what is drawn: within one all go at the pace of the evening, and a hundred plates of one night are one night. People first: what all of
// somebody's steps have in common is theirs, and what is left over is the step's.
//
// The estimate is drawn towards what is written (normal–normal shrinkage: Efron & Morris, Journal of the American Statistical Association 70,
// 1975): a few nights move it a little. Whether there is anything to say is tested (Student's t over the services), and of all steps and
// people so many are said that of those at most one in twenty is wrong (false discovery rate: Benjamini & Hochberg, Journal of the Royal
// Statistical Society B 57, 1995).

// The bounds of what is learnt. Common practice, no source.
const (
	// leastNights is in how many services something has to be seen, leastSeen how often in all.
	leastNights, leastSeen = 4, 6
	// writtenSD is how far written times are off from house to house, as a logarithm: a third of them by more than a sixth.
	writtenSD = 0.15
	// worthSaying is from which difference a proposal is made: what is less no plan feels.
	worthSaying = 0.05
	// falseRate is how many of the findings may be wrong.
	falseRate = 0.05
	// outlier is from how many robust deviations a single night's step is left out (modified z-score: Iglewicz & Hoaglin, 1993).
	outlier = 3.5
)

// Evidence is what the record says about a step, a person, or a share of the menu.
type Evidence struct {
	Kind      string  `json:"kind" enum:"step,person,share"`
	Component string  `json:"component,omitempty"`
	Step      string  `json:"step,omitempty"`
	What      string  `json:"what" doc:"The component, the person or the dish, by name"`
	Act       string  `json:"act,omitempty"`
	Section   string  `json:"section,omitempty"`
	Factor    float64 `json:"factor" doc:"How many times as long as written it takes, or as often as written it is ordered; drawn towards 1"`
	Low       float64 `json:"low" doc:"With nine chances of ten it lies between low"`
	High      float64 `json:"high" doc:"and high"`
	Seen      int     `json:"seen" doc:"How often it was seen"`
	Nights    int     `json:"nights" doc:"In so many services"`
	LeftOut   int     `json:"left_out" doc:"Outliers that were left out"`
	P         float64 `json:"p" doc:"How likely so great a difference is by chance, if what is written were right"`
	Said      bool    `json:"said" doc:"It is more than chance, and worth saying"`
}

// estimate is what some nights say about something.
type estimate struct {
	mean, sd float64 // of the estimate, drawn towards what is written
	p        float64
}

// drawn estimates a difference from the medians of some nights.
func drawn(nights []float64) estimate {
	n := float64(len(nights))
	mean := 0.0
	for _, y := range nights {
		mean += y / n
	}
	ss := 0.0
	for _, y := range nights {
		ss += (y - mean) * (y - mean)
	}
	// The spread from night to night is not known from a few either: it is drawn towards the usual one with the weight of two nights.
	variance := (ss + 2*usualSpread*usualSpread) / (n - 1 + 2)
	se2 := variance / n
	t := mean / math.Sqrt(se2)
	student := distuv.StudentsT{Mu: 0, Sigma: 1, Nu: n - 1}
	prior := writtenSD * writtenSD
	return estimate{mean: mean * prior / (prior + se2), sd: math.Sqrt(prior * se2 / (prior + se2)), p: 2 * student.CDF(-math.Abs(t))}
}

// usualSpread is by how much the median of a night differs from night to night, as a logarithm. Common practice, no source.
const usualSpread = 0.06

// interval are the bounds between which the factor lies with nine chances of ten.
func (e estimate) interval(nights int) (low, high float64) {
	q := distuv.StudentsT{Mu: 0, Sigma: 1, Nu: float64(nights + 1)}.Quantile(0.95)
	return math.Exp(e.mean - q*e.sd), math.Exp(e.mean + q*e.sd)
}

// seen are ratios of something, by night.
type seen struct {
	what    *RealStep
	by      map[int][]float64
	count   int
	leftOut int
}

func (s *seen) add(night int, y float64) {
	s.by[night] = append(s.by[night], y)
	s.count++
}

// medians are those of each night, outliers left out, less what a person accounts for.
func (s *seen) medians(less func(night int) float64) []float64 {
	var all []float64
	for _, list := range s.by {
		all = append(all, list...)
	}
	mid := median(all)
	var off []float64
	for _, y := range all {
		off = append(off, math.Abs(y-mid))
	}
	robust := math.Max(0.02, 1.4826*median(off))
	var out []float64
	s.leftOut = 0
	for night, list := range s.by {
		kept := slices.DeleteFunc(slices.Clone(list), func(y float64) bool { return math.Abs(y-mid) > outlier*robust })
		if s.leftOut += len(list) - len(kept); len(kept) > 0 {
			out = append(out, median(kept)-less(night))
		}
	}
	slices.Sort(out) // the order of a map says nothing
	return out
}

func median(list []float64) float64 {
	l := slices.Clone(list)
	slices.Sort(l)
	switch n := len(l); {
	case n == 0:
		return 0
	case n%2 == 1:
		return l[n/2]
	default:
		return (l[n/2-1] + l[n/2]) / 2
	}
}

type stepKey struct{ component, step string }

// Learn says what the record of some services says about steps and people, against what is written now (nil: as it was then); the surest
// first. What is said is more than chance, and worth it.
func Learn(nights []Night, now Written) []Evidence {
	steps, doneBy := map[stepKey]*seen{}, map[stepKey]map[string]int{}
	for i := range nights {
		for k := range nights[i].Steps {
			s := &nights[i].Steps[k]
			y, ok := s.ratio(now)
			if !ok {
				continue
			}
			key := stepKey{s.Component, s.Step}
			if steps[key] == nil {
				steps[key], doneBy[key] = &seen{what: s, by: map[int][]float64{}}, map[string]int{}
			}
			steps[key].add(i, y)
			for _, p := range s.People {
				doneBy[key][p]++
			}
		}
	}
	none := func(int) float64 { return 0 }
	people, of := peopleOf(nights, steps, doneBy)
	out := []Evidence{}
	for _, name := range sorted(people) {
		s := people[name]
		if f, ok := s.finding(s.medians(none)); ok {
			f.Kind, f.What, f.Section = "person", name, s.what.Section
			out = append(out, f)
		}
	}
	decide(out)
	sure := map[string]bool{}
	for _, f := range out {
		sure[f.What] = f.Said
	}
	first := len(out)
	keys := make([]stepKey, 0, len(steps))
	for k := range steps {
		keys = append(keys, k)
	}
	slices.SortFunc(keys, func(a, b stepKey) int {
		return cmp.Or(cmp.Compare(a.component, b.component), cmp.Compare(a.step, b.step))
	})
	for _, key := range keys {
		s := steps[key]
		less := none
		if who := of[key]; sure[who] {
			own := people[who]
			less = func(night int) float64 { return median(own.by[night]) }
		}
		if f, ok := s.finding(s.medians(less)); ok {
			f.Kind, f.Component, f.Step, f.What, f.Act, f.Section = "step", key.component, key.step, s.what.What, s.what.Act, s.what.Section
			out = append(out, f)
		}
	}
	decide(out[first:])
	slices.SortStableFunc(out, func(a, b Evidence) int { return cmp.Compare(a.P, b.P) })
	return out
}

// leastSteps is of how many different steps something has to hold for it to be a person's own.
const leastSteps = 3

// peopleOf are what all of somebody's steps have in common in a night: the median over their steps of what each took. It also says whose each
// step is: who does most of it.
func peopleOf(nights []Night, steps map[stepKey]*seen, doneBy map[stepKey]map[string]int) (map[string]*seen, map[stepKey]string) {
	of, own := map[stepKey]string{}, map[string]int{}
	for key, by := range doneBy {
		best := ""
		for _, name := range sorted(by) {
			if best == "" || by[name] > by[best] {
				best = name
			}
		}
		if best != "" && 2*by[best] > steps[key].count {
			of[key] = best
			own[best]++
		}
	}
	people := map[string]*seen{}
	for i := range nights {
		by := map[string][]float64{}
		first := map[string]*RealStep{}
		for key, who := range of {
			if list := steps[key].by[i]; len(list) > 0 && own[who] >= leastSteps {
				by[who] = append(by[who], median(list))
				first[who] = steps[key].what
			}
		}
		for who, list := range by {
			if len(list) < leastSteps {
				continue
			}
			if people[who] == nil {
				people[who] = &seen{what: first[who], by: map[int][]float64{}}
			}
			people[who].add(i, median(list))
		}
	}
	for _, p := range people {
		p.count = 0
	}
	for key, who := range of {
		if p := people[who]; p != nil {
			p.count += steps[key].count
		}
	}
	return people, of
}

func sorted[T any](m map[string]T) []string {
	out := make([]string, 0, len(m))
	for k := range m {
		out = append(out, k)
	}
	slices.Sort(out)
	return out
}

// finding is what the medians of some nights say; false where they are too few.
func (s *seen) finding(nights []float64) (Evidence, bool) {
	if len(nights) < leastNights || s.count < leastSeen {
		return Evidence{}, false
	}
	e := drawn(nights)
	f := Evidence{Factor: math.Exp(e.mean), Seen: s.count, Nights: len(nights), LeftOut: s.leftOut, P: e.p}
	f.Low, f.High = e.interval(len(nights))
	return f, true
}

// decide says which findings are more than chance and worth saying.
func decide(list []Evidence) {
	order := make([]int, len(list))
	for i := range order {
		order[i] = i
	}
	slices.SortStableFunc(order, func(a, b int) int { return cmp.Compare(list[a].P, list[b].P) })
	last := -1
	for k, i := range order {
		if list[i].P <= falseRate*float64(k+1)/float64(len(list)) {
			last = k
		}
	}
	for k, i := range order {
		list[i].Said = k <= last && math.Abs(math.Log(list[i].Factor)) >= math.Log(1+worthSaying)
	}
}
