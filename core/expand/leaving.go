package expand

import (
	"fmt"

	"jointime/core/kitchen"
	"jointime/core/message"
	"jointime/core/workload"
)

// Portions of one batch go in together, and leave it at their own times: one that is wanted well done keeps nobody else's in.
// The batch lasts as long as the longest of them; the others are runs that need nothing, each with its own taking out.

// leaver is the portions [from, to) of a batch, which are in it for so many seconds more (or, negative, less) than usual.
type leaver struct{ from, to, more int }

// leaving divides the portions of a batch by how long they are in it, as their guests wish.
func leaving(s *kitchen.Step, wishes []string) []leaver {
	var out []leaver
	for i, more := range s.Longer(wishes) {
		if n := len(out); n > 0 && out[n-1].more == more {
			out[n-1].to = i + 1
			continue
		}
		out = append(out, leaver{i, i + 1, more})
	}
	if s.Hands == kitchen.Both && len(out) > 1 {
		// Who stands at it stands there until the last is done.
		return []leaver{{0, len(wishes), longest(out)}}
	}
	return out
}

func longest(list []leaver) int {
	out := list[0].more
	for _, l := range list[1:] {
		out = max(out, l.more)
	}
	return out
}

// apart adds a batch whose portions leave it at different times, and returns the parts in which they go on.
func (f *Firing) apart(x *wanted, s *kitchen.Step, t *workload.Task, b batch, leaves []leaver, usual int, people []string) []batch {
	// What is laid in is laid in together; each part is taken out by itself.
	in := *s
	in.Ends.OutS, in.Ends.OutEachS = 0, 0
	acts, ties := actsOf(t, &in, b.to-b.from, people)
	f.add(*t, b.ref, x, b)
	f.acts(x, b, acts, ties)
	out := kitchen.Step{Name: s.Name, Hands: s.Hands, Ends: kitchen.Ends{OutS: s.Ends.OutS, OutEachS: s.Ends.OutEachS}}
	zero := int64(0)
	var parts []batch
	for k, l := range leaves {
		n := l.to - l.from
		p := batch{id: fmt.Sprintf("%s-leaves-%d", b.id, k+1), from: b.from + l.from, to: b.from + l.to, ref: b.ref}
		p.ref.Act, p.ref.Main, p.ref.Portions, p.ref.Say = ActLeave, b.id, n, message.Of("act.leave").Text
		run := workload.Task{ID: p.id, Name: t.Name + ", " + p.ref.Say, Seconds: int64(max(usual+l.more, out.Ends.Out(n), 0))}
		f.add(run, p.ref, x, p)
		f.Workload.Links = append(f.Workload.Links, workload.Link{From: b.id, To: p.id, Kind: workload.StartStart, Max: &zero, Weight: 1})
		// Whoever has an eye on the batch takes out of it.
		acts, ties := actsOf(&run, &out, n, people)
		for i := range acts {
			for m := range acts[i].Needs {
				if as := acts[i].Needs[m].As; as != nil {
					as.Task = b.id
				}
			}
		}
		p.ref.Leaves = p.id
		f.acts(x, p, acts, ties)
		parts = append(parts, p)
	}
	return parts
}
