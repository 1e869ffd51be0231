package service

import (
	"cmp"
	"maps"
	"slices"
	"time"

	"jointime/core/expand"
	"jointime/core/kitchen"
)

// What is due, from the state, the plan that was told, and the instant.
//
// Silence means as planned: what nobody said is taken as done by the clock, and marked so. Where a section taps, a run that is due and was
// not fired is overdue instead; and a step with a check that matters is done when somebody says so.

// The times that decide, common practice, no source.
const (
	// nowWithin is how long before its time something stands among what is to be fired now; nextWithin among what comes next.
	nowWithin, nextWithin = time.Minute, 10 * time.Minute
	// overdueAfter is how late a run may be fired, where its section taps, before it is overdue.
	overdueAfter = 20 * time.Second
	// tapsFor is for how long after its last tap a section counts as one that taps.
	tapsFor = 30 * time.Minute
	// asksFor is for how long something with a check that matters asks for it where its section says nothing at all: then it went as planned.
	asksFor = 10 * time.Minute
	// troubleFor is for how long what was said in words stands on the screens.
	troubleFor = 15 * time.Minute
	// mostTroubles is how many of them: nobody reads more.
	mostTroubles = 8
)

// Plan is what is known of a told plan for what is due.
type Plan struct {
	Number int64
	Joins  []PlanJoin
	Runs   []PlanRun
	// NextOf, where there is one, says when a person or a piece of equipment is first taken for something after an instant
	// (expand.Evening.NextIn).
	NextOf func(kind kitchen.Kind, id string, after time.Time) (at time.Time, ok bool)
	// TakenOf, where there is one, says which tasks take a person or a piece of equipment (expand.Evening.TakenIn).
	TakenOf func(kind kitchen.Kind, id string) (tasks []string)
	// Taps are sections that say all that they do, by id, and since when, though they may not have said anything yet.
	Taps map[string]time.Time
}

// PlanJoin is a table's course in a plan.
type PlanJoin struct {
	TableCourse
	Name     string
	Plates   int
	At       time.Time
	WantedAt time.Time
	Dishes   []string
	Served   []expand.ServedDish
	Guests   []kitchen.GuestPlate
}

// PlanRun is one run to be fired.
type PlanRun struct {
	Task, Component, Step, Section string
	What, Act                      string
	Portions                       int
	Joins                          []TableCourse
	From, To                       time.Time
	MayUntil                       *time.Time
	Slack                          time.Duration // by how much it may be later without the join moving
	Asks                           bool          // it has a check that matters: it is done when somebody says so
	OnCall                         bool          // not before the table is called
	How                            RunHow
}

// RunHow is how a run is done, as a section sees it.
type RunHow struct {
	Hands  kitchen.Hands `json:"hands" enum:"both,tend,none" doc:"What it takes while it goes on"`
	InS    int64         `json:"in_s,omitempty" doc:"Seconds of hands at its start, where it does not take them throughout"`
	OutS   int64         `json:"out_s,omitempty" doc:"Seconds of hands at its end"`
	On     []string      `json:"on" nullable:"false" doc:"Equipment, by name"`
	C      *float64      `json:"c,omitempty" doc:"Setpoint, °C"`
	People []string      `json:"people" nullable:"false" doc:"Who does it by the plan"`
	Needs  []string      `json:"needs" nullable:"false" doc:"What its guests must not have: it has a pan of its own, before the others"`
	Apart  bool          `json:"apart,omitempty"`
	Checks []string      `json:"checks" nullable:"false" doc:"How one sees that it is done"`
	Batch  int           `json:"batch,omitempty"`
	Of     int           `json:"of,omitempty"`
}

// SectionOf is the section of a run, by id; "" where the plan, or there, is none.
func (p *Plan) SectionOf(task string) string {
	if p != nil {
		for i := range p.Runs {
			if p.Runs[i].Task == task {
				return p.Runs[i].Section
			}
		}
	}
	return ""
}

