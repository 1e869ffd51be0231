package advise

import (
	"cmp"
	"fmt"
	"iter"
	"slices"
	"strings"
	"time"

	"jointime/core/expand"
	"jointime/core/kitchen"
	"jointime/core/message"
)

// Mend is a change of a service that would help.
type Mend struct {
	ID       string          `json:"id"`
	What     message.Message `json:"what"`
	Costs    message.Message `json:"costs" doc:"What it costs"`
	PriceS   int64           `json:"price_s" doc:"What it costs as the plan weighs things, to rank mends by"`
	SavesS   int64           `json:"saves_s" doc:"Seconds of lateness and of holding that it saves, weighted as the plan weighs them"`
	LateS    int64           `json:"late_s" doc:"Lateness of all joins together with it, seconds"`
	WasS     int64           `json:"was_s" doc:"… and without it"`
	OverS    int64           `json:"over_s" doc:"Waits beyond their longest, together, with it, seconds"`
	OverWasS int64           `json:"over_was_s" doc:"… and without it"`
	// Parts are the mends that together make everything fit.
	Parts []message.Message `json:"parts,omitempty" nullable:"false" doc:"The mends that it is made of, where it is several together"`
	Fits  bool              `json:"fits" doc:"With it everything fits"`
	// Guests is that it asks something of guests: it comes last.
	Guests bool `json:"guests" doc:"It asks something of the guests"`
}

// Candidate is a changed service to be solved again.
type Candidate struct {
	Mend    Mend
	Service kitchen.Service
	// Change makes it of any service that has the same tables.
	Change func(*kitchen.Service)
}

// How much is proposed at the most: tables that are seated at another time, helpers, and
// batches that are shared.
const (
	mostTables  = 4
	mostHelpers = 3
	mostShares  = 8
	mostOfOne   = 3 // … of one component
)

// What a mend costs, in the weighted seconds of the plan: 4 for a second of lateness of a
// table. Common practice, no source; they rank mends and never hide one that helps.
const (
	priceOfGuestMinute = 8   // of a guest who comes sooner, waits, or stays longer
	priceOfHelper      = 500 // a cook away from their own section
	priceOfHands       = 300 // one more at the pass
	priceOfMargin      = 400 // a step that takes longer makes a table late
	priceOfShare       = 60  // two tables hang on one pan
)

// proposals gathers candidates.
type proposals struct {
	service *kitchen.Service
	plan    *expand.EveningPlan
	book    *kitchen.Book
	evening *expand.Evening
	out     []Candidate
}

func (p *proposals) add(id string, what, costs message.Message, price int64, change func(*kitchen.Service)) {
	c := copied(p.service)
	change(&c)
	p.out = append(p.out, Candidate{Mend{ID: id, What: what, Costs: costs, PriceS: price, Guests: strings.HasPrefix(id, "seat:")}, c, change})
}

// copied is a service whose lists can be changed.
func copied(s *kitchen.Service) kitchen.Service {
	c := *s
	c.Tables, c.Shared, c.Helpers, c.Ways = slices.Clone(c.Tables), slices.Clone(c.Shared), slices.Clone(c.Helpers), slices.Clone(c.Ways)
	return c
}

