package server

import (
	"errors"
	"io"
	"net/http"
	"strconv"

	"github.com/go-chi/chi/v5"

	"jointime/formats/photo"
)

// photograph answers with a dish's picture.
func (s *Server) photograph(w http.ResponseWriter, r *http.Request) {
	raw, number, err := s.store.Photograph(r.Context(), chi.URLParam(r, "id"))
	if err != nil {
		s.refuse(w, err, "This dish has no picture.")
		return
	}
	w.Header().Set("Content-Type", "image/jpeg")
	w.Header().Set("Cache-Control", "no-cache")
	w.Header().Set("ETag", `"`+strconv.FormatInt(number, 10)+`"`)
	write(w, raw)
}

// setPhotograph takes a PNG or JPEG of at most 8 MB as the body.
func (s *Server) setPhotograph(w http.ResponseWriter, r *http.Request) {
	raw, err := io.ReadAll(http.MaxBytesReader(w, r.Body, photo.MaxBytes))
	var large *http.MaxBytesError
	switch {
	case errors.As(err, &large):
		problem(w, http.StatusRequestEntityTooLarge, photo.ErrTooLarge.Error())
		return
	case err != nil:
		problem(w, http.StatusBadRequest, "The picture did not arrive whole.")
		return
	}
	clean, err := photo.Clean(r.Context(), raw)
	if err != nil {
		problem(w, http.StatusUnprocessableEntity, err.Error())
		return
	}
	if err := s.store.SetPhotograph(r.Context(), chi.URLParam(r, "id"), clean); err != nil {
		s.refuse(w, err, "There is no such dish here.")
		return
	}
	w.WriteHeader(http.StatusNoContent)
}

// dropPhotograph takes the picture off; it stays in the history.
func (s *Server) dropPhotograph(w http.ResponseWriter, r *http.Request) {
	if err := s.store.SetPhotograph(r.Context(), chi.URLParam(r, "id"), nil); err != nil {
		s.refuse(w, err, "There is no such dish here.")
		return
	}
	w.WriteHeader(http.StatusNoContent)
}
