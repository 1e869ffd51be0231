package schedule

import (
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/require"

	"jointime/core/workload"
)

// What is asked for stays in order while it comes and goes, and what may go on after an instant is all that does.
func TestHeatsInOrder(t *testing.T) {
	r := rand.New(rand.NewPCG(7, 7))
	var h heats
	there := map[int32]heat{}
	for i := range int32(4000) {
		if len(there) > 0 && r.IntN(3) == 0 {
			for v, e := range there {
				h.remove(e.start+1, v) // none of its own began then
				h.remove(e.start, v)
				delete(there, v)
				break
			}
		} else if e := (heat{start: r.Int64N(500), node: i}); true {
			e.finish = e.start + 1 + r.Int64N(80)
			h.add(e)
			there[i] = e
		}
		require.Len(t, h.list, len(there))
		at := r.Int64N(600)
		later := map[int32]bool{}
		for k, e := range h.list { // thousands of times: asked of testify it would take a quarter of a minute
			if there[e.node] != e || k > 0 && h.list[k-1].start > e.start {
				require.Fail(t, "out of order", "%v", h.list)
			}
			later[e.node] = e.finish > at
		}
		for _, e := range h.from(at) {
			delete(later, e.node)
		}
		for v, left := range later {
			if left {
				require.Fail(t, "left out", v)
			}
		}
	}
	require.Less(t, len(h.from(560)), len(h.list)/3, "what is long over is not looked at")
}

// A run clashes with the first that it has no changeover to, of however many that are over, to the second.
func TestBlockedAmongMany(t *testing.T) {
	th := &workload.Thermostat{StartC: 180, HeatCPerMin: 60, CoolCPerMin: 30, ToleranceC: 5}
	hot := &resource{capacity: 9, thermostat: th, slowest: 80}
	var h heats
	for k := range int64(50) { // each is over by 25 s after it began, but for the first, which takes 900
		h.add(heat{1000 + 20*k, 1025 + 20*k, setpoint{180, 180}, int32(k)})
	}
	h.add(heat{1000, 1900, setpoint{220, 220}, 77})
	for _, c := range []struct {
		at    int64
		clash bool
	}{{1900 + 80 - 1, true}, {1900 + 80, false}, {1000 - 40 - 30, false}, {1000 - 40 - 30 + 1, true}} {
		clash, after, before := hot.blocked(&h, c.at, 30, setpoint{180, 180})
		require.Equal(t, c.clash, clash, c.at)
		if clash {
			require.Equal(t, int64(1980), after)
			require.Equal(t, int64(930), before)
		}
	}
}
