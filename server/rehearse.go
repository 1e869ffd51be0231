package server

import (
	"cmp"
	"context"
	"net/http"
	"sync"
	"time"

	"github.com/danielgtaylor/huma/v2"

	"jointime/core/message"
	"jointime/core/simulate"
	"jointime/planner"
	"jointime/store"
)

// A service that is played before it happens, in the background.

// The nights of a rehearsal: many where the plan is gone by as it was printed, fewer where it is planned again in each; and how many
// changes are tried.
const (
	usualNights  = 200
	againNights  = 20
	triedChanges = 3
)

// quickly are the policies that need no search, in the order in which they are played.
var quickly = []simulate.Policy{simulate.AsPrinted, simulate.Dispatch, simulate.NoPlan}

// RehearsalIn asks for a rehearsal.
type RehearsalIn struct {
	Nights int    `json:"nights,omitempty" minimum:"10" maximum:"1000" doc:"200 when missing"`
	Seed   uint64 `json:"seed,omitempty" doc:"Of the first night; 1 when missing"`
}

// RehearsalView is how a service that was played many times goes.
type RehearsalView struct {
	Running  bool                  `json:"running"`
	Done     int                   `json:"done" doc:"Nights that are played, of"`
	Of       int                   `json:"of"`
	Plan     int64                 `json:"plan" doc:"The plan that was played; 0 for none"`
	Stale    bool                  `json:"stale" doc:"Another plan is shown by now"`
	Origin   time.Time             `json:"origin" doc:"From which the seconds of its courses count, by the kitchen's clock"`
	Policies []*simulate.Rehearsal `json:"policies" nullable:"false" doc:"As far as they are played, the plan as printed first"`
	Changes  []RehearsedChange     `json:"changes" nullable:"false" doc:"What was changed for the same nights, what helps most first"`
}

// RehearsedChange is a mend that was played on the same nights.
type RehearsedChange struct {
	Mend string              `json:"mend" doc:"Its id"`
	Said message.Message     `json:"said" doc:"What it is"`
	Goes *simulate.Rehearsal `json:"goes"`
}

// rehearsals are those of each service, the last of each.
type rehearsals struct {
	mu sync.Mutex
	by map[string]*rehearsal
}

type rehearsal struct {
	stop context.CancelFunc
	mu   sync.Mutex
	view RehearsalView
}

func (r *rehearsal) change(f func(v *RehearsalView)) {
	r.mu.Lock()
	defer r.mu.Unlock()
	f(&r.view)
}

type (
	startRehearsalIn struct {
		ID   string `path:"id" maxLength:"80"`
		Body RehearsalIn
	}
	rehearsalOut struct{ Body RehearsalView }
)

func (s *Server) rehearsalRoutes(api huma.API) {
	huma.Register(api, huma.Operation{OperationID: "start-rehearsal", Method: http.MethodPost, Path: "/api/services/{id}/rehearsal",
		Summary: "Play a service many times, in the background", MaxBodyBytes: maxBody, Errors: []int{404, 422},
		BodyReadTimeout: -1}, s.startRehearsal) // it may have to wait for the first plan
	huma.Register(api, huma.Operation{OperationID: "get-rehearsal", Method: http.MethodGet, Path: "/api/services/{id}/rehearsal",
		Summary: "How a service goes that was played many times", Errors: []int{404}}, s.getRehearsal)
	huma.Register(api, huma.Operation{OperationID: "stop-rehearsal", Method: http.MethodDelete, Path: "/api/services/{id}/rehearsal",
		Summary: "End a rehearsal: what was played until then is told", Errors: []int{404}}, s.stopRehearsal)
}

func (s *Server) startRehearsal(ctx context.Context, in *startRehearsalIn) (*rehearsalOut, error) {
	if _, err := s.planner.Service(ctx, in.ID); err != nil {
		return nil, s.fail(err)
	}
	nights, seed := cmp.Or(in.Body.Nights, usualNights), cmp.Or(in.Body.Seed, 1)
	run, stop := context.WithCancel(s.live.Life())
	r := &rehearsal{stop: stop, view: RehearsalView{Running: true, Of: len(quickly)*nights + min(nights, againNights),
		Policies: []*simulate.Rehearsal{}, Changes: []RehearsedChange{}}}
	s.rehearsals.mu.Lock()
	if was := s.rehearsals.by[in.ID]; was != nil {
		was.stop()
	}
	s.rehearsals.by[in.ID] = r
	s.rehearsals.mu.Unlock()
	s.work.Go(func() {
		defer stop()
		s.rehearse(run, in.ID, r, seed, nights)
		r.change(func(v *RehearsalView) { v.Running = false })
	})
	return s.rehearsalView(ctx, in.ID)
}

// rehearse plays a plan by each policy, and then what would help on the same nights.
func (s *Server) rehearse(ctx context.Context, id string, r *rehearsal, seed uint64, nights int) {
	for range mostBegun {
		if s.rehearseOnce(ctx, id, r, seed, nights) || ctx.Err() != nil {
			return
		}
	}
}

