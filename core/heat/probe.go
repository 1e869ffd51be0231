package heat

import (
	"errors"
	"math"
)

// What is wrong with a probe's readings.
var (
	ErrFew    = errors.New("four readings over two minutes are needed")
	ErrJumps  = errors.New("the probe jumped: is it still in the middle?")
	ErrSilent = errors.New("the probe is silent")
	ErrFalls  = errors.New("the core falls")
)

// Forecast is when a probe will be at its target.
type Forecast struct {
	S      float64 // seconds of the readings' clock
	Error  float64 // ± seconds, two thirds of the time
	Factor float64 // how much longer than computed it takes: what the kitchen's own times say
}

const (
	fewest   = 4
	overS    = 120.0
	jumpC    = 5.0   // more than this from one reading to the next within half a minute is no core
	silentS  = 120.0 // longer without a word
	probeErr = 0.3   // °C, of a good probe: from memory
)

// Probe forecasts when the core will be at the target from the readings so far, by the model of the piece run slower or faster: the
// factor that fits best, with the error that the readings leave. nowS is the clock now. The error says what is wrong with the readings, or
// with the piece.
func (p *Piece) Probe(readings []Reading, nowS float64) (Forecast, error) {
	if err := p.Check(); err != nil {
		return Forecast{}, err
	}
	if err := sound(readings, nowS, p.TargetC > p.StartC); err != nil {
		return Forecast{}, err
	}
	curve := p.curve()
	target := curve.when(p.TargetC)
	// The piece was put in when the clock began; its own start is what the probe said first.
	miss := func(f float64) (sum float64) {
		for _, r := range readings {
			d := curve.at(r.S/f) - r.C
			sum += d * d
		}
		return sum
	}
	lo, hi := math.Log(0.2), math.Log(5)
	const golden = 0.6180339887498949
	a, b := hi-golden*(hi-lo), lo+golden*(hi-lo)
	for range 60 {
		if miss(math.Exp(a)) < miss(math.Exp(b)) {
			hi, b = b, a
			a = hi - golden*(hi-lo)
		} else {
			lo, a = a, b
			b = lo + golden*(hi-lo)
		}
	}
	f := math.Exp((lo + hi) / 2)
	// The curvature of what is missed says how sure the factor is.
	const d = 0.01
	bend := (miss(f*math.Exp(d)) - 2*miss(f) + miss(f*math.Exp(-d))) / (d * d)
	spread := math.Max(probeErr*probeErr, miss(f)/float64(len(readings)-1))
	out := Forecast{S: target * f, Factor: f, Error: math.Inf(1)}
	if bend > 0 {
		out.Error = out.S * math.Sqrt(2*spread/bend)
	}
	return out, nil
}

// sound says what is wrong with readings.
func sound(readings []Reading, nowS float64, up bool) error {
	n := len(readings)
	if n == 0 || nowS-readings[n-1].S > silentS {
		return ErrSilent
	}
	if n < fewest || readings[n-1].S-readings[0].S < overS {
		return ErrFew
	}
	for i := 1; i < n; i++ {
		if d := readings[i].S - readings[i-1].S; math.Abs(readings[i].C-readings[i-1].C) > jumpC*math.Max(1, d/30) {
			return ErrJumps
		}
	}
	if last, before := readings[n-1].C, readings[n-fewest].C; up && last < before-1 || !up && last > before+1 {
		return ErrFalls
	}
	return nil
}

// curve is a core over time, at even steps.
type curve struct {
	dt    float64
	temps []float64
	up    bool
}

// curve is the piece's core as it is computed, until a little before it is as warm as its medium.
func (p *Piece) curve() *curve {
	m, h := materials[p.Food], surfaces[p.Medium].Likely
	half := p.Thickness() / 2000
	dt := step(half, &m)
	c := &curve{dt: dt, temps: []float64{p.StartC}, up: p.MediumC > p.StartC}
	b := NewBody(p.Shape, half, m, p.StartC, cells)
	b.Run([]Stage{{MediumC: p.MediumC, H: h, Wet: wets[p.Medium], Seconds: longest}}, dt, func(_, core, _ float64) bool {
		c.temps = append(c.temps, core)
		past := c.up == (core >= p.TargetC)
		return !(past && math.Abs(core-p.TargetC) > 2) && math.Abs(core-p.MediumC) > nearest/2
	})
	return c
}

func (c *curve) at(s float64) float64 {
	x := s / c.dt
	i := int(x)
	switch {
	case x <= 0:
		return c.temps[0]
	case i >= len(c.temps)-1:
		return c.temps[len(c.temps)-1]
	}
	return c.temps[i] + (c.temps[i+1]-c.temps[i])*(x-float64(i))
}

// when is the first time at which the core is at a temperature.
func (c *curve) when(t float64) float64 {
	for i := 1; i < len(c.temps); i++ {
		if c.up == (c.temps[i] >= t) {
			return c.dt * (float64(i-1) + (t-c.temps[i-1])/(c.temps[i]-c.temps[i-1]))
		}
	}
	return c.dt * float64(len(c.temps)-1)
}

// Course is the core as it is computed with a factor of the kitchen's own, from when it goes in until it is at the target, every
// everyS seconds and at the end. The error is the piece's.
func (p *Piece) Course(factor, everyS float64) ([]Reading, error) {
	if err := p.Check(); err != nil {
		return nil, err
	}
	c := p.curve()
	end := c.when(p.TargetC) * factor
	var out []Reading
	for s := 0.0; s < end; s += everyS {
		out = append(out, Reading{s, c.at(s / factor)})
	}
	return append(out, Reading{end, p.TargetC}), nil
}
