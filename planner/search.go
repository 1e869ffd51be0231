package planner

import (
	"context"
	"reflect"
	"slices"
	"time"

	"jointime/core/schedule"
	"jointime/core/service"
	"jointime/core/workload"
)

// Search is a search for a better plan of a service that goes on, beside the repairs that follow what happens meanwhile.
type Search struct {
	p     *Planner
	id    string
	plan  *Plan          // from which it looks
	state *service.State // what had happened by then
	from  time.Time      // when that was
}

// Found is a schedule that a search has found to be better than what was told when it began.
type Found struct {
	by       *Search
	schedule *workload.Schedule
	repair   bool // of a plan that did not follow what had happened
}

// Search is a search for a better plan than the one that is shown of a service, after what a state says; nil where the service is not open.
// Nothing is looked for yet. Errors: those of Service.
func (p *Planner) Search(ctx context.Context, id string, state *service.State) (*Search, error) {
	shown, err := p.Service(ctx, id)
	if err != nil || state.Phase != service.Open {
		return nil, err
	}
	return &Search{p, id, shown.Plan, state, p.clock()}, nil
}

// Look looks for better plans, each better than the one before, and says each that saves more than moving costs as soon as it is found: what
// has just broken makes what stands so dear that it must not wait for the best. It ends with the context. An error is a fault of ours.
func (s *Search) Look(ctx context.Context, found func(*Found)) error {
	return s.p.lookFor(ctx, s.p.entry(s.id), s.plan, s.state, func(better *workload.Schedule, repair bool) {
		if ctx.Err() == nil {
			found(&Found{s, better, repair})
		}
	})
}

// Holds reports whether what is looked for is still what is wanted after what a state says. Taps do not change that, what is found catches
// up with them; what was ordered does, and who and what has gone or come back. Errors: those of Service.
func (s *Search) Holds(ctx context.Context, state *service.State) (bool, error) {
	shown, err := s.p.Service(ctx, s.id)
	if err != nil {
		return false, err
	}
	return state.Phase == service.Open && shown.Plan.print == s.plan.print && reflect.DeepEqual(state.Out, s.state.Out), nil
}

// Tell tells what was found, once it has followed what has happened since; nil where it is not better any more, or not what is wanted.
// Errors: those of Happened.
func (f *Found) Tell(ctx context.Context, state *service.State) (*Plan, error) {
	if holds, err := f.by.Holds(ctx, state); err != nil || !holds {
		return nil, err
	}
	shown, err := f.by.p.Service(ctx, f.by.id)
	if err != nil {
		return nil, err
	}
	plan, is := shown.Plan, f.schedule
	if plan.Number != f.by.plan.Number || state.Matters() != f.by.state.Matters() || f.begun(f.by.p.clock()) {
		if is, err = f.by.p.caughtUp(ctx, plan, is, state); is == nil || err != nil {
			return nil, err
		}
	}
	return f.by.p.tellLive(ctx, f.by.p.entry(f.by.id), plan, is, f.repair)
}

// begun reports whether something that it moves was told to begin since it was looked for: by what the cooks saw that has begun.
func (f *Found) begun(now time.Time) bool {
	origin, is := f.by.plan.Evening.Origin, f.schedule.Starts()
	from, to := int64(f.by.from.Sub(origin)/time.Second), int64(now.Sub(origin)/time.Second)
	return slices.ContainsFunc(f.by.plan.Schedule.Tasks, func(r workload.Run) bool {
		start, there := is[r.ID]
		return r.Start > from && r.Start <= to && there && start != r.Start
	})
}

// caughtUp is a better schedule as it follows what has happened while it was looked for; nil where it breaks a rule then, or does not save
// more than moving costs against the plan that is told.
func (p *Planner) caughtUp(ctx context.Context, plan *Plan, best *workload.Schedule, state *service.State) (*workload.Schedule, error) {
	w := service.Happened(plan.Evening, plan.Schedule, service.PlanOf(plan.Number, &plan.View), state, p.clock())
	if err := workload.Check(w); err != nil {
		return nil, err
	}
	search, cancel := context.WithTimeout(ctx, liveEffort.atMost*p.patience)
	defer cancel()
	o := schedule.Options{Seed: 1, Anyway: true, Stay: true, Rounds: liveEffort.rounds, MovePrice: livePrice}
	var follows [2]*workload.Schedule
	for i, told := range []*workload.Schedule{plan.Schedule, best} {
		o.Previous = told
		follows[i] = schedule.Solve(search, w, o)
	}
	was, is := follows[0], follows[1]
	if ctx.Err() != nil || len(is.Broken) > 0 {
		return nil, nil
	}
	seconds, joins := is.Moved(was, nil)
	if len(was.Broken) > 0 || *is.Cost+seconds*livePrice < *was.Cost || savesEnough(*was.Cost, *is.Cost, joins) {
		return is, nil
	}
	return nil, nil
}
