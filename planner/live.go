package planner

import (
	"context"
	"slices"

	"jointime/core/advise"
	"jointime/core/schedule"
	"jointime/core/service"
	"jointime/core/workload"
)

// The plan of a service that goes on follows what happens: what has begun stays, and of the rest moves what must.

// liveEffort repairs what was told; livePrice is what moving it costs then, dearer than before the service: cooks work by it.
var liveEffort = effort{rounds: 60, atMost: firstEffort.atMost}

const livePrice = 4 * movePrice

// Happened plans the rest of a service again after what has happened in it. Where something that is still to come has to move, the plan is
// told; the answer is nil where nothing has. No better plan is looked for behind it, and none that is being looked for is told any more: a
// search that does not know what has happened must not move what has begun. Errors: those of Service, ErrBehind.
func (p *Planner) Happened(ctx context.Context, id string, state *service.State) (*Plan, error) {
	shown, err := p.Service(ctx, id)
	if err != nil {
		return nil, err
	}
	plan, e := shown.Plan, p.entry(id)
	e.mu.Lock()
	e.goesOn = state.Phase == service.Open
	if e.stop != nil {
		e.stop()
		e.stop, e.ended = nil, nil
	}
	e.mu.Unlock()
	if state.Phase != service.Open {
		return nil, nil
	}
	w := service.Happened(plan.Evening, plan.Schedule, service.PlanOf(plan.Number, &plan.View), state, p.clock())
	if err := workload.Check(w); err != nil {
		return nil, err // a fault of ours: the told plan stays
	}
	search, cancel := context.WithTimeout(ctx, liveEffort.atMost*p.patience)
	defer cancel()
	s := schedule.Solve(search, w, schedule.Options{Seed: 1, Anyway: true, Rounds: liveEffort.rounds, Previous: plan.Schedule, MovePrice: livePrice})
	if !moves(w, plan.Schedule, s) {
		return nil, nil
	}
	s = service.Whole(plan.Schedule, s)
	out := &Plan{Versions: plan.Versions, Rounds: []int{}, Evening: plan.Evening, Schedule: s, in: plan.in, print: plan.print, whole: true}
	out.Number, out.Kind, out.MadeAt, out.settled = plan.Number+1, Live, p.clock(), true
	out.read()
	out.Said, out.Printed, out.OnPaper = advise.EveningDifference(&plan.View, &out.View), plan.Printed, plan.OnPaper
	if err := p.write(ctx, e, out); err != nil {
		return nil, err
	}
	e.mu.Lock()
	e.adopt(out, plan)
	e.mu.Unlock()
	return out, p.settle(ctx, e, out)
}

// moves reports whether something that is still to come stands elsewhere than it was told.
func moves(w *workload.Workload, told, s *workload.Schedule) bool {
	fixed, was := w.FixedTasks(), map[string]*workload.Run{}
	for i := range told.Tasks {
		was[told.Tasks[i].ID] = &told.Tasks[i]
	}
	return slices.ContainsFunc(s.Tasks, func(r workload.Run) bool {
		o := was[r.ID]
		return fixed[r.ID] == nil && (o == nil || o.Start != r.Start || !slices.Equal(o.Resources, r.Resources))
	})
}
