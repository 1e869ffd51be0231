package planner

import (
	"context"
	"errors"
	"fmt"
	"maps"
	"reflect"
	"slices"
	"sync"
	"time"

	"jointime/core/advise"
	"jointime/core/kitchen"
	"jointime/core/message"
	"jointime/core/schedule"
	"jointime/core/service"
)

// Shown is what a screen shows of a service.
type Shown struct {
	Plan *Plan
	// Looking says that a better plan is being looked for; Looked is how far that is, 0 to 1,
	// and Saves what the best that was found so far would save, in the plan's costs.
	Looking bool
	Looked  float64
	Saves   int64
	// Held says that somebody works by the plan: it is printed, or its service has begun.
	Held bool
	// Offer is what following a change would do, while the plan is held; nil without one.
	Offer *Offer
}

// Offer is a change that a held plan has not followed.
type Offer struct {
	Changed []string        // names of what was changed
	Said    message.Message // what following it would do; nothing while that is being worked out
	plan    *Plan
	hash    string
}

// entry is what is known of one service's plan. Its fields are under its lock; nothing
// is computed while that is held.
type entry struct {
	id, subject string

	mu       sync.Mutex
	plan     *Plan
	before   *Plan              // the plan that a change was made from, for the sentence of what it did
	revision int64              // of booked
	booked   []kitchen.Service  // the service, and those that are cooked beside it
	states   []*service.State   // what was said in each of them; nil where nothing was
	in       *inputs            // of the services as they were booked and as was said
	goesOn   *service.State     // what has happened in the service while it is open; nil while it is not
	running  string             // inputs for which a plan is being made
	cancel   context.CancelFunc // of that
	ended    chan struct{}      // closed when the search behind the plan has ended; nil without one
	stop     context.CancelFunc // of that
	looking  []look             // that which goes on, and those that come after it
	looked   schedule.Progress  // how far it is
	tried    int64              // what the rest of it cost when that was last made without regard for what was told, and at the least since
	without  []service.Absence  // who and what was away when that was made
	again    time.Time          // when another chance is taken at that; zero where that is not worth it
	pause    time.Duration      // how long after the last that is
	offer    *Offer
	unoffer  context.CancelFunc
	mends    *mends
}

func (p *Planner) entry(id string) *entry {
	p.mu.Lock()
	defer p.mu.Unlock()
	e := p.services[id]
	if e == nil {
		e = &entry{id: id, subject: "service/" + id}
		p.services[id] = e
	}
	return e
}

// forget drops a service that is no more, and what is computed for it.
func (p *Planner) forget(id string) {
	p.mu.Lock()
	e := p.services[id]
	delete(p.services, id)
	p.mu.Unlock()
	if e == nil {
		return
	}
	e.mu.Lock()
	defer e.mu.Unlock()
	for _, stop := range []context.CancelFunc{e.cancel, e.stop, e.unoffer} {
		if stop != nil {
			stop()
		}
	}
}

// inputs are those of the service as it is now: as it was booked, and as was said since it was opened.
func (p *Planner) inputs(ctx context.Context, e *entry, k *Kitchen) (*inputs, error) {
	e.mu.Lock()
	in, at, booked, were := e.in, e.revision, e.booked, e.states
	e.mu.Unlock()
	if at != k.Revision || booked == nil {
		var err error
		if booked, err = servicesOf(k, e.id); err != nil {
			return nil, err
		}
		in = nil
	}
	states, err := p.states(ctx, booked)
	if err != nil {
		return nil, err
	}
	if in != nil && slices.Equal(states, were) {
		return in, nil
	}
	if is := asSaid(k, booked, states); in == nil || !reflect.DeepEqual(is, in.data.Services) {
		if in, err = inputsAsSaid(k, booked, is); err != nil {
			return nil, err
		}
	}
	e.mu.Lock()
	e.in, e.revision, e.booked, e.states = in, k.Revision, booked, states
	if states[0] != nil {
		e.goesOn = openOf(states[0])
	}
	e.mu.Unlock()
	return in, nil
}

// states are what was said in each of some services; nil where nothing was.
func (p *Planner) states(ctx context.Context, booked []kitchen.Service) ([]*service.State, error) {
	out := make([]*service.State, len(booked))
	for i := range booked {
		var err error
		if out[i], err = p.said(ctx, booked[i].ID); err != nil {
			return nil, err
		}
	}
	return out, nil
}

// asSaid are services as they were booked, each with what was said of it.
func asSaid(k *Kitchen, booked []kitchen.Service, states []*service.State) []kitchen.Service {
	out := make([]kitchen.Service, len(booked))
	for i := range booked {
		out[i] = *service.AsSaid(k.Book, &booked[i], states[i])
	}
	return out
}

// openOf is a state while its service is open, nil while it is not.
func openOf(s *service.State) *service.State {
	if s.Phase == service.Open {
		return s
	}
	return nil
}

