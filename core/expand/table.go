package expand

import (
	"fmt"
	"strconv"
	"strings"
	"time"

	"jointime/core/kitchen"
	"jointime/core/plating"
	"jointime/core/workload"
)

// Order is a number of plates of one dish, alike in variant and doneness.
type Order struct {
	Dish     string `json:"dish"`
	Count    int    `json:"count"`
	Variant  string `json:"variant,omitempty"`
	Doneness string `json:"doneness,omitempty" doc:"A guest's wish for how done it is; as written when empty"`
}

// Table is a table-course: plates that come together at one instant.
type Table struct {
	ID     string
	Name   string
	Orders []Order
	At     time.Time
	Hands  int // people who plate, 0 for the kitchen's usual number
}

// Costs of a second, as the workload has them. A late table costs most; an early
// one waits at the pass; a component beyond its best costs least.
const (
	lateWeight  = 4
	earlyWeight = 4
	waitWeight  = 1
	// overHold is for a second beyond a longest wait, where that is not a hard rule.
	overHold = 12
)

// MaxPlates bounds one table.
const MaxPlates = 60

// TaskRef says what a task of the workload is in the kitchen's terms.
type TaskRef struct {
	Component string
	Step      string
	Batch     int // from 1
	Of        int
	Portions  int
	Plating   bool
}

// Moment is when a component is needed: Lead seconds before the last plate is
// done.
type Moment struct {
	Component string
	Elements  []int // their numbers in the first dish that has them
	Dish      string
	Portions  int
	Lead      int
}

// Firing is a table as a workload, with what is needed to read the schedule.
type Firing struct {
	Workload *workload.Workload
	Table    Table
	Clock    plating.Clock
	Tasks    map[string]TaskRef
	Moments  []Moment // in plating order
	Origin   time.Time
	book     *kitchen.Book
	in       *evening // nil for a table by itself
}

// wanted is one component's share of a table.
type wanted struct {
	component *kitchen.Component
	portions  int
	doneness  []string // one for each portion
}

// NewFiring expands one table. The error is kitchen.Faults with paths into the
// table (`orders[0].dish` …).
func NewFiring(b *kitchen.Book, t Table) (*Firing, error) { return newFiring(b, t, nil, 0) }

// evening is what the tables of a service share: where second 0 lies, how long it lasts,
// and by how much of its spread a step is taken to be longer than likely.
type evening struct {
	origin  time.Time
	horizon int64
	margin  float64
	soft    bool // longest waits are dear, not forbidden
}

func newFiring(b *kitchen.Book, t Table, in *evening, earlyJoin int64) (*Firing, error) {
	if t.Hands == 0 {
		t.Hands = b.Kitchen().PlatingHands
	}
	if t.ID == "" {
		t.ID = "table"
	}
	if zone, err := time.LoadLocation(b.Kitchen().TimeZone); err == nil {
		t.At = t.At.In(zone)
	}
	f := &Firing{Table: t, Tasks: map[string]TaskRef{}, book: b, in: in}
	list, err := f.collect()
	if err != nil {
		return nil, err
	}
	back := 2 * time.Hour
	for _, x := range list {
		for _, s := range x.component.InPhase(kitchen.PickUp) {
			w := 0
			for _, a := range s.After {
				w += a.Shortest
			}
			back += time.Duration(s.Time.For(x.portions).High+w) * time.Second
		}
	}
	f.Origin = t.At.Add(-back).Truncate(time.Minute)
	if in != nil {
		f.Origin = in.origin
	}
	at := int64(t.At.Sub(f.Origin) / time.Second)
	w := &workload.Workload{Objective: workload.Joins, Origin: f.Origin.Format(time.RFC3339), Horizon: at + 6*3600}
	f.Workload = w
	if in == nil {
		w.Resources = resources(b, f.Origin, w.Horizon)
	}
	w.Joins = []workload.Join{{ID: t.ID, Name: t.Name, At: &at, Weight: lateWeight, EarlyWeight: earlyWeight, Earliest: earlyJoin}}
	if err := f.plating(list); err != nil {
		return nil, err
	}
	for _, x := range list {
		if err := f.pickUp(x); err != nil {
			return nil, err
		}
	}
	return f, nil
}

