package service

import (
	"cmp"
	"slices"
	"time"

	"jointime/core/expand"
	"jointime/core/workload"
)

// Planning again in the middle of service: what has begun is fixed where it was, `now` is now, and what is left is to be planned.

// Happened is the workload of a told plan with what has happened since: the runs that have begun are fixed, as they were said, or as
// planned where nobody said anything; joins that have left are fixed too; a course that was called is wanted so long after the call as it
// takes. Runs whose section taps and that nobody fired are open, and so is what follows them. The told plan's workload and schedule are not
// changed.
func Happened(e *expand.Evening, told *workload.Schedule, p *Plan, s *State, now time.Time) *workload.Workload {
	h := &happening{e: e, w: e.Workload.Clone(), state: s, now: int64(now.Sub(e.Origin) / time.Second), at: now,
		told: map[string]*workload.Run{}, plan: map[string]*PlanRun{}, fixed: map[string]*workload.Fixed{}, taps: s.tapping(p, now),
		before: map[string][]*workload.Link{}}
	h.w.Fixed, h.w.Now = slices.Clone(e.Workload.Fixed), &h.now
	for i := range told.Tasks {
		h.told[told.Tasks[i].ID] = &told.Tasks[i]
	}
	for i := range p.Runs {
		h.plan[p.Runs[i].Task] = &p.Runs[i]
	}
	for i := range h.w.Fixed {
		h.fixed[h.w.Fixed[i].Task] = &h.w.Fixed[i]
	}
	for i := range h.w.Links {
		if l := &h.w.Links[i]; l.Kind == workload.FinishStart {
			h.before[l.To] = append(h.before[l.To], l)
		}
	}
	h.runs()
	h.courses(p, told)
	h.leaveOut()
	h.loosen()
	h.absent()
	return h.w
}

// chanceEvery is how long the same chance is taken in a repair of what breaks rules, seconds: as often as the plan follows the clock.
const chanceEvery = 10

// Chance is the seed of a repair of what was told at a second of the evening: always the same, but while that breaks rules another from
// time to time, so that what was not found at once is found by the next.
func Chance(told *workload.Schedule, now int64) int64 {
	if len(told.Broken) > 0 {
		return 2 + max(now, 0)/chanceEvery
	}
	return 1
}

// leaveOut takes out what nobody wants any more: runs that have not begun and whose courses are all left out. Their joins stand where they
// were told.
func (h *happening) leaveOut() {
	out := map[string]bool{}
	all := func(joins []string) bool {
		return len(joins) > 0 && !slices.ContainsFunc(joins, func(id string) bool {
			x, ok := h.e.CourseByID(id)
			if !ok {
				return true
			}
			c := h.state.Course(TableCourse{x.Table, x.Course, x.Round})
			return c == nil || c.Skipped == nil
		})
	}
	for _, t := range h.w.Tasks {
		if _, ok := h.e.RefOf(t.ID); ok && h.fixed[t.ID] == nil && all(h.e.JoinsOf(t.ID)) {
			out[t.ID] = true
		}
	}
	if len(out) == 0 {
		return
	}
	for _, t := range h.w.Tasks {
		if ref, ok := h.e.RefOf(t.ID); ok && out[ref.Main] && h.fixed[t.ID] == nil {
			out[t.ID] = true
		}
	}
	h.w.Tasks = slices.DeleteFunc(h.w.Tasks, func(t workload.Task) bool { return out[t.ID] })
	h.w.Links = slices.DeleteFunc(h.w.Links, func(l workload.Link) bool { return out[l.From] || out[l.To] })
	for i := range h.w.Tasks {
		for k := range h.w.Tasks[i].Needs {
			if n := &h.w.Tasks[i].Needs[k]; n.As != nil && out[n.As.Task] {
				n.As = nil
			}
		}
	}
}

