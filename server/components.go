package server

import (
	"context"
	"fmt"
	"net/http"

	"github.com/danielgtaylor/huma/v2"

	"jointime/core/advise"
	"jointime/core/expand"
	"jointime/core/kitchen"
	"jointime/core/message"
	"jointime/core/safety"
	"jointime/store"
)

// ComponentView is a component with its version.
type ComponentView struct {
	Component kitchen.Component    `json:"component"`
	Version   int64                `json:"version"`
	Assumed   kitchen.Assumed      `json:"assumed" doc:"What is taken for granted where nobody said"`
	Mates     []kitchen.Mate       `json:"mates" nullable:"false" doc:"What is cooked to order for the same plates: its steps may come after theirs"`
	Known     bool                 `json:"known" doc:"Its recipe was entered, and somebody said that it is complete as it stands"`
	Suggests  []kitchen.Suggestion `json:"suggests" nullable:"false" doc:"What its words suggest and nobody said"`
	Heating   []StepHeating        `json:"heating" nullable:"false" doc:"What the sizes of its steps amount to"`
	Ovens     []StepOven           `json:"ovens" nullable:"false" doc:"The heat of its steps in an oven, as other ovens have it"`
	Limits    []safety.Limit       `json:"limits" nullable:"false" doc:"What the kitchen's code says of it, and the dangers of the work"`
}

func componentView(b *kitchen.Book, c *kitchen.Component, version int64) ComponentView {
	return ComponentView{*c, version, c.Assumed(), b.Mates(c.ID), c.Known(), b.Suggestions(c), heatings(b, c), ovens(b, c),
		safety.Limits(b, c)}
}

// StepHeating is what the size of one step amounts to.
type StepHeating struct {
	Step string `json:"step"`
	kitchen.Heating
}

func heatings(b *kitchen.Book, c *kitchen.Component) []StepHeating {
	out := []StepHeating{}
	for i := range c.Steps {
		if h := b.Heating(&c.Steps[i]); h != nil {
			out = append(out, StepHeating{c.Steps[i].ID, *h})
		}
	}
	return out
}

// StepOven is the heat of one step in an oven, as other ovens have it.
type StepOven struct {
	Step string          `json:"step"`
	Said message.Message `json:"said"`
}

func ovens(b *kitchen.Book, c *kitchen.Component) []StepOven {
	out := []StepOven{}
	for i := range c.Steps {
		if m := b.OvenSaid(&c.Steps[i]); m != nil {
			out = append(out, StepOven{c.Steps[i].ID, *m})
		}
	}
	return out
}

// StepChange says what is to be different about a step; what is missing stays.
type StepChange struct {
	Version int64             `json:"version" doc:"The component's version that the change was made from" minimum:"1"`
	Name    *string           `json:"name,omitempty"`
	Hands   *kitchen.Hands    `json:"hands,omitempty" enum:"both,tend,none"`
	Time    *kitchen.StepTime `json:"time,omitempty"`
	// LikelyS and Portions set the fixed part of the time so that a batch of so many
	// portions takes LikelyS; the low and the high time keep their proportion.
	LikelyS   *int                   `json:"likely_s,omitempty" minimum:"0"`
	Portions  int                    `json:"portions,omitempty" minimum:"0"`
	After     *[]kitchen.Predecessor `json:"after,omitempty" nullable:"false"`
	Equipment *kitchen.EquipmentNeed `json:"equipment,omitempty"`
	// NoEquipment takes the need away.
	NoEquipment bool          `json:"no_equipment,omitempty"`
	Hold        *kitchen.Wait `json:"hold,omitempty" doc:"The component's wait from its last step to the plate"`
	// Table is the plan that the page shows; the answer says what happened to it.
	Table *TableWish `json:"table,omitempty"`
}

// Restore asks for a version of long ago back, as a new version.
type Restore struct {
	Version int64      `json:"version" doc:"The current version" minimum:"1"`
	To      int64      `json:"to" doc:"The version wanted back" minimum:"1"`
	Table   *TableWish `json:"table,omitempty"`
}

