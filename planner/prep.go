package planner

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"slices"
	"strings"
	"sync"
	"time"

	"jointime/core/advise"
	"jointime/core/expand"
	"jointime/core/kitchen"
	"jointime/core/message"
	"jointime/core/schedule"
	"jointime/core/workload"
)

// Prep is a told make-ahead plan of all services to come. It is never written to.
type Prep struct {
	Number    int64
	MadeAt    time.Time
	Kind      Kind
	Said      message.Message
	View      expand.PrepPlan
	Ticks     []Tick // what was last said of every step
	Following bool   // something was ticked, or time went on: the next plan is being made
	Book      *kitchen.Book

	in       *inputs
	done     map[string]expand.Done
	told     map[string]*expand.Told // what it knows of the services' plans
	said     string                  // hash of the ticks, and of those plans, that the plan has
	prep     *expand.Prep
	schedule *workload.Schedule
	asOf     time.Time // what is not begun starts from then on
}

// prepEntry is what is known of the make-ahead plan. Its fields are under its lock.
type prepEntry struct {
	mu      sync.Mutex
	plan    *Prep
	mends   []advise.PrepMend
	mendsOf *Prep
	asked   string // what a search in the background was last begun for
	fired   map[string]firedOf
}

// firedOf is what the make-ahead work has to know of a told plan of a service.
type firedOf struct {
	number int64
	told   *expand.Told
}

// The make-ahead plan's efforts: for the first, and for one that follows another; and how
// long one holds before what was not begun moves on with the clock.
var (
	prepEffort  = effort{rounds: 6_000, atMost: 3 * time.Second}
	againEffort = effort{rounds: 1_900, atMost: 2 * time.Second}
)

const (
	prepFresh   = 5 * time.Minute
	prepRounds  = 2_000 // for each thing that may help
	tickDays    = 30
	prepSubject = "prep"
)

// prepNow is what the make-ahead plan depends on, as it is now.
type prepNow struct {
	in    *inputs
	ticks []Tick
	told  map[string]*expand.Told
	said  string
	at    time.Time
}

func (p *Planner) prepNow(ctx context.Context) (*prepNow, error) {
	k, err := p.store.Kitchen(ctx)
	if err != nil {
		return nil, err
	}
	if k.Book == nil {
		return nil, ErrNoKitchen
	}
	now := p.clock()
	n := &prepNow{at: now}
	if n.in, err = inputsOf(k, k.Book.Coming(now), true); err != nil {
		return nil, err
	}
	if n.ticks, err = p.store.Ticks(ctx, now.AddDate(0, 0, -tickDays)); err != nil {
		return nil, err
	}
	slices.SortFunc(n.ticks, func(a, b Tick) int { return strings.Compare(a.Task, b.Task) })
	numbers, err := p.toldOf(ctx, k, n)
	if err != nil {
		return nil, err
	}
	n.said, err = saidOf(n.ticks, numbers)
	return n, err
}

// saidOf is the hash of what a make-ahead plan follows behind its answer: ticks, and plans of services by their numbers.
func saidOf(ticks []Tick, plans map[string]int64) (string, error) {
	raw, err := json.Marshal(struct {
		Ticks []Tick
		Plans map[string]int64
	}{ticks, plans})
	return sum(raw), err
}

// toldOf gathers what is known of the told plans of the services, and their numbers. A service of which no plan was told, or
// whose plan cannot be read, is planned for by what it wants alone.
func (p *Planner) toldOf(ctx context.Context, k *Kitchen, n *prepNow) (map[string]int64, error) {
	numbers := map[string]int64{}
	n.told = map[string]*expand.Told{}
	for _, s := range n.in.data.Services {
		e := p.entry(s.ID)
		in, err := p.inputs(ctx, e, k)
		if err != nil {
			continue
		}
		plan, _, err := p.current(ctx, e, in)
		if err != nil && ctx.Err() != nil {
			return nil, ctx.Err()
		}
		if err != nil || plan == nil || plan.Evening == nil || plan.Schedule == nil {
			continue
		}
		m := &p.prep
		m.mu.Lock()
		known := m.fired[s.ID]
		m.mu.Unlock()
		if known.told == nil || known.number != plan.Number {
			known = firedOf{plan.Number, plan.Evening.Told(plan.Schedule)}
			m.mu.Lock()
			if m.fired == nil {
				m.fired = map[string]firedOf{}
			}
			m.fired[s.ID] = known
			m.mu.Unlock()
		}
		n.told[s.ID], numbers[s.ID] = known.told, plan.Number
	}
	return numbers, nil
}

