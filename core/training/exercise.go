// Package training lets a cook practise a section in a service that is played: exercises as data, the part of a service that one is about,
// and a mark with its reasons afterwards.
//
//	exercises.toml  what there is to train at
//	exercise.go     the part of a service that an exercise is about
//	judge.go        how it went, in points and sentences
package training

import (
	"cmp"
	_ "embed" // the exercises
	"fmt"
	"hash/fnv"
	"slices"
	"time"

	"github.com/BurntSushi/toml"

	"jointime/core/expand"
	"jointime/core/kitchen"
	"jointime/core/service"
	"jointime/core/simulate"
)

//go:embed exercises.toml
var exercises string

// Trouble is how much goes wrong, and differs from the plan.
type Trouble string

// The troubles.
const (
	None   Trouble = "none"
	Little Trouble = "little"
	Usual  Trouble = "usual"
	Much   Trouble = "much"
)

// Troubles are all of them, the least first.
func Troubles() []Trouble { return []Trouble{None, Little, Usual, Much} }

// Settings are what a trouble means to the simulator. Common practice, no source.
func (t Trouble) Settings() simulate.Settings {
	usual := simulate.Usual()
	switch t {
	case Usual:
		return usual
	case Little:
		return simulate.Settings{Times: true, CooksShare: usual.CooksShare, ReactionS: usual.ReactionS, NotYet: usual.NotYet / 2,
			ArrivalsMin: usual.ArrivalsMin / 2, LingersShare: usual.LingersShare / 2}
	case Much:
		much := usual
		much.Forgets, much.NotYet, much.Mishaps, much.Slow, much.Away = 2*usual.Forgets, 2*usual.NotYet, 2*usual.Mishaps, 2*usual.Slow,
			2*usual.Away
		much.ArrivalsMin, much.LingersShare, much.Skips = 1.5*usual.ArrivalsMin, 1.5*usual.LingersShare, 2*usual.Skips
		return much
	}
	return simulate.Settings{}
}

// Exercise is something to train at.
type Exercise struct {
	ID      string  `toml:"id" json:"id"`
	Name    string  `toml:"name" json:"name"`
	About   string  `toml:"about" json:"about"`
	Courses int     `toml:"courses" json:"courses,omitempty" doc:"How many tables' courses; none for a part of the evening"`
	Part    float64 `toml:"part" json:"part,omitempty" doc:"A share of the evening, from its beginning"`
	Trouble Trouble `toml:"trouble" json:"trouble" enum:"none,little,usual,much"`
	Pace    float64 `toml:"pace" json:"pace" doc:"How many times as fast as in service, at first"`
}

// Exercises are all of them, the easiest first.
func Exercises() []Exercise {
	var file struct {
		Exercise []Exercise `toml:"exercise"`
	}
	if _, err := toml.Decode(exercises, &file); err != nil {
		panic(fmt.Sprintf("the exercises: %v", err)) // they are built in
	}
	return file.Exercise
}

// Today is the exercise and the seed of a day for a person's section: the same for whoever asks, another one tomorrow. done are the marks
// that the person has for each exercise at that section, by id: the first that is not yet at ninety is next.
func Today(day time.Time, person, section string, done map[string]int) (Exercise, uint64) {
	list := Exercises()
	next := list[len(list)-1]
	for _, x := range list {
		if done[x.ID] < mastered {
			next = x
			break
		}
	}
	h := fnv.New64a()
	_, _ = h.Write([]byte(day.Format(time.DateOnly) + "\x00" + person + "\x00" + section)) // it never fails
	return next, h.Sum64() >> 12
}

// mastered is from which mark on an exercise is known. Common practice, no source.
const mastered = 90

// Of is the part of a service that an exercise is about, for a section; "" is no section: all that is cooked counts. plan is the service's
// plan; false where the section has nothing to do in it.
func (x *Exercise) Of(e *expand.Evening, plan *service.Plan, section string) (kitchen.Service, bool) {
	svc := *e.Service
	runs := map[service.TableCourse]int{}
	for i := range plan.Runs {
		if section == "" || plan.Runs[i].Section == section {
			for _, j := range plan.Runs[i].Joins {
				runs[j]++
			}
		}
	}
	joins := slices.DeleteFunc(slices.Clone(plan.Joins), func(j service.PlanJoin) bool { return runs[j.TableCourse] == 0 })
	if len(joins) == 0 {
		return svc, false
	}
	if x.Courses == 0 && x.Part >= 1 {
		return svc, true
	}
	slices.SortStableFunc(joins, func(a, b service.PlanJoin) int { return a.At.Compare(b.At) })
	many := min(len(joins), cmp.Or(x.Courses, int(float64(len(joins))*x.Part)))
	many = max(1, many)
	switch {
	case x.Courses == 1:
		joins = []service.PlanJoin{slices.MinFunc(joins, func(a, b service.PlanJoin) int {
			return cmp.Or(cmp.Compare(runs[a.TableCourse], runs[b.TableCourse]), cmp.Compare(a.Plates, b.Plates))
		})}
	case x.Courses > 1:
		best := 0
		span := func(i int) time.Duration { return joins[i+many-1].At.Sub(joins[i].At) }
		for i := range len(joins) - many + 1 {
			if span(i) < span(best) {
				best = i
			}
		}
		joins = joins[best : best+many]
	default:
		joins = joins[:many]
	}
	return only(e, svc, joins), true
}

// only is a service with no other tables and courses than some.
func only(e *expand.Evening, svc kitchen.Service, joins []service.PlanJoin) kitchen.Service {
	orders := map[string][]kitchen.TableOrder{}
	kept := map[string]map[kitchen.Course]bool{}
	for _, j := range joins {
		if kept[j.Table] == nil {
			kept[j.Table] = map[kitchen.Course]bool{}
		}
		kept[j.Table][j.Course] = true
	}
	for _, j := range e.Workload.Joins {
		x, ok := e.CourseByID(j.ID)
		if ok && kept[x.Table][x.Course] {
			for _, o := range x.Firing.Table.Orders {
				orders[x.Table] = append(orders[x.Table], kitchen.TableOrder(o))
			}
		}
	}
	tables := svc.Tables
	svc.Tables = nil
	for _, t := range tables {
		if len(orders[t.ID]) > 0 {
			t.Orders = orders[t.ID]
			svc.Tables = append(svc.Tables, t)
		}
	}
	shared := svc.Shared
	svc.Shared = nil
	for _, s := range shared {
		s.Tables = slices.DeleteFunc(slices.Clone(s.Tables), func(t string) bool { return !kept[t][s.Course] })
		if len(s.Tables) > 1 {
			svc.Shared = append(svc.Shared, s)
		}
	}
	return svc
}
