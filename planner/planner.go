// Package planner keeps the plans that the kitchen works from.
//
// A plan is a record, not a cache. What has been made of a service (or of the make-ahead
// work of all services to come) is told: it gets a number, and is written down with the
// data that it was made from, its workload, its schedule, and the sentence of what it
// changed. From then on every screen, every server on the same database, and every start of
// the program shows that plan, until another is told after it. Numbers follow each other;
// of two servers that tell at once, one is told that it is behind, and shows the other's.
//
// What a plan depends on is hashed. While that hash is the same, nothing is computed. When
// it is another:
//
//   - and the workload is the same after all (a name changed, another service was edited),
//     the plan stays, read with the new names;
//   - and nobody holds the plan yet, the next is made from it, with a price for moving what
//     was told, and told;
//   - and somebody holds it (it is printed, or its service has begun), it stays too: what
//     following would do is computed and offered. Only what is changed about the service
//     itself, which is changing the plan, is followed even then.
//
// A computation runs once, whoever asks and however many; it belongs to the planner, not to
// an asker, so that nobody who leaves truncates it. It ends early when its inputs change or
// the planner is closed, and is dropped then. Behind a plan a better one is looked for, near
// what was told and then without regard for that. It takes the plan's place while nobody holds that, or when it saves more than moving
// costs.
//
// Values that have been published are never written to. There is no HTTP and no SQL here:
// Store says what is needed of a database.
package planner

import (
	"context"
	"errors"
	"fmt"
	"log/slog"
	"runtime/debug"
	"sync"
	"time"

	"golang.org/x/sync/singleflight"

	"jointime/core/kitchen"
	"jointime/core/message"
	"jointime/core/schedule"
	"jointime/core/service"
)

// Kitchen is the kitchen at one revision. It is read-only.
type Kitchen struct {
	Revision int64
	Book     *kitchen.Book // nil while nobody has set it up
	// Version is that of a record, by its kind ("component") and id; 0 when there is none.
	Version func(kitchen.Key) int64
}

// Tick is what was last said of a step of the make-ahead plan.
type Tick struct {
	Task   string
	Batch  string
	Done   bool
	Amount *float64
	Tasted bool
	Note   string
	Person string
	At     time.Time
}

// Head says which plan of a subject was told last, and what became of it.
type Head struct {
	Number  int64      // 0 when none was
	Settled bool       // nothing better is looked for any more
	Printed *time.Time // when a plan of the subject was last printed; nil when none was
	OnPaper int64      // that plan's number
}

// Record is a told plan as it is kept.
type Record struct {
	Subject  string // service/<id>, or prep
	Number   int64  // from 1
	MadeAt   time.Time
	Kind     Kind
	Said     message.Message       // what it changed
	Inputs   string                // hash of Data
	Data     []byte                // the part of the kitchen that it was made from, JSON of kitchen.Data
	Versions map[kitchen.Key]int64 // of every record in Data
	Workload []byte                // as a file
	Schedule []byte                // as a file
	Refs     []byte                // what every task of the workload is, JSON
	Details  []byte                // what else its kind needs, JSON
}

// Kind says why a plan was made.
type Kind string

// The kinds of plan.
const (
	First  Kind = "first"  // nothing was told before
	Change Kind = "change" // something that it depends on was changed
	Better Kind = "better" // a better one was found behind it
	Mended Kind = "mended" // a mend that was tried was kept
	Again  Kind = "again"  // somebody asked for it anew
	Used   Kind = "used"   // a change that was offered was taken
	Clock  Kind = "clock"  // time went on, or something was ticked
	Live   Kind = "live"   // something happened in the service
)

// Mark is something that became of a told plan.
type Mark string

// The marks.
const (
	Settled Mark = "settled"
	Printed Mark = "printed"
)

// Store keeps told plans and knows the kitchen. Absent is told apart from failed: a head
// with number 0, and a nil record.
type Store interface {
	Kitchen(ctx context.Context) (*Kitchen, error)
	// Ticks are the newest of every step since an instant.
	Ticks(ctx context.Context, since time.Time) ([]Tick, error)
	Head(ctx context.Context, subject string) (Head, error)
	Record(ctx context.Context, subject string, number int64) (*Record, error)
	// Tell writes a plan down; ErrBehind when its number does not follow the last.
	Tell(ctx context.Context, r *Record) error
	Mark(ctx context.Context, subject string, number int64, mark Mark) error
}

// Errors of the planner.
var (
	// ErrBehind means that another server has told a plan meanwhile.
	ErrBehind = errors.New("another plan was told meanwhile")
	// ErrNoKitchen means that nobody has set up the kitchen.
	ErrNoKitchen = errors.New("the kitchen is not set up")
	// ErrNoService means that there is no such service.
	ErrNoService = errors.New("there is no such service")
	// ErrNotOffered means that a mend or a change is not offered (any more).
	ErrNotOffered = errors.New("this is not offered any more: the plan has changed")
	// ErrClosed means that the planner is shutting down.
	ErrClosed = errors.New("the planner is shutting down")
)

