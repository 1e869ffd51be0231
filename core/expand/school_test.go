package expand_test

import (
	"testing"

	"github.com/stretchr/testify/require"

	"jointime/core/kitchen"
)

// By hand. Two tables at 19:00, one cook who stands at each fish for 300 s; fish is needed 10 s before the plates are done, and
// the second is cooked after the first. A stew that is on since the kitchen opened keeps either table from going sooner. The
// first fish may wait 60 s. A second of waiting costs 1, of lateness 4, beyond the longest wait 12 and soon more: so the first
// waits its 60 s and no longer, and the second table is late by 300 − 60 = 240 s. Where what is late is worse than what is held,
// lateness costs 4 for a minute and 10 after that, a wait too long 1 + 6: the table is late by the minute, and the first fish
// waits 240 s, 180 too long.
func TestAServiceSaysItsSchool(t *testing.T) {
	for school, want := range map[kitchen.School][2]int64{"": {240, 0}, kitchen.RatherLate: {240, 0}, kitchen.InTime: {60, 180}} {
		fish := kitchen.Component{ID: "fish", Hold: kitchen.Wait{Longest: seconds(60)}, Steps: []kitchen.Step{pick("cook", kitchen.Both, 300)}}
		stew := kitchen.Component{ID: "stew", Hold: kitchen.Wait{Best: seconds(3600), Longest: seconds(3600)},
			Steps: []kitchen.Step{pick("simmer", kitchen.None, 4*3600-20)}}
		d := served([]kitchen.Component{fish, stew}, []kitchen.Element{{Component: "stew", Seconds: 10}, {Component: "fish", Seconds: 10}},
			table("a", 1, 19*60), table("b", 1, 19*60))
		d.Services[0].School = school
		_, _, p := evening(t, d, true)
		late, over := int64(0), int64(0)
		for _, j := range p.Joins {
			late, over = late+j.LateS, over+j.OverS
		}
		require.Equal(t, want, [2]int64{late, over}, "%q", school)
	}
}

// A minute more costs more the longer it has been: of lateness, and much more of a wait beyond its longest.
func TestPricesGrow(t *testing.T) {
	fish := kitchen.Component{ID: "fish", Hold: kitchen.Wait{Longest: seconds(60)}, Steps: []kitchen.Step{pick("cook", kitchen.Both, 300)}}
	d := served([]kitchen.Component{fish}, []kitchen.Element{{Component: "fish", Seconds: 10}}, table("a", 1, 19*60), table("b", 1, 19*60))
	e, _, _ := evening(t, d, true)
	links := map[string][]int64{} // what each second costs, from where on
	for _, l := range e.Workload.Links {
		if l.To == "a/main" && l.From == "clock" {
			links["late"] = append(links["late"], *l.Best-(4*3600), l.Weight)
		}
		if l.From == "a/main/fish/cook" && l.To == "a/main/plating" {
			links["wait"] = append(links["wait"], *l.Best, l.Weight)
		}
	}
	require.Equal(t, []int64{300, 2, 720, 6}, links["late"], "five minutes late, twelve")
	require.Equal(t, []int64{60, 12, 180, 36, 540, 120, 0, 1}, links["wait"], "beyond a minute, three, nine; and every second of it")
}
