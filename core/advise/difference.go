// Package advise says in sentences what the numbers of a plan mean: here, what a
// change did to it.
package advise

import (
	"fmt"
	"strings"

	"jointime/core/expand"
	"jointime/core/workload"
)

// minutes writes a length of time as a cook says it: `45 s`, `2 min`, `2:30 min`,
// `1 h 20 min`.
func minutes(s int64) string {
	if s < 0 {
		s = -s
	}
	switch {
	case s < 60:
		return fmt.Sprintf("%d s", s)
	case s >= 3600 && s%3600 < 60:
		return fmt.Sprintf("%d h", s/3600)
	case s >= 3600:
		return fmt.Sprintf("%d h %d min", s/3600, s%3600/60)
	case s%60 == 0:
		return fmt.Sprintf("%d min", s/60)
	default:
		return fmt.Sprintf("%d:%02d min", s/60, s%60)
	}
}

// Difference says what moved between two plans of the same table: first the
// join, then every component whose firing changed, then what fits or no longer
// fits.
func Difference(before, after *expand.Plan) string {
	if after.Status == workload.Impossible {
		return "This cannot be done: the rules contradict each other."
	}
	var out []string
	d := int64(after.JoinAt.Sub(before.JoinAt).Seconds())
	switch {
	case d == 0:
		out = append(out, "Join unchanged.")
	case d > 0:
		out = append(out, fmt.Sprintf("Join moves %s later.", minutes(d)))
	default:
		out = append(out, fmt.Sprintf("Join moves %s earlier.", minutes(d)))
	}
	old := map[string]expand.Strand{}
	for _, s := range before.Strands {
		old[s.Component] = s
	}
	moved := 0
	for _, s := range after.Strands {
		o, known := old[s.Component]
		delete(old, s.Component)
		switch {
		case !known:
			out = append(out, s.Name+" is new.")
		case s.Fired && !o.Fired:
			out = append(out, s.Name+" is now made to order.")
		case !s.Fired && o.Fired:
			out = append(out, s.Name+" is now made ahead.")
		case s.Fired:
			if d := int64(s.FireAt.Sub(*o.FireAt).Seconds()); d != 0 {
				moved++
				way := "later"
				if d < 0 {
					way = "earlier"
				}
				out = append(out, fmt.Sprintf("%s fires %s %s.", s.Name, minutes(d), way))
			}
		}
	}
	for _, s := range before.Strands {
		if _, gone := old[s.Component]; gone {
			out = append(out, s.Name+" is gone.")
		}
	}
	switch {
	case len(after.Broken) > 0 && len(before.Broken) == 0:
		out = append(out, "Not every rule can be kept now.")
	case len(after.Broken) == 0 && len(before.Broken) > 0:
		out = append(out, "Every rule is kept again.")
	case moved == 0 && len(out) == 1:
		out = append(out, "Nothing fires at another time.")
	}
	return strings.Join(out, " ")
}
