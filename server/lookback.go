package server

import (
	"cmp"
	"context"
	"errors"
	"math"
	"net/http"
	"slices"
	"strings"
	"sync"

	"github.com/danielgtaylor/huma/v2"

	"jointime/core/kitchen"
	"jointime/core/lookback"
	"jointime/core/message"
	"jointime/core/service"
	"jointime/core/simulate"
	"jointime/store"
)

// Looking back: the services that are over as they were, and what their record says about what is written.

// NightLine is a service that is over, at a glance.
type NightLine struct {
	Service string      `json:"service"`
	Name    string      `json:"name"`
	Date    string      `json:"date"`
	Covers  int         `json:"covers"`
	Courses int         `json:"courses"`
	Late    int         `json:"late" doc:"Courses that left more than three minutes late"`
	LateS   float64     `json:"late_s" doc:"How late a course left in the mean, seconds; what is early counts as in time"`
	Again   int         `json:"again"`
	Back    int         `json:"back"`
	Joins   []NightJoin `json:"joins" nullable:"false" doc:"Each course, in the order in which they were wanted"`
}

// NightJoin is a course at a glance.
type NightJoin struct {
	WantedS float64 `json:"wanted_s" doc:"Seconds after the first course of the night"`
	LateS   float64 `json:"late_s"`
}

// Learnt is something that the record says, in words, with what would be used.
type Learnt struct {
	lookback.Evidence
	Text    message.Message   `json:"text"`
	Advice  *message.Message  `json:"advice,omitempty" doc:"Of a share: what to have ready for the next service"`
	Version int64             `json:"version,omitempty" doc:"Of the component that it is about"`
	Time    *kitchen.StepTime `json:"time,omitempty" doc:"The time that is written"`
	Use     *kitchen.StepTime `json:"use,omitempty" doc:"The time that would be written instead"`
	// A share is written into the menu of the next service.
	Service     string  `json:"service,omitempty" doc:"Of a share: the next service in whose menu it would be written; its version is the one above"`
	ServiceName string  `json:"service_name,omitempty"`
	MenuShare   float64 `json:"menu_share,omitempty" doc:"What its menu has now, percent"`
	UseShare    float64 `json:"use_share,omitempty" doc:"What would be written instead"`
}

// LookBackView is the record of the services that are over.
type LookBackView struct {
	Nights  []NightLine `json:"nights" nullable:"false" doc:"The last first"`
	Weeks   []WeekLine  `json:"weeks" nullable:"false" doc:"The same by the week, the last first"`
	Learnt  []Learnt    `json:"learnt" nullable:"false" doc:"What is more than chance and worth saying, the surest first"`
	Looked  int         `json:"looked" doc:"How many steps, people and dishes were looked at"`
	Of      int         `json:"of" doc:"From how many services it is learnt"`
	Playing bool        `json:"playing" doc:"The demo's past services are still being played"`
}

// Tried is what a plan that knows a time would change.
type Tried struct {
	Service     string          `json:"service,omitempty" doc:"The next one in which the step is done; none where there is none"`
	Nights      int             `json:"nights"`
	LateAsIs    float64         `json:"late_as_is" doc:"Share of courses that leave late by the plan as it is, where the step takes what the record says"`
	LateKnowing float64         `json:"late_knowing" doc:"By a plan that knows it"`
	Said        message.Message `json:"said"`
}

// NightView is a service as it was.
type NightView struct {
	lookback.Night
	Said   []message.Message `json:"said" nullable:"false" doc:"What there is to say of it, what cost most first"`
	Probes []ProbeCurve      `json:"probes" nullable:"false" doc:"What thermometers measured, in the order in which they were put in"`
}

// mostNights is from how many services back it is learnt.
const mostNights = 100

type (
	lookBackOut struct{ Body LookBackView }
	nightOut    struct{ Body NightView }
	tryLearntIn struct {
		Component string `path:"id" maxLength:"80"`
		Step      string `path:"step" maxLength:"80"`
	}
	tryLearntOut struct{ Body Tried }
	useLearntIn  struct {
		Component string `path:"id" maxLength:"80"`
		Step      string `path:"step" maxLength:"80"`
		Body      struct {
			Version int64 `json:"version" minimum:"1" doc:"The component's version that it was learnt for"`
		}
	}
)

