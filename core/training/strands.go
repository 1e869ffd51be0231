package training

import (
	"cmp"
	"slices"
	"time"

	"jointime/core/service"
)

// Strands are the runs of a course as they went, and as they go on the same night where the section does what the screen says.
type Strands struct {
	service.TableCourse
	Name       string      `json:"name"`
	WantedAt   time.Time   `json:"wanted_at" doc:"When it was wanted, by the plan"`
	LeftAt     *time.Time  `json:"left_at,omitempty"`
	GoodLeftAt *time.Time  `json:"good_left_at,omitempty" doc:"When it leaves with a cook who does what the screen says"`
	Runs       []StrandRun `json:"runs" nullable:"false" doc:"What begins first stands first"`
}

// StrandRun is one of them.
type StrandRun struct {
	Task      string     `json:"task"`
	What      string     `json:"what"`
	Act       string     `json:"act"`
	Section   string     `json:"section"`
	Mine      bool       `json:"mine" doc:"Of the section that was trained"`
	At        *time.Time `json:"at,omitempty" doc:"When it was begun"`
	Until     *time.Time `json:"until,omitempty" doc:"When it was done"`
	GoodAt    *time.Time `json:"good_at,omitempty" doc:"When it is begun by a cook who does what the screen says"`
	GoodUntil *time.Time `json:"good_until,omitempty"`
}

// StrandsOf are the courses that a section worked for and that were begun, the first wanted first, from what was said in a night as it went
// and in the same night with a good cook. zone is the kitchen's clock.
func StrandsOf(section string, went, good []service.Event, plan *service.Plan, zone *time.Location) []Strands {
	is, would := times(went, zone), times(good, zone)
	out := []Strands{}
	for i := range plan.Joins {
		j := &plan.Joins[i]
		x := Strands{TableCourse: j.TableCourse, Name: j.Name, WantedAt: j.WantedAt.In(zone), LeftAt: is.left[j.TableCourse],
			GoodLeftAt: would.left[j.TableCourse], Runs: []StrandRun{}}
		mine, begun := false, false
		for k := range plan.Runs {
			r := &plan.Runs[k]
			if !slices.Contains(r.Joins, j.TableCourse) {
				continue
			}
			s := StrandRun{Task: r.Task, What: r.What, Act: r.Act, Section: r.Section, Mine: r.Section == section, At: is.begun[r.Task],
				Until: is.done[r.Task], GoodAt: would.begun[r.Task], GoodUntil: would.done[r.Task]}
			if s.At == nil && s.GoodAt == nil {
				continue
			}
			mine, begun = mine || s.Mine, begun || s.At != nil
			x.Runs = append(x.Runs, s)
		}
		if !mine || !begun {
			continue
		}
		slices.SortStableFunc(x.Runs, func(a, b StrandRun) int {
			return cmp.Or(first(a).Compare(first(b)), cmp.Compare(a.Task, b.Task))
		})
		out = append(out, x)
	}
	slices.SortStableFunc(out, func(a, b Strands) int { return a.WantedAt.Compare(b.WantedAt) })
	return out
}

// first is when a run is begun by a good cook, or else was.
func first(r StrandRun) time.Time {
	if r.GoodAt != nil {
		return *r.GoodAt
	}
	return *r.At
}

// said is when runs were begun and done, and courses left, as a log says it.
type said struct {
	begun, done map[string]*time.Time
	left        map[service.TableCourse]*time.Time
}

func times(log []service.Event, zone *time.Location) said {
	out := said{map[string]*time.Time{}, map[string]*time.Time{}, map[service.TableCourse]*time.Time{}}
	for i := range log {
		e := &log[i]
		at := e.At.In(zone)
		switch e.Kind {
		case service.Fired:
			if out.begun[e.Task] == nil { // made again, it is still the first
				out.begun[e.Task] = &at
			}
		case service.Ready:
			out.done[e.Task] = &at
		case service.Sent:
			out.left[service.TableCourse{Table: e.Table, Course: e.Course, Round: e.Round}] = &at
		}
	}
	return out
}
