package server

import (
	"bytes"
	"context"
	"net/http"
	"strings"
	"sync"
	"time"

	"github.com/danielgtaylor/huma/v2"
	"github.com/go-chi/chi/v5"

	"jointime/core/advise"
	"jointime/core/expand"
	"jointime/core/kitchen"
	"jointime/core/schedule"
	"jointime/core/workload"
	"jointime/store"
)

// FireView is the firing plan of a service.
type FireView struct {
	expand.EveningPlan
	Margin  int    `json:"margin" doc:"0 to the minute … 100 safe"`
	Version int64  `json:"version" doc:"Of the service"`
	Trying  string `json:"trying,omitempty" doc:"The mend that this plan has"`
	Better  bool   `json:"better" doc:"A better plan is still being looked for"`
}

// MendsView is what would help.
type MendsView struct {
	Mends []advise.Mend `json:"mends" nullable:"false" doc:"What saves most first; nothing that does not help"`
}

type (
	fireOut struct{ Body FireView }
	mendOut struct{ Body MendsView }
	keepIn  struct {
		ID   string `path:"id" maxLength:"80"`
		Body struct {
			Mend    string `json:"mend" maxLength:"120"`
			Version int64  `json:"version" minimum:"1"`
		}
	}
)

// Times of the search: for the first answer, and for the better one behind it.
const (
	fireTime   = 450 * time.Millisecond
	betterTime = 3 * time.Second
	mendTime   = 450 * time.Millisecond
	evenings   = 300 // played for the chances
)

// fired is a solved service.
type fired struct {
	evening  *expand.Evening
	schedule *workload.Schedule
	view     *FireView
}

// fireMemory keeps the plans of the kitchen at one revision.
type fireMemory struct {
	mu       sync.Mutex
	revision int64
	plans    map[string]*fired // by service, or service and mend
	services map[string]kitchen.Service
	mends    map[string][]advise.Mend
	told     map[string]*workload.Schedule // by service: the last plan, whatever the revision
}

func (m *fireMemory) at(revision int64) {
	if m.revision != revision || m.plans == nil {
		m.revision, m.plans, m.services, m.mends = revision, map[string]*fired{}, map[string]kitchen.Service{}, map[string][]advise.Mend{}
	}
	if m.told == nil {
		m.told = map[string]*workload.Schedule{}
	}
}

func (s *Server) fireRoutes(api huma.API) {
	type in struct {
		ID   string `path:"id" maxLength:"80"`
		Mend string `query:"mend" maxLength:"120" doc:"The plan with this mend"`
	}
	huma.Register(api, huma.Operation{OperationID: "get-fire", Method: http.MethodGet, Path: "/api/fire/{id}", Summary: "The firing plan of a service", Errors: []int{404, 422}},
		func(ctx context.Context, in *in) (*fireOut, error) {
			f, err := s.fire(ctx, in.ID, in.Mend)
			if err != nil {
				return nil, s.fail(err)
			}
			return &fireOut{*f.view}, nil
		})
	huma.Register(api, huma.Operation{OperationID: "get-fire-join", Method: http.MethodGet, Path: "/api/fire/{id}/join", Summary: "One join of a service with its strands", Errors: []int{404, 422}},
		func(ctx context.Context, in *struct {
			ID   string `path:"id" maxLength:"80"`
			Join string `query:"join" maxLength:"160"`
			Mend string `query:"mend" maxLength:"120"`
		}) (*planOut, error) {
			f, err := s.fire(ctx, in.ID, in.Mend)
			if err != nil {
				return nil, s.fail(err)
			}
			c, ok := f.evening.CourseByID(in.Join)
			if !ok || len(f.schedule.Tasks) == 0 {
				return nil, s.fail(store.ErrNotFound)
			}
			return &planOut{*c.Firing.Read(f.schedule)}, nil
		})
	huma.Register(api, huma.Operation{OperationID: "find-mends", Method: http.MethodPost, Path: "/api/fire/{id}/mends", Summary: "What would help, each solved again", Errors: []int{404, 422}},
		func(ctx context.Context, in *byID) (*mendOut, error) {
			list, err := s.mends(ctx, in.ID)
			if err != nil {
				return nil, s.fail(err)
			}
			return &mendOut{MendsView{list}}, nil
		})
	huma.Register(api, huma.Operation{OperationID: "keep-mend", Method: http.MethodPost, Path: "/api/fire/{id}/keep", Summary: "Keep a mend: the service is changed", MaxBodyBytes: maxBody, Errors: []int{404, 409, 422}},
		func(ctx context.Context, in *keepIn) (*fireOut, error) {
			s.firing.mu.Lock()
			changed, ok := s.firing.services[in.ID+" "+in.Body.Mend]
			s.firing.mu.Unlock()
			if !ok {
				return nil, s.fail(kitchen.Faults{{Path: "mend", Message: "this is not offered any more: the plan has changed"}})
			}
			if _, err := s.store.Save(ctx, store.Key{Kind: store.ServiceKind, ID: in.ID}, in.Body.Version, changed, "Kept: "+in.Body.Mend+"."); err != nil {
				return nil, s.fail(err)
			}
			f, err := s.fire(ctx, in.ID, "")
			if err != nil {
				return nil, s.fail(err)
			}
			return &fireOut{*f.view}, nil
		})
}

