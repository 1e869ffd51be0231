package expand

import (
	"fmt"
	"slices"
	"time"

	"jointime/core/kitchen"
	"jointime/core/message"
	"jointime/core/plating"
	"jointime/core/workload"
)

// Order is a number of plates of one dish, alike in variant and doneness.
type Order struct {
	Dish     string `json:"dish"`
	Count    int    `json:"count"`
	Variant  string `json:"variant,omitempty"`
	Doneness string `json:"doneness,omitempty" doc:"A guest's wish for how done it is; as written when empty"`
	// Without names what the guests must not have. Their portions are cooked apart, in a pan
	// of their own and begun before the others': the order of work by which kitchens keep
	// allergens away from a plate. Common practice, no source.
	Without []kitchen.Allergen `json:"without,omitempty" nullable:"false"`
	// Diets are what they live by.
	Diets []kitchen.Diet `json:"diets,omitempty" nullable:"false"`
}

// Needs of the guests of an order.
func (o *Order) Needs() kitchen.Needs { return kitchen.Needs{Without: o.Without, Diets: o.Diets} }

// Table is a table-course: plates that come together at one instant.
type Table struct {
	ID     string
	Name   string
	Orders []Order
	At     time.Time
	Hands  int // people who plate, 0 for the kitchen's usual number
}

// Costs of a second, as the workload has them. A table that is early is no better than one that is late: its plates wait at the pass, or
// come to guests who are not ready. A component beyond its best costs least.
const (
	lateWeight  = 4
	earlyWeight = 5
	waitWeight  = 1
	// overHold is for a second beyond a longest wait, where that is not a hard rule.
	overHold = 12
)

// step is where a price grows: so many seconds beyond, each second costs so much more.
type step struct{ beyond, more int64 }

// Prices grow: a minute more of holding costs more the longer it has been, and so does a minute more of lateness, so that
// little goes to many before much goes to one. How fast is the school of the service: what is held too long is spoiled, or
// what is late is. Common practice, no source.
var prices = map[kitchen.School]struct{ late, over []step }{
	kitchen.RatherLate: {late: []step{{300, 2}, {720, 6}}, over: []step{{0, overHold}, {120, 36}, {480, 120}}},
	kitchen.InTime:     {late: []step{{60, 6}, {300, 12}, {720, 24}}, over: []step{{0, overHold / 2}, {300, 12}, {900, 48}}},
	byDeadline:         {late: []step{{OnTimeS, 60}, {300, 120}}, over: []step{{0, 60}, {300, 120}}},
}

// byDeadline is the school of a meal from zero, which nobody chooses: its courses have deadlines, and what merely waits beyond its best is
// no reason to miss one, nor to hold something else too long.
const byDeadline kitchen.School = "by-deadline"

// MaxPlates bounds one table.
const MaxPlates = kitchen.MostAtATable

// TaskRef says what a task of the workload is in the kitchen's terms. It is where the
// meaning of a task's id stands: the id itself is only a name, which a run keeps when
// other batches or tables come or go.
type TaskRef struct {
	Component string   `json:"component,omitempty"`
	Step      string   `json:"step,omitempty"`
	Batch     int      `json:"batch,omitempty"` // from 1
	Of        int      `json:"of,omitempty"`
	Portions  int      `json:"portions"`
	Plating   bool     `json:"plating,omitempty"`
	Racked    bool     `json:"racked,omitempty"`  // the plating that is done ahead
	Apart     bool     `json:"apart,omitempty"`   // for guests who must not have an allergen
	Preheat   bool     `json:"preheat,omitempty"` // the empty pan, before the batch goes in
	Act       Act      `json:"act,omitempty"`     // what it is of its step, when it is not the step itself
	Say       string   `json:"say,omitempty"`     // what a touch does
	Main      string   `json:"main,omitempty"`    // the step's own run, of an act
	Leaves    string   `json:"leaves,omitempty"`  // the run of the portions that an act takes out, where they leave by themselves
	Joins     []string `json:"joins,omitempty"`   // table-courses that it is for
}

