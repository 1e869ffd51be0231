package server

import (
	"bytes"
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"net/http"
	"slices"
	"strconv"
	"time"

	"github.com/danielgtaylor/huma/v2"
	"github.com/go-chi/chi/v5"

	"jointime/core/kitchen"
	"jointime/core/service"
	"jointime/live"
	"jointime/store"
)

// What happens in a service: five operations, by which a program that has read the plan can play a whole evening.

// EventIn is something that happened, as a screen says it.
type EventIn struct {
	ID     string       `json:"id" minLength:"8" maxLength:"80" doc:"Made by the screen: the same tap sent twice counts once"`
	Kind   service.Kind `json:"kind" enum:"opened,closed,seated,guests,ordered,called,held,next,skipped,fired,ready,more,again,taken,plated,sent,sent-back,off,on,out,in,trouble,undone"`
	At     *time.Time   `json:"at,omitempty" doc:"When it happened; only of one that was kept, else it is now"`
	Device string       `json:"device,omitempty" maxLength:"80"`
	Count  int64        `json:"count,omitempty" minimum:"0" doc:"The device's own counter"`
	Kept   bool         `json:"kept,omitempty" doc:"It was made while the connection was lost: it is written whatever it says"`
	service.Facts
}

// EventsTaken is what became of events.
type EventsTaken struct {
	Seq   int64          `json:"seq" doc:"Number of the last event of the log"`
	Taken []live.Outcome `json:"taken" nullable:"false" doc:"In the order in which they were sent"`
}

type (
	eventsIn struct {
		ID   string `path:"id" maxLength:"80"`
		Body struct {
			Events []EventIn `json:"events" nullable:"false" minItems:"1" maxItems:"500"`
		}
	}
	liveIn struct {
		ID string `path:"id" maxLength:"80"`
	}
	eventsOut struct{ Body EventsTaken }
	stateOut  struct{ Body service.State }
	dueOut    struct{ Body service.DueView }
)

func (s *Server) liveRoutes(api huma.API) {
	huma.Register(api, huma.Operation{OperationID: "add-events", Method: http.MethodPost, Path: "/api/services/{id}/events",
		Summary: "Say what happened in a service", MaxBodyBytes: maxBody, Errors: []int{404, 422}}, s.addEvents)
	huma.Register(api, huma.Operation{OperationID: "service-state", Method: http.MethodGet, Path: "/api/services/{id}/state",
		Summary: "What stands in a service, by all that was said", Errors: []int{404}}, s.serviceState)
	huma.Register(api, huma.Operation{OperationID: "service-due", Method: http.MethodGet, Path: "/api/services/{id}/due",
		Summary: "What each section does next, and when each join comes together", Errors: []int{404, 422}}, s.serviceDue)
}

// here says whether there is such a service.
func (s *Server) here(ctx context.Context, id string) error {
	snap, err := s.book(ctx)
	if err != nil {
		return err
	}
	if _, ok := snap.Book.Service(id); !ok {
		return store.ErrNotFound
	}
	return nil
}

func (s *Server) addEvents(ctx context.Context, in *eventsIn) (*eventsOut, error) {
	if err := s.here(ctx, in.ID); err != nil {
		return nil, s.fail(err)
	}
	list := make([]service.Event, len(in.Body.Events))
	for i, e := range in.Body.Events {
		list[i] = service.Event{ID: e.ID, Kind: e.Kind, At: s.clock(), Device: e.Device, Count: e.Count, Kept: e.Kept, Facts: e.Facts}
		if e.Kept && e.At != nil {
			list[i].At = *e.At
		}
		if err := list[i].Check(); err != nil {
			return nil, s.fail(under(fmt.Sprintf("events[%d].", i), err))
		}
	}
	plan := int64(0)
	if slices.ContainsFunc(list, func(e service.Event) bool { return e.Kind == service.Opened }) {
		p, err := s.livePlan(ctx, in.ID)
		if err != nil {
			return nil, s.fail(err)
		}
		plan = p.Number
	}
	seq, taken, err := s.live.Add(ctx, in.ID, live.Who{Person: store.Who(ctx), Role: "chef"}, list, plan)
	if err != nil {
		return nil, s.fail(err)
	}
	for i, a := range taken {
		if (a.As == live.Taken || a.As == live.ToSettle) && matters[list[i].Kind] {
			s.follow(in.ID)
			break
		}
	}
	return &eventsOut{EventsTaken{seq, taken}}, nil
}

// under puts a path in front of the paths of faults.
func under(path string, err error) error {
	var faults kitchen.Faults
	if !errors.As(err, &faults) {
		return err
	}
	out := slices.Clone(faults)
	for i := range out {
		out[i].Path = path + out[i].Path
	}
	return out
}

func (s *Server) serviceState(ctx context.Context, in *liveIn) (*stateOut, error) {
	if err := s.here(ctx, in.ID); err != nil {
		return nil, s.fail(err)
	}
	state, err := s.live.State(ctx, in.ID)
	if err != nil {
		return nil, s.fail(err)
	}
	return &stateOut{*state}, nil
}

func (s *Server) serviceDue(ctx context.Context, in *liveIn) (*dueOut, error) {
	if err := s.here(ctx, in.ID); err != nil {
		return nil, s.fail(err)
	}
	d, err := s.due(ctx, in.ID)
	if err != nil {
		return nil, s.fail(err)
	}
	return &dueOut{*d}, nil
}

