package server

import (
	"context"
	"net/http"
	"slices"
	"strings"
	"time"

	"github.com/danielgtaylor/huma/v2"

	"jointime/core/kitchen"
	"jointime/core/message"
	"jointime/core/plating"
	"jointime/formats/card"
	"jointime/store"
)

// DishAct does something to a dish's life.
type DishAct struct {
	Version int64       `json:"version" minimum:"1"`
	Act     kitchen.Act `json:"act" enum:"start-draft,use-draft,drop-draft,put-on-menu,retire"`
}

// Side is one of two versions that stand beside each other.
type Side struct {
	Version   int64             `json:"version" doc:"0 for the draft"`
	ChangedAt string            `json:"changed_at"`
	By        string            `json:"by"`
	State     kitchen.DishState `json:"state" enum:"draft,current,retired"`
	Plate     plating.Plate     `json:"plate"`
	WeightG   float64           `json:"weight_g"`
	Seconds   int               `json:"seconds"`
}

// Comparison is two versions of a dish in drawing and in words.
type Comparison struct {
	Was  Side              `json:"was"`
	Is   Side              `json:"is"`
	Said []message.Message `json:"said" nullable:"false"`
}

type comparisonOut struct{ Body Comparison }

// LineWish is a banquet's plates to be plated in a line.
type LineWish struct {
	Dish    string `json:"dish"`
	Variant string `json:"variant,omitempty"`
	Draft   bool   `json:"draft,omitempty"`
	Plates  int    `json:"plates" minimum:"1" maximum:"2000"`
	People  int    `json:"people" minimum:"1" maximum:"20"`
}

// LineView is the plating line, with what it means for the plate's standing.
type LineView struct {
	plating.Line
	Names      []string `json:"names" nullable:"false" doc:"Of the elements, in plating order"`
	StandS     int      `json:"stand_s" doc:"The longest that a plate waits for the rest of its round"`
	StandLimit int      `json:"stand_limit_s" doc:"What the specification allows; 0 when nobody said"`
}

type lineOut struct{ Body LineView }

func (s *Server) versionRoutes(api huma.API) {
	huma.Register(api, huma.Operation{OperationID: "act-on-dish", Method: http.MethodPost, Path: "/api/dishes/{id}/life",
		Summary: "Begin, use or drop a draft; put on the menu; retire", MaxBodyBytes: maxBody, Errors: []int{404, 409, 422}},
		s.actOnDish)
	huma.Register(api, huma.Operation{OperationID: "edit-sequence", Method: http.MethodPost, Path: "/api/dishes/{id}/sequence",
		Summary: "Move an element in the order of plating, or take it off", MaxBodyBytes: maxBody, Errors: []int{404, 409, 422}},
		s.editSequence)
	huma.Register(api, huma.Operation{OperationID: "copy-dish", Method: http.MethodPost, Path: "/api/dishes/{id}/copy",
		Summary: "A new dish that begins as a copy, as a draft", MaxBodyBytes: maxBody, Errors: []int{404, 422}},
		s.copyDish)
	huma.Register(api, huma.Operation{OperationID: "compare-dish", Method: http.MethodGet, Path: "/api/dishes/{id}/compare",
		Summary: "Two versions of a dish side by side", Errors: []int{404, 422}},
		s.compareDish)
	huma.Register(api, huma.Operation{OperationID: "plating-line", Method: http.MethodPost, Path: "/api/plating-line",
		Summary: "A banquet's plating line", MaxBodyBytes: maxBody, Errors: []int{404, 422}},
		s.platingLine)
}

type actOnDishIn struct {
	ID   string `path:"id" maxLength:"80"`
	Body DishAct
}

func (s *Server) actOnDish(ctx context.Context, in *actOnDishIn) (*dishOut, error) {
	snap, err := s.book(ctx)
	if err != nil {
		return nil, s.fail(err)
	}
	d, ok := snap.Book.Dish(in.ID)
	if !ok {
		return nil, s.fail(store.ErrNotFound)
	}
	changed := *d
	said, err := changed.Do(in.Body.Act)
	if err != nil {
		return nil, s.fail(kitchen.Faults{kitchen.FaultOf("act", err)})
	}
	return s.saveDish(ctx, in.ID, in.Body.Version, changed, said.Text)
}

type editSequenceIn struct {
	ID   string `path:"id" maxLength:"80"`
	Body SequenceEdit
}

