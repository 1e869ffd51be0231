package server

import (
	"context"
	"math"
	"slices"
	"time"

	"jointime/core/lookback"
	"jointime/store"
)

// The record by the week, and what thermometers measured in an evening.

// WeekLine is a week at a glance: Monday to Sunday.
type WeekLine struct {
	From    string      `json:"from" doc:"Its Monday, YYYY-MM-DD"`
	Nights  []WeekNight `json:"nights" nullable:"false" doc:"In the order of the days"`
	Covers  int         `json:"covers"`
	Courses int         `json:"courses"`
	Late    int         `json:"late" doc:"Courses that left more than three minutes late"`
	LateS   float64     `json:"late_s" doc:"How late a course left in the mean, seconds"`
	Again   int         `json:"again"`
	Back    int         `json:"back"`
}

// WeekNight is one evening of it.
type WeekNight struct {
	Service string  `json:"service"`
	Name    string  `json:"name"`
	Day     int     `json:"day" doc:"1 Monday to 7 Sunday"`
	Share   float64 `json:"share" doc:"Of its courses that were late, 0 to 1"`
	Covers  int     `json:"covers"`
}

// weeksOf divides evenings into weeks.
func weeksOf(list []NightLine) []WeekLine {
	out := []WeekLine{}
	for i := range list {
		n := &list[i]
		day, err := time.Parse(time.DateOnly, n.Date)
		if err != nil {
			continue // a service has a date
		}
		weekday := (int(day.Weekday())+6)%7 + 1
		monday := day.AddDate(0, 0, 1-weekday).Format(time.DateOnly)
		k := slices.IndexFunc(out, func(w WeekLine) bool { return w.From == monday })
		if k < 0 {
			k = len(out)
			out = append(out, WeekLine{From: monday, Nights: []WeekNight{}})
		}
		w := &out[k]
		w.LateS = (w.LateS*float64(w.Courses) + n.LateS*float64(n.Courses)) / math.Max(1, float64(w.Courses+n.Courses))
		w.Covers, w.Courses, w.Late, w.Again, w.Back = w.Covers+n.Covers, w.Courses+n.Courses, w.Late+n.Late, w.Again+n.Again, w.Back+n.Back
		w.Nights = append(w.Nights, WeekNight{n.Service, n.Name, weekday, float64(n.Late) / math.Max(1, float64(n.Courses)), n.Covers})
	}
	for i := range out {
		slices.SortStableFunc(out[i].Nights, func(a, b WeekNight) int { return a.Day - b.Day })
	}
	return out
}

// ProbeCurve is what a thermometer measured at a run.
type ProbeCurve struct {
	Task     string               `json:"task"`
	What     string               `json:"what"`
	Act      string               `json:"act"`
	TargetC  *float64             `json:"target_c,omitempty" doc:"What its core was to reach, where the book says so"`
	FiredAt  *time.Time           `json:"fired_at,omitempty"`
	ReadyAt  *time.Time           `json:"ready_at,omitempty" doc:"When it was said to be done"`
	Readings []store.ProbeReading `json:"readings" nullable:"false"`
}

// probesOf is what thermometers measured in an evening.
func (s *Server) probesOf(ctx context.Context, n *lookback.Night) ([]ProbeCurve, error) {
	by, err := s.store.ServiceReadings(ctx, n.Service)
	if err != nil || len(by) == 0 {
		return []ProbeCurve{}, err
	}
	snap, err := s.book(ctx)
	if err != nil {
		return nil, err
	}
	out := []ProbeCurve{}
	for i := range n.Steps {
		x := &n.Steps[i]
		list := by[x.Task]
		if len(list) == 0 {
			continue
		}
		for k := range list {
			list[k].At = list[k].At.In(snap.Book.Zone())
		}
		p := ProbeCurve{Task: x.Task, What: x.What, Act: x.Act, FiredAt: x.At, Readings: list}
		if end, done := x.EndsAt(); done {
			p.ReadyAt = &end
		}
		if c, ok := snap.Book.Component(x.Component); ok && c.StepIndex(x.Step) >= 0 {
			step := &c.Steps[c.StepIndex(x.Step)]
			if piece, err := snap.Book.Heated(step); err == nil {
				p.TargetC = &piece.TargetC
			} else {
				p.TargetC = coreOf(step)
			}
		}
		out = append(out, p)
	}
	slices.SortStableFunc(out, func(a, b ProbeCurve) int { return a.Readings[0].At.Compare(b.Readings[0].At) })
	return out, nil
}
