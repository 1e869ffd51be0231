package planner

import (
	"cmp"
	"context"
	"fmt"
	"reflect"
	"slices"
	"time"

	"jointime/core/advise"
	"jointime/core/expand"
	"jointime/core/kitchen"
	"jointime/core/message"
	"jointime/core/schedule"
	"jointime/core/service"
	"jointime/core/workload"
)

// Plan is a told plan of a service. It is never written to.
type Plan struct {
	Number   int64
	MadeAt   time.Time
	Kind     Kind
	Said     message.Message       // what it changed
	Versions map[kitchen.Key]int64 // of what it was made from
	Printed  *time.Time            // when a plan of the service was last printed; nil when none was
	OnPaper  int64                 // that plan's number
	// Rounds of each search, each from the schedule before it, by which the workload's file
	// comes to this cost again; empty when the plan follows one that was told.
	Rounds   []int
	Evening  *expand.Evening
	Schedule *workload.Schedule
	View     expand.EveningPlan // as it is read, with the chances

	in      *inputs
	print   string // fingerprint of the workload
	settled bool
	whole   bool // its search came to the end of its rounds
	// aim is when runs were to begin before repairs put them off.
	aim map[string]int64
	// moved is when runs were told where they are, of those that were moved a moment ago.
	moved map[string]time.Time
}

// MadeFrom is a record that a plan was made from.
type MadeFrom struct {
	kitchen.Key
	Version int64
}

// MadeFrom lists the records that the plan was made from, by kind and id.
func (p *Plan) MadeFrom() []MadeFrom {
	out := make([]MadeFrom, 0, len(p.Versions))
	for key, v := range p.Versions {
		out = append(out, MadeFrom{key, v})
	}
	slices.SortFunc(out, func(a, b MadeFrom) int { return cmp.Or(cmp.Compare(a.Kind, b.Kind), cmp.Compare(a.ID, b.ID)) })
	return out
}

// Margin is the margin setting that the plan was made with.
func (p *Plan) Margin() int { return p.Evening.Service.Margin }

// Zone is that of the clock on the kitchen's wall.
func (p *Plan) Zone() *time.Location { return p.in.book.Zone() }

// Version is that of the service that the plan was made from.
func (p *Plan) Version() int64 { return p.Versions[serviceKey(p.Evening.Service.ID)] }

func serviceKey(id string) kitchen.Key { return kitchen.Key{Kind: kitchen.ServiceRecord, ID: id} }

// Begun reports whether cooks work by the plan already: its first fire has come.
func (p *Plan) Begun(now time.Time) bool {
	return len(p.View.Joins) > 0 && !now.Before(p.View.From)
}

// held reports whether somebody works by the plan: it is printed, or its service has begun.
func (p *Plan) held(now time.Time) bool { return p.Printed != nil || p.Begun(now) }

// evenings is how many are played for the chances.
const evenings = 300

// liveEvenings is how many where the plan follows a service that goes on: it has to be there at once.
const liveEvenings = 40

// solve plans a service. follow is the plan to start from, nil for a start from nothing;
// price is what moving its starts costs. Longest waits are dear, not forbidden: a plan is
// wanted too where they cannot all be kept, and says which are not.
func (p *Planner) solve(ctx context.Context, in *inputs, follow *Plan, price int64, by effort) (*Plan, error) {
	e, print, err := evening(in)
	if err != nil {
		return nil, err
	}
	o := schedule.Options{Seed: 1, Anyway: true, Rounds: by.rounds, Progress: by.tell}
	if follow != nil {
		o.MovePrice = price
		if o.Previous, o.Loose, err = e.Follow(follow.Evening.Workload, follow.Schedule); err != nil {
			return nil, err
		}
	}
	w, begun := e.Workload, (*workload.Schedule)(nil)
	if state := p.goingOn(in.data.Services[0].ID); state != nil && follow != nil {
		if w, begun, err = p.begunIn(e, follow, o.Previous, state); err != nil {
			return nil, err // a fault of ours
		}
		o.Previous, o.MovePrice, o.Stay = begun, max(price, livePrice), true
	}
	search, cancel := context.WithTimeout(ctx, by.atMost*p.patience)
	defer cancel()
	s := schedule.Solve(search, w, o)
	if begun != nil {
		s = service.Whole(begun, s)
	}
	if ctx.Err() != nil {
		return nil, errSuperseded // a schedule cut short by that is nobody's plan
	}
	out := &Plan{Versions: in.versions, Rounds: []int{}, Evening: e, Schedule: s, in: in, print: print, whole: search.Err() == nil}
	if begun != nil {
		out.aim = follow.putOff(begun, s, int64(follow.Evening.Origin.Sub(e.Origin)/time.Second), false)
		out.moved = follow.movedIn(begun, s, p.clock())
	}
	if follow == nil && out.whole {
		out.Rounds = []int{by.rounds}
	}
	out.read()
	return out, nil
}

func evening(in *inputs) (*expand.Evening, string, error) {
	svc, ok := in.book.Service(in.data.Services[0].ID)
	if !ok {
		return nil, "", ErrNoService
	}
	e, err := expand.NewEvening(in.book, svc, true, in.data.Services[1:]...)
	if err != nil {
		return nil, "", err
	}
	if err := workload.Check(e.Workload); err != nil {
		return nil, "", err // a fault of ours: better no plan than a search that goes astray
	}
	print, err := e.Workload.Fingerprint()
	return e, print, err
}

// again is the plan with its schedule read with other inputs of the same workload.
func (p *Plan) again(in *inputs, e *expand.Evening) *Plan {
	out := *p
	out.in, out.Evening, out.Versions = in, e, in.versions
	out.read()
	return &out
}

