package expand

import (
	"cmp"
	"fmt"
	"slices"
	"strconv"
	"time"

	"jointime/core/kitchen"
	"jointime/core/scale"
	"jointime/core/workload"
)

// Costs of the make-ahead plan, for each second: a batch that is late for its service
// against one that is made sooner than it needs to be.
const (
	lateBatch  = 40
	staleBatch = 1
	// overWait is for a second beyond a longest wait or a shelf life. These are not hard
	// rules here: a plan that has to break one is still wanted, with what it breaks said.
	overWait = 60
)

// gate is how long before a service its mise en place is complete, tasted and in place.
// Common practice, no source.
const gate = 30 * time.Minute

// cleared is how long after the last seating the cooks are still busy with a service.
// Common practice, no source.
const cleared = 105 * time.Minute

// Done is a step of the make-ahead plan that somebody has ticked off.
type Done struct {
	Batch  string // whose step it is
	At     time.Time
	Amount *float64 // what was made, where that was said
}

// PrepRef says what a task of the make-ahead workload is.
type PrepRef struct {
	Batch int // index into Prep.Amounts.Batches
	Step  string
	Part  int // from 1, when a step is done in several runs
	Of    int
	Act   Act    // what it is of its step, when it is not the step itself
	Main  string // the step's own run, of an act
	Say   string // what a touch does
}

// Prep is the make-ahead work of some services as a workload, with what is needed to
// read the schedule.
type Prep struct {
	Workload *workload.Workload
	Amounts  *scale.Amounts
	Tasks    map[string]PrepRef
	Origin   time.Time
	Now      time.Time
	// StartBy is when each batch would have to be begun at the latest, by the calendar of
	// the people alone; EarliestReady when it could be ready from now on, the same way.
	StartBy, EarliestReady, QuickReady []time.Time
	wish                               []int64 // when each batch is best ready, in seconds from Origin
	done                               map[string]Done
	book                               *kitchen.Book
	services                           []kitchen.Service
	zone                               *time.Location
	roster                             map[string]ResourceRef
	calendars                          map[string][]workload.Window // of each section: when any of its people is there
}

// NewPrep reckons the amounts for some services and expands their batches. done holds
// the ticked steps by task id. The error is kitchen.Faults: a step that nobody or nothing
// can do.
func NewPrep(b *kitchen.Book, services []kitchen.Service, now time.Time, done map[string]Done) (*Prep, error) {
	zone := b.Zone()
	span := func(c *kitchen.Component) time.Duration {
		s, _ := AheadSpan(c)
		return time.Duration(s) * time.Second
	}
	made := map[string]float64{}
	for _, d := range done {
		if d.Amount != nil && d.Batch != "" {
			made[d.Batch] = *d.Amount
		}
	}
	p := &Prep{Amounts: scale.Reckon(b, services, span, made), Tasks: map[string]PrepRef{}, Now: now.In(zone), done: done, book: b,
		services: services, zone: zone, roster: roster(b), calendars: map[string][]workload.Window{}}
	p.frame(span)
	p.spread()
	if err := p.tasks(); err != nil {
		return nil, err
	}
	p.between()
	p.spans()
	return p, nil
}

