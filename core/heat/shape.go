package heat

import "math"

// Shape is what a piece is taken to be.
type Shape string

// The shapes.
const (
	Slab      Shape = "slab"      // heated from both faces: a fillet, a steak
	Cylinder  Shape = "cylinder"  // long beside its diameter: a loin, a carrot
	Sphere    Shape = "sphere"    // as wide as it is long: an egg, a beet
	Ellipsoid Shape = "ellipsoid" // one and a half times as long as it is thick: a breast, a bird, a potato
)

// Shapes lists them in the order in which they are offered.
func Shapes() []Shape { return []Shape{Slab, Cylinder, Sphere, Ellipsoid} }

// proportions of a piece of which only the weight is known: how long, and how wide, it is beside its thickness. Common practice, no
// source.
var proportions = map[Shape][2]float64{Slab: {4, 4}, Cylinder: {3, 1}, Sphere: {1, 1}, Ellipsoid: {1.5, 1}}

// fill is the volume of a piece beside that of the box around it.
var fill = map[Shape]float64{Slab: 1, Cylinder: math.Pi / 4, Sphere: math.Pi / 6, Ellipsoid: math.Pi / 6}

// ThicknessOf is the thickness in mm of a piece of a weight in grams: its smallest size, with the proportions of its shape and the
// density of water. Range: 1 g to 50 kg.
func ThicknessOf(s Shape, grams float64) float64 {
	p := proportions[s]
	return 10 * math.Cbrt(grams/(fill[s]*p[0]*p[1]))
}

// exponent is how the area grows with the distance from the middle, r to this power: 0 for a slab, 1 for a cylinder, 2 for a sphere. An
// ellipsoid lies between, by its axes: each adds the square of how much shorter the thickness is (equivalent dimensionality, after Cleland
// & Earle, Journal of Food Science 47, 1982; from memory, in its simplest form).
func (s Shape) exponent() float64 {
	switch s {
	case Cylinder:
		return 1
	case Sphere:
		return 2
	case Ellipsoid:
		long := proportions[Ellipsoid]
		return 1/(long[0]*long[0]) + 1/(long[1]*long[1])
	default:
		return 0
	}
}
