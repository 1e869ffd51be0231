package heat

// Range is a value with its low and its high.
type Range struct{ Low, Likely, High float64 }

// Material is what a piece is made of.
type Material struct {
	Name     string
	Conducts Range // W/m K
	Capacity Range // J/m³ K
}

// Food is a kind of material.
type Food string

// The foods.
const (
	MeatFood Food = "meat"
	FishFood Food = "fish"
	RootFood Food = "root"
	EggFood  Food = "egg"
	DoughRaw Food = "dough"
	Liquid   Food = "liquid" // stock, sauce, soup, purée: what is stirred, or stirs itself
)

// Foods lists them in the order in which they are offered.
func Foods() []Food { return []Food{MeatFood, FishFood, RootFood, EggFood, DoughRaw, Liquid} }

// materials are their properties, from memory, each with its range: meat k 0.45–0.50 W/m K, ρc 3.6–3.8 MJ/m³ K; roots with a diffusivity
// of 1.4–1.5 × 10⁻⁷ m²/s; the rest as water-rich foods.
var materials = map[Food]Material{
	MeatFood: {"meat", Range{0.45, 0.475, 0.50}, Range{3.6e6, 3.7e6, 3.8e6}},
	FishFood: {"fish", Range{0.46, 0.49, 0.52}, Range{3.6e6, 3.75e6, 3.9e6}},
	RootFood: {"roots", Range{0.53, 0.555, 0.58}, Range{3.75e6, 3.83e6, 3.9e6}},
	EggFood:  {"egg", Range{0.45, 0.50, 0.55}, Range{3.5e6, 3.65e6, 3.8e6}},
	DoughRaw: {"dough, batter", Range{0.25, 0.35, 0.45}, Range{2.4e6, 2.8e6, 3.2e6}},
	Liquid:   {"liquid", Range{0.55, 0.58, 0.60}, Range{3.8e6, 4.0e6, 4.15e6}},
}

// Diffusivity is the material's, m²/s.
func (m *Material) Diffusivity() float64 { return m.Conducts.Likely / m.Capacity.Likely }

// Medium is what a piece is heated or cooled in.
type Medium string

// The media.
const (
	Bath     Medium = "water-bath"
	Oven     Medium = "oven"
	FanOven  Medium = "fan-oven"
	Steam    Medium = "steam"
	Pan      Medium = "pan"
	Fat      Medium = "fryer"
	Boiling  Medium = "boiling"
	Grill    Medium = "grill"
	Bench    Medium = "bench" // still air
	Foil     Medium = "foil"  // loosely covered on the bench
	Fridge   Medium = "fridge"
	Chiller  Medium = "blast-chiller"
	IceWater Medium = "ice-water"
	Cupboard Medium = "cupboard" // held warm
)

// surfaces are the coefficients of heat transfer at a surface, W/m² K, with radiation, from memory: still oven 8–15, fan oven 20–35, steam
// above 500, water bath 95–155 (Baldwin), pan contact 200–600, each face half of the time, still air 8–12, fridge 5–10, blast chiller
// 25–50; fat, boiling and ice water
// from memory as usual in books on heat transfer; foil halves still air (common practice, no source).
var surfaces = map[Medium]Range{
	Bath: {95, 120, 155}, Oven: {8, 12, 15}, FanOven: {20, 26, 35}, Steam: {500, 800, 2000}, Pan: {100, 175, 300}, Fat: {250, 400, 600},
	Boiling: {500, 900, 1500}, Grill: {30, 50, 80}, Bench: {8, 10, 12}, Foil: {4, 5, 7}, Fridge: {5, 7, 10}, Chiller: {25, 35, 50},
	IceWater: {150, 250, 400}, Cupboard: {8, 10, 15},
}

// wets is how much of a piece's surface dries as if it were wet in hot air; the rest is crust, fat or skin. Common practice, no source:
// with it a roast takes about as long as kitchens write.
var wets = map[Medium]float64{Oven: 0.2, FanOven: 0.2, Grill: 0.1, Bench: 0.4, Foil: 0.4}
