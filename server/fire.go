package server

import (
	"bytes"
	"cmp"
	"context"
	"net/http"
	"slices"
	"strings"
	"sync"
	"time"

	"github.com/danielgtaylor/huma/v2"
	"github.com/go-chi/chi/v5"
	"golang.org/x/sync/errgroup"

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
	Said    string `json:"said" doc:"What the last change did, or what a mend does"`
	Rounds  []int  `json:"rounds" nullable:"false" doc:"Rounds of each search, with seed 1 and each from the schedule before it, by which the workload file comes to this cost; empty when the plan follows one that was told"`
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

// effort is how long a service is searched.
type effort struct {
	rounds int
	// atMost ends a search on a machine that is slow, or of a service that is large.
	atMost time.Duration
}

// The efforts: for the first answer, for the better one behind it, and for a mend. Rounds
// are counted so that the same service has the same plan on every machine that is fast
// enough.
var (
	firstEffort  = effort{3_000, 2 * time.Second}
	betterEffort = effort{30_000, 40 * time.Second}
	mendEffort   = effort{4_000, 4 * time.Second}
)

// evenings is how many are played for the chances.
const evenings = 300

// fired is a solved service.
type fired struct {
	evening  *expand.Evening
	schedule *workload.Schedule
	view     *FireView
	whole    bool          // its search came to the end of its rounds
	better   chan struct{} // closed when the search behind it has ended; nil when there is none
}

// fireMemory keeps the plans of the kitchen at one revision.
type fireMemory struct {
	mu       sync.Mutex
	revision int64
	plans    map[string]*fired // by service, or service and mend
	services map[string]kitchen.Service
	mends    map[string][]advise.Mend
	stop     map[string]context.CancelFunc // by service: the search that is on behind a plan
	told     map[string]*fired             // by service: the last plan, whatever the revision
}

func (m *fireMemory) at(revision int64) {
	if m.revision != revision || m.plans == nil {
		m.revision, m.plans, m.services, m.mends = revision, map[string]*fired{}, map[string]kitchen.Service{}, map[string][]advise.Mend{}
	}
	if m.told == nil {
		m.told, m.stop = map[string]*fired{}, map[string]context.CancelFunc{}
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
			tried := s.firing.plans[in.ID+" "+in.Body.Mend]
			s.firing.mu.Unlock()
			if !ok {
				return nil, s.fail(kitchen.Faults{{Path: "mend", Message: "this is not offered any more: the plan has changed"}})
			}
			if _, err := s.store.Save(ctx, store.Key{Kind: store.ServiceKind, ID: in.ID}, in.Body.Version, changed, "Kept: "+in.Body.Mend+"."); err != nil {
				return nil, s.fail(err)
			}
			// What was tried is what is kept: the next plan starts from it.
			s.firing.mu.Lock()
			if s.firing.told[in.ID] != nil && tried != nil {
				s.firing.told[in.ID] = tried
			}
			s.firing.mu.Unlock()
			f, err := s.fire(ctx, in.ID, "")
			if err != nil {
				return nil, s.fail(err)
			}
			s.firing.mu.Lock()
			defer s.firing.mu.Unlock()
			if tried != nil {
				f.view.Said = tried.view.Said // against the plan before, not against the one tried
			}
			return &fireOut{*f.view}, nil
		})
}

// solve plans a service with a number of rounds of search. Its longest waits are dear, not
// forbidden: a plan is wanted too where they cannot all be kept, and says which are not.
func solve(ctx context.Context, b *kitchen.Book, svc *kitchen.Service, told *workload.Schedule, by effort) (*fired, error) {
	e, err := expand.NewEvening(b, svc, true)
	if err != nil {
		return nil, err
	}
	search, cancel := context.WithTimeout(ctx, by.atMost)
	defer cancel()
	s := schedule.Solve(search, e.Workload, schedule.Options{Seed: 1, Anyway: true, Previous: told, Rounds: by.rounds})
	out := &fired{evening: e, schedule: s, whole: search.Err() == nil, view: &FireView{EveningPlan: *e.Read(s), Margin: svc.Margin, Rounds: []int{}}}
	if told == nil && out.whole {
		out.view.Rounds = []int{by.rounds}
	}
	chances(out)
	return out, nil
}

// after is what a further search adds to the rounds by which a plan can be found again.
func after(rounds []int, found *fired, by effort) []int {
	if len(rounds) == 0 || !found.whole {
		return []int{} // it followed a plan that was told, or time was up
	}
	return append(slices.Clone(rounds), by.rounds)
}

