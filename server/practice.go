package server

import (
	"cmp"
	"context"
	"crypto/rand"
	"encoding/hex"
	"encoding/json"
	"net/http"
	"slices"
	"strconv"
	"strings"
	"time"

	"github.com/danielgtaylor/huma/v2"

	"jointime/core/access"
	"jointime/core/kitchen"
	"jointime/core/message"
	"jointime/core/service"
	"jointime/core/simulate"
	"jointime/core/training"
	"jointime/live"
	"jointime/planner"
	"jointime/store"
)

// A service that is played at a pace of its own, to be watched, or for somebody to train at a section of it. It has an id, a log and a
// clock of its own, and the screens show it as they show any service: they ask for it by its id.

// practicePrefix is how the ids of what is practised begin; no service's does, since those are said with their date or name.
const practicePrefix = "practice-"

func isPractice(id string) bool { return strings.HasPrefix(id, practicePrefix) }

// mostPractices is how many go on at once on a server.
const mostPractices = 12

// PracticeIn asks for one.
type PracticeIn struct {
	Service  string           `json:"service" maxLength:"80" doc:"The service that it is a part of, by id"`
	Section  string           `json:"section,omitempty" maxLength:"80" doc:"The section that is trained, by id; none to watch"`
	Person   string           `json:"person,omitempty" maxLength:"80" doc:"Who trains, by name, where nobody is signed in"`
	Exercise string           `json:"exercise,omitempty" maxLength:"80" doc:"What at, by id; the whole evening when missing"`
	Today    bool             `json:"today,omitempty" doc:"Today's exercise: what comes next for the person, the same whenever it is begun today"`
	Trouble  training.Trouble `json:"trouble,omitempty" enum:"none,little,usual,much" doc:"As the exercise has it when missing"`
	Pace     float64          `json:"pace,omitempty" minimum:"1" maximum:"60" doc:"As the exercise has it when missing"`
	Seed     uint64           `json:"seed,omitempty" maximum:"9007199254740991" doc:"Of the night; another one each time when missing"`
}

// PaceIn is how fast one goes on.
type PaceIn struct {
	Pace float64 `json:"pace" minimum:"0" maximum:"60" doc:"How many times as fast as in service; 0 stands still"`
}

// PracticeView is one that goes on, or has ended.
type PracticeView struct {
	ID       string              `json:"id"`
	Service  string              `json:"service" doc:"Id of the service that it is a part of"`
	Name     string              `json:"name" doc:"Of that service"`
	Section  string              `json:"section" doc:"The section that is trained, by id; empty for one that is watched"`
	Person   string              `json:"person"`
	Exercise *training.Exercise  `json:"exercise,omitempty"`
	Trouble  training.Trouble    `json:"trouble" enum:"none,little,usual,much"`
	Seed     uint64              `json:"seed"`
	Pace     float64             `json:"pace" doc:"0 while it stands still, or has ended"`
	Running  bool                `json:"running"`
	Judging  bool                `json:"judging" doc:"It has ended, and it is being looked how the same night goes with a good cook"`
	Cut      bool                `json:"cut" doc:"It never came to an end: the server ended before"`
	BeganAt  time.Time           `json:"began_at" doc:"On the day it was trained"`
	EndedAt  *time.Time          `json:"ended_at,omitempty"`
	Mark     *int                `json:"mark,omitempty"`
	Result   *training.Judgement `json:"result,omitempty"`
}

// TrainingView is what there is to train at, and what was trained.
type TrainingView struct {
	Exercises []training.Exercise `json:"exercises" nullable:"false" doc:"The easiest first"`
	Today     *training.Exercise  `json:"today,omitempty" doc:"Today's, for that person at that section, where both were said"`
	Results   []PracticeView      `json:"results" nullable:"false" doc:"What was trained, the latest first"`
}

