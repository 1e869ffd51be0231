package server

import (
	"encoding/json"
	"fmt"
	"math/rand/v2"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"jointime/core/kitchen"
	"jointime/core/service"
)

// some is what is due somewhere: so many joins, with something of them that varies.
func some(joins int, name string, said ...string) *service.DueView {
	v := &service.DueView{At: time.Date(2026, 5, 15, 19, 0, 0, 0, time.UTC), Plan: 3, Phase: service.Open, Settle: []service.Unsettled{},
		Off: []service.Lack{}, Troubles: []service.SaidInWords{}, Sections: []service.SectionDue{}, Joins: []service.JoinDue{}}
	for _, id := range []string{"fish", "grill"} {
		v.Sections = append(v.Sections, service.SectionDue{Section: id, Now: []service.DueLine{}, On: []service.DueLine{},
			Next: []service.DueLine{}, Then: []service.DueLine{}, Counts: []service.Count{}})
	}
	for i := range joins {
		v.Joins = append(v.Joins, service.JoinDue{TableCourse: service.TableCourse{Table: fmt.Sprint("t", i), Course: kitchen.Main},
			Name: "Table"})
	}
	if joins > 0 {
		v.Joins[0].Name = name
	}
	for _, s := range said {
		v.Troubles = append(v.Troubles, service.SaidInWords{Why: s})
	}
	return v
}

// Whoever has a version is sent what is otherwise since that one; all of it where there is another set of joins, or where they have
// nothing.
func TestWhatIsSentOfWhatIsDue(t *testing.T) {
	a, err := sayDue(some(3, "Table 1"), nil)
	require.NoError(t, err)
	body, whole := a.since(0)
	require.True(t, whole)
	require.JSONEq(t, string(a.whole), string(body))
	body, _ = a.since(a.version)
	require.Nil(t, body, "they have it")

	b, err := sayDue(some(3, "Table 1", "no hake"), a)
	require.NoError(t, err)
	body, whole = b.since(a.version)
	require.False(t, whole)
	var v service.DueView
	require.NoError(t, json.Unmarshal(body, &v))
	require.Len(t, v.Troubles, 1)
	require.Empty(t, v.Sections)
	require.Empty(t, v.Joins, "a word of trouble is sent without the rest")
	require.Less(t, len(body), len(b.whole))

	c, err := sayDue(some(3, "Table one", "no hake"), b)
	require.NoError(t, err)
	for _, from := range []int{a.version, b.version} {
		body, whole = c.since(from)
		require.False(t, whole)
		require.NoError(t, json.Unmarshal(body, &v))
		require.Len(t, v.Joins, 1)
		require.Equal(t, "Table one", v.Joins[0].Name)
	}

	d, err := sayDue(some(4, "Table one"), c)
	require.NoError(t, err)
	for _, from := range []int{0, a.version, c.version, d.version + 5} {
		_, whole = d.since(from)
		require.True(t, whole, from)
	}
	swapped := some(4, "Table one")
	swapped.Joins[1], swapped.Joins[2] = swapped.Joins[2], swapped.Joins[1]
	e, err := sayDue(swapped, d)
	require.NoError(t, err)
	_, whole = e.since(d.version)
	require.True(t, whole, "they come together in another order")
}

// However often somebody misses what is made, what they have in the end is what is due.
func TestChangesAddUp(t *testing.T) {
	r := rand.New(rand.NewPCG(1, 1))
	for range 30 {
		var d *saidDue
		var has service.DueView
		version := 0
		for n := range 40 {
			x := some(2+r.IntN(2)*(n/25), fmt.Sprint("Table ", r.IntN(3)))
			x.Sections[r.IntN(2)].Done = r.IntN(3)
			x.At = x.At.Add(time.Duration(n) * time.Second)
			var err error
			d, err = sayDue(x, d)
			require.NoError(t, err)
			if r.IntN(3) == 0 {
				continue
			}
			body, whole := d.since(version)
			var got service.DueView
			require.NoError(t, json.Unmarshal(body, &got))
			if !whole {
				for i := range has.Sections {
					for k := range got.Sections {
						if got.Sections[k].Section == has.Sections[i].Section {
							has.Sections[i] = got.Sections[k]
						}
					}
				}
				for i := range has.Joins {
					for k := range got.Joins {
						if got.Joins[k].TableCourse == has.Joins[i].TableCourse {
							has.Joins[i] = got.Joins[k]
						}
					}
				}
				got.Sections, got.Joins = has.Sections, has.Joins
			}
			has, version = got, d.version
			mine, err := json.Marshal(&has)
			require.NoError(t, err)
			require.JSONEq(t, string(d.whole), string(mine))
		}
	}
}
