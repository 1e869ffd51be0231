package server

import (
	"context"

	"jointime/core/kitchen"
	"jointime/core/lines"
	"jointime/core/message"
	"jointime/core/safety"
	"jointime/store"
)

// ProbeIn are readings of a probe as they were typed.
type ProbeIn struct {
	Text string `json:"text" maxLength:"20000" doc:"Times since it went in, each with its degrees: 2:00 18, 3:00 22"`
}

// ProbeChange are readings that are to correct a step's time.
type ProbeChange struct {
	Version int64 `json:"version" minimum:"1"`
	ProbeIn
}

type probeIn struct {
	ID   string `path:"id" maxLength:"80"`
	Step string `path:"step" maxLength:"80"`
	Body ProbeIn
}

type keepProbeIn struct {
	ID   string `path:"id" maxLength:"80"`
	Step string `path:"step" maxLength:"80"`
	Body ProbeChange
}

type probedOut struct{ Body safety.Probed }

// probed computes what typed readings amount to for a step of a component.
func probed(b *kitchen.Book, c *kitchen.Component, step, typed string) (safety.Probed, *kitchen.Step, error) {
	i := c.StepIndex(step)
	if i < 0 {
		return safety.Probed{}, nil, store.ErrNotFound
	}
	readings, wrong := lines.Readings(typed)
	if wrong != "" {
		return safety.Probed{}, nil, kitchen.Faults{kitchen.FaultAt("text", "fault.reading", "text", wrong)}
	}
	return safety.Probe(b, &c.Steps[i], readings), &c.Steps[i], nil
}

func (s *Server) readProbe(ctx context.Context, in *probeIn) (*probedOut, error) {
	snap, c, err := s.bookWith(ctx, in.ID)
	if err != nil {
		return nil, s.fail(err)
	}
	p, _, err := probed(snap.Book, c, in.Step, in.Body.Text)
	if err != nil {
		return nil, s.fail(err)
	}
	return &probedOut{p}, nil
}

func (s *Server) keepProbe(ctx context.Context, in *keepProbeIn) (*changedOut, error) {
	snap, err := s.book(ctx)
	if err != nil {
		return nil, s.fail(err)
	}
	return s.editComponent(ctx, in.ID, in.Body.Version, nil, func(c *kitchen.Component) (string, error) {
		p, step, err := probed(snap.Book, c, in.Step, in.Body.Text)
		if err != nil {
			return "", err
		}
		if p.Problem {
			return "", kitchen.Faults{kitchen.FaultAt("text", "fault.text", "text", p.Said[len(p.Said)-1])}
		}
		step.Piece.Observe(p.Factor)
		return message.Of("heat.kept", "what", step.Name, "factor", p.Factor).Text, nil
	})
}
