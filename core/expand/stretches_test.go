package expand_test

import (
	"testing"

	"github.com/stretchr/testify/require"

	"jointime/core/kitchen"
)

// By hand. One cook in section one, who stands at each dish for 300 s; tables at 19:00, 20:30, two each. B, of section two, helps
// from 20:15: at 19:00 the second table waits for the first, at 20:30 both are in time, and B has the one.
func TestSomebodyHelpsFromAQuarterPastEight(t *testing.T) {
	fish := kitchen.Component{ID: "fish", Hold: kitchen.Wait{Longest: seconds(0)}, Steps: []kitchen.Step{pick("cook", kitchen.Both, 300)}}
	stew := kitchen.Component{ID: "stew", Hold: kitchen.Wait{Best: seconds(6 * 3600), Longest: seconds(6 * 3600)},
		Steps: []kitchen.Step{pick("simmer", kitchen.None, 4*3600-20)}} // nobody goes before 19:00
	late := func(helpers ...kitchen.Helper) map[string]int64 {
		d := served([]kitchen.Component{fish, stew}, []kitchen.Element{{Component: "stew", Seconds: 10}, {Component: "fish", Seconds: 10}},
			table("a", 1, 19*60), table("b", 1, 19*60), table("c", 1, 20*60+30), table("d", 1, 20*60+30))
		d.Services[0].Helpers = helpers
		_, _, p := evening(t, d, true)
		out := map[string]int64{}
		people := map[string]bool{}
		for _, j := range p.Joins {
			out[map[bool]string{true: "19:00", false: "20:30"}[j.Table < "c"]] += max(0, j.LateS, -j.LateS)
		}
		for _, f := range p.Fires {
			for _, who := range f.People {
				people[who] = true
				require.True(t, who != "B" || helpers[0].From == 0 || f.At.Hour() >= 20, "B helps from 20:15: %s", f.At)
			}
		}
		require.Equal(t, len(helpers) > 0, people["B"])
		loads := map[string]int{}
		for _, l := range p.Loads {
			if l.Of.IsPerson() {
				loads[l.Name+" "+string(l.Of.Part)]++
			}
		}
		for name, n := range loads {
			require.Equal(t, 1, n, "one load of %s", name)
		}
		return out
	}
	require.Equal(t, map[string]int64{"19:00": 300, "20:30": 300}, late())
	require.Equal(t, map[string]int64{"19:00": 300, "20:30": 0}, late(kitchen.Helper{Person: "b", Section: "one", From: 20*60 + 15}))
	// All evening, and until a quarter past eight.
	require.Equal(t, map[string]int64{"19:00": 0, "20:30": 0}, late(kitchen.Helper{Person: "b", Section: "one"}))
	require.Equal(t, map[string]int64{"19:00": 0, "20:30": 300}, late(kitchen.Helper{Person: "b", Section: "one", To: 20*60 + 15}))
}

func TestHoursOfAHelper(t *testing.T) {
	faults := func(h kitchen.Helper) (out []string) {
		d := served(nil, nil, table("a", 1, 19*60))
		d.Services[0].Helpers = []kitchen.Helper{h}
		for _, f := range kitchen.CheckService(d.Services[0]) {
			out = append(out, f.Path)
		}
		return out
	}
	require.Empty(t, faults(kitchen.Helper{From: 1200, To: 1201}))
	require.Empty(t, faults(kitchen.Helper{From: 2880}))
	require.Equal(t, []string{"helpers[0].to"}, faults(kitchen.Helper{From: 1200, To: 1200}))
	require.Equal(t, []string{"helpers[0].from"}, faults(kitchen.Helper{From: 2881}))
	require.Equal(t, []string{"helpers[0].from"}, faults(kitchen.Helper{From: -1}))
	require.Equal(t, []string{"helpers[0].to"}, faults(kitchen.Helper{To: 2881}))
}