// PlanOf is what a plan, as it is read, says for what is due.
func PlanOf(number int64, view *expand.EveningPlan) *Plan {
	p := &Plan{Number: number}
	joins := map[string]TableCourse{}
	for i := range view.Joins {
		j := &view.Joins[i]
		joins[j.ID] = TableCourse{j.Table, j.Course, j.Round}
		p.Joins = append(p.Joins, PlanJoin{joins[j.ID], j.Name, j.Plates, j.At, j.WantedAt, j.Dishes, j.Served, j.Guests})
	}
	out := map[batch]int64{}
	for i := range view.Lines {
		if f := &view.Lines[i]; f.Kind == expand.LineOut {
			out[batchOf(f)] = f.HandsS
		}
	}
	for i := range view.Lines {
		f := &view.Lines[i]
		if f.Kind != expand.LineFire && f.Kind != expand.LineNext || f.Component == "" || f.Task == "" {
			continue
		}
		r := PlanRun{Task: f.Task, Component: f.Component, Step: f.StepID, Section: f.Section, What: f.What, Act: f.Act, Portions: f.Count,
			From: f.At, To: f.OffAt, MayUntil: f.MayUntil, Slack: time.Duration(f.MayS) * time.Second, OnCall: f.OnCall, Asks: f.Apart,
			How: RunHow{Hands: f.Hands, InS: f.HandsS, OutS: out[batchOf(f)], On: f.On, C: f.C, People: f.People, Needs: f.Needs, Apart: f.Apart,
				Checks: []string{}, Batch: f.Batch, Of: f.Of}}
		for _, k := range f.Checks {
			r.Asks = r.Asks || k.TargetC != nil
			if k.Say != "" {
				r.How.Checks = append(r.How.Checks, k.Say)
			}
		}
		for _, id := range f.Joins {
			if j, ok := joins[id]; ok {
				r.Joins = append(r.Joins, j)
			}
		}
		p.Runs = append(p.Runs, r)
	}
	return p
}

// batch names a batch of a step of a course.
type batch struct {
	component, step, join string
	batch                 int
}

func batchOf(f *expand.Fire) batch { return batch{f.Component, f.StepID, f.Join, f.Batch} }

// DueAt is what is due.
func DueAt(s *State, p *Plan, now time.Time) *DueView {
	zone := time.UTC
	if len(p.Joins) > 0 {
		zone = p.Joins[0].At.Location() // of the kitchen's clock
	}
	d := &DueView{At: now.In(zone), Plan: p.Number, Phase: s.Phase, Settle: s.Settle, Off: s.Off, Out: s.awayAt(p, now, zone),
		Troubles: []SaidInWords{}, Sections: []SectionDue{}, Joins: []JoinDue{}}
	for _, t := range s.Troubles {
		if now.Sub(t.At) < troubleFor {
			t.At = t.At.In(zone)
			d.Troubles = append(d.Troubles, t)
		}
	}
	d.Troubles = d.Troubles[max(0, len(d.Troubles)-mostTroubles):]
	taps, away := s.tapping(p, now), s.away(p)
	lines := make([]DueLine, len(p.Runs))
	section := map[string]*SectionDue{}
	for i := range p.Runs {
		r := &p.Runs[i]
		lines[i] = s.line(r, taps.of(r), now)
		lines[i].FireAt, lines[i].DoneAt = lines[i].FireAt.In(zone), lines[i].DoneAt.In(zone)
		if at, there := away.of(r); there && (lines[i].Standing == Waits || lines[i].Standing == Later) {
			from := int64(r.From.Sub(at) / time.Second)
			lines[i].AwayS = &from
		}
		x := section[r.Section]
		if x == nil {
			_, said := taps[r.Section]
			x = &SectionDue{Section: r.Section, Taps: said, Now: []DueLine{}, On: []DueLine{}, Next: []DueLine{}, Then: []DueLine{}}
			section[r.Section] = x
		}
		switch l := lines[i]; l.Standing {
		case DueNow, Overdue:
			x.Now = append(x.Now, l)
		case IsOn, Asks:
			x.On = append(x.On, l)
		case Coming:
			x.Next = append(x.Next, l)
		case IsDone:
			x.Done++
		default:
			x.Later++
			x.Then = append(x.Then, l)
		}
	}
	for i := range d.Out {
		d.Out[i].Left = p.leftIn(&d.Out[i], lines)
	}
	byTime := func(at func(*DueLine) time.Time) func(a, b DueLine) int {
		return func(a, b DueLine) int { return cmp.Or(at(&a).Compare(at(&b)), cmp.Compare(a.Task, b.Task)) }
	}
	for _, x := range section {
		slices.SortFunc(x.Now, byTime(func(l *DueLine) time.Time { return l.FireAt }))
		slices.SortFunc(x.On, byTime(func(l *DueLine) time.Time { return l.DoneAt }))
		slices.SortFunc(x.Next, byTime(func(l *DueLine) time.Time { return l.FireAt }))
		slices.SortFunc(x.Then, byTime(func(l *DueLine) time.Time { return l.FireAt }))
		x.Then = x.Then[:min(len(x.Then), thenLines)]
		x.Counts = counts(x.Section, p, lines)
		d.Sections = append(d.Sections, *x)
	}
	slices.SortFunc(d.Sections, func(a, b SectionDue) int { return cmp.Compare(a.Section, b.Section) })
	for i := range p.Joins {
		j := s.join(&p.Joins[i], p, lines, now)
		if at, there := away[j.TableCourse]; there && j.Standing == "planned" {
			at = at.In(zone)
			j.CallAt = &at
		}
		j.Forecast = j.Forecast.In(zone)
		d.Joins = append(d.Joins, j)
	}
	slices.SortStableFunc(d.Joins, func(a, b JoinDue) int { return a.Forecast.Compare(b.Forecast) })
	return d
}