// collect adds up what the orders need, in plating order, and checks them.
func (f *Firing) collect() ([]*wanted, error) {
	var faults kitchen.Faults
	say := func(path, format string, args ...any) {
		faults = append(faults, kitchen.Fault{Path: path, Message: fmt.Sprintf(format, args...)})
	}
	if f.Table.Hands < 1 || f.Table.Hands > plating.MaxHands {
		say("hands", "expected 1 to %d people, got %d", plating.MaxHands, f.Table.Hands)
	}
	if len(f.Table.Orders) == 0 {
		say("orders", "expected at least one dish")
	}
	total := 0
	var plates [][]plating.Job
	var list []*wanted
	byID := map[string]*wanted{}
	for i, o := range f.Table.Orders {
		path := fmt.Sprintf("orders[%d]", i)
		if o.Count < 1 || o.Count > MaxPlates {
			say(path+".count", "expected 1 to %d plates, got %d", MaxPlates, o.Count)
			continue
		}
		if total += o.Count; total > MaxPlates {
			say(path+".count", "expected at most %d plates at one table, got %d", MaxPlates, total)
			continue
		}
		d, ok := f.book.Dish(o.Dish)
		if !ok {
			say(path+".dish", "no dish has the id %q", o.Dish)
			continue
		}
		elements, err := d.Plate(o.Variant)
		if err != nil {
			say(path+".variant", "%s", err)
			continue
		}
		if len(elements) == 0 {
			say(path+".dish", "%s has nothing on its plate yet", d.Name)
			continue
		}
		var jobs []plating.Job
		once := map[string]bool{}
		for k, e := range elements {
			jobs = append(jobs, plating.Job{Key: e.Component, Seconds: e.Seconds, Hands: min(e.Hands, f.Table.Hands)})
			x := byID[e.Component]
			if x == nil {
				c, _ := f.book.Component(e.Component)
				x = &wanted{component: c}
				byID[e.Component] = x
				list = append(list, x)
				f.Moments = append(f.Moments, Moment{Component: e.Component, Dish: d.ID})
			}
			if !once[e.Component] {
				once[e.Component] = true
				x.portions += o.Count
				for range o.Count {
					x.doneness = append(x.doneness, o.Doneness)
				}
			}
			for m := range f.Moments {
				if mo := &f.Moments[m]; mo.Component == e.Component && mo.Dish == d.ID && !containsInt(mo.Elements, k+1) {
					mo.Elements = append(mo.Elements, k+1)
				}
			}
		}
		for range o.Count {
			plates = append(plates, jobs)
		}
	}
	if err := faults.Or(); err != nil {
		return nil, err
	}
	clock, err := plating.NewClock(plates, f.Table.Hands)
	if err != nil {
		return nil, kitchen.Faults{{Path: "hands", Message: err.Error()}}
	}
	f.Clock = clock
	for m := range f.Moments {
		mo := &f.Moments[m]
		mo.Portions, mo.Lead = byID[mo.Component].portions, clock.Lead(mo.Component)
	}
	return list, nil
}

func containsInt(list []int, v int) bool {
	for _, x := range list {
		if x == v {
			return true
		}
	}
	return false
}

func (f *Firing) platingID() string { return f.Table.ID + "/plating" }

// plating adds the task that takes the pass and its people.
func (f *Firing) plating(list []*wanted) error {
	plates := 0
	for _, o := range f.Table.Orders {
		plates += o.Count
	}
	t := workload.Task{ID: f.platingID(), Name: "Plating", Seconds: int64(f.Clock.Seconds)}
	var people []string
	for _, p := range f.book.MayPlate() {
		people = append(people, "person/"+p.ID)
	}
	if len(people) < f.Table.Hands {
		return kitchen.Faults{{Path: "hands", Message: fmt.Sprintf("%d people may plate, %d are wanted", len(people), f.Table.Hands)}}
	}
	for range f.Table.Hands {
		t.Needs = append(t.Needs, workload.Need{AnyOf: people, Units: 4})
	}
	if pass, room := equipment(f.book, kitchen.Pass, nil); len(pass) > 0 {
		t.Needs = append(t.Needs, workload.Need{AnyOf: pass, Units: int64(min(plates, room))})
	}
	f.Workload.Tasks = append(f.Workload.Tasks, t)
	f.Tasks[t.ID] = TaskRef{Plating: true, Portions: plates}
	zero := int64(0)
	f.Workload.Links = append(f.Workload.Links, workload.Link{From: t.ID, To: f.Table.ID, Kind: workload.FinishStart, Max: &zero, Weight: 1})
	return nil
}