type (
	practicesIn struct {
		Person  string `query:"person" maxLength:"80" doc:"By name; everybody when missing"`
		Section string `query:"section" maxLength:"80" doc:"For which section today's exercise is asked for, by id"`
	}
	practiceIn struct {
		ID string `path:"id" maxLength:"80"`
	}
	startPracticeIn struct{ Body PracticeIn }
	pacePracticeIn  struct {
		ID   string `path:"id" maxLength:"80"`
		Body PaceIn
	}
	trainingOut struct{ Body TrainingView }
	practiceOut struct{ Body PracticeView }
)

func (s *Server) practiceRoutes(api huma.API) {
	huma.Register(api, huma.Operation{OperationID: "list-practices", Method: http.MethodGet, Path: "/api/practices",
		Summary: "What there is to train at, and what was trained"}, s.listPractices)
	huma.Register(api, huma.Operation{OperationID: "start-practice", Method: http.MethodPost, Path: "/api/practices",
		Summary: "Begin to train at a section of a service, or to watch it being played", MaxBodyBytes: maxBody, Errors: []int{404, 409, 422},
		BodyReadTimeout: -1}, s.startPractice) // it may have to wait for the first plan
	huma.Register(api, huma.Operation{OperationID: "get-practice", Method: http.MethodGet, Path: "/api/practices/{id}",
		Summary: "One that goes on or has ended, and how it went", Errors: []int{404}}, s.getPractice)
	huma.Register(api, huma.Operation{OperationID: "pace-practice", Method: http.MethodPut, Path: "/api/practices/{id}/pace",
		Summary: "Let one go on faster or slower, or stand still", Errors: []int{404, 409}}, s.pacePractice)
	huma.Register(api, huma.Operation{OperationID: "end-practice", Method: http.MethodDelete, Path: "/api/practices/{id}",
		Summary: "End one before its last plate: it is judged by what was due until then", Errors: []int{404}}, s.endPractice)
}

// practiceBody is what is written down of one when it begins.
type practiceBody struct {
	Name    string           `json:"name"`
	Trouble training.Trouble `json:"trouble"`
	Seed    uint64           `json:"seed"`
	Pace    float64          `json:"pace"`
	Plan    int64            `json:"plan"`
}

func (s *Server) startPractice(ctx context.Context, in *startPracticeIn) (*practiceOut, error) {
	b := &in.Body
	if err := s.here(ctx, b.Service); err != nil || isPractice(b.Service) {
		return nil, s.fail(orNotFound(err))
	}
	p := &practice{id: practicePrefix + newID(), wall: s.wall, section: b.Section, seed: b.Seed}
	p.row = store.Practice{ID: p.id, Service: b.Service, Section: b.Section, Person: cmp.Or(found(ctx).Name, b.Person), BeganAt: p.wall()}
	if p.seed == 0 {
		p.seed = uint64(p.row.BeganAt.UnixNano()) >> 12
	}
	snap, err := s.book(ctx)
	if err != nil {
		return nil, s.fail(err)
	}
	p.zone = snap.Book.Zone()
	if err := s.chooseExercise(ctx, p, b); err != nil {
		return nil, s.fail(err)
	}
	svc, _ := snap.Book.Service(b.Service)
	var number int64
	e, told, err := s.planner.Practice(ctx, b.Service, func(plan *planner.Plan) (kitchen.Service, bool) {
		number = plan.Number
		return p.exercise.Of(plan.Evening, service.PlanOf(plan.Number, &plan.View), b.Section)
	})
	if err == nil && e == nil {
		err = kitchen.Faults{kitchen.FaultAt("section", "training.nothing")}
	}
	if err != nil {
		return nil, s.fail(err)
	}
	body, err := json.Marshal(practiceBody{svc.Name, p.trouble, p.seed, p.pace, number})
	if err != nil {
		return nil, s.fail(err)
	}
	p.row.Body = body
	p.kitchen = simulate.New(e, told, number)
	p.game = p.kitchen.Begin(p.seed, p.trouble.Settings(), p.section)
	p.put(p.game.From())
	if !s.practices.add(p) {
		return nil, huma.NewError(http.StatusConflict, message.Of("training.at-once", "count", mostPractices).Text)
	}
	if err := s.store.BeginPractice(ctx, &p.row); err != nil {
		s.practices.drop(p.id)
		return nil, s.fail(err)
	}
	s.tickPractice(ctx, p)
	s.work.Go(func() { s.playPractice(s.live.Life(), p) })
	return s.getPractice(ctx, &practiceIn{p.id})
}

