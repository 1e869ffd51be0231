package server

import (
	"bytes"
	"context"
	"net/http"
	"slices"
	"time"

	"github.com/danielgtaylor/huma/v2"
	"github.com/go-chi/chi/v5"

	"jointime/core/advise"
	"jointime/core/expand"
	"jointime/core/kitchen"
	"jointime/core/message"
	"jointime/core/workload"
	"jointime/planner"
	"jointime/store"
)

// FireView is the firing plan of a service.
type FireView struct {
	expand.EveningPlan
	Margin  int             `json:"margin" doc:"0 to the minute … 100 safe"`
	Version int64           `json:"version" doc:"Of the service that it was made from"`
	Trying  string          `json:"trying,omitempty" doc:"The mend that this plan has"`
	Better  bool            `json:"better" doc:"A better plan is still being looked for"`
	Looked  float64         `json:"looked" doc:"How far that is, 0 to 1"`
	Saves   int64           `json:"saves" doc:"What the best that was found so far would save, in the plan's costs"`
	Said    message.Message `json:"said" doc:"What the last change did, or what a mend does"`
	Rounds  []int           `json:"rounds" nullable:"false" doc:"Of each search, seed 1, each from the one before; empty when a told plan is followed"`
	// The plan is a record: told once, and shown until another is.
	Number  int64          `json:"number" doc:"Of the plan; the service's first is 1"`
	MadeAt  time.Time      `json:"made_at" doc:"Since when it is shown"`
	Kind    planner.Kind   `json:"kind" enum:"first,change,better,mended,again,used,clock,live" doc:"Why it was made"`
	Held    bool           `json:"held" doc:"Somebody works by it: it is printed, or the service has begun"`
	Begun   bool           `json:"begun" doc:"Its first fire has come"`
	Printed *time.Time     `json:"printed_at,omitempty" doc:"When a plan of the service was last printed"`
	OnPaper int64          `json:"on_paper" doc:"Number of that plan, 0 when none was printed"`
	Offer   *Offer         `json:"offer,omitempty" doc:"What was changed since, which the plan has not followed because somebody works by it"`
	Made    []MadeFromLine `json:"made_from" nullable:"false" doc:"What it was made from"`
}

// Offer is a change that a plan has not followed.
type Offer struct {
	Changed []string        `json:"changed" nullable:"false" doc:"Names of what was changed"`
	Said    message.Message `json:"said" doc:"What following it would do; nothing while that is being worked out"`
}

// MadeFromLine is a record that a plan was made from.
type MadeFromLine struct {
	Kind    string `json:"kind"`
	ID      string `json:"id"`
	Version int64  `json:"version"`
}

// MendsView is what would help.
type MendsView struct {
	Mends []advise.Mend `json:"mends" nullable:"false" doc:"What saves most first; nothing that does not help"`
}

// SheetView is what a section, or a person, does by the clock.
type SheetView struct {
	Lines []expand.Fire        `json:"lines" nullable:"false" doc:"Firings, later steps, and the hands inside and at the end of each"`
	Sets  []expand.HeatSetting `json:"sets" nullable:"false" doc:"When each thermostat is turned"`
}

type (
	fireOut  struct{ Body FireView }
	sheetOut struct{ Body SheetView }
	sheetIn  struct {
		ID      string `path:"id" maxLength:"80"`
		Section string `query:"section" maxLength:"80"`
		Person  string `query:"person" maxLength:"120" doc:"Name; of all sections then"`
	}
	mendOut struct{ Body MendsView }
	fireIn  struct {
		ID   string `path:"id" maxLength:"80"`
		Mend string `query:"mend" maxLength:"1600" doc:"The plan with this mend"`
	}
	fireJoinIn struct {
		ID   string `path:"id" maxLength:"80"`
		Join string `query:"join" maxLength:"200"`
		Mend string `query:"mend" maxLength:"1600"`
	}
	keepIn struct {
		ID   string `path:"id" maxLength:"80"`
		Body struct {
			Mend    string `json:"mend" maxLength:"1600"`
			Version int64  `json:"version" minimum:"1"`
		}
	}
	printedIn struct {
		ID   string `path:"id" maxLength:"80"`
		Body struct {
			Number int64 `json:"number" minimum:"1" doc:"Of the plan on the paper"`
		}
	}
)

