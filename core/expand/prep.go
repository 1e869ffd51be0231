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
		for _, id := range cooks(p.book, s.ID) {
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
				hands[k] += length(&s, x.Portions, likely) * int64(s.Hands.Attention()) / 4
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

func (p *Prep) second(t time.Time) int64  { return int64(t.Sub(p.Origin) / time.Second) }
func (p *Prep) instant(s int64) time.Time { return p.Origin.Add(time.Duration(s) * time.Second) }

// busy is when the cooks are in service.
func (p *Prep) busy() []workload.Window {
	var out []workload.Window
	for i := range p.services {
		if len(p.services[i].Tables) > 0 {
			out = append(out, p.during(&p.services[i]))
		}
	}
	return joined(out)
}

// during is how long a service lasts: from its first seating until it is cleared.
func (p *Prep) during(s *kitchen.Service) workload.Window {
	last := 0
	for _, t := range s.Tables {
		last = max(last, t.SeatedAt)
	}
	return workload.Window{From: p.second(s.At(s.Starts(), p.zone)), To: p.second(s.At(last, p.zone).Add(cleared))}
}

// inService is when a piece of equipment is kept for the services whose dishes need it to
// order: what is braised by itself does not stand in the oven that the evening wants.
func (p *Prep) inService(id string) []workload.Window {
	var out []workload.Window
	for i := range p.services {
		s := &p.services[i]
		if len(s.Tables) > 0 && slices.ContainsFunc(s.Menu, func(m kitchen.MenuLine) bool { return p.ordersOn(m.Dish, id) }) {
			out = append(out, p.during(s))
		}
	}
	return joined(out)
}

// ordersOn reports whether something of a dish is made to order on a piece of equipment.
func (p *Prep) ordersOn(dish, id string) bool {
	d, _ := p.book.Dish(dish)
	for _, e := range d.Specification.Elements {
		c, _ := p.book.Component(e.Component)
		for _, s := range c.InPhase(kitchen.PickUp) {
			if s.Equipment == nil {
				continue
			}
			if ids, _ := equipment(p.book, s.Equipment.Kind, s.Equipment.SetpointC); slices.Contains(ids, id) {
				return true
			}
		}
	}
	return false
}

// without cuts busy times out of windows; both are sorted and do not overlap.
func without(ws, busy []workload.Window) []workload.Window {
	out := []workload.Window{}
	for _, w := range ws {
		for _, b := range busy {
			if b.To <= w.From || b.From >= w.To {
				continue
			}
			if b.From > w.From {
				out = append(out, workload.Window{From: w.From, To: b.From, Capacity: w.Capacity})
			}
			w.From = b.To
		}
		if w.From < w.To {
			out = append(out, w)
		}
	}
	return out
}

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
	needs, err := needsOf(p.book, cooks(p.book, c.SectionOf(s)), c, s)
	if err != nil {
		return nil, err
	}
	parts := s.Batch.Split(x.Portions)
	var out []string
	for k, n := range parts {
		id := TaskID(x.ID, s.ID, k+1)
		p.Workload.Tasks = append(p.Workload.Tasks, workload.Task{ID: id, Name: c.Name + ": " + s.Name, Seconds: int64(s.Time.For(n).Likely),
			Needs: needs})
		p.Tasks[id] = PrepRef{Batch: batch, Step: s.ID, Part: k + 1, Of: len(parts)}
		if k > 0 && s.Batch.Run == kitchen.InTurn {
			p.Workload.Links = append(p.Workload.Links, workload.Link{From: out[k-1], To: id, Kind: workload.FinishStart, Weight: 1})
		}
		out = append(out, id)
	}
	return out, nil
}

func (p *Prep) link(from, to string, w kitchen.Wait) {
	best := int64(w.Shortest)
	if w.Best != nil {
		best = int64(*w.Best)
	}
	p.Workload.Links = append(p.Workload.Links, workload.Link{From: from, To: to, Kind: workload.FinishStart, Min: int64(w.Shortest),
		Best: &best, Weight: staleBatch})
	if w.Longest != nil {
		p.atMost(from, to, int64(*w.Longest))
	}
}

