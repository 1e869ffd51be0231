package heat

import "math"

// Batch is something that cools in a container: how deep it lies, and whether it is stirred.
type Batch struct {
	DepthMm float64
	Food    Food
	Stirred bool // a liquid that is stirred, or stirs itself, is as warm everywhere
	Medium  Medium
	MediumC float64
	FromC   float64
}

// Cools is how long it takes until its warmest place is at a temperature, in seconds, with the range of the surface coefficient. From
// above and through the container's floor. The error is that of a piece.
func (b *Batch) Cools(toC float64) (Times, error) {
	p := Piece{Shape: Slab, Mm: b.DepthMm, Food: b.Food, StartC: b.FromC, TargetC: toC, Medium: b.Medium, MediumC: b.MediumC}
	if err := p.Check(); err != nil {
		return Times{}, err
	}
	if !b.Stirred {
		return p.Time()
	}
	m, h := materials[b.Food], surfaces[b.Medium]
	at := func(h, capacity float64) float64 {
		return capacity * b.DepthMm / 1000 / (2 * h) * math.Log((b.FromC-b.MediumC)/(toC-b.MediumC))
	}
	return Times{at(h.High, m.Capacity.Low), at(h.Likely, m.Capacity.Likely), at(h.Low, m.Capacity.High)}, nil
}

// Divided is the same in so many containers: as much less deep.
func (b *Batch) Divided(into int) *Batch {
	d := *b
	d.DepthMm /= float64(into)
	return &d
}
