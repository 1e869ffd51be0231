package service_test

import (
	"slices"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"jointime/core/kitchen"
	"jointime/core/schedule"
	"jointime/core/service"
	"jointime/core/workload"
)

// nobody is gone.
func nobody(kitchen.Kind, string) bool { return false }

// begins lists when runs that have not begun take of a person or a piece of equipment, from an instant on.
func begins(w *workload.Workload, s *workload.Schedule, of string) (at []int64) {
	fixed := w.FixedTasks()
	for _, r := range s.Tasks {
		if fixed[r.ID] == nil && slices.ContainsFunc(r.Resources, func(id string) bool { return strings.HasSuffix(id, "/"+of) }) {
			at = append(at, r.Start)
		}
	}
	slices.Sort(at)
	return at
}

func absent(kind service.Kind, at time.Time, who, equipment string, until *time.Time) service.Event {
	return service.Event{ID: "absent-" + string(kind) + who + equipment, Kind: kind, At: at, ReceivedAt: at, Device: "pass",
		Facts: service.Facts{Who: who, Equipment: equipment, Until: until}}
}

// Who is away for ten minutes is given nothing in them, and something after them; once they are back it is as if they had not been away.
func TestACookIsAway(t *testing.T) {
	n := demoNight()
	second := func(x time.Time) int64 { return int64(x.Sub(n.e.Origin) / time.Second) }
	for _, cook := range []string{"hanne", "pim"} {
		// Away when there is something to do, which an hour after the first fire there need not be.
		now := n.view.From.Add(time.Hour)
		for {
			require.True(t, now.Before(n.view.From.Add(2*time.Hour)), "%s has hardly anything to do", cook)
			without, _, _ := again(t, now)
			if at := begins(without, n.told, cook); len(at) > 0 && at[0] < second(now.Add(10*time.Minute)) {
				break
			}
			now = now.Add(5 * time.Minute)
		}
		until := now.Add(10 * time.Minute)
		w, s, _ := again(t, now, absent(service.Out, now, cook, "", &until))
		at := begins(w, s, cook)
		require.NotEmpty(t, at)
		require.GreaterOrEqual(t, at[0], second(until), "it goes later, or to somebody else")
		_, _, moved := again(t, now, absent(service.Out, now.Add(-time.Minute), cook, "", &until), absent(service.In, now, cook, "", nil))
		require.LessOrEqual(t, moved, 3)
	}
}

// What is broken is not cooked on any more where something else will do; what stands in it is left there. Nobody knows until when: where
// nothing else will do, it is asked again a while later.
func TestAnOvenIsBroken(t *testing.T) {
	n := demoNight()
	now := n.view.From.Add(time.Hour)
	origin := n.e.Origin
	atNow := func(string) int64 { return int64(now.Sub(origin) / time.Second) }
	for _, piece := range n.e.Workload.Resources {
		if !strings.HasPrefix(piece.ID, string(kitchen.EquipmentRecord)+"/") {
			continue
		}
		id := strings.TrimPrefix(piece.ID, string(kitchen.EquipmentRecord)+"/")
		without, _, _ := again(t, now)
		if len(begins(without, n.told, id)) == 0 {
			continue
		}
		w, s, _ := again(t, now, absent(service.Out, now, "", id, nil))
		for _, r := range w.Resources {
			if r.ID == piece.ID {
				require.True(t, r.HasWindows)
			}
		}
		require.Empty(t, s.Broken, id)
		at := begins(w, s, id)
		if n.e.Needed(without, kitchen.EquipmentRecord, id, atNow, nobody) {
			if len(at) > 0 {
				require.GreaterOrEqual(t, at[0], int64(now.Add(20*time.Minute).Sub(origin)/time.Second), id)
			}
		} else {
			require.Empty(t, at, id)
		}
	}
}

// Whatever the rush needs most is broken, and whenever: there is a plan that keeps every rule, though much of it is late.
func TestThereIsAPlanWithoutWhatTheRushNeeds(t *testing.T) {
	n := demoNight()
	for _, id := range []string{"burners", "combi"} {
		for minutes := 55; minutes <= 85; minutes += 10 {
			now := n.view.From.Add(time.Duration(minutes) * time.Minute)
			_, s, moved := again(t, now, absent(service.Out, now, "", id, nil))
			require.NotEqual(t, workload.BestEffort, s.Status, "%s after %d minutes", id, minutes)
			require.Empty(t, s.Broken)
			require.Positive(t, moved)
		}
	}
}

