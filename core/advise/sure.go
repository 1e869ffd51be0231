package advise

import (
	"cmp"
	"math"
	"math/rand/v2"
	"slices"

	"jointime/core/workload"
)

// Spread is the three-point time of a task: quick, likely, slow; seconds.
type Spread struct{ Low, Likely, High float64 }

// Mean and Deviation of a three-point time after PERT (Malcolm, Roseboom, Clark & Fazar,
// Operations Research 7, 1959).
func (s Spread) Mean() float64 { return (s.Low + 4*s.Likely + s.High) / 6 }

// Deviation is a sixth of the range.
func (s Spread) Deviation() float64 { return (s.High - s.Low) / 6 }

// Sureness is how one join fares over many evenings.
type Sureness struct {
	OnTime float64            // share of evenings in which it is on time
	Holds  float64            // share in which every hold is within its limit
	MeanS  float64            // usual lateness, seconds after the plan
	Blame  map[string]float64 // task that held the join back → share of the late evenings
}

// Blamed is a task with its share of the late evenings.
type Blamed struct {
	Task  string
	Share float64
}

// Blamed lists what held the join back, the most often first.
func (s *Sureness) Blamed() []Blamed {
	var out []Blamed
	for t, share := range s.Blame {
		out = append(out, Blamed{t, share})
	}
	slices.SortFunc(out, func(a, b Blamed) int { return cmp.Or(cmp.Compare(b.Share, a.Share), cmp.Compare(a.Task, b.Task)) })
	return out
}

// Sure plays a plan many times with step times drawn around their three points, by the
// rules of dispatch: nothing starts before it was told to, nor before what it follows is
// done and its shortest wait has passed, nor before the people and the equipment that it
// takes are free of what the plan gives them before. grace is how many seconds after its wish a join still
// counts as on time: what is late by plan is late; runs how many evenings are played; the same seed gives the same
// figures. Times are drawn from a normal distribution with PERT's mean and deviation, cut
// off at the quick and the slow time. dear tells the longest wait of a link that is not a
// rule but a cost, −1 for a link without; nil when all longest waits are rules.
func Sure(w *workload.Workload, s *workload.Schedule, spread func(task string) Spread, dear func(*workload.Link) int64, grace float64,
	runs int, seed uint64) map[string]*Sureness {
	d := newDispatch(w, s, dear)
	rng := rand.New(rand.NewPCG(seed, 0x5eed))
	out := map[string]*Sureness{}
	for _, j := range s.Joins {
		out[j.ID] = &Sureness{Blame: map[string]float64{}}
	}
	late := map[string]float64{}
	finish := make([]float64, len(d.order))
	start := make([]float64, len(d.order))
	cause := make([]int, len(d.order))
	spreads := make([]Spread, len(d.order))
	for i, t := range d.order {
		spreads[i] = spread(t.ID)
	}
	for range runs {
		for i, t := range d.order {
			at, why := float64(t.Start), -1
			for _, p := range d.before[i] {
				if f := p.free(start, finish); f > at+1e-9 {
					at, why = f, p.task
				}
			}
			start[i], cause[i] = at, why
			finish[i] = at + draw(rng, spreads[i])
		}
		for _, j := range d.joins {
			x := out[j.id]
			at, by := 0.0, -1
			for _, p := range j.after {
				if f := p.free(start, finish); f > at {
					at, by = f, p.task
				}
			}
			x.MeanS += at - j.planned
			if at <= j.wish+grace {
				x.OnTime++
			} else if by >= 0 {
				for cause[by] >= 0 {
					by = cause[by]
				}
				x.Blame[d.order[by].ID]++
				late[j.id]++
			}
			ok := true
			for _, h := range j.holds {
				ok = ok && start[h.to]-finish[h.from] <= h.most+1
			}
			if ok {
				x.Holds++
			}
		}
	}
	for id, x := range out {
		x.OnTime /= float64(runs)
		x.Holds /= float64(runs)
		x.MeanS /= float64(runs)
		for t := range x.Blame {
			x.Blame[t] /= late[id]
		}
	}
	return out
}

// draw takes one time; a spread without a range is what it is.
func draw(rng *rand.Rand, s Spread) float64 {
	if s.High <= s.Low {
		return s.Likely
	}
	return math.Min(s.High, math.Max(s.Low, s.Mean()+rng.NormFloat64()*s.Deviation()))
}

type follows struct {
	task  int
	wait  float64
	start bool // after its start, not its end
}

// free is when what follows may begin.
func (f follows) free(start, finish []float64) float64 {
	if f.start {
		return start[f.task] + f.wait
	}
	return finish[f.task] + f.wait
}

type hold struct {
	from, to int
	most     float64
}

type dispatched struct {
	id            string
	wish, planned float64
	after         []follows
	holds         []hold
}

// dispatch is a plan as an order of work.
type dispatch struct {
	order  []workload.Run
	before [][]follows
	joins  []dispatched
}

