package simulate

import (
	"context"
	"math"
	"time"

	"jointime/core/schedule"
	"jointime/core/service"
	"jointime/core/workload"
)

// The live planner in a played night: the same repair of the told plan, after what matters.

// The effort and the price of a repair, as in a live service; and how long the next waits at the least, seconds.
const (
	repairRounds = 60
	repairPrice  = 4
	repairEvery  = 20.0
)

// matters has the plan follow what has happened, where the policy does.
func (p *play) matters() {
	if p.policy != Again || p.sim.now < p.again+repairEvery {
		return
	}
	p.again = p.sim.now
	p.sim.at(p.sim.now, begins, p.follow)
}

// follow repairs the told plan.
func (p *play) follow() {
	s := p.repaired[p.sim.now]
	if s == nil {
		s = p.repair()
	}
	if p.repairs == nil {
		p.repairs = map[float64]*workload.Schedule{}
	}
	p.repairs[p.sim.now] = s
	if len(s.Tasks) == 0 {
		return
	}
	s = service.Whole(p.told, s)
	p.told = s
	p.result.Told++
	p.plan = service.PlanOf(p.plan.Number+1, p.k.evening.ReadRuns(s))
	p.markTaps()
	for i := range s.Tasks {
		r := &s.Tasks[i]
		at, there := p.k.index[r.ID]
		if !there || p.k.pieces[at].task != r.ID || p.asked[at] {
			continue
		}
		was := p.planned[at]
		p.planned[at], p.takes[at] = float64(r.Start), takesOf(p.k.needs[r.ID], r.Resources)
		if was <= p.sim.now {
			p.planned[at] = min(p.planned[at], was) // what was due is due
		}
		if p.planned[at] < was && p.left[at] == 0 && !p.out[at] {
			p.await(at) // sooner than it was told
		}
	}
}

// repair is the told plan after what has happened.
func (p *play) repair() *workload.Schedule {
	now := p.k.evening.Origin.Add(time.Duration(math.Ceil(p.sim.now)) * time.Second)
	state := service.Fold(p.result.Events)
	w := service.Happened(p.k.evening, p.told, p.plan, state, now)
	for i := range w.Joins {
		for m := range p.k.meetings {
			if p.k.meetings[m].id == w.Joins[i].ID && w.Joins[i].At != nil && p.known(m) != 0 {
				at := int64(math.Round(p.wish[m]))
				w.Joins[i].At = &at
			}
		}
	}
	return schedule.Solve(context.Background(), w, schedule.Options{Seed: service.Chance(p.told, *w.Now), Anyway: true, Stay: true,
		Rounds: repairRounds, Previous: p.told, MovePrice: repairPrice, Aim: p.aims()})
}

// aims are those of the pieces that were put off by enough to be worth telling.
func (p *play) aims() map[string]int64 {
	out := map[string]int64{}
	for i := range p.k.pieces {
		if aim := p.aim(&p.k.pieces[i]); p.planned[i]-aim >= service.WorthBackS {
			out[p.k.pieces[i].task] = int64(math.Round(aim))
		}
	}
	return out
}
