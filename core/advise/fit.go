package advise

import (
	"strings"

	"jointime/core/expand"
	"jointime/core/kitchen"
	"jointime/core/message"
)

// Several mends together, where one is not enough.

// How far mends are put together: so many at the most, each chosen among so many.
const (
	mostTogether = 4
	mostToAdd    = 4
)

// Fit puts mends together until everything fits, the one that leaves least trouble first, and tells the service that they
// make with its plan; ok is false when they do not make everything fit, or one alone does. helpful are the mends that help by
// themselves, the best first; solve plans a service again, and gives nil for one that cannot be.
func Fit(s *kitchen.Service, was *expand.EveningPlan, helpful []Candidate,
	solve func([]kitchen.Service) []*expand.EveningPlan) (c Candidate, ok bool) {
	var chosen []int
	base := copied(s)
	best := was
	for len(chosen) < mostTogether {
		var services []kitchen.Service
		var which []int
		for i := range helpful {
			if helpful[i].Mend.Guests || contains(chosen, i) || len(services) == mostToAdd {
				continue
			}
			if len(chosen) == 0 && i > 0 {
				break // the best of them comes first
			}
			with := copied(&base)
			helpful[i].Change(&with)
			services, which = append(services, with), append(which, i)
		}
		found := -1
		for k, plan := range solve(services) {
			if plan != nil && plan.Cost < best.Cost {
				found, best = k, plan
			}
		}
		if found < 0 {
			return c, false
		}
		chosen, base = append(chosen, which[found]), services[found]
		if len(best.Trouble) > 0 {
			continue
		}
		if len(chosen) == 1 {
			return c, false
		}
		c = Candidate{Service: base, Mend: Mend{What: message.Of("mend.fit", "number", len(chosen))}}
		var ids []string
		var costs []message.Message
		for _, i := range chosen {
			m := &helpful[i].Mend
			ids = append(ids, m.ID)
			c.Mend.Parts, costs = append(c.Mend.Parts, m.What), append(costs, m.Costs)
			c.Mend.PriceS += m.PriceS
		}
		c.Mend.ID, c.Mend.Costs = "fit:"+strings.Join(ids, "+"), together(costs)
		return c, c.Worth(was, best)
	}
	return c, false
}

// together says what several changes cost, one after another; what two of them cost alike once.
func together(costs []message.Message) (all message.Message) {
	seen := map[string]bool{}
	for _, c := range costs {
		switch {
		case seen[c.Text]:
		case len(seen) == 0:
			all = c
		default:
			all = message.Of("mend.fit-costs", "costs", all, "more", c)
		}
		seen[c.Text] = true
	}
	return all
}

func contains(list []int, i int) bool {
	for _, x := range list {
		if x == i {
			return true
		}
	}
	return false
}