func (s *Server) lookBackRoutes(api huma.API) {
	huma.Register(api, huma.Operation{OperationID: "look-back", Method: http.MethodGet, Path: "/api/lookback",
		Summary: "The services that are over, and what their record says"}, s.lookBack)
	huma.Register(api, huma.Operation{OperationID: "get-night", Method: http.MethodGet, Path: "/api/lookback/{id}",
		Summary: "A service as it was: planned and real, what was late and why", Errors: []int{404}}, s.getNight)
	huma.Register(api, huma.Operation{OperationID: "try-learnt", Method: http.MethodGet, Path: "/api/lookback/steps/{id}/{step}",
		Summary: "What a plan that knows the time that the record says would change in the next service", Errors: []int{404}}, s.tryLearnt)
	huma.Register(api, huma.Operation{OperationID: "use-share", Method: http.MethodPost, Path: "/api/lookback/shares/{id}/{dish}",
		Summary:      "Write the share that the record says into the menu of a service; the others of its course make room in proportion",
		MaxBodyBytes: maxBody, Errors: []int{404, 409, 422}}, s.useShare)
	huma.Register(api, huma.Operation{OperationID: "use-learnt", Method: http.MethodPost, Path: "/api/lookback/steps/{id}/{step}",
		Summary: "Write the time that the record says; the one that was written stays in the history", MaxBodyBytes: maxBody,
		Errors: []int{404, 409, 422}}, s.useLearnt)
}

// nights are those that were read; what is over does not change, unless something that was kept comes in late.
type nights struct {
	mu sync.Mutex
	by map[string]readNight
	// playing says that the demo's are still being played.
	playing bool
}

type readNight struct {
	events int
	night  *lookback.Night
}

// night is a service as it was. Errors: ErrNotFound where nothing was said in it.
func (s *Server) night(ctx context.Context, id string) (*lookback.Night, error) {
	count, err := s.store.EventsOf(ctx, id)
	if err != nil {
		return nil, err
	}
	s.nights.mu.Lock()
	known, read := s.nights.by[id]
	s.nights.mu.Unlock()
	if read && known.events == count {
		return known.night, nil
	}
	log, err := s.store.Events(ctx, id, 0)
	if err != nil {
		return nil, err
	}
	first, last := int64(0), int64(0)
	for i := range log {
		if log[i].Kind == service.Told {
			first, last = cmp.Or(first, log[i].Plan), log[i].Plan
		}
	}
	if last == 0 {
		return nil, store.ErrNotFound
	}
	lastPlan, err := s.planner.ToldPlan(ctx, id, last)
	if err != nil {
		return nil, err
	}
	firstPlan := lastPlan
	if first != last {
		if firstPlan, err = s.planner.ToldPlan(ctx, id, first); err != nil {
			return nil, err
		}
	}
	n := lookback.At(lastPlan.Evening, service.PlanOf(first, &firstPlan.View), service.PlanOf(last, &lastPlan.View), log)
	s.nights.mu.Lock()
	s.nights.by[id] = readNight{len(log), n}
	s.nights.mu.Unlock()
	return n, nil
}

// record are the last services that are over and of which something was said, the last first.
func (s *Server) record(ctx context.Context, b *kitchen.Book) ([]*lookback.Night, error) {
	list := b.Services()
	now := s.clock()
	list = slices.DeleteFunc(slices.Clone(list), func(x kitchen.Service) bool { return !x.Over(now, b.Zone()) })
	slices.SortStableFunc(list, func(a, b kitchen.Service) int { return strings.Compare(b.Date, a.Date) })
	var out []*lookback.Night
	for i := range list[:min(len(list), mostNights)] {
		n, err := s.night(ctx, list[i].ID)
		switch {
		case err == nil:
			out = append(out, n)
		case ctx.Err() != nil:
			return nil, err
		}
	}
	return out, nil
}

func (s *Server) lookBack(ctx context.Context, _ *struct{}) (*lookBackOut, error) {
	s.nights.mu.Lock()
	playing := s.nights.playing // before it is read: what is added meanwhile is asked for once more
	s.nights.mu.Unlock()
	snap, err := s.book(ctx)
	if err != nil {
		return nil, s.fail(err)
	}
	list, err := s.record(ctx, snap.Book)
	if err != nil {
		return nil, s.fail(err)
	}
	v := LookBackView{Playing: playing, Nights: []NightLine{}, Learnt: []Learnt{}, Of: len(list)}
	var of []lookback.Night
	for _, n := range list {
		of = append(of, *n)
		v.Nights = append(v.Nights, nightLine(n, snap.Book))
	}
	found := findings(snap.Book, of, s.clock().In(snap.Book.Zone()))
	v.Looked = len(found)
	v.Weeks = weeksOf(v.Nights)
	coming := s.coming(snap.Book)
	for _, f := range found {
		if f.Said {
			v.Learnt = append(v.Learnt, learnt(snap, coming, f))
		}
	}
	slices.SortStableFunc(v.Learnt, func(a, b Learnt) int { return cmp.Compare(a.P, b.P) })
	return &lookBackOut{v}, nil
}

// coming are the services that are to come, the next first.
func (s *Server) coming(b *kitchen.Book) []kitchen.Service {
	out := b.Coming(s.clock())
	slices.SortStableFunc(out, func(a, b kitchen.Service) int { return strings.Compare(a.Date, b.Date) })
	return out
}

