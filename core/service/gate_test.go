package service_test

import (
	"slices"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"jointime/core/expand"
	"jointime/core/kitchen"
	"jointime/core/message"
	"jointime/core/safety"
	"jointime/core/service"
	"jointime/demo"
)

// What is not made, not tasted, not measured and not known, each on both sides of it; what another service needs does not count.
func TestTheGateBeforeAService(t *testing.T) {
	d, err := demo.Kitchen()
	require.NoError(t, err)
	d.Services = demo.Services(time.Date(2026, 5, 14, 0, 0, 0, 0, time.UTC))
	b, err := kitchen.NewBook(d)
	require.NoError(t, err)
	s, _ := b.Service(demo.Tonight)
	taste := []kitchen.DoneCheck{{Kind: "taste", Say: "sharp"}}
	job := func(name, state string, checks []kitchen.DoneCheck, of ...string) expand.Job {
		return expand.Job{Name: name, Section: "larder", State: state, For: of, ReadyAt: six,
			Steps: []expand.JobStep{{Task: name + "-mix", Checks: taste}, {Task: name, Last: true, Checks: checks}}}
	}
	kinds := func(jobs []expand.Job, tasted map[string]bool, missing ...safety.Due) map[string]service.Lacking {
		out := map[string]service.Lacking{}
		for _, u := range service.Gate(b, s, jobs, tasted, missing) {
			require.NotEmpty(t, u.Said.Text)
			if u.Kind != service.NotKnown {
				out[u.What] = u.Kind
			}
		}
		return out
	}
	jobs := []expand.Job{job("dressing", "to-do", taste, s.Name), job("other", "to-do", taste, "Tomorrow"),
		job("purée", "done", taste, s.Name), job("stock", "done", nil, s.Name), job("begun", "begun", nil, s.Name)}
	require.Equal(t, map[string]service.Lacking{"dressing": service.NotMade, "purée": service.NotTasted, "begun": service.NotMade},
		kinds(jobs, nil))
	require.NotContains(t, kinds(jobs, map[string]bool{"purée": true}), "purée")
	require.Contains(t, kinds(jobs, map[string]bool{"purée-mix": true}), "purée", "another step was tasted")
	due := safety.Due{What: "Holding", Said: message.Of("live.not-tasted", "what", "Holding")}
	require.NotContains(t, kinds(nil, nil, due), "Holding", "there is still time")
	due.Late = true
	require.Equal(t, service.NotMeasured, kinds(nil, nil, due)["Holding"])

	// A recipe that was changed since it was read is not known any more.
	known := len(service.Gate(b, s, nil, nil, nil))
	dish, _ := b.Dish(s.Menu[0].Dish)
	c, _ := b.Component(dish.Specification.Elements[0].Component)
	changed := c.Clone()
	changed.Ingredients = append(changed.Ingredients, kitchen.Ingredient{Name: "Something new", Amount: 1, Unit: "g"})
	for i := range d.Components {
		if d.Components[i].ID == c.ID {
			d.Components[i] = changed
		}
	}
	b, err = kitchen.NewBook(d)
	require.NoError(t, err)
	list := service.Gate(b, s, nil, nil, nil)
	require.Len(t, list, known+1)
	require.True(t, slices.ContainsFunc(list, func(u service.Unready) bool {
		return u.Kind == service.NotKnown && u.What == changed.Name && u.Section == changed.Section
	}))
}
