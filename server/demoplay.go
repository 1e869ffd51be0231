package server

import (
	"context"
	"strconv"
	"time"

	"jointime/core/service"
	"jointime/core/simulate"
	"jointime/demo"
	"jointime/live"
)

// The middle of a played service in the demo: what has happened by then is in its log, and it goes on playing, until the clock is put
// again. Whoever tries the product taps with the others: what they have said already is not said again.

// demoNight is the night of the simulator that the demo plays.
const demoNight = 19

// demoPace is how often the cooks of the played service look at the clock.
const demoPace = time.Second

// playDemo writes what has happened in the demo's evening by now into its log, and lets it go on. A service that is over stays so.
func (s *Server) playDemo(ctx context.Context) error {
	state, err := s.live.State(ctx, demo.Tonight)
	if err != nil || state.Phase == service.Over {
		return err
	}
	shown, err := s.planner.Service(ctx, demo.Tonight)
	if err != nil {
		return err
	}
	plan, now := shown.Plan, s.clock()
	list := simulate.New(plan.Evening, plan.Schedule, plan.Number).Play(demoNight, simulate.Usual().AsOrdered(), simulate.AsPrinted,
		true).Events
	run := strconv.FormatInt(now.Unix(), 36)
	for i := range list {
		list[i].ID = "demo-" + run + "-" + list[i].ID
	}
	n := 0
	for n < len(list) && !list[n].At.After(now) {
		list[n].Kept = true
		n++
	}
	if state.Phase == service.NotOpen && n > 0 {
		if _, _, err := s.live.Add(ctx, demo.Tonight, live.Who{Role: "chef"}, list[:n], plan.Number); err != nil {
			return err
		}
		s.follow(demo.Tonight)
	}
	life, stop := context.WithCancel(s.live.Life())
	s.demoPlay.Lock()
	s.demoStop = stop
	s.demoPlay.Unlock()
	s.work.Go(func() {
		defer stop()
		s.playOn(life, list[n:])
	})
	return nil
}

// stopDemo ends the played service: its clock is put.
func (s *Server) stopDemo() {
	s.demoPlay.Lock()
	defer s.demoPlay.Unlock()
	if s.demoStop != nil {
		s.demoStop()
		s.demoStop = nil
	}
}

// playOn says what happens as its time comes.
func (s *Server) playOn(ctx context.Context, list []service.Event) {
	t := time.NewTicker(demoPace)
	defer t.Stop()
	for len(list) > 0 {
		select {
		case <-t.C:
		case <-ctx.Done():
			return
		}
		n, told := 0, false
		for n < len(list) && !list[n].At.After(s.clock()) {
			told = told || list[n].Kind.Matters()
			n++
		}
		if n == 0 {
			continue
		}
		// What somebody said already, or the plan does not know any more, is refused: they cook, and the played ones follow.
		if _, _, err := s.live.Add(ctx, demo.Tonight, live.Who{Role: "chef"}, list[:n], 0); err != nil {
			if ctx.Err() == nil {
				s.log.Warn("the demo's service waits", "error", err) // it is tried again
			}
			continue
		}
		if list = list[n:]; told {
			s.follow(demo.Tonight)
		}
	}
}