// Whole is a schedule of what Happened made, with the runs that it left out where they were told: they are still read with the others.
func Whole(told, s *workload.Schedule) *workload.Schedule {
	there := map[string]bool{}
	for i := range s.Tasks {
		there[s.Tasks[i].ID] = true
	}
	out := *s
	out.Tasks = slices.Clone(s.Tasks)
	for _, r := range told.Tasks {
		if !there[r.ID] {
			out.Tasks = append(out.Tasks, r)
		}
	}
	return &out
}

// WorthBackS is from how many seconds on it is worth telling that something that was put off comes sooner again. Common practice, no
// source.
const WorthBackS = 90

// overdueWeight is what each second costs by which something that is tied to what has happened comes later than it was to: as dear as a
// table that is late.
const overdueWeight = 4

// loosen lets what follows something that has happened wait longer than the book allows: it is as it is, and costs what it costs.
func (h *happening) loosen() {
	joins := map[string]bool{}
	for _, f := range h.w.Fixed {
		joins[f.Join] = true
	}
	// What has begun does not wait for what is still to come.
	h.w.Links = slices.DeleteFunc(h.w.Links, func(l workload.Link) bool {
		return (h.fixed[l.To] != nil || joins[l.To]) && h.fixed[l.From] == nil && !joins[l.From]
	})
	for i := range h.w.Links {
		l := &h.w.Links[i]
		if h.fixed[l.From] == nil && !joins[l.From] || h.fixed[l.To] != nil || joins[l.To] || l.Max == nil {
			continue
		}
		if l.Best == nil {
			best := *l.Max
			l.Best = &best
		}
		l.Max, l.Weight = nil, max(l.Weight, overdueWeight)
	}
}

type happening struct {
	e      *expand.Evening
	w      *workload.Workload
	state  *State
	now    int64
	at     time.Time
	told   map[string]*workload.Run
	plan   map[string]*PlanRun
	fixed  map[string]*workload.Fixed
	taps   tapping
	before map[string][]*workload.Link
	tasks  map[string]*workload.Task // by ID, while what has begun is fixed
}

func (h *happening) second(t time.Time) int64 { return int64(t.Sub(h.e.Origin) / time.Second) }

// courses fixes the joins that have left, and moves the wish of those that were called.
func (h *happening) courses(p *Plan, told *workload.Schedule) {
	at := map[string]int64{}
	for _, j := range told.Joins {
		at[j.ID] = j.At
	}
	for i := range h.w.Joins {
		j := &h.w.Joins[i]
		x, ok := h.e.CourseByID(j.ID)
		if !ok {
			continue
		}
		key := TableCourse{x.Table, x.Course, x.Round}
		c := h.state.Course(key)
		if c == nil {
			c = &CourseState{}
		}
		switch {
		case c.Sent == nil && h.was(at, j.ID) && at[j.ID] <= h.now && h.platedBy(j.ID) &&
			h.state.leftUnsaid(h.e.Origin.Add(time.Duration(at[j.ID])*time.Second), h.at):
			h.w.Fixed = append(h.w.Fixed, workload.Fixed{Join: j.ID, At: at[j.ID]}) // nobody says what has left: it has, as planned
		case c.Skipped != nil: // nothing leads up to it any more: it stands at its wish
		case c.Sent != nil:
			h.w.Fixed = append(h.w.Fixed, workload.Fixed{Join: j.ID, At: h.second(c.Sent.At)})
		case c.Called != nil && c.Called.For != nil:
			wish := h.second(*c.Called.For)
			j.At = &wish
		case c.Called != nil:
			if takes := h.takes(p, key, at[j.ID]); takes > 0 {
				wish := h.second(c.Called.At) + takes
				j.At = &wish
			}
		}
	}
}

// was reports whether a join stood in the told plan: one that is new has not left.
func (h *happening) was(at map[string]int64, join string) bool {
	_, told := at[join]
	return told
}

