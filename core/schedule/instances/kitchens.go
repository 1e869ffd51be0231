package instances

import (
	"fmt"
	"math/rand/v2"

	"jointime/core/workload"
)

// Kitchens is how many small kitchen workloads there are.
const Kitchens = 36

// Kitchen draws small kitchen workload number i (from 0), of 6 to 12 tasks. The
// numbers go round the rules of the format: thermostats, alternatives, windows,
// longest waits, link kinds, fixed and now, makespan; every ninth is meant to be
// impossible or close to it.
func Kitchen(i int) *workload.Workload {
	r := rand.New(rand.NewPCG(uint64(i), 41))
	between := func(lo, hi int) int64 { return int64(lo + r.IntN(hi-lo+1)) }
	ptr := func(v int64) *int64 { return &v }
	w := &workload.Workload{Objective: workload.Joins, Origin: "2026-05-15T18:00:00Z", Horizon: 110}
	feature := i % 9
	if feature == 7 {
		w.Objective = workload.Makespan
	}
	w.Resources = []workload.Resource{{ID: "cook-a", Capacity: 4}, {ID: "cook-b", Capacity: 4}, {ID: "oven", Capacity: 2},
		{ID: "oven-2", Capacity: 1}, {ID: "pass", Capacity: 2}}
	for k := 2; k <= 3 && feature <= 2; k++ {
		w.Resources[k].Thermostat = &workload.Thermostat{StartC: 160, HeatCPerMin: 240, CoolCPerMin: 150, ToleranceC: 5}
	}
	if feature == 3 || feature == 4 {
		w.Resources[0].HasWindows = true
		w.Resources[0].Windows = []workload.Window{{From: 0, To: 18, Capacity: 4}, {From: 18, To: 26, Capacity: 1},
			{From: 30, To: 110, Capacity: 4}}
	}
	for j := range 2 {
		join := fmt.Sprintf("table-%d", j)
		w.Joins = append(w.Joins, workload.Join{ID: join, At: ptr(between(34, 44) + int64(4*j)), Weight: between(2, 5),
			EarlyWeight: between(1, 4)})
		plate := join + "-plate"
		w.Tasks = append(w.Tasks, workload.Task{ID: plate, Seconds: between(2, 4),
			Needs: []workload.Need{{AnyOf: []string{"pass"}, Units: between(1, 2)}}})
		w.Links = append(w.Links, workload.Link{From: plate, To: join, Kind: workload.FinishStart, Max: ptr(0), Weight: 1})
		for c := range 2 + r.IntN(2) {
			last := ""
			for s := range 1 + r.IntN(2) {
				id := fmt.Sprintf("%s-%d%c", join, c, 'a'+s)
				t := workload.Task{ID: id, Seconds: between(3, 10)}
				cooks := []string{fmt.Sprintf("cook-%c", 'a'+r.IntN(2))}
				if feature == 1 || feature == 5 {
					cooks = []string{"cook-a", "cook-b"}
				}
				switch r.IntN(3) {
				case 0:
					t.Needs = []workload.Need{{AnyOf: cooks, Units: 4}}
				case 1:
					t.Needs = []workload.Need{{AnyOf: cooks, Units: between(1, 3)}}
				default:
					set := float64(160 + 20*r.IntN(3))
					ovens := []string{"oven"}
					if r.IntN(2) == 0 {
						ovens = []string{"oven", "oven-2"}
					}
					t.Needs = []workload.Need{{AnyOf: ovens, Units: 1}, {AnyOf: cooks, Units: 1}}
					if feature <= 2 {
						t.Needs[0].SetpointC = &set
					}
				}
				w.Tasks = append(w.Tasks, t)
				if last != "" {
					l := workload.Link{From: last, To: id, Kind: workload.FinishStart, Min: between(0, 2), Best: ptr(3), Max: ptr(between(4, 12)),
						Weight: between(1, 3)}
					if feature == 6 {
						l.Kind = []workload.Kind{workload.StartStart, workload.FinishFinish, workload.StartFinish, workload.FinishStart}[r.IntN(4)]
						l.Min, l.Best, l.Max = between(-2, 3), ptr(9), ptr(between(12, 24))
					}
					w.Links = append(w.Links, l)
				}
				last = id
			}
			rest := between(0, 4)
			w.Links = append(w.Links, workload.Link{From: last, To: plate, Kind: workload.FinishStart, Min: rest, Best: ptr(rest + between(0, 3)),
				Max: ptr(rest + between(4, 12)), Weight: between(1, 3)})
		}
	}
	switch feature {
	case 5:
		w.Now = ptr(10)
		t := &w.Tasks[1]
		f := workload.Fixed{Task: t.ID, Start: 7, Resources: []string{}}
		for _, n := range t.Needs {
			f.Resources = append(f.Resources, n.AnyOf[0])
		}
		w.Fixed = []workload.Fixed{f}
		for k := range w.Links {
			if w.Links[k].From == t.ID {
				w.Links[k].Max = nil // it was started early, and keeps
			}
		}
	case 8:
		for k := range w.Joins {
			w.Joins[k].Latest = ptr(*w.Joins[k].At - between(6, 20))
		}
	}
	return w
}