// frame sets the days that the workload covers, its people and its equipment.
func (p *Prep) frame(span func(*kitchen.Component) time.Duration) {
	first, last := p.Now, p.Now.Add(24*time.Hour)
	for _, x := range p.Amounts.Batches {
		c, _ := p.book.Component(x.Component)
		// Nights and days off stretch a chain: twice its length, and a day.
		if s := x.NeedBy.Add(-2*span(c) - 24*time.Hour); s.Before(first) {
			first = s
		}
		if x.LastUse.After(last) {
			last = x.LastUse
		}
	}
	for _, d := range p.done {
		if d.At.Before(first) {
			first = d.At.Add(-24 * time.Hour)
		}
	}
	first = first.In(p.zone)
	p.Origin = time.Date(first.Year(), first.Month(), first.Day(), 0, 0, 0, 0, p.zone)
	now := p.second(p.Now)
	w := &workload.Workload{Objective: workload.Joins, Origin: p.Origin.Format(time.RFC3339), Horizon: p.second(last) + 4*86400, Now: &now}
	w.Resources = resources(p.book, p.Origin, w.Horizon)
	busy := p.busy()
	for i := range w.Resources {
		if w.Resources[i].HasWindows {
			w.Resources[i].Windows = without(w.Resources[i].Windows, busy)
		}
	}
	for i := range w.Resources {
		if r := &w.Resources[i]; !p.roster[r.ID].IsPerson() {
			if kept := p.inService(r.ID); len(kept) > 0 {
				r.HasWindows = true
				r.Windows = without([]workload.Window{{From: 0, To: w.Horizon, Capacity: r.Capacity}}, kept)
			}
		}
	}
	p.Workload = w
	for _, s := range p.book.Sections() {
		var all []workload.Window
		for _, id := range Hands.names(cooks(p.book, s.ID)) {
			for _, r := range w.Resources {
				if r.ID == id {
					all = append(all, r.Windows...)
				}
			}
		}
		p.calendars[s.ID] = joined(all)
	}
}

// spreadMost is how far the work before a service is drawn apart at the most: twice its
// own length leaves room for the rest of the day.
const spreadMost = 2.2

// spread gives every batch a time at which it is best ready, so that the hands-on work of
// a section fills the hours before a service instead of their end: what keeps longest is
// made first, and nothing sooner than a third of its shelf life before it is needed.
func (p *Prep) spread() {
	p.wish = make([]int64, len(p.Amounts.Batches))
	byPlace := map[string][]int{}
	for i, x := range p.Amounts.Batches {
		c, _ := p.book.Component(x.Component)
		p.wish[i] = p.second(x.NeedBy.Add(-gate))
		key := fmt.Sprintf("%s %d", c.Section, p.wish[i])
		byPlace[key] = append(byPlace[key], i)
	}
	for _, list := range byPlace {
		shelf := func(i int) float64 {
			c, _ := p.book.Component(p.Amounts.Batches[i].Component)
			return c.ShelfLifeH
		}
		slices.SortStableFunc(list, func(a, b int) int { return cmp.Compare(shelf(a), shelf(b)) })
		first, _ := p.book.Component(p.Amounts.Batches[list[0]].Component)
		end, people := p.wish[list[0]], max(1, len(cooks(p.book, first.Section)))
		hands := make([]int64, len(list))
		total := int64(0)
		for k, i := range list {
			x := &p.Amounts.Batches[i]
			c, _ := p.book.Component(x.Component)
			for _, s := range c.InPhase(kitchen.Ahead) {
				hands[k] += handsOn(&s, x.Portions)
			}
			total += hands[k]
		}
		free := int64(0)
		for _, w := range p.calendars[first.Section] {
			from, to := max(w.From, end-12*3600, *p.Workload.Now), min(w.To, end)
			free += max(0, to-from)
		}
		stretch := min(spreadMost, max(1, float64(free*int64(people))/float64(max(1, total))))
		at := float64(end)
		for k, i := range list {
			soonest := float64(end) - shelf(i)*3600/3
			p.wish[i] = int64(max(at, soonest, float64(min(end, *p.Workload.Now))))
			at -= float64(hands[k]) * stretch / float64(people)
		}
	}
}

func (p *Prep) second(t time.Time) int64 { return int64(t.Sub(p.Origin) / time.Second) }

func (p *Prep) instant(s int64) time.Time { return p.Origin.Add(time.Duration(s) * time.Second) }

// TaskID names a run of a step of a batch. The first has the same name whether others
// follow it or not; what it means stands in Prep.Tasks.
func TaskID(batch, step string, part int) string {
	id := batch + "#" + step
	if part > 1 {
		id += "." + strconv.Itoa(part)
	}
	return id
}

