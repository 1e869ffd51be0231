package expand

import (
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"jointime/core/kitchen"
	"jointime/core/workload"
)

func w(from, to int64) workload.Window { return workload.Window{From: from, To: to, Capacity: 1} }

// Busy times are cut out of windows; what only touches takes nothing away.
func TestWindowsWithoutBusyTimes(t *testing.T) {
	hours := []workload.Window{w(0, 100), w(200, 300)}
	for _, c := range []struct{ busy, want []workload.Window }{
		{nil, hours},
		{[]workload.Window{w(100, 200)}, hours},
		{[]workload.Window{w(300, 400)}, hours},
		{[]workload.Window{w(-10, 0)}, hours},
		{[]workload.Window{w(20, 30)}, []workload.Window{w(0, 20), w(30, 100), w(200, 300)}},
		{[]workload.Window{w(20, 30), w(40, 250)}, []workload.Window{w(0, 20), w(30, 40), w(250, 300)}},
		{[]workload.Window{w(0, 100)}, []workload.Window{w(200, 300)}},
		{[]workload.Window{w(-5, 500)}, []workload.Window{}},
		{[]workload.Window{w(99, 100), w(200, 201)}, []workload.Window{w(0, 99), w(201, 300)}},
	} {
		require.Equal(t, c.want, without(hours, c.busy), "%v", c.busy)
	}
}

// By hand. Copenhagen, from Thursday 14 May 2026, 12:00 on: hours of Thursday, of the night into Friday, and of a day off.
func TestHoursAsWindows(t *testing.T) {
	k := kitchen.Kitchen{TimeZone: "Europe/Copenhagen"}
	origin := time.Date(2026, 5, 14, 12, 0, 0, 0, k.Zone())
	p := kitchen.Person{Hours: []kitchen.Hours{{Day: 4, From: 600, To: 900}, {Day: 4, From: 1020, To: 1560}, {Day: 5, From: 600, To: 660}}}
	const h = 3600
	require.Equal(t, []workload.Window{w(-2*h, 3*h), w(5*h, 14*h), w(22*h, 23*h)}, windows(k, &p, origin, 24*h))
	p.Absent = []string{"2026-05-15"}
	require.Equal(t, []workload.Window{w(-2*h, 3*h), w(5*h, 14*h)}, windows(k, &p, origin, 24*h), "the night belongs to Thursday")
	p.Absent = []string{"2026-05-14"}
	require.Equal(t, []workload.Window{w(22*h, 23*h)}, windows(k, &p, origin, 24*h))
	p.Absent, p.Hours = nil, []kitchen.Hours{{Day: 4, From: 600, To: 900}, {Day: 4, From: 900, To: 1020}}
	require.Equal(t, []workload.Window{w(-2*h, 5*h)}, windows(k, &p, origin, 24*h), "hours that run into each other are one")
}

func TestRosterTellsHandsFromThings(t *testing.T) {
	d := kitchen.Starter("K", "UTC", kitchen.CodeUKEU)
	d.People[0].ID, d.Equipment[0].ID = "same", "same"
	b, err := kitchen.NewBook(d)
	require.NoError(t, err)
	r := roster(b)
	require.Len(t, r, 3*len(d.People)+len(d.Equipment))
	for _, part := range parts {
		name := part.names([]string{"same"})[0]
		require.Equal(t, ResourceRef{kitchen.PersonRecord, "same", part}, r[name])
		require.True(t, r[name].IsPerson())
	}
	require.False(t, r[piece("same").name()].IsPerson())
	require.False(t, r["nobody"].IsPerson())
	for _, x := range resources(b, time.Now(), 10) {
		require.Contains(t, r, x.ID, "every resource of a workload is known")
	}
}

// What is said of several batches of a component is said once, with how many more there are; another kind of trouble
// is said by itself.
func TestTroubleOfOneComponentIsSaidOnce(t *testing.T) {
	p := prepOfBatches("leek/s/1 leek", "leek/s/2 leek", "leek/s/3 leek", "beet/s/1 beet")
	of := func(job, kind string) PrepTrouble { return PrepTrouble{Job: job, Kind: kind} }
	said := func(list ...PrepTrouble) (out []string) {
		for _, x := range p.merged(list) {
			out = append(out, x.Job+" "+x.Kind+" "+x.Said.Text)
		}
		return out
	}
	require.Equal(t, []string{"leek/s/1 tight The same for 1 more batch.", "beet/s/1 tight "},
		said(of("leek/s/1", "tight"), of("leek/s/2", "tight"), of("beet/s/1", "tight")))
	require.Equal(t, []string{"leek/s/1 tight The same for 2 more batches."},
		said(of("leek/s/1", "tight"), of("leek/s/2", "tight"), of("leek/s/3", "tight")))
	require.Equal(t, []string{"leek/s/1 tight ", "leek/s/2 forgotten "}, said(of("leek/s/1", "tight"), of("leek/s/2", "forgotten")))
	require.Equal(t, []string{"leek/s/1 tight "}, said(of("leek/s/1", "tight"), of("leek/s/1", "tight")), "the same batch is not one more")
}
