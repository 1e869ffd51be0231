package server

import (
	"context"
	"errors"
	"fmt"
	"net/http"

	"github.com/danielgtaylor/huma/v2"
	"github.com/go-chi/chi/v5"

	"jointime/core/kitchen"
	"jointime/core/plating"
	"jointime/store"
)

// DishLine is a dish in the menu.
type DishLine struct {
	ID     string            `json:"id"`
	Name   string            `json:"name"`
	Course kitchen.Course    `json:"course" enum:"first,second,main,dessert"`
	State  kitchen.DishState `json:"state" enum:"draft,current,retired"`
}

// DishView is a dish with what follows from it.
type DishView struct {
	Dish       kitchen.Dish           `json:"dish"`
	Version    int64                  `json:"version"`
	Components []ComponentLine        `json:"components" nullable:"false" doc:"One for each element, in its order"`
	WeightG    float64                `json:"weight_g" doc:"On the plate"`
	Allergens  []kitchen.AllergenLine `json:"allergens" nullable:"false" doc:"Under the kitchen's code, with what brings each in"`
	Diets      []kitchen.DietLine     `json:"diets" nullable:"false" doc:"Whether it suits each diet, by its recipes"`
	Unknown    []string               `json:"unknown_recipes" nullable:"false" doc:"Components whose recipe was not entered: their allergens are not known"`
	Vessel     kitchen.Vessel         `json:"vessel"`
	Photograph int64                  `json:"photograph" doc:"Number of its picture, 0 when it has none"`
}

// ComponentLine is a component in a list.
type ComponentLine struct {
	ID       string       `json:"id"`
	Name     string       `json:"name"`
	Section  string       `json:"section"`
	Unit     kitchen.Unit `json:"unit"`
	Steps    int          `json:"steps"`
	Archived bool         `json:"archived"`
	Dishes   []string     `json:"dishes" nullable:"false" doc:"Names of the dishes that use it"`
}

// DishChange replaces what a dish says of itself.
type DishChange struct {
	Version int64        `json:"version" doc:"The version that the change was made from" minimum:"1"`
	Dish    kitchen.Dish `json:"dish"`
}

// DishRestore asks for an earlier version back, as a new version.
type DishRestore struct {
	Version int64 `json:"version" minimum:"1"`
	To      int64 `json:"to" minimum:"1"`
}

type (
	dishesOut struct {
		Body []DishLine `nullable:"false"`
	}
	dishOut struct{ Body DishView }
	byID    struct {
		ID string `path:"id" maxLength:"80"`
	}
)

func (s *Server) dishRoutes(api huma.API) {
	huma.Register(api, huma.Operation{OperationID: "list-dishes", Method: http.MethodGet, Path: "/api/dishes",
		Summary: "The menu, in its order"},
		s.listDishes)
	huma.Register(api, huma.Operation{OperationID: "get-dish", Method: http.MethodGet, Path: "/api/dishes/{id}",
		Summary: "One dish with its plating specification", Errors: []int{404}},
		s.getDish)
	huma.Register(api, huma.Operation{OperationID: "get-plate", Method: http.MethodGet, Path: "/api/dishes/{id}/plate",
		Summary: "The plate drawn to scale, as written or for a variant", Errors: []int{404, 422}},
		s.getPlate)
	huma.Register(api, huma.Operation{OperationID: "draw-plate", Method: http.MethodPost, Path: "/api/plate",
		Summary: "A plating specification drawn without being saved", MaxBodyBytes: maxBody, Errors: []int{422}},
		s.drawPlate)
	huma.Register(api, huma.Operation{OperationID: "change-dish", Method: http.MethodPut, Path: "/api/dishes/{id}",
		Summary: "Change a dish and its plating specification", MaxBodyBytes: maxBody, Errors: []int{404, 409, 422}},
		s.changeDish)
	huma.Register(api, huma.Operation{OperationID: "restore-dish", Method: http.MethodPost, Path: "/api/dishes/{id}/restore",
		Summary: "Bring an earlier version of a dish back", MaxBodyBytes: maxBody, Errors: []int{404, 409, 422}},
		s.restoreDish)
	huma.Register(api, huma.Operation{OperationID: "dish-history", Method: http.MethodGet, Path: "/api/dishes/{id}/history",
		Summary: "Every version of a dish, newest first", Errors: []int{404}},
		s.dishHistory)
}

