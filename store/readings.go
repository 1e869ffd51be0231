package store

import (
	"context"
	"fmt"
	"time"
)

// What thermometers said in a service.

// ProbeReading is what a thermometer said at an instant.
type ProbeReading struct {
	At      time.Time `db:"at" json:"at,omitempty" doc:"When it was measured, by the kitchen's clock; now when missing"`
	Celsius float64   `db:"celsius" json:"celsius" minimum:"-60" maximum:"400"`
}

// AddReadings writes down what a thermometer said at a run of a service. One that was written already counts once.
func (s *Store) AddReadings(ctx context.Context, service, task, device string, list []ProbeReading) error {
	at, celsius := make([]time.Time, len(list)), make([]float64, len(list))
	for i, r := range list {
		at[i], celsius[i] = r.At, r.Celsius
	}
	if _, err := s.db.ExecContext(ctx, `INSERT INTO probe_reading (service, task, device, at, celsius, received_at)
		SELECT $1, $2, $3, r.at, r.celsius, $4 FROM unnest($5::timestamptz[], $6::float8[]) AS r (at, celsius) ON CONFLICT DO NOTHING`,
		service, task, device, s.clock(), at, celsius); err != nil {
		return fmt.Errorf("writing what a thermometer said in %s: %w", service, err)
	}
	return nil
}

// Readings are what was measured at a run of a service, in order.
func (s *Store) Readings(ctx context.Context, service, task string) ([]ProbeReading, error) {
	out := []ProbeReading{}
	if err := s.db.SelectContext(ctx, &out, `SELECT at, celsius FROM probe_reading WHERE service = $1 AND task = $2 ORDER BY at, device`,
		service, task); err != nil {
		return nil, fmt.Errorf("reading what a thermometer said in %s: %w", service, err)
	}
	return out, nil
}

// ServiceReadings is what was measured in a service, by run.
func (s *Store) ServiceReadings(ctx context.Context, service string) (map[string][]ProbeReading, error) {
	var rows []struct {
		ProbeReading
		Task string `db:"task"`
	}
	if err := s.db.SelectContext(ctx, &rows, `SELECT task, at, celsius FROM probe_reading WHERE service = $1 ORDER BY task, at, device`,
		service); err != nil {
		return nil, fmt.Errorf("reading what thermometers said in %s: %w", service, err)
	}
	out := map[string][]ProbeReading{}
	for _, r := range rows {
		out[r.Task] = append(out[r.Task], r.ProbeReading)
	}
	return out, nil
}