// tapping are the sections that said something of their runs of late, and since when: what they were to do before that they may have done
// without a word.
func (s *State) tapping(p *Plan, now time.Time) tapping {
	out := tapping{}
	maps.Copy(out, p.Taps)
	for i := range p.Runs {
		r := s.Run(p.Runs[i].Task)
		if r == nil {
			continue
		}
		for _, x := range []*Said{r.Fired, r.Ready} {
			if x == nil || x.Implied || now.Sub(x.At) > tapsFor {
				continue
			}
			if since, taps := out[p.Runs[i].Section]; !taps || x.At.Before(since) {
				out[p.Runs[i].Section] = x.At
			}
		}
	}
	return out
}

// away is when each course that is still to be called has to be, to come by the plan: when the first of its runs that wait for that begins.
func (s *State) away(p *Plan) aways {
	out := aways{}
	for i := range p.Runs {
		r := &p.Runs[i]
		for _, j := range r.Joins {
			c := s.Course(j)
			if !r.OnCall || c != nil && (c.Called != nil || c.Sent != nil || c.Skipped != nil) {
				continue
			}
			if at, there := out[j]; !there || r.From.Before(at) {
				out[j] = r.From
			}
		}
	}
	return out
}

type aways map[TableCourse]time.Time

// of is when the call comes that a run waits for: the first of its tables'.
func (a aways) of(r *PlanRun) (first time.Time, there bool) {
	for _, j := range r.Joins {
		if at, is := a[j]; is && r.OnCall && (!there || at.Before(first)) {
			first, there = at, true
		}
	}
	return first, there
}

// tapping is since when each section taps.
type tapping map[string]time.Time

// of reports whether a run's section would have said that it began it.
func (t tapping) of(r *PlanRun) bool {
	since, taps := t[r.Section]
	return taps && !r.From.Before(since)
}

