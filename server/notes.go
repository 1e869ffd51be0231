package server

import (
	"context"
	"net/http"
	"slices"
	"strings"

	"github.com/danielgtaylor/huma/v2"

	"jointime/core/kitchen"
	"jointime/store"
)

// Notes of the night: written while looking back, they come up again where they belong, until somebody puts them away.

// NoteIn is a note as it is written.
type NoteIn struct {
	ID      string `json:"id" minLength:"8" maxLength:"80" doc:"Made by the screen: the same note sent twice counts once"`
	Service string `json:"service" maxLength:"80" doc:"The night that it is of"`
	Kind    string `json:"kind" enum:"night,dish,component,step,group" doc:"What it is about"`
	About   string `json:"about,omitempty" maxLength:"161" doc:"The id of that; a group by the name of its table, a step as component/step"`
	Text    string `json:"text" maxLength:"500"`
}

// NoteView is a note with what it is about, by name.
type NoteView struct {
	store.Note
	Name  string `json:"name" doc:"Of what it is about"`
	Night string `json:"night" doc:"The name of the service that it is of"`
}

type (
	notesIn struct {
		Night     string `query:"night" maxLength:"80" doc:"Those of a service, also what was put away"`
		Dish      string `query:"dish" maxLength:"80" doc:"Those about a dish"`
		Component string `query:"component" maxLength:"80" doc:"Those about a component"`
		Step      string `query:"step" maxLength:"161" doc:"Those about a step, component/step"`
		For       string `query:"for" maxLength:"80" doc:"Those that belong to a service that is to come: to its dishes, their components, and its groups"`
	}
	notesOut struct {
		Body []NoteView `nullable:"false"`
	}
	noteIn   struct{ Body NoteIn }
	numberIn struct {
		Number int64 `path:"number"`
	}
)

func (s *Server) noteRoutes(api huma.API) {
	huma.Register(api, huma.Operation{OperationID: "list-notes", Method: http.MethodGet, Path: "/api/notes",
		Summary: "Notes of the night, where they belong", Errors: []int{404}}, s.listNotes)
	huma.Register(api, huma.Operation{OperationID: "add-note", Method: http.MethodPost, Path: "/api/notes",
		Summary: "Write a note of the night", MaxBodyBytes: maxBody, Errors: []int{404, 422}}, s.addNote)
	huma.Register(api, huma.Operation{OperationID: "put-note-away", Method: http.MethodDelete, Path: "/api/notes/{number}",
		Summary: "Keep a note from coming up again; it stays in the record of its night", Errors: []int{404}}, s.putNoteAway)
}

func (s *Server) listNotes(ctx context.Context, in *notesIn) (*notesOut, error) {
	snap, err := s.book(ctx)
	if err != nil {
		return nil, s.fail(err)
	}
	belongs := func(n *store.Note) bool {
		switch {
		case in.Night != "":
			return n.Service == in.Night
		case n.Done:
			return false
		case in.Dish != "":
			return n.Kind == "dish" && n.About == in.Dish
		case in.Component != "":
			return n.Kind == "component" && n.About == in.Component
		case in.Step != "":
			return n.Kind == "step" && n.About == in.Step
		}
		return in.For == ""
	}
	if in.For != "" {
		svc, ok := snap.Book.Service(in.For)
		if !ok {
			return nil, s.fail(store.ErrNotFound)
		}
		belongs = notesFor(snap.Book, svc)
	}
	list, err := s.store.Notes(ctx)
	if err != nil {
		return nil, s.fail(err)
	}
	out := &notesOut{[]NoteView{}}
	for i := range list {
		if n := &list[i]; belongs(n) {
			v := NoteView{Note: *n, Name: aboutName(snap.Book, n.Kind, n.About)}
			v.At = v.At.In(snap.Book.Zone())
			if svc, ok := snap.Book.Service(n.Service); ok {
				v.Night = svc.Name
			}
			out.Body = append(out.Body, v)
		}
	}
	return out, nil
}

