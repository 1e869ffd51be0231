package lookback

import (
	"cmp"
	"math"
	"slices"
	"time"

	"jointime/core/service"
)

// What lateness began with. From a late course it is led back along what really kept each step waiting: the step before it that was done
// last, if it began as soon as that was done; else the hands or the place that something else had until then; else it was begun late of
// itself. What a step took longer than written counts for that step, what it was begun later without a reason for its cook.

// What lateness begins with.
const (
	Longer   = "longer"    // a step took longer than written
	BegunOff = "begun"     // a step could have begun, and was begun later
	Again    = "again"     // a batch was made again
	Hands    = "hands"     // hands or a place had something else, which was late itself
	Plating  = "plating"   // all was there, and it left later
	Planned  = "planned"   // the plan had it late already
	Before   = "before"    // the table's course before it was late
	NotKnown = "not-known" // nobody said what happened
)

// Reason is something that lateness began with.
type Reason struct {
	Kind      string   `json:"kind" enum:"longer,begun,again,hands,plating,planned,before,not-known"`
	Component string   `json:"component,omitempty"`
	What      string   `json:"what,omitempty"`
	Act       string   `json:"act,omitempty"`
	Section   string   `json:"section,omitempty"`
	People    []string `json:"people,omitempty" nullable:"false" doc:"By name"`
	S         float64  `json:"s" doc:"So much of the lateness, seconds"`
	Share     float64  `json:"share" doc:"Of all lateness that is led back"`
}

// atOnce is how long after what it waited for a step may begin and still count as begun at once, seconds; alike is how much a step may be
// off without a word. Common practice, no source.
const (
	atOnce = 45.0
	alike  = 20.0
)

// explain leads the lateness of every late course back to what it began with.
func (n *Night) explain() {
	x := &explainer{n: n, at: map[string]*RealStep{}}
	for i := range n.Steps {
		x.at[n.Steps[i].Task] = &n.Steps[i]
	}
	all, sum := map[string]*Reason{}, 0.0
	for i := range n.Joins {
		j := &n.Joins[i]
		if j.SentAt == nil || j.LateS <= graceS {
			continue
		}
		j.Why = shares(x.why(i))
		for _, c := range j.Why {
			key := c.Kind + "\x00" + c.Component + "\x00" + c.Act + "\x00" + c.Section
			if all[key] == nil {
				o := c
				o.S = 0
				all[key] = &o
			}
			all[key].S += c.S
			sum += c.S
		}
	}
	for _, c := range all {
		c.Share = c.S / sum
		n.Causes = append(n.Causes, *c)
	}
	slices.SortFunc(n.Causes, func(a, b Reason) int {
		return cmp.Or(cmp.Compare(b.S, a.S), cmp.Compare(a.Kind, b.Kind), cmp.Compare(a.Component, b.Component), cmp.Compare(a.Act, b.Act))
	})
}

// shares gives causes their shares, the most first, and drops what is next to nothing.
func shares(list []Reason) []Reason {
	sum := 0.0
	for _, c := range list {
		sum += c.S
	}
	out := []Reason{}
	for _, c := range list {
		if c.Share = c.S / math.Max(1, sum); c.Share > 0.02 {
			out = append(out, c)
		}
	}
	slices.SortStableFunc(out, func(a, b Reason) int { return cmp.Compare(b.S, a.S) })
	return out
}

type explainer struct {
	n  *Night
	at map[string]*RealStep
}

