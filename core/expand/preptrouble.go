package expand

import (
	"cmp"
	"slices"
	"time"

	"jointime/core/kitchen"
	"jointime/core/message"
	"jointime/core/workload"
)

// What of the make-ahead work is not ready, why, and what can still be done.

// moment is an instant to be said with its day, by the clock on the wall.
func (p *Prep) moment(t time.Time) message.Moment { return message.Moment(t.In(p.zone)) }

// lengthOf is a length of time to be said in minutes.
func lengthOf(d time.Duration) message.Rough { return message.Rough(d / time.Second) }

// trouble tells why a batch is not ready, and what can still be done.
func (p *Prep) trouble(i int, j *Job) *PrepTrouble {
	x := &p.Amounts.Batches[i]
	late := j.ReadyAt.Sub(x.NeedBy)
	if j.State == "done" || late <= 0 {
		return nil
	}
	t := &PrepTrouble{Job: j.ID, Kind: "tight", ReadyAt: j.ReadyAt, LateS: int64(late / time.Second), Helps: []message.Message{}}
	need := x.NeedBy.In(p.zone)
	if p.EarliestReady[i].After(x.NeedBy) {
		t.Kind = "forgotten"
		t.Said = message.Of("prep.forgotten", "what", j.Name, "by", p.moment(p.StartBy[i]), "ready", p.moment(p.EarliestReady[i]), "late",
			lengthOf(p.EarliestReady[i].Sub(x.NeedBy)))
		if !p.QuickReady[i].After(x.NeedBy) {
			t.Helps = append(t.Helps, message.Of("prep.quick", "ready", p.moment(p.QuickReady[i])))
		}
	} else {
		t.Said = message.Of("prep.tight", "what", j.Name, "ready", p.moment(j.ReadyAt), "late", lengthOf(late))
		if w, a := p.sectionLoad(j.Section, p.Now, need); a > 0 {
			t.Helps = append(t.Helps, message.Of("prep.hands-short", "section", p.sectionName(j.Section), "work", lengthOf(w), "there", lengthOf(a)))
		}
	}
	dishes := []string{}
	for _, part := range x.For {
		if d := p.Amounts.Draws[part.Draw]; d.ByBatch == 0 && !d.At.After(t.ReadyAt) {
			if dish, ok := p.book.Dish(d.By); ok && !slices.Contains(dishes, dish.Name) {
				dishes = append(dishes, dish.Name)
			}
		}
	}
	if len(dishes) > 0 {
		t.Helps = append(t.Helps, message.Of("prep.leave-off", "dishes", dishes))
	}
	return t
}

// overdue names the waits that go beyond their longest, and the products that would be
// past their shelf life.
func (p *Prep) overdue(out *PrepPlan, runs map[string]*workload.Run) []PrepTrouble {
	var list []PrepTrouble
	for _, j := range out.Jobs {
		if j.State != "to-do" && j.State != "begun" {
			continue
		}
		c, _ := p.book.Component(j.Component)
		for _, s := range c.InPhase(kitchen.Ahead) {
			for _, a := range s.After {
				w := c.PlannedAhead(&s, a).Wait
				if w.Longest == nil {
					continue
				}
				over := int64(0)
				for _, to := range j.Steps {
					for _, from := range j.Steps {
						if to.Step == s.ID && from.Step == a.Step && !to.Done {
							over = max(over, int64(to.StartAt.Sub(from.FinishAt)/time.Second)-int64(*w.Longest))
						}
					}
				}
				if over > 60 {
					before := c.Steps[c.StepIndex(a.Step)]
					list = append(list, PrepTrouble{Job: j.ID, Kind: "tight", ReadyAt: j.ReadyAt, LateS: over, Helps: []message.Message{},
						Said: message.Of("prep.waits-long", "what", j.Name, "by", message.Rough(over), "from", before.Name, "to", s.Name)})
				}
			}
		}
	}
	return append(list, p.waitsTooLong(out)...)
}

// waitsTooLong names what was made ahead and is wanted later than it may wait: a second batch would be made later.
func (p *Prep) waitsTooLong(out *PrepPlan) (list []PrepTrouble) {
	for i := range p.Amounts.Batches {
		x := &p.Amounts.Batches[i]
		c, _ := p.book.Component(x.Component)
		k := slices.IndexFunc(out.Jobs, func(j Job) bool { return j.ID == x.ID })
		w := c.AcrossTheCut()
		if k < 0 || w.Longest == nil || w.NoLimit {
			continue
		}
		j := &out.Jobs[k]
		if over := int64(x.LastFire.Sub(j.ReadyAt)/time.Second) - int64(*w.Longest); over > 60 && j.State != "done" {
			list = append(list, PrepTrouble{Job: j.ID, Kind: "tight", ReadyAt: j.ReadyAt, LateS: over, Helps: []message.Message{},
				Said: message.Of("prep.waits-for-plate", "what", j.Name, "by", message.Rough(over), "longest", message.Length(*w.Longest), "last",
					p.moment(x.LastFire))})
		}
	}
	return list
}

func (p *Prep) sectionName(id string) string {
	if s, ok := p.book.Section(id); ok {
		return s.Name
	}
	return id
}

// sectionLoad is the open hands-on work of a section's batches that are needed until an
// instant, and the time of its people until then.
func (p *Prep) sectionLoad(section string, from, to time.Time) (work, there time.Duration) {
	for _, t := range p.Workload.Tasks {
		ref := p.Tasks[t.ID]
		x := &p.Amounts.Batches[ref.Batch]
		c, _ := p.book.Component(x.Component)
		s := &c.Steps[c.StepIndex(ref.Step)]
		hands := s.Hands == kitchen.Both || ref.Act == ActIn || ref.Act == ActOut || ref.Act == ActTouch
		if _, done := p.done[cmp.Or(ref.Main, t.ID)]; !done && hands && c.SectionOf(s) == section && !x.NeedBy.After(to) {
			work += time.Duration(t.Seconds) * time.Second
		}
	}
	people := map[string]bool{}
	for _, id := range Hands.names(cooks(p.book, section)) {
		people[id] = true
	}
	a, b := p.second(from), p.second(to)
	for _, r := range p.Workload.Resources {
		if people[r.ID] {
			for _, w := range r.Windows {
				if l := min(w.To, b) - max(w.From, a); l > 0 {
					there += time.Duration(l) * time.Second
				}
			}
		}
	}
	return work, there
}

// merged keeps the worst of what is said of several batches of a component, and says how
// many more there are.
func (p *Prep) merged(list []PrepTrouble) []PrepTrouble {
	component := map[string]string{}
	for _, x := range p.Amounts.Batches {
		component[x.ID] = x.Component
	}
	out, more := []PrepTrouble{}, map[int]int{}
	for _, t := range list {
		k := slices.IndexFunc(out, func(o PrepTrouble) bool { return o.Kind == t.Kind && component[o.Job] == component[t.Job] })
		if k < 0 {
			out = append(out, t)
		} else if out[k].Job != t.Job {
			more[k]++
		}
	}
	for k, n := range more {
		out[k].Said = message.All(out[k].Said, message.Of("prep.the-same", "count", n))
	}
	return out
}
