package server

import (
	"context"
	"net/http"
	"time"

	"github.com/danielgtaylor/huma/v2"

	"jointime/core/advise"
	"jointime/core/expand"
	"jointime/core/schedule"
	"jointime/core/workload"
	"jointime/store"
)

// TableWish is a table to plan: what it eats and when it comes together.
type TableWish struct {
	Orders []expand.Order `json:"orders" nullable:"false" maxItems:"60"`
	// Clock is on the service day that now belongs to; up to four in the morning it
	// is the night after.
	Clock string `json:"clock" doc:"When the plates shall come together, HH:MM by the kitchen's clock" pattern:"^([01]?[0-9]|2[0-3]):[0-5][0-9]$"`
	// Draft plans the first order's dish as its draft has it.
	Draft bool `json:"draft,omitempty"`
	Hands int  `json:"hands,omitempty" doc:"People who plate; the kitchen's usual number when missing" minimum:"0" maximum:"8"`
}

type planOut struct{ Body expand.Plan }

func (s *Server) planRoutes(api huma.API) {
	huma.Register(api, huma.Operation{OperationID: "plan-table", Method: http.MethodPost, Path: "/api/plan",
		Summary: "Firing times of one table", MaxBodyBytes: maxBody, Errors: []int{422}},
		s.planTable)
}

type planTableIn struct{ Body TableWish }

func (s *Server) planTable(ctx context.Context, in *planTableIn) (*planOut, error) {
	snap, err := s.book(ctx)
	if err != nil {
		return nil, s.fail(err)
	}
	p, err := s.plan(ctx, snap, &in.Body)
	if err != nil {
		return nil, s.fail(err)
	}
	return &planOut{*p}, nil
}

// planTime bounds the search for one table; a plan that is proved best is there
// sooner.
const planTime = 400 * time.Millisecond

// softRounds are counted for a table that cannot keep every wait: no proof ends its search.
const softRounds = 1_500

func (s *Server) plan(ctx context.Context, snap *store.Snapshot, t *TableWish) (*expand.Plan, error) {
	k := snap.Book.Kitchen()
	at, err := k.DayOf(s.clock()).At(t.Clock)
	if err != nil {
		return nil, err
	}
	book := snap.Book
	if t.Draft && len(t.Orders) > 0 {
		book, _ = book.WithDraft(t.Orders[0].Dish)
	}
	table := expand.Table{ID: "table", Name: "Table", Orders: t.Orders, At: at, Hands: t.Hands}
	f, err := expand.NewFiring(book, table)
	if err != nil {
		return nil, err
	}
	search, cancel := context.WithTimeout(ctx, planTime*s.patience)
	defer cancel()
	// A cook wants to see how far it is from possible: the least broken plan is drawn, and
	// what it breaks is said.
	found := schedule.Solve(search, f.Workload, schedule.Options{Seed: 1, Anyway: true})
	p := f.Read(found)
	p.Trouble = advise.Explain(f, p.Broken)
	if found.Status != workload.BestEffort {
		return p, nil
	}
	// What waits too long is weighed as a service weighs it; where anything else is broken, that is shown.
	soft, err := expand.NewSoftFiring(book, table)
	if err != nil {
		return nil, err
	}
	again, stop := context.WithTimeout(ctx, planTime*s.patience)
	defer stop()
	if s := schedule.Solve(again, soft.Workload, schedule.Options{Seed: 1, Anyway: true,
		Rounds: softRounds}); s.Status != workload.BestEffort {
		p = soft.Read(s)
		p.Trouble = p.Overdue()
	}
	return p, nil
}
