package advise

import (
	"strings"

	"jointime/core/expand"
	"jointime/core/message"
	"jointime/core/workload"
)

// Explain says broken or contradicting rules of a table in sentences: what is wanted,
// of what, and by how much it is missed.
func Explain(f *expand.Firing, broken []workload.Broken) []message.Message {
	names := map[string]string{}
	for _, r := range f.Workload.Resources {
		names[r.ID] = r.Name
	}
	for _, t := range f.Workload.Tasks {
		name := t.Name
		if ref := f.Tasks[t.ID]; ref.Of > 1 {
			name = message.Of("task.batch", "what", name, "number", ref.Batch, "of", ref.Of).Text
		}
		names[t.ID] = name
	}
	names[f.Table.ID] = message.Of("task.join").Text
	called := func(id string) string {
		if n := names[id]; n != "" {
			return n
		}
		return id
	}
	said := map[string]bool{}
	out := []message.Message{}
	for _, b := range broken {
		s := sentence(b, called, f)
		if !said[s.Text] {
			said[s.Text] = true
			out = append(out, s)
		}
	}
	return out
}

func sentence(b workload.Broken, called func(string) string, f *expand.Firing) message.Message {
	who := make([]string, len(b.IDs))
	for i, id := range b.IDs {
		who[i] = called(id)
	}
	by := ""
	if b.By > 0 && b.Unit == "s" {
		by = message.Of("broken.over", "by", message.Length(b.By)).Text
	}
	first, rest := "", ""
	if len(who) > 0 {
		first, rest = who[0], strings.Join(who[1:], ", ")
	}
	switch b.Rule {
	case workload.RuleMax:
		if most, ok := longest(f, b.IDs); ok {
			return message.Of("broken.waits-most", "what", first, "most", message.Length(most), "over", by)
		}
		return message.Of("broken.waits-long", "what", first, "for", rest, "over", by)
	case workload.RuleMin:
		return message.Of("broken.waits-short", "what", first, "before", rest, "over", by)
	case workload.RuleCapacity:
		if rest == "" {
			return message.Of("broken.not-enough", "what", first)
		}
		return message.Of("broken.wanted-twice", "what", first, "by", rest)
	case workload.RuleWindow:
		if rest == "" {
			return message.Of("broken.not-there-long", "what", first)
		}
		return message.Of("broken.not-there", "what", first, "by", rest)
	case workload.RuleSetpoint, workload.RuleChangeover:
		if rest == "" {
			return message.Of("broken.one-heat", "what", first)
		}
		return message.Of("broken.change-heat", "what", first, "between", strings.Join(who[1:], message.Of("words.and").Text), "over", by)
	case workload.RuleHorizon, workload.RuleLatest:
		return message.Of("broken.ends-late", "what", first, "over", by)
	case workload.RuleEarliest, workload.RuleNow:
		return message.Of("broken.starts-early", "what", first, "over", by)
	}
	return message.Of("broken.rule", "rule", b.Rule, "who", who, "over", by)
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
			most += f.Wanted(f.Tasks[l.To], f.Tasks[l.From].Component)
		}
		return most, true
	}
	return 0, false
}
