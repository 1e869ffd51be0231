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
	var work, sched bytes.Buffer
	if err = workload.Write(&work, w); err != nil {
		return err
	}
	if err = workload.WriteSchedule(&sched, s); err != nil {
		return err
	}
	r.Workload, r.Schedule = work.Bytes(), sched.Bytes()
	if r.Refs, err = json.Marshal(refs); err != nil {
		return err
	}
	r.Details, err = json.Marshal(details)
	return err
}

// files reads a record's workload and schedule, and its details into what is given.
func (r *Record) files(details any) (w *workload.Workload, s *workload.Schedule, err error) {
	if w, err = workload.Read(bytes.NewReader(r.Workload)); err != nil {
		return nil, nil, fmt.Errorf("the workload of plan %d of %s: %w", r.Number, r.Subject, err)
	}
	if s, err = workload.ReadSchedule(bytes.NewReader(r.Schedule)); err != nil {
		return nil, nil, fmt.Errorf("the schedule of plan %d of %s: %w", r.Number, r.Subject, err)
	}
	if err = json.Unmarshal(r.Details, details); err != nil {
		return nil, nil, fmt.Errorf("plan %d of %s: %w", r.Number, r.Subject, err)
	}
	return w, s, nil
}