func newDispatch(w *workload.Workload, s *workload.Schedule, dear func(*workload.Link) int64) *dispatch {
	d := &dispatch{order: slices.Clone(s.Tasks)}
	slices.SortStableFunc(d.order, func(a, b workload.Run) int {
		// What needs nothing goes with what it is a part of, which comes first.
		return cmp.Or(cmp.Compare(a.Start, b.Start), cmp.Compare(min(1, len(b.Resources)), min(1, len(a.Resources))),
			cmp.Compare(a.Finish, b.Finish))
	})
	index := map[string]int{}
	for i, t := range d.order {
		index[t.ID] = i
	}
	d.before = make([][]follows, len(d.order))
	joins := map[string]int{}
	for _, j := range s.Joins {
		joins[j.ID] = len(d.joins)
		x := dispatched{id: j.ID, planned: float64(j.At), wish: float64(j.At)}
		for _, k := range w.Joins {
			if k.ID == j.ID && k.At != nil {
				x.wish = float64(*k.At) // what the guest expects, whatever is planned
			}
		}
		d.joins = append(d.joins, x)
	}
	owner := d.owners(w, joins)
	closes := d.ends(w, index)
	for i := range w.Links {
		l := &w.Links[i]
		from, ok := index[l.From]
		if !ok || l.Kind != workload.FinishStart && l.Kind != "" {
			continue
		}
		if to, task := index[l.To]; task {
			if from < to {
				d.before[to] = append(d.before[to], follows{task: from, wait: float64(l.Min)})
			}
			if out, ok := closes[l.From]; ok && out < to {
				d.before[to] = append(d.before[to], follows{task: out, wait: float64(l.Min)})
			}
			most := int64(-1)
			if l.Max != nil {
				most = *l.Max
			} else if dear != nil {
				most = dear(l)
			}
			if j, ok := joins[owner[l.To]]; ok && most >= 0 {
				d.joins[j].holds = append(d.joins[j].holds, hold{from, to, float64(most)})
			}
		} else if j, ok := joins[l.To]; ok {
			d.joins[j].after = append(d.joins[j].after, follows{task: from, wait: float64(l.Min)})
		}
	}
	d.handOver(w, index)
	return d
}

// ends lets a run begin with the hands that lay in, and end with those that take out: what follows it waits for them too. It
// returns who takes out what.
func (d *dispatch) ends(w *workload.Workload, index map[string]int) map[string]int {
	closes := map[string]int{}
	for i := range w.Links {
		l := &w.Links[i]
		from, ok := index[l.From]
		to, task := index[l.To]
		if !ok || !task || l.Max == nil || *l.Max != l.Min {
			continue
		}
		long := float64(d.order[to].Finish - d.order[to].Start)
		switch {
		case l.Kind == workload.StartStart && to < from: // the hands that lay in
			d.before[from] = append(d.before[from], follows{task: to, wait: float64(-l.Min), start: true})
		case l.Kind == workload.StartStart: // what goes on with it
			d.before[to] = append(d.before[to], follows{task: from, wait: float64(l.Min), start: true})
		case l.Kind == workload.FinishFinish && from < to:
			d.before[to] = append(d.before[to], follows{task: from, wait: -long})
			closes[l.From] = to
		}
	}
	return closes
}

// owners tells for each task the join that it leads to.
func (d *dispatch) owners(w *workload.Workload, joins map[string]int) map[string]string {
	next := map[string]string{}
	for _, l := range w.Links {
		if l.Kind == workload.FinishStart || l.Kind == "" {
			next[l.From] = l.To
		}
	}
	out := map[string]string{}
	for _, t := range w.Tasks {
		at := t.ID
		for range len(w.Tasks) {
			n, ok := next[at]
			if !ok {
				break
			}
			at = n
			if _, join := joins[at]; join {
				out[t.ID] = at
				break
			}
		}
	}
	return out
}

// handOver adds, for each unit of each resource, the order in which the plan uses it.
func (d *dispatch) handOver(w *workload.Workload, index map[string]int) {
	last := map[string][]int{}
	for _, r := range w.Resources {
		last[r.ID] = make([]int, r.Capacity)
		for k := range last[r.ID] {
			last[r.ID][k] = -1
		}
	}
	needs := map[string][]workload.Need{}
	for _, t := range w.Tasks {
		needs[t.ID] = t.Needs
	}
	for i, t := range d.order {
		for k, n := range needs[t.ID] {
			units := last[t.Resources[k]]
			// The units that became free first.
			slices.SortFunc(units, func(a, b int) int {
				f := func(x int) int64 {
					if x < 0 {
						return math.MinInt64
					}
					return d.order[x].Finish
				}
				return cmp.Or(cmp.Compare(f(a), f(b)), cmp.Compare(a, b))
			})
			for u := range min(int(n.Units), len(units)) {
				if p := units[u]; p >= 0 && p != i && d.order[p].Finish <= t.Start {
					d.before[i] = append(d.before[i], follows{task: p})
				}
				units[u] = i
			}
		}
	}
}
