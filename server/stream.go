package server

import (
	"bytes"
	"encoding/json"
	"fmt"
	"net/http"
	"strconv"
	"time"

	"github.com/go-chi/chi/v5"

	"jointime/core/access"
	"jointime/core/service"
)

// The log as a file, and as a stream.

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
	usualBeat   = 15 * time.Second
	streamWrite = 10 * time.Second
)

// stream sends what happens as it happens, from where the asker stopped: an event has its number as id; what is due, what is otherwise in
// it, and the number of the plan that is shown, have none.
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
	beat := time.NewTicker(s.beat)
	defer beat.Stop()
	id := chi.URLParam(r, "id")
	floor := found(r.Context()).Role == access.Floor
	after = min(after, s.live.Last(id)) // whoever wants only what is to come says a number that is far
	tell := true
	for {
		for i := range list {
			if !floor || list[i].ForFloor() {
				out.send("event", strconv.FormatInt(list[i].Seq, 10), &list[i])
			}
			after = list[i].Seq
		}
		if tell = tell || len(list) > 0; tell {
			if d, err := s.said(r.Context(), id, floor); err == nil {
				if d.plan != out.plan {
					out.plan = d.plan
					out.send("plan", "", map[string]int64{"plan": d.plan})
				}
				out.due(d)
			}
		}
		if !out.flush() {
			return
		}
		tell = false
		select {
		case <-more:
		case <-beat.C:
			if !s.still(r) {
				return // who asked may look no more: they ask again, and are told so
			}
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

// still reports whether who asked for a stream is who they were, and may still look.
func (s *Server) still(r *http.Request) bool {
	was := found(r.Context())
	is, err := s.entry.Again(r, s.people(r.Context()))
	if err != nil {
		return true // the database does not answer: that is no reason to stop
	}
	return is.Role == was.Role && access.May(is.Role, "service-stream")
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
	version int // of what is due, as it was sent last; 0 for nothing yet
}

func (o *streamWriter) send(kind, id string, data any) {
	if b, err := json.Marshal(data); err == nil {
		o.frame(kind, id, b)
	}
}

func (o *streamWriter) frame(kind, id string, data []byte) {
	fmt.Fprintf(&o.buffer, "event: %s\n", kind)
	if id != "" {
		fmt.Fprintf(&o.buffer, "id: %s\n", id)
	}
	fmt.Fprintf(&o.buffer, "data: %s\n\n", data)
}

// due sends what is due: all of it at first, then what is otherwise.
func (o *streamWriter) due(d *saidDue) {
	switch body, whole := d.since(o.version); {
	case body == nil:
	case whole:
		o.frame("due", "", body)
	default:
		o.frame("change", "", body)
	}
	o.version = d.version
}

func (o *streamWriter) comment() { o.buffer.WriteString(": here\n\n") }

// flush sends what was written; false when whoever reads has gone, or is too slow.
func (o *streamWriter) flush() bool {
	_ = o.control.SetWriteDeadline(time.Now().Add(streamWrite)) // where there is none to set, nothing is too slow
	_, err := o.w.Write(o.buffer.Bytes())
	o.buffer.Reset()
	return err == nil && o.control.Flush() == nil
}
