package expand

import (
	"slices"
	"time"

	"jointime/core/kitchen"
	"jointime/core/workload"
)

// What the make-ahead work has to know of the told plan of a service: when it first wants everything, and whose hands and
// which equipment it takes when.

// Told is that of one service.
type Told struct {
	// Fired is when each component is first wanted: when its first step to order begins, or it is put on a plate.
	Fired map[string]time.Time `json:"fired"`
	Taken []Taken              `json:"taken"`
}

// Taken is a stretch in which so much of a resource is taken.
type Taken struct {
	Of    ResourceRef `json:"of"`
	From  time.Time   `json:"from"`
	To    time.Time   `json:"to"`
	Units int64       `json:"units"`
}

// Told reads what the make-ahead work has to know from a schedule of the evening.
func (e *Evening) Told(s *workload.Schedule) *Told {
	out := &Told{Fired: map[string]time.Time{}}
	at := func(s int64) time.Time { return e.Origin.Add(time.Duration(s) * time.Second) }
	first := func(component string, second int64) {
		if was, known := out.Fired[component]; !known || at(second).Before(was) {
			out.Fired[component] = at(second)
		}
	}
	runs := runsOf(s)
	for i := range e.Workload.Tasks {
		t := &e.Workload.Tasks[i]
		r, ref := runs[t.ID], e.refs[t.ID]
		if r == nil || !e.owns(t.ID) {
			continue
		}
		for k, n := range t.Needs {
			out.Taken = append(out.Taken, Taken{e.roster[r.Resources[k]], at(r.Start), at(r.Finish), n.Units})
		}
		if c, ok := e.book.Component(ref.Component); ok && ref.Act == "" {
			step := &c.Steps[c.StepIndex(ref.Step)]
			if !slices.ContainsFunc(step.After, func(a kitchen.Predecessor) bool { return c.Steps[c.StepIndex(a.Step)].Phase == kitchen.PickUp }) {
				first(c.ID, r.Start)
			}
		}
		if ref.Plating {
			x, _ := e.CourseByID(ref.Joins[0])
			for _, m := range x.Firing.Moments {
				for _, w := range x.Firing.momentsOf(m.Component) {
					if w.task == t.ID {
						first(m.Component, r.Start+int64(w.offset))
					}
				}
			}
		}
	}
	return out
}

// lessen takes what is taken of a resource out of its windows; both may overlap as they like.
func lessen(ws []workload.Window, taken []workload.Window) []workload.Window {
	cuts := []int64{}
	for _, w := range ws {
		cuts = append(cuts, w.From, w.To)
	}
	for _, t := range taken {
		cuts = append(cuts, t.From, t.To)
	}
	slices.Sort(cuts)
	cuts = slices.Compact(cuts)
	out := []workload.Window{}
	for i := 0; i+1 < len(cuts); i++ {
		from, to := cuts[i], cuts[i+1]
		room := int64(0)
		for _, w := range ws {
			if w.From <= from && to <= w.To {
				room = max(room, w.Capacity)
			}
		}
		for _, t := range taken {
			if t.From <= from && to <= t.To {
				room -= t.Capacity
			}
		}
		if room <= 0 {
			continue
		}
		if n := len(out); n > 0 && out[n-1].To == from && out[n-1].Capacity == room {
			out[n-1].To = to
			continue
		}
		out = append(out, workload.Window{From: from, To: to, Capacity: room})
	}
	return out
}

// takenOf lists what told plans take of a resource, as windows of the workload.
func (p *Prep) takenOf(of ResourceRef) (out []workload.Window) {
	for _, s := range p.services {
		if t := p.told[s.ID]; t != nil {
			for _, x := range t.Taken {
				if x.Of == of && x.To.After(x.From) {
					out = append(out, workload.Window{From: p.second(x.From), To: p.second(x.To), Capacity: x.Units})
				}
			}
		}
	}
	return out
}

// duringService names somebody, or a piece of equipment, in the gaps of a service. What is made then is made by who has a
// minute, and in what is free.
func duringService(id string) string { return id + "~service" }

// inService reports whether a batch has to be made while its service goes on.
func (p *Prep) inServiceBatch(i int) bool {
	x := &p.Amounts.Batches[i]
	s, ok := p.book.Service(x.Service)
	return ok && len(s.Tables) > 0 && p.second(x.NeedBy) > p.second(s.At(s.Starts(), p.zone))
}

// gaps adds everybody once more for the gaps of the services, and what has no thermostat and is kept for them; where no plan of
// a service was told yet, its gaps are not known, and all of it counts.
func (p *Prep) gaps(all []workload.Resource) {
	if !slices.ContainsFunc(p.indices(), p.inServiceBatch) {
		return
	}
	busy := p.busy()
	for _, r := range all {
		ref := p.roster[r.ID]
		if r.Thermostat != nil || !ref.IsPerson() && len(p.inService(r.ID)) == 0 {
			continue
		}
		ws := r.Windows
		if !r.HasWindows {
			ws = []workload.Window{{From: 0, To: p.Workload.Horizon, Capacity: r.Capacity}}
		}
		var during []workload.Window
		for _, w := range ws {
			for _, b := range busy {
				if from, to := max(w.From, b.From), min(w.To, b.To); from < to {
					during = append(during, workload.Window{From: from, To: to, Capacity: w.Capacity})
				}
			}
		}
		gap := r
		gap.ID = ResourceRef{ref.Kind, duringService(ref.ID), ref.Part}.name()
		gap.HasWindows, gap.Windows = true, lessen(during, p.takenOf(ref))
		p.roster[gap.ID] = ref
		p.Workload.Resources = append(p.Workload.Resources, gap)
	}
}

func (p *Prep) indices() []int {
	out := make([]int, len(p.Amounts.Batches))
	for i := range out {
		out[i] = i
	}
	return out
}

// mayDo lists who may do a step of a batch, with those in the gaps of a service where it is made then.
func (p *Prep) mayDo(batch int, c *kitchen.Component, s *kitchen.Step) []string {
	people := mayDo(p.book, c, s)
	if p.inServiceBatch(batch) {
		for _, id := range slices.Clone(people) {
			people = append(people, duringService(id))
		}
	}
	return people
}

// roomInGaps adds to a need of equipment what is free of it in the gaps of a service.
func (p *Prep) roomInGaps(n *workload.Need) {
	for _, id := range slices.Clone(n.AnyOf) {
		ref := p.roster[id]
		gap := ResourceRef{ref.Kind, duringService(ref.ID), ref.Part}.name()
		if _, there := p.roster[gap]; there {
			n.AnyOf = append(n.AnyOf, gap)
		}
	}
}
