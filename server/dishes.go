package server

import (
	"context"
	"net/http"

	"github.com/danielgtaylor/huma/v2"

	"jointime/core/kitchen"
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
		func(ctx context.Context, in *byID) (*dishOut, error) {
			snap, err := s.book(ctx)
			if err != nil {
				return nil, s.fail(err)
			}
			v, err := dishView(snap, in.ID)
			if err != nil {
				return nil, s.fail(err)
			}
			return &dishOut{*v}, nil
		})
}

func dishView(snap *store.Snapshot, id string) (*DishView, error) {
	d, ok := snap.Book.Dish(id)
	if !ok {
		return nil, store.ErrNotFound
	}
	v := &DishView{Dish: *d, Version: snap.Versions[store.Key{Kind: store.DishKind, ID: id}], Components: []ComponentLine{},
		Allergens: []kitchen.Allergen{}, Sources: []kitchen.Source{}}
	for _, e := range d.Specification.Elements {
		c, _ := snap.Book.Component(e.Component)
		v.Components = append(v.Components, componentLine(snap.Book, c))
		v.WeightG += e.Amount * c.GramsPerUnit
	}
	v.Sources = append(v.Sources, snap.Book.DishAllergens(d.Specification.Elements)...)
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
