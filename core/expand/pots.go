package expand

import (
	"fmt"
	"slices"

	"jointime/core/kitchen"
	"jointime/core/workload"
)

// Standing pots: broths, jus, sauces are brought up once for as many tables as their time allows, held, topped up, and drawn
// by the ladle. Nobody fires a jus for one portion.

// potSpare is what share of a pot's time is left for tables that come later than they are wanted. Common practice, no source.
const potSpare = 4

// pots lets every component that stands on the stove be brought up for all the table-courses within its time: the first
// pot for the first of them, the next when that would be too old.
func (e *Evening) pots() {
	for _, c := range e.book.Components() {
		if c.Pot == nil || slices.ContainsFunc(e.Service.Shared, func(s kitchen.SharedBatch) bool { return s.Component == c.ID }) {
			continue
		}
		var all []*Firing
		for i := range e.Courses {
			if Cooks(&e.Courses[i], &c) {
				all = append(all, e.Courses[i].Firing)
			}
		}
		slices.SortStableFunc(all, func(a, b *Firing) int { return a.Table.At.Compare(b.Table.At) })
		good := float64(c.Pot.HoldsS - c.Pot.HoldsS/potSpare)
		for from, pot := 0, 1; from < len(all); pot++ {
			to := from + 1
			for to < len(all) && all[to].Table.At.Sub(all[from].Table.At).Seconds() <= good {
				to++
			}
			place := "~pot"
			if pot > 1 {
				place = fmt.Sprintf("~pot-%d", pot)
			}
			share(c.ID, place, all[from:to])
			from = to
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
		t := workload.Task{ID: fmt.Sprintf("%s-care-%d", p.id, k), Name: x.component.Name + ", " + pot.TopUp.Say, Seconds: int64(pot.TopUp.Seconds),
			Needs: work(people)}
		f.add(t, ref, x, p)
		high := k*every + every/careSpare
		f.Workload.Links = append(f.Workload.Links, workload.Link{From: p.id, To: t.ID, Kind: workload.FinishStart, Min: k*every - every/careSpare,
			Max: &high, Weight: 1})
	}
}

// careSpare is by what share of its interval what is done now and then may come sooner or later. Common practice, no source.
const careSpare = 4