// chances plays the plan many times.
func chances(f *fired) {
	spread := func(task string) advise.Spread {
		low, likely, high := f.evening.Spread(task)
		return advise.Spread{Low: low, Likely: likely, High: high}
	}
	sure := advise.Sure(f.evening.Workload, f.schedule, spread, expand.DearHold, 60, evenings, 1)
	for i := range f.view.Joins {
		j := &f.view.Joins[i]
		if x := sure[j.ID]; x != nil {
			j.Chance, j.Holds = x.OnTime, x.Holds
			// Batches and steps of one thing are blamed together.
			for _, b := range x.Blamed() {
				what := f.evening.Says(b.Task, j.ID)
				if i := slices.IndexFunc(j.Blame, func(o expand.Blame) bool { return o.What == what }); i >= 0 {
					j.Blame[i].Share += b.Share
				} else {
					j.Blame = append(j.Blame, expand.Blame{What: what, Share: b.Share})
				}
			}
			slices.SortStableFunc(j.Blame, func(a, b expand.Blame) int { return cmp.Compare(b.Share, a.Share) })
			j.Blame = j.Blame[:min(len(j.Blame), 2)]
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
	was := m.told[id]
	var told *workload.Schedule
	if was != nil {
		told = was.schedule
	}
	f, err := solve(ctx, snap.Book, svc, told, firstEffort)
	if err != nil {
		return nil, err
	}
	f.view.Version, f.view.Better = snap.Versions[store.Key{Kind: store.ServiceKind, ID: id}], true
	if was != nil {
		f.view.Said = advise.EveningDifference(&was.view.EveningPlan, &f.view.EveningPlan)
	}
	f.better = make(chan struct{})
	m.plans[key], m.told[id] = f, f
	if stop := m.stop[id]; stop != nil {
		stop() // it looks for a plan that nobody wants any more
	}
	behind, stop := context.WithCancel(context.Background())
	m.stop[id] = stop
	go s.improve(behind, snap, svc, key)
	return f, nil
}

// improve looks for a better plan behind the one that was answered, and from it.
func (s *Server) improve(ctx context.Context, snap *store.Snapshot, svc *kitchen.Service, key string) {
	m := &s.firing
	m.mu.Lock()
	was := m.plans[key]
	m.mu.Unlock()
	if was == nil {
		return
	}
	defer close(was.better)
	found, err := solve(ctx, snap.Book, svc, was.schedule, betterEffort)
	m.mu.Lock()
	defer m.mu.Unlock()
	if m.revision != snap.Revision || m.plans[key] != was {
		return // somebody changed something meanwhile; what replaced it has a search of its own
	}
	done := *was
	done.better = nil
	view := *was.view
	view.Better = false
	done.view = &view
	if err == nil && found.view.Cost < was.view.Cost {
		found.view.Version, found.view.Said, found.view.Rounds = view.Version, view.Said, after(view.Rounds, found, betterEffort)
		done = *found
	}
	m.plans[key], m.told[svc.ID] = &done, &done
}

// mends solves every candidate again, two at a time, and keeps those that help.
func (s *Server) mends(ctx context.Context, id string) ([]advise.Mend, error) {
	base, err := s.settled(ctx, id)
	if err != nil {
		return nil, err
	}
	snap, err := s.book(ctx)
	if err != nil {
		return nil, err
	}
	m := &s.firing
	m.mu.Lock()
	if list, known := m.mends[id]; known && m.revision == snap.Revision {
		m.mu.Unlock()
		return list, nil
	}
	m.mu.Unlock()
	if base, err = s.longer(ctx, snap, id, base); err != nil {
		return nil, err
	}
	candidates := advise.Candidates(snap.Book, base.evening, &base.view.EveningPlan)
	solved := make([]*fired, len(candidates))
	var group errgroup.Group
	group.SetLimit(2)
	for i := range candidates {
		group.Go(func() error {
			if f, err := solve(ctx, snap.Book, &candidates[i].Service, base.schedule, mendEffort); err == nil {
				solved[i] = f
			}
			return ctx.Err()
		})
	}
	if err := group.Wait(); err != nil {
		return nil, err
	}
	out := []advise.Mend{}
	m.mu.Lock()
	defer m.mu.Unlock()
	if m.revision != snap.Revision || m.plans[id] != base {
		return out, nil // somebody changed something meanwhile: the page asks for the new plan's
	}
	for i, c := range candidates {
		f := solved[i]
		if f == nil || !c.Worth(&base.view.EveningPlan, &f.view.EveningPlan) {
			continue
		}
		f.view.Version, f.view.Trying = base.view.Version, c.Mend.ID
		f.view.Said = advise.EveningDifference(&base.view.EveningPlan, &f.view.EveningPlan)
		m.plans[id+" "+c.Mend.ID], m.services[id+" "+c.Mend.ID] = f, c.Service
		out = append(out, c.Mend)
	}
	advise.Rank(out)
	m.mends[id] = out
	return out, nil
}

// settled is the plan of a service once nothing better is looked for.
func (s *Server) settled(ctx context.Context, id string) (*fired, error) {
	for {
		f, err := s.fire(ctx, id, "")
		if err != nil || f.better == nil {
			return f, err
		}
		select {
		case <-f.better:
		case <-ctx.Done():
			return nil, ctx.Err()
		}
	}
}

// longer searches the service as it is for as long again as a mend is searched, so that a
// mend is not praised for what the search alone would have found.
func (s *Server) longer(ctx context.Context, snap *store.Snapshot, id string, base *fired) (*fired, error) {
	again, err := solve(ctx, snap.Book, base.evening.Service, base.schedule, mendEffort)
	if err != nil || again.view.Cost >= base.view.Cost {
		return base, err
	}
	m := &s.firing
	m.mu.Lock()
	defer m.mu.Unlock()
	if m.revision != snap.Revision || m.plans[id] != base {
		return base, nil
	}
	again.view.Version, again.view.Said = base.view.Version, base.view.Said
	again.view.Rounds = after(base.view.Rounds, again, mendEffort)
	m.plans[id], m.told[id] = again, again
	return again, nil
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