func (s *Server) fireRoutes(api huma.API) {
	huma.Register(api, huma.Operation{OperationID: "get-fire", Method: http.MethodGet, Path: "/api/fire/{id}",
		Summary: "The firing plan of a service", Errors: []int{404, 422}}, s.getFire)
	huma.Register(api, huma.Operation{OperationID: "get-fire-join", Method: http.MethodGet, Path: "/api/fire/{id}/join",
		Summary: "One join of a service with its strands", Errors: []int{404, 422}}, s.getFireJoin)
	huma.Register(api, huma.Operation{OperationID: "get-fire-sheet", Method: http.MethodGet, Path: "/api/fire/{id}/sheet",
		Summary: "What a section or a person does by the clock", Errors: []int{404, 422}}, s.getSheet)
	huma.Register(api, huma.Operation{OperationID: "find-mends", Method: http.MethodPost, Path: "/api/fire/{id}/mends",
		Summary: "What would help, each solved again", Errors: []int{404, 422}}, s.findMends)
	huma.Register(api, huma.Operation{OperationID: "keep-mend", Method: http.MethodPost, Path: "/api/fire/{id}/keep",
		Summary: "Keep a mend: the service is changed", MaxBodyBytes: maxBody, Errors: []int{404, 409, 422}}, s.keepMend)
	huma.Register(api, huma.Operation{OperationID: "plan-again", Method: http.MethodPost, Path: "/api/fire/{id}/again",
		Summary: "Make the plan again, as if none had been told", Errors: []int{404, 422}}, s.planAgain)
	huma.Register(api, huma.Operation{OperationID: "use-change", Method: http.MethodPost, Path: "/api/fire/{id}/use",
		Summary: "Let the plan follow the change that is offered", Errors: []int{404, 422}}, s.useChange)
	huma.Register(api, huma.Operation{OperationID: "plan-printed", Method: http.MethodPost, Path: "/api/fire/{id}/printed",
		Summary: "Say that a plan was printed: from then on it is held", MaxBodyBytes: maxBody, Errors: []int{404, 422}}, s.planPrinted)
}

func (s *Server) getFire(ctx context.Context, in *fireIn) (*fireOut, error) {
	shown, err := s.fire(ctx, in.ID, in.Mend)
	if err != nil {
		return nil, s.fail(err)
	}
	return s.fireOut(shown, in.Mend), nil
}

// fire is the plan of a service, or of one of its mends.
func (s *Server) fire(ctx context.Context, id, mend string) (*planner.Shown, error) {
	if mend == "" {
		return s.planner.Service(ctx, id)
	}
	shown, _, err := s.planner.Tried(ctx, id, mend)
	return shown, err
}

func (s *Server) fireOut(x *planner.Shown, mend string) *fireOut {
	p := x.Plan
	v := FireView{EveningPlan: p.View, Margin: p.Margin(), Version: p.Version(), Trying: mend, Better: x.Looking, Looked: x.Looked,
		Saves: x.Saves, Said: p.Said, Rounds: p.Rounds,
		Number: p.Number, MadeAt: p.MadeAt.In(p.Zone()), Kind: p.Kind, Held: x.Held, Begun: p.Begun(s.clock()), OnPaper: p.OnPaper,
		Made: []MadeFromLine{}}
	if p.Printed != nil {
		at := p.Printed.In(p.Zone())
		v.Printed = &at
	}
	for _, m := range p.MadeFrom() {
		v.Made = append(v.Made, MadeFromLine{string(m.Kind), m.ID, m.Version})
	}
	if x.Offer != nil {
		v.Offer = &Offer{x.Offer.Changed, x.Offer.Said}
	}
	return &fireOut{v}
}

