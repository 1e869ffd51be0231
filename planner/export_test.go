package planner

import (
	"context"
	"testing"
	"time"

	"jointime/core/schedule"
	"jointime/core/service"
	"jointime/core/workload"
)

// The tests search a tenth as long as the application: what they ask is what becomes of
// plans, not how good these are.
func init() {
	for _, e := range []*effort{&firstEffort, &betterEffort, &anewEffort, &prepEffort, &againEffort, &improveEffort} {
		e.rounds /= 10
	}
	mendEffort.rounds /= 3 // what mends are worth together is asked too
}

// FirstRounds is how long a first answer is searched.
func FirstRounds() int { return firstEffort.rounds }

// Worth is worth, and Moved what moving from one plan to the other costs.
func Worth(plan, found *Plan, held bool, hundredths int64) bool {
	return worth(plan, found, held, hundredths)
}

// Prices are what moving costs in the searches behind a plan of a kind, and what each has to save, in hundredths.
func Prices(p *Planner, kind Kind) (moving, saves []int64) {
	for _, l := range p.looks(kind) {
		moving, saves = append(moving, l.price), append(saves, l.saves)
	}
	return moving, saves
}

// HowFar is what is shown of how far the searches behind a plan are, with so many of them over, and so many rounds of the next.
func HowFar(p *Planner, plan *Plan, over int, rounds int64) float64 {
	return p.howFar(&entry{looking: p.looks(plan.Kind)[over:], looked: schedule.Progress{Rounds: rounds}}, plan)
}

// Moved is what going from one plan to another costs.
func Moved(from, to *Plan) int64 { return moved(from, to) }

// Compute runs f as the planner runs every computation: once for all who ask for a key.
func Compute(ctx context.Context, p *Planner, key string, f func() (int, error)) (int, error) {
	return once(ctx, p, key, f)
}

// Aim is when what repairs put off was to begin, by task.
func Aim(p *Plan) map[string]int64 { return p.aim }

// PutOff is putOff, where something was ordered.
func PutOff(p *Plan, told, s *workload.Schedule, sooner int64) map[string]int64 {
	return p.putOff(told, s, sooner, false)
}

// TriedAt is what the rest of a service cost when it was last made without regard for what was told, and at the least since.
func TriedAt(p *Planner, id string) int64 { return p.entry(id).tried }

// Pinned are the tasks that are left where they are within a while, where a plan is made at an instant without regard for what was told.
func Pinned(t testing.TB, p *Plan, state *service.State, now time.Time, within time.Duration) map[string]bool {
	free, err := stillTo(p, state, now, -time.Hour, inMind)
	if err != nil {
		t.Fatal(err)
	}
	w, err := stillTo(p, state, now, within, inMind)
	if err != nil {
		t.Fatal(err)
	}
	out := map[string]bool{}
	for i := range w.Tasks {
		if w.Tasks[i].Earliest != free.Tasks[i].Earliest {
			out[w.Tasks[i].ID] = true
		}
	}
	return out
}

// SavesEnough is savesEnough; Dearer and Known are what the entry of a service says and is told.
func SavesEnough(cost, found int64, joins int) bool { return savesEnough(cost, found, joins) }
func Dearer(p *Planner, id string, cost int64, open int, now time.Time, out ...service.Absence) bool {
	return p.entry(id).dearer(cost, open, out, now)
}
func Known(p *Planner, id string, cost int64, told bool, now time.Time, out ...service.Absence) {
	p.entry(id).known(cost, told, out, now)
}