// Changed is the answer to a change: the thing as it is now, the plan with it,
// and what it did to the plan in a sentence.
type Changed struct {
	ComponentView
	Plan *expand.Plan    `json:"plan,omitempty"`
	Said message.Message `json:"said"`
}

type (
	componentsOut struct {
		Body []ComponentLine `nullable:"false"`
	}
	componentOut struct{ Body ComponentView }
	historyOut   struct {
		Body []store.Version `nullable:"false"`
	}
	changedOut struct{ Body Changed }
)

func (s *Server) componentRoutes(api huma.API) {
	huma.Register(api, huma.Operation{OperationID: "list-components", Method: http.MethodGet, Path: "/api/components",
		Summary: "All components"},
		s.listComponents)
	huma.Register(api, huma.Operation{OperationID: "get-component", Method: http.MethodGet, Path: "/api/components/{id}",
		Summary: "One component with its steps", Errors: []int{404}},
		s.getComponent)
	huma.Register(api, huma.Operation{OperationID: "component-history", Method: http.MethodGet, Path: "/api/components/{id}/history",
		Summary: "Every version of a component, newest first", Errors: []int{404}},
		s.componentHistory)
	huma.Register(api, huma.Operation{OperationID: "change-step", Method: http.MethodPatch, Path: "/api/components/{id}/steps/{step}",
		Summary: "Change a step's times, waits or equipment", MaxBodyBytes: maxBody, Errors: []int{404, 409, 422}},
		s.changeStep)
	huma.Register(api, huma.Operation{OperationID: "read-probe", Method: http.MethodPost, Path: "/api/components/{id}/steps/{step}/probe",
		Summary: "What readings of a probe amount to, without keeping them", MaxBodyBytes: maxBody, Errors: []int{404, 422}},
		s.readProbe)
	huma.Register(api, huma.Operation{OperationID: "keep-probe", Method: http.MethodPut, Path: "/api/components/{id}/steps/{step}/probe",
		Summary: "Let what a probe said correct a step's computed time", MaxBodyBytes: maxBody, Errors: []int{404, 409, 422}},
		s.keepProbe)
	huma.Register(api, huma.Operation{OperationID: "restore-component", Method: http.MethodPost, Path: "/api/components/{id}/restore",
		Summary: "Bring an earlier version back", MaxBodyBytes: maxBody, Errors: []int{404, 409, 422}},
		s.restoreComponent)
}

func (s *Server) listComponents(ctx context.Context, _ *struct{}) (*componentsOut, error) {
	snap, err := s.store.Snapshot(ctx)
	if err != nil {
		return nil, s.fail(err)
	}
	out := []ComponentLine{}
	if !snap.Empty {
		cs := snap.Book.Components()
		for i := range cs {
			out = append(out, componentLine(snap.Book, &cs[i]))
		}
	}
	return &componentsOut{out}, nil
}

func (s *Server) getComponent(ctx context.Context, in *byID) (*componentOut, error) {
	snap, c, err := s.bookWith(ctx, in.ID)
	if err != nil {
		return nil, s.fail(err)
	}
	return &componentOut{componentView(snap.Book, c, snap.Versions[componentKey(in.ID)])}, nil
}

func (s *Server) componentHistory(ctx context.Context, in *byID) (*historyOut, error) {
	h, err := s.store.History(ctx, componentKey(in.ID))
	if err != nil {
		return nil, s.fail(err)
	}
	return &historyOut{h}, nil
}

type changeStepIn struct {
	ID   string `path:"id" maxLength:"80"`
	Step string `path:"step" maxLength:"80"`
	Body StepChange
}

func (s *Server) changeStep(ctx context.Context, in *changeStepIn) (*changedOut, error) {
	return s.editComponent(ctx, in.ID, in.Body.Version, in.Body.Table, func(c *kitchen.Component) (string, error) {
		return in.Body.apply(c, in.Step)
	})
}

