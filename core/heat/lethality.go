package heat

import "math"

// Kill is how a code weighs temperatures: as long at RefC as a history is worth, each Z degrees ten times faster.
type Kill struct {
	RefC    float64
	Z       float64
	Seconds float64 // that the code asks for at RefC
	FromC   float64 // below, nothing counts
}

// The codes' own. UK: 70 °C for 2 min with z = 7.5 °C, from 60 °C on (FSA; ACMSF, 2007). USA: whole roasts, 54.4 °C for 112 min, with the z
// that fits the Food Code's table (3-401.11(B)), from 54.4 °C on. From memory.
var (
	KillUK  = Kill{RefC: 70, Z: 7.5, Seconds: 120, FromC: 60}
	KillFDA = Kill{RefC: 54.4, Z: 5.8, Seconds: 112 * 60, FromC: 54.4}
)

// Reading is a core temperature at a time in seconds.
type Reading struct{ S, C float64 }

// Worth is how many seconds at RefC a history of the core is worth: the integral of 10^((T − Tref)/z) over its readings, straight between
// them, with nothing below FromC.
func (k Kill) Worth(history []Reading) float64 {
	sum := 0.0
	for i := 1; i < len(history); i++ {
		a, b := history[i-1], history[i]
		n := max(1, int(math.Ceil(math.Abs(b.C-a.C)/0.25)))
		for j := range n {
			c := a.C + (b.C-a.C)*(float64(j)+0.5)/float64(n)
			if c >= k.FromC {
				sum += (b.S - a.S) / float64(n) * math.Pow(10, (c-k.RefC)/k.Z)
			}
		}
	}
	return sum
}

// Holds is how long at a temperature is worth what the code asks for, in seconds; infinite below FromC.
func (k Kill) Holds(c float64) float64 {
	if c < k.FromC {
		return math.Inf(1)
	}
	return k.Seconds * math.Pow(10, (k.RefC-c)/k.Z)
}

// Enough is when a history is worth what the code asks for, in seconds of its own clock; ok is false when it is not yet.
func (k Kill) Enough(history []Reading) (s float64, ok bool) {
	sum := 0.0
	for i := 1; i < len(history); i++ {
		part := k.Worth(history[i-1 : i+1])
		if sum+part >= k.Seconds && part > 0 {
			return history[i-1].S + (history[i].S-history[i-1].S)*(k.Seconds-sum)/part, true
		}
		sum += part
	}
	return 0, false
}
