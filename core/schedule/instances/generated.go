package instances

import (
	"fmt"
	"math/rand/v2"
	"slices"

	"jointime/core/workload"
)

// Service draws an evening: cooks with a section each, two ovens, and table-courses
// of so many tasks in all, paced over four hours. The same seed draws the same
// evening.
func Service(tasks, courses int, seed uint64) *workload.Workload {
	r := rand.New(rand.NewPCG(seed, 17))
	w := &workload.Workload{Objective: workload.Joins, Origin: "2026-05-15T16:00:00Z", Horizon: 8 * 3600}
	cooks := []string{"larder", "fish", "roast", "garnish", "pastry", "commis"}
	// Hands grow with the work, so that a large evening is busy and not absurd.
	crews := max(1, tasks/1500)
	for k := range crews {
		for _, c := range cooks {
			w.Resources = append(w.Resources, workload.Resource{ID: fmt.Sprintf("%s-%d", c, k), Capacity: 4})
		}
		for _, o := range []string{"oven-a", "oven-b"} {
			w.Resources = append(w.Resources, workload.Resource{ID: fmt.Sprintf("%s-%d", o, k), Capacity: 6,
				Thermostat: &workload.Thermostat{StartC: 180, HeatCPerMin: 12, CoolCPerMin: 6, ToleranceC: 5}})
		}
		w.Resources = append(w.Resources, workload.Resource{ID: fmt.Sprintf("pass-%d", k), Capacity: 8})
	}
	any := func(kind string, k int) []string { return []string{fmt.Sprintf("%s-%d", kind, k)} }
	ptr := func(v int64) *int64 { return &v }
	left := tasks
	for c := range courses {
		join := fmt.Sprintf("course-%d", c)
		at := int64(5400 + c*(4*3600)/courses)
		w.Joins = append(w.Joins, workload.Join{ID: join, At: &at, Weight: 4, EarlyWeight: 4})
		k := c % crews
		plate := join + "/plating"
		w.Tasks = append(w.Tasks, workload.Task{ID: plate, Seconds: 60 + int64(r.IntN(40)),
			Needs: []workload.Need{{AnyOf: any("pass", k), Units: 3}}})
		w.Links = append(w.Links, workload.Link{From: plate, To: join, Kind: workload.FinishStart, Max: ptr(0), Weight: 1})
		mine := left/(courses-c) - 1
		left -= mine + 1
		for n := 0; mine > 0; n++ {
			length := min(mine, 2+r.IntN(3))
			mine -= length
			cook := cooks[r.IntN(len(cooks))]
			last := ""
			for s := range length {
				id := fmt.Sprintf("%s/%d.%d", join, n, s)
				t := workload.Task{ID: id, Seconds: 15 + int64(r.IntN(45))}
				switch r.IntN(4) {
				case 0:
					t.Needs = []workload.Need{{AnyOf: any(cook, k), Units: 4}}
				case 1, 2:
					t.Seconds *= 2
					t.Needs = []workload.Need{{AnyOf: any(cook, k), Units: 1}}
				default:
					set := []float64{180, 180, 180, 200}[r.IntN(4)]
					t.Seconds *= 4
					t.Needs = []workload.Need{{AnyOf: []string{fmt.Sprintf("oven-a-%d", k), fmt.Sprintf("oven-b-%d", k)}, Units: 1, SetpointC: &set}}
				}
				w.Tasks = append(w.Tasks, t)
				if s > 0 {
					w.Links = append(w.Links, workload.Link{From: last, To: id, Kind: workload.FinishStart, Best: ptr(120), Max: ptr(900), Weight: 1})
				}
				last = id
			}
			rest := int64(r.IntN(60))
			w.Links = append(w.Links, workload.Link{From: last, To: plate, Kind: workload.FinishStart, Min: rest, Best: ptr(rest + 120),
				Max: ptr(rest + 600), Weight: 1})
		}
	}
	return w
}

