package expand

import (
	"slices"
	"strings"
	"time"

	"jointime/core/kitchen"
	"jointime/core/message"
	"jointime/core/workload"
)

// What is to be done by the clock: every run as it is drawn, every firing, and every line of the sheets.

// fireReader gathers the runs of a schedule.
type fireReader struct {
	e      *Evening
	runs   map[string]*workload.Run
	names  map[string]string
	before map[string]bool          // tasks that follow a step made to order
	slack  map[string]int64         // by how much a run may be later before what follows it is
	heated map[string]*workload.Run // the heating of the pan before a run
	acts   map[string][]string      // of each step's own run, in the order of the clock
	waits  map[string][2]time.Time  // rest until, may wait until
	kept   map[string]string        // how it waits, in words
	needed map[string]time.Time     // when the plate wants it
	set    map[string]float64       // how hot it is where a run is
}

// heatAt is how hot it is where a run is, nil where that is not asked.
func heatAt(set map[string]float64, task string) *float64 {
	if c, ok := set[task]; ok {
		return &c
	}
	return nil
}

func (e *Evening) fires(out *EveningPlan, s *workload.Schedule) {
	f := fireReader{e: e, runs: runsOf(s), names: e.names(), before: map[string]bool{}, slack: map[string]int64{},
		heated: map[string]*workload.Run{}, acts: map[string][]string{}, waits: map[string][2]time.Time{}, kept: map[string]string{},
		needed: map[string]time.Time{}}
	f.set = settingsOf(e.Workload, f.runs)
	f.links()
	for i := range e.Workload.Tasks {
		t := &e.Workload.Tasks[i]
		r, ref := f.runs[t.ID], e.ref(t.ID)
		if r == nil || !e.owns(t.ID) {
			continue // of a service that is cooked beside
		}
		if ref.Racked {
			f.racked(out, r, ref)
		}
		if ref.Plating || ref.Act != "" {
			continue
		}
		f.run(out, t, r, ref)
	}
}

func (f *fireReader) at(s int64) time.Time { return f.e.Origin.Add(time.Duration(s) * time.Second) }

// links reads what stands before and after every run.
func (f *fireReader) links() {
	for i := range f.e.Workload.Links {
		l := &f.e.Workload.Links[i]
		from, to := f.runs[l.From], f.runs[l.To]
		if from == nil || to == nil || l.Kind != workload.FinishStart {
			continue
		}
		a, b := f.e.ref(l.From), f.e.ref(l.To)
		if b.Act != "" {
			continue
		}
		id := l.From
		if a.Act == ActLeave {
			id = a.Main // with the batch that they leave
		}
		if a.Preheat {
			f.heated[l.To] = from
		} else if a.Step != b.Step || a.Component != b.Component {
			f.before[l.To] = true
		}
		free := to.Start - from.Finish - l.Min
		if was, known := f.slack[id]; !known || free < was {
			f.slack[id] = free
		}
		f.wait(l.From, l, a, b, from, to)
		if id != l.From {
			f.wait(id, l, a, b, from, to)
		}
	}
	for _, t := range f.e.Workload.Tasks {
		if ref := f.e.ref(t.ID); (ref.Act == ActIn || ref.Act == ActOut || ref.Act == ActTouch) && f.runs[t.ID] != nil {
			f.acts[ref.Main] = append(f.acts[ref.Main], t.ID)
		}
	}
	for _, list := range f.acts {
		slices.SortStableFunc(list, func(a, b string) int { return int(f.runs[a].Start - f.runs[b].Start) })
	}
}

// wait reads the wait of a link: how long it rests, how long it may wait, when the plate wants it.
func (f *fireReader) wait(id string, l *workload.Link, a, b TaskRef, from, to *workload.Run) {
	is, ok := planned(f.e.book, a, b)
	if !ok {
		return
	}
	w := is.Wait
	if x, _ := f.e.CourseByID(b.Joins[0]); x != nil && b.Plating {
		needed := f.at(to.Start + x.Firing.Wanted(b, a.Component))
		if was, known := f.needed[id]; !known || needed.Before(was) {
			f.needed[id] = needed
		}
	}
	var until [2]time.Time
	if w.Shortest > 0 {
		until[0] = f.at(from.Finish + int64(w.Shortest))
	}
	if w.Longest != nil {
		until[1] = f.at(from.Finish + int64(*w.Longest))
	}
	f.waits[id], f.kept[id] = until, w.How()
}

