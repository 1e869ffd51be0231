package planner

import (
	"bytes"
	"encoding/json"
	"fmt"

	"jointime/core/workload"
)

// carry puts a plan's files into its record: workload and schedule as they are written out,
// what every task is, and what else the kind of plan needs.
func (r *Record) carry(w *workload.Workload, s *workload.Schedule, refs, details any) (err error) {
	var work bytes.Buffer
	if err = workload.Write(&work, w); err != nil {
		return err
	}
	if err = r.carrySchedule(s, details); err != nil {
		return err
	}
	r.Workload = work.Bytes()
	r.Refs, err = json.Marshal(refs)
	return err
}

// notKept stands in a record for what follows from what else is in it.
var notKept = []byte("null")

// carrySchedule is carry for a plan whose workload follows from what it was made from.
func (r *Record) carrySchedule(s *workload.Schedule, details any) (err error) {
	var sched bytes.Buffer
	if err = workload.WriteSchedule(&sched, s); err != nil {
		return err
	}
	r.Workload, r.Schedule, r.Refs = notKept, sched.Bytes(), notKept
	r.Details, err = json.Marshal(details)
	return err
}

// files reads a record's workload, nil where it is not kept, and its schedule, and its details into what is given.
func (r *Record) files(details any) (w *workload.Workload, s *workload.Schedule, err error) {
	if !bytes.Equal(r.Workload, notKept) {
		if w, err = workload.Read(bytes.NewReader(r.Workload)); err != nil {
			return nil, nil, fmt.Errorf("the workload of plan %d of %s: %w", r.Number, r.Subject, err)
		}
	}
	if s, err = workload.ReadSchedule(bytes.NewReader(r.Schedule)); err != nil {
		return nil, nil, fmt.Errorf("the schedule of plan %d of %s: %w", r.Number, r.Subject, err)
	}
	if err = json.Unmarshal(r.Details, details); err != nil {
		return nil, nil, fmt.Errorf("plan %d of %s: %w", r.Number, r.Subject, err)
	}
	return w, s, nil
}
