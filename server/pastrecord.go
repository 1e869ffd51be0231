package server

import (
	"fmt"
	"math"
	"time"

	"jointime/core/kitchen"
	"jointime/core/service"
	"jointime/store"
)

// What stands beside the log of a night that was played for the demo: what thermometers measured in it, and what was thrown away after it.
// Both follow from what happened in the night.

// The demo's thermometers: how often they measure, at how many runs of a night one is in, and what comes from the pan. Invented, for the
// demo.
const (
	pastEvery  = 15.0
	pastProbes = 4
	pastStartC = 34.0
)

// pastReadings is what a thermometer measured, by run, where a core is looked for: it nears the heat around it exponentially, as the core
// of a piece does once the heat has reached it (Carslaw & Jaeger, Conduction of Heat in Solids, the first term of the series), and is at
// its target when somebody said that it was done.
func pastReadings(b *kitchen.Book, log []service.Event) map[string][]store.ProbeReading {
	fired, out := map[string]time.Time{}, map[string][]store.ProbeReading{}
	for i := range log {
		e := &log[i]
		switch {
		case e.Kind == service.Fired:
			fired[e.Task] = e.At
		case e.Kind == service.Ready && len(out) < pastProbes:
			from, was := fired[e.Task]
			c, ok := b.Component(e.Component)
			if !was || !ok || c.StepIndex(e.Step) < 0 || out[e.Task] != nil {
				continue
			}
			step := &c.Steps[c.StepIndex(e.Step)]
			target := coreOf(step)
			if target == nil || step.Equipment == nil || step.Equipment.SetpointC == nil || *step.Equipment.SetpointC <= *target {
				continue
			}
			around, took := *step.Equipment.SetpointC, e.At.Sub(from).Seconds()
			rate := math.Log((around-pastStartC)/(around-*target)) / took
			for s := 0.0; s <= took; s += pastEvery {
				at := from.Add(time.Duration(s * float64(time.Second)))
				core := around - (around-pastStartC)*math.Exp(-rate*s)
				out[e.Task] = append(out[e.Task], store.ProbeReading{At: at, Celsius: math.Round(10*core) / 10})
			}
		}
	}
	return out
}

// coreOf is the core at which a step is done, where one is looked for; nil for none.
func coreOf(s *kitchen.Step) *float64 {
	for i := range s.Checks {
		if s.Checks[i].TargetC != nil {
			return s.Checks[i].TargetC
		}
	}
	return nil
}

// keeps is how many of the plates of a dish that nobody ordered are used another day, of a hundred: the rest is thrown away. Invented, for
// the demo.
const keeps = 40

// pastThrown is what was thrown away after a night: what was ready and nobody ordered, as far as it does not keep; what was dropped; what
// came back.
func pastThrown(b *kitchen.Book, svc *kitchen.Service, log []service.Event) []store.Thrown {
	ordered := map[string]int{}
	for _, t := range svc.Tables {
		for _, o := range t.Orders {
			ordered[o.Dish] += o.Count
		}
	}
	closed := log[len(log)-1].At
	var out []store.Thrown
	add := func(kind, about, why string, portions int, at time.Time) {
		if portions > 0 {
			out = append(out, store.Thrown{ID: fmt.Sprintf("%s-%d", svc.ID, len(out)+1), Service: svc.ID, Kind: kind, About: about,
				Portions: portions, Why: why, At: at})
		}
	}
	ready := readyOf(b, svc)
	for _, m := range svc.Menu {
		add("dish", m.Dish, "too-much", (ready[m.Dish]-ordered[m.Dish])*(100-keeps)/100, closed)
	}
	for i := range log {
		if e := &log[i]; e.Kind == service.Again {
			why := "came-back"
			if e.Why == "dropped" {
				why = "dropped"
			}
			add("component", e.Component, why, max(1, e.Portions), e.At)
		}
	}
	return out
}
