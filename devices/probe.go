package devices

import (
	"context"
	"encoding/json"
	"fmt"
	"io"
	"time"

	"jointime/core/heat"
	"jointime/core/kitchen"
	"jointime/core/service"
)

// Probe is a thermometer in the middle of what is cooked.
type Probe struct {
	Service   string
	Component string        // what it is put into
	Factor    float64       // how many times as long as computed the piece takes
	Every     time.Duration // between two readings
	Faster    float64       // so many seconds of the piece go by in one of the clock; 1 for a real one
}

// Measure waits until some of the component is on, and sends what its core is, from core/heat, until it is done or the context ends. Each
// reading is written as a JSON line. The error says that nothing can be computed of the component, or what the server said.
func (c *Client) Measure(ctx context.Context, p Probe, out io.Writer) error {
	var line *service.DueLine
	for line == nil {
		var due service.DueView
		if err := c.call(ctx, "GET", of(p.Service, "due"), nil, &due); err != nil {
			return err
		}
		if line = on(&due, p.Component); line != nil {
			break
		}
		if err := wait(ctx, p.Every); err != nil {
			return err
		}
	}
	piece, err := c.piece(ctx, line)
	if err != nil {
		return err
	}
	course, err := piece.Course(p.Factor, p.Every.Seconds()*p.Faster)
	if err != nil {
		return err
	}
	say := json.NewEncoder(out)
	for _, r := range course {
		at := time.Now()
		reading := map[string]any{"celsius": r.C} // when, the server knows better
		if err := c.call(ctx, "POST", of(p.Service, "readings"), map[string]any{"task": line.Task, "component": line.Component, "step": line.Step,
			"device": "probe", "readings": []any{reading}}, nil); err != nil {
			return err
		}
		if err := say.Encode(map[string]any{"task": line.Task, "at": at.UTC(), "celsius": r.C}); err != nil {
			return err
		}
		if r.C >= piece.TargetC == (piece.TargetC > piece.StartC) {
			return nil
		}
		if err := wait(ctx, p.Every); err != nil {
			return err
		}
	}
	return nil
}

// on is a run of a component that is on, nil for none.
func on(due *service.DueView, component string) *service.DueLine {
	for i := range due.Sections {
		for k := range due.Sections[i].On {
			if l := &due.Sections[i].On[k]; l.Component == component {
				return l
			}
		}
	}
	return nil
}

// piece is what a run cooks, as the dish book has it.
func (c *Client) piece(ctx context.Context, l *service.DueLine) (heat.Piece, error) {
	var house struct {
		Kitchen   kitchen.Kitchen
		Sections  []kitchen.Section
		People    []kitchen.Person
		Equipment []kitchen.Equipment
	}
	var view struct{ Component kitchen.Component }
	if err := c.call(ctx, "GET", "/api/kitchen", nil, &house); err != nil {
		return heat.Piece{}, err
	}
	if err := c.call(ctx, "GET", "/api/components/"+l.Component, nil, &view); err != nil {
		return heat.Piece{}, err
	}
	k := view.Component.StepIndex(l.Step)
	if k < 0 {
		return heat.Piece{}, fmt.Errorf("%s has no step %q", l.Component, l.Step)
	}
	b, err := kitchen.NewBook(kitchen.Data{Kitchen: house.Kitchen, Sections: house.Sections, People: house.People, Equipment: house.Equipment})
	if err != nil {
		return heat.Piece{}, err
	}
	piece, err := b.Heated(&view.Component.Steps[k])
	if err != nil {
		return heat.Piece{}, fmt.Errorf("%s, %s: %w", view.Component.Name, view.Component.Steps[k].Name, err)
	}
	return piece, nil
}

func wait(ctx context.Context, d time.Duration) error {
	select {
	case <-time.After(d):
		return nil
	case <-ctx.Done():
		return ctx.Err()
	}
}
