package expand

import (
	"fmt"
	"slices"
	"time"

	"jointime/core/kitchen"
	"jointime/core/workload"
)

// Standing pots: broths, jus, sauces are brought up once for as many tables as their time allows, held, topped up, and drawn
// by the ladle. Nobody fires a jus for one portion.

// potSpare is what share of a pot's time is left for tables that come later than they are wanted. Common practice, no source.
const potSpare = 4

// pots lets every component that stands on the stove be brought up for all the table-courses within its time: one pot for
// each such stretch of the evening. The stretches lie by the clock, from the first that draws from it on, so that a table that
// comes at another time goes to another pot and leaves the others as they are.
func (e *Evening) pots() {
	for _, c := range e.book.Components() {
		if c.Pot == nil || slices.ContainsFunc(e.Service.Shared, func(s kitchen.SharedBatch) bool { return s.Component == c.ID }) {
			continue
		}
		long := time.Duration(c.Pot.HoldsS-c.Pot.HoldsS/potSpare) * time.Second
		var all []*Firing
		for i := range e.Courses {
			if x := &e.Courses[i]; Cooks(x, &c) {
				all = append(all, x.Firing)
			}
		}
		slices.SortStableFunc(all, func(a, b *Firing) int { return a.Table.At.Compare(b.Table.At) })
		of := map[int][]*Firing{}
		for _, x := range all {
			pot := int(x.Table.At.Sub(all[0].Table.At) / long)
			of[pot] = append(of[pot], x)
		}
		for pot, list := range of {
			share(c.ID, fmt.Sprintf("%s~pot-%d", e.prefix, pot+1), list)
		}
	}
}

// topUp adds the hands that a pot wants now and then between the first plate that draws from it and the last.
func (f *Firing) topUp(x *wanted, p batch) {
	pot := x.component.Pot
	people := f.cooks(x.component.Section)
	if pot == nil || pot.TopUp == nil || len(people) == 0 {
		return
	}
	first, last := x.shares[0].firing.Table.At, x.shares[len(x.shares)-1].firing.Table.At
	every := int64(pot.TopUp.EveryS)
	for k := int64(1); k*every < int64(last.Sub(first).Seconds()); k++ {
		ref := p.ref
		ref.Act, ref.Main, ref.Say = ActTouch, p.id, pot.TopUp.Say
		t, l := caring(p.id, x.component.Name, int(k), k*every, pot.TopUp, people)
		f.add(t, ref, x, p)
		f.Workload.Links = append(f.Workload.Links, l)
	}
}

// caring is the hands of one of some people for something that waits, so many seconds after its run, a little sooner or
// later.
func caring(after, name string, number int, at int64, c *kitchen.Care, people []string) (workload.Task, workload.Link) {
	t := workload.Task{ID: fmt.Sprintf("%s-care-%d", after, number), Name: name + ", " + c.Say, Seconds: int64(c.Seconds), Needs: work(people)}
	spare := int64(c.EveryS / careSpare)
	high := at + spare
	return t, workload.Link{From: after, To: t.ID, Kind: workload.FinishStart, Min: at - spare, Max: &high, Weight: 1}
}

// careSpare is by what share of its interval what is done now and then may come sooner or later. Common practice, no source.
const careSpare = 4
