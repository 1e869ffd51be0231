package server

import (
	"bytes"
	"io"
	"net/http"

	"jointime/formats/calendar"
	"jointime/formats/ingredients"
)

func (s *Server) sectionNames(r *http.Request) map[string]string {
	out := map[string]string{}
	if snap, err := s.book(r.Context()); err == nil {
		for _, x := range snap.Book.Sections() {
			out[x.ID] = x.Name
		}
	}
	return out
}

// ingredientsCSV answers with the list of ingredients by section.
func (s *Server) ingredientsCSV(w http.ResponseWriter, r *http.Request) {
	s.ingredients(w, r, "ingredients.csv", "text/csv; charset=utf-8", (*ingredients.List).CSV)
}

// ingredientsXLSX answers with the same list as a workbook.
func (s *Server) ingredientsXLSX(w http.ResponseWriter, r *http.Request) {
	s.ingredients(w, r, "ingredients.xlsx", "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet", (*ingredients.List).XLSX)
}

func (s *Server) ingredients(w http.ResponseWriter, r *http.Request, name, kind string, to func(*ingredients.List, io.Writer) error) {
	plan, err := s.planner.Prep(r.Context())
	if err != nil {
		s.refuse(w, err, "There is no plan to list.")
		return
	}
	var b bytes.Buffer
	if err := to(&ingredients.List{Lines: plan.View.Ingredients, Sections: s.sectionNames(r)}, &b); err != nil {
		s.refuse(w, err, "The list could not be written.")
		return
	}
	attach(w, name, kind, b.Bytes())
}

// calendar answers with every job of the make-ahead plan as an event. ?section= keeps to one section.
func (s *Server) calendar(w http.ResponseWriter, r *http.Request) {
	plan, err := s.planner.Prep(r.Context())
	if err != nil {
		s.refuse(w, err, "There is no plan to show.")
		return
	}
	v := &plan.View
	attach(w, "prep.ics", "text/calendar; charset=utf-8",
		[]byte(calendar.Prep(v.Jobs, v.Now, s.sectionNames(r), r.URL.Query().Get("section"))))
}

// attach answers with a file to be kept.
func attach(w http.ResponseWriter, name, kind string, body []byte) {
	w.Header().Set("Content-Type", kind)
	w.Header().Set("Content-Disposition", `attachment; filename="`+name+`"`)
	write(w, body)
}
