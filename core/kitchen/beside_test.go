package kitchen_test

import (
	"testing"

	"github.com/stretchr/testify/require"

	"jointime/core/kitchen"
)

// twoOnAPlate is a kitchen with two components on one plate, each with two steps to order and one made ahead.
func twoOnAPlate() kitchen.Data {
	d := kitchen.Starter("K", "Europe/Copenhagen", kitchen.CodeUKEU)
	for _, id := range []string{"x", "y"} {
		c := kitchen.Component{ID: id, Name: id, Section: d.Sections[0].ID, Unit: kitchen.Grams, GramsPerUnit: 1, DensityGPerMl: 1,
			BatchYield: 10}
		for i, step := range []string{"cut", "fry", "turn"} {
			s := kitchen.Step{ID: step, Name: step, Phase: kitchen.PickUp, Hands: kitchen.Both, Time: kitchen.StepTime{Fixed: kitchen.Exactly(60)}}
			if i == 0 {
				s.Phase = kitchen.Ahead
			} else {
				s.After = []kitchen.Predecessor{{Step: c.Steps[i-1].ID}}
			}
			c.Steps = append(c.Steps, s)
		}
		d.Components = append(d.Components, c)
	}
	e := kitchen.Element{Component: "x", Amount: 10, Form: kitchen.Form{Kind: "heap"}, Temp: "hot", Seconds: 5, Hands: 1}
	f := e
	f.Component = "y"
	d.Dishes = []kitchen.Dish{{ID: "dish", Name: "Dish", Course: kitchen.Main, State: kitchen.CurrentDish,
		Specification: kitchen.Specification{Vessel: d.Vessels[0].ID, VesselTemp: "hot", Elements: []kitchen.Element{e, f}}}}
	return d
}

func TestWhatAStepMayComeAfter(t *testing.T) {
	for name, x := range map[string]struct {
		step, component, of string
		want                string
	}{
		"a step of another":    {"fry", "y", "turn", ""},
		"no such step":         {"fry", "y", "boil", `components[0].steps[1].beside[0].step: “y” has no step “boil”`},
		"what is made ahead":   {"fry", "y", "cut", "components[0].steps[1].beside[0].step: “cut” of y is made ahead"},
		"itself":               {"fry", "x", "turn", "components[0].steps[1].beside[0].component: “x” cannot wait for itself"},
		"a component not here": {"fry", "z", "turn", "components[0].steps[1].beside[0].component: "},
		"before the cut":       {"cut", "y", "turn", "components[0].steps[0].beside[0]: “cut” is made ahead"},
	} {
		d := twoOnAPlate()
		s := &d.Components[0].Steps[d.Components[0].StepIndex(x.step)]
		s.Beside = []kitchen.OtherStep{{Component: x.component, Step: x.of}}
		_, err := kitchen.NewBook(d)
		if x.want == "" {
			require.NoError(t, err, name)
		} else {
			require.ErrorContains(t, err, x.want, name)
		}
	}
}

// Two steps that wait for each other are refused at the dish that has both, and are nothing to a dish that has one of them.
func TestACircleIsRefusedAtTheDish(t *testing.T) {
	d := twoOnAPlate()
	d.Components[0].Steps[1].Beside = []kitchen.OtherStep{{Component: "y", Step: "turn"}}
	d.Components[1].Steps[2].Beside = []kitchen.OtherStep{{Component: "x", Step: "fry"}}
	_, err := kitchen.NewBook(d)
	require.ErrorContains(t, err,
		"dishes[0].specification.elements: on Dish the steps wait for each other in a circle: x: fry → y: turn → x: fry")
	// To and fro is no circle: x is fried, y is fried then, and x is turned after that.
	d.Components[1].Steps[2].Beside = nil
	d.Components[0].Steps[1].Beside = nil
	d.Components[1].Steps[1].Beside = []kitchen.OtherStep{{Component: "x", Step: "fry"}}
	d.Components[0].Steps[2].Beside = []kitchen.OtherStep{{Component: "y", Step: "fry"}}
	_, err = kitchen.NewBook(d)
	require.NoError(t, err)
	// Each plate by itself: a variant that brings the two together is named.
	d.Components[1].Steps[1].Beside = []kitchen.OtherStep{{Component: "x", Step: "turn"}}
	d.Components[0].Steps[2].Beside = []kitchen.OtherStep{{Component: "y", Step: "fry"}}
	e := d.Dishes[0].Specification.Elements[1]
	d.Dishes[0].Specification.Elements[1].Component = "x"
	_, err = kitchen.NewBook(d)
	require.NoError(t, err)
	d.Dishes[0].Specification.Variants = []kitchen.Variant{{Name: "with y",
		Changes: []kitchen.Change{{Element: 2, Kind: "replace", With: &e}}}}
	_, err = kitchen.NewBook(d)
	require.ErrorContains(t, err, "dishes[0].specification.variants[0]: on Dish the steps wait for each other in a circle")
}

// What goes into something is done before it: who waits for its own user waits in a circle.
func TestWhatGoesInWaitsForNobodyItGoesInto(t *testing.T) {
	d := twoOnAPlate()
	d.Components[1].Steps = d.Components[1].Steps[1:] // made to order from nothing
	d.Components[1].Steps[0].After = nil
	d.Components[0].Uses = []kitchen.Use{{Component: "y", Amount: 1}}
	_, err := kitchen.NewBook(d)
	require.NoError(t, err)
	d.Components[1].Steps[0].Beside = []kitchen.OtherStep{{Component: "x", Step: "turn"}}
	_, err = kitchen.NewBook(d)
	require.ErrorContains(t, err, "in a circle")
	// Where the user says itself after which of its steps it comes, that alone counts.
	d.Components[1].Steps[0].Beside[0].Step = "fry"
	d.Components[0].Steps[2].Beside = []kitchen.OtherStep{{Component: "y", Step: "turn"}}
	_, err = kitchen.NewBook(d)
	require.NoError(t, err)
}

// A kitchen's part that plans depend on has what steps wait for, so that it is a book by itself.
func TestNeededHasWhatIsWaitedFor(t *testing.T) {
	d := twoOnAPlate()
	d.Components[0].Steps[1].Beside = []kitchen.OtherStep{{Component: "y", Step: "turn"}}
	d.Dishes[0].Specification.Elements = d.Dishes[0].Specification.Elements[:1]
	b, err := kitchen.NewBook(d)
	require.NoError(t, err)
	part := b.Needed([]kitchen.Service{{ID: "s", Menu: []kitchen.MenuLine{{Dish: "dish", Share: 100}}}})
	require.Len(t, part.Components, 2)
	require.True(t, d.Components[1].ID == part.Components[1].ID)
}