// Project draws a resource-constrained project: activities with up to three
// predecessors and needs of several cumulative resources, shortest makespan wanted.
func Project(activities, resources int, seed uint64) *workload.Workload {
	r := rand.New(rand.NewPCG(seed, 29))
	w := &workload.Workload{Objective: workload.Makespan, Origin: "2026-05-15T12:00:00Z"}
	for k := range resources {
		w.Resources = append(w.Resources, workload.Resource{ID: fmt.Sprintf("r%d", k), Capacity: 10 + int64(r.IntN(8))})
	}
	for i := range activities {
		t := workload.Task{ID: fmt.Sprintf("a%d", i), Seconds: 1 + int64(r.IntN(10))}
		for k := range resources {
			if r.IntN(2) == 0 {
				t.Needs = append(t.Needs, workload.Need{AnyOf: []string{fmt.Sprintf("r%d", k)}, Units: 1 + int64(r.IntN(9))})
			}
		}
		w.Horizon += t.Seconds
		w.Tasks = append(w.Tasks, t)
		if i >= 3 {
			seen := map[int]bool{}
			for range 1 + r.IntN(2) {
				p := max(0, i-1-r.IntN(10))
				if !seen[p] {
					seen[p] = true
					w.Links = append(w.Links, workload.Link{From: fmt.Sprintf("a%d", p), To: t.ID, Kind: workload.FinishStart, Weight: 1})
				}
			}
		}
	}
	return w
}

// Delayed is a workload in the middle of service: the first `done` runs of a
// schedule have started, the last of them takes `late` seconds longer than planned,
// and now is when that is noticed. It also returns the delayed task.
func Delayed(w *workload.Workload, s *workload.Schedule, done int, late int64) (*workload.Workload, string) {
	runs := slices.Clone(s.Tasks)
	slices.SortStableFunc(runs, func(a, b workload.Run) int { return int(a.Start - b.Start) })
	out := w.Clone()
	now := runs[done-1].Start
	out.Now = &now
	out.Fixed = nil
	for i, r := range runs {
		if r.Start > now {
			break
		}
		f := workload.Fixed{Task: r.ID, Start: r.Start, Resources: r.Resources}
		finish := r.Finish
		if i == done-1 {
			finish += late
		}
		f.Finish = &finish
		out.Fixed = append(out.Fixed, f)
	}
	for _, j := range s.Joins {
		if j.At < now {
			out.Fixed = append(out.Fixed, workload.Fixed{Join: j.ID, At: j.At})
		}
	}
	// What was started may have to wait longer than the book allows: it has happened.
	fixed := out.FixedTasks()
	for i := range out.Links {
		if fixed[out.Links[i].From] != nil {
			out.Links[i].Max = nil
		}
	}
	return out, runs[done-1].ID
}

// MedianMove is by how much the starts of the open tasks moved, in the median.
func MedianMove(w *workload.Workload, before, after *workload.Schedule) int64 {
	fixed, was := w.FixedTasks(), before.Starts()
	var moves []int64
	for _, r := range after.Tasks {
		if fixed[r.ID] == nil {
			moves = append(moves, max(r.Start-was[r.ID], was[r.ID]-r.Start))
		}
	}
	if len(moves) == 0 {
		return 0
	}
	slices.Sort(moves)
	return moves[len(moves)/2]
}

// Rush is a service in which everything is wanted at nearly the same time, so that
// its cost is never nothing.
func Rush(tasks int, seed uint64) *workload.Workload {
	w := Service(tasks, 3, seed+100)
	for i := range w.Joins {
		at := int64(5400)
		w.Joins[i].At = &at
	}
	for i := range w.Links {
		if l := &w.Links[i]; l.Best != nil {
			best := l.Min + 15
			l.Best = &best
		}
	}
	// Two cooks for six sections, and all of it takes twice as long.
	for i := range w.Tasks {
		w.Tasks[i].Seconds *= 2
		for k := range w.Tasks[i].Needs {
			n := &w.Tasks[i].Needs[k]
			switch n.AnyOf[0] {
			case "larder-0", "fish-0", "pastry-0":
				n.AnyOf = []string{"roast-0"}
			case "commis-0":
				n.AnyOf = []string{"garnish-0"}
			}
		}
	}
	return w
}
