package server

import (
	"context"
	"net/http"
	"slices"
	"strings"
	"sync"
	"time"

	"github.com/danielgtaylor/huma/v2"
	"golang.org/x/sync/errgroup"

	"jointime/core/advise"
	"jointime/core/expand"
	"jointime/core/kitchen"
	"jointime/core/safety"
	"jointime/core/scale"
	"jointime/core/schedule"
	"jointime/core/workload"
	"jointime/store"
)

// PrepView is the make-ahead plan with what was ticked and what changed since the last.
type PrepView struct {
	expand.PrepPlan
	Ticks  []store.Tick      `json:"ticks" nullable:"false"`
	Limits []ComponentLimits `json:"limits" nullable:"false" doc:"Safety limits that bear on the components planned"`
	Said   string            `json:"said" doc:"What the last change did"`
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
	servicesOut struct {
		Body []ServiceLine `nullable:"false"`
	}
	stockOut struct {
		Body []StockLine `nullable:"false"`
	}
)

// ServiceLine is a service with its version.
type ServiceLine struct {
	Service kitchen.Service `json:"service"`
	Version int64           `json:"version"`
	Covers  int             `json:"covers"`
	Over    bool            `json:"over" doc:"It has ended"`
}

// StockLine is a product on hand with its version.
type StockLine struct {
	Stock   kitchen.Stock `json:"stock"`
	Version int64         `json:"version"`
}

// prepMemory keeps the last plan: it answers until something changes, and the next plan
// moves away from it as little as it can.
type prepMemory struct {
	mu       sync.Mutex
	revision int64
	at       time.Time
	schedule *workload.Schedule
	origin   time.Time
	view     *PrepView
	done     map[string]expand.Done
	book     *kitchen.Book
	mends    []advise.PrepMend // nil until they were asked for
}

// Times of the search: for the first plan, and for one that follows another.
const (
	prepTime  = 1500 * time.Millisecond
	againTime = 700 * time.Millisecond
	prepFresh = 5 * time.Minute // the clock moves on, and what was not begun with it
	tickDays  = 30
)

