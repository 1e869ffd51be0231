package scale

import "jointime/core/message"

// Gastronorm is a container size of EN 631-1: its name and its outer length and width in
// millimetres.
type Gastronorm struct {
	Name            string
	Length, WidthMm int
}

// Gastronorms lists the sizes of EN 631-1, the smallest first.
func Gastronorms() []Gastronorm {
	return []Gastronorm{{"1/9", 176, 108}, {"1/6", 176, 162}, {"1/4", 265, 162}, {"1/3", 325, 176}, {"1/2", 325, 265}, {"2/3", 354, 325},
		{"1/1", 530, 325}, {"2/1", 650, 530}}
}

// depths in which containers are usually had, mm; and the share of the outer box that
// can be filled below the rim. Common practice, no source.
var depths = []int{65, 100, 150, 200}

const fillable = 0.68

// Container names the smallest container that holds so many millilitres, and how many of
// it when more than one of the largest usual size (1/1, 200 deep) is needed.
func Container(ml float64) string {
	name, _ := Fit(ml)
	return name
}

// Fit names the smallest container that holds so many millilitres, and how deep they lie in it in millimetres.
func Fit(ml float64) (name string, deepMm float64) {
	type box struct {
		name string
		ml   float64
		area float64 // mm²
	}
	var best box
	for _, g := range Gastronorms() {
		if g.Name == "2/1" {
			continue // too heavy to carry when full
		}
		for _, d := range depths {
			a := float64(g.Length*g.WidthMm) * fillable
			b := box{message.Of("amount.container", "size", g.Name, "deep", d).Text, float64(g.Length*g.WidthMm*d) / 1000 * fillable, a}
			if b.ml >= ml && (best.name == "" || b.ml < best.ml) {
				best = b
			}
		}
	}
	if best.name != "" {
		return best.name, ml * 1000 / best.area
	}
	const largest = 530 * 325 * 200 / 1000 * fillable
	n := int(ml/largest) + 1
	return message.Of("amount.containers", "number", n, "size", "1/1", "deep", 200).Text, 200 * ml / largest / float64(n)
}