// Candidates proposes changes from what does not fit, the worst first: another pair of
// hands where hands are short, a batch that two tables share, a table some minutes sooner
// or later, one more at the pass, a slower pace, a smaller margin.
func Candidates(b *kitchen.Book, e *expand.Evening, plan *expand.EveningPlan) []Candidate {
	if len(plan.Trouble) == 0 {
		return nil
	}
	p := &proposals{service: e.Service, plan: plan, book: b, evening: e}
	p.helpers()
	p.otherHands()
	p.heats()
	p.stretches()
	p.aheads()
	p.waves()
	p.shares()
	p.seats()
	s := e.Service
	if usual := cmp.Or(s.PlatingHands, b.Kitchen().PlatingHands); s.Kind == kitchen.ALaCarte && usual < min(4, len(b.MayPlate())) {
		p.add(fmt.Sprintf("hands:%d", usual+1), message.Of("mend.hands", "people", usual+1, "usual", usual), message.Of("mend.hands-costs"),
			priceOfHands,
			func(c *kitchen.Service) { c.PlatingHands = usual + 1 })
	}
	courses := max(0, len(b.CoursesOf(s))-1)
	p.add("pace:4", message.Of("mend.pace", "every", s.CourseMin+4, "usual", s.CourseMin), message.Of("mend.pace-costs"),
		int64(4*courses*s.Covers()*priceOfGuestMinute),
		func(c *kitchen.Service) { c.CourseMin += 4 })
	if s.Margin > 0 {
		p.add("margin:0", message.Of("mend.margin"), message.Of("mend.margin-costs"), priceOfMargin, func(c *kitchen.Service) { c.Margin = 0 })
	}
	return p.out
}

// seats moves the tables that are in trouble, and those that keep them, by some minutes.
func (p *proposals) seats() {
	table := map[string]string{}
	for _, j := range p.plan.Joins {
		table[j.ID] = j.Table
	}
	var order []string
	for _, t := range p.plan.Trouble {
		for _, id := range []string{t.Join, causeJoin(t)} {
			if x := table[id]; x != "" && !slices.Contains(order, x) && len(order) < mostTables {
				order = append(order, x)
			}
		}
	}
	for _, id := range order {
		k := slices.IndexFunc(p.service.Tables, func(x kitchen.ServiceTable) bool { return x.ID == id })
		if k < 0 {
			continue
		}
		t := &p.service.Tables[k]
		for _, by := range []int{-10, -5, 5, 10} {
			what, costs, price := message.Of("mend.seat-later", "table", t.Name, "minutes", by), message.Of("mend.seat-later-costs"), by
			if by < 0 {
				what, costs, price = message.Of("mend.seat-sooner", "table", t.Name, "minutes", -by), message.Of("mend.seat-sooner-costs"), -by
			}
			p.add(fmt.Sprintf("seat:%s:%d", id, by), what, costs, int64(price*t.Covers*priceOfGuestMinute),
				func(c *kitchen.Service) { c.Tables[k].SeatedAt = max(0, c.Tables[k].SeatedAt+by) })
		}
	}
}

func causeJoin(t expand.FireTrouble) string {
	if t.Cause == nil {
		return ""
	}
	return t.Cause.Join
}

// helpers lends those whose own hands are least taken to the sections that keep others.
func (p *proposals) helpers() {
	var tried []kitchen.Helper
	for cause := range p.keptByPeople() {
		section := p.evening.SectionOf(cause.Task)
		if section == "" || !p.mayBeHelped(cause.Task) {
			continue
		}
		who, busy := p.leastBusy(section, cause.Until)
		h := kitchen.Helper{Person: who, Section: section}
		if who == "" || slices.Contains(tried, h) {
			continue
		}
		if tried = append(tried, h); len(tried) > mostHelpers {
			return
		}
		person, _ := p.book.Person(who)
		place, _ := p.book.Section(section)
		p.add("helper:"+who+":"+section, message.Of("mend.helper", "who", person.Name, "section", place.Name),
			message.Of("mend.helper-costs", "who", person.Name, "work", message.Minutes(busy)), priceOfHelper,
			func(c *kitchen.Service) { c.Helpers = append(c.Helpers, h) })
	}
}

// keptByPeople are the causes of what is late that are somebody's hands.
func (p *proposals) keptByPeople() iter.Seq[*expand.Cause] {
	return func(yield func(*expand.Cause) bool) {
		for _, t := range p.plan.Trouble {
			if t.Cause != nil && t.Cause.Resource.IsPerson() && !yield(t.Cause) {
				return
			}
		}
	}
}

// around is how long before and after an instant somebody's hands are looked at.
const around = 20 * time.Minute

