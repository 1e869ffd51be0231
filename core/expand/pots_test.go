package expand_test

import (
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"jointime/core/expand"
	"jointime/core/kitchen"
)

// broth is brought up in 300 s with an eye on it, is good for an hour, and is topped up for 40 s every 20 min.
func broth() kitchen.Component {
	return kitchen.Component{ID: "broth", Pot: &kitchen.Pot{HoldsS: 3600, TopUp: &kitchen.Care{Say: "top up", Seconds: 40, EveryS: 1200}},
		Steps: []kitchen.Step{pick("heat", kitchen.Tend, 300)}}
}

func potted(c kitchen.Component, seated ...int) kitchen.Data {
	var tables []kitchen.ServiceTable
	for i, at := range seated {
		tables = append(tables, table(string(rune('a'+i)), 2, at))
	}
	return served([]kitchen.Component{c}, []kitchen.Element{{Component: "broth", Seconds: 10}}, tables...)
}

// Of an hour three quarters are for tables as they are wanted: those at 19:00, 19:10 and 19:44 draw from the first pot, that at
// 19:45 from the second. Nobody fires a broth for one table.
func TestAPotIsBroughtUpOnceForItsTime(t *testing.T) {
	e, s, p := evening(t, potted(broth(), 19*60, 19*60+10, 19*60+44, 19*60+45), true)
	require.Len(t, p.Fires, 2)
	require.Equal(t, []string{"a/main", "b/main", "c/main"}, p.Fires[0].Joins)
	require.Equal(t, 6, p.Fires[0].Count)
	require.Equal(t, []string{"d/main"}, p.Fires[1].Joins)
	for _, j := range p.Joins {
		require.Zero(t, j.LateS)
		require.Zero(t, j.OverS)
	}
	// Up at 18:59:40 for the first plate of a table of two, plated in 20 s: on at 18:54:40.
	require.Equal(t, "18:54:40", p.Fires[0].At.Format("15:04:05"))
	// A table that comes at another time goes to another pot; the others stay.
	_, _, later := evening(t, potted(broth(), 19*60, 19*60+50, 19*60+44, 19*60+45), true)
	require.Equal(t, []string{"a/main", "c/main"}, later.Fires[0].Joins)
	require.Equal(t, []string{"b/main", "d/main"}, later.Fires[1].Joins)
	// Topped up about 20 min and 40 min later, not for a table that never comes.
	var tops []expand.Fire
	for _, l := range p.Lines {
		if l.Kind == expand.LineTouch {
			tops = append(tops, l)
		}
	}
	require.Len(t, tops, 2)
	x, _ := e.CourseByID("a/main")
	require.Empty(t, x.Firing.Read(s).Strands[0].Bars[0].Touches, "it is topped up while it waits, not while it is brought up")
	for k, x := range tops {
		after := x.At.Sub(p.Fires[0].OffAt)
		require.InDelta(t, float64(k+1)*1200, after.Seconds(), 300)
		require.Equal(t, 40*time.Second, x.OffAt.Sub(x.At))
		require.Equal(t, []string{"A"}, x.People)
	}
}

// It stands where it is said to stand from when it is up until the last plate has it.
func TestAPotTakesItsPlace(t *testing.T) {
	c := broth()
	c.Pot.TopUp, c.Pot.In = nil, &kitchen.EquipmentNeed{Kind: kitchen.Holding, Units: 1}
	d := potted(c, 19*60, 19*60+30)
	d.Equipment = append(d.Equipment, kitchen.Equipment{ID: "bain", Name: "Bain-marie", Kind: kitchen.Holding, Capacity: 1, Unit: "pot"})
	_, _, p := evening(t, d, true)
	require.Len(t, p.Fires, 1)
	for _, l := range p.Loads {
		if l.Of.ID == "bain" {
			require.Len(t, l.Steps, 2)
			require.Equal(t, p.Fires[0].OffAt, l.Steps[0].At)
			require.Equal(t, "19:29:40", l.Steps[1].At.Format("15:04:05"))
			return
		}
	}
	t.Fatal("the bain-marie is not used")
}

// Ten minutes good: 7½ minutes lie between the first table and the last that may draw from it.
func TestAPotThatWouldBeTooOldIsFollowedByTheNext(t *testing.T) {
	c := broth()
	c.Pot.HoldsS, c.Pot.TopUp = 600, nil
	d := potted(c, 19*60, 19*60+7)
	_, _, p := evening(t, d, true)
	require.Len(t, p.Fires, 1, "within three quarters of its time")
	d = potted(c, 19*60, 19*60+8)
	_, _, p = evening(t, d, true)
	require.Len(t, p.Fires, 2)
}

// Somebody said that it may wait hot without limit: then it may, and the plan says when it does so for long. By hand: one cook
// makes two sauces of 50 min for two tables at 19:00; the first is done at 18:09:50 and waits 50 min.
func TestAHotWaitWithoutLimitIsSaid(t *testing.T) {
	sauce := kitchen.Component{ID: "sauce", Hold: kitchen.Wait{NoLimit: true, Place: kitchen.Hot},
		Steps: []kitchen.Step{pick("make", kitchen.Both, 3000)}}
	said := func(long int) int {
		c := sauce
		c.Steps = []kitchen.Step{pick("make", kitchen.Both, long)}
		_, _, p := evening(t, served([]kitchen.Component{c}, []kitchen.Element{{Component: "sauce", Seconds: 10}}, table("a", 1, 19*60),
			table("b", 1, 19*60)), true)
		return len(p.Said)
	}
	require.Equal(t, 1, said(3000))
	require.Zero(t, said(2400), "40 min are usual")
	sauce.Hold.NoLimit = false
	require.Zero(t, said(3000), "nobody said so: it is over its usual limit, which is said as that")
}

// A table that comes ten minutes later moves with what is its own; the pot that another draws from stays where it was told.
func TestAPotStaysWhileSomebodyElseDrawsFromIt(t *testing.T) {
	was, told, _ := evening(t, potted(broth(), 19*60, 19*60+20), true)
	for seated, moves := range map[int]bool{19*60 + 30: false, 19*60 + 20: false} {
		now, _, _ := evening(t, potted(broth(), 19*60, seated), true)
		s, loose, err := now.Follow(was.Workload, told)
		require.NoError(t, err)
		require.Equal(t, moves, loose["~pot-1/broth/heat"])
		require.Equal(t, seated == 19*60+30, loose["b/main/plating"])
		for i, r := range s.Tasks {
			if r.ID == "~pot-1/broth/heat" {
				require.Equal(t, told.Tasks[i].Start, r.Start)
			}
		}
	}
	// Both later: the pot goes with them.
	now, _, _ := evening(t, potted(broth(), 19*60+10, 19*60+30), true)
	_, loose, err := now.Follow(was.Workload, told)
	require.NoError(t, err)
	require.True(t, loose["~pot-1/broth/heat"])
}

// For a table alone nobody brings a pot up sooner than it must be. By hand: needed at −10, brought up in 300 s.
func TestAPotForOneTable(t *testing.T) {
	c := broth()
	p := plan(t, house([]kitchen.Component{c}, []kitchen.Element{{Component: "broth", Seconds: 10}}), 1, 1)
	require.Equal(t, map[string]int64{"broth": -310}, fires(p))
}
