package heat

import (
	"errors"
	"math"
)

// Piece is something that is heated, or cooled, until its core is at a temperature.
type Piece struct {
	Shape   Shape
	Mm      float64 // its thickness or diameter, the smallest size; 0 when only the weight is known
	Grams   float64 // its weight, used where the thickness is not said
	Food    Food
	StartC  float64
	TargetC float64
	Medium  Medium
	MediumC float64
}

// Sizes and temperatures that are taken: a pea to a pig's leg, a freezer to a forge.
const (
	LeastMm, MostMm   = 1.0, 500.0
	LeastG, MostG     = 1.0, 50_000.0
	ColdestC, HotestC = -40.0, 350.0
)

// What is wrong with a piece.
var (
	ErrSize   = errors.New("its size is not between 1 and 500 mm")
	ErrWeight = errors.New("its weight is not between 1 g and 50 kg")
	ErrKind   = errors.New("its shape, food or medium is not known")
	ErrRange  = errors.New("a temperature is not between -40 and 350 °C")
	ErrBeyond = errors.New("the core never gets there: the target is not between its start and the medium")
)

// nearest is how close to the medium a core may be asked to come: nearer it takes for ever, °C.
const nearest = 0.2

// Thickness is the piece's thickness in mm, from its weight where it was not said.
func (p *Piece) Thickness() float64 {
	if p.Mm > 0 {
		return p.Mm
	}
	return ThicknessOf(p.Shape, p.Grams)
}

// Check says what is wrong with a piece; nil for one that can be computed.
func (p *Piece) Check() error {
	_, shape := fill[p.Shape]
	_, food := materials[p.Food]
	_, medium := surfaces[p.Medium]
	switch {
	case !shape || !food || !medium:
		return ErrKind
	case p.Mm == 0 && !(p.Grams >= LeastG && p.Grams <= MostG):
		if p.Grams == 0 {
			return ErrSize
		}
		return ErrWeight
	case p.Mm != 0 && !(p.Mm >= LeastMm && p.Mm <= MostMm):
		return ErrSize
	}
	for _, c := range []float64{p.StartC, p.TargetC, p.MediumC} {
		if !(c >= ColdestC && c <= HotestC) {
			return ErrRange
		}
	}
	up := p.MediumC > p.StartC
	if up && !(p.TargetC > p.StartC && p.TargetC <= p.MediumC-nearest) || !up && !(p.TargetC < p.StartC && p.TargetC >= p.MediumC+nearest) {
		return ErrBeyond
	}
	return nil
}

// Times are how long a piece takes, in seconds: low and high from ± 10 % of its thickness and the ranges of its properties and of the
// surface coefficient.
type Times struct{ Low, Likely, High float64 }

// Time is how long it takes until the core is at the target. The error is one of those above.
func (p *Piece) Time() (Times, error) {
	if err := p.Check(); err != nil {
		return Times{}, err
	}
	m, h := materials[p.Food], surfaces[p.Medium]
	at := func(size, h float64, k, c float64) float64 {
		q := *p
		q.Mm = p.Thickness() * size
		return q.solve(Material{Conducts: Range{k, k, k}, Capacity: Range{c, c, c}}, h, wets[p.Medium])
	}
	return Times{at(0.9, h.High, m.Conducts.High, m.Capacity.Low), at(1, h.Likely, m.Conducts.Likely, m.Capacity.Likely),
		at(1.1, h.Low, m.Conducts.Low, m.Capacity.High)}, nil
}

// solve is the time with given properties: by the series where there is one and the surface stays as it is, else by finite volumes.
func (p *Piece) solve(m Material, h, wet float64) float64 {
	half := p.Thickness() / 2000
	if wet == 0 && p.Shape != Ellipsoid && p.MediumC <= boils {
		if s, ok := newSeries(p.Shape, h*half/m.Conducts.Likely); ok {
			left := (p.TargetC - p.MediumC) / (p.StartC - p.MediumC)
			return s.fourier(left) * half * half / m.Diffusivity()
		}
	}
	b := NewBody(p.Shape, half, m, p.StartC, cells)
	dt := step(half, &m)
	up := p.TargetC > p.StartC
	before, last := p.StartC, 0.0
	reached := math.Inf(1)
	stage := Stage{MediumC: p.MediumC, H: h, Wet: wet, Seconds: longest}
	b.Run([]Stage{stage}, dt, func(t, core, _ float64) bool {
		if up == (core >= p.TargetC) || core == p.TargetC {
			reached = last + (t-last)*(p.TargetC-before)/(core-before)
			return false
		}
		before, last = core, t
		return true
	})
	return min(reached, longest)
}

// cells of a body, and the longest that anything takes: three days.
const (
	cells   = 40
	longest = 3 * 24 * 3600.0
)

// step is how long a step of the finite volumes is: a two-hundredth of the time in which heat goes through.
func step(half float64, m *Material) float64 { return max(0.05, half*half/m.Diffusivity()/200) }

// DoneC is the core when a piece is taken out, and how far it rises then.
type DoneC struct {
	OutC  float64 // take it out at this
	RiseC float64
	OutS  float64 // after so many seconds
	PeakS float64 // and the core is highest so long after that
}

// TakeOut is when to take a piece out so that its core, which goes on rising while it rests, comes to the target: in still air at the
// temperature of the kitchen, under foil or not. Only for what is heated.
func (p *Piece) TakeOut(rest Medium, kitchenC float64) (DoneC, error) {
	if err := p.Check(); err != nil {
		return DoneC{}, err
	}
	if p.MediumC <= p.StartC {
		return DoneC{}, ErrBeyond
	}
	m, h := materials[p.Food], surfaces[p.Medium].Likely
	half := p.Thickness() / 2000
	dt := step(half, &m)
	in := Stage{MediumC: p.MediumC, H: h, Wet: wets[p.Medium], Seconds: longest}
	out := Stage{MediumC: kitchenC, H: surfaces[rest].Likely, Wet: wets[rest], Seconds: longest}
	// peak of the core when it is taken out at a core temperature.
	peak := func(outC float64) (d DoneC) {
		b := NewBody(p.Shape, half, m, p.StartC, cells)
		d.OutS = b.Run([]Stage{in}, dt, func(_, core, _ float64) bool { return core < outC })
		d.OutC = b.Core()
		top := d.OutC
		b.Run([]Stage{out}, dt, func(t, core, _ float64) bool {
			if core >= top {
				top, d.PeakS = core, t-d.OutS
				return true
			}
			return core > top-0.05
		})
		d.RiseC = top - d.OutC
		return d
	}
	lo, hi := p.StartC, p.TargetC
	for range 24 {
		mid := (lo + hi) / 2
		if d := peak(mid); d.OutC+d.RiseC > p.TargetC {
			hi = mid
		} else {
			lo = mid
		}
	}
	return peak((lo + hi) / 2), nil
}