// Moment is when a component is needed: Lead seconds before the last plate is
// done.
type Moment struct {
	Component string
	Into      string // of what is not put on the plate, the component that it goes into
	Elements  []int  // their numbers in the first dish that has them
	Dish      string
	Portions  int
	Lead      int
	Apart     bool
}

// Firing is a table as a workload, with what is needed to read the schedule.
type Firing struct {
	Workload *workload.Workload
	Table    Table
	Clock    plating.Clock // at the pass
	Racked   plating.Clock // of what is put on ahead
	StandS   int           // seconds that the plates stand when the last thing is on, for what must set or thaw there
	Tasks    map[string]TaskRef
	Moments  []Moment // in plating order
	Origin   time.Time
	book     *kitchen.Book
	in       *evening // nil for a table by itself
	wants    []*wanted
	plates   []stages
	// Of the workload, which may be that of a whole evening, what has to do with this table.
	tasks []*workload.Task
	links []*workload.Link
}

// wanted is the portions of one component that are cooked together: those of a
// table-course, or of several that share a batch.
type wanted struct {
	component *kitchen.Component
	place     string // what the ids of its runs begin with: its table-course, or its shared batch
	portions  int
	doneness  []string // one for each portion
	plates    []int    // the plate of its table-course that each portion is for
	into      []string // components of the same plates that it goes into
	made      map[string][]batch
	apart     bool
	shares    []portion
}

// key is what is cooked together for one table-course.
type key struct {
	component string
	apart     bool
}

// portion is the run [from, to) of the portions of what is wanted that goes to one table-course.
type portion struct {
	firing   *Firing
	from, to int
}

// NewFiring expands one table. The error is kitchen.Faults with paths into the
// table (`orders[0].dish` …).
func NewFiring(b *kitchen.Book, t Table) (*Firing, error) {
	f, err := newFiring(b, t, nil)
	if err != nil {
		return nil, err
	}
	for _, x := range f.wants {
		if err := f.pickUp(x); err != nil {
			return nil, err
		}
	}
	across([]*Firing{f})
	f.apartFirst()
	f.gather()
	return f, nil
}

// NewSoftFiring is NewFiring with longest waits that are dear, as those of a service are: for a table that cannot keep all of
// them. It weighs what it breaks as a service does, so that the same orders at the same stove have one plan.
func NewSoftFiring(b *kitchen.Book, t Table) (*Firing, error) {
	hard, err := newFiring(b, t, nil)
	if err != nil {
		return nil, err
	}
	in := &evening{origin: hard.Origin, horizon: hard.Workload.Horizon, soft: true, alone: true, dear: map[[2]string]int64{},
		school: kitchen.RatherLate}
	f, err := newFiring(b, t, in)
	if err != nil {
		return nil, err
	}
	f.Workload.Resources = hard.Workload.Resources
	for _, x := range f.wants {
		if err := f.pickUp(x); err != nil {
			return nil, err
		}
	}
	across([]*Firing{f})
	f.apartFirst()
	lateness(f.Workload, &f.Workload.Joins[0], kitchen.RatherLate)
	f.Workload.Joins = append(f.Workload.Joins, workload.Join{ID: clockJoin})
	f.Workload.Fixed = []workload.Fixed{{Join: clockJoin}}
	f.gather()
	return f, nil
}

// early is how the price of a course grows that comes before it is wanted: a minute is nothing, three and the guests still have the last
// one in front of them. Common practice, no source.
var early = []step{{60, 6}, {180, 24}}

