package expand

import (
	"fmt"
	"slices"

	"jointime/core/workload"
)

// Follow says where a plan that was told stands in this evening, for the search to start
// from: rebased to its origin, and what belongs to a join whose wish has moved, moved with
// it. loose names the tasks of those joins, and the joins: moving them is what was asked
// for. The error is an origin that cannot be read.
func (e *Evening) Follow(was *workload.Workload, told *workload.Schedule) (s *workload.Schedule, loose map[string]bool, err error) {
	if told, err = told.Rebase(was.Origin, e.Workload.Origin); err != nil {
		return nil, nil, fmt.Errorf("following a told plan: %w", err)
	}
	zero := &workload.Schedule{Joins: []workload.Instant{{ID: "0"}}}
	if zero, err = zero.Rebase(was.Origin, e.Workload.Origin); err != nil {
		return nil, nil, fmt.Errorf("following a told plan: %w", err)
	}
	wish := map[string]int64{}
	for _, j := range was.Joins {
		if j.At != nil {
			wish[j.ID] = *j.At + zero.Joins[0].At
		}
	}
	by := map[string]int64{} // of every join whose wish has moved
	for _, j := range e.Workload.Joins {
		if old, known := wish[j.ID]; known && j.At != nil && *j.At != old {
			by[j.ID] = *j.At - old
		}
	}
	loose = map[string]bool{}
	shift := map[string]int64{}
	for id, d := range by {
		loose[id], shift[id] = true, d
	}
	for id, ref := range e.refs {
		if c, ok := e.book.Component(ref.Component); ok && c.Pot != nil &&
			slices.ContainsFunc(ref.Joins, func(j string) bool { _, moved := by[j]; return !moved }) {
			continue // a pot stays where it is while anybody else draws from it
		}
		for _, j := range ref.Joins {
			if d, moved := by[j]; moved {
				loose[id] = true
				if _, first := shift[id]; !first {
					shift[id] = d // a batch of several goes with the first of them that moves
				}
			}
		}
	}
	return told.Shift(func(id string) int64 { return shift[id] }), loose, nil
}

// Refs says what every task of the evening's workload is.
func (e *Evening) Refs() map[string]TaskRef { return e.refs }
