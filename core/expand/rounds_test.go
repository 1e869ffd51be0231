package expand_test

import (
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"jointime/core/expand"
	"jointime/core/kitchen"
)

// banquet is one dish, of 10 s a plate, for some tables at a pass of so many plates with one at it.
func banquet(room int, tables ...kitchen.ServiceTable) kitchen.Data {
	roast := kitchen.Component{ID: "roast", Hold: kitchen.Wait{Longest: seconds(3600)},
		Steps: []kitchen.Step{pick("roast", kitchen.None, 600)}}
	d := served([]kitchen.Component{roast}, []kitchen.Element{{Component: "roast", Seconds: 10}}, tables...)
	d.Services[0].Kind, d.Services[0].PlatingHands = kitchen.Banquet, 1
	d.Equipment = append(d.Equipment, kitchen.Equipment{ID: "pass", Name: "Pass", Kind: kitchen.Pass, Capacity: room, Unit: "plate"})
	return d
}

// plates lists how many plates each round of a banquet has, in its order.
func plates(e *expand.Evening) (out []int) {
	for i := range e.Courses {
		n := 0
		for _, o := range e.Courses[i].Firing.Table.Orders {
			n += o.Count
		}
		out = append(out, n)
	}
	return out
}

// A pass of six plates does not cut a table of eight; a group goes by whole tables where they fit, and where none does a table
// goes in one. Of a group whose tables nobody said a round is what the pass takes.
func TestARoundIsWholeTables(t *testing.T) {
	group := func(covers, of int) kitchen.ServiceTable {
		x := table("hall", covers, 19*60)
		x.TablesOf = of
		return x
	}
	for _, x := range []struct {
		room  int
		table kitchen.ServiceTable
		want  []int
		said  bool
	}{
		{6, group(8, 0), []int{8}, true}, {6, group(12, 0), []int{12}, true}, {6, group(13, 0), []int{6, 6, 1}, false},
		{8, group(8, 0), []int{8}, false}, {8, group(24, 4), []int{8, 8, 8}, false}, {8, group(20, 5), []int{5, 5, 5, 5}, false},
		{8, group(18, 3), []int{6, 6, 6}, false}, {8, group(20, 10), []int{10, 10}, true}, {8, group(20, 8), []int{8, 8, 4}, false},
	} {
		e, _, p := evening(t, banquet(x.room, x.table), true)
		require.Equal(t, x.want, plates(e), "%d at tables of %d on a pass of %d", x.table.Covers, x.table.TablesOf, x.room)
		said := false
		for _, m := range p.Said {
			said = said || strings.Contains(m.Text, "go in one round")
		}
		require.Equal(t, x.said, said, "%d on %d", x.table.Covers, x.room)
	}
}

// By hand: three tables of eight, 80 s each with one at the pass, wanted at 19:20. One after another: the second is wanted when
// it can be complete, at 19:21:20, and the third at 19:22:40. Nobody is late by plan, and one roast is for all.
func TestTablesOfABanquetFollowEachOther(t *testing.T) {
	e, _, p := evening(t, banquet(6, table("a", 8, 19*60), table("b", 8, 19*60), table("c", 8, 19*60)), true)
	require.Equal(t, []int{8, 8, 8}, plates(e))
	start := p.Joins[0].WantedAt
	for i, j := range p.Joins {
		require.Equal(t, time.Duration(i)*80*time.Second, j.WantedAt.Sub(start))
		require.Zero(t, j.LateS)
		require.Equal(t, 0, j.Round)
	}
	require.Len(t, p.Fires, 1)
	require.Equal(t, 24, p.Fires[0].Count)
	// Another sitting does not wait for this one.
	e, _, _ = evening(t, banquet(6, table("a", 8, 19*60), table("b", 8, 20*60)), true)
	require.Equal(t, time.Hour, e.Courses[1].Firing.Table.At.Sub(e.Courses[0].Firing.Table.At))
}

// Sixty plates of 53 s with six at the pass: 60 · 53 / 6 = 530 s if nobody ever stood still, 12 min at the most.
func TestSixtyPlatesInTwelveMinutes(t *testing.T) {
	x := table("hall", 60, 19*60)
	x.TablesOf = 6
	d := banquet(6, x)
	d.Dishes[0].Specification.Elements = []kitchen.Element{}
	for i, s := range []int{10, 6, 12, 14, 6, 5} {
		c := d.Components[0]
		c.ID, c.Name = string(rune('a'+i)), string(rune('a'+i))
		d.Components = append(d.Components, c)
		e := kitchen.Element{Component: c.ID, Amount: 10, Form: kitchen.Form{Kind: "heap"}, Temp: "hot", Seconds: s, Hands: 1}
		d.Dishes[0].Specification.Elements = append(d.Dishes[0].Specification.Elements, e)
	}
	for _, id := range []string{"c", "d", "e", "f"} {
		d.People = append(d.People, kitchen.Person{ID: id, Name: id, Sections: []string{"pass"}, Hours: always()})
	}
	d.Services[0].PlatingHands = 0 // six of those who may
	_, _, p := evening(t, d, true)
	last := p.Joins[len(p.Joins)-1]
	require.LessOrEqual(t, last.At.Sub(p.Joins[0].PlateAt), 12*time.Minute)
	require.GreaterOrEqual(t, last.At.Sub(p.Joins[0].PlateAt), 530*time.Second)
	for _, j := range p.Joins {
		require.Zero(t, j.LateS, j.ID)
	}
}
