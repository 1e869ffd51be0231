package schedule

import (
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/require"

	"jointime/core/workload"
)

// someOvens are some alike, of so many places and at so many temperatures, over so many slots.
func someOvens(setpoints []setpoint, many, places float64, slots int) (*ovens, *goods) {
	g := &goods{slots: slots}
	o := &ovens{thermostat: &workload.Thermostat{StartC: 100, HeatCPerMin: 20, CoolCPerMin: 10}, many: many, setpoints: setpoints}
	for range slots {
		o.room = append(o.room, places)
	}
	for k := range setpoints {
		o.goods = append(o.goods, int32(k))
		g.price, g.used = append(g.price, make([]float64, slots)), append(g.used, make([]float64, slots))
	}
	o.prepare(g)
	return o, g
}

// By hand: an oven of two places that begins at 100 °C gives 100 °C at once and 200 °C after 300 s, that is 12 s into the tenth slot; back
// it takes 600 s. Between two slots of worth it gives what the time between leaves of them.
func TestAnOvenByHand(t *testing.T) {
	o, g := someOvens([]setpoint{{100, 100}, {200, 200}}, 1, 2, 40)
	g.price[0][3] = 5
	require.InDelta(t, 2*32*5.0, o.worth(g), 1e-9)
	require.InDelta(t, -64, g.used[0][3], 1e-9, "it gives two places for all of the slot")
	g.price[0][3] = 0
	g.price[1][9] = 5
	require.InDelta(t, 2*20*5.0, o.worth(g), 1e-9, "the last 20 s of it")
	g.price[1][9], g.price[1][10] = 0, 5
	require.InDelta(t, 2*32*5.0, o.worth(g), 1e-9)
	// From the first slot at 100 °C to the eleventh at 200 °C: of their 352 s 300 are on the way, and the dearer is given all that it can be.
	g.price[0][0], g.price[1][10] = 5, 6
	clear(g.used[0])
	require.InDelta(t, 2*(32*6.0+20*5), o.worth(g), 1e-9)
	require.InDelta(t, -40, g.used[0][0], 1e-9)
	g.price[1][10] = 1
	clear(g.used[0])
	require.InDelta(t, 2*(20*1.0+32*5), o.worth(g), 1e-9)
	require.InDelta(t, -64, g.used[0][0], 1e-9)
	// Two of them give twice as much.
	two, h := someOvens([]setpoint{{100, 100}, {200, 200}}, 2, 2, 40)
	h.price[1][10] = 5
	require.InDelta(t, 2*2*32*5.0, two.worth(h), 1e-9)
	require.InDelta(t, -128, h.used[1][10], 1e-9)
}

// Temperatures that can stand together are given together, but no more places than there are.
func TestAnOvenAtAWideTemperature(t *testing.T) {
	o, g := someOvens([]setpoint{{100, 100}, {90, 210}, {200, 200}}, 1, 3, 40)
	g.price[0][2], g.price[1][2] = 5, 7
	require.InDelta(t, 3*32*7.0, o.worth(g), 1e-9)
	g.price[1][3], g.price[2][3] = 1, 9
	require.InDelta(t, 3*32*(7+9.0), o.worth(g), 1e-9, "what can stand with the wide one counts as being there with it")
}

// What an oven is said to be worth is no less than what any oven in fact gives: runs one after another with the time that lies between
// their temperatures, drawn by the second; and it is what it is said to give.
func TestAnOvenIsWorthWhatItCanGive(t *testing.T) {
	r := rand.New(rand.NewPCG(4, 4))
	for range 400 {
		var setpoints []setpoint
		for range 1 + r.IntN(4) {
			low := float64(80 + 10*r.IntN(15))
			setpoints = append(setpoints, setpoint{low, low + float64(r.IntN(2)*r.IntN(80))})
		}
		const slots = 60
		o, g := someOvens(setpoints, 1, 1, slots)
		for k := range setpoints {
			for i := range slots {
				if r.IntN(3) == 0 {
					g.price[k][i] = float64(r.IntN(10))
				}
			}
		}
		worth := o.worth(g)
		given := 0.0
		for k := range setpoints {
			for i := range slots {
				given -= g.used[k][i] * g.price[k][i]
			}
		}
		require.InDelta(t, worth, given, 1e-6)
		for range 60 {
			sum, at, last := 0.0, int64(0), -1
			for {
				k := r.IntN(len(setpoints))
				gap := changeover(o.thermostat, standby(o.thermostat), setpoints[k])
				if last >= 0 {
					gap = 0
					if differ(o.thermostat, setpoints[last], setpoints[k]) {
						gap = changeover(o.thermostat, setpoints[last], setpoints[k])
					}
				}
				if last < 0 || r.IntN(2) > 0 {
					gap += r.Int64N(100) * r.Int64N(2)
				}
				from := at + gap
				if last < 0 {
					from = gap
				}
				to := from + 1 + r.Int64N(200)
				if to > slots*slotLength {
					break
				}
				for x := from; x < to; x++ {
					sum += g.price[k][x/slotLength]
				}
				at, last = to, k
			}
			require.LessOrEqual(t, sum, worth+1e-6)
		}
	}
}
