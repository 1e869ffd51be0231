// Package live keeps the logs of the services that go on: it takes what happens, in order, answers what stands, and tells whoever waits
// that there is more. Every server on a database has one; what one of them writes all of them know at once.
//
// The log in the database is the only truth. What is kept here is a copy of its beginning, which only grows, and what follows from it.
package live

import (
	"context"
	"fmt"
	"log/slog"
	"maps"
	"sync"
	"sync/atomic"
	"time"

	"jointime/core/message"
	"jointime/core/service"
)

// Store is what is needed of a database.
type Store interface {
	// Events are those of a service after one, in order.
	Events(ctx context.Context, id string, after int64) ([]service.Event, error)
	// Append adds what judge makes of the events after one; it returns those, with what was added.
	Append(ctx context.Context, id string, after int64, judge func(since []service.Event) ([]service.Event, error)) ([]service.Event, error)
	// Listen calls heard with the id of each service whose log has grown, until it fails.
	Listen(ctx context.Context, listening func(), heard func(id string)) error
}

// Who is who says something.
type Who struct {
	Person string // by name, "" where nobody said
	Role   string // what they may do: service.Runs
	Device string // the paired screen, by id; "" where it names itself
	// Refuses says why they may not say something, nil where they may; nil refuses nothing.
	Refuses func(*service.Event) *message.Message
	// Now is the instant by the clock of what is played, which has one of its own; zero is the clock on the wall.
	Now time.Time
}

// How an event was taken.
const (
	Taken    = "taken"
	Repeated = "repeated"  // it was written before
	ToSettle = "to-settle" // it was kept while the connection was lost, and does not fit
	Refused  = "refused"
)

// Outcome is what became of an event.
type Outcome struct {
	ID   string           `json:"id"`
	Seq  int64            `json:"seq,omitempty" doc:"Its number; none where it was refused"`
	As   string           `json:"as" enum:"taken,repeated,to-settle,refused"`
	Said *message.Message `json:"said,omitempty" doc:"Why it was refused, or does not fit"`
}

// lookEvery is how often the logs that somebody waits for are read though nothing was heard: a notice may be lost with its connection.
const lookEvery = time.Second

// Hub is safe for use by many goroutines. Its zero value is not usable; see New.
type Hub struct {
	store Store
	clock func() time.Time
	log   *slog.Logger

	life context.Context
	end  context.CancelFunc
	work sync.WaitGroup

	mu       sync.Mutex
	services map[string]*book
}

// book is the log of one service, as far as it is known here.
type book struct {
	reading sync.Mutex  // one reads at a time
	read    atomic.Bool // it has been read: from then on it is heard of

	mu     sync.Mutex
	events []service.Event // the n-th has number n+1
	state  *service.State  // of all of them; nil until somebody asks
	more   chan struct{}   // closed when there are more
}

// New returns a hub that runs until Close.
func New(s Store, clock func() time.Time, log *slog.Logger) *Hub {
	h := &Hub{store: s, clock: clock, log: log, services: map[string]*book{}}
	h.life, h.end = context.WithCancel(context.Background())
	h.work.Go(h.listen)
	h.work.Go(h.look)
	return h
}

// Close ends it, and every wait.
func (h *Hub) Close() {
	h.end()
	h.work.Wait()
}

// Life ends when the hub does.
func (h *Hub) Life() context.Context { return h.life }

func (h *Hub) book(id string) *book {
	h.mu.Lock()
	defer h.mu.Unlock()
	b := h.services[id]
	if b == nil {
		b = &book{more: make(chan struct{})}
		h.services[id] = b
	}
	return b
}

// listen hears of what other servers write. A lost connection is made again; what was missed meanwhile is read.
func (h *Hub) listen() {
	for h.life.Err() == nil {
		err := h.store.Listen(h.life, h.readAll, func(id string) { h.read(id) })
		if h.life.Err() != nil {
			return
		}
		h.log.Warn("the log of the services is not heard; it is read every second until it is", "error", err)
		select {
		case <-time.After(lookEvery):
		case <-h.life.Done():
		}
	}
}

func (h *Hub) look() {
	t := time.NewTicker(lookEvery)
	defer t.Stop()
	for {
		select {
		case <-t.C:
			h.readAll()
		case <-h.life.Done():
			return
		}
	}
}

func (h *Hub) readAll() {
	h.mu.Lock()
	ids := make([]string, 0, len(h.services))
	for id := range h.services {
		ids = append(ids, id)
	}
	h.mu.Unlock()
	for _, id := range ids {
		h.read(id)
	}
}

// read brings a log that somebody knows of up to date.
func (h *Hub) read(id string) {
	h.mu.Lock()
	b := h.services[id]
	h.mu.Unlock()
	if b == nil {
		return
	}
	if err := h.catchUp(h.life, id, b); err != nil && h.life.Err() == nil {
		h.log.Error("reading the log of a service", "service", id, "error", err)
	}
}

func (h *Hub) catchUp(ctx context.Context, id string, b *book) error {
	b.reading.Lock()
	defer b.reading.Unlock()
	list, err := h.store.Events(ctx, id, b.last())
	if err != nil {
		return err
	}
	err = b.add(list)
	if err == nil {
		b.read.Store(true)
	}
	return err
}

// last is the number of the last event that is known.
func (b *book) last() int64 {
	b.mu.Lock()
	defer b.mu.Unlock()
	return int64(len(b.events))
}

