package server

import (
	"context"
	"net/http"
	"strings"
	"time"

	"github.com/danielgtaylor/huma/v2"

	"jointime/core/kitchen"
	"jointime/core/message"
	"jointime/store"
)

// RecipeLine is a component's recipe as it is read through: what is in it, what its words suggest, who said that it is complete.
type RecipeLine struct {
	ID          string               `json:"id"`
	Version     int64                `json:"version"`
	Name        string               `json:"name"`
	Section     string               `json:"section"`
	Ingredients []kitchen.Ingredient `json:"ingredients" nullable:"false"`
	Uses        []string             `json:"uses" nullable:"false" doc:"Names of what goes into it"`
	Allergens   []string             `json:"allergens" nullable:"false" doc:"Under the kitchen's code, with what goes into it"`
	Matters     []kitchen.Matter     `json:"matters" nullable:"false" doc:"What diets ask after, with what goes into it"`
	Suggestions []kitchen.Suggestion `json:"suggestions" nullable:"false" doc:"What its words suggest and nobody said"`
	Entered     bool                 `json:"entered" doc:"Its recipe was entered"`
	Known       bool                 `json:"known" doc:"Entered, and somebody said that it is complete as it stands"`
	Signed      *kitchen.Signature   `json:"signed,omitempty" doc:"Who said so last, perhaps of another recipe"`
	Steps       []string             `json:"steps" nullable:"false" doc:"Names of its steps"`
}

// Signing says that some recipes, each as it was read, are complete.
type Signing struct {
	By      string `json:"by" minLength:"1" maxLength:"120" doc:"Who read them"`
	Recipes []struct {
		ID      string `json:"id" maxLength:"80"`
		Version int64  `json:"version" minimum:"1" doc:"That was read"`
	} `json:"recipes" minItems:"1" maxItems:"500" nullable:"false"`
}

type (
	recipesOut struct {
		Body []RecipeLine `nullable:"false"`
	}
	signIn struct{ Body Signing }
)

func (s *Server) recipeRoutes(api huma.API) {
	huma.Register(api, huma.Operation{OperationID: "list-recipes", Method: http.MethodGet, Path: "/api/recipes",
		Summary: "Every recipe as it is read through, by section"}, s.listRecipes)
	huma.Register(api, huma.Operation{OperationID: "sign-recipes", Method: http.MethodPost, Path: "/api/recipes/sign",
		Summary: "Say that recipes are complete as they were read", MaxBodyBytes: maxBody, Errors: []int{404, 409, 422}}, s.signRecipes)
}

func (s *Server) listRecipes(ctx context.Context, _ *struct{}) (*recipesOut, error) {
	snap, err := s.store.Snapshot(ctx)
	if err != nil {
		return nil, s.fail(err)
	}
	out := []RecipeLine{}
	if !snap.Empty {
		for _, c := range snap.Book.Components() {
			if !c.Archived {
				out = append(out, recipeLine(snap, &c))
			}
		}
	}
	return &recipesOut{out}, nil
}

func recipeLine(snap *store.Snapshot, c *kitchen.Component) RecipeLine {
	l := RecipeLine{ID: c.ID, Version: snap.Versions[componentKey(c.ID)], Name: c.Name, Section: c.Section, Ingredients: c.Ingredients,
		Uses: []string{}, Allergens: []string{}, Matters: snap.Book.MattersIn(c.ID), Suggestions: snap.Book.Suggestions(c),
		Entered: c.Entered(), Known: c.Known(), Signed: c.Signed,
		Steps: []string{}}
	for _, u := range c.Uses {
		l.Uses = append(l.Uses, snap.Book.NameOf(u.Component))
	}
	for _, a := range snap.Book.AllergenLines([]kitchen.Element{{Component: c.ID}}, snap.Book.Kitchen().SafetyCode) {
		l.Allergens = append(l.Allergens, a.Name)
	}
	for _, x := range c.Steps {
		l.Steps = append(l.Steps, x.Name)
	}
	return l
}

func (s *Server) signRecipes(ctx context.Context, in *signIn) (*recipesOut, error) {
	snap, err := s.book(ctx)
	if err != nil {
		return nil, s.fail(err)
	}
	by := strings.TrimSpace(in.Body.By)
	if by == "" {
		return nil, s.fail(kitchen.Faults{kitchen.FaultAt("by", "fault.who-read")})
	}
	for _, x := range in.Body.Recipes {
		c, ok := snap.Book.Component(x.ID)
		if !ok {
			return nil, s.fail(store.ErrNotFound)
		}
		if !c.Entered() {
			return nil, s.fail(kitchen.Faults{kitchen.FaultAt("recipes", "fault.not-entered", "component", c.Name)})
		}
	}
	// One after another, each from the version that was read: one that was changed meanwhile is refused, and was not read.
	for _, x := range in.Body.Recipes {
		c, _ := snap.Book.Component(x.ID)
		signed := c.Clone()
		signed.Sign(by, s.clock().UTC().Truncate(time.Second))
		if _, err := s.store.Save(ctx, componentKey(x.ID), x.Version, signed, message.Of("recipe.signed", "component", c.Name, "by",
			by).Text); err != nil {
			return nil, s.fail(err)
		}
	}
	return s.listRecipes(ctx, nil)
}