// atMost makes every second of a wait beyond a length dear.
func (p *Prep) atMost(from, to string, seconds int64) {
	p.Workload.Links = append(p.Workload.Links, workload.Link{From: from, To: to, Kind: workload.FinishStart, Best: &seconds,
		Weight: overWait})
}

// between ties batches that go into each other: what a batch uses is made before it, and
// what one leaves over comes before the batch that it goes into, for the same service.
func (p *Prep) between() {
	ends := func(i int, first bool) (ids []string) {
		linked := map[string]bool{}
		for _, l := range p.Workload.Links {
			if first {
				linked[l.To] = true
			} else if _, task := p.Tasks[l.To]; task {
				linked[l.From] = true
			}
		}
		for _, t := range p.Workload.Tasks {
			if p.Tasks[t.ID].Batch == i && !linked[t.ID] {
				ids = append(ids, t.ID)
			}
		}
		return ids
	}
	type pair struct{ from, to int }
	var uses, leaves []pair
	byNumber := map[string]int{}
	for i, x := range p.Amounts.Batches {
		byNumber[fmt.Sprintf("%s %d", x.Component, x.Number)] = i
	}
	for i, x := range p.Amounts.Batches {
		for _, part := range x.For {
			if d := p.Amounts.Draws[part.Draw]; d.ByBatch > 0 {
				uses = append(uses, pair{i, byNumber[fmt.Sprintf("%s %d", d.By, d.ByBatch)]})
			}
		}
		c, _ := p.book.Component(x.Component)
		for _, by := range c.ByProducts {
			for k, y := range p.Amounts.Batches {
				if y.Component == by.Component && x.Service == y.Service && x.OfService == 1 && y.OfService == 1 {
					leaves = append(leaves, pair{i, k})
				}
			}
		}
	}
	var links []workload.Link
	for _, u := range uses {
		shelf, _ := p.book.Component(p.Amounts.Batches[u.from].Component)
		for _, a := range ends(u.from, false) {
			for _, b := range ends(u.to, true) {
				zero := int64(0)
				links = append(links, workload.Link{From: a, To: b, Kind: workload.FinishStart, Best: &zero, Weight: staleBatch})
				if shelf.ShelfLifeH > 0 {
					most := int64(shelf.ShelfLifeH * 3600)
					links = append(links, workload.Link{From: a, To: b, Kind: workload.FinishStart, Best: &most, Weight: overWait})
				}
			}
		}
	}
	for _, u := range leaves {
		for _, a := range ends(u.from, true) {
			for _, b := range ends(u.to, true) {
				links = append(links, workload.Link{From: a, To: b, Kind: workload.FinishStart, Weight: 1})
			}
		}
	}
	p.Workload.Links = append(p.Workload.Links, links...)
}

// ticked fixes what is done. A step that nobody stands at began by itself when what it
// comes after was done.
func (p *Prep) ticked() {
	ended := map[string]int64{}
	begun := map[string]bool{}
	for _, t := range p.Workload.Tasks {
		if d, ok := p.done[t.ID]; ok {
			at := min(p.second(d.At), *p.Workload.Now)
			p.fix(&t, at-t.Seconds, &at)
			ended[t.ID] = at
			begun[t.ID] = true
		}
	}
	before := map[string][]workload.Link{}
	for _, l := range p.Workload.Links {
		before[l.To] = append(before[l.To], l)
	}
	for _, t := range p.Workload.Tasks {
		ref := p.Tasks[t.ID]
		c, _ := p.book.Component(p.Amounts.Batches[ref.Batch].Component)
		if begun[t.ID] || c.Steps[c.StepIndex(ref.Step)].Hands != kitchen.None || len(before[t.ID]) == 0 {
			continue
		}
		start, all := int64(-1), true
		for _, l := range before[t.ID] {
			end, ok := ended[l.From]
			all = all && ok
			start = max(start, end+l.Min)
		}
		if all && start <= *p.Workload.Now {
			p.fix(&t, start, nil)
			begun[t.ID] = true
			if start+t.Seconds <= *p.Workload.Now {
				ended[t.ID] = start + t.Seconds
			}
		}
	}
}