// Service returns the plan of a service as it is shown: the told one, after it has followed
// what was changed where it does so by itself. Errors: ErrNoKitchen, ErrNoService,
// kitchen.Faults for a service that cannot be planned, the context's, ErrClosed.
func (p *Planner) Service(ctx context.Context, id string) (*Shown, error) {
	for {
		k, err := p.store.Kitchen(ctx)
		if err != nil {
			return nil, err
		}
		e := p.entry(id)
		in, err := p.inputs(ctx, e, k)
		if err != nil {
			if errors.Is(err, ErrNoService) {
				p.forget(id)
			}
			return nil, err
		}
		plan, head, err := p.current(ctx, e, in)
		if err != nil {
			return nil, err
		}
		shown, next, err := p.show(e, plan, in)
		if err != nil || shown != nil {
			return shown, err
		}
		if err := p.follow(ctx, e, next, plan, head); err != nil {
			return nil, err
		}
	}
}

// current is the told plan, from memory while no other was told, nil when there is none.
func (p *Planner) current(ctx context.Context, e *entry, in *inputs) (*Plan, Head, error) {
	head, err := p.store.Head(ctx, e.subject)
	if err != nil || head.Number == 0 {
		return nil, head, err
	}
	e.mu.Lock()
	plan := e.plan
	if plan != nil && plan.Number == head.Number && plan.OnPaper != head.OnPaper {
		marked := *plan
		marked.Printed, marked.OnPaper = head.Printed, head.OnPaper
		plan, e.plan = &marked, &marked
	}
	e.mu.Unlock()
	if plan != nil && plan.Number >= head.Number {
		return plan, head, nil
	}
	was := plan
	plan, err = once(ctx, p, fmt.Sprintf("read %s %d", e.subject, head.Number), func() (*Plan, error) {
		r, err := p.store.Record(p.life, e.subject, head.Number)
		if err != nil {
			return nil, err
		}
		return told(r, head, in, was)
	})
	if errors.Is(err, errOtherProgram) {
		return nil, head, nil
	}
	if err != nil {
		return nil, head, err
	}
	e.mu.Lock()
	if e.plan == nil || e.plan.Number < plan.Number {
		e.adopt(plan, nil)
		if !plan.settled && plan.in.hash == in.hash {
			p.lookBehind(e, plan, plan.Kind)
		}
	} else {
		plan = e.plan
	}
	e.mu.Unlock()
	return plan, head, nil
}

// adopt makes a plan the current one; the lock is held. before is the plan that it changed.
func (e *entry) adopt(plan, before *Plan) {
	if e.stop != nil {
		e.stop() // it looks for a plan that nobody wants any more
		e.stop, e.ended = nil, nil
	}
	if e.unoffer != nil {
		e.unoffer()
	}
	e.plan, e.before, e.offer, e.unoffer, e.mends = plan, before, nil, nil, nil
}

// show answers with what is shown of a plan, or with the inputs that it has to follow first.
func (p *Planner) show(e *entry, plan *Plan, in *inputs) (*Shown, *inputs, error) {
	if plan == nil {
		return nil, in, nil
	}
	now := p.clock()
	held := plan.held(now)
	shown := func() *Shown {
		e.mu.Lock()
		defer e.mu.Unlock()
		return p.shown(e, plan, held)
	}
	if plan.in.hash == in.hash {
		e.mu.Lock()
		e.offer = nil // what was changed is back as it was
		if !maps.Equal(plan.Versions, in.versions) {
			same := *plan // saved again, and the same
			same.Versions, same.in = in.versions, in
			if e.plan == plan {
				e.plan = &same
			}
			plan = &same
		}
		e.mu.Unlock()
		return shown(), nil, nil
	}
	e.mu.Lock()
	offered := e.offer != nil && e.offer.hash == in.hash
	e.mu.Unlock()
	if offered && held {
		return shown(), nil, nil
	}
	ev, print, err := evening(in)
	if err == nil && print == plan.print {
		again := plan.again(in, ev)
		e.mu.Lock()
		defer e.mu.Unlock()
		if e.plan == plan {
			e.plan = again
		}
		return p.shown(e, again, held), nil, nil
	}
	if !held {
		return nil, in, err
	}
	if in.service != plan.in.service {
		// Changing the service is changing the plan; what else was changed is still asked.
		if mixed := plan.in.withService(in); mixed != nil {
			return nil, mixed, nil
		}
		if err == nil {
			return nil, in, nil
		}
	}
	p.offer(e, plan, in, err)
	return shown(), nil, nil
}

