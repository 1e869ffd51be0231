package planner

import (
	"context"
	"math"
	"reflect"
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

// inMind is how long something must have been told for where it is before anybody has it in mind. What a repair has just moved nobody has:
// once an oven is gone, what goes into the other first decides what can be had from it for the next hour. Common practice, no source.
const inMind = 30 * time.Second

// freshEffort looks without regard for what was told, but for what was told to begin within calm: an oven that is gone asks for another
// order of all that needs one, and no repair leads there. It begins from several first schedules, since in such an evening all hangs on
// these: of 18 states of the demo's evening with a cook or a piece of equipment gone, four searches each, from one of them 4,000 rounds
// cost 1.95 times the best of all in the mean and 24 times at the most, from sixteen 1.43 and 16 times for a fifth more time.
var freshEffort = effort{rounds: 4_000, atMost: 10 * time.Second}

const (
	calm        = 10 * time.Minute
	freshStarts = 16
)

// tryAgain is how long after a plan without regard for what was told has been tried another chance is taken, where the rest of the service
// is still dear: twice as long after each that brought nothing. In those 18 states one of four chances costs 1.23 times the best of them in
// the mean and 3.7 times at the most, the better of two 1.08 times (eight searches of each).
const tryAgain = 20 * time.Second

// What a plan that was made without regard for what was told has to save: a part of the cost, as before the service, and so much for each
// course that stands at another time, as if it were two minutes late. Common practice, no source.
const (
	freshSaves  = 10
	courseMoves = 480
)

// lookFor says what is found that is better than a plan that follows what has happened, and then what is better than that; first, where the
// plan does not follow yet, a repair.
func (p *Planner) lookFor(ctx context.Context, e *entry, plan *Plan, state *service.State,
	found func(s *workload.Schedule, repair bool)) error {
	now := p.clock()
	w, err := stillTo(plan, state, now, soon, 0)
	if err != nil {
		return err
	}
	o := schedule.Options{Seed: 1, Anyway: true, Stay: true, Rounds: 1, Previous: plan.Schedule, MovePrice: livePrice}
	is := schedule.Solve(ctx, w, o)
	if ctx.Err() != nil {
		return nil
	}
	if len(plan.Schedule.Broken) > 0 || len(is.Broken) > 0 {
		_, any, err := p.fresh(ctx, plan, state, now, math.MaxInt64, found) // whatever it costs
		if !any {
			e.lookAgain(now)
		}
		return err
	}
	cost := *is.Cost
	if moves(w, plan.Schedule, is) {
		o.Previous = is
		found(is, true)
	}
	if near, costs := p.nearer(ctx, w, o, cost); near != nil {
		cost = costs
		found(near, false)
	}
	if ctx.Err() != nil || !e.dearer(cost, open(w), state.Out, now) {
		return nil
	}
	cost, any, err := p.fresh(ctx, plan, state, now, cost, found)
	if err != nil || ctx.Err() != nil {
		return err
	}
	e.known(cost, any, state.Out, p.clock())
	return nil
}

// nearer is a better plan near the previous one, and what it costs with what it moves; nil and the cost as it is where none is found.
func (p *Planner) nearer(ctx context.Context, w *workload.Workload, o schedule.Options, cost int64) (*workload.Schedule, int64) {
	search, cancel := context.WithTimeout(ctx, improveEffort.atMost*p.patience)
	defer cancel()
	o.Rounds = improveEffort.rounds
	found := schedule.Solve(search, w, o)
	if len(found.Broken) > 0 || !moves(w, o.Previous, found) {
		return nil, cost
	}
	if seconds, _ := found.Moved(o.Previous, nil); *found.Cost+seconds*livePrice < cost {
		return found, *found.Cost + seconds*livePrice
	}
	return nil, cost
}

// LooksAgain reports whether a better plan of a service is to be looked for though nothing has been said since: the one that is shown breaks
// a rule, or is dear and another chance is due.
func (p *Planner) LooksAgain(id string) bool {
	e, now := p.entry(id), p.clock()
	e.mu.Lock()
	defer e.mu.Unlock()
	return e.plan != nil && (len(e.plan.Schedule.Broken) > 0 || !e.again.IsZero() && !now.Before(e.again))
}

// dearer reports whether a plan without regard for what was told may pay now, with so many courses still to come: about half of them move by
// it. Where the rest of the service costs hardly more than when that was tried last, and the same people and pieces of equipment are away, only
// another chance can find more, and that takes time.
func (e *entry) dearer(cost int64, open int, out []service.Absence, now time.Time) bool {
	e.mu.Lock()
	defer e.mu.Unlock()
	e.tried = min(e.tried, cost)
	if cost < int64(open)*courseMoves/2 {
		e.again, e.pause = time.Time{}, 0
		return false
	}
	if cost > e.tried+e.tried/freshSaves || !reflect.DeepEqual(out, e.without) {
		e.pause = 0
		return true
	}
	return !now.Before(e.again)
}

// lookAgain has a better plan looked for the next time, whatever is said until then.
func (e *entry) lookAgain(now time.Time) {
	e.mu.Lock()
	defer e.mu.Unlock()
	e.again = now
}

// known says what the rest of a service costs after a plan without regard for what was told has been tried, whether that was told, and who
// and what was away.
func (e *entry) known(cost int64, told bool, out []service.Absence, now time.Time) {
	e.mu.Lock()
	defer e.mu.Unlock()
	e.without = out
	if e.tried = cost; told {
		e.pause = 0
	}
	e.pause = max(tryAgain, 2*e.pause)
	e.again = now.Add(e.pause)
}

// fresh plans the rest of a service without regard for what was told: but for what is to begin within a while, and where that saves enough
// more, but for what is about to. It says what keeps every rule and saves enough against a cost, and answers with what the rest costs then and
// whether any was found.
func (p *Planner) fresh(ctx context.Context, plan *Plan, state *service.State, now time.Time, cost int64,
	found func(s *workload.Schedule, repair bool)) (costs int64, any bool, err error) {
	from := plan.Schedule
	for _, within := range []time.Duration{calm, soon} {
		w, err := stillTo(plan, state, now, within, inMind)
		if err != nil {
			return cost, any, err
		}
		search, cancel := context.WithTimeout(ctx, freshEffort.atMost*p.patience)
		o := schedule.Options{Seed: 1 + max(*w.Now, 0), Rounds: freshEffort.rounds, Starts: freshStarts, Previous: plan.Schedule}
		is := schedule.Solve(search, w, o)
		cancel()
		if is.Cost == nil || len(is.Broken) > 0 {
			continue
		}
		if _, joins := is.Moved(from, nil); savesEnough(cost, *is.Cost, joins) {
			from, cost, any = is, *is.Cost, true
			found(is, false)
		}
	}
	return cost, any, nil
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

// stillTo is what is still to come of a plan, in which what was told to begin so soon stays where it is, if it has been told for so long.
func stillTo(plan *Plan, state *service.State, now time.Time, within, told time.Duration) (*workload.Workload, error) {
	w := service.Happened(plan.Evening, plan.Schedule, service.PlanOf(plan.Number, &plan.View), state, now)
	plan.pin(w, now, within, told)
	return w, workload.Check(w)
}

// pin keeps what was told to begin within a while where it is, as far as it has been told for so long.
func (p *Plan) pin(w *workload.Workload, now time.Time, within, told time.Duration) {
	until := int64(now.Add(within).Sub(p.Evening.Origin) / time.Second)
	fixed, at := w.FixedTasks(), map[string]*workload.Run{}
	for i := range p.Schedule.Tasks {
		if r := &p.Schedule.Tasks[i]; !p.moved[r.ID].After(now.Add(-told)) {
			at[r.ID] = r
		}
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

// movedIn are the runs that a schedule which is told at an instant puts elsewhere than the plan did, of which told is what stands, and those
// that the plan moved a moment before.
func (p *Plan) movedIn(told, s *workload.Schedule, now time.Time) map[string]time.Time {
	was, out := told.Starts(), map[string]time.Time{}
	for _, r := range s.Tasks {
		if start, there := was[r.ID]; !there || start != r.Start {
			out[r.ID] = now
		} else if at, moved := p.moved[r.ID]; moved && now.Sub(at) < inMind {
			out[r.ID] = at
		}
	}
	return out
}
