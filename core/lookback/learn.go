package lookback

import (
	"cmp"
	"math"
	"slices"

	"gonum.org/v1/gonum/stat/distuv"
)

// Times that learn. A step's real times are compared with the mean of its three written ones, as logarithms of their ratio, so that twice
// as long and half as long weigh the same. Of each service the median counts, so that a pan that had to wait once says nothing; services
// are what is drawn: within one all go at the pace of the evening, and a hundred plates of one night are one night. People first: what all
// of somebody's steps have in common is theirs, and what is left over is the step's.
//
// The estimate is drawn towards what is written (normal–normal shrinkage: Efron & Morris, Journal of the American Statistical Association
// 70, 1975): a few nights move it a little. Whether there is anything to say is tested (Student's t over the services), and of all steps
// and people so many are said that of those at most one in twenty is wrong (false discovery rate: Benjamini & Hochberg, Journal of the
// Royal Statistical Society B 57, 1995).

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
	Kind      string  `json:"kind" enum:"step,person,share,share-day,portions,equipment,season"`
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
	// Season is the one that it is about, Day the day of the week; PerPortion is the factor of the part per portion, where Factor is that of
	// the fixed part, and FixedS and PortionS what the two would be, seconds in the mean.
	Season     Season  `json:"season,omitempty" enum:"winter,spring,summer,autumn"`
	Day        int     `json:"day,omitempty" doc:"1 Monday to 7 Sunday"`
	Share      float64 `json:"share,omitempty" doc:"Of a dish: what part of its course is it, as the record says, 0 to 1"`
	PerPortion float64 `json:"per_portion,omitempty" doc:"How many times as long as written the part per portion is"`
	FixedS     float64 `json:"fixed_s,omitempty" doc:"What the fixed part would be, seconds in the mean"`
	PortionS   float64 `json:"portion_s,omitempty" doc:"What the part per portion would be"`

	sure bool // it is more than chance
	Said bool `json:"said" doc:"It is more than chance, and worth saying"`
}

// estimate is what some nights say about something.
type estimate struct {
	mean, sd float64 // of the estimate, drawn towards what is written
	p        float64
}

// drawn estimates a difference from the medians of some nights. usual is by how much the median of a night usually differs: the spread of a
// few nights is not well known either, and is drawn towards it with the weight of four.
func drawn(nights []float64, usual float64) estimate {
	n := float64(len(nights))
	mean, ss := spreadOf(nights)
	variance := (ss + spreadWeight*usual*usual) / (n - 1 + spreadWeight)
	se2 := variance/n + modelSD*modelSD
	t := mean / math.Sqrt(se2)
	student := distuv.StudentsT{Mu: 0, Sigma: 1, Nu: n - 1 + spreadWeight}
	prior := writtenSD * writtenSD
	return estimate{mean: mean * prior / (prior + se2), sd: math.Sqrt(prior * se2 / (prior + se2)), p: 2 * student.CDF(-math.Abs(t))}
}

// modelSD is by how much the median of times that are not even to both sides is off their mean, as a logarithm: no number of nights takes
// that away.
const modelSD = 0.006

// spreadWeight is with how many nights the usual spread weighs.
const spreadWeight = 2.0

// usualSpread is by how much the median of a night differs from night to night, as a logarithm, where too little is known of it;
// leastSpread at the least. Common practice, no source.
const usualSpread, leastSpread = 0.06, 0.01

// spreadOf is the mean of some nights, and the sum of the squares of what they differ from it.
func spreadOf(nights []float64) (mean, ss float64) {
	for _, y := range nights {
		mean += y / float64(len(nights))
	}
	for _, y := range nights {
		ss += (y - mean) * (y - mean)
	}
	return mean, ss
}

// usual is the spread that things usually have from night to night: the median of what each has.
func usual(list [][]float64) float64 {
	var all []float64
	for _, nights := range list {
		if len(nights) >= leastNights {
			_, ss := spreadOf(nights)
			all = append(all, ss/float64(len(nights)-1))
		}
	}
	if len(all) < leastNights {
		return usualSpread
	}
	return math.Max(leastSpread, math.Sqrt(median(all)))
}

// interval are the bounds between which the factor lies with nine chances of ten.
func (e estimate) interval(nights int) (low, high float64) {
	q := distuv.StudentsT{Mu: 0, Sigma: 1, Nu: float64(nights) - 1 + spreadWeight}.Quantile(0.95)
	return math.Exp(e.mean - q*e.sd), math.Exp(e.mean + q*e.sd)
}

// seen are ratios of something, by night.
type seen struct {
	what    *RealStep
	by      map[int][]ratio
	count   int
	leftOut int
}

