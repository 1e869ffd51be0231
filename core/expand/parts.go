package expand

import (
	"jointime/core/kitchen"
	"jointime/core/workload"
)

// Part is what of a person a resource of a workload is. Somebody whose hands are busy at the stove still watches pots;
// who is away from the stove, plating, watches nothing.
type Part string

// Hands is the pair of hands, Eyes the things that are watched at once, There that somebody is at the stove at all.
const (
	Hands Part = "hands"
	Eyes  Part = "eyes"
	There Part = "there"
)

var parts = []Part{Hands, Eyes, There}

// of is how much of the part a person has: one pair of hands, their eyes, and room at the stove for all that anybody
// can watch.
func (p Part) of(x *kitchen.Person) int64 {
	switch p {
	case Hands:
		return 1
	case Eyes:
		return int64(x.Watches())
	}
	return kitchen.MostEyes
}

// names are what a part of each of some people is called in a workload.
func (p Part) names(people []string) []string {
	out := make([]string, len(people))
	for i, id := range people {
		out[i] = ResourceRef{kitchen.PersonRecord, id, p}.name()
	}
	return out
}

// work takes the hands of one of some people, who may watch something all the while.
func work(people []string) []workload.Need {
	return []workload.Need{{AnyOf: Hands.names(people), Units: 1}}
}

// watch takes some of the eyes of one of some people, who stays at the stove for it.
func watch(task string, people []string, eyes int) []workload.Need {
	return []workload.Need{{AnyOf: Eyes.names(people), Units: int64(eyes)},
		{AnyOf: There.names(people), Units: 1, As: &workload.As{Task: task, Need: 0}}}
}

// leave adds to a task's needs that one of some people works away from the stove.
func leave(t *workload.Task, people []string) {
	first := len(t.Needs)
	away := gone(t.ID, people)
	away.As.Need = first
	t.Needs = append(t.Needs, workload.Need{AnyOf: Hands.names(people), Units: 1}, away)
}

// gone is that whoever has the first need of a task is not at the stove.
func gone(task string, people []string) workload.Need {
	return workload.Need{AnyOf: There.names(people), Units: kitchen.MostEyes, As: &workload.As{Task: task, Need: 0}}
}
