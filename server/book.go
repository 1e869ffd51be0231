package server

import (
	"context"
	"fmt"
	"net/http"
	"strings"

	"github.com/danielgtaylor/huma/v2"

	"jointime/core/kitchen"
	"jointime/core/lines"
	"jointime/store"
)

// Named is a name for something new.
type Named struct {
	Name string `json:"name" maxLength:"120"`
}

// ComponentChange replaces what a component says of itself.
type ComponentChange struct {
	Version   int64             `json:"version" minimum:"1"`
	Component kitchen.Component `json:"component"`
}

// ChainEdit is one edit of a component's chain of steps.
type ChainEdit struct {
	Version int64  `json:"version" minimum:"1"`
	Edit    string `json:"edit" enum:"add,remove,move,cut"`
	// At is where a step is added, which step is moved or removed (by its place in the
	// list, from 0), or how many steps are made ahead.
	At   int    `json:"at" minimum:"0" maximum:"200"`
	To   int    `json:"to,omitempty" minimum:"0" maximum:"200" doc:"Where it is moved"`
	Line string `json:"line,omitempty" maxLength:"500" doc:"The new step, said as a kitchen line"`
}

// Typed is something typed into a field, to be understood.
type Typed struct {
	As   string `json:"as" enum:"time,seconds,degrees,clock,hours" doc:"A bare number is minutes as a time, seconds as seconds"`
	Text string `json:"text" maxLength:"60"`
}

// Understood is what it means; everything but OK is empty where it means nothing.
type Understood struct {
	OK    bool    `json:"ok"`
	Value float64 `json:"value" doc:"Seconds, °C, or minutes after midnight"`
	// Stretches are those of a day's hours.
	Stretches []lines.Stretch `json:"stretches" nullable:"false"`
	Said      string          `json:"said" doc:"The same, as it will be shown"`
}

type (
	understandIn  struct{ Body Typed }
	understoodOut struct{ Body Understood }
)

func (s *Server) bookRoutes(api huma.API) {
	huma.Register(api, huma.Operation{OperationID: "understand", Method: http.MethodPost, Path: "/api/understand",
		Summary: "What a typed time or temperature means", MaxBodyBytes: maxBody},
		s.understand)
	huma.Register(api, huma.Operation{OperationID: "change-component", Method: http.MethodPut, Path: "/api/components/{id}",
		Summary: "Change a component", MaxBodyBytes: maxBody, Errors: []int{404, 409, 422}},
		s.changeComponent)
	huma.Register(api, huma.Operation{OperationID: "copy-component", Method: http.MethodPost, Path: "/api/components/{id}/copy",
		Summary: "A new component that begins as a copy", MaxBodyBytes: maxBody, Errors: []int{404, 422}},
		s.copyComponent)
	huma.Register(api, huma.Operation{OperationID: "edit-chain", Method: http.MethodPost, Path: "/api/components/{id}/chain",
		Summary: "Add, remove or move a step, or move the cut", MaxBodyBytes: maxBody, Errors: []int{404, 409, 422}},
		s.editChain)
}

type changeComponentIn struct {
	ID   string `path:"id" maxLength:"80"`
	Body ComponentChange
}

func (s *Server) changeComponent(ctx context.Context, in *changeComponentIn) (*changedOut, error) {
	return s.editComponent(ctx, in.ID, in.Body.Version, nil, func(c *kitchen.Component) (string, error) {
		said := c.Name + " changed."
		switch n := in.Body.Component; {
		case n.Archived && !c.Archived:
			said = c.Name + " archived."
		case !n.Archived && c.Archived:
			said = c.Name + " brought back."
		case n.Name != c.Name:
			said = fmt.Sprintf("%s is called %s now.", c.Name, n.Name)
		}
		*c = in.Body.Component
		c.ID, c.Name = in.ID, strings.TrimSpace(c.Name)
		return said, nil
	})
}

type copyComponentIn struct {
	ID   string `path:"id" maxLength:"80"`
	Body Named
}

func (s *Server) copyComponent(ctx context.Context, in *copyComponentIn) (*componentOut, error) {
	snap, err := s.book(ctx)
	if err != nil {
		return nil, s.fail(err)
	}
	c, ok := snap.Book.Component(in.ID)
	if !ok {
		return nil, s.fail(store.ErrNotFound)
	}
	made := c.Clone()
	made.Name, made.Archived = strings.TrimSpace(in.Body.Name), false
	made.ID = freeID(made.Name, func(id string) bool { return snap.Versions[componentKey(id)] != 0 })
	version, err := s.store.Save(ctx, componentKey(made.ID), 0, made, "Copied from "+c.Name+".")
	if err != nil {
		return nil, s.fail(err)
	}
	return &componentOut{componentView(snap.Book, &made, version)}, nil
}

type editChainIn struct {
	ID   string `path:"id" maxLength:"80"`
	Body ChainEdit
}

func (s *Server) editChain(ctx context.Context, in *editChainIn) (*changedOut, error) {
	snap, err := s.book(ctx)
	if err != nil {
		return nil, s.fail(err)
	}
	known := lines.KnownOf(snap.Book)
	return s.editComponent(ctx, in.ID, in.Body.Version, nil, func(c *kitchen.Component) (string, error) { return in.Body.apply(known, c) })
}

func (e *ChainEdit) apply(known *lines.Known, c *kitchen.Component) (said string, err error) {
	switch e.Edit {
	case "add":
		read, _ := known.Parse(kitchen.Component{Name: c.Name, Thing: c.Thing}, e.Line)
		if len(read.Steps) != 1 {
			return "", kitchen.Faults{kitchen.FaultAt("line", "fault.one-line")}
		}
		said, err = c.Name+": "+read.Steps[0].Name+" added.", c.InsertStep(e.At, read.Steps[0])
	case "cut":
		said, err = c.Name+": the cut moved.", c.CutAt(e.At)
	default:
		if e.At >= len(c.Steps) {
			return "", kitchen.Faults{kitchen.FaultAt("at", "fault.range", "low", 0, "high", len(c.Steps)-1, "got", e.At)}
		}
		name := c.Steps[e.At].Name
		if e.Edit == "remove" {
			said, err = c.Name+": "+name+" taken out.", c.RemoveStep(c.Steps[e.At].ID)
		} else {
			said, err = c.Name+": "+name+" moved.", c.MoveStep(e.At, e.To)
		}
	}
	if err != nil {
		return "", kitchen.Faults{kitchen.FaultOf("at", err)}
	}
	return said, nil
}

func (s *Server) understand(_ context.Context, in *understandIn) (*understoodOut, error) {
	u := Understood{Stretches: []lines.Stretch{}}
	read := func(value int, ok bool, say func(int) string) {
		if u.OK = ok; ok {
			u.Value, u.Said = float64(value), say(value)
		}
	}
	switch t := in.Body; t.As {
	case "degrees":
		if u.Value, u.OK = lines.Degrees(t.Text); u.OK {
			u.Said = fmt.Sprintf("%g °C", u.Value)
		}
	case "seconds":
		v, ok := lines.TypedSeconds(t.Text)
		read(v, ok, lines.Say)
	case "clock":
		v, ok := lines.Clock(t.Text)
		read(v, ok, lines.SayClock)
	case "hours":
		if list, ok := lines.Hours(t.Text); ok {
			u.OK, u.Stretches, u.Said = true, append(u.Stretches, list...), lines.SayHours(list)
		}
	default:
		v, ok := lines.Typed(t.Text)
		read(v, ok, lines.Say)
	}
	return &understoodOut{u}, nil
}