// ratio is one of them, with who did it.
type ratio struct {
	y        float64
	who      string
	on       []string
	portions int
}

func (s *seen) add(night int, r ratio) {
	s.by[night] = append(s.by[night], r)
	s.count++
}

// medians are those of each night, outliers left out, less what a person accounts for.
func (s *seen) medians(less func(night int, who string) float64) []float64 {
	var all []float64
	for night, list := range s.by {
		for _, r := range list {
			all = append(all, r.y-less(night, r.who))
		}
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
		var kept []float64
		for _, r := range list {
			if y := r.y - less(night, r.who); math.Abs(y-mid) <= outlier*robust {
				kept = append(kept, y)
			}
		}
		if s.leftOut += len(list) - len(kept); len(kept) > 0 {
			out = append(out, median(kept))
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
	steps, less := own(nights, now)
	people := peopleOf(len(nights), steps)
	out := []Evidence{}
	names := sorted(people)
	own := make([][]float64, len(names))
	for i, name := range names {
		own[i] = people[name].medians(func(int, string) float64 { return 0 })
	}
	for i, name := range names {
		if f, ok := people[name].evidence(own[i], usual(own)); ok {
			f.Kind, f.What, f.Section = "person", name, people[name].what.Section
			out = append(out, f)
		}
	}
	decide(out)
	first := len(out)
	keys := keysOf(steps)
	left := make([][]float64, len(keys))
	for i, key := range keys {
		left[i] = steps[key].medians(less)
	}
	for i, key := range keys {
		s := steps[key]
		if f, ok := s.evidence(left[i], usual(left)); ok {
			f.Kind, f.Component, f.Step, f.What, f.Act, f.Section = "step", key.component, key.step, s.what.What, s.what.Act, s.what.Section
			out = append(out, f)
		}
	}
	decide(out[first:])
	slices.SortStableFunc(out, func(a, b Evidence) int { return cmp.Compare(a.P, b.P) })
	return out
}

// leastSteps is of how many different steps of a night something has to hold for it to be a person's own.
const leastSteps = 3

// peopleOf are what all of somebody's steps have in common in each night: the median over those steps of what each took in their hands.
func peopleOf(nights int, steps map[stepKey]*seen) map[string]*seen {
	people := map[string]*seen{}
	for i := range nights {
		by, counts, first := map[string][]float64{}, map[string]int{}, map[string]*RealStep{}
		for _, s := range steps {
			own := map[string][]float64{}
			for _, r := range s.by[i] {
				if r.who != "" {
					own[r.who] = append(own[r.who], r.y)
				}
			}
			for who, list := range own {
				by[who], counts[who] = append(by[who], median(list)), counts[who]+len(list)
				if f := first[who]; f == nil || s.what.Task < f.Task {
					first[who] = s.what
				}
			}
		}
		for who, list := range by {
			if len(list) < leastSteps {
				continue
			}
			if people[who] == nil {
				people[who] = &seen{what: first[who], by: map[int][]ratio{}}
			}
			people[who].by[i] = []ratio{{y: median(list), who: who}}
			people[who].count += counts[who]
		}
	}
	return people
}

func sorted[T any](m map[string]T) []string {
	out := make([]string, 0, len(m))
	for k := range m {
		out = append(out, k)
	}
	slices.Sort(out)
	return out
}

// evidence is what the medians of some nights say; false where they are too few.
func (s *seen) evidence(nights []float64, usual float64) (Evidence, bool) {
	if len(nights) < leastNights || s.count < leastSeen {
		return Evidence{}, false
	}
	e := drawn(nights, usual)
	f := Evidence{Factor: math.Exp(e.mean), Seen: s.count, Nights: len(nights), LeftOut: s.leftOut, P: e.p}
	f.Low, f.High = e.interval(len(nights))
	return f, true
}

// decide says which findings are more than chance and worth saying.
func decide(list []Evidence) { decideAt(list, falseRate) }

// decideAt is decide where so many of the findings may be wrong.
func decideAt(list []Evidence, rate float64) {
	order := make([]int, len(list))
	for i := range order {
		order[i] = i
	}
	slices.SortStableFunc(order, func(a, b int) int { return cmp.Compare(list[a].P, list[b].P) })
	last := -1
	for k, i := range order {
		if list[i].P <= rate*float64(k+1)/float64(len(list)) {
			last = k
		}
	}
	for k, i := range order {
		list[i].sure = k <= last
		list[i].Said = list[i].sure && math.Abs(math.Log(list[i].Factor)) >= math.Log(1+worthSaying)
	}
}
