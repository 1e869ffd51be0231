package server

import (
	"context"
	"fmt"
	"net/http"
	"regexp"
	"strings"

	"github.com/danielgtaylor/huma/v2"

	"jointime/core/kitchen"
	"jointime/core/lines"
)

// LinesView is a component said in lines, with what was understood of each.
type LinesView struct {
	Text     string          `json:"text"`
	Readings []lines.Reading `json:"readings" nullable:"false"`
	Steps    []kitchen.Step  `json:"steps" nullable:"false"`
	Hold     kitchen.Wait    `json:"hold"`
	Faults   []kitchen.Fault `json:"faults" nullable:"false" doc:"What would keep it from being saved"`
}

// LinesIn is text to be read, for a component or for none yet.
type LinesIn struct {
	Text string `json:"text" maxLength:"200000"`
}

// NewLines is text to be read of a component that is not there yet; its name helps.
type NewLines struct {
	Name string `json:"name" maxLength:"120"`
	Text string `json:"text" maxLength:"200000"`
}

// LinesChange saves lines as a component's steps.
type LinesChange struct {
	Version int64      `json:"version" minimum:"1"`
	Text    string     `json:"text" maxLength:"200000"`
	Table   *TableWish `json:"table,omitempty"`
}

// NewComponent is a component to begin with.
type NewComponent struct {
	Name    string       `json:"name" maxLength:"120"`
	Section string       `json:"section"`
	Unit    kitchen.Unit `json:"unit" enum:"g,ml,piece,spoon"`
	Text    string       `json:"text,omitempty" maxLength:"200000" doc:"Its steps in lines"`
	Colour  string       `json:"colour,omitempty"`
}

// NewDish is a dish to begin with.
type NewDish struct {
	Name   string         `json:"name" maxLength:"120"`
	Course kitchen.Course `json:"course" enum:"first,second,main,dessert"`
	Vessel string         `json:"vessel,omitempty" doc:"The first of the kitchen's vessels when missing"`
}

type linesOut struct{ Body LinesView }

func (s *Server) lineRoutes(api huma.API) {
	huma.Register(api, huma.Operation{OperationID: "get-lines", Method: http.MethodGet, Path: "/api/components/{id}/lines",
		Summary: "A component said in lines", Errors: []int{404}},
		s.getLines)
	huma.Register(api, huma.Operation{OperationID: "read-lines", Method: http.MethodPost, Path: "/api/components/{id}/lines",
		Summary: "What is understood of lines, without saving them", MaxBodyBytes: maxBody, Errors: []int{404}},
		s.readLines)
	huma.Register(api, huma.Operation{OperationID: "read-new-lines", Method: http.MethodPost, Path: "/api/lines",
		Summary: "What is understood of lines of a component that is not there yet", MaxBodyBytes: maxBody, Errors: []int{422}},
		s.readNewLines)
	huma.Register(api, huma.Operation{OperationID: "save-lines", Method: http.MethodPut, Path: "/api/components/{id}/lines",
		Summary: "Save lines as a component's steps", MaxBodyBytes: maxBody, Errors: []int{404, 409, 422}},
		s.saveLines)
	huma.Register(api, huma.Operation{OperationID: "new-component", Method: http.MethodPost, Path: "/api/components",
		Summary: "A new component", MaxBodyBytes: maxBody, Errors: []int{409, 422}},
		s.newComponent)
	huma.Register(api, huma.Operation{OperationID: "new-dish", Method: http.MethodPost, Path: "/api/dishes",
		Summary: "A new dish with an empty plate", MaxBodyBytes: maxBody, Errors: []int{409, 422}},
		s.newDish)
}

func (s *Server) getLines(ctx context.Context, in *byID) (*linesOut, error) {
	snap, c, err := s.bookWith(ctx, in.ID)
	if err != nil {
		return nil, s.fail(err)
	}
	return &linesOut{readLines(snap.Book, *c, lines.Format(c))}, nil
}

type readLinesIn struct {
	ID   string `path:"id" maxLength:"80"`
	Body LinesIn
}

func (s *Server) readLines(ctx context.Context, in *readLinesIn) (*linesOut, error) {
	snap, c, err := s.bookWith(ctx, in.ID)
	if err != nil {
		return nil, s.fail(err)
	}
	if err := lines.Check(in.Body.Text); err != nil {
		return nil, s.fail(err)
	}
	return &linesOut{readLines(snap.Book, *c, in.Body.Text)}, nil
}

type readNewLinesIn struct{ Body NewLines }

