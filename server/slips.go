package server

import (
	"context"
	"net/http"

	"github.com/danielgtaylor/huma/v2"
	"github.com/go-chi/chi/v5"

	"jointime/core/kitchen"
	"jointime/devices"
	"jointime/formats/slip"
)

// What a section, or the pass, has before it, on paper of 42 columns.

type printSlipIn struct {
	ID   string `path:"id" maxLength:"80"`
	Body struct {
		Section string `json:"section,omitempty" maxLength:"80" doc:"Whose; the pass's when missing"`
	}
}

func (s *Server) slipRoutes(api huma.API) {
	huma.Register(api, huma.Operation{OperationID: "print-slip", Method: http.MethodPost, Path: "/api/services/{id}/slip",
		Summary: "Print what a section, or the pass, has before it", MaxBodyBytes: maxBody, Errors: []int{404, 409, 422, 502}}, s.printSlip)
}

// slipOf is the slip of a section of a service, or of the pass. The error is kitchen.Faults where there is no such section.
func (s *Server) slipOf(ctx context.Context, id, section string) (string, error) {
	if err := s.here(ctx, id); err != nil {
		return "", err
	}
	snap, err := s.book(ctx)
	if err != nil {
		return "", err
	}
	d, err := s.due(ctx, id)
	if err != nil {
		return "", err
	}
	svc, _ := snap.Book.Service(id)
	if section == "" {
		return slip.Pass(d, svc.Name), nil
	}
	for _, x := range snap.Book.Sections() {
		if x.ID == section {
			return slip.Section(d, section, x.Name), nil
		}
	}
	return "", kitchen.Faults{kitchen.FaultAt("section", "live.no-such", "id", section)}
}

// slipText answers with a slip as text. ?section= says whose; the pass's without.
func (s *Server) slipText(w http.ResponseWriter, r *http.Request) {
	text, err := s.slipOf(r.Context(), chi.URLParam(r, "id"), r.URL.Query().Get("section"))
	if err != nil {
		s.refuse(w, err, "There is nothing to print.")
		return
	}
	w.Header().Set("Content-Type", "text/plain; charset=utf-8")
	write(w, []byte(text))
}

func (s *Server) printSlip(ctx context.Context, in *printSlipIn) (*struct{}, error) {
	text, err := s.slipOf(ctx, in.ID, in.Body.Section)
	if err != nil {
		return nil, s.fail(err)
	}
	if s.printer == "" {
		return nil, huma.NewError(http.StatusConflict, "No printer is set: start with --printer HOST:PORT.")
	}
	if err := devices.Print(ctx, s.printer, text); err != nil {
		return nil, huma.NewError(http.StatusBadGateway, "The printer at "+s.printer+" does not answer.")
	}
	return &struct{}{}, nil
}
