package server

import (
	"context"
	"net/http"
	"slices"
	"time"

	"github.com/danielgtaylor/huma/v2"

	"jointime/core/kitchen"
)

// DayMarks are what the line of the day shows: the joins of the services that are on it,
// and the hands-on work before them, as they were last planned. Nothing is planned for it:
// it stands at the head of every page.
type DayMarks struct {
	Joins []DayJoin `json:"joins" nullable:"false"`
	Prep  []DayWork `json:"prep" nullable:"false"`
}

// DayJoin is one join on the line.
type DayJoin struct {
	At      time.Time `json:"at"`
	Trouble bool      `json:"trouble" doc:"It is late, or one of its holds is passed"`
}

// DayWork is a stretch of hands-on work of a section.
type DayWork struct {
	From    time.Time `json:"from"`
	To      time.Time `json:"to"`
	Section string    `json:"section"`
	Trouble bool      `json:"trouble" doc:"It belongs to a batch that is not ready in time"`
}

type dayOut struct{ Body DayMarks }

func (s *Server) dayRoutes(api huma.API) {
	huma.Register(api, huma.Operation{OperationID: "get-day", Method: http.MethodGet, Path: "/api/day", Summary: "What the line of the day shows", Errors: []int{409, 422}},
		func(ctx context.Context, _ *struct{}) (*dayOut, error) {
			out := &dayOut{DayMarks{Joins: []DayJoin{}, Prep: []DayWork{}}}
			snap, err := s.store.Snapshot(ctx)
			if err != nil {
				return nil, s.fail(err)
			}
			if snap.Empty {
				return out, nil
			}
			s.dayWork(&out.Body)
			s.dayJoins(&out.Body, snap.Book)
			return out, nil
		})
}

func (s *Server) dayWork(out *DayMarks) {
	m := &s.prepared
	m.mu.Lock()
	view := m.view
	m.mu.Unlock()
	if view == nil {
		return
	}
	today := view.Now.Format(time.DateOnly)
	for _, j := range view.Jobs {
		for _, t := range j.Steps {
			if t.Hands != kitchen.None && t.StartAt.Format(time.DateOnly) == today {
				out.Prep = append(out.Prep, DayWork{t.StartAt, t.FinishAt, t.Section, j.State == "forgotten" || j.State == "tight"})
			}
		}
	}
}

func (s *Server) dayJoins(out *DayMarks, b *kitchen.Book) {
	day := dayOf(b.Kitchen(), s.clock())
	m := &s.firing
	m.mu.Lock()
	defer m.mu.Unlock()
	for _, f := range m.told {
		for _, j := range f.view.Joins {
			if j.At.After(day.From) && j.At.Before(day.To) {
				out.Joins = append(out.Joins, DayJoin{j.At, j.LateS > 60 || j.OverS > 5})
			}
		}
	}
	slices.SortFunc(out.Joins, func(a, b DayJoin) int { return a.At.Compare(b.At) })
}