// leftUnsaid reports whether a course that was to leave at an instant may have left without a word: the pass has not said what left since
// then, or only began to say it later.
func (s *State) leftUnsaid(at, now time.Time) bool {
	var first *time.Time
	for i := range s.Tables {
		for k := range s.Tables[i].Courses {
			if c := &s.Tables[i].Courses[k]; c.Sent != nil && now.Sub(c.Sent.At) <= tapsFor && (first == nil || c.Sent.At.Before(*first)) {
				first = &c.Sent.At
			}
		}
	}
	return first == nil || at.Before(*first)
}

// platedBy reports whether all that leads up to a join has ended.
func (h *happening) platedBy(join string) bool {
	for _, l := range h.before[join] {
		if h.told[l.From] == nil {
			continue // another course
		}
		if f := h.fixed[l.From]; f == nil || f.Finish != nil && *f.Finish > h.now {
			return false
		}
	}
	return true
}

// takes is how long a course takes from its call: from its first run that waits for that to its join, by the plan; 0 where none does.
func (h *happening) takes(p *Plan, key TableCourse, join int64) int64 {
	first := int64(-1)
	for i := range p.Runs {
		r := &p.Runs[i]
		if !r.OnCall || !slices.Contains(r.Joins, key) {
			continue
		}
		if from := h.second(r.From); first < 0 || from < first {
			first = from
		}
	}
	if first < 0 {
		return 0
	}
	return join - first
}

// runs fixes what has begun, in the order of the plan: what comes after something that has not ended has not begun by itself.
func (h *happening) runs() {
	order := make([]*workload.Run, 0, len(h.told))
	for _, r := range h.told {
		order = append(order, r)
	}
	slices.SortFunc(order, func(a, b *workload.Run) int { return cmp.Or(cmp.Compare(a.Start, b.Start), cmp.Compare(a.ID, b.ID)) })
	var acts []*workload.Run
	for _, r := range order {
		if ref, ok := h.e.RefOf(r.ID); ok && ref.Main != "" {
			acts = append(acts, r)
			continue
		}
		h.run(r)
	}
	for _, r := range acts { // with the run that they are of
		ref, _ := h.e.RefOf(r.ID)
		main, was := h.fixed[ref.Main], h.told[ref.Main]
		if main == nil || was == nil || h.fixed[r.ID] != nil {
			continue
		}
		by := main.Start - was.Start
		if r.Start >= was.Finish-(was.Finish-was.Start)/2 && main.Finish != nil && ref.Act != expand.ActTouch { // at its end, or after it
			by = *main.Finish - was.Finish
		}
		start := r.Start + by
		if start > h.now {
			continue
		}
		h.fix(r, start, r.Finish+by)
	}
}

func (h *happening) fix(r *workload.Run, start, finish int64) {
	h.w.Fixed = append(h.w.Fixed, workload.Fixed{Task: r.ID, Start: start, Finish: &finish, Resources: slices.Clone(r.Resources)})
	f := h.w.Fixed[len(h.w.Fixed)-1]
	h.fixed[r.ID] = &f
}

// run fixes a run that has begun.
func (h *happening) run(r *workload.Run) {
	if h.fixed[r.ID] != nil {
		return
	}
	long := r.Finish - r.Start
	known, planned := h.state.Run(r.ID), h.plan[r.ID]
	if known == nil {
		known = &RunState{}
	}
	switch {
	case known.Fired != nil && !known.Fired.Implied:
		start := min(h.second(known.Fired.At), h.now)
		h.fix(r, start, h.ends(known, planned, start, start+long))
	case known.Ready != nil: // it was on, nobody knows since when
		finish := min(h.second(known.Ready.At), h.now)
		h.fix(r, min(r.Start, finish), finish)
	case known.Fired != nil:
		start := min(r.Start, h.second(known.Fired.At), h.now)
		h.fix(r, start, h.ends(known, planned, start, start+long))
	case planned != nil && h.state.sentAll(planned.Joins):
		h.fix(r, min(r.Start, h.now), min(r.Finish, max(h.now, r.Start)))
	case r.Start > h.now+farOffS && len(known.Again) == 0 && !h.called(planned):
		h.notBefore(r.ID, h.now+noticeS)
	case r.Start > h.now || len(known.Again) > 0 || !h.follows(r):
	case planned != nil && h.state.waits(planned):
	case planned != nil && h.taps.of(planned) && h.now-r.Start > int64(overdueAfter/time.Second): // it is still to do
		h.notBefore(r.ID, h.now+overdueFor)
	default: // silence means as planned
		h.fix(r, r.Start, r.Finish)
	}
}