// mostBegun is how often a rehearsal begins anew since a better plan was found while it was looked for what would help.
const mostBegun = 3

// rehearseOnce plays the plan that is shown; false where another is shown before it is known what would help.
func (s *Server) rehearseOnce(ctx context.Context, id string, r *rehearsal, seed uint64, nights int) bool {
	shown, err := s.planner.Settled(ctx, id)
	if err != nil {
		return true // it was ended, or there is no plan any more: that is said where the plan is
	}
	plan := shown.Plan
	r.change(func(v *RehearsalView) {
		v.Plan, v.Origin, v.Done = plan.Number, plan.Evening.Origin.In(plan.Zone()), 0
		v.Of = len(quickly)*nights + min(nights, againNights)
		v.Policies, v.Changes = []*simulate.Rehearsal{}, []RehearsedChange{}
	})
	k := simulate.New(plan.Evening, plan.Schedule, plan.Number)
	before := 0
	play := func(k *simulate.Kitchen, n int, policies ...simulate.Policy) []*simulate.Rehearsal {
		out, err := k.Rehearse(ctx, seed, n, simulate.Usual(), func(done int, sofar []*simulate.Rehearsal) {
			r.change(func(v *RehearsalView) {
				v.Done = max(v.Done, before+done)
				if sofar != nil && len(policies) == len(quickly) {
					v.Policies = sofar
				}
			})
		}, policies...)
		if err != nil {
			s.log.Error("a service cannot be rehearsed", "service", id, "error", err)
		}
		before += n * len(policies)
		return out
	}
	add := func(list []*simulate.Rehearsal) {
		r.change(func(v *RehearsalView) { v.Policies = append(v.Policies, list...) })
	}
	if first := play(k, nights, quickly...); first != nil {
		r.change(func(v *RehearsalView) { v.Policies = first })
	}
	changed := func(k *simulate.Kitchen) []*simulate.Rehearsal { return play(k, nights, simulate.AsPrinted) }
	if ctx.Err() == nil && !s.rehearseChanges(ctx, id, r, plan, changed, nights) {
		return false
	}
	if ctx.Err() == nil {
		add(play(k, min(nights, againNights), simulate.Again))
	}
	return true
}

// rehearseChanges plays the mends that help most on the same nights; false where they are those of another plan.
func (s *Server) rehearseChanges(ctx context.Context, id string, r *rehearsal, plan *planner.Plan,
	play func(*simulate.Kitchen) []*simulate.Rehearsal, nights int) bool {
	list, err := s.planner.Mends(ctx, id)
	if err != nil {
		return true // what would help cannot be said: the rest can
	}
	list = list[:min(len(list), triedChanges)]
	r.change(func(v *RehearsalView) { v.Of += len(list) * nights })
	for _, m := range list {
		shown, _, err := s.planner.Tried(ctx, id, m.ID)
		if err != nil || shown.Plan.Number != plan.Number {
			return false
		}
		goes := play(simulate.New(shown.Plan.Evening, shown.Plan.Schedule, plan.Number))
		if len(goes) == 0 || ctx.Err() != nil {
			return true
		}
		r.change(func(v *RehearsalView) { v.Changes = append(v.Changes, RehearsedChange{m.ID, m.What, goes[0]}) })
	}
	return true
}

func (s *Server) getRehearsal(ctx context.Context, in *liveIn) (*rehearsalOut, error) {
	if err := s.here(ctx, in.ID); err != nil {
		return nil, s.fail(err)
	}
	return s.rehearsalView(ctx, in.ID)
}

func (s *Server) rehearsalView(ctx context.Context, id string) (*rehearsalOut, error) {
	s.rehearsals.mu.Lock()
	r := s.rehearsals.by[id]
	s.rehearsals.mu.Unlock()
	if r == nil {
		return &rehearsalOut{RehearsalView{Policies: []*simulate.Rehearsal{}, Changes: []RehearsedChange{}}}, nil
	}
	head, err := s.store.Head(ctx, "service/"+id)
	if err != nil {
		return nil, s.fail(err)
	}
	out := &rehearsalOut{}
	r.change(func(v *RehearsalView) {
		out.Body = *v
		out.Body.Policies = append([]*simulate.Rehearsal{}, v.Policies...)
		out.Body.Changes = append([]RehearsedChange{}, v.Changes...)
	})
	out.Body.Stale = out.Body.Plan > 0 && head.Number != out.Body.Plan
	return out, nil
}

func (s *Server) stopRehearsal(ctx context.Context, in *liveIn) (*rehearsalOut, error) {
	s.rehearsals.mu.Lock()
	r := s.rehearsals.by[in.ID]
	s.rehearsals.mu.Unlock()
	if r == nil {
		return nil, s.fail(store.ErrNotFound)
	}
	r.stop()
	return s.rehearsalView(ctx, in.ID)
}