// line is how a run stands.
func (s *State) line(r *PlanRun, taps bool, now time.Time) DueLine {
	l := DueLine{Task: r.Task, Component: r.Component, Step: r.Step, What: r.What, Act: r.Act, Portions: r.Portions, Joins: r.Joins,
		FireAt: r.From, DoneAt: r.To, MayUntil: r.MayUntil, Section: r.Section, How: r.How}
	if l.Joins == nil {
		l.Joins = []TableCourse{}
	}
	known := s.Run(r.Task)
	if known == nil {
		known = &RunState{}
	}
	l.TakenBy = known.TakenBy
	long := r.To.Sub(r.From)
	if known.Ready != nil || s.goneAll(r.Joins) {
		l.Standing, l.Assumed = IsDone, known.Ready == nil || known.Ready.Implied
		if known.Ready != nil {
			l.DoneAt = known.Ready.At
		}
		return l
	}
	begun := known.Fired != nil
	switch {
	case begun:
		l.FireAt = known.Fired.At
	case s.Phase != Open || now.Before(r.From.Add(-nextWithin)):
		l.Standing = Later
		return l
	case s.waits(r):
		l.Standing = Waits
		if now.After(r.From) {
			l.FireAt = now
		}
	case now.Before(r.From.Add(-nowWithin)):
		l.Standing = Coming
		return l
	case now.Before(r.From), len(known.Again) > 0, taps:
		l.Standing = DueNow
		if late := now.Sub(r.From); late > 0 {
			if l.FireAt = now; late > overdueAfter || len(known.Again) > 0 {
				l.Standing = Overdue
			}
		}
	default:
		begun, l.Assumed = true, true
	}
	l.DoneAt = l.FireAt.Add(long)
	if l.CoreC = known.Celsius; known.ProbeUntil != nil {
		l.DoneAt = *known.ProbeUntil
	}
	if known.NotBefore != nil && known.NotBefore.After(l.DoneAt) {
		l.DoneAt = *known.NotBefore
	}
	if begun {
		l.Standing = IsOn
		if !now.Before(l.DoneAt) {
			silent := !taps && known.Fired == nil && now.Sub(l.DoneAt) > asksFor
			if l.Standing = IsDone; (r.Asks || known.NotBefore != nil || known.ProbeUntil != nil) && !silent {
				l.Standing, l.DoneAt = Asks, now
			} else {
				l.Assumed = true
			}
		}
	}
	l.delay = l.DoneAt.Sub(r.To) - r.Slack
	return l
}

// waits reports whether a run may not begin yet: none of its tables that is to be called has been, or all are held or skipped.
func (s *State) waits(r *PlanRun) bool {
	if len(r.Joins) == 0 {
		return false
	}
	for _, j := range r.Joins {
		c := s.Course(j)
		if c != nil && (c.Held != nil || c.Skipped != nil) || r.OnCall && (c == nil || c.Called == nil) {
			continue
		}
		return false
	}
	return true
}

// goneAll reports whether every table that a run is for has been sent its course, or leaves it out.
func (s *State) goneAll(joins []TableCourse) bool {
	for _, j := range joins {
		if c := s.Course(j); c == nil || c.Sent == nil && c.Skipped == nil {
			return false
		}
	}
	return len(joins) > 0
}

// join is how a join stands: it comes together when the last of what it waits for does.
func (s *State) join(p *PlanJoin, plan *Plan, lines []DueLine, now time.Time) JoinDue {
	d := JoinDue{TableCourse: p.TableCourse, Name: p.Name, Plates: p.Plates, Standing: "planned", WantedAt: p.WantedAt, At: p.At,
		Forecast: p.At, WaitsFor: []DueLine{}, Dishes: p.Dishes, Served: p.Served, Needs: p.needs()}
	if c := s.Course(p.TableCourse); c != nil {
		switch {
		case c.Sent != nil:
			d.Standing, d.Forecast = "sent", c.Sent.At
		case c.Skipped != nil:
			d.Standing = "skipped"
		case c.Plated != nil:
			d.Standing = "plated"
		case c.Held != nil:
			d.Standing = "held"
		case c.Called != nil:
			d.Standing = "called"
		}
	}
	worst := time.Duration(0)
	for i := range plan.Runs {
		if !slices.Contains(plan.Runs[i].Joins, p.TableCourse) {
			continue
		}
		l := &lines[i]
		if d.Of++; l.Standing == IsDone || d.Standing == "sent" {
			d.Done++
			continue
		}
		if l.delay > 0 {
			worst = max(worst, l.delay)
			d.WaitsFor = append(d.WaitsFor, *l)
		}
	}
	if (d.Standing == "planned" || d.Standing == "called") && s.Phase == Open && d.Done == d.Of && !now.Before(p.At) &&
		s.leftUnsaid(p.At, now) {
		d.Standing, d.Assumed = "sent", true
	}
	d.Parts = parts(&d, plan, lines, now)
	if d.Standing == "sent" || d.Standing == "skipped" {
		d.WaitsFor = []DueLine{}
		return d
	}
	d.Forecast = p.At.Add(worst)
	slices.SortStableFunc(d.WaitsFor, func(a, b DueLine) int { return cmp.Compare(b.delay, a.delay) })
	return d
}
