package workload

import (
	"crypto/sha256"
	"encoding/hex"
	"fmt"
	"time"
)

// Fingerprint is a hash of everything that a schedule depends on: two workloads with the
// same one have the same schedules. Names do not count. The error is that of writing the
// workload, which must have passed Check.
func (w *Workload) Fingerprint() (string, error) {
	plain := w.Clone()
	for i := range plain.Resources {
		plain.Resources[i].Name = ""
	}
	for i := range plain.Tasks {
		plain.Tasks[i].Name = ""
	}
	for i := range plain.Joins {
		plain.Joins[i].Name = ""
	}
	h := sha256.New()
	if err := Write(h, plain); err != nil {
		return "", fmt.Errorf("hashing a workload: %w", err)
	}
	return hex.EncodeToString(h.Sum(nil)), nil
}

// Rebase returns the schedule as it reads from another origin: every instant keeps its
// place on the clock. The error is an origin that is not RFC 3339.
func (s *Schedule) Rebase(from, to string) (*Schedule, error) {
	a, err := time.Parse(time.RFC3339, from)
	if err != nil {
		return nil, fmt.Errorf("origin: %w", err)
	}
	b, err := time.Parse(time.RFC3339, to)
	if err != nil {
		return nil, fmt.Errorf("origin: %w", err)
	}
	return s.Shift(func(string) int64 { return int64(a.Sub(b) / time.Second) }), nil
}

// Shift returns the schedule with every run and every join moved by what by says of its
// id, in seconds.
func (s *Schedule) Shift(by func(id string) int64) *Schedule {
	out := *s
	out.Tasks, out.Joins = make([]Run, len(s.Tasks)), make([]Instant, len(s.Joins))
	for i, r := range s.Tasks {
		d := by(r.ID)
		r.Start, r.Finish = r.Start+d, r.Finish+d
		out.Tasks[i] = r
	}
	for i, j := range s.Joins {
		j.At += by(j.ID)
		out.Joins[i] = j
	}
	return &out
}

// Starts is when each task starts, by id.
func (s *Schedule) Starts() map[string]int64 {
	out := make(map[string]int64, len(s.Tasks))
	for _, r := range s.Tasks {
		out[r.ID] = r.Start
	}
	return out
}

// Moved adds up the seconds by which the tasks start at other times than in an earlier
// schedule from the same origin, and counts the joins that stand at other times. except
// names tasks that do not count.
func (s *Schedule) Moved(earlier *Schedule, except map[string]bool) (seconds int64, joins int) {
	at := earlier.Starts()
	for _, r := range s.Tasks {
		if was, ok := at[r.ID]; ok && !except[r.ID] {
			seconds += max(r.Start-was, was-r.Start)
		}
	}
	clear(at)
	for _, j := range earlier.Joins {
		at[j.ID] = j.At
	}
	for _, j := range s.Joins {
		if was, ok := at[j.ID]; ok && was != j.At {
			joins++
		}
	}
	return seconds, joins
}