// Who goes for nobody knows how long leaves pans on the heat: others take out of them, whoever may, or whoever is there where they were the
// only one. There is a plan that keeps every rule, and nothing waits for them that they began.
func TestWhatIsBegunIsHandedOver(t *testing.T) {
	n := demoNight()
	handed := map[bool]int{} // whether anybody else may do it in the book
	for _, cook := range []string{"tobias", "oluwa", "pim", "hanne"} {
		for _, minutes := range []int{55, 60, 75, 90} {
			now := n.view.From.Add(time.Duration(minutes) * time.Minute)
			with, _, _ := again(t, now)
			w, s, _ := again(t, now, absent(service.Out, now.Add(-time.Second), cook, "", nil))
			require.Empty(t, s.Broken, "%s after %d minutes", cook, minutes)
			at := map[string]workload.Run{}
			for _, r := range s.Tasks {
				at[r.ID] = r
			}
			fixed := with.FixedTasks()
			if cook == "tobias" { // back by now
				back, _, _ := again(t, now, absent(service.Out, now.Add(-10*time.Minute), cook, "", &now))
				require.Equal(t, with.Tasks, back.Tasks)
			}
			for i, x := range with.Tasks {
				for k, need := range x.Needs {
					if need.As == nil || fixed[x.ID] != nil || fixed[need.As.Task] == nil ||
						!strings.HasSuffix(fixed[need.As.Task].Resources[need.As.Need], "/"+cook) {
						continue
					}
					require.Equal(t, x.ID, w.Tasks[i].ID)
					require.Nil(t, w.Tasks[i].Needs[k].As, x.ID)
					handed[len(need.AnyOf) > 1]++
					if r := at[x.ID]; r.Start < *w.Now+1200 {
						require.False(t, strings.HasSuffix(r.Resources[k], "/"+cook), "%s is not there for %s", cook, x.ID)
					}
				}
			}
		}
	}
	require.Positive(t, handed[true])
	require.Positive(t, handed[false])
}

// Of two who can do the same, and are away for nobody knows how long, the last who went is the first who is back: without either there
// would be no mains before tomorrow.
func TestTwoOfASectionAreAway(t *testing.T) {
	n := demoNight()
	now := n.view.From.Add(time.Hour)
	later := int64(now.Add(19*time.Minute).Sub(n.e.Origin) / time.Second)
	for _, went := range [][]string{{"pim", "marguerite"}, {"marguerite", "pim"}} {
		w, s, _ := again(t, now, absent(service.Out, now.Add(-2*time.Minute), went[0], "", nil),
			absent(service.Out, now.Add(-time.Minute), went[1], "", nil))
		require.Empty(t, s.Broken)
		require.Empty(t, begins(w, s, went[0]))
		at := begins(w, s, went[1])
		require.NotEmpty(t, at)
		require.GreaterOrEqual(t, at[0], later)
		for _, j := range s.Joins {
			require.Less(t, j.At, w.Horizon)
		}
	}
}

// Of whom nobody knows when they are back the screens say from when the plan counts on them again, or that it does without them; of who is
// back at a known time nothing of the kind.
func TestWhenThePlanCountsOnThemAgain(t *testing.T) {
	n := demoNight()
	told := map[bool]int{}
	for _, x := range []struct{ who, piece string }{{who: "pim"}, {who: "hanne"}, {who: "marguerite"}, {piece: "combi"}, {piece: "burners"}} {
		for _, minutes := range []int{55, 90} {
			now := n.view.From.Add(time.Duration(minutes) * time.Minute)
			out := absent(service.Out, now.Add(-time.Second), x.who, x.piece, nil)
			w, s, _ := again(t, now, out)
			due := func(e service.Event) service.Absence {
				next := service.Whole(n.told, s)
				p := service.PlanOf(2, n.e.ReadRuns(next))
				p.NextOf = n.e.NextIn(next)
				d := service.DueAt(service.Fold([]service.Event{{ID: "open-now", Kind: service.Opened, At: n.view.From}, e}), p, now)
				require.Len(t, d.Out, 1)
				return d.Out[0]
			}
			a := due(out)
			begin := begins(w, s, x.who+x.piece)
			told[len(begin) > 0]++
			if len(begin) == 0 {
				require.Nil(t, a.CountedOn)
				continue
			}
			require.WithinDuration(t, n.e.Origin.Add(time.Duration(begin[0])*time.Second), *a.CountedOn, 0, "%v after %d minutes", x, minutes)
			require.GreaterOrEqual(t, a.CountedOn.Sub(now), 20*time.Minute-time.Second)
			until := now.Add(time.Hour)
			require.Nil(t, due(absent(service.Out, now.Add(-time.Second), x.who, x.piece, &until)).CountedOn)
		}
	}
	require.Positive(t, told[true])
	require.Positive(t, told[false])
}

