package simulate

import (
	"math"
	"reflect"
	"slices"

	"jointime/core/service"
	"jointime/core/workload"
)

// Taking back what was tapped by mistake, in a night that goes on: it is played anew without it, up to the same instant.

// deed is what a cook did, or said.
type deed struct {
	at   float64
	kind service.Kind // Fired or Ready; none for what was said
	task string
	said *service.Event
}

// TakeBack lets not have happened what the cook did and said as an event, by its id. Done is that it has not: the night stands as if it had
// never been. GoneOn is that somebody else has done something otherwise since, because of it: then it stays. NotBegun is that there is no
// such event.
func (g *Game) TakeBack(id string) Fate {
	said := slices.IndexFunc(g.did, func(d deed) bool { return d.said != nil && d.said.ID == id })
	if said < 0 {
		return NotBegun
	}
	without := slices.Delete(slices.Clone(g.did), said, said+1)
	e := g.did[said].said
	if e.Kind == service.Fired || e.Kind == service.Ready {
		done := -1
		for i := range said {
			if g.did[i].kind == e.Kind && g.did[i].task == e.Task {
				done = i // the last before it
			}
		}
		if done < 0 {
			return NotBegun
		}
		without = slices.Delete(without, done, done+1)
	}
	anew := g.again(without, g.did[said].at)
	if !reflect.DeepEqual(g.others(), anew.others()) {
		return GoneOn
	}
	anew.told, anew.ended = len(anew.p.result.Events), g.ended
	plan := *anew.p.plan
	plan.Number = max(plan.Number, g.p.plan.Number) // what was told stays told
	anew.p.plan = &plan
	*g = *anew
	return Done
}

// again is the night up to now with other deeds; up to a second nothing is otherwise.
func (g *Game) again(did []deed, same float64) *Game {
	known := map[float64]*workload.Schedule{}
	for at, s := range g.p.repairs {
		if at < same {
			known[at] = s
		}
	}
	out := g.p.k.begin(g.p.night.seed, g.p.night.set, g.p.cook.section, known)
	for _, d := range did {
		out.p.sim.run(d.at)
		out.p.sim.now = math.Max(out.p.sim.now, d.at)
		switch {
		case d.said != nil:
			out.Say(*d.said)
		case d.kind == service.Fired:
			out.Fire(d.task)
		default:
			out.Ready(d.task)
		}
	}
	out.p.sim.run(g.p.sim.now)
	out.p.sim.now = math.Max(out.p.sim.now, g.p.sim.now)
	out.did = did
	return out
}

// others is what others than the cook have said, in order.
func (g *Game) others() (out []service.Event) {
	mine := map[string]bool{}
	for _, d := range g.did {
		if d.said != nil {
			mine[d.said.ID] = true
		}
	}
	for i := range g.p.result.Events {
		if e := &g.p.result.Events[i]; !mine[e.ID] {
			out = append(out, service.Event{Kind: e.Kind, At: e.At, Device: e.Device, Facts: e.Facts})
		}
	}
	return out
}
