package advise

import (
	"fmt"
	"strings"

	"jointime/core/expand"
)

// PrepDifference says in a sentence or two what changed from one make-ahead plan to the
// next: batches that came or went, jobs that start at another time, and what is newly
// late or no longer.
func PrepDifference(was, is *expand.PrepPlan) string {
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
	var parts []string
	for _, id := range order {
		if a[id] != b[id] {
			parts = append(parts, fmt.Sprintf("%s: %s, was %d.", name[id], batches(b[id]), a[id]))
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
	switch {
	case moved == 1:
		parts = append(parts, "One job starts at another time.")
	case moved > 1:
		parts = append(parts, fmt.Sprintf("%d jobs start at another time.", moved))
	}
	if d := len(is.Trouble) - len(was.Trouble); d > 0 {
		parts = append(parts, fmt.Sprintf("%d more %s not be ready.", d, plural(d, "batch would", "batches would")))
	} else if d < 0 {
		parts = append(parts, fmt.Sprintf("%d %s ready in time again.", -d, plural(-d, "batch is", "batches are")))
	}
	if len(parts) == 0 {
		return "The plan is as it was."
	}
	if len(parts) > 6 {
		parts = append(parts[:5], fmt.Sprintf("And %d more changes.", len(parts)-5))
	}
	return strings.Join(parts, " ")
}

func batches(n int) string {
	if n == 0 {
		return "no batch"
	}
	return fmt.Sprintf("%d %s", n, plural(n, "batch", "batches"))
}

func plural(n int, one, more string) string {
	if n == 1 {
		return one
	}
	return more
}
