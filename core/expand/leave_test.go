package expand

import (
	"testing"

	"github.com/stretchr/testify/require"

	"jointime/core/kitchen"
	"jointime/core/workload"
)

// threeCooks is an evening of three people, of which one has begun to fry: she takes out what is fried, and whoever does that salts it.
func threeCooks() (*Evening, *workload.Workload) {
	e := &Evening{roster: map[string]ResourceRef{}}
	w := &workload.Workload{Horizon: 1000}
	for _, id := range []string{"ada", "ines", "tobias"} {
		ref := ResourceRef{kitchen.PersonRecord, id, Hands}
		e.roster[ref.name()] = ref
		w.Resources = append(w.Resources, workload.Resource{ID: ref.name(), Capacity: 1})
	}
	hers := []workload.Need{{AnyOf: []string{"person/ada"}, Units: 1}}
	as := func(task string) []workload.Need {
		return []workload.Need{{AnyOf: []string{"person/ada"}, Units: 1, As: &workload.As{Task: task, Need: 0}}}
	}
	w.Tasks = []workload.Task{{ID: "salt", Seconds: 5, Needs: as("out")}, {ID: "fry", Seconds: 100, Needs: hers},
		{ID: "out", Seconds: 10, Needs: as("fry")}, {ID: "later", Seconds: 10, Needs: hers}}
	w.Fixed = []workload.Fixed{{Task: "fry", Start: 50, Resources: []string{"person/ada"}}}
	return e, w
}

// What somebody has begun others go on with: whoever is there where nobody else may do it in the book, and one of them all that follows.
// What they have not begun stays theirs.
func TestOthersGoOnWithWhatIsBegun(t *testing.T) {
	e, w := threeCooks()
	e.HandOver(w, func(person string) bool { return person == "tobias" })
	require.NotNil(t, w.Tasks[2].Needs[0].As, "he has begun nothing")
	e.HandOver(w, func(person string) bool { return person == "ada" })
	there := []string{"person/ines", "person/tobias"}
	require.Nil(t, w.Tasks[2].Needs[0].As)
	require.Equal(t, there, w.Tasks[2].Needs[0].AnyOf)
	require.Equal(t, workload.As{Task: "out", Need: 0}, *w.Tasks[0].Needs[0].As)
	require.Equal(t, there, w.Tasks[0].Needs[0].AnyOf)
	require.Equal(t, []string{"person/ada"}, w.Tasks[3].Needs[0].AnyOf)
	require.NoError(t, workload.Check(w))

	e, w = threeCooks()
	w.Tasks[0].Needs[0].AnyOf, w.Tasks[2].Needs[0].AnyOf = []string{"person/ines"}, []string{"person/ines"}
	e.HandOver(w, func(person string) bool { return person == "ada" })
	require.Nil(t, w.Tasks[2].Needs[0].As)
	require.Equal(t, []string{"person/ines"}, w.Tasks[2].Needs[0].AnyOf, "who may does")

	e, w = threeCooks()
	e.HandOver(w, func(string) bool { return true })
	require.Equal(t, []string{"person/ada"}, w.Tasks[2].Needs[0].AnyOf, "there is nobody")
}

// Who helps another section from an instant on goes on with what they have begun, by whatever they are called then; who does not is called
// as before.
func TestWhoGoesOverGoesOnWithWhatIsBegun(t *testing.T) {
	e, w := threeCooks()
	before := w.Clone()
	e.HandOver(w, func(string) bool { return false })
	require.Equal(t, before, w)

	later := ResourceRef{kitchen.PersonRecord, "ada", Hands}
	e.roster["person/ada@1"] = later
	e.roster["eyes/ada@1"] = ResourceRef{kitchen.PersonRecord, "ada", Eyes}
	w.Resources = append(w.Resources, workload.Resource{ID: "person/ada@1", Capacity: 1}, workload.Resource{ID: "eyes/ada@1", Capacity: 3})
	e.HandOver(w, func(string) bool { return false })
	both := []string{"person/ada", "person/ada@1"}
	require.Nil(t, w.Tasks[2].Needs[0].As)
	require.Equal(t, both, w.Tasks[2].Needs[0].AnyOf)
	require.Equal(t, workload.As{Task: "out", Need: 0}, *w.Tasks[0].Needs[0].As)
	require.Equal(t, both, w.Tasks[0].Needs[0].AnyOf)
	require.Equal(t, []string{"person/ada"}, w.Tasks[3].Needs[0].AnyOf, "she has not begun it")
	require.NoError(t, workload.Check(w))
}

