package expand

import (
	"slices"
	"strconv"
	"strings"

	"jointime/core/kitchen"
	"jointime/core/message"
	"jointime/core/workload"
)

// hotPan is how many seconds a heated pan may stand empty before something goes in.
// Common practice, no source.
const hotPan = 60

// batch is a run of portions [from, to) that goes through a step together.
type batch struct {
	id       string
	from, to int
	ref      TaskRef
}

// main is the step's own run, of a batch or of a part of it that leaves sooner.
func (b *batch) main() string {
	if b.ref.Main != "" {
		return b.ref.Main
	}
	return b.id
}

// pickUp adds the pick-up steps of what is wanted in batches, their waits, and the wait
// to the component's moment in the plating clock of every table-course that gets some.
func (f *Firing) pickUp(x *wanted) error {
	c := x.component
	steps := c.InPhase(kitchen.PickUp)
	batches := map[string][]batch{}
	followed := map[string]bool{}
	for i := range steps {
		s := &steps[i]
		bs, err := f.batches(x, s, batches)
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
			planned, rate := c.PlannedWait(s, a).Wait, kitchen.Rate(&c.Steps[c.StepIndex(a.Step)], s)
			for _, p := range before {
				w := planned.ForPieces(p.to-p.from, rate)
				var to []string
				for _, q := range bs {
					if p.from < q.to && q.from < p.to {
						f.link(p.id, q.id, w, 0)
						to = append(to, q.id)
					}
				}
				if err := f.keep(x, p, w, to, nil); err != nil {
					return err
				}
			}
		}
	}
	x.made = batches
	for i := range steps {
		if err := f.wares(x, &steps[i]); err != nil {
			return err
		}
	}
	hold := c.PlannedHold().Wait
	for i := range steps {
		if followed[steps[i].ID] {
			continue
		}
		for _, p := range batches[steps[i].ID] {
			var to []string
			var offsets []int
			for _, share := range x.shares {
				if p.from >= share.to || share.from >= p.to {
					continue
				}
				hold := hold.ForPieces(p.to-p.from, kitchen.Rate(&steps[i], nil))
				if c.Pot != nil && (f.in == nil || f.in.alone) {
					// Of an evening a pot is brought up when the stove is quiet; for a table alone, no sooner than it must be.
					hold.Best = &hold.Shortest
				}
				for _, m := range share.firing.momentsOf(c.ID) {
					f.link(p.id, m.task, hold, m.offset)
					to, offsets = append(to, m.task), append(offsets, m.offset)
				}
			}
			if err := f.keep(x, p, hold, to, offsets); err != nil {
				return err
			}
			f.topUp(x, p)
		}
	}
	return nil
}

// keep adds the place that a batch takes while it waits for what comes next, each so many seconds after its start (none
// where offsets is nil): from its end until the last of them has it.
func (f *Firing) keep(x *wanted, p batch, w kitchen.Wait, to []string, offsets []int) error {
	if err := f.care(x, p, w); err != nil {
		return err
	}
	if w.In == nil || len(to) == 0 {
		return nil
	}
	ids, _ := equipment(f.book, w.In)
	if len(ids) == 0 {
		return kitchen.Faults{kitchen.FaultAt("equipment", "fault.nothing-to-keep-in", "kind", w.In.Kind, "component", x.component.Name)}
	}
	ref := p.ref
	ref.Act, ref.Main = ActPlace, p.main()
	most := int64(w.Shortest) + placeMost
	if w.Longest != nil {
		most = max(most, int64(*w.Longest)+placeMost)
	}
	t := workload.Task{ID: p.id + "-place", Name: x.component.Name + ", " + message.Of("act.place").Text, Seconds: max(1, int64(w.Shortest)),
		Longest: &most, Needs: []workload.Need{room(ids, w.In)}}
	f.add(t, ref, x, p)
	zero := int64(0)
	links := []workload.Link{{From: p.id, To: t.ID, Kind: workload.FinishStart, Max: &zero, Weight: 1}}
	for k, id := range to {
		at := int64(0)
		if offsets != nil {
			at = int64(offsets[k])
		}
		l := workload.Link{From: id, To: t.ID, Kind: workload.StartFinish, Min: at, Weight: 1}
		if k == len(to)-1 {
			l.Max = &at // it leaves the place with the last
		}
		links = append(links, l)
	}
	f.Workload.Links = append(f.Workload.Links, links...)
	return nil
}

// care adds the hands that something wants while it waits at the least.
func (f *Firing) care(x *wanted, p batch, w kitchen.Wait) error {
	people := f.cooks(x.component.Section)
	for k, at := range w.TimesCertain() {
		if len(people) == 0 {
			return kitchen.Faults{kitchen.FaultAt("sections."+x.component.Section, "fault.nobody", "step", w.Care.Say, "component",
				x.component.Name)}
		}
		ref := p.ref
		ref.Act, ref.Main, ref.Say = ActTouch, p.main(), w.Care.Say
		t, l := caring(p.id, x.component.Name, k+1, int64(at), w.Care, people)
		f.add(t, ref, x, p)
		f.Workload.Links = append(f.Workload.Links, l)
	}
	return nil
}

