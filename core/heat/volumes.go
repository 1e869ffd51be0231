package heat

import "math"

// Stage is a stretch of time in one medium.
type Stage struct {
	MediumC float64
	H       float64 // surface coefficient, W/m² K
	Seconds float64
	Wet     float64 // share of the surface that is wet and dries in hot air: 0 for water, steam, fat and a dry crust
}

// Body is a piece as it is solved by finite volumes: cells from the middle to the surface, with the area growing as its shape says.
type Body struct {
	temps    []float64 // °C of each cell
	volume   []float64 // of each cell
	area     []float64 // between a cell and the next; the last is the surface
	dr       float64
	conducts float64
	capacity float64
	now      float64 // seconds since the start
	dried    float64 // water that its surface has given off, kg/m²
	surfaceC float64 // of the surface itself
}

// NewBody is a piece of a half thickness in metres at a temperature, with so many cells.
func NewBody(s Shape, half float64, m Material, startC float64, cells int) *Body {
	b := &Body{dr: half / float64(cells), conducts: m.Conducts.Likely, capacity: m.Capacity.Likely, surfaceC: startC}
	p := s.exponent()
	for i := range cells {
		in, out := float64(i)*b.dr, float64(i+1)*b.dr
		b.temps = append(b.temps, startC)
		b.volume = append(b.volume, (math.Pow(out, p+1)-math.Pow(in, p+1))/(p+1))
		b.area = append(b.area, math.Pow(out, p))
	}
	return b
}

// Core is the temperature of the middle, °C: drawn to it from the two innermost cells, where the slope is nothing.
func (b *Body) Core() float64 {
	if len(b.temps) < 2 {
		return b.temps[0]
	}
	return b.temps[0] + (b.temps[0]-b.temps[1])/8
}

// Surface is the temperature of the surface, °C.
func (b *Body) Surface() float64 { return b.surfaceC }

// Mean is the mean temperature, °C.
func (b *Body) Mean() float64 {
	sum, all := 0.0, 0.0
	for i, v := range b.volume {
		sum += v * b.temps[i]
		all += v
	}
	return sum / all
}

// Step goes on by dt seconds in a medium (Crank–Nicolson; the surface by the series of its half cell and its film).
func (b *Body) Step(dt float64, st *Stage) {
	n := len(b.temps)
	film := 1 / (1/st.H + b.dr/2/b.conducts)
	lost := b.drying(st)
	lower, diag, upper, right := make([]float64, n), make([]float64, n), make([]float64, n), make([]float64, n)
	for i := range n {
		hold := b.capacity * b.volume[i] / dt
		in, out := 0.0, 0.0
		if i > 0 {
			in = b.conducts * b.area[i-1] / b.dr / 2
		}
		if i < n-1 {
			out = b.conducts * b.area[i] / b.dr / 2
		}
		edge := 0.0
		if i == n-1 {
			edge = film * b.area[i] / 2
		}
		lower[i], upper[i] = -in, -out
		diag[i] = hold + in + out + edge
		right[i] = (hold-in-out-edge)*b.temps[i] + 2*edge*st.MediumC
		if i > 0 {
			right[i] += in * b.temps[i-1]
		}
		if i < n-1 {
			right[i] += out * b.temps[i+1]
		}
		if i == n-1 {
			right[i] -= lost * b.area[i]
		}
	}
	for i := 1; i < n; i++ { // Thomas's elimination
		f := lower[i] / diag[i-1]
		diag[i] -= f * upper[i-1]
		right[i] -= f * right[i-1]
	}
	b.temps[n-1] = right[n-1] / diag[n-1]
	for i := n - 2; i >= 0; i-- {
		b.temps[i] = (right[i] - upper[i]*b.temps[i+1]) / diag[i]
	}
	for i := range b.temps { // water boils: what comes in beyond goes into steam
		b.temps[i] = min(b.temps[i], boils)
	}
	flux := film*(st.MediumC-b.temps[n-1]) - lost
	b.surfaceC = b.temps[n-1] + flux*b.dr/2/b.conducts
	b.dried += lost * dt / latent
	b.now += dt
}

// latent is the heat of drying, J/kg.
const latent = 2.3e6

// boils is where the water of a piece boils, °C: no cell gets hotter, only its crust does.
const boils = 100.0

// drying is the heat in W/m² that a wet surface gives off by drying, in its simplest form: mass follows heat (Lewis number 1) into air
// without vapour of its own; the vapour at the surface by Magnus's formula. While it is heated no more is given off than comes in. From
// memory.
func (b *Body) drying(st *Stage) float64 {
	if st.Wet == 0 {
		return 0
	}
	const (
		air = 1000  // J/m³ K, hot air
		gas = 461.5 // J/kg K, of vapour
	)
	t := min(b.surfaceC, boils-1)
	pressure := 611.2 * math.Exp(17.62*t/(243.12+t))
	vapour := pressure / (gas * (t + 273.15))
	lost := st.Wet * max(0, 1-b.dried/crust) * st.H / air * latent * vapour
	if st.MediumC > t {
		lost = min(lost, st.H*(st.MediumC-t))
	}
	return lost
}

// crust is how much water a surface gives off until it is all crust, kg/m²: common practice, no source; a roast loses about so much in an
// hour and a half.
const crust = 4.5

// Run takes a body through stages and calls each after every step with the time in seconds, the core and the surface; it stops when
// told to. It returns the seconds that passed.
func (b *Body) Run(stages []Stage, dt float64, each func(t, core, surface float64) (goOn bool)) float64 {
	for i := range stages {
		for left := stages[i].Seconds; left > 1e-9; {
			d := min(dt, left)
			b.Step(d, &stages[i])
			left -= d
			if each != nil && !each(b.now, b.Core(), b.Surface()) {
				return b.now
			}
		}
	}
	return b.now
}
