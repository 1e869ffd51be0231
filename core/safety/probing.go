package safety

import (
	"errors"
	"math"

	"jointime/core/heat"
	"jointime/core/kitchen"
	"jointime/core/message"
)

// Probed is what readings of a probe amount to: when the core is at its target, and what a code gives for that.
type Probed struct {
	Problem bool              `json:"problem" doc:"Nothing can be said from these readings"`
	Said    []message.Message `json:"said" nullable:"false"`
	AtS     int               `json:"at_s" doc:"The core is at its target so many seconds after it went in"`
	ErrorS  int               `json:"error_s" doc:"± seconds, two times of three"`
	Factor  float64           `json:"factor" doc:"How much longer than computed it takes; 0 when that is not known"`
}

// Probe reads what a probe said of a step's piece, in seconds since it went in: when the core will be at its target by the piece's own
// model run faster or slower, and when it reaches the equivalent of what the kitchen's code asks for. It is a computation, not a verdict.
func Probe(b *kitchen.Book, s *kitchen.Step, readings []heat.Reading) Probed {
	out := Probed{Said: []message.Message{}}
	fail := func(m message.Message) Probed {
		out.Problem, out.Said = true, append(out.Said, m)
		return out
	}
	for i := 1; i < len(readings); i++ {
		if readings[i].S <= readings[i-1].S {
			return fail(message.Of("heat.probe-order"))
		}
	}
	p, err := b.Heated(s)
	if err != nil {
		return fail(kitchen.NotComputed(err))
	}
	now := 0.0
	if n := len(readings); n > 0 {
		now = readings[n-1].S
	}
	f, err := p.Probe(readings, now)
	switch {
	case errors.Is(err, heat.ErrSilent):
		return fail(message.Of("heat.probe-silent"))
	case errors.Is(err, heat.ErrFew):
		return fail(message.Of("heat.probe-few"))
	case errors.Is(err, heat.ErrJumps):
		return fail(message.Of("heat.probe-jumps"))
	case errors.Is(err, heat.ErrFalls):
		return fail(message.Of("heat.probe-falls"))
	case err != nil:
		return fail(kitchen.NotComputed(err))
	}
	out.AtS, out.Factor = int(math.Round(f.S)), math.Round(f.Factor*100)/100
	if there, ok := reached(readings, p.TargetC, p.TargetC > p.StartC); ok {
		out.AtS = int(math.Round(there))
		out.Said = append(out.Said, message.Of("heat.probe-there", "target", p.TargetC, "at", message.Length(out.AtS)))
	} else {
		out.ErrorS = max(5, int(math.Ceil(f.Error/5))*5)
		out.Said = append(out.Said, message.Of("heat.probe-forecast", "target", p.TargetC, "at", message.Length(out.AtS), "error",
			message.Length(out.ErrorS)))
	}
	out.Said = append(out.Said, message.Of("heat.probe-factor", "factor", out.Factor))
	if p.TargetC > p.StartC {
		out.Said = append(out.Said, reaches(b.Kitchen().SafetyCode, &p, f.Factor, readings))
	}
	return out
}

// reached is when readings first came to a temperature.
func reached(rs []heat.Reading, c float64, up bool) (float64, bool) {
	for i := 1; i < len(rs); i++ {
		if a, b := rs[i-1], rs[i]; up && b.C >= c || !up && b.C <= c {
			return a.S + (b.S-a.S)*(c-a.C)/(b.C-a.C), true
		}
	}
	return 0, false
}

// reaches compares the core's history, what was read and then what is expected until the target, with what a code asks for.
func reaches(under kitchen.SafetyCode, p *heat.Piece, factor float64, readings []heat.Reading) message.Message {
	kill, equal := heat.KillUK, message.Of("heat.kill-uk")
	if under == kitchen.CodeFDA {
		kill, equal = heat.KillFDA, message.Of("heat.kill-fda")
	}
	history := append([]heat.Reading{}, readings...)
	last := readings[len(readings)-1]
	if course, err := p.Course(factor, 10); err == nil {
		for _, r := range course {
			if r.S > last.S && r.C > last.C {
				history = append(history, r)
			}
		}
	}
	name := codeOf(under).name
	if at, ok := kill.Enough(history); ok {
		return message.Of("heat.reaches", "equal", equal, "at", message.Rough(int(math.Round(at))), "code", name)
	}
	end := history[len(history)-1].S
	return message.Of("heat.reaches-not", "equal", equal, "at", message.Rough(int(math.Round(end))), "code", name)
}