func nightLine(n *lookback.Night, b *kitchen.Book) NightLine {
	l := NightLine{Service: n.Service, Name: n.Name, Date: n.Date, Late: n.Late, Again: n.Again, Back: n.Back, Joins: []NightJoin{}}
	if svc, ok := b.Service(n.Service); ok {
		l.Covers = svc.Covers()
	}
	for i := range n.Joins {
		j := &n.Joins[i]
		if j.SentAt == nil {
			continue
		}
		l.Courses++
		l.LateS += math.Max(0, j.LateS)
		l.Joins = append(l.Joins, NightJoin{j.WantedAt.Sub(n.Joins[0].WantedAt).Seconds(), math.Round(j.LateS)})
	}
	l.LateS /= math.Max(1, float64(l.Courses))
	return l
}

func (s *Server) getNight(ctx context.Context, in *liveIn) (*nightOut, error) {
	if err := s.here(ctx, in.ID); err != nil {
		return nil, s.fail(err)
	}
	n, err := s.night(ctx, in.ID)
	if err != nil {
		return nil, s.fail(err)
	}
	probes, err := s.probesOf(ctx, n)
	if err != nil {
		return nil, s.fail(err)
	}
	return &nightOut{NightView{*n, nightSaid(n), probes}}, nil
}

// rehearsed is how a plan goes as it was printed.
func rehearsed(ctx context.Context, k *simulate.Kitchen, set simulate.Settings) (*simulate.Rehearsal, error) {
	list, err := k.Rehearse(ctx, 1, triedNights, set, nil, simulate.AsPrinted)
	if err != nil || len(list) == 0 {
		return nil, errors.Join(err, ctx.Err())
	}
	return list[0], nil
}

// triedNights is how many nights are played to see what a time would change.
const triedNights = 60

// tryLearnt plays the next service as it is planned, and as it would be planned with the time that the record says; in both nights the step
// takes what the record says.
func (s *Server) tryLearnt(ctx context.Context, in *tryLearntIn) (*tryLearntOut, error) {
	l, err := s.learntStep(ctx, in.Component, in.Step)
	if err != nil {
		return nil, err
	}
	snap, err := s.book(ctx)
	if err != nil {
		return nil, s.fail(err)
	}
	coming := s.coming(snap.Book)
	for i := range coming {
		was, e, told, err := s.planner.WithTimes(ctx, coming[i].ID, in.Component, func(c *kitchen.Component) {
			c.Steps[c.StepIndex(in.Step)].Time = *l.Use
		})
		if err != nil {
			return nil, s.fail(err)
		}
		if e == nil {
			continue
		}
		usual := simulate.Usual().AsOrdered() // what differs is the time alone
		slower := usual
		slower.Steps = map[string]float64{in.Component + "/" + in.Step: timesAs(*l)}
		asIs, err := rehearsed(ctx, simulate.New(was.Evening, was.Schedule, was.Number), slower)
		if err != nil {
			return nil, s.fail(err)
		}
		knows, err := rehearsed(ctx, simulate.New(e, told, was.Number), usual)
		if err != nil {
			return nil, s.fail(err)
		}
		v := Tried{Service: coming[i].ID, Nights: triedNights, LateAsIs: asIs.Late, LateKnowing: knows.Late}
		courses := float64(len(asIs.Joins))
		tenths := func(x float64) float64 { return math.Round(10*x*courses) / 10 }
		v.Said = message.Of("lookback.tried", "service", coming[i].Name, "nights", triedNights, "was", tenths(asIs.Late), "is",
			tenths(knows.Late), "courses", len(asIs.Joins))
		return &tryLearntOut{v}, nil
	}
	return &tryLearntOut{Tried{Said: message.Of("lookback.tried-none")}}, nil
}

// timesAs is how many times as long as written a step takes: where its parts are told apart, for a usual batch.
func timesAs(l Learnt) float64 {
	if l.Kind != "portions" || l.Time == nil || l.Use == nil {
		return l.Factor
	}
	return float64(l.Use.For(usualBatch).Likely) / math.Max(1, float64(l.Time.For(usualBatch).Likely))
}

// usualBatch is a batch of so many portions. Common practice, no source.
const usualBatch = 3

// learntStep is what the record says of a step.
func (s *Server) learntStep(ctx context.Context, component, step string) (*Learnt, error) {
	view, err := s.lookBack(ctx, nil)
	if err != nil {
		return nil, err
	}
	k := slices.IndexFunc(view.Body.Learnt, func(l Learnt) bool { return l.Use != nil && l.Component == component && l.Step == step })
	if k < 0 {
		return nil, s.fail(store.ErrNotFound)
	}
	return &view.Body.Learnt[k], nil
}

// useLearnt writes the time that the record says now; nobody writes it but whoever presses.
func (s *Server) useLearnt(ctx context.Context, in *useLearntIn) (*changedOut, error) {
	l, err := s.learntStep(ctx, in.Component, in.Step)
	if err != nil {
		return nil, err
	}
	return s.editComponent(ctx, in.Component, in.Body.Version, nil, func(c *kitchen.Component) (string, error) {
		c.Steps[c.StepIndex(in.Step)].Time = *l.Use
		return message.Of("lookback.used", "act", l.Act, "seen", l.Seen, "nights", l.Nights).Text, nil
	})
}