// lateness makes a join dearer the later it is, as a service does it, and the earlier.
func lateness(w *workload.Workload, j *workload.Join, school kitchen.School) {
	for _, p := range prices[school].late {
		best := *j.At + p.beyond
		w.Links = append(w.Links, workload.Link{From: clockJoin, To: j.ID, Kind: workload.FinishStart, Best: &best, Weight: p.more})
	}
	for _, p := range early {
		best := p.beyond - *j.At
		w.Links = append(w.Links, workload.Link{From: j.ID, To: clockJoin, Kind: workload.FinishStart, Min: -w.Horizon, Best: &best,
			Weight: p.more})
	}
}

// Overdue lists the waits that go beyond their longest in a plan, the worst first, in sentences.
func (p *Plan) Overdue() (out []message.Message) {
	type over struct {
		name string
		by   int64
		most int
	}
	var list []over
	for _, s := range p.Strands {
		for _, w := range s.Waits {
			if w.Longest != nil && w.ToS-w.FromS-int64(*w.Longest) > 0 {
				list = append(list, over{s.Name, w.ToS - w.FromS - int64(*w.Longest), *w.Longest})
			}
		}
	}
	slices.SortStableFunc(list, func(a, b over) int { return int(b.by - a.by) })
	for _, x := range list {
		out = append(out, message.Of("broken.waits-over", "what", x.name, "most", message.Length(x.most), "by", message.Length(x.by)))
	}
	return out
}

// Keeps reports whether a plan keeps every rule, be it one of those that are weighed.
func (p *Plan) Keeps() bool { return len(p.Broken) == 0 && len(p.Overdue()) == 0 }

// gather picks out of the workload what has to do with this table, when it is complete.
func (f *Firing) gather() {
	for i := range f.Workload.Tasks {
		if t := &f.Workload.Tasks[i]; f.has(t.ID) {
			f.tasks = append(f.tasks, t)
		}
	}
	for i := range f.Workload.Links {
		if l := &f.Workload.Links[i]; f.has(l.From) && f.has(l.To) {
			f.links = append(f.links, l)
		}
	}
}

func (f *Firing) has(task string) bool { _, mine := f.Tasks[task]; return mine }

// evening is what the tables of a service share: where second 0 lies, how long it lasts,
// by how much of its spread a step is taken to be longer than likely, and who lends a hand
// where.
type evening struct {
	origin  time.Time
	horizon int64
	margin  float64
	soft    bool // longest waits are dear, not forbidden
	banquet bool
	alone   bool // one table by itself
	zero    bool // one meal from zero: what has no limit waits for nothing
	helpers []kitchen.Helper
	// stretches of those who help by the clock, and where a minute of the day lies
	stretches map[string][]stretch
	second    func(minute int) int64
	dear      map[[2]string]int64 // see Evening.Hold
	school    kitchen.School
}