// What somebody has taken over who may not by the book stands, and what the same is to have goes on with them; of what has happened too it
// is known who did it. Who may by the book changes nothing.
func TestWhatWasTakenOverStands(t *testing.T) {
	e, w := threeCooks()
	before := w.Clone()
	e.TakenOver(w)
	require.Equal(t, before, w)

	w.Fixed = append(w.Fixed, workload.Fixed{Task: "out", Start: 150, Resources: []string{"person/tobias"}})
	w.Tasks = append(w.Tasks, workload.Task{ID: "taste", Seconds: 5, Needs: []workload.Need{{AnyOf: []string{"person/ada"}, Units: 1,
		As: &workload.As{Task: "salt", Need: 0}}}})
	require.ErrorContains(t, workload.Check(w), "is not among the need's any_of")
	e.TakenOver(w)
	require.NoError(t, workload.Check(w))
	require.Equal(t, []string{"person/tobias"}, w.Tasks[2].Needs[0].AnyOf)
	require.Nil(t, w.Tasks[2].Needs[0].As)
	for _, follows := range []int{0, 4} {
		require.Equal(t, []string{"person/tobias"}, w.Tasks[follows].Needs[0].AnyOf)
	}
	require.Equal(t, []string{"person/ada"}, w.Tasks[3].Needs[0].AnyOf)

	for _, salted := range []string{"person/ines", "person/ada"} {
		e, w = threeCooks()
		w.Fixed = append(w.Fixed, workload.Fixed{Task: "out", Start: 150, Resources: []string{"person/tobias"}},
			workload.Fixed{Task: "salt", Start: 160, Resources: []string{salted}})
		e.TakenOver(w)
		require.NoError(t, workload.Check(w))
		for task, by := range map[int]string{0: salted, 2: "person/tobias"} {
			require.Equal(t, []string{by}, w.Tasks[task].Needs[0].AnyOf)
			require.Nil(t, w.Tasks[task].Needs[0].As)
		}
	}
}

// Somebody is needed for what nobody else may do who is there: others are gone, or their shift is over by then.
func TestWhoIsNeeded(t *testing.T) {
	e, w := threeCooks()
	w.Tasks = w.Tasks[3:]
	w.Tasks[0].Needs[0].AnyOf = []string{"person/ada", "person/ines"}
	w.Fixed = nil
	gone := map[string]bool{}
	needed := func(who string, from int64) bool { // what is to be done begins then
		return e.Needed(w, kitchen.PersonRecord, who, func(string) int64 { return from },
			func(_ kitchen.Kind, id string) bool { return gone[id] })
	}
	require.False(t, needed("ada", 0))
	require.False(t, needed("tobias", 0), "it is nothing for him")
	gone["ines"] = true
	require.True(t, needed("ada", 0))
	gone["ines"] = false
	w.Resources[1].HasWindows = true
	w.Resources[1].Windows = []workload.Window{{From: 0, To: 500, Capacity: 1}, {From: 1000, To: 2000, Capacity: 1}}
	require.False(t, needed("ada", 499))
	require.True(t, needed("ada", 500), "before tomorrow nobody is there")
	w.Fixed = []workload.Fixed{{Task: "later", Start: 50, Resources: []string{"person/ada"}}}
	require.False(t, needed("ada", 500), "it has begun")
}
