package server

import (
	"context"
	"net/http"

	"github.com/danielgtaylor/huma/v2"

	"jointime/core/expand"
	"jointime/core/kitchen"
)

// MealEntry is a meal in the list.
type MealEntry struct {
	Meal    kitchen.Meal `json:"meal"`
	Version int64        `json:"version"`
}

type (
	mealsOut struct {
		Body []MealEntry `nullable:"false"`
	}
	mealPlanOut struct{ Body expand.MealPlan }
)

func (s *Server) mealRoutes(api huma.API) {
	huma.Register(api, huma.Operation{OperationID: "list-meals", Method: http.MethodGet, Path: "/api/meals", Summary: "All meals from zero"},
		s.listMeals)
	huma.Register(api, huma.Operation{OperationID: "plan-meal", Method: http.MethodGet, Path: "/api/meals/{id}/plan",
		Summary: "A meal as one problem: strands, sheets, and the slack at each deadline", Errors: []int{404, 422}}, s.planMeal)
	part[kitchen.Meal]{s, kitchen.MealRecord, func(x *kitchen.Meal) (*string, string) { return &x.ID, x.Name },
		(*kitchen.Book).NewMeal}.routes(api, "meals")
}

func (s *Server) listMeals(ctx context.Context, _ *struct{}) (*mealsOut, error) {
	snap, err := s.store.Snapshot(ctx)
	if err != nil {
		return nil, s.fail(err)
	}
	out := []MealEntry{}
	if !snap.Empty {
		for _, m := range snap.Book.Meals() {
			out = append(out, MealEntry{m, snap.Versions[kitchen.Key{Kind: kitchen.MealRecord, ID: m.ID}]})
		}
	}
	return &mealsOut{out}, nil
}

func (s *Server) planMeal(ctx context.Context, in *byID) (*mealPlanOut, error) {
	p, err := s.planner.Meal(ctx, in.ID)
	if err != nil {
		return nil, s.fail(err)
	}
	return &mealPlanOut{*p}, nil
}