// after is what a further search adds to the rounds by which a plan can be found again.
func after(rounds []int, found *Plan, by effort) []int {
	if len(rounds) == 0 || !found.whole {
		return []int{} // it followed a plan that was told, or time was up
	}
	return append(slices.Clone(rounds), by.rounds)
}

// read makes the view, and plays the plan many times for its chances.
func (p *Plan) read() {
	p.View = *p.Evening.Read(p.Schedule)
	spread := func(task string) advise.Spread {
		low, likely, high := p.Evening.Spread(task)
		return advise.Spread{Low: low, Likely: likely, High: high}
	}
	many := evenings
	if p.Kind == Live {
		many = liveEvenings
	}
	sure := advise.Sure(p.Evening.Workload, p.Schedule, spread, p.Evening.Hold, expand.OnTimeS, many, 1)
	for i := range p.View.Joins {
		j := &p.View.Joins[i]
		x := sure[j.ID]
		if x == nil {
			continue
		}
		j.Chance, j.Holds = x.OnTime, x.Holds
		// Batches and steps of one thing are blamed together.
		for _, b := range x.Blamed() {
			what := p.Evening.Says(b.Task, j.ID)
			if i := slices.IndexFunc(j.Blame, func(o expand.Blame) bool { return o.What == what }); i >= 0 {
				j.Blame[i].Share += b.Share
			} else {
				j.Blame = append(j.Blame, expand.Blame{What: what, Share: b.Share})
			}
		}
		slices.SortStableFunc(j.Blame, func(a, b expand.Blame) int { return cmp.Compare(b.Share, a.Share) })
		j.Blame = j.Blame[:min(len(j.Blame), 2)]
	}
	p.View.Stand()
}

// details is what the record of a service's plan has beside its files.
type details struct {
	Rounds []int `json:"rounds"`
	// Print is the fingerprint of the workload, where that is not kept again: a plan that follows a service is told within a quarter of a
	// second, and its workload is the same as that of the plan before, which follows from what both were made from.
	Print string `json:"print,omitempty"`
	// Aim is when what repairs put off was to begin, by task.
	Aim map[string]int64 `json:"aim,omitempty"`
}

func (p *Plan) record(subject string) (*Record, error) {
	r := &Record{Subject: subject, Number: p.Number, MadeAt: p.MadeAt, Kind: p.Kind, Said: p.Said, Inputs: p.in.hash, Data: p.in.raw,
		Versions: p.Versions}
	if p.Kind == Live {
		return r, r.carrySchedule(p.Schedule, details{p.Rounds, p.print, p.aim})
	}
	return r, r.carry(p.Evening.Workload, p.Schedule, p.Evening.Refs(), details{p.Rounds, "", p.aim})
}

// told makes a plan of its record. now are the inputs as they are: where they are those of
// the record, its data need not be read again; nor is the evening made anew where was, the plan that was shown before, is of the same.
func told(r *Record, head Head, now *inputs, was *Plan) (*Plan, error) {
	in, err := now, error(nil)
	if in == nil || in.hash != r.Inputs {
		if in, err = fromRaw(r.Data, r.Versions); err != nil {
			return nil, err
		}
	}
	var more details
	w, s, err := r.files(&more)
	if err != nil {
		return nil, err
	}
	kept := more.Print
	if w != nil {
		if kept, err = w.Fingerprint(); err != nil {
			return nil, err
		}
	}
	var e *expand.Evening
	print := ""
	if was != nil && was.in.hash == in.hash {
		e, print = was.Evening, was.print
	} else if e, print, err = evening(in); err != nil {
		return nil, err
	}
	if kept != print {
		return nil, errOtherProgram
	}
	p := &Plan{Number: r.Number, MadeAt: r.MadeAt, Kind: r.Kind, Said: r.Said, Versions: r.Versions, Printed: head.Printed,
		OnPaper: head.OnPaper, Rounds: more.Rounds, Evening: e, Schedule: s,
		in: in, print: print, settled: head.Settled, whole: true, aim: more.Aim}
	p.read()
	return p, nil
}

// errOtherProgram means that a told plan was made by a version of the program that makes
// another workload of the same kitchen: it can be followed no more, and is made anew.
var errOtherProgram = fmt.Errorf("a told plan was made by another version of this program")

// moved is what going from one told plan to another moves, at the price for it.
func moved(from, to *Plan) int64 {
	was, loose, err := to.Evening.Follow(from.Evening.Workload, from.Schedule)
	if err != nil {
		return 0
	}
	seconds, _ := to.Schedule.Moved(was, loose)
	return seconds * movePrice
}

// servicesOf are a service and those that are cooked beside it; ErrNoService when it is not there.
func servicesOf(k *Kitchen, id string) ([]kitchen.Service, error) {
	if k.Book == nil {
		return nil, ErrNoKitchen
	}
	svc, ok := k.Book.Service(id)
	if !ok {
		return nil, ErrNoService
	}
	return append([]kitchen.Service{*svc}, k.Book.Beside(svc)...), nil
}

// inputsAsSaid are the inputs of services as they were booked, and as was said since. What was said and cannot be planned is left out: it
// stands in the log, and the booking is planned.
func inputsAsSaid(k *Kitchen, booked, said []kitchen.Service) (*inputs, error) {
	in, err := inputsOf(k, booked, false)
	if err != nil || reflect.DeepEqual(booked, said) {
		return in, err
	}
	d := in.data
	d.Services = said
	b, err := kitchen.NewBook(d)
	if err != nil {
		return in, nil
	}
	out, err := hashed(b, d)
	if err != nil {
		return nil, err
	}
	out.versions = in.versions
	return out, nil
}