func (s *Server) listDishes(ctx context.Context, _ *struct{}) (*dishesOut, error) {
	snap, err := s.store.Snapshot(ctx)
	if err != nil {
		return nil, s.fail(err)
	}
	out := []DishLine{}
	if !snap.Empty {
		for _, d := range snap.Book.Dishes() {
			out = append(out, DishLine{d.ID, d.Name, d.Course, d.State})
		}
	}
	return &dishesOut{out}, nil
}

func (s *Server) getDish(ctx context.Context, in *plateIn) (*dishOut, error) {
	snap, err := s.book(ctx)
	if err != nil {
		return nil, s.fail(err)
	}
	return s.dishOut(ctx, snap, in)
}

func (s *Server) getPlate(ctx context.Context, in *plateIn) (*plateOut, error) {
	p, err := s.plate(ctx, in)
	if err != nil {
		return nil, s.fail(err)
	}
	return &plateOut{*p}, nil
}

type drawPlateIn struct{ Body kitchen.Dish }

func (s *Server) drawPlate(ctx context.Context, in *drawPlateIn) (*plateOut, error) {
	snap, err := s.book(ctx)
	if err != nil {
		return nil, s.fail(err)
	}
	if err := snap.Book.CheckDish(in.Body); err != nil {
		return nil, s.fail(err)
	}
	spec := &in.Body.Specification
	return &plateOut{*plating.Draw(snap.Book, spec, spec.Elements, kitchen.Needs{})}, nil
}

type changeDishIn struct {
	ID   string `path:"id" maxLength:"80"`
	Body DishChange
}

func (s *Server) changeDish(ctx context.Context, in *changeDishIn) (*dishOut, error) {
	return s.saveDish(ctx, in.ID, in.Body.Version, in.Body.Dish, in.Body.Dish.Name+" changed.")
}

type restoreDishIn struct {
	ID   string `path:"id" maxLength:"80"`
	Body DishRestore
}

func (s *Server) restoreDish(ctx context.Context, in *restoreDishIn) (*dishOut, error) {
	var old kitchen.Dish
	if err := s.store.At(ctx, dishKey(in.ID), in.Body.To, &old); err != nil {
		return nil, s.fail(err)
	}
	return s.saveDish(ctx, in.ID, in.Body.Version, old, fmt.Sprintf("Back to version %d.", in.Body.To))
}

func (s *Server) dishHistory(ctx context.Context, in *byID) (*historyOut, error) {
	h, err := s.store.History(ctx, dishKey(in.ID))
	if err != nil {
		return nil, s.fail(err)
	}
	return &historyOut{h}, nil
}

func (s *Server) saveDish(ctx context.Context, id string, version int64, d kitchen.Dish, said string) (*dishOut, error) {
	d.ID = id
	if _, err := s.store.Save(ctx, dishKey(id), version, d, said); err != nil {
		return nil, s.fail(err)
	}
	snap, err := s.book(ctx)
	if err != nil {
		return nil, s.fail(err)
	}
	return s.dishOut(ctx, snap, &plateIn{ID: id})
}

// plateIn names a plate: a dish, a variant of it, and whether its draft is meant.
type plateIn struct {
	ID      string `path:"id" maxLength:"80"`
	Variant string `query:"variant" maxLength:"60"`
	Draft   bool   `query:"draft" doc:"The draft instead of the specification, where there is one"`
}

type plateOut struct{ Body plating.Plate }

