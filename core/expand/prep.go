package expand

import (
	"cmp"
	"fmt"
	"math"
	"slices"
	"strconv"
	"time"

	"jointime/core/kitchen"
	"jointime/core/message"
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
	told                               map[string]*Told
	book                               *kitchen.Book
	services                           []kitchen.Service
	contacts                           map[string]map[string][]message.Message // by service and component
	zone                               *time.Location
	roster                             map[string]ResourceRef
	calendars                          map[string][]workload.Window // of each section: when any of its people is there
}

// NewPrep reckons the amounts for some services and expands their batches. done holds
// the ticked steps by task id. The error is kitchen.Faults: a step that nobody or nothing
// can do.
// told is what is known of the told plans of the services, by their ids; nil where none is.
func NewPrep(b *kitchen.Book, services []kitchen.Service, now time.Time, done map[string]Done, told map[string]*Told) (*Prep, error) {
	b = b.WithAhead(services)
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
	fired := func(service, component string) (time.Time, bool) {
		if t := told[service]; t != nil {
			at, ok := t.Fired[component]
			return at, ok
		}
		return time.Time{}, false
	}
	p := &Prep{told: told, Amounts: scale.Reckon(b, services, span, made, fired), Tasks: map[string]PrepRef{}, Now: now.In(zone), done: done,
		book: b, services: services, zone: zone, roster: roster(b), calendars: map[string][]workload.Window{}}
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
	p.Workload = w
	all := slices.Clone(w.Resources)
	for i := range all {
		all[i].Windows = slices.Clone(all[i].Windows)
	}
	busy := p.busy()
	for i := range w.Resources {
		r := &w.Resources[i]
		of := p.roster[r.ID]
		if r.HasWindows {
			r.Windows = without(r.Windows, busy)
		}
		if kept := p.inService(r.ID); !of.IsPerson() && len(kept) > 0 {
			r.HasWindows = true
			r.Windows = without([]workload.Window{{From: 0, To: w.Horizon, Capacity: r.Capacity}}, kept)
		}
		// What a service has in hand before its first guests, or after its last, is not there for anything else.
		if taken := p.takenOf(of); len(taken) > 0 {
			if !r.HasWindows {
				r.HasWindows, r.Windows = true, []workload.Window{{From: 0, To: w.Horizon, Capacity: r.Capacity}}
			}
			if r.Thermostat != nil { // it has the service's heat
				for k := range taken {
					taken[k].Capacity = r.Capacity
				}
			}
			r.Windows = lessen(r.Windows, taken)
		}
	}
	p.gaps(all)
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
		p.wish[i] = p.needAt(i)
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
			soonest := max(float64(end)-shelf(i)*3600/3, float64(end)-float64(p.waits(i)))
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
					w := c.PlannedAhead(&steps[k], a).Wait
					w = w.ForPieces(p.portionsOf(before), kitchen.Rate(&c.Steps[c.StepIndex(a.Step)], &steps[k]))
					for _, id := range ids {
						p.link(before, id, w)
					}
					if err := p.keep(c, before, ids, w); err != nil {
						return err
					}
				}
			}
		}
		need := p.needID(x)
		at := p.needAt(i)
		p.Workload.Joins = append(p.Workload.Joins, workload.Join{ID: need, Name: c.Name, At: &at, Weight: lateBatch, EarlyWeight: staleBatch})
		ease, wish := "ease/"+x.ID, p.wish[i]
		p.Workload.Joins = append(p.Workload.Joins, workload.Join{ID: ease, Name: c.Name, At: &wish, Weight: staleBatch, EarlyWeight: staleBatch})
		if err := p.wares(i, c, runs, need); err != nil {
			return err
		}
		keeps := int64(-1)
		if shelf := time.Duration(c.ShelfLifeH * float64(time.Hour)); shelf > 0 {
			keeps = max(0, int64(shelf/time.Second)-(p.second(x.LastUse)-at))
		}
		waits := p.waits(i)
		if cooked := c.Cooked(); cooked != nil && keeps >= 0 {
			for _, id := range runs[cooked.ID] {
				p.atMost(id, need, keeps) // its use-by counts from when it was cooked
			}
			keeps = -1
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
				if waits < noLimit {
					p.atMost(id, need, waits)
				}
			}
		}
	}
	p.ticked()
	return nil
}

// noLimit is the wait of what may wait as long as it likes.
const noLimit = math.MaxInt64

// waits is how long before it is wanted complete a batch may be finished, for it not to wait for the stove or the plate longer
// than it may, seconds.
func (p *Prep) waits(i int) int64 {
	x := &p.Amounts.Batches[i]
	c, _ := p.book.Component(x.Component)
	w := c.AcrossTheCut()
	if w.Longest == nil || w.NoLimit {
		return noLimit
	}
	return max(0, int64(*w.Longest)-(p.second(x.LastFire)-p.needAt(i)))
}

// needAt is when a batch is wanted complete, in seconds of the workload.
func (p *Prep) needAt(i int) int64 {
	x := &p.Amounts.Batches[i]
	c, _ := p.book.Component(x.Component)
	return p.second(x.NeedBy.Add(-scale.Before(c)))
}

func (p *Prep) needID(x *scale.Batch) string { return "need/" + x.ID }

// step adds the runs of one step of a batch.
func (p *Prep) step(batch int, x *scale.Batch, c *kitchen.Component, s *kitchen.Step) ([]string, error) {
	people := p.mayDo(batch, c, s)
	parts := s.Batch.Split(x.Portions)
	var out []string
	for k, n := range parts {
		id := TaskID(x.ID, s.ID, k+1)
		needs, err := needsOf(p.book, id, people, c, s)
		if err != nil {
			return nil, err
		}
		if p.inServiceBatch(batch) && s.Equipment != nil {
			p.roomInGaps(&needs[len(needs)-1])
		}
		t := workload.Task{ID: id, Name: c.Name + ": " + s.Name, Seconds: int64(s.Time.For(n).Likely), Needs: needs}
		if in, ok := c.GoodsIn(p.Now); ok && len(s.After) == 0 && in.After(p.Now) {
			t.Earliest = p.second(in)
		}
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
		if r, tie := rinse(p.book, &t, s, people); r != nil {
			ref.Act, ref.Main, ref.Say = ActTouch, id, message.Of("act.rinse").Text
			p.Workload.Tasks, p.Workload.Links = append(p.Workload.Tasks, *r), append(p.Workload.Links, tie)
			p.Tasks[r.ID] = ref
		}
		if k > 0 && s.Batch.Run == kitchen.InTurn {
			p.Workload.Links = append(p.Workload.Links, workload.Link{From: out[k-1], To: id, Kind: workload.FinishStart, Weight: 1})
		}
		out = append(out, id)
	}
	return out, nil
}
