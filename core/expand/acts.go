package expand

import (
	"fmt"
	"slices"

	"jointime/core/kitchen"
	"jointime/core/message"
	"jointime/core/workload"
)

// What a step is to the hands: a step that takes them throughout is one run. One that does not is a run on its equipment,
// with an eye on it or nobody, and short runs of the hands tied to it exactly: to begin it, to end it, and now and then
// between.

// Act is what a run of a step is, beside the step itself.
type Act string

// The acts: the hands at the start, at the end and inside a step, and the place that something takes while it waits.
const (
	ActIn    Act = "in"
	ActOut   Act = "out"
	ActTouch Act = "touch"
	ActPlace Act = "place"
	// ActLeave is some portions of a batch, from when it begins until they leave it.
	ActLeave Act = "leave"
)

// act is a run that belongs to a step.
type act struct {
	workload.Task
	is  Act
	say string
}

// actsOf are the acts of a batch of n portions of a step, whose own run is task t, and how each is tied to it. The run is
// made as long as the hands at its ends need. An eye and the hands that come with it are the same person's.
func actsOf(t *workload.Task, s *kitchen.Step, n int, people []string) (acts []act, links []workload.Link) {
	if s.Hands == kitchen.Both || len(people) == 0 {
		return nil, nil
	}
	in, out := int64(s.Ends.In(n)), int64(s.Ends.Out(n))
	t.Seconds = max(t.Seconds, in+out)
	add := func(is Act, id, say string, seconds int64) {
		if seconds <= 0 {
			return
		}
		need := work(people)[0]
		if s.Hands == kitchen.Tend {
			need.As = &workload.As{Task: t.ID, Need: 0}
		}
		acts = append(acts, act{workload.Task{ID: t.ID + id, Name: t.Name + ", " + say, Seconds: seconds, Needs: []workload.Need{need}}, is, say})
	}
	exact := func(kind workload.Kind, low, high int64) {
		links = append(links, workload.Link{From: t.ID, To: acts[len(acts)-1].ID, Kind: kind, Min: low, Max: &high, Weight: 1})
	}
	if add(ActIn, "-in", message.Of("act.in").Text, in); in > 0 {
		exact(workload.StartStart, 0, 0)
	}
	for k, x := range s.TouchesIn(int(t.Seconds)) {
		add(ActTouch, fmt.Sprintf("-touch-%d", k+1), x.Say, int64(x.Seconds))
		exact(workload.StartStart, int64(x.AtS-x.SpareS), int64(x.AtS+x.SpareS))
	}
	if add(ActOut, "-out", message.Of("act.out").Text, out); out > 0 {
		exact(workload.FinishFinish, 0, 0)
	}
	return acts, links
}

// goOn ties a batch of a step to the batch of the step before that it goes on from, of the same section: the same pan, the
// same cook; where alike people may do both.
func goOn(t *workload.Task, s *kitchen.Step, on *workload.Task, before *kitchen.Step, alike bool) {
	if s.Hands != kitchen.None && before.Hands != kitchen.None && alike {
		t.Needs[0].As = &workload.As{Task: on.ID, Need: 0}
	}
	last, was := len(t.Needs)-1, len(on.Needs)-1
	if s.Equipment != nil && before.Equipment != nil && s.Equipment.Kind == before.Equipment.Kind &&
		slices.Equal(t.Needs[last].AnyOf, on.Needs[was].AnyOf) {
		t.Needs[last].As = &workload.As{Task: on.ID, Need: was}
	}
}