// errSuperseded ends a computation whose inputs have changed: the asker asks again.
var errSuperseded = errors.New("its inputs have changed")

// Planner is safe for use by many goroutines. Its zero value is not usable; see New.
type Planner struct {
	store Store
	clock func() time.Time
	log   *slog.Logger
	said  func(ctx context.Context, id string) (*service.State, error)
	// patience multiplies the efforts' time limits.
	patience time.Duration

	life     context.Context // of every computation
	end      context.CancelFunc
	work     sync.WaitGroup
	flight   singleflight.Group
	behind   chan struct{} // one search behind a plan at a time: an asker waits for the others
	byBetter effort        // that of such a search, near what was told
	byAnew   effort        // and of one without regard for that

	mu       sync.Mutex
	closed   bool
	services map[string]*entry
	prep     prepEntry
	meals    meals
}

// Options are a planner's settings.
type Options struct {
	Clock func() time.Time // gives the time; required
	Log   *slog.Logger     // hears of what goes wrong where nobody waits for it; required
	// Said gives what was said in a service, by its id; nil where nothing was. Where it is missing nothing is ever said.
	Said func(ctx context.Context, id string) (*service.State, error)
	// Patience multiplies how long a search may take before it is cut short; 0 means 1. On a
	// machine that is busy with something else it keeps plans the same as on others.
	Patience int
	// Rounds are how long a better plan is looked for behind one, near what was told, and four times as long without regard for that; 0
	// means as long as usual.
	Rounds int
}

// New returns a planner, which runs until Close. A missing clock or log is the caller's bug.
func New(s Store, o Options) *Planner {
	if o.Clock == nil || o.Log == nil {
		panic("planner: a clock and a log are needed")
	}
	if o.Said == nil {
		o.Said = func(context.Context, string) (*service.State, error) { return nil, nil }
	}
	p := &Planner{store: s, clock: o.Clock, log: o.Log, said: o.Said, patience: time.Duration(max(1, o.Patience)),
		behind: make(chan struct{}, 1), byBetter: betterEffort, byAnew: anewEffort, services: map[string]*entry{}}
	if o.Rounds > 0 {
		p.byBetter.rounds, p.byAnew.rounds = o.Rounds, 4*o.Rounds
	}
	p.life, p.end = context.WithCancel(context.Background())
	return p
}

// Close cancels what is being computed and waits until it has ended. What was told stays.
func (p *Planner) Close() {
	p.mu.Lock()
	p.closed = true
	p.mu.Unlock()
	p.end()
	p.work.Wait()
}

// begin counts a computation as running; false when the planner is closed.
func (p *Planner) begin() bool {
	p.mu.Lock()
	defer p.mu.Unlock()
	if p.closed {
		return false
	}
	p.work.Add(1)
	return true
}

// background runs f beside everything else; nothing when the planner is closed.
func (p *Planner) background(what string, f func() error) {
	if !p.begin() {
		return
	}
	go func() {
		defer p.work.Done()
		if err := guarded(f); err != nil && p.life.Err() == nil {
			p.log.Error("planning in the background", "what", what, "error", err)
		}
	}()
}

// once runs f once for all that ask for the same key at a time, and answers each. An asker
// whose context ends leaves; f goes on.
func once[T any](ctx context.Context, p *Planner, key string, f func() (T, error)) (T, error) {
	var zero T
	answer := p.flight.DoChan(key, func() (out any, err error) {
		if !p.begin() {
			return nil, ErrClosed
		}
		defer p.work.Done()
		err = guarded(func() error {
			v, err := f()
			out = v
			return err
		})
		return out, err
	})
	select {
	case r := <-answer:
		if r.Err != nil {
			return zero, r.Err
		}
		return r.Val.(T), nil
	case <-ctx.Done():
		return zero, ctx.Err()
	}
}

// guarded turns a panic into an error: a fault in one computation must not end the program,
// and with it every other.
func guarded(f func() error) (err error) {
	defer func() {
		if r := recover(); r != nil {
			err = fmt.Errorf("a fault while planning: %v\n%s", r, debug.Stack())
		}
	}()
	return f()
}

// effort is how long something is searched.
type effort struct {
	rounds int
	// atMost ends a search on a machine that is slow, or of a service that is large.
	atMost time.Duration
	// tell hears how far the search is; nil when nobody wants to know.
	tell func(schedule.Progress)
}

// The efforts: for the first answer, for the better one behind it, for the one behind that (looks in behind.go), for a mend, and for the
// make-ahead plan. Rounds are counted so that the same service has the same plan on every
// machine that is fast enough.
var (
	firstEffort  = effort{rounds: 2_000, atMost: 2 * time.Second}
	betterEffort = effort{rounds: 16_000, atMost: 40 * time.Second}
	anewEffort   = effort{rounds: 64_000, atMost: 120 * time.Second}
	mendEffort   = effort{rounds: 500, atMost: 4 * time.Second}
)

// movePrice is what moving a told start costs for each second, in the plan's costs: four
// for a second of lateness of a table, one for a second that a component waits.
const movePrice = 1
