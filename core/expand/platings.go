package expand

import (
	"math"
	"slices"

	"jointime/core/kitchen"
	"jointime/core/message"
	"jointime/core/plating"
	"jointime/core/workload"
)

// A plate is put together at the pass, or in two stages: its first elements ahead, racked, and the rest at the pass. What is
// cold altogether may be plated ahead whole.

// stages is one plate: what is put on ahead, what at the pass, and how long it may wait between.
type stages struct {
	ahead, pass []plating.Job
	onAhead     []int // seconds that each must have been on the plate
	onPass      []int
	rackS       int
}

func stagesOf(d *kitchen.Dish, o *Order, elements []kitchen.Element, hands int) stages {
	s := stages{rackS: d.Specification.Racked()}
	n := d.AheadOf(o.Variant)
	for i, e := range elements {
		j := plating.Job{Key: e.Component, Seconds: e.Seconds, Hands: min(e.Hands, hands)}
		if i < n {
			s.ahead, s.onAhead = append(s.ahead, j), append(s.onAhead, e.OnPlateS)
		} else {
			s.pass, s.onPass = append(s.pass, j), append(s.onPass, e.OnPlateS)
		}
	}
	return s
}

// clockOf is the plating clock of some plates' jobs; that of no jobs takes no time.
func clockOf(plates []stages, of func(*stages) []plating.Job, hands int) (plating.Clock, error) {
	jobs := make([][]plating.Job, len(plates))
	any := false
	for i := range plates {
		jobs[i] = of(&plates[i])
		any = any || len(jobs[i]) > 0
	}
	if !any {
		return plating.Clock{Exact: true, First: map[string]int{}}, nil
	}
	return plating.NewClock(jobs, hands)
}

// clocks works out the plating clock of both stages, and how long the plates stand for what must set or thaw on them.
func (f *Firing) clocks(plates []stages) (err error) {
	f.plates = plates
	if f.Clock, err = clockOf(plates, func(s *stages) []plating.Job { return s.pass }, f.Table.Hands); err != nil {
		return err
	}
	if f.Racked, err = clockOf(plates, func(s *stages) []plating.Job { return s.ahead }, f.rackHands()); err != nil {
		return err
	}
	for p := range plates {
		for e, j := range plates[p].pass {
			f.StandS = max(f.StandS, plates[p].onPass[e]-(f.Clock.Seconds-f.Clock.Starts[p][e]-j.Seconds))
		}
	}
	return nil
}

// rackHands is how many people put on what goes on ahead: one for a table, as many as plate for a banquet.
func (f *Firing) rackHands() int {
	if f.in != nil && f.in.banquet {
		return f.Table.Hands
	}
	return 1
}

func (f *Firing) platingID() string { return f.Table.ID + "/plating" }

func (f *Firing) rackedID() string { return f.Table.ID + "/plating-ahead" }

// Wanted is when a plating wants a component, in seconds from its start.
func (f *Firing) Wanted(of TaskRef, component string) int64 {
	if of.Racked {
		return int64(f.Racked.First[component])
	}
	return int64(f.Clock.First[component])
}

// moment is a plating and when it wants something, in seconds from its start.
type moment struct {
	task   string
	offset int
}

// momentsOf lists the platings that want a component.
func (f *Firing) momentsOf(component string) (out []moment) {
	if at, ok := f.Racked.First[component]; ok {
		out = append(out, moment{f.rackedID(), at})
	}
	if at, ok := f.Clock.First[component]; ok {
		out = append(out, moment{f.platingID(), at})
	}
	return out
}

// plating adds the tasks that take the pass and its people, and the people and the bench of what is put on ahead.
func (f *Firing) plating() error {
	plates := 0
	for _, o := range f.Table.Orders {
		plates += o.Count
	}
	t := workload.Task{ID: f.platingID(), Name: message.Of("task.plating").Text, Seconds: int64(f.Clock.Seconds)}
	people := f.platers()
	if len(people) < f.Table.Hands {
		return kitchen.Faults{kitchen.FaultAt("hands", "fault.platers", "people", len(people), "wanted", f.Table.Hands)}
	}
	for range f.Table.Hands {
		leave(&t, people)
	}
	if pass, room := equipment(f.book, &kitchen.EquipmentNeed{Kind: kitchen.Pass}); len(pass) > 0 {
		t.Needs = append(t.Needs, workload.Need{AnyOf: pass, Units: int64(min(plates, room))})
	}
	f.Workload.Tasks = append(f.Workload.Tasks, t)
	f.Tasks[t.ID] = TaskRef{Plating: true, Portions: plates, Joins: []string{f.Table.ID}}
	stand := int64(f.StandS)
	f.Workload.Links = append(f.Workload.Links, workload.Link{From: t.ID, To: f.Table.ID, Kind: workload.FinishStart, Min: stand, Max: &stand,
		Weight: 1})
	f.rack(plates, people)
	return nil
}

// rack adds what is put on ahead: done by who plates, or by who made it, and waiting on the rack for the pass.
func (f *Firing) rack(plates int, platers []string) {
	if f.Racked.Seconds == 0 {
		return
	}
	people := slices.Clone(platers)
	for i := range f.wants {
		if _, on := f.Racked.First[f.wants[i].component.ID]; on {
			for _, id := range f.cooks(f.wants[i].component.Section) {
				if !slices.Contains(people, id) {
					people = append(people, id)
				}
			}
		}
	}
	t := workload.Task{ID: f.rackedID(), Name: message.Of("task.plating-ahead").Text, Seconds: int64(f.Racked.Seconds)}
	for range f.rackHands() {
		leave(&t, people)
	}
	f.Workload.Tasks = append(f.Workload.Tasks, t)
	f.Tasks[t.ID] = TaskRef{Plating: true, Racked: true, Portions: plates, Joins: []string{f.Table.ID}}
	longest, onPlate := f.rackMost(), 0
	for p := range f.plates {
		s := &f.plates[p]
		for e, j := range s.ahead {
			if s.onAhead[e] > 0 {
				onPlate = max(onPlate, f.Racked.Starts[p][e]+j.Seconds+s.onAhead[e])
			}
		}
	}
	// On the rack it waits for nothing and costs nothing.
	f.link(t.ID, f.platingID(), kitchen.Wait{Best: &longest, Longest: &longest}, 0)
	if onPlate > 0 {
		f.Workload.Links = append(f.Workload.Links, workload.Link{From: t.ID, To: f.Table.ID, Kind: workload.StartStart, Min: int64(onPlate),
			Weight: 1})
	}
}

// rackMost is how long the plates that are begun ahead may wait, seconds: the least that one of them may.
func (f *Firing) rackMost() int {
	most := math.MaxInt
	for p := range f.plates {
		if len(f.plates[p].ahead) > 0 {
			most = min(most, f.plates[p].rackS)
		}
	}
	return most
}