func doneOf(ticks []Tick) map[string]expand.Done {
	out := map[string]expand.Done{}
	for _, t := range ticks {
		if t.Done {
			out[t.Task] = expand.Done{Batch: t.Batch, At: t.At, Amount: t.Amount}
		}
	}
	return out
}

// Prep returns the make-ahead plan as it is shown. A change of the kitchen is followed
// before it answers; ticks are on it at once, and the next plan is made behind them.
// Errors: ErrNoKitchen, kitchen.Faults, the context's, ErrClosed.
func (p *Planner) Prep(ctx context.Context) (*Prep, error) {
	for {
		n, err := p.prepNow(ctx)
		if err != nil {
			return nil, err
		}
		plan, head, err := p.currentPrep(ctx)
		if err != nil {
			return nil, err
		}
		if plan != nil && plan.in.hash == n.in.hash {
			age := n.at.Sub(plan.asOf)
			if plan.said == n.said && age >= 0 && age < prepFresh {
				return plan, nil
			}
			p.followBehind(n, plan, head)
			return plan.with(n.ticks), nil
		}
		if _, err := p.makePrep(ctx, n, plan, head); err != nil && !errors.Is(err, ErrBehind) {
			return nil, err
		}
	}
}

// followBehind makes the next plan in the background, once for the same ticks and time.
func (p *Planner) followBehind(n *prepNow, plan *Prep, head Head) {
	key := fmt.Sprintf("%d %s %d", head.Number, n.said, n.at.Unix()/int64(prepFresh/time.Second))
	m := &p.prep
	m.mu.Lock()
	begun := m.asked == key
	m.asked = key
	m.mu.Unlock()
	if begun {
		return
	}
	p.background("the make-ahead plan", func() error {
		_, err := p.makePrep(p.life, n, plan, head)
		if errors.Is(err, ErrBehind) || errors.Is(err, errSuperseded) || errors.Is(err, ErrClosed) {
			return nil
		}
		return err
	})
}

// currentPrep is the told plan, from memory while no other was told; nil without one.
func (p *Planner) currentPrep(ctx context.Context) (*Prep, Head, error) {
	head, err := p.store.Head(ctx, prepSubject)
	if err != nil || head.Number == 0 {
		return nil, head, err
	}
	m := &p.prep
	m.mu.Lock()
	plan := m.plan
	m.mu.Unlock()
	if plan != nil && plan.Number >= head.Number {
		return plan, head, nil
	}
	plan, err = once(ctx, p, fmt.Sprintf("read prep %d", head.Number), func() (*Prep, error) {
		r, err := p.store.Record(p.life, prepSubject, head.Number)
		if err != nil {
			return nil, err
		}
		return toldPrep(r)
	})
	if errors.Is(err, errOtherProgram) {
		return nil, head, nil
	}
	if err != nil {
		return nil, head, err
	}
	m.mu.Lock()
	defer m.mu.Unlock()
	if m.plan == nil || m.plan.Number < plan.Number {
		m.plan = plan
	}
	return m.plan, head, nil
}

// makePrep makes the next plan, and tells it when it is another than the last.
func (p *Planner) makePrep(ctx context.Context, n *prepNow, was *Prep, head Head) (*Prep, error) {
	key := fmt.Sprintf("prep %d %s %s %d", head.Number, n.in.hash, n.said, n.at.Unix()/int64(prepFresh/time.Second))
	return once(ctx, p, key, func() (*Prep, error) {
		done := doneOf(n.ticks)
		e, err := expand.NewPrep(n.in.book, n.in.data.Services, n.at, done, n.told)
		if err != nil {
			return nil, err
		}
		o, by := schedule.Options{Seed: 1, Anyway: true, Rounds: prepEffort.rounds}, prepEffort
		if was != nil {
			by = againEffort
			o.Rounds, o.MovePrice = againEffort.rounds, movePrice
			if o.Previous, err = was.schedule.Rebase(was.prep.Workload.Origin, e.Workload.Origin); err != nil {
				return nil, err
			}
		}
		search, cancel := context.WithTimeout(p.life, by.atMost*p.patience)
		defer cancel()
		s := schedule.Solve(search, e.Workload, o)
		if p.life.Err() != nil {
			return nil, ErrClosed
		}
		next := &Prep{Number: head.Number + 1, MadeAt: n.at, Kind: First, View: *e.Read(s), Ticks: n.ticks, Book: n.in.book, in: n.in,
			done: done, told: n.told, said: n.said, prep: e, schedule: s, asOf: n.at}
		if was != nil {
			next.Kind = Change
			if was.in.hash == n.in.hash {
				next.Kind = Clock
			}
			if next.Kind == Change || !samePrep(was, next) {
				next.Said = advise.PrepDifference(&was.View, &next.View)
			}
		}
		if next.Kind == Clock && samePrep(was, next) {
			next.Number, next.MadeAt, next.Kind, next.Said = was.Number, was.MadeAt, was.Kind, was.Said // nothing else to tell
		} else {
			r, err := next.record()
			if err != nil {
				return nil, err
			}
			if err := p.store.Tell(p.life, r); err != nil {
				return nil, err
			}
		}
		m := &p.prep
		m.mu.Lock()
		defer m.mu.Unlock()
		if m.plan == nil || m.plan.Number <= next.Number {
			m.plan = next
		}
		return next, nil
	})
}

