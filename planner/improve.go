package planner

import (
	"context"
	"math"
	"time"

	"jointime/core/schedule"
	"jointime/core/service"
	"jointime/core/workload"
)

// Behind the repair of a service that goes on a better plan is looked for: near what was told, and, where that is dear, without regard for
// it. What moves costs the more the sooner it is to begin, since cooks have that in mind.

// improveEffort looks near what was told. What was told to begin within soon stays: somebody has it in their hands, or is about to; only a
// rule moves it, and the repair has seen to that.
var improveEffort = effort{rounds: 1_500, atMost: 5 * time.Second}

const soon = 2 * time.Minute

// freshEffort looks without regard for what was told, but for what was told to begin within calm: an oven that is gone asks for another
// order of all that needs one, and no repair leads there. It begins from several first schedules, since in such an evening all hangs on
// these: of 18 states of the demo's evening with a cook or a piece of equipment gone, four searches each, from one of them 4,000 rounds
// cost 1.95 times the best of all in the mean and 24 times at the most, from sixteen 1.43 and 16 times for a fifth more time.
var freshEffort = effort{rounds: 4_000, atMost: 10 * time.Second}

const (
	calm        = 10 * time.Minute
	freshStarts = 16
)

// What a plan that was made without regard for what was told has to save: a part of the cost, as before the service, and so much for each
// course that stands at another time, as if it were two minutes late. Common practice, no source.
const (
	freshSaves  = 10
	courseMoves = 480
)

// Improve looks for a better plan behind the one that follows what has happened. It is told only if it saves more than moving costs; the
// answer is nil where nothing does, or where the context has ended: what has happened meanwhile comes first. Errors: those of Happened.
func (p *Planner) Improve(ctx context.Context, id string, state *service.State) (*Plan, error) {
	shown, err := p.Service(ctx, id)
	if err != nil || state.Phase != service.Open {
		return nil, err
	}
	plan, now := shown.Plan, p.clock()
	w, err := stillTo(plan, state, now, soon)
	if err != nil {
		return nil, err
	}
	o := schedule.Options{Seed: 1, Anyway: true, Stay: true, Rounds: 1, Previous: plan.Schedule, MovePrice: livePrice}
	is := schedule.Solve(ctx, w, o)
	if ctx.Err() != nil {
		return nil, nil
	}
	if len(plan.Schedule.Broken) > 0 || len(is.Broken) > 0 {
		whole, err := p.fresh(ctx, plan, state, now, math.MaxInt64) // whatever it costs
		if whole == nil || err != nil || ctx.Err() != nil {
			return nil, err
		}
		return p.tellLive(ctx, p.entry(id), plan, whole, false)
	}
	if moves(w, plan.Schedule, is) {
		return nil, nil // the plan does not follow yet
	}
	best, cost := p.nearer(ctx, w, plan.Schedule, o, *is.Cost)
	if ctx.Err() != nil {
		return nil, nil
	}
	if e := p.entry(id); e.dearer(cost, open(w)) {
		fresh, err := p.fresh(ctx, plan, state, now, cost)
		if err != nil || ctx.Err() != nil {
			return nil, err
		}
		if fresh != nil {
			best, cost = fresh, *fresh.Cost
		}
		e.known(cost)
	}
	if best == nil {
		return nil, nil
	}
	return p.tellLive(ctx, p.entry(id), plan, best, false)
}

// nearer is a better plan near what was told, and what it costs with what it moves; nil and the cost as it is where none is found.
func (p *Planner) nearer(ctx context.Context, w *workload.Workload, told *workload.Schedule, o schedule.Options,
	cost int64) (*workload.Schedule, int64) {
	search, cancel := context.WithTimeout(ctx, improveEffort.atMost*p.patience)
	defer cancel()
	o.Rounds = improveEffort.rounds
	found := schedule.Solve(search, w, o)
	if len(found.Broken) > 0 || !moves(w, told, found) {
		return nil, cost
	}
	if seconds, _ := found.Moved(told, nil); *found.Cost+seconds*livePrice < cost {
		return found, *found.Cost + seconds*livePrice
	}
	return nil, cost
}

// Breaks reports whether the plan of a service that is shown breaks a rule.
func (p *Planner) Breaks(id string) bool {
	e := p.entry(id)
	e.mu.Lock()
	defer e.mu.Unlock()
	return e.plan != nil && len(e.plan.Schedule.Broken) > 0
}

// dearer reports whether a plan without regard for what was told may pay, with so many courses still to come: about half of them move by
// it, and where the rest of the service costs hardly more than when that was tried last, it does not.
func (e *entry) dearer(cost int64, open int) bool {
	e.mu.Lock()
	defer e.mu.Unlock()
	e.tried = min(e.tried, cost)
	return cost >= int64(open)*courseMoves/2 && cost > e.tried+e.tried/freshSaves
}

// known says what the rest of a service costs after a plan without regard for what was told has been tried.
func (e *entry) known(cost int64) {
	e.mu.Lock()
	defer e.mu.Unlock()
	e.tried = cost
}

// fresh is the rest of a service planned without regard for what was told: at first but for what is to begin within a while, and where that
// breaks a rule or saves too little, but for what is about to. It is nil where neither keeps every rule and saves enough against a cost.
func (p *Planner) fresh(ctx context.Context, plan *Plan, state *service.State, now time.Time, cost int64) (*workload.Schedule, error) {
	for _, within := range []time.Duration{calm, soon} {
		w, err := stillTo(plan, state, now, within)
		if err != nil {
			return nil, err
		}
		search, cancel := context.WithTimeout(ctx, freshEffort.atMost*p.patience)
		found := schedule.Solve(search, w, schedule.Options{Seed: 1 + max(*w.Now, 0), Rounds: freshEffort.rounds, Starts: freshStarts})
		cancel()
		if found.Cost == nil || len(found.Broken) > 0 {
			continue
		}
		if _, joins := found.Moved(plan.Schedule, nil); savesEnough(cost, *found.Cost, joins) {
			return found, nil
		}
	}
	return nil, nil
}

// savesEnough reports whether a plan made without regard for what was told, which moves so many courses, is told in the place of one that
// costs more.
func savesEnough(cost, found int64, joins int) bool {
	return found+int64(joins)*courseMoves <= cost-cost/freshSaves
}

// open is how many courses are still to come.
func open(w *workload.Workload) int {
	n := len(w.Joins)
	for _, f := range w.Fixed {
		if f.Join != "" {
			n--
		}
	}
	return n
}

// stillTo is what is still to come of a plan, in which what was told to begin so soon stays where it is.
func stillTo(plan *Plan, state *service.State, now time.Time, within time.Duration) (*workload.Workload, error) {
	w := service.Happened(plan.Evening, plan.Schedule, service.PlanOf(plan.Number, &plan.View), state, now)
	pin(w, plan.Schedule, int64(now.Add(within).Sub(plan.Evening.Origin)/time.Second))
	return w, workload.Check(w)
}

// pin keeps what was told to begin before an instant where it is.
func pin(w *workload.Workload, told *workload.Schedule, until int64) {
	fixed, at := w.FixedTasks(), map[string]*workload.Run{}
	for i := range told.Tasks {
		at[told.Tasks[i].ID] = &told.Tasks[i]
	}
	for i := range w.Tasks {
		t := &w.Tasks[i]
		if r := at[t.ID]; r != nil && fixed[t.ID] == nil && r.Start <= until && r.Start >= *w.Now && r.Start >= t.Earliest &&
			(t.Latest == nil || r.Finish <= *t.Latest) {
			finish := r.Finish
			t.Earliest, t.Latest = r.Start, &finish
		}
	}
}