func (s *Server) getFireJoin(ctx context.Context, in *fireJoinIn) (*planOut, error) {
	shown, err := s.fire(ctx, in.ID, in.Mend)
	if err != nil {
		return nil, s.fail(err)
	}
	c, ok := shown.Plan.Evening.CourseByID(in.Join)
	if !ok || len(shown.Plan.Schedule.Tasks) == 0 {
		return nil, s.fail(store.ErrNotFound)
	}
	return &planOut{*c.Firing.Read(shown.Plan.Schedule)}, nil
}

func (s *Server) getSheet(ctx context.Context, in *sheetIn) (*sheetOut, error) {
	shown, err := s.fire(ctx, in.ID, "")
	if err != nil {
		return nil, s.fail(err)
	}
	out := SheetView{Lines: []expand.Fire{}, Sets: []expand.HeatSetting{}}
	for _, l := range shown.Plan.View.Lines {
		if in.Person == "" && l.Section == in.Section || in.Person != "" && slices.Contains(l.People, in.Person) {
			out.Lines = append(out.Lines, l)
		}
	}
	for _, x := range shown.Plan.View.Sets {
		if in.Person == "" && x.Section == in.Section {
			out.Sets = append(out.Sets, x)
		}
	}
	return &sheetOut{out}, nil
}

func (s *Server) findMends(ctx context.Context, in *byID) (*mendOut, error) {
	list, err := s.planner.Mends(ctx, in.ID)
	if err != nil {
		return nil, s.fail(err)
	}
	return &mendOut{MendsView{list}}, nil
}

func (s *Server) keepMend(ctx context.Context, in *keepIn) (*fireOut, error) {
	_, changed, err := s.planner.Tried(ctx, in.ID, in.Body.Mend)
	if err != nil {
		return nil, s.fail(err)
	}
	if _, err := s.store.Save(ctx, kitchen.Key{Kind: kitchen.ServiceRecord, ID: in.ID}, in.Body.Version, changed,
		"Kept: "+in.Body.Mend+"."); err != nil {
		return nil, s.fail(err)
	}
	return s.getFire(ctx, &fireIn{ID: in.ID})
}

func (s *Server) planAgain(ctx context.Context, in *byID) (*fireOut, error) {
	shown, err := s.planner.Again(ctx, in.ID)
	if err != nil {
		return nil, s.fail(err)
	}
	return s.fireOut(shown, ""), nil
}

func (s *Server) useChange(ctx context.Context, in *byID) (*fireOut, error) {
	shown, err := s.planner.Use(ctx, in.ID)
	if err != nil {
		return nil, s.fail(err)
	}
	return s.fireOut(shown, ""), nil
}

func (s *Server) planPrinted(ctx context.Context, in *printedIn) (*struct{}, error) {
	if err := s.planner.Print(ctx, in.ID, in.Body.Number); err != nil {
		return nil, s.fail(err)
	}
	return nil, nil
}

// fireFile answers with the workload or the schedule as a file.
func (s *Server) fireFile(w http.ResponseWriter, r *http.Request) {
	shown, err := s.fire(r.Context(), chi.URLParam(r, "id"), "")
	if err != nil {
		s.refuse(w, err, "There is no plan of this service.")
		return
	}
	var b bytes.Buffer
	name := chi.URLParam(r, "file")
	switch name {
	case "workload.json":
		err = workload.Write(&b, shown.Plan.Evening.Workload)
	case "schedule.json":
		err = workload.WriteSchedule(&b, shown.Plan.Schedule)
	default:
		problem(w, http.StatusNotFound, "there is nothing at "+r.URL.Path)
		return
	}
	if err != nil {
		s.refuse(w, err, "The file could not be written.")
		return
	}
	w.Header().Set("Content-Type", "application/json")
	w.Header().Set("Content-Disposition", `attachment; filename="`+name+`"`)
	write(w, b.Bytes())
}