// why is what a late course's lateness began with, in seconds that add up to it.
func (x *explainer) why(i int) (out []Reason) {
	j := &x.n.Joins[i]
	left := j.LateS
	take := func(c Reason, s float64) {
		if s = math.Min(s, left); s > 0 {
			c.S = s
			out = append(out, c)
			left -= s
		}
	}
	if planned := j.PlanAt.Sub(j.WantedAt).Seconds(); planned > alike {
		take(Reason{Kind: Planned}, planned)
	}
	last := x.last(j.TableCourse)
	if last == nil {
		take(Reason{Kind: NotKnown}, left)
		return out
	}
	end, _ := last.EndsAt()
	gap := j.PlanAt.Sub(last.PlannedAt.Add(time.Duration(last.PlannedS * float64(time.Second)))).Seconds()
	after := j.SentAt.Sub(end).Seconds() - math.Max(0, gap)
	if k := x.before(j); k >= 0 && x.n.Joins[k].LateS > graceS && after > alike { // it kept its pace behind a course that was late
		take(Reason{Kind: Before}, after)
	} else if after > alike {
		take(Reason{Kind: Plating}, after)
	}
	x.back(last, take, map[*RealStep]bool{})
	take(Reason{Kind: NotKnown}, left)
	return out
}

// last is the step for a course that was done last, as far as that was said.
func (x *explainer) last(c service.TableCourse) (last *RealStep) {
	var when time.Time
	for i := range x.n.Steps {
		s := &x.n.Steps[i]
		if at, said := s.EndsAt(); said && slices.Contains(s.Joins, c) && at.After(when) {
			last, when = s, at
		}
	}
	return last
}

// before is the course of the same table before one, −1 for none.
func (x *explainer) before(j *RealJoin) int {
	best := -1
	for k := range x.n.Joins {
		o := &x.n.Joins[k]
		if o.Table == j.Table && o.PlanAt.Before(j.PlanAt) && o.SentAt != nil && (best < 0 || o.PlanAt.After(x.n.Joins[best].PlanAt)) {
			best = k
		}
	}
	return best
}

// back leads the lateness of a step back.
func (x *explainer) back(s *RealStep, take func(Reason, float64), seen map[*RealStep]bool) {
	for s != nil && !seen[s] {
		seen[s] = true
		c := Reason{Component: s.Component, What: s.What, Act: s.Act, Section: s.Section, People: s.People}
		if s.Again > 0 {
			c.Kind = Again
			take(c, *s.RealS-s.PlannedS)
		} else if longer := *s.RealS - s.PlannedS; longer > alike {
			c.Kind = Longer
			take(c, longer)
		}
		late := s.At.Sub(s.PlannedAt).Seconds()
		if late <= alike {
			return
		}
		next, kind := x.keptBy(s)
		if next == nil {
			c.Kind = BegunOff
			take(c, late)
			return
		}
		end, _ := next.EndsAt()
		if idle := s.At.Sub(end).Seconds(); idle > alike {
			c.Kind = BegunOff
			take(c, math.Min(idle, late))
		}
		if kind == Hands && end.Sub(next.PlannedAt.Add(time.Duration(next.PlannedS*float64(time.Second)))).Seconds() <= alike {
			c.Kind = Hands // they had it as planned
			take(c, late)
			return
		}
		s = next
	}
}

// keptBy is what a step that began late waited for: the last of what has to be done before it, or else whoever had its hands or its place
// until just before it began.
func (x *explainer) keptBy(s *RealStep) (by *RealStep, kind string) {
	var when time.Time
	look := func(o *RealStep) bool {
		end, said := o.EndsAt()
		return said && o != s && o.At.Before(*s.At) && !end.After(s.At.Add(time.Duration(alike)*time.Second)) && end.After(when) &&
			s.At.Sub(end).Seconds() <= atOnce
	}
	for _, id := range s.after {
		if o := x.at[id]; o != nil && look(o) {
			by, kind = o, Before
			when, _ = o.EndsAt()
		}
	}
	if by != nil {
		return by, kind
	}
	shares := func(o *RealStep) bool {
		return slices.ContainsFunc(s.People, func(p string) bool { return slices.Contains(o.People, p) }) ||
			slices.ContainsFunc(s.On, func(p string) bool { return slices.Contains(o.On, p) })
	}
	for i := range x.n.Steps {
		if o := &x.n.Steps[i]; shares(o) && look(o) {
			by, kind = o, Hands
			when, _ = o.EndsAt()
		}
	}
	return by, kind
}
