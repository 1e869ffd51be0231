package heat

import "math"

// Served is a food on a plate at the pass: two bodies and the air.
type Served struct {
	Grams   float64
	AreaM2  float64 // of its surface to the air
	TouchM2 float64 // on the plate
	FoodC   float64
	Ware    Ware    // what the plate is made of; porcelain when zero
	PlateG  float64 // of the plate that it shares: that under it and around
	PlateC  float64
	AirC    float64
	Covered bool
	LampW   float64 // W/m² from lamps above; 0 without
}

// Heat capacities, J/kg K, and coefficients, W/m² K, from memory: food that is mostly water, porcelain; contact through a film of sauce.
const (
	foodJ    = 3600.0
	contactH = 80.0
	openH    = 14.0 // still air, radiation and some drying of a wet surface
	coverH   = 6.0
	plateH   = 9.0
)

// Ware is what a plate is made of: its heat capacity, J/kg K, and its weight, kg/m², with both faces in the air.
type Ware struct{ J, KgPerM2 float64 }

// porcelain is the usual plate; Wares are all that are known by their names. From memory, with usual thicknesses.
var (
	porcelain = Ware{850, 12}
	Wares     = map[string]Ware{"porcelain": porcelain, "stoneware": {850, 16}, "glass": {800, 11}, "slate": {760, 16}, "wood": {1700, 10},
		"metal": {490, 12}}
)

func (s *Served) ware() Ware {
	if s.Ware.J > 0 {
		return s.Ware
	}
	return porcelain
}

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
	ware := s.ware()
	plateAir := plateH * 2 * s.PlateG / 1000 / ware.KgPerM2 * (plate - s.AirC)
	return -(toAir + toPlate) / (s.Grams / 1000 * foodJ), (toPlate - plateAir) / (s.PlateG / 1000 * ware.J)
}

// Share is how much of a plate in grams a food warms or is warmed by: what is under it, and a finger's width around.
func (w Ware) Share(footprintM2 float64) float64 {
	r := math.Sqrt(footprintM2/math.Pi) + 0.02
	return math.Pi * r * r * w.KgPerM2 * 1000
}