// chosen finds the dish that is meant, in a book in which its draft, when that is meant,
// has taken the specification's place.
func (in *plateIn) chosen(book *kitchen.Book) (*kitchen.Book, *kitchen.Dish, []kitchen.Element, error) {
	if in.Draft {
		book, _ = book.WithDraft(in.ID)
	}
	d, ok := book.Dish(in.ID)
	if !ok {
		return nil, nil, nil, store.ErrNotFound
	}
	elements, err := d.Plate(in.Variant)
	if err != nil {
		return nil, nil, nil, kitchen.Faults{kitchen.FaultOf("variant", err)}
	}
	return book, d, elements, nil
}

// plate draws what is meant.
func (s *Server) plate(ctx context.Context, in *plateIn) (*plating.Plate, error) {
	snap, err := s.book(ctx)
	if err != nil {
		return nil, err
	}
	book, d, elements, err := in.chosen(snap.Book)
	if err != nil {
		return nil, err
	}
	return plating.Draw(book, &d.Specification, elements, d.Specification.Promises(in.Variant)), nil
}

func (s *Server) dishOut(ctx context.Context, snap *store.Snapshot, in *plateIn) (*dishOut, error) {
	v, err := dishView(snap, in)
	if err != nil {
		return nil, s.fail(err)
	}
	if v.Photograph, err = s.store.PhotographNumber(ctx, in.ID); err != nil {
		return nil, s.fail(err)
	}
	return &dishOut{*v}, nil
}

func dishView(snap *store.Snapshot, in *plateIn) (*DishView, error) {
	book, d, elements, err := in.chosen(snap.Book)
	if err != nil {
		return nil, err
	}
	whole, _ := snap.Book.Dish(in.ID)
	v := &DishView{Dish: *whole, Version: snap.Versions[dishKey(in.ID)], Components: []ComponentLine{},
		Allergens: book.AllergenLines(elements, book.Kitchen().SafetyCode), Unknown: book.UnknownRecipes(elements),
		Diets: book.DietLines(elements)}
	for _, e := range d.Specification.Elements {
		c, _ := book.Component(e.Component)
		v.Components = append(v.Components, componentLine(book, c))
	}
	for _, e := range elements {
		c, _ := book.Component(e.Component)
		v.WeightG += e.Amount * c.GramsPerUnit
	}
	vessel, _ := book.Vessel(d.Specification.Vessel)
	v.Vessel = *vessel
	return v, nil
}

func dishKey(id string) kitchen.Key { return kitchen.Key{Kind: kitchen.DishRecord, ID: id} }

func componentLine(b *kitchen.Book, c *kitchen.Component) ComponentLine {
	l := ComponentLine{ID: c.ID, Name: c.Name, Section: c.Section, Unit: c.Unit, Steps: len(c.Steps), Archived: c.Archived, Dishes: []string{}}
	for _, d := range b.Dishes() {
		for _, e := range d.Specification.Elements {
			if e.Component == c.ID {
				l.Dishes = append(l.Dishes, d.Name)
				break
			}
		}
	}
	return l
}

// plateSVG answers with the plate as a file in real millimetres.
func (s *Server) plateSVG(w http.ResponseWriter, r *http.Request) {
	in := plateOf(r)
	p, err := s.plate(r.Context(), in)
	if err != nil {
		s.refuse(w, err, "This plate cannot be drawn.")
		return
	}
	w.Header().Set("Content-Type", "image/svg+xml")
	w.Header().Set("Content-Disposition", "attachment; filename=\"plate.svg\"")
	write(w, []byte(p.SVG(in.ID)))
}

// plateOf reads what is meant from an address, for the handlers of files.
func plateOf(r *http.Request) *plateIn {
	q := r.URL.Query()
	return &plateIn{ID: chi.URLParam(r, "id"), Variant: q.Get("variant"), Draft: q.Get("draft") == "true"}
}

// refuse answers a request for a file with the problem that an error stands for.
func (s *Server) refuse(w http.ResponseWriter, err error, say string) {
	status := http.StatusInternalServerError
	var e huma.StatusError
	if errors.As(s.fail(err), &e) {
		status = e.GetStatus()
	}
	problem(w, status, say)
}
