package server

import (
	"context"
	"errors"
	"fmt"
	"net/http"

	"github.com/danielgtaylor/huma/v2"

	"jointime/core/kitchen"
	"jointime/core/message"
	"jointime/planner"
	"jointime/store"
)

// Conflicted is the problem of status 409: somebody changed the thing meanwhile.
// It carries both versions' numbers, so that a page can show and choose.
type Conflicted struct {
	huma.ErrorModel
	Current int64 `json:"current_version"`
}

// Refused is the problem of status 422: what was sent cannot be. It says each fault as a sentence, as every problem
// does, and as a message with its facts.
type Refused struct {
	huma.ErrorModel
	Faults []kitchen.Fault `json:"faults"`
}

// fail turns an error of the store or the computation into a problem. What is not
// known is logged whole and told in general words: it may name the database.
func (s *Server) fail(err error) error {
	var faults kitchen.Faults
	var conflict *store.Conflict
	var inUse *store.InUse
	switch {
	case errors.As(err, &faults):
		const status = http.StatusUnprocessableEntity
		r := &Refused{huma.ErrorModel{Status: status, Title: http.StatusText(status), Detail: faults.Error()}, faults}
		for _, f := range faults {
			r.Add(&huma.ErrorDetail{Location: f.Path, Message: f.Message.Text})
		}
		return r
	case errors.As(err, &conflict):
		return &Conflicted{huma.ErrorModel{
			Status: http.StatusConflict, Title: http.StatusText(http.StatusConflict),
			Detail: fmt.Sprintf("This was changed meanwhile: it is at version %d, and your change was made from version %d.", conflict.Current,
				conflict.Named),
		}, conflict.Current}
	case errors.As(err, &inUse):
		return huma.NewError(http.StatusConflict, inUse.Error())
	case errors.Is(err, store.ErrLastChef):
		return huma.NewError(http.StatusConflict, message.Of("access.last-chef").Text)
	case errors.Is(err, planner.ErrNotOffered):
		return huma.NewError(http.StatusUnprocessableEntity, "This is not offered any more: the plan has changed.")
	case errors.Is(err, planner.ErrClosed), errors.Is(err, context.Canceled):
		return huma.NewError(http.StatusServiceUnavailable, "The server is shutting down.")
	case errors.Is(err, store.ErrNotFound), errors.Is(err, planner.ErrNoService):
		return huma.NewError(http.StatusNotFound, "There is no such thing here.")
	case errors.Is(err, store.ErrNotEmpty):
		return huma.NewError(http.StatusConflict, "The kitchen is set up already.")
	case errors.Is(err, errEmpty), errors.Is(err, planner.ErrNoKitchen):
		return huma.NewError(http.StatusConflict, errEmpty.Error())
	}
	if s.log != nil {
		s.log.Error("request failed", "error", err)
	}
	return huma.NewError(http.StatusInternalServerError, "Something went wrong on the server. Nothing was changed.")
}

// errEmpty means that there is no kitchen yet.
var errEmpty = errors.New("the kitchen is not set up yet: load the demo or set up your own")
