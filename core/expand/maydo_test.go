package expand_test

import (
	"testing"

	"github.com/stretchr/testify/require"

	"jointime/core/kitchen"
)

// By hand. Two things that take both hands for 60 s, needed at −20 and −10, and wait for nothing. By the one cook of their
// section they are one after another, which cannot be: the first would have to be done by −70. Who else may do the second
// decides whether both are in time.
func TestWhoMayDoAStepDoesIt(t *testing.T) {
	lateOf := func(change func(*kitchen.Step), ways ...kitchen.Way) int64 {
		cs := []kitchen.Component{{ID: "x", Hold: kitchen.Wait{Longest: seconds(0)}, Steps: []kitchen.Step{pick("stir", kitchen.Both, 60)}},
			{ID: "y", Hold: kitchen.Wait{Longest: seconds(0)}, Steps: []kitchen.Step{pick("stir", kitchen.Both, 60)}}}
		change(&cs[1].Steps[0])
		d := served(cs, []kitchen.Element{{Component: "x", Seconds: 10}, {Component: "y", Seconds: 10}}, table("t", 1, 1140))
		d.Services[0].Ways = ways
		_, _, p := evening(t, d, true)
		return p.Joins[0].LateS + p.Joins[0].OverS
	}
	none := func(*kitchen.Step) {}
	require.Positive(t, lateOf(none))
	require.Zero(t, lateOf(func(s *kitchen.Step) { s.May = kitchen.MayAnybody }))
	require.Zero(t, lateOf(func(s *kitchen.Step) { s.May, s.People = kitchen.MayNamed, []string{"b"} }))
	require.Positive(t, lateOf(func(s *kitchen.Step) { s.May, s.People = kitchen.MayNamed, []string{"a"} }))
	require.Zero(t, lateOf(none, kitchen.Way{Component: "y", Step: "stir", Person: "b"}), "b is asked to, in this service")
}

// Who helps at a section does what its people alone may do as little as what named people may.
func TestAHelperDoesWhatTheSectionLetsHelpersDo(t *testing.T) {
	late := func(may kitchen.May) int64 {
		cs := []kitchen.Component{{ID: "x", Hold: kitchen.Wait{Longest: seconds(0)}, Steps: []kitchen.Step{pick("stir", kitchen.Both, 60)}},
			{ID: "y", Hold: kitchen.Wait{Longest: seconds(0)}, Steps: []kitchen.Step{pick("stir", kitchen.Both, 60)}}}
		for i := range cs {
			cs[i].Steps[0].May = may
		}
		d := served(cs, []kitchen.Element{{Component: "x", Seconds: 10}, {Component: "y", Seconds: 10}}, table("t", 1, 1140))
		d.Services[0].Helpers = []kitchen.Helper{{Person: "b", Section: "one"}}
		_, _, p := evening(t, d, true)
		return p.Joins[0].LateS + p.Joins[0].OverS
	}
	require.Zero(t, late(kitchen.MayUnsaid))
	require.Positive(t, late(kitchen.MaySection))
}

// By hand: the rounds of a group in two waves. Four rounds of 40 s: the third begins the second wave ten minutes later.
func TestTwoWaves(t *testing.T) {
	x := table("hall", 16, 19*60)
	x.TablesOf, x.SecondWaveMin = 4, 10
	e, _, _ := evening(t, banquet(4, x), true)
	var at []float64
	for i := range e.Courses {
		at = append(at, e.Courses[i].Firing.Table.At.Sub(e.Courses[0].Firing.Table.At).Seconds())
	}
	require.Equal(t, []float64{0, 40, 600, 640}, at)
}

// Two steps in one pan are one cook's where alike people may do both. Where somebody else may do the second too, in the data or in
// one service, only the pan is the same; the workload is sound.
func TestWhoGoesOnWhereOthersMayGoOnToo(t *testing.T) {
	for name, change := range map[string]func(*kitchen.Data){
		"as ever": func(*kitchen.Data) {},
		"asked": func(d *kitchen.Data) {
			d.Services[0].Ways = []kitchen.Way{{Component: "x", Step: "reduce", Person: "b"}}
		},
		"named": func(d *kitchen.Data) {
			s := &d.Components[0].Steps[1]
			s.May, s.People = kitchen.MayNamed, []string{"b", "head"}
		},
		"anybody": func(d *kitchen.Data) { d.Components[0].Steps[0].May = kitchen.MayAnybody },
	} {
		c := kitchen.Component{ID: "x", Hold: kitchen.Wait{Longest: seconds(60)}, Steps: []kitchen.Step{onBurner(pick("fry", kitchen.Tend, 60)),
			onBurner(pick("reduce", kitchen.Tend, 60, kitchen.Predecessor{Step: "fry"}))}}
		d := burners(served([]kitchen.Component{c}, []kitchen.Element{{Component: "x", Seconds: 10}}, table("t", 1, 1140)), 2)
		change(&d)
		e, _, _ := evening(t, d, true) // which checks the workload
		var same []int
		for _, x := range e.Workload.Tasks {
			if x.ID == "t/main/x/reduce" {
				for k, n := range x.Needs {
					if n.As != nil && n.As.Task == "t/main/x/fry" {
						same = append(same, k)
					}
				}
			}
		}
		want := []int{2} // the pan alone: eyes, presence, pan
		if name == "as ever" {
			want = []int{0, 2}
		}
		require.Equal(t, want, same, name)
	}
}
