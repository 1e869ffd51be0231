package schedule

import (
	"cmp"
	"slices"
	"strconv"

	"jointime/core/workload"
)

// The search knows costs of joins and links, and chooses lengths and what is taken as each other with the two exceptions
// below. What a workload says beyond that is said here in those words:
//
//   - told starts are links to instants that have happened, at the told second: exact.
//   - a run of variable length that may be nothing at all, or that has begun, is as short as it may be; a chain of needs
//     that are taken as each other, with a list that names a resource twice, has one position, the least loaded first.
//     What is found keeps every rule of the workload, but there may be better: it is feasible, and nothing is proved of it.

// plain is a workload in the search's own words.
type plain struct {
	*workload.Workload
	asked *workload.Workload
	// narrowed says that something was chosen before the search.
	narrowed bool
	// clocks are joins that stand for instants; they are not told of.
	clocks map[string]bool
}

// plainOf says a workload in the search's words; nil when it is in them already.
func plainOf(w *workload.Workload) *plain {
	if !special(w) {
		return nil
	}
	p := &plain{Workload: w.Clone(), asked: w, clocks: map[string]bool{}}
	p.lengths()
	p.choose()
	for _, t := range w.Told {
		at := p.clock(t.Start)
		// Both ways: a wait of nothing is best, and each second to either side costs.
		for _, l := range []workload.Link{{From: at, To: t.Task, Kind: workload.StartStart}, {From: t.Task, To: at, Kind: workload.StartStart}} {
			l.Min, l.Best, l.Weight = -2*workload.MaxSeconds, new(int64), t.Weight
			p.Links = append(p.Links, l)
		}
	}
	p.Told = nil
	return p
}

func special(w *workload.Workload) bool {
	fixed := w.FixedTasks()
	return len(w.Told) > 0 || slices.ContainsFunc(w.Tasks, func(t workload.Task) bool {
		return t.Longest != nil && (t.Seconds == 0 || fixed[t.ID] != nil) || slices.ContainsFunc(t.Needs,
			func(n workload.Need) bool { return n.As != nil })
	})
}

// clock is a join that stands at an instant, whatever is planned.
func (p *plain) clock(at int64) string {
	id := "\x00" + strconv.FormatInt(at, 10)
	if !p.clocks[id] {
		p.clocks[id] = true
		p.Joins = append(p.Joins, workload.Join{ID: id})
		p.Fixed = append(p.Fixed, workload.Fixed{Join: id, At: at})
	}
	return id
}

// lengths gives every run whose length the search does not choose the shortest that its own links allow. What a link of
// such a task to itself costs is then known, and is said between two instants.
func (p *plain) lengths() {
	at := map[string]*workload.Task{}
	fixed := p.FixedTasks()
	for i := range p.Tasks {
		if t := &p.Tasks[i]; t.Longest != nil && (t.Seconds == 0 || fixed[t.ID] != nil) {
			p.narrowed = p.narrowed || *t.Longest > t.Seconds
			at[t.ID] = t
		}
	}
	open := map[string]bool{}
	for i := range p.Fixed {
		f := &p.Fixed[i]
		if t := at[f.Task]; t != nil && f.EndsOpen(t) {
			open[f.Task], p.narrowed = true, true
			end := p.FixedFinish(f, t.Seconds)
			f.Finish = &end
			t.Seconds = end - f.Start // what it costs to be so long
		}
	}
	for _, l := range p.Links {
		if t := at[l.From]; l.From == l.To && t != nil && !open[l.From] {
			t.Seconds = max(t.Seconds, min(l.Min, *t.Longest))
		}
	}
	var links []workload.Link
	for _, l := range p.Links {
		t := at[l.From]
		if l.From != l.To || t == nil {
			links = append(links, l)
			continue
		}
		l.From, l.To, l.Kind = p.clock(0), p.clock(t.Seconds), workload.FinishStart
		if open[t.ID] {
			l.Min, l.Max = 0, nil
		} else if t.Seconds < l.Min || l.Max != nil && t.Seconds > *l.Max {
			// No length will do: the task itself cannot be.
			never := int64(-workload.MaxSeconds)
			t.Latest = &never
		}
		links = append(links, l)
	}
	p.Links = links
	for _, t := range at {
		t.Longest = nil
	}
}