func (p *Prep) fix(t *workload.Task, start int64, finish *int64) {
	f := workload.Fixed{Task: t.ID, Start: start, Finish: finish}
	if finish == nil && start+t.Seconds <= *p.Workload.Now {
		end := start + t.Seconds
		f.Finish = &end
	}
	for _, n := range t.Needs {
		f.Resources = append(f.Resources, n.AnyOf[0])
	}
	p.Workload.Fixed = append(p.Workload.Fixed, f)
}

// spans works out for every batch when it has to be begun at the latest, and when it
// could be ready from now on, by the steps, the waits and the people's calendar alone.
func (p *Prep) spans() {
	fixed := p.Workload.FixedTasks()
	for i := range p.Amounts.Batches {
		x := &p.Amounts.Batches[i]
		c, _ := p.book.Component(x.Component)
		steps := c.InPhase(kitchen.Ahead)
		latest := map[string]int64{}
		begin := p.second(x.NeedBy)
		for k := len(steps) - 1; k >= 0; k-- {
			s := &steps[k]
			end := p.second(x.NeedBy)
			for _, after := range steps {
				for _, a := range after.After {
					if a.Step == s.ID {
						end = min(end, latest[after.ID]-int64(a.Shortest))
					}
				}
			}
			latest[s.ID] = p.fit(c, s, end-length(s, x.Portions, likely), x.Portions, likely, false)
			begin = min(begin, latest[s.ID])
		}
		p.StartBy = append(p.StartBy, p.instant(begin))
		ready := func(pick func(kitchen.Estimate) int) time.Time {
			finish := map[string]int64{}
			last := *p.Workload.Now
			for k := range steps {
				s := &steps[k]
				if f := fixed[TaskID(x.ID, s.ID, 1)]; f != nil {
					finish[s.ID] = f.Start + length(s, x.Portions, pick)
					if f.Finish != nil {
						finish[s.ID] = *f.Finish
					}
					last = max(last, finish[s.ID])
					continue
				}
				start := *p.Workload.Now
				for _, a := range s.After {
					start = max(start, finish[a.Step]+int64(a.Shortest))
				}
				finish[s.ID] = p.fit(c, s, start, x.Portions, pick, true) + length(s, x.Portions, pick)
				last = max(last, finish[s.ID])
			}
			return p.instant(last)
		}
		p.EarliestReady = append(p.EarliestReady, ready(likely))
		p.QuickReady = append(p.QuickReady, ready(func(e kitchen.Estimate) int { return e.Low }))
	}
}

func likely(e kitchen.Estimate) int { return e.Likely }

// length is how long a step takes for all portions of a batch when its runs follow each
// other or stand side by side.
func length(s *kitchen.Step, portions int, pick func(kitchen.Estimate) int) int64 {
	total, most := 0, 0
	for _, n := range s.Batch.Split(portions) {
		t := pick(s.Time.For(n))
		total += t
		most = max(most, t)
	}
	if s.Batch != nil && s.Batch.Run == kitchen.InTurn {
		return int64(total)
	}
	return int64(most)
}

// fit moves the start of a step that takes hands into the hours of its section: to the
// first time from start on, or (backwards) to the last time up to it. Where no hours fit
// it stays where it is.
func (p *Prep) fit(c *kitchen.Component, s *kitchen.Step, start int64, portions int, pick func(kitchen.Estimate) int, forward bool) int64 {
	if s.Hands == kitchen.None {
		return start
	}
	long := length(s, portions, pick)
	ws := p.calendars[c.SectionOf(s)]
	if forward {
		for _, w := range ws {
			if at := max(start, w.From); at+long <= w.To {
				return at
			}
		}
		return start
	}
	for _, w := range slices.Backward(ws) {
		if at := min(start, w.To-long); at >= w.From {
			return at
		}
	}
	return start
}