// chooseExercise is what is trained at, how much goes wrong in it, and how fast it goes.
func (s *Server) chooseExercise(ctx context.Context, p *practice, b *PracticeIn) error {
	list := training.Exercises()
	p.exercise = training.Exercise{Part: 1, Trouble: training.Usual, Pace: 1}
	switch {
	case b.Today:
		marks, err := s.marks(ctx, p.row.Person, b.Section)
		if err != nil {
			return err
		}
		p.exercise, p.seed = training.Today(s.clock().In(p.zone), p.row.Person, b.Section, marks)
	case b.Exercise != "":
		k := slices.IndexFunc(list, func(x training.Exercise) bool { return x.ID == b.Exercise })
		if k < 0 {
			return store.ErrNotFound
		}
		p.exercise = list[k]
	}
	p.row.Exercise = p.exercise.ID
	p.trouble, p.pace = cmp.Or(b.Trouble, p.exercise.Trouble), cmp.Or(b.Pace, p.exercise.Pace)
	return nil
}

// marks are the best of a person at a section, by exercise.
func (s *Server) marks(ctx context.Context, person, section string) (map[string]int, error) {
	rows, err := s.store.Practices(ctx, person, mostResults)
	return best(rows, person, section), err
}

func best(rows []store.Practice, person, section string) map[string]int {
	out := map[string]int{}
	for i := range rows {
		if r := &rows[i]; r.Section == section && r.Person == person && r.Mark != nil {
			out[r.Exercise] = max(out[r.Exercise], *r.Mark)
		}
	}
	return out
}

// mostResults is how many results are looked at, and shown.
const mostResults = 200

func newID() string {
	b := make([]byte, 8)
	_, _ = rand.Read(b) // it never fails
	return hex.EncodeToString(b)
}

func (s *Server) listPractices(ctx context.Context, in *practicesIn) (*trainingOut, error) {
	rows, err := s.store.Practices(ctx, in.Person, mostResults)
	if err != nil {
		return nil, s.fail(err)
	}
	zone, err := s.zone(ctx)
	if err != nil {
		return nil, s.fail(err)
	}
	out := &trainingOut{TrainingView{Exercises: training.Exercises(), Results: []PracticeView{}}}
	if in.Section != "" {
		today, _ := training.Today(s.clock().In(zone), in.Person, in.Section, best(rows, in.Person, in.Section))
		out.Body.Today = &today
	}
	for i := range rows {
		v, err := s.practiceView(&rows[i], zone)
		if err != nil {
			return nil, s.fail(err)
		}
		v.Result = nil // each has a page of its own
		out.Body.Results = append(out.Body.Results, *v)
	}
	return out, nil
}

func (s *Server) getPractice(ctx context.Context, in *practiceIn) (*practiceOut, error) {
	row, err := s.store.Practice(ctx, in.ID)
	if err != nil {
		return nil, s.fail(err)
	}
	zone, err := s.zone(ctx)
	if err != nil {
		return nil, s.fail(err)
	}
	v, err := s.practiceView(row, zone)
	if err != nil {
		return nil, s.fail(err)
	}
	return &practiceOut{*v}, nil
}

// zone is that of the kitchen's clock.
func (s *Server) zone(ctx context.Context) (*time.Location, error) {
	snap, err := s.book(ctx)
	if err != nil {
		return nil, err
	}
	return snap.Book.Zone(), nil
}

