package server

import (
	"context"
	"encoding/json"
	"math"
	"strconv"
	"sync"
	"time"

	"jointime/core/message"
	"jointime/core/service"
	"jointime/core/simulate"
	"jointime/core/training"
	"jointime/live"
	"jointime/store"
)

// What is practised, as it goes on: its clock, and what is played in it.

// practices are those that go on here, and those that have ended of late.
type practices struct {
	mu    sync.Mutex
	by    map[string]*practice
	order []string
}

// keptPractices is how many are kept: the screens of one that has ended still show how it stood.
const keptPractices = 60

func (l *practices) of(id string) *practice {
	l.mu.Lock()
	defer l.mu.Unlock()
	return l.by[id]
}

// add takes one up; false where as many go on as may.
func (l *practices) add(p *practice) bool {
	l.mu.Lock()
	defer l.mu.Unlock()
	running := 0
	for _, o := range l.by {
		o.mu.Lock()
		if !o.over {
			running++
		}
		o.mu.Unlock()
	}
	if running >= mostPractices {
		return false
	}
	for k := 0; len(l.order) >= keptPractices && k < len(l.order); {
		o := l.by[l.order[k]]
		o.mu.Lock()
		over := o.over
		o.mu.Unlock()
		if !over {
			k++
			continue
		}
		delete(l.by, l.order[k])
		l.order = append(l.order[:k], l.order[k+1:]...)
	}
	l.by[p.id], l.order = p, append(l.order, p.id)
	return true
}

func (l *practices) drop(id string) {
	l.mu.Lock()
	defer l.mu.Unlock()
	delete(l.by, id)
	for k := range l.order {
		if l.order[k] == id {
			l.order = append(l.order[:k], l.order[k+1:]...)
			return
		}
	}
}

// practice is one of them. What is below mu is guarded by it.
type practice struct {
	id       string
	row      store.Practice
	section  string
	exercise training.Exercise
	trouble  training.Trouble
	seed     uint64
	kitchen  *simulate.Kitchen
	zone     *time.Location
	wall     func() time.Time

	mu      sync.Mutex
	game    *simulate.Game
	pace    float64
	base    time.Time // by its own clock, at
	since   time.Time // on the wall
	told    int64     // the plan that its log says was told
	unsaid  []service.Event
	ending  bool // it is to end now
	over    bool
	stopped time.Time // by its own clock
}

// now is the instant by its own clock.
func (p *practice) now() time.Time {
	if p.over {
		return p.stopped
	}
	return p.base.Add(time.Duration(float64(p.wall().Sub(p.since)) * p.pace))
}

func (p *practice) put(at time.Time) { p.base, p.since = at, p.wall() }

// goOn sets how fast it goes on from now.
func (p *practice) goOn(pace float64) {
	p.put(p.now())
	p.pace = pace
}

// at and plan are for whoever looks.
func (p *practice) at() time.Time {
	p.mu.Lock()
	defer p.mu.Unlock()
	return p.now()
}

func (p *practice) due(state *service.State) *service.DueView {
	p.mu.Lock()
	plan, now, pace := p.game.Plan(), p.now(), p.pace
	if p.over {
		pace = 0
	}
	p.mu.Unlock()
	d := service.DueAt(state, plan, now)
	d.Pace = &pace
	return d
}

// practiceDue is what is due in one.
func (s *Server) practiceDue(ctx context.Context, id string) (*service.DueView, error) {
	p := s.practices.of(id)
	if p == nil {
		return nil, errGone
	}
	s.tickPractice(ctx, p) // whoever looks sees what has happened by now
	state, err := s.live.Stands(ctx, id)
	if err != nil {
		return nil, err
	}
	return p.due(state), nil
}