func (s *Server) editSequence(ctx context.Context, in *editSequenceIn) (*dishOut, error) {
	return s.sequence(ctx, in.ID, in.Body)
}

type copyDishIn struct {
	ID   string `path:"id" maxLength:"80"`
	Body Named
}

func (s *Server) copyDish(ctx context.Context, in *copyDishIn) (*dishOut, error) {
	snap, err := s.book(ctx)
	if err != nil {
		return nil, s.fail(err)
	}
	d, ok := snap.Book.Dish(in.ID)
	if !ok {
		return nil, s.fail(store.ErrNotFound)
	}
	made := *d
	made.Name, made.State, made.Draft = strings.TrimSpace(in.Body.Name), kitchen.DraftDish, nil
	id := freeID(made.Name, func(id string) bool { return snap.Versions[dishKey(id)] != 0 })
	return s.saveDish(ctx, id, 0, made, "Copied from "+d.Name+".")
}

type compareDishIn struct {
	ID  string `path:"id" maxLength:"80"`
	Was int64  `query:"was" minimum:"0" doc:"A version; 0 for the draft"`
	Is  int64  `query:"is" minimum:"0" doc:"A version; 0 for the draft"`
}

func (s *Server) compareDish(ctx context.Context, in *compareDishIn) (*comparisonOut, error) {
	out, err := s.compare(ctx, in.ID, in.Was, in.Is)
	if err != nil {
		return nil, s.fail(err)
	}
	return &comparisonOut{*out}, nil
}

type platingLineIn struct{ Body LineWish }

func (s *Server) platingLine(ctx context.Context, in *platingLineIn) (*lineOut, error) {
	v, err := s.line(ctx, &in.Body)
	if err != nil {
		return nil, s.fail(err)
	}
	return &lineOut{*v}, nil
}

func (s *Server) line(ctx context.Context, wish *LineWish) (*LineView, error) {
	snap, err := s.book(ctx)
	if err != nil {
		return nil, err
	}
	book, d, elements, err := (&plateIn{ID: wish.Dish, Variant: wish.Variant, Draft: wish.Draft}).chosen(snap.Book)
	if err != nil {
		return nil, err
	}
	room := 0
	for _, e := range book.Equipment() {
		if e.Kind == kitchen.Pass {
			room += e.Capacity
		}
	}
	v := &LineView{Names: []string{}, StandLimit: d.Specification.StandLimitS}
	var jobs []plating.Job
	for _, e := range elements {
		jobs = append(jobs, plating.Job{Key: e.Component, Seconds: e.Seconds, Hands: e.Hands})
		v.Names = append(v.Names, book.NameOf(e.Component))
	}
	if v.Line, err = plating.NewLine(jobs, wish.Plates, wish.People, room); err != nil {
		return nil, kitchen.Faults{kitchen.FaultOf("people", err)}
	}
	for _, r := range v.Rounds {
		v.StandS = max(v.StandS, r.LeaveS-r.FirstS)
	}
	return v, nil
}

func (s *Server) compare(ctx context.Context, id string, was, is int64) (*Comparison, error) {
	snap, err := s.book(ctx)
	if err != nil {
		return nil, err
	}
	history, err := s.store.History(ctx, dishKey(id))
	if err != nil {
		return nil, err
	}
	out := &Comparison{}
	specs := make([]*kitchen.Specification, 2)
	for i, x := range []struct {
		version int64
		side    *Side
	}{{was, &out.Was}, {is, &out.Is}} {
		var d kitchen.Dish
		version := x.version
		if version == 0 {
			version = history[0].Version
		}
		if err := s.store.At(ctx, dishKey(id), version, &d); err != nil {
			return nil, err
		}
		specs[i] = &d.Specification
		if x.version == 0 && d.Draft != nil {
			specs[i], d.Specification = d.Draft, *d.Draft
		}
		d.Draft = nil
		// An old version may name what is no longer here.
		if err := snap.Book.CheckDish(d); err != nil {
			return nil, err
		}
		*x.side = Side{Version: x.version, State: d.State, Plate: *plating.Draw(snap.Book, specs[i], specs[i].Elements, kitchen.Needs{})}
		x.side.WeightG, x.side.Seconds = x.side.Plate.WeightG, x.side.Plate.Seconds
		for _, h := range history {
			if h.Version == version {
				x.side.ChangedAt, x.side.By = h.ChangedAt, h.By
			}
		}
	}
	out.Said = kitchen.Compare(specs[0], specs[1], snap.Book.NameOf)
	return out, nil
}

