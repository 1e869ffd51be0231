package schedule

import (
	"context"
	"testing"

	"github.com/stretchr/testify/require"

	"jointime/core/workload"
)

// An oven of one shelf: a rest of 30 to 60 min in it, which ends with the plate, and a tray that stands in it for a while.
func resting(trayFrom int64) *workload.Workload {
	longest, zero := int64(3600), int64(0)
	at := int64(10_000)
	oven := func() []workload.Need { return []workload.Need{{AnyOf: []string{"oven"}, Units: 1}} }
	return &workload.Workload{Objective: workload.Joins, Horizon: 20_000, Resources: []workload.Resource{{ID: "oven", Capacity: 1},
		{ID: "pan", Capacity: 1}},
		Tasks: []workload.Task{{ID: "rest", Seconds: 1800, Longest: &longest, Needs: oven()},
			{ID: "sear", Seconds: 600, Needs: []workload.Need{{AnyOf: []string{"pan"}, Units: 1}}},
			{ID: "tray", Seconds: 100, Earliest: trayFrom, Latest: ptrOf(trayFrom + 100), Needs: oven()},
			{ID: "other", Seconds: 3000, Earliest: 5000, Latest: ptrOf(8000), Needs: []workload.Need{{AnyOf: []string{"pan"}, Units: 1}}}},
		Links: []workload.Link{{From: "sear", To: "rest", Kind: workload.FinishStart, Max: &zero, Weight: 1},
			{From: "rest", To: "plate", Kind: workload.FinishStart, Max: &zero, Weight: 1},
			{From: "rest", To: "rest", Kind: workload.StartFinish, Best: ptrOf(1800), Weight: 1}},
		Joins: []workload.Join{{ID: "plate", At: &at, Weight: 10, EarlyWeight: 10}}}
}

func ptrOf(v int64) *int64 { return &v }

// By hand. The pan is taken from 5000 to 8000, so meat is seared by 5000 or from 8000 on. From 8000: off at 8600, and at 10,000
// it has been in the oven for 1400 s, which is too short: the plate is 400 s late, at 10,400, for 4000. Seared by 5000 it would
// be in the oven for 5000 s, too long: at 8600 at the latest, 1400 s early, for 14,000 and 1800. So it is late.
func TestALengthIsChosen(t *testing.T) {
	s := Solve(context.Background(), resting(0), Options{})
	require.Equal(t, workload.Optimal, s.Status)
	require.EqualValues(t, 4000, *s.Cost)
	require.EqualValues(t, 8600, start(s, "rest"))
	// An hour and a quarter may be: seared by 5400? The pan is free until 6000 and taken to 9000: seared by 6000, in the oven for
	// 4000 s, of which 2200 cost.
	w := resting(0)
	w.Tasks[0].Longest = ptrOf(4500)
	w.Tasks[3].Earliest, *w.Tasks[3].Latest = 6000, 9000
	s = Solve(context.Background(), w, Options{})
	require.Equal(t, workload.Optimal, s.Status)
	require.EqualValues(t, 2200, *s.Cost)
	require.EqualValues(t, 6000, start(s, "rest"))
}

// What a run needs is held to its end: a tray that is in the oven at 9000 keeps a rest from lasting over it.
func TestWhatALongRunNeedsIsHeldToItsEnd(t *testing.T) {
	p := compile(resting(9000))
	require.Nil(t, p.propagate())
	s := newState(p)
	s.on[0][0] = 0
	for _, v := range p.body[p.lead[1]] {
		s.put(int(v), 6000+p.off[v])
	}
	rest, end := 0, int(p.stop[0])
	require.True(t, s.placed[rest] && !s.placed[end])
	s.on[2][0] = 0
	s.put(2, 9000)
	s.refresh([]int32{p.lead[end]})
	at, ok := s.room(int(p.lead[end]), 12_000, 6000, backward)
	require.True(t, ok)
	require.EqualValues(t, 9000, at+p.off[end], "until the tray goes in, and not over it")
	_, ok = s.room(int(p.lead[end]), 9001, 12_000, forward)
	require.False(t, ok)
	// The other way round: the end is known, and the run cannot begin before the tray is out.
	s = newState(p)
	s.on[2][0] = 0
	s.put(2, 9000)
	s.place(int(p.lead[end]), 12_000-p.off[end])
	s.refresh([]int32{0, 1})
	at, ok = s.room(int(p.lead[0]), 0, 11_000, forward)
	require.True(t, ok)
	require.EqualValues(t, 9100, at+p.off[0])
}

// Setpoints that are ranges are as far apart as the ranges are: from 100° to 60–80° it cools by 20.
func TestRangesOfSetpoints(t *testing.T) {
	th := &workload.Thermostat{StartC: 20, HeatCPerMin: 60, CoolCPerMin: 30, ToleranceC: 5}
	require.EqualValues(t, 40, changeover(th, setpoint{100, 100}, setpoint{60, 80}))
	require.EqualValues(t, 20, changeover(th, setpoint{60, 80}, setpoint{100, 120}))
	require.EqualValues(t, 0, changeover(th, setpoint{60, 80}, setpoint{80, 120}))
	require.EqualValues(t, 0, changeover(th, setpoint{60, 80}, setpoint{85, 120}))
	require.True(t, differ(th, setpoint{60, 80}, setpoint{86, 120}))
	require.False(t, differ(th, setpoint{60, 80}, setpoint{85, 120}))
}
