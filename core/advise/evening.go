package advise

import (
	"slices"

	"jointime/core/expand"
	"jointime/core/message"
)

// EveningDifference says in a sentence or two what moved between two plans of a service:
// the tables whose joins stand at other times, how many firings did, and what fits or no
// longer fits.
func EveningDifference(was, is *expand.EveningPlan) message.Message {
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
	var parts []message.Message
	for _, n := range came {
		parts = append(parts, message.Of("fire.new", "table", n))
	}
	var gone []string
	for _, j := range was.Joins {
		if _, left := old[j.ID]; left && !slices.Contains(gone, j.Name) {
			gone = append(gone, j.Name)
		}
	}
	for _, n := range gone {
		parts = append(parts, message.Of("fire.course-less", "table", n))
	}
	slices.SortStableFunc(moved, func(a, b string) int { return int(abs(by[b]) - abs(by[a])) })
	for _, n := range moved[:min(2, len(moved))] {
		half := message.Length((abs(by[n]) + 15) / 30 * 30)
		if by[n] < 0 {
			parts = append(parts, message.Of("fire.goes-sooner", "table", n, "by", half))
		} else {
			parts = append(parts, message.Of("fire.goes-later", "table", n, "by", half))
		}
	}
	if n := len(moved) - 2; n > 0 {
		parts = append(parts, message.Of("fire.more-tables", "count", n))
	}
	if len(moved) == 0 && len(came) == 0 && len(gone) == 0 {
		parts = append(parts, message.Of("fire.joins-stay"))
	}
	late, before := Lateness(is), Lateness(was)
	switch d := late - before; {
	case d > 60:
		parts = append(parts, message.Of("fire.later-in-all", "by", message.Minutes(d)))
	case d < -60:
		parts = append(parts, message.Of("fire.less-late-in-all", "by", message.Minutes(-d)))
	}
	switch d := Overdue(is) - Overdue(was); {
	case d > 60:
		parts = append(parts, message.Of("fire.holds-more", "by", message.Minutes(d)))
	case d < -60:
		parts = append(parts, message.Of("fire.holds-less", "by", message.Minutes(-d)))
	}
	return message.All(parts...)
}

func abs(d int64) int64 { return max(d, -d) }