type restoreComponentIn struct {
	ID   string `path:"id" maxLength:"80"`
	Body Restore
}

func (s *Server) restoreComponent(ctx context.Context, in *restoreComponentIn) (*changedOut, error) {
	var old kitchen.Component
	if err := s.store.At(ctx, componentKey(in.ID), in.Body.To, &old); err != nil {
		return nil, s.fail(err)
	}
	return s.editComponent(ctx, in.ID, in.Body.Version, in.Body.Table, func(c *kitchen.Component) (string, error) {
		*c = old
		return fmt.Sprintf("Back to version %d.", in.Body.To), nil
	})
}

// bookWith is the kitchen as it is now, with one of its components.
func (s *Server) bookWith(ctx context.Context, id string) (*store.Snapshot, *kitchen.Component, error) {
	snap, err := s.book(ctx)
	if err != nil {
		return nil, nil, err
	}
	c, ok := snap.Book.Component(id)
	if !ok {
		return nil, nil, store.ErrNotFound
	}
	return snap, c, nil
}

func componentKey(id string) kitchen.Key { return kitchen.Key{Kind: kitchen.ComponentRecord, ID: id} }

// changeComponent makes a change, saves it, and works out what it did to the
// table that the page shows.
func (s *Server) editComponent(ctx context.Context, id string, version int64, wish *TableWish,
	change func(*kitchen.Component) (string, error)) (*changedOut, error) {
	before, err := s.book(ctx)
	if err != nil {
		return nil, s.fail(err)
	}
	old, ok := before.Book.Component(id)
	if !ok {
		return nil, s.fail(store.ErrNotFound)
	}
	c := old.Clone()
	said, err := change(&c)
	if err != nil {
		return nil, s.fail(err)
	}
	before.Book.SetTimes(old, &c)
	version, err = s.store.Save(ctx, componentKey(id), version, c, said)
	if err != nil {
		return nil, s.fail(err)
	}
	out := &changedOut{Changed{ComponentView: componentView(before.Book, &c, version), Said: message.Of("words.kept", "text", said)}}
	if wish == nil {
		return out, nil
	}
	after, err := s.book(ctx)
	if err != nil {
		return nil, s.fail(err)
	}
	out.Body.Plan, err = s.plan(ctx, after, wish)
	if err != nil {
		return nil, s.fail(err)
	}
	if was, err := s.plan(ctx, before, wish); err == nil {
		out.Body.Said = advise.Difference(was, out.Body.Plan)
	}
	return out, nil
}

// apply changes one step of c.
func (ch *StepChange) apply(c *kitchen.Component, step string) (string, error) {
	i := c.StepIndex(step)
	if i < 0 {
		return "", store.ErrNotFound
	}
	x := &c.Steps[i]
	if ch.Name != nil {
		x.Name = *ch.Name
	}
	if ch.Hands != nil {
		x.Hands = *ch.Hands
		if x.Hands == kitchen.Both { // throughout, not at the ends alone
			x.Ends, x.Touches = kitchen.Ends{}, nil
		} else {
			x.Away = false
		}
	}
	if ch.Time != nil {
		x.Time = *ch.Time
	}
	if ch.LikelyS != nil {
		t, err := x.Time.WithLikely(*ch.LikelyS, ch.Portions)
		if err != nil {
			return "", kitchen.Faults{kitchen.FaultOf(fmt.Sprintf("steps[%d].time.fixed.likely", i), err)}
		}
		x.Time = t
	}
	if ch.After != nil {
		x.After = *ch.After
	}
	if ch.Equipment != nil {
		x.Equipment = ch.Equipment
	}
	if ch.NoEquipment {
		x.Equipment = nil
	}
	if ch.Hold != nil {
		c.Hold = *ch.Hold
	}
	return fmt.Sprintf("%s: %s changed.", c.Name, x.Name), nil
}