// placeMost is by how many seconds more than it should something may stay in a place, in a plan that cannot do better.
const placeMost = 3600

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
			for _, p := range prices[f.in.school].over {
				best := v + p.beyond
				f.Workload.Links = append(f.Workload.Links, workload.Link{From: from, To: to, Kind: workload.FinishStart, Min: l.Min, Best: &best,
					Weight: p.more})
			}
		}
	}
	best := w.Best
	if best == nil && !(w.NoLimit && f.in != nil && f.in.zero) {
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

// batches adds the tasks of one step and returns them with the portions they hold; so are those of the steps before.
func (f *Firing) batches(x *wanted, s *kitchen.Step, so map[string][]batch) ([]batch, error) {
	people := f.mayDo(x.component, s)
	parts := s.Batch.Split(x.portions)
	var out []batch
	at, before := 0, ""
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
		b := batch{id: id, from: at, to: at + n}
		needs, err := needsOf(f.book, id, people, x.component, s)
		if err != nil {
			return nil, err
		}
		usual := f.length(s.Time.For(n))
		leaves := leaving(s, x.doneness[at:at+n])
		seconds := usual + longest(leaves)
		ref := TaskRef{Component: x.component.ID, Step: s.ID, Batch: i + 1, Of: len(parts), Portions: n, Apart: x.apart}
		b.ref = ref
		t := workload.Task{ID: id, Name: x.component.Name + ": " + s.Name, Seconds: int64(max(seconds, 0)), Needs: needs}
		f.goOn(x, s, &t, b, so)
		here := []batch{b}
		if len(leaves) > 1 {
			here = f.apart(x, s, &t, b, leaves, usual, people)
		} else {
			acts, ties := actsOf(&t, s, n, people)
			f.add(t, ref, x, b)
			f.acts(x, b, acts, ties)
		}
		if r, tie := rinse(f.book, &t, s, people); r != nil {
			ref := b.ref
			ref.Act, ref.Main, ref.Say = ActTouch, b.main(), message.Of("act.rinse").Text
			f.add(*r, ref, x, b)
			f.Workload.Links = append(f.Workload.Links, tie)
		}
		inTurn := s.Batch != nil && s.Batch.Run == kitchen.InTurn
		if e := s.Equipment; e != nil && e.PreheatS > 0 && (i == 0 || !inTurn) {
			f.preheat(x, s, b, ref)
		}
		if i > 0 && inTurn {
			f.Workload.Links = append(f.Workload.Links, workload.Link{From: before, To: id, Kind: workload.FinishStart, Weight: 1})
		}
		before = id
		out = append(out, here...)
		at += n
	}
	return out, nil
}

// acts adds the acts of a batch.
func (f *Firing) acts(x *wanted, b batch, acts []act, ties []workload.Link) {
	for _, a := range acts {
		ref := b.ref
		ref.Act, ref.Say, ref.Main = a.is, a.say, b.main()
		f.add(a.Task, ref, x, b)
	}
	f.Workload.Links = append(f.Workload.Links, ties...)
}

// goOn ties a batch to that of the step before with the same portions, where the step goes on in the same pan.
func (f *Firing) goOn(x *wanted, s *kitchen.Step, t *workload.Task, b batch, so map[string][]batch) {
	for _, a := range s.After {
		if !x.component.GoesOn(s, a.Step) {
			continue
		}
		for _, p := range so[a.Step] {
			if p.from != b.from || p.to != b.to || p.ref.Act != "" {
				continue
			}
			before := &x.component.Steps[x.component.StepIndex(a.Step)]
			for i := range f.Workload.Tasks {
				if on := &f.Workload.Tasks[i]; on.ID == p.id {
					goOn(t, s, on, before, slices.Equal(f.mayDo(x.component, s), f.mayDo(x.component, before)))
				}
			}
		}
	}
}

// preheat adds the heating of the empty pan before a batch: it takes the room of the
// batch, and nobody.
func (f *Firing) preheat(x *wanted, s *kitchen.Step, b batch, ref TaskRef) {
	ids, _ := equipment(f.book, s.Equipment)
	ref.Preheat = true
	t := workload.Task{ID: b.id + "/heat", Name: x.component.Name + ": heat for " + strings.ToLower(s.Name),
		Seconds: int64(s.Equipment.PreheatS),
		Needs:   []workload.Need{room(ids, s.Equipment)}}
	for i := range f.Workload.Tasks {
		if on := &f.Workload.Tasks[i]; on.ID == b.id { // the pan that is heated is the pan that is used
			t.Needs[0].As = &workload.As{Task: b.id, Need: len(on.Needs) - 1}
		}
	}
	f.add(t, ref, x, b)
	longest := hotPan
	f.link(t.ID, b.id, kitchen.Wait{Longest: &longest}, 0)
}

// apartFirst lets the portions of guests with allergies go ahead of the others of the
// same component at their table: none of the others' steps begins before theirs.
func (f *Firing) apartFirst() {
	var order []string
	for _, t := range f.Workload.Tasks {
		if ref, mine := f.Tasks[t.ID]; mine && !ref.Plating && !ref.Preheat && ref.Act == "" {
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