// sentAll reports whether every table that a run is for has been sent its course.
func (s *State) sentAll(joins []TableCourse) bool {
	return len(joins) > 0 && !slices.ContainsFunc(joins, func(j TableCourse) bool { c := s.Course(j); return c == nil || c.Sent == nil })
}

// mostOver is for how long something that nobody called ready is taken to go on, seconds: then it is as good as forgotten, and its place is
// free.
const mostOver = 1800

// overdueFor is how much time somebody gets who has not begun what was due, seconds: it is told anew no more than once in a minute.
const overdueFor = 40

// What was told to begin only a while from now, farOffS, is in nobody's mind: it begins noticeS from now at the soonest, seconds. By then a
// better plan may have been found, and it stays where it was; put to this very instant it would have been begun by the next look at the
// clock, wherever nobody says so. What was called is begun at once. Common practice, no source.
const (
	farOffS = 600
	noticeS = 60
)

// called reports whether one of the tables that a run is for has been called.
func (h *happening) called(r *PlanRun) bool {
	return r != nil && slices.ContainsFunc(r.Joins, func(j TableCourse) bool { c := h.state.Course(j); return c != nil && c.Called != nil })
}

// notBefore keeps a run from beginning before an instant.
func (h *happening) notBefore(id string, at int64) {
	if h.tasks == nil {
		h.tasks = make(map[string]*workload.Task, len(h.w.Tasks))
		for i := range h.w.Tasks {
			h.tasks[h.w.Tasks[i].ID] = &h.w.Tasks[i]
		}
	}
	if t := h.tasks[id]; t != nil {
		t.Earliest = max(t.Earliest, at)
	}
}

// ends is when a run that was fired has ended, or will have.
func (h *happening) ends(known *RunState, planned *PlanRun, start, finish int64) int64 {
	switch {
	case known.Ready != nil:
		return max(start, min(h.second(known.Ready.At), h.now))
	case known.ProbeUntil != nil: // a thermometer knows better than the plan, sooner or later
		until := max(start, h.second(*known.ProbeUntil))
		if known.NotBefore != nil {
			until = max(until, h.second(*known.NotBefore))
		}
		return max(until, min(h.now, until+mostOver))
	case known.NotBefore != nil:
		return max(finish, h.second(*known.NotBefore), min(h.now, finish+mostOver))
	case planned != nil && planned.Asks:
		return max(finish, min(h.now, finish+mostOver))
	}
	return finish
}

// follows reports whether all that comes before a run has ended: else it has not begun, whatever the plan said.
func (h *happening) follows(r *workload.Run) bool {
	for _, l := range h.before[r.ID] {
		was := h.told[l.From]
		if was == nil || !h.hasNoMain(l.From) {
			continue
		}
		ended := h.now + was.Finish - was.Start // it has not begun
		if f := h.fixed[l.From]; f != nil && f.Finish != nil {
			ended = *f.Finish
		}
		if ended+l.Min > r.Start && ended+l.Min > h.now {
			return false
		}
	}
	return true
}

// hasNoMain reports whether a task stands for itself: acts are fixed with the run that they are of.
func (h *happening) hasNoMain(id string) bool {
	ref, ok := h.e.RefOf(id)
	return !ok || ref.Main == ""
}
