package expand

import (
	"slices"
	"strconv"
	"strings"

	"jointime/core/kitchen"
	"jointime/core/workload"
)

// hotPan is how many seconds a heated pan may stand empty before something goes in.
// Common practice, no source.
const hotPan = 60

// batch is a run of portions [from, to) that goes through a step together.
type batch struct {
	id       string
	from, to int
}

// pickUp adds the pick-up steps of what is wanted in batches, their waits, and the wait
// to the component's moment in the plating clock of every table-course that gets some.
func (f *Firing) pickUp(x *wanted) error {
	steps := x.component.InPhase(kitchen.PickUp)
	batches := map[string][]batch{}
	followed := map[string]bool{}
	for i := range steps {
		s := &steps[i]
		bs, err := f.batches(x, s)
		if err != nil {
			return err
		}
		batches[s.ID] = bs
		for _, a := range s.After {
			before, toOrder := batches[a.Step]
			if !toOrder {
				continue // made ahead: it is on hand
			}
			followed[a.Step] = true
			for _, p := range before {
				for _, q := range bs {
					if p.from < q.to && q.from < p.to {
						f.link(p.id, q.id, a.Wait, 0)
					}
				}
			}
		}
	}
	for i := range steps {
		if followed[steps[i].ID] {
			continue
		}
		for _, p := range batches[steps[i].ID] {
			for _, to := range x.shares {
				if p.from < to.to && to.from < p.to {
					f.link(p.id, to.firing.platingID(), x.component.Hold, to.firing.Clock.First[x.component.ID])
				}
			}
		}
	}
	return nil
}

// link adds a wait from the finish of one task to the start of another, less an
// offset: the moment the plating clock needs the component lies that much after
// the plating's start.
func (f *Firing) link(from, to string, w kitchen.Wait, offset int) {
	l := workload.Link{From: from, To: to, Kind: workload.FinishStart, Min: int64(w.Shortest - offset), Weight: waitWeight}
	if w.Longest != nil {
		v := int64(*w.Longest - offset)
		if f.in == nil || !f.in.soft {
			l.Max = &v
		} else {
			// A whole service is wanted even where one wait gets too long; then that is said.
			f.in.dear[[2]string{from, to}] = v
			f.Workload.Links = append(f.Workload.Links, workload.Link{From: from, To: to, Kind: workload.FinishStart, Min: l.Min, Best: &v,
				Weight: overHold})
		}
	}
	best := w.Best
	if best == nil && (w.Longest == nil || f.in != nil && f.in.soft) {
		// Nobody said how long it may wait: fired no sooner than it must be.
		best = &w.Shortest
	}
	if best != nil {
		v := int64(*best - offset)
		l.Best = &v
	}
	f.Workload.Links = append(f.Workload.Links, l)
}

// add puts a task into the workload and tells every table-course that has a share of it.
func (f *Firing) add(t workload.Task, ref TaskRef, x *wanted, b batch) {
	f.Workload.Tasks = append(f.Workload.Tasks, t)
	var of []*Firing
	for _, s := range x.shares {
		if b.from < s.to && s.from < b.to && !slices.Contains(of, s.firing) {
			of = append(of, s.firing)
		}
	}
	for _, g := range of {
		ref.Joins = append(ref.Joins, g.Table.ID)
	}
	for _, g := range of {
		g.Tasks[t.ID] = ref
	}
}

