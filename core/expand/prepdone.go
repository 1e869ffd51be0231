package expand

import (
	"jointime/core/kitchen"
	"jointime/core/workload"
)

// What of the make-ahead work is done or goes on by itself, and who ends it.

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
		if l.From != l.To {
			before[l.To] = append(before[l.To], l)
		}
	}
	for _, t := range p.Workload.Tasks {
		ref := p.Tasks[t.ID]
		c, _ := p.book.Component(p.Amounts.Batches[ref.Batch].Component)
		if begun[t.ID] || ref.Act != "" || c.Steps[c.StepIndex(ref.Step)].Hands != kitchen.None || len(before[t.ID]) == 0 {
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
	p.settle()
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

// nights is how long something may stay where it is when it is done in the night, where nothing else is said: until
// somebody comes in the morning. Common practice, no source.
const nights = 12 * 3600

// mayStay is for how many seconds more a step of a component that needs nobody may stay where it is, until somebody comes:
// what is cold, dries, or stands by itself, for as long as the wait after it may be; what is hot comes out in time.
func (p *Prep) mayStay(c *kitchen.Component, s *kitchen.Step) int64 {
	if s.Hands != kitchen.None || s.Ends.OutS+s.Ends.OutEachS == 0 {
		return 0
	}
	if e := s.Equipment; e != nil {
		switch e.Kind {
		case kitchen.Fridge, kitchen.Freezer, kitchen.BlastChiller, kitchen.Dehydrator:
		default:
			return 0
		}
	}
	stay := int64(nights)
	for _, next := range c.Steps {
		for _, a := range next.After {
			if a.Step == s.ID && a.Longest != nil {
				stay = min(stay, int64(*a.Longest-a.Shortest))
			}
		}
	}
	return stay
}

// settle fixes the acts of what is fixed. What somebody ticked was put in and taken out by then; what goes on by itself was
// put in, and is taken out by whoever comes.
func (p *Prep) settle() {
	fixed := p.Workload.FixedTasks()
	for i := range p.Workload.Tasks {
		t := &p.Workload.Tasks[i]
		ref := p.Tasks[t.ID]
		main := fixed[ref.Main]
		if ref.Act == "" || main == nil {
			continue
		}
		for k := range p.Workload.Links {
			l := &p.Workload.Links[k]
			if l.From != ref.Main || l.To != t.ID {
				continue
			}
			l.Max = nil
			at := main.Start + l.Min
			if ended := ref.Act == ActOut || l.Kind == workload.FinishStart; ended && main.Finish == nil || ref.Act == ActPlace {
				continue
			} else if ref.Act == ActOut {
				at = *main.Finish - t.Seconds
			} else if ended {
				at = *main.Finish + l.Min
			}
			if at <= *p.Workload.Now {
				end := at + t.Seconds
				p.fix(t, at, &end)
			}
		}
	}
}
