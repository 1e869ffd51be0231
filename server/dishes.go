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
	ID     string         `json:"id"`
	Name   string         `json:"name"`
	Course kitchen.Course `json:"course" enum:"first,second,main,dessert"`
}

// DishView is a dish with what follows from it.
type DishView struct {
	Dish       kitchen.Dish       `json:"dish"`
	Version    int64              `json:"version"`
	Components []ComponentLine    `json:"components" nullable:"false" doc:"One for each element, in its order"`
	WeightG    float64            `json:"weight_g" doc:"On the plate"`
	Allergens  []kitchen.Allergen `json:"allergens" nullable:"false"`
	Sources    []kitchen.Source   `json:"allergen_sources" nullable:"false"`
	Vessel     kitchen.Vessel     `json:"vessel"`
}

// ComponentLine is a component in a list.
type ComponentLine struct {
	ID      string       `json:"id"`
	Name    string       `json:"name"`
	Section string       `json:"section"`
	Unit    kitchen.Unit `json:"unit"`
	Steps   int          `json:"steps"`
	Dishes  []string     `json:"dishes" nullable:"false" doc:"Names of the dishes that use it"`
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
	huma.Register(api, huma.Operation{OperationID: "list-dishes", Method: http.MethodGet, Path: "/api/dishes", Summary: "The menu, in its order"},
		func(ctx context.Context, _ *struct{}) (*dishesOut, error) {
			snap, err := s.store.Snapshot(ctx)
			if err != nil {
				return nil, s.fail(err)
			}
			out := []DishLine{}
			if !snap.Empty {
				for _, d := range snap.Book.Dishes() {
					out = append(out, DishLine{d.ID, d.Name, d.Course})
				}
			}
			return &dishesOut{out}, nil
		})
	huma.Register(api, huma.Operation{OperationID: "get-dish", Method: http.MethodGet, Path: "/api/dishes/{id}", Summary: "One dish with its plating specification", Errors: []int{404}},
		func(ctx context.Context, in *plateIn) (*dishOut, error) {
			snap, err := s.book(ctx)
			if err != nil {
				return nil, s.fail(err)
			}
			v, err := dishView(snap, in.ID, in.Variant)
			if err != nil {
				return nil, s.fail(err)
			}
			return &dishOut{*v}, nil
		})
	huma.Register(api, huma.Operation{OperationID: "get-plate", Method: http.MethodGet, Path: "/api/dishes/{id}/plate", Summary: "The plate drawn to scale, as written or for a variant", Errors: []int{404, 422}},
		func(ctx context.Context, in *plateIn) (*plateOut, error) {
			p, err := s.plate(ctx, in)
			if err != nil {
				return nil, s.fail(err)
			}
			return &plateOut{*p}, nil
		})
	huma.Register(api, huma.Operation{OperationID: "draw-plate", Method: http.MethodPost, Path: "/api/plate", Summary: "A plating specification drawn without being saved", MaxBodyBytes: maxBody, Errors: []int{422}},
		func(ctx context.Context, in *struct{ Body kitchen.Dish }) (*plateOut, error) {
			snap, err := s.book(ctx)
			if err != nil {
				return nil, s.fail(err)
			}
			if err := snap.Book.CheckDish(in.Body); err != nil {
				return nil, s.fail(err)
			}
			return &plateOut{*plating.Draw(snap.Book, &in.Body.Specification, in.Body.Specification.Elements)}, nil
		})
	huma.Register(api, huma.Operation{OperationID: "change-dish", Method: http.MethodPut, Path: "/api/dishes/{id}", Summary: "Change a dish and its plating specification", MaxBodyBytes: maxBody, Errors: []int{404, 409, 422}},
		func(ctx context.Context, in *struct {
			ID   string `path:"id" maxLength:"80"`
			Body DishChange
		}) (*dishOut, error) {
			return s.saveDish(ctx, in.ID, in.Body.Version, in.Body.Dish, in.Body.Dish.Name+" changed.")
		})
	huma.Register(api, huma.Operation{OperationID: "restore-dish", Method: http.MethodPost, Path: "/api/dishes/{id}/restore", Summary: "Bring an earlier version of a dish back", MaxBodyBytes: maxBody, Errors: []int{404, 409, 422}},
		func(ctx context.Context, in *struct {
			ID   string `path:"id" maxLength:"80"`
			Body DishRestore
		}) (*dishOut, error) {
			var old kitchen.Dish
			if err := s.store.At(ctx, store.Key{Kind: store.DishKind, ID: in.ID}, in.Body.To, &old); err != nil {
				return nil, s.fail(err)
			}
			return s.saveDish(ctx, in.ID, in.Body.Version, old, fmt.Sprintf("Back to version %d.", in.Body.To))
		})
	huma.Register(api, huma.Operation{OperationID: "dish-history", Method: http.MethodGet, Path: "/api/dishes/{id}/history", Summary: "Every version of a dish, newest first", Errors: []int{404}},
		func(ctx context.Context, in *byID) (*historyOut, error) {
			h, err := s.store.History(ctx, store.Key{Kind: store.DishKind, ID: in.ID})
			if err != nil {
				return nil, s.fail(err)
			}
			return &historyOut{h}, nil
		})
}