// equipment lists the pieces of a kind that reach a setpoint, and the room of the
// largest.
func equipment(b *kitchen.Book, kind kitchen.EquipmentKind, setpoint *float64) (ids []string, room int) {
	for _, e := range b.Equipment() {
		if e.Kind != kind {
			continue
		}
		if t := e.Thermostat; t != nil && setpoint != nil && (*setpoint < t.LowC || *setpoint > t.HighC) {
			continue
		}
		ids = append(ids, "equipment/"+e.ID)
		room = max(room, e.Capacity)
	}
	return ids, room
}

// cooks lists the people of a section.
func cooks(b *kitchen.Book, section string) []string {
	var out []string
	for _, p := range b.People() {
		for _, s := range p.Sections {
			if s == section {
				out = append(out, "person/"+p.ID)
			}
		}
	}
	return out
}

// batch is a run of portions [from, to) that goes through a step together.
type batch struct {
	id       string
	from, to int
}

// pickUp adds a component's pick-up steps in batches, their waits, and the wait
// to the component's moment in the plating clock.
func (f *Firing) pickUp(x *wanted) error {
	steps := x.component.InPhase(kitchen.PickUp)
	batches := map[string][]batch{}
	followed := map[string]bool{}
	for i := range steps {
		s := &steps[i]
		bs, err := f.batches(x, s)
		if err != nil {
			return err
		}
		batches[s.ID] = bs
		for _, a := range s.After {
			before, toOrder := batches[a.Step]
			if !toOrder {
				continue // made ahead: it is on hand
			}
			followed[a.Step] = true
			for _, p := range before {
				for _, q := range bs {
					if p.from < q.to && q.from < p.to {
						f.link(p.id, q.id, a.Wait, 0)
					}
				}
			}
		}
	}
	offset := f.Clock.First[x.component.ID]
	for i := range steps {
		if !followed[steps[i].ID] {
			for _, p := range batches[steps[i].ID] {
				f.link(p.id, f.platingID(), x.component.Hold, offset)
			}
		}
	}
	return nil
}

// link adds a wait from the finish of one task to the start of another, less an
// offset: the moment the plating clock needs the component lies that much after
// the plating's start.
func (f *Firing) link(from, to string, w kitchen.Wait, offset int) {
	l := workload.Link{From: from, To: to, Kind: workload.FinishStart, Min: int64(w.Shortest - offset), Weight: waitWeight}
	if w.Longest != nil {
		v := int64(*w.Longest - offset)
		if f.in == nil || !f.in.soft {
			l.Max = &v
		} else {
			// A whole service is wanted even where one wait gets too long; then that is said.
			f.Workload.Links = append(f.Workload.Links, workload.Link{From: from, To: to, Kind: workload.FinishStart, Min: l.Min, Best: &v, Weight: overHold})
		}
	}
	best := w.Best
	if best == nil && (w.Longest == nil || f.in != nil && f.in.soft) {
		// Nobody said how long it may wait: fired no sooner than it must be.
		best = &w.Shortest
	}
	if best != nil {
		v := int64(*best - offset)
		l.Best = &v
	}
	f.Workload.Links = append(f.Workload.Links, l)
}

// batches adds the tasks of one step and returns them with the portions they hold.
func (f *Firing) batches(x *wanted, s *kitchen.Step) ([]batch, error) {
	section := x.component.SectionOf(s)
	var needs []workload.Need
	if n := s.Hands.Attention(); n > 0 {
		people := cooks(f.book, section)
		if len(people) == 0 {
			return nil, kitchen.Faults{{Path: "sections." + section, Message: fmt.Sprintf("nobody works in the section that has to do %q (%s)", s.Name, x.component.Name)}}
		}
		needs = append(needs, workload.Need{AnyOf: people, Units: int64(n)})
	}
	if e := s.Equipment; e != nil {
		ids, _ := equipment(f.book, e.Kind, e.SetpointC)
		if len(ids) == 0 {
			return nil, kitchen.Faults{{Path: "equipment", Message: fmt.Sprintf("the kitchen has no %s for %q (%s)", e.Kind, s.Name, x.component.Name)}}
		}
		needs = append(needs, workload.Need{AnyOf: ids, Units: int64(e.Units), SetpointC: e.SetpointC})
	}
	parts := s.Batch.Split(x.portions)
	var out []batch
	at := 0
	for i, n := range parts {
		id := f.Table.ID + "/" + x.component.ID + "/" + s.ID
		if len(parts) > 1 {
			id += "/" + strconv.Itoa(i+1)
		}
		seconds := f.length(s.Time.For(n)) + extra(s, x.doneness[at:at+n])
		f.Workload.Tasks = append(f.Workload.Tasks, workload.Task{
			ID: id, Name: x.component.Name + ": " + s.Name, Seconds: int64(max(seconds, 0)), Needs: needs,
		})
		f.Tasks[id] = TaskRef{Component: x.component.ID, Step: s.ID, Batch: i + 1, Of: len(parts), Portions: n}
		if i > 0 && s.Batch.Run == kitchen.InTurn {
			f.Workload.Links = append(f.Workload.Links, workload.Link{From: out[i-1].id, To: id, Kind: workload.FinishStart, Weight: 1})
		}
		out = append(out, batch{id, at, at + n})
		at += n
	}
	return out, nil
}

