package advise_test

import (
	"math"
	"testing"

	"github.com/stretchr/testify/require"

	"jointime/core/advise"
	"jointime/core/workload"
)

func at(v int64) *int64 { return &v }

// chain is n tasks one after another on one cook, each planned for its mean.
func chain(n int, mean, lead int64) (*workload.Workload, *workload.Schedule) {
	w := &workload.Workload{Resources: []workload.Resource{{ID: "cook", Capacity: 4}},
		Joins: []workload.Join{{ID: "j", At: at(int64(n)*mean + lead)}}}
	s := &workload.Schedule{Joins: []workload.Instant{{ID: "j", At: int64(n)*mean + lead}}}
	for i := range n {
		id := string(rune('a' + i))
		w.Tasks = append(w.Tasks, workload.Task{ID: id, Seconds: mean, Needs: []workload.Need{{AnyOf: []string{"cook"}, Units: 4}}})
		to := "j"
		if i+1 < n {
			to = string(rune('a' + i + 1))
		}
		w.Links = append(w.Links, workload.Link{From: id, To: to, Kind: workload.FinishStart, Weight: 1})
		// Told to start as soon as it can: only the chain holds it.
		s.Tasks = append(s.Tasks, workload.Run{ID: id, Start: int64(i), Finish: int64(i) + 1, Resources: []string{"cook"}})
	}
	return w, s
}

func phi(z float64) float64 { return 0.5 * math.Erfc(-z/math.Sqrt2) }

// A single chain of normal times: the finish is normal with the sums of the means and of
// the variances, so the chance of being on time with a lead is Φ(lead/σ√n). The times are
// cut off at three deviations, which changes the figures by less than the tolerance of
// 0.02 (20,000 evenings: a standard error of 0.0035).
func TestChainOfNormalTimes(t *testing.T) {
	spread := advise.Spread{Low: 300, Likely: 600, High: 900}
	require.Equal(t, 600.0, spread.Mean())
	require.Equal(t, 100.0, spread.Deviation())
	for _, lead := range []int64{-200, 0, 100, 300} {
		w, s := chain(4, 600, lead)
		got := advise.Sure(w, s, func(string) advise.Spread { return spread }, nil, 0, 20_000, 1)["j"]
		require.InDelta(t, phi(float64(lead)/(100*math.Sqrt(4))), got.OnTime, 0.02, lead)
		require.InDelta(t, -float64(lead), got.MeanS, 6, "the usual lateness is that of the means")
	}
}

// The newsvendor rule: with a cost e of a minute early and l of a minute late the best lead
// time is the l/(e+l) quantile of the duration. The lead with the least cost over the drawn
// evenings is compared with the normal quantile; tolerance 15 s of a deviation of 100 s.
func TestNewsvendorRule(t *testing.T) {
	spread := advise.Spread{Low: 300, Likely: 600, High: 900}
	const early, late = 1.0, 4.0 // the critical ratio is 0.8: z = 0.8416
	chance := func(lead int64) float64 {
		w, s := chain(1, 600, lead)
		return advise.Sure(w, s, func(string) advise.Spread { return spread }, nil, 0, 20_000, 7)["j"].OnTime
	}
	// The cost falls while the chance of being on time is under the critical ratio.
	best := int64(0)
	for chance(best) < late/(early+late) {
		best++
	}
	require.InDelta(t, 0.8416*100, float64(best), 15)
}

func TestTheSameSeedGivesTheSameFigures(t *testing.T) {
	w, s := chain(3, 600, 50)
	spread := func(string) advise.Spread { return advise.Spread{Low: 400, Likely: 550, High: 1000} }
	require.Equal(t, advise.Sure(w, s, spread, nil, 60, 300, 5), advise.Sure(w, s, spread, nil, 60, 300, 5))
	require.NotEqual(t, advise.Sure(w, s, spread, nil, 60, 300, 5), advise.Sure(w, s, spread, nil, 60, 300, 6))
}

// A hold that the plan fills to the last second is kept about every second time.
func TestHoldsAndBlame(t *testing.T) {
	w := &workload.Workload{Resources: []workload.Resource{{ID: "cook", Capacity: 4}}, Joins: []workload.Join{{ID: "j", At: at(1000)}},
		Tasks: []workload.Task{{ID: "roast", Seconds: 600}, {ID: "plate", Seconds: 100}},
		Links: []workload.Link{{From: "roast", To: "plate", Kind: workload.FinishStart, Max: at(300), Weight: 1},
			{From: "plate", To: "j", Kind: workload.FinishStart, Weight: 1}}}
	s := &workload.Schedule{Tasks: []workload.Run{{ID: "roast", Start: 0, Finish: 600}, {ID: "plate", Start: 900, Finish: 1000}},
		Joins: []workload.Instant{{ID: "j", At: 1000}}}
	spread := func(id string) advise.Spread {
		if id == "roast" {
			return advise.Spread{Low: 300, Likely: 600, High: 900}
		}
		return advise.Spread{Low: 100, Likely: 100, High: 100}
	}
	got := advise.Sure(w, s, spread, nil, 0, 4000, 1)["j"]
	require.InDelta(t, 0.5, got.Holds, 0.04)
	require.Equal(t, 1.0, got.OnTime, "three deviations of slack")
	s.Tasks[1].Start, s.Tasks[1].Finish, s.Joins[0].At = 600, 700, 700
	w.Joins[0].At = at(700)
	got = advise.Sure(w, s, spread, nil, 0, 4000, 1)["j"]
	require.InDelta(t, 0.5, got.OnTime, 0.04)
	require.InDelta(t, 1, got.Blame["roast"], 1e-9)
}

// What the plan sends 34 min late is late, however surely it keeps to that; what it sends within the grace is not.
func TestOnTimeIsWhatTheGuestExpects(t *testing.T) {
	for late, on := range map[int64]float64{34 * 60: 0, 61: 0, 60: 1, 0: 1, -600: 1} {
		w, s := chain(1, 600, 0)
		w.Joins[0].At = at(600 - late)
		sure := func(string) advise.Spread { return advise.Spread{Low: 600, Likely: 600, High: 600} }
		require.InDelta(t, on, advise.Sure(w, s, sure, nil, 60, 10, 1)["j"].OnTime, 1e-9, "%d s", late)
	}
}