// does is what somebody does themselves; it says why they cannot, nil where they can.
func (p *practice) does(e *service.Event) *message.Message {
	no := func(m message.Message) *message.Message { return &m }
	switch {
	case p.section == "":
		return no(message.Of("training.played"))
	case e.Kind == service.Undone:
		if p.game.TakeBack(e.Undoes) != simulate.Done {
			return no(message.Of("training.gone-on"))
		}
		return nil
	case e.Kind == service.Trouble || e.Kind == service.Taken || e.Kind == service.More:
		return nil
	}
	fate, before, minutes := simulate.NotMine, "", 0
	switch e.Kind {
	case service.Fired:
		fate, before = p.game.Fire(e.Task)
	case service.Ready:
		fate, minutes = p.game.Ready(e.Task)
	}
	switch fate {
	case simulate.Done:
		return nil
	case simulate.NotReady:
		if before == "" {
			return no(message.Of("training.not-ready-yet"))
		}
		return no(message.Of("training.not-ready", "what", before))
	case simulate.NotYet:
		return no(message.Of("training.not-yet", "count", minutes))
	case simulate.NotBegun:
		return no(message.Of("training.not-begun"))
	case simulate.BegunBefore:
		if e.Kind == service.Ready {
			return no(message.Of("training.off-already"))
		}
		return no(message.Of("training.on-already"))
	}
	return no(message.Of("training.section-played"))
}

// practicePace is how often what is played looks at its clock.
const practicePace = 200 * time.Millisecond

// longestPractice is for how long after its last course was to leave one goes on in which something was never fired.
const longestPractice = 2 * time.Hour

// playPractice lets one go on until it is over, and says then how it went.
func (s *Server) playPractice(ctx context.Context, p *practice) {
	t := time.NewTicker(practicePace)
	defer t.Stop()
	for {
		select {
		case <-t.C:
		case <-ctx.Done():
			return
		}
		if s.tickPractice(ctx, p) {
			s.judgePractice(ctx, p)
			return
		}
	}
}

// tickPractice lets happen what has happened by now; true where it is over.
func (s *Server) tickPractice(ctx context.Context, p *practice) bool {
	p.mu.Lock()
	defer p.mu.Unlock()
	if p.over {
		return true
	}
	if err := s.advance(ctx, p); err != nil && ctx.Err() == nil {
		s.log.Warn("what is practised waits", "practice", p.id, "error", err) // it is tried again
		return false
	}
	last := time.Time{}
	for i := range p.game.Plan().Joins {
		if at := p.game.Plan().Joins[i].WantedAt; at.After(last) {
			last = at
		}
	}
	if now := p.now(); p.game.Over() || p.ending || now.After(last.Add(longestPractice)) {
		p.stopped, p.over = now, true
	}
	return p.over
}

// advance plays up to now, and writes what was said. Its lock is held.
func (s *Server) advance(ctx context.Context, p *practice) error {
	if p.over {
		return nil
	}
	now := p.now()
	p.game.Until(now)
	list := append(p.unsaid, p.game.Events()...)
	for i := range list {
		list[i].Kept = true
	}
	p.unsaid = list // until they are written
	if len(list) > 0 {
		if _, _, err := s.live.Add(ctx, p.id, live.Who{Role: "chef", Now: now}, list, 0); err != nil {
			return err
		}
	}
	p.unsaid = nil
	if n := p.game.Plan().Number; n > p.told {
		told := service.Event{ID: "told-plan-" + strconv.FormatInt(n, 10), Kind: service.Told, Facts: service.Facts{Plan: n}}
		if _, _, err := s.live.Add(ctx, p.id, live.Who{Role: "planner", Now: now}, []service.Event{told}, 0); err != nil {
			return err
		}
		p.told = n
	}
	return nil
}

// judgePractice says how somebody cooked, beside the same night with a good cook at their section.
func (s *Server) judgePractice(ctx context.Context, p *practice) {
	if p.section == "" {
		return
	}
	p.mu.Lock()
	cooked, went, ended, log, plan := p.game.Cooked(), p.game.Result(), !p.game.Over(), p.game.Log(), p.game.Plan()
	p.mu.Unlock()
	good := p.kitchen.Play(p.seed, p.trouble.Settings(), simulate.Again, true)
	r := training.Judge(cooked, went, good, ended, p.zone)
	r.Strands = training.StrandsOf(p.section, log, good.Events, plan, p.zone)
	for i := range r.Remarks {
		if math.IsInf(r.Remarks[i].S, 0) {
			r.Remarks[i].S = 0
		}
	}
	body, err := json.Marshal(r)
	if err == nil {
		err = s.store.EndPractice(context.WithoutCancel(ctx), p.id, r.Mark, body, p.wall())
	}
	if err != nil {
		s.log.Error("how somebody trained could not be written down", "practice", p.id, "error", err)
	}
}

// clockOf is the clock of a service: that on the wall, or its own where it is played.
func (s *Server) clockOf(id string) time.Time {
	if p := s.practices.of(id); p != nil {
		return p.at()
	}
	return s.clock()
}
