package server

import (
	"context"
	"net/http"
	"strings"
	"time"

	"github.com/danielgtaylor/huma/v2"

	"jointime/core/advise"
	"jointime/core/expand"
	"jointime/core/kitchen"
	"jointime/core/message"
	"jointime/core/safety"
	"jointime/core/scale"
	"jointime/planner"
)

// PrepView is the make-ahead plan with what was ticked and what changed since the last.
type PrepView struct {
	expand.PrepPlan
	Ticks     []Tick            `json:"ticks" nullable:"false"`
	Limits    []ComponentLimits `json:"limits" nullable:"false" doc:"Safety limits that bear on the components planned"`
	Said      message.Message   `json:"said" doc:"What the last change did"`
	Number    int64             `json:"number" doc:"Of the plan; the first is 1"`
	MadeAt    time.Time         `json:"made_at" doc:"Since when it is shown"`
	Following bool              `json:"following" doc:"Something was ticked, or time went on: the next plan is being made"`
}

// Tick is what was last said of a step.
type Tick struct {
	Task   string    `json:"task"`
	Done   bool      `json:"done"`
	Amount *float64  `json:"amount,omitempty" doc:"How much was really made, in the component's unit"`
	Tasted bool      `json:"tasted"`
	Note   string    `json:"note"`
	Person string    `json:"person"`
	At     time.Time `json:"at"`
}

// ComponentLimits are the safety limits of one component's steps.
type ComponentLimits struct {
	Component string         `json:"component"`
	Limits    []safety.Limit `json:"limits" nullable:"false"`
}

// TickIn is what somebody says of a step.
type TickIn struct {
	Task   string   `json:"task" maxLength:"300"`
	Done   bool     `json:"done"`
	Amount *float64 `json:"amount,omitempty" minimum:"0"`
	Tasted bool     `json:"tasted,omitempty"`
	Note   string   `json:"note,omitempty" maxLength:"500"`
}

type (
	prepOut      struct{ Body PrepView }
	answerOut    struct{ Body scale.Answer }
	prepMendsOut struct {
		Body []advise.PrepMend `nullable:"false"`
	}
	stockOut struct {
		Body []StockLine `nullable:"false"`
	}
)

// StockLine is a product on hand with its version.
type StockLine struct {
	Stock   kitchen.Stock `json:"stock"`
	Version int64         `json:"version"`
}

func (s *Server) prepRoutes(api huma.API) {
	huma.Register(api, huma.Operation{OperationID: "get-prep", Method: http.MethodGet, Path: "/api/prep",
		Summary: "The make-ahead plan of all services to come", Errors: []int{409, 422}},
		s.getPrep)
	huma.Register(api, huma.Operation{OperationID: "find-prep-mends", Method: http.MethodPost, Path: "/api/prep/mends",
		Summary: "What can still be done about what is not ready, each planned again", Errors: []int{409, 422}},
		s.findPrepMends)
	huma.Register(api, huma.Operation{OperationID: "work-out", Method: http.MethodPost, Path: "/api/work-out",
		Summary: "A sum by the scales: units, ratios, reductions", MaxBodyBytes: maxBody, Errors: []int{422}},
		s.workOut)
	huma.Register(api, huma.Operation{OperationID: "tick", Method: http.MethodPost, Path: "/api/prep/ticks",
		Summary: "Tick a step of the plan, or take the tick back", MaxBodyBytes: maxBody, Errors: []int{409, 422}},
		s.tick)
	huma.Register(api, huma.Operation{OperationID: "list-stock", Method: http.MethodGet, Path: "/api/stock", Summary: "Products on hand"},
		s.listStock)
	part[kitchen.Stock]{s, kitchen.StockRecord, func(x *kitchen.Stock) (*string, string) { return &x.ID, x.Component }, nil}.routes(api,
		"stock")
	huma.Register(api, huma.Operation{OperationID: "put-on-hand", Method: http.MethodPost, Path: "/api/stock",
		Summary: "Put a product on hand, or change one", MaxBodyBytes: maxBody, Errors: []int{404, 409, 422}},
		s.putOnHand)
}

func (s *Server) findPrepMends(ctx context.Context, _ *struct{}) (*prepMendsOut, error) {
	list, err := s.planner.PrepMends(ctx)
	if err != nil {
		return nil, s.fail(err)
	}
	return &prepMendsOut{list}, nil
}

type workOutIn struct{ Body scale.Question }

func (s *Server) workOut(ctx context.Context, in *workOutIn) (*answerOut, error) {
	if in.Body.Kind == scale.AskFor {
		snap, err := s.book(ctx)
		if err != nil {
			return nil, s.fail(err)
		}
		a, err := scale.Makings(snap.Book, in.Body)
		if err != nil {
			return nil, s.fail(err)
		}
		return &answerOut{a}, nil
	}
	a, err := scale.WorkOut(in.Body)
	if err != nil {
		return nil, s.fail(err)
	}
	return &answerOut{a}, nil
}

