package expand_test

import (
	"testing"

	"github.com/stretchr/testify/require"

	"jointime/core/expand"
)

// Both sides of every limit.
func TestHowAJoinStands(t *testing.T) {
	for name, x := range map[string]struct {
		late, over int64
		chance     float64
		stands     expand.Standing
		isLate     bool
	}{
		"in time":                {0, 0, 1, expand.InTime, false},
		"a minute is in time":    {60, 0, 1, expand.InTime, false},
		"a second more is late":  {61, 0, 1, expand.Late, true},
		"early":                  {-300, 0, 1, expand.InTime, false},
		"a hold by five seconds": {0, 5, 1, expand.InTime, false},
		"a hold by six":          {0, 6, 1, expand.Late, false},
		"sure enough":            {0, 0, 0.75, expand.InTime, false},
		"not sure enough":        {0, 0, 0.7499, expand.Doubtful, false},
		"late is worse":          {61, 0, 0.1, expand.Late, true},
		"not worked out yet":     {0, 0, -1, expand.InTime, false},
	} {
		j := expand.EveningJoin{LateS: x.late, OverS: x.over, Chance: x.chance}
		require.Equal(t, x.stands, j.Stand(), name)
		require.Equal(t, x.isLate, j.Late(), name)
	}
	p := expand.EveningPlan{Joins: []expand.EveningJoin{{Table: "b", Chance: 0.9}, {Table: "a", Chance: 0.75}, {Table: "b", Chance: 0.74}}}
	p.Stand()
	require.Equal(t, []expand.TableStanding{{Table: "b", Chance: 0.74, Doubtful: true}, {Table: "a", Chance: 0.75}}, p.Tables)
	require.Equal(t, expand.Doubtful, p.Joins[2].Standing)
}

// What makes a longest wait dear is written beside the workload: another link with the same
// price is not taken for it.
func TestAHoldIsKnownByItsReference(t *testing.T) {
	cs, es := pans()
	e, _, _ := evening(t, served(cs, es, table("a", 2, 1140)), true)
	holds := 0
	for i := range e.Workload.Links {
		l := e.Workload.Links[i]
		longest := e.Hold(&l)
		if longest < 0 {
			continue
		}
		holds++
		require.Equal(t, "a/main/fish/sear", l.From)
		other := l
		other.To = "elsewhere"
		require.Equal(t, int64(-1), e.Hold(&other), "the same weight between others is no hold")
		sooner := *l.Best - 1
		other = l
		other.Best = &sooner
		require.Equal(t, int64(-1), e.Hold(&other))
	}
	require.Equal(t, 1, holds)
	hard, _, _ := evening(t, served(cs, es, table("a", 2, 1140)), false)
	for i := range hard.Workload.Links {
		require.Equal(t, int64(-1), hard.Hold(&hard.Workload.Links[i]), "a hard rule is not a dear one")
	}
}