// leastBusy is the person of another section whose hands are free most around an instant, and for how many seconds they are taken then.
func (p *proposals) leastBusy(section string, at time.Time) (who string, busy int64) {
	from, to := at.Add(-around), at.Add(around)
	for _, x := range p.book.People() {
		if slices.Contains(x.Sections, section) || slices.Contains(p.service.Helpers, kitchen.Helper{Person: x.ID, Section: section}) ||
			x.Away(from) {
			continue
		}
		// Who only runs the pass stays there.
		if onlyPass(p.book, &x) {
			continue
		}
		taken := int64(0)
		for _, l := range p.plan.Loads {
			if l.Of.Part == expand.Hands && l.Of.ID == x.ID {
				taken = handsIn(l, from, to)
			}
		}
		if who == "" || taken < busy {
			who, busy = x.ID, taken
		}
	}
	return who, busy
}

func onlyPass(b *kitchen.Book, x *kitchen.Person) bool {
	for _, id := range x.Sections {
		if s, ok := b.Section(id); ok && !s.Pass {
			return false
		}
	}
	return true
}

// handsIn is how many seconds a load of a person's hands takes between two instants.
func handsIn(l expand.Load, from, to time.Time) int64 {
	busy := int64(0)
	for i, s := range l.Steps {
		end := to
		if i+1 < len(l.Steps) && l.Steps[i+1].At.Before(to) {
			end = l.Steps[i+1].At
		}
		start := s.At
		if start.Before(from) {
			start = from
		}
		if end.After(start) {
			busy += s.Units * int64(end.Sub(start)/time.Second)
		}
	}
	return busy
}

// waveOf is how much of what a component may wait the tables that share a batch may lie
// apart: the rest is left for what comes between. Common practice, no source.
const waveOf = 0.6

// shares proposes that tables have a batch together: of a component that they want for the
// same course, near enough in time for its hold, where one of them is in trouble or keeps
// somebody. Two tables, and as many as one batch can serve.
func (p *proposals) shares() {
	involved := map[string]bool{}
	for _, t := range p.plan.Trouble {
		involved[t.Join] = true
		involved[causeJoin(t)] = true
	}
	causes := map[string]bool{} // components at which somebody or something is kept
	for _, t := range p.plan.Trouble {
		if t.Cause != nil {
			if c, _ := p.stepOf(t.Cause.Task); c != nil {
				causes[c.ID] = true
			}
		}
	}
	type option struct {
		c     *kitchen.Component
		group []*expand.Course
		saved int // seconds of hands
	}
	var list []option
	for _, c := range p.book.Components() {
		if c.Pot != nil {
			continue // it is one pot already
		}
		with := p.coursesWith(&c)
		spare := time.Duration(min(expand.Spare(&c), 6*3600)) * time.Second
		for i, a := range with {
			within := func(share float64) (n int) {
				for _, x := range with[i:] {
					if x.Firing.Table.At.Sub(a.Firing.Table.At) > time.Duration(share*float64(spare)) {
						break
					}
					n++
				}
				return n
			}
			sizes := []int{min(2, within(1))}
			if wave := within(waveOf); wave > 2 {
				sizes = append(sizes, wave)
			}
			for _, size := range sizes {
				group := with[i : i+size]
				if size > 1 && slices.ContainsFunc(group, func(x *expand.Course) bool { return involved[x.ID] }) {
					list = append(list, option{&c, group, handsOf(&c) * (size - 1)})
				}
			}
		}
	}
	slices.SortStableFunc(list, func(x, y option) int {
		return cmp.Or(last(!causes[x.c.ID])-last(!causes[y.c.ID]), cmp.Compare(y.saved, x.saved))
	})
	offered, of := 0, map[string]int{}
	for _, o := range list {
		if offered == mostShares || of[o.c.ID] == mostOfOne {
			continue
		}
		offered++
		of[o.c.ID]++
		var ids, names []string
		for _, x := range o.group {
			ids, names = append(ids, x.Table), append(names, x.Name)
		}
		last := len(names) - 1
		p.add("share:"+o.c.ID+":"+strings.Join(ids, ":"), message.Of("mend.share", "what", o.c.Name, "tables", names[:last], "last", names[last]),
			message.Of("mend.share-costs", "number", len(names)), priceOfShare*int64(last),
			func(c *kitchen.Service) {
				c.Shared = append(c.Shared, kitchen.SharedBatch{ID: freeShare(c, o.c.ID), Component: o.c.ID, Course: o.group[0].Course, Tables: ids})
			})
	}
}