func (s *Server) livePlan(ctx context.Context, id string) (*service.Plan, error) {
	shown, err := s.planner.Service(ctx, id)
	if err != nil {
		return nil, err
	}
	return service.PlanOf(shown.Plan.Number, &shown.Plan.View), nil
}

func (s *Server) due(ctx context.Context, id string) (*service.DueView, error) {
	plan, err := s.livePlan(ctx, id)
	if err != nil {
		return nil, err
	}
	state, err := s.live.Stands(ctx, id)
	if err != nil {
		return nil, err
	}
	return service.DueAt(state, plan, s.clock()), nil
}

// eventLog is the log, one event a line.
func (s *Server) eventLog(w http.ResponseWriter, r *http.Request) {
	list, _, err := s.logOf(r, 0)
	if err != nil {
		s.refuse(w, err, "The log could not be read.")
		return
	}
	var b bytes.Buffer
	for i := range list {
		line, err := json.Marshal(&list[i])
		if err != nil {
			s.refuse(w, err, "The log could not be read.")
			return
		}
		b.Write(append(line, '\n'))
	}
	w.Header().Set("Content-Type", "application/x-ndjson")
	w.Header().Set("Content-Disposition", `attachment; filename="log.jsonl"`)
	write(w, b.Bytes())
}

func (s *Server) logOf(r *http.Request, after int64) ([]service.Event, <-chan struct{}, error) {
	id := chi.URLParam(r, "id")
	if err := s.here(r.Context(), id); err != nil {
		return nil, nil, err
	}
	return s.live.Log(r.Context(), id, after)
}

// The pace of a stream: how often it says that it is there, and what is due, though nothing happened; and how long a write may take before
// whoever reads so slowly has to begin again.
const (
	streamBeat  = 15 * time.Second
	streamWrite = 10 * time.Second
)

// stream sends what happens as it happens, from where the asker stopped: an event has its number as id; what is due, and the number of the
// plan that is shown, have none.
func (s *Server) stream(w http.ResponseWriter, r *http.Request) {
	after, err := resumeAt(r)
	if err != nil {
		problem(w, http.StatusUnprocessableEntity, err.Error())
		return
	}
	list, more, err := s.logOf(r, after)
	if err != nil {
		s.refuse(w, err, "The log could not be read.")
		return
	}
	h := w.Header()
	h.Set("Content-Type", "text/event-stream")
	h.Set("Cache-Control", "no-store")
	h.Set("X-Accel-Buffering", "no")
	out := &streamWriter{w: w, control: http.NewResponseController(w)}
	beat := time.NewTicker(streamBeat)
	defer beat.Stop()
	id := chi.URLParam(r, "id")
	after = min(after, s.live.Last(id)) // whoever wants only what is to come says a number that is far
	tell := true
	for {
		for i := range list {
			out.send("event", strconv.FormatInt(list[i].Seq, 10), &list[i])
			after = list[i].Seq
		}
		if tell = tell || len(list) > 0; tell {
			d, err := s.due(r.Context(), id)
			if err == nil {
				if d.Plan != out.plan {
					out.plan = d.Plan
					out.send("plan", "", map[string]int64{"plan": d.Plan})
				}
				out.send("due", "", d)
			}
		}
		if !out.flush() {
			return
		}
		tell = false
		select {
		case <-more:
		case <-beat.C:
			out.comment()
			tell = true
		case <-r.Context().Done():
			return
		case <-s.live.Life().Done():
			return
		}
		if list, more, err = s.live.Log(r.Context(), id, after); err != nil {
			return // it asks again from where it stopped
		}
	}
}

// resumeAt is after which event a stream goes on: what the browser had last counts before what was asked for.
func resumeAt(r *http.Request) (int64, error) {
	said := r.Header.Get("Last-Event-ID")
	if said == "" {
		said = r.URL.Query().Get("after")
	}
	if said == "" {
		return 0, nil
	}
	n, err := strconv.ParseInt(said, 10, 64)
	if err != nil || n < 0 {
		return 0, fmt.Errorf("after: expected the number of an event, got %q", said)
	}
	return n, nil
}

// streamWriter writes server-sent events.
type streamWriter struct {
	w       http.ResponseWriter
	control *http.ResponseController
	buffer  bytes.Buffer
	plan    int64
}

func (o *streamWriter) send(kind, id string, data any) {
	b, err := json.Marshal(data)
	if err != nil {
		return
	}
	fmt.Fprintf(&o.buffer, "event: %s\n", kind)
	if id != "" {
		fmt.Fprintf(&o.buffer, "id: %s\n", id)
	}
	fmt.Fprintf(&o.buffer, "data: %s\n\n", b)
}

func (o *streamWriter) comment() { o.buffer.WriteString(": here\n\n") }

// flush sends what was written; false when whoever reads has gone, or is too slow.
func (o *streamWriter) flush() bool {
	_ = o.control.SetWriteDeadline(time.Now().Add(streamWrite)) // where there is none to set, nothing is too slow
	_, err := o.w.Write(o.buffer.Bytes())
	o.buffer.Reset()
	return err == nil && o.control.Flush() == nil
}