// newFiring checks a table, works out its clock and adds its plating. What is cooked for
// it is left in wants.
func newFiring(b *kitchen.Book, t Table, in *evening) (*Firing, error) {
	if t.Hands == 0 {
		t.Hands = b.Kitchen().PlatingHands
	}
	if t.ID == "" {
		t.ID = "table"
	}
	t.At = t.At.In(b.Zone())
	f := &Firing{Table: t, Tasks: map[string]TaskRef{}, book: b, in: in}
	if err := f.collect(); err != nil {
		return nil, err
	}
	back := 2 * time.Hour
	for _, x := range f.wants {
		for _, s := range x.component.InPhase(kitchen.PickUp) {
			w := 0
			for _, a := range s.After {
				w += a.Shortest
			}
			if s.Equipment != nil {
				w += s.Equipment.PreheatS
			}
			back += time.Duration(s.Time.For(x.portions).High+s.Ends.In(x.portions)+s.Ends.Out(x.portions)+w) * time.Second
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
	w.Joins = []workload.Join{{ID: t.ID, Name: t.Name, At: &at, Weight: lateWeight, EarlyWeight: earlyWeight}}
	if err := f.plating(); err != nil {
		return nil, err
	}
	return f, nil
}

// collect adds up what the orders need, in plating order, and checks them.
func (f *Firing) collect() error {
	var faults kitchen.Faults
	say := func(path, key string, facts ...any) { faults = append(faults, kitchen.FaultAt(path, key, facts...)) }
	if f.Table.Hands < 1 || f.Table.Hands > plating.MaxHands {
		say("hands", "fault.pass-people", "low", 1, "high", plating.MaxHands, "got", f.Table.Hands)
	}
	if len(f.Table.Orders) == 0 {
		say("orders", "fault.one-dish")
	}
	total := 0
	var plates []stages
	byKey := map[key]*wanted{}
	for i, o := range f.Table.Orders {
		path := fmt.Sprintf("orders[%d]", i)
		if o.Count < 1 || o.Count > MaxPlates {
			say(path+".count", "fault.line-plates", "low", 1, "high", MaxPlates, "got", o.Count)
			continue
		}
		if total += o.Count; total > MaxPlates {
			say(path+".count", "fault.table-plates", "most", MaxPlates, "got", total)
			continue
		}
		d, ok := f.book.Dish(o.Dish)
		if !ok {
			say(path+".dish", "fault.no-record", "kind", kitchen.DishRecord, "id", o.Dish)
			continue
		}
		elements, err := d.Plate(o.Variant)
		if err != nil {
			faults = append(faults, kitchen.FaultOf(path+".variant", err))
			continue
		}
		if len(elements) == 0 {
			say(path+".dish", "fault.nothing-on-plate", "dish", d.Name)
			continue
		}
		if f.in == nil && !f.book.KnowsWish(elements, o.Doneness) {
			say(path+".doneness", "fault.no-wish", "dish", d.Name, "wish", o.Doneness)
			continue
		}
		staged := stagesOf(d, &o, elements, f.Table.Hands)
		once := map[string]bool{}
		apart := o.Needs().OwnPan()
		for k, e := range elements {
			x := byKey[key{e.Component, apart}]
			if x == nil {
				c, _ := f.book.Component(e.Component)
				x = &wanted{component: c, place: f.Table.ID, apart: apart}
				byKey[key{e.Component, apart}] = x
				f.wants = append(f.wants, x)
				f.Moments = append(f.Moments, Moment{Component: e.Component, Dish: d.ID, Apart: apart})
			}
			if !once[e.Component] {
				once[e.Component] = true
				x.more(o, len(plates))
			}
			for m := range f.Moments {
				if mo := &f.Moments[m]; mo.Component == e.Component && mo.Apart == apart && mo.Dish == d.ID && !slices.Contains(mo.Elements, k+1) {
					mo.Elements = append(mo.Elements, k+1)
				}
			}
		}
		f.madeInto(d, elements, o, len(plates), apart, byKey)
		for range o.Count {
			plates = append(plates, staged)
		}
	}
	if err := faults.Or(); err != nil {
		return err
	}
	if err := f.clocks(plates); err != nil {
		return kitchen.Faults{kitchen.FaultOf("hands", err)}
	}
	for _, x := range f.wants {
		x.shares = []portion{{f, 0, x.portions}}
	}
	for m := range f.Moments {
		mo := &f.Moments[m]
		at := mo
		for at.Into != "" { // what is not on the plate is wanted by what it goes into
			at = &f.Moments[slices.IndexFunc(f.Moments, func(x Moment) bool { return x.Component == at.Into && x.Apart == mo.Apart })]
		}
		mo.Portions, mo.Lead = byKey[key{mo.Component, mo.Apart}].portions, f.Clock.Lead(at.Component)
	}
	return nil
}

// more adds the portions of an order, whose first plate has a number.
func (x *wanted) more(o Order, plate int) {
	x.portions += o.Count
	for n := range o.Count {
		x.doneness = append(x.doneness, o.Doneness)
		x.plates = append(x.plates, plate+n)
	}
}