// samePrep reports whether every job that is open in both starts and ends at the same time,
// and no batch came or went.
func samePrep(a, b *Prep) bool {
	at := map[string][2]time.Time{}
	for _, j := range a.View.Jobs {
		for _, t := range j.Steps {
			at[t.Task] = [2]time.Time{t.StartAt, t.FinishAt}
		}
	}
	for _, j := range b.View.Jobs {
		for _, t := range j.Steps {
			was, ok := at[t.Task]
			if !ok || !t.Done && (!was[0].Equal(t.StartAt) || !was[1].Equal(t.FinishAt)) {
				return false
			}
			delete(at, t.Task)
		}
	}
	return len(at) == 0
}

// with is the plan with what has been ticked since it was made.
func (p *Prep) with(ticks []Tick) *Prep {
	out := *p
	out.View, out.Ticks, out.Following = *p.View.Ticked(doneOf(ticks)), ticks, true
	return &out
}

// prepDetails is what the record of a make-ahead plan has beside its files.
type prepDetails struct {
	AsOf  time.Time               `json:"as_of"`
	Ticks []Tick                  `json:"ticks"`
	Told  map[string]*expand.Told `json:"told,omitempty"`
	Said  string                  `json:"said,omitempty"`
}

func (p *Prep) record() (*Record, error) {
	r := &Record{Subject: prepSubject, Number: p.Number, MadeAt: p.MadeAt, Kind: p.Kind, Said: p.Said, Inputs: p.in.hash, Data: p.in.raw,
		Versions: p.in.versions}
	return r, r.carry(p.prep.Workload, p.schedule, p.prep.Refs(), prepDetails{p.asOf, p.Ticks, p.told, p.said})
}

func toldPrep(r *Record) (*Prep, error) {
	in, err := fromRaw(r.Data, r.Versions)
	if err != nil {
		return nil, err
	}
	var more prepDetails
	w, s, err := r.files(&more)
	if err != nil {
		return nil, err
	}
	done := doneOf(more.Ticks)
	e, err := expand.NewPrep(in.book, in.data.Services, more.AsOf, done, more.Told)
	if err != nil {
		return nil, err
	}
	kept, err := w.Fingerprint()
	if err != nil {
		return nil, err
	}
	if print, err := e.Workload.Fingerprint(); err != nil || print != kept {
		return nil, errors.Join(errOtherProgram, err)
	}
	return &Prep{Number: r.Number, MadeAt: r.MadeAt, Kind: r.Kind, Said: r.Said, View: *e.Read(s), Ticks: more.Ticks, Book: in.book, in: in,
		done: done, told: more.Told, said: more.Said, prep: e, schedule: s, asOf: more.AsOf}, nil
}

// ToldPrep is the make-ahead plan that was told last, with nothing planned; nil when there
// is none.
func (p *Planner) ToldPrep(ctx context.Context) (*Prep, error) {
	plan, _, err := p.currentPrep(ctx)
	return plan, err
}

// Step finds the run of the told plan that an id names.
func (p *Prep) Step(task string) (expand.PrepRef, bool) {
	ref, ok := p.prep.Tasks[task]
	return ref, ok
}

// BatchOf is the id of the batch that a run belongs to.
func (p *Prep) BatchOf(ref expand.PrepRef) string { return p.prep.Amounts.Batches[ref.Batch].ID }
