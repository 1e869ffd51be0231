package heat

import "math"

// FanLess is how much less a fan oven is set to than a still one, °C: common practice, no source.
const FanLess = 20.0

// FromF is a temperature of Fahrenheit's in °C.
func FromF(f float64) float64 { return (f - 32) / 1.8 }

// ToF is a temperature in °F.
func ToF(c float64) float64 { return c*1.8 + 32 }

// gas marks and their temperatures in a still oven, °C: common practice, no source.
var gas = map[float64]float64{0.25: 110, 0.5: 120, 1: 140, 2: 150, 3: 160, 4: 180, 5: 190, 6: 200, 7: 220, 8: 230, 9: 240, 10: 260}

// FromGas is a gas mark in °C; between two marks what lies between. ok is false for one that no cooker has.
func FromGas(mark float64) (c float64, ok bool) {
	if c, ok := gas[mark]; ok {
		return c, true
	}
	low, high := math.Floor(mark), math.Ceil(mark)
	a, okA := gas[low]
	b, okB := gas[high]
	if !okA || !okB {
		return 0, false
	}
	return a + (b-a)*(mark-low), true
}

// ToGas is the gas mark nearest to a temperature in a still oven; ok is false where none is within ten degrees.
func ToGas(c float64) (mark float64, ok bool) {
	best := 10.5
	for m, at := range gas {
		if d := math.Abs(at - c); d < best || d == best && m < mark {
			best, mark = d, m
		}
	}
	return mark, best <= 10
}

// Named are ovens by name, °C in a still oven: common practice, no source.
var Named = map[string]Range{"very low": {100, 110, 130}, "low": {130, 140, 150}, "moderate": {160, 175, 190}, "hot": {200, 215, 230},
	"very hot": {230, 240, 260}}
