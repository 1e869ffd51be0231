package advise

import (
	"fmt"
	"strings"

	"jointime/core/expand"
	"jointime/core/workload"
)

// Explain says broken or contradicting rules of a table in sentences: what is wanted,
// of what, and by how much it is missed.
func Explain(f *expand.Firing, broken []workload.Broken) []string {
	names := map[string]string{}
	for _, r := range f.Workload.Resources {
		names[r.ID] = r.Name
	}
	for _, t := range f.Workload.Tasks {
		name := t.Name
		if ref := f.Tasks[t.ID]; ref.Of > 1 {
			name += fmt.Sprintf(" (batch %d of %d)", ref.Batch, ref.Of)
		}
		names[t.ID] = name
	}
	names[f.Table.ID] = "the join"
	called := func(id string) string {
		if n := names[id]; n != "" {
			return n
		}
		return id
	}
	said := map[string]bool{}
	out := []string{}
	for _, b := range broken {
		s := sentence(b, called, f)
		if !said[s] {
			said[s] = true
			out = append(out, s)
		}
	}
	return out
}

func sentence(b workload.Broken, called func(string) string, f *expand.Firing) string {
	who := make([]string, len(b.IDs))
	for i, id := range b.IDs {
		who[i] = called(id)
	}
	by := ""
	if b.By > 0 && b.Unit == "s" {
		by = ", " + minutes(b.By) + " over"
	}
	first, rest := "", ""
	if len(who) > 0 {
		first, rest = who[0], strings.Join(who[1:], ", ")
	}
	switch b.Rule {
	case workload.RuleMax:
		if most, ok := longest(f, b.IDs); ok {
			return fmt.Sprintf("%s may wait at most %s%s.", first, minutes(most), by)
		}
		return fmt.Sprintf("%s may not wait so long for %s%s.", first, rest, by)
	case workload.RuleMin:
		return fmt.Sprintf("%s must wait longer before %s%s.", first, rest, by)
	case workload.RuleCapacity:
		if rest == "" {
			return fmt.Sprintf("%s: there is not enough of it.", first)
		}
		return fmt.Sprintf("%s is wanted more than once at a time: %s.", first, rest)
	case workload.RuleWindow:
		if rest == "" {
			return fmt.Sprintf("%s is not there long enough.", first)
		}
		return fmt.Sprintf("%s is not there when it is wanted: %s.", first, rest)
	case workload.RuleSetpoint, workload.RuleChangeover:
		if rest == "" {
			return fmt.Sprintf("%s has one temperature at a time, and changing takes minutes.", first)
		}
		return fmt.Sprintf("%s cannot change its temperature in time between %s%s.", first, strings.Join(who[1:], " and "), by)
	case workload.RuleHorizon, workload.RuleLatest:
		return fmt.Sprintf("%s ends too late%s.", first, by)
	case workload.RuleEarliest, workload.RuleNow:
		return fmt.Sprintf("%s would have to start before it can%s.", first, by)
	}
	return fmt.Sprintf("%s: %s%s.", b.Rule, strings.Join(who, ", "), by)
}

// longest is what the kitchen's data allows between two steps, or from a step to the
// plate: the link's longest wait without the plating clock's offset.
func longest(f *expand.Firing, ids []string) (int64, bool) {
	if len(ids) < 2 {
		return 0, false
	}
	for _, l := range f.Workload.Links {
		if l.From != ids[0] || l.To != ids[1] || l.Max == nil {
			continue
		}
		most := *l.Max
		if f.Tasks[l.To].Plating {
			most += int64(f.Clock.First[f.Tasks[l.From].Component])
		}
		return most, true
	}
	return 0, false
}
