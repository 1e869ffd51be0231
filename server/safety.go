package server

import (
	"bytes"
	"context"
	"io"
	"net/http"
	"strings"
	"time"

	"github.com/danielgtaylor/huma/v2"

	"jointime/core/kitchen"
	"jointime/core/safety"
	"jointime/formats/safetylog"
	"jointime/store"
)

// SafetyLog is the log of temperatures of one day: what is missing first.
type SafetyLog struct {
	Day   string        `json:"day" doc:"YYYY-MM-DD"`
	Today bool          `json:"today"`
	Due   []safety.Due  `json:"due" nullable:"false" doc:"What should stand there by now and does not; of today only"`
	Lines []safety.Line `json:"lines" nullable:"false" doc:"In the order in which they were read"`
	// Foods are what can be measured, for those who do not take it from what is due.
	Foods     []Measured `json:"foods" nullable:"false"`
	Equipment []Measured `json:"equipment" nullable:"false" doc:"Fridges, freezers and what holds hot"`
}

// Measured is something of the house that is measured, with its kind.
type Measured struct {
	ID   string `json:"id"`
	Name string `json:"name"`
	Kind string `json:"kind,omitempty"`
}

// LogReading is a line for the log.
type LogReading struct {
	ID       string         `json:"id" format:"uuid" doc:"The line's own: sent twice, it is kept once"`
	Kind     safety.LogKind `json:"kind" enum:"core,cooling,holding,cold,delivery,probe"`
	What     string         `json:"what" maxLength:"120"`
	Ref      string         `json:"ref,omitempty" maxLength:"80"`
	Subject  safety.Subject `json:"subject,omitempty" maxLength:"20"`
	C        *float64       `json:"c,omitempty"`
	Run      int64          `json:"run,omitempty" minimum:"0"`
	Note     string         `json:"note,omitempty" maxLength:"200"`
	At       *time.Time     `json:"at,omitempty" doc:"When it was read; now when it is missing"`
	Corrects int64          `json:"corrects,omitempty" minimum:"0"`
}

type (
	safetyDay struct {
		Day string `query:"day" maxLength:"10" doc:"YYYY-MM-DD; today when empty"`
	}
	safetyOut struct{ Body SafetyLog }
	readingIn struct{ Body LogReading }
)

func (s *Server) safetyRoutes(api huma.API) {
	huma.Register(api, huma.Operation{OperationID: "get-safety-log", Method: http.MethodGet, Path: "/api/safety/log",
		Summary: "The log of temperatures of a day, what is missing first", Errors: []int{422}}, s.safetyLog)
	huma.Register(api, huma.Operation{OperationID: "add-reading", Method: http.MethodPost, Path: "/api/safety/log",
		Summary: "Write a temperature down; a line is never changed, only corrected by another", MaxBodyBytes: maxBody, Errors: []int{422}},
		s.addReading)
}

func (s *Server) safetyLog(ctx context.Context, in *safetyDay) (*safetyOut, error) {
	snap, err := s.book(ctx)
	if err != nil {
		return nil, s.fail(err)
	}
	b, now := snap.Book, s.clock()
	house := b.Kitchen()
	today := house.Date(now)
	day := in.Day
	if day == "" {
		day = today
	}
	from, to, err := house.Stretch(day)
	if err != nil {
		return nil, s.fail(err)
	}
	entries, err := s.store.SafetyLog(ctx, from, to)
	if err != nil {
		return nil, s.fail(err)
	}
	out := SafetyLog{Day: day, Today: day == today, Due: []safety.Due{}, Lines: safety.Judge(b, entries), Foods: []Measured{},
		Equipment: []Measured{}}
	if out.Today {
		if out.Due, err = s.missing(ctx, b); err != nil {
			return nil, s.fail(err)
		}
	}
	for _, c := range b.Components() {
		if !c.Archived {
			out.Foods = append(out.Foods, Measured{ID: c.ID, Name: c.Name})
		}
	}
	for _, e := range b.Equipment() {
		if e.Kind == kitchen.Fridge || e.Kind == kitchen.Freezer || e.Kind == kitchen.Holding {
			out.Equipment = append(out.Equipment, Measured{e.ID, e.Name, string(e.Kind)})
		}
	}
	return &safetyOut{out}, nil
}

// madeToday is what the make-ahead plan says was done by now; none where nothing could be planned.
func (s *Server) madeToday(ctx context.Context) ([]safety.Made, error) {
	p, err := s.planner.Prep(ctx)
	if err != nil {
		if ctx.Err() != nil {
			return nil, err
		}
		return nil, nil
	}
	var out []safety.Made
	for i := range p.View.Jobs {
		j := &p.View.Jobs[i]
		for k := range j.Steps {
			if x := &j.Steps[k]; x.Done {
				out = append(out, safety.Made{Component: j.Component, Step: x.Step, At: x.FinishAt})
			}
		}
	}
	return out, nil
}

func (s *Server) addReading(ctx context.Context, in *readingIn) (*safetyOut, error) {
	snap, err := s.book(ctx)
	if err != nil {
		return nil, s.fail(err)
	}
	now := s.clock()
	e := safety.Entry{Kind: in.Body.Kind, What: strings.TrimSpace(in.Body.What), Ref: in.Body.Ref, Subject: in.Body.Subject, C: in.Body.C,
		Run: in.Body.Run, Note: strings.TrimSpace(in.Body.Note), Person: store.Who(ctx), At: now, Corrects: in.Body.Corrects}
	if in.Body.At != nil {
		e.At = *in.Body.At
	}
	if err := e.Check(now); err != nil {
		return nil, s.fail(err)
	}
	if _, err := s.store.AddSafety(ctx, in.Body.ID, e); err != nil {
		return nil, s.fail(err)
	}
	house := snap.Book.Kitchen()
	return s.safetyLog(ctx, &safetyDay{Day: house.Date(e.At)})
}

// safetyFile answers with the log as a file: of ?day=YYYY-MM-DD, or of ?month=YYYY-MM.
func (s *Server) safetyFile(ending, kind string, to func(*safetylog.Log, io.Writer) error) http.HandlerFunc {
	return func(w http.ResponseWriter, r *http.Request) {
		l, name, err := s.safetyStretch(r)
		if err != nil {
			s.refuse(w, err, "There is no such log.")
			return
		}
		var b bytes.Buffer
		if err := to(l, &b); err != nil {
			s.refuse(w, err, "The log could not be written.")
			return
		}
		attach(w, "temperatures-"+name+"."+ending, kind, b.Bytes())
	}
}

func (s *Server) safetyStretch(r *http.Request) (*safetylog.Log, string, error) {
	snap, err := s.book(r.Context())
	if err != nil {
		return nil, "", err
	}
	b := snap.Book
	house := b.Kitchen()
	name := r.URL.Query().Get("day")
	var from, to time.Time
	if month := r.URL.Query().Get("month"); month != "" {
		if from, _, err = house.Stretch(month + "-01"); err != nil {
			return nil, "", err
		}
		name, to = month, from.AddDate(0, 1, 0)
	} else if from, to, err = house.Stretch(name); err != nil {
		return nil, "", err
	}
	entries, err := s.store.SafetyLog(r.Context(), from, to)
	if err != nil {
		return nil, "", err
	}
	return &safetylog.Log{House: house.Name, Code: safety.CodeName(house.SafetyCode), From: from, To: to, Lines: safety.Judge(b, entries),
		Zone: b.Zone(),
		Made: s.clock()}, name, nil
}