func (s *Server) readNewLines(ctx context.Context, in *readNewLinesIn) (*linesOut, error) {
	snap, err := s.book(ctx)
	if err != nil {
		return nil, s.fail(err)
	}
	if err := lines.Check(in.Body.Text); err != nil {
		return nil, s.fail(err)
	}
	v := readLines(snap.Book, kitchen.Component{Name: in.Body.Name}, in.Body.Text)
	v.Faults = []kitchen.Fault{} // it has neither a section nor a unit yet
	return &linesOut{v}, nil
}

type saveLinesIn struct {
	ID   string `path:"id" maxLength:"80"`
	Body LinesChange
}

func (s *Server) saveLines(ctx context.Context, in *saveLinesIn) (*changedOut, error) {
	snap, err := s.book(ctx)
	if err != nil {
		return nil, s.fail(err)
	}
	return s.editComponent(ctx, in.ID, in.Body.Version, in.Body.Table, func(c *kitchen.Component) (string, error) {
		if err := lines.Check(in.Body.Text); err != nil {
			return "", err
		}
		*c, _ = lines.KnownOf(snap.Book).Parse(*c, in.Body.Text)
		return c.Name + ": steps rewritten.", nil
	})
}

type newComponentIn struct{ Body NewComponent }

func (s *Server) newComponent(ctx context.Context, in *newComponentIn) (*componentOut, error) {
	snap, err := s.book(ctx)
	if err != nil {
		return nil, s.fail(err)
	}
	n := in.Body
	if err := lines.Check(n.Text); err != nil {
		return nil, s.fail(err)
	}
	c := kitchen.Component{Name: strings.TrimSpace(n.Name), Section: n.Section, Unit: n.Unit, GramsPerUnit: 1, DensityGPerMl: 1,
		Colour:    orColour(n.Colour),
		Allergens: []kitchen.Allergen{}, Ingredients: []kitchen.Ingredient{}, Uses: []kitchen.Use{}, ByProducts: []kitchen.ByProduct{}}
	c, _ = lines.KnownOf(snap.Book).Parse(c, n.Text)
	c.ID = freeID(c.Name, func(id string) bool { return snap.Versions[componentKey(id)] != 0 })
	snap.Book.SetTimes(&kitchen.Component{}, &c)
	v, err := s.store.Save(ctx, componentKey(c.ID), 0, c, "New.")
	if err != nil {
		return nil, s.fail(err)
	}
	return &componentOut{componentView(snap.Book, &c, v)}, nil
}

type newDishIn struct{ Body NewDish }

func (s *Server) newDish(ctx context.Context, in *newDishIn) (*dishOut, error) {
	snap, err := s.book(ctx)
	if err != nil {
		return nil, s.fail(err)
	}
	d := kitchen.Dish{Name: strings.TrimSpace(in.Body.Name), Course: in.Body.Course, State: kitchen.DraftDish,
		Specification: kitchen.Specification{
			Vessel: in.Body.Vessel, VesselTemp: "warm", Elements: []kitchen.Element{}, FinalChecks: []string{}, Variants: []kitchen.Variant{}}}
	if vs := snap.Book.Vessels(); d.Specification.Vessel == "" && len(vs) > 0 {
		d.Specification.Vessel = vs[0].ID
	}
	d.ID = freeID(d.Name, func(id string) bool { return snap.Versions[dishKey(id)] != 0 })
	return s.saveDish(ctx, d.ID, 0, d, "New.")
}

func readLines(b *kitchen.Book, was kitchen.Component, text string) LinesView {
	c, readings := lines.KnownOf(b).Parse(was, text)
	b.SetTimes(&was, &c)
	v := LinesView{Text: text, Readings: readings, Steps: c.Steps, Hold: c.Hold, Faults: []kitchen.Fault{}}
	v.Faults = append(v.Faults, kitchen.CheckComponent(c)...)
	return v
}

func orColour(c string) string {
	if c == "" {
		return "#c9b48a"
	}
	return c
}

var notID = regexp.MustCompile(`[^a-z0-9]+`)

// freeID makes an id of a name that is not taken yet. A name without a letter of the
// Latin alphabet gets a number.
func freeID(name string, taken func(string) bool) string {
	id := strings.Trim(notID.ReplaceAllString(strings.ToLower(name), "-"), "-")
	if len(id) > 60 {
		id = strings.Trim(id[:60], "-")
	}
	if id == "" {
		id = "item"
	}
	for n, next := 2, id; ; n++ {
		if !taken(next) {
			return next
		}
		next = fmt.Sprintf("%s-%d", id, n)
	}
}