func (s *Server) practiceView(row *store.Practice, zone *time.Location) (*PracticeView, error) {
	var b practiceBody
	if err := json.Unmarshal(row.Body, &b); err != nil {
		return nil, err
	}
	v := &PracticeView{ID: row.ID, Service: row.Service, Name: b.Name, Section: row.Section, Person: row.Person, Trouble: b.Trouble,
		Seed: b.Seed, BeganAt: row.BeganAt.In(zone), Mark: row.Mark}
	if row.EndedAt != nil {
		at := row.EndedAt.In(zone)
		v.EndedAt = &at
	}
	for _, x := range training.Exercises() {
		if x.ID == row.Exercise {
			v.Exercise = &x
		}
	}
	if row.Result != nil {
		v.Result = &training.Judgement{Strands: []training.Strands{}}
		if err := json.Unmarshal(*row.Result, v.Result); err != nil {
			return nil, err
		}
	}
	p := s.practices.of(row.ID)
	if p == nil {
		v.Cut = row.EndedAt == nil
		return v, nil
	}
	p.mu.Lock()
	defer p.mu.Unlock()
	v.Running = !p.over
	v.Judging = p.over && p.section != "" && row.EndedAt == nil
	if v.Running {
		v.Pace = p.pace
	}
	return v, nil
}

// errGone is for whoever taps in one that has ended: its result is there, and nothing else.
var errGone = huma.NewError(http.StatusConflict, message.Of("training.gone").Text)

func (s *Server) pacePractice(ctx context.Context, in *pacePracticeIn) (*practiceOut, error) {
	p := s.practices.of(in.ID)
	if p == nil {
		if _, err := s.store.Practice(ctx, in.ID); err != nil {
			return nil, s.fail(err)
		}
		return nil, errGone
	}
	p.mu.Lock()
	p.goOn(in.Body.Pace)
	p.mu.Unlock()
	return s.getPractice(ctx, &practiceIn{in.ID})
}

func (s *Server) endPractice(ctx context.Context, in *practiceIn) (*practiceOut, error) {
	if p := s.practices.of(in.ID); p != nil {
		p.mu.Lock()
		if !p.over {
			p.ending = true
		}
		p.mu.Unlock()
		s.tickPractice(ctx, p)
	}
	return s.getPractice(ctx, in)
}

// practiceEvents are what somebody taps in one: their own section's runs begin and are taken off, and words are said; the rest is played.
func (s *Server) practiceEvents(ctx context.Context, in *eventsIn) (*eventsOut, error) {
	p := s.practices.of(in.ID)
	if p == nil {
		if err := s.here(ctx, in.ID); err != nil {
			return nil, s.fail(err)
		}
		return nil, errGone
	}
	p.mu.Lock()
	defer p.mu.Unlock()
	if err := s.advance(ctx, p); err != nil {
		return nil, s.fail(err)
	}
	out := &eventsOut{EventsTaken{Taken: []live.Outcome{}}}
	f := found(ctx)
	for i, e := range in.Body.Events {
		x := service.Event{ID: e.ID, Kind: e.Kind, At: p.now(), Device: e.Device, Count: e.Count, Facts: e.Facts}
		if err := x.Check(); err != nil {
			return nil, s.fail(under("events["+strconv.Itoa(i)+"].", err))
		}
		log, _, err := s.live.Log(ctx, p.id, 0)
		if err != nil {
			return nil, s.fail(err)
		}
		if !slices.ContainsFunc(log, func(o service.Event) bool { return o.ID == x.ID }) {
			var said *message.Message
			if no := service.Refuses(log, &x, string(access.Section)); no != nil {
				said = &no.Said
			} else {
				said = p.does(&x)
			}
			if said != nil {
				out.Body.Taken = append(out.Body.Taken, live.Outcome{ID: x.ID, As: live.Refused, Said: said})
				continue
			}
		}
		seq, taken, err := s.live.Add(ctx, p.id, live.Who{Person: f.Name, Role: string(access.Section), Device: f.Identity.Device, Now: p.now()},
			[]service.Event{x}, 0)
		if err != nil {
			return nil, s.fail(err)
		}
		if taken[0].As == live.Taken {
			x.Seq, x.ReceivedAt = seq, x.At
			p.game.Say(x)
		}
		out.Body.Seq, out.Body.Taken = seq, append(out.Body.Taken, taken...)
	}
	if err := s.advance(ctx, p); err != nil {
		return nil, s.fail(err)
	}
	return out, nil
}
