package advise

import (
	"fmt"
	"slices"
	"strings"

	"jointime/core/expand"
)

// EveningDifference says in a sentence or two what moved between two plans of a service:
// the tables whose joins stand at other times, how many firings did, and what fits or no
// longer fits.
func EveningDifference(was, is *expand.EveningPlan) string {
	old := map[string]expand.EveningJoin{}
	for _, j := range was.Joins {
		old[j.ID] = j
	}
	var moved, came []string
	by := map[string]int64{}
	for _, j := range is.Joins {
		o, known := old[j.ID]
		delete(old, j.ID)
		if !known {
			if !slices.Contains(came, j.Name) {
				came = append(came, j.Name)
			}
			continue
		}
		if d := int64(j.At.Sub(o.At).Seconds()); d > 30 || d < -30 {
			if _, twice := by[j.Name]; !twice {
				moved = append(moved, j.Name)
			}
			if abs(d) > abs(by[j.Name]) {
				by[j.Name] = d
			}
		}
	}
	var parts []string
	for _, n := range came {
		parts = append(parts, n+" is new.")
	}
	var gone []string
	for _, j := range was.Joins {
		if _, left := old[j.ID]; left && !slices.Contains(gone, j.Name) {
			gone = append(gone, j.Name)
		}
	}
	for _, n := range gone {
		parts = append(parts, n+" has a course less.")
	}
	slices.SortStableFunc(moved, func(a, b string) int { return int(abs(by[b]) - abs(by[a])) })
	for _, n := range moved[:min(2, len(moved))] {
		way := "later"
		if by[n] < 0 {
			way = "sooner"
		}
		parts = append(parts, fmt.Sprintf("%s goes %s %s.", n, minutes((abs(by[n])+15)/30*30), way))
	}
	if n := len(moved) - 2; n > 0 {
		parts = append(parts, fmt.Sprintf("%d more %s.", n, plural(n, "table moves", "tables move")))
	}
	if len(moved) == 0 && len(came) == 0 && len(gone) == 0 {
		parts = append(parts, "Every join stays.")
	}
	late, before := Lateness(is), Lateness(was)
	switch d := late - before; {
	case d > 60:
		parts = append(parts, fmt.Sprintf("%s more lateness in all.", minutes(d/60*60)))
	case d < -60:
		parts = append(parts, fmt.Sprintf("%s less lateness in all.", minutes(d/60*60)))
	}
	switch d := Overdue(is) - Overdue(was); {
	case d > 60:
		parts = append(parts, fmt.Sprintf("Holds are passed by %s more.", minutes(d/60*60)))
	case d < -60:
		parts = append(parts, fmt.Sprintf("Holds are passed by %s less.", minutes(d/60*60)))
	}
	return strings.Join(parts, " ")
}

func abs(d int64) int64 { return max(d, -d) }