func (s *Server) prepRoutes(api huma.API) {
	huma.Register(api, huma.Operation{OperationID: "get-prep", Method: http.MethodGet, Path: "/api/prep", Summary: "The make-ahead plan of all services to come", Errors: []int{409, 422}},
		func(ctx context.Context, _ *struct{}) (*prepOut, error) {
			v, err := s.prep(ctx)
			if err != nil {
				return nil, s.fail(err)
			}
			return &prepOut{*v}, nil
		})
	huma.Register(api, huma.Operation{OperationID: "find-prep-mends", Method: http.MethodPost, Path: "/api/prep/mends", Summary: "What can still be done about what is not ready, each planned again", Errors: []int{409, 422}},
		func(ctx context.Context, _ *struct{}) (*prepMendsOut, error) {
			list, err := s.prepMends(ctx)
			if err != nil {
				return nil, s.fail(err)
			}
			return &prepMendsOut{list}, nil
		})
	huma.Register(api, huma.Operation{OperationID: "work-out", Method: http.MethodPost, Path: "/api/work-out", Summary: "A sum by the scales: units, ratios, reductions", MaxBodyBytes: maxBody, Errors: []int{422}},
		func(_ context.Context, in *struct{ Body scale.Question }) (*answerOut, error) {
			a, err := scale.WorkOut(in.Body)
			if err != nil {
				field, what, _ := strings.Cut(err.Error(), ": ")
				return nil, s.fail(kitchen.Faults{{Path: field, Message: what}})
			}
			return &answerOut{a}, nil
		})
	huma.Register(api, huma.Operation{OperationID: "tick", Method: http.MethodPost, Path: "/api/prep/ticks", Summary: "Tick a step of the plan, or take the tick back", MaxBodyBytes: maxBody, Errors: []int{409, 422}},
		func(ctx context.Context, in *struct{ Body TickIn }) (*prepOut, error) {
			v, err := s.prep(ctx)
			if err != nil {
				return nil, s.fail(err)
			}
			known := slices.ContainsFunc(v.Jobs, func(j expand.Job) bool {
				return slices.ContainsFunc(j.Steps, func(t expand.JobStep) bool { return t.Task == in.Body.Task })
			})
			if !known {
				return nil, s.fail(kitchen.Faults{{Path: "task", Message: "no step of the plan has this id"}})
			}
			b := in.Body
			if err := s.store.AddTick(ctx, store.Tick{Task: b.Task, Done: b.Done, Amount: b.Amount, Tasted: b.Tasted, Note: strings.TrimSpace(b.Note)}); err != nil {
				return nil, s.fail(err)
			}
			if v, err = s.prep(ctx); err != nil {
				return nil, s.fail(err)
			}
			return &prepOut{*v}, nil
		})
	huma.Register(api, huma.Operation{OperationID: "list-services", Method: http.MethodGet, Path: "/api/services", Summary: "All services, the next first"},
		func(ctx context.Context, _ *struct{}) (*servicesOut, error) {
			snap, err := s.store.Snapshot(ctx)
			if err != nil {
				return nil, s.fail(err)
			}
			out := []ServiceLine{}
			if !snap.Empty {
				coming := coming(snap.Book, s.clock())
				for _, x := range snap.Book.Services() {
					over := !slices.ContainsFunc(coming, func(c kitchen.Service) bool { return c.ID == x.ID })
					out = append(out, ServiceLine{x, snap.Versions[store.Key{Kind: store.ServiceKind, ID: x.ID}], x.Covers(), over})
				}
				slices.SortStableFunc(out, func(a, b ServiceLine) int {
					if a.Over != b.Over {
						if a.Over {
							return 1
						}
						return -1
					}
					return strings.Compare(a.Service.Date, b.Service.Date)
				})
			}
			return &servicesOut{out}, nil
		})
	huma.Register(api, huma.Operation{OperationID: "list-stock", Method: http.MethodGet, Path: "/api/stock", Summary: "Products on hand"},
		func(ctx context.Context, _ *struct{}) (*stockOut, error) { return s.stock(ctx) })
	part(s, api, "services", store.ServiceKind, func(x *kitchen.Service) (*string, string) { return &x.ID, x.Name })
	part(s, api, "stock", store.StockKind, func(x *kitchen.Stock) (*string, string) { return &x.ID, x.Component })
	huma.Register(api, huma.Operation{OperationID: "put-on-hand", Method: http.MethodPost, Path: "/api/stock", Summary: "Put a product on hand, or change one", MaxBodyBytes: maxBody, Errors: []int{404, 409, 422}},
		func(ctx context.Context, in *struct{ Body OnHand }) (*stockOut, error) {
			if err := s.putOnHand(ctx, &in.Body); err != nil {
				return nil, s.fail(err)
			}
			return s.stock(ctx)
		})
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

func (s *Server) putOnHand(ctx context.Context, in *OnHand) error {
	snap, err := s.book(ctx)
	if err != nil {
		return err
	}
	zone, err := time.LoadLocation(snap.Book.Kitchen().TimeZone)
	if err != nil {
		return err
	}
	useBy, err := time.ParseInLocation("2006-01-02 15:04", strings.TrimSpace(in.UseBy), zone)
	if err != nil {
		return kitchen.Faults{{Path: "use_by", Message: "expected a day and a time like 2026-05-16 18:00, got \"" + in.UseBy + "\""}}
	}
	id, said := in.ID, "Changed."
	if in.Version == 0 {
		id = freeID(in.Component, func(id string) bool { return snap.Versions[store.Key{Kind: store.StockKind, ID: id}] != 0 })
		said = "Put on hand."
	}
	_, err = s.store.Save(ctx, store.Key{Kind: store.StockKind, ID: id}, in.Version, kitchen.Stock{ID: id, Component: in.Component, Amount: in.Amount, UseBy: useBy, Note: in.Note}, said)
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
			out = append(out, StockLine{x, snap.Versions[store.Key{Kind: store.StockKind, ID: x.ID}]})
		}
	}
	return &stockOut{out}, nil
}

// coming lists the services that are not over yet.
func coming(b *kitchen.Book, now time.Time) []kitchen.Service {
	zone, err := time.LoadLocation(b.Kitchen().TimeZone)
	if err != nil {
		zone = time.UTC
	}
	var out []kitchen.Service
	for _, x := range b.Services() {
		last := 0
		for _, t := range x.Tables {
			last = max(last, t.SeatedAt)
		}
		if len(x.Tables) > 0 && now.Before(x.At(last, zone).Add(2*time.Hour)) {
			out = append(out, x)
		}
	}
	return out
}