// After all who cook on the roast section and one more have gone, the plan follows for twenty minutes: what somebody took over who may not
// by the book has happened, and stands. That nobody knows when they are back moves a course now and then, and not whenever the plan
// follows.
func TestThePlanFollowsThoseWhoTookOver(t *testing.T) {
	n := demoNight()
	begin := n.view.From.Add(70 * time.Minute)
	log := []service.Event{{ID: "open-now", Kind: service.Opened, At: n.view.From.Add(-time.Hour), ReceivedAt: n.view.From.Add(-time.Hour)}}
	for i, cook := range []string{"pim", "marguerite", "tobias"} {
		log = append(log, absent(service.Out, begin.Add(time.Duration(i)*time.Second), cook, "", nil))
	}
	state, told, taken, anew := service.Fold(log), n.told, map[string]bool{}, 0
	may := map[string][]workload.Need{}
	for i := range n.e.Workload.Tasks {
		may[n.e.Workload.Tasks[i].ID] = n.e.Workload.Tasks[i].Needs
	}
	for step := range 40 {
		now := begin.Add(time.Duration(step)*30*time.Second + 5*time.Second)
		w := service.Happened(n.e, told, service.PlanOf(1, n.e.ReadRuns(told)), state, now)
		require.NoError(t, workload.Check(w), "after %d half minutes", step)
		for _, f := range w.Fixed {
			for k, r := range f.Resources {
				if f.Task != "" && !slices.Contains(may[f.Task][k].AnyOf, r) {
					taken[f.Task] = true
				}
			}
		}
		s := schedule.Solve(t.Context(), w, schedule.Options{Seed: 1, Rounds: 20, Anyway: true, Stay: true, Previous: told, MovePrice: 8})
		next := service.Whole(told, s)
		if _, joins := next.Moved(told, nil); joins > 0 {
			anew++
		}
		told = next
	}
	require.NotEmpty(t, taken)
	require.LessOrEqual(t, anew, 20)
}

// A repair of what keeps every rule is always the same; of what breaks some it is another every ten seconds, and never the first again.
func TestChance(t *testing.T) {
	keeps, breaks := &workload.Schedule{}, &workload.Schedule{Broken: []workload.Broken{{Rule: workload.RuleMax, By: 1, Unit: "s"}}}
	for _, now := range []int64{-100, 0, 9, 10, 40_000} {
		require.EqualValues(t, 1, service.Chance(keeps, now))
	}
	seeds := map[int64]int64{-100: 2, 0: 2, 9: 2, 10: 3, 19: 3, 20: 4}
	for now, seed := range seeds {
		require.Equal(t, seed, service.Chance(breaks, now), "%d", now)
	}
}

// What is in an oven when it breaks goes on there by the plan, and the screens name it: what had begun by then and is not done, the first
// to be done first; nothing of a person, nothing of an oven that is there.
func TestWhatIsLeftInABrokenOven(t *testing.T) {
	n := demoNight()
	p := service.PlanOf(1, n.view)
	p.NextOf, p.TakenOf = n.e.NextIn(n.told), n.e.TakenIn(n.told)
	in := func(task, piece string) bool {
		return slices.ContainsFunc(n.told.Tasks, func(r workload.Run) bool {
			return r.ID == task && slices.ContainsFunc(r.Resources, func(id string) bool { return strings.HasSuffix(id, "/"+piece) })
		})
	}
	left := func(who, piece string, since, now time.Time) []service.LeftIn {
		log := []service.Event{{ID: "open-now", Kind: service.Opened, At: n.view.From}, absent(service.Out, since, who, piece, nil)}
		d := service.DueAt(service.Fold(log), p, now)
		require.Len(t, d.Out, 1)
		return d.Out[0].Left
	}
	found, several := 0, 0
	for _, piece := range []string{"combi", "burners", "deck"} {
		for i := range p.Runs {
			r := &p.Runs[i]
			if !in(r.Task, piece) || r.To.Sub(r.From) < time.Minute || r.OnCall {
				continue
			}
			found++
			is := func(l service.LeftIn) bool { return slices.Contains(l.Tasks, r.Task) }
			at := left("", piece, r.From, r.From.Add(time.Second))
			require.True(t, slices.ContainsFunc(at, is), "%s has begun", r.Task)
			require.True(t, slices.IsSortedFunc(at, func(a, b service.LeftIn) int { return a.DoneAt.Compare(b.DoneAt) }))
			steps := map[[2]string]int{} // of a component
			for _, l := range at {
				sum := 0
				for _, task := range l.Tasks {
					require.True(t, in(task, piece), task)
					k := slices.IndexFunc(p.Runs, func(r service.PlanRun) bool { return r.Task == task })
					sum += p.Runs[k].Portions
					if steps[[2]string{p.Runs[k].Component, p.Runs[k].Step}]++; len(l.Tasks) > 1 {
						several++
					}
				}
				require.Equal(t, sum, l.Portions)
			}
			require.Len(t, at, len(steps), "each step once")
			notYet := left("", piece, r.From.Add(-time.Second), r.From.Add(time.Second))
			require.False(t, slices.ContainsFunc(notYet, is), "it had not begun when the oven went")
			after := left("", piece, r.From, r.To.Add(time.Second))
			require.Equal(t, r.Asks, slices.ContainsFunc(after, is), "%s is done, unless somebody has to say so", r.Task)
		}
	}
	require.Greater(t, found, 20)
	require.Positive(t, several)
	require.Empty(t, left("hanne", "", n.view.From.Add(time.Hour), n.view.From.Add(70*time.Minute)))
}