// add takes events that follow those that are known; what is known already is passed over.
func (b *book) add(list []service.Event) error {
	b.mu.Lock()
	defer b.mu.Unlock()
	grown := false
	for _, e := range list {
		switch n := int64(len(b.events)); {
		case e.Seq <= n:
		case e.Seq > n+1:
			return fmt.Errorf("event %d follows event %d: one is missing", e.Seq, n)
		default:
			b.events, grown = append(b.events, e), true
		}
	}
	if grown {
		b.state = nil
		close(b.more)
		b.more = make(chan struct{})
	}
	return nil
}

// known are the events of a log, which nobody may write to, and what is closed when there are more.
func (b *book) known() ([]service.Event, <-chan struct{}) {
	b.mu.Lock()
	defer b.mu.Unlock()
	return b.events[:len(b.events):len(b.events)], b.more
}

// Log are the events of a service after one, and what is closed when there are more.
func (h *Hub) Log(ctx context.Context, id string, after int64) ([]service.Event, <-chan struct{}, error) {
	b := h.book(id)
	if !b.read.Load() {
		if err := h.catchUp(ctx, id, b); err != nil {
			return nil, nil, err
		}
	}
	list, more := b.known()
	return list[min(max(after, 0), int64(len(list))):], more, nil
}

// Last is the number of the last event of a service that is known here.
func (h *Hub) Last(id string) int64 { return h.book(id).last() }

// State is what stands after everything that is written.
func (h *Hub) State(ctx context.Context, id string) (*service.State, error) {
	b := h.book(id)
	if err := h.catchUp(ctx, id, b); err != nil {
		return nil, err
	}
	return b.folded(), nil
}

// Stands is what stands as it is known here: a moment old, if another server has just written.
func (h *Hub) Stands(ctx context.Context, id string) (*service.State, error) {
	if _, _, err := h.Log(ctx, id, 0); err != nil {
		return nil, err
	}
	return h.book(id).folded(), nil
}

// folded is the state; it is read-only.
func (b *book) folded() *service.State {
	b.mu.Lock()
	defer b.mu.Unlock()
	if b.state == nil {
		b.state = service.Fold(b.events)
	}
	return b.state
}

// Open are the services that go on, as far as anybody here has asked about them.
func (h *Hub) Open() (out []string) {
	h.mu.Lock()
	books := maps.Clone(h.services)
	h.mu.Unlock()
	for id, b := range books {
		if b.folded().Phase == service.Open {
			out = append(out, id)
		}
	}
	return out
}

// Add takes what happened. An event that was written before counts once; one from a screen that is connected and does not fit is refused,
// one that was kept is written whatever it says. plan is the plan that is shown, by number, 0 for none: a service that opens is told it.
func (h *Hub) Add(ctx context.Context, id string, who Who, list []service.Event, plan int64) (last int64, out []Outcome, err error) {
	b := h.book(id)
	if err := h.catchUp(ctx, id, b); err != nil {
		return 0, nil, err
	}
	known, _ := b.known()
	now := who.Now
	if now.IsZero() {
		now = h.clock()
	}
	since, err := h.store.Append(ctx, id, int64(len(known)), func(since []service.Event) ([]service.Event, error) {
		log := append(append([]service.Event{}, known...), since...)
		var more []service.Event
		more, out = judge(log, list, who, now, plan)
		return more, nil
	})
	if err != nil {
		return 0, nil, err
	}
	b.reading.Lock()
	defer b.reading.Unlock()
	if err := b.add(since); err != nil {
		return 0, nil, err
	}
	return b.last(), out, nil
}

// judge says what becomes of events, and which of them are written.
func judge(log, list []service.Event, who Who, now time.Time, plan int64) (more []service.Event, out []Outcome) {
	at, latest := map[string]int{}, time.Time{}
	for i := range log {
		at[log[i].ID] = i
		if log[i].At.After(latest) {
			latest = log[i].At
		}
	}
	write := func(e service.Event) int64 {
		e.Seq = int64(len(log)) + 1
		at[e.ID] = len(log)
		log, more = append(log, e), append(more, e)
		if e.At.After(latest) {
			latest = e.At
		}
		return e.Seq
	}
	for _, e := range list {
		e.ReceivedAt, e.Person, e.Seq = now, who.Person, 0
		if who.Device != "" {
			e.Device = who.Device
		}
		if e.At.IsZero() || !e.Kept { // of connected screens, what comes later happened later, if only by a hair
			if e.At = now; !now.After(latest) {
				e.At = latest.Add(time.Nanosecond)
				e.ReceivedAt = e.At
			}
		}
		if k, there := at[e.ID]; there {
			if log[k].Same(&e) {
				out = append(out, Outcome{ID: e.ID, Seq: log[k].Seq, As: Repeated})
			} else {
				m := message.Of("live.id-twice", "number", log[k].Seq)
				out = append(out, Outcome{ID: e.ID, As: Refused, Said: &m})
			}
			continue
		}
		if who.Refuses != nil { // whoever may not say something may not have kept it either
			if no := who.Refuses(&e); no != nil {
				out = append(out, Outcome{ID: e.ID, As: Refused, Said: no})
				continue
			}
		}
		service.Place(&e, log)
		no := service.Refuses(log, &e, who.Role)
		switch {
		case no == nil:
			out = append(out, Outcome{ID: e.ID, Seq: write(e), As: Taken})
			if e.Kind == service.Opened && plan > service.Fold(log).Plan {
				write(service.Event{ID: "told-" + e.ID, Kind: service.Told, At: e.At.Add(time.Nanosecond),
					ReceivedAt: e.At.Add(time.Nanosecond), Facts: service.Facts{Plan: plan}})
			}
		case e.Kept:
			out = append(out, Outcome{ID: e.ID, Seq: write(e), As: ToSettle, Said: &no.Said})
		default:
			out = append(out, Outcome{ID: e.ID, As: Refused, Said: &no.Said})
		}
	}
	return more, out
}