func (s *Server) listStock(ctx context.Context, _ *struct{}) (*stockOut, error) { return s.stock(ctx) }

type putOnHandIn struct{ Body OnHand }

func (s *Server) putOnHand(ctx context.Context, in *putOnHandIn) (*stockOut, error) {
	if err := s.saveOnHand(ctx, &in.Body); err != nil {
		return nil, s.fail(err)
	}
	return s.stock(ctx)
}

// OnHand is a product on hand as somebody writes it: its use-by by the clock on the
// kitchen's wall.
type OnHand struct {
	ID        string  `json:"id,omitempty" maxLength:"80" doc:"Of the one that is changed"`
	Version   int64   `json:"version,omitempty" minimum:"0"`
	Component string  `json:"component" maxLength:"80"`
	Amount    float64 `json:"amount" doc:"In the component's unit"`
	UseBy     string  `json:"use_by" maxLength:"20" doc:"YYYY-MM-DD HH:MM by the kitchen's clock"`
	Note      string  `json:"note,omitempty" maxLength:"120"`
}

func (s *Server) saveOnHand(ctx context.Context, in *OnHand) error {
	snap, err := s.book(ctx)
	if err != nil {
		return err
	}
	useBy, err := time.ParseInLocation("2006-01-02 15:04", strings.TrimSpace(in.UseBy), snap.Book.Zone())
	if err != nil {
		return kitchen.Faults{kitchen.FaultAt("use_by", "fault.day-and-time", "got", in.UseBy)}
	}
	id, said := in.ID, "Changed."
	if in.Version == 0 {
		id = freeID(in.Component, func(id string) bool { return snap.Versions[kitchen.Key{Kind: kitchen.StockRecord, ID: id}] != 0 })
		said = "Put on hand."
	}
	_, err = s.store.Save(ctx, kitchen.Key{Kind: kitchen.StockRecord, ID: id}, in.Version,
		kitchen.Stock{ID: id, Component: in.Component, Amount: in.Amount, UseBy: useBy, Note: in.Note}, said)
	return err
}

func (s *Server) stock(ctx context.Context) (*stockOut, error) {
	snap, err := s.store.Snapshot(ctx)
	if err != nil {
		return nil, s.fail(err)
	}
	out := []StockLine{}
	if !snap.Empty {
		for _, x := range snap.Book.Stock() {
			out = append(out, StockLine{x, snap.Versions[kitchen.Key{Kind: kitchen.StockRecord, ID: x.ID}]})
		}
	}
	return &stockOut{out}, nil
}

// prepView is the make-ahead plan as the page shows it.
func prepView(p *planner.Prep) *PrepView {
	v := &PrepView{PrepPlan: p.View, Ticks: []Tick{}, Limits: []ComponentLimits{}, Said: p.Said, Number: p.Number,
		MadeAt: p.MadeAt.In(p.Book.Zone()), Following: p.Following}
	for _, t := range p.Ticks {
		v.Ticks = append(v.Ticks, Tick{t.Task, t.Done, t.Amount, t.Tasted, t.Note, t.Person, t.At})
	}
	seen := map[string]bool{}
	for _, j := range v.Jobs {
		if c, ok := p.Book.Component(j.Component); ok && !seen[c.ID] {
			seen[c.ID] = true
			if ls := safety.Limits(p.Book, c); len(ls) > 0 {
				v.Limits = append(v.Limits, ComponentLimits{c.ID, ls})
			}
		}
	}
	return v
}

func (s *Server) getPrep(ctx context.Context, _ *struct{}) (*prepOut, error) {
	p, err := s.planner.Prep(ctx)
	if err != nil {
		return nil, s.fail(err)
	}
	return &prepOut{*prepView(p)}, nil
}

// tick writes down what somebody says of a step of the told plan: one row is added, and
// nothing is locked or planned for it. The next plan is made when somebody looks.
func (s *Server) tick(ctx context.Context, in *struct{ Body TickIn }) (*struct{}, error) {
	p, err := s.planner.ToldPrep(ctx)
	if err == nil && p == nil {
		p, err = s.planner.Prep(ctx)
	}
	if err != nil {
		return nil, s.fail(err)
	}
	b := in.Body
	ref, known := p.Step(b.Task)
	if !known {
		return nil, s.fail(kitchen.Faults{kitchen.FaultAt("task", "fault.no-step", "id", b.Task)})
	}
	t := planner.Tick{Task: b.Task, Batch: p.BatchOf(ref), Done: b.Done, Amount: b.Amount, Tasted: b.Tasted, Note: strings.TrimSpace(b.Note)}
	if err := s.store.AddTick(ctx, t); err != nil {
		return nil, s.fail(err)
	}
	return nil, nil
}
