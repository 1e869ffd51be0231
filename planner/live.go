package planner

import (
	"context"
	"maps"
	"slices"

	"jointime/core/advise"
	"jointime/core/expand"
	"jointime/core/schedule"
	"jointime/core/service"
	"jointime/core/workload"
)

// The plan of a service that goes on follows what happens: what has begun stays, and of the rest moves what must.

// liveEffort repairs what was told; livePrice is what moving it costs then, dearer than before the service: cooks work by it.
var liveEffort = effort{rounds: 60, atMost: firstEffort.atMost}

const livePrice = 4 * movePrice

// changeEffort plans what was ordered or changed in the middle of service into what was told: its runs find a place, the others keep
// theirs.
var changeEffort = effort{rounds: 200, atMost: firstEffort.atMost}

// Happened plans the rest of a service again after what has happened in it. Where something that is still to come has to move, the plan is
// told; the answer is nil where nothing has, and the plan shown is the one that the log says was told. No plan that is being looked for
// behind it is told any more: a search that does not know what has happened must not move what has begun. Errors: those of Service,
// ErrBehind.
func (p *Planner) Happened(ctx context.Context, id string, state *service.State) (*Plan, error) {
	shown, err := p.Service(ctx, id)
	if err != nil {
		return nil, err
	}
	plan, e := shown.Plan, p.entry(id)
	e.mu.Lock()
	e.goesOn = openOf(state)
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
	s := schedule.Solve(search, w, schedule.Options{Seed: service.Chance(plan.Schedule, *w.Now), Anyway: true, Stay: true,
		Rounds: liveEffort.rounds, Previous: plan.Schedule, MovePrice: livePrice, Aim: plan.aims(w)})
	if !moves(w, plan.Schedule, s) {
		if state.Plan > 0 && plan.Number > state.Plan {
			return plan, nil // it followed what was ordered
		}
		return nil, nil
	}
	return p.tellLive(ctx, e, plan, s, true)
}

// aims are when the runs of a plan were to begin before repairs put them off. What belongs to a course whose wish has moved has none: it
// was not put off, it is wanted later.
func (p *Plan) aims(w *workload.Workload) map[string]int64 {
	was, moved := map[string]*int64{}, map[string]bool{}
	for _, j := range p.Evening.Workload.Joins {
		was[j.ID] = j.At
	}
	for _, j := range w.Joins {
		moved[j.ID] = (j.At == nil) != (was[j.ID] == nil) || j.At != nil && *j.At != *was[j.ID]
	}
	told, out := p.Schedule.Starts(), maps.Clone(p.aim)
	maps.DeleteFunc(out, func(task string, aim int64) bool {
		return told[task]-aim < service.WorthBackS || slices.ContainsFunc(p.Evening.JoinsOf(task), func(join string) bool { return moved[join] })
	})
	return out
}

// putOff are the aims of the plan that follows one, of which told is what stands, from an origin so many seconds sooner: what a repair puts
// off keeps when it was to begin; what was looked for, or makes room for an order, stands for itself.
func (p *Plan) putOff(told, s *workload.Schedule, sooner int64, repair bool) map[string]int64 {
	was, out := told.Starts(), map[string]int64{}
	for _, r := range s.Tasks {
		start, there := was[r.ID]
		aim, off := p.aim[r.ID]
		aim += sooner
		switch {
		case !there || !repair && r.Start != start:
		case off && aim < r.Start:
			out[r.ID] = aim
		case start < r.Start:
			out[r.ID] = start
		}
	}
	return out
}

// Try is the plan of a service as it would be if that had been said which a state says; it is not told. Errors: those of Service.
func (p *Planner) Try(ctx context.Context, id string, state *service.State) (*Plan, error) {
	shown, err := p.Service(ctx, id)
	if err != nil {
		return nil, err
	}
	k, err := p.store.Kitchen(ctx)
	if err != nil {
		return nil, err
	}
	booked, err := servicesOf(k, id)
	if err != nil {
		return nil, err
	}
	states, err := p.states(ctx, booked)
	if err != nil {
		return nil, err
	}
	states[0] = state
	in, err := inputsAsSaid(k, booked, asSaid(k, booked, states))
	if err != nil {
		return nil, err
	}
	return p.solve(ctx, in, shown.Plan, livePrice, changeEffort)
}

// goingOn is what has happened in a service that is open, as it was last told; nil while it is not open.
func (p *Planner) goingOn(id string) *service.State {
	e := p.entry(id)
	e.mu.Lock()
	defer e.mu.Unlock()
	return e.goesOn
}

// begunIn is a workload with what has begun of a told plan, which stands in told by the new evening's origin: whatever is changed in the
// middle of service, that stays. told loses what the evening does not know any more.
func (p *Planner) begunIn(e *expand.Evening, plan *Plan, told *workload.Schedule, state *service.State) (*workload.Workload,
	*workload.Schedule, error) {
	there := map[string]bool{}
	for i := range e.Workload.Tasks {
		there[e.Workload.Tasks[i].ID] = true
	}
	known := *told
	known.Tasks = slices.DeleteFunc(slices.Clone(told.Tasks), func(r workload.Run) bool { return !there[r.ID] })
	w := service.Happened(e, &known, service.PlanOf(plan.Number, &plan.View), state, p.clock())
	return w, &known, workload.Check(w)
}

// tellLive tells a plan of a service that goes on: a repair of what was told, or a better one.
func (p *Planner) tellLive(ctx context.Context, e *entry, plan *Plan, s *workload.Schedule, repair bool) (*Plan, error) {
	s = service.Whole(plan.Schedule, s)
	out := &Plan{Versions: plan.Versions, Rounds: []int{}, Evening: plan.Evening, Schedule: s, in: plan.in, print: plan.print, whole: true,
		aim: plan.putOff(plan.Schedule, s, 0, repair), moved: plan.movedIn(plan.Schedule, s, p.clock())}
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