// prep returns the plan as it is now.
func (s *Server) prep(ctx context.Context) (*PrepView, error) {
	s.prepared.mu.Lock()
	defer s.prepared.mu.Unlock()
	snap, err := s.book(ctx)
	if err != nil {
		return nil, err
	}
	m, now := &s.prepared, s.clock()
	if m.view != nil && m.revision == snap.Revision && now.Sub(m.at) < prepFresh && !now.Before(m.at) {
		return m.view, nil
	}
	ticks, err := s.store.Ticks(ctx, now.AddDate(0, 0, -tickDays))
	if err != nil {
		return nil, err
	}
	done := map[string]expand.Done{}
	view := &PrepView{Ticks: []store.Tick{}, Limits: []ComponentLimits{}}
	for id, t := range ticks {
		view.Ticks = append(view.Ticks, t)
		if t.Done {
			done[id] = expand.Done{At: t.At, Amount: t.Amount}
		}
	}
	slices.SortFunc(view.Ticks, func(a, b store.Tick) int { return strings.Compare(a.Task, b.Task) })
	p, err := expand.NewPrep(snap.Book, coming(snap.Book, now), now, done)
	if err != nil {
		return nil, err
	}
	options, limit := schedule.Options{Seed: 1, Anyway: true}, prepTime
	if m.schedule != nil && m.origin.Equal(p.Origin) {
		options.Previous, options.MovePrice, limit = m.schedule, 1, againTime
	}
	search, cancel := context.WithTimeout(ctx, limit)
	defer cancel()
	answer := schedule.Solve(search, p.Workload, options)
	view.PrepPlan = *p.Read(answer)
	seen := map[string]bool{}
	for _, j := range view.Jobs {
		if c, ok := snap.Book.Component(j.Component); ok && !seen[c.ID] {
			seen[c.ID] = true
			if ls := safety.Limits(c, snap.Book.Kitchen().SafetyCode); len(ls) > 0 {
				view.Limits = append(view.Limits, ComponentLimits{c.ID, ls})
			}
		}
	}
	if m.view != nil && m.revision != snap.Revision {
		view.Said = advise.PrepDifference(&m.view.PrepPlan, &view.PrepPlan)
	}
	m.revision, m.at, m.schedule, m.origin, m.view = snap.Revision, now, answer, p.Origin, view
	m.done, m.book, m.mends = done, snap.Book, nil
	return view, nil
}

// prepRounds is how long each thing that may help is searched.
const prepRounds = 2000

// prepMends plans again with each thing that can still be done about what is not ready, two
// at a time, and keeps what helps.
func (s *Server) prepMends(ctx context.Context) ([]advise.PrepMend, error) {
	view, err := s.prep(ctx)
	if err != nil {
		return nil, err
	}
	m := &s.prepared
	m.mu.Lock()
	book, done, now, known := m.book, m.done, m.at, m.mends
	current := m.view == view
	m.mu.Unlock()
	if known != nil && current {
		return known, nil
	}
	late := func(b *kitchen.Book) (int64, error) {
		p, err := expand.NewPrep(b, coming(b, now), now, done)
		if err != nil {
			return 0, err
		}
		answer := schedule.Solve(ctx, p.Workload, schedule.Options{Seed: 1, Rounds: prepRounds, Anyway: true})
		return advise.PrepLateness(p.Read(answer)), ctx.Err()
	}
	candidates := advise.PrepCandidates(book, &view.PrepPlan)
	lates := make([]int64, len(candidates)+1)
	var group errgroup.Group
	group.SetLimit(2)
	for i := range lates {
		group.Go(func() (err error) {
			b := book // the last one is the plan as it is, searched as long
			if i < len(candidates) {
				b = candidates[i].Book
			}
			lates[i], err = late(b)
			return err
		})
	}
	if err := group.Wait(); err != nil {
		return nil, err
	}
	was := min(lates[len(candidates)], advise.PrepLateness(&view.PrepPlan))
	out := advise.RankPrep(candidates, lates, was)
	m.mu.Lock()
	if m.view == view {
		m.mends = out
	}
	m.mu.Unlock()
	return out, nil
}
