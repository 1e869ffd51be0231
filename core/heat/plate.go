package heat

import "math"

// Served is a food on a plate at the pass: two bodies and the air.
type Served struct {
	Grams   float64
	AreaM2  float64 // of its surface to the air
	TouchM2 float64 // on the plate
	FoodC   float64
	PlateG  float64 // of the plate that it shares: that under it and around
	PlateC  float64
	AirC    float64
	Covered bool
	LampW   float64 // W/m² from lamps above; 0 without
}

// Heat capacities, J/kg K, and coefficients, W/m² K, from memory: food that is mostly water, porcelain; contact through a film of sauce.
const (
	foodJ    = 3600.0
	plateJ   = 850.0
	contactH = 80.0
	openH    = 14.0 // still air, radiation and some drying of a wet surface
	coverH   = 6.0
	plateH   = 9.0
	kgPerM2  = 12.0 // of a plate, both its faces in the air
)

// Cools is when the food is below a temperature, in seconds; longest when not within three hours.
func (s *Served) Cools(belowC float64) float64 {
	const dt, longest = 0.5, 3 * 3600.0
	food, plate := s.FoodC, s.PlateC
	for t := 0.0; t < longest; t += dt {
		if food < belowC {
			return t
		}
		food, plate = s.next(food, plate, dt)
	}
	return longest
}

// next goes on by dt seconds (midpoint rule).
func (s *Served) next(food, plate, dt float64) (float64, float64) {
	a, b := s.slopes(food, plate)
	a, b = s.slopes(food+a*dt/2, plate+b*dt/2)
	return food + a*dt, plate + b*dt
}

func (s *Served) slopes(food, plate float64) (dFood, dPlate float64) {
	h := openH
	if s.Covered {
		h = coverH
	}
	toAir := h*s.AreaM2*(food-s.AirC) - s.LampW*s.AreaM2*0.9
	toPlate := contactH * s.TouchM2 * (food - plate)
	plateAir := plateH * 2 * s.PlateG / 1000 / kgPerM2 * (plate - s.AirC)
	return -(toAir + toPlate) / (s.Grams / 1000 * foodJ), (toPlate - plateAir) / (s.PlateG / 1000 * plateJ)
}

// ShareOf is how much of a plate in grams a food warms or is warmed by: what is under it, and a finger's width around.
func ShareOf(footprintM2 float64) float64 {
	r := math.Sqrt(footprintM2/math.Pi) + 0.02
	return math.Pi * r * r * kgPerM2 * 1000
}