// length is how long a step is taken to be: the likely time, and with a margin as much
// of the way to what it takes in nine cases of ten (mean and deviation of a three-point
// time after PERT: Malcolm, Roseboom, Clark & Fazar, Operations Research 7, 1959).
func (f *Firing) length(e kitchen.Estimate) int {
	if f.in == nil || f.in.margin <= 0 {
		return e.Likely
	}
	mean, dev := float64(e.Low+4*e.Likely+e.High)/6, float64(e.High-e.Low)/6
	safe := min(float64(e.High), mean+1.2816*dev)
	return e.Likely + int(f.in.margin*max(0, safe-float64(e.Likely)))
}

// extra is how much longer (or shorter) a batch takes for its guests' wishes: the
// longest of them, since they lie in the same pan.
func extra(s *kitchen.Step, wishes []string) int {
	out, first := 0, true
	for _, w := range wishes {
		d := 0
		for _, v := range s.Doneness {
			if strings.EqualFold(v.Name, w) {
				d = v.Seconds
			}
		}
		if first || d > out {
			out, first = d, false
		}
	}
	return out
}

// resources makes the people (in quarters of attention, in their hours) and the
// equipment of a book into resources of a workload that starts at origin.
func resources(b *kitchen.Book, origin time.Time, horizon int64) []workload.Resource {
	var out []workload.Resource
	for _, p := range b.People() {
		out = append(out, workload.Resource{ID: "person/" + p.ID, Name: p.Name, Capacity: 4,
			HasWindows: true, Windows: windows(b.Kitchen(), &p, origin, horizon)})
	}
	for _, e := range b.Equipment() {
		r := workload.Resource{ID: "equipment/" + e.ID, Name: e.Name, Capacity: int64(e.Capacity)}
		if t := e.Thermostat; t != nil {
			r.Thermostat = &workload.Thermostat{StartC: t.StandbyC, HeatCPerMin: t.HeatCPerMin, CoolCPerMin: t.CoolCPerMin, ToleranceC: t.ToleranceC}
		}
		out = append(out, r)
	}
	return out
}

// windows lays a person's weekly hours over the days from origin to the horizon, in the
// kitchen's time zone. Hours that run into each other are joined.
func windows(k kitchen.Kitchen, p *kitchen.Person, origin time.Time, horizon int64) []workload.Window {
	zone, err := time.LoadLocation(k.TimeZone)
	if err != nil {
		zone = time.UTC // a Book has a zone that loads
	}
	local := origin.In(zone)
	var out []workload.Window
	for d := -2; ; d++ {
		day := time.Date(local.Year(), local.Month(), local.Day()+d, 0, 0, 0, 0, zone)
		if int64(day.Sub(origin)/time.Second) > horizon {
			break
		}
		if p.Away(day) {
			continue
		}
		for _, h := range p.Hours {
			if h.Day != int(day.Weekday()) {
				continue
			}
			// Wall-clock minutes, so that a night of changing clocks has the hours that
			// the clock on the wall shows.
			at := func(min int) int64 {
				t := time.Date(day.Year(), day.Month(), day.Day(), 0, min, 0, 0, zone)
				return int64(t.Sub(origin) / time.Second)
			}
			from, to := at(h.From), at(h.To)
			if from >= to {
				continue
			}
			out = append(out, workload.Window{From: from, To: to, Capacity: 4})
		}
	}
	return joined(out)
}
