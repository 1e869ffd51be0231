package expand

import (
	"strings"

	"jointime/core/kitchen"
	"jointime/core/scale"
)

// prepOfBatches is make-ahead work that has only the batches named, each as its id and its component.
func prepOfBatches(list ...string) *Prep {
	p := &Prep{Amounts: &scale.Amounts{}}
	for _, x := range list {
		id, component, _ := strings.Cut(x, " ")
		p.Amounts.Batches = append(p.Amounts.Batches, scale.Batch{ID: id, Component: component})
	}
	return p
}

// OneDish is a kitchen whose one dish, made of one component with these steps, is had by ten guests at 19:00.
func OneDish(zone string, shelfH float64, steps []kitchen.Step) kitchen.Data {
	d := kitchen.Starter("K", zone, kitchen.CodeUKEU)
	d.Components = []kitchen.Component{{ID: "c", Name: "C", Section: "stove", Unit: kitchen.Grams, GramsPerUnit: 1, DensityGPerMl: 1,
		BatchYield: 1000, ShelfLifeH: shelfH, Store: kitchen.Chilled, Steps: steps}}
	d.Dishes = []kitchen.Dish{{ID: "dish", Name: "Dish", Course: kitchen.Main, State: kitchen.CurrentDish,
		Specification: kitchen.Specification{Vessel: "plate-270", VesselTemp: "hot",
			Elements: []kitchen.Element{{Component: "c", Amount: 10, Form: kitchen.Form{Kind: "heap"}, Temp: "hot", Seconds: 5, Hands: 1}}}}}
	d.Services = []kitchen.Service{{ID: "s", Name: "S", Date: "2026-05-14", Kind: kitchen.ALaCarte, Pacing: kitchen.Timed, CourseMin: 20,
		Menu:   []kitchen.MenuLine{{Dish: "dish", Share: 100}},
		Tables: []kitchen.ServiceTable{{ID: "t", Name: "T", Covers: 10, SeatedAt: 19 * 60}}}}
	return d
}