func (s *Server) saveDish(ctx context.Context, id string, version int64, d kitchen.Dish, said string) (*dishOut, error) {
	d.ID = id
	if _, err := s.store.Save(ctx, store.Key{Kind: store.DishKind, ID: id}, version, d, said); err != nil {
		return nil, s.fail(err)
	}
	snap, err := s.book(ctx)
	if err != nil {
		return nil, s.fail(err)
	}
	v, err := dishView(snap, id, "")
	if err != nil {
		return nil, s.fail(err)
	}
	return &dishOut{*v}, nil
}

type plateIn struct {
	ID      string `path:"id" maxLength:"80"`
	Variant string `query:"variant" maxLength:"60"`
}

type plateOut struct{ Body plating.Plate }

// plate draws a dish or a variant of it.
func (s *Server) plate(ctx context.Context, in *plateIn) (*plating.Plate, error) {
	snap, err := s.book(ctx)
	if err != nil {
		return nil, err
	}
	d, ok := snap.Book.Dish(in.ID)
	if !ok {
		return nil, store.ErrNotFound
	}
	elements, err := d.Plate(in.Variant)
	if err != nil {
		return nil, kitchen.Faults{{Path: "variant", Message: err.Error()}}
	}
	return plating.Draw(snap.Book, &d.Specification, elements), nil
}

func dishView(snap *store.Snapshot, id, variant string) (*DishView, error) {
	d, ok := snap.Book.Dish(id)
	if !ok {
		return nil, store.ErrNotFound
	}
	elements, err := d.Plate(variant)
	if err != nil {
		return nil, kitchen.Faults{{Path: "variant", Message: err.Error()}}
	}
	v := &DishView{Dish: *d, Version: snap.Versions[store.Key{Kind: store.DishKind, ID: id}], Components: []ComponentLine{},
		Allergens: []kitchen.Allergen{}, Sources: []kitchen.Source{}}
	for _, e := range d.Specification.Elements {
		c, _ := snap.Book.Component(e.Component)
		v.Components = append(v.Components, componentLine(snap.Book, c))
	}
	for _, e := range elements {
		c, _ := snap.Book.Component(e.Component)
		v.WeightG += e.Amount * c.GramsPerUnit
	}
	v.Sources = append(v.Sources, snap.Book.DishAllergens(elements)...)
	seen := map[kitchen.Allergen]bool{}
	for _, a := range v.Sources {
		if !seen[a.Allergen] {
			seen[a.Allergen] = true
			v.Allergens = append(v.Allergens, a.Allergen)
		}
	}
	vessel, _ := snap.Book.Vessel(d.Specification.Vessel)
	v.Vessel = *vessel
	return v, nil
}

func componentLine(b *kitchen.Book, c *kitchen.Component) ComponentLine {
	l := ComponentLine{c.ID, c.Name, c.Section, c.Unit, len(c.Steps), []string{}}
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
	in := &plateIn{ID: chi.URLParam(r, "id"), Variant: r.URL.Query().Get("variant")}
	p, err := s.plate(r.Context(), in)
	if err != nil {
		status := http.StatusNotFound
		var e huma.StatusError
		if errors.As(s.fail(err), &e) {
			status = e.GetStatus()
		}
		problem(w, status, "This plate cannot be drawn.")
		return
	}
	w.Header().Set("Content-Type", "image/svg+xml")
	w.Header().Set("Content-Disposition", "attachment; filename=\"plate.svg\"")
	write(w, []byte(p.SVG(in.ID)))
}