// solve plans a service: with its longest waits as rules where that can be, else with as
// little beyond them as can be.
func (s *Server) solve(ctx context.Context, b *kitchen.Book, svc *kitchen.Service, told *workload.Schedule, limit time.Duration) (*fired, error) {
	var out *fired
	for _, soft := range []bool{false, true} {
		e, err := expand.NewEvening(b, svc, soft)
		if err != nil {
			return nil, err
		}
		search, cancel := context.WithTimeout(ctx, limit)
		o := schedule.Options{Seed: 1, Anyway: soft, Previous: told}
		answer := schedule.Solve(search, e.Workload, o)
		cancel()
		out = &fired{evening: e, schedule: answer}
		if answer.Status == workload.Optimal || answer.Status == workload.Feasible {
			break
		}
	}
	out.view = &FireView{EveningPlan: *out.evening.Read(out.schedule), Margin: svc.Margin}
	s.chances(out)
	return out, nil
}

// chances plays the plan many times.
func (s *Server) chances(f *fired) {
	spread := func(task string) advise.Spread {
		low, likely, high := f.evening.Spread(task)
		return advise.Spread{Low: low, Likely: likely, High: high}
	}
	sure := advise.Sure(f.evening.Workload, f.schedule, spread, 60, evenings, 1)
	for i := range f.view.Joins {
		if x := sure[f.view.Joins[i].ID]; x != nil {
			f.view.Joins[i].Chance = x.OnTime
		}
	}
}

func (s *Server) fire(ctx context.Context, id, mend string) (*fired, error) {
	snap, err := s.book(ctx)
	if err != nil {
		return nil, err
	}
	svc, ok := snap.Book.Service(id)
	if !ok {
		return nil, store.ErrNotFound
	}
	m := &s.firing
	m.mu.Lock()
	defer m.mu.Unlock()
	m.at(snap.Revision)
	key := strings.TrimSpace(id + " " + mend)
	if f := m.plans[key]; f != nil {
		return f, nil
	}
	if mend != "" {
		return nil, kitchen.Faults{{Path: "mend", Message: "this is not offered any more: the plan has changed"}}
	}
	f, err := s.solve(ctx, snap.Book, svc, m.told[id], fireTime)
	if err != nil {
		return nil, err
	}
	f.view.Version, f.view.Better = snap.Versions[store.Key{Kind: store.ServiceKind, ID: id}], true
	m.plans[key], m.told[id] = f, f.schedule
	go s.improve(snap, svc, key)
	return f, nil
}

// improve looks for a better plan behind the one that was answered.
func (s *Server) improve(snap *store.Snapshot, svc *kitchen.Service, key string) {
	m := &s.firing
	m.mu.Lock()
	was := m.plans[key]
	m.mu.Unlock()
	if was == nil {
		return
	}
	better, err := s.solve(context.Background(), snap.Book, svc, was.schedule, betterTime)
	m.mu.Lock()
	defer m.mu.Unlock()
	if m.revision != snap.Revision || m.plans[key] != was {
		return // somebody changed something meanwhile
	}
	done := *was
	view := *was.view
	view.Better = false
	done.view = &view
	if err == nil && better.view.Cost < was.view.Cost {
		better.view.Version = view.Version
		done = *better
	}
	m.plans[key], m.told[svc.ID] = &done, done.schedule
}

// mends solves every candidate again and keeps those that help.
func (s *Server) mends(ctx context.Context, id string) ([]advise.Mend, error) {
	base, err := s.fire(ctx, id, "")
	if err != nil {
		return nil, err
	}
	snap, err := s.book(ctx)
	if err != nil {
		return nil, err
	}
	svc, ok := snap.Book.Service(id)
	if !ok {
		return nil, store.ErrNotFound
	}
	s.firing.mu.Lock()
	if list, known := s.firing.mends[id]; known && s.firing.revision == snap.Revision {
		s.firing.mu.Unlock()
		return list, nil
	}
	s.firing.mu.Unlock()
	out := []advise.Mend{}
	for _, c := range advise.Candidates(svc, &base.view.EveningPlan) {
		f, err := s.solve(ctx, snap.Book, &c.Service, base.schedule, mendTime)
		if err != nil || !c.Worth(&base.view.EveningPlan, &f.view.EveningPlan) {
			continue
		}
		f.view.Version, f.view.Trying = base.view.Version, c.Mend.ID
		s.firing.mu.Lock()
		if s.firing.revision == snap.Revision {
			s.firing.plans[id+" "+c.Mend.ID] = f
			s.firing.services[id+" "+c.Mend.ID] = c.Service
		}
		s.firing.mu.Unlock()
		out = append(out, c.Mend)
	}
	advise.Rank(out)
	s.firing.mu.Lock()
	if s.firing.revision == snap.Revision {
		s.firing.mends[id] = out
	}
	s.firing.mu.Unlock()
	return out, nil
}

// fireFile answers with the workload or the schedule as a file.
func (s *Server) fireFile(w http.ResponseWriter, r *http.Request) {
	f, err := s.fire(r.Context(), chi.URLParam(r, "id"), "")
	if err != nil {
		s.refuse(w, err, "There is no plan of this service.")
		return
	}
	var b bytes.Buffer
	name := chi.URLParam(r, "file")
	switch name {
	case "workload.json":
		err = workload.Write(&b, f.evening.Workload)
	case "schedule.json":
		err = workload.WriteSchedule(&b, f.schedule)
	default:
		problem(w, http.StatusNotFound, "there is nothing at "+r.URL.Path)
		return
	}
	if err != nil {
		s.refuse(w, err, "The file could not be written.")
		return
	}
	w.Header().Set("Content-Type", "application/json")
	w.Header().Set("Content-Disposition", `attachment; filename="`+name+`"`)
	write(w, b.Bytes())
}
