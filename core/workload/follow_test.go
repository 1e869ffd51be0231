package workload_test

import (
	"testing"

	"github.com/stretchr/testify/require"

	"jointime/core/workload"
)

func small() *workload.Workload {
	at := int64(600)
	return &workload.Workload{Objective: workload.Joins, Origin: "2026-05-14T12:00:00+02:00", Horizon: 3600,
		Resources: []workload.Resource{{ID: "cook", Name: "Ines", Capacity: 4}},
		Tasks:     []workload.Task{{ID: "sear", Name: "Sear", Seconds: 60, Needs: []workload.Need{{AnyOf: []string{"cook"}, Units: 4}}}},
		Links:     []workload.Link{{From: "sear", To: "join", Kind: workload.FinishStart, Weight: 1}},
		Joins:     []workload.Join{{ID: "join", Name: "Table 1", At: &at, Weight: 4}}}
}

// A fingerprint is of everything that a schedule depends on, and of no name.
func TestFingerprint(t *testing.T) {
	print := func(change func(*workload.Workload)) string {
		w := small()
		change(w)
		out, err := w.Fingerprint()
		require.NoError(t, err)
		return out
	}
	was := print(func(*workload.Workload) {})
	require.Equal(t, was, print(func(w *workload.Workload) { w.Tasks[0].Name, w.Resources[0].Name, w.Joins[0].Name = "x", "y", "z" }))
	later := int64(601)
	for name, change := range map[string]func(*workload.Workload){
		"a length":   func(w *workload.Workload) { w.Tasks[0].Seconds++ },
		"a wish":     func(w *workload.Workload) { w.Joins[0].At = &later },
		"a need":     func(w *workload.Workload) { w.Tasks[0].Needs[0].Units = 1 },
		"a wait":     func(w *workload.Workload) { w.Links[0].Min = 1 },
		"an id":      func(w *workload.Workload) { w.Tasks[0].ID, w.Links[0].From = "fry", "fry" },
		"the origin": func(w *workload.Workload) { w.Origin = "2026-05-14T12:00:01+02:00" },
		"a capacity": func(w *workload.Workload) { w.Resources[0].Capacity = 5 },
	} {
		require.NotEqual(t, was, print(change), name)
	}
	w := small()
	_, err := w.Fingerprint()
	require.NoError(t, err)
	require.Equal(t, "Sear", w.Tasks[0].Name, "the workload itself keeps its names")
}

// From another origin every instant keeps its place on the clock, also where the two are
// written in different zones.
func TestRebase(t *testing.T) {
	s := &workload.Schedule{Tasks: []workload.Run{{ID: "sear", Start: 100, Finish: 160, Resources: []string{"cook"}}},
		Joins: []workload.Instant{{ID: "join", At: 600}}}
	moved, err := s.Rebase("2026-05-14T12:00:00+02:00", "2026-05-14T09:50:00Z")
	require.NoError(t, err)
	require.Equal(t, []workload.Run{{ID: "sear", Start: 700, Finish: 760, Resources: []string{"cook"}}}, moved.Tasks)
	require.Equal(t, int64(1200), moved.Joins[0].At)
	require.Equal(t, int64(100), s.Tasks[0].Start, "the schedule itself stays")
	for _, bad := range [][2]string{{"noon", "2026-05-14T09:50:00Z"}, {"2026-05-14T09:50:00Z", ""}} {
		_, err := s.Rebase(bad[0], bad[1])
		require.Error(t, err)
	}
}

func TestMoved(t *testing.T) {
	at := func(a, b, join int64) *workload.Schedule {
		return &workload.Schedule{Tasks: []workload.Run{{ID: "a", Start: a}, {ID: "b", Start: b}}, Joins: []workload.Instant{{ID: "j", At: join}}}
	}
	seconds, joins := at(10, 20, 30).Moved(at(10, 20, 30), nil)
	require.Equal(t, []int64{0, 0}, []int64{seconds, int64(joins)})
	seconds, joins = at(13, 15, 31).Moved(at(10, 20, 30), nil)
	require.Equal(t, []int64{8, 1}, []int64{seconds, int64(joins)})
	seconds, _ = at(13, 15, 31).Moved(at(10, 20, 30), map[string]bool{"b": true})
	require.Equal(t, int64(3), seconds)
	seconds, joins = at(13, 15, 31).Moved(&workload.Schedule{}, nil)
	require.Equal(t, []int64{0, 0}, []int64{seconds, int64(joins)}, "what is new has not moved")
}