// tasks adds the steps of every batch with their waits and the join at which it is
// needed.
func (p *Prep) tasks() error {
	for i := range p.Amounts.Batches {
		x := &p.Amounts.Batches[i]
		c, _ := p.book.Component(x.Component)
		steps := c.InPhase(kitchen.Ahead)
		if len(steps) == 0 {
			continue
		}
		runs := map[string][]string{}
		followed := map[string]bool{}
		for k := range steps {
			ids, err := p.step(i, x, c, &steps[k])
			if err != nil {
				return err
			}
			runs[steps[k].ID] = ids
			for _, a := range steps[k].After {
				followed[a.Step] = true
				for _, before := range runs[a.Step] {
					for _, id := range ids {
						p.link(before, id, a.Wait)
					}
					if err := p.keep(c, before, ids, a.Wait); err != nil {
						return err
					}
				}
			}
		}
		need := p.needID(x)
		at := p.second(x.NeedBy.Add(-gate))
		p.Workload.Joins = append(p.Workload.Joins, workload.Join{ID: need, Name: c.Name, At: &at, Weight: lateBatch, EarlyWeight: staleBatch})
		ease, wish := "ease/"+x.ID, p.wish[i]
		p.Workload.Joins = append(p.Workload.Joins, workload.Join{ID: ease, Name: c.Name, At: &wish, Weight: staleBatch, EarlyWeight: staleBatch})
		keeps := int64(-1)
		if shelf := time.Duration(c.ShelfLifeH * float64(time.Hour)); shelf > 0 {
			keeps = max(0, int64((shelf-x.LastUse.Sub(x.NeedBy)-gate)/time.Second))
		}
		for k := range steps {
			if followed[steps[k].ID] {
				continue
			}
			for _, id := range runs[steps[k].ID] {
				zero := int64(0)
				p.Workload.Links = append(p.Workload.Links, workload.Link{From: id, To: need, Kind: workload.FinishStart, Weight: staleBatch},
					workload.Link{From: id, To: ease, Kind: workload.FinishStart, Best: &zero, Weight: staleBatch})
				if keeps >= 0 {
					p.atMost(id, need, keeps)
				}
			}
		}
	}
	p.ticked()
	return nil
}

func (p *Prep) needID(x *scale.Batch) string { return "need/" + x.ID }

// step adds the runs of one step of a batch.
func (p *Prep) step(batch int, x *scale.Batch, c *kitchen.Component, s *kitchen.Step) ([]string, error) {
	people := cooks(p.book, c.SectionOf(s))
	parts := s.Batch.Split(x.Portions)
	var out []string
	for k, n := range parts {
		id := TaskID(x.ID, s.ID, k+1)
		needs, err := needsOf(p.book, id, people, c, s)
		if err != nil {
			return nil, err
		}
		t := workload.Task{ID: id, Name: c.Name + ": " + s.Name, Seconds: int64(s.Time.For(n).Likely), Needs: needs}
		acts, ties := actsOf(&t, s, n, people)
		ref := PrepRef{Batch: batch, Step: s.ID, Part: k + 1, Of: len(parts)}
		if stay := p.mayStay(c, s); stay > 0 && len(acts) > 0 {
			longest, best := t.Seconds+stay, t.Seconds
			t.Longest = &longest
			ties = append(ties, workload.Link{From: id, To: id, Kind: workload.StartFinish, Best: &best, Weight: staleBatch})
		}
		p.Workload.Tasks = append(p.Workload.Tasks, t)
		p.Tasks[id] = ref
		for _, a := range acts {
			p.Workload.Tasks = append(p.Workload.Tasks, a.Task)
			ref.Act, ref.Main, ref.Say = a.is, id, a.say
			p.Tasks[a.ID] = ref
		}
		p.Workload.Links = append(p.Workload.Links, ties...)
		if k > 0 && s.Batch.Run == kitchen.InTurn {
			p.Workload.Links = append(p.Workload.Links, workload.Link{From: out[k-1], To: id, Kind: workload.FinishStart, Weight: 1})
		}
		out = append(out, id)
	}
	return out, nil
}
