// Package advise says in sentences what the numbers of a plan mean: here, what a
// change did to it.
package advise

import (
	"jointime/core/expand"
	"jointime/core/message"
	"jointime/core/workload"
)

// Difference says what moved between two plans of the same table: first the
// join, then every component whose firing changed, then what fits or no longer
// fits.
func Difference(before, after *expand.Plan) message.Message {
	if after.Status == workload.Impossible {
		return message.Of("table.impossible")
	}
	var out []message.Message
	d := int64(after.JoinAt.Sub(before.JoinAt).Seconds())
	switch {
	case d == 0:
		out = append(out, message.Of("table.join-stays"))
	case d > 0:
		out = append(out, message.Of("table.join-later", "by", message.Length(d)))
	default:
		out = append(out, message.Of("table.join-earlier", "by", message.Length(-d)))
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
			out = append(out, message.Of("table.new", "what", s.Name))
		case s.Fired && !o.Fired:
			out = append(out, message.Of("table.to-order", "what", s.Name))
		case !s.Fired && o.Fired:
			out = append(out, message.Of("table.ahead", "what", s.Name))
		case s.Fired:
			if d := int64(s.FireAt.Sub(*o.FireAt).Seconds()); d != 0 {
				moved++
				if d < 0 {
					out = append(out, message.Of("table.fires-earlier", "what", s.Name, "by", message.Length(-d)))
				} else {
					out = append(out, message.Of("table.fires-later", "what", s.Name, "by", message.Length(d)))
				}
			}
		}
	}
	for _, s := range before.Strands {
		if _, gone := old[s.Component]; gone {
			out = append(out, message.Of("table.gone", "what", s.Name))
		}
	}
	switch {
	case !after.Keeps() && before.Keeps():
		out = append(out, message.Of("table.not-kept"))
	case after.Keeps() && !before.Keeps():
		out = append(out, message.Of("table.kept-again"))
	case moved == 0 && len(out) == 1:
		out = append(out, message.Of("table.nothing-moves"))
	}
	return message.All(out...)
}
