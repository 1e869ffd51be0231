package planner

import (
	"context"
	"fmt"
	"sync"
	"time"

	"jointime/core/expand"
	"jointime/core/kitchen"
	"jointime/core/schedule"
)

// mealEffort is for one meal, and for each delay by which its slack is tried. Rounds are counted, so that the same meal has the
// same plan everywhere.
var (
	mealEffort  = effort{rounds: 6_000, atMost: 6 * time.Second}
	slackEffort = effort{rounds: 800, atMost: 2 * time.Second}
)

// meals keeps the plans of meals by what they were made from.
type meals struct {
	mu    sync.Mutex
	plans map[string]keptMeal // by the meal's id
}

type keptMeal struct {
	hash string
	plan *expand.MealPlan
}

// Meal is the plan of a meal as it is now: one problem from zero, with the slack at each deadline. Errors: ErrNoKitchen,
// ErrNoService when there is no such meal, kitchen.Faults, the context's, ErrClosed.
func (p *Planner) Meal(ctx context.Context, id string) (*expand.MealPlan, error) {
	k, err := p.store.Kitchen(ctx)
	if err != nil {
		return nil, err
	}
	if k.Book == nil {
		return nil, ErrNoKitchen
	}
	m, ok := k.Book.Meal(id)
	if !ok {
		return nil, ErrNoService
	}
	zero, err := k.Book.FromZero(m)
	if err != nil {
		return nil, err
	}
	d := zero.Data()
	d.Meals = []kitchen.Meal{*m}
	in, err := hashed(zero, d)
	if err != nil {
		return nil, err
	}
	p.meals.mu.Lock()
	known := p.meals.plans[id]
	p.meals.mu.Unlock()
	if known.hash == in.hash {
		return known.plan, nil
	}
	return once(ctx, p, fmt.Sprintf("meal %s %s", id, in.hash), func() (*expand.MealPlan, error) {
		plan, err := p.planMeal(k.Book, m)
		if err != nil {
			return nil, err
		}
		p.meals.mu.Lock()
		defer p.meals.mu.Unlock()
		if p.meals.plans == nil {
			p.meals.plans = map[string]keptMeal{}
		}
		p.meals.plans[id] = keptMeal{in.hash, plan}
		return plan, nil
	})
}

func (p *Planner) planMeal(b *kitchen.Book, m *kitchen.Meal) (*expand.MealPlan, error) {
	solve := func(delay int64, by effort) (*expand.MealPlan, error) {
		e, err := expand.NewMeal(b, m, delay)
		if err != nil {
			return nil, err
		}
		search, cancel := context.WithTimeout(p.life, by.atMost*p.patience)
		defer cancel()
		s := schedule.Solve(search, e.Workload, schedule.Options{Seed: 1, Anyway: true, Rounds: by.rounds})
		if p.life.Err() != nil {
			return nil, ErrClosed
		}
		return e.Read(s), nil
	}
	plan, err := solve(0, mealEffort)
	if err != nil {
		return nil, err
	}
	still := plan.InTime()
	for i := range plan.Courses {
		plan.Courses[i].SlackS = 0
	}
	for _, delay := range expand.Delays {
		any := false
		for _, yes := range still {
			any = any || yes
		}
		if !any {
			break
		}
		later, err := solve(delay, slackEffort)
		if err != nil {
			return nil, err
		}
		for i, yes := range later.InTime() {
			if still[i] = still[i] && yes; still[i] {
				plan.Courses[i].SlackS = delay
			}
		}
	}
	return plan, nil
}