// notesFor are those that belong to a service that is to come.
func notesFor(b *kitchen.Book, svc *kitchen.Service) func(*store.Note) bool {
	about := map[string]bool{}
	for _, m := range svc.Menu {
		about["dish/"+m.Dish] = true
		if d, ok := b.Dish(m.Dish); ok {
			for _, e := range d.Specification.Elements {
				about["component/"+e.Component] = true
			}
		}
	}
	for _, t := range svc.Tables {
		about["group/"+strings.ToLower(t.Name)] = true
	}
	return func(n *store.Note) bool {
		key := n.Kind + "/" + n.About
		switch n.Kind {
		case "group":
			key = strings.ToLower(key)
		case "step": // it belongs where its component is cooked
			component, _, _ := strings.Cut(n.About, "/")
			key = "component/" + component
		}
		return !n.Done && n.Service != svc.ID && about[key]
	}
}

func aboutName(b *kitchen.Book, kind, about string) string {
	switch kind {
	case "dish":
		if d, ok := b.Dish(about); ok {
			return d.Name
		}
	case "component":
		if c, ok := b.Component(about); ok {
			return c.Name
		}
	case "step":
		if c, k := stepAbout(b, about); c != nil {
			return c.Name + ", " + c.Steps[k].Name
		}
	}
	return about
}

// stepAbout is the step that a note is about; nil where there is no such step.
func stepAbout(b *kitchen.Book, about string) (*kitchen.Component, int) {
	component, step, _ := strings.Cut(about, "/")
	if c, ok := b.Component(component); ok {
		if k := c.StepIndex(step); k >= 0 {
			return c, k
		}
	}
	return nil, -1
}

func (s *Server) addNote(ctx context.Context, in *noteIn) (*notesOut, error) {
	if err := s.here(ctx, in.Body.Service); err != nil || isPractice(in.Body.Service) {
		return nil, s.fail(orNotFound(err))
	}
	snap, err := s.book(ctx)
	if err != nil {
		return nil, s.fail(err)
	}
	n := store.Note{ID: in.Body.ID, Service: in.Body.Service, Kind: in.Body.Kind, About: strings.TrimSpace(in.Body.About),
		Body: strings.TrimSpace(in.Body.Text), Person: found(ctx).Name}
	var faults kitchen.Faults
	if n.Body == "" {
		faults = append(faults, kitchen.FaultAt("text", "live.missing"))
	}
	_, dish := snap.Book.Dish(n.About)
	_, component := snap.Book.Component(n.About)
	step, _ := stepAbout(snap.Book, n.About)
	if n.Kind == "night" {
		n.About = ""
	} else if n.About == "" || n.Kind == "dish" && !dish || n.Kind == "component" && !component || n.Kind == "step" && step == nil {
		faults = append(faults, kitchen.FaultAt("about", "lookback.no-about"))
	}
	if err := faults.Or(); err != nil {
		return nil, s.fail(err)
	}
	if err := s.store.AddNote(ctx, &n); err != nil {
		return nil, s.fail(err)
	}
	return s.listNotes(ctx, &notesIn{Night: n.Service})
}

func (s *Server) putNoteAway(ctx context.Context, in *numberIn) (*notesOut, error) {
	if err := s.store.PutNoteAway(ctx, in.Number); err != nil {
		return nil, s.fail(err)
	}
	list, err := s.store.Notes(ctx)
	if err != nil {
		return nil, s.fail(err)
	}
	k := slices.IndexFunc(list, func(n store.Note) bool { return n.Number == in.Number })
	if k < 0 {
		return nil, s.fail(store.ErrNotFound)
	}
	return s.listNotes(ctx, &notesIn{Night: list[k].Service})
}

func orNotFound(err error) error {
	if err != nil {
		return err
	}
	return store.ErrNotFound
}
