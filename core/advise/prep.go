package advise

import (
	"jointime/core/expand"
	"jointime/core/message"
)

// PrepDifference says in a sentence or two what changed from one make-ahead plan to the
// next: batches that came or went, jobs that start at another time, and what is newly
// late or no longer.
func PrepDifference(was, is *expand.PrepPlan) message.Message {
	count := func(p *expand.PrepPlan) map[string]int {
		m := map[string]int{}
		for _, j := range p.Jobs {
			m[j.Component]++
		}
		return m
	}
	name := map[string]string{}
	var order []string
	for _, p := range []*expand.PrepPlan{was, is} {
		for _, j := range p.Jobs {
			if name[j.Component] == "" {
				name[j.Component] = j.Name
				order = append(order, j.Component)
			}
		}
	}
	a, b := count(was), count(is)
	var parts []message.Message
	for _, id := range order {
		if a[id] != b[id] {
			if b[id] == 0 {
				parts = append(parts, message.Of("prep.no-batch", "what", name[id], "was", a[id]))
			} else {
				parts = append(parts, message.Of("prep.batches", "what", name[id], "count", b[id], "was", a[id]))
			}
		}
	}
	old := map[string]*expand.Job{}
	for i := range was.Jobs {
		old[was.Jobs[i].ID] = &was.Jobs[i]
	}
	moved := 0
	for i := range is.Jobs {
		if o := old[is.Jobs[i].ID]; o != nil && !o.StartAt.Equal(is.Jobs[i].StartAt) {
			moved++
		}
	}
	if moved > 0 {
		parts = append(parts, message.Of("prep.jobs-move", "count", moved))
	}
	if d := len(is.Trouble) - len(was.Trouble); d > 0 {
		parts = append(parts, message.Of("prep.more-late", "count", d))
	} else if d < 0 {
		parts = append(parts, message.Of("prep.in-time-again", "count", -d))
	}
	if len(parts) == 0 {
		return message.Of("prep.as-it-was")
	}
	if len(parts) > 6 {
		parts = append(parts[:5], message.Of("prep.more-changes", "number", len(parts)-5))
	}
	return message.All(parts...)
}