// needOf is a need of a task, by their places.
type needOf struct{ task, need int }

// choose gives every chain of needs that are taken as each other, and that the search cannot follow by itself, one
// position of their lists: that at which the resources have the least to do so far, the longest chains first. What is
// fixed has chosen already.
func (p *plain) choose() {
	task := map[string]int{}
	for i := range p.Tasks {
		task[p.Tasks[i].ID] = i
	}
	// Every need of a chain leads to the one that is taken as none.
	root := func(x needOf) needOf {
		for {
			as := p.asked.Tasks[x.task].Needs[x.need].As
			if as == nil {
				return x
			}
			x = needOf{task[as.Task], as.Need}
		}
	}
	chains := map[needOf][]needOf{}
	var order []needOf
	for i := range p.Tasks {
		for k, n := range p.Tasks[i].Needs {
			if n.As != nil {
				r := root(needOf{i, k})
				if chains[r] == nil {
					order = append(order, r)
					chains[r] = []needOf{r}
				}
				chains[r] = append(chains[r], needOf{i, k})
			}
		}
	}
	fixed := p.FixedTasks()
	order = slices.DeleteFunc(order, func(r needOf) bool { return p.followed(chains[r], fixed) })
	if len(order) == 0 {
		return
	}
	p.narrowed = true
	load := map[string]int64{}
	work := func(x needOf) int64 { return p.Tasks[x.task].Seconds * p.Tasks[x.task].Needs[x.need].Units }
	of := map[needOf]int64{}
	for _, r := range order {
		for _, x := range chains[r] {
			of[r] += work(x)
		}
	}
	slices.SortStableFunc(order, func(a, b needOf) int { return cmp.Compare(of[b], of[a]) })
	for _, r := range order {
		best, least := -1, int64(0)
		for at := range p.Tasks[r.task].Needs[r.need].AnyOf {
			sum := int64(0)
			for _, x := range chains[r] {
				t := &p.Tasks[x.task]
				if f := fixed[t.ID]; f != nil {
					if f.Resources[x.need] != t.Needs[x.need].AnyOf[at] {
						sum += workload.MaxSeconds // it was somebody else's
					}
					continue
				}
				sum += load[t.Needs[x.need].AnyOf[at]] + work(x)
			}
			if best < 0 || sum < least {
				best, least = at, sum
			}
		}
		for _, x := range chains[r] {
			t := &p.Tasks[x.task]
			n := &t.Needs[x.need]
			n.As = nil
			if fixed[t.ID] != nil {
				continue
			}
			id := n.AnyOf[best]
			load[id] += work(x)
			n.AnyOf = []string{id}
		}
	}
}

// followed reports whether the search can follow a chain: no list names a resource twice, and what is fixed agrees.
func (p *plain) followed(chain []needOf, fixed map[string]*workload.Fixed) bool {
	at := -1
	for _, x := range chain {
		t := &p.Tasks[x.task]
		list := t.Needs[x.need].AnyOf
		for i, id := range list {
			if slices.Contains(list[:i], id) {
				return false
			}
		}
		if f := fixed[t.ID]; f != nil {
			is := slices.Index(list, f.Resources[x.need])
			if at >= 0 && is != at {
				return false
			}
			at = is
		}
	}
	return true
}

// restore is the answer to what was asked: without the clocks, and claiming no more than was looked at.
func (p *plain) restore(s *workload.Schedule) *workload.Schedule {
	out := *s
	out.Joins = slices.DeleteFunc(slices.Clone(s.Joins), func(j workload.Instant) bool { return p.clocks[j.ID] })
	out.Broken = slices.Clone(s.Broken)
	for i := range out.Broken {
		out.Broken[i].IDs = slices.DeleteFunc(slices.Clone(out.Broken[i].IDs), func(id string) bool { return p.clocks[id] })
	}
	if p.narrowed {
		out.LowerBound = nil
		if out.Status == workload.Optimal {
			out.Status = workload.Feasible
		}
	}
	return &out
}