// batches adds the tasks of one step and returns them with the portions they hold.
func (f *Firing) batches(x *wanted, s *kitchen.Step) ([]batch, error) {
	people := f.cooks(x.component.SectionOf(s))
	parts := s.Batch.Split(x.portions)
	var out []batch
	at := 0
	for i, n := range parts {
		id := x.place + "/" + x.component.ID
		if x.apart {
			id += "~apart"
		}
		id += "/" + s.ID
		// The first has the same id whether others follow it or not.
		if i > 0 {
			id += "/" + strconv.Itoa(i+1)
		}
		b := batch{id, at, at + n}
		needs, err := needsOf(f.book, id, people, x.component, s)
		if err != nil {
			return nil, err
		}
		seconds := f.length(s.Time.For(n)) + extra(s, x.doneness[at:at+n])
		ref := TaskRef{Component: x.component.ID, Step: s.ID, Batch: i + 1, Of: len(parts), Portions: n, Apart: x.apart}
		f.add(workload.Task{ID: id, Name: x.component.Name + ": " + s.Name, Seconds: int64(max(seconds, 0)), Needs: needs}, ref, x, b)
		inTurn := s.Batch != nil && s.Batch.Run == kitchen.InTurn
		if i > 0 && inTurn {
			f.Workload.Links = append(f.Workload.Links, workload.Link{From: out[i-1].id, To: id, Kind: workload.FinishStart, Weight: 1})
		}
		if e := s.Equipment; e != nil && e.PreheatS > 0 && (i == 0 || !inTurn) {
			f.preheat(x, s, b, ref)
		}
		out = append(out, b)
		at += n
	}
	return out, nil
}

// cooks lists the people of a section with those who help there tonight.
func (f *Firing) cooks(section string) []string {
	people := cooks(f.book, section)
	if f.in != nil {
		for _, h := range f.in.helpers {
			if h.Section == section && !slices.Contains(people, h.Person) {
				people = append(people, h.Person)
			}
		}
	}
	return people
}

// preheat adds the heating of the empty pan before a batch: it takes the room of the
// batch, and nobody.
func (f *Firing) preheat(x *wanted, s *kitchen.Step, b batch, ref TaskRef) {
	ids, _ := equipment(f.book, s.Equipment.Kind, s.Equipment.SetpointC)
	ref.Preheat = true
	t := workload.Task{ID: b.id + "/heat", Name: x.component.Name + ": heat for " + strings.ToLower(s.Name),
		Seconds: int64(s.Equipment.PreheatS),
		Needs:   []workload.Need{{AnyOf: ids, Units: int64(s.Equipment.Units), SetpointC: s.Equipment.SetpointC}}}
	f.add(t, ref, x, b)
	longest := hotPan
	f.link(t.ID, b.id, kitchen.Wait{Longest: &longest}, 0)
}

// apartFirst lets the portions of guests with allergies go ahead of the others of the
// same component at their table: none of the others' steps begins before theirs.
func (f *Firing) apartFirst() {
	var order []string
	for _, t := range f.Workload.Tasks {
		if ref, mine := f.Tasks[t.ID]; mine && !ref.Plating && !ref.Preheat {
			order = append(order, t.ID)
		}
	}
	for _, a := range order {
		for _, o := range order {
			x, y := f.Tasks[a], f.Tasks[o]
			if x.Apart && !y.Apart && x.Component == y.Component && x.Step == y.Step && len(y.Joins) == 1 {
				f.Workload.Links = append(f.Workload.Links, workload.Link{From: a, To: o, Kind: workload.StartStart, Weight: 1})
			}
		}
	}
}

// length is how long a step is taken to be: the likely time, and with a margin as much
// of the way to what it takes in nine cases of ten (mean and deviation of a three-point
// time after PERT: Malcolm, Roseboom, Clark & Fazar, Operations Research 7, 1959).
func (f *Firing) length(e kitchen.Estimate) int {
	if f.in == nil || f.in.margin <= 0 {
		return e.Likely
	}
	mean, dev := float64(e.Low+4*e.Likely+e.High)/6, float64(e.High-e.Low)/6
	safe := min(float64(e.High), mean+1.2816*dev)
	return e.Likely + int(f.in.margin*max(0, safe-float64(e.Likely)))
}

// extra is how much longer (or shorter) a batch takes for its guests' wishes: the
// longest of them, since they lie in the same pan.
func extra(s *kitchen.Step, wishes []string) int {
	out, first := 0, true
	for _, w := range wishes {
		d := 0
		for _, v := range s.Doneness {
			if strings.EqualFold(v.Name, w) {
				d = v.Seconds
			}
		}
		if first || d > out {
			out, first = d, false
		}
	}
	return out
}