// run adds a batch of a step: to the lanes, to the firings when it follows nothing made to order, and to the sheets.
func (f *fireReader) run(out *EveningPlan, t *workload.Task, r *workload.Run, ref TaskRef) {
	joins, x := f.e.joinsOf(t.ID)
	c, _ := f.e.book.Component(ref.Component)
	step := &c.Steps[c.StepIndex(ref.Step)]
	run := FireRun{Joins: joins, Section: c.SectionOf(step), What: c.Name, Step: step.Name, Count: ref.Portions, From: f.at(r.Start),
		To: f.at(r.Finish), Hands: step.Hands, Apart: ref.Apart}
	if ref.Preheat {
		run.Step, run.Hands = message.Of("task.heat-pan").Text, kitchen.None
	}
	if step.Equipment != nil {
		run.C = heatAt(f.set, t.ID)
	}
	if !ref.Preheat {
		for _, id := range f.acts[t.ID] {
			switch a := f.runs[id]; f.e.ref(id).Act {
			case ActIn:
				run.InS = a.Finish - a.Start
			case ActOut:
				run.OutS = a.Finish - a.Start
			}
		}
	}
	out.Runs = append(out.Runs, run)
	if ref.Preheat {
		return
	}
	line := Fire{At: f.at(r.Start), Task: t.ID, Component: ref.Component, StepID: ref.Step, Join: x.ID, Joins: joins, Table: f.e.tables(joins),
		Course: string(x.Course), Section: run.Section,
		What: c.Name, Count: ref.Portions, Batch: ref.Batch, Of: ref.Of, People: []string{}, MayS: max(0, f.slack[t.ID]), Apart: ref.Apart,
		Act: step.Name, OffAt: run.To, Hands: step.Hands, On: []string{}, C: run.C, Checks: step.Checks, Kind: LineFire, HandsS: run.InS,
		Kept: f.kept[t.ID], OnCall: f.e.Service.Pacing == kitchen.Called && x.before != "" && !c.MayBegin(step)}
	line.Contains = x.Firing.contains(c.ID, ref.Apart)
	line.Needs, line.Contact = f.e.apartFor(x, c.ID, line.Section, ref.Apart)
	if h := f.heated[t.ID]; h != nil {
		line.Preheat = r.Start - h.Start
	}
	f.takes(&line, r)
	w := f.waits[t.ID]
	line.RestUntil, line.MayUntil = known(w[0]), known(w[1])
	line.ReadyBy = known(f.needed[t.ID])
	for _, id := range f.acts[t.ID] {
		if f.e.ref(id).Act == ActIn {
			f.takes(&line, f.runs[id])
		}
	}
	// What is taken out by hand has a line of its own: how it waits then, and how one sees that it is done, stands there.
	begun := line
	if slices.ContainsFunc(f.acts[t.ID], func(id string) bool { return f.e.ref(id).Act == ActOut }) {
		begun.RestUntil, begun.MayUntil, begun.Checks, begun.Kept = nil, nil, []kitchen.DoneCheck{}, ""
	}
	if f.before[t.ID] {
		begun.Kind = LineNext
	} else {
		out.Fires = append(out.Fires, line)
	}
	out.Lines = append(out.Lines, begun)
	for _, id := range f.acts[t.ID] {
		a, ref := f.runs[id], f.e.ref(id)
		if ref.Act == ActIn {
			continue
		}
		more := line
		more.Kind, more.Act, more.At, more.OffAt, more.HandsS = LineTouch, ref.Say, f.at(a.Start), f.at(a.Finish), a.Finish-a.Start
		more.People, more.Checks, more.Preheat, more.MayS, more.Hands = []string{}, []kitchen.DoneCheck{}, 0, 0, kitchen.Both
		if ref.Act == ActOut {
			more.Kind, more.Act, more.Checks = LineOut, step.Name, step.Checks
			if ref.Leaves != "" {
				more.Count = ref.Portions
				w := f.waits[ref.Leaves]
				more.RestUntil, more.MayUntil, more.ReadyBy = known(w[0]), known(w[1]), known(f.needed[ref.Leaves])
			}
		} else {
			more.RestUntil, more.MayUntil, more.ReadyBy = nil, nil, nil
		}
		f.takes(&more, a)
		out.Lines = append(out.Lines, more)
	}
}

// racked adds a line for what is put on plates ahead, to the sheet of the section whose component goes on first.
func (f *fireReader) racked(out *EveningPlan, r *workload.Run, ref TaskRef) {
	x, _ := f.e.CourseByID(ref.Joins[0])
	var names []string
	section := ""
	for _, m := range x.Firing.Moments {
		if _, on := x.Firing.Racked.First[m.Component]; on {
			c, _ := f.e.book.Component(m.Component)
			names = append(names, c.Name)
			if section == "" {
				section = c.Section
			}
		}
	}
	line := Fire{At: f.at(r.Start), Task: r.ID, OffAt: f.at(r.Finish), Join: x.ID, Joins: ref.Joins, Table: f.e.tables(ref.Joins),
		Course: string(x.Course), Section: section, What: strings.Join(names, ", "), Count: ref.Portions, Batch: 1, Of: 1, People: []string{},
		Act:  message.Of("act.rack").Text,
		Kind: LineNext, Hands: kitchen.Both, On: []string{}, Checks: []kitchen.DoneCheck{}, Contains: []string{}, Needs: []string{},
		Contact: []string{}}
	line.MayUntil = known(f.at(r.Finish + int64(x.Firing.rackMost())))
	f.takes(&line, r)
	out.Lines = append(out.Lines, line)
	out.Runs = append(out.Runs, FireRun{Joins: ref.Joins, Section: section, What: line.What, Step: line.Act, Count: ref.Portions,
		From: line.At, To: line.OffAt, Hands: kitchen.Both})
}

func known(t time.Time) *time.Time {
	if t.IsZero() {
		return nil
	}
	return &t
}

// takes adds to a line who and what a run takes.
func (f *fireReader) takes(line *Fire, r *workload.Run) {
	for _, id := range r.Resources {
		name := f.names[id]
		switch ref := f.e.roster[id]; {
		case !ref.IsPerson():
			line.On = append(line.On, name)
		case ref.Part != There && !slices.Contains(line.People, name):
			line.People = append(line.People, name)
		}
	}
}
