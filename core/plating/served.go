package plating

import (
	"math"
	"slices"

	"jointime/core/heat"
	"jointime/core/kitchen"
	"jointime/core/message"
)

// Served is how long a hot element stays hot on the plate.
type Served struct {
	Element int             `json:"element" doc:"Its number"`
	Name    string          `json:"name"`
	ColdS   int             `json:"cold_s" doc:"Seconds until it is below the serving temperature on a plate from the shelf"`
	WarmS   int             `json:"warm_s" doc:"… and on a warmed one"`
	Said    message.Message `json:"said"`
}

// How hot things are that nobody said more of, °C: what goes hot on a plate, a plate out of the warmer, one from the shelf, the air at the
// pass. Common practice, no source.
const (
	hotFoodC   = 75.0
	warmPlateC = 60.0
	shelfC     = 22.0
	passC      = 25.0
	// nearC: what is served so near to the serving temperature is not judged by it, such as a fillet with a core of 54.
	nearC = 5.0
)

// served computes how long each hot element stays above the kitchen's serving temperature: on a cold plate and on a warm one, uncovered,
// with no lamp over it; the first to be cold stands first. What lies on another thing is not on the plate: only the air cools it.
func (p *Plate) served(b *kitchen.Book, v *kitchen.Vessel, spec *kitchen.Specification, ls []laid) {
	house := b.Kitchen()
	below := house.ServedC()
	ware := heat.Wares[string(v.MadeOf())]
	warmC := warmPlateC
	if v.WarmC > 0 {
		warmC = v.WarmC
	}
	for i := range ls {
		l := &ls[i]
		from := hotFrom(l.comp)
		if l.element.Temp != "hot" || from < below+nearC {
			continue
		}
		under, air := l.surfaces()
		s := heat.Served{Grams: p.Elements[i].GramsG, AreaM2: air / 1e6, TouchM2: under / 1e6, FoodC: from, Ware: ware,
			PlateG: ware.Share(under / 1e6),
			PlateC: shelfC, AirC: passC}
		if l.element.On > 0 {
			s.TouchM2 = 0
		}
		if s.Grams <= 0 || air <= 0 {
			continue
		}
		cold := s.Cools(below)
		s.PlateC = warmC
		warm := s.Cools(below)
		at := Served{Element: i + 1, Name: l.comp.Name, ColdS: roundly(cold), WarmS: roundly(warm)}
		at.Said = message.Of("plate.served", "what", l.comp.Name, "below", below, "cold", message.Length(at.ColdS), "warm",
			message.Length(at.WarmS))
		if at.WarmS-at.ColdS < 10 {
			at.Said = message.Of("plate.served-same", "what", l.comp.Name, "below", below, "cold", message.Length(at.ColdS))
		}
		p.Served = append(p.Served, at)
	}
	here := func(s Served) int {
		if spec.VesselTemp == "hot" || spec.VesselTemp == "warm" {
			return s.WarmS
		}
		return s.ColdS
	}
	slices.SortStableFunc(p.Served, func(a, b Served) int { return here(a) - here(b) })
	if len(p.Served) == 0 || spec.StandLimitS <= here(p.Served[0]) {
		return
	}
	first := p.Served[0]
	p.say("served", "mind", first.Element, float64(here(first)), "plate.stands-cold", "what", first.Name, "below", below, "after",
		message.Length(here(first)), "stands", message.Length(spec.StandLimitS))
}

// roundly is a length in steps of five seconds: more nobody knows.
func roundly(s float64) int { return int(math.Round(s/5)) * 5 }

// hotFrom is how hot something is when it goes on the plate: the core it was cooked to, the heat it was held in, or the usual.
func hotFrom(c *kitchen.Component) float64 {
	switch {
	case c.Pot != nil && c.Pot.In != nil && c.Pot.In.SetpointC != nil:
		return min(*c.Pot.In.SetpointC, 95)
	case c.Hold.In != nil && c.Hold.In.SetpointC != nil:
		return min(*c.Hold.In.SetpointC, 95)
	}
	for i := len(c.Steps) - 1; i >= 0; i-- {
		s := &c.Steps[i]
		if s.Piece != nil && s.Piece.TargetC > s.Piece.StartC {
			return s.Piece.TargetC
		}
		for _, k := range s.Checks {
			if k.TargetC != nil && s.Equipment != nil && s.Equipment.Kind.Heats() {
				return *k.TargetC
			}
		}
	}
	return hotFoodC
}

// surfaces are the area that lies on what is under an element, and that which the air has, mm²: its top, and its sides.
func (l *laid) surfaces() (under, air float64) {
	for i := range l.pieces {
		o := l.pieces[i].Outline
		a := math.Abs(area(o))
		round := 0.0
		for k := range o {
			round += o[k].distance(o[(k+1)%len(o)])
		}
		under += a
		air += a + round*l.pieces[i].High*l.pieces[i].mean
	}
	return under, air
}
