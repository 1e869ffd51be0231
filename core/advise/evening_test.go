package advise_test

import (
	"testing"

	"github.com/stretchr/testify/require"

	"jointime/core/advise"
	"jointime/core/expand"
)

func evening(joins ...expand.EveningJoin) *expand.EveningPlan {
	return &expand.EveningPlan{Joins: joins}
}

func joinAt(id, name string, minute, late int) expand.EveningJoin {
	return expand.EveningJoin{ID: id, Name: name, At: clock(14, 19, minute), LateS: int64(late)}
}

func TestWhatMovedInAnEvening(t *testing.T) {
	was := evening(joinAt("1/main", "Table 1", 0, 0), joinAt("2/main", "Table 2", 10, 120), joinAt("3/main", "Table 3", 20, 0),
		joinAt("4/main", "Table 4", 30, 0))
	for want, is := range map[string]*expand.EveningPlan{
		"Every join stays.": was,
		"Table 2 goes 3 min sooner. Table 1 goes 2 min later. 1 more table moves. 2 min less lateness in all.": evening(
			joinAt("1/main", "Table 1", 2, 0), joinAt("2/main", "Table 2", 7, 0), joinAt("3/main", "Table 3", 21, 0),
			joinAt("4/main", "Table 4", 30, 0)),
		"Table 5 is new. Table 3 has a course less. 5 min more lateness in all.": evening(
			joinAt("1/main", "Table 1", 0, 0), joinAt("2/main", "Table 2", 10, 120), joinAt("4/main", "Table 4", 30, 0),
			joinAt("5/main", "Table 5", 40, 300)),
	} {
		require.Equal(t, want, advise.EveningDifference(was, is).Text)
	}
	held := evening(was.Joins...)
	held.Trouble = []expand.FireTrouble{{Join: "1/main", Kind: "hold", ByS: 600}, {Join: "2/main", Kind: "late", ByS: 120}}
	require.Equal(t, "Every join stays. Holds are passed by 10 min more.", advise.EveningDifference(was, held).Text)
	require.Equal(t, "Every join stays. Holds are passed by 10 min less.", advise.EveningDifference(held, was).Text)
	require.Equal(t, int64(600), advise.Overdue(held))
	require.Equal(t, int64(120), advise.Lateness(was))
}

// What saves most beyond what it costs comes first.
func TestRankOfMends(t *testing.T) {
	list := []advise.Mend{{ID: "dear", SavesS: 1000, PriceS: 900}, {ID: "small", SavesS: 300, PriceS: 50},
		{ID: "best", SavesS: 900, PriceS: 100}}
	advise.Rank(list)
	require.Equal(t, []string{"best", "small", "dear"}, []string{list[0].ID, list[1].ID, list[2].ID})
	c := advise.Candidate{}
	require.False(t, c.Worth(&expand.EveningPlan{Cost: 100}, &expand.EveningPlan{Cost: 100}), "what saves nothing does not help")
	require.False(t, c.Worth(&expand.EveningPlan{Cost: 100}, &expand.EveningPlan{Cost: 40}), "what does not fit is as it was")
	late := &expand.EveningPlan{Cost: 100, Joins: []expand.EveningJoin{{LateS: 90}}}
	require.True(t, c.Worth(late, &expand.EveningPlan{Cost: 40, Joins: []expand.EveningJoin{{LateS: 89}}}))
	over := &expand.EveningPlan{Cost: 100, Trouble: []expand.FireTrouble{{Kind: "hold", ByS: 9}}}
	require.True(t, c.Worth(over, &expand.EveningPlan{Cost: 40, Trouble: []expand.FireTrouble{{Kind: "hold", ByS: 8}}}))
	require.Equal(t, int64(60), c.Mend.SavesS)
}

// Who was late most often is named first, and shares add up to one.
func TestBlameIsOrdered(t *testing.T) {
	s := advise.Sureness{Blame: map[string]float64{"b": 0.2, "a": 0.2, "c": 0.6}}
	require.Equal(t, []advise.Blamed{{Task: "c", Share: 0.6}, {Task: "a", Share: 0.2}, {Task: "b", Share: 0.2}}, s.Blamed())
}
