package simulate

import (
	"context"
	"slices"
	"strconv"

	"jointime/core/expand"
	"jointime/core/kitchen"
	"jointime/core/schedule"
	"jointime/core/workload"
)

// What guests order on one night. The plan that was printed expects it by the menu's shares; on the night each guest orders by themselves,
// and somebody writes that into the plan: what was planned and is wanted keeps its time, what is new finds one, and not before it was
// ordered.

// orderedAfter is how long after it was seated a table orders, seconds. Common practice, no source.
const orderedAfter = 480.0

// The effort with which what was ordered is written into a plan, and what moving a told time costs then.
const (
	orderRounds = 100
	orderPrice  = 4
)

// ordered is the kitchen of one night, with what is ordered in it; the same kitchen where nothing is to be ordered. It is the same whatever
// the policy. Errors: those of expand.NewEvening.
func (k *Kitchen) ordered(seed uint64, set Settings) (*Kitchen, error) {
	svc := k.evening.Service
	open := func(t kitchen.ServiceTable) bool { return len(t.Orders) == 0 }
	if !set.Orders || svc.Kind == kitchen.Banquet || !slices.ContainsFunc(svc.Tables, open) {
		return k, nil // a banquet has ordered
	}
	tonight, off := k.draw(&night{seed, set})
	e, err := k.evening.Instead(tonight)
	if err != nil {
		return nil, err
	}
	was, loose, err := e.Follow(k.evening.Workload, k.told)
	if err != nil {
		return nil, err
	}
	told := map[string]bool{}
	for i := range was.Tasks {
		told[was.Tasks[i].ID] = true
	}
	there := map[string]bool{}
	for i := range e.Workload.Tasks {
		t := &e.Workload.Tasks[i]
		if there[t.ID] = true; !told[t.ID] {
			t.Earliest = max(t.Earliest, int64(orderedAt(e, svc, t.ID)))
		}
	}
	was.Tasks = slices.DeleteFunc(was.Tasks, func(r workload.Run) bool { return !there[r.ID] })
	s := schedule.Solve(context.Background(), e.Workload, schedule.Options{Seed: 1, Anyway: true, Rounds: orderRounds, Previous: was,
		Loose: loose, MovePrice: orderPrice})
	out := New(e, s, k.plan.Number)
	out.off, out.shift = off, e.Origin.Sub(k.evening.Origin).Seconds()
	for i := range out.pieces {
		out.pieces[i].surprise = !told[out.pieces[i].task]
	}
	out.vain = k.vainly(there)
	return out, nil
}

// draw is the service with what is ordered on a night, and the dishes of which the last portion goes. A table that takes nothing at all has
// not come.
func (k *Kitchen) draw(n *night) (svc *kitchen.Service, off []string) {
	b, booked := k.evening.Book(), k.evening.Service
	expected, _ := b.TableOrders(booked)
	left, count := map[string]int{}, map[string]int{}
	for _, list := range expected {
		for _, o := range list {
			count[o.Dish] += o.Count
		}
	}
	for dish, plates := range count {
		if share, runsOut := n.left(dish); runsOut {
			left[dish] = int(share * float64(plates))
		}
	}
	guest := func(table string, course kitchen.Course, g int) float64 {
		return n.of("order "+string(course)+" "+strconv.Itoa(g), table).Float64()
	}
	with := *booked
	with.Tables = slices.Clone(booked.Tables)
	for i := range with.Tables {
		t := &with.Tables[i]
		if len(t.Orders) > 0 {
			continue
		}
		told := 0
		for _, x := range t.Needs {
			told += x.Guests
		}
		for _, a := range n.needs(t.ID, max(0, t.Covers-told)) {
			t.Needs = append(slices.Clone(t.Needs), kitchen.GuestNeed{Guests: 1, Without: []kitchen.Allergen{a}})
		}
	}
	orders, off := b.DrawnOrders(&with, kitchen.Draw{Guest: guest, Left: left})
	tonight := with
	tonight.Tables = nil
	for i := range with.Tables {
		if t := with.Tables[i]; len(orders[i]) > 0 {
			if which, more := n.adds(t.ID, len(orders[i])); more && len(booked.Tables[i].Orders) == 0 {
				orders[i] = slices.Clone(orders[i])
				orders[i][which].Count++
			}
			t.Orders = orders[i]
			tonight.Tables = append(tonight.Tables, t)
		}
	}
	return &tonight, off
}

// orderedAt is when the first of the tables that a task is for has ordered, seconds; 0 where it is known before the evening.
func orderedAt(e *expand.Evening, booked *kitchen.Service, task string) float64 {
	first := -1.0
	for _, id := range e.JoinsOf(task) {
		x, ok := e.CourseByID(id)
		if !ok {
			continue
		}
		at := slices.IndexFunc(booked.Tables, func(t kitchen.ServiceTable) bool { return t.ID == x.Table })
		if at < 0 || len(booked.Tables[at].Orders) > 0 {
			return 0
		}
		seated := booked.At(booked.Tables[at].SeatedAt, e.Book().Zone()).Sub(e.Origin).Seconds()
		if by := seated + orderedAfter; first < 0 || by < first {
			first = by
		}
	}
	return max(0, first)
}

// vainly is how many batches of the printed plan are on before it is known that nobody orders them.
func (k *Kitchen) vainly(there map[string]bool) (batches int) {
	for i := range k.pieces {
		p := &k.pieces[i]
		if p.run == nil || there[p.task] {
			continue
		}
		if p.planned < orderedAt(k.evening, k.evening.Service, p.task) {
			batches++
		}
	}
	return batches
}

// ordersAt is when what a piece is for was ordered on this night: not before its first table came.
func (p *play) ordersAt(x *piece) float64 {
	first := -1.0
	for _, m := range x.joins {
		if at, ok := p.seats[p.k.meetings[m].key.Table]; ok && (first < 0 || at < first) {
			first = at
		}
	}
	if first < 0 {
		return 0
	}
	return first + orderedAfter
}
