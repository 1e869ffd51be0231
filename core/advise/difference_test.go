package advise

import (
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"jointime/core/expand"
	"jointime/core/workload"
)

var at = time.Date(2026, 5, 14, 19, 42, 0, 0, time.UTC)

func plan(late int, fires map[string]int) *expand.Plan {
	join := at.Add(time.Duration(late) * time.Second)
	p := &expand.Plan{Status: workload.Feasible, JoinAt: join}
	for _, name := range []string{"Fish", "Sauce", "Oil"} {
		s, fired := fires[name]
		x := expand.Strand{Component: name, Name: name, Fired: fired}
		if fired {
			f := at.Add(time.Duration(s) * time.Second)
			x.FireAt = &f
		}
		p.Strands = append(p.Strands, x)
	}
	return p
}

func TestDifferenceInWords(t *testing.T) {
	before := plan(0, map[string]int{"Fish": -600, "Sauce": -300})
	for want, after := range map[string]*expand.Plan{
		"Join unchanged. Nothing fires at another time.":                              plan(0, map[string]int{"Fish": -600, "Sauce": -300}),
		"Join unchanged. Fish fires 2 min earlier.":                                   plan(0, map[string]int{"Fish": -720, "Sauce": -300}),
		"Join moves 1:30 min later. Fish fires 45 s later. Sauce fires 1 h later.":    plan(90, map[string]int{"Fish": -555, "Sauce": 3300}),
		"Join moves 20 s earlier. Sauce is now made ahead. Oil is now made to order.": plan(-20, map[string]int{"Fish": -600, "Oil": -50}),
	} {
		require.Equal(t, want, Difference(before, after).Text)
	}
	broken := plan(0, map[string]int{"Fish": -600, "Sauce": -300})
	broken.Broken = []workload.Broken{{Rule: workload.RuleMax}}
	require.Equal(t, "Join unchanged. Not every rule can be kept now.", Difference(before, broken).Text)
	require.Equal(t, "Join unchanged. Every rule is kept again.", Difference(broken, before).Text)
	// A wait that is weighed, and not forbidden, is a rule too: at its longest it is kept, a second longer it is not.
	held := plan(0, map[string]int{"Fish": -600, "Sauce": -300})
	most := 600
	held.Strands[0].Waits = []expand.WaitBar{{FromS: 0, ToS: 600, Longest: &most}}
	require.Equal(t, "Join unchanged. Nothing fires at another time.", Difference(before, held).Text)
	held.Strands[0].Waits[0].ToS = 601
	require.Equal(t, "Join unchanged. Not every rule can be kept now.", Difference(before, held).Text)
	require.Equal(t, "Join unchanged. Every rule is kept again.", Difference(held, before).Text)
	gone := plan(0, map[string]int{"Fish": -600, "Sauce": -300})
	gone.Strands = gone.Strands[:2]
	require.Equal(t, "Join unchanged. Oil is gone.", Difference(before, gone).Text)
	require.Contains(t, Difference(before, &expand.Plan{Status: workload.Impossible}).Text, "cannot be done")
}
