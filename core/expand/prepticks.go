package expand

import (
	"slices"

	"jointime/core/kitchen"
)

// Ticked is the plan with what has been ticked since it was made, before the next plan
// moves anything for it: which steps are done, how far the batches and the sections are.
func (p *PrepPlan) Ticked(done map[string]Done) *PrepPlan {
	out := *p
	out.Jobs = slices.Clone(p.Jobs)
	for i := range out.Jobs {
		j := &out.Jobs[i]
		j.Steps = slices.Clone(j.Steps)
		n, begun := 0, false
		for k := range j.Steps {
			t := &j.Steps[k]
			d, ticked := done[t.Task]
			t.Done = ticked
			if ticked {
				n++
				begun = true
				if d.Amount != nil && *d.Amount > 0 {
					j.Amount = *d.Amount
				}
			}
			begun = begun || t.Begun
		}
		switch {
		case j.Steps[len(j.Steps)-1].Done || n == len(j.Steps):
			j.State = "done"
		case j.State == "forgotten" || j.State == "tight":
			// It is late for its service until it is done.
		case begun:
			j.State = "begun"
		default:
			j.State = "to-do"
		}
	}
	out.Gates = slices.Clone(p.Gates)
	for i := range out.Gates {
		out.Gates[i].count(out.Jobs)
	}
	return &out
}

// count counts the batches that a section makes for a service, and those that are done.
func (g *Gate) count(jobs []Job) {
	g.Of, g.Ready = 0, 0
	for _, j := range jobs {
		if j.Section == g.Section && slices.Contains(j.For, g.Service) {
			g.Of++
			if j.State == "done" {
				g.Ready++
			}
		}
	}
}

// PrepTask is what a run of the make-ahead workload is.
type PrepTask struct {
	Batch     string `json:"batch"`
	Component string `json:"component"`
	Service   string `json:"service"`
	Step      string `json:"step"`
	Part      int    `json:"part"`
	Of        int    `json:"of"`
	Portions  int    `json:"portions"`
}

// Refs says what every task of the workload is.
func (p *Prep) Refs() map[string]PrepTask {
	out := make(map[string]PrepTask, len(p.Tasks))
	for id, ref := range p.Tasks {
		if ref.Act != "" {
			continue
		}
		x := &p.Amounts.Batches[ref.Batch]
		out[id] = PrepTask{x.ID, x.Component, x.Service, ref.Step, ref.Part, ref.Of, p.portionsOf(id)}
	}
	return out
}

// portionsOf is how many portions go through a run.
func (p *Prep) portionsOf(task string) int {
	ref := p.Tasks[task]
	x := &p.Amounts.Batches[ref.Batch]
	c, _ := p.book.Component(x.Component)
	for _, s := range c.InPhase(kitchen.Ahead) {
		if s.ID == ref.Step {
			return s.Batch.Split(x.Portions)[ref.Part-1]
		}
	}
	return x.Portions
}