// shown is what is shown of a plan; the lock is held.
func (p *Planner) shown(e *entry, plan *Plan, held bool) *Shown {
	s := &Shown{Plan: plan, Looking: e.ended != nil, Held: held, Offer: e.offer}
	if s.Looking {
		s.Looked = p.howFar(e, plan)
		if e.looked.Cost > 0 {
			s.Saves = max(0, plan.View.Cost-e.looked.Cost)
		}
	}
	return s
}

// follow makes the next plan and tells it, once for all who ask. It returns nil also when
// it was not told since something was changed meanwhile: then the asker looks again.
func (p *Planner) follow(ctx context.Context, e *entry, in *inputs, plan *Plan, head Head) error {
	e.mu.Lock()
	if e.cancel != nil && e.running != in.hash {
		e.cancel()
	}
	e.mu.Unlock()
	_, err := once(ctx, p, fmt.Sprintf("make %s %d %s", e.subject, head.Number, in.hash), func() (*Plan, error) {
		run, stop := context.WithCancel(p.life)
		defer stop()
		e.mu.Lock()
		e.running, e.cancel = in.hash, stop
		ready := e.mends.plan(in.hash)
		e.mu.Unlock()
		kind := Change
		next, err := ready, error(nil)
		switch {
		case ready != nil:
			kind = Mended // what was tried is what is kept
		case plan == nil:
			kind = First
			next, err = p.solve(run, in, nil, 0, firstEffort)
		case p.goingOn(e.id) != nil:
			next, err = p.solve(run, in, plan, livePrice, changeEffort)
		default:
			next, err = p.solve(run, in, plan, movePrice, firstEffort)
		}
		if err != nil {
			return nil, err
		}
		if ready != nil {
			next = ready.again(in, ready.Evening) // with the versions that it was saved as
		}
		return p.tell(run, e, plan, next, head.Number, kind)
	})
	if errors.Is(err, errSuperseded) || errors.Is(err, ErrBehind) {
		return ctx.Err()
	}
	return err
}

// tell writes a plan down after another, and looks for a better one behind it.
func (p *Planner) tell(ctx context.Context, e *entry, before, next *Plan, last int64, kind Kind) (*Plan, error) {
	out := *next
	out.Number, out.Kind, out.MadeAt, out.settled = last+1, kind, p.clock(), false
	if before != nil {
		out.Said, out.Printed, out.OnPaper = advise.EveningDifference(&before.View, &out.View), before.Printed, before.OnPaper
	}
	if err := p.write(ctx, e, &out); err != nil {
		return nil, err
	}
	e.mu.Lock()
	defer e.mu.Unlock()
	e.adopt(&out, before)
	p.lookBehind(e, &out, kind)
	return &out, nil
}

// write keeps the record of a plan.
func (p *Planner) write(ctx context.Context, e *entry, plan *Plan) error {
	if ctx.Err() != nil {
		return errSuperseded
	}
	r, err := plan.record(e.subject)
	if err != nil {
		return err
	}
	return p.store.Tell(p.life, r)
}

// Again makes the plan of a service anew, from nothing: as if none had been told. A plan that nobody holds stays while what is found so
// costs more, and it is looked for a better one without regard for it. Errors are those of Service.
func (p *Planner) Again(ctx context.Context, id string) (*Shown, error) {
	shown, err := p.Service(ctx, id)
	if err != nil {
		return nil, err
	}
	e, plan := p.entry(id), shown.Plan
	_, err = once(ctx, p, fmt.Sprintf("again %s %d", e.subject, plan.Number), func() (*Plan, error) {
		from := plan
		if p.goingOn(id) == nil {
			from = nil // in the middle of service what has begun stays
		}
		next, err := p.solve(p.life, plan.in, from, 0, firstEffort)
		if err != nil {
			return nil, err
		}
		if from == nil && !shown.Held && next.View.Cost > plan.View.Cost && p.lookAgain(e, plan) {
			return plan, nil // it would be worse until a better one is found
		}
		return p.tell(p.life, e, plan, next, plan.Number, Again)
	})
	if err != nil && !errors.Is(err, ErrBehind) {
		return nil, err
	}
	return p.Service(ctx, id)
}

// Print marks a plan as printed: from then on it is held. ErrNotOffered when no plan of the
// service has the number.
func (p *Planner) Print(ctx context.Context, id string, number int64) error {
	e := p.entry(id)
	head, err := p.store.Head(ctx, e.subject)
	if err != nil {
		return err
	}
	if number < 1 || number > head.Number {
		return ErrNotOffered
	}
	return p.store.Mark(ctx, e.subject, number, Printed)
}

// Told is the plan of a service that was told last, as it is, with nothing planned or
// followed; nil when there is none.
func (p *Planner) Told(ctx context.Context, k *Kitchen, s *kitchen.Service) (*Plan, error) {
	e := p.entry(s.ID)
	in, err := p.inputs(ctx, e, k)
	if err != nil {
		return nil, err
	}
	plan, _, err := p.current(ctx, e, in)
	return plan, err
}
