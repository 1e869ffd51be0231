package expand

import (
	"fmt"

	"jointime/core/kitchen"
	"jointime/core/message"
	"jointime/core/workload"
)

// What of the make-ahead work waits for what.

func (p *Prep) link(from, to string, w kitchen.Wait) {
	best := int64(w.Shortest)
	if w.Best != nil {
		best = int64(*w.Best)
	}
	p.Workload.Links = append(p.Workload.Links, workload.Link{From: from, To: to, Kind: workload.FinishStart, Min: int64(w.Shortest),
		Best: &best, Weight: staleBatch})
	if w.Longest != nil {
		p.atMost(from, to, int64(*w.Longest))
	}
}

// keep adds the place that a run takes after it, until the last of what comes next has it.
func (p *Prep) keep(c *kitchen.Component, before string, next []string, w kitchen.Wait) error {
	people := cooks(p.book, c.Section)
	for k, at := range w.TimesCertain() {
		if len(people) == 0 {
			return kitchen.Faults{kitchen.FaultAt("sections."+c.Section, "fault.nobody", "step", w.Care.Say, "component", c.Name)}
		}
		t, l := caring(before, c.Name, k+1, int64(at), w.Care, people)
		ref := p.Tasks[before]
		ref.Act, ref.Main, ref.Say = ActTouch, before, w.Care.Say
		p.Tasks[t.ID] = ref
		p.Workload.Tasks, p.Workload.Links = append(p.Workload.Tasks, t), append(p.Workload.Links, l)
	}
	if w.In == nil || len(next) == 0 {
		return nil
	}
	ids, _ := equipment(p.book, w.In)
	if len(ids) == 0 {
		return kitchen.Faults{kitchen.FaultAt("equipment", "fault.nothing-to-keep-in", "kind", w.In.Kind, "component", c.Name)}
	}
	most := int64(w.Shortest) + nights
	if w.Longest != nil {
		most += int64(*w.Longest - w.Shortest)
	}
	t := workload.Task{ID: before + "-place", Name: c.Name + ", " + message.Of("act.place").Text, Seconds: max(1, int64(w.Shortest)),
		Longest: &most,
		Needs:   []workload.Need{room(ids, w.In)}}
	ref := p.Tasks[before]
	ref.Act, ref.Main = ActPlace, before
	p.Tasks[t.ID] = ref
	p.Workload.Tasks = append(p.Workload.Tasks, t)
	zero := int64(0)
	links := []workload.Link{{From: before, To: t.ID, Kind: workload.FinishStart, Max: &zero, Weight: 1}}
	for k, id := range next {
		l := workload.Link{From: id, To: t.ID, Kind: workload.StartFinish, Weight: 1}
		if k == len(next)-1 {
			l.Max = &zero
		}
		links = append(links, l)
	}
	p.Workload.Links = append(p.Workload.Links, links...)
	return nil
}

// atMost makes every second of a wait beyond a length dear.
func (p *Prep) atMost(from, to string, seconds int64) {
	p.Workload.Links = append(p.Workload.Links, workload.Link{From: from, To: to, Kind: workload.FinishStart, Best: &seconds,
		Weight: overWait})
}

// between ties batches that go into each other: what a batch uses is made before it, and
// what one leaves over comes before the batch that it goes into, for the same service.
func (p *Prep) between() {
	ends := func(i int, first bool) (ids []string) {
		linked := map[string]bool{}
		for _, l := range p.Workload.Links {
			if first && l.From == l.To {
				continue
			}
			if first {
				linked[l.To] = true
			} else if ref, task := p.Tasks[l.To]; task && ref.Act == "" && l.From != l.To {
				linked[l.From] = true
			}
		}
		for _, t := range p.Workload.Tasks {
			if ref := p.Tasks[t.ID]; ref.Batch == i && ref.Act == "" && !linked[t.ID] {
				ids = append(ids, t.ID)
			}
		}
		return ids
	}
	type pair struct{ from, to int }
	var uses, leaves []pair
	byNumber := map[string]int{}
	for i, x := range p.Amounts.Batches {
		byNumber[fmt.Sprintf("%s %d", x.Component, x.Number)] = i
	}
	for i, x := range p.Amounts.Batches {
		for _, part := range x.For {
			if d := p.Amounts.Draws[part.Draw]; d.ByBatch > 0 {
				uses = append(uses, pair{i, byNumber[fmt.Sprintf("%s %d", d.By, d.ByBatch)]})
			}
		}
		c, _ := p.book.Component(x.Component)
		for _, by := range c.ByProducts {
			for k, y := range p.Amounts.Batches {
				if y.Component == by.Component && x.Service == y.Service && x.OfService == 1 && y.OfService == 1 {
					leaves = append(leaves, pair{i, k})
				}
			}
		}
	}
	var links []workload.Link
	for _, u := range uses {
		shelf, _ := p.book.Component(p.Amounts.Batches[u.from].Component)
		for _, a := range ends(u.from, false) {
			for _, b := range ends(u.to, true) {
				zero := int64(0)
				links = append(links, workload.Link{From: a, To: b, Kind: workload.FinishStart, Best: &zero, Weight: staleBatch})
				if shelf.ShelfLifeH > 0 {
					most := int64(shelf.ShelfLifeH * 3600)
					links = append(links, workload.Link{From: a, To: b, Kind: workload.FinishStart, Best: &most, Weight: overWait})
				}
			}
		}
	}
	for _, u := range leaves {
		for _, a := range ends(u.from, true) {
			for _, b := range ends(u.to, true) {
				links = append(links, workload.Link{From: a, To: b, Kind: workload.FinishStart, Weight: 1})
			}
		}
	}
	p.Workload.Links = append(p.Workload.Links, links...)
}
