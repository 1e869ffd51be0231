package server

import (
	"bytes"
	"context"
	"encoding/json"
	"strconv"
	"sync"

	"golang.org/x/sync/singleflight"

	"jointime/core/service"
)

// What is due, as it is sent out. It is made once for all who ask in the same second, and whoever has it already is sent only the sections
// and joins that are otherwise: a screen hears a word of trouble without all that the evening holds.

// dues keeps what is due of each service.
type dues struct {
	flight singleflight.Group
	mu     sync.Mutex
	by     map[string]*bothDue
}

// bothDue is what is due at an instant, for the kitchen and for the floor.
type bothDue struct {
	seq, second    int64
	kitchen, floor *saidDue
}

func (d *bothDue) to(floor bool) *saidDue {
	if floor {
		return d.floor
	}
	return d.kitchen
}

// saidDue is what is due as JSON, with what of it is otherwise than before. It is read-only.
type saidDue struct {
	plan    int64
	version int    // counts what was made
	shaped  int    // the version since which it has the same sections and joins, in the same order
	whole   []byte // a service.DueView
	change  []byte // the same, of sections and joins only those that are otherwise than in the version before
	top     service.DueView
	pieces  []duePiece
}

// duePiece is a section or a join of it.
type duePiece struct {
	key     string
	section bool
	body    []byte
	since   int // the version in which it last became otherwise
}

// since is what whoever has a version is sent: all of it where they have none, or one of another shape.
func (d *saidDue) since(version int) (body []byte, whole bool) {
	switch {
	case version == d.version:
		return nil, false
	case version < d.shaped || version > d.version:
		return d.whole, true
	case version == d.version-1:
		return d.change, false
	}
	body, err := d.changed(version)
	if err != nil {
		return d.whole, true
	}
	return body, false
}

// changed is what is otherwise than in a version.
func (d *saidDue) changed(version int) ([]byte, error) {
	list := struct {
		service.DueView
		Sections []json.RawMessage `json:"sections"`
		Joins    []json.RawMessage `json:"joins"`
	}{d.top, []json.RawMessage{}, []json.RawMessage{}}
	for i := range d.pieces {
		switch p := &d.pieces[i]; {
		case p.since <= version:
		case p.section:
			list.Sections = append(list.Sections, p.body)
		default:
			list.Joins = append(list.Joins, p.body)
		}
	}
	return json.Marshal(list)
}

// sayDue makes what is due ready to be sent, after what was sent before; nil for nothing.
func sayDue(view *service.DueView, before *saidDue) (*saidDue, error) {
	d := &saidDue{plan: view.Plan, version: 1, shaped: 1, top: *view}
	d.top.Sections, d.top.Joins = nil, nil
	if before != nil {
		d.version, d.shaped = before.version+1, before.shaped
	}
	var err error
	if d.whole, err = json.Marshal(view); err != nil {
		return nil, err
	}
	add := func(key string, section bool, x any) {
		body, e := json.Marshal(x)
		if e != nil {
			err = e
		}
		d.pieces = append(d.pieces, duePiece{key, section, body, d.version})
	}
	for i := range view.Sections {
		add(view.Sections[i].Section, true, &view.Sections[i])
	}
	for i := range view.Joins {
		j := &view.Joins[i]
		add(j.Table+"/"+string(j.Course)+"/"+strconv.Itoa(j.Round), false, j)
	}
	if err != nil {
		return nil, err
	}
	if before == nil || len(before.pieces) != len(d.pieces) {
		d.shaped = d.version
	} else {
		for i := range d.pieces {
			p, was := &d.pieces[i], &before.pieces[i]
			if p.key != was.key || p.section != was.section {
				d.shaped = d.version
			} else if bytes.Equal(p.body, was.body) {
				p.since = was.since
			}
		}
	}
	d.change, err = d.changed(d.version - 1)
	return d, err
}

// said is what is due in a service, as it is sent out.
func (s *Server) said(ctx context.Context, id string, floor bool) (*saidDue, error) {
	seq, second := s.live.Last(id), s.clockOf(id).Unix()
	s.dues.mu.Lock()
	d := s.dues.by[id]
	s.dues.mu.Unlock()
	if d != nil && d.seq == seq && d.second == second {
		return d.to(floor), nil
	}
	for {
		made, err, _ := s.dues.flight.Do(id, func() (any, error) {
			return s.makeDue(context.WithoutCancel(ctx), id)
		})
		if err != nil {
			return nil, err
		}
		if d := made.(*bothDue); d.seq >= seq { // else it was being made when that happened
			return d.to(floor), nil
		}
	}
}

// makeDue makes what is due; one at a time for a service, so that the versions follow each other.
func (s *Server) makeDue(ctx context.Context, id string) (*bothDue, error) {
	s.dues.mu.Lock()
	before := s.dues.by[id]
	s.dues.mu.Unlock()
	d := &bothDue{seq: s.live.Last(id), second: s.clockOf(id).Unix()}
	if before == nil {
		before = &bothDue{}
	} else if before.seq == d.seq && before.second == d.second {
		return before, nil // whoever asked a moment later
	}
	view, err := s.due(ctx, id)
	if err != nil {
		return nil, err
	}
	if d.kitchen, err = sayDue(view, before.kitchen); err != nil {
		return nil, err
	}
	if d.floor, err = sayDue(view.ForFloor(), before.floor); err != nil {
		return nil, err
	}
	s.dues.mu.Lock()
	defer s.dues.mu.Unlock()
	s.dues.by[id] = d
	return d, nil
}
