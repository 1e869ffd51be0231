package expand_test

import (
	"context"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"jointime/core/expand"
	"jointime/core/kitchen"
	"jointime/core/schedule"
	"jointime/core/verify"
)

// twoServices is an evening of one table and a banquet of two, all of which want the one shelf of the oven for ten minutes.
func twoServices(seated int) kitchen.Data {
	roast := kitchen.Component{ID: "roast", Hold: kitchen.Wait{Longest: seconds(1200)},
		Steps: []kitchen.Step{inOven(pick("roast", kitchen.None, 600), 180)}}
	d := served([]kitchen.Component{roast}, []kitchen.Element{{Component: "roast", Seconds: 10}}, table("a", 1, 19*60))
	d.Equipment[0].Capacity = 1
	banquet := d.Services[0]
	banquet.ID, banquet.Name, banquet.Kind, banquet.PlatingHands = "banquet", "Banquet", kitchen.Banquet, 1
	banquet.Tables = []kitchen.ServiceTable{table("a", 2, seated)}
	banquet.Tables[0].Name = "Hall"
	d.Services = append(d.Services, banquet)
	return d
}

// Two services that are cooked at the same time are one workload, the same whichever is asked for; each reads its own joins and
// firings, and the oven is booked once. A day apart they have nothing to do with each other.
func TestServicesThatOverlapAreOneWorkload(t *testing.T) {
	b, err := kitchen.NewBook(twoServices(19*60 + 5))
	require.NoError(t, err)
	var prints []string
	for i := range b.Services() {
		s := &b.Services()[i]
		beside := b.Beside(s)
		require.Len(t, beside, 1)
		e, err := expand.NewEvening(b, s, true, beside...)
		require.NoError(t, err)
		print, err := e.Workload.Fingerprint()
		require.NoError(t, err)
		prints = append(prints, print)
		a := schedule.Solve(context.Background(), e.Workload, schedule.Options{Seed: 1, Rounds: 3000, Anyway: true})
		broken, err := verify.Check(e.Workload, a)
		require.NoError(t, err)
		require.Empty(t, broken)
		p := e.Read(a)
		require.Len(t, p.Joins, 1)
		require.Len(t, p.Fires, 1)
		require.Equal(t, []string{"S", "Banquet"}[i], p.Name)
		require.Equal(t, []string{"A", "Hall"}[i], p.Joins[0].Name)
		for _, l := range p.Loads {
			require.LessOrEqual(t, l.Peak, l.Capacity, l.Name)
		}
		// Its part alone is what prep hears of it.
		require.Len(t, e.Told(a).Fired, 1)
		for _, x := range p.Trouble { // who keeps it is named with its service
			if x.Cause != nil {
				require.True(t, strings.Contains(x.Why.Text, "of Banquet") || strings.Contains(x.Why.Text, "of S"), x.Why.Text)
			}
		}
	}
	require.Equal(t, prints[0], prints[1])
	apart, err := kitchen.NewBook(twoServices(27 * 60))
	require.NoError(t, err)
	require.Empty(t, apart.Beside(&apart.Services()[0]))
}

// Both sides of when services overlap: the second is cooked from two and a half hours before its guests, and the first goes on
// for two after its last.
func TestWhenServicesOverlap(t *testing.T) {
	for seated, want := range map[int]bool{19*60 + 269: true, 19*60 + 270: false, 19*60 - 269: true, 19*60 - 270: false} {
		b, err := kitchen.NewBook(twoServices(seated))
		require.NoError(t, err)
		require.Equal(t, want, len(b.Beside(&b.Services()[0])) == 1, seated)
	}
}