// coursesWith are the table-courses of one course that have a component cooked to order for
// themselves alone, by the clock.
func (p *proposals) coursesWith(c *kitchen.Component) []*expand.Course {
	if len(c.InPhase(kitchen.PickUp)) == 0 {
		return nil
	}
	var out []*expand.Course
	for i := range p.evening.Courses {
		x := &p.evening.Courses[i]
		if x.Round == 0 && expand.Cooks(x, c) && !p.shared(c.ID, x) && (len(out) == 0 || out[0].Course == x.Course) {
			out = append(out, x)
		}
	}
	slices.SortStableFunc(out, func(a, b *expand.Course) int { return a.Firing.Table.At.Compare(b.Firing.Table.At) })
	return out
}

// handsOf is how many seconds of hands a batch of a component takes before its portions count.
func handsOf(c *kitchen.Component) (s int) {
	for _, x := range c.InPhase(kitchen.PickUp) {
		if x.Hands == kitchen.Both {
			s += x.Time.Fixed.Likely
		}
		s += x.Ends.InS + x.Ends.OutS
	}
	return s
}

// freeShare is an id for one more shared batch of a component.
func freeShare(s *kitchen.Service, component string) string {
	for n := 1; ; n++ {
		id := fmt.Sprintf("%.60s-%d", component, n)
		if !slices.ContainsFunc(s.Shared, func(x kitchen.SharedBatch) bool { return x.ID == id }) {
			return id
		}
	}
}

func (p *proposals) shared(component string, x *expand.Course) bool {
	return slices.ContainsFunc(p.service.Shared, func(s kitchen.SharedBatch) bool {
		return s.Component == component && s.Course == x.Course && slices.Contains(s.Tables, x.Table)
	})
}

// Lateness is that of all joins together, seconds.
func Lateness(p *expand.EveningPlan) (s int64) {
	for _, j := range p.Joins {
		s += max(0, j.LateS)
	}
	return s
}

// Overdue is by how much waits go beyond their longest, seconds, all together.
func Overdue(p *expand.EveningPlan) (s int64) {
	for _, t := range p.Trouble {
		if t.Kind == "hold" {
			s += t.ByS
		}
	}
	return s
}

// Worth fills in what a candidate saves, from the plan before and the plan with it;
// helps is false when it saves nothing, or nothing of what does not fit: waits that are shorter by a little mend nothing.
func (c *Candidate) Worth(was, is *expand.EveningPlan) (helps bool) {
	c.Mend.SavesS, c.Mend.LateS, c.Mend.WasS = was.Cost-is.Cost, Lateness(is), Lateness(was)
	c.Mend.OverS, c.Mend.OverWasS = Overdue(is), Overdue(was)
	c.Mend.Fits = len(is.Trouble) == 0
	return c.Mend.SavesS > 0 && (c.Mend.LateS < c.Mend.WasS || c.Mend.OverS < c.Mend.OverWasS)
}

// Rank puts first what makes everything fit, then what saves most beyond what it costs; what asks something of the guests
// comes last.
func Rank(list []Mend) {
	slices.SortStableFunc(list, func(a, b Mend) int {
		return cmp.Or(last(a.Guests)-last(b.Guests), last(!a.Fits)-last(!b.Fits), cmp.Compare(b.SavesS-b.PriceS, a.SavesS-a.PriceS))
	})
}

func last(yes bool) int {
	if yes {
		return 1
	}
	return 0
}