// cardPDF answers with the printed card.
func (s *Server) cardPDF(w http.ResponseWriter, r *http.Request) {
	size := card.A5
	if r.URL.Query().Get("size") == string(card.A4) {
		size = card.A4
	}
	raw, err := s.card(r.Context(), plateOf(r), size)
	if err != nil {
		s.refuse(w, err, "This card cannot be printed.")
		return
	}
	w.Header().Set("Content-Type", "application/pdf")
	w.Header().Set("Content-Disposition", "inline; filename=\"card.pdf\"")
	write(w, raw)
}

func (s *Server) card(ctx context.Context, in *plateIn, size card.Size) ([]byte, error) {
	snap, err := s.book(ctx)
	if err != nil {
		return nil, err
	}
	book, d, elements, err := in.chosen(snap.Book)
	if err != nil {
		return nil, err
	}
	history, err := s.store.History(ctx, dishKey(in.ID))
	if err != nil {
		return nil, err
	}
	changed, err := time.Parse(time.RFC3339, history[0].ChangedAt)
	if err != nil {
		return nil, err
	}
	changed = changed.In(book.Zone())
	vessel, _ := book.Vessel(d.Specification.Vessel)
	c := &card.Card{House: book.Kitchen().Name, Dish: d, Variant: in.Variant, Version: history[0].Version, State: string(d.State),
		Changed: changed,
		Vessel:  vessel, Elements: elements, Plate: plating.Draw(book, &d.Specification, elements, kitchen.Needs{}),
		Allergens: book.AllergenLines(elements, book.Kitchen().SafetyCode), Unknown: book.UnknownRecipes(elements)}
	for _, l := range book.DietLines(elements) {
		if l.State == "yes" {
			c.Diets = append(c.Diets, string(l.Diet))
		}
	}
	if in.Draft {
		c.State = string(kitchen.DraftDish)
	}
	for _, e := range elements {
		x, _ := book.Component(e.Component)
		c.Units = append(c.Units, x.Unit)
	}
	return card.PDF(c, size)
}

// SequenceEdit moves an element in the order of plating, takes it off, or puts a component on.
type SequenceEdit struct {
	Version int64  `json:"version" minimum:"1"`
	Draft   bool   `json:"draft,omitempty" doc:"In the draft"`
	Edit    string `json:"edit" enum:"move,remove,add"`
	Number  int    `json:"number,omitempty" minimum:"0" doc:"Of the element that is moved or taken off, from 1"`
	To      int    `json:"to,omitempty" doc:"The number that it gets"`
	// Component is put on the plate last.
	Component string `json:"component,omitempty" maxLength:"80"`
}

func (s *Server) sequence(ctx context.Context, id string, in SequenceEdit) (*dishOut, error) {
	snap, err := s.book(ctx)
	if err != nil {
		return nil, s.fail(err)
	}
	old, ok := snap.Book.Dish(id)
	if !ok {
		return nil, s.fail(store.ErrNotFound)
	}
	d := *old
	spec := &d.Specification
	if in.Draft {
		if d.Draft == nil {
			return nil, s.fail(kitchen.Faults{kitchen.FaultAt("draft", "fault.no-draft", "dish", d.Name)})
		}
		draft := *d.Draft
		d.Draft, spec = &draft, &draft
	}
	said := ""
	switch in.Edit {
	case "add":
		c, ok := snap.Book.Component(in.Component)
		if !ok {
			return nil, s.fail(kitchen.Faults{kitchen.FaultAt("component", "fault.no-record", "kind", kitchen.ComponentRecord, "id", in.Component)})
		}
		said = d.Name + ": " + c.Name + " was put on."
		spec.Elements = append(slices.Clone(spec.Elements), kitchen.NewElement(c))
	case "remove":
		said = d.Name + ": an element was taken off."
		err = spec.RemoveElement(in.Number - 1)
	default:
		said = d.Name + ": an element was moved."
		err = spec.MoveElement(in.Number-1, in.To-1)
	}
	if err != nil {
		return nil, s.fail(kitchen.Faults{kitchen.FaultOf("number", err)})
	}
	return s.saveDish(ctx, id, in.Version, d, said)
}
