package server

import (
	"bytes"
	"context"
	"net/http"

	"github.com/go-chi/chi/v5"

	"jointime/core/lookback"
	"jointime/core/message"
	"jointime/formats/nightfile"
)

// nightFile is a night as a file: for the morning meeting, or as tables.
func (s *Server) nightFile(w http.ResponseWriter, r *http.Request) {
	id, file := chi.URLParam(r, "id"), chi.URLParam(r, "file")
	n, house, err := s.nightOf(r.Context(), id)
	if err != nil {
		s.refuse(w, err, "The record could not be read.")
		return
	}
	f := nightfile.Night{Night: n, House: house, Said: message.Texts(nightSaid(n)), Made: s.clock()}
	var b bytes.Buffer
	kind := "text/csv; charset=utf-8"
	switch file {
	case "steps.csv":
		err = f.StepsCSV(&b)
	case "courses.csv":
		err = f.CoursesCSV(&b)
	case "night.xlsx":
		kind, err = "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet", f.XLSX(&b)
	default:
		kind, err = "application/pdf", f.PDF(&b)
	}
	if err != nil {
		s.refuse(w, err, "The file could not be made.")
		return
	}
	w.Header().Set("Content-Type", kind)
	w.Header().Set("Content-Disposition", `attachment; filename="`+n.Date+"-"+file+`"`)
	write(w, b.Bytes())
}

func (s *Server) nightOf(ctx context.Context, id string) (*lookback.Night, string, error) {
	if err := s.here(ctx, id); err != nil {
		return nil, "", err
	}
	snap, err := s.book(ctx)
	if err != nil {
		return nil, "", err
	}
	n, err := s.night(ctx, id)
	return n, snap.Book.Kitchen().Name, err
}
